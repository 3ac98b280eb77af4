package split120

import (
	"math"
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// The least number of circuits that every dwelling counts (210.11(C), 220.52).
const (
	leastSmall   = 2
	leastLaundry = 1
)

// disconnects are the service disconnects: those that no other stands ahead of.
func (s *system) disconnects() []*install.Enclosure {
	out := []*install.Enclosure{}
	after := map[string]bool{}
	for _, e := range s.Job.Chain.Order() {
		after[e.ID] = after[e.From]
		switch roleOf(e) {
		case roleService, kindPanel:
			if !after[e.From] {
				out = append(out, e)
			}
			after[e.ID] = true
		}
	}
	return out
}

// ratingOf is the rating of a service disconnect, where there is only one also as it was
// noted on the Supply sheet.
func (s *system) ratingOf(e *install.Enclosure, alone bool) install.Fact {
	if e.RatingA.Known() || !alone {
		return e.RatingA
	}
	return s.Job.Supply.MainFuseA
}

// rating is that of the service: of its disconnects together (230.80), no more than its
// meter base carries; without a chain, the one noted on the Supply sheet.
func (s *system) rating() install.Fact {
	mains := s.disconnects()
	if len(mains) == 0 {
		return s.Job.Supply.MainFuseA
	}
	sum, basis := 0.0, install.Measured
	for _, e := range mains {
		r := s.ratingOf(e, len(mains) == 1)
		if !r.Known() {
			return install.Fact{}
		}
		if sum += r.V(); !r.Confirmed() {
			basis = install.Assumed
		}
	}
	for i := range s.Job.Chain.Enclosures {
		if e := &s.Job.Chain.Enclosures[i]; e.Kind == kindMeter && e.RatingA.Known() && e.RatingA.V() < sum && len(mains) > 1 {
			sum = e.RatingA.V()
			if !e.RatingA.Confirmed() {
				basis = install.Assumed
			}
		}
	}
	return install.Fact{Value: &sum, Basis: basis}
}

// sized judges the conductors that feed an enclosure: whole says that they carry all the
// load of one dwelling, device what protects them or what they end on.
func (s *system) sized(title string, e *install.Enclosure, device install.Fact, deviceName string, whole bool) {
	k := s.Of(e.ID)
	k.Title = title + e.Name
	k.From(under(ampacities.Table, s.code), clauseService.in(s.code))
	f := e.Feed
	switch {
	case !device.Known():
		k.AddMissing(deviceName)
	case f.Size == "" || f.Material == "":
		k.AddMissing("material and size of the conductors to " + e.Name)
	case math.IsNaN(tabulated(f.Size, string(f.Material), 75)):
		k.AddMissing(f.Size + " " + string(f.Material) + " in the ampacity table")
	}
	if len(k.Missing) > 0 {
		return
	}
	if !device.Confirmed() {
		k.Assumes(deviceName)
	}
	need, rule := device.V(), "rating"
	if whole && wholeRange(device.V()) {
		need, rule = wholeShare(s.code)*device.V(), text(wholeShare(s.code)*100, " % of the rating, for the whole load of one dwelling")
	}
	need = k.Step("needed", rule, text(device.V(), " A"), need, "A", clauseService.ref(s.code))
	carries := k.Step("carries", "75 °C column", trade(f.Size)+" "+string(f.Material),
		tabulated(f.Size, string(f.Material), 75), "A", under(ampacities.Table, s.code).Ref)
	if need == device.V() {
		// the next standard rating above the ampacity may protect it
		if next := NextRating(carries); working.AtMost(device.V(), next) && carries < need {
			k.From(clauseFeederTap.in(s.code))
			k.Max(device.V(), next)
			k.Summary = text(trade(f.Size), " ", materialWord(string(f.Material)), " carries ", carries,
				" A; the next rating up, ", next, " A, protects it.")
			return
		}
	}
	k.Max(need, carries)
	size := smallest(string(f.Material), func(x string) bool { return working.AtMost(need, tabulated(x, string(f.Material), 75)) })
	k.Summary = text(trade(f.Size), " ", materialWord(string(f.Material)), " carries ", carries, " A; ", need,
		" A are needed: ", trade(size), " or larger.")
	if neutral := s.neutralSize(string(f.Material), device.V(), whole); neutral != "" {
		k.Summary += text(" Its neutral at least ", trade(neutral), ", marked white at both ends.")
	}
	if f.Material == install.Aluminium {
		k.Summary += " Lugs marked AL at both ends."
	}
}

// wholeShare is the share of the rating that a conductor for the whole load of a
// dwelling carries at least. Canada has a table of its own whose sizes are the same.
func wholeShare(code Code) float64 {
	if code == CEC {
		return rule(ampacityRules.Table, "CA-T39")
	}
	return rule(ampacityRules.Table, "DWELL-83")
}

// neutralSize is the smallest neutral of a service or whole-dwelling feeder: by the
// neutral load of the standard method and the area of the hots (220.61, 250.24(C)).
func (s *system) neutralSize(material string, ratingA float64, whole bool) string {
	if !whole || !wholeRange(ratingA) || !s.Job.Loads.AreaM2.Known() || s.edition == 0 || s.code == CEC {
		return ""
	}
	out, _, err := calcStandard(s.loadsOf(true).standard(s.edition, s.ft2()))
	if err != nil {
		return ""
	}
	sized, _, err := calcService(serviceIn{RatingA: ratingA, Material: material, NeutralA: out.NeutralAmps})
	if err != nil {
		return ""
	}
	return sized.Neutral
}

func (s *system) ft2() float64 { return s.Job.Loads.AreaM2.V() / (footM * footM) }

func materialWord(m string) string { return map[string]string{"cu": "copper", "al": "aluminum"}[m] }

// fed is one set of conductors along the chain: up to a service disconnect service
// conductors, behind it a feeder.
type fed struct {
	to      *install.Enclosure
	service bool
	device  install.Fact // what protects them or what they end on
	name    string       // of it
	whole   bool         // they carry all the load of one dwelling
}

// mainsTogether judges how many service disconnects stand together.
func (s *system) mainsTogether() {
	n, most := float64(len(s.disconnects())), rule(clearances.Table, "SIX")
	if n < 2 {
		return
	}
	k := s.Of("")
	k.From(clauseMains.in(s.code))
	k.Max(n, most)
	k.Summary = text(n, " service disconnects; at most ", most, " at one place, each in an enclosure or a section of its own.")
}

// serviceConductors judges the conductors up to each service disconnect.
func (s *system) serviceConductors() {
	s.fed = s.alongTheChain()
	for _, f := range s.fed {
		if f.service {
			s.sized("Service conductors to ", f.to, f.device, f.name, f.whole)
		}
	}
}

// feeders judges what is fed from behind a service disconnect.
func (s *system) feeders() {
	for _, f := range s.fed {
		if !f.service {
			s.sized("Feeder to ", f.to, f.device, f.name, f.whole)
		}
	}
}

// feederGrounds judges the grounding conductor of each feeder.
func (s *system) feederGrounds() {
	for _, f := range s.fed {
		if !f.service {
			s.feederGround(f.to, f.device, f.name)
		}
	}
}

// alongTheChain lists the conductors along the chain from the utility's end on.
func (s *system) alongTheChain() (out []fed) {
	mains := s.disconnects()
	if len(mains) == 0 {
		return nil
	}
	children := map[string]int{}
	for i := range s.Job.Chain.Enclosures {
		if e := &s.Job.Chain.Enclosures[i]; e.Kind != kindGenerator {
			children[e.From]++
		}
	}
	behind := map[string]bool{}
	carriesAll := map[string]bool{} // what leaves it is the load of the whole dwelling, in one feeder
	device := map[string]install.Fact{}
	for _, e := range s.Job.Chain.Order() {
		switch {
		case slices.Contains(mains, e):
			behind[e.ID] = true
			alone := len(mains) == 1
			device[e.ID] = s.ratingOf(e, alone)
			carriesAll[e.ID] = alone && e.Kind != kindPanel && children[e.ID] == 1
			out = append(out, fed{e, true, device[e.ID], "the rating of " + e.Name, alone})
		case !behind[e.From] && e.Kind == kindMeter && e.Feed.Size != "" && e.Feed.Way != "":
			out = append(out, fed{e, true, s.rating(), "the rating of the service", true})
		case behind[e.From]:
			behind[e.ID] = true
			if e.Owner != install.OwnerCustomer || e.Kind == kindGenerator {
				continue
			}
			whole := carriesAll[e.From] && (e.Kind == kindPanel || e.Kind == kindTransfer)
			carriesAll[e.ID] = whole && e.Kind == kindTransfer && children[e.ID] == 1
			limit, name := e.Feed.DeviceA, "the device ahead of "+e.Name
			from := s.Job.Chain.Enclosure(e.From)
			switch {
			case limit.Known():
			case children[e.From] == 1 && from.Kind != kindPanel && from.Kind != kindSubpanel && device[e.From].Known():
				limit = device[e.From]
			case e.RatingA.Known():
				v := e.RatingA.V()
				limit, name = install.Fact{Value: &v, Basis: install.Assumed}, text("a device of ", v, " A ahead of ", e.Name)
			}
			device[e.ID] = limit
			if e.Feed.Size != "" {
				out = append(out, fed{e, false, limit, name, whole})
			}
		}
	}
	return out
}

// feederGround judges the equipment grounding conductor of a feeder by the device that
// protects it.
func (s *system) feederGround(e *install.Enclosure, device install.Fact, deviceName string) {
	k := s.Of(e.ID)
	k.Title = s.named("Equipment ground to ", "Bonding conductor to ") + e.Name
	k.From(under(groundSizes, s.code))
	switch {
	case e.Feed.Way == metalConduit && e.Feed.EarthMM2 == "":
		k.From(clauseMetalGround.in(s.code))
		k.Decide(true)
		k.Summary = "The metal conduit is the grounding conductor: every fitting made up tight."
		return
	case !device.Known():
		k.AddMissing(deviceName)
	case e.Feed.EarthMM2 == "" || e.Feed.Material == "":
		k.AddMissing("material and size of the grounding conductor to " + e.Name)
	}
	if len(k.Missing) > 0 {
		return
	}
	if !device.Confirmed() {
		k.Assumes(deviceName)
	}
	need := groundSize(s.code, string(e.Feed.Material), device.V())
	if need == "" {
		k.AddMissing(text("a grounding conductor in the table for ", device.V(), " A"))
		return
	}
	k.Step("by table", "for the device ahead", text(device.V(), " A: ", need), AreaMM2(need), "mm²", under(groundSizes, s.code).Ref)
	k.Min(AreaMM2(e.Feed.EarthMM2), AreaMM2(need))
	k.Summary = text(trade(e.Feed.EarthMM2), " installed; ", trade(need), " ", materialWord(string(e.Feed.Material)),
		" needed for ", device.V(), " A.")
}

// Needs lists what must be known of the supply before a design rests on it.
func (Practice) Needs(job *install.Job) []rulebook.Need {
	out := []rulebook.Need{}
	for _, n := range []struct {
		missing bool
		sheet   working.Sheet
		what    string
	}{
		{!job.Supply.MainFuseA.Known(), working.SupplySheet, "the rating of the service as found"},
		{!job.Supply.PFCkA.Known(), working.SupplySheet, "available fault current, asked of the utility or assumed"},
		{job.Trait().Load && loadMethod(job) != byRecord && !job.Loads.AreaM2.Known(), working.SurveySheet, "the habitable floor area"},
		{!job.Supply.EarthMM2.Known(), working.SupplySheet, "the grounding electrode conductor as found"},
		{len(job.Supply.Bonds) == 0 && !job.Supply.NoExtraneous, working.SupplySheet, "metal water pipe and other metal services as found"},
	} {
		if n.missing {
			out = append(out, rulebook.Need{Sheet: n.sheet, What: n.what})
		}
	}
	return out
}

// Judge computes every check of the job, without what would mend them.
func (p Practice) Judge(job *install.Job) rulebook.Report {
	s := newSystem(p, job)
	s.done = rulebook.Report{Notice: Notice, Legs: []rulebook.Legs{}, Circuits: make([]rulebook.CircuitReport, 0, len(job.Circuits))}
	r := &s.done
	r.Job = s.judge(rulebook.Everything)
	for i := range job.Circuits {
		r.Circuits = append(r.Circuits, s.report(&job.Circuits[i]))
	}
	r.Verdict = r.Worst()
	return *r
}

// judge judges the rules of the whole job that read any of some facets of its circuits;
// rulebook.Everything asks all of them.
func (s *system) judge(touched rulebook.Facet) []working.Check {
	return rulebook.Judge(s.House, jobRules, s, func(rule *rulebook.Asked[*system]) bool {
		return touched == rulebook.Everything || rule.Reads&touched != 0 && !rule.Hint
	})
}
