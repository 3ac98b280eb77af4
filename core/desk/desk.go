// Package desk writes what the network operator is told or asked: the letter to
// its desk with every fact that it wants, and what is still missing before it
// can be sent.
package desk

import (
	"embed"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/table"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

//go:embed data/*.csv
var dataFiles embed.FS

var kindTable = table.LoadOf[kindRow](dataFiles, "kinds")

// Kind is one thing that the operator is told or asked.
type Kind struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Path  string `json:"path"` // how it is recorded when it was taken in
}

// KindsIn lists them in the words of a practice.
func KindsIn(w *words.Catalogue) []Kind {
	out := Kinds()
	for i := range out {
		out[i].Title = w.Say(out[i].Title)
	}
	return out
}

// Kinds lists them.
func Kinds() []Kind {
	out := make([]Kind, len(kindTable.Text))
	for r := range kindTable.Text {
		out[r] = Kind{kindTable.Row(r).Kind, kindTable.Row(r).Title, kindTable.Row(r).Path}
	}
	return out
}

// KindOf returns a kind by its id.
func KindOf(id string) (Kind, bool) {
	r := kindTable.Find(func(row *kindRow) bool { return row.Kind == id })
	if r < 0 {
		return Kind{}, false
	}
	return Kinds()[r], true
}

// FactID names what a fact is, whatever it is called in a practice.
type FactID string

// The facts that an operator's desk reads apart from the others.
const (
	SupplyNumber FactID = "number"
	WantedDay    FactID = "day"
)

// Fact is one line of a letter. A fact that is not known holds the letter back;
// one that is only assumed says so.
type Fact struct {
	ID      FactID `json:"id"`
	Name    string `json:"name"`
	Value   string `json:"value"`
	Missing bool   `json:"missing"`
}

// Letter is what is sent.
type Letter struct {
	Kind    string   `json:"kind"`
	Title   string   `json:"title"`
	Facts   []Fact   `json:"facts"`
	Missing []string `json:"missing"`
	Note    string   `json:"note"`
	Photos  []string `json:"photos"` // that go with it, by SHA-256
}

// Seen is what somebody found that the operator is told of.
type Seen struct {
	Damage  []survey.Finding // at its equipment, not mended
	Suspect *proving.Suspect // a reading that says that its neutral may be open; nil for none
}

// photosMost is how many photos go with a letter, the first of each finding before the second of any.
const photosMost = 4

// Write writes a letter of a kind from the job in the words of its practice. number is
// the supply number as the practice reads it.
func Write(kind Kind, job *install.Job, report *rulebook.Report, number rulebook.Number, found Seen, note string) Letter {
	w := job.Words
	demand := report.Demand
	l := Letter{Kind: kind.ID, Title: w.Say(kind.Title), Facts: []Fact{}, Missing: []string{}, Note: note, Photos: []string{}}
	damage := found.Damage
	var id FactID // of the need that is written
	add := func(name, value, missing string) {
		f := Fact{ID: id, Name: name, Value: value}
		if strings.TrimSpace(value) == "" {
			f.Missing, f.Value = true, w.Say("not recorded")
			l.Missing = append(l.Missing, missing)
		}
		l.Facts = append(l.Facts, f)
	}
	s := &job.Supply
	for need := range strings.SplitSeq(kindTable.One(func(row *kindRow) bool { return row.Kind == kind.ID }).Needs, "|") {
		id = FactID(need)
		switch need {
		case "number":
			value := number.Number
			if number.Verdict == working.Fail {
				value = ""
			}
			add(w.Say("Supply number"), value, w.Say("the supply number: %s", strings.TrimSuffix(number.Summary, ".")))
		case "address":
			add("Address", strings.Trim(job.Site.Address+", "+job.Site.Town, ", "), w.Say("the address (Survey sheet)"))
			add("Customer", job.Site.Customer, w.Say("the customer (Survey sheet)"))
		case "access":
			add("Access", job.Site.Access, w.Say("how one gets in (Survey sheet, Access)"))
			add("Telephone", job.Site.Phone, w.Say("a telephone number (Survey sheet)"))
		case "demand":
			value := ""
			if demand.FuseA > 0 && len(job.Loads.Items) > 0 {
				value = w.Say("%s A before, %s A after, on a supply of %s A", unit.Format(demand.BeforeA),
					unit.Format(demand.AfterA), unit.Format(demand.FuseA))
			}
			add(w.Say("Maximum demand"), value, w.Say("the maximum demand before and after (existing load and main fuse)"))
		case "load":
			parts := []string{}
			for i := range job.Circuits {
				c := &job.Circuits[i]
				if !job.AtOrigin(c) || c.State.Out() {
					continue // fed by another, whose load holds it, or no load any more
				}
				amps := report.Circuit(c.ID).Summary.DesignA
				if amps <= 0 {
					parts = nil
					break
				}
				parts = append(parts, w.Say("%s, %s A", c.Name, unit.Format(unit.Significant(amps, 3))))
			}
			add(w.Say("New loads"), strings.Join(parts, "; "), w.Say("the new circuits (Circuits sheet)"))
		case "fuse":
			add(w.Say("Main fuse"), figure(w, s.MainFuseA, "A"), w.Say("the main fuse rating (Supply sheet)"))
		case "meter":
			add(w.Say("Serial on the meter"), s.MeterSerial, w.Say("the serial on the meter (Supply sheet)"))
		case "day":
			add(w.Say("Wanted day"), job.Outage.Day, w.Say("the day of the outage (Supply sheet, Outage)"))
		case "item":
			items := []string{}
			for _, e := range job.Chain.Order() {
				if e.Owner == install.OwnerOperator || e.Owner == install.OwnerMeter {
					items = append(items, e.Name+seal(w, e))
				}
			}
			for i := range damage {
				if damage[i].Where != "" && !slices.Contains(items, damage[i].Where) && job.Chain.Named(damage[i].Where) == nil {
					items = append(items, damage[i].Where)
				}
			}
			add("Equipment", strings.Join(items, ", "), w.Say("the operator's equipment (Supply sheet, Supply arrangement)"))
		case "condition":
			said := seen(job, damage)
			if x := found.Suspect; x != nil {
				said = append(said, w.Say("An open neutral is suspected: %s: %s (read by %s, %s)", x.Title, strings.TrimSuffix(x.Summary, "."), x.By,
					x.At.Format("2006-01-02 15:04")))
			}
			l.Photos = photos(damage)
			add(w.Say("What was seen"), strings.Join(said, "; "),
				w.Say("what was seen at the intake (condition on the Supply sheet)"))
		}
	}
	return l
}

// seen is what was seen at the equipment of the operator: its condition as noted, and each finding with its class, by whom, and its photos.
func seen(job *install.Job, damage []survey.Finding) []string {
	w, said := job.Words, []string{}
	if job.Supply.Condition != "" {
		said = append(said, job.Supply.Condition)
	}
	for _, e := range job.Chain.Enclosures {
		if e.Condition != "" && e.Owner != install.OwnerCustomer {
			said = append(said, e.Name+": "+e.Condition)
		}
	}
	for i := range damage {
		d := &damage[i]
		said = append(said, w.Say("%s: %s (class %s, %s, seen by %s)", d.Title, d.Seen, d.Class, d.At, d.By))
	}
	if n := len(photos(damage)); n > 0 {
		said = append(said, w.Say("photos that go with it: %d", n))
	}
	return said
}

// photos are those that go with a letter about some findings, by hash.
func photos(damage []survey.Finding) []string {
	out := []string{}
	for nth := range photosMost {
		for i := range damage {
			if p := damage[i].Photos; nth < len(p) && len(out) < photosMost && !slices.Contains(out, p[nth]) {
				out = append(out, p[nth])
			}
		}
	}
	return out
}

func seal(w *words.Catalogue, e *install.Enclosure) string {
	if e.SealNo == "" {
		return ""
	}
	return w.Say(" (seal %s)", e.SealNo)
}

func figure(w *words.Catalogue, f install.Fact, unitName string) string {
	if !f.Known() {
		return ""
	}
	if !f.Confirmed() {
		return w.Say("%s (assumed)", unit.With(f.V(), unitName))
	}
	return unit.With(f.V(), unitName)
}
