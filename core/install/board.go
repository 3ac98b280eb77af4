package install

import (
	"iter"
	"slices"
	"strings"

	"arvelt/core/words"
)

// MaxBoards is how many boards a job has beside the main one.
const MaxBoards = 20

// Board is a board with its ways: the main one, or a further one that a distribution circuit of the job or an enclosure of the supply
// arrangement feeds.
type Board struct {
	// ID is empty for the main board.
	ID       string `json:"id" seal:"omitempty" chars:"40"`
	Name     string `json:"name" chars:"60" needed:"yes"`
	Location string `json:"location" chars:"200"`
	// Feed is the id of the distribution circuit that feeds a further board, Enclosure that of the enclosure of the supply
	// arrangement that the board is; a further board has one of the two.
	Feed      string `json:"feed" seal:"omitempty" chars:"40"`
	Enclosure string `json:"enclosure" seal:"omitempty" chars:"40"`
	// New: the job puts it in.
	New         bool   `json:"new" seal:"omitempty"`
	Place       string `json:"place" seal:"omitempty" of:"boardPlaces?"` // kind of place, as the practice names it; empty when not looked at
	Material    string `json:"material" chars:"60"`
	MainSwitchA Fact   `json:"mainSwitchA" range:"16..200" unit:"A"`
	// RatingA is the rated current of the board itself by its manufacturer: of its bars, or of the assembly.
	RatingA Fact  `json:"ratingA" seal:"omitempty" range:"16..400" unit:"A"`
	Ways    []Way `json:"ways" most:"60"`
	// MostCircuits is how many poles its manufacturer lists it for, and with it how many of its ways take two half-size devices; 0
	// when not read.
	MostCircuits int `json:"mostCircuits" seal:"omitempty" range:"0..84" zero:"or 0 when not read"`
	// Groups are the residual-current devices that circuits share.
	Groups []Group   `json:"groups" most:"20"`
	Space  WorkSpace `json:"space"` // to work in front of it, as measured
	// Joined: neutral and earth are joined in it; nil when nobody looked.
	Joined *bool `json:"joined" seal:"omitempty"`
	// MakerRDF is the board manufacturer's rated diversity factor, 0 when not given.
	MakerRDF float64 `json:"makerRDF" range:"0.1..1" zero:"or 0 when the manufacturer gives none"`
	// ConditionalKA is the conditional short-circuit rating that the board's manufacturer
	// declares behind the fuse that it names, kA; 0 when none is declared.
	ConditionalKA float64 `json:"conditionalKA" seal:"omitempty" range:"0..50" unit:"kA" zero:"or 0 when none is declared"`
}

// Main reports whether the board is the main one of the job.
func (b *Board) Main() bool { return b.ID == "" }

// Feeder is what the circuits of the board name as that which feeds them: its distribution circuit, or the board itself where the
// supply arrangement feeds it. Empty for the main board.
func (b *Board) Feeder() string {
	if b.Feed != "" {
		return b.Feed
	}
	return b.ID
}

// Part is the name of the part of the job that the board is.
func (b *Board) Part() string {
	if b.Main() {
		return mainBoard
	}
	return boardList + "/" + b.ID
}

const (
	mainBoard = "board"
	boardList = "boards"
)

// EachBoard goes through the boards of a job, the main one first.
func (j *Job) EachBoard() iter.Seq[*Board] {
	return func(yield func(*Board) bool) {
		if !yield(&j.Board) {
			return
		}
		for i := range j.Boards {
			if !yield(&j.Boards[i]) {
				return
			}
		}
	}
}

// BoardFedBy is the board that something feeds, as [Circuit.From] names it; nil where that feeds none that was written down.
func (j *Job) BoardFedBy(from string) *Board {
	for b := range j.EachBoard() {
		if b.Feeder() == from {
			return b
		}
	}
	return nil
}

// BoardOf is the board on which the device of a circuit stands, nil where that was not written down.
func (j *Job) BoardOf(k *Circuit) *Board { return j.BoardFedBy(k.From) }

// BoardByID returns the board or nil; the main one has the empty id.
func (j *Job) BoardByID(id string) *Board {
	for b := range j.EachBoard() {
		if b.ID == id {
			return b
		}
	}
	return nil
}

// FeederOf is the distribution circuit that feeds what a circuit hangs on, nil where that is the supply itself.
func (j *Job) FeederOf(k *Circuit) *Circuit {
	if k.From == "" {
		return nil
	}
	return j.CircuitByID(k.From)
}

// AtOrigin reports whether a circuit hangs on a board that the supply arrangement feeds and not a circuit of the job.
func (j *Job) AtOrigin(k *Circuit) bool { return k.From == "" || j.BoardByID(k.From) != nil }

// BoardIn is the board that an enclosure of the supply arrangement is, nil where none of the job was written down as it: the one that names
// it, or the main board where that names none and it is the first of the arrangement that is a board.
func (j *Job) BoardIn(enclosure string, kinds []string) *Board {
	for b := range j.EachBoard() {
		if b.Enclosure == enclosure {
			return b
		}
	}
	if j.Board.Enclosure != "" {
		return nil
	}
	for _, e := range j.Chain.Order() {
		if slices.Contains(kinds, e.Kind) && !slices.ContainsFunc(j.Boards, func(b Board) bool { return b.Enclosure == e.ID }) {
			if e.ID == enclosure {
				return &j.Board
			}
			return nil
		}
	}
	return nil
}

// WaysIn is how many ways the board has that an enclosure of the supply arrangement is, 0 where none was written down.
func (j *Job) WaysIn(enclosure string, kinds []string) int {
	if b := j.BoardIn(enclosure, kinds); b != nil {
		return len(b.Ways)
	}
	return 0
}

// On are the circuits that a board has when the work is done, in the job's order.
func (j *Job) On(b *Board) []*Circuit { return j.on(b, false) }

// on are the circuits of a board that stay on it, or those that leave it.
func (j *Job) on(b *Board, leave bool) []*Circuit {
	out := []*Circuit{}
	for i := range j.Circuits {
		if k := &j.Circuits[i]; k.From == b.Feeder() && k.State.Out() == leave {
			out = append(out, k)
		}
	}
	return out
}

// Touches reports whether a job works on a further board: it puts it in or feeds it anew, or makes or alters a circuit on it.
func (j *Job) Touches(b *Board) bool {
	if feeder := j.CircuitByID(b.Feed); b.New || feeder != nil && feeder.State != KeptCircuit {
		return true
	}
	return len(j.on(b, true)) > 0 || slices.ContainsFunc(j.On(b), func(k *Circuit) bool { return k.State != KeptCircuit })
}

// GroupOf is the residual-current device that a circuit shares with others of its board, nil where it shares none.
func (j *Job) GroupOf(k *Circuit) *Group {
	if k.Protection.Group == "" {
		return nil
	}
	if b := j.BoardOf(k); b != nil {
		return b.GroupByID(k.Protection.Group)
	}
	return nil
}

// Called is what a board is called where its name stands in a sentence.
func (b *Board) Called(w *words.Catalogue) string {
	if b.Name == "" {
		return w.Say("the board")
	}
	return b.Name
}

// Validate checks the board's ways. The error is [Errors].
func (b Board) Validate(t Terms) error {
	c := &checker{in: b.Part() + ".", w: words.In(t.Locale)}
	c.bounds(b, &t)
	seen := map[int]bool{}
	for i, w := range b.Ways {
		if seen[w.No] {
			c.say(c.item("ways", i)+"no", w.No, c.w.Say("a way number from 1 to 60 that no other way has"))
		}
		seen[w.No] = true
	}
	ids := map[string]bool{}
	for i, g := range b.Groups {
		if ids[g.ID] {
			c.say(c.item("groups", i)+"id", g.ID, c.w.Say("an id that no other group has"))
		}
		ids[g.ID] = true
	}
	return c.result()
}

// boards holds the boards of a job to what feeds them and to each other.
func (j *Job) boards(t *Terms, say func(part, field string, value any, accept string), w *words.Catalogue) {
	feeds, stands, groups := map[string]*Board{}, map[string]*Board{}, map[string]*Board{}
	for b := range j.EachBoard() {
		told := func(field string, value any, accept string) { say(b.Part(), field, value, accept) }
		switch k := j.CircuitByID(b.Feed); {
		case b.Main() && b.Feed != "":
			told("feed", b.Feed, w.Say("nothing: the main board is fed by the supply"))
		case !b.Main() && b.Feed == "" && b.Enclosure == "":
			told("feed", b.Feed, w.Say("the distribution circuit that feeds it, or the enclosure of the supply arrangement that it is"))
		case b.Feed != "" && b.Enclosure != "":
			told("enclosure", b.Enclosure, w.Say("nothing: a circuit of the job feeds it"))
		case b.Feed != "" && (k == nil || k.Use != t.Feeder):
			told("feed", b.Feed, w.Say("a distribution circuit of the job"))
			if k != nil {
				say("circuits/"+k.ID, "use", k.Use, w.Say("%s: it feeds %s", t.Feeder, b.Called(w)))
			}
		}
		if b.ID != "" && j.CircuitByID(b.ID) != nil {
			told("id", b.ID, w.Say("an id that no circuit has"))
		}
		if b.Enclosure != "" && j.Chain.Enclosure(b.Enclosure) == nil {
			told("enclosure", b.Enclosure, w.Say("an enclosure of the supply arrangement"))
			say("chain", "enclosures", b.Enclosure, w.Say("an arrangement with the enclosure that %s is", b.Called(w)))
		}
		once := func(field, id string, seen map[string]*Board) {
			if id == "" {
				return
			}
			if other := seen[id]; other != nil && other != b {
				told(field, id, w.Say("what no other board has: %s has it", other.Called(w)))
			}
			seen[id] = b
		}
		once("feed", b.Feed, feeds)
		once("enclosure", b.Enclosure, stands)
		for i := range b.Groups {
			once((&checker{}).item("groups", i)+"id", b.Groups[i].ID, groups)
		}
	}
}

// boardStays says why a further board cannot be taken off the job.
func (j *Job) boardStays(id string) string {
	b := j.BoardByID(id)
	for i := range j.Circuits {
		if k := &j.Circuits[i]; b.Feed == "" && k.From == id || b.Feed != "" && k.From == b.Feed && b.GroupByID(k.Protection.Group) != nil {
			return j.Words.Say("%s stays: %s stands on it. Move the circuit first.", b.Name, k.Name)
		}
	}
	for _, r := range j.Records {
		if strings.HasSuffix(r.Subject, ":"+id) { // a test of the board
			return j.Words.Say("%s stays: it has records (%s by %s).", b.Name, string(r.Kind), r.By)
		}
	}
	return ""
}

// Half is the half of a way on which a half-size device stands.
type Half string

// The halves of a way.
const (
	WholeWay   Half = ""
	FirstHalf  Half = "a"
	SecondHalf Half = "b"
)

// Place is a way of a board, or a half of one.
type Place struct {
	Feeder string // of the board, as [Board.Feeder] says
	Way    int
	Half   Half
}

// overlaps reports whether two places take the same part of a way.
func (p Place) overlaps(o Place) bool {
	return p.Feeder == o.Feeder && p.Way == o.Way && (p.Half == o.Half || p.Half == WholeWay || o.Half == WholeWay)
}

// PlacesOf are the places that a circuit's device takes, none where it stands on no way.
func (t *Terms) PlacesOf(k *Circuit) []Place {
	if k.Protection.Way == 0 || k.Protection.OwnEnclosure {
		return nil
	}
	out := []Place{}
	ways := t.WaysOf(k.Protection.Way, k.Protection.Poles)
	if s := &k.Protection.Shared; s.Is && s.SecondWay > 0 {
		ways = []int{k.Protection.Way, s.SecondWay}
	}
	for _, n := range ways {
		out = append(out, Place{k.From, n, k.Protection.Half})
	}
	return out
}

// slots holds the devices of circuits to places of their own.
func (j *Job) slots(t *Terms, clash func(k, other *Circuit, field string, value any, accept func(string) string), w *words.Catalogue) {
	type held struct {
		Place
		by *Circuit
	}
	taken := map[[2]any][]held{}
	for i := range j.Circuits {
		k := &j.Circuits[i]
		if j.BoardOf(k) == nil || k.State.Out() {
			continue // nobody sees its ways, or it leaves them
		}
		for _, p := range t.PlacesOf(k) {
			key := [2]any{p.Feeder, p.Way}
			for _, h := range taken[key] {
				if h.by.ID != k.ID && h.overlaps(p) {
					clash(k, h.by, "protection.way", p.Way, func(name string) string {
						return w.Say("a way that no other circuit stands on: %s stands on it", name)
					})
				}
			}
			taken[key] = append(taken[key], held{p, k})
		}
	}
}

// FreeWays lists the ways of a board that neither a device there nor a circuit of the job takes when the work is done, with every pole
// counted. A way on which one half is free is not among them.
func (t *Terms) FreeWays(job *Job, b *Board) []Way {
	taken, leaves := t.waysOf(job.on(b, false)), t.waysOf(job.on(b, true))
	for _, w := range b.Ways {
		if !w.Free() && !leaves[w.No] { // what the board says of such a way is the circuit that leaves it
			for _, n := range t.WaysOf(w.No, w.Poles) {
				taken[n] = true
			}
		}
	}
	out := []Way{}
	for _, w := range b.Ways {
		if !taken[w.No] {
			out = append(out, w)
		}
	}
	return out
}

// waysOf are the ways that the devices of circuits take, in part or whole.
func (t *Terms) waysOf(circuits []*Circuit) map[int]bool {
	out := map[int]bool{}
	for _, k := range circuits {
		for _, p := range t.PlacesOf(k) {
			out[p.Way] = true
		}
	}
	return out
}

// WayByNo returns the way or nil.
func (b *Board) WayByNo(no int) *Way {
	if i := slices.IndexFunc(b.Ways, func(w Way) bool { return w.No == no }); i >= 0 {
		return &b.Ways[i]
	}
	return nil
}
