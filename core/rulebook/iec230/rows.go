package iec230

import "arvelt/core/install"

// The rows of the tables, as their files under data have them: a field takes the column of its
// tag, in the unit that the column names. They are read once, when the program starts, which
// does not start with a column missing or a number that is none.

// bathPointsRow is a row of bath_points.
type bathPointsRow struct {
	Kind  string `col:"kind"`
	Class string `col:"class"`
}

// bendingRow is a row of bending_radius.
type bendingRow struct {
	Cable  string  `col:"cable"`
	OdToMM float64 `col:"od_to_mm"`
	Factor float64 `col:"factor"`
}

// boardRDFRow is a row of board_rdf.
type boardRDFRow struct {
	CircuitsTo float64 `col:"circuits_to"`
	Rdf        float64 `col:"rdf"`
}

// bondingPMERow is a row of bonding_pme.
type bondingPMERow struct {
	SupplyNeutralCuEquivToMM2 float64 `col:"supply_neutral_cu_equiv_to_mm2"`
	BondingCuMM2              float64 `col:"bonding_cu_mm2"`
}

// burialDepthRow is a row of burial_depth.
type burialDepthRow struct {
	School  string  `col:"school"`
	Place   string  `col:"place"`
	DepthMM float64 `col:"depth_mm"`
}

// cableMakesRow is a row of cable_makes.
type cableMakesRow struct {
	Type    string  `col:"type"`
	LineMM2 float64 `col:"line_mm2"`
	CpcMM2  float64 `col:"cpc_mm2"`
	OdMM    float64 `col:"od_mm"`
	Gland   string  `col:"gland"`
}

// cableTypesRow is a row of cable_types.
type cableTypesRow struct {
	Type       string `col:"type"`
	Name       string `col:"name"`
	Capacity   string `col:"capacity"`
	Capacity70 string `col:"capacity_70"`
	Armoured   string `col:"armoured"`
	Methods    string `col:"methods"`
	Columns    string `col:"columns"`
	KUse       string `col:"k_use"`
	Cores      string `col:"cores"`
}

// cccTailsRow is a row of ccc_tails.
type cccTailsRow struct {
	SizeMM2 float64 `col:"size_mm2"`
	CccA    float64 `col:"ccc_a"`
}

// clipSpacingRow is a row of clip_spacing.
type clipSpacingRow struct {
	Cable        string  `col:"cable"`
	OdToMM       float64 `col:"od_to_mm"`
	HorizontalMM float64 `col:"horizontal_mm"`
	VerticalMM   float64 `col:"vertical_mm"`
}

// conductorsRow is a row of conductor_resistance.
type conductorsRow struct {
	Material    string  `col:"material"`
	SizeMM2     float64 `col:"size_mm2"`
	R20MohmPerM float64 `col:"r20_mohm_per_m"`
}

// cpcMinRow is a row of cpc_min.
type cpcMinRow struct {
	LineToMM2 float64 `col:"line_to_mm2"`
	Rule      string  `col:"rule"`
	Value     float64 `col:"value"`
}

// deviceFactorsRow is a row of device_factors.
type deviceFactorsRow struct {
	Factor float64 `col:"factor"`
}

// deviceRatingsRow is a row of device_ratings.
type deviceRatingsRow struct {
	Family  string  `col:"family"`
	RatingA float64 `col:"rating_a"`
}

// deviceTripRow is a row of device_trip.
type deviceTripRow struct {
	Curve    string  `col:"curve"`
	IaXin0s4 float64 `col:"ia_xin_0s4"`
	IaXin5s  float64 `col:"ia_xin_5s"`
}

// disconnectionRow is a row of disconnection_times.
type disconnectionRow struct {
	System        string  `col:"system"`
	U0Band        string  `col:"u0_band"`
	FinalS        float64 `col:"final_s"`
	DistributionS float64 `col:"distribution_s"`
}

// diversityRow is a row of diversity.
type diversityRow struct {
	Item string  `col:"item"`
	Rule string  `col:"rule"`
	P1   float64 `col:"p1"`
	P2   float64 `col:"p2"`
	P3   float64 `col:"p3"`
}

// earthingMinRow is a row of earthing_conductor_min.
type earthingMinRow struct {
	Laid      string  `col:"laid"`
	Name      string  `col:"name"`
	CopperMM2 float64 `col:"copper_mm2"`
}

// editionRow is a row of editions.
type editionRow struct {
	Edition     string  `col:"edition"`
	FiveTimes   bool    `col:"five_times"`
	SocketM     float64 `col:"socket_m"`
	ArcRequired float64 `col:"arc_required"`
}

// fuseZsRow is a row of max_zs_fuse.
type fuseZsRow struct {
	Family  string  `col:"family"`
	RatingA float64 `col:"rating_a"`
	TimeS   float64 `col:"time_s"`
	ZsMax   float64 `col:"zs_max"`
	IaA     float64 `col:"ia_a"`
}

// groupingAirRow is a row of grouping_air.
type groupingAirRow struct {
	Circuits float64 `col:"circuits"`
}

// groupingGroundRow is a row of grouping_ground.
type groupingGroundRow struct {
	Laying   string  `col:"laying"`
	Spacing  string  `col:"spacing"`
	Circuits float64 `col:"circuits"`
	Cg       float64 `col:"cg"`
}

// inspectionsRow is a row of inspection_intervals.
type inspectionsRow struct {
	Premises string  `col:"premises"`
	Years    float64 `col:"years"`
}

// insulationCiRow is a row of thermal_insulation.
type insulationCiRow struct {
	LengthMM float64 `col:"length_mm"`
	Ci       float64 `col:"ci"`
}

// irLimitsRow is a row of ir_limits.
type irLimitsRow struct {
	TestVDC float64 `col:"test_v_dc"`
	MinMohm float64 `col:"min_mohm"`
}

// isolationWaysRow is a row of isolation_routes.
type isolationWaysRow struct {
	Route string `col:"route"`
}

// joistsRow is a row of joists.
type joistsRow struct {
	Rule  string `col:"rule"`
	Value string `col:"value"`
}

// kValuesRow is a row of k_values.
type kValuesRow struct {
	Material install.Metal `col:"material"`
	Use      string        `col:"use"`
	K        float64       `col:"k"`
}

// letThroughRow is a row of let_through.
type letThroughRow struct {
	FaultToKA float64 `col:"fault_to_ka"`
	RatingToA float64 `col:"rating_to_a"`
}

// localRow is a row of local_rules.
type localRow struct {
	Rule string  `col:"rule"`
	Name string  `col:"name"`
	Unit string  `col:"unit"`
	Low  float64 `col:"low"`
	High float64 `col:"high"`
}

// methodNamesRow is a row of methods.
type methodNamesRow struct {
	Method string `col:"method"`
	Name   string `col:"name"`
}

// multipliersRow is a row of temperature_multipliers.
type multipliersRow struct {
	Kind       string  `col:"kind"`
	TempC      float64 `col:"temp_c"`
	Multiplier float64 `col:"multiplier"`
}

// outEarthRow is a row of outbuilding_earth.
type outEarthRow struct {
	Option    string `col:"option"`
	Title     string `col:"title"`
	Condition string `col:"condition"`
	Reason    string `col:"reason"`
}

// overvoltageRow is a row of overvoltage_categories.
type overvoltageRow struct {
	Category string  `col:"category"`
	UwKV     float64 `col:"uw_kv"`
}

// penConductorRow is a row of pen_conductor.
type penConductorRow struct {
	Material install.Metal `col:"material"`
	LeastMM2 float64       `col:"least_mm2"`
}

// penOptionsRow is a row of pen_options.
type penOptionsRow struct {
	Option    string `col:"option"`
	Electrode bool   `col:"electrode"`
	Device    bool   `col:"device"`
	Title     string `col:"title"`
	Condition string `col:"condition"`
	Reason    string `col:"reason"`
}

// premisesRow is a row of premises.
type premisesRow struct {
	Premises string `col:"premises"`
	Name     string `col:"name"`
	ArcFault bool   `col:"arc_fault"`
	Interval string `col:"interval"`
}

// rcdByLoadRow is a row of rcd_type_by_load.
type rcdByLoadRow struct {
	Load   string `col:"load"`
	Remark string `col:"remark"`
}

// rcdDirectRow is a row of rcd_direct.
type rcdDirectRow struct {
	Type   string `col:"type"`
	MostMA string `col:"most_ma"`
}

// rcdLeakageRow is a row of rcd_leakage.
type rcdLeakageRow struct {
	Appliance string  `col:"appliance"`
	TypicalMA float64 `col:"typical_ma"`
}

// rcdTripRow is a row of rcd_trip_limits.
type rcdTripRow struct {
	Device   string  `col:"device"`
	Multiple float64 `col:"multiple"`
	MinMS    float64 `col:"min_ms"`
	MaxMS    float64 `col:"max_ms"`
}

// recessedRow is a row of recessed_luminaires.
type recessedRow struct {
	Rule   string `col:"rule"`
	Value  string `col:"value"`
	Remark string `col:"remark"`
}

// rodLambdaRow is a row of rod_group_lambda.
type rodLambdaRow struct {
	N               float64 `col:"n"`
	LambdaPublished float64 `col:"lambda_published"`
}

// schoolsRow is a row of schools.
type schoolsRow struct {
	Subject string  `col:"subject"`
	Bs7671  float64 `col:"bs7671"`
}

// soilThermalRow is a row of soil_thermal.
type soilThermalRow struct {
	SoilKMPerW float64 `col:"soil_k_m_per_w"`
}

// soilsRow is a row of soil_resistivity.
type soilsRow struct {
	Soil    string  `col:"soil"`
	Low     float64 `col:"low"`
	High    float64 `col:"high"`
	Typical float64 `col:"typical"`
}

// spdVoltagesRow is a row of spd_uc.
type spdVoltagesRow struct {
	System      install.Earthing `col:"system"`
	Mode        string           `col:"mode"`
	Volts230400 float64          `col:"volts_230_400"`
}

// supplyVoltagesRow is a row of supply_voltage.
type supplyVoltagesRow struct {
	School string  `col:"school"`
	LowPc  float64 `col:"low_pc"`
	HighPc float64 `col:"high_pc"`
}

// vdLimitsRow is a row of voltage_drop_limits.
type vdLimitsRow struct {
	School     string  `col:"school"`
	Supply     string  `col:"supply"`
	LightingPc float64 `col:"lighting_pc"`
	OtherPc    float64 `col:"other_pc"`
}
