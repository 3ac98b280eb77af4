package outdoor

import (
	"arvelt/core/rulebook"
	"arvelt/core/words"
	"arvelt/core/working"
)

// The rules of a run, the same in every practice; the figures that they hold it to are the
// practice's.
var (
	coverRule  = ofRun("run-cover", words.Key("Cover of a stretch"), rulebook.HoldsRun)
	ribbonRule = ofRun("ribbon", words.Key("Warning tape above a stretch"), rulebook.HoldsFill)
	bendsRule  = ofRun("bends", words.Key("Sum of bends between pull points"), rulebook.HoldsRun)
	radiusRule = ofRun("bend-radius", words.Key("Radius of the bends"), rulebook.HoldsRun)
	riserRule  = ofRun("riser", words.Key("Where the duct leaves the ground"), rulebook.HoldsRun)
	stringRule = ofRun("draw-string", words.Key("Draw string tied at both ends"), rulebook.HoldsFill)
	cappedRule = ofRun("capped", words.Key("Ends capped"), rulebook.HoldsFill)
	locateRule = ofRun("locate", words.Key("Other services located"), []working.Act{working.ToDig})
	pastRule   = ofRun("past", words.Key("The way past what was found"), rulebook.HoldsRun)
	liableRule = ofRun("liable", words.Key("Who is liable for damage to services"), []working.Act{working.ToDig})
)

func ofRun(id working.RuleID, title words.Key, holds []working.Act) working.Rule {
	return working.Rule{ID: id, Title: string(title), Scope: working.OfRun, Sheet: working.SupplySheet, Leaf: working.OutdoorLeaf,
		Who: working.Crew, Holds: holds}
}

// Rules lists the rules of the works outdoors.
func Rules() []*working.Rule {
	return []*working.Rule{&coverRule, &ribbonRule, &bendsRule, &radiusRule, &riserRule, &stringRule, &cappedRule, &locateRule, &pastRule, &liableRule}
}
