package install

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

var stringTerms = Terms{Uses: []string{"general"}, CableTypes: []string{"nm"}, Families: []string{"breaker"},
	Curves: []string{""}, Places: []string{"garage"}, Pairs: []string{"A-B"}, Tests: []string{"tester"},
	Patterns: []string{"correct"}, SizeNames: map[float64]string{3.31: "12 AWG"}}

func stringOf(boxes ...Box) Circuit {
	return Circuit{ID: "c1", Name: "String", Use: "general", Serves: Serves{Boxes: boxes}, Point: Point{},
		Route:      Route{CableType: "nm", Segments: []Segment{{LengthM: 1, AmbientC: 30, Grouped: 1}}},
		Protection: Protection{Family: "breaker", RatingA: 20, IcnKA: 10, Poles: 1}}
}

func refusedAt(t *testing.T, err error, field string) {
	t.Helper()
	if field == "" {
		assert.NoError(t, err)
		return
	}
	es, ok := err.(Errors)
	if !assert.True(t, ok, "%v", err) {
		return
	}
	fields := []string{}
	for _, e := range es {
		fields = append(fields, e.Field)
		assert.NotEmpty(t, e.Accept, e.Field)
	}
	assert.Contains(t, strings.Join(fields, " "), field)
}

// A string is a tree in order: each box once, fed from one before it.
func TestBoxesOfAString(t *testing.T) {
	box := func(change func(*Box)) Box {
		b := Box{ID: "b1", Name: "Loom", Place: "garage", Device: "plain"}
		change(&b)
		return b
	}
	plain := func(*Box) {}
	for name, row := range map[string]struct {
		boxes []Box
		field string
	}{
		"one":                  {[]Box{box(plain)}, ""},
		"two":                  {[]Box{box(plain), box(func(b *Box) { b.ID, b.From, b.Side = "b2", "b1", "load" })}, ""},
		"twice the same":       {[]Box{box(plain), box(plain)}, "serves.boxes[1].id"},
		"fed from one after":   {[]Box{box(func(b *Box) { b.From = "b2" }), box(func(b *Box) { b.ID = "b2" })}, "serves.boxes[0].from"},
		"fed from itself":      {[]Box{box(func(b *Box) { b.From = "b1" })}, "serves.boxes[0].from"},
		"without a name":       {[]Box{box(func(b *Box) { b.Name = " " })}, "serves.boxes[0].name"},
		"an unheard device":    {[]Box{box(func(b *Box) { b.Device = "lamp" })}, "serves.boxes[0].device"},
		"an unheard place":     {[]Box{box(func(b *Box) { b.Place = "moor" })}, "serves.boxes[0].place"},
		"an unheard side":      {[]Box{box(func(b *Box) { b.Side = "top" })}, "serves.boxes[0].side"},
		"a box of ten litres":  {[]Box{box(func(b *Box) { b.VolumeML = 10000 })}, "serves.boxes[0].volumeML"},
		"nine cables":          {[]Box{box(func(b *Box) { b.Cables = 9 })}, "serves.boxes[0].cables"},
		"a sink before itself": {[]Box{box(func(b *Box) { v := -1.0; b.SinkMM = &v })}, "serves.boxes[0].sinkMM"},
	} {
		t.Run(name, func(t *testing.T) { refusedAt(t, stringOf(row.boxes...).Validate(stringTerms), row.field) })
	}
}

func TestStandbyWallsSpaceAndSizes(t *testing.T) {
	v := 3.3
	for name, row := range map[string]struct {
		err   error
		field string
	}{
		"no source":            {Standby{}.Validate(), ""},
		"a day of cranking":    {Standby{CrankS: 86400}.Validate(), "standby.crankS"},
		"a load without name":  {Standby{Carries: []Carry{{RunVA: 5}}}.Validate(), "standby.carries[0].name"},
		"a load below nothing": {Standby{Carries: []Carry{{Name: "x", RunVA: -1}}}.Validate(), "standby.carries[0].runVA"},
		"a wall of a mile":     {Room{ID: "r1", Name: "R", Walls: []WallLine{{LengthM: 1609}}}.Validate(Terms{}), "walls[0].lengthM"},
		"a space of a mile":    {Board{Name: "A", Space: WorkSpace{DepthMM: 1.6e6}}.Validate(Terms{}), "board.space.depthMM"},
		"an odd size":          {Supply{DeclaredV: 240, EarthMM2: Fact{Value: &v}}.Validate(stringTerms), "supply.earthMM2.value"},
		"a peak of nothing":    {Loads{PeakKVA: Fact{Value: new(float64)}}.Validate(Terms{}), "loads.peakKVA.value"},
	} {
		t.Run(name, func(t *testing.T) { refusedAt(t, row.err, row.field) })
	}
}

// A reading is one answer; a pattern is one of those the practice knows, at a box named
// behind the colon.
func TestReadingsByPattern(t *testing.T) {
	yes, none := true, 0.0
	for name, row := range map[string]struct {
		r     Record
		field string
	}{
		"a pattern":              {Record{Kind: Reading, Subject: "tester:b1", Answer: "correct"}, ""},
		"an unheard one":         {Record{Kind: Reading, Subject: "tester:b1", Answer: "sparks"}, "reading.answer"},
		"and yes as well":        {Record{Kind: Reading, Subject: "tester:b1", Answer: "correct", Passed: &yes}, "reading.value"},
		"an unheard test":        {Record{Kind: Reading, Subject: "taste:b1", Answer: "correct"}, "reading.subject"},
		"nothing opened":         {Record{Kind: Isolation, LockTag: "l"}, "isolation.opens"},
		"a device twice":         {Record{Kind: Isolation, LockTag: "l", Opens: []Opened{{Device: "main", Kept: ByLock}, {Device: "main", Kept: ByLock}}}, "isolation.opens[1].device"},
		"opened, without a lock": {Record{Kind: Isolation, Opens: []Opened{{Device: "main", Kept: ByLock}}}, "isolation.lockTag"},
		"a fuse that is kept":    {Record{Kind: Isolation, Opens: []Opened{{Device: "main", Kept: ByFuse}}}, ""},
		"kept by hope":           {Record{Kind: Isolation, LockTag: "l", Opens: []Opened{{Device: "main", Kept: "hope"}}}, "isolation.opens[0].kept"},
		"read with nothing": {Record{Kind: Isolation, LockTag: "l", Opens: []Opened{{Device: "main", Kept: ByLock}}, Proofs: []Proof{{At: "board:"}}},
			"isolation.tester"},
		"a pair that is none": {Record{Kind: Isolation, LockTag: "l", Tester: "t", TesterKind: ContactTester, Opens: []Opened{{Device: "main", Kept: ByLock}},
			Proofs: []Proof{{At: "board:", Read: []Pair{{"A-C", &none}}}}}, "isolation.proofs[0].read[0].pair"},
		"a pair that was not read": {Record{Kind: Isolation, LockTag: "l", Tester: "t", TesterKind: ContactTester, Opens: []Opened{{Device: "main", Kept: ByLock}},
			Proofs: []Proof{{At: "board:", Read: []Pair{{"A-B", nil}}}}}, "isolation.proofs[0].read[0].v"},
		"every pair there": {Record{Kind: Isolation, LockTag: "l", Tester: "t", TesterKind: ContactTester, Opens: []Opened{{Device: "main", Kept: ByLock}},
			Proofs: []Proof{{At: "board:", Read: []Pair{{"A-B", &none}}}}}, ""},
		"proved where nothing was read": {Record{Kind: ProvedDead, Subject: "i"}, "proved-dead.proofs"},
		"a tester of no answer":         {Record{Kind: TesterProof, Tester: "t"}, "tester-proof.passed"},
	} {
		t.Run(name, func(t *testing.T) { refusedAt(t, row.r.Validate(stringTerms), row.field) })
	}
}

func TestLengthsAndWays(t *testing.T) {
	assert.InDelta(t, 10, Length{Name: "ft", M: 0.3048}.Of(3.048), 1e-12)
	assert.InDelta(t, 3, Length{}.Of(3), 0)
	assert.Equal(t, "m", Length{}.Unit())
	one, two := Terms{Columns: 1}, Terms{Columns: 2}
	assert.Equal(t, []int{3}, one.WaysOf(3, 2))
	assert.Equal(t, []int{3, 5, 7}, two.WaysOf(3, 3))
	assert.Equal(t, []int{4}, two.WaysOf(4, 0))
	assert.Equal(t, "12 AWG", stringTerms.Size(3.31))
	assert.Equal(t, "2.5 mm²", stringTerms.Size(2.5))
}
