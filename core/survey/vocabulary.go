// Package survey is the walk through a house: the shorthand it is typed in, the
// tally of what was counted, what a typical room of its kind has that this one
// lacks, and the case that findings make for the work.
//
// The shorthand is a small grammar of our own (see [Guide]). Reading it never
// fails and never drops a character: what is not understood is kept as it was
// typed, marked, with the nearest word that would be.
package survey

import (
	"embed"
	"slices"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/words"
)

//go:embed data/*.csv
var dataFiles embed.FS

var (
	kindTable      = table.LoadOf[kindRow](dataFiles, "kinds")
	roomTable      = table.LoadOf[roomRow](dataFiles, "rooms")
	floorTable     = table.LoadOf[floorRow](dataFiles, "floors")
	switchingTable = table.LoadOf[switchingRow](dataFiles, "switching")
	heightTable    = table.LoadOf[heightRow](dataFiles, "heights")
	typicalTable   = table.LoadOf[typicalRow](dataFiles, "typical")
)

// Kind is one kind of point.
type Kind struct {
	ID       string
	Family   string
	Word     string // the one that is written back
	Own      bool   // has a circuit of its own
	ExtraLow bool
	Switched bool
	Box      install.BoxDevice // what stands on the run of its circuit; empty for extra-low voltage
	Loses    Loss              // what goes with it when its circuit is dead; empty for nothing that is missed
	// Plate is the opening of the plate over it; empty where none is seen.
	Plate Opening
	// Recessed: a luminaire that is pushed up into a hole in the ceiling.
	Recessed bool
	// BuiltIn: an appliance that is pushed in before its connection.
	BuiltIn bool
}

// Opening is what the plate over a thing lets through, those of things side by side joined by +.
type Opening string

// openingNames are the openings of plates by name.
var openingNames = map[Opening]words.Key{
	"single": words.Key("one round opening"), "duplex": words.Key("duplex opening"), "rectangular": words.Key("rectangular opening"),
	"toggle": words.Key("toggle opening"), "blank": words.Key("blank"),
}

// Name says what is let through.
func (o Opening) Name(w *words.Catalogue) string {
	parts := strings.Split(string(o), "+")
	for i, p := range parts {
		parts[i] = w.Say(string(openingNames[Opening(p)]))
	}
	return strings.Join(parts, " + ")
}

// OwnPlate is of a thing that comes with its plate in every practice.
const OwnPlate Opening = "own"

// BoxOf is what a kind of point is on the run of its circuit; empty for extra-low voltage.
func BoxOf(kind string) install.BoxDevice { return kindByID[kind].Box }

// Recessed reports whether a kind of point is a luminaire that is pushed up into a hole in the ceiling.
func Recessed(kind string) bool { return kindByID[kind].Recessed }

// PlateOf is the opening over a kind of point; empty where no plate is seen.
func PlateOf(kind string) Opening { return kindByID[kind].Plate }

// Loss is what a room loses with a circuit.
type Loss string

// What it may lose.
const (
	LosesLight   Loss = "light"
	LosesPower   Loss = "power"
	LosesHeating Loss = "heating"
	LosesAlarms  Loss = "alarms"
)

// Losses lists them.
var Losses = []Loss{LosesLight, LosesPower, LosesHeating, LosesAlarms}

// Kinds are the kinds of point in the order of the table.
var Kinds []Kind

var (
	kindByID  = map[string]Kind{}
	kindPlace = map[string]int{} // of a kind in Kinds
)

// Switchings are the ways of switching, and how many places each has.
var Switchings []string

// Positions is how many places a light of a switching is switched from.
var Positions = map[string]int{}

// phrase is a run of words that means one thing.
type phrase struct {
	words []string
	class string // kind, switching, state, dimmed, filler
	value string
}

// common are the phrases that every practice shares, longest first.
var common []phrase

var roomPhrases, floorMarks, floorWords []phrase

func phrases(class, value, list string) []phrase {
	var out []phrase
	for w := range strings.SplitSeq(list, "|") {
		if fields := fold(w); len(fields) > 0 {
			out = append(out, phrase{fields, class, value})
		}
	}
	return out
}

func init() {
	for r := range kindTable.Text {
		list := kindTable.Row(r).Words
		first, _, _ := strings.Cut(list, "|")
		k := Kind{ID: kindTable.Row(r).Kind, Family: kindTable.Row(r).Family, Word: first,
			Own: kindTable.Row(r).OwnCircuit, ExtraLow: kindTable.Row(r).ExtraLow,
			Switched: kindTable.Row(r).Switched, Box: install.BoxDevice(kindTable.Row(r).Box), Loses: Loss(kindTable.Row(r).Loses),
			Plate: Opening(kindTable.Row(r).Plate), Recessed: kindTable.Row(r).Recessed, BuiltIn: kindTable.Row(r).BuiltIn}
		Kinds = append(Kinds, k)
		kindPlace[k.ID], kindByID[k.ID] = len(Kinds)-1, k
		common = append(common, phrases("kind", k.ID, list)...)
	}
	for r := range switchingTable.Text {
		id := switchingTable.Row(r).Switching
		Switchings = append(Switchings, id)
		Positions[id], _ = strconv.Atoi(switchingTable.Row(r).Positions)
		common = append(common, phrases("switching", id, switchingTable.Row(r).Words)...)
	}
	common = append(common, phrases("dimmed", "", "dimmed|dimmer|dimmable|with dimmer|on dimmer")...)
	common = append(common, phrases("state", "new", "new|add|added")...)
	common = append(common, phrases("state", "kept", "keep|kept|existing|stay|as is|leave")...)
	common = append(common, phrases("state", "moved", "move|moved|relocate|relocated|shift")...)
	common = append(common, phrases("state", "removed", "remove|removed|strip out|take out|delete|disconnect")...)
	common = append(common, phrases("filler", "", "the|of|with|and|on|for|in|off|x|pcs|piece|switched|to|at|by")...)
	// Words that tell a place are kept as a note and never taken for a misspelling:
	// "right" is one letter from "light".
	common = append(common, phrases("place", "",
		"left|right|above|below|behind|near|next|door|window|wall|corner|beside|sink|basin|tub|table|desk|sofa|island|front|"+
			"back|rear|side|over|under|high|low|north|south|east|west|middle|centre|center|chimney|fireplace|stair|"+
			"wardrobe|mirror|worktop|skirting|ceiling|height|board|left hand|right hand|opposite|between|inside|"+
			"each end|both ends|each side|both sides")...)
	for r := range roomTable.Text {
		roomPhrases = append(roomPhrases, phrases("room", roomTable.Row(r).Kind, roomTable.Row(r).Words)...)
	}
	for r := range floorTable.Text {
		floorMarks = append(floorMarks, phrases("floor", floorTable.Row(r).Floor, floorTable.Row(r).Marks)...)
		floorWords = append(floorWords, phrases("floor", floorTable.Row(r).Floor, floorTable.Row(r).Words)...)
	}
	for _, list := range []*[]phrase{&common, &roomPhrases, &floorWords} {
		longestFirst(*list)
	}
}

func longestFirst(list []phrase) {
	slices.SortStableFunc(list, func(a, b phrase) int { return len(b.words) - len(a.words) })
}

// KindOf returns a kind of point by its id.
func KindOf(id string) (Kind, bool) {
	k, ok := kindByID[id]
	return k, ok
}

// ChargePoint is the kind of point that charges a vehicle.
const ChargePoint = "ev"

// KindIDs lists the kinds of point.
func KindIDs() []string {
	out := make([]string, len(Kinds))
	for i, k := range Kinds {
		out[i] = k.ID
	}
	return out
}

// Name is what a practice calls a kind of point.
func Name(p *rulebook.Survey, kind string) string {
	if n := p.Names[kind]; n != "" {
		return n
	}
	return kindByID[kind].Word
}

// Placing says what a point of the walk becomes on the run of a circuit.
func Placing(p *rulebook.Survey) func(*install.Room, *install.RoomPoint) install.Placing {
	return func(r *install.Room, pt *install.RoomPoint) install.Placing {
		height := pt.HeightMM
		if height == 0 {
			height = p.HeightMM[pt.Kind]
		}
		return install.Placing{Name: Name(p, pt.Kind), Device: kindByID[pt.Kind].Box, Height: height, Place: p.Places[r.Kind]}
	}
}

// RoomKind is a kind of room.
type RoomKind struct {
	ID        string `json:"id"`
	Name      string `json:"name"`
	Forgotten bool   `json:"forgotten"`
}

// RoomKinds lists the kinds of room.
func RoomKinds() []RoomKind {
	var out []RoomKind
	for r := range roomTable.Text {
		out = append(out, RoomKind{roomTable.Row(r).Kind, roomTable.Row(r).Name, roomTable.Row(r).Forgotten})
	}
	return out
}

// Floors lists the floors that have a mark of their own, from the lowest.
func Floors() []string {
	var out []string
	for r := range floorTable.Text {
		out = append(out, floorTable.Row(r).Floor)
	}
	return out
}

// fold turns text into the words that are compared: lower case, hyphens as
// spaces, a plural s dropped.
func fold(text string) []string {
	var out []string
	for w := range strings.FieldsSeq(strings.NewReplacer("-", " ", "–", " ", "_", " ").Replace(strings.ToLower(text))) {
		out = append(out, singular(w))
	}
	return out
}

func singular(w string) string {
	w = strings.TrimSuffix(w, ".")
	switch {
	case len(w) > 4 && strings.HasSuffix(w, "ches"), len(w) > 4 && strings.HasSuffix(w, "shes"), len(w) > 4 && strings.HasSuffix(w, "xes"):
		return w[:len(w)-2]
	case len(w) > 4 && strings.HasSuffix(w, "ies"):
		return w[:len(w)-3] + "y"
	case len(w) > 3 && strings.HasSuffix(w, "s") && !strings.HasSuffix(w, "ss") && !strings.HasSuffix(w, "us"):
		return w[:len(w)-1]
	}
	return w
}
