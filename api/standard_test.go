package api_test

import (
	"encoding/json"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/rulebook/split120"
	"arvelt/core/working"
)

// stood is one answer of the standard: a change of a demo job, made part by part as a
// person makes it, the check that it reaches and what follows.
type stood struct {
	name, ref, circuit, check string
	want                      working.Verdict
	change                    func(*install.Job)
}

// bodies are the parts of a job as they are saved.
func bodies(t *testing.T, j *install.Job) map[string]string {
	parts := map[string]any{"site": j.Site, "supply": j.Supply, "board": j.Board, "loads": j.Loads, "chain": j.Chain,
		"surge": j.Surge, "outdoor": j.Outdoor, "schools": j.Schools, "standby": j.Standby, "materials": j.Materials, "found": j.Found}
	for i := range j.Circuits {
		parts["circuits/"+j.Circuits[i].ID] = j.Circuits[i]
	}
	for i := range j.Rooms {
		parts["rooms/"+j.Rooms[i].ID] = j.Rooms[i]
	}
	out := map[string]string{}
	for name, v := range parts {
		raw, err := json.Marshal(v)
		require.NoError(t, err)
		out[name] = string(raw)
	}
	return out
}

// take saves every part in which two states of a job differ; what the second lacks goes.
func (c *client) take(ref string, from, to map[string]string) {
	c.Helper()
	for part, body := range to {
		if from[part] != body {
			a := c.part(c.job(ref), part, body)
			require.Equal(c, 200, a.status, "%s %s", part, a.text)
		}
	}
	for part := range from {
		if _, kept := to[part]; !kept {
			v := c.job(ref)
			a := c.do("DELETE", "/api/jobs/"+v.Id+"/parts?part="+url.QueryEscape(part)+"&base="+strconv.Itoa(v.Versions[part]), nil)
			require.Equal(c, 200, a.status, "%s %s", part, a.text)
		}
	}
}

// shown are all checks that the sheets of a job show.
func (c *client) shown(id string) []working.Check {
	var sheet api.CircuitsSheet
	c.do("GET", "/api/jobs/"+id+"/circuits", nil).into(c.T, &sheet)
	out := sheet.Report.Checks()
	var supply api.SupplySheet
	c.do("GET", "/api/jobs/"+id+"/supply", nil).into(c.T, &supply)
	out = append(out, supply.Chain.Checks...)
	for _, n := range supply.Chain.Nodes {
		out = append(out, working.Check{ID: "joint-" + n.ID + "-" + n.Joint, Verdict: n.Verdict, Summary: n.JointSays})
	}
	var works outdoor.Report
	c.do("GET", "/api/jobs/"+id+"/outdoor", nil).into(c.T, &works)
	out = append(out, works.Electrodes.Checks...)
	for _, r := range works.Runs {
		out = append(out, r.Checks...)
	}
	return out
}

// inCanada takes a split-phase job in again as one of Canada, and returns its reference.
func (c *client) inCanada(ref string) string {
	c.Helper()
	file := c.do("GET", "/api/jobs/"+c.job(ref).Id+"/file", nil).text
	for was, is := range map[string]string{`"practice": "split120"`: `"practice": "` + split120.CanadaID + `"`,
		`"edition": "2023"`: `"edition": "2024"`} {
		require.Contains(c, file, was)
		file = strings.Replace(file, was, is, 1)
	}
	a := c.do("POST", "/api/jobs/import?as=CA-1", file)
	require.Equal(c, 201, a.status, a.text)
	return "CA-1"
}

// holds makes each change, reads the sheets and takes it back.
func (c *client) holds(rows []stood) {
	c.Helper()
	for _, x := range rows {
		v := c.job(x.ref)
		before := bodies(c.T, v.View.Job)
		x.change(v.View.Job)
		after := bodies(c.T, v.View.Job)
		c.take(x.ref, before, after)
		found := false
		for _, k := range c.shown(v.Id) {
			if k.ID == x.check && k.Circuit == x.circuit {
				found = true
				assert.Equal(c, x.want, k.Verdict, "%s: %s %v", x.name, k.Summary, k.Missing)
			}
		}
		ids := []string{}
		if !found {
			for _, k := range c.shown(v.Id) {
				ids = append(ids, k.Circuit+"/"+k.ID)
			}
		}
		assert.True(c, found, "%s: no sheet shows %s of %q: %v", x.name, x.check, x.circuit, ids)
		c.take(x.ref, after, before)
	}
}

func is(v bool) *bool { return &v }

func read(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

// add puts a circuit of a template into a job, on a measured route.
func add(p rulebook.Book, template string, change func(*install.Circuit)) func(*install.Job) {
	return func(j *install.Job) {
		k := p.Defaults(template)
		k.ID, k.Name = "c90", "Added"
		k.Route.Segments = []install.Segment{{Place: "wall", LengthM: 6, Basis: install.Measured, Method: "C", AmbientC: 30, Grouped: 1}}
		change(&k)
		j.Circuits = append(j.Circuits, k)
	}
}

// The split-phase rules as a person meets them, each with what passes and what does not.
func TestSplitPhaseJobsAreHeldToTheStandard(t *testing.T) {
	c := serve(t).as("tobias")
	const harbour, pass, fail, caution, unknown = "PW-2054", working.Pass, working.Fail, working.Caution, working.Unknown
	p := rulebook.Complete(split120.Practice{})
	awg := split120.AreaMM2
	none := func(*install.Job) {}
	second := func(joined bool, size string) func(*install.Job) {
		return func(j *install.Job) {
			e := *j.Chain.Enclosure("outside")
			e.ID, e.Name, e.Joined, e.Feed.Size = "second", "Second disconnect", is(joined), size
			j.Chain.Enclosures = append(j.Chain.Enclosures, e)
		}
	}
	gas := func(around bool, size string, amps float64) func(*install.Job) {
		return func(j *install.Job) {
			b := &j.Supply.Bonds[1]
			b.Around, b.MM2, b.CircuitA = is(around), read(awg(size)), amps
		}
	}
	plugged := func(template string, by *bool) func(*install.Job) {
		return add(p, template, func(k *install.Circuit) { k.Serves.Plugged = by })
	}
	cec := func(change func(*install.Job)) func(*install.Job) {
		return func(j *install.Job) { j.Loads.BasementM2 = read(0); change(j) }
	}
	canada := c.inCanada(harbour)
	over := func(surface string, feet float64) func(*install.Job) {
		return func(j *install.Job) {
			j.Outdoor.Runs = append(j.Outdoor.Runs,
				install.Run{ID: "r9", Name: "Drop", Kind: install.Overhead,
					Stretches: []install.RunStretch{{Place: "over", LengthM: 8, Basis: install.Measured, Surface: surface,
						CoverMM: feet * 304.8}}})
		}
	}
	c.holds([]stood{
		{"a second service disconnect has its own jumper", harbour, "", "joint-second-must", pass, second(true, "4/0")},
		{"without it there is no way back for a fault", harbour, "", "joint-second-must", fail, second(false, "4/0")},
		{"two mains carry their own loads: 200 A on 155 A", harbour, "", "service-second", fail, second(true, "3/0")},
		{"250 kcmil carries 205 A", harbour, "", "service-second", pass, second(true, "250")},
		{"a gas pipe by its circuit: 10 AWG on 20 A", harbour, "", "bond-2", pass, gas(false, "10", 20)},
		{"14 AWG on 20 A", harbour, "", "bond-2", fail, gas(false, "14", 20)},
		{"a jumper past the gas meter", harbour, "", "bond-2", fail, gas(true, "8", 20)},
		{"a gas pipe is no electrode", harbour, "", "electrodes", unknown, func(j *install.Job) {
			j.Supply.Bonds, j.Supply.EarthTo, j.Outdoor.Electrodes.Rods = j.Supply.Bonds[1:], "", nil
		}},
		{"rods beside a water pipe", harbour, "", "supplemental-electrode", pass, none},
		{"a water pipe alone", harbour, "", "supplemental-electrode", fail, func(j *install.Job) { j.Outdoor.Electrodes.Rods = nil }},
		{"5/8 in thick", harbour, "", "rod-thickness-1", pass, none},
		{"1/2 in, not listed", harbour, "", "rod-thickness-1", fail,
			func(j *install.Job) { r := &j.Outdoor.Electrodes.Rods[0]; r.DiameterMM, r.Listed = 12.7, is(false) }},
		{"a disconnect outdoors", harbour, "", "emergency-disconnect", pass, none},
		{"none outdoors", harbour, "", "emergency-disconnect", fail,
			func(j *install.Job) { j.Chain.Enclosure("outside").Outside = is(false) }},
		{"a surge device of 20 kA", harbour, "", "spd-1", pass, none},
		{"of 5 kA", harbour, "", "spd-1", fail, func(j *install.Job) { j.Surge.Devices[0].InKA = 5 }},
		{"nobody read it", harbour, "", "spd-1", unknown, func(j *install.Job) { j.Surge.Devices[0].InKA = 0 }},
		{"12 ft over a drive, as planned", harbour, "", "run-cover-r9-1", caution, over("driveway of a dwelling", 12)},
		{"11 ft over a drive", harbour, "", "run-cover-r9-1", fail, over("driveway of a dwelling", 11)},
		{"an oven of 11.4 kW on 40 A", harbour, "c90", "design-current", fail,
			add(p, "oven", func(k *install.Circuit) { k.Serves.PowerW, k.Protection.RatingA = 11400, 40 })},
		{"one of 6 kW on 30 A", harbour, "c90", "design-current", pass,
			add(p, "oven", func(k *install.Circuit) { k.Serves.PowerW, k.Protection.RatingA = 6000, 30 })},
		{"a built-in microwave oven in a kitchen", harbour, "c90", "arc-fault", fail,
			add(p, "microwave", func(k *install.Circuit) { k.Protection.ArcFault = false })},
		{"with arc-fault protection", harbour, "c90", "arc-fault", pass,
			add(p, "microwave", func(k *install.Circuit) { k.Protection.ArcFault = true })},
		{"a sump pump: its room is not known", harbour, "c90", "arc-fault", unknown, plugged("sump", is(true))},
		{"a disposer by cord", harbour, "c90", "ground-fault", fail, plugged("disposer", is(true))},
		{"one wired in", harbour, "c90", "ground-fault", pass, plugged("disposer", is(false))},
		{"nobody knows", harbour, "c90", "ground-fault", unknown, plugged("disposer", nil)},
		{"a charging receptacle", harbour, "c1", "ground-fault", fail, func(j *install.Job) { j.Circuits[0].Serves.Plugged = is(true) }},
		{"a panel in a clothes closet", harbour, "", "working-space", fail, func(j *install.Job) { j.Board.Place = "clothes_closet" }},
		{"below a flight of stairs", harbour, "", "working-space", pass, func(j *install.Job) { j.Board.Place = "under_stairs" }},
		{"24 in of cover in a garden", harbour, "c90", "cover", pass, add(p, "garage", buriedAt("other locations", 24))},
		{"20 in", harbour, "c90", "cover", fail, add(p, "garage", buriedAt("other locations", 20))},
		{"directly under a building", harbour, "c90", "cover", fail, add(p, "garage", buriedAt("under a building, in raceway", 40))},
		{"nobody said under what", harbour, "c90", "cover", unknown, add(p, "garage", buriedAt("", 40))},
		{"the joint in the meter base without the utility's rule", harbour, "", "bond-at-meter-meter", unknown,
			func(j *install.Job) { j.Schools.Set("bondAt", install.Chose("meter")) }},
		{"with it", harbour, "", "bond-at-meter-meter", caution,
			func(j *install.Job) {
				j.Schools.Set("bondAt", install.Chose("meter"))
				j.Schools.Set("bondRule", install.Chose("service handbook 4.2"))
			}},
		{"two duplexes of 15 A on 20 A", harbour, "c2", "receptacles", pass, none},
		// Canada.
		{"1 m in front of the panel", canada, "", "working-space", pass,
			cec(func(j *install.Job) { j.Board.Space.DepthMM, j.Board.Space.HandleMM = 1000, 1700 })},
		{"950 mm, which the other code would accept", canada, "", "working-space", fail,
			cec(func(j *install.Job) { j.Board.Space.DepthMM, j.Board.Space.HandleMM = 950, 1700 })},
		{"a handle at 1.75 m", canada, "", "working-space", fail,
			cec(func(j *install.Job) { j.Board.Space.DepthMM, j.Board.Space.HandleMM = 1000, 1750 })},
		{"the counter needs no arc-fault protection", canada, "c3", "arc-fault", pass,
			cec(func(j *install.Job) { j.Circuits[2].Protection.ArcFault = false })},
		{"a bay does", canada, "c2", "arc-fault", fail, cec(func(j *install.Job) { j.Circuits[1].Protection.ArcFault = false })},
		{"no surge device", canada, "", "surge-need", caution, cec(func(j *install.Job) { j.Surge.Devices = nil })},
		{"nobody asked for the basement", canada, "", "demand", unknown, none},
	})

	// A tankless heater of 24 kW adds 100 A in Canada, where it once added a quarter.
	on := canada
	demand := func() float64 {
		var sheet api.CircuitsSheet
		c.do("GET", "/api/jobs/"+c.job(on).Id+"/circuits", nil).into(t, &sheet)
		return sheet.Report.Demand.AfterA
	}
	set := func(change func(*install.Job)) {
		v := c.job(on)
		before := bodies(t, v.View.Job)
		change(v.View.Job)
		c.take(on, before, bodies(t, v.View.Job))
	}
	load := func(category string, watts float64) func(*install.Job) {
		return func(j *install.Job) {
			j.Loads.Items = append(j.Loads.Items, install.Load{Name: "New", Category: category, Watts: &watts, Count: 1,
				Volts: 240, Basis: install.Measured})
		}
	}
	set(cec(none))
	before := demand()
	set(load("tankless", 24000))
	assert.InDelta(t, 100, demand()-before, 1e-6)
	// 220.82(C): strips that run with the heat pump count 65 %, beside the pump in full.
	on = harbour
	set(load("tankless", 24000))
	set(func(j *install.Job) { j.Schools.Set("loadMethod", install.Chose("optional")) })
	before = demand()
	set(load("heat-pump", 6000))
	both := demand()
	set(load("strips", 10000))
	assert.InDelta(t, 6500.0/240, demand()-both, 1e-6)
	assert.Greater(t, both, before)
	// 12 A at 120 V are 1440 VA, of which 40 % count above the first 10 kVA; at 240 V 2880.
	before = demand()
	twelve := 12.0
	set(func(j *install.Job) {
		j.Loads.Items = append(j.Loads.Items, install.Load{Name: "Pump", Category: "appliance", Amps: &twelve, Count: 1,
			Volts: 120, Basis: install.Measured})
	})
	assert.InDelta(t, 0.4*1440/240, demand()-before, 1e-6)
	set(func(j *install.Job) { j.Loads.Items[len(j.Loads.Items)-1].Volts = 240 })
	assert.InDelta(t, 0.4*2880/240, demand()-before, 1e-6)
	// Each service disconnect has its jumper put in; none is left open as a panel behind would be.
	set(second(false, "4/0"))
	titles := ""
	for _, task := range c.job(harbour).View.Tasks {
		titles += task.Title + "\n"
	}
	assert.Contains(t, titles, "Put the main bonding jumper into Second disconnect")
	assert.NotContains(t, titles, "Leave Second disconnect")
	assert.NotContains(t, titles, "gas pipe on both sides")
}

func buriedAt(surface string, inches float64) func(*install.Circuit) {
	return func(k *install.Circuit) {
		k.Route.CableType, k.Route.LineMM2 = "uf-2", split120.AreaMM2("12")
		s := &k.Route.Segments[0]
		s.Method, s.AmbientC, s.DepthMM, s.Surface = "D", 20, inches*25.4, surface
	}
}

// The 230 V rules as a person meets them.
func TestHousesAreHeldToTheStandard(t *testing.T) {
	c := serve(t).as("tobias")
	const ferry, pass, fail, caution, unknown = "PW-2052", working.Pass, working.Fail, working.Caution, working.Unknown
	p := rulebook.Complete(iec230.Practice{})
	none := func(*install.Job) {}
	ring := func(change func(*install.Circuit)) func(*install.Job) {
		return func(j *install.Job) { change(&j.Circuits[0]) }
	}
	bare := func(k *install.Circuit) { k.Protection.RCDType, k.Protection.IdnMA = "", 0 }
	earth := func(arrangement string, mm2, bond float64, laid string) func(*install.Job) {
		return func(j *install.Job) {
			s := &j.Supply
			s.Earthing, s.EarthMM2, s.Bonds[0].MM2, s.EarthLaid, s.ElectrodeOhm = install.Earthing(arrangement), read(mm2),
				read(bond), laid, read(20)
		}
	}
	premises := func(kind string, fitted bool) func(*install.Job) {
		return func(j *install.Job) { j.Site.Premises, j.Circuits[0].Protection.ArcFault = kind, fitted }
	}
	apart := func(mm2 float64, guarded *bool) func(*install.Job) {
		return ring(func(k *install.Circuit) { k.Route.CPC, k.Route.CPCMM2, k.Route.CPCGuarded = "separate", mm2, guarded })
	}
	spd := func(change func(*install.SPD)) func(*install.Job) {
		return func(j *install.Job) { change(&j.Surge.Devices[0]) }
	}
	bath := func(change func(*install.Room)) func(*install.Job) {
		return func(j *install.Job) {
			j.Rooms = append(j.Rooms, install.Room{ID: "r90", Name: "Wash room", Kind: "bathroom", At: 99,
				Bath: install.BathRoom{Fitted: "bath", NoMetal: true},
				Points: []install.RoomPoint{{ID: "p90", Kind: "light", Count: 1, State: install.New, HeightMM: 2200,
					BathMM: new(float64), IP: "IPX4"}}})
			change(&j.Rooms[len(j.Rooms)-1])
		}
	}
	socket := func(mm float64) func(*install.Room) {
		return func(r *install.Room) {
			q := &r.Points[0]
			q.Kind, q.HeightMM, q.BathMM, q.IP = "socket-2", 450, &mm, ""
		}
	}
	split := func(j *install.Job) {
		j.Chain.Enclosures = []install.Enclosure{{ID: "meter", Kind: "meter", Name: "Meter", Owner: install.OwnerMeter},
			{ID: "main", Kind: "board", Name: "Board A", From: "meter", Owner: install.OwnerCustomer, Joined: is(true),
				Feed: install.Conductor{Material: "cu", Size: "16"}}}
	}
	c.holds([]stood{
		{"a ring of 2.5 mm² on 32 A", ferry, "c1", "ring", pass, none},
		{"on 63 A", ferry, "c1", "ring", fail, ring(func(k *install.Circuit) { k.Protection.RatingA = 63 })},
		{"of 1.5 mm²", ferry, "c1", "ring", fail, ring(func(k *install.Circuit) { k.Route.LineMM2 = 1.5 })},
		{"a cooker without a residual device", ferry, "c6", "residual", pass, func(j *install.Job) { bare(j.CircuitByID("c6")) }},
		{"with a socket in its control unit", ferry, "c6", "residual", fail,
			func(j *install.Job) { bare(j.CircuitByID("c6")); j.CircuitByID("c6").Serves.Socket = true }},
		{"a radial of sockets on 40 A", ferry, "c90", "residual", fail,
			add(p, "sockets-32", func(k *install.Circuit) { bare(k); k.Protection.RatingA = 40 })},
		{"a delayed device is no additional protection", ferry, "c1", "residual", fail,
			ring(func(k *install.Circuit) { k.Protection.Delayed = true })},
		{"a hidden distribution cable of single cores", ferry, "c90", "residual", fail, add(p, "distribution", func(k *install.Circuit) {
			bare(k)
			k.Serves.Concealed, k.Route.CableType, k.Route.Segments[0].Method = true, "singles-70", "B"
		})},
		{"an armoured one", ferry, "c90", "residual", pass,
			add(p, "distribution", func(k *install.Circuit) { bare(k); k.Serves.Concealed = true })},
		{"a surge branch on TT keeps to its own scheme", "PW-2040", "c1", "residual", pass, earth("TT", 16, 10, "in-air")},
		{"a fuse that opens too late, a residual-current device that opens", ferry, "c3", "loop", caution,
			func(j *install.Job) { j.Supply.ZeOhm = read(3) }},
		{"neither", ferry, "c3", "loop", fail, func(j *install.Job) { j.Supply.ZeOhm = read(3); bare(j.CircuitByID("c3")) }},
		{"emergency luminaires without one", ferry, "c90", "residual", fail, add(p, "emergency", bare)},
		{"TN-S, earth 6, bond 6", ferry, "", "bonding-water", fail, earth("TN-S", 6, 6, "in-air")},
		{"TN-S, earth 25, bond 10", ferry, "", "bonding-water", pass, earth("TN-S", 25, 10, "in-air")},
		{"TT, 10 mm² in the air", ferry, "", "earthing-conductor", pass, earth("TT", 10, 10, "in-air")},
		{"TT, 10 mm² buried in its sheath", ferry, "", "earthing-conductor", fail, earth("TT", 10, 10, "buried-sheathed")},
		{"TT, nobody looked", ferry, "", "earthing-conductor", unknown, earth("TT", 10, 10, "")},
		{"a fault at the device at 1.12 kA", ferry, "c1", "withstand", pass, none},
		{"of a class that nobody read", ferry, "c1", "withstand", caution, ring(func(k *install.Circuit) { k.Protection.EnergyClass = 0 })},
		{"at 6 kA", ferry, "c1", "withstand", fail, func(j *install.Job) { j.Supply.PFCkA = read(6) }},
		{"12 kA at devices of 6 kA", ferry, "c1", "breaking-capacity", fail, func(j *install.Job) { j.Supply.PFCkA = read(12) }},
		{"a board declared for 16 kA behind a fuse of a kind nobody named", ferry, "c1", "breaking-capacity", unknown,
			func(j *install.Job) {
				j.Supply.PFCkA, j.Board.ConditionalKA, j.Supply.MainFuseType = read(12), 16, ""
			}},
		{"arc-fault in a building of higher risk", ferry, "c1", "arc-fault", fail, premises("higher-risk", false)},
		{"fitted", ferry, "c1", "arc-fault", pass, premises("higher-risk", true)},
		{"premises not known", ferry, "c1", "arc-fault", unknown, premises("", false)},
		{"a separate conductor of 1.5 mm²", ferry, "c1", "separate-cpc", fail, apart(1.5, is(true))},
		{"of 2.5 mm² in trunking", ferry, "c1", "separate-cpc", pass, apart(2.5, is(true))},
		{"of 2.5 mm² in the open", ferry, "c1", "separate-cpc", fail, apart(2.5, is(false))},
		{"a breaker that works one way, fed from behind", ferry, "c90", "backfeed", fail,
			add(p, "infeed", func(k *install.Circuit) { bare(k); k.Protection.BothWays = is(false) })},
		{"one that works both ways", ferry, "c90", "backfeed", pass,
			add(p, "infeed", func(k *install.Circuit) { k.Protection.BothWays = is(true) })},
		{"a charge point on one pole", ferry, "c90", "residual", fail,
			add(p, "ev-32", func(k *install.Circuit) { k.Point.DCDetection, k.Protection.Poles = is(true), 1 })},
		{"a surge device behind a branch of 32 A", ferry, "", "spd-1", pass,
			spd(func(d *install.SPD) { d.BranchA, d.BackupA, d.NeutralEarth = 32, 63, is(true) })},
		{"of 80 A", ferry, "", "spd-1", fail, spd(func(d *install.SPD) { d.BranchA, d.BackupA, d.NeutralEarth = 80, 63, is(true) })},
		{"a luminaire above a bath, IPX4", ferry, "", "bath-r90", pass, bath(func(*install.Room) {})},
		{"IP20", ferry, "", "bath-r90", fail, bath(func(r *install.Room) { r.Points[0].IP = "IP20" })},
		{"a socket 2.5 m away", ferry, "", "bath-r90", pass, bath(socket(2500))},
		{"2.4 m", ferry, "", "bath-r90", fail, bath(socket(2400))},
		{"lights that lose more than 3 % in the United Kingdom", ferry, "c5", "voltage-drop", fail,
			func(j *install.Job) { j.CircuitByID("c5").Route.Segments[0].LengthM = 460 }},
		{"5 % are allowed in South Africa", ferry, "c5", "voltage-drop", pass, func(j *install.Job) {
			j.CircuitByID("c5").Route.Segments[0].LengthM = 460
			j.Schools.Set("tables", install.Chose("sans10142"))
		}},
		{"a combined conductor split at the main board", ferry, "", "joint-main-must", pass,
			func(j *install.Job) { j.Schools.Set("penSplit", install.Chose("main-board")); split(j) }},
		{"joined there where the operator does it", ferry, "", "joint-main-never", fail, split},
		{"supplementary bonding left out", ferry, "", "bath-bond-r90", pass, bath(func(*install.Room) {})},
		{"with metal of 1700 Ω to the main terminal", ferry, "", "bath-bond-r90", fail,
			bath(func(r *install.Room) { r.Bath.NoMetal, r.Bath.MainBondOhm = false, read(1700) })},
	})
}

// The same rules in the named calculations: what is refused names its field.
func TestNamedCalculationsFollowTheStandard(t *testing.T) {
	c := serve(t).as("jana")
	for _, x := range []struct {
		calc, body, field string
		want              any
	}{
		{"iec230/ring-design",
			`{"line_mm2":2.5,"in_a":32,"cpc_mm2":1.5,"length_m":40,"column":"mC","ze_ohm":0.3,"curve":"B","vd_limit_pc":5,
				"floor_area_m2":50}`, "ccc_ok", true},
		{"iec230/ring-design",
			`{"line_mm2":2.5,"in_a":40,"cpc_mm2":1.5,"length_m":40,"column":"mC","ze_ohm":0.3,"curve":"B","vd_limit_pc":5,
				"floor_area_m2":50}`, "ccc_ok", false},
		{"iec230/rcd-verdict", `{"type":"A","idn_ma":30,"delay":"none","school":"bs7671_a2","readings":{}}`, "passes", false},
		{"iec230/rcd-verdict", `{"type":"A","idn_ma":30,"delay":"none","school":"bs7671_a2","readings":{"x1_0":200}}`, "passes", true},
		{"iec230/ev-pen", `{"system":"TN-C-S","location":"outdoor","current_a":32,"rcd_type":"B","rcd_idn_ma":30,
			"dc_detection_6ma":false,"pen_option":"met_electrode","ra_ohm":0.9,"demand_a":94}`, "acceptable", true},
		{"iec230/ev-pen", `{"system":"TN-C-S","location":"outdoor","current_a":32,"rcd_type":"B","rcd_idn_ma":30,
			"dc_detection_6ma":false,"pen_option":"met_electrode","ra_ohm":150,"demand_a":94}`, "acceptable", false},
		{"iec230/joist", `{"depth_mm":200,"span_mm":4000,"holes":[{"x_mm":1200,"dia_mm":20,"centre_from_top_mm":100}]}`,
			"acceptable", true},
		{"iec230/joist", `{"depth_mm":200,"span_mm":4000,"holes":[{"x_mm":1200,"dia_mm":20,"centre_from_top_mm":130}]}`,
			"acceptable", false},
		{"split120/range-demand", `{"ranges_kw":[6,4]}`, "demand_kw", 6.5},
		{"split120/neutral-bond",
			`{"nodes":[{"id":"m","role":"meter"},{"id":"a","from":"m","role":"service_disconnect"},{"id":"b","from":"m",
				"role":"service_disconnect"}]}`, "main_bonds", []any{"a", "b"}},
	} {
		var done api.Calculated
		a := c.do("POST", "/api/calcs/"+x.calc, x.body)
		require.Equal(t, 200, a.status, "%s %s", x.calc, a.text)
		a.into(t, &done)
		assert.Equal(t, x.want, done.Values[x.field], "%s %s", x.calc, x.body)
	}
	a := c.do("POST", "/api/calcs/iec230/cable-size",
		`{"phases":3,"ib_a":26,"in_a":32,"table":"ccc_swa_70","column":"C_2c","ambient_c":30,"length_m":20,"vd_limit_pc":5}`)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.problem(t).Title, "column")
}

// An electrode is judged by the device that opens: 50 V / 30 mA is 1667 Ω.
func TestAnElectrodeIsReadAgainstTheDeviceThatOpens(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	const ref = "PW-2037"
	v := c.job(ref)
	before := bodies(t, v.View.Job)
	s := &v.View.Job.Supply
	s.Earthing, s.ElectrodeOhm, s.EarthLaid = "TT", read(100), "in-air"
	c.take(ref, before, bodies(t, v.View.Job))
	record := func(r map[string]any) api.JobView {
		a := c.do("POST", "/api/jobs/"+v.Id+"/records", r)
		require.Equal(t, 200, a.status, a.text)
		var out api.JobView
		a.into(t, &out)
		return out
	}
	record(c.isolates(v.Id))
	last := ""
	for _, x := range []struct {
		ohm  float64
		want working.Verdict
	}{{3000, working.Fail}, {1667, working.Fail}, {1600, working.Caution}, {120, working.Pass}} {
		r := map[string]any{"kind": "reading", "subject": "electrode", "unit": "Ω", "value": x.ohm, "instrument": "Tarn E1",
			"calibrated": "2030-01-01", "clampA": 0.02, "acrossV": 0.3}
		if last != "" {
			r["supersedes"], r["note"] = last, "another rod driven"
		}
		rows := 0
		for _, row := range record(r).View.Tests.Rows {
			if row.ID == "electrode" {
				assert.Equal(t, x.want, row.Verdict, "%g Ω: %s", x.ohm, row.Summary)
				last, rows = row.Reading.ID, rows+1
			}
		}
		assert.Equal(t, 1, rows, "the installation's one electrode is read once, not once a circuit")
	}
}

// Five times the rating is read under the edition before the amendment and not after it; soil
// of 3 K·m/W takes 0.90 where the cable lies in it and 0.96 in a duct.
func TestEditionAndSoilDecide(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2046")
	file := c.do("GET", "/api/jobs/"+v.Id+"/file", nil).text
	for edition, asked := range map[string]bool{"2018": true, "2018+A2:2022": false} {
		var job map[string]any
		require.NoError(t, json.Unmarshal([]byte(file), &job))
		job["edition"] = edition
		a := c.do("POST", "/api/jobs/import?as=E-"+edition[len(edition)-1:], job)
		require.Equal(t, 201, a.status, a.text)
		var in api.JobView
		a.into(t, &in)
		rows := []string{}
		for _, row := range in.View.Tests.Rows {
			rows = append(rows, row.ID)
		}
		assert.Contains(t, rows, "rcd-x1")
		assert.Equal(t, asked, slices.Contains(rows, "rcd-x5"), "%s: %v", edition, rows)
	}
	limit := func(duct bool) (a float64) {
		const ref = "PW-2037"
		v := c.job(ref)
		before := bodies(t, v.View.Job)
		s := &v.View.Job.Circuits[0].Route.Segments[1]
		s.SoilKmW, s.Duct = 3, &duct
		c.take(ref, before, bodies(t, v.View.Job))
		for _, k := range c.shown(v.Id) {
			if k.ID == "capacity" && k.Circuit == "c1" {
				a = *k.Limit
			}
		}
		return a
	}
	assert.InDelta(t, 0.90/0.96, limit(false)/limit(true), 1e-9)
}
