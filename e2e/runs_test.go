package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// stops are the tags of the points on the run that is shown, in their order.
func (p *person) stops() (tags []string) {
	p.Eval(`[...document.querySelectorAll('[data-run] [data-stop] b:first-child')].map(b => b.innerText).filter(t => /^P\d/.test(t))`, &tags)
	return tags
}

// A house of two floors, walked and put on its runs by hand: points placed, a leg measured, a point moved by keyboard, by hand and to
// another circuit, a joint, what goes dark; then all of it on a phone.
func TestARunInTheBrowser(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.startRewire("E-302")
	id := strings.Split(p.Path(), "/")[2]
	for _, line := range []string{"hall g: 2 double socket, light", "attic f1: 2 double socket, light"} {
		p.Type("#shorthand", line)
		p.Press("Add the line")
		p.Until("the line to be taken", `document.querySelector('#shorthand').value === ''`)
	}

	p.sheet(id, "circuits")
	p.See("The walk has 6 points on no circuit yet")
	for _, name := range []string{"Ring final circuit", "Lighting"} {
		p.Choose(`[name="template"]`, name)
		p.Press("Add circuit")
		p.See(name + ": cable and device")
	}
	p.Press("Ring final circuit")
	p.Has(`[data-run="c1"]`)
	p.See("No point stands on the run yet")
	p.Press("Put double socket-outlet of hall on this run")
	p.Until("two points", `document.querySelectorAll('[data-stop]').length === 2`)
	p.Press("Put double socket-outlet of attic on this run")
	p.Until("four points", `document.querySelectorAll('[data-stop]').length === 4`)
	assert.Equal(t, []string{"P001", "P002", "P003", "P004"}, p.stops())
	p.See("figures not known")
	p.See("back at the board")
	p.Press("Divide the route evenly, assumed")
	p.Until("figures", `/R1\+R2 0/.test(document.querySelector('[data-run]').innerText)`)
	p.Type(`[aria-label="Length of the leg to P003 attic, double socket-outlet, m"]`, "7,5")
	p.Key("\r")
	p.See("m measured")

	// Alt with down moves a point along; what is moved keeps its tag.
	p.Eval(`document.querySelector('[data-stop="p1"]').focus()`, nil)
	p.Key(kb.ArrowDown, input.ModifierAlt)
	p.Until("the first two to change places", `document.querySelector('[data-stop]').dataset.stop === 'p2'`)
	assert.Equal(t, []string{"P002", "P001", "P003", "P004"}, p.stops())
	p.Key("\r")
	p.See("Opened by: B32")
	p.See("r1 / 1000 × a × b / (a + b)")

	// A joint is put into a leg; undo takes it out.
	p.Press("More of the leg to P001 hall, double socket-outlet")
	p.Press("Joint here")
	p.Until("a joint", `document.querySelectorAll('[data-stop]').length === 5`)
	p.Press("Undo: Joint put into Ring final circuit")
	p.Until("no joint", `document.querySelectorAll('[data-stop]').length === 4`)

	// Dragged onto another circuit, by mouse; and back through the list.
	p.Eval(`(() => {
		const d = new DataTransfer(), on = (el, type) => el.dispatchEvent(new DragEvent(type, {bubbles: true, cancelable: true, dataTransfer: d}));
		const card = document.querySelector('[data-stop="p4"]').closest('li'), row = [...document.querySelectorAll('[data-row]')].find(r => r.innerText === 'Lighting').closest('tr');
		on(card, 'dragstart'); on(row, 'dragover'); on(row, 'drop'); on(card, 'dragend');
	})()`, nil)
	p.Until("three points", `document.querySelectorAll('[data-stop]').length === 3`)
	p.Press("Lighting")
	p.Has(`[data-run="c2"]`)
	p.Until("the point on the other circuit", `document.querySelector('[data-stop="p4"]')`)
	p.Click("[data-run] summary")
	p.Press("Put lighting point of hall on this run")
	p.Until("two points there", `document.querySelectorAll('[data-stop]').length === 2`)

	// A copy is of no points of the walk: each of them stands on one run.
	p.Press("Duplicate")
	p.See("Lighting, copy: cable and device")

	// What goes dark, on the rooms.
	p.sheet(id, "board")
	p.Has("[data-dark]")
	var device string
	p.Eval(`[...document.querySelector('[name="dark"]').options].find(o => o.text.startsWith('Lighting')).value`, &device)
	p.Choose(`[name="dark"]`, device)
	p.See("all light")
	p.See("some power")

	p.Size(390, 844)
	p.Open("/jobs/" + id + "/circuits?c=c1")
	p.Has("[data-stop]")
	assert.LessOrEqual(t, p.Sideways(), 0, "a run is cards on a phone")
	p.Press("Move P002 hall, double socket-outlet away from the board")
	p.Until("the order as it was", `document.querySelector('[data-stop]').dataset.stop === 'p1'`)
}
