package split120

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Report computes every check of the job, and what would mend those that fail.
func (p Practice) Report(job *install.Job, price rulebook.Price) rulebook.Report {
	r := p.Judge(job)
	rulebook.Mend(job, &r, rulebook.Later(func() rulebook.Trial { return newTrial(p, job) }), price, mends)
	return r
}

// mends are the changes that may cure each rule.
var mends map[working.RuleID]rulebook.Mends

// trial judges changes of one circuit at a time on a job of its own (rulebook.Trial).
type trial struct {
	s     *system
	job   *install.Job
	below map[string][]int // circuits that hang on one
}

// Try begins trials.
func (p Practice) Try(job *install.Job) rulebook.Trial { return newTrial(p, job) }

func newTrial(p Practice, job *install.Job) *trial {
	own := *job
	own.Circuits = slices.Clone(job.Circuits)
	t := &trial{s: newSystem(p, &own), job: &own, below: map[string][]int{}}
	t.s.judge(rulebook.Everything)
	for i := range own.Circuits {
		if from := own.Circuits[i].From; from != "" {
			t.below[from] = append(t.below[from], i)
		}
	}
	return t
}

// Changed changes circuit i, judges what that reaches and puts it back: the circuit, those
// ahead of it, which carry its load, all that hang on any of these, and what of the job
// reads what was touched.
func (t *trial) Changed(i int, change func(*install.Circuit), look func(*install.Job)) []working.Check {
	s, k := t.s, &t.job.Circuits[i]
	was := *k
	change(k)
	touched := rulebook.Touched(&was, k)
	moved := touched&rulebook.ReadsPlace != 0
	if moved {
		s.taken = nil
	}
	defer func() {
		*k = was
		if moved {
			s.taken = nil
		}
	}()
	if look != nil {
		look(t.job)
		return nil
	}
	out := s.judge(touched)
	top := k
	for range t.job.Circuits {
		up := s.Circuit(top.From)
		if up == nil {
			break
		}
		top = up
	}
	seen := map[string]bool{}
	var report func(k *install.Circuit)
	report = func(k *install.Circuit) {
		if seen[k.ID] {
			return
		}
		seen[k.ID] = true
		out = append(out, s.report(k).Checks...)
		for _, n := range t.below[k.ID] {
			report(&t.job.Circuits[n])
		}
	}
	report(top)
	report(k)
	return out
}

func mendDesignCurrent(m *rulebook.Mending) {
	in := m.Circuit.Protection.RatingA
	otherDevice(m, func(a float64) bool { return a > in && a <= 2*in })
	limit(m)
}

func mendCapacity(m *rulebook.Mending) {
	in := m.Circuit.Protection.RatingA
	largerConductor(m)
	otherDevice(m, func(a float64) bool { return a < in && a >= in/2 })
}

func mendConductorLoad(m *rulebook.Mending) {
	largerConductor(m)
	limit(m)
}

// largerConductor tries the next larger conductors in which its cable is made.
func largerConductor(m *rulebook.Mending) {
	k, n := m.Circuit, 0
	row, size := cables[k.Route.CableType], sizeOf[k.Route.LineMM2]
	if row == nil || size == "" {
		return
	}
	for _, mm2 := range terms.Sizes[row.id] {
		if mm2 <= k.Route.LineMM2 || n == tries {
			continue
		}
		n++
		m.Set(trade(sizeOf[mm2])+" in place of "+trade(size), func(x *install.Circuit) { x.Route.LineMM2 = mm2 }, "route.lineMM2", mm2)
	}
}

// tries is how many sizes, ratings or spaces of a kind are tried.
const tries = 3

func otherDevice(m *rulebook.Mending, fits func(a float64) bool) {
	n := 0
	for _, a := range ratingsList() {
		if !fits(a) || n == tries {
			continue
		}
		n++
		m.Set(text("A device of ", a, " A"), func(x *install.Circuit) { x.Protection.RatingA = a }, "protection.ratingA", a)
	}
}

func mendGround(m *rulebook.Mending) {
	k := m.Circuit
	if row := cables[k.Route.CableType]; row != nil && row.cores == 0 {
		if g := groundSize(codeOf(m.Job), copper, k.Protection.RatingA); g != "" {
			mm2 := areaOf[g]
			m.Set("A ground of "+trade(g)+" drawn with it",
				func(x *install.Circuit) { x.Route.CPCMM2, x.Route.CPC = mm2, install.SeparateCPC }, "route.cpcMM2", mm2,
				"route.cpc", install.SeparateCPC)
		}
	}
	largerConductor(m)
}

func mendConductors(m *rulebook.Mending) {
	k := m.Circuit
	row, size := cables[k.Route.CableType], sizeOf[k.Route.LineMM2]
	if row == nil {
		return
	}
	for _, id := range terms.CableTypes {
		if x := cables[id]; x.cores >= coresOf(k) && x.id[:2] == row.id[:2] && slices.Contains(x.sizes, size) {
			m.Set(x.name, func(c *install.Circuit) { c.Route.CableType = id }, "route.cableType", id)
		}
	}
}

func mendBreaking(m *rulebook.Mending) {
	for _, ka := range []float64{22, 42} {
		if ka > m.Circuit.Protection.IcnKA {
			m.Set(text("A breaker of ", ka, " kA"), func(x *install.Circuit) { x.Protection.IcnKA = ka }, "protection.icnKA", ka)
		}
	}
}

func setBoxes(m *rulebook.Mending, title string, boxes []install.Box) {
	m.Set(title, func(x *install.Circuit) { x.Serves.Boxes = slices.Clone(boxes) }, "serves.boxes", boxes)
}

func mendGroundFault(m *rulebook.Mending) {
	k := m.Circuit
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if ahead := k.Serves.BoxByID(b.From); ahead != nil && ahead.Device == install.GroundFault && b.Side == install.LineSide {
			boxes := slices.Clone(k.Serves.Boxes)
			boxes[i].Side = install.LoadSide
			setBoxes(m, "Move the pair to "+b.Name+" from LINE to LOAD of "+ahead.Name, boxes)
		}
	}
	if i := slices.IndexFunc(k.Serves.Boxes, func(b install.Box) bool { return b.Device == install.PlainOutlet }); i >= 0 {
		first := &k.Serves.Boxes[i]
		boxes := slices.Clone(k.Serves.Boxes)
		for j := range boxes {
			if j == i {
				boxes[j].Device, boxes[j].Feed = install.GroundFault, install.LineSide
			} else if boxes[j].From == first.ID {
				boxes[j].Side = install.LoadSide
			}
		}
		setBoxes(m, "A ground-fault outlet at "+first.Name+", fed on LINE, the rest on LOAD", boxes)
	}
	m.Set("A ground-fault breaker", func(x *install.Circuit) {
		x.Protection.RCDType, x.Protection.IdnMA = groundFault,
			classAMA
	}, "protection.rcdType", groundFault, "protection.idnMA", classAMA)
}

func mendArcFault(m *rulebook.Mending) {
	m.Set("An arc-fault breaker", func(x *install.Circuit) { x.Protection.ArcFault = true }, "protection.arcFault", true)
}

func mendString(m *rulebook.Mending) {
	boxes, swapped := slices.Clone(m.Circuit.Serves.Boxes), false
	for i := range boxes {
		if boxes[i].Device != install.GroundFault || boxes[i].Feed != install.LoadSide {
			continue
		}
		boxes[i].Feed, swapped = install.LineSide, true
		for j := range boxes {
			if boxes[j].From == boxes[i].ID && boxes[j].Side == install.LineSide {
				boxes[j].Side = install.LoadSide
			}
		}
	}
	if swapped {
		setBoxes(m, "Swap LINE and LOAD where the feed lies on LOAD", boxes)
	}
}

func mendReceptacles(m *rulebook.Mending) {
	boxes := slices.Clone(m.Circuit.Serves.Boxes)
	for i := range boxes {
		boxes[i].Shuttered = boxes[i].Shuttered || boxes[i].Device != install.NoDevice
		if m.Circuit.Protection.RatingA == 15 && boxes[i].RatingA == 20 {
			boxes[i].RatingA = 15
		}
	}
	setBoxes(m, "Shuttered outlets of the circuit's rating", boxes)
}

func mendSpace(m *rulebook.Mending) {
	on := rulebook.Kept(m, spaces)
	b := m.Job.BoardOf(m.Circuit)
	if b == nil {
		return
	}
	n := 0
	for _, w := range b.Ways {
		free := true
		for _, no := range spacesOf(w.No, max(m.Circuit.Protection.Poles, 1)) {
			free = free && b.WayByNo(no) != nil && takenBy(on[space{b.Feeder(), no}], install.WholeWay, m.Circuit.ID) == ""
		}
		if free {
			if n++; n > tries {
				return
			}
			no := w.No
			m.Set(text("Space ", no, ", leg ", legName(no)), func(x *install.Circuit) { x.Protection.Way, x.Protection.Half = no, install.WholeWay },
				"protection.way", no, "protection.half", install.WholeWay)
		}
	}
}

func mendDemand(m *rulebook.Mending) {
	if m.Circuit.Use != useEV {
		return
	}
	limit(m)
	if house := 0.8 * serviceFigure(m.Job); house > 0 {
		m.Set(text("Load management that holds the house to ", house, " A"),
			func(x *install.Circuit) { x.Point.ManagedA = house }, "point.managedA", house)
	}
}

// limit tries lower charging currents, as units can be set.
func limit(m *rulebook.Mending) {
	k := m.Circuit
	if k.Use != useEV {
		return
	}
	for _, a := range []float64{40, 32, 24, 16, 12} {
		if a < k.Point.DesignA() {
			m.Set(text("Charging set to ", a, " A in the point"), func(x *install.Circuit) { x.Point.LimitA = a }, "point.limitA", a)
		}
	}
}

func serviceFigure(job *install.Job) float64 {
	return (&system{House: rulebook.NewHouse(job), code: codeOf(job)}).rating().V()
}
