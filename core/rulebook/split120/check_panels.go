package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// panelFeeds judges the bars of each further panel, and of the main one where the job puts it in, against the device that protects them:
// its own main breaker or the one of its feeder, whichever is smaller.
func (s *system) panelFeeds() {
	for b := range s.Job.EachBoard() {
		feeder := s.Circuit(b.Feed)
		made := b.New || feeder != nil && feeder.State == install.NewCircuit
		if b.Main() && !b.New || !b.Main() && !made && !b.RatingA.Known() {
			continue
		}
		k := s.Of(b.ID)
		k.Title = "Bars of " + b.Name
		k.From(clausePanel.in(s.code))
		bars := rulebook.UseFact(k, "rating of the bars of "+b.Name, b.RatingA)
		ahead := 0.0
		switch {
		case feeder != nil:
			ahead = k.Step("ahead", "breaker of "+feeder.Name, "", feeder.Protection.RatingA, "A", "")
		case s.Job.Chain.Enclosure(b.Enclosure) != nil && s.Job.Chain.Enclosure(b.Enclosure).Feed.DeviceA.Known():
			ahead = k.Step("ahead", "device that protects its feeder", "", s.Job.Chain.Enclosure(b.Enclosure).Feed.DeviceA.V(), "A", "")
		case b.MainSwitchA.Known(): // judged below by its own main
		default:
			ahead = rulebook.UseFact(k, "service rating", s.rating())
		}
		if len(k.Missing) > 0 {
			continue
		}
		protects := ahead
		if b.MainSwitchA.Known() {
			own := k.Step("main", "its own main breaker", "", b.MainSwitchA.V(), "A", "")
			if protects == 0 || own < protects {
				protects = own
			}
		}
		k.Max(protects, bars)
		k.Summary = text("Bars of ", bars, " A behind ", protects, " A.")
	}
}

// panelJoints judges whether neutral and ground are joined in a panel: only at the service, so that grounds lie on the neutral bar only
// there.
func (s *system) panelJoints() {
	for b := range s.Job.EachBoard() {
		if b.Main() || b.Enclosure != "" || b.Joined == nil && !b.New {
			continue // of an enclosure of the one-line it is said there
		}
		k := s.Of(b.ID)
		k.Title = "Neutral and ground in " + b.Name
		k.From(clausePanelJoint.in(s.code))
		if b.Joined == nil {
			k.AddMissing("whether neutral and ground are joined in " + b.Name + ": bonding screw or strap out, grounds on a bar of their own")
			continue
		}
		k.Decide(!*b.Joined)
		k.Summary = "Neutral apart from ground: four wires to it, grounds on a bar of their own."
		if *b.Joined {
			k.Summary = "Neutral and ground are joined in it: the current of the neutral takes the grounds and metal too. Bonding screw or strap out, " +
				"grounds on a bar of their own, and a feeder with its own ground."
		}
	}
}

// panelPoles counts the poles on each panel against what its manufacturer lists it for.
func (s *system) panelPoles() {
	for b := range s.Job.EachBoard() {
		if b.MostCircuits == 0 {
			continue
		}
		k := s.Of(b.ID)
		k.Title = "Breakers on " + b.Name
		k.From(clausePanelPoles.in(s.code))
		poles := 0
		for _, c := range s.Job.On(b) {
			if c.Protection.Way > 0 && !c.Protection.OwnEnclosure {
				poles += max(1, c.Protection.Poles)
			}
		}
		for _, w := range b.Ways {
			if (w.Label != "" || w.Device != "") && w.Circuit == "" {
				poles += max(1, w.Poles)
			}
		}
		n := k.Step("poles", "of all breakers on it", "", float64(poles), "", "")
		k.Max(n, float64(b.MostCircuits))
		k.Summary = text(poles, " poles of the ", b.MostCircuits, " that it is listed for.")
	}
}
