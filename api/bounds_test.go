package api_test

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/store"
	"arvelt/store/storetest"
)

// What one job may hold is the same on a screen and in a file; the most is taken and served.
func TestAJobHoldsSoMuchAndNoMore(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	job := *c.job("PW-2037").View.Job
	grown := func(ref string, circuits, points, records int) string {
		j := job
		j.Ref, j.Circuits, j.Rooms = ref, nil, nil
		for i := range circuits {
			k := job.Circuits[0]
			k.ID, k.Name, k.Protection.Way = fmt.Sprintf("c%d", i+1), fmt.Sprintf("Circuit %d", i+1), 0
			j.Circuits = append(j.Circuits, k)
		}
		for i := 0; points > 0; i++ {
			n := min(points, 20)
			room := install.Room{ID: fmt.Sprintf("r%d", i), Name: fmt.Sprintf("Room %d", i), At: float64(i + 1)}
			install.Fill(&room)
			for k := range n {
				p := install.RoomPoint{ID: fmt.Sprintf("p%d-%d", i, k), Kind: "socket-2", Count: 1, State: install.New}
				install.Fill(&p)
				room.Points = append(room.Points, p)
			}
			j.Rooms = append(j.Rooms, room)
			points -= n
		}
		j.Records = nil
		for i := range records {
			r := install.Record{ID: fmt.Sprintf("rec-%d", i), Kind: install.LooseEnd, Note: "n", By: "B", Role: "electrician", At: time.Now().UTC()}
			install.Fill(&r)
			j.Records = append(j.Records, r)
		}
		var out strings.Builder
		require.NoError(t, handover.Write(&out, &j))
		return out.String()
	}
	for field, file := range map[string]string{"circuits": grown("M-1", install.MaxCircuits+1, 0, 0), "points": grown("M-2", 1, install.MaxPoints+1, 0),
		"records": grown("M-3", 1, 0, install.MaxRecords+1)} {
		a := c.do("POST", "/api/jobs/import", file)
		require.Equal(t, 422, a.status, "%s: %.300s", field, a.text)
		assert.Equal(t, field, (*a.problem(t).Fields)[0].Field)
	}
	a := c.do("POST", "/api/jobs/import", grown("M-4", install.MaxCircuits, 1000, 4000))
	require.Equal(t, 201, a.status, "%.300s", a.text)
	v := c.job("M-4")
	assert.Len(t, v.View.Job.Circuits, install.MaxCircuits)
	assert.Equal(t, 200, c.do("GET", "/api/jobs/"+v.Id+"/circuits", nil).status)
	more := v.View.Job.Circuits[0]
	more.ID = "c999"
	a = c.do("PUT", "/api/jobs/"+v.Id+"/parts?part=circuits/c999&base=0", more)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "120")
}

// A picture that unfolds to more than a camera takes is refused before it does, and of others two unfold at a time.
func TestAPictureBombIsRefusedBeforeItUnfolds(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	id := c.job("PW-2037").Id
	var bomb bytes.Buffer
	require.NoError(t, (&png.Encoder{CompressionLevel: png.BestCompression}).Encode(&bomb, image.NewGray16(image.Rect(0, 0, 4096, 4096))))
	require.Less(t, bomb.Len(), 200_000)
	var all sync.WaitGroup
	for i := range 12 {
		all.Add(1)
		go func() {
			defer all.Done()
			r, err := http.NewRequest("POST", w.url+"/api/jobs/"+id+"/photos?subject=board", bytes.NewReader(bomb.Bytes()))
			if !assert.NoError(t, err) {
				return
			}
			r.Header.Set("Cookie", c.cookie)
			r.Header.Set("Content-Type", "image/png")
			r.Header.Set("Idempotency-Key", fmt.Sprintf("a-bomb-%04d", i))
			res, err := http.DefaultClient.Do(r)
			if assert.NoError(t, err) {
				res.Body.Close()
				assert.Equal(t, http.StatusUnsupportedMediaType, res.StatusCode)
			}
		}()
	}
	all.Wait()
}

// A job that somebody holds in the database takes nothing else with it: others are read and written, the server says how it is,
// and who waits is told in time.
func TestALockedJobHoldsNobodyElse(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	held, free := c.job("PW-2037").Id, c.job("PW-2044").Id
	ctx := context.Background()
	conn, err := pgx.ConnectConfig(ctx, storetest.Raw(t, w.st).Config().ConnConfig.Copy())
	require.NoError(t, err)
	defer conn.Close(ctx)
	tx, err := conn.Begin(ctx)
	require.NoError(t, err)
	_, err = tx.Exec(ctx, `SELECT 1 FROM job WHERE id = $1 FOR UPDATE`, held)
	require.NoError(t, err)
	note := put{"kind": "loose-end", "note": "n"}
	writers := make(chan int, 30)
	for range cap(writers) {
		go func() {
			own := &client{world: w, cookie: c.cookie}
			writers <- own.add(held, note).status
		}()
	}
	require.Eventually(t, func() bool { // some of them wait for the row
		var n int
		err := conn.QueryRow(ctx, `SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'`).Scan(&n)
		return err == nil && n > 0
	}, 5*time.Second, 10*time.Millisecond)
	for _, path := range []string{"/healthz", "/api/session", "/api/jobs", "/api/jobs/" + held, "/api/jobs/" + free} {
		assert.Equal(t, 200, c.do("GET", path, nil).status, path)
	}
	assert.Equal(t, 200, c.add(free, note).status)
	assert.Equal(t, 503, <-writers, "who waited too long is told")
	require.NoError(t, tx.Rollback(ctx))
	for range cap(writers) - 1 {
		assert.Contains(t, []int{200, 503}, <-writers)
	}
	assert.Equal(t, 200, c.add(held, note).status)
}

// Pictures for a job that somebody holds wait for it without their turn: a picture of another job is taken meanwhile.
func TestWhoWaitsForAJobHoldsNoTurn(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	held, free := c.job("PW-2037").Id, c.job("PW-2052").Id
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 64, 64))))
	conn, err := pgx.ConnectConfig(t.Context(), storetest.Raw(t, w.st).Config().ConnConfig.Copy())
	require.NoError(t, err)
	defer conn.Close(context.Background())
	tx, err := conn.Begin(t.Context())
	require.NoError(t, err)
	_, err = tx.Exec(t.Context(), `SELECT FROM job WHERE id = $1 FOR UPDATE`, held)
	require.NoError(t, err)
	send := func(job, key string) int {
		own := &client{world: w, cookie: c.cookie}
		return own.do("POST", "/api/jobs/"+job+"/photos?subject=c1", picture.String(), "Content-Type", "image/png", "Idempotency-Key", key).status
	}
	waiting := make(chan int, 8)
	for i := range cap(waiting) {
		go func() { waiting <- send(held, fmt.Sprintf("a-held-picture-%d", i)) }()
	}
	require.Eventually(t, func() bool {
		var n int
		err := conn.QueryRow(t.Context(), `SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'`).Scan(&n)
		return err == nil && n > 0
	}, 5*time.Second, 10*time.Millisecond)
	assert.Equal(t, 200, send(free, "a-free-picture"))
	assert.Empty(t, waiting, "they still wait")
	require.NoError(t, tx.Rollback(t.Context()))
	for range cap(waiting) {
		assert.Contains(t, []int{200, 503}, <-waiting)
	}
}

// A database that takes no writes is not ready, whatever it reads.
func TestReadyMeansThatItTakesAWrite(t *testing.T) {
	w := serve(t)
	_, err := storetest.Raw(t, w.st).Exec(context.Background(), `DROP TABLE heartbeat`)
	require.NoError(t, err)
	a := w.stranger().do("GET", "/healthz", nil)
	assert.Equal(t, 503, a.status)
	assert.Contains(t, a.text, "lives and is not ready")
}

// An answer repeats no more than a little of what was sent.
func TestAnErrorRepeatsLittle(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	id := c.job("PW-2037").Id
	long := strings.Repeat("x", 100_000)
	for name, a := range map[string]answer{
		"kind":     c.do("POST", "/api/jobs", put{"ref": "L-1", "title": "t", "kind": long}),
		"practice": c.do("POST", "/api/jobs", put{"ref": "L-2", "title": "t", "kind": "rewire", "practice": long}),
		"record":   c.add(id, put{"kind": long}),
		"field":    c.add(id, put{"kind": "loose-end", "note": "n", long: 1}),
		"part":     c.do("PUT", "/api/jobs/"+id+"/parts?part="+long[:5000]+"&base=1", put{}),
		"path":     c.do("GET", "/api/"+long[:5000], nil),
		"email":    c.do("POST", "/api/session", put{"email": long, "password": "x"}),
	} {
		assert.GreaterOrEqual(t, a.status, 400, name)
		assert.Less(t, len(a.text), 2500, "%s: %.200s", name, a.text)
	}
}

// A database of a newer Arvelt is left alone.
func TestANewerDatabaseIsRefused(t *testing.T) {
	url := storetest.URL(t)
	st, err := store.Open(context.Background(), url)
	require.NoError(t, err)
	_, err = storetest.Raw(t, st).Exec(context.Background(), `INSERT INTO goose_db_version (version_id, is_applied) VALUES (99999, true)`)
	require.NoError(t, err)
	st.Close()
	_, err = store.Open(context.Background(), url)
	assert.ErrorContains(t, err, "newer Arvelt")
}

func TestHealthSaysWhenTheDatabaseIsGone(t *testing.T) {
	w := serve(t)
	c := &client{world: w}
	assert.Equal(t, 200, c.do("GET", "/healthz", nil).status)
	ctx := context.Background()
	config := storetest.Raw(t, w.st).Config().ConnConfig.Copy()
	name := config.Database
	config.Database = "postgres"
	other, err := pgx.ConnectConfig(ctx, config)
	require.NoError(t, err)
	defer other.Close(ctx)
	allow := func(yes bool) {
		_, err := other.Exec(ctx, fmt.Sprintf(`ALTER DATABASE %q ALLOW_CONNECTIONS %v`, name, yes))
		require.NoError(t, err)
	}
	allow(false)
	defer allow(true)
	var a answer
	require.Eventually(t, func() bool { a = c.do("GET", "/healthz", nil); return a.status == 503 }, 5*time.Second, 20*time.Millisecond)
	a.problem(t)
}
