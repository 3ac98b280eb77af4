package isolate

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/network"
)

// Place is the place of an id, and whether there is one.
func (h *House) Place(id string) (Place, bool) {
	i, ok := h.place[id]
	if !ok {
		return Place{}, false
	}
	return h.Places[i], true
}

// PlaceIn is the place of an enclosure of the supply arrangement as far as a main switch of the house makes it dead: the inside of the main
// board where it is that.
func (h *House) PlaceIn(enclosure string) string {
	if enclosure == h.boardIn {
		return BoardPlace(&h.job.Board)
	}
	return EnclosurePlace(enclosure)
}

// Device is the device of an id, and whether there is one.
func (h *House) Device(id string) (Device, bool) {
	i := slices.IndexFunc(h.Devices, func(d Device) bool { return d.ID == id })
	if i < 0 {
		return Device{}, false
	}
	return h.Devices[i], true
}

// Dead is what is expected dead with some devices open.
type Dead struct {
	h     *House
	opens []string
	reach *network.Reach
	alone []*Dead // with each device open beside, where that was asked
}

// With is the house with devices open. Those that it does not have open nothing.
func (h *House) With(opens []string) *Dead {
	return &Dead{h: h, opens: opens, reach: h.net.Reach(network.State{Open: opens})}
}

// Expects reports whether a place is expected dead: no source reaches any of its terminals. A place that is none is not.
func (d *Dead) Expects(place string) bool {
	p, ok := d.h.Place(place)
	return ok && !slices.ContainsFunc(p.at, d.reach.Live)
}

// Live names the sources that still reach a place.
func (d *Dead) Live(place string) []string {
	p, _ := d.h.Place(place)
	return d.from(p.at)
}

// Incoming names the sources that still reach the incoming terminals of a board, ahead of its main switch.
func (d *Dead) Incoming(b *install.Board) []string {
	at := []network.Node{}
	for _, c := range d.h.lines() {
		at = append(at, d.h.net.Node(d.h.incoming[b.Feeder()], c))
	}
	return d.from(at)
}

func (d *Dead) from(at []network.Node) []string {
	out := []string{}
	for _, k := range at {
		for _, s := range d.reach.From(k) {
			if name := d.h.names[s]; !slices.Contains(out, name) {
				out = append(out, name)
			}
		}
	}
	return out
}

// Places are those that are expected dead, in the order of the house.
func (d *Dead) Places() []string {
	out := []string{}
	for i := range d.h.Places {
		if d.Expects(d.h.Places[i].ID) {
			out = append(out, d.h.Places[i].ID)
		}
	}
	return out
}

// Feeds are the places that closing some devices makes live while others stay open, or live from one more source, by id in the order of the
// house, and the own sources of which power then finds its way to the operator's conductors.
func (h *House) Feeds(closes, open []string) (places, back []string) {
	before, after := h.With(slices.Concat(open, closes)), h.With(open)
	places, back = []string{}, []string{}
	for i := range h.Places {
		at := h.Places[i].at
		if slices.ContainsFunc(at, func(k network.Node) bool { return after.reach.Gains(before.reach, k) }) {
			places = append(places, h.Places[i].ID)
		}
	}
	for _, c := range h.lines() {
		at := h.net.Node("network", c)
		for _, s := range after.reach.From(at) {
			if s != operators && !slices.Contains(before.reach.From(at), s) && !slices.Contains(back, s) {
				back = append(back, s)
			}
		}
	}
	return places, back
}

// Source names a source of the house.
func (h *House) Source(id string) string { return h.names[id] }

// Next are the devices that are still to be opened until a place is expected dead: one alone where one does it, the nearest; else those without
// any of which it stays live. Where nothing but the intake does it, that is named; none where nothing does.
func (d *Dead) Next(place string) []Device {
	if _, ok := d.h.Place(place); !ok || d.Expects(place) {
		return []Device{}
	}
	if d.alone == nil {
		for _, dev := range d.h.Devices {
			d.alone = append(d.alone, d.h.With(append(slices.Clone(d.opens), dev.ID)))
		}
	}
	for i := len(d.alone) - 1; i >= 0; i-- {
		if d.alone[i].Expects(place) {
			return d.h.Devices[i : i+1]
		}
	}
	if !d.with(d.h.Devices).Expects(place) {
		return []Device{}
	}
	return d.needed(place, d.h.Devices, nil)
}

func (d *Dead) with(devices []Device) *Dead {
	open := slices.Clone(d.opens)
	for _, dev := range devices {
		open = append(open, dev.ID)
	}
	return d.h.With(open)
}

// needed are those of some devices that a place does not do without, beside others: what can stay closed stays closed, from the supply on.
func (d *Dead) needed(place string, of, beside []Device) []Device {
	switch {
	case d.with(beside).Expects(place):
		return []Device{}
	case len(of) == 1:
		return of
	}
	first, rest := of[:len(of)/2], of[len(of)/2:]
	kept := d.needed(place, first, slices.Concat(beside, rest))
	return slices.Concat(kept, d.needed(place, rest, slices.Concat(beside, kept)))
}

// Plan is what is to be opened to work at a place, beside what is open.
type Plan struct {
	Next []Device `json:"next"`
	Live []string `json:"live"` // sources that still reach the place
}

// Plan says what is to be opened to work at a place, with some devices open.
func (h *House) Plan(place string, opens []string) Plan {
	d := h.With(opens)
	return Plan{Next: d.Next(place), Live: d.Live(place)}
}

// Known says of devices by their ids those that the house has, and the ids of those that it has not.
func (h *House) Known(opens []install.Opened) (known []Device, gone []string) {
	for _, o := range opens {
		if d, ok := h.Device(o.Device); ok {
			known = append(known, d)
		} else {
			gone = append(gone, o.Device)
		}
	}
	return known, gone
}
