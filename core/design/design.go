// Package design proposes circuits for the points of a walk that stand on none yet: which points go together, in which order their cable
// comes to them, how long it is, which device and conductor are the smallest that pass, and where on the board the device goes. What a job
// has already stays as it is; nothing is stored, and the same job has the same proposal.
package design

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// Proposal is what is proposed for the points of a walk that stand on no run.
type Proposal struct {
	Circuits []Proposed `json:"circuits"`
	// Left are points for which nothing is proposed, each with the reason.
	Left []Left `json:"left"`
	// Fails is what a job with all of it would still fail that no other device, size or split of the proposed circuits mends.
	Fails []string `json:"fails"`
	// WaysShort is how many circuits find no way on the board, 0 where they all find one or its ways were not written down.
	WaysShort int `json:"waysShort"`
	// WaysNeeded is how many ways a board has that holds all of them with a fifth to spare, 0 where none is short.
	WaysNeeded int `json:"waysNeeded"`
	// Shared are the names of residual-current devices that come onto the board with it.
	Shared []string `json:"shared"`
	// Tag tells one proposal from another: what is taken is what was seen.
	Tag string `json:"tag"`
}

// Proposed is one circuit that is proposed.
type Proposed struct {
	ID        string          `json:"id"`
	Name      string          `json:"name"`
	Why       string          `json:"why"`   // its points go together
	Stops     []Stop          `json:"stops"` // in the order of its run
	LengthM   float64         `json:"lengthM"`
	Device    string          `json:"device"`
	Shared    string          `json:"shared"` // name of the residual-current device that it shares, empty for its own
	Conductor string          `json:"conductor"`
	Way       int             `json:"way"` // 0 where the board has none for it
	Verdict   working.Verdict `json:"verdict"`
	Governs   string          `json:"governs"` // the check that leaves least to spare
	Fails     []string        `json:"fails"`   // what no other device, size or split mends
}

// Stop is a point on the run of a proposed circuit and the leg that comes to it, assumed until it is measured.
type Stop struct {
	Name string  `json:"name"`
	LegM float64 `json:"legM"`
}

// Left are alike points of a room for which nothing is proposed.
type Left struct {
	Room  string `json:"room"` // by name
	Point string `json:"point"`
	Count int    `json:"count"`
	Why   string `json:"why"`
}

// piece is one point of the walk.
type piece struct {
	room  *install.Room
	point *install.RoomPoint
	name  string
}

// cluster are points that go on circuits of one kind.
type cluster struct {
	row    *rulebook.CircuitPlan
	where  string // the floor or room that it is of, in words; empty for the house
	floor  string
	pieces []piece
	light  bool // it is light, for crossing floors over shared devices
}

// designer is a proposal in work.
type designer struct {
	job  *install.Job // with what is proposed so far
	book rulebook.Book
	plan rulebook.Plan
	ways *ways
	made []made
	out  Proposal
	// failed are checks of the job that fail without any of it.
	failed map[string]bool
	// only are the points that it is about, by room and id; nil for all of them.
	only map[[2]string]bool
}

// made is a circuit that is proposed, by its id, with what it was made of.
type made struct {
	id, template string
	cluster      *cluster
	pieces       []piece
}

// Propose proposes circuits for the points of the walk that stand on no run, and returns the job with all of them.
func Propose(job *install.Job, book rulebook.Book) (Proposal, *install.Job) {
	return propose(job, book, nil)
}

func propose(job *install.Job, book rulebook.Book, only map[[2]string]bool) (Proposal, *install.Job) {
	own := *job
	own.Circuits, own.Board.Groups = slices.Clone(job.Circuits), slices.Clone(job.Board.Groups)
	d := &designer{job: &own, book: book, plan: book.PlanOf(job), ways: waysOf(job), only: only,
		out: Proposal{Circuits: []Proposed{}, Left: []Left{}, Fails: []string{}, Shared: []string{}}}
	d.failed = map[string]bool{}
	before := book.Judge(job)
	for _, c := range before.Job {
		d.failed[c.ID+c.Object] = c.Verdict == working.Fail
	}
	for _, c := range d.gather() {
		d.lay(c)
	}
	if len(d.made) > 0 {
		d.share()
		d.place()
		d.mend()
		d.place()
		d.number()
	}
	d.tell()
	return d.out, d.job
}

// Take is the job with the circuits of its proposal that are chosen, by id, and the proposal itself.
func Take(job *install.Job, book rulebook.Book, chosen []string) (*install.Job, Proposal) {
	p, all := Propose(job, book)
	drop := map[string]bool{}
	for _, c := range p.Circuits {
		drop[c.ID] = !slices.Contains(chosen, c.ID)
	}
	all.Circuits = slices.DeleteFunc(all.Circuits, func(k install.Circuit) bool { return drop[k.ID] })
	all.Board.Groups = slices.DeleteFunc(all.Board.Groups, func(g install.Group) bool {
		return job.Board.GroupByID(g.ID) == nil && !slices.ContainsFunc(all.Circuits, func(k install.Circuit) bool { return k.Protection.Group == g.ID })
	})
	return all, p
}

// gather puts the points that stand on no run into clusters, in the order of the plan's rows.
func (d *designer) gather() []*cluster {
	w := d.job.Words
	byKey, order := map[string]*cluster{}, []string{}
	for _, u := range survey.UnplacedOf(d.job, d.book.Survey(), false) {
		if d.only != nil && !d.only[[2]string{u.Room, u.Point}] {
			continue
		}
		room := d.job.RoomByID(u.Room)
		point := d.job.PointOf(&install.Box{Room: u.Room, Point: u.Point})
		left := func(why string) {
			d.out.Left = append(d.out.Left, Left{Room: u.RoomName, Point: u.Name, Count: u.Count, Why: why})
		}
		kind, at := d.rowOf(room, point)
		switch {
		case point.State == install.Kept:
			left(w.Say("It is there and stays: put it on the circuit that feeds it."))
			continue
		case u.Circuit != "":
			left(w.Say("The walk says that %s feeds it: put it on its run.", d.job.CircuitByID(u.Circuit).Name))
			continue
		case at < 0:
			left(w.Say("No circuit of the practice is for it."))
			continue
		}
		row := &d.plan.Rows[at]
		key, where, floor := d.key(row, room, point)
		if byKey[key] == nil {
			byKey[key] = &cluster{row: row, where: where, floor: floor, light: kind.Loses == survey.LosesLight}
			order = append(order, key)
		}
		for range u.Count {
			byKey[key].pieces = append(byKey[key].pieces, piece{room, point, u.Name})
		}
	}
	out := []*cluster{}
	for _, key := range order {
		out = append(out, byKey[key])
	}
	slices.SortStableFunc(out, func(a, b *cluster) int { return d.rank(a.row) - d.rank(b.row) })
	return out
}

// rowOf is the row of the plan that a point goes by, negative without one.
func (d *designer) rowOf(room *install.Room, point *install.RoomPoint) (survey.Kind, int) {
	kind, _ := survey.KindOf(point.Kind)
	return kind, slices.IndexFunc(d.plan.Rows, func(r rulebook.CircuitPlan) bool { return r.Fits(kind.ID, kind.Family, room.Kind) })
}

func (d *designer) rank(row *rulebook.CircuitPlan) int {
	return slices.IndexFunc(d.plan.Rows, func(r rulebook.CircuitPlan) bool { return r.Templates == row.Templates && r.Apart == row.Apart })
}

// key is what points share that go together by a row, and where that is in words.
func (d *designer) key(row *rulebook.CircuitPlan, room *install.Room, point *install.RoomPoint) (key, where, floor string) {
	per := rulebook.Per(row.Per)
	if per == rulebook.PerFloor && d.plan.Split == rulebook.ByKind {
		per = rulebook.PerHouse
	}
	kind := row.Templates + "/" + row.Apart
	switch {
	case per == rulebook.PerPoint:
		return kind + "/" + room.ID + "/" + point.ID, room.Name, room.Floor
	case per == rulebook.PerFloor && d.plan.Split == rulebook.ByRoom:
		return kind + "/" + room.ID, room.Name, room.Floor
	case per == rulebook.PerFloor && row.Apart != "":
		return kind + "/" + room.Floor, row.Apart, room.Floor
	case per == rulebook.PerFloor && room.Floor != "":
		return kind + "/" + room.Floor, d.job.Words.Say("%s floor", room.Floor), room.Floor
	}
	return kind, row.Apart, room.Floor
}

// lay makes the circuits of a cluster: as few as its row allows, each of neighbours.
func (d *designer) lay(c *cluster) {
	size := len(c.pieces)
	n := 1
	if most := int(c.row.Most); most > 0 {
		n = (size + most - 1) / most
	}
	n = max(n, min(int(c.row.Least), size))
	templates := strings.Split(c.row.Templates, "|")
	template := templates[0]
	if c.row.Few != "" && size <= int(c.row.UpTo) {
		template = c.row.Few
	}
	pieces := d.ways.inOrder(c.pieces)
	for i := range n {
		d.circuit(c, template, pieces[i*size/n:(i+1)*size/n])
	}
}

// circuit makes one circuit of a template with its run; where the job has no room for another its points are left.
func (d *designer) circuit(c *cluster, template string, pieces []piece) {
	if len(d.job.Circuits) >= install.MaxCircuits {
		for _, p := range pieces {
			d.out.Left = append(d.out.Left, Left{Room: p.room.Name, Point: p.name, Count: 1,
				Why: d.job.Words.Say("A job has at most %d circuits.", install.MaxCircuits)})
		}
		return
	}
	id := d.freeID()
	d.job.Circuits = append(d.job.Circuits, d.build(id, c, template, pieces))
	d.made = append(d.made, made{id, template, c, pieces})
	d.run(id, pieces)
}

// build is a circuit of a template before its run is laid.
func (d *designer) build(id string, c *cluster, template string, pieces []piece) install.Circuit {
	k := d.book.Defaults(template)
	k.ID, k.State, k.From, k.Protection.Way = id, install.NewCircuit, "", 0
	if rulebook.Per(c.row.Per) == rulebook.PerPoint {
		k.Name = strings.ToUpper(pieces[0].name[:1]) + pieces[0].name[1:]
	}
	if c.where != "" {
		k.Name += ", " + c.where
	}
	named := func(name string) bool {
		return slices.ContainsFunc(d.job.Circuits, func(o install.Circuit) bool { return o.ID != id && strings.EqualFold(o.Name, name) })
	}
	base := k.Name
	for n := 2; named(k.Name); n++ {
		k.Name = fmt.Sprintf("%s %d", base, n)
	}
	k.Serves.Spread = len(pieces) > 1
	for _, p := range pieces {
		k.Serves.Bath = k.Serves.Bath || p.room.Kind == "bathroom"
	}
	return k
}

func (d *designer) freeID() string {
	for n := len(d.job.Circuits) + 1; ; n++ {
		if id := fmt.Sprintf("c%d", n); d.job.CircuitByID(id) == nil && d.job.BoardByID(id) == nil {
			return id
		}
	}
}

// share puts the residual-current devices that circuits share onto the board, and the circuits onto them: light and sockets of a floor
// never on the same, and the floors in turn. What has a device that opens more than one pole keeps it.
func (d *designer) share() {
	if len(d.plan.Shared) < 2 {
		return
	}
	floors := []string{}
	for i := range d.job.Rooms {
		if f := d.job.Rooms[i].Floor; !slices.Contains(floors, f) {
			floors = append(floors, f)
		}
	}
	used := map[int]bool{}
	for _, m := range d.made {
		k := d.job.CircuitByID(m.id)
		if k.Protection.RCDType == "" || k.Protection.Poles > 1 {
			continue // it needs none, or one that opens all of it by itself
		}
		g := slices.Index(floors, m.cluster.floor)
		if m.cluster.light {
			g++
		}
		g %= 2
		k.Protection.Group, k.Protection.RCDType, k.Protection.IdnMA = d.plan.Shared[g].ID, "", 0
		used[g] = true
	}
	for g := range d.plan.Shared {
		if used[g] && d.job.Board.GroupByID(d.plan.Shared[g].ID) == nil {
			d.job.Board.Groups = append(d.job.Board.Groups, d.plan.Shared[g])
			d.out.Shared = append(d.out.Shared, d.plan.Shared[g].Name)
		}
	}
}

// place gives the devices that have none free ways of the main board, in order.
func (d *designer) place() {
	terms := d.book.Terms()
	d.out.WaysShort = 0
	for _, m := range d.made {
		k := d.job.CircuitByID(m.id)
		if k.Protection.Way > 0 || k.Protection.OwnEnclosure {
			continue
		}
		free := map[int]bool{}
		list := terms.FreeWays(d.job, &d.job.Board)
		for _, w := range list {
			free[w.No] = true
		}
		at := slices.IndexFunc(list, func(w install.Way) bool {
			return !slices.ContainsFunc(terms.WaysOf(w.No, k.Protection.Poles), func(no int) bool { return !free[no] })
		})
		switch {
		case at >= 0:
			k.Protection.Way = list[at].No
		case len(d.job.Board.Ways) > 0:
			d.out.WaysShort++
		}
	}
}

// waysNeeded is how many ways a main board has that holds every device with a fifth to spare, in whole rows of two.
func (d *designer) waysNeeded() int {
	terms := d.book.Terms()
	n := 0
	for _, k := range d.job.On(&d.job.Board) {
		if !k.Protection.OwnEnclosure {
			n += len(terms.WaysOf(1, k.Protection.Poles))
		}
	}
	return (n*6/5 + 2) / 2 * 2
}

// tell says what is proposed and what it comes to.
func (d *designer) tell() {
	r := d.book.Judge(d.job)
	if d.out.WaysShort > 0 {
		d.out.WaysNeeded = d.waysNeeded()
	}
	for _, m := range d.made {
		k, own := d.job.CircuitByID(m.id), r.Circuit(m.id)
		p := Proposed{ID: k.ID, Name: k.Name, Why: m.cluster.row.Why, Stops: []Stop{}, LengthM: k.Route.LengthM(), Device: own.Summary.Device,
			Conductor: own.Summary.Conductor, Way: k.Protection.Way, Verdict: own.Verdict, Fails: []string{}}
		if g := d.job.GroupOf(k); g != nil {
			p.Shared = g.Name
		}
		for i, leg := range k.Legs() {
			if i < len(k.Serves.Boxes) {
				p.Stops = append(p.Stops, Stop{Name: k.Serves.Boxes[i].Called(), LegM: leg.LengthM + leg.TailsM})
			}
		}
		most := 0.0
		for _, c := range own.Checks {
			if c.Outside {
				continue
			}
			if failing(k, &c) {
				p.Fails = append(p.Fails, c.Title+": "+c.Summary)
			}
			if c.Use != nil && *c.Use > most {
				most, p.Governs = *c.Use, c.Title
			}
		}
		d.out.Circuits = append(d.out.Circuits, p)
	}
	for _, c := range r.Job {
		if c.Verdict == working.Fail && !c.Outside && !d.failed[c.ID+c.Object] {
			d.out.Fails = append(d.out.Fails, c.Title+": "+c.Summary)
		}
	}
	raw, _ := json.Marshal(d.out) // texts and numbers: it cannot fail
	sum := sha256.Sum256(raw)
	d.out.Tag = hex.EncodeToString(sum[:8])
}
