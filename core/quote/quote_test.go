package quote

import (
	"fmt"
	"math"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/plan"
	"arvelt/core/words"
)

func figure(v float64) *float64 { return &v }

// house has two circuits on one board, one of them through two rooms, and a point of the walk that is on neither.
func house() Model {
	job := &install.Job{Ref: "T-1", Words: words.In(words.British), Kind: install.Addition}
	job.Rooms = []install.Room{{ID: "loft", Name: "Loft"}, {ID: "landing", Name: "Landing"}, {ID: "porch", Name: "Porch"}}
	job.Circuits = []install.Circuit{{ID: "c1", Name: "Lights"}, {ID: "c2", Name: "Heater"}}
	job.Circuits[0].Serves.Boxes = []install.Box{{ID: "b1", Room: "loft", Device: install.Luminaire}, {ID: "b2", Room: "landing", Device: install.Luminaire},
		{ID: "b3", Room: "loft", Device: install.Luminaire}, {ID: "j", Room: "landing", Device: install.NoDevice}}
	ask := func(by materials.Asker, need float64) materials.Ask { return materials.Ask{By: by, Need: need} }
	take := &materials.TakeOff{Lines: []materials.Line{
		{Key: "cable", Name: "Cable", Order: 50, Price: figure(40), Asks: []materials.Ask{ask(materials.Asker{Circuit: "c1"}, 20),
			ask(materials.Asker{Circuit: "c2"}, 10)}},
		{Key: "blank", Name: "Blank", Order: 3, Price: figure(9), Asks: []materials.Ask{ask(materials.Asker{Board: "board"}, 3)}},
		{Key: "board:8", Name: "Board", Order: 1, Price: figure(60), Asks: []materials.Ask{ask(materials.Asker{Board: "board"}, 1)}},
		{Key: "point", Name: "Bell push", Order: 1, Price: figure(11), Asks: []materials.Ask{ask(materials.Asker{Room: "porch"}, 1)}},
		{Key: "work:label", Name: "Trace and label", Group: materials.WorkGroup, Order: 1, Price: figure(85),
			Asks: []materials.Ask{{For: "Not labelled", Steps: []string{"mend-1"}, Need: 1}}},
		{Key: "lamp", Name: "Lamp", Asks: []materials.Ask{{By: materials.Asker{Room: "loft"}, Need: 2, Brought: &materials.Coming{By: install.ByClient}}}},
	}}
	tasks := []plan.Task{{ID: "c1-cable", Circuit: "c1", Crew: 2, Hours: 1.5, Stage: install.FirstFix},
		{ID: "c1-board", Circuit: "c1", Crew: 1, Hours: 1, Stage: install.SecondFix, Step: plan.StepCircuit},
		{ID: "mend-1", Finding: "Not labelled", Crew: 1, Hours: 3, Stage: install.SecondFix},
		{ID: "dig", Others: "digger", Crew: 2, Hours: 8, Stage: install.FirstFix},
		{ID: "owner", Crew: 1, Hours: 0.5, Stage: install.Handover}}
	prices := map[string]materials.Item{HourKey: {Key: HourKey, Price: 40}, "hours:test": {Hours: 0.5}, "work:label": {Price: 85, High: 190}}
	return Model{Job: job, Take: take, Tasks: tasks, Prices: prices}
}

func rowOf(t *testing.T, rows []Row, kind RowKind, id string) Row {
	t.Helper()
	for _, r := range rows {
		if r.Kind == kind && r.ID == id {
			return r
		}
	}
	require.Failf(t, "no row", "%s %s", kind, id)
	return Row{}
}

func TestAPriceIsBuiltUp(t *testing.T) {
	m := house()
	m.Rule = install.QuoteRule{MarkupPc: 10, ContingencyPc: 5, TaxPc: 20}
	m.Charges = []Charge{{Title: "The operator pulls the fuse", Cost: figure(95)}}
	m.Job.Quote.Extras = []install.Extra{{Kind: install.Plant, What: "Tower", Cost: figure(70)}}
	p := Of(m)
	assert.Empty(t, p.Lacks)
	c1 := rowOf(t, p.Items, CircuitRow, "c1")
	assert.Equal(t, 29.33, c1.Parts, "two thirds of the cable, 44.00 with its mark-up")
	assert.Equal(t, 120.0, c1.Labour, "two people for an hour and a half")
	assert.Equal(t, 40+37.95, c1.Board, "its device, and half of what the board takes: 75.90")
	assert.Equal(t, 20+10.0, c1.Tests, "its own, and half of showing the owner")
	c2 := rowOf(t, p.Items, CircuitRow, "c2")
	assert.Equal(t, []float64{14.67, 0, 37.95, 30}, []float64{c2.Parts, c2.Labour, c2.Board, c2.Tests})
	assert.Equal(t, 12.1, rowOf(t, p.Items, RoomRow, "porch").Parts)
	mend := rowOf(t, p.Items, FindingRow, "mend-1")
	assert.Equal(t, []float64{85, 190, 0}, []float64{mend.Sum, mend.High, mend.Labour}, "priced whole: neither marked up, nor its hours a second time")
	assert.Equal(t, 95.0, rowOf(t, p.Items, SupplyRow, "").Others)
	assert.Equal(t, 70.0, rowOf(t, p.Items, ExtraRow, "extra-1").Others)
	net := 29.33 + 120 + 77.95 + 30 + 14.67 + 37.95 + 30 + 12.1 + 85 + 95 + 70
	assert.InDelta(t, net, p.Sum.Net, 1e-9)
	assert.InDelta(t, math.Round(5*(net-165))/100, p.Sum.Contingency, 1e-9, "not on what others charge")
	assert.InDelta(t, net+p.Sum.Contingency+p.Sum.Tax, p.Sum.Total, 1e-9)
	assert.InDelta(t, (net+p.Sum.Contingency)*0.2, p.Sum.Tax, 0.005)
	assert.InDelta(t, p.Sum.Total+105*1.05*1.2, p.Sum.High, 0.011)

	loft, landing := rowOf(t, p.Rooms, RoomRow, "loft"), rowOf(t, p.Rooms, RoomRow, "landing")
	assert.InDelta(t, 2*landing.Labour, loft.Labour, 1e-9, "two of its three points are in the loft; where it is only joined counts for none")
	assert.Equal(t, c2.Sum, rowOf(t, p.Rooms, HouseRow, "").Sum, "it has no point in a room")
	assert.Contains(t, p.Rest, install.Rest{What: "Lamp: the part itself; fitting it is in the price", Who: install.RestClient})
}

func TestATaxIsReckonedAsTheCompanyHasTo(t *testing.T) {
	m := house()
	parts := 40 + 9 + 60 + 11 + 85.0
	for on, base := range map[install.TaxOn]float64{install.TaxOnParts: parts, install.TaxOnNone: 0} {
		m.Rule = install.QuoteRule{TaxPc: 8, TaxOn: on}
		p := Of(m)
		assert.InDelta(t, base*0.08, p.Sum.Tax, 0.005, string(on))
		with := m
		with.Take = &materials.TakeOff{Lines: append([]materials.Line{}, m.Take.Lines...)}
		with.Take.Lines = append(with.Take.Lines, materials.Line{Key: "more", Name: "More", Order: 1, Price: figure(50), Asks: []materials.Ask{{Need: 1}}})
		assert.InDelta(t, Of(with).Sum.Total-p.Sum.Total, p.Gross(50), 0.011, "an option adds what it would as a part of the job")
	}
	m.Job.Quote.TaxPc = figure(0)
	m.Rule = install.QuoteRule{TaxPc: 20}
	assert.Zero(t, Of(m).Sum.Tax, "the job has its own")
}

func TestWhatIsNotKnownLeavesThePriceOpen(t *testing.T) {
	for name, spoil := range map[string]func(*Model){
		"a part without a price": func(m *Model) { m.Take.Lines[0].Price = nil },
		"a gap of the list":      func(m *Model) { m.Take.Gaps = []materials.Gap{{What: "a length"}} },
		"no hourly charge":       func(m *Model) { delete(m.Prices, HourKey) },
		"the operator's charge":  func(m *Model) { m.Charges = []Charge{{Title: "x"}} },
		"an extra":               func(m *Model) { m.Job.Quote.Extras = []install.Extra{{What: "Skip"}} },
	} {
		m := house()
		require.Empty(t, Of(m).Lacks)
		spoil(&m)
		assert.Len(t, Of(m).Lacks, 1, name)
	}
}

// The day on which a service is changed is work on the supply; on any other job it is shared by what hangs on the board.
func TestTheDayOfAServiceIsOfTheSupply(t *testing.T) {
	m := house()
	m.Tasks = append(m.Tasks, plan.Task{ID: "fit", Day: true, Crew: 2, Hours: 1, Stage: install.SecondFix})
	board := rowOf(t, Of(m).Items, CircuitRow, "c2").Board
	m.Job.Kind = install.SupplyUpgrade
	p := Of(m)
	assert.Equal(t, 80.0, rowOf(t, p.Items, SupplyRow, "").Labour)
	assert.Equal(t, board-40, rowOf(t, p.Items, CircuitRow, "c2").Board)
}

// Whatever is asked for, worked on or charged is in exactly one row, by piece and by room alike.
func TestNothingIsLostOrCountedTwice(t *testing.T) {
	rnd := rand.New(rand.NewSource(11))
	for range 300 {
		m := house()
		m.Rule = install.QuoteRule{MarkupPc: float64(rnd.Intn(40)), ContingencyPc: float64(rnd.Intn(10)), TaxPc: 20}
		m.Take, m.Tasks = &materials.TakeOff{}, nil
		askers := []materials.Asker{{}, {Circuit: "c1"}, {Circuit: "c2"}, {Circuit: "gone"}, {Room: "loft"}, {Room: "gone"}, {Board: "b"},
			{Enclosure: "e"}, {Run: "r"}}
		want, bought := cents(0), cents(0)
		for i := range 1 + rnd.Intn(20) {
			price := float64(rnd.Intn(20000)) / 100
			l := materials.Line{Key: fmt.Sprint("p", i), Name: "P", Order: 1, Price: &price}
			for range 1 + rnd.Intn(5) {
				l.Asks = append(l.Asks, materials.Ask{By: askers[rnd.Intn(len(askers))], Need: rnd.Float64() + 0.01})
			}
			m.Take.Lines = append(m.Take.Lines, l)
			bought += centsOf(price * (1 + m.Rule.MarkupPc/100))
		}
		want += bought
		for i := range rnd.Intn(20) {
			task := plan.Task{ID: fmt.Sprint("t", i), Crew: 1 + rnd.Intn(3), Hours: float64(rnd.Intn(16)) / 4, Stage: install.Stages[3+rnd.Intn(4)],
				Circuit: []string{"", "c1", "c2", "gone"}[rnd.Intn(4)], Day: rnd.Intn(2) == 0}
			m.Tasks = append(m.Tasks, task)
			want += centsOf(task.Hours * float64(task.Crew) * 40)
		}
		want += 2 * centsOf(0.5*40) // the tests of both circuits
		p := Of(m)
		for name, rows := range map[string][]Row{"by piece": p.Items, "by room": p.Rooms} {
			sum := cents(0)
			for _, r := range rows {
				sum += centsOf(r.Sum)
				assert.InDelta(t, r.Sum, r.Parts+r.Labour+r.Board+r.Tests+r.Others, 1e-6)
			}
			require.Equal(t, want.float(), sum.float(), name)
		}
		require.Equal(t, want.float(), p.Sum.Net)
		dearer := m
		dearer.Rule.MarkupPc++
		assert.GreaterOrEqual(t, Of(dearer).Sum.Total, p.Sum.Total)
	}
}

func FuzzSplit(f *testing.F) {
	f.Add(int64(1000), 1.0, 2.0, 3.0)
	f.Add(int64(-7), 0.0, 1.0, 1.0)
	f.Add(int64(1), 1e-9, 5.0, 1e9)
	f.Fuzz(func(t *testing.T, amount int64, a, b, c float64) {
		for _, w := range []float64{a, b, c} {
			if !(w >= 0 && w < 1e12) {
				t.Skip()
			}
		}
		if amount > 1e12 || amount < -1e12 || a+b+c == 0 {
			t.Skip()
		}
		parts, sum := split(cents(amount), []float64{a, b, c}), cents(0)
		for _, p := range parts {
			sum += p
		}
		require.Equal(t, cents(amount), sum)
		for i, w := range []float64{a, b, c} {
			assert.InDelta(t, float64(amount)*w/(a+b+c), float64(parts[i]), 1.001)
		}
	})
}
