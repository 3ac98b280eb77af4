package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Second fix of a house on a phone: two screens and few words, whatever its circuits; the next step is ticked with one touch, and the others
// are one touch away.
func TestSecondFixIsTwoScreens(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.Size(390, 844)
	p.open("PW-2052", "second-fix")
	p.Has("[data-next]")
	var words, high, groups int
	p.Eval(`document.querySelector('main').innerText.split(/\s+/).filter(Boolean).length`, &words)
	p.Eval(`document.querySelector('main').scrollHeight`, &high)
	p.Eval(`document.querySelectorAll('details[data-group]').length`, &groups)
	assert.GreaterOrEqual(t, groups, 5)
	assert.Less(t, words, 250)
	assert.LessOrEqual(t, high, 2*844)
	assert.Zero(t, p.Sideways())

	p.open("PW-2037", "first-fix")
	var first, second string
	p.Has("[data-next] [data-tick]:not([disabled])")
	p.Eval(`document.querySelector('[data-next]').dataset.task`, &first)
	p.tick(first)
	p.Until("the next one", `document.querySelector('[data-next]').dataset.task !== '`+first+`'`)
	p.Eval(`document.querySelector('[data-next]').dataset.task`, &second)
	assert.NotEqual(t, first, second)
	p.Click("details[data-group] summary")
	p.Until("the one that is done", `document.querySelector('[data-task="`+first+`"]').offsetParent !== null`)
	p.tickBack(first)
	p.Until("it to be the next again", `document.querySelector('[data-next]').dataset.task === '`+first+`'`)
}

// tickBack takes a tick back.
func (p *person) tickBack(task string) {
	p.s.t.Helper()
	p.unfold(`[data-tick="` + task + `"]`)
	p.Click(`[data-tick="` + task + `"]`)
}
