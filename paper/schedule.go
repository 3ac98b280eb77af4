package paper

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// boardNames is a board with the room that it hangs in.
func boardNames(b *install.Board) string { return join(", ", b.Name, b.Location) }

// byBoard calls each for the circuits of a board after another: the main board's first, then those of the boards that its distribution
// circuits feed and those of the supply arrangement, each under a heading.
func (p *pack) byBoard(heading func(string), each func(*install.Circuit)) {
	j := p.v.Job
	var below func(from, name string)
	below = func(from, name string) {
		var here []*install.Circuit
		for i := range j.Circuits {
			if c := &j.Circuits[i]; c.From == from {
				here = append(here, c)
			}
		}
		slices.SortStableFunc(here, func(a, b *install.Circuit) int { return cmp.Compare(a.Protection.Way, b.Protection.Way) })
		for i, c := range here {
			if i == 0 {
				heading(name)
			}
			each(c)
		}
		for _, c := range here {
			if b := j.BoardFedBy(c.ID); b != nil {
				below(c.ID, p.words.Say("%s, fed by %s", boardNames(b), c.Name))
			} else {
				below(c.ID, p.words.Say("Behind %s", c.Name))
			}
		}
	}
	for b := range j.EachBoard() {
		if b.Feed == "" {
			below(b.Feeder(), boardNames(b))
		}
	}
}

// unseen reports whether a circuit was left as it was and nobody looked at its cable and device: of those nothing is said.
func unseen(c *install.Circuit) bool {
	return (c.State == install.KeptCircuit || c.State == install.InspectedCircuit) && !c.Seen
}

// laid is the length of a circuit's cable, as far as the job laid it.
func (p *pack) laid(c *install.Circuit) string {
	if c.State != install.NewCircuit {
		return "–"
	}
	return p.length(c.Route.LengthM())
}

func points(c *install.Circuit) string {
	if n := c.Serves.Points(); n > 0 {
		return fmt.Sprint(n)
	}
	return "1"
}

// ways are the places of a circuit's device on its board.
func (p *pack) ways(c *install.Circuit) string {
	if c.Protection.OwnEnclosure {
		return "own"
	}
	if c.Protection.Way == 0 {
		return "–"
	}
	out := []string{}
	for _, at := range p.terms.PlacesOf(c) {
		out = append(out, fmt.Sprint(at.Way)+string(at.Half))
	}
	return strings.Join(out, ", ")
}

// wiring is the cable and how it lies, each way of it once.
func (p *pack) wiring(c *install.Circuit) string {
	how := []string{}
	for i := range c.Route.Segments {
		if m := p.word(string(c.Route.Segments[i].Method)); !slices.Contains(how, m) {
			how = append(how, m)
		}
	}
	return join("; ", p.word(c.Route.CableType), strings.Join(how, ", "))
}

// remarks are the checks of a circuit that do not pass, and what was tested otherwise.
func (p *pack) remarks(id string) string {
	out := []string{}
	for _, c := range p.v.Report.Circuit(id).Checks {
		if c.Verdict != working.Pass && !c.Outside {
			out = append(out, c.Title+": "+p.verdict(c.Verdict))
		}
	}
	return strings.Join(out, "; ")
}

// circuitSchedule is the schedule of circuits of a board with ways in a row.
func (p *pack) circuitSchedule() {
	p.start(p.words.Say("Schedule of circuits"), true)
	rows := []row{}
	p.byBoard(func(name string) { rows = append(rows, row{heading: name}) }, func(c *install.Circuit) {
		if unseen(c) {
			return
		}
		r := p.v.Report.Circuit(c.ID)
		d := &c.Protection
		residual := join(" ", d.RCDType, figureIf(d.IdnMA, "mA"))
		if g := p.v.Job.GroupOf(c); g != nil {
			residual = join(" ", g.RCDType, figureIf(g.IdnMA, "mA"), "("+g.Name+")")
		}
		sizes := strings.TrimSuffix(r.Summary.Conductor, p.words.Say(" mm²"))
		line, cpc, _ := strings.Cut(sizes, "/")
		afdd := "–"
		if d.ArcFault {
			afdd = "fitted"
		}
		rows = append(rows, row{verdict: r.Verdict,
			cells: []string{p.ways(c), c.Name, points(c), p.wiring(c), line, cpc,
				d.Curve + unit.With(d.RatingA, "A") + ", " + p.word(d.Family), figureIf(d.IcnKA, ""), or(residual, "–"),
				figureIf(r.Summary.ZsMax, ""), p.laid(c), afdd, p.remarks(c.ID)}})
	})
	if len(rows) == 0 {
		p.line(p.words.Say("No circuit is on this job."))
		return
	}
	p.table([]column{{p.words.Say("Way"), 12}, {p.words.Say("Circuit"), 32}, {p.words.Say("Points"), 12},
		{p.words.Say("Wiring and method"), 44}, {p.words.Say("L/N mm²"), 13},
		{p.words.Say("PE mm²"), 12}, {p.words.Say("Overcurrent device"), 28}, {p.words.Say("kA"), 8},
		{p.words.Say("Residual device"), 24}, {p.words.Say("Greatest Zs, Ω"), 18},
		{p.words.Say("Length"), 14}, {p.words.Say("Arc-fault"), 17}, {p.words.Say("Remarks"), 34}}, rows)
}

// figureIf is a figure where there is one.
func figureIf(v float64, name string) string {
	if v == 0 {
		return ""
	}
	if name == "" {
		return unit.Format(unit.Significant(v, 3))
	}
	return unit.With(unit.Significant(v, 3), name)
}

// reading is what a test read, with every reading that counts beside it.
func (p *pack) reading(test, circuit string) string {
	r := p.testRow(test, circuit)
	if r == nil {
		return "–"
	}
	if r.Reading == nil {
		return p.words.Say("not done")
	}
	text := readingText(r.Reading, "")
	if r.Reading.CouldNot != "" {
		text = p.words.Say("could not")
	}
	if r.Calculated != nil {
		text = p.words.Say("%s calculated (%s read)", unit.Format(unit.Significant(*r.Calculated, 3)), text)
	}
	if r.Verdict == working.Fail {
		text += p.words.Say(" FAIL")
	}
	return text
}

func (p *pack) testRow(test, circuit string) *proving.Row {
	for i := range p.v.Tests.Rows {
		if r := &p.v.Tests.Rows[i]; r.ID == test && r.Circuit == circuit {
			return r
		}
	}
	return nil
}

// ofGroup is a test of a device that circuits share, or of the circuit's own.
func (p *pack) ofGroup(test string, c *install.Circuit) string {
	if c.Protection.Group != "" && p.testRow(test+":"+c.Protection.Group, "") != nil {
		return p.reading(test+":"+c.Protection.Group, "")
	}
	return p.reading(test, c.ID)
}

// voltage is what insulation was tested at.
func (p *pack) voltage(circuit string) string {
	out := []string{}
	for _, id := range []string{"insulation-ln", "insulation-le", "insulation-ne"} {
		if r := p.testRow(id, circuit); r != nil && r.Reading != nil && r.Reading.TestV > 0 {
			if v := unit.Format(r.Reading.TestV); !slices.Contains(out, v) {
				out = append(out, v)
			}
		}
	}
	return or(strings.Join(out, ", "), "–")
}

// readingSchedule is the schedule of readings of a board with ways in a row.
func (p *pack) readingSchedule() {
	p.start(p.words.Say("Schedule of test readings"), true)
	rows := []row{}
	p.byBoard(func(name string) { rows = append(rows, row{heading: name}) }, func(c *install.Circuit) {
		worst := working.Pass
		said := []string{}
		for _, r := range p.v.Tests.Rows {
			if r.Circuit != c.ID {
				continue
			}
			worst = working.Worst(worst, r.Verdict)
			if r.Reading != nil && r.Verdict != working.Pass {
				said = append(said, r.Title+": "+r.Summary)
			}
		}
		id := c.ID
		rows = append(rows, row{verdict: worst, cells: []string{p.ways(c), c.Name, p.reading("ring-r1", id),
			p.reading("ring-rn", id), p.reading("ring-r2", id), p.reading("r1r2", id), p.reading("insulation-ln", id),
			p.reading("insulation-le", id), p.reading("insulation-ne", id), p.voltage(id), p.reading("polarity-dead", id),
			p.reading("zs", id), figureIf(p.v.Report.Circuit(id).Summary.ZsMax, ""), p.ofGroup("rcd-x1", c),
			p.ofGroup("rcd-x5", c), p.ofGroup("rcd-button", c), strings.Join(said, " ")}})
	})
	if len(rows) == 0 {
		p.line(p.words.Say("No circuit is on this job."))
	} else {
		p.table([]column{{p.words.Say("Way"), 11}, {p.words.Say("Circuit"), 30}, {p.words.Say("r1 Ω"), 11},
			{p.words.Say("rn Ω"), 11}, {p.words.Say("r2 Ω"), 11}, {p.words.Say("R1+R2 Ω"), 14},
			{p.words.Say("L–N MΩ"), 14}, {p.words.Say("L–E MΩ"), 14}, {p.words.Say("N–E MΩ"), 14}, {p.words.Say("Test V"), 11},
			{p.words.Say("Pol."), 10}, {p.words.Say("Zs Ω"), 12}, {p.words.Say("Limit Ω"), 13},
			{p.words.Say("×1 ms"), 13}, {p.words.Say("×5 ms"), 13}, {p.words.Say("Button"), 14}, {p.words.Say("Remarks"), 48}}, rows)
	}
	p.restOfTests(func(r *proving.Row) bool { return r.Circuit == "" })
	p.byPoint()
}

// byPoint lists what was read point by point: each with what it came to, the worst marked by the verdict of the test.
func (p *pack) byPoint() {
	rows := []row{}
	for i := range p.v.Tests.Rows {
		r := &p.v.Tests.Rows[i]
		for _, at := range r.Points {
			if at.Reading == nil {
				continue
			}
			worst := ""
			if r.Reading != nil && r.Reading.ID == at.Reading.ID {
				worst = p.words.Say("the worst")
			}
			rows = append(rows, row{verdict: at.Verdict, cells: []string{p.v.Job.CircuitByID(r.Circuit).Name, r.Title, at.Name,
				readingText(at.Reading, r.Unit), worst, join(", ", at.Reading.Instrument, at.Reading.By, p.at(at.Reading.At))}})
		}
	}
	if len(rows) == 0 {
		return
	}
	p.heading(p.words.Say("Point by point"))
	p.table([]column{{p.words.Say("Circuit"), 40}, {p.words.Say("Test"), 52}, {p.words.Say("Point"), 46}, {p.words.Say("Reading"), 26},
		{"", 24}, {p.words.Say("Instrument, by, when"), 56}}, rows)
}

// restOfTests lists readings one by one with what was expected and who read them.
func (p *pack) restOfTests(which func(*proving.Row) bool) {
	rows := []row{}
	for i := range p.v.Tests.Rows {
		r := &p.v.Tests.Rows[i]
		if !which(r) {
			continue
		}
		reading, expected, by := p.words.Say("not done"), "", ""
		if r.Reading != nil {
			reading = join(" ", readingText(r.Reading, r.Unit), when(p.words.Say("at "), r.Reading.Place),
				when(p.words.Say("at "), figureIf(r.Reading.TestV, "V")))
			by = join(", ", r.Reading.Instrument, r.Reading.By, p.at(r.Reading.At))
			for _, e := range r.Beside {
				reading += p.words.Say("; beside it %s", readingText(&e, r.Unit))
			}
			for _, e := range r.Earlier {
				reading += p.words.Say("; before it %s by %s", readingText(&e, r.Unit), e.By)
			}
		}
		if r.Expected != nil {
			expected = unit.With(unit.Significant(*r.Expected, 3), r.Unit)
		}
		rows = append(rows, row{verdict: r.Verdict,
			cells: []string{r.Title, reading, expected, p.verdict(r.Verdict) + when(". ", r.Summary), by}})
	}
	if len(rows) == 0 {
		return
	}
	p.heading(p.words.Say("Of the whole installation"))
	p.table([]column{{p.words.Say("Test"), 56}, {p.words.Say("Reading"), 44}, {p.words.Say("Model"), 18},
		{p.words.Say("Verdict"), 76}, {p.words.Say("Instrument, by, when"), 50}}, rows)
}

// panelSchedule is the schedule of a panel with two columns of spaces: by space and leg.
func (p *pack) panelSchedule() {
	p.start(p.words.Say("Panel schedule"), true)
	j := p.v.Job
	for b := range j.EachBoard() {
		service := ""
		if b.Feed == "" {
			service = when(p.words.Say("service "), p.serviceRating())
		}
		main := strings.TrimPrefix(p.known(b.MainSwitchA, "A"), p.words.Say("not recorded"))
		p.line(join(" · ", b.Name, b.Location, when(p.words.Say("main "), main), service))
	}
	rows := []row{}
	p.byBoard(func(name string) { rows = append(rows, row{heading: p.words.Say("%s: circuits of this job", name)}) },
		func(c *install.Circuit) {
			if unseen(c) {
				return
			}
			r := p.v.Report.Circuit(c.ID)
			d := &c.Protection
			guards := join(", ", map[bool]string{true: p.words.Say("ground-fault breaker")}[d.RCDType != ""],
				map[bool]string{true: p.words.Say("arc-fault breaker")}[d.ArcFault],
				map[bool]string{true: p.words.Say("shared neutral: open both handles")}[d.Shared.Is], p.stringGuards(c))
			rows = append(rows, row{verdict: r.Verdict,
				cells: []string{p.ways(c), p.legsOf(c), c.Name, points(c),
					join("; ", r.Summary.Conductor, p.methods(c)),
					p.words.Say("%d-pole %s", max(d.Poles, 1), unit.With(d.RatingA, "A")), figureIf(d.IcnKA, ""), or(guards, "–"),
					figureIf(r.Summary.DesignA, "A"), p.laid(c), p.remarks(c.ID)}})
		})
	for b := range j.EachBoard() {
		there := p.asFound(b)
		if len(there) > 0 {
			rows = append(append(rows, row{heading: p.words.Say("%s: as found", b.Called(p.words))}), there...)
		}
	}
	if len(rows) == 0 {
		p.line(p.words.Say("No circuit is on this job."))
		return
	}
	p.table([]column{{p.words.Say("Space"), 14}, {p.words.Say("Leg"), 12}, {p.words.Say("Circuit"), 40},
		{p.words.Say("Outlets"), 16}, {p.words.Say("Conductor and method"), 46},
		{p.words.Say("Breaker"), 24}, {p.words.Say("kA"), 9}, {p.words.Say("Ground- and arc-fault"), 36}, {p.words.Say("Load"), 14},
		{p.words.Say("Length"), 16}, {p.words.Say("Remarks"), 42}}, rows)
}

// asFound are the ways of a board on which something stands that is no circuit of the job.
func (p *pack) asFound(b *install.Board) (out []row) {
	placed := map[int]bool{}
	for _, c := range p.v.Job.On(b) {
		for _, at := range p.terms.PlacesOf(c) {
			placed[at.Way] = true
		}
	}
	for _, w := range b.Ways {
		if !w.Free() && !placed[w.No] {
			spaces := []string{}
			for _, n := range p.terms.WaysOf(w.No, max(w.Poles, 1)) {
				spaces = append(spaces, fmt.Sprint(n))
			}
			out = append(out, row{cells: []string{strings.Join(spaces, ", "), p.legs(w.No, w.Poles),
				or(w.Label, p.words.Say("not labelled")), "", "", w.Device, "", "", figureIf(w.LoadA, "A"), "", p.words.Say("as found")}})
		}
	}
	return out
}

// methods are the ways in which a circuit's cable lies.
func (p *pack) methods(c *install.Circuit) string {
	how := []string{}
	for i := range c.Route.Segments {
		if m := p.word(string(c.Route.Segments[i].Method)); !slices.Contains(how, m) {
			how = append(how, m)
		}
	}
	return strings.Join(how, ", ")
}

// stringGuards says where the outlets of a string guard it themselves.
func (p *pack) stringGuards(c *install.Circuit) string {
	n := 0
	for i := range c.Serves.Boxes {
		if c.Serves.Boxes[i].Device == "gfci" {
			n++
		}
	}
	if n == 0 {
		return ""
	}
	return counted(n, p.words.Say("ground-fault outlet"), p.words.Say("ground-fault outlets"))
}

// legs are the legs that a device takes: the spaces alternate, two rows down each side.
func (p *pack) legs(way, poles int) string {
	if way == 0 {
		return "–"
	}
	if poles >= 2 {
		return "A/B"
	}
	if (way-1)/2%2 == 0 {
		return "A"
	}
	return "B"
}

// legsOf are the legs of a circuit's device, of two lines on devices of their own each by itself.
func (p *pack) legsOf(c *install.Circuit) string {
	if s := &c.Protection.Shared; s.Is && s.SecondWay > 0 && c.Protection.Way > 0 {
		return p.legs(c.Protection.Way, 1) + "/" + p.legs(s.SecondWay, 1)
	}
	return p.legs(c.Protection.Way, c.Protection.Poles)
}

// splitReadings are the readings of a split-phase job: the service first, then each circuit.
func (p *pack) splitReadings() {
	p.start("Readings", true)
	p.restOfTests(func(r *proving.Row) bool { return r.Circuit == "" })
	for i := range p.v.Job.Circuits {
		c := &p.v.Job.Circuits[i]
		rows := []row{}
		for _, r := range p.v.Tests.Rows {
			if r.Circuit != c.ID {
				continue
			}
			reading, by := p.words.Say("not done"), ""
			if r.Reading != nil {
				reading, by = readingText(r.Reading, r.Unit), join(", ", r.Reading.Instrument, r.Reading.By, p.at(r.Reading.At))
			}
			rows = append(rows, row{verdict: r.Verdict,
				cells: []string{r.Title, reading, p.verdict(r.Verdict) + when(". ", r.Summary), by}})
		}
		if len(rows) > 0 {
			p.heading(c.Name + " · " + p.words.Say("way") + " " + p.ways(c))
			p.table([]column{{p.words.Say("Test"), 70}, {p.words.Say("Reading"), 34}, {p.words.Say("Verdict"), 96},
				{p.words.Say("Instrument, by, when"), 54}}, rows)
		}
	}
}
