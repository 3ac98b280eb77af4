package demo

import (
	"slices"

	"arvelt/core/install"
)

func fact(v float64, basis install.Basis, note string) install.Fact {
	return install.Fact{Value: &v, Basis: basis, Note: note}
}

func measured(v float64) install.Fact { return fact(v, install.Measured, "") }

func yes() *bool { v := true; return &v }

func watts(v float64) *float64 { return &v }

// house is a supply as it is often found, with everything looked at.
func house(fuse float64) install.Supply {
	return install.Supply{Earthing: "TN-C-S", DeclaredV: 230, ZeOhm: measured(0.21), PFCkA: measured(1.12), MainFuseA: fact(fuse, install.Enquiry, "operator's letter"), MainFuseType: "cartridge, sealed",
		TailsMM2: measured(25), TailsM: measured(1.8), EarthMM2: measured(16), NeutralMM2: fact(25, install.Enquiry, ""), Operator: "Tarrow Vale Networks",
		Bonds: []install.Bond{{Service: "water", MM2: measured(10)}, {Service: "gas", MM2: measured(10)}}}
}

func board(name, where string, free int, labels ...string) install.Board {
	b := install.Board{Name: name, Location: where, Material: "metal", MainSwitchA: measured(100)}
	devices := []string{"B32", "B32", "B6", "B6", "B16", "B6", "B20", "B16"}
	for i, l := range labels {
		b.Ways = append(b.Ways, install.Way{No: i + 1, Label: l, Device: devices[i%len(devices)]})
	}
	for range free {
		b.Ways = append(b.Ways, install.Way{No: len(b.Ways) + 1, Blank: true})
	}
	return b
}

func loads() install.Loads {
	m := install.Measured
	return install.Loads{Items: []install.Load{
		{Name: "LED lights, 22 points", Category: "lighting", Watts: watts(260), Count: 1, Basis: m},
		{Name: "Ring of sockets, ground floor", Category: "socket_circuits", Amps: watts(32), Count: 1, Basis: m},
		{Name: "Ring of sockets, upper floor", Category: "socket_circuits", Amps: watts(32), Count: 1, Basis: m},
		{Name: "Induction hob", Category: "cooker", Watts: watts(7200), Count: 1, Basis: m},
		{Name: "Cylinder heater", Category: "water_thermostatic", Watts: watts(3000), Count: 1, Basis: m},
	}}
}

// charger is a charge point's circuit along a route.
func charger(place string, size float64, way int, segments ...install.Segment) install.Circuit {
	return install.Circuit{ID: "c1", Name: "Charge point", Use: "ev",
		Point:      install.Point{Place: place, Outdoor: true, ServesOut: true, CurrentA: 32, DCDetection: yes(), HeightMM: 1100, Manufacturer: "Ambrel P7"},
		Route:      install.Route{CableType: "swa3-90", LineMM2: size, SlackM: 1, BoardTailM: 0.8, PointTailM: 0.5, Segments: segments},
		Protection: install.Protection{Family: "mcb_rcbo", Curve: "B", RatingA: 32, IcnKA: 6, RCDType: "A", IdnMA: 30, Way: way, Poles: 2},
		PEN:        install.PEN{Option: "voltage_monitor", Reason: "Slate under the turf: no electrode of use within reach.", OpensAll: yes()}}
}

func along(place string, length float64, method string, basis install.Basis) install.Segment {
	s := install.Segment{Place: place, LengthM: length, Basis: basis, Method: method, AmbientC: 30, Grouped: 1}
	if method == "D" {
		s.AmbientC, s.DepthMM, s.SoilKmW = 15, 600, 2.5
	}
	return s
}

func operator(path, reference string) install.Record {
	return install.Record{Kind: install.Operator, Path: path, Circuit: "c1", Reference: reference, Person: "connections desk"}
}

// modest is a house that cooks with gas.
func modest() install.Loads {
	l := loads()
	l.Items = slices.DeleteFunc(l.Items, func(x install.Load) bool { return x.Category == "cooker" })
	return l
}

// signed is carried to handover.
func (b *builder) signed() error {
	job := install.Job{Ref: "PW-2029", Title: "Charge point at the mill cottage", Kind: install.EVCharger,
		Site:   install.Site{Customer: "Marguerite Osk", Address: "2 Fuller's Steps", Town: "Tarrowick", Phone: "000 4417", Premises: "owner-occupied", Access: "Gate code with the office"},
		Supply: house(100), Loads: modest(), Board: board("Board A", "hall cupboard", 2, "Sockets ground floor", "Sockets upper floor", "Lights ground floor", "Lights upper floor", "Cylinder heater", "Alarms"),
		Circuits: []install.Circuit{charger("gable wall by the drive", 6, 7, along("hall cupboard to gable", 6.5, "C", install.Measured), along("gable wall outside", 4, "C", install.Measured))}}
	id, err := b.create("tobias", 34, job)
	if err != nil {
		return err
	}
	yes := true
	return first(
		func() error { return b.record(id, "dot", 33, 9, operator("applied", "TVN-118-204")) },
		func() error { return b.record(id, "dot", 31, 14, operator("agreed", "TVN-118-204")) },
		func() error { return b.deliver(id, "dot", 30, true) },
		func() error { return b.tick(id, "jana", 21, 8, install.FirstFix) },
		func() error { return b.isolate(id, "jana", 20, 8) },
		func() error { return b.tick(id, "jana", 20, 8.5, install.SecondFix) },
		func() error {
			return b.read(id, "jana", 20, 11, false, map[string]float64{"continuity-earth": 0.02, "continuity-bond": 0.04, "r1r2": 0.09, "insulation-ln": 310, "insulation-le": 290, "insulation-ne": 300})
		},
		func() error {
			return b.record(id, "jana", 20, 12, install.Record{Kind: install.Energise, Note: "covers on, lock taken off by its owner"})
		},
		func() error {
			return b.read(id, "jana", 20, 12.1, true, map[string]float64{"ze": 0.21, "pfc": 1.1, "zs": 0.31, "rcd-x1": 27})
		},
		func() error { return b.tick(id, "jana", 19, 10, install.Handover) },
		func() error {
			return b.record(id, "tobias", 18, 16, install.Record{Kind: install.Signature, Passed: &yes, Note: "Checked against the readings."})
		},
	)
}

// rewire stands at the survey: the walk is half done.
func (b *builder) rewire() error {
	supply := house(60)
	supply.ZeOhm, supply.PFCkA = install.Fact{}, install.Fact{}
	job := install.Job{Ref: "PW-2044", Title: "Rewire of the old chapel house", Kind: install.Rewire,
		Site:   install.Site{Customer: "Anselm and Bette Roake", Address: "Chapel House, Tithe Lane", Town: "Nether Tarrow", Premises: "owner-occupied", Hazards: "Textured ceilings of the sixties: treat as asbestos until sampled"},
		Supply: supply, Board: board("Board A", "vestry", 0, "Sockets", "Sockets east", "Lights", "Lights loft"),
	}
	_, err := b.create("tobias", 6, job)
	return err
}

// upgrade stands at the design: the demand is above the fuse that is there.
func (b *builder) upgrade() error {
	supply := house(60)
	supply.TailsMM2, supply.EarthMM2 = measured(16), measured(10)
	l := loads()
	l.Items = append(l.Items, install.Load{Name: "Flow heater, upper bathroom", Category: "water_instant", Watts: watts(9500), Count: 1, Basis: install.Measured})
	c := charger("plant room", 10, 9, along("plant room wall", 7.5, "C", install.Measured))
	c.Name, c.Use, c.Point, c.PEN = "Heat pump", "fixed", install.Point{Place: "plant room", CurrentA: 26, HeightMM: 1200, Manufacturer: "Solvig 6"}, install.PEN{}
	job := install.Job{Ref: "PW-2038", Title: "Supply from 60 A to 100 A", Kind: install.SupplyUpgrade,
		Site:   install.Site{Customer: "Corin Dace", Address: "19 Ropewalk", Town: "Tarrowick", Premises: "rented"},
		Supply: supply, Loads: l, Board: board("Board A", "larder", 1, "Sockets", "Sockets rear", "Lights", "Lights up", "Cylinder", "Alarms", "Hob", "Flow heater"),
		Circuits: []install.Circuit{c}}
	_, err := b.create("tobias", 12, job)
	return err
}

// surge waits for its material.
func (b *builder) surge() error {
	c := charger("beside board A", 10, 7, along("inside the board", 0.3, "C", install.Measured))
	c.Name, c.Use, c.PEN = "Surge device branch", "fixed", install.PEN{}
	c.Point = install.Point{Place: "beside board A", CurrentA: 1, Manufacturer: "Korv SPD-2"}
	c.Route.CableType, c.Route.SlackM, c.Route.BoardTailM, c.Route.PointTailM = "flat-te-70", 0, 0.1, 0.1
	c.Protection.RCDType, c.Protection.IdnMA = "", 0
	job := install.Job{Ref: "PW-2040", Title: "Surge protection at the boat store", Kind: install.Surge,
		Site:   install.Site{Customer: "Tarrow Rowing Club", Address: "Slip Road", Town: "Tarrowick", Premises: "rented"},
		Supply: house(80), Loads: loads(), Board: board("Board A", "store room", 1, "Sockets", "Sockets bar", "Lights", "Lights yard", "Cylinder", "Alarms"),
		Circuits: []install.Circuit{c}}
	id, err := b.create("tobias", 9, job)
	if err != nil {
		return err
	}
	return b.deliver(id, "dot", 3, false)
}

// testing stands at the test: fixed and proved dead in part.
func (b *builder) testing() error {
	c := charger("carport post", 10, 7, along("utility to outer wall", 3.2, "C", install.Measured), along("buried to the carport", 14, "D", install.Measured), along("carport post", 1.6, "C", install.Measured))
	job := install.Job{Ref: "PW-2037", Title: "Charge point at the carport", Kind: install.EVCharger,
		Site:   install.Site{Customer: "Hedda Lorne", Address: "41 Kiln Rise", Town: "Tarrowick", Premises: "owner-occupied", Access: "Dog: ring first"},
		Supply: house(100), Loads: modest(), Board: board("Board A", "utility room", 1, "Sockets ground floor", "Sockets upper floor", "Lights", "Lights garden", "Cylinder heater", "Alarms"),
		Circuits: []install.Circuit{c}}
	id, err := b.create("tobias", 20, job)
	if err != nil {
		return err
	}
	return first(
		func() error { return b.record(id, "dot", 19, 9, operator("agreed", "TVN-118-391")) },
		func() error { return b.deliver(id, "dot", 15, true) },
		func() error { return b.tick(id, "jana", 5, 8, install.FirstFix) },
		func() error { return b.isolate(id, "jana", 1, 8) },
		func() error { return b.tick(id, "jana", 1, 8.5, install.SecondFix) },
		func() error {
			return b.record(id, "remy", 1, 15, install.Record{Kind: install.LooseEnd, Note: "Cover of the board off until the labels are printed"})
		},
		func() error {
			return b.read(id, "jana", 1, 15.2, false, map[string]float64{"continuity-earth": 0.03, "continuity-bond": 0.06, "r1r2": 0.1})
		},
	)
}

// design has something to decide: a long route on an assumed length.
func (b *builder) design() error {
	c := charger("boundary wall by the lane", 4, 8, along("larder to back wall", 4.5, "C", install.Measured), along("back wall to corner", 11, "C", install.Measured), along("garden wall to the lane", 39, "E", install.Assumed))
	c.PEN = install.PEN{}
	c.Point.DCDetection = nil
	supply := house(80)
	supply.PFCkA = fact(1.6, install.Assumed, "typical for the street")
	job := install.Job{Ref: "PW-2046", Title: "Charge point at the lane", Kind: install.EVCharger,
		Site:   install.Site{Customer: "Ottilie Brandreth", Address: "Quince House, Back Lane", Town: "Upper Tarrow", Phone: "000 8120", Premises: "owner-occupied", Access: "Side gate, key under office hook 6"},
		Supply: supply, Loads: loads(), Board: board("Board A", "larder", 2, "Sockets ground floor", "Sockets upper floor", "Lights ground floor", "Lights upper floor", "Cylinder heater", "Alarms", "Hob"),
		Circuits: []install.Circuit{c}}
	_, err := b.create("jana", 2, job)
	return err
}
