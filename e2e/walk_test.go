package e2e

import (
	"encoding/base64"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/demo"
	"arvelt/e2e/browser"
)

// One EV charger job, from a blank one to the signed pack, by clicking and
// typing alone.
func TestAJobFromSurveyToSignedHandover(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")

	// Start.
	p.Press("Start a job")
	p.Until("a reference by the company's numbering", `/^PW-\d+$/.test(document.querySelector('input[name="ref"]').value)`)
	p.Choose(`select[name="kind"]`, "ev-charger")
	for name, text := range map[string]string{"ref": "E-100", "title": "Charge point at the forge",
		"customer": "Nils <b>Arnott</b>", "address": "8 Smithy Row", "town": "Tarrowick"} {
		p.Type(`input[name="`+name+`"]`, text)
	}
	p.Press("Start")
	p.Has(`main[data-sheet="survey"]`)
	id := strings.Split(p.Path(), "/")[2]
	p.Click("[data-waits] summary")
	p.See("the existing load")
	p.See("at least one circuit with its route")

	// Survey: what the house draws, where the point goes, the way of its cable.
	p.choose("premises", "owner-occupied")
	p.Press("Add a load")
	p.fill("items[0].name", "LED lights")
	p.choose("items[0].category", "lighting")
	p.fill("items[0].watts", "400")
	p.choose("items[0].basis", "measured")
	p.Saved() // the page has settled: nothing moves under the next press
	p.leaf("routes")
	p.Press("Add circuit")
	p.fill("point.place", "forge wall by the yard")
	p.fill("point.manufacturer", "Ambrel P7")
	p.choose("point.dcDetection", "yes")
	p.fill("route.segments[0].place", "along the forge wall")
	p.fill("route.segments[0].lengthM", "14,5") // a decimal comma is a decimal point
	p.choose("route.segments[0].basis", "measured")
	p.Press("Add a stretch")
	p.fill("route.segments[1].lengthM", "6")
	p.choose("route.segments[1].basis", "measured")
	p.Saved()
	p.See("Everything asked of the survey is there.")

	// Supply.
	p.sheet(id, "supply")
	p.choose("earthing", "TN-C-S")
	p.fact("zeOhm", "0.24", "measured")
	p.fact("pfcKA", "1.3", "assumed")
	p.fact("mainFuseA", "80", "enquiry")
	p.fact("tailsMM2", "25", "measured")
	p.fact("tailsM", "2", "measured")
	p.fact("earthMM2", "16", "measured")
	p.fact("neutralMM2", "25", "enquiry")
	p.Saved() // the page has settled: nothing moves under the next press
	p.Press("Add a service")
	p.fill("bonds[0].service", "water")
	p.fill("bonds[0].mm2.value", "10")
	p.choose("bonds[0].mm2.basis", "measured")
	p.Saved()
	p.See("The supply is known.")
	p.See("assumed: to be confirmed")

	// Board.
	p.sheet(id, "board")
	p.Fill(`[name="ways"]`, "3")
	p.See("3 ways, 3 free.")
	p.fill("ways[0].label", "Lights")
	p.fill("ways[0].device", "B6")
	p.Saved()
	p.See("3 ways, 2 free.")

	// Circuits: a cable too thin fails, and a remedy mends it.
	p.sheet(id, "circuits")
	p.choose("protection.way", "2")
	p.choose("route.lineMM2", "1.5")
	p.Has(`[data-check="capacity"][data-verdict="fail"]`)
	p.Click(`[data-check="capacity"]`)
	p.See("What would make it pass")
	var remedy string
	p.Eval(`[...document.querySelectorAll('[data-drawer] b')].map(b => b.innerText).find(t => t.includes('mm² in place'))`, &remedy)
	p.Eval(`[...document.querySelectorAll('[data-drawer] div')].filter(d => d.querySelector('b')?.innerText === '`+remedy+
		`').at(-1).querySelector('button').setAttribute('data-take', '')`, nil)
	p.Click("[data-take]")
	p.Has(`[data-check="capacity"][data-verdict="pass"]`)
	p.Saved()
	p.choose("route.lineMM2", "6")
	p.Saved()

	// One stretch changes, and the figure on the sheet is the one that the
	// command line gives for the exported job.
	before := s.checked("E-100", "voltage-drop")
	p.fill("route.segments[1].lengthM", "16")
	p.Saved()
	after := s.checked("E-100", "voltage-drop")
	assert.Greater(t, after, before)
	p.Until("the drop that the command line gives",
		fmt.Sprintf(`Math.abs(Number(document.querySelector('[data-check="voltage-drop"] [data-value]').dataset.value) - %v) < 1e-9`,
			after))
	p.Key("z", ctrl) // the last saved edit is undone
	p.Until("the length before", `document.querySelector('[data-path="route.segments[1].lengthM"]').value === '6'`)

	// The decision on the broken neutral-earth, and the operator.
	p.Has(`[data-check="pen"][data-verdict="unknown"]`)
	p.Click(`input[type=radio][value="voltage_monitor"]`)
	p.choose("pen.opensAll", "yes")
	p.fill("pen.reason", "No ground for an electrode between the flagstones")
	p.Has(`[data-check="pen"][data-verdict="pass"]`)
	p.See("Connect, then notify within 28 days")
	p.Type(`input[name="operator-reference"]`, "TVN-77")
	p.Type(`input[name="operator-person"]`, "Ms Lund, connections")
	p.Eval(`(e => { Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(e, '2026-11-02T09:30');
		e.dispatchEvent(new Event('input', { bubbles: true })) })(document.querySelector('input[name="operator-called"]'))`, nil)
	p.Press("Record")
	p.See("TVN-77")
	p.Has(`[data-check="operator"][data-verdict="pass"]`)
	p.Saved()

	// Materials: a short delivery is caught before anyone travels.
	p.sheet(id, "materials")
	p.Press("All ordered")
	p.Saved()
	p.Fill(`[data-path="cable:swa3-90:6/delivered"]`, "21")
	p.See("that are needed")
	p.Open("/jobs")
	p.See("Do not travel")
	p.open("E-100", "materials")
	p.Press("All delivered as ordered, each length in one piece")
	p.See("Everything is on site.")
	p.Saved()

	// Plan.
	p.sheet(id, "plan")
	p.fill("c1-point/hours", "2")
	p.Saved()

	// First fix and second fix, on a phone.
	p.Size(390, 844)
	p.sheet(id, "first-fix")
	p.says("Closed. First:")
	done := p.tick
	for _, task := range p.tasks() {
		done(task)
	}
	p.sheet(id, "second-fix")
	p.says("needs your own isolation of today")
	p.Has(`[data-note-left]`)
	p.unfold(`input[name="loose"]`)
	p.Type(`input[name="loose"]`, "Cover of the board off until it is tested")
	p.Press("Write it down")
	p.See("Cover of the board off")
	p.isolate()
	for _, task := range p.tasks() {
		if task == "c1-board" {
			p.says("stay live")
		}
		done(task)
	}
	assert.LessOrEqual(t, p.Sideways(), 0, "nothing to scroll sideways on a phone")

	// Test: dead, permission, live. The model's figure is not shown before entry.
	p.sheet(id, "test")
	var early int
	p.Eval(`fetch('/api/jobs/`+id+`').then(r => r.json()).then(j => j.view.tests.rows.filter(r => r.expected !== null).length)`, &early)
	assert.Zero(t, early, "no expected figure leaves the server before the reading")
	p.Gone("Model:")
	p.Has(`[name="instrument"]`)
	p.read("0.04", false) // without an instrument
	p.See("instrument")
	p.Eval(`document.querySelector('[name="instrument"]').selectedIndex = 1`, nil)
	var instrument string
	p.Eval(`document.querySelector('[name="instrument"]').options[1].value`, &instrument)
	p.Choose(`[name="instrument"]`, instrument)
	readings := map[string]string{"continuity-earth": "0.03", "continuity-bond": "0.05", "r1r2": "0.14",
		"insulation-ln": "480", "insulation-le": "455", "insulation-ne": "470",
		"ze": "0.24", "voltage": "232", "voltage-ne": "0.4", "rdc-6": "600", "pfc": "1.2", "zs": "9.9", "rcd-x1": "24"}
	p.entries(readings)
	p.reconnect()
	p.See("Snag: Cover of the board off until it is tested.")
	p.sheet(id, "second-fix")
	p.Press("Put right")
	p.Type(`input[name="how"]`, "cover on, four screws")
	p.Press("Record")
	p.See("put right by Tobias Marrick")
	p.See("No snags.")
	p.sheet(id, "test")
	p.permit()
	p.entries(readings)
	p.See("1 failed")
	p.Click(`[data-test="c1/zs"]`) // the failed one is read again, in its place with the reason
	p.Press("In its place")
	p.Type(`input[name="reason"]`, "the gland nut was loose, remade")
	p.read("0.39", true)
	p.Has(`[data-last="pass"]`)
	p.See("superseded: 9.9 Ω")

	p.serve()

	// Handover: what is missing, then the signature.
	p.Size(1280, 800)
	p.sheet(id, "handover")
	p.See("way 3 is open: blank it")
	p.sheet(id, "board")
	p.Click(browser.Field("ways[2].blank"))
	p.Saved()
	p.sheet(id, "handover")
	p.Press("Done")
	p.See("Ready to sign.")
	p.See("Rests on assumed figures")
	p.Type(`input[name="sign-password"]`, demo.Password)
	p.Press("Sign revision A")
	p.See("Revision A is signed.")
	p.See("Seal SHA-256")
	p.Has(`[data-seal="unchanged"]`)
	p.See("sealed by Pellmore Wiring")

	// The pack is in hand, and the file verifies.
	pdf := p.download("/api/jobs/" + id + "/pack")
	assert.True(t, strings.HasPrefix(pdf, "%PDF-"))
	file := p.download("/api/jobs/" + id + "/file?revision=A")
	path := filepath.Join(t.TempDir(), "signed.json")
	require.NoError(t, os.WriteFile(path, []byte(file), 0o600))
	var key string
	p.Eval(`fetch('/api/jobs/`+id+`').then(r => r.json()).then(v => v.view.sealed.key)`, &key)
	out, status := s.arvelt("verify", path, "--key", key)
	assert.Zero(t, status, out)
	out, status = s.arvelt("verify", path)
	assert.Equal(t, 3, status, out)
	require.NoError(t, os.WriteFile(path, []byte(strings.Replace(file, "Smithy", "Smithey", 1)), 0o600))
	out, status = s.arvelt("verify", path)
	assert.Equal(t, 1, status, out)

	// A name with markup in it is a name.
	p.Open("/jobs")
	p.See("Nils <b>Arnott</b>")
	p.See("aftercare")
}

// tasks lists the tasks on the sheet, in order.
func (p *person) tasks() (ids []string) {
	p.Has("[data-task]")
	p.Eval(`[...document.querySelectorAll('[data-task]')].sort((a, b) => a.dataset.nth - b.dataset.nth).map(e => e.dataset.task)`, &ids)
	return ids
}

// isolate opens the main switch of the job's board by touch, in order; the tester is first not proved again, which opens nothing, and then
// it is. more are devices to open beside it. The other places of the job are read as well, without the screen.
func (p *person) isolate(more ...string) {
	p.s.t.Helper()
	p.Click("[data-isolate]")
	p.Choose(`select[name="where"]`, "board:")
	p.Until("what to open", `document.querySelector('[data-device="main"]').innerText.startsWith('open:')`)
	p.Eval(`document.querySelectorAll('[data-device]').forEach(b => /^(main|own:|enclosure:)/.test(b.dataset.device) && b.setAttribute('data-press', ''))`, nil)
	var devices []string
	p.Eval(`[...document.querySelectorAll('[data-press]')].map(b => b.dataset.device)`, &devices)
	for _, d := range append(devices, more...) {
		p.Click(`[data-device="` + d + `"]`)
	}
	p.Has(`[data-expected="dead"]`)
	for name, text := range map[string]string{"lockTag": "padlock 2, tag TM", "tester": "Tarn V2 no. 9"} {
		p.Type(`input[name="`+name+`"]`, text)
	}
	p.Choose(`select[name="testerKind"]`, "contact")
	p.Click(`input[name="provedBefore"]`)
	p.volts("board:")
	p.Press("Record")
	p.See("was not proved again after the readings")
	p.Press("The tester shows the known source")
	p.Has(`[data-proved]`)
	var status int
	p.Eval(`(async () => {
		const job = location.pathname.replace(/.jobs.([^/]*).*/, '/api/jobs/$1')
		const { isolation, places } = (await (await fetch(job)).json()).view.tests
		return (await fetch(job + '/records', {method: 'POST', headers: {'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID()},
			body: JSON.stringify({kind: 'proved-dead', subject: isolation.id, tester: 'Tarn V2 no. 9', testerKind: 'contact', provedBefore: true,
			provedAfter: true, proofs: places.map(p => ({at: p.id, cables: p.cables, read: p.pairs.map(pair => ({pair, v: 0.3}))}))})})).status
	})()`, &status)
	require.Equal(p.s.t, 200, status)
}

// today has the visit that isolates the intake booked for today, on which the supply goes off.
func (p *person) today(id string) {
	p.s.t.Helper()
	var status int
	p.Eval(`(async () => {
		const v = await (await fetch('/api/jobs/`+id+`')).json(), day = new Date().toISOString().slice(0, 10)
		return (await fetch('/api/jobs/`+id+`/parts?part=outage&base=' + v.versions.outage, {method: 'PUT',
			headers: {'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID()},
			body: JSON.stringify({...v.view.job.outage, day, bookedOn: day})})).status
	})()`, &status)
	require.Equal(p.s.t, 200, status)
}

// located fills in what stands of other services before the ground is broken.
func (p *person) located(path string) {
	p.s.t.Helper()
	p.fill(path+".located", "L 40-118")
	p.date(path+".locatedTo", time.Now().AddDate(0, 0, 9))
	p.fill(path+".dugBy", "our crew")
	p.fill(path+".liable", "our crew")
	p.Saved()
}

// date sets a field that takes a day.
func (p *person) date(path string, day time.Time) {
	p.s.t.Helper()
	p.Has(`[data-path="` + path + `"]`)
	p.Eval(`(e => { Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(e, '`+day.Format(time.DateOnly)+`');
		e.dispatchEvent(new Event('input', {bubbles: true})); e.focus(); e.blur() })(document.querySelector('[data-path="`+path+`"]'))`, nil)
	p.Saved()
}

// readyForTheCut settles the list before the cut, and has the supervisor let go what is left and may be.
func (p *person) readyForTheCut(id string) {
	p.s.t.Helper()
	p.today(id)
	p.sheet(id, "supply")
	p.leaf("outage")
	p.fill("crew", "4")
	p.choose("inspector.needed", "no")
	p.choose("lightReady", "yes")
	p.choose("noTemporary", "yes")
	p.choose("noTails", "yes")
	p.Saved()
	if p.there(`[data-path="darkReady"]`) {
		p.choose("darkReady", "yes")
		p.Saved()
	}
	for p.there(`[data-beside] input:not(:checked)`) {
		var name string
		p.Eval(`document.querySelector('[data-beside] input:not(:checked)').name`, &name)
		p.Click(`[data-beside] input[name="` + name + `"]`)
		p.Has(`[data-beside] input[name="` + name + `"]:checked`)
		p.Saved()
	}
	for p.there(`[data-before] button`) {
		var item string
		p.Eval(`document.querySelector('[data-before]:has(button)').dataset.before`, &item)
		p.Press("Let it go", `[data-before="`+item+`"]`)
		p.Type(`input[name="releaseWhy"]`, "looked at it on the spot: "+item)
		p.Click(`[data-before="` + item + `"] button.MuiButton-contained`)
		p.Has(`[data-before="` + item + `"][data-state="released"]`)
	}
	p.See("ready for the cut")
}

// there reports whether an element is on the page now.
func (p *person) there(selector string) (yes bool) {
	p.s.t.Helper()
	p.Eval("!!document.querySelector(`"+selector+"`)", &yes)
	return yes
}

// volts reads every pair of a place dead.
func (p *person) volts(place string) {
	p.s.t.Helper()
	var pairs []string
	p.Has(`[data-readings="` + place + `"]`)
	p.Eval(`[...document.querySelectorAll('[data-readings="`+place+`"] input')].map(i => i.name)`, &pairs)
	for _, pair := range pairs {
		p.Type(`[data-readings="`+place+`"] input[name="`+pair+`"]`, "0.3")
	}
}

// tick ticks a step; one that a picture ticks, with why there is none.
func (p *person) tick(task string) {
	p.s.t.Helper()
	button := `[data-tick="` + task + `"]`
	p.Click(button)
	p.Until(task+" to be done or to ask",
		`document.querySelector('`+button+`').textContent === 'Undo' || !!document.querySelector('input[name="tickNote"]')`)
	var asks bool
	p.Eval(`!!document.querySelector('input[name="tickNote"]')`, &asks)
	if asks {
		if p.there(`input[name="tickWho"]`) {
			p.Type(`input[name="tickWho"]`, "Ode Lampard")
		}
		p.Type(`input[name="tickNote"]`, "no camera in the test")
		p.Click(button)
	}
	p.Until(task+" to be done", `document.querySelector('`+button+`').textContent === 'Undo'`)
}

// says waits until a text stands on the sheet, folded or not.
func (p *person) says(text string) {
	p.s.t.Helper()
	p.Until("“"+text+"” on the sheet", `document.querySelector('main').textContent.replace(/\u00a0/g, ' ').includes(`+"`"+text+"`"+`)`)
}

// unfold opens what an element is folded into.
func (p *person) unfold(selector string) {
	p.s.t.Helper()
	p.Eval(`(e => { for (let d = e && e.closest('details'); d; d = d.parentElement.closest('details')) d.open = true })(document.querySelector('`+
		selector+`'))`, nil)
}

// permit sees to everything that is asked and permits to energise.
func (p *person) permit() {
	p.s.t.Helper()
	p.energise(install.ForTest, true)
}

// serve puts into service what was energised for a test.
func (p *person) serve() {
	p.s.t.Helper()
	p.energise(install.IntoUse, false)
}

// energise gives the permission for a use of the part that comes first; wrongly counted first where that is to be seen refused.
func (p *person) energise(use install.PermitUse, miscounts bool) {
	p.s.t.Helper()
	p.reconnect()
	p.Click(`[data-choice="` + string(use) + `"]`)
	p.Has(`[data-permit="` + string(use) + `"]`)
	if use == install.ForTest {
		p.Choose(`select[name="guarding"]`, "person")
	}
	for _, ask := range proving.AsksOf(nil, use) {
		p.Click(`input[name="seen-` + ask.ID + `"]`)
	}
	p.clear()
	var locks int
	p.Eval(`fetch(location.pathname.replace(/.jobs.([^/]*).*/, '/api/jobs/$1')).then(r => r.json()).then(j => j.view.tests.locks.
		reduce((n, l) => n + Math.max(1, (l.opens ?? []).length), 0))`, &locks)
	if miscounts {
		p.Type(`input[name="counted"]`, strconv.Itoa(locks+1))
		p.Click(`[data-permit]`)
		p.See("look at the locks of the job for what differs")
	}
	p.Type(`input[name="counted"]`, strconv.Itoa(locks))
	p.Click(`[data-permit]`)
	p.Has(`[data-state="` + map[install.PermitUse]string{install.ForTest: "test", install.IntoUse: "service"}[use] + `"]`)
}

// reconnect records as reconnected whatever was disconnected for a test.
func (p *person) reconnect() {
	p.s.t.Helper()
	var parted int
	p.Eval(`Number(document.querySelector('[data-parted-list]').dataset.partedList)`, &parted)
	switch parted {
	case 0:
		return
	case 1:
		p.Press("Reconnected, tightened")
	default:
		p.Click("[data-all-back]")
	}
	p.Has(`[data-parted-list="0"]`)
}

// clear confirms everybody who may be on the site and whose device does not report.
func (p *person) clear() {
	p.s.t.Helper()
	p.Until("who may be on site", `fetch(location.pathname.replace(/.jobs.([^/]*).*/, '/api/jobs/$1/clear')).then(r => r.json()).
		then(c => !!c.asked && c.people.length === document.querySelectorAll('[data-person]').length)`)
	var names []string
	p.Eval(`[...document.querySelectorAll('[data-reported="false"]')].map(e => e.dataset.person)`, &names)
	for _, name := range names {
		p.Type(`input[name="how-`+name+`"]`, "stands beside me")
		p.Type(`input[name="by-`+name+`"]`, "whoever permits")
	}
}

// read enters one reading on the big keys.
func (p *person) read(value string, goes bool) {
	p.s.t.Helper()
	var at string
	p.Has("[data-entry]")
	p.Eval(`document.querySelector('[data-entry]').dataset.entry`, &at)
	p.clamps()
	for _, k := range value {
		p.Click(`[data-entry] button[aria-label="` + string(k) + `"]`)
	}
	p.Until("the reading on the display", `document.querySelector('[name="reading"]').value === `+strconv.Quote(value))
	p.Press("Record, next test")
	if goes {
		p.Until("the next test", `document.querySelector('[data-entry]')?.dataset.entry !== '`+at+`'`)
	} else {
		p.Has("[data-entry] [role=alert]")
		p.Eval(`document.querySelector('[name="reading"]').focus()`, nil)
		for range value {
			p.Key(kb.Backspace)
		}
	}
}

// clamps reads the current and the voltage across the break of what the test at hand disconnects, where it does.
func (p *person) clamps() {
	p.s.t.Helper()
	var asked bool
	if p.Eval(`document.querySelector('[data-entry] [name="clampA"]')?.value === ''`, &asked); asked {
		p.Type(`input[name="clampA"]`, "0.02")
		p.Type(`input[name="acrossV"]`, "0.3")
	}
}

// entries records every test that is open, in the order the sheet offers them.
func (p *person) entries(values map[string]string) {
	p.s.t.Helper()
	for range 20 {
		var at string
		p.Eval(`document.querySelector('[data-entry]')?.dataset.entry ?? ''`, &at)
		if at == "" {
			return
		}
		_, test, _ := strings.Cut(at, "/")
		p.clamps()
		if v, numeric := values[test]; numeric {
			p.read(v, true)
			continue
		}
		p.Press("Yes, correct")
		p.Until("the next test", `document.querySelector('[data-entry]')?.dataset.entry !== '`+at+`'`)
	}
	p.s.t.Fatal("the sheet offers tests without end")
}

func (p *person) download(path string) string {
	p.s.t.Helper()
	var text string
	p.Eval(`fetch('`+path+`').then(r => { if (!r.ok) throw new Error(r.status); return r.blob() })
		.then(b => new Promise(done => { const f = new FileReader()
			f.onload = () => done(f.result.split(',')[1]); f.readAsDataURL(b) }))`, &text)
	raw, err := base64.StdEncoding.DecodeString(text)
	require.NoError(p.s.t, err)
	return string(raw)
}
