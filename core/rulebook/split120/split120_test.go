package split120

import (
	"bytes"
	"encoding/json"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

func is(b bool) *bool { return &b }

func at(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

// chain is meter, panel with the joint, and a subpanel without.
func chain() *install.Job {
	cu := install.Conductor{Material: "cu", Size: "4", EarthMM2: "8", Wires: 4, LengthM: at(10)}
	return &install.Job{Supply: install.Supply{DeclaredV: 240, ZeOhm: at(0.03), PFCkA: at(10)},
		Chain: install.Chain{Enclosures: []install.Enclosure{
			{ID: "drop", Kind: "drop", Name: "Drop", Owner: install.OwnerOperator},
			{ID: "meter", Kind: "meter", Name: "Meter base", From: "drop", Owner: install.OwnerCustomer,
				Feed: install.Conductor{Material: "al", Size: "4/0", Wires: 3, LengthM: at(9)}},
			{ID: "panel", Kind: "panel", Name: "Panel", From: "meter", Owner: install.OwnerCustomer, Joined: is(true),
				Feed: install.Conductor{Material: "al", Size: "4/0", Wires: 3, LengthM: at(3)}},
			{ID: "sub", Kind: "subpanel", Name: "Subpanel", From: "panel", Owner: install.OwnerCustomer, Joined: is(false), Feed: cu},
		}}}
}

func node(r rulebook.ChainReport, id string) rulebook.ChainNode {
	for _, n := range r.Nodes {
		if n.ID == id {
			return n
		}
	}
	return rulebook.ChainNode{}
}

func insert(job *install.Job, e install.Enclosure, before string) {
	next := job.Chain.Enclosure(before)
	e.From = next.From
	next.From = e.ID
	job.Chain.Enclosures = append(job.Chain.Enclosures, e)
}

// Inserting a service-rated transfer switch before the panel moves the joint to
// it, and the panel's jumper comes out.
func TestInsertingATransferSwitchMovesTheBond(t *testing.T) {
	job := chain()
	before := Practice{}.Chain(job)
	assert.Equal(t, rulebook.JointMust, node(before, "panel").Joint)
	assert.Equal(t, working.Pass, before.Verdict)
	assert.Empty(t, before.Jumpers)

	insert(job, install.Enclosure{ID: "transfer", Kind: "transfer", Name: "Transfer switch", Owner: install.OwnerCustomer,
		Disconnect: is(true), New: true}, "panel")
	after := Practice{}.Chain(job)
	assert.Equal(t, rulebook.JointMust, node(after, "transfer").Joint)
	assert.Equal(t, rulebook.JointNever, node(after, "panel").Joint)
	actions := map[string]string{}
	for _, j := range after.Jumpers {
		actions[j.At] = j.Action
	}
	assert.Equal(t, map[string]string{"transfer": "put in", "panel": "take out"}, actions)
	assert.Equal(t, working.Fail, node(after, "panel").Verdict)
	assert.Equal(t, 4, node(after, "panel").Wires, "behind the joint the feed has a conductor more")

	// The panel is fed by three conductors: behind the joint that is one too few.
	short := false
	for _, c := range after.Checks {
		short = short || c.ID == "wires-panel" && c.Verdict == working.Fail
	}
	assert.True(t, short)

	// Not service-rated and ahead of the panel: the panel stays the first disconnect.
	job.Chain.Enclosure("transfer").Disconnect = is(false)
	again := Practice{}.Chain(job)
	assert.Equal(t, rulebook.JointMust, node(again, "panel").Joint)
	assert.Equal(t, rulebook.JointOperator, node(again, "transfer").Joint)
}

// Exactly one joint on every chain, wherever the first disconnect is; every
// wrong arrangement is caught.
func TestExactlyOneJoint(t *testing.T) {
	for _, extra := range []string{"", "disconnect", "transfer", "second"} {
		job := chain()
		switch extra {
		case "disconnect":
			insert(job, install.Enclosure{ID: "x", Kind: "disconnect", Name: "X", Owner: install.OwnerCustomer}, "panel")
		case "transfer":
			insert(job, install.Enclosure{ID: "x", Kind: "transfer", Name: "X", Owner: install.OwnerCustomer,
				Disconnect: is(true)}, "panel")
		case "second":
			insert(job, install.Enclosure{ID: "x", Kind: "panel", Name: "X", Owner: install.OwnerCustomer}, "sub")
		}
		r := Practice{}.Chain(job)
		must := []string{}
		for _, n := range r.Nodes {
			if n.Joint == rulebook.JointMust {
				must = append(must, n.ID)
			}
		}
		require.Len(t, must, 1, extra)
		// Right as built passes; each single wrong joint fails at its own place.
		for i := range job.Chain.Enclosures {
			e := &job.Chain.Enclosures[i]
			e.Joined = is(e.ID == must[0])
		}
		for _, c := range (Practice{}).Chain(job).Checks {
			assert.False(t, c.Verdict == working.Fail && c.ID[:5] == "joint", "%s: %s", extra, c.Summary)
		}
		for i := range job.Chain.Enclosures {
			e := &job.Chain.Enclosures[i]
			n := node(r, e.ID)
			if n.Joint == rulebook.JointOperator {
				continue
			}
			right := *e.Joined
			e.Joined = is(!right)
			assert.Equal(t, working.Fail, node(Practice{}.Chain(job), e.ID).Verdict, "%s: wrong at %s", extra, e.ID)
			e.Joined = is(right)
		}
	}
}

func TestTheUtilityMayHaveTheJointInItsMeterBase(t *testing.T) {
	job := chain()
	job.Schools.Set("bondAt", install.Chose("meter"))
	r := Practice{}.Chain(job)
	assert.Equal(t, rulebook.JointMust, node(r, "meter").Joint)
	assert.Equal(t, working.Fail, node(r, "panel").Verdict, "the panel's jumper comes out")
}

func TestAGeneratorsJointFollowsTheSwitchedNeutral(t *testing.T) {
	for _, switched := range []bool{false, true} {
		job := chain()
		job.Chain.Enclosures = append(job.Chain.Enclosures,
			install.Enclosure{ID: "gen", Kind: "generator", Name: "Generator", From: "panel", Owner: install.OwnerCustomer,
				SwitchesN: is(switched), Joined: is(!switched)})
		n := node(Practice{}.Chain(job), "gen")
		assert.Equal(t, map[bool]string{false: rulebook.JointNever, true: rulebook.JointMust}[switched], n.Joint)
		assert.Equal(t, working.Fail, n.Verdict)
	}
}

// 4/0 aluminium has 0.1 Ω per 1000 ft at 75 °C: 0.000268 Ω/m at 20 °C.
func TestFaultLevelDownTheChain(t *testing.T) {
	r, ok := ResistancePerM("al", "4/0")
	require.True(t, ok)
	assert.InDelta(t, 0.1/304.8*(1-0.0033*55), r, 1e-9)
	_, ok = ResistancePerM("al", "14.5")
	assert.False(t, ok)
	report := Practice{}.Chain(chain())
	z := 240/10000.0 + 2*r*(9+3)
	assert.InDelta(t, 240/z/1000, *node(report, "panel").FaultKA, 1e-9)
	assert.Less(t, *node(report, "sub").FaultKA, *node(report, "panel").FaultKA)
}

func TestBondingJumperBySize(t *testing.T) {
	for size, want := range map[string]string{"2": "8", "1": "6", "1/0": "6", "3/0": "4", "250": "2", "350": "2", "400": "1/0"} {
		assert.Equal(t, want, BondingJumper("cu", size), "copper %s", size)
	}
	assert.Equal(t, "4", BondingJumper("al", "4/0"))
	assert.Empty(t, BondingJumper("cu", "nonsense"))
}

func TestIsolationNeverOffersLiveWork(t *testing.T) {
	for _, r := range (Practice{}).Isolation(chain(), func(string) (float64, bool) { return 0, false },
		time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC)) {
		if r.ID == "live-cut" || r.ID == "pull-meter" {
			assert.False(t, r.Offered)
			assert.Contains(t, r.Why, "Not offered")
		}
		if r.ID == "utility-disconnect" {
			assert.Equal(t, "2026-12-09", r.Earliest)
		}
	}
}

func TestTheAccountNumberIsToldFromTheMeters(t *testing.T) {
	p := Practice{}
	assert.Equal(t, working.Caution, p.SupplyNumber("4410 882 017", "KM 55").Verdict, "no check digit: compare it")
	assert.Equal(t, working.Fail, p.SupplyNumber("km 55 120 934", "KM 55 120 934").Verdict)
	assert.Equal(t, working.Fail, p.SupplyNumber("123", "").Verdict)
	assert.Equal(t, working.Unknown, p.SupplyNumber("", "").Verdict)
}

// One rod needs a reading; two rods need distance; a ruling may stand for both.
func TestElectrodesByRule(t *testing.T) {
	job := chain()
	assert.Empty(t, Practice{}.Electrodes(job).Checks)
	e := &job.Outdoor.Electrodes
	rod := install.PlacedRod{LengthM: 2.44, DiameterMM: 16, Mode: "vertical"}
	e.Rods = []install.PlacedRod{rod}
	last := func() working.Check { cs := (Practice{}).Electrodes(job).Checks; return cs[len(cs)-1] }
	assert.Equal(t, working.Unknown, last().Verdict)
	e.Measured = at(31)
	assert.Equal(t, working.Fail, last().Verdict)
	e.Measured = at(25)
	assert.Equal(t, working.Pass, last().Verdict)
	e.Measured, e.Ruling = install.Fact{}, "P. Aldine, inspector, 4 May: one rod"
	assert.Equal(t, working.Caution, last().Verdict)
	e.Ruling = ""
	rod.SpacingM = 1.2
	e.Rods = append(e.Rods, rod)
	assert.Equal(t, working.Fail, last().Verdict, "4 ft apart")
	e.Rods[1].SpacingM = 1.83
	assert.Equal(t, working.Pass, last().Verdict, "6 ft apart, no reading needed")
	e.SoilOhmM = at(100)
	two := *Practice{}.Electrodes(job).ExpectedOhm
	assert.InDelta(t, RodOhm(100, 2.44, 0.016)/2, two, RodOhm(100, 2.44, 0.016)*0.15)
	e.Rods[1].SpacingM = 12
	assert.Less(t, *Practice{}.Electrodes(job).ExpectedOhm, two, "farther apart is better")
}

func casesOf(t testing.TB) (cases []rulebook.Case) {
	raw, err := os.ReadFile("testdata/cases.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(raw, &cases))
	return cases
}

func byName(_, name string) (rulebook.Calc, bool) {
	for _, c := range (Practice{}).Calcs() {
		if c.Name == name {
			return c, true
		}
	}
	return rulebook.Calc{}, false
}

// The calculations pass every worked case.
func TestWorkedCases(t *testing.T) {
	var said bytes.Buffer
	passed, failed := rulebook.RunCases(casesOf(t), byName, &said)
	assert.Zero(t, failed, said.String())
	assert.GreaterOrEqual(t, passed, 65)
}

func TestCalculationsNameWhatIsWrong(t *testing.T) {
	run := func(name string, in any) error {
		raw, err := json.Marshal(in)
		require.NoError(t, err)
		for _, c := range (Practice{}).Calcs() {
			if c.Name == name {
				_, _, err := c.Run(raw)
				return err
			}
		}
		return nil
	}
	type m = map[string]any
	assert.ErrorContains(t, run("neutral-bond", m{"nodes": []m{}}), "nodes")
	assert.ErrorContains(t, run("neutral-bond", m{"nodes": []m{{"id": "a", "role": "castle"}}}), "castle")
	assert.ErrorContains(t, run("neutral-bond", m{"nodes": []m{{"id": "a", "role": "meter"},
		{"id": "a", "role": "panel"}}}), "name of its own")
	assert.ErrorContains(t, run("neutral-bond", m{"nodes": []m{{"id": "a", "role": "meter"}}}), "no place")
	assert.ErrorContains(t, run("separate-building",
		m{"wires": 9, "existing_installation": false, "egc_in_supply": false, "continuous_metallic_paths": false,
			"ground_fault_protection_upstream": false, "single_branch_circuit_with_egc": false}), "wires")
}
