package rulebook

import (
	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// StandbyLoad judges what a source of one's own carries against what it can, in
// volt-amperes: running, on each leg where the supply has two, and while the largest motor
// starts. One that transfers by itself must carry all of it.
func StandbyLoad(k *working.Check, b *install.Standby, legs bool, source working.Source) {
	k.Title = "Load on the " + b.Source
	k.From(source)
	sum, legA, legB, start, shed := 0.0, 0.0, 0.0, 0.0, 0.0
	for _, l := range b.Carries {
		if l.Shed && b.Automatic {
			shed += l.RunVA
			continue
		}
		sum += l.RunVA
		start = max(start, l.StartVA-l.RunVA)
		switch {
		case l.LegA && !l.LegB:
			legA += l.RunVA
		case l.LegB && !l.LegA:
			legB += l.RunVA
		default:
			legA, legB = legA+l.RunVA/2, legB+l.RunVA/2
		}
	}
	switch {
	case b.SourceVA == 0:
		k.Lacks("what the " + b.Source + " can carry")
	case len(b.Carries) == 0:
		k.Lacks("what the " + b.Source + " is to carry")
	}
	k.Step("running", "sum of what it carries at once", unit.Text(len(b.Carries), " loads"), sum, "VA", source.Ref)
	if legs {
		k.Step("leg A", "half of the source at most", unit.Text("≤ ", b.SourceVA/2), legA, "VA", "")
		k.Step("leg B", "half of the source at most", unit.Text("≤ ", b.SourceVA/2), legB, "VA", "")
	}
	if start > 0 {
		k.Step("starting", "running + the largest start above its running load", unit.Text(sum, " + ", start), sum+start,
			"VA", "trade practice")
	}
	k.Max(sum, b.SourceVA)
	k.Says = unit.Text(sum, " VA of ", b.SourceVA, " VA.")
	switch {
	case len(k.Missing) > 0:
		k.Says = ""
	case k.Verdict == working.Fail && b.Automatic:
		k.Says += " It transfers by itself: it must carry everything on it, or manage the load."
	case k.Verdict == working.Fail:
		k.Warn()
		k.Says += " Switched by hand: the person at it chooses what runs. Hang a list beside it."
	case legs && max(legA, legB) > b.SourceVA/2:
		k.Warn()
		k.Says += unit.Text(" One leg has ", max(legA, legB), " VA, more than half of the source: even them out.")
	case sum+start > b.SourceVA:
		k.Warn()
		k.Says += unit.Text(" While the largest motor starts it is ", sum+start, " VA: start it first, or soft.")
	}
	if shed > 0 {
		k.Says += unit.Text(" ", shed, " VA wait until there is room.")
	}
}
