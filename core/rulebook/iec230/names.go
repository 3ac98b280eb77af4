package iec230

import (
	"slices"

	"arvelt/core/install"
)

// The uses that a rule looks for; all others are told apart by the columns of
// circuit_uses.csv alone.
const (
	useEV           install.Use = "ev"
	useDistribution install.Use = "distribution"
	useShower       install.Use = "shower"
	useRing         install.Use = "ring"
	useSockets      install.Use = "sockets"
	useLighting     install.Use = "lighting"
	useSurge        install.Use = "surge"
	useCooker       install.Use = "cooker"
	useAlarm        install.Use = "alarm"
	useInfeed       install.Use = "infeed"
	useFixed        install.Use = "fixed"
)

// clipped is the method by which the tails and the first stretch of a cable run.
const clipped install.Method = "C"

// What protects a point against a broken combined conductor (pen_options.csv).
const (
	penRod       install.BrokenPEN = "tt_rod"
	penElectrode install.BrokenPEN = "met_electrode"
	penMonitor   install.BrokenPEN = "voltage_monitor"
	penTouch     install.BrokenPEN = "touch_voltage_device"
)

// Families of overcurrent devices and their curves.
const (
	breaker    = "mcb_rcbo"
	rewirable  = "bs3036"
	curveB     = "B"
	curveC     = "C"
	usualCurve = curveB
)

// Types and delays of residual-current devices, and what a table says of a type for a load
// (rcd_type_by_load.csv).
const (
	typeA               = "A"
	typeF               = "F"
	typeB               = "B"
	undelayed           = "none"
	delayedS            = "S"
	residualBarred      = "not_ok"
	residualConditional = "condition"
	askedIdn            = "rcd_idn"
	askedType           = "rcd_type"
	askedDC             = "dc_detection"
)

// The schools of a job and of the named calculations that a rule looks for.
const (
	threeTests       = "three_test"
	editionTests     = "bs7671_a2"
	readingCorrected = "corrected"
	schoolB          = "B" // of the cores of an armoured cable
	schoolBS7430     = "bs7430"
	schoolIS3043     = "is3043"
	standardBS4293   = "bs4293"
	allOutgoing      = "all_outgoing"
	continuousOnly   = "continuous_only"
	byRiskLevel      = "risk-level"
)

// How a category of the demand is diversified (diversity.csv), and the categories that
// are not of the table alone.
const (
	pctTotal        = "pct_total"
	firstPlusPct    = "first_plus_pct"
	largestPlusPct  = "largest_plus_pct"
	largestNPlusPct = "largest_n_plus_pct"
	uncounted       = "none"
	inFull          = "full"
	categoryEV      = "ev"
	categoryCooker  = "cooker"
	categorySockets = "socket_circuits"
)

// Surge protection: where the building stands, what a surge would cost, device and leads.
const (
	urban        = "urban"
	lossOfLife   = "life"
	greatLoss    = "loss"
	spdType3     = "3"
	schemeCT2    = "CT2"
	leadsTooLong = "too_long"
	leadsAllowed = "allowed_max"
)

// Enclosures of the supply arrangement (enclosures.csv).
const (
	kindBoard      = "board"
	kindBlock      = "block"
	kindCable      = "cable"
	kindHead       = "head"
	kindMeter      = "meter"
	kindSource     = "source"
	kindChangeover = "changeover"
)

// ownElectrode is the other building's electrode (outbuilding_earth.csv).
const ownElectrode = "electrode"

// Where a point is, in the named calculation.
const (
	placeIndoor  = "indoor"
	placeOutdoor = "outdoor"
)

// What the named calculations say apart.
const (
	codeUnstable    = "ra_unstable"
	codeFalseTrip   = "pen_monitor_false_trip"
	codeConditional = "type_conditional"
	noZone          = "none"
	deepZone        = "depth"
	guardedZone     = "protected"
	otherFace       = "other"
	faultSpacing    = "spacing"
)

// Columns and rows of the tables of cables, grouping and soil.
const (
	flatTable            = "ccc_flat_te_70"
	singleTable          = "ccc_single_core_70"
	arrangementCircuits  = "circuits"
	arrangementTabulated = "bunched_tabulated"
	soilKey              = "soil_k_m_per_w"
	earthEqual           = "equal"
	earthFixed           = "fixed"
	coreBare             = "bare"
	coreGreenYellow      = "green-yellow"
	coverPractice        = "uk_practice"
	leakPerOutlet        = "outlet"
	leakPerKW            = "kw"
)

// Local rules that follow the country of the tables (national_tables in the schools).
const (
	ruleCmin         = "cmin"
	ruleCoverGarden  = "cover-garden"
	ruleDropLighting = "drop-lighting"
	ruleDropOther    = "drop-other"
)

// hasRating reports whether devices of a family are made for a current in amperes.
func hasRating(family string, a float64) bool { return slices.Contains(Ratings(family), a) }
