package rulebook

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/table"
)

// Planning is a practice that says which circuits the points of a walk go on.
type Planning interface {
	// PlanOf is by what the circuits of a job are planned: its choices between schools decide.
	PlanOf(job *install.Job) Plan
}

// Fitting is a practice that knows which accessories new points take.
type Fitting interface {
	// Fit chooses what stands at the new points of a circuit that a job makes with a cable of its own.
	Fit(job *install.Job, k *install.Circuit)
}

// Fit is of [Fitting]; nothing without it.
func (b Book) Fit(job *install.Job, k *install.Circuit) {
	if p, ok := b.Practice.(Fitting); ok {
		p.Fit(job, k)
	}
}

// Plan is by what circuits are planned from the points of a walk.
type Plan struct {
	Rows  []CircuitPlan // the first that fits a point is its
	Split Split
	// Shared are the residual-current devices that circuits share, two of them, so that no floor has its light and its sockets on one; nil
	// where each circuit has a device of its own.
	Shared []install.Group
}

// Split is how circuits of many points part a house.
type Split string

// How they part it.
const (
	ByFloor Split = "floor"
	ByKind  Split = "kind" // as few as their sizes allow, through all of the house
	ByRoom  Split = "room"
)

// Per is how far points go together on one circuit.
type Per string

// How far they go.
const (
	PerPoint Per = "point" // each has its own
	PerFloor Per = "floor" // those of a floor, or as [Split] says
	PerHouse Per = "house" // all of them
)

// CircuitPlan is a row of circuit_plans.csv: points that go on circuits of one kind.
type CircuitPlan struct {
	Kinds     string  `col:"kinds"`     // of point, parted by |; empty for any
	Families  string  `col:"families"`  // of the kinds of point; empty for any
	Rooms     string  `col:"rooms"`     // kinds of room; empty for any
	Where     string  `col:"where"`     // the choice of a school under which the row holds; empty for always
	Templates string  `col:"templates"` // circuits as they start, the smallest first
	Few       string  `col:"few"`       // the template for at most UpTo points
	UpTo      float64 `col:"up_to"`
	Most      float64 `col:"most"`  // points on one
	Least     float64 `col:"least"` // circuits, as far as there are points
	Per       string  `col:"per"`
	Apart     string  `col:"apart"` // with this name they are kept apart from others on such circuits
	Why       string  `col:"why"`
}

// Fits reports whether points of a kind in a kind of room go by the row.
func (r *CircuitPlan) Fits(kind, family, room string) bool {
	fits := func(list, one string) bool { return list == "" || slices.Contains(strings.Split(list, "|"), one) }
	return fits(r.Kinds, kind) && fits(r.Families, family) && fits(r.Rooms, room)
}

// Under are the rows that hold where these ways of doing were chosen.
func Under(rows []CircuitPlan, chosen ...string) []CircuitPlan {
	out := []CircuitPlan{}
	for _, r := range rows {
		if r.Where == "" || slices.Contains(chosen, r.Where) {
			out = append(out, r)
		}
	}
	return out
}

// PlanOf is of [Planning]; no rows without it.
func (b Book) PlanOf(job *install.Job) Plan {
	if p, ok := b.Practice.(Planning); ok {
		return p.PlanOf(job)
	}
	return Plan{}
}

// RowsOf are the rows of a table of circuit plans.
func RowsOf(t *table.Of[CircuitPlan]) []CircuitPlan {
	out := make([]CircuitPlan, 0, len(t.Text))
	for r := range t.Text {
		out = append(out, *t.Row(r))
	}
	return out
}
