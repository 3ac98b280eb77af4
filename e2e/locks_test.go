package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Two people on two phones at one board: one isolates without a connection, and the other sees whose lock it is, on the list and on the sheet,
// and permits nothing until its owner has taken it off.
func TestTwoPeopleAtOneBoard(t *testing.T) {
	s := start(t)
	jana, tobias := s.person("Jana Okell"), s.person("Tobias Marrick")
	for _, p := range []*person{jana, tobias} {
		p.Eval(`localStorage.setItem('arvelt:theme', 'sun')`, nil)
		p.Size(390, 844)
	}
	id := jana.open("PW-2037", "test")
	jana.isolate()
	jana.Has(`[name="instrument"]`)
	var instrument string
	jana.Until("the instruments", `document.querySelector('[name="instrument"]')?.options.length > 1`)
	jana.Eval(`document.querySelector('[name="instrument"]').options[1].value`, &instrument)
	jana.Choose(`[name="instrument"]`, instrument)
	jana.entries(map[string]string{"continuity-earth": "0.03", "continuity-bond": "0.04", "r1r2": "0.1", "ze": "0.2",
		"insulation-ln": "300", "insulation-le": "300", "insulation-ne": "300"})

	// She isolates one circuit more in the cellar: it is on her phone alone.
	jana.sheet(id, "second-fix")
	jana.Offline(true)
	jana.Click("[data-isolate]")
	jana.Click(`[data-device="circuit:c1"]`)
	jana.Press("Record")
	jana.Has("[data-kept-isolation]")

	tobias.Open("/jobs")
	tobias.See("Lock in place: Jana Okell padlock 2, tag TM")
	tobias.open("PW-2037", "second-fix")
	tobias.Has(`[data-lock-strip]`)
	tobias.Press("Put right")
	tobias.Type(`input[name="how"]`, "cover on, four screws")
	tobias.Press("Record")
	tobias.sheet(id, "test")
	tobias.reconnect()
	tobias.See("The lock of Jana Okell is in place (padlock 2, tag TM): only its owner takes it off.")
	tobias.Until("no permission to give", `!document.querySelector('[data-permit]')`)
	tobias.See("Opened: Main switch")

	// Up again, what she did arrives; she takes both of her locks off.
	jana.Offline(false)
	jana.Until("what waited to be sent", `!document.querySelector('[data-kept-isolation]')`)
	tobias.Until("both locks", `document.querySelectorAll('[data-lock="Jana Okell"]').length === 2`)
	for range 2 {
		var before int
		jana.Eval(`document.querySelectorAll('[data-lock]').length`, &before)
		jana.Press("My lock is off")
		jana.Until("one lock less", `document.querySelectorAll('[data-lock]').length < `+string(rune('0'+before)))
	}
	tobias.Until("no lock", `!document.querySelector('[data-lock-strip]')`)

	// Her lock and tester are remembered: beside the readings an isolation is six touches at most.
	touches := []string{"[data-isolate]", `[data-device="main"]`, `input[name="provedBefore"]`, `input[name="provedAfter"]`}
	for i, touch := range touches {
		if i == len(touches)-1 {
			jana.volts("board:")
		}
		jana.Click(touch)
	}
	jana.Press("Record")
	jana.Has("[data-proved]")
	assert.LessOrEqual(t, len(touches)+1, 6)
	tobias.Until("her lock", `!!document.querySelector('[data-lock="Jana Okell"]')`)
	jana.Press("My lock is off")
	tobias.Until("no lock again", `!document.querySelector('[data-lock-strip]')`)
	tobias.Has(`[data-person="Jana Okell"][data-reported="true"]`) // her phone reports by itself as he asks
	tobias.permit()
	assert.LessOrEqual(t, tobias.Sideways(), 0)
}
