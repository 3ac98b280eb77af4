package install

// Lamp is what a luminaire takes: cap, colour and power decide which is bought, and which left-over serves.
type Lamp struct {
	Cap     string  `json:"cap" of:"lampCaps?"`                                                    // built in where its lamps are no part of their own; empty while nobody said
	ColourK float64 `json:"colourK" range:"1800..6500" unit:"K" zero:"or 0 when not known"`        // colour temperature
	PowerW  float64 `json:"powerW" range:"0.3..300" unit:"W" zero:"or 0 when not known"`           // of one lamp
	Each    int     `json:"each" range:"1..40" unit:"lamps" zero:"or 0 for one in each luminaire"` // in one luminaire
	// Dims: its manufacturer states that it dims with such a dimmer.
	Dims bool `json:"dims" seal:"omitempty"`
	// CutOutMM is the diameter of the hole that a recessed luminaire is pushed into.
	CutOutMM float64 `json:"cutOutMM" seal:"omitempty" range:"20..400" unit:"mm" zero:"or 0 when not known"`
}

// BuiltIn is the cap of a luminaire whose light source cannot be exchanged.
const BuiltIn = "built in"

// Bought is how many lamps so many luminaires take; 0 where they take none or nobody said which.
func (l Lamp) Bought(luminaires int) int {
	if l.Cap == "" || l.Cap == BuiltIn {
		return 0
	}
	return luminaires * max(1, l.Each)
}
