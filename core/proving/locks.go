package proving

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/isolate"
)

// Locks returns the isolations whose lock hangs, and the locks that others hung under them, the newest first: until each is taken off, or by
// a permission its device was closed. Of an isolation of which some devices were closed, those are left that were not. An isolation of a
// person that opens all that an older one of theirs opened is under the same lock, and so is one that corrects it. They hang whatever the day.
func Locks(job *install.Job) []install.Record {
	out := []install.Record{}
	var seen []*install.Record
	off, corrected, closed := map[string]bool{}, map[string]bool{}, map[string]bool{}
	for i := len(job.Records) - 1; i >= 0; i-- {
		r := &job.Records[i]
		switch r.Kind {
		case install.Energise:
			if len(r.Closes) == 0 {
				return out // older ones were of everything
			}
			for _, d := range r.Closes {
				closed[d] = true
			}
		case install.LockOff:
			off[r.Subject] = true
		case install.Isolation, install.Lock:
			if r.Supersedes != "" {
				corrected[r.Supersedes] = true
			}
			if corrected[r.ID] || slices.ContainsFunc(seen, func(s *install.Record) bool { return sameLock(s, r) }) {
				continue
			}
			seen = append(seen, r)
			if lock, hangs := hanging(job, r, closed); hangs && !off[r.ID] {
				out = append(out, lock)
			}
		}
	}
	return out
}

// hanging is a lock without the devices that were closed since it was hung; it is none where nothing is left of it.
func hanging(job *install.Job, r *install.Record, closed map[string]bool) (install.Record, bool) {
	out := *r
	out.Opens = openedBy(job, r)
	left := slices.DeleteFunc(slices.Clone(out.Opens), func(o install.Opened) bool { return closed[o.Device] })
	if len(out.Opens) == 0 {
		return *r, len(closed) == 0 // older ones name nothing that they open: whatever is closed ends them
	}
	if r.Kind == install.Isolation {
		out.Opens = left
	} else {
		out.Opens = nil
	}
	return out, len(left) > 0
}

// openedBy are the devices that a lock keeps open: its own, or those of the isolation under which it hangs.
func openedBy(job *install.Job, r *install.Record) []install.Opened {
	if r.Kind == install.Lock {
		if under := job.RecordByID(r.Subject); under != nil {
			return under.Opens
		}
		return nil
	}
	return r.Opens
}

// Hang is how many locks and tags hang: one on each device that an isolation keeps open, and each that somebody hung beside.
func Hang(locks []install.Record) int {
	n := 0
	for i := range locks {
		n += max(1, len(locks[i].Opens))
	}
	return n
}

// sameLock reports whether a newer record is of the lock of an older one.
func sameLock(newer, older *install.Record) bool {
	if newer.Kind != older.Kind || !older.IsBy(newer.Who()) {
		return false
	}
	if older.Kind == install.Lock {
		return newer.Subject == older.Subject
	}
	return !slices.ContainsFunc(older.Opens, func(o install.Opened) bool {
		return !slices.ContainsFunc(newer.Opens, func(n install.Opened) bool { return n.Device == o.Device })
	})
}

// closing is the newest record of some kinds by which one of the devices under a lock was closed, or may have been, since the lock was hung; nil
// while none was.
func closing(job *install.Job, lock *install.Record, opens []install.Opened, kinds ...install.RecordKind) *install.Record {
	for i := len(job.Records) - 1; i >= 0; i-- {
		if on := &job.Records[i]; slices.Contains(kinds, on.Kind) && closes(on, opens) && !lock.Moment().After(on.Moment()) {
			return on
		}
	}
	return nil
}

// keptBy are the devices that a lock keeps open still: none that a record of some kinds closed since, or may have.
func keptBy(job *install.Job, lock *install.Record, kinds ...install.RecordKind) []install.Opened {
	return slices.DeleteFunc(slices.Clone(openedBy(job, lock)), func(o install.Opened) bool {
		return closing(job, lock, []install.Opened{o}, kinds...) != nil
	})
}

// locked are the devices that some locks keep open, whosever; not one that was closed all the same since, or may have been by a record that one
// which arrived late is older than, and none where nobody knows which was. What was on for a moment under guard was locked again.
func locked(job *install.Job, locks []install.Record) []string {
	out := []string{}
	for i := range locks {
		for _, o := range keptBy(job, &locks[i], install.Energise, install.SwitchedOn) {
			out = append(out, o.Device)
		}
	}
	return out
}

// closes reports whether a record closes one of some devices, or may.
func closes(on *install.Record, opens []install.Opened) bool {
	if on.Kind != install.Energise { // of one device, that nobody permitted for good
		return on.Subject == "" || slices.ContainsFunc(opens, func(o install.Opened) bool { return o.Device == on.Subject })
	}
	return len(on.Closes) == 0 || len(opens) == 0 ||
		slices.ContainsFunc(opens, func(o install.Opened) bool { return slices.Contains(on.Closes, o.Device) })
}

// Live is what permissions put on and nobody isolated since.
type Live struct {
	job   *install.Job
	house *isolate.House
	// on are the permissions, the newest first.
	on []permit
}

// permit is a permission with what was isolated since.
type permit struct {
	r     *install.Record
	ended bool // an older isolation, which names nothing, was of everything
	since *isolate.Dead
}

// LiveOf says what stands under a permission in a house as it is now.
func LiveOf(job *install.Job, house *isolate.House) *Live {
	l := &Live{job: job, house: house}
	for i := len(job.Records) - 1; i >= 0; i-- {
		if r := &job.Records[i]; r.Kind == install.Energise {
			l.on = append(l.on, l.standing(r, job.Records[i+1:]))
		}
	}
	return l
}

// standing is a permission as what came after it leaves it. What may have been isolated before it, and arrived later, ends nothing of it.
func (l *Live) standing(r *install.Record, after []install.Record) permit {
	p, opens := permit{r: r}, []string{}
	for i := range after {
		iso := &after[i]
		if iso.Kind != install.Isolation || l.job.Withdrawn(iso.ID) || !iso.Moment().After(r.Moment()) {
			continue
		}
		p.ended = p.ended || len(iso.Opens) == 0
		for _, o := range iso.Opens {
			opens = append(opens, o.Device)
		}
	}
	if len(opens) > 0 {
		p.since = l.house.With(opens)
	}
	return p
}

// under is the newest permission of some under which a place is live, nil for none.
func (l *Live) under(place string, of func(*install.Record) bool) *install.Record {
	for i := range l.on {
		p := &l.on[i]
		switch {
		case len(p.r.Closes) > 0 && !slices.Contains(p.r.Part, place):
		case p.ended || p.since != nil && p.since.Expects(place):
			return nil // whatever was before it is as old
		case of(p.r):
			return p.r
		}
	}
	return nil
}

// At is the newest permission under which a place is live, nil for none.
func (l *Live) At(place string) *install.Record {
	return l.under(place, func(*install.Record) bool { return true })
}

// InService reports whether a place was put into service, or back into it, and stands so.
func (l *Live) InService(place string) bool {
	return l.under(place, func(r *install.Record) bool { return r.Use != install.ForTest }) != nil
}

// newest is the newest permission under which something is live, nil for none; of older ones, which were of everything, the main board.
func (l *Live) newest() *install.Record {
	for i := range l.on {
		p := &l.on[i]
		places := p.r.Part
		if len(p.r.Closes) == 0 {
			places = []string{isolate.BoardPlace(&l.job.Board)}
		}
		if slices.ContainsFunc(places, func(id string) bool { return l.At(id) == p.r }) {
			return p.r
		}
	}
	return nil
}
