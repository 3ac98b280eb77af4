package split120

// The settings of the tables that hold one figure a row, each found when the program starts.
var (
	gfciCurveOver  = gfciTrip.Setting("curve_over")
	gfciCurvePower = gfciTrip.Setting("curve_power")
	gfciCurveTo    = gfciTrip.Setting("curve_to")
	gfciOpensFrom  = gfciTrip.Setting("opens_from")
	gfciStaysBelow = gfciTrip.Setting("stays_below")
)
