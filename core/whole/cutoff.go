package whole

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/outage"
	"arvelt/core/plan"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// OutageOf plans the day on which the supply goes off.
func OutageOf(v *View, routes []rulebook.IsolationRoute, now time.Time) outage.Plan {
	in := outage.Input{Terms: Practice(v.Job).Terms(), Job: v.Job, Tasks: v.Tasks, Take: v.Take, Routes: routes, Chain: &v.Chain, Now: now}
	for _, lock := range proving.Locks(v.Job) {
		if lock.Kind == install.Isolation && slices.ContainsFunc(lock.Opens, func(o install.Opened) bool { return o.Device == isolate.Intake }) {
			in.Off = &lock
			break
		}
	}
	return outage.Of(in)
}

// cutOff holds the planned isolation of the supply to the checklist of its day, which comes before anybody isolates.
func cutOff(v *View, routes []rulebook.IsolationRoute, now time.Time) {
	i := slices.IndexFunc(v.Tasks, func(t plan.Task) bool { return t.Step == plan.StepIsolate && !t.Done })
	if i < 0 {
		return
	}
	day := OutageOf(v, routes, now)
	if why := day.Waits(v.Job.Words, now.Format(time.DateOnly)); why != "" {
		v.Tasks[i].Closed, v.Tasks[i].ClosedAt = why, &plan.At{Sheet: working.SupplySheet, Leaf: working.OutageLeaf}
	}
}

// routesOf are the ways to isolate the supply of a job, without what they cost.
func routesOf(p rulebook.Book, job *install.Job, now time.Time) []rulebook.IsolationRoute {
	return p.Isolation(job, func(string) (float64, bool) { return 0, false }, now)
}

// itemOf is the line of the checklist that a release names, as it stands; nil where there is none.
func itemOf(job *install.Job, subject string, list map[string]materials.Item, now time.Time) *outage.Item {
	id, ok := strings.CutPrefix(subject, install.CutOffRelease(""))
	if !ok {
		return nil
	}
	v := Of(job, list, install.Person{}, now)
	day := OutageOf(&v, routesOf(Practice(job), job, now), now)
	return day.Item(outage.ItemID(id))
}

// allowRelease lets the supervisor let go what holds the planned outage, of what may be let go and does hold it.
func allowRelease(job *install.Job, r install.Record, list map[string]materials.Item, now time.Time) error {
	w, c := job.Words, itemOf(job, r.Subject, list, now)
	switch {
	case c == nil:
		return install.Errors{{Field: "release.subject", Value: r.Subject, Accept: w.Say("a line of the list before the cut that is open")}}
	case !c.May:
		return &proving.NotYetError{Why: w.Say("Nobody lets this go: %s.", c.Says())}
	case !c.Open():
		return &proving.NotYetError{Why: w.Say("It holds nothing: %s.", c.Says())}
	}
	return nil
}
