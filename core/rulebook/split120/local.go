package split120

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// localRules are the figures over which an authority or a company may lay its own.
var localRules = []install.RuleTerm{
	{ID: "VD-BR", Name: "Voltage drop of a branch circuit", Unit: "%", Usual: dropAdvice("VD-BR"), Low: 1, High: 10,
		Ref: "NEC 210.19 informational note"},
	{ID: "VD-FD", Name: "Voltage drop of a feeder", Unit: "%", Usual: dropAdvice("VD-FD"), Low: 1, High: 10,
		Ref: "NEC 215.2 informational note"},
	{ID: "VD-TOT", Name: "Voltage drop, feeder and branch together", Unit: "%", Usual: dropAdvice("VD-TOT"), Low: 1,
		High: 12, Ref: "NEC 215.2 informational note"},
	{ID: "CONT-125", Name: "Factor of a continuous load", Usual: rule(ampacityRules.Table, "CONT-125"), Low: 1, High: 1.5,
		Ref: "NEC 210.20(A)"},
	{ID: "ROD-2", Name: "Reading that lets one rod stand alone", Unit: "Ω", Usual: rule(grounding.Table, "ROD-2"), Low: 1,
		High: 100, Ref: "NEC 250.53(A)(2)"},
	{ID: "LEGS", Name: "Difference of the legs worth evening out", Unit: "%", Usual: 20, Low: 1, High: 100,
		Ref: "trade practice; of the heavier leg"},
	{ID: "NG-VOLTS", Name: "Neutral to ground under load, remarked above", Unit: "V", Usual: 2, Low: 0.5, High: 10, Ref: "trade practice"},
	{ID: "GROUND-OHM", Name: "Equipment ground whose length is not known", Unit: "Ω", Usual: 1, Low: 0.1, High: 5, Ref: "trade practice"},
	{ID: "INSUL-MIN", Name: "Least insulation resistance", Unit: "MΩ", Usual: 1, Low: 0.5, High: 200, Ref: "IEC 60364-6 Table 6.1; no article of the code"},
}

func dropAdvice(id string) float64 {
	return voltageLimits.One(func(it *voltageLimitsRow) bool { return it.ID == id }).Max
}

// ruleOf is a figure of the rules, or the local one in its place.
func ruleOf(job *install.Job, k *working.Check, id string) float64 {
	return rulebook.LocalFigure(localRules, job, k, id)
}

// localRule reports whether the job has a rule of its own for a figure. One on a
// recommended figure makes it a limit.
func localRule(job *install.Job, id string) bool {
	return slices.ContainsFunc(job.Schools.Local, func(l install.LocalRule) bool { return l.Rule == id })
}
