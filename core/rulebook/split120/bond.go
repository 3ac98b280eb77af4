package split120

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// Node is one enclosure of the chain as the rule of the joint sees it, each after the
// one that feeds it. Role is meter, not_service_disconnect, service_disconnect,
// transfer, panel, subpanel or generator.
type Node struct {
	ID        string
	From      string // id of the node that feeds it; empty at the utility's end
	Role      string
	Bond      *bool // as built; nil when it was not looked at
	Wires     int   // of the feeder that leaves it, 0 when not known
	SwitchesN bool  // a generator whose transfer switches the neutral
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
	// Behind: a node with the main bonding jumper stands ahead of it. Until then its
	// conductors are the service's.
	Behind bool
}

// NeutralBond decides where neutral and ground are joined: in every service
// disconnect that no other stands ahead of, and nowhere after one (NEC 250.24(B),
// 250.28(D)(2), 230.71(B)); ahead of them the neutral may bond metal (supply side,
// 250.92). A source whose neutral is switched is separately derived and has a joint of
// its own (250.30); one with a solid neutral has none. mains are the enclosures with
// a main bonding jumper, none when the chain has no place for one. With atMeter the
// utility's rule puts the joint into the meter base and every disconnect is behind it.
func NeutralBond(nodes []Node, atMeter bool) (mains []string, joints []Joint) {
	joints = make([]Joint, len(nodes))
	behind := map[string]bool{} // what this node feeds is behind a joint
	for i, n := range nodes {
		j := Joint{ID: n.ID, Bond: NoJoint, Wires: 4, Behind: behind[n.From]}
		if !j.Behind {
			switch n.Role {
			case roleService, kindPanel:
				j.Bond = MainJumper
			case kindMeter:
				j.Bond, j.Wires = SupplySide, 3
				if atMeter {
					j.Bond, j.Wires = MainJumper, 4
				}
			case roleNotService, kindTransfer: // ahead of any service disconnect
				j.Bond, j.Wires = SupplySide, 3
			}
		}
		if n.Role == kindGenerator && n.SwitchesN {
			j.Bond = SystemJumper
		}
		if j.Bond == MainJumper {
			mains = append(mains, n.ID)
		}
		behind[n.ID] = j.Behind || j.Bond == MainJumper
		joints[i] = j
	}
	return mains, joints
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
	case kindDrop, "meter":
		if e.Kind == kindMeter && is(e.Disconnect, false) {
			return "service_disconnect" // a meter base with the main in it
		}
		return "meter"
	case kindDisconnect:
		if is(e.Disconnect, true) {
			return "service_disconnect"
		}
		return "not_service_disconnect"
	case kindTransfer:
		if is(e.Disconnect, false) {
			return "service_disconnect"
		}
		return "transfer"
	case kindPanel, kindGenerator:
		return e.Kind
	}
	return "subpanel"
}

const splitV = 240.0

// Chain judges the supply chain.
func (Practice) Chain(job *install.Job) rulebook.ChainReport {
	code := codeOf(job)
	r := rulebook.ChainReport{Words: job.Words, Nodes: []rulebook.ChainNode{}, Jumpers: []rulebook.Jumper{}, Checks: []working.Check{},
		Kinds: enclosures.Kinds, Verdict: working.Pass, Unit: "AWG / kcmil", Earth: "ground",
		Rule: "Neutral and ground are joined in each service disconnect that no other stands ahead of, and nowhere after it."}
	if code == CEC {
		r.Rule = "The neutral is bonded and grounded in each service box that no other stands ahead of, and nowhere after it."
	}
	order := job.Chain.Order()
	atMeter := bondAt.In(&job.Schools) == kindMeter
	if atMeter {
		r.Rule = "By the utility's rule neutral and ground are joined in the meter base and nowhere after it."
	}
	nodes := []Node{}
	for _, e := range order {
		if e.Kind == kindDrop { // the utility's own conductors: the rule begins at the meter
			continue
		}
		nodes = append(nodes, Node{ID: e.ID, From: e.From, Role: roleOf(e), Bond: e.Joined, SwitchesN: e.SwitchesN != nil && *e.SwitchesN})
	}
	mains, joints := NeutralBond(nodes, atMeter)
	at := map[string]Joint{}
	for _, j := range joints {
		at[j.ID] = j
	}
	source, read := clauseJoint.in(code), rulebook.ReadingsOf(job)
	for _, e := range order {
		n := enclosures.Node(job.Words, e)
		j, judged := at[e.ID]
		n.Joint, n.JointName, n.JointSays = jointAt(code, job, e, mains, at)
		if f := job.Chain.Enclosure(e.From); f != nil {
			if j, ok := at[f.ID]; ok && j.Bond != SupplySide {
				n.Wires = j.Wires
			} else {
				n.Wires = 3
			}
		}
		r.Nodes = append(r.Nodes, n)
		node := &r.Nodes[len(r.Nodes)-1]
		r.Judge(e, node, readJoined(read, e.ID), source)
		r.Condition(e, node)
		r.LineSide(e, node, map[string]string{kindMeter: "top"}[e.Kind])
		add := func(c *working.Check) {
			node.Verdict = working.Worst(node.Verdict, c.Verdict)
			r.Checks = append(r.Checks, *c)
		}
		if w := e.Feed.Wires; w > 0 && w < n.Wires {
			c := wiresRule.Check("", e.ID)
			c.Title = "Conductors to " + e.Name
			c.From(source)
			c.Max(float64(n.Wires), float64(w))
			c.Summary = fmt.Sprintf("%d conductors feed it; behind the joint it takes %d: two hots, neutral and an equipment "+
				"grounding conductor.", w, n.Wires)
			add(c)
		}
		if e.Kind == kindBuilding {
			c := buildingCheck(code, e)
			add(&c)
		}
		if judged {
			for _, c := range jointChecks(code, job, e, j) {
				add(c)
			}
		}
	}
	if len(mains) == 0 && len(order) > 0 {
		c := jointNowhereRule.Check("", "")
		c.From(source)
		c.AddMissing("a service disconnect on the chain")
		c.Summary = "Open: the one-line has no service disconnect and no panel."
		r.Checks = append(r.Checks, *c)
		r.Verdict = working.Unknown
	}
	r.Impedances(job, false, job.Supply.ZeOhm, job.Supply.PFCkA, splitV, ResistancePerM)
	for i := range r.Nodes {
		r.Verdict = working.Worst(r.Verdict, r.Nodes[i].Verdict)
	}
	return r
}

// jointAt is the joint of neutral and ground that an enclosure has, what it is called, and
// why.
func jointAt(code Code, job *install.Job, e *install.Enclosure, mains []string, at map[string]Joint) (joint, name, says string) {
	j, judged := at[e.ID]
	switch {
	case !judged:
		joint, says = rulebook.JointOperator, "The utility's."
	case j.Bond == MainJumper && roleOf(e) == kindMeter:
		joint, name = rulebook.JointMust, mainJoint(code)
		says = "By the utility's rule the joint is here, ahead of every disconnect: it carries a fault back to the source so " +
			"that a breaker clears."
	case j.Bond == MainJumper:
		joint, name = rulebook.JointMust, mainJoint(code)
		says = "No service disconnect stands ahead of it: here neutral and ground are joined, by the screw or strap that came " +
			"with it or by a jumper of the table's size. It carries a fault back to the source so that a breaker clears; rods do not."
		if len(mains) > 1 {
			says += fmt.Sprintf(" Each of the %d service disconnects has its own.", len(mains))
		}
		if size := BondingJumper(string(e.Feed.Material), e.Feed.Size); size != "" && code == NEC {
			says += " Jumper at least " + size + " copper."
		}
	case j.Bond == SystemJumper:
		joint, name = rulebook.JointMust, "system bonding jumper"
		says = "Its neutral is switched, so it is a separately derived source: it has a joint of its own and an electrode."
	case j.Bond == SupplySide:
		joint, name, says = rulebook.JointOperator, "supply-side bond",
			"Ahead of every service disconnect: the neutral bonds the metal, as the utility has it. A jumper of its own only "+
				"where metal on the line side is bonded by nothing else."
	case e.Kind == kindGenerator:
		joint, name, says = rulebook.JointNever, "bonding jumper",
			"The neutral runs solid through the transfer switch: not separately derived, so the generator's own bond is opened."
	default:
		joint, name = rulebook.JointNever, "bonding screw or strap"
		says = "Behind " + aheadOf(&job.Chain, e, mains) +
			": the neutral bar stands isolated and the grounding bar apart, or neutral current flows in the grounding path."
	}
	return joint, name, says
}

// readJoined is whether neutral and ground were read joined in an enclosure, nil where that
// was not read.
func readJoined(read rulebook.Readings, id string) *bool {
	r := read.Newest("ng:"+id, "")
	if r == nil || r.Answer == "" {
		return nil
	}
	joined := r.Answer == closed
	return &joined
}

// jointChecks are what a joint is held to where the text speaks of an exception.
func jointChecks(code Code, job *install.Job, e *install.Enclosure, j Joint) (out []*working.Check) {
	if roleOf(e) == kindTransfer && !j.Behind {
		// Nothing that the text lists for the line side is such a switch.
		c := transferAheadRule.Check("", e.ID)
		c.Title = e.Name + " ahead of the service disconnect"
		c.From(clauseTransferAhead.in(code))
		c.Decide(false)
		c.Summary = "It is not marked as service equipment and stands ahead of every service disconnect: one that is marked so goes " +
			"there, or it goes behind the disconnect. Readings of the text differ; the stricter one holds here."
		out = append(out, c)
	}
	if bondAt.In(&job.Schools) == kindMeter && j.Bond == MainJumper && roleOf(e) == kindMeter {
		c := bondAtMeterRule.Check("", e.ID)
		c.Title = "Joint in " + e.Name + " in place of the service disconnect"
		c.From(clauseBondAtMeter.in(code))
		if strings.TrimSpace(bondRule.In(&job.Schools)) == "" {
			c.AddMissing("the utility's written rule that puts the joint into the meter base (Choices of the job)")
			c.Summary = "Open: the code has the joint in each service disconnect. Only a written rule of the utility, with " +
				"which the authority agrees, puts it here."
		} else {
			c.Warn()
			c.Summary = "By " + bondRule.In(&job.Schools) +
				". The code has the joint in each service disconnect: have the authority agree before it is left out there."
		}
		out = append(out, c)
	}
	return out
}

// aheadOf names the enclosure with the joint that stands ahead of one.
func aheadOf(c *install.Chain, e *install.Enclosure, mains []string) string {
	for range c.Enclosures {
		e = c.Enclosure(e.From)
		if e == nil {
			break
		}
		if slices.Contains(mains, e.ID) {
			return e.Name
		}
	}
	return "the service disconnect"
}

// mainJoint is what the code calls the joint at a service disconnect.
func mainJoint(code Code) string {
	if code == CEC {
		return "neutral bond of the service box"
	}
	return "main bonding jumper"
}

// buildingCheck asks for the electrode of a separate building.
func buildingCheck(code Code, e *install.Enclosure) working.Check {
	c := buildingRule.Check("", e.ID)
	c.Title = "Electrode at " + e.Name
	c.From(clauseBuilding.in(code))
	if e.Electrode == nil {
		c.AddMissing("whether " + e.Name + " has an electrode")
		c.Summary = "A separate building has an electrode of its own, tied to its grounding bar; the neutral stays isolated."
		return *c
	}
	c.Decide(*e.Electrode)
	c.Summary = "A separate building has an electrode of its own."
	if !*e.Electrode {
		c.Summary = "No electrode, and a separate building needs one unless a single branch circuit feeds it."
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
	From          string `json:"from,omitempty" doc:"the enclosure that feeds it; the one before it in the list unless said"`
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

type bondOut struct {
	At       string       `json:"main_bond_at"`
	Mains    []string     `json:"main_bonds"`
	Nodes    []builtJoint `json:"nodes"`
	Findings []string     `json:"findings"`
	GroundA  *float64     `json:"ground_path_current_a,omitempty"`
	RemainsA *float64     `json:"neutral_remaining_a,omitempty"`
}

type builtJoint struct {
	ID    string `json:"id"`
	Bond  string `json:"bond"`
	Wires int    `json:"conductors_out"`
}

func calcNeutralBond(in bondInput) (bondOut, []working.Step, error) {
	var out bondOut
	nodes := make([]Node, len(in.Nodes))
	seen, before := map[string]bool{}, ""
	for i, n := range in.Nodes {
		if n.ID == "" || seen[n.ID] {
			return out, nil, fmt.Errorf("nodes.id: %q is not accepted; give each enclosure a name of its own", n.ID)
		}
		if n.From != "" && !seen[n.From] {
			return out, nil, fmt.Errorf("nodes.from: %q is not accepted; give an enclosure that stands before it in the list", n.From)
		}
		seen[n.ID] = true
		if !slices.Contains(roles, n.Role) {
			return out, nil, fmt.Errorf("nodes.role: %q is not accepted; give one of %v", n.Role, roles)
		}
		nodes[i] = Node{ID: n.ID, From: cmp.Or(n.From, before), Role: n.Role, Bond: n.AsBuiltBond,
			SwitchesN: n.SwitchedNeutr != nil && *n.SwitchedNeutr}
		if n.AsBuiltWires != nil {
			nodes[i].Wires = *n.AsBuiltWires
		}
		before = n.ID
	}
	if len(nodes) == 0 {
		return out, nil, fmt.Errorf("nodes: an empty list is not accepted; give the chain from the utility inward")
	}
	mains, joints := NeutralBond(nodes, in.BondAt == kindMeter)
	if len(mains) == 0 {
		return out, nil, fmt.Errorf("nodes: no service disconnect and no panel is among them, so there is no place for the joint")
	}
	list := []builtJoint{}
	for _, j := range joints {
		list = append(list, builtJoint{ID: j.ID, Bond: j.Bond, Wires: j.Wires})
	}
	out = bondOut{At: mains[0], Mains: rulebook.Sorted(mains), Nodes: list, Findings: rulebook.Sorted(Findings(nodes, joints))}
	steps := []working.Step{{Symbol: "joint", Formula: "each service disconnect that no other stands ahead of",
		With: strings.Join(mains, ", "), Source: clauseJoint.nec}}
	if in.NeutralA != nil && in.RNeutral != nil && in.RGround != nil {
		if !(*in.RNeutral > 0 && *in.RGround > 0 && *in.NeutralA >= 0) {
			return out, nil, fmt.Errorf("r_neutral_ohm: %g and %g are not accepted; give resistances above 0 and a current of 0 or more",
				*in.RNeutral, *in.RGround)
		}
		g := *in.NeutralA * *in.RNeutral / (*in.RNeutral + *in.RGround)
		rest := *in.NeutralA - g
		out.GroundA, out.RemainsA = &g, &rest
		steps = append(steps, working.Step{Symbol: "I ground", Formula: "I × Rn / (Rn + Rg), with a second joint",
			With: unit.Format(*in.NeutralA) + " × " + unit.Format(*in.RNeutral) + " / (" + unit.Format(*in.RNeutral) +
				" + " + unit.Format(*in.RGround) + ")", Value: g, Unit: "A"})
	}
	return out, steps, nil
}

type buildingInput struct {
	Wires        int  `json:"wires" doc:"conductors of the supply, the grounding conductor counted"`
	Existing     bool `json:"existing_installation"`
	EGC          bool `json:"egc_in_supply"`
	MetalPaths   bool `json:"continuous_metallic_paths"`
	GroundFault  bool `json:"ground_fault_protection_upstream"`
	SingleBranch bool `json:"single_branch_circuit_with_egc"`
}

// calcSeparateBuildingOut is what separate-building answers.
type calcSeparateBuildingOut struct {
	Accept                  bool `json:"accept"`
	NeutralBondedAtBuilding bool `json:"neutral_bonded_at_building"`
	ElectrodeRequired       bool `json:"electrode_required"`
}

func calcSeparateBuilding(in buildingInput) (out calcSeparateBuildingOut, steps []working.Step, err error) {
	if in.Wires < 2 || in.Wires > 6 {
		return out, nil, fmt.Errorf("wires: %d is not accepted; give 2 to 6 conductors", in.Wires)
	}
	accept, bonded, electrode := SeparateBuilding(in.Wires, in.Existing, in.EGC, in.MetalPaths, in.GroundFault, in.SingleBranch)
	return calcSeparateBuildingOut{Accept: accept, NeutralBondedAtBuilding: bonded, ElectrodeRequired: electrode},
		[]working.Step{{Symbol: "supply",
			Formula: "with a grounding conductor, or an existing three-wire one without metal path and ground-fault protection ahead",
			With:    fmt.Sprintf("%d conductors", in.Wires), Source: "NEC 250.32"}}, nil
}
