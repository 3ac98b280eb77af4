package iec230

import (
	"fmt"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// wiring is the cable of a circuit with the conductors that it uses: of which
// metal, and what serves as the protective conductor.
type wiring struct {
	rulebook.Cable
	metal   install.Metal // of line and neutral: cu, al
	k       float64       // adiabatic factor of the protective conductor
	kLine   float64       // and of the line conductor, for the table
	missing []string      // figures that only a manufacturer's instructions has
	assumed []string
}

// wiringOf resolves a circuit's cable; false when type or size is not known.
func wiringOf(k *install.Circuit) (wiring, bool) {
	cable, ok := knownCables[k.Route.CableType][k.Route.LineMM2]
	if !ok {
		return wiring{}, false
	}
	w := wiring{Cable: cable, metal: "cu"}
	_, tempC := dropTable(k)
	kind := cableKinds[k.Route.CableType]
	if k.Route.Aluminium {
		w.metal = "al"
		r, err := ResistancePerM("al", cable.LineMM2)
		if err != nil {
			w.missing = append(w.missing, err.Error())
		}
		w.R1, w.R2 = r, r*cable.LineMM2/max(cable.CPCMM2, 1e-9)
	}
	w.kLine = kind.core[coreAt{w.metal, tempC}]
	w.k = w.kLine
	fact := func(what string, f install.Fact) float64 {
		if !f.Known() {
			w.missing = append(w.missing, what+" (the cable manufacturer's instructions)")
		} else if !f.Confirmed() {
			w.assumed = append(w.assumed, what)
		}
		return f.V()
	}
	switch k.Route.CPC {
	case install.ArmourCPC:
		if !kind.armoured {
			w.missing = append(w.missing, "an armoured cable: "+kind.name+" has no armour to use as protective conductor")
			break
		}
		w.CPCMM2, w.R2 = fact("section of the armour", k.Route.ArmourMM2), fact("resistance of the armour", k.Route.ArmourMOhmM)
		row := "armour of 90 C thermosetting cable"
		if tempC == 70 {
			row = "armour of 70 C thermoplastic cable"
		}
		w.k = kValues.One(func(it *kValuesRow) bool { return it.Material == "steel" && it.Use == row }).K
	case install.SeparateCPC:
		r, err := ResistancePerM("cu", k.Route.CPCMM2)
		if err != nil {
			w.missing = append(w.missing, "the separate protective conductor: "+err.Error())
		}
		w.CPCMM2, w.R2 = k.Route.CPCMM2, r
		// Taken as bunched with the circuit: where it surely runs apart it may be smaller.
		w.k = kValues.One(func(row *kValuesRow) bool {
			return row.Material == "cu" && row.Use == "cable core or bunched 70 C thermoplastic up to 300 mm2"
		}).K
	}
	return w, true
}

// coreAt is a core of a cable: its metal and the temperature in °C at which it
// starts, its own limit or the 70 °C that its terminals hold it to.
type coreAt struct {
	metal install.Metal
	tempC float64
}

// coreFactors are the adiabatic factors of the cores of a cable (Table 54.3).
func coreFactors(use string) map[coreAt]float64 {
	const at70 = "cable core or bunched 70 C thermoplastic"
	out := map[coreAt]float64{}
	for _, metal := range []install.Metal{install.Copper, install.Aluminium} {
		factor := func(use string) float64 {
			if metal == install.Copper && use == at70 {
				use += " up to 300 mm2"
			}
			return kValues.One(func(it *kValuesRow) bool { return it.Material == metal && it.Use == use }).K
		}
		out[coreAt{metal, 90}] = factor(use)
		out[coreAt{metal, 70}] = factor(at70)
	}
	return out
}

// copperMM2 is the section in mm² of copper that conducts as the protective
// conductor does.
func (w *wiring) copperMM2(kind install.CPC) float64 {
	if kind == install.SeparateCPC || kind == "" && w.metal == install.Copper || w.R2 == 0 {
		return w.CPCMM2
	}
	perMM2, _ := ResistancePerM("cu", 1)
	return perMM2 / w.R2
}

// millivolts is the drop of a circuit's cable in mV/A/m, resistive and reactive:
// tabulated for copper, the manufacturer's for aluminium.
func millivolts(k *install.Circuit) (r, x float64, err error) {
	if k.Route.Aluminium {
		if !k.Route.MakerMV.Known() {
			return 0, 0, fmt.Errorf("voltage drop of %s mm² aluminium in mV/A/m (the cable manufacturer's instructions)",
				f(k.Route.LineMM2))
		}
		return k.Route.MakerMV.V(), 0, nil
	}
	table, _ := dropTable(k)
	return MillivoltsPerAmpereMetre(table, k.Route.LineMM2, 1, singlesMethod(k))
}
