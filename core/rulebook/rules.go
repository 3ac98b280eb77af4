package rulebook

import (
	"reflect"

	"arvelt/core/install"
	"arvelt/core/table"
	"arvelt/core/working"
)

// Asked is a rule with how a practice judges it on T: a circuit, the whole job. It is one
// entry of the practice's registry.
type Asked[T any] struct {
	working.Rule
	// When reports whether the rule is a question there; nil where it always is.
	When func(T) bool
	// Judge makes its checks.
	Judge func(T)
	// Mends lists the changes of a circuit that may cure its check, the least intrusive
	// first; nil where no change of a circuit does. Far: changes of the circuits ahead of
	// it may do so too.
	Mends func(*Mending)
	Far   bool
	// Reads is what of a circuit the rule reads: a change of something else does not reach it,
	// and a job that leaves all of that alone is not held by it. 0 stands for everything.
	Reads Facet
	// Branch: it is asked of the branch of a surge device too, which has neither a load nor a route.
	Branch bool
}

// WantedOf are the rules that a circuit is held to: of the branch of a surge device those that say so, of another all.
func WantedOf[T any](branch bool) func(*Asked[T]) bool {
	if !branch {
		return nil
	}
	return func(a *Asked[T]) bool { return a.Branch }
}

// Facet is a part of a circuit that rules read.
type Facet uint8

// The facets of a circuit.
const (
	ReadsRoute  Facet = 1 << iota // its cable, its way and what its protective conductor is
	ReadsDevice                   // its device
	ReadsPlace                    // where that stands: way, poles, shared device
	ReadsLoad                     // what it serves, and its point
)

// Touched is what a change of a circuit touched.
func Touched(before, after *install.Circuit) (f Facet) {
	if !reflect.DeepEqual(before.Route, after.Route) || before.PEN != after.PEN || before.Out != after.Out || before.From != after.From {
		f |= ReadsRoute
	}
	if a, b := &before.Protection, &after.Protection; *a != *b {
		f |= ReadsDevice
		if a.Way != b.Way || a.Poles != b.Poles || a.Group != b.Group || a.OwnEnclosure != b.OwnEnclosure {
			f |= ReadsPlace
		}
	}
	if before.Use != after.Use || before.Point != after.Point || !reflect.DeepEqual(before.Serves, after.Serves) {
		f |= ReadsLoad
	}
	return f
}

// Everything is all of a circuit.
const Everything = ReadsRoute | ReadsDevice | ReadsPlace | ReadsLoad

// MendsOf adds what may cure each rule of a registry.
func MendsOf[T any](into map[working.RuleID]Mends, asked []Asked[T]) {
	for i := range asked {
		if a := &asked[i]; a.Mends != nil {
			into[a.ID] = Mends{a.Mends, a.Far}
		}
	}
}

// RulesOf lists the rules of a registry.
func RulesOf[T any](asked []Asked[T]) []*working.Rule {
	out := make([]*working.Rule, len(asked))
	for i := range asked {
		out[i] = &asked[i].Rule
	}
	return out
}

// Acts that the rules of a design hold: what fails is not ordered, drawn in, put on or
// signed.
var (
	HoldsDesign = []working.Act{working.ToOrder, working.ToPull, working.ToClose, working.ToEnergise, working.ToService, working.ToSign}
	HoldsSupply = []working.Act{working.ToOrder, working.ToCutOff, working.ToEnergise, working.ToService, working.ToSign}
	HoldsRun    = []working.Act{working.ToOrder, working.ToDig, working.ToPull, working.ToFill, working.ToEnergise,
		working.ToService, working.ToSign}
	HoldsFill = []working.Act{working.ToFill, working.ToEnergise, working.ToService, working.ToSign}
	HoldsSign = []working.Act{working.ToSign}
)

// The rules that every practice asks in the same way.
var (
	JointRule = working.Rule{ID: "joint", Title: "Neutral and earth in an enclosure", Scope: working.OfEnclosure,
		Sheet: working.SupplySheet, Leaf: working.ChainLeaf, Who: working.Surveyor,
		Holds: []working.Act{working.ToEnergise, working.ToService, working.ToSign}}
	SealRule = working.Rule{ID: "seal", Title: "Seal of an enclosure", Scope: working.OfEnclosure,
		Sheet: working.SupplySheet, Leaf: working.ChainLeaf, Who: working.Office}
	StandbyLoadRule = working.Rule{ID: "standby-load", Title: "Load on a standby source", Unit: "VA",
		Scope: working.OfSource, Sheet: working.SupplySheet, Leaf: working.StandbyLeaf, Who: working.Designer, Holds: HoldsDesign}
	TransferRule = working.Rule{ID: "standby-transfer", Title: "Transfer to a standby source", Scope: working.OfSource,
		Sheet: working.SupplySheet, Leaf: working.StandbyLeaf, Who: working.Designer, Holds: HoldsSupply}
	LineSideRule = working.Rule{ID: "line-side", Title: "Line side of an enclosure", Scope: working.OfEnclosure,
		Sheet: working.SupplySheet, Leaf: working.ChainLeaf, Who: working.Surveyor, Holds: HoldsSupply}
	RodJoinRule = working.Rule{ID: "rod-join", Title: "Conductor from rod to rod", Scope: working.OfElectrode,
		Sheet: working.SupplySheet, Leaf: working.OutdoorLeaf, Who: working.Crew, Holds: HoldsSign}
	ElectrodeRule = working.Rule{ID: "electrode-resistance", Title: "Earth electrode", Unit: "Ω",
		Scope: working.OfElectrode, Sheet: working.SupplySheet, Leaf: working.OutdoorLeaf, Who: working.Crew,
		Holds: []working.Act{working.ToEnergise, working.ToService, working.ToSign}}
)

// MethodTraits reads the column of a practice's methods that says what work and material ask of each.
func MethodTraits(methods *table.Table) map[install.Method]install.MethodTrait {
	out := map[install.Method]install.MethodTrait{}
	for r := range methods.Text {
		laid := methods.Str(r, "laid")
		out[install.Method(methods.Str(r, "method"))] = install.MethodTrait{Ground: laid == laidInGround, Fixed: laid == laidFixed}
	}
	return out
}

// What the column may say.
const (
	laidInGround = "ground"
	laidFixed    = "fixed"
)
