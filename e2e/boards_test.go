package e2e

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A second board is added with the circuit that feeds it; another circuit moves to it, and its face, its checks, what goes dark and the
// drawing of the supply show it, also on a phone.
func TestASecondBoardInTheBrowser(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.startRewire("E-310")
	id := strings.Split(p.Path(), "/")[2]
	p.sheet(id, "circuits")
	p.Choose(`[name="template"]`, "Lighting")
	p.Press("Add circuit")
	p.See("Lighting: cable and device")

	p.sheet(id, "board")
	p.Press("Add ways")
	p.Until("twelve ways", `document.querySelectorAll('[data-board="main"] svg text').length >= 12`)
	p.Eval(`[...document.querySelectorAll('summary')].find(x => x.innerText === 'Add a board').click()`, nil)
	p.Type(`[name="board"]`, "Kiln board")
	p.Press("Add board")
	p.Has(`[data-leaf="b1"] [data-board="b1"]`)
	p.See("Fed by Feed of Kiln board")
	p.See("its cable and device are on the Circuits sheet")
	p.Saved()

	p.sheet(id, "circuits")
	p.Press("Lighting")
	p.Has(`[data-run="c1"]`)
	p.choose("from", "c2")
	p.Saved()
	p.choose("protection.way", "3")
	p.Saved()
	p.Until("its way on that board", `(t => t.includes('↳ 3') && t.includes('Kiln board'))(document.querySelector('[data-row="c1"]').closest('tr').innerText)`)

	p.sheet(id, "board")
	p.leaf("b1")
	p.Until("the circuit on its face", `/way 3: Lighting/.test(document.querySelector('[data-board="b1"] svg[role="img"]').getAttribute('aria-label'))`)
	p.See("Main switch of Kiln board")
	p.fact("mainSwitchA", "63", "measured")
	p.Saved()
	p.See("The main switch of 63 A carries what may flow")
	p.choose("joined", "yes")
	p.See("Neutral and earth are joined in it")
	p.choose("joined", "no")
	p.See("Neutral and earth are apart in it")
	p.Choose(`[name="dark"]`, "main:b1")
	p.Until("what it takes along", `document.querySelector('[data-dark="main:b1"]').innerText.includes('Lighting')`)

	p.sheet(id, "supply")
	p.leaf("chain")
	p.Click(`[data-board-node="b1"]`)
	p.Has(`[data-leaf="b1"]`)
	assert.Contains(t, p.Path(), "/board")
	p.Size(390, 844)
	assert.Zero(t, p.Sideways())
	p.Size(1280, 800)
	p.Press("Take Kiln board off the job")
	p.Until("one board", `!document.querySelector('[data-board="b1"]')`)
	p.Press("Undo: Kiln board taken off")
	p.Until("two boards again", `document.querySelectorAll('[role="tab"]').length === 2`)
}
