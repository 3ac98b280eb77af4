// Package e2e tests the real binary with a real browser and a real database.
package e2e

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/e2e/browser"
	"arvelt/standin/desk"
	"arvelt/standin/merchant"
	"arvelt/store"
	"arvelt/store/storetest"
)

const binary = "../bin/arvelt"

// server is one running Arvelt with the demo company.
type server struct {
	t    testing.TB
	url  string
	db   string
	port string
	cmd  *exec.Cmd

	people int
	desk   *desk.Desk // the operator's, of this server alone
	deskAt string
	// merchant is the one who takes the orders of this server, at an address.
	merchant   *merchant.Merchant
	merchantAt string
}

var chromium *browser.Browser

func TestMain(m *testing.M) {
	var err error
	if chromium, err = browser.Start(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	status := m.Run()
	chromium.Close()
	os.Exit(status)
}

// secret is the server's, in its environment.
const secret = "ARVELT_SECRET=a secret of the tests, thirty-two"

// demonstrated is a database that the binary loaded the demo company into.
var demonstrated = storetest.NewTemplate("demo", func(url string) error {
	cmd := exec.Command(binary, "demo")
	cmd.Env = append(os.Environ(), "DATABASE_URL="+url, secret)
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("%w: %s", err, out)
	}
	return nil
})

func start(t testing.TB) *server {
	s := &server{t: t, db: demonstrated.URL(t), port: "0"}
	var err error
	s.desk, err = desk.New(desk.Smooth, "")
	require.NoError(t, err)
	operator := httptest.NewServer(s.desk)
	t.Cleanup(func() { operator.CloseClientConnections(); operator.Close() })
	s.deskAt = operator.URL
	s.merchant, err = merchant.New(merchant.Smooth, "")
	require.NoError(t, err)
	counter := httptest.NewServer(s.merchant)
	t.Cleanup(func() { counter.CloseClientConnections(); counter.Close() })
	s.merchantAt = counter.URL
	s.serve()
	return s
}

// serve starts the binary, on the port that it had before if it ran already.
func (s *server) serve() {
	s.cmd = exec.Command(binary, "serve")
	s.cmd.Env = append(os.Environ(), "DATABASE_URL="+s.db, "PORT="+s.port, "HOST=127.0.0.1", "ARVELT_DEMO_SIGNIN=1", secret, "ARVELT_DESK="+s.deskAt,
		"ARVELT_MERCHANT="+s.merchantAt)
	log, err := os.CreateTemp(s.t.TempDir(), "log")
	require.NoError(s.t, err)
	s.cmd.Stderr = log
	s.t.Cleanup(func() { s.tell(log) })
	out, err := s.cmd.StdoutPipe()
	require.NoError(s.t, err)
	require.NoError(s.t, s.cmd.Start())
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(s.t, err)
	_, s.url, _ = strings.Cut(strings.TrimSpace(line), "http://")
	s.port = s.url[strings.LastIndex(s.url, ":")+1:]
	s.url = "http://" + s.url
	cmd := s.cmd
	s.t.Cleanup(func() {
		if cmd.ProcessState == nil {
			assert.NoError(s.t, cmd.Process.Signal(syscall.SIGTERM))
			assert.NoError(s.t, cmd.Wait())
		}
	})
}

// tell ends the log of a server, and of a test that failed says how it ended.
func (s *server) tell(log *os.File) {
	defer log.Close()
	if !s.t.Failed() {
		return
	}
	raw, err := os.ReadFile(log.Name())
	require.NoError(s.t, err)
	lines := strings.Split(strings.TrimSpace(string(raw)), "\n")
	s.t.Logf("the server's log ends with\n%s", strings.Join(lines[max(0, len(lines)-logTail):], "\n"))
}

// logTail is how many lines of the server's log a failed test shows.
const logTail = 12

func (s *server) kill() {
	require.NoError(s.t, s.cmd.Process.Kill())
	_ = s.cmd.Wait() // reports the kill
}

// arvelt runs the command line on the server's database.
func (s *server) arvelt(args ...string) (string, int) {
	cmd := exec.Command(binary, args...)
	cmd.Env = append(os.Environ(), "DATABASE_URL="+s.db)
	out, err := cmd.Output()
	if err != nil {
		var failed *exec.ExitError
		require.ErrorAs(s.t, err, &failed)
		s.t.Logf("arvelt %v ended with %d: %s", args, failed.ExitCode(), failed.Stderr)
		return string(out), failed.ExitCode()
	}
	return string(out), 0
}

func (s *server) person(name string) *person {
	s.people++
	p := chromium.Person(s.t, fmt.Sprintf("person%d", s.people), s.port)
	s.t.Cleanup(p.Close)
	p.Open("/jobs")
	p.See("Demo company")
	who := &person{p, s}
	who.goIn(name)
	p.See("Start a job")
	return who
}

// goIn presses the demo sign-in of a person.
func (p *person) goIn(name string) {
	p.s.t.Helper()
	p.Until("the person to be offered", `[...document.querySelectorAll('button')].some(b => b.innerText.includes('`+name+`'))`)
	p.Eval(`[...document.querySelectorAll('button')].find(b => b.innerText.includes('`+name+`')).setAttribute('data-go', '')`, nil)
	p.Click("[data-go]")
}

// person is somebody at a browser.
type person struct {
	*browser.Page
	s *server
}

// open opens a sheet of the job with a reference, and returns the job's id.
func (p *person) open(ref, sheet string) string {
	p.s.t.Helper()
	var id string
	p.Eval(`fetch('/api/jobs?q=`+ref+`').then(r => r.json()).then(all => all.jobs[0].id)`, &id)
	p.Open("/jobs/" + id + "/" + sheet)
	name, leaf, _ := strings.Cut(sheet, "?leaf=")
	p.Has(`main[data-sheet="` + name + `"] h1`)
	if leaf != "" {
		p.Has(`[data-leaf="` + leaf + `"]`)
	}
	return id
}

// leaf turns to a leaf of the open sheet.
func (p *person) leaf(id string) {
	p.s.t.Helper()
	var hidden bool
	p.Eval(`!document.querySelector('#leaf-`+id+`') && !!document.querySelector('[data-more-leaves]')`, &hidden)
	if hidden { // the job has nothing for it yet
		p.Click(`[data-more-leaves]`)
	}
	p.Click(`#leaf-` + id)
	p.Has(`[data-leaf="` + id + `"]`)
}

// sheet goes to another sheet of the open job by the riser.
func (p *person) sheet(id, name string) {
	p.s.t.Helper()
	p.Click(`nav a[href="/jobs/` + id + `/` + name + `"]`)
	p.Has(`main[data-sheet="` + name + `"] h1`)
}

func (p *person) fill(path, text string)     { p.s.t.Helper(); p.Fill(browser.Field(path), text) }
func (p *person) choose(path, option string) { p.s.t.Helper(); p.Choose(browser.Field(path), option) }

// fact fills a figure with its basis.
func (p *person) fact(path, value, basis string) {
	p.s.t.Helper()
	p.fill(path+".value", value)
	p.choose(path+".basis", basis)
}

// exported writes the job to a file as its open job file.
func (s *server) exported(ref string) string {
	out, status := s.arvelt("export", ref)
	require.Zero(s.t, status)
	path := filepath.Join(s.t.TempDir(), ref+".json")
	require.NoError(s.t, os.WriteFile(path, []byte(out), 0o600))
	return path
}

// checked returns the value that the command line gives for a check of a job, of
// the first circuit that has it or of the one named.
func (s *server) checked(ref, id string, circuit ...string) float64 {
	out, _ := s.arvelt("check", "--json", s.exported(ref))
	var figures []struct {
		ID, Circuit string
		Value       *float64
	}
	require.NoError(s.t, json.Unmarshal([]byte(out), &figures))
	for _, f := range figures {
		if f.ID == id && f.Value != nil && (len(circuit) == 0 || f.Circuit == circuit[0]) {
			return *f.Value
		}
	}
	s.t.Fatalf("check %q gives no value", id)
	return 0
}

// store opens the server's database beside it.
func (s *server) store() *store.Store {
	st, err := store.Open(context.Background(), s.db)
	require.NoError(s.t, err)
	s.t.Cleanup(st.Close)
	return st
}
