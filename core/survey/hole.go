package survey

import (
	"math"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/words"
	"arvelt/core/working"
)

// HoleStand is how a hole or a notch stands: what it is, and what is wrong with it or not known of it yet.
type HoleStand struct {
	ID      string          `json:"id"`
	Says    string          `json:"says"`
	Verdict working.Verdict `json:"verdict"`
	Remarks []string        `json:"remarks"`
}

func (x *HoleStand) fail(says string) { x.Verdict, x.Remarks = working.Fail, append(x.Remarks, says) }

// lack says what is not known; what fails already stays so.
func (x *HoleStand) lack(says string) {
	if x.Verdict != working.Fail {
		x.Verdict = working.Unknown
	}
	x.Remarks = append(x.Remarks, says)
}

// Distances of holes, mm (practice of the trade).
const (
	meetMM     = 25.0 // how far the places measured on both sides may lie apart: a pilot of that length wanders as much
	besideMM   = 75.0 // from the rim of a hole to the middle of a point: half a box and an edge that holds
	fallPerCut = 0.1  // how far a hole may fall outwards, as a share of the thickness
)

// behindNames are what may be behind a hole, each a message; dustNames how its dust is held.
var (
	behindNames = map[install.Behind]words.Key{install.BehindClear: words.Key("Another room, nothing in the way"),
		install.BehindOutdoors: words.Key("Outdoors, nothing in the way"), install.BehindCable: words.Key("a cable"), install.BehindPipe: words.Key("a pipe"),
		install.BehindSteel: words.Key("a lintel, a beam or a tie")}
	dustNames = map[install.Dust]words.Key{install.DustMasked: words.Key("hole masked, sheets below"),
		install.DustExtracted: words.Key("extraction at the bit"),
		install.DustWet:       words.Key("wet, the water caught")}
)

// BehindName is what something behind a hole is called, DustName how its dust is held.
func BehindName(w *words.Catalogue, b install.Behind) string { return w.Say(string(behindNames[b])) }

// DustName is how dust is held, in words.
func DustName(w *words.Catalogue, d install.Dust) string { return w.Say(string(dustNames[d])) }

// CoreOf judges a hole that is to be cored: whether its place was measured on both sides and is the same there, falls outwards, hits nothing that
// is behind it or stands on its wall, and how its dust is held.
func CoreOf(job *install.Job, r *install.Room, c *install.Core, p *rulebook.Survey) HoleStand {
	w := job.Words
	x := HoleStand{ID: c.ID, Verdict: working.Pass, Remarks: []string{}}
	side := w.Say("from inside")
	if c.Outside {
		side = w.Say("from the other side")
	}
	says := []string{w.Say("core %s through the wall %s, %s", p.Mark(c.BoreMM), c.Wall, side)}
	if c.ThickMM > 0 {
		says = append(says, w.Say("%s thick", p.Mark(c.ThickMM)))
	}
	if c.AlongMM > 0 && c.UpMM > 0 {
		says = append(says, w.Say("inside %s along and %s up", p.Mark(c.AlongMM), p.Mark(c.UpMM)))
	}
	if c.OutAlongMM > 0 && c.OutUpMM > 0 {
		says = append(says, w.Say("on the other side %s along and %s up", p.Mark(c.OutAlongMM), p.Mark(c.OutUpMM)))
	}
	if c.Mark != "" {
		says = append(says, w.Say("from %s", c.Mark))
	}
	if c.Dust != "" {
		says = append(says, DustName(w, c.Dust))
	}
	x.Says = strings.Join(says, ", ")
	if c.Behind.InTheWay() {
		x.fail(w.Say("%s is behind it: another place", BehindName(w, c.Behind)))
	}
	x.bothSides(w, c, p)
	x.points(job, r, c, p)
	if c.ThickMM == 0 {
		x.lack(w.Say("how thick it is there"))
	}
	if c.Behind == "" {
		x.lack(w.Say("what is behind it: nobody looked"))
	}
	if c.Dust == "" {
		x.lack(w.Say("how its dust is held"))
	}
	return x
}

// bothSides holds the place inside to that on the other side: the same, and outdoors falling outwards.
func (x *HoleStand) bothSides(w *words.Catalogue, c *install.Core, p *rulebook.Survey) {
	switch {
	case c.AlongMM == 0 || c.UpMM == 0:
		x.lack(w.Say("where it is inside"))
		return
	case c.OutAlongMM == 0 || c.OutUpMM == 0:
		x.lack(w.Say("the same place on the other side, from the same mark"))
		return
	}
	if apart := math.Abs(c.AlongMM - c.OutAlongMM); apart > meetMM {
		x.fail(w.Say("the places inside and on the other side are %s apart along the wall: measure both again before anything is drilled", p.Mark(apart)))
	}
	fall, most := c.UpMM-c.OutUpMM, meetMM
	if c.Behind == install.BehindOutdoors {
		most += fallPerCut * c.ThickMM
		if fall < 0 {
			x.fail(w.Say("outdoors it is %s higher than inside: water would run in. A hole falls outwards", p.Mark(-fall)))
			return
		}
	}
	if math.Abs(fall) > most {
		x.fail(w.Say("the places inside and on the other side are %s apart in height: measure both again before anything is drilled", p.Mark(math.Abs(fall))))
	}
}

// points keeps a hole away from the points on its wall; one that was measured from another mark is not compared with them.
func (x *HoleStand) points(job *install.Job, r *install.Room, c *install.Core, p *rulebook.Survey) {
	if c.Mark != "" || c.AlongMM == 0 || c.UpMM == 0 {
		return
	}
	placing := Placing(p)
	for i := range r.Points {
		pt := &r.Points[i]
		up := placing(r, pt).Height
		if pt.State == install.Removed || pt.OffsetMM == 0 || up == 0 || !strings.EqualFold(strings.TrimSpace(pt.Wall), strings.TrimSpace(c.Wall)) {
			continue
		}
		if away := math.Hypot(pt.OffsetMM-c.AlongMM, up-c.UpMM) - c.BoreMM/2; away < besideMM {
			x.fail(job.Words.Say("its rim is %s from the middle of the %s there: at least %s", p.Mark(max(0, away)), Name(p, pt.Kind), p.Mark(besideMM)))
		}
	}
}

// TimberOf judges alike holes or notches in timber by what the practice lets be cut out of it.
func TimberOf(job *install.Job, book rulebook.Book, c *install.TimberCut) HoleStand {
	w, p := job.Words, book.Survey()
	x := HoleStand{ID: c.ID, Verdict: working.Pass, Remarks: []string{}}
	x.Says = w.Say("hole %s in %s", p.Mark(c.SizeMM), c.Place)
	if c.Notch {
		x.Says = w.Say("notch %s deep in %s", p.Mark(c.SizeMM), c.Place)
	}
	switch {
	case c.Made && strings.TrimSpace(c.Allowed) == "":
		x.lack(w.Say("the chart of its maker that allows it: it is no solid timber"))
		return x
	case c.Made:
		x.Remarks = append(x.Remarks, w.Say("allowed by %s", c.Allowed))
		return x
	case c.DepthMM == 0 || c.SpanMM == 0:
		x.lack(w.Say("how deep the timber is and how far it spans"))
		return x
	}
	l, ok := book.TimberLimits(job, c)
	if !ok {
		return x
	}
	if !working.AtMost(c.SizeMM, l.SizeMM) {
		x.fail(w.Say("at most %s in timber %s deep (%s)", p.Mark(math.Floor(l.SizeMM)), p.Mark(c.DepthMM), l.Source.Ref))
	}
	if !working.AtMost(l.FromMM, c.FromMM) || !working.AtMost(c.FromMM, l.ToMM) {
		x.fail(w.Say("%s from the support: it goes between %s and %s (%s)", p.Mark(c.FromMM), p.Mark(math.Ceil(l.FromMM)),
			p.Mark(math.Floor(l.ToMM)), l.Source.Ref))
	}
	if edge := (c.DepthMM - c.SizeMM) / 2; !c.Notch && !working.AtMost(l.Least, edge) {
		x.fail(w.Say("on the middle line %s stay to each edge: at least %s, else a steel plate over the cable and somebody who answers for the timber",
			p.Mark(math.Floor(edge)), p.Mark(l.Least)))
	}
	return x
}
