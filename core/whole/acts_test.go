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
	"arvelt/core/outage"
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

// byOperator is the way to isolate for which the operator comes on the day.
var byOperator = map[string]string{"iec230": "operator-fuse", "split120": "utility-disconnect"}

// planned is a job whose supply goes off on a day, with facts of its list that are some right, some wrong and some missing.
func planned(r *rand.Rand, practice string) *install.Job {
	maybe := func() *bool { return []*bool{nil, new(true), new(false)}[r.IntN(3)] }
	date := func() string {
		return []string{"", day.Format(time.DateOnly), day.AddDate(0, 0, 1).Format(time.DateOnly)}[r.IntN(3)]
	}
	job := map[string]func() *install.Job{"iec230": designed, "split120": solar120}[practice]()
	job.Kind, job.Records = install.Rewire, nil
	o := &job.Outage
	o.Day, o.Route, o.BookedOn = day.Format(time.DateOnly), []string{"", byOperator[practice]}[r.IntN(2)], date()
	o.Inspector = install.Booking{Needed: maybe(), Who: "Ada Finch", On: date()}
	o.LightReady, o.DarkReady, o.Start, o.Crew = maybe(), new(true), "07:00", 1+r.IntN(6)
	if r.IntN(2) == 0 {
		o.Temporary = []install.Temporary{{What: "freezer", Ready: r.IntN(2) == 0}}
	} else {
		o.NoTemporary = r.IntN(2) == 0
	}
	switch tail := 0.2 + r.Float64()/2; r.IntN(3) {
	case 0:
		o.NoTails = true
	case 1:
		job.Found.Circuits = []install.FoundCircuit{{Name: "Old ring", TailM: install.Fact{Value: &tail, Basis: install.Measured}, Joint: r.IntN(2) == 0}}
	}
	Carry(job)
	return job
}

// offHeld says naively, from the facts alone, what nobody may let go holds the planned outage; empty for nothing.
func offHeld(job *install.Job) string {
	o := &job.Outage
	for _, k := range job.Found.Circuits {
		if !k.Joint && k.TailM.V() < 0.4 {
			return "a tail is short"
		}
	}
	for _, t := range o.Temporary {
		if !t.Ready {
			return "no temporary supply"
		}
	}
	switch in := &o.Inspector; {
	case o.Route == "" || o.BookedOn != o.Day:
		return "no way, or another day"
	case in.Needed == nil || *in.Needed && in.On != o.Day:
		return "inspector"
	case o.LightReady == nil || !*o.LightReady:
		return "light"
	case len(o.Temporary) == 0 && !o.NoTemporary:
		return "nobody asked who needs the supply"
	case len(job.Found.Circuits) == 0 && !o.NoTails:
		return "tails"
	}
	return ""
}

// The supply never goes off as planned while a line of the list holds it that is not right and that nobody let go, and is held by none for ever.
func TestThePlannedOutageIsNeitherTakenNorHeldForEver(t *testing.T) {
	who := install.Person{ID: "p", Name: "Ada", Role: install.RoleSupervisor, Holds: install.EveryAuthority}
	for _, practice := range []string{"iec230", "split120"} {
		held, taken := 0, 0
		for seed := range uint64(actJobs / 3) {
			job := planned(rand.New(rand.NewPCG(seed, 19)), practice)
			at := day
			do := func(r install.Record) error {
				at = at.Add(time.Second)
				Stamp(job, &r, nil, at)
				if _, err := Allow(job, who, r, nil, at); err != nil {
					return err
				}
				r.ID, r.At, r.By, r.PersonID, r.Role = fmt.Sprint("r", len(job.Records)), at, who.Name, who.ID, who.Role
				job.Records = append(job.Records, r)
				return nil
			}
			list := func() []outage.Item {
				v := Of(job, nil, who, at)
				return OutageOf(&v, routesOf(Practice(job), job, at), at).Checks
			}
			letGo := func() {
				for _, i := range list() {
					if err := do(install.Record{Kind: install.Release, Subject: install.CutOffRelease(string(i.ID)), Note: "looked at it"}); err != nil {
						require.True(t, !i.May || !i.Open(), "%s %d: %s: %s", practice, seed, i.ID, err)
					} else {
						require.True(t, i.May, "%s %d: %s was let go", practice, seed, i.ID)
					}
				}
			}
			off := install.Record{Kind: install.Tick, Subject: "outage-isolate", Done: true, Note: "seen", Person: "Ode"}
			cut := func() string {
				v := Of(job, nil, who, at)
				for _, x := range v.Tasks {
					if x.ID == "outage-isolate" {
						return x.Closed
					}
				}
				return "no such step"
			}
			require.Contains(t, cut(), "Before the cut", "%s %d: first fix is open", practice, seed)
			require.Error(t, do(off))
			letGo()
			if why := offHeld(job); why != "" {
				require.Contains(t, cut(), "Before the cut", "%s %d: %s", practice, seed, why)
				held++
			} else if !strings.Contains(cut(), "Before the cut") {
				taken++
			}
			o := &job.Outage
			o.Route, o.BookedOn, o.Inspector, o.LightReady, o.Temporary, o.NoTemporary, o.NoTails, job.Found.Circuits, o.Crew = byOperator[practice], o.Day,
				install.Booking{Needed: new(false)}, new(true), nil, true, true, nil, 6
			letGo()
			require.NotContains(t, cut(), "Before the cut", "%s %d is held for ever", practice, seed)
		}
		assert.Greater(t, held, actJobs/6, practice)
		assert.Positive(t, taken, practice)
	}
}
