package split120

// Names of the tables and choices that rules look for.
const (
	useEV = "ev"

	copper      = "cu"
	drawnGround = "separate"

	gfciDevice  = "gfci"
	plainDevice = "plain"
	noDevice    = "none"
	lineSide    = "line"
	loadSide    = "load"
)
