// Package rulebook is what a practice must answer.
//
// A practice is a family of wiring rules: code plus data behind one interface,
// not a pile of flags. Its package reads like its rulebook; this one holds only
// what they share: the calculations by name, which read and write plain JSON
// objects, and the report of a whole job.
package rulebook

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"arvelt/core/exact"
	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// Test is one test of the sequence. Judge gives the verdict of a reading and
// says why; Expected is what the model computes, shown only after entry.
type Test struct {
	ID       string
	Circuit  string
	Title    string
	Live     bool // after permission to energise
	YesNo    bool
	Patterns []string // what may be answered where it is neither a figure nor yes or no
	Unit     string
	Where    string
	Caution  string
	Expected *float64
	// AsksTemp: the temperature of the conductors is read with it, to correct it by.
	AsksTemp bool
	// After are the tests that must have been done before it: a reading of this one
	// that is older than any of them does not count.
	After []string
	// Origin: it is read on the incoming supply while the installation stays isolated,
	// and needs no reading before anything is energised. FromOrigin: it follows from
	// such a reading and must be answered once that was taken.
	Origin, FromOrigin bool
	// Stops: while the newest reading fails, nothing else is tested live. SinceOn: it
	// counts only since the supply was last put on.
	Stops, SinceOn bool
	// Loaded: something is switched on for it, which an open neutral would not bear.
	Loaded bool
	// Suspects reports whether a reading that fails says that the neutral or combined conductor of the supply may be open; nil where none does.
	Suspects func(install.Record) bool
	// Calculated is the figure that takes the place of a reading, and whether one does; nil where none may.
	Calculated func(install.Record) (float64, bool)
	// Parting says which conductors a reading parts until somebody connects them again: each is noted as a loose end with it; nil for none.
	Parting func(*install.Record) []Parting
	// Briefly are conductors that it parts for the reading alone: a test of its own says that they are back.
	Briefly []Parting
	// OfSource: it is of a source of the customer's own, and holds nothing else.
	OfSource bool
	// Missing says what must be known before it can be read; empty when nothing is.
	Missing string
	// Points are those of its circuit at which it is read, in their order; empty where it has none of its own. Once a reading names one of
	// them, it is read at every one.
	Points []TestPoint
	// TestV are the voltages that it may be read at, V; empty where there is no choice.
	TestV []float64
	// Pierced: a nail or a screw that was driven into the cable shows in it.
	Pierced bool
	// Possible refuses a figure that no installation can give, nil where any can.
	Possible func(install.Record) string
	// Explain reports whether a figure that passes is one that must be explained, nil
	// where none must.
	Explain func(install.Record) bool
	Judge   func(install.Record) (working.Verdict, string)
}

// Suspected reports whether a reading that fails says that the neutral may be open.
func (t *Test) Suspected(r *install.Record) bool { return t.Suspects != nil && t.Suspects(*r) }

// TestPoint is a point of a run at which something is read, by the id of its box.
type TestPoint struct{ ID, Name string }

// PointsOf are the points of a circuit's run at which something is read; none where there is one alone.
func PointsOf(k *install.Circuit) []TestPoint {
	out := []TestPoint{}
	for i := range k.Serves.Boxes {
		if b := &k.Serves.Boxes[i]; b.Device != install.NoDevice {
			out = append(out, TestPoint{b.ID, b.Called()})
		}
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

// Worse reports whether the figure of a is the worse of two: the lower insulation
// resistance, the higher of everything else.
func (t *Test) Worse(a, b *install.Record) bool {
	if a.Value == nil || b.Value == nil {
		return false
	}
	if t.Unit == "MΩ" {
		return *a.Value < *b.Value
	}
	return *a.Value > *b.Value
}

// Cable is what the take-off and the test sheet need of a cable.
type Cable struct {
	Name       string  `json:"name"`
	LineMM2    float64 `json:"lineMM2"`
	CPCMM2     float64 `json:"cpcMM2"`
	ODmm       float64 `json:"odMM"` // overall diameter, or major axis of a flat cable
	Armoured   bool    `json:"armoured"`
	Gland      string  `json:"gland"` // nominal size; empty when none is used
	R1, R2     float64 `json:"-"`     // mΩ/m at 20 °C
	Clip       string  `json:"clip"`  // what fixes it, in the plural
	ClipID     string  `json:"-"`     // by which one kind of it is told from another
	ClipHorMM  float64 `json:"clipHorMM"`
	ClipVertMM float64 `json:"clipVertMM"`
	BendMM     float64 `json:"bendMM"` // smallest inside radius
	// FixedBy are methods at which it is fixed at the spacing beside the common ones.
	FixedBy    []string `json:"-"`
	Confidence string   `json:"confidence"`
}

// Need is a figure of the supply that the survey owes.
type Need struct {
	Sheet working.Sheet
	What  string
}

// Work is a step of a job.
type Work struct {
	ID        string
	Circuit   string
	Stage     install.Stage
	Title     string
	Who       string // empty for the crew
	Caution   string
	Hours     float64
	After     []string // steps by id
	Isolation bool     // opens an enclosure
	At        string   // enclosure of the chain that it finishes, by id; empty for none
	Photo     bool     // a picture of it is what ticks it
	Meter     bool     // it sets the meter, whose figures are noted
	Closed    string   // why it cannot be ticked yet; empty when nothing of the model closes it
	Day       bool     // of others, on the day of the outage: between the dead tests and energising
}

// Part is one line of material beside the cable.
type Part struct {
	// Key is that of the product: its family, what it is, and what tells one of its ratings or sizes from another. The price list
	// keeps it whole or as far as its prices differ.
	Key   string
	Name  string
	Count float64
	Unit  string // pcs where empty
	Cut   bool   // a length cut like the cable: the job's waste is added to it
	// Pieces is in how many equal lengths it is cut, 0 where it is cut as it goes. Like is how many conductors it makes that are cut as the
	// cable of the circuit is, 0 for none.
	Pieces, Like int
	Check        string // of the circuit that must not fail for it to be bought; empty for none
	Rule         string
	// Device: it is what protects the circuit, bought for one whose cable stays too.
	Device bool
	// Replaced: it takes the place of something on a circuit that stays.
	Replaced bool
}

// Report is everything computed of a job's electrics.
type Report struct {
	Demand   Demand          `json:"demand"`
	Job      []working.Check `json:"job"` // supply and demand checks
	Circuits []CircuitReport `json:"circuits"`
	Verdict  working.Verdict `json:"verdict"`
	Notice   string          `json:"notice"`
	// Legs is how the load lies on the two legs of a split-phase supply; nil where
	// there is one phase.
	Legs []Legs `json:"legs"`
}

// Legs is the load on each leg and what would even it out.
type Legs struct {
	Board    string  `json:"board"` // by id; empty for the main one
	A        float64 `json:"a"`     // A
	B        float64 `json:"b"`
	NeutralA float64 `json:"neutralA"`
	Moves    []Move  `json:"moves"`
	AfterA   float64 `json:"afterA"` // leg A after the moves
	AfterB   float64 `json:"afterB"`
	Unknown  int     `json:"unknown"` // ways with a device whose load is not known
}

// Move is a device that changes ways.
type Move struct {
	Name    string `json:"name"`
	Circuit string `json:"circuit"` // of this job; empty for what was there
	From    int    `json:"from"`
	To      int    `json:"to"`
}

// BoxReport is one box of a string as it is wired: what it needs and what it has.
type BoxReport struct {
	ID        string          `json:"id"`
	Live      bool            `json:"live"`      // its slots have voltage
	Read      bool            `json:"read"`      // the marking of every device up to it was read
	Protected []string        `json:"protected"` // boxes by id whose device opens it, the board's as "board"
	Needs     []string        `json:"needs"`     // ground-fault, arc-fault, tamper resistant, weather resistant
	Missing   []string        `json:"missing"`   // of these, or another thing that is wrong
	Labels    []string        `json:"labels"`    // that it must wear
	FillML    float64         `json:"fillML"`    // of the box, 0 when not judged
	Darkens   []string        `json:"darkens"`   // boxes that its device takes along when it trips
	Verdict   working.Verdict `json:"verdict"`
	Summary   string          `json:"summary"`
}

// YesNo judges a test that is answered with yes or no.
func YesNo(r install.Record) (working.Verdict, string) {
	if r.Passed == nil {
		return working.Unknown, "Answered neither yes nor no."
	}
	if *r.Passed {
		return working.Pass, "Correct."
	}
	return working.Fail, "Not correct: mend it and test again."
}

// Circuit returns the report of a circuit, an empty one where there is none.
func (r *Report) Circuit(id string) CircuitReport {
	for i := range r.Circuits {
		if r.Circuits[i].ID == id {
			return r.Circuits[i]
		}
	}
	return CircuitReport{}
}

// Worst is the worst verdict of the job's checks and of its circuits.
func (r *Report) Worst() working.Verdict {
	v := working.Pass
	for i := range r.Job {
		if !r.Job[i].Outside {
			v = working.Worst(v, r.Job[i].Verdict)
		}
	}
	for i := range r.Circuits {
		v = working.Worst(v, r.Circuits[i].Verdict)
	}
	return v
}

// Checks returns every check of the report: the job's, then each circuit's.
func (r *Report) Checks() []working.Check {
	all := slices.Clone(r.Job)
	for _, c := range r.Circuits {
		all = append(all, c.Checks...)
	}
	return all
}

// Demand is the maximum demand with diversity in amperes, before and after.
type Demand struct {
	Shares  []Share `json:"shares"`
	BeforeA float64 `json:"beforeA"`
	AddedA  float64 `json:"addedA"`
	AfterA  float64 `json:"afterA"`
	FuseA   float64 `json:"fuseA"`
}

// Share is one category of the demand.
type Share struct {
	Category string  `json:"category"`
	Name     string  `json:"name"`
	Amps     float64 `json:"amps"`
	New      bool    `json:"new"`
	Full     bool    `json:"full"` // counted without diversity
}

// CircuitReport is one circuit with its checks and the figures other rooms use.
type CircuitReport struct {
	ID       string          `json:"id"`
	Name     string          `json:"name"`
	Verdict  working.Verdict `json:"verdict"`
	Summary  Summary         `json:"summary"`
	Options  []Option        `json:"options"` // ways to decide, one of which is chosen
	Decides  working.RuleID  `json:"decides"` // the rule that the options are of; empty without any
	Operator OperatorRule    `json:"operator"`
	// FeedsBack: power can flow back through its device.
	FeedsBack bool            `json:"feedsBack"`
	Boxes     []BoxReport     `json:"boxes"` // of its string
	Run       []StopReport    `json:"run"`   // what there is at each box of its run
	Checks    []working.Check `json:"checks"`
	// Drawn is what the walk says that its points draw, in place of what was entered with it; nil where it does not say it of all of them.
	Drawn *install.Drawn `json:"drawn"`
	// Leaving is how far it has left the installation; nil for one that is part of it when the work is done.
	Leaving *install.Leaving `json:"leaving"`
}

// Summary is a circuit in one row.
type Summary struct {
	Device    string  `json:"device"`
	Conductor string  `json:"conductor"`
	DesignA   float64 `json:"designA"`
	LengthM   float64 `json:"lengthM"`
	R1R2Cold  float64 `json:"r1r2Cold"` // Ω at 20 °C
	ZsCold    float64 `json:"zsCold"`
	ZsHot     float64 `json:"zsHot"`
	ZsMax     float64 `json:"zsMax"`
	RCDLimit  float64 `json:"rcdLimitMS"`
	// MaxLengthM is the length in metres at which the first of voltage drop and
	// loop impedance meets its limit, the rest as it is; Governs names it. 0 while
	// one of them is not known. In one word: drop or loop.
	MaxLengthM float64 `json:"maxLengthM"`
	Governs    string  `json:"governs"`
	MaxLoopM   float64 `json:"-"`
	// ZsResidual is the loop impedance in Ω up to which a residual-current device gives the
	// protection that the overcurrent device does not; 0 where that one does.
	ZsResidual float64 `json:"-"`
	// Text is the circuit in one line of the pack.
	Text string `json:"text"`
	// Cores says which core of its cable is what and how it is marked; empty where that
	// does not depend on the cable.
	Cores string `json:"cores"`
}

// Option is one way to decide, with its condition and reason.
type Option struct {
	ID        string          `json:"id"`
	Title     string          `json:"title"`
	Condition string          `json:"condition"`
	Reason    string          `json:"reason"`
	Verdict   working.Verdict `json:"verdict"`
	Summary   string          `json:"summary"`
	Chosen    bool            `json:"chosen"`
}

// OperatorRule says whether the network operator is told or asked first.
type OperatorRule struct {
	Rule   working.RuleID `json:"rule"` // by which it is judged; empty where nobody is told
	Needed bool           `json:"needed"`
	Path   OperatorPath   `json:"path"`
	Why    string         `json:"why"`
}

// OperatorPath is how a network operator comes into a job.
type OperatorPath string

// How it does; empty where the demand is not yet known.
const (
	Notify OperatorPath = "notify" // it is told after the work
	Apply  OperatorPath = "apply"  // it is asked before
)

// Field is one key of a calculation.
type Field struct {
	Key      string `json:"key"`
	Label    string `json:"label"`
	Type     string `json:"type"`
	Unit     string `json:"unit,omitempty"`
	Doc      string `json:"doc,omitempty"`
	Range    string `json:"range,omitempty"` // what a number may be: above 0, 0 or more, 0 to 100
	Optional bool   `json:"optional,omitempty"`
}

// Calc is one named calculation: a JSON object in, figures and working out.
type Calc struct {
	Name  string // without the practice
	Title string // the question that it answers
	About string
	In    []Field
	Out   []string
	run   func([]byte) (map[string]any, []working.Step, error)
	names *CalcNames
}

// Run reads a JSON object of inputs and returns the outputs, numbers rounded
// to four significant figures, with the working. An error names the key, its
// value and what is accepted.
func (c Calc) Run(input []byte) (map[string]any, []working.Step, error) { return c.run(input) }

// Define makes a Calc of a function between two structs. The keys of the input, whether they
// are needed and their units come from I's struct tags: json, unit, range and doc; a pointer, slice
// or omitempty field may be absent. The keys of the result and their order come from O's.
func Define[I, O any](name, about string, run func(I) (O, []working.Step, error)) Calc {
	fields := fieldsOf(reflect.TypeFor[I](), "")
	t, keys := reflect.TypeFor[O](), []string{}
	for i := range t.NumField() {
		key, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		keys = append(keys, key)
	}
	return Calc{Name: name, About: about, In: fields, Out: keys, run: func(input []byte) (map[string]any, []working.Step, error) {
		var in I
		if err := exact.Check(input, new(I)); err != nil {
			return nil, nil, err
		}
		dec := json.NewDecoder(bytes.NewReader(input))
		dec.DisallowUnknownFields()
		if err := dec.Decode(&in); err != nil {
			return nil, nil, explain(err, fields)
		}
		var given map[string]json.RawMessage
		if err := json.Unmarshal(input, &given); err != nil {
			return nil, nil, explain(err, fields)
		}
		for _, f := range fields {
			if _, there := given[f.Key]; !there && !f.Optional && !strings.Contains(f.Key, ".") {
				return nil, nil, fmt.Errorf("%s is missing: give a %s%s", f.Key, f.Type, spaced(f.Unit))
			}
		}
		out, steps, err := run(in)
		if err != nil {
			return nil, nil, err
		}
		raw, err := json.Marshal(out)
		if err != nil { // of the types of a result only a figure that is no number does not encode
			return nil, nil, errNoNumber
		}
		var values map[string]any
		if err := json.Unmarshal(raw, &values); err != nil {
			return nil, nil, err
		}
		return rounded(values).(map[string]any), steps, nil
	}}
}

func spaced(unit string) string {
	if unit == "" {
		return ""
	}
	return " in " + unit
}

func explain(err error, fields []Field) error {
	if te, ok := err.(*json.UnmarshalTypeError); ok && te.Field != "" {
		for _, f := range fields {
			if f.Key == te.Field {
				value, is := strings.CutPrefix(te.Value, "number ")
				if !is {
					return fmt.Errorf("%s: a %s is not accepted; give a %s%s", te.Field, te.Value, f.Type, spaced(f.Unit))
				}
				return fmt.Errorf("%s: %s is not accepted; give a whole number%s", te.Field, value, spaced(f.Unit))
			}
		}
		return fmt.Errorf("%s: a %s is not accepted here", te.Field, te.Value)
	}
	keys := []string{}
	for _, f := range fields {
		if strings.HasPrefix(err.Error(), f.Key+": ") {
			return err // an element that reads itself has named its key
		}
		if !strings.Contains(f.Key, ".") {
			keys = append(keys, f.Key)
		}
	}
	return fmt.Errorf("the input is not understood (%v); a JSON object with the keys %s is accepted",
		strings.TrimPrefix(err.Error(), "json: "), strings.Join(keys, ", "))
}

// tuple is an element of a list that is written as a list itself.
type tuple interface{ Tuple() string }

func fieldsOf(t reflect.Type, prefix string) []Field {
	var out []Field
	for i := range t.NumField() {
		f := t.Field(i)
		tag := f.Tag.Get("json")
		key, opts, _ := strings.Cut(tag, ",")
		if key == "" || key == "-" {
			continue
		}
		ft, optional := f.Type, strings.Contains(opts, "omitempty")
		if ft.Kind() == reflect.Pointer {
			ft, optional = ft.Elem(), true
		}
		kind := map[reflect.Kind]string{reflect.Float64: "number", reflect.Int: "number",
			reflect.Bool: "yes or no (true, false)", reflect.String: "text", reflect.Slice: "list",
			reflect.Struct: "object", reflect.Map: "lists by name"}[ft.Kind()]
		for ft.Kind() == reflect.Pointer {
			ft = ft.Elem()
		}
		if ft.Kind() == reflect.Struct && len(fieldsOf(ft, "")) == 0 { // reads itself: a reading, or null for over range
			kind = "number or null"
		}
		doc := f.Tag.Get("doc")
		if ft.Kind() == reflect.Map && (ft.Elem().Kind() == reflect.Float64 || ft.Elem().Kind() == reflect.Int) {
			kind = "numbers by name"
		}
		if ft.Kind() == reflect.Slice {
			if t, ok := reflect.Zero(ft.Elem()).Interface().(tuple); ok {
				kind, doc = "list of lists", strings.TrimPrefix(doc+"; each "+t.Tuple(), "; ")
			}
		}
		out = append(out, Field{Key: prefix + key, Type: kind, Unit: f.Tag.Get("unit"), Doc: doc, Range: f.Tag.Get("range"),
			Optional: optional})
		if ft.Kind() == reflect.Slice || ft.Kind() == reflect.Map {
			ft = ft.Elem()
			for ft.Kind() == reflect.Slice || ft.Kind() == reflect.Pointer {
				ft = ft.Elem()
			}
		}
		if ft.Kind() == reflect.Struct {
			out = append(out, fieldsOf(ft, prefix+key+".")...)
		}
	}
	return out
}

// rounded rounds every number inside v to four significant figures.
func rounded(v any) any {
	switch x := v.(type) {
	case float64:
		return unit.Significant(x, 4)
	case map[string]any:
		for k := range x {
			x[k] = rounded(x[k])
		}
	case []any:
		for i := range x {
			x[i] = rounded(x[i])
		}
	}
	return v
}

var errNoNumber = errors.New("the result is no number: an input is too large or too small to compute with")

// Sorted is a list of texts in order, which encodes as a list also when it is empty.
func Sorted(of []string) []string {
	out := append([]string{}, of...)
	slices.Sort(out)
	return out
}
