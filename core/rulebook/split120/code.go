package split120

import (
	"arvelt/core/install"
	"arvelt/core/table"
	"arvelt/core/working"
)

// Code is the electrical code that a job is built to.
type Code string

// The codes: that of the United States and that of Canada.
const (
	NEC Code = "NEC"
	CEC Code = "CEC"
)

func codeOf(job *install.Job) Code {
	if job.Practice == CanadaID {
		return CEC
	}
	return NEC
}

// clause is where a rule stands in each code. Those of Canada are of medium
// confidence: their numbers move between editions.
type clause struct {
	nec, cec string
	low      bool // readings of the text differ
}

func (c clause) ref(code Code) string {
	if code == CEC {
		return c.cec
	}
	return c.nec
}

func (c clause) in(code Code) working.Source {
	s := working.Source{Ref: c.ref(code), Confidence: "high"}
	switch {
	case c.low:
		s.Confidence = "low"
	case code == CEC:
		s.Confidence = "medium"
	}
	return s
}

// The clauses that checks rest on beside the tables.
var (
	clauseJoint = clause{nec: "NEC 250.24(B), 250.28, 250.30, 250.142, 230.71(B) (own words)",
		cec: "CEC 10-210, 10-212 (own words)"}
	clauseTransferAhead = clause{nec: "NEC 230.66, 230.82 (own words)", cec: "CEC 6-102, 14-612 (own words)", low: true}
	clauseBondAtMeter   = clause{nec: "NEC 250.24(A), 250.24(B), 250.142(A) (own words)", cec: "CEC 10-210 (own words)", low: true}
	clauseBuilding      = clause{nec: "NEC 250.32", cec: "CEC 10-210, 26-252"}
	clausePanel         = clause{nec: "NEC 408.36, 408.30", cec: "CEC 14-606"}
	clausePanelPoles    = clause{nec: "NEC 408.54, 110.3(B)", cec: "CEC 2-024; the panel's own listing"}
	clausePanelJoint    = clause{nec: "NEC 250.24(B), 250.142(B), 408.40", cec: "CEC 10-210, 10-214"}
	clauseSplices       = clause{nec: "NEC 300.15, 314.29", cec: "CEC 12-3000, 12-3014"}
	clauseShared        = clause{nec: "NEC 210.4, 200.4(B), 300.13(B)", cec: "CEC 4-018, 14-010, 14-302"}
	clauseService       = clause{nec: "NEC 310.12, 230.42, 215.2", cec: "CEC 4-004, Table 39"}
	clauseMains         = clause{nec: "NEC 230.71", cec: "CEC 6-200"}
	clauseFeederTap     = clause{nec: "NEC 240.4(B), 240.21", cec: "CEC 14-100, 14-104"}
	clauseMetalGround   = clause{nec: "NEC 250.118", cec: "CEC 10-610"}
	clauseElectrode     = clause{nec: "NEC 250.53(D), 250.66", cec: "CEC 10-102, 10-114"}
	clausePiping        = clause{nec: "NEC 250.52(B)(1), 250.104(B), 250.122", cec: "CEC 10-700, 10-708"}
	clauseInterior      = clause{nec: "NEC 250.104(A), 250.104(C)", cec: "CEC 10-700, 10-708"}
	clauseIntersystem   = clause{nec: "NEC 250.94", cec: "CEC 10-702"}
	clauseOutdoorOff    = clause{nec: "NEC 230.85", cec: "CEC 6-206"}
	clauseLoad          = clause{nec: "NEC 210.19, 210.20, 215.3", cec: "CEC 8-104"}
	clauseDevice        = clause{nec: "NEC 110.14(C), 240.4", cec: "CEC 4-006, 14-104"}
	clauseConductorLoad = clause{nec: "NEC 210.19(A), 215.2(A)", cec: "CEC 4-004, 8-104"}
	clauseRatings       = clause{nec: "NEC 240.6(A)", cec: "CEC 14-104, 14-212"}
	clauseRangeBranch   = clause{nec: "NEC 210.19, Table 220.55 note 4", cec: "CEC 8-300"}
	clauseMotorUnit     = clause{nec: "NEC 440.4, 440.32", cec: "CEC 28-706"}
	clauseConductors    = clause{nec: "NEC 200, 210.4", cec: "CEC 4-022, 26-650"}
	clauseBreaking      = clause{nec: "NEC 110.9, 110.24", cec: "CEC 14-012"}
	clauseFill          = clause{nec: "NEC Chapter 9 Tables 1, 4, 5", cec: "CEC 12-1014, Tables 6, 8 and 9"}
	clauseEV            = clause{nec: "NEC 625.40, 625.42, 625.43, 625.54", cec: "CEC 86-300, 86-304, 86-306"}
	clausePairRule      = clause{nec: "NEC 210.21(B), 406.9, 406.12", cec: "CEC 26-650, 26-706, 26-708"}
	clauseProtects      = clause{nec: "NEC 210.8, 406.4(D)", cec: "CEC 26-700, 26-704"}
	clauseUngrounded    = clause{nec: "NEC 406.4(D), 250.130(C)", cec: "CEC 26-702"}
	clauseBoxFill       = clause{nec: "NEC 314.16(B)", cec: "CEC 12-3034"}
	clauseSpacing       = clause{nec: "NEC 210.52", cec: "CEC 26-722, 26-724"}
	clauseBalance       = clause{nec: "NEC 220.61; trade practice", cec: "CEC 4-018; trade practice"}
	clauseBackfeed      = clause{nec: "NEC 705.30(D), 408.36(D)", cec: "CEC Section 84"}
	clauseBothSides     = clause{nec: "NEC 705.12(B)(3), 705.28(A)", cec: "CEC 64-112(4)"}
	clauseStandby       = clause{nec: "NEC 702.4(B), 702.5", cec: "CEC 14-612, 46-000"}
	clauseEMS           = clause{nec: "NEC 220.70, 625.42, 750.30", cec: "CEC 8-106(11), 8-500"}
	clauseRounding      = clause{nec: "NEC 220.5(B)", cec: "CEC 8-002"}
	clauseMeasured      = clause{nec: "NEC 220.87", cec: "CEC 8-106(8)"}
	clauseMeasuredLow   = clause{nec: "NEC 220.87 exception", cec: "CEC 8-106(8)", low: true}
	clauseUpsize        = clause{nec: "NEC 250.122(B)", cec: "CEC 10-616"}
)

// under is where a table's figures stand in a code: its own source, or for Canada what
// stands on top of the file.
func under(t *table.Table, code Code) working.Source {
	if code == CEC {
		if s, ok := t.Under("cec"); ok {
			return s
		}
		return working.Source{Ref: "practice of the trade", Confidence: "low"}
	}
	return t.Source
}
