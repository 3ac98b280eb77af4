package api_test

import (
	"context"
	"net/http"
	"net/url"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/demo"
	"arvelt/store"
)

// What a phone still holds when somebody else ends its session goes to the supervisor: taken over it
// is on record in the name of who made it, as of when, judged as every write; set aside it is kept
// with the reason. Nobody else can hand in, see or decide it.
func TestWhatAnEndedSessionLeaves(t *testing.T) {
	w := serve(t)
	jana, tobias, other := w.as("jana"), w.as("tobias"), w.as("jana")
	id := jana.job("PW-2037").Id
	clock := time.Now().Add(2 * time.Hour) // the phone's, two hours ahead
	records := "/api/jobs/" + id + "/records"
	// An isolation is of its day: soon after midnight less time has passed of this one.
	today := time.Now().UTC()
	ago := min(50*time.Minute, today.Sub(today.Truncate(24*time.Hour))*4/5)
	kept := func(r put, ago time.Duration, seq int) put {
		r["sent"] = map[string]any{"occurredAt": clock.Add(-ago), "device": "phone-7", "seq": seq}
		return r
	}
	handIn := func(c *client, path string, seq string, body any, key string) answer {
		return c.do("POST", "/api/left?seq="+seq+"&path="+url.QueryEscape(path), body, "Idempotency-Key", key, "Device-Time",
			clock.Format(time.RFC3339Nano))
	}
	iso, tick, walk := kept(jana.isolates(id), ago, 1), kept(ticks("c1-point", true), ago*4/5, 2), put{"text": "nonsense"}

	var me api.Me
	jana.do("GET", "/api/session", nil).into(t, &me)
	assert.Equal(t, http.StatusUnauthorized, handIn(jana, records, "1", iso, "waiting-0").status, "only what an ended session left")
	assert.Equal(t, http.StatusForbidden, w.as("dot").do("DELETE", "/api/people/"+me.Id+"/sessions", nil).status)
	require.Equal(t, http.StatusNoContent, tobias.do("DELETE", "/api/people/"+me.Id+"/sessions", nil).status)

	a := jana.do("GET", "/api/jobs", nil)
	require.Equal(t, http.StatusUnauthorized, a.status)
	p := a.problem(t)
	require.NotNil(t, p.Ended, "whose session it was, so that no other's is handed in")
	assert.Equal(t, me.Id, p.Ended.PersonId)
	assert.Equal(t, "Tobias Marrick", p.Ended.By)
	assert.Equal(t, http.StatusUnauthorized, other.do("GET", "/api/session", nil).status, "each session of hers, on every device")

	// Handed in out of order and one of them twice.
	assert.Equal(t, http.StatusNoContent, handIn(jana, records, "2", tick, "waiting-2").status)
	for range 2 {
		assert.Equal(t, http.StatusNoContent, handIn(jana, records, "1", iso, "waiting-1").status)
	}
	assert.Equal(t, http.StatusNoContent, handIn(jana, "/api/jobs/"+id+"/walk", "3", walk, "waiting-3").status)
	for _, path := range []string{"/api/company", "/api/jobs/" + id + "/undo", "//elsewhere.example/api/jobs/" + id + "/records"} {
		assert.Equal(t, http.StatusUnprocessableEntity, handIn(jana, path, "4", iso, "waiting-4").status, path)
	}

	assert.Equal(t, http.StatusForbidden, w.as("remy").do("GET", "/api/left", nil).status)
	var left []api.Left
	tobias.do("GET", "/api/left", nil).into(t, &left)
	require.Len(t, left, 3)
	assert.Equal(t, "Jana Okell", left[0].Person)
	assert.Equal(t, []api.LeftWhat{api.LeftWhatRecord, api.LeftWhatRecord, api.LeftWhatWalk}, []api.LeftWhat{left[0].What, left[1].What,
		left[2].What}, "in the phone's order")
	assert.InDelta(t, ago.Minutes(), time.Since(left[0].OccurredAt).Minutes(), 0.5, "by the server's clock")

	decide := func(i int, take bool, reason string) answer {
		return tobias.do("POST", "/api/left/"+left[i].Id, put{"take": take, "reason": reason})
	}
	// The tick needs the isolation first: it is refused as it would have been, and still waits.
	a = decide(1, true, "")
	assert.Equal(t, http.StatusConflict, a.status)
	assert.Equal(t, http.StatusNoContent, decide(0, true, "").status)
	assert.Equal(t, http.StatusNoContent, decide(1, true, "").status)
	assert.Equal(t, http.StatusNotFound, decide(1, true, "").status, "once")
	assert.Equal(t, http.StatusUnprocessableEntity, decide(2, false, "").status)
	assert.Equal(t, http.StatusNoContent, decide(2, false, "typed by mistake").status)
	tobias.do("GET", "/api/left", nil).into(t, &left)
	assert.Empty(t, left)

	v := tobias.job("PW-2037")
	all := v.View.Job.Current(install.Isolation)
	in := all[len(all)-1]
	assert.Equal(t, "Jana Okell", in.By)
	assert.Equal(t, me.Id, in.PersonID)
	assert.InDelta(t, ago.Minutes(), time.Since(in.At).Minutes(), 1)
	assert.InDelta(t, 7200, in.ClockOffS, 30)
	var edits []store.Edit
	tobias.do("GET", "/api/jobs/"+id+"/history", nil).into(t, &edits)
	assert.Equal(t, "Jana Okell, taken over by Tobias Marrick", edits[0].By)
	assert.Equal(t, install.RecordKind("tick"), v.View.Job.Records[len(v.View.Job.Records)-1].Kind)

	// Another company neither sees nor ends nor hands in.
	ctx := context.Background()
	firm, err := w.st.NewCompany(ctx, store.Company{Name: "Other firm", Timezone: "UTC", Settings: demo.Settings()})
	require.NoError(t, err)
	hash, err := api.HashPassword("another secret")
	require.NoError(t, err)
	_, err = w.st.NewPerson(ctx, store.Person{CompanyID: firm, Name: "O", Email: "o@other.example", Role: "owner", Hash: hash})
	require.NoError(t, err)
	stranger := &client{world: w}
	require.Equal(t, 200, stranger.do("POST", "/api/session", put{"email": "o@other.example", "password": "another secret"}).status)
	assert.Equal(t, http.StatusNotFound, stranger.do("DELETE", "/api/people/"+me.Id+"/sessions", nil).status)
	stranger.do("GET", "/api/left", nil).into(t, &left)
	assert.Empty(t, left)
	var people []api.Colleague
	stranger.do("GET", "/api/people", nil).into(t, &people)
	require.Len(t, people, 1)
	assert.Equal(t, 1, people[0].Sessions)
}
