package proving

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
)

// OnSite is somebody who may be on a job's site, and whether their device has reported since the permission was asked for.
type OnSite struct {
	ID       string     `json:"id"`
	Name     string     `json:"name"`
	Seen     *time.Time `json:"seen"` // when their device last reported; nothing where that is not known
	Reported bool       `json:"reported"`
}

// Clearance is who may be on a job's site beside who asks to energise.
type Clearance struct {
	Asked  *time.Time `json:"asked"` // when the permission was asked for; nothing where it was not, or too long ago
	People []OnSite   `json:"people"`
}

// How long what was asked holds, as by then everybody may have begun again, and how far back somebody's last record on a job makes them one of
// those who may be on its site.
const (
	askHolds = 15 * time.Minute
	onJob    = 24 * time.Hour
)

// ClearanceOf says who may be on the site of a job beside who asks: whoever made a record there within a day, or whose lock hangs. asked is when
// they asked, the zero time for not; seen is by person when their device last reported with nothing waiting to be sent.
func ClearanceOf(job *install.Job, who string, asked time.Time, seen map[string]time.Time, now time.Time) Clearance {
	out := Clearance{People: []OnSite{}}
	if !asked.IsZero() && now.Sub(asked) <= askHolds {
		out.Asked = &asked
	}
	add := func(r *install.Record) {
		if r.PersonID == "" || r.PersonID == who || r.Foreign || slices.ContainsFunc(out.People, func(p OnSite) bool { return p.ID == r.PersonID }) {
			return
		}
		p := OnSite{ID: r.PersonID, Name: r.By}
		if at, there := seen[r.PersonID]; there {
			p.Seen, p.Reported = &at, out.Asked != nil && !at.Before(asked)
		}
		out.People = append(out.People, p)
	}
	for _, l := range Locks(job) {
		add(&l)
	}
	for i := range job.Records {
		if r := &job.Records[i]; now.Sub(r.At) < onJob {
			add(r)
		}
	}
	return out
}

// Holds says of what closes something who of those on site has neither reported nor is confirmed clear, by name, how and by whom; nil where nobody
// is missing.
func (c Clearance) Holds(job *install.Job, r *install.Record) error {
	if r.Kind != install.Energise && r.Kind != install.Guarded {
		return nil
	}
	for _, p := range c.People {
		if p.Reported || slices.ContainsFunc(r.Clear, func(x install.Cleared) bool {
			return x.Person == p.Name && strings.TrimSpace(x.How) != "" && strings.TrimSpace(x.By) != ""
		}) {
			continue
		}
		last := job.Words.Say("not at all")
		if p.Seen != nil {
			last = p.Seen.UTC().Format("2006-01-02 15:04 UTC")
		}
		return install.Errors{{Field: string(r.Kind) + ".clear", Value: p.Name, Accept: job.Words.Say("that they are clear, how that is known and by "+
			"whom: their device has not reported since this was asked for, last seen %s", last)}}
	}
	return nil
}
