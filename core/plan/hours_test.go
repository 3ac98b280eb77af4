package plan

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/materials"
)

// What a clock counts: from start to stop, and no further than the next start, the tick of the step, or the end of the day of the same person.
func TestHoursBetweenStartAndStop(t *testing.T) {
	at := func(h float64) time.Time { return noon.Add(time.Duration(h * float64(time.Hour))) }
	clock := func(who, step string, h float64, stop bool) install.Record {
		return install.Record{Kind: install.Timed, Subject: step, Done: stop, By: who, PersonID: who, At: at(h)}
	}
	value := 2.5
	job := &install.Job{Records: []install.Record{
		clock("ada", "a", 0, false), clock("vik", "a", 0.5, false), clock("ada", "a", 1, true), clock("vik", "b", 2, false),
		{Kind: install.Tick, Subject: "b", Done: true, By: "ada", PersonID: "ada", At: at(2.2)}, // another's tick stops nobody's clock
		{Kind: install.Tick, Subject: "b", Done: true, By: "vik", PersonID: "vik", At: at(3)},
		clock("ada", "c", 4, false), clock("ada", "c", 4.5, false), {Kind: install.DayEnd, By: "ada", PersonID: "ada", At: at(5)},
		{ID: "w", Kind: install.Worked, Subject: "a", Value: &value, By: "ada", PersonID: "ada", At: at(6)},
		clock("vik", "d", 7, false),
	}}
	n := hoursNoted(job, at(8))
	assert.Equal(t, map[string]float64{"a": 1 + 1.5 + 2.5, "b": 1, "c": 1}, n.worked)
	assert.Equal(t, map[string][]StepClock{"d": {{By: "vik", Person: "vik", Since: at(7)}}}, n.clocks)

	// What waited for a connection comes late and counts when it happened.
	late := job.Records[2]
	job.Records = append(append(job.Records[:2:2], job.Records[3:]...), late)
	assert.Equal(t, n, hoursNoted(job, at(8)))

	// A clock that nobody stopped counts nothing until its hours are noted.
	n = hoursNoted(job, at(7+15))
	require.Len(t, n.clocks["d"], 1)
	assert.True(t, n.clocks["d"][0].Lost)
	assert.Zero(t, n.worked["d"])
	job.Records = append(job.Records, install.Record{ID: "x", Kind: install.Worked, Subject: "d", Value: &value, By: "vik", PersonID: "vik", At: at(23)})
	n = hoursNoted(job, at(24))
	assert.Empty(t, n.clocks["d"])
	assert.Equal(t, 2.5, n.worked["d"])
}

// What was noted moves the norm of every line that it is reckoned by, once: a list that has changed since is taken into account.
func TestNormsAreCorrectedByWhatWasLogged(t *testing.T) {
	list := map[string]materials.Item{"point:socket": {Key: "point:socket", Name: "Socket", Hours: 1}, "hours:mark": {Key: "hours:mark", Hours: 0.5}}
	logged := [][]Logged{{{Norm: "mark", Each: 0.5, Steps: 2, Planned: 1, Worked: 1.4}, {Norm: roomNorm, Each: 0.75, Steps: 3, Planned: 10, Worked: 8}},
		{{Norm: "mark", Each: 0.5, Steps: 1, Planned: 1, Worked: 1.6}, {Norm: "rod", Each: 1, Steps: 2, Planned: 2, Worked: 4}, {Norm: "core",
			Each: 0.75, Steps: 9, Planned: 1, Worked: 9}}}
	rows := Norms(nil, list, logged)
	require.Len(t, rows, 4)
	by := map[string]NormRow{}
	for _, r := range rows {
		by[r.Norm] = r
	}
	assert.Equal(t, "core", rows[0].Norm, "the one that is furthest out stands first")
	assert.Empty(t, by["core"].Lines, "nine times the norm is no norm: something else was noted")
	assert.Empty(t, by["rod"].Lines, "two steps say too little")
	mark := by["mark"]
	assert.Equal(t, 1.5, mark.Factor)
	assert.True(t, mark.Over)
	assert.Equal(t, 2, mark.Jobs)
	assert.Equal(t, []NormLine{{"hours:mark", mark.Name, 0.5, 0.75}}, mark.Lines)
	assert.Equal(t, []NormLine{{"point:socket", "Socket", 1, 0.8}, {"hours:room-point", by[roomNorm].Name, 0.75, 0.6}}, by[roomNorm].Lines)

	list["hours:mark"] = materials.Item{Key: "hours:mark", Hours: 0.75}
	for _, r := range Norms(nil, list, logged) {
		if r.Norm == "mark" {
			assert.Equal(t, 1.0, r.Factor)
			assert.Empty(t, r.Lines, "taken over once")
		}
	}
	for key := range norms {
		assert.NotEmpty(t, normNames[key], key)
	}
}

func TestThePaceSaysWhenTheWorkEnds(t *testing.T) {
	job := &install.Job{}
	friday := time.Date(2026, 5, 8, 9, 0, 0, 0, time.UTC)
	tasks := []Task{{ID: "a", Hours: 2, Crew: 1, Worked: 3, Done: true, Over: true}, {ID: "b", Hours: 1, Crew: 2, Worked: 3, Done: true, Over: true}}
	open := Task{ID: "c", Hours: 8, Crew: 1, Who: "Ada, Vik", On: "2026-05-08", Worked: 4}
	p := PaceOf(job, append(tasks, open), friday)
	assert.False(t, p.Enough, "two steps say too little")
	assert.Equal(t, 4.0, p.Left)
	p = PaceOf(job, append(tasks, Task{ID: "x", Hours: 4, Crew: 1, Worked: 6, Done: true}, open, Task{ID: "d", Hours: 16, Crew: 1, On: "2026-05-08"}), friday)
	assert.Equal(t, Pace{Steps: 3, Planned: 8, Worked: 12, Factor: 1.5, Enough: true, Left: 32, People: 2, Ends: "2026-05-11", Slips: true,
		Over: []string{"a", "b"}}, p)
	assert.Empty(t, PaceOf(job, tasks, friday).Ends)
	assert.False(t, PaceOf(job, append(tasks, open, Task{ID: "d", Hours: 16, Crew: 1}), friday).Slips, "not every step has a day")
	assert.Equal(t, "2026-05-13", Ends(job, friday, 32, 1).Format(time.DateOnly), "the weekend is none")
}
