// Package materials is the take-off: what a job needs, counted from its routes
// and device choices, with the rule stated, and what became of each line.
package materials

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/unit"
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
}

// TakeOff is the whole list with its sums.
type TakeOff struct {
	Lines    []Line   `json:"lines"`
	Total    *float64 `json:"total"` // nil when a line has no price
	Unpriced int      `json:"unpriced"`
	Troubles []string `json:"troubles"`
}

// Of computes the take-off of a job. Prices may be nil.
func Of(job *install.Job, p rulebook.Practice, prices map[string]Item) TakeOff {
	t := TakeOff{Lines: []Line{}, Troubles: []string{}}
	for i := range job.Circuits {
		t.circuit(job, &job.Circuits[i], p)
	}
	t.shared(job)
	t.points(job, p)
	t.price(job, prices)
	return t
}

// shared lists the residual-current devices that circuits share.
func (t *TakeOff) shared(job *install.Job) {
	for _, g := range job.Board.Groups {
		t.Lines = append(t.Lines, Line{Key: "group-" + g.ID + ":device:rccb:" + g.RCDType, Need: 1, Order: 1, Unit: "pcs",
			Name: fmt.Sprintf("Residual-current switch %s A, type %s %s mA, for %s", unit.Format(g.RatingA), g.RCDType, unit.Format(g.IdnMA), g.Name), Rule: "one for the group; order 0 where the board has it"})
	}
}

// points counts what the walk asks for: accessories by kind and boxes by size.
// What a designed circuit brings by itself is not counted twice.
func (t *TakeOff) points(job *install.Job, p rulebook.Practice) {
	words := p.Survey()
	counts, boxes := map[string]int{}, map[string]int{}
	for i := range job.Rooms {
		for _, pt := range job.Rooms[i].Points {
			if pt.Kind == "" || pt.State == install.Kept || pt.State == install.Removed {
				continue
			}
			if pt.State == install.New && !(pt.Kind == "ev" && slices.ContainsFunc(job.Circuits, func(c install.Circuit) bool { return c.Use == "ev" })) {
				counts[pt.Kind] += pt.Count
			}
			box := pt.Box
			if box == "" {
				box = words.Box[pt.Kind]
			}
			if box != "" {
				boxes[box] += pt.Count
			}
		}
	}
	add := func(key, name, rule string, n int) {
		t.Lines = append(t.Lines, Line{Key: "walk:" + key, Name: name, Need: float64(n), Order: float64(n), Unit: "pcs", Rule: rule})
	}
	for _, k := range survey.Kinds {
		if n := counts[k.ID]; n > 0 {
			add("point:"+k.ID, survey.Name(words, k.ID), "new points counted on the walk", n)
		}
	}
	for _, box := range slices.Sorted(maps.Keys(boxes)) {
		add("box:"+box, "Box "+box, "one for each new or moved point, usual box where none is noted", boxes[box])
	}
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
		l.stock(job.Materials.Lines[l.Key])
		if l.Trouble != "" {
			t.Troubles = append(t.Troubles, l.Trouble)
		}
	}
	if t.Unpriced == 0 {
		t.Total = &total
	}
}

// Price returns a function that prices the materials of a job's circuits, to
// compare designs of one job. A line that the list lacks counts nothing: the
// function reports false where a design differs from the first one that it was
// given in such lines, as the difference of their prices is then not known.
func Price(p rulebook.Practice, prices map[string]Item) func(*install.Job) (float64, bool) {
	var first map[string]float64
	return func(job *install.Job) (float64, bool) {
		t := TakeOff{Lines: []Line{}, Troubles: []string{}}
		for i := range job.Circuits {
			t.circuit(job, &job.Circuits[i], p)
		}
		t.shared(job)
		total, unpriced := 0.0, map[string]float64{}
		for i := range t.Lines {
			l := &t.Lines[i]
			if item, ok := prices[priceKey(l.Key)]; ok {
				total += item.Price * l.Order
			} else {
				unpriced[l.Key] = l.Order
			}
		}
		if first == nil {
			first = unpriced
		}
		return total, maps.Equal(first, unpriced)
	}
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

func (t *TakeOff) circuit(job *install.Job, c *install.Circuit, p rulebook.Practice) {
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
		unit.Text("route ", in.Of(length), " ", in.Unit(), " with slack ", in.Of(c.Route.SlackM), " and "+rulebook.Say(p.Words(), "tails")+" ", in.Of(c.Route.BoardTailM), " + ", in.Of(c.Route.PointTailM), ", + ", waste, " % waste, up to the next whole ", in.Unit(), ", in one piece"))
	for i := range c.Route.Segments {
		line.Assumed = line.Assumed || c.Route.Segments[i].Basis != install.Measured
	}
	if c.Route.CPC == "separate" {
		t.add(c, "cpc:"+unit.Format(c.Route.CPCMM2), "Single core "+terms.Size(c.Route.CPCMM2)+" for "+rulebook.Say(p.Words(), "the protective conductor"), in.Of(length), order, in.Unit(), "beside the cable, as "+rulebook.Say(p.Words(), "the protective conductor"))
	}
	spurs := 0.0
	for _, s := range c.Serves.Spurs {
		spurs += s.LengthM
		if s.Fused {
			t.add(c, "fused-spur:"+s.Place, "Fused connection unit, "+s.Place, 1, 1, "pcs", "one for the fused spur")
		}
	}
	if spurs > 0 {
		l := t.add(c, key, name+", spurs", in.Of(spurs), math.Ceil(unit.Significant(in.Of(spurs*(1+waste/100)), 9)), in.Unit(), "the spurs off the ring, in as many pieces")
		l.Key = c.ID + "-spurs:" + key
	}
	if cable.Gland != "" {
		t.add(c, "gland:"+cable.Gland, "Gland kit "+cable.Gland, 2, 2, "pcs", "one at each end of an armoured cable; size by the nominal diameter, confirm with the maker's")
	}
	clips, buried := 0.0, 0.0
	for i := range c.Route.Segments {
		s := &c.Route.Segments[i]
		switch spacing := cable.ClipHorMM; {
		case s.Method == install.Buried:
			buried += s.LengthM
		case s.Method == install.Clipped || s.Method == install.OnTray:
			if s.Vertical {
				spacing = cable.ClipVertMM
			}
			if spacing > 0 {
				clips += math.Ceil(unit.Significant(s.LengthM*1000/spacing, 9)) + 1
			}
		}
	}
	if clips > 0 {
		t.add(c, "clip:"+kindOf(cable), cable.Clip, clips, math.Ceil(clips/10)*10, "pcs",
			fmt.Sprintf("at most %s apart along and %s up, one more at each end, packs of ten", spacingIn(in, cable.ClipHorMM), spacingIn(in, cable.ClipVertMM)))
	}
	if buried > 0 {
		t.add(c, "warning-tape", "Warning tape", in.Of(buried), math.Ceil(unit.Significant(in.Of(buried), 9)), in.Unit(), "over all that is buried, above the cable")
	}
	for _, x := range p.Parts(job, c) {
		if x.Unit == "" {
			x.Unit = "pcs"
		}
		count := x.Count
		if x.Cut {
			count *= 1 + waste/100
			x.Rule += unit.Text(", + ", waste, " % waste")
		}
		t.add(c, x.Key, x.Name, x.Count, math.Ceil(unit.Significant(count, 9)), x.Unit, x.Rule)
	}
	if c.Protection.OwnEnclosure {
		t.add(c, "enclosure", "Enclosure with main switch, beside the board", 1, 1, "pcs", "one for the device; tails and a joint block to its rating are the fitter's choice")
	}
	if c.Use == "ev" {
		point := "Charge point"
		if c.Point.Manufacturer != "" {
			point += ", " + c.Point.Manufacturer
		}
		t.add(c, "charge-point", point, 1, 1, "pcs", "one")
		if c.Point.ManagedA > 0 {
			t.add(c, "load-management", "Load management with current sensor", 1, 1, "pcs", "holds the house to "+unit.Format(c.Point.ManagedA)+" A")
		}
	} else if c.Point.Manufacturer != "" {
		t.add(c, "appliance:"+c.Point.Manufacturer, c.Point.Manufacturer, 1, 1, "pcs", "what the circuit feeds; order 0 where others bring it")
	}
	t.add(c, "labels", "Label set", 1, 1, "pcs", "printed from the handover sheet")
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

// stock takes what was ordered and delivered. A cable must also come in a piece
// that is long enough: two short ones that add up to the run are still short.
func (l *Line) stock(s install.Stock) {
	l.Ordered, l.Delivered, l.Lengths, l.Note, l.Due = s.Ordered, s.Delivered, s.Lengths, s.Note, s.Due
	l.Short = math.Max(0, l.Need-s.Delivered)
	if !strings.Contains(l.Key, ":cable:") {
		if s.Delivered > 0 && l.Short > 0 {
			l.Trouble = fmt.Sprintf("%s: %s of %s %s delivered", l.Name, unit.Format(s.Delivered), unit.Format(l.Need), l.Unit)
		}
		return
	}
	pieces, err := install.Pieces(s.Lengths)
	if err != nil || len(pieces) == 0 {
		if s.Delivered > 0 && s.Delivered < l.Need {
			l.Trouble = fmt.Sprintf("%s: the delivery of %s m is %s m shorter than the run of %s m: do not travel", l.Name, unit.Format(s.Delivered), unit.Format(l.Need-s.Delivered), unit.Format(l.Need))
		}
		return
	}
	longest := slices.Max(pieces)
	if longest < l.Need {
		l.Short = l.Need
		l.Trouble = fmt.Sprintf("%s: the longest piece delivered is %s m, the run needs %s m in one piece: %s m short, do not travel", l.Name, unit.Format(longest), unit.Format(l.Need), unit.Format(l.Need-longest))
		return
	}
	l.Short = 0
}
