package working

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func rule(unit string) *Rule { return &Rule{ID: "x", Title: "X", Unit: unit} }

func TestALimitIsMetWhenEqual(t *testing.T) {
	c := rule("V").Check("", "")
	c.Max(0.1+0.2, 0.3)
	assert.Equal(t, Pass, c.Verdict)
	assert.InDelta(t, 1, *c.Use, 1e-9)
	c.Max(0.3001, 0.3)
	assert.Equal(t, Fail, c.Verdict)
	c.Min(6, 6)
	assert.Equal(t, Pass, c.Verdict)
	c.Min(4.5, 6)
	assert.Equal(t, Fail, c.Verdict)
	assert.InDelta(t, 6/4.5, *c.Use, 1e-9)
}

func TestAnAssumedInputNeverPasses(t *testing.T) {
	c := rule("Ω").Check("", "")
	c.Assumes("external loop impedance")
	c.Assumes("external loop impedance")
	c.Max(0.5, 1)
	assert.Equal(t, Caution, c.Verdict)
	assert.Len(t, c.Assumed, 1)
	c.Max(2, 1)
	assert.Equal(t, Fail, c.Verdict, "an assumption does not soften a failure")
}

func TestAMissingInputStaysUnknown(t *testing.T) {
	c := rule("Ω").Check("", "")
	c.AddMissing("length")
	c.Max(0.5, 1)
	assert.Equal(t, Unknown, c.Verdict)
}

func TestWorst(t *testing.T) {
	assert.Equal(t, Pass, Worst())
	assert.Equal(t, Fail, Worst(Pass, Fail, Unknown))
	assert.Equal(t, Unknown, Worst(Caution, Unknown, Pass))
	assert.True(t, Fail.Worse(Unknown))
}

// Checks out of shared room are what checks by themselves are, and none reaches
// into another's lines.
func TestAPadKeepsChecksApart(t *testing.T) {
	for _, circuits := range []int{0, 1, 3, 40} {
		var p Pool
		p.Expect(circuits)
		var all [][]Check
		for c := range max(circuits, 2) {
			for n := range 5 + c%17 {
				k := p.Check(&Rule{ID: RuleID(fmt.Sprint(n))}, fmt.Sprint(c), "")
				for i := range n * 3 {
					k.Step(fmt.Sprint(i), "", "", float64(i), "A", "")
					k.From(Source{Ref: fmt.Sprint(c, n, i)})
				}
			}
			all = append(all, p.Take())
		}
		for c, checks := range all {
			require.Len(t, checks, 5+c%17)
			for n, k := range checks {
				assert.Equal(t, fmt.Sprint(n), k.ID)
				require.Len(t, k.Steps, n*3)
				require.Len(t, k.Sources, n*3)
				for i := range k.Steps {
					assert.Equal(t, fmt.Sprint(i), k.Steps[i].Symbol)
					assert.Equal(t, fmt.Sprint(c, n, i), k.Sources[i].Ref)
				}
				before := checks[(n+1)%len(checks)]
				k.Step("later", "", "", 0, "", "")
				k.From(Source{Ref: "later"})
				assert.Equal(t, before, checks[(n+1)%len(checks)], "an append is seen only by its own check")
			}
		}
	}
}

// The verdict is the same in whatever order it is noted what was decided, what is missing
// and what is assumed; something missing never stands beside a pass.
func TestTheVerdictDoesNotDependOnTheOrder(t *testing.T) {
	notes := []struct {
		name string
		make func(*Check)
	}{
		{"held", func(c *Check) { c.Decide(true) }}, {"failed", func(c *Check) { c.Decide(false) }},
		{"warned", func(c *Check) { c.Warn() }},
		{"assumed", func(c *Check) { c.Assumes("length") }}, {"missing", func(c *Check) { c.AddMissing("size") }},
	}
	for _, want := range []struct {
		notes   []int
		verdict Verdict
	}{
		{[]int{0}, Pass}, {[]int{0, 3}, Caution}, {[]int{0, 4}, Unknown}, {[]int{0, 3, 4}, Unknown}, {[]int{1, 3}, Fail},
		{[]int{1, 4}, Unknown}, {[]int{2, 3}, Caution}, {[]int{2, 4}, Unknown}, {[]int{3}, Unknown}, {[]int{4}, Unknown},
	} {
		for _, back := range []bool{false, true} {
			c := rule("A").Check("c1", "")
			order := slices.Clone(want.notes)
			if back {
				slices.Reverse(order)
			}
			said := ""
			for _, n := range order {
				notes[n].make(c)
				said += notes[n].name + " "
			}
			c.Close()
			assert.Equal(t, want.verdict, c.Verdict, said)
			assert.Equal(t, len(c.Missing) > 0, c.Summary != "", "what is missing is said: %s", said)
		}
	}
	c := rule("A").Check("", "2")
	c.Assumes("leakage")
	c.Bears()
	assert.Equal(t, Pass, c.Verdict, "it holds even far from what is assumed")
	assert.Equal(t, "x-2", c.ID)
}
