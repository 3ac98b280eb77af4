package rulebook

import (
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
)

// Parting is a conductor that is parted for a test, until somebody records that it is connected again. ID is among those of
// [arvelt/core/proving.Conductor].
type Parting struct{ ID, Name string }

// The conductors of an installation that a test parts. Behind a colon stands what they are of.
const (
	PartedEarth     = "earth"     // the main earthing conductor
	PartedBond      = "bond"      // a main bonding conductor, by the service that it bonds
	PartedElectrode = "electrode" // the conductor to the electrode of a circuit, or without one of the installation
	PartedNeutral   = "neutral"   // the neutral that feeds an enclosure or board
	PartedNeutrals  = "neutrals"  // those of the circuits at a board, which has no id where it is the main one
	PartedSurge     = "surge"     // the surge protective devices
)

// SourceWords are what a practice calls what the tests of a standby source name.
type SourceWords struct{ Supply, Earth string }

// SourceTests are the dead tests of a standby source: that its changeover parts it from the supply in each position (BS 7671 551.6.1 and 551.2;
// NEC 702.5), and that neutral and earth are joined at it just as it runs islanded (BS 7671 551.4.3.2.1; NEC 250.30, 250.35). joined says
// whether they must be; where missing is not empty, that is what must be known first. They are of the source: nothing else waits for them.
func SourceTests(job *install.Job, w SourceWords, joined bool, missing string) []Test {
	var out []Test
	if job.Standby.Source == "" {
		return nil
	}
	for i := range job.Chain.Enclosures {
		e := &job.Chain.Enclosures[i]
		if e.SwitchesN == nil {
			continue
		}
		what, want := "Every line", "no joint: the only one is that of the "+w.Supply
		if *e.SwitchesN {
			what = "Every line and the neutral"
		}
		if joined {
			want = "joined once, at the source"
		}
		out = append(out, Test{ID: "changeover:" + e.ID, Title: fmt.Sprintf("%s parts the %s from the %s", e.Name, job.Standby.Source, w.Supply),
			YesNo: true, OfSource: true, Judge: YesNo,
			Where: what + " reads open between the two in each position, and while it moves. By hand where it moves by itself, its control off."})
		out = append(out, Test{ID: "source-joint:" + e.ID, Title: fmt.Sprintf("Neutral and %s of the %s while it runs islanded", w.Earth, job.Standby.Source),
			YesNo: true, OfSource: true, Missing: missing, Judge: YesNo,
			Where: fmt.Sprintf("%s on the source: from its neutral to %s. As it must be: %s.", e.Name, w.Earth, want)})
	}
	return out
}

// LossOfMains is the live test of a source that runs in parallel with the supply: that it stops when the supply is gone (BS 7671 551.7.4;
// NEC 705.40).
func LossOfMains(k *install.Circuit, title, supply string) Test {
	return Test{ID: "loss-of-mains", Circuit: k.ID, Title: title, YesNo: true, Judge: YesNo,
		Where: "Open the main switch while it feeds: it stops at once, as its certificate says, and nothing of the house stays live; close it: " +
			"it waits and comes back. The " + supply + "'s side was never fed."}
}

// Clamped reports whether the conductor is of earth, bonding or neutral: none of these is parted before its current is clamped.
func (p Parting) Clamped() bool {
	kind, _, _ := strings.Cut(p.ID, ":")
	switch kind {
	case PartedEarth, PartedBond, PartedElectrode, PartedNeutral, PartedNeutrals:
		return true
	}
	return false
}

// Opens are all conductors that taking a reading opens, those that are back with it among them.
func (t *Test) Opens(r *install.Record) []Parting {
	if strings.TrimSpace(r.CouldNot) != "" {
		return nil
	}
	return append(slices.Clone(t.Briefly), t.Parts(r)...)
}

// Parts are the conductors that taking a reading parts, none where it could not be taken.
func (t *Test) Parts(r *install.Record) []Parting {
	if t.Parting == nil || strings.TrimSpace(r.CouldNot) != "" {
		return nil
	}
	return t.Parting(r)
}

// Parted is of a test that parts the same conductors whatever it reads.
func Parted(all ...Parting) func(*install.Record) []Parting {
	return func(*install.Record) []Parting { return all }
}
