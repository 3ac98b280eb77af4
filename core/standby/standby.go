// Package standby steps through the loss and the return of a supply with a source of
// the customer's own behind a transfer switch: what happens when, which side feeds the
// load, and what is dark meanwhile.
//
// It knows no rulebook. What a practice asks of such a source (that an automatic one
// carries everything it is switched to, where neutral and earth join) is a check of
// that practice.
package standby

import (
	"math"
	"slices"

	"arvelt/core/install"
	"arvelt/core/words"
)

// The positions of the switch, and what feeds the load.
const (
	Utility = "utility"
	Source  = "source"
	None    = "none"
)

// Frame is one moment of the sequence; it holds until the next.
type Frame struct {
	AtS     float64  `json:"atS"` // seconds after the loss
	Title   string   `json:"title"`
	Summary string   `json:"summary"`
	Supply  bool     `json:"supply"`  // the utility's supply is there
	Running bool     `json:"running"` // the source runs
	Switch  string   `json:"switch"`  // which side the switch stands on
	Fed     string   `json:"fed"`     // what feeds the load: utility, source or none
	LoadVA  float64  `json:"loadVA"`  // on the source
	PeakVA  float64  `json:"peakVA"`  // while the last motor put on it starts
	On      []string `json:"on"`      // loads on the source
	Waiting []string `json:"waiting"` // held back by load management
	Over    bool     `json:"over"`    // more than the source can carry
}

// Run is the whole sequence.
type Run struct {
	Frames  []Frame `json:"frames"`
	DarkS   float64 `json:"darkS"` // from the loss until the source feeds, s
	AfterS  float64 `json:"afterS"`
	Summary string  `json:"summary"` // why there is none
}

// backS is when the supply returns in the sequence: an hour after the loss, or later
// where the source takes longer to be there.
const backS = 3600.0

// Of steps through the loss and the return. The loads go on in the order given; one
// that load management holds back goes on when there is room for its start.
func Of(w *words.Catalogue, s install.Standby) Run {
	if s.Source == "" {
		return Run{Frames: []Frame{}, Summary: w.Say("No source of one's own is entered.")}
	}
	r := Run{DarkS: s.SenseS + s.CrankS + s.WarmS + s.SwitchS, AfterS: s.ReturnS + s.SwitchS + s.CoolS}
	at := 0.0
	f := Frame{Switch: Utility, Fed: None, On: []string{}, Waiting: []string{}}
	add := func(title, says string) {
		f.AtS, f.Title, f.Summary = at, title, says
		kept := f
		kept.On, kept.Waiting = slices.Clone(f.On), slices.Clone(f.Waiting)
		r.Frames = append(r.Frames, kept)
	}
	lost := w.Say("Everything is dark. A person waits %v s, so that a blink starts nothing.", s.SenseS)
	back := w.Say("A person waits %v s to see that it stays. The source goes on feeding.", s.ReturnS)
	if s.Automatic {
		lost = w.Say("Everything is dark. The switch watches for %v s, so that a blink starts nothing.", s.SenseS)
		back = w.Say("The switch waits %v s to see that it stays. The source goes on feeding.", s.ReturnS)
	}
	add(w.Say("The supply is lost"), lost)
	at += s.SenseS
	f.Running = true
	add(w.Say("The source starts"), w.Say("It cranks for about %v s.", s.CrankS))
	at += s.CrankS
	add(w.Say("It warms up"), w.Say("Voltage and frequency settle for %v s. The load is still dark.", s.WarmS))
	at += s.WarmS
	f.Switch = None
	add(w.Say("The switch opens towards the utility"),
		w.Say("First the utility's side opens, then the source's closes: never both. Nobody on the line is fed from here."))
	at += s.SwitchS
	f.Switch, f.Fed = Source, Source
	waiting := []install.Carry{}
	on := func(l install.Carry) {
		f.PeakVA = f.LoadVA + math.Max(l.StartVA, l.RunVA)
		f.LoadVA += l.RunVA
		f.On = append(f.On, l.Name)
		f.Over = s.SourceVA > 0 && f.LoadVA > s.SourceVA
	}
	for _, l := range s.Carries {
		if l.Shed {
			waiting = append(waiting, l)
			f.Waiting = append(f.Waiting, l.Name)
			continue
		}
		on(l)
	}
	says := w.Say("Dark for %v s in all. %v VA of %v VA.", r.DarkS, f.LoadVA, s.SourceVA)
	if f.Over {
		says += " " + w.Say("That is more than the source carries: it slows down, trips or stalls. Take something off it, or let "+
			"it be managed.")
	}
	add(w.Say("The source feeds what it is switched to"), says)
	for _, l := range waiting {
		if s.SourceVA > 0 && f.LoadVA+math.Max(l.StartVA, l.RunVA) > s.SourceVA {
			continue
		}
		at += 10
		on(l)
		f.Waiting = slices.DeleteFunc(f.Waiting, func(n string) bool { return n == l.Name })
		add(w.Say("%s is let on", l.Name), w.Say("There is room for its start: %v VA, then %v "+
			"VA of %v VA.", f.PeakVA, f.LoadVA, s.SourceVA))
	}
	at = math.Max(backS, at)
	f.Supply, f.PeakVA = true, 0
	add(w.Say("The supply comes back"), back)
	at += s.ReturnS
	f.Switch, f.Fed = None, None
	add(w.Say("The load goes back"), w.Say("The source's side opens, then the utility's closes: dark for %v s.", s.SwitchS))
	at += s.SwitchS
	f.Switch, f.Fed, f.LoadVA, f.On, f.Waiting, f.Over = Utility, Utility, 0, []string{}, []string{}, false
	add(w.Say("It cools down"), w.Say("It runs %v s without load.", s.CoolS))
	at += s.CoolS
	f.Running = false
	add(w.Say("It stands by again"), w.Say("Ready for the next loss: fuel, battery and the switch in automatic are looked at."))
	return r
}
