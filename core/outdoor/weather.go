package outdoor

import (
	"math"
	"strings"

	"arvelt/core/table"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// Weathered is work outdoors that the weather holds, by id; the zero value is none.
type Weathered string

// weatherRow is a row of weather. A limit that is not there is NaN.
type weatherRow struct {
	Work    string  `col:"work"`
	Name    string  `col:"name"`
	RainMM  float64 `col:"rain_mm"`
	WindKmH float64 `col:"wind_kmh"`
	LowC    float64 `col:"low_c"`
	HighC   float64 `col:"high_c"`
	Instead string  `col:"instead"`
}

var weatherTable = table.LoadOf[weatherRow](dataFiles, "weather")

// Forecast is the weather of a day to come where a company works, as somebody typed it or a stand-in made it up. What is nil nobody said.
type Forecast struct {
	Day     string   `json:"day" shape:"date"`
	RainMM  *float64 `json:"rainMM" range:"0..500" unit:"mm"`
	WindKmH *float64 `json:"windKmH" range:"0..300" unit:"km/h"` // the strongest
	LowC    *float64 `json:"lowC" range:"-60..60" unit:"°C"`
	HighC   *float64 `json:"highC" range:"-60..60" unit:"°C"`
	By      string   `json:"by" chars:"120"` // who typed it; empty of one that was made up
}

// Same reports whether another forecast is of the same day and says the same.
func (f *Forecast) Same(o Forecast) bool {
	same := func(a, b *float64) bool { return a == b || a != nil && b != nil && *a == *b }
	return f.Day == o.Day && same(f.RainMM, o.RainMM) && same(f.WindKmH, o.WindKmH) && same(f.LowC, o.LowC) && same(f.HighC, o.HighC)
}

// Against says what in the weather of a day holds some work, and what makes it go all the same; empty where nothing does.
func (f *Forecast) Against(w *words.Catalogue, work Weathered) string {
	at := weatherTable.Find(func(r *weatherRow) bool { return r.Work == string(work) })
	if at < 0 {
		return ""
	}
	row, said := weatherTable.Row(at), []string{}
	as := func(v float64, of string) string {
		if w.Locale() == words.American {
			v, of = unit.Customary(v, of)
		}
		return unit.With(unit.Significant(v, 3), of)
	}
	over := func(v *float64, most float64, says, of string) {
		if v != nil && !math.IsNaN(most) && *v > most {
			said = append(said, w.Say(says, as(*v, of), as(most, of)))
		}
	}
	over(f.RainMM, row.RainMM, string(words.Key("%s of rain, at most %s")), "mm")
	over(f.WindKmH, row.WindKmH, string(words.Key("wind of %s, at most %s")), "km/h")
	over(f.HighC, row.HighC, string(words.Key("%s, at most %s")), "°C")
	if f.LowC != nil && !math.IsNaN(row.LowC) && *f.LowC < row.LowC {
		said = append(said, w.Say("%s, at least %s", as(*f.LowC, "°C"), as(row.LowC, "°C")))
	}
	if len(said) == 0 {
		return ""
	}
	return w.Say("%s: %s. Or: %s.", w.Say(row.Name), strings.Join(said, "; "), w.Say(row.Instead))
}
