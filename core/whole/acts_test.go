package whole

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/plan"
)

// actJobs is how many random trenches are tried in each practice.
const actJobs = 150

// trench is a job with one trench whose facts are some right, some wrong and some missing.
func trench(r *rand.Rand, practice string) *install.Job {
	one := func(of ...string) string { return of[r.IntN(len(of))] }
	maybe := func() *bool { return []*bool{nil, new(true), new(false)}[r.IntN(3)] }
	run := install.Run{ID: "t", Name: "Yard", Kind: install.Trench, DuctMM: 50, Located: one("", "unknown", "L 40", "L 41"),
		LocatedTo: one("", day.AddDate(0, 0, -1).Format(time.DateOnly), day.AddDate(0, 0, 3).Format(time.DateOnly)),
		DugBy:     one("", "we"), Liable: one("", "we"), String: maybe(), Capped: maybe()}
	surface := Practices[practice].Outdoor(&install.Job{}).Covers[0].Place
	for n := range 1 + r.IntN(3) {
		s := install.RunStretch{Place: fmt.Sprint("part ", n), LengthM: 4, Surface: one(surface, surface, ""), CoverMM: []float64{200, 900}[r.IntN(2)],
			RibbonMM: []float64{0, 400}[r.IntN(2)], BendDeg: []float64{0, 90, 180}[r.IntN(3)], RadiusMM: []float64{0, 900}[r.IntN(2)]}
		if deep := []float64{150, 900}[r.IntN(2)]; r.IntN(3) > 0 {
			s.DugMM = install.Fact{Value: &deep, Basis: install.Measured}
		}
		run.Stretches = append(run.Stretches, s)
	}
	if r.IntN(3) == 0 {
		run.Found = []install.Obstruction{{What: "ledge", AtM: 1, LengthM: 1, Option: one("", "break out")}}
	}
	job := &install.Job{Ref: "PW-1", Practice: practice, Kind: install.EVCharger, Outdoor: install.Outdoor{Runs: []install.Run{run}}}
	Carry(job)
	return job
}

// digs and fills say naively, from the facts alone, whether the ground may be broken and the trench filled.
func digs(r *install.Run) bool {
	return strings.ContainsAny(r.Located, "0123456789") && r.LocatedTo >= day.Format(time.DateOnly) && r.DugBy != "" && r.Liable != ""
}

func fills(r *install.Run) bool {
	bends := 0.0
	for _, s := range r.Stretches {
		if bends += s.BendDeg; s.Surface == "" || !s.DugMM.Known() || s.DugMM.V() < 600 || s.RibbonMM < 200 || s.BendDeg > 0 && s.RadiusMM < 600 {
			return false
		}
	}
	for _, o := range r.Found {
		if o.Option == "" {
			return false
		}
	}
	return bends <= 360 && r.String != nil && *r.String && r.Capped != nil && *r.Capped
}

// right is the run with every fact as it must be.
func right(r *install.Run, surface string) {
	r.Located, r.LocatedTo, r.DugBy, r.Liable, r.String, r.Capped = "L 40", day.AddDate(0, 0, 3).Format(time.DateOnly), "we", "we", new(true), new(true)
	for i := range r.Stretches {
		deep := 900.0
		r.Stretches[i].Surface, r.Stretches[i].CoverMM, r.Stretches[i].RibbonMM = surface, 900, 400
		r.Stretches[i].BendDeg, r.Stretches[i].RadiusMM, r.Stretches[i].DugMM = 0, 0, install.Fact{Value: &deep, Basis: install.Measured}
	}
	for i := range r.Found {
		r.Found[i].Option = "break out"
	}
}

// No act that a failing rule holds is ever accepted, and none is held for ever: once every fact is right each step of the trench is taken, in
// its order.
func TestHeldActsAreNeitherTakenNorHeldForEver(t *testing.T) {
	who := install.Person{ID: "p", Name: "Ada", Role: install.RoleSupervisor, Holds: install.EveryAuthority}
	for _, practice := range []string{"iec230", "split120"} {
		held, taken := 0, 0
		for seed := range uint64(actJobs) {
			job := trench(rand.New(rand.NewPCG(seed, 18)), practice)
			run := &job.Outdoor.Runs[0]
			tick := func(task plan.Task, at time.Time) error {
				r := install.Record{Kind: install.Tick, Subject: task.ID, Circuit: task.Circuit, Done: true, Note: "seen", Person: "Ode"}
				if _, err := Allow(job, who, r, nil, at); err != nil {
					return err
				}
				r.ID, r.At, r.By, r.PersonID = task.ID, at, who.Name, who.ID
				job.Records = append(job.Records, r)
				return nil
			}
			walk := func() {
				for n, task := range Of(job, nil, who, day).Tasks {
					if !strings.HasPrefix(task.ID, "run-t-") || task.Done {
						continue
					}
					err := tick(task, day.Add(time.Duration(n)*time.Second))
					step := strings.TrimPrefix(task.ID, "run-t-")
					if err != nil {
						held++
						continue
					}
					taken++
					switch step {
					case "dig":
						require.True(t, digs(run), "%s %d: dug with %+v", practice, seed, run)
					case "halffill", "fill", "ballast", "pull":
						require.True(t, fills(run), "%s %d: %s with %+v", practice, seed, step, run)
					}
				}
			}
			walk()
			right(run, Practices[practice].Outdoor(job).Covers[0].Place)
			job.Supply.Meter = install.MeterSet{On: day.Format(time.DateOnly), Reading: "1", Seal: "2"}
			walk()
			for _, task := range Of(job, nil, who, day).Tasks {
				if strings.HasPrefix(task.ID, "run-t-") && task.Stage == install.FirstFix {
					require.True(t, task.Done, "%s %d: %s is held for ever: %s", practice, seed, task.ID, task.Closed)
				}
			}
		}
		assert.Greater(t, held, actJobs, "some are held")
		assert.Greater(t, taken, actJobs, "and some are not")
	}
}
