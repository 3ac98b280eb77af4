package paper

import (
	"io"
	"strconv"
	"strings"

	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/whole"
)

// SetOut writes the plan of rooms and ways, and for each room where its points go, for whoever marks them out.
func SetOut(w io.Writer, v *whole.View, plan *survey.WaysPlan, rooms []survey.SettingOut, ctx Context) error {
	p := newPack(v, ctx)
	p.start(p.words.Say("Rooms and ways, not to scale"), true)
	p.line(p.words.Say("Each room behind the one that its cables come through. Lengths in brackets are not measured all along."))
	p.drawWays(plan)
	for i := range rooms {
		r := &rooms[i]
		p.start(join(", ", p.words.Say("Setting-out: %s", r.Name), r.Floor), false)
		p.line(p.words.Say("Heights to the middle of the box above the finished floor; along the wall from its left end as one faces it. " +
			"Before a wall is drilled or chased look for cables and pipes in it."))
		list := []row{}
		for _, x := range r.Points {
			height := p.smallLength(x.HeightMM)
			switch {
			case x.HeightMM == 0:
				height = "–"
			case x.Usual:
				height = p.words.Say("%s, usual", height)
			}
			along := "–"
			if x.OffsetMM > 0 {
				along = p.smallLength(x.OffsetMM)
			}
			list = append(list, row{verdict: x.Verdict, cells: []string{strconv.Itoa(x.Count) + " × " + x.Name, x.Tags, x.Circuit, height, or(x.Box,
				"–"), or(x.Wall, "–"),
				along, upper(strings.Join(x.Says, "; "))}})
		}
		p.table([]column{{p.words.Say("Point"), 20}, {p.words.Say("Tags"), 11}, {p.words.Say("Circuit"), 15}, {p.words.Say("Height"), 10},
			{p.words.Say("Box"), 14}, {p.words.Say("Wall"), 8}, {p.words.Say("Along it"), 8}, {p.words.Say("Remarks"), 25}}, list)
		cuts := []row{}
		for _, x := range r.Cuts {
			cuts = append(cuts, row{verdict: x.Verdict, cells: []string{upper(x.Says), upper(strings.Join(x.Remarks, "; "))}})
		}
		if len(cuts) > 0 {
			p.table([]column{{p.words.Say("Holes and notches"), 70}, {p.words.Say("Remarks"), 40}}, cuts)
		}
		switched := []row{}
		for n := range r.Controls {
			c := &r.Controls[n]
			switched = append(switched, row{cells: []string{strconv.Itoa(c.Lamps) + " × " + c.Name, c.Fittings(), c.Cables(p.words)}})
		}
		if len(switched) > 0 {
			p.table([]column{{p.words.Say("Switched"), 22}, {p.words.Say("Switches"), 30}, {p.words.Say("Cables"), 60}}, switched)
		}
	}
	return p.Output(w)
}

// drawWays draws the rooms and the ways between them.
func (p *pack) drawWays(plan *survey.WaysPlan) {
	const high, gap = 9.0, 3.0
	top, wide := p.GetY()+3, p.width()/float64(plan.Columns)
	box := min(wide*0.62, 46)
	_, page := p.GetPageSize()
	step := min(high+gap, (page-below-top-4)/float64(plan.Rows))
	at := map[string][2]float64{"": {margin, top}}
	draw := func(x, y float64, name, under string) {
		p.Rect(x, y, box, step*0.75, "D")
		p.SetXY(x, y)
		p.SetFont("sans", "B", 7)
		p.CellFormat(box, step*0.38, name, "", 0, "C", false, 0, "")
		p.SetXY(x, y+step*0.36)
		p.SetFont("sans", "", 6)
		p.CellFormat(box, step*0.36, under, "", 0, "C", false, 0, "")
	}
	p.SetLineWidth(0.25)
	draw(margin, top, p.words.Say("Board"), "")
	for _, r := range plan.Rooms {
		x, y := margin+float64(r.Column)*wide, top+float64(r.Row)*step
		at[r.Room] = [2]float64{x, y}
		from := at[r.From]
		bend := x - (wide-box)*0.75
		p.Line(from[0]+box, from[1]+step*0.37, bend, from[1]+step*0.37)
		p.Line(bend, from[1]+step*0.37, bend, y+step*0.37)
		p.Line(bend, y+step*0.37, x, y+step*0.37)
		draw(x, y, r.Name, join(" · ", r.Floor, p.words.Say("%d points", r.Points)))
		length := p.words.Say("not noted")
		if r.LengthM > 0 {
			length = unit.With(unit.Significant(p.terms.Length.Of(r.LengthM), 3), p.terms.Length.Unit())
			if r.Assumed {
				length = "(" + length + ")"
			}
		}
		p.SetXY(bend, y+step*0.37-3.2)
		p.SetFont("sans", "", 5.6)
		p.CellFormat(x-bend, 3, length, "", 0, "C", false, 0, "")
	}
	p.SetY(top + float64(plan.Rows)*step)
}
