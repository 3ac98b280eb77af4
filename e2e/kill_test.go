package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var rounds = flag.Int("rounds", 10, "rounds of killing the server and the database amid commands")

// cluster is a PostgreSQL of its own, durable, that may be killed.
type cluster struct {
	t    *testing.T
	bin  string
	dir  string
	port string
	cmd  *exec.Cmd
	// ended is told when the process has ended.
	ended chan error
}

// as runs a command as the user that may run PostgreSQL, who is never root.
func (c *cluster) as(cmd *exec.Cmd) *exec.Cmd {
	if os.Geteuid() == 0 {
		who, err := user.Lookup("postgres")
		require.NoError(c.t, err)
		uid, err := strconv.ParseUint(who.Uid, 10, 32)
		require.NoError(c.t, err)
		gid, err := strconv.ParseUint(who.Gid, 10, 32)
		require.NoError(c.t, err)
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}}
	} else {
		cmd.SysProcAttr = &syscall.SysProcAttr{}
	}
	cmd.SysProcAttr.Setpgid = true
	cmd.Dir = "/"
	return cmd
}

func newCluster(t *testing.T) *cluster {
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin")
	require.NoError(t, err)
	require.NotEmpty(t, found, "PostgreSQL, which ./test installs")
	dir, err := os.MkdirTemp("", "arvelt-kill")
	require.NoError(t, err)
	t.Cleanup(func() { os.RemoveAll(dir) })
	require.NoError(t, os.Chmod(dir, 0o777))
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	c := &cluster{t: t, bin: found[len(found)-1], dir: filepath.Join(dir, "pg"), port: strings.Split(ln.Addr().String(), ":")[1]}
	require.NoError(t, ln.Close())
	out, err := c.as(exec.Command(filepath.Join(c.bin, "initdb"), "-D", c.dir, "-U", "arvelt", "-A", "trust", "-E", "UTF8")).CombinedOutput()
	require.NoError(t, err, string(out))
	c.start()
	t.Cleanup(c.kill)
	return c
}

// url is its owner's address, app that of the application.
func (c *cluster) url() string { return "postgres://arvelt@127.0.0.1:" + c.port + "/postgres" }
func (c *cluster) app() string { return "postgres://arvelt_app@127.0.0.1:" + c.port + "/postgres" }

// start starts it. What a killed one left behind may take a moment to go: until then a new one
// ends at once, and is started again.
func (c *cluster) start() {
	var ended chan error
	require.Eventually(c.t, func() bool {
		select {
		case <-ended:
			ended = nil
		default:
		}
		if ended == nil {
			c.cmd = c.as(exec.Command(filepath.Join(c.bin, "postgres"), "-D", c.dir, "-p", c.port, "-k", "", "-c", "listen_addresses=127.0.0.1"))
			if c.cmd.Start() != nil {
				return false
			}
			ended = make(chan error, 1)
			go func(cmd *exec.Cmd, ended chan error) { ended <- cmd.Wait() }(c.cmd, ended)
			c.ended = ended
		}
		conn, err := pgx.Connect(context.Background(), c.url())
		if err == nil {
			conn.Close(context.Background())
		}
		return err == nil
	}, time.Minute, 50*time.Millisecond, "the database starts")
}

// kill ends the cluster at once: its first process, and the others as they find it gone.
func (c *cluster) kill() {
	_ = c.cmd.Process.Signal(syscall.SIGKILL)
	<-c.ended
	c.ended <- nil // whoever asks again is told the same
}

// gate lets workers through while the server and the database run.
type gate struct {
	mu sync.Mutex
	up chan struct{}
}

func newGate() *gate { return &gate{up: closed()} }

func closed() chan struct{} {
	c := make(chan struct{})
	close(c)
	return c
}

func (g *gate) shut() { g.mu.Lock(); g.up = make(chan struct{}); g.mu.Unlock() }
func (g *gate) open() { g.mu.Lock(); close(g.up); g.mu.Unlock() }
func (g *gate) wait() {
	g.mu.Lock()
	up := g.up
	g.mu.Unlock()
	<-up
}

// worker sends commands one after the other, each under a key of its own, again and again until
// it is acknowledged, as the queue of a browser does.
type worker struct {
	n        int
	url      string
	gate     *gate
	cookie   string
	job      string
	circuit  map[string]any
	base     int
	acked    []string // notes of records that were acknowledged
	edits    int      // edits of the worker's circuit that were acknowledged
	refusals []string
}

func (w *worker) send(ctx context.Context, method, path, key string, body any) (int, []byte, error) {
	text, err := json.Marshal(body)
	if err != nil {
		return 0, nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, 20*time.Second)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, method, w.url+path, bytes.NewReader(text))
	if err != nil {
		return 0, nil, err
	}
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Idempotency-Key", key)
	req.Header.Set("Cookie", w.cookie)
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return 0, nil, err
	}
	defer res.Body.Close()
	answer, err := io.ReadAll(res.Body)
	return res.StatusCode, answer, err
}

// settle sends one command until the server has answered it.
func (w *worker) settle(method, path string, body any) []byte {
	key := uuid.NewString()
	for {
		status, answer, err := w.send(context.Background(), method, path, key, body)
		switch {
		case err != nil || status >= 500 || status == 401:
			w.gate.wait()
		case status == 200:
			return answer
		default:
			w.refusals = append(w.refusals, fmt.Sprintf("%d %s", status, answer))
			return nil
		}
	}
}

func (w *worker) run(stop *atomic.Bool) {
	for i := 0; !stop.Load(); i++ {
		if i%2 == 0 {
			note := fmt.Sprintf("worker %d, snag %d", w.n, i)
			if w.settle("POST", "/api/jobs/"+w.job+"/records", map[string]any{"kind": "loose-end", "note": note}) != nil {
				w.acked = append(w.acked, note)
			}
			continue
		}
		w.circuit["name"] = fmt.Sprintf("worker %d, name %d", w.n, i)
		part := "circuits/" + w.circuit["id"].(string)
		answer := w.settle("PUT", fmt.Sprintf("/api/jobs/%s/parts?part=%s&base=%d", w.job, part, w.base), w.circuit)
		if answer == nil {
			continue
		}
		var view struct{ Versions map[string]int }
		if err := json.Unmarshal(answer, &view); err != nil {
			w.refusals = append(w.refusals, err.Error())
			return
		}
		w.base = view.Versions[part]
		w.edits++
	}
}

// The server and the database are killed again and again amid commands of eight people: nothing
// that was acknowledged is lost, nothing is done twice, and every queue drains.
func TestKillsAmidCommandsLoseAndDoubleNothing(t *testing.T) {
	pg := newCluster(t)
	s := &server{t: t, db: pg.app(), port: "0"}
	out, err := exec.Command("env", "DATABASE_URL="+s.db, "ARVELT_OWNER_URL="+pg.url(), binary, "demo").CombinedOutput()
	require.NoError(t, err, string(out))
	s.serve()
	at := s.url // its port stays

	var people []struct{ ID, Name, Role string }
	res, err := http.Get(at + "/api/demo")
	require.NoError(t, err)
	require.NoError(t, json.NewDecoder(res.Body).Decode(&people))
	res.Body.Close()
	ctx := context.Background()
	doors := newGate()
	workers := []*worker{}
	for i := range 8 {
		w := &worker{n: i, url: at, gate: doors}
		who := people[i%len(people)]
		for slices.Contains([]string{"office", "owner", "apprentice"}, people[i%len(people)].Role) { // who note no snag or edit no circuit
			i++
			who = people[i%len(people)]
		}
		body, err := json.Marshal(map[string]string{"personId": who.ID})
		require.NoError(t, err)
		res, err := http.Post(at+"/api/demo", "application/json", bytes.NewReader(body))
		require.NoError(t, err)
		res.Body.Close()
		require.Len(t, res.Cookies(), 1, who.Name)
		w.cookie = res.Cookies()[0].String()
		_, answer, err := w.send(ctx, "GET", "/api/jobs?q=PW-2052", "", nil)
		require.NoError(t, err)
		var list struct{ Jobs []struct{ ID string } }
		require.NoError(t, json.Unmarshal(answer, &list))
		w.job = list.Jobs[0].ID
		_, answer, err = w.send(ctx, "GET", "/api/jobs/"+w.job, "", nil)
		require.NoError(t, err)
		var view struct {
			Versions map[string]int
			View     struct {
				Job struct{ Circuits []map[string]any }
			}
		}
		require.NoError(t, json.Unmarshal(answer, &view))
		w.circuit = view.View.Job.Circuits[len(workers)]
		w.base = view.Versions["circuits/"+w.circuit["id"].(string)]
		workers = append(workers, w)
	}

	var stop atomic.Bool
	var all sync.WaitGroup
	for _, w := range workers {
		all.Go(func() { w.run(&stop) })
	}
	count := func() (n int) {
		conn, err := pgx.Connect(ctx, pg.url())
		if err != nil {
			return -1
		}
		defer conn.Close(ctx)
		if err := conn.QueryRow(ctx, `SELECT count(*) FROM edit`).Scan(&n); err != nil {
			return -1
		}
		return n
	}
	for range *rounds {
		before := count()
		require.Eventually(t, func() bool { return count() >= before+8 }, time.Minute, 5*time.Millisecond, "commands go on")
		which := rand.IntN(3)
		doors.shut()
		if which != 0 {
			pg.kill()
		}
		if which != 1 {
			s.kill()
		}
		if which != 0 {
			pg.start()
		}
		if which != 1 {
			s.serve()
		}
		doors.open()
	}
	stop.Store(true)
	all.Wait()

	conn, err := pgx.Connect(ctx, pg.url())
	require.NoError(t, err)
	defer conn.Close(ctx)
	rows, err := conn.Query(ctx, `SELECT body->>'note', count(*) FROM job_record WHERE body->>'note' LIKE 'worker %' GROUP BY 1`)
	require.NoError(t, err)
	found := map[string]int{}
	for rows.Next() {
		var note string
		var n int
		require.NoError(t, rows.Scan(&note, &n))
		found[note] = n
	}
	require.NoError(t, rows.Err())
	acked, edits := 0, 0
	for _, w := range workers {
		assert.Empty(t, w.refusals, "worker %d", w.n)
		for _, note := range w.acked {
			assert.Equal(t, 1, found[note], "%s was acknowledged", note)
		}
		acked += len(w.acked)
		edits += w.edits
		var name string
		var saved int
		err := conn.QueryRow(ctx, `SELECT body->>'name', (SELECT count(*) FROM edit e WHERE e.job_id = p.job_id AND e.part = p.part AND
			e.what LIKE 'edited %') FROM job_part p WHERE job_id = $1 AND part = $2`, w.job,
			"circuits/"+w.circuit["id"].(string)).Scan(&name, &saved)
		require.NoError(t, err)
		assert.Equal(t, w.circuit["name"], name, "the last edit of worker %d", w.n)
		assert.Equal(t, w.edits, saved, "each edit of worker %d once", w.n)
	}
	assert.Len(t, found, acked, "nothing is there that was not acknowledged once its queue drained")
	require.Positive(t, min(acked, edits))
	t.Logf("%d rounds: %d records and %d edits acknowledged, each there once", *rounds, acked, edits)
}
