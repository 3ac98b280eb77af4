package api_test

import (
	"bufio"
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"sync/atomic"
	"testing"
	"testing/fstest"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/demo"
	"arvelt/standin/desk"
	"arvelt/standin/merchant"
	"arvelt/store"
	"arvelt/store/storetest"
)

// world is a served Arvelt with the demo company.
type world struct {
	*testing.T
	st      *store.Store
	url     string
	router  routers.Router
	desk    *desk.Desk
	deskURL string
	// merchant is the one who takes the orders of this server.
	merchant *merchant.Merchant
}

// secret is the server's.
const secret = "a secret of the tests, thirty-two"

// demonstrated is a database with the demo company.
var demonstrated = storetest.NewTemplate("demo", func(url string) error {
	st, err := store.Open(context.Background(), url)
	if err != nil {
		return err
	}
	defer st.Close()
	st.UseSecret(secret)
	_, err = demo.Load(context.Background(), st)
	return err
})

func serve(t *testing.T) *world { return serveOn(t, api.Options{}) }

// serveWith serves with another desk than the simulated one.
func serveWith(t *testing.T, deskURL string) *world { return serveOn(t, api.Options{DeskURL: deskURL}) }

// serveOn serves with what is given of the options, the simulated outside parties and a quick pace beside.
func serveOn(t *testing.T, o api.Options) *world {
	st := storetest.Open(t, demonstrated.URL(t))
	st.UseSecret(secret)
	op, err := desk.New(desk.Smooth, "")
	require.NoError(t, err)
	shop, err := merchant.New(merchant.Smooth, "")
	require.NoError(t, err)
	operator, counter := httptest.NewServer(op), httptest.NewServer(shop)
	o.DeskURL, o.MerchantURL = cmp.Or(o.DeskURL, operator.URL), cmp.Or(o.MerchantURL, counter.URL)
	o.DeskPace, o.DemoSignIn = cmp.Or(o.DeskPace, 40*time.Millisecond), true
	s, err := api.New(st, o)
	require.NoError(t, err)
	srv := httptest.NewServer(s.Handler(fstest.MapFS{"index.html": {Data: []byte("<title>Arvelt</title>")}}))
	t.Cleanup(func() {
		srv.CloseClientConnections()
		srv.Close()
		s.Close()
		for _, outside := range []*httptest.Server{operator, counter} {
			outside.CloseClientConnections()
			outside.Close()
		}
	})
	doc, err := openapi3.NewLoader().LoadFromData(api.Contract())
	require.NoError(t, err)
	require.NoError(t, doc.Validate(context.Background()))
	router, err := gorillamux.NewRouter(doc)
	require.NoError(t, err)
	return &world{t, st, srv.URL, router, op, o.DeskURL, shop}
}

// client is one person's browser.
type client struct {
	*world
	cookie string
}

// keys numbers the writes of all clients.
var keys atomic.Int64

func (w *world) as(email string) *client {
	c := &client{world: w}
	a := c.do("POST", "/api/session", map[string]string{"email": email + "@pellmore.example", "password": demo.Password})
	require.Equal(w, 200, a.status, a.text)
	return c
}

type answer struct {
	status int
	text   string
	header http.Header
}

func (a answer) into(t *testing.T, v any) {
	t.Helper()
	require.NoError(t, json.Unmarshal([]byte(a.text), v), a.text)
}

func (a answer) problem(t *testing.T) api.Problem {
	t.Helper()
	assert.Equal(t, "application/problem+json", a.header.Get("Content-Type"), a.text)
	var p api.Problem
	a.into(t, &p)
	assert.Equal(t, a.status, p.Status)
	assert.NotEmpty(t, p.Title)
	for _, leak := range []string{"SQLSTATE", "pgx", "goroutine", "SELECT"} {
		assert.NotContains(t, a.text, leak, "an answer must not show its insides")
	}
	return p
}

// do sends a request and holds its answer against the contract.
func (c *client) do(method, path string, body any, with ...string) answer {
	c.Helper()
	var r io.Reader
	switch b := body.(type) {
	case nil:
	case string:
		r = strings.NewReader(b)
	case io.Reader:
		r = b
	default:
		raw, err := json.Marshal(b)
		require.NoError(c, err)
		r = bytes.NewReader(raw)
	}
	req, err := http.NewRequest(method, c.url+path, r)
	require.NoError(c, err)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Idempotency-Key", fmt.Sprintf("key-%08d", keys.Add(1)))
	for i := 0; i+1 < len(with); i += 2 {
		req.Header.Set(with[i], with[i+1])
	}
	if c.cookie != "" {
		req.Header.Set("Cookie", c.cookie)
	}
	res, err := http.DefaultClient.Do(req)
	require.NoError(c, err)
	defer res.Body.Close()
	raw, err := io.ReadAll(res.Body)
	require.NoError(c, err)
	for _, k := range res.Cookies() {
		if k.Name == "arvelt" {
			c.cookie = k.Name + "=" + k.Value
		}
		assert.True(c, k.HttpOnly)
	}
	if route, params, err := c.router.FindRoute(req); err == nil {
		in := &openapi3filter.RequestValidationInput{Request: req, PathParams: params, Route: route}
		check := &openapi3filter.ResponseValidationInput{RequestValidationInput: in, Status: res.StatusCode, Header: res.Header}
		check.SetBodyBytes(raw)
		if kind := res.Header.Get("Content-Type"); strings.Contains(kind, "json") && !strings.Contains(kind, "ndjson") {
			assert.NoError(c, openapi3filter.ValidateResponse(context.Background(), check),
				"%s %s answers what the contract does not say", method, path)
		}
	}
	return answer{res.StatusCode, string(raw), res.Header}
}

func (c *client) job(ref string) api.JobView {
	var rows api.JobPage
	c.do("GET", "/api/jobs?q="+ref, nil).into(c.T, &rows)
	require.Len(c, rows.Jobs, 1)
	var v api.JobView
	c.do("GET", "/api/jobs/"+rows.Jobs[0].ID, nil).into(c.T, &v)
	return v
}

func (c *client) part(v api.JobView, part string, body any) answer {
	return c.do("PUT", fmt.Sprintf("/api/jobs/%s/parts?part=%s&base=%d", v.Id, part, v.Versions[part]), body)
}

func TestEveryAnswerIsWhatTheContractSays(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2029")
	for _, path := range []string{"/healthz", "/api/session", "/api/demo", "/api/terms", "/api/company", "/api/jobs",
		"/api/jobs/" + v.Id, "/api/jobs/" + v.Id + "/circuits", "/api/jobs/" + v.Id + "/case",
		"/api/jobs/" + v.Id + "/supply", "/api/jobs/" + v.Id + "/desk", "/api/jobs/" + v.Id + "/outdoor",
		"/api/terms?practice=split120", "/api/jobs/" + v.Id + "/history", "/api/jobs/" + v.Id + "/file",
		"/api/jobs/" + v.Id + "/file?revision=A"} {
		assert.Equal(t, 200, c.do("GET", path, nil).status, path)
	}
	pack := c.do("GET", "/api/jobs/"+v.Id+"/pack", nil)
	assert.True(t, strings.HasPrefix(pack.text, "%PDF-"))
	assert.Contains(t, pack.header.Get("Content-Disposition"), "PW-2029-A.pdf")
	for _, table := range []string{"loads", "supply", "board", "route", "checks", "materials", "tasks", "tests", "readiness", "records"} {
		a := c.do("GET", "/api/jobs/"+v.Id+"/tables/"+table, nil)
		assert.Equal(t, 200, a.status, table)
		assert.Greater(t, strings.Count(a.text, "\r\n"), 1, table)
	}
	assert.Equal(t, 404, c.do("GET", "/api/jobs/"+v.Id+"/tables/passwords", nil).status)
	for table, holds := range map[string]string{"jobs": "PW-2044", "prices": "cable:swa3-90:6", "instruments": "T-0412"} {
		assert.Contains(t, c.do("GET", "/api/tables/"+table, nil).text, holds)
	}
	assert.Contains(t, c.do("GET", "/api/tables/people", nil).problem(t).Title, "jobs, prices, instruments")
	page := c.do("GET", "/jobs/anything/survey", nil)
	assert.Contains(t, page.text, "<title>Arvelt", "the interface routes by path")
	assert.Equal(t, 404, c.do("GET", "/api/nothing", nil).status)
}

func TestNobodyGetsInWithoutASession(t *testing.T) {
	w := serve(t)
	stranger := &client{world: w}
	v := w.as("tobias").job("PW-2046")
	for _, r := range [][2]string{{"GET", "/api/jobs"}, {"GET", "/api/company"}, {"GET", "/api/jobs/" + v.Id},
		{"GET", "/api/events"}, {"GET", "/api/session"}, {"POST", "/api/jobs"}, {"GET", "/api/jobs/" + v.Id + "/pack"},
		{"PUT", "/api/jobs/" + v.Id + "/parts?part=site&base=1"}} {
		a := stranger.do(r[0], r[1], nil)
		assert.Equal(t, 401, a.status, r)
		a.problem(t)
	}
	c := w.as("jana")
	kept := c.cookie
	assert.Equal(t, 204, c.do("DELETE", "/api/session", nil).status)
	c.cookie = kept
	assert.Equal(t, 401, c.do("GET", "/api/jobs", nil).status, "a session that was ended lets nobody in")

	c = w.as("jana")
	_, err := storetest.Raw(t, w.st).Exec(context.Background(), `UPDATE sessions SET expiry = now() - interval '1 hour'`)
	require.NoError(t, err)
	require.NoError(t, w.st.SessionEnded(context.Background()))
	require.Eventually(t, func() bool { return c.do("GET", "/api/jobs", nil).status == 401 }, eventually, tick, "an expired session")
}

func TestPasswordsAreHeldToAndGuessingIsSlowed(t *testing.T) {
	w := serve(t)
	c := &client{world: w}
	for range 10 {
		assert.Equal(t, 401, c.do("POST", "/api/session", map[string]string{"email": "jana@pellmore.example", "password": "wrong"}).status)
	}
	a := c.do("POST", "/api/session", map[string]string{"email": "jana@pellmore.example", "password": demo.Password})
	assert.Equal(t, 429, a.status)
	a.problem(t)
	assert.Equal(t, 401, c.do("POST", "/api/session", map[string]string{"email": "nobody@pellmore.example", "password": "x"}).status)
}

func TestTheDemoShortcutOpensOnlyTheDemoCompany(t *testing.T) {
	w := serve(t)
	id, err := w.st.NewCompany(context.Background(), store.Company{Name: "Real firm", Timezone: "UTC", Settings: demo.Settings()})
	require.NoError(t, err)
	p, err := w.st.NewPerson(context.Background(), store.Person{CompanyID: id, Name: "R", Email: "r@real.example",
		Role: "owner", Hash: "x"})
	require.NoError(t, err)
	c := &client{world: w}
	assert.Equal(t, 404, c.do("POST", "/api/demo", map[string]string{"personId": p}).status)
	assert.Empty(t, c.cookie)
}

func TestBadInputIsNamedAndLosesNothing(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	v := c.job("PW-2046")
	before := c.do("GET", "/api/jobs/"+v.Id+"/file", nil).text
	circuit := func(change func(*install.Circuit)) install.Circuit {
		k := v.View.Job.Circuits[0]
		k.Route.Segments = append([]install.Segment{}, k.Route.Segments...)
		change(&k)
		return k
	}
	for name, row := range map[string]struct {
		part   string
		body   any
		status int
		field  string
	}{
		"negative length": {"circuits/c1", circuit(func(k *install.Circuit) { k.Route.Segments[0].LengthM = -3 }), 422,
			"circuits/c1.route.segments[0].lengthM"},
		"zero length": {"circuits/c1", circuit(func(k *install.Circuit) { k.Route.Segments[1].LengthM = 0 }), 422,
			"circuits/c1.route.segments[1].lengthM"},
		"absurd length": {"circuits/c1", circuit(func(k *install.Circuit) { k.Route.Segments[0].LengthM = 1e9 }), 422,
			"circuits/c1.route.segments[0].lengthM"},
		"negative current": {"circuits/c1", circuit(func(k *install.Circuit) { k.Point.CurrentA = -32 }), 422,
			"circuits/c1.point.currentA"},
		"absurd current": {"circuits/c1", circuit(func(k *install.Circuit) { k.Point.CurrentA = 5000 }), 422,
			"circuits/c1.point.currentA"},
		"a rating not made": {"circuits/c1", circuit(func(k *install.Circuit) { k.Protection.RatingA = 33 }), 422,
			"circuits/c1.protection.ratingA"},
		"unknown cable": {"circuits/c1", circuit(func(k *install.Circuit) { k.Route.CableType = "string" }), 422,
			"circuits/c1.route.cableType"},
		"unknown device": {"circuits/c1", circuit(func(k *install.Circuit) { k.Protection.Family = "nail" }), 422,
			"circuits/c1.protection.family"},
		"no segments": {"circuits/c1", circuit(func(k *install.Circuit) { k.Route.Segments = nil }), 422,
			"circuits/c1.route.segments"},
		"another id":        {"circuits/c1", circuit(func(k *install.Circuit) { k.ID = "c9" }), 422, "circuits/c1.id"},
		"text for a number": {"circuits/c1", `{"point":{"currentA":"lots"}}`, 422, "point.currentA"},
		"a field unknown":   {"site", `{"customer":"x","address":"y","colour":"red"}`, 422, "body"},
		"not JSON":          {"site", `customer: x`, 422, "body"},
		"no customer":       {"site", install.Site{Address: "A"}, 422, "site.customer"},
		"a name too long":   {"site", install.Site{Customer: strings.Repeat("x", 500), Address: "A"}, 422, "site.customer"},
		"load without figure": {"loads", install.Loads{Items: []install.Load{{Name: "x", Category: "lighting", Count: 1}}},
			422, "loads.items[0].watts"},
		"pieces not lengths": {"materials", install.Materials{Lines: map[string]install.Stock{"c1:cable:x": {Lengths: "a few"}}}, 422,
			"materials.lines[c1:cable:x].lengths"},
		"a date not a date": {"plan", install.Plan{StartDate: "soon"}, 422, "plan.startDate"},
		"a calculation huge": {"bench", install.Bench{Kept: []install.KeptCalc{{Calc: "joist",
			Input: map[string]any{"x": strings.Repeat("9", 9000)}}}}, 422, "bench.kept[0].input"},
		"a rule without why": {"schools", schoolsWith(v, install.LocalRule{Rule: "cmin", Value: 1}), 422, "schools.local[0].reason"},
		"a rule out of range": {"schools", schoolsWith(v, install.LocalRule{Rule: "cmin", Value: 7, Reason: "x"}), 422,
			"schools.local[0].value"},
		"armour of nothing": {"circuits/c1", circuit(func(k *install.Circuit) { k.Route.CPC = "sheath" }), 422, "circuits/c1.route.cpc"},
		"no such part":      {"secrets", install.Site{}, 404, ""},
	} {
		t.Run(name, func(t *testing.T) {
			a := c.part(v, row.part, row.body)
			assert.Equal(t, row.status, a.status, a.text[:min(300, len(a.text))])
			p := a.problem(t)
			if row.field != "" {
				require.NotNil(t, p.Fields, a.text)
				fields := []string{}
				for _, f := range *p.Fields {
					fields = append(fields, f.Field)
					assert.NotEmpty(t, f.Accept)
				}
				assert.Contains(t, fields, row.field)
			}
		})
	}
	assert.Equal(t, before, c.do("GET", "/api/jobs/"+v.Id+"/file", nil).text, "refused writes change nothing")
	assert.Equal(t, 404, c.do("GET", "/api/jobs/not-a-uuid", nil).status)
	a := c.do("PUT", "/api/jobs/"+v.Id+"/parts?part=site&base=one", "{}")
	assert.Equal(t, 400, a.status)
	assert.Contains(t, a.text, `base: \"one\" is not accepted; give a whole number`)
	assert.NotContains(t, a.text, "strconv")
	assert.Equal(t, 405, c.do("PATCH", "/api/jobs", nil).status)
	assert.Equal(t, 400, c.do("PUT", "/api/jobs/"+v.Id+"/parts?part=site&base=1", "{}", "Idempotency-Key", "").status,
		"a write needs its key")
	assert.Equal(t, 403, c.do("POST", "/api/jobs", "{}", "Sec-Fetch-Site", "cross-site").status, "another site cannot write")
}

func schoolsWith(v api.JobView, rules ...install.LocalRule) install.Schools {
	s := v.View.Job.Schools
	s.Local = rules
	return s
}

// The calculations answer to anyone who is in, with their working; what they
// refuse names the key. A part that is only tried changes nothing.
func TestCalculationsAndTryingAChange(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	var calcs []api.Calculation
	c.do("GET", "/api/calcs", nil).into(t, &calcs)
	assert.GreaterOrEqual(t, len(calcs), 25)
	var done api.Calculated
	c.do("POST", "/api/calcs/iec230/tt-electrode", `{"ra_ohm":80,"idn_ma":[30]}`).into(t, &done)
	assert.NotEmpty(t, done.Steps)
	for path, row := range map[string]struct {
		body   string
		status int
		says   string
	}{
		"/api/calcs/iec230/tt-electrode": {`{"ra_ohm":"low","idn_ma":[30]}`, 422, "ra_ohm"},
		"/api/calcs/iec230/joist":        {`{"depth_mm":200,"span_mm":-1}`, 422, "span_mm"},
		"/api/calcs/iec230/none":         {`{}`, 404, ""},
		"/api/calcs/none/joist":          {`{}`, 404, ""},
	} {
		a := c.do("POST", path, row.body)
		assert.Equal(t, row.status, a.status, path)
		assert.Contains(t, a.problem(t).Title, row.says, path)
	}

	v := c.job("PW-2052")
	before := c.do("GET", "/api/jobs/"+v.Id+"/file", nil).text
	circuit := *v.View.Job.CircuitByID("c2")
	circuit.Route.LineMM2 = 4
	var tried api.WhatIf
	c.do("POST", "/api/jobs/"+v.Id+"/what-if?part=circuits/c2", circuit).into(t, &tried)
	require.NotNil(t, tried.Extra)
	assert.Greater(t, *tried.Extra, 0.0, "thicker cable costs more")
	cured := slices.IndexFunc(tried.Differences, func(d api.CheckDifference) bool {
		return d.Check == "Voltage drop" && d.Was == "fail" && d.Now == "pass"
	})
	assert.GreaterOrEqual(t, cured, 0, "%v", tried.Differences)
	circuit.Route.LineMM2 = 5
	assert.Equal(t, 422, c.do("POST", "/api/jobs/"+v.Id+"/what-if?part=circuits/c2", circuit).status)
	assert.Equal(t, 404, c.do("POST", "/api/jobs/"+v.Id+"/what-if?part=secrets", "{}").status)
	assert.Equal(t, before, c.do("GET", "/api/jobs/"+v.Id+"/file", nil).text)

	// What is kept of the bench is in the job file, and a local rule decides.
	kept := install.Bench{Kept: []install.KeptCalc{{Calc: "joist", Note: "x", Input: map[string]any{"depth_mm": 200.0}}}}
	require.Equal(t, 200, c.part(v, "bench", kept).status)
	require.Equal(t, 200, c.part(v, "schools", schoolsWith(v,
		install.LocalRule{Rule: "drop-other", Value: 6, Reason: "operator's sheet 12"})).status)
	v = c.job("PW-2052")
	assert.Equal(t, kept, v.View.Job.Bench)
	var sheet api.CircuitsSheet
	c.do("GET", "/api/jobs/"+v.Id+"/circuits", nil).into(t, &sheet)
	for _, k := range sheet.Report.Checks() {
		if k.ID == "voltage-drop" && k.Circuit == "c2" {
			assert.Equal(t, "pass", string(k.Verdict), k.Summary)
			assert.Contains(t, fmt.Sprint(k.Sources), "operator's sheet 12")
		}
	}
}

func TestALargeBodyIsRefusedBeforeItIsRead(t *testing.T) {
	w := serve(t)
	c := w.as("dot")
	v := c.job("PW-2046")
	big := strings.Repeat("x", 50<<20)
	for _, path := range []string{"/api/jobs/" + v.Id + "/parts?part=site&base=1", "/api/jobs/import"} {
		method := map[bool]string{true: "PUT", false: "POST"}[strings.Contains(path, "parts")]
		req, err := http.NewRequest(method, w.url+path, strings.NewReader(big))
		require.NoError(t, err)
		req.Header.Set("Cookie", c.cookie)
		req.Header.Set("Idempotency-Key", "a-large-body")
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set("Expect", "100-continue")
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		raw, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		res.Body.Close()
		assert.Equal(t, 413, res.StatusCode, path)
		answer{res.StatusCode, string(raw), res.Header}.problem(t)
	}
}

func TestAStaleWriteShowsBothVersions(t *testing.T) {
	w := serve(t)
	jana, tobias := w.as("jana"), w.as("tobias")
	v := jana.job("PW-2046")
	require.Equal(t, 200, jana.part(v, "site", install.Site{Customer: "Hers", Address: "A"}).status)
	a := tobias.part(v, "site", install.Site{Customer: "His", Address: "A"})
	assert.Equal(t, 409, a.status)
	p := a.problem(t)
	require.NotNil(t, p.Theirs)
	assert.Equal(t, "Jana Okell", p.Theirs.By)
	assert.Equal(t, "Hers", p.Theirs.Body.(map[string]any)["customer"])
	assert.Equal(t, "His", p.Mine.(map[string]any)["customer"])
	v.Versions["site"] = p.Theirs.Version
	assert.Equal(t, 200, tobias.part(v, "site", install.Site{Customer: "His", Address: "A"}).status)
}

func TestHostileTextIsKeptAsText(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2046")
	nasty := `<script>alert(1)</script>'; DROP TABLE job; -- =1+1`
	require.Equal(t, 200, c.part(v, "site", install.Site{Customer: nasty, Address: "=cmd()"}).status)
	again := c.job("PW-2046")
	assert.Equal(t, nasty, again.View.Job.Site.Customer)
	assert.Equal(t, 200, c.do("GET", "/api/jobs/"+v.Id+"/pack", nil).status)
}

func TestRecordsOutOfOrderAreRefusedWithWhatComesFirst(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	v := c.job("PW-2037")
	record := func(r map[string]any) answer { return c.do("POST", "/api/jobs/"+v.Id+"/records", r) }
	for name, row := range map[string]struct {
		r      map[string]any
		status int
		says   string
	}{
		"energise before the dead tests": {map[string]any{"kind": "energise", "use": "test", "closes": []string{"main"}}, 409, "Dead tests come first"},
		"a live test before permission": {map[string]any{"kind": "reading", "subject": "zs", "circuit": "c1", "unit": "Ω",
			"value": 0.4, "instrument": "x"}, 409, "permission to energise"},
		"a dead test without isolation": {map[string]any{"kind": "reading", "subject": "insulation-ln", "circuit": "c1",
			"unit": "MΩ", "value": 200, "instrument": "x"}, 409, "your own isolation of today"},
		"a reading without an instrument": {map[string]any{"kind": "reading", "subject": "zs", "circuit": "c1", "unit": "Ω",
			"value": 0.4}, 422, "instrument"},
		"an isolation of nothing": {map[string]any{"kind": "isolation", "lockTag": "l", "opens": []string{}}, 422, "isolation.opens"},
		"a record of no kind":     {map[string]any{"kind": "wish"}, 422, "kind"},
	} {
		a := record(row.r)
		assert.Equal(t, row.status, a.status, name)
		assert.Contains(t, a.problem(t).Title, row.says, name)
	}
	assert.Equal(t, len(v.View.Job.Records), len(c.job("PW-2037").View.Job.Records), "nothing was recorded")
	plain := record(map[string]any{"kind": "loose-end", "note": "cover off"})
	require.Equal(t, 200, plain.status, plain.text)
	var after api.JobView
	plain.into(t, &after)
	last := after.View.Job.Records[len(after.View.Job.Records)-1]
	assert.Equal(t, "Jana Okell", last.By, "a record is in the name of who is signed in")
	assert.NotEqual(t, 2001, last.At.Year())
}

func TestASignedRevisionTakesNoEdits(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2029")
	a := c.part(v, "site", install.Site{Customer: "Another", Address: "A"})
	assert.Equal(t, 409, a.status)
	assert.Contains(t, a.problem(t).Title, "signed")
	require.Equal(t, 200, c.do("POST", "/api/jobs/"+v.Id+"/records", map[string]any{"kind": "reopen"}).status)
	v = c.job("PW-2029")
	assert.Equal(t, "B", v.View.Revision)
	require.Equal(t, 200, c.part(v, "site", install.Site{Customer: "Another", Address: "A"}).status)
	signed, err := handover.Read(strings.NewReader(c.do("GET", "/api/jobs/"+v.Id+"/file?revision=A", nil).text))
	require.NoError(t, err)
	outcome, why := handover.Verify(signed)
	assert.Equal(t, handover.Unknown, outcome, why)
	assert.Equal(t, "Marguerite Osk", signed.Site.Customer, "the signed revision stays as it was")
}

func TestAJobFileComesBackEqualAndATamperedOneDoesNot(t *testing.T) {
	w := serve(t)
	c := w.as("dot")
	v := c.job("PW-2029")
	file := c.do("GET", "/api/jobs/"+v.Id+"/file", nil).text
	// Another company's Arvelt, which has no such job.
	other := serve(t)
	_, err := storetest.Raw(t, other.st).Exec(context.Background(), `UPDATE job SET ref = 'moved' WHERE ref = 'PW-2029'`)
	require.NoError(t, err)
	o := other.as("dot")
	a := o.do("POST", "/api/jobs/import", file)
	require.Equal(t, 201, a.status, a.text)
	var imported api.JobView
	a.into(t, &imported)
	assert.Equal(t, file, o.do("GET", "/api/jobs/"+imported.Id+"/file", nil).text, "a round trip is equal to the byte")
	assert.Equal(t, file, o.do("GET", "/api/jobs/"+imported.Id+"/file?revision=A", nil).text)

	assert.Equal(t, 409, c.do("POST", "/api/jobs/import", file).status, "the reference is taken")
	copied := c.do("POST", "/api/jobs/import?as=COPY-1", file)
	require.Equal(t, 201, copied.status, copied.text)
	copied.into(t, &imported)
	assert.False(t, imported.View.Frozen, "a copy is not signed")
	for name, body := range map[string]string{
		"tampered":  strings.Replace(file, `"value": 0.31`, `"value": 0.13`, 1),
		"truncated": file[:len(file)/2],
		"empty":     "",
		"trailing":  file + "{}",
		"a field":   strings.Replace(file, `"ref"`, `"reference"`, 1),
	} {
		require.NotEqual(t, file, body, name)
		a := o.do("POST", "/api/jobs/import", body)
		assert.Equal(t, 400, a.status, name)
		a.problem(t)
	}
	foreign := strings.Replace(file, `"iec230"`, `"elsewhere"`, 1)
	assert.Equal(t, 400, o.do("POST", "/api/jobs/import", foreign).status)
}

func TestTheJobFileMeetsItsPublishedSchema(t *testing.T) {
	published, err := os.ReadFile("../docs/job-file.schema.json")
	require.NoError(t, err)
	made, err := api.JobFileSchema()
	require.NoError(t, err)
	require.Equal(t, string(made), string(published), "run: arvelt schema > docs/job-file.schema.json")
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(published))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource("schema.json", doc))
	schema, err := compiler.Compile("schema.json")
	require.NoError(t, err)
	c := serve(t).as("dot")
	for _, ref := range []string{"PW-2029", "PW-2037", "PW-2044", "PW-2046"} {
		file := c.do("GET", "/api/jobs/"+c.job(ref).Id+"/file", nil).text
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(file))
		require.NoError(t, err)
		assert.NoError(t, schema.Validate(v), ref)
		wrong, err := jsonschema.UnmarshalJSON(strings.NewReader(strings.Replace(file, `"declaredV": 230`, `"declaredV": "much"`, 1)))
		require.NoError(t, err)
		assert.Error(t, schema.Validate(wrong), "the schema must refuse something")
	}
}

func TestAChangeReachesAnotherBrowserAsAnEvent(t *testing.T) {
	w := serve(t)
	jana, tobias := w.as("jana"), w.as("tobias")
	v := jana.job("PW-2046")
	ctx, cancel := context.WithTimeout(context.Background(), eventually)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, "GET", w.url+"/api/events", nil)
	require.NoError(t, err)
	req.Header.Set("Cookie", tobias.cookie)
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	lines := bufio.NewScanner(res.Body)
	require.True(t, lines.Scan()) // the stream says that it is here
	require.Equal(t, 200, jana.part(v, "site", install.Site{Customer: "Heard", Address: "A"}).status)
	for lines.Scan() {
		text, isData := strings.CutPrefix(lines.Text(), "data: ")
		if !isData {
			continue
		}
		var e store.Event
		require.NoError(t, json.Unmarshal([]byte(text), &e))
		if e.What == "job" {
			assert.Equal(t, v.Id, e.ID)
			assert.Equal(t, v.Version+1, e.Version)
			return
		}
	}
	t.Fatal("no event came")
}

func TestTheJobsListIsNeverStale(t *testing.T) {
	c := serve(t).as("dot")
	list := func() string { return c.do("GET", "/api/jobs", nil).text }
	first := list()
	assert.Equal(t, first, list())
	v := c.job("PW-2046")
	require.Equal(t, 200, c.part(v, "site", install.Site{Customer: "Changed", Address: "A"}).status)
	assert.Contains(t, list(), `"customer":"Changed"`)
	require.Equal(t, 201, c.do("POST", "/api/jobs",
		map[string]string{"ref": "NEW-1", "title": "N", "kind": "ev-charger", "customer": "C", "address": "A", "town": "T"}).status)
	assert.Contains(t, list(), "NEW-1")
}

func TestTheCircuitsSheetIsNeverStale(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2046")
	length := func() float64 {
		var s api.CircuitsSheet
		c.do("GET", "/api/jobs/"+v.Id+"/circuits", nil).into(t, &s)
		return s.Report.Circuits[0].Summary.LengthM
	}
	first := length()
	assert.Equal(t, first, length())
	k := v.View.Job.Circuits[0]
	k.Route.SlackM += 2
	require.Equal(t, 200, c.part(v, "circuits/c1", k).status)
	assert.InDelta(t, first+2, length(), 1e-9)
	// A price changes what a remedy costs, though the job is as it was.
	extra := func() float64 {
		var s api.CircuitsSheet
		c.do("GET", "/api/jobs/"+v.Id+"/circuits", nil).into(t, &s)
		for _, k := range s.Report.Circuits[0].Checks {
			if k.ID == "voltage-drop" {
				return *k.Remedies[0].Extra
			}
		}
		return 0
	}
	cheap := extra()
	var company api.Company
	c.do("GET", "/api/company", nil).into(t, &company)
	for i := range company.Prices {
		if company.Prices[i].Key == "cable:swa3-90:10" {
			company.Prices[i].Price *= 2
		}
	}
	require.Equal(t, 200, c.do("PUT", "/api/company", company).status)
	assert.Greater(t, extra(), cheap)
	assert.Equal(t, 409, c.do("PUT", "/api/company", company).status, "a stale price list is refused")
	company.Version++
	company.Prices[0].Price = -1
	a := c.do("PUT", "/api/company", company)
	assert.Equal(t, 422, a.status)
	assert.Equal(t, "prices[0].price", (*a.problem(t).Fields)[0].Field)
}

func TestStartingAJob(t *testing.T) {
	c := serve(t).as("dot")
	body := map[string]string{"ref": "PW-3000", "title": "New", "kind": "ev-charger", "customer": "C", "address": "A", "town": "T"}
	first := c.do("POST", "/api/jobs", body, "Idempotency-Key", "one-and-the-same")
	require.Equal(t, 201, first.status, first.text)
	again := c.do("POST", "/api/jobs", body, "Idempotency-Key", "one-and-the-same")
	require.Equal(t, 201, again.status, again.text)
	var a, b api.JobView
	first.into(t, &a)
	again.into(t, &b)
	assert.Equal(t, a.Id, b.Id, "a retry starts no second job")
	assert.Equal(t, 409, c.do("POST", "/api/jobs", body).status, "a reference is taken once")
	body["kind"], body["ref"], body["customer"] = "plumbing", strings.Repeat("x", 41), ""
	p := c.do("POST", "/api/jobs", body).problem(t)
	require.NotNil(t, p.Fields)
	assert.Len(t, *p.Fields, 3)
}
