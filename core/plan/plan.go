// Package plan turns the model into tasks, in the order practitioners work,
// and says at which stage a job stands and what holds it.
package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// Task is one piece of work.
type Task struct {
	ID        string        `json:"id"`
	Stage     install.Stage `json:"stage"`
	Circuit   string        `json:"circuit"`
	Title     string        `json:"title"`
	Crew      int           `json:"crew"`
	Hours     float64       `json:"hours"`
	Who       string        `json:"who"`
	After     []string      `json:"after"`
	Isolation bool          `json:"isolation"` // opens an enclosure or terminates at the board
	StaysLive string        `json:"staysLive"` // parts that stay live whatever is isolated
	Caution   string        `json:"caution"`
	Done      bool          `json:"done"`
	DoneBy    string        `json:"doneBy"`
	DoneAt    *time.Time    `json:"doneAt"`
	Closed    string        `json:"closed"` // why it cannot be ticked now
}

// norms are hours for one crew, by feel of the trade: a start that the
// company's price and hours list replaces and logged work corrects.
var norms = map[string]float64{
	"mark": 0.5, "core": 0.75, "trench-per-m": 0.35, "cable-per-m": 0.05, "rod": 1, "photo": 0.25,
	"point": 1.5, "board": 1.25, "pen": 1, "torque": 0.25, "label": 0.5, "test": 1.5, "owner": 0.5,
}

// Hours returns the norm from the company's list where it has one.
func hours(list map[string]materials.Item, key string) float64 {
	if item, ok := list["hours:"+key]; ok && item.Hours > 0 {
		return item.Hours
	}
	return norms[key]
}

// NormKeys lists the keys under which a company may keep its own hours.
func NormKeys() []string {
	out := []string{}
	for k := range norms {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// incomingLive names what no isolation by the contractor makes dead.
const incomingLive = "The incoming terminals of the main switch and the tails stay live: they are dead only when the operator's fuse or an isolator ahead is open."

// Tasks generates the tasks of a job as they stand for a person at a time.
func Tasks(job *install.Job, list map[string]materials.Item, by string, now time.Time) []Task {
	out := []Task{}
	for i := range job.Circuits {
		out = append(out, circuitTasks(job, &job.Circuits[i], list)...)
	}
	if len(job.Circuits) > 0 {
		out = append(out, Task{ID: "owner", Stage: install.Handover, Title: "Show the owner: isolator, reset, test button, who to call", Crew: 1, Hours: hours(list, "owner")})
	}
	ticks := map[string]install.Record{}
	for _, r := range job.Records {
		if r.Kind == install.Tick {
			ticks[r.Subject] = r
		}
	}
	_, isolated := proving.IsolationInForce(job, by, now)
	titles := map[string]string{}
	for i := range out {
		t := &out[i]
		titles[t.ID] = t.Title
		if t.After == nil {
			t.After = []string{}
		}
		if edit, ok := job.Plan.Tasks[t.ID]; ok {
			if edit.Crew > 0 {
				t.Crew = edit.Crew
			}
			if edit.Hours > 0 {
				t.Hours = edit.Hours
			}
			t.Who = edit.Who
		}
		t.Hours = math.Round(t.Hours*4) / 4
		if r, ok := ticks[t.ID]; ok && r.Done {
			at := r.At
			t.Done, t.DoneBy, t.DoneAt = true, r.By, &at
		}
	}
	done := map[string]bool{}
	for i := range out {
		done[out[i].ID] = out[i].Done
	}
	for i := range out {
		t := &out[i]
		for _, first := range t.After {
			if !done[first] {
				t.Closed = "First: " + titles[first] + "."
				break
			}
		}
		if t.Closed == "" && t.Isolation && !t.Done && !isolated {
			t.Closed = "Needs your own isolation record of today: source, lock and tag, tester proved, every pair dead, tester proved again."
		}
	}
	return out
}

func circuitTasks(job *install.Job, c *install.Circuit, list map[string]materials.Item) []Task {
	id := func(s string) string { return c.ID + "-" + s }
	buried, laid := 0.0, 0.0
	for _, s := range c.Route.Segments {
		if s.Method == "D" {
			buried += s.LengthM
		} else {
			laid += s.LengthM
		}
	}
	name := c.Name
	var out []Task
	last := ""
	add := func(t Task) {
		t.ID, t.Circuit = id(t.ID), c.ID
		if last != "" && t.After == nil {
			t.After = []string{last}
		}
		last = t.ID
		out = append(out, t)
	}
	ff, sf := install.FirstFix, install.SecondFix
	add(Task{ID: "mark", Stage: ff, Title: "Mark the route of " + name + ", look for hidden services", Crew: 1, Hours: hours(list, "mark"),
		Caution: "Check for cables and pipes behind every drilling point; suspected asbestos is not disturbed."})
	if buried > 0 {
		add(Task{ID: "trench", Stage: ff, Title: fmt.Sprintf("Trench %s m, bed, cable, warning tape, backfill", unit.Format(buried)), Crew: 2, Hours: buried * hours(list, "trench-per-m"),
			Caution: "Locate other services before the first cut; dig by hand near them."})
	}
	if laid > 0 {
		add(Task{ID: "core", Stage: ff, Title: "Drill the walls, sleeve and seal", Crew: 1, Hours: hours(list, "core"), Caution: "Eye protection; slope the hole outwards."})
	}
	add(Task{ID: "cable", Stage: ff, Title: fmt.Sprintf("Run and fix %s m of cable, tails left and labelled at both ends", unit.Format(c.Route.LengthM())), Crew: 1 + b2i(c.Route.LengthM() > 25), Hours: math.Max(0.5, c.Route.LengthM()*hours(list, "cable-per-m")),
		Caution: "Keep the unproven end out of reach; it is not connected at the board."})
	if c.PEN.Option == "tt_rod" || c.PEN.Option == "met_electrode" {
		add(Task{ID: "rod", Stage: ff, Title: "Drive the earth electrode", Crew: 1, Hours: hours(list, "rod") * float64(max(1, c.PEN.Rods)), Caution: "Locate services first; keep clear of buried metal earthed from the supply."})
	}
	add(Task{ID: "photo", Stage: ff, Title: "Photograph the route before it is covered", Crew: 1, Hours: hours(list, "photo")})
	what := "the appliance"
	if c.Use == "ev" {
		what = "the charge point"
	}
	add(Task{ID: "point", Stage: sf, Title: "Mount " + what + " and terminate its end", Crew: 1, Hours: hours(list, "point"), Isolation: true, Caution: "The cable is new but its other end is in somebody's reach: prove it dead."})
	if c.PEN.Option == "voltage_monitor" || c.PEN.Option == "touch_voltage_device" {
		add(Task{ID: "pen", Stage: sf, Title: "Fit the broken neutral-earth device", Crew: 1, Hours: hours(list, "pen"), Isolation: true})
	}
	where := "at the board"
	if c.Protection.OwnEnclosure {
		where = "in its own enclosure"
	}
	add(Task{ID: "board", Stage: sf, Title: "Fit the device and terminate " + name + " " + where, Crew: 1, Hours: hours(list, "board"), Isolation: true, StaysLive: incomingLive,
		Caution: "Main switch off, locked and tagged; tester proved, every pair dead, tester proved again."})
	add(Task{ID: "torque", Stage: sf, Title: "Tighten every terminal to its maker's torque and note it", Crew: 1, Hours: hours(list, "torque"), Isolation: true, StaysLive: incomingLive})
	add(Task{ID: "label", Stage: sf, Title: "Label the circuit at both ends and on the board", Crew: 1, Hours: hours(list, "label")})
	return out
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// Hold is one thing that holds a job at a stage, where it is mended, and who
// it waits for.
type Hold struct {
	Stage install.Stage `json:"stage"`
	Sheet string        `json:"sheet"`
	What  string        `json:"what"`
	Who   string        `json:"who"`
}

// State is where a job stands.
type State struct {
	Stage install.Stage  `json:"stage"`
	Holds []Hold         `json:"holds"` // of this and later stages, in order
	Waits map[string]int `json:"waits"` // holds by sheet, for the riser
	// Joints says how far each sheet is: pass when nothing is held there, fail
	// when something on it failed, caution while its stage is in work or
	// something on it is assumed or left undone, unknown before that.
	Joints map[string]working.Verdict `json:"joints"`
}

// Sheets are the sheets of a job in their order on the riser.
var Sheets = []string{"survey", "supply", "circuits", "board", "materials", "plan", "first-fix", "second-fix", "test", "handover"}

// joints derives how far each sheet is from its holds.
func (s *State) joints(in Input, failed, partly map[string]bool) {
	job := in.Job
	s.Joints = map[string]working.Verdict{}
	first := map[string]install.Stage{}
	for _, h := range s.Holds {
		if _, seen := first[h.Sheet]; !seen {
			first[h.Sheet] = h.Stage
		}
	}
	for _, sheet := range Sheets {
		stage, held := first[sheet]
		switch {
		case failed[sheet]:
			s.Joints[sheet] = working.Fail
		case held && stage == s.Stage, partly[sheet]:
			s.Joints[sheet] = working.Caution
		case held, len(job.Circuits) == 0 && slices.Contains(Sheets[2:], sheet) && sheet != "board", sheet == "plan" && job.Plan.StartDate == "" && slices.Index(install.Stages, s.Stage) <= slices.Index(install.Stages, install.Order):
			s.Joints[sheet] = working.Unknown
		default:
			s.Joints[sheet] = working.Pass
		}
	}
}

// Input is everything that was computed of the job.
type Input struct {
	Job    *install.Job
	Report *rulebook.Report
	Tests  proving.Sheet
	Tasks  []Task
	Take   materials.TakeOff
}

// StateOf finds the stage: the first that something holds.
func StateOf(in Input) State {
	s := State{Waits: map[string]int{}}
	failed, partly := map[string]bool{}, map[string]bool{}
	hold := func(stage install.Stage, sheet, who, what string) {
		s.Holds = append(s.Holds, Hold{stage, sheet, what, who})
	}
	job := in.Job
	if strings.TrimSpace(job.Site.Customer) == "" || strings.TrimSpace(job.Site.Address) == "" {
		hold(install.Survey, "survey", "office", "customer and address")
	}
	for _, m := range []struct {
		missing bool
		sheet   string
		what    string
	}{
		{job.Supply.Earthing == "", "supply", "the earthing arrangement"},
		{!job.Supply.MainFuseA.Known(), "supply", "the main fuse rating"},
		{!job.Supply.ZeOhm.Known(), "supply", "external loop impedance, measured, asked or assumed"},
		{!job.Supply.PFCkA.Known(), "supply", "prospective fault current, measured, asked or assumed"},
		{!job.Supply.TailsMM2.Known(), "supply", "the size of the tails"},
		{len(job.Supply.Bonds) == 0 && !job.Supply.NoExtraneous, "supply", "main bonding as found"},
		{len(job.Board.Ways) == 0, "board", "the ways of the board"},
		{len(job.Loads.Items) == 0, "survey", "the existing load"},
		{len(job.Circuits) == 0, "survey", "at least one circuit with its route"},
	} {
		if m.missing {
			hold(install.Survey, m.sheet, "surveyor", m.what)
		}
	}
	for _, c := range in.Report.Checks() {
		sheet := "circuits"
		if c.Circuit == "" {
			sheet = "supply"
		}
		if !c.Verdict.Worse(working.Caution) {
			partly[sheet] = partly[sheet] || c.Verdict == working.Caution
			continue
		}
		if c.ID == "demand" || c.ID == "way" {
			sheet = map[string]string{"demand": "circuits", "way": "board"}[c.ID]
		}
		failed[sheet] = failed[sheet] || c.Verdict == working.Fail
		switch {
		case c.ID == "operator":
			first := slices.ContainsFunc(in.Report.Circuits, func(r rulebook.CircuitReport) bool { return r.ID == c.Circuit && r.Operator.Path == "apply" })
			if first {
				hold(install.Order, sheet, "network operator", "the operator's agreement before the work")
			} else if c.Verdict == working.Fail {
				hold(install.Order, sheet, "network operator", "the operator refused")
			} else {
				hold(install.Handover, sheet, "office", "the operator's notification on record")
			}
		case c.Verdict == working.Unknown && len(c.Missing) > 0:
			hold(install.Design, sheet, "designer", c.Title+": "+c.Missing[0])
		default:
			hold(install.Design, sheet, "designer", c.Title+" fails")
		}
	}
	for _, f := range []install.Fact{job.Supply.ZeOhm, job.Supply.PFCkA, job.Supply.MainFuseA, job.Supply.TailsMM2, job.Supply.EarthMM2} {
		partly["supply"] = partly["supply"] || f.Known() && !f.Confirmed()
	}
	for _, trouble := range in.Take.Troubles {
		hold(install.Order, "materials", "merchant", trouble)
		failed["materials"] = true
	}
	waiting := 0
	for _, l := range in.Take.Lines {
		if l.Short > 0 && l.Trouble == "" {
			waiting++
		}
	}
	if waiting > 0 {
		hold(install.Order, "materials", "merchant", fmt.Sprintf("%d lines not yet delivered", waiting))
	}
	sheets := map[install.Stage]string{install.FirstFix: "first-fix", install.SecondFix: "second-fix", install.Handover: "handover"}
	for _, t := range in.Tasks {
		if !t.Done {
			hold(t.Stage, sheets[t.Stage], "electrician", t.Title)
		}
	}
	for _, r := range in.Tests.Rows {
		if r.Verdict == working.Fail {
			hold(install.Test, "test", "electrician", r.Title+" failed")
			failed["test"] = true
		} else if r.Verdict == working.Unknown {
			hold(install.Test, "test", "electrician", r.Title)
		}
	}
	for _, l := range proving.LooseEnds(job) {
		hold(install.Handover, "second-fix", "electrician", "loose end: "+l.Note)
		partly["second-fix"] = true
	}
	for _, w := range job.Board.Ways {
		if w.Free() && !w.Blank && !taken(job, w.No) {
			hold(install.Handover, "board", "electrician", fmt.Sprintf("way %d is open: blank it", w.No))
		}
	}
	if !job.Frozen() {
		hold(install.Handover, "handover", "supervisor", "the supervisor's signature")
	}
	slices.SortStableFunc(s.Holds, func(a, b Hold) int {
		return slices.Index(install.Stages, a.Stage) - slices.Index(install.Stages, b.Stage)
	})
	s.Stage = install.Aftercare
	if len(s.Holds) > 0 {
		s.Stage = s.Holds[0].Stage
	} else {
		s.Holds = []Hold{}
	}
	for _, h := range s.Holds {
		s.Waits[h.Sheet]++
	}
	s.joints(in, failed, partly)
	return s
}

func taken(job *install.Job, way int) bool {
	return slices.ContainsFunc(job.Circuits, func(c install.Circuit) bool { return c.Protection.Way == way })
}
