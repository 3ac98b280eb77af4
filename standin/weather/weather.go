// Package weather is a simulated forecast: it makes the weather of the next days up, the same on each day for who asks again, and nobody shall take it
// for a forecast. A real service would stand in its place.
package weather

import (
	"hash/fnv"
	"math"
	"time"

	"arvelt/core/outdoor"
)

// Of makes up the weather of so many days from the one behind today on: a season by the day of the year, with rain on one day of three.
func Of(today time.Time, days int) []outdoor.Forecast {
	out := make([]outdoor.Forecast, 0, days)
	for n := 1; n <= days; n++ {
		day := today.AddDate(0, 0, n)
		on := day.Format(time.DateOnly)
		h := fnv.New32a()
		_, _ = h.Write([]byte(on))     // never fails
		seed := h.Sum32() * 2654435761 // days beside each other differ
		share := func(shift int) float64 { return float64(seed>>shift&0xff) / 255 }
		mean := 9 - 9*math.Cos(2*math.Pi*float64(day.YearDay()-20)/365)
		low, wind, rain := math.Round(mean-4+5*share(0)), math.Round(8+40*share(16)*share(8)), 0.0
		high := low + math.Round(3+6*share(8))
		if share(4) < 1.0/3 {
			rain = math.Round(1 + 14*share(20))
		}
		out = append(out, outdoor.Forecast{Day: on, RainMM: &rain, WindKmH: &wind, LowC: &low, HighC: &high})
	}
	return out
}
