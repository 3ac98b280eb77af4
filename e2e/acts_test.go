package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// packText is the handover pack of a job as text.
func (p *person) packText(id string) string {
	p.s.t.Helper()
	file := filepath.Join(p.s.t.TempDir(), "pack.pdf")
	require.NoError(p.s.t, os.WriteFile(file, []byte(p.download("/api/jobs/"+id+"/pack")), 0o600))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(p.s.t, err)
	return strings.Join(strings.Fields(string(out)), " ")
}

// finding notes a finding as somebody who walks the house does, and returns its row.
func (p *person) finding(kind, evidence, note string) {
	p.s.t.Helper()
	p.Press("Note a finding")
	p.Choose(`select[name="subject"]`, kind)
	p.Choose(`select[name="evidence"]`, evidence)
	p.Type(`input[name="note"]`, note)
	p.Press("Save the finding")
	p.Has(`[data-finding="` + kind + `"]`)
}

// A danger at the equipment of the operator is found on the survey, reported by telephone from the phone out of what was noted, tracked, and
// closed by who may.
func TestADamageIsReportedFromThePhone(t *testing.T) {
	s := start(t)
	jana := s.person("Jana Okell")
	jana.Size(390, 844)
	id := jana.open("PW-2044", "survey?leaf=existing")
	jana.finding("intake-damage", "seen", "lid cracked through, sooty")
	jana.leaf("case")
	jana.Has("[data-report-draft]")
	jana.See("lid cracked through, sooty (class C1")
	jana.See("The operator’s to rectify")
	jana.Click(`[data-finding="intake-damage"] [data-follow="reported"]`)
	jana.Type(`input[name="followPerson"]`, "fault desk, Ms Ode")
	jana.Eval(`(e => { Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(e, '2026-05-04T09:30');
		e.dispatchEvent(new Event('input', {bubbles: true})) })(document.querySelector('input[name="called"]'))`, nil)
	jana.Type(`input[name="reference"]`, "F 7-114")
	jana.Press("Record")
	jana.See("Reported to the operator: fault desk, Ms Ode, 2026-05-04 09:30, reference F 7-114")
	jana.Gone("What the operator is told")
	assert.LessOrEqual(t, jana.Sideways(), 0)

	tobias := s.person("Tobias Marrick")
	tobias.open("PW-2044", "survey?leaf=case")
	tobias.Has(`[data-finding="intake-damage"]`)
	for _, step := range [][3]string{{"made-safe", "cupboard locked, notice up", "Anselm Roake"}, {"mended", "new cut-out, F 7-114 closed", ""}} {
		tobias.Click(`[data-finding="intake-damage"] [data-follow="` + step[0] + `"]`)
		if step[2] != "" {
			tobias.Type(`input[name="followPerson"]`, step[2])
		}
		tobias.Type(`input[name="followNote"]`, step[1])
		tobias.Press("Record")
		tobias.See(step[1])
	}
	tobias.Gone("the report to the operator: Damage")
	assert.NotContains(t, tobias.packText(id), "Damage at the operator's equipment (C1)", "it is closed")
}

// A finding is declined with its reason and signature, and found again on the pack.
func TestADeclinedFindingStandsOnThePack(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	id := p.open("PW-2044", "survey?leaf=existing")
	p.finding("live-exposed", "seen", "bare end behind the organ")
	p.leaf("case")
	p.Press("Declines", `[data-finding="live-exposed"]`)
	p.Type(`[data-finding="live-exposed"] input[name="why"]`, "the organ builder comes in spring")
	p.Type(`input[name="witness"]`, "Jana Okell")
	p.Press("Save the decision")
	p.See("witness: Jana Okell")
	p.says("the notice of a dangerous condition: A live part can be touched")
	p.Click(`[data-finding="live-exposed"] [data-follow="notice"]`)
	p.Type(`input[name="followPerson"]`, "Anselm Roake")
	p.Click(`input[name="signed"]`)
	p.Press("Record")
	p.See("Notice of a dangerous condition: Anselm Roake")
	p.Gone("the notice of a dangerous condition: A live part can be touched")
	pack := p.packText(id)
	for _, says := range []string{"the organ builder comes in spring", "witness: Jana Okell", "Notice of a dangerous condition: Anselm Roake"} {
		assert.Contains(t, pack, says)
	}
}

// A trench dug too shallow is not filled: the step says why and leads to where it is mended; dug deeper, photographed, it is filled.
func TestATrenchTooShallowIsMendedAndFilled(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	id := p.open("PW-2050", "supply?leaf=outdoor")
	run := s.job("PW-2050").Outdoor.Runs[0]
	step := "run-" + run.ID + "-"
	p.Has(`[data-run]`)
	for _, field := range []string{"located", "dugBy", "liable"} {
		p.fill("runs[0]."+field, "L 40-118, our crew")
	}
	p.date("runs[0].locatedTo", time.Now().AddDate(0, 0, 9))
	p.choose("runs[0].string", "yes")
	p.choose("runs[0].capped", "yes")
	p.Saved()
	in := func(path, value string) {
		p.Fill(`[data-path="`+path+`"]`, value)
		p.Saved()
	}
	p.choose("runs[0].found[0].option", "break out")
	p.Saved()
	for n := range run.Stretches {
		at := "runs[0].stretches[" + string(rune('0'+n)) + "]."
		in(at+"coverMM", "30")
		in(at+"ribbonMM", "14")
		in(at+"dugMM.value", "30")
		in(at+"bendDeg", "0")
	}
	in("runs[0].stretches[0].dugMM.value", "8") // too shallow
	p.sheet(id, "first-fix")
	tick := func(steps ...string) {
		for _, name := range steps {
			p.Until(name+" to be open", `!document.querySelector('[data-tick="`+step+name+`"]').disabled`)
			p.tick(step + name)
		}
	}
	p.Until("it to be held", `document.querySelector('[data-task="`+step+`halffill"]').textContent.includes('8 in as measured')`)
	p.unfold(`[data-task="` + step + `halffill"]`)
	p.Press("Supply sheet", `[data-task="`+step+`halffill"]`)
	p.Has(`[data-leaf="outdoor"]`)
	in("runs[0].stretches[0].dugMM.value", "30")
	p.sheet(id, "first-fix")
	p.Has(`[data-task="` + step + `halffill"]`)
	tick("locate", "dig", "bed", "lay", "string", "ballast", "inspect", "halffill", "ribbon")
	p.Upload(`[data-task="`+step+`photo"] input[type="file"]`, picture(t))
	p.Until("the picture to close its step", `document.querySelector('[data-task="`+step+`photo"] img') &&
		document.querySelector('[data-tick="`+step+`photo"]').textContent === 'Undo'`)
	tick("fill")
	p.Until("it to be filled", `document.querySelector('[data-tick="`+step+`fill"]').textContent === 'Undo'`)
}

// A ring is read point by point on a phone: the next point is at hand once one is named, and the worst of them is what counts.
func TestARingIsReadPointByPoint(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	var id string
	p.Eval(`(async () => {
		const say = async (method, path, body) => {
			const r = await fetch('/api' + path, {method, body: JSON.stringify(body),
				headers: {'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID()}})
			if (!r.ok) throw new Error(path + ' ' + r.status + ' ' + await r.text())
			return r.json()
		}
		const get = async path => (await fetch('/api' + path)).json()
		const {id} = await say('POST', '/jobs', {ref: 'E-118', title: 'Ring at the tide mill', kind: 'rewire', practice: 'iec230',
			customer: 'Ada Fenn', address: '2 Sluice Row', town: 'Tarrowick'})
		const like = (await get('/jobs?q=PW-2037')).jobs[0].id
		const put = async (part, body) => say('PUT', '/jobs/' + id + '/parts?part=' + encodeURIComponent(part) + '&base=' +
			((await get('/jobs/' + id)).versions[part] ?? 0), body)
		await put('supply', (await get('/jobs/' + like)).view.job.supply)
		await say('POST', '/jobs/' + id + '/walk', {text: 'hall: 2 double socket\nstore: double socket'})
		const ring = (await get('/terms?practice=iec230')).defaults.find(k => k.use === 'ring')
		await put('circuits/c1', {...ring, id: 'c1'})
		for (const u of (await get('/jobs/' + id + '/circuits')).unplaced) {
			const k = (await get('/jobs/' + id)).view.job.circuits[0].serves
			await say('POST', '/jobs/' + id + '/runs', {do: 'place', circuit: 'c1', room: u.room, point: u.point,
				after: k.back || k.boxes.at(-1)?.id || '', before: k.back ? 'board' : ''})
		}
		for (;;) {
			const open = (await get('/jobs/' + id)).view.tasks.find(t => t.stage === 'first fix' && !t.done && !t.closed)
			if (!open) return id
			await say('POST', '/jobs/' + id + '/records', {kind: 'tick', subject: open.id, circuit: open.circuit, done: true, note: 'no camera'})
		}
	})()`, &id)
	p.Size(390, 844)
	p.Open("/jobs/" + id + "/second-fix")
	p.isolate()
	p.sheet(id, "test")
	p.Has(`[name="instrument"]`)
	p.takeInstrument()
	p.Click(`[data-test="c1/r1r2"]`)
	p.Has(`[data-entry="c1/r1r2"] select[name="box"]`)
	var points []string
	p.Eval(`[...document.querySelectorAll('select[name="box"] option')].map(o => o.value).filter(Boolean)`, &points)
	require.GreaterOrEqual(t, len(points), 3)
	p.Choose(`select[name="box"]`, points[0])
	for n, ohm := range []string{"0.31", "0.42", "0.33"} {
		p.Until("the next point to be at hand", `document.querySelector('select[name="box"]').value === '`+points[n]+`'`)
		for _, k := range ohm {
			p.Click(`[data-entry] button[aria-label="` + string(k) + `"]`)
		}
		p.Press("Record, next test")
		p.See(ohm + " Ω")
		if n < len(points)-1 {
			p.See("still to be read:")
			p.Click(`[data-test="c1/r1r2"]`)
			p.Until("the reading to be in", `document.querySelectorAll('select[name="box"] option').length > 0 &&
				[...document.querySelectorAll('select[name="box"] option')].filter(o => o.text.includes('✓')).length === `+strconv.Itoa(n+1))
		}
	}
	p.Has(`[data-test="c1/r1r2"] [data-points="3"]`)
	p.Until("the worst to count", `document.querySelector('[data-test="c1/r1r2"] b').innerText.replace(/\u00a0/g, ' ') === '0.42 Ω' &&
		/The worst is at P002/.test(document.querySelector('[data-test="c1/r1r2"]').innerText)`)
	assert.LessOrEqual(t, p.Sideways(), 0)
}
