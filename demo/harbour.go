package demo

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/split120"
)

// wired is a circuit of a template of the split-phase practice with its route.
func wired(id, template, name string, space int, change func(*install.Circuit), segments ...install.Segment) install.Circuit {
	return started(rulebook.Complete(split120.Practice{}), id, template, name, space, change, segments)
}

func run(place string, feet float64, method string) install.Segment {
	s := install.Segment{Place: place, LengthM: feet * 0.3048, Basis: install.Measured, Method: install.Method(method),
		AmbientC: 30, Grouped: 1}
	if method == "D" {
		s.AmbientC, s.DepthMM = 20, 609.6
	}
	return s
}

// outlet is a box of a string: the outlets in it, shuttered, with a ground.
func outlet(id, name, place, device, from, side string) install.Box {
	b := install.Box{ID: id, Name: name, Place: place, Device: install.BoxDevice(device), From: from,
		Side: install.Side(side), RatingA: 20, Ground: yes(), Shuttered: true, HeightMM: 1066.8, VolumeML: 20.3 * 16.387064}
	if device == "gfci" {
		b.Feed, b.VolumeML = "line", 22.5*16.387064
	}
	return b
}

// harbour is a service of the split-phase practice on the drawing board: 200 A in
// place of 100, a charge point, and two strings of outlets, one of them landed on the
// wrong terminals.
func (b *builder) harbour() error {
	_, err := b.create("tobias", 5, harbourHouse())
	return err
}

// harbourCircuits are the charge point and two strings of outlets.
func harbourCircuits() []install.Circuit {
	wash := wired("c2", "garage", "Boat bay outlets", 6, func(c *install.Circuit) {
		c.Serves.Boxes = []install.Box{
			outlet("b1", "By the side door", "garage", "gfci", "", "line"),
			outlet("b2", "Work bench", "garage", "plain", "b1", "load"),
			outlet("b3", "Winch post", "garage", "plain", "b2", "line"),
		}
		c.Serves.Outlets = 3
	}, run("panel to the boat bay", 22, "C"), run("along the bay", 31, "C"))
	galley := wired("c3", "small-appliance", "Galley counter", 8, func(c *install.Circuit) {
		c.Protection.ArcFault = true
		c.Serves.Boxes = []install.Box{
			outlet("b1", "Left of the basin", "kitchen_counter", "gfci", "", "line"),
			outlet("b2", "Window sill", "kitchen_counter", "plain", "b1", "load"),
			outlet("b3", "By the cold store", "kitchen_counter", "plain", "b2", "line"),
		}
		sink := 400.0
		c.Serves.Boxes[0].SinkMM, c.Serves.Boxes[0].Feed = &sink, "load"
		c.Serves.Outlets = 3
	}, run("panel to the galley", 38, "C"))
	charge := wired("c1", "ev-60", "Charge point", 2, func(c *install.Circuit) {
		c.Point.Place, c.Point.Manufacturer = "boat bay, by the wide door", "Ambrel P9"
		c.Route.CableType, c.Route.LineMM2, c.Route.CPCMM2, c.Route.CPC = "thhn-emt", split120.AreaMM2("6"),
			split120.AreaMM2("10"), "separate"
		c.Route.Terminals90 = true
		c.Serves.Plugged = no()
	}, run("panel to the boat bay", 26, "B"))
	return []install.Circuit{charge, wash, galley}
}

func harbourHouse() install.Job {
	m := install.Measured
	job := install.Job{Ref: "PW-2054", Title: "Service of 200 A and a charge point", Kind: install.SupplyUpgrade, Practice: "split120",
		Site: install.Site{Customer: "Ysolde Farran", Phone: "000 6604", Address: "11 Capstan Row", Town: "Harrow Sound",
			Premises: "owner-occupied", Access: "Ring at the slip"},
		Supply: install.Supply{Earthing: "grounded-neutral", DeclaredV: 240,
			PFCkA: fact(9.2, install.Enquiry, "utility's letter"), MainFuseA: measured(100), MainFuseType: "main breaker",
			EarthMM2: measured(split120.AreaMM2("4")), Intersystem: yes(),
			EarthTo: "water-pipe",
			Bonds: []install.Bond{{Service: "water pipe", Kind: "water-pipe", MM2: measured(split120.AreaMM2("4")),
				Around: yes(), New: true, LengthM: measured(4.3)}, {Service: "gas pipe", Kind: "gas-pipe", MM2: measured(split120.AreaMM2("8")), CircuitA: 20,
				Around: no(), New: true, LengthM: measured(5.8)}}, Operator: "Sound Electric", Number: "4410 882 341", MeterSerial: "KM 55 120 118",
			Registered: "11 Capstan Row"},
		Loads: install.Loads{AreaM2: measured(171), Items: []install.Load{
			{Name: "Small-appliance circuits", Category: "small-appliance", Watts: watts(1500), Count: 2, Basis: m},
			{Name: "Laundry circuit", Category: "laundry", Watts: watts(1500), Count: 1, Basis: m},
			{Name: "Range", Category: "range", Watts: watts(11000), Count: 1, Basis: m},
			{Name: "Dryer", Category: "dryer", Watts: watts(5000), Count: 1, Basis: m},
			{Name: "Water heater", Category: "appliance", Watts: watts(4500), Count: 1, Basis: m},
			{Name: "Dishwasher", Category: "appliance", Watts: watts(1300), Count: 1, Basis: m},
			{Name: "Heat pump", Category: "heat-pump", Watts: watts(4300), Count: 1, Volts: 240, Motor: true, Basis: m},
		}},
		Board: install.Board{Name: "Panel A", Enclosure: "panel", Location: "chart room", Place: "room", Material: "metal",
			MainSwitchA: measured(200), Space: install.WorkSpace{DepthMM: 1016, WidthMM: 863.6, HeightMM: 2286,
				BoardMM: 368.3, TopMM: 1828.8, HandleMM: 1727.2, Door90: yes()}},
		Outdoor: install.Outdoor{Electrodes: install.Electrodes{Soil: "sand or gravel", Moisture: install.Damp, Continuous: yes(),
			Rods: []install.PlacedRod{{Place: "below the meter", LengthM: 2.4384, DiameterMM: 15.875, TopMM: 152.4,
				Mode: "vertical", Listed: yes()}, {Place: "by the slip gate", LengthM: 2.4384, DiameterMM: 15.875,
				SpacingM: 3.048, TopMM: 152.4, Mode: "vertical", Listed: yes()}}}},
		Chain: install.Chain{Enclosures: []install.Enclosure{
			{ID: "drop", Kind: "drop", Name: "Service drop", Owner: install.OwnerOperator},
			{ID: "meter", Kind: "meter", Name: "Meter base", From: "drop", Owner: install.OwnerCustomer, Sealed: "yes",
				SealNo: "SE-20771", LineAt: "top", RatingA: measured(200), TorqueNm: fact(31, install.Enquiry, ""),
				TorqueSheet: "Korv MB-200 label", New: true, Mounted: install.OnMasonry,
				Feed: install.Conductor{Material: "al", Size: "4/0", Wires: 3, LengthM: measured(7.3), Way: "overhead"}},
			{ID: "outside", Kind: "disconnect", Name: "Outdoor disconnect", From: "meter", Owner: install.OwnerCustomer,
				LineAt: "top", RatingA: measured(200), Disconnect: yes(), Outside: yes(),
				TorqueNm: fact(31, install.Enquiry, ""), TorqueSheet: "Korv OD-200 sheet 3", New: true, Mounted: install.OnMasonry,
				Feed: install.Conductor{Material: "al", Size: "4/0", Wires: 3, LengthM: measured(1.1), Way: "metal conduit"}},
			{ID: "panel", Kind: "panel", Name: "Panel A", From: "outside", Owner: install.OwnerCustomer,
				RatingA: measured(200), TorqueNm: fact(31, install.Enquiry, ""), TorqueSheet: "Korv LC-30 label", New: true, Mounted: install.OnMasonry,
				Feed: install.Conductor{Material: "al", Size: "4/0", EarthMM2: "4", Wires: 4, LengthM: measured(6.4),
					Way: "sheathed cable"}},
		}},
		Surge: install.SurgePlan{Devices: []install.SPD{{Name: "Korv SG-2", Place: "origin", Type: "2", UpKV: 0.6,
			LineM: 0.1016, EarthM: 0.1524, LineMM2: 5.261, EarthMM2: 5.261, BackupA: 30, IsccrKA: 22, InKA: 20}}},
		Circuits: harbourCircuits(),
		Rooms: []install.Room{{ID: "r1", Name: "Chart room", Kind: "study", At: 1,
			Walls: []install.WallLine{{LengthM: 3.6576, Has: 1}, {LengthM: 5.1816, Has: 2}, {LengthM: 0.5}}}},
		Outage: install.Outage{Route: "utility-disconnect", AskedOn: inDays(-6), Day: inDays(15), Start: "08:00", Crew: 2,
			Latitude: watts(44.1), Longitude: watts(-66.4), Inspector: install.Booking{Needed: yes()}},
	}
	for n := 1; n <= 30; n++ {
		job.Board.Ways = append(job.Board.Ways, install.Way{No: n, Blank: true})
	}
	for _, w := range []install.Way{{No: 1, Label: "Range", Device: "2P 50", Poles: 2, LoadA: 33},
		{No: 5, Label: "Dryer", Device: "2P 30", Poles: 2, LoadA: 21},
		{No: 9, Label: "Water heater", Device: "2P 30", Poles: 2, LoadA: 19},
		{No: 13, Label: "Heat pump", Device: "2P 30", Poles: 2, LoadA: 18},
		{No: 10, Label: "Lights, main floor", Device: "15", LoadA: 5},
		{No: 12, Label: "Cabin outlets", Device: "15", LoadA: 4},
		{No: 17, Label: "Cabin outlets, lee side", Device: "15", LoadA: 9},
		{No: 21, Label: "Laundry", Device: "20", LoadA: 11}, {No: 14, Label: "Dishwasher", Device: "20", LoadA: 9},
		{No: 18, Label: "Alarms", Device: "15", LoadA: 1}} {
		w.Blank = false
		job.Board.Ways[w.No-1] = w
		for p := 1; p < w.Poles; p++ {
			job.Board.Ways[w.No-1+2*p].Blank = false
		}
	}
	return job
}
