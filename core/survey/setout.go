package survey

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/words"
	"arvelt/core/working"
)

// aboveWorktopMM is the least height of an accessory above a worktop, mm: room for what stands on it and for water to drain (practice of the
// trade; BS 7671 guidance says 150 mm).
const aboveWorktopMM = 150

// SettingOut is where the points of a room go, for whoever marks them out.
type SettingOut struct {
	Room   string     `json:"room"`
	Name   string     `json:"name"`
	Floor  string     `json:"floor"`
	Points []SetPoint `json:"points"`
	// Controls are how its lights are switched, with the cables of each.
	Controls []Control `json:"controls"`
	// Cuts are the holes through its walls and what is cut out of its timber.
	Cuts  []HoleStand `json:"cuts"`
	Clash int         `json:"clash"` // points of which something is remarked on
	Open  int         `json:"open"`  // points whose place is not said
}

// SetPoint is where alike points go.
type SetPoint struct {
	Point    string  `json:"point"`
	Name     string  `json:"name"`
	Count    int     `json:"count"`
	State    string  `json:"state"`
	Tags     string  `json:"tags"`    // of those that stand on runs
	Circuit  string  `json:"circuit"` // by name, of each
	HeightMM float64 `json:"heightMM"`
	Usual    bool    `json:"usual"` // nobody said a height: it is the usual one of its kind
	Wall     string  `json:"wall"`
	OffsetMM float64 `json:"offsetMM"`
	// Box is the box to be sunk or fixed, by what enters it; BoxOpen: that of its kind, as some are on no run yet.
	Box     string          `json:"box"`
	BoxOpen bool            `json:"boxOpen"`
	Verdict working.Verdict `json:"verdict"`
	Says    []string        `json:"says"`
}

// SetOut is the setting-out of every room that has points to be made or moved.
func SetOut(job *install.Job, book rulebook.Book) []SettingOut {
	out, p, stood := []SettingOut{}, book.Survey(), StandsOf(job)
	tags, circuits := standing(job)
	for i := range job.Rooms {
		s := SetOutOf(job, &job.Rooms[i], p)
		s.Controls = ControlsOf(job, &job.Rooms[i], p)
		for n := range s.Points {
			key := [2]string{s.Room, s.Points[n].Point}
			for m := range job.Rooms[i].Points {
				if pt := &job.Rooms[i].Points[m]; pt.ID == key[1] {
					boxes := BoxesOf(job, book, pt, stood[key])
					s.Points[n].Box = BoxWords(boxes)
					s.Points[n].BoxOpen = slices.ContainsFunc(boxes, func(b PointBox) bool { return b.At.Box == nil })
				}
			}
			s.Points[n].Tags, s.Points[n].Circuit = strings.Join(tags[key], ", "), strings.Join(circuits[key], ", ")
		}
		s.cut(job, &job.Rooms[i], book)
		if len(s.Points)+len(s.Cuts) > 0 {
			out = append(out, s)
		}
	}
	return out
}

// SetOutOf is the setting-out of one room, without what stands on which run.
func SetOutOf(job *install.Job, r *install.Room, p *rulebook.Survey) SettingOut {
	s := SettingOut{Room: r.ID, Name: r.Name, Floor: r.Floor, Points: []SetPoint{}, Cuts: []HoleStand{}}
	placing := Placing(p)
	for n := range r.Points {
		pt := &r.Points[n]
		if pt.Kind == "" || pt.State == install.Kept || pt.State == install.Removed {
			continue
		}
		x := SetPoint{Point: pt.ID, Name: Name(p, pt.Kind), Count: pt.Count, State: pt.State, HeightMM: placing(r, pt).Height,
			Usual: pt.HeightMM == 0, Wall: pt.Wall, OffsetMM: pt.OffsetMM, Verdict: working.Pass, Says: []string{}}
		x.judge(job, r, pt, p)
		if x.Verdict == working.Caution {
			s.Clash++
		}
		if x.Verdict == working.Unknown {
			s.Open++
		}
		s.Points = append(s.Points, x)
	}
	return s
}

// cut adds the holes of a room and what is cut out of its timber.
func (s *SettingOut) cut(job *install.Job, r *install.Room, book rulebook.Book) {
	for i := range r.Cores {
		s.Cuts = append(s.Cuts, CoreOf(job, r, &r.Cores[i], book.Survey()))
	}
	for i := range r.Timber {
		s.Cuts = append(s.Cuts, TimberOf(job, book, &r.Timber[i]))
	}
	for i := range s.Cuts {
		switch s.Cuts[i].Verdict {
		case working.Fail:
			s.Clash++
		case working.Unknown:
			s.Open++
		}
	}
}

// standing lists the tags and the circuits of the points of the walk that stand on runs, by room and point.
func standing(job *install.Job) (tags, circuits map[[2]string][]string) {
	tags, circuits = map[[2]string][]string{}, map[[2]string][]string{}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		for n := range k.Serves.Boxes {
			b := &k.Serves.Boxes[n]
			key := [2]string{b.Room, b.Point}
			if b.Point == "" {
				continue
			}
			if b.Tag > 0 {
				tags[key] = append(tags[key], b.Label())
			}
			if !slices.Contains(circuits[key], k.Name) {
				circuits[key] = append(circuits[key], k.Name)
			}
		}
	}
	return tags, circuits
}

// judge remarks on a place: on what stands before it, a worktop below it, who reaches it, and what is not said of it.
func (x *SetPoint) judge(job *install.Job, r *install.Room, pt *install.RoomPoint, p *rulebook.Survey) {
	w := job.Words
	kind := kindByID[pt.Kind]
	plugged := kind.Box.Outlet() || kind.Box == install.Switch
	for _, f := range r.Furniture {
		if !strings.EqualFold(strings.TrimSpace(f.Wall), strings.TrimSpace(pt.Wall)) || pt.OffsetMM == 0 || pt.OffsetMM < f.FromMM || pt.OffsetMM > f.ToMM || x.HeightMM == 0 {
			continue
		}
		switch {
		case f.Kind == install.Worktop && x.HeightMM >= f.TopMM && x.HeightMM < f.TopMM+aboveWorktopMM:
			x.remark(w.Say("%s above the worktop of %s, whose top is at %s: at least %s",
				p.Mark(x.HeightMM-f.TopMM), f.Name, p.Mark(f.TopMM), p.Mark(aboveWorktopMM)))
		case x.HeightMM < f.TopMM:
			x.remark(w.Say("behind %s, whose top is at %s: it cannot be reached", f.Name, p.Mark(f.TopMM)))
		}
	}
	for _, says := range BuiltInSays(w, pt, p) {
		x.remark(says)
	}
	if rulebook.Reach.In(&job.Schools) == rulebook.ReachAsked && plugged && x.HeightMM > 0 && (x.HeightMM < p.LowMM || x.HeightMM > p.HighMM) {
		x.remark(w.Say("at %s: everybody reaches %s to %s (%s)", p.Mark(x.HeightMM), p.Mark(p.LowMM), p.Mark(p.HighMM), p.ReachSource))
	}
	if x.Verdict == working.Pass && x.HeightMM > 0 && kind.Loses != LosesLight && (pt.Wall == "" || pt.OffsetMM == 0) {
		x.Verdict = working.Unknown
		x.Says = append(x.Says, w.Say("where along which wall is not said"))
	}
}

// slackMM is what of a cord stays so that an appliance can be drawn out, mm (practice of the trade).
const slackMM = 300

// BuiltInSays are what is wrong with how an appliance that is built in stands to its connection.
func BuiltInSays(w *words.Catalogue, pt *install.RoomPoint, p *rulebook.Survey) (out []string) {
	b := &pt.Built
	if b.CordMM > 0 && b.AwayMM > 0 && b.CordMM < b.AwayMM+slackMM {
		out = append(out, w.Say("its cord of %s does not reach its connection %s away and let it be drawn out by %s", p.Mark(b.CordMM), p.Mark(b.AwayMM),
			p.Mark(slackMM)))
	}
	if b.Reached != nil && !*b.Reached {
		out = append(out, w.Say("what switches it off is not reached without moving it: a switch beside it or above the worktop"))
	}
	if b.Drawer != nil && *b.Drawer {
		out = append(out, w.Say("a drawer is under it: a shield between, as its maker asks, so that nothing touches its underside or the cord"))
	}
	return out
}

func (x *SetPoint) remark(says string) {
	x.Verdict, x.Says = working.Caution, append(x.Says, says)
}
