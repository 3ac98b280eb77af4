package api_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// A feeder lands at its near end only when the board at its far end is made up and tested dead; what others do is ticked with who did it.
func TestTheFarEndOfAFeederComesFirst(t *testing.T) {
	c := serve(t).as("jana")
	v := c.job("PW-2052")
	id := v.Id
	c.firstFix(v)
	c.made(id, c.isolates(id))
	c.made(id, ticks("c10-point", true))
	c.held(id, ticks("c10-board", true), 409, "First: Sail loft sockets: fit the device")
	for _, step := range []string{"c11-point", "c11-board", "c11-torque", "c12-point", "c12-board", "c12-torque"} {
		c.made(id, ticks(step, true))
	}
	c.held(id, ticks("c10-board", true), 409, "The far end comes first, tested dead")
	assert.Contains(t, taskOf(t, c.read(id), "c10-board").Closed, "The far end comes first, tested dead")
	for _, row := range c.read(id).View.Tests.Rows {
		if row.Live || row.Circuit != "c11" && row.Circuit != "c12" {
			continue
		}
		r := says(row.Circuit, row.ID, true)
		if !row.YesNo {
			r = reads(row.Circuit, row.ID, row.Unit, map[string]float64{"Ω": 0.4, "MΩ": 250}[row.Unit])
		}
		if len(row.TestV) > 0 {
			r["testV"] = 500
		}
		c.made(id, r)
	}
	for _, row := range c.read(id).View.Tests.Rows {
		if row.Explain {
			c.made(id, put{"kind": "remark", "subject": row.Reading.ID, "note": "joint remade, read twice"})
		}
	}
	c.made(id, ticks("c10-board", true))
}

// What other crews do is ticked with by what it is known that they did.
func TestTheWorkOfOthersIsTickedWithWhoDidIt(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2054")
	task := taskOf(t, v, "service-2")
	assert.Equal(t, "utility", task.Others)
	assert.Empty(t, taskOf(t, v, "service-3").Others, "the permit is the contractor's to get")
	c.add(v.Id, ticks("service-2", false))
	c.held(v.Id, ticks("service-2", true), 422, "by what it is known that the utility did it")
	w.as("remy").held(v.Id, ticks("service-2", true), 409, "does not let an apprentice say")
	r := ticks("service-2", true)
	r["note"] = "Ms Lund by telephone, order 7741"
	r["person"] = ""
	c.held(v.Id, r, 422, "who of the utility did it, by name")
	r["person"] = "Ms Lund"
	done := taskOf(t, c.made(v.Id, r), "service-2")
	assert.Equal(t, "Ms Lund by telephone, order 7741", done.Note)
	assert.Equal(t, "Ms Lund, noted by Tobias Marrick", done.DoneBy)
}
