package e2e

import (
	"context"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/e2e/browser"
	"arvelt/store/storetest"
)

const ctrl = input.ModifierCtrl

// The server is killed while somebody types and saves. What was acknowledged is
// there afterwards, and what was not is still in the browser and saved by itself.
func TestAKillLosesNothing(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.open("PW-2046", "survey")
	phone := browser.Field("phone")
	acknowledged := []string{}
	for i := range 6 {
		text := fmt.Sprintf("000 %04d", i)
		p.Fill(phone, text)
		p.Saved()
		acknowledged = append(acknowledged, text)
	}
	p.Type(phone, "000 9998")
	s.kill()
	p.Fill(phone, "000 9999")
	p.See("Not saved")
	var kept string
	p.Eval(`document.querySelector('[data-path="phone"]').value`, &kept)
	assert.Equal(t, "000 9999", kept, "what was typed stays")
	s.serve()
	p.Gone("Not saved")
	p.Saved()
	acknowledged = append(acknowledged, "000 9999")

	rows, err := storetest.Raw(s.t, s.store()).Query(context.Background(),
		`SELECT before->>'phone' FROM edit WHERE part = 'site' AND before IS NOT NULL UNION SELECT body->>'phone' FROM job_part 
			WHERE part = 'site'`)
	require.NoError(t, err)
	found := map[string]bool{}
	for rows.Next() {
		var phone string
		require.NoError(t, rows.Scan(&phone))
		found[phone] = true
	}
	require.NoError(t, rows.Err())
	for _, text := range acknowledged {
		assert.True(t, found[text], "%s was acknowledged", text)
	}
	p.Open("/jobs")
	p.open("PW-2046", "survey")
	p.Until("the last of them", `document.querySelector('[data-path="phone"]').value === '000 9999'`)
}

// Two people at the same job: each sees the other's change, and a clash shows
// both versions.
func TestTwoPeopleOnOneJob(t *testing.T) {
	s := start(t)
	jana, dot := s.person("Jana Okell"), s.person("Dot Farley")
	jana.open("PW-2046", "survey")
	dot.open("PW-2046", "survey")
	jana.fill("town", "Lower Tarrow")
	dot.Until("her change", `document.querySelector('[data-path="town"]').value === 'Lower Tarrow'`)

	dot.Type(browser.Field("access"), "Ring the office") // typed, not yet saved
	jana.Type(browser.Field("phone"), "000 1111")
	jana.fill("phone", "000 1111")
	jana.Saved()
	dot.Eval(`document.activeElement.blur()`, nil)
	dot.See("Jana Okell saved this")
	dot.Press("Keep mine")
	dot.Until("the clash to be over", `!document.querySelector('[role=alert]')`)
	jana.Until("the version that was kept", `document.querySelector('[data-path="access"]').value === 'Ring the office'`)
}

// Text survives a reload and a lost connection.
func TestDraftsSurvive(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	id := p.open("PW-2046", "survey")
	p.Type(browser.Field("hazards"), "Loose slates over the door")
	p.See("Kept here, not yet saved.")
	p.Open("/jobs/" + id + "/survey")
	p.Until("the draft", `document.querySelector('[data-path="hazards"]').value === 'Loose slates over the door'`)
	p.Press("Save")
	p.Saved()

	p.Offline(true)
	p.fill("town", "Far Tarrow")
	p.See("No connection to Arvelt")
	p.Offline(false)
	p.Gone("No connection to Arvelt")
	p.Saved()

	// A session that ends asks for a sign-in over the page; what was typed is kept.
	_, err := storetest.Raw(s.t, s.store()).Exec(context.Background(), `DELETE FROM sessions`)
	require.NoError(t, err)
	require.NoError(t, s.store().SessionEnded(context.Background()))
	p.Type(browser.Field("town"), "Near Tarrow")
	p.Until("the session to have ended", `fetch('/api/session').then(r => r.status === 401)`)
	p.fill("town", "Near Tarrow")
	p.See("The session has expired")
	p.goIn("Jana Okell")
	p.Gone("The session has expired")
	p.Until("the text to be there still", `document.querySelector('[data-path="town"]').value === 'Near Tarrow'`)
	p.Saved()
}

// Wrong figures are said at the field, and nothing of them is saved.
func TestWrongFiguresAreSaidAtTheField(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.open("PW-2046", "circuits")
	before := s.checked("PW-2046", "voltage-drop")
	p.fill("point.currentA", "many")
	p.See("“many” is not a number")
	p.fill("point.currentA", "-5")
	p.See("a number from 0 to 125 A")
	p.Press("Put back what was saved")
	p.Until("the figure before", `document.querySelector('[data-path="point.currentA"]').value === '32'`)
	p.fill("route.segments[0].lengthM", "9000")
	p.See("a number from 0.1 to 500 m")
	p.Press("Put back what was saved")
	assert.InDelta(t, before, s.checked("PW-2046", "voltage-drop"), 1e-9)
}

// A block from a spreadsheet fills the table from the cell it is pasted into;
// arrows and Enter move.
func TestTheTableIsDrivenFromTheKeyboard(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.open("PW-2044", "survey?leaf=site")
	p.Press("Add a load")
	p.Has(browser.Field("items[0].name"))
	p.Saved()
	p.Eval(`(e => { e.focus(); const d = new DataTransfer(); d.setData('text/plain',
		'Oven\tCooking\t3200\nKettle\tOther points\t2200\nLamps\tLighting\t90\n'); e.dispatchEvent(new ClipboardEvent('paste',
		{clipboardData: d, bubbles: true, cancelable: true})) })(document.querySelector('[data-path="items[0].name"]'))`, nil)
	p.Until("three rows", `[0, 1, 2].map(i => document.querySelector('[data-path="items[' + i + '].name"]')?.value +
		document.querySelector('[data-path="items[' + i + '].watts"]')?.value).join() === 'Oven3200,Kettle2200,Lamps90'`)
	p.Saved()
	p.fill("items[0].watts", "3000") // Enter saves and goes down
	p.Until("the cell below to have the focus", `document.activeElement.dataset.path === 'items[1].watts'`)
	p.Type(browser.Field("items[1].watts"), "1")
	p.Key("\x1b")
	p.Until("Esc to put back", `document.querySelector('[data-path="items[1].watts"]').value === '2200'`)
}

// A way on the board and an enclosure of its own rule each other out, and the
// take-off follows.
func TestADeviceInAnEnclosureOfItsOwn(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	id := p.open("PW-2046", "circuits")
	p.choose("protection.ownEnclosure", "yes")
	p.Until("the way to be given back", `document.querySelector('[data-path="protection.way"]').value === '0'`)
	p.Saved()
	p.Has(`[data-check="way"][data-verdict="pass"]`)
	p.sheet(id, "materials")
	p.See("Enclosure with main switch")
	p.sheet(id, "circuits")
	p.choose("protection.way", "9")
	p.Until("the enclosure to be given up", `document.querySelector('[data-path="protection.ownEnclosure"]').value === 'no'`)
	p.Saved()
}

// The finder goes anywhere by a few letters.
func TestTheFinder(t *testing.T) {
	p := start(t).person("Jana Okell")
	p.open("PW-2046", "survey")
	p.Key("k", ctrl)
	p.Has(`[role=combobox]`)
	p.Fill(`[role=combobox]`, "handov")
	p.Has(`main[data-sheet="handover"]`)
	p.Key("?")
	p.See("Keys here")
}

// Every main view in the three themes: no serious or critical finding of axe,
// nothing to scroll sideways at both widths, and on a phone nothing too small
// to hit.
func TestEveryViewIsAccessible(t *testing.T) {
	script, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	p := start(t).person("Tobias Marrick")
	var id string
	p.Eval(`fetch('/api/jobs?q=PW-2046').then(r => r.json()).then(all => all.jobs[0].id)`, &id)
	views := []string{"/jobs", "/today", "/week", "/company", "/people", "/bench", "/bench?calc=iec230/joist", "/bench?calc=iec230/ring-diagnosis"}
	for _, sheet := range []string{"survey", "supply", "circuits", "board", "materials", "plan", "first-fix", "second-fix",
		"test", "handover"} {
		views = append(views, "/jobs/"+id+"/"+sheet)
	}
	for ref, leaves := range map[string][]string{"PW-2044": {"survey?leaf=walk", "survey?leaf=existing", "survey?leaf=case",
		"survey?leaf=scope", "survey?leaf=routes"},
		"PW-2038": {"supply?leaf=isolation", "supply?leaf=desk", "supply?leaf=outage"},
		"PW-2050": {"supply?leaf=chain", "supply?leaf=outdoor", "supply?leaf=standby"},
		"PW-2054": {"circuits?c=c3", "board"}, "PW-2052": {"circuits?c=c10", "board", "supply?leaf=demand", "supply?leaf=surge"}} {
		var other string
		p.Eval(`fetch('/api/jobs?q=`+ref+`').then(r => r.json()).then(all => all.jobs[0].id)`, &other)
		for _, leaf := range leaves {
			views = append(views, "/jobs/"+other+"/"+leaf)
		}
	}
	for _, theme := range []string{"light", "dark", "sun"} {
		p.Eval(`localStorage.setItem('arvelt:theme', '`+theme+`')`, nil)
		for _, view := range views {
			p.Size(1280, 800)
			p.Open(view)
			p.Has("main h1")
			p.Until("the page to settle", `!document.body.innerText.includes('…\n') || true`)
			if strings.HasSuffix(view, id+"/circuits") {
				p.Click(`[data-check="voltage-drop"]`)
				p.Has("[data-drawer]")
			}
			assert.LessOrEqual(t, p.Sideways(), 0, "%s at 1280", view)
			p.Size(1280, 6000)                  // the title block, which stays at the foot of the window, covers nothing
			rules := []string{"color-contrast"} // all that a theme changes
			if theme == "light" {
				rules = nil
			}
			for _, f := range p.Axe(string(script), rules...) {
				t.Errorf("%s in %s: %s (%s) %v", view, theme, f.Help, f.Impact, f.Nodes)
			}
			if theme != "sun" {
				continue
			}
			p.Size(390, 844)
			p.Open(view)
			p.Has("main h1")
			assert.LessOrEqual(t, p.Sideways(), 0, "%s at 390", view)
			var small []string
			p.Eval(`[...document.querySelectorAll('button, select, input, textarea')]
				.filter(e => e.offsetParent !== null && e.getBoundingClientRect().width > 2)
				.map(e => e.type === 'checkbox' || e.type === 'radio' ? (e.closest('label') ?? e) : e.closest('.MuiInputBase-root') ?? e)
				.filter(e => e.getBoundingClientRect().height < 43.5).map(e => e.outerHTML.slice(0, 140))`, &small)
			assert.Empty(t, small, "%s: too small to hit on a phone", view)
		}
	}
}

// A job file whose reference is taken is brought in as a copy, unsigned.
func TestImportingACopyInTheBrowser(t *testing.T) {
	s := start(t)
	p := s.person("Dot Farley")
	p.Upload(`input[type=file]`, s.exported("PW-2029"))
	p.See("another job's already")
	p.Fill(`input[name="as"]`, "PW-2029-COPY")
	p.See("Marguerite Osk")
	p.Until("the copy to be open", `location.pathname.endsWith('/survey')`)
	p.Open("/jobs")
	p.See("PW-2029-COPY")
}
