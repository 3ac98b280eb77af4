package whole

import (
	"fmt"
	"testing"

	"arvelt/core/dark"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/runs"
	"arvelt/core/survey"
)

// BenchmarkView is the whole job: checks, take-off, tasks, tests, readiness.
func BenchmarkView(b *testing.B) {
	job := designed()
	b.ReportAllocs()
	for b.Loop() {
		if v := Of(job, nil, vik, day); len(v.Tasks) == 0 {
			b.Fatal("tasks")
		}
	}
}

// ofRuns is a house of 60 circuits and 420 points on their runs, every leg known, every second circuit a ring.
func ofRuns(tb testing.TB) *install.Job {
	tb.Helper()
	templates := make([]string, 60)
	for i := range templates {
		templates[i] = []string{"ring", "lighting-6"}[i%2]
	}
	j := started("iec230", install.Rewire, templates...)
	terms := Practices["iec230"].Terms()
	for i := range j.Circuits {
		j.Rooms = append(j.Rooms, install.Room{ID: fmt.Sprintf("r%d", i), Name: fmt.Sprintf("Room %d", i), Floor: fmt.Sprint(i % 3), At: float64(i + 1),
			Points: []install.RoomPoint{{ID: "p", Kind: []string{"socket-2", "light"}[i%2], Count: 7, State: install.New}}})
		j.Tidy()
		ch := install.RunChange{Do: install.PlacePoint, Circuit: j.Circuits[i].ID, Room: j.Rooms[i].ID, Point: "p"}
		for _, step := range []install.RunChange{ch, {Do: install.DivideRoute, Circuit: ch.Circuit}} {
			if _, err := j.Rerun(step, terms, survey.Placing(Practices["iec230"].Survey())); err != nil {
				tb.Fatal(err)
			}
		}
		for _, l := range j.Circuits[i].Legs() {
			if _, err := j.Rerun(install.RunChange{Do: install.SetLeg, Circuit: ch.Circuit, Box: l.To, LengthM: 4}, terms, nil); err != nil {
				tb.Fatal(err)
			}
		}
	}
	ze, fuse := 0.35, 100.0
	j.Supply.Earthing = install.TNCS
	j.Supply.ZeOhm, j.Supply.MainFuseA = install.Fact{Value: &ze, Basis: install.Measured}, install.Fact{Value: &fuse, Basis: install.Measured}
	return j
}

// BenchmarkHouseOfRuns are 60 circuits and 420 points: every check with the figures at every point, what goes dark by each device, the
// whole view, and one run alone, as a change of it asks for.
func BenchmarkHouseOfRuns(b *testing.B) {
	job := ofRuns(b)
	p := Practice(job)
	b.Run("judged", func(b *testing.B) {
		for b.Loop() {
			if r := p.Judge(job); r.Circuits[0].Run[3].ZsHot == nil {
				b.Fatal("a point without its figures")
			}
		}
	})
	b.Run("dark", func(b *testing.B) {
		for b.Loop() {
			if len(dark.Of(job).Devices) != 61 {
				b.Fatal("devices")
			}
		}
	})
	b.Run("view", func(b *testing.B) {
		for b.Loop() {
			Of(job, nil, vik, day)
		}
	})
	report, chain := p.Judge(job), p.Chain(job)
	customs := practiceOf(p, job, &report, &chain, day)
	list := map[string]materials.Item{"cable": {Unit: "m", Price: 1, Packs: []float64{50, 100}}}
	b.Run("order list", func(b *testing.B) {
		for b.Loop() {
			if t := takeOf(p, job, &report, &chain, &customs, list); len(t.Gaps) > 0 {
				b.Fatal(t.Gaps)
			}
		}
	})
	b.Run("cut plans", func(b *testing.B) {
		t := takeOf(p, job, &report, &chain, &customs, list)
		for b.Loop() {
			if plans := materials.CutPlans(&t, job, nil); plans[0].Lacks != "" {
				b.Fatal(plans[0].Lacks)
			}
		}
	})
	b.Run("stock", func(b *testing.B) {
		t := takeOf(p, job, &report, &chain, &customs, list)
		stock := []materials.Kept{}
		for i := range 300 {
			stock = append(stock, materials.Kept{Product: t.Lines[0].Key, Unit: t.Lines[0].Unit, ByLength: true, Count: float64(1 + i%60)})
		}
		for b.Loop() {
			if offers := materials.FromStock(&t, job, stock); len(offers) == 0 || !offers[0].Does {
				b.Fatal(len(offers))
			}
		}
	})
	list["hour"] = materials.Item{Unit: "h", Price: 40}
	view := Of(job, list, vik, day)
	b.Run("price", func(b *testing.B) {
		for b.Loop() {
			if p := priceOf(&view, list, install.QuoteRule{}, day); len(p.Items) < 60 {
				b.Fatal(len(p.Items))
			}
		}
	})
	b.Run("quote", func(b *testing.B) {
		for b.Loop() {
			QuoteOf(job, list, install.QuoteRule{}, vik, day)
		}
	})
	b.Run("van", func(b *testing.B) {
		for b.Loop() {
			if l := VanOf(&view, nil, day); len(l.Items) < 10 {
				b.Fatal(len(l.Items))
			}
		}
	})
	b.Run("substitutes", func(b *testing.B) {
		for b.Loop() {
			if s, err := SubstitutesOf(job, list, vik, day, view.Take.Lines[0].Key); err != nil || len(s.Options) == 0 {
				b.Fatal(err, s)
			}
		}
	})
	b.Run("one run", func(b *testing.B) {
		for b.Loop() {
			runs.Of(&job.Circuits[0])
		}
	})
	b.Run("one run with its checks", func(b *testing.B) {
		one := *job
		one.Circuits = job.Circuits[:1]
		for b.Loop() {
			p.Judge(&one)
		}
	})
}
