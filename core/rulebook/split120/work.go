package split120

import (
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
		var boxes []rulebook.BoxReport
		for j := range report.Circuits {
			if report.Circuits[j].ID == k.ID {
				boxes = report.Circuits[j].Boxes
			}
		}
		for j := range boxes {
			b := k.Serves.BoxByID(boxes[j].ID)
			if b == nil {
				continue
			}
			if b.Device == "gfci" {
				out = append(out, rulebook.Work{ID: k.ID + "-marking-" + b.ID, Circuit: k.ID, Stage: install.SecondFix, Title: "Read LINE and LOAD on the device at " + b.Name + ": the pair from the panel on LINE", Hours: 0.05, After: []string{k.ID + "-photo"},
					Caution: "By the marking, never by habit. Brass is hot, silver neutral, green ground; one wire under a screw, hook in the turning direction, nothing bare outside, no insulation under it."})
			}
			if len(boxes[j].Labels) > 0 && b.Device != "two-slot" {
				quoted := make([]string, len(boxes[j].Labels))
				for n, l := range boxes[j].Labels {
					quoted[n] = "“" + l + "”"
				}
				out = append(out, rulebook.Work{ID: k.ID + "-sticker-" + b.ID, Circuit: k.ID, Stage: install.SecondFix, Title: b.Name + " wears " + strings.Join(quoted, " and ") + ", photographed", Hours: 0.05, After: []string{k.ID + "-point"}})
			}
		}
	}
	if job.Kind != install.SupplyUpgrade {
		return out
	}
	for i, b := range job.Supply.Bonds {
		out = append(out, rulebook.Work{ID: text("bond-", i+1), Stage: install.SecondFix, Title: "Bond the " + b.Service + " on both sides of the meter, unbroken wire, photographed", Hours: 0.5, Isolation: true, Caution: "A pipe may carry current: clamp it before a joint is opened."})
	}
	for _, n := range p.Chain(job).Nodes {
		e := job.Chain.Enclosure(n.ID)
		if !e.New || e.Owner != install.OwnerCustomer {
			continue
		}
		switch n.Joint {
		case rulebook.JointMust:
			out = append(out, rulebook.Work{ID: "joint-" + e.ID, Stage: install.SecondFix, Title: "Put the " + n.JointName + " into " + e.Name, Hours: 0.1, Isolation: true, Caution: n.JointSays})
		case rulebook.JointNever:
			out = append(out, rulebook.Work{ID: "joint-" + e.ID, Stage: install.SecondFix, Title: "Leave " + e.Name + " without bonding screw or strap: neutrals on the isolated bar, grounds on their own", Hours: 0.1, Isolation: true, Caution: n.JointSays})
		}
	}
	return out
}
