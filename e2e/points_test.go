package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// A hundred points are worked on one by one on a phone without a connection, and then sent: nothing is lost, nothing doubled, all in order.
func TestAHundredPointsWithoutAConnection(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Size(390, 844)
	lines := []string{}
	rooms := []string{"study", "parlour", "store", "hall", "scullery", "attic", "snug", "workshop", "passage", "den"}
	for _, room := range rooms {
		points := []string{}
		for at := range 10 {
			points = append(points, fmt.Sprintf("double socket @%d", 300+10*at))
		}
		lines = append(lines, room+": "+strings.Join(points, ", "))
	}
	var id string
	p.Eval(`(async () => {
		const key = () => crypto.randomUUID()
		const say = (method, path, body) => fetch('/api' + path, {method, headers: {'Content-Type': 'application/json', 'Idempotency-Key': key()},
			body: JSON.stringify(body)}).then(r => r.json())
		const { id } = await say('POST', '/jobs', {ref: 'PW-9680', title: 'House of points', kind: 'rewire', practice: 'iec230', edition: '',
			customer: 'Ada Fenn', address: '4 Sluice Row', town: 'Tarrowick'})
		await say('POST', '/jobs/' + id + '/walk', {text: `+"`"+strings.Join(lines, `\n`)+"`"+`})
		return id
	})()`, &id)
	p.Open("/jobs/" + id + "/first-fix")
	p.Has("[data-group]")
	p.Offline(true)
	all := []string{}
	for _, name := range rooms {
		group := `[data-group="` + name + `"]`
		p.Click(group + " > summary")
		p.Click(group + " [data-room-points] summary")
		p.Has(group + " [data-point]")
		var points []string
		p.Eval(`[...document.querySelectorAll('`+group+` [data-point]')].map(x => x.dataset.point)`, &points)
		require.Len(t, points, 10)
		assert.Zero(t, p.Sideways())
		// As fast as somebody can touch: none waits for the one before.
		p.Eval(`(() => { document.querySelectorAll('`+group+` [data-point] [data-step="marked"]').forEach(chip => chip.click()); return 1 })()`, nil)
		p.Until("all of the room to be said", `document.querySelectorAll('`+group+` [data-point] [data-step="marked"][aria-pressed="true"]').length === 10`)
		all = append(all, points...)
		p.Click(group + " > summary")
	}
	assert.Empty(t, pointWork(s.job("PW-9680")), "none of it is on the server yet")
	p.Offline(false)
	p.Until("everything to be sent", `Object.keys(localStorage).filter(k => k.startsWith('arvelt:records:')).every(k => localStorage[k] === '[]')`)
	sent := pointWork(s.job("PW-9680"))
	require.Len(t, sent, 100)
	got, last := []string{}, int64(0)
	for _, r := range sent {
		require.Len(t, r.Points, 1)
		got = append(got, r.Points[0])
		assert.Greater(t, r.Seq, last, "in the order in which it was said")
		last = r.Seq
	}
	assert.Equal(t, all, got, "each once, as they were touched")
}

func pointWork(j install.Job) (out []install.Record) {
	for _, r := range j.Records {
		if r.Kind == install.PointWork {
			out = append(out, r)
		}
	}
	return out
}

// The day of somebody on site: what is planned for them comes first, is ticked with one touch, and is there without a connection; what endangers
// people stands first on every screen, and nobody leaves the house until it is made safe.
func TestTheDayOnThePhone(t *testing.T) {
	s := start(t)
	boss := s.person("Tobias Marrick")
	var id, step string
	boss.Eval(`(async () => {
		const get = async path => (await fetch('/api' + path)).json()
		const job = (await get('/jobs?q=PW-2046')).jobs[0]
		const v = await get('/jobs/' + job.id)
		const day = (await get('/today')).day
		const task = v.view.tasks.find(t => !t.done && !t.closed)
		const plan = {...v.view.job.plan, tasks: {[task.id]: {crew: 1, hours: 1, who: 'Jana Okell', day}}}
		const r = await fetch('/api/jobs/' + job.id + '/parts?part=plan&base=' + (v.versions.plan ?? 0), {method: 'PUT',
			headers: {'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID()}, body: JSON.stringify(plan)})
		return r.ok ? [job.id, task.id].join(' ') : await r.text()
	})()`, &id)
	id, step, _ = strings.Cut(id, " ")
	require.NotEmpty(t, step, id)

	p := s.person("Jana Okell")
	p.Size(390, 844)
	p.Open("/")
	p.Has(`[data-day-job]`)
	p.Eval(`(() => { document.querySelector('[data-day-job="PW-2046"]').open = true; return 1 })()`, nil)
	p.Has(`[data-day-job="PW-2046"] [data-day-next="` + step + `"]`)
	assert.Zero(t, p.Sideways())
	p.Click(`[data-day-tick="` + step + `"]`)
	p.Until("the next step", `document.querySelector('[data-day-job="PW-2046"] [data-day-next]')?.dataset.dayNext !== '`+step+`'`)
	p.Offline(true)
	p.Click(`[data-day-job="PW-2046"] [data-day-next] [data-day-tick]`)
	p.Has(`[data-kept-tick]`)
	p.Offline(false)
	p.Until("it to be sent", `!document.querySelector('[data-kept-tick]')`)

	helper := s.person("Remy Stroud")
	helper.Size(390, 844)
	helper.Open("/jobs/" + id + "/second-fix")
	helper.Has(`[data-note-left]`)
	helper.unfold(`input[name="loose"]`)
	helper.Choose(`select[name="left"]`, "blind-end")
	helper.Type(`input[name="leftPlace"]`, "behind the coat rail")
	helper.Choose(`select[name="reach"]`, "yes")
	helper.Press("Write it down")
	helper.Has(`[data-danger-strip]`)
	helper.unfold(`input[name="dayEnd"]`)
	helper.Press("I leave the house")
	helper.See("Make it safe before anybody leaves")
	p.Open("/today")
	p.Has(`[data-dangers]`)
	p.See("behind the coat rail")
	boss.Open("/jobs")
	boss.Has(`[data-dangers]`)
	boss.Open("/week")
	boss.Has(`[data-dangers]`)
	boss.Has(`[data-week-job="PW-2046"]`)
	boss.Open("/jobs/" + id + "/circuits")
	boss.Press("I know", "[data-danger-strip]")
	boss.Until("that it is known", `!document.querySelector('[data-danger-strip] button')`)
}
