package proving

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/words"
	"arvelt/core/working"
)

// guardedAsks are what is seen to in a guarded energising, in its order.
var guardedAsks = []Ask{
	{"apart", string(words.Key("Every end is apart and covered; an end that was not found counts as live, and people are kept clear of it"))},
	{"people", string(words.Key("Everyone on site is told and clear"))},
	{"off", string(words.Key("After the reading it was switched off and locked again"))},
	{"dead", string(words.Key("And proved dead again, the tester proved before and after"))},
}

// Guard is what a guarded energising asks, and what holds it.
type Guard struct {
	Asks  []Ask   `json:"asks"`
	Waits []Waits `json:"waits"` // where nobody knows where the pair leads
}

// guard says what a guarded energising asks for a person, and what holds one of which nobody knows where it leads.
func (s *Sheet) guard(job *install.Job, facts *Facts, by install.Person) Guard {
	out := Guard{Asks: slices.Clone(guardedAsks), Waits: guardWaits(job, facts, by, "")}
	for i := range out.Asks {
		out.Asks[i].Title = job.Words.Say(out.Asks[i].Title)
	}
	return out
}

// guardWaits are locks of others, and begun dead work, where closing a device would lead; where nobody knows which, anywhere on the job.
func guardWaits(job *install.Job, facts *Facts, by install.Person, device string) []Waits {
	w := job.Words
	out := []Waits{}
	locks := Locks(job)
	reach, _ := facts.feeds(job, locked(job, locks), []string{device}, "")
	leads := func(place string) bool { return device == "" || slices.Contains(reach, place) }
	for _, l := range locks {
		if l.IsBy(by) {
			continue
		}
		opens := openedBy(job, &l)
		on := len(opens) == 0 || slices.ContainsFunc(opens, func(o install.Opened) bool { return o.Device == device })
		if device == "" || on || worksIn(job, &l, leads) {
			out = append(out, Waits{Why: w.Say("The lock of %s is in place (%s): only its owner takes it off.", l.By, l.LockTag), Sheet: working.TestSheet})
		}
	}
	for i := range facts.Open {
		o := &facts.Open[i]
		if o.Dead && slices.ContainsFunc(o.Places, func(p string) bool { return leads(p) && facts.begun(o.Circuit, p) }) {
			out = append(out, Waits{Why: w.Say("Begun and not done where the pair may lead: %s.", o.Why), Sheet: o.Sheet, Circuit: o.Circuit})
		}
	}
	return out
}

// allowGuarded lets somebody close a device for a moment to find which pair is the feed. What happened all the same is recorded as switched on
// without permission.
func allowGuarded(job *install.Job, who install.Person, r install.Record, facts *Facts, now time.Time) error {
	w := job.Words
	house := facts.scope(job, who, now).house
	if _, ok := house.Device(r.Subject); r.Subject != "" && !ok {
		return install.Errors{{Field: "guarded.subject", Value: r.Subject, Accept: w.Say("a device of the installation, or nothing where nobody knows which")}}
	}
	if removed := Removed(job, who); len(removed) > 0 {
		return &NotYetError{removedSays(w, &removed[0])}
	}
	if waits := guardWaits(job, facts, who, r.Subject); len(waits) > 0 {
		return &NotYetError{waits[0].Why}
	}
	if strings.EqualFold(strings.TrimSpace(r.Person), strings.TrimSpace(who.Name)) {
		return install.Errors{{Field: "guarded.person", Value: r.Person, Accept: w.Say("somebody else than who reads: one stands guard, one reads")}}
	}
	for _, ask := range guardedAsks {
		if !slices.Contains(r.Confirmed, ask.ID) {
			return install.Errors{{Field: "guarded.confirmed", Value: strings.Join(r.Confirmed, ", "), Accept: ask.ID + ": " + w.Say(ask.Title)}}
		}
	}
	return nil
}
