package outdoor_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/rulebook/split120"
	"arvelt/core/working"
)

func fact(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

// trench is 20 m in two stretches with two right-angle bends.
func trench() install.Run {
	return install.Run{ID: "t", Name: "Trench", Kind: install.Trench, DuctMM: 50, Located: "L1", DugBy: "D", Liable: "D",
		Stretches: []install.RunStretch{
			{Place: "lawn", LengthM: 13, Surface: "garden, low disturbance", CoverMM: 550, DugMM: fact(560), RibbonMM: 200, BendDeg: 90},
			{Place: "drive", LengthM: 7, Surface: "drive or road", CoverMM: 650, RibbonMM: 200, BendDeg: 90},
		}}
}

func worked(t *testing.T, p rulebook.Book, run install.Run, done ...string) outdoor.Run {
	ticked := map[string]bool{}
	for _, d := range done {
		ticked[d] = true
	}
	r := outdoor.Of(&install.Job{Outdoor: install.Outdoor{Runs: []install.Run{run}}}, p, ticked, "2026-06-01")
	require.Len(t, r.Runs, 1)
	return r.Runs[0]
}

func check(r outdoor.Run, id string) working.Check {
	for _, c := range r.Checks {
		if c.ID == id {
			return c
		}
	}
	return working.Check{}
}

func part(r outdoor.Run, name string) float64 {
	for _, p := range r.Parts {
		if p.Name == name {
			return p.N
		}
	}
	return 0
}

func TestCoverAsDugCountsAndAsPlannedIsAssumed(t *testing.T) {
	run := trench()
	r := worked(t, rulebook.Complete(iec230.Practice{}), run)
	assert.Equal(t, working.Pass, check(r, "run-cover-t-1").Verdict)
	assert.Equal(t, working.Caution, check(r, "run-cover-t-2").Verdict, "planned, not yet dug")
	run.Stretches[1].DugMM = fact(590)
	r = worked(t, rulebook.Complete(iec230.Practice{}), run)
	c := check(r, "run-cover-t-2")
	assert.Equal(t, working.Fail, c.Verdict)
	assert.Contains(t, c.Summary, "Dig 10 mm deeper")
	run.CoverMM = 700 // the operator asks for more than the practice
	assert.Equal(t, 700.0, worked(t, rulebook.Complete(iec230.Practice{}), run).Sections[0].NeedMM)
	run.CoverMM, run.Stretches[0].Surface = 0, ""
	assert.Equal(t, working.Unknown, check(worked(t, rulebook.Complete(iec230.Practice{}), run), "run-cover-t-1").Verdict)
}

func TestBendsRibbonStringAndLocate(t *testing.T) {
	run := trench()
	r := worked(t, rulebook.Complete(iec230.Practice{}), run)
	assert.Equal(t, 180.0, r.BendDeg)
	assert.Equal(t, working.Pass, check(r, "bends-t").Verdict)
	assert.Equal(t, working.Unknown, check(r, "draw-string-t").Verdict)
	run.Stretches[0].BendDeg, run.Stretches[1].RibbonMM, run.Stretches[0].RibbonMM = 180, 0, 100
	run.Stretches[1].BendDeg, run.LocatedTo = 181, "2026-05-30"
	no := false
	run.String = &no
	r = worked(t, rulebook.Complete(iec230.Practice{}), run)
	assert.Equal(t, working.Fail, check(r, "bends-t").Verdict)
	assert.Equal(t, working.Fail, check(r, "ribbon-t-1").Verdict)
	assert.Equal(t, working.Unknown, check(r, "ribbon-t-2").Verdict)
	assert.Equal(t, working.Fail, check(r, "draw-string-t").Verdict)
	assert.Contains(t, check(r, "locate-t").Summary, "renewed")
	run.Located, run.Liable = "", ""
	r = worked(t, rulebook.Complete(iec230.Practice{}), run)
	assert.Equal(t, working.Fail, check(r, "locate-t").Verdict)
	assert.Equal(t, working.Unknown, check(r, "liable-t").Verdict)
}

// 13 and 7 m in sticks of 6 m are 3 and 2; in sticks of 10 ft 5 and 3.
func TestThePartsBill(t *testing.T) {
	r := worked(t, rulebook.Complete(iec230.Practice{}), trench())
	assert.Equal(t, 5.0, part(r, "Duct 50 mm"))
	assert.Equal(t, 2.0, part(r, "Long-radius bend 50 mm"))
	assert.Equal(t, 2.0, part(r, "Coupling 50 mm"))
	assert.Equal(t, 26.0, part(r, "Draw string"))
	assert.Equal(t, 20.0, part(r, "Warning tape"))
	run := trench()
	run.DuctMM = 50.8
	run.Stretches[0].Surface, run.Stretches[1].Surface = "other locations", "driveway of a dwelling"
	us := worked(t, rulebook.Complete(split120.Practice{}), run)
	assert.Equal(t, 8.0, part(us, "Conduit 2 in"))
	assert.Equal(t, 66.0, part(us, "Warning ribbon"), "20 m are 65.6 ft")
	c := check(us, "run-cover-t-2")
	assert.Equal(t, "in", c.Unit)
	assert.InDelta(t, 18, *c.Limit, 1e-9)
	run.DuctMM = 0
	assert.Zero(t, part(worked(t, rulebook.Complete(iec230.Practice{}), run), "Draw string"), "a cable laid direct has no string")
}

// Each step waits for the one before, and says what its crew must find.
func TestStepsWaitForEachOther(t *testing.T) {
	r := worked(t, rulebook.Complete(iec230.Practice{}), trench())
	assert.Empty(t, r.Steps[0].Waits)
	assert.Equal(t, r.Steps[0].Title+" ("+r.Steps[0].Who+")", r.Steps[1].Waits)
	assert.Contains(t, r.Steps[2].Waits, "digger", "each waits for the crew before it")
	for _, s := range r.Steps {
		assert.NotEmpty(t, s.Finds, s.ID)
		assert.NotEmpty(t, s.Who, s.ID)
	}
	r = worked(t, rulebook.Complete(iec230.Practice{}), trench(), "run-t-locate", "run-t-dig")
	assert.Empty(t, r.Steps[2].Waits)
	assert.Contains(t, r.Steps[3].Waits, r.Steps[2].Title)
	over := worked(t, rulebook.Complete(iec230.Practice{}),
		install.Run{ID: "o", Name: "Drop", Kind: install.Overhead,
			Stretches: []install.RunStretch{{Place: "yard", Surface: "out of reach of vehicles", LengthM: 12, CoverMM: 3000}}})
	assert.Equal(t, working.Fail, check(over, "run-cover-o-1").Verdict, "too low over the yard")
	assert.Equal(t, "us", over.Steps[0].Who)
}

// The ways past an obstruction are weighed against bends and cover.
func TestTheWaysPastAnObstruction(t *testing.T) {
	run := trench()
	run.Found = []install.Obstruction{{AtM: 4, What: "root", LengthM: 0.6, WidthM: 1, TopMM: 700},
		{AtM: 4, What: "culvert", LengthM: 0.6, WidthM: 1, TopMM: 300}}
	r := worked(t, rulebook.Complete(iec230.Practice{}), run)
	ways := func(i int) map[string]outdoor.Way {
		out := map[string]outdoor.Way{}
		for _, w := range r.Passings[i].Ways {
			out[w.Option] = w
		}
		return out
	}
	deep, shallow := ways(0), ways(1)
	assert.True(t, deep["over"].OK, "600 mm are left over a root that deep")
	assert.False(t, shallow["over"].OK)
	assert.Contains(t, shallow["over"].Why, "500 mm are asked for")
	assert.Equal(t, 2.0, deep["around"].ExtraM)
	assert.True(t, deep["around"].OK, "180° and 180° are just allowed")
	run.Stretches[0].BendDeg = 120
	r = worked(t, rulebook.Complete(iec230.Practice{}), run)
	assert.Contains(t, ways(0)["around"].Why, "draw pit")
	assert.Greater(t, deep["break out"].Hours, 0.0)
}

// An overhead service has a bill of its own, a duct in the sun a fitting where it moves
// by the least that counts, and the rods one unbroken conductor.
func TestServicePartsOfThePractice(t *testing.T) {
	p := rulebook.Complete(split120.Practice{})
	foot := 0.3048
	job := &install.Job{Outdoor: install.Outdoor{
		Runs: []install.Run{
			{ID: "o", Name: "Drop", Kind: install.Overhead, Stretches: []install.RunStretch{{LengthM: 9, CoverMM: 3700}}},
			{ID: "d", Name: "Duct", Kind: install.Trench, DuctMM: 50.8,
				Stretches: []install.RunStretch{{LengthM: 6 * foot, Surface: rulebook.AboveGround},
					{LengthM: 7 * foot, Surface: rulebook.AboveGround}, {LengthM: 40 * foot, CoverMM: 600}}},
		},
		Electrodes: install.Electrodes{Rods: []install.PlacedRod{{LengthM: 8 * foot, DiameterMM: 15.9, TopMM: 150},
			{LengthM: 8 * foot, DiameterMM: 15.9, SpacingM: 12 * foot, TopMM: 150}}},
	}}
	r := outdoor.Of(job, p, nil, "2026-11-27")
	named := func(parts []outdoor.Part, prefix string) float64 {
		for _, x := range parts {
			if strings.HasPrefix(x.Name, prefix) {
				return x.N
			}
		}
		return 0
	}
	assert.InDelta(t, 1, named(r.Runs[0].Parts, "Service head"), 0)
	assert.InDelta(t, 3, named(r.Runs[0].Parts, "Splices"), 0)
	// 7 ft × 12 × 3.38e-5 × 100 °F = 0.284 in moves, 6 ft = 0.243 in does not
	assert.InDelta(t, 1, named(r.Runs[1].Parts, "Expansion fitting"), 0)
	assert.InDelta(t, 2, named(r.ElectrodeParts, "Clamps"), 0)
	// 3 m + 12 ft + 0.3 m are 22.8 ft
	assert.InDelta(t, 23, named(r.ElectrodeParts, "Conductor"), 0)
	job.Outdoor.Electrodes.Rods = nil
	assert.Empty(t, outdoor.Of(job, p, nil, "2026-11-27").ElectrodeParts)
}

// Straps are of the riser alone, whatever the length of the span; a slip joint stands where
// the duct leaves the ground.
func TestStrapsAreOfTheRiser(t *testing.T) {
	drop := install.Run{ID: "d", Name: "Drop", Kind: install.Overhead,
		Stretches: []install.RunStretch{{Place: "span", LengthM: 31}, {Place: "riser", LengthM: 3.5, Surface: rulebook.AboveGround}}}
	assert.InDelta(t, 5, part(worked(t, rulebook.Complete(split120.Practice{}), drop), "Straps for the riser"), 0,
		"4 × 0.9 m reach 3.5 m, and one more")
	drop.Stretches[0].LengthM = 60
	assert.InDelta(t, 5, part(worked(t, rulebook.Complete(split120.Practice{}), drop), "Straps for the riser"), 0)
	drop.Stretches[1].LengthM = 3.7
	assert.InDelta(t, 6, part(worked(t, rulebook.Complete(split120.Practice{}), drop), "Straps for the riser"), 0)

	run := trench()
	slip := func(r outdoor.Run) float64 {
		for _, p := range r.Parts {
			if strings.HasPrefix(p.Name, "Slip joint") {
				return p.N
			}
		}
		return 0
	}
	below := slip(worked(t, rulebook.Complete(split120.Practice{}), run))
	run.Stretches = append(run.Stretches, install.RunStretch{Place: "up the wall", LengthM: 2, Surface: rulebook.AboveGround})
	assert.InDelta(t, below+1, slip(worked(t, rulebook.Complete(split120.Practice{}), run)), 0, "one where it leaves the ground")
}

// The radius of each bend is held to the duct's bore or to what the operator asks for; what a duct leaves the ground in to its grade.
func TestBendsAndRisersAreJudged(t *testing.T) {
	for _, p := range []rulebook.Book{rulebook.Complete(iec230.Practice{}), rulebook.Complete(split120.Practice{})} {
		run := trench()
		assert.Equal(t, working.Unknown, check(worked(t, p, run), "bend-radius-t").Verdict, p.ID())
		run.Stretches[0].RadiusMM, run.Stretches[1].RadiusMM = 400, 100
		tight := check(worked(t, p, run), "bend-radius-t")
		assert.Equal(t, working.Fail, tight.Verdict, p.ID())
		assert.Contains(t, tight.Summary, "after drive")
		run.Stretches[1].RadiusMM = 400
		assert.Equal(t, working.Pass, check(worked(t, p, run), "bend-radius-t").Verdict, p.ID())
		run.RadiusMM = 914.4
		assert.Equal(t, working.Fail, check(worked(t, p, run), "bend-radius-t").Verdict, "the operator asks for more")
		run.Stretches[0].BendDeg, run.Stretches[1].BendDeg = 0, 0
		assert.Empty(t, check(worked(t, p, run), "bend-radius-t").Verdict, "nothing bends")
	}
	split := rulebook.Complete(split120.Practice{})
	run := trench()
	assert.Empty(t, check(worked(t, split, run), "riser-t").Verdict, "nothing leaves the ground")
	run.Stretches = append(run.Stretches, install.RunStretch{Place: "up the wall", LengthM: 2, Surface: rulebook.AboveGround})
	assert.Equal(t, working.Unknown, check(worked(t, split, run), "riser-t").Verdict)
	for grade, want := range map[string]working.Verdict{"schedule 40 PVC": working.Fail, "schedule 80 PVC": working.Pass, "rigid metal conduit": working.Pass} {
		run.Riser = grade
		assert.Equal(t, want, check(worked(t, split, run), "riser-t").Verdict, grade)
	}
	assert.Empty(t, check(worked(t, rulebook.Complete(iec230.Practice{}), run), "riser-t").Verdict, "no grades there")
}
