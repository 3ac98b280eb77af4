package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// A person is added by a link, sets a password on a phone, does nothing that takes a competence until the owner
// says so by name, hangs a lock of their own meanwhile, and is out the moment they have left.
func TestAPersonIsAddedAuthorisedAndLeaves(t *testing.T) {
	s := start(t)
	owner := s.person("Ines Pellmore")
	owner.See("whoever uses this computer goes in without a password")
	owner.Open("/people")
	owner.Type(`input[name="new-name"]`, "Ravi Thorne")
	owner.Type(`input[name="new-email"]`, "ravi@pellmore.example")
	owner.Press("Add a person", "form")
	owner.Has("[data-link]")
	var link string
	owner.Eval(`document.querySelector('[data-link]').dataset.link`, &link)
	owner.See("invited, no password yet")

	p := &person{chromium.Person(t, "ravi", s.port), s}
	t.Cleanup(p.Close)
	p.Size(390, 844)
	p.Open(link)
	p.See("Welcome, Ravi Thorne")
	p.Type(`input[name="password"]`, "ravi thorne 12")
	p.Press("Set the password and go in")
	p.See("not made of common words")
	p.Type(`input[name="password"]`, "three brass hinges")
	p.Press("Set the password and go in")
	p.See("Nothing is planned for you today")

	jana := s.person("Jana Okell")
	id := jana.open("PW-2040", "second-fix")
	jana.Has(`[data-isolate]:not([disabled])`)
	p.Open("/jobs/" + id + "/second-fix")
	p.See("You are not authorised to isolate on this job")
	p.See("You are not authorised to isolate on this job")

	row := `[data-person="Ravi Thorne"]`
	owner.Press("Ravi Thorne", row)
	owner.Choose(`select[name="grant-kind"]`, "isolate")
	owner.Type(`input[name="grant-jobRef"]`, "PW-9999")
	owner.Press("Authorise")
	owner.See("the reference of a job of the company")
	owner.Type(`input[name="grant-jobRef"]`, "PW-2040")
	owner.Press("Authorise")
	owner.Has(`[data-authorisation="isolate"]`)
	p.Open("/jobs/" + id + "/second-fix")
	p.Has(`[data-isolate]:not([disabled])`)
	p.Gone("You are not authorised to isolate")

	owner.Press("Withdraw")
	owner.Until("it to be withdrawn", `!document.querySelector('[data-authorisation]')`)
	jana.isolate()
	p.Open("/jobs/" + id + "/second-fix")
	p.See("You are not authorised to isolate on this job")
	p.Press("Hang my own lock")
	p.Type(`input[name="ownLock"]`, "blue 2, Ravi")
	p.Press("It hangs")
	p.See("Your lock is in place: blue 2, Ravi")
	jana.open("PW-2040", "second-fix")
	jana.See("Lock of Ravi Thorne in place: blue 2, Ravi")
	assert.Zero(t, p.Sideways())

	owner.Press("Has left")
	owner.Press("End every session and let Ravi Thorne in no more")
	owner.See("has left")
	p.Open("/jobs")
	p.See("Sign in")
	p.Type(`input[type="email"]`, "ravi@pellmore.example")
	p.Type(`input[type="password"]`, "three brass hinges")
	p.Press("Sign in")
	p.See("Email and password do not belong together")
}
