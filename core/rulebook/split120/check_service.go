package split120

import (
	"math"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// The least number of circuits that every dwelling counts (210.11(C), 220.52).
const (
	leastSmall   = 2
	leastLaundry = 1
)

// sized judges the conductors that feed an enclosure against what it may draw.
func (s *system) sized(id, title string, e *install.Enclosure, rating install.Fact, whole bool) working.Check {
	k := working.New(id, "", title, "A")
	k.From(ampacities.Source, ref("NEC 310.12, 230.42, 215.2"))
	f := e.Feed
	switch {
	case !rating.Known():
		k.Lacks("the rating of " + e.Name)
	case f.Size == "" || f.Material == "":
		k.Lacks("material and size of the conductors to " + e.Name)
	case math.IsNaN(tabulated(f.Size, f.Material, 75)):
		k.Lacks(f.Size + " " + f.Material + " in the ampacity table")
	}
	if len(k.Missing) > 0 {
		settle(k)
		return *k
	}
	if !rating.Confirmed() {
		k.Assumes("rating of " + e.Name)
	}
	need, err := requiredA(rating.V(), whole)
	rule := "83 % of the rating, for the whole load of one dwelling"
	if err != nil || !whole {
		need, rule = rating.V(), "rating"
	}
	need = k.Step("needed", rule, text(rating.V(), " A"), need, "A", "NEC 310.12")
	carries := k.Step("carries", "75 °C column", trade(f.Size)+" "+f.Material, tabulated(f.Size, f.Material, 75), "A", ampacities.Source.Ref)
	if !whole {
		// the next standard rating above the ampacity may protect it (240.4(B))
		if next := NextRating(carries); working.AtMost(rating.V(), next) && carries < need {
			k.Max(rating.V(), next)
			k.Says = text(trade(f.Size), " ", materialWord(f.Material), " carries ", carries, " A; the next rating up, ", next, " A, protects it.")
			return *k
		}
	}
	k.Max(need, carries)
	size := smallest(f.Material, func(x string) bool { return working.AtMost(need, tabulated(x, f.Material, 75)) })
	k.Says = text(trade(f.Size), " ", materialWord(f.Material), " carries ", carries, " A; ", need, " A are needed: ", trade(size), " or larger.")
	if neutral := s.neutralSize(f.Material, rating.V(), whole); neutral != "" {
		k.Says += text(" Its neutral at least ", trade(neutral), ", marked white at both ends.")
	}
	if f.Material == "al" {
		k.Says += " Lugs marked AL at both ends."
	}
	return *k
}

// neutralSize is the smallest neutral of a service or whole-dwelling feeder: by the
// neutral load of the standard method and the area of the hots (220.61, 250.24(C)).
func (s *system) neutralSize(material string, ratingA float64, whole bool) string {
	if !whole || ratingA < 100 || ratingA > 400 || !s.job.Loads.AreaM2.Known() || s.edition == 0 {
		return ""
	}
	l := s.loadsOf(true)
	ft2 := s.job.Loads.AreaM2.V() / (footM * footM)
	out, _, err := calcStandard(standardIn{Edition: s.edition, AreaFt2: ft2, Small: l.small, Laundry: l.laundry, Fixed: l.appliances, DryerVA: l.dryer, Ranges: l.ranges})
	if err != nil {
		return ""
	}
	sized, _, err := calcService(serviceIn{RatingA: ratingA, Material: material, NeutralA: out["neutral_amps"].(float64)})
	if err != nil {
		return ""
	}
	return sized["neutral_min"].(string)
}

func materialWord(m string) string { return map[string]string{"cu": "copper", "al": "aluminum"}[m] }

// chainChecks judges the conductors along the chain: up to the first disconnect as
// service conductors, behind it as feeders with their grounding conductor.
func (s *system) chainChecks() []working.Check {
	out := []working.Check{}
	_, first := s.serviceOf()
	if first == nil {
		return out
	}
	rating, _ := s.serviceOf()
	behind := false
	carriesAll := map[string]bool{first.ID: true} // the feeder to the only panel behind it carries the whole dwelling
	for _, e := range s.job.Chain.Order() {
		switch {
		case e.ID == first.ID:
			behind = true
			out = append(out, s.sized("service-"+e.ID, "Service conductors to "+e.Name, e, rating, true))
		case !behind && e.Kind == "meter" && e.Feed.Size != "" && e.Feed.Way != "":
			out = append(out, s.sized("service-"+e.ID, "Service conductors to "+e.Name, e, rating, true))
		case behind && e.Owner == install.OwnerCustomer && e.Kind != "generator" && e.Feed.Size != "":
			whole := carriesAll[e.From] && (e.Kind == "panel" || e.Kind == "transfer")
			carriesAll[e.ID] = whole
			limit := e.RatingA
			if whole {
				limit = rating
			}
			out = append(out, s.sized("feeder-"+e.ID, "Feeder to "+e.Name, e, limit, whole), s.feederGround(e, limit))
		}
	}
	return out
}

// feederGround judges the equipment grounding conductor of a feeder (250.122).
func (s *system) feederGround(e *install.Enclosure, rating install.Fact) working.Check {
	k := working.New("feeder-ground-"+e.ID, "", s.named("Equipment ground to ", "Bonding conductor to ")+e.Name, "kcmil")
	k.From(groundSizes.Source)
	switch {
	case e.Feed.Way == "metal conduit" && e.Feed.EarthMM2 == "":
		k.Decide(true)
		k.Says = "The metal conduit is the grounding conductor (250.118): every fitting made up tight."
		return *k
	case !rating.Known():
		k.Lacks("the rating of " + e.Name)
	case e.Feed.EarthMM2 == "" || e.Feed.Material == "":
		k.Lacks("material and size of the grounding conductor to " + e.Name)
	}
	if len(k.Missing) > 0 {
		settle(k)
		return *k
	}
	need := GroundSize(e.Feed.Material, rating.V())
	k.Step("by table", "for the device ahead", text(rating.V(), " A: ", need), Cmil(need)/1000, "kcmil", groundSizes.Source.Ref)
	k.Min(Cmil(e.Feed.EarthMM2)/1000, Cmil(need)/1000)
	k.Says = text(trade(e.Feed.EarthMM2), " installed; ", trade(need), " ", materialWord(e.Feed.Material), " needed for ", rating.V(), " A.")
	return *k
}

// electrodeChecks judges the grounding electrode conductor, the bond of each metal
// pipe and the place for other systems (250.66, 250.104, 250.94).
func (s *system) electrodeChecks() []working.Check {
	out := []working.Check{}
	rating, first := s.serviceOf()
	supply := &s.job.Supply
	k := working.New("electrode-conductor", "", s.named("Grounding electrode conductor", "Grounding conductor"), "kcmil")
	k.From(electrodeSizes.Source, grounding.Source)
	size, material := "", ""
	if first != nil {
		size, material = first.Feed.Size, first.Feed.Material
	}
	if size == "" && rating.Known() {
		// by the size that the rating would have
		if sized, _, err := calcService(serviceIn{RatingA: rating.V(), Material: "cu", Whole: yesIf(rating.V() >= 100 && rating.V() <= 400)}); err == nil {
			size, material = sized["conductor"].(string), "cu"
			k.Assumes("service conductors of " + trade(size) + " copper")
		}
	}
	row := -1
	if size != "" && material != "" {
		row = byArea(electrodeSizes, material, Cmil(size)/1000)
	}
	water := len(supply.Bonds) > 0
	need := ""
	if row < 0 {
		k.Lacks("the size of the service conductors")
	} else {
		need = electrodeSizes.Str(row, "gec_cu")
		if !water {
			need = smaller(need, "6")
		}
	}
	switch {
	case !supply.EarthMM2.Known():
		k.Lacks("the size of the grounding electrode conductor")
	case sizeOf[supply.EarthMM2.V()] == "":
		k.Lacks("a trade size of the grounding electrode conductor")
	}
	if len(k.Missing) == 0 {
		if !supply.EarthMM2.Confirmed() {
			k.Assumes("grounding electrode conductor")
		}
		installed := sizeOf[supply.EarthMM2.V()]
		k.Step("by table", "for the service conductors", text(size, " ", material, ": ", need, " cu"), Cmil(need)/1000, "kcmil", electrodeSizes.Source.Ref)
		k.Min(Cmil(installed)/1000, Cmil(need)/1000)
		k.Says = text(trade(installed), " copper; ", trade(need), " needed to the ", map[bool]string{true: "water pipe", false: "rods"}[water], ". To rods alone 6 AWG is enough. It holds the potential; it is no path for a fault.")
	}
	settle(k)
	out = append(out, *k)
	for i, b := range supply.Bonds {
		c := working.New(text("bond-", i+1), "", "Bond of the "+b.Service, "kcmil")
		c.From(electrodeSizes.Source, ref("NEC 250.53(D), 250.104"))
		switch {
		case !b.MM2.Known() || sizeOf[b.MM2.V()] == "":
			c.Lacks("the size of the bond of the " + b.Service)
		case need == "":
			c.Lacks("the size of the service conductors")
		default:
			if !b.MM2.Confirmed() {
				c.Assumes("bond of the " + b.Service)
			}
			c.Min(Cmil(sizeOf[b.MM2.V()])/1000, Cmil(electrodeSizes.Str(row, "gec_cu"))/1000)
			c.Says = text(trade(sizeOf[b.MM2.V()]), " copper; ", trade(electrodeSizes.Str(row, "gec_cu")), " needed.")
			if b.Around == nil {
				c.Lacks("whether a jumper crosses the meter and what else interrupts the " + b.Service)
				c.Says = ""
			} else if !*b.Around {
				c.Decide(false)
				c.Says = "The " + b.Service + " is interrupted by a meter or filter: a jumper around it keeps the electrode when it is taken out."
			}
		}
		settle(c)
		out = append(out, *c)
	}
	ibt := working.New("intersystem", "", "Bonding place for telephone, antenna and data", "")
	ibt.From(grounding.Source)
	switch {
	case supply.Intersystem == nil:
		ibt.Verdict, ibt.Says = working.Caution, "Not looked for: outside at the service a place for at least three bonds (250.94)."
	default:
		ibt.Decide(*supply.Intersystem)
		ibt.Says = "At least three bonds outside at the service (250.94)."
		if !*supply.Intersystem {
			ibt.Verdict, ibt.Says = working.Caution, "There is none: it goes in with a new service (250.94)."
		}
	}
	return append(out, *ibt)
}

func yesIf(b bool) *bool { return &b }

// Needs lists what must be known of the supply before a design rests on it.
func (Practice) Needs(job *install.Job) []rulebook.Need {
	out := []rulebook.Need{}
	for _, n := range []struct {
		missing bool
		sheet   string
		what    string
	}{
		{!job.Supply.MainFuseA.Known(), "supply", "the rating of the service as found"},
		{!job.Supply.PFCkA.Known(), "supply", "available fault current, asked of the utility or assumed"},
		{job.Schools.LoadMethod != "measured" && !job.Loads.AreaM2.Known(), "survey", "the habitable floor area"},
		{!job.Supply.EarthMM2.Known(), "supply", "the grounding electrode conductor as found"},
		{len(job.Supply.Bonds) == 0 && !job.Supply.NoExtraneous, "supply", "metal water pipe and other metal services as found"},
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
	demand, check := s.demand()
	r := rulebook.Report{Demand: demand, Notice: Notice, Job: []working.Check{check}, Circuits: make([]rulebook.CircuitReport, 0, len(job.Circuits))}
	r.Job = append(r.Job, s.chainChecks()...)
	r.Job = append(r.Job, s.electrodeChecks()...)
	if legs, k := s.legs(); k != nil {
		r.Legs = legs
		r.Job = append(r.Job, *k)
	}
	r.Job = append(r.Job, s.spacing()...)
	r.Job = append(r.Job, s.requiredCircuits()...)
	r.Job = append(r.Job, s.workingSpace()...)
	r.Job = append(r.Job, s.ungrounded()...)
	r.Job = append(r.Job, s.surge()...)
	r.Job = append(r.Job, s.standby()...)
	for i := range job.Circuits {
		r.Circuits = append(r.Circuits, s.report(&job.Circuits[i]))
	}
	r.Verdict = r.Worst()
	return r
}
