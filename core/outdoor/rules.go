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
	dugRule    = hidden(ofRun("dug", words.Key("Depth as dug"), rulebook.HoldsFill))
	ribbonRule = hidden(ofRun("ribbon", words.Key("Warning tape above a stretch"), rulebook.HoldsFill))
	bendsRule  = ofRun("bends", words.Key("Sum of bends between pull points"), rulebook.HoldsRun)
	radiusRule = hidden(ofRun("bend-radius", words.Key("Radius of the bends"), rulebook.HoldsRun))
	riserRule  = ofRun("riser", words.Key("Where the duct leaves the ground"), rulebook.HoldsRun)
	stringRule = hidden(ofRun("draw-string", words.Key("Draw string tied at both ends"), holdsDuct))
	cappedRule = hidden(ofRun("capped", words.Key("Ends capped"), rulebook.HoldsFill))
	locateRule = known(ofRun("locate", words.Key("Other services located"), []working.Act{working.ToDig}), working.ToDig)
	pastRule   = hidden(ofRun("past", words.Key("The way past what was found"), rulebook.HoldsRun))
	// The same of what is dug for a circuit, on its own sheet.
	cableLocateRule = ofCable(locateRule, "cable-locate")
	cableLiableRule = ofCable(liableRule, "cable-liable")

	liableRule = known(ofRun("liable", words.Key("Who is liable for damage to services"), []working.Act{working.ToDig}), working.ToDig)
)

// holdsDuct are the acts that wait for what is in a duct: nothing is filled over it, or drawn in.
var holdsDuct = append([]working.Act{working.ToPull}, rulebook.HoldsFill...)

// hidden is a rule on what nobody can look at once the trench is filled.
func hidden(r working.Rule) working.Rule { return known(r, working.ToFill, working.ToPull) }

// known is a rule on what must be known by certain acts.
func known(r working.Rule, by ...working.Act) working.Rule {
	r.KnownBy = by
	return r
}

func ofCable(r working.Rule, id working.RuleID) working.Rule {
	r.ID, r.Scope, r.Sheet, r.Leaf = id, working.OfCircuit, working.CircuitsSheet, ""
	return r
}

func ofRun(id working.RuleID, title words.Key, holds []working.Act) working.Rule {
	return working.Rule{ID: id, Title: string(title), Scope: working.OfRun, Sheet: working.SupplySheet, Leaf: working.OutdoorLeaf,
		Who: working.Crew, Holds: holds}
}

// Rules lists the rules of the works outdoors.
func Rules() []*working.Rule {
	return []*working.Rule{&coverRule, &dugRule, &ribbonRule, &bendsRule, &radiusRule, &riserRule, &stringRule, &cappedRule,
		&locateRule, &pastRule, &liableRule,
		&cableLocateRule, &cableLiableRule}
}
