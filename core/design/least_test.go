package design

import (
	"fmt"
	"math"
	"math/bits"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/rulebook/split120"
	"arvelt/core/survey"
	"arvelt/core/words"
)

// costOf is what a circuit costs, in the currency of the test: its device with its way and its connection, and its cable by length and size.
func costOf(k *install.Circuit) float64 {
	return 60 + k.Route.LengthM()*(0.5+0.3*k.Route.LineMM2)
}

// smallHouse is a job of at most seven points in rooms whose ways differ.
func smallHouse(t *testing.T, practice rulebook.Book, seed uint64) *install.Job {
	t.Helper()
	pick := rand.New(rand.NewPCG(seed, 17))
	fact := func(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }
	terms := practice.Terms()
	j := &install.Job{Format: install.Format, Ref: "D-1", Title: "House", Kind: install.Rewire, Practice: practice.ID(),
		Rules: install.Rules{Edition: terms.Editions[0]}, Words: words.In(terms.Locale),
		Schools: install.Schools{Options: map[install.OptionID]install.OptionValue{}},
		Supply: install.Supply{DeclaredV: practice.Opening().DeclaredV, Earthing: install.Earthing(practice.Opening().Earthing), ZeOhm: fact(0.2),
			PFCkA: fact(1.2), MainFuseA: fact(100)},
		Board: install.Board{Name: "A", MainSwitchA: fact(100)}}
	for n := range 40 {
		j.Board.Ways = append(j.Board.Ways, install.Way{No: n + 1})
	}
	socket := "double socket"
	if terms.Locale != "en-GB" {
		socket = "duplex"
	}
	left, lines := 7, []string{}
	for _, room := range []string{"hall g", "parlour g", "study g", "bedroom up", "loft up"}[:2+pick.IntN(4)] {
		points := []string{}
		for _, kind := range []string{socket, "light"} {
			if n := min(left, pick.IntN(4)); n > 0 {
				points, left = append(points, fmt.Sprintf("%d %s", n, kind)), left-n
			}
		}
		lines = append(lines, room+": "+strings.Join(points, ", "))
	}
	n := 0
	rooms, err := survey.Apply(j.Words, nil, survey.Read(strings.Join(lines, "\n"), practice.Survey(), ""), "",
		func() string { n++; return fmt.Sprintf("x%d", n) })
	require.NoError(t, err)
	for i := range rooms {
		rooms[i].Legs = []install.Leg{{LengthM: 1 + 9*pick.Float64()}}
		if i > 0 && pick.IntN(3) > 0 {
			rooms[i].From = rooms[pick.IntN(i)].ID
		}
	}
	j.Rooms = rooms
	j.Tidy()
	return j
}

// leastOf is what the points of a cluster cost at the least: every way to part them over circuits, each in every order of its points and by the
// first template of its row that passes, as the strategy has it (a ring before a radial of larger cable).
func leastOf(job *install.Job, book rulebook.Book, c *cluster) float64 {
	size := len(c.pieces)
	block := make([]float64, 1<<size)
	for set := 1; set < len(block); set++ {
		block[set] = math.Inf(1)
		if most := int(c.row.Most); most > 0 && bits.OnesCount(uint(set)) > most {
			continue
		}
		pieces := []piece{}
		for i := range size {
			if set&(1<<i) != 0 {
				pieces = append(pieces, c.pieces[i])
			}
		}
		templates := strings.Split(c.row.Templates, "|")
		if c.row.Few != "" && size <= int(c.row.UpTo) {
			templates = []string{c.row.Few}
		}
		for _, template := range templates {
			own := *job
			own.Circuits = slices.Clone(job.Circuits)
			d := &designer{job: &own, book: book, plan: book.PlanOf(job), ways: waysOf(job)}
			terms := book.Terms()
			k := book.Defaults(template)
			ring := terms.IsRing(&k)
			var best []piece
			least := math.Inf(1)
			each(slices.Clone(pieces), func(order []piece) {
				m := d.ways.legM(nil, &order[0])
				for i := 1; i < len(order); i++ {
					m += d.ways.legM(&order[i-1], &order[i])
				}
				if ring {
					m += d.ways.legM(&order[len(order)-1], nil)
				}
				if m < least {
					least, best = m, slices.Clone(order)
				}
			})
			d.circuit(c, template, best)
			d.place()
			d.remedy()
			if id := d.made[0].id; len(d.out.Left) == 0 && d.fails(id) == 0 {
				block[set] = costOf(own.CircuitByID(id))
				break // the strategy prefers it to those behind it
			}
		}
	}
	count := max(1, min(int(c.row.Least), size)) // a row may ask for several
	least := make([][]float64, 1<<size)
	for set := range least {
		least[set] = make([]float64, size+1)
		for n := range least[set] {
			least[set][n] = math.Inf(1)
		}
	}
	least[0][0] = 0
	for set := 1; set < len(least); set++ {
		low := set & -set
		for sub := set; sub > 0; sub = (sub - 1) & set {
			if sub&low == 0 {
				continue
			}
			for n := 1; n <= size; n++ {
				least[set][n] = min(least[set][n], least[set^sub][n-1]+block[sub])
			}
		}
	}
	return slices.Min(least[len(least)-1][count:])
}

// Up to seven points a proposal costs within 5 % of the best of all that there are, by the same strategy, in both practices.
func TestNoDesignCostsLess(t *testing.T) {
	for _, practice := range []rulebook.Practice{iec230.Practice{}, split120.Practice{}} {
		book := rulebook.Book{Practice: practice}
		compared := 0
		for seed := range uint64(100) {
			job := smallHouse(t, book, seed)
			p, all := Propose(job, book)
			if len(p.Left) > 0 || len(all.Circuits) == 0 {
				continue
			}
			compared++
			cost := 0.0
			for i := range all.Circuits {
				cost += costOf(&all.Circuits[i])
			}
			d := &designer{job: job, book: book, plan: book.PlanOf(job), ways: waysOf(job)}
			best := 0.0
			for _, c := range d.gather() {
				best += leastOf(job, book, c)
			}
			assert.LessOrEqual(t, cost, 1.05*best+1e-9, "%s %d: %d circuits", practice.ID(), seed, len(all.Circuits))
			assert.GreaterOrEqual(t, cost, best-1e-6, "%s %d: nothing costs less than the best of all", practice.ID(), seed)
		}
		assert.Greater(t, compared, 60, practice.ID())
	}
}
