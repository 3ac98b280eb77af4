package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// localRules are the figures over which a company may lay a rule of its own, with
// what the tables have.
var localRules = func() []install.RuleTerm {
	publicLV := vdLimits.Find(func(it *vdLimitsRow) bool { return it.School == "bs7671" && it.Supply == "public_lv" })
	usual := map[string]struct {
		value float64
		ref   string
	}{
		"drop-lighting":     {vdLimits.Row(publicLV).LightingPc, vdLimits.Source.Ref},
		"drop-other":        {vdLimits.Row(publicLV).OtherPc, vdLimits.Source.Ref},
		"cmin":              {CminDefault, "411.4.4"},
		"electrode-advised": {stableRa, ttLimits.Source.Ref},
		"cover-garden": {burialDepth.One(func(it *burialDepthRow) bool { return it.Place == "garden, low disturbance" }).DepthMM,
			burialDepth.Source.Ref},
		"bath-socket": {editionTable.One(func(it *editionRow) bool { return it.Edition == Practice{}.Opening().Edition }).SocketM,
			editionTable.Source.Ref},
		"shower-reach":  {bathZones.Fixed("open_shower_reach"), bathZones.Source.Ref},
		"no-trip-adds":  {0.5, "trade practice"},
		"leakage-share": {rcdRules.Fixed("standing_leakage_share_max"), "531.3.2"},
	}
	out := make([]install.RuleTerm, len(localTable.Text))
	for r := range localTable.Text {
		id := localTable.Row(r).Rule
		out[r] = install.RuleTerm{ID: id, Name: localTable.Row(r).Name, Unit: localTable.Row(r).Unit,
			Low: localTable.Row(r).Low, High: localTable.Row(r).High, Usual: usual[id].value, Ref: usual[id].ref}
	}
	return out
}()

// rule is a figure as it holds on this job: the local rule where one is laid over it,
// with its reason among the check's sources, else the job's national table's, else the
// usual one.
func (s *system) rule(k *working.Check, id string) float64 { return ruleOf(s.Job, k, id) }

// ruleOf is [system.rule]; k may be nil where no check is made.
func ruleOf(job *install.Job, k *working.Check, id string) float64 {
	if v, ok := rulebook.Laid(job, k, id); ok {
		return v
	}
	if v, source, ok := national(job, id); ok {
		if k != nil {
			k.From(source)
		}
		return v
	}
	return rulebook.LocalFigure(localRules, job, k, id)
}
