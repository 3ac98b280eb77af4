package survey_test

import (
	"reflect"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/survey"
)

// ids makes ids in order: p1, p2, …
func ids() func() string {
	n := 0
	return func() string { n++; return "p" + strconv.Itoa(n) }
}

var words = rulebook.Complete(iec230.Practice{}).Survey()

// walked is a job after a walk.
func walked(t *testing.T, text string) *install.Job {
	rooms, err := survey.Apply(nil, nil, survey.Read(text, words, ""), "", ids())
	require.NoError(t, err)
	job := &install.Job{Rooms: rooms, Supply: install.Supply{DeclaredV: 230}}
	job.Tidy()
	return job
}

func TestApplyWalksRoomAfterRoom(t *testing.T) {
	job := walked(t, "f1\npress room: 2 socket\nbindery: light\n3 socket\n## window stuck\nPress Room: = light\n")
	require.Len(t, job.Rooms, 2)
	assert.Equal(t, []string{"press room", "bindery"}, []string{job.Rooms[0].Name, job.Rooms[1].Name})
	assert.Less(t, job.Rooms[0].At, job.Rooms[1].At)
	assert.Equal(t, 3, job.Rooms[0].Total(""), "a room walked again gets what is said there")
	assert.Equal(t, 4, job.Rooms[1].Total(""), "a line without a room goes to the one before")
	assert.Equal(t, "window stuck", job.Rooms[1].Note)
	assert.Equal(t, "first", job.Rooms[0].Floor)
}

func TestApplyLeavesRoomsThatWereNotNamed(t *testing.T) {
	job := walked(t, "vault: 2 socket\nhoist: light")
	changed, err := survey.Apply(nil, job.Rooms, survey.Read("2 data", words, ""), job.Rooms[0].ID, ids())
	require.NoError(t, err)
	require.Len(t, changed, 1)
	assert.Equal(t, 4, changed[0].Total(""))
	assert.Equal(t, 2, job.Rooms[0].Total(""), "what was read is not changed under its reader")
	_, err = survey.Apply(nil, nil, survey.Read("2 socket", words, ""), "", ids())
	assert.ErrorContains(t, err, "a room first")
	_, err = survey.Apply(nil, nil, survey.Read("a: light", words, ""), "nowhere", ids())
	assert.ErrorContains(t, err, "nowhere")
}

// A line written anew keeps the ids of points that read the same, and with them
// their photos.
func TestRewriteKeepsIDs(t *testing.T) {
	room := walked(t, "loom room g: 2 socket @450, light, tv").Rooms[0]
	line := survey.Read("loom room g: 2 socket @450, two way light, 2 data", words, "")[0]
	next := survey.Rewrite(room, &line, func() string { return "fresh" })
	assert.Equal(t, room.Points[0].ID, next.Points[0].ID, "the same point")
	assert.Equal(t, room.Points[1].ID, next.Points[1].ID, "of the same kind, switched now")
	assert.Equal(t, "fresh", next.Points[2].ID)
	assert.Equal(t, room.ID, next.ID)
}

// What a line cannot say of a point outlives the line: writing a room as it reads changes nothing.
func TestRewriteKeepsWhatALineDoesNotSay(t *testing.T) {
	mm := 700.0
	p := install.RoomPoint{ID: "p", Kind: "fan", Count: 2, State: install.New, Switching: "two-way", Dimmed: true, HeightMM: 2100, Wall: "north",
		OffsetMM: 900, DuctM: 2.5, Lamp: install.Lamp{Cap: "E27", ColourK: 2700, PowerW: 8, Each: 3}, Built: install.Fitted{CordMM: 900}, FedFrom: "c4", Box: "deep", PowerW: 30,
		CurrentA: 2, BathMM: &mm, Inside: true, IP: "IPX4", Note: "by the window"}
	v := reflect.ValueOf(p)
	for i := range v.NumField() {
		if name := v.Type().Field(i).Name; name != "Typed" {
			assert.False(t, v.Field(i).IsZero(), "%s is not tried", name)
		}
	}
	room := install.Room{ID: "r", Name: "Bathroom", Kind: "bathroom", Points: []install.RoomPoint{p}}
	line := survey.Read(survey.WriteRoom(&room, words), words, "")[0]
	assert.Equal(t, room.Points, survey.Rewrite(room, &line, func() string { return "fresh" }).Points)
	changed := survey.Read("bathroom: fan @2000", words, "")[0]
	got := survey.Rewrite(room, &changed, func() string { return "fresh" }).Points[0]
	assert.Equal(t, []any{"p", 900.0, 2.5, "IPX4"}, []any{got.ID, got.OffsetMM, got.DuctM, got.IP}, "lower now, and still there")
}

// The tally is conserved: rooms sum to floors, floors to the house, whatever
// the state.
func TestTheTallyIsConserved(t *testing.T) {
	job := walked(t, "g\nhall: 2 socket, = light, - 3 light, > bell\nkitchen: 6 socket, hob 7kW, zzz\nf1\nlanding: 2 two way "+
		"light, smoke alarm")
	w := survey.Tally(job, words)
	sum := func(list []survey.Group) (n, removed int) {
		for _, g := range list {
			n, removed = n+g.Total.Left(), removed+g.Total.Removed
			of := 0
			for _, c := range g.Counts {
				of += c.Left()
			}
			assert.Equal(t, g.Total.Left(), of, g.Name)
		}
		return n, removed
	}
	n, removed := 0, 0
	for _, r := range w.Rooms {
		n, removed = n+r.Total.Left(), removed+r.Total.Removed
	}
	assert.Equal(t, [2]int{14, 3}, [2]int{n, removed})
	n, removed = sum(w.Floors)
	assert.Equal(t, [2]int{14, 3}, [2]int{n, removed})
	assert.Equal(t, 14, w.House.Total.Left())
	assert.Equal(t, 1, w.Unread, "what was not understood is counted as open")
}

func questions(w survey.Walked) map[string]survey.Question {
	out := map[string]survey.Question{}
	for _, q := range w.Questions {
		out[q.Room+"/"+q.ID] = q
	}
	return out
}

// What is missing is asked, with what would add it; an answer ends the question,
// and nothing is ever added by it.
func TestQuestionsAskAndAreAnswered(t *testing.T) {
	job := walked(t, "kitchen: 4 double socket, 2 light, cooker\nstore: light\nbed: 4 socket, one way light, tv, data")
	k := job.Rooms[0].ID
	q := questions(survey.Tally(job, words))
	assert.Contains(t, q[k+"/usual:socket-2"].Asks, "4 of the usual 6")
	assert.Equal(t, "2 double socket", q[k+"/usual:socket-2"].Add)
	assert.Contains(t, q[k+"/asked:heat-alarm"].Asks, "the practice asks for a heat alarm in the kitchen, and there is none")
	assert.NotContains(t, q, k+"/usual:heat-alarm", "it is asked once")
	assert.Contains(t, q[k+"/power:cooker"].Asks, "draw")
	assert.Contains(t, q[k+"/switching"].Asks, "2 new lights")
	assert.Contains(t, q, "/room:hall")
	assert.NotContains(t, q, "/room:store")

	job.Rooms[0].Answered["usual:socket-2"] = "no"
	job.Found.Answered["room:hall"] = "no"
	after := questions(survey.Tally(job, words))
	assert.NotContains(t, after, k+"/usual:socket-2")
	assert.NotContains(t, after, "/room:hall")
	assert.Equal(t, 7, job.Rooms[0].Total(""), "nothing was added")

	// What a question would add, taken into the walk, ends the question.
	rooms, err := survey.Apply(nil, job.Rooms, survey.Read(q[k+"/asked:heat-alarm"].Add, words, ""), k, ids())
	require.NoError(t, err)
	job.Rooms[0] = rooms[0]
	assert.NotContains(t, questions(survey.Tally(job, words)), k+"/asked:heat-alarm")

	job.Rooms[0].Skipped = "locked"
	for id := range questions(survey.Tally(job, words)) {
		assert.False(t, strings.HasPrefix(id, k), "a room that was not seen is not asked about: %s", id)
	}
}

// Measured and estimated stay apart through the rooms that a cable comes by; an
// unknown stretch or a ring makes the way unknown.
func TestTheWayFromTheBoard(t *testing.T) {
	job := walked(t, "a1: light\na2: light\na3: light")
	r := job.Rooms
	r[0].Legs = []install.Leg{{LengthM: 4, Basis: install.Measured}, {LengthM: 2, Basis: install.Assumed}}
	r[1].From, r[1].Legs = r[0].ID, []install.Leg{{LengthM: 3, Basis: install.Measured}}
	r[2].From = r[1].ID
	m, e, ok := job.RouteOf(&r[1])
	assert.Equal(t, [3]any{7.0, 2.0, true}, [3]any{m, e, ok})
	_, _, ok = job.RouteOf(&r[2])
	assert.False(t, ok, "its own way is not known")
	r[0].From = r[1].ID
	_, _, ok = job.RouteOf(&r[1])
	assert.False(t, ok, "two rooms that come through each other lead nowhere")
}

func observation(id, kind, class, evidence string) install.Record {
	return install.Record{ID: id, Kind: install.Observation, Subject: kind, Path: class, Evidence: evidence,
		Note: "as it was seen", At: time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC), By: "Ada"}
}

var price = func(key string) (float64, float64, bool) {
	return 100, 300, key == "work:bonding"
}

// The case is no graver than its evidence: what was only told or suspected is
// shown as to be looked into, whatever its class.
func TestTheCaseNeverFrightensBeyondItsEvidence(t *testing.T) {
	for _, kind := range survey.FindingKinds(nil) {
		for _, class := range words.Classes {
			for _, evidence := range install.EvidenceKinds {
				job := &install.Job{Records: []install.Record{observation("o", kind.ID, class.ID, evidence)}}
				c := survey.CaseOf(job, words, price)
				f := c.Sections[0].Findings[0]
				if evidence == "told" || evidence == "suspected" {
					assert.NotContains(t, []string{"now", "soon"}, f.Urgency, "%s %s %s", kind.ID, class.ID, evidence)
					if kind.Needs == "measured" || kind.Needs == "seen" {
						assert.Equal(t, kind.Until, f.Risk, kind.ID)
					}
				}
				if evidence == kind.Needs {
					assert.Equal(t, class.Urgency, f.Urgency)
					assert.Equal(t, kind.Risk, f.Risk)
					assert.Empty(t, f.Softened)
				}
			}
		}
	}
}

func TestTheCaseIsOrderedPricedAndDecided(t *testing.T) {
	job := &install.Job{Records: []install.Record{
		observation("o1", "label-missing", "C3", "seen"), observation("o2", "no-bonding", "C2", "seen"),
		observation("o3", "live-exposed", "C1", "seen"),
	}}
	c := survey.CaseOf(job, words, price)
	require.Len(t, c.Sections, 3)
	assert.Equal(t, []string{"now", "soon", "advised"}, []string{c.Sections[0].Urgency, c.Sections[1].Urgency, c.Sections[2].Urgency})
	assert.Equal(t, &survey.Price{Low: 100, High: 300}, c.Price)
	assert.Equal(t, 2, c.Unpriced)

	// A correction supersedes; the decision and the photo on the first stay with it.
	fixed := observation("o4", "no-bonding", "C3", "measured")
	fixed.Supersedes = "o2"
	job.Records = append(job.Records,
		install.Record{ID: "d", Kind: install.Decision, Subject: "o2", Path: "declined", Person: "Mr Roe"},
		install.Record{ID: "ph", Kind: install.Photo, Subject: "o2", Reference: "hash"}, fixed)
	c = survey.CaseOf(job, words, price)
	assert.Equal(t, 3, c.Count)
	f := c.Sections[1].Findings[1]
	assert.Equal(t, [3]any{"no-bonding", "declined", []string{"hash"}}, [3]any{f.Kind, f.Decision, f.Photos})
	assert.Nil(t, c.Price, "what was declined is not in the sum")

	job.Records = append(job.Records, install.Record{ID: "o5", Kind: install.Observation, Subject: "no-bonding",
		Supersedes: "o4", Done: true})
	assert.Equal(t, 2, survey.CaseOf(job, words, price).Count, "what was mended is off the case")
}

func TestFindingsAreSuggestedFromWhatIsNoted(t *testing.T) {
	yes, two, v := true, 2, 212.0
	job := &install.Job{Board: install.Board{Location: "pantry"},
		Found: install.Found{Board: install.FoundBoard{Combustible: &yes, OpenWays: &two, Arrester: "hidden"},
			Circuits: []install.FoundCircuit{{Name: "old feed", State: "unidentified"},
				{Name: "Attic", Circuit: "c3", Insulation: install.InsulationGnawed, Terminal: install.TooMany, TailM: install.Fact{Value: new(0.2)}},
				{Name: "Cellar", Circuit: "c4", Insulation: install.InsulationSound, Terminal: install.AsListed,
					TailM: install.Fact{Value: new(0.2)}, Joint: true}},
			Hazards: []install.Hazard{{Kind: "vermin", Place: "eaves"},
				{Kind: "suspected asbestos", Place: "flue", Clear: true, How: "sample"}}},
		Records: []install.Record{{ID: "r", Kind: install.SurveyReading, Subject: "voltage-ln", Value: &v, Place: "board"}}}
	kinds, on := map[string]bool{}, map[string]string{}
	for _, s := range survey.Suggest(job, words) {
		kinds[s.Kind] = true
		if s.Circuit != "" {
			on[s.Kind] = s.Circuit
		}
	}
	assert.Equal(t, map[string]string{"vermin": "c3", "no-arc": "c3", "double-tapped": "c3", "tail-short": "c3"}, on, "each on the circuit that it is of")
	for _, want := range []string{"combustible-board", "open-way", "surge-hidden", "cable-abandoned", "vermin", "voltage"} {
		assert.True(t, kinds[want], want)
	}
	assert.False(t, kinds["asbestos"], "a sample cleared it")
	taken := observation("o", "vermin", "C3", "seen")
	taken.Circuit = "c3"
	job.Records = append(job.Records, taken)
	for _, s := range survey.Suggest(job, words) {
		assert.NotEqual(t, "vermin", s.Kind, "it was taken up")
	}
	assert.Equal(t, "caution", string(survey.Readings(job, words)[0].Verdict))
}

func TestVariations(t *testing.T) {
	base := "studio: 4 double socket @450, = 2 light, tv, = wall light"
	for _, c := range []struct{ text, says, becomes string }{
		{"2 double socket @1100", "adds 2 × double socket-outlet",
			"4 double socket @450mm, = 2 light, tv, = wall light, 2 double socket @1100mm"},
		{"- 3 socket", "drops 3 × double socket-outlet", "double socket @450mm, = 2 light, tv, = wall light"},
		{"- 4 socket", "drops 4 × double socket-outlet", "= 2 light, tv, = wall light"},
		{"- light", "drops 1 × lighting point", "4 double socket @450mm, = light, - light, tv, = wall light"},
		{"> light /east", "moves 1 × lighting point", "4 double socket @450mm, = light, > light /east, tv, = wall light"},
		{"> tv @1200", "moves 1 × television point", "4 double socket @450mm, = 2 light, tv @1200mm, = wall light"},
	} {
		room := walked(t, base).Rooms[0]
		change, err := survey.Vary(room, c.text, words, ids())
		require.NoError(t, err, c.text)
		assert.Equal(t, []string{c.says}, change.Summary, c.text)
		assert.Equal(t, c.becomes, survey.Write(change.Room.Points, words), c.text)
		assert.Equal(t, "4 double socket @450mm, = 2 light, tv, = wall light", survey.Write(room.Points, words),
			"the room is not touched before it is accepted")
	}
	for text, says := range map[string]string{"": "shorthand", "frob": "frob", "- 9 socket": "5 of 9", "- oven": "oven",
		"> wardrobe": "is not"} {
		_, err := survey.Vary(walked(t, base).Rooms[0], text, words, ids())
		assert.ErrorContains(t, err, says, text)
	}
}

// The scope that was agreed first is kept; variations account for differences,
// silent edits do not.
func TestTheScopeIsCompared(t *testing.T) {
	job := walked(t, "studio: 4 double socket")
	assert.Nil(t, survey.ScopeOf(job, words).Agreed)
	job.Records = append(job.Records, install.Record{ID: "s", Kind: install.Scope, Person: "Ms Roe", Rooms: []install.Room{job.Rooms[0]}})
	change, err := survey.Vary(job.Rooms[0], "2 data", words, ids())
	require.NoError(t, err)
	cost := 55.0
	job.Records = append(job.Records, install.Record{ID: "v", Kind: install.Variation, Cost: &cost, Rooms: []install.Room{change.Room}})
	job.Rooms[0] = change.Room
	s := survey.ScopeOf(job, words)
	assert.Equal(t, [4]any{1, 55.0, 1, 0}, [4]any{len(s.Variations), s.Cost, len(s.Differences), s.Unagreed})
	assert.Equal(t, 2, s.Differences[0].Is.New)
	more := change.Room.Points[0]
	more.Count = 5
	job.Rooms[0].Points = []install.RoomPoint{more}
	s = survey.ScopeOf(job, words)
	assert.Equal(t, 2, s.Unagreed, "one more socket, and the data points are gone, without a variation")
}

// What rests on an estimate is told check by check: with every stretch measured
// nothing does, and beyond the length that it says the verdict turns.
func TestWhatAnEstimateDoesToTheChecks(t *testing.T) {
	p := rulebook.Complete(iec230.Practice{})
	fact := func(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }
	job := &install.Job{Supply: install.Supply{Earthing: "TN-C-S", DeclaredV: 230, ZeOhm: fact(0.2), PFCkA: fact(1),
		MainFuseA: fact(100), TailsMM2: fact(25), TailsM: fact(1)}, Schools: install.Schools{}}
	c := p.Defaults("fixed")
	c.ID = "c1"
	c.Route.Segments = []install.Segment{{Place: "seen", LengthM: 10, Basis: install.Measured, Method: "C", AmbientC: 30,
		Grouped: 1}, {Place: "guessed", LengthM: 12, Basis: install.Assumed, Method: "C", AmbientC: 30, Grouped: 1}}
	job.Circuits = []install.Circuit{c}
	e := survey.Estimates(job, p)[0]
	assert.Equal(t, [2]float64{10, 12}, [2]float64{e.MeasuredM, e.EstimatedM})
	held := 0
	for _, h := range e.Checks {
		assert.Greater(t, *h.LongerV, *h.Value, h.Check)
		if h.HoldsM == nil {
			continue
		}
		held++
		for _, try := range []struct {
			m  float64
			ok bool
		}{{*h.HoldsM * 0.995, true}, {*h.HoldsM * 1.02, false}} {
			j := *job
			j.Circuits = []install.Circuit{c}
			j.Circuits[0].Route.Segments = []install.Segment{c.Route.Segments[0], c.Route.Segments[1]}
			j.Circuits[0].Route.Segments[1].LengthM = try.m
			for _, k := range p.Report(&j, nil).Circuits[0].Checks {
				if k.ID == h.Check {
					assert.Equal(t, try.ok, k.Verdict != "fail", "%s at %g m", h.Check, try.m)
				}
			}
		}
	}
	assert.Positive(t, held, "the voltage drop of a long run must turn within four times its estimate")
	job.Circuits[0].Route.Segments[1].Basis = install.Measured
	assert.Empty(t, survey.Estimates(job, p)[0].Checks)
}

// What is asked of alike rooms has one group, so that one answer does for all of them; how lights are switched is asked of all rooms at once.
func TestAlikeRoomsAreAskedAtOnce(t *testing.T) {
	rooms, err := survey.Apply(nil, nil, survey.Read("front bedroom: 3 socket, light\nback bedroom: 3 socket, 2 light\nhall: light, socket", words,
		""), "", ids())
	require.NoError(t, err)
	groups := map[string]int{}
	for _, q := range survey.Tally(&install.Job{Rooms: rooms}, words).Questions {
		if q.Room != "" {
			groups[q.Group]++
			assert.NotEmpty(t, q.Alike, q.ID)
		}
	}
	assert.Equal(t, 3, groups["switching"])
	assert.Equal(t, 2, groups["usual:tv/bedroom/no television point. Is it wanted?"], "%v", groups)
	assert.Equal(t, 1, groups["usual:bell/hall/no bell or door entry. Is it wanted?"])
}
