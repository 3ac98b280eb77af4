package proving

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/rulebook"
	"arvelt/core/words"
)

// Conductor is one that is parted for a test, and is connected again before anything that rests on it is energised.
type Conductor struct {
	ID      string          `json:"id"` // as [rulebook.Parting] has it
	Name    string          `json:"name"`
	Clamped bool            `json:"clamped"` // its current is clamped before it is parted
	Parted  *install.Record `json:"parted"`  // that it is parted; nil while it is connected as far as is on record
}

// Conductors are those of an installation that may be parted, with those that are.
func Conductors(job *install.Job, tests []rulebook.Test) []Conductor {
	w, out := job.Words, []Conductor{}
	add := func(id, name string) {
		if conductor(out, id) == nil {
			out = append(out, Conductor{ID: id, Name: name, Clamped: rulebook.Parting{ID: id}.Clamped()})
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

// partsNow are the conductors of earth, bonding or neutral that a reading of a test parts and that are not parted yet.
func partsNow(all []Conductor, t *rulebook.Test, r *install.Record) (out []Conductor) {
	for _, p := range t.Opens(r) {
		if c := conductor(all, p.ID); c.Parted == nil && c.Clamped {
			out = append(out, *c)
		}
	}
	return out
}

// clamped holds the parting of conductors to what is read first: none carries current unless it is bridged, and what stands across the break
// hurts nobody. A reading that was not taken parts nothing.
func clamped(w *words.Catalogue, terms *install.Terms, r *install.Record, parted []Conductor) error {
	if len(parted) == 0 {
		return nil
	}
	name, out := parted[0].Name, install.Errors{}
	if r.ClampA == nil {
		out = append(out, install.FieldError{Field: string(r.Kind) + ".clampA", Value: "nothing",
			Accept: w.Say("the current in A, clamped in this before it is disconnected: %s", name)})
	}
	if r.AcrossV == nil {
		out = append(out, install.FieldError{Field: string(r.Kind) + ".acrossV", Value: "nothing",
			Accept: w.Say("the voltage in V across the break, read as this was disconnected: %s", name)})
	}
	switch {
	case len(out) > 0:
		return out
	case *r.ClampA > terms.PartA && !r.Bridged:
		return &NotYetError{w.Say("%s carries %v A: do not disconnect it. Bridge it first with a conductor of its size, or have the network operator "+
			"disconnect the supply; then clamp it again.", name, *r.ClampA)}
	case *r.AcrossV > terms.PartV:
		return &NotYetError{w.Say("%v V stand across the break (%s): touch neither end. Put it back, and find what drives it before anything is disconnected.",
			*r.AcrossV, name)}
	}
	return nil
}

// allowParted lets a conductor of the installation be noted as parted once. What was read before is said, or why nothing was; that it is parted
// is taken whatever it carried.
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
	case c.Clamped && r.ClampA == nil && strings.TrimSpace(r.CouldNot) == "":
		return install.Errors{{Field: "loose-end.clampA", Value: "nothing",
			Accept: w.Say("the current in A, clamped in this before it is disconnected: %s; or why it was not, under couldNot", c.Name)}}
	}
	return nil
}
