package outdoor

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/words"
	"arvelt/core/working"
)

// ticked are the steps that are ticked: marks hold until the ground is broken, and it matters not that they run out afterwards.
func ticked(job *install.Job) map[string]bool {
	out := map[string]bool{}
	for i := range job.Records {
		if r := &job.Records[i]; r.Kind == install.Tick {
			out[r.Subject] = r.Done
		}
	}
	return out
}

// marksBy is the date on which marks must still hold: none where the ground is broken already.
func marksBy(today string, dug bool) string {
	if dug {
		return ""
	}
	return today
}

// marked are the checks of the marks where the ground is broken for a circuit, or for what of names.
func marked(w *words.Catalogue, m install.Marks, today, circuit, of string) []*working.Check {
	locate, liable := &locateRule, &liableRule
	if circuit != "" {
		locate, liable = &cableLocateRule, &cableLiableRule
	}
	at := locate.Check(circuit, of)
	at.Summary = Locate(w, m, today)
	if at.Decide(at.Summary == ""); at.Summary == "" {
		at.Summary = w.Say("Request %s, marks until %s.", m.Located, m.LocatedTo)
	}
	who := liable.Check(circuit, of)
	if strings.TrimSpace(m.DugBy) == "" || strings.TrimSpace(m.Liable) == "" {
		who.AddMissing(w.Say("who digs and who is liable for damage to services"))
		who.Summary = w.Say("Not recorded: %s.", who.Missing[0])
	} else {
		who.Decide(true)
		who.Summary = w.Say("%s digs; %s is liable for damage.", m.DugBy, m.Liable)
	}
	return []*working.Check{at, who}
}

// ElectrodesObject is what the checks of the electrodes outdoors are of.
const ElectrodesObject = "electrodes"

// ground are the checks of the marks where circuits that are made run in the ground or get an electrode of their own, and where the rods go.
func ground(job *install.Job, p rulebook.Book, rules *rulebook.OutdoorRules, today string, dug map[string]bool) []working.Check {
	out, terms := []working.Check{}, p.Terms()
	add := func(m install.Marks, dug bool, circuit, of, name string) {
		for _, c := range marked(rules.Words, m, marksBy(today, dug), circuit, of) {
			c.From(working.Source{Ref: rules.Source, Confidence: rules.Confidence})
			if c.Title = rules.Words.Say(c.Title); name != "" {
				c.Title += ": " + name
			}
			out = append(out, *c)
		}
	}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		if trench, rod := breaks(k, &terms); trench || rod {
			add(k.Route.Marks, (!trench || dug[k.ID+"-trench"]) && (!rod || dug[k.ID+"-rod"]), k.ID, "", "")
		}
	}
	if len(job.Outdoor.Electrodes.Rods) > 0 {
		add(job.Outdoor.Electrodes.Marks, dug["rods"], "", ElectrodesObject, rules.Words.Say("Earth electrodes"))
	}
	return out
}

// breaks reports whether the ground is broken for a circuit that the job makes: its route lies in it, or it has an electrode of its own.
func breaks(k *install.Circuit, terms *install.Terms) (trench, rod bool) {
	if k.State != install.NewCircuit {
		return false, false
	}
	return slices.ContainsFunc(k.Route.Segments, func(s install.Segment) bool { return terms.Laid[s.Method].Ground }), terms.PEN[k.PEN.Option].Electrode
}

// Locate says why digging may not begin; empty when other services are located
// and the marks hold. A reference without a figure in it is none: whoever locates gives a number.
func Locate(w *words.Catalogue, m install.Marks, today string) string {
	switch {
	case strings.TrimSpace(m.Located) == "":
		return w.Say("No request to locate other services is noted: no digging before it.")
	case !strings.ContainsAny(m.Located, "0123456789"):
		return w.Say("“%s” is no reference of a request to locate other services: it is the number that they give.", m.Located)
	case m.LocatedTo == "" && today != "":
		return w.Say("Until when the marks of other services hold is not noted: no digging before that.")
	case m.LocatedTo < today:
		return w.Say("The marks of other services held until %s: have them renewed.", m.LocatedTo)
	}
	return ""
}
