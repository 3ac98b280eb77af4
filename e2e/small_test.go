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
	p.See("Given by Tobias Marrick")
	p.entries(readings)
	p.See("Its limit is that of the device ahead")

	p.Size(1280, 800)
	p.sheet(id, "circuits")
	p.choose("protection.ratingA", "6")
	p.choose("seen", "yes")
	p.Saved()
	p.sheet(id, "handover")
	p.Press("Done")
	p.See("Ready to sign.")
	p.Type(`input[name="sign-password"]`, demo.Password)
	p.Press("Sign revision A")
	p.See("Revision A is signed.")
	assert.True(t, strings.HasPrefix(p.download("/api/jobs/"+id+"/pack"), "%PDF-"))
}
