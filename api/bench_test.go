package api_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/demo"
	"arvelt/store"
	"arvelt/store/storetest"
)

// BenchmarkReads measures two reads over HTTP, each beside a handler that does
// one bare pgx select returning the same rows and bytes through the same pool
// and router, signed in alike. docs/performance.md says how they are compared.
func BenchmarkReads(b *testing.B) {
	ctx := context.Background()
	st := storetest.New(b)
	_, err := demo.Load(ctx, st)
	require.NoError(b, err)
	company, err := st.CompanyByName(ctx, demo.Company)
	require.NoError(b, err)
	scope := st.For(company)
	people, err := st.DemoPeople(ctx)
	require.NoError(b, err)
	var sample install.Job
	for i := 0; ; i++ {
		rows, err := scope.Jobs(ctx, store.Find{})
		require.NoError(b, err)
		if len(rows.Jobs) >= 50 {
			break
		}
		if i == 0 {
			id, err := scope.JobID(ctx, "PW-2046")
			require.NoError(b, err)
			l, err := scope.Job(ctx, people[0], id)
			require.NoError(b, err)
			sample = l.Job
		}
		sample.Ref = fmt.Sprintf("B-%d", i)
		_, err = scope.Create(ctx, people[0], fmt.Sprintf("bench-%04d", i), sample)
		require.NoError(b, err)
	}

	router, url, cookie := opened(b, st, people[0].ID)
	transport := &http.Transport{MaxIdleConnsPerHost: 64}
	get := func(path string) []byte {
		req, err := http.NewRequest("GET", url+path, nil)
		require.NoError(b, err)
		req.Header.Set("Cookie", cookie)
		res, err := transport.RoundTrip(req)
		require.NoError(b, err)
		defer res.Body.Close()
		body, err := io.ReadAll(res.Body)
		require.NoError(b, err)
		require.Equal(b, 200, res.StatusCode, string(body[:min(200, len(body))]))
		return body
	}
	id, err := scope.JobID(ctx, "PW-2046")
	require.NoError(b, err)

	raw := storetest.Raw(b, st)
	_, err = raw.Exec(ctx, `CREATE TABLE bare (read text, n integer, body text)`)
	require.NoError(b, err)
	_, err = raw.Exec(ctx, `CREATE INDEX ON bare (read, n)`)
	require.NoError(b, err)
	sheet, list := string(get("/api/jobs/"+id+"/circuits")), string(get("/api/jobs"))
	_, err = raw.Exec(ctx, `INSERT INTO bare VALUES ('sheet', 0, $1)`, sheet)
	require.NoError(b, err)
	rows := strings.SplitAfter(strings.TrimPrefix(list, `{"jobs":[`), "},")
	require.Len(b, rows, 50)
	for i, r := range rows {
		_, err = raw.Exec(ctx, `INSERT INTO bare VALUES ('list', $1, $2)`, i, r)
		require.NoError(b, err)
	}
	bare := func(read, open, shut string) gin.HandlerFunc {
		return func(c *gin.Context) {
			rows, err := raw.Query(c, `SELECT body FROM bare WHERE read = $1 ORDER BY n`, read)
			if err != nil {
				c.AbortWithStatus(500)
				return
			}
			defer rows.Close()
			out := append(make([]byte, 0, 32<<10), open...)
			for rows.Next() {
				out = append(out, rows.RawValues()[0]...)
			}
			c.Data(200, "application/json; charset=utf-8", append(out, shut...))
		}
	}
	router.GET("/bare/sheet", bare("sheet", "", ""))
	router.GET("/bare/list", bare("list", `{"jobs":[`, ""))
	require.Equal(b, sheet, string(get("/bare/sheet")))
	require.Equal(b, list, string(get("/bare/list")))

	for _, r := range []struct{ name, path string }{{"circuits-sheet", "/api/jobs/" + id + "/circuits"},
		{"circuits-sheet-bare", "/bare/sheet"}, {"jobs-list-50", "/api/jobs"}, {"jobs-list-50-bare", "/bare/list"}} {
		b.Run(r.name, func(b *testing.B) {
			b.SetParallelism(4)
			b.RunParallel(func(pb *testing.PB) {
				for pb.Next() {
					get(r.path)
				}
			})
		})
	}
}

// BenchmarkEdit measures one saved edit of a house of 12 rooms and 90 points,
// recomputed and answered, beside a handler that writes the same room as one row
// through the same pool and router, signed in alike.
func BenchmarkEdit(b *testing.B) {
	ctx := context.Background()
	st := storetest.New(b)
	_, err := demo.Load(ctx, st)
	require.NoError(b, err)
	company, err := st.CompanyByName(ctx, demo.Company)
	require.NoError(b, err)
	people, err := st.DemoPeople(ctx)
	require.NoError(b, err)
	scope := st.For(company)
	id, err := scope.JobID(ctx, "PW-2044")
	require.NoError(b, err)
	l, err := scope.Job(ctx, people[0], id)
	require.NoError(b, err)
	require.GreaterOrEqual(b, l.View().Walk.House.Total.Left(), 90)
	require.GreaterOrEqual(b, len(l.Job.Rooms), 12)
	room := l.Job.Rooms[1]

	router, url, cookie := opened(b, st, people[0].ID)
	transport := &http.Transport{MaxIdleConnsPerHost: 8}
	n, tag := 0, ""
	// As a browser does it: each write says which answer it has.
	learn := func(answer []byte) {
		var a struct {
			Tag   string
			Patch []struct {
				Path  string
				Value any
			}
		}
		require.NoError(b, json.Unmarshal(answer, &a))
		if a.Tag != "" {
			tag = a.Tag
		}
		for _, op := range a.Patch {
			if op.Path == "/tag" {
				tag = op.Value.(string)
			}
		}
	}
	bytesOut := 0
	put := func(path string, body []byte) int {
		req, err := http.NewRequest("PUT", url+path, bytes.NewReader(body))
		require.NoError(b, err)
		n++
		req.Header.Set("Cookie", cookie)
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set("Idempotency-Key", fmt.Sprintf("bench-edit-%08d", n))
		req.Header.Set("Job-Tag", tag)
		res, err := transport.RoundTrip(req)
		require.NoError(b, err)
		defer res.Body.Close()
		answer, err := io.ReadAll(res.Body)
		require.NoError(b, err)
		if strings.HasPrefix(path, "/api/") {
			learn(answer)
			bytesOut = len(answer)
		}
		return res.StatusCode
	}
	raw := storetest.Raw(b, st)
	_, err = raw.Exec(ctx, `CREATE TABLE bare_room (id text PRIMARY KEY, body jsonb)`)
	require.NoError(b, err)
	router.PUT("/bare/room", func(c *gin.Context) {
		body, err := io.ReadAll(c.Request.Body)
		if err == nil {
			_, err = raw.Exec(c, `INSERT INTO bare_room (id, body) VALUES ($1, $2) ON CONFLICT (id) DO UPDATE SET body = $2`, "one",
				body)
		}
		if err != nil {
			c.AbortWithStatus(500)
			return
		}
		c.Data(200, "application/json; charset=utf-8", body)
	})
	version := l.Versions["rooms/"+room.ID]
	edit := func() (string, []byte) {
		room.Points[0].Count = 1 + n%9
		body, err := json.Marshal(room)
		require.NoError(b, err)
		path := fmt.Sprintf("/api/jobs/%s/parts?part=rooms/%s&base=%d", id, room.ID, version)
		return path, body
	}
	// The two take turns, so that what else the machine does meets both alike.
	var edits, bares []float64
	for b.Loop() {
		path, body := edit()
		at := time.Now()
		require.Equal(b, 200, put(path, body))
		edits = append(edits, time.Since(at).Seconds()*1e3)
		version++
		at = time.Now()
		require.Equal(b, 200, put("/bare/room", body))
		bares = append(bares, time.Since(at).Seconds()*1e3)
	}
	mean := func(ms []float64) float64 {
		sum := 0.0
		for _, v := range ms {
			sum += v
		}
		return sum / float64(len(ms))
	}
	b.ReportMetric(mean(edits)/mean(bares), "times-bare-mean")
	median := func(ms []float64) float64 { slices.Sort(ms); return ms[len(ms)/2] }
	b.ReportMetric(float64(bytesOut), "bytes-answered")
	b.ReportMetric(median(edits), "edit-ms")
	b.ReportMetric(median(bares), "bare-ms")
	b.ReportMetric(median(edits)/median(bares), "times-bare")
}

// opened serves the store over HTTP and signs a person in.
func opened(b *testing.B, st *store.Store, person string) (router *gin.Engine, url, cookie string) {
	s, err := api.New(st, api.Options{DemoSignIn: true})
	require.NoError(b, err)
	router = s.Router()
	srv := httptest.NewServer(router)
	b.Cleanup(func() { srv.CloseClientConnections(); srv.Close(); s.Close() })
	res, err := http.Post(srv.URL+"/api/demo", "application/json", strings.NewReader(`{"personId":"`+person+`"}`))
	require.NoError(b, err)
	res.Body.Close()
	return router, srv.URL, res.Cookies()[0].String()
}

// BenchmarkOpenPages measures an edit of a company of 500 and of 50,000 jobs whose list 100 people have
// open: each is told of it and asks for its first page again, at most every three seconds, as the page does.
func BenchmarkOpenPages(b *testing.B) {
	const pages, again = 100, 3 * time.Second
	ctx := context.Background()
	for _, jobs := range []int{500, 50_000} {
		b.Run(fmt.Sprint(jobs), func(b *testing.B) {
			st := storetest.Open(b, demonstrated.URL(b))
			people, err := st.DemoPeople(ctx)
			require.NoError(b, err)
			scope := st.For(people[0].CompanyID)
			id, err := scope.JobID(ctx, "PW-2044")
			require.NoError(b, err)
			storetest.Jobs(b, st, id, jobs)
			_, url, cookie := opened(b, st, people[0].ID)
			transport := &http.Transport{MaxIdleConnsPerHost: pages}
			send := func(method, path, body string, n int) *http.Response {
				req, err := http.NewRequestWithContext(b.Context(), method, url+path, strings.NewReader(body))
				require.NoError(b, err)
				req.Header.Set("Cookie", cookie)
				req.Header.Set("Idempotency-Key", fmt.Sprintf("open-pages-%06d", n))
				res, err := transport.RoundTrip(req)
				if err != nil {
					return nil // the benchmark is over
				}
				return res
			}
			for range pages {
				events := send("GET", "/api/events", "", 0)
				go func() {
					defer events.Body.Close()
					var last time.Time
					for lines := bufio.NewScanner(events.Body); lines.Scan(); {
						if strings.HasPrefix(lines.Text(), "data:") && time.Since(last) > again {
							last = time.Now()
							if list := send("GET", "/api/jobs", "", 0); list != nil {
								_, _ = io.Copy(io.Discard, list.Body)
								list.Body.Close()
							}
						}
					}
				}()
			}
			l, err := scope.Job(ctx, people[0], id)
			require.NoError(b, err)
			room := l.Job.Rooms[1]
			version := l.Versions["rooms/"+room.ID]
			var edits []float64
			for b.Loop() {
				room.Points[0].Count = 1 + version%9
				body, err := json.Marshal(room)
				require.NoError(b, err)
				at := time.Now()
				res := send("PUT", fmt.Sprintf("/api/jobs/%s/parts?part=rooms/%s&base=%d", id, room.ID, version), string(body), version)
				require.Equal(b, http.StatusOK, res.StatusCode)
				_, err = io.Copy(io.Discard, res.Body)
				require.NoError(b, err)
				res.Body.Close()
				edits = append(edits, time.Since(at).Seconds()*1e3)
				version++
			}
			slices.Sort(edits)
			b.ReportMetric(edits[len(edits)/2], "edit-ms")
			transport.CloseIdleConnections()
		})
	}
}
