package install

// Core is a hole that is cored through a wall, a floor or a ceiling of a room. Its place is measured on both sides from the same mark.
type Core struct {
	ID      string  `json:"id" shape:"id"`
	Wall    string  `json:"wall" chars:"80" needed:"yes"` // as the points of the room name it
	Circuit string  `json:"circuit" chars:"40"`           // id of the one whose cable goes through; empty for none
	BoreMM  float64 `json:"boreMM" range:"6..300" unit:"mm"`
	ThickMM float64 `json:"thickMM" range:"10..2000" unit:"mm" zero:"or 0 when not measured"`
	// Mark is what both sides are measured from; empty: the left end of the wall and the finished floor, as its points are.
	Mark    string  `json:"mark" chars:"80"`
	AlongMM float64 `json:"alongMM" range:"0..30000" unit:"mm" zero:"or 0 when not measured"`
	UpMM    float64 `json:"upMM" range:"0..12000" unit:"mm" zero:"or 0 when not measured"`
	// The same place from the other side.
	OutAlongMM float64 `json:"outAlongMM" range:"0..30000" unit:"mm" zero:"or 0 when not measured"`
	OutUpMM    float64 `json:"outUpMM" range:"0..12000" unit:"mm" zero:"or 0 when not measured"`
	Outside    bool    `json:"outside"` // it is cored from the other side, else from inside
	Behind     Behind  `json:"behind" of:"behinds?"`
	Dust       Dust    `json:"dust" of:"dusts?"`
}

// Behind is what was found behind the place of a hole. The zero value is that nobody looked.
type Behind string

// What may be behind it.
const (
	BehindClear    Behind = "clear"    // another room, nothing in the way
	BehindOutdoors Behind = "outdoors" // outdoors, nothing in the way
	BehindCable    Behind = "cable"
	BehindPipe     Behind = "pipe"
	BehindSteel    Behind = "structure" // a lintel, a beam or a tie
)

// Behinds lists them.
var Behinds = []Behind{BehindClear, BehindOutdoors, BehindCable, BehindPipe, BehindSteel}

// InTheWay reports whether it is something that is not drilled into.
func (b Behind) InTheWay() bool { return b == BehindCable || b == BehindPipe || b == BehindSteel }

// Dust is how the dust of a hole is held.
type Dust string

// How it may be held.
const (
	DustMasked    Dust = "masked"    // the hole and what is below it are covered
	DustExtracted Dust = "extracted" // by extraction at the bit
	DustWet       Dust = "wet"       // by water, which is caught
)

// Dusts lists them.
var Dusts = []Dust{DustMasked, DustExtracted, DustWet}

// TimberCut are alike holes or notches in joists, studs or plates of a room.
type TimberCut struct {
	ID      string  `json:"id" shape:"id"`
	Place   string  `json:"place" chars:"120" needed:"yes"`                                    // which of them
	Notch   bool    `json:"notch"`                                                             // in the top edge, else a hole on the middle line
	SizeMM  float64 `json:"sizeMM" range:"3..150" unit:"mm"`                                   // diameter of the hole, or depth of the notch
	DepthMM float64 `json:"depthMM" range:"40..600" unit:"mm" zero:"or 0 when not measured"`   // of the timber
	SpanMM  float64 `json:"spanMM" range:"200..12000" unit:"mm" zero:"or 0 when not measured"` // between its supports
	// FromMM is how far it is from the nearer support.
	FromMM float64 `json:"fromMM" range:"0..6000" unit:"mm"`
	// Made: no solid timber: an I-joist, a truss, a laminated beam. Allowed is the chart of its maker, or who engineers it, that allows the cut.
	Made    bool   `json:"made"`
	Allowed string `json:"allowed" chars:"200"`
}

// Cored reports whether a hole is on record through which the cable of a circuit goes.
func (j *Job) Cored(circuit string) bool {
	for i := range j.Rooms {
		for n := range j.Rooms[i].Cores {
			if j.Rooms[i].Cores[n].Circuit == circuit {
				return true
			}
		}
	}
	return false
}
