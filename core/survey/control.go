package survey

import (
	"slices"

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
		c := Control{Room: r.ID, RoomName: r.Name, Point: pt.ID, Lamps: pt.Count, Name: Name(p, pt.Kind), Switching: pt.Switching, Parts: []ControlPart{}}
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
		out = append(out, c)
	}
	return out
}
