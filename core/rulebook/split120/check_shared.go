package split120

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/runs"
)

// openLoadA is the small load by which an open neutral is reckoned, A: a lamp and a charger.
const openLoadA = 1.0

// sharedNeutral judges a circuit whose two lines share one neutral: lines on different legs, opened together, and a neutral that depends on
// no device. What flows is of its network, both lines loaded as it is designed and, with the neutral open, one of them with a small load.
func (c *circuit) sharedNeutral() {
	k := c.On(c.k.ID)
	k.From(clauseShared.in(c.code))
	p := &c.k.Protection
	first, second := p.Way, terms.SecondWay(c.k)
	if first == 0 {
		k.AddMissing("the spaces of its two lines")
		return
	}
	oneLeg := legOf(first) == legOf(second)
	ohms := c.ohmPerM(c.material, c.size) * c.lengthM
	load := max(c.loadA, openLoadA)
	flow, open := runs.OfShared(ohms, legV, load, load, oneLeg), runs.OfShared(ohms, legV, load, openLoadA, false)
	carried := k.Step("neutral", "both lines loaded as designed, by its network", text(load, " A each, spaces ", first, " and ", second), flow.NeutralA, "A",
		clauseShared.ref(c.code))
	k.Step("neutral open", "volts across a load of 1 A on the other line, by its network", text(load, " A and ", openLoadA, " A"),
		open.OpenB, "V", clauseShared.ref(c.code))
	wrong := []string{}
	if oneLeg {
		wrong = append(wrong, text("both lines are on leg ", legName(first), ", so that the neutral carries ", carried, " A where ", p.RatingA,
			" A protect it: move one to the other leg"))
	}
	switch p.Shared.Opens {
	case "":
		k.AddMissing("how its two lines open: one device, or two with an identified handle tie")
	case install.OpensApart:
		wrong = append(wrong, "its lines open apart: a device of two poles, or an identified handle tie, "+
			"so that nobody works on a neutral that the other line feeds")
	}
	wrong = append(wrong, c.neutralThrough(k.AddMissing)...)
	if len(wrong) > 0 {
		k.Missing = []string{}
	}
	k.Decide(len(wrong) == 0)
	k.Summary = text("Lines on legs ", legName(first), " and ", legName(second), "; the neutral carries the difference. With it open, a load of 1 A would get ",
		open.OpenB, " V.")
	if len(wrong) > 0 {
		for i, w := range wrong {
			wrong[i] = strings.ToUpper(w[:1]) + w[1:] + "."
		}
		k.Summary = strings.Join(wrong, " ")
	}
}

// neutralThrough says at which boxes what lies behind depends on a device for its neutral, and where a device with ground-fault protection
// feeds from its load side a box of the other line.
func (c *circuit) neutralThrough(missing func(...string)) (wrong []string) {
	s := &c.k.Serves
	for i := range s.Boxes {
		b := &s.Boxes[i]
		if !touched(c.k, b) {
			continue
		}
		if b.Line == install.LineUnsaid && b.Device.Draws() {
			missing("which line feeds " + b.Name)
		}
		fed := feedsOf(s, b.ID)
		switch {
		case len(fed) == 0 || !b.Device.Yoke():
		case b.Through == nil:
			missing("whether the neutral is joined beside the device at " + b.Name + " and not through it")
		case *b.Through:
			wrong = append(wrong, "the neutral of what lies behind "+b.Name+" passes through its device: "+
				"join it with a pigtail, so that it stays when the device is taken out")
		}
		for _, f := range fed {
			if b.Device == install.GroundFault && f.Side == install.LoadSide && f.Line != install.LineUnsaid && f.Line != b.Line {
				wrong = append(wrong, f.Name+" is fed from the load side at "+b.Name+" and by the other line: "+
					"a neutral that two lines share behind it makes it trip")
			}
		}
	}
	return wrong
}

func mendShared(m *rulebook.Mending) {
	k := m.Circuit
	set := func(title string, s install.SharedNeutral) {
		m.Set(title, func(c *install.Circuit) { c.Protection.Shared = s }, "protection.shared", s)
	}
	set("One breaker of two poles", install.SharedNeutral{Is: true, Opens: install.OpensTogether})
	if k.Protection.Shared.SecondWay > 0 && k.Protection.Shared.Opens != install.OpensTied {
		set("An identified handle tie", install.SharedNeutral{Is: true, Opens: install.OpensTied, SecondWay: k.Protection.Shared.SecondWay})
	}
	boxes, changed := make([]install.Box, len(k.Serves.Boxes)), false
	copy(boxes, k.Serves.Boxes)
	for i := range boxes {
		if b := &boxes[i]; b.Through != nil && *b.Through {
			b.Through, changed = new(false), true
		}
	}
	if changed {
		setBoxes(m, "Neutrals joined with pigtails", boxes)
	}
}
