package survey

import (
	"cmp"
	"fmt"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Stood is a box on the run of a circuit that a point of the walk is.
type Stood struct {
	Circuit *install.Circuit
	Box     *install.Box
}

// StandsOf are the boxes on the runs of what the job makes, alters or keeps, by the ids of room and point of the walk that they are.
func StandsOf(job *install.Job) map[[2]string][]Stood {
	out := map[[2]string][]Stood{}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		if k.State.Out() {
			continue
		}
		for n := range k.Serves.Boxes {
			if b := &k.Serves.Boxes[n]; b.Point != "" {
				out[[2]string{b.Room, b.Point}] = append(out[[2]string{b.Room, b.Point}], Stood{k, b})
			}
		}
	}
	return out
}

// PointBox is the box of so many alike points.
type PointBox struct {
	rulebook.BoxChoice

	Count int
	At    Stood // the first of them; nothing while they are on no run, and their box is the usual one
}

// BoxesOf are the boxes that alike points take: those that stand on runs by what enters each, the others the usual one. None where no box
// is taken.
func BoxesOf(job *install.Job, book rulebook.Book, pt *install.RoomPoint, stood []Stood) (out []PointBox) {
	usual := cmp.Or(pt.Box, book.Survey().Box[pt.Kind])
	if usual == "" {
		return nil
	}
	add := func(choice rulebook.BoxChoice, n int, at Stood) {
		for i := range out {
			if out[i].ID == choice.ID && (out[i].At.Box == nil) == (at.Box == nil) {
				out[i].Count += n
				return
			}
		}
		out = append(out, PointBox{choice, n, at})
	}
	stood = stood[:min(len(stood), pt.Count)]
	for _, at := range stood {
		add(book.BoxAt(job, at.Circuit, at.Box, usual), 1, at)
	}
	if left := pt.Count - len(stood); left > 0 {
		add(rulebook.BoxChoice{ID: usual, Name: usual}, left, Stood{})
	}
	return out
}

// BoxWords says boxes as they are marked out: how many of which.
func BoxWords(boxes []PointBox) string {
	parts := make([]string, len(boxes))
	for i, b := range boxes {
		parts[i] = b.Name
		if len(boxes) > 1 {
			parts[i] = fmt.Sprintf("%d × %s", b.Count, b.Name)
		}
	}
	return strings.Join(parts, ", ")
}
