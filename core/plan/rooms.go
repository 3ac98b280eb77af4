package plan

import (
	"math"
	"slices"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/unit"
)

// firstShare is the share of a point's hours that falls on first fix: marking,
// chasing, box and cable; the rest is fitting the accessory.
const firstShare = 0.6

// roomNorm is the norm of the work on the points of a room; a company's list has hours of its own for each kind of point.
const roomNorm = "room-point"

// roomTasks are the work on the points of a room: what is new, moved or taken
// out. Hours are the company's for each kind of point.
func roomTasks(job *install.Job, by *Practice, r *install.Room, list map[string]materials.Item, grown install.Moment) []Task {
	w := job.Words
	cored := coreSteps(job, by, r, list, r.ID+"-locate")
	n, gone, h, hGone := 0, 0, 0.0, 0.0
	leaving := leavingOf(job, r.ID)
	for _, p := range r.Points {
		if p.State == install.Kept || p.Kind == "" {
			continue
		}
		item, ok := list["point:"+p.Kind]
		each := item.Hours
		if !ok || each == 0 {
			each = hours(list, roomNorm)
		}
		if p.State == install.Removed {
			out := max(0, p.Count-leaving[p.ID])
			gone, hGone = gone+out, hGone+removeShare*each*float64(out)
			continue
		}
		n, h = n+p.Count, h+each*float64(p.Count)
	}
	out := []Task{}
	if gone > 0 {
		out = append(out, Task{ID: r.ID + "-remove", Kind: install.ConnectingStep, Stage: install.FirstFix, Crew: 1, Norm: roomNorm,
			Hours:     math.Max(0.25, hGone),
			Isolation: true, Dead: []string{isolate.FoundPlace(r.ID)},
			Title: w.Say("%s: take out %d points, join or end their cables", r.Name, gone), Room: r.ID, alters: true,
			Caution: w.Say("Prove every cable dead before it is handled. What no longer feeds anything is capped and labelled at both ends.")})
	}
	located := Task{ID: r.ID + "-locate", Kind: install.MarkingStep, Stage: install.FirstFix, Crew: 1, Norm: "locate", Hours: hours(list, "locate"), Room: r.ID,
		Title:   w.Say("%s: find and mark the cables and pipes in its walls, floor and ceiling", r.Name),
		Caution: w.Say("A detector may miss a cable that carries nothing, or a plastic pipe: what is not found is no proof."), grown: grown}
	if n == 0 {
		if len(cored) > 0 {
			out = append(append(out, located), cored...)
		}
		return out
	}
	switches := 0
	if by.Survey != nil {
		for _, c := range survey.ControlsOf(job, r, by.Survey) {
			switches += c.Positions
		}
	}
	h += switchShare * hours(list, roomNorm) * float64(switches)
	what, fitted := w.Say("%s: boxes, holes and cables for %d points", r.Name, n), w.Say("%s: fit and connect %d points", r.Name, n)
	if switches > 0 {
		what = w.Say("%s: boxes, holes and cables for %d points and %d switches", r.Name, n, switches)
		fitted = w.Say("%s: fit and connect %d points and %d switches", r.Name, n, switches)
	}
	boxes := Task{ID: r.ID + "-boxes", Kind: install.DrillingStep, Stage: install.FirstFix,
		Title: what, Crew: 1, After: []string{located.ID},
		Norm: roomNorm, Hours: math.Max(0.25, h*firstShare),
		Caution: w.Say("Check for cables and pipes behind every drilling point; suspected asbestos is not disturbed.")}
	if m := chaseM(by, r); m > 0 {
		boxes.Title += ", " + w.Say("about %s of chase", unit.With(unit.Significant(by.Length.Of(m), 2), by.Length.Unit()))
	}
	if clash := clashes(job, by, r); clash > 0 {
		boxes.Caution = w.Say("Of %d points the setting-out remarks that they are hidden, too near a worktop or out of reach: settle it first.", clash) + " " + boxes.Caution
	}
	photo := Task{ID: r.ID + "-photo", Kind: install.PicturingStep, Stage: install.FirstFix,
		Title: w.Say("Photograph %s before its walls are closed", r.Name), Photo: true, Crew: 1, Norm: "photo", Hours: hours(list, "photo"),
		After: []string{boxes.ID}}
	closing := Task{ID: CloseStep(r.ID), Kind: install.ClosingStep, Stage: install.FirstFix,
		Title: w.Say("%s: let its walls and ceiling be closed", r.Name), Crew: 1, Norm: "close", Hours: hours(list, "close"),
		After:   []string{boxes.ID, photo.ID},
		Caution: w.Say("From now on nobody sees what lies there. Where others may drive nails or screws, the cables are guarded or out of reach of them.")}
	fit := Task{ID: r.ID + "-fit", Kind: install.ConnectingStep, Stage: install.SecondFix, Title: fitted,
		Crew: 1, Norm: roomNorm, Hours: math.Max(0.25, h*(1-firstShare)), After: []string{boxes.ID, closing.ID}, Isolation: true,
		Dead:   []string{isolate.RoomPlace(r.ID)},
		alters: true, Caution: w.Say("Prove every cable dead before it is handled; two circuits may meet in one box.")}
	boxes.Room, photo.Room, closing.Room, fit.Room = r.ID, r.ID, r.ID, r.ID
	boxes.grown, photo.grown, closing.grown, fit.grown = grown, grown, grown, grown
	timberHeld(job, by.Book, r, &boxes)
	for i := range cored {
		closing.After = append(closing.After, cored[i].ID)
	}
	boxes.points, closing.points, fit.points = boxing, closingStep, fitting
	boxes.more = switches > 0
	fit.circuits = circuitsIn(job, r.ID)
	return append(append(append(out, located), cored...), boxes, photo, closing, fit)
}

// chaseM is how much is sunk into the walls of a room for its points, m: of each the way up or down the wall, whichever is shorter. Of a room that is that
// high as nobody measured it.
func chaseM(by *Practice, r *install.Room) (m float64) {
	if by.Survey == nil || !slices.ContainsFunc(by.Survey.Fabric, func(f rulebook.Fabric) bool { return f.Chased && f.Where == "wall" && f.Name == r.Wall }) {
		return 0
	}
	placing := survey.Placing(by.Survey)
	for i := range r.Points {
		pt := &r.Points[i]
		up := placing(r, pt).Height
		if pt.Worked() && up > 0 && up < wallMM {
			m += float64(pt.Count) * math.Min(up, wallMM-up) / 1000
		}
	}
	return m
}

// wallMM is how high a room is taken to be, mm.
const wallMM = 2400.0

// CloseStep is the step that lets the walls of a room be closed.
func CloseStep(room string) string { return room + "-close" }

// switchShare is the share of the hours of a point that a switch takes.
const switchShare = 0.5

// removeShare is the share of the hours of a new point that taking one out takes.
const removeShare = 0.3

// leavingOf counts by point the points of a room that are taken out with their circuit.
func leavingOf(job *install.Job, room string) map[string]int {
	out := map[string]int{}
	for _, k := range job.Leavers() {
		for i := range k.Serves.Boxes {
			if b := &k.Serves.Boxes[i]; b.Room == room {
				out[b.Point]++
			}
		}
	}
	return out
}

// clashes is of how many entries of a room the setting-out remarks on something.
func clashes(job *install.Job, by *Practice, r *install.Room) int {
	if by.Survey == nil {
		return 0
	}
	return survey.SetOutOf(job, r, by.Survey).Clash
}
