package iec230

import (
	"strconv"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Readings of the survey with a clamp about all conductors of a circuit, by their ids in survey_readings.csv.
const (
	clampAlternating = "leakage-ac"
	clampDirect      = "leakage-dc"
)

// clamped is what was read with a clamp on a circuit, mA, and by whom; the newest counts.
func (s *system) clamped(reading, circuit string) (ma float64, by string, ok bool) {
	if r := s.clamps[clampOf{reading, circuit}]; r != nil {
		return *r.Value, r.By, true
	}
	return 0, "", false
}

// clampOf is a reading with a clamp on a circuit.
type clampOf struct{ reading, circuit string }

// clampsOf are the newest of each, those left out that were taken back.
func clampsOf(job *install.Job) map[clampOf]*install.Record {
	out := map[clampOf]*install.Record{}
	for i := range job.Records {
		r := &job.Records[i]
		if r.Kind != install.SurveyReading || r.Circuit == "" {
			continue
		}
		if key := (clampOf{r.Subject, r.Circuit}); r.Done || r.Value == nil {
			delete(out, key)
		} else {
			out[key] = r
		}
	}
	return out
}

// residual is a residual-current device with the circuits behind it.
type residual struct {
	kind     string
	idn      float64
	delayed  bool
	trips    install.Trips
	circuits []*install.Circuit
	test     string // of it at its rating
	circuit  string // that the test is of
}

// ownResidual is the device of a circuit of its own.
func (c *circuit) ownResidual() (residual, bool) {
	p := &c.k.Protection
	return residual{p.RCDType, p.IdnMA, p.Delayed, p.Trips, []*install.Circuit{c.k}, "rcd-x1", c.k.ID}, p.RCDType != "" && p.IdnMA > 0
}

// sharedResiduals calls f for each device that circuits share.
func (s *system) sharedResiduals(f func(g *install.Group, d residual)) {
	_, by := s.sharers()
	for b := range s.Job.EachBoard() {
		for i := range b.Groups {
			g := &b.Groups[i]
			if circuits := by["group:"+g.ID]; len(circuits) > 0 {
				f(g, residual{g.RCDType, g.IdnMA, g.Delayed, g.Trips, circuits, "rcd-x1:" + g.ID, ""})
			}
		}
	}
}

// read adds up what was read on the circuits of a device, mA, and counts those that were.
func (s *system) read(reading string, d *residual) (sum float64, n int) {
	for _, k := range d.circuits {
		if ma, _, ok := s.clamped(reading, k.ID); ok {
			sum, n = sum+ma, n+1
		}
	}
	return sum, n
}

func (c *circuit) leaksDirect() bool {
	d, own := c.ownResidual()
	if !own {
		return false
	}
	_, n := c.read(clampDirect, &d)
	return n > 0
}

func (c *circuit) direct() {
	if d, own := c.ownResidual(); own {
		c.judgeDirect(c.On(c.k.ID), &d)
	}
}

func (s *system) groupsDirect() {
	s.sharedResiduals(func(g *install.Group, d residual) {
		if _, n := s.read(clampDirect, &d); n > 0 {
			k := s.Of(g.ID)
			k.Title += ": " + g.Name
			s.judgeDirect(k, &d)
		}
	})
}

// judgeDirect holds the direct current that was read behind a device to what its type bears: with more it may be blinded, and does not trip
// where it should (531.3.3).
func (s *system) judgeDirect(k *working.Check, d *residual) {
	k.From(rcdDirect.Source)
	sum, n := s.read(clampDirect, d)
	for _, c := range d.circuits {
		if ma, by, ok := s.clamped(clampDirect, c.ID); ok {
			k.Step("direct current, "+c.Name, "read by "+by, "", ma, "mA", "")
		}
	}
	row := rcdDirect.Row(rcdDirect.Find(func(r *rcdDirectRow) bool { return r.Type == d.kind }))
	most, err := strconv.ParseFloat(row.MostMA, 64)
	if err != nil { // a type without a limit
		k.Decide(true)
		k.Summary = s.Text(sum, " mA of direct current: type ", d.kind, " bears it by itself.")
		return
	}
	k.Max(sum, k.Step("type "+d.kind+" bears", "table", "", most, "mA", rcdDirect.Source.Ref))
	switch {
	case k.Verdict == working.Fail:
		k.Summary = s.Text(sum, " mA of direct current, and type ", d.kind, " bears ", most,
			" mA: it may be blinded and not trip in a fault. Give it a type that bears it, or what leaks a device of its own.")
	case n < len(d.circuits):
		k.Warn()
		k.Summary = s.Text(sum, " mA of direct current on ", float64(n), " of ", float64(len(d.circuits)), " circuits; type ", d.kind, " bears ", most,
			" mA. Read the others too: their sum counts.")
	default:
		k.Summary = s.Text(sum, " mA of direct current; type ", d.kind, " bears ", most, " mA.")
	}
}

// quietShare is the share of its rating below which a residual-current device must not trip and above which it may (IEC 61008-1, 61009-1).
const quietShare = 0.5

func (s *system) muchOf(d *residual) bool {
	sum, n := s.read(clampAlternating, d)
	return n > 0 && sum > quietShare*d.idn
}

func (c *circuit) leaksMuch() bool {
	d, own := c.ownResidual()
	return own && c.muchOf(&d)
}

func (c *circuit) quiet() {
	if d, own := c.ownResidual(); own {
		c.judgeQuiet(c.On(c.k.ID), &d)
	}
}

func (s *system) groupsQuiet() {
	s.sharedResiduals(func(g *install.Group, d residual) {
		if s.muchOf(&d) {
			k := s.Of(g.ID)
			k.Title = "Leakage without a trip: " + g.Name
			s.judgeQuiet(k, &d)
		}
	})
}

// judgeQuiet judges a device behind which so much leaks that it may trip: one that never does is suspect until a trip test, newer than the
// reading, tells.
func (s *system) judgeQuiet(k *working.Check, d *residual) {
	k.From(rcdRules.Source)
	sum, _ := s.read(clampAlternating, d)
	k.Step("it may trip above", s.Text(quietShare, " × IΔn"), s.Text(quietShare, " × ", d.idn), quietShare*d.idn, "mA", "IEC 61008-1")
	k.Step("read together", "sum", "", sum, "mA", "")
	switch test := rulebook.ReadingsOf(s.Job).Newest(d.test, d.circuit); {
	case d.trips == "":
		k.AddMissing("whether it ever trips by itself: ask those who live there")
		k.Decide(true)
		k.Summary = s.Text(sum, " mA were read behind it: at this it may trip. One that never does may be stuck or blinded.")
	case d.trips == install.TripsOften:
		k.Decide(true)
		k.Warn()
		k.Summary = s.Text("It trips, and ", sum, " mA were read behind it: that is what trips it. Spread the circuits over more devices.")
	case test == nil || test.Moment().At.Before(s.newest(d)):
		k.AddMissing("the trip test of the device, at its rating")
		k.Decide(true)
		k.Summary = s.Text("Suspect: ", sum, " mA were read behind it and it never trips. It may be stuck, or blinded by direct current.")
	default:
		verdict, says := judgeRCD(1, d.delayed)(*test)
		k.Decide(verdict == working.Pass)
		k.Summary = s.Text(sum, " mA were read behind it and it never trips by itself; its trip test: ") + strings.ToLower(says[:1]) + says[1:]
	}
}

// newest is when leakage was read last behind a device.
func (s *system) newest(d *residual) (at time.Time) {
	for _, k := range d.circuits {
		if r := s.clamps[clampOf{clampAlternating, k.ID}]; r != nil && r.At.After(at) {
			at = r.At
		}
	}
	return at
}
