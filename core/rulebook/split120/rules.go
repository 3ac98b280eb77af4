package split120

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// cableRule stands in for all of a circuit's while its cable is not chosen.
var cableRule = ofCircuit("cable", "Cable", "")

// The rules that are judged with the service one-line and with the electrodes.
var (
	wiresRule         = ofService("wires", "Conductors to an enclosure", "", working.OfEnclosure, working.ChainLeaf)
	jointNowhereRule  = ofService("joint-none", "Where neutral and ground are joined", "", working.OfJob, working.ChainLeaf)
	transferAheadRule = ofService("transfer-ahead", "Transfer switch ahead of the service disconnect", "",
		working.OfEnclosure, working.ChainLeaf)
	bondAtMeterRule = ofService("bond-at-meter", "Joint in the meter base in place of the service disconnect", "",
		working.OfEnclosure, working.ChainLeaf)
	buildingRule = ofService("building", "Electrode at another building", "", working.OfEnclosure, working.ChainLeaf)

	rodsMissingRule  = ofElectrode("rods-none", "Rods of the grounding electrode", "")
	rodLengthRule    = ofElectrode("rod-length", "Length of a rod", "ft")
	rodSpacingRule   = ofElectrode("rod-spacing", "Distance between rods", "ft")
	rodThicknessRule = ofElectrode("rod-thickness", "Thickness of a rod", "in")
	rodLieRule       = ofElectrode("rod-lie", "Where a rod met rock", "in")
)

func ofCircuit(id working.RuleID, title, unit string) working.Rule {
	return working.Rule{ID: id, Title: title, Unit: unit, Scope: working.OfCircuit, Sheet: working.CircuitsSheet,
		Who: working.Designer, Holds: rulebook.HoldsDesign, Reach: working.ToCircuit}
}

// ofObject makes a rule of something that is asked where that is replaced, too.
func ofObject(r working.Rule) working.Rule {
	r.Reach = working.ToObject
	return r
}

// ofDwelling makes a rule of all of a dwelling.
func ofDwelling(r working.Rule) working.Rule {
	r.Reach = working.ToDwelling
	return r
}

func ofService(id working.RuleID, title, unit string, scope working.Scope, leaf working.Leaf) working.Rule {
	return working.Rule{ID: id, Title: title, Unit: unit, Scope: scope, Sheet: working.SupplySheet, Leaf: leaf,
		Who: working.Designer, Holds: rulebook.HoldsSupply, Reach: working.ToOrigin}
}

func ofElectrode(id working.RuleID, title, unit string) working.Rule {
	return working.Rule{ID: id, Title: title, Unit: unit, Scope: working.OfElectrode, Sheet: working.SupplySheet,
		Leaf: working.OutdoorLeaf, Who: working.Crew, Holds: rulebook.HoldsFill}
}

func onSheet(r working.Rule, sheet working.Sheet) working.Rule {
	r.Sheet, r.Leaf = sheet, ""
	return r
}

// advice takes the acts from a rule that only advises.
func advice(r working.Rule) working.Rule {
	r.Holds = nil
	return r
}

// circuitRules are asked of every circuit whose cable is chosen, in this order, and jobRules
// of the whole job before.
var (
	circuitRules []rulebook.Asked[*circuit]
	jobRules     []rulebook.Asked[*system]
)

// They are set when the program starts: what judges them looks at them in turn.
func init() {
	circuitRules = []rulebook.Asked[*circuit]{
		{Rule: ofCircuit("design-current", "Load against the device", "A"),
			Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, Mends: mendDesignCurrent, Judge: (*circuit).designCurrent},
		{Rule: ofCircuit("capacity", "Conductor against the device", "A"),
			Reads: rulebook.ReadsRoute | rulebook.ReadsDevice, Mends: mendCapacity, Judge: (*circuit).capacity},
		{Rule: ofCircuit("conductor-load", "Load on the conductor", "A"), Reads: rulebook.ReadsRoute | rulebook.ReadsLoad, Mends: mendConductorLoad,
			When: func(c *circuit) bool { return !c.rules.mca }, Judge: (*circuit).loadOnConductor},
		{Rule: ofCircuit("voltage-drop", "Voltage drop", "%"),
			Reads: rulebook.ReadsRoute | rulebook.ReadsLoad, Mends: largerConductor, Judge: (*circuit).voltageDrop},
		{Rule: ofCircuit("ground", "Equipment grounding conductor", "mm²"),
			Reads: rulebook.ReadsRoute | rulebook.ReadsDevice, Mends: mendGround, Judge: (*circuit).ground},
		{Rule: ofCircuit("conductors", "Hots and neutral", ""),
			Reads: rulebook.ReadsRoute | rulebook.ReadsPlace, Mends: mendConductors, Judge: (*circuit).conductorsOf},
		{Rule: ofObject(ofCircuit("shared-neutral", "Shared neutral", "A")), Mends: mendShared, When: func(c *circuit) bool { return sharesNeutral(c.k) },
			Judge: (*circuit).sharedNeutral},
		{Rule: ofCircuit("breaking", "Interrupting rating", "kA"), Branch: true, Reads: rulebook.ReadsDevice, Mends: mendBreaking, Judge: (*circuit).breaking},
		{Rule: ofObject(ofCircuit("ground-fault", "Ground-fault protection", "")), Mends: mendGroundFault,
			When: (*circuit).hasOutlets, Judge: (*circuit).groundFault},
		{Rule: ofObject(ofCircuit("arc-fault", "Arc-fault protection", "")), Mends: mendArcFault, When: (*circuit).outletsKnown,
			Judge: (*circuit).arcFault},
		{Rule: ofObject(ofCircuit("string", "Wiring of the string", "")), Mends: mendString, When: (*circuit).boxed, Judge: (*circuit).wiring},
		{Rule: ofObject(ofCircuit("receptacles", "Outlets on their circuit", "")), Mends: mendReceptacles, When: (*circuit).boxed,
			Judge: (*circuit).receptacles},
		{Rule: ofCircuit("joints", "Splices on the run", ""), Reads: rulebook.ReadsLoad, When: func(c *circuit) bool { return rulebook.HasJoints(c.k) },
			Judge: (*circuit).joints},
		{Rule: ofObject(ofCircuit("box-fill", "Box fill", "in³")), When: (*circuit).boxed, Judge: (*circuit).boxFill},
		{Rule: ofCircuit("leakage", "Standing leakage on the ground-fault device", "mA"),
			Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, When: (*circuit).leaks, Judge: (*circuit).leakage},
		{Rule: ofCircuit("backfeed", "Power from either side", ""), Reads: rulebook.ReadsDevice, Judge: (*circuit).backfeed},
		{Rule: ofCircuit("both-sides", "Bars fed from both sides", "A"), Reads: rulebook.ReadsDevice, When: (*circuit).brings, Judge: (*circuit).bothSides},
		{Rule: ofCircuit("conduit", "Conduit fill", "%"), Branch: true, Reads: rulebook.ReadsRoute, When: func(c *circuit) bool { return c.row.cores == 0 },
			Judge: (*circuit).conduitFill},
		{Rule: ofCircuit("cover", "Cover in the ground", "in"), Reads: rulebook.ReadsRoute, Judge: (*circuit).cover},
		{Rule: ofCircuit("ev", "EV charger", "A"),
			Reads: rulebook.ReadsLoad, When: func(c *circuit) bool { return c.k.Use == useEV }, Judge: (*circuit).vehicle},
		{Rule: onSheet(ofCircuit("way", "Space in the panel", ""), working.BoardSheet), Branch: true, Reads: rulebook.ReadsPlace, Mends: mendSpace,
			When: func(c *circuit) bool { return c.k.From == "" || c.Job.BoardOf(c.k) != nil }, Judge: (*circuit).space},
	}
	nec := func(s *system) bool { return s.code == NEC }
	upgrade := func(s *system) bool { return s.Job.Kind == install.SupplyUpgrade }
	jobRules = []rulebook.Asked[*system]{
		{Rule: working.Rule{ID: "demand", Title: "Service load against the service", Unit: "A", Scope: working.OfJob,
			Sheet: working.CircuitsSheet, Leaf: working.DemandLeaf, Who: working.Designer, Holds: rulebook.HoldsSupply,
			Reach: working.ToOrigin, Load: true},
			Reads: rulebook.ReadsLoad, Mends: mendDemand, Judge: (*system).demand},
		{Rule: ofService("service-disconnects", "Service disconnects together", "", working.OfJob, working.ChainLeaf),
			When: nec, Judge: (*system).mainsTogether},
		{Rule: ofService("service", "Service conductors", "A", working.OfEnclosure, working.ChainLeaf), Judge: (*system).serviceConductors},
		{Rule: ofService("feeder", "Feeder", "A", working.OfEnclosure, working.ChainLeaf), Judge: (*system).feeders},
		{Rule: ofService("feeder-ground", "Equipment ground of a feeder", "mm²", working.OfEnclosure, working.ChainLeaf),
			Judge: (*system).feederGrounds},
		{Rule: ofService("emergency-disconnect", "Disconnect outdoors for an emergency", "", working.OfJob,
			working.ChainLeaf), When: (*system).outdoorDisconnectAsked, Judge: (*system).outdoorDisconnect},
		{Rule: ofService("electrode-conductor", "Grounding electrode conductor", "mm²", working.OfBond, working.FoundLeaf),
			Judge: (*system).electrodeConductor},
		{Rule: ofService("bond", "Bond of a pipe or structure", "mm²", working.OfBond, working.FoundLeaf), Judge: (*system).bonds},
		{Rule: ofService("electrodes", "Grounding electrodes", "", working.OfElectrode, working.FoundLeaf), When: upgrade,
			Judge: (*system).electrodeThere},
		{Rule: ofService("supplemental-electrode", "Another electrode beside the water pipe", "", working.OfElectrode,
			working.FoundLeaf), When: nec, Judge: (*system).supplemental},
		{Rule: advice(ofService("intersystem", "Bonding place for telephone, antenna and data", "", working.OfJob,
			working.FoundLeaf)), Judge: (*system).intersystem},
		{Rule: advice(onSheet(ofService("legs", "Balance of the legs", "A", working.OfBoard, ""), working.BoardSheet)),
			Reads: rulebook.ReadsLoad | rulebook.ReadsPlace, Judge: (*system).legs},
		{Rule: ofDwelling(onSheet(ofService("spacing", "Receptacles along the walls of a room", "", working.OfRoom, ""),
			working.SurveySheet)), Judge: (*system).spacing},
		{Rule: ofDwelling(onSheet(ofService("required-circuits", "Circuits that a dwelling must have", "", working.OfJob, ""),
			working.CircuitsSheet)), Reads: rulebook.ReadsLoad | rulebook.ReadsDevice, When: (*system).rewired,
			Judge: (*system).requiredCircuits},
		{Rule: onSheet(ofService("working-space", "Working space in front of a panel", "in", working.OfBoard, ""),
			working.BoardSheet), Judge: (*system).workingSpace},
		{Rule: onSheet(ofService("board-feed", "Panel against what feeds it", "A", working.OfBoard, ""), working.BoardSheet),
			Judge: (*system).panelFeeds},
		{Rule: onSheet(ofService("board-joint", "Neutral and ground in a panel", "", working.OfBoard, ""), working.BoardSheet),
			Judge: (*system).panelJoints},
		{Rule: onSheet(ofService("board-poles", "Breakers against the panel's list", "poles", working.OfBoard, ""), working.BoardSheet),
			When: func(s *system) bool { return len(s.Job.Circuits) > 0 }, Judge: (*system).panelPoles},
		{Rule: advice(onSheet(ofService("ungrounded", "Outlets without an equipment ground", "", working.OfJob, ""),
			working.CircuitsSheet)), Reads: rulebook.ReadsLoad, Judge: (*system).ungrounded},
		{Rule: ofService("surge-need", "Surge protection of the service", "", working.OfJob, working.SurgeLeaf),
			When: (*system).surgeAsked, Judge: (*system).surgeNeed},
		{Rule: ofService("spd", "Surge device", "V", working.OfDevice, working.SurgeLeaf), When: (*system).surgeAsked,
			Judge: (*system).surgeDevices},
		{Rule: rulebook.StandbyLoadRule, When: (*system).standbyThere, Judge: (*system).standby},
		{Rule: rulebook.TransferRule, When: (*system).standbyThere, Judge: (*system).transfer},
	}
	mends = map[working.RuleID]rulebook.Mends{}
	rulebook.MendsOf(mends, circuitRules)
	rulebook.MendsOf(mends, jobRules)
}

// Rules lists every rule of the practice.
func (Practice) Rules() []*working.Rule {
	out := append([]*working.Rule{&cableRule}, rulebook.RulesOf(circuitRules)...)
	out = append(out, rulebook.RulesOf(jobRules)...)
	return append(out, &rulebook.JointRule, &rulebook.SealRule, &rulebook.LineSideRule, &wiresRule, &jointNowhereRule, &transferAheadRule,
		&bondAtMeterRule, &buildingRule,
		&rodsMissingRule, &rodLengthRule, &rodSpacingRule, &rodThicknessRule, &rodLieRule, &rulebook.RodJoinRule, &rulebook.ElectrodeRule)
}

// hasOutlets: a feeder and the branch of a surge device have none.
// On one that stays there are those that are replaced.
func (c *circuit) hasOutlets() bool {
	if c.k.State == install.KeptCircuit {
		return slices.ContainsFunc(c.k.Serves.Boxes, func(b install.Box) bool { return b.Replaces && b.Device.Outlet() })
	}
	return c.k.Use != useDistribution && c.k.Use != useSurge
}

func (c *circuit) leaks() bool {
	return c.k.Protection.RCDType != "" && c.k.Serves.LeakMA.Known()
}

// rewired: the job is the wiring of a dwelling.
func (s *system) rewired() bool { return s.Job.Kind == install.Rewire && len(s.Job.Circuits) > 0 }

func (s *system) standbyThere() bool { return s.Job.Standby.Source != "" }

// outdoorDisconnectAsked: the job makes the service, and the code asks for one outdoors.
func (s *system) outdoorDisconnectAsked() bool {
	return s.Job.Kind == install.SupplyUpgrade && s.code == NEC && len(s.Job.Chain.Enclosures) > 0
}
