package install

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/words"
)

var ten = time.Date(2026, 6, 3, 10, 0, 0, 0, time.UTC)

func at(minutes float64) time.Time { return ten.Add(time.Duration(minutes * float64(time.Minute))) }

// By hand: a phone two hours ahead makes a record at 12:30 by its clock and sends it at 14:00,
// which is 12:00: it was made at 10:30.
func TestWhatWaitedIsDatedByTheServersClock(t *testing.T) {
	for name, c := range map[string]struct {
		sent     Sent
		received time.Time
		at       time.Time
		off      float64
	}{
		"made as it is received":         {Sent{}, at(0), at(0), 0},
		"waited two hours":               {Sent{OccurredAt: at(0), DeviceNow: at(120)}, at(120), at(0), 0},
		"a clock two hours ahead":        {Sent{OccurredAt: at(150), DeviceNow: at(240)}, at(120), at(30), 7200},
		"a clock a day behind":           {Sent{OccurredAt: at(-1440), DeviceNow: at(-1430)}, at(10), at(0), -86400},
		"a minute ahead is not said":     {Sent{OccurredAt: at(1), DeviceNow: at(11)}, at(10), at(0), 0},
		"not before what it had seen":    {Sent{OccurredAt: at(0), DeviceNow: at(60), Seen: at(20)}, at(60), at(20), 0},
		"what it cannot have seen":       {Sent{OccurredAt: at(0), DeviceNow: at(60), Seen: at(90)}, at(60), at(0), 0},
		"put back between make and send": {Sent{OccurredAt: at(5), DeviceNow: at(5)}, at(90), at(90), -5100},
	} {
		if c.sent != (Sent{}) {
			c.sent.Device, c.sent.Seq = "phone", 1
		}
		var r Record
		require.NoError(t, c.sent.Stamp(words.In(words.British), &r, c.received), name)
		assert.Equal(t, c.at, r.At, name)
		assert.InDelta(t, c.off, r.ClockOffS, 0, name)
		assert.False(t, r.At.After(c.received), name)
	}
}

func TestWhatADeviceSaysOfItselfIsChecked(t *testing.T) {
	good := Sent{OccurredAt: at(0), DeviceNow: at(1), Device: "phone", Seq: 1}
	for field, change := range map[string]func(*Sent){
		"sent.device":     func(s *Sent) { s.Device = "a\x00b" },
		"sent.seq":        func(s *Sent) { s.Seq = 0 },
		"sent.occurredAt": func(s *Sent) { s.OccurredAt = at(2) },
	} {
		s := good
		change(&s)
		var r Record
		assert.ErrorContains(t, s.Stamp(words.In(words.British), &r, at(1)), field)
	}
	old := good
	old.OccurredAt = at(1).Add(-LongestWait - time.Hour)
	assert.ErrorContains(t, old.Stamp(words.In(words.British), &Record{}, at(1)), "90 days")
}

// One device's own count decides between what it made; between two, only what is later on any
// clock is later. Of two moments never each is after the other, but for those that are one.
func TestNoClockDecidesAlone(t *testing.T) {
	phone := func(seq int64, made, had float64) Moment { return Moment{at(made), at(had), "phone", seq} }
	desk := func(made float64) Moment { return Moment{At: at(made), Latest: at(made)} }
	for name, c := range map[string]struct {
		a, b  Moment
		after bool
	}{
		"one after the other":                    {desk(2), desk(1), true},
		"the phone's own order":                  {phone(2, 0, 60), phone(1, 5, 60), true},
		"against its clock":                      {phone(1, 5, 60), phone(2, 0, 60), false},
		"made before, arrived after":             {phone(1, 0, 60), desk(30), false},
		"the other way round neither":            {desk(30), phone(1, 0, 60), false},
		"after it had seen it":                   {phone(1, 31, 60), desk(30), true},
		"another phone of the same time":         {Moment{at(10), at(60), "tablet", 9}, phone(1, 5, 60), false},
		"another phone after the first had sent": {Moment{at(70), at(90), "tablet", 1}, phone(9, 5, 60), true},
	} {
		assert.Equal(t, c.after, c.a.After(c.b), name)
		assert.False(t, c.a.After(c.b) && c.b.After(c.a), name)
	}
}
