package e2e

import (
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Twelve rooms and a hundred points, as one walks them, in the shorthand of each practice.
var twelveRooms = map[string]string{
	"iec230": `hall g: 2 socket, 3 light, smoke alarm
parlour g: 8 socket, 4 light
dining g: 6 socket, light
kitchen g: 8 socket, cooker 9kW, hood, dishwasher, 4 downlight, heat alarm
scullery g: 3 socket, washer, light, water heater 3kW
wc g: light, extractor
landing up: 2 socket, 2 light, smoke alarm
front bedroom up: 8 socket, 2 light
back bedroom up: 8 socket, 2 light
small bedroom up: 6 socket, light
study up: 8 socket, 2 light
bathroom up: shaver, 6 downlight, extractor, shower 9kW`,
	"split120": `hall main: 2 duplex, 3 light, smoke alarm
den main: 9 duplex, 2 light
dining main: 6 duplex, light
kitchen main: 8 duplex, range 9kW, dishwasher, fridge, 6 recessed light
laundry main: 2 duplex, washer, dryer, light, water heater 4500W
wc main: duplex, light, exhaust fan
landing up: duplex, 2 light, smoke alarm
front bedroom up: 8 duplex, 2 light, smoke alarm
back bedroom up: 8 duplex, 2 light, smoke alarm
small bedroom up: 6 duplex, light, smoke alarm
study up: 8 duplex, 2 light
bathroom up: 2 duplex, 3 recessed light, exhaust fan`,
}

// From the first keystroke of the walk to a whole design without a failing check: at most 900 keys and touches, in both practices.
func TestTwelveRoomsBecomeADesign(t *testing.T) {
	p := start(t).person("Tobias Marrick")
	for i, practice := range []string{"iec230", "split120"} {
		walk := twelveRooms[practice]
		if i > 0 {
			p.Press("Jobs")
		}
		p.Press("Start a job")
		p.Choose(`select[name="kind"]`, "rewire")
		p.Choose(`select[name="practice"]`, practice)
		for name, text := range map[string]string{"ref": "E-33" + practice[:1], "title": "Rewire of the print shop", "customer": "Edda Vane",
			"address": "1 Type Yard", "town": "Tarrowick"} {
			p.Type(`input[name="`+name+`"]`, text)
		}
		p.Press("Start")
		p.Has(`[data-leaf="walk"]`)
		id := strings.Split(p.Path(), "/")[2]

		hits := len(walk) // a key each; what follows is touched
		touch := func(name string) { hits++; p.Press(name) }
		p.Type("#shorthand", walk)
		touch("Add the line")
		p.Until("twelve rooms", `document.querySelector('[data-total]').innerText.includes('12 rooms, 100 points')`)
		hits++
		p.sheet(id, "board")
		add := map[string]string{"iec230": "Add ways", "split120": "Add spaces"}[practice]
		p.Type(`[name="ways"]`, "42")
		hits += 2
		touch(add)
		p.See(map[string]string{"iec230": "42 free", "split120": "42 free"}[practice])
		hits++
		p.sheet(id, "circuits")
		touch("Propose circuits for 100 points")
		p.Has(`[data-proposed]`)
		var n int
		p.Eval(`document.querySelectorAll('[data-proposed]').length`, &n)
		touch(fmt.Sprintf("Take all %d circuits", n))
		p.Until("the circuits", fmt.Sprintf(`document.querySelectorAll('[data-row]').length === %d`, n))
		var fails []string
		p.Eval(`fetch('/api/jobs/`+id+`/circuits').then(r => r.json()).then(s => s.report.circuits.flatMap(c => c.checks)
			.filter(k => k.verdict === 'fail' && !k.outside).map(k => k.circuit + ' ' + k.summary))`, &fails)
		assert.Empty(t, fails)
		assert.LessOrEqual(t, hits, 900, "keys and touches")
		t.Logf("%s: %d keys and touches, %d circuits", practice, hits, n)
		p.measures(id, 2)
		p.agreesOneVariation(t, id, practice, n)
	}
}

// measures types the lengths of the first legs of the longest run, as they were read with a tape.
func (p *person) measures(id string, legs int) {
	var run struct {
		ID   string
		Tags []int
	}
	p.Eval(`fetch('/api/jobs/`+id+`').then(r => r.json()).then(v => {
		const k = v.view.job.circuits.toSorted((a, b) => b.serves.boxes.length - a.serves.boxes.length)[0];
		return {ID: k.id, Tags: k.serves.boxes.map(b => b.tag)};
	})`, &run)
	p.Open("/jobs/" + id + "/circuits?c=" + run.ID)
	p.Has(`[data-run]`)
	for n, tag := range run.Tags[:legs] {
		p.Type(fmt.Sprintf(`[aria-label^="Length of the leg to P%03d "]`, tag), strconv.Itoa(8+n))
		p.Key("\r")
		p.Until("it is measured", fmt.Sprintf(`fetch('/api/jobs/%s').then(r => r.json()).then(v => v.view.job.circuits.find(k => k.id === '%s')
			.route.segments.filter(s => s.basis === 'measured').length > %d)`, id, run.ID, n))
	}
}

// agreesOneVariation agrees the points, is stopped from changing them by the way, and takes a variation, which every sheet follows.
func (p *person) agreesOneVariation(t *testing.T, id, practice string, circuits int) {
	p.sheet(id, "survey")
	p.leaf("scope")
	p.Press(map[string]string{"iec230": "Agree the scope as surveyed", "split120": "Agree on the scope as surveyed"}[practice])
	p.See("Agreed by Edda Vane")
	p.leaf("walk")
	p.Type("#shorthand", "study: 2 light")
	p.Press("Add the line")
	p.See("a change of them is a variation")
	p.leaf("scope")
	var study string
	p.Eval(`[...document.querySelectorAll('select[name="variation-room"] option')].find(o => o.text === 'study').value`, &study)
	p.Choose(`select[name="variation-room"]`, study)
	p.Type(`input[name="variation"]`, "flow heater 3kW, 2 light")
	p.Press("What does it bring?")
	p.Has(`[data-consequence] [data-varied]`)
	p.Type(`input[name="accepted-by"]`, "Edda Vane")
	p.Press("Accept the variation")
	p.Has("[data-variation]")
	var got struct {
		Circuits, Tests, Steps, Boxes int
		Demand                        bool
		Labels                        int
	}
	p.Eval(`fetch('/api/jobs/`+id+`').then(r => r.json()).then(async v => {
		const j = v.view.job, own = j.circuits.at(-1);
		const sheet = await (await fetch('/api/jobs/`+id+`/circuits')).json();
		return {Circuits: j.circuits.length, Boxes: own.serves.boxes.length, Tests: v.view.tests.rows.filter(r => r.circuit === own.id).length,
			Steps: v.view.tasks.filter(s => s.circuit === own.id).length, Demand: sheet.report.demand.afterA > 0,
			Labels: sheet.report.circuits.filter(c => c.id === own.id && c.summary.device !== '').length};
	})`, &got)
	assert.Equal(t, circuits+1, got.Circuits, practice)
	assert.Equal(t, [2]int{1, 1}, [2]int{got.Boxes, got.Labels})
	assert.Positive(t, got.Tests)
	assert.Positive(t, got.Steps)
	if practice == "iec230" { // the other asks for the floor area first
		assert.True(t, got.Demand)
	}
	var text string
	p.Eval(`fetch('/api/jobs/`+id+`/variations.pdf').then(r => r.arrayBuffer()).then(b => new TextDecoder().decode(b.slice(0, 5)))`, &text)
	assert.Equal(t, "%PDF-", text)
}
