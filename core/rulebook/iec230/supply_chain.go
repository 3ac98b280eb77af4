package iec230

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
	"arvelt/core/working"
)

var (
	surveyWords   = walkWords()
	enclosures    = rulebook.EnclosuresOf(load("enclosures"))
	isolationWays = tables.LoadOf[isolationWaysRow](dataFiles, "isolation_routes")
	penConductor  = tables.LoadOf[penConductorRow](dataFiles, "pen_conductor")
)

// Opening starts a job under the edition that the tables restate. It has been amended
// since: which one is in force is for the signatory to say.
func (Practice) Opening() rulebook.Opening {
	return rulebook.Opening{Edition: usualEdition, DeclaredV: NominalV, Notice: Notice,
		Why: "One line conductor of 230 V, a neutral and a protective conductor; sizes in mm²; the main fuse is the operator's; " +
			"loop impedance is tested."}
}

// Survey returns what the practice says of a walk.
func (Practice) Survey() *rulebook.Survey { return surveyWords }

// dataApartMM is the least distance of cables of data, telephone and the like from those of power without a divider, mm.
const dataApartMM = 50

func walkWords() *rulebook.Survey {
	s := rulebook.SurveyOf(dataFiles)
	s.InsulationTests = []string{"insulation-ln", "insulation-le"}
	s.SwitchFeed = options.Named("switchFeed")
	s.ApartMM, s.ApartSource = dataApartMM, "BS 7671 444.6 and 528.2, BS EN 50174-2"
	return s
}

// Isolation lists the ways to make the work dead.
func (Practice) Isolation(job *install.Job, charge func(string) (float64, bool), today time.Time) []rulebook.IsolationRoute {
	return rulebook.Routes(isolationWays.Table, job, charge, today)
}

var jointSource = working.Source{Ref: "IEC 60364-1 312.2; BS 7671 411.4, 551.4 (own words)", Confidence: "high"}

// Chain judges the supply chain. On the consumer's side neutral and earth are
// joined nowhere: in TN-C-S the joint is in the operator's equipment, in TN-S at
// the source of the network, in TT not at all. A standby source that runs islanded makes
// its own joint, to its own electrode, and only while islanded (551.4). Where the
// country's rule leaves the combined conductor to the installation it is split once, at
// the main board.
func (Practice) Chain(job *install.Job) rulebook.ChainReport {
	r := rulebook.ChainReport{Words: job.Words, Nodes: []rulebook.ChainNode{}, Jumpers: []rulebook.Jumper{}, Checks: []working.Check{},
		Kinds: enclosures.Kinds, Verdict: working.Pass, Unit: "mm²", Earth: "earth",
		Rule: map[string]string{
			"TN-C-S": "Neutral and earth are joined in the operator's equipment and nowhere on the consumer's side.",
			"TN-S": "The operator brings a separate protective conductor, joined to the neutral only at the source of the " +
				"network: nowhere in the house.",
			"TT": "The house has its own electrode: neutral and earth are joined nowhere in the house.",
			"":   "Neutral and earth are never joined on the consumer's side. The earthing arrangement is not recorded.",
		}[string(job.Supply.Earthing)]}
	split, ahead := penSplit(job)
	if split != nil {
		r.Rule = "By the country's rule the combined conductor is split once, at the main board: neutral and earth are joined " +
			"there and nowhere behind it."
	}
	for _, e := range job.Chain.Order() {
		n := enclosures.Node(job.Words, e)
		n.JointName = "joint of neutral and earth"
		switch {
		case e.Kind == kindSource:
			n.Joint, n.JointSays = sourceJoint(e)
		case e == split:
			n.Joint, n.JointSays = rulebook.JointMust,
				"The combined conductor ends here on the earth bar, bridged once to the neutral bar: main bonding and the "+
					"electrode land on the earth side, and nothing joins the two again behind it."
		case ahead[e.ID]:
			n.Joint, n.JointSays = rulebook.JointNever,
				"The combined conductor runs through here whole: no earth leaves it ahead of the main board."
		case e.Owner != install.OwnerCustomer && e.Owner != "" || e.Owner == "" &&
			(e.Kind == kindCable || e.Kind == kindHead || e.Kind == kindMeter):
			n.Joint = rulebook.JointOperator
			n.JointSays = map[string]string{"TN-C-S": "The joint is the operator's and stands ahead of the meter; it is not " +
				"opened or tested by us.", "TN-S": "No joint here: the sheath or protective conductor comes from the source.",
				"TT": "No earth comes from the operator."}[string(job.Supply.Earthing)]
		default:
			n.Joint, n.JointSays = rulebook.JointNever,
				"On the consumer's side neutral current would flow in earth conductors and metalwork, and a residual-current "+
					"device would trip or be blind."
		}
		r.Nodes = append(r.Nodes, n)
		r.Judge(e, &r.Nodes[len(r.Nodes)-1], nil, jointSource)
		r.Condition(e, &r.Nodes[len(r.Nodes)-1])
		r.LineSide(e, &r.Nodes[len(r.Nodes)-1], "")
		if e == split || ahead[e.ID] {
			c := combined(e, e != split)
			n := &r.Nodes[len(r.Nodes)-1]
			n.Verdict = working.Worst(n.Verdict, c.Verdict)
			r.Checks = append(r.Checks, *c)
		}
	}
	r.Impedances(job, true, job.Supply.ZeOhm, job.Supply.PFCkA, job.Supply.DeclaredV, func(material, size string) (float64, bool) {
		mm2, err := strconv.ParseFloat(size, 64)
		if err != nil {
			return 0, false
		}
		m, err := ResistancePerM(material, mm2)
		return m / 1000, err == nil
	})
	for i := range r.Nodes {
		r.Verdict = working.Worst(r.Verdict, r.Nodes[i].Verdict)
	}
	return r
}

// penSplit is the main board where the combined conductor of the supply is split, nil where
// the operator does that, with the customer's enclosures ahead of it.
func penSplit(job *install.Job) (board *install.Enclosure, ahead map[string]bool) {
	if job.Supply.Earthing != install.TNCS || splitOption.In(&job.Schools) != splitAtBoard {
		return nil, nil
	}
	ahead = map[string]bool{}
	for _, e := range job.Chain.Order() {
		if e.Kind != kindBoard {
			continue
		}
		for f := job.Chain.Enclosure(e.From); f != nil; f = job.Chain.Enclosure(f.From) {
			if f.Owner == install.OwnerCustomer {
				ahead[f.ID] = true
			}
		}
		return e, ahead
	}
	return nil, nil
}

// combined judges the combined conductor that feeds an enclosure: thick enough to be a
// protective conductor that carries load, and never switched ahead of the split (543.4).
func combined(e *install.Enclosure, ahead bool) *working.Check {
	k := combinedRule.Check("", e.ID)
	k.Title = "Combined conductor to " + e.Name
	k.From(penConductor.Source)
	if ahead && e.SwitchesN != nil && *e.SwitchesN {
		k.Decide(false)
		k.Summary = "It is switched there: the earth of the house would go with it. It runs through unswitched."
		return k
	}
	mm2, err := strconv.ParseFloat(e.Feed.Size, 64)
	row := penConductor.Find(func(it *penConductorRow) bool { return it.Material == e.Feed.Material })
	switch {
	case e.Feed.Size == "" || err != nil || row < 0:
		k.AddMissing("material and size of what feeds " + e.Name)
		k.Summary = "Not recorded: " + k.Missing[0] + "."
	default:
		k.Min(mm2, penConductor.Row(row).LeastMM2)
		k.Summary = fmt.Sprintf("%s mm² of the %s mm² that neutral and protective conductor in one have at least.", f(mm2),
			f(penConductor.Row(row).LeastMM2))
	}
	return k
}

// sourceJoint decides the joint of a standby source.
func sourceJoint(e *install.Enclosure) (joint, says string) {
	yes := func(b *bool) bool { return b != nil && *b }
	switch {
	case yes(e.IslandedOnly) && yes(e.Electrode):
		return rulebook.JointMay, "A standby source may make its own joint: only while it runs islanded, and to its own electrode."
	case yes(e.IslandedOnly):
		return rulebook.JointNever, "A standby source that joins neutral and earth while islanded needs its own electrode: the " +
			"operator's earth may be gone with the supply."
	case yes(e.Electrode):
		return rulebook.JointNever, "A standby source may join neutral and earth only while it runs islanded: beside the network " +
			"there would be two joints."
	}
	return rulebook.JointNever, "A standby source may join neutral and earth only while it runs islanded and only to its own " +
		"electrode: neither is noted."
}

// supplyWeights weigh the first twelve digits of a supply number.
var supplyWeights = []int{3, 5, 7, 13, 17, 19, 23, 29, 31, 37, 41, 43}

const supplyNumberSource = "industry rule for 13-digit supply numbers: first twelve digits weighted by 3, 5, 7, 13, 17, 19, 23, " +
	"29, 31, 37, 41, 43; sum modulo 11, then modulo 10 (restated, verify)"

// The first and the last distributor that a number may name: 10 to 23 are the regional
// networks, 24 and up independent ones; no others are known to be given out.
const distributorLow, distributorHigh = "10", "45"

// SupplyNumber reads the 13-digit number of a supply: two digits for the
// distributor, eight of its own, and three that end in the check digit. It is
// the bottom row of a box of 19 to 21 digits, which may be typed whole.
func (Practice) SupplyNumber(text, serial string) rulebook.Number {
	out := rulebook.Number{Verdict: working.Unknown, Steps: []working.Step{}, Source: supplyNumberSource}
	digits := strings.Map(func(r rune) rune {
		if r >= '0' && r <= '9' {
			return r
		}
		return -1
	}, text)
	switch n := len(digits); {
	case strings.TrimSpace(text) == "":
		out.Summary = "Not recorded. It stands on the bill: thirteen digits, the bottom row of the box; the number on the meter is another."
		return out
	case strings.TrimSpace(serial) != "" && strings.EqualFold(strings.Join(strings.Fields(text), ""),
		strings.Join(strings.Fields(serial), "")):
		out.Verdict, out.Summary = working.Fail, "This is the serial of the meter. It changes with the meter; the number of the "+
			"supply stays."
		return out
	case strings.ContainsFunc(text, func(r rune) bool { return r >= 'A' && r <= 'Z' || r >= 'a' && r <= 'z' }) && n != 13 && n != 21:
		out.Verdict, out.Summary = working.Fail,
			fmt.Sprintf("Letters and %d digits: that is how a meter's serial looks. The supply's number has thirteen digits, or "+
				"the whole box of 19 to 21.", n)
		return out
	case n >= 19 && n <= 21:
		digits = digits[n-13:]
	case n != 13:
		out.Verdict, out.Summary = working.Fail,
			fmt.Sprintf("%d digits; the number of a supply has 13, the whole box on the bill 19 to 21.", n)
		return out
	}
	if d := digits[:2]; d < distributorLow || d > distributorHigh {
		out.Verdict, out.Summary = working.Fail,
			"It begins with "+d+": the first two digits name the distributor, "+distributorLow+" to "+distributorHigh+"."
		return out
	}
	sum := 0
	for i, w := range supplyWeights {
		sum += w * int(digits[i]-'0')
	}
	check := sum % 11 % 10
	out.Number = digits
	out.Steps = append(out.Steps, working.Step{Symbol: "sum", Formula: "digits 1 to 12 weighted", With: digits[:12],
		Value: float64(sum)}, working.Step{Symbol: "check digit", Formula: "sum mod 11 mod 10", With: strconv.Itoa(sum),
		Value: float64(check)})
	if int(digits[12]-'0') != check {
		out.Verdict, out.Summary = working.Fail,
			fmt.Sprintf("The last digit should be %d and is %c: a digit is wrong, or two are exchanged.", check, digits[12])
		return out
	}
	out.Verdict, out.Summary = working.Pass, "Distributor "+digits[:2]+"; the check digit fits."
	return out
}
