package rulebook

import (
	"slices"
	"time"

	"arvelt/core/install"
	"arvelt/core/working"
)

// Practice is one family of wiring rules: what it is called, which names a job may hold
// under it, what a job starts with, and how it judges. Whatever else it can do it shows by
// having one of the abilities below; [Complete] adds what follows from having none.
type Practice interface {
	ID() string
	Terms() install.Terms
	// Words says what is shown for the names of Terms, where that differs.
	Words() map[string]string
	// Opening is what a job starts with.
	Opening() Opening
	// Rules lists every rule, in the order in which they are asked.
	Rules() []*working.Rule
	// Judge computes every check of a job, without what would mend it.
	Judge(job *install.Job) Report
}

// Designs is a practice whose circuits can be designed.
type Designs interface {
	// Templates lists the circuits that one may start with, in the order in which
	// they are offered.
	Templates() []string
	// Defaults is a circuit of a template as it starts: what is usual for it, every
	// length assumed and nothing decided.
	Defaults(template string) install.Circuit
}

// Buys is a practice that knows what is bought for a circuit.
type Buys interface {
	Cable(cableType string, lineMM2 float64) (Cable, bool)
	// Parts lists what a circuit takes beside its cable: its device and what the
	// practice asks for at its ends and along it.
	Parts(job *install.Job, c *install.Circuit) []Part
}

// Mender is a practice that finds what would mend a failed check.
type Mender interface {
	// Report is Judge with what would mend what fails; price, when not nil, prices that.
	Report(job *install.Job, price Price) Report
	Tried
}

// Needing is a practice that asks for figures of the supply before a design rests on it.
type Needing interface {
	Needs(job *install.Job) []Need
}

// Following is a practice that tells what there is at each box of a run.
type Following interface {
	// StopsOf are the figures at each box of the run of a circuit with their working, nothing where the job has no such circuit.
	StopsOf(job *install.Job, circuit string) []StopReport
}

// Inspecting is a practice with a time to the next periodic inspection.
type Inspecting interface {
	// InspectionYears is the longest one in years, of premises as Site names them.
	InspectionYears(premises string) float64
}

// Calculating is a practice with named calculations.
type Calculating interface{ Calcs() []Calc }

// Surveying is a practice with words and questions of its own for a walk.
type Surveying interface{ Survey() *Survey }

// Outdoors is a practice with rules for work outside.
type Outdoors interface {
	// Outdoor is what work outside asks for on a job.
	Outdoor(job *install.Job) *OutdoorRules
	// Electrodes judges the earth electrodes of a job.
	Electrodes(job *install.Job) ElectrodeReport
}

// Supplying is a practice with rules for the supply arrangement.
type Supplying interface {
	// Chain judges the supply arrangement: where neutral and earth are joined, who may
	// open what, impedance and fault level from the origin on.
	Chain(job *install.Job) ChainReport
	// Isolation lists the ways to make the work dead, lawful or not.
	Isolation(job *install.Job, charge func(route string) (float64, bool), today time.Time) []IsolationRoute
	// SupplyNumber reads the unique number of the supply out of what was typed
	// and tells it from a meter's serial.
	SupplyNumber(text, serial string) Number
}

// Working is a practice with steps of work that only it asks for.
type Working interface {
	Work(job *install.Job, report *Report) []Work
}

// Proving is a practice with tests.
type Proving interface {
	// Tests lists the tests of a job in the order in which they are done.
	Tests(job *install.Job, report *Report) []Test
}

// Book is a practice with every ability: its own, or what follows from not having one.
type Book struct{ Practice }

// Complete makes a book of a practice.
func Complete(p Practice) Book { return Book{p} }

// Judge asks the rules of the installation as it stands when the work is done; a circuit that leaves it has a report that says how far it has.
func (b Book) Judge(job *install.Job) Report { return ofAll(job, b.Practice.Judge(job.Standing())) }

// ofAll puts a report of each circuit that leaves into that of those that stay, in the job's order, and says what their points draw.
func ofAll(job *install.Job, r Report) Report {
	for i := range job.Circuits {
		k := &job.Circuits[i]
		leaving := job.LeavingOf(k)
		if leaving == nil {
			if at := slices.IndexFunc(r.Circuits, func(c CircuitReport) bool { return c.ID == k.ID }); at >= 0 {
				r.Circuits[at].Drawn = job.DrawnBy(k)
			}
			continue
		}
		own := ReportOf(k)
		own.Leaving = leaving
		own.Conclude([]working.Check{})
		r.Circuits = slices.Insert(r.Circuits, min(i, len(r.Circuits)), own)
	}
	return r
}

// Templates is of [Designs]; none where circuits cannot be designed yet.
func (b Book) Templates() []string {
	if p, ok := b.Practice.(Designs); ok {
		return p.Templates()
	}
	return nil
}

// Defaults is of [Designs].
func (b Book) Defaults(template string) install.Circuit {
	if p, ok := b.Practice.(Designs); ok {
		return p.Defaults(template)
	}
	return install.Circuit{}
}

// Cable is of [Buys].
func (b Book) Cable(cableType string, lineMM2 float64) (Cable, bool) {
	if p, ok := b.Practice.(Buys); ok {
		return p.Cable(cableType, lineMM2)
	}
	return Cable{}, false
}

// Parts is of [Buys].
func (b Book) Parts(job *install.Job, c *install.Circuit) []Part {
	if p, ok := b.Practice.(Buys); ok {
		return p.Parts(job, c)
	}
	return nil
}

// StopsOf is of [Following]; nothing without it.
func (b Book) StopsOf(job *install.Job, circuit string) []StopReport {
	if p, ok := b.Practice.(Following); ok {
		return p.StopsOf(job.Standing(), circuit)
	}
	return nil
}

// Report is of [Mender]; without it nothing is offered.
func (b Book) Report(job *install.Job, price Price) Report {
	if p, ok := b.Practice.(Mender); ok {
		return ofAll(job, p.Report(job.Standing(), price))
	}
	return b.Judge(job)
}

// Try is of [Mender]; without it every change is judged whole.
func (b Book) Try(job *install.Job) Trial {
	standing := job.Standing()
	var own Trial = wholeTrial{b, standing}
	if p, ok := b.Practice.(Mender); ok {
		own = p.Try(standing)
	}
	if standing == job {
		return own
	}
	return standingTrial{own, job, standing}
}

// standingTrial tries changes of a job with circuits that leave, of which nothing is judged.
type standingTrial struct {
	own           Trial
	job, standing *install.Job
}

func (t standingTrial) Changed(i int, change func(*install.Circuit), look func(*install.Job)) []working.Check {
	at := slices.IndexFunc(t.standing.Circuits, func(k install.Circuit) bool { return k.ID == t.job.Circuits[i].ID })
	if at < 0 {
		return nil
	}
	return t.own.Changed(at, change, look)
}

// wholeTrial judges all of a job with one circuit changed.
type wholeTrial struct {
	book Book
	job  *install.Job
}

func (t wholeTrial) Changed(i int, change func(*install.Circuit), look func(*install.Job)) []working.Check {
	own := *t.job
	own.Circuits = slices.Clone(t.job.Circuits)
	change(&own.Circuits[i])
	if look != nil {
		look(&own)
		return nil
	}
	r := t.book.Judge(&own)
	return r.Checks()
}

// Needs is of [Needing].
func (b Book) Needs(job *install.Job) []Need {
	if p, ok := b.Practice.(Needing); ok {
		return p.Needs(job.Standing())
	}
	return nil
}

// InspectionYears is of [Inspecting]; 0 where the practice has none.
func (b Book) InspectionYears(premises string) float64 {
	if p, ok := b.Practice.(Inspecting); ok {
		return p.InspectionYears(premises)
	}
	return 0
}

// Calcs is of [Calculating].
func (b Book) Calcs() []Calc {
	if p, ok := b.Practice.(Calculating); ok {
		return p.Calcs()
	}
	return nil
}

// Survey is of [Surveying].
func (b Book) Survey() *Survey {
	if p, ok := b.Practice.(Surveying); ok {
		return p.Survey()
	}
	return &Survey{}
}

// Outdoor is of [Outdoors].
func (b Book) Outdoor(job *install.Job) *OutdoorRules {
	if p, ok := b.Practice.(Outdoors); ok {
		return p.Outdoor(job.Standing())
	}
	return &OutdoorRules{}
}

// Electrodes is of [Outdoors].
func (b Book) Electrodes(job *install.Job) ElectrodeReport {
	if p, ok := b.Practice.(Outdoors); ok {
		return p.Electrodes(job.Standing())
	}
	return ElectrodeReport{Steps: []working.Step{}, Checks: []working.Check{}, Missed: []string{}}
}

// Chain is of [Supplying].
func (b Book) Chain(job *install.Job) ChainReport {
	if p, ok := b.Practice.(Supplying); ok {
		return p.Chain(job.Standing())
	}
	return ChainReport{Nodes: []ChainNode{}, Jumpers: []Jumper{}, Checks: []working.Check{}, Verdict: working.Pass}
}

// Isolation is of [Supplying].
func (b Book) Isolation(job *install.Job, charge func(route string) (float64, bool), today time.Time) []IsolationRoute {
	if p, ok := b.Practice.(Supplying); ok {
		return p.Isolation(job, charge, today)
	}
	return nil
}

// SupplyNumber is of [Supplying]; without it a number is neither right nor wrong.
func (b Book) SupplyNumber(text, serial string) Number {
	if p, ok := b.Practice.(Supplying); ok {
		return p.SupplyNumber(text, serial)
	}
	return Number{Verdict: working.Unknown, Steps: []working.Step{}}
}

// Work is of [Working].
func (b Book) Work(job *install.Job, report *Report) []Work {
	if p, ok := b.Practice.(Working); ok {
		return p.Work(job.Standing(), report)
	}
	return nil
}

// Tests is of [Proving].
func (b Book) Tests(job *install.Job, report *Report) []Test {
	if p, ok := b.Practice.(Proving); ok {
		return p.Tests(job.Standing(), report)
	}
	return nil
}
