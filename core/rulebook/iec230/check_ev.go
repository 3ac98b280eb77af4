package iec230

import (
	"math"
	"strings"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// rodDiameterMM is the usual diameter of a driven rod, for the estimate only.
const rodDiameterMM = 16.0

// touchLimitV is the touch voltage in volts that a broken combined
// neutral-earth may put on the vehicle (722.411.4.1).
var touchLimitV = evRules.Fixed("touch_voltage_limit")

// METElectrodeMax returns the largest electrode resistance in ohms at the main
// earthing terminal that keeps the touch voltage at the limit when the combined
// conductor breaks: the demand's load, as an impedance at U0, and the electrode share the
// highest voltage of the supply, so Ra ≤ Ut·U0 / (I·(Cmax·U0 − Ut)). Whether Cmax
// belongs into it is read differently; with it the limit is the stricter one.
func METElectrodeMax(demandA float64) float64 {
	return touchLimitV * NominalV / (demandA * (cmax*NominalV - touchLimitV))
}

// cmax is the voltage factor for the highest voltage (IEC 60909, ± 10 %).
const cmax = 1.1

// pen judges what protects against a broken combined neutral-earth conductor,
// and lists the options with their conditions and reasons.
func (c *circuit) pen() {
	k := c.On(c.k.ID)
	k.From(evRules.Source, penOptions.Source)
	options := make([]rulebook.Option, 0, len(penOptions.Text))
	defer func() { c.out.Options, c.out.Decides = options, c.Asked().ID }()
	if c.Job.Supply.Earthing == "" {
		k.AddMissing("the earthing arrangement")
		return
	}
	if c.Job.Supply.Earthing == install.TNS && outdoors(c.k) && c.Job.Supply.EarthingBy != install.Enquiry {
		// Only the operator knows whether its network combines the conductors somewhere.
		k.From(working.Source{Ref: "722.411.4.1, read for networks that were changed", Confidence: "low"})
		k.AddMissing("the operator's word that no combined conductor feeds this supply: a separate one seen here may be combined upstream")
		return
	}
	if !c.penApplies() {
		k.Decide(true)
		k.Summary = string("Not needed: the earthing is " + c.Job.Supply.Earthing + ", which has no combined conductor on this side.")
		if c.Job.Supply.Earthing == install.TNCS {
			k.Summary = "Not needed: the point and the vehicle stay indoors."
		}
		return
	}
	for r := range penOptions.Text {
		id := install.BrokenPEN(penOptions.Row(r).Option)
		judged := c.judgeOption(id)
		o := rulebook.Option{ID: string(id), Title: penOptions.Row(r).Title, Condition: penOptions.Row(r).Condition,
			Reason: penOptions.Row(r).Reason, Verdict: judged.Verdict, Summary: judged.Summary, Chosen: c.k.PEN.Option == id}
		options = append(options, o)
		if o.Chosen {
			*k = *judged
		}
	}
	if c.k.PEN.Option == "" {
		k.AddMissing("a decision between the options")
		k.Summary = "To be decided: the point is used outdoors on TN-C-S."
	}
}

func (c *circuit) judgeOption(id install.BrokenPEN) *working.Check {
	k := c.Asked().Check(c.k.ID, "")
	k.From(evRules.Source, penOptions.Source)
	p := &c.k.PEN
	switch id {
	case penMonitor, penTouch:
		if p.OpensAll == nil {
			k.AddMissing("the manufacturer's statement that it opens line, neutral and protective conductor")
			k.Summary = "Waits for the manufacturer's statement of what it opens."
			return k
		}
		k.Decide(*p.OpensAll)
		k.Summary = "Opens line, neutral and protective conductor by the manufacturer's statement; proved at the test."
		if !*p.OpensAll {
			k.Summary = "It does not open line, neutral and protective conductor: not enough."
		}
	case penRod:
		ra := p.RaOhm
		if !ra.Known() && p.SoilOhmM.Known() && p.RodLengthM > 0 {
			n := max(1, p.Rods)
			single := k.Step("one rod", "ρ/(2πL) × (ln(8L/d) − 1)",
				c.Text("ρ ", p.SoilOhmM.V(), ", L ", p.RodLengthM, ", d 0.016"),
				physics.Rod(p.SoilOhmM.V(), p.RodLengthM, rodDiameterMM/1000), "Ω", "BS 7430 9.5")
			lambda, err := groupFactor(n)
			if err == nil {
				group, _ := physics.Rods(single, p.SoilOhmM.V(), p.RodLengthM, lambda, n)
				k.Step("rods", "R/n × (1 + λ a), a rod length apart", c.Text(float64(n), " rods"), group, "Ω", rodLambda.Source.Ref)
				ra = install.Fact{Value: &group, Basis: install.Assumed}
			}
		}
		e := c.Asked().Check(c.k.ID, "")
		electrodeCheck(c.Job, e, ra, c.residualMA())
		e.Steps = append(k.Steps, e.Steps...)
		e.From(k.Sources...)
		apart := use(e, "distance to metal earthed from the supply", p.SeparationM)
		if len(e.Missing) > 0 {
			e.Summary = "Waits for " + strings.Join(e.Missing, " and ") + "."
			return e
		}
		least := evSimultaneousContactM.V()
		e.Step("apart", "distance ≥ advised", c.Text(apart, " m against ", least, " m"), apart, "m", evRules.Source.Ref)
		if !working.AtMost(least, apart) {
			e.Decide(false)
			e.Summary = c.Text("Metal earthed from the supply is ", apart, " m away: both can be touched at once; ", least, " m advised.")
		} else if len(e.Assumed) > 0 && e.Verdict == working.Pass {
			e.Warn()
		}
		return e
	case penElectrode:
		ra := use(k, "electrode resistance", p.RaOhm)
		if len(k.Missing) > 0 {
			k.Summary = "Waits for a measured electrode."
			return k
		}
		k.Unit = "Ω"
		limit := k.Step("Ra max", "Ut × U0 / (I × (Cmax × U0 − Ut))",
			c.Text(touchLimitV, " × ", NominalV, " / (", c.demand.AfterA, " × (", cmax*NominalV, " − ", touchLimitV, "))"),
			METElectrodeMax(math.Max(c.demand.AfterA, 1)), "Ω", "voltage shared by load and electrode")
		k.From(working.Source{Ref: "voltage shared by load and electrode at the highest voltage of the supply", Confidence: "low"})
		k.Max(ra, limit)
		k.Summary = c.Text(ra, " Ω; at a demand of ", c.demand.AfterA, " A it may be ", limit, " Ω at most.")
	}
	return k
}

// operator says whether the network operator is told after the work or asked
// before it, by the company's thresholds, and whether that is on record.
func (c *circuit) operator() {
	k := c.On(c.k.ID)
	k.From(evNotify.Source)
	inAllA, singleA := notifyTotal.FigureIn(&c.Job.Schools), notifySingle.FigureIn(&c.Job.Schools)
	if !c.Job.Supply.MainFuseA.Known() || noDemand(c.Job) {
		k.AddMissing("the maximum demand")
		c.out.Operator = rulebook.OperatorRule{Rule: k.Rule, Needed: true, Path: "", Why: "The maximum demand is not computed yet."}
		return
	}
	rule := rulebook.OperatorRule{Rule: k.Rule, Needed: true, Path: rulebook.Notify}
	k.Step("demand after", "against the total threshold", c.Text(c.demand.AfterA, " against ", inAllA),
		c.demand.AfterA, "A", evNotify.Source.Ref)
	k.Step("point", "against the single-device threshold", c.Text(c.k.Point.DesignA(), " against ", singleA),
		c.k.Point.DesignA(), "A", evNotify.Source.Ref)
	why := []string{}
	if !working.AtMost(c.demand.AfterA, inAllA) {
		why = append(why, c.Text("the demand of ", c.demand.AfterA, " A is above ", inAllA, " A"))
	}
	if !working.AtMost(c.k.Point.DesignA(), singleA) {
		why = append(why, c.Text("the point of ", c.k.Point.DesignA(), " A is above ", singleA, " A"))
	}
	if !working.AtMost(c.demand.AfterA, c.demand.FuseA) {
		why = append(why, c.Text("the main fuse of ", c.demand.FuseA, " A is not enough"))
	}
	if len(why) > 0 {
		rule.Path, rule.Why = rulebook.Apply, "Ask first: "+strings.Join(why, ", and ")+"."
	} else {
		rule.Why = "Connect, then notify within 28 days: demand and point are within the thresholds."
	}
	state := ""
	for _, r := range c.Job.Current(install.Operator) {
		if r.Circuit == "" || r.Circuit == c.k.ID {
			state = r.Path
		}
	}
	switch {
	case state == install.OperatorRefused:
		k.Decide(false)
		k.Summary = rule.Why + " The operator refused."
	case state == install.OperatorAgreed, state == install.OperatorNotified && rule.Path == rulebook.Notify,
		state == install.OperatorApplied && rule.Path == rulebook.Notify:
		k.Decide(true)
		k.Summary = rule.Why + " On record: " + state + "."
	case state != "":
		k.AddMissing("the operator's agreement")
		k.Summary = rule.Why + " On record: " + state + "; waits for the operator's agreement."
	default:
		k.AddMissing("the record of it")
		k.Summary = rule.Why + " Not yet on record."
	}
	c.out.Operator = rule
}
