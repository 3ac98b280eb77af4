// Package demo is the demo company: invented people, houses, brands and prices,
// with jobs at different stages. It is loaded once, through the same store and
// the same rules as a person's own work.
package demo

import (
	"context"
	_ "embed"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"arvelt/api"
	"arvelt/core/goods"
	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/plan"
	"arvelt/core/proving"
	"arvelt/core/van"
	"arvelt/core/whole"
	"arvelt/store"
)

// Company is the demo company's name, Password the password of each of its people.
const (
	Company  = "Pellmore Wiring"
	Password = "copper-and-verdigris"
)

//go:embed prices.csv
var prices string

// Settings are a company's first price and hours list, instruments and
// defaults. Every price is invented.
func Settings() store.Settings {
	s := store.Settings{Refs: "PW-{n}", Practice: "iec230", Kind: install.Rewire, Address: "Unit 3, Tannery Yard, Tarrowick", Phone: "000 1188", Licence: "TV-EL 2207 (demo)",
		Quote: install.QuoteRule{MarkupPc: 18, ContingencyPc: 4, TaxName: "Tax", TaxPc: 20, ValidDays: 30,
			Pays: "A third when the work begins, a third after first fix, the rest with the handover pack.",
			Rest: []install.Rest{{What: "Plastering and decorating over chases", Who: install.RestTrade},
				{What: "Clearing rooms and lifting carpets", Who: install.RestClient}}},
		Kit:     kit(time.Now()),
		Schools: install.Schools{}, Instruments: []store.Instrument{
			{Kit: "tester", Name: "Tarn M3 multifunction tester", Serial: "T-0412", Calibrated: time.Now().AddDate(0, 7, 0).Format(time.DateOnly)},
			{Kit: "torque", Name: "Tarn W2 torque wrench", Serial: "T-0933", Calibrated: time.Now().AddDate(0, 4, 0).Format(time.DateOnly)},
			{Kit: "earth-tester", Name: "Tarn E1 earth tester", Serial: "T-0087", Calibrated: time.Now().AddDate(0, 2, 0).Format(time.DateOnly)},
		}}
	table, err := goods.Read(prices)
	if err != nil {
		panic(err) // the file is embedded; a test reads it
	}
	list, err := materials.ReadCatalogue(table, nil)
	if err == nil && len(list.Unread) > 0 {
		err = list.Unread
	}
	if err != nil {
		panic(err)
	}
	s.Prices = list.Items
	return s
}

var people = []struct {
	key, name, role string
	holds           []install.Authority
}{
	{"ines", "Ines Pellmore", install.RoleOwner, nil},
	{"tobias", "Tobias Marrick", install.RoleSupervisor, install.AuthorityList},
	{"jana", "Jana Okell", install.RoleElectrician, []install.Authority{install.Isolating, install.Testing, install.Energising, install.Releasing,
		install.Climbing, install.Terminating, install.Machines}},
	{"remy", "Remy Stroud", install.RoleApprentice, []install.Authority{install.Trenching}},
	{"dot", "Dot Farley", install.RoleOffice, nil},
}

// lock keeps two instances from loading the demo at once.
const lock = 20260511

// Load loads the demo whole, unless a company is there already; it reports
// whether it did.
func Load(ctx context.Context, st *store.Store) (loaded bool, err error) {
	err = st.InTx(ctx, lock, func(st *store.Store) (err error) {
		loaded, err = load(ctx, st)
		return err
	})
	return loaded && err == nil, err
}

func load(ctx context.Context, st *store.Store) (bool, error) {
	if _, err := st.CompanyByName(ctx, ""); !errors.Is(err, store.ErrNotFound) {
		return false, err
	}
	hash, err := api.HashPassword(Password)
	if err != nil {
		return false, err
	}
	id, err := st.NewCompany(ctx, store.Company{Name: Company, Currency: "€", Demo: true, Timezone: "Etc/UTC", Settings: Settings()})
	if err != nil {
		return false, err
	}
	b := &builder{ctx: ctx, st: st, company: id, people: map[string]store.Person{}}
	for _, p := range people {
		person := store.Person{CompanyID: id, Name: p.name, Email: p.key + "@pellmore.example", Role: p.role, Hash: hash}
		if person.ID, err = st.NewPerson(ctx, person); err != nil {
			return false, err
		}
		if b.people[p.key], err = b.granted(person, p.holds); err != nil {
			return false, err
		}
	}
	if err := b.shelves(); err != nil {
		return false, fmt.Errorf("demo: %w", err)
	}
	for _, make := range []func() error{b.signed, b.rewire, b.upgrade, b.surge, b.testing, b.design, b.split, b.ferry,
		b.harbour, b.rope, b.sail, b.lantern} {
		if err := make(); err != nil {
			return false, fmt.Errorf("demo: %w", err)
		}
	}
	return true, nil
}

// shelves puts into the vans what earlier jobs had left.
func (b *builder) shelves() error {
	scope := b.st.For(b.company)
	for i, k := range []materials.Kept{
		{Product: "cable:flat-te-70:6", Name: "6 mm² flat twin and earth, 70 °C", Unit: "m", ByLength: true, Count: 18.5, Place: "van 1"},
		{Product: "cable:flat-te-70:1", Name: "1 mm² flat twin and earth, 70 °C", Unit: "m", ByLength: true, Count: 3, Place: "van 2"},
		{Product: "cable:nm-2:3.31", Name: "12 AWG NM-B, two conductors and ground", Unit: "ft", ByLength: true, Count: 62, Place: "yard"},
		{Product: "clip:flat:10.3", Name: "Clips for 10.3 mm cable", Unit: "pcs", Count: 140, Place: "van 1"},
	} {
		if err := scope.AddStock(b.ctx, b.people["dot"], fmt.Sprintf("demo-shelf-%d", i), k); err != nil {
			return err
		}
	}
	return nil
}

// granted authorises a person of the demo, long enough ago that all their work lies behind it.
func (b *builder) granted(p store.Person, kinds []install.Authority) (store.Person, error) {
	scope := b.st.For(b.company)
	for _, kind := range kinds {
		if err := scope.Grant(b.ctx, b.people["ines"], p.ID, store.Authorisation{Kind: kind, At: b.st.Now().AddDate(-1, 0, 0),
			Licence: "PW-" + strings.ToUpper(p.Name[:1]) + "-417"}, nil); err != nil {
			return p, err
		}
	}
	return b.st.PersonByID(b.ctx, p.ID)
}

// builder makes jobs in the past, as their people would have.
type builder struct {
	ctx     context.Context
	st      *store.Store
	company string
	people  map[string]store.Person
	n       int
}

// at returns the store as the company sees it with the clock set to days ago.
func (b *builder) at(daysAgo int, hour float64) store.Scope {
	day := time.Now().UTC().Truncate(24*time.Hour).AddDate(0, 0, -daysAgo)
	when := day.Add(time.Duration(hour * float64(time.Hour)))
	if now := time.Now().UTC(); when.After(now) {
		when = now
	}
	past := *b.st
	past.Now = func() time.Time { return when }
	return past.For(b.company)
}

func (b *builder) key() string { b.n++; return fmt.Sprintf("demo-%06d", b.n) }

func (b *builder) create(who string, daysAgo int, job install.Job) (string, error) {
	if job.Practice == "" {
		job.Practice = "iec230"
	}
	job.Format, job.Edition = install.Format, whole.Practice(&job).Opening().Edition
	job.Schools = install.Schools{}
	if job.Materials.WastagePc == 0 {
		job.Materials.WastagePc = 5
	}
	for b := range job.EachBoard() {
		for _, c := range job.On(b) {
			if w := b.WayByNo(c.Protection.Way); w != nil {
				w.Blank = false
			}
		}
	}
	if err := whole.Accept(&job); err != nil {
		return "", fmt.Errorf("%s: %w", job.Ref, err)
	}
	l, err := b.at(daysAgo, 8).Create(b.ctx, b.people[who], b.key(), job)
	if err != nil {
		return "", err
	}
	return l.ID, nil
}

func (b *builder) record(id, who string, daysAgo int, hour float64, r install.Record) error {
	scope := b.at(daysAgo, hour)
	signer, err := scope.Signer(b.ctx)
	if err != nil {
		return err
	}
	if _, err = scope.Change(b.ctx, b.people[who], id, b.key(), func(l *store.Loaded) error {
		if r.Kind == install.Signature {
			return l.Sign(r.Note, signer)
		}
		return l.NewRecord(r)
	}); err != nil {
		return fmt.Errorf("%s %s: %w", r.Kind, r.Subject, err)
	}
	return nil
}

// deliver orders and delivers the whole take-off of a job.
func (b *builder) deliver(id, who string, daysAgo int, delivered bool) error {
	_, err := b.at(daysAgo, 11).Change(b.ctx, b.people[who], id, b.key(), func(l *store.Loaded) error {
		if err := l.Touch("materials", l.Versions["materials"], "edited materials"); err != nil {
			return err
		}
		for _, line := range l.View().Take.Lines {
			stock := install.Stock{Ordered: line.Order}
			if delivered {
				stock.Delivered = line.Order
				if line.ByLength {
					stock.Lengths = strconv.FormatFloat(line.Order, 'f', -1, 64)
				}
			}
			l.Job.Materials.Lines[line.Key] = stock
		}
		return nil
	})
	return err
}

// tick ticks every task of a stage that is open, in their order; what waits for the
// tests stays for a second round.
func (b *builder) tick(id, who string, daysAgo int, hour float64, stage install.Stage) error {
	l, err := b.at(daysAgo, hour).Job(b.ctx, b.people[who], id)
	if err != nil {
		return err
	}
	for i, t := range slices.Clone(l.View().Tasks) {
		if t.Stage == stage && !t.Done {
			if t.Closed != "" { // at the start of the round; a step before it may have opened it
				if err := b.points(l, id, who, daysAgo, hour+float64(i)/60-0.001, &t); err != nil {
					return err
				}
				if l, err = b.at(daysAgo, hour).Job(b.ctx, b.people[who], id); err != nil {
					return err
				}
				if l.View().Tasks[i].Closed != "" {
					continue
				}
			}
			if err := b.record(id, who, daysAgo, hour+float64(i)/60,
				install.Record{Kind: install.Tick, Subject: t.ID, Circuit: t.Circuit, Done: true,
					Note: tickNote(&t), Person: tickWho(&t)}); err != nil {
				return err
			}
		}
	}
	return nil
}

// points records what a step of a room waits for of its points: their tags, and that every conductor was tugged.
func (b *builder) points(l *store.Loaded, id, who string, daysAgo int, hour float64, t *plan.Task) error {
	v := l.View()
	for _, r := range v.Rooms {
		var steps []install.PointStep
		switch {
		case t.Room != r.Room:
		case t.ID == plan.CloseStep(r.Room):
			steps = []install.PointStep{install.PointTagged}
		case t.ID == r.Room+"-fit":
			now, err := b.at(daysAgo, hour).Job(b.ctx, b.people[who], id)
			if err != nil {
				return err
			}
			if v = now.View(); v.RoomOf(r.Room).Second != "" {
				return nil
			}
			steps = []install.PointStep{install.PointFitted, install.PointTugged}
		}
		if len(steps) > 0 {
			return b.record(id, who, daysAgo, hour, install.Record{Kind: install.PointWork, Room: r.Room, Steps: steps, Done: true})
		}
	}
	return nil
}

// tickWho is who did a step that others do.
func tickWho(t *plan.Task) string {
	if t.Others == "" {
		return ""
	}
	return "Ode Lampard"
}

// tickNote is what is written with a tick: why there is no picture, or by what it is known that others did it.
func tickNote(t *plan.Task) string {
	switch {
	case t.Others != "":
		return "demo job: told by telephone, reference TVN-77"
	case t.Photo:
		return "demo job: no camera"
	}
	return ""
}

// isolate opens what opens the whole installation behind the intake, and reads every pair wherever somebody works on the job. intake: the
// supply is off too, by the way that the job has for it.
func (b *builder) isolate(id, who string, daysAgo int, hour float64, intake bool) error {
	l, err := b.at(daysAgo, hour).Job(b.ctx, b.people[who], id)
	if err != nil {
		return err
	}
	t := l.View().Tests
	r := install.Record{Kind: install.Isolation, LockTag: "padlock 4, tag JO-4", Tester: "Tarn V2 two-pole, no. 11", TesterKind: install.ContactTester,
		ProvedBefore: true, ProvedAfter: true, StillLive: "tails and the incoming terminals of the main switch"}
	if intake {
		r.StillLive = "the utility's line side of the meter base"
	}
	for _, d := range t.Devices {
		switch d.Kind {
		case isolate.IntakeKind:
			if intake {
				r.Opens = append(r.Opens, install.Opened{Device: d.ID, Kept: install.ByFuse})
			}
		case isolate.SwitchKind, isolate.SourceKind:
			r.Opens = append(r.Opens, install.Opened{Device: d.ID, Kept: install.ByLock, StartOff: d.Automatic})
		}
	}
	opens := []string{}
	for _, o := range r.Opens {
		opens = append(opens, o.Device)
	}
	terms := whole.Practice(&l.Job).Terms()
	dead, read := isolate.Of(&l.Job, &terms).With(opens), 0.3
	for _, at := range t.Places {
		if !dead.Expects(at.ID) {
			continue
		}
		p := install.Proof{At: at.ID, Cables: at.Cables}
		for _, pair := range at.Pairs {
			p.Read = append(p.Read, install.Pair{Pair: pair, V: &read})
		}
		r.Proofs = append(r.Proofs, p)
	}
	return b.record(id, who, daysAgo, hour, r)
}

// read records readings in the order of the test sheet: figures by test, yes
// for those answered yes or no.
func (b *builder) read(id, who string, daysAgo int, hour float64, live bool, values map[string]float64) error {
	l, err := b.at(daysAgo, hour).Job(b.ctx, b.people[who], id)
	if err != nil {
		return err
	}
	instruments := Settings().Instruments
	yes := true
	for i, row := range l.View().Tests.Rows {
		if row.Live != live {
			continue
		}
		r := install.Record{Kind: install.Reading, Subject: row.ID, Circuit: row.Circuit, Unit: row.Unit}
		if len(row.Patterns) > 0 {
			r.Answer = pattern(row.ID)
		} else if row.YesNo {
			if _, read := values["ze"]; row.ID == "earth-back" && !read {
				continue // nothing was taken off
			}
			r.Passed = &yes
		} else {
			v, given := values[row.Circuit+"/"+row.ID]
			if !given {
				v, given = values[row.ID]
			}
			if !given { // of each enclosure
				name, _, _ := strings.Cut(row.ID, ":")
				v, given = values[name]
			}
			if !given {
				continue
			}
			if len(row.TestV) > 0 {
				r.TestV = 500
			}
			r.Value, r.Instrument, r.Calibrated = &v, instruments[0].Name+" "+instruments[0].Serial, instruments[0].Calibrated
		}
		if len(row.Parting) > 0 {
			clamped, across := 0.02, 0.3
			r.ClampA, r.AcrossV = &clamped, &across
		}
		if err := b.record(id, who, daysAgo, hour+float64(i)/60, r); err != nil {
			return err
		}
	}
	return nil
}

// pattern is what a test of several answers showed where all is well.
func pattern(test string) string {
	switch name, _, _ := strings.Cut(test, ":"); {
	case name == "tester":
		return "correct"
	case test == "ng:outside":
		return "closed"
	default:
		return "open"
	}
}

// permit energises for a use what a person keeps open, or what is live for a test: everything seen to, and the locks counted.
func (b *builder) permit(id, who string, daysAgo int, hour float64, use install.PermitUse) error {
	l, err := b.at(daysAgo, hour).Job(b.ctx, b.people[who], id)
	if err != nil {
		return err
	}
	for _, c := range l.View().Tests.Conductors { // what was disconnected for the tests
		if c.Parted == nil {
			continue
		}
		if err := b.record(id, who, daysAgo, hour-0.1, install.Record{Kind: install.LooseEnd, Subject: c.Parted.ID, Done: true,
			Note: "back on its terminal, torqued"}); err != nil {
			return err
		}
	}
	if l, err = b.at(daysAgo, hour).Job(b.ctx, b.people[who], id); err != nil {
		return err
	}
	tests := l.View().Tests
	hang := proving.Hang(tests.Locks)
	r := install.Record{Kind: install.Energise, Use: use, Closes: tests.Parts[0].Closes, Counted: &hang}
	for _, f := range tests.Parts[0].For {
		if f.Use == use {
			for _, ask := range f.Asks {
				r.Confirmed = append(r.Confirmed, ask.ID)
			}
		}
	}
	if use == install.ForTest {
		r.Guarded = install.GuardPerson
	}
	return b.record(id, who, daysAgo, hour, r)
}

// first runs the steps until one fails.
func first(steps ...func() error) error {
	for _, step := range steps {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

// kit is what the company keeps in its two vans. The first-aid pack of one is past its date, and there is no dust extraction.
func kit(now time.Time) []van.Held {
	in := func(months int) string { return now.AddDate(0, months, 0).Format(time.DateOnly) }
	return []van.Held{
		{Kit: "detector", Name: "Orrin wall detector", Van: "van 1"}, {Kit: "drill", Name: "Orrin hammer drill, 18 V", Van: "van 1"},
		{Kit: "platform", Name: "Kesk step platform, two treads", Van: "van 1", Until: now.AddDate(0, 4, 0).Format(time.DateOnly)},
		{Kit: "draw-tape", Name: "Draw tape, 30 m", Van: "van 1"}, {Kit: "clip-hammer", Name: "Hammer, clips", Van: "van 1"},
		{Kit: "cutter", Name: "Ratchet cutter", Van: "van 2"}, {Kit: "drivers", Name: "Insulated set of twelve", Van: "van 1"},
		{Kit: "crimper", Name: "Hydraulic crimper, dies 16 to 95", Van: "van 2"}, {Kit: "ferrules", Name: "Ferrule crimper", Van: "van 1"},
		{Kit: "rod-driver", Name: "Rod driver", Van: "yard"}, {Kit: "locks", Name: "Lock box, six locks", Van: "van 1"},
		{Kit: "voltage", Name: "Two-pole detector with proving unit", Van: "van 1", Until: in(5)}, {Kit: "labels", Name: "Label printer", Van: "office"},
		{Kit: "camera", Name: "the phone", Van: "van 1"}, {Kit: "goggles", Name: "Goggles, four pairs", Van: "van 1"},
		{Kit: "mask", Name: "Masks, box of twenty", Van: "van 1"}, {Kit: "gloves", Name: "Gloves", Van: "van 1"},
		{Kit: "live-gloves", Name: "Insulating gloves and face shield", Van: "van 2", Until: in(2)}, {Kit: "first-aid", Name: "First-aid pack",
			Van: "van 1", Until: in(-1)},
		{Kit: "eye-wash", Name: "Eye wash", Van: "van 1", Until: in(9)}, {Kit: "lamp", Name: "Site lamp", Van: "van 2"},
		{Kit: "spade", Name: "Spades and trowels", Van: "yard"}, {Kit: "power", Name: "Battery station, 1.5 kVA", Van: "yard"},
	}
}
