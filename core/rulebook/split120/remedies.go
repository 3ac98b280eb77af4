package split120

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Report computes every check of the job, and what would mend those that fail.
func (p Practice) Report(job *install.Job, price func(*install.Job) (float64, bool)) rulebook.Report {
	r := p.Judge(job)
	rulebook.Mend(job, &r, p.Judge, price, func(k *install.Circuit, c *working.Check) []rulebook.Candidate { return candidates(job, k, c) })
	return r
}

// candidates lists changes of a circuit that may cure a check.
func candidates(job *install.Job, k *install.Circuit, c *working.Check) (out []rulebook.Candidate) {
	set := func(title string, apply func(*install.Circuit), fields ...any) {
		out = append(out, rulebook.SetsOf(k, title, apply, fields...))
	}
	row, size := cables[k.Route.CableType], sizeOf[k.Route.LineMM2]
	if row == nil || size == "" {
		return nil
	}
	larger := func() {
		n := 0
		list := slices.Clone(terms.Sizes[row.id])
		for _, mm2 := range list {
			if mm2 <= k.Route.LineMM2 || n == 3 {
				continue
			}
			n++
			set(trade(sizeOf[mm2])+" in place of "+trade(size), func(x *install.Circuit) { x.Route.LineMM2 = mm2 }, "route.lineMM2", mm2)
		}
	}
	device := func(fits func(a float64) bool, most int) {
		n := 0
		for _, a := range ratingsList() {
			if !fits(a) || n == most {
				continue
			}
			n++
			set(text("A device of ", a, " A"), func(x *install.Circuit) { x.Protection.RatingA = a }, "protection.ratingA", a)
		}
	}
	p := &k.Protection
	switch c.ID {
	case "design-current":
		device(func(a float64) bool { return a > p.RatingA && a <= 2*p.RatingA }, 3)
		limit(k, set)
	case "capacity":
		larger()
		device(func(a float64) bool { return a < p.RatingA && a >= p.RatingA/2 }, 3)
	case "conductor-load":
		larger()
		limit(k, set)
	case "voltage-drop":
		larger()
	case "ground":
		if row.cores == 0 {
			if g := groundSize(codeOf(job), "cu", p.RatingA); g != "" {
				mm2 := areaOf[g]
				set("A ground of "+trade(g)+" drawn with it", func(x *install.Circuit) { x.Route.CPCMM2, x.Route.CPC = mm2, "separate" }, "route.cpcMM2", mm2, "route.cpc", "separate")
			}
		}
		larger()
	case "conductors":
		for _, id := range terms.CableTypes {
			if x := cables[id]; x.cores >= coresOf(k) && x.id[:2] == row.id[:2] && slices.Contains(x.sizes, size) {
				set(x.name, func(c *install.Circuit) { c.Route.CableType = id }, "route.cableType", id)
			}
		}
	case "breaking":
		for _, ka := range []float64{22, 42} {
			if ka > p.IcnKA {
				set(text("A breaker of ", ka, " kA"), func(x *install.Circuit) { x.Protection.IcnKA = ka }, "protection.icnKA", ka)
			}
		}
	case "ground-fault":
		for i := range k.Serves.Boxes {
			b := &k.Serves.Boxes[i]
			if ahead := k.Serves.BoxByID(b.From); ahead == nil || ahead.Device != "gfci" || b.Side != "line" {
				continue
			}
			boxes := slices.Clone(k.Serves.Boxes)
			boxes[i].Side = "load"
			set("Move the pair to "+b.Name+" from LINE to LOAD of "+k.Serves.BoxByID(b.From).Name, func(x *install.Circuit) { x.Serves.Boxes = slices.Clone(boxes) }, "serves.boxes", boxes)
		}
		first := ""
		for i := range k.Serves.Boxes {
			if b := &k.Serves.Boxes[i]; first == "" && b.Device == "plain" {
				first = b.ID
				boxes := slices.Clone(k.Serves.Boxes)
				for j := range boxes {
					if j == i {
						boxes[j].Device, boxes[j].Feed = "gfci", "line"
					} else if boxes[j].From == b.ID {
						boxes[j].Side = "load"
					}
				}
				set("A ground-fault outlet at "+b.Name+", fed on LINE, the rest on LOAD", func(x *install.Circuit) { x.Serves.Boxes = slices.Clone(boxes) }, "serves.boxes", boxes)
			}
		}
		set("A ground-fault breaker", func(x *install.Circuit) { x.Protection.RCDType, x.Protection.IdnMA = groundFault, classAMA }, "protection.rcdType", groundFault, "protection.idnMA", classAMA)
	case "arc-fault":
		set("An arc-fault breaker", func(x *install.Circuit) { x.Protection.ArcFault = true }, "protection.arcFault", true)
	case "string":
		boxes := slices.Clone(k.Serves.Boxes)
		swapped := false
		for i := range boxes {
			if boxes[i].Device == "gfci" && boxes[i].Feed == "load" {
				boxes[i].Feed, swapped = "line", true
				for j := range boxes {
					if boxes[j].From == boxes[i].ID && boxes[j].Side == "line" {
						boxes[j].Side = "load"
					}
				}
			}
		}
		if swapped {
			set("Swap LINE and LOAD where the feed lies on LOAD", func(x *install.Circuit) { x.Serves.Boxes = slices.Clone(boxes) }, "serves.boxes", boxes)
		}
	case "receptacles":
		boxes := slices.Clone(k.Serves.Boxes)
		for i := range boxes {
			boxes[i].Shuttered = boxes[i].Shuttered || boxes[i].Device != "none"
			if p.RatingA == 15 && boxes[i].RatingA == 20 {
				boxes[i].RatingA = 15
			}
		}
		set("Shuttered outlets of the circuit's rating", func(x *install.Circuit) { x.Serves.Boxes = slices.Clone(boxes) }, "serves.boxes", boxes)
	case "way":
		taken := spacesTaken(job, k.ID)
		n := 0
		for _, w := range job.Board.Ways {
			free := true
			for _, no := range spacesOf(w.No, max(p.Poles, 1)) {
				free = free && taken[no] == "" && slices.ContainsFunc(job.Board.Ways, func(x install.Way) bool { return x.No == no })
			}
			if free && n < 3 {
				n++
				no := w.No
				set(text("Space ", no, ", leg ", legName(no)), func(x *install.Circuit) { x.Protection.Way = no }, "protection.way", no)
			}
		}
	case "demand":
		if k.Use == "ev" {
			limit(k, set)
			house := 0.8 * serviceFigure(job)
			if house > 0 {
				set(text("Load management that holds the house to ", house, " A"), func(x *install.Circuit) { x.Point.ManagedA = house }, "point.managedA", house)
			}
		}
	}
	return out
}

// limit tries lower charging currents, as units can be set.
func limit(k *install.Circuit, set func(string, func(*install.Circuit), ...any)) {
	if k.Use != "ev" {
		return
	}
	for _, a := range []float64{40, 32, 24, 16, 12} {
		if a < k.Point.DesignA() {
			set(text("Charging set to ", a, " A in the point"), func(x *install.Circuit) { x.Point.LimitA = a }, "point.limitA", a)
		}
	}
}

func serviceFigure(job *install.Job) float64 {
	return (&system{job: job, code: codeOf(job)}).rating().V()
}
