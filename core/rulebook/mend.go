package rulebook

import (
	"maps"
	"slices"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// Candidate is a change to one circuit worth trying: what it is called and the
// fields that it sets, once for the sheets and once for the model.
type Candidate struct {
	Title string
	Sets  []working.Set
	Apply func(*install.Circuit)
}

// SetsOf is a candidate that sets fields of circuit k: their names and values in turn.
func SetsOf(k *install.Circuit, title string, apply func(*install.Circuit), fields ...any) Candidate {
	c := Candidate{Title: title, Apply: apply}
	for i := 0; i+1 < len(fields); i += 2 {
		c.Sets = append(c.Sets, working.Set{Part: "circuits/" + k.ID, Field: fields[i].(string), Value: fields[i+1]})
	}
	return c
}

// Mending is where changes that may cure a failed check are put: Circuit is the one that
// they change, Own whether the check is of that circuit itself.
type Mending struct {
	Job     *install.Job
	Circuit *install.Circuit
	Check   *working.Check
	Own     bool
	Out     []Candidate
	kept    *any
}

// Kept is what a practice works out of the whole job once, for all checks that it mends.
func Kept[T any](m *Mending, work func(*install.Job) T) T {
	if v, ok := (*m.kept).(T); ok {
		return v
	}
	v := work(m.Job)
	*m.kept = v
	return v
}

// Set puts a change of the circuit: fields and their values in turn, for the sheets, and
// what it does to the model. A change replaces lists, it never writes into one.
func (m *Mending) Set(title string, apply func(*install.Circuit), fields ...any) {
	m.Out = append(m.Out, SetsOf(m.Circuit, title, apply, fields...))
}

// Trial is a job in which one circuit at a time is changed, judged as far as the change
// reaches, and put back. What it costs does not grow with the number of circuits that the
// change does not reach.
type Trial interface {
	// Changed changes circuit i and returns every check that the change can reach, the
	// job's and of circuits. look, when not nil, sees the job as changed, and nothing is judged.
	Changed(i int, change func(*install.Circuit), look func(*install.Job)) []working.Check
}

// Later is a trial that begins when something is tried: most reports try nothing.
func Later(begin func() Trial) Trial { return &later{begin: begin} }

type later struct {
	begin func() Trial
	trial Trial
}

func (l *later) Changed(i int, change func(*install.Circuit), look func(*install.Job)) []working.Check {
	if l.trial == nil {
		l.trial = l.begin()
	}
	return l.trial.Changed(i, change, look)
}

// Tried is a practice that can try changes.
type Tried interface {
	// Try begins trials on a job. The job itself is not changed.
	Try(job *install.Job) Trial
}

// Price is what the materials of circuit i of a job cost in the company's currency, with
// the lines that its list lacks.
type Price func(job *install.Job, i int) (sum float64, unpriced map[string]float64)

// mendsMost is how many remedies are offered; more is no help in choosing.
const mendsMost = 4

type checkKey struct{ circuit, id string }

// mender finds what would make the failed checks of a report pass.
type mender struct {
	job   *install.Job
	trial Trial
	price Price
	was   map[checkKey]working.Verdict
	at    map[string]int // circuits by id
	kept  any
}

// Mend finds what would make the failed checks of a report pass. Each change that the
// check's rule lists is tried; it is offered when the check is better with it and no other
// is worse. price, when not nil, gives what it costs beside the present design. Remedies go
// into the checks of r.
//
// mends lists by rule the changes of a circuit that may cure it; far are the rules that
// changes of the circuits ahead of one may cure too.
func Mend(job *install.Job, r *Report, trial Trial, price Price, rules map[working.RuleID]Mends) {
	m := &mender{job: job, trial: trial, price: price, at: make(map[string]int, len(job.Circuits))}
	for i := range job.Circuits {
		m.at[job.Circuits[i].ID] = i
	}
	each := func(checks []working.Check) {
		for i := range checks {
			c := &checks[i]
			if by := rules[c.Rule]; by.List != nil && wanting(c) {
				m.begin(r)
				m.mend(c, by)
			}
		}
	}
	each(r.Job)
	for i := range r.Circuits {
		each(r.Circuits[i].Checks)
	}
}

// Mends are the changes that may cure the checks of a rule.
type Mends struct {
	// List puts the changes of a circuit, the least intrusive first.
	List func(*Mending)
	// Far: changes of the circuits ahead may cure it too.
	Far bool
}

// wanting reports whether something is to be mended: a check that fails, or one that is
// over its limit where that only advises.
func wanting(c *working.Check) bool {
	return !c.Outside && c.Verdict == working.Fail || c.Verdict == working.Caution && c.Sense == "max" && c.Use != nil && *c.Use > 1
}

// begin notes once what every remedy is compared with.
func (m *mender) begin(r *Report) {
	if m.was != nil {
		return
	}
	m.was = map[checkKey]working.Verdict{}
	note := func(checks []working.Check) {
		for i := range checks {
			m.was[checkKey{checks[i].Circuit, checks[i].ID}] = checks[i].Verdict
		}
	}
	note(r.Job)
	for i := range r.Circuits {
		note(r.Circuits[i].Checks)
	}
}

// worthChanging lists the circuits whose change may cure a check, by their place in the
// job: its own, those ahead of it where the rule is far, all for a check of the whole job.
func (m *mender) worthChanging(c *working.Check, far bool) []int {
	if c.Circuit == "" {
		out := make([]int, len(m.job.Circuits))
		for i := range out {
			out[i] = i
		}
		return out
	}
	i, ok := m.at[c.Circuit]
	if !ok {
		return nil
	}
	out := []int{i}
	for range m.job.Circuits {
		next, ahead := m.at[m.job.Circuits[out[len(out)-1]].From]
		if !far || !ahead || slices.Contains(out, next) {
			break
		}
		out = append(out, next)
	}
	return out
}

func (m *mender) mend(c *working.Check, by Mends) {
	for _, i := range m.worthChanging(c, by.Far) {
		k := &m.job.Circuits[i]
		list := Mending{Job: m.job, Circuit: k, Check: c, Own: k.ID == c.Circuit, kept: &m.kept}
		by.List(&list)
		for _, try := range list.Out {
			cured, extra := m.try(i, c, try)
			if cured == nil {
				continue
			}
			remedy := working.Remedy{Title: try.Title, Effect: cured.Summary, Extra: extra, Sets: try.Sets}
			if !list.Own && len(m.job.Circuits) > 1 {
				remedy.Title = k.Name + ": " + try.Title
			}
			if cured.Value != nil && cured.Limit != nil {
				remedy.Effect = unit.Text(*cured.Value, " ", cured.Unit, ", limit ", *cured.Limit, " ", cured.Unit)
			}
			if c.Remedies = append(c.Remedies, remedy); len(c.Remedies) == mendsMost {
				return
			}
		}
	}
}

// try returns the check as a change leaves it, nil where that is no better or another check
// is worse, and what the change costs.
func (m *mender) try(i int, c *working.Check, change Candidate) (cured *working.Check, extra *float64) {
	checks := m.trial.Changed(i, change.Apply, nil)
	for n := range checks {
		x := &checks[n]
		old, there := m.was[checkKey{x.Circuit, x.ID}]
		switch {
		case x.ID == c.ID && x.Circuit == c.Circuit:
			cured = x
		case x.Of().Hint: // says only what would be better still
		case there && x.Verdict.Worse(old), !there && x.Verdict == working.Fail:
			return nil, nil
		}
	}
	if cured == nil || !c.Verdict.Worse(cured.Verdict) || cured.Verdict == working.Unknown {
		return nil, nil
	}
	if m.price != nil {
		before, lacked := m.price(m.job, i)
		m.trial.Changed(i, change.Apply, func(job *install.Job) {
			if now, lacks := m.price(job, i); maps.Equal(lacked, lacks) {
				more := now - before
				extra = &more
			}
		})
	}
	return cured, extra
}
