package split120

import (
	"encoding/json"
	"fmt"
	"math"

	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// counted is a number of conductors of one size in a box: ["12", 6].
type counted struct {
	size string
	n    float64
}

// Tuple says how one is written in a list of lists.
func (counted) Tuple() string { return "size count" }

func (x *counted) UnmarshalJSON(raw []byte) error {
	var parts []any
	ok := json.Unmarshal(raw, &parts) == nil && len(parts) == 2
	if ok {
		var sized, numbered bool
		x.size, sized = sizeText(parts[0])
		x.n, numbered = parts[1].(float64)
		ok = sized && numbered && x.n >= 0 && x.n == math.Trunc(x.n)
	}
	if !ok {
		return fmt.Errorf("conductors: %s is not accepted; give [size, count], the count a whole number from 0", raw)
	}
	return nil
}

// boxDevice is a yoke in a box: its largest conductor and its width in gangs.
type boxDevice struct {
	Largest string   `json:"largest"`
	Gangs   *float64 `json:"gangs,omitempty"`
}

func (d *boxDevice) UnmarshalJSON(raw []byte) error {
	if json.Unmarshal(raw, &d.Largest) == nil {
		return nil
	}
	type plain boxDevice
	return json.Unmarshal(raw, (*plain)(d))
}

type boxIn struct {
	Edition    int         `json:"edition,omitempty"`
	School     string      `json:"school,omitempty" doc:"NEC, CEC"`
	Conductors []counted   `json:"conductors" doc:"from outside or spliced"`
	Grounds    []counted   `json:"grounds,omitempty"`
	Devices    []boxDevice `json:"devices,omitempty"`
	Clamps     bool        `json:"internal_clamps,omitempty"`
	Fittings   float64     `json:"support_fittings,omitempty" range:"0 or more"`
	Connectors float64     `json:"wire_connectors,omitempty" doc:"CEC: a pair counts one conductor" range:"0 or more"`
	BoxIn3     *float64    `json:"box_in3,omitempty" unit:"in3"`
	BoxML      *float64    `json:"box_ml,omitempty" unit:"ml"`
}

// boxOut is what box-fill answers, in the unit of the code; whether it fits only of a box
// whose volume is known.
type boxOut struct {
	FillIn3  *float64 `json:"fill_in3,omitempty"`
	FillML   *float64 `json:"fill_ml,omitempty"`
	Fits     *bool    `json:"fits,omitempty"`
	SpareIn3 *float64 `json:"spare_in3,omitempty"`
}

// in3 is the fill in cubic inches.
func (o boxOut) in3() float64 {
	if o.FillIn3 != nil {
		return *o.FillIn3
	}
	return *o.FillML / in3ML
}

func calcBox(in boxIn) (out boxOut, steps []working.Step, err error) {
	cec := in.School == string(CEC)
	if in.School != "" {
		if err := rulebook.OneOf("school", in.School, "NEC", "CEC"); err != nil {
			return out, nil, err
		}
	}
	if err := rulebook.FirstError(rulebook.ZeroOrMore("support_fittings", in.Fittings, ""),
		rulebook.ZeroOrMore("wire_connectors", in.Connectors, "")); err != nil {
		return out, nil, err
	}
	column, unitName := "volume_in3", "in³"
	if cec {
		column, unitName = "ca_volume_ml", "ml"
	}
	var bad error
	volume := func(key, size string) float64 {
		r := boxVolumes.Find(func(it *boxVolumesRow) bool { return it.Size == size })
		if r < 0 || math.IsNaN(boxVolumes.Num(r, column)) {
			bad = fmt.Errorf("%s: %q is not in the table; give 14 to 6 AWG", key, size)
			return 0
		}
		return boxVolumes.Num(r, column)
	}
	w := &rulebook.Worked{}
	fill, largest := 0.0, 0.0
	count := func(id string) float64 {
		return boxRules.One(func(it *boxRulesRow) bool { return it.ID == id }).Count
	}
	add := func(what string, v float64) {
		if v > 0 {
			fill += w.Add(what, "by 314.16(B)", "", v, unitName, boxVolumes.Source.Ref)
		}
	}
	for _, c := range in.Conductors {
		v := volume("conductors", c.size)
		if c.n > 0 {
			largest = max(largest, v)
		}
		add("conductors "+c.size, count("BF-C")*v*c.n)
	}
	grounds, ground := 0.0, 0.0
	for _, g := range in.Grounds {
		if g.n > 0 {
			grounds, ground = grounds+g.n, max(ground, volume("grounds", g.size))
		}
	}
	if !cec && grounds > 0 {
		n := count("BF-G4")
		if edition := in.Edition; edition == 0 || edition >= 2020 {
			n += count("BF-G5") * max(0, grounds-4)
		}
		add("grounds together", ground*n)
	}
	for _, d := range in.Devices {
		v := volume("devices.largest", d.Largest)
		largest = max(largest, v)
		add("device", count("BF-D")*v*max(1, rulebook.Or(d.Gangs, 1)))
	}
	if !cec {
		largest = max(largest, ground)
	}
	if in.Clamps && !cec {
		add("clamps", count("BF-CL")*largest)
	}
	add("support fittings", count("BF-SF")*largest*in.Fittings)
	if cec {
		add("pairs of wire connectors", largest*math.Floor(in.Connectors/2))
	}
	if bad != nil {
		return out, nil, bad
	}
	if cec {
		out.FillML = &fill
		if in.BoxML != nil {
			fits := working.AtMost(fill, *in.BoxML)
			out.Fits = &fits
		}
		return out, w.Steps, nil
	}
	out.FillIn3 = &fill
	if in.BoxIn3 != nil {
		fits, spare := working.AtMost(fill, *in.BoxIn3), *in.BoxIn3-fill
		out.Fits, out.SpareIn3 = &fits, &spare
	}
	return out, w.Steps, nil
}

type torqueLookup struct {
	ID        string   `json:"id"`
	Size      string   `json:"size,omitempty"`
	Head      string   `json:"head,omitempty" doc:"slotted_narrow, slotted_wide, hex_split_bolt, hex_other"`
	HexSocket string   `json:"hex_socket,omitempty" doc:"inches across flats"`
	Marked    *float64 `json:"marked_lbf_in,omitempty" unit:"lbf·in"`
}

type torqueIn struct {
	Lookups []torqueLookup `json:"lookups"`
}

const newtonMetres = 0.1129848

type torqueOut struct {
	Torques []torqueOf `json:"torques"`
}

type torqueOf struct {
	ID    string  `json:"id"`
	LbfIn float64 `json:"lbf_in"`
	Basis string  `json:"basis"`
	Nm    float64 `json:"n_m"`
}

func calcTorque(in torqueIn) (torqueOut, []working.Step, error) {
	w := &rulebook.Worked{}
	out := torqueOut{Torques: []torqueOf{}}
	for _, l := range in.Lookups {
		v, basis, source := 0.0, "", ""
		switch {
		case l.Marked != nil:
			if err := rulebook.Positive("lookups.marked_lbf_in", *l.Marked, "lbf·in"); err != nil {
				return out, nil, err
			}
			v, basis, source = *l.Marked, "marked", "NEC 110.14(D)"
		case l.HexSocket != "":
			r := hexTorques.Find(func(it *hexTorquesRow) bool { return it.SocketAcrossFlatsIn == l.HexSocket })
			if r < 0 {
				return out, nil, fmt.Errorf("lookups.hex_socket: %q is not in the table; give 1/8 to 9/16", l.HexSocket)
			}
			v, basis, source = hexTorques.Row(r).TorqueLbfIn, "hex socket table", hexTorques.Source.Ref
		default:
			if err := rulebook.OneOf("lookups.head", l.Head, "slotted_narrow", "slotted_wide", "hex_split_bolt", "hex_other"); err != nil {
				return out, nil, err
			}
			r := screwTorques.Find(func(it *screwTorquesRow) bool { return it.Size == l.Size })
			if r < 0 || math.IsNaN(screwTorques.Num(r, l.Head+"_lbf_in")) {
				return out, nil, fmt.Errorf("lookups.size: %q is not in the table for %s; give one of %q", l.Size, l.Head,
					having(screwTorques.Table, "size", l.Head+"_lbf_in"))
			}
			v, basis, source = screwTorques.Num(r, l.Head+"_lbf_in"), "screw table", screwTorques.Source.Ref
		}
		w.Add(l.ID, basis, text(l.Size, " ", l.Head, l.HexSocket), v, "lbf·in", source)
		out.Torques = append(out.Torques, torqueOf{ID: l.ID, LbfIn: v, Basis: basis, Nm: v * newtonMetres})
	}
	return out, w.Steps, nil
}
