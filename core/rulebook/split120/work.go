package split120

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Work lists the steps that only this practice asks for: the marking of each
// ground-fault device read, the bond of the water pipe on both sides of the meter,
// the joint of neutral and ground as it must be, and one sticker for each outlet that
// must wear it.
func (p Practice) Work(job *install.Job, report *rulebook.Report) []rulebook.Work {
	out := []rulebook.Work{}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		boxes := report.Circuit(k.ID).Boxes
		for j := range boxes {
			b := k.Serves.BoxByID(boxes[j].ID)
			if b == nil {
				continue
			}
			photo, fitted := []string{k.ID + "-photo"}, k.ID+"-point"
			if k.State == install.KeptCircuit {
				photo, fitted = nil, k.ID+"-replace"
			}
			if b.Device == install.GroundFault && touched(k, b) {
				closed := ""
				if b.Feed == "" {
					closed = "First enter on the Circuits sheet which pair the feed lies on at " + b.Name + "."
				}
				out = append(out, rulebook.Work{ID: k.ID + "-marking-" + b.ID, Closed: closed, Circuit: k.ID,
					Stage: install.SecondFix, Title: "Read LINE and LOAD on the device at " + b.Name +
						": the pair from the panel on LINE", Hours: 0.05, After: photo,
					Caution: "By the marking, never by habit. Brass is hot, silver neutral, green ground; one wire under a " +
						"screw, hook in the turning direction, nothing bare outside, no insulation under it."})
			}
			if len(boxes[j].Labels) > 0 && b.Device != install.TwoSlot && reached(k, b, &boxes[j]) {
				quoted := make([]string, len(boxes[j].Labels))
				for n, l := range boxes[j].Labels {
					quoted[n] = "“" + l + "”"
				}
				out = append(out, rulebook.Work{ID: k.ID + "-sticker-" + b.ID, Circuit: k.ID, Stage: install.SecondFix,
					Title: b.Name + ": label " + strings.Join(quoted, " and ") + ", photographed", Photo: true, Hours: 0.05,
					After: []string{fitted}})
			}
		}
	}
	if job.Kind != install.SupplyUpgrade {
		return out
	}
	out = append(out, serviceWork(job)...)
	for i := range job.Supply.Bonds {
		out = append(out, rulebook.Work{ID: text("bond-", i+1), Stage: install.SecondFix,
			Title: bondTitle(&job.Supply.Bonds[i]), Photo: true, Hours: 0.5, Isolation: true,
			Caution: "A pipe may carry current: clamp it before a joint is opened."})
	}
	out = append(out, marks(job)...)
	for _, n := range p.Chain(job).Nodes {
		e := job.Chain.Enclosure(n.ID)
		if e.Owner != install.OwnerCustomer {
			continue
		}
		if !e.New {
			switch joined := e.Joined != nil && *e.Joined; {
			case joined && n.Joint == rulebook.JointNever:
				out = append(out, rulebook.Work{ID: "joint-" + e.ID, Stage: install.SecondFix,
					Title: "Take the " + n.JointName + " out of " + e.Name +
						": neutrals on the isolated bar, grounds moved to their own", Hours: 0.75, Isolation: true, At: e.ID,
					Caution: n.JointSays})
			case e.Joined != nil && !joined && n.Joint == rulebook.JointMust:
				out = append(out, rulebook.Work{ID: "joint-" + e.ID, Stage: install.SecondFix,
					Title: "Put the " + n.JointName + " into " + e.Name, Hours: 0.25, Isolation: true, At: e.ID, Caution: n.JointSays})
			}
			continue
		}
		caution := "Supply to the line side, load to the other, whichever way they enter. Ground and neutral first, so that " +
			"nothing floats, then the hots; tie the conductors in before the far end is fixed."
		if e.Feed.Material == install.Aluminium {
			caution += " Aluminum ends are wire-brushed, with compound as the manufacturer of the lug says: note the product."
		}
		out = append(out, rulebook.Work{ID: "lugs-" + e.ID, Stage: install.SecondFix,
			Title: "Terminate " + e.Name + " in order: ground, neutral, hots; then the torque tool, once", Hours: 0.5,
			Isolation: true, At: e.ID, Caution: caution})
		switch n.Joint {
		case rulebook.JointMust:
			out = append(out, rulebook.Work{ID: "joint-" + e.ID, Stage: install.SecondFix,
				Title: "Put the " + n.JointName + " into " + e.Name, Hours: 0.1, Isolation: true, At: e.ID, Caution: n.JointSays})
		case rulebook.JointNever:
			out = append(out, rulebook.Work{ID: "joint-" + e.ID, Stage: install.SecondFix,
				Title: "Leave " + e.Name + " without bonding screw or strap: neutrals on the isolated bar, grounds on their own",
				Hours: 0.1, Isolation: true, At: e.ID, Caution: n.JointSays})
		}
	}
	return out
}

// bondTitle is the step that makes a bond, by what it goes to.
func bondTitle(b *install.Bond) string {
	jumper := ""
	if k := bondKinds[b.Kind]; k != nil {
		jumper = k.jumper
	}
	switch jumper {
	case jumperMust:
		return "Bond the " + b.Service + " on both sides of the meter, unbroken wire, photographed"
	case jumperNever:
		return "Bond the " + b.Service + " on the customer's side, with no jumper past the gas utility's meter or insulating " +
			"joint, photographed"
	}
	return "Bond the " + b.Service + ", unbroken wire, photographed"
}

// marks lists the marking of each disconnect outdoors, where the edition asks for one.
func marks(job *install.Job) (out []rulebook.Work) {
	if codeOf(job) == CEC || float64(editionOf(job)) < rule(clearances.Table, "EMD") {
		return nil
	}
	for i := range job.Chain.Enclosures {
		e := &job.Chain.Enclosures[i]
		if e.Outside == nil || !*e.Outside {
			continue
		}
		says := ""
		switch roleOf(e) {
		case roleService:
			says = "EMERGENCY DISCONNECT, SERVICE DISCONNECT"
		case roleNotService:
			says = "EMERGENCY DISCONNECT, NOT SERVICE EQUIPMENT"
		default:
			continue
		}
		out = append(out, rulebook.Work{ID: "mark-" + e.ID, Stage: install.SecondFix,
			Title: "Mark " + e.Name + ": " + says + ", white on red, photographed", Photo: true, Hours: 0.1})
	}
	return out
}

// serviceStage says where a step of the service change that others do stands, and
// whether it is of the day of the outage. What the crew does has tasks of its own.
var serviceStage = map[string]struct {
	stage     install.Stage
	day, ours bool // ours: the contractor does it
}{
	"2": {install.FirstFix, false, false}, "3": {install.FirstFix, false, true}, "4": {install.FirstFix, false, false},
	"10": {install.SecondFix, true, false}, "11": {install.SecondFix, true, false}, "12": {install.SecondFix, true, false},
	"14": {install.Handover, false, false},
}

// serviceWork lists the steps of a service change that wait for others, from the table
// of its sequence: application, permit, date, inspection, release, reconnection, and
// the meter.
func serviceWork(job *install.Job) []rulebook.Work {
	if len(job.Chain.Enclosures) == 0 {
		return nil
	}
	out := []rulebook.Work{}
	for r := range serviceSteps.Text {
		step := serviceSteps.Row(r).Step
		at, there := serviceStage[step]
		if !there {
			continue
		}
		w := rulebook.Work{ID: "service-" + step, Stage: at.stage, Title: serviceSteps.Row(r).Action,
			Who: serviceSteps.Row(r).Who, Hours: 0.25, Day: at.day}
		if at.ours {
			w.Who = ""
		}
		for _, on := range strings.FieldsFunc(serviceSteps.Row(r).DependsOn, func(c rune) bool { return c == ';' }) {
			if x, there := serviceStage[on]; there && x.stage == at.stage {
				w.After = append(w.After, "service-"+on)
			}
		}
		out = append(out, w)
	}
	return append(out, rulebook.Work{ID: "service-meter", Stage: install.Handover,
		Title: "Meter back or exchanged: serial, reading and seal noted", Who: "metering crew", Hours: 0.1, Meter: true})
}

// reached reports whether what the job does at a box or ahead of it changes how it is protected.
func reached(k *install.Circuit, b *install.Box, r *rulebook.BoxReport) bool {
	return touched(k, b) || slices.ContainsFunc(r.Protected, func(id string) bool {
		by := k.Serves.BoxByID(id)
		return by != nil && by.Replaces
	})
}
