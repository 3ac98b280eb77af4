package install

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"arvelt/core/goods"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// FieldError names a field, the value it holds and what would be accepted.
type FieldError struct {
	Field  string `json:"field"`
	Value  string `json:"value"`
	Accept string `json:"accept"`
}

func (e FieldError) Error() string {
	return fmt.Sprintf("%s: %q is not accepted; give %s", e.Field, e.Value, e.Accept)
}

// Errors is every field that is wrong, not only the first.
type Errors []FieldError

func (es Errors) Error() string {
	said := make([]string, len(es))
	for i, e := range es {
		said[i] = e.Error()
	}
	return strings.Join(said, "; ")
}

// Terms are the words that a practice accepts where the model holds a name:
// cable types, methods, devices. The model itself knows none.
type Terms struct {
	Fahrenheit bool         // the weather is spoken of in °F, inches and miles per hour
	Apprentice []StepKind   // steps that an apprentice says are done; all others are for the qualified
	Locale     words.Locale // whose messages the practice speaks with
	Earthing   []string
	CableTypes []string
	Sizes      map[string][]float64 // by cable type, mm²
	Methods    map[string][]string  // by cable type
	Laid       map[Method]MethodTrait
	Charging   Use // the use of circuits that charge a vehicle; empty where there is none
	Feeder     Use // the use of circuits that feed a board
	Branch     Use // the use of circuits that are the branch of a surge device
	Ring       Use // the use of circuits whose run returns to the board; empty where there is none
	Unring     Use // of those that such a one becomes when it is broken
	// SharesNeutral: two lines of a circuit may share one neutral.
	SharesNeutral bool
	PlatesApart   bool                   // wall plates are bought beside the accessories that they cover
	EarthTails    bool                   // a plate of metal is joined to its box by a tail of its own
	Ferrules      bool                   // ends of fine-stranded conductors are put into ferrules
	ListsBoxes    bool                   // what a circuit takes counts the outlets of its run, so that the walk does not
	LampCaps      []string               // caps of lamps, and that of luminaires whose lamps are built in
	BoxDevices    []string               // what may stand on a run, of [BoxDevices]; nil for all of them
	PEN           map[BrokenPEN]PENTrait // of PENOptions
	Categories    []string               // of load
	Families      []string
	Curves        []string
	Curved        string               // the family whose devices have a curve; empty for all
	Ratings       map[string][]float64 // by device family, A
	RCDTypes      []string
	Options       []Option               // choices between schools of practice, in the order in which they are asked
	ButtonMonths  func(*Schools) float64 // months between presses of a test button
	ResidualMA    float64                // usual rating of a residual-current device that is added, mA
	PENOptions    []string
	Uses          []string          // of a circuit
	Serves        map[string]string // by use what stands at the end of the circuit
	// Asks names by use the fields of a circuit that it asks for beside those of every
	// circuit, and under "sheet:" by sheet (supply, board, loads, …) the fields of that.
	Asks        map[string][]string
	SizeNames   map[float64]string // trade names of conductor sizes by mm²; nil where the size is its name
	Places      []string           // kinds of place that decide the protection of an outlet
	Editions    []string           // of the rules, the usual one first
	OldEditions bool               // a job file may name another, of before there was a list: the stricter reading is taken
	Pairs       []string           // of conductors that are proved dead
	PairsOneHot []string           // those of a circuit with one hot conductor, isolated by its own breaker; nil where that is not done
	// DeadV is the highest voltage, V, that a reading between two conductors may show and count as dead. ServesMin is how long a closing
	// proof of the tester serves as the one before the next isolation, minutes. Ways are the lawful ways to isolate the intake.
	DeadV, ServesMin float64
	// PartA is the highest current, A, with which a conductor of earth, bonding or neutral is parted unbridged, PartV the highest voltage, V,
	// across the break.
	PartA, PartV float64
	Ways         map[string]WayTrait
	// BoardKinds are the kinds of enclosure that are boards.
	BoardKinds []string
	// FeedWays are in or as what the conductors that feed an enclosure run.
	FeedWays []string
	// PairsOf are the pairs of a circuit\'s conductors; nil where every circuit has those of the installation.
	PairsOf     func(*Circuit) []string
	Bars        []string   // checks that the table of circuits shows as headroom
	Patterns    []string   // that a tester at an outlet may show
	Length      Length     // unit in which lengths are counted and spoken of
	Columns     int        // of ways on a board: 1 in a row, 2 with odd numbers left and even right
	LoadKinds   []string   // that decide the type of a residual-current device
	Rules       []RuleTerm // figures over which a local rule may be laid
	BondKinds   []string   // what a bond goes to, where that decides its rule; nil where it does not
	EarthTo     []string   // electrodes that the earthing conductor may run to; nil where that is not asked
	EarthLaid   []string   // how the earthing conductor may lie; nil where that is not asked
	BoardPlaces []string   // kinds of place in which a board hangs; nil where that is not asked
	CoverPlaces []string   // places by which a buried run is asked for its cover; nil where that is not asked of a circuit
	Risers      []string   // grades of what a buried run leaves the ground in; nil where that is not asked
	Tests       []string

	Points          []string // kinds of point
	Switching       []string
	Classes         []string // severity classes of findings
	Findings        []string // kinds of finding
	SurveyReadings  []string
	Enclosures      []string // kinds of enclosure
	ConductorSizes  []string // of the supply chain; nil when any is accepted
	IsolationRoutes []string // the lawful ones: no other may be chosen
	Surfaces        []string // places outdoors that have a cover of their own
	Soils           []string
}

// WayTrait is what a lawful way to isolate the intake asks of an isolation by it.
type WayTrait struct {
	Visit    bool // somebody comes for it: it is of the day that was booked
	Personal bool // it is of the person who was authorised by name
	Isolator bool // it opens an isolator of the customer's and not the intake
}

// IsBranch reports whether a circuit is the branch of a surge device, which has leads and neither a load nor a route.
func (t *Terms) IsBranch(k *Circuit) bool { return t.Branch != "" && k.Use == t.Branch }

// IsRing reports whether the run of a circuit returns to the board.
func (t *Terms) IsRing(k *Circuit) bool { return t.Ring != "" && k.Use == t.Ring }

// Length is a unit of length: one of it is M metres. The zero Length is the metre.
type Length struct {
	Name string
	M    float64
}

// Of gives metres in the unit.
func (l Length) Of(metres float64) float64 {
	if l.M == 0 {
		return metres
	}
	return metres / l.M
}

// Unit is the name of the unit.
func (l Length) Unit() string {
	if l.Name == "" {
		return "m"
	}
	return l.Name
}

// WaysOf lists the ways that a device of so many poles takes: on a board of two
// columns the poles lie below each other, so that each is on another leg.
func (t *Terms) WaysOf(way, poles int) []int {
	out := []int{way}
	for i := 1; i < poles && t.Columns == 2; i++ {
		out = append(out, way+2*i)
	}
	return out
}

// Size is the trade name of a conductor size with its unit.
func (t *Terms) Size(mm2 float64) string {
	if name, ok := t.SizeNames[mm2]; ok {
		return name
	}
	return unit.Format(mm2) + " mm²"
}

type checker struct {
	errs Errors
	in   string
	w    *words.Catalogue
}

func (c *checker) say(field string, value any, accept string) {
	v := fmt.Sprint(value)
	if utf8.RuneCountInString(v) > 60 {
		v = string([]rune(v)[:60]) + "…"
	}
	c.errs = append(c.errs, FieldError{c.in + field, v, accept})
}

// item names one entry of a list, for the fields in it.
func (c *checker) item(list string, i int) string { return fmt.Sprintf("%s[%d].", list, i) }

// smallest is the least size of any figure of a job beside 0: nothing that is measured or
// entered is smaller, and a quotient by less runs over.
const smallest = 1e-9

func (c *checker) between(field string, v, low, high float64, unit string) {
	if math.IsNaN(v) || v < low || v > high || v != 0 && math.Abs(v) < smallest {
		accept := c.w.Say("a number from %g to %g", low, high)
		if unit != "" && !strings.HasPrefix(unit, ",") { // a figure without a unit has only what may stand instead
			accept += " "
		}
		c.say(field, v, accept+unit)
	}
}

func (c *checker) text(field, v string, most int) {
	if !utf8.ValidString(v) || strings.ContainsRune(v, 0) {
		c.say(field, strings.ToValidUTF8(v, "?"), c.w.Say("readable text"))
	}
	if n := utf8.RuneCountInString(v); n > most {
		c.say(field, v, c.w.Say("at most %d characters (it has %d)", most, n))
	}
}

func (c *checker) needed(field, v string, most int) {
	if strings.TrimSpace(v) == "" {
		c.say(field, v, c.w.Say("some text"))
	}
	c.text(field, v, most)
}

func (c *checker) oneOf(field, v string, allowed []string) {
	if !slices.Contains(allowed, v) {
		shown := []string{}
		for _, a := range allowed {
			if a == "" {
				a = "nothing"
			}
			shown = append(shown, a)
		}
		c.say(field, v, c.w.Say("one of %s", strings.Join(shown, ", ")))
	}
}

func (c *checker) basis(field string, b Basis) {
	c.oneOf(field, string(b), []string{"", string(Measured), string(Enquiry), string(Assumed)})
}

// size refuses a conductor size that the practice has no name for.
func (c *checker) size(field string, mm2 *float64, t Terms) {
	if mm2 == nil {
		return
	}
	if _, ok := t.SizeNames[*mm2]; !ok {
		c.say(field, *mm2, c.w.Say("the area of a trade size, such as 3.31 for 12 AWG"))
	}
}

// IsDate reports whether v is a date as 2006-01-02, or nothing.
func IsDate(v string) bool {
	_, err := time.Parse(time.DateOnly, v)
	return v == "" || err == nil
}

func (c *checker) date(field, v string) {
	if !IsDate(v) {
		c.say(field, v, c.w.Say("a date as 2026-11-24, or nothing"))
	}
}

func (c *checker) result() error {
	if len(c.errs) == 0 {
		return nil
	}
	return c.errs
}

// Validate checks the bounds of the site's fields. The error is [Errors].
func (s Site) Validate() error {
	c := &checker{in: "site."}
	c.bounds(s, &Terms{})
	return c.result()
}

// Validate checks the supply's bounds and terms. The error is [Errors].
func (s Supply) Validate(t Terms) error {
	c := &checker{in: "supply.", w: words.In(t.Locale)}
	c.bounds(s, &t)
	if t.SizeNames != nil {
		c.size("earthMM2.value", s.EarthMM2.Value, t)
		c.size("tailsMM2.value", s.TailsMM2.Value, t)
		for i, b := range s.Bonds {
			c.size(fmt.Sprintf("bonds[%d].mm2.value", i), b.MM2.Value, t)
		}
	}
	return c.result()
}

// Validate checks each load. The error is [Errors].
func (l Loads) Validate(t Terms) error {
	c := &checker{in: "loads.", w: words.In(t.Locale)}
	c.bounds(l, &t)
	for i, x := range l.Items {
		if (x.Watts == nil) == (x.Amps == nil) {
			c.say(c.item("items", i)+"watts", c.w.Say("both or neither of watts and amps"), c.w.Say("either watts or amps"))
		}
	}
	return c.result()
}

// Validate checks materials. The error is [Errors].
func (m Materials) Validate(t Terms) error {
	c := &checker{in: "materials.", w: words.In(t.Locale)}
	c.bounds(m, &t)
	for key, s := range m.Lines {
		if s.Returned > s.Delivered {
			c.say("lines["+key+"].returned", s.Returned, c.w.Say("no more than came: %v", s.Delivered))
		}
		if _, err := Pieces(s.Lengths, t.Length.Unit()); err != nil {
			c.say("lines["+key+"].lengths", s.Lengths, c.w.Say("piece lengths in %s joined by +, as 30 + 12 or 2x25", t.Length.Unit()))
		}
	}
	ids := map[string]bool{}
	for i := range m.Deliveries {
		d := &m.Deliveries[i]
		if ids[d.ID] {
			c.say(c.item("deliveries", i)+"id", d.ID, c.w.Say("each delivery's id once"))
		}
		ids[d.ID] = true
		for n := range d.Lines {
			if _, err := Pieces(d.Lines[n].Lengths, t.Length.Unit()); err != nil {
				c.say(c.item("deliveries", i)+c.item("lines", n)+"lengths", d.Lines[n].Lengths,
					c.w.Say("piece lengths in %s joined by +, as 30 + 12 or 2x25", t.Length.Unit()))
			}
		}
	}
	return c.result()
}

// Pieces reads "30 + 12", "2x25" or "100 ft" as pieces in a unit of length; the empty text is none.
func Pieces(s, of string) ([]float64, error) {
	out, ok := goods.Lengths(s, of)
	if !ok {
		return nil, fmt.Errorf("%q are no lengths in %s", s, of)
	}
	return out, nil
}

// Validate checks the plan. The error is [Errors].
func (p Plan) Validate() error {
	c := &checker{in: "plan."}
	c.bounds(p, &Terms{})
	return c.result()
}

// Complete checks what a record that is made now must say beside the bounds that every
// record keeps; files of older versions hold records without it. The error is [Errors].
func (r Record) Complete() error {
	c := &checker{in: string(r.Kind) + "."}
	switch r.Kind {
	case LooseEnd:
		if r.Left != "" && !r.Done {
			break // its kind and its place say it
		}
		c.needed("note", r.Note, 400) // what is undone, how it was put right, or why it is open again
	case Decision:
		if r.Path == Declined {
			c.needed("note", r.Note, 400) // the reason stands in the handover
			c.witnessed(r)
		}
	case FindingStep:
		if r.Path == MadeSafe {
			c.needed("person", r.Person, 400) // who agreed to it
		}
	case Operator:
		c.needed("person", r.Person, 400)
		c.called(r.Called)
	case Energise:
		c.oneOf("use", string(r.Use), typed(PermitUses).fixed) // older ones were of everything at once
	}
	return c.result()
}

func (c *checker) called(s string) {
	if _, err := time.Parse(CalledLayout, s); err != nil {
		c.say("called", s, c.w.Say("when it was said, as 2026-05-04T09:30"))
	}
}

// CalledLayout is how the time of a call is written.
const CalledLayout = "2006-01-02T15:04"

// EditionOK checks an edition that somebody chooses. The error is [Errors].
func EditionOK(edition string, t Terms) error {
	c := &checker{w: words.In(t.Locale)}
	c.oneOf("edition", edition, t.Editions)
	return c.result()
}

// Validate checks the whole job, as an import must. The error is [Errors].
func (j *Job) Validate(t Terms) error {
	c := &checker{w: words.In(t.Locale)}
	if j.Format != Format {
		c.say("format", j.Format, Format)
	}
	c.needed("ref", j.Ref, 40)
	c.needed("title", j.Title, 120)
	if t.OldEditions {
		c.text("edition", j.Edition, 40)
	} else {
		c.oneOf("edition", j.Edition, t.Editions)
	}
	c.oneOf("kind", string(j.Kind), typed(JobKinds).fixed)
	errs := c.errs
	if es, ok := j.Fits().(Errors); ok {
		return es // its parts are not looked at one by one
	}
	parts := []error{}
	seen := map[string]bool{}
	for p := range j.Parts() {
		if p.Kind.Name == rulesPart {
			continue // a job file may name an older edition, as said above
		}
		if name := p.String(); seen[name] {
			errs = append(errs, FieldError{p.Kind.Name, p.ID, c.w.Say("each id once")})
		} else {
			seen[name] = true
			parts = append(parts, p.Check(j, t))
		}
	}
	parts = append(parts, j.Agrees(t, nil))
	for _, r := range j.Records {
		parts = append(parts, r.Validate(t))
	}
	for _, err := range parts {
		if es, ok := err.(Errors); ok {
			errs = append(errs, es...)
		}
	}
	if len(errs) > 0 {
		return errs
	}
	return nil
}
