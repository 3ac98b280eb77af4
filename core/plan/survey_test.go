package plan

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/outdoor"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/words"
	"arvelt/core/working"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func ids(tasks []Task) []string {
	out := []string{}
	for _, t := range tasks {
		out = append(out, t.ID)
	}
	return out
}

func find(t *testing.T, tasks []Task, id string) Task {
	i := slices.IndexFunc(tasks, func(x Task) bool { return x.ID == id })
	require.GreaterOrEqual(t, i, 0, "%s is not among %v", id, ids(tasks))
	return tasks[i]
}

// A room brings work for what is new, moved or goes; what stays brings none. The
// hours are the company's for each kind of point.
func TestRoomsMakeTasks(t *testing.T) {
	point := func(kind, state string, n int) install.RoomPoint {
		return install.RoomPoint{ID: kind + state, Kind: kind, State: state, Count: n}
	}
	job := &install.Job{Rooms: []install.Room{
		{ID: "r1", Name: "Loom room", Points: []install.RoomPoint{point("socket-2", install.New, 4),
			point("light", install.Kept, 9), point("tv", install.Removed, 1)}},
		{ID: "r2", Name: "Store", Points: []install.RoomPoint{point("light", install.Kept, 1)}},
	}}
	list := map[string]materials.Item{"point:socket-2": {Hours: 1}, "point:tv": {Hours: 0.5}}
	tasks := Tasks(job, Practice{Terms: &install.Terms{}}, list, install.Person{Name: "Ada"}, noon)
	assert.Equal(t, []string{"r1-remove", "r1-locate", "r1-boxes", "r1-photo", "r1-close", "r1-fit", "owner"}, ids(tasks))
	boxes, fit := find(t, tasks, "r1-boxes"), find(t, tasks, "r1-fit")
	assert.Contains(t, boxes.Title, "4 points", "what is taken out gets no box")
	assert.InDelta(t, 4, boxes.Hours+fit.Hours, 0.26, "shared between first and second fix, in quarters")
	out := find(t, tasks, "r1-remove")
	assert.Contains(t, out.Title, "take out 1 points")
	assert.True(t, out.Isolation)
	assert.True(t, fit.Isolation)
	assert.Contains(t, fit.Closed, "First:")
}

// The day of the outage frames the work at the board: isolate first, energise
// and live tests last, and energising waits for its permission.
func TestTheOutageFramesTheWork(t *testing.T) {
	job := &install.Job{Kind: install.SupplyUpgrade,
		Chain: install.Chain{Enclosures: []install.Enclosure{{ID: "a", Name: "Head"},
			{ID: "b", Name: "Isolator", From: "a", New: true}}},
		Circuits: []install.Circuit{{ID: "c1", Name: "Kiln", Route: install.Route{Segments: []install.Segment{{LengthM: 4, Method: "C"}}}}}}
	tasks := Tasks(job, Practice{Terms: &install.Terms{}}, nil, install.Person{Name: "Ada"}, noon)
	order := ids(tasks)
	at := func(id string) int { return slices.Index(order, id) }
	for _, pair := range [][2]string{{"c1-cable", "outage-isolate"}, {"outage-isolate", "outage-strip"},
		{"outage-strip", "outage-fit:b"}, {"outage-fit:b", "outage-dead-tests"}, {"c1-board", "outage-dead-tests"},
		{"outage-dead-tests", "outage-energise"}, {"outage-energise", "outage-live-tests"}} {
		assert.GreaterOrEqual(t, at(pair[0]), 0, pair[0])
		assert.Less(t, at(pair[0]), at(pair[1]), "%s before %s", pair[0], pair[1])
	}
	assert.NotContains(t, order, "outage-fit:a", "what is there is not fitted")
	assert.Contains(t, find(t, tasks, "c1-board").After, "outage-strip", "nothing at the board before it is dead and cleared")
	assert.Contains(t, find(t, tasks, "outage-dead-tests").After, "c1-board")
	assert.Contains(t, find(t, tasks, "outage-energise").Closed, "permission to energise")
	job.Records = []install.Record{{Kind: install.Energise, By: "Ada", At: noon}}
	assert.NotContains(t, find(t, Tasks(job, Practice{Terms: &install.Terms{}}, nil, install.Person{Name: "Ada"}, noon),
		"outage-energise").Closed, "permission")

	job.Kind = install.EVCharger
	assert.NotContains(t, ids(Tasks(job, Practice{Terms: &install.Terms{}}, nil, install.Person{Name: "Ada"}, noon)),
		"outage-isolate", "a charge point needs no day without supply")
	job.Outage.Day = "2026-06-09"
	assert.Contains(t, ids(Tasks(job, Practice{Terms: &install.Terms{}}, nil, install.Person{Name: "Ada"}, noon)),
		"outage-isolate", "unless one is set")
}

// No spade before other services are located and the marks hold.
func TestDiggingWaitsForTheMarks(t *testing.T) {
	run := install.Run{ID: "t", Name: "Trench", Kind: install.Trench, DuctMM: 50, Stretches: []install.RunStretch{{LengthM: 10}}}
	job := &install.Job{Outdoor: install.Outdoor{Runs: []install.Run{run}},
		Records: []install.Record{{Kind: install.Tick, Subject: "run-t-locate", Done: true, At: noon}}}
	dig := func() Task {
		works := outdoor.Of(job, rulebook.Complete(iec230.Practice{}), nil, noon.Format(time.DateOnly))
		return find(t, Tasks(job, Practice{Terms: &install.Terms{}, Outdoor: &works}, nil, install.Person{Name: "Ada"}, noon), "run-t-dig")
	}
	assert.Contains(t, dig().Closed, "no digging before it")
	assert.Equal(t, working.OutdoorLeaf, dig().ClosedAt.Leaf)
	job.Outdoor.Runs[0].Located, job.Outdoor.Runs[0].DugBy, job.Outdoor.Runs[0].Liable = "L-9", "Moss", "Moss"
	assert.Contains(t, dig().Closed, "Until when")
	job.Outdoor.Runs[0].LocatedTo = "2026-05-31"
	assert.Contains(t, dig().Closed, "renewed")
	job.Outdoor.Runs[0].LocatedTo = "2026-06-01"
	assert.Empty(t, dig().Closed)
	tasks := Tasks(job, Practice{Terms: &install.Terms{}}, nil, install.Person{Name: "Ada"}, noon)
	assert.Equal(t, install.SecondFix, find(t, tasks, "run-t-pull").Stage)
	assert.Equal(t, 2, find(t, tasks, "run-t-pull").Crew, "a duct is not pulled alone")
	assert.Equal(t, install.Handover, find(t, tasks, "run-t-meter").Stage)
	assert.Contains(t, find(t, tasks, "run-t-bed").Closed, "First:")
}

// What a practice brings: its words in place of the common ones, its unit of length,
// and its own steps, those after the outage behind the outage's.
func TestAPracticeAddsItsSteps(t *testing.T) {
	by := Practice{Terms: &install.Terms{}, Length: install.Length{Name: "ft", M: 0.3048},
		Own: []rulebook.Work{{ID: "look", Stage: install.SecondFix, Title: "Look", Who: "inspector", Day: true},
			{ID: "bond", Stage: install.SecondFix, Title: "Bond", Isolation: true}}}
	job := &install.Job{Words: words.In(words.American), Kind: install.SupplyUpgrade,
		Chain: install.Chain{Enclosures: []install.Enclosure{{ID: "a", Name: "Base"}}},
		Circuits: []install.Circuit{{ID: "c1", Name: "Loom",
			Route: install.Route{Segments: []install.Segment{{LengthM: 3.048, Method: "C"}}}}}}
	tasks := Tasks(job, by, nil, install.Person{Name: "Ada"}, noon)
	assert.Contains(t, find(t, tasks, "c1-board").Title, "at the panel")
	assert.Contains(t, find(t, tasks, "c1-cable").Title, "10\u00a0ft")
	assert.Equal(t, "inspector", find(t, tasks, "look").Who)
	order := ids(tasks)
	assert.Less(t, slices.Index(order, "outage-dead-tests"), slices.Index(order, "look"))
	assert.Contains(t, find(t, tasks, "outage-dead-tests").After, "bond", "the crew's own steps come before the tests")
	assert.NotContains(t, find(t, tasks, "outage-dead-tests").After, "look")
	assert.Equal(t, []string{"outage-dead-tests"}, find(t, tasks, "look").After)
	assert.Contains(t, find(t, tasks, "outage-energise").After, "look",
		"nothing is energised before others have done their part of the day")

	job.Plan.Tasks = map[string]install.TaskEdit{"look": {Who: "Ms Orde"}}
	assert.Equal(t, "Ms Orde", find(t, Tasks(job, by, nil, install.Person{Name: "Ada"}, noon), "look").Who)
}

// A circuit that leaves is parted under an isolation before the rooms that its cable lies in are cut open.
func TestAbandonedCableStopsItsRooms(t *testing.T) {
	point := install.RoomPoint{ID: "s", Kind: "socket-2", State: install.New, Count: 1}
	old := install.RoomPoint{ID: "o", Kind: "light", State: install.Removed, Count: 1}
	job := &install.Job{Rooms: []install.Room{{ID: "r1", Name: "Loom room", Points: []install.RoomPoint{point, old}},
		{ID: "r2", Name: "Store", Points: []install.RoomPoint{point}}},
		Circuits: []install.Circuit{{ID: "c1", Name: "Old lights", State: install.RemovedCircuit,
			Serves: install.Serves{Boxes: []install.Box{{ID: "p1", Room: "r1", Point: "o"}}}}}}
	tasks := func() []Task {
		return Tasks(job, Practice{Terms: &install.Terms{}}, nil, install.Person{Name: "Ada"}, noon)
	}
	got := tasks()
	assert.NotContains(t, ids(got), "r1-remove", "its point goes with it")
	part := find(t, got, "c1-part")
	assert.True(t, part.Isolation)
	assert.NotEmpty(t, part.Closed, "nobody isolated yet")
	assert.Contains(t, find(t, got, "c1-clear").Closed, "First:")
	assert.Contains(t, find(t, got, "r1-boxes").Closed, "Old lights")
	assert.NotContains(t, find(t, got, "r2-boxes").Closed, "Old lights")
	assert.Empty(t, find(t, got, "r2-locate").Closed)
	job.Records = []install.Record{{Kind: install.Tick, Subject: "c1-part", Done: true, By: "Ada", At: noon},
		{Kind: install.Tick, Subject: "r1-locate", Done: true, By: "Ada", At: noon}}
	assert.Empty(t, find(t, tasks(), "r1-boxes").Closed)

	job.Records, job.Circuits[0].Serves.Boxes = nil, nil
	assert.Contains(t, find(t, tasks(), "r2-boxes").Caution, "nobody knows where its cable runs: Old lights.")
	assert.NotContains(t, find(t, tasks(), "r2-photo").Caution, "Old lights", "said once in a room")
	job.Circuits[0].State = install.DormantCircuit
	assert.Contains(t, find(t, tasks(), "c1-clear").Title, "not connected")
}
