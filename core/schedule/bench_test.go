package schedule

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// company is what a small firm has open: jobs of forty tasks each in half hours, with gates, five people of whom two climb and three isolate, a tester, and
// rooms in which one crew works at a time.
func company(jobs int) *Problem {
	rnd := rand.New(rand.NewPCG(7, 11))
	const people, day, days = 5, 16, 120
	p := &Problem{Slots: day * days}
	for range people + 1 { // and the tester
		p.Resources = append(p.Resources, Resource{Cap: 1})
	}
	p.Resources[1].Out = NewSlots(p.Slots)
	p.Resources[1].Out.Add(3*day, 8*day) // a week off
	everybody, isolate, climb := []int{0, 1, 2, 3, 4}, []int{0, 1, 2}, []int{0, 3}
	dark := NewSlots(p.Slots)
	for d := range days {
		dark.Add(d*day+14, d*day+16)
	}
	for job := range jobs {
		p.Weights = append(p.Weights, 1)
		room := len(p.Resources)
		for range 4 {
			p.Resources = append(p.Resources, Resource{Cap: 1})
		}
		begin := len(p.Tasks)
		for k := range 40 {
			t := Task{Dur: 1 + rnd.IntN(8), Group: job, From: day * rnd.IntN(5) * (k % 2)}
			if k > 2 {
				t.After = append(t.After, begin+k-1-rnd.IntN(3))
			}
			switch k % 8 {
			case 3:
				t.Crew, t.Not = []Need{{climb, 1}, {everybody, 1}}, dark
			case 5:
				t.Crew = []Need{{isolate, 1}}
			case 7:
				t.Crew, t.Uses = []Need{{isolate, 1}}, []Use{{people, 1}}
			default:
				t.Crew, t.Uses = []Need{{everybody, 1}}, []Use{{room + rnd.IntN(4), 1}}
			}
			p.Tasks = append(p.Tasks, t)
		}
	}
	return p
}

func TestACompanyIsScheduledWhole(t *testing.T) {
	p := company(4)
	first := Solve(p, Options{Schedules: people, Chance: chances(1)})
	x := Solve(p, Options{Schedules: 600, Chance: chances(1)})
	kept(t, p, &x)
	assert.NotContains(t, x.Start, -1)
	assert.LessOrEqual(t, x.Cost, first.Cost)
	assert.Equal(t, x, Solve(p, Options{Schedules: 600, Chance: chances(1)}), "the same again")

	// What is pinned stays, whatever it costs the others; and a change begins with the order that stood.
	p.Tasks[20].Pinned, p.Tasks[20].From = true, x.Start[20]+33
	y := Solve(p, Options{Schedules: 100, Chance: chances(1), Before: List(&x)})
	kept(t, p, &y)
	assert.Equal(t, x.Start[20]+33, y.Start[20])

	// What nobody can do has no place, and neither has what follows it.
	p.Tasks[5].Crew = []Need{{nil, 1}}
	z := Solve(p, Options{Schedules: 100, Chance: chances(1)})
	kept(t, p, &z)
	assert.Equal(t, -1, z.Start[5])
	stopped := 0
	Solve(p, Options{Schedules: 100000, Chance: chances(1), Stop: func() bool { stopped++; return stopped > 2 }})
	assert.Equal(t, 3, stopped)
}

func BenchmarkCompany(b *testing.B) {
	p := company(10)
	require.Len(b, p.Tasks, 400)
	var x Plan
	b.Run("first", func(b *testing.B) {
		for b.Loop() {
			x = Solve(p, Options{Schedules: 1, Chance: chances(1)})
		}
	})
	b.Run("400 tasks of 10 jobs", func(b *testing.B) {
		for b.Loop() {
			x = Solve(p, Options{Schedules: UsualSchedules / 5, Chance: chances(1)})
		}
		b.ReportMetric(x.Cost, "cost")
	})
	list := List(&x)
	p.Tasks[100].Dur += 6
	b.Run("one of them changed", func(b *testing.B) {
		for b.Loop() {
			x = Solve(p, Options{Schedules: 150, Chance: chances(1), Before: list})
		}
		b.ReportMetric(x.Cost, "cost")
	})
}

func BenchmarkThirtyTasks(b *testing.B) {
	p := instance{30, 4, 1.8, 1, 0.2, 1035}.problem()
	for b.Loop() {
		Solve(p, Options{Chance: chances(1)})
	}
}
