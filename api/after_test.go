package api_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A signed revision takes what is looked after without being opened again, and its seal holds;
// what would change the work still asks for a new revision.
func TestASignedJobIsLookedAfter(t *testing.T) {
	w := serve(t)
	jana, tobias, dot := w.as("jana"), w.as("tobias"), w.as("dot")
	v := jana.job("PW-2029")
	require.True(t, v.View.Frozen)
	id := v.Id
	jana.held(id, put{"kind": "aftercare", "subject": "button-test", "note": "pressed"}, 422, "aftercare.passed")
	jana.held(id, put{"kind": "aftercare", "subject": "stroll", "passed": true, "note": "x"}, 422, "aftercare.subject")
	v = jana.made(id, put{"kind": "aftercare", "subject": "button-test", "passed": true, "note": "opens, closed again"})
	assert.True(t, v.View.Frozen, "it stays signed")
	assert.Equal(t, "A", v.View.Revision)
	v = dot.made(id, put{"kind": "aftercare", "subject": "storm-check", "passed": false, "note": "water in the gland of the charge point"})
	require.Len(t, v.View.Loose, 1, "what was not in order is a snag")
	assert.Contains(t, v.View.Loose[0].Note, "water in the gland")
	// Somebody makes it safe and puts it right: recorded at once, whatever is signed.
	jana.made(id, jana.isolates(id))
	v = jana.made(id, put{"kind": "loose-end", "subject": v.View.Loose[0].ID, "done": true, "note": "gland made tight anew"})
	assert.Empty(t, v.View.Loose)
	jana.held(id, ticks("c1-point", false), 409, "is signed: open a new revision")
	jana.held(id, reads("c1", "r1r2", "Ω", 0.1), 409, "is signed: open a new revision")

	pack := tobias.pdf("/api/jobs/" + id + "/pack")
	for _, says := range []string{"unchanged: revision A, signed by Tobias Marrick", "came after it and are not under its seal",
		"Looked after since the handover", "Test buttons pressed", "not in order: water in the gland"} {
		assert.Contains(t, pack, says)
	}
	assert.NotContains(t, tobias.pdf("/api/jobs/"+id+"/pack?revision=A"), "water in the gland", "the signed pack stays as it was")

	// What nobody may add behind a signature breaks the seal of a file too.
	var file map[string]any
	tobias.do("GET", "/api/jobs/"+id+"/file", nil).into(t, &file)
	a := tobias.do("POST", "/api/jobs/import?as=NEW-1", file)
	assert.Equal(t, 201, a.status, a.text)
	records := file["records"].([]any)
	forged := map[string]any{}
	for k, x := range records[0].(map[string]any) {
		forged[k] = x
	}
	forged["id"], forged["kind"], forged["subject"] = "0b5a2f0e-0000-4000-8000-000000000001", "remark", "x"
	file["records"] = append(records, forged)
	a = tobias.do("POST", "/api/jobs/import", file)
	assert.Equal(t, 400, a.status)
	assert.Contains(t, a.text, "a remark stands behind the signature")

	tobias.held(v.Id, put{"kind": "aftercare", "subject": "other", "passed": true}, 422, "aftercare.note")
	jana.held(jana.job("PW-2037").Id, put{"kind": "aftercare", "subject": "other", "passed": true, "note": "n"}, 409,
		"Nothing is handed over yet")
}

// An isolation is corrected by who made it, with what was wrong, and withdrawn by them or the
// supervisor: it proves nothing from then on, its lock hangs until it is taken off, and what was
// done under it is looked at again.
func TestAnIsolationIsCorrectedAndWithdrawn(t *testing.T) {
	w := serve(t)
	jana, tobias, remy := w.as("jana"), w.as("tobias"), w.as("remy")
	twin := w.twin("jana")
	id := jana.job("PW-2037").Id
	jana.made(id, jana.isolates(id))
	first := jana.job("PW-2037").View.Tests.Isolation
	require.NotNil(t, first)
	again := jana.isolates(id)
	again["supersedes"] = first.ID
	jana.held(id, again, 422, "isolation.note")
	again["note"] = "the other switch was meant"
	twin.held(id, again, 403, "only who made it corrects it")
	v := jana.made(id, again)
	second := v.View.Tests.Isolation
	require.NotNil(t, second)
	assert.NotEqual(t, first.ID, second.ID)
	require.Len(t, v.View.Tests.Locks, 1, "one lock hangs, that of the correction")
	jana.held(id, put{"kind": "withdrawal", "subject": first.ID, "note": "n"}, 409, "not there any more")

	deadTests(jana, id)
	back := put{"kind": "withdrawal", "subject": second.ID, "note": "the tester had a flat cell"}
	remy.held(id, back, 403, "only who made it, or the supervisor")
	twin.held(id, back, 403, "only who made it, or the supervisor")
	jana.held(id, put{"kind": "withdrawal", "subject": second.ID}, 422, "withdrawal.note")
	v = jana.made(id, back)
	assert.Nil(t, v.View.Tests.Isolation, "it proves nothing any more")
	require.Len(t, v.View.Tests.Locks, 1, "the lock hangs until it is taken off")
	notes := ""
	for _, l := range v.View.Loose {
		notes += l.Note + "\n"
	}
	assert.Contains(t, notes, "look again at what was done under it, and prove it dead anew: the tester had a flat cell")
	jana.held(id, ticks("c1-torque", true), 409, "your own isolation of today")
	tobias.held(id, back, 409, "withdrawn already")
	pack := tobias.pdf("/api/jobs/" + id + "/pack")
	assert.Contains(t, pack, "the other switch was meant")
	assert.Contains(t, pack, "Withdrawn by Jana Okell")
	jana.made(id, put{"kind": "lock-off", "subject": second.ID})
	v = jana.made(id, jana.isolates(id))
	assert.NotNil(t, v.View.Tests.Isolation)
}

// A record is of one kind: members of another are refused by name, with what this one has, and
// so is one without what it needs, or with nothing at all.
func TestARecordIsOfOneKind(t *testing.T) {
	c := serve(t).as("jana")
	id := c.job("PW-2037").Id
	before := len(c.job("PW-2037").View.Job.Records)
	c.held(id, put{"kind": "loose-end", "note": "cover off", "lockTag": "padlock 4"}, 422, "loose-end.lockTag")
	c.held(id, put{"kind": "tick", "subject": "c1-mark"}, 422, "tick.done")
	c.held(id, put{"kind": "reading"}, 422, "reading.subject")
	c.held(id, put{"kind": "variation", "person": "x", "note": "y"}, 422, "kind")
	c.held(id, put{"kind": "reading", "subject": "r1r2", "circuit": "c1", "value": 1, "by": "Somebody Else"}, 422, "reading.by")
	for name, v := range map[string]any{"by": "Tobias Marrick", "role": "owner", "at": "2001-01-01T00:00:00Z", "personId": "x"} {
		c.held(id, put{"kind": "loose-end", "note": "cover off", name: v}, 422, "loose-end."+name)
	}
	for _, body := range []string{"null", "{}", "[]", `{"kind":"tick"`, `"tick"`} {
		a := c.do("POST", "/api/jobs/"+id+"/records", body)
		assert.GreaterOrEqual(t, a.status, 400, body)
		assert.Less(t, a.status, 500, body)
	}
	assert.Len(t, c.job("PW-2037").View.Job.Records, before)
}
