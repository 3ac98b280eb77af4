package rulebook

import (
	"arvelt/core/install"
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
	// first; nil where no change of a circuit does.
	Mends func(*Mending)
}

// RulesOf lists the rules of a registry.
func RulesOf[T any](asked []Asked[T]) []*working.Rule {
	out := make([]*working.Rule, len(asked))
	for i := range asked {
		out[i] = &asked[i].Rule
	}
	return out
}

// Mending is where changes that may cure a failed check are put: Circuit is the one that
// they change.
type Mending struct {
	Job     *install.Job
	Circuit *install.Circuit
	Check   *working.Check
	Out     []Candidate
}

// Set puts a change of the circuit: fields and their values in turn, for the sheets, and
// what it does to the model.
func (m *Mending) Set(title string, apply func(*install.Circuit), fields ...any) {
	m.Out = append(m.Out, SetsOf(m.Circuit, title, apply, fields...))
}

// Acts that the rules of a design hold: what fails is not ordered, drawn in, put on or
// signed.
var (
	HoldsDesign = []working.Act{working.ToOrder, working.ToPull, working.ToClose, working.ToEnergise, working.ToService, working.ToSign}
	HoldsSupply = []working.Act{working.ToOrder, working.ToCutOff, working.ToEnergise, working.ToService, working.ToSign}
	HoldsRun    = []working.Act{working.ToOrder, working.ToDig, working.ToPull, working.ToFill, working.ToEnergise, working.ToService, working.ToSign}
	HoldsFill   = []working.Act{working.ToFill, working.ToEnergise, working.ToService, working.ToSign}
	HoldsSign   = []working.Act{working.ToSign}
)

// The rules that every practice asks in the same way.
var (
	JointRule       = working.Rule{ID: "joint", Title: "Neutral and earth in an enclosure", Scope: working.OfEnclosure, Sheet: working.SupplySheet, Leaf: working.ChainLeaf, Who: working.Surveyor, Holds: []working.Act{working.ToEnergise, working.ToService, working.ToSign}}
	SealRule        = working.Rule{ID: "seal", Title: "Seal of an enclosure", Scope: working.OfEnclosure, Sheet: working.SupplySheet, Leaf: working.ChainLeaf, Who: working.Office}
	StandbyLoadRule = working.Rule{ID: "standby-load", Title: "Load on a standby source", Unit: "VA", Scope: working.OfSource, Sheet: working.SupplySheet, Leaf: working.StandbyLeaf, Who: working.Designer, Holds: HoldsDesign}
	TransferRule    = working.Rule{ID: "standby-transfer", Title: "Transfer to a standby source", Scope: working.OfSource, Sheet: working.SupplySheet, Leaf: working.StandbyLeaf, Who: working.Designer, Holds: HoldsSupply}
	ElectrodeRule   = working.Rule{ID: "electrode-resistance", Title: "Earth electrode", Unit: "Ω", Scope: working.OfElectrode, Sheet: working.SupplySheet, Leaf: working.OutdoorLeaf, Who: working.Crew, Holds: []working.Act{working.ToEnergise, working.ToService, working.ToSign}}
)
