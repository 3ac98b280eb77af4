package materials

import (
	"cmp"
	"unicode"
	"unicode/utf8"

	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/working"
)

const circuitsSheet = working.CircuitsSheet

// groups counts the residual-current devices that circuits share.
func (c *counter) groups() {
	for b := range c.job.EachBoard() {
		for _, g := range b.Groups {
			a := c.ask("group-"+g.ID, Ask{By: Asker{Board: b.Part()}, For: g.Name, product: key("device", "rccb", g.RCDType, g.RatingA, g.IdnMA), Need: 1,
				name: c.w.Say("Residual-current switch %s A, type %s %s mA", unit.Format(g.RatingA), g.RCDType, unit.Format(g.IdnMA)),
				Rule: c.w.Say("one for the group")})
			if g.Delayed {
				a.product, a.name = a.product+":S", a.name+", S"
				a.Key += ":S"
			}
		}
	}
}

// boards counts what the boards take beside their circuits: those that the job puts in, a blank for each opening that stays free, and
// the chart of each with the notices. One that an enclosure of the supply arrangement is comes with that.
func (c *counter) boards() {
	w := c.w
	for b := range c.job.EachBoard() {
		who, by := "board"+b.ID, Asker{Board: b.Part()}
		if b.New && !c.inChain(b) {
			product, name := key("board", len(b.Ways)), w.Say("Board of %d ways", len(b.Ways))
			if b.MainSwitchA.Known() {
				product, name = key(product, b.MainSwitchA.V()), w.Say("Board of %d ways, main switch %s", len(b.Ways), unit.With(b.MainSwitchA.V(), "A"))
			} else {
				c.gap(Gap{What: w.Say("%s: the rating of its main switch is not recorded.", b.Called(w)), Sheet: working.BoardSheet})
			}
			c.ask(who, Ask{By: by, For: b.Called(w), product: product, name: name, Need: 1, Rule: w.Say("one that the job puts in")})
		}
		open := 0
		for _, way := range c.terms.FreeWays(c.job, b) {
			if !way.Blank {
				open++
			}
		}
		if open > 0 {
			c.ask(who, Ask{By: by, For: b.Called(w), product: "blank", name: w.Say("Blank for an open way"), Need: float64(open),
				Rule: w.Say("one for each way that stays free")})
		}
		for _, p := range c.book.Bars(c.job, b) {
			c.ask(who, Ask{By: by, For: b.Called(w), product: p.Key, name: p.Name, Need: p.Count, Rule: p.Rule, unit: p.Unit})
		}
		if len(c.job.On(b)) > 0 && c.job.Trait().Board {
			c.ask(who, Ask{By: by, For: b.Called(w), product: "chart", name: w.Say("Circuit chart and notices"), Need: 1,
				Rule: w.Say("one for each board, printed from the handover sheet")})
		}
	}
}

// charging reports whether a circuit brings a charge point.
func (c *counter) charging() bool {
	for i := range c.job.Circuits {
		if charges(&c.job.Circuits[i], &c.terms) {
			return true
		}
	}
	return false
}

// surge counts the surge devices that a job fits, with their leads, each length with its own size.
func (c *counter) surge() {
	w, in := c.w, c.terms.Length
	for i := range c.job.Surge.Devices {
		d := &c.job.Surge.Devices[i]
		if d.Kept {
			continue
		}
		who := unit.Text("surge-", i+1)
		product, name := key("device", "spd", d.Type), w.Say("Surge device, type %s", d.Type)
		if d.UpKV > 0 && d.UcV > 0 {
			product, name = key(product, d.UcV, d.UpKV), w.Say("Surge device, type %s, %s, protection level %s", d.Type, unit.With(d.UcV, "V"),
				unit.With(d.UpKV, "kV"))
		}
		c.ask(who, Ask{For: d.Name, product: product, name: name, Need: 1, Rule: w.Say("one that the job fits")})
		lead := func(id, name string, n int, m, mm2 float64) {
			if m == 0 || mm2 == 0 {
				c.gap(Gap{What: w.Say("%s: %s, its length or size is not entered yet.", d.Name, name), Sheet: working.SupplySheet, Leaf: working.SurgeLeaf})
				return
			}
			c.ask(who, Ask{For: d.Name, product: key("lead", id, mm2), name: w.Say("%s of a surge device, %s", name, c.terms.Size(mm2)),
				Need: unit.Significant(in.Of(m*float64(n)), 3), unit: in.Unit(), cut: true, Rule: w.Say("as short as it is drawn")})
			if c.terms.Ferrules {
				c.ask(who, Ask{For: d.Name, product: key("ferrule", mm2), name: w.Say("Ferrules %s", c.terms.Size(mm2)), Need: float64(2 * n),
					Rule: w.Say("one at each end of a fine-stranded lead")})
			}
		}
		lead("line", w.Say("Leads on the line side"), 2, d.LineM, d.LineMM2)
		lead("earth", w.Say("Earth lead"), 1, d.EarthM, d.EarthMM2)
	}
}

// findings counts what the findings take that were accepted: the parts of each piece of work, as the company's list has it.
func (c *counter) findings(prices map[string]Item) {
	for _, f := range survey.Agreed(c.job, c.book.Survey()) {
		if item, ok := prices[f.Key]; ok && f.Key != "" && !f.Shares {
			a := c.ask(f.Step, Ask{By: Asker{Circuit: f.Circuit}, For: f.Title, product: f.Key, name: cmp.Or(item.Name, f.Title), Need: 1,
				Steps: []string{f.Step},
				Rule:  c.w.Say("accepted by the client: %s", f.Title)})
			a.unit = c.w.Say("job")
		}
	}
}

// capital is a name as it begins a line.
func capital(name string) string {
	r, n := utf8.DecodeRuneInString(name)
	return string(unicode.ToUpper(r)) + name[n:]
}
