package survey

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Unplaced are alike points of a room that stand on no run of a circuit yet.
type Unplaced struct {
	Room     string `json:"room"` // by id
	RoomName string `json:"roomName"`
	Point    string `json:"point"` // by id
	Name     string `json:"name"`
	Count    int    `json:"count"`
	// FedFrom is what the walk says that feeds them, in words; Circuit the circuit of the job that those words name, by id.
	FedFrom string `json:"fedFrom"`
	Circuit string `json:"circuit"`
}

// Unfed counts the new and moved points of the walk that stand on no run: what feeds them is counted nowhere.
func Unfed(job *install.Job, p *rulebook.Survey) (n int) {
	for _, u := range UnplacedOf(job, p, false) {
		for _, pt := range job.RoomByID(u.Room).Points {
			if pt.ID == u.Point && pt.State != install.Kept {
				n += u.Count
			}
		}
	}
	return n
}

// UnplacedOf lists the points of the walk that stand on no run yet, in walking order: those that stay, or those that are taken out.
func UnplacedOf(job *install.Job, p *rulebook.Survey, removed bool) []Unplaced {
	placed := job.Placed()
	out := []Unplaced{}
	for i := range job.Rooms {
		r := &job.Rooms[i]
		for n := range r.Points {
			pt := &r.Points[n]
			left := pt.Count - placed[[2]string{r.ID, pt.ID}]
			if left <= 0 || (pt.State == install.Removed) != removed || kindByID[pt.Kind].Box == "" {
				continue
			}
			out = append(out, Unplaced{Room: r.ID, RoomName: r.Name, Point: pt.ID, Name: Name(p, pt.Kind), Count: left, FedFrom: pt.FedFrom,
				Circuit: named(job, pt.FedFrom)})
		}
	}
	return out
}

// Beside is by how many the things that new circuits feed and that name no point of the walk are more than the points of the walk that stand on
// no run, each of which may be one of them.
func Beside(job *install.Job, terms *install.Terms, p *rulebook.Survey) int {
	n := -Unfed(job, p)
	for i := range job.Circuits {
		k := &job.Circuits[i]
		if k.State != install.NewCircuit || k.Use == terms.Feeder || terms.IsBranch(k) {
			continue
		}
		if len(k.Serves.Boxes) == 0 {
			n += max(1, k.Serves.Points())
		}
		for b := range k.Serves.Boxes {
			if box := &k.Serves.Boxes[b]; box.Device.Draws() && box.Point == "" {
				n++
			}
		}
	}
	return n
}

// named is the circuit that words name: by its id or by what it is called.
func named(job *install.Job, words string) string {
	words = strings.TrimSpace(words)
	for i := range job.Circuits {
		if k := &job.Circuits[i]; words != "" && (k.ID == words || strings.EqualFold(k.Name, words)) {
			return k.ID
		}
	}
	return ""
}
