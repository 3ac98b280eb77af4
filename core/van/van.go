// Package van is what goes into the van for the steps that come next: parts, tools, instruments, protection, first aid, light and a source of
// power while the supply is off.
package van

import (
	"cmp"
	"embed"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/outdoor"
	"arvelt/core/plan"
	"arvelt/core/table"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

//go:embed data/*.csv
var dataFiles embed.FS

// kitRow is a row of kit.
type kitRow struct {
	Kit     string `col:"kit"`
	Name    string `col:"name"`
	Group   string `col:"group"`
	For     string `col:"for"`
	Power   string `col:"power"`
	Until   string `col:"until"`
	Instead string `col:"instead"`
}

var kitTable = table.LoadOf[kitRow](dataFiles, "kit")

// Kit is a kind of thing that work asks for beside its parts, by id.
type Kit string

// powerKit is what drives tools where there is no supply.
const powerKit Kit = "power"

// Vehicle is what people and parts go to a site in: without one nobody works there. A company that keeps no record of any is not held to it.
const Vehicle Kit = "vehicle"

// Group is what of the van a thing is.
type Group string

// The groups, in the order in which they are gone through.
const (
	Parts       Group = "parts"
	Tools       Group = "tool"
	Instruments Group = "instrument"
	Protection  Group = "protection"
	Aid         Group = "aid"
	Light       Group = "light"
	Power       Group = "power"
)

// Groups lists them.
var Groups = []Group{Parts, Tools, Instruments, Protection, Aid, Light, Power}

// Kind is a kind of kit as a company chooses it.
type Kind struct {
	ID    Kit    `json:"id"`
	Name  string `json:"name"`
	Group Group  `json:"group"`
	// Dated: what a company has of it has a date until which it is good.
	Dated bool `json:"dated"`
}

// Kinds lists the kinds of kit in the words of a practice.
func Kinds(w *words.Catalogue) []Kind {
	out := []Kind{}
	for r := range kitTable.Text {
		row := kitTable.Row(r)
		out = append(out, Kind{Kit(row.Kit), w.Say(row.Name), Group(row.Group), row.Until != ""})
	}
	return out
}

// KitIDs lists the kinds by id.
func KitIDs() []string {
	out := []string{}
	for r := range kitTable.Text {
		out = append(out, kitTable.Row(r).Kit)
	}
	return out
}

// Held is a thing of a company: where it is kept, and until when it is good.
type Held struct {
	Kit   Kit    `json:"kit"`
	Name  string `json:"name"`
	Van   string `json:"van"`   // in which van or shelf it is
	Until string `json:"until"` // 2006-01-02; empty where nobody has said
}

// Item is one thing to be put in.
type Item struct {
	ID    string `json:"id"`
	Group Group  `json:"group"`
	Name  string `json:"name"`
	Count string `json:"count"` // of parts, with their unit; empty for one
	// Tasks are the steps that ask for it, by id.
	Tasks   []string        `json:"tasks"`
	Verdict working.Verdict `json:"verdict"`
	Says    string          `json:"says"`
	Charge  bool            `json:"charge"` // it runs on a battery, which is charged
	Packed  *Packed         `json:"packed"` // that somebody put it in for the day; nil while nobody has
}

// Packed is who put something in and when.
type Packed struct {
	By string    `json:"by"`
	At time.Time `json:"at"`
}

// Step is a step that things are packed for.
type Step struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Next  bool   `json:"next"` // it is of the stage that is worked on now
}

// List is what goes into the van for each of the steps that are open.
type List struct {
	Steps []Step `json:"steps"`
	Items []Item `json:"items"`
}

// Model is what a list is made from.
type Model struct {
	Job   *install.Job
	Take  *materials.TakeOff
	Tasks []plan.Task
	Held  []Held
	Now   time.Time
}

// packedFor is how long something that was put in counts as in the van: the evening before and the day.
const packedFor = 24 * time.Hour

// Of lists what goes into the van.
func Of(m Model) List {
	l := lister{Model: m, w: m.Job.Words, out: List{Steps: []Step{}, Items: []Item{}}, at: map[string]int{}, takes: map[string][]int{}}
	var stage install.Stage // the first of which something is open: the tasks stand stage by stage
	for i := range m.Take.Lines {
		for _, a := range m.Take.Lines[i].Asks {
			for _, step := range a.Steps {
				if at := l.takes[step]; m.Take.Lines[i].Group != materials.WorkGroup && (len(at) == 0 || at[len(at)-1] != i) {
					l.takes[step] = append(at, i)
				}
			}
		}
	}
	for i := range m.Tasks {
		t := &m.Tasks[i]
		if t.Done || t.Others != "" {
			continue
		}
		stage = cmp.Or(stage, t.Stage)
		l.out.Steps = append(l.out.Steps, Step{t.ID, t.Title, t.Stage == stage})
		l.parts(t)
		l.kit(t)
	}
	for i := range l.out.Items {
		l.out.Items[i].Packed = l.packed(l.out.Items[i].ID)
	}
	slices.SortStableFunc(l.out.Items, func(a, b Item) int { return cmp.Compare(slices.Index(Groups, a.Group), slices.Index(Groups, b.Group)) })
	return l.out
}

type lister struct {
	Model

	w   *words.Catalogue
	out List
	at  map[string]int
	// takes are the lines that a step takes something of.
	takes map[string][]int
}

// item is the entry of an id, made where there is none.
func (l *lister) item(id string, t *plan.Task, fresh func() Item) {
	n, ok := l.at[id]
	if !ok {
		n = len(l.out.Items)
		l.at[id] = n
		x := fresh()
		x.ID, x.Tasks = id, []string{}
		l.out.Items = append(l.out.Items, x)
	}
	if x := &l.out.Items[n]; !slices.Contains(x.Tasks, t.ID) {
		x.Tasks = append(x.Tasks, t.ID)
	}
}

// parts are the products that a step takes. How much is of all steps together: what is cut is cut on site.
func (l *lister) parts(t *plan.Task) {
	for _, i := range l.takes[t.ID] {
		line := &l.Take.Lines[i]
		l.item("part:"+line.Key, t, func() Item {
			x := Item{Group: Parts, Name: line.Name, Count: unit.With(line.Need, line.Unit), Verdict: working.Pass, Says: l.w.Say("came, counted")}
			switch {
			case line.Instead != "":
				x.Name += ": " + line.Instead
			case line.Trouble != "":
				x.Verdict, x.Says = working.Fail, line.Trouble
			case line.Short > 0:
				x.Verdict, x.Says = working.Fail, l.w.Say("%s of it did not come yet", unit.With(line.Short, line.Unit))
			case line.Need == 0:
				x.Says = l.w.Say("others bring it")
			}
			return x
		})
	}
}

// asks reports whether a step asks for a kind of kit.
func asks(row *kitRow, t *plan.Task) bool {
	for what := range strings.SplitSeq(row.For, "|") {
		switch what {
		case "":
		case "any":
			return true
		case "dead":
			if t.Needs == plan.NeedsDead {
				return true
			}
		case "tests":
			if t.Tests() {
				return true
			}
		case "height":
			if t.Height {
				return true
			}
		case "day":
			if t.Day {
				return true
			}
		case "fit":
			if t.Step == plan.StepFit {
				return true
			}
		case "rods":
			if t.Outdoor == outdoor.ElectrodesObject || strings.HasSuffix(t.ID, "-rod") {
				return true
			}
		default:
			if string(t.Kind) == what {
				return true
			}
		}
	}
	return false
}

// kit are the tools, instruments and protection that a step asks for, and a source of power where a tool needs the mains and there is none.
func (l *lister) kit(t *plan.Task) {
	mains := ""
	for r := range kitTable.Text {
		row := kitTable.Row(r)
		if !asks(row, t) || l.standsIn(row, t) {
			continue
		}
		l.item("kit:"+row.Kit, t, func() Item { return l.kept(row) })
		if row.Power == "mains" && mains == "" {
			mains = l.w.Say(row.Name)
		}
	}
	if mains == "" || !t.Day && !l.unsupplied() {
		return
	}
	r := kitTable.Find(func(row *kitRow) bool { return row.Kit == string(powerKit) })
	l.item("kit:"+string(powerKit), t, func() Item {
		x := l.kept(kitTable.Row(r))
		x.Says = strings.TrimSpace(l.w.Say("for the %s, while there is no supply.", mains) + " " + x.Says)
		return x
	})
}

// unsupplied reports whether the house has no supply yet: a service is made, and nobody has found a meter.
func (l *lister) unsupplied() bool { return l.Job.Trait().Service && l.Job.Supply.MeterSerial == "" }

// standsIn reports whether a kind is only what is accepted in the place of another that the step asks for.
func (l *lister) standsIn(row *kitRow, t *plan.Task) bool {
	for r := range kitTable.Text {
		other := kitTable.Row(r)
		if other.Kit != row.Kit && slices.Contains(strings.Split(other.Instead, "|"), row.Kit) && asks(other, t) && row.Group == other.Group {
			return true
		}
	}
	return false
}

// have is what the company has of a kind: the one that is good for longest.
func (l *lister) have(kit string) *Held {
	var best *Held
	for i := range l.Held {
		if h := &l.Held[i]; string(h.Kit) == kit && (best == nil || h.Until > best.Until) {
			best = h
		}
	}
	return best
}

// until are what a date says, by what it is of: that it has passed, and that nobody has said it.
var until = map[string][2]words.Key{
	"calibration": {words.Key("its calibration ended on %s"), words.Key("nobody has said until when it is calibrated")},
	"inspection":  {words.Key("its inspection was good until %s"), words.Key("nobody has said until when it is inspected")},
	"seal":        {words.Key("its date was %s: exchange it"), words.Key("nobody has looked at its seal and its date")},
	"battery":     {words.Key("its battery was good until %s"), words.Key("nobody has said how old its battery is")},
}

// kept is how it stands with a kind of kit.
func (l *lister) kept(row *kitRow) Item {
	w := l.w
	x := Item{Group: Group(row.Group), Name: w.Say(row.Name), Verdict: working.Pass, Charge: row.Power == "battery"}
	h := l.have(row.Kit)
	if h == nil {
		for other := range strings.SplitSeq(row.Instead, "|") {
			if in := l.have(other); in != nil {
				x.Verdict, x.Says = working.Caution, w.Say("%s does it, %s", in.Name, cmp.Or(in.Van, w.Say("nobody has said where")))
				return x
			}
		}
		x.Verdict, x.Says = working.Unknown, w.Say("the company's list has none: who brings it?")
		return x
	}
	says := []string{h.Name}
	if h.Van != "" {
		says = append(says, h.Van)
	}
	dates, dated := until[row.Until]
	switch today := l.Now.Format(time.DateOnly); {
	case !dated:
	case h.Until == "":
		x.Verdict = working.Unknown
		says = append(says, w.Say(string(dates[1])))
	case h.Until < today:
		x.Verdict = working.Fail
		says = append(says, w.Say(string(dates[0]), h.Until))
	default:
		says = append(says, w.Say("good until %s", h.Until))
	}
	x.Says = strings.Join(says, ", ")
	return x
}

// packed is who put something in for the day, nil while nobody has, or took it out again.
func (l *lister) packed(id string) *Packed {
	for i := len(l.Job.Records) - 1; i >= 0; i-- {
		r := &l.Job.Records[i]
		if r.Kind != install.Loaded || r.Subject != id {
			continue
		}
		if r.Done && l.Now.Sub(r.At) < packedFor {
			return &Packed{r.By, r.At}
		}
		return nil
	}
	return nil
}
