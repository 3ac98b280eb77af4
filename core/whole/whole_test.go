package whole

import (
	"bytes"
	"crypto/ed25519"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/plan"
	"arvelt/core/proving"
)

var day = time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)

func num(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

// designed is a job whose design passes and whose material is on site.
func designed() *install.Job {
	yes, w := true, 2000.0
	j := &install.Job{Format: install.Format, Ref: "T-1", Title: "Charge point", Kind: install.EVCharger,
		Practice: "iec230", Rules: install.Rules{Edition: "2018+A2:2022"}, Schools: install.Schools{}, Records: []install.Record{},
		Seals: []install.Seal{}}
	j.Site = install.Site{Customer: "A. Person", Address: "1 Test Row"}
	j.Supply = install.Supply{Earthing: "TN-C-S", DeclaredV: 230, ZeOhm: num(0.25), PFCkA: num(1.1), MainFuseA: num(80),
		TailsMM2: num(25), TailsM: num(2), EarthMM2: num(16), NeutralMM2: num(25), Bonds: []install.Bond{{Service: "water", MM2: num(10)}}}
	j.Loads.Items = []install.Load{{Name: "Heater", Category: "water_thermostatic", Watts: &w, Count: 1, Basis: install.Measured}}
	j.Board = install.Board{Name: "A", Ways: []install.Way{{No: 1, Label: "Heater", Device: "B16"}, {No: 2, Circuit: "c1"}}}
	j.Circuits = []install.Circuit{{ID: "c1", Name: "Charge point", Use: "ev",
		Point: install.Point{Outdoor: true, CurrentA: 32, DCDetection: &yes},
		Route: install.Route{CableType: "swa3-90", LineMM2: 6, SlackM: 1, BoardTailM: 1, PointTailM: 0.5,
			Segments: []install.Segment{{Place: "wall", LengthM: 12, Basis: install.Measured, Method: "C", AmbientC: 30, Grouped: 1}}},
		Protection: install.Protection{Family: "mcb_rcbo", Curve: "B", RatingA: 32, IcnKA: 6, RCDType: "A", IdnMA: 30, Way: 2, Poles: 2},
		PEN:        install.PEN{Option: "voltage_monitor", OpensAll: &yes}}}
	j.Materials = install.Materials{WastagePc: 5, Lines: map[string]install.Stock{}}
	j.Plan.Tasks = map[string]install.TaskEdit{}
	for _, l := range Of(j, nil, install.Person{}, day).Take.Lines {
		j.Materials.Lines[l.Key] = stockOf(l)
	}
	return j
}

// stockOf is a line delivered as it was ordered, what is bought by length in one piece.
func stockOf(l materials.Line) install.Stock {
	s := install.Stock{Ordered: l.Order, Delivered: l.Order}
	if l.ByLength {
		s.Lengths = fmt.Sprint(l.Order)
	}
	return s
}

type site struct {
	*testing.T
	j   *install.Job
	now time.Time
	n   int

	holds install.Authorities // of whoever acts; 0 for all
}

// try adds a record as a person would, if it is allowed.
func (s *site) try(r install.Record) error {
	s.n++
	r.ID, r.At = fmt.Sprintf("r%d", s.n), s.now
	if r.By == "" {
		r.By, r.Role = "Vik", proving.Electrician
	}
	who := r.Who()
	if who.Holds = s.holds; who.Holds == 0 {
		who.Holds = install.EveryAuthority
	}
	Stamp(s.j, &r, nil, s.now)
	left, err := Allow(s.j, who, r, nil, s.now)
	if err != nil {
		return err
	}
	s.j.Records = append(append(s.j.Records, r), undone(&r, left)...)
	s.now = s.now.Add(time.Minute)
	return nil
}

// undone are what a record leaves undone, as whoever keeps the records adds it.
func undone(r *install.Record, left []install.Record) []install.Record {
	for i := range left {
		left[i].ID, left[i].At, left[i].By = fmt.Sprintf("%s-%d", r.ID, i), r.At, r.By
	}
	return left
}

// putBack connects again what was parted for the tests.
func (s *site) putBack() {
	s.Helper()
	for _, l := range proving.LooseEnds(s.j) {
		if l.Parted != "" {
			s.must(install.Record{Kind: install.LooseEnd, Subject: l.ID, Done: true, Note: "back, tightened"})
		}
	}
}

func (s *site) must(r install.Record) { s.Helper(); require.NoError(s, s.try(r)) }
func (s *site) refused(r install.Record, says string) {
	s.Helper()
	err := s.try(r)
	require.Error(s, err)
	assert.Contains(s, err.Error(), says)
}

// isolation opens the main switch of the board, and is read wherever somebody works.
func isolation() install.Record {
	r := install.Record{Kind: install.Isolation, Source: "main switch, board A", LockTag: "lock 3, tag 7", Tester: "T-2", TesterKind: install.ContactTester,
		ProvedBefore: true, ProvedAfter: true, Authorised: true, Opens: []install.Opened{{Device: "main", Kept: install.ByLock}}}
	for _, place := range []string{"board:", "circuit:c1"} {
		p := install.Proof{At: place, Cables: 2}
		for _, pair := range []string{"L-N", "L-PE", "N-PE"} {
			v := 0.4
			p.Read = append(p.Read, install.Pair{Pair: pair, V: &v})
		}
		r.Proofs = append(r.Proofs, p)
	}
	return r
}

// clamped is a record with what is read before and as a conductor is disconnected.
func clamped(r install.Record) install.Record {
	amps, volts := 0.02, 0.3
	r.ClampA, r.AcrossV = &amps, &volts
	return r
}

func reading(id string, v float64) install.Record {
	circuit := "c1"
	if strings.HasPrefix(id, "continuity") || id == "ze" || id == "pfc" || strings.HasPrefix(id, "voltage") {
		circuit = ""
	}
	return clamped(install.Record{Kind: install.Reading, Subject: id, Circuit: circuit, Value: &v, Instrument: "MFT-4", Calibrated: "2027-01-01"})
}

func answer(id string, ok bool) install.Record {
	r := install.Record{Kind: install.Reading, Subject: id, Circuit: "c1", Passed: &ok}
	if id == "earth-back" {
		r.Circuit = ""
	}
	return r
}

func energise() install.Record {
	counted := 1
	return install.Record{Kind: install.Energise, Use: install.ForTest, Closes: []string{"main"}, Counted: &counted, Guarded: install.GuardPerson,
		Confirmed: []string{"covers", "people", "guarded", "own-lock"}}
}

// firstFix ticks the steps of first fix.
func (s *site) firstFix() {
	s.Helper()
	for _, t := range plan.Tasks(s.j, customs(s.j), nil, vik, s.now) {
		if t.Stage == install.FirstFix {
			s.must(install.Record{Kind: install.Tick, Subject: t.ID, Done: true, Note: "no camera"})
		}
	}
}

// ready works a designed job to the point of energising.
func ready(s *site) {
	s.firstFix()
	s.must(isolation())
	for _, t := range plan.Tasks(s.j, customs(s.j), nil, vik, s.now) {
		if t.Stage == install.SecondFix {
			s.must(install.Record{Kind: install.Tick, Subject: t.ID, Done: true, Note: "no camera"})
		}
	}
	for id, v := range map[string]float64{"continuity-earth": 0.02, "continuity-bond": 0.03, "r1r2": 0.09,
		"insulation-ln": 200, "insulation-le": 200, "insulation-ne": 200} {
		s.must(reading(id, v))
	}
	s.must(answer("polarity-dead", true))
	s.putBack()
	s.must(reading("ze", 0.25))
	s.must(answer("earth-back", true))
}

// finish works a designed job to the point of signing.
func finish(s *site) {
	ready(s)
	s.must(energise())
	for id, v := range map[string]float64{"voltage": 231, "voltage-ne": 0.4, "pfc": 1.1, "zs": 0.34, "rcd-x1": 24, "rdc-6": 800} {
		s.must(reading(id, v))
	}
	for _, id := range []string{"polarity-live", "rcd-button", "functional", "ev-functional", "ev-pen"} {
		s.must(answer(id, true))
	}
	serve := energise()
	serve.Use, serve.Counted = install.IntoUse, new(int)
	s.must(serve)
	s.must(install.Record{Kind: install.Tick, Subject: "owner", Done: true})
	s.must(install.Record{Kind: install.Operator, Path: "notified", Reference: "N-1", Person: "Ms Lund", Called: "2026-05-04T09:30"})
}

var vik = install.Person{Name: "Vik", Role: proving.Electrician, Holds: install.EveryAuthority}

func sign() install.Record {
	return install.Record{Kind: install.Signature, By: "Sup", Role: proving.Supervisor}
}

func TestTheOrderOfWorkIsHeld(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	assert.Equal(t, install.FirstFix, Of(s.j, nil, vik, s.now).State.Stage)

	s.refused(install.Record{Kind: install.Tick, Subject: "c1-cable", Done: true}, "First: ")
	s.refused(install.Record{Kind: install.Tick, Subject: "nothing", Done: true}, "not on this job's plan")
	s.refused(reading("r1r2", 0.1), "your own isolation of today")
	s.refused(energise(), "Dead tests come first")
	s.refused(reading("zs", 0.3), "permission to energise")

	s.firstFix()
	s.refused(install.Record{Kind: install.Tick, Subject: "c1-point", Done: true}, "it needs your own isolation")
	bad := isolation()
	bad.Proofs[0].Read, bad.Proofs[1].Read = bad.Proofs[0].Read[:1], nil
	s.must(bad)
	s.refused(install.Record{Kind: install.Tick, Subject: "c1-point", Done: true}, "at A these were not read: L-PE, N-PE")
	s.refused(install.Record{Kind: install.Isolation, By: "Ap", Role: proving.Apprentice, Source: "x"}, "opens")
	s.must(isolation())
	s.refused(install.Record{Kind: install.Tick, Subject: "c1-point", Done: true, By: "Other", Role: proving.Electrician},
		"your own isolation")
	s.must(install.Record{Kind: install.Tick, Subject: "c1-point", Done: true})

	s.now = s.now.Add(24 * time.Hour)
	s.refused(install.Record{Kind: install.Tick, Subject: "c1-pen", Done: true}, "today")
	s.must(isolation())
	s.must(install.Record{Kind: install.Tick, Subject: "c1-pen", Done: true})
}

func TestAReadingIsAPersonsAndIsSupersededNotOverwritten(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	s.must(isolation())
	r := reading("r1r2", 0.09)
	r.Instrument = ""
	s.refused(r, "instrument")
	empty := reading("r1r2", 0)
	empty.Value = nil
	s.refused(empty, "exactly one of")
	s.refused(answer("r1r2", true), "takes a figure")
	s.refused(reading("polarity-dead", 1), "takes yes or no")

	row := func(id string) proving.Row {
		for _, r := range Of(s.j, nil, vik, s.now).Tests.Rows {
			if r.ID == id {
				return r
			}
		}
		t.Fatal(id)
		return proving.Row{}
	}
	assert.Nil(t, row("r1r2").Expected, "the expected figure is not shown before entry")
	s.must(reading("r1r2", 0.9))
	assert.NotNil(t, row("r1r2").Expected)
	assert.EqualValues(t, "unknown", row("r1r2").Verdict, "an outlier waits for its reason")
	s.must(reading("r1r2", 0.09))
	assert.EqualValues(t, "unknown", row("r1r2").Verdict, "a lower reading does not take the place of a higher one by itself")
	require.Len(t, row("r1r2").Beside, 1)
	corrects := func(r install.Record, of, why string) install.Record {
		r.Supersedes, r.Note = row(of).Reading.ID, why
		return r
	}
	s.refused(corrects(reading("r1r2", 0.09), "r1r2", ""), "why the reading takes the place")
	s.must(corrects(reading("r1r2", 0.09), "r1r2", "leads were not nulled"))
	assert.EqualValues(t, "pass", row("r1r2").Verdict)
	require.Len(t, row("r1r2").Earlier, 1)
	assert.InDelta(t, 0.9, *row("r1r2").Earlier[0].Value, 0)

	s.must(reading("insulation-ln", 0.4))
	assert.EqualValues(t, "fail", row("insulation-ln").Verdict)
	s.refused(energise(), "Insulation resistance, line to neutral failed")
	old := corrects(reading("insulation-ln", 300), "insulation-ln", "damp box dried out")
	old.Calibrated = "2026-01-01"
	s.must(old)
	assert.EqualValues(t, "caution", row("insulation-ln").Verdict, "calibration had run out")
	over := reading("r1r2", 0)
	over.Value, over.OverRange = nil, true
	s.must(over)
	assert.EqualValues(t, "fail", row("r1r2").Verdict, "an open circuit")
	over.Subject = "insulation-le"
	s.must(over)
	assert.EqualValues(t, "pass", row("insulation-le").Verdict, "over range is good insulation")
}

func TestLooseEndsHoldTheHandover(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	s.must(install.Record{Kind: install.LooseEnd, Path: proving.BeforeHandover, Note: "paint round the point"})
	finish(s)
	s.refused(sign(), "paint round the point")
	open := proving.LooseEnds(s.j)
	require.Len(t, open, 1)
	cleared := install.Record{Kind: install.LooseEnd, Subject: open[0].ID, Done: true, Note: "painted"}
	s.must(cleared)
	s.refused(cleared, "not open")
	again := install.Record{Kind: install.LooseEnd, Subject: open[0].ID, Supersedes: s.j.Records[len(s.j.Records)-1].ID,
		Note: "missed the back"}
	s.must(again)
	s.refused(sign(), "paint round the point")
	s.refused(again, "cleared is opened again")
	s.must(cleared)
	s.must(sign())
}

func TestSigningFreezesAndSeals(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	s.refused(sign(), "Not ready")
	finish(s)
	assert.True(t, Of(s.j, nil, vik, s.now).Ready.Ready)
	s.holds = install.AuthoritiesOf(install.Isolating, install.Testing, install.Energising, install.Releasing)
	s.refused(sign(), "Sup is not authorised for it")
	s.holds = 0
	s.must(sign())
	signer := &handover.Signer{Company: "Firm", Key: ed25519.NewKeyFromSeed(bytes.Repeat([]byte{7}, ed25519.SeedSize))}
	key := signer.Key.Public().(ed25519.PublicKey)
	seal, err := handover.Seal(s.j, signer)
	require.NoError(t, err)
	s.j.Seals = append(s.j.Seals, seal)
	s.refused(install.Record{Kind: install.Tick, Subject: "owner"}, "is signed")
	assert.Equal(t, install.Aftercare, Of(s.j, nil, vik, s.now).State.Stage)

	var file bytes.Buffer
	require.NoError(t, handover.Write(&file, s.j))
	back, err := Read(bytes.NewReader(file.Bytes()))
	require.NoError(t, err)
	assert.Equal(t, s.j, back, "round trip")
	outcome, says := handover.Verify(back, key)
	assert.Equal(t, handover.Unchanged, outcome, says)
	assert.Contains(t, says, "sealed by Firm, key "+handover.Fingerprint(key))
	outcome, says = handover.Verify(back)
	assert.Equal(t, handover.Unknown, outcome, says)
	assert.Contains(t, says, handover.Fingerprint(key))

	// Whatever is changed of the content or of the seal itself shows, wherever the name stands that is changed.
	changes := [][2]string{{`"value": 0.34`, `"value": 0.33`}, {"A. Person", "B. Person"}, {`"revision": "A"`, `"revision": "B"`},
		{`"role": "supervisor"`, `"role": "owner"`}, {seal.Hash[:8], "00000000"}, {seal.Key, base64.StdEncoding.EncodeToString(make([]byte, 32))},
		{`"company": "Firm"`, `"company": "Form"`}, {seal.Signed[:8], "AAAAAAAA"}, {`"signed": "` + seal.Signed + `"`, `"signed": ""`}}
	for n := range strings.Count(file.String(), `"by": "Sup"`) { // of the signature and of the seal
		parts := strings.SplitAfterN(file.String(), `"by": "Sup"`, n+2)
		one := strings.Join(parts[:n+1], "")
		changes = append(changes, [2]string{one, strings.TrimSuffix(one, `Sup"`) + `Sam"`})
	}
	at := seal.At.Format(time.RFC3339)
	require.Contains(t, file.String(), at)
	last := strings.LastIndex(file.String(), at)
	changes = append(changes, [2]string{file.String()[:last+len(at)], file.String()[:last] + seal.At.Add(time.Hour).Format(time.RFC3339)})
	for _, change := range changes {
		tampered := strings.Replace(file.String(), change[0], change[1], 1)
		require.NotEqual(t, file.String(), tampered, change[0])
		back, err := handover.Read(strings.NewReader(tampered))
		require.NoError(t, err)
		outcome, says := handover.Verify(back, key)
		assert.Equal(t, handover.Changed, outcome, "%.60q %s", change[1], says)
	}

	// A seal that somebody else made, or that was made without a key, is by nobody known; one without a
	// signature, or of a signature without a seal, is none.
	forged := *back
	mallory := &handover.Signer{Company: "Firm", Key: ed25519.NewKeyFromSeed(bytes.Repeat([]byte{9}, ed25519.SeedSize))}
	for _, by := range []*handover.Signer{mallory, nil} {
		bare := *back
		bare.Seals = nil
		other, err := handover.Seal(&bare, by)
		require.NoError(t, err)
		forged.Seals = []install.Seal{other}
		outcome, says = handover.Verify(&forged, key)
		assert.Equal(t, handover.Unknown, outcome, says)
	}
	forged.Seals = []install.Seal{seal, seal}
	outcome, says = handover.Verify(&forged, key)
	assert.Equal(t, handover.Changed, outcome, says)

	// What two readers would read otherwise is no job file.
	for _, twice := range [][2]string{{`"value": 0.34`, `"value": 0.3, "value": 0.34`}, {`"title": "`, `"title": "FAKE", "title": "`},
		{`"title": "`, `"TITLE": "FAKE", "title": "`}, {`"title":`, `"Title":`}} {
		_, err := handover.Read(strings.NewReader(strings.Replace(file.String(), twice[0], twice[1], 1)))
		assert.ErrorContains(t, err, "everybody reads alike", twice[1])
	}

	s.refused(install.Record{Kind: install.Reopen, By: "Off", Role: proving.Office}, "not for the role office")
	s.must(install.Record{Kind: install.Reopen, By: "Sup", Role: proving.Supervisor})
	assert.Equal(t, "B", s.j.Revision())
	outcome, _ = handover.Verify(s.j)
	assert.Equal(t, handover.Unsealed, outcome)
	s.must(sign())
	second, err := handover.Seal(s.j, signer)
	require.NoError(t, err)
	assert.Equal(t, seal.Hash, second.Prev)
	s.j.Seals = append(s.j.Seals, second)
	outcome, says = handover.Verify(s.j, key)
	assert.Equal(t, handover.Unchanged, outcome, says)
	earlier := s.j.Seals[0]
	s.j.Seals[0].By = "Mallory Forger"
	outcome, says = handover.Verify(s.j, key)
	assert.Equal(t, handover.Changed, outcome, says)
	s.j.Seals[0] = earlier
	s.j.Seals[1].Prev = "x"
	outcome, _ = handover.Verify(s.j)
	assert.Equal(t, handover.Changed, outcome)
}

func TestReadRefusesWhatIsNotAJobFile(t *testing.T) {
	var whole bytes.Buffer
	require.NoError(t, handover.Write(&whole, designed()))
	for in, says := range map[string]string{
		"": "ends early", whole.String()[:400]: "truncated", `{"format":"other/1"}`: "format", `[1,2]`: "not accepted",
		whole.String() + "{}": "follows",
		strings.Replace(whole.String(), `"ref"`, `"reff"`, 1):                         "unknown field",
		strings.Replace(whole.String(), `"declaredV": 230`, `"declaredV": "many"`, 1): "supply.declaredV",
	} {
		_, err := handover.Read(strings.NewReader(in))
		require.Error(t, err, in)
		assert.Contains(t, err.Error(), says)
	}
}

func FuzzRead(f *testing.F) {
	var whole bytes.Buffer
	if err := handover.Write(&whole, designed()); err != nil {
		f.Fatal(err)
	}
	f.Add(whole.Bytes())
	f.Add([]byte(`{"format":"arvelt-job/1","circuits":[{}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		job, err := handover.Read(bytes.NewReader(data))
		if err != nil {
			return
		}
		if Accept(job) == nil {
			Of(job, nil, install.Person{Name: "x"}, day) // whatever is valid can be computed
			if _, err := handover.Canonical(job); err != nil {
				t.Fatal(err)
			}
		}
	})
}

func TestValidationNamesFieldValueAndWhatIsAccepted(t *testing.T) {
	terms := Practices["iec230"].Terms()
	for _, c := range []struct {
		field, accept string
		change        func(*install.Circuit)
	}{
		{"circuits/c1.route.segments[0].lengthM", "from 0.1 to 500", func(k *install.Circuit) { k.Route.Segments[0].LengthM = -4 }},
		{"circuits/c1.route.segments[0].lengthM", "from 0.1 to 500", func(k *install.Circuit) { k.Route.Segments[0].LengthM = 0 }},
		{"circuits/c1.route.segments[0].lengthM", "from 0.1 to 500", func(k *install.Circuit) { k.Route.Segments[0].LengthM = 90000 }},
		{"circuits/c1.point.currentA", "from 0 to 125", func(k *install.Circuit) { k.Point.CurrentA = -32 }},
		{"circuits/c1.route.segments", "at least one segment", func(k *install.Circuit) { k.Route.Segments = nil }},
		{"circuits/c1.route.cableType", "swa3-90", func(k *install.Circuit) { k.Route.CableType = "rope" }},
		{"circuits/c1.route.lineMM2", "a size made", func(k *install.Circuit) { k.Route.LineMM2 = 7 }},
		{"circuits/c1.protection.ratingA", "a rating made", func(k *install.Circuit) { k.Protection.RatingA = 33 }},
		{"circuits/c1.protection.curve", "B, C, D", func(k *install.Circuit) { k.Protection.Curve = "Z" }},
		{"circuits/c1.name", "at most 80", func(k *install.Circuit) { k.Name = strings.Repeat("x", 81) }},
		{"circuits/c1.route.segments[0].method", "C", func(k *install.Circuit) { k.Route.Segments[0].Method = "Q" }},
	} {
		k := designed().Circuits[0]
		c.change(&k)
		var es install.Errors
		require.True(t, errors.As(k.Validate(terms), &es), c.field)
		assert.Equal(t, c.field, es[0].Field)
		assert.Contains(t, es[0].Accept, c.accept)
	}
	require.NoError(t, designed().Validate(terms))
	broken := designed()
	broken.Loads.Items[0].Category = "sauna"
	broken.Supply.Earthing = "TN-X"
	broken.Circuits = append(broken.Circuits, broken.Circuits[0])
	var es install.Errors
	require.True(t, errors.As(broken.Validate(terms), &es))
	assert.Len(t, es, 3, "every wrong field is named, not only the first")
}

func TestCanonicalIgnoresTheOrderOfWriting(t *testing.T) {
	a := designed()
	raw, err := json.Marshal(a)
	require.NoError(t, err)
	var b install.Job
	require.NoError(t, json.Unmarshal(raw, &b))
	ca, err := handover.Canonical(a)
	require.NoError(t, err)
	cb, err := handover.Canonical(&b)
	require.NoError(t, err)
	assert.Equal(t, string(ca), string(cb))
}

// customs is what the practice of a job brings to its tasks.
func customs(job *install.Job) plan.Practice {
	report, chain := Practice(job).Judge(job), Practice(job).Chain(job)
	return practiceOf(Practice(job), job, &report, &chain, day)
}
