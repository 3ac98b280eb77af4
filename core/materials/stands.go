package materials

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/survey"
)

// kindOn is the kind of point that a thing on a run is which no entry of the walk is; empty for one that is listed otherwise.
func kindOn(b *install.Box) string {
	switch b.Device {
	case install.PlainOutlet:
		if b.Single {
			return "socket-1"
		}
		return "socket-2"
	case install.Luminaire:
		return "light"
	case install.Switch:
		return "switch"
	case install.Alarm:
		return "smoke-alarm"
	case install.NoDevice:
		return "joint"
	default:
		return ""
	}
}

// stands counts what stands on the run of a new circuit and is no point of the walk, with its boxes by what enters them and the plates over
// them. What the walk still has of its kind on no run may be just that, and is not bought twice.
func (c *counter) stands(k *install.Circuit) {
	w, lists := c.w, c.terms.ListsBoxes
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if b.Device == install.FusedUnit && b.Point == "" {
			c.fused(k, b.Called(), w.Say("one where the run has it"))
		}
		if b.Replaces || b.Point != "" && !(lists && b.Device.Outlet()) {
			continue
		}
		kind := kindOn(b)
		if b.Point == "" && kind != "" && c.walked(b.Device) {
			continue
		}
		if kind != "" && b.Point == "" && !(lists && (b.Device.Outlet() || b.Device == install.NoDevice)) {
			a := c.of(k, key("point", kind), capital(survey.Name(c.book.Survey(), kind)), 1, w.Say("one where the run has it"))
			a.For += ", " + b.Called()
		}
		if kind == "joint" && !lists {
			continue // it is a box by itself
		}
		choice := c.book.BoxAt(c.job, k, b, "")
		if choice.ID == "" {
			continue
		}
		c.over(survey.Stood{Circuit: k, Box: b}, &choice)
		rule := w.Say("one where the run has it")
		if choice.Why != "" {
			rule = w.Say("by what enters it: %s", choice.Why)
		}
		a := c.of(k, key("box", choice.ID), w.Say("Box %s", choice.Name), 1, rule)
		a.For += ", " + b.Called()
	}
	c.plates(k)
}

// walked takes one of the points of the walk that are on no run for a thing on a run that names no point; false where none is left.
func (c *counter) walked(d install.BoxDevice) bool {
	if c.unplaced == nil {
		c.unplaced = map[install.BoxDevice]int{}
		placed := c.job.Placed()
		for i := range c.job.Rooms {
			r := &c.job.Rooms[i]
			for n := range r.Points {
				if pt := &r.Points[n]; pt.State == install.New {
					c.unplaced[survey.BoxOf(pt.Kind)] += max(0, pt.Count-placed[[2]string{r.ID, pt.ID}])
				}
			}
		}
	}
	if c.unplaced[d] == 0 {
		return false
	}
	c.unplaced[d]--
	return true
}

// plates counts the plates over what stands on a run and is listed there, where a practice buys them apart.
func (c *counter) plates(k *install.Circuit) {
	if !c.terms.PlatesApart {
		return
	}
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if b.Point != "" && !b.Device.Outlet() || k.State != install.NewCircuit && !b.Replaces {
			continue
		}
		if a, ok := plateOf(c, b.Room, opening(b)); ok {
			at := c.of(k, a.product, a.name, 1, a.Rule)
			at.For += ", " + b.Called()
			if k.State != install.NewCircuit {
				at.Steps = []string{k.ID + "-replace"}
			}
		}
	}
}

// opening is that of the plate over a box; empty for one that has a cover of its own.
func opening(b *install.Box) survey.Opening {
	one := survey.Opening("duplex")
	switch {
	case b.Weather, b.Device == install.Luminaire, b.Device == install.Alarm, b.Device == install.WiredIn, b.Device == install.FusedUnit:
		return ""
	case b.Device == install.NoDevice:
		return "blank"
	case b.Device == install.Switch:
		one = "toggle"
	case b.Single:
		one = "single"
	}
	all := make([]string, max(b.Yokes, 1))
	for i := range all {
		all[i] = string(one)
	}
	if b.Device == install.GroundFault {
		all[len(all)-1] = "rectangular"
	}
	return survey.Opening(strings.Join(all, "+"))
}
