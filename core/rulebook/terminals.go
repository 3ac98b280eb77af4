package rulebook

import (
	"arvelt/core/install"
	"arvelt/core/words"
)

// Terminal is what comes to one terminal of what stands at a place of a run.
type Terminal struct {
	// Mark is how the terminal is marked, a message; empty where conductors are joined and go under none. Beside says where, if not here.
	Mark   words.Key
	Beside words.Key
	Core   string // which conductors, by their colour
	Under  int    // conductors under it; 0 for none
	Takes  int    // that go under it at most
	Stated bool   // by what its manufacturer states, else by the standard of such terminals
	// Joined are the conductors in the connector beside it, the one that leads on to the terminal among them; 0 without a connector.
	Joined int
}

// Wired is a practice that knows what goes under the terminals of an accessory.
type Wired interface {
	// TerminalsAt are the terminals of what stands at b of the run of a circuit, in the order in which they are connected: none where
	// its cable is not known.
	TerminalsAt(job *install.Job, k *install.Circuit, b *install.Box) []Terminal
}

// TerminalsAt is of [Wired]; none without it.
func (b Book) TerminalsAt(job *install.Job, k *install.Circuit, at *install.Box) []Terminal {
	if p, ok := b.Practice.(Wired); ok {
		return p.TerminalsAt(job, k, at)
	}
	return nil
}

// Says is what is done at a terminal, in one line.
func (t *Terminal) Says(w *words.Catalogue) string {
	says, mark := "", w.Say(string(t.Mark))
	switch {
	case t.Mark != "" && t.Under == 0:
		says = w.Say("%s: %s, %d in a connector", mark, t.Core, t.Joined)
	case t.Mark == "":
		says = w.Say("%s: %d in a connector, under no terminal", t.Core, t.Joined)
	case t.Joined > 0:
		says = w.Say("%s: %s, %d and a tail in a connector, the tail alone under the terminal", mark, t.Core, t.Joined-1)
	case t.Under > 1 && t.Stated:
		says = w.Say("%s: %s, %d under the terminal; its maker states %d", mark, t.Core, t.Under, t.Takes)
	case t.Under > 1:
		says = w.Say("%s: %s, %d under the terminal, which takes %d unless its maker states less", mark, t.Core, t.Under, t.Takes)
	default:
		says = w.Say("%s: %s, 1 under the terminal", mark, t.Core)
	}
	if t.Beside != "" {
		return w.Say(string(t.Beside)) + ": " + says
	}
	return says
}

// JointsOf are the joints beside terminals, of conductors of a size.
func JointsOf(terminals []Terminal, mm2 float64) (out []Joint) {
	for i := range terminals {
		if n := terminals[i].Joined; n > 0 {
			out = append(out, Joint{Conductors: n, MM2: mm2})
		}
	}
	return out
}
