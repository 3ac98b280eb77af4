package rulebook

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/table"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Who may open an enclosure, where nothing else was settled in writing.
const (
	onlyOperator = string(words.Key("the operator only"))
	onlyMeter    = string(words.Key("the meter operator only"))
	electrician  = string(words.Key("the electrician"))
)

// Enclosures is a practice's table of the kinds of enclosure.
type Enclosures struct {
	Kinds []EnclosureKind
	open  map[string][2]string
}

// EnclosuresOf reads the table: kind, name, owner, may_open, says.
func EnclosuresOf(t *table.Table) Enclosures {
	e := Enclosures{open: map[string][2]string{}}
	for r := range t.Text {
		e.Kinds = append(e.Kinds, EnclosureKind{t.Str(r, "kind"), t.Str(r, "name"), t.Str(r, "owner")})
		e.open[t.Str(r, "kind")] = [2]string{t.Str(r, "may_open"), t.Str(r, "says")}
	}
	return e
}

// IDs lists the kinds.
func (e Enclosures) IDs() []string {
	out := []string{}
	for _, k := range e.Kinds {
		out = append(out, k.ID)
	}
	return out
}

// Node starts the judgement of an enclosure with who may open it: what was
// settled in writing, or what follows from its owner and kind.
func (e Enclosures) Node(w *words.Catalogue, x *install.Enclosure) ChainNode {
	who, says := e.open[x.Kind][0], e.open[x.Kind][1]
	switch {
	case x.MayOpen != "":
		who = x.MayOpen
	case x.Owner == install.OwnerOperator:
		who = onlyOperator
	case x.Owner == install.OwnerMeter:
		who = onlyMeter
	case x.Owner == install.OwnerCustomer && (who == onlyOperator || who == onlyMeter):
		who = electrician
	}
	if x.MayOpen == "" {
		who = w.Say(who)
	}
	if x.Sealed == install.SealWhole && x.Owner != install.OwnerCustomer && !strings.HasPrefix(says, "Sealed") {
		says = "Sealed. " + says
	}
	return ChainNode{ID: x.ID, MayOpen: who, OpenSays: says, Verdict: working.Pass, Steps: []working.Step{}}
}
