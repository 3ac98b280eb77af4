package e2e

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/e2e/browser"
)

// kept waits until something that was read is kept in the browser.
func (p *person) kept(name string) {
	p.s.t.Helper()
	p.Until(name+" to be kept", `new Promise(done => { const open = indexedDB.open('arvelt');
		open.onerror = () => done(false);
		open.onsuccess = () => { const all = open.result.transaction('read').objectStore('read').getAllKeys();
			all.onsuccess = () => { open.result.close(); done(all.result.some(k => k.endsWith('|`+name+`'))); } } })`)
}

// A job that starts today is taken along: without signal the page opens, all its sheets are
// there with of when they are, what is changed and recorded waits, and once there is a
// connection again it is saved without anybody doing anything, also where the server was
// killed between.
func TestAJobIsReadAndEditedWithoutASignal(t *testing.T) {
	s := start(t)
	dot := s.person("Dot Farley")
	id := dot.open("PW-2052", "plan")
	today := time.Now().Format(time.DateOnly)
	dot.Eval(`fetch('/api/jobs/`+id+`').then(r => r.json()).then(j => fetch('/api/jobs/`+id+`/parts?part=plan&base=' + j.versions.plan,
		{method: 'PUT', headers: {'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID()},
		body: JSON.stringify({...j.view.job.plan, startDate: '`+today+`'})})).then(r => r.status)`, nil)
	require.Equal(t, today, s.job("PW-2052").Plan.StartDate)
	dot.Open("/jobs")

	p := s.person("Jana Okell") // never opens the job before she is in the cellar
	for _, sheet := range []string{"job", "circuits", "supply", "outdoor", "case", "desk"} {
		p.kept(sheet + ":" + id)
	}
	p.Until("the shell to be kept", `navigator.serviceWorker.ready.then(() => navigator.serviceWorker.controller !== null)`)
	p.Leave()
	p.Offline(true)
	p.Open("/jobs/" + id + "/circuits")
	p.Has(`main[data-sheet="circuits"] h1`)
	p.Has("[data-offline]")
	p.See("as it was on")
	p.See("Ring, ground floor")
	for _, sheet := range []string{"survey", "supply", "board", "materials", "plan", "first-fix", "second-fix", "test", "handover"} {
		p.sheet(id, sheet)
	}
	p.sheet(id, "survey")
	p.leaf("site")
	p.Fill(browser.Field("phone"), "000 4711")
	p.Until("the edit to wait", `Object.keys(localStorage).some(k => k.includes(':draft:`+id+`:site'))`)
	p.sheet(id, "circuits")
	p.Has(`[data-kept-drafts="1"]`)
	p.See("waits here for a connection")
	p.Open("/jobs")
	p.See("PW-2052")
	p.Leave()

	s.kill()
	p.Offline(false)
	p.Open("/jobs")
	p.See("PW-2052") // the server is gone: it is read as it was
	p.Has("[data-offline]")
	s.serve()
	p.Until("the connection", `!document.querySelector('[data-offline]')`)
	p.Until("what waited to be sent", `!Object.keys(localStorage).some(k => k.includes(':draft:`+id+`:site'))`)
	assert.Equal(t, "000 4711", s.job("PW-2052").Site.Phone)

	// Who signs out leaves nothing to read behind.
	p.Away("Sign out")
	p.See("Demo company")
	p.Until("nothing to be left", `new Promise(done => { const open = indexedDB.open('arvelt'); open.onsuccess = () => {
		const all = open.result.transaction('read').objectStore('read').getAllKeys();
		all.onsuccess = () => { open.result.close(); done(all.result.length === 0); } } })`)
}

// What a person did last is taken back and brought back in words, by keys too; where another has
// changed some of it since, it says so and offers what can still be done.
func TestUndoAndRedoInWords(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	const ref = "PW-2052"
	p.open(ref, "survey?leaf=site")
	phone := browser.Field("phone")
	var was string
	p.Eval(`document.querySelector('`+phone+`').value`, &was)
	p.Fill(phone, "000 1234")
	p.Saved()
	p.Has(`[data-undo="Site changed"]`)
	p.Press("Undo: Site changed")
	p.Has(`[data-redo="Site changed"]`)
	p.Until("the figure before", fmt.Sprintf(`document.querySelector('%s').value === %q`, phone, was))
	p.Press("Redo: Site changed")
	p.Until("the figure again", `document.querySelector('`+phone+`').value === '000 1234'`)
	assert.Equal(t, "000 1234", s.job(ref).Site.Phone)
	p.Click("h1")
	p.Key("z", ctrl)
	p.Until("the figure before", fmt.Sprintf(`document.querySelector('%s').value === %q`, phone, was))
	p.Has(`[data-redo="Site changed"]`)
	p.Key("y", ctrl)
	p.Until("the figure again", `document.querySelector('`+phone+`').value === '000 1234'`)

	dot := s.person("Dot Farley")
	dot.open(ref, "survey?leaf=site")
	dot.Fill(browser.Field("town"), "Elsewhere")
	dot.Saved()
	p.Until("the other's change", `document.querySelector('`+browser.Field("town")+`').value === 'Elsewhere'`)
	p.Has(`[data-undo="Site changed"]`)
	p.Until("what holds it", `fetch(location.pathname.replace('/jobs/', '/api/jobs/').replace(/\/survey.*/, '/undo')).then(r => r.json())
		.then(s => s.undo.blocked.length === 1)`)
	p.Press("Undo: Site changed")
	p.See("Dot Farley has changed it since")
	p.Press("Leave it")
	p.Gone("Not undone whole")
	assert.Equal(t, "000 1234", s.job(ref).Site.Phone)
}

// On a signed job what is looked after is recorded on the Handover sheet, and an isolation is
// withdrawn where it stands.
func TestASignedJobIsLookedAfterInTheBrowser(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Size(390, 844)
	p.open("PW-2029", "handover")
	p.Choose(`[name="after"]`, "storm-check")
	p.Choose(`[name="inOrder"]`, "no")
	p.Type(`input[name="afterNote"]`, "lid of the charge point loose")
	p.Press("Record")
	p.Has(`[data-after="storm-check"]`)
	p.See("lid of the charge point loose")
	job := s.job("PW-2029")
	require.True(t, job.Frozen(), "it stays signed")
	last := job.Records[len(job.Records)-1]
	assert.Equal(t, install.LooseEnd, last.Kind, "what was not in order is a snag")
	assert.Equal(t, 0, p.Sideways())

	id := p.open("PW-2037", "second-fix")
	p.isolate()
	p.Has("[data-proved]")
	p.Press("Withdraw it")
	p.Type(`input[name="why"]`, "tester had a flat cell")
	p.Press("Withdraw the isolation")
	p.See("No isolation of yours today")
	p.See("Your lock is in place")
	p.sheet(id, "test")
	p.See("No isolation of yours today")
}
