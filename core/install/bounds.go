package install

import (
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// The bounds of the model stand in the tags of its fields, and everything that asks for them reads
// them there: what is saved and imported is held to them, and the contract says them.
//
//	range:"0.1..500"  least and most of a figure; of a [Fact] those of its value
//	unit:"m"          in which it is
//	zero:"or 0 when not known"  what 0 says, which is then accepted below the least too
//	chars:"200"       the most characters of a text
//	needed:"yes"      the text is not empty
//	of:"places?"      one of a set of names, with ? or none
//	shape:"date"      a text of a form: date, clock, id, ip
//	most:"60"         the most entries of a list

// Bound is what the tags of a field say.
type Bound struct {
	Low, High float64 // of a figure; both 0 without a range
	Unit      string
	Zero      string
	Chars     int
	Needed    bool
	Set       string // name of a set
	Maybe     bool   // or none of it
	Shape     string
	Most      int
}

// BoundOf reads the tags of a field. It panics where one is not understood, as every field is read
// by a test.
func BoundOf(f reflect.StructField) Bound {
	b := Bound{Unit: f.Tag.Get("unit"), Zero: f.Tag.Get("zero"), Needed: f.Tag.Get("needed") != "", Shape: f.Tag.Get("shape")}
	number := func(s string) float64 {
		v, err := strconv.ParseFloat(s, 64)
		if err != nil {
			panic(fmt.Sprintf("field %s: %v", f.Name, err))
		}
		return v
	}
	if r := f.Tag.Get("range"); r != "" {
		low, high, _ := strings.Cut(r, "..")
		b.Low, b.High = number(low), number(high)
	}
	if n := f.Tag.Get("chars"); n != "" {
		b.Chars = int(number(n))
	}
	if n := f.Tag.Get("most"); n != "" {
		b.Most = int(number(n))
	}
	b.Set, b.Maybe = strings.CutSuffix(f.Tag.Get("of"), "?")
	return b
}

// Ranged reports whether the field is a figure with a range.
func (b Bound) Ranged() bool { return b.Low != 0 || b.High != 0 }

// set is a set of names that a field takes one of.
type set struct {
	fixed []string                // the same in every practice
	terms func(t *Terms) []string // those of a practice
	open  bool                    // where a practice has none, any text is taken
}

func typed[T ~string](all []T) set {
	out := make([]string, len(all))
	for i, v := range all {
		out[i] = string(v)
	}
	return set{fixed: out}
}

// sets are the sets by the names that tags call them by.
var sets = map[string]set{
	"premises": typed(Premises), "boxDevices": typed(BoxDevices), "sides": typed([]Side{LineSide, LoadSide}),
	"halves": typed([]Half{FirstHalf, SecondHalf}), "openings": typed(Openings), "boxLines": typed(Lines),
	"cpcKinds": typed(CPCKinds),
	"runSteps": typed(RunSteps), "circuitStates": typed(CircuitStates),
	"outChoices": typed(OutChoices), "environments": typed(Environments), "consequences": typed(Consequences),
	"spdPlaces": typed(SPDPlaces), "spdTypes": typed(SPDTypes), "spdSchemes": typed(SPDSchemes),
	"owners": typed([]string{OwnerOperator, OwnerMeter, OwnerCustomer}), "seals": typed(Seals[1:]),
	"lineSides": typed([]string{"top", "bottom", "left", "right"}), "metals": typed([]string{"cu", "al"}),
	"heightMarks": typed(HeightMarks), "tradeKinds": typed(TradeKinds), "tradeWaits": typed(TradeWaits), "runKinds": typed([]string{Trench,
		Overhead}), "obstructionOptions": typed(ObstructionOptions),
	"moistures": typed([]Moisture{Wet, Damp, Dry}), "rodModes": typed([]string{"vertical", "slant", "flat"}), "baths": typed(Baths), "pointStates": typed(PointStates),
	"arresters": typed([]string{"none", "in sight", "hidden"}), "nears": typed(Nears), "coverings": typed(Coverings), "trips": typed(TripsOf), "laterKinds": typed(LaterKinds), "keepings": typed(Keepings),
	"permitUses": typed(PermitUses), "guardings": typed(Guardings), "testerKinds": typed(TesterKinds), "furnitureKinds": typed(FurnitureKinds),
	"behinds": typed(Behinds), "dusts": typed(Dusts),
	"foundStates": typed(FoundStates), "foundColours": typed([]string{"old", "new", "mixed"}), "wirings": typed(Wirings),
	"insulations": typed(Insulations), "inTerminals": typed(InTerminals),
	"taxOns": typed(TaxOns), "extraKinds": typed(ExtraKinds), "restWhos": typed(RestWhos), "bringers": typed(Bringers), "orderStates": typed(OrderStates),
	"warranters": typed(Warranters), "mountings": typed(Mountings), "finishes": typed(Finishes),
	"leftKinds": typed(LeftKinds), "leftTriggers": typed(LeftTriggers),
	"hazardKinds": {terms: func(*Terms) []string { return hazardNames() }},

	"lampCaps":        {terms: func(t *Terms) []string { return t.LampCaps }},
	"earthing":        {terms: func(t *Terms) []string { return t.Earthing }},
	"earthTo":         {terms: func(t *Terms) []string { return t.EarthTo }},
	"earthLaid":       {terms: func(t *Terms) []string { return t.EarthLaid }},
	"bondKinds":       {terms: func(t *Terms) []string { return t.BondKinds }},
	"boardPlaces":     {terms: func(t *Terms) []string { return t.BoardPlaces }},
	"rcdTypes":        {terms: func(t *Terms) []string { return t.RCDTypes }},
	"categories":      {terms: func(t *Terms) []string { return t.Categories }},
	"uses":            {terms: func(t *Terms) []string { return t.Uses }},
	"loadKinds":       {terms: func(t *Terms) []string { return t.LoadKinds }},
	"places":          {terms: func(t *Terms) []string { return t.Places }},
	"cables":          {terms: func(t *Terms) []string { return t.CableTypes }},
	"risers":          {terms: func(t *Terms) []string { return t.Risers }},
	"coverPlaces":     {terms: func(t *Terms) []string { return t.CoverPlaces }},
	"families":        {terms: func(t *Terms) []string { return t.Families }},
	"curves":          {terms: func(t *Terms) []string { return t.Curves }},
	"penOptions":      {terms: func(t *Terms) []string { return t.PENOptions }},
	"enclosures":      {terms: func(t *Terms) []string { return t.Enclosures }},
	"conductorSizes":  {terms: func(t *Terms) []string { return t.ConductorSizes }, open: true},
	"feedWays":        {terms: func(t *Terms) []string { return t.FeedWays }, open: true},
	"isolationRoutes": {terms: func(t *Terms) []string { return t.IsolationRoutes }},
	"surfaces":        {terms: func(t *Terms) []string { return t.Surfaces }, open: true},
	"soils":           {terms: func(t *Terms) []string { return t.Soils }, open: true},
	"points":          {terms: func(t *Terms) []string { return t.Points }},
	"switching":       {terms: func(t *Terms) []string { return t.Switching }},
}

// FixedSet are the names of a set that is the same in every practice; nil for any other.
func FixedSet(name string) []string { return slices.Clone(sets[name].fixed) }

// openChars bounds a name where a practice has no list of its own.
const openChars = 80

func hazardNames() []string {
	out := []string{}
	for k := range HazardKinds {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// bounded is a field with what its tags say.
type bounded struct {
	Bound
	index int
	name  string
}

var (
	boundsOf sync.Map // type to its fields
	factType = reflect.TypeFor[Fact]()
	timeType = reflect.TypeFor[time.Time]()
	basisOf  = reflect.TypeFor[Basis]()
)

func fieldsOf(t reflect.Type) []bounded {
	if known, ok := boundsOf.Load(t); ok {
		return known.([]bounded)
	}
	out := []bounded{}
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if f.IsExported() && name != "-" && f.Type != timeType {
			out = append(out, bounded{BoundOf(f), i, name})
		}
	}
	boundsOf.Store(t, out)
	return out
}

// bounds holds every field of a part, and what is below it, to what its tags say.
func (c *checker) bounds(part any, t *Terms) {
	v := reflect.ValueOf(part)
	for v.Kind() == reflect.Pointer {
		v = v.Elem()
	}
	c.fields("", v, t)
}

func (c *checker) fields(at string, v reflect.Value, t *Terms) {
	for _, f := range fieldsOf(v.Type()) {
		c.field(at+f.name, v.Field(f.index), &f.Bound, t)
	}
}

func (c *checker) field(at string, v reflect.Value, b *Bound, t *Terms) {
	if v.Kind() == reflect.Pointer {
		if v.IsNil() {
			return
		}
		v = v.Elem()
	}
	switch v.Kind() {
	case reflect.Float64:
		c.figure(at, v.Float(), b)
	case reflect.Int:
		c.figure(at, float64(v.Int()), b)
	case reflect.String:
		c.words(at, v, b, t)
	case reflect.Struct:
		if v.Type() == factType {
			c.factOf(at, v.Interface().(Fact), b)
			return
		}
		c.fields(at+".", v, t)
	case reflect.Slice:
		c.atMost(at, v.Len(), b)
		for i := range v.Len() {
			c.entry(fmt.Sprintf("%s[%d]", at, i), v.Index(i), b, t)
		}
	case reflect.Map:
		c.atMost(at, v.Len(), b)
		for _, key := range v.MapKeys() {
			c.entry(at+"["+key.String()+"]", v.MapIndex(key), b, t)
			if b.Chars > 0 {
				c.text(at, key.String(), b.Chars)
			}
		}
	}
}

// entry holds one entry of a list to the bounds of its fields, or a text to those of the list.
func (c *checker) entry(at string, v reflect.Value, b *Bound, t *Terms) {
	switch v.Kind() {
	case reflect.Struct:
		c.fields(at+".", v, t)
	case reflect.String:
		c.text(at, v.String(), b.Chars)
	}
}

func (c *checker) atMost(at string, n int, b *Bound) {
	if b.Most > 0 && n > b.Most {
		c.say(at, n, c.w.Say("at most %d entries", b.Most))
	}
}

func (c *checker) figure(at string, v float64, b *Bound) {
	if !b.Ranged() || v == 0 && b.Zero != "" {
		return
	}
	accept := b.Unit
	if strings.Contains(accept, " ") {
		accept = c.w.Say(accept)
	}
	if b.Zero != "" {
		accept += ", " + c.w.Say(b.Zero)
	}
	c.between(at, v, b.Low, b.High, accept)
}

func (c *checker) factOf(at string, f Fact, b *Bound) {
	c.basis(at+".basis", f.Basis)
	c.text(at+".note", f.Note, 400)
	if f.Value != nil && b.Ranged() {
		c.between(at+".value", *f.Value, b.Low, b.High, b.Unit)
	}
}

func (c *checker) words(at string, v reflect.Value, b *Bound, t *Terms) {
	text := v.String()
	if v.Type() == basisOf {
		c.basis(at, Basis(text))
		return
	}
	if b.Set != "" {
		c.named(at, text, b, t)
		return
	}
	if b.Needed {
		c.needed(at, text, b.Chars)
	} else if b.Chars > 0 {
		c.text(at, text, b.Chars)
	}
	c.shaped(at, text, b.Shape)
}

func (c *checker) named(at, text string, b *Bound, t *Terms) {
	s := sets[b.Set]
	names := s.fixed
	if s.terms != nil {
		names = s.terms(t)
	}
	switch {
	case s.open && names == nil:
		c.text(at, text, openChars)
	case b.Maybe && text == "":
	case b.Maybe:
		c.oneOf(at, text, append([]string{""}, names...))
	default:
		c.oneOf(at, text, names)
	}
}

func (c *checker) shaped(at, text, shape string) {
	switch shape {
	case "date":
		c.date(at, text)
	case "id":
		c.ident(at, text)
	case "clock":
		if _, ok := ClockH(text); text != "" && !ok {
			c.say(at, text, c.w.Say("a time as 08:00"))
		}
	case "ip":
		if _, ok := IPCode(text); text != "" && !ok {
			c.say(at, text, c.w.Say("a code as IPX4 or IP44, or nothing"))
		}
	}
}

// How much one job may hold, on a screen and in a file alike. What lies within is computed in the times that
// docs/performance.md states; a house of eighty rooms or a block of flats' landlord's supply lies far within.
const (
	MaxCircuits = 120
	MaxRooms    = 80
	MaxPoints   = 1500 // of all rooms together
	MaxRecords  = 6000
)

// Fits checks that the job holds no more than one may. The error is [Errors].
func (j *Job) Fits() error {
	var errs Errors
	held := func(field string, n, most int) {
		if n > most {
			errs = append(errs, FieldError{field, strconv.Itoa(n), fmt.Sprintf("at most %d in one job", most)})
		}
	}
	held("circuits", len(j.Circuits), MaxCircuits)
	held(boardList, len(j.Boards), MaxBoards)
	held("rooms", len(j.Rooms), MaxRooms)
	points := 0
	for i := range j.Rooms {
		for _, p := range j.Rooms[i].Points {
			points += max(p.Count, 1)
		}
	}
	held("points", points, MaxPoints)
	held("records", len(j.Records), MaxRecords)
	held("seals", len(j.Seals), MaxRecords)
	if len(errs) > 0 {
		return errs
	}
	return nil
}

// NeverFull reports whether a record of the kind is taken however many there are: what makes safe, and what says that it is not.
func (k RecordKind) NeverFull() bool {
	switch k {
	case Isolation, ProvedDead, TesterProof, Lock, LockOff, LockTold, Withdrawal, LooseEnd, SwitchedOn, Guarded:
		return true
	}
	return false
}
