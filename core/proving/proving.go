// Package proving is the order in which an installation is proved: isolated,
// tested dead, permitted to be energised, tested live.
//
// It decides what may be recorded now and why not, and lays out the test
// sheet. It never supplies a reading: an expected figure leaves this package
// only beside a figure that a person has entered.
package proving

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/words"
	"arvelt/core/working"
)

// The roles of a company's people.
const (
	Owner       = "owner"
	Supervisor  = "supervisor"
	Electrician = "electrician"
	Apprentice  = "apprentice"
	Office      = "office"
)

// Roles lists them.
var Roles = []string{Owner, Supervisor, Electrician, Apprentice, Office}

// May reports whether a role may make a record of a kind. Electrical work is
// proved and energised by the qualified; an apprentice ticks and measures
// under their eye; only the qualified supervisor signs.
func May(role string, kind install.RecordKind) bool {
	switch kind {
	case install.Signature:
		return role == Supervisor
	case install.Energise, install.Isolation, install.LockOff, install.Remark:
		return role == Supervisor || role == Electrician
	case install.Reading, install.Tick, install.LooseEnd:
		return role == Supervisor || role == Electrician || role == Apprentice
	case install.Reopen:
		return role == Supervisor || role == Owner
	case install.SurveyReading:
		return role == Supervisor || role == Electrician || role == Apprentice
	case install.Observation:
		return role == Supervisor || role == Electrician || role == Apprentice || role == Owner
	case install.FindingStep:
		return slices.Contains(Roles, role)
	case install.Scope, install.Variation, install.Decision:
		return role != Apprentice && slices.Contains(Roles, role)
	}
	return slices.Contains(Roles, role)
}

// Manages reports whether a role keeps the company's lists and brings in job
// files, which carry records of others.
func Manages(role string) bool { return role == Owner || role == Supervisor || role == Office }

// RoleError says that a role may not make a record.
type RoleError struct {
	Role string
	Kind install.RecordKind
}

func (e *RoleError) Error() string {
	may := []string{}
	for _, r := range Roles {
		if May(r, e.Kind) {
			may = append(may, r)
		}
	}
	return fmt.Sprintf("%s: role %q may not; it takes one of %v", e.Kind, e.Role, may)
}

// NotYetError says what must come first.
type NotYetError struct{ Why string }

func (e *NotYetError) Error() string { return e.Why }

// IsolationInForce returns the isolation that makes work by a person safe now:
// made the same day by the same person, whose lock still hangs, with nothing
// energised since. Lines are of the day in now's own time zone.
func IsolationInForce(job *install.Job, by install.Person, now time.Time) (install.Record, bool) {
	for _, r := range Locks(job) {
		if r.IsBy(by) {
			at := r.At.In(now.Location())
			return r, at.Year() == now.Year() && at.YearDay() == now.YearDay()
		}
	}
	return install.Record{}, false
}

// Locks returns the isolations whose lock hangs: the newest of each person since
// something was energised, until its lock is taken off. They hang whatever the day.
func Locks(job *install.Job) []install.Record {
	out := []install.Record{}
	var seen []install.Person // a person has one lock: an older isolation of theirs is under the same
	off := map[string]bool{}
	for i := len(job.Records) - 1; i >= 0; i-- {
		r := &job.Records[i]
		switch r.Kind {
		case install.Energise:
			return out
		case install.LockOff:
			off[r.Subject] = true
		case install.Isolation:
			if slices.ContainsFunc(seen, r.IsBy) {
				continue
			}
			seen = append(seen, r.Who())
			if !off[r.ID] {
				out = append(out, *r)
			}
		}
	}
	return out
}

// Energised reports whether permission to energise is the newest of isolations
// and permissions.
func Energised(job *install.Job) (install.Record, bool) {
	for i := len(job.Records) - 1; i >= 0; i-- {
		switch job.Records[i].Kind {
		case install.Energise:
			return job.Records[i], true
		case install.Isolation:
			return install.Record{}, false
		}
	}
	return install.Record{}, false
}

// Row is one line of the test sheet.
type Row struct {
	ID       string           `json:"id"`
	Circuit  string           `json:"circuit"`
	Title    string           `json:"title"`
	Live     bool             `json:"live"`
	YesNo    bool             `json:"yesNo"`
	Patterns []string         `json:"patterns"` // one of which is answered; empty for a figure, or yes or no
	Unit     string           `json:"unit"`
	Where    string           `json:"where"`
	Caution  string           `json:"caution"`
	Verdict  working.Verdict  `json:"verdict"`
	Summary  string           `json:"summary"`
	AsksTemp bool             `json:"asksTemp"`
	Expected *float64         `json:"expected"` // only beside a reading
	TestV    []float64        `json:"testV"`    // the test voltages it may be read at, V; empty where there is no choice
	Reading  *install.Record  `json:"reading"`  // the worst of those that count
	Beside   []install.Record `json:"beside"`   // the others that count: at other points, newest first
	Earlier  []install.Record `json:"earlier"`  // corrected, or older than the work; newest first
	Closed   string           `json:"closed"`   // why it cannot be recorded now
	Explain  bool             `json:"explain"`  // the reading waits for the reason why it is what it is

	needed bool // before anything is energised
}

// Ask is one thing that whoever permits to energise has to have seen.
type Ask struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

// Asks are what must have been seen before the permission.
var Asks = []Ask{
	{"covers", string(words.Key("Every cover is on, and no conductor is left bare"))},
	{"people", string(words.Key("Everyone on site is told and clear of the work"))},
	{"own-lock", string(words.Key("My own lock and tag are off"))},
}

// asksOf are the asks in the words of a practice.
func asksOf(w *words.Catalogue) []Ask {
	out := slices.Clone(Asks)
	for i := range out {
		out[i].Title = w.Say(out[i].Title)
	}
	return out
}

// Sheet is the test sheet.
type Sheet struct {
	Rows        []Row            `json:"rows"`
	Isolation   *install.Record  `json:"isolation"` // in force for the person who looks
	Locks       []install.Record `json:"locks"`     // isolations whose lock hangs, of anybody
	Energised   *install.Record  `json:"energised"`
	MayEnergise string           `json:"mayEnergise"` // empty when permitted, otherwise why not
	Asks        []Ask            `json:"asks"`
	DeadDone    bool             `json:"deadDone"`
	Verdict     working.Verdict  `json:"verdict"`
}

// Facts are what the plan and the design say of a job that decides what may be
// proved and energised.
type Facts struct {
	// Worked is when work that opens something was last ticked or taken back, by
	// circuit; under the empty id, work that belongs to no circuit.
	Worked map[string]time.Time
	// Open is a step of first or second fix that is not done, Fails a check of the
	// design that fails; each empty without one.
	Open, Fails string
}

// TestSheet lays out the tests as they stand for a person at a time.
func TestSheet(job *install.Job, tests []rulebook.Test, facts *Facts, by install.Person, now time.Time) Sheet {
	w := job.Words
	s := Sheet{Rows: make([]Row, 0, len(tests)), Verdict: working.Pass, DeadDone: len(tests) > 0, Asks: asksOf(w), Locks: Locks(job)}
	iso, isolated := IsolationInForce(job, by, now)
	if isolated {
		s.Isolation = &iso
	}
	on, energised := Energised(job)
	if energised {
		s.Energised = &on
	}
	read := rulebook.ReadingsOf(job)
	why := map[string]string{} // remarks by the reading that they explain
	for _, r := range job.Current(install.Remark) {
		why[r.Subject] = r.Note
	}
	stop := "" // a live reading after which nothing may be tested but what it was about
	for i := range tests {
		row := rowOf(job, &tests[i], read, why, facts)
		if tests[i].Stops && row.Verdict == working.Fail && energised && row.Reading.At.After(on.At) {
			stop = row.Title
		}
		s.Rows = append(s.Rows, row)
	}
	for i := range tests {
		t, row := &tests[i], &s.Rows[i]
		switch {
		case t.Missing != "":
			row.Closed = t.Missing
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
		case !t.Live && isolated && iso.OneHot && t.Circuit == "":
			row.Closed = w.Say("One circuit is isolated, the board is live: isolate at the main switch first.")
		case !t.Live && !isolated:
			row.Closed = NeedsIsolation(w, w.Say("This test"), by.Role)
		}
		if row.needed && row.Verdict.Worse(working.Caution) {
			s.DeadDone = false
		}
		s.Verdict = working.Worst(s.Verdict, row.Verdict)
	}
	s.MayEnergise = mayEnergise(&s, job, facts, by)
	if len(tests) == 0 {
		s.Verdict = working.Unknown
	}
	return s
}

// NeedsIsolation says what is missing to a person of a role without an isolation of
// their own.
func NeedsIsolation(w *words.Catalogue, what, role string) string {
	if !May(role, install.Isolation) && role != "" {
		return w.Say("%s is done dead: an electrician or the supervisor isolates, locks and proves it dead, and does it or lets "+
			"you do it under their eye with a record of their own.", what)
	}
	return w.Say("%s is done dead: it needs your own isolation record of today, with nothing energised since.", what)
}

// rowOf is a test as its readings stand.
func rowOf(job *install.Job, t *rulebook.Test, read rulebook.Readings, why map[string]string, facts *Facts) Row {
	w := job.Words
	row := Row{ID: t.ID, Circuit: t.Circuit, Title: t.Title, Live: t.Live, YesNo: t.YesNo,
		Patterns: append([]string{}, t.Patterns...), Unit: t.Unit, Where: t.Where, Caution: t.Caution, AsksTemp: t.AsksTemp,
		TestV:   append([]float64{}, t.TestV...),
		Verdict: working.Unknown, Beside: []install.Record{}, Earlier: []install.Record{}}
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
		if corrected[r.ID] || r.At.Before(since) || r.CouldNot != "" && r != all[0] {
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
	if old := stale(job, t, worst, read, facts); old != "" {
		row.Verdict, row.Summary, row.Explain = working.Unknown, old, false
	}
	return row
}

// boundary is the time before which readings of a test no longer count beside the
// newest one: what was read before the work, or before the supply was last put on,
// was of another state.
func boundary(job *install.Job, t *rulebook.Test, newest *install.Record, facts *Facts) time.Time {
	since := time.Time{}
	if !t.Live {
		for _, circuit := range []string{t.Circuit, ""} {
			if at := facts.Worked[circuit]; at.After(since) && !at.After(newest.At) {
				since = at
			}
		}
		return since
	}
	for i := range job.Records {
		if r := &job.Records[i]; r.Kind == install.Energise && !r.At.After(newest.At) {
			since = r.At
		}
	}
	return since
}

// stale says why a reading does not prove what stands there now; empty when it does.
func stale(job *install.Job, t *rulebook.Test, r *install.Record, read rulebook.Readings, facts *Facts) string {
	w := job.Words
	for _, first := range t.After {
		if before := newestOf(read, first, t.Circuit); before != nil && !r.At.After(before.At) {
			return w.Say("Older than the test it comes after: do it again.")
		}
	}
	if !t.Live && !t.Origin {
		for _, circuit := range []string{t.Circuit, ""} {
			if at := facts.Worked[circuit]; at.After(r.At) {
				return w.Say("Older than the last work that it is to prove: do it again.")
			}
		}
	}
	if on, is := Energised(job); is && t.SinceOn && r.At.Before(on.At) {
		return w.Say("Read before the supply was last put on: do it again.")
	}
	return ""
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

// isolatedSince reports whether anybody has isolated since something was energised.
func isolatedSince(job *install.Job) bool {
	for i := len(job.Records) - 1; i >= 0 && job.Records[i].Kind != install.Energise; i-- {
		if job.Records[i].Kind == install.Isolation {
			return true
		}
	}
	return false
}

func mayEnergise(s *Sheet, job *install.Job, facts *Facts, by install.Person) string {
	w := job.Words
	if s.Energised != nil {
		return w.Say("Already permitted.")
	}
	if !s.DeadDone {
		open := func(v working.Verdict) int {
			return slices.IndexFunc(s.Rows, func(r Row) bool { return r.needed && r.Verdict == v })
		}
		if i := open(working.Fail); i >= 0 {
			return w.Say("Dead tests come first: %s failed.", s.Rows[i].Title)
		}
		if i := open(working.Unknown); i >= 0 {
			return w.Say("Dead tests come first: %s is not done.", s.Rows[i].Title)
		}
		return w.Say("Dead tests come first.")
	}
	if !isolatedSince(job) {
		return w.Say("There is no isolation record.")
	}
	for i := range s.Locks {
		if l := &s.Locks[i]; !l.IsBy(by) {
			return w.Say("The lock of %s hangs (%s): only its owner takes it off.", l.By, l.LockTag)
		}
	}
	for _, l := range LooseEnds(job) {
		if l.Path != BeforeHandover {
			return w.Say("Left undone: %s.", l.Note)
		}
	}
	if facts.Fails != "" {
		return w.Say("The design is not in order: %s.", facts.Fails)
	}
	if facts.Open != "" {
		return w.Say("Not done yet: %s.", facts.Open)
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

// Step is what is asked of a step of the plan before it is ticked.
type Step struct {
	Isolation bool   // it opens an enclosure
	Closed    string // what else closes it
	Photo     bool   // a picture of it is what ticks it, or why there is none
}

// Allow reports why a record may not be made now, nil when it may. step finds a step of
// the plan by its id.
func Allow(job *install.Job, r install.Record, tests []rulebook.Test, facts *Facts, step func(id string) (Step, bool),
	now time.Time) error {
	w := job.Words
	if !May(r.Role, r.Kind) {
		return &RoleError{r.Role, r.Kind}
	}
	if job.Frozen() && r.Kind != install.Reopen {
		return &NotYetError{w.Say("Revision %s is signed: open a new revision to record more.", job.Revision())}
	}
	if err := supersedes(job, r); err != nil {
		return err
	}
	switch r.Kind {
	case install.Reading:
		return allowReading(job, r, tests, facts, now)
	case install.Energise:
		sheet := TestSheet(job, tests, facts, r.Who(), now)
		if sheet.MayEnergise != "" {
			return &NotYetError{sheet.MayEnergise}
		}
		for _, ask := range Asks {
			if !slices.Contains(r.Confirmed, ask.ID) {
				return install.Errors{{Field: "energise.confirmed", Value: strings.Join(r.Confirmed, ", "),
					Accept: ask.ID + ": " + ask.Title}}
			}
		}
	case install.LockOff:
		return allowLockOff(job, r)
	case install.Remark:
		if !isCurrent(job, install.Reading, r.Subject) {
			return &NotYetError{w.Say("The reading that this explains is not there any more: look at the newest.")}
		}
	case install.Tick:
		s, known := step(r.Subject)
		_, isolated := IsolationInForce(job, r.Who(), now)
		switch {
		case !known:
			return &NotYetError{w.Say("Task %q is not on this job's plan.", r.Subject)}
		case r.Done && s.Closed != "":
			return &NotYetError{s.Closed}
		case r.Done && s.Photo && strings.TrimSpace(r.Note) == "" && !pictured(job, r.Subject):
			return &NotYetError{w.Say("There is no picture of it: take one, or say why there is none.")}
		case r.Done && s.Isolation && !isolated:
			return &NotYetError{NeedsIsolation(w, w.Say("This task opens an enclosure and"), r.Role)}
		}
	case install.LooseEnd:
		return allowLooseEnd(job, r)
	case install.Decision:
		if !isCurrent(job, install.Observation, r.Subject) {
			return &NotYetError{w.Say("The finding that was decided on is not there any more: look at the newest.")}
		}
	case install.FindingStep:
		switch {
		case !isCurrent(job, install.Observation, r.Subject):
			return &NotYetError{w.Say("The finding is not there any more: look at the newest.")}
		case r.Path != install.Told && r.Role != Supervisor && r.Role != Electrician:
			return &NotYetError{w.Say("An electrician or the supervisor says that it is %s.", strings.ReplaceAll(r.Path, "-", " "))}
		}
	case install.Variation:
		if len(job.Current(install.Scope)) == 0 {
			return &NotYetError{w.Say("No scope was agreed yet: until then the points are simply edited.")}
		}
	case install.Scope:
		if len(job.Rooms) == 0 {
			return &NotYetError{w.Say("There is nothing to agree on: the walk has no rooms.")}
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

// supersedes refuses a record that takes the place of one that is not there any more, or
// that is not of its kind and about the same.
func supersedes(job *install.Job, r install.Record) error {
	w := job.Words
	if r.Supersedes == "" {
		return nil
	}
	i := slices.IndexFunc(job.Records, func(old install.Record) bool { return old.ID == r.Supersedes })
	switch {
	case i < 0 || !isCurrent(job, job.Records[i].Kind, r.Supersedes) && job.Records[i].Kind != install.LooseEnd:
		return &NotYetError{w.Say("What this corrects is not there any more: look at the newest.")}
	case !r.Replaces(&job.Records[i]):
		old := &job.Records[i]
		return install.Errors{{Field: string(r.Kind) + ".supersedes", Value: r.Supersedes,
			Accept: w.Say("a %s of the same subject; that one is a %s of %q", r.Kind, old.Kind, old.Subject)}}
	}
	return nil
}

func allowReading(job *install.Job, r install.Record, tests []rulebook.Test, facts *Facts, now time.Time) error {
	w := job.Words
	sheet := TestSheet(job, tests, facts, r.Who(), now)
	i := slices.IndexFunc(sheet.Rows, func(row Row) bool { return row.ID == r.Subject && row.Circuit == r.Circuit })
	if i < 0 {
		return &NotYetError{w.Say("Test %q is not on this job's sheet.", r.Subject)}
	}
	row := sheet.Rows[i]
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
	case r.TestV != 0 && !slices.Contains(row.TestV, r.TestV):
		return install.Errors{{Field: "reading.testV", Value: fmt.Sprint(r.TestV),
			Accept: w.Say("a test voltage of this test, one of %v V", row.TestV)}}
	case r.Supersedes != "" && strings.TrimSpace(r.Note) == "":
		return install.Errors{{Field: "reading.note", Value: r.Note,
			Accept: w.Say("why the reading takes the place of the one before: misread, or what was put right")}}
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
func allowLockOff(job *install.Job, r install.Record) error {
	w := job.Words
	for _, lock := range Locks(job) {
		switch {
		case lock.ID != r.Subject:
		case lock.IsBy(r.Who()):
			return nil
		case r.Role != Supervisor:
			return &NotYetError{w.Say("The lock is %s's: only its owner takes it off, or the supervisor with the reason on record.",
				lock.By)}
		case strings.TrimSpace(r.Note) == "":
			return install.Errors{{Field: "lock-off.note", Value: r.Note,
				Accept: w.Say("how it is known that %s is off the site and told, and that nobody works behind the lock", lock.By)}}
		default:
			return nil
		}
	}
	return &NotYetError{w.Say("This lock does not hang any more: look at the newest.")}
}

// BeforeHandover marks what may stay undone while the circuit is energised.
const BeforeHandover = "handover"

// allowLooseEnd: whoever is on site notes one; what must be put right before anything is
// energised is cleared by an electrician or the supervisor only.
func allowLooseEnd(job *install.Job, r install.Record) error {
	w := job.Words
	open := LooseEnds(job)
	i := slices.IndexFunc(open, func(l install.Record) bool { return l.ID == r.Subject })
	qualified := r.Role == Supervisor || r.Role == Electrician
	switch {
	case r.Supersedes != "" && r.Done, r.Supersedes != "" && i >= 0:
		return &NotYetError{w.Say("Only what was cleared is opened again.")}
	case r.Done && i < 0:
		return &NotYetError{w.Say("This snag is not open.")}
	case r.Done && open[i].Path != BeforeHandover && !qualified:
		return &NotYetError{w.Say("It must be put right before anything is energised: an electrician or the supervisor looks at " +
			"it and clears it.")}
	case !r.Done && r.Path == BeforeHandover && !qualified:
		return &NotYetError{w.Say("An electrician or the supervisor decides that it may stay while the circuit is energised.")}
	}
	return nil
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
	return slices.ContainsFunc(job.Records, func(r install.Record) bool { return r.ID == id })
}

// Leaves is what a reading leaves undone, where that is not noted already; empty for
// nothing.
func Leaves(job *install.Job, r *install.Record, tests []rulebook.Test) string {
	if r.Kind != install.Reading {
		return ""
	}
	for i := range tests {
		t := &tests[i]
		if t.ID != r.Subject || t.Circuit != r.Circuit || t.Leaves == "" {
			continue
		}
		if !slices.ContainsFunc(LooseEnds(job), func(l install.Record) bool { return l.Note == t.Leaves }) {
			return t.Leaves
		}
	}
	return ""
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
		if !r.Done && r.Supersedes == "" && !cleared[r.ID] {
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
