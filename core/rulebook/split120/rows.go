package split120

import "arvelt/core/install"

// The rows of the tables, as their files under data have them: a field takes the column of its
// tag, in the unit that the column names. They are read once, when the program starts, which
// does not start with a column missing or a number that is none.

// adjustmentsRow is a row of adjustment_ccc.
type adjustmentsRow struct {
	School  string  `col:"school"`
	CccHigh float64 `col:"ccc_high"`
	Factor  float64 `col:"factor"`
}

// afciPlacesRow is a row of afci_locations.
type afciPlacesRow struct {
	ID string `col:"id"`
}

// ambientsRow is a row of ambient_correction.
type ambientsRow struct {
	AmbientCLow  float64 `col:"ambient_c_low"`
	AmbientCHigh float64 `col:"ambient_c_high"`
}

// ampacitiesRow is a row of ampacity.
type ampacitiesRow struct {
	Size string `col:"size"`
}

// ampacityRulesRow is a row of ampacity_rules.
type ampacityRulesRow struct {
	ID         string `col:"id"`
	Value      string `col:"value"`
	Source     string `col:"source"`
	Confidence string `col:"confidence"`
}

// boardRow is a row of board_places.
type boardRow struct {
	Place  string `col:"place"`
	Name   string `col:"name"`
	Barred string `col:"barred"`
}

// bondRow is a row of bond_kinds.
type bondRow struct {
	Kind      string `col:"kind"`
	Name      string `col:"name"`
	Electrode string `col:"electrode"`
	Cap       string `col:"cap"`
	Jumper    string `col:"jumper"`
	By        string `col:"by"`
}

// boxRulesRow is a row of box_fill_rules.
type boxRulesRow struct {
	ID    string  `col:"id"`
	Count float64 `col:"count"`
}

// boxVolumesRow is a row of box_fill.
type boxVolumesRow struct {
	Size string `col:"size"`
}

// cableMakesRow is a row of cable_makes.
type cableMakesRow struct {
	Type   string `col:"type"`
	Size   string `col:"size"`
	Ground string `col:"ground"`
}

// cableTypesRow is a row of cable_types.
type cableTypesRow struct {
	Type     string  `col:"type"`
	Name     string  `col:"name"`
	Cores    float64 `col:"cores"`
	Material string  `col:"material"`
	Column   float64 `col:"column"`
	Cap60    string  `col:"cap60"`
	Fill     string  `col:"fill"`
	Conduit  string  `col:"conduit"`
	ClipIn   float64 `col:"clip_in"`
	Clip     string  `col:"clip"`
	Cover    string  `col:"cover"`
	Methods  string  `col:"methods"`
}

// canadaEditionsRow is a row of canada_editions.
type canadaEditionsRow struct {
	Edition string `col:"edition"`
	Beside  string `col:"beside"`
}

// clearancesRow is a row of service_clearances.
type clearancesRow struct {
	ID     string  `col:"id"`
	Rule   string  `col:"rule"`
	Value  float64 `col:"value"`
	Source string  `col:"source"`
	Remark string  `col:"remark"`
}

// conductorAreasRow is a row of conductor_areas.
type conductorAreasRow struct {
	Size string `col:"size"`
}

// conductorsRow is a row of conductors.
type conductorsRow struct {
	Size    string  `col:"size"`
	Cmil    float64 `col:"cmil"`
	AreaMM2 float64 `col:"area_mm2"`
}

// conduitsRow is a row of conduit.
type conduitsRow struct {
	TradeSize string  `col:"trade_size"`
	OdPvcIn   float64 `col:"od_pvc_in"`
}

// ductRadiusRow is a row of duct_radius.
type ductRadiusRow struct {
	BoreIn   float64 `col:"bore_in"`
	RadiusIn float64 `col:"radius_in"`
}

// riserRow is a row of risers.
type riserRow struct {
	Grade   string `col:"grade"`
	Exposed bool   `col:"exposed"`
}

// coversRow is a row of cover_300_5.
type coversRow struct {
	Location string  `col:"location"`
	DirectIn float64 `col:"direct_in"`
	PvcIn    float64 `col:"pvc_in"`
}

// electrodeSizesRow is a row of grounding_gec.
type electrodeSizesRow struct {
	GecCu string `col:"gec_cu"`
	GecAl string `col:"gec_al"`
}

// fillLimitsRow is a row of conduit_fill_limits.
type fillLimitsRow struct {
	FillPercent float64 `col:"fill_percent"`
}

// gfciPlacesRow is a row of gfci_locations.
type gfciPlacesRow struct {
	ID       string `col:"id"`
	WiredFor string `col:"wired_for"`
	Area     string `col:"area"`
	Tr       string `col:"tr"`
	Wr       string `col:"wr"`
	Remark   string `col:"remark"`
}

// groundingRow is a row of grounding_rules.
type groundingRow struct {
	ID     string `col:"id"`
	Rule   string `col:"rule"`
	Source string `col:"source"`
}

// hexTorquesRow is a row of torque_hex_socket.
type hexTorquesRow struct {
	SocketAcrossFlatsIn string  `col:"socket_across_flats_in"`
	TorqueLbfIn         float64 `col:"torque_lbf_in"`
}

// isolationWaysRow is a row of isolation_routes.
type isolationWaysRow struct {
	Route string `col:"route"`
}

// jumperSizesRow is a row of bonding_jumper.
type jumperSizesRow struct {
	JumperCu string `col:"jumper_cu"`
}

// methodRow is a row of methods.
type methodRow struct {
	Method install.Method `col:"method"`
	Name   string         `col:"name"`
	Roof   string         `col:"roof"`
}

// overheadPartsRow is a row of overhead_parts.
type overheadPartsRow struct {
	Key   string  `col:"key"`
	Name  string  `col:"name"`
	Count float64 `col:"count"`
	Unit  string  `col:"unit"`
	Rule  string  `col:"rule"`
}

// rangeLoadRow is a row of load_range.
type rangeLoadRow struct {
	Appliances      float64 `col:"appliances"`
	ColCMaxDemandKw float64 `col:"col_c_max_demand_kw"`
}

// roomPlacesRow is a row of room_places.
type roomPlacesRow struct {
	Room  string `col:"room"`
	Place string `col:"place"`
}

// roomsMatrixRow is a row of rooms_matrix.
type roomsMatrixRow struct {
	Room string `col:"room"`
	Tr   string `col:"tr"`
	Wr   string `col:"wr"`
}

// screwTorquesRow is a row of torque_screw.
type screwTorquesRow struct {
	Size string `col:"size"`
}

// serviceStepsRow is a row of service_sequence.
type serviceStepsRow struct {
	Step      string `col:"step"`
	Action    string `col:"action"`
	Who       string `col:"who"`
	DependsOn string `col:"depends_on"`
}

// smallLimitsRow is a row of ocpd_small_conductor.
type smallLimitsRow struct {
	Size     string  `col:"size"`
	Material string  `col:"material"`
	MaxOcpdA float64 `col:"max_ocpd_a"`
}

// soilsRow is a row of soils.
type soilsRow struct {
	Soil    string  `col:"soil"`
	Low     float64 `col:"low"`
	High    float64 `col:"high"`
	Typical float64 `col:"typical"`
}

// standardDeviceRow is a row of ocpd_standard.
type standardDeviceRow struct {
	RatingA     float64 `col:"rating_a"`
	FromEdition float64 `col:"from_edition"`
}

// testerPatternsRow is a row of tester_patterns.
type testerPatternsRow struct {
	Condition string  `col:"condition"`
	LampHn    float64 `col:"lamp_hn"`
	LampHg    float64 `col:"lamp_hg"`
	LampNg    float64 `col:"lamp_ng"`
	Meaning   string  `col:"meaning"`
}

// voltageLimitsRow is a row of voltage_limits.
type voltageLimitsRow struct {
	ID  string  `col:"id"`
	Min float64 `col:"min"`
	Max float64 `col:"max"`
}
