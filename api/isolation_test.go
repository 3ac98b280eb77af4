package api_test

import (
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/isolate"
)

// deadPlan asks what is to be opened to work at a place.
func (c *client) deadPlan(id, place string, open ...string) (p isolate.Plan) {
	c.Helper()
	q := url.Values{"place": {place}, "open": open}
	c.do("GET", "/api/jobs/"+id+"/dead?"+q.Encode(), nil).into(c.T, &p)
	return p
}

// A step opens for what is opened, locked and read dead where it is done: one circuit's device opens no work at the board, the sources of the
// job's own are opened too, and each place is read. In both practices.
func TestWorkOpensWhereItIsDead(t *testing.T) {
	c := serve(t).as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk, next string }{
		"iec230":   {"PW-9601", "PW-2052", wholeWalk230, "Main switch"},
		"split120": {"PW-9602", "PW-2054", wholeWalk120, "Main breaker"},
	} {
		v := c.taken(x.ref, practice, x.like, x.walk)
		id := v.Id
		room, k := roomOnOneCircuit(t, v)
		fit := room + "-fit"
		c.firstFix(v)
		closed := func(task string) string { return taskOf(t, c.read(id), task).Closed }
		assert.Contains(t, closed(fit), "your own isolation of today")
		assert.Contains(t, closed(k.ID+"-board"), "To open: "+x.next)

		// The device of one circuit: its own place may be proved, the board stays live.
		iso := opens(c.read(id), func(d isolate.Device) bool { return d.ID == "circuit:"+k.ID })
		iso["proofs"] = []put{dead(placeOf(t, v, "circuit:"+k.ID), 0.4)}
		v = c.made(id, iso)
		require.NotNil(t, v.View.Tests.Isolation)
		assert.Contains(t, closed(k.ID+"-board"), "is still live from the supply. Open and lock: "+x.next)

		// The whole board, read at the board alone: the room is expected dead and was not read.
		iso = opens(c.read(id), func(d isolate.Device) bool { return d.Kind == isolate.SwitchKind || d.Kind == isolate.SourceKind })
		iso["proofs"] = []put{dead(placeOf(t, v, "board:"), 0.4)}
		v = c.made(id, iso)
		task := taskOf(t, v, fit)
		assert.Contains(t, task.Closed, "is expected dead and was not read")
		assert.Equal(t, "room:"+room, task.Prove)

		// Read there, with a cable more than the model has, then with a pair missing, then well.
		at := placeOf(t, v, "room:"+room)
		require.Positive(t, at.Cables)
		proof := put{"kind": "proved-dead", "subject": v.View.Tests.Isolation.ID, "tester": "Tarn V2, no. 11", "testerKind": "contact",
			"serves": v.View.Tests.Isolation.ID, "provedAfter": true, "proofs": []put{dead(at, 0.4)}}
		more := dead(at, 0.4)
		more["cables"] = at.Cables + 1
		proof["proofs"] = []put{more}
		c.made(id, proof)
		assert.NotEmpty(t, closed(fit), "a count that differs corrects the run first")
		proof["proofs"] = []put{dead(at, 0.4)}
		c.made(id, proof)
		assert.Contains(t, closed(fit), "Not every conductor tugged")
		c.made(id, put{"kind": "point-work", "room": room, "steps": []string{"fitted", "tugged"}, "done": true})
		assert.Empty(t, closed(fit))
		c.made(id, ticks(fit, true))

		// A source that comes into the installation ends what it reaches, with what is to be opened now.
		last := c.read(id).View.Job.Circuits[1]
		require.NotEqual(t, k.ID, last.ID)
		last.Serves.Backfeed = true
		require.Equal(t, 200, c.part(c.job(x.ref), "circuits/"+last.ID, last).status)
		assert.Contains(t, closed(k.ID+"-board"), "at the source on "+last.Name)
		plan := c.deadPlan(id, "board:", "main")
		assert.Equal(t, []string{"the source on " + last.Name}, plan.Live)
		require.Len(t, plan.Next, 1)
		assert.Equal(t, "own:"+last.ID, plan.Next[0].ID)
		assert.Contains(t, plan.Next[0].Note, "Its own side stays live")
		assert.Empty(t, c.deadPlan(id, "board:", "main", "own:"+last.ID).Live)
		assert.Equal(t, 404, c.do("GET", "/api/jobs/"+id+"/dead?place=attic", nil).status)
		assert.Equal(t, 400, c.do("GET", "/api/jobs/"+id+"/dead", nil).status)
	}
}

// A helper hangs a lock of their own and works under it; the supervisor takes it off by its procedure, which is no release, and the helper
// says that they know before they work again.
func TestAHelperWorksUnderALockOfTheirOwn(t *testing.T) {
	w := serve(t)
	jana, tobias, remy := w.as("jana"), w.as("tobias"), w.as("remy")
	id := jana.job("PW-2037").Id
	iso := jana.made(id, jana.isolates(id)).View.Tests.Isolation
	assert.Nil(t, remy.read(id).View.Tests.Isolation)
	v := remy.made(id, put{"kind": "lock", "subject": iso.ID, "lockTag": "red 9"})
	require.NotNil(t, v.View.Tests.Isolation, "he works under hers")
	assert.True(t, v.View.Tests.Isolations[0].Under)
	lock := v.View.Tests.Locks[0]
	assert.Equal(t, "red 9", lock.LockTag)

	var rows api.JobPage
	w.as("dot").do("GET", "/api/jobs?q=PW-2037", nil).into(t, &rows)
	require.Len(t, rows.Jobs, 1)
	assert.Equal(t, "Remy Stroud red 9; Jana Okell padlock 4", rows.Jobs[0].Locks, "the office sees whose they are")

	off := put{"kind": "lock-off", "subject": lock.ID, "note": "went home at four"}
	jana.held(id, off, 403, "only its owner takes it off")
	tobias.held(id, off, 422, "lock-off.walked")
	off["reached"], off["walked"] = "rang him, he answered", "Tobias Marrick, both floors"
	v = tobias.made(id, off)
	assert.Len(t, v.View.Tests.Locks, 1)
	v = remy.read(id)
	require.Len(t, v.View.Tests.Removed, 1)
	assert.Equal(t, "rang him, he answered", v.View.Tests.Removed[0].Reached)
	assert.Contains(t, rowOf(t, v, "c1", "r1r2").Closed, "Your lock was taken off by Tobias Marrick")
	told := put{"kind": "lock-told", "subject": v.View.Tests.Removed[0].ID}
	jana.held(id, told, 409, "No lock of yours")
	v = remy.made(id, told)
	assert.Empty(t, v.View.Tests.Removed)
	remy.held(id, told, 409, "said so already")
	assert.Contains(t, tobias.pdf("/api/jobs/"+id+"/pack"), "rang him, he answered")
}

// A day is booked for a way: another way that is chosen afterwards is booked by nobody, and a visit for the day is of the day.
func TestAVisitIsBookedForItsWayAndDay(t *testing.T) {
	c := serve(t).as("tobias")
	lawful := func() string {
		a := c.do("GET", "/api/jobs/"+c.job("PW-2038").Id+"/supply", nil)
		var sheet struct {
			Outage struct {
				Checks []struct{ What, Summary string }
			}
		}
		a.into(t, &sheet)
		for _, k := range sheet.Outage.Checks {
			if k.What == "A lawful isolation" {
				return k.Summary
			}
		}
		require.Fail(t, "not on the list", a.text)
		return ""
	}
	put := func(change func(*install.Outage)) {
		v := c.job("PW-2038")
		o := v.View.Job.Outage
		change(&o)
		a := c.part(v, "outage", o)
		require.Equal(t, 200, a.status, a.text)
	}
	day := c.job("PW-2038").View.Job.Outage.Day
	put(func(o *install.Outage) { o.Route, o.BookedOn = "operator-fuse", "2026-01-10" })
	assert.Contains(t, lawful(), "booked for 2026-01-10, and the supply goes off on "+day)
	put(func(o *install.Outage) { o.BookedOn = day })
	assert.Contains(t, lawful(), "The operator pulls the fuse and puts it back, booked for "+day)
	put(func(o *install.Outage) { o.Route = "operator-isolator" })
	assert.Contains(t, lawful(), "the day that is booked is of another way")
	assert.Equal(t, "operator-fuse", c.job("PW-2038").View.Job.Outage.BookedFor)
	put(func(o *install.Outage) { o.BookedFor = "operator-isolator" })
	assert.Contains(t, lawful(), "The operator fits an isolator, booked for "+day)
}

// On the day of a new service the tests are done by their readings, and the permission waits for all that comes before the supply is back:
// each is listed with the sheet on which it is mended.
func TestTheDayOfANewServiceWaitsForWhatComesFirst(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2054")
	c.held(v.Id, ticks("outage-dead-tests", true), 409, "First:")
	why := map[string]string{}
	for _, x := range v.View.Tests.Waits() {
		why[x.Why] = string(x.Sheet)
	}
	assert.Equal(t, why[v.View.Tests.MayEnergise()], "test")
	for _, task := range v.View.Tasks {
		switch {
		case task.ID == "service-10", task.ID == "service-11", task.ID == "service-12":
			assert.Equal(t, "second-fix", why["Not done yet: "+task.Title+"."], task.ID)
		case task.ID == "outage-energise":
			for _, first := range []string{"service-10", "service-11", "service-12", "outage-dead-tests"} {
				assert.Contains(t, task.After, first)
			}
		}
	}
	assert.Greater(t, len(why), 20)
}

// placeOf is a place of a job by its id.
func placeOf(t *testing.T, v api.JobView, id string) isolate.Place {
	t.Helper()
	for _, p := range v.View.Tests.Places {
		if p.ID == id {
			return p
		}
	}
	require.Fail(t, "no place "+id)
	return isolate.Place{}
}

// roomOnOneCircuit is a room with new points, and the circuit that they stand on.
func roomOnOneCircuit(t *testing.T, v api.JobView) (string, *install.Circuit) {
	t.Helper()
	for i := range v.View.Job.Circuits {
		k := &v.View.Job.Circuits[i]
		for _, b := range k.Serves.Boxes {
			if b.Room != "" && b.Point != "" {
				return b.Room, k
			}
		}
	}
	require.Fail(t, "no room on a circuit")
	return "", nil
}
