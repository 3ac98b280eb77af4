package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const shift = input.ModifierShift

// tabTo presses Tab until the element of a selector has the focus, as a person
// without a mouse does; backwards with back.
func (p *person) tabTo(selector string, back ...bool) {
	p.s.t.Helper()
	p.Has(selector)
	for range 150 {
		var there bool
		p.Eval(`!!document.activeElement?.matches(`+"`"+selector+"`"+`)`, &there)
		if there {
			return
		}
		if len(back) > 0 {
			p.Key(kb.Tab, shift)
		} else {
			p.Key(kb.Tab)
		}
	}
	p.s.t.Fatalf("Tab never reaches %s", selector)
}

// keyed goes to a field by Tab and types into it, leaving with Enter.
func (p *person) keyed(path, text string) {
	p.s.t.Helper()
	p.tabTo(`[data-path="` + path + `"]`)
	p.Key(text)
	p.Key(kb.Enter)
}

// picked goes to a select by Tab and by arrows to the option that begins with
// text. Typing the option's name would do on a fast machine only: a select begins
// a new word when the next letter is late.
func (p *person) picked(path, text string) {
	p.s.t.Helper()
	p.tabTo(`[data-path="` + path + `"]`)
	p.arrowTo(text)
}

// arrowTo goes by arrows to the option that begins with text, of the select that
// has the focus.
func (p *person) arrowTo(text string) {
	p.s.t.Helper()
	at := `[...document.activeElement.options].findIndex(o => o.text.startsWith(` + "`" + text + "`" + `))`
	var steps int
	p.Eval(at+` - document.activeElement.selectedIndex`, &steps)
	for ; steps > 0; steps-- {
		p.Key(kb.ArrowDown)
	}
	for ; steps < 0; steps++ {
		p.Key(kb.ArrowUp)
	}
	p.Until("the option "+text, `document.activeElement.selectedIndex === `+at)
}

// find goes by the finder.
func (p *person) find(words string) {
	p.s.t.Helper()
	p.Key("k", ctrl)
	p.Has(`[role=combobox]`)
	p.Key(words)
	p.Has(`[role=option]`)
	p.Key(kb.Enter)
	p.Gone("Job, sheet, circuit or action")
}

// A rewire of three storeys from an empty job, without a mouse: every circuit by
// the finder, one ring too long, its remedy taken, and the source of a figure.
func TestAThreeStoreyRewireByKeyboardAlone(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.find("start a job")
	p.tabTo(`select[name=kind]`)
	p.arrowTo("Rewire")
	for _, field := range [][2]string{{"ref", "E-300"}, {"title", "Rewire of the tall house"}, {"customer", "Una Tresk"},
		{"address", "3 Weighbridge Steps"}, {"town", "Tarrowick"}} {
		p.tabTo(`input[name="` + field[0] + `"]`)
		p.Key(field[1])
	}
	p.Key(kb.Enter)
	p.Has(`main[data-sheet="survey"]`)

	p.find("supply sheet")
	p.Has(`main[data-sheet="supply"] h1`)
	p.picked("earthing", "TN-C-S")
	for _, f := range [][2]string{{"zeOhm", "0.21"}, {"pfcKA", "1.4"}, {"mainFuseA", "100"}, {"tailsMM2", "25"},
		{"tailsM", "2"}, {"earthMM2", "16"}, {"neutralMM2", "25"}} {
		p.keyed(f[0]+".value", f[1])
		p.picked(f[0]+".basis", "measured")
	}
	p.Saved()

	for i, c := range []struct{ template, name, length, area string }{
		{"Ring final", "Sockets, ground floor", "58", "70"}, {"Ring final", "Sockets, first floor", "66", "66"},
		{"Ring final", "Sockets, top floor", "104", "58"},
		{"Lighting of 10", "Lights, ground floor", "36", ""}, {"Lighting of 10", "Lights, first floor", "39", ""},
		{"Lighting of 10", "Lights, top floor", "44", ""},
		{"Cooker of 40", "Cooker", "12", ""}, {"Shower circuit", "Shower", "17", ""}, {"alarms", "Alarms", "48", ""},
	} {
		words := "add: " + c.template
		if c.template == "Shower circuit" {
			words = "add: shower"
		}
		p.find(strings.ToLower(words))
		p.Until("the new circuit to be open",
			fmt.Sprintf(`document.querySelector('tr button[aria-pressed=true]')?.dataset.row === 'c%d' &&
				document.querySelector('[data-circuit]').dataset.circuit === 'c%d'`, i+1, i+1))
		p.keyed("name", c.name)
		p.Until(c.name, `document.querySelector('tr button[aria-pressed=true]')?.innerText === '`+c.name+`'`)
		if c.area != "" {
			p.keyed("serves.areaM2", c.area)
		}
		p.keyed("route.segments[0].lengthM", c.length)
		p.picked("route.segments[0].basis", "measured")
		p.Saved()
	}
	p.See("9 circuits from Board A")

	// The long ring fails. Its row is found by arrows, its check opened, the remedy
	// taken, and it passes.
	p.find("sockets, top floor")
	p.Has(`tr button[aria-pressed=true][data-row="c3"]`)
	p.Has(`[data-check="voltage-drop"][data-verdict="fail"]`)
	p.tabTo(`[data-check="voltage-drop"]`)
	p.Key(kb.Enter)
	p.Has(`[data-drawer="voltage-drop"]`)
	p.See("4 mm² in place of 2.5 mm²")
	p.tabTo(`[data-drawer] button.MuiButton-contained`)
	p.Key(kb.Enter)
	p.Has(`[data-check="voltage-drop"][data-verdict="pass"]`)
	p.Saved()
	assert.Equal(t, "4", p.value("route.lineMM2"))

	// From the row of another circuit, one arrow up and back.
	p.tabTo(`[data-row="c3"]`, true)
	p.Key(kb.ArrowUp)
	p.Has(`tr button[aria-pressed=true][data-row="c2"]`)
	p.Key(kb.ArrowDown)
	p.Has(`tr button[aria-pressed=true][data-row="c3"]`)

	// The working of a figure names the table that it was read from.
	p.tabTo(`[data-check="capacity"]`)
	p.Key(kb.Enter)
	p.Has(`[data-drawer="capacity"]`)
	p.See("433.1.204")
	require.Contains(t, p.Text(`[data-drawer="capacity"]`), "4D5")
	p.Key(kb.Escape)
	p.Until("the drawer to close", `!document.querySelector('[data-drawer]')`)
}

// value is what a field holds.
func (p *person) value(path string) (v string) {
	p.Eval(`document.querySelector('[data-path="`+path+`"]').value`, &v)
	return v
}

// A change is tried on the whole job and shows what it would come to; nothing is
// kept before it is asked for.
func TestAChangeIsTriedBeforeItIsKept(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.open("PW-2052", "circuits")
	p.Click(`[data-row="c2"]`)
	p.Has(`[data-check="voltage-drop"][data-verdict="fail"]`)
	p.Press("Try a change without saving")
	p.choose("route.lineMM2", "4")
	p.Has(`[data-difference="Voltage drop"]`)
	p.See("The material costs")
	assert.InDelta(t, 5.461, s.checked("PW-2052", "voltage-drop", "c2"), 0.001, "what is kept is as it was")
	p.Press("Save the change")
	p.Gone("Trying a change")
	p.Has(`[data-check="voltage-drop"][data-verdict="pass"]`)
	p.Saved()
	assert.Less(t, s.checked("PW-2052", "voltage-drop", "c2"), 5.0)
}

// A quick figure from the bench is put into a job, opened again with what it was
// given, and taken off.
func TestABenchFigureIsPutIntoAJob(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Open("/bench?calc=iec230/zs-check")
	for key, v := range map[string]string{"ze_ohm": "0.35", "line_mm2": "4", "cpc_mm2": "1.5", "length_m": "18",
		"curve": "B", "in_a": "32", "time_s": "0.4"} {
		p.Type(`[data-in="`+key+`"]`, v)
	}
	p.Press("Calculate")
	p.Has(`[data-out="zs_ohm"]`)
	said := p.Text(`[data-out="zs_ohm"]`)
	p.Type(`input[name=note]`, "landing <heater>")
	p.Until("the job to be offered", `[...document.querySelector('select[name=job]').options].some(o => o.text.startsWith('PW-2046'))`)
	p.Eval(`(e => { Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(e,
		[...e.options].find(o => o.text.startsWith('PW-2046')).value); e.dispatchEvent(new Event('change',
		{bubbles: true})) })(document.querySelector('select[name=job]'))`, nil)
	p.Press("Put this into a job")
	p.See("on the Circuits sheet")
	p.Press("PW-2046")
	p.Has(`[data-kept="zs-check"]`)
	p.See("landing <heater>")
	assert.Equal(t, said, p.Text(`[data-kept="zs-check"] [data-out="zs_ohm"]`))
	p.Press("zs check")
	p.Has(`[data-in="length_m"]`)
	p.Until("what it was given", `document.querySelector('[data-in="length_m"]').value === '18'`)
	p.Type(`[data-in="length_m"]`, "twelve")
	p.Press("Calculate")
	p.See("length_m")
	p.Type(`[data-in="length_m"]`, "12")
	p.Press("Calculate")
	p.Has(`[data-out="zs_ohm"]`)
	p.Press("Put back into the job")
	p.See("on the Circuits sheet")
	p.Press("PW-2046")
	p.Has(`[data-kept="zs-check"]`)
	assert.NotEqual(t, said, p.Text(`[data-kept="zs-check"] [data-out="zs_ohm"]`))
	p.Press("Remove", `[data-kept="zs-check"]`)
	p.Gone("landing <heater>")
	p.Saved()
}

// Circuits that hang on one device are spread over two by one remedy of the Board
// sheet, which changes several circuits at once.
func TestABetterSpreadIsTakenOnTheBoard(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.open("PW-2052", "board")
	p.Has(`[data-check="grouping"][data-verdict="caution"]`)
	p.Click(`[data-check="grouping"]`)
	p.See("What would be better")
	p.Press("Apply")
	p.Has(`[data-check="grouping"][data-verdict="pass"]`)
	p.See("At most 3 of 5")
}
