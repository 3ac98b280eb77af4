package proving

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/survey"
)

// StampPoints writes on a record of work on points which they are, where it names none: all of the room that the job works on as it stands, so
// that what is added later is not among them.
func StampPoints(job *install.Job, r *install.Record) {
	room := job.RoomByID(r.Room)
	if len(r.Points) > 0 || room == nil {
		return
	}
	recessed := slices.ContainsFunc(r.Steps, func(s install.PointStep) bool { return s.Of().Recessed })
	for i := range room.Points {
		if room.Points[i].Worked() && (!recessed || survey.Recessed(room.Points[i].Kind)) {
			r.Points = append(r.Points, room.Points[i].ID)
		}
	}
}

// allowPointWork holds work on points to a room and to points that the job works on, and to the step of the room that it is of: nothing is boxed
// where the cables in the wall are not found, nothing is connected that was not proved dead.
func allowPointWork(job *install.Job, r install.Record, step func(id string) (Step, bool), facts *Facts) error {
	w := job.Words
	room := job.RoomByID(r.Room)
	if room == nil {
		return install.Errors{{Field: "point-work.room", Value: r.Room, Accept: w.Say("a room of the job")}}
	}
	for _, id := range r.Points {
		if !slices.ContainsFunc(room.Points, func(p install.RoomPoint) bool { return p.ID == id && p.Worked() }) {
			return install.Errors{{Field: "point-work.points", Value: id, Accept: w.Say("points of %s that the job makes or moves", room.Name)}}
		}
	}
	if len(r.Points) == 0 {
		return &NotYetError{w.Say("The job makes and moves no point in %s.", room.Name)}
	}
	failed := r.Passed != nil && !*r.Passed
	if failed && (r.Done || !slices.Equal(r.Steps, []install.PointStep{install.PointTugged})) {
		return install.Errors{{Field: "point-work.passed", Value: "false", Accept: w.Say("nothing, but of a tug that failed")}}
	}
	for _, s := range r.Steps {
		of := room.ID + "-boxes"
		if s.Of().Stage == install.SecondFix {
			of = room.ID + "-fit"
		}
		if s.Of().Recessed && r.Done {
			if err := allowLit(job, room, r.Points, facts); err != nil {
				return err
			}
		}
		// A place is marked and a cable tagged whatever lies in the wall, and what came out or was taken back is said at once.
		if s.Of().Free || !r.Done {
			continue
		}
		if t, known := step(of); known && t.Closed != "" {
			return &NotYetError{strings.TrimSpace(room.Name + ": " + t.Closed)}
		}
	}
	return nil
}

// allowLit: what was seen lit is a recessed luminaire, of a circuit that is energised.
func allowLit(job *install.Job, room *install.Room, points []string, facts *Facts) error {
	w, live := job.Words, LiveOf(job, facts.House)
	for i := range room.Points {
		pt := &room.Points[i]
		if !slices.Contains(points, pt.ID) {
			continue
		}
		if !survey.Recessed(pt.Kind) {
			return install.Errors{{Field: "point-work.points", Value: pt.ID, Accept: w.Say("recessed luminaires: nothing else is lit while it hangs")}}
		}
		fed := false
		for n := range job.Circuits {
			k := &job.Circuits[n]
			if !slices.ContainsFunc(k.Serves.Boxes, func(b install.Box) bool { return b.Room == room.ID && b.Point == pt.ID }) {
				continue
			}
			if fed = true; live.At(isolate.CircuitPlace(k.ID)) == nil {
				return &NotYetError{w.Say("%s is not energised: a luminaire is seen lit once its circuit is energised for a test.", k.Name)}
			}
		}
		if !fed {
			return &NotYetError{w.Say("No circuit of the job feeds it yet: put it on a run first.")}
		}
	}
	return nil
}
