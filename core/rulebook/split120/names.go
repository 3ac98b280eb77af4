package split120

import "arvelt/core/install"

// The uses that a rule looks for; all others are told apart by the columns of
// circuit_uses.csv alone.
const (
	useEV           install.Use = "ev"
	useDistribution install.Use = "distribution"
	useLighting     install.Use = "lighting"
	useAlarms       install.Use = "alarms"
	useSurge        install.Use = "surge"
	useInfeed       install.Use = "infeed"
	useFixed        install.Use = "fixed"
	useRange        install.Use = "range"
	useOven         install.Use = "oven"
	useDryer        install.Use = "dryer"
	useHeating      install.Use = "heating"
	useStrips       install.Use = "strips"
	useGarage       install.Use = "garage"
)

// Categories of the load calculation (Article 220).
const (
	catNone      = "none"
	catGeneral   = "general"
	catSmall     = "small-appliance"
	catLaundry   = "laundry"
	catRange     = "range"
	catDryer     = "dryer"
	catAppliance = "appliance"
	catTankless  = "tankless"
	catHeating   = "heating"
	catHeatPump  = "heat-pump"
	catStrips    = "strips"
	catCooling   = "cooling"
	catEVSE      = "evse"
)

// Methods of the load calculation.
const (
	byStandard = "standard"
	byOptional = "optional"
	byRecord   = "measured"
	byCanada   = "canada"
)

// Kinds of enclosure (enclosures.csv), and the parts that they play for the joint of
// neutral and ground.
const (
	kindDrop       = "drop"
	kindMeter      = "meter"
	kindDisconnect = "disconnect"
	kindPanel      = "panel"
	kindSubpanel   = "subpanel"
	kindTransfer   = "transfer"
	kindGenerator  = "generator"
	kindBuilding   = "building"

	roleService    = "service_disconnect"
	roleNotService = "not_service_disconnect"
)

// Types of surge devices.
const (
	spdType1 = "1"
	spdType2 = "2"
	spdType3 = "3"
)

// Whether a jumper crosses the meter of a pipe (bond_kinds.csv).
const (
	jumperMust  = "must"
	jumperNever = "never"
)

// What a tester shows (tester_patterns.csv), and the pair of a voltage reading.
const (
	answerCorrect    = "correct"
	answerOpenGround = "open_ground"
	pairLN           = "ln"
)

// The metals by which the tables are laid out.
const (
	copper   = "cu"
	aluminum = "al"
)

// Cables, conduits and how conductors run.
const (
	familyNM     = "NM"
	familyUF     = "UF"
	conduitEMT   = "emt"
	metalConduit = "metal conduit"
	plasticDuct  = "plastic duct"
	directColumn = "direct_in"
)

// Inputs and columns of the named calculations.
const (
	fromPanel        = "panel"
	gfciType         = "gfci"
	plainType        = "plain"
	loadTerminals    = "load"
	choiceTwoSlot    = "nongrounding"
	choiceGrounding  = "grounding_plain"
	choiceBehindGFCI = "grounding_via_gfci"
	choiceBootleg    = "bootleg"
	column2017       = "2017"
	yesMark          = "y"
	wiredForLighting = "lighting"
	modeGeneral      = "general"
	modeSeparate     = "separate"
	sinkColumn       = "sink_6ft"
	tubColumn        = "tub_6ft"
)
