package paper

import (
	"bytes"
	"encoding/csv"
	"errors"
	"image"
	"image/jpeg"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/whole"
)

var now = time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)

func job(name string) *install.Job {
	w := 2000.0
	j := &install.Job{Format: install.Format, Ref: "T-1", Title: name, Kind: install.EVCharger, Practice: "iec230",
		Rules: install.Rules{Edition: "2018+A2:2022"}, Schools: install.Schools{},
		Site: install.Site{Customer: name, Address: "1 Test Row"}, Supply: install.Supply{DeclaredV: 230},
		Loads: install.Loads{Items: []install.Load{{Name: name, Category: "lighting", Watts: &w, Count: 1}}},
		Circuits: []install.Circuit{{ID: "c1", Name: name, Use: "ev", Point: install.Point{CurrentA: 32, Outdoor: true},
			Route: install.Route{CableType: "swa3-90", LineMM2: 6,
				Segments: []install.Segment{{Place: name, LengthM: 12, Method: "C", AmbientC: 30, Grouped: 1}}},
			Protection: install.Protection{Family: "mcb_rcbo", Curve: "B", RatingA: 32, IcnKA: 6, Way: 1, Poles: 2}}}}
	for i := range 24 {
		j.Board.Ways = append(j.Board.Ways, install.Way{No: i + 1, Label: strings.Repeat(name+" ", i%4)})
	}
	j.Tidy()
	return j
}

func view(j *install.Job) *whole.View {
	v := whole.Of(j, nil, install.Person{}, now)
	return &v
}

func TestATextThatASpreadsheetWouldRunIsDisarmed(t *testing.T) {
	for name, want := range map[string]string{"=1+1": "'=1+1", "+cmd": "'+cmd", "-2": "'-2", "@SUM(A1)": "'@SUM(A1)", "\tx": "'\tx",
		";=1+1": ";'=1+1", "a; =1": "a;' =1", "\n=1": "'\n=1", "x\n=1": "x\n'=1", "＝1+1": "'＝1+1", " =1": "' =1", "\u00a0@x": "'\u00a0@x",
		"\ufeff=1": "'\ufeff=1", "two\n\nlines; and more": "two\n\nlines; and more", "1-2": "1-2"} {
		var out bytes.Buffer
		require.NoError(t, CSV(&out, "loads", view(job(name))))
		rows, err := csv.NewReader(&out).ReadAll()
		require.NoError(t, err)
		assert.Equal(t, want, rows[1][0])
		assert.Equal(t, "2000", rows[1][2], "a number stays a number")
	}
}

func TestEveryTableHasRowsAsWideAsItsHead(t *testing.T) {
	v := view(job(`quoted " name, with a comma`))
	for _, table := range Tables {
		var out bytes.Buffer
		require.NoError(t, CSV(&out, table, v), table)
		rows, err := csv.NewReader(&out).ReadAll() // refuses ragged rows
		require.NoError(t, err, table)
		assert.NotEmpty(t, rows, table)
	}
	var unknown *TableError
	assert.ErrorAs(t, CSV(&bytes.Buffer{}, "passwords", v), &unknown)
}

// fiveSheets head the sheets that every pack has.
var fiveSheets = []string{"Handover record", "Schedule of circuits", "Schedule of test readings",
	"What was inspected, isolated and measured with", "Annex: checks with their working"}

func TestThePackHoldsItsFiveSheets(t *testing.T) {
	for _, name := range []string{"Charge point", "Ω ≤ √ λ μ ë", strings.Repeat("a very long name ", 12), "", "<b>&amp;</b>"} {
		j := job(name)
		var out bytes.Buffer
		require.NoError(t, Pack(&out, view(j), Context{Company: Company{Name: "Firm"}, Location: time.UTC,
			Words: whole.Practice(j).Words(), Now: now}), name)
		text := textOf(t, out.Bytes())
		for _, sheet := range fiveSheets {
			assert.Contains(t, text, sheet, name)
		}
		assert.Contains(t, text, strings.TrimSpace(strings.ReplaceAll(name, "<b>&amp;</b>", "<b>")), "as it was typed, never as markup")
	}
}

// A job without anything in it still has its sheets.
func TestAnEmptyJobStillPrints(t *testing.T) {
	j := &install.Job{Format: install.Format, Practice: "iec230", Schools: install.Schools{}}
	j.Tidy()
	var out bytes.Buffer
	require.NoError(t, Pack(&out, view(j), Context{Location: time.UTC, Now: now}))
	text := textOf(t, out.Bytes())
	for _, sheet := range fiveSheets {
		assert.Contains(t, text, sheet)
	}
}

// The page for the client prints each finding with its pictures, and prints on
// when a picture or a price is missing.
func TestTheCasePrints(t *testing.T) {
	v := view(job("Bridge <b>House</b>"))
	var jpg bytes.Buffer
	require.NoError(t, jpeg.Encode(&jpg, image.NewRGBA(image.Rect(0, 0, 60, 90)), nil))
	ctx := Context{Company: Company{Name: "C"}, Currency: "€", Location: time.UTC, Now: time.Now(),
		Photo: func(hash string) ([]byte, error) {
			if hash == "gone" {
				return nil, errors.New("gone")
			}
			return jpg.Bytes(), nil
		}}
	f := survey.Finding{Title: "Broken", Seen: "seen", Risk: "risk", Mend: "mend", Evidence: "seen",
		Photos: []string{"a", "gone", "b", "c"}, Price: &survey.Price{Low: 10, High: 20}, Decision: "later", Decided: "Mr Roe"}
	long := f
	long.Photos, long.Price, long.Risk = nil, nil, strings.Repeat("long words ", 300)
	c := survey.Case{Count: 12, Unpriced: 1, Price: &survey.Price{Low: 10, High: 10},
		Sections: []survey.Section{{Title: "At once", Summary: "s", Findings: []survey.Finding{f, long, f, f, f}}}}
	var with, without bytes.Buffer
	require.NoError(t, Case(&with, v, &c, ctx))
	text := textOf(t, with.Bytes())
	for _, says := range []string{"Bridge <b>House</b>", "What we found", "At once", "Broken", "10 to 20 €", "Mr Roe"} {
		assert.Contains(t, text, says)
	}
	assert.Equal(t, 5, strings.Count(text, "Broken"), "each finding, the long one too")
	assert.Equal(t, 300, strings.Count(text, "long words"), "nothing is cut")
	ctx.Photo = nil
	require.NoError(t, Case(&without, v, &c, ctx))
	assert.Greater(t, with.Len(), without.Len(), "the pictures are in it")
	require.NoError(t, Case(&without, v, &survey.Case{}, ctx), "an empty case prints too")
}

// A job of the split-phase practice prints a directory in place of a strip, with a
// sticker for every outlet that must wear one, in the words of the trade.
func TestASplitPhasePack(t *testing.T) {
	practice := whole.Practices["split120"]
	j := job("Loom house")
	j.Practice, j.Edition, j.Supply.DeclaredV, j.Loads, j.Board.Name = "split120", "2023", 240, install.Loads{}, "Panel A"
	c := practice.Defaults("garage")
	ground := false
	c.ID, c.Protection.Way = "c1", 2
	c.Serves.Boxes = []install.Box{{ID: "b1", Name: "Door", Place: "garage", Device: "gfci", Feed: "line", RatingA: 20,
		Ground: &ground}, {ID: "b2", Name: "Bench", Place: "garage", Device: "plain", From: "b1", Side: "load", RatingA: 20,
		Ground: &ground}}
	j.Circuits = []install.Circuit{c}
	j.Tidy()
	require.NoError(t, whole.Accept(j))
	v := view(j)
	require.Equal(t, []string{"GFCI Protected", "No Equipment Ground"}, v.Report.Circuits[0].Boxes[1].Labels)

	p := newPack(v, Context{Company: Company{Name: "Firm"}, Location: time.UTC, Words: practice.Words(), Now: now})
	p.SetCompression(false)
	assert.Equal(t, "12 AWG", p.amount(c.Route.LineMM2, "mm²"))
	assert.Equal(t, "10\u00a0ft", p.length(3.048))
	assert.InDelta(t, 1, p.buttonMonths(), 0, "a ground-fault device is tested monthly")
	var out bytes.Buffer
	require.NoError(t, Pack(&out, v, Context{Company: Company{Name: "Firm"}, Location: time.UTC, Words: practice.Words(), Now: now}))
	text := textOf(t, out.Bytes())
	for _, sheet := range []string{"Handover record", "Panel directory and stickers", "GFCI Protected",
		"No Equipment Ground", "What was inspected, locked out and measured with"} {
		assert.Contains(t, text, sheet)
	}
	var rows bytes.Buffer
	require.NoError(t, CSV(&rows, "materials", v))
	assert.Contains(t, rows.String(), "Ground-fault outlet, 20 A")
}
