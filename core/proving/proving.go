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
	case install.Energise, install.Isolation:
		return role == Supervisor || role == Electrician
	case install.Reading, install.Tick, install.LooseEnd:
		return role == Supervisor || role == Electrician || role == Apprentice
	case install.Reopen:
		return role == Supervisor || role == Owner
	case install.SurveyReading:
		return role == Supervisor || role == Electrician || role == Apprentice
	case install.Observation:
		return role == Supervisor || role == Electrician || role == Apprentice || role == Owner
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
// made the same day by the same person, with nothing energised since. Lines
// are of the day in now's own time zone.
func IsolationInForce(job *install.Job, by string, now time.Time) (install.Record, bool) {
	for i := len(job.Records) - 1; i >= 0; i-- {
		r := &job.Records[i]
		if r.Kind == install.Energise {
			return install.Record{}, false
		}
		if r.Kind == install.Isolation && r.By == by {
			at := r.At.In(now.Location())
			if at.Year() == now.Year() && at.YearDay() == now.YearDay() {
				return *r, true
			}
			return install.Record{}, false
		}
	}
	return install.Record{}, false
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
	Says     string           `json:"says"`
	Expected *float64         `json:"expected"` // only beside a reading
	Reading  *install.Record  `json:"reading"`
	Earlier  []install.Record `json:"earlier"` // superseded readings, newest first
	Closed   string           `json:"closed"`  // why it cannot be recorded now
}

// Sheet is the test sheet.
type Sheet struct {
	Rows        []Row           `json:"rows"`
	Isolation   *install.Record `json:"isolation"` // in force for the person who looks
	Energised   *install.Record `json:"energised"`
	MayEnergise string          `json:"mayEnergise"` // empty when permitted, otherwise why not
	DeadDone    bool            `json:"deadDone"`
	Verdict     working.Verdict `json:"verdict"`
}

// TestSheet lays out the tests as they stand for a person at a time.
func TestSheet(job *install.Job, tests []rulebook.Test, by string, now time.Time) Sheet {
	s := Sheet{Rows: make([]Row, 0, len(tests)), Verdict: working.Pass, DeadDone: len(tests) > 0}
	iso, isolated := IsolationInForce(job, by, now)
	if isolated {
		s.Isolation = &iso
	}
	on, energised := Energised(job)
	if energised {
		s.Energised = &on
	}
	for _, t := range tests {
		row := Row{ID: t.ID, Circuit: t.Circuit, Title: t.Title, Live: t.Live, YesNo: t.YesNo, Patterns: append([]string{}, t.Patterns...), Unit: t.Unit, Where: t.Where, Caution: t.Caution, Verdict: working.Unknown, Earlier: []install.Record{}}
		for i := len(job.Records) - 1; i >= 0; i-- {
			r := job.Records[i]
			if r.Kind != install.Reading || r.Subject != t.ID || r.Circuit != t.Circuit {
				continue
			}
			if row.Reading == nil {
				row.Reading = &r
			} else {
				row.Earlier = append(row.Earlier, r)
			}
		}
		if r := row.Reading; r != nil {
			row.Expected = t.Expected
			row.Verdict, row.Says = judge(t, *r)
		}
		if first := after(job, t); first != nil && row.Reading != nil && !row.Reading.At.After(first.At) {
			row.Verdict, row.Says = working.Unknown, "Older than the test it comes after: do it again."
		}
		switch {
		case t.After != "" && after(job, t) == nil:
			row.Closed = "First the test that it comes after."
		case t.Live && !energised:
			row.Closed = "Live test: needs permission to energise first."
		case !t.Live && energised:
			row.Closed = "The circuit is energised: isolate and prove dead again first."
		case !t.Live && !isolated:
			row.Closed = "Dead test: needs your own isolation record of today."
		}
		if !t.Live && row.Verdict.Worse(working.Caution) {
			s.DeadDone = false
		}
		s.Verdict = working.Worst(s.Verdict, row.Verdict)
		s.Rows = append(s.Rows, row)
	}
	s.MayEnergise = mayEnergise(&s, job)
	if len(tests) == 0 {
		s.Verdict = working.Unknown
	}
	return s
}

// after is the newest reading of the test that t comes after, nil without one.
func after(job *install.Job, t rulebook.Test) *install.Record {
	if t.After == "" {
		return nil
	}
	for i := len(job.Records) - 1; i >= 0; i-- {
		if r := &job.Records[i]; r.Kind == install.Reading && r.Subject == t.After {
			return r
		}
	}
	return nil
}

func mayEnergise(s *Sheet, job *install.Job) string {
	if s.Energised != nil {
		return "Already permitted."
	}
	if !s.DeadDone {
		for _, v := range []working.Verdict{working.Fail, working.Unknown} {
			for _, r := range s.Rows {
				if !r.Live && r.Verdict == v {
					return "Dead tests come first: " + r.Title + map[working.Verdict]string{working.Fail: " failed.", working.Unknown: " is not done."}[v]
				}
			}
		}
		return "Dead tests come first."
	}
	if s.Isolation == nil && len(job.Current(install.Isolation)) == 0 {
		return "There is no isolation record."
	}
	return ""
}

func judge(t rulebook.Test, r install.Record) (working.Verdict, string) {
	switch {
	case r.CouldNot != "":
		return working.Unknown, "Could not be tested: " + r.CouldNot
	case t.YesNo && r.Passed == nil, len(t.Patterns) > 0 && r.Answer == "", len(t.Patterns) == 0 && !t.YesNo && r.Value == nil && !r.OverRange:
		return working.Unknown, "The reading does not fit the test."
	case r.OverRange && t.Unit != "MΩ" && t.Unit != "ms":
		return working.Fail, "Over range: an open circuit or the wrong range."
	}
	v, says := t.Judge(r)
	if r.Calibrated != "" && r.Calibrated < r.At.Format(time.DateOnly) && v == working.Pass {
		return working.Caution, says + " The instrument's calibration had run out on " + r.Calibrated + "."
	}
	return v, says
}

// Allow reports why a record may not be made now, nil when it may. tasksNeed
// says whether a ticked task needs an isolation, and what else closes it.
func Allow(job *install.Job, r install.Record, tests []rulebook.Test, tasksNeed func(task string) (isolation bool, closed string, known bool), now time.Time) error {
	if !May(r.Role, r.Kind) {
		return &RoleError{r.Role, r.Kind}
	}
	if job.Frozen() && r.Kind != install.Reopen {
		return &NotYetError{"Revision " + job.Revision() + " is signed: open a new revision to record more."}
	}
	sheet := TestSheet(job, tests, r.By, now)
	switch r.Kind {
	case install.Reading:
		i := slices.IndexFunc(sheet.Rows, func(row Row) bool { return row.ID == r.Subject && row.Circuit == r.Circuit })
		if i < 0 {
			return &NotYetError{fmt.Sprintf("Test %q is not on this job's sheet.", r.Subject)}
		}
		row := sheet.Rows[i]
		if row.Closed != "" {
			return &NotYetError{row.Closed}
		}
		takes, fits := "a figure in "+row.Unit, r.Value != nil || r.OverRange
		switch {
		case row.YesNo:
			takes, fits = "yes or no", r.Passed != nil
		case len(row.Patterns) > 0:
			takes, fits = "one of "+strings.Join(row.Patterns, ", "), slices.Contains(row.Patterns, r.Answer)
		}
		if !fits && r.CouldNot == "" {
			return &NotYetError{row.Title + " takes " + takes + "."}
		}
	case install.Energise:
		if sheet.MayEnergise != "" {
			return &NotYetError{sheet.MayEnergise}
		}
	case install.Tick:
		isolation, closed, known := tasksNeed(r.Subject)
		switch {
		case !known:
			return &NotYetError{fmt.Sprintf("Task %q is not on this job's plan.", r.Subject)}
		case r.Done && closed != "":
			return &NotYetError{closed}
		case r.Done && isolation && sheet.Isolation == nil:
			return &NotYetError{"This task opens an enclosure: it needs your own isolation record of today, with nothing energised since."}
		}
	case install.LooseEnd:
		if r.Done && !slices.ContainsFunc(LooseEnds(job), func(l install.Record) bool { return l.ID == r.Subject }) {
			return &NotYetError{"This loose end is not open."}
		}
	case install.Observation:
		if r.Supersedes != "" && !isCurrent(job, install.Observation, r.Supersedes) {
			return &NotYetError{"The finding that this one corrects is not there any more: look at the newest."}
		}
	case install.Decision:
		if !isCurrent(job, install.Observation, r.Subject) {
			return &NotYetError{"The finding that was decided on is not there any more: look at the newest."}
		}
	case install.Variation:
		if len(job.Current(install.Scope)) == 0 {
			return &NotYetError{"No scope was agreed yet: until then the points are simply edited."}
		}
	case install.Scope:
		if len(job.Rooms) == 0 {
			return &NotYetError{"There is nothing to agree on: the walk has no rooms."}
		}
	case install.Photo:
		if !shows(job, r.Subject) {
			return &NotYetError{fmt.Sprintf("Photo of %q: there is no such room, point, finding or enclosure on this job.", r.Subject)}
		}
	case install.Reopen:
		if !job.Frozen() {
			return &NotYetError{"Revision " + job.Revision() + " is not signed: it is open for edits already."}
		}
	}
	return nil
}

func isCurrent(job *install.Job, kind install.RecordKind, id string) bool {
	return slices.ContainsFunc(job.Current(kind), func(r install.Record) bool { return r.ID == id && !r.Done })
}

// shows reports whether a photo can be of what is named: the board, a room, a
// point, an enclosure or a record.
func shows(job *install.Job, id string) bool {
	if run, ok := strings.CutPrefix(id, "run-"); ok && slices.ContainsFunc(job.Outdoor.Runs, func(r install.Run) bool { return r.ID == run }) {
		return true
	}
	if id == "board" || id == "intake" || id == "electrodes" || job.RoomByID(id) != nil || job.Chain.Enclosure(id) != nil {
		return true
	}
	for i := range job.Rooms {
		if slices.ContainsFunc(job.Rooms[i].Points, func(p install.RoomPoint) bool { return p.ID == id }) {
			return true
		}
	}
	return slices.ContainsFunc(job.Records, func(r install.Record) bool { return r.ID == id })
}

// LooseEnds returns what is left temporarily undone and not yet cleared.
func LooseEnds(job *install.Job) []install.Record {
	cleared := map[string]bool{}
	for _, r := range job.Records {
		if r.Kind == install.LooseEnd && r.Done {
			cleared[r.Subject] = true
		}
	}
	out := []install.Record{}
	for _, r := range job.Records {
		if r.Kind == install.LooseEnd && !r.Done && !cleared[r.ID] {
			out = append(out, r)
		}
	}
	return out
}
