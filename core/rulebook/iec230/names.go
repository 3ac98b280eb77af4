package iec230

import "slices"

// Names of the tables that rules look for. What they decide stands where they are used.
const (
	useEV           = "ev"
	useDistribution = "distribution"
	useShower       = "shower"

	breaker    = "mcb_rcbo"
	usualCurve = "B"

	typeA = "A"
	typeF = "F"
	typeB = "B"
)

// hasRating reports whether devices of a family are made for a current in amperes.
func hasRating(family string, a float64) bool { return slices.Contains(Ratings(family), a) }
