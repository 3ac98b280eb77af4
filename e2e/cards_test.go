package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// On a phone the jobs and the circuits are cards one under the other: nothing of them
// scrolls sideways, and each figure still says what it is.
func TestListsAreCardsOnAPhone(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.Size(390, 844)
	aside := func(table string) (px int) {
		p.Has(`[aria-label="` + table + `"] tbody tr`)
		p.Eval(`(t => t.parentElement.scrollWidth - t.parentElement.clientWidth)(document.querySelector('table[aria-label="`+table+`"]'))`,
			&px)
		return px
	}
	p.Open("/jobs")
	assert.LessOrEqual(t, aside("Jobs"), 0)
	assert.LessOrEqual(t, p.Sideways(), 0)
	var label string
	p.Eval(`getComputedStyle(document.querySelector('table[aria-label="Jobs"] td[data-label="Held by"]'), '::before').content`, &label)
	assert.Contains(t, label, "Held by")
	p.open("PW-2052", "circuits")
	assert.LessOrEqual(t, aside("Circuits"), 0)
	p.Click(`[data-row="c6"]`)
	p.Has(`[data-circuit="c6"]`)
	p.Size(1280, 800)
	var head string
	p.Eval(`document.querySelector('table[aria-label="Circuits"] thead').innerText`, &head)
	assert.True(t, strings.Contains(head, "Device"), "columns where there is room")
}

// Nothing jumps under the thumb: what a sheet waits for has its place before it is there.
func TestNothingJumps(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.Front()
	p.open("PW-2054", "survey")
	id := strings.Split(p.Path(), "/")[2]
	p.Slow(150 * time.Millisecond)
	for _, width := range []int64{1280, 390} {
		p.Size(width, 844)
		for _, at := range []string{"survey?leaf=case", "survey?leaf=scope", "supply?leaf=found", "supply?leaf=demand",
			"supply?leaf=chain", "supply?leaf=isolation", "supply?leaf=desk", "supply?leaf=outdoor", "supply?leaf=outage",
			"circuits", "board", "materials", "test"} {
			p.Open("/jobs/" + id + "/" + at)
			p.Has("main h1")
			p.Until("the answers", `!/(Computing|Planning|Comparing|Gathering the findings) …/.test(document.body.innerText)`)
			score, what := p.Shifts()
			assert.Less(t, score, 0.1, "%s at %d px: %s", at, width, what)
		}
	}
}

// What a drawing writes into a box stands within it.
func TestDrawingsKeepTheirWordsWithinTheirBoxes(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	boxes := 0
	for _, at := range [][2]string{{"PW-2052", "board"}, {"PW-2056", "board"}, {"PW-2054", "board"}, {"PW-2057", "board"},
		{"PW-2054", "supply?leaf=chain"}, {"PW-2057", "supply?leaf=chain"}, {"PW-2057", "supply?leaf=standby"}} {
		p.Size(1280, 800)
		p.open(at[0], at[1])
		p.Has("main svg rect")
		p.Eval(`document.fonts.ready.then(() => 1)`, nil)
		var out struct {
			Boxes int
			Over  []string
		}
		p.Eval(`(() => {
			const pairs = [...document.querySelectorAll('main svg text')].map(t => [t,
			t.parentElement.querySelector(':scope > rect')]).filter(([, r]) => r);
			const over = pairs.filter(([t, r]) => { const a = t.getBoundingClientRect(), b = r.getBoundingClientRect();
			return a.width > 0 && a.top < b.bottom && a.bottom > b.top && (a.right > b.right + 1 || a.left < b.left - 1) });
			return {Boxes: pairs.length, Over: over.map(([t]) => t.textContent)};
		})()`, &out)
		boxes += out.Boxes
		assert.Empty(t, out.Over, at)
	}
	assert.Greater(t, boxes, 40)
}
