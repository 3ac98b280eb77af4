package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
)

var (
	connectors      = tables.LoadOf[rulebook.ConnectorRow](dataFiles, "connectors")
	connectorOption = options.Named("connectors")
	terminals       = tables.LoadOf[terminalsRow](dataFiles, "terminals")
)

// terminalsRow is a row of terminals: how many conductors of at most a size go under one.
type terminalsRow struct {
	ToMM2 float64 `col:"to_mm2"`
	Most  float64 `col:"most"`
}

// terminalTakes is how many conductors of a size go under one terminal of an accessory.
func terminalTakes(mm2 float64) int {
	for r := range terminals.Text {
		if row := terminals.Row(r); mm2 <= row.ToMM2 {
			return int(row.Most)
		}
	}
	return 1
}

// connectorParts are the connectors of the boxes on the run of a circuit.
func connectorParts(job *install.Job, c *install.Circuit) []rulebook.Part {
	var joints []rulebook.Joint
	first := map[[2]string]bool{} // lights of the walk that are switched together
	for i := range c.Serves.Boxes {
		b := &c.Serves.Boxes[i]
		at := [2]string{b.Room, b.Point}
		joints = append(joints, jointsAt(job, c, b, b.Point == "" || !first[at])...)
		first[at] = true
	}
	out := rulebook.Connectors(job.Words, connectors.Rows(), connectorOption.In(&job.Schools), func(mm2 float64) string { return text(mm2, " mm²") },
		joints)
	for i := range out {
		out[i].Rule = "each core of a joint box, the line or neutral that goes on at a switched light, and where more conductors meet than a terminal takes"
	}
	return out
}

// jointsAt are the conductors that are joined in a box: all cores of a joint box, what a light that is switched by itself has no terminal for,
// and elsewhere what is more than a terminal takes. switched is the first of the lights that are switched together: there the cable of the switch
// comes in, or at the switch that of the light.
func jointsAt(job *install.Job, c *install.Circuit, b *install.Box, switched bool) (out []rulebook.Joint) {
	kind, mm2, n := cableKinds[c.Route.CableType], c.Route.LineMM2, c.Serves.CablesAt(b)
	if len(kind.cores) == 0 || mm2 == 0 {
		return nil
	}
	join := func(conductors int) { out = append(out, rulebook.Joint{Conductors: conductors, MM2: mm2}) }
	most := terminalTakes(mm2)
	// under puts conductors under a terminal, and where that does not take them joins them with one that goes to it.
	under := func(conductors int) {
		if conductors > most {
			join(conductors + 1)
		}
	}
	if b.Device == install.NoDevice {
		for range kind.cores {
			join(n)
		}
		return out
	}
	if b.Device != install.Luminaire || !switched {
		for range kind.cores {
			under(n)
		}
		return out
	}
	switch surveyWords.Feed(&job.Schools) {
	case rulebook.FedAtSwitch:
		join(n + 1) // the neutral, to the light
		under(n + 1)
		under(n + 1)
	case rulebook.FedNeutral:
		join(n + 1) // the line, to the switch
		under(n + 1)
		under(n + 1)
	default:
		join(n + 1)
		under(n)
		under(n + 1)
	}
	return out
}
