package iec230

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// system is the job's circuits as they hang together, with what several of them
// need computed once.
type system struct {
	*rulebook.House
	demand rulebook.Demand
	ahead  map[string]*feed
	onWay  map[onBoardWay][]*install.Circuit
	free   map[string]int // ways of each board that are free, by its feeder, once they were counted
	clamps map[clampOf]*install.Record
	// electrode is that of the installation, on TT.
	electrode install.Fact
	// pfc is the prospective fault current at the origin, kA.
	pfc  install.Fact
	done *rulebook.Report // what was judged before it
	// surgeNeeded: surge protection is required.
	surgeNeeded bool
}

func newSystem(job *install.Job) *system {
	s := &system{House: rulebook.NewHouse(job), ahead: map[string]*feed{"": {}},
		clamps: clampsOf(job), onWay: make(map[onBoardWay][]*install.Circuit, len(job.Circuits)), free: map[string]int{}}
	if job.Supply.Earthing == install.TT {
		s.electrode = installationElectrode(job)
	}
	s.pfc = faultLevel(job)
	s.stand()
	return s
}

// onBoardWay is a way of a board, which its feeder names.
type onBoardWay struct {
	feeder string
	way    int
}

// stand notes which circuits stand on which way of which board.
func (s *system) stand() {
	clear(s.onWay)
	clear(s.free)
	for i := range s.Job.Circuits {
		if k := &s.Job.Circuits[i]; k.Protection.Way != 0 {
			at := onBoardWay{k.From, k.Protection.Way}
			s.onWay[at] = append(s.onWay[at], k)
		}
	}
}

// feed is what lies between the main board and a circuit's own device: the
// distribution circuits on the way.
type feed struct {
	volts     float64 // dropped at their design currents
	cold, hot float64 // R1+R2 in Ω at 20 °C and at operating temperature
	ln        float64 // line and neutral in Ω at 20 °C, for the fault current
	via       []string
	amps      float64 // that the last of them may carry, 0 at the main board
	delayed   bool
	electrode *install.Fact // of another building on the way that is earthed by its own
	idn       float64       // of the last residual-current device on the way, 0 without one
	missing   []string
}

// feedOf returns what lies ahead of a circuit that is fed by from.
func (s *system) feedOf(from string) *feed { return s.walk(from, 0) }

func (s *system) walk(from string, depth int) *feed {
	if known := s.ahead[from]; known != nil {
		return known
	}
	k := s.Circuit(from)
	if b := s.Job.BoardByID(from); k == nil && b != nil {
		out := &feed{missing: s.tailsMissing(b)}
		s.ahead[from] = out
		return out
	}
	switch {
	case k == nil:
		return &feed{missing: []string{"the circuit that feeds it, " + from}}
	case k.Use != useDistribution:
		return &feed{missing: []string{"a distribution circuit that feeds it: " + k.Name + " is none"}}
	case depth > len(s.Job.Circuits):
		return &feed{missing: []string{"a feed from the main board: " + k.Name + " feeds itself"}}
	}
	up := s.walk(k.From, depth+1)
	out := &feed{volts: up.volts, cold: up.cold, hot: up.hot, ln: up.ln, via: append(slices.Clone(up.via), k.Name),
		amps: k.Protection.RatingA, idn: up.idn, delayed: up.delayed, electrode: up.electrode, missing: slices.Clone(up.missing)}
	if k.Out.Building && k.Out.Choice == ownElectrode {
		out.electrode = &k.Out.RaOhm
	}
	if p := &k.Protection; p.RCDType != "" {
		out.idn, out.delayed = p.IdnMA, p.Delayed
	}
	cable, ok := wiringOf(k)
	if !ok {
		out.missing = append(out.missing, "the cable of "+k.Name)
		return out
	}
	_, tempC := dropTable(k)
	length := k.Route.LengthM()
	amps, _, _, _ := s.designA(k)
	if mv, x, err := millivolts(k); err != nil {
		out.missing = append(out.missing, err.Error())
	} else {
		out.volts += physics.Drop(mv, x, 1, amps, length)
	}
	for _, m := range cable.missing {
		out.missing = append(out.missing, m+" of "+k.Name)
	}
	own := physics.LoopResistance(cable.R1, cable.R2, length, 1)
	out.cold += own
	out.hot += own * HotMultiplier(tempC)
	out.ln += physics.LoopResistance(cable.R1, cable.R1, length, 1)
	if len(out.missing) == 0 {
		s.ahead[from] = out
	}
	return out
}

// tailsMissing is what has to be known of the tails to a board of the supply arrangement before what lies behind it can be reckoned as at
// the origin: they are so short that they count for nothing.
func (s *system) tailsMissing(b *install.Board) []string {
	e := s.Job.Chain.Enclosure(b.Enclosure)
	switch {
	case e == nil:
		return []string{"what feeds " + b.Name}
	case !e.Feed.LengthM.Known():
		return []string{"the length of the tails to " + b.Name + " (Supply sheet)"}
	case !working.AtMost(e.Feed.LengthM.V(), tailsMostM):
		return []string{s.Text("a distribution circuit to ", b.Name, ": ", e.Feed.LengthM.V(), " m is more than the ", tailsMostM,
			" m of tails that the main fuse protects")}
	}
	return nil
}

// root is the circuit at the main board by which a circuit is fed; itself when it
// stands there.
func (s *system) root(k *install.Circuit) *install.Circuit {
	for range s.Job.Circuits {
		up := s.Circuit(k.From)
		if up == nil {
			break
		}
		k = up
	}
	return k
}

// feeds reports whether k lies on the way from the main board to other.
func (s *system) feeds(k, other *install.Circuit) bool {
	for range s.Job.Circuits {
		if other == nil {
			return false
		}
		if other = s.Circuit(other.From); other == k {
			return true
		}
	}
	return false
}

// designA is the design current of a circuit in amperes, a distribution circuit's
// that of what it feeds after diversity.
func (s *system) designA(k *install.Circuit) (amps float64, rule, with, assumed string) {
	if k.Use != useDistribution || k.Serves.PowerW > 0 {
		return designOf(k)
	}
	if amps, names := s.carried(s.finals(k.ID, nil, 0)); len(names) > 0 {
		return amps, "what it feeds, after diversity", strings.Join(names, ", "), ""
	}
	return k.Point.DesignA(), "rated current of what it feeds", "", ""
}

// finals lists the final circuits that hang on a distribution circuit, through
// others too.
func (s *system) finals(id string, into []*install.Circuit, depth int) []*install.Circuit {
	if depth > len(s.Job.Circuits) {
		return into
	}
	for _, k := range s.Below(id) {
		if k.Use == useDistribution {
			into = s.finals(k.ID, into, depth+1)
		} else {
			into = append(into, k)
		}
	}
	return into
}

// carried is the demand in amperes of circuits together, after diversity.
func (s *system) carried(circuits []*install.Circuit) (total float64, names []string) {
	amps, socket := map[string][]float64{}, map[string]bool{}
	for _, k := range circuits {
		a, _, _, _ := connected(k)
		row := rulesOf(k.Use).demand
		switch row {
		case uncounted:
			continue
		case inFull:
			total += a
		default:
			amps[row], socket[row] = append(amps[row], a), socket[row] || k.Serves.Socket
		}
		names = append(names, k.Name)
	}
	for _, row := range demandRows {
		if loads := amps[row.category]; len(loads) > 0 {
			a, _, _, _ := Diversified(row.category, loads, socket[row.category])
			total += a
		}
	}
	return total, names
}

// dropTable is the capacity table that a circuit's cable is held to, and the
// conductor temperature in °C with it: terminals hold a 90 °C cable to 70 °C
// unless their manufacturers allow more.
func dropTable(k *install.Circuit) (name string, tempC float64) {
	kind := cableKinds[k.Route.CableType]
	name = kind.capacity
	if !k.Route.Terminals90 {
		name = kind.capacity70
	}
	return name, insulationC(name)
}

// singlesMethod is the column of the drop table of single cores: AB in conduit or
// trunking, C clipped direct.
func singlesMethod(k *install.Circuit) string {
	if len(k.Route.Segments) > 0 && k.Route.Segments[0].Method != clipped {
		return "AB"
	}
	return "C"
}

// notes marks a check that rests on what lies ahead of the circuit.
func (f *feed) notes(c *working.Check) {
	for _, m := range f.missing {
		c.AddMissing(m)
	}
}
