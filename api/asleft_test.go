package api_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/proving"
)

// left is something that is left as it is.
func left(kind install.LeftKind, with put) put {
	r := put{"kind": "loose-end", "left": kind, "note": ""}
	for k, v := range with {
		r[k] = v
	}
	return r
}

// pictured sends a picture of something.
func (c *client) pictured(id, subject string) {
	c.Helper()
	a := c.do("POST", "/api/jobs/"+id+"/photos?subject="+subject, string(pngOf(20, 20)), "Content-Type", "image/png")
	require.Equal(c, 200, a.status, a.text)
}

// asLeft is what is left of a kind, as it stands.
func asLeft(t *testing.T, v api.JobView, kind install.LeftKind) proving.Left {
	t.Helper()
	i := slices.IndexFunc(v.View.Left, func(l proving.Left) bool { return l.Record.Left == kind })
	require.GreaterOrEqual(t, i, 0, "%s is not on the list", kind)
	return v.View.Left[i]
}

// holding are what holds a job, in one text.
func holding(v api.JobView) string {
	said := []string{}
	for _, h := range v.View.State.Holds {
		said = append(said, h.What)
	}
	return strings.Join(said, "\n")
}

// An end in reach that nobody proved dead is a danger the moment it is noted, by an apprentice as by anybody: it stands first, holds the job, the
// energising and the end of the day, and ends with a picture, by who may say so; a test of its circuit puts it right.
func TestALiveEndInReachIsADangerAtOnce(t *testing.T) {
	w := serve(t)
	remy, jana, tobias := w.as("remy"), w.as("jana"), w.as("tobias")
	for _, ref := range []string{"PW-2037", "PW-2054"} {
		id := tobias.job(ref).Id
		circuit := tobias.job(ref).View.Job.Circuits[0].ID
		v := remy.made(id, left(install.LeftBlindEnd, put{"circuit": circuit, "place": "beside the dresser", "reach": true, "alive": true}))
		end := asLeft(t, v, install.LeftBlindEnd)
		assert.True(t, end.Danger)
		assert.Contains(t, end.Says, "beside the dresser")
		assert.Contains(t, end.Lacks, "who puts it right")
		require.Len(t, v.View.Dangers, 1)
		danger := v.View.Dangers[0]
		assert.Contains(t, danger.Seen, "beside the dresser")
		assert.Contains(t, holding(v), "danger, nobody told")
		assert.Contains(t, holding(v), "danger, not made safe")
		assert.Equal(t, danger.ID, tobias.job(ref).View.Dangers[0].ID, "everybody sees it")
		for _, who := range []*client{remy, jana, tobias} {
			who.held(id, put{"kind": "day-end", "note": "off"}, 409, "People are at risk")
		}
		waits := []string{}
		for _, x := range tobias.job(ref).View.Tests.Waits() {
			waits = append(waits, x.Why)
		}
		assert.Contains(t, strings.Join(waits, "\n"), "A danger that is not made safe", "nothing of it is energised")
		v = tobias.made(id, put{"kind": "finding-step", "subject": danger.ID, "path": "told", "person": "Tobias Marrick", "note": "on the screen"})
		assert.NotContains(t, holding(v), "nobody told")

		capped := left(install.LeftBlindEnd, put{"circuit": circuit, "place": "beside the dresser", "reach": true, "alive": true, "shielded": true,
			"supersedes": end.Record.ID})
		remy.held(id, capped, 403, "to clear what holds the work")
		jana.held(id, capped, 409, "no picture")
		jana.pictured(id, end.Record.ID)
		v = jana.made(id, capped)
		assert.Empty(t, v.View.Dangers)
		assert.False(t, asLeft(t, v, install.LeftBlindEnd).Danger)
		assert.Contains(t, holding(v), "danger made safe but not")
		remy.made(id, put{"kind": "day-end", "note": ""})

		open := asLeft(t, v, install.LeftBlindEnd)
		assert.NotEmpty(t, open.Proof)
		right := put{"kind": "loose-end", "subject": open.Record.ID, "done": true, "note": "terminated in its box"}
		jana.held(id, right, 409, "a test of its circuit")
	}
	// On the job that is being tested the reading is taken, and with it the end is put right.
	id := jana.job("PW-2037").Id
	jana.made(id, jana.isolates(id))
	jana.made(id, reads("c1", "insulation-ln", "MΩ", 300))
	open := asLeft(t, jana.job("PW-2037"), install.LeftBlindEnd)
	assert.Empty(t, open.Proof)
	v := jana.made(id, put{"kind": "loose-end", "subject": open.Record.ID, "done": true, "note": "terminated in its box"})
	assert.Empty(t, v.View.Left)
	assert.NotContains(t, holding(v), "danger")
	// What was put right too early is open again, with its danger.
	cleared := v.View.Cleared[0]
	v = jana.made(id, put{"kind": "loose-end", "subject": cleared.Subject, "supersedes": cleared.ID, "note": "came off again"})
	assert.Len(t, v.View.Left, 1)
	assert.Empty(t, v.View.Dangers, "it was capped, and is")
	v = jana.made(id, put{"kind": "loose-end", "subject": open.Record.ID, "done": true, "note": "terminated in its box"})
	assert.NotContains(t, holding(v), "danger")
	pack := tobias.pdf("/api/jobs/" + id + "/pack")
	assert.NotContains(t, pack, "Left as it is")
}

// A cover is off for as long as it is read behind: open and unattended it is a danger, its circuit is tested and not put into service, and it goes
// back on only once a live test was read. What is only fixed for now may stay beyond the handover, with who comes back for it and when.
func TestWhatIsLeftHoldsWhatItsKindSays(t *testing.T) {
	w := serve(t)
	jana, remy := w.as("jana"), w.as("remy")
	v := jana.job("PW-2037")
	id := v.Id
	v = remy.made(id, left(install.LeftCover, put{"circuit": "c1", "place": "main board", "alive": true, "attended": true}))
	assert.False(t, asLeft(t, v, install.LeftCover).Danger, "somebody stands by")
	cover := asLeft(t, v, install.LeftCover).Record.ID
	v = remy.made(id, left(install.LeftCover, put{"circuit": "c1", "place": "main board", "alive": true, "supersedes": cover}))
	assert.True(t, asLeft(t, v, install.LeftCover).Danger, "and then nobody does")
	assert.Len(t, v.View.Dangers, 1)
	cover = asLeft(t, v, install.LeftCover).Record.ID
	jana.pictured(id, cover)
	v = jana.made(id, left(install.LeftCover, put{"circuit": "c1", "place": "main board", "alive": true, "shielded": true, "supersedes": cover}))
	assert.Empty(t, v.View.Dangers)
	assert.Contains(t, asLeft(t, v, install.LeftCover).Proof, "a live test")
	again := left(install.LeftCover, put{"circuit": "c1", "place": "main board", "alive": true, "supersedes": asLeft(t, v, install.LeftCover).Record.ID})
	v = remy.made(id, again)
	assert.Len(t, v.View.Dangers, 1, "the plate is off again: it is a danger anew")
	cover = asLeft(t, v, install.LeftCover).Record.ID
	jana.pictured(id, cover)
	v = jana.made(id, left(install.LeftCover, put{"circuit": "c1", "place": "main board", "alive": true, "shielded": true, "supersedes": cover}))
	assert.Empty(t, v.View.Dangers)
	jana.made(id, jana.isolates(id))
	jana.held(id, put{"kind": "day-end", "note": ""}, 422, "day-end.note")
	jana.made(id, reads("c1", "insulation-ln", "MΩ", 300))
	assert.Contains(t, asLeft(t, jana.job("PW-2037"), install.LeftCover).Proof, "a live test", "a dead one does not tell that of a cover")

	// That conductors are dead is not believed where nobody proved it; under one's own locks it is, and on what was never energised.
	v = remy.made(id, left(install.LeftTail, put{"place": "porch", "alive": false, "reach": true}))
	assert.Nil(t, asLeft(t, v, install.LeftTail).Record.Alive)
	assert.True(t, asLeft(t, v, install.LeftTail).Danger)
	v = jana.made(id, left(install.LeftDisconnected, put{"circuit": "c1", "place": "porch lamp", "alive": false, "reach": true}))
	assert.False(t, asLeft(t, v, install.LeftDisconnected).Danger)

	v = remy.made(id, left(install.LeftSupport, put{"place": "hall ceiling", "note": "strapped to the old joists"}))
	assert.Contains(t, holding(v), "snag: Fixed for now: hall ceiling")
	v = remy.made(id, left(install.LeftSupport, put{"place": "hall ceiling", "person": "Jana Okell", "trigger": "roof",
		"supersedes": asLeft(t, v, install.LeftSupport).Record.ID}))
	assert.NotContains(t, holding(v), "Fixed for now", "with who comes back and when it may stay")
	assert.Contains(t, asLeft(t, v, install.LeftSupport).When, "after the roof is closed")
	assert.Contains(t, w.as("tobias").pdf("/api/jobs/"+id+"/pack"), "Fixed for now: hall ceiling")

	v = remy.made(id, left(install.LeftSupply, put{"place": "workbench in the yard"}))
	assert.Subset(t, asLeft(t, v, install.LeftSupply).Lacks, []string{"its rating", "what protects it", "what hangs on it", "until when"})

	for _, bad := range []struct {
		r    put
		says string
	}{{left("dangling", put{"place": "x"}), "loose-end.left"},
		{left(install.LeftCover, nil), "loose-end.place"},
		{left(install.LeftCover, put{"circuit": "c77"}), "loose-end.circuit"},
		{left(install.LeftCover, put{"room": "r77"}), "loose-end.room"},
		{left(install.LeftCover, put{"place": "x", "ratingA": 16}), "loose-end.ratingA"},
		{left(install.LeftJoint, put{"place": "x", "loads": "a heater"}), "loose-end.protection"},
		{left(install.LeftSupply, put{"place": "x", "due": "soon"}), "loose-end.due"}} {
		remy.held(id, bad.r, 422, bad.says)
	}
}

// The points of a room are worked on one by one or all at once; nothing is boxed before the wall is looked into, and the wall is let be closed only
// once boxes, picture and tags are there. What comes out as it is pulled at opens the room again.
func TestPointsOfARoomAndTheClosingOfItsWalls(t *testing.T) {
	for _, practice := range []string{"iec230", "split120"} {
		t.Run(practice, func(t *testing.T) {
			w := serve(t)
			tobias := w.as("tobias")
			like := map[string]string{"iec230": "PW-2037", "split120": "PW-2050"}[practice]
			v := tobias.walked("PW-9470", practice, like, "study: 2 double socket, light\nstore: light")
			id := v.Id
			study, store := roomOf(v, "study"), roomOf(v, "store")
			point := func(id string) (p []install.PointStep) {
				for _, r := range tobias.read(v.Id).View.Rooms {
					for _, x := range r.Points {
						if x.Point == id {
							return x.Done
						}
					}
				}
				return nil
			}
			work := func(room *install.Room, done bool, points []string, steps ...install.PointStep) put {
				return put{"kind": "point-work", "room": room.ID, "steps": steps, "points": points, "done": done}
			}
			first := study.Points[0].ID
			tobias.made(id, work(study, true, []string{first}, install.PointMarked))
			assert.Equal(t, []install.PointStep{install.PointMarked}, point(first))
			if closed := taskOf(t, tobias.read(id), study.ID+"-boxes").Closed; strings.HasPrefix(closed, "First:") {
				tobias.held(id, work(study, true, []string{first}, install.PointBoxed), 409, "First:")
			}
			tobias.made(id, ticks(study.ID+"-locate", true))
			tobias.made(id, work(study, true, []string{first}, install.PointBoxed))
			assert.False(t, taskOf(t, tobias.read(id), study.ID+"-boxes").Done)
			tobias.made(id, work(study, true, nil, install.PointMarked, install.PointBoxed, install.PointCabled))
			boxes := taskOf(t, tobias.read(id), study.ID+"-boxes")
			assert.Equal(t, boxes.Done, !strings.Contains(boxes.Title, "switch"), "all of its points are: %s", boxes.Title)
			tobias.made(id, ticks(study.ID+"-boxes", true))
			assert.Contains(t, point(first), install.PointCabled)
			tobias.made(id, work(study, false, []string{first}, install.PointCabled))
			assert.False(t, taskOf(t, tobias.read(id), study.ID+"-boxes").Done, "a cable that came out opens it again")
			tobias.made(id, work(study, true, []string{first}, install.PointCabled))
			assert.True(t, taskOf(t, tobias.read(id), study.ID+"-boxes").Done)

			closing := study.ID + "-close"
			tobias.held(id, ticks(closing, true), 409, "First:")
			study.Closed = "2026-11-20"
			a := tobias.part(tobias.read(id), "rooms/"+study.ID, study)
			assert.Equal(t, 422, a.status, a.text)
			assert.Contains(t, a.text, "closed")
			photo := ticks(study.ID+"-photo", true)
			photo["note"] = "no camera"
			tobias.made(id, photo)
			tobias.held(id, ticks(closing, true), 409, "Not tagged at both ends: 3 points")
			w.as("remy").made(id, work(study, true, nil, install.PointTagged))
			w.as("remy").held(id, ticks(closing, true), 409, "apprentice")
			tobias.made(id, ticks(closing, true))
			a = tobias.part(tobias.read(id), "rooms/"+study.ID, study)
			assert.Equal(t, 200, a.status, a.text)

			// Second fix: nothing is connected that is not proved dead, and a tug that fails opens what was done.
			fit := study.ID + "-fit"
			tobias.held(id, work(study, true, nil, install.PointFitted), 409, "solat")
			tobias.made(id, tobias.isolates(id))
			tobias.held(id, ticks(fit, true), 409, "Not every conductor tugged: 3 points")
			tobias.made(id, work(study, true, nil, install.PointFitted, install.PointTugged))
			tobias.made(id, ticks(fit, true))
			assert.Contains(t, point(first), install.PointPlated, "the tick says it of all of them")
			out := work(study, false, []string{first}, install.PointTugged)
			out["passed"], out["note"] = false, "neutral of the left one"
			tobias.made(id, out)
			again := taskOf(t, tobias.read(id), fit)
			assert.False(t, again.Done)
			assert.Contains(t, again.Again, "came out")
			assert.NotContains(t, point(first), install.PointFitted)
			tobias.held(id, ticks(fit, true), 409, "Not every conductor tugged")
			tobias.made(id, work(study, true, []string{first}, install.PointFitted, install.PointTugged, install.PointPlated))
			tobias.made(id, ticks(fit, true))
			assert.True(t, taskOf(t, tobias.read(id), fit).Done)

			// What others closed all the same is noted as that, and is then on record.
			store.Closed = "2026-11-21"
			assert.Equal(t, 422, tobias.part(tobias.read(id), "rooms/"+store.ID, store).status)
			tobias.made(id, left(install.LeftCovered, put{"room": store.ID}))
			a = tobias.part(tobias.read(id), "rooms/"+store.ID, store)
			assert.Equal(t, 200, a.status, a.text)
			assert.Contains(t, holding(tobias.read(id)), "its walls were closed on 2026-11-21 and this is not done")

			for _, bad := range []struct {
				r    put
				says string
			}{{work(&install.Room{ID: "r77"}, true, nil, install.PointMarked), "point-work.room"},
				{work(study, true, []string{"p77"}, install.PointMarked), "point-work.points"},
				{work(study, true, nil, "painted"), "point-work.steps"},
				{put{"kind": "point-work", "room": study.ID, "steps": []string{"boxed"}, "done": true, "passed": false}, "point-work.passed"}} {
				tobias.held(id, bad.r, 422, bad.says)
			}
		})
	}
}
