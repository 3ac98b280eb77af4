package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// options are what the practice of the United States leaves to a company.
var options = rulebook.OptionsOf(dataFiles, string(NEC))

var (
	bondAt     = options.Named("bondAt")
	bondRule   = options.Named("bondRule")
	loadOfNEC  = options.Named("loadMethod")
	loadCanada = canadaOptions.Named("loadCanada")
)

// loadMethod is how the load of the service is calculated on the job.
func loadMethod(job *install.Job) string {
	if codeOf(job) == NEC {
		return loadOfNEC.In(&job.Schools)
	}
	if _, chosen := job.Schools.Options[loadCanada.ID]; !chosen && loadOfNEC.In(&job.Schools) == byRecord {
		return byRecord // carried over from before Canada had an option of its own
	}
	return loadCanada.In(&job.Schools)
}
