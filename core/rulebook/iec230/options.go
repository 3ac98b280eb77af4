package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// options are what the practice leaves to a company.
var options = func() rulebook.Options {
	o := rulebook.OptionsOf(dataFiles, "")
	o.Named("notifyTotalA").Default = install.Figure(evNotify.Fixed("max_demand_notify_limit"))
	o.Named("notifySingleA").Default = install.Figure(evNotify.Fixed("single_device_notify_limit"))
	return o
}()

var (
	zsReading    = options.Named("zsReading")
	rcdTests     = options.Named("rcdTests")
	buttonMonths = options.Named("rcdMonths")
	notifyTotal  = options.Named("notifyTotalA")
	notifySingle = options.Named("notifySingleA")
	swaCores     = options.Named("swaCores")
	surgeNeed    = options.Named("surgeNeed")
	tablesOption = options.Named("tables")
	splitOption  = options.Named("penSplit")
)

// splitAtBoard is the way in which the combined conductor of a TN-C-S supply is split at
// the main board, by the rule of some countries.
const splitAtBoard = "main-board"

// nationalTables are the tables that a job may be under.
func nationalTables() (ids []string) {
	for _, way := range tablesOption.Choices {
		ids = append(ids, way.ID)
	}
	return ids
}
