package whole

import (
	"slices"
	"time"

	"arvelt/core/design"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// LaterReport is what a change that is planned for after the job would meet, as the job leaves it.
type LaterReport struct {
	ID       string                 `json:"id"`
	Name     string                 `json:"name"`
	Circuits []survey.CircuitChange `json:"circuits"`
	Effects  []survey.Effect        `json:"effects"` // what does not suit it or is not known of it
	Suits    bool                   `json:"suits"`   // nothing of the present stands against it as far as is known
}

// LaterOf says of each change that is planned whether what the job leaves suits it: ways, demand, the direction of devices on its way, and
// whatever else it would make fail.
func LaterOf(job *install.Job, list map[string]materials.Item) []LaterReport {
	out := []LaterReport{}
	p := Practice(job)
	if len(job.Plan.Later) == 0 {
		return out
	}
	before := Of(job, list, install.Person{}, time.Time{})
	for _, l := range job.Plan.Later {
		then, followed := design.Meet(job, l, p)
		after := Of(then, list, install.Person{}, time.Time{})
		nothing := survey.Change{Circuits: []survey.CircuitChange{}, Effects: []survey.Effect{}}
		w := &weighing{change: &nothing, before: &before, after: &after, list: list, known: true}
		w.circuits(followed)
		w.stands()
		r := LaterReport{ID: l.ID, Name: laterName(job, &l), Circuits: w.change.Circuits, Effects: w.change.Effects, Suits: true}
		for _, e := range r.Effects {
			r.Suits = r.Suits && e.Kind != survey.Breaks && e.Known
		}
		out = append(out, r)
	}
	return out
}

// stands says which checks of what is there would fail or be open with it. Those of what comes are for its own visit.
func (w *weighing) stands() {
	words := w.after.Job.Words
	was := map[string]working.Verdict{}
	for i := range w.before.Checks {
		was[checkOf(&w.before.Checks[i])] = w.before.Checks[i].Verdict
	}
	for i := range w.after.Checks {
		c := &w.after.Checks[i]
		old, there := was[checkOf(c)]
		if c.Outside || c.Circuit != "" && w.before.Job.CircuitByID(c.Circuit) == nil || there && old == c.Verdict {
			continue
		}
		switch c.Verdict {
		case working.Fail:
			w.fails(c)
		case working.Unknown:
			for _, m := range c.Missing {
				w.say(survey.Circuits, false, words.Say("%s: %s", w.named(c.Circuit, c.Title), m))
			}
		}
	}
}

func laterName(job *install.Job, l *install.Later) string {
	w := job.Words
	name := w.Say(string(install.LaterNames[l.Kind]))
	if r := job.RoomByID(l.Room); r != nil {
		name += ", " + r.Name
	}
	if l.PowerW > 0 {
		name += ", " + unit.With(l.PowerW/1000, "kW")
	}
	return name
}

// VisitOf is the job that is made for a change that was planned: at the same site, with the supply, the boards, the circuits and the rooms as this
// job leaves them, all of them there and still to be looked at. Nothing that was read or signed goes with it.
func VisitOf(job *install.Job, l *install.Later, ref string) install.Job {
	w := job.Words
	v := install.Job{Format: install.Format, Ref: ref, Title: w.Say("%s, planned with %s", laterName(job, l), job.Ref), Kind: visits[l.Kind],
		Practice: job.Practice, Rules: job.Rules, Site: job.Site, Supply: job.Supply, Board: job.Board, Chain: job.Chain, Loads: job.Loads, Schools: job.Schools,
		Materials: install.Materials{WastagePc: job.Materials.WastagePc}}
	v.Board.New = false
	v.Chain.Enclosures = slices.Clone(job.Chain.Enclosures)
	for i := range v.Chain.Enclosures {
		v.Chain.Enclosures[i].New = false
	}
	v.Plan.StartDate = l.From
	for _, b := range job.Boards {
		b.New = false
		v.Boards = append(v.Boards, b)
	}
	for _, k := range job.Circuits {
		if k.State.Out() {
			continue
		}
		k.State, k.Seen = install.KeptCircuit, false
		v.Circuits = append(v.Circuits, k)
	}
	for _, r := range job.Rooms {
		points := []install.RoomPoint{}
		for _, p := range r.Points {
			if p.State != install.Removed {
				p.State = install.Kept
				points = append(points, p)
			}
		}
		r.Points, r.Closed = points, ""
		v.Rooms = append(v.Rooms, r)
	}
	return v
}

// visits are the kinds of job that are made for what comes later.
var visits = map[install.LaterKind]install.Kind{install.LaterCharger: install.EVCharger, install.LaterSolar: install.Addition,
	install.LaterBattery: install.Addition, install.LaterRoom: install.Addition}
