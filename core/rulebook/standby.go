package rulebook

import (
	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// StandbyLoad judges what a source of one's own carries against what it can, in
// volt-amperes: running, on each leg where the supply has two, and while the largest motor
// starts. One that transfers by itself must carry all of it.
func StandbyLoad(w *words.Catalogue, k *working.Check, b *install.Standby, legs bool, source working.Source) {
	k.Title = w.Say("Load on the %s", b.Source)
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
		k.AddMissing(w.Say("what the %s can carry", b.Source))
	case len(b.Carries) == 0:
		k.AddMissing(w.Say("what the %s is to carry", b.Source))
	}
	k.Step("running", w.Say("sum of what it carries at once"), w.Say("%v loads", len(b.Carries)), sum, "VA", source.Ref)
	if legs {
		k.Step(w.Say("leg A"), w.Say("half of the source at most"), unit.Text("≤ ", b.SourceVA/2), legA, "VA", "")
		k.Step(w.Say("leg B"), w.Say("half of the source at most"), unit.Text("≤ ", b.SourceVA/2), legB, "VA", "")
	}
	if start > 0 {
		k.Step("starting", w.Say("running + the largest start above its running load"), unit.Text(sum, " + ", start), sum+start,
			"VA", w.Say("trade practice"))
	}
	k.Max(sum, b.SourceVA)
	k.Summary = w.Say("%v VA of %v VA.", sum, b.SourceVA)
	switch {
	case len(k.Missing) > 0:
		k.Summary = ""
	case k.Verdict == working.Fail && b.Automatic:
		k.Summary += w.Say(" It transfers by itself: it must carry everything on it, or manage the load.")
	case k.Verdict == working.Fail:
		k.Warn()
		k.Summary += w.Say(" Switched by hand: the person at it chooses what runs. Hang a list beside it.")
	case legs && max(legA, legB) > b.SourceVA/2:
		k.Warn()
		k.Summary += w.Say(" One leg has %v VA, more than half of the source: even them out.", max(legA, legB))
	case sum+start > b.SourceVA:
		k.Warn()
		k.Summary += w.Say(" While the largest motor starts it is %v VA: start it first, or soft.", sum+start)
	}
	if shed > 0 {
		k.Summary += w.Say(" %v VA wait until there is room.", shed)
	}
}
