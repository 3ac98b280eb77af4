// Package materials is the take-off: what a job needs, counted from its routes
// and device choices, with the rule stated, and what became of each line.
package materials

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Item is one line of a company's price and hours list. Net price and hours
// are each for one Unit; High is the upper end of a price that is a range, 0
// when it is none.
type Item struct {
	Key   string  `json:"key"`
	Name  string  `json:"name"`
	Unit  string  `json:"unit"`
	Price float64 `json:"price"`
	Hours float64 `json:"hours"`
	High  float64 `json:"high"`
}

// Line is one line of the take-off.
type Line struct {
	Key       string   `json:"key"`
	Name      string   `json:"name"`
	Circuit   string   `json:"circuit"`
	Need      float64  `json:"need"` // what the job takes
	Order     float64  `json:"order"`
	Unit      string   `json:"unit"`
	Rule      string   `json:"rule"`
	Assumed   bool     `json:"assumed"`
	Price     *float64 `json:"price"` // of the ordered quantity
	Ordered   float64  `json:"ordered"`
	Delivered float64  `json:"delivered"`
	Lengths   string   `json:"lengths"`
	Due       string   `json:"due"`
	Note      string   `json:"note"`
	Short     float64  `json:"short"` // still missing on site
	Trouble   string   `json:"trouble"`
	Remark    string   `json:"remark"` // worth knowing, holds nothing
	// ByLength: it comes in pieces, whose lengths are noted as they are delivered.
	ByLength bool `json:"byLength"`
	// Held is what of the design keeps it from being ordered as it is; nil for nothing.
	Held *Held `json:"held"`

	check string    // of its circuit that must not fail for it to be bought
	cuts  []float64 // lengths that each must come in one piece; empty where it is cut as it goes
}

// Held is a check that keeps a line from being ordered, and where that is put right.
type Held struct {
	Why     string        `json:"why"`
	Sheet   working.Sheet `json:"sheet"`
	Leaf    working.Leaf  `json:"leaf"`
	Circuit string        `json:"circuit"`
}

// TakeOff is the whole list with its sums.
type TakeOff struct {
	Lines    []Line   `json:"lines"`
	Total    *float64 `json:"total"` // nil when a line has no price
	Unpriced int      `json:"unpriced"`
	Troubles []string `json:"troubles"`
}

// Of computes the take-off of a job. Prices may be nil.
func Of(job *install.Job, p rulebook.Book, report *rulebook.Report, prices map[string]Item) TakeOff {
	t := TakeOff{Lines: []Line{}, Troubles: []string{}}
	if job.Trait().Report {
		return t
	}
	for i := range job.Circuits {
		t.circuit(job, &job.Circuits[i], p)
	}
	t.shared(job)
	t.surge(job, p)
	t.boards(job, p)
	t.points(job, p)
	t.findings(job, p, prices)
	t.refuse(job.Words, report)
	t.price(job, prices)
	return t
}

// refuse marks the parts of a circuit that a check of it fails: they are not bought as they
// are.
func (t *TakeOff) refuse(w *words.Catalogue, report *rulebook.Report) {
	if report == nil {
		return
	}
	for i := range t.Lines {
		l := &t.Lines[i]
		if l.check == "" {
			continue
		}
		for _, c := range report.Circuit(l.Circuit).Checks {
			if c.ID == l.check && c.Verdict == working.Fail {
				l.Trouble = w.Say("%s: not ordered while it is refused. %s", l.Name, c.Summary)
			}
		}
	}
}

// findings lists what the findings take that were accepted: the parts of each piece of work, as the company's list has it.
func (t *TakeOff) findings(job *install.Job, p rulebook.Book, prices map[string]Item) {
	for _, f := range survey.Agreed(job, p.Survey()) {
		if item, ok := prices[f.Key]; ok && f.Key != "" && !f.Shares {
			t.Lines = append(t.Lines, Line{Key: f.Step + ":" + f.Key, Circuit: f.Circuit, Name: cmp.Or(item.Name, f.Title), Need: 1, Order: 1,
				Unit: job.Words.Say("job"), Rule: job.Words.Say("accepted by the client: %s", f.Title)})
		}
	}
}

// boards lists what the boards take beside their circuits: those that the job puts in, a blank for each opening that stays free, and
// the chart of each with the notices.
func (t *TakeOff) boards(job *install.Job, p rulebook.Book) {
	w, terms := job.Words, p.Terms()
	open, charts := 0, 0
	add := func(key, name, rule string, n int) {
		if n > 0 {
			t.Lines = append(t.Lines, Line{Key: "board:" + key, Name: name, Need: float64(n),
				Order: float64(n), Unit: "pcs", Rule: rule})
		}
	}
	for b := range job.EachBoard() {
		if b.New {
			switchA := w.Say("not recorded")
			if b.MainSwitchA.Known() {
				switchA = unit.With(b.MainSwitchA.V(), "A")
			}
			t.Lines = append(t.Lines, Line{Key: "board" + b.ID + ":board:" + strconv.Itoa(len(b.Ways)), Need: 1, Order: 1, Unit: "pcs",
				Name: w.Say("Board of %d ways, main switch %s, for %s", len(b.Ways), switchA, b.Called(w)), Rule: w.Say("one that the job puts in")})
		}
		for _, way := range terms.FreeWays(job, b) {
			if !way.Blank {
				open++
			}
		}
		if len(job.On(b)) > 0 && job.Trait().Board {
			charts++
		}
	}
	add("blank", w.Say("Blank for an open way"), w.Say("one for each way that stays free"), open)
	add("chart", w.Say("Circuit chart and notices"), w.Say("one for each board, printed from the handover sheet"), charts)
}

// shared lists the residual-current devices that circuits share.
func (t *TakeOff) shared(job *install.Job) {
	w := job.Words
	for b := range job.EachBoard() {
		for _, g := range b.Groups {
			t.Lines = append(t.Lines, Line{Key: "group-" + g.ID + ":device:rccb:" + g.RCDType, Need: 1, Order: 1, Unit: "pcs",
				Name: w.Say("Residual-current switch %s A, type %s %s mA, for %s", unit.Format(g.RatingA), g.RCDType,
					unit.Format(g.IdnMA), g.Name), Rule: w.Say("one for the group; order 0 where the board has it")})
		}
	}
}

// points counts what the walk asks for: accessories by kind and boxes by size.
// What a designed circuit brings by itself is not counted twice.
func (t *TakeOff) points(job *install.Job, p rulebook.Book) {
	w := job.Words
	words, terms := p.Survey(), p.Terms()
	counts, boxes := map[string]int{}, map[string]int{}
	listed := outletsOfRuns(job, &terms)
	for i := range job.Rooms {
		for _, pt := range job.Rooms[i].Points {
			pt.Count -= listed[[2]string{job.Rooms[i].ID, pt.ID}]
			if pt.Kind == "" || pt.State == install.Kept || pt.State == install.Removed {
				continue
			}
			if pt.State == install.New && !(pt.Kind == survey.ChargePoint &&
				slices.ContainsFunc(job.Circuits, func(c install.Circuit) bool { return charges(&c, &terms) })) {
				counts[pt.Kind] += pt.Count
			}
			box := pt.Box
			if box == "" {
				box = words.Box[pt.Kind]
			}
			if box != "" && pt.Count > 0 {
				boxes[box] += pt.Count
			}
		}
	}
	add := func(key, name, rule string, n int) {
		t.Lines = append(t.Lines, Line{Key: "walk:" + key, Name: name, Need: float64(n), Order: float64(n), Unit: "pcs", Rule: rule})
	}
	for _, k := range survey.Kinds {
		if n := counts[k.ID]; n > 0 {
			add("point:"+k.ID, survey.Name(words, k.ID), w.Say("new points counted on the survey"), n)
		}
	}
	t.controls(job, words, terms.Length, boxes, add)
	for _, box := range slices.Sorted(maps.Keys(boxes)) {
		add("box:"+box, w.Say("Box %s", box), w.Say("one for each new or moved point, usual box where none is noted"), boxes[box])
	}
}

// Cable to and between the positions from which a light is switched, m: usual in a dwelling, until the runs are measured.
const (
	switchDropM = 3.0
	strapperM   = 6.0
)

// controls lists the switches of lights, their boxes and their cables, and the cables of extra-low voltage.
func (t *TakeOff) controls(job *install.Job, words *rulebook.Survey, length install.Length, boxes map[string]int, add func(key, name, rule string, n int)) {
	w := job.Words
	parts, drops, straps := map[survey.SwitchPart]int{}, 0, 0
	for i := range job.Rooms {
		for _, c := range survey.ControlsOf(job, &job.Rooms[i], words) {
			drops, straps = drops+1, straps+c.Straps
			for _, p := range c.Parts {
				parts[p.ID] += p.Count
				if box := words.Box["switch"]; box != "" && p.ID != survey.SensorSwitch {
					boxes[box] += p.Count
				}
			}
		}
	}
	for _, p := range survey.SwitchParts {
		if n := parts[p.ID]; n > 0 {
			add("switch:"+string(p.ID), p.ID.Name(w), w.Say("by how the lights of the walk are switched; one-way where nobody said"), n)
		}
	}
	run := func(key, name string, m float64, rule string) {
		if m == 0 {
			return
		}
		need := length.Of(m)
		t.Lines = append(t.Lines, Line{Key: "walk:cable:" + key, Name: name, Need: unit.Significant(need, 3),
			Order: math.Ceil(unit.Significant(need*(1+job.Materials.WastagePc/100), 9)), Unit: length.Unit(), Rule: rule})
	}
	for _, c := range survey.LowVoltageOf(job, words).Cables {
		run(c.ID, c.Name, c.LengthM, w.Say("%d home runs by the routes of the walk, what was not measured assumed", c.Runs))
	}
	each := func(n int, m float64) string {
		return w.Say("%s for each of %d, assumed until it is measured, of the size of their circuit",
			unit.With(unit.Significant(length.Of(m), 2), length.Unit()), n)
	}
	run("switch-drop", w.Say("Cable to switches, two cores and earth"), float64(drops)*switchDropM, each(drops, switchDropM))
	run("strapper", w.Say("Cable between switches of one light, three cores and earth"), float64(straps)*strapperM, each(straps, strapperM))
}

// surge lists the surge devices that a job fits, with their leads, each length with its own size.
func (t *TakeOff) surge(job *install.Job, p rulebook.Book) {
	w, terms := job.Words, p.Terms()
	in, waste := terms.Length, job.Materials.WastagePc
	for i := range job.Surge.Devices {
		d := &job.Surge.Devices[i]
		if d.Kept {
			continue
		}
		t.Lines = append(t.Lines, Line{Key: fmt.Sprintf("surge-%d:device:spd:%s", i+1, d.Type), Name: w.Say("Surge device %s, type %s", d.Name, d.Type), Need: 1,
			Order: 1, Unit: "pcs", Rule: w.Say("one that the job fits")})
		for _, lead := range []struct {
			key, name string
			m, mm2    float64
		}{{"line", w.Say("two leads on the line side"), 2 * d.LineM, d.LineMM2}, {"earth", w.Say("earth lead"), d.EarthM, d.EarthMM2}} {
			if lead.m == 0 || lead.mm2 == 0 {
				continue
			}
			t.Lines = append(t.Lines, Line{Key: fmt.Sprintf("surge-%d:lead:%s:%s", i+1, lead.key, unit.Format(lead.mm2)),
				Name: w.Say("%s of %s, %s", lead.name, d.Name, terms.Size(lead.mm2)), Need: unit.Significant(in.Of(lead.m), 3),
				Order: math.Ceil(unit.Significant(in.Of(lead.m*(1+waste/100)), 9)), Unit: in.Unit(), Rule: w.Say("as short as it is drawn, up to the next whole %v", in.Unit())})
		}
	}
}

// outletsOfRuns counts by room and point the outlets that are listed with their circuits.
func outletsOfRuns(job *install.Job, terms *install.Terms) map[[2]string]int {
	out := map[[2]string]int{}
	if !terms.ListsBoxes {
		return out
	}
	for i := range job.Circuits {
		if job.Circuits[i].State != install.NewCircuit {
			continue
		}
		for n := range job.Circuits[i].Serves.Boxes {
			if b := &job.Circuits[i].Serves.Boxes[n]; b.Point != "" && b.Device.Outlet() {
				out[[2]string{b.Room, b.Point}]++
			}
		}
	}
	return out
}

// price prices every line and takes what was ordered and delivered of it.
func (t *TakeOff) price(job *install.Job, prices map[string]Item) {
	total := 0.0
	for i := range t.Lines {
		l := &t.Lines[i]
		if item, ok := prices[priceKey(l.Key)]; ok {
			cost := item.Price * l.Order
			l.Price = &cost
			total += cost
		} else {
			t.Unpriced++
		}
		l.stock(job.Words, job.Materials.Lines[l.Key])
		if l.Trouble != "" {
			t.Troubles = append(t.Troubles, l.Trouble)
		}
	}
	if t.Unpriced == 0 {
		t.Total = &total
	}
}

// Price returns what prices the materials of one circuit of a job, to compare designs of it.
func Price(p rulebook.Book, prices map[string]Item) rulebook.Price {
	return func(job *install.Job, i int) (sum float64, unpriced map[string]float64) {
		t := TakeOff{}
		t.circuit(job, &job.Circuits[i], p)
		for n := range t.Lines {
			l := &t.Lines[n]
			if item, ok := prices[priceKey(l.Key)]; ok {
				sum += item.Price * l.Order
				continue
			}
			if unpriced == nil {
				unpriced = map[string]float64{}
			}
			unpriced[l.Key] = l.Order
		}
		return sum, unpriced
	}
}

// Extra is what the materials of a job's circuits cost beside those of another design of it;
// not ok where the two differ in lines that the list lacks, as the difference of their
// prices is then not known.
func Extra(p rulebook.Book, prices map[string]Item, before, after *install.Job) (extra float64, ok bool) {
	price := Price(p, prices)
	of := func(job *install.Job) (sum float64, lacks map[string]float64) {
		lacks = map[string]float64{}
		for i := range job.Circuits {
			one, unpriced := price(job, i)
			sum += one
			maps.Copy(lacks, unpriced)
		}
		return sum, lacks
	}
	was, lacked := of(before)
	now, lacks := of(after)
	return now - was, maps.Equal(lacked, lacks)
}

// priceKey drops the circuit from a line's key: "c1:cable:swa3-90:6" is priced
// as "cable:swa3-90:6".
func priceKey(key string) string {
	_, rest, _ := strings.Cut(key, ":")
	return rest
}

func (t *TakeOff) add(c *install.Circuit, key, name string, need, order float64, unitName, rule string) *Line {
	t.Lines = append(t.Lines, Line{Key: c.ID + ":" + key, Name: name, Circuit: c.ID, Need: need, Order: order, Unit: unitName, Rule: rule})
	return &t.Lines[len(t.Lines)-1]
}

// charges reports whether a circuit charges a vehicle.
func charges(c *install.Circuit, terms *install.Terms) bool {
	return terms.Charging != "" && c.Use == terms.Charging
}

func (t *TakeOff) circuit(job *install.Job, c *install.Circuit, p rulebook.Book) {
	if c.State.Out() {
		w := job.Words
		t.add(c, "labels", w.Say("Label set"), 1, 1, "pcs", w.Say("both ends of what stays in the wall: not connected"))
		t.add(c, "caps", w.Say("Terminal covers for conductors that end"), 1, 1, "sets", w.Say("for both ends of what stays in the wall"))
		return
	}
	if c.State != install.NewCircuit {
		t.parts(job, c, p, func(x *rulebook.Part) bool {
			return c.State == install.AlteredCircuit && x.Device || c.State == install.KeptCircuit && x.Replaced
		})
		return
	}
	w := job.Words
	if terms := p.Terms(); terms.IsBranch(c) {
		t.parts(job, c, p, func(x *rulebook.Part) bool { return x.Device }) // it has leads, not a cable
		t.add(c, "labels", w.Say("Label set"), 1, 1, "pcs", w.Say("both ends of the cable and the way; printed from the handover sheet"))
		return
	}
	cable, ok := p.Cable(c.Route.CableType, c.Route.LineMM2)
	if !ok {
		return
	}
	length := c.Route.LengthM()
	waste := job.Materials.WastagePc
	terms := p.Terms()
	in := terms.Length
	order := math.Ceil(unit.Significant(in.Of(length*(1+waste/100)), 9))
	key, name := fmt.Sprintf("cable:%s:%s", c.Route.CableType, unit.Format(c.Route.LineMM2)), cable.Name
	if c.Route.Aluminium {
		key, name = "al-"+key, name+", aluminium"
	}
	line := t.add(c, key, name, unit.Significant(in.Of(length), 9), order, in.Unit(),
		w.Say("route %v %v with slack %v%v%v + %v, + %v %% waste, up to the next whole %v%v", in.Of(length), in.Unit(),
			in.Of(c.Route.SlackM), w.Say(" and tails "), in.Of(c.Route.BoardTailM), in.Of(c.Route.PointTailM), waste, in.Unit(),
			", "+comes(w, c)))
	line.ByLength = true
	if legs := unmeasured(w, c); legs != "" {
		line.Rule += w.Say("; without the legs that nobody knows yet: %s", legs)
		line.Assumed = true
		t.Troubles = append(t.Troubles, w.Say("%s: the cable is short by the legs to %s, whose length nobody knows yet.", c.Name, legs))
	}
	if !cutAsItGoes(c) {
		line.cuts = []float64{in.Of(length)}
	}
	for i := range c.Route.Segments {
		line.Assumed = line.Assumed || c.Route.Segments[i].Basis != install.Measured
	}
	if c.Route.CPC == install.SeparateCPC {
		cpc := t.add(c, "cpc:"+unit.Format(c.Route.CPCMM2),
			w.Say("Single core %s for the protective conductor", terms.Size(c.Route.CPCMM2)),
			in.Of(length), order, in.Unit(), w.Say("beside the cable, as the protective conductor"))
		cpc.ByLength, cpc.cuts = true, line.cuts
	}
	for i := range c.Serves.Boxes {
		if b := &c.Serves.Boxes[i]; b.Device == install.FusedUnit {
			t.add(c, "fused-spur:"+b.ID, w.Say("Fused connection unit, %s", b.Called()), 1, 1, "pcs", w.Say("one where the run has it"))
		}
	}
	spurs, cuts := 0.0, []float64{}
	for _, s := range spursOf(c) {
		spurs += s.LengthM
		cuts = append(cuts, in.Of(s.LengthM))
		if s.Fused {
			t.add(c, "fused-spur:"+s.Place, w.Say("Fused connection unit, %s", s.Place), 1, 1, "pcs", w.Say("one for the fused spur"))
		}
	}
	if spurs > 0 {
		l := t.add(c, key, name+", spurs", in.Of(spurs), math.Ceil(unit.Significant(in.Of(spurs*(1+waste/100)), 9)),
			in.Unit(), w.Say("the spurs off the ring, in as many pieces"))
		l.Key, l.ByLength, l.cuts = c.ID+"-spurs:"+key, true, cuts
	}
	t.fixings(w, c, &cable, &terms)
	t.parts(job, c, p, func(*rulebook.Part) bool { return true })
	t.ends(w, c, cable.Gland != "", &terms)
}

// parts are what a practice asks for of a circuit, as far as it is wanted.
func (t *TakeOff) parts(job *install.Job, c *install.Circuit, p rulebook.Book, wanted func(*rulebook.Part) bool) {
	w, waste := job.Words, job.Materials.WastagePc
	for _, x := range p.Parts(job, c) {
		if !wanted(&x) {
			continue
		}
		if x.Unit == "" {
			x.Unit = "pcs"
		}
		count := x.Count
		if x.Cut {
			count *= 1 + waste/100
			x.Rule += w.Say(", + %v %% waste", waste)
		}
		l := t.add(c, x.Key, x.Name, x.Count, math.Ceil(unit.Significant(count, 9)), x.Unit, x.Rule)
		l.check = x.Check
	}
}

// fixings are what holds a cable on its way and warns of it: glands, clips and tape.
func (t *TakeOff) fixings(w *words.Catalogue, c *install.Circuit, cable *rulebook.Cable, terms *install.Terms) {
	in := terms.Length
	if cable.Gland != "" {
		t.add(c, "gland:"+cable.Gland, w.Say("Gland kit %s", cable.Gland), 2, 2, "pcs",
			w.Say("one at each end of an armoured cable; size by the nominal diameter, confirm with the manufacturer's"))
	}
	clips, buried := 0.0, 0.0
	for i := range c.Route.Segments {
		s := &c.Route.Segments[i]
		switch spacing := cable.ClipHorMM; {
		case terms.Laid[s.Method].Ground:
			buried += s.LengthM
		case terms.Laid[s.Method].Fixed || slices.Contains(cable.FixedBy, string(s.Method)):
			if s.Vertical {
				spacing = cable.ClipVertMM
			}
			if spacing > 0 {
				clips += math.Ceil(unit.Significant(s.LengthM*1000/spacing, 9)) + 1
			}
		}
	}
	if clips > 0 {
		t.add(c, "clip:"+kindOf(*cable), cable.Clip, clips, math.Ceil(clips/10)*10, "pcs",
			w.Say("at most %s apart along and %s up, one more at each end, packs of ten", spacingIn(in, cable.ClipHorMM),
				spacingIn(in, cable.ClipVertMM)))
	}
	if buried > 0 {
		t.add(c, "warning-tape", w.Say("Warning tape"), in.Of(buried), math.Ceil(unit.Significant(in.Of(buried), 9)), in.Unit(),
			w.Say("over all that is buried, above the cable"))
	}
}

// ends are what a circuit asks for where it begins and where it feeds something.
func (t *TakeOff) ends(w *words.Catalogue, c *install.Circuit, gland bool, terms *install.Terms) {
	if c.Protection.OwnEnclosure {
		t.add(c, "enclosure", w.Say("Enclosure with main switch, beside the board"), 1, 1, "pcs",
			w.Say("one for the device; tails and a joint block to its rating are the fitter's choice"))
	}
	if charges(c, terms) {
		point := w.Say("Charge point")
		if c.Point.Manufacturer != "" {
			point += ", " + c.Point.Manufacturer
		}
		t.add(c, "charge-point", point, 1, 1, "pcs", "one")
		if c.Point.ManagedA > 0 {
			t.add(c, "load-management", w.Say("Load management with current sensor"), 1, 1, "pcs",
				w.Say("holds the house to %s A", unit.Format(c.Point.ManagedA)))
		}
	} else if c.Point.Manufacturer != "" {
		t.add(c, "appliance:"+c.Point.Manufacturer, c.Point.Manufacturer, 1, 1, "pcs",
			w.Say("what the circuit feeds; order 0 where others bring it"))
	}
	if c.Serves.Recessed.Fitted && c.Serves.Recessed.Fire && (c.Serves.Recessed.Tested == nil || !*c.Serves.Recessed.Tested) {
		n := float64(max(1, c.Serves.Points()))
		t.add(c, "fire-hood", w.Say("Fire hood over a recessed luminaire"), n, n, "pcs",
			w.Say("one for each that is not itself tested for the ceiling; order 0 where the luminaire is"))
	}
	if !gland && !c.Protection.OwnEnclosure {
		t.add(c, "entry", w.Say("Grommet or gland for the entry to the board"), 1, 1, "pcs",
			w.Say("one for each cable that enters it"))
	}
	t.add(c, "labels", w.Say("Label set"), 1, 1, "pcs", w.Say("both ends of the cable and the way; printed from the handover sheet"))
}

// cutAsItGoes reports whether the cable of a circuit is cut at every outlet, so that no one
// piece need be as long as the whole run.
func cutAsItGoes(c *install.Circuit) bool { return c.Serves.Points() > 1 || len(c.Serves.Boxes) > 1 }

// spursOf are the spurs whose cable is no part of the route: on a run of boxes it is.
func spursOf(c *install.Circuit) []install.Spur {
	if len(c.Serves.Boxes) > 0 {
		return nil
	}
	return c.Serves.Spurs
}

// unmeasured names the legs of a run that nobody knows, so that their cable is on no list; empty for none.
func unmeasured(w *words.Catalogue, c *install.Circuit) string {
	names := []string{}
	if !c.Legged() {
		return ""
	}
	for _, l := range c.Legs() {
		if b := c.Serves.BoxByID(l.To); !l.Known && b != nil {
			names = append(names, b.Called())
		} else if !l.Known {
			names = append(names, w.Say("the way back to the board"))
		}
	}
	return strings.Join(names, ", ")
}

func comes(w *words.Catalogue, c *install.Circuit) string {
	if cutAsItGoes(c) {
		return w.Say("cut at each outlet")
	}
	return w.Say("in one piece")
}

// spacingIn is a distance between fixings in the small unit that goes with a length.
func spacingIn(l install.Length, mm float64) string {
	if l.Unit() == "m" {
		return unit.With(mm, "mm")
	}
	return unit.With(l.Of(mm/1000), l.Unit())
}

func kindOf(c rulebook.Cable) string {
	if c.Armoured {
		return "armoured"
	}
	return "flat"
}

// stock takes what was ordered and delivered. What is bought by length must also come in
// pieces that are long enough: two short ones that add up to a run are still short.
func (l *Line) stock(w *words.Catalogue, s install.Stock) {
	l.Ordered, l.Delivered, l.Lengths, l.Note, l.Due = s.Ordered, s.Delivered, s.Lengths, s.Note, s.Due
	l.Short = math.Max(0, l.Need-s.Delivered)
	say := func(v float64) string { return unit.With(unit.Significant(v, 4), l.Unit) }
	trouble := func(says string) {
		if l.Trouble == "" {
			l.Trouble = l.Name + ": " + says
		}
	}
	switch {
	case s.Ordered > 0 && s.Delivered > 0 && s.Delivered < s.Ordered:
		l.Remark = w.Say("%s of the %s that were ordered came.", say(s.Delivered), say(s.Ordered))
	case s.Ordered > 0 && s.Delivered > s.Ordered:
		l.Remark = w.Say("%s came, %s were ordered.", say(s.Delivered), say(s.Ordered))
	}
	pieces, err := install.Pieces(s.Lengths, l.Unit)
	if !l.ByLength || err != nil || len(pieces) == 0 {
		switch {
		case s.Delivered <= 0:
		case l.Short > 0 && l.ByLength:
			trouble(w.Say("the delivery of %s is %s shorter than the run of %s: do not travel", say(s.Delivered), say(l.Short),
				say(l.Need)))
		case l.Short > 0:
			trouble(w.Say("%s of %s delivered", say(s.Delivered), say(l.Need)))
		case len(l.cuts) > 0:
			l.Short = l.Need // delivered in full, but nobody knows whether a piece is long enough
			l.Remark = w.Say("In which pieces? Measure them: until then nobody knows whether one is long enough.")
		}
		return
	}
	sum := 0.0
	for _, p := range pieces {
		sum += p
	}
	if l.Short = math.Max(0, l.Need-sum); l.Short > 1e-9 {
		trouble(w.Say("the pieces are %s together, %s shorter than the run of %s: do not travel", say(sum), say(l.Short), say(l.Need)))
		return
	}
	if cut, longest := l.lacking(pieces); cut > 0 {
		l.Short = l.Need
		trouble(w.Say("the longest piece left is %s, a run of %s must come in one piece: %s short, do not travel", say(longest),
			say(cut), say(cut-longest)))
	}
}

// lacking is the first run that cannot be cut in one piece from what was delivered, and
// the longest piece that is left for it; 0 when all can. The longest runs are cut first,
// each from the shortest piece that holds it.
func (l *Line) lacking(pieces []float64) (cut, longest float64) {
	left := slices.Clone(pieces)
	cuts := slices.Clone(l.cuts)
	slices.SortFunc(cuts, func(a, b float64) int { return cmp.Compare(b, a) })
	for _, c := range cuts {
		best := -1
		for i, p := range left {
			if p+1e-9 >= c && (best < 0 || p < left[best]) {
				best = i
			}
		}
		if best < 0 {
			return c, slices.Max(left)
		}
		left[best] -= c
	}
	return 0, 0
}
