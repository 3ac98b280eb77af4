package demo

import (
	"fmt"
	"slices"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/whole"
	"arvelt/store"
)

// ropeWalk is the walk through the rope-maker's house: what each room gets, and the
// circuit that feeds it.
const ropeWalk = `hall g: double socket <c1, 2 two way light <c4, smoke alarm <c7
front room g: 5 double socket <c1, 2 two way light <c4, tv, data, smoke alarm <c7
kitchen g: 6 double socket @1100 <c1, 4 downlight <c4, oven 3kW <c3, hob 3.6kW <c3, heat alarm <c7, fan <c4
landing f1: double socket <c2, 2 two way light <c5, smoke alarm <c7
back bedroom f1: 4 double socket <c2, 2 two way light <c5, tv
street bedroom f1: 4 double socket <c2, 2 two way light <c5, data
bathroom f1: 3 downlight <c5, shaver <c5, shower 8.5kW <c6`

// ropeLegs are the legs of each circuit as they were measured, m, the way back of a ring last.
var ropeLegs = map[string][]float64{
	"c1": {5, 3, 2.5, 3, 3, 2.5, 3, 4, 2, 2, 3, 3, 8}, "c2": {9, 4, 3, 4, 4, 5, 4, 4, 3, 8}, "c3": {7, 2},
	"c4": {4, 3, 3, 3, 3, 2, 2, 3, 3}, "c5": {8, 2.5, 3, 2.5, 2.5, 2.5, 3, 2, 2, 3}, "c7": {4, 6, 5, 9},
}

// ropeRuns puts the points of the walk on the circuits that it names, and says how long each leg is.
func (b *builder) ropeRuns(id string) error {
	_, err := b.at(40, 10).Change(b.ctx, b.people["jana"], id, b.key(), func(l *store.Loaded) error {
		for _, u := range survey.UnplacedOf(&l.Job, whole.Practice(&l.Job).Survey(), false) {
			s := &l.Job.CircuitByID(u.Circuit).Serves
			at := install.RunChange{Do: install.PlacePoint, Circuit: u.Circuit, Room: u.Room, Point: u.Point}
			at.After, at.Before = s.End()
			if err := l.Rerun(at); err != nil {
				return err
			}
		}
		for circuit, lengths := range ropeLegs {
			for i, leg := range l.Job.CircuitByID(circuit).Legs() {
				if err := l.Rerun(install.RunChange{Do: install.SetLeg, Circuit: circuit, Box: leg.To, LengthM: lengths[i], Basis: install.Measured}); err != nil {
					return err
				}
			}
		}
		return nil
	})
	return err
}

// rope is a two-floor house from the walk to the signature: its rooms, circuits, board,
// readings and labels are of the same house.
func (b *builder) rope() error {
	m := install.Measured
	sockets := func(area float64, outlets int) func(*install.Circuit) {
		return func(c *install.Circuit) { c.Serves.AreaM2, c.Serves.Outlets, c.Serves.Concealed = area, outlets, true }
	}
	lights := func(watts float64, outlets int, bath bool) func(*install.Circuit) {
		return func(c *install.Circuit) {
			c.Serves.PowerW, c.Serves.Outlets, c.Serves.Spread, c.Serves.Bath = watts, outlets, true, bath
			c.Route.LineMM2 = 1.5
		}
	}
	circuits := []install.Circuit{
		drawn("c1", "ring", "Ring, ground floor", 1, sockets(46, 12), along("round the ground floor", 44, "C", m)),
		drawn("c2", "ring", "Ring, upper floor", 2, sockets(44, 9), along("up the stair wall and round", 48, "C", m)),
		drawn("c3", "cooker-32", "Cooker", 3, func(c *install.Circuit) { c.Serves.PowerW = 6600 },
			along("under the kitchen floor", 9, "C", m)),
		drawn("c4", "lighting-6", "Lights, ground floor", 4, lights(120, 9, false), along("above the ground floor", 26, "100", m)),
		drawn("c5", "lighting-6", "Lights, upper floor", 5, lights(110, 10, true), along("in the roof", 31, "100", m)),
		drawn("c6", "shower-40", "Shower", 6, func(c *install.Circuit) { c.Serves.PowerW, c.Serves.Bath = 8500, true },
			along("up the stair wall", 8, "C", m)),
		drawn("c7", "alarm", "Smoke and heat alarms", 7, func(c *install.Circuit) { c.Serves.Outlets = 4 },
			along("with the lights", 24, "100", m)),
	}
	face := board("Board A", "under the stairs, hall side", 8)
	supply := house(100)
	supply.Condition = "Cut-out sound, seal in place"
	job := install.Job{Ref: "PW-2056", Title: "Rewire of the rope-maker's house", Kind: install.Rewire,
		Site: install.Site{Customer: "Leonie Strand", Phone: "000 5512", Address: "8 Rope Yard", Town: "Tarrowick",
			Premises: "owner-occupied", Access: "Key at number 10",
			Extent: "The whole wiring of both floors, the board and main bonding",
			Limits: "The outside wash house, which has no supply, was not looked at",
			Others: "Making good of plaster by the mason; the boiler's flue by the gas fitter"},
		Supply: supply, Loads: install.Loads{Items: []install.Load{{Name: "Boiler and its pump, stay",
			Category: "other_points", Amps: watts(1), Count: 1, Basis: m}}},
		Board: face, Circuits: circuits,
		Outage: install.Outage{Route: "operator-fuse", BookedFor: "operator-fuse", AskedOn: inDays(-39), BookedOn: inDays(-16)},
		Surge:  install.SurgePlan{Environment: "urban", Consequence: "other", OwnerAccepts: "Leonie Strand"}}
	id, err := b.create("tobias", 40, job)
	if err != nil {
		return err
	}
	return first(
		func() error {
			_, err := b.at(40, 9).Change(b.ctx, b.people["jana"], id, b.key(),
				func(l *store.Loaded) error { return l.Walk(ropeWalk, "", false, 0) })
			return err
		},
		func() error { return b.ropeRuns(id) },
		func() error { return b.ropeBath(id) },
		func() error {
			return b.record(id, "jana", 40, 11, install.Record{Kind: install.Observation, Subject: "old-cable", Path: "C2",
				Evidence: "measured", Place: "roof", Note: "Rubber insulation crumbles; 0.3 MΩ line to earth on the old lights"})
		},
		func() error { return b.decide(id, "old-cable", "accepted", "") },
		func() error {
			return b.record(id, "jana", 40, 11.2, install.Record{Kind: install.Observation, Subject: "no-surge", Path: "C3",
				Evidence: "seen", Place: "Board A", Note: "No surge device at the board"})
		},
		func() error {
			return b.decide(id, "no-surge", "declined", "The owner has no electronics that matter to her and will think of it again")
		},
		func() error {
			return b.record(id, "tobias", 39, 9, install.Record{Kind: install.Scope, Person: "Leonie Strand"})
		},
		func() error { return b.deliver(id, "dot", 30, true) },
		func() error { return b.tick(id, "jana", 24, 8, install.FirstFix) },
		func() error { return b.isolate(id, "jana", 16, 7.5, false) },
		func() error { return b.tick(id, "jana", 16, 8, install.SecondFix) },
		func() error { return b.read(id, "jana", 16, 13, false, ropeDead) },
		func() error { return b.permit(id, "jana", 16, 17, install.ForTest) },
		func() error { return b.read(id, "jana", 16, 17.2, true, ropeLive) },
		func() error { return b.permit(id, "jana", 16, 19, install.IntoUse) },
		func() error { return b.tick(id, "jana", 15, 10, install.Handover) },
		func() error {
			return b.record(id, "tobias", 14, 16, install.Record{Kind: install.Signature, Note: "Checked against the readings and the walk."})
		},
	)
}

// ropeDead and ropeLive are the readings of the house, by circuit and test or by test alone.
var (
	ropeDead = map[string]float64{"continuity-earth": 0.02, "continuity-bond": 0.04, "ze": 0.21,
		"c1/ring-r1": 0.33, "c1/ring-rn": 0.33, "c1/ring-r2": 0.54, "c2/ring-r1": 0.37, "c2/ring-rn": 0.36, "c2/ring-r2": 0.6,
		"c1/r1r2": 0.22, "c2/r1r2": 0.25, "c3/r1r2": 0.13, "c4/r1r2": 0.88, "c5/r1r2": 1.04, "c6/r1r2": 0.08, "c7/r1r2": 0.82,
		"c1/insulation-ln": 410, "c1/insulation-le": 380, "c1/insulation-ne": 395,
		"c2/insulation-ln": 365, "c2/insulation-le": 340, "c2/insulation-ne": 352,
		"c3/insulation-ln": 720, "c3/insulation-le": 690, "c3/insulation-ne": 705,
		"c4/insulation-ln": 510, "c4/insulation-le": 470, "c4/insulation-ne": 488,
		"c5/insulation-ln": 455, "c5/insulation-le": 430, "c5/insulation-ne": 446,
		"c6/insulation-ln": 810, "c6/insulation-le": 770, "c6/insulation-ne": 795,
		"c7/insulation-ln": 590, "c7/insulation-le": 560, "c7/insulation-ne": 575,
	}
	ropeLive = map[string]float64{"voltage": 236, "voltage-ne": 0.3, "rdc-6": 640, "pfc": 1.08,
		"c1/zs": 0.44, "c1/rcd-x1": 24,
		"c2/zs": 0.47, "c2/rcd-x1": 26,
		"c3/zs": 0.35, "c3/rcd-x1": 22,
		"c4/zs": 1.1, "c4/rcd-x1": 25,
		"c5/zs": 1.26, "c5/rcd-x1": 27,
		"c6/zs": 0.3, "c6/rcd-x1": 21,
		"c7/zs": 1.04, "c7/rcd-x1": 24,
	}
)

// decide is what the client decided on a finding of a kind.
func (b *builder) decide(id, kind, path, why string) error {
	l, err := b.at(39, 10).Job(b.ctx, b.people["tobias"], id)
	if err != nil {
		return err
	}
	for _, r := range l.Job.Current(install.Observation) {
		if r.Subject == kind {
			return b.record(id, "tobias", 39, 10, install.Record{Kind: install.Decision, Subject: r.ID, Path: path,
				Person: "Leonie Strand", Note: why, Signed: path == install.Declined})
		}
	}
	return fmt.Errorf("there is no finding of %q to decide on", kind)
}

// ropeBath measures the points of the bathroom from the bath, and how far data and television cables run from power.
func (b *builder) ropeBath(id string) error {
	_, err := b.at(40, 10).Change(b.ctx, b.people["jana"], id, b.key(), func(l *store.Loaded) error {
		for i := range l.Job.Rooms {
			r := &l.Job.Rooms[i]
			low := slices.ContainsFunc(r.Points, func(p install.RoomPoint) bool { return p.Kind == "tv" || p.Kind == "data" })
			if low {
				r.ApartMM = 80
			}
			if r.Name != "bathroom" {
				if low {
					if err := l.Touch("rooms/"+r.ID, l.Versions["rooms/"+r.ID], "edited rooms/"+r.ID); err != nil {
						return err
					}
				}
				continue
			}
			mm := func(v float64) *float64 { return &v }
			r.Bath = install.BathRoom{Fitted: "bath", Jets: no(), MainBondOhm: measured(0.04)}
			for k := range r.Points {
				p := &r.Points[k]
				switch p.Kind {
				case "downlight":
					p.BathMM, p.HeightMM, p.IP = mm(300), 2400, "IPX4"
				case "shaver":
					p.BathMM, p.HeightMM, p.IP = mm(1400), 1350, "IPX4"
				case "shower":
					p.BathMM, p.HeightMM, p.IP = mm(0), 2000, "IPX5"
				}
			}
			if err := l.Touch("rooms/"+r.ID, l.Versions["rooms/"+r.ID], "edited rooms/"+r.ID); err != nil {
				return err
			}
		}
		return nil
	})
	return err
}
