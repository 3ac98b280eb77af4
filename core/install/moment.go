package install

import (
	"slices"
	"time"

	"arvelt/core/words"
)

// Moment is when something was recorded: at its earliest At, the time of the device that made
// it put right by the server's clock, and at its latest when the server had it. Between two
// devices no clock decides an order alone.
type Moment struct {
	At, Latest time.Time
	Device     string
	Seq        int64 // of the device, from 1
}

// Moment is when the record was made.
func (r *Record) Moment() Moment {
	m := Moment{At: r.At, Latest: r.ReceivedAt, Device: r.Device, Seq: r.Seq}
	if m.Latest.IsZero() {
		m.Latest = r.At
	}
	return m
}

// After reports whether m is surely after o: by the count of the device where one made both,
// else later on any clock that either went by. Where both orders are possible it is false
// either way, so that a caller asks it of what must not be assumed.
func (m Moment) After(o Moment) bool {
	if m.Device != "" && m.Device == o.Device && m.Seq != o.Seq {
		return m.Seq > o.Seq
	}
	return !m.At.Before(o.Latest)
}

// Sent is what a device says of when it made a record. The zero value is of one that is made
// as the server receives it.
type Sent struct {
	OccurredAt time.Time `json:"occurredAt"`    // by the device's clock
	DeviceNow  time.Time `json:"-"`             // that clock when it was sent, which is another at each try
	Seen       time.Time `json:"seen,omitzero"` // the newest time of the server that the device had seen when it was made
	Device     string    `json:"device"`        // a name that the device keeps
	Seq        int64     `json:"seq"`           // its count of what it made, from 1
}

// NeedsOthers reports whether a record of the kind is an act that nobody may decide alone, so
// that it is never made without a connection: others must have seen it, or be seen.
func (k RecordKind) NeedsOthers() bool { return slices.Contains(Together, k) }

// Together are the kinds of which [RecordKind.NeedsOthers] is true.
var Together = []RecordKind{Energise, Guarded, LockOff, Signature, Reopen}

// AtOnce is how long such an act may be on its way.
const AtOnce = time.Minute

// How far a device may be off before it is said, how long what it made may wait, and how much
// it may say of itself.
const (
	ClockTolerance = 5 * time.Minute
	LongestWait    = 90 * 24 * time.Hour
	deviceChars    = 64
)

// Stamp writes on a record when it was made and when the server had it. What the device's
// clock says is put right by how far it was off when it sent; it is never after the server had
// it, nor before what the device had seen. The error is an [Errors].
func (s Sent) Stamp(w *words.Catalogue, r *Record, received time.Time) error {
	r.At = received
	if s == (Sent{}) {
		return nil
	}
	c := &checker{in: "sent.", w: w}
	c.needed("device", s.Device, deviceChars)
	if s.Seq < 1 {
		c.say("seq", s.Seq, w.Say("the device's own count, from 1"))
	}
	if s.OccurredAt.IsZero() || s.DeviceNow.Before(s.OccurredAt) {
		c.say("occurredAt", s.OccurredAt.Format(time.RFC3339), w.Say("when it was made, not after it was sent"))
	}
	off := s.DeviceNow.Sub(received)
	at := s.OccurredAt.Add(-off)
	if received.Sub(at) > LongestWait {
		c.say("occurredAt", s.OccurredAt.Format(time.RFC3339), w.Say("a time within the last 90 days: what waited longer is entered anew"))
	}
	if err := c.result(); err != nil {
		return err
	}
	if at.Before(s.Seen) && !s.Seen.After(received) {
		at = s.Seen
	}
	r.At, r.ReceivedAt, r.Device, r.Seq = at.UTC(), received, s.Device, s.Seq
	if off.Abs() > ClockTolerance {
		r.ClockOffS = off.Round(time.Second).Seconds()
	}
	return nil
}
