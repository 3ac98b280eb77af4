package api_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/store/storetest"
)

// wire sends a request as a browser does and returns the answer as it came over the wire.
func (c *client) wire(method, path string, body any, headers ...string) (status int, bytes int, got http.Header) {
	c.Helper()
	text, err := json.Marshal(body)
	require.NoError(c, err)
	req, err := http.NewRequest(method, c.url+path, strings.NewReader(string(text)))
	require.NoError(c, err)
	req.Header.Set("Cookie", c.cookie)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Accept-Encoding", "gzip")
	req.Header.Set("Idempotency-Key", uuid.NewString())
	for i := 0; i < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	res, err := http.DefaultTransport.RoundTrip(req)
	require.NoError(c, err)
	defer res.Body.Close()
	all, err := io.ReadAll(res.Body)
	require.NoError(c, err)
	return res.StatusCode, len(all), res.Header
}

// A write that says which answer the browser has is told what differs from it, the new verdict
// among it; applied, that is the job as it is now.
func TestAWriteIsAnsweredWithWhatDiffers(t *testing.T) {
	w := serve(t)
	jana, tobias := w.as("jana"), w.as("tobias")
	v := jana.job("PW-2052")
	require.Len(t, v.View.Job.Circuits, 12)
	jana.made(v.Id, jana.isolates(v.Id))
	had := jana.do("GET", "/api/jobs/"+v.Id, nil)
	had.into(t, &v)

	was := rowOf(t, v, "", "continuity-earth")
	reading := reads("", "continuity-earth", "Ω", 0.03)
	reading["clampA"], reading["acrossV"] = 0.02, 0.3
	a := jana.do("POST", "/api/jobs/"+v.Id+"/records", reading, "Job-Tag", v.Tag)
	require.Equal(t, 200, a.status, a.text)
	var change api.JobChange
	a.into(t, &change)
	assert.Equal(t, v.Tag, change.From)
	assert.Less(t, len(a.text), 16_000, "as it is, before it is packed: the reading, and the earthing conductor that it leaves disconnected")
	patch, err := json.Marshal(change.Patch)
	require.NoError(t, err)
	ops, err := jsonpatch.DecodePatch(patch)
	require.NoError(t, err)
	text, err := ops.Apply([]byte(had.text))
	require.NoError(t, err)
	var now, fresh api.JobView
	require.NoError(t, json.Unmarshal(text, &now))
	jana.do("GET", "/api/jobs/"+v.Id, nil).into(t, &fresh)
	assert.NotEqual(t, was.Verdict, rowOf(t, now, "", "continuity-earth").Verdict, "the new verdict is in the answer")
	fresh.Tag = now.Tag
	assert.Equal(t, fresh, now)

	// The same over the wire, packed; and what another has changed is a difference too.
	site := now.View.Job.Site
	site.Town = "Elsewhere"
	require.Equal(t, 200, tobias.part(now, "site", site).status)
	status, bytes, _ := jana.wire("GET", "/api/jobs/"+v.Id, nil, "Job-Tag", now.Tag)
	assert.Equal(t, 200, status)
	assert.Less(t, bytes, 1000)
	_, whole, _ := jana.wire("GET", "/api/jobs/"+v.Id, nil)
	status, bytes, _ = jana.wire("POST", "/api/jobs/"+v.Id+"/records", reads("", "continuity-bond", "Ω", 0.03), "Job-Tag", now.Tag)
	assert.Equal(t, 200, status)
	assert.Less(t, bytes, 5000)
	t.Logf("a reading: %d bytes as it is, %d on the line; the whole job %d and %d", len(a.text), bytes, len(had.text), whole)

	// A tag that nobody has, or that of another job: the whole job.
	for _, tag := range []string{"", uuid.NewString(), jana.job("PW-2037").Tag, strings.Repeat("x", 900)} {
		a = jana.do("GET", "/api/jobs/"+v.Id, nil, "Job-Tag", tag)
		var whole api.JobView
		a.into(t, &whole)
		assert.NotNil(t, whole.View.Job, tag)
	}
}

// What a browser has of a sheet is not sent again while it is so, whatever else of the job moved.
func TestASheetIsSentOnceWhileItIsSo(t *testing.T) {
	w := serve(t)
	jana, nobody := w.as("jana"), &client{world: w}
	v := jana.job("PW-2052")
	jana.made(v.Id, jana.isolates(v.Id))
	for _, sheet := range []string{"/circuits", "/supply", "/outdoor", "/desk", "/case"} {
		path := "/api/jobs/" + v.Id + sheet
		_, full, h := jana.wire("GET", path, nil)
		require.NotEmpty(t, h.Get("ETag"), sheet)
		assert.Equal(t, "private, no-cache", h.Get("Cache-Control"))
		status, bytes, _ := jana.wire("GET", path, nil, "If-None-Match", h.Get("ETag"))
		assert.Equal(t, 304, status, sheet)
		assert.Zero(t, bytes, "%s: %d bytes before", sheet, full)
		status, _, _ = nobody.wire("GET", path, nil, "If-None-Match", h.Get("ETag"))
		assert.Equal(t, 401, status, "whoever is not signed in learns nothing")
	}
	_, _, h := jana.wire("GET", "/api/jobs/"+v.Id+"/circuits", nil)
	jana.made(v.Id, reads("", "continuity-earth", "Ω", 0.03))
	status, _, _ := jana.wire("GET", "/api/jobs/"+v.Id+"/circuits", nil, "If-None-Match", h.Get("ETag"))
	assert.Equal(t, 304, status, "a reading of the earth moves no circuit's design")
	c := v.View.Job.Circuits[0]
	c.Protection.RatingA = 16
	require.Equal(t, 200, jana.part(jana.job("PW-2052"), "circuits/"+c.ID, c).status)
	status, _, _ = jana.wire("GET", "/api/jobs/"+v.Id+"/circuits", nil, "If-None-Match", h.Get("ETag"))
	assert.Equal(t, 200, status)
}

// A commit that the database does not answer is said to be not known, never not saved; the same
// write under the same key settles it.
func TestALostAnswerIsToldAsNotKnown(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2046")
	ctx := t.Context()
	for _, sql := range []string{
		`CREATE FUNCTION breaks() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM pg_terminate_backend(pg_backend_pid());
			RETURN NULL; END $$`,
		`CREATE CONSTRAINT TRIGGER breaks AFTER UPDATE ON job_part DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION breaks()`} {
		_, err := storetest.Raw(t, w.st).Exec(ctx, sql)
		require.NoError(t, err)
	}
	site := v.View.Job.Site
	site.Town = "Elsewhere"
	key := uuid.NewString()
	save := func() answer {
		return c.do("PUT", fmt.Sprintf("/api/jobs/%s/parts?part=site&base=%d", v.Id, v.Versions["site"]), site, "Idempotency-Key", key)
	}
	a := save()
	assert.Equal(t, 503, a.status, a.text)
	assert.Contains(t, a.problem(t).Title, "It is not known whether this was saved")
	_, err := storetest.Raw(t, w.st).Exec(ctx, `DROP TRIGGER breaks ON job_part`)
	require.NoError(t, err)
	assert.Equal(t, 200, save().status)
	assert.Equal(t, 200, save().status, "answered, not done again")
	assert.Equal(t, v.Versions["site"]+1, c.job("PW-2046").Versions["site"])
}
