package iec230

import (
	"iter"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// bathRoomKind is the kind of room of the walk that has a bath or shower unless somebody
// says that it has none.
const bathRoomKind = "bathroom"

// noBath is what a room has that was looked at and has neither bath nor shower.
const noBath = "none"

// openShower is a shower without a tray: its zone 1 is larger and it has no zone 2.
const openShower = "open shower"

// zone is a zone of a room with a bath or shower (701.32).
type zone int

const (
	zoneUnknown zone = iota
	zone0
	zone1
	zone2
	zoneOutside
)

var zoneNames = map[zone]string{zone0: "zone 0", zone1: "zone 1", zone2: "zone 2", zoneOutside: "outside the zones"}

// The classes of points in a room with a bath (bath_points.csv).
const (
	classSocket = "socket"
	classShaver = "shaver"
	classSwitch = "switch"
	classFixed  = "fixed" // may stand in zones 1 and 2
)

func bathClass(kind string) string {
	if r := bathPoints.Find(func(it *bathPointsRow) bool { return it.Kind == kind }); r >= 0 {
		return bathPoints.Row(r).Class
	}
	return ""
}

// zoneOf is the zone that a point stands in; lacks names what would tell it.
func (s *system) zoneOf(k *working.Check, room *install.Room, p *install.RoomPoint) (z zone, lacks string) {
	reach, second := s.zone1Reach(k, room), bathZone2Reach.V()
	if room.Bath.Fitted == openShower {
		second = 0
	}
	switch {
	case p.Inside:
		return zone0, ""
	case p.BathMM == nil:
		return zoneUnknown, "how far it is from the edge of the bath or tray"
	case *p.BathMM > reach+second:
		return zoneOutside, ""
	case p.HeightMM == 0:
		return zoneUnknown, "its height above the floor"
	case p.HeightMM > bathZoneHeight.V():
		return zoneOutside, ""
	case working.AtMost(*p.BathMM, reach):
		return zone1, ""
	}
	return zone2, ""
}

// zone1Reach is how far zone 1 reaches from where distances are measured: from the edge of
// a bath or tray not at all, from the outlet of a shower without one, mm.
func (s *system) zone1Reach(k *working.Check, room *install.Room) float64 {
	if room.Bath.Fitted == openShower {
		return s.rule(k, "shower-reach")
	}
	return 0
}

// socketFromZone1 is the distance in metres of a socket-outlet from zone 1 by the job's
// edition, the larger while the edition is not known.
func socketFromZone1(job *install.Job) float64 {
	if r := editionOf(job); r >= 0 {
		return editionTable.Row(r).SocketM
	}
	most := 0.0
	for r := range editionTable.Text {
		most = max(most, editionTable.Row(r).SocketM)
	}
	return most
}

// baths judges each room with a bath or shower: where its points stand, how they are
// protected against water, and whether supplementary bonding may be left out (701).
func (s *system) baths() {
	for room := range s.bathRooms() {
		fitted := room.Bath.Fitted
		k := s.Of(room.ID)
		k.Title = "Zones of " + room.Name
		k.From(bathZones.Source, editionTable.Source)
		if fitted == "" {
			k.AddMissing("whether " + room.Name + " has a bath, a tray or a shower without one")
			continue
		}
		s.bathZones(k, room)
	}
}

// bathRooms are the rooms with a bath or shower, or of which nobody said.
func (s *system) bathRooms() iter.Seq[*install.Room] {
	return func(yield func(*install.Room) bool) {
		for i := range s.Job.Rooms {
			room := &s.Job.Rooms[i]
			fitted := room.Bath.Fitted
			if fitted == noBath || fitted == "" && room.Kind != bathRoomKind || room.Skipped != "" {
				continue
			}
			if !yield(room) {
				return
			}
		}
	}
}

// bathBonds judges the supplementary bonding of each of them.
func (s *system) bathBonds() {
	for room := range s.bathRooms() {
		if room.Bath.Fitted != "" {
			s.bathBond(room)
		}
	}
}

// bathZones holds every point of a room to the zone that it stands in.
func (s *system) bathZones(k *working.Check, room *install.Room) {
	wrong := []string{}
	for i := range room.Points {
		p := &room.Points[i]
		class := bathClass(p.Kind)
		if class == "" || p.State == install.Removed {
			continue
		}
		name := survey.Name(surveyWords, p.Kind)
		z, lacks := s.zoneOf(k, room, p)
		if class == classSocket && !p.Inside && p.BathMM != nil {
			s.bathSocket(k, room, p, name, &wrong)
			continue
		}
		if lacks != "" {
			k.AddMissing(lacks + ": " + name)
			continue
		}
		k.Step(name, "zone by distance and height",
			s.Text(*orZero(p.BathMM), " mm from the edge, ", p.HeightMM, " mm high"), float64(z-zone0), "", bathZones.Source.Ref)
		switch {
		case z == zoneOutside:
			continue
		case z == zone0:
			wrong = append(wrong, s.Text(name, " stands in the tub: only extra-low voltage up to 12 V may, of IPX",
				bathWaterZone0.V()))
			continue
		case class == classFixed, class == classShaver && z == zone2:
		default:
			wrong = append(wrong, name+" may not stand in "+zoneNames[z])
			continue
		}
		need := bathWaterZone12.V()
		switch jets := room.Bath.Jets; {
		case jets != nil && *jets:
			need = bathWaterJets.V()
		}
		water, ok := install.IPCode(p.IP)
		switch {
		case !ok:
			k.AddMissing(s.Text("the protection code of ", name, " in ", zoneNames[z], ": at least IPX", need))
		case float64(water) < need:
			wrong = append(wrong, s.Text(name, " in ", zoneNames[z], " is ", p.IP, " and needs IPX", need))
		}
	}
	if len(s.Job.Circuits) > 0 && !s.anyBathCircuit() {
		k.AddMissing("which circuits serve or pass it (Circuits)")
	}
	if len(wrong) > 0 {
		k.Missing = []string{} // it fails whatever the rest would say
		k.Decide(false)
		k.Summary = sentence(wrong)
		return
	}
	k.Decide(true)
	k.Summary = "Every point stands where it may and is protected against the water there."
	if len(k.Missing) > 0 {
		k.Summary = "Not recorded: " + strings.Join(k.Missing, "; ") + "."
	}
}

// bathSocket judges the distance of a socket-outlet from zone 1.
func (s *system) bathSocket(k *working.Check, room *install.Room, p *install.RoomPoint, name string, wrong *[]string) {
	reach, need := s.zone1Reach(k, room), socketFromZone1(s.Job)
	if laid, ok := rulebook.Laid(s.Job, k, "bath-socket"); ok {
		need = laid
	}
	have := k.Step(name, s.Text("distance from zone 1, at least ", need, " m"), s.Text(*p.BathMM, " − ", reach, " mm"),
		(*p.BathMM-reach)/1000, "m", editionTable.Source.Ref)
	if !working.AtMost(need, have) {
		*wrong = append(*wrong, s.Text(name, " is ", have, " m from zone 1 and has to be ", need,
			" m away, however high it is; a shaver unit is the exception"))
	}
}

func (s *system) anyBathCircuit() bool {
	for i := range s.Job.Circuits {
		if k := &s.Job.Circuits[i]; s.inBath(k) {
			return true
		}
	}
	return false
}

// bathBond judges supplementary bonding: it may be left out where every circuit of the
// room disconnects in time and has a residual-current device of 30 mA, and all metal of
// the building is joined to the main bonding (701.415.2).
func (s *system) bathBond(room *install.Room) {
	k := s.Of(room.ID)
	k.Title = "Supplementary bonding of " + room.Name
	k.From(bathZones.Source, bondingOther.Source)
	b := &room.Bath
	if b.Bonded != nil && *b.Bonded {
		least := bathBondUnprotected.V()
		k.Unit = "mm²"
		have := use(k, "section of the supplementary bond of "+room.Name, b.BondMM2)
		if len(k.Missing) == 0 {
			k.Min(have, least)
			k.Summary = s.Text(have, " mm²; ", least, " mm², or ", bathBondProtected.V(),
				" mm² where it is protected against damage.")
			if k.Verdict == working.Fail && working.AtMost(bathBondProtected.V(), have) {
				k.Warn()
			}
		} else {
			k.Summary = "Not recorded: " + k.Missing[0] + "."
		}
		return
	}
	blocked := s.bathCircuits(k)
	idn := rcdAdditionalProtectionIdnMax.V()
	limit := k.Step("R max", "50 V / IΔn, from metal of the room to the main earthing terminal",
		s.Text("50 / (", idn, " / 1000)"), TouchV*1000/idn, "Ω", "701.415.2, 415.2.2")
	switch {
	case b.NoMetal:
	case !b.MainBondOhm.Known():
		k.AddMissing("the resistance from the metal parts of " + room.Name + " to the main earthing terminal, or that there are none")
	default:
		if ohm := use(k, "resistance to the main earthing terminal", b.MainBondOhm); !working.AtMost(ohm, limit) {
			blocked = append(blocked, s.Text(ohm, " Ω to the main earthing terminal are more than ", limit, " Ω"))
		}
	}
	if len(blocked) > 0 {
		k.Missing = []string{}
		k.Decide(false)
		k.Summary = "It may not be left out: " + strings.Join(blocked, "; ") + "."
		return
	}
	k.Decide(true)
	k.Summary = "It may be left out: every circuit disconnects in time behind 30 mA, and the metal is joined to the main bonding."
	if len(k.Missing) > 0 {
		k.Summary = "Whether it may be left out is open. Not recorded: " + strings.Join(k.Missing, "; ") + "."
	}
}

// inBath reports whether a circuit serves or passes a room with a bath or shower.
func (s *system) inBath(k *install.Circuit) bool { return k.Serves.Bath || k.Use == useShower }

// bathCircuits looks whether the circuits of rooms with a bath meet what stands in place
// of supplementary bonding; it says which do not.
func (s *system) bathCircuits(k *working.Check) (blocked []string) {
	seen := false
	for i := range s.Job.Circuits {
		c := &s.Job.Circuits[i]
		if !s.inBath(c) {
			continue
		}
		seen = true
		for _, check := range s.done.Circuit(c.ID).Checks {
			if check.Rule != loopID && check.Rule != residualID {
				continue
			}
			switch check.Verdict {
			case working.Fail:
				blocked = append(blocked, c.Name+": "+strings.TrimSuffix(check.Summary, "."))
			case working.Unknown:
				k.AddMissing(c.Name + ": " + strings.ToLower(check.Title))
			}
		}
	}
	if !seen {
		k.AddMissing("which circuits serve or pass the room (Circuits)")
	}
	return blocked
}

func orZero(v *float64) *float64 {
	if v == nil {
		return new(float64)
	}
	return v
}
