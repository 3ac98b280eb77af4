package whole

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/design"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/plan"
	"arvelt/core/quote"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// reopenKey is the key of the company's price and hours list for opening and making good of one place in a wall that was closed.
const reopenKey = "work:reopen"

// weighing is a variation on its way to what it brings.
type weighing struct {
	change        *survey.Change
	before, after *View
	list          map[string]materials.Item
	markup        float64 // on the net price of parts
	known         bool    // every part of the cost
}

// VariationOf works out what a line of shorthand for a room would bring, and the job as it would be with its circuits. It compares the two
// jobs whole: circuits, order, steps, readings and checks. The error is [install.Errors].
func VariationOf(job *install.Job, list map[string]materials.Item, rule install.QuoteRule, by install.Person, now time.Time, room install.Room, text string,
	newID func() string) (survey.Change, *install.Job, error) {
	p := Practice(job)
	change, err := survey.Vary(room, text, p.Survey(), newID)
	if err != nil {
		return change, nil, err
	}
	before := Of(job, list, by, now)
	then, followed := design.Follow(job, change.Room, p)
	as := *then
	as.Records = append(slices.Clone(job.Records), install.Record{Kind: install.Variation, At: now, Rooms: []install.Room{change.Room}})
	after := Of(&as, list, by, now)
	w := &weighing{change: &change, before: &before, after: &after, list: list, known: true, markup: 1 + job.Quote.Under(rule).MarkupPc/100}
	w.circuits(followed)
	w.breaks()
	w.order()
	w.hours(room)
	w.dates()
	if w.known {
		cost := change.AtLeast
		change.Cost = &cost
	}
	return change, then, nil
}

// say adds an effect; a part of the cost that is not known leaves the whole of it open.
func (w *weighing) say(kind survey.EffectKind, known bool, text string) {
	w.known = w.known && (known || kind == survey.Dates || kind == survey.Demand)
	w.change.Effects = append(w.change.Effects, survey.Effect{Kind: kind, Summary: text, Known: known})
}

func (w *weighing) add(cost float64) {
	w.change.AtLeast = round2(w.change.AtLeast + cost)
}

// circuits says what becomes of the circuits.
func (w *weighing) circuits(followed design.Followed) {
	was, now, words := w.before.Job, w.after.Job, w.after.Job.Words
	for i := range now.Circuits {
		k := &now.Circuits[i]
		old := was.CircuitByID(k.ID)
		own := w.after.Report.Circuit(k.ID).Summary
		c := survey.CircuitChange{ID: k.ID, Name: k.Name, New: old == nil, CableM: k.Route.LengthM(), Gains: boxesBeside(k, old), Loses: []string{},
			Device: own.Device, Conductor: own.Conductor, Way: k.Protection.Way}
		if old != nil {
			c.CableM -= old.Route.LengthM()
			c.Loses = boxesBeside(old, k)
		}
		c.CableM = unit.Significant(c.CableM, 3)
		if c.New || len(c.Gains)+len(c.Loses) > 0 {
			w.change.Circuits = append(w.change.Circuits, c)
		}
		switch {
		case !c.New || c.Way > 0 || k.Protection.OwnEnclosure:
		case len(now.Board.Ways) == 0:
			w.say(survey.Circuits, false, words.Say("Not recorded: the ways of the board, of which %s takes one.", k.Name))
		default:
			w.say(survey.Circuits, false, words.Say("No way of the board is free for %s: a larger or a second board comes with it.", k.Name))
		}
		if old != nil && old.State == install.KeptCircuit && k.State == install.AlteredCircuit {
			w.say(survey.Circuits, false, words.Say("%s, which is there, is altered by it. Not priced: the cable of what is new on it.", k.Name))
		}
	}
	for i := range was.Circuits {
		if k := &was.Circuits[i]; now.CircuitByID(k.ID) == nil {
			w.change.Circuits = append(w.change.Circuits, survey.CircuitChange{ID: k.ID, Name: k.Name, Gone: true, Gains: []string{},
				Loses: boxesBeside(k, nil), CableM: -k.Route.LengthM(), Way: k.Protection.Way})
		}
	}
	for _, name := range followed.Drawless {
		w.say(survey.Circuits, false, words.Say("Not recorded: what the %s draws. Its circuit is as such circuits start, until that is known.", name))
	}
	for _, open := range followed.Open {
		w.say(survey.Circuits, false, open)
	}
	a, b := w.before.Report.Demand, w.after.Report.Demand
	from, to, fuse := unit.Format(a.AfterA), unit.Format(b.AfterA), unit.Format(b.FuseA)
	switch {
	case a.AfterA == b.AfterA:
	case b.FuseA == 0 || len(now.Loads.Items) == 0:
		w.say(survey.Demand, false, words.Say("Not recorded: the demand of the house, to which %s A are added.", unit.Format(b.AfterA-a.AfterA)))
	case b.AfterA > b.FuseA:
		w.say(survey.Breaks, true, words.Say("Demand goes from %s A to %s A, above the %s A of the supply.", from, to, fuse))
	default:
		w.say(survey.Demand, true, words.Say("Demand goes from %s A to %s A, within the %s A of the supply.", from, to, fuse))
	}
}

// boxesBeside are the points on the run of a circuit that are not on another's, by what they are called.
func boxesBeside(k, other *install.Circuit) []string {
	out := []string{}
	for i := range k.Serves.Boxes {
		if b := &k.Serves.Boxes[i]; other == nil || other.Serves.BoxByID(b.ID) == nil {
			out = append(out, b.Called())
		}
	}
	return out
}

// breaks says what was in order and is not with it: checks that fail, steps and readings that are done again.
func (w *weighing) breaks() {
	words := w.after.Job.Words
	failed := map[string]bool{}
	for i := range w.before.Checks {
		if c := &w.before.Checks[i]; c.Verdict == working.Fail {
			failed[checkOf(c)] = true
		}
	}
	for i := range w.after.Checks {
		c := &w.after.Checks[i]
		if c.Verdict != working.Fail || c.Outside || failed[checkOf(c)] {
			continue
		}
		w.fails(c)
	}
	done := map[string]bool{}
	for i := range w.before.Tasks {
		done[w.before.Tasks[i].ID] = w.before.Tasks[i].Done
	}
	for i := range w.after.Tasks {
		if t := &w.after.Tasks[i]; done[t.ID] && !t.Done {
			w.say(survey.Breaks, true, words.Say("Done before and to be done again: %s.", t.Title))
		}
	}
	read := map[[2]string]bool{}
	for i := range w.before.Tests.Rows {
		r := &w.before.Tests.Rows[i]
		read[[2]string{r.Circuit, r.ID}] = r.Reading != nil
	}
	for i := range w.after.Tests.Rows {
		if r := &w.after.Tests.Rows[i]; read[[2]string{r.Circuit, r.ID}] && r.Reading == nil {
			w.say(survey.Breaks, true, words.Say("Read before and to be read again: %s.", w.named(r.Circuit, r.Title)))
		}
	}
	for _, c := range w.change.Circuits {
		if k := w.before.Job.CircuitByID(c.ID); k != nil && !c.New && readOf(w.before.Job, k.ID) {
			w.say(survey.Breaks, true, words.Say("Readings of %s are older than the work that it brings: they count no more once that is ticked.", k.Name))
		}
	}
}

// checkOf tells one check of a job from another.
func checkOf(c *working.Check) string { return c.Circuit + "/" + c.ID + "/" + c.Object }

// named is what something is called that is of a circuit, or of the job itself.
func (w *weighing) named(circuit, title string) string {
	if k := w.after.Job.CircuitByID(circuit); k != nil {
		return k.Name + ", " + title
	}
	return title
}

// fails says that a check fails with the change.
func (w *weighing) fails(c *working.Check) {
	w.say(survey.Breaks, true, w.after.Job.Words.Say("Fails with it: %s", w.named(c.Circuit, c.Title)+". "+c.Summary))
}

func readOf(job *install.Job, circuit string) bool {
	return slices.ContainsFunc(job.Records, func(r install.Record) bool { return r.Kind == install.Reading && r.Circuit == circuit })
}

// order prices what the order gains and loses.
func (w *weighing) order() {
	words := w.after.Job.Words
	w.change.Lines = materials.Change(&w.before.Take, &w.after.Take, w.list)
	unpriced := []string{}
	for i := range w.change.Lines {
		l := &w.change.Lines[i]
		if l.Cost == nil {
			unpriced = append(unpriced, l.Name)
			continue
		}
		cost := round2(*l.Cost * w.markup) // as the client is charged
		l.Cost = &cost
		w.add(cost)
	}
	if len(unpriced) > 0 {
		w.say(survey.Material, false, words.Say("No price: the company's list has none of %s.", strings.Join(unpriced, ", ")))
	}
	if slices.ContainsFunc(w.change.Circuits, func(c survey.CircuitChange) bool { return c.CableM != 0 && !c.Gone }) {
		w.say(survey.Material, true, words.Say("Lengths of new legs are assumed: what is measured changes the price with it."))
	}
	if old := slices.IndexFunc(w.change.Lines, func(l survey.LineChange) bool { return l.Bought > 0 }); old >= 0 {
		w.say(survey.Material, true, words.Say("What was ordered and falls away is no saving: %s.", w.change.Lines[old].Name))
	}
}

// hours says what is opened again and how much work it is.
func (w *weighing) hours(before install.Room) {
	words, places := w.after.Job.Words, w.places(before)
	w.change.Hours = hoursOf(w.after) - hoursOf(w.before)
	if places > 0 && before.Closed != "" {
		w.say(survey.Walls, true, words.Say("The walls of %s were closed on %s: %d places are opened again and made good.", before.Name, before.Closed, places))
		if item, ok := w.list[reopenKey]; ok {
			w.add(item.Price * float64(places))
			w.change.Hours += item.Hours * float64(places)
		} else {
			w.say(survey.Walls, false, words.Say("No price of opening a wall and making it good: the company's list has none."))
		}
	} else if places > 0 {
		w.say(survey.Walls, true, words.Say("Nobody noted that the walls of %s are closed: nothing is counted for opening them again.", before.Name))
	}
	w.say(survey.Labour, true, words.Say("%s person-hours.", unit.Signed(w.change.Hours)))
	if item, ok := w.list[quote.HourKey]; ok && item.Price > 0 {
		w.add(w.change.Hours * item.Price)
	} else if w.change.Hours != 0 {
		w.say(survey.Labour, false, words.Say("No price of labour: the company's list has no hourly charge."))
	}
}

// places is at how many points of the room something is done in its walls.
func (w *weighing) places(before install.Room) (n int) {
	for _, d := range survey.Deltas(before, w.change.Room) {
		n += max(d.New, 0) + max(d.Moved, 0) + max(d.Removed, 0)
	}
	return n
}

// hoursOf are the person-hours of all steps of a job, done or not.
func hoursOf(v *View) (h float64) {
	for i := range v.Tasks {
		h += v.Tasks[i].Hours * float64(v.Tasks[i].Crew)
	}
	return h
}

// hoursLeft are those of the steps that are not done.
func hoursLeft(v *View) (h float64) {
	for i := range v.Tasks {
		if t := &v.Tasks[i]; !t.Done {
			h += t.Hours * float64(t.Crew)
		}
	}
	return h
}

// dates says what it does to the end of the work.
func (w *weighing) dates() {
	words := w.after.Job.Words
	start, err := time.Parse(time.DateOnly, w.after.Job.Plan.StartDate)
	if err != nil {
		w.say(survey.Dates, false, words.Say("No start date stands on the Plan sheet."))
		return
	}
	crew := max(1, w.after.Job.Outage.Crew)
	a := plan.Ends(w.after.Job, start, hoursLeft(w.before), crew).Format(time.DateOnly)
	b := plan.Ends(w.after.Job, start, hoursLeft(w.before)+w.change.Hours, crew).Format(time.DateOnly)
	if a == b {
		w.say(survey.Dates, true, words.Say("The tasks as they stand still end on %s.", a))
	} else {
		w.say(survey.Dates, true, words.Say("The tasks as they stand end on %s instead of %s.", b, a))
	}
}
