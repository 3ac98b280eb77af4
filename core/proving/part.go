package proving

import (
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/rulebook"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Ask is one thing that whoever permits to energise has to have seen.
type Ask struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

// asks are what must have been seen before a part is energised, by what for.
var asks = map[install.PermitUse][]Ask{
	install.ForTest: {
		{"covers", string(words.Key("Every cover is on, or what is open is guarded; no conductor is left bare in reach"))},
		{"people", string(words.Key("Everyone on site is told and clear of the work"))},
		{"guarded", string(words.Key("I stay here while it is live, and nobody comes near what is tested"))},
		{"own-lock", string(words.Key("My own lock and tag are the last, and come off now"))},
	},
	install.IntoUse: {
		{"covers", string(words.Key("Every cover is on, and no conductor is left bare"))},
		{"people", string(words.Key("Whoever lives or works here is told what is live"))},
		{"own-lock", string(words.Key("My own lock and tag are the last, and come off now"))},
	},
	install.RestoreUse: {
		{"covers", string(words.Key("Every cover is on, and no conductor is left bare"))},
		{"people", string(words.Key("Everyone on site is told and clear of the work"))},
		{"unaltered", string(words.Key("What comes back on is as it was before: nothing of it was altered or begun"))},
		{"own-lock", string(words.Key("My own lock and tag are the last, and come off now"))},
	},
}

// Waits is one thing that permission to energise waits for, and the sheet on which it is mended.
type Waits struct {
	Why   string        `json:"why"`
	Sheet working.Sheet `json:"sheet"`
	// Circuit is that which it is about, empty for none.
	Circuit string `json:"circuit"`
}

// PartState is how a part stands.
type PartState string

// The states.
const (
	PartLocked  PartState = "locked"  // a lock keeps it open
	PartOpen    PartState = "open"    // it was opened and nobody permitted to close it since
	PartTest    PartState = "test"    // live to be tested
	PartService PartState = "service" // in service
	PartLapsed  PartState = "lapsed"  // live, and its permission lapsed: it is switched off
	PartStray   PartState = "stray"   // live without permission
	PartBefore  PartState = "before"  // as it was before the job
)

// Permission is what permission for one use of a part waits for.
type Permission struct {
	Use   install.PermitUse `json:"use"`
	Waits []Waits           `json:"waits"` // empty where it may be given
	Asks  []Ask             `json:"asks"`
}

// Spot is a place of a part.
type Spot struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Part is what one closing makes live.
type Part struct {
	Closes  []string        `json:"closes"` // devices in the order in which they are closed, by id
	Name    string          `json:"name"`
	Reaches []string        `json:"reaches"` // places that it makes live, by name
	State   PartState       `json:"state"`
	Permit  *install.Record `json:"permit"` // under which it is live
	Lapsed  string          `json:"lapsed"` // why its permission is none any more
	For     []Permission    `json:"for"`
	Covers  []Spot          `json:"covers"` // places that it makes live where a cover may stay off while it is tested

	places map[string]bool
}

// parts are those of the job: what was opened or permitted, and where nothing was the main switch; those to be closed first.
func (s *Sheet) parts(job *install.Job, tests []rulebook.Test, facts *Facts, by install.Person, now time.Time) []Part {
	p := partingOf(s, job, tests, facts, by, now)
	mine := []string{}
	for i := range s.Locks {
		for _, o := range keptBy(job, &s.Locks[i], install.Energise, install.SwitchedOn) { // not what was closed since
			if s.Locks[i].IsBy(by) && !slices.Contains(mine, o.Device) {
				mine = append(mine, o.Device)
			}
		}
	}
	closed, open := []Part{}, []Part{}
	for _, d := range p.facts.House.Devices {
		switch r := p.last[d.ID]; {
		case slices.Contains(s.locked, d.ID), r != nil && r.Kind == install.Isolation:
			open = append(open, p.part(d.Name, d.ID))
		case r != nil && r.Kind == install.Energise && len(r.Closes) > 0: // what was closed together is one part
			if together := p.inOrder(slices.DeleteFunc(slices.Clone(r.Closes), func(d string) bool { return p.last[d] != r })); together[0] == d.ID {
				closed = append(closed, p.part(p.names(together), together...))
			}
		case r != nil:
			closed = append(closed, p.part(d.Name, d.ID))
		}
	}
	if together := p.inOrder(mine); len(together) > 1 {
		open = slices.Insert(open, 0, p.part(job.Words.Say("All that my locks keep open"), together...))
	}
	if len(open)+len(closed) == 0 && len(p.facts.House.Devices) > 0 {
		d, ok := p.facts.House.Device(isolate.Main)
		if ok {
			open = append(open, p.part(d.Name, d.ID))
		}
	}
	return append(open, closed...)
}

// parting works out the parts of a job.
type parting struct {
	s     *Sheet
	job   *install.Job
	tests []rulebook.Test
	facts *Facts
	by    install.Person
	now   time.Time
	last  map[string]*install.Record // what was last recorded of each device
}

func partingOf(s *Sheet, job *install.Job, tests []rulebook.Test, facts *Facts, by install.Person, now time.Time) *parting {
	p := &parting{s: s, job: job, tests: tests, facts: facts, by: by, now: now, last: map[string]*install.Record{}}
	p.events()
	return p
}

// events finds what was last recorded of each device.
func (p *parting) events() {
	for i := range p.job.Records {
		switch r := &p.job.Records[i]; r.Kind {
		case install.Isolation:
			for _, o := range r.Opens {
				p.last[o.Device] = r
			}
		case install.SwitchedOn:
			if r.Subject != "" {
				p.last[r.Subject] = r
			}
		case install.Energise:
			for _, d := range r.Closes {
				p.last[d] = r
			}
			if len(r.Closes) == 0 {
				clear(p.last)
				p.last[isolate.Main] = r
			}
		}
	}
}

// inOrder are devices in the order of the house: from the supply on, sources of the customer's own last.
func (p *parting) inOrder(ids []string) []string {
	out, own := []string{}, []string{}
	for _, d := range p.facts.House.Devices {
		switch {
		case !slices.Contains(ids, d.ID):
		case d.Kind == isolate.SourceKind:
			own = append(own, d.ID)
		default:
			out = append(out, d.ID)
		}
	}
	return append(out, own...)
}

// names are what some devices are called; where there are many, the first and how many more.
func (p *parting) names(ids []string) string {
	out := []string{}
	for _, id := range ids {
		d, _ := p.facts.House.Device(id)
		out = append(out, d.Name)
	}
	if len(out) > 3 {
		return p.job.Words.Say("%s and %d more", strings.Join(out[:2], ", "), len(out)-2)
	}
	return strings.Join(out, ", ")
}

// part is what closing some devices makes live, with what it waits for.
func (p *parting) part(name string, closes ...string) Part {
	w := p.job.Words
	out := Part{Closes: closes, Name: name, State: PartBefore, Reaches: []string{}, For: []Permission{}, Covers: []Spot{}}
	r := p.last[closes[0]]
	switch {
	case slices.ContainsFunc(closes, func(d string) bool { return slices.Contains(p.s.locked, d) }):
		out.State = PartLocked
	case r == nil:
	case r.Kind == install.Isolation:
		out.State = PartOpen
	case r.Kind == install.SwitchedOn:
		out.State, out.Lapsed = PartStray, w.Say("Switched on without permission, as %s says: %s", r.By, r.Note)
	default:
		out.State, out.Permit = PartService, r
		if r.Use == install.ForTest {
			out.State = PartTest
		}
	}
	places, back := p.feeds(closes, "")
	if out.Permit != nil && len(r.Closes) > 0 {
		places = slices.DeleteFunc(slices.Clone(r.Part), func(id string) bool { return p.s.live.At(id) == nil })
		if len(places) > 0 { // what a lock no longer keeps out may be live again, whether anybody permitted it or not
			reached, _ := p.feeds(closes, install.RestoreUse)
			places = append(places, reached...)
		}
	}
	out.places = setOf(places)
	for _, id := range places {
		if at, ok := p.facts.House.Place(id); ok && !isolate.Found(id) && !slices.Contains(out.Reaches, at.Name) {
			out.Reaches = append(out.Reaches, at.Name)
			out.Covers = append(out.Covers, Spot{id, at.Name})
		}
	}
	if out.Permit != nil && len(r.Closes) > 0 && !p.job.Frozen() {
		if out.Lapsed = p.lapsed(&out); out.Lapsed != "" {
			out.State = PartLapsed
		}
	}
	for _, use := range install.PermitUses {
		of := waiting{parting: p, part: &out, places: out.places, use: use, back: back}
		if use == install.RestoreUse && out.Permit == nil {
			places, of.back = p.feeds(closes, use)
			of.places = setOf(places)
		}
		asks := AsksOf(w, use)
		if use != install.ForTest {
			asks = append(asks, p.covers(of.places)...)
		}
		out.For = append(out.For, Permission{Use: use, Waits: of.all(), Asks: asks})
	}
	return out
}

func setOf(ids []string) map[string]bool {
	out := make(map[string]bool, len(ids))
	for _, id := range ids {
		out[id] = true
	}
	return out
}

func (p *parting) feeds(closes []string, use install.PermitUse) (places, back []string) {
	return p.facts.feeds(p.job, p.s.locked, closes, use)
}

// feeds are the places that closing devices makes live while whatever else is locked stays open. What is restored leaves out what the job puts
// in and of which nothing is connected at its device yet.
func (f *Facts) feeds(job *install.Job, locked, closes []string, use install.PermitUse) (places, back []string) {
	open := slices.DeleteFunc(slices.Clone(locked), func(d string) bool { return slices.Contains(closes, d) })
	if use == install.RestoreUse {
		for i := range job.Circuits {
			if k := &job.Circuits[i]; k.State == install.NewCircuit && !f.begun(k.ID, isolate.DevicePlace(k)) {
				open = append(open, isolate.DevicesOf(k)...)
			}
		}
	}
	return f.House.Feeds(closes, open)
}

// lapsed says why the permission of a part is none any more; empty where it stands.
func (p *parting) lapsed(part *Part) string {
	w, r := p.job.Words, part.Permit
	switch {
	case len(part.places) == 0 && len(r.Part) > 0:
		return w.Say("what feeds it was opened since: it is energised anew.")
	case !r.Until.IsZero() && !p.now.Before(r.Until):
		return w.Say("it was given until %s.", r.Until.In(p.now.Location()).Format("2006-01-02 15:04"))
	case r.Use == install.ForTest && r.At.In(p.now.Location()).Format(time.DateOnly) != p.now.Format(time.DateOnly):
		return w.Say("it was given for a test on %s.", r.At.In(p.now.Location()).Format(time.DateOnly))
	case r.Model != "" && r.Model != modelOf(p.job, r.Part):
		return w.Say("what it is about was changed since.")
	}
	of := waiting{parting: p, part: part, places: part.places, use: r.Use, stands: true}
	if of.use == install.IntoUse {
		of.use = install.ForTest // what is in service goes on while a later reading is awaited, and not over work or a failed design
	}
	if first := of.all(); len(first) > 0 {
		return first[0].Why
	}
	return ""
}

// AsksOf are what must have been seen before a part is energised for a use, in the words of a practice; of older permissions, which had none,
// those of service.
func AsksOf(w *words.Catalogue, use install.PermitUse) []Ask {
	if use == "" {
		use = install.IntoUse
	}
	out := slices.Clone(asks[use])
	for i := range out {
		out[i].Title = w.Say(out[i].Title)
	}
	return out
}

// covers asks, of each place of a part that a test left without its cover, that it is back on.
func (p *parting) covers(places map[string]bool) []Ask {
	out, on := []Ask{}, map[string]bool{}
	for i := range p.s.live.on { // the newest first
		r := p.s.live.on[i].r
		for _, id := range r.Confirmed {
			on[id] = on[id] || r.Use != install.ForTest
		}
		for _, place := range r.Bare {
			if id := coverOf + place; places[place] && !on[id] {
				on[id] = true
				at, _ := p.facts.House.Place(place)
				out = append(out, Ask{id, p.job.Words.Say("The cover of %s is back on", cmp.Or(at.Name, place))})
			}
		}
	}
	return out
}

// coverOf stands before the place whose cover is asked about.
const coverOf = "cover:"

// CoverAsked is the place of which something that was seen says that its cover is back on; false of anything else.
func CoverAsked(id string) (place string, ok bool) { return strings.CutPrefix(id, coverOf) }

// notInService are what the job makes, alters or opened that is not in service, by name.
func (s *Sheet) notInService(job *install.Job, facts *Facts) []string {
	out, told := []string{}, []string{}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		place := isolate.CircuitPlace(k.ID)
		switch {
		case k.State.Out():
			told = append(told, place) // it stays off
		case !job.Trait().Report && facts.touched(k) && !s.live.InService(place):
			out, told = append(out, k.Name), append(told, place)
		}
	}
	for i := range s.Parts {
		p := &s.Parts[i]
		said := slices.ContainsFunc(told, func(place string) bool { return p.places[place] })
		if p.State != PartBefore && p.State != PartService && !said && !slices.Contains(out, p.Name) {
			out = append(out, p.Name)
		}
	}
	return out
}

// PartOf writes on a permission what it makes live and what stands there, as whoever keeps the records does before it is judged.
func PartOf(job *install.Job, facts *Facts, r *install.Record) {
	open := locked(job, Locks(job))
	r.Part, _ = facts.feeds(job, open, r.Closes, r.Use)
	if !slices.ContainsFunc(r.Closes, func(d string) bool { return slices.Contains(open, d) }) {
		if on := LiveOf(job, facts.House).of(r.Closes); on != nil {
			r.Part = slices.Clone(on.Part) // what is live for a test and goes into service is what was live
		}
	}
	r.Model = modelOf(job, r.Part)
}

// of is the permission under which just these devices were closed, nil for none that stands.
func (l *Live) of(closes []string) *install.Record {
	for i := range l.on {
		if p := &l.on[i]; !p.ended && slices.ContainsFunc(closes, func(d string) bool { return slices.Contains(p.r.Closes, d) }) {
			return p.r
		}
	}
	return nil
}

// modelOf is a digest of what the model says of the circuits of some places, as far as closing them asks.
func modelOf(job *install.Job, places []string) string {
	var b strings.Builder
	for i := range job.Circuits {
		k := &job.Circuits[i]
		if !slices.Contains(places, isolate.CircuitPlace(k.ID)) {
			continue
		}
		p := &k.Protection
		fmt.Fprintf(&b, "%s|%s|%s|%s|%s|%s|%v|%v|%d|%s|%s|%v|%v|%.2f|%v|%v\n", k.ID, k.From, k.State, k.Use, p.Family, p.Curve, p.RatingA, p.IdnMA, p.Poles,
			p.RCDType, p.Group, p.OwnEnclosure, p.Shared.Is, k.Route.LengthM(), k.Route.LineMM2, k.Serves.Backfeed)
		for n := range k.Serves.Boxes {
			box := &k.Serves.Boxes[n]
			fmt.Fprintf(&b, " %s<%s", box.ID, box.From)
		}
	}
	if b.Len() == 0 {
		return ""
	}
	sum := sha256.Sum256([]byte(b.String()))
	return hex.EncodeToString(sum[:8])
}

// allowPermit lets a part be energised by one closing, once nothing holds it and whoever permits it has seen and counted.
func allowPermit(job *install.Job, who install.Person, r install.Record, tests []rulebook.Test, facts *Facts, now time.Time) error {
	w := job.Words
	sheet := TestRows(job, tests, facts, who, now)
	for _, d := range r.Closes {
		if _, ok := facts.House.Device(d); !ok {
			return install.Errors{{Field: "energise.closes", Value: d, Accept: w.Say("devices of the installation")}}
		}
	}
	p := partingOf(&sheet, job, tests, facts, who, now)
	part := p.part("", r.Closes...)
	for _, use := range part.For {
		if use.Use != r.Use {
			continue
		}
		if len(use.Waits) > 0 {
			return &NotYetError{use.Waits[0].Why}
		}
		for _, ask := range use.Asks {
			if !slices.Contains(r.Confirmed, ask.ID) {
				return install.Errors{{Field: "energise.confirmed", Value: strings.Join(r.Confirmed, ", "), Accept: ask.ID + ": " + ask.Title}}
			}
		}
	}
	if err := guarded(p, &part, &r); err != nil {
		return err
	}
	if !r.Until.IsZero() && !r.Until.After(now) {
		return install.Errors{{Field: "energise.until", Value: r.Until.Format(time.RFC3339), Accept: w.Say("a time that is still to come, or nothing")}}
	}
	return counted(w, Hang(sheet.Locks), r)
}

// guarded holds a permission to test to how people are kept out, and to covers that are off in what it makes live. While a fault is searched
// for, somebody stands there.
func guarded(p *parting, part *Part, r *install.Record) error {
	if r.Use != install.ForTest {
		return nil
	}
	w := p.job.Words
	x := waiting{parting: p, part: part, places: part.places}
	for i := range p.s.Rows {
		row := &p.s.Rows[i]
		if o := row.Ordered; o != nil && o.Path == install.OrderSearch && r.Guarded != install.GuardPerson && x.about(&p.tests[i]) {
			return install.Errors{{Field: "energise.guarding", Value: string(r.Guarded),
				Accept: w.Say("%s: %s ordered a guarded search for the fault of %s", string(install.GuardPerson), o.By, row.Title)}}
		}
	}
	if r.Guarded == "" {
		return install.Errors{{Field: "energise.guarding", Value: string(r.Guarded), Accept: w.Say("how people are kept out while it is tested: %s",
			strings.Join(guardings(), ", "))}}
	}
	for i, place := range r.Bare {
		if !part.places[place] {
			return install.Errors{{Field: fmt.Sprintf("energise.bare[%d]", i), Value: place, Accept: w.Say("a place of what this makes live")}}
		}
	}
	return nil
}

func guardings() (out []string) {
	for _, g := range install.Guardings {
		out = append(out, string(g))
	}
	return out
}

// counted holds whoever permits to energise to the locks and tags that they counted where they hang. How many are on record is not said: it is
// counted, not copied.
func counted(w *words.Catalogue, hang int, r install.Record) error {
	said := "nothing"
	if r.Counted != nil {
		if *r.Counted == hang {
			return nil
		}
		said = strconv.Itoa(*r.Counted)
	}
	return install.Errors{{Field: "energise.counted", Value: said,
		Accept: w.Say("the locks and tags as they hang there, which are those on record: look at the locks of the job for what differs")}}
}

// lapse closes the live tests of what is live under a permission that lapsed.
func (s *Sheet) lapse(job *install.Job, house *isolate.House, tests []rulebook.Test) {
	for i := range s.Parts {
		p := &s.Parts[i]
		if p.State != PartLapsed {
			continue
		}
		for n := range tests {
			if row := &s.Rows[n]; row.Live && row.Closed == "" && p.places[placeOf(job, house, &tests[n])] {
				row.Closed = job.Words.Say("Live, and its permission lapsed: switch off. %s", p.Lapsed)
			}
		}
	}
}
