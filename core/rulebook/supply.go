package rulebook

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/table"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Opening is how a job starts under a practice.
type Opening struct {
	Edition   string
	DeclaredV float64
	Earthing  string // where the practice knows only one
	Why       string // what tells that this practice is the one
	Notice    string // stands under everything computed
}

// The joints of neutral and earth that an enclosure may have.
const (
	JointMust     = "must"     // made in this enclosure
	JointNever    = "never"    // must not be made in it
	JointOperator = "operator" // the operator's business
	JointMay      = "may"      // allowed under a condition that is said
)

// ChainReport is the supply chain as the practice judges it.
type ChainReport struct {
	Nodes   []ChainNode     `json:"nodes"` // in order from the operator's end
	Jumpers []Jumper        `json:"jumpers"`
	Checks  []working.Check `json:"checks"`
	Kinds   []EnclosureKind `json:"kinds"`
	Verdict working.Verdict `json:"verdict"`
	Rule    string          `json:"rule"`  // the rule of the joint in one sentence
	Earth   string          `json:"earth"` // what the practice calls it: earth, ground
	Unit    string          `json:"unit"`  // of conductor sizes
	// Words say what is composed of the report, in the words of the practice.
	Words *words.Catalogue `json:"-"`
}

// EnclosureKind is a kind of enclosure and its usual owner.
type EnclosureKind struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Owner string `json:"owner" of:"owners?"`
}

// ChainNode is one enclosure as it should be.
type ChainNode struct {
	ID        string          `json:"id"`
	Joint     string          `json:"joint"`
	JointName string          `json:"jointName"` // what the joint is called
	JointSays string          `json:"jointSays"`
	MayOpen   string          `json:"mayOpen"`
	OpenSays  string          `json:"openSays"`
	Wires     int             `json:"wires"` // conductors of the feed, the earthing conductor counted; 0 when not judged
	ZOhm      *float64        `json:"zOhm"`  // loop impedance line to earth, 20 °C
	FaultKA   *float64        `json:"faultKA"`
	Summary   string          `json:"summary"` // why the impedance or fault level is not known
	Assumed   bool            `json:"assumed"`
	Verdict   working.Verdict `json:"verdict"`
	Steps     []working.Step  `json:"steps"`
}

// What is done to a jumper.
const (
	PutIn   = "put in"
	TakeOut = "take out"
)

// Jumper is a joint that goes in or comes out.
type Jumper struct {
	At      string `json:"at"`
	Name    string `json:"name"`
	Action  string `json:"action"` // PutIn or TakeOut
	Summary string `json:"summary"`
}

// IsolationRoute is one way to make the work dead.
type IsolationRoute struct {
	ID       string   `json:"id"`
	Title    string   `json:"title"`
	Offered  bool     `json:"offered"`
	Why      string   `json:"why"` // it is lawful, or is not offered
	Asks     []string `json:"asks"`
	Visits   int      `json:"visits"`
	OnDay    bool     `json:"onDay"` // the visit is of the day on which the supply goes off
	LeadDays int      `json:"leadDays"`
	LeadSays string   `json:"leadSays"`
	Charge   *float64 `json:"charge"`
	Earliest string   `json:"earliest"` // 2006-01-02
	Chosen   bool     `json:"chosen"`
	Source   string   `json:"source"`
}

// Number is a supply number as it was read.
type Number struct {
	Number  string          `json:"number"` // the core that was found, empty when none
	Verdict working.Verdict `json:"verdict"`
	Summary string          `json:"summary"`
	Steps   []working.Step  `json:"steps"`
	Source  string          `json:"source"`
}

// Lawful reports whether a way to make the work dead may ever be chosen: a row of the
// table of ways whose condition is not "never".
func Lawful(t *table.Table, row int) bool { return t.Str(row, "condition") != "never" }

// WayOf is what a row of the table of ways asks of an isolation by it.
func WayOf(t *table.Table, row int) install.WayTrait {
	condition := t.Str(row, "condition")
	onDay := t.Num(row, "on_day") > 0
	return install.WayTrait{Visit: onDay, Personal: condition == "authorised", Isolator: condition == "isolator" || condition == "operator" && !onDay}
}

// DeadV and ServesMin hold in both practices. No rule names the voltage up to which two conductors count as dead: 5 V lies below what any
// extra-low-voltage source shows and above what a two-pole tester shows of nothing. A closing proof serves half an hour: trade practice,
// as long as the tester does not leave the person's hand.
const (
	DeadV     = 5.0
	ServesMin = 30.0
)

// PartA and PartV hold in both practices. Parting a conductor of earth, bonding or neutral that carries current puts the voltage that drives it
// across the break. No rule names a current: 0.1 A is the least that a common clamp shows, above what the filters of a dwelling leak. 50 V is the
// conventional limit of touch voltage (IEC 60364-4-41 411.3.2.5; NEC 110.27).
const (
	PartA = 0.1
	PartV = 50.0
)

// Routes reads a practice's table of isolation routes for a job. Which are
// lawful follows from the table's condition: the operator (always), an isolator
// of the customer's ahead of the board, a person authorised by name, or never.
// charge gives the company's price of a route.
func Routes(t *table.Table, job *install.Job, charge func(route string) (float64, bool),
	today time.Time) []IsolationRoute {
	w := job.Words
	operator := w.Say("the operator")
	out := make([]IsolationRoute, 0, len(t.Text))
	for r := range t.Text {
		x := IsolationRoute{ID: t.Str(r, "route"), Title: t.Str(r, "title"), Why: t.Str(r, "why"),
			Asks: strings.Split(t.Str(r, "asks"), "|"), Visits: int(t.Num(r, "visits")),
			LeadDays: int(t.Num(r, "lead_days")), OnDay: t.Num(r, "on_day") > 0, Source: t.Source.Ref}
		x.LeadSays = w.Say("usually %d days: a setting of %s confidence until %s has said it", x.LeadDays, t.Source.Confidence, operator)
		x.Chosen = job.Outage.Route == x.ID
		switch t.Str(r, "condition") {
		case "operator":
			x.Offered = true
		case "isolator":
			if e := isolatorAhead(&job.Chain); e != nil {
				x.Offered, x.Why = true, w.Say("%s Here: %s.", x.Why, e.Name)
			} else {
				x.Why = w.Say("Not offered: no isolator of the customer's stands ahead of %s.", w.Say("the board"))
			}
		case "authorised":
			a := job.Outage.Authorised
			day := today.Format(time.DateOnly)
			if job.Outage.Day != "" {
				day = job.Outage.Day
			}
			switch {
			case strings.TrimSpace(a.Name) == "" || strings.TrimSpace(a.Number) == "" || a.Until == "":
				x.Why = w.Say("Not offered: no person authorised by name is recorded (name, number and until when).")
			case a.Until < day:
				x.Why = w.Say("Not offered: the authorisation of %s ended on %s.", a.Name, a.Until)
			default:
				x.Offered, x.Why = true, w.Say("%s %s, number %s, until %s.", x.Why, a.Name, a.Number, a.Until)
			}
		}
		if x.Chosen && job.Outage.LeadDays != nil {
			x.LeadDays, x.LeadSays = *job.Outage.LeadDays, w.Say("as %s said", operator)
		}
		if c, ok := charge(x.ID); ok {
			x.Charge = &c
		}
		if x.Chosen && job.Outage.Charge != nil {
			x.Charge = job.Outage.Charge
		}
		if x.Offered {
			from := today
			if d, err := time.Parse(time.DateOnly, job.Outage.AskedOn); err == nil && x.Chosen {
				from = d
			}
			x.Earliest = from.AddDate(0, 0, x.LeadDays).Format(time.DateOnly)
			if x.Chosen && job.Outage.BookedOn != "" {
				x.Earliest, x.LeadSays = job.Outage.BookedOn, "booked"
			}
		}
		out = append(out, x)
	}
	return out
}

// isolatorAhead is an enclosure of the customer's with a means of disconnection
// that another enclosure hangs on.
func isolatorAhead(c *install.Chain) *install.Enclosure {
	for _, e := range c.Order() {
		if e.Disconnect != nil && *e.Disconnect && e.Owner == install.OwnerCustomer && !e.New &&
			slices.ContainsFunc(c.Enclosures, func(o install.Enclosure) bool { return o.From == e.ID }) {
			return e
		}
	}
	return nil
}

// Impedances fills the loop impedance and fault level of every node from the
// origin on: perM gives the resistance in Ω/m at 20 °C of a conductor, ok false
// when its size is not in the table. The line and earth conductors add up; a
// node behind a feed that is not known is not known either. loop says whether the
// practice asks for the loop impedance.
func (r *ChainReport) Impedances(job *install.Job, loop bool, originOhm, faultKA install.Fact, volts float64,
	perM func(material, size string) (ohm float64, ok bool)) {
	w := job.Words
	type state struct {
		z, fault *float64
		says     string
		assumed  bool
	}
	at := map[string]state{}
	for i := range r.Nodes {
		n := &r.Nodes[i]
		e := job.Chain.Enclosure(n.ID)
		var s state
		if e.From == "" {
			s = state{originOhm.Value, faultKA.Value, "", originOhm.Known() && !originOhm.Confirmed()}
			switch {
			case s.z == nil && loop:
				s.says = w.Say("not recorded: the external loop impedance (Supply sheet)")
			case s.fault == nil:
				s.says = w.Say("not recorded: the prospective fault current at the origin")
			}
		} else {
			s = at[e.From]
			feed := e.Feed
			line, ok := perM(string(feed.Material), feed.Size)
			earth, okEarth := perM(string(feed.Material), feed.EarthMM2)
			if feed.EarthMM2 == "" { // the neutral or the casing carries the fault: as the line
				earth, okEarth = line, ok
			}
			switch {
			case s.z == nil && s.fault == nil:
			case e.Owner == install.OwnerOperator || e.Owner == install.OwnerMeter:
				// The origin's figures hold for all that is not the customer's.
			case feed.Size == "" || feed.Material == "":
				s = state{says: w.Say("not recorded: material and size of the conductor that feeds it")}
			case !feed.LengthM.Known():
				s = state{says: w.Say("not recorded: the length of the conductor that feeds it")}
			case !ok || !okEarth:
				s = state{says: w.Say("not computed: no resistance in the table for %s %s / %s", string(feed.Material), feed.Size,
					feed.EarthMM2)}
			default:
				l := feed.LengthM.V()
				s.assumed = s.assumed || !feed.LengthM.Confirmed()
				if s.z != nil {
					z := *s.z + (line+earth)*l
					n.Steps = append(n.Steps, working.Step{Symbol: "Z", Formula: w.Say("Z before + (line + earth) × L"),
						With: fmt.Sprintf("%s + (%s + %s) × %s", unit.Format(*s.z), unit.Format(line), unit.Format(earth),
							unit.Format(l)), Value: z, Unit: "Ω"})
					s.z = &z
				}
				if s.fault != nil {
					before := volts / (*s.fault * 1000)
					k := volts / (before + 2*line*l) / 1000
					n.Steps = append(n.Steps, working.Step{Symbol: "Ipf", Formula: w.Say("U / (U / Ipf before + 2 × line × L)"),
						With: fmt.Sprintf("%s / (%s + 2 × %s × %s)", unit.Format(volts), unit.Format(before),
							unit.Format(line), unit.Format(l)), Value: k, Unit: "kA"})
					s.fault = &k
				}
			}
		}
		n.ZOhm, n.FaultKA, n.Summary, n.Assumed = s.z, s.fault, s.says, s.assumed
		if n.Steps == nil {
			n.Steps = []working.Step{}
		}
		at[n.ID] = s
	}
}

// Judge makes a check of one enclosure's joint as found against what it must be. read is
// whether neutral and earth were read joined in it since, nil where that was not read: for
// what the job puts in, a reading that agrees settles it. One that does not fails as a test.
func (r *ChainReport) Judge(e *install.Enclosure, n *ChainNode, read *bool, source working.Source) {
	w := r.Words
	c := JointRule.Check("", e.ID)
	c.Title = w.Say("Neutral and %s in %s", r.Earth, e.Name)
	c.From(source)
	found := e.Joined
	switch {
	case n.Joint == JointOperator:
		return
	case found == nil && e.New && read != nil && *read == (n.Joint == JointMust) && n.Joint != JointMay:
		c.Decide(true)
		c.Summary = w.Say("Read apart: %s", n.JointSays)
		if *read {
			c.Summary = w.Say("Read joined: %s", n.JointSays)
		}
	case found == nil && n.Joint == JointMust:
		c.AddMissing(w.Say("whether neutral and %s are joined in %s", r.Earth, e.Name))
		c.Summary = n.JointSays
		if e.New {
			r.Jumpers = append(r.Jumpers, Jumper{e.ID, n.JointName, PutIn, n.JointSays})
			c.Missing = []string{}
			c.Warn()
			c.Summary = w.Say("To be made when it is fitted: %s", n.JointSays)
		}
	case found == nil:
		c.AddMissing(w.Say("whether neutral and %s are kept apart in %s", r.Earth, e.Name))
		c.Summary = n.JointSays
		if e.New {
			c.Missing = []string{}
			c.Warn()
			c.Summary = w.Say("To be fitted without a joint: %s", n.JointSays)
		}
	case *found == (n.Joint == JointMust) || n.Joint == JointMay:
		c.Decide(true)
		c.Summary = n.JointSays
	case *found:
		c.Decide(false)
		c.Summary = w.Say("Joined, and must not be: %s", n.JointSays)
		r.Jumpers = append(r.Jumpers, Jumper{e.ID, n.JointName, TakeOut, n.JointSays})
	default:
		c.Decide(false)
		c.Summary = w.Say("Not joined, and must be: %s", n.JointSays)
		r.Jumpers = append(r.Jumpers, Jumper{e.ID, n.JointName, PutIn, n.JointSays})
	}
	n.Verdict = working.Worst(n.Verdict, c.Verdict)
	r.Checks = append(r.Checks, *c)
}

// opposite are the sides across from each other.
var opposite = map[string]string{"top": "bottom", "bottom": "top", "left": "right", "right": "left"}

// LineSide judges on which side an enclosure takes its line, by its marking, against where the conductors from the operator enter it.
// usual is the side of its kind, empty where it has none: another one is marked so rarely that the marking is looked at twice.
func (r *ChainReport) LineSide(e *install.Enclosure, n *ChainNode, usual string) {
	w := r.Words
	if e.LineAt == "" && e.Enters == "" {
		return
	}
	c := LineSideRule.Check("", e.ID)
	c.Title = w.Say("Line side of %s", e.Name)
	switch {
	case e.LineAt == "":
		c.AddMissing(w.Say("on which side its marking says that the line is"))
		c.Summary = w.Say("Read LINE and LOAD off %s before a conductor is cut to length.", e.Name)
	case e.Enters == opposite[e.LineAt]:
		c.Decide(false)
		c.Summary = w.Say("The conductors enter at the %s and its line is at the %s: they would land on the load side, or have to pass it. Turn the entry, or take "+
			"another enclosure.", w.Say(e.Enters), w.Say(e.LineAt))
	case usual != "" && e.LineAt != usual:
		c.Warn()
		c.Summary = w.Say("Its line is noted at the %s; such an enclosure has it at the %s as a rule. Read the marking again and photograph it.", w.Say(e.LineAt),
			w.Say(usual))
	default:
		c.Decide(true)
		c.Summary = w.Say("Line at the %s by its marking.", w.Say(e.LineAt))
	}
	n.Verdict = working.Worst(n.Verdict, c.Verdict)
	r.Checks = append(r.Checks, *c)
}

// Condition remarks on seals and owners.
func (r *ChainReport) Condition(e *install.Enclosure, n *ChainNode) {
	w := r.Words
	if e.Sealed != install.SealMissing && e.Sealed != install.SealBroken {
		return
	}
	c := SealRule.Check("", e.ID)
	c.Title = w.Say("Seal of %s", e.Name)
	c.Warn()
	c.Summary = w.Say("Seal %s: photograph it on arrival and report it to its owner, or it is laid to you.", e.Sealed)
	n.Verdict = working.Worst(n.Verdict, c.Verdict)
	r.Checks = append(r.Checks, *c)
}
