package outage

import (
	"fmt"
	"math"
	"time"

	"arvelt/core/words"
)

// clockAt is the clock by which people at a longitude read the sun: the company's,
// unless that is over three hours from the sun's, as where a job lies far from the
// office. Then it is the zone of the longitude, and says tells so; else says is
// empty. No zone on land that people keep is over three hours from its sun.
func clockAt(w *words.Catalogue, longitude float64, day time.Time) (there time.Time, says string) {
	_, offset := day.Add(12 * time.Hour).Zone()
	hours := int(math.Round(longitude / 15))
	if math.Abs(float64(offset)/3600-longitude/15) <= 3 {
		return day, ""
	}
	zone := fmt.Sprintf("UTC%+d", hours)
	there = time.Date(day.Year(), day.Month(), day.Day(), 0, 0, 0, 0, time.FixedZone(zone, hours*3600))
	return there, w.Say(" Sun by the clock of %s, from the longitude, an hour more in summer time: the company's own clock is "+
		"far from it.", zone)
}

// Sun returns sunrise and sunset at a place on a date, in hours after midnight
// of the date's time zone. ok is false where the sun does not rise or set that
// day. Latitude and longitude are in degrees, north and east positive.
//
// The formulas are the general solar position approximations of the NOAA
// (equation of time and declination as Fourier series of the day of the year,
// sun's upper edge with refraction at 90.833°); they are good to about two
// minutes between the polar circles.
func Sun(latitude, longitude float64, date time.Time) (rise, set float64, ok bool) {
	day := float64(date.YearDay())
	g := 2 * math.Pi / 365 * (day - 1 + 0.5)
	eqtime := 229.18 * (0.000075 + 0.001868*math.Cos(g) - 0.032077*math.Sin(g) - 0.014615*math.Cos(2*g) - 0.040849*math.Sin(2*g))
	decl := 0.006918 - 0.399912*math.Cos(g) + 0.070257*math.Sin(g) - 0.006758*math.Cos(2*g) +
		0.000907*math.Sin(2*g) - 0.002697*math.Cos(3*g) + 0.00148*math.Sin(3*g)
	lat := latitude * math.Pi / 180
	cos := math.Cos(90.833*math.Pi/180)/(math.Cos(lat)*math.Cos(decl)) - math.Tan(lat)*math.Tan(decl)
	if cos < -1 || cos > 1 || math.IsNaN(cos) {
		return 0, 0, false
	}
	ha := math.Acos(cos) * 180 / math.Pi
	_, offset := time.Date(date.Year(), date.Month(), date.Day(), 12, 0, 0, 0, date.Location()).Zone()
	local := func(minutes float64) float64 { return minutes/60 + float64(offset)/3600 }
	return local(720 - 4*(longitude+ha) - eqtime), local(720 - 4*(longitude-ha) - eqtime), true
}
