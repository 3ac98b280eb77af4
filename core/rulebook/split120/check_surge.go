package split120

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// surgeNeed judges the need for surge protection (230.67, Article 242).
func (s *system) surgeNeed() {
	need := s.Of("")
	need.From(under(spdRules, s.code))
	at := false
	for _, d := range s.Job.Surge.Devices {
		at = at || d.Place != install.AtLoad && d.Type != spdType3
	}
	from := rule(spdRules, "S-REQ")
	newService := s.Job.Kind == install.SupplyUpgrade
	switch {
	case s.code == CEC && at:
		need.Decide(true)
		need.Summary = "Fitted. The national code of Canada does not ask for it."
	case s.code == CEC:
		need.Warn()
		need.Summary = "The national code of Canada does not ask for it. Advised where electronics stay."
	case s.edition == 0 && newService:
		need.AddMissing("an edition that is in the tables")
	case newService && float64(s.edition) >= from:
		need.Decide(at)
		need.Summary = text("A service that is new or replaced has a Type 1 or Type 2 device in or beside its equipment: edition of ",
			s.edition, ".")
	case at:
		need.Decide(true)
		need.Summary = text("Fitted; from the edition of ", from, " on a new or replaced service must have it.")
	case newService:
		need.Warn()
		need.Summary = text("The edition of ", s.edition, " does not ask for it; from that of ", from,
			" on a new or replaced service has it.")
	default:
		need.Warn()
		need.Summary = "Not required here: it comes with a new or replaced service. Advised where electronics stay."
	}
}

// surgeLeads says which leads of a device are too thin, and which nobody read.
func surgeLeads(d *install.SPD) (thin, unread []string) {
	least := text(rule(spdRules, "S-LEADSIZE"))
	for _, lead := range []struct {
		name string
		mm2  float64
	}{{"line", d.LineMM2}, {"ground", d.EarthMM2}} {
		switch {
		case lead.mm2 == 0:
			unread = append(unread, "read the size of its "+lead.name+" lead: at least "+trade(least))
		case !working.AtMost(AreaMM2(least), lead.mm2):
			thin = append(thin, text("its ", lead.name, " lead of ", lead.mm2, " mm² is under ", trade(least)))
		}
	}
	return thin, unread
}

// surgeAsked reports whether surge protection is a question of the job.
func (s *system) surgeAsked() bool {
	return s.Job.Kind == install.SupplyUpgrade || s.Job.Kind == install.Surge || len(s.Job.Surge.Devices) > 0
}

// surgeDevices judges each device.
func (s *system) surgeDevices() {
	for i := range s.Job.Surge.Devices {
		s.surgeDevice(i)
	}
}

func (s *system) surgeDevice(i int) {
	d := &s.Job.Surge.Devices[i]
	k := s.Of(text(i + 1))
	k.Title = d.Name
	k.From(under(spdRules, s.code))
	lead := (d.LineM + d.EarthM) * 1000 / inchMM
	res, steps, err := calcSPD(spdIn{LeadIn: lead, SurgeKA: 10, DeviceV: d.UpKV * 1000})
	if err != nil {
		k.AddMissing(err.Error())
	}
	for i := range steps {
		if steps[i].Source != "" {
			steps[i].Source = under(spdRules, s.code).Ref
		}
	}
	k.Steps = append(k.Steps, steps...)
	wrong, advice := []string{}, []string{}
	if d.UpKV == 0 {
		k.AddMissing("what the device lets through (its manufacturer's instructions)")
	}
	switch {
	case d.IsccrKA == 0:
		k.AddMissing("the short-circuit rating of the device")
	case s.faultKA != nil && d.IsccrKA < *s.faultKA:
		wrong = append(wrong, text("it bears ", d.IsccrKA, " kA, ", *s.faultKA, " kA are available"))
	}
	if least, from := rule(spdRules, "S-IN"), rule(spdRules, "S-IN-FROM"); s.code == NEC && float64(s.edition) >= from &&
		d.Place != install.AtLoad {
		switch k.Step("In", text("at least ", least, " kA from the edition of ", from, " on"), "", d.InKA, "kA",
			under(spdRules, s.code).Ref); {
		case d.InKA == 0:
			k.AddMissing("the nominal discharge current of the device")
		case d.InKA < least:
			wrong = append(wrong, text("its nominal discharge current of ", d.InKA, " kA is under ", least, " kA"))
		}
	}
	if s.Job.Surge.Rod && d.Place != install.AtLoad {
		// A lightning rod brings part of the stroke to the service.
		k.From(working.Source{Ref: "NFPA 780, surge protection of a building with a lightning protection system", Confidence: "medium"})
		switch least := rule(spdRules, "S-ROD"); {
		case d.Type == spdType3:
			wrong = append(wrong, "with lightning protection on the building a Type 1 or Type 2 belongs at the service")
		case d.InKA == 0:
			k.AddMissing("the nominal discharge current of the device")
		case d.InKA < least:
			wrong = append(wrong, text("its nominal discharge current of ", d.InKA, " kA is under the ", least,
				" kA that a building with lightning protection asks for"))
		}
	}
	thin, unread := surgeLeads(d)
	wrong, advice = append(wrong, thin...), append(advice, unread...)
	if through := res.TotalLetThroughV; err == nil && d.UpKV > 0 {
		switch {
		case through > rule(spdRules, "S-BEAR"):
			wrong = append(wrong, text(through, " V get through, over the ", rule(spdRules, "S-BEAR"), " V that fixed equipment bears"))
		case through > rule(spdRules, "S-BEAR-APPLIANCE"):
			advice = append(advice, text(through, " V get through, over the ", rule(spdRules, "S-BEAR-APPLIANCE"),
				" V that appliances bear"))
		}
	}
	if d.Place == install.AtLoad && d.Type == spdType1 {
		advice = append(advice, "a Type 1 belongs at the service")
	}
	if d.Place == install.AtBoard && !s.bondedAtPanel() {
		advice = append(advice, "neutral and ground are joined elsewhere: it needs a mode of its own to ground")
	}
	if leadAdvisedIn := rule(spdRules, "S-LEAD"); lead > leadAdvisedIn {
		advice = append(advice, text("shorten its leads to ", leadAdvisedIn, " in in all: they add ",
			res.AddedVAverageSlope, " V at 10 kA"))
	}
	switch {
	case d.BackupA > 0 || s.Job.AheadA(d) > 0:
	case d.Type == spdType2:
		k.AddMissing("the breaker that it is connected behind: a Type 2 stands on the load side of an overcurrent device")
	default:
		advice = append(advice, "a breaker of its own by its instructions, or its lugs: never two conductors under one screw")
	}
	k.Decide(len(wrong) == 0)
	if len(k.Missing) == 0 {
		k.Summary = text("Lets through ", res.TotalLetThroughV, " V with its leads of ", lead, " in.")
		if len(wrong) > 0 {
			k.Summary += " It fails: " + strings.Join(wrong, "; ") + "."
		}
		if len(advice) > 0 {
			k.Summary += " " + strings.ToUpper(advice[0][:1]) + strings.Join(advice, "; ")[1:] + "."
			if k.Verdict == working.Pass {
				k.Warn()
			}
		}
	}
}

// bondedAtPanel reports whether the joint of neutral and ground is in the panel that
// the circuits start from.
func (s *system) bondedAtPanel() bool {
	for _, n := range s.chain.Nodes {
		if n.Joint == rulebook.JointMust {
			return s.Job.Chain.Enclosure(n.ID).Kind == kindPanel
		}
	}
	return len(s.chain.Nodes) == 0
}

// standby judges what a source of one's own carries.
func (s *system) standby() {
	rulebook.StandbyLoad(s.Job.Words, s.Of(""), &s.Job.Standby, true, clauseStandby.in(s.code))
}

// transfer judges that a transfer switch keeps the source off the utility's line.
func (s *system) transfer() {
	if slices.ContainsFunc(s.Job.Chain.Enclosures, func(e install.Enclosure) bool { return e.Kind == kindTransfer }) {
		return
	}
	t := s.Of("")
	t.Title = "Transfer of the " + s.Job.Standby.Source
	t.From(clauseStandby.in(s.code))
	t.Decide(false)
	t.Summary = "No transfer switch on the chain: without one the source would feed the utility's line and kill who works on it."
}
