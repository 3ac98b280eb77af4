// Package iec230 is the rulebook of the 230 V practice (IEC family).
//
// Line, neutral and protective conductor; residual-current devices at the
// board; sizes in mm²; loop impedance tested. The figures lie in data/, one CSV
// a table with its source and confidence on top, restated from the standards
// they name: verify against the edition in force. Functions are named after
// what they decide. calc_*.go offer them by name for scripts, check_*.go apply
// them to the installation model; both use the same functions.
package iec230

import (
	"embed"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
	"arvelt/core/working"
)

//go:embed data/*.csv
var dataFiles embed.FS

type table = tables.Table

func load(name string) *table { return tables.Load(dataFiles, name) }

var (
	ambientAir     = load("ambient_air")
	ambientGround  = load("ambient_ground")
	boardRDF       = tables.LoadOf[boardRDFRow](dataFiles, "board_rdf")
	bending        = tables.LoadOf[bendingRow](dataFiles, "bending_radius")
	bondingOther   = load("bonding_other")
	bondingPME     = tables.LoadOf[bondingPMERow](dataFiles, "bonding_pme")
	burialDepth    = tables.LoadOf[burialDepthRow](dataFiles, "burial_depth")
	cableTypes     = tables.LoadOf[cableTypesRow](dataFiles, "cable_types")
	cableMakes     = tables.LoadOf[cableMakesRow](dataFiles, "cable_makes")
	cccTails       = tables.LoadOf[cccTailsRow](dataFiles, "ccc_tails")
	circuitUses    = load("circuit_uses")
	clipSpacing    = tables.LoadOf[clipSpacingRow](dataFiles, "clip_spacing")
	conductors     = tables.LoadOf[conductorsRow](dataFiles, "conductor_resistance")
	cpcMin         = tables.LoadOf[cpcMinRow](dataFiles, "cpc_min")
	deviceFactors  = tables.LoadOf[deviceFactorsRow](dataFiles, "device_factors")
	deviceRatings  = tables.LoadOf[deviceRatingsRow](dataFiles, "device_ratings")
	deviceTrip     = tables.LoadOf[deviceTripRow](dataFiles, "device_trip")
	disconnection  = tables.LoadOf[disconnectionRow](dataFiles, "disconnection_times")
	diversity      = tables.LoadOf[diversityRow](dataFiles, "diversity")
	evRules        = load("ev_rules")
	groupingAir    = tables.LoadOf[groupingAirRow](dataFiles, "grouping_air")
	groupingGround = tables.LoadOf[groupingGroundRow](dataFiles, "grouping_ground")
	inspections    = tables.LoadOf[inspectionsRow](dataFiles, "inspection_intervals")
	irLimits       = tables.LoadOf[irLimitsRow](dataFiles, "ir_limits")
	kValues        = tables.LoadOf[kValuesRow](dataFiles, "k_values")
	localTable     = tables.LoadOf[localRow](dataFiles, "local_rules")
	recessed       = tables.LoadOf[recessedRow](dataFiles, "recessed_luminaires")
	outEarth       = tables.LoadOf[outEarthRow](dataFiles, "outbuilding_earth")
	fuseZs         = tables.LoadOf[fuseZsRow](dataFiles, "max_zs_fuse")
	rcdDirect      = tables.LoadOf[rcdDirectRow](dataFiles, "rcd_direct")
	rcdLeakage     = tables.LoadOf[rcdLeakageRow](dataFiles, "rcd_leakage")
	multipliers    = tables.LoadOf[multipliersRow](dataFiles, "temperature_multipliers")
	methodNames    = tables.LoadOf[methodNamesRow](dataFiles, "methods")
	penOptions     = tables.LoadOf[penOptionsRow](dataFiles, "pen_options")
	joists         = tables.LoadOf[joistsRow](dataFiles, "joists")
	overvoltage    = tables.LoadOf[overvoltageRow](dataFiles, "overvoltage_categories")
	rcdByLoad      = tables.LoadOf[rcdByLoadRow](dataFiles, "rcd_type_by_load")
	rcdRules       = load("rcd_rules")
	rcdTrip        = tables.LoadOf[rcdTripRow](dataFiles, "rcd_trip_limits")
	ringRules      = load("ring_rules")
	rodLambda      = tables.LoadOf[rodLambdaRow](dataFiles, "rod_group_lambda")
	schools        = tables.LoadOf[schoolsRow](dataFiles, "schools")
	spdRisk        = load("spd_crl")
	spdVoltages    = tables.LoadOf[spdVoltagesRow](dataFiles, "spd_uc")
	spdRules       = load("spd_installation")
	supplyVoltages = tables.LoadOf[supplyVoltagesRow](dataFiles, "supply_voltage")
	soilThermal    = tables.LoadOf[soilThermalRow](dataFiles, "soil_thermal")
	testParameters = load("test_parameters")
	insulationCi   = tables.LoadOf[insulationCiRow](dataFiles, "thermal_insulation")
	ttLimits       = load("tt_limits")
	vdLimits       = tables.LoadOf[vdLimitsRow](dataFiles, "voltage_drop_limits")
	earthingMin    = tables.LoadOf[earthingMinRow](dataFiles, "earthing_conductor_min")
	letThrough     = tables.LoadOf[letThroughRow](dataFiles, "let_through")
	editionTable   = tables.LoadOf[editionRow](dataFiles, "editions")
	premisesTable  = tables.LoadOf[premisesRow](dataFiles, "premises")
	bathPoints     = tables.LoadOf[bathPointsRow](dataFiles, "bath_points")
	bathZones      = load("bath_zones")
	zones          = load("safe_zones")
	evNotify       = load("ev_notify")

	capacityTables = map[string]*table{
		"ccc_flat_te_70": load("ccc_flat_te_70"), "ccc_swa_70": load("ccc_swa_70"),
		"ccc_swa_90": load("ccc_swa_90"), "ccc_single_core_70": load("ccc_single_core_70"),
	}
	dropTables = map[string]*table{
		"ccc_swa_70": load("vd_swa_70"), "ccc_swa_90": load("vd_swa_90"), "ccc_single_core_70": load("vd_single_core_70"),
	}
)

// NominalV is the nominal voltage line to neutral, U0, in volts; LineV line to line.
const (
	NominalV = 230.0
	LineV    = 400.0
)

// insulationC is the conductor temperature of a capacity table in °C.
func insulationC(capacity string) float64 {
	if strings.HasSuffix(capacity, "_90") {
		return 90
	}
	return 70
}

// ResistancePerM returns mΩ/m of one conductor at 20 °C (IEC 60228).
func ResistancePerM(material string, mm2 float64) (float64, error) {
	r := conductors.Find(func(it *conductorsRow) bool { return it.Material == material && same(it.SizeMM2, mm2) })
	if r < 0 {
		return 0, fmt.Errorf("%g mm² (%s) is not in the table; give one of %s", mm2, material, sizesText(standardSizes(material)))
	}
	return conductors.Row(r).R20MohmPerM, nil
}

func standardSizes(material string) []float64 {
	var out []float64
	for r := range conductors.Text {
		if conductors.Row(r).Material == material {
			out = append(out, conductors.Row(r).SizeMM2)
		}
	}
	return out
}

// NextSize returns the smallest standard copper size not under mm2, NaN above
// the table.
func NextSize(mm2 float64) float64 {
	for _, s := range standardSizes("cu") {
		if working.AtMost(mm2, s) {
			return s
		}
	}
	return math.NaN()
}

func sizesText(sizes []float64) string {
	out := make([]string, len(sizes))
	for i, s := range sizes {
		out[i] = strconv.FormatFloat(s, 'f', -1, 64)
	}
	return strings.Join(out, ", ")
}

// Ratings returns the ratings in amperes that a device family is made in.
func Ratings(family string) []float64 {
	var out []float64
	for r := range deviceRatings.Text {
		if deviceRatings.Row(r).Family == family {
			out = append(out, deviceRatings.Row(r).RatingA)
		}
	}
	return out
}

func families() []string {
	var out []string
	for r := range deviceRatings.Text {
		if f := deviceRatings.Row(r).Family; !slices.Contains(out, f) {
			out = append(out, f)
		}
	}
	return out
}

// AmbientFactor returns Ca. Between rows the next hotter row is taken, which is
// the safe side; under the coolest row, the coolest.
func AmbientFactor(school string, insulation, ambient float64, ground bool) (float64, error) {
	t, temp, pairs := ambientAir, "ambient_c", []any{"school", school, "insulation_c", insulation}
	if ground {
		t, temp, pairs = ambientGround, "ground_c", []any{"insulation_c", insulation}
	}
	hottest := math.Inf(-1)
	for r := range t.Text {
		ok := true
		for i := 0; i < len(pairs); i += 2 {
			switch want := pairs[i+1].(type) {
			case string:
				ok = ok && t.Str(r, pairs[i].(string)) == want
			case float64:
				ok = ok && t.Num(r, pairs[i].(string)) == want
			}
		}
		if !ok {
			continue
		}
		if working.AtMost(ambient, t.Num(r, temp)) {
			return t.Num(r, "ca"), nil
		}
		hottest = max(hottest, t.Num(r, temp))
	}
	if math.IsInf(hottest, -1) {
		return 0, fmt.Errorf("the table has no row for %g °C insulation of school %q", insulation, school)
	}
	return 0, fmt.Errorf("%g °C is not in the table for %g °C insulation; give up to %g °C", ambient, insulation, hottest)
}

// GroupingFactor returns Cg for n circuits together. In air the arrangements
// are bunched, single_layer_wall, perforated_tray, ladder; in the ground direct
// and single_way_duct with a spacing.
func GroupingFactor(arrangement, spacing string, n int) (float64, error) {
	if n == 1 {
		return 1, nil
	}
	if n < 1 {
		return 0, fmt.Errorf("n: %d circuits is not accepted; give 1 or more", n)
	}
	if groupingAir.Has(arrangement) && arrangement != arrangementCircuits && arrangement != arrangementTabulated {
		if r := groupingAir.Find(func(it *groupingAirRow) bool { return same(it.Circuits, float64(n)) }); r >= 0 {
			return groupingAir.Num(r, arrangement), nil
		}
		return 0, fmt.Errorf("n: %d circuits is not in the table; give 1 to %g", n, groupingAir.Row(len(groupingAir.Text)-1).Circuits)
	}
	if r := groupingGround.Find(func(row *groupingGroundRow) bool {
		return row.Laying == arrangement && row.Spacing == spacing && same(row.Circuits, float64(n))
	}); r >= 0 {
		return groupingGround.Row(r).Cg, nil
	}
	return 0, fmt.Errorf("arrangement: %q with spacing %q and %d circuits is not in the tables; give bunched, single_layer_wall, "+
		"perforated_tray or ladder in air up to 20; direct or single_way_duct with a spacing in the ground up to 6", arrangement,
		spacing, n)
}

// InsulationFactor returns Ci where a cable is wholly surrounded by thermal
// insulation over mm: between rows the longer, 0.5 from 500 mm (523.9).
func InsulationFactor(mm float64) float64 {
	if mm <= 0 {
		return 1
	}
	for r := range insulationCi.Text {
		if working.AtMost(mm, insulationCi.Row(r).LengthMM) {
			return insulationCi.Row(r).Ci
		}
	}
	return insulationCi.Row(len(insulationCi.Text) - 1).Ci
}

// SoilFactor returns Cs for soil of k K·m/W; column is direct or in_ducts.
// Between rows the drier soil is taken.
func SoilFactor(k float64, column string) (float64, error) {
	if !soilThermal.Has(column) || column == soilKey {
		return 0, fmt.Errorf("soil_col: %q is not accepted; give direct or in_ducts", column)
	}
	for r := range soilThermal.Text {
		if working.AtMost(k, soilThermal.Row(r).SoilKMPerW) {
			return soilThermal.Num(r, column), nil
		}
	}
	return 0, fmt.Errorf("soil_k_m_w: %g is not in the table; give up to %g K·m/W", k,
		soilThermal.Row(len(soilThermal.Text)-1).SoilKMPerW)
}

// DeviceFactor returns Cf: 0.725 for a rewirable fuse, otherwise 1.
func DeviceFactor(family string) float64 {
	if family == rewirable {
		return deviceFactors.Row(1).Factor
	}
	return deviceFactors.Row(0).Factor
}

// MillivoltsPerAmpereMetre returns r and x in mV/A/m of a cable at its
// conductor temperature. method is AB or C for single cores, else ignored.
func MillivoltsPerAmpereMetre(capacity string, mm2 float64, phases int, method string) (r, x float64, err error) {
	if capacity == flatTable {
		t := capacityTables[capacity]
		if row := t.Where("size_mm2", mm2); row >= 0 && phases == 1 {
			return t.Num(row, "mv_am"), 0, nil
		}
		return 0, 0, fmt.Errorf("flat cable of %g mm² for %d phases is not in the table; give one of %s, single phase", mm2,
			phases, sizesText(t.Column("size_mm2")))
	}
	if err := knownTable(capacity); err != nil {
		return 0, 0, err
	}
	t := dropTables[capacity]
	pairs := []any{"size_mm2", mm2, "phases", float64(phases)}
	if capacity == singleTable {
		if method == "" {
			method = "C"
		}
		pairs = append(pairs, "method", method)
	}
	row := t.Where(pairs...)
	if row < 0 {
		return 0, 0, fmt.Errorf("%g mm² for %d phases is not in table %s; give one of %s", mm2, phases, t.Name,
			listed(t.Column("size_mm2")))
	}
	return t.Num(row, "r"), t.Num(row, "x"), nil
}

// dropAt is [MillivoltsPerAmpereMetre] for an input, whose key an error begins
// with: table, or the key of the size.
func dropAt(key, capacity string, mm2 float64, phases int, method string) (r, x float64, err error) {
	if err := knownTable(capacity); err != nil {
		return 0, 0, err
	}
	r, x, err = MillivoltsPerAmpereMetre(capacity, mm2, phases, method)
	return r, x, rulebook.At(key, err)
}

// knownTable errs where there is no such capacity table.
func knownTable(capacity string) error {
	if capacityTables[capacity] != nil {
		return nil
	}
	return fmt.Errorf("table: %q is not accepted; give ccc_flat_te_70, ccc_swa_70, ccc_swa_90 or ccc_single_core_70", capacity)
}

// listed writes the numbers of a column once each, in their order.
func listed(numbers []float64) string {
	var out []string
	for _, v := range numbers {
		if s := f(v); !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return strings.Join(out, ", ")
}

// FaultMultiple returns the multiple of In at which a breaker of the curve
// surely disconnects within the time: the instantaneous one up to 0.4 s.
func FaultMultiple(curve string, timeS float64) (float64, error) {
	r := deviceTrip.Find(func(it *deviceTripRow) bool { return it.Curve == curve })
	if r < 0 {
		return 0, fmt.Errorf("curve: %q is not accepted; give B, C or D", curve)
	}
	if timeS <= 0 || timeS > 5 {
		return 0, fmt.Errorf("time_s: %g is not accepted; give a disconnection time above 0, up to 5 s", timeS)
	}
	if timeS <= 0.4 {
		return deviceTrip.Row(r).IaXin0s4, nil
	}
	return deviceTrip.Row(r).IaXin5s, nil
}

// CminDefault is the voltage factor for the smallest fault current (school BS 7671).
var CminDefault = func() float64 {
	return schools.One(func(it *schoolsRow) bool { return it.Subject == "cmin" }).Bs7671
}()

// ZsMax returns the largest loop impedance in ohms at operating temperature and
// the current Ia in amperes that it lets flow: U0·Cmin/Ia (411.4.4).
func ZsMax(curve string, inA, timeS, cmin float64) (zs, ia float64, err error) {
	m, err := FaultMultiple(curve, timeS)
	if err != nil {
		return 0, 0, err
	}
	ia = m * inA
	return NominalV * cmin / ia, ia, nil
}

// deviceZsMax is [ZsMax] for any device: a breaker's by formula, a fuse's from its
// table, which holds for 0.4 and 5 s.
func deviceZsMax(p *install.Protection, timeS, cmin float64) (zs, ia float64, err error) {
	if p.Family == breaker {
		return ZsMax(p.Curve, p.RatingA, timeS, cmin)
	}
	at := 0.4
	if timeS > 0.4 {
		at = 5
	}
	if timeS < 0.4 {
		return 0, 0, fmt.Errorf("a time of %g s for a fuse: the table has 0.4 and 5 s", timeS)
	}
	r := fuseZs.Find(func(row *fuseZsRow) bool {
		return row.Family == p.Family && same(row.RatingA, p.RatingA) && same(row.TimeS, at)
	})
	if r < 0 {
		return 0, 0, fmt.Errorf("the loop limit of a %s of %g A at %g s (its manufacturer's curve)", familyNames[p.Family], p.RatingA, at)
	}
	return fuseZs.Row(r).ZsMax, fuseZs.Row(r).IaA, nil
}

// dropSource is where the drop of a cable of a capacity table stands: a table of
// its own, or the same where they share one.
func dropSource(capacity string) string {
	if t := dropTables[capacity]; t != nil {
		return t.Source.Ref
	}
	if t := capacityTables[capacity]; t != nil {
		return t.Source.Ref
	}
	return ""
}

// TouchV is the conventional touch voltage limit in volts (411.5.3).
const TouchV = 50.0

// HotMultiplier is the factor from 20 °C to operating temperature of a cable
// whose protective conductor is a core of it.
func HotMultiplier(insulation float64) float64 {
	return multipliers.One(func(row *multipliersRow) bool {
		return row.Kind == "operating_cpc_incorporated" && same(row.TempC, insulation)
	}).Multiplier
}

// CPCTable returns the protective conductor in mm² by the table for a line
// conductor of the same material (543.1.4).
func CPCTable(lineMM2 float64) float64 {
	for r := range cpcMin.Text {
		if to := cpcMin.Row(r).LineToMM2; !math.IsNaN(to) && !working.AtMost(lineMM2, to) {
			continue
		}
		switch cpcMin.Row(r).Rule {
		case earthEqual:
			return lineMM2
		case earthFixed:
			return cpcMin.Row(r).Value
		default:
			return lineMM2 * cpcMin.Row(r).Value
		}
	}
	return lineMM2
}

// editions lists the editions that the tables know, the usual one first.
func editions() []string {
	out := []string{usualEdition}
	for r := range editionTable.Text {
		if e := editionTable.Row(r).Edition; e != usualEdition {
			out = append(out, e)
		}
	}
	return out
}

// usualEdition is what a job starts with.
const usualEdition = "2018+A2:2022"

// editionOf is the row of the job's edition, -1 for one that the table does not know.
func editionOf(job *install.Job) int {
	return editionTable.Find(func(it *editionRow) bool { return it.Edition == job.Edition })
}

// ClassThree is what a breaker of energy limiting class 3 lets through at a prospective
// current of kA: the most energy in A²s, and the copper protective conductor in mm² that
// the guide of the trade accepts there. ok is false above 10 kA, above 32 A, for curve D
// and for a fuse (IEC 60898-1).
func ClassThree(curve string, ratingA, kA float64) (a2s, guideMM2 float64, ok bool) {
	if curve != curveB && curve != curveC {
		return 0, 0, false
	}
	for r := range letThrough.Text {
		if working.AtMost(kA, letThrough.Row(r).FaultToKA) && working.AtMost(ratingA, letThrough.Row(r).RatingToA) {
			return letThrough.Num(r, curve), letThrough.Num(r, curve+"_mm2"), true
		}
	}
	return 0, 0, false
}

// same reports whether a figure is that of a table, whose cells are decimal numbers.
func same(cell, v float64) bool { return math.Abs(cell-v) < 1e-9 }
