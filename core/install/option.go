package install

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
)

// OptionID names a choice between schools of practice.
type OptionID string

// Option is a choice that a practice leaves to a company and to each of its jobs: between
// named ways of doing, a figure within bounds, or a text.
type Option struct {
	ID      OptionID       `json:"id"`
	Title   string         `json:"title"`
	Help    string         `json:"help"`
	Choices []OptionChoice `json:"choices"`     // empty for a figure or a text
	Unit    string         `json:"unit"`        // of a figure
	Low     float64        `json:"low"`         // of a figure
	High    float64        `json:"high"`        // of a figure
	Chars   int            `json:"chars"`       // how long a text may be, 0 for anything else
	Default OptionValue    `json:"usual"`       // what holds where nobody chose
	Where   OptionID       `json:"where"`       // asked only where this one is chosen so; empty for always
	Chosen  string         `json:"whereChosen"` // the choice of Where
}

// OptionChoice is one way of doing, and why somebody takes it.
type OptionChoice struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Why  string `json:"why"`
	Asks string `json:"asks"` // what is asked beside it on the sheets where it is taken; empty for nothing
}

// OptionValue is what was chosen: a name, a text or a figure. The zero value is the empty
// text: nobody chose.
type OptionValue struct {
	text   string
	figure float64
	isNum  bool
}

// Chose is the value of a choice or a text, Figure that of a figure.
func Chose(id string) OptionValue { return OptionValue{text: id} }

// Figure is the value of an option that is a figure, in the unit of the option.
func Figure(v float64) OptionValue { return OptionValue{figure: v, isNum: true} }

// MarshalJSON writes a text or a number.
func (v OptionValue) MarshalJSON() ([]byte, error) {
	if v.isNum {
		return json.Marshal(v.figure)
	}
	return json.Marshal(v.text)
}

// UnmarshalJSON reads a text or a number; null is nobody's choice.
func (v *OptionValue) UnmarshalJSON(b []byte) error {
	var any any
	if err := json.Unmarshal(b, &any); err != nil {
		return err
	}
	switch x := any.(type) {
	case nil:
		*v = OptionValue{}
	case string:
		*v = Chose(x)
	case float64:
		*v = Figure(x)
	default:
		return fmt.Errorf("option: %s is neither a text nor a number", b)
	}
	return nil
}

func (v OptionValue) String() string {
	if v.isNum {
		return fmt.Sprint(v.figure)
	}
	return v.text
}

// In is the choice or the text of the option among the schools, its default where nobody
// chose or what was chosen is none of its ways, as on a job of another practice.
func (o *Option) In(s *Schools) string {
	v := s.Options[o.ID].text
	if v == "" || len(o.Choices) > 0 && !slices.ContainsFunc(o.Choices, func(way OptionChoice) bool { return way.ID == v }) {
		return o.Default.text
	}
	return v
}

// FigureIn is the figure of the option among the schools, its default where nobody chose.
func (o *Option) FigureIn(s *Schools) float64 {
	if v := s.Options[o.ID]; v.isNum {
		return v.figure
	}
	return o.Default.figure
}

// check says what is wrong with a value.
func (o *Option) check(c *checker, v OptionValue) {
	field := "options." + string(o.ID)
	switch {
	case len(o.Choices) > 0:
		ids := []string{""}
		for _, way := range o.Choices {
			ids = append(ids, way.ID)
		}
		c.oneOf(field, v.String(), ids)
	case o.Chars > 0:
		c.text(field, v.String(), o.Chars)
	case v.isNum:
		c.between(field, v.figure, o.Low, o.High, o.Unit)
	case v.text != "":
		c.say(field, v.text, c.w.Say("a number of %s from %v to %v", o.Unit, o.Low, o.High))
	}
}

// Schools are the choices between schools of practice on this job: the company's defaults
// unless overridden.
type Schools struct {
	// Options are the choices by the options that practices declare. A company keeps those
	// of all its practices, a job may carry some that its practice does not ask.
	Options map[OptionID]OptionValue `json:"options"`
	// Local are rules laid over the figures of the practice.
	Local []LocalRule `json:"local" most:"200"`
}

// Equal reports whether two choices are the same: none is none, however it is written.
func (s Schools) Equal(o Schools) bool {
	return maps.Equal(s.Options, o.Options) && slices.Equal(s.Local, o.Local)
}

// Set chooses; the value is not checked.
func (s *Schools) Set(id OptionID, v OptionValue) {
	if s.Options == nil {
		s.Options = map[OptionID]OptionValue{}
	}
	s.Options[id] = v
}

// Under is what of a company's schools a job under a practice starts with.
func (s Schools) Under(t Terms) Schools {
	out := Schools{Options: map[OptionID]OptionValue{}, Local: []LocalRule{}}
	for i := range t.Options {
		if v, ok := s.Options[t.Options[i].ID]; ok {
			out.Options[t.Options[i].ID] = v
		}
	}
	for _, l := range s.Local {
		if slices.ContainsFunc(t.Rules, func(r RuleTerm) bool { return r.ID == l.Rule }) {
			out.Local = append(out.Local, l)
		}
	}
	return out
}

// Tidy gives the list and the map a value, so that neither encodes as null.
func (s *Schools) Tidy() {
	Fill(s)
}

// sealedFlat are the options that stood beside Local when the first revisions were signed,
// before practices declared their own. The last three came when others had been signed, and
// are sealed only where they say something.
var (
	sealedFlat = []OptionID{"zsReading", "rcdTests", "rcdMonths", "notifyTotalA", "notifySingleA", "swaCores", "bondAt",
		"loadMethod", "splitCode", "surgeNeed"}
	sealedAdded = []OptionID{"bondRule", "tables", "penSplit"}
)

// UnmarshalJSON reads the schools, those of a version before the options too: there each
// stood under its own name beside the local rules.
func (s *Schools) UnmarshalJSON(b []byte) error {
	type plain Schools
	var in plain
	if err := json.Unmarshal(b, &in); err != nil {
		return err
	}
	*s = Schools(in)
	var all map[OptionID]json.RawMessage
	if err := json.Unmarshal(b, &all); err != nil {
		return err
	}
	for id, raw := range all {
		if id == "options" || id == "local" {
			continue
		}
		var v OptionValue
		if err := v.UnmarshalJSON(raw); err != nil {
			return fmt.Errorf("schools.%s: %w", id, err)
		}
		if v == (OptionValue{}) && slices.Contains(sealedAdded, id) {
			continue
		}
		s.Set(id, v)
	}
	return nil
}

// SealedAs writes the schools as they were sealed before there were options: side by side.
func (s *Schools) SealedAs() map[string]any {
	out := map[string]any{}
	for id, v := range s.Options {
		out[string(id)] = v
	}
	out["local"] = s.Local
	return out
}

// Validate checks the choices and the local rules, which are known to one of the practices.
// The error is [Errors].
func (s Schools) Validate(known ...Terms) error {
	c := &checker{in: "schools."}
	names := []string{}
	rules, options := map[string]RuleTerm{}, map[OptionID]*Option{}
	for _, t := range known {
		for _, r := range t.Rules {
			names, rules[r.ID] = append(names, r.ID), r
		}
		for i := range t.Options {
			options[t.Options[i].ID] = &t.Options[i]
		}
	}
	for id, v := range s.Options {
		switch o := options[id]; {
		case o != nil:
			o.check(c, v)
		case !slices.Contains(sealedFlat, id) && !slices.Contains(sealedAdded, id):
			c.say("options."+string(id), v.String(), c.w.Say("an option of the practice"))
		}
	}
	said := map[string]bool{}
	for i, l := range s.Local {
		f := c.item("local", i)
		c.oneOf(f+"rule", l.Rule, names)
		c.needed(f+"reason", l.Reason, 200)
		if r, ok := rules[l.Rule]; ok {
			c.between(f+"value", l.Value, r.Low, r.High, r.Unit)
		}
		if said[l.Rule] {
			c.say(f+"rule", l.Rule, c.w.Say("each rule once"))
		}
		said[l.Rule] = true
	}
	return c.result()
}
