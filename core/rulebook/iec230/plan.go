package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
)

// circuitPlans is circuit_plans.csv: which circuits the points of a walk go on.
var circuitPlans = tables.LoadOf[rulebook.CircuitPlan](dataFiles, "circuit_plans")

var (
	circuitSplit  = options.Named("circuitSplit")
	socketRun     = options.Named("socketRun")
	residualShare = options.Named("residualShare")
)

// sharedDevices is the way of sharing residual-current devices.
const sharedDevices = "shared"

// PlanOf is by what the circuits of a job are planned from the points of its walk.
func (Practice) PlanOf(job *install.Job) rulebook.Plan {
	s := &job.Schools
	out := rulebook.Plan{Rows: rulebook.Under(rulebook.RowsOf(circuitPlans), socketRun.In(s)), Split: rulebook.Split(circuitSplit.In(s))}
	if residualShare.In(s) == sharedDevices {
		for _, id := range []string{"rcd-a", "rcd-b"} {
			out.Shared = append(out.Shared, install.Group{ID: id, Name: "RCD " + string(id[len(id)-1]-'a'+'A'), RCDType: "A", IdnMA: terms.ResidualMA,
				RatingA: sharedRatingA})
		}
	}
	return out
}

// sharedRatingA is the usual rated current in A of a residual-current device that circuits of a dwelling share.
const sharedRatingA = 80
