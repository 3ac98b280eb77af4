package split120

import (
	"fmt"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// Node is one enclosure of the chain as the rule of the joint sees it, from the
// utility inward. Role is meter, not_service_disconnect, service_disconnect,
// transfer, panel, subpanel or generator.
type Node struct {
	ID            string
	Role          string
	Bond          *bool // as built; nil when it was not looked at
	Wires         int   // of the feeder that leaves it, 0 when not known
	SwitchesN     bool  // a generator whose transfer switches the neutral
	SwitchesKnown bool
}

// The joints of neutral and ground.
const (
	MainJumper   = "main_bonding_jumper"
	SupplySide   = "supply_side"
	SystemJumper = "system_bonding_jumper"
	NoJoint      = "none"
)

// Joint is what a node must have: its joint and the conductors that leave it.
type Joint struct {
	ID, Bond string
	Wires    int
}

// NeutralBond decides where neutral and ground are joined: at the first means
// of disconnection that is service equipment and nowhere after it (NEC 250.24);
// ahead of it the neutral may bond metal (supply side). A source whose neutral
// is switched is separately derived and has a joint of its own (250.30); one
// with a solid neutral has none. main is the enclosure with the main bonding
// jumper, empty when the chain has no place for one. With atMeter the utility's
// rule puts the joint into the meter base and every disconnect is behind it.
func NeutralBond(nodes []Node, atMeter bool) (main string, joints []Joint) {
	joints = make([]Joint, len(nodes))
	behind := false
	for i, n := range nodes {
		j := Joint{ID: n.ID, Bond: NoJoint, Wires: 4}
		first := !behind && main == ""
		switch {
		case n.Role == "generator":
			if n.SwitchesN {
				j.Bond = SystemJumper
			}
		case atMeter && n.Role == "meter" && first:
			j.Bond, main, behind = MainJumper, n.ID, true
		case n.Role == "meter" || n.Role == "not_service_disconnect":
			if first {
				j.Bond, j.Wires = SupplySide, 3
			}
		case n.Role == "service_disconnect" && first, n.Role == "panel" && first:
			j.Bond, main, behind = MainJumper, n.ID, true
		case n.Role == "transfer" && first:
			j.Bond, j.Wires = SupplySide, 3 // not service-rated and ahead of any disconnect
		}
		joints[i] = j
	}
	return main, joints
}

// Findings compares nodes as built with what they must be, in their order.
// Supply-side nodes are not judged.
func Findings(nodes []Node, joints []Joint) []string {
	out := []string{}
	for i, n := range nodes {
		j := joints[i]
		if j.Bond == SupplySide {
			continue
		}
		if n.Wires > 0 && n.Wires < j.Wires {
			out = append(out, fmt.Sprintf("feeder from %s needs %d wires", n.ID, j.Wires))
		}
		if n.Bond == nil {
			continue
		}
		switch {
		case *n.Bond && j.Bond == NoJoint:
			out = append(out, "illegal bond at "+n.ID)
		case !*n.Bond && j.Bond != NoJoint:
			out = append(out, "missing bond at "+n.ID)
		}
	}
	return out
}

// roleOf is what an enclosure is to the rule of the joint. A disconnect counts
// as service equipment unless it is marked otherwise; a transfer switch only
// when it is marked as such.
func roleOf(e *install.Enclosure) string {
	is := func(b *bool, otherwise bool) bool {
		if b == nil {
			return otherwise
		}
		return *b
	}
	switch e.Kind {
	case "drop", "meter":
		if e.Kind == "meter" && is(e.Disconnect, false) {
			return "service_disconnect" // a meter base with the main in it
		}
		return "meter"
	case "disconnect":
		if is(e.Disconnect, true) {
			return "service_disconnect"
		}
		return "not_service_disconnect"
	case "transfer":
		if is(e.Disconnect, false) {
			return "service_disconnect"
		}
		return "transfer"
	case "panel", "generator":
		return e.Kind
	}
	return "subpanel"
}

const splitV = 240.0

// Chain judges the supply chain.
func (Practice) Chain(job *install.Job) rulebook.ChainReport {
	r := rulebook.ChainReport{Nodes: []rulebook.ChainNode{}, Jumpers: []rulebook.Jumper{}, Checks: []working.Check{}, Kinds: enclosures.Kinds, Verdict: working.Pass, Unit: "AWG / kcmil", Earth: "ground",
		Rule: "Neutral and ground are joined at the first means of disconnection and nowhere after it."}
	if schoolOf(job) == "CEC" {
		r.Rule = "The neutral is bonded and grounded at the first point, in the service box, and nowhere after it."
	}
	order := job.Chain.Order()
	nodes := make([]Node, len(order))
	atMeter := job.Schools.BondAt == "meter"
	if atMeter {
		r.Rule = "By the utility's rule neutral and ground are joined in the meter base and nowhere after it."
	}
	for i, e := range order {
		nodes[i] = Node{ID: e.ID, Role: roleOf(e), Bond: e.Joined, SwitchesN: e.SwitchesN != nil && *e.SwitchesN}
		if e.Kind == "drop" {
			nodes[i].Role = "meter"
		}
	}
	main, joints := NeutralBond(nodesWithoutDrop(nodes, order), atMeter)
	at := map[string]Joint{}
	for _, j := range joints {
		at[j.ID] = j
	}
	mainName := ""
	if e := job.Chain.Enclosure(main); e != nil {
		mainName = e.Name
	}
	for _, e := range order {
		n := enclosures.Node(e)
		j, judged := at[e.ID]
		switch {
		case !judged:
			n.Joint, n.JointSays = rulebook.JointOperator, "The utility's."
		case j.Bond == MainJumper:
			n.Joint, n.JointName = rulebook.JointMust, mainJoint(job)
			n.JointSays = "The first means of disconnection: here neutral and ground are joined, by the screw or strap that came with it or by a jumper of the table's size. It carries a fault back to the source so that a breaker clears; rods do not."
			if size := BondingJumper(e.Feed.Material, e.Feed.Size); size != "" {
				n.JointSays += " Jumper at least " + size + " copper."
			}
		case j.Bond == SystemJumper:
			n.Joint, n.JointName = rulebook.JointMust, "system bonding jumper"
			n.JointSays = "Its neutral is switched, so it is a separately derived source: it has a joint of its own and an electrode."
		case j.Bond == SupplySide:
			n.Joint, n.JointName, n.JointSays = rulebook.JointOperator, "supply-side bond", "Ahead of the first disconnect: the neutral bonds the metal, as the utility has it. A supply-side jumper, not the main one."
		case e.Kind == "generator":
			n.Joint, n.JointName, n.JointSays = rulebook.JointNever, "bonding jumper", "The neutral runs solid through the transfer switch: not separately derived, so the generator's own bond is opened."
		default:
			n.Joint, n.JointName = rulebook.JointNever, "bonding screw or strap"
			after := "the first disconnect"
			if mainName != "" {
				after = mainName
			}
			n.JointSays = "Behind " + after + ": the neutral bar stands isolated and the grounding bar apart, or neutral current flows in the grounding path."
		}
		if f := job.Chain.Enclosure(e.From); f != nil {
			if j, ok := at[f.ID]; ok && j.Bond != SupplySide {
				n.Wires = j.Wires
			} else {
				n.Wires = 3
			}
		}
		r.Nodes = append(r.Nodes, n)
		node := &r.Nodes[len(r.Nodes)-1]
		r.Judge(e, node, jointSource)
		r.Condition(e, node)
		if w := e.Feed.Wires; w > 0 && w < n.Wires {
			c := working.New("wires-"+e.ID, "", "Conductors to "+e.Name, "")
			c.From(jointSource)
			c.Max(float64(n.Wires), float64(w))
			c.Says = fmt.Sprintf("%d conductors feed it; behind the joint it takes %d: two hots, neutral and an equipment grounding conductor.", w, n.Wires)
			node.Verdict = working.Worst(node.Verdict, c.Verdict)
			r.Checks = append(r.Checks, *c)
		}
		if e.Kind == "building" {
			r.Checks = append(r.Checks, buildingCheck(e))
			node.Verdict = working.Worst(node.Verdict, r.Checks[len(r.Checks)-1].Verdict)
		}
	}
	if main == "" && len(order) > 0 {
		c := working.New("joint-none", "", "Where neutral and ground are joined", "")
		c.From(jointSource)
		c.Lacks("a first means of disconnection on the chain")
		c.Says = "Not yet known: the chain has no service disconnect and no panel."
		r.Checks = append(r.Checks, *c)
		r.Verdict = working.Unknown
	}
	r.Impedances(job, false, job.Supply.ZeOhm, job.Supply.PFCkA, splitV, ResistancePerM)
	for i := range r.Nodes {
		r.Verdict = working.Worst(r.Verdict, r.Nodes[i].Verdict)
	}
	return r
}

// mainJoint is what the code calls the joint at the first disconnect.
func mainJoint(job *install.Job) string {
	if schoolOf(job) == "CEC" {
		return "neutral bond of the service box"
	}
	return "main bonding jumper"
}

// nodesWithoutDrop leaves out the utility's own conductors: the rule begins at
// the meter.
func nodesWithoutDrop(nodes []Node, order []*install.Enclosure) []Node {
	out := []Node{}
	for i, e := range order {
		if e.Kind != "drop" {
			out = append(out, nodes[i])
		}
	}
	return out
}

// buildingCheck asks for the electrode of a separate building (NEC 250.32).
func buildingCheck(e *install.Enclosure) working.Check {
	c := working.New("building-"+e.ID, "", "Electrode at "+e.Name, "")
	c.From(jointSource)
	if e.Electrode == nil {
		c.Lacks("whether " + e.Name + " has an electrode")
		c.Says = "A separate building has an electrode of its own, tied to its grounding bar; the neutral stays isolated."
		return *c
	}
	c.Decide(*e.Electrode)
	c.Says = "A separate building has an electrode of its own."
	if !*e.Electrode {
		c.Says = "No electrode, and a separate building needs one unless a single branch circuit feeds it."
	}
	return *c
}

// SeparateBuilding judges the supply of a building behind another (NEC 250.32):
// a supply with a grounding conductor keeps the neutral isolated; the old
// three-wire one stands only where it exists already, no metal path runs beside
// it and no ground-fault protection is ahead.
func SeparateBuilding(wires int, existing, egc, metalPath, groundFault, singleBranch bool) (accept, bonded, electrode bool) {
	old := wires == 3 && !egc && existing && !metalPath && !groundFault
	return egc && wires >= 3 || old, old, !singleBranch
}

type bondNode struct {
	ID            string `json:"id" doc:"name of the enclosure"`
	Role          string `json:"role" doc:"meter, not_service_disconnect, service_disconnect, transfer, panel, subpanel or generator"`
	AsBuiltBond   *bool  `json:"as_built_bond"`
	AsBuiltWires  *int   `json:"as_built_wires" doc:"conductors of the feeder that leaves it"`
	SwitchedNeutr *bool  `json:"switched_neutral"`
}

type bondInput struct {
	Nodes    []bondNode `json:"nodes" doc:"from the utility inward"`
	NeutralA *float64   `json:"neutral_current_a" unit:"A"`
	RNeutral *float64   `json:"r_neutral_ohm" unit:"Ω"`
	RGround  *float64   `json:"r_ground_path_ohm" unit:"Ω"`
	BondAt   string     `json:"bond_at,omitempty" doc:"first-disconnect (default) or meter"`
}

var roles = []string{"meter", "not_service_disconnect", "service_disconnect", "transfer", "panel", "subpanel", "generator"}

func calcNeutralBond(in bondInput) (map[string]any, []working.Step, error) {
	nodes := make([]Node, len(in.Nodes))
	seen := map[string]bool{}
	for i, n := range in.Nodes {
		if n.ID == "" || seen[n.ID] {
			return nil, nil, fmt.Errorf("nodes.id: %q is not accepted; give each enclosure a name of its own", n.ID)
		}
		seen[n.ID] = true
		if !contains(roles, n.Role) {
			return nil, nil, fmt.Errorf("nodes.role: %q is not accepted; give one of %v", n.Role, roles)
		}
		nodes[i] = Node{ID: n.ID, Role: n.Role, Bond: n.AsBuiltBond, SwitchesN: n.SwitchedNeutr != nil && *n.SwitchedNeutr}
		if n.AsBuiltWires != nil {
			nodes[i].Wires = *n.AsBuiltWires
		}
	}
	if len(nodes) == 0 {
		return nil, nil, fmt.Errorf("nodes: an empty list is not accepted; give the chain from the utility inward")
	}
	main, joints := NeutralBond(nodes, in.BondAt == "meter")
	if main == "" {
		return nil, nil, fmt.Errorf("nodes: no service disconnect and no panel is among them, so there is no place for the joint")
	}
	list := []any{}
	for _, j := range joints {
		list = append(list, map[string]any{"id": j.ID, "bond": j.Bond, "conductors_out": float64(j.Wires)})
	}
	found := []any{}
	for _, f := range Findings(nodes, joints) {
		found = append(found, f)
	}
	out := map[string]any{"main_bond_at": main, "nodes": list, "findings": found}
	steps := []working.Step{{Symbol: "joint", Formula: "first means of disconnection that is service equipment", With: main, Source: "NEC 250.24"}}
	if in.NeutralA != nil && in.RNeutral != nil && in.RGround != nil {
		if !(*in.RNeutral > 0 && *in.RGround > 0 && *in.NeutralA >= 0) {
			return nil, nil, fmt.Errorf("r_neutral_ohm: %g and %g are not accepted; give resistances above 0 and a current of 0 or more", *in.RNeutral, *in.RGround)
		}
		g := *in.NeutralA * *in.RNeutral / (*in.RNeutral + *in.RGround)
		out["ground_path_current_a"], out["neutral_remaining_a"] = g, *in.NeutralA-g
		steps = append(steps, working.Step{Symbol: "I ground", Formula: "I × Rn / (Rn + Rg), with a second joint", With: unit.Format(*in.NeutralA) + " × " + unit.Format(*in.RNeutral) + " / (" + unit.Format(*in.RNeutral) + " + " + unit.Format(*in.RGround) + ")", Value: g, Unit: "A"})
	}
	return out, steps, nil
}

func contains(list []string, v string) bool {
	for _, x := range list {
		if x == v {
			return true
		}
	}
	return false
}

type buildingInput struct {
	Wires        int  `json:"wires" doc:"conductors of the supply, the grounding conductor counted"`
	Existing     bool `json:"existing_installation"`
	EGC          bool `json:"egc_in_supply"`
	MetalPaths   bool `json:"continuous_metallic_paths"`
	GroundFault  bool `json:"ground_fault_protection_upstream"`
	SingleBranch bool `json:"single_branch_circuit_with_egc"`
}

func calcSeparateBuilding(in buildingInput) (map[string]any, []working.Step, error) {
	if in.Wires < 2 || in.Wires > 6 {
		return nil, nil, fmt.Errorf("wires: %d is not accepted; give 2 to 6 conductors", in.Wires)
	}
	accept, bonded, electrode := SeparateBuilding(in.Wires, in.Existing, in.EGC, in.MetalPaths, in.GroundFault, in.SingleBranch)
	return map[string]any{"accept": accept, "neutral_bonded_at_building": bonded, "electrode_required": electrode},
		[]working.Step{{Symbol: "supply", Formula: "with a grounding conductor, or an existing three-wire one without metal path and ground-fault protection ahead", With: fmt.Sprintf("%d conductors", in.Wires), Source: "NEC 250.32"}}, nil
}
