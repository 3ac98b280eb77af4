package working

import (
	"testing"

	"github.com/stretchr/testify/assert"
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
