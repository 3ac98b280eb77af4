package e2e

import (
	"fmt"
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
	}
}
