package working

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestALimitIsMetWhenEqual(t *testing.T) {
	c := New("x", "", "X", "V")
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
	c := New("x", "", "X", "Ω")
	c.Assumes("external loop impedance")
	c.Assumes("external loop impedance")
	c.Max(0.5, 1)
	assert.Equal(t, Caution, c.Verdict)
	assert.Len(t, c.Assumed, 1)
	c.Max(2, 1)
	assert.Equal(t, Fail, c.Verdict, "an assumption does not soften a failure")
}

func TestAMissingInputStaysUnknown(t *testing.T) {
	c := New("x", "", "X", "Ω")
	c.Lacks("length")
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
		var p Pad
		p.Expect(circuits)
		var all [][]Check
		for c := range max(circuits, 2) {
			for n := range 5 + c%17 {
				k := p.New(fmt.Sprint(n), fmt.Sprint(c), "t", "A")
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
