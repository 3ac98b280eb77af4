package paper

import (
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// keptBy is how a device that was opened is kept so, as it is printed.
var keptBy = map[install.Keeping]words.Key{install.ByLock: words.Key("locked and tagged"), install.ByFuse: words.Key("fuse withdrawn and kept, the way blocked"),
	install.ByParted: words.Key("parted and capped under a lock ahead of it")}

// testerKinds are the kinds of tester, as they are printed.
var testerKinds = map[install.TesterKind]words.Key{install.ContactTester: words.Key("two-pole tester"), install.MeterTester: words.Key("multimeter"),
	install.SensorTester: words.Key("sensor without contact")}

// isolations are what was switched off and locked, what was read, and who let it be switched on again.
func (p *pack) isolations() {
	p.heading(p.words.Say("Isolations and permissions"))
	n := 0
	for i := range p.v.Job.Records {
		r := &p.v.Job.Records[i]
		n++
		switch r.Kind {
		case install.Isolation:
			p.pair(p.words.Say("Isolation %s", p.at(r.At)), join(" ", p.isolation(r), p.takenBack(r.ID)))
		case install.ProvedDead:
			p.pair(p.words.Say("Proved dead %s", p.at(r.At)), join("; ", r.By, p.tester(r), p.read(r)))
		case install.TesterProof:
			says := p.words.Say("%s shows the known source", r.Tester)
			if r.Passed == nil || !*r.Passed {
				says = p.words.Say("%s does not show the known source: what it read before proves nothing", r.Tester)
			}
			p.pair(p.words.Say("Tester %s", p.at(r.At)), join("; ", r.By, says))
		case install.Lock:
			p.pair(p.words.Say("Lock %s", p.at(r.At)), join("; ", r.By, p.words.Say("lock and tag %s", r.LockTag)))
		case install.LockOff:
			p.pair(p.words.Say("Lock off %s", p.at(r.At)), join("; ", r.By, r.Note, when(p.words.Say("reached: "), r.Reached), when(p.words.Say("walked: "), r.Walked)))
		case install.LockTold:
			p.pair(p.words.Say("Told %s", p.at(r.At)), p.words.Say("%s knows that the lock was taken off", r.By))
		case install.Energise:
			p.pair(p.words.Say(string(permitted[r.Use])), p.permission(r))
		case install.SwitchedOn:
			p.pair(p.words.Say("Switched on without permission"), join("; ", r.By, p.at(r.At), p.deviceName(r.Subject), r.Note))
		case install.Guarded:
			found := p.words.Say("not the feed")
			if r.Passed != nil && *r.Passed {
				found = p.words.Say("it is the feed")
			}
			volts := ""
			if r.Value != nil {
				volts = unit.With(*r.Value, "V")
			}
			p.pair(p.words.Say("Guarded energising"), join("; ", r.By, p.at(r.At), p.words.Say("guard: %s", r.Person), p.deviceName(r.Subject), r.Place, volts,
				r.Instrument, found, r.Note))
		case install.RetestOrder:
			p.pair(p.words.Say(string(ordered[r.Path])), join("; ", r.By, p.at(r.At), r.Note))
		case install.LooseEnd:
			parted := p.v.Job.RecordByID(r.Subject)
			switch {
			case r.Parted != "":
				p.pair(p.words.Say("Disconnected for a test"), join("; ", r.Note, p.clamped(r), r.By, p.at(r.At)))
			case r.Done && parted != nil && parted.Parted != "":
				p.pair(p.words.Say("Reconnected"), join("; ", parted.Note, r.By, p.at(r.At), r.Note))
			default:
				n--
			}
		default:
			n--
		}
	}
	if n == 0 {
		p.line(p.words.Say("Nothing is on record."))
	}
}

// clamped is what was read before and as a conductor was disconnected; empty where nothing was to be.
func (p *pack) clamped(r *install.Record) string {
	said := []string{}
	if r.ClampA != nil {
		said = append(said, p.words.Say("%s clamped in it before", unit.With(*r.ClampA, "A")))
	}
	if r.AcrossV != nil {
		said = append(said, p.words.Say("%s across the break", unit.With(*r.AcrossV, "V")))
	}
	if r.Bridged {
		said = append(said, p.words.Say("bridged first"))
	}
	if r.CouldNot != "" {
		said = append(said, p.words.Say("not clamped: %s", r.CouldNot))
	}
	return strings.Join(said, ", ")
}

// permitted is what a permission is for, as it is printed; of older ones, which were of everything at once, without.
var permitted = map[install.PermitUse]words.Key{"": words.Key("Permission to energise"), install.ForTest: words.Key("Energised for test"),
	install.IntoUse: words.Key("Put into service"), install.RestoreUse: words.Key("Restored")}

// ordered is what the supervisor may order once a live test failed, as it is printed; of older orders, which said no more, a retest.
var ordered = map[string]words.Key{"": words.Key("Order for a retest"), install.OrderRetest: words.Key("Order for a retest"),
	install.OrderSearch: words.Key("Guarded search ordered")}

// permission is what was energised, by whom and for how long, what they had seen, and how many locks they counted.
func (p *pack) permission(r *install.Record) string {
	closed, counted, until, by := []string{}, "", "", ""
	for _, d := range r.Closes {
		closed = append(closed, p.deviceName(d))
	}
	if r.Counted != nil {
		counted = p.words.Say("locks and tags counted: %s", strconv.Itoa(*r.Counted))
	}
	if !r.Until.IsZero() {
		until = p.words.Say("until %s", p.at(r.Until))
	}
	if r.Person != "" {
		by = p.words.Say("closed by %s", r.Person)
	}
	clear, bare, guarded := []string{}, []string{}, ""
	for _, x := range r.Clear {
		clear = append(clear, p.words.Say("%s clear: %s, by %s", x.Person, x.How, x.By))
	}
	if r.Guarded != "" {
		guarded = p.words.Say("guarded %s", p.words.Say(string(install.GuardingNames[r.Guarded])))
	}
	for _, place := range r.Bare {
		bare = append(bare, p.words.Say("cover off: %s", p.placeName(place)))
	}
	return join("; ", p.words.Say("%s (%s) on %s", r.By, r.Role, p.at(r.At)), strings.Join(closed, ", "), by, until, guarded, strings.Join(bare, ", "),
		p.asked(r), counted, strings.Join(clear, ", "), r.Note)
}

// placeName is what a place where people work is called; where it is not there any more, its id.
func (p *pack) placeName(id string) string {
	for _, at := range p.v.Tests.Places {
		if at.ID == id {
			return at.Name
		}
	}
	return id
}

// deviceName is what a device that was opened or closed is called; where it is not there any more, its id.
func (p *pack) deviceName(id string) string {
	for _, d := range p.v.Tests.Devices {
		if d.ID == id {
			return d.Name
		}
	}
	return id
}

// isolation is what was opened, with what it was proved and what was read. An older record names no devices, and ticked pairs without volts.
func (p *pack) isolation(r *install.Record) string {
	stays := p.words.Say("stays live: %s", or(r.StillLive, p.words.Say("not recorded")))
	if len(r.Opens) == 0 {
		return p.words.Say("%s: %s; lock and tag %s; tester %s proved before and after; dead: %s; stays live: %s", r.By, r.Source,
			r.LockTag, r.Tester, strings.Join(r.PairsDead, ", "), or(r.StillLive, p.words.Say("not recorded")))
	}
	opened := []string{}
	for _, o := range r.Opens {
		kept := p.words.Say(string(keptBy[o.Kept]))
		if o.StartOff {
			kept = join("; ", kept, p.words.Say("automatic start disabled"))
		}
		opened = append(opened, p.deviceName(o.Device)+" ("+kept+")")
	}
	return join("; ", r.By+": "+strings.Join(opened, ", "), when(p.words.Say("lock and tag "), r.LockTag), p.tester(r), p.read(r), stays)
}

// tester is what was read with, and how it was proved.
func (p *pack) tester(r *install.Record) string {
	if r.Tester == "" {
		return p.words.Say("not read")
	}
	before, after := p.words.Say("not proved before"), p.words.Say("not proved after in this record")
	switch {
	case r.ProvedBefore:
		before = p.words.Say("proved before")
	case r.Serves != "":
		before = p.words.Say("proved by the closing proof before")
	}
	if r.ProvedAfter {
		after = p.words.Say("proved after")
	}
	return join(", ", r.Tester, p.words.Say(string(testerKinds[r.TesterKind])), before, after)
}

// read is what was read, place by place and pair by pair.
func (p *pack) read(r *install.Record) string {
	out := []string{}
	for _, proof := range r.Proofs {
		name, volts := p.placeName(proof.At), []string{}
		for _, x := range proof.Read {
			if x.V != nil {
				volts = append(volts, x.Pair+" "+unit.With(*x.V, "V"))
			}
		}
		if proof.Cables > 0 {
			name = p.words.Say("%s (%d cables)", name, proof.Cables)
		}
		out = append(out, name+": "+strings.Join(volts, ", "))
	}
	return strings.Join(out, "; ")
}

// takenBack says what became of an isolation that was corrected or withdrawn.
func (p *pack) takenBack(isolation string) string {
	out := ""
	for i := range p.v.Job.Records {
		r := &p.v.Job.Records[i]
		switch {
		case r.Kind == install.Isolation && r.Supersedes == isolation:
			out = p.words.Say("Corrected by the one of %s: %s.", p.at(r.At), r.Note)
		case r.Kind == install.Withdrawal && r.Subject == isolation:
			return p.words.Say("Withdrawn by %s, %s: %s.", r.By, p.at(r.At), r.Note)
		}
	}
	return out
}
