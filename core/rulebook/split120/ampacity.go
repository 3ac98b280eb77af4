package split120

import (
	"fmt"
	"math"
	"slices"

	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/unit"
	"arvelt/core/working"
)

var (
	ampacities     = table.LoadOf[ampacitiesRow](dataFiles, "ampacity")
	ampacityRules  = table.LoadOf[ampacityRulesRow](dataFiles, "ampacity_rules")
	adjustments    = table.LoadOf[adjustmentsRow](dataFiles, "adjustment_ccc")
	ambients       = table.LoadOf[ambientsRow](dataFiles, "ambient_correction")
	smallLimits    = table.LoadOf[smallLimitsRow](dataFiles, "ocpd_small_conductor")
	standardDevice = table.LoadOf[standardDeviceRow](dataFiles, "ocpd_standard")
	groundSizes    = table.Load(dataFiles, "grounding_egc")
	bondingSizes   = table.Load(dataFiles, "bonding_cec")
	electrodeSizes = table.LoadOf[electrodeSizesRow](dataFiles, "grounding_gec")
)

func text(parts ...any) string { return unit.Text(parts...) }

// sizes are the conductor sizes from the smallest, AWG and kcmil.
var sizes = func() (out []string) {
	for r := range conductors.Text {
		out = append(out, conductors.Row(r).Size)
	}
	return out
}()

// Cmil is the area of a size in circular mils, 0 for one that is not in the table
// (NEC Chapter 9 Table 8).
func Cmil(size string) float64 {
	r := conductors.Find(func(it *conductorsRow) bool { return it.Size == size })
	if r < 0 {
		return 0
	}
	return conductors.Row(r).Cmil
}

// sizeOK refuses a size or material that the tables do not have, naming the key.
func sizeOK(key, size, material string) error {
	if err := rulebook.OneOf("material", material, "cu", "al"); err != nil {
		return err
	}
	if err := rulebook.OneOf(key, size, sizes...); err != nil {
		return err
	}
	if material == aluminum && math.IsNaN(tabulated(size, material, 75)) {
		return fmt.Errorf("%s: %q is not made in aluminum; give 12 or larger", key, size)
	}
	return nil
}

// tabulated is the ampacity of a size by its column of 60, 75 or 90 °C, NaN where
// the table has none (NEC Table 310.16).
func tabulated(size, material string, column float64) float64 {
	r := ampacities.Find(func(it *ampacitiesRow) bool { return it.Size == size })
	if r < 0 {
		return math.NaN()
	}
	return ampacities.Num(r, text(material, "_", column))
}

func columnOK(key string, c float64) error {
	if c != 60 && c != 75 && c != 90 {
		return fmt.Errorf("%s: %g is not accepted; give 60, 75 or 90 °C", key, c)
	}
	return nil
}

// AmbientFactor corrects an ampacity for an ambient in °C, for insulation of 60,
// 75 or 90 °C (NEC Table 310.15(B)(1)). The error names what the table permits.
func AmbientFactor(insulationC, ambientC float64) (float64, error) {
	column := text("f_", insulationC)
	if ambientC < ambients.Row(0).AmbientCLow {
		return 0, fmt.Errorf("ambient_c: %g is not accepted; give %g or more", ambientC, ambients.Row(0).AmbientCLow)
	}
	most := 0.0
	for r := range ambients.Text {
		v := ambients.Num(r, column)
		if math.IsNaN(v) {
			break
		}
		if most = ambients.Row(r).AmbientCHigh; working.AtMost(ambientC, most) {
			return v, nil
		}
	}
	return 0, fmt.Errorf("ambient_c: %g is not accepted; %g °C insulation is permitted up to %g °C", ambientC, insulationC, most)
}

// AdjustmentFactor is what more than three current-carrying conductors together
// leave (NEC Table 310.15(C)(1), CEC Table 5C).
func AdjustmentFactor(school string, n float64) (float64, error) {
	if n < 1 || n != math.Trunc(n) {
		return 0, fmt.Errorf("ccc: %g is not accepted; give a whole number of current-carrying conductors from 1", n)
	}
	most := 0.0
	for r := range adjustments.Text {
		if adjustments.Row(r).School != school {
			continue
		}
		most = max(most, adjustments.Row(r).CccHigh)
		if n <= most {
			return adjustments.Row(r).Factor, nil
		}
	}
	if most > 0 {
		return 0, fmt.Errorf("ccc: %g is not in the table; give 1 to %g current-carrying conductors", n, most)
	}
	return 0, fmt.Errorf("school: %q is not accepted; give NEC or CEC", school)
}

// ratingFrom is the first edition in which a rating is standard, 0 for one that is none.
func ratingFrom(amps float64) float64 {
	if r := standardDevice.Find(func(it *standardDeviceRow) bool { return same(it.RatingA, amps) }); r >= 0 {
		return standardDevice.Row(r).FromEdition
	}
	return 0
}

// NextRating is the next standard rating at or above amperes, 0 above the table
// (NEC 240.6(A)).
func NextRating(amps float64) float64 {
	for r := range standardDevice.Text {
		if v := standardDevice.Row(r).RatingA; working.AtMost(amps, v) {
			return v
		}
	}
	return 0
}

func ratingBelow(amps float64) float64 {
	best := 0.0
	for r := range standardDevice.Text {
		if v := standardDevice.Row(r).RatingA; working.AtMost(v, amps) {
			best = v
		}
	}
	return best
}

// smallLimit is the most that protects a small conductor, infinite above 10 AWG
// (NEC 240.4(D)).
func smallLimit(size, material string) float64 {
	if r := smallLimits.Find(func(it *smallLimitsRow) bool { return it.Size == size && it.Material == material }); r >= 0 {
		return smallLimits.Row(r).MaxOcpdA
	}
	return math.Inf(1)
}

// Conditions are what a conductor is laid in and ends on.
type Conditions struct {
	Material    string
	InsulationC float64
	AmbientC    float64
	CCC         float64 // current-carrying conductors together
	TerminalC   float64
	NMB         bool // type NM-B: held to its 60 °C column (334.80)
	Roof        bool // close above a sunlit roof: 33 °C are added
	School      string
}

func (c *Conditions) check() error {
	if c.School == "" {
		c.School = "NEC"
	}
	return rulebook.FirstError(columnOK("insulation_c", c.InsulationC), columnOK("terminal_c", c.TerminalC),
		rulebook.OneOf("school", c.School, "NEC", "CEC"))
}

// Ampacity is what a size carries and what may protect it.
type Ampacity struct {
	AmbientC, Ambient, Adjust   float64
	DeratedA, CapA, A, MaxOCPDA float64
}

// Of computes the ampacity of a size (NEC 110.14(C), 310.15): its own column with
// both factors, capped by the column of its terminals. nextUp says whether the next
// standard device above it may protect it (240.4(B)).
func (c Conditions) Of(size string, nextUp bool) (Ampacity, error) {
	a := Ampacity{AmbientC: c.AmbientC}
	if c.Roof {
		a.AmbientC += rule(ampacityRules.Table, "ROOF-ADD")
	}
	var err error
	if a.Ambient, err = AmbientFactor(c.InsulationC, a.AmbientC); err != nil {
		return a, err
	}
	if c.School == string(CEC) {
		a.Ambient = min(a.Ambient, 1) // Table 5A begins above 30 °C
	}
	if a.Adjust, err = AdjustmentFactor(c.School, c.CCC); err != nil {
		return a, err
	}
	cap := c.TerminalC
	if c.NMB && c.School == string(NEC) {
		cap = min(cap, rule(ampacityRules.Table, "NMB-60"))
	}
	a.DeratedA = tabulated(size, c.Material, c.InsulationC) * a.Ambient * a.Adjust
	a.CapA = tabulated(size, c.Material, cap)
	a.A = min(a.DeratedA, a.CapA)
	a.MaxOCPDA = ratingBelow(a.A)
	if nextUp && a.A <= rule(ampacityRules.Table, "NEXT-UP") {
		a.MaxOCPDA = NextRating(a.A)
	}
	a.MaxOCPDA = min(a.MaxOCPDA, smallLimit(size, c.Material))
	return a, nil
}

// smallest is the smallest size of a material that fits, "" when none does.
func smallest(material string, fits func(size string) bool) string {
	for _, s := range sizes {
		if !math.IsNaN(tabulated(s, material, 75)) && fits(s) {
			return s
		}
	}
	return ""
}

// GroundSize is the equipment grounding conductor for an overcurrent device, ""
// above the table (NEC Table 250.122).
func GroundSize(material string, ocpdA float64) string {
	return upTo(groundSizes, "egc_"+material, ocpdA)
}

// BondingSize is the bonding conductor for an overcurrent device, "" above the table
// (CEC Table 16).
func BondingSize(material string, ocpdA float64) string {
	return upTo(bondingSizes, "egc_"+material, ocpdA)
}

// upTo reads a column of the first row whose rating is not under amperes.
func upTo(t *table.Table, column string, amps float64) string {
	for r := range t.Text {
		if working.AtMost(amps, t.Num(r, "ocpd_max_a")) {
			return t.Str(r, column)
		}
	}
	return ""
}

// groundSize is the grounding conductor for a device by a code.
func groundSize(code Code, material string, ocpdA float64) string {
	if code == CEC {
		return BondingSize(material, ocpdA)
	}
	return GroundSize(material, ocpdA)
}

// byArea reads a table whose rows go up to an area of the service conductors in
// kcmil, by the material of those.
func byArea(t *table.Table, material string, kcmil float64) int {
	for r := range t.Text {
		if working.AtMost(kcmil, t.Num(r, material+"_max_kcmil")) {
			return r
		}
	}
	return -1
}

// larger is the larger of two sizes.
func larger(a, b string) string {
	if slices.Index(sizes, a) >= slices.Index(sizes, b) {
		return a
	}
	return b
}

func smaller(a, b string) string {
	if larger(a, b) == a {
		return b
	}
	return a
}
