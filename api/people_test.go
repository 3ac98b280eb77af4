package api_test

import (
	"context"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/demo"
	"arvelt/store"
	"arvelt/store/storetest"
)

func (c *client) colleague(email string) api.Colleague {
	var all []api.Colleague
	c.do("GET", "/api/people", nil).into(c.T, &all)
	for _, p := range all {
		if p.Email == email+"@pellmore.example" {
			return p
		}
	}
	require.Fail(c, "nobody has the email", email)
	return api.Colleague{}
}

func (w *world) stranger() *client { return &client{world: w} }

// A person is invited by a link that is good once, sets a password that is one, changes it, is reset, gets
// another role, leaves and is back; and nobody but the owner does any of it.
func TestAPersonComesAndGoes(t *testing.T) {
	w := serve(t)
	ines := w.as("ines")
	new := put{"name": "Ravi Thorne", "email": "Ravi@pellmore.example", "role": "electrician"}
	for _, name := range []string{"tobias", "jana", "remy", "dot"} {
		assert.Equal(t, 403, w.as(name).do("POST", "/api/people", new).status, name)
	}
	for field, bad := range map[string]put{"name": {"name": "", "email": "a@b", "role": "owner"}, "email": {"name": "A", "email": "no mail", "role": "owner"},
		"role": {"name": "A", "email": "a@b.example", "role": "king"}} {
		a := ines.do("POST", "/api/people", bad)
		assert.Equal(t, 422, a.status, field)
		assert.Equal(t, field, (*a.problem(t).Fields)[0].Field)
	}
	var made api.Invitation
	a := ines.do("POST", "/api/people", new)
	require.Equal(t, 201, a.status, a.text)
	a.into(t, &made)
	a = ines.do("POST", "/api/people", new)
	assert.Equal(t, 409, a.status)
	assert.Contains(t, a.problem(t).Title, "somebody's already")
	_, token, found := strings.Cut(made.Link, "#")
	require.True(t, found, "what follows the sign is in no log")
	assert.True(t, ines.colleague("Ravi").Invited)

	ravi := w.stranger()
	signIn := func(password string) answer {
		return w.stranger().do("POST", "/api/session", put{"email": "ravi@PELLMORE.example", "password": password})
	}
	assert.Equal(t, 401, signIn("").status, "nobody comes in without a password set")
	a = ravi.do("POST", "/api/welcome", put{"link": token})
	require.Equal(t, 200, a.status, a.text)
	assert.Contains(t, a.text, "Ravi Thorne")
	assert.Equal(t, 422, ravi.do("POST", "/api/welcome", put{"link": token, "password": "ravi-thorne-1"}).status)
	a = ravi.do("POST", "/api/welcome", put{"link": token, "password": "three brass hinges"})
	require.Equal(t, 200, a.status, a.text)
	assert.Equal(t, 200, ravi.do("GET", "/api/jobs", nil).status, "signed in by it")
	for _, used := range []string{token, "nothing", ""} {
		assert.Equal(t, 409, w.stranger().do("POST", "/api/welcome", put{"link": used, "password": "three brass hinges"}).status)
	}

	// Changed by themselves, with the old one; other sessions end, this one stays.
	other := w.stranger()
	require.Equal(t, 200, other.do("POST", "/api/session", put{"email": "ravi@pellmore.example", "password": "three brass hinges"}).status)
	assert.Equal(t, 422, ravi.do("PUT", "/api/password", put{"current": "wrong", "password": "seven loose couplings"}).status)
	assert.Equal(t, 422, ravi.do("PUT", "/api/password", put{"current": "three brass hinges", "password": "short"}).status)
	require.Equal(t, 204, ravi.do("PUT", "/api/password", put{"current": "three brass hinges", "password": "seven loose couplings"}).status)
	assert.Equal(t, 200, ravi.do("GET", "/api/jobs", nil).status)
	assert.Equal(t, 401, other.do("GET", "/api/jobs", nil).status)
	assert.Equal(t, 401, signIn("three brass hinges").status)

	// Reset by the owner's link: an older link is good no more.
	id := made.Id
	assert.Equal(t, 403, w.as("tobias").do("POST", "/api/people/"+id+"/link", nil).status)
	var first, second api.Invitation
	ines.do("POST", "/api/people/"+id+"/link", nil).into(t, &first)
	ines.do("POST", "/api/people/"+id+"/link", nil).into(t, &second)
	_, old, _ := strings.Cut(first.Link, "#")
	_, token, _ = strings.Cut(second.Link, "#")
	assert.Equal(t, 409, w.stranger().do("POST", "/api/welcome", put{"link": old, "password": "nine tall ladders up"}).status)
	require.Equal(t, 200, w.stranger().do("POST", "/api/welcome", put{"link": token, "password": "nine tall ladders up"}).status)
	assert.Equal(t, 401, ravi.do("GET", "/api/jobs", nil).status, "who had a session has none")

	// Another role holds at once; a leaver is out at once.
	ravi = w.stranger()
	require.Equal(t, 200, ravi.do("POST", "/api/session", put{"email": "ravi@pellmore.example", "password": "nine tall ladders up"}).status)
	assert.Equal(t, 403, w.as("tobias").do("PUT", "/api/people/"+id, put{"role": "owner", "left": false}).status)
	assert.Equal(t, 422, ines.do("PUT", "/api/people/"+id, put{"role": "king", "left": false}).status)
	require.Equal(t, 204, ines.do("PUT", "/api/people/"+id, put{"role": "apprentice", "left": false}).status)
	assert.Equal(t, 403, ravi.do("POST", "/api/jobs", put{"ref": "X", "title": "t", "kind": "rewire"}).status)
	require.Equal(t, 204, ines.do("PUT", "/api/people/"+id, put{"role": "apprentice", "left": true}).status)
	assert.Equal(t, 401, ravi.do("GET", "/api/jobs", nil).status)
	assert.Equal(t, 401, signIn("nine tall ladders up").status)
	assert.True(t, ines.colleague("Ravi").Left)
	require.Equal(t, 204, ines.do("PUT", "/api/people/"+id, put{"role": "apprentice", "left": false}).status)
	assert.Equal(t, 401, signIn("nine tall ladders up").status, "back, with a new link")

	// A company keeps an owner, and nobody of another company is touched.
	me := ines.colleague("ines").Id
	assert.Equal(t, 409, ines.do("PUT", "/api/people/"+me, put{"role": "office", "left": false}).status)
	assert.Equal(t, 409, ines.do("PUT", "/api/people/"+me, put{"role": "owner", "left": true}).status)
	assert.Equal(t, 404, ines.do("PUT", "/api/people/"+w.elsewhere(), put{"role": "office", "left": true}).status)
}

// elsewhere is a person of another company.
func (w *world) elsewhere() string {
	ctx := context.Background()
	id, err := w.st.NewCompany(ctx, store.Company{Name: "Elsewhere", Timezone: "UTC", Settings: demo.Settings()})
	require.NoError(w, err)
	p, err := w.st.NewPerson(ctx, store.Person{CompanyID: id, Name: "O", Email: "o@elsewhere.example", Role: "owner"})
	require.NoError(w, err)
	return p
}

// An authorisation is granted by who may, for what there is, shown, and withdrawn; and what it opens opens
// and closes at once.
func TestAnAuthorisationIsGrantedAndWithdrawn(t *testing.T) {
	w := serve(t)
	ines, tobias, remy := w.as("ines"), w.as("tobias"), w.as("remy")
	dot := ines.colleague("dot")
	grant := func(c *client, to string, a put) answer { return c.do("POST", "/api/people/"+to+"/authorisations", a) }
	for field, bad := range map[string]put{"kind": {"kind": "fly"}, "practice": {"kind": "test", "practice": "moon"}, "jobRef": {"kind": "test", "jobRef": "none"},
		"until": {"kind": "test", "until": "2001-01-01"}, "licence": {"kind": "test", "licence": "a\nb"}} {
		a := grant(ines, dot.Id, bad)
		require.Equal(t, 422, a.status, "%s: %s", field, a.text)
		assert.Equal(t, field, (*a.problem(t).Fields)[0].Field)
	}
	apprentice := ines.colleague("remy")
	assert.Equal(t, []string{"test", "height", "trench", "terminate", "machine"}, apprentice.MayHold, "skills, and to read")
	assert.Equal(t, 422, grant(ines, apprentice.Id, put{"kind": "sign"}).status, "an apprentice signs for nobody")
	assert.Equal(t, 403, grant(remy, dot.Id, put{"kind": "test"}).status)
	assert.Equal(t, 403, grant(tobias, dot.Id, put{"kind": "sign"}).status, "a supervisor hands on no signature")
	assert.Equal(t, 403, grant(tobias, ines.colleague("tobias").Id, put{"kind": "test"}).status, "nor anything to themselves")
	assert.Equal(t, 404, grant(ines, w.elsewhere(), put{"kind": "test"}).status)

	id := w.as("jana").job("PW-2040").Id
	c := w.as("dot")
	assert.Nil(t, c.made(id, c.isolates(id)).View.Tests.Isolation, "she is not authorised")
	require.Equal(t, 204, grant(tobias, dot.Id, put{"kind": "isolate", "jobRef": "PW-2040", "licence": "D-9"}).status)
	v := c.made(id, c.isolates(id))
	assert.Equal(t, []install.Authority{install.Isolating}, v.View.Holds)
	assert.NotNil(t, v.View.Tests.Isolation)
	assert.NotContains(t, v.View.May, install.Energise)
	got := ines.colleague("dot").Authorisations
	require.Len(t, got, 1)
	assert.Equal(t, []string{"isolate", "PW-2040", "D-9", "Tobias Marrick"}, []string{got[0].Kind, got[0].JobRef, got[0].Licence, got[0].By})
	assert.Equal(t, 403, c.do("DELETE", "/api/authorisations/"+got[0].Id, nil).status)
	require.Equal(t, 204, tobias.do("DELETE", "/api/authorisations/"+got[0].Id, nil).status)
	assert.Equal(t, 404, tobias.do("DELETE", "/api/authorisations/"+got[0].Id, nil).status)
	assert.Nil(t, c.made(id, c.isolates(id)).View.Tests.Isolation, "nor any more")
}

// Sessions are kept by a hash, listed with where they are, and ended one's own too.
func TestSessionsAreListedAndEnded(t *testing.T) {
	w := serve(t)
	jana, again := w.as("jana"), w.as("jana")
	id := w.as("ines").colleague("jana").Id
	var list []api.SessionInfo
	jana.do("GET", "/api/people/"+id+"/sessions", nil).into(t, &list)
	require.Len(t, list, 2)
	assert.Contains(t, list[0].Agent, "Go-http-client")
	assert.Equal(t, "127.0.0.1", list[0].Address)
	assert.Equal(t, []bool{false, true}, []bool{list[0].This, list[1].This})
	assert.Equal(t, 403, w.as("dot").do("GET", "/api/people/"+id+"/sessions", nil).status)
	require.Equal(t, 204, jana.do("DELETE", "/api/people/"+id+"/sessions", nil).status)
	assert.Equal(t, 401, again.do("GET", "/api/jobs", nil).status)
	assert.Equal(t, 200, jana.do("GET", "/api/jobs", nil).status)
	var n int
	token := strings.TrimPrefix(jana.cookie, "arvelt=")
	require.NoError(t, storetest.Raw(t, w.st).QueryRow(context.Background(), `SELECT count(*) FROM sessions WHERE token = $1 OR encode(data, 'escape') LIKE '%' ||
		$1 || '%'`, token).Scan(&n))
	assert.Zero(t, n, "no token stands in the database")
}

// Guessing is closed by account, whatever its case, and by address, also many at once and on two instances; the
// right person comes in from a device that they came in from before, whatever a stranger does.
func TestGuessingIsClosedAndShutsNobodyOut(t *testing.T) {
	w := serve(t)
	ours := w.stranger()
	in := func(c *client, email, password string) int {
		return c.do("POST", "/api/session", put{"email": email, "password": password}).status
	}
	require.Equal(t, 200, in(ours, "jana@pellmore.example", demo.Password))
	var device string
	a := w.stranger().do("POST", "/api/session", put{"email": "jana@pellmore.example", "password": demo.Password})
	for _, k := range (&http.Response{Header: a.header}).Cookies() {
		if k.Name == "arvelt-device" {
			device = k.Name + "=" + k.Value
			assert.Equal(t, http.SameSiteStrictMode, k.SameSite)
		}
	}
	require.NotEmpty(t, device)

	got := map[int]int{}
	var mu sync.Mutex
	var all sync.WaitGroup
	for i := range 30 {
		all.Add(1)
		go func() {
			defer all.Done()
			email := []string{"jana@pellmore.example", "JANA@pellmore.example", "Jana@Pellmore.Example", " jana@pellmore.example"}[i%4]
			res, err := http.Post(w.url+"/api/session", "application/json", strings.NewReader(fmt.Sprintf(`{"email":%q,"password":"guess %d"}`, email, i)))
			if assert.NoError(t, err) {
				res.Body.Close()
				mu.Lock()
				got[res.StatusCode]++
				mu.Unlock()
			}
		}()
	}
	all.Wait()
	assert.Equal(t, 10, got[401], "ten are judged, %v", got)
	assert.Equal(t, 20, got[429]+got[503], "and no more, %v", got)
	assert.Equal(t, 429, in(w.stranger(), "jana@pellmore.example", demo.Password), "from this address it is closed")
	a = w.stranger().do("POST", "/api/session", put{"email": "jana@pellmore.example", "password": demo.Password}, "Cookie", device)
	assert.Equal(t, 200, a.status, "from a device that she came in from it is not: %s", a.text)
	assert.Equal(t, 200, in(w.stranger(), "tobias@pellmore.example", demo.Password), "nor for anybody else")

	// It is counted in the database, for every instance, and ends.
	w.st.Now = func() time.Time { return time.Now().Add(6 * time.Minute) }
	defer func() { w.st.Now = time.Now }()
	assert.Equal(t, 200, in(w.stranger(), "jana@pellmore.example", demo.Password))
	for i := range 60 {
		in(w.stranger(), fmt.Sprintf("nobody-%d@pellmore.example", i), "x")
	}
	assert.Equal(t, 429, in(w.stranger(), "nobody-99@pellmore.example", "x"), "by address, whatever the account")
}
