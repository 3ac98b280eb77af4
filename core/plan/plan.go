// Package plan turns the model into tasks, in the order practitioners work,
// and says at which stage a job stands and what holds it.
package plan

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/outdoor"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Task is one piece of work.
type Task struct {
	ID        string           `json:"id"`
	Stage     install.Stage    `json:"stage"`
	Circuit   string           `json:"circuit"`
	Title     string           `json:"title"`
	Crew      int              `json:"crew"`
	Hours     float64          `json:"hours"`
	Who       string           `json:"who"`
	After     []string         `json:"after"`
	On        string           `json:"on"`        // the day on which it is planned, empty while none is
	Isolation bool             `json:"isolation"` // opens an enclosure or terminates at the board
	StaysLive string           `json:"staysLive"` // parts that stay live whatever is isolated
	Caution   string           `json:"caution"`
	Done      bool             `json:"done"`
	DoneBy    string           `json:"doneBy"`
	DoneAt    *time.Time       `json:"doneAt"`
	Closed    string           `json:"closed"`   // why it cannot be ticked now
	ClosedAt  *At              `json:"closedAt"` // where that is put right; nil where it is here
	Kind      install.StepKind `json:"kind"`
	Photo     bool             `json:"photo"` // a picture of it is what ticks it, or why there is none
	Note      string           `json:"note"`  // what was written with the tick
	// Others are who does it where that is not the electrical crew: the tick says by what it is known. Needs is how conductors stand for it.
	Others string `json:"others"`
	Needs  Needs  `json:"needs"`
	Again  string `json:"again"` // why it is to be done though it was ticked before; empty where it was not
	// Height: it is work at height, which takes two: one works, and StandBy stands by on the ground. Skills are what one of the crew is good at.
	Height  bool                `json:"height"`
	StandBy string              `json:"standBy"`
	Skills  []install.Authority `json:"skills"`
	// Norm is the key of the hours that it is reckoned by, empty for none. Worked are the person-hours that were noted on it, 0 while nobody noted any;
	// Over: more than a quarter above what is planned. Clocks are those that run on it.
	Norm   string      `json:"norm"`
	Worked float64     `json:"worked"`
	Over   bool        `json:"over"`
	Clocks []StepClock `json:"clocks"`
	// Day marks what belongs to the day on which the supply goes off, Step what of it the
	// task is.
	Day  bool   `json:"-"`
	Step string `json:"-"`

	// Dead are the places where conductors are handled, by id: each is read and found dead. reach are those that are expected dead beside
	// them, without being read.
	Dead  []string `json:"dead"`
	Prove string   `json:"prove"` // of them the one that is expected dead under the person's locks and was not read yet; empty for none
	reach []string
	held  string // why it is not this person's to tick now, done or not
	stays bool   // what closes it is neither a step before it nor who looks
	gate  Gate

	// stopped is what has to be cleared first, and where; lacks is what the model does not say yet of what it does, so that it is not done
	// whoever ticked it. alters: dead tests must be newer than it; touched is when it was last ticked or taken back.
	stopped, lacks string
	stoppedAt      *At
	alters         bool
	// act is what it is of the acts that verdicts hold; empty for none. Outdoor is the run outdoors, or the electrodes, that it is of.
	act     working.Act
	Outdoor string `json:"-"`
	// Finds is what others who do it must find ready.
	Finds string `json:"-"`
	// Weather is what of the weather holds it.
	Weather outdoor.Weathered `json:"-"`
	// Room is that of the walk whose points it is about, by id; empty for none.
	Room string `json:"room"`
	// Finding is what of the survey it mends, in words; empty for none. Shared: another piece of work, or what the job puts in, does it.
	Finding string `json:"-"`
	Shared  bool   `json:"-"`
	// points is what of the work on the points of its room it sums up; more: there is work in it beside them. own: it waits for what is recorded of
	// its points.
	points pointsOf
	more   bool
	own    bool
	// hangs: all of it is connected, and only recessed luminaires are not pushed up, which are lit first. worked is when conductors were last
	// handled in it.
	hangs  bool
	worked install.Moment
	// circuits are those that it alters beside its own.
	circuits []string
	// Far: it lands the near end of a feeder, and the far end is done and tested dead before that.
	Far     bool `json:"-"`
	touched install.Moment
	// grown is when a variation last added points to what it is about: what was ticked before is done again.
	grown install.Moment
}

// Gate is what closes a step that waits neither for a step before it nor for who looks.
type Gate string

// What closes a step. The zero value is nothing of these.
const (
	GateSheet Gate = "sheet" // a check that holds it, something not cleared, or a price that is not agreed: people settle it, nobody knows when
	GateShort Gate = "short" // what was delivered does not suffice
	GateTrade Gate = "trade" // others, who may have promised a day
)

// Gate is what closes the step of these.
func (t *Task) Gate() Gate { return t.gate }

// At is where on the sheets of a job something is put right.
type At struct {
	Sheet   working.Sheet `json:"sheet"`
	Leaf    working.Leaf  `json:"leaf"`
	Circuit string        `json:"circuit"`
}

// Needs is how the conductors that a step may meet have to stand for it.
type Needs string

// What a step needs.
const (
	NeedsDead    Needs = "dead"    // read and found dead where they are handled
	NeedsLive    Needs = "live"    // live tests
	NeedsLocated Needs = "located" // it enters a wall, a ceiling or the ground: what lies there is found and marked
	NeedsNothing Needs = "nothing" // it touches none
)

// needs says how conductors have to stand for a step.
func (t *Task) needs() Needs {
	switch {
	case t.Isolation:
		return NeedsDead
	case t.Step == StepLive, t.Step == StepEnergise:
		return NeedsLive
	case t.Kind == install.DrillingStep, t.Kind == install.DiggingStep:
		return NeedsLocated
	}
	return NeedsNothing
}

// incomingLive names what no isolation by the contractor makes dead.
const incomingLive = words.Key("The incoming terminals of the main switch and the tails stay live: they are dead only when the " +
	"operator's fuse or an isolator ahead is open.")

// Practice is what a practice brings to the tasks: its unit of length and the steps that only
// it asks for.
type Practice struct {
	Terms  *install.Terms
	Length install.Length
	Book   *rulebook.Book   // nil where only its words are known
	Survey *rulebook.Survey // its words for what is walked; nil where nothing was
	Own    []rulebook.Work
	Serves map[string]string // by use what stands at the end of a circuit
	// Cores says by circuit which core of its cable is what; Outdoor is how the works
	// outdoors stand, nil without any.
	Cores   map[string]string
	Outdoor *outdoor.Report
	// House is what can be opened and where people work.
	House *isolate.House
	// Asks are the circuits of which the network operator is asked before the work.
	Asks map[string]bool
	// Checks are those of the design and the supply arrangement: what they hold, no step does.
	Checks []working.Check
	// Agreed are the findings that were accepted and that the contractor mends.
	Agreed []survey.Work
	// Unagreed says why the work does not begin yet: its price is with the client, or was declined. Empty where that does not hold it.
	Unagreed string
	// Stops are the steps that what was delivered does not suffice for.
	Stops []materials.Stop
}

// listed is a list that is none where it is empty: it is told as one.
func listed[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// edited takes what people decided over a step.
func (t *Task) edited(by install.TaskEdit) {
	if by.Crew > 0 {
		t.Crew = by.Crew
	}
	if by.Hours > 0 {
		t.Hours = by.Hours
	}
	t.Who, t.On, t.StandBy = cmp.Or(by.Who, t.Who), by.Day, by.StandBy
	switch by.AtHeight {
	case install.IsAtHeight:
		t.Height = true
	case install.NotAtHeight:
		t.Height = false
	}
	if t.Height {
		t.Crew = max(t.Crew, heightCrew)
		t.Skills = append(t.Skills, install.Climbing)
	}
}

// short says by step why what came does not suffice for it.
func (p *Practice) short() map[string]string {
	out := make(map[string]string, len(p.Stops))
	for _, s := range p.Stops {
		out[s.Step] = cmp.Or(out[s.Step], s.Why)
	}
	return out
}

// holds is the first check that holds the act of a step; nil for none.
func (p *Practice) holds(t *Task) *working.Check {
	if t.act == "" {
		return nil
	}
	lists := [][]working.Check{p.Outdoor.ChecksOf(t.Outdoor)} // of what is outdoors all are of it
	if t.Circuit != "" {
		lists = [][]working.Check{p.Checks, p.Outdoor.CircuitChecks()}
	}
	for _, list := range lists {
		for i := range list {
			if c := &list[i]; c.Circuit == t.Circuit && c.Stops(t.act) {
				return c
			}
		}
	}
	return nil
}

// Tasks generates the tasks of a job as they stand for a person at a time.
func Tasks(job *install.Job, by Practice, list map[string]materials.Item, person install.Person, now time.Time) []Task {
	w := job.Words
	out := make([]Task, 0, 16*(len(job.Circuits)+len(job.Outdoor.Runs)+1)+4*len(job.Rooms))
	if job.Trait().Report {
		out = append(out, Task{ID: ownerTask, Kind: install.ShowingStep, Stage: install.Handover, Title: w.Say("Go through the report with the client"),
			Crew: 1, Norm: ownerTask, Hours: hours(list, ownerTask)})
	} else {
		out = work(job, &by, list, out)
	}
	// Each stage stands once, in the order of the work within it.
	slices.SortStableFunc(out, func(a, b Task) int {
		return slices.Index(install.Stages, a.Stage) - slices.Index(install.Stages, b.Stage)
	})
	ticks := map[string]install.Record{}
	for _, r := range job.Records {
		if r.Kind == install.Tick {
			ticks[r.Subject] = r
		}
	}
	if by.House == nil {
		by.House = isolate.Of(job, by.Terms)
	}
	scope := proving.ScopeOf(job, by.House, by.Terms, person, now)
	worked, noted := progressOf(job), hoursNoted(job, now)
	titles := make(map[string]string, len(out))
	for i := range out {
		t := &out[i]
		titles[t.ID], t.Needs = t.Title, t.needs()
		t.After, t.Dead, t.Skills = listed(t.After), listed(t.Dead), listed(t.Skills)
		t.Height = t.Height || by.high(job, t)
		t.edited(job.Plan.Tasks[t.ID])
		t.Hours = math.Round(t.Hours*4) / 4
		noted.of(t)
		if r, ok := ticks[t.ID]; ok {
			t.touched = r.Moment()
			switch {
			case r.Done && t.lacks != "":
				t.Again = w.Say("It was ticked on %s.", r.At.Format(time.DateOnly)) + " " + t.lacks
			case r.Done && t.grown.After(r.Moment()):
				t.Again = w.Say("It was done on %s: a variation has added or moved points since.", r.At.Format(time.DateOnly))
			case r.Done:
				t.Done, t.DoneBy, t.DoneAt, t.Note = true, r.By, &r.At, r.Note
				if r.Person != "" {
					t.DoneBy = w.Say("%s, noted by %s", r.Person, r.By)
				}
			}
		}
		worked.sums(job, t)
		worked.handled(job, t)
	}
	short := by.short()
	done := make(map[string]bool, len(out))
	for i := range out {
		done[out[i].ID] = out[i].Done
	}
	for i := range out {
		t := &out[i]
		if t.ID == energiseTask && !t.Done && proving.LiveOf(job, by.House).At(isolate.BoardPlace(&job.Board)) == nil {
			t.Closed = w.Say("Needs permission to energise on the Test sheet: dead tests come first.")
			continue
		}
		if !t.Done {
			by.gate(job, t, short, now.Format(time.DateOnly))
		}
		t.stays = t.Closed != "" && !t.Done
		for _, first := range t.After {
			if !done[first] && t.Closed == "" {
				t.Closed = w.Say("First: %s.", titles[first])
				break
			}
		}
		t.held = closedTo(job, t, by, person, scope)
		if t.Closed == "" && !t.Done {
			t.Closed = t.held
		}
		if t.Height && t.StandBy == "" && t.Others == "" && t.Closed == "" && !t.Done {
			t.Closed = w.Say("Work at height: say first who stands by on the ground.")
			t.ClosedAt, t.stays = &At{Sheet: working.PlanSheet}, true
		}
		if why := worked.lacks(job, t); why != "" && t.Closed == "" && !t.Done {
			t.Closed, t.own = why, true
		}
	}
	return out
}

// gate closes a step that is not done where neither a step before it nor who looks is what it waits for: a check, what is short, what is not agreed, or
// others.
func (p *Practice) gate(job *install.Job, t *Task, short map[string]string, today string) {
	c, x := p.holds(t), gateFor(job, t, today)
	switch why := cmp.Or(t.stopped, t.lacks); {
	case c != nil:
		t.gate = GateSheet
		t.Closed, t.ClosedAt = job.Words.Say("Held by “%s”. %s", c.Title, c.Summary), &At{c.Sheet, c.Leaf, c.Circuit}
	case why != "":
		t.gate = GateSheet
		t.Closed, t.ClosedAt = why, t.stoppedAt
	case p.Unagreed != "" && t.Finding == "" && (t.Stage == install.FirstFix || t.Stage == install.SecondFix):
		t.gate = GateSheet
		t.Closed, t.ClosedAt = p.Unagreed, &At{Sheet: working.QuoteSheet} // what was found and accepted is made safe all the same
	case short[t.ID] != "":
		t.gate = GateShort
		t.Closed, t.ClosedAt = short[t.ID], &At{Sheet: working.MaterialsSheet}
	case x != nil:
		t.gate = GateTrade
		t.Closed, t.ClosedAt = waitsFor(job, x), &At{Sheet: working.PlanSheet}
	}
}

// work are the tasks of what a job puts in, alters and mends.
func work(job *install.Job, by *Practice, list map[string]materials.Item, out []Task) []Task {
	w := job.Words
	abandoned, grown := job.Abandoned(nil), survey.Grown(job)
	for i := range job.Circuits {
		k := &job.Circuits[i]
		tasks := meets(w, job.Found.HazardsAt(nil), circuitTasks(job, by, k, list))
		tasks = passes(w, job, k, tasks)
		if !k.State.Out() { // what leaves is parted under an isolation of its own
			tasks = warned(w, abandoned, tasks)
		}
		out = append(out, tasks...)
	}
	for i := range job.Rooms {
		r := &job.Rooms[i]
		tasks := roomTasks(job, by, r, list, grown[r.ID])
		here := job.Abandoned(r)
		stops := slices.DeleteFunc(slices.Clone(here), func(h install.Hazard) bool { return h.Room == "" })
		anywhere := slices.DeleteFunc(here, func(h install.Hazard) bool { return h.Room != "" })
		out = append(out, warned(w, anywhere, meets(w, append(job.Found.HazardsAt(r), stops...), tasks))...)
	}
	out = append(out, surgeTasks(job, by, list)...)
	for i := range by.Agreed {
		out = append(out, mends(job, &by.Agreed[i], list))
	}
	for i := range job.Outdoor.Runs {
		out = append(out, runTasks(job, &job.Outdoor.Runs[i], job.Kind == install.SupplyUpgrade)...)
	}
	if n := len(job.Outdoor.Electrodes.Rods); n > 0 {
		out = append(out, Task{ID: outdoor.RodStep, Skills: []install.Authority{install.Machines}, Kind: install.DiggingStep,
			Stage: install.FirstFix, Crew: 1, Norm: "rod", Hours: float64(n) * hours(list, "rod"),
			Title: w.Say("Earth electrodes: drive %d rods, conductor on, clamps tight", n), act: working.ToDig, Outdoor: outdoor.ElectrodesObject,
			Caution: w.Say("Locate services first; keep clear of buried metal earthed from the supply.")})
	}
	out = append(out, bondTasks(job, by)...)
	coverLast(job, out)
	throughCores(job, out)
	out = withOutage(job, by, out, list)
	if len(out) > 0 {
		out = append(out, Task{ID: ownerTask, Kind: install.ShowingStep, Stage: install.Handover,
			Title: w.Say("Show the owner: isolator, reset, test button, who to call"), Crew: 1, Norm: ownerTask, Hours: hours(list, ownerTask)})
	}
	return out
}

// bondTasks are the bonds that the job makes, where the practice has no step of its own for them.
func bondTasks(job *install.Job, by *Practice) (out []Task) {
	w := job.Words
	for i := range job.Supply.Bonds {
		b, id := &job.Supply.Bonds[i], unit.Text("bond-", i+1)
		if !b.New || slices.ContainsFunc(by.Own, func(w rulebook.Work) bool { return w.ID == id }) {
			continue
		}
		out = append(out, own(job, &rulebook.Work{ID: id, Stage: install.SecondFix, Title: w.Say("Bond the %s, unbroken conductor, photographed", b.Service),
			Photo: true, Hours: 0.5, Isolation: true, Caution: w.Say("A pipe may carry current: clamp it before a joint is opened.")}))
	}
	return out
}

// ownerTask is the last step of every job.
const ownerTask = "owner"

// Tests reports whether a step is the dead or the live tests of the day of the outage.
func (t *Task) Tests() bool { return t.Step == StepDead || t.Step == StepLive }

// HeldApart is Held, but for what the step waits for of the points of its room.
func (t *Task) HeldApart() string {
	if t.own {
		return t.held
	}
	return t.Held()
}

// Held says why a step is not the person's to tick now, whether it is done or not; empty where it is.
func (t *Task) Held() string { return cmp.Or(t.Closed, t.held) }

// closedTo says why a step that is open is not a person's to tick now: it is not for an apprentice to say, or it is done dead and
// they have not isolated.
func closedTo(job *install.Job, t *Task, by Practice, person install.Person, scope *proving.Scope) string {
	if person.Role == install.RoleApprentice && !slices.Contains(by.Terms.Apprentice, t.Kind) {
		return job.Words.Say("The practice does not let an apprentice say that this is done: whoever is qualified looks at it and does.")
	}
	if !t.Isolation {
		return ""
	}
	for _, place := range t.reach {
		if why := scope.Expected(place); why != "" {
			return why
		}
	}
	for _, place := range t.Dead {
		if why := scope.Dead(place); why != "" {
			if scope.Expected(place) == "" && !t.Done {
				t.Prove = place
			}
			return why
		}
	}
	return ""
}

// fixSheets are the sheets of the work that is done before anything is energised.
var fixSheets = map[install.Stage]working.Sheet{install.FirstFix: working.FirstFixSheet, install.SecondFix: working.SecondFixSheet}

// Facts are what the tasks and the design of a job say to whoever proves it.
func Facts(job *install.Job, tasks []Task, checks []working.Check) *proving.Facts {
	w, boarding := job.Words, rulebook.Boarding.In(&job.Schools) == rulebook.BoardingAgain
	f := &proving.Facts{Worked: map[string][]install.Moment{}, Boarded: map[string][]install.Moment{}, Begun: map[string][]string{}}
	behind := map[string]bool{energiseTask: true} // steps that come after energising
	for i := range tasks {
		t := &tasks[i]
		of := append(slices.Clone(t.circuits), t.Circuit)
		if t.alters && t.worked != (install.Moment{}) {
			for _, circuit := range of {
				f.Worked[circuit] = append(f.Worked[circuit], t.worked)
				f.Begun[circuit] = append(f.Begun[circuit], t.Dead...)
			}
		}
		if slices.ContainsFunc(t.After, func(id string) bool { return behind[id] }) {
			behind[t.ID] = true
		}
		if t.points == closingStep && t.Done && boarding {
			for _, circuit := range circuitsIn(job, t.Room) {
				f.Boarded[circuit] = append(f.Boarded[circuit], t.touched)
			}
		}
		if sheet, fix := fixSheets[t.Stage]; fix && !t.Done && !behind[t.ID] {
			f.Open = append(f.Open, proving.OpenStep{Waits: proving.Waits{Why: t.Title, Sheet: sheet, Circuit: t.Circuit}, Dead: t.Isolation,
				Places: slices.Concat(t.Dead, t.reach), Hangs: t.hangs, Release: t.Day && t.Circuit == "" && !t.Isolation, Label: t.Circuit != ""})
		}
	}
	for i := range checks {
		c := &checks[i]
		switch {
		case c.Stops(working.ToEnergise):
			f.Fails = append(f.Fails, proving.Waits{Why: w.Say("%s fails", c.Title), Sheet: c.Sheet, Circuit: c.Circuit})
		case c.Stops(working.ToService) && c.Of().Who != working.Operator: // what the operator agrees to beforehand fails until then
			why := c.Title
			if len(c.Missing) > 0 {
				why += ": " + c.Missing[0]
			}
			f.Service = append(f.Service, proving.Waits{Why: why, Sheet: c.Sheet, Circuit: c.Circuit})
		default:
			if of := c.RestsOn(); len(of) > 0 {
				f.Service = append(f.Service, proving.Waits{Why: w.Say("%s rests on what is assumed: %s", c.Title, strings.Join(of, "; ")),
					Sheet: c.Sheet, Circuit: c.Circuit})
			}
		}
	}
	return f
}

func circuitTasks(job *install.Job, by *Practice, c *install.Circuit, list map[string]materials.Item) []Task {
	w := job.Words
	in := by.Length
	buried, laid := 0.0, 0.0
	for _, s := range c.Route.Segments {
		if by.Terms.Laid[s.Method].Ground {
			buried += s.LengthM
		} else {
			laid += s.LengthM
		}
	}
	var out []Task
	last := ""
	add := func(t Task) {
		t.ID, t.Circuit, t.Title, t.Dead = c.ID+"-"+t.ID, c.ID, c.Name+": "+t.Title, deadAt(&t, c)
		if last != "" && (t.After == nil || t.Far) {
			t.After = append(t.After, last)
		}
		last = t.ID
		out = append(out, t)
	}
	what := by.Serves[string(c.Use)]
	if b := job.BoardFedBy(c.ID); b != nil {
		what = b.Called(w)
	} else if what == "" {
		what = w.Say("the appliance")
	}
	ff, sf := install.FirstFix, install.SecondFix
	if by.Terms.IsBranch(c) && !c.State.Out() {
		by.atBoard(job, c, list, add) // the branch of a surge device: its leads end beside its breaker
		return out
	}
	switch c.State {
	case install.InspectedCircuit:
		return nil
	case install.RemovedCircuit, install.DormantCircuit:
		leaves(w, c, list, add)
		return out
	case install.KeptCircuit:
		add(Task{ID: "replace", Kind: install.ConnectingStep, Stage: sf, Title: w.Say("repair or replace %s, and terminate", strings.TrimPrefix(what, "the ")),
			Crew: 1, Norm: "point", Hours: hours(list, "point"), Isolation: true, alters: true,
			Caution: w.Say("Prove it dead where you work: another circuit may meet this one in a box. Suspected asbestos is not disturbed.")})
		return out
	case install.AlteredCircuit:
		by.extends(job, c, list, add)
		add(Task{ID: "identify", Kind: install.MarkingStep, Stage: sf,
			Title: w.Say("find and mark its line, neutral and protective conductor, and see that they reach"),
			Crew:  1, Norm: "mark", Hours: hours(list, "mark"), Isolation: true, StaysLive: w.Say(string(incomingLive)),
			Caution: w.Say("A neutral that another circuit borrows is found before it is moved: prove every conductor dead.")})
		by.atBoard(job, c, list, add)
		return out
	}
	add(Task{ID: "mark", Kind: install.MarkingStep, Stage: ff, Title: w.Say("mark the route, look for hidden services"), Crew: 1,
		Norm: "mark", Hours: hours(list, "mark"),
		Caution: w.Say("Check for cables and pipes behind every drilling point; suspected asbestos is not disturbed.")})
	if buried > 0 {
		add(Task{ID: "trench", Skills: []install.Authority{install.Trenching}, act: working.ToDig, Kind: install.DiggingStep, Stage: ff,
			Title: w.Say("trench %s, bed, cable, warning tape, backfill", unit.With(in.Of(buried), in.Unit())), Crew: 2,
			Norm: "trench-per-m", Hours: buried * hours(list, "trench-per-m"),
			Caution: w.Say("Locate other services before the first cut; dig by hand near them.")})
	}
	if laid > 0 && !job.Cored(c.ID) {
		add(Task{ID: "core", Skills: []install.Authority{install.Machines}, Kind: install.DrillingStep, Stage: ff,
			Title: w.Say("drill the walls, sleeve and seal"), Crew: 1, Norm: "core", Hours: hours(list, "core"),
			Caution: w.Say("Eye protection; slope the hole outwards.")})
	}
	add(Task{ID: "cable", act: working.ToPull, Kind: install.RunningStep, Stage: ff, Title: w.Say("run and fix %s of cable, tails left and labelled "+
		"at both ends", unit.With(in.Of(c.Route.LengthM()), in.Unit())), Crew: 1 + b2i(c.Route.LengthM() > 25),
		Norm: "cable-per-m", Hours: math.Max(0.5, c.Route.LengthM()*hours(list, "cable-per-m")),
		Caution: w.Say("Keep the unproven end out of reach; it is not connected at the board.")})
	pen := by.Terms.PEN[c.PEN.Option]
	if pen.Electrode {
		add(Task{ID: "rod", Skills: []install.Authority{install.Machines}, act: working.ToDig, Kind: install.ConnectingStep, Stage: ff,
			Title: w.Say("drive the earth electrode"), Crew: 1, Norm: "rod", Hours: hours(list, "rod") * float64(max(1, c.PEN.Rods)),
			Caution: w.Say("Locate services first; keep clear of buried metal earthed from the supply.")})
	}
	add(Task{ID: "photo", Kind: install.PicturingStep, Stage: ff, Title: w.Say("photograph the route before it is covered"), Photo: true, Crew: 1,
		Norm: "photo", Hours: hours(list, "photo")})
	cores := by.cores(w, c)
	if job.PointSteps(c)[0] == c.ID+"-point" { // else they are fitted room by room
		add(Task{ID: "point", Kind: install.ConnectingStep, Stage: sf, Title: w.Say("mount %s and terminate the cable", strings.TrimPrefix(what, "the ")),
			Crew: 1, Norm: "point", Hours: hours(list, "point"), Isolation: true, alters: true,
			Caution: w.Say("The cable is new but its other end is in somebody's reach: prove it dead.") + cores})
	}
	if pen.Device {
		add(Task{ID: "pen", Kind: install.ConnectingStep, Stage: sf, Title: w.Say("fit the broken neutral-earth device"), Crew: 1, Norm: "pen",
			Hours: hours(list, "pen"), Isolation: true, alters: true})
	}
	by.atBoard(job, c, list, add)
	return out
}

// extends are the steps by which an existing circuit is led on to what is new on it.
func (by *Practice) extends(job *install.Job, c *install.Circuit, list map[string]materials.Item, add func(Task)) {
	w, in := job.Words, by.Terms.Length
	legs, m := job.Extensions(c), 0.0
	if len(legs) == 0 {
		return
	}
	for _, l := range legs {
		m += l.LengthM
	}
	add(Task{ID: "cable", act: working.ToPull, Kind: install.RunningStep, Stage: install.FirstFix, Crew: 1,
		Norm: "cable-per-m", Hours: math.Max(0.5, m*hours(list, "cable-per-m")),
		Title: w.Say("run and fix %s of cable to what it is extended by, tails left and labelled at both ends",
			unit.With(unit.Significant(in.Of(m), 3), in.Unit())),
		Caution: w.Say("Keep the unproven end out of reach; it is not connected to what is there.")})
	add(Task{ID: "photo", Kind: install.PicturingStep, Stage: install.FirstFix, Title: w.Say("photograph the route before it is covered"), Photo: true, Crew: 1,
		Norm: "photo", Hours: hours(list, "photo")})
}

// deadAt are the places where a step of a circuit is done dead: what the step says, else wherever the circuit is.
func deadAt(t *Task, c *install.Circuit) []string {
	if t.Isolation && t.Dead == nil {
		return []string{isolate.CircuitPlace(c.ID)}
	}
	return t.Dead
}

// circuitsIn are the circuits on whose runs points of a room stand.
func circuitsIn(job *install.Job, room string) []string {
	out := []string{}
	for i := range job.Circuits {
		boxes := job.Circuits[i].Serves.Boxes
		for n := range boxes {
			if boxes[n].Room == room && boxes[n].Point != "" {
				out = append(out, job.Circuits[i].ID)
				break
			}
		}
	}
	return out
}

// cores says which core of a circuit's cable is what, empty where that is not known.
func (p *Practice) cores(w *words.Catalogue, c *install.Circuit) string {
	if says := p.Cores[c.ID]; says != "" {
		return " " + w.Say("Cores: %s.", says)
	}
	return ""
}

// atBoard adds the steps of a circuit where its device is.
func (p *Practice) atBoard(job *install.Job, c *install.Circuit, list map[string]materials.Item, add func(Task)) {
	w, sf, cores := job.Words, install.SecondFix, p.cores(job.Words, c)
	where := w.Say("at the board")
	var heavy []install.Authority
	if job.BoardFedBy(c.ID) != nil {
		heavy = []install.Authority{install.Terminating}
	}
	if c.Protection.OwnEnclosure {
		where = w.Say("in its own enclosure")
	} else if b := job.BoardOf(c); b != nil && !b.Main() {
		where = w.Say("at %s", b.Called(w))
	} else if feed := job.FeederOf(c); b == nil && feed != nil {
		where = w.Say("at the board behind %s", feed.Name)
	}
	after, far := []string(nil), job.BoardFedBy(c.ID) != nil && c.State == install.NewCircuit
	if far {
		after = farEnd(job, c)
	}
	add(Task{ID: "board", Kind: install.ConnectingStep, Stage: sf, Title: w.Say("fit the device and terminate its conductors %s", where), Crew: 1,
		Far: far, After: after, Skills: heavy, Norm: "board", Hours: hours(list, "board"), Isolation: true, Dead: []string{isolate.DevicePlace(c)},
		alters: true, Day: true, Step: StepCircuit,
		StaysLive: w.Say(string(incomingLive)),
		Caution:   w.Say("Main switch off, locked and tagged; tester proved, every pair dead, tester proved again.") + cores})
	add(Task{ID: "torque", Kind: install.ConnectingStep, Stage: sf, Title: w.Say("tighten every terminal to its manufacturer's torque and note it"), Crew: 1,
		Norm: "torque", Hours: hours(list, "torque"), Isolation: true, Dead: []string{isolate.DevicePlace(c)}, alters: true, Day: true,
		Step: StepCircuit, StaysLive: w.Say(string(incomingLive))})
	add(Task{ID: "label", Kind: install.LabellingStep, Stage: sf, Title: w.Say("label the circuit at both ends and on the board"), Crew: 1,
		Norm: "label", Hours: hours(list, "label"), Day: true, Step: StepLabel})
}

// farEnd are the steps at the board behind a feeder: it lands at its near end only once they are done.
func farEnd(job *install.Job, feeder *install.Circuit) []string {
	out := []string{}
	for i := range job.Circuits {
		if k := &job.Circuits[i]; k.From == feeder.ID && k.State == install.NewCircuit {
			out = append(out, k.ID+"-board", k.ID+"-torque")
		}
	}
	return out
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}
