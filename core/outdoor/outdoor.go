// Package outdoor works out what is done outside: a trench or overhead run as a
// section with depths, duct, ribbon and bends, its parts, its steps with who
// waits for whom, and the ways past what is found on the day.
package outdoor

import (
	"embed"
	"fmt"
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

//go:embed data/*.csv
var dataFiles embed.FS

var stepTable = table.LoadOf[stepRow](dataFiles, "steps")

// Part is one line of the parts bill.
type Part struct {
	Key  string  `json:"key"` // of the product
	Name string  `json:"name"`
	N    float64 `json:"n"`
	Unit string  `json:"unit"`
	Rule string  `json:"rule"`
	// Step is the step of the run that takes it, by its id on the plan.
	Step string `json:"step"`
}

// Step is one step of a run.
type Step struct {
	ID    string        `json:"id"` // of its task on the plan
	Title string        `json:"title"`
	Who   string        `json:"who"`
	Finds string        `json:"finds"` // what whoever does it must find ready
	Hours float64       `json:"hours"`
	Done  bool          `json:"done"`
	Waits string        `json:"waits"` // the step it waits for, empty when it may begin
	Stage install.Stage `json:"-"`
	Act   working.Act   `json:"-"` // that it is, of those that verdicts hold; empty for none
	Photo bool          `json:"-"`
	Ours  bool          `json:"-"` // the electrical crew does it
	High  bool          `json:"-"` // it is work at height
	// Weather is what of the weather holds it.
	Weather Weathered `json:"-"`
	// Service: the day of a change of the service has it as a step of its own.
	Service bool `json:"-"`
	// Meter: the meter is set in it.
	Meter bool `json:"-"`
	// Lacks says what the run does not say yet of what the step does: it is not done while it does not.
	Lacks string `json:"-"`
}

// Way is one way past an obstruction with its effect.
type Way struct {
	Option  string  `json:"option"`
	Summary string  `json:"summary"`
	ExtraM  float64 `json:"extraM"`
	Bends   float64 `json:"bends"` // degrees more between the pull points
	Hours   float64 `json:"hours"`
	CoverMM float64 `json:"coverMM"` // that is left above the duct
	OK      bool    `json:"ok"`
	Why     string  `json:"why"` // why it is not, when it is not
}

// Passing is an obstruction with the ways past it.
type Passing struct {
	What string `json:"what"`
	Ways []Way  `json:"ways"`
}

// Section is one point of the drawn section, along the run.
type Section struct {
	FromM    float64 `json:"fromM"`
	ToM      float64 `json:"toM"`
	CoverMM  float64 `json:"coverMM"` // as dug where measured, otherwise planned
	NeedMM   float64 `json:"needMM"`
	Known    bool    `json:"-"`        // what lies above or below it is known
	Barred   bool    `json:"-"`        // nothing is laid so there
	RibbonMM float64 `json:"ribbonMM"` // below ground; 0 for none
	BendDeg  float64 `json:"bendDeg"`
	Dug      bool    `json:"dug"`
	Place    string  `json:"place"`
}

// Run is one run worked out.
type Run struct {
	ID       string          `json:"id"`
	LengthM  float64         `json:"lengthM"`
	BendDeg  float64         `json:"bendDeg"`
	Sections []Section       `json:"sections"`
	Checks   []working.Check `json:"checks"`
	Parts    []Part          `json:"parts"`
	Steps    []Step          `json:"steps"`
	Passings []Passing       `json:"passings"`

	wrong []string // ways past an obstruction that were decided on and cannot be gone
}

// detour is what the decided ways past obstructions add to a run.
type detour struct{ lengthM, bends, hours float64 }

// Report is all of the outdoor works.
type Report struct {
	Runs []Run `json:"runs"`
	// Ground are the checks of the marks where circuits and electrodes go into the ground.
	Ground []working.Check `json:"ground"`
	// ElectrodeParts is the bill of the electrode system.
	ElectrodeParts []Part                   `json:"electrodeParts"`
	Electrodes     rulebook.ElectrodeReport `json:"electrodes"`
	Rules          *rulebook.OutdoorRules   `json:"rules"`
}

// Of works the outdoor works out. done tells which tasks are ticked, today is
// the date on which marks must still hold.
func Of(job *install.Job, p rulebook.Book, done map[string]bool, today string) Report {
	r := Report{Runs: make([]Run, 0, len(job.Outdoor.Runs)), Electrodes: p.Electrodes(job), Rules: p.Outdoor(job)}
	r.ElectrodeParts = electrodeBill(&job.Outdoor.Electrodes, r.Rules)
	dug := ticked(job)
	r.Ground = ground(job, p, r.Rules, today, dug)
	for i := range job.Outdoor.Runs {
		r.Runs = append(r.Runs, runOf(&job.Outdoor.Runs[i], r.Rules, done, marksBy(today, dug["run-"+job.Outdoor.Runs[i].ID+"-"+digStep])))
	}
	return r
}

func runOf(run *install.Run, rules *rulebook.OutdoorRules, done map[string]bool, today string) Run {
	out := Run{ID: run.ID, LengthM: run.LengthM(), Sections: []Section{}, Checks: []working.Check{}, Parts: []Part{}, Passings: []Passing{}}
	at := 0.0
	for i := range run.Stretches {
		s := &run.Stretches[i]
		x := Section{FromM: at, ToM: at + s.LengthM, CoverMM: s.CoverMM, BendDeg: s.BendDeg, Place: s.Place}
		x.NeedMM, x.Barred, x.Known = need(run, s, rules)
		if s.DugMM.Known() {
			x.CoverMM, x.Dug = s.DugMM.V(), true
		}
		if s.RibbonMM > 0 {
			x.RibbonMM = math.Max(0, x.CoverMM-s.RibbonMM)
		}
		at += s.LengthM
		out.BendDeg += s.BendDeg
		out.Sections = append(out.Sections, x)
	}
	decided := detour{}
	bends := out.BendDeg // of the run as planned: each way past is judged on its own
	for _, o := range run.Found {
		p := out.past(run, rules, o, bends)
		out.Passings = append(out.Passings, p)
		for _, w := range p.Ways {
			if w.Option == o.Option {
				decided.lengthM += w.ExtraM
				out.BendDeg += w.Bends
				decided.bends += math.Ceil(w.Bends / 45)
				decided.hours += w.Hours
				if !w.OK {
					out.wrong = append(out.wrong, o.What+", "+w.Option+": "+w.Why)
				}
			}
		}
	}
	out.LengthM += decided.lengthM
	out.check(run, rules, today)
	out.bill(run, rules, decided)
	out.Steps = Steps(rules.Words, run, done)
	for i := range out.Steps {
		if s := &out.Steps[i]; s.Act == working.ToDig { // the way past is dug with the rest
			s.Hours = math.Round((s.Hours+decided.hours)*4) / 4
		}
	}
	return out
}

// need is the cover that is asked for: the practice's by its surface, or the operator's
// where that is more. An overhead run needs its height over what lies under it. known is
// false while the surface is not.
func need(run *install.Run, s *install.RunStretch, rules *rulebook.OutdoorRules) (mm float64, barred, known bool) {
	overhead := run.Kind == install.Overhead
	c, known := rules.At(s.Surface, overhead, run.DuctMM > 0)
	if overhead {
		return c.MM, c.Barred, known
	}
	return math.Max(run.CoverMM, c.MM), c.Barred, known
}

func (r *Run) check(run *install.Run, rules *rulebook.OutdoorRules, today string) {
	w := rules.Words
	source := working.Source{Ref: rules.Source, Confidence: rules.Confidence}
	l := unit.Lengths{Inches: rules.Inches}
	add := func(c *working.Check) {
		c.From(source)
		c.Title = w.Say(c.Title)
		r.Checks = append(r.Checks, *c)
	}
	if run.Kind == install.Trench { // what could kill the digger comes first
		for _, c := range marked(w, run.Marks(), today, "", run.ID) {
			add(c)
		}
	}
	for i, x := range r.Sections {
		if run.Kind == install.Trench && run.Stretches[i].Surface == rulebook.AboveGround {
			continue
		}
		c := x.cover(w, run, i, l)
		if run.Kind == install.Overhead {
			c.From(working.Source{Ref: rules.ClearanceSource, Confidence: "medium"})
			r.Checks = append(r.Checks, *c)
			continue
		}
		add(c)
		if run.Kind == install.Trench {
			add(x.dug(w, run, i, l))
			add(x.ribbon(run, i, l, rules))
		}
	}
	if run.Kind == install.Overhead {
		return
	}
	if run.DuctMM > 0 {
		c := bendsRule.Check("", run.ID)
		c.Unit = "°"
		c.Max(r.BendDeg, rules.BendSumDeg)
		c.Summary = w.Say("%s° of %s°.", unit.Format(r.BendDeg), unit.Format(rules.BendSumDeg))
		if c.Verdict == working.Fail {
			c.Summary += w.Say(" A draw pit between them halves it.")
		}
		add(c)
		if c := radius(run, rules, l); c != nil {
			add(c)
		}
		if c := riser(run, rules); c != nil {
			add(c)
		}
		for _, t := range []struct {
			rule  *working.Rule
			lacks string
			v     *bool
		}{{&stringRule, w.Say("whether the draw string is in and tied at both ends"), run.String},
			{&cappedRule, w.Say("whether both ends are capped"), run.Capped}} {
			c := t.rule.Check("", run.ID)
			if t.v == nil {
				c.AddMissing(t.lacks)
				c.Summary = w.Say("Not recorded: without it the next crew says the duct was not done.")
			} else {
				c.Decide(*t.v)
			}
			add(c)
		}
	}
	for i, why := range r.wrong {
		c := pastRule.Check("", fmt.Sprintf("%s-%d", run.ID, i+1))
		c.Decide(false)
		c.Summary = why + "."
		add(c)
	}
	for i := range run.Found {
		if o := &run.Found[i]; o.Option == "" {
			c := pastRule.Check("", fmt.Sprintf("%s-open-%d", run.ID, i+1))
			c.AddMissing(w.Say("the way past the %s", o.What))
			c.Summary = w.Say("Not decided: %s.", c.Missing[0])
			add(c)
		}
	}
}

// dug asks for the depth that was dug, which nobody can read once it is filled.
func (x *Section) dug(w *words.Catalogue, run *install.Run, i int, l unit.Lengths) *working.Check {
	c := dugRule.Check("", fmt.Sprintf("%s-%d", run.ID, i+1))
	c.Title = w.Say("Depth as dug: %s", x.Place)
	if !x.Dug {
		c.AddMissing(w.Say("the depth as it was dug, read before it is filled"))
		c.Summary = w.Say("Not recorded: %s.", c.Missing[0])
		return c
	}
	c.Decide(true)
	c.Summary = w.Say("%s.", l.MM(x.CoverMM))
	return c
}

// cover judges how deep a stretch lies, or how high it hangs.
func (x *Section) cover(w *words.Catalogue, run *install.Run, i int, l unit.Lengths) *working.Check {
	title, lacks, mend := w.Say("Cover"), w.Say("what lies above it (the surface)"), words.Key("%s %s, %s asked for. Dig %s deeper.")
	if run.Kind == install.Overhead {
		title, lacks, mend = w.Say("Height"), w.Say("what lies under it (the surface)"),
			words.Key("%s %s, %s asked for. Hang it %s higher.")
	}
	there, name := l.Small(x.CoverMM)
	need, _ := l.Small(x.NeedMM)
	c := coverRule.Check("", fmt.Sprintf("%s-%d", run.ID, i+1))
	c.Title, c.Unit = title+": "+x.Place, name
	switch {
	case !x.Known:
		c.AddMissing(lacks)
		c.Summary = w.Say("Not recorded: %s.", c.Missing[0])
	case x.Barred:
		c.Decide(false)
		c.Summary = w.Say("Nothing is laid there without a duct.")
	default:
		if !x.Dug {
			c.Assumes(w.Say("depth as planned, not yet dug and measured"))
		}
		c.Min(there, need)
		how := w.Say("as planned")
		if x.Dug {
			how = w.Say("as measured")
		}
		c.Summary = w.Say("%s %s, %s asked for.", l.MM(x.CoverMM), how, l.MM(x.NeedMM))
		if c.Verdict == working.Fail {
			c.Summary = w.Say(string(mend), l.MM(x.CoverMM), how, l.MM(x.NeedMM), l.MM(x.NeedMM-x.CoverMM))
		}
	}
	return c
}

// radius judges the tightest bend of a duct: by its bore, or by the operator where it asks for more. Nil where nothing bends.
func radius(run *install.Run, rules *rulebook.OutdoorRules, l unit.Lengths) *working.Check {
	w := rules.Words
	c := radiusRule.Check("", run.ID)
	need := max(rules.RadiusOf(run.DuctMM), run.RadiusMM)
	least, where, bends := 0.0, "", false
	for i := range run.Stretches {
		s := &run.Stretches[i]
		switch {
		case s.BendDeg == 0:
			continue
		case s.RadiusMM == 0:
			c.AddMissing(w.Say("the radius of the bend after %s", s.Place))
		case !bends || s.RadiusMM < least:
			least, where = s.RadiusMM, s.Place
		}
		bends = true
	}
	if !bends || need == 0 {
		return nil
	}
	c.From(working.Source{Ref: rules.RadiusSource, Confidence: "medium"})
	if least == 0 {
		c.Summary = w.Say("Not recorded: %s.", strings.Join(c.Missing, "; "))
		return c
	}
	there, name := l.Small(least)
	asked, _ := l.Small(need)
	c.Unit = name
	c.Min(there, asked)
	c.Summary = w.Say("The tightest, after %s, has %s; %s asked for.", where, l.MM(least), l.MM(need))
	if c.Verdict == working.Fail {
		c.Summary += w.Say(" The cable would be hurt as it is drawn in: set a wider bend.")
	}
	return c
}

// riser judges what a duct leaves the ground in, where it can be struck. Nil where it does not, or where the practice has no grades.
func riser(run *install.Run, rules *rulebook.OutdoorRules) *working.Check {
	w := rules.Words
	leaves := slices.ContainsFunc(run.Stretches, func(s install.RunStretch) bool { return s.Surface == rulebook.AboveGround })
	if !leaves || len(rules.Risers) == 0 {
		return nil
	}
	c := riserRule.Check("", run.ID)
	i := slices.IndexFunc(rules.Risers, func(r rulebook.Riser) bool { return r.Grade == run.Riser })
	if i < 0 {
		c.AddMissing(w.Say("the grade of the duct where it leaves the ground"))
		c.Summary = w.Say("Not recorded: read it off the duct.")
		if run.Grade != "" {
			c.Summary = w.Say("Its print is noted as “%s”: choose the grade that this is.", run.Grade)
		}
		return c
	}
	r := rules.Risers[i]
	c.From(working.Source{Ref: r.Source, Confidence: "high"})
	c.Decide(r.Exposed)
	c.Summary = w.Say("%s may stand where it can be struck.", r.Grade)
	if !r.Exposed {
		c.Summary = w.Say("%s may not stand where it can be struck: from below the ground to 8 ft above it, or to the enclosure, another grade.", r.Grade)
	}
	return c
}

// ribbon judges the height of the warning ribbon above the duct.
func (x *Section) ribbon(run *install.Run, i int, l unit.Lengths, rules *rulebook.OutdoorRules) *working.Check {
	w := rules.Words
	mm := run.Stretches[i].RibbonMM
	there, name := l.Small(mm)
	low, _ := l.Small(rules.RibbonLow)
	c := ribbonRule.Check("", fmt.Sprintf("%s-%d", run.ID, i+1))
	c.Title, c.Unit = w.Say("Warning tape: %s", x.Place), name
	if mm == 0 {
		c.AddMissing(w.Say("the height of the warning tape above the duct"))
		c.Summary = w.Say("Not recorded. Warning tape lies %s to %s above.", l.MM(rules.RibbonLow), l.MM(rules.RibbonHigh))
		return c
	}
	c.Min(there, low)
	c.Summary = w.Say("%s above the duct; %s to %s is usual.", l.MM(mm), l.MM(rules.RibbonLow), l.MM(rules.RibbonHigh))
	if c.Verdict == working.Pass && mm > rules.RibbonHigh {
		c.Warn()
	}
	return c
}

// bill is the parts bill. Stretches are laid in whole sticks; a stick brings one
// bell, bends have plain ends and take a coupling each.
func (r *Run) bill(run *install.Run, rules *rulebook.OutdoorRules, past detour) {
	w := rules.Words
	l := unit.Lengths{Inches: rules.Inches}
	add := func(key, name string, n float64, unitName, rule string) {
		if n > 0 {
			r.Parts = append(r.Parts, Part{key, name, n, unitName, rule, "run-" + run.ID + "-" + takes(run.Kind, key)})
		}
	}
	length := func(key, name string, metres float64, rule string) {
		v, u := l.Large(metres)
		add(key, name, math.Ceil(v), u, rule)
	}
	if run.Kind == install.Overhead {
		riser := 0.0
		for _, s := range run.Stretches {
			if s.Surface == rulebook.AboveGround {
				riser += s.LengthM
			}
		}
		if riser > 0 {
			add("overhead:strap", w.Say("Straps for the riser"), math.Ceil(riser/strapM)+1, "pcs",
				w.Say("%s on the wall, at most %s apart and one more: verify with the rule of the cable", l.M(riser), l.M(strapM)))
		}
		for _, x := range rules.OverheadParts {
			add(x.Key, x.Name, x.Count, x.Unit, x.Rule)
		}
		return
	}
	if run.DuctMM > 0 {
		sticks, bends := math.Ceil(unit.Significant(past.lengthM/rules.StickM, 9)), past.bends
		for _, s := range run.Stretches {
			sticks += math.Ceil(unit.Significant(s.LengthM/rules.StickM, 9))
			if s.BendDeg > 0 {
				bends++
			}
		}
		bore, mm := l.Trade(run.DuctMM), unit.Format(run.DuctMM)
		add("duct:stick:"+mm, w.Say("Duct %s", bore), sticks, "sticks", w.Say("each stretch in whole sticks of %s", l.M(rules.StickM)))
		add("duct:bend:"+mm, w.Say("Long-radius bend %s", bore), bends, "pcs", w.Say("one at each change of direction; never an elbow"))
		add("duct:coupling:"+mm, w.Say("Coupling %s", bore), bends, "pcs", w.Say("one at each bend; sticks bring a bell of their own"))
		add("duct:slip:"+mm, w.Say("Slip joint %s", bore), float64(risers(run)), "pcs",
			w.Say("where disturbed ground meets the wall, so that settling does not pull the riser out"))
		fittings := 0.0
		for _, s := range run.Stretches {
			if s.Surface == rulebook.AboveGround && rules.ExpansionPerK > 0 &&
				s.LengthM*1000*rules.ExpansionPerK*rules.ExpansionK >= rules.ExpansionMM {
				fittings++
			}
		}
		add("duct:expansion:"+mm, w.Say("Expansion fitting %s", bore), fittings, "pcs",
			w.Say("one for each straight stretch above ground that moves by %s or more between winter and sun", l.MM(rules.ExpansionMM)))
		add("duct:cement", w.Say("Duct cement"), math.Ceil((sticks+2*bends)/20), "tins",
			w.Say("one for about twenty joints; of the kind for electrical duct: plumber's cement is not taken instead"))
		add("duct:adapter:"+mm, w.Say("Terminal adapter %s", bore), 2, "pcs", w.Say("one where each end enters its box"))
		add("duct:ring:"+mm, w.Say("Lock ring %s", bore), 2, "pcs", w.Say("one behind each adapter"))
		add("duct:bushing:"+mm, w.Say("Bushing %s", bore), 2, "pcs", w.Say("one on each adapter, before the conductors are drawn"))
		add("duct:ballast", w.Say("Bags to fill as ballast"), sticks, "pcs", w.Say("one for each stick: an empty duct floats as the trench fills with water"))
		add("duct:cap:"+mm, w.Say("End cap %s", bore), 2, "pcs", w.Say("one at each end"))
		length("duct:string", w.Say("Draw string"), r.LengthM+2*stringTailM, w.Say("the run and %s tied at each end", l.M(stringTailM)))
	}
	length("warning-tape", w.Say("Warning tape"), r.LengthM, w.Say("the whole trench"))
	sand := r.LengthM * trenchM * beddingM
	if rules.Inches {
		add("bedding", w.Say("Bedding sand"), math.Ceil(sand/0.764555*10)/10, "yd³",
			w.Say("%s in a trench %s wide", l.MM(beddingM*1000), l.MM(trenchM*1000)))
	} else {
		add("bedding", w.Say("Bedding sand"), math.Ceil(sand*10)/10, "m³", w.Say("%s in a trench %s wide", l.MM(beddingM*1000), l.MM(trenchM*1000)))
	}
}

// electrodeBill is the bill of the rods: one unbroken conductor from rod to rod, with a
// length for the rise that is still to be measured.
func electrodeBill(e *install.Electrodes, rules *rulebook.OutdoorRules) []Part {
	w := rules.Words
	out := []Part{}
	if len(e.Rods) == 0 {
		return out
	}
	l := unit.Lengths{Inches: rules.Inches}
	metres := riseM
	for _, rod := range e.Rods {
		metres += rod.SpacingM + rod.TopMM/1000
	}
	v, u := l.Large(metres)
	for i := range e.Rods {
		rod := &e.Rods[i]
		same := func(o install.PlacedRod) bool { return o.LengthM == rod.LengthM && o.DiameterMM == rod.DiameterMM }
		if slices.IndexFunc(e.Rods, same) < i {
			continue
		}
		n := 0.0
		for _, o := range e.Rods {
			if same(o) {
				n++
			}
		}
		out = append(out, Part{key("electrode:rod", rod.LengthM, rod.DiameterMM), w.Say("Rods of %s and %s", l.M(rod.LengthM),
			l.Trade(rod.DiameterMM)), n, "pcs",
			w.Say("as placed below"), RodStep},
			Part{key("electrode:clamp", rod.DiameterMM), w.Say("Clamps listed for burial, rods of %s", l.Trade(rod.DiameterMM)), n, "pcs",
				w.Say("one for each rod, the wire bent back so that no boot pulls it out"), RodStep})
	}
	return append(out, Part{"electrode:conductor", w.Say("Conductor, unbroken from rod to rod to the disconnect"), math.Ceil(v), u,
		w.Say("distances and depths of the rods, and %s for the rise: measure it", l.M(riseM)), RodStep})
}

// RodStep is the step of the plan in which the electrodes outdoors are driven, by its id.
const RodStep = "rods"

// risers counts where a run leaves the ground or enters it again: each stretch above ground
// beside one below.
func risers(run *install.Run) int {
	n := 0
	for i := 1; i < len(run.Stretches); i++ {
		if (run.Stretches[i].Surface == rulebook.AboveGround) != (run.Stretches[i-1].Surface == rulebook.AboveGround) {
			n++
		}
	}
	return n
}

// belowMM is what is left free under an obstruction that is undermined, in millimetres.
const belowMM = 300.0

// Figures of the bill, in metres: practice of the trade, to be settings of a
// company when one asks.
const (
	strapM      = 0.9
	stringTailM = 3.0 // about 10 ft
	trenchM     = 0.4
	beddingM    = 0.1
	riseM       = 3.0
)

// The steps of the table that others ask for.
const (
	digStep    = "dig"
	stringStep = "string"
)

// photoStep is the step of the table in which the open trench is photographed.
const photoStep = "photo"

// Steps are the steps of a run in their order, each waiting for the one before.
func Steps(w *words.Catalogue, run *install.Run, done map[string]bool) []Step {
	out := []Step{}
	waits := ""
	for r := range stepTable.Text {
		if stepTable.Row(r).Kind != run.Kind {
			continue
		}
		name := stepTable.Row(r).Step
		if run.DuctMM == 0 && (name == "string" || name == "ballast") {
			continue
		}
		s := Step{ID: "run-" + run.ID + "-" + name, Title: w.Say(stepTable.Row(r).Title), Who: w.Say(stepTable.Row(r).Who),
			Finds: w.Say(stepTable.Row(r).Finds),
			Hours: math.Round((stepTable.Row(r).Hours+stepTable.Row(r).PerM*run.LengthM())*4) / 4, Waits: waits,
			Stage: install.Stage(stepTable.Row(r).Stage), Act: working.Act(stepTable.Row(r).Act), Photo: name == photoStep,
			Service: stepTable.Row(r).Service, Ours: stepTable.Row(r).Ours, High: stepTable.Row(r).High, Weather: Weathered(stepTable.Row(r).Weather),
			Meter: working.Act(stepTable.Row(r).Act) == working.ToService}
		if yes := func(b *bool) bool { return b != nil && *b }; name == stringStep && !(yes(run.String) && yes(run.Capped)) {
			s.Lacks = w.Say("The works outdoors do not say that the draw string is tied at both ends and the ends are capped: note it there.")
		}
		s.Done = done[s.ID]
		if waits = ""; !s.Done {
			waits = s.Title + " (" + s.Who + ")"
		}
		out = append(out, s)
	}
	return out
}

// past works out the ways past an obstruction.
func (r *Run) past(run *install.Run, rules *rulebook.OutdoorRules, o install.Obstruction, bends float64) Passing {
	w := rules.Words
	p := Passing{What: o.What, Ways: []Way{}}
	needMM, coverMM := 0.0, 0.0
	for _, s := range r.Sections {
		if o.AtM >= s.FromM && o.AtM <= s.ToM {
			needMM, coverMM = s.NeedMM, s.CoverMM
		}
	}
	unknown := ""
	if o.LengthM == 0 {
		unknown = w.Say("how long it is along the run is not measured")
	}
	dig := 0.12 // hours a metre, as in the table of steps
	if row := stepTable.Find(func(row *stepRow) bool { return row.Step == digStep }); row >= 0 {
		dig = stepTable.Row(row).PerM
	}
	duct := run.DuctMM
	l := unit.Lengths{Inches: rules.Inches}
	around := Way{Option: "around", ExtraM: 2 * o.WidthM, Bends: 4 * 45, Hours: (2*o.WidthM + o.LengthM) * dig * 1.5,
		CoverMM: coverMM, OK: true}
	around.Summary = w.Say("%s more trench and duct, four bends of 45°", l.M(around.ExtraM))
	if needMM > 0 && coverMM < needMM {
		around.OK, around.Why = false, w.Say("%s of cover, %s are asked for", l.MM(coverMM), l.MM(needMM))
	}
	if sum := bends + around.Bends; duct > 0 && sum > rules.BendSumDeg {
		around.OK, around.Why = false, w.Say("the bends come to %s°, %s° are allowed: only "+
			"with a draw pit", unit.Format(sum), unit.Format(rules.BendSumDeg))
	}
	under := Way{Option: "under", Bends: 4 * 30, Hours: o.LengthM*dig*3 + 0.5, CoverMM: math.Max(coverMM, o.BottomMM+belowMM), OK: true}
	under.ExtraM = round(math.Max(0, under.CoverMM-coverMM) / 1000 * 2)
	if o.BottomMM <= o.TopMM {
		under.OK, under.Why = false, w.Say("how deep it reaches is not known: dig down beside it first")
	}
	under.Summary = w.Say("undermine it; cover grows to %s, %s more duct", l.MM(under.CoverMM), l.M(under.ExtraM))
	if sum := bends + under.Bends; duct > 0 && sum > rules.BendSumDeg {
		under.OK, under.Why = false, w.Say("the bends come to %s°, %s° are allowed", unit.Format(sum), unit.Format(rules.BendSumDeg))
	}
	over := Way{Option: "over", Hours: 0.5, CoverMM: math.Max(0, o.TopMM-duct-50), OK: true}
	over.Summary = w.Say("over it with %s of cover left", l.MM(over.CoverMM))
	if o.TopMM == 0 {
		over.OK, over.Why = false, w.Say("how deep its top lies is not known: lay it bare first")
	} else if over.CoverMM < needMM {
		over.OK, over.Why = false, w.Say("%s are asked for: only with a protection that the inspector agrees to", l.MM(needMM))
	}
	out := Way{Option: install.ObstructionOptions[3], Hours: o.LengthM*1.5 + 0.5, CoverMM: coverMM, OK: true,
		Summary: w.Say("break out only as much as the depth needs; ask its owner first")}
	for _, w := range []Way{around, under, over, out} {
		w.Hours = round(w.Hours)
		if unknown != "" && w.OK {
			w.OK, w.Why = false, unknown
		}
		p.Ways = append(p.Ways, w)
	}
	return p
}

// Checks are those of every run and of the electrodes.
func (r *Report) Checks() []working.Check {
	if r == nil {
		return nil
	}
	out := slices.Concat(r.Electrodes.Checks, r.Ground)
	for i := range r.Runs {
		out = append(out, r.Runs[i].Checks...)
	}
	return out
}

// CircuitChecks are those of the marks for circuits.
func (r *Report) CircuitChecks() []working.Check {
	if r == nil {
		return nil
	}
	return r.Ground
}

// ChecksOf are those of a run, or of the electrodes under [ElectrodesObject].
func (r *Report) ChecksOf(of string) []working.Check {
	if r == nil {
		return nil
	}
	if of == ElectrodesObject {
		mine := func(c working.Check) bool { return c.Object != of }
		return slices.Concat(slices.DeleteFunc(slices.Clone(r.Ground), mine), r.Electrodes.Checks)
	}
	for i := range r.Runs {
		if r.Runs[i].ID == of {
			return r.Runs[i].Checks
		}
	}
	return nil
}

func round(v float64) float64 { return math.Round(v*100) / 100 }
