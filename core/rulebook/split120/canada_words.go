package split120

import (
	"reflect"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/working"
)

// The engine writes its texts once, in the words of the common practice; Canada speaks them in
// its own, phrase by phrase. What somebody typed keeps its spelling only where it holds none of
// the phrases, so they are those of the trade and no common words.
var canadaPhrases = table.LoadOf[canadaPhrase](dataFiles, "canada_words")

type canadaPhrase struct {
	Common string `col:"common"`
	Canada string `col:"canada"`
}

var canadaSpeech = func() *strings.Replacer {
	pairs := []string{}
	for r := range canadaPhrases.Text {
		pairs = append(pairs, canadaPhrases.Row(r).Common, canadaPhrases.Row(r).Canada)
	}
	return strings.NewReplacer(pairs...)
}()

// inCanada says every text of a value in the words of Canada: those of its lists and of what
// it points to are changed in place, so it must be nobody else's. Ids are types of their own
// and sources are clauses: both stay.
func inCanada[T any](v T) T {
	speakCanada(reflect.ValueOf(&v).Elem())
	return v
}

func speakCanada(v reflect.Value) {
	switch v.Kind() {
	case reflect.String:
		if v.Type() != reflect.TypeFor[string]() || !v.CanSet() {
			return
		}
		if said := canadaSpeech.Replace(v.String()); said != v.String() { // a list that is shared holds none of them
			v.SetString(said)
		}
	case reflect.Slice:
		if v.Type() != reflect.TypeFor[[]working.Source]() {
			for i := range v.Len() {
				speakCanada(v.Index(i))
			}
		}
	case reflect.Pointer:
		if !v.IsNil() {
			speakCanada(v.Elem())
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).IsExported() {
				speakCanada(v.Field(i))
			}
		}
	}
}

// Judge judges as [Practice.Judge] does.
func (p Canada) Judge(job *install.Job) rulebook.Report { return inCanada(p.Practice.Judge(job)) }

// Report adds what would mend what fails.
func (p Canada) Report(job *install.Job, price rulebook.Price) rulebook.Report {
	return inCanada(p.Practice.Report(job, price))
}

// Chain judges the enclosures of the service.
func (p Canada) Chain(job *install.Job) rulebook.ChainReport { return inCanada(p.Practice.Chain(job)) }

// Needs lists what must be known of the supply before a design rests on it.
func (p Canada) Needs(job *install.Job) []rulebook.Need { return inCanada(p.Practice.Needs(job)) }

// Parts are the parts beside the cable.
func (p Canada) Parts(job *install.Job, c *install.Circuit) []rulebook.Part {
	return inCanada(p.Practice.Parts(job, c))
}

// Kits are what the enclosures of the supply arrangement take.
func (p Canada) Kits(job *install.Job, chain *rulebook.ChainReport) []rulebook.Kit {
	return inCanada(p.Practice.Kits(job, chain))
}

// Work are the steps that only this practice has.
func (p Canada) Work(job *install.Job, report *rulebook.Report) []rulebook.Work {
	return inCanada(p.Practice.Work(job, report))
}

// Tests are the tests, and what a reading of each means.
func (p Canada) Tests(job *install.Job, report *rulebook.Report) []rulebook.Test {
	out := inCanada(p.Practice.Tests(job, report))
	for i := range out {
		judge := out[i].Judge
		out[i].Judge = func(r install.Record) (working.Verdict, string) {
			v, says := judge(r)
			return v, canadaSpeech.Replace(says)
		}
	}
	return out
}

// Isolation lists the ways to make the work dead.
func (p Canada) Isolation(job *install.Job, charge func(string) (float64, bool), today time.Time) []rulebook.IsolationRoute {
	return inCanada(p.Practice.Isolation(job, charge, today))
}

// SupplyNumber judges an account number.
func (p Canada) SupplyNumber(text, serial string) rulebook.Number {
	return inCanada(p.Practice.SupplyNumber(text, serial))
}

// Electrodes judges the ground electrodes.
func (p Canada) Electrodes(job *install.Job) rulebook.ElectrodeReport {
	return inCanada(p.Practice.Electrodes(job))
}
