package iec230

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// anyHouse is a house of n circuits drawn by a seed, with feeds and groups.
func anyHouse(seed uint64, n int) *install.Job {
	rng := rand.New(rand.NewPCG(seed, 7))
	names := make([]string, n)
	for i := range names {
		names[i] = templates[rng.IntN(len(templates))]
	}
	j := wired(names...)
	j.Supply.Earthing = []install.Earthing{"TN-S", "TN-C-S", "TT"}[rng.IntN(3)]
	j.Supply.ElectrodeOhm = num(float64(20 + rng.IntN(300)))
	j.Supply.ZeOhm, j.Supply.PFCkA = num(0.1+rng.Float64()*0.7), num(0.5+rng.Float64()*5)
	j.Board.Groups = []install.Group{{ID: "g1", Name: "one", RCDType: "A", IdnMA: 30, RatingA: 63},
		{ID: "g2", Name: "two", RCDType: "AC", IdnMA: 30, RatingA: 80}}
	if rng.IntN(3) == 0 {
		j.Schools.Local = []install.LocalRule{{Rule: "drop-other", Value: 2 + 4*rng.Float64(), Reason: "the works"}}
	}
	feeds := []string{""}
	for i := range j.Circuits {
		c := &j.Circuits[i]
		c.Route.Segments[0].LengthM = 1 + rng.Float64()*60
		c.Serves.Outlets = 1 + rng.IntN(14)
		c.Serves.AreaM2 = float64(10 + rng.IntN(100))
		c.Serves.Concealed, c.Serves.Bath, c.Serves.Spread = rng.IntN(2) == 0, rng.IntN(4) == 0, rng.IntN(3) == 0
		if rng.IntN(4) == 0 && c.Use != "ev" && c.Use != "distribution" {
			c.Protection.RCDType, c.Protection.IdnMA, c.Protection.Group = "", 0, j.Board.Groups[rng.IntN(2)].ID
		}
		switch rng.IntN(9) {
		case 0:
			c.Route.CPC, c.Route.CPCMM2 = "separate", []float64{2.5, 4, 10}[rng.IntN(3)]
		case 1:
			if cableKinds[c.Route.CableType].armoured {
				c.Route.CPC, c.Route.ArmourMM2, c.Route.ArmourMOhmM = "armour", num(20+40*rng.Float64()), num(2+4*rng.Float64())
			}
		case 2:
			c.Serves.Recessed = install.Recess{Fitted: true, Fire: rng.IntN(2) == 0}
		}
		c.Out = install.Out{Building: rng.IntN(2) == 0, Choice: []string{"", "export", "electrode"}[rng.IntN(3)],
			RaOhm: num(30 + 300*rng.Float64())}
		c.From = feeds[rng.IntN(len(feeds))]
		if c.Use == "distribution" {
			feeds = append(feeds, c.ID)
		}
	}
	return j
}

// byCheck maps circuit and check to the check.
func byCheck(r rulebook.Report) map[string]working.Check {
	out := map[string]working.Check{}
	for _, c := range r.Checks() {
		out[c.Circuit+"/"+c.ID] = c
	}
	return out
}

const houses = 60

func TestALongerCableNeverHelps(t *testing.T) {
	for seed := range uint64(houses) {
		j := anyHouse(seed, 14)
		before := byCheck(reportOf(j))
		at := int(seed) % len(j.Circuits)
		j.Circuits[at].Route.Segments[0].LengthM += 7
		after := byCheck(reportOf(j))
		for key, was := range before {
			now := after[key]
			if was.Value == nil || now.Value == nil {
				continue
			}
			switch was.ID {
			case "voltage-drop", "loop":
				assert.GreaterOrEqual(t, *now.Value+1e-9, *was.Value, "%d %s", seed, key)
			case "breaking-capacity":
				assert.LessOrEqual(t, *now.Value, *was.Value+1e-9, "%d %s", seed, key)
			case "withstand":
				continue
			}
		}
	}
}

func TestALargerConductorNeverHurtsWhatItCarries(t *testing.T) {
	for seed := range uint64(houses) {
		j := anyHouse(seed, 14)
		k := &j.Circuits[int(seed)%len(j.Circuits)]
		sizes := terms.Sizes[k.Route.CableType]
		i := slices.Index(sizes, k.Route.LineMM2)
		if i+1 >= len(sizes) {
			continue
		}
		before := byCheck(reportOf(j))
		k.Route.LineMM2 = sizes[i+1]
		after := byCheck(reportOf(j))
		for _, id := range []string{"voltage-drop", "loop"} {
			was, now := before[k.ID+"/"+id], after[k.ID+"/"+id]
			if was.Value != nil && now.Value != nil {
				assert.LessOrEqual(t, *now.Value, *was.Value+1e-9, "%d %s %s", seed, k.Name, id)
			}
		}
		if was, now := before[k.ID+"/capacity"], after[k.ID+"/capacity"]; was.Limit != nil && now.Limit != nil {
			assert.GreaterOrEqual(t, *now.Limit+1e-9, *was.Limit, "%d %s", seed, k.Name)
		}
	}
}

func TestDemandNeverFallsWhenALoadIsAdded(t *testing.T) {
	for seed := range uint64(houses) {
		j := anyHouse(seed, 10)
		before := reportOf(j).Demand.AfterA
		for _, template := range templates {
			more := *j
			c := Practice{}.Defaults(template)
			c.ID = "more"
			more.Circuits = append(slices.Clone(j.Circuits), c)
			assert.GreaterOrEqual(t, reportOf(&more).Demand.AfterA+1e-9, before, "%d with %s", seed, template)
		}
	}
}

func TestOneDeviceForEachCircuitNeverDarkensMore(t *testing.T) {
	for seed := range uint64(houses) {
		j := anyHouse(seed, 14)
		before := Dark(j)
		for i := range j.Circuits {
			if p := &j.Circuits[i].Protection; j.GroupOf(&j.Circuits[i]) != nil {
				p.Group, p.RCDType, p.IdnMA = "", "A", 30
			}
		}
		after := Dark(j)
		sum := func(ns []int) (n int) {
			for _, x := range ns {
				n += x * x // a trip darkens x circuits, and each of x may cause it
			}
			return n
		}
		assert.LessOrEqual(t, sum(after), sum(before), "%d", seed)
		if len(before) > 0 {
			assert.LessOrEqual(t, after[0], before[0], "%d", seed)
		}
	}
}

func TestTheOrderOfCircuitsDoesNotMatter(t *testing.T) {
	for seed := range uint64(20) {
		j := anyHouse(seed, 14)
		before := byCheck(reportOf(j))
		slices.Reverse(j.Circuits)
		after := byCheck(reportOf(j))
		require.Len(t, after, len(before))
		for key, was := range before {
			now := after[key]
			assert.Equal(t, was.Verdict, now.Verdict, "%d %s", seed, key)
			if was.Value != nil && assert.NotNil(t, now.Value, "%d %s", seed, key) {
				assert.InDelta(t, *was.Value, *now.Value, 1e-9, "%d %s", seed, key)
			}
		}
	}
}

func TestARemedyMakesNothingElseFail(t *testing.T) {
	offered := 0
	for seed := range uint64(25) {
		j := anyHouse(seed, 8)
		before := Practice{}.Report(j, nil)
		was := byCheck(before)
		for _, c := range before.Checks() {
			for _, r := range c.Remedies {
				changed := taken(t, j, r)
				now := byCheck(reportOf(changed))
				offered++
				assert.NotEqual(t, working.Fail, now[c.Circuit+"/"+c.ID].Verdict, "%d %s", seed, r.Title)
				for key, after := range now {
					if old, there := was[key]; there && after.Verdict == working.Fail {
						assert.Equal(t, working.Fail, old.Verdict, "%d: %s makes %s fail", seed, r.Title, key)
					}
				}
			}
		}
	}
	assert.Greater(t, offered, 20, "the houses have something to mend")
}

// taken takes a remedy as the interface does: field by field of the part.
func taken(t testing.TB, j *install.Job, r working.Remedy) *install.Job {
	out := *j
	out.Circuits = slices.Clone(j.Circuits)
	for _, s := range r.Sets {
		for i := range out.Circuits {
			if "circuits/"+out.Circuits[i].ID != s.Part {
				continue
			}
			raw, err := json.Marshal(out.Circuits[i])
			require.NoError(t, err)
			var tree map[string]any
			require.NoError(t, json.Unmarshal(raw, &tree))
			at := tree
			path := s.Field
			for k := 0; k < len(path); k++ {
				if path[k] == '.' {
					at, path, k = at[path[:k]].(map[string]any), path[k+1:], -1
				}
			}
			at[path] = s.Value
			raw, err = json.Marshal(tree)
			require.NoError(t, err)
			var c install.Circuit
			require.NoError(t, json.Unmarshal(raw, &c))
			out.Circuits[i] = c
		}
	}
	return &out
}

func TestJudgingIsReportingWithoutRemedies(t *testing.T) {
	for seed := range uint64(10) {
		j := anyHouse(seed, 8)
		full, bare := Practice{}.Report(j, nil), Practice{}.Judge(j)
		for i := range full.Job {
			full.Job[i].Remedies = bare.Job[i].Remedies
		}
		for k := range full.Circuits {
			for i := range full.Circuits[k].Checks {
				full.Circuits[k].Checks[i].Remedies = []working.Remedy{}
			}
		}
		assert.Equal(t, full, bare, "%d", seed)
	}
}

func TestAReadingTakenToOperatingTemperatureComesBack(t *testing.T) {
	for c := -10.0; c <= 40; c += 5 {
		hot := ZsAtOperating(0.3, 0.9, c, HotMultiplier(70))
		back := 0.3 + (hot-0.3)*(1+physics.TempCoefficient*(c-20))/HotMultiplier(70)
		assert.InDelta(t, 0.9, back, 1e-12)
	}
}

// Whatever a job holds, a sheet shows numbers: never NaN, never infinity.
func FuzzAnyHouseComputes(f *testing.F) {
	for seed := range uint64(4) {
		raw, err := json.Marshal(anyHouse(seed, 6))
		require.NoError(f, err)
		f.Add(raw)
	}
	f.Fuzz(func(t *testing.T, raw []byte) {
		var j install.Job
		if json.Unmarshal(raw, &j) != nil {
			return
		}
		j.Tidy()
		if j.Validate(terms) != nil || len(j.Circuits) > 40 {
			return
		}
		r := Practice{}.Report(&j, nil)
		if _, err := json.Marshal(r); err != nil {
			t.Fatal(err)
		}
	})
}

// A house of five points a circuit, with its working and what would mend it; as
// built, nothing in it fails that a circuit could mend.
func BenchmarkHouse(b *testing.B) {
	for _, n := range []int{10, 40, 100, 1000} {
		names := make([]string, n)
		for i := range names {
			names[i] = []string{"ring", "sockets-20", "lighting-6", "cooker-32", "water-stored"}[i%5]
		}
		j := wired(names...)
		j.Loads.Items = []install.Load{}
		for i := range j.Circuits {
			j.Circuits[i].Serves.Outlets = 5
		}
		b.Run(fmt.Sprintf("circuits-%d", n), func(b *testing.B) {
			b.ReportAllocs()
			var r rulebook.Report
			for b.Loop() {
				r = Practice{}.Report(j, nil)
			}
			b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N)/float64(n), "µs/circuit")
			b.ReportMetric(float64(len(failed(r))), "failing")
		})
	}
}

func failed(r rulebook.Report) (out []string) {
	for _, c := range r.Checks() {
		if c.Verdict == working.Fail {
			out = append(out, c.Circuit+"/"+c.ID)
		}
	}
	return out
}
