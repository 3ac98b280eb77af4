package demo

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
)

// drawn is a circuit of a template of the 230 V practice with its route.
func drawn(id, template, name string, way int, change func(*install.Circuit), segments ...install.Segment) install.Circuit {
	return started(rulebook.Complete(iec230.Practice{}), id, template, name, way, func(c *install.Circuit) {
		c.Protection.EnergyClass = 3 // as the square on the breakers says
		if change != nil {
			change(c)
		}
	}, segments)
}

// started is a circuit of a template of a practice, placed and with its route.
func started(p rulebook.Book, id, template, name string, way int, change func(*install.Circuit),
	segments []install.Segment) install.Circuit {
	c := p.Defaults(template)
	c.ID, c.Name, c.Protection.Way = id, name, way
	c.Route.Segments = segments
	if change != nil {
		change(&c)
	}
	return c
}

// ferry is a whole house on the drawing board: every circuit of it, one ring too
// long, and the lighting on one shared device.
func (b *builder) ferry() error {
	m := install.Measured
	yes := true
	on := func(group string, c *install.Circuit) {
		c.Protection.RCDType, c.Protection.IdnMA, c.Protection.Group = "", 0, group
	}
	shared := func(c *install.Circuit) { on("lights", c) }
	hidden := func(area float64, outlets int) func(*install.Circuit) {
		return func(c *install.Circuit) { c.Serves.AreaM2, c.Serves.Outlets, c.Serves.Concealed = area, outlets, true }
	}
	lights := func(watts float64, outlets int) func(*install.Circuit) {
		return func(c *install.Circuit) {
			shared(c)
			c.Serves.PowerW, c.Serves.Outlets, c.Serves.Spread = watts, outlets, true
		}
	}
	loft := func(change func(*install.Circuit)) func(*install.Circuit) {
		return func(c *install.Circuit) {
			c.From = "c10"
			change(c)
		}
	}
	circuits := []install.Circuit{
		drawn("c1", "ring", "Ring, ground floor", 1, func(c *install.Circuit) {
			hidden(74, 12)(c)
			c.Serves.Spurs = []install.Spur{{Place: "porch", LengthM: 4, Outlets: 1}}
		}, along("round the ground floor", 63, "C", m)),
		drawn("c2", "ring", "Ring, upper floor", 2, hidden(81, 14), along("up to the landing and round", 104, "C", m)),
		drawn("c3", "sockets-20", "Sockets, scullery", 3, hidden(19, 7), along("through the cellar", 17, "C", m)),
		drawn("c4", "lighting-6", "Lights, ground floor", 9, lights(180, 14), along("above the ground floor", 41, "100", m)),
		drawn("c5", "lighting-6", "Lights, upper floor", 10, lights(150, 12), along("in the roof", 46, "100", m)),
		drawn("c6", "cooker-32", "Cooker", 4, func(c *install.Circuit) { c.Serves.PowerW = 7600 }, along("through the cellar", 13, "C", m)),
		drawn("c7", "panel-heating", "Bathroom heaters", 5,
			func(c *install.Circuit) { c.Serves.PowerW, c.Serves.Bath = 1200, true; on("warmth", c) },
			along("riser and landing floor", 15, "C", m)),
		drawn("c8", "water-stored", "Hot water cylinder", 7, func(c *install.Circuit) { on("warmth", c) },
			along("riser to the airing room", 11, "C", m)),
		drawn("c9", "alarm", "Smoke and heat alarms", 11, shared, along("with the lights", 38, "100", m)),
		drawn("c10", "distribution", "Feed to the sail loft", 8, func(c *install.Circuit) {
			c.Out = install.Out{Building: true, Choice: "export", Metalwork: &yes,
				Reason: "the slip rails are bonded through the third core, 10 mm²"}
			c.Route.Marks = install.Marks{Located: "TV-L 5330", LocatedTo: inDays(20), DugBy: "Marsh & Sons, diggers", Liable: "Marsh & Sons, diggers"}
		}, along("cellar", 5, "C", m), along("under the yard", 21, "D", m)),
		drawn("c11", "sockets-20", "Sail loft sockets", 1, loft(hidden(34, 5)), along("sail loft wall", 16, "C", m)),
		drawn("c12", "lighting-6", "Sail loft lights", 2,
			loft(func(c *install.Circuit) { c.Serves.PowerW, c.Serves.Outlets = 120, 6 }), along("sail loft roof", 19, "C", m)),
	}
	loads := install.Loads{Items: []install.Load{{Name: "River pump, stays", Category: "other_points", Amps: watts(2), Count: 1, Basis: m}}}
	face := board("Board A", "cellar head", 14)
	face.Groups = []install.Group{{ID: "lights", Name: "Lights and alarms", RCDType: "A", IdnMA: 30, RatingA: 63},
		{ID: "warmth", Name: "Heaters and hot water", RCDType: "A", IdnMA: 30, RatingA: 63}}
	sail := board("Sail loft board", "sail loft, inside the door", 6)
	sail.ID, sail.Feed, sail.New, sail.Joined, sail.MainSwitchA = "b1", "c10", true, new(false), measured(63)
	job := install.Job{Ref: "PW-2052", Title: "Rewire of the ferry house", Kind: install.Rewire,
		Site: install.Site{Customer: "Isolde Marrack", Phone: "000 3174", Address: "Ferry House, Lower Quay",
			Town: "Tarrowick", Premises: "owner-occupied", Access: "Mornings, by the quay gate"},
		Supply: house(100), Loads: loads, Board: face, Boards: []install.Board{sail}, Circuits: circuits,
		Surge: install.SurgePlan{Environment: "rural", Flashes: fact(0.7, install.Enquiry, "map of the weather service"),
			OverheadLV: 0.3, CableLV: 0.4, Consequence: "loss",
			Devices: []install.SPD{{Name: "Korv SPD-2 at the board", Place: "origin", Type: "2", UpKV: 1.4, UcV: 275,
				LineM: 0.2, EarthM: 0.25, LineMM2: 6, EarthMM2: 16, BackupA: 125, IsccrKA: 25, Scheme: "CT2", ToLoadM: 9}}}}
	job.Materials.WastagePc = 8
	job.Bench.Kept = []install.KeptCalc{{Calc: "joist", Note: "landing joists, for the riser",
		Input: map[string]any{"depth_mm": 195.0, "span_mm": 3600.0,
			"holes": []any{map[string]any{"x_mm": 1100.0, "dia_mm": 25.0, "centre_from_top_mm": 97.0}}, "notches": []any{}}}}
	job.Plan.Tasks = map[string]install.TaskEdit{"c1-mark": {Who: "Jana Okell, Remy Stroud", Crew: 2, Day: inDays(0)},
		"c1-core": {Who: "Jana Okell, Remy Stroud", Crew: 2, Day: inDays(1), AtHeight: install.IsAtHeight, StandBy: "Remy Stroud"},
		"c2-mark": {Who: "Tobias Marrick", Crew: 1, Day: inDays(1)}}
	job.Plan.Trades = []install.Trade{{ID: "t1", Kind: install.Tiler, Who: "Selvage Tiles", What: "tile the bathroom", Phone: "000 6120", Rooms: []string{},
		Waits: install.TheyWait, Asked: inDays(-6), By: inDays(9), Needs: "The room cleared and the floor covered before our second fix."}}
	_, err := b.create("jana", 1, job)
	return err
}
