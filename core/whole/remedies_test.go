package whole

import (
	"encoding/json"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/split120"
	"arvelt/core/working"
)

// taken is a job with a remedy taken as a sheet takes it: field by field of the parts.
func taken(t *testing.T, job *install.Job, r working.Remedy) *install.Job {
	t.Helper()
	out := *job
	out.Circuits = append([]install.Circuit{}, job.Circuits...)
	for _, set := range r.Sets {
		k := out.CircuitByID(strings.TrimPrefix(set.Part, "circuits/"))
		raw, err := json.Marshal(k)
		require.NoError(t, err)
		var tree map[string]any
		require.NoError(t, json.Unmarshal(raw, &tree))
		at, path := tree, strings.Split(set.Field, ".")
		for _, name := range path[:len(path)-1] {
			at = at[name].(map[string]any)
		}
		require.Contains(t, at, path[len(path)-1], set.Field)
		at[path[len(path)-1]] = set.Value
		raw, err = json.Marshal(tree)
		require.NoError(t, err)
		*k = install.Circuit{}
		require.NoError(t, json.Unmarshal(raw, k))
	}
	return &out
}

// A remedy that was tried on what it reaches holds for the whole job: taken as a sheet takes
// it, the check is better and no other is worse, in both practices.
func TestARemedyHoldsInTheWholeJob(t *testing.T) {
	uses := map[string][]string{"iec230": {"ring", "sockets-20", "lighting-6", "cooker-32", "water-stored", "ev",
		"distribution"}, "split120": {"general", "small-appliance", "lighting", "range", "dryer", "ev", "distribution"}}
	uses[split120.CanadaID] = uses["split120"]
	for _, practice := range PracticeIDs {
		p, tried := Practices[practice], 0
		for seed := range uint64(12) {
			pick := rand.New(rand.NewPCG(seed, 7))
			job := houseOf(practice, 9, uses[practice]...)
			for i := range job.Circuits {
				c := &job.Circuits[i]
				for s := range c.Route.Segments {
					c.Route.Segments[s].LengthM = 5 + pick.Float64()*90
				}
				c.Protection.Way = 1 + pick.IntN(8)
				c.Serves.PowerW = float64(pick.IntN(9)) * 900
				if i > 6 {
					c.From = "c7" // behind the distribution circuit
				}
			}
			before := p.Report(job, nil)
			was := map[string]working.Verdict{}
			for _, c := range before.Checks() {
				was[c.Circuit+"/"+c.ID] = c.Verdict
			}
			for _, c := range before.Checks() {
				for _, r := range c.Remedies {
					if rule(p, c.Rule).Hint || c.Verdict == working.Pass {
						continue
					}
					tried++
					after := p.Judge(taken(t, job, r))
					for _, x := range after.Checks() {
						old, there := was[x.Circuit+"/"+x.ID]
						switch {
						case x.ID == c.ID && x.Circuit == c.Circuit:
							assert.True(t, c.Verdict.Worse(x.Verdict), "%s %d: %s of %s does not help", practice, seed, r.Title, c.ID)
						case rule(p, x.Rule).Hint:
						default:
							assert.False(t, there && x.Verdict.Worse(old) || !there && x.Verdict == working.Fail,
								"%s %d: %s for %s/%s makes %s/%s %s", practice, seed, r.Title, c.Circuit, c.ID, x.Circuit, x.ID, x.Verdict)
						}
					}
				}
			}
		}
		assert.Greater(t, tried, 60, practice)
	}
}

func rule(p rulebook.Book, id working.RuleID) *working.Rule {
	for _, r := range p.Rules() {
		if r.ID == id {
			return r
		}
	}
	return &working.Rule{}
}
