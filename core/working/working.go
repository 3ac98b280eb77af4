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
	"strings"
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

func (v Verdict) rank() int {
	switch v {
	case Fail:
		return 3
	case Unknown:
		return 2
	case Caution:
		return 1
	}
	return 0
}

// Worse reports whether v is a worse outcome than w: pass, caution, unknown, fail.
func (v Verdict) Worse(w Verdict) bool { return v.rank() > w.rank() }

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
// that is taken, 1 at the limit, whatever the sense. The verdict follows from what was
// decided, missing and assumed, in whatever order that was noted.
type Check struct {
	ID       string   `json:"id"`
	Rule     RuleID   `json:"rule"`
	Object   string   `json:"object,omitempty"` // what it is of, where that is no circuit: an id or a number
	Sheet    Sheet    `json:"sheet"`            // where it is mended
	Leaf     Leaf     `json:"leaf,omitempty"`
	Circuit  string   `json:"circuit,omitempty"`
	Title    string   `json:"title"`
	Verdict  Verdict  `json:"verdict"`
	Summary  string   `json:"summary"`
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
	// Outside: it lies beyond what the job is about, and is said for information alone.
	Outside bool `json:"outside,omitempty"`

	of    *Rule
	state state
}

// state is what was decided of a check, whatever is missing or assumed.
type state uint8

const (
	undecided state = iota
	held
	sure // it would hold even far from what is assumed
	warned
	failed
)

// Of is the rule of the check; nil for one that was read from a file.
func (c *Check) Of() *Rule { return c.of }

func begun(r *Rule, circuit, of string, steps []Step, sources []Source) Check {
	return Check{ID: r.checkID(of), Rule: r.ID, Object: of, Sheet: r.Sheet, Leaf: r.Leaf, of: r, Circuit: circuit,
		Title: r.Title, Unit: r.Unit, Verdict: Unknown,
		Steps: steps, Sources: sources, Assumed: []string{}, Missing: []string{}, Remedies: []Remedy{}}
}

// Pool is room for checks that are worked out one after another: a house has
// hundreds, each with a few steps and sources, and much of the time of a report
// would go into finding room for each. The zero Pool is ready.
type Pool struct {
	checks  []Check // begun since the last Take, and the room behind them
	steps   []Step  // room behind the steps of the last check
	sources []Source
	ahead   int // how many times the usual room is made at once, 0 for once
}

// About what an ordinary circuit takes.
const (
	padChecks  = 14
	padSteps   = 48
	padSources = 32
	padAhead   = 6 // circuits for which room is made at once, at most
)

// Expect says for how many circuits room will be asked for.
func (p *Pool) Expect(circuits int) { p.ahead = min(circuits, padAhead) }

// Check starts the next check, as [Rule.Check] does. The one before it is finished:
// writing to it by its pointer is lost.
func (p *Pool) Check(r *Rule, circuit, of string) *Check {
	p.settle()
	ahead := max(p.ahead, 1)
	if len(p.checks) == 0 && cap(p.checks) < padChecks {
		p.checks = make([]Check, 0, padChecks*ahead)
	}
	if cap(p.steps) < 4 {
		p.steps = make([]Step, 0, padSteps*ahead)
	}
	if cap(p.sources) < 2 {
		p.sources = make([]Source, 0, padSources*ahead)
	}
	p.checks = append(p.checks, begun(r, circuit, of, p.steps, p.sources))
	return &p.checks[len(p.checks)-1]
}

// Take closes the checks begun since the last Take and returns them, in order.
func (p *Pool) Take() []Check {
	p.settle()
	n := len(p.checks)
	done := p.checks[:n:n]
	for i := range done {
		done[i].Close()
	}
	p.checks = p.checks[n:]
	return done
}

func (p *Pool) settle() {
	if n := len(p.checks); n > 0 {
		last := &p.checks[n-1]
		last.Steps, p.steps = settle(last.Steps, p.steps)
		last.Sources, p.sources = settle(last.Sources, p.sources)
	}
}

// settle closes a list that was begun in a room: what it took is its own, the
// rest is room for the next. One that outgrew the room has its own already.
func settle[T any](list, room []T) (own, rest []T) {
	n := len(list)
	if n == 0 {
		return list[:0:0], room // an append to it later must not reach into the room
	}
	if n > cap(room) || &list[0] != &room[:1][0] {
		return list, room
	}
	return list[:n:n], room[n:n:cap(room)]
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

// AddMissing notes an input that is missing: the check is unknown, whatever is decided.
func (c *Check) AddMissing(what ...string) {
	c.Missing = append(c.Missing, what...)
	c.judged()
}

// Assumes notes an input that nobody has confirmed: a pass is a caution.
func (c *Check) Assumes(what string) {
	if !slices.Contains(c.Assumed, what) {
		c.Assumed = append(c.Assumed, what)
	}
	c.judged()
}

// tolerance makes a limit met when equal in spite of binary rounding.
const tolerance = 1e-9

// AtMost reports value <= limit, equal included.
func AtMost(value, limit float64) bool { return value <= limit+tolerance*math.Max(1, math.Abs(limit)) }

// Max judges value against an upper limit.
func (c *Check) Max(value, limit float64) { c.judge(value, limit, "max", AtMost(value, limit)) }

// Min judges value against a lower limit.
func (c *Check) Min(value, limit float64) { c.judge(value, limit, "min", AtMost(limit, value)) }

func (c *Check) judge(value, limit float64, sense string, ok bool) {
	of := &[3]float64{value, limit, value / limit}
	if sense == "min" {
		of[2] = limit / value
	}
	c.Value, c.Limit, c.Sense = &of[0], &of[1], sense
	if !math.IsNaN(of[2]) && !math.IsInf(of[2], 0) {
		c.Use = &of[2]
	}
	c.Decide(ok)
}

// Decide says whether the installation meets the rule.
func (c *Check) Decide(ok bool) {
	if ok {
		c.decided(held)
	} else {
		c.decided(failed)
	}
}

// Warn says that it meets the rule and that somebody should look at it all the same.
func (c *Check) Warn() { c.decided(warned) }

// Bears says that it meets the rule even where what is assumed is far off, so that the
// assumptions cost it nothing.
func (c *Check) Bears() { c.decided(sure) }

// Conclude decides as the verdict of something else has it.
func (c *Check) Conclude(v Verdict) {
	switch v {
	case Pass:
		c.decided(held)
	case Caution:
		c.decided(warned)
	case Fail:
		c.decided(failed)
	default:
		c.decided(undecided)
	}
}

// Undecide takes back what was decided: nobody can tell yet.
func (c *Check) Undecide() { c.decided(undecided) }

func (c *Check) decided(s state) {
	c.state = s
	c.judged()
}

// judged gives the verdict: unknown while something is missing or nothing decided, fail,
// caution where it was warned of or an input is assumed, otherwise pass.
func (c *Check) judged() {
	switch {
	case len(c.Missing) > 0 || c.state == undecided:
		c.Verdict = Unknown
	case c.state == failed:
		c.Verdict = Fail
	case c.state == warned || c.state == held && len(c.Assumed) > 0:
		c.Verdict = Caution
	default:
		c.Verdict = Pass
	}
}

// Stops reports whether the check holds an act as it stands.
func (c *Check) Stops(a Act) bool {
	return !c.Outside && c.of != nil && c.of.Stops(c.Verdict, a)
}

// RestsOn are the inputs that are assumed and on which it rests: none where it fails, waits, or would hold even far from them.
func (c *Check) RestsOn() []string {
	if c.Outside || c.Verdict == Fail || c.Verdict == Unknown || c.state == sure {
		return nil
	}
	return c.Assumed
}

// Close ends a check: one that lacks something and says nothing says what.
func (c *Check) Close() {
	c.judged()
	if c.Summary == "" && len(c.Missing) > 0 {
		c.Summary = "Not yet known: " + strings.Join(c.Missing, "; ") + "."
	}
}
