package rulebook

import (
	"fmt"
	"math"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// TorqueShare is how far a torque tool's setting may lie from the manufacturer's figure.
const TorqueShare = 0.1

// TorqueTests are the torques of the main terminals of each enclosure that the job puts
// in, in order of the chain: read in a unit that is nm newton metres, and held to the
// figure of the manufacturer's instruction. Without that figure a test lacks it.
func TorqueTests(job *install.Job, unitName string, nm float64) []Test {
	var out []Test
	for i := range job.Chain.Enclosures {
		e := &job.Chain.Enclosures[i]
		if !e.New || e.Owner != install.OwnerCustomer {
			continue
		}
		t := Test{ID: "torque:" + e.ID, Title: "Torque of the main terminals of " + e.Name, Unit: unitName}
		if e.TorqueNm.Known() {
			want := unit.Significant(e.TorqueNm.V()/nm, 4)
			t.Expected = &want
			t.Where = "With the torque tool, its serial and calibration as the instrument: " + e.TorqueSheet +
				". Factory-made terminals too. Once, unless the manufacturer asks for a second pass."
			t.Judge = func(r install.Record) (working.Verdict, string) {
				if math.Abs(*r.Value-want) <= TorqueShare*want {
					return working.Pass, fmt.Sprintf("Within 10 %% of the %s of its manufacturer.", unit.With(want, unitName))
				}
				return working.Fail, fmt.Sprintf("Its manufacturer asks for %s: too little works loose, too much breaks the terminal.",
					unit.With(want, unitName))
			}
		} else {
			t.Missing = "First the torque from the manufacturer's instruction, on the chain: without it a reading proves nothing."
			t.Judge = func(install.Record) (working.Verdict, string) { return working.Unknown, t.Missing }
		}
		out = append(out, t)
	}
	return out
}
