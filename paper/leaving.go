package paper

import (
	"arvelt/core/install"
)

// leaver is a circuit that is no part of the installation when the work is done, with how far it has left.
type leaver struct {
	*install.Circuit
	*install.Leaving
}

// stand takes the circuits that leave out of the job that is printed: they have pages of their own.
func (p *pack) stand() {
	for _, k := range p.v.Job.Leavers() {
		p.gone = append(p.gone, leaver{k, p.v.Job.LeavingOf(k)})
	}
	own := *p.v
	own.Job = p.v.Job.Standing()
	p.v = &own
}

// left says of each circuit that leaves what was done with it.
func (p *pack) left() (out []string) {
	for _, k := range p.gone {
		name := k.Name + when(", ", p.placed(k.Circuit))
		how := p.words.Say("taken out")
		if k.State == install.DormantCircuit {
			how = p.words.Say("left in place for later, connected to nothing")
		}
		switch {
		case k.Parted == nil:
			out = append(out, p.words.Say("%s: to be %s. Not yet proved dead: it counts as live.", name, how))
		case k.Cleared == nil:
			out = append(out, p.words.Say("%s: to be %s. Both ends proved dead and taken off by %s on %s.", name, how, k.Parted.By, p.at(k.Parted.At)))
		default:
			out = append(out, p.words.Say("%s: %s. Both ends proved dead and taken off by %s on %s; what stays in the wall is capped and labelled.",
				name, how, k.Parted.By, p.at(k.Parted.At)))
		}
	}
	return out
}

// endLabels are the labels for both ends of what stays of a circuit that leaves.
func (p *pack) endLabels(notice func(where, title, text string)) {
	for _, k := range p.gone {
		text := p.words.Say("Not yet proved dead: treat it as live.")
		if k.Parted != nil {
			text = p.words.Say("Connected at neither end. Proved dead by %s on %s. Prove it again before it is touched.", k.Parted.By, p.at(k.Parted.At))
		}
		notice(p.words.Say("both ends of the cable of %s", k.Name), p.words.Say("Not connected: %s", k.Name), text)
	}
}
