package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/standin/merchant"
)

// An order is asked for, sent and confirmed; what the merchant cuts shorter is seen before it is counted, and its note is booked in with one press.
func TestAnOrderIsSentAndItsNoteIsCounted(t *testing.T) {
	s := start(t)
	s.merchant.SetMode(merchant.Short)
	s.merchant.Settle = 0
	p := s.person("Dot Farley")
	p.open("PW-2052", "materials?leaf=merchant")
	p.Press("Ask for price, stock and day")
	p.Has("[data-enquiry]")
	for _, says := range []string{"in shorter pieces than the runs need", "Hollin Trade Counter", "(simulated)"} {
		p.See(says)
	}
	p.Press("Choose none")
	p.Click(`input[name="order-cable:flat-te-70:6"]`)
	p.Press("Send the order")
	p.Has(`[data-order="PW-2052/1"][data-state="delivered"]`)
	p.Until("what was ordered is no longer open", `!document.querySelector('[data-open="cable:flat-te-70:6"]') && !!document.querySelector('[data-open]')`)
	p.See("comes in 25 + 25")
	p.leaf("list")
	p.See("50 m ordered of the merchant")
	p.leaf("came")
	p.Has("[data-wired]")
	p.Press("Count it")
	p.Has(`[data-note-line="cable:flat-te-70:6"]`)
	p.Press("All counted as the note says")
	p.Press("Book it in")
	p.Has("[data-delivery]")
	p.Until("the note that was booked in", `!document.querySelector("[data-wired]")`)
	p.See("Claim to the merchant")
	var claim string
	p.Eval(`document.querySelector('[name="claim"]').value`, &claim)
	assert.Contains(t, claim, "ordered in lengths of 50")
}

// A merchant that is down holds nobody up: the order waits and says why, and is withdrawn with whom somebody spoke to.
func TestAnOrderWaitsForAMerchantWhoIsDown(t *testing.T) {
	s := start(t)
	s.merchant.SetMode(merchant.Down)
	p := s.person("Dot Farley")
	p.open("PW-2054", "materials?leaf=merchant")
	p.Press("Ask for price, stock and day")
	p.See("The merchant gives no answer that can be used")
	p.Press("Send the order")
	p.Has(`[data-order="PW-2054/1"][data-state="waiting"]`)
	p.See("it is tried again by itself")
	p.Press("Withdraw …")
	p.Type(`input[name="spokeTo"]`, "Ilse Brandt")
	p.Press("It is withdrawn")
	p.Has(`[data-order="PW-2054/1"][data-state="withdrawn"]`)
	p.See("spoke to Ilse Brandt")
	p.Has("[data-open]")
}

// What lies in a van is offered on the list before anybody orders it; a length is taken whole, and what a job has left is measured into the stock.
func TestLeftOversServeTheNextJob(t *testing.T) {
	s := start(t)
	p := s.person("Dot Farley")
	p.Size(390, 844)
	p.Open("/company")
	p.Choose(`[name="stockProduct"]`, "cable:flat-te-70:6")
	p.Type(`[name="stockCount"]`, "34")
	p.Type(`[name="stockPlace"]`, "Van 2")
	p.Press("Put it in")
	p.Has(`[data-kept="cable:flat-te-70:6"]`)
	p.open("PW-2052", "materials")
	p.Has("[data-in-stock]")
	p.open("PW-2052", "materials?leaf=stock")
	p.See("50 m less to buy")
	p.Press("Take it", `[data-offer="cable:flat-te-70:6"]`)
	p.Has(`[data-moved="cable:flat-te-70:6"]`)
	p.Until("nothing more is offered of it", `!document.querySelector('[data-offer="cable:flat-te-70:6"]')`)
	p.Type(`[name="left-cable:flat-te-70:6"]`, "2.5")
	p.Type(`[name="place-cable:flat-te-70:6"]`, "Yard")
	p.Press("Into the stock", `[data-over="cable:flat-te-70:6"]`)
	p.See("into the stock")
	assert.LessOrEqual(t, p.Sideways(), 0)
	p.Open("/company")
	p.Has(`[data-kept="cable:flat-te-70:6"]`)
	p.See("left over from PW-2052")
}

// The lengths in which a product is sold are typed into the list, and the cut plan buys by them; what is no length stays in its field.
func TestPacksAreTypedIntoTheList(t *testing.T) {
	s := start(t)
	p := s.person("Dot Farley")
	p.Open("/company")
	p.Has(`[data-path$=".packs"]`)
	var path string
	p.Eval(`[...document.querySelectorAll('input')].find((i) => i.value === 'cable:flat-te-70:6').dataset.path`, &path)
	packs := fmt.Sprintf(`[data-path=%q]`, strings.Replace(path, ".key", ".packs", 1))
	p.Type(packs, "20 | none")
	p.See("numbers above 0, as 50 | 100")
	p.Type(packs, "20 | 40")
	p.Press("Save")
	p.Until("the list is saved", `fetch('/api/company').then((r) => r.json()).then((c) => c.prices.some((l) => l.packs.join() === '20,40'))`)
	p.open("PW-2052", "materials?leaf=cuts")
	p.Until("the plan buys 20 m", `document.querySelector('[data-plan="cable:flat-te-70:6"]').innerText.includes('buy 1 × 20')`)
}

// What the merchant no longer sells is judged and replaced where it is said, and the order goes out with what was taken in its place.
func TestWhatIsNoLongerSoldIsReplacedAndOrdered(t *testing.T) {
	s := start(t)
	s.merchant.SetMode(merchant.Gone)
	s.merchant.Settle = 0
	p := s.person("Tobias Marrick")
	p.open("PW-2052", "materials?leaf=merchant")
	p.Press("Ask for price, stock and day")
	p.See("no longer sold")
	p.Press("Something else in its place …", `[data-instead="cable:flat-te-70:1"]`)
	p.Press("Take it", `[data-substitute]`)
	p.Until("the product has left the list", `!document.querySelector('[data-open="cable:flat-te-70:1"]')`)
	s.merchant.SetMode(merchant.Smooth)
	p.Press("Send the order")
	p.Has(`[data-order="PW-2052/1"][data-state="delivered"]`)
}
