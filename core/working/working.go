// Package working is a result that shows its working.
//
// Nothing in Arvelt answers with a bare number. A [Check] says what was asked,
// the value, the limit it meets, how much is left, every step that led there
// with the numbers put in, where the figures come from, which inputs are only
// assumed, which are missing, and, when it fails, what would make it pass. The
// same value is shown on a screen, printed on paper and read by a script.
package working

import (
	"math"
	"slices"
)

// Verdict is the outcome of one check.
type Verdict string

// The four verdicts. Unknown is not a pass: a check that lacks an input says
// which one and holds whatever waits for it.
const (
	Pass    Verdict = "pass"
	Caution Verdict = "caution"
	Fail    Verdict = "fail"
	Unknown Verdict = "unknown"
)

var rank = map[Verdict]int{Pass: 0, Caution: 1, Unknown: 2, Fail: 3}

// Worse reports whether v is a worse outcome than w: pass, caution, unknown, fail.
func (v Verdict) Worse(w Verdict) bool { return rank[v] > rank[w] }

// Worst returns the worst of the given verdicts; Pass when there are none.
func Worst(vs ...Verdict) Verdict {
	worst := Pass
	for _, v := range vs {
		if v.Worse(worst) {
			worst = v
		}
	}
	return worst
}

// Step is one line of a calculation: what is found, by which formula, with
// which numbers, and the result in its unit.
type Step struct {
	Symbol  string  `json:"symbol"`
	Formula string  `json:"formula"`
	With    string  `json:"with"`
	Value   float64 `json:"value"`
	Unit    string  `json:"unit"`
	Source  string  `json:"source,omitempty"`
}

// Source says where a figure or rule comes from and how far it is trusted:
// high, medium or low. Medium and low figures are defaults to verify.
type Source struct {
	Ref        string `json:"ref"`
	Confidence string `json:"confidence"`
}

// Set is one field to change to take a remedy: the part of the job, the field
// within it and its new value.
type Set struct {
	Part  string `json:"part"`
	Field string `json:"field"`
	Value any    `json:"value"`
}

// Remedy is a change that was recomputed and found to make its check pass
// without making any other check worse. Extra is its price in the company's
// currency beside the present design; nil when no price list was at hand.
type Remedy struct {
	Title  string   `json:"title"`
	Effect string   `json:"effect"`
	Extra  *float64 `json:"extra,omitempty"`
	Sets   []Set    `json:"sets"`
}

// Check is the answer to one question about an installation.
//
// Value and Limit are in Unit. Sense "max" means that the value may not exceed
// the limit, "min" that it may not be under it. Use is the share of the limit
// that is taken, 1 at the limit, whatever the sense.
type Check struct {
	ID       string   `json:"id"`
	Circuit  string   `json:"circuit,omitempty"`
	Title    string   `json:"title"`
	Verdict  Verdict  `json:"verdict"`
	Says     string   `json:"says"`
	Value    *float64 `json:"value,omitempty"`
	Limit    *float64 `json:"limit,omitempty"`
	Unit     string   `json:"unit"`
	Sense    string   `json:"sense,omitempty"`
	Use      *float64 `json:"use,omitempty"`
	Steps    []Step   `json:"steps"`
	Sources  []Source `json:"sources"`
	Assumed  []string `json:"assumed"`
	Missing  []string `json:"missing"`
	Remedies []Remedy `json:"remedies"`
}

// New returns a check with its lists made, so that it encodes as lists.
func New(id, circuit, title, unit string) *Check {
	return &Check{ID: id, Circuit: circuit, Title: title, Unit: unit, Verdict: Unknown,
		Steps: make([]Step, 0, 4), Sources: make([]Source, 0, 2), Assumed: []string{}, Missing: []string{}, Remedies: []Remedy{}}
}

// Step appends a line of working and returns its value.
func (c *Check) Step(symbol, formula, with string, value float64, unit, source string) float64 {
	c.Steps = append(c.Steps, Step{symbol, formula, with, value, unit, source})
	return value
}

// From adds a source once.
func (c *Check) From(sources ...Source) {
	for _, s := range sources {
		if s.Ref != "" && !slices.Contains(c.Sources, s) {
			c.Sources = append(c.Sources, s)
		}
	}
}

// Lacks notes an input that is missing; the check stays unknown.
func (c *Check) Lacks(what ...string) { c.Missing = append(c.Missing, what...) }

// Assumes notes an input that nobody has confirmed.
func (c *Check) Assumes(what string) {
	if !slices.Contains(c.Assumed, what) {
		c.Assumed = append(c.Assumed, what)
	}
}

// tolerance makes a limit met when equal in spite of binary rounding.
const tolerance = 1e-9

// AtMost reports value <= limit, equal included.
func AtMost(value, limit float64) bool { return value <= limit+tolerance*math.Max(1, math.Abs(limit)) }

// Max judges value against an upper limit. Assumed inputs turn a pass into a
// caution: a check never passes on a figure that nobody confirmed.
func (c *Check) Max(value, limit float64) { c.judge(value, limit, "max", AtMost(value, limit)) }

// Min judges value against a lower limit.
func (c *Check) Min(value, limit float64) { c.judge(value, limit, "min", AtMost(limit, value)) }

func (c *Check) judge(value, limit float64, sense string, ok bool) {
	c.Value, c.Limit, c.Sense = &value, &limit, sense
	use := value / limit
	if sense == "min" {
		use = limit / value
	}
	if !math.IsNaN(use) && !math.IsInf(use, 0) {
		c.Use = &use
	}
	c.Decide(ok)
}

// Decide sets the verdict from a yes or no: fail, caution when an input is
// assumed, otherwise pass; unknown stays when an input is missing.
func (c *Check) Decide(ok bool) {
	switch {
	case len(c.Missing) > 0:
		c.Verdict = Unknown
	case !ok:
		c.Verdict = Fail
	case len(c.Assumed) > 0:
		c.Verdict = Caution
	default:
		c.Verdict = Pass
	}
}
