package api_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
)

// A job begins with the next reference by the company's numbering and with its usual practice and kind; a pattern that numbers nothing is
// refused by name, and what is typed goes before what is proposed.
func TestAJobBeginsAsTheCompanyHasIt(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	next := func() (n api.NextJob) {
		c.do("GET", "/api/jobs/next", nil).into(t, &n)
		return n
	}
	first := next()
	assert.Regexp(t, `^PW-\d+$`, first.Ref)
	assert.Equal(t, "iec230", first.Practice)
	begin := func(ref string) answer {
		return c.do("POST", "/api/jobs", put{"ref": ref, "title": "Rewire, 3 Tallow Court", "kind": "rewire", "customer": "Oda Brill",
			"address": "3 Tallow Court", "town": "Tarrowick"})
	}
	a := begin("")
	require.Equal(t, 201, a.status, a.text)
	assert.Equal(t, "Rewire, 3 Tallow Court", c.job(first.Ref).View.Job.Title, "nobody typed a reference")
	second := next()
	numberless := put{"ref": "", "title": "Twice", "kind": "rewire", "customer": "Oda Brill", "address": "4 Tallow Court", "town": "Tarrowick"}
	var one, two api.JobView
	c.do("POST", "/api/jobs", numberless, "Idempotency-Key", "sent-again").into(t, &one)
	again := c.do("POST", "/api/jobs", numberless, "Idempotency-Key", "sent-again")
	require.Equal(t, 201, again.status, again.text)
	again.into(t, &two)
	assert.Equal(t, one.Id, two.Id, "sent again it begins no second job")
	assert.Equal(t, second.Ref, two.View.Job.Ref)
	second = next()
	assert.NotEqual(t, first.Ref, second.Ref)
	a = begin("Weir 7")
	require.Equal(t, 201, a.status, a.text)
	assert.Equal(t, second, next(), "what is typed takes no number")
	assert.GreaterOrEqual(t, begin(first.Ref).status, 400, "each reference once")

	var k api.Company
	c.do("GET", "/api/company", nil).into(t, &k)
	for says, change := range map[string]func(*api.Company){
		"{n:4} for four digits": func(k *api.Company) { k.Refs = "PW" },
		"one of iec230":         func(k *api.Company) { k.Practice = "moon" },
		"a kind of job":         func(k *api.Company) { k.Kind = "party" },
	} {
		bad := k
		change(&bad)
		a := c.do("PUT", "/api/company", bad)
		assert.Equal(t, 422, a.status, says)
		assert.Contains(t, a.text, says)
	}
	k.Refs, k.Practice, k.Kind = "J{yyyy}-{n:3}", "split120", "inspection"
	a = c.do("PUT", "/api/company", k)
	require.Equal(t, 200, a.status, a.text)
	assert.Regexp(t, `^J\d{4}-001$`, next().Ref)
	assert.Equal(t, "split120", next().Practice)
	assert.Equal(t, "inspection", next().Kind)
	a.into(t, &k)
	k.Refs = ""
	require.Equal(t, 200, c.do("PUT", "/api/company", k).status)
	assert.Empty(t, next().Ref)
	assert.Equal(t, 422, begin("").status, "a company that numbers none types each")
}
