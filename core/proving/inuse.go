package proving

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/isolate"
)

// Used says of a circuit whether it is in use. Whatever it says, only an own lock and a proof make dead.
type Used struct {
	Circuit string `json:"circuit"`
	Name    string `json:"name"`
	Where   string `json:"where"` // rooms that it serves, empty where nobody placed its points
	InUse   bool   `json:"inUse"`
	Says    string `json:"says"` // why it is, or is not
}

// inUse says of every circuit of the installation whether it is in use now.
func (s *Sheet) inUse(job *install.Job, facts *Facts) []Used {
	out := []Used{}
	opened := []string{} // by anybody, ever
	for i := range job.Records {
		if r := &job.Records[i]; r.Kind == install.Isolation {
			for _, o := range r.Opens {
				opened = append(opened, o.Device)
			}
		}
	}
	once, now := facts.House.With(opened), facts.House.With(s.locked)
	for i := range job.Circuits {
		k := &job.Circuits[i]
		if l := job.LeavingOf(k); l != nil && l.Parted != nil {
			continue
		}
		u := Used{Circuit: k.ID, Name: k.Name, Where: roomsOf(job, k)}
		u.InUse, u.Says = s.used(job, isolate.CircuitPlace(k.ID), k.State == install.NewCircuit, len(facts.Worked[k.ID]) > 0, once, now)
		out = append(out, u)
	}
	eachOtherWay(job, func(b *install.Board, way *install.Way) {
		u := Used{Name: way.Label, Where: b.Called(job.Words)}
		u.InUse, u.Says = s.used(job, isolate.BoardPlace(b), false, false, once, now)
		out = append(out, u)
	})
	slices.SortStableFunc(out, func(a, b Used) int {
		switch {
		case a.InUse == b.InUse:
			return 0
		case a.InUse:
			return -1
		}
		return 1
	})
	return out
}

// used says of what lies at a place whether it is in use: made, by the job; worked, work on it was done. once and now are the house with all
// that was ever opened, and with what is locked.
func (s *Sheet) used(job *install.Job, place string, made, worked bool, once, now *isolate.Dead) (bool, string) {
	w := job.Words
	for i := range s.Parts {
		if p := &s.Parts[i]; p.places[place] && (p.State == PartLapsed || p.State == PartStray) {
			return false, w.Say("it may be live and is to be switched off")
		}
	}
	on := s.live.At(place)
	switch {
	case now.Expects(place):
		return false, w.Say("switched off and locked")
	case on != nil && s.live.InService(place):
		return true, w.Say("in service since %s", on.At.Format("2006-01-02"))
	case on != nil:
		return false, w.Say("it is being tested")
	case made:
		return false, w.Say("it is not finished")
	case worked || once.Expects(place):
		return false, w.Say("it was switched off, and nobody put it back into service")
	}
	return true, w.Say("as it was before the work")
}

// roomsOf are the rooms in which points of a circuit stand.
func roomsOf(job *install.Job, k *install.Circuit) string {
	out := []string{}
	for i := range k.Serves.Boxes {
		if r := job.RoomByID(k.Serves.Boxes[i].Room); r != nil && !slices.Contains(out, r.Name) {
			out = append(out, r.Name)
		}
	}
	if len(out) == 0 && k.Point.Place != "" {
		return k.Point.Place
	}
	return strings.Join(out, ", ")
}

// BoardLive is a board as it stands with what is locked: what is drawn live, and whose lock keeps which device open. It is expected and no proof.
type BoardLive struct {
	Board    string         `json:"board"`    // its id, empty for the main board
	Incoming []string       `json:"incoming"` // sources that reach its incoming terminals
	Inside   []string       `json:"inside"`   // and what is behind its main switch
	Locked   []LockedDevice `json:"locked"`
}

// LockedDevice is a device that a lock keeps open.
type LockedDevice struct {
	Device  string `json:"device"`
	Name    string `json:"name"`
	Circuit string `json:"circuit"` // whose device it is, empty for none
	By      string `json:"by"`
	Tag     string `json:"tag"`
}

// boards are the boards of the job as they stand with what is locked.
func (s *Sheet) boards(job *install.Job, facts *Facts) []BoardLive {
	out := []BoardLive{}
	dead := facts.House.With(s.locked)
	for b := range job.EachBoard() {
		x := BoardLive{Board: b.ID, Incoming: dead.Incoming(b), Inside: dead.Live(isolate.BoardPlace(b)), Locked: []LockedDevice{}}
		at := b.Called(job.Words)
		for i := range s.Locks {
			l := &s.Locks[i]
			for _, o := range openedBy(job, l) {
				d, ok := facts.House.Device(o.Device)
				if !ok || d.At != at {
					continue
				}
				lock := LockedDevice{Device: d.ID, Name: d.Name, By: l.By, Tag: l.LockTag}
				for n := range job.Circuits {
					if slices.Contains(isolate.DevicesOf(&job.Circuits[n]), d.ID) {
						lock.Circuit = job.Circuits[n].ID
					}
				}
				x.Locked = append(x.Locked, lock)
			}
		}
		out = append(out, x)
	}
	return out
}
