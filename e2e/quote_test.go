package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// A price is offered by the office and signed by the client on a phone: an option is taken, another circuit is declined, and the plan and the
// walk follow.
func TestAQuoteIsSignedOnThePhone(t *testing.T) {
	p := start(t).person("Dot Farley")
	id := p.open("PW-2046", "quote")
	p.See("€ 1")
	p.Press("By room")
	p.Has(`[data-price=rooms] [data-priced=house]`)
	p.leaf("terms")
	p.Press("Add a charge")
	p.Until("the price to be open", `document.querySelector('[data-path="extras[0].cost"]') !== null`)
	p.Fill(`[data-path="extras[0].what"]`, "Street permit")
	p.leaf("offer")
	p.See("Street permit: what it costs is not entered.")
	p.leaf("terms")
	p.Fill(`[data-path="extras[0].cost"]`, "64,50")
	p.leaf("price")
	p.Has(`[data-priced=extra]`)
	p.See("Street permit")
	p.leaf("offer")
	p.Type(`[name=offerNote]`, "as we spoke")
	p.Press("Offer it")
	p.Has(`[data-offer=open]`)
	p.sheet(id, "plan")
	p.sheet(id, "first-fix")
	p.Until("the steps to wait for the answer", `document.body.innerText.includes('is with the client: it was not accepted yet')`)

	p.Size(390, 844)
	p.sheet(id, "quote")
	p.leaf("offer")
	p.See("Price with what is ticked")
	p.Until("no way to accept unsigned", `[...document.querySelectorAll('button')].some(b => b.innerText === 'Accept the quote' && b.disabled)`)
	p.Draw(`[data-signature]`, [][2]float64{{0.1, 0.5}, {0.2, 0.2}, {0.3, 0.8}, {0.5, 0.4}}, [][2]float64{{0.6, 0.5}, {0.9, 0.55}})
	p.Until("two strokes", `(document.querySelector('[data-signature] path').getAttribute('d').match(/M/g) ?? []).length === 2`)
	p.Press("Accept the quote")
	p.Has(`[data-offer=accepted]`)
	p.Has(`[data-agreed]`)
	assert.Zero(t, p.Sideways())
	p.sheet(id, "first-fix")
	p.Until("the steps to be open", `!document.body.innerText.includes('is with the client')`)
	p.sheet(id, "quote")
	p.leaf("used")
	p.Type(`[name^="hours-"]`, "1,5")
	p.Key("\r")
	p.Until("the hours", `document.querySelector('[data-worked]').innerText.includes('1.5')`)
	text := p.packText(id)
	assert.Contains(t, text, "Agreed with the quote")
	assert.Contains(t, text, "PW-2046-Q1 was accepted by")
}

// The van is packed in the yard, without a connection; what was put in is seen by the others once there is one.
func TestTheVanIsPackedWithoutAConnection(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Size(390, 844)
	p.open("PW-2046", "materials?leaf=van")
	p.Has(`[data-van="kit:drill"]`)
	p.See("its date was")
	assert.Zero(t, p.Sideways())
	p.Offline(true)
	p.Click(`[name="kit:drill"]`)
	p.Until("it to be kept here", `document.querySelector('[data-van="kit:drill"]').innerText.includes('kept here until there is a connection')`)
	p.Until("it to be ticked", `document.querySelector('[name="kit:drill"]').checked`)
	p.Offline(false)
	p.Until("it to be sent", `document.querySelector('[data-van="kit:drill"]').innerText.includes('in: Jana Okell')`)
	dot := s.person("Dot Farley")
	dot.open("PW-2046", "materials?leaf=van")
	dot.Until("it to be seen by others", `document.querySelector('[data-van="kit:drill"]')?.innerText.includes('in: Jana Okell')`)
}

// What the merchant does not have is judged on the list: what does not do says why, and what does is taken.
func TestASubstituteIsTakenOnTheList(t *testing.T) {
	p := start(t).person("Tobias Marrick")
	id := p.open("PW-2052", "materials")
	const product = "cable:flat-te-70:1"
	p.Until("the line", `document.querySelector('[data-asks="`+product+`"]') !== null`)
	p.Eval(`document.querySelector('[data-asks="`+product+`"]').open = true`, nil)
	p.Press("Something else in its place …", `[data-instead="`+product+`"]`)
	p.Has(`[data-substitute="cable:flat-te-70:1.5"]`)
	p.Press("Take it", `[data-substitute="cable:flat-te-70:1.5"]`)
	p.Until("the list to ask for it",
		`document.querySelector('[data-asks="cable:flat-te-70:1.5"]') !== null && document.querySelector('[data-asks="`+product+`"]') === null`)
	p.sheet(id, "circuits")
	p.See("1.5")
	p.Press("Undo: In the place of 1 mm² flat twin and earth, 70 °C")
	p.sheet(id, "materials")
	p.Has(`[data-asks="` + product + `"]`)
}
