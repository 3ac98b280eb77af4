package split120

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/working"
)

// By hand. Cooking (Table 220.55): an oven of 11.4 kW alone is its nameplate, 47.5 A, and
// fails on 40 A; one of 6 kW is 25 A and passes on 30 A. A range of 9 kW counts 8 kW,
// 33.3 A, and asks for 40 A all the same. 6 + 4 kW: 10 × 65 % = 6.5. 3 + 6: 3 × 80 % +
// 6 × 80 % = 7.2. 9 + 6 kW stays in column C: 11.
func TestCooking(t *testing.T) {
	at := func(template string, watts, ratingA float64) working.Check {
		j := house()
		j.Circuits = []install.Circuit{circuitOf("c1", template, 1)}
		j.Circuits[0].Serves.PowerW, j.Circuits[0].Protection.RatingA = watts, ratingA
		return find(t, Practice{}.Judge(j), "c1", "design-current")
	}
	for _, x := range []struct {
		template       string
		watts, ratingA float64
		needs          float64
		want           working.Verdict
	}{
		{"oven", 11400, 40, 47.5, working.Fail}, {"oven", 11400, 50, 47.5, working.Pass}, {"oven", 6000, 30, 25, working.Pass},
		{"range", 9000, 35, 8000.0 / 240, working.Fail}, {"range", 9000, 40, 8000.0 / 240, working.Pass},
		{"range", 8700, 30, 8700 * 0.8 / 240, working.Pass},
	} {
		c := at(x.template, x.watts, x.ratingA)
		assert.Equal(t, x.want, c.Verdict, "%s %g W on %g A: %s", x.template, x.watts, x.ratingA, c.Summary)
		assert.InDelta(t, x.needs, *c.Value, 0.01)
	}
	for _, x := range []struct {
		kw   []float64
		want float64
	}{{[]float64{6, 4}, 6.5}, {[]float64{3, 6}, 7.2}, {[]float64{9, 6}, 11}, {[]float64{8.75}, 7}, {[]float64{8.76}, 8}} {
		got, err := RangeDemand(x.kw)
		require.NoError(t, err)
		assert.InDelta(t, x.want, got, 1e-9, "%v", x.kw)
	}
}

// By hand, a house of 1800 ft²: general 5400 + 3000 + 1500 = 9900, range 12 kW, heater
// 4.5 kW, pump 6 kW with strips of 10 kW. Optional: 10000 + 0.4 × 16400 = 16560, pump in
// full and 65 % of the strips 12500: 29060 VA, 121.1 A; interlocked 65 % of 10 kW is more
// than the pump: 23060; strips of 8 kW interlocked: the pump, 6000, counts. Existing with new
// climate: 8000 + 0.4 × 18400 = 15360, + 16000. Standard: 3000 + 0.35 × 6900 = 5415, 4500,
// range 8000, 16000 and a quarter of the 6000 VA motor.
func TestHeatPumpsWithStrips(t *testing.T) {
	load := func(name, category string, watts float64) install.Load {
		return install.Load{Name: name, Category: category, Watts: known(watts).Value, Count: 1, Volts: 240, Basis: install.Measured}
	}
	at := func(method string, strips float64, interlocked bool) float64 {
		j := house()
		j.Circuits = nil
		j.Schools.Set("loadMethod", install.Chose(method))
		s := load("Strips", "strips", strips)
		s.Interlocked = interlocked
		j.Loads.Items = append(j.Loads.Items, load("Pump", "heat-pump", 6000), s)
		return Practice{}.Judge(j).Demand.AfterA * 240
	}
	assert.InDelta(t, 29060, at("optional", 10000, false), 0.1)
	assert.InDelta(t, 16560+6500, at("optional", 10000, true), 0.1)
	assert.InDelta(t, 16560+6000, at("optional", 8000, true), 0.1, "an interlocked pump larger than 65 % of its strips")
	assert.InDelta(t, 5415+4500+8000+16000+1500, at("standard", 10000, false), 0.1)
	j := house()
	j.Circuits = []install.Circuit{circuitOf("c1", "heat-pump", 1), circuitOf("c2", "strips", 3)}
	j.Circuits[0].Point.CurrentA, j.Circuits[1].Serves.PowerW = 25, 10000 // 6000 VA
	assert.InDelta(t, 8000+0.4*18400+16000, Practice{}.Judge(j).Demand.AfterA*240, 0.1, "220.83(B): both in full")
}

// By hand: a 24 kW tankless heater counts in full (8-200(1)(a)(v)), so 120 m² with a range
// and 24 kW: 5000 + 1000 + 6000 + 24000 = 36 kW, 150 A; as an ordinary load 18 kW. Heat
// of 15 kW: by room 10000 + 0.75 × 5000 = 13750, central 15000. 75 m² above a basement of
// 60 m² are under 80 m²: the minimum is 14400 W, not 24000.
func TestTheCanadianLoad(t *testing.T) {
	at := func(change func(*install.Job)) float64 {
		j := house()
		j.Circuits, j.Loads.Items = nil, []install.Load{{Name: "Range", Category: "range", Watts: known(12000).Value,
			Count: 1, Basis: install.Measured}}
		j.Practice, j.Loads.AreaM2, j.Loads.BasementM2 = CanadaID, known(120), known(0)
		change(j)
		return Practice{}.Judge(j).Demand.AfterA * 240
	}
	add := func(category string, watts float64, room bool) func(*install.Job) {
		return func(j *install.Job) {
			j.Loads.Items = append(j.Loads.Items, install.Load{Name: "x", Category: category, Watts: &watts, Count: 1,
				Volts: 240, RoomControl: room, Basis: install.Measured})
		}
	}
	assert.InDelta(t, 36000, at(add("tankless", 24000, false)), 0.1)
	assert.InDelta(t, 12000+11500+12000*0.25, at(func(j *install.Job) {
		add("appliance", 12000, false)(j)
		add("heating",
			12000, true)(j)
	}), 0.1)
	assert.InDelta(t, 24000, at(add("appliance", 24000, false)), 0.1, "12 + 6 kW is under the least of 24 kW")
	assert.InDelta(t, 12000+13750, at(add("heating", 15000, true)), 0.1)
	assert.InDelta(t, 12000+15000, at(add("heating", 15000, false)), 0.1)
	small := func(j *install.Job) { j.Loads.AreaM2, j.Loads.BasementM2, j.Loads.Items = known(75), known(60), nil }
	assert.InDelta(t, 14400, at(small), 0.1)
	assert.InDelta(t, 24000, at(func(j *install.Job) { small(j); j.Loads.AreaM2 = known(81) }), 0.1)
	j := house()
	j.Practice = CanadaID
	assert.Equal(t, working.Unknown, find(t, Practice{}.Judge(j), "", "demand").Verdict, "the basement was not asked for")
}

// By hand: eight appliances of 1800 VA at 120 V count on the neutral with 75 %: lighting of
// 2000 ft² 6000 + 4500 = 10500, net 5625; 10800; range 12 kW 70 % of 8000 = 5600: 22025 VA,
// 91.8 A: 3 AWG copper (100 A), where the appliances left out would give 11225 VA, 46.8 A
// and the jumper's floor of 4 AWG. At 240 V they are not on the neutral.
func TestTheNeutralCarriesAppliancesOf120V(t *testing.T) {
	at := func(volts float64) string {
		j := house()
		j.Circuits, j.Loads.AreaM2 = nil, known(2000*footM*footM)
		j.Loads.Items = []install.Load{{Name: "Range", Category: "range", Watts: known(12000).Value, Count: 1,
			Basis: install.Measured}, {Name: "Heater", Category: "appliance", Watts: known(1800).Value, Count: 8,
			Volts: volts, Basis: install.Measured}}
		j.Chain.Enclosures[1].Feed.Material, j.Chain.Enclosures[1].Feed.Size = "cu", "2/0"
		return find(t, Practice{}.Judge(j), "", "service-main").Summary
	}
	assert.Contains(t, at(120), "neutral at least 3 AWG")
	assert.Contains(t, at(0), "neutral at least 3 AWG", "not said: the larger neutral")
	assert.Contains(t, at(240), "neutral at least 4 AWG")
	// A load in amperes counts at its own voltage: 12 A at 120 V are 1440 VA.
	j := house()
	j.Circuits = nil
	before := Practice{}.Judge(j).Demand.AfterA
	j.Loads.Items = append(j.Loads.Items, install.Load{Name: "Pump", Category: "appliance", Amps: known(12).Value, Count: 1,
		Volts: 120, Basis: install.Measured})
	r := Practice{}.Judge(j)
	assert.InDelta(t, 0.4*1440/240, r.Demand.AfterA-before, 1e-6)
	assert.Equal(t, working.Pass, find(t, r, "", "demand").Verdict)
	j.Loads.Items[2].Volts = 0
	r = Practice{}.Judge(j)
	assert.InDelta(t, 0.4*2880/240, r.Demand.AfterA-before, 1e-6)
	assert.Equal(t, working.Caution, find(t, r, "", "demand").Verdict, "240 V is only assumed")
}

// A record of 30 days is raised to the season and holds only without generation.
func TestAShortRecord(t *testing.T) {
	at := func(days, season float64, generation *bool) working.Check {
		j := house()
		j.Schools.Set("loadMethod", install.Chose("measured"))
		j.Loads.PeakKVA, j.Loads.PeakDays, j.Loads.SeasonFactor, j.Loads.Generation = known(14), days, season, generation
		return find(t, Practice{}.Judge(j), "", "demand")
	}
	assert.Equal(t, working.Pass, at(365, 0, nil).Verdict)
	c := at(30, 1.2, truth(false))
	assert.Equal(t, working.Pass, c.Verdict, c.Summary)
	assert.InDelta(t, math.Floor((1.25*1.2*14000+11520)/240+0.5), *c.Value, 0)
	assert.Equal(t, working.Unknown, at(30, 0, truth(false)).Verdict)
	assert.Equal(t, working.Unknown, at(30, 1.2, nil).Verdict)
	assert.Equal(t, working.Fail, at(30, 1.2, truth(true)).Verdict)
	assert.Equal(t, working.Fail, at(29, 1.2, truth(false)).Verdict)
	low := false
	for _, s := range at(30, 1.2, truth(false)).Sources {
		low = low || s.Confidence == "low"
	}
	assert.True(t, low, "it says that readings differ")
}
