package survey

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/words"
)

// done are what is done to points, by their state; those that stay as they are are left out.
var done = []struct {
	state string
	says  words.Key
}{{install.New, words.Key("%d × %s")}, {install.Moved, words.Key("%d × %s moved")}, {install.Removed, words.Key("%d × %s taken out")}}

// PointsSay says what is done in a room, kind by kind; empty for nothing.
func PointsSay(r *install.Room, p *rulebook.Survey) string {
	out := []string{}
	for _, d := range done {
		for _, k := range Kinds {
			n := 0
			for i := range r.Points {
				if r.Points[i].Kind == k.ID && r.Points[i].State == d.state {
					n += max(1, r.Points[i].Count)
				}
			}
			if n > 0 {
				out = append(out, p.Words.Say(string(d.says), n, Name(p, k.ID)))
			}
		}
	}
	return strings.Join(out, ", ")
}
