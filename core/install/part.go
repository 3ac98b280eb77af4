package install

import (
	"iter"
	"reflect"
	"slices"
	"strings"
	"sync"

	"arvelt/core/words"
	"arvelt/core/working"
)

// The roles of a company's people.
const (
	RoleOwner       = "owner"
	RoleSupervisor  = "supervisor"
	RoleElectrician = "electrician"
	RoleApprentice  = "apprentice"
	RoleOffice      = "office"
)

// Roles lists them.
var Roles = []string{RoleOwner, RoleSupervisor, RoleElectrician, RoleApprentice, RoleOffice}

// Sheet of a job that is computed and read by itself.
type Computed string

// The sheets that are read by themselves.
const (
	CircuitsRead Computed = "circuits" // every check of the circuits with its working
	CaseRead     Computed = "case"     // the survey's report
	SupplyRead   Computed = "supply"
	DeskRead     Computed = "desk" // letters to the operator and their answers
	OutdoorRead  Computed = "outdoor"
	DarkRead     Computed = "dark"  // what goes dark by each device
	GoodsRead    Computed = "goods" // what is claimed of deliveries
	CutsRead     Computed = "cuts"  // cut plans
	QuoteRead    Computed = "quote" // the price, and what was offered
	VanRead      Computed = "van"   // what goes into the van
)

// Reads lists them.
var Reads = []Computed{CircuitsRead, CaseRead, SupplyRead, DeskRead, OutdoorRead, DarkRead, GoodsRead, CutsRead, QuoteRead, VanRead}

// PartKind is one kind of part: a piece of a job that is read, edited, saved, locked and undone by
// itself. [PartKinds] registers all of them; whatever goes through the parts of a job reads it there.
type PartKind struct {
	// Name is the part, such as "site"; of a list the beginning of its parts, which end in their
	// own ids: "circuits" of "circuits/c1".
	Name  string
	List  bool
	Title words.Key
	Sheet working.Sheet // on which it is edited
	Most  int           // of a list
	// By are the roles that may edit it.
	By []string
	// Kept: it is written by what those roles do, and nobody edits it.
	Kept bool
	// Stale are the sheets read by themselves that a change of it may change.
	Stale []Computed

	find  func(j *Job, id string) any
	add   func(j *Job, id string) any
	ids   func(j *Job) []string
	drop  func(j *Job, id string)
	stays func(j *Job, id string) string
	id    func(part any) string
	name  func(part any) string
	check func(part any, t Terms) error
	model reflect.Type
}

// MayEdit reports whether a role edits parts of the kind.
func (k *PartKind) MayEdit(role string) bool { return slices.Contains(k.By, role) }

// Who edits what. What is seen on a survey is for everybody; what is designed is for those who
// answer for it; what is bought and booked is for the office too.
var (
	anybody   = Roles
	surveyors = []string{RoleOwner, RoleSupervisor, RoleElectrician, RoleApprentice}
	designers = []string{RoleOwner, RoleSupervisor, RoleElectrician}
	planners  = []string{RoleOwner, RoleSupervisor, RoleElectrician, RoleOffice}
)

// Model is the type that its parts have.
func (k *PartKind) Model() reflect.Type { return k.model }

// Rules is the part that says which edition of the rules a job is held to. A job file has it beside
// the parts, so that the job embeds it.
type Rules struct {
	Edition string `json:"edition" chars:"40"`
}

// Validate checks that the practice has the edition. The error is [Errors].
func (r Rules) Validate(t Terms) error { return EditionOK(r.Edition, t) }

const rulesPart = "rules"

// single registers a part that every job has once.
func single[T any](name string, title words.Key, sheet working.Sheet, at func(*Job) *T, check func(*T, Terms) error) *PartKind {
	find := func(j *Job, _ string) any { return at(j) }
	return &PartKind{Name: name, Title: title, Sheet: sheet, By: designers, Stale: Reads, find: find, add: find,
		ids: func(*Job) []string { return []string{""} }, check: func(p any, t Terms) error { return check(p.(*T), t) },
		model: reflect.TypeFor[T]()}
}

// listed registers a list of a job, each entry of which is a part.
func listed[T any](name string, sheet working.Sheet, most int, at func(*Job) *[]T, fresh func(id string) T, id, called func(*T) string,
	check func(*T, Terms) error) *PartKind {
	index := func(j *Job, want string) int {
		return slices.IndexFunc(*at(j), func(x T) bool { return id(&x) == want })
	}
	find := func(j *Job, want string) any {
		if i := index(j, want); i >= 0 {
			return &(*at(j))[i]
		}
		return nil
	}
	return &PartKind{Name: name, List: true, Sheet: sheet, Most: most, By: designers, Stale: Reads, find: find,
		add: func(j *Job, want string) any {
			if p := find(j, want); p != nil {
				return p
			}
			*at(j) = append(*at(j), fresh(want))
			return find(j, want)
		},
		ids: func(j *Job) []string {
			out := make([]string, len(*at(j)))
			for i := range *at(j) {
				out[i] = id(&(*at(j))[i])
			}
			return out
		},
		drop:  func(j *Job, want string) { *at(j) = slices.Delete(*at(j), index(j, want), index(j, want)+1) },
		id:    func(p any) string { return id(p.(*T)) },
		name:  func(p any) string { return called(p.(*T)) },
		check: func(p any, t Terms) error { return check(p.(*T), t) },
		model: reflect.TypeFor[T](),
	}
}

// PartKinds are all kinds of part, in the order in which they are written.
var PartKinds = []*PartKind{
	single(rulesPart, words.Key("Edition"), working.SurveySheet, func(j *Job) *Rules { return &j.Rules }, within(Rules.Validate)),
	single("site", words.Key("Site"), working.SurveySheet, func(j *Job) *Site { return &j.Site }, alike(Site.Validate)).
		changing(CircuitsRead, CaseRead, SupplyRead, DeskRead, QuoteRead, VanRead).by(anybody),
	single("supply", words.Key("Supply"), working.SupplySheet, func(j *Job) *Supply { return &j.Supply }, within(Supply.Validate)),
	single(mainBoard, words.Key("Board"), working.BoardSheet, func(j *Job) *Board { return &j.Board }, within(Board.Validate)).
		changing(CircuitsRead, CaseRead, SupplyRead, DeskRead, DarkRead, GoodsRead, CutsRead, QuoteRead, VanRead),
	single("loads", words.Key("Loads"), working.SupplySheet, func(j *Job) *Loads { return &j.Loads }, within(Loads.Validate)).
		changing(CircuitsRead, CaseRead, SupplyRead, DeskRead, QuoteRead, VanRead),
	single("materials", words.Key("Materials"), working.MaterialsSheet, func(j *Job) *Materials { return &j.Materials },
		within(Materials.Validate)).changing(CircuitsRead, CaseRead, SupplyRead, GoodsRead, CutsRead, QuoteRead, VanRead).by(anybody),
	single("plan", words.Key("Plan"), working.PlanSheet, func(j *Job) *Plan { return &j.Plan }, alike(Plan.Validate)).
		changing(SupplyRead, DeskRead, QuoteRead, VanRead).by(planners),
	single("quote", words.Key("Quote"), working.QuoteSheet, func(j *Job) *Quote { return &j.Quote }, alike(Quote.Validate)).
		changing(QuoteRead).by(planners),
	single(PurchasesPart, words.Key("Orders"), working.MaterialsSheet, func(j *Job) *Purchases { return &j.Purchases }, alike(Purchases.Validate)).
		changing(SupplyRead, GoodsRead, CutsRead, QuoteRead, VanRead).by(planners).kept(),
	single("schools", words.Key("Choices of the job"), working.SurveySheet, func(j *Job) *Schools { return &j.Schools },
		func(s *Schools, t Terms) error { return s.Validate(t) }),
	single("found", words.Key("Existing installation"), working.SurveySheet, func(j *Job) *Found { return &j.Found },
		alike(Found.Validate)).changing(CircuitsRead, CaseRead, SupplyRead, QuoteRead, VanRead).by(surveyors),
	single("chain", words.Key("Service one-line diagram"), working.SupplySheet, func(j *Job) *Chain { return &j.Chain },
		within(Chain.Validate)),
	single("outage", words.Key("Day without supply"), working.SupplySheet, func(j *Job) *Outage { return &j.Outage },
		within(Outage.Validate)).changing(SupplyRead, DeskRead, QuoteRead, VanRead).by(planners),
	single("outdoor", words.Key("Outdoor works"), working.SupplySheet, func(j *Job) *Outdoor { return &j.Outdoor },
		within(Outdoor.Validate)).changing(CircuitsRead, SupplyRead, DeskRead, OutdoorRead, GoodsRead, CutsRead, QuoteRead, VanRead),
	single("surge", words.Key("Surge protection"), working.SupplySheet, func(j *Job) *SurgePlan { return &j.Surge },
		alike(SurgePlan.Validate)).changing(CircuitsRead, CaseRead, SupplyRead, GoodsRead, CutsRead, QuoteRead, VanRead),
	single("standby", words.Key("Standby source"), working.SupplySheet, func(j *Job) *Standby { return &j.Standby },
		alike(Standby.Validate)).changing(CircuitsRead, SupplyRead, DeskRead, QuoteRead, VanRead),
	single("bench", words.Key("Figures from the calculators"), working.CircuitsSheet, func(j *Job) *Bench { return &j.Bench },
		alike(Bench.Validate)).changing(),
	listed("rooms", working.SurveySheet, MaxRooms, func(j *Job) *[]Room { return &j.Rooms }, func(id string) Room { return Room{ID: id} },
		func(r *Room) string { return r.ID }, func(r *Room) string { return r.Name }, within(Room.Validate)).staying((*Job).roomStays).by(anybody),
	listed(boardList, working.BoardSheet, MaxBoards, func(j *Job) *[]Board { return &j.Boards }, func(id string) Board { return Board{ID: id} },
		func(b *Board) string { return b.ID }, func(b *Board) string { return b.Name }, within(Board.Validate)).staying((*Job).boardStays).
		changing(CircuitsRead, CaseRead, SupplyRead, DeskRead, DarkRead, GoodsRead, CutsRead, QuoteRead, VanRead),
	listed("circuits", working.CircuitsSheet, MaxCircuits, func(j *Job) *[]Circuit { return &j.Circuits },
		func(id string) Circuit { return Circuit{ID: id} }, func(c *Circuit) string { return c.ID },
		func(c *Circuit) string { return c.Name }, within(Circuit.Validate)).staying((*Job).circuitStays),
}

// ListNames are the names of the lists whose entries are parts.
func ListNames() []string {
	out := []string{}
	for _, k := range PartKinds {
		if k.List {
			out = append(out, k.Name)
		}
	}
	return out
}

func (k *PartKind) staying(why func(j *Job, id string) string) *PartKind { k.stays = why; return k }

func (j *Job) circuitStays(id string) string {
	for i := range j.Boards {
		if b := &j.Boards[i]; b.Feed == id {
			return j.Words.Say("%s stays: it feeds %s. Take the board off first.", j.CircuitByID(id).Name, b.Called(j.Words))
		}
	}
	if why := j.branchStays(id); why != "" {
		return why
	}
	for _, r := range j.Records {
		if r.Circuit == id || strings.HasPrefix(r.Subject, id+"-") {
			return j.Words.Say("%s stays: it has records (%s by %s).", j.CircuitByID(id).Name, string(r.Kind), r.By)
		}
	}
	return ""
}

func (j *Job) roomStays(id string) string {
	room := j.RoomByID(id)
	for _, r := range j.Rooms {
		if r.From == id {
			return j.Words.Say("%s stays: the cables of %s come through it.", room.Name, r.Name)
		}
	}
	for i := range j.Circuits {
		for n := range j.Circuits[i].Serves.Boxes {
			if b := &j.Circuits[i].Serves.Boxes[n]; b.Room == id {
				return j.Words.Say("%s stays: %s stands on the run of %s. Take it off the run first.", room.Name, b.Called(), j.Circuits[i].Name)
			}
		}
	}
	for _, r := range j.Records {
		if r.Room == id || r.Subject == id || slices.ContainsFunc(room.Points, func(p RoomPoint) bool { return p.ID == r.Subject }) {
			return j.Words.Say("%s stays: it has records (%s by %s).", room.Name, string(r.Kind), r.By)
		}
	}
	return ""
}

func (k *PartKind) changing(sheets ...Computed) *PartKind { k.Stale = sheets; return k }

// kept is the kind of a part that the program alone writes.
func (k *PartKind) kept() *PartKind { k.Kept = true; return k }

func (k *PartKind) by(roles []string) *PartKind { k.By = roles; return k }

func alike[T any](check func(T) error) func(*T, Terms) error {
	return func(p *T, _ Terms) error { return check(*p) }
}

func within[T any](check func(T, Terms) error) func(*T, Terms) error {
	return func(p *T, t Terms) error { return check(*p, t) }
}

// Part is one part of a job by its name.
type Part struct {
	Kind *PartKind
	ID   string // of an entry of a list
}

// PartNamed reads the name of a part; false where no kind of part has it.
func PartNamed(name string) (Part, bool) {
	head, id, list := strings.Cut(name, "/")
	for _, k := range PartKinds {
		if k.Name == head && k.List == list && (!list || id != "") {
			return Part{k, id}, true
		}
	}
	return Part{}, false
}

// String is the name of the part.
func (p Part) String() string {
	if p.Kind.List {
		return p.Kind.Name + "/" + p.ID
	}
	return p.Kind.Name
}

// Of is a pointer to the part of a job, nil where the job has none.
func (p Part) Of(j *Job) any { return p.Kind.find(j, p.ID) }

// Added is a pointer to the part, which is made where there is none.
func (p Part) Added(j *Job) any { return p.Kind.add(j, p.ID) }

// Full reports whether the list of a new part holds as many as it may.
func (p Part) Full(j *Job) bool {
	return p.Kind.List && p.Of(j) == nil && len(p.Kind.ids(j)) >= p.Kind.Most
}

// Place is where an entry stands in its list, from 0.
func (p Part) Place(j *Job) int { return max(0, slices.Index(p.Kind.ids(j), p.ID)) }

// Stays says why the entry of a list cannot be taken off, empty where it can: something was recorded
// of it, or something else rests on it.
func (p Part) Stays(j *Job) string { return p.Kind.stays(j, p.ID) }

// Misnamed is the id that the body of an entry of a list has where it is another than the part's.
func (p Part) Misnamed(body any) (id string, other bool) {
	if !p.Kind.List {
		return "", false
	}
	id = p.Kind.id(body)
	return id, id != p.ID
}

// Drop takes the entry of a list off the job.
func (p Part) Drop(j *Job) { p.Kind.drop(j, p.ID) }

// Named is what the part of a job is called: an entry by its own name.
func (p Part) Named(j *Job) string {
	if p.Kind.List {
		if of := p.Of(j); of != nil {
			return p.Kind.name(of)
		}
		return p.ID
	}
	return j.Words.Say(string(p.Kind.Title))
}

// Check holds the part of a job to its bounds and to the practice's terms. The error is [Errors].
func (p Part) Check(j *Job, t Terms) error { return p.Kind.check(p.Of(j), t) }

// Parts are all parts of the job.
func (j *Job) Parts() iter.Seq[Part] {
	return func(yield func(Part) bool) {
		for _, k := range PartKinds {
			for _, id := range k.ids(j) {
				if !yield(Part{k, id}) {
					return
				}
			}
		}
	}
}

// Tidy gives every list and map of the job a value, so that none encodes as null.
func (j *Job) Tidy() { Fill(j) }

// Fill gives every list and map below a pointer a value.
func Fill(v any) { tidy(reflect.ValueOf(v).Elem()) }

// tidy fills what is nil below a value, but for what is left out of its JSON when it is empty.
func tidy(v reflect.Value) {
	switch v.Kind() {
	case reflect.Slice:
		if v.IsNil() {
			v.Set(reflect.MakeSlice(v.Type(), 0, 0))
		}
		if holds(v.Type().Elem()) {
			for i := range v.Len() {
				tidy(v.Index(i))
			}
		}
	case reflect.Map:
		if v.IsNil() {
			v.Set(reflect.MakeMap(v.Type()))
		}
	case reflect.Struct:
		for _, i := range lists(v.Type()) {
			tidy(v.Field(i))
		}
	}
}

var listFields sync.Map // type to the indices of its fields that are or hold lists and are never left out

// lists are the fields of a struct below which there may be something to fill.
func lists(t reflect.Type) []int {
	if known, ok := listFields.Load(t); ok {
		return known.([]int)
	}
	out := []int{}
	for i := range t.NumField() {
		f := t.Field(i)
		json := f.Tag.Get("json")
		if f.IsExported() && json != "-" && !strings.HasSuffix(json, ",omitempty") && holds(f.Type) {
			out = append(out, i)
		}
	}
	listFields.Store(t, out)
	return out
}

// holds reports whether a type is a list or a map, or a struct that has one.
func holds(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.Slice, reflect.Map:
		return true
	case reflect.Struct:
		return len(lists(t)) > 0
	}
	return false
}
