package api_test

import (
	"context"
	"fmt"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/demo"
	"arvelt/store"
	"arvelt/store/storetest"
)

// Whoever comes in or fails to, takes a file out or brings one in, and whatever changes who may what leaves a line, in the order in
// which it was done, that an owner reads and nobody changes, and in which no secret stands.
func TestWhatHappenedIsReadByTheOwner(t *testing.T) {
	w := serve(t)
	ines := w.as("ines")
	before := 0
	lines := func() (out []api.Happening) {
		var all []api.Happening
		ines.do("GET", "/api/happenings", nil).into(t, &all)
		for _, h := range all {
			if h.Seq > before {
				out = append(out, h)
			}
		}
		if len(all) > 0 {
			before = all[0].Seq
		}
		return out
	}
	said := func(list []api.Happening) (out []string) {
		for i := range list {
			h := list[len(list)-1-i]
			out = append(out, strings.TrimSpace(h.By+" "+h.What+" "+h.About))
			assert.Equal(t, "127.0.0.1", h.Address)
		}
		return out
	}
	lines()
	for _, name := range []string{"tobias", "jana", "remy", "dot"} {
		assert.Equal(t, 403, w.as(name).do("GET", "/api/happenings", nil).status, name)
	}
	lines()

	jana := w.as("jana")
	const guess = "a guess of the password"
	require.Equal(t, 401, w.stranger().do("POST", "/api/session", put{"email": "jana@pellmore.example", "password": guess}).status)
	id := jana.job("PW-2029").Id
	require.Equal(t, 200, jana.do("GET", "/api/jobs/"+id+"/file", nil).status)
	require.Equal(t, 200, jana.do("GET", "/api/tables/jobs", nil).status)
	file := jana.do("GET", "/api/jobs/"+id+"/file", nil).text
	require.Equal(t, 201, ines.do("POST", "/api/jobs/import?as=H-1", file).status)
	var made api.Invitation
	ines.do("POST", "/api/people", put{"name": "Ravi Thorne", "email": "ravi@pellmore.example", "role": "office"}).into(t, &made)
	_, token, _ := strings.Cut(made.Link, "#")
	const password = "three brass hinges"
	require.Equal(t, 200, w.stranger().do("POST", "/api/welcome", put{"link": token, "password": password}).status)
	require.Equal(t, 204, ines.do("POST", "/api/people/"+made.Id+"/authorisations", put{"kind": "sign", "jobRef": "H-1"}).status)
	require.Equal(t, 204, ines.do("DELETE", "/api/authorisations/"+ines.colleague("ravi").Authorisations[0].Id, nil).status)
	require.Equal(t, 204, ines.do("PUT", "/api/people/"+made.Id, put{"role": "electrician", "left": false}).status)
	require.Equal(t, 204, ines.do("PUT", "/api/people/"+made.Id, put{"role": "electrician", "left": true}).status)
	require.Equal(t, 204, jana.do("DELETE", "/api/session", nil).status)
	w.signed()
	assert.Equal(t, []string{"Jana Okell signed in", "Jana Okell failed to sign in", "Jana Okell took out a file PW-2029.json",
		"Jana Okell took out a file jobs.csv", "Jana Okell took out a file PW-2029.json", "Ines Pellmore imported a job H-1",
		"Ines Pellmore added a person Ravi Thorne, office", "Ravi Thorne set a password Ravi Thorne", "Ravi Thorne signed in",
		"Ines Pellmore authorised Ravi Thorne: sign, H-1", "Ines Pellmore withdrew an authorisation Ravi Thorne: sign",
		"Ines Pellmore changed a role Ravi Thorne, electrician", "Ines Pellmore let a person in no more Ravi Thorne",
		"Ines Pellmore ended sessions Ravi Thorne, 1", "Jana Okell signed out", "Tobias Marrick signed in",
		"Tobias Marrick signed and sealed PW-2029, B"}, said(lines()))

	// Many at once stand in the order of their times too; pages follow one another.
	var all sync.WaitGroup
	ctx := context.Background()
	who, err := w.st.PersonByEmail(ctx, "jana@pellmore.example")
	require.NoError(t, err)
	scope := w.st.For(who.CompanyID)
	for i := range 120 {
		all.Go(func() { assert.NoError(t, scope.Note(ctx, who, store.Exported, fmt.Sprint(i))) })
	}
	all.Wait()
	first, err := scope.Happenings(ctx, 0)
	require.NoError(t, err)
	require.Len(t, first, 100)
	next, err := scope.Happenings(ctx, first[99].Seq)
	require.NoError(t, err)
	together := append(first, next...)[:120] // those of the demo were made with a clock of the past
	for i := 1; i < len(together); i++ {
		assert.Greater(t, together[i-1].Seq, together[i].Seq)
		assert.False(t, together[i-1].At.Before(together[i].At), "line %d", together[i].Seq)
	}

	for _, sql := range []string{`UPDATE happening SET by_name = 'x'`, `DELETE FROM happening`} {
		_, err := storetest.Raw(t, w.st).Exec(ctx, sql)
		assert.ErrorContains(t, err, "append-only")
	}
	var n int
	for _, secret := range []string{demo.Password, guess, password, token} {
		require.NoError(t, storetest.Raw(t, w.st).QueryRow(ctx, `SELECT count(*) FROM happening h WHERE h::text LIKE '%' || $1 || '%'`, secret).Scan(&n))
		assert.Zero(t, n)
	}
}
