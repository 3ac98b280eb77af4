package install

// SharedNeutral is of a circuit of two lines that share one neutral, and how they open.
type SharedNeutral struct {
	Is bool `json:"is"`
	// Opens is how its lines open; empty while nobody looked.
	Opens Opening `json:"opens" of:"openings?"`
	// SecondWay is the way on which the device of the second line stands; 0 where it is that of the second pole of one device.
	SecondWay int `json:"secondWay" range:"0..60"`
}

// Opening is how the lines of a shared neutral open.
type Opening string

// The ways in which they open.
const (
	OpensTogether Opening = "common" // one device that opens all of them
	OpensTied     Opening = "tie"    // devices of one pole whose handles an identified tie joins
	OpensApart    Opening = "apart"  // each by itself
)

// Openings lists them.
var Openings = []Opening{OpensTogether, OpensTied, OpensApart}

// Line is which of the lines of a circuit feeds a box.
type Line string

// The lines of a circuit with a shared neutral.
const (
	LineUnsaid Line = ""
	FirstLine  Line = "a"
	SecondLine Line = "b"
	BothLines  Line = "both" // each half of a yoke by one, or what works between them
)

// Lines lists them.
var Lines = []Line{FirstLine, SecondLine, BothLines}

// SecondWay is the way of the second line of a circuit with a shared neutral.
func (t *Terms) SecondWay(k *Circuit) int {
	if n := k.Protection.Shared.SecondWay; n > 0 {
		return n
	}
	if ways := t.WaysOf(k.Protection.Way, 2); len(ways) > 1 {
		return ways[1]
	}
	return 0
}

// shared holds a shared neutral to two poles, and to a practice that has two legs.
func (c *checker) shared(d *Protection, t *Terms) {
	s := &d.Shared
	switch {
	case s.Is && !t.SharesNeutral:
		c.say("protection.shared.is", true, c.w.Say("no: only the two legs of a split-phase supply share a neutral"))
	case s.Is && d.Poles != 2:
		c.say("protection.poles", d.Poles, c.w.Say("2, as its two lines share one neutral"))
	case s.SecondWay > 0 && (s.SecondWay == d.Way || d.Way == 0):
		c.say("protection.shared.secondWay", s.SecondWay, c.w.Say("another way than that of the first line, or 0 for one device of two poles"))
	}
	if d.Half != WholeWay && (t.Columns != 2 || d.Poles > 1) {
		c.say("protection.half", string(d.Half), c.w.Say("nothing: only a breaker of one pole is made in half-size"))
	}
}
