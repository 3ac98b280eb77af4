package split120

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// worsen makes one circuit of a job worse in one way; false where it cannot be.
func worsen(j *install.Job, i int, how rulebook.Worse) bool {
	k := &j.Circuits[i]
	switch how {
	case rulebook.DeviceLarger:
		at := slices.Index(terms.Ratings["breaker"], k.Protection.RatingA)
		if at < 0 || at+1 >= len(terms.Ratings["breaker"]) {
			return false
		}
		before := terminalC(codeOf(j), k, sizeOf[k.Route.LineMM2])
		k.Protection.RatingA = terms.Ratings["breaker"][at+1]
		// Above 100 A terminals are made for 75 °C: that is the rule's own step.
		return terminalC(codeOf(j), k, sizeOf[k.Route.LineMM2]) == before
	case rulebook.CableThinner:
		sizes := terms.Sizes[k.Route.CableType]
		at := slices.Index(sizes, k.Route.LineMM2)
		if at <= 0 {
			return false
		}
		k.Route.LineMM2 = sizes[at-1]
	case rulebook.RunLonger:
		k.Route.Segments[0].LengthM += 15
	case rulebook.ProtectionAbsent:
		k.Protection.RCDType, k.Protection.IdnMA, k.Protection.ArcFault = "", 0, false
		for b := range k.Serves.Boxes {
			if k.Serves.Boxes[b].Device == "gfci" {
				k.Serves.Boxes[b].Device = "plain"
			}
		}
		j.Surge.Devices = nil
	}
	return true
}

// A change for the worse never turns a failure into a pass, in the direction that each
// check declares, over random dwellings of both codes; and every check declares one or
// says why not.
func TestAChangeForTheWorseNeverMendsAFailure(t *testing.T) {
	failing := map[rulebook.Worse]int{}
	ways := []rulebook.Worse{rulebook.DeviceLarger, rulebook.CableThinner, rulebook.RunLonger, rulebook.ProtectionAbsent}
	jobs := everyJob()
	for seed := range uint64(150) {
		rng := rand.New(rand.NewPCG(seed, 5))
		house := func() *install.Job {
			j := jobs[int(seed*7)%len(jobs)]
			out := *j
			out.Circuits = slices.Clone(j.Circuits)
			for i := range out.Circuits {
				k := &out.Circuits[i]
				k.Route.Segments = slices.Clone(k.Route.Segments)
				k.Route.Segments[0].LengthM = 3 + float64((int(seed)*31+i*17)%90)
				k.Serves.Boxes = slices.Clone(k.Serves.Boxes)
			}
			return &out
		}
		j := house()
		was := map[string]working.Check{}
		report := Practice{}.Judge(j)
		for _, c := range report.Checks() {
			d, ok := rulebook.DirectionOf(Directions, c.ID)
			assert.True(t, ok, "check %s declares no direction", c.ID)
			assert.True(t, len(d.Worse) > 0 != (d.Reason != ""), "check %s has either a direction or a reason", c.ID)
			was[c.Circuit+"/"+c.ID] = c
		}
		for _, how := range ways {
			worse := house()
			i := rng.IntN(len(worse.Circuits))
			if !worsen(worse, i, how) {
				continue
			}
			after := Practice{}.Judge(worse)
			for _, now := range after.Checks() {
				d, _ := rulebook.DirectionOf(Directions, now.ID)
				old, there := was[now.Circuit+"/"+now.ID]
				if !there || old.Verdict != working.Fail || !slices.Contains(d.Worse, how) {
					continue
				}
				failing[how]++
				assert.NotEqual(t, working.Pass, now.Verdict, "%d: %s of %s mends %s: %s, then %s", seed, how,
					worse.Circuits[i].Name, now.ID, old.Summary, now.Summary)
			}
		}
	}
	for _, how := range ways {
		assert.Greater(t, failing[how], 20, "%s was hardly tried on a failure", how)
	}
}
