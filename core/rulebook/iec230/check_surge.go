package iec230

import (
	"fmt"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/working"
)

// surgeAsked reports whether surge protection is a question of the job: where the
// whole installation is new or its supply changes, or someone began to answer it.
func surgeAsked(job *install.Job) bool {
	s := &job.Surge
	anew := job.Trait().Origin && job.Kind != install.EVCharger && job.Kind != install.Addition // the supply or its board
	return anew || s.Consequence != "" || s.Environment != "" || len(s.Devices) > 0
}

// surgeDevices judges each surge device.
func (s *system) surgeDevices() {
	for i := range s.Job.Surge.Devices {
		s.surgeDevice(i)
	}
}

// surgeNeed decides by the rule set of the job: by consequence, where the owner may
// accept a loss that harms nobody, or by the calculated risk level (443.4, 443.5).
func (s *system) surgeNeed() {
	p := &s.Job.Surge
	k := s.Of("")
	k.From(working.Source{Ref: "IEC 60364-4-44 443.4, 443.5; BS 7671 443.4 by edition", Confidence: "high"})
	needed, why := true, ""
	switch {
	case p.Rod:
		why = "The building has an external lightning protection system: a Type 1 device at each line that enters."
	case p.Consequence == lossOfLife:
		why = "An overvoltage could cost life, or fail a service that safety rests on: required."
	case surgeNeed.In(&s.Job.Schools) == byRiskLevel:
		crl, ok := s.riskLevel(k)
		if !ok {
			s.surgeNeeded = true
			return
		}
		k.Min(crl, CRLThreshold)
		if needed = k.Verdict == working.Fail; needed {
			why = s.Text("The risk level of ", crl, " is under ", CRLThreshold, ": required.")
		} else {
			k.Summary = s.Text("The risk level of ", crl, " is ", CRLThreshold, " or more: not required.")
			return
		}
	case p.Consequence == "":
		k.AddMissing("what an overvoltage would cost: life, a large loss, or a loss the owner may accept")
		k.Summary = "Not recorded: what an overvoltage would cost. Without an assessment it is required."
		s.surgeNeeded = true
		return
	case p.Consequence == greatLoss:
		why = "An overvoltage could destroy much of value or data: required."
	case p.OwnerAccepts != "":
		k.Decide(true)
		k.Summary = "Left out: " + p.OwnerAccepts + " declared the loss tolerable and accepts it. The record goes into the handover."
		return
	default:
		why = "Required, unless the owner declares the loss tolerable and accepts it: that is recorded."
	}
	origin := false
	for i := range p.Devices {
		origin = origin || p.Devices[i].Place == install.AtOrigin
	}
	k.Unit, k.Sense, k.Value, k.Limit, k.Use = "", "", nil, nil, nil
	k.Decide(origin)
	k.Summary = why
	if !origin {
		k.Summary += " There is no device at the origin yet."
	}
	s.surgeNeeded = needed
}

// riskLevel works the calculated risk level out; false when something is missing.
func (s *system) riskLevel(k *working.Check) (crl float64, ok bool) {
	p := &s.Job.Surge
	k.From(spdRisk.Source)
	if p.Environment == "" {
		k.AddMissing("the environment: rural, suburban or urban")
	}
	ng := use(k, "flashes to ground per km² and year", p.Flashes)
	lpal := p.OverheadLV
	if rest := riskLengthCapKm.V() - p.OverheadLV - p.CableLV - p.OverheadHV - p.CableHV; p.UnknownRest && rest > 0 {
		lpal += rest
		k.Assumes("the rest of the line up to 1 km is low-voltage overhead")
	}
	lp := LineLength(lpal, p.CableLV, p.OverheadHV, p.CableHV)
	if lp == 0 {
		k.AddMissing("the lines that bring the supply, in km")
	}
	if len(k.Missing) > 0 {
		return 0, false
	}
	row := "fenv_rural_suburban"
	if p.Environment == urban {
		row = "fenv_urban"
	}
	fenv := k.Step("fenv", p.Environment, "", spdRisk.Fixed(row), "", spdRisk.Source.Ref)
	k.Step("LP", "2 LPAL + LPCL + 0.4 LPAH + 0.2 LPCH, at most 1 km",
		s.Text(lpal, ", ", p.CableLV, ", ", p.OverheadHV, ", ", p.CableHV, " km"), lp, "km", spdRisk.Source.Ref)
	return k.Step("CRL", "fenv / (LP × NG)", s.Text(fenv, " / (", lp, " × ", ng, ")"), fenv/(lp*ng), "", spdRisk.Source.Ref), true
}

// surgeDevice judges one device: type, voltage, leads, backup, scheme and what
// stands ahead of it (534.4).
func (s *system) surgeDevice(i int) {
	p := &s.Job.Surge
	d := &p.Devices[i]
	k := s.Of(strconv.Itoa(i + 1))
	k.Title = "Surge device: " + d.Name
	k.From(spdRules.Source, overvoltage.Source, spdVoltages.Source)
	wrong, doubt := s.surgeType(i), []string{}
	system := s.Job.Supply.Earthing
	if system != install.TT { // behind the split of the combined conductor TN-C-S is TN-S
		system = "TN-S"
	}
	uc := spdVoltages.One(func(it *spdVoltagesRow) bool { return it.System == system && it.Mode == "L-N" }).Volts230400
	if d.UcV == 0 {
		k.AddMissing("its continuous voltage Uc")
	} else if k.Step("Uc", "at least 1.1 × U0", s.Text(d.UcV, " V"), uc, "V", spdVoltages.Source.Ref); !working.AtMost(uc, d.UcV) {
		wrong = append(wrong, s.Text(d.UcV, " V of continuous voltage is under ", uc, " V"))
	}
	if d.UpKV == 0 {
		k.AddMissing("its protection level Up")
	}
	leads := k.Step("leads", "line side + earth side", s.Text(d.LineM, " + ", d.EarthM), d.LineM+d.EarthM, "m", spdRules.Source.Ref)
	uw := overvoltage.One(func(it *overvoltageRow) bool { return it.Category == "II" }).UwKV
	level := k.Step("U effective", "Up + 1 kV/m × leads", s.Text(d.UpKV, " + ", spdLeadRise.V(), " × ", leads),
		LetThrough(d.UpKV, leads), "kV", spdRules.Source.Ref)
	k.Max(level, uw)
	switch LeadVerdict(leads) {
	case leadsTooLong:
		wrong = append(wrong, s.Text(leads, " m of leads is over ", spdLeadTotalMax.V(),
			" m: connect it in and out, or move it"))
	case leadsAllowed:
		doubt = append(doubt, s.Text(leads, " m of leads; ", spdLeadTotalAdvised.V(), " m is advised"))
	}
	if k.Verdict == working.Fail {
		wrong = append(wrong, s.Text(level, " kV gets through, over the ", uw, " kV that appliances bear"))
	} else if !working.AtMost(level, spdShare*uw) {
		doubt = append(doubt, s.Text(level, " kV gets through, over 80 % of the ", uw, " kV that appliances bear"))
	}
	wrong = append(wrong, s.surgeLeads(k, d)...)
	wrong = append(wrong, s.surgeFault(k, d)...)
	wrong = append(wrong, s.surgePath(k, d)...)
	if d.BehindRCD {
		doubt = append(doubt, "a surge goes through the residual-current device ahead of it: that must be type S or made for surges")
	}
	doubt = append(doubt, s.surgeReach(i)...)
	switch {
	case len(k.Missing) > 0:
		k.Summary = "Not recorded: " + strings.Join(k.Missing, ", ") + "."
	case len(wrong) > 0:
		k.Decide(false)
		k.Summary = sentence(append(wrong, doubt...))
	case len(doubt) > 0:
		k.Warn()
		k.Summary = sentence(doubt)
	default:
		k.Summary = fmt.Sprintf("%s kV gets through with its leads of %s m; appliances bear %s kV.", f(level), f(leads), f(uw))
	}
	if !s.surgeNeeded && k.Verdict == working.Pass {
		k.Summary += " Not required here, fitted all the same."
	}
}

// surgeType says what is wrong with the type of a device for its place.
func (s *system) surgeType(i int) (wrong []string) {
	p := &s.Job.Surge
	d := &p.Devices[i]
	if d.Place == install.AtOrigin {
		if (p.Rod || p.Exposed) && !strings.HasPrefix(d.Type, "1") {
			wrong = append(wrong, "Type 1 is needed at the origin, as lightning may strike the building or its line directly")
		}
		if d.Type == spdType3 {
			wrong = append(wrong, "Type 3 never stands alone: it comes after a Type 2")
		}
	} else if d.Type == spdType3 && i == 0 {
		wrong = append(wrong, "Type 3 comes after a Type 2")
	}
	return wrong
}

// surgeLeads says which leads of a device are too thin.
func (s *system) surgeLeads(k *working.Check, d *install.SPD) (wrong []string) {
	for _, lead := range []struct {
		name string
		mm2  float64
	}{{"earth", d.EarthMM2}, {"line", d.LineMM2}} {
		rule := lead.name + "_lead_type2_min"
		if strings.HasPrefix(d.Type, "1") {
			rule = lead.name + "_lead_type1_min"
		}
		if lead.mm2 == 0 {
			k.AddMissing("the section of its " + lead.name + " lead")
		} else if least := spdRules.Fixed(rule); d.Type != spdType3 && !working.AtMost(least, lead.mm2) {
			wrong = append(wrong, s.Text("its ", lead.name, " lead of ", lead.mm2, " mm² needs ", least, " mm²"))
		}
	}
	return wrong
}

// surgeReach says where a device stands too near to the one ahead, or too far from what it
// protects.
func (s *system) surgeReach(i int) (doubt []string) {
	d := &s.Job.Surge.Devices[i]
	apart, pair := spdCoordinationT1T2.V(), "10 m"
	if d.Type == spdType3 {
		apart, pair = spdCoordinationT2T3.V(), "5 m"
	}
	if i > 0 && d.Place != install.AtOrigin && !d.Matched && d.FromM < apart {
		doubt = append(doubt, "under "+pair+" of wiring from the device ahead its manufacturer must declare the two coordinated")
	}
	if d.ToLoadM > spdProtectiveDistance.V() {
		doubt = append(doubt, s.Text(d.ToLoadM, " m of wiring to what it protects: beyond ",
			spdProtectiveDistance.V(), " m a second device near the load"))
	}
	return doubt
}

// surgeFault says what is wrong with a device by what stands ahead of it and what may flow.
func (s *system) surgeFault(k *working.Check, d *install.SPD) (wrong []string) {
	fuse, atOrigin := s.Job.AheadA(d), d.Place == install.AtOrigin
	switch {
	case fuse > 0:
	case atOrigin:
		fuse = use(k, "main fuse rating", s.Job.Supply.MainFuseA)
	default:
		k.AddMissing("the device of the branch that it stands on")
	}
	if d.BackupA == 0 {
		k.AddMissing("the largest fuse ahead that its manufacturer allows")
	} else if fuse > d.BackupA {
		wrong = append(wrong, s.Text("the fuse of ", fuse, " A ahead is over the ", d.BackupA,
			" A that its manufacturer allows: it needs a backup of its own"))
	}
	if pfc := use(k, "prospective fault current", s.pfc); d.IsccrKA == 0 {
		k.AddMissing("its short-circuit rating")
	} else if !atOrigin && !working.AtMost(pfc, d.IsccrKA) {
		k.AddMissing(s.Text("the prospective fault current where it stands: ", pfc, " kA at the origin is over the ", d.IsccrKA,
			" kA that it bears"))
	} else if !working.AtMost(pfc, d.IsccrKA) {
		wrong = append(wrong, s.Text(pfc, " kA may flow and it bears ", d.IsccrKA, " kA"))
	}
	return wrong
}

// surgePath says what is wrong with the path between neutral and earth of a device.
func (s *system) surgePath(k *working.Check, d *install.SPD) (wrong []string) {
	if d.Scheme == schemeCT2 {
		return nil
	}
	if s.Job.Supply.Earthing == install.TT && !d.BehindRCD {
		return []string{"on TT ahead of the residual-current device it is connected as CT2, neutral to earth by a spark gap"}
	}
	if d.Type == spdType3 {
		return nil
	}
	// Neutral and earth may part by some volts before the point where they are joined.
	k.From(working.Source{Ref: "534.4.3, a path between neutral and earth", Confidence: "low"})
	switch {
	case d.NeutralEarth == nil:
		k.AddMissing("whether it has a path between neutral and earth (its manufacturer's instructions)")
	case !*d.NeutralEarth:
		wrong = append(wrong, "it has no path between neutral and earth; where these are joined within half a metre of it, "+
			"readings differ, and the stricter one holds here")
	}
	return wrong
}

// sentence joins what is to be said into one, with a capital and a stop.
func sentence(said []string) string {
	all := strings.Join(said, "; ")
	return strings.ToUpper(all[:1]) + all[1:] + "."
}
