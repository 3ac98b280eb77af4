package demo

import (
	"slices"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook/split120"
	"arvelt/store"
)

func fact(v float64, basis install.Basis, note string) install.Fact {
	return install.Fact{Value: &v, Basis: basis, Note: note}
}

func measured(v float64) install.Fact { return fact(v, install.Measured, "") }

func yes() *bool { v := true; return &v }

// inDays is a date some days from now, or before.
func inDays(n int) string { return time.Now().UTC().AddDate(0, 0, n).Format(time.DateOnly) }

func no() *bool { v := false; return &v }

func watts(v float64) *float64 { return &v }

// house is a supply as it is often found, with everything looked at.
func house(fuse float64) install.Supply {
	return install.Supply{Earthing: "TN-C-S", EarthingBy: install.Enquiry, EarthLaid: "in-air", DeclaredV: 230,
		ZeOhm: measured(0.21), PFCkA: measured(1.12), MainFuseA: fact(fuse, install.Enquiry, "operator's letter"),
		MainFuseType: "cartridge, sealed",
		TailsMM2:     measured(25), TailsM: measured(1.8), EarthMM2: measured(16), NeutralMM2: fact(25, install.Enquiry, ""),
		Operator: "Tarrow Vale Networks",
		Bonds:    []install.Bond{{Service: "water", MM2: measured(10)}, {Service: "gas", MM2: measured(10)}}}
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
		Point: install.Point{Place: place, Outdoor: true, ServesOut: true, CurrentA: 32, DCDetection: yes(),
			HeightMM: 1100, Manufacturer: "Ambrel P7"},
		Route: install.Route{CableType: "swa3-90", LineMM2: size, SlackM: 1, BoardTailM: 0.8, PointTailM: 0.5, Segments: segments},
		Protection: install.Protection{Family: "mcb_rcbo", Curve: "B", RatingA: 32, IcnKA: 6, RCDType: "A", IdnMA: 30,
			EnergyClass: 3, Way: way, Poles: 2},
		PEN: install.PEN{Option: "voltage_monitor",
			Reason: "Slate under the turf: no electrode of use within reach.", OpensAll: yes()}}
}

func along(place string, length float64, method string, basis install.Basis) install.Segment {
	s := install.Segment{Place: place, LengthM: length, Basis: basis, Method: install.Method(method), AmbientC: 30, Grouped: 1}
	if method == "D" {
		s.AmbientC, s.DepthMM, s.SoilKmW = 15, 600, 2.5
	}
	return s
}

func operator(path, reference string) install.Record {
	return install.Record{Kind: install.Operator, Path: path, Circuit: "c1", Reference: reference,
		Person: "connections desk", Called: inDays(-33) + "T09:10"}
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
		Site: install.Site{Customer: "Marguerite Osk", Address: "2 Fuller's Steps", Town: "Tarrowick", Phone: "000 4417",
			Premises: "owner-occupied", Access: "Gate code with the office"},
		Supply: house(100), Loads: modest(), Board: board("Board A", "hall cupboard", 2, "Sockets ground floor",
			"Sockets upper floor", "Lights ground floor", "Lights upper floor", "Cylinder heater", "Alarms"),
		Circuits: []install.Circuit{charger("gable wall by the drive", 6, 7,
			along("hall cupboard to gable", 6.5, "C", install.Measured), along("gable wall outside", 4, "C", install.Measured))}}
	id, err := b.create("tobias", 34, job)
	if err != nil {
		return err
	}
	return first(
		func() error { return b.record(id, "dot", 33, 9, operator("applied", "TVN-118-204")) },
		func() error { return b.record(id, "dot", 31, 14, operator("agreed", "TVN-118-204")) },
		func() error { return b.deliver(id, "dot", 30, true) },
		func() error { return b.tick(id, "jana", 21, 8, install.FirstFix) },
		func() error { return b.isolate(id, "jana", 20, 8, false) },
		func() error { return b.tick(id, "jana", 20, 8.5, install.SecondFix) },
		func() error {
			return b.read(id, "jana", 20, 11, false,
				map[string]float64{"continuity-earth": 0.02, "continuity-bond": 0.04, "r1r2": 0.09, "insulation-ln": 310,
					"insulation-le": 290, "insulation-ne": 300, "ze": 0.21})
		},
		func() error { return b.permit(id, "jana", 20, 12, install.ForTest) },
		func() error {
			return b.read(id, "jana", 20, 12.1, true, map[string]float64{"voltage": 233, "voltage-ne": 0.4, "rdc-6": 710, "pfc": 1.1, "zs": 0.31, "rcd-x1": 27})
		},
		func() error { return b.permit(id, "jana", 20, 13, install.IntoUse) },
		func() error { return b.tick(id, "jana", 19, 10, install.Handover) },
		func() error {
			return b.record(id, "tobias", 18, 16, install.Record{Kind: install.Signature, Note: "Checked against the readings."})
		},
	)
}

// chapelWalk is the walk through the chapel house, as it was typed.
const chapelWalk = `nave room g: 8 double socket @450, 2 double socket usb @450 /"by the stove", 4 two way wall light dimmed, ` +
	`3 intermediate light, 2 tv, 3 data, smoke alarm
scullery g: 8 double socket @1100, 2 fused spur @1100, 6 downlight, 2 worktop light, hob 7.2kW, ` +
	`oven 3.1kW, hood, dishwasher, fridge, heat alarm
hall g: double socket, 2 two way light, smoke alarm, bell, door entry
## the hall panelling is listed: no chasing, cables follow the old conduit
wc g: light sensor, fan
board room g: emergency light, double socket, strip light
f1
landing: 2 two way light, double socket, smoke alarm
gallery bed: 4 double socket @450, 2 bedside light, two way light dimmed, tv, data
east bed: 4 double socket @450, two way light, tv, data, = wall light
study: 5 double socket @750, light, 2 data
bathroom: 4 downlight, fan, shaver, towel rail 0.4kW, mirror light, shower 9.5kW
loft: 2 strip light, single socket, - 3 light
out
outside: 2 outdoor socket, 3 outdoor light sensor, gate 0.5kW`

// rewire stands at the survey: the house is walked, the design is to come.
func (b *builder) rewire() error {
	supply := house(60)
	supply.ZeOhm, supply.PFCkA = install.Fact{}, install.Fact{}
	job := install.Job{Ref: "PW-2044", Title: "Rewire of the old chapel house", Kind: install.Rewire,
		Site: install.Site{Customer: "Anselm and Bette Roake", Address: "Chapel House, Tithe Lane", Town: "Nether Tarrow",
			Premises: "owner-occupied", Hazards: "Textured ceilings of the sixties: treat as asbestos until sampled"},
		Supply: supply, Board: board("Board A", "vestry", 0, "Sockets", "Sockets east", "Lights", "Lights loft"),
		Found: install.Found{Board: install.FoundBoard{Made: "about 1968", Edition: "13th", Above: "stone vault",
			Residual: "none", Arrester: "none"},
			Circuits: []install.FoundCircuit{{Name: "Sockets west", Device: "rewirable 30 A", State: "live",
				Proved: "lamp at the stove", Colours: "old", Method: "sheathed cable", Terminal: install.TooMany},
				{Name: "Organ blower", State: "unidentified", Colours: "old", Method: "metal conduit", Note: "ends in the vestry wall"}},
			Hazards: []install.Hazard{{Kind: "suspected asbestos", Place: "textured ceilings, upper floor"}}}}
	id, err := b.create("tobias", 6, job)
	if err != nil {
		return err
	}
	note := func(subject, class, evidence, place, what string) func() error {
		return func() error {
			return b.record(id, "jana", 6, 10, install.Record{Kind: install.Observation, Subject: subject, Path: class,
				Evidence: evidence, Place: place, Note: what})
		}
	}
	volts := 209.6
	return first(
		func() error {
			_, err := b.at(6, 9).Change(b.ctx, b.people["jana"], id, b.key(),
				func(l *store.Loaded) error { return l.Walk(chapelWalk, "", false, 0) })
			return err
		},
		func() error { return b.ways(id) },
		note("no-bonding", "C2", "seen", "oil pipe, scullery", "The oil pipe comes in as bare copper with no clamp anywhere along it"),
		note("old-cable", "C2", "measured", "lights, gallery", "Rubber insulation crumbles at the roses; 0.4 MΩ line to earth"),
		note("wet-place", "C2", "told", "porch", "The owners say the porch light fills with water in a west wind"),
		note("label-missing", "C3", "seen", "board A", "Two of four labels name rooms that are no more"),
		func() error {
			return b.record(id, "jana", 6, 10.5, install.Record{Kind: install.SurveyReading, Subject: "voltage-ln",
				Value: &volts, Unit: "V", Place: "board A, incoming", Instrument: Settings().Instruments[0].Name,
				Calibrated: Settings().Instruments[0].Calibrated})
		},
	)
}

// ways notes how far the first rooms of the walk are from the board.
func (b *builder) ways(id string) error {
	_, err := b.at(6, 9.5).Change(b.ctx, b.people["jana"], id, b.key(), func(l *store.Loaded) error {
		for i := range l.Job.Rooms {
			r := &l.Job.Rooms[i]
			way, known := map[string][]install.Leg{
				"hall": {{Place: "vestry to hall, old conduit", LengthM: 4.2, Basis: install.Measured, Through: "stone wall"}},
				"nave room": {{Place: "along the hall cornice", LengthM: 7.5, Basis: install.Measured},
					{Place: "round the stove", LengthM: 6, Basis: install.Assumed}},
				"bathroom": {{Place: "under the landing floor", LengthM: 2.8, Basis: install.Measured}},
				"landing":  {{Place: "up the stair well", LengthM: 3.4, Basis: install.Assumed}},
			}[r.Name]
			if !known {
				continue
			}
			r.Legs, r.Wall = way, "solid masonry"
			if r.Name == "bathroom" {
				bathroom(r)
			}
			if err := l.Touch("rooms/"+r.ID, l.Versions["rooms/"+r.ID], "edited rooms/"+r.ID); err != nil {
				return err
			}
		}
		return nil
	})
	return err
}

// bathroom has its points measured from the bath, but for the mirror light.
func bathroom(r *install.Room) {
	mm := func(v float64) *float64 { return &v }
	r.Bath = install.BathRoom{Fitted: "bath", Jets: no(), MainBondOhm: measured(0.04)}
	for i := range r.Points {
		p := &r.Points[i]
		switch p.Kind {
		case "fan":
			p.BathMM, p.HeightMM, p.IP = mm(300), 2150, "IPX4"
		case "shower":
			p.BathMM, p.HeightMM, p.IP = mm(0), 2000, "IPX5"
		case "shaver":
			p.BathMM = mm(900)
		case "downlight":
			p.BathMM, p.HeightMM = mm(400), 2400
		}
	}
}

// split is a job of the split-phase practice: a disconnect goes in ahead of a
// panel that used to be the first.
func (b *builder) split() error {
	no := false
	job := install.Job{Ref: "PW-2050", Title: "Service disconnect at the net loft", Kind: install.SupplyUpgrade, Practice: "split120",
		Site: install.Site{Customer: "Perrin Aldous", Address: "6 Net Loft Row", Town: "Harrow Sound", Premises: "owner-occupied"},
		Supply: install.Supply{Earthing: "grounded-neutral", DeclaredV: 240,
			ZeOhm: fact(0.04, install.Enquiry, "utility's letter"), PFCkA: fact(9.2, install.Enquiry, "utility's letter"),
			MainFuseA: measured(200), MainFuseType: "main breaker", TailsMM2: install.Fact{}, EarthTo: "rods",
			EarthMM2: measured(split120.AreaMM2("4")), Intersystem: yes(), NoExtraneous: true, Operator: "Sound Electric",
			Number: "4410 882 017", MeterSerial: "KM 55 120 934"},
		Board: install.Board{Name: "Panel A", Enclosure: "panel", Location: "pantry wall", Place: "hall", Material: "metal",
			MainSwitchA: measured(200), Ways: []install.Way{{No: 1, Label: "Range", Device: "2P 50"}, {No: 2, Blank: true}}},
		Chain: install.Chain{Enclosures: []install.Enclosure{
			{ID: "drop", Kind: "drop", Name: "Service drop", Owner: install.OwnerOperator},
			{ID: "meter", Kind: "meter", Name: "Meter base", From: "drop", Owner: install.OwnerCustomer, Sealed: "yes",
				SealNo: "SE-20418", LineAt: "top", RatingA: measured(200),
				Feed: install.Conductor{Material: "al", Size: "4/0", Wires: 3, LengthM: measured(9), Way: "overhead"}},
			{ID: "outside", Kind: "disconnect", Name: "Outdoor disconnect", From: "meter", Owner: install.OwnerCustomer,
				LineAt: "top", RatingA: measured(200), Disconnect: yes(), Outside: yes(),
				TorqueNm: fact(31, install.Enquiry, ""), TorqueSheet: "Korv OD-200 sheet 3", New: true, Mounted: install.OnMasonry,
				Feed: install.Conductor{Material: "al", Size: "4/0", Wires: 3, LengthM: fact(1.2, install.Assumed, ""),
					Way: "metal conduit"}},
			{ID: "panel", Kind: "panel", Name: "Panel A", From: "outside", Owner: install.OwnerCustomer,
				RatingA: measured(200), Joined: yes(),
				Feed: install.Conductor{Material: "al", Size: "4/0", EarthMM2: "2", Wires: 4, LengthM: measured(7.6),
					Way: "sheathed cable"}},
			{ID: "loft", Kind: "subpanel", Name: "Loft subpanel", From: "panel", Owner: install.OwnerCustomer,
				RatingA: measured(60), Joined: &no,
				Feed: install.Conductor{Material: "cu", Size: "6", EarthMM2: "10", Wires: 4, LengthM: measured(14), Way: "sheathed cable"}},
		}}}
	job.Standby = install.Standby{Source: "generator", Automatic: true, SourceVA: 9000, SenseS: 3, CrankS: 5, WarmS: 12,
		SwitchS: 1, ReturnS: 300, CoolS: 300, Carries: []install.Carry{
			{Name: "Bilge pumps", RunVA: 1500, StartVA: 4200, LegA: true, LegB: true},
			{Name: "Cold store", RunVA: 900, StartVA: 2600, LegA: true},
			{Name: "Lights of the loft", RunVA: 400, LegB: true}, {Name: "Kettle corner", RunVA: 1500, LegB: true},
			{Name: "Water heater", RunVA: 4500, Shed: true, LegA: true, LegB: true}}}
	job.Outdoor = install.Outdoor{
		Runs: []install.Run{{ID: "yard", Name: "Trench to the slip", Kind: install.Trench, DuctMM: 50.8, CoverMM: 609.6,
			Grade: "schedule 80", Riser: "schedule 80 PVC", Located: "LOC-77104", LocatedTo: inDays(12), DugBy: "Brisco Groundworks", Liable: "Brisco Groundworks",
			Stretches: []install.RunStretch{
				{Place: "wall riser", LengthM: 1.2, Basis: install.Measured, Surface: "other locations", CoverMM: 457.2,
					BendDeg: 90, RadiusMM: 609.6, RibbonMM: 304.8},
				{Place: "yard", LengthM: 14, Basis: install.Measured, Surface: "driveway of a dwelling", CoverMM: 660.4,
					DugMM: measured(647.7), RibbonMM: 330.2, BendDeg: 45, RadiusMM: 609.6},
				{Place: "lawn to the slip", LengthM: 9.5, Basis: install.Assumed, Surface: "other locations", CoverMM: 635,
					RibbonMM: 330.2, BendDeg: 90, RadiusMM: 609.6},
			},
			Found: []install.Obstruction{{AtM: 9, What: "old quay stone", LengthM: 0.8, WidthM: 1.1, TopMM: 520}}}},
		Electrodes: install.Electrodes{Soil: "sand or gravel", Moisture: install.Damp, Continuous: yes(),
			Rods: []install.PlacedRod{{Place: "below the meter", LengthM: 2.4384, DiameterMM: 15.875, TopMM: 152.4,
				Mode: "vertical", Listed: yes()}, {Place: "by the yard tap", LengthM: 2.4384, DiameterMM: 15.875,
				SpacingM: 3.6576, TopMM: 152.4, Mode: "vertical", Listed: yes()}}},
	}
	id, err := b.create("tobias", 4, job)
	if err != nil {
		return err
	}
	_, err = b.at(4, 9).Change(b.ctx, b.people["jana"], id, b.key(), func(l *store.Loaded) error {
		return l.Walk("kitchen mf: 6 duplex @42, 3-way pot light, range 50A, range hood, disposal\nloft room: 8 receptacle @18, "+
			"4-way light, 2 data\nfront out: 2 outdoor receptacle, porch light", "", false, 0)
	})
	return err
}

// upgrade stands at the design: the demand is above the fuse that is there.
func (b *builder) upgrade() error {
	supply := house(60)
	supply.TailsMM2, supply.EarthMM2 = measured(16), measured(10)
	supply.Number, supply.MeterSerial = "4544173026556", "L19K 00417"
	l := loads()
	l.Items = append(l.Items, install.Load{Name: "Flow heater, upper bathroom", Category: "water_instant",
		Watts: watts(9500), Count: 1, Basis: install.Measured})
	c := charger("plant room", 10, 9, along("plant room wall", 7.5, "C", install.Measured))
	c.Name, c.Use, c.Point, c.PEN = "Heat pump", "fixed",
		install.Point{Place: "plant room", CurrentA: 26, HeightMM: 1200, Manufacturer: "Solvig 6"}, install.PEN{}
	job := install.Job{Ref: "PW-2038", Title: "Supply from 60 A to 100 A", Kind: install.SupplyUpgrade,
		Site: install.Site{Customer: "Corin Dace", Phone: "000 2291", Address: "19 Ropewalk", Town: "Tarrowick",
			Premises: "rented", Access: "Key with the tenant, mornings"},
		Supply: supply, Loads: l, Board: board("Board A", "larder", 1, "Sockets", "Sockets rear", "Lights", "Lights up",
			"Cylinder", "Alarms", "Hob", "Flow heater"),
		Circuits: []install.Circuit{c},
		Chain: install.Chain{Enclosures: []install.Enclosure{
			{ID: "cable", Kind: "cable", Name: "Service cable", Owner: install.OwnerOperator},
			{ID: "head", Kind: "head", Name: "Cut-out", From: "cable", Owner: install.OwnerOperator, Sealed: "yes",
				SealNo: "TVN 7714", RatingA: fact(60, install.Enquiry, "operator's letter")},
			{ID: "meter", Kind: "meter", Name: "Meter", From: "head", Owner: install.OwnerMeter, Sealed: "yes",
				Feed: install.Conductor{Material: "cu", Size: "25", LengthM: measured(0.6)}},
			{ID: "isolator", Kind: "isolator", Name: "Isolator", From: "meter", Owner: install.OwnerCustomer,
				RatingA: fact(100, install.Enquiry, ""), Disconnect: yes(), New: true, Mounted: install.OnMasonry,
				Feed: install.Conductor{Material: "cu", Size: "25", EarthMM2: "16", LengthM: measured(0.5)}},
			{ID: "board", Kind: "board", Name: "Board A", From: "isolator", Owner: install.OwnerCustomer,
				RatingA: measured(100), Joined: no(),
				Feed: install.Conductor{Material: "cu", Size: "25", EarthMM2: "16", LengthM: measured(1.8)}},
			{ID: "hayloft", Kind: "outbuilding", Name: "Hayloft board", From: "board", Owner: install.OwnerCustomer,
				RatingA: measured(40), Joined: no(),
				Feed: install.Conductor{Material: "cu", Size: "10", EarthMM2: "10",
					LengthM: fact(22, install.Assumed, "paced"), Way: "armoured cable"}},
		}},
		Outage: install.Outage{Route: "operator-isolator", AskedOn: inDays(-9), Day: inDays(27), Start: "08:00", Crew: 2,
			Latitude: watts(53.4), Longitude: watts(-3.1), Inspector: install.Booking{Needed: no()},
			Temporary: []install.Temporary{{What: "Aquarium pump", How: "battery station on the landing", Ready: true},
				{What: "Home office", How: "works elsewhere that day"}}}}
	job.Surge = install.SurgePlan{Environment: "rural", Consequence: "other", OwnerAccepts: "Corin Dace"}
	job.Found.Circuits = []install.FoundCircuit{{Name: "Sockets", Device: "B32", State: "live", Proved: "lamp",
		Colours: "new", Method: "sheathed cable", TailM: measured(0.7)},
		{Name: "Lights", Device: "B6", State: "live", Proved: "lamp", Colours: "old", Method: "sheathed cable", TailM: measured(0.3)}}
	job.Materials.WastagePc = 5
	job.Materials.Lines = map[string]install.Stock{"c1:appliance:Solvig 6": {Ordered: 1, Due: inDays(24)}}
	_, err := b.create("tobias", 12, job)
	return err
}

// surge waits for its material.
func (b *builder) surge() error {
	c := charger("beside board A", 10, 7, along("inside the board", 0.3, "C", install.Measured))
	c.Name, c.Use, c.PEN = "Surge device branch", "surge", install.PEN{}
	c.Point = install.Point{Place: "beside board A", Manufacturer: "Korv SPD-2"}
	c.Route.CableType, c.Route.SlackM, c.Route.BoardTailM, c.Route.PointTailM = "flat-te-70", 0, 0.1, 0.1
	c.Protection.RCDType, c.Protection.IdnMA = "", 0
	job := install.Job{Ref: "PW-2040", Title: "Surge protection at the boat store", Kind: install.Surge,
		Surge: install.SurgePlan{Environment: "rural", Consequence: "loss",
			Devices: []install.SPD{{Name: "Korv SPD-2", Place: "origin", Type: "2", UpKV: 1.4, UcV: 275, LineM: 0.15,
				EarthM: 0.25, LineMM2: 10, EarthMM2: 16, BackupA: 125, IsccrKA: 25, Scheme: "CT2", ToLoadM: 8, Circuit: "c1"}}},
		Site: install.Site{Customer: "Tarrow Rowing Club", Address: "Slip Road", Town: "Tarrowick", Premises: "rented",
			Extent: "A surge device at board A with its leads", Limits: "Circuits, sockets and the slip lighting were not looked at"},
		Supply: house(80), Loads: loads(), Board: board("Board A", "store room", 1, "Sockets", "Sockets bar", "Lights",
			"Lights yard", "Cylinder", "Alarms"),
		Circuits: []install.Circuit{c}}
	id, err := b.create("tobias", 9, job)
	if err != nil {
		return err
	}
	return b.deliver(id, "dot", 3, false)
}

// testing stands at the test: fixed and proved dead in part.
func (b *builder) testing() error {
	c := charger("carport post", 10, 7, along("utility to outer wall", 3.2, "C", install.Measured),
		along("buried to the carport", 14, "D", install.Measured), along("carport post", 1.6, "C", install.Measured))
	c.Route.Marks = install.Marks{Located: "TV-L 5127", LocatedTo: inDays(-2), DugBy: "our crew", Liable: "our crew"}
	job := install.Job{Ref: "PW-2037", Title: "Charge point at the carport", Kind: install.EVCharger,
		Site: install.Site{Customer: "Hedda Lorne", Address: "41 Kiln Rise", Town: "Tarrowick",
			Premises: "owner-occupied", Access: "Dog: ring first"},
		Supply: house(100), Loads: modest(), Board: board("Board A", "utility room", 1, "Sockets ground floor",
			"Sockets upper floor", "Lights", "Lights garden", "Cylinder heater", "Alarms"),
		Circuits: []install.Circuit{c}}
	id, err := b.create("tobias", 20, job)
	if err != nil {
		return err
	}
	return first(
		func() error { return b.record(id, "dot", 19, 9, operator("agreed", "TVN-118-391")) },
		func() error { return b.deliver(id, "dot", 15, true) },
		func() error { return b.tick(id, "jana", 5, 8, install.FirstFix) },
		func() error { return b.isolate(id, "jana", 1, 8, false) },
		func() error { return b.tick(id, "jana", 1, 8.5, install.SecondFix) },
		func() error {
			return b.record(id, "remy", 1, 15, install.Record{Kind: install.LooseEnd,
				Note: "Cover of the board off until the labels are printed"})
		},
		func() error {
			return b.read(id, "jana", 1, 15.2, false, map[string]float64{"continuity-earth": 0.03, "continuity-bond": 0.06, "r1r2": 0.1})
		},
	)
}

// design has something to decide: a long route on an assumed length.
func (b *builder) design() error {
	c := charger("boundary wall by the lane", 4, 8, along("larder to back wall", 4.5, "C", install.Measured),
		along("back wall to corner", 11, "C", install.Measured), along("garden wall to the lane", 39, "E", install.Assumed))
	c.PEN = install.PEN{}
	c.Point.DCDetection = nil
	supply := house(80)
	supply.PFCkA = fact(1.6, install.Assumed, "typical for the street")
	job := install.Job{Ref: "PW-2046", Title: "Charge point at the lane", Kind: install.EVCharger,
		Site: install.Site{Customer: "Ottilie Brandreth", Address: "Quince House, Back Lane", Town: "Upper Tarrow",
			Phone: "000 8120", Premises: "owner-occupied", Access: "Side gate, key under office hook 6"},
		Supply: supply, Loads: loads(), Board: board("Board A", "larder", 2, "Sockets ground floor", "Sockets upper floor",
			"Lights ground floor", "Lights upper floor", "Cylinder heater", "Alarms", "Hob"),
		Circuits: []install.Circuit{c}}
	_, err := b.create("jana", 2, job)
	return err
}
