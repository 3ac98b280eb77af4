package install

// The ids of this file are types so that the compiler tells them apart. A practice declares
// its own constants of them; those that every practice knows stand here.

// Use is what a circuit is for, as a practice names it. What is decided by it stands in the
// practice's table of uses.
type Use string

// CircuitState is what a job does to a circuit.
type CircuitState string

// What it does.
const (
	NewCircuit     CircuitState = ""        // makes it
	AlteredCircuit CircuitState = "altered" // leaves its cable, and gives it another device
	KeptCircuit    CircuitState = "kept"    // leaves both, and repairs or replaces something on it
)

// InspectedCircuit is one that a job looks at and tests as a whole, and leaves as it is.
const InspectedCircuit CircuitState = "inspected"

// Circuits that are no part of the installation when the work is done.
const (
	RemovedCircuit CircuitState = "removed" // the job takes it out
	DormantCircuit CircuitState = "dormant" // its cable stays and is connected to nothing, for later
)

// CircuitStates lists what a job may do to a circuit that is there.
var CircuitStates = []CircuitState{AlteredCircuit, KeptCircuit, InspectedCircuit, RemovedCircuit, DormantCircuit}

// Out reports whether a circuit of the state is no part of the installation when the work is done: no rule is asked of it, it takes no
// way and nothing is bought for it, and until it was proved dead it counts as live.
func (s CircuitState) Out() bool { return s == RemovedCircuit || s == DormantCircuit }

// Method is how a stretch of cable is laid, as a practice names it. What follows from it
// stands in [Terms.Laid].
type Method string

// MethodTrait is what work and material ask of a method.
type MethodTrait struct {
	Ground bool // in the ground: it is dug, and a warning tape lies above it
	Fixed  bool // fixed at intervals
}

// Earthing is how the supply is earthed.
type Earthing string

// The earthing arrangements (IEC 60364-1 312.2). A practice that knows only one of its own
// names that.
const (
	TNS  Earthing = "TN-S"
	TNCS Earthing = "TN-C-S"
	TT   Earthing = "TT"
	IT   Earthing = "IT"
)

// CPC is what serves as the protective conductor of a circuit beside the core in its cable.
type CPC string

// The protective conductors; empty: the core in the cable.
const (
	SeparateCPC CPC = "separate" // run or drawn beside it
	ArmourCPC   CPC = "armour"   // the armour, or metal conduit
)

// BoxDevice is what sits in a box of a string.
type BoxDevice string

// What sits in a box.
const (
	NoDevice    BoxDevice = "none" // joined only
	PlainOutlet BoxDevice = "plain"
	GroundFault BoxDevice = "gfci"
	TwoSlot     BoxDevice = "two-slot"
	Luminaire   BoxDevice = "light"
	Switch      BoxDevice = "switch"
	Alarm       BoxDevice = "alarm"
	FusedUnit   BoxDevice = "fused" // a fused connection unit
	WiredIn     BoxDevice = "wired" // an appliance or its isolator
)

// Outlet reports whether something plugs into it.
func (d BoxDevice) Outlet() bool { return d == PlainOutlet || d == GroundFault || d == TwoSlot }

// Draws reports whether something at it draws current: all but a joint and a switch.
func (d BoxDevice) Draws() bool { return d != NoDevice && d != Switch }

// Yoke reports whether it is a device on a yoke that takes room in its box.
func (d BoxDevice) Yoke() bool { return d.Outlet() || d == Switch || d == FusedUnit }

// RunStep is what is done to the run of a circuit.
type RunStep string

// What is done.
const (
	PlacePoint  RunStep = "place"  // put points of the walk on it
	MoveBox     RunStep = "move"   // along it, or to another circuit
	InsertJoint RunStep = "joint"  // join the cable where it passes
	TakeOff     RunStep = "off"    // take a box off it
	SetLeg      RunStep = "leg"    // say how long a leg is
	DivideRoute RunStep = "divide" // divide the route evenly over its legs
	SplitRun    RunStep = "split"  // give a box and what hangs behind it a circuit of its own
	BreakRing   RunStep = "break"  // leave a leg of a ring out
	CloseRing   RunStep = "close"  // bring a radial back to the board
)

// RunSteps lists them.
var RunSteps = []RunStep{PlacePoint, MoveBox, InsertJoint, TakeOff, SetLeg, DivideRoute, SplitRun, BreakRing, CloseRing}

// Side is a pair of terminals of a ground-fault device.
type Side string

// The two pairs; empty while the marking was not read.
const (
	LineSide Side = "line"
	LoadSide Side = "load"
)

// BrokenPEN is what protects a point against a broken combined conductor, as a practice
// names it.
type BrokenPEN string

// PENTrait is what an option against a broken combined conductor brings to the work.
type PENTrait struct {
	Electrode bool // one is driven
	Device    bool // one is fitted
}

// Metal is what a conductor is made of.
type Metal string

// The metals.
const (
	Copper    Metal = "cu"
	Aluminium Metal = "al"
)

// SPDPlace is where a surge device stands.
type SPDPlace string

// Where a surge device stands.
const (
	AtOrigin SPDPlace = "origin"
	AtBoard  SPDPlace = "board"
	AtLoad   SPDPlace = "load"
)

// RodMode is how a rod stands in the ground.
type RodMode string

// How a rod stands.
const (
	Vertical RodMode = "vertical"
	Slanted  RodMode = "slant"
	Flat     RodMode = "flat"
)

// SealState is how an enclosure's seal was found.
type SealState string

// The states of a seal; empty when not looked at.
const (
	SealWhole   SealState = "yes"
	SealNone    SealState = "no"
	SealMissing SealState = "missing"
	SealBroken  SealState = "broken"
)

// What stands on record of the network operator.
const (
	OperatorNotified = "notified"
	OperatorApplied  = "applied"
	OperatorAgreed   = "agreed"
	OperatorRefused  = "refused"
)

// Moisture is how moist the ground was as an electrode was read.
type Moisture string

// How moist it may be.
const (
	Wet  Moisture = "wet"
	Damp Moisture = "damp"
	Dry  Moisture = "dry"
)
