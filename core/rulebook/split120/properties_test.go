package split120

import (
	"encoding/json"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Properties of a circuit over sizes and lengths.
func TestCircuitsAreMonotonic(t *testing.T) {
	value := func(j *install.Job, id string) float64 {
		c := find(t, Practice{}.Judge(j), "c1", id)
		require.NotNil(t, c.Value, "%s: %s", id, c.Summary)
		return *c.Value / *c.Limit
	}
	for _, cable := range []string{"nm-2", "mc-2", "thhn-pvc"} {
		dropBefore, loadBefore := math.Inf(1), math.Inf(1)
		for _, mm2 := range terms.Sizes[cable] {
			j := house()
			j.Circuits[0].Route.CableType, j.Circuits[0].Route.LineMM2, j.Circuits[0].Route.CPCMM2 = cable, mm2, AreaMM2("10")
			drop, load := value(j, "voltage-drop"), value(j, "conductor-load")
			assert.Less(t, drop, dropBefore, "%s %s", cable, sizeOf[mm2])
			assert.LessOrEqual(t, load, loadBefore+1e-9, "%s %s", cable, sizeOf[mm2])
			dropBefore, loadBefore = drop, load
		}
		before := 0.0
		for feet := 5.0; feet < 600; feet += 35 {
			j := house()
			j.Circuits[0].Route.Segments[0].LengthM = feet * footM
			now := value(j, "voltage-drop")
			assert.Greater(t, now, before)
			before = now
		}
	}
	hotter := math.Inf(1)
	for ambient := 20.0; ambient <= 60; ambient += 5 {
		a, _, _, err := ampacityOf("NEC", func() *install.Circuit {
			k := house().Circuits[0]
			k.Route.Segments[0].AmbientC = ambient
			return &k
		}(), "4", true)
		require.NoError(t, err)
		assert.LessOrEqual(t, a.DeratedA, hotter)
		hotter = a.DeratedA
	}
}

// Any job that is let in computes without a panic and without a figure that is none.
func FuzzJobs(f *testing.F) {
	raw, err := json.Marshal(house())
	require.NoError(f, err)
	f.Add(raw)
	for _, name := range templates {
		j := house()
		j.Circuits = []install.Circuit{circuitOf("c1", name, 1)}
		raw, err := json.Marshal(j)
		require.NoError(f, err)
		f.Add(raw)
	}
	f.Fuzz(func(t *testing.T, raw []byte) {
		var j install.Job
		if json.Unmarshal(raw, &j) != nil {
			return
		}
		j.Tidy()
		if j.Practice != "split120" || j.Validate(terms) != nil {
			return
		}
		r := Practice{}.Report(&j, nil)
		Practice{}.Tests(&j, &r)
		Practice{}.Work(&j, &r)
		if _, err := json.Marshal(r); err != nil {
			t.Fatalf("%v", err) // a NaN or an infinity
		}
	})
}

// dwelling is a whole house of n circuits, each with a string of four boxes or one load.
func dwelling(n int) *install.Job {
	j := house()
	j.Circuits = nil
	for i := range n {
		k := circuitOf(text("c", i+1), templates[i%len(templates)], 0)
		if rulesOf(k.Use).isString {
			for b := range 4 {
				x := box(text("b", b+1), "plain", "", "line")
				if b == 0 {
					x.Device, x.Feed = "gfci", "line"
				} else {
					x.From, x.Side = text("b", b), "load"
				}
				k.Serves.Boxes = append(k.Serves.Boxes, x)
			}
		}
		j.Circuits = append(j.Circuits, k)
	}
	return j
}

// The whole of a house, by its number of circuits: the cost is linear in them.
func BenchmarkDwelling(b *testing.B) {
	for _, n := range []int{10, 40, 100, 1000} {
		j := dwelling(n)
		b.Run(text(n), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if r := (Practice{}).Judge(j); len(r.Circuits) != n {
					b.Fatal("circuits")
				}
			}
		})
	}
}

// Sizes of a service never fall with its rating, nor what an electrode conductor or a
// ground needs; more is never asked of a smaller one.
func TestServiceSizesAreMonotonic(t *testing.T) {
	at := func(s string) int { return slices.Index(sizes, s) }
	for _, material := range []string{"cu", "al"} {
		conductor, electrode, ground, jumper := -1, -1, -1, -1
		for _, rating := range []float64{100, 110, 125, 150, 175, 200, 225, 250, 300, 350, 400} {
			out, _, err := calcService(serviceIn{RatingA: rating, Material: material})
			require.NoError(t, err, "%g %s", rating, material)
			for _, x := range []struct {
				key, size string
				before    *int
			}{{"conductor", out.Conductor, &conductor}, {"gec_water_cu", out.GECWaterCu, &electrode},
				{"feeder_egc_cu", out.FeederCu, &ground}, {"mbj_cu", out.Jumper, &jumper}} {
				now := at(x.size)
				assert.GreaterOrEqual(t, now, *x.before, "%s of %g A in %s", x.key, rating, material)
				*x.before = now
			}
		}
	}
}

// Results do not depend on the order of what has none: loads, circuits, ways.
func TestOrderHasNoMeaningWhereItHasNone(t *testing.T) {
	a, b := dwelling(24), dwelling(24)
	for _, n := range []string{"Pump", "Opener", "Heater"} {
		l := install.Load{Name: n, Category: "appliance", Watts: known(1200).Value, Count: 1, Basis: install.Measured}
		a.Loads.Items, b.Loads.Items = append(a.Loads.Items, l), append([]install.Load{l}, b.Loads.Items...)
	}
	slices.Reverse(b.Circuits)
	slices.Reverse(b.Board.Ways)
	ra, rb := Practice{}.Judge(a), Practice{}.Judge(b)
	assert.InDelta(t, ra.Demand.AfterA, rb.Demand.AfterA, 1e-9)
	for _, x := range ra.Circuits {
		i := slices.IndexFunc(rb.Circuits, func(y rulebook.CircuitReport) bool { return y.ID == x.ID })
		require.GreaterOrEqual(t, i, 0)
		assert.Equal(t, x.Verdict, rb.Circuits[i].Verdict, x.Name)
		assert.Equal(t, x.Summary, rb.Circuits[i].Summary, x.Name)
	}
}

// Adding a load never lowers the demand by the methods without a step, nor adding a
// circuit that draws.
func TestDemandNeverFallsWithoutAStep(t *testing.T) {
	for _, method := range []string{"existing", "optional"} {
		before := 0.0
		for n := range 9 {
			j := house()
			j.Schools.Set("loadMethod", install.Chose(method))
			for range n {
				j.Loads.Items = append(j.Loads.Items,
					install.Load{Name: "Load", Category: "appliance", Watts: known(900).Value, Count: 1, Basis: install.Measured})
			}
			r := Practice{}.Judge(j)
			assert.Greater(t, r.Demand.AfterA, before, "%s, %d", method, n)
			assert.GreaterOrEqual(t, r.Demand.AfterA, r.Demand.BeforeA)
			before = r.Demand.AfterA
		}
	}
}
