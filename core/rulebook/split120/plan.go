package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
)

// circuitPlans is circuit_plans.csv: which branch circuits the points of a walk go on.
var circuitPlans = table.LoadOf[rulebook.CircuitPlan](dataFiles, "circuit_plans")

var circuitSplit = options.Named("circuitSplit")

// PlanOf is by what the branch circuits of a job are planned from the points of its walk.
func (Practice) PlanOf(job *install.Job) rulebook.Plan {
	return rulebook.Plan{Rows: rulebook.RowsOf(circuitPlans), Split: rulebook.Split(circuitSplit.In(&job.Schools))}
}

// Fit makes the receptacles of a new circuit those that their place asks for: shuttered, weather resistant, and grounded, as its cable is.
func (Practice) Fit(job *install.Job, k *install.Circuit) {
	s := &system{code: codeOf(job), edition: editionOf(job)}
	yes := true // every wiring method of the practice brings an equipment ground
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if !b.Device.Outlet() {
			continue
		}
		b.Ground = &yes
		if needs, err := protectionOf(s.column(), outlet{Room: b.Place, Volts: voltsOf(k), HeightIn: b.HeightMM / inchMM, RatingA: b.RatingA}); err == nil {
			b.Shuttered, b.Weather = needs.Tamper == Yes, needs.Weather == Yes
		}
	}
}
