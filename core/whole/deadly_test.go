package whole

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/proving"
)

var (
	sequences = flag.Int("sequences", 2000, "random sequences of acts")
	firstSeed = flag.Int("first", 0, "seed of the first, for a long run in pieces")
)

// The house of the test: a charge point that is put in (c1) and a solar circuit that is there and gets a part replaced (c2). The oracle knows
// it by hand: each way by which voltage comes to a place, as the devices in it of which one must be open.
var waysTo = map[string][][]string{
	"circuit:c1": {{"main", "circuit:c1"}, {"own:c2", "circuit:c2", "circuit:c1"}},
	"circuit:c2": {{"main", "circuit:c2"}, {"own:c2"}},
	"board:":     {{"main"}, {"own:c2"}, {"own:c2", "circuit:c2"}, {"main", "circuit:c2"}, {"main", "circuit:c1"}, {"own:c2", "circuit:c2", "circuit:c1"}},
}

// trial is a house of one practice: its pairs, the steps that are done dead and where, and the dead tests of the circuit that is put in.
type trial struct {
	job    func() *install.Job
	pairs  []string
	doneAt map[string]string
	reads  []string // those of c1 that must be newer than its work
	rows   []proving.Row
}

// works are the steps after which the dead tests of a circuit are done again.
func (h *trial) works(circuit string) []string {
	out := []string{}
	for task := range h.doneAt {
		if strings.HasPrefix(task, circuit+"-") {
			out = append(out, task)
		}
	}
	return out
}

// steps are those of the trial in the order of the work.
func (h *trial) steps() []string {
	all := []string{"c1-point", "c1-pen", "c1-board", "c1-torque", "c1-label", "c2-replace"}
	return slices.DeleteFunc(all, func(task string) bool { return h.doneAt[task] == "" && task != "c1-label" })
}

// trials are the houses of both practices.
var trials = []*trial{
	{job: solar, pairs: []string{"L-N", "L-PE", "N-PE"},
		doneAt: map[string]string{"c1-point": "circuit:c1", "c1-pen": "circuit:c1", "c1-board": "board:", "c1-torque": "board:", "c2-replace": "circuit:c2"},
		reads:  []string{"r1r2", "insulation-ln", "insulation-le", "insulation-ne", "polarity-dead"}, rows: deadTests},
	{job: solar120, pairs: []string{"L1-L2", "L1-N", "L2-N", "L1-G", "L2-G", "N-G"},
		doneAt: map[string]string{"c1-point": "circuit:c1", "c1-board": "board:", "c1-torque": "board:", "c2-replace": "circuit:c2"},
		reads:  []string{"hh", "hn", "ng", "hg", "ground-continuity"}, rows: deadRows(solar120())},
}

// deadRows are the tests of a house that are read dead, without those at the origin.
func deadRows(j *install.Job) []proving.Row {
	return slices.DeleteFunc(Of(j, nil, vik, day).Tests.Rows, func(r proving.Row) bool { return r.Live || r.ID == "ze" || r.ID == "earth-back" })
}

// oracle replays what was accepted, and knows nothing of how it was decided.
type oracle struct {
	h       *trial
	records []install.Record
}

// gone says what of the isolations is no more at the end of the records: locks taken off, isolations withdrawn.
func (o *oracle) named(kind install.RecordKind, id string) bool {
	return slices.ContainsFunc(o.records, func(r install.Record) bool { return r.Kind == kind && r.Subject == id })
}

// mayWork reports whether a place may be worked at by a person now: by the locks that they hung today and did not take off, every way to it is
// open, and every pair was read there with a proved tester, none of what they read being live.
func (o *oracle) mayWork(who, place string, now time.Time) bool {
	open, read := map[string]bool{}, false
	for i, r := range o.records {
		if r.Kind != install.Isolation || r.By != who && !o.under(who, r.ID, now) || !r.Authorised || o.named(install.LockOff, r.ID) || o.named(install.Withdrawal, r.ID) ||
			r.At.Format(time.DateOnly) != now.Format(time.DateOnly) {
			continue
		}
		if slices.ContainsFunc(o.records[i:], func(e install.Record) bool { return closesAny(e, r.Opens) }) {
			continue
		}
		live, here := false, false
		for n, p := range o.records {
			if p.ID != r.ID && (p.Kind != install.ProvedDead || p.Subject != r.ID) {
				continue
			}
			proved := p.ProvedBefore && p.TesterKind == install.ContactTester && o.closed(n)
			for _, at := range p.Proofs {
				pairs := map[string]bool{}
				for _, x := range at.Read {
					live = live || *x.V > 5
					pairs[x.Pair] = true
				}
				here = here || proved && at.At == place && len(pairs) == len(o.h.pairs)
			}
		}
		if live {
			continue
		}
		for _, d := range r.Opens {
			open[d.Device] = true
		}
		read = read || here
	}
	for _, way := range waysTo[place] {
		if !slices.ContainsFunc(way, func(d string) bool { return open[d] }) {
			return false
		}
	}
	return read
}

// under reports whether a person hung a lock of their own under an isolation today, and did not take it off.
func (o *oracle) under(who, isolation string, now time.Time) bool {
	return slices.ContainsFunc(o.records, func(r install.Record) bool {
		return r.Kind == install.Lock && r.By == who && r.Subject == isolation && !o.named(install.LockOff, r.ID) && r.At.Format(time.DateOnly) == now.Format(time.DateOnly)
	})
}

// closed reports whether the tester was proved after the readings of a record.
func (o *oracle) closed(n int) bool {
	r := o.records[n]
	if r.ProvedAfter {
		return true
	}
	for _, p := range o.records[n+1:] {
		if p.Kind == install.TesterProof && p.Tester == r.Tester && p.By == r.By {
			return *p.Passed
		}
	}
	return false
}

// closesAny reports whether an act closes one of some devices, or may.
func closesAny(e install.Record, opens []install.Opened) bool {
	return slices.ContainsFunc(opens, func(o install.Opened) bool {
		stray := e.Kind == install.SwitchedOn || e.Kind == install.Guarded
		return e.Kind == install.Energise && slices.Contains(e.Closes, o.Device) || stray && (e.Subject == "" || e.Subject == o.Device)
	})
}

// lock is one that hangs: what it keeps open, and the places that were read under it.
type lock struct {
	id, by, under string
	opens, reads  []string
}

// hanging are the locks that hang at the end of the records.
func (o *oracle) hanging() []lock {
	out := []lock{}
	drop := func(gone func(lock) bool) { out = slices.DeleteFunc(out, gone) }
	for _, r := range o.records {
		switch r.Kind {
		case install.Isolation:
			l := lock{id: r.ID, by: r.By}
			for _, d := range r.Opens {
				l.opens = append(l.opens, d.Device)
			}
			for _, p := range r.Proofs {
				l.reads = append(l.reads, p.At)
			}
			drop(func(old lock) bool { // the same padlock, hung on more
				return old.under == "" && old.by == l.by && !slices.ContainsFunc(old.opens, func(d string) bool { return !slices.Contains(l.opens, d) })
			})
			out = append(out, l)
		case install.ProvedDead:
			for i := range out {
				for _, p := range r.Proofs {
					if out[i].id == r.Subject || out[i].under == r.Subject {
						out[i].reads = append(out[i].reads, p.At)
					}
				}
			}
		case install.Lock:
			drop(func(old lock) bool { return old.by == r.By && old.under == r.Subject })
			l := lock{id: r.ID, by: r.By, under: r.Subject}
			for _, on := range out { // it hangs on what that one keeps open
				if on.id == r.Subject {
					l.opens, l.reads = on.opens, on.reads
				}
			}
			out = append(out, l)
		case install.LockOff:
			drop(func(l lock) bool { return l.id == r.Subject })
		case install.Energise:
			for i := range out {
				out[i].opens = slices.DeleteFunc(slices.Clone(out[i].opens), func(d string) bool { return slices.Contains(r.Closes, d) })
			}
			drop(func(l lock) bool { return len(l.opens) == 0 })
		}
	}
	return out
}

// energised says what is wrong with devices being closed by somebody for a use, or with their being closed still; empty where nothing is.
func (o *oracle) energised(r install.Record, stands bool) string {
	open := map[string]bool{}
	locks := o.hanging()
	for _, l := range locks {
		for _, d := range l.opens {
			open[d] = true
		}
	}
	restores := r.Use == install.RestoreUse
	connected := o.ticked("c1-board") || o.ticked("c1-torque")
	live := func(place string) bool { // through what is closed
		return slices.ContainsFunc(waysTo[place], func(way []string) bool {
			if (restores || stands) && !connected && slices.Contains(way, "circuit:c1") {
				return false // nothing hangs on that device
			}
			if slices.Contains(way, "main") && open["intake"] {
				return false // nothing comes from the supply
			}
			through := false
			for _, d := range way {
				if open[d] && (stands || !slices.Contains(r.Closes, d)) {
					return false
				}
				through = through || slices.Contains(r.Closes, d)
			}
			return through
		})
	}
	for _, l := range locks {
		closes := slices.ContainsFunc(l.opens, func(d string) bool { return slices.Contains(r.Closes, d) })
		switch {
		case stands && closes: // what it keeps open is open
		case closes && l.by != r.By:
			return "live under the lock of " + l.by
		case !closes && slices.ContainsFunc(l.reads, live):
			return "live where " + l.by + " works"
		}
	}
	if why := o.parted(r.ID); why != "" && (strings.Contains(why, " all") || live("board:")) {
		return "live with " + why
	}
	for task, place := range o.h.doneAt {
		if !live(place) || !o.stepOpen(task) {
			continue
		}
		switch begun := o.ticked(task); {
		case place == "board:" && !connected && (restores || stands || open["circuit:c1"] && !slices.Contains(r.Closes, "circuit:c1")):
		case restores && task == "c2-replace" && !begun:
		default:
			return "live with " + task + " open"
		}
	}
	switch {
	case restores && (live("circuit:c1") || live("circuit:c2") && o.ticked("c2-replace")):
		return "what was worked on was restored"
	case restores || !live("circuit:c1"):
		return ""
	}
	for _, test := range o.h.reads {
		if !o.readSinceWork("c1", test) {
			return "live with " + test + " older than the work"
		}
	}
	return ""
}

// parted is the oldest record of a conductor that is parted; of one that was parted after a permission of that id, where it stands, or before
// one that does not yet, what it keeps from being energised.
func (o *oracle) parted(permit string) string {
	since, holds := slices.IndexFunc(o.records, func(r install.Record) bool { return r.ID == permit }), ""
	for n, r := range o.records {
		if r.Kind != install.LooseEnd || r.Done || r.Parted == "" || n < since || o.named(install.LooseEnd, r.ID) {
			continue
		}
		if permit == "" {
			return r.ID
		}
		if !strings.HasPrefix(r.Parted, "neutral") {
			return r.Parted + " parted, which is of all"
		}
		holds = r.Parted + " parted"
	}
	return holds
}

// guarded says what is wrong with a device being closed for a moment; empty where nothing is.
func (o *oracle) guarded(r install.Record) string {
	for _, l := range o.hanging() {
		if l.by != r.By && (r.Subject == "" || slices.Contains(l.opens, r.Subject)) {
			return "put on for a moment under the lock of " + l.by
		}
	}
	if r.Subject != "" {
		return ""
	}
	for task, place := range o.h.doneAt { // it may lead anywhere: nowhere is work half done
		if o.stepOpen(task) && slices.ContainsFunc(o.h.works(task[:2]), func(other string) bool { return o.h.doneAt[other] == place && o.ticked(other) }) {
			return "put on for a moment with " + task + " begun"
		}
	}
	return ""
}

// ticked reports whether a step was ever ticked or taken back.
func (o *oracle) ticked(task string) bool {
	return slices.ContainsFunc(o.records, func(r install.Record) bool { return r.Kind == install.Tick && r.Subject == task })
}

// stepOpen reports whether a step that is done dead is open, and when work on a circuit was last ticked or taken back.
func (o *oracle) stepOpen(task string) bool {
	done := false
	for _, r := range o.records {
		if r.Kind == install.Tick && r.Subject == task {
			done = r.Done
		}
	}
	return !done
}

func (o *oracle) readSinceWork(circuit, test string) bool {
	ok := false
	for _, r := range o.records {
		switch {
		case r.Kind == install.Tick && slices.Contains(o.h.works(circuit), r.Subject):
			ok = false
		case r.Kind == install.Reading && r.Circuit == circuit && r.Subject == test:
			ok = true
		}
	}
	return ok
}

// holds says what is wrong with an act that was accepted; empty where nothing is.
func (o *oracle) holds(r install.Record, now time.Time) string {
	switch r.Kind {
	case install.Tick:
		if place := o.h.doneAt[r.Subject]; r.Done && place != "" && !o.mayWork(r.By, place, now) {
			return r.Subject + " was ticked and " + place + " is not dead for " + r.By
		}
	case install.Reading:
		at := map[string]string{"c1": "circuit:c1", "c2": "circuit:c2", "": "board:"}[r.Circuit]
		for _, way := range waysTo[at] {
			if !slices.ContainsFunc(way, func(d string) bool { return o.opened(r.By, d, now) }) {
				return r.Subject + " was read dead and " + at + " is not"
			}
		}
	case install.Energise:
		return o.energised(r, false)
	case install.Guarded:
		return o.guarded(r)
	}
	return ""
}

// opened reports whether a device is under a lock of the person's that was hung today and hangs.
func (o *oracle) opened(who, device string, now time.Time) bool {
	return slices.ContainsFunc(o.records, func(r install.Record) bool {
		return r.Kind == install.Isolation && (r.By == who || o.under(who, r.ID, now)) && !o.named(install.LockOff, r.ID) && r.At.Format(time.DateOnly) == now.Format(time.DateOnly) &&
			slices.ContainsFunc(r.Opens, func(d install.Opened) bool { return d.Device == device })
	})
}

// No sequence of acts that is accepted ever has dead work outside what is dead, nor anything energised under a lock, with dead work open or with
// dead tests that are older than the work.
func TestNoAcceptedActIsDeadly(t *testing.T) {
	accepted, deadWork, stood, energised := 0, 0, 0, make([]int, len(trials))
	for seed := *firstSeed; seed < *firstSeed+*sequences; seed++ {
		rnd := rand.New(rand.NewPCG(uint64(seed), 29))
		looks, permitted := rand.New(rand.NewPCG(uint64(seed), 31)), false
		h := trials[seed%len(trials)]
		j, now, o := h.job(), day, &oracle{h: h}
		for step := range 6 + rnd.IntN(20) {
			now = now.Add(time.Duration(1+rnd.IntN(9)) * time.Minute)
			if rnd.IntN(25) == 0 {
				now = now.Add(24 * time.Hour)
			}
			for _, r := range act(rnd, o) {
				now = now.Add(time.Second)
				r.ID, r.At = fmt.Sprintf("s%d-%d-%d", seed, step, len(o.records)), now
				who := install.Person{Name: r.By, Role: install.RoleElectrician, Holds: install.EveryAuthority}
				r.Role, r.Authorised = who.Role, r.By != "Remy"
				if r.By == "Remy" {
					who.Holds = 0
				}
				if r.Kind == install.LooseEnd && r.Done {
					r.Subject = o.parted("")
				}
				Stamp(j, &r, nil, now)
				left, err := Allow(j, who, r, nil, now)
				if err != nil {
					continue
				}
				require.Empty(t, o.holds(r, now), "sequence %d, act %d: %s by %s", seed, step, r.Kind, r.By)
				accepted++
				if r.Kind == install.Tick && r.Done && h.doneAt[r.Subject] != "" {
					deadWork++
				}
				if r.Kind == install.Energise {
					energised[seed%len(trials)]++
				}
				for _, x := range append([]install.Record{r}, undone(&r, left)...) {
					require.True(t, x.Parted == "" || x.CouldNot != "" || x.Parted == "surge" || x.Bridged || *x.ClampA <= 0.1,
						"sequence %d: %s parted with current in it",
						seed, x.Parted)
					o.records, j.Records = append(o.records, x), append(j.Records, x)
				}
				if permitted = permitted || r.Kind == install.Energise; permitted && r.Kind != install.Reading && looks.IntN(4) == 0 {
					for _, part := range Of(j, nil, vik, now).Tests.Parts {
						if part.Permit != nil && part.Lapsed == "" && part.State != proving.PartLocked {
							require.Empty(t, o.energised(*part.Permit, true), "sequence %d, act %d: %s stands after %s by %s", seed, step, part.Name,
								r.Kind, r.By)
							stood++
						}
					}
				}
			}
		}
	}
	t.Logf("%d sequences: %d acts accepted, %d steps done dead, %v times energised, %d times seen to stand", *sequences, accepted, deadWork, energised, stood)
	require.Positive(t, deadWork, "some work was done dead")
	for i, n := range energised {
		require.Positive(t, n, "and something energised in house %d", i)
	}
	require.Positive(t, stood, "and it stood")
}

// deadTests are those of the house of the 230 V practice.
var deadTests = deadRows(solar())

// solar is the house of the test, its first fix done.
func solar() *install.Job {
	j := designed()
	j.Board.Ways = append(j.Board.Ways, install.Way{No: 3, Circuit: "c2"})
	yes := true
	k := j.Circuits[0]
	k.ID, k.Name, k.State, k.Seen = "c2", "Solar", install.KeptCircuit, true
	k.Protection.Way, k.Serves.Backfeed, k.Protection.BothWays = 3, true, &yes
	j.Circuits = append(j.Circuits, k)
	return firstFixed(j)
}

// solar120 is the house of the split-phase practice: a range that is put in, and a solar circuit that is there and gets a part replaced.
func solar120() *install.Job {
	yes, fault, watts := true, 9.0, 4500.0
	j := &install.Job{Format: install.Format, Ref: "T-2", Title: "Range", Kind: install.Addition, Practice: "split120",
		Rules: install.Rules{Edition: Practices["split120"].Opening().Edition}, Schools: install.Schools{}, Records: []install.Record{},
		Seals: []install.Seal{}, Site: install.Site{Customer: "A. Person", Address: "1 Test Row"}, Board: install.Board{Name: "A"}}
	j.Supply = install.Supply{Earthing: "grounded-neutral", DeclaredV: 240, PFCkA: install.Fact{Value: &fault, Basis: install.Measured}, MainFuseA: num(200),
		EarthMM2: num(25)}
	j.Loads = install.Loads{AreaM2: num(160), Items: []install.Load{{Name: "Water heater", Category: "appliance", Watts: &watts, Count: 1,
		Basis: install.Measured}}}
	k := Practices["split120"].Defaults("range")
	k.ID, k.Name, k.Protection.Way, k.Protection.RCDType, k.Protection.IdnMA = "c1", "Range", 1, "GFCI", 6
	for i := range k.Route.Segments {
		k.Route.Segments[i].Basis = install.Measured
	}
	sun := k
	sun.ID, sun.Name, sun.State, sun.Seen, sun.Protection.Way = "c2", "Solar", install.KeptCircuit, true, 5
	sun.Serves.Backfeed, sun.Protection.BothWays = true, &yes
	j.Circuits = []install.Circuit{k, sun}
	for n := range 8 {
		j.Board.Ways = append(j.Board.Ways, install.Way{No: n + 1})
	}
	j.Tidy()
	return firstFixed(j)
}

// firstFixed is a job with its first fix done.
func firstFixed(j *install.Job) *install.Job {
	for _, task := range Of(j, nil, vik, day).Tasks {
		if task.Stage == install.FirstFix {
			j.Records = append(j.Records, install.Record{ID: "f-" + task.ID, Kind: install.Tick, Subject: task.ID, Done: true, At: day.Add(-24 * time.Hour), By: "Vik"})
		}
	}
	return j
}

// act is something that somebody does, well or badly; now and then a run of acts that finishes the work.
func act(rnd *rand.Rand, o *oracle) []install.Record {
	by := []string{"Vik", "Vik", "Mo", "Remy"}[rnd.IntN(4)]
	pick := func(list []string) string { return list[rnd.IntN(len(list))] }
	of := func(kinds ...install.RecordKind) string {
		ids := []string{"none"}
		for _, r := range o.records {
			if slices.Contains(kinds, r.Kind) {
				ids = append(ids, r.ID)
			}
		}
		return ids[len(ids)-1-rnd.IntN(min(2, len(ids)))]
	}
	switch rnd.IntN(16) {
	case 0, 1:
		return []install.Record{someIsolation(rnd, by, o.h)}
	case 2:
		r := someIsolation(rnd, by, o.h)
		r.Kind, r.Subject, r.Opens = install.ProvedDead, of(install.Isolation), nil
		return []install.Record{r}
	case 3:
		passed := rnd.IntN(3) > 0
		return []install.Record{{Kind: install.TesterProof, By: by, Tester: "T-2", Passed: &passed}}
	case 4:
		return []install.Record{{Kind: install.LockOff, By: by, Subject: of(install.Isolation, install.Lock)}}
	case 5:
		return []install.Record{{Kind: install.Lock, By: by, Subject: of(install.Isolation), LockTag: "9"}}
	case 6:
		return []install.Record{{Kind: install.Withdrawal, By: by, Subject: of(install.Isolation), Note: "cell"}}
	case 7, 8, 11, 12:
		return []install.Record{{Kind: install.Tick, By: by, Subject: pick(o.h.steps()), Done: rnd.IntN(5) > 0}}
	case 9:
		r := answered(&o.h.rows[rnd.IntN(len(o.h.rows))])
		r.By = by
		if rnd.IntN(4) == 0 {
			carries := 3.0
			r.ClampA, r.Bridged = &carries, rnd.IntN(2) == 0
		}
		return []install.Record{r}
	case 10:
		return []install.Record{permission(by, rnd.IntN(5), rnd)}
	case 13:
		switch rnd.IntN(6) {
		case 2:
			return []install.Record{{Kind: install.LooseEnd, By: by, Parted: pick([]string{"earth", "neutrals:", "electrode:"}), CouldNot: "found so"}}
		case 3:
			return []install.Record{{Kind: install.LooseEnd, By: by, Done: true, Note: "back"}}
		case 0:
			v, yes := 231.0, true
			return []install.Record{{Kind: install.Guarded, By: by, Subject: pick([]string{"", "main", "own:c2", "circuit:c1"}), Person: "Ap",
				Place: "grey pair", Value: &v, Passed: &yes, Instrument: "MFT-4", Confirmed: []string{"apart", "people", "off", "dead"}}}
		case 1:
			return []install.Record{{Kind: install.SwitchedOn, By: by, Subject: pick([]string{"", "main", "own:c2", "circuit:c1"}), Note: "it hums"}}
		}
		out := []install.Record{}
		for range 2 {
			out = append(out, permission(by, rnd.IntN(5), rnd))
		}
		return out
	}
	return finishing(by, rnd, o.h)
}

// permission closes something for some use, whoever's lock is on it.
func permission(by string, counted int, rnd *rand.Rand) install.Record {
	r := energise()
	r.By, r.Counted = by, &counted
	r.Confirmed = append(r.Confirmed, "unaltered")
	if r.Use = install.PermitUses[rnd.IntN(3)]; r.Use != install.ForTest {
		r.Guarded = ""
	}
	all := []string{"main", "own:c2", "circuit:c1", "circuit:c2"}
	rnd.Shuffle(len(all), func(i, k int) { all[i], all[k] = all[k], all[i] })
	r.Closes = all[:1+rnd.IntN(2)]
	return r
}

// someIsolation opens some devices and reads some places, most of the time well.
func someIsolation(rnd *rand.Rand, by string, h *trial) install.Record {
	r := isolation()
	r.By, r.Opens, r.Proofs = by, nil, nil
	for _, d := range []string{"main", "own:c2", "circuit:c1", "circuit:c2", "intake"} {
		if rnd.IntN(5) < map[string]int{"main": 4, "own:c2": 4, "circuit:c1": 1, "circuit:c2": 1}[d] || d == "intake" && rnd.IntN(20) == 0 {
			r.Opens = append(r.Opens, install.Opened{Device: d, Kept: install.ByLock})
		}
	}
	for _, place := range []string{"board:", "circuit:c1", "circuit:c2"} {
		if rnd.IntN(3) == 0 {
			continue
		}
		p := install.Proof{At: place}
		for _, pair := range h.pairs {
			v := []float64{0, 0.4, 4.9}[rnd.IntN(3)]
			if rnd.IntN(40) == 0 {
				v = 5.1 + 200*rnd.Float64()
			}
			if rnd.IntN(30) > 0 {
				p.Read = append(p.Read, install.Pair{Pair: pair, V: &v})
			}
		}
		r.Proofs = append(r.Proofs, p)
	}
	r.ProvedBefore, r.ProvedAfter = rnd.IntN(8) > 0, rnd.IntN(5) > 0
	if rnd.IntN(10) == 0 {
		r.TesterKind = install.SensorTester
	}
	return r
}

// answered is a good reading of a test.
func answered(row *proving.Row) install.Record {
	r := answer(row.ID, true)
	switch {
	case len(row.Patterns) > 0:
		r.Passed, r.Answer = nil, "open"
	case !row.YesNo:
		r = reading(row.ID, map[string]float64{"Ω": 0.05, "MΩ": 250}[row.Unit])
	}
	r.Circuit = row.Circuit
	return clamped(r)
}

// finishing isolates well and does everything up to energising, with one act left out now and then.
func finishing(by string, rnd *rand.Rand, h *trial) []install.Record {
	iso := isolation()
	iso.Opens = []install.Opened{{Device: "main", Kept: install.ByLock}, {Device: "own:c2", Kept: install.ByLock}}
	iso.Proofs = nil
	for _, place := range []string{"board:", "circuit:c1", "circuit:c2"} {
		p, v := install.Proof{At: place}, 0.4
		for _, pair := range h.pairs {
			p.Read = append(p.Read, install.Pair{Pair: pair, V: &v})
		}
		iso.Proofs = append(iso.Proofs, p)
	}
	out := []install.Record{iso}
	for _, id := range h.steps() {
		out = append(out, install.Record{Kind: install.Tick, Subject: id, Done: true})
	}
	for i := range h.rows {
		out = append(out, answered(&h.rows[i]))
	}
	for range 3 {
		out = append(out, install.Record{Kind: install.LooseEnd, Done: true, Note: "back"})
	}
	for n := range 4 {
		r := energise()
		r.By, r.Counted, r.Closes = by, &n, []string{"main", "own:c2"}
		out = append(out, r)
	}
	if rnd.IntN(3) == 0 {
		n := rnd.IntN(len(out))
		out = slices.Delete(out, n, n+1)
	}
	for i := range out {
		out[i].By = by
	}
	return out
}
