package proving

import (
	"slices"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/isolate"
)

// Cards are the orders in which the devices of a house are opened and closed.
type Cards struct {
	Off       []CardLine `json:"off"`       // planned
	Emergency []CardLine `json:"emergency"` // at once
	On        []CardLine `json:"on"`
}

// CardLine is one device of a card.
type CardLine struct {
	ID   string `json:"id"` // of the device, or of the way of a board that is no circuit of the job
	Name string `json:"name"`
	At   string `json:"at"` // where it stands, and what it opens
}

// cardsOf are loads first, then sources of the customer's own, then what several circuits share, the switches last, and backwards on again; in an
// emergency the main switch at once, and what still feeds after it.
func cardsOf(job *install.Job, house *isolate.House) Cards {
	rank := map[isolate.Kind]int{isolate.CircuitKind: 0, isolate.SourceKind: 1, isolate.SharedKind: 2, isolate.SwitchKind: 3}
	devices := slices.DeleteFunc(slices.Clone(house.Devices), func(d isolate.Device) bool { return d.Kind == isolate.IntakeKind })
	slices.Reverse(devices) // within a kind from the ends towards the supply
	slices.SortStableFunc(devices, func(a, b isolate.Device) int { return rank[a.Kind] - rank[b.Kind] })
	out := Cards{Off: otherWays(job), Emergency: []CardLine{}}
	for _, d := range devices {
		line := CardLine{ID: d.ID, Name: d.Name, At: strings.Trim(d.At+", "+d.Poles, ", ")}
		out.Off = append(out.Off, line)
		switch {
		case d.ID == isolate.Main:
			out.Emergency = slices.Insert(out.Emergency, 0, line)
		case d.Kind == isolate.SourceKind:
			out.Emergency = append(out.Emergency, line)
		}
	}
	out.On = slices.Clone(out.Off)
	slices.Reverse(out.On)
	return out
}

// otherWays are the ways of the boards that feed something and are no circuit of the job.
func otherWays(job *install.Job) []CardLine {
	out := []CardLine{}
	eachOtherWay(job, func(b *install.Board, way *install.Way) {
		out = append(out, CardLine{ID: "way:" + b.ID + ":" + strconv.Itoa(way.No), Name: way.Label, At: strings.Trim(b.Called(job.Words)+", "+way.Device, ", ")})
	})
	return out
}

// eachOtherWay goes through the ways of the boards that feed something and are no circuit of the job.
func eachOtherWay(job *install.Job, do func(*install.Board, *install.Way)) {
	for b := range job.EachBoard() {
		for i := range b.Ways {
			way := &b.Ways[i]
			if way.Device != "" && way.Circuit == "" && strings.TrimSpace(way.Label) != "" &&
				!slices.ContainsFunc(job.On(b), func(k *install.Circuit) bool { return k.Protection.Way == way.No }) {
				do(b, way)
			}
		}
	}
}
