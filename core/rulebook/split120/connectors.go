package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
)

var (
	connectors      = table.LoadOf[rulebook.ConnectorRow](dataFiles, "connectors")
	connectorOption = options.Named("connectors")
	linksOption     = options.Named("deviceLinks")
)

// linksThrough is the way of deviceLinks by which the conductors of a run pass through the screws of its devices.
const linksThrough = "through"

// joined is what is joined in a box, and the short links from there to devices.
type joined struct {
	joints []rulebook.Joint
	links  int
}

// joinedIn is what is joined in a box of a run. Under each screw is one conductor: where more cables or devices than one share a conductor, each
// device has a pigtail of it, or, by the other way, a link to the next device, and only what two screws do not take is joined. Grounds are
// always joined (NEC 250.148), a neutral that two lines share is never passed through a device (300.13(B)), and what hangs on the load side of
// a ground-fault device is under its other pair of screws. The leads of a luminaire or an alarm are joined too.
func joinedIn(job *install.Job, k *install.Circuit, b *install.Box) (out joined) {
	cables, devices, lead := k.Serves.CablesAt(b), 0, 0
	switch {
	case b.Device.Yoke():
		devices = max(b.Yokes, 1)
	case b.Device == install.Luminaire, b.Device == install.Alarm:
		lead = 1
	}
	join := func(conductors int) {
		out.joints = append(out.joints, rulebook.Joint{Conductors: conductors, MM2: k.Route.LineMM2})
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
		switch {
		case shared && core == 1 || devices+lead == 0: // the other line goes past; a joint box has nothing else
			if cables > 1 {
				join(cables)
			}
		case lead > 0:
			join(cables + lead)
		case along < 2 && devices < 2: // under its own screws
		case through && !(shared && neutral):
			out.links += devices - 1
			if along > 2 {
				join(along + 1)
				out.links++
			}
		default:
			join(along + devices)
			out.links += devices
		}
	}
	grounded := b.Ground == nil || *b.Ground
	if grounded && (cables > 1 || devices > 1 || lead > 0) {
		join(cables + devices + lead)
		out.links += devices
	}
	return out
}
