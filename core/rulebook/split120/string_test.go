package split120

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

func box(id, device, from, side string) install.Box {
	b := install.Box{ID: id, Name: "Box " + id, Place: "kitchen_counter", Device: install.BoxDevice(device), From: from,
		Side: install.Side(side), RatingA: 20, Ground: truth(true), Shuttered: true, HeightMM: 1000, VolumeML: 22 * in3ML}
	if device == "gfci" {
		b.Feed = "line"
	}
	return b
}

// Strings depend on their order; what no device opens stays so when a box is added at
// the end, and a device first in line covers all of it.
func TestStringCoverage(t *testing.T) {
	for n := 1; n <= 6; n++ {
		j := house()
		j.Circuits[1].Serves.Boxes = nil
		for i := range n {
			b := box("b"+string(rune('1'+i)), "plain", "", "line")
			if i > 0 {
				b.From = "b" + string(rune('0'+i))
			}
			j.Circuits[1].Serves.Boxes = append(j.Circuits[1].Serves.Boxes, b)
		}
		for first := range n {
			k := *j
			k.Circuits = slices.Clone(j.Circuits)
			k.Circuits[1].Serves.Boxes = slices.Clone(j.Circuits[1].Serves.Boxes)
			boxes := k.Circuits[1].Serves.Boxes
			boxes[first].Device, boxes[first].Feed = "gfci", "line"
			if first+1 < n {
				boxes[first+1].Side = "load"
			}
			r := Practice{}.Judge(&k)
			covered := 0
			for _, b := range r.Circuits[1].Boxes {
				if len(b.Protected) > 0 {
					covered++
				}
			}
			assert.Equal(t, n-first, covered, "device at %d of %d", first+1, n)
		}
	}
}

// The proving sequence: dead before live, neutral to ground closed only where the joint
// is, the jumper looked at after those, and no plug-in tester asked to trip a device
// that has no ground to trip it with.
func TestProvingSequence(t *testing.T) {
	j := house()
	j.Circuits[1].Serves.Boxes[2].Ground = truth(false)
	report := Practice{}.Judge(j)
	tests := Practice{}.Tests(j, &report)
	live := false
	at := map[string]rulebook.Test{}
	for _, x := range tests {
		assert.False(t, live && !x.Live, "%s is dead after a live one", x.ID)
		live = x.Live
		at[x.Circuit+"/"+x.ID] = x
		name, _, _ := strings.Cut(x.ID, ":")
		assert.Contains(t, TestIDs, name)
		for _, p := range x.Patterns {
			assert.Contains(t, terms.Patterns, p)
		}
	}
	says := func(id, answer string) working.Verdict {
		x, ok := at[id]
		require.True(t, ok, id)
		v, _ := x.Judge(install.Record{Answer: answer})
		return v
	}
	assert.Equal(t, working.Pass, says("/ng:main", closed))
	assert.Equal(t, working.Fail, says("/ng:main", open))
	assert.Equal(t, working.Pass, says("/ng:panel", open))
	assert.Equal(t, working.Fail, says("/ng:panel", closed))
	assert.Equal(t, []string{"ng:main", "ng:panel"}, at["/bond-back"].After, "every enclosure, not the last one only")
	assert.Equal(t, working.Pass, says("c2/hn", open))
	assert.Equal(t, working.Fail, says("c2/hg", closed))
	assert.Equal(t, working.Pass, says("c2/tester:b1", "correct"))
	assert.Equal(t, working.Fail, says("c2/tester:b1", "open_ground"))
	assert.Equal(t, working.Pass, says("c2/tester:b3", "open_ground"))
	assert.Equal(t, working.Fail, says("c2/tester:b3", "correct"), "a ground that is not there")
	assert.Contains(t, at["c2/trip:b3"].Where, "cannot trip")
	assert.NotContains(t, at["c2/trip:b2"].Where, "cannot trip")

	volts := func(id string, v float64) working.Verdict {
		x, _ := at["/"+id].Judge(install.Record{Subject: id, Value: &v})
		return x
	}
	assert.Equal(t, working.Pass, volts("volts-ll", 241))
	assert.Equal(t, working.Caution, volts("volts-ll", 222))
	assert.Equal(t, working.Fail, volts("volts-ll", 260))
	v := 131.0
	j.Records = []install.Record{{Kind: install.Reading, Subject: "volts-an", Value: &v}}
	tests = Practice{}.Tests(j, &report)
	i := slices.IndexFunc(tests, func(x rulebook.Test) bool { return x.ID == "volts-bn" })
	low := 109.0
	verdict, why := tests[i].Judge(install.Record{Subject: "volts-bn", Value: &low})
	assert.Equal(t, working.Fail, verdict)
	assert.Contains(t, why, "neutral")
	assert.True(t, tests[i].Suspects(install.Record{Value: &low}))
	even := 121.0
	assert.False(t, tests[i].Suspects(install.Record{Value: &even}))
	v2 := 120.5
	j.Records = []install.Record{{Kind: install.Reading, Subject: "volts-bn", Value: &v2}}
	for risen, want := range map[float64]working.Verdict{120.9: working.Pass, 122.4: working.Pass, 122.6: working.Fail} {
		tests = Practice{}.Tests(j, &report)
		i = slices.IndexFunc(tests, func(x rulebook.Test) bool { return x.ID == "load-bn" })
		verdict, why = tests[i].Judge(install.Record{Value: &risen})
		assert.Equal(t, want, verdict, why)
		assert.Equal(t, want == working.Fail, tests[i].Suspects(install.Record{Value: &risen}), "%g V", risen)
	}
}

// The insulation of new circuits is read where the company does; an arc-fault device by its own button.
func TestInsulationIsReadWhereTheCompanyDoes(t *testing.T) {
	j := house()
	j.Circuits[1].Protection.ArcFault = true
	report := Practice{}.Judge(j)
	of := func() map[string]rulebook.Test {
		out := map[string]rulebook.Test{}
		for _, x := range (Practice{}).Tests(j, &report) {
			out[x.Circuit+"/"+x.ID] = x
		}
		return out
	}
	_, asked := of()["c2/insulation-hg"]
	assert.False(t, asked)
	assert.True(t, of()["c2/arc-button"].YesNo)
	j.Schools.Set("insulation", install.Chose("megohm"))
	j.Surge.Devices = nil
	x := of()["c2/insulation-hg"]
	for _, row := range []struct {
		v, at float64
		want  working.Verdict
	}{{0.9, 500, working.Fail}, {1, 500, working.Pass}, {200, 500, working.Pass}, {200, 250, working.Caution}, {0.9, 250, working.Fail}} {
		got, says := x.Judge(install.Record{Value: &row.v, TestV: row.at})
		assert.Equal(t, row.want, got, "%g MΩ at %g V: %s", row.v, row.at, says)
	}
	j.Surge.Devices = []install.SPD{{Name: "Arrester"}}
	x = of()["c2/insulation-hg"]
	assert.NotEmpty(t, x.Parts(&install.Record{TestV: 500}), "the surge device is off for it")
	assert.Empty(t, x.Parts(&install.Record{TestV: 250}))
}

// The equipment ground is read in ohms at every box that has one, against the wire of its length; where that is not known, against the company's
// figure.
func TestTheGroundIsJudgedByItsLength(t *testing.T) {
	j := house()
	k := &j.Circuits[1]
	at := func() rulebook.Test {
		report := Practice{}.Judge(j)
		for _, x := range (Practice{}).Tests(j, &report) {
			if x.Circuit == "c2" && x.ID == "ground-continuity" {
				return x
			}
		}
		return rulebook.Test{}
	}
	judge := func(box string, v float64) (working.Verdict, bool) {
		x, r := at(), install.Record{Box: box, Value: &v}
		got, _ := x.Judge(r)
		return got, x.Explain(r)
	}
	got, _ := judge("", 0.9)
	assert.Equal(t, working.Pass, got, "no length is known")
	got, _ = judge("", 1.1)
	assert.Equal(t, working.Caution, got)

	k.Route.Segments = []install.Segment{{To: "b1", LengthM: 12, Basis: install.Measured}, {To: "b2", LengthM: 9, Basis: install.Measured},
		{To: "b3", LengthM: 14, Basis: install.Measured}}
	k.Serves.Boxes[1].Ground = truth(false)
	ground := at()
	require.NotNil(t, ground.Expected)
	perM, _ := ResistancePerM(copper, "12")
	first, all := 0.0, 0.0
	for _, leg := range k.Legs() { // with what is left at the board and at every box
		if all += leg.LengthM + leg.TailsM; first == 0 {
			first = all
		}
	}
	assert.InDelta(t, all*perM, *ground.Expected, 1e-6)
	ids := []string{}
	for _, p := range ground.Points {
		ids = append(ids, p.ID)
	}
	assert.Equal(t, []string{"b1", "b3"}, ids, "a box without a ground is not read")
	for _, row := range []struct {
		box  string
		v    float64
		want working.Verdict
		why  bool
	}{{"b3", all * perM, working.Pass, false}, {"", all * perM, working.Pass, false}, {"b1", first * perM, working.Pass, false},
		{"b1", first*perM + 0.06, working.Caution, true}, {"b3", 3*all*perM + 0.05, working.Caution, true}, {"b3", 0.01, working.Pass, false}} {
		got, why := judge(row.box, row.v)
		assert.Equal(t, row.want, got, "%s %g", row.box, row.v)
		assert.Equal(t, row.why, why, "%s %g is explained", row.box, row.v)
	}
}

// What the labels ask for becomes a step each, and stickers wait for the outlet.
func TestWork(t *testing.T) {
	j := house()
	j.Circuits[1].Serves.Boxes[1].Ground = truth(false)
	r := Practice{}.Judge(j)
	assert.Equal(t, []string{labelProtected, labelNoGround}, r.Circuits[1].Boxes[1].Labels)
	ids := []string{}
	for _, w := range (Practice{}).Work(j, &r) {
		ids = append(ids, w.ID)
	}
	assert.Subset(t, ids, []string{"c2-marking-b1", "c2-sticker-b2", "bond-1", "joint-main"})
	assert.NotContains(t, ids, "c2-sticker-b3", "with a ground in its box no label is asked for")
	assert.NotContains(t, ids, "c2-sticker-b1", "the device itself says what it is")
}

// What others do in a service change becomes steps with who waits for whom, and the
// torque of each new enclosure is a reading against its manufacturer's figure.
func TestServiceWorkAndTorque(t *testing.T) {
	j := house()
	j.Chain.Enclosures[1].TorqueNm, j.Chain.Enclosures[1].TorqueSheet = known(31), "sheet 3"
	r := Practice{}.Judge(j)
	who, after := map[string]string{}, map[string][]string{}
	for _, w := range (Practice{}).Work(j, &r) {
		who[w.ID], after[w.ID] = w.Who, w.After
	}
	assert.Equal(t, "inspector", who["service-10"])
	assert.Equal(t, []string{"service-10"}, after["service-11"], "no release before the inspection")
	assert.Contains(t, after["service-12"], "service-11")
	assert.Contains(t, who, "lugs-main")
	tests := Practice{}.Tests(j, &r)
	i := slices.IndexFunc(tests, func(x rulebook.Test) bool { return x.ID == "torque:main" })
	require.GreaterOrEqual(t, i, 0)
	assert.InDelta(t, 274.4, *tests[i].Expected, 0.05)
	for v, want := range map[float64]working.Verdict{274: working.Pass, 250: working.Pass, 200: working.Fail, 320: working.Fail} {
		got, _ := tests[i].Judge(install.Record{Value: &v})
		assert.Equal(t, want, got, "%g", v)
	}
}

// Table 210.21(B)(3), and a single outlet by 210.21(B)(1).
func TestOutletsOnTheirCircuit(t *testing.T) {
	for _, x := range []struct {
		outlet, circuit float64
		single, fits    bool
	}{
		{15, 15, false, true}, {20, 15, false, false}, {15, 20, false, true}, {20, 20, false, true}, {30, 20, false, false},
		{30, 30, false, true}, {20, 30, false, false}, {50, 40, false, true}, {40, 40, false, true}, {50, 50, false, true},
		{40, 50, false, false},
		{20, 20, true, true}, {15, 20, true, false}, {30, 20, true, true},
	} {
		assert.Equal(t, x.fits, outletFits(x.outlet, x.circuit, x.single) == "", "%g on %g, single %v", x.outlet, x.circuit, x.single)
	}
}

// Every name that a job may hold is called something, and what is drawn and joined is
// counted.
func TestWordsAndParts(t *testing.T) {
	words := Practice{}.Words()
	for _, list := range [][]string{terms.Uses, terms.CableTypes, terms.Categories, terms.Families, terms.RCDTypes, terms.Patterns} {
		for _, id := range list {
			assert.NotEmpty(t, words[id], id)
		}
	}
	for _, id := range terms.Places {
		assert.NotEmpty(t, words["place:"+id], id)
		_, err := protectionOf("2023", outlet{Room: id, Volts: legV})
		assert.NoError(t, err, id)
	}
	for _, cable := range terms.CableTypes {
		for _, m := range terms.Methods[cable] {
			assert.NotEmpty(t, words[m], m)
		}
		assert.NotEmpty(t, terms.Sizes[cable], cable)
		for _, mm2 := range terms.Sizes[cable] {
			assert.NotEmpty(t, SizeOf(mm2))
			assert.InDelta(t, mm2, AreaMM2(SizeOf(mm2)), 0)
		}
	}
	j := house()
	count := map[string]float64{}
	for _, p := range (Practice{}).Parts(j, &j.Circuits[1]) {
		count[p.Key] += p.Count
	}
	assert.InDelta(t, 4, count["connector:twist:12:3"], 0, "the ground of the first box, whose load side feeds the second, which joins all three")
	assert.InDelta(t, 1, count["outlet:gfci:20:shuttered"], 0)
	assert.InDelta(t, 0.5*4, count["pigtail:12"], 1e-9, "half a foot each")
	j.Circuits[0].Route.CableType, j.Circuits[0].Route.CPCMM2 = "thhn-emt", AreaMM2("10")
	for _, p := range (Practice{}).Parts(j, &j.Circuits[0]) {
		if strings.HasPrefix(p.Key, "wire:") {
			assert.InDelta(t, feet(j.Circuits[0].Route.LengthM()), p.Count, 1e-9, "the second hot")
		}
	}
}

// Two devices in one box, by hand: 2 cables of 12/2, grounds, two devices of two each:
// (4 + 1 + 4) × 2.25 in³ and six pigtails.
func TestTwoDevicesInABox(t *testing.T) {
	j := house()
	b := &j.Circuits[1].Serves.Boxes[1]
	b.Yokes = 2
	c := find(t, Practice{}.Judge(j), "c2", "box-fill")
	assert.InDelta(t, 9*2.25, *c.Value, 1e-9)
	assert.Equal(t, 6, joinedIn(j, &j.Circuits[1], b).links)
	last := &j.Circuits[1].Serves.Boxes[2]
	last.Yokes = 2
	plain := 0.0
	for _, p := range (Practice{}).Parts(j, &j.Circuits[1]) {
		if strings.HasPrefix(p.Key, "outlet:plain") {
			plain += p.Count
		}
	}
	assert.InDelta(t, 4, plain, 0)
}

// An existing three-wire circuit is named, and neither its ground nor its neutral to ground is read; what the job makes has a ground, and so has
// every circuit in Canada.
func TestAnExistingThreeWireCircuitIsNamed(t *testing.T) {
	for _, row := range []struct {
		name     string
		practice string
		state    install.CircuitState
		three    bool
		want     bool
	}{{"kept", "split120", install.KeptCircuit, true, true}, {"altered", "split120", install.AlteredCircuit, true, true}, {"new", "split120",
		install.NewCircuit, true, false},
		{"with a ground", "split120", install.KeptCircuit, false, false}, {"in Canada", CanadaID, install.AlteredCircuit, true, false}} {
		t.Run(row.name, func(t *testing.T) {
			j := house()
			j.Practice = row.practice
			k := circuitOf("c9", "dryer", 9)
			k.State, k.Serves.ThreeWire = row.state, row.three
			j.Circuits = append(j.Circuits, k)
			p := Practice{}
			report := p.Judge(j)
			has := map[string]bool{}
			for _, x := range p.Tests(j, &report) {
				if x.Circuit == "c9" {
					has[x.ID] = true
					assert.Contains(t, TestIDs, x.ID)
				}
			}
			assert.Equal(t, row.want, has["three-wire"])
			assert.Equal(t, !row.want, has["ground-continuity"])
			assert.False(t, row.want && (has["ng"] || has["hg"]))
		})
	}
}
