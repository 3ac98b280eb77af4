package install

import (
	"arvelt/core/words"
	"fmt"
	"slices"
	"strings"
)

// Validate checks one circuit's bounds and names. A route with no segments is
// refused: a cable goes somewhere. The error is [Errors].
func (k Circuit) Validate(t Terms) error {
	c := &checker{in: "circuits/" + k.ID + ".", w: words.In(t.Locale)}
	c.bounds(k, &t)
	if k.From == k.ID {
		c.say("from", k.From, c.w.Say("another circuit, or empty for the main board"))
	}
	c.run(&k, &t)
	c.route(&k.Route, &t)
	c.protection(&k.Protection, &t)
	return c.result()
}

// route holds a route to what its cable is made in and laid by.
func (c *checker) route(r *Route, t *Terms) {
	if sizes := t.Sizes[r.CableType]; sizes != nil && !slices.Contains(sizes, r.LineMM2) {
		names := make([]string, len(sizes))
		for i, mm2 := range sizes {
			names[i] = t.Size(mm2)
		}
		c.say("route.lineMM2", r.LineMM2, c.w.Say("a size made in this cable: %s", strings.Join(names, ", ")))
	}
	if len(r.Segments) == 0 {
		c.say("route.segments", c.w.Say("no segments"), c.w.Say("at least one segment of the route"))
	}
	for i := range r.Segments {
		if m := t.Methods[r.CableType]; m != nil {
			c.oneOf(c.item("route.segments", i)+"method", string(r.Segments[i].Method), m)
		}
	}
}

// protection holds a device to the ratings that are made, and to one residual-current device.
func (c *checker) protection(d *Protection, t *Terms) {
	if rs := t.Ratings[d.Family]; rs != nil && !slices.Contains(rs, d.RatingA) {
		c.say("protection.ratingA", d.RatingA, c.w.Say("a rating made: %s A", strings.Trim(fmt.Sprint(rs), "[]")))
	}
	if d.RCDType != "" {
		c.between("protection.idnMA", d.IdnMA, 6, 500, "mA")
	}
	if d.OwnEnclosure && d.Way != 0 {
		c.say("protection.way", d.Way, c.w.Say("0, as the device stands in an enclosure of its own"))
	}
	c.shared(d, t)
	if d.Group != "" && d.RCDType != "" {
		c.say("protection.rcdType", d.RCDType, c.w.Say("none, as the circuit shares the residual-current device %s", d.Group))
	}
}
