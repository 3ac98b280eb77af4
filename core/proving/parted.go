package proving

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/rulebook"
)

// Conductor is one that is parted for a test, and is connected again before anything that rests on it is energised.
type Conductor struct {
	ID     string          `json:"id"` // as [rulebook.Parting] has it
	Name   string          `json:"name"`
	Parted *install.Record `json:"parted"` // that it is parted; nil while it is connected as far as is on record
}

// Conductors are those of an installation that may be parted, with those that are.
func Conductors(job *install.Job, tests []rulebook.Test) []Conductor {
	w, out := job.Words, []Conductor{}
	add := func(id, name string) {
		if conductor(out, id) == nil {
			out = append(out, Conductor{ID: id, Name: name})
		}
	}
	add(rulebook.PartedEarth, w.Say("Main earthing conductor"))
	for _, b := range job.Supply.Bonds {
		add(rulebook.PartedBond+":"+b.Service, w.Say("Bonding of %s", b.Service))
	}
	add(rulebook.PartedElectrode+":", w.Say("Clamp at the electrode"))
	for b := range job.EachBoard() {
		add(rulebook.PartedNeutral+":"+b.ID, w.Say("Incoming neutral of %s", b.Called(w)))
		add(rulebook.PartedNeutrals+":"+b.ID, w.Say("Circuit neutrals at %s", b.Called(w)))
	}
	if len(job.Surge.Devices) > 0 {
		add(rulebook.PartedSurge, w.Say("Surge devices"))
	}
	for i := range tests {
		for _, p := range tests[i].Parts(&install.Record{}) {
			add(p.ID, p.Name)
		}
	}
	for _, l := range LooseEnds(job) {
		if l.Parted == "" {
			continue
		}
		add(l.Parted, l.Note) // what was taken out of the model since stays parted
		conductor(out, l.Parted).Parted = &l
	}
	return out
}

// conductor is the one of an id among some, nil for none.
func conductor(all []Conductor, id string) *Conductor {
	if i := slices.IndexFunc(all, func(c Conductor) bool { return c.ID == id }); i >= 0 {
		return &all[i]
	}
	return nil
}

// within reports whether a conductor that is parted is of some places: of an incoming neutral and of the neutrals at a board those of the board,
// of anything else all that there is.
func within(job *install.Job, conductor string, in func(place string) bool) bool {
	kind, of, _ := strings.Cut(conductor, ":")
	if kind != rulebook.PartedNeutral && kind != rulebook.PartedNeutrals {
		return true
	}
	b := job.BoardByID(of)
	return b == nil || in(isolate.BoardPlace(b))
}

// Stamp names the conductor on a record that it was parted, as whoever keeps the records does before it is judged.
func Stamp(job *install.Job, tests []rulebook.Test, r *install.Record) {
	r.Note = r.Parted
	if c := conductor(Conductors(job, tests), r.Parted); c != nil {
		r.Note = c.Name
	}
}

// allowParted lets a conductor of the installation be noted as parted once.
func allowParted(job *install.Job, tests []rulebook.Test, r install.Record) error {
	if r.Parted == "" || r.Done {
		return nil
	}
	w := job.Words
	c := conductor(Conductors(job, tests), r.Parted)
	switch {
	case c == nil:
		return install.Errors{{Field: "loose-end.parted", Value: r.Parted, Accept: w.Say("a conductor of the installation that may be disconnected")}}
	case c.Parted != nil && r.Supersedes == "":
		return &NotYetError{w.Say("%s is on record as disconnected already.", c.Name)}
	}
	return nil
}
