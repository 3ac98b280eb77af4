package api_test

import (
	"bytes"
	"encoding/json"
	"log/slog"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/demo"
)

type lines struct {
	mu  sync.Mutex
	out bytes.Buffer
}

func (l *lines) Write(b []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.out.Write(b)
}

func (l *lines) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.out.String()
}

// Each request leaves a line by which it can be followed, and none holds a secret or what was typed.
func TestARequestIsLoggedWithoutWhatWasTyped(t *testing.T) {
	was := slog.Default()
	defer slog.SetDefault(was)
	log := &lines{}
	slog.SetDefault(slog.New(slog.NewJSONHandler(log, nil)))
	w := serve(t)
	c := w.as("jana")
	id := c.job("PW-2037").Id
	a := c.add(id, put{"kind": "loose-end", "note": "a note that nobody logs"})
	require.Equal(t, 200, a.status)
	c.do("GET", "/api/jobs?q=a-search-that-nobody-logs", nil)
	w.stranger().do("POST", "/api/session", put{"email": "jana@pellmore.example", "password": "a guess that nobody logs"})
	request := a.header.Get("Request-Id")
	require.NotEmpty(t, request)
	require.Contains(t, log.String(), request)
	found, failed := false, false
	for line := range strings.Lines(log.String()) {
		var x struct {
			Request, Method, Path, Person, Company string
			Status                                 int
		}
		require.NoError(t, json.Unmarshal([]byte(line), &x), line)
		if x.Request == request {
			found = true
			assert.Equal(t, []any{"POST", "/api/jobs/" + id + "/records", 200}, []any{x.Method, x.Path, x.Status})
			assert.NotEmpty(t, x.Person)
			assert.NotEmpty(t, x.Company)
		}
		failed = failed || x.Path == "/api/session" && x.Status == 401
	}
	assert.True(t, found && failed)
	for _, secret := range []string{demo.Password, "nobody logs", "nobody-logs", strings.TrimPrefix(c.cookie, "arvelt="), secret} {
		assert.NotContains(t, log.String(), secret)
	}
}
