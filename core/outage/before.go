package outage

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// ItemID names a line of the checklist before the cut.
type ItemID string

// The lines of the checklist.
const (
	ItemParts     ItemID = "parts"
	ItemTails     ItemID = "tails"
	ItemRoute     ItemID = "route"
	ItemInspector ItemID = "inspector"
	ItemTemporary ItemID = "temporary"
	ItemLight     ItemID = "light"
	ItemWeather   ItemID = "weather"
	ItemCrew      ItemID = "crew"
	ItemSupply    ItemID = "supply"
	ItemFirstFix  ItemID = "first-fix"
	ItemDay       ItemID = "day"
)

// releasable are the lines that the supervisor may let go, in writing: without them the day goes worse. The others are the law, or
// somebody else's, or what cannot be put right once the supply is off; nobody lets those go.
var releasable = []ItemID{ItemParts, ItemWeather, ItemCrew, ItemFirstFix}

// Item is one line of the checklist before the cut.
type Item struct {
	ID      ItemID          `json:"id"`
	What    string          `json:"what"`
	Summary string          `json:"summary"`
	State   working.Verdict `json:"state"`
	Sheet   working.Sheet   `json:"sheet"`
	// May: the supervisor may let it go, in writing. Released is by whom, when and why it was; empty where it was not.
	May      bool   `json:"may"`
	Released string `json:"released"`
}

// Open reports whether the line holds the cut.
func (i *Item) Open() bool { return i.State != working.Pass && i.Released == "" }

// Says is the line as a release is given for it: of what is said otherwise it is none.
func (i *Item) Says() string { return i.What + ": " + i.Summary }

// Item is the line of an id, nil where the checklist has none.
func (p *Plan) Item(id ItemID) *Item {
	for i := range p.Checks {
		if p.Checks[i].ID == id {
			return &p.Checks[i]
		}
	}
	return nil
}

// Waits says why the supply is not to be switched off as planned on a date, the first reason and how many more; empty where it is.
func (p *Plan) Waits(w *words.Catalogue, today string) string {
	open := []string{}
	for i := range p.Checks {
		if c := &p.Checks[i]; c.Open() {
			open = append(open, c.Says())
		}
	}
	switch {
	case len(open) == 0 && p.Day != today:
		return w.Say("The supply goes off on %s: another day is set on the Supply sheet first, with whoever comes for it.", p.Day)
	case len(open) == 0:
		return ""
	case len(open) == 1:
		return w.Say("Before the cut: %s.", strings.TrimSuffix(open[0], "."))
	}
	return w.Say("Before the cut: %s (and %d more).", strings.TrimSuffix(open[0], "."), len(open)-1)
}

// off says since when the supply is off, whatever was ready.
func (p *Plan) off(in Input) {
	w := in.Job.Words
	if in.Off == nil {
		return
	}
	p.Off = w.Say("The supply is off since %s (%s).", in.Off.At.In(in.Now.Location()).Format("15:04"), in.Off.By)
	n := 0
	for i := range p.Checks {
		n += b2i(p.Checks[i].Open())
	}
	if n > 0 {
		p.Off += " " + w.Say("%d lines of the list before the cut are open.", n)
	}
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// checklist says what must be ready before the supply goes off, thing by thing.
func (p *Plan) checklist(in Input, crew int) {
	w := in.Job.Words
	p.Checks = append(p.Checks, delivered(in), longEnough(in), lawful(in), inspector(in), temporary(in), p.lit(in))
	if len(p.Weather) > 0 {
		p.Checks = append(p.Checks, Item{ID: ItemWeather, What: w.Say("Weather"), State: working.Fail, Sheet: working.SupplySheet,
			Summary: strings.Join(p.Weather, " ")})
	}
	heads := 0
	for _, t := range in.Tasks {
		if t.Day {
			heads = max(heads, t.Crew)
		}
	}
	p.Checks = append(p.Checks, Item{ID: ItemCrew, What: w.Say("Crew"), Summary: w.Say("%d on the day, %d at once are needed", crew, max(1, heads)),
		State: ready(crew >= heads), Sheet: working.SupplySheet})
	if bad := failing(in.Chain); bad > 0 {
		p.Checks = append(p.Checks, Item{ID: ItemSupply, What: w.Say("The supply arrangement " +
			"behind the intake"), Summary: w.Say("%d checks of the supply arrangement fail", bad),
			State: working.Fail, Sheet: working.SupplySheet})
	}
	p.Checks = append(p.Checks, firstFixed(in), p.day(in))
	p.release(in)
	p.Ready = !slices.ContainsFunc(p.Checks, func(i Item) bool { return i.Open() })
}

// release marks what the supervisor let go, as it still stands.
func (p *Plan) release(in Input) {
	given := map[string]install.Record{}
	for _, r := range in.Job.Current(install.Release) {
		given[r.Subject] = r
	}
	for i := range p.Checks {
		c := &p.Checks[i]
		c.May = slices.Contains(releasable, c.ID)
		r, ok := given[install.CutOffRelease(string(c.ID))]
		if ok && c.May && c.State != working.Pass && len(r.Effects) == 1 && r.Effects[0] == c.Says() {
			c.Released = in.Job.Words.Say("%s, %s: %s", r.By, r.At.In(in.Now.Location()).Format(time.DateOnly), r.Note)
		}
	}
}

func ready(ok bool) working.Verdict {
	if ok {
		return working.Pass
	}
	return working.Fail
}

// delivered asks whether all that the take-off orders is there.
func delivered(in Input) Item {
	w := in.Job.Words
	out := Item{ID: ItemParts, What: w.Say("Parts delivered and counted"), Sheet: working.MaterialsSheet}
	short := []string{}
	for _, l := range in.Take.Lines {
		if l.Short > 0 {
			short = append(short, l.Name)
		}
	}
	switch n := len(in.Take.Lines); {
	case n == 0:
		out.State, out.Summary = working.Unknown, w.Say("there is no take-off yet")
	case len(short) > 0:
		out.State, out.Summary = working.Fail,
			w.Say("%d of %d lines are short: %s", len(short), n, strings.Join(short[:min(3, len(short))], ", "))
	case len(in.Take.Gaps) > 0:
		out.State, out.Summary = working.Unknown, w.Say("not on the order list yet: %s", in.Take.Gaps[0].What)
	default:
		out.State, out.Summary = working.Pass, w.Say("all %d lines", n)
	}
	return out
}

// longEnough asks whether the cables of the existing circuits reach their ways on the board, or a joint is planned where one does not.
func longEnough(in Input) Item {
	w := in.Job.Words
	out := Item{ID: ItemTails, What: w.Say("Existing cables long enough for the board"), Sheet: working.SurveySheet}
	unread, tight, joints := 0, []string{}, 0
	for _, k := range in.Job.Found.Circuits {
		switch {
		case k.Joint:
			joints++
		case !k.TailM.Known():
			unread++
		case k.TailM.V() < install.LeastTailM:
			tight = append(tight, k.Name)
		}
	}
	switch {
	case len(tight) > 0: // whatever was said of the others
		out.State, out.Summary = working.Fail, w.Say("%s: under %s to spare, plan a joint box", strings.Join(tight, ", "),
			unit.With(in.Terms.Length.Of(install.LeastTailM), in.Terms.Length.Unit()))
	case in.Job.Outage.NoTails:
		out.State, out.Summary = working.Pass, w.Say("looked at: no existing cable comes onto the board")
	case len(in.Job.Found.Circuits) == 0:
		out.State, out.Summary = working.Unknown, w.Say("no existing circuit is noted with its tail")
	case unread > 0:
		out.State, out.Summary = working.Unknown, w.Say("the tails of %d circuits are not measured", unread)
	case joints > 0:
		out.State, out.Summary = working.Pass, w.Say("every tail is measured, or a joint is planned: %d", joints)
	default:
		out.State, out.Summary = working.Pass, w.Say("every tail is measured")
	}
	return out
}

// lawful asks for a way to isolate that is allowed, and for its day where somebody must come.
func lawful(in Input) Item {
	w, o := in.Job.Words, &in.Job.Outage
	out := Item{ID: ItemRoute, What: w.Say("A lawful isolation"), Sheet: working.SupplySheet, State: working.Fail}
	chosen := slices.IndexFunc(in.Routes, func(r rulebook.IsolationRoute) bool { return r.Chosen && r.Offered })
	switch {
	case chosen < 0:
		out.Summary = w.Say("none is chosen")
	case in.Routes[chosen].Visits == 0:
		out.State, out.Summary = working.Pass, in.Routes[chosen].Title
	case o.BookedOn == "":
		out.Summary = w.Say("%s: the operator has not confirmed a day", in.Routes[chosen].Title)
	case o.BookedFor != "" && o.BookedFor != in.Routes[chosen].ID:
		out.Summary = w.Say("%s: the day that is booked is of another way", in.Routes[chosen].Title)
	case o.Day != "" && o.BookedOn != o.Day && in.Routes[chosen].OnDay:
		out.Summary = w.Say("booked for %s, and the supply goes off on %s", o.BookedOn, o.Day)
	case o.Day != "" && o.BookedOn > o.Day:
		out.Summary = w.Say("booked for %s, after the day of the outage", o.BookedOn)
	default:
		out.State, out.Summary = working.Pass, w.Say("%s, booked for %s", in.Routes[chosen].Title, o.BookedOn)
	}
	return out
}

// inspector asks whether one must come, and whether they come on the day.
func inspector(in Input) Item {
	w, who, day := in.Job.Words, &in.Job.Outage.Inspector, in.Job.Outage.Day
	out := Item{ID: ItemInspector, What: w.Say("Inspector"), Sheet: working.SupplySheet}
	name := who.Who
	if name == "" {
		name = w.Say("Inspector")
	}
	switch n := who.Needed; {
	case n == nil:
		out.State, out.Summary = working.Unknown, w.Say("not yet said whether one must come")
	case !*n:
		out.State, out.Summary = working.Pass, w.Say("none is needed")
	case who.On == "":
		out.State, out.Summary = working.Fail, w.Say("%s: no day is agreed", name)
	case day != "" && who.On != day:
		out.State, out.Summary = working.Fail, w.Say("%s comes on %s, and the supply goes off on %s", name, who.On, day)
	default:
		out.State, out.Summary = working.Pass, strings.TrimSpace(who.Who+" "+who.On)
	}
	return out
}

// temporary asks whether what cannot wait for the supply has one of its own.
func temporary(in Input) Item {
	w, o := in.Job.Words, &in.Job.Outage
	out := Item{ID: ItemTemporary, What: w.Say("Temporary supply"), Sheet: working.SupplySheet}
	waits := []string{}
	for _, t := range o.Temporary {
		if !t.Ready {
			waits = append(waits, t.What)
		}
	}
	switch {
	case len(o.Temporary) == 0 && !o.NoTemporary:
		out.State, out.Summary = working.Unknown, w.Say("not asked yet: medical devices, freezers, pumps, alarms, work from home")
	case len(waits) > 0:
		out.State, out.Summary = working.Fail, w.Say("not ready: %s", strings.Join(waits, ", "))
	default:
		out.State, out.Summary = working.Pass, w.Say("ready, or nothing needs it")
	}
	return out
}

// lit asks for light at the board, and says where the work is forecast past dark.
func (p *Plan) lit(in Input) Item {
	w := in.Job.Words
	out := Item{ID: ItemLight, What: w.Say("Light at the board while it is dark"), Sheet: working.SupplySheet, State: working.Unknown}
	if p.Late {
		out.What = w.Say("Light at the board, and at the intake after dark")
	}
	if l := in.Job.Outage.LightReady; l != nil {
		out.State = ready(*l)
	} else {
		out.Summary = w.Say("not yet said")
	}
	if p.Late {
		out.Summary = p.Sun
		if l := in.Job.Outage.DarkReady; l == nil || !*l {
			out.State = working.Fail
		}
	}
	return out
}

// failing counts the checks of the supply arrangement that hold the planned cut-off; what is only put right on the day, such as a seal or a
// joint, holds it not.
func failing(chain *rulebook.ChainReport) int {
	n := 0
	if chain != nil {
		for i := range chain.Checks {
			n += b2i(chain.Checks[i].Stops(working.ToCutOff))
		}
	}
	return n
}

func firstFixed(in Input) Item {
	w := in.Job.Words
	open := []string{}
	for _, t := range in.Tasks {
		if t.Stage == install.FirstFix && !t.Done {
			open = append(open, t.Title)
		}
	}
	out := Item{ID: ItemFirstFix, What: w.Say("First fix done"), Sheet: working.FirstFixSheet, State: ready(len(open) == 0)}
	if len(open) > 0 {
		out.Summary = w.Say("%d tasks are open: %s", len(open), open[0])
	}
	return out
}

func (p *Plan) day(in Input) Item {
	w, on := in.Job.Words, in.Job.Outage.Day
	out := Item{ID: ItemDay, What: w.Say("The day"), Sheet: working.SupplySheet, State: working.Unknown, Summary: w.Say("no day is set")}
	if on != "" {
		out.State, out.Summary = ready(on >= p.Earliest), on
		if on < p.Earliest {
			out.Summary = w.Say("set for %s, before the earliest %s", on, p.Earliest)
		}
	}
	return out
}
