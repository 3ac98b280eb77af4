package survey

import (
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/words"
)

// SwitchPart is what is fitted at a position from which lights are switched.
type SwitchPart string

// What is fitted there.
const (
	OneWaySwitch       SwitchPart = "one-way"
	TwoWaySwitch       SwitchPart = "two-way"
	IntermediateSwitch SwitchPart = "intermediate"
	DimmerSwitch       SwitchPart = "dimmer"
	SensorSwitch       SwitchPart = "sensor"
)

// SwitchParts are the parts in the order in which they are listed, each with its name.
var SwitchParts = []struct {
	ID   SwitchPart
	Name words.Key
}{
	{OneWaySwitch, words.Key("One-way switch")}, {TwoWaySwitch, words.Key("Two-way switch")},
	{IntermediateSwitch, words.Key("Intermediate switch")}, {DimmerSwitch, words.Key("Dimmer, switched two-way")},
	{SensorSwitch, words.Key("Sensor for lights")},
}

// Name is what a part is called, in the words of a practice.
func (p SwitchPart) Name(w *words.Catalogue) string {
	for i := range SwitchParts {
		if SwitchParts[i].ID == p {
			return w.Say(string(SwitchParts[i].Name))
		}
	}
	return string(p)
}

// Plate is the opening of the plate over it; empty for one that is seen itself.
func (p SwitchPart) Plate() Opening {
	switch p {
	case SensorSwitch:
		return ""
	case DimmerSwitch:
		return "rectangular"
	default:
		return "toggle"
	}
}

// controlPartsRow is a row of control_parts.
type controlPartsRow struct {
	Switching string  `col:"switching"`
	Part      string  `col:"part"`
	Count     float64 `col:"count"`
	Straps    float64 `col:"straps"`
}

var controlParts = table.LoadOf[controlPartsRow](dataFiles, "control_parts")

// Control are alike lights of a room that are switched together, and what that takes.
type Control struct {
	Room      string        `json:"room"` // by id
	RoomName  string        `json:"roomName"`
	Point     string        `json:"point"` // by id
	Lamps     int           `json:"lamps"`
	Name      string        `json:"name"`
	Switching string        `json:"switching"`
	Assumed   bool          `json:"assumed"` // nobody said how they are switched: one-way is assumed
	Positions int           `json:"positions"`
	Straps    int           `json:"straps"` // cables between positions, with a core more
	Parts     []ControlPart `json:"parts"`
	// Legs are its cables beside the run of the circuit, alike ones together.
	Legs []ControlLeg `json:"legs"`
}

// ControlLeg are alike cables of a control: how many, of how many cores beside the earth, and what these are.
type ControlLeg struct {
	Name  string `json:"name"` // from where to where
	Count int    `json:"count"`
	Cores int    `json:"cores"`
	// LengthM is that of one, m: usual in a dwelling, until somebody measures it.
	LengthM float64 `json:"lengthM"`
	Says    string  `json:"says"` // what each core is
}

// ControlPart is how many of a part.
type ControlPart struct {
	ID    SwitchPart `json:"id"`
	Name  string     `json:"name"`
	Count int        `json:"count"`
}

// ControlsOf are the controls of a room: of each entry of the walk that is switched, new or moved, its lights together. A room whose
// switches were walked one by one has none beside them.
func ControlsOf(job *install.Job, r *install.Room, p *rulebook.Survey) []Control {
	out := []Control{}
	if slices.ContainsFunc(r.Points, func(pt install.RoomPoint) bool { return kindByID[pt.Kind].Box == install.Switch }) {
		return out
	}
	for i := range r.Points {
		pt := &r.Points[i]
		kind := kindByID[pt.Kind]
		lights := kind.Loses == LosesLight
		if !kind.Switched || pt.State != install.New && pt.State != install.Moved || !lights && pt.Switching == "" {
			continue
		}
		c := Control{Room: r.ID, RoomName: r.Name, Point: pt.ID, Lamps: pt.Count, Name: Name(p, pt.Kind), Switching: pt.Switching,
			Parts: []ControlPart{}, Legs: []ControlLeg{}}
		if c.Switching == "" {
			c.Switching, c.Assumed = string(OneWaySwitch), true
		}
		dimmed := pt.Dimmed
		for n := range controlParts.Text {
			row := controlParts.Row(n)
			if row.Switching != c.Switching {
				continue
			}
			part, count := SwitchPart(row.Part), int(row.Count)
			c.Straps += int(row.Straps)
			c.Positions += count
			if dimmed && part != SensorSwitch && part != IntermediateSwitch {
				c.Parts = append(c.Parts, ControlPart{DimmerSwitch, DimmerSwitch.Name(job.Words), 1})
				dimmed = false
				count--
			}
			if count > 0 {
				c.Parts = append(c.Parts, ControlPart{part, part.Name(job.Words), count})
			}
		}
		c.legs(job.Words, p.Feed(&job.Schools))
		out = append(out, c)
	}
	return out
}

// Cables says the legs of a control as they are pulled.
func (c *Control) Cables(w *words.Catalogue) string {
	parts := make([]string, len(c.Legs))
	for i, l := range c.Legs {
		parts[i] = w.Say("%s, %d cores and earth: %s", l.Name, l.Cores, l.Says)
		if l.Count > 1 {
			parts[i] = fmt.Sprintf("%d × %s", l.Count, parts[i])
		}
	}
	return strings.Join(parts, "; ")
}

// Fittings says what stands at the positions of a control.
func (c *Control) Fittings() string {
	parts := make([]string, len(c.Parts))
	for i, p := range c.Parts {
		parts[i] = fmt.Sprintf("%d × %s", p.Count, p.Name)
	}
	return strings.Join(parts, ", ")
}

// Lengths of cables to and between the positions from which a light is switched, m: usual in a dwelling (practice of the trade).
const (
	switchLegM = 3.0
	strapM     = 6.0
)

// legs are the cables of a control, by where it is fed. A sensor works with line, neutral and switched line wherever it is fed.
func (c *Control) legs(w *words.Catalogue, feed string) {
	sensor := c.Switching == string(SensorSwitch)
	drop := ControlLeg{Name: w.Say("light to switch"), Count: 1, Cores: 2, LengthM: switchLegM, Says: w.Say("line and switched line")}
	switch {
	case sensor && feed == rulebook.FedAtSwitch:
		drop.Name, drop.Says = w.Say("sensor to light"), w.Say("switched line and neutral")
	case sensor:
		drop.Name, drop.Cores, drop.Says = w.Say("light to sensor"), 3, w.Say("line, neutral and switched line")
	case feed == rulebook.FedAtSwitch:
		drop.Name, drop.Says = w.Say("switch to light"), w.Say("switched line and neutral")
	case feed == rulebook.FedNeutral:
		drop.Cores, drop.Says = 3, w.Say("line, switched line, and a neutral that ends in the box")
	}
	c.Legs = append(c.Legs, drop)
	if c.Straps > 0 {
		strap := ControlLeg{Name: w.Say("switch to switch"), Count: c.Straps, Cores: 3, LengthM: strapM, Says: w.Say("two strappers and the common")}
		if feed == rulebook.FedAtSwitch {
			strap.Says = w.Say("two strappers and the neutral")
		}
		c.Legs = append(c.Legs, strap)
	}
}
