package iec230

import (
	"fmt"
	"math"
	"slices"

	"arvelt/core/rulebook"
	tables "arvelt/core/table"
	"arvelt/core/working"
)

// Hole is a hole through a joist, Notch a notch in its top edge.
type (
	Hole struct {
		X   float64 `json:"x_mm" unit:"mm" doc:"from the left support"`
		Dia float64 `json:"dia_mm" unit:"mm" range:"above 0"`
		Top float64 `json:"centre_from_top_mm" unit:"mm"`
	}
	Notch struct {
		X     float64 `json:"x_mm" unit:"mm" doc:"from the left support"`
		Depth float64 `json:"depth_mm" unit:"mm"`
	}
)

type joistIn struct {
	Depth   float64 `json:"depth_mm" unit:"mm" range:"above 0"`
	Span    float64 `json:"span_mm" unit:"mm" range:"above 0"`
	Holes   []Hole  `json:"holes,omitempty"`
	Notches []Notch `json:"notches,omitempty"`
}

// JoistLimits are where and how large holes and notches may be in a solid timber
// joist, in mm; zones from the nearer support.
type JoistLimits struct {
	HoleDia, NotchDepth  float64
	HoleZone, NotchZone  [2]float64
	HoleSpacing          float64 // times the larger diameter, between centres
	Separation, CoverTop float64
}

// LimitsOfJoist returns the limits for a joist of a depth and span in mm. It
// holds for solid timber only: an engineered joist has its manufacturer's.
func LimitsOfJoist(depth, span float64) JoistLimits {
	used := min(depth, joistDepthCapForFraction.V())
	zone := func(rule string) [2]float64 {
		from, to := tables.Range(joists.One(func(it *joistsRow) bool { return it.Rule == rule }).Value)
		return [2]float64{from * span, to * span}
	}
	return JoistLimits{HoleDia: joistHoleMaxDia.V() * used, NotchDepth: joistNotchMaxDepth.V() * used,
		HoleZone: zone("hole_zone_from_support"), NotchZone: zone("notch_zone_from_support"),
		HoleSpacing: joistHoleSpacingMin.V(), Separation: joistHoleNotchSeparationMin.V(),
		CoverTop: joistCableFromEdgeMin.V()}
}

// axisShare is how far the centre of a hole may lie from the middle of a joist, as a share
// of its depth: holes go through the neutral axis.
const axisShare = 0.1

// joistOut is what joist answers.
type joistOut struct {
	HoleMaxDiaMM    float64    `json:"hole_max_dia_mm"`
	HoleZoneMM      [2]float64 `json:"hole_zone_mm"`
	NotchMaxDepthMM float64    `json:"notch_max_depth_mm"`
	NotchZoneMM     [2]float64 `json:"notch_zone_mm"`
	HoleFaults      [][]string `json:"hole_faults"`
	NotchFaults     [][]string `json:"notch_faults"`
	Acceptable      bool       `json:"acceptable"`
}

func joist(in joistIn) (out joistOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(rulebook.Positive("depth_mm", in.Depth, "mm"), rulebook.Positive("span_mm", in.Span, "mm")); err != nil {
		return out, nil, err
	}
	for _, h := range in.Holes {
		if err := rulebook.FirstError(rulebook.Between("holes.x_mm", h.X, 0, in.Span, "mm"),
			rulebook.Positive("holes.dia_mm", h.Dia, "mm"),
			rulebook.Between("holes.centre_from_top_mm", h.Top, 0, in.Depth, "mm")); err != nil {
			return out, nil, err
		}
	}
	for _, n := range in.Notches {
		if err := rulebook.FirstError(rulebook.Between("notches.x_mm", n.X, 0, in.Span, "mm"),
			rulebook.Positive("notches.depth_mm", n.Depth, "mm")); err != nil {
			return out, nil, err
		}
	}
	l := LimitsOfJoist(in.Depth, in.Span)
	w.Add("hole", "0.25 × depth, at most 250 mm of depth counted", f(in.Depth), l.HoleDia, "mm", joists.Source.Ref)
	w.Add("hole zone", "0.25 to 0.4 of the span", text(l.HoleZone[0], " to ", l.HoleZone[1], " mm from a support"),
		l.HoleZone[0], "mm", joists.Source.Ref)
	w.Add("notch", "depth / 8", f(in.Depth), l.NotchDepth, "mm", joists.Source.Ref)
	w.Add("notch zone", "0.07 to 0.25 of the span", text(l.NotchZone[0], " to ", l.NotchZone[1], " mm from a support"),
		l.NotchZone[0], "mm", joists.Source.Ref)
	inZone := func(x float64, zone [2]float64) bool {
		at := min(x, in.Span-x)
		return working.AtMost(zone[0], at) && working.AtMost(at, zone[1])
	}
	acceptable := true
	note := func(into *[][]string, codes []string) {
		acceptable = acceptable && len(codes) == 0
		*into = append(*into, rulebook.Sorted(codes))
	}
	holes, notches := [][]string{}, [][]string{}
	for i, h := range in.Holes {
		codes := []string{}
		if !working.AtMost(h.Dia, l.HoleDia) {
			codes = append(codes, "dia")
		}
		if !inZone(h.X, l.HoleZone) {
			codes = append(codes, "zone")
		}
		if !working.AtMost(math.Abs(h.Top-in.Depth/2), axisShare*in.Depth) {
			codes = append(codes, "axis")
		}
		if !working.AtMost(l.CoverTop, min(h.Top, in.Depth-h.Top)-h.Dia/2) {
			codes = append(codes, "edge_50")
		}
		for k, other := range in.Holes {
			if k != i && !working.AtMost(l.HoleSpacing*max(h.Dia, other.Dia), math.Abs(h.X-other.X)) && !slices.Contains(codes, "spacing") {
				codes = append(codes, "spacing")
			}
		}
		if slices.ContainsFunc(in.Notches, func(n Notch) bool { return !working.AtMost(l.Separation, math.Abs(h.X-n.X)) }) {
			codes = append(codes, "notch_100")
		}
		note(&holes, codes)
	}
	for _, n := range in.Notches {
		codes := []string{}
		if !working.AtMost(n.Depth, l.NotchDepth) {
			codes = append(codes, "depth")
		}
		if !inZone(n.X, l.NotchZone) {
			codes = append(codes, "zone")
		}
		if slices.ContainsFunc(in.Holes, func(h Hole) bool { return !working.AtMost(l.Separation, math.Abs(h.X-n.X)) }) {
			codes = append(codes, "hole_100")
		}
		note(&notches, codes)
	}
	return joistOut{HoleMaxDiaMM: l.HoleDia, HoleZoneMM: l.HoleZone, NotchMaxDepthMM: l.NotchDepth,
		NotchZoneMM: l.NotchZone, HoleFaults: holes, NotchFaults: notches, Acceptable: acceptable}, w.Steps, nil
}

type safeZoneIn struct {
	W           float64 `json:"wall_w_mm" unit:"mm"`
	H           float64 `json:"wall_h_mm" unit:"mm"`
	Thick       float64 `json:"thickness_mm" unit:"mm"`
	CornerLeft  bool    `json:"corner_left" doc:"the left edge is an angle of two walls"`
	CornerRight bool    `json:"corner_right"`
	RCD         bool    `json:"rcd_30ma"`
	Metal       bool    `json:"metal_parts,omitempty" doc:"the wall has metal parts other than fixings"`
	Accessories []struct {
		X       float64 `json:"x" unit:"mm" doc:"of its centre, from the bottom left"`
		Y       float64 `json:"y" unit:"mm"`
		W       float64 `json:"w" unit:"mm"`
		H       float64 `json:"h" unit:"mm"`
		Face    string  `json:"face,omitempty" doc:"other when on the other face of the wall"`
		Evident *bool   `json:"position_evident" doc:"true when absent: the position can be seen or told from this face"`
	} `json:"accessories"`
	Segments []struct {
		A      []float64 `json:"a" unit:"mm"`
		B      []float64 `json:"b" unit:"mm"`
		Depth  float64   `json:"depth_mm" unit:"mm" doc:"from the surface"`
		Earth  bool      `json:"earthed_metal,omitempty"`
		Guards bool      `json:"mechanical_protection,omitempty"`
	} `json:"segments"`
}

type safeZoneOut struct {
	Segments  []zonedSegment `json:"segments"`
	AllOK     bool           `json:"all_ok"`
	OtherFace []string       `json:"other_face"`
	BothOK    bool           `json:"both_faces_ok"`
}

type zonedSegment struct {
	OK        bool   `json:"ok"`
	Zone      string `json:"zone"`
	RCDNeeded bool   `json:"rcd_needed"`
}

func safeZone(in safeZoneIn) (safeZoneOut, []working.Step, error) {
	var out safeZoneOut
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(rulebook.Positive("wall_w_mm", in.W, "mm"), rulebook.Positive("wall_h_mm", in.H, "mm"),
		rulebook.Positive("thickness_mm", in.Thick, "mm")); err != nil {
		return out, nil, err
	}
	if len(in.Segments) == 0 {
		return out, nil, fmt.Errorf("segments is empty: give at least one straight piece of cable")
	}
	ceiling, corner, deep, thin := zoneFromCeiling.V(), zoneFromCorner.V(), zoneDepth.V(),
		zoneOtherFacePartitionMax.V()
	rows, all := []zonedSegment{}, true
	faces := []string{}
	for i, s := range in.Segments {
		for _, end := range []struct {
			key string
			p   []float64
		}{{"a", s.A}, {"b", s.B}} {
			if len(end.p) != 2 {
				return out, nil, fmt.Errorf("segments.%s: %v is not accepted; give x and y in mm from the bottom left", end.key, end.p)
			}
			if err := rulebook.FirstError(rulebook.Between("segments."+end.key+" x", end.p[0], 0, in.W, "mm"),
				rulebook.Between("segments."+end.key+" y", end.p[1], 0, in.H, "mm")); err != nil {
				return out, nil, err
			}
		}
		if err := rulebook.ZeroOrMore("segments.depth_mm", s.Depth, "mm"); err != nil {
			return out, nil, err
		}
		both := func(axis int, from, to float64) bool {
			for _, p := range [][]float64{s.A, s.B} {
				if !working.AtMost(from, p[axis]) || !working.AtMost(p[axis], to) {
					return false
				}
			}
			return true
		}
		guarded := s.Earth || s.Guards
		zone := "none"
		switch {
		case working.AtMost(deep, s.Depth):
			zone = "depth"
		case guarded:
			zone = "protected"
		case both(1, in.H-ceiling, in.H):
			zone = "ceiling"
		case in.CornerLeft && both(0, 0, corner), in.CornerRight && both(0, in.W-corner, in.W):
			zone = "corner"
		default:
			for _, a := range in.Accessories {
				if a.Face == otherFace && (!working.AtMost(in.Thick, thin) || !rulebook.Or(a.Evident, true)) {
					continue
				}
				if both(0, a.X-a.W/2, a.X+a.W/2) {
					zone = "accessory_vertical"
				} else if both(1, a.Y-a.H/2, a.Y+a.H/2) {
					zone = "accessory_horizontal"
				}
				if zone != noZone {
					break
				}
			}
		}
		rcd := zone != deepZone && zone != guardedZone || in.Metal && !guarded
		ok := zone != noZone && (!rcd || in.RCD)
		// The other face of the wall is bored into as well: how deep the cable lies from there.
		other := in.Thick - s.Depth
		otherOK := working.AtMost(deep, other) || guarded || !working.AtMost(in.Thick, thin) || zone != noZone && zone != deepZone && in.RCD
		all = all && ok
		w.Add(zone, text("both ends in one zone, or ", deep, " mm deep, or protected"),
			fmt.Sprintf("%s, %s to %s, %s", f(s.A[0]), f(s.A[1]), f(s.B[0]), f(s.B[1])), s.Depth, "mm", zones.Source.Ref)
		rows = append(rows, zonedSegment{OK: ok, Zone: zone, RCDNeeded: rcd})
		if !otherOK {
			faces = append(faces, text("segment ", i+1, ": ", other, " mm from the other face"))
		}
	}
	return safeZoneOut{Segments: rows, AllOK: all, OtherFace: rulebook.Sorted(faces), BothOK: all && len(faces) == 0}, w.Steps, nil
}

func fabricCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("joist", "holes and notches in a solid timber joist", joist),
		rulebook.Define("safe-zone", "cables hidden in a wall against the zones in which they may run", safeZone),
	}
}
