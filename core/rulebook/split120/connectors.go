package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/words"
)

var (
	connectors      = table.LoadOf[rulebook.ConnectorRow](dataFiles, "connectors")
	connectorOption = options.Named("connectors")
	linksOption     = options.Named("deviceLinks")
)

// linksThrough is the way of deviceLinks by which the conductors of a run pass through the screws of its devices.
const linksThrough = "through"

// joined is what is joined in a box, the short links from there to devices, and what is under their screws.
type joined struct {
	joints    []rulebook.Joint
	links     int
	terminals []rulebook.Terminal
}

// The screws of devices: the color is that of the screw, the wide slot the neutral's.
const (
	brassScrew  = words.Key("Brass screw")
	silverScrew = words.Key("Silver screw, the wide slot's side")
	greenScrew  = words.Key("Green screw")
	lineBrass   = words.Key("LINE, brass screw")
	lineSilver  = words.Key("LINE, silver screw")
	loadBrass   = words.Key("LOAD, brass screw")
	loadSilver  = words.Key("LOAD, silver screw")
	switchScrew = words.Key("Screw of the switch")
	leadMark    = words.Key("Its lead")
)

// TerminalsAt is of [rulebook.Wired].
func (Practice) TerminalsAt(job *install.Job, k *install.Circuit, b *install.Box) []rulebook.Terminal {
	if k.Route.LineMM2 == 0 {
		return nil
	}
	return joinedIn(job, k, b).terminals
}

// screwOf is how the screw of a core of a device is told, and on the side of what lies behind it.
func screwOf(b *install.Box, neutral bool) (line, load words.Key) {
	switch {
	case b.Device == install.GroundFault && neutral:
		return lineSilver, loadSilver
	case b.Device == install.GroundFault:
		return lineBrass, loadBrass
	case neutral:
		return silverScrew, ""
	case b.Device == install.Switch:
		return switchScrew, ""
	}
	return brassScrew, ""
}

// groundColor is that of a ground.
const groundColor = "bare or green"

// colorOf is the color of a core of a circuit.
func colorOf(core int, neutral bool) string {
	switch {
	case neutral:
		return "white"
	case core == 1:
		return "red"
	}
	return "black"
}

// joinedIn is what is joined in a box of a run. Under each screw is one conductor, unless the device is listed for more: where more cables or
// devices than that share a conductor, each device has a pigtail of it, or, by the other way, a link to the next device, and only what two screws
// do not take is joined. Grounds are always joined (NEC 250.148), a neutral that two lines share is never passed through a device (300.13(B)), and
// what hangs on the load side of a ground-fault device is under its other pair of screws. The leads of a luminaire or an alarm are joined too.
func joinedIn(job *install.Job, k *install.Circuit, b *install.Box) (out joined) {
	cables, devices, lead := k.Serves.CablesAt(b), 0, 0
	switch {
	case b.Device.Yoke():
		devices = max(b.Yokes, 1)
	case b.Device == install.Luminaire, b.Device == install.Alarm:
		lead = 1
	}
	takes := max(b.Takes, 1)
	put := func(mark words.Key, core string, under, conductors int) {
		out.terminals = append(out.terminals, rulebook.Terminal{Mark: mark, Core: core, Under: under, Takes: takes, Stated: b.Takes > 0, Joined: conductors})
	}
	shared := k.Protection.Shared.Is
	along := cables // of them on the line side
	if b.Device == install.GroundFault && !shared {
		for _, fed := range feedsOf(&k.Serves, b.ID) {
			if fed.Side == install.LoadSide {
				along--
			}
		}
	}
	through := linksOption.In(&job.Schools) == linksThrough
	for core := range coresOf(k) {
		neutral := neutralOf(k) && core == coresOf(k)-1
		color := colorOf(core, neutral)
		line, load := screwOf(b, neutral)
		switch {
		case shared && core == 1 || devices+lead == 0: // the other line goes past; a joint box has nothing else
			if cables > 1 {
				put("", color, 0, cables)
			}
			continue
		case lead > 0:
			put(leadMark, color, 0, cables+lead)
			continue
		case along <= takes && devices < 2 && !(shared && neutral && along > 1): // under its own screws
			put(line, color, along, 0)
		case through && !(shared && neutral):
			out.links += devices - 1
			if along > 2 {
				put(line, color, 1, along+1)
				out.links++
			} else {
				put(line, color, 1, 0)
			}
		default:
			put(line, color, 1, along+devices)
			out.links += devices
		}
		if load != "" && cables > along {
			put(load, color, cables-along, 0)
		}
	}
	grounded := b.Ground == nil || *b.Ground
	mark, under := greenScrew, 1
	if lead > 0 {
		mark, under = leadMark, 0
	} else if devices == 0 {
		mark, under = "", 0
	}
	switch {
	case grounded && (cables > 1 || devices > 1 || lead > 0):
		put(mark, groundColor, under, cables+devices+lead)
		out.links += devices
	case grounded && devices > 0:
		put(mark, groundColor, under, 0)
	}
	out.joints = rulebook.JointsOf(out.terminals, k.Route.LineMM2)
	return out
}
