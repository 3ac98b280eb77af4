// Package proving is the order in which an installation is proved: isolated,
// tested dead, permitted to be energised, tested live.
//
// It decides what may be recorded now and why not, and lays out the test
// sheet. It never supplies a reading: an expected figure leaves this package
// only beside a figure that a person has entered.
package proving

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// The roles of a company's people.
const (
	Owner       = install.RoleOwner
	Supervisor  = install.RoleSupervisor
	Electrician = install.RoleElectrician
	Apprentice  = install.RoleApprentice
	Office      = install.RoleOffice
)

// Manages reports whether a role keeps the company's lists and brings in job
// files, which carry records of others.
func Manages(role string) bool { return role == Owner || role == Supervisor || role == Office }

// RoleError says that a person may not make a record.
type RoleError struct {
	Who  install.Person
	Kind install.RecordKind
	Why  string
}

func (e *RoleError) Error() string { return e.Why }

// MayMake errs where a record is not a person's to make.
func MayMake(w *words.Catalogue, who install.Person, kind install.RecordKind) error {
	if who.MayAdd(kind) {
		return nil
	}
	return mayNot(w, who, kind)
}

// mayNot is the error of a record that is not a person's to make, and names whose it is.
func mayNot(w *words.Catalogue, who install.Person, kind install.RecordKind) error {
	rule := install.RecordRules[kind]
	called := w.Say(string(install.KindNames[kind]))
	if rule.Role(who.Role) {
		return &RoleError{who, kind, w.Say("%s: %s is not authorised for it on this job. It is for %s.", called, who.Name, rule.May(w))}
	}
	return &RoleError{who, kind, w.Say("%s: not for the role %s. It is for %s.", called, w.Say(who.Role), rule.May(w))}
}

// Row is one line of the test sheet.
type Row struct {
	ID         string           `json:"id"`
	Circuit    string           `json:"circuit"`
	Title      string           `json:"title"`
	Live       bool             `json:"live"`
	YesNo      bool             `json:"yesNo"`
	Patterns   []string         `json:"patterns"` // one of which is answered; empty for a figure, or yes or no
	Unit       string           `json:"unit"`
	Where      string           `json:"where"`
	Caution    string           `json:"caution"`
	Verdict    working.Verdict  `json:"verdict"`
	Summary    string           `json:"summary"`
	AsksTemp   bool             `json:"asksTemp"`
	AsksNoTrip bool             `json:"asksNoTrip"` // whether it was read with a test that does not trip
	Calculated *float64         `json:"calculated"` // the figure that is judged in the place of the reading
	Expected   *float64         `json:"expected"`   // only beside a reading
	TestV      []float64        `json:"testV"`      // the test voltages it may be read at, V; empty where there is no choice
	Reading    *install.Record  `json:"reading"`    // the worst of those that count
	Points     []PointRead      `json:"points"`     // the points at which it is read, with what was read there; empty where it has none of its own
	Beside     []install.Record `json:"beside"`     // the others that count: at other points, newest first
	Earlier    []install.Record `json:"earlier"`    // corrected, or older than the work; newest first
	Closed     string           `json:"closed"`     // why it cannot be recorded now
	Parting    []string         `json:"parting"`    // conductors of earth, bonding or neutral that it parts now, by name: their current is clamped first
	Explain    bool             `json:"explain"`    // the reading waits for the reason why it is what it is
	Answered   bool             `json:"answered"`   // it fails, and a finding of the report is about it

	// Orderable: it failed live, and the supervisor may order a retest or a search for its fault; Ordered is the order.
	Orderable bool            `json:"orderable"`
	Ordered   *install.Record `json:"ordered"`

	needed bool // before anything is energised
}

// PointRead is a point at which a test is read, with the reading that counts there; nil while there is none.
type PointRead struct {
	ID      string          `json:"id"`
	Name    string          `json:"name"`
	Reading *install.Record `json:"reading"`
	Verdict working.Verdict `json:"verdict"`
}

// At is the name of the point of the reading that counts; empty where it names none.
func (r *Row) At() string {
	for i := range r.Points {
		if r.Reading != nil && r.Points[i].ID == r.Reading.Box {
			return r.Points[i].Name
		}
	}
	return ""
}

// read notes a reading at its point: the worse of several, as they come.
func (r *Row) read(t *rulebook.Test, of *install.Record, v working.Verdict) {
	for i := range r.Points {
		p := &r.Points[i]
		if of.Box != "" && p.ID == of.Box && (p.Reading == nil || v.Worse(p.Verdict) || v == p.Verdict && t.Worse(of, p.Reading)) {
			p.Reading, p.Verdict = of, v
		}
	}
}

// unread are the names of the points that were not read, of a test that was read at some of them by name.
func (r *Row) unread() []string {
	out := []string{}
	for i := range r.Points {
		if r.Points[i].Reading == nil {
			out = append(out, r.Points[i].Name)
		}
	}
	if len(out) == len(r.Points) {
		return nil
	}
	return out
}

// Sheet is the test sheet.
type Sheet struct {
	Rows       []Row            `json:"rows"`
	Isolation  *install.Record  `json:"isolation"` // in force for the person who looks
	Locks      []install.Record `json:"locks"`     // isolations whose lock hangs, of anybody
	Isolations []Isolated       `json:"isolations"`
	Removed    []install.Record `json:"removed"` // locks of whoever looks that others took off, and that they do not know of yet
	Devices    []isolate.Device `json:"devices"` // that can be opened
	Places     []isolate.Place  `json:"places"`  // where people work
	Serves     *install.Record  `json:"serves"`  // whose closing proof of the tester serves whoever looks as the one before, now
	Energised  *install.Record  `json:"energised"`
	Parts      []Part           `json:"parts"`
	Use        []Used           `json:"use"`   // of every circuit whether it is in use
	Guard      Guard            `json:"guard"` // what a guarded energising asks
	Cards      Cards            `json:"cards"`
	Boards     []BoardLive      `json:"boards"`
	Conductors []Conductor      `json:"conductors"` // that may be parted for a test, with those that are
	// Suspect is the reading that says that the neutral or combined conductor of the supply may be open; nil while none does.
	Suspect *Suspect        `json:"suspect"`
	NotOn   []string        `json:"-"` // what the job makes, alters or opened that is not in service, by name
	Verdict working.Verdict `json:"verdict"`

	locked []string // devices that a lock keeps open, whosever
	live   *Live
}

// Suspect is a neutral or combined conductor that may be open.
type Suspect struct {
	Title    string    `json:"title"` // of the test
	Summary  string    `json:"summary"`
	By       string    `json:"by"`
	At       time.Time `json:"at"`
	Reported bool      `json:"reported"` // to the network operator, since

	test *rulebook.Test
}

// Waits are what the part that is closed first waits for to be energised for a test, none of a job without a board.
func (s Sheet) Waits() []Waits {
	if len(s.Parts) == 0 {
		return []Waits{}
	}
	return s.Parts[0].For[0].Waits
}

// MayEnergise is the first of what that part waits for, empty where it may be energised.
func (s Sheet) MayEnergise() string {
	if waits := s.Waits(); len(waits) > 0 {
		return waits[0].Why
	}
	return ""
}

// Danger is a finding under which people are at risk: in a circuit, or anywhere where that is empty.
type Danger struct {
	Title, Circuit string
	Refused        bool // by whoever decides it, with the notice of it in their hands
}

// Facts are what the plan and the design say of a job that decides what may be
// proved and energised.
type Facts struct {
	// Worked is when work that opens something was last ticked or taken back, by
	// circuit; under the empty id, work that belongs to no circuit.
	Worked map[string][]install.Moment
	// Boarded is when walls were closed over points of a circuit, where insulation is read again after that.
	Boarded map[string][]install.Moment
	// Dangers are the findings under which people are at risk and that are not made safe: what they endanger is energised by nobody of ours.
	Dangers []Danger
	// House is what can be opened and where people work, Terms are those of the practice.
	House *isolate.House
	Terms *install.Terms
	// Open are steps of first and second fix that are not done. Fails are checks of the design that fail, Service those that wait for something
	// before anything is put into service, Asked those of which the network operator is asked before the work and has not agreed.
	Open                  []OpenStep
	Fails, Service, Asked []Waits
	// Begun are the places where work was done that a dead test proves, by circuit; under the empty id whatever belongs to none.
	Begun map[string][]string
}

// worked is when work was done that a test proves: insulation is pierced by whoever boards over it, too.
func (f *Facts) worked(t *rulebook.Test, circuit string) []install.Moment {
	if t.Pierced && len(f.Boarded[circuit]) > 0 {
		return slices.Concat(f.Worked[circuit], f.Boarded[circuit])
	}
	return f.Worked[circuit]
}

// touched reports whether the job makes a circuit, or work on it was done.
func (f *Facts) touched(k *install.Circuit) bool {
	return k.State == install.NewCircuit || len(f.Worked[k.ID]) > 0
}

// begun reports whether work was done at a place: on a circuit, or where that is empty on what belongs to none.
func (f *Facts) begun(circuit, place string) bool { return slices.Contains(f.Begun[circuit], place) }

// TestSheet lays out the tests and what may be energised as they stand for a person at a time.
func TestSheet(job *install.Job, tests []rulebook.Test, facts *Facts, by install.Person, now time.Time) Sheet {
	s := TestRows(job, tests, facts, by, now)
	s.Energised = s.live.newest()
	s.Parts = s.parts(job, tests, facts, by, now)
	s.NotOn, s.Use = s.notInService(job, facts), s.inUse(job, facts)
	s.lapse(job, facts.House, tests)
	s.Guard, s.Boards = s.guard(job, facts, by), s.boards(job, facts)
	s.Cards = cardsOf(job, facts.House)
	return s
}

// TestRows are the tests as they stand for a person at a time, without what may be energised.
func TestRows(job *install.Job, tests []rulebook.Test, facts *Facts, by install.Person, now time.Time) Sheet {
	w := job.Words
	s := Sheet{Rows: make([]Row, 0, len(tests)), Verdict: working.Pass, Locks: Locks(job)}
	scope := facts.scope(job, by, now)
	s.Serves = serving(job, scope.terms, by, now)
	s.Isolation, s.Isolations, s.Removed, s.Devices, s.Places = scope.InForce(), scope.List, scope.removed, scope.house.Devices, scope.house.Places
	s.locked, s.live = locked(job, s.Locks), LiveOf(job, scope.house)
	read := rulebook.ReadingsOf(job)
	answered := map[string]bool{} // only a report takes a finding for an answer
	if job.Trait().Report {
		answered = job.Answered()
	}
	why := map[string]string{} // remarks by the reading that they explain
	for _, r := range job.Current(install.Remark) {
		why[r.Subject] = r.Note
	}
	stop := "" // a live reading after which nothing may be tested but what it was about
	for i := range tests {
		on := s.live.At(placeOf(job, scope.house, &tests[i]))
		row := rowOf(job, &tests[i], read, why, facts, on)
		row.Answered = row.Verdict == working.Fail && answered[install.TestKey(row.Circuit, row.ID)]
		if tests[i].Stops && row.Verdict == working.Fail && on != nil && row.Reading.Moment().After(on.Moment()) {
			stop = row.Title
		}
		if row.Live && row.Verdict == working.Fail && row.Reading != nil && !row.Answered {
			row.Ordered, row.Orderable = orderOf(job, row.Reading), !tests[i].Stops
			if tests[i].Suspected(row.Reading) {
				row.Orderable = reportedSince(job, row.Reading)
				if s.Suspect == nil && row.Ordered == nil && !reworked(facts, &row) && !mendedSince(job, row.Reading) {
					s.Suspect = &Suspect{row.Title + " " + unit.With(unit.Significant(*row.Reading.Value, 4), row.Unit), row.Summary, row.Reading.By,
						row.Reading.At, row.Orderable, &tests[i]}
				}
			}
		}
		s.Rows = append(s.Rows, row)
	}
	s.Conductors = Conductors(job, tests)
	for i := range tests {
		t, row, place := &tests[i], &s.Rows[i], placeOf(job, scope.house, &tests[i])
		energised := s.live.At(place) != nil
		for _, c := range partsNow(s.Conductors, t, &install.Record{}) {
			row.Parting = append(row.Parting, c.Name)
		}
		switch {
		case t.Missing != "":
			row.Closed = t.Missing
		case s.Suspect != nil && len(row.Parting) > 0:
			row.Closed = w.Say("An open neutral is suspected (%s): nothing of earth, bonding or neutral is disconnected.", s.Suspect.Title)
		case s.Suspect != nil && t.Live && (!t.Stops || t.Loaded):
			row.Closed = w.Say("An open neutral is suspected (%s): open the main switch now. Nothing else is tested live.", s.Suspect.Title)
		case firstMissing(t, read) != "":
			row.Closed = w.Say("First the test that it comes after.")
		case t.Origin && energised:
			row.Closed = w.Say("It is read with the installation isolated: main switch off, locked and proved dead first.")
		case t.Live && !energised:
			row.Closed = w.Say("Live test: needs permission to energise first.")
		case t.Live && stop != "" && !t.Stops:
			row.Closed = w.Say("%s failed: open the main switch, lock it and find the cause before anything else is tested.", stop)
		case !t.Live && energised:
			row.Closed = w.Say("The circuit is energised: isolate and prove dead again first.")
		case !t.Live && scope.Expected(place) != "":
			row.Closed = scope.Expected(place)
		case by.Role != "" && !by.MayAdd(install.Reading):
			row.Closed = mayNot(w, by, install.Reading).Error()
		}
		s.Verdict = working.Worst(s.Verdict, row.Verdict)
	}
	if len(tests) == 0 {
		s.Verdict = working.Unknown
	}
	return s
}

// scope is what is dead for a person. Where nobody worked out the installation it has no place that could be.
func (f *Facts) scope(job *install.Job, by install.Person, now time.Time) *Scope {
	terms, house := f.Terms, f.House
	if terms == nil {
		terms = &install.Terms{}
	}
	if house == nil {
		house = isolate.Of(job, terms)
	}
	f.House, f.Terms = house, terms
	return ScopeOf(job, house, terms, by, now)
}

// placeOf is the place of which a test is read dead: its circuit, the board or enclosure that it names, else the main board.
func placeOf(job *install.Job, house *isolate.House, t *rulebook.Test) string {
	if t.Circuit != "" {
		return isolate.CircuitPlace(t.Circuit)
	}
	if _, of, ok := strings.Cut(t.ID, ":"); ok {
		if b := job.BoardByID(of); b != nil && !b.Main() {
			return isolate.BoardPlace(b)
		}
		if job.Chain.Enclosure(of) != nil {
			return house.PlaceIn(of)
		}
	}
	return isolate.BoardPlace(&job.Board)
}

// NeedsIsolation says what is missing to a person without an isolation of their own.
func NeedsIsolation(w *words.Catalogue, what string, by install.Person) string {
	if !by.Holds.Has(install.Isolating) && by.Role != "" {
		return w.Say("%s is done dead: whoever is authorised isolates and proves it dead, and you hang a lock of your own under theirs.", what)
	}
	return w.Say("%s is done dead: it needs your own isolation of today, read and found dead, with nothing energised since.", what)
}

// rowOf is a test as its readings stand.
func rowOf(job *install.Job, t *rulebook.Test, read rulebook.Readings, why map[string]string, facts *Facts, on *install.Record) Row {
	w := job.Words
	row := Row{ID: t.ID, Circuit: t.Circuit, Title: t.Title, Live: t.Live, YesNo: t.YesNo,
		Patterns: append([]string{}, t.Patterns...), Unit: t.Unit, Where: t.Where, Caution: t.Caution, AsksTemp: t.AsksTemp,
		AsksNoTrip: t.Calculated != nil,
		TestV:      append([]float64{}, t.TestV...),
		Verdict:    working.Unknown, Beside: []install.Record{}, Earlier: []install.Record{}, Points: []PointRead{}, Parting: []string{}}
	for _, p := range t.Points {
		row.Points = append(row.Points, PointRead{ID: p.ID, Name: p.Name, Verdict: working.Unknown})
	}
	// What is read at the origin needs no reading before energising, but what follows
	// from it once it was read.
	row.needed = !t.Live && !t.Origin
	if t.FromOrigin {
		row.needed = firstMissing(t, read) == ""
	}
	all := read[rulebook.ReadingOf{Test: t.ID, Circuit: t.Circuit}]
	if len(all) == 0 {
		return row
	}
	since := boundary(job, t, all[0], facts)
	corrected := rulebook.Corrected(all)
	var worst *install.Record
	for _, r := range all {
		if corrected[r.ID] || before(r, since) || r.CouldNot != "" && r != all[0] {
			row.Earlier = append(row.Earlier, *r)
			continue
		}
		verdict, says := judge(w, t, *r)
		explain := false
		if verdict == working.Caution && t.Explain != nil && t.Explain(*r) {
			if explain = why[r.ID] == ""; explain {
				verdict, says = working.Unknown, w.Say("%s Say why before it counts.", says)
			} else {
				says += " " + w.Say("Explained: %s.", strings.TrimSuffix(why[r.ID], "."))
			}
		}
		row.read(t, r, verdict)
		switch {
		case worst == nil:
			worst, row.Verdict, row.Summary, row.Explain = r, verdict, says, explain
		case verdict.Worse(row.Verdict) || verdict == row.Verdict && t.Worse(r, worst):
			row.Beside = append(row.Beside, *worst)
			worst, row.Verdict, row.Summary, row.Explain = r, verdict, says, explain
		default:
			row.Beside = append(row.Beside, *r)
		}
	}
	if worst == nil {
		return row
	}
	row.Reading, row.Expected = worst, t.Expected
	if t.Calculated != nil {
		if v, ok := t.Calculated(*worst); ok {
			row.Calculated = &v
		}
	}
	if at := row.At(); at != "" {
		row.Summary = w.Say("The worst is at %s. %s", at, row.Summary)
	}
	if open := row.unread(); len(open) > 0 && row.Verdict != working.Fail {
		row.Verdict = working.Unknown
		row.Summary = w.Say("Read at %d of %d points; still to be read: %s. %s", len(row.Points)-len(open), len(row.Points),
			strings.Join(open[:min(3, len(open))], ", "), row.Summary)
	}
	if old := stale(job, t, worst, read, facts, on); old != "" {
		row.Verdict, row.Summary, row.Explain = working.Unknown, old, false
	}
	return row
}

// boundary is the time before which readings of a test no longer count beside the
// newest one: what was read before the work, or before the supply was last put on,
// was of another state.
func boundary(job *install.Job, t *rulebook.Test, newest *install.Record, facts *Facts) []install.Moment {
	var since []install.Moment
	add := func(m install.Moment) {
		if !m.After(newest.Moment()) {
			since = append(since, m)
		}
	}
	if !t.Live {
		for _, circuit := range []string{t.Circuit, ""} {
			for _, m := range facts.worked(t, circuit) {
				add(m)
			}
		}
		return since
	}
	for i := range job.Records {
		r := &job.Records[i]
		if r.Kind == install.Energise && (len(r.Closes) == 0 || r.Use == install.ForTest && slices.Contains(r.Part, placeOf(job, facts.House, t))) {
			add(r.Moment())
		}
	}
	return since
}

// before reports whether a reading is surely older than any of some moments.
func before(r *install.Record, of []install.Moment) bool {
	return slices.ContainsFunc(of, func(m install.Moment) bool { return m.After(r.Moment()) })
}

// stale says why a reading does not prove what stands there now; empty when it does.
func stale(job *install.Job, t *rulebook.Test, r *install.Record, read rulebook.Readings, facts *Facts, on *install.Record) string {
	w := job.Words
	for _, first := range t.After {
		if before := newestOf(read, first, t.Circuit); before != nil && !r.Moment().After(before.Moment()) {
			return w.Say("Older than the test it comes after: do it again.")
		}
	}
	if !t.Origin { // of a live test too: work that came after it voids it
		for _, circuit := range []string{t.Circuit, ""} {
			for _, m := range facts.worked(t, circuit) {
				if !r.Moment().After(m) {
					return w.Say("Older than the last work that it is to prove: do it again.")
				}
			}
		}
	}
	if on != nil && on.Use != install.IntoUse && t.SinceOn && !r.Moment().After(on.Moment()) && (on.Use != install.RestoreUse || openedSince(job, r, on)) {
		return w.Say("Read before the supply was last put on: do it again.")
	}
	return ""
}

// openedSince reports whether something was opened between a reading and a permission: what is restored while it is on was on all along.
func openedSince(job *install.Job, r, on *install.Record) bool {
	return slices.ContainsFunc(job.Records, func(o install.Record) bool {
		return o.Kind == install.Isolation && o.Moment().After(r.Moment()) && on.Moment().After(o.Moment())
	})
}

// newestOf is the newest reading of a test, of the circuit or of the installation.
func newestOf(read rulebook.Readings, test, circuit string) *install.Record {
	if r := read.Newest(test, circuit); r != nil || circuit == "" {
		return r
	}
	return read.Newest(test, "")
}

// firstMissing is a test that t comes after and that has no reading yet.
func firstMissing(t *rulebook.Test, read rulebook.Readings) string {
	for _, first := range t.After {
		if newestOf(read, first, t.Circuit) == nil {
			return first
		}
	}
	return ""
}

// Unread names a dead or a live test that is not done or failed and that no finding answers, of some circuits where those are named; empty
// where all of them stand.
func (s *Sheet) Unread(live bool, of func(circuit string) bool) string {
	for i := range s.Rows {
		r := &s.Rows[i]
		if r.Live == live && (live || r.needed) && r.Verdict.Worse(working.Caution) && !r.Answered && (of == nil || of(r.Circuit)) {
			return r.Title
		}
	}
	return ""
}

func judge(w *words.Catalogue, t *rulebook.Test, r install.Record) (working.Verdict, string) {
	switch {
	case r.CouldNot != "":
		return working.Unknown, w.Say("Could not be tested: %s", r.CouldNot)
	case t.YesNo && r.Passed == nil, len(t.Patterns) > 0 && r.Answer == "",
		len(t.Patterns) == 0 && !t.YesNo && r.Value == nil && !r.OverRange:
		return working.Unknown, w.Say("The reading does not fit the test.")
	case r.OverRange && t.Unit != "MΩ" && t.Unit != "ms":
		return working.Fail, w.Say("Over range: an open circuit or the wrong range.")
	}
	v, says := t.Judge(r)
	if r.Calibrated != "" && r.Calibrated < r.At.Format(time.DateOnly) && v == working.Pass {
		return working.Caution, w.Say("%s The instrument's calibration had run out on %s.", says, r.Calibrated)
	}
	return v, says
}
