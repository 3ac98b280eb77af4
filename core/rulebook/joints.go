package rulebook

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// JointTerms is what a practice asks of a joint on a run.
type JointTerms struct {
	Source working.Source
	// Rated: it is rated for the device of its circuit, by its marking.
	Rated bool
	// SealedServes: one that its manufacturer marks as free of maintenance may be out of reach.
	SealedServes bool
}

// HasJoints reports whether a circuit has joints that the job makes or looks at.
func HasJoints(k *install.Circuit) bool {
	if k.State == install.KeptCircuit {
		return false
	}
	for i := range k.Serves.Boxes {
		if k.Serves.Boxes[i].Device == install.NoDevice {
			return true
		}
	}
	return false
}

// Joints judges the joints on the run of a circuit: each can be reached to be inspected and tested, and is rated for what may flow.
func Joints(c *working.Check, k *install.Circuit, t JointTerms) {
	c.From(t.Source)
	wrong, n := []string{}, 0
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if b.Device != install.NoDevice {
			continue
		}
		n++
		sealed := t.SealedServes && b.Sealed != nil && *b.Sealed
		switch {
		case b.Accessible == nil && !sealed:
			c.AddMissing("whether the joint at " + b.Called() + " can be reached")
		case !sealed && !*b.Accessible:
			says := "The joint at " + b.Called() + " cannot be reached: bring it to where it can"
			if t.SealedServes {
				says += ", or take one that its manufacturer marks as maintenance-free"
			}
			wrong = append(wrong, says+".")
		}
		switch {
		case t.Rated && b.RatingA == 0:
			c.AddMissing("the rating of the joint at " + b.Called())
		case t.Rated && !working.AtMost(k.Protection.RatingA, b.RatingA):
			wrong = append(wrong, unit.Text("The joint at ", b.Called(), " is rated ", b.RatingA, " A behind a device of ", k.Protection.RatingA, " A."))
		}
	}
	if len(wrong) > 0 {
		c.Missing = []string{}
	}
	c.Decide(len(wrong) == 0)
	c.Summary = strings.Join(wrong, " ")
	if len(wrong) == 0 {
		c.Summary = "Its joint can be reached, or is made to be left alone."
		if n > 1 {
			c.Summary = unit.Text("Its ", n, " joints can be reached, or are made to be left alone.")
		}
	}
}

// MendJoints offers a joint that is rated for the device of its circuit.
func MendJoints(m *Mending) {
	boxes := append([]install.Box{}, m.Circuit.Serves.Boxes...)
	changed := false
	for i := range boxes {
		if b := &boxes[i]; b.Device == install.NoDevice && b.RatingA > 0 && b.RatingA < m.Circuit.Protection.RatingA {
			b.RatingA, changed = m.Circuit.Protection.RatingA, true
		}
	}
	if changed {
		m.Set(unit.Text("Joints of ", m.Circuit.Protection.RatingA, " A"), func(c *install.Circuit) { c.Serves.Boxes = boxes }, "serves.boxes", boxes)
	}
}
