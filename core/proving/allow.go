package proving

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// NotYetError says what must come first.
type NotYetError struct{ Why string }

func (e *NotYetError) Error() string { return e.Why }

// Step is what is asked of a step of the plan before it is ticked.
type Step struct {
	Closed string // what closes it
	Photo  bool   // a picture of it is what ticks it, or why there is none
	Others string // who does it where that is not the electrical crew
}

// Allow reports why a person may not make a record now, nil when they may. step finds a step of
// the plan by its id.
func Allow(job *install.Job, who install.Person, r install.Record, tests []rulebook.Test, facts *Facts, step func(id string) (Step, bool),
	now time.Time) error {
	w := job.Words
	if err := MayMake(w, who, r.Kind); err != nil {
		return err
	}
	if job.Frozen() && !r.Kind.AfterSignature() {
		return &NotYetError{w.Say("Revision %s is signed: open a new revision to record more.", job.Revision())}
	}
	if err := supersedes(job, who, r); err != nil {
		return err
	}
	switch r.Kind {
	case install.Reading:
		return allowReading(job, who, r, tests, facts, now)
	case install.Energise:
		return allowPermit(job, who, r, tests, facts, now)
	case install.LockOff:
		return allowLockOff(job, who, r)
	case install.Lock:
		return allowLock(job, r)
	case install.LockTold:
		if !slices.ContainsFunc(Removed(job, who), func(o install.Record) bool { return o.ID == r.Subject }) {
			return &NotYetError{w.Say("No lock of yours was taken off by that, or you said so already.")}
		}
	case install.Isolation:
		return allowCorrection(job, r)
	case install.ProvedDead:
		if !slices.ContainsFunc(Locks(job), func(l install.Record) bool { return l.Kind == install.Isolation && l.ID == r.Subject && l.IsBy(who) }) {
			return &NotYetError{w.Say("There is no isolation of yours under which it could be proved dead: isolate first.")}
		}
	case install.Withdrawal:
		return allowWithdrawal(job, who, r)
	case install.LookedAfter:
		if len(job.Seals) == 0 {
			return &NotYetError{w.Say("Nothing is handed over yet: what is looked after comes once the job was signed.")}
		}
	case install.SwitchedOn:
		if _, ok := facts.scope(job, who, now).house.Device(r.Subject); r.Subject != "" && !ok {
			return install.Errors{{Field: "switched-on.subject", Value: r.Subject,
				Accept: w.Say("a device of the installation, or nothing where nobody knows which")}}
		}
	case install.Guarded:
		return allowGuarded(job, who, r, facts, now)
	case install.RetestOrder:
		return allowOrder(job, who, r, tests, facts, now)
	case install.Remark:
		if !isCurrent(job, install.Reading, r.Subject) {
			return &NotYetError{w.Say("The reading that this explains is not there any more: look at the newest.")}
		}
	case install.Worked, install.Timed:
		if _, known := step(r.Subject); !known {
			return &NotYetError{w.Say("Task %q is not on this job's plan.", r.Subject)}
		}
	case install.Tick:
		s, known := step(r.Subject)
		switch {
		case !known:
			return &NotYetError{w.Say("Task %q is not on this job's plan.", r.Subject)}
		case r.Done && s.Closed != "":
			return &NotYetError{s.Closed}
		case r.Done && s.Others != "" && strings.TrimSpace(r.Note) == "":
			return install.Errors{{Field: "tick.note", Value: r.Note,
				Accept: w.Say("by what it is known that the %s did it: a number, a paper, a call and when", s.Others)}}
		case r.Done && s.Others != "" && strings.TrimSpace(r.Person) == "":
			return install.Errors{{Field: "tick.person", Value: r.Person, Accept: w.Say("who of the %s did it, by name", s.Others)}}
		case r.Done && s.Photo && strings.TrimSpace(r.Note) == "" && !pictured(job, r.Subject):
			return &NotYetError{w.Say("There is no picture of it: take one, or say why there is none.")}
		}
	case install.LooseEnd:
		if err := allowParted(job, tests, r); err != nil {
			return err
		}
		if r.Left != "" && !r.Done {
			return allowLeft(job, who, r, tests)
		}
		return allowLooseEnd(job, who, r, tests)
	case install.PointWork:
		return allowPointWork(job, r, step, facts)
	case install.DayEnd:
		return allowDayEnd(job, who, r, facts)
	case install.Decision:
		if !isCurrent(job, install.Observation, r.Subject) {
			return &NotYetError{w.Say("The finding that was decided on is not there any more: look at the newest.")}
		}
	case install.FindingStep:
		switch {
		case !isCurrent(job, install.Observation, r.Subject):
			return &NotYetError{w.Say("The finding is not there any more: look at the newest.")}
		case (r.Path == install.MadeSafe || r.Path == install.Mended) && !who.Holds.Has(install.Releasing):
			return &RoleError{who, r.Kind, w.Say("Whoever is authorised to clear what holds the work says that it is %s.",
				strings.ReplaceAll(r.Path, "-", " "))}
		}
	case install.Trace:
		return allowTrace(job, r)
	case install.SurveyReading:
		if r.Circuit != "" && job.CircuitByID(r.Circuit) == nil {
			return install.Errors{{Field: "circuit", Value: r.Circuit, Accept: w.Say("a circuit of the job")}}
		}
	case install.Variation:
		if len(job.Current(install.Scope)) == 0 {
			return &NotYetError{w.Say("No scope was agreed yet: until then the points are simply edited.")}
		}
	case install.Scope:
		if len(job.Rooms) == 0 {
			return &NotYetError{w.Say("There is nothing to agree: the survey has no rooms.")}
		}
	case install.Photo:
		if _, task := step(r.Subject); !task && !shows(job, r.Subject) {
			return &NotYetError{w.Say("Photo of %q: there is no such room, point, circuit, outlet, step, finding or enclosure "+
				"on this job.", r.Subject)}
		}
	case install.Reopen:
		if !job.Frozen() {
			return &NotYetError{w.Say("Revision %s is not signed: it is open for edits already.", job.Revision())}
		}
	}
	return nil
}

// allowOrder lets the supervisor order a retest, or a search for the fault, of a live test that failed and after which that is enough.
func allowOrder(job *install.Job, who install.Person, r install.Record, tests []rulebook.Test, facts *Facts, now time.Time) error {
	w := job.Words
	for i, row := range TestRows(job, tests, facts, who, now).Rows {
		switch {
		case row.Reading == nil || row.Reading.ID != r.Subject:
		case row.Orderable:
			return nil
		case row.Live && row.Verdict == working.Fail && tests[i].Suspected(row.Reading):
			return &NotYetError{w.Say("%s: report it to the network operator first, and record who took it.", row.Title)}
		case row.Live && row.Verdict == working.Fail:
			return &NotYetError{w.Say("%s failed: find the cause and put it right dead, before it is energised again.", row.Title)}
		}
	}
	return &NotYetError{w.Say("The reading that this is about is not there any more, or did not fail live: look at the newest.")}
}

// supersedes refuses a record that takes the place of one that is not there any more, or
// that is not of its kind and about the same.
func supersedes(job *install.Job, who install.Person, r install.Record) error {
	w := job.Words
	if r.Supersedes == "" {
		return nil
	}
	old := job.RecordByID(r.Supersedes)
	switch {
	case old == nil || !isCurrent(job, old.Kind, r.Supersedes) && old.Kind != install.LooseEnd:
		return &NotYetError{w.Say("What this corrects is not there any more: look at the newest.")}
	case !r.Replaces(old):
		return install.Errors{{Field: string(r.Kind) + ".supersedes", Value: r.Supersedes,
			Accept: w.Say("a %s of the same subject; that one is a %s of %q", r.Kind, old.Kind, old.Subject)}}
	case !who.MayCorrect(old):
		return &RoleError{who, r.Kind, w.Say("This is %s's: only who made it corrects it.", old.By)}
	}
	return nil
}

func allowReading(job *install.Job, who install.Person, r install.Record, tests []rulebook.Test, facts *Facts, now time.Time) error {
	w := job.Words
	i := slices.IndexFunc(tests, func(t rulebook.Test) bool { return t.ID == r.Subject && t.Circuit == r.Circuit })
	if i < 0 {
		return &NotYetError{w.Say("Test %q is not on this job's sheet.", r.Subject)}
	}
	sheet := TestRows
	if tests[i].Live { // a permission that lapsed closes it
		sheet = TestSheet
	}
	stands := sheet(job, tests, facts, who, now)
	row := stands.Rows[i]
	if row.Closed != "" {
		return &NotYetError{row.Closed}
	}
	takes, fits := w.Say("a figure in %s", row.Unit), r.Value != nil || r.OverRange
	switch {
	case row.YesNo:
		takes, fits = w.Say("yes or no"), r.Passed != nil
	case len(row.Patterns) > 0:
		takes, fits = w.Say("one of %s", strings.Join(row.Patterns, ", ")), slices.Contains(row.Patterns, r.Answer)
	}
	switch {
	case !fits && r.CouldNot == "":
		return &NotYetError{w.Say("%s takes %s.", row.Title, takes)}
	case r.Box != "" && !slices.ContainsFunc(tests[i].Points, func(p rulebook.TestPoint) bool { return p.ID == r.Box }):
		return install.Errors{{Field: "reading.box", Value: r.Box, Accept: w.Say("a point of the run at which it is read, or nothing")}}
	case r.TestV != 0 && !slices.Contains(row.TestV, r.TestV):
		return install.Errors{{Field: "reading.testV", Value: fmt.Sprint(r.TestV),
			Accept: w.Say("a test voltage of this test, one of %v V", row.TestV)}}
	case r.NoTrip && !row.AsksNoTrip:
		return install.Errors{{Field: "reading.noTrip", Value: "true", Accept: w.Say("nothing: this test is not read through a residual-current device")}}
	case r.Supersedes != "" && strings.TrimSpace(r.Note) == "":
		return install.Errors{{Field: "reading.note", Value: r.Note,
			Accept: w.Say("why the reading takes the place of the one before: misread, or what was put right")}}
	}
	if err := clamped(w, facts.Terms, &r, partsNow(stands.Conductors, &tests[i], &r)); err != nil {
		return err
	}
	if possible := tests[i].Possible; possible != nil && r.Value != nil {
		if why := possible(r); why != "" {
			return &NotYetError{why}
		}
	}
	return nil
}

// allowLockOff lets a lock be taken off by whose it is; by the supervisor for somebody
// else only with the reason on record.
func allowLockOff(job *install.Job, who install.Person, r install.Record) error {
	w := job.Words
	for _, lock := range Locks(job) {
		switch {
		case lock.ID != r.Subject:
		case lock.IsBy(who):
			return nil
		case !Supervises(who):
			return &RoleError{who, r.Kind, w.Say("The lock is %s's: only its owner takes it off, or the supervisor with the reason on record.",
				lock.By)}
		default:
			return removes(w, lock.By, r)
		}
	}
	return &NotYetError{w.Say("This lock is off already: look at the newest.")}
}

// removes holds the taking off of somebody else's lock to its procedure: the owner is off the site, reached or tried, and what is behind the
// lock was walked and is clear.
func removes(w *words.Catalogue, owner string, r install.Record) error {
	out := install.Errors{}
	for _, f := range []struct{ field, value, accept string }{
		{"lock-off.reached", r.Reached, w.Say("how %s was reached, or how that was tried", owner)},
		{"lock-off.walked", r.Walked, w.Say("who walked all that lies behind the lock and found it clear")},
		{"lock-off.note", r.Note, w.Say("how it is known that %s is off the site", owner)},
	} {
		if strings.TrimSpace(f.value) == "" {
			out = append(out, install.FieldError{Field: f.field, Value: f.value, Accept: f.accept})
		}
	}
	if len(out) > 0 {
		return out
	}
	return nil
}

// Supervises reports whether a person may act on what others hung or isolated.
func Supervises(who install.Person) bool {
	return who.Role == Supervisor && who.Holds.Has(install.Releasing)
}

// allowLock lets anybody hang a lock of their own under an isolation whose lock hangs.
func allowLock(job *install.Job, r install.Record) error {
	if !slices.ContainsFunc(Locks(job), func(l install.Record) bool { return l.Kind == install.Isolation && l.ID == r.Subject }) {
		return &NotYetError{job.Words.Say("This isolation is not in force any more: look at the newest before you rely on it.")}
	}
	return nil
}

// allowCorrection lets an isolation take the place of another one of the same person, with
// what was wrong with it.
func allowCorrection(job *install.Job, r install.Record) error {
	w := job.Words
	if r.Supersedes == "" {
		return nil
	}
	old := job.RecordByID(r.Supersedes)
	switch {
	case old == nil:
		return nil
	case strings.TrimSpace(r.Note) == "":
		return install.Errors{{Field: "isolation.note", Value: r.Note, Accept: w.Say("what was wrong with the record that this corrects")}}
	}
	return nil
}

// allowWithdrawal lets an isolation be taken back by who made it or the supervisor. It proves
// nothing from then on; its lock hangs until it is taken off.
func allowWithdrawal(job *install.Job, who install.Person, r install.Record) error {
	w := job.Words
	old := job.RecordByID(r.Subject)
	switch {
	case old == nil || !isCurrent(job, install.Isolation, r.Subject):
		return &NotYetError{w.Say("This isolation is not there any more: look at the newest.")}
	case job.Withdrawn(r.Subject):
		return &NotYetError{w.Say("This isolation was withdrawn already.")}
	case !old.IsBy(who) && !Supervises(who):
		return &RoleError{who, r.Kind, w.Say("This isolation is %s's: only who made it, or the supervisor, withdraws it.", old.By)}
	}
	return nil
}

// BeforeHandover marks what may stay undone while the circuit is energised.
const BeforeHandover = "handover"

// allowLooseEnd: whoever is on site notes one; what must be put right before anything is
// energised is cleared by who is authorised to.
func allowLooseEnd(job *install.Job, who install.Person, r install.Record, tests []rulebook.Test) error {
	w := job.Words
	open := LooseEnds(job)
	i := slices.IndexFunc(open, func(l install.Record) bool { return l.ID == r.Subject })
	qualified := who.Holds.Has(install.Releasing)
	switch {
	case r.Supersedes != "" && r.Done, r.Supersedes != "" && i >= 0:
		return &NotYetError{w.Say("Only what was cleared is opened again.")}
	case r.Done && i < 0:
		return &NotYetError{w.Say("This snag is not open.")}
	case r.Done && (open[i].Path != BeforeHandover || open[i].Endangers()) && !qualified:
		return &RoleError{who, r.Kind, w.Say("It must be put right before anything is energised: whoever is authorised to clear what " +
			"holds the work looks at it and clears it.")}
	case !r.Done && r.Path == BeforeHandover && !qualified:
		return &RoleError{who, r.Kind, w.Say("Whoever is authorised to clear what holds the work decides that it may stay while the " +
			"circuit is energised.")}
	}
	if r.Done && (r.SpentH != nil || r.Cost != nil) && !install.LeftTraits[open[i].Left].Others {
		return install.Errors{{Field: "loose-end.spentH", Value: charged(&r),
			Accept: w.Say("nothing: only what others moved or covered is charged back; hours of ours stand with their step")}}
	}
	if r.Done && open[i].Left != "" {
		if proof := proofOf(job, tests, &open[i]); proof != "" {
			return &NotYetError{w.Say("%s: it is put right once there is %s.", Says(job, &open[i]), proof)}
		}
	}
	return nil
}

// charged is what a record charges, as it was given.
func charged(r *install.Record) string {
	said := []string{}
	for _, v := range []*float64{r.SpentH, r.Cost} {
		if v != nil {
			said = append(said, unit.Format(*v))
		}
	}
	return strings.Join(said, ", ")
}

// pictured reports whether there is a picture of what is named.
func pictured(job *install.Job, id string) bool {
	return slices.ContainsFunc(job.Current(install.Photo), func(r install.Record) bool { return r.Subject == id && !r.Done })
}

func isCurrent(job *install.Job, kind install.RecordKind, id string) bool {
	return slices.ContainsFunc(job.Current(kind), func(r install.Record) bool { return r.ID == id && !r.Done })
}

// shows reports whether a photo can be of what is named: the board, a room, a
// point, a circuit, an outlet of it, an enclosure or a record.
func shows(job *install.Job, id string) bool {
	if run, ok := strings.CutPrefix(id, "run-"); ok &&
		slices.ContainsFunc(job.Outdoor.Runs, func(r install.Run) bool { return r.ID == run }) {
		return true
	}
	if id == "board" || id == "intake" || id == "electrodes" || job.RoomByID(id) != nil || job.Chain.Enclosure(id) != nil {
		return true
	}
	for i := range job.Circuits {
		if job.Circuits[i].ID == id || slices.ContainsFunc(job.Circuits[i].Serves.Boxes,
			func(b install.Box) bool { return job.Circuits[i].ID+"/"+b.ID == id }) {
			return true
		}
	}
	for i := range job.Rooms {
		if slices.ContainsFunc(job.Rooms[i].Points, func(p install.RoomPoint) bool { return p.ID == id }) {
			return true
		}
	}
	return job.RecordByID(id) != nil
}

// Leaves are what a record leaves undone, where that is not noted already: the conductors that a test parts, an isolation withdrawn with work
// done under it, something looked after that was not in order.
// class is how the practice calls a danger.
func Leaves(job *install.Job, r *install.Record, tests []rulebook.Test, class string) []install.Record {
	w := job.Words
	left := ""
	switch r.Kind {
	case install.LooseEnd:
		return leftLeaves(job, r, class)
	case install.Reading:
		return parts(job, r, tests)
	case install.Withdrawal:
		if old := job.RecordByID(r.Subject); old != nil && workedUnder(job, old) {
			left = w.Say("%s: an isolation was withdrawn; look again at what was done under it, and prove it dead anew: %s",
				old.Source, r.Note)
		}
	case install.LookedAfter:
		if r.Passed != nil && !*r.Passed {
			left = w.Say("Not in order when looked after: %s", r.Note)
		}
	}
	if left == "" || slices.ContainsFunc(LooseEnds(job), func(l install.Record) bool { return l.Note == left }) {
		return nil
	}
	return []install.Record{{Kind: install.LooseEnd, Note: left}}
}

// parts are the conductors that a reading parts and that are not on record as parted.
func parts(job *install.Job, r *install.Record, tests []rulebook.Test) (out []install.Record) {
	i := slices.IndexFunc(tests, func(t rulebook.Test) bool { return t.ID == r.Subject && t.Circuit == r.Circuit })
	if i < 0 {
		return nil
	}
	all := Conductors(job, tests)
	for _, p := range tests[i].Parts(r) {
		if c := conductor(all, p.ID); c.Parted == nil {
			end := install.Record{Kind: install.LooseEnd, Note: c.Name, Parted: c.ID}
			if c.Clamped {
				end.ClampA, end.AcrossV, end.Bridged = r.ClampA, r.AcrossV, r.Bridged
			}
			out = append(out, end)
		}
	}
	return out
}

// workedUnder reports whether whoever isolated has ticked a step or read a test since.
func workedUnder(job *install.Job, isolation *install.Record) bool {
	return slices.ContainsFunc(job.Records, func(r install.Record) bool {
		return (r.Kind == install.Tick && r.Done || r.Kind == install.Reading) && r.IsBy(isolation.Who()) &&
			!isolation.Moment().After(r.Moment())
	})
}

// LooseEnds returns what is left temporarily undone and not yet cleared.
func LooseEnds(job *install.Job) []install.Record {
	cleared := map[string]bool{}
	current := job.Current(install.LooseEnd)
	for i := range current {
		if current[i].Done {
			cleared[current[i].Subject] = true
		}
	}
	out := []install.Record{}
	for _, r := range current {
		if !r.Done && (r.Supersedes == "" || r.Left != "") && !cleared[r.ID] {
			out = append(out, r)
		}
	}
	return out
}

// ClearedEnds returns what was left undone and is cleared, the newest clearing first.
func ClearedEnds(job *install.Job) []install.Record {
	out := []install.Record{}
	current := job.Current(install.LooseEnd)
	for i := range slices.Backward(current) {
		if current[i].Done {
			out = append(out, current[i])
		}
	}
	return out
}

// allowTrace holds what was traced to circuits that are there, and to points and boxes of the job.
func allowTrace(job *install.Job, r install.Record) error {
	w := job.Words
	bad := func(field string, value any, accept string) error {
		return install.Errors{{Field: "trace." + field, Value: fmt.Sprint(value), Accept: accept}}
	}
	k := job.CircuitByID(r.Circuit)
	switch {
	case k == nil || k.State == install.NewCircuit:
		return bad("circuit", r.Circuit, w.Say("a circuit that is there: what the job makes is not traced"))
	case r.Subject != "" && k.Serves.BoxByID(r.Subject) == nil:
		return bad("subject", r.Subject, w.Say("a box of %s, or nothing for its device at the board", k.Name))
	}
	for _, x := range r.Traced {
		switch p := job.PointOf(&install.Box{Room: x.Room, Point: x.Point}); {
		case x.Box != "" && k.Serves.BoxByID(x.Box) == nil:
			return bad("traced.box", x.Box, w.Say("a box of %s", k.Name))
		case x.Box == "" && (p == nil || p.State == install.New):
			return bad("traced.point", x.Point, w.Say("a point of the survey that is there"))
		case x.Box == "" && x.Dead+x.Live > p.Count:
			return bad("traced.dead", x.Dead+x.Live, w.Say("at most %d: there are no more", p.Count))
		}
	}
	return nil
}
