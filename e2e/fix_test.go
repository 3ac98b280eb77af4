package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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

	var id string // of a job of which something may be done now
	p.Eval(`(async () => {
		const get = async path => (await fetch('/api' + path)).json()
		for (const { id } of (await get('/jobs')).jobs)
			if ((await get('/jobs/' + id)).view.tasks.find(t => t.stage === 'first fix' && !t.done)?.closed === '') return id
		return ''
	})()`, &id)
	require.NotEmpty(t, id)
	p.sheet(id, "first-fix")
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
	p.Click(`[data-tick="` + task + `"]`)
}
