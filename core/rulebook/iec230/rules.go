package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Rules that others look for by what they ask.
const (
	loopID     working.RuleID = "loop"
	residualID working.RuleID = "residual"
	arcFaultID working.RuleID = "arc-fault"
)

// cableRule stands in for all of a circuit's while its cable is not chosen; combinedRule is
// judged with the supply arrangement.
var (
	cableRule = working.Rule{ID: "cable", Title: "Cable", Scope: working.OfCircuit, Sheet: working.CircuitsSheet,
		Who: working.Designer, Holds: rulebook.HoldsDesign}
	rodThicknessRule = working.Rule{ID: "rod-thickness", Title: "Thickness of a rod", Unit: "mm", Scope: working.OfElectrode,
		Sheet: working.SupplySheet, Leaf: working.OutdoorLeaf, Who: working.Crew, Holds: rulebook.HoldsSign}
	combinedRule = working.Rule{ID: "combined", Title: "Combined conductor of the supply", Unit: "mm²",
		Scope: working.OfEnclosure, Sheet: working.SupplySheet, Leaf: working.ChainLeaf, Who: working.Designer, Holds: rulebook.HoldsSupply}
)

// of makes a rule of a circuit, which the designer mends on its sheet.
func ofCircuit(id working.RuleID, title, unit string) working.Rule {
	return working.Rule{ID: id, Title: title, Unit: unit, Scope: working.OfCircuit, Sheet: working.CircuitsSheet,
		Who: working.Designer, Holds: rulebook.HoldsDesign, Reach: working.ToCircuit}
}

// ofSupply makes a rule of the supply, which is mended on the Supply sheet.
func ofSupply(id working.RuleID, title, unit string, scope working.Scope, leaf working.Leaf) working.Rule {
	return working.Rule{ID: id, Title: title, Unit: unit, Scope: scope, Sheet: working.SupplySheet, Leaf: leaf,
		Who: working.Designer, Holds: rulebook.HoldsSupply, Reach: working.ToOrigin}
}

// ofObject makes a rule of something that is asked where that is replaced, too.
func ofObject(r working.Rule) working.Rule {
	r.Reach = working.ToObject
	return r
}

// onBoard moves a rule to the Board sheet.
func onBoard(r working.Rule) working.Rule {
	r.Sheet, r.Leaf = working.BoardSheet, ""
	return r
}

// circuitRules are asked of every circuit whose cable is chosen, in this order.
var circuitRules []rulebook.Asked[*circuit]

// jobRules are asked of the whole job, houseRules when its circuits are judged.
var jobRules, houseRules []rulebook.Asked[*system]

// They are set when the program starts: what judges them looks at them in turn.
func init() {
	circuitRules = append(clampRules(), []rulebook.Asked[*circuit]{
		{Rule: ofCircuit("design-current", "Design current against the device", "A"),
			Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, Mends: mendDesignCurrent,
			Judge: (*circuit).designCurrent},
		{Rule: ofCircuit("capacity", "Current-carrying capacity of the cable", "A"),
			Reads: rulebook.ReadsRoute | rulebook.ReadsDevice, Mends: mendCapacity, Judge: (*circuit).capacity},
		{Rule: ofCircuit("voltage-drop", "Voltage drop", "%"),
			Reads: rulebook.ReadsRoute | rulebook.ReadsLoad, Mends: mendDrop, Far: true, Judge: (*circuit).voltageDrop},
		{Rule: ofCircuit(loopID, "Earth fault loop impedance", "Ω"), Reads: rulebook.ReadsRoute, Mends: mendFault, Far: true, Judge: (*circuit).loop},
		{Rule: ofCircuit("ring", "Ring final circuit: device and conductor", "mm²"),
			Reads: rulebook.ReadsRoute | rulebook.ReadsDevice, When: (*circuit).isRing, Judge: (*circuit).ring},
		{Rule: ofCircuit("withstand", "Fault withstand of the conductors", "mm²"), Branch: true,
			Reads: rulebook.ReadsRoute | rulebook.ReadsDevice, Mends: mendFault, Judge: (*circuit).withstand},
		{Rule: ofCircuit("breaking-capacity", "Breaking capacity", "kA"), Branch: true, Reads: rulebook.ReadsDevice, Mends: mendBreaking, Judge: (*circuit).breaking},
		{Rule: ofCircuit("separate-cpc", "Separate protective conductor", "mm²"), Reads: rulebook.ReadsRoute,
			When: func(c *circuit) bool { return c.k.Route.CPC == install.SeparateCPC }, Judge: (*circuit).separateConductor},
		{Rule: ofCircuit("backfeed", "Power from either side", ""), Reads: rulebook.ReadsDevice, Judge: (*circuit).backfeed},
		{Rule: ofCircuit("both-sides", "Bars fed from both sides", "A"), Reads: rulebook.ReadsDevice, When: (*circuit).brings, Judge: (*circuit).bothSides},
		{Rule: ofCircuit("area", "Floor area served", "m²"), Reads: rulebook.ReadsLoad, Mends: mendArea, Judge: (*circuit).area},
		{Rule: ofCircuit("spurs", "Spurs", ""), Reads: rulebook.ReadsLoad, Mends: mendSpurs,
			When: func(c *circuit) bool { return len(c.branches) > 0 }, Judge: (*circuit).spurs},
		{Rule: ofCircuit("joints", "Joints on the run", "A"), Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, Mends: rulebook.MendJoints,
			When: func(c *circuit) bool { return rulebook.HasJoints(c.k) }, Judge: (*circuit).joints},
		{Rule: ofObject(ofCircuit("recessed", "Recessed luminaires", "")),
			When: func(c *circuit) bool { return c.k.Serves.Recessed.Fitted }, Judge: (*circuit).recessed},
		{Rule: ofCircuit("cover", "Cover of the buried cable", "mm"), Reads: rulebook.ReadsRoute, When: (*circuit).buried, Judge: (*circuit).cover},
		{Rule: ofCircuit(residualID, "Residual-current device", "mA"), Branch: true,
			Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, Mends: mendResidual, Judge: (*circuit).residual},
		{Rule: ofCircuit("leakage", "Standing leakage", "mA"), Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, Judge: (*circuit).leakage},
		{Rule: ofCircuit("selectivity", "Residual-current devices in series", ""), Reads: rulebook.ReadsDevice, Judge: (*circuit).selectivity},
		{Rule: ofCircuit(arcFaultID, "Arc-fault detection", ""),
			Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, When: (*circuit).arcFaultAsked, Judge: (*circuit).arcFault},
		{Rule: ofCircuit("other-building", "Earthing of the other building", "mm²"), Reads: rulebook.ReadsRoute,
			When: func(c *circuit) bool { return c.k.Out.Building && c.k.Use == useDistribution }, Judge: (*circuit).otherBuilding},
		{Rule: ofCircuit("pen", "Broken combined neutral-earth conductor", ""), Reads: rulebook.ReadsLoad, Mends: mendPEN, When: (*circuit).charging,
			Judge: (*circuit).pen},
		{Rule: working.Rule{ID: "operator", Title: "Network operator", Unit: "A", Scope: working.OfCircuit,
			Sheet: working.CircuitsSheet, Who: working.Operator,
			Holds: []working.Act{working.ToEnergise, working.ToService, working.ToSign}, Reach: working.ToCircuit}, When: (*circuit).charging,
			Reads: rulebook.ReadsLoad, Judge: (*circuit).operator},
		{Rule: onBoard(ofCircuit("way", "A way on the board", "")), Branch: true, Reads: rulebook.ReadsPlace, Mends: mendWay,
			When: func(c *circuit) bool { return c.k.From == "" || c.Job.BoardOf(c.k) != nil }, Judge: (*circuit).way},
	}...)
	jobRules = []rulebook.Asked[*system]{
		{Rule: working.Rule{ID: "demand", Title: "Maximum demand against the main fuse", Unit: "A", Scope: working.OfJob,
			Sheet: working.CircuitsSheet, Leaf: working.DemandLeaf, Who: working.Designer, Holds: rulebook.HoldsSupply,
			Reach: working.ToOrigin, Load: true},
			Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, Mends: mendDemand, Judge: (*system).maximumDemand},
		{Rule: ofSupply("tails", "Tails against the main fuse", "A", working.OfJob, working.FoundLeaf), Judge: (*system).tails},
		{Rule: ofSupply("earthing-conductor", "Main earthing conductor", "mm²", working.OfBond, working.FoundLeaf),
			Judge: (*system).earthingConductor},
		{Rule: ofSupply("bonding", "Main bonding", "mm²", working.OfBond, working.FoundLeaf),
			When: func(s *system) bool { return !s.Job.Supply.NoExtraneous }, Judge: (*system).bonding},
		{Rule: ofSupply("earthing-it", "Earthing arrangement", "", working.OfJob, working.FoundLeaf),
			When: func(s *system) bool { return s.Job.Supply.Earthing == install.IT }, Judge: (*system).insulated},
		{Rule: ofSupply("electrode", "Earth electrode of the installation", "Ω", working.OfElectrode, working.FoundLeaf),
			Reads: rulebook.ReadsDevice, When: func(s *system) bool { return s.Job.Supply.Earthing == install.TT }, Judge: func(s *system) {
				electrodeCheck(s.Job, s.Of(""), installationElectrode(s.Job), largestResidual(s.Job))
			}},
		{Rule: onBoard(ofSupply("group", "Shared residual-current device", "mA", working.OfDevice, "")),
			Reads: rulebook.Everything, Mends: mendGroup, Judge: (*system).groups},
		{Rule: onBoard(ofSupply("group-direct", "Direct current through a shared device", "mA", working.OfDevice, "")), Reads: rulebook.Everything,
			Judge: (*system).groupsDirect},
		{Rule: onBoard(ofSupply("group-quiet", "Leakage without a trip of a shared device", "mA", working.OfDevice, "")), Reads: rulebook.Everything,
			Judge: (*system).groupsQuiet},
		{Rule: onBoard(working.Rule{ID: "grouping", Title: "Circuits lost per trip", Scope: working.OfBoard,
			Who: working.Designer, Hint: true, Reach: working.ToOrigin}), Judge: (*system).grouping},
		{Rule: onBoard(ofSupply("board-heat", "Continuous loads on a board", "A", working.OfBoard, "")),
			Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, Judge: (*system).boardHeat},
		{Rule: onBoard(ofSupply("board-feed", "What feeds a further board", "A", working.OfBoard, "")), Judge: (*system).boardFeeds},
		{Rule: onBoard(ofSupply("board-joint", "Neutral and earth in a board", "", working.OfBoard, "")), Judge: (*system).boardJoints},
		{Rule: ofSupply("surge-need", "Need for surge protection", "", working.OfJob, working.SurgeLeaf),
			When: (*system).surgeAsked, Judge: (*system).surgeNeed},
		{Rule: ofSupply("spd", "Surge device", "kV", working.OfDevice, working.SurgeLeaf), When: (*system).surgeAsked,
			Judge: (*system).surgeDevices},
		{Rule: rulebook.StandbyLoadRule, When: (*system).standbyThere, Judge: (*system).standby},
		{Rule: rulebook.TransferRule, When: (*system).standbyThere, Judge: (*system).transfer},
	}
	houseRules = []rulebook.Asked[*system]{
		{Rule: working.Rule{ID: "bath", Title: "Zones of a room with a bath or shower", Scope: working.OfRoom,
			Sheet: working.SurveySheet, Leaf: working.WalkLeaf, Who: working.Designer, Holds: rulebook.HoldsDesign},
			Judge: (*system).baths},
		{Rule: working.Rule{ID: "bath-bond", Title: "Supplementary bonding of a room with a bath or shower", Unit: "Ω",
			Scope: working.OfRoom, Sheet: working.SurveySheet, Leaf: working.WalkLeaf, Who: working.Designer,
			Holds: rulebook.HoldsDesign}, Judge: (*system).bathBonds},
	}
	mends = map[working.RuleID]rulebook.Mends{}
	rulebook.MendsOf(mends, circuitRules)
	rulebook.MendsOf(mends, jobRules)
}

func (c *circuit) isRing() bool   { return c.k.Use == useRing }
func (c *circuit) charging() bool { return c.k.Use == useEV }

// arcFaultAsked: only circuits with socket-outlets up to their rating are asked about.
func (c *circuit) arcFaultAsked() bool {
	return hasSockets(c.k) && c.k.Protection.RatingA <= rcdSocketsRatingWithRCDMax.V()
}

func (s *system) surgeAsked() bool   { return surgeAsked(s.Job) }
func (s *system) standbyThere() bool { return s.Job.Standby.Source != "" }

// Rules lists every rule of the practice.
func (Practice) Rules() []*working.Rule {
	out := append([]*working.Rule{&cableRule}, rulebook.RulesOf(circuitRules)...)
	out = append(out, rulebook.RulesOf(jobRules)...)
	out = append(out, rulebook.RulesOf(houseRules)...)
	return append(out, &combinedRule, &rulebook.JointRule, &rulebook.SealRule, &rulebook.LineSideRule, &rodThicknessRule,
		&rulebook.RodJoinRule, &rulebook.ElectrodeRule)
}

// clampRules are those of them that are asked where something was read with a clamp.
func clampRules() []rulebook.Asked[*circuit] {
	return []rulebook.Asked[*circuit]{
		{Rule: ofCircuit("leakage-direct", "Direct current through the residual-current device", "mA"), Reads: rulebook.ReadsLoad | rulebook.ReadsDevice,
			When: (*circuit).leaksDirect, Judge: (*circuit).direct},
		{Rule: ofCircuit("leakage-quiet", "Leakage without a trip", "mA"), Reads: rulebook.ReadsLoad | rulebook.ReadsDevice,
			When: (*circuit).leaksMuch, Judge: (*circuit).quiet},
	}
}
