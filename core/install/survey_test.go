package install

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var known = Terms{Points: []string{"light", "tv"}, Switching: []string{"two-way"}, Enclosures: []string{"board", "meter"},
	ConductorSizes: []string{"10", "16"}, IsolationRoutes: []string{"operator"}, Surfaces: []string{"lawn"}, Soils: []string{"clay"},
	Findings: []string{"no-bonding"}, Classes: []string{"C1", "C2"}, SurveyReadings: []string{"voltage"}}

// says reports the fields that an error names.
func says(err error) string {
	es, ok := err.(Errors)
	if !ok {
		return ""
	}
	out := []string{}
	for _, e := range es {
		out = append(out, e.Field)
		if e.Accept == "" {
			return "no hint at " + e.Field
		}
	}
	return strings.Join(out, " ")
}

func TestRoomsHaveTheirBounds(t *testing.T) {
	good := func() Room {
		return Room{ID: "r", Name: "Hall", Points: []RoomPoint{{ID: "p", Kind: "light", Count: 1, State: New,
			Switching: "two-way"}, {ID: "q", Typed: "frob", Count: 1, State: New}}, Legs: []Leg{{LengthM: 2, Basis: Measured}}}
	}
	require.NoError(t, good().Validate(known))
	for field, spoil := range map[string]func(*Room){
		"rooms/a/b.id":                func(r *Room) { r.ID = "a/b" },
		"rooms/r.name":                func(r *Room) { r.Name = " " },
		"rooms/r.points[0].kind":      func(r *Room) { r.Points[0].Kind = "castle" },
		"rooms/r.points[0].count":     func(r *Room) { r.Points[0].Count = 201 },
		"rooms/r.points[0].heightMM":  func(r *Room) { r.Points[0].HeightMM = -1 },
		"rooms/r.points[0].powerW":    func(r *Room) { r.Points[0].PowerW = 60000 },
		"rooms/r.points[0].switching": func(r *Room) { r.Points[0].Switching = "clap" },
		"rooms/r.points[1].typed":     func(r *Room) { r.Points[1].Typed = "" },
		"rooms/r.points[1].id":        func(r *Room) { r.Points[1].ID = "p" },
		"rooms/r.legs[0].lengthM":     func(r *Room) { r.Legs[0].LengthM = 0 },
		"rooms/r.legs[0].basis":       func(r *Room) { r.Legs[0].Basis = "guess" },
		"rooms/r.from":                func(r *Room) { r.From = "r" },
		"rooms/r.closed":              func(r *Room) { r.Closed = "soon" },
		"rooms/r.points":              func(r *Room) { r.Points = make([]RoomPoint, 201) },
	} {
		r := good()
		spoil(&r)
		assert.Contains(t, says(r.Validate(known)), field)
	}
}

func TestWhatWasFoundIsHeldToProof(t *testing.T) {
	n := -1
	for field, f := range map[string]Found{
		"found.circuits[0].proved": {Circuits: []FoundCircuit{{Name: "old feed", State: "dead"}}},
		"found.circuits[0].state":  {Circuits: []FoundCircuit{{Name: "old feed", State: "asleep"}}},
		"found.hazards[0].how":     {Hazards: []Hazard{{Kind: "vermin", Place: "eaves", Clear: true}}},
		"found.hazards[0].kind":    {Hazards: []Hazard{{Kind: "dragon", Place: "eaves"}}},
		"found.board.openWays":     {Board: FoundBoard{OpenWays: &n}},
		"found.board.arrester":     {Board: FoundBoard{Arrester: "perhaps"}},
	} {
		assert.Equal(t, field, says(f.Validate()))
	}
	require.NoError(t, Found{Circuits: []FoundCircuit{{Name: "old feed", State: "dead",
		Proved: "two-pole tester at both ends"}}}.Validate())
}

func TestTheChainHasNoRingAndNoLooseEnd(t *testing.T) {
	box := func(id, from string) Enclosure { return Enclosure{ID: id, Kind: "board", Name: id, From: from} }
	chain := Chain{Enclosures: []Enclosure{box("b", "a"), box("a", ""), box("c", "b"), box("d", "a")}}
	require.NoError(t, chain.Validate(known))
	order := []string{}
	for _, e := range chain.Order() {
		order = append(order, e.ID)
	}
	assert.Equal(t, []string{"a", "b", "c", "d"}, order, "each after the one that feeds it")
	torque := 5.0
	for field, c := range map[string]Chain{
		"chain.enclosures":         {Enclosures: []Enclosure{box("a", "b"), box("b", "a")}},
		"chain.enclosures[0].from": {Enclosures: []Enclosure{box("a", "z")}},
		"chain.enclosures[1].id":   {Enclosures: []Enclosure{box("a", ""), box("a", "")}},
		"chain.enclosures[0].kind": {Enclosures: []Enclosure{{ID: "a", Name: "a", Kind: "castle"}}},
		"chain.enclosures[0].torqueSheet": {Enclosures: []Enclosure{{ID: "a", Name: "a", Kind: "board",
			TorqueNm: Fact{Value: &torque, Basis: Enquiry}}}},
		"chain.enclosures[0].feed.size": {Enclosures: []Enclosure{{ID: "a", Name: "a", Kind: "board", Feed: Conductor{Size: "11"}}}},
		"chain.enclosures[0].feed.material": {Enclosures: []Enclosure{{ID: "a", Name: "a", Kind: "board",
			Feed: Conductor{Material: "tin"}}}},
		"chain.enclosures[0].owner": {Enclosures: []Enclosure{{ID: "a", Name: "a", Kind: "board", Owner: "nobody"}}},
	} {
		assert.Contains(t, says(c.Validate(known)), field)
	}
}

func TestTheOutageHasItsBounds(t *testing.T) {
	far, days := 200.0, 400
	for field, o := range map[string]Outage{
		"outage.route":             {Route: "by night"},
		"outage.day":               {Day: "monday"},
		"outage.start":             {Start: "8 o'clock"},
		"outage.latitude":          {Latitude: &far},
		"outage.longitude":         {Longitude: &far},
		"outage.leadDays":          {LeadDays: &days},
		"outage.crew":              {Crew: 11},
		"outage.temporary[0].what": {Temporary: []Temporary{{}}},
		"outage.weather.windMS":    {Weather: Weather{WindMS: func() *float64 { v := -1.0; return &v }()}},
	} {
		assert.Equal(t, field, says(o.Validate(known)))
	}
	require.NoError(t, Outage{Route: "operator", Start: "07:30", Day: "2026-06-01"}.Validate(known))
	for text, want := range map[string]float64{"00:00": 0, "08:30": 8.5, "23:59": 23 + 59.0/60} {
		h, ok := ClockH(text)
		assert.True(t, ok)
		assert.InDelta(t, want, h, 1e-9)
		assert.Equal(t, text, Clock(h), "it is written as it was read")
	}
	assert.Equal(t, "01:15 next day", Clock(25.25))
}

func TestOutdoorWorksHaveTheirBounds(t *testing.T) {
	ohms := 20.0
	run := func(s RunStretch) Outdoor {
		return Outdoor{Runs: []Run{{ID: "t", Name: "t", Kind: Trench, Stretches: []RunStretch{s}}}}
	}
	require.NoError(t, run(RunStretch{LengthM: 1, Surface: "lawn"}).Validate(known))
	for field, o := range map[string]Outdoor{
		"outdoor.runs[0].stretches[0].surface": run(RunStretch{LengthM: 1, Surface: "moon"}),
		"outdoor.runs[0].stretches[0].bendDeg": run(RunStretch{LengthM: 1, BendDeg: 270}),
		"outdoor.runs[0].kind":                 {Runs: []Run{{ID: "t", Name: "t", Kind: "tunnel"}}},
		"outdoor.runs[0].found[0].option": {Runs: []Run{{ID: "t", Name: "t", Kind: Trench,
			Found: []Obstruction{{What: "x", LengthM: 1, Option: "fly"}}}}},
		"outdoor.electrodes.soil":         {Electrodes: Electrodes{Soil: "cheese"}},
		"outdoor.electrodes.method":       {Electrodes: Electrodes{Measured: Fact{Value: &ohms, Basis: Measured}}},
		"outdoor.electrodes.rods[0].rock": {Electrodes: Electrodes{Rods: []PlacedRod{{LengthM: 2, DiameterMM: 16, Mode: "slant"}}}},
	} {
		assert.Equal(t, field, says(o.Validate(known)))
	}
	require.NoError(t, Outdoor{Electrodes: Electrodes{Rods: []PlacedRod{{LengthM: 2, DiameterMM: 16, Mode: "flat",
		Rock: true}}}}.Validate(known))
}

func TestRecordsOfTheSurvey(t *testing.T) {
	v := 230.0
	hash := strings.Repeat("a", 64)
	for field, r := range map[string]Record{
		"observation.subject":       {Kind: Observation, Subject: "ghost", Path: "C1", Evidence: "seen", Note: "n"},
		"observation.evidence":      {Kind: Observation, Subject: "no-bonding", Path: "C1", Evidence: "rumour", Note: "n"},
		"observation.note":          {Kind: Observation, Subject: "no-bonding", Path: "C1", Evidence: "seen"},
		"observation.risk":          {Kind: Observation, Subject: "other", Path: "C1", Evidence: "seen", Note: "n", Mend: "m"},
		"survey-reading.value":      {Kind: SurveyReading, Subject: "voltage", Place: "board", Instrument: "t"},
		"survey-reading.instrument": {Kind: SurveyReading, Subject: "voltage", Place: "board", Value: &v},
		"decision.path":             {Kind: Decision, Subject: "x", Path: "shrugs", Person: "p"},
		"scope.person":              {Kind: Scope},
		"variation.note":            {Kind: Variation, Person: "p"},
		"photo.reference":           {Kind: Photo, Subject: "r", Reference: "abc"},
		"operator.called":           {Kind: Operator, Path: "booked", Reference: "r", Person: "p", Called: "this morning"},
		"finding-step.person":       {Kind: FindingStep, Subject: "x", Path: Told, Note: "rang"},
		"finding-step.signed":       {Kind: FindingStep, Subject: "x", Path: Noticed, Person: "p"},
		"finding-step.called":       {Kind: FindingStep, Subject: "x", Path: Reported, Person: "p"},
		"release.note":              {Kind: Release, Subject: "cutoff:parts"},
		"operator.path":             {Kind: Operator, Path: "whispered", Reference: "r", Person: "p", Called: "2026-05-04T09:30"},
	} {
		assert.Equal(t, field, says(r.Validate(known)))
	}
	for field, r := range map[string]Record{
		"operator.person":     {Kind: Operator, Path: "booked", Reference: "r", Called: "2026-05-04T09:30"},
		"operator.called":     {Kind: Operator, Path: "booked", Reference: "r", Person: "p"},
		"decision.note":       {Kind: Decision, Subject: "x", Path: "declined", Person: "p", Signed: true},
		"decision.signed":     {Kind: Decision, Subject: "x", Path: "declined", Person: "p", Note: "no money"},
		"finding-step.person": {Kind: FindingStep, Subject: "x", Path: MadeSafe, Note: "capped"},
		"loose-end.note":      {Kind: LooseEnd, Subject: "x", Done: true},
	} {
		assert.NoError(t, r.Validate(known), "%s: a file of an older version may hold it", field)
		assert.Equal(t, field, says(r.Complete()))
	}
	for _, r := range []Record{
		{Kind: Observation, Subject: "other", Path: "C2", Evidence: "told", Note: "n", Risk: "r", Mend: "m"},
		{Kind: SurveyReading, Subject: "voltage", Place: "board", Value: &v, Instrument: "t"},
		{Kind: Decision, Subject: "x", Path: "later", Person: "p"}, {Kind: Photo, Subject: "r", Reference: hash},
		{Kind: Operator, Path: "booked", Reference: "r", Person: "p", Called: "2026-05-04T09:30"},
	} {
		assert.NoError(t, r.Validate(known), r.Kind)
	}
}
