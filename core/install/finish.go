package install

import "arvelt/core/words"

// Finish is that of the plates that are seen of accessories.
type Finish string

// The finishes.
const (
	White  Finish = "white"
	Steel  Finish = "steel"
	Chrome Finish = "chrome"
	Brass  Finish = "brass"
	Black  Finish = "black"
)

// Finishes lists them.
var Finishes = []Finish{White, Steel, Chrome, Brass, Black}

var finishNames = map[Finish]words.Key{White: words.Key("white"), Steel: words.Key("brushed steel"), Chrome: words.Key("polished chrome"),
	Brass: words.Key("brass"), Black: words.Key("black plastic")}

// Name is what a finish is called.
func (f Finish) Name(w *words.Catalogue) string { return w.Say(string(finishNames[f])) }

// Metal reports whether plates of it are of metal, which is earthed.
func (f Finish) Metal() bool { return f == Steel || f == Chrome || f == Brass }

// FinishIn is the finish of the plates of a room: its own, else that of the house, else white.
func (j *Job) FinishIn(room string) Finish {
	if r := j.RoomByID(room); r != nil && r.Finish != "" {
		return r.Finish
	}
	if j.Materials.Finish != "" {
		return j.Materials.Finish
	}
	return White
}
