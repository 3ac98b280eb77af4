package e2e

import (
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
