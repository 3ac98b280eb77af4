package iec230

import "arvelt/core/rulebook"

// Directions declares for every check which changes for the worse it answers to; a
// property test holds random houses to it.
var Directions = []rulebook.Direction{
	{Check: "capacity", Worse: []rulebook.Worse{rulebook.DeviceLarger, rulebook.CableThinner}},
	{Check: "voltage-drop", Worse: []rulebook.Worse{rulebook.CableThinner, rulebook.RunLonger}},
	{Check: "loop", Worse: []rulebook.Worse{rulebook.DeviceLarger, rulebook.CableThinner, rulebook.RunLonger,
		rulebook.ElectrodeHigher, rulebook.SupplyHigher, rulebook.ProtectionAbsent}},
	{Check: "withstand", Worse: []rulebook.Worse{rulebook.DeviceLarger, rulebook.CableThinner, rulebook.ProtectionAbsent}},
	{Check: "residual", Worse: []rulebook.Worse{rulebook.ProtectionAbsent}},
	{Check: "arc-fault", Worse: []rulebook.Worse{rulebook.ProtectionAbsent}},
	{Check: "electrode", Worse: []rulebook.Worse{rulebook.ElectrodeHigher}},
	{Check: "pen", Worse: []rulebook.Worse{rulebook.ElectrodeHigher}},
	{Check: "other-building", Worse: []rulebook.Worse{rulebook.ElectrodeHigher, rulebook.CableThinner}},
	{Check: "demand", Worse: []rulebook.Worse{rulebook.RunLonger}},
	{Check: "bath-bond-", Worse: []rulebook.Worse{rulebook.ProtectionAbsent}},
	{Check: "ring", Worse: []rulebook.Worse{rulebook.CableThinner}},
	{Check: "earthing-conductor", Reason: "sized by the tails, which no circuit changes; on an electrode a higher resistance " +
		"lets less current flow"},
	{Check: "bonding", Reason: "sized by the supply"},
	{Check: "bonding-", Reason: "sized by the supply"},
	{Check: "design-current", Reason: "load against device: a larger device meets it"},
	{Check: "area", Reason: "a standard circuit by its prescribed device: a larger device serves more"},
	{Check: "breaking-capacity", Reason: "breaking capacity: a longer run and a weaker supply let less current flow"},
	{Check: "separate-cpc", Reason: "a least size, whatever the circuit"},
	{Check: "standby-load", Reason: "load against source"},
	{Check: "standby-transfer", Reason: "a switch that is there or not"},
	{Check: "earthing-it", Reason: "not calculated here"},
	{Check: "backfeed", Reason: "a statement of the manufacturer"},
	{Check: "both-sides", Worse: []rulebook.Worse{rulebook.DeviceLarger}},
	{Check: "spurs", Reason: "a count"},
	{Check: "recessed", Reason: "a statement of the manufacturer"},
	{Check: "cover", Reason: "practice: a caution"},
	{Check: "leakage", Reason: "leakage against the device's own rating"},
	{Check: "selectivity", Reason: "a ratio of two devices: a caution"},
	{Check: "operator", Reason: "a record"},
	{Check: "way", Reason: "a place"},
	{Check: "cable", Reason: "a cable that is not chosen"},
	{Check: "tails", Reason: "the operator's fuse against the tails"},
	{Check: "group-", Reason: "leakage together against the device's own rating"},
	{Check: "grouping", Reason: "a caution"},
	{Check: "board-heat", Reason: "a larger device is warmed less: a caution"},
	{Check: "surge-need", Reason: "an assessment"},
	{Check: "spd-", Reason: "figures of the device alone"},
	{Check: "bath-", Reason: "places of points"},
}
