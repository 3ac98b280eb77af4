package split120

import (
	"maps"
	"slices"
	"sync"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/words"
)

// CanadaID is the practice of Canada, as jobs name it.
const CanadaID = "split120ca"

// Canada is the practice of Canada: split phase under CSA C22.1, with its own clauses,
// editions, options and words. The engine is that of [Practice]; which code a rule reads is
// known from the job ([codeOf]).
type Canada struct{ Practice }

var (
	_ rulebook.Practice = Canada{}
	_ rulebook.Working  = Canada{}
)

// canadaEditions holds the editions of Canada and the neighbouring one of the same time.
var canadaEditions = table.LoadOf[canadaEditionsRow](dataFiles, "canada_editions")

var canadaOptions = rulebook.OptionsOf(dataFiles, string(CEC))

var canadaTerms = sync.OnceValue(func() install.Terms {
	t := terms
	t.Locale, t.Fahrenheit = words.Canadian, false
	t.Options, t.Editions, t.OldEditions = canadaOptions, nil, true
	t.Asks = maps.Clone(t.Asks)
	for use, asks := range t.Asks { // no rule of Canada lets a neutral be a ground behind the service
		t.Asks[use] = slices.DeleteFunc(slices.Clone(asks), func(field string) bool { return field == "threeWire" })
	}
	t.Rules = inCanada(slices.Clone(t.Rules))
	for r := range canadaEditions.Text {
		t.Editions = append(t.Editions, canadaEditions.Row(r).Edition)
	}
	return t
})

// ID is the name of the practice.
func (Canada) ID() string { return CanadaID }

// Terms returns the names that the practice accepts in a job.
func (Canada) Terms() install.Terms { return canadaTerms() }

// Words returns what the practice calls the names of its terms.
func (Canada) Words() map[string]string { return canadaWords() }

var canadaWords = sync.OnceValue(func() map[string]string {
	out := maps.Clone(practiceWords())
	for id, name := range out {
		out[id] = canadaSpeech.Replace(name)
	}
	out[CanadaID] = "120/240 V split phase, Canada"
	return out
})

// Survey returns what the practice says of a walk.
func (Canada) Survey() *rulebook.Survey { return canadaSurvey() }

var canadaSurvey = sync.OnceValue(func() *rulebook.Survey {
	s := *surveyWords
	s.Words = words.In(words.Canadian)
	s.Asks, s.Classes, s.Fabric = inCanada(slices.Clone(s.Asks)), inCanada(slices.Clone(s.Classes)), inCanada(slices.Clone(s.Fabric))
	s.Readings, s.Eras, s.Colours = inCanada(slices.Clone(s.Readings)), inCanada(slices.Clone(s.Eras)), inCanada(slices.Clone(s.Colours))
	return &s
})

// Outdoor returns what the practice asks of work outside on a job.
func (Canada) Outdoor(*install.Job) *rulebook.OutdoorRules { return outdoorCanada }

// Opening starts a job under the newest edition; the province may be at another.
func (Canada) Opening() rulebook.Opening {
	return rulebook.Opening{Edition: canadaEditions.Row(0).Edition, DeclaredV: splitV, Earthing: "grounded-neutral",
		Notice: Notice,
		Why: "Two hots of 120 V to neutral and 240 V between them; bonding and grounding conductors by their Canadian names, " +
			"the drop is a limit, the load by the Canadian rule."}
}

// Carry makes a job of Canada of one that an earlier version kept under the common practice
// with the code as its choice.
func Carry(job *install.Job) {
	if job.Schools.Options[codeBefore] == install.Chose(canadaBefore) {
		job.SealedPractice, job.Practice = id, CanadaID
	}
}

// codeBefore was the option by which a job named its code before Canada had a practice of
// its own, canadaBefore its choice of Canada.
const (
	codeBefore   install.OptionID = "splitCode"
	canadaBefore                  = string("cec")
)

// besideOf is the edition of the neighbouring code whose figures stand in for an edition of
// Canada, and what was chosen where it is none of Canada's: a job of an earlier version.
func besideOf(edition string) string {
	if r := canadaEditions.Find(func(it *canadaEditionsRow) bool { return it.Edition == edition }); r >= 0 {
		return canadaEditions.Row(r).Beside
	}
	return edition
}
