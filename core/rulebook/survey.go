package rulebook

import (
	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// Survey is what a practice says of a survey walk: what its points are called,
// how high they usually stand, what it asks for in a room, how findings are
// graded and which construction decides an installation method.
type Survey struct {
	// Words say what is composed of a walk, in the words of the practice.
	Words    *words.Catalogue   `json:"-"`
	Names    map[string]string  // of point kinds, where it differs from the common word
	HeightMM map[string]float64 // usual height of a point kind above the finished floor
	Box      map[string]string  // usual box
	// InsulationTests are the tests, by id, that tell how sound the insulation of a circuit still is.
	InsulationTests []string
	// SwitchFeed is from where lights and their switches are fed, of the ways below.
	SwitchFeed *install.Option
	// Kits are what a new point brings with it, by its kind.
	Kits map[string][]PointPart
	// Places are the kinds of place that decide the protection of an outlet by the kind of room, where that says it.
	Places  map[string]string
	Phrases []Phrase // words that mean something of their own here
	Sockets string   // what socket-outlets are called, in the plural; empty: sockets
	// ApartMM is the least distance of cables of extra-low voltage from those of power without a divider, mm, ApartSource where that stands.
	ApartMM     float64
	ApartSource string
	Inches      bool    // a height without a unit is in inches, otherwise mm
	Classes     []Class // of findings, the gravest first
	Asks        []Ask   // points that the practice asks for
	Fabric      []Fabric
	Colours     []Colour
	Readings    []SurveyReading
	// LowMM and HighMM are the heights within which what is switched or plugged is reached by everybody, ReachSource where they stand.
	LowMM, HighMM float64
	ReachSource   string
	Eras          []Era // what the years of building and rewiring hint at
}

// The ways of [Survey.SwitchFeed].
const (
	FedAtLight  = "light"
	FedNeutral  = "neutral" // at the light, with a neutral to the switch
	FedAtSwitch = "switch"
)

// PointPart is a part that a new point of a kind brings with it.
type PointPart struct {
	Key, Name, Rule string
	Count           float64
	// LengthM: it is a length in m, of what is cut; Duct: of the duct that was measured, where it was.
	Length, Duct bool
	// Plate: it is seen, so that it has the finish of the room.
	Plate bool
	First bool // taken at first fix, else at second
}

// Phrase is a way of switching under the practice's own name.
type Phrase struct{ Words, Switching string }

// Mark is a height or an offset as it is marked out: in millimetres, or in inches where the practice measures in them.
func (s *Survey) Mark(mm float64) string {
	if s.Inches {
		return unit.Format(unit.Significant(mm/25.4, 3)) + " in"
	}
	return unit.With(mm, "mm")
}

// DangerClass is how the practice classes what puts people at risk now.
func (s *Survey) DangerClass() string {
	for _, c := range s.Classes {
		if c.Urgency == "now" {
			return c.ID
		}
	}
	return ""
}

// Class is one severity class of a finding.
type Class struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Urgency string `json:"urgency"` // now, soon, look, advised
	Summary string `json:"summary"`
	Source  string `json:"source"`
}

// Ask is a least number of points of some kinds in a kind of room.
type Ask struct {
	Room, Why string
	Kinds     []string
	Count     int
	Source    string
	Once      bool // in one room of the kind, not in each
}

// Fabric is a construction and the installation method of a cable in it.
type Fabric struct {
	Name   string `json:"name"`
	Where  string `json:"where"` // wall, under, ceiling
	Method string `json:"method"`
	Why    string `json:"why"`
	// Chased: what runs to a point on it is sunk into it.
	Chased bool `json:"-"`
}

// Colour is what a core of a colour was, by school and era.
type Colour struct {
	Era      string `json:"era"`
	Function string `json:"function"`
	Colour   string `json:"colour"`
	Warn     string `json:"warn"`
}

// Era is what wiring of some years usually is: a hint, never a proof.
type Era struct {
	From    float64 `json:"from"` // year
	To      float64 `json:"to"`
	Summary string  `json:"summary"`
	Prove   string  `json:"prove"` // by which test
	// Tests are those of the Test sheet that prove it, by id.
	Tests []string `json:"-"`
}

// SurveyReading is a figure that may be read on the survey.
type SurveyReading struct {
	ID string `json:"id"`
	// Finding is what a figure outside its limits is a finding of.
	Finding string  `json:"-"`
	Name    string  `json:"name"`
	Unit    string  `json:"unit"`
	High    float64 `json:"high"`    // above it the reading is remarked on; 0 for no limit
	Low     float64 `json:"low"`     // below it; 0 for no limit
	Summary string  `json:"summary"` // what a reading outside says
	Source  string  `json:"source"`
}

// Apart is that distance as the practice speaks of it.
func (s *Survey) Apart() string {
	if s.Inches {
		return unit.With(unit.Significant(s.ApartMM/inchMM, 2), "in")
	}
	return unit.With(s.ApartMM, "mm")
}

const inchMM = 25.4
