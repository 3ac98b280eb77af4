package api_test

import (
	"bufio"
	"context"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/demo"
	"arvelt/store/storetest"
)

// at sends a request as a browser that was led to a name does, with headers.
func (w *world) at(method, path, host, body string, headers ...string) *http.Response {
	r, err := http.NewRequest(method, w.url+path, strings.NewReader(body))
	require.NoError(w, err)
	if host != "" {
		r.Host = host
	}
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	res, err := http.DefaultClient.Do(r)
	require.NoError(w, err)
	w.Cleanup(func() { res.Body.Close() })
	return res
}

// A name that somebody made point at this machine reads nothing here, the demo sign-in least of all.
func TestANameOfSomebodyElseIsRefused(t *testing.T) {
	w := serve(t)
	for _, path := range []string{"/", "/api/session", "/api/demo", "/healthz"} {
		assert.Equal(t, http.StatusMisdirectedRequest, w.at("GET", path, "localhost.evil.example", "").StatusCode, path)
		assert.Equal(t, http.StatusMisdirectedRequest, w.at("GET", path, "evil.example", "").StatusCode, path)
	}
	for _, host := range []string{"", "localhost", "localhost:9999", "[::1]:80", "127.0.0.5", "people.localhost:80"} {
		assert.Equal(t, 200, w.at("GET", "/api/demo", host, "").StatusCode, host)
	}
}

// A write is taken from a page of ours alone, and only as such a page sends it: signing in too.
func TestAWriteFromAnotherSiteIsRefused(t *testing.T) {
	w := serve(t)
	in := `{"email":"jana@pellmore.example","password":"` + demo.Password + `"}`
	for name, c := range map[string]struct {
		status  int
		headers []string
	}{
		"a form of another site":   {415, []string{"Content-Type", "text/plain"}},
		"no type at all":           {415, nil},
		"another origin":           {403, []string{"Content-Type", "application/json", "Origin", "http://evil.example"}},
		"an origin that is hidden": {403, []string{"Content-Type", "application/json", "Origin", "null"}},
		"another port":             {403, []string{"Content-Type", "application/json", "Origin", "http://127.0.0.1:1"}},
		"cross-site":               {403, []string{"Content-Type", "application/json", "Sec-Fetch-Site", "cross-site"}},
		"our own page": {200, []string{"Content-Type", "application/json; charset=utf-8", "Origin", w.url,
			"Sec-Fetch-Site", "same-origin"}},
		"a script without a browser": {200, []string{"Content-Type", "application/json"}},
	} {
		assert.Equal(t, c.status, w.at("POST", "/api/session", "", in, c.headers...).StatusCode, name)
	}
}

// Behind TLS the cookie goes by TLS only and the browser is told to stay with it; the demo sign-in is not
// there unless the server was started with it.
func TestBehindTLS(t *testing.T) {
	st := storetest.Open(t, demonstrated.URL(t))
	s, err := api.New(st, api.Options{Addresses: []string{"https://Arvelt.firm.example"}})
	require.NoError(t, err)
	srv := httptest.NewServer(s.Handler(nil))
	t.Cleanup(func() { srv.Close(); s.Close() })
	w := &world{T: t, st: st, url: srv.URL}
	in := `{"email":"jana@pellmore.example","password":"` + demo.Password + `"}`
	res := w.at("POST", "/api/session", "arvelt.firm.example", in, "Content-Type", "application/json", "Origin", "https://arvelt.firm.example")
	require.Equal(t, 200, res.StatusCode)
	require.Len(t, res.Cookies(), 2)
	for _, k := range res.Cookies() {
		assert.True(t, k.Secure && k.HttpOnly, k.Name)
		assert.Equal(t, map[string]http.SameSite{"arvelt": http.SameSiteLaxMode, "arvelt-device": http.SameSiteStrictMode}[k.Name], k.SameSite)
	}
	assert.Equal(t, "max-age=31536000", res.Header.Get("Strict-Transport-Security"))
	for _, h := range []string{"Cross-Origin-Opener-Policy", "Cross-Origin-Resource-Policy", "Permissions-Policy", "Content-Security-Policy"} {
		assert.NotEmpty(t, res.Header.Get(h), h)
	}
	assert.Equal(t, 403, w.at("POST", "/api/session", "arvelt.firm.example", in, "Content-Type", "application/json",
		"Origin", "http://arvelt.firm.example").StatusCode, "the same name without TLS")
	jana, err := st.PersonByEmail(context.Background(), "jana@pellmore.example")
	require.NoError(t, err)
	for _, host := range []string{"", "arvelt.firm.example"} {
		assert.Equal(t, 404, w.at("POST", "/api/demo", host, `{"personId":"`+jana.ID+`"}`, "Content-Type", "application/json").StatusCode)
	}
	for _, wrong := range []string{"arvelt.firm.example", "ftp://x", "https://x/path", "https://"} {
		_, err := api.New(st, api.Options{Addresses: []string{wrong}})
		assert.ErrorContains(t, err, "https://arvelt.firm.example", wrong)
	}
}

// What is nowhere is not the page of the interface.
func TestWhatIsNowhereIsNotThePage(t *testing.T) {
	w := serve(t)
	for path, want := range map[string]int{"/api": 404, "/api/": 404, "/api/nothing": 404, "/.git/config": 404, "/x/.env": 404, "/jobs/1/plan": 200} {
		assert.Equal(t, want, w.at("GET", path, "", "").StatusCode, path)
	}
	for _, method := range []string{"POST", "DELETE", "PUT"} {
		assert.Equal(t, 404, w.at(method, "/x", "", "{}", "Content-Type", "application/json").StatusCode, method)
	}
}

// A stream of events ends when its session does.
func TestEventsEndAtSignOut(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	r, err := http.NewRequest("GET", w.url+"/api/events", nil)
	require.NoError(t, err)
	r.Header.Set("Cookie", c.cookie)
	res, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	defer res.Body.Close()
	lines := bufio.NewReader(res.Body)
	_, err = lines.ReadString('\n')
	require.NoError(t, err)
	ended := make(chan error, 1)
	go func() {
		for {
			if _, err := lines.ReadString('\n'); err != nil {
				ended <- err
				return
			}
		}
	}()
	require.Equal(t, 204, c.do("DELETE", "/api/session", nil).status)
	select {
	case <-ended:
	case <-time.After(5 * time.Second):
		t.Fatal("the stream goes on after the sign-out")
	}
}

// A desk that leads elsewhere is not followed, and what it answers and cannot be kept is told, with what to do
// after the third time.
func TestABadDeskIsToldAndLeadsNowhere(t *testing.T) {
	for name, c := range map[string]struct {
		answer func(w http.ResponseWriter)
		says   string
	}{
		"a redirect": {func(w http.ResponseWriter) {}, "the desk answered 302"},
		"a long message": {func(w http.ResponseWriter) {
			_, _ = w.Write([]byte(`{"state":"agreed","reference":"T-1","message":"` + strings.Repeat("x", 500) + `"}`))
		}, "its message is no readable text"},
		"a NUL": {func(w http.ResponseWriter) {
			_, _ = w.Write([]byte(`{"state":"agreed","reference":"T\u0000","message":""}`))
		}, "its reference is no readable text"},
		"no reference": {func(w http.ResponseWriter) { _, _ = w.Write([]byte(`{"state":"agreed","message":"fine"}`)) }, "it has no reference"},
		"gossip":       {func(w http.ResponseWriter) { _, _ = w.Write([]byte(`{"state":"maybe"}`)) }, "nothing that is understood"},
	} {
		t.Run(name, func(t *testing.T) {
			led := 0
			elsewhere := httptest.NewServer(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { led++ }))
			defer elsewhere.Close()
			bad := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
				if name == "a redirect" {
					http.Redirect(w, r, elsewhere.URL, http.StatusFound)
					return
				}
				c.answer(w)
			}))
			defer bad.Close()
			w := serveWith(t, bad.URL)
			dot := w.as("dot")
			id := dot.job("PW-2038").Id
			require.Equal(t, 200, dot.do("POST", "/api/jobs/"+id+"/desk", put{"kind": "isolator", "note": ""}).status)
			var sheet api.DeskSheet
			require.Eventually(t, func() bool {
				dot.do("GET", "/api/jobs/"+id+"/desk", nil).into(t, &sheet)
				return sheet.Messages[0].Tries >= 3 && (name == "a redirect" || strings.Contains(sheet.Messages[0].Trouble, "Call the operator"))
			}, 20*time.Second, 20*time.Millisecond)
			assert.Contains(t, sheet.Messages[0].Trouble, c.says)
			assert.Equal(t, "waiting", sheet.Messages[0].State)
			assert.Zero(t, led, "nothing of the customer goes elsewhere")
			for _, r := range dot.job("PW-2038").View.Job.Records {
				assert.NotEqual(t, sheet.Messages[0].ID, r.Subject, "nothing is kept of it")
			}
		})
	}
}
