package api_test

import (
	"context"
	"encoding/json"
	"net/http"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/whole"
	"arvelt/demo"
	"arvelt/store"
)

// A change of a part changes no sheet that the registry does not name: each part of a job is put in
// place of the same part of every other job of its practice.
func TestAPartMakesStaleWhatTheRegistrySays(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	var page api.JobPage
	c.do("GET", "/api/jobs", nil).into(t, &page)
	jobs := map[string][]api.JobView{} // by practice
	for _, row := range page.Jobs {
		v := c.job(row.Ref)
		if !v.View.Frozen {
			jobs[v.View.Job.Practice] = append(jobs[v.View.Job.Practice], v)
		}
	}
	tags := func(id string) map[install.Computed]string {
		out := map[install.Computed]string{}
		for _, read := range install.Reads {
			a := c.do("GET", "/api/jobs/"+id+"/"+string(read), nil)
			require.Equal(t, http.StatusOK, a.status, a.text)
			out[read] = a.header.Get("ETag")
			if lines := strings.Split(strings.TrimSpace(a.text), "\n"); out[read] == "" { // it was shown while it was looked for
				out[read] = lines[len(lines)-1]
			}
		}
		return out
	}
	made, stale := map[string]int{}, map[string]bool{}
	for _, same := range jobs {
		for i, v := range same {
			for _, other := range same[max(0, i-2):i] {
				for _, k := range install.PartKinds {
					if k.List || k.Kept {
						continue
					}
					p, _ := install.PartNamed(k.Name)
					before := tags(v.Id)
					now := c.do("GET", "/api/jobs/"+v.Id, nil)
					now.into(t, &v)
					body, err := json.Marshal(p.Of(other.View.Job))
					require.NoError(t, err)
					if a := c.part(v, k.Name, string(body)); a.status != http.StatusOK {
						continue // it does not fit the job
					}
					made[k.Name]++
					for read, tag := range tags(v.Id) {
						if tag != before[read] {
							stale[k.Name+" "+string(read)] = true
							assert.Contains(t, k.Stale, read, "%s changes %s of %s", k.Name, read, v.View.Job.Ref)
						}
					}
				}
			}
		}
	}
	for _, k := range install.PartKinds {
		if !k.List && !k.Kept {
			assert.NotZero(t, made[k.Name], k.Name)
		}
	}
	assert.Greater(t, len(stale), 12, "the test changes what it is about")
}

// A part is changed by the roles of the registry and by no other, and the others are told whose it is.
func TestAPartIsForItsRoles(t *testing.T) {
	w := serve(t)
	const ref = "PW-2044"
	for _, k := range install.PartKinds {
		if k.List {
			continue
		}
		for name, role := range map[string]string{"ines": install.RoleOwner, "tobias": install.RoleSupervisor, "jana": install.RoleElectrician,
			"remy": install.RoleApprentice, "dot": install.RoleOffice} {
			c := w.as(name)
			v := c.job(ref)
			p, _ := install.PartNamed(k.Name)
			a := c.part(v, k.Name, p.Of(v.View.Job))
			if k.MayEdit(role) {
				assert.Equal(t, map[bool]int{false: http.StatusOK, true: http.StatusConflict}[k.Kept], a.status, "%s %s: %s", role, k.Name, a.text)
				continue
			}
			assert.Equal(t, http.StatusForbidden, a.status, "%s %s", role, k.Name)
			assert.Contains(t, a.problem(t).Title, "for "+strings.Join(k.By, ", "))
		}
	}
	for name, may := range map[string]int{"remy": 403, "dot": 403, "tobias": 200} {
		c := w.as(name)
		v := c.job("PW-2037")
		circuit := v.View.Job.Circuits[0]
		assert.Equal(t, may, c.part(v, "circuits/c1", circuit).status, name)
		assert.Equal(t, map[int]int{403: 403, 200: 409}[may], c.do("DELETE", "/api/jobs/"+v.Id+"/parts?part=circuits/c1&base="+
			strconv.Itoa(c.job("PW-2037").Versions["circuits/c1"]), nil).status, "%s takes it off", name)
	}
	assert.Equal(t, 403, w.as("remy").do("POST", "/api/jobs", put{"ref": "X-1", "title": "t", "kind": "rewire"}).status)
}

// What a role is is no competence: without an authorisation the owner and the office neither isolate nor
// test, energise, clear or sign, and with one for another job or time nobody does either.
func TestARoleIsNoCompetence(t *testing.T) {
	w := serve(t)
	const ref = "PW-2040"
	id := w.as("jana").job(ref).Id
	for _, name := range []string{"ines", "dot", "remy"} {
		c := w.as(name)
		assert.Subset(t, install.Skills, c.job(ref).View.Holds, name)
		v := c.made(id, c.isolates(id))
		assert.Nil(t, v.View.Tests.Isolation, "what was switched off is on record, and opens nothing")
		assert.Contains(t, v.View.Tests.Isolations[0].Flaws[0], "not authorised to isolate on this job")
		c.held(id, permits(), 403, "permit to energise")
		c.held(id, reads("", "ze", "Ω", 0.3), 403, "take test readings")
		c.held(id, put{"kind": "signature"}, 403, "sign the revision")
	}
	ctx := context.Background()
	ines, err := w.st.PersonByEmail(ctx, "ines@pellmore.example")
	require.NoError(t, err)
	scope := w.st.For(ines.CompanyID)
	day := func(n int) string { return time.Now().UTC().AddDate(0, 0, n).Format(time.DateOnly) }
	for _, a := range []store.Authorisation{{Kind: install.Isolating, JobRef: "PW-2037"}, {Kind: install.Isolating, Practice: "split120"},
		{Kind: install.Isolating, At: time.Now().Add(time.Hour)}} {
		require.NoError(t, scope.Grant(ctx, ines, ines.ID, a, whole.PracticeIDs))
	}
	owner := w.as("ines")
	isolated := func() bool { return owner.made(id, owner.isolates(id)).View.Tests.Isolation != nil }
	assert.False(t, isolated())
	require.NoError(t, scope.Grant(ctx, ines, ines.ID, store.Authorisation{Kind: install.Isolating, Until: day(1), Licence: "L-5"}, nil))
	require.Eventually(t, isolated, 5*time.Second, 20*time.Millisecond)
	v := owner.job(ref)
	r := v.View.Job.Records[len(v.View.Job.Records)-1]
	assert.Equal(t, "authorised by Ines Pellmore on "+day(0)+", until "+day(1)+", licence L-5", r.Under)
	// A lock of one's own is for everybody.
	w.as("remy").made(id, put{"kind": "lock", "subject": r.ID, "lockTag": "red 9"})
	assert.Contains(t, w.as("jana").job(ref).View.Tests.Locks[0].LockTag, "red 9")
	// It is withdrawn at once.
	again, err := w.st.PersonByID(ctx, ines.ID)
	require.NoError(t, err)
	for _, a := range again.Authorisations {
		require.NoError(t, scope.Withdraw(ctx, ines, a.ID))
	}
	assert.Eventually(t, func() bool { return !isolated() }, 5*time.Second, 20*time.Millisecond)
}

// What a person could make look like another's, or like more than it is, is refused.
func TestWhatIsNotTheirsToRecord(t *testing.T) {
	w := serve(t)
	id := w.as("tobias").job("PW-2044").Id
	a := w.as("dot").add(id, put{"kind": "variation", "subject": "x", "cost": -99999, "effects": []string{"none"}})
	assert.Contains(t, []int{409, 422}, a.status, a.text)
	w.as("remy").held(id, put{"kind": "operator", "path": "agreed", "reference": "T", "person": "P", "called": "2026-11-02T09:30"}, 403,
		"owner, supervisor, electrician, office")
	w.as("remy").held(id, put{"kind": "photo", "subject": "board", "reference": strings.Repeat("1", 64)}, 422, "photo.reference")
	v := w.as("tobias").made(id, put{"kind": "observation", "subject": "other", "path": "C1", "evidence": "seen", "note": "live parts",
		"risk": "r", "mend": "m"})
	finding := v.View.Job.Records[len(v.View.Job.Records)-1]
	over := put{"kind": "observation", "subject": "other", "path": "C3", "evidence": "seen", "note": "nothing", "risk": "r", "mend": "m",
		"supersedes": finding.ID}
	w.as("remy").held(id, over, 403, "only who made it corrects it")
	w.as("jana").made(id, over)
}

func TestRolesDecide(t *testing.T) {
	w := serve(t)
	sign := put{"password": demo.Password, "note": ""}
	for who, want := range map[string]int{"ines": 403, "jana": 403, "remy": 403, "dot": 403, "tobias": 409} {
		c := w.as(who)
		v := c.job("PW-2037")
		a := c.do("POST", "/api/jobs/"+v.Id+"/sign", sign)
		assert.Equal(t, want, a.status, who)
		assert.Equal(t, 422, c.do("POST", "/api/jobs/"+v.Id+"/sign", put{"password": "guess"}).status, "without the password nothing is signed")
		if p := a.problem(t); want == 409 {
			assert.Contains(t, p.Title, "Not ready to sign")
		}
	}
	remy := w.as("remy")
	v := remy.job("PW-2037")
	assert.Equal(t, 403, remy.do("POST", "/api/jobs/"+v.Id+"/records", map[string]any{"kind": "energise"}).status)
	var k api.Company
	remy.do("GET", "/api/company", nil).into(t, &k)
	assert.Equal(t, 403, remy.do("PUT", "/api/company", k).status)
	assert.Equal(t, 403, remy.do("POST", "/api/jobs/import", "{}").status)
}
