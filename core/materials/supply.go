package materials

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// inChain reports whether a board is an enclosure of the supply arrangement that the job puts in: it comes with that.
func (c *counter) inChain(b *install.Board) bool {
	return slices.ContainsFunc(c.job.Chain.Enclosures, func(e install.Enclosure) bool {
		return e.New && c.job.BoardIn(e.ID, c.terms.BoardKinds) == b
	})
}

// supply counts what the enclosures take that the job puts in, with what feeds them and what they are fixed with.
func (c *counter) supply(chain *rulebook.ChainReport) {
	w := c.w
	for _, kit := range c.book.Kits(c.job, chain) {
		e := c.job.Chain.Enclosure(kit.Enclosure)
		by, step := Asker{Enclosure: e.ID}, e.FitStep()
		for _, lack := range kit.Lacks {
			c.gap(Gap{What: w.Say("%s: not known yet: %s.", e.Name, lack), Sheet: working.SupplySheet, Leaf: working.ChainLeaf})
		}
		for _, x := range kit.Parts {
			a := c.ask("enclosure-"+e.ID, Ask{By: by, For: e.Name, product: x.Key, name: x.Name, Need: x.Count, unit: x.Unit, Rule: x.Rule, cut: x.Cut,
				Steps:   []string{step},
				Assumed: x.Cut && !e.Feed.LengthM.Confirmed()})
			if x.Cut {
				a.byLength = true
				for range max(1, x.Pieces) {
					a.pieces = append(a.pieces, Piece{unit.Significant(x.Count/float64(max(1, x.Pieces)), 9), c.feeds(e), e.Name, a.Assumed})
				}
			}
			if x.Cut && c.operators(e) {
				a.Brought = &Coming{By: install.ByOthers, Ready: true,
					Says: w.Say("what the operator lays or hangs they bring on the day: say so here where it is ours")}
			}
		}
		c.mounted(e, by, step)
	}
}

// feeds is what feeds an enclosure, in words.
func (c *counter) feeds(e *install.Enclosure) string {
	if from := c.job.Chain.Enclosure(e.From); from != nil {
		return from.Name
	}
	return c.w.Say("the intake")
}

// operators reports whether what feeds an enclosure comes from the network operator's equipment.
func (c *counter) operators(e *install.Enclosure) bool {
	from := c.job.Chain.Enclosure(e.From)
	return from == nil || from.Owner == install.OwnerOperator
}

// mounted counts what an enclosure is fixed to its wall with.
func (c *counter) mounted(e *install.Enclosure, by Asker, step string) {
	if e.Mounted == "" {
		c.gap(Gap{What: c.w.Say("%s: not known yet: %s.", e.Name, c.w.Say("what it is fixed to")), Sheet: working.SupplySheet, Leaf: working.ChainLeaf})
		return
	}
	for r := range mountings.Text {
		row := mountings.Row(r)
		if row.Surface != string(e.Mounted) {
			continue
		}
		n := row.Count
		if e.RatingA.V() > heavyA {
			n = row.Heavy
		}
		name, drill := row.Name, unit.With(row.DrillMM, "mm")
		if unit.Metres(c.terms.Length.Unit()) != 1 {
			name, drill = row.InchName, row.InchDrill
		}
		c.ask("enclosure-"+e.ID, Ask{By: by, For: e.Name, product: row.Product, name: c.w.Say(name), Need: n, Steps: []string{step},
			Rule: c.w.Say("%s; drill %s", c.w.Say(row.Rule), drill)})
	}
}

// outdoors counts what trenches, overhead runs and electrodes take, and the bonds that the job makes.
func (c *counter) outdoors(works *outdoor.Report) {
	w, in := c.w, c.terms.Length
	if works != nil {
		for i := range works.Runs {
			run := &works.Runs[i]
			name := c.job.Outdoor.Run(run.ID).Name
			for _, p := range run.Parts {
				c.ask("run-"+run.ID, Ask{By: Asker{Run: run.ID}, For: name, product: p.Key, name: p.Name, Need: p.N, unit: p.Unit, Rule: p.Rule,
					Steps: stepsOf(p.Step)})
			}
		}
		for _, p := range works.ElectrodeParts {
			a := Ask{By: Asker{Run: outdoor.ElectrodesObject}, For: w.Say("Earth electrodes"), product: p.Key, name: p.Name, Need: p.N, unit: p.Unit,
				Rule: p.Rule, Steps: stepsOf(p.Step)}
			if mm2 := c.job.Supply.EarthMM2; p.Unit == in.Unit() && mm2.Known() {
				a.product, a.name = key(p.Key, mm2.V()), w.Say("%s, %s", p.Name, c.terms.Size(mm2.V()))
			} else if p.Unit == in.Unit() {
				c.gap(Gap{What: w.Say("Earth electrodes: the size of their conductor is not entered yet."), Sheet: working.SupplySheet})
			}
			c.ask("electrodes", a)
		}
	}
	for i := range c.job.Supply.Bonds {
		b := &c.job.Supply.Bonds[i]
		if !b.New {
			continue
		}
		who, step := unit.Text("bond-", i+1), unit.Text("bond-", i+1)
		c.ask(who, Ask{For: b.Service, product: "bond:clamp", name: w.Say("Clamp for a bond, with its label"), Need: clampsOf(b), Steps: []string{step},
			Rule: w.Say("one for each bond, two where a jumper crosses what interrupts the pipe; of the metal and size of the pipe")})
		if !b.MM2.Known() || !b.LengthM.Known() {
			c.gap(Gap{What: w.Say("Bond to %s: its size or its length is not entered yet.", b.Service), Sheet: working.SupplySheet})
			continue
		}
		length := unit.Significant(in.Of(b.LengthM.V()), 9)
		c.ask(who, Ask{For: b.Service, product: key("bond", "conductor", b.MM2.V()), name: w.Say("Bonding conductor %s", c.terms.Size(b.MM2.V())),
			Need: length, unit: in.Unit(),
			cut: true, byLength: true, pieces: []Piece{{length, w.Say("the earthing terminal"), b.Service, !b.LengthM.Confirmed()}},
			Assumed: !b.LengthM.Confirmed(), Steps: []string{step}, Rule: w.Say("unbroken from the earthing terminal to the pipe")})
	}
}

// clampsOf is how many clamps a bond takes.
func clampsOf(b *install.Bond) float64 {
	if b.Around != nil && *b.Around {
		return 2
	}
	return 1
}

// stepsOf is a step as a list; of none it is empty.
func stepsOf(step string) []string {
	if step == "" {
		return []string{}
	}
	return []string{step}
}
