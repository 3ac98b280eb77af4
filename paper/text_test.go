package paper

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/whole"
)

// textOf reads a PDF's text back, page after page, as a reader would.
func textOf(t *testing.T, pdf []byte) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "paper.pdf")
	require.NoError(t, os.WriteFile(path, pdf, 0o600))
	out, err := exec.Command("pdftotext", "-layout", path, "-").Output()
	require.NoError(t, err, "pdftotext of poppler-utils, which ./test installs")
	return strings.Join(strings.Fields(string(out)), " ")
}

func packOf(t *testing.T, j *install.Job) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, Pack(&out, view(j), Context{Company: Company{Name: "Firm", Phone: "000 77", Licence: "L-9",
		Address: "Yard 4"}, Location: time.UTC, Words: whole.Practice(j).Words(), Now: now}))
	return textOf(t, out.Bytes())
}

// fill puts a text into every text of a value that is not an id or a choice.
func fill(v reflect.Value, text string) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			fill(v.Elem(), text)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type() != reflect.TypeFor[time.Time]() {
				fill(v.Field(i), text)
			}
		}
	case reflect.Slice:
		for i := range v.Len() {
			fill(v.Index(i), text)
		}
	case reflect.String:
		if v.Type() == reflect.TypeFor[string]() {
			v.SetString(text)
		}
	}
}

// No text that somebody typed keeps the paper from being printed: every text of a job, of
// its records and of its findings holds what fonts and readers stumble over.
func TestAnyTextPrints(t *testing.T) {
	for name, text := range map[string]string{"emoji": "👍 done 🚗", "beyond the first plane": "𠮷𝐀",
		"right to left": "שלום עולם مرحبا", "CJK": "漢字かな한글", "control": "a\x00b\x07c\x1bd\u202ee",
		"bad UTF-8": "a\xffb",
		"long":      strings.Repeat("unbroken", 60), "brackets": `)/JS (app.alert(1)) \) <b>`} {
		j := job("Charge point")
		j.Board.Groups = []install.Group{{ID: "g1", RCDType: "A", IdnMA: 30}}
		j.Rooms = []install.Room{{ID: "r1"}}
		j.Found.Hazards = []install.Hazard{{}}
		j.Chain.Enclosures = []install.Enclosure{{ID: "head", Kind: "head"}}
		j.Surge.Devices = []install.SPD{{}}
		j.Outdoor.Electrodes.Rods = []install.PlacedRod{{LengthM: 2}}
		j.Supply.Bonds = []install.Bond{{}}
		j.Records = []install.Record{{ID: "1", Kind: install.Isolation}, {ID: "2", Kind: install.LooseEnd},
			{ID: "3", Kind: install.Reading, Subject: "r1r2", Circuit: "c1"},
			{ID: "4", Kind: install.Observation, Subject: "other", Path: "C1"}, {ID: "5", Kind: install.Operator},
			{ID: "6", Kind: install.Energise}, {ID: "7", Kind: install.LockOff}}
		kept := *j
		fill(reflect.ValueOf(j).Elem(), text)
		// What the program chooses by stays as it was.
		j.Practice, j.Kind, j.Format, j.Schools = kept.Practice, kept.Kind, kept.Format, kept.Schools
		j.Circuits[0].ID, j.Circuits[0].Use, j.Circuits[0].From = "c1", "ev", ""
		j.Circuits[0].Route.CableType, j.Circuits[0].Protection.Family, j.Circuits[0].Protection.Curve = "swa3-90", "mcb_rcbo", "B"
		j.Chain.Enclosures[0].ID, j.Chain.Enclosures[0].From, j.Chain.Enclosures[0].Kind = "head", "", "head"
		for i := range j.Records {
			j.Records[i].ID = string(rune('1' + i))
		}
		j.Records[2].Subject, j.Records[2].Circuit = "r1r2", "c1"
		j.Records[3].Subject, j.Records[3].Path, j.Records[3].Supersedes = "other", "C1", ""
		v := view(j)
		ctx := Context{Company: Company{text, text, text, text}, Currency: text, Location: time.UTC,
			Words: whole.Practice(j).Words(), Now: now}
		var pack, found bytes.Buffer
		require.NoError(t, Pack(&pack, v, ctx), name)
		c := survey.CaseOf(j, whole.Practice(j).Survey(), func(string) (float64, float64, bool) { return 1, 2, true })
		require.NoError(t, Case(&found, v, &c, ctx), name)
		assert.Contains(t, textOf(t, pack.Bytes()), "Handover record", name)
		assert.Contains(t, textOf(t, found.Bytes()), "What we found", name)
	}
}

// Nothing is cut, and nothing speaks of what is not there.
func TestThePackSaysWhatIsThereAndNothingElse(t *testing.T) {
	j := job("Spindle lathe")
	j.Circuits[0].Use, j.Circuits[0].Point = "fixed", install.Point{CurrentA: 20, Place: "loom shed"}
	j.Site.Extent, j.Site.Limits, j.Site.Others = "the loom shed only", "the hayrick was locked", "plastering by the mason"
	text := packOf(t, j)
	for _, says := range []string{"Firm", "Yard 4", "000 77", "L-9", "the loom shed only", "the hayrick was locked",
		"plastering by the mason", "Receipt of the client", "Schedule of circuits", "Schedule of test readings",
		"Instruments", "Annex: checks with their working", "call Firm, 000 77"} {
		assert.Contains(t, text, says)
	}
	for _, word := range []string{"vehicle", "charge point", "Charge point", "…", "Two sources", "Surge device",
		"residual-current device of"} {
		assert.NotContains(t, text, word)
	}
	j.Surge.Devices = []install.SPD{{Name: "Korv SPD-2", Place: "origin", Type: "2"}}
	j.Standby.Source = "generator"
	j.Found.Circuits = []install.FoundCircuit{{Name: "old", Colours: "mixed"}}
	text = packOf(t, j)
	for _, says := range []string{"Surge device Korv SPD-2", "Two sources of supply", "Wires of two colour codes"} {
		assert.Contains(t, text, says)
	}
	assert.NotContains(t, text, "Press the button marked T", "there is none to press")
	j.Circuits[0].Protection.RCDType, j.Circuits[0].Protection.IdnMA = "A", 30
	assert.Contains(t, packOf(t, j), "1 Residual-current device")
	j.Circuits[0].Use = "ev"
	assert.Contains(t, packOf(t, j), "unplug the vehicle first")
}

// A working is printed whole, with its sources, however long.
func TestAWorkingIsNotCut(t *testing.T) {
	j := job("Spindle lathe")
	v := view(j)
	c := &v.Report.Job[0]
	c.Steps = append(c.Steps, c.Steps...)
	long := "begin " + strings.Repeat("a long formula with many terms ", 12) + "end-of-it"
	c.Steps[0].Formula, c.Steps[0].Source = long, long
	var out bytes.Buffer
	require.NoError(t, Pack(&out, v, Context{Company: Company{Name: "Firm"}, Location: time.UTC,
		Words: whole.Practice(j).Words(), Now: now}))
	assert.Equal(t, 2, strings.Count(textOf(t, out.Bytes()), "end-of-it"))
}

// What was declined stands in the record and on the page for the client, with the reason.
func TestADeclinedFindingKeepsItsReason(t *testing.T) {
	j := job("Spindle lathe")
	j.Records = []install.Record{
		{ID: "o", Kind: install.Observation, Subject: "no-bonding", Path: "C2", Evidence: "seen", Note: "bare pipe", By: "Ada", At: now},
		{ID: "d", Kind: install.Decision, Subject: "o", Path: "declined", Person: "Ms Roe", Note: "the house is sold in spring", At: now},
	}
	assert.Contains(t, packOf(t, j), "Reason: the house is sold in spring")
	c := survey.CaseOf(j, whole.Practice(j).Survey(), func(string) (float64, float64, bool) { return 1, 2, true })
	var out bytes.Buffer
	require.NoError(t, Case(&out, view(j), &c, Context{Location: time.UTC, Now: now}))
	assert.Contains(t, textOf(t, out.Bytes()), "Your reason: the house is sold in spring")
}

// Letter where lengths are in feet, A4 elsewhere.
func TestThePaperIsOfThePractice(t *testing.T) {
	for practice, width := range map[string]string{"iec230": "595.28", "split120": "612.00"} {
		j := job("Kiln")
		j.Practice = practice
		var out bytes.Buffer
		require.NoError(t, Pack(&out, view(j), Context{Location: time.UTC, Words: whole.Practice(j).Words(), Now: now}))
		assert.Contains(t, out.String(), "/MediaBox [0 0 "+width, practice)
	}
}

// The strip of a board names what guards it and what is not yet blanked; the directory of a
// panel names the panel, where it is and of when it is.
func TestLabelsNameTheBoardAndWhatGuardsIt(t *testing.T) {
	j := job("Kiln")
	j.Board.Name, j.Board.Location, j.Board.MainSwitchA = "Board K", "under the loft ladder", install.Fact{Value: new(float64(100)),
		Basis: install.Measured}
	j.Board.Groups = []install.Group{{ID: "g1", Name: "Ground floor", RCDType: "A", IdnMA: 30}}
	j.Surge.Devices = []install.SPD{{Name: "Korv SPD-2", Place: "origin", Type: "2"}}
	heads := []string{}
	p := newPack(view(j), Context{Location: time.UTC, Words: whole.Practice(j).Words(), Now: now})
	for _, l := range p.strip(&j.Board) {
		heads = append(heads, l.head+": "+l.text+" "+l.device)
	}
	assert.Equal(t, []string{"MAIN: Main switch 100\u00a0A", "SPD: Surge device Korv SPD-2 Type 2", "RCD: Ground floor A 30 mA",
		"1: Kiln B32"}, heads[:4])
	assert.Contains(t, heads, "5: open: to be blanked ")
	for _, spare := range heads {
		assert.NotContains(t, spare, "spare")
	}
	j.Practice, j.Edition, j.Supply.DeclaredV, j.Site.Town = "split120", "2023", 240, "Pellmore"
	text := packOf(t, j)
	assert.Contains(t, text, "Board K · under the loft ladder · 1 Test Row · Pellmore · ")
	assert.NotContains(t, text, "spare")
}
