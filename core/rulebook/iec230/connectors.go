package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
	"arvelt/core/words"
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
	for i := range c.Serves.Boxes {
		joints = append(joints, rulebook.JointsOf(Practice{}.TerminalsAt(job, c, &c.Serves.Boxes[i]), c.Route.LineMM2)...)
	}
	out := rulebook.Connectors(job.Words, connectors.Rows(), connectorOption.In(&job.Schools), func(mm2 float64) string { return text(mm2, " mm²") },
		joints)
	for i := range out {
		out[i].Rule = "each core of a joint box, the line or neutral that goes on at a switched light, and where more conductors meet than a terminal takes"
	}
	return out
}

// TerminalsAt is of [rulebook.Wired].
func (Practice) TerminalsAt(job *install.Job, k *install.Circuit, b *install.Box) []rulebook.Terminal {
	switched := b.Point == ""
	for i := range k.Serves.Boxes { // of lights that are switched together the first
		if o := &k.Serves.Boxes[i]; o.Room == b.Room && o.Point == b.Point {
			switched = switched || o.ID == b.ID
			break
		}
	}
	return terminalsAt(job, k, b, switched)
}

// The terminals of accessories by their marking.
const (
	lineMark     = words.Key("L")
	neutralMark  = words.Key("N")
	earthMark    = words.Key("Earth")
	supplyLine   = words.Key("Supply L")
	supplyN      = words.Key("Supply N")
	loadLine     = words.Key("Load L")
	loadN        = words.Key("Load N")
	switchedMark = words.Key("Switched line of its switch")
	commonMark   = words.Key("Common")
	atItsSwitch  = words.Key("In the box of its switch")
)

// terminalsAt are the terminals in a box: all cores of a joint box are joined, as is what a light that is switched by itself has no terminal for,
// and elsewhere what is more than a terminal takes. switched is the first of the lights that are switched together: there the cable of the switch
// comes in, or at the switch that of the light.
func terminalsAt(job *install.Job, c *install.Circuit, b *install.Box, switched bool) (out []rulebook.Terminal) {
	kind, n := cableKinds[c.Route.CableType], c.Serves.CablesAt(b)
	if len(kind.cores) == 0 || c.Route.LineMM2 == 0 {
		return nil
	}
	if b.Device == install.NoDevice {
		for _, core := range kind.cores {
			out = append(out, rulebook.Terminal{Core: core, Joined: n})
		}
		return out
	}
	most, beside := terminalTakes(c.Route.LineMM2), words.Key("")
	if b.Takes > 0 {
		most = b.Takes
	}
	line, neutral, earth := coreNames(job, kind)
	// under puts conductors under a terminal, and where that does not take them joins them with one that goes to it.
	under := func(mark words.Key, core string, conductors int) {
		t := rulebook.Terminal{Mark: mark, Beside: beside, Core: core, Under: conductors, Takes: most, Stated: b.Takes > 0}
		if conductors > most {
			t.Under, t.Joined = 1, conductors+1
		}
		out = append(out, t)
	}
	past := func(core string, conductors int) {
		out = append(out, rulebook.Terminal{Beside: beside, Core: core, Joined: conductors})
	}
	switch feed := surveyWords.Feed(&job.Schools); {
	case b.Device == install.FusedUnit || b.Device == install.GroundFault:
		under(supplyLine, line, n)
		under(supplyN, neutral, n)
		if b.Device == install.FusedUnit {
			under(loadLine, line, 1)
			under(loadN, neutral, 1)
			n++ // the earth of what it feeds
		}
		under(earthMark, earth, n)
	case b.Device != install.Luminaire || !switched:
		under(lineMark, line, n)
		under(neutralMark, neutral, n)
		under(earthMark, earth, n)
	case feed == rulebook.FedAtSwitch:
		beside = atItsSwitch
		past(neutral, n+1) // to the light
		under(commonMark, line, n)
		under(earthMark, earth, n+1)
		beside = ""
		out = append(out, rulebook.Terminal{Mark: lineMark, Core: line, Under: 1, Takes: most}, rulebook.Terminal{Mark: neutralMark, Core: neutral, Under: 1,
			Takes: most})
	case feed == rulebook.FedNeutral:
		past(line, n+1) // to the switch
		under(neutralMark, neutral, n+1)
		under(earthMark, earth, n+1)
		out = append(out, rulebook.Terminal{Mark: switchedMark, Core: line, Under: 1, Takes: most})
	default:
		past(line, n+1)
		under(neutralMark, neutral, n)
		under(earthMark, earth, n+1)
		out = append(out, rulebook.Terminal{Mark: switchedMark, Core: job.Words.Say("%s, sleeved %s at both ends", neutral, line), Under: 1, Takes: most})
	}
	return out
}
