package proving

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/words"
)

// Isolated is an isolation whose lock hangs, and what it comes to.
type Isolated struct {
	Record install.Record `json:"record"`
	Opened []string       `json:"opened"` // its devices, by name
	// Flaws say why it makes nothing dead for work, empty where it does. It stays on record whatever they are.
	Flaws []string `json:"flaws"`
	// Proved are the places proved dead under it, by id.
	Proved []string `json:"proved"`
	// Closes: its readings wait for the tester to be proved again.
	Closes bool `json:"closes"`
	// Mine: whoever looks made it. Under: they hung a lock of their own under it, and work under it as well.
	Mine  bool `json:"mine"`
	Under bool `json:"under"`
}

// Scope is what is dead for a person at a time: what is opened under their own locks, and what of it was read and found dead.
type Scope struct {
	// List are the isolations whose lock hangs, of anybody, the newest first.
	List []Isolated

	house  *isolate.House
	terms  *install.Terms
	dead   *isolate.Dead
	proved map[string]bool
	w      *words.Catalogue
	by     install.Person
	newest *install.Record
	// removed are their locks that others took off without their knowing yet.
	removed []install.Record
	said    map[string]string // of places, why they are not expected dead
}

// ScopeOf says what is dead for a person now: by isolations of their own, and by those of others under which their own lock hangs. house is
// the installation as it stands now, so that a source or a way that comes into it ends what it reaches.
func ScopeOf(job *install.Job, house *isolate.House, terms *install.Terms, by install.Person, now time.Time) *Scope {
	s := &Scope{List: []Isolated{}, said: map[string]string{}, house: house, terms: terms, proved: map[string]bool{}, w: job.Words, by: by}
	today := now.Format(time.DateOnly)
	s.removed = Removed(job, by)
	opens := []string{}
	locks := Locks(job)
	for _, r := range locks {
		if r.Kind != install.Isolation {
			continue
		}
		i := judged(job, house, terms, &r, now)
		i.Mine = r.IsBy(by)
		i.Under = slices.ContainsFunc(locks, func(l install.Record) bool {
			return l.Kind == install.Lock && l.Subject == r.ID && l.IsBy(by) && l.At.In(now.Location()).Format(time.DateOnly) == today
		})
		if day := r.At.In(now.Location()).Format(time.DateOnly); day != today {
			i.ends(s.w.Say("it is of %s: its lock hangs, and every pair is read anew today.", day))
		}
		if on := closing(job, &r, job.RecordByID(r.ID).Opens, install.Energise, install.SwitchedOn, install.Guarded); on != nil {
			i.ends(s.w.Say("the supply was put on since, or may have been: by %s on %s.", on.By, on.At.In(now.Location()).Format("2006-01-02 15:04")))
		}
		if (i.Mine || i.Under) && len(i.Flaws) == 0 {
			for _, o := range r.Opens {
				opens = append(opens, o.Device)
			}
			for _, p := range i.Proved {
				s.proved[p] = true
			}
			if s.newest == nil {
				s.newest = &r
			}
		}
		s.List = append(s.List, i)
	}
	s.dead = house.With(opens)
	return s
}

// ends says why an isolation makes nothing dead any more.
func (i *Isolated) ends(why string) {
	i.Flaws, i.Proved = append(i.Flaws, why), []string{}
}

// InForce is the newest isolation of the person that makes something dead, nil without one.
func (s *Scope) InForce() *install.Record { return s.newest }

// Expected says why a place is not expected dead under the person's own locks; empty where it is.
func (s *Scope) Expected(place string) string {
	says, known := s.said[place]
	if !known {
		says = s.expected(place)
		s.said[place] = says
	}
	return says
}

func (s *Scope) expected(place string) string {
	w := s.w
	if len(s.removed) > 0 {
		return removedSays(w, &s.removed[0])
	}
	if s.dead.Expects(place) && s.newest != nil {
		return ""
	}
	p, ok := s.house.Place(place)
	if !ok {
		return w.Say("What is worked on here is not in the installation as it is written down: correct the circuit or the room first.")
	}
	next := []string{}
	for _, d := range s.dead.Next(place) {
		next = append(next, d.Name)
	}
	if s.newest == nil {
		what := NeedsIsolation(w, w.Say("What is done at %s", p.Name), s.by)
		if len(next) > 0 {
			what += " " + w.Say("To open: %s.", strings.Join(next, ", "))
		}
		return s.flawed(what)
	}
	if len(next) == 0 {
		return w.Say("%s is still live from %s, and nothing that is known opens that.", p.Name, strings.Join(s.dead.Live(place), ", "))
	}
	return w.Say("%s is still live from %s. Open and lock: %s.", p.Name, strings.Join(s.dead.Live(place), ", "), strings.Join(next, ", "))
}

// flawed says beside what is missing what is wrong with the isolation that the person has.
func (s *Scope) flawed(what string) string {
	for i := range s.List {
		if l := &s.List[i]; (l.Mine || l.Under) && len(l.Flaws) > 0 {
			return what + " " + s.w.Say("Yours makes nothing dead: %s", l.Flaws[0])
		}
	}
	return what
}

// Dead says why a place is not dead for the person to work at; empty where every pair of conductors was read there.
func (s *Scope) Dead(place string) string {
	if why := s.Expected(place); why != "" {
		return why
	}
	if !s.proved[place] {
		p, _ := s.house.Place(place)
		return s.w.Say("%s is expected dead and was not read: count the cables there and read every pair.", p.Name)
	}
	return ""
}

// judged is an isolation with what is wrong with it.
func judged(job *install.Job, house *isolate.House, terms *install.Terms, r *install.Record, now time.Time) Isolated {
	w := job.Words
	out := Isolated{Record: *r, Opened: []string{}, Flaws: []string{}, Proved: []string{}}
	flaw := func(says string) { out.Flaws = append(out.Flaws, says) }
	known, gone := house.Known(r.Opens)
	opens := []string{}
	for _, d := range known {
		if d.Automatic && !slices.ContainsFunc(r.Opens, func(o install.Opened) bool { return o.Device == d.ID && o.StartOff }) {
			flaw(w.Say("%s: the automatic start was not disabled.", d.Name))
		}
		out.Opened, opens = append(out.Opened, d.Name), append(opens, d.ID)
	}
	if len(r.Opens) == 0 {
		flaw(w.Say("it names no device that was opened."))
	}
	for _, id := range gone {
		flaw(w.Say("%s is not in the installation any more.", id))
	}
	if !r.Authorised {
		flaw(w.Say("whoever made it was not authorised to isolate on this job."))
	}
	if job.Withdrawn(r.ID) {
		flaw(w.Say("it was withdrawn."))
	}
	if why := lawful(job, terms, r, now); why != "" && slices.Contains(opens, isolate.Intake) {
		flaw(why)
	}
	dead := house.With(opens)
	t := tester{job, terms}
	first := w.Say("nothing was read: only readings make dead.") // why nothing is proved, the first of the reasons
	told := false
	for _, proof := range append([]install.Record{*r}, provedUnder(job, r)...) {
		if len(proof.Proofs) == 0 {
			continue
		}
		untested, closes := t.flaw(&proof)
		why := untested
		out.Closes = out.Closes || closes
		for _, p := range proof.Proofs {
			switch says, live := proofFlaw(w, house, dead, terms, &p); {
			case live:
				flaw(says) // what the model expects is not so
			case says == "" && untested == "" && !slices.Contains(out.Proved, p.At):
				out.Proved = append(out.Proved, p.At)
			case why == "":
				why = says
			}
		}
		if why != "" && !told {
			first, told = why, true
		}
	}
	if len(out.Proved) == 0 && len(out.Flaws) == 0 {
		flaw(first)
	}
	if len(out.Flaws) > 0 {
		out.Proved = []string{}
	}
	return out
}

// provedUnder are the further places read under an isolation.
func provedUnder(job *install.Job, r *install.Record) []install.Record {
	return slices.DeleteFunc(job.Current(install.ProvedDead), func(p install.Record) bool { return p.Subject != r.ID || p.Kind != install.ProvedDead })
}

// proofFlaw says what is wrong with what was read at a place, and whether it is live there.
func proofFlaw(w *words.Catalogue, house *isolate.House, dead *isolate.Dead, terms *install.Terms, p *install.Proof) (says string, live bool) {
	place, ok := house.Place(p.At)
	if !ok {
		return w.Say("it was read at a place that is not in the installation any more."), false
	}
	read := map[string]bool{}
	for _, x := range p.Read {
		if x.V == nil {
			continue
		}
		read[x.Pair] = true
		if *x.V > terms.DeadV {
			return w.Say("%s read %v V at %s, and %v V at most counts as dead. Look for a second source, a borrowed neutral, or an induced voltage "+
				"(a tester of low impedance tells it).", x.Pair, *x.V, place.Name, terms.DeadV), true
		}
	}
	if !dead.Expects(p.At) {
		return w.Say("%s is still live from %s.", place.Name, strings.Join(dead.Live(p.At), ", ")), false
	}
	missing := slices.DeleteFunc(slices.Clone(place.Pairs), func(pair string) bool { return read[pair] })
	switch {
	case len(missing) > 0:
		return w.Say("at %s these were not read: %s.", place.Name, strings.Join(missing, ", ")), false
	case place.Cables > 0 && p.Cables != place.Cables:
		return w.Say("at %s %d cables were counted and the circuits have %d there: correct the run first.", place.Name, p.Cables, place.Cables), false
	}
	return "", false
}

// tester judges the proofs of the testers that were read with.
type tester struct {
	job   *install.Job
	terms *install.Terms
}

// flaw says why readings prove nothing for the tester's sake; closes, whether they wait for it to be proved again.
func (t tester) flaw(r *install.Record) (says string, closes bool) {
	w := t.job.Words
	switch r.TesterKind {
	case install.ContactTester:
	case install.SensorTester:
		return w.Say("a sensor is a hint and never proof: read with a two-pole tester."), false
	default:
		return w.Say("a multimeter proves nothing dead: read with a tester that is made for it."), false
	}
	if !r.ProvedBefore && !t.serves(r) {
		return w.Say("the tester was not proved on a known source before it was read with."), false
	}
	passed, said := t.closed(r)
	switch {
	case !said:
		return w.Say("the tester was not proved again after the readings: until then they prove nothing."), true
	case !passed:
		return w.Say("the tester did not show the known source after the readings: they prove nothing. Read anew with another."), false
	}
	return "", false
}

// closed is the proof of the tester after the readings of a record.
func (t tester) closed(r *install.Record) (passed, said bool) {
	if r.ProvedAfter {
		return true, true
	}
	for i := range t.job.Records {
		p := &t.job.Records[i]
		if p.Kind == install.TesterProof && p.Tester == r.Tester && p.Passed != nil && p.IsBy(r.Who()) && p.Moment().After(r.Moment()) {
			return *p.Passed, true
		}
	}
	return false, false
}

// serves reports whether the closing proof of an earlier record is the one before the readings of this.
func (t tester) serves(r *install.Record) bool {
	old := t.job.RecordByID(r.Serves)
	if r.Serves == "" || old == nil || !old.ProvedAfter || old.Tester != r.Tester || !old.IsBy(r.Who()) || !r.Moment().After(old.Moment()) {
		return false
	}
	return r.At.Sub(old.At) <= time.Duration(t.terms.ServesMin*float64(time.Minute))
}

// Removed are the records by which others took off locks of a person who has not said yet that they know.
func Removed(job *install.Job, by install.Person) []install.Record {
	out, told := []install.Record{}, map[string]bool{}
	for i := len(job.Records) - 1; i >= 0; i-- {
		switch r := &job.Records[i]; r.Kind {
		case install.LockTold:
			told[r.Subject] = true
		case install.LockOff:
			if lock := job.RecordByID(r.Subject); lock != nil && lock.IsBy(by) && !r.IsBy(by) && !told[r.ID] {
				out = append(out, *r)
			}
		}
	}
	return out
}

// removedSays tells somebody that their lock was taken off.
func removedSays(w *words.Catalogue, r *install.Record) string {
	return w.Say("Your lock was taken off by %s on %s. Say that you know before you work again.", r.By, r.At.Format(time.DateOnly))
}

// serving is the newest record of a person whose closing proof of the tester still serves as the one before the next.
func serving(job *install.Job, terms *install.Terms, by install.Person, now time.Time) *install.Record {
	for i := len(job.Records) - 1; i >= 0; i-- {
		r := &job.Records[i]
		if (r.Kind == install.Isolation || r.Kind == install.ProvedDead) && r.IsBy(by) {
			next := install.Record{Serves: r.ID, Tester: r.Tester, By: by.Name, PersonID: by.ID, At: now}
			if (tester{job, terms}).serves(&next) {
				return r
			}
			return nil
		}
	}
	return nil
}

// lawful says why the supply was not isolated at the intake by the way that was chosen, on its day and by whom it is for; empty where it was.
func lawful(job *install.Job, terms *install.Terms, r *install.Record, now time.Time) string {
	w, o := job.Words, &job.Outage
	way, ok := terms.Ways[o.Route]
	day := r.At.In(now.Location()).Format(time.DateOnly)
	switch {
	case !ok:
		return w.Say("no lawful way to isolate the intake was chosen on the Supply sheet.")
	case way.Isolator:
		return w.Say("the way that was chosen opens an isolator and not the intake: name the isolator.")
	case o.Day != "" && o.Day != day:
		return w.Say("the supply goes off on %s by the plan, and this is of %s.", o.Day, day)
	case way.Visit && (o.BookedOn != day || o.BookedFor != "" && o.BookedFor != o.Route):
		return w.Say("nobody is booked for %s to isolate the intake.", day)
	case way.Personal && !strings.EqualFold(strings.TrimSpace(o.Authorised.Name), strings.TrimSpace(r.By)):
		return w.Say("the intake is isolated by %s alone, by name.", o.Authorised.Name)
	case way.Personal && o.Authorised.Until < day:
		return w.Say("the authorisation of %s ended on %s.", o.Authorised.Name, o.Authorised.Until)
	}
	return ""
}
