package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"net/http"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/demo"
	"arvelt/store/storetest"
)

// hand is one person's connection to a server in a benchmark.
type hand struct {
	b      *testing.B
	url    string
	cookie string
	n      atomic.Int64
}

func (h *hand) send(method, path, kind string, body []byte) (int, []byte) {
	req, err := http.NewRequest(method, h.url+path, bytes.NewReader(body))
	require.NoError(h.b, err)
	req.Header.Set("Cookie", h.cookie)
	if body != nil {
		req.Header.Set("Content-Type", kind)
		req.Header.Set("Idempotency-Key", fmt.Sprintf("%p-%08d", h, h.n.Add(1)))
	}
	res, err := http.DefaultClient.Do(req)
	require.NoError(h.b, err)
	defer res.Body.Close()
	out, err := io.ReadAll(res.Body)
	require.NoError(h.b, err)
	for _, c := range res.Cookies() {
		h.cookie += c.Name + "=" + c.Value + "; "
	}
	return res.StatusCode, out
}

func come(b *testing.B, s *server, who string) *hand {
	h := &hand{b: b, url: s.url}
	body, err := json.Marshal(map[string]string{"email": who + "@pellmore.example", "password": demo.Password})
	require.NoError(b, err)
	status, answer := h.send("POST", "/api/session", "application/json", body)
	require.Equal(b, 200, status, string(answer))
	return h
}

// peak is the most memory that the server had so far, in MB; it begins anew with fresh.
func (s *server) peak(b *testing.B, fresh bool) float64 {
	raw, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.cmd.Process.Pid))
	require.NoError(b, err)
	kb, err := strconv.Atoi(regexp.MustCompile(`VmHWM:\s+(\d+)`).FindStringSubmatch(string(raw))[1])
	require.NoError(b, err)
	if fresh {
		require.NoError(b, os.WriteFile(fmt.Sprintf("/proc/%d/clear_refs", s.cmd.Process.Pid), []byte("5"), 0))
	}
	return float64(kb) / 1024
}

// BenchmarkOthersWhileOneCosts measures what others read, undisturbed and while one person sends what costs most: pictures that
// unfold, files beyond and within the bounds, writes to a job that is held in the database, records of a megabyte. b.N is how often
// the others read.
func BenchmarkOthersWhileOneCosts(b *testing.B) {
	s := start(b)
	reader, bad := come(b, s, "jana"), come(b, s, "tobias")
	ids := map[string]string{}
	var page struct{ Jobs []struct{ ID, Ref string } }
	_, list := reader.send("GET", "/api/jobs", "", nil)
	require.NoError(b, json.Unmarshal(list, &page))
	for _, j := range page.Jobs {
		ids[j.Ref] = j.ID
	}
	paths := []string{"/api/jobs", "/api/jobs/" + ids["PW-2044"] + "/circuits", "/api/jobs/" + ids["PW-2046"]}
	p95 := func() time.Duration {
		times := make([]time.Duration, max(b.N, 40))
		for i := range times {
			begun := time.Now()
			status, _ := reader.send("GET", paths[i%len(paths)], "", nil)
			require.Equal(b, 200, status)
			times[i] = time.Since(begun)
		}
		slices.Sort(times)
		return times[len(times)*95/100]
	}

	var bomb, most bytes.Buffer
	require.NoError(b, png.Encode(&bomb, image.NewGray16(image.Rect(0, 0, 4096, 4096))))
	require.NoError(b, png.Encode(&most, image.NewGray16(image.Rect(0, 0, 4096, 3100)))) // the largest that is taken
	_, file := bad.send("GET", "/api/jobs/"+ids["PW-2037"]+"/file", "", nil)
	beyond, within := many(b, file, "X-800", 800), many(b, file, "X-120", install.MaxCircuits)
	record := []byte(`{"kind":"loose-end","note":"` + strings.Repeat("x", 1_000_000) + `"}`)
	note := []byte(`{"kind":"loose-end","note":"n"}`)
	// Each is sent in waves of so many at once.
	attacks := []struct {
		name  string
		hands int
		send  func(i int) int
		held  bool
	}{
		{"picture bombs", 12, func(int) int {
			status, _ := bad.send("POST", "/api/jobs/"+ids["PW-2037"]+"/photos?subject=board", "image/png", bomb.Bytes())
			return status
		}, false},
		{"pictures of the largest size", 12, func(int) int {
			status, _ := bad.send("POST", "/api/jobs/"+ids["PW-2037"]+"/photos?subject=board", "image/png", most.Bytes())
			return status
		}, false},
		{"a file of 800 circuits", 1, func(int) int {
			status, _ := bad.send("POST", "/api/jobs/import", "application/json", beyond)
			return status
		}, false},
		{"a file of 120 circuits", 1, func(i int) int {
			status, _ := bad.send("POST", "/api/jobs/import?as=X-"+strconv.Itoa(i), "application/json", within)
			return status
		}, false},
		{"writes to a job that is held", 12, func(int) int {
			status, _ := bad.send("POST", "/api/jobs/"+ids["PW-2037"]+"/records", "application/json", note)
			return status
		}, true},
		{"records of a megabyte", 12, func(int) int {
			status, _ := bad.send("POST", "/api/jobs/"+ids["PW-2037"]+"/records", "application/json", record)
			return status
		}, false},
	}
	p95() // warm
	for _, a := range attacks {
		calm := p95()
		s.peak(b, true)
		release := func() {}
		if a.held {
			conn, err := storetest.Raw(b, storetest.Open(b, s.db)).Begin(context.Background())
			require.NoError(b, err)
			_, err = conn.Exec(context.Background(), `SELECT FROM job WHERE id = $1 FOR UPDATE`, ids["PW-2037"])
			require.NoError(b, err)
			release = func() { require.NoError(b, conn.Rollback(context.Background())) }
		}
		var over atomic.Bool
		var all sync.WaitGroup
		var sent atomic.Int64
		statuses := sync.Map{}
		all.Go(func() {
			for !over.Load() {
				var wave sync.WaitGroup
				for range a.hands {
					wave.Go(func() { statuses.Store(a.send(int(sent.Add(1))), true) })
				}
				wave.Wait()
				time.Sleep(pause)
			}
		})
		amid := p95()
		over.Store(true)
		all.Wait()
		release()
		said := []string{}
		statuses.Range(func(k, _ any) bool { said = append(said, fmt.Sprint(k)); return true })
		slices.Sort(said)
		fmt.Printf("%-32s calm p95 %6.2f ms, amid %7.2f ms: %5.1f times; peak %4.0f MB; %d sent, answered %s\n", a.name, ms(calm), ms(amid),
			float64(amid)/float64(calm), s.peak(b, false), sent.Load(), strings.Join(said, " "))
	}
}

// pause is between two waves.
const pause = 100 * time.Millisecond

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

// many is a job file with so many circuits, each like the first.
func many(b *testing.B, file []byte, ref string, circuits int) []byte {
	var job map[string]any
	require.NoError(b, json.Unmarshal(file, &job))
	first := job["circuits"].([]any)[0].(map[string]any)
	list := []any{}
	for i := range circuits {
		c := map[string]any{}
		for k, v := range first {
			c[k] = v
		}
		c["id"], c["name"] = fmt.Sprintf("c%d", i+1), fmt.Sprintf("Circuit %d", i+1)
		list = append(list, c)
	}
	job["circuits"], job["records"], job["seals"], job["ref"] = list, []any{}, []any{}, ref
	out, err := json.Marshal(job)
	require.NoError(b, err)
	return out
}
