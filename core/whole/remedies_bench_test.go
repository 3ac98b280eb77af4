package whole

import (
	"fmt"
	"testing"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/survey"
)

// houseOf is a house of n circuits of which most fail: 2.5 times as long as they may be, with
// every stretch estimated.
func houseOf(practice string, n int, uses ...string) *install.Job {
	p := Practices[practice]
	j := &install.Job{Format: install.Format, Ref: "B-1", Title: "House", Kind: install.Rewire, Practice: practice,
		Rules: install.Rules{Edition: p.Opening().Edition}, Schools: install.Schools{}}
	v := func(x float64) install.Fact { return install.Fact{Value: &x, Basis: install.Measured} }
	j.Supply = install.Supply{Earthing: install.Earthing(p.Opening().Earthing), DeclaredV: p.Opening().DeclaredV,
		ZeOhm: v(0.3), PFCkA: v(3), MainFuseA: v(100), TailsMM2: v(25), EarthMM2: v(16)}
	if j.Supply.Earthing == "" {
		j.Supply.Earthing = "TN-S"
	}
	for i := range n {
		c := p.Defaults(uses[i%len(uses)])
		c.ID, c.Name = fmt.Sprintf("c%d", i+1), fmt.Sprintf("Circuit %d", i+1)
		c.Protection.Way, c.Serves.Outlets = i+1, 6
		for k := range c.Route.Segments {
			c.Route.Segments[k].LengthM, c.Route.Segments[k].Basis = 90, install.Assumed
		}
		j.Board.Ways = append(j.Board.Ways, install.Way{No: i + 1})
		j.Circuits = append(j.Circuits, c)
	}
	j.Tidy()
	return j
}

// Every check of a house with what would mend it and what it costs, and the survey's report
// on its estimates: four times the circuits take no more than five times as long.
func BenchmarkRemedies(b *testing.B) {
	for _, x := range []struct {
		practice string
		uses     []string
	}{{"iec230", []string{"ring", "sockets-20", "lighting-6", "cooker-32", "water-stored"}},
		{"split120", []string{"general", "small-appliance", "lighting", "range", "dryer"}}} {
		p := Practices[x.practice]
		for _, n := range []int{10, 40, 160} {
			j := houseOf(x.practice, n, x.uses...)
			price := materials.Price(p, map[string]materials.Item{})
			b.Run(fmt.Sprintf("%s/circuits-%d", x.practice, n), func(b *testing.B) {
				remedies, failing := 0, 0
				for b.Loop() {
					r := p.Report(j, price)
					survey.Estimates(j, p)
					remedies, failing = 0, 0
					for _, c := range r.Checks() {
						if remedies += len(c.Remedies); c.Verdict == "fail" {
							failing++
						}
					}
				}
				b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N)/float64(n), "µs/circuit")
				b.ReportMetric(float64(failing), "failing")
				b.ReportMetric(float64(remedies), "remedies")
			})
		}
	}
}
