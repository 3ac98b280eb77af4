// Package whole computes everything of a job at once, from its model: the one
// call behind every sheet, the command line and the paper.
package whole

import (
	"cmp"
	"crypto/ed25519"
	"encoding/base64"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/outdoor"
	"arvelt/core/plan"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/rulebook/split120"
	"arvelt/core/survey"
	"arvelt/core/van"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Practices are the practices that are built.
var Practices = func() map[string]rulebook.Book {
	out := map[string]rulebook.Book{}
	for _, p := range []rulebook.Practice{iec230.Practice{}, split120.Practice{}, split120.Canada{}} {
		out[p.ID()] = rulebook.Complete(p)
		PracticeIDs = append(PracticeIDs, p.ID())
	}
	return out
}()

// PracticeIDs lists them in the order in which they are offered.
var PracticeIDs []string

// Carry makes a job that an earlier version kept one of this version, and gives it the words
// of its practice. It changes what the job is called, never what it says, so that its seals
// still hold.
func Carry(job *install.Job) {
	split120.Carry(job)
	if p, ok := Practices[job.Practice]; ok {
		job.Words = words.In(p.Terms().Locale)
	}
}

// View is a job with all that is computed of it, for one person at one time.
type View struct {
	About    install.KindTrait    `json:"about"` // what the kind of the job is about
	Job      *install.Job         `json:"job"`
	Report   rulebook.Report      `json:"-"` // the Circuits sheet, served by itself
	Take     materials.TakeOff    `json:"take"`
	Tasks    []plan.Task          `json:"tasks"`
	Tests    proving.Sheet        `json:"tests"`
	State    plan.State           `json:"state"`
	Ready    handover.Readiness   `json:"ready"`
	Loose    []install.Record     `json:"loose"`
	Idle     []working.Leaf       `json:"idle"`    // leaves of its sheets that it has nothing for
	Pace     plan.Pace            `json:"pace"`    // how the work goes beside the hours of the plan
	Trades   []plan.TradeStand    `json:"trades"`  // how it stands with the work of others in the house
	Batons   []plan.Baton         `json:"batons"`  // steps that others do: who holds each, and what they must find ready
	Charges  []plan.BackCharge    `json:"charges"` // what others moved or covered, and what putting it right costs them
	Power    []plan.PowerDay      `json:"power"`   // what is kept on and what is off on the days to come
	Rooms    []plan.RoomWork      `json:"rooms"`   // how far their points are, each for itself
	Left     []proving.Left       `json:"left"`    // of it, what has a kind
	Dangers  []survey.Finding     `json:"dangers"` // findings under which people are at risk now, the newest first, but for what was made safe
	Cleared  []install.Record     `json:"cleared"` // what was left undone and is cleared, newest first
	Walk     survey.Walked        `json:"walk"`
	Chain    rulebook.ChainReport `json:"-"` // the Supply sheet, served by itself
	Checks   []working.Check      `json:"-"` // all of them: of the design, the supply arrangement and the works outdoors
	Revision string               `json:"revision"`
	Frozen   bool                 `json:"frozen"`
	May      []install.RecordKind `json:"may"` // what whoever looks may record, as far as it is a matter of who they are
	// Holds are the authorities that whoever looks holds on this job now.
	Holds []install.Authority `json:"holds"`
	// Supervises: may act on what others hung or isolated, with the reason.
	Supervises bool `json:"supervises"`
	// Unanswered are the checks and tests of a report that fail and that no finding is about, Outcome what it comes to; nil of a job that is
	// no report.
	Unanswered []plan.Unanswered `json:"unanswered"`
	Outcome    *survey.Outcome   `json:"outcome"`
	// Imported says who brought the job in as a file; nil where it was made here.
	Imported *install.Imported `json:"imported"`
	// Sealed is what the check of the seal found; nil while nothing is signed.
	Sealed *Sealed `json:"sealed"`

	outdoor *outdoor.Report // the works outdoors, as the tasks were made of them
}

// Sealed is what the check of a seal found.
type Sealed struct {
	Outcome handover.Outcome `json:"outcome"`
	Says    string           `json:"says"`
	Key     string           `json:"key"`         // public key of the company, base64; empty where it has none
	Print   string           `json:"fingerprint"` // of it
}

// SealOf checks the seal of a signed job by the key of the company that has it.
func SealOf(job *install.Job) *Sealed {
	if len(job.Seals) == 0 {
		return nil
	}
	out := &Sealed{}
	known := []ed25519.PublicKey{}
	if job.SealedBy != nil {
		known = append(known, job.SealedBy)
		out.Key, out.Print = base64.StdEncoding.EncodeToString(job.SealedBy), handover.Fingerprint(job.SealedBy)
	}
	out.Outcome, out.Says = handover.Verify(job, known...)
	return out
}

// UnknownPracticeError says that a job is of a practice that is not built: no other's rules
// are applied to it.
type UnknownPracticeError struct{ Practice string }

func (e *UnknownPracticeError) Error() string {
	return fmt.Sprintf("practice: %q is not built here; %s are. The job is not judged by the rules of another.", e.Practice,
		strings.Join(PracticeIDs, ", "))
}

// Known returns an [UnknownPracticeError] for a practice that is not built.
func Known(practice string) error {
	if _, ok := Practices[practice]; !ok {
		return &UnknownPracticeError{practice}
	}
	return nil
}

// Practice returns the practice of a job. The job must be of one that is [Known], as every
// job that [Accept] or the store let in is; it panics for another, as to judge it by
// somebody else's rules would be worse.
func Practice(job *install.Job) rulebook.Book {
	if err := Known(job.Practice); err != nil {
		panic(err)
	}
	return Practices[job.Practice]
}

// Rules lists every rule that a job of a practice is held to.
func Rules(p rulebook.Book) []*working.Rule { return append(p.Rules(), outdoor.Rules()...) }

// Read reads a job file of this version or one before. The errors are those of [handover.Read].
func Read(r io.Reader) (*install.Job, error) {
	job, err := handover.Read(r)
	if err == nil {
		Carry(job)
	}
	return job, err
}

// Accept carries over and checks a job that comes from outside: its practice is built, and every
// field is within the bounds and terms of it. The error is [install.Errors].
func Accept(job *install.Job) error {
	Carry(job)
	if Known(job.Practice) != nil {
		return install.Errors{{Field: "practice", Value: job.Practice, Accept: "one of " + strings.Join(PracticeIDs, ", ")}}
	}
	return job.Validate(Practice(job).Terms())
}

// Of computes the view.
func Of(job *install.Job, list map[string]materials.Item, by install.Person, now time.Time) View {
	Carry(job)
	p := Practice(job)
	v := View{About: job.Trait(), Job: job, Loose: proving.LooseEnds(job), Cleared: proving.ClearedEnds(job), Revision: job.Revision(), Frozen: job.Frozen(),
		May: by.Kinds(), Holds: by.Holds.List(), Supervises: proving.Supervises(by), Imported: job.Imported, Sealed: SealOf(job)}
	v.Report = p.Judge(job)
	v.Chain = p.Chain(job)
	customs := practiceOf(p, job, &v.Report, &v.Chain, now)
	v.outdoor = customs.Outdoor
	v.Take = takeOf(p, job, &v.Report, &v.Chain, &customs, list)
	customs.Stops = v.Take.Stops
	v.Tasks = plan.Tasks(job, customs, list, by, now)
	v.Checks = slices.Concat(customs.Checks, customs.Outdoor.Checks())
	v.Take.Hold(job.Words, job.Materials.WastagePc, v.Checks)
	if v.About.Report {
		for i := range v.Checks { // those of the supply arrangement and of the works outdoors hold nothing either
			v.Checks[i].Outside = true
		}
	}
	tests := p.Tests(job, &v.Report)
	v.Left = proving.LeftOf(job, tests)
	v.Tests = proving.TestSheet(job, tests, factsOf(job, p, &customs, v.Tasks, v.Checks), by, now)
	plan.Reopen(job, v.Tasks, v.Tests.Rows)
	for i := range v.Tasks {
		if t := &v.Tasks[i]; !t.Done && t.Closed == "" {
			t.Closed = unread(job, t, &v.Tests)
		}
	}
	routes := routesOf(p, job, now)
	cutOff(&v, routes, now)
	v.Walk = survey.Tally(job, p.Survey())
	v.Unanswered = plan.UnansweredOf(job, v.Checks, v.Tests.Rows)
	v.Idle = idleLeaves(&v)
	v.Pace = plan.PaceOf(job, v.Tasks, now)
	v.Trades = plan.TradesOf(job, v.Tasks, now)
	v.Batons = plan.BatonsOf(job, v.Tasks, now)
	v.Charges = plan.BackChargesOf(job, list)
	v.Power = plan.PowerDays(job, v.Tasks, v.Tests.Use, customs.House, now)
	v.Rooms = plan.Rooms(job, p, v.Tasks)
	dangers := survey.Dangers(job, p.Survey())
	v.Dangers = atRisk(dangers)
	v.State = plan.StateOf(plan.Input{Unanswered: v.Unanswered, Needs: p.Needs(job), Terms: p.Terms(), Job: job, Report: &v.Report, Tests: v.Tests,
		Tasks: v.Tasks, Take: v.Take, Walk: &v.Walk, Checks: v.Checks, Dangers: dangers, AtOperator: survey.AtOperator(job, p.Survey()),
		Routes: routes, Unagreed: customs.Unagreed})
	v.Ready = handover.Ready(v.State, job, v.Checks)
	v.Outcome = survey.OutcomeOf(job, p.Survey(), v.Ready.Missing)
	return v
}

// atRisk are the dangers that nobody has made safe, the newest first.
func atRisk(dangers []survey.Finding) []survey.Finding {
	out := slices.DeleteFunc(slices.Clone(dangers), func(f survey.Finding) bool { return f.Safe != "" || f.Refused() })
	slices.Reverse(out)
	return append([]survey.Finding{}, out...)
}

// RoomOf is how far the points of a room are, nil where the job works on none.
func (v *View) RoomOf(id string) *plan.RoomWork {
	if i := slices.IndexFunc(v.Rooms, func(r plan.RoomWork) bool { return r.Room == id }); i >= 0 {
		return &v.Rooms[i]
	}
	return nil
}

// task is the step of the plan by its id; it panics where there is none.
func (v *View) task(id string) *plan.Task {
	return &v.Tasks[slices.IndexFunc(v.Tasks, func(t plan.Task) bool { return t.ID == id })]
}

// unread says why a step waits for readings: it is the tests of the day, which are done by them, or it lands a feeder, whose far end is tested
// dead before.
func unread(job *install.Job, t *plan.Task, tests *proving.Sheet) string {
	w := job.Words
	if t.Tests() {
		if test := tests.Unread(t.Step == plan.StepLive, nil); test != "" {
			return w.Say("It is done by its readings on the Test sheet: %s is open.", test)
		}
	}
	if t.Far {
		behind := func(circuit string) bool { k := job.CircuitByID(circuit); return k != nil && k.From == t.Circuit }
		if test := tests.Unread(false, behind); test != "" {
			return w.Say("The far end comes first, tested dead: %s is open.", test)
		}
	}
	return ""
}

// factsOf is what the plan, the design and the findings say of a job that decides what may be proved and energised.
func factsOf(job *install.Job, p rulebook.Book, by *plan.Practice, tasks []plan.Task, checks []working.Check) *proving.Facts {
	f := plan.Facts(job, tasks, checks)
	f.House, f.Terms = by.House, by.Terms
	for i := range checks {
		if c := &checks[i]; by.Asks[c.Circuit] && c.Of().Who == working.Operator && c.Verdict.Worse(working.Caution) && c.Verdict != working.Fail {
			f.Asked = append(f.Asked, proving.Waits{Why: job.Words.Say("the operator's agreement before the work"), Sheet: c.Sheet, Circuit: c.Circuit})
		}
	}
	for _, d := range survey.Dangers(job, p.Survey()) {
		if d.Safe == "" {
			f.Dangers = append(f.Dangers, proving.Danger{Title: d.Title, Circuit: d.Circuit, Refused: d.Refused()})
		}
	}
	return f
}

// takeOf is the order list of a job.
func takeOf(p rulebook.Book, job *install.Job, report *rulebook.Report, chain *rulebook.ChainReport, by *plan.Practice,
	list map[string]materials.Item) materials.TakeOff {
	return materials.Of(materials.Model{Job: job, Book: p, Report: report, Chain: chain, Outdoor: by.Outdoor, Prices: list})
}

// practiceOf is what the practice of a job brings to its tasks.
func practiceOf(p rulebook.Book, job *install.Job, report *rulebook.Report, chain *rulebook.ChainReport, today time.Time) plan.Practice {
	terms := p.Terms()
	c := plan.Practice{Book: &p, Terms: &terms, Length: terms.Length, Survey: p.Survey(), Serves: terms.Serves, Own: p.Work(job, report),
		Cores: map[string]string{}, Asks: map[string]bool{}, House: isolate.Of(job, &terms), Checks: slices.Concat(report.Checks(), chain.Checks),
		Agreed: survey.Agreed(job, p.Survey()), Unagreed: quoteHold(job)}
	for i := range report.Circuits {
		c.Cores[report.Circuits[i].ID] = report.Circuits[i].Summary.Cores
		c.Asks[report.Circuits[i].ID] = report.Circuits[i].Operator.Path == rulebook.Apply
	}
	works := outdoor.Of(job, p, nil, today.Format(time.DateOnly))
	c.Outdoor = &works
	return c
}

// Stamp writes on a record what whoever keeps it knows, before it is judged and kept: on a permission to energise what it makes live and what
// stands there, on a conductor that was parted what it is called.
func Stamp(job *install.Job, r *install.Record, list map[string]materials.Item, now time.Time) {
	if r.Kind == install.Offer {
		return // as the server wrote it
	}
	r.Part, r.Model = nil, ""
	if r.Kind == install.PointWork {
		proving.StampPoints(job, r)
		return
	}
	if r.Kind == install.Release {
		r.Effects = nil
		if c := itemOf(job, r.Subject, list, now); c != nil {
			r.Effects = []string{c.Says()}
		}
		return
	}
	if r.Kind != install.Energise && (r.Kind != install.LooseEnd || r.Parted == "" && r.NotDead() || r.Done) {
		return
	}
	p := Practice(job)
	report := p.Judge(job)
	switch {
	case r.Kind == install.LooseEnd && r.Parted != "":
		proving.Stamp(job, p.Tests(job, &report), r)
		return
	case r.Kind == install.LooseEnd:
		terms := p.Terms()
		proving.ProvedLeft(job, r.Who(), r, &proving.Facts{Terms: &terms}, now)
		return
	}
	chain := p.Chain(job)
	customs := practiceOf(p, job, &report, &chain, now)
	proving.PartOf(job, factsOf(job, p, &customs, plan.Tasks(job, customs, list, r.Who(), now), nil), r)
}

// Allow reports why a record may not be added to the job now, nil when it may. leaves is
// what a reading leaves undone and nobody has noted, empty for nothing.
func Allow(job *install.Job, who install.Person, r install.Record, list map[string]materials.Item, now time.Time) (leaves []install.Record, err error) {
	p := Practice(job)
	if err := r.Validate(p.Terms()); err != nil {
		return nil, err
	}
	if err := proving.MayMake(job.Words, who, r.Kind); err != nil {
		return nil, err // whose it is not to make is not asked for more
	}
	if err := r.Complete(); err != nil {
		return nil, err
	}
	report, chain := p.Judge(job), p.Chain(job)
	customs := practiceOf(p, job, &report, &chain, now)
	if r.Kind == install.Tick || r.Kind == install.Photo { // what came too short closes the steps that wait for it
		customs.Stops = takeOf(p, job, &report, &chain, &customs, list).Stops
	}
	tasks := plan.Tasks(job, customs, list, who, now)
	checks := slices.Concat(customs.Checks, customs.Outdoor.Checks())
	facts, tests := factsOf(job, p, &customs, tasks, checks), p.Tests(job, &report)
	step := func(id string) (proving.Step, bool) {
		for i := range tasks {
			if t := &tasks[i]; t.ID == id {
				closed := t.Held()
				if r.Kind == install.PointWork {
					closed = t.HeldApart()
				}
				if closed == "" && (t.Tests() || t.Far) {
					sheet := proving.TestRows(job, tests, facts, who, now)
					closed = unread(job, t, &sheet)
				}
				if t.Step == plan.StepIsolate && !t.Done {
					v := Of(job, list, who, now)
					closed = v.task(id).Closed
				}
				return proving.Step{Closed: closed, Photo: t.Photo, Others: t.Others}, true
			}
		}
		return proving.Step{}, false
	}
	if err := proving.Allow(job, who, r, tests, facts, step, now); err != nil {
		return nil, err
	}
	switch r.Kind {
	case install.Loaded:
		v := Of(job, list, who, now)
		if !slices.ContainsFunc(VanOf(&v, nil, now).Items, func(x van.Item) bool { return x.ID == r.Subject }) {
			return nil, install.Errors{{Field: "packed.subject", Value: r.Subject, Accept: job.Words.Say("an entry of the list for the van")}}
		}
	case install.Observation, install.Decision, install.FindingStep:
		if err := allowOnFinding(job, p, who, r); err != nil {
			return nil, err
		}
	case install.Release:
		if err := allowRelease(job, r, list, now); err != nil {
			return nil, err
		}
	case install.Signature:
		if v := Of(job, list, who, now); !v.Ready.Ready {
			for _, i := range v.Ready.Items {
				if !i.Ready {
					return nil, &proving.NotYetError{Why: "Not ready to sign: " + i.Summary + " (and " + plural(v.Ready.Missing-1) + ")."}
				}
			}
		}
	}
	return append(proving.Leaves(job, &r, tests, p.Survey().DangerClass()), pictures(tasks, &r)...), nil
}

// pictures are the ticks that a picture makes: of the open step that is to take it.
func pictures(tasks []plan.Task, r *install.Record) []install.Record {
	if r.Kind != install.Photo || r.Done || r.Supersedes != "" {
		return nil
	}
	i := slices.IndexFunc(tasks, func(t plan.Task) bool { return t.ID == r.Subject })
	if i < 0 || tasks[i].Kind != install.PicturingStep || tasks[i].Done || tasks[i].Held() != "" || tasks[i].Others != "" {
		return nil
	}
	return []install.Record{{Kind: install.Tick, Subject: tasks[i].ID, Circuit: tasks[i].Circuit, Done: true}}
}

func plural(n int) string {
	switch n {
	case 0:
		return "nothing else"
	case 1:
		return "1 thing more"
	}
	return strconv.Itoa(n) + " things more"
}

// OutdoorOf works the outdoor works out.
func OutdoorOf(v *View, now time.Time) outdoor.Report {
	done := map[string]bool{}
	for _, t := range v.Tasks {
		done[t.ID] = t.Done
	}
	return outdoor.Of(v.Job, Practice(v.Job), done, now.Format(time.DateOnly))
}

// CaseSheet is what the survey comes to beside the tally: the case for the
// work, what estimates do to the checks, and the agreed scope.
type CaseSheet struct {
	Case   survey.Case          `json:"case"`
	Routes []survey.RouteEffect `json:"routes"`
	Scope  survey.Scope         `json:"scope"`
	// SetOut is where the points of each room go, Ways the rooms with the ways between them.
	SetOut []survey.SettingOut `json:"setOut"`
	Ways   survey.WaysPlan     `json:"ways"`
	// Later is what meets what is planned for after the job.
	Later []LaterReport `json:"later"`
	// Tracing is what tracing the circuits that are there came to.
	Tracing survey.Tracing `json:"tracing"`
	// Readings judges the figures read on the survey.
	Readings []survey.Judged `json:"readings"`
}

// CaseOf computes the case sheet of a job.
func CaseOf(job *install.Job, list map[string]materials.Item) CaseSheet {
	p := Practice(job)
	price := func(key string) (float64, float64, bool) {
		item, ok := list[key]
		return item.Price, item.High, ok && key != ""
	}
	sheet := CaseSheet{SetOut: survey.SetOut(job, p), Ways: survey.WaysPlanOf(job), Later: LaterOf(job, list),
		Tracing: survey.TracingOf(job, p.Survey()), Case: survey.CaseOf(job, p.Survey(), price), Routes: survey.Estimates(job, p),
		Scope: survey.ScopeOf(job, p.Survey()), Readings: survey.Readings(job, p.Survey())}
	hint, doubted := sheet.Case.Hint, func(k *install.Circuit) bool { return k != nil && job.Found.Doubted(k.ID) }
	if hint == nil && !slices.ContainsFunc(job.Circuits, func(k install.Circuit) bool { return doubted(&k) }) {
		return sheet
	}
	report := p.Judge(job)
	tests := p.Tests(job, &report)
	told := []string{}
	if hint != nil {
		told = hint.Tests
		sheet.Case.Proofs = proofsOf(job, told, tests, func(k *install.Circuit) bool { return k == nil || k.State != install.NewCircuit })
	}
	more := slices.DeleteFunc(slices.Clone(p.Survey().InsulationTests), func(id string) bool { return slices.Contains(told, id) })
	sheet.Case.Proofs = append(sheet.Case.Proofs, proofsOf(job, more, tests, doubted)...)
	return sheet
}

// proofsOf says of tests where they are read, and where not yet: on the circuits of which it is asked, nil for the house itself.
func proofsOf(job *install.Job, ids []string, tests []rulebook.Test, asked func(*install.Circuit) bool) []survey.Proof {
	out, read := []survey.Proof{}, rulebook.ReadingsOf(job)
	for _, id := range ids {
		p := survey.Proof{Test: id, Open: []string{}}
		for i := range tests {
			t := &tests[i]
			of, _, _ := strings.Cut(t.ID, ":")
			k := job.CircuitByID(t.Circuit)
			if of != id || !asked(k) {
				continue
			}
			p.Name = cmp.Or(p.Name, t.Title)
			switch {
			case read.Newest(t.ID, t.Circuit) != nil:
				p.Read++
			case k != nil:
				p.Open = append(p.Open, k.Name)
			default:
				p.Open = append(p.Open, "")
			}
		}
		if p.Name != "" {
			out = append(out, p)
		}
	}
	return out
}
