package split120

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// TestIDs names the tests that a reading may be of, in the order of the sequence:
// dead with loads disconnected, permission to energise, live. What stands behind a
// colon is the enclosure or box that it was read at.
var TestIDs = []string{
	"path", "torque", "ng", "bond-back", "hh", "hn", "hg", "insulation-hn", "insulation-hg", "ground-continuity", "three-wire", "polarity",
	"volts-ll", "volts-an", "volts-bn", "load-an", "load-bn", "tester", "trip", "arc-button", "ng-volts", "spd-light", "transfer",
	"changeover", "source-joint", "loss-of-mains", "functional", "ev-functional",
}

// What a continuity tester between two conductors says.
const (
	open   = "open"
	closed = "closed"
)

const (
	deadCaution = "Main off, locked and tagged; tester proved, every pair dead, tester proved again. Loads disconnected."
	liveCaution = "Live work: only a qualified person, rated gloves and probes, covers shut again at once."
)

// lbfInNm is a pound-force inch in newton metres.
const lbfInNm = 0.112984829

// continuity judges what a continuity tester said against what it must.
func continuity(want, why string) func(install.Record) (working.Verdict, string) {
	return func(r install.Record) (working.Verdict, string) {
		if r.Answer == want {
			return working.Pass, strings.ToUpper(want[:1]) + want[1:] + ", as it must be."
		}
		return working.Fail, why
	}
}

// pattern judges what a three-lamp tester showed at an outlet; grounded says whether
// an equipment ground is in its box.
func pattern(grounded bool) func(install.Record) (working.Verdict, string) {
	return func(r install.Record) (working.Verdict, string) {
		row := testerPatterns.Find(func(it *testerPatternsRow) bool { return it.Condition == r.Answer })
		if row < 0 {
			return working.Unknown, "The pattern is not in the table."
		}
		says := testerPatterns.Row(row).Meaning + "."
		switch {
		case r.Answer == answerCorrect && grounded:
			return working.Pass, says + " It cannot see neutral and ground swapped, nor a ground borrowed from the neutral."
		case r.Answer == answerCorrect:
			return working.Fail, "No equipment ground was found in this box, yet the tester shows one: a ground borrowed from " +
				"the neutral is a live case."
		case r.Answer == answerOpenGround && !grounded:
			return working.Pass, "As expected without an equipment ground: it stands behind ground-fault protection, labeled."
		}
		return working.Fail, says + " " + nextStep[r.Answer]
	}
}

var nextStep = map[string]string{
	"open_ground":          "Find where the ground ends: at this outlet, then box by box toward the panel.",
	"open_neutral":         "Open the circuit: look for a loose neutral here and in the box before.",
	"open_hot":             "Look for a tripped device ahead, then for a loose hot.",
	"hot_ground_reversed":  "Open the circuit at once: the case of what is plugged in is live.",
	"hot_neutral_reversed": "Brass is hot, silver is neutral: change them over.",
	"hot_on_neutral_open":  "Hot lies on the silver screw and nothing on the brass one.",
}

// Tests lists the tests of the job: with loads disconnected first, then permission,
// then live.
func (p Practice) Tests(job *install.Job, report *rulebook.Report) []rulebook.Test {
	if len(job.Circuits) == 0 && job.Kind != install.SupplyUpgrade && len(job.Surge.Devices) == 0 {
		return nil
	}
	l := testList{job: job}
	if !job.Trait().Origin {
		for i := range job.Circuits {
			l.deadOf(&job.Circuits[i], report)
			l.liveOf(&job.Circuits[i], report)
		}
		return append(l.dead, l.live...)
	}
	l.onDead(rulebook.Test{ID: "path", Title: "Path traced by eye", YesNo: true,
		Where: "From the source to every load terminal: each conductor where it belongs, nothing bare beside metal.",
		Judge: rulebook.YesNo})
	for _, t := range rulebook.TorqueTests(job, "lbf·in", lbfInNm) {
		l.onDead(t)
	}
	l.joints(p.Chain(job))
	for _, t := range sourceTests(job) {
		l.onDead(t)
	}
	for i := range job.Circuits {
		l.deadOf(&job.Circuits[i], report)
	}
	for i := range job.Boards {
		if b := &job.Boards[i]; job.Touches(b) && b.Enclosure == "" {
			l.panelJoint(b)
		}
	}
	l.volts("", "", "At the main, load side, before any branch is closed.", "At the main, load side")
	for i := range job.Boards {
		if b := &job.Boards[i]; job.Touches(b) {
			l.volts(":"+b.ID, " at "+b.Name, "At the main of "+b.Name+", or its lugs, before any of its branches is closed.",
				"At the main of "+b.Name+", or its lugs")
		}
	}
	for i := range job.Circuits {
		l.liveOf(&job.Circuits[i], report)
	}
	if len(job.Surge.Devices) > 0 {
		l.onLive(rulebook.Test{ID: "spd-light", Title: "Light of the surge device", YesNo: true,
			Where: "Seen without opening a cover.", Judge: rulebook.YesNo})
	}
	if job.Standby.Source != "" {
		l.onLive(rulebook.Test{ID: "transfer", Title: "Loss and return of the supply, tried", YesNo: true, OfSource: true,
			Where: "Open the main: the source starts and takes over; close it: the load goes back and the source cools down. The " +
				"utility's side was dead towards the line throughout.", Judge: rulebook.YesNo})
	}
	return append(l.dead, l.live...)
}

// sourceTests are those of a standby source: where the changeover switches the neutral too it is a separately derived system, joined at the
// source; else the one joint is that of the service (NEC 250.30(A), 250.35(B)).
func sourceTests(job *install.Job) []rulebook.Test {
	switched := slices.ContainsFunc(job.Chain.Enclosures, func(e install.Enclosure) bool { return e.SwitchesN != nil && *e.SwitchesN })
	return rulebook.SourceTests(job, rulebook.SourceWords{Supply: "utility", Earth: "ground"}, switched, "")
}

// testList gathers the tests: those with the supply off, then those with it on.
type testList struct {
	job        *install.Job
	dead, live []rulebook.Test
}

func (l *testList) onDead(t rulebook.Test) {
	t.Caution = deadCaution
	l.dead = append(l.dead, t)
}

func (l *testList) onLive(t rulebook.Test) {
	t.Live, t.Caution = true, liveCaution
	l.live = append(l.live, t)
}

// openOrClosed are the answers of a continuity tester.
var openOrClosed = []string{open, closed}

// joints are the tests that neutral and ground meet where they must and nowhere else.
func (l *testList) joints(chain rulebook.ChainReport) {
	bonded := false
	var joints []string
	for i := range chain.Nodes {
		n := &chain.Nodes[i]
		e := l.job.Chain.Enclosure(n.ID)
		if e.Owner != install.OwnerCustomer || n.Joint != rulebook.JointMust && n.Joint != rulebook.JointNever || e.Kind == kindGenerator {
			continue
		}
		id := "ng:" + e.ID
		t := rulebook.Test{ID: id, Title: "Neutral to ground in " + e.Name, Patterns: openOrClosed}
		if n.Joint == rulebook.JointMust {
			bonded = true
			t.Where = "With the " + n.JointName + " in place, at its neutral bar."
			t.Judge = continuity(closed, "Open where the joint belongs: a fault would have no way back and no breaker would "+
				"clear. Put the "+n.JointName+" in.")
		} else {
			t.Where = "At its neutral bar, the feeder's neutral lifted or the joint ahead opened for this test. With the reading " +
				"it is noted as left undone until somebody has put it back."
			t.Parting = feederNeutral(e.ID, e.Name)
			t.Judge = continuity(open, "Closed behind the joint: a second bond, so neutral current would flow in the ground. "+
				"Look for a screw, a strap or a neutral on the ground bar.")
		}
		l.onDead(t)
		joints = append(joints, id)
	}
	if bonded {
		l.onDead(rulebook.Test{ID: "bond-back", Title: "The main bonding jumper is in place", YesNo: true, After: joints,
			Where: "Looked at and tightened after the neutral-to-ground tests, also where it was never lifted.", Judge: rulebook.YesNo})
	}
}

// panelJoint proves that neutral and ground are apart in a panel that a feeder of the job feeds.
func (l *testList) panelJoint(b *install.Board) {
	l.onDead(rulebook.Test{ID: "ng:" + b.ID, Title: "Neutral to ground in " + b.Name, Patterns: openOrClosed,
		Where:   "At its neutral bar, the feeder's neutral lifted for this test. With the reading it is noted as left undone until somebody has put it back.",
		Parting: feederNeutral(b.ID, b.Name),
		Judge: continuity(open, "Closed behind the joint: a second bond, so neutral current would flow in the ground. "+
			"Look for a screw, a strap or a neutral on the ground bar.")})
}

// feederNeutral is the neutral that feeds an enclosure or panel, lifted, or the joint ahead of it opened, for the test of neutral to ground.
func feederNeutral(id, name string) func(*install.Record) []rulebook.Parting {
	return rulebook.Parted(rulebook.Parting{ID: rulebook.PartedNeutral + ":" + id, Name: "Feeder neutral of " + name + ", or the joint ahead of it"})
}

// neutrals are those of the circuits at the panel of a circuit, off the bar for its test.
func (l *testList) neutrals(k *install.Circuit) func(*install.Record) []rulebook.Parting {
	b := l.job.BoardOf(k)
	if b == nil {
		b = &l.job.Board
	}
	return rulebook.Parted(rulebook.Parting{ID: rulebook.PartedNeutrals + ":" + b.ID, Name: "Circuit neutrals at " + b.Called(l.job.Words)})
}

// deadOf are the tests of a circuit with the supply off.
func (l *testList) deadOf(k *install.Circuit, report *rulebook.Report) {
	if k.Use == useSurge {
		return // its device is seen with the supply on; a test voltage would only hurt it
	}
	if k.State == install.KeptCircuit {
		if l.job.Found.Doubted(k.ID) {
			l.insulation(k)
		}
		l.groundAndPolarity(k, report)
		return
	}
	if sharesNeutral(k) {
		l.onDead(rulebook.Test{ID: "shared-neutral", Circuit: k.ID, Title: "Shared neutral to the farthest box", Patterns: openOrClosed,
			Where: "From the neutral bar to the neutral of the farthest box, each device on the way unplugged from its pigtail or out of its box.",
			Judge: continuity(closed, "Open: the neutral depends on a device, or a splice was missed. "+
				"With it open the smaller load gets nearly all of 240 V.")})
	}
	short := "Closed: loads still connected, or two conductors touch. Find it before anything is energised."
	if hotsOf(k) == 2 {
		l.onDead(rulebook.Test{ID: "hh", Pierced: true, Circuit: k.ID, Title: "Hot to hot", Patterns: openOrClosed,
			Where: "At the panel, the device open, loads disconnected.", Judge: continuity(open, short)})
	}
	if neutralOf(k) {
		l.onDead(rulebook.Test{ID: "hn", Pierced: true, Circuit: k.ID, Title: "Hot to neutral", Patterns: openOrClosed,
			Where: "Every hot of it to its neutral, lamps and plugs out.", Judge: continuity(open, short)})
		if !threeWire(l.job, k) {
			l.onDead(l.neutralToGround(k))
		}
	}
	if !threeWire(l.job, k) {
		l.onDead(rulebook.Test{ID: "hg", Pierced: true, Circuit: k.ID, Title: "Hot to ground", Patterns: openOrClosed,
			Where: "Every hot of it to its ground.", Judge: continuity(open, short)})
	}
	if k.State == install.NewCircuit && insulationOption.In(&l.job.Schools) == insulationRead || l.job.Found.Doubted(k.ID) {
		l.insulation(k)
	}
	l.groundAndPolarity(k, report)
}

// threeWire reports whether the neutral of a circuit that is there is its ground too, as the code lets an existing one of a range or dryer stay.
func threeWire(job *install.Job, k *install.Circuit) bool {
	return k.Serves.ThreeWire && k.State != install.NewCircuit && codeOf(job) == NEC && neutralOf(k)
}

const clauseThreeWire = "NEC 250.140(B), 250.142(B)"

// neutralToGround is whether the neutral of a circuit is apart from its ground.
func (l *testList) neutralToGround(k *install.Circuit) rulebook.Test {
	return rulebook.Test{ID: "ng", Circuit: k.ID, Title: "Its neutral to ground", Patterns: openOrClosed,
		Where:   "The circuit's neutral off the bar.",
		Parting: l.neutrals(k),
		Judge: continuity(open, "Closed: the neutral touches ground on this circuit. A ground-fault device will not stay "+
			"in, and neutral current would flow in the ground.")}
}

// groundAndPolarity are the dead tests of what hangs on a circuit.
func (l *testList) groundAndPolarity(k *install.Circuit, report *rulebook.Report) {
	if threeWire(l.job, k) {
		l.onDead(rulebook.Test{ID: "three-wire", Circuit: k.ID, Title: "Existing three-wire circuit: its neutral is its ground", YesNo: true,
			Where: "It begins in the service panel, its neutral is 10 AWG copper or larger, insulated or in the sheath of service cable, and the frame is " +
				"bonded to it. Where any of that is not so, or the circuit is made longer or moved, it gets a ground. No ground is read, and its " +
				"neutral is joined to the frame.", Judge: func(r install.Record) (working.Verdict, string) {
				if v, says := rulebook.YesNo(r); v != working.Fail {
					return v, says
				}
				return working.Fail, "It may not stay as it is: give it a ground (" + clauseThreeWire + ")."
			}})
		return
	}
	if with, without := groundedBoxes(k); len(without) == 0 || len(with) > 0 {
		title, where := "Equipment ground to every box", "From the ground bar to each outlet and metal box."
		if len(without) > 0 {
			title, where = "Equipment ground to the boxes that have one",
				"From the ground bar to "+strings.Join(with, ", ")+". Not to "+strings.Join(without,
					", ")+": found without a ground, it stands behind ground-fault protection."
		}
		l.ground(k, report, title, where)
	}
	if k.Use == useLighting {
		l.onDead(rulebook.Test{ID: "polarity", Circuit: k.ID,
			Title: "Hot switched, and on the center contact of each lamp", YesNo: true,
			Where: "With the switch on, from the breaker's hot to the center contact; with it off, open. The screw shell is " +
				"on the neutral.", Judge: rulebook.YesNo})
	}
}

// liveOf are the tests of a circuit with the supply on.
func (l *testList) liveOf(k *install.Circuit, report *rulebook.Report) {
	if k.Use == useSurge {
		return
	}
	boxes := report.Circuit(k.ID).Boxes
	for j := range k.Serves.Boxes {
		b := &k.Serves.Boxes[j]
		if !b.Device.Outlet() || j >= len(boxes) {
			continue
		}
		if !reached(k, b, &boxes[j]) {
			continue
		}
		grounded := b.Ground == nil || *b.Ground
		if plugsAtLegV(k) && b.Device != install.TwoSlot {
			l.onLive(rulebook.Test{ID: "tester:" + b.ID, Circuit: k.ID, Title: "Tester at " + b.Name,
				Patterns: testerAnswers(), Where: "Nothing else plugged in; both halves of a duplex.", Judge: pattern(grounded)})
		}
		if len(boxes[j].Protected) > 0 {
			where := "Press the plug-in tester's button: the device that protects it opens and this outlet goes dead. Reset, " +
				"and go to the next."
			if !grounded {
				where = "There is no equipment ground: a plug-in tester cannot trip the device here. Press the device's own " +
					"button and see that this outlet goes dead."
			}
			l.onLive(rulebook.Test{ID: "trip:" + b.ID, Circuit: k.ID, Title: "Ground-fault trip at " + b.Name,
				YesNo: true, After: testerOf(k, b), Where: where, Judge: rulebook.YesNo})
		}
	}
	if k.Protection.ArcFault {
		l.onLive(rulebook.Test{ID: "arc-button", Circuit: k.ID, Title: "Arc-fault device: its own button", YesNo: true,
			Where: "With its load connected: it opens and can be reset. A plug-in tester proves nothing of it.", Judge: rulebook.YesNo})
	}
	if len(boxes) == 0 && k.Protection.RCDType != "" {
		l.onLive(rulebook.Test{ID: "trip", Circuit: k.ID, Title: "Ground-fault device's own button", YesNo: true,
			Where: "With its load connected: it opens and can be reset.", Judge: rulebook.YesNo})
	}
	if plugsAtLegV(k) && rulesOf(k.Use).isString && k.State != install.KeptCircuit {
		limit := ruleOf(l.job, nil, "NG-VOLTS")
		l.onLive(rulebook.Test{ID: "ng-volts", Circuit: k.ID, Title: "Neutral to ground under load", Unit: "V",
			Where: "At the farthest outlet with about 10 A drawn.", Judge: func(r install.Record) (working.Verdict, string) {
				if working.AtMost(*r.Value, limit) {
					return working.Pass, text("At most ", limit, " V.")
				}
				return working.Fail, text("Above ", limit, " V: look for a loose neutral between here and the panel.")
			}})
	}
	if sharesNeutral(k) && k.State != install.KeptCircuit {
		l.sharedVolts(k)
	}
	if k.Serves.Backfeed && k.State != install.KeptCircuit {
		l.onLive(rulebook.LossOfMains(k, "Anti-islanding, tried", "utility"))
	}
	l.onLive(rulebook.Test{ID: "functional", Circuit: k.ID, Title: "Switching and disconnecting", YesNo: true,
		Where: "The breaker opens and closes it; handles tied where they must be.", Judge: rulebook.YesNo})
	if k.Use == useEV {
		l.onLive(rulebook.Test{ID: "ev-functional", Circuit: k.ID, Title: "EV charger with a vehicle simulator",
			YesNo: true, Where: "Not connected, connected, charging, stop, and a simulated ground fault, as its manufacturer says.",
			Judge: rulebook.YesNo})
	}
}

// sharedVolts are the voltages of a circuit whose lines share a neutral: nothing between the lines says that both are on one leg, legs apart
// under load that the neutral is open.
func (l *testList) sharedVolts(k *install.Circuit) {
	l.onLive(rulebook.Test{ID: "shared-ll", Circuit: k.ID, Title: "Between its two lines", Unit: "V", Stops: true,
		Where: "At the first box, line to line.", Judge: func(r install.Record) (working.Verdict, string) {
			if *r.Value < legV/2 {
				return working.Fail, "Both lines are on one leg: the neutral carries the sum of both. Open it and move one of them."
			}
			return bandV(l.job, "ll", "")(r)
		}})
	l.onLive(rulebook.Test{ID: "shared-an", Circuit: k.ID, Title: "First line to neutral, something on the second", Unit: "V", Stops: true,
		Where: "At the farthest box of the first line, with about 10 A drawn on the second and nothing sensitive plugged in.",
		Judge: bandV(l.job, "ln", "")})
	l.onLive(rulebook.Test{ID: "shared-bn", Circuit: k.ID, Title: "Second line to neutral, something on the first", Unit: "V", Stops: true,
		Where: "At the farthest box of the second line, with about 10 A drawn on the first and nothing sensitive plugged in.",
		Judge: bandV(l.job, "ln", "")})
	l.onLive(rulebook.Test{ID: "shared-off", Circuit: k.ID, Title: "One handle opens both of its lines", YesNo: true,
		Where: "Open it at the panel: no line of it is live at any box.", Judge: rulebook.YesNo})
}

// testerAnswers are the patterns that a tester at an outlet can be answered with.
func testerAnswers() []string {
	return slices.DeleteFunc(slices.Clone(terms.Patterns), func(p string) bool { return p == open || p == closed })
}

// testerOf is the reading of the tester that a trip at an outlet waits for; none where the
// tester does not fit.
func testerOf(k *install.Circuit, b *install.Box) []string {
	if plugsAtLegV(k) && b.Device != install.TwoSlot {
		return []string{"tester:" + b.ID}
	}
	return nil
}

// groundedBoxes names the boxes of a string with an equipment ground, and those that
// were found without one.
func groundedBoxes(k *install.Circuit) (with, without []string) {
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if !touched(k, b) {
			continue
		}
		if b.Ground == nil || *b.Ground {
			with = append(with, b.Name)
		} else {
			without = append(without, b.Name)
		}
	}
	return with, without
}
