package api_test

import (
	"encoding/json"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
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
		}
		return out
	}
	made, stale := map[string]int{}, map[string]bool{}
	for _, same := range jobs {
		for i, v := range same {
			for _, other := range same[max(0, i-2):i] {
				for _, k := range install.PartKinds {
					if k.List {
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
		if !k.List {
			assert.NotZero(t, made[k.Name], k.Name)
		}
	}
	assert.Greater(t, len(stale), 12, "the test changes what it is about")
}

// A role that the registry keeps off a part cannot change it, and is told whose it is.
func TestAPartIsForItsRoles(t *testing.T) {
	w := serve(t)
	const ref = "PW-2044"
	for _, k := range install.PartKinds {
		if k.List {
			continue
		}
		for _, who := range []struct{ name, role string }{{"remy", install.RoleApprentice}, {"tobias", install.RoleSupervisor}} {
			c := w.as(who.name)
			v := c.job(ref)
			p, _ := install.PartNamed(k.Name)
			a := c.part(v, k.Name, p.Of(v.View.Job))
			if k.MayEdit(who.role) {
				assert.Equal(t, http.StatusOK, a.status, "%s %s: %s", who.role, k.Name, a.text)
				continue
			}
			assert.Equal(t, http.StatusForbidden, a.status, "%s %s", who.role, k.Name)
			assert.Contains(t, a.problem(t).Title, "for owner, supervisor, electrician, office")
		}
	}
}
