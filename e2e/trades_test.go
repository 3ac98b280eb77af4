package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The office notes another trade, gives it a link, and withdraws it; who has the link reads its sheet on a telephone without signing in, and finds no way
// into the house there.
func TestAnotherTradeReadsItsSheet(t *testing.T) {
	s := start(t)
	office := s.person("Dot Farley")
	office.open("PW-2052", "plan")
	office.Has(`[data-trade="t1"]`)
	office.Eval(`(() => { document.querySelector('[data-trade="t1"] details').open = true; return 1 })()`, nil)
	office.Press("Make a link for them", `[data-trade="t1"]`)
	office.Has("[data-fresh-link]")
	var link string
	office.Eval(`document.querySelector('[data-fresh-link]').dataset.freshLink`, &link)
	require.True(t, strings.HasPrefix(link, "/with#"), link)

	tiler := chromium.Person(t, "tiler", s.port)
	t.Cleanup(tiler.Close)
	tiler.Size(390, 844)
	tiler.Open(link)
	tiler.See("Selvage Tiles")
	tiler.See("no leave to touch anything")
	var text string
	tiler.Eval(`document.body.innerText`, &text)
	assert.NotContains(t, text, "quay gate", "how to get in is nobody else's")
	assert.NotContains(t, text, "000 3174", "nor is the client's telephone")
	assert.LessOrEqual(t, tiler.Sideways(), 0)

	office.Press("Withdraw", `[data-trade="t1"]`)
	office.Until("the link is gone", `!document.querySelector('[data-trade="t1"] [data-link-of]')`)
	tiler.Open("/with")
	tiler.Open(link)
	tiler.See("This link shows nothing any more")
}

// The office has days proposed for all jobs, sees why each is not earlier, and takes those of one job over: they stand on its plan and on the week.
func TestDaysAreProposedAndTakenOver(t *testing.T) {
	s := start(t)
	office := s.person("Dot Farley")
	office.Open("/week")
	office.Press("Propose days", "main")
	office.Has(`[data-proposed="PW-2052"]`)
	office.Eval(`(() => { document.querySelector('[data-proposed="PW-2052"] details').open = true; return 1 })()`, nil)
	var why string
	office.Eval(`document.querySelector('[data-proposed="PW-2052"]').innerText`, &why)
	assert.Contains(t, why, "After ")
	var before int
	office.Eval(`document.querySelectorAll('[data-week-job="PW-2052"] [data-planned]').length`, &before)
	office.Press("Take over", `[data-proposed="PW-2052"]`)
	office.Until("the days to stand on the week", fmt.Sprintf(`document.querySelectorAll('[data-week-job="PW-2052"] [data-planned]').length > %d`, before))
	office.Until("the proposal to have nothing new of it", `![...document.querySelectorAll('[data-proposed="PW-2052"] button')].some(b => b.innerText === 'Take over')`)
	office.Size(390, 844)
	assert.LessOrEqual(t, office.Sideways(), 0)
	with := 0
	for _, edit := range s.job("PW-2052").Plan.Tasks {
		if edit.Day != "" && edit.Who != "" {
			with++
		}
	}
	assert.Greater(t, with, 20)
}
