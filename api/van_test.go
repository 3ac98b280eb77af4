package api_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/van"
	"arvelt/core/working"
)

func (c *client) van(id string) (l van.List) {
	c.Helper()
	c.do("GET", "/api/jobs/"+id+"/van", nil).into(c.T, &l)
	return l
}

func vanItem(t *testing.T, l van.List, id string) van.Item {
	t.Helper()
	i := slices.IndexFunc(l.Items, func(x van.Item) bool { return x.ID == id })
	require.GreaterOrEqual(t, i, 0, id)
	return l.Items[i]
}

// The list for the van is what the open steps ask for: their parts as they came, tools with what is accepted in their place, instruments with
// their calibration, protection, first aid with its date, light and power; each ticked as it goes in, for a day.
func TestTheListForTheVanFollowsTheSteps(t *testing.T) {
	w := serve(t)
	jana := w.as("jana")
	for ref, x := range map[string]struct{ part, step string }{"PW-2046": {"part:cable:swa3-90:4", "c1-cable"}, "PW-2054": {"part:cable:nm-2:3.31",
		"c2-cable"}} {
		v := jana.job(ref)
		l := jana.van(v.Id)
		open := map[string]bool{}
		for _, task := range v.View.Tasks {
			open[task.ID] = !task.Done && task.Others == ""
		}
		for _, s := range l.Steps {
			assert.True(t, open[s.ID], "%s is not open", s.ID)
		}
		groups := map[van.Group]bool{}
		for _, x := range l.Items {
			groups[x.Group] = true
			require.NotEmpty(t, x.Tasks, x.ID)
			for _, task := range x.Tasks {
				assert.True(t, open[task], "%s is for %s, which is not open", x.ID, task)
			}
		}
		for _, g := range []van.Group{van.Parts, van.Tools, van.Instruments, van.Protection, van.Aid, van.Light} {
			assert.True(t, groups[g], "%s: nothing of %s", ref, g)
		}
		cable := vanItem(t, l, x.part)
		assert.Equal(t, working.Fail, cable.Verdict, "it did not come yet")
		assert.Contains(t, cable.Tasks, x.step)

		aid := vanItem(t, l, "kit:first-aid")
		assert.Equal(t, working.Fail, aid.Verdict)
		assert.Contains(t, aid.Says, "its date was")
		assert.Len(t, aid.Tasks, len(l.Steps), "every step wants it")
		assert.Equal(t, working.Unknown, vanItem(t, l, "kit:dust").Verdict, "the company has none")
		stapler := vanItem(t, l, "kit:stapler")
		assert.Equal(t, working.Caution, stapler.Verdict, "the hammer does it")
		assert.Contains(t, stapler.Says, "Hammer, clips does it")
		assert.False(t, slices.ContainsFunc(l.Items, func(x van.Item) bool { return x.ID == "kit:clip-hammer" }), "and is asked for once")
		torque := vanItem(t, l, "kit:torque")
		assert.Contains(t, torque.Says, "Tarn W2 torque wrench T-0933, good until")
		assert.Equal(t, working.Pass, torque.Verdict)

		// Ticked, seen by the others, and taken out again; not on the list is refused.
		jana.made(v.Id, put{"kind": "packed", "subject": "kit:torque", "done": true})
		packed := vanItem(t, w.as("dot").van(v.Id), "kit:torque").Packed
		require.NotNil(t, packed)
		assert.Equal(t, "Jana Okell", packed.By)
		jana.made(v.Id, put{"kind": "packed", "subject": "kit:torque", "done": false})
		assert.Nil(t, vanItem(t, jana.van(v.Id), "kit:torque").Packed)
		jana.held(v.Id, put{"kind": "packed", "subject": "kit:ladder", "done": true}, 422, "an entry of the list")
	}

	// What is done asks for nothing more.
	v := jana.job("PW-2037")
	for _, x := range jana.van(v.Id).Items {
		assert.NotContains(t, x.Tasks, "c1-cable")
	}

	// What came is in order. A calibration that has ended is said; what nobody has dated is not known.
	line := lineOf(t, jana.job("PW-2046"), "cable:swa3-90:4")
	jana.stock("PW-2046", line.Key, install.Stock{Delivered: line.Order, Lengths: fmt.Sprint(line.Order)})
	assert.Equal(t, working.Pass, vanItem(t, jana.van(jana.job("PW-2046").Id), "part:cable:swa3-90:4").Verdict)
	ines := w.as("ines")
	var k api.Company
	ines.do("GET", "/api/company", nil).into(t, &k)
	for i := range k.Instruments {
		k.Instruments[i].Calibrated = time.Now().AddDate(0, 0, -3).Format(time.DateOnly)
	}
	for i := range k.Kit {
		k.Kit[i].Until = ""
	}
	a := ines.do("PUT", "/api/company", k)
	require.Equal(t, 200, a.status, a.text)
	l := jana.van(jana.job("PW-2046").Id)
	assert.Equal(t, working.Fail, vanItem(t, l, "kit:torque").Verdict)
	assert.Contains(t, vanItem(t, l, "kit:torque").Says, "its calibration ended")
	assert.Equal(t, working.Unknown, vanItem(t, l, "kit:first-aid").Verdict)
	k.Version++
	k.Kit[0].Kit = "ladder"
	a = ines.do("PUT", "/api/company", k)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "kit[0].kit")
}

// While the supply is off, a tool that needs the mains asks for a source of power.
func TestAToolThatNeedsTheMainsBringsItsPower(t *testing.T) {
	c := serve(t).as("tobias")
	l := c.van(c.job("PW-2054").Id)
	power := vanItem(t, l, "kit:power")
	assert.Equal(t, van.Power, power.Group)
	assert.Contains(t, power.Says, "while there is no supply")
	v := c.job("PW-2046") // an addition to a house that is supplied
	assert.False(t, slices.ContainsFunc(c.van(v.Id).Items, func(x van.Item) bool { return x.ID == "kit:power" }))
}
