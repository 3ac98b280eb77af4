package rulebook

import (
	"cmp"
	"io/fs"
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/table"
	"arvelt/core/working"
)

// SurveyOf reads a practice's survey tables: survey_points, survey_asks,
// finding_classes, fabric, colours and survey_readings.
func SurveyOf(files fs.FS) *Survey {
	s := &Survey{Names: map[string]string{}, HeightMM: map[string]float64{}, Box: map[string]string{}, Kits: map[string][]PointPart{}}
	load := func(name string) *table.Table { return table.Load(files, name) }
	points := load("survey_points")
	for r := range points.Text {
		kind := points.Str(r, "kind")
		s.Names[kind], s.Box[kind] = points.Str(r, "name"), points.Str(r, "box")
		if mm := points.Num(r, "height_mm"); mm > 0 {
			s.HeightMM[kind] = mm
		}
	}
	kits := load("point_kits")
	for r := range kits.Text {
		kind, per := kits.Str(r, "kind"), kits.Str(r, "per")
		s.Kits[kind] = append(s.Kits[kind], PointPart{Key: kits.Str(r, "key"), Name: kits.Str(r, "name"), Rule: kits.Str(r, "rule"),
			Count:  kits.Num(r, "count"),
			Length: per == "length" || per == "duct", Duct: per == "duct", Plate: kits.Num(r, "plate") == 1, First: kits.Str(r, "fix") == "first"})
	}
	asks := load("survey_asks")
	for r := range asks.Text {
		s.Asks = append(s.Asks, Ask{Room: asks.Str(r, "room"), Why: asks.Str(r, "why"),
			Kinds: strings.Split(asks.Str(r, "kinds"), "|"), Count: int(asks.Num(r, "count")),
			Once: asks.Num(r, "once") == 1, Source: asks.Source.Ref})
	}
	classes := load("finding_classes")
	for r := range classes.Text {
		s.Classes = append(s.Classes, Class{classes.Str(r, "class"), classes.Str(r, "name"), classes.Str(r, "urgency"),
			classes.Str(r, "says"), classes.Source.Ref})
	}
	fabric := load("fabric")
	for r := range fabric.Text {
		s.Fabric = append(s.Fabric, Fabric{fabric.Str(r, "name"), fabric.Str(r, "where"), fabric.Str(r, "method"), fabric.Str(r, "why"),
			fabric.Str(r, "chased") == "1"})
	}
	colours := load("colours")
	for r := range colours.Text {
		s.Colours = append(s.Colours, Colour{colours.Str(r, "era"), colours.Str(r, "function"), colours.Str(r, "colour"),
			colours.Str(r, "warn")})
	}
	readings := load("survey_readings")
	for r := range readings.Text {
		x := SurveyReading{ID: readings.Str(r, "reading"), Finding: readings.Str(r, "finding"), Name: readings.Str(r, "name"),
			Unit:    readings.Str(r, "unit"),
			Summary: readings.Str(r, "says"), Source: readings.Source.Ref}
		if v := readings.Num(r, "low"); !math.IsNaN(v) {
			x.Low = v
		}
		if v := readings.Num(r, "high"); !math.IsNaN(v) {
			x.High = v
		}
		s.Readings = append(s.Readings, x)
	}
	reach := load("reach")
	s.LowMM, s.HighMM, s.ReachSource = reach.Num(0, "least_mm"), reach.Num(0, "most_mm"), reach.Source.Ref
	eras := load("eras")
	for r := range eras.Text {
		s.Eras = append(s.Eras, Era{From: eras.Num(r, "from"), To: eras.Num(r, "to"), Summary: eras.Str(r, "says"),
			Prove: eras.Str(r, "prove"), Tests: strings.Split(eras.Str(r, "tests"), "|")})
	}
	return s
}

// EraOf is what the years of a house hint at: those of its rewiring, else those of its
// building. ok is false while neither is known.
func (s *Survey) EraOf(built, rewired *int) (e Era, ok bool) {
	at := cmp.Or(rewired, built)
	if at == nil {
		return Era{}, false
	}
	year := float64(*at)
	i := slices.IndexFunc(s.Eras, func(e Era) bool { return year >= e.From && year <= e.To })
	if i < 0 {
		return Era{}, false
	}
	return s.Eras[i], true
}

// ClassIDs lists the classes of findings.
func (s *Survey) ClassIDs() []string {
	out := []string{}
	for _, c := range s.Classes {
		out = append(out, c.ID)
	}
	return out
}

// ReadingIDs lists the survey's readings.
func (s *Survey) ReadingIDs() []string {
	out := []string{}
	for _, c := range s.Readings {
		out = append(out, c.ID)
	}
	return out
}

// Reading returns a survey reading by its id.
func (s *Survey) Reading(id string) (SurveyReading, bool) {
	for _, r := range s.Readings {
		if r.ID == id {
			return r, true
		}
	}
	return SurveyReading{}, false
}

// Judge says how a figure stands to the limits of its reading.
func (r SurveyReading) Judge(v float64) (working.Verdict, string) {
	if r.High > 0 && v > r.High || r.Low > 0 && v < r.Low {
		return working.Caution, r.Summary
	}
	return working.Pass, ""
}

// Feed is from where lights and their switches are fed on a job.
func (s *Survey) Feed(schools *install.Schools) string {
	if s.SwitchFeed == nil {
		return FedAtLight
	}
	return s.SwitchFeed.In(schools)
}
