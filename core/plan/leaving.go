package plan

import (
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/words"
)

// leaves adds the steps of a circuit that the job takes out, or leaves unconnected.
func leaves(w *words.Catalogue, c *install.Circuit, list map[string]materials.Item, add func(Task)) {
	clear := w.Say("take its cable and points out; what stays in the wall is capped and labelled at both ends")
	if c.State == install.DormantCircuit {
		clear = w.Say("cap every conductor, and label both ends: not connected, and where the other end is")
	}
	add(Task{ID: strings.TrimPrefix(c.PartStep(), c.ID+"-"), Kind: install.ConnectingStep, Stage: install.FirstFix,
		Title: w.Say("find both its ends, prove each dead, and take it off its device"), Crew: 1, Norm: "mark", Hours: hours(list, "mark"), Isolation: true,
		Dead: []string{isolate.CircuitPlace(c.ID), isolate.DevicePlace(c)}, StaysLive: w.Say(string(incomingLive)),
		Caution: w.Say("It counts as live until then: another circuit may feed it from its far end, or borrow its neutral. " +
			"Prove it dead at each end before it is cut.")})
	add(Task{ID: strings.TrimPrefix(c.ClearStep(), c.ID+"-"), Kind: install.LabellingStep, Stage: install.FirstFix, Title: clear, Crew: 1,
		Norm: "label", Hours: hours(list, "label")})
}

// surgeTasks fit the surge devices that have no branch of their own; those that have are fitted with it.
func surgeTasks(job *install.Job, by *Practice, list map[string]materials.Item) (out []Task) {
	w := job.Words
	if slices.ContainsFunc(job.Circuits, func(k install.Circuit) bool {
		return by.Terms.IsBranch(&k) && !slices.ContainsFunc(job.Surge.Devices, func(d install.SPD) bool { return d.Circuit == k.ID })
	}) {
		return nil // which of them is on that branch nobody said
	}
	for i := range job.Surge.Devices {
		d := &job.Surge.Devices[i]
		if d.Kept || d.Circuit != "" {
			continue
		}
		out = append(out, Task{ID: fmt.Sprintf("surge-%d-fit", i+1), Kind: install.ConnectingStep, Stage: install.SecondFix, Crew: 1,
			Norm: "board", Hours: hours(list, "board"),
			Title: w.Say("Fit %s, its leads no longer than drawn", d.Name), Isolation: true, Dead: []string{isolate.BoardPlace(&job.Board)}, alters: true,
			Day: true, Step: StepOther,
			StaysLive: w.Say(string(incomingLive)),
			Caution:   w.Say("It stands on the live side of the board: locked and proved dead before its cover comes off.")})
	}
	return out
}
