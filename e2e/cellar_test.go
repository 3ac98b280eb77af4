package e2e

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/e2e/browser"
)

// In a cellar without signal a person locks off, reads three dead tests, takes a tick back and
// takes a picture, closes the page and comes back up: all of it is on record once, with the times
// at which it happened and in that order. Another person on the same phone sees none of it and sends none of it.
func TestWhatIsRecordedInACellarIsKept(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	const ref = "PW-2037"
	p.Size(390, 844)
	id := p.open(ref, "test")
	was := len(s.job(ref).Records)
	before := time.Now()

	p.Has("[data-isolate]")
	p.Until("the scripts of the sheets", `performance.getEntriesByType('resource').some(e => e.name.includes('FixSheet'))`)
	p.Offline(true)
	p.Click("[data-isolate]")
	p.Choose(`select[name="where"]`, "board:")
	p.Click(`[data-device="main"]`)
	for name, text := range map[string]string{"lockTag": "padlock 9", "tester": "Tarn V2 no. 9", "stillLive": "incoming terminals"} {
		p.Type(`input[name="`+name+`"]`, text)
	}
	p.Choose(`select[name="testerKind"]`, "contact")
	p.Click(`input[name="provedBefore"]`)
	p.volts("board:")
	p.Click(`input[name="provedAfter"]`)
	p.Press("Record")
	p.Has("[data-kept-isolation]")
	p.See("not judged yet")
	p.Has(`[name="instrument"]`)
	var instrument string
	p.Eval(`document.querySelector('[name="instrument"]').options[1].value`, &instrument)
	p.Choose(`[name="instrument"]`, instrument)
	p.read("0.24", true) // Ze, then the earth put back, then the insulation
	p.Press("Yes, correct")
	p.Until("the answer to be kept", `document.querySelectorAll('[data-kept-reading]').length === 2`)
	p.read("480", true)
	p.Until("the reading to be kept", `document.querySelectorAll('[data-kept-reading]').length === 3`)
	p.sheet(id, "second-fix")
	p.Click(`[data-tick="c1-label"]`) // a step that was ticked too early is taken back
	p.Has("[data-kept-tick]")
	p.sheet(id, "first-fix")
	p.Upload(`[data-photos="c1-photo"]`, picture(t))
	p.Has("[data-kept-picture]")
	p.See("5 records wait here for a connection")
	p.Press("Show them")
	p.See("padlock 9")
	assert.Len(t, s.job(ref).Records, was, "nothing went out yet")

	// The page is closed without a connection. Up again, her session is over and somebody else
	// takes the phone: what is hers stays hers.
	p.Leave()
	p.Offline(false)
	p.Open("/api/health")
	p.Eval(`fetch('/api/session', {method: 'DELETE'}).then(r => r.status)`, nil)
	p.Size(1280, 800)
	p.Open("/jobs")
	p.goIn("Remy")
	p.See("Start a job")
	p.open(ref, "test")
	assert.Len(t, s.job(ref).Records, was, "nothing goes out in another's name")
	p.Gone("wait here for a connection")
	p.Eval(`fetch('/api/session', {method: 'DELETE'}).then(r => r.status)`, nil)
	p.Open("/jobs")
	p.goIn("Jana Okell")
	p.See("Start a job")
	p.open(ref, "test")
	p.Until("what waited to be sent", `!document.querySelector('[data-kept]')`)
	p.sheet(id, "first-fix")
	p.Until("the picture to be sent",
		`!document.querySelector('[data-kept-picture]') && !!document.querySelector('[data-task="c1-photo"] img')`)
	p.sheet(id, "test")
	job := s.job(ref)
	photos, made := []install.Record{}, []install.Record{}
	for _, r := range job.Records[was:] {
		if r.Kind == install.Photo {
			photos = append(photos, r)
		} else {
			made = append(made, r)
		}
	}
	require.Len(t, photos, 1, "once")
	assert.True(t, photos[0].At.Before(photos[0].ReceivedAt), "when it was taken")
	require.Len(t, made, 5, "each once")
	kinds := []install.RecordKind{}
	for i, r := range made {
		kinds = append(kinds, r.Kind)
		assert.False(t, r.ReceivedAt.IsZero())
		assert.True(t, r.At.Before(r.ReceivedAt) && r.At.After(before.Add(-2*time.Second)), "%d: %s, received %s", i, r.At, r.ReceivedAt)
		assert.Equal(t, made[0].Device, r.Device)
		assert.Equal(t, made[0].Seq+int64(i), r.Seq)
		assert.Equal(t, "Jana Okell", r.By)
	}
	assert.Equal(t, []install.RecordKind{install.Isolation, install.Reading, install.Reading, install.Reading, install.Tick}, kinds)
	assert.Equal(t, []string{"ze", "earth-back", "insulation-ln"}, []string{made[1].Subject, made[2].Subject, made[3].Subject})
	assert.InDelta(t, 480, *made[3].Value, 0)
	p.Has("[data-proved]")
}

// A phone whose clock is two hours ahead records in the cellar; the server is killed before it is
// up again. What it recorded is there once, dated by when it happened, and says how far the clock
// was off.
func TestAWrongClockDatesNothingWrong(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Size(390, 844)
	p.Clock(2 * time.Hour)
	const ref = "PW-2037"
	id := p.open(ref, "second-fix")
	was := len(s.job(ref).Records)
	p.Until("the shell to be kept", `navigator.serviceWorker.ready.then(() => navigator.serviceWorker.controller !== null)`)
	p.kept("job:" + id)
	before := time.Now()
	p.Offline(true)
	p.Has(`[data-note-left]`)
	p.unfold(`input[name="loose"]`)
	p.Type(`input[name="loose"]`, "lid left off the joint box")
	p.Press("Write it down")
	p.See("1 record waits here for a connection")
	after := time.Now()
	p.Leave()
	s.kill()
	s.serve()
	p.Offline(false)
	p.Open("/jobs/" + id + "/second-fix")
	p.Has(`main[data-sheet="second-fix"] h1`)
	p.Until("what waited to be sent", `!document.querySelector('[data-kept]')`)
	p.See("lid left off the joint box")
	records := s.job(ref).Records
	require.Len(t, records, was+1, "once")
	r := records[was]
	assert.WithinRange(t, r.At, before.Add(-5*time.Second), after.Add(5*time.Second), "when it happened, not by the phone's clock")
	assert.InDelta(t, 7200, r.ClockOffS, 10)
	assert.False(t, r.ReceivedAt.IsZero())
}

// What somebody typed and could not save waits for them alone, on a phone that others use too.
func TestADraftIsItsOwners(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	const ref, typed = "PW-2037", "the key is under the urn"
	p.open(ref, "survey?leaf=site")
	p.Offline(true)
	p.fill("access", typed)
	p.Until("the draft to be kept", `Object.values(localStorage).some(v => v.includes('`+typed+`'))`)
	p.Leave()
	p.Offline(false)
	turn := func(name string) {
		p.Open("/api/health")
		p.Eval(`fetch('/api/session', {method: 'DELETE'}).then(r => r.status)`, nil)
		p.Open("/jobs")
		p.goIn(name)
		p.See("Start a job")
		p.open(ref, "survey?leaf=site")
	}
	turn("Remy")
	var shown string
	p.Eval(`document.querySelector('`+browser.Field("access")+`').value`, &shown)
	assert.NotContains(t, shown, "urn")
	assert.NotContains(t, s.job(ref).Site.Access, "urn", "nothing goes out in another's name")
	turn("Jana Okell")
	p.Until("what she typed", `document.querySelector('`+browser.Field("access")+`').value.includes('`+typed+`')`)
	p.Press("Save") // she had not left the field: it is hers to save
	p.Saved()
	assert.Contains(t, s.job(ref).Site.Access, typed)
}

// The supervisor ends the sessions of somebody whose phone is without signal. Once it has one, what
// it kept goes to the supervisor, who sees it come in, takes one over and sets the other aside.
func TestAnEndedSessionsQueueIsDecided(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Size(390, 844)
	const ref = "PW-2037"
	p.open(ref, "second-fix")
	was := len(s.job(ref).Records)
	p.Offline(true)
	for _, note := range []string{"lid left off the joint box", "never mind this one"} {
		p.Has(`[data-note-left]`)
		p.unfold(`input[name="loose"]`)
		p.Type(`input[name="loose"]`, note)
		p.Press("Write it down")
		p.See("here for a connection")
	}
	p.See("2 records wait here for a connection")

	boss := s.person("Tobias Marrick")
	boss.Open("/people")
	row := `[data-person="Jana Okell"]`
	boss.Press("Jana Okell", row)
	boss.Press("End the sessions of Jana Okell")
	boss.Press("End them")
	boss.Until("her sessions to be ended", `document.querySelector('`+row+`').innerText.includes('0 devices')`)
	boss.Open("/jobs")
	boss.See("Start a job")
	boss.Gone("left on devices")

	p.Offline(false)
	p.See("Tobias Marrick ended this session")
	p.See("2 entries that waited here have gone to the supervisor for decision")
	var left int
	p.Eval(`Object.keys(localStorage).filter(k => k.startsWith('arvelt:records:')).length`, &left)
	assert.Zero(t, left)

	boss.See("2 entries left on devices wait for your decision") // told, not asked for
	boss.Open("/people")
	boss.Press("Take it over", "#left li")
	boss.Gone("lid left off the joint box")
	boss.Press("Set it aside", "#left li")
	boss.Type(`#left input`, "a slip")
	boss.Press("Set it aside", "#left li [data-why]")
	boss.Gone("Left on devices")
	records := s.job(ref).Records
	require.Len(t, records, was+1)
	assert.Equal(t, "Jana Okell", records[was].By)
	assert.Equal(t, "lid left off the joint box", records[was].Note)
	boss.Open("/jobs")
	boss.See("Start a job")
	boss.Gone("wait for your decision")
}
