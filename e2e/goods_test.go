package e2e

import "testing"

// A pasted delivery note is read whole, counted by a person and booked in: what came too short is claimed, closes the step that waits for it, and
// is taken back as one.
func TestADeliveryIsPastedCountedAndClaimed(t *testing.T) {
	p := start(t).person("Dot Farley")
	id := p.open("PW-2052", "materials?leaf=came")
	p.Type(`[name=deliveryNote]`, "# number: D-77\nproduct;count;unit;lengths\ncable:flat-te-70:6;50;m;50\nghost;1;;\n")
	p.Press("Read it")
	p.See("Nothing was read")
	p.See("row 4, product")
	p.Type(`[name=deliveryNote]`, "# number: D-77\nproduct;count;unit;lengths\ncable:flat-te-70:6;50;m;50\n")
	p.Press("Read it")
	p.Has(`[data-note-line="cable:flat-te-70:6"]`)
	p.See("Each line needs a count")
	p.Type(`[name="count-3"]`, "9,5")
	p.Type(`[name="lengths-3"]`, "9,5")
	p.Press("Book it in")
	p.Has(`[data-delivery="D-77"]`)
	p.Until("the claim", `document.querySelector('[name=claim]')?.value.includes('the note says 50')`)
	p.sheet(id, "materials")
	p.See("Do not travel for Cooker")
	p.sheet(id, "first-fix")
	p.Until("the step to say what it waits for", `document.body.textContent.includes('does not suffice for it')`)
	p.sheet(id, "materials")
	p.leaf("cuts")
	p.Has(`[data-plan="cable:flat-te-70:2.5"]`)
	p.See("nothing less can be bought")
	p.Press("Undo: Materials changed")
	p.leaf("came")
	p.See("Nothing yet.")
}
