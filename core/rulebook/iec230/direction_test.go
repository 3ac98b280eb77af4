package iec230

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// worsen makes one circuit of a job, or its supply, worse in one way; false where it
// cannot be made worse so.
func worsen(j *install.Job, i int, how rulebook.Worse) bool {
	k := &j.Circuits[i]
	switch how {
	case rulebook.DeviceLarger:
		ratings := Ratings(k.Protection.Family)
		at := slices.Index(ratings, k.Protection.RatingA)
		if at < 0 || at+1 >= len(ratings) {
			return false
		}
		timeOf := func() float64 {
			return (&circuit{system: newSystem(j), k: k, rules: rulesOf(k.Use), feed: &feed{}}).disconnectionS()
		}
		was := timeOf()
		k.Protection.RatingA = ratings[at+1]
		// Above 32 or 63 A the rule allows 5 s in place of 0.4: that is its own step.
		return timeOf() == was && (k.Use != "ring" || !RingDevice(k.Protection.RatingA))
	case rulebook.CableThinner:
		sizes := terms.Sizes[k.Route.CableType]
		at := slices.Index(sizes, k.Route.LineMM2)
		if at <= 0 {
			return false
		}
		k.Route.LineMM2 = sizes[at-1]
	case rulebook.RunLonger:
		k.Route.Segments[0].LengthM += 11
	case rulebook.ElectrodeHigher:
		for _, f := range []*install.Fact{&j.Supply.ElectrodeOhm, &k.PEN.RaOhm, &k.Out.RaOhm} {
			if f.Known() {
				v := 3 * f.V()
				f.Value = &v
			}
		}
	case rulebook.SupplyHigher:
		v := j.Supply.ZeOhm.V() + 0.4
		j.Supply.ZeOhm.Value = &v
	case rulebook.ProtectionAbsent:
		c := &circuit{system: newSystem(j), k: k, rules: rulesOf(k.Use),
			kind: cableKinds[k.Route.CableType], feed: &feed{}}
		if len(c.additional()) == 0 && !c.separateEarth() {
			return false // none is required
		}
		k.Protection.RCDType, k.Protection.IdnMA, k.Protection.Group, k.Protection.ArcFault = "", 0, "", false
	}
	return true
}

// A change for the worse never turns a failure into a pass, in the direction that each
// check declares, over random houses; and every check declares one or says why not.
func TestAChangeForTheWorseNeverMendsAFailure(t *testing.T) {
	met, failing := map[string]bool{}, map[rulebook.Worse]int{}
	for seed := range uint64(160) {
		rng := rand.New(rand.NewPCG(seed, 11))
		house := func() *install.Job {
			j := anyHouse(seed, 10)
			j.Site.Premises, j.Edition = install.Premises[int(seed)%len(install.Premises)],
				editionTable.Text[int(seed)%len(editionTable.Text)][0]
			for i := range j.Circuits {
				k := &j.Circuits[i]
				k.Protection.EnergyClass = 3
				k.PEN = install.PEN{Option: install.BrokenPEN(terms.PENOptions[(int(seed)+i)%len(terms.PENOptions)]),
					RaOhm: num(float64(1 + (int(seed)+i)%400)), SeparationM: num(4), OpensAll: yes()}
				if i%3 == int(seed)%3 {
					sizes := terms.Sizes[k.Route.CableType]
					k.Route.LineMM2 = sizes[int(seed/3)%len(sizes)]
				}
			}
			j.Supply.ElectrodeOhm = num(float64(seed%9)*700 + 20)
			if seed%2 == 0 {
				j.Supply.ZeOhm = num(0.2 + float64(seed%7)*0.5)
				for i := range j.Circuits {
					if p := &j.Circuits[i].Protection; i%2 == 0 {
						p.RCDType, p.IdnMA, p.Group = "", 0, ""
					}
				}
			}
			j.Rooms = []install.Room{{ID: "b", Name: "Bathroom", Kind: "bathroom", Bath: install.BathRoom{Fitted: "bath", NoMetal: true}}}
			return j
		}
		j := house()
		before := reportOf(j)
		for _, c := range before.Checks() {
			d, ok := rulebook.DirectionOf(Directions, c.ID)
			assert.True(t, ok, "check %s declares no direction", c.ID)
			assert.True(t, len(d.Worse) > 0 != (d.Reason != ""), "check %s has either a direction or a reason", c.ID)
			met[d.Check] = true
		}
		was := byCheck(before)
		for _, how := range []rulebook.Worse{rulebook.DeviceLarger, rulebook.CableThinner, rulebook.RunLonger,
			rulebook.ElectrodeHigher, rulebook.SupplyHigher, rulebook.ProtectionAbsent} {
			worse := house()
			i := rng.IntN(len(worse.Circuits))
			if !worsen(worse, i, how) {
				continue
			}
			for key, now := range byCheck(reportOf(worse)) {
				d, _ := rulebook.DirectionOf(Directions, now.ID)
				old, there := was[key]
				if !there || old.Verdict != working.Fail || !slices.Contains(d.Worse, how) {
					continue
				}
				failing[how]++
				assert.NotEqual(t, working.Pass, now.Verdict, "%d: %s of %s mends %s: %s, then %s", seed, how,
					worse.Circuits[i].Name, key, old.Summary, now.Summary)
			}
		}
	}
	for _, d := range Directions {
		if len(d.Worse) > 0 {
			assert.True(t, met[d.Check], "no house met %s", d.Check)
		}
	}
	for _, how := range []rulebook.Worse{rulebook.DeviceLarger, rulebook.CableThinner, rulebook.RunLonger,
		rulebook.ElectrodeHigher, rulebook.SupplyHigher, rulebook.ProtectionAbsent} {
		assert.Greater(t, failing[how], 20, "%s was hardly tried on a failure", how)
	}
}

// A worse reading never passes where a better one failed. A delayed device has two ends,
// and what only cautions has none.
func TestAWorseReadingNeverPasses(t *testing.T) {
	lowerIsWorse := []string{"insulation-ln", "insulation-le", "insulation-ne"}
	for seed := range uint64(20) {
		j := anyHouse(seed, 8)
		for i := range j.Circuits {
			j.Circuits[i].Protection.Delayed = false
		}
		for i := range j.Board.Groups {
			j.Board.Groups[i].Delayed = false
		}
		r := reportOf(j)
		for _, x := range (Practice{}).Tests(j, &r) {
			if x.Unit == "" || x.ID == "voltage" { // its window has two ends
				continue
			}
			failed := false
			for step := range 60 {
				v := 0.01 * float64(uint64(1)<<(step/3)) * (1 + float64(step%3)/3)
				if slices.Contains(lowerIsWorse, x.ID) {
					v = 1 / v
				}
				verdict, says := x.Judge(install.Record{Value: &v})
				assert.False(t, failed && verdict != working.Fail, "%s %s: %g after a failure: %s", x.ID, x.Circuit, v, says)
				failed = failed || verdict == working.Fail
			}
		}
	}
}
