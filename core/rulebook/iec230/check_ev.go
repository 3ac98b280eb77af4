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
var touchLimitV = evRules.fixed("touch_voltage_limit")

// METElectrodeMax returns the largest electrode resistance in ohms at the main
// earthing terminal that keeps the touch voltage at the limit when the combined
// conductor breaks: the demand's load and the electrode share U0, so
// Ra ≤ Ut·U0 / (I·(U0 − Ut)).
func METElectrodeMax(demandA float64) float64 {
	return touchLimitV * NominalV / (demandA * (NominalV - touchLimitV))
}

// pen judges what protects against a broken combined neutral-earth conductor,
// and lists the options with their conditions and reasons.
func (c *circuit) pen() (*working.Check, []rulebook.Option) {
	k := c.check("pen", "Broken combined neutral-earth conductor", "")
	k.From(evRules.source, penOptions.source)
	options := make([]rulebook.Option, 0, len(penOptions.text))
	if c.job.Supply.Earthing == "" {
		k.Lacks("the earthing arrangement")
		return k, options
	}
	if !c.penApplies() {
		k.Decide(true)
		k.Says = "Not needed: the earthing is " + c.job.Supply.Earthing + ", which has no combined conductor on this side."
		if c.job.Supply.Earthing == "TN-C-S" {
			k.Says = "Not needed: the point and the vehicle stay indoors."
		}
		return k, options
	}
	for r := range penOptions.text {
		id := penOptions.str(r, "option")
		judged := c.judgeOption(id)
		o := rulebook.Option{ID: id, Title: penOptions.str(r, "title"), Condition: penOptions.str(r, "condition"), Reason: penOptions.str(r, "reason"), Verdict: judged.Verdict, Says: judged.Says, Chosen: c.k.PEN.Option == id}
		options = append(options, o)
		if o.Chosen {
			k = judged
		}
	}
	if c.k.PEN.Option == "" {
		k.Lacks("a decision between the options")
		k.Says = "To be decided: the point is used outdoors on TN-C-S."
	}
	return k, options
}

func (c *circuit) judgeOption(id string) *working.Check {
	k := c.check("pen", "Broken combined neutral-earth conductor", "")
	k.From(evRules.source, penOptions.source)
	p := &c.k.PEN
	switch id {
	case "voltage_monitor", "touch_voltage_device":
		if p.OpensAll == nil {
			k.Lacks("the maker's statement that it opens line, neutral and protective conductor")
			k.Says = "Waits for the maker's statement of what it opens."
			return k
		}
		k.Decide(*p.OpensAll)
		k.Says = "Opens line, neutral and protective conductor by the maker's statement; proved at the test."
		if !*p.OpensAll {
			k.Says = "It does not open line, neutral and protective conductor: not enough."
		}
	case "tt_rod":
		ra := p.RaOhm
		if !ra.Known() && p.SoilOhmM.Known() && p.RodLengthM > 0 {
			n := max(1, p.Rods)
			single := k.Step("one rod", "ρ/(2πL) × (ln(8L/d) − 1)", "ρ "+f(p.SoilOhmM.V())+", L "+f(p.RodLengthM)+", d 0.016", physics.Rod(p.SoilOhmM.V(), p.RodLengthM, rodDiameterMM/1000), "Ω", "BS 7430 9.5")
			lambda, err := groupFactor(n)
			if err == nil {
				group, _ := physics.Rods(single, p.SoilOhmM.V(), p.RodLengthM, lambda, n)
				k.Step("rods", "R/n × (1 + λ a), a rod length apart", f(float64(n))+" rods", group, "Ω", rodLambda.source.Ref)
				ra = install.Fact{Value: &group, Basis: install.Assumed}
			}
		}
		e := electrodeCheck("pen", c.k.ID, k.Title, ra, max(c.k.Protection.IdnMA, 1))
		e.Steps = append(k.Steps, e.Steps...)
		e.From(k.Sources...)
		apart := use(e, "distance to metal earthed from the supply", p.SeparationM)
		if len(e.Missing) > 0 {
			e.Verdict, e.Says = working.Unknown, "Waits for "+strings.Join(e.Missing, " and ")+"."
			return e
		}
		least := evRules.fixed("simultaneous_contact_m")
		e.Step("apart", "distance ≥ advised", f(apart)+" m against "+f(least)+" m", apart, "m", evRules.source.Ref)
		if !working.AtMost(least, apart) {
			e.Verdict, e.Says = working.Fail, "Metal earthed from the supply is "+f(apart)+" m away: both can be touched at once; "+f(least)+" m advised."
		} else if len(e.Assumed) > 0 && e.Verdict == working.Pass {
			e.Verdict = working.Caution
		}
		return e
	case "met_electrode":
		ra := use(k, "electrode resistance", p.RaOhm)
		if len(k.Missing) > 0 {
			k.Says = "Waits for a measured electrode."
			return k
		}
		k.Unit = "Ω"
		limit := k.Step("Ra max", "Ut × U0 / (I × (U0 − Ut))", f(touchLimitV)+" × "+f(NominalV)+" / ("+f(c.demand.AfterA)+" × ("+f(NominalV)+" − "+f(touchLimitV)+"))", METElectrodeMax(math.Max(c.demand.AfterA, 1)), "Ω", "voltage shared by load and electrode")
		k.Max(ra, limit)
		k.Says = f(ra) + " Ω; at a demand of " + f(c.demand.AfterA) + " A it may be " + f(limit) + " Ω at most."
	}
	return k
}

// operator says whether the network operator is told after the work or asked
// before it, by the company's thresholds, and whether that is on record.
func (c *circuit) operator() (*working.Check, rulebook.OperatorRule) {
	k := c.check("operator", "Network operator", "A")
	k.From(evNotify.source)
	s := &c.job.Schools
	if !c.job.Supply.MainFuseA.Known() || len(c.job.Loads.Items) == 0 {
		k.Lacks("the maximum demand")
		return k, rulebook.OperatorRule{Needed: true, Path: "", Why: "The maximum demand is not yet known."}
	}
	rule := rulebook.OperatorRule{Needed: true, Path: "notify"}
	k.Step("demand after", "against the total threshold", f(c.demand.AfterA)+" against "+f(s.NotifyTotalA), c.demand.AfterA, "A", evNotify.source.Ref)
	k.Step("point", "against the single-device threshold", f(c.k.Point.DesignA())+" against "+f(s.NotifySingleA), c.k.Point.DesignA(), "A", evNotify.source.Ref)
	why := []string{}
	if !working.AtMost(c.demand.AfterA, s.NotifyTotalA) {
		why = append(why, "the demand of "+f(c.demand.AfterA)+" A is above "+f(s.NotifyTotalA)+" A")
	}
	if !working.AtMost(c.k.Point.DesignA(), s.NotifySingleA) {
		why = append(why, "the point of "+f(c.k.Point.DesignA())+" A is above "+f(s.NotifySingleA)+" A")
	}
	if !working.AtMost(c.demand.AfterA, c.demand.FuseA) {
		why = append(why, "the main fuse of "+f(c.demand.FuseA)+" A is not enough")
	}
	if len(why) > 0 {
		rule.Path, rule.Why = "apply", "Ask first: "+strings.Join(why, ", and ")+"."
	} else {
		rule.Why = "Connect, then notify within 28 days: demand and point are within the thresholds."
	}
	state := ""
	for _, r := range c.job.Current(install.Operator) {
		if r.Circuit == "" || r.Circuit == c.k.ID {
			state = r.Path
		}
	}
	switch {
	case state == "refused":
		k.Decide(false)
		k.Says = rule.Why + " The operator refused."
	case state == "agreed", state == "notified" && rule.Path == "notify", state == "applied" && rule.Path == "notify":
		k.Decide(true)
		k.Says = rule.Why + " On record: " + state + "."
	case state != "":
		k.Lacks("the operator's agreement")
		k.Says = rule.Why + " On record: " + state + "; waits for the operator's agreement."
	default:
		k.Lacks("the record of it")
		k.Says = rule.Why + " Not yet on record."
	}
	return k, rule
}
