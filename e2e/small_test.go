package e2e

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/demo"
	"arvelt/e2e/browser"
)

// A job as small as one luminaire, as somebody new would carry it: begun from the list, nothing asked of supply, board or loads, the
// circuit shown as one that stays, done dead, tested, and signed.
func TestOneLuminaireInTheBrowser(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.Press("Start a job")
	for name, text := range map[string]string{"ref": "E-301", "title": "Luminaire over the stairs", "customer": "Ebba Quill", "address": "2 Sexton Lane"} {
		p.Type(`input[name="`+name+`"]`, text)
	}
	p.Choose(`[name="kind"]`, "repair")
	p.Press("Start")
	p.Has(`main[data-sheet="survey"]`)
	id := strings.Split(p.Path(), "/")[2]
	p.Click("[data-waits] summary")
	p.See("how far the work goes, as agreed")
	p.Gone("What the house draws already")
	for path, text := range map[string]string{"extent": "the luminaire over the stairs, by its like", "limits": "nothing else of the circuit was looked into"} {
		p.Type(browser.Field(path), text)
		p.Eval(`document.activeElement.blur()`, nil) // Enter begins another line
		p.Saved()
	}

	p.sheet(id, "circuits")
	p.Choose(`[name="template"]`, "Lighting")
	p.Press("Add circuit")
	p.Has(browser.Field("state"))
	p.See("not looked at") // neither cable nor device is made up
	p.See("For information, outside this job")
	p.Gone("maximum demand")
	p.Saved()

	p.Size(390, 844)
	p.sheet(id, "second-fix")
	assert.Equal(t, []string{"c1-replace"}, p.tasks())
	p.isolate()
	p.tick("c1-replace")
	assert.LessOrEqual(t, p.Sideways(), 0, "nothing to scroll sideways on a phone")
	p.sheet(id, "test")
	var instrument string
	p.Until("the instruments", `document.querySelector('[name="instrument"]')?.options.length > 1`)
	p.Eval(`document.querySelector('[name="instrument"]').options[1].value`, &instrument)
	p.Choose(`[name="instrument"]`, instrument)
	readings := map[string]string{"continuity-cpc": "0.3", "insulation-le": "455", "zs": "0.6", "rcd-x1": "24"}
	p.entries(readings)
	p.permit()
	p.entries(readings)
	p.See("Its limit is that of the device ahead")

	p.Size(1280, 800)
	p.sheet(id, "circuits")
	p.choose("protection.ratingA", "6")
	p.choose("seen", "yes")
	p.Saved()
	p.sheet(id, "test")
	p.serve()
	p.sheet(id, "handover")
	p.Press("Done")
	p.See("Ready to sign.")
	p.Type(`input[name="sign-password"]`, demo.Password)
	p.Press("Sign revision A")
	p.See("Revision A is signed.")
	assert.True(t, strings.HasPrefix(p.download("/api/jobs/"+id+"/pack"), "%PDF-"))
}

// An inspection, begun with the title and reference that are proposed: what fails waits for a finding, the finding answers it, and the
// outcome follows.
func TestAnInspectionInTheBrowser(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	p.Press("Start a job")
	p.Until("a reference by the company's numbering", `/^PW-\d+$/.test(document.querySelector('input[name="ref"]').value)`)
	p.Choose(`[name="kind"]`, "inspection")
	for name, text := range map[string]string{"customer": "Ebba Quill", "address": "2 Sexton Lane"} {
		p.Type(`input[name="`+name+`"]`, text)
	}
	p.Until("a title", `document.querySelector('input[name="title"]').value === 'Inspection and report, 2 Sexton Lane'`)
	p.Press("Start")
	p.Has(`main[data-sheet="survey"]`)
	id := strings.Split(p.Path(), "/")[2]

	p.sheet(id, "supply")
	p.fact("pfcKA", "3", "measured")
	p.Saved()
	p.sheet(id, "circuits")
	p.Choose(`[name="template"]`, "Lighting")
	p.Press("Add circuit")
	p.Has(browser.Field("state"))
	p.Until("a circuit that is inspected", `document.querySelector('[data-path="state"]').value === 'inspected'`)
	p.fill("protection.icnKA", "1")
	p.choose("seen", "yes")
	p.Saved()

	p.sheet(id, "survey")
	p.leaf("existing")
	p.Has(`[data-unanswered="check c1 breaking-capacity"]`)
	p.Press("Note a finding of it", `[data-unanswered="check c1 breaking-capacity"]`)
	p.Choose(`[name="subject"]`, "other")
	p.Choose(`[name="path"]`, "C2")
	for label, text := range map[string]string{"What was seen, in your words": "the breaker breaks 1 kA", "Risk, in plain words": "it may burst in a fault",
		"Remedial action": "one that breaks 6 kA"} {
		p.Eval(`[...document.querySelectorAll('form label')].find(l => l.innerText.startsWith('`+label+`')).htmlFor`, &label)
		p.Type(`[id="`+label+`"]`, text)
	}
	p.Press("Save the finding")
	p.Until("the check to be answered", `!document.querySelector('[data-unanswered="check c1 breaking-capacity"]')`)
	p.sheet(id, "handover")
	p.Has(`[data-outcome="unsatisfactory"]`)
	p.See("the breaker breaks 1 kA")
}
