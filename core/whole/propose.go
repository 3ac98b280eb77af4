package whole

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/outage"
	"arvelt/core/plan"
	"arvelt/core/rulebook"
	"arvelt/core/schedule"
	"arvelt/core/van"
)

// Proposing is a job of which days are proposed.
type Proposing struct {
	ID   string
	View *View
	// Team are the people of the company as they may act on it.
	Team plan.Team
}

// Proposal is on which days the open steps of all jobs could be done, by whom, and why not earlier.
type Proposal struct {
	From string        `json:"from"` // the first day that it speaks of
	Jobs []ProposedJob `json:"jobs"`
}

// ProposedJob is what is proposed of a job.
type ProposedJob struct {
	ID    string         `json:"id"`
	Ref   string         `json:"ref"`
	Title string         `json:"title"`
	Ends  string         `json:"ends"` // the day of its last step that has one; empty for none
	Steps []ProposedStep `json:"steps"`
	Out   []ProposedOut  `json:"out"` // steps that have no day, by why
}

// ProposedStep is the day of a step.
type ProposedStep struct {
	Task    string   `json:"task"`
	Title   string   `json:"title"`
	Day     string   `json:"day"`
	Until   string   `json:"until"` // the day on which it ends
	Who     []string `json:"who"`
	StandBy string   `json:"standBy"` // at height
	Hours   float64  `json:"hours"`
	Why     string   `json:"why"`   // why it is not earlier
	Was     string   `json:"was"`   // the day that stands on the plan, empty for none
	Fixed   bool     `json:"fixed"` // somebody fixed that day, and it stays
	Clash   string   `json:"clash"` // why that does not go as it stands; empty where it does
	// Swap is what could change days with it, where that would go; nil for nothing.
	Swap *Swap `json:"swap"`
}

// Swap is a step whose day somebody fixed too, of people who have both, that would go on the day of one that does not, and that one on its.
type Swap struct {
	Job   string `json:"job"` // id
	Ref   string `json:"ref"`
	Task  string `json:"task"`
	Title string `json:"title"`
	Day   string `json:"day"`
}

// ProposedOut are steps that have no day.
type ProposedOut struct {
	Why   string `json:"why"`
	Steps int    `json:"steps"`
}

const (
	slotsOfHour = 2   // a slot is half an hour
	dayBegins   = 8   // hour of the day at which work begins, where daylight is asked
	daysAhead   = 150 // working days that a proposal reaches
)

// leave counts a step that has no day by why.
func (j *ProposedJob) leave(why string) {
	n := slices.IndexFunc(j.Out, func(o ProposedOut) bool { return o.Why == why })
	if n < 0 {
		n, j.Out = len(j.Out), append(j.Out, ProposedOut{Why: why})
	}
	j.Out[n].Steps++
}

// Firm is what a company has and how long merchants take.
type Firm struct {
	Held   []van.Held
	Prices map[string]materials.Item
}

// OrderOf is the order in which a proposal puts steps, by job and step: what a later one begins with.
type OrderOf []string

// Propose says on which days the open steps of jobs could be done, from a day on. What somebody fixed for a day to come stays; what slipped is put anew.
// before is the order of the proposal that stood, nil for none; search is how far it is searched for a better one.
func Propose(jobs []Proposing, firm Firm, today time.Time, before OrderOf, search schedule.Options) (Proposal, OrderOf) {
	b := proposing{jobs: jobs, people: map[string]int{}, rooms: map[string]int{}, at: map[string]int{}, gates: map[int]string{}, opens: map[int]int{},
		prices: firm.Prices, out: Proposal{Jobs: []ProposedJob{}}}
	if len(jobs) == 0 {
		return b.out, nil
	}
	b.outlook = &jobs[0].Team.Outlook
	b.calendar(&jobs[0].View.Job.Schools, today)
	b.resources(firm.Held)
	for j := range jobs {
		b.job(j)
	}
	search.Before = b.listOf(before)
	x := schedule.Solve(&b.problem, search)
	b.read(&x)
	return b.out, b.orderOf(&x)
}

// proposing turns jobs into a problem of tasks in time, and its solution into days.
type proposing struct {
	jobs    []Proposing
	today   string
	days    []time.Time // that are worked, from the first on
	perDay  int         // slots
	problem schedule.Problem
	people  map[string]int // resource by name
	names   []string       // by resource, of people
	rooms   map[string]int // resource by job and room
	tester  int
	at      map[string]int // task by job and step
	steps   []proposedTask
	gates   map[int]string // by task, what its first day comes from
	opens   map[int]int    // by task, that day as a slot
	prices  map[string]materials.Item
	outlook *plan.Outlook
	out     Proposal
}

type proposedTask struct {
	job  int
	task *plan.Task
}

func (b *proposing) calendar(s *install.Schools, today time.Time) {
	b.today = today.Format(time.DateOnly)
	b.perDay = max(1, int(math.Round(rulebook.WorkDay.FigureIn(s)*slotsOfHour)))
	for d := today.AddDate(0, 0, 1); len(b.days) < daysAhead; d = d.AddDate(0, 0, 1) {
		if rulebook.Works(s, d.Weekday()) && b.outlook.Off("", d.Format(time.DateOnly)) == nil {
			b.days = append(b.days, d)
		}
	}
	b.problem.Slots = daysAhead * b.perDay
	b.out.From = b.days[0].Format(time.DateOnly)
}

// slotOf is the first slot of a day, or of the first working day behind it.
func (b *proposing) slotOf(day string) int {
	for n, d := range b.days {
		if d.Format(time.DateOnly) >= day {
			return n * b.perDay
		}
	}
	return b.problem.Slots
}

func (b *proposing) dayOf(slot int) string {
	return b.days[min(max(slot, 0)/b.perDay, len(b.days)-1)].Format(time.DateOnly)
}

func (b *proposing) resource(cap int) int {
	b.problem.Resources = append(b.problem.Resources, schedule.Resource{Cap: cap})
	return len(b.problem.Resources) - 1
}

// resources are the people who work on site, and the testers of the company: one where it keeps no record of any.
func (b *proposing) resources(held []van.Held) {
	for _, p := range b.jobs[0].Team.On(b.days[0]) {
		if p.Role != install.RoleOffice {
			b.people[p.Name] = b.resource(1)
			b.problem.Resources[b.people[p.Name]].Out = b.without(nil, func(day string) bool { return b.outlook.Off(p.ID, day) != nil })
			b.names = append(b.names, p.Name)
		}
	}
	testers := 0
	for _, h := range held {
		switch h.Kit {
		case "tester":
			testers++
		case van.Vehicle:
			b.problem.Sites++
		}
	}
	b.tester = b.resource(max(1, testers))
}

// without adds to some slots, nil for none, those of the days of which something is so.
func (b *proposing) without(slots schedule.Slots, is func(day string) bool) schedule.Slots {
	for n, d := range b.days {
		if is(d.Format(time.DateOnly)) {
			if slots == nil {
				slots = schedule.NewSlots(b.problem.Slots)
			}
			slots.Add(n*b.perDay, (n+1)*b.perDay)
		}
	}
	return slots
}

// job puts the steps of a job that can have a day into the problem, and says why the others have none.
func (b *proposing) job(j int) {
	v := b.jobs[j].View
	out := ProposedJob{ID: b.jobs[j].ID, Ref: v.Job.Ref, Title: v.Job.Title, Steps: []ProposedStep{}, Out: []ProposedOut{}}
	without := map[string]bool{}
	leave := func(t *plan.Task, why string) {
		without[t.ID] = true
		out.leave(why)
	}
	team := b.team(j)
	fixedAt := map[string]int{}
	b.problem.Weights = append(b.problem.Weights, 1)
	titles, first := map[string]string{}, len(b.problem.Tasks)
	for i := range v.Tasks {
		titles[v.Tasks[i].ID] = v.Tasks[i].Title
	}
	for i := range v.Tasks {
		t := &v.Tasks[i]
		if t.Done || t.On == b.today || t.Day && v.Job.Outage.Day == b.today { // what is planned for today is taken for done by then
			continue
		}
		if t.Day && v.Job.Outage.Day >= b.out.From {
			b.outage(j, t, team)
			continue
		}
		if why := b.unfit(j, t, without, titles); why != "" {
			leave(t, why)
			continue
		}
		task, why := b.task(j, t, team)
		if why != "" {
			leave(t, why)
			continue
		}
		n := len(b.problem.Tasks)
		if task.Pinned { // steps of one day follow each other
			task.From += fixedAt[t.On]
			fixedAt[t.On] = min(fixedAt[t.On]+task.Dur, b.perDay-1)
		}
		for _, a := range t.After {
			if k, ok := b.at[key(j, b.jobs, a)]; ok && !task.Pinned {
				task.After = append(task.After, k)
			}
		}
		if t.Stage == install.Handover && len(t.After) == 0 && !task.Pinned { // it comes behind all the others
			if len(without) > 0 {
				leave(t, v.Job.Words.Say("First: what has no day of this job."))
				continue
			}
			for k := first; k < n; k++ {
				task.After = append(task.After, k)
			}
		}
		b.at[key(j, b.jobs, t.ID)] = n
		b.problem.Tasks, b.steps = append(b.problem.Tasks, task), append(b.steps, proposedTask{j, t})
	}
	b.out.Jobs = append(b.out.Jobs, out)
}

// outage takes a step into the day without supply of its job, which is one task: its sheet plans it hour by hour, and its crew is there all day.
func (b *proposing) outage(j int, t *plan.Task, team crewOf) {
	job := b.jobs[j].View.Job
	day := key(j, b.jobs, "")
	n, ok := b.at[day]
	if !ok {
		n = len(b.problem.Tasks)
		b.at[day] = n
		step := &plan.Task{Title: job.Words.Say("The day without supply"), Day: true, On: job.Outage.Day, Crew: max(1, job.Outage.Crew), Isolation: true,
			Kind: install.ConnectingStep, Hours: rulebook.WorkDay.FigureIn(&job.Schools)}
		task := schedule.Task{Dur: b.perDay, From: b.slotOf(job.Outage.Day), Pinned: true, Group: j}
		task.Crew, _ = b.crew(j, step, team) // where nobody may, its sheet says so
		b.opens[n] = 0
		b.problem.Tasks, b.steps = append(b.problem.Tasks, task), append(b.steps, proposedTask{j, step})
	}
	b.at[key(j, b.jobs, t.ID)] = n
	for _, a := range t.After {
		if k, ok := b.at[key(j, b.jobs, a)]; ok && k != n && !slices.Contains(b.steps[n].task.After, a) {
			b.steps[n].task.After = append(b.steps[n].task.After, a)
		}
	}
}

func key(j int, jobs []Proposing, task string) string { return jobs[j].ID + " " + task }

// crewOf is who may be of the crews of a job, and which kinds of step an apprentice may say are done.
type crewOf struct {
	people []install.Person
	learns []install.StepKind
}

// team is the company's people for a job. Who can least comes first, as whoever can more is kept for what takes it; the owner last, who has the firm to look
// after.
func (b *proposing) team(j int) crewOf {
	people := slices.Clone(b.jobs[j].Team.On(b.days[0]))
	owns := func(p *install.Person) int {
		if p.Role == install.RoleOwner {
			return 1
		}
		return 0
	}
	slices.SortStableFunc(people, func(a, c install.Person) int {
		return cmp.Or(cmp.Compare(owns(&a), owns(&c)), cmp.Compare(len(a.Holds.List()), len(c.Holds.List())))
	})
	return crewOf{people, Practice(b.jobs[j].View.Job).Terms().Apprentice}
}

// unfit says why a step has no day, empty where it can have one.
func (b *proposing) unfit(j int, t *plan.Task, without map[string]bool, titles map[string]string) string {
	job := b.jobs[j].View.Job
	w := job.Words
	switch {
	case t.Others != "" && t.On == "":
		return w.Say("Others do it, and nobody has said when.")
	case t.Day && job.Outage.Day == "":
		return w.Say("The day without supply has no date.")
	case t.Day:
		return w.Say("The day without supply was %s: it gets another date first.", job.Outage.Day)
	case t.Gate() == plan.GateSheet:
		return t.Closed
	case t.Gate() == plan.GateTrade && plan.PromisedFor(job, t, b.today) == "":
		return t.Closed
	}
	for _, a := range t.After {
		if without[a] {
			return w.Say("First: %s.", titles[a])
		}
	}
	return ""
}

// task is a step as a task of the problem; why it can have no day, where it cannot.
func (b *proposing) task(j int, t *plan.Task, team crewOf) (schedule.Task, string) {
	v := b.jobs[j].View
	job, w := v.Job, v.Job.Words
	factor := 1.0
	if v.Pace.Enough {
		factor = v.Pace.Factor
	}
	out := schedule.Task{Dur: max(1, int(math.Ceil(t.Hours*factor*slotsOfHour))), Group: j}
	n := len(b.problem.Tasks)
	from := func(day, why string) {
		if s := b.slotOf(day); s > out.From {
			out.From, b.gates[n] = s, why
		}
	}
	from(job.Plan.StartDate, w.Say("the work starts on %s", job.Plan.StartDate))
	if t.Gate() == plan.GateTrade {
		day := plan.PromisedFor(job, t, b.today)
		from(day, t.Closed)
	}
	if t.Gate() == plan.GateShort {
		day, why := b.comes(v, t)
		from(day, why)
	}
	day := t.On
	b.opens[n] = out.From
	if out.Pinned = day != "" && day >= b.out.From && b.slotOf(day) < b.problem.Slots; out.Pinned {
		out.From = b.slotOf(day)
	}
	if t.Others != "" {
		return out, ""
	}
	if t.Room != "" {
		k := job.Ref + " " + t.Room
		if _, ok := b.rooms[k]; !ok {
			b.rooms[k] = b.resource(1)
		}
		out.Uses = append(out.Uses, schedule.Use{Resource: b.rooms[k], Amount: 1})
	}
	if t.Tests() {
		out.Uses = append(out.Uses, schedule.Use{Resource: b.tester, Amount: 1})
	}
	if t.Height || t.Outdoor != "" {
		out.Not = b.dark(job)
	}
	out.Not = b.without(out.Not, func(day string) bool { return b.outlook.WeatherOn(w, t.Weather, day) != "" })
	var why string
	out.Crew, why = b.crew(j, t, team)
	return out, why
}

// comes is when what a step lacks is there: as it was promised, or as long as the merchant usually takes.
func (b *proposing) comes(v *View, t *plan.Task) (day, why string) {
	w := v.Job.Words
	for i := range v.Take.Lines {
		l := &v.Take.Lines[i]
		if l.Short <= 0 || !slices.ContainsFunc(l.Asks, func(a materials.Ask) bool { return slices.Contains(a.Steps, t.ID) }) {
			continue
		}
		on := l.Due
		for _, p := range l.Promised {
			on = max(on, p.On)
		}
		says := w.Say("%s comes on %s", l.Name, on)
		if on == "" {
			lead := max(1, b.prices[l.Key].LeadDays)
			on = b.days[0].AddDate(0, 0, lead-1).Format(time.DateOnly)
			says = w.Say("%s is not on its way: ordered today it takes %d days", l.Name, lead)
		}
		if on > day {
			day, why = on, says
		}
	}
	return day, why
}

// dark are the slots in which it is not light at the site; nil where nobody said where that is.
func (b *proposing) dark(job *install.Job) schedule.Slots {
	o := &job.Outage
	if o.Latitude == nil || o.Longitude == nil {
		return nil
	}
	out := schedule.NewSlots(b.problem.Slots)
	for n, d := range b.days {
		rise, set, ok := outage.Sun(*o.Latitude, *o.Longitude, d)
		for k := range b.perDay {
			if at := dayBegins + float64(k)/slotsOfHour; ok && (at < rise || at+1.0/slotsOfHour > set) {
				out.Add(n*b.perDay+k, n*b.perDay+k+1)
			}
		}
	}
	return out
}

// crew is whom a step takes: those who are named, or people with what it takes, as many as it takes.
func (b *proposing) crew(j int, t *plan.Task, team crewOf) ([]schedule.Need, string) {
	job := b.jobs[j].View.Job
	w := job.Words
	if named := install.NamesIn(t.Who); len(named) > 0 {
		out := []schedule.Need{}
		for _, name := range named {
			if r, ok := b.people[name]; ok {
				out = append(out, schedule.Need{Of: []int{r}, N: 1})
			}
		}
		return out, ""
	}
	needs := b.jobs[j].Team.Asked(t)
	anybody := slices.Contains(team.learns, t.Kind)
	lead, rest := []int{}, []int{}
	for _, p := range team.people {
		r, ok := b.people[p.Name]
		if !ok {
			continue
		}
		rest = append(rest, r)
		if (anybody || p.Role != install.RoleApprentice) && !slices.ContainsFunc(needs, func(a install.Authority) bool { return !p.Holds.Has(a) }) {
			lead = append(lead, r)
		}
	}
	if len(lead) == 0 {
		said := []string{}
		for _, a := range needs {
			said = append(said, w.Say(string(install.AuthorityNames[a])))
		}
		return nil, w.Say("Nobody of the company has all that it takes: %s.", strings.Join(said, ", "))
	}
	if len(rest) < t.Crew {
		return nil, w.Say("It takes %d people, the company has %d.", t.Crew, len(rest))
	}
	out := []schedule.Need{{Of: lead, N: 1}}
	if t.Crew > 1 {
		out = append(out, schedule.Need{Of: rest, N: t.Crew - 1})
	}
	return out, ""
}

// listOf is an order as the problem numbers the tasks: what it does not name stands behind. nil for none.
func (b *proposing) listOf(order OrderOf) []int {
	if order == nil {
		return nil
	}
	out, seen := []int{}, make([]bool, len(b.steps))
	for _, k := range order {
		if n, ok := b.at[k]; ok && !seen[n] {
			out, seen[n] = append(out, n), true
		}
	}
	for n := range seen {
		if !seen[n] {
			out = append(out, n)
		}
	}
	return out
}

func (b *proposing) orderOf(x *schedule.Plan) OrderOf {
	out := OrderOf{}
	for _, n := range schedule.List(x) {
		out = append(out, key(b.steps[n].job, b.jobs, b.steps[n].task.ID))
	}
	return out
}

// read turns a plan into days.
func (b *proposing) read(x *schedule.Plan) {
	on := b.occupied(x)
	for n, s := range b.steps {
		v, job := b.jobs[s.job].View, &b.out.Jobs[s.job]
		w, t, task := v.Job.Words, s.task, &b.problem.Tasks[n]
		if x.Start[n] < 0 {
			job.leave(w.Say("There is no room for it within %d working days.", daysAhead))
			continue
		}
		if t.Others != "" {
			continue
		}
		end := x.Start[n] + task.Dur
		p := ProposedStep{Task: t.ID, Title: t.Title, Day: b.dayOf(x.Start[n]), Until: b.dayOf(end - 1), Who: []string{}, Hours: t.Hours, Was: t.On, Fixed: task.Pinned}
		for _, r := range x.Crew[n] {
			p.Who = append(p.Who, b.names[r])
		}
		if t.Height && len(p.Who) > 1 {
			if p.StandBy = t.StandBy; !slices.Contains(p.Who, p.StandBy) {
				p.StandBy = p.Who[len(p.Who)-1]
			}
		}
		if p.Fixed {
			p.Why, p.Clash = w.Say("Somebody fixed the day."), b.clash(n, x, on)
			if p.Clash != "" {
				p.Swap = b.swap(n, x, on)
			}
		} else {
			p.Why = b.why(n, x, on)
		}
		job.Ends = max(job.Ends, p.Until)
		job.Steps = append(job.Steps, p)
	}
	for j := range b.out.Jobs {
		slices.SortStableFunc(b.out.Jobs[j].Steps, func(a, c ProposedStep) int { return cmp.Compare(a.Day, c.Day) })
	}
}

// occupied lists by resource the tasks that use it.
func (b *proposing) occupied(x *schedule.Plan) [][]int {
	out := make([][]int, len(b.problem.Resources))
	for n := range b.steps {
		if x.Start[n] < 0 {
			continue
		}
		for _, u := range b.problem.Tasks[n].Uses {
			out[u.Resource] = append(out[u.Resource], n)
		}
		for _, r := range x.Crew[n] {
			out[r] = append(out[r], n)
		}
	}
	return out
}

// other is the task of some that uses something at the same time as a task would from a slot on; -1 for none.
func (b *proposing) other(n, at int, x *schedule.Plan, among []int) int {
	end := at + b.problem.Tasks[n].Dur
	for _, o := range among {
		if o != n && x.Start[o] < end && x.Start[o]+b.problem.Tasks[o].Dur > at {
			return o
		}
	}
	return -1
}

// called is a task in words: with its job, where that is another.
func (b *proposing) called(n, of int) string {
	if s := b.steps[n]; s.job != b.steps[of].job {
		return b.jobs[s.job].View.Job.Ref + " " + s.task.Title
	}
	return b.steps[n].task.Title
}

// why says why a task is not earlier.
func (b *proposing) why(n int, x *schedule.Plan, on [][]int) string {
	w, task, at := b.jobs[b.steps[n].job].View.Job.Words, &b.problem.Tasks[n], x.Start[n]
	if at == 0 {
		return w.Say("As early as can be.")
	}
	for _, a := range task.After {
		if x.Start[a]+b.problem.Tasks[a].Dur == at {
			return w.Say("After %s.", b.steps[a].task.Title)
		}
	}
	if at == task.From && b.gates[n] != "" {
		return w.Say("Not before: %s.", strings.TrimSuffix(b.gates[n], "."))
	}
	for _, u := range task.Uses {
		if o := b.other(n, at-1, x, on[u.Resource]); o >= 0 {
			until := b.dayOf(x.Start[o] + b.problem.Tasks[o].Dur - 1)
			if u.Resource == b.tester {
				return w.Say("The tester is needed until %s: %s.", until, b.called(o, n))
			}
			return w.Say("The room is worked in until %s: %s.", until, b.called(o, n))
		}
	}
	if task.Not.Last(at-1, at-1+task.Dur) >= 0 {
		for k := at - 1; k >= 0 && task.Not.Last(k, k+1) >= 0; k-- { // it is dark before the first slot of a day, and wet on the day before
			if wet := b.outlook.WeatherOn(w, b.steps[n].task.Weather, b.dayOf(k)); wet != "" {
				return w.Say("The weather of %s. %s", b.dayOf(k), wet)
			}
		}
		return w.Say("By daylight.")
	}
	if b.problem.Sites > 0 && b.full(n, at-1, x) {
		return w.Say("Every vehicle is at another site until then.")
	}
	for _, need := range task.Crew {
		busy, until := []string{}, b.problem.Slots
		for _, r := range need.Of {
			if b.problem.Resources[r].Out.Last(at-1, at-1+task.Dur) >= 0 {
				busy, until = append(busy, w.Say("%s, away", b.names[r])), min(until, at)
				continue
			}
			o := b.other(n, at-1, x, on[r])
			if o < 0 {
				continue
			}
			until = min(until, x.Start[o]+b.problem.Tasks[o].Dur)
			name := b.names[r]
			if s := b.steps[o]; s.job != b.steps[n].job {
				name += " (" + b.jobs[s.job].View.Job.Ref + ")"
			}
			busy = append(busy, name)
		}
		if len(need.Of)-len(busy) < need.N {
			return w.Say("Who can do it is at other steps until %s: %s.", b.dayOf(until-1), strings.Join(busy, ", "))
		}
	}
	return w.Say("Others that come later would be held up by it.")
}

// clash says why the day that somebody fixed does not go; empty where it does.
func (b *proposing) clash(n int, x *schedule.Plan, on [][]int) string {
	s, task := b.steps[n], &b.problem.Tasks[n]
	v := b.jobs[s.job].View
	w, day := v.Job.Words, b.dayOf(task.From)
	for _, a := range s.task.After {
		if k, ok := b.at[key(s.job, b.jobs, a)]; ok && b.dayOf(x.Start[k]+b.problem.Tasks[k].Dur-1) > day {
			return w.Say("%s comes first and is done on %s.", b.steps[k].task.Title, b.dayOf(x.Start[k]+b.problem.Tasks[k].Dur-1))
		}
	}
	if b.dayOf(b.opens[n]) > day {
		return w.Say("Not before %s: %s.", b.dayOf(b.opens[n]), strings.TrimSuffix(b.gates[n], "."))
	}
	if wet := b.outlook.WeatherOn(w, s.task.Weather, day); wet != "" {
		return wet
	}
	for _, r := range x.Crew[n] {
		for _, p := range b.jobs[s.job].Team.On(b.days[0]) {
			if off := b.outlook.Off(p.ID, day); p.Name == b.names[r] && off != nil {
				return w.Say("%s.", off.Says(w, p.Name))
			}
		}
		if sum := b.fixedOn(r, day, on); sum > b.perDay && task.Dur <= b.perDay {
			return w.Say("%s has %g hours on that day.", b.names[r], float64(sum)/slotsOfHour)
		}
	}
	return ""
}
