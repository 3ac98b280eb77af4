package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A job of the split-phase practice from an empty one: the reason of the practice is
// shown before it is chosen, circuits start in its sizes, a string is built box by box,
// and a range on the wrong cable is mended by the remedy.
func TestASplitPhaseJobFromNothing(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Press("Start a job")
	p.Choose(`select[name="practice"]`, "split120")
	p.See("Two hots of 120 V to neutral")
	p.See("The practice stays with the job")
	p.Choose(`select[name="kind"]`, "rewire")
	for name, text := range map[string]string{"ref": "E-500", "title": "Rewire of the sail loft", "customer": "Mattis Orme",
		"address": "2 Sailmaker's Row", "town": "Harrow Sound"} {
		p.Type(`input[name="`+name+`"]`, text)
	}
	p.Press("Start")
	p.Has(`main[data-sheet="survey"]`)
	id := strings.Split(p.Path(), "/")[2]
	p.says("the habitable floor area")

	p.leaf("site")
	p.fact("areaM2", "1200", "measured") // square feet
	p.Saved()
	p.sheet(id, "supply")
	p.says("available fault current")
	p.fact("pfcKA", "8", "enquiry")
	p.fact("mainFuseA", "100", "measured")
	p.Choose(`[data-path="earthMM2.value"]`, "21.15")
	p.Choose(`[data-path="earthMM2.basis"]`, "measured")
	p.choose("intersystem", "yes")
	p.Saved()
	p.Press("Add a service")
	p.fill("bonds[0].service", "water pipe")
	p.Choose(`[data-path="bonds[0].mm2.value"]`, "21.15")
	p.Choose(`[data-path="bonds[0].mm2.basis"]`, "measured")
	p.Choose(`[data-path="bonds[0].around"]`, "true")
	p.Saved()
	p.Has(`[data-check="bond-1"][data-verdict="unknown"]`) // what the pipe is decides its bond
	p.Choose(`[data-path="bonds[0].kind"]`, "water-pipe")
	p.choose("earthTo", "water-pipe")
	p.Saved()
	p.Has(`[data-check="bond-1"][data-verdict="caution"]`) // the service conductors are taken for those of its rating
	// A pipe is never alone: rods beside it, the second far enough from the first.
	p.Has(`[data-check="supplemental-electrode"]:not([data-verdict="pass"])`)
	p.leaf("outdoor")
	for n := range 2 {
		p.Press("Add a rod")
		p.Choose(fmt.Sprintf(`[data-path="electrodes.rods[%d].listed"]`, n), "true")
	}
	p.choose("electrodes.continuous", "yes") // what joins the two is asked too
	p.Saved()
	p.located("electrodes.marks")
	p.leaf("found")
	p.Has(`[data-check="supplemental-electrode"][data-verdict="pass"]`)
	p.says("a lawful way to de-energize the service")
	p.leaf("isolation")
	p.Click(`[data-route="utility-disconnect"] button`)
	p.See("The supply is known.")

	p.sheet(id, "board")
	p.Fill(`[name="ways"]`, "6")
	p.Saved()
	p.See("6 spaces, 6 free.")

	p.sheet(id, "circuits")
	p.Choose(`select[name="template"]`, p.option(`select[name="template"]`, "Bathroom receptacles"))
	p.Press("Add circuit")
	p.Has(`[data-circuit="c1"]`)
	p.See("12/2 NM-B")
	p.fill("route.segments[0].lengthM", "40")
	p.choose("route.segments[0].basis", "measured")
	p.Choose(`[data-path="protection.way"]`, "1")
	p.Saved()
	p.Press("Add a box")
	p.fill("serves.boxes[0].name", "Left of the basin")
	p.choose("serves.boxes[0].device", "gfci")
	p.choose("serves.boxes[0].feed", "line")
	p.Choose(`[data-path="serves.boxes[0].ground"]`, "true")
	p.Click(`[data-path="serves.boxes[0].shuttered"]`)
	p.Saved()
	p.Has(`[data-check="ground-fault"][data-verdict="pass"]`)
	p.Has(`[data-check="box-fill"][data-verdict="caution"]`)
	p.See("at least")

	p.Choose(`select[name="template"]`, p.option(`select[name="template"]`, "Range"))
	p.Press("Add circuit")
	p.Has(`[data-circuit="c2"]`)
	p.choose("route.cableType", "nm-2")
	p.Has(`[data-check="conductors"][data-verdict="fail"]`)
	p.Click(`[data-check="conductors"]`)
	p.Has(`[data-drawer="conductors"]`)
	p.See("NM-B, three conductors and ground")
	p.Click(`[data-drawer] button.MuiButton-contained`)
	p.Has(`[data-check="conductors"][data-verdict="pass"]`)
	p.Saved()
	p.Choose(`[data-path="protection.way"]`, "2")
	p.Has(`[data-check="way"][data-verdict="pass"]`)
	p.See("Spaces 2 and 4, one on each leg.")
	p.See("Still to come: 2 small-appliance of 20 A, 1 laundry of 20 A.")
	assert.LessOrEqual(t, p.Sideways(), 0)
}

// option is the value of the option of a select that reads so.
func (p *person) option(selector, text string) (value string) {
	p.s.t.Helper()
	p.Until(text+" to be offered", `[...document.querySelector('`+selector+`').options].some(o => o.text === '`+text+`')`)
	p.Eval(`[...document.querySelector('`+selector+`').options].find(o => o.text === '`+text+`').value`, &value)
	return value
}
