package iec230

import (
	"math"

	"arvelt/core/install"
	"arvelt/core/working"
)

// usualTables are those of a job that names none.
const usualTables = "bs7671"

// tablesOf names the national tables of a job.
func tablesOf(job *install.Job) string {
	return tablesOption.In(&job.Schools)
}

// ambientTables names the ambient factors of a job: those of IEC 60364 outside the United
// Kingdom.
func ambientTables(job *install.Job) string {
	if tablesOf(job) == usualTables {
		return usualTables
	}
	return "iec60364"
}

// national is a figure as the national tables of a job have it; ok is false where they are
// the usual ones or name none, and the usual figure holds.
func national(job *install.Job, id string) (v float64, source working.Source, ok bool) {
	tables := tablesOf(job)
	if tables == usualTables {
		return 0, source, false
	}
	drop := vdLimits.Find(func(it *vdLimitsRow) bool { return it.School == tables && it.Supply == "public_lv" })
	switch id {
	case ruleDropLighting:
		v, source = vdLimits.Row(drop).LightingPc, vdLimits.Source
	case ruleDropOther:
		v, source = vdLimits.Row(drop).OtherPc, vdLimits.Source
	case ruleCmin:
		v, source = schools.Num(schools.Find(func(it *schoolsRow) bool { return it.Subject == "cmin" }), tables), schools.Source
	case ruleCoverGarden:
		v, source = burialDepth.One(func(it *burialDepthRow) bool {
			return it.School == tables &&
				it.Place == "any"
		}).DepthMM, burialDepth.Source
	default:
		return 0, source, false
	}
	source.Confidence = "medium"
	return v, source, !math.IsNaN(v)
}
