package proving

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// OpenStep is a step of the plan that is not done, as far as energising asks.
type OpenStep struct {
	Waits
	Dead   bool     // conductors are handled in it
	Hangs  bool     // what is left of it is to push up luminaires that are lit first
	Places []string // where, by id
	// Release: others give the supply free in it before it is on: an inspection, a reconnection.
	Release bool
	Label   bool // it belongs to the circuit and not to what is done dead: labels, photographs
}

// waiting works out what the permission for one use of a part waits for.
type waiting struct {
	*parting
	part   *Part
	places map[string]bool // that it makes live for the use
	use    install.PermitUse
	back   []string // own sources that would reach the operator's conductors
	// stands: the permission was given, and is asked whether it stands.
	stands bool
	out    []Waits
}

func (x *waiting) add(sheet working.Sheet, circuit, why string) {
	x.out = append(x.out, Waits{Why: why, Sheet: sheet, Circuit: circuit})
}

// all are what comes first in the order of the work first.
func (x *waiting) all() []Waits {
	w, s := x.job.Words, x.s
	x.out = []Waits{}
	if !x.stands {
		if on := x.part.Permit; on != nil && x.part.Lapsed == "" && (on.Use == x.use || on.Use != install.ForTest) {
			x.add(working.TestSheet, "", w.Say("Already permitted."))
			return x.out
		}
		if len(s.Removed) > 0 {
			x.add(working.TestSheet, "", removedSays(w, &s.Removed[0]))
		}
	}
	restores := x.use == install.RestoreUse
	if !x.stands && len(x.places) == 0 {
		x.add(working.TestSheet, "", w.Say("Closing it makes nothing live: what feeds it is open, or it is not connected."))
	}
	if restores {
		x.altered()
	} else {
		x.worked()
	}
	x.deadTests(restores)
	if !x.stands {
		x.isolated()
		if !restores {
			x.failedLive()
		}
		x.backfed()
	}
	// What stands is opened by whoever reads the alarm; until then the other readings at the same place tell it from a wrong one.
	if on := s.Suspect; on != nil && !x.stands && x.about(on.test) {
		x.add(working.TestSheet, "", w.Say("%s: an open neutral is suspected. It stays off until what is loose is noted as a snag, put right dead and "+
			"cleared, or the network operator was told and the supervisor orders the retest in writing.", on.Title))
	}
	x.locks()
	for _, l := range LooseEnds(x.job) {
		switch {
		case l.Parted != "":
			if within(x.job, l.Parted, x.in) {
				x.add(working.TestSheet, "", w.Say("Disconnected for a test and not on record as reconnected: %s.", l.Note))
			}
		case l.Left != "":
			x.left(&l)
		case l.Path == BeforeHandover, x.stands && l.Moment().After(x.part.Permit.Moment()):
		default:
			x.add(working.SecondFixSheet, "", w.Say("Snag: %s.", l.Note))
		}
	}
	for _, d := range x.facts.Dangers {
		switch {
		case !x.circuitIn(d.Circuit):
		case d.Refused:
			x.add(working.SurveySheet, d.Circuit, w.Say("A danger that was left as it is, with notice given: we do not put it into service: %s.", d.Title))
		default:
			x.add(working.SurveySheet, d.Circuit, w.Say("A danger that is not made safe: %s.", d.Title))
		}
	}
	if !restores {
		x.design()
	}
	x.steps(restores)
	if x.use == install.IntoUse {
		x.liveTests()
	}
	return x.out
}

// left waits for what was left of a kind, where that is of the part: a circuit is tested with its covers off, and not put into service.
func (x *waiting) left(l *install.Record) {
	waits := waitsFor(l)
	if !x.circuitIn(l.Circuit) || x.stands && l.Moment().After(x.part.Permit.Moment()) {
		return
	}
	if waits == install.WaitsEnergise || waits == install.WaitsService && x.use != install.ForTest {
		x.add(working.SecondFixSheet, l.Circuit, x.job.Words.Say("Snag: %s.", Says(x.job, l)))
	}
}

func (x *waiting) in(place string) bool { return x.places[place] }

func (x *waiting) circuitIn(id string) bool {
	return id == "" || x.in(isolate.CircuitPlace(id))
}

// altered holds what is restored to nothing in it having been worked on.
func (x *waiting) altered() {
	w := x.job.Words
	for i := range x.job.Circuits {
		if k := &x.job.Circuits[i]; x.in(isolate.CircuitPlace(k.ID)) && x.facts.touched(k) {
			x.add(working.TestSheet, k.ID, w.Say("%s was worked on: it is energised for a test first, or locked off while the rest is restored.", k.Name))
		}
	}
	for _, p := range x.facts.House.Places {
		if x.in(p.ID) && x.facts.begun("", p.ID) {
			x.add(working.TestSheet, "", w.Say("%s was worked on: it is energised for a test first.", p.Name))
		}
	}
}

// worked holds what is energised for a test or put into service to something of it being the job's.
func (x *waiting) worked() {
	if x.stands || len(x.places) == 0 || x.job.Trait().Report || len(x.facts.Worked) > 0 || len(x.job.Circuits) == 0 {
		return
	}
	if !slices.ContainsFunc(x.job.Circuits, func(k install.Circuit) bool { return x.in(isolate.CircuitPlace(k.ID)) && x.facts.touched(&k) }) {
		x.add(working.TestSheet, "", x.job.Words.Say("Nothing of it was worked on: it is restored."))
	}
}

// deadTests are those in the part that are not done, or failed; of what is restored only whether all that was parted for a test is back.
func (x *waiting) deadTests(restores bool) {
	w := x.job.Words
	for _, v := range []working.Verdict{working.Fail, working.Unknown} {
		for i := range x.s.Rows {
			r := &x.s.Rows[i]
			name := x.job.Whose(r.Circuit) + r.Title
			switch {
			case !r.needed || r.Answered || r.Verdict != v || restores && !x.tests[i].FromOrigin && !x.tests[i].OfSource || !x.about(&x.tests[i]):
			case v == working.Fail:
				x.add(working.TestSheet, r.Circuit, w.Say("Dead tests come first: %s failed.", name))
			default:
				x.add(working.TestSheet, r.Circuit, w.Say("Dead tests come first: %s is not done.", name))
			}
		}
	}
	if len(x.s.Rows) == 0 && !restores && !x.stands {
		x.add(working.TestSheet, "", w.Say("Dead tests come first."))
	}
}

// about reports whether a test is of the part: of a circuit or a board in it, or of what everything rests on. One of a source is where that is
// closed, or would feed back.
func (x *waiting) about(t *rulebook.Test) bool {
	if t.OfSource {
		return slices.Contains(x.part.Closes, isolate.Standby) || slices.Contains(x.back, isolate.Standby)
	}
	if t.Circuit != "" {
		return x.circuitIn(t.Circuit)
	}
	_, of, ok := strings.Cut(t.ID, ":")
	if !ok || x.job.BoardByID(of) == nil {
		return true
	}
	return x.in(placeOf(x.job, x.facts.House, t))
}

// isolated holds it to having been opened by somebody's isolation: nobody closes what stands as it was.
func (x *waiting) isolated() {
	w := x.job.Words
	for _, d := range x.part.Closes {
		dev, ok := x.facts.House.Device(d)
		switch r := x.last[d]; {
		case !ok:
			x.add(working.TestSheet, "", w.Say("%s is not in the installation any more.", d))
		case r == nil:
			x.add(working.TestSheet, "", w.Say("There is no isolation record."))
		case r.Kind == install.SwitchedOn:
			x.add(working.TestSheet, "", w.Say("%s was switched on without permission: switch it off, isolate and prove dead first.", dev.Name))
		case x.part.Lapsed != "":
			x.add(working.TestSheet, "", w.Say("The permission lapsed: %s Switch off, lock and begin anew.", x.part.Lapsed))
			return
		}
	}
}

// locks are those of others on what is closed, and anybody's in reach of it.
func (x *waiting) locks() {
	w := x.job.Words
	for i := range x.s.Locks {
		l := &x.s.Locks[i]
		on := len(openedBy(x.job, l)) == 0 || slices.ContainsFunc(keptBy(x.job, l, install.Energise), func(o install.Opened) bool {
			return slices.Contains(x.part.Closes, o.Device)
		})
		switch {
		case on && !l.IsBy(x.by):
			x.add(working.TestSheet, "", w.Say("The lock of %s is in place (%s): only its owner takes it off.", l.By, l.LockTag))
		case on:
		case worksIn(x.job, l, x.in):
			x.add(working.TestSheet, "", w.Say("%s works where this would be live, under a lock on something else (%s).", l.By, l.LockTag))
		}
	}
}

// worksIn reports whether somebody read dead, under a lock, a place among some.
func worksIn(job *install.Job, l *install.Record, in func(place string) bool) bool {
	iso := l
	if l.Kind == install.Lock {
		iso = job.RecordByID(l.Subject)
	}
	if iso == nil {
		return true
	}
	for _, r := range append([]install.Record{*iso}, provedUnder(job, iso)...) {
		if slices.ContainsFunc(r.Proofs, func(p install.Proof) bool { return in(p.At) }) {
			return true
		}
	}
	return false
}

// failedLive are live tests of the part that failed and that neither work nor the supervisor's order came after.
func (x *waiting) failedLive() {
	w := x.job.Words
	for i := range x.s.Rows {
		r, t := &x.s.Rows[i], &x.tests[i]
		if !r.Live || r.Verdict != working.Fail || r.Answered || r.Reading == nil || !x.about(t) || reworked(x.facts, r) {
			continue
		}
		switch {
		case t.Suspected(r.Reading): // said above, until the retest is ordered
		case t.Stops:
			x.add(working.TestSheet, r.Circuit, w.Say("%s failed: find the cause and put it right dead, before it is energised again.", r.Title))
		case r.Ordered == nil:
			x.add(working.TestSheet, r.Circuit,
				w.Say("%s failed: put it right dead, or the supervisor orders a retest or a guarded search for the fault in writing.", r.Title))
		}
	}
}

// reportedSince reports whether the network operator was told of something since a reading.
func reportedSince(job *install.Job, r *install.Record) bool {
	return slices.ContainsFunc(job.Current(install.Operator), func(o install.Record) bool { return o.Path == "reported" && o.Moment().After(r.Moment()) })
}

// mendedSince reports whether a snag was noted after a reading and cleared: what was loose, and is put right.
func mendedSince(job *install.Job, r *install.Record) bool {
	return slices.ContainsFunc(ClearedEnds(job), func(c install.Record) bool {
		noted := job.RecordByID(c.Subject)
		return noted != nil && noted.Parted == "" && noted.Moment().After(r.Moment())
	})
}

func reworked(facts *Facts, r *Row) bool {
	return slices.ContainsFunc(facts.Worked[r.Circuit], func(m install.Moment) bool { return m.After(r.Reading.Moment()) })
}

// orderOf is the supervisor's newest order after a reading that failed, nil for none.
func orderOf(job *install.Job, reading *install.Record) *install.Record {
	for i := len(job.Records) - 1; i >= 0; i-- {
		if o := &job.Records[i]; o.Kind == install.RetestOrder && o.Subject == reading.ID && o.Moment().After(reading.Moment()) {
			return o
		}
	}
	return nil
}

// backfed are sources of the customer's own that would reach the operator's conductors and of which nobody may yet.
func (x *waiting) backfed() {
	w := x.job.Words
	for _, id := range x.back {
		k := x.job.CircuitByID(strings.TrimPrefix(id, isolate.OwnSource))
		switch {
		case k != nil && k.State != install.NewCircuit && k.State != install.AlteredCircuit: // it ran in parallel before
		case k != nil:
			if !slices.ContainsFunc(x.job.Current(install.Operator), func(o install.Record) bool {
				return (o.Circuit == k.ID || o.Circuit == "") && (o.Path == "agreed" || o.Path == "notified")
			}) {
				x.add(working.CircuitsSheet, k.ID, w.Say("%s would feed back into the operator's conductors: the operator's agreement to parallel "+
					"operation is not on record.", x.facts.House.Source(id)))
			}
			if strings.TrimSpace(k.Serves.LossOfMains) == "" {
				x.add(working.CircuitsSheet, k.ID, w.Say("%s would feed back into the operator's conductors: the certificate of its loss-of-mains "+
					"protection is not on record.", x.facts.House.Source(id)))
			}
		case k == nil && !slices.ContainsFunc(x.job.Chain.Enclosures, func(e install.Enclosure) bool { return e.SwitchesN != nil }):
			x.add(working.SupplySheet, "", w.Say("%s would feed back into the operator's conductors: no changeover or interlock is in the supply "+
				"arrangement.", x.facts.House.Source(id)))
		}
	}
}

// design are checks of the part that fail; into service also those that wait for something.
func (x *waiting) design() {
	w := x.job.Words
	for _, f := range x.facts.Fails {
		// What is live is ended by what fails of its own circuits, not by what is planned for the rest of the house.
		if x.circuitIn(f.Circuit) && (!x.stands || f.Circuit != "") {
			x.add(f.Sheet, f.Circuit, w.Say("The design is not in order: %s.", f.Why))
		}
	}
	for _, f := range x.facts.Asked {
		if !x.stands && x.circuitIn(f.Circuit) {
			x.add(f.Sheet, f.Circuit, w.Say("The design is not in order: %s.", f.Why))
		}
	}
	if x.use != install.IntoUse {
		return
	}
	for _, f := range x.facts.Service {
		if x.circuitIn(f.Circuit) {
			x.add(f.Sheet, f.Circuit, w.Say("Not yet known: %s.", f.Why))
		}
	}
}

// steps are those that are open: what is done dead in the part, what others give free, and into service also what belongs to its circuits.
func (x *waiting) steps(restores bool) {
	w := x.job.Words
	for i := range x.facts.Open {
		o := &x.facts.Open[i]
		holds := false
		switch {
		case o.Dead:
			holds = slices.ContainsFunc(o.Places, x.in) && !x.excused(o, restores)
		case o.Release:
			holds = !x.stands && slices.ContainsFunc(x.part.Closes, func(d string) bool { return x.feedsBoard(d) })
		case o.Label:
			holds = x.use == install.IntoUse && x.circuitIn(o.Circuit)
		}
		if holds {
			x.add(o.Sheet, o.Circuit, w.Say("Not done yet: %s.", o.Why))
		}
	}
}

func (x *waiting) feedsBoard(device string) bool {
	d, ok := x.facts.House.Device(device)
	return ok && (d.Kind == isolate.IntakeKind || d.Kind == isolate.SwitchKind)
}

// excused reports whether a step does not hold the part: nothing of it is begun where the part is live, and its circuit is locked off, or what
// was there before is restored, or what it would be added to is live already.
func (x *waiting) excused(o *OpenStep, restores bool) bool {
	for _, place := range o.Places {
		if x.in(place) && x.facts.begun(o.Circuit, place) && !(o.Hangs && x.use == install.ForTest) {
			return false
		}
	}
	if restores || x.stands || o.Hangs && x.use == install.ForTest {
		return true
	}
	k := x.job.CircuitByID(o.Circuit)
	return k != nil && !x.in(isolate.CircuitPlace(o.Circuit)) &&
		slices.ContainsFunc(isolate.DevicesOf(k), func(d string) bool { return slices.Contains(x.s.locked, d) && !slices.Contains(x.part.Closes, d) })
}

// liveTests are those of the part that are not done.
func (x *waiting) liveTests() {
	w := x.job.Words
	for i := range x.s.Rows {
		r := &x.s.Rows[i]
		if !r.Live || r.Answered || !r.Verdict.Worse(working.Caution) || !x.about(&x.tests[i]) {
			continue
		}
		name := x.job.Whose(r.Circuit) + r.Title
		if r.Verdict == working.Fail {
			x.add(working.TestSheet, r.Circuit, w.Say("%s failed.", name))
		} else {
			x.add(working.TestSheet, r.Circuit, w.Say("Live tests come before service: %s is not done.", name))
		}
	}
}
