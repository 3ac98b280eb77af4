package plan

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// Hold is one thing that holds a job at a stage, where it is mended, and who
// it waits for.
type Hold struct {
	Stage install.Stage `json:"stage"`
	Sheet working.Sheet `json:"sheet"`
	What  string        `json:"what"`
	Who   string        `json:"who"`
	// Sign marks the signature itself, which a list of what it waits for leaves out.
	Sign bool `json:"-"`
}

// State is where a job stands.
type State struct {
	Stage install.Stage         `json:"stage"`
	Holds []Hold                `json:"holds"` // of this and later stages, in order
	Waits map[working.Sheet]int `json:"waits"` // holds by sheet, for the riser
	// Joints says how far each sheet is: pass when nothing is held there, fail
	// when something on it failed, caution while its stage is in work or
	// something on it is assumed or left undone, unknown before that.
	Joints map[working.Sheet]working.Verdict `json:"joints"`
}

// Waiting is what a sheet keeps a job from: how much, and the first of it in words.
type Waiting struct {
	Sheet working.Sheet `json:"sheet"`
	Count int           `json:"count"`
	First string        `json:"first"`
}

// Waiting puts what holds a job together by the sheets on which it is settled, in the order of what comes first.
func (s *State) Waiting() []Waiting {
	out := []Waiting{}
	for i := range s.Holds {
		h := &s.Holds[i]
		at := slices.IndexFunc(out, func(w Waiting) bool { return w.Sheet == h.Sheet })
		if at < 0 {
			at, out = len(out), append(out, Waiting{Sheet: h.Sheet, First: h.What})
		}
		out[at].Count++
	}
	return out
}

// Input is everything that was computed of the job.
type Input struct {
	Job    *install.Job
	Report *rulebook.Report
	Tests  proving.Sheet
	Tasks  []Task
	Take   materials.TakeOff
	Needs  []rulebook.Need
	Terms  install.Terms
	Walk   *survey.Walked
	// Checks are all that there are: of the design, the supply arrangement and the works outdoors.
	Checks []working.Check
	// Dangers are the findings under which people are at risk now.
	Dangers []survey.Finding
	// AtOperator are the findings at the equipment of the network operator that are not mended.
	AtOperator []survey.Finding
	// Routes are the ways to make the work dead ahead of the board.
	Routes []rulebook.IsolationRoute
	// Unanswered are the checks that fail of a report and that no finding is about.
	Unanswered []Unanswered
	// Unagreed says why the work does not begin yet: its price is with the client, or was declined.
	Unagreed string
}

// StateOf finds the stage: the first that something holds.
func StateOf(in Input) State {
	s := standing{Input: in, failed: map[working.Sheet]bool{}, partly: map[working.Sheet]bool{}}
	s.survey()
	s.walk()
	s.checks()
	s.goods()
	s.work()
	s.tests()
	s.report()
	s.handover()
	return s.state()
}

// standing gathers what holds a job, and which sheets failed or are done only in part.
type standing struct {
	Input
	holds          []Hold
	failed, partly map[working.Sheet]bool
}

func (s *standing) hold(stage install.Stage, sheet working.Sheet, who working.Who, what string) {
	s.holds = append(s.holds, Hold{Stage: stage, Sheet: sheet, What: what, Who: string(who)})
}

// survey holds what the survey must say before anything is designed.
func (s *standing) survey() {
	job, w := s.Job, s.Job.Words
	if strings.TrimSpace(job.Site.Customer) == "" || strings.TrimSpace(job.Site.Address) == "" {
		s.hold(install.Survey, working.SurveySheet, working.Office, w.Say("customer and address"))
	}
	trait := job.Trait()
	for _, m := range []struct {
		missing bool
		sheet   working.Sheet
		what    string
	}{
		{len(job.Board.Ways) == 0 && trait.Board, working.BoardSheet, w.Say("the ways of the board")},
		{len(job.Loads.Items) == 0 && trait.Load, working.SurveySheet, w.Say("the existing load")},
		{len(job.Circuits) == 0 && !trait.Walk, working.SurveySheet, w.Say("at least one circuit with its route")},
		{len(job.Rooms) == 0 && trait.Walk, working.SurveySheet, w.Say("the rooms and their points")},
		{strings.TrimSpace(job.Site.Extent) == "" && trait.Extent, working.SurveySheet, w.Say("how far the work goes, as agreed")},
		{len(job.Chain.Enclosures) == 0 && trait.Service, working.SupplySheet,
			w.Say("the supply arrangement: its enclosures")},
	} {
		if m.missing {
			s.hold(install.Survey, m.sheet, working.Surveyor, m.what)
		}
	}
	for i := range job.Circuits {
		if c := &job.Circuits[i]; trait.Report && c.State == install.InspectedCircuit && !c.Seen {
			s.hold(install.Survey, working.CircuitsSheet, working.Surveyor, w.Say("%s: its cable and device, looked at and as recorded", c.Name))
		}
	}
	for i := range job.Boards {
		if b := &job.Boards[i]; len(b.Ways) == 0 && trait.Board {
			s.hold(install.Survey, working.BoardSheet, working.Surveyor, w.Say("the ways of %s", b.Called(w)))
		}
	}
	for _, n := range s.Needs {
		if !trait.Origin {
			break // it rests on nothing of the supply
		}
		s.hold(install.Survey, n.Sheet, working.Surveyor, n.What)
	}
	for _, f := range []install.Fact{job.Supply.ZeOhm, job.Supply.PFCkA, job.Supply.MainFuseA, job.Supply.TailsMM2, job.Supply.EarthMM2} {
		s.partly[working.SupplySheet] = s.partly[working.SupplySheet] || f.Known() && !f.Confirmed()
	}
}

// checks holds what the rules hold that do not pass.
func (s *standing) checks() {
	for i := range s.Checks {
		c := &s.Checks[i]
		if c.Outside {
			continue
		}
		s.failed[c.Sheet] = s.failed[c.Sheet] || c.Verdict == working.Fail
		s.partly[c.Sheet] = s.partly[c.Sheet] || c.Verdict == working.Caution
		if rule := c.Of(); c.Verdict.Worse(working.Caution) && len(rule.Holds) > 0 {
			s.held(c, rule)
		}
	}
}

// goods holds what is not yet delivered.
func (s *standing) goods() {
	if s.Unagreed != "" {
		s.hold(install.Order, working.QuoteSheet, working.Client, s.Unagreed)
	}
	for _, trouble := range s.Take.Troubles {
		s.hold(install.Order, working.MaterialsSheet, working.Merchant, trouble)
		s.failed[working.MaterialsSheet] = true
	}
	for _, g := range s.Take.Gaps {
		s.hold(install.Order, g.Sheet, working.Surveyor, s.Job.Words.Say("Not on the order list: %s", g.What))
	}
	waiting := 0
	for _, l := range s.Take.Lines {
		if l.Short > 0 && l.Trouble == "" {
			waiting++
		}
	}
	if waiting > 0 {
		s.hold(install.Order, working.MaterialsSheet, working.Merchant, s.Job.Words.Say("%d lines not yet delivered", waiting))
	}
}

// work holds the tasks that are open, and walls that were closed over some.
func (s *standing) work() {
	sheets := map[install.Stage]working.Sheet{install.FirstFix: working.FirstFixSheet, install.SecondFix: working.SecondFixSheet,
		install.Handover: working.HandoverSheet}
	for _, t := range s.Tasks {
		if !t.Done {
			who := working.Crew
			if t.Who != "" {
				who = working.Who(t.Who)
			}
			s.hold(t.Stage, sheets[t.Stage], who, t.Title)
		}
	}
	for i := range s.Job.Rooms {
		r := &s.Job.Rooms[i]
		if open := openBehind(s.Tasks, r); r.Closed != "" && open != "" {
			s.hold(install.FirstFix, working.FirstFixSheet, working.Crew,
				s.Job.Words.Say("%s: its walls were closed on %s and this is not done: %s", r.Name, r.Closed, open))
			s.failed[working.FirstFixSheet] = true
		}
	}
}

// tests holds readings that fail or are still to be taken.
func (s *standing) tests() {
	for _, r := range s.Tests.Rows {
		switch r.Verdict {
		case working.Fail:
			if r.Answered {
				continue
			}
			says := s.Job.Words.Say("%s%s failed", s.Job.Whose(r.Circuit), r.Title)
			if at := r.At(); at != "" {
				says = s.Job.Words.Say("%s%s failed at %s", s.Job.Whose(r.Circuit), r.Title, at)
			}
			s.hold(install.Test, working.TestSheet, working.Crew, says)
			s.failed[working.TestSheet] = true
		case working.Unknown:
			s.hold(install.Test, working.TestSheet, working.Crew, s.Job.Whose(r.Circuit)+r.Title)
		}
	}
}

// handover holds snags, ways of the board that say nothing or are open, and the signature.
func (s *standing) handover() {
	job, w := s.Job, s.Job.Words
	for _, l := range proving.LooseEnds(job) {
		if proving.Stays(&l) {
			continue // the pack says it, with who comes back for it and when
		}
		s.hold(install.Handover, working.SecondFixSheet, working.Crew, w.Say("snag: %s", proving.Says(job, &l)))
		s.partly[working.SecondFixSheet] = true
	}
	if off := s.Tests.NotOn; len(off) > 0 {
		says := strings.Join(off[:min(3, len(off))], ", ")
		if len(off) > 3 {
			says = w.Say("%s and %d more", says, len(off)-3)
		}
		s.hold(install.Handover, working.TestSheet, working.Crew, w.Say("not in service yet: %s", says))
	}
	if !job.Frozen() {
		s.hold(install.Handover, working.HandoverSheet, working.Supervisor, w.Say("the supervisor's signature"))
		s.holds[len(s.holds)-1].Sign = true
	}
	if !job.Trait().Board {
		return
	}
	for b := range job.EachBoard() {
		// On a job of one board its ways are told by their numbers alone.
		at := func(no int) string {
			if len(job.Boards) == 0 {
				return w.Say("way %d", no)
			}
			return w.Say("%s, way %d", b.Called(w), no)
		}
		for _, way := range b.Ways {
			if way.Device != "" && strings.TrimSpace(way.Label) == "" && way.Circuit == "" && !wayTaken(job, &s.Terms, b, way.No) {
				s.hold(install.Handover, working.BoardSheet, working.Crew,
					w.Say("%s has a device (%s) and nothing says what it feeds", at(way.No), way.Device))
			}
		}
		for _, way := range s.Terms.FreeWays(job, b) {
			if !way.Blank {
				s.hold(install.Handover, working.BoardSheet, working.Crew, w.Say("%s is open: blank it", at(way.No)))
			}
		}
	}
}

// state puts the holds in the order of the stages: the first is where the job stands.
func (s *standing) state() State {
	slices.SortStableFunc(s.holds, func(a, b Hold) int {
		return slices.Index(install.Stages, a.Stage) - slices.Index(install.Stages, b.Stage)
	})
	out := State{Stage: install.Aftercare, Holds: s.holds, Waits: map[working.Sheet]int{}}
	if len(s.holds) > 0 {
		out.Stage = s.holds[0].Stage
	} else {
		out.Holds = []Hold{}
	}
	for _, h := range s.holds {
		out.Waits[h.Sheet]++
	}
	out.Joints = s.joints(out.Stage)
	return out
}

// joints derives how far each sheet is from its holds.
func (s *standing) joints(now install.Stage) map[working.Sheet]working.Verdict {
	job := s.Job
	out := map[working.Sheet]working.Verdict{}
	first := map[working.Sheet]install.Stage{}
	for _, h := range s.holds {
		if _, seen := first[h.Sheet]; !seen {
			first[h.Sheet] = h.Stage
		}
	}
	offer, _ := job.LastOffer()
	for _, sheet := range working.Sheets {
		stage, held := first[sheet]
		planned := sheet != working.PlanSheet || job.Plan.StartDate != ""
		switch {
		case s.failed[sheet]:
			out[sheet] = working.Fail
		case held && stage == now, s.partly[sheet]:
			out[sheet] = working.Caution
		case held, len(job.Circuits) == 0 && ofCircuits(sheet),
			!planned && slices.Index(install.Stages, now) <= slices.Index(install.Stages, install.Order),
			sheet == working.QuoteSheet && offer == nil && !job.Frozen():
			out[sheet] = working.Unknown
		case sheet == working.PlanSheet && slices.ContainsFunc(s.Tasks,
			func(t Task) bool { return !t.Done && job.Plan.Tasks[t.ID].Who == "" }):
			out[sheet] = working.Caution // a date alone is no plan: somebody does each task
		default:
			out[sheet] = working.Pass
		}
	}
	return out
}

// ofCircuits reports whether a sheet says nothing of a job without circuits.
func ofCircuits(s working.Sheet) bool {
	return s != working.SurveySheet && s != working.SupplySheet && s != working.BoardSheet
}

// stages is where a job waits for what holds an act.
var stages = map[working.Act]install.Stage{
	working.ToOrder: install.Design, working.ToCutOff: install.Order, working.ToDig: install.FirstFix,
	working.ToPull: install.FirstFix, working.ToFill: install.FirstFix, working.ToClose: install.FirstFix,
	working.ToEnergise: install.Test, working.ToService: install.Handover, working.ToSign: install.Handover,
}

// held adds what a check holds: the first of the acts of its rule says where the job waits.
func (s *standing) held(c *working.Check, rule *working.Rule) {
	w, sheet, who := s.Job.Words, rule.Sheet, rule.Who
	switch {
	case rule.Who == working.Operator && s.Report.Circuit(c.Circuit).Operator.Path == rulebook.Apply:
		s.hold(install.Order, sheet, who, w.Say("the operator's agreement before the work"))
	case rule.Who == working.Operator && c.Verdict == working.Fail:
		s.hold(install.Order, sheet, who, w.Say("the operator refused"))
	case rule.Who == working.Operator:
		s.hold(install.Handover, sheet, working.Office, w.Say("the operator's notification on record"))
	case c.Verdict == working.Unknown && len(c.Missing) > 0:
		s.hold(stages[rule.Holds[0]], sheet, who, s.Job.Whose(c.Circuit)+c.Title+": "+c.Missing[0])
	default:
		s.hold(stages[rule.Holds[0]], sheet, who, w.Say("%s%s fails", s.Job.Whose(c.Circuit), c.Title))
	}
}

// openBehind is a step of a room that its closed walls hide and that is not done.
func openBehind(tasks []Task, r *install.Room) string {
	for i := range tasks {
		if t := &tasks[i]; t.Room == r.ID && t.Stage == install.FirstFix && !t.Done {
			return t.Title
		}
	}
	return ""
}

// wayTaken reports whether a circuit of the job stands on a way of a board.
func wayTaken(job *install.Job, terms *install.Terms, b *install.Board, no int) bool {
	return slices.ContainsFunc(job.On(b), func(k *install.Circuit) bool {
		return slices.ContainsFunc(terms.PlacesOf(k), func(p install.Place) bool { return p.Way == no })
	})
}

// unseen says of a room that was not seen why, and when it is.
func (s *standing) unseen(r *install.Room) string {
	if r.Revisit != "" {
		return s.Job.Words.Say("%s was not seen: %s. It is seen on %s.", r.Name, r.Skipped, r.Revisit)
	}
	return s.Job.Words.Say("%s was not seen: %s", r.Name, r.Skipped)
}

// dangers holds what the findings under which people are at risk leave open: who is told, that it is made safe or was refused with notice, and
// what is reported to the operator until that is closed.
func (s *standing) dangers() {
	job, w := s.Job, s.Job.Words
	for i := range s.AtOperator {
		f := &s.AtOperator[i]
		where := strings.Trim(f.Title+", "+f.Where, ", ")
		if s.failed[working.SurveySheet] = true; f.Reported == "" {
			s.hold(install.Survey, working.SurveySheet, working.Surveyor, w.Say("the report to the operator: %s", where))
		} else if !job.Trait().Report {
			s.hold(install.Handover, working.SurveySheet, working.Operator, w.Say("reported to the operator and not closed: %s", where))
		}
	}
	for i := range s.Dangers {
		f := &s.Dangers[i]
		where := strings.Trim(f.Title+", "+f.Where, ", ")
		s.failed[working.SurveySheet] = true
		if f.Told == "" && f.Notice == "" && f.Reported == "" {
			s.hold(install.Survey, working.SurveySheet, working.Surveyor, w.Say("danger, nobody told: %s", where))
		}
		switch {
		case f.Refused(): // the pack says it, and it is not put into service
		case f.Safe == "" && f.Decision == install.Declined:
			s.hold(install.Survey, working.SurveySheet, working.Surveyor, w.Say("the notice of a dangerous condition: %s", where))
		case f.Safe == "":
			s.hold(install.Survey, working.SurveySheet, working.Crew, w.Say("danger, not made safe: %s", where))
		case job.Trait().Report, f.Operator: // a report says it, and mends nothing
		default:
			s.hold(install.Handover, working.SurveySheet, working.Crew, w.Say("danger made safe but not rectified: %s", where))
		}
	}
}

// walk holds what the walk, the hazards and the supply chain leave open.
func (s *standing) walk() {
	job, w := s.Job, s.Job.Words
	if job.Trait().Walk && len(job.Circuits) == 0 && len(job.Rooms) > 0 {
		s.hold(install.Design, working.CircuitsSheet, working.Designer, w.Say("circuits for the points of the survey"))
	}
	if n := s.Walk.Unread; n > 0 {
		s.hold(install.Survey, working.SurveySheet, working.Surveyor, w.Say("%d items of shorthand that were not understood", n))
	}
	for i := range job.Rooms {
		if r := &job.Rooms[i]; r.Skipped != "" {
			s.hold(install.FirstFix, working.SurveySheet, working.Surveyor, s.unseen(r))
			s.partly[working.SurveySheet] = true
		}
	}
	alike, order := map[string][]string{}, []string{}
	for _, r := range s.Walk.LowVoltage.Held() {
		if alike[r.Says] == nil {
			order = append(order, r.Says)
		}
		alike[r.Says] = append(alike[r.Says], r.Name)
	}
	for _, says := range order { // once for all rooms that are alike
		s.hold(install.FirstFix, working.SurveySheet, working.Crew, strings.Join(alike[says], ", ")+": "+says)
	}
	for _, h := range job.Found.Hazards {
		if !h.Clear {
			s.hold(install.FirstFix, working.SurveySheet, working.Surveyor, w.Say("%s at %s is not cleared", h.Kind, h.Place))
			s.partly[working.SurveySheet] = true
		}
	}
	s.dangers()
	if job.Trait().Intake && !slices.ContainsFunc(s.Routes, func(r rulebook.IsolationRoute) bool { return r.Chosen && r.Offered }) {
		s.hold(install.Order, working.SupplySheet, working.Office, w.Say("a lawful way to isolate the intake"))
	}
}
