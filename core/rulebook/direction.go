package rulebook

import "strings"

// Worse is a change of an installation for the worse.
type Worse string

// The changes for the worse that checks are held to.
const (
	DeviceLarger     Worse = "a larger device"
	CableThinner     Worse = "a thinner cable"
	RunLonger        Worse = "a longer run"
	ElectrodeHigher  Worse = "a higher electrode resistance"
	SupplyHigher     Worse = "a higher loop impedance of the supply"
	ProtectionAbsent Worse = "required protection absent"
)

// Direction says of a check which changes for the worse never turn a failure of it into
// a pass, or why there is none.
type Direction struct {
	Check  string // id, or what comes before the dash of one that is numbered or named
	Worse  []Worse
	Reason string // where Worse is empty: why no direction can be declared
}

// DirectionOf finds the declaration of a check by its id; ok is false where there is
// none.
func DirectionOf(all []Direction, id string) (d Direction, ok bool) {
	for _, d := range all {
		if d.Check == id || strings.HasSuffix(d.Check, "-") && strings.HasPrefix(id, d.Check) {
			return d, true
		}
	}
	return Direction{}, false
}
