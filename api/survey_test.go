package api_test

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"net/http"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/standin/desk"
)

// The new sheets answer what the contract says, for each practice and job of the demo.
func TestEverySheetOfEveryJob(t *testing.T) {
	c := serve(t).as("tobias")
	var rows api.JobPage
	c.do("GET", "/api/jobs", nil).into(t, &rows)
	require.NotEmpty(t, rows)
	for _, r := range rows.Jobs {
		for _, sheet := range []string{"", "/circuits", "/case", "/supply", "/desk", "/outdoor", "/tables/points",
			"/tables/chain", "/tables/tasks", "/case.pdf"} {
			assert.Equal(t, 200, c.do("GET", "/api/jobs/"+r.ID+sheet, nil).status, "%s%s", r.Ref, sheet)
		}
	}
}

func TestShorthandIsReadAndWalked(t *testing.T) {
	c := serve(t).as("jana")
	var lines []survey.Line
	c.do("POST", "/api/shorthand", map[string]any{"practice": "split120", "text": "den mf: 2 receptacle @18, zzz"}).into(t, &lines)
	require.Len(t, lines, 1)
	assert.InDelta(t, 457.2, lines[0].Points[0].HeightMM, 1e-9)
	assert.Equal(t, 422, c.do("POST", "/api/shorthand", map[string]any{"practice": "nowhere", "text": "a"}).status)
	assert.Equal(t, 422, c.do("POST", "/api/shorthand", map[string]any{"practice": "", "text": strings.Repeat("a", 9000)}).status)

	v := c.job("PW-2046")
	walk := func(body map[string]any, with ...string) (a answer, out api.JobView) {
		a = c.do("POST", "/api/jobs/"+v.Id+"/walk", body, with...)
		if a.status == 200 {
			a.into(t, &out)
		}
		return a, out
	}
	a, out := walk(map[string]any{"text": "weigh room g: 2 socket, light"}, "Idempotency-Key", "walk-once-1")
	require.Equal(t, 200, a.status, a.text)
	// The answer was lost and the line is sent again under its key: it is there once.
	_, out = walk(map[string]any{"text": "weigh room g: 2 socket, light"}, "Idempotency-Key", "walk-once-1")
	require.Len(t, out.View.Job.Rooms, 1)
	assert.Equal(t, 3, out.View.Walk.House.Total.Left())
	room := out.View.Job.Rooms[0]
	base := out.Versions["rooms/"+room.ID]

	a, _ = walk(map[string]any{"text": "2 socket", "room": "nowhere"})
	assert.Equal(t, 422, a.status)
	a, out = walk(map[string]any{"text": "weigh room g: 3 socket", "room": room.ID, "replace": true, "base": base})
	require.Equal(t, 200, a.status)
	assert.Equal(t, room.Points[0].ID, out.View.Job.Rooms[0].Points[0].ID)
	a, _ = walk(map[string]any{"text": "weigh room g: tv", "room": room.ID, "replace": true, "base": base})
	p := a.problem(t)
	assert.Equal(t, 409, p.Status)
	assert.NotNil(t, p.Theirs, "both versions are at hand")
	assert.Equal(t, 3, c.job("PW-2046").View.Walk.House.Total.Left(), "nothing of the stale line was taken")

	// Undo takes a walked room off again, edit by edit.
	for range 2 {
		require.Equal(t, 200, c.do("POST", "/api/jobs/"+v.Id+"/undo", put{"command": "", "free": false}).status)
	}
	assert.Empty(t, c.job("PW-2046").View.Job.Rooms)
}

func TestBadSurveyPartsAreNamed(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2044")
	room := v.View.Job.Rooms[0]
	for field, spoil := range map[string]func(*install.Room){
		"points[0].kind":      func(r *install.Room) { r.Points[0].Kind = "castle" },
		"points[0].count":     func(r *install.Room) { r.Points[0].Count = 0 },
		"points[0].state":     func(r *install.Room) { r.Points[0].State = "perhaps" },
		"points[0].switching": func(r *install.Room) { r.Points[0].Switching = "clap" },
		"points[1].id":        func(r *install.Room) { r.Points[1].ID = r.Points[0].ID },
		"legs[0].lengthM":     func(r *install.Room) { r.Legs[0].LengthM = -1 },
		"from":                func(r *install.Room) { r.From = r.ID },
		"revisit":             func(r *install.Room) { r.Revisit = "tomorrow" },
	} {
		bad := room
		bad.Points = append([]install.RoomPoint{}, room.Points...)
		bad.Legs = []install.Leg{{LengthM: 1}}
		spoil(&bad)
		p := c.part(v, "rooms/"+room.ID, bad).problem(t)
		require.Equal(t, 422, p.Status, field)
		assert.Contains(t, (*p.Fields)[0].Field, field)
		assert.NotEmpty(t, (*p.Fields)[0].Accept)
	}
	chain := install.Chain{Enclosures: []install.Enclosure{{ID: "a", Kind: "board", Name: "A", From: "b"},
		{ID: "b", Kind: "board", Name: "B", From: "a"}}}
	assert.Contains(t, c.part(v, "chain", chain).text, "ring")
	chain.Enclosures[0].From, chain.Enclosures[0].Kind = "", "castle"
	assert.Contains(t, c.part(v, "chain", chain).text, "castle")
	torque := 20.0
	chain.Enclosures[0].Kind, chain.Enclosures[0].TorqueNm = "board", install.Fact{Value: &torque}
	assert.Contains(t, c.part(v, "chain", chain).text, "torqueSheet", "a torque without its sheet is not taken")
	out := v.View.Job.Outage
	out.Start = "25:00"
	assert.Contains(t, c.part(v, "outage", out).text, "08:00")
	found := v.View.Job.Found
	found.Circuits = []install.FoundCircuit{{Name: "x", State: "dead"}}
	assert.Contains(t, c.part(v, "found", found).text, "proved", "dead is not taken on somebody's word")
	outdoor := v.View.Job.Outdoor
	outdoor.Electrodes.Rods = []install.PlacedRod{{LengthM: 2, DiameterMM: 16, Mode: "flat"}}
	assert.Contains(t, c.part(v, "outdoor", outdoor).text, "rock")
}

func pngOf(w, h int) []byte {
	var out bytes.Buffer
	if err := png.Encode(&out, image.NewRGBA(image.Rect(0, 0, w, h))); err != nil {
		panic(err)
	}
	return out.Bytes()
}

func TestPhotos(t *testing.T) {
	w := serve(t)
	c := w.as("remy")
	v := c.job("PW-2044")
	room := v.View.Job.Rooms[0]
	send := func(subject string, body []byte, with ...string) answer {
		return c.do("POST", "/api/jobs/"+v.Id+"/photos?subject="+subject, bytes.NewReader(body),
			append([]string{"Content-Type", "image/png"}, with...)...)
	}
	a := send(room.ID, pngOf(40, 30), "Idempotency-Key", "photo-once-1")
	require.Equal(t, 200, a.status, a.text)
	require.Equal(t, 200, send(room.ID, pngOf(40, 30), "Idempotency-Key", "photo-once-1").status)
	photos := []install.Record{}
	for _, r := range c.job("PW-2044").View.Job.Records {
		if r.Kind == install.Photo {
			photos = append(photos, r)
		}
	}
	require.Len(t, photos, 1, "a retry keeps it once")
	assert.Equal(t, [2]int{40, 30}, [2]int{photos[0].Width, photos[0].Height})
	got := c.do("GET", "/api/jobs/"+v.Id+"/photos/"+photos[0].Reference, nil)
	assert.Equal(t, "image/jpeg", got.header.Get("Content-Type"))
	assert.Equal(t, "image/jpeg", http.DetectContentType([]byte(got.text)))

	assert.Equal(t, 415, send(room.ID, []byte("<svg onload=alert(1)>")).status)
	assert.Equal(t, 413, send(room.ID, make([]byte, 5<<20)).status)
	assert.Equal(t, 409, send("nothing", pngOf(40, 30)).status)
	assert.Equal(t, 404, c.do("GET", "/api/jobs/"+v.Id+"/photos/"+strings.Repeat("0", 64), nil).status)
	assert.Equal(t, 401, (&client{world: w}).do("GET", "/api/jobs/"+v.Id+"/photos/"+photos[0].Reference, nil).status)

	// A room with a photo is not taken off: records are never lost.
	now := c.job("PW-2044")
	assert.Equal(t, 409, c.do("DELETE", fmt.Sprintf("/api/jobs/%s/parts?part=rooms/%s&base=%d", v.Id, room.ID,
		now.Versions["rooms/"+room.ID]), nil).status)
}

func TestFindingsDecisionsAndWhoMay(t *testing.T) {
	w := serve(t)
	jana, dot, remy := w.as("jana"), w.as("dot"), w.as("remy")
	v := jana.job("PW-2044")
	at := "/api/jobs/" + v.Id + "/records"
	note := map[string]any{"kind": "observation", "subject": "no-bonding", "path": "C2", "evidence": "seen", "note": "bare"}
	assert.Equal(t, 403, dot.do("POST", at, note).status, "the office does not find, it writes down")
	require.Equal(t, 200, jana.do("POST", at, note).status)
	for field, value := range map[string]any{"path": "C9", "evidence": "rumour", "subject": "ghost", "note": ""} {
		bad := map[string]any{}
		for k, x := range note {
			bad[k] = x
		}
		bad[field] = value
		assert.Equal(t, 422, jana.do("POST", at, bad).status, field)
	}
	assert.Equal(t, 422, jana.do("POST", at, map[string]any{"kind": "observation", "subject": "other", "path": "C3",
		"evidence": "seen", "note": "odd"}).status, "something else needs its own words of risk")

	records := jana.job("PW-2044").View.Job.Records
	id := records[len(records)-1].ID
	decide := map[string]any{"kind": "decision", "subject": id, "path": "declined", "person": "Mr Roake", "note": "later", "signed": true}
	assert.Equal(t, 403, remy.do("POST", at, decide).status)
	require.Equal(t, 200, dot.do("POST", at, decide).status)
	note["supersedes"], note["note"] = id, "bare, and cut"
	require.Equal(t, 200, jana.do("POST", at, note).status)
	assert.Equal(t, 409, jana.do("POST", at, note).status, "what was corrected is corrected in its newest only")
	assert.Equal(t, 409, dot.do("POST", at, decide).status)
	assert.Equal(t, 422, dot.do("POST", at, map[string]any{"kind": "variation", "person": "x", "note": "y"}).status,
		"it is made by its points")
	var sheet api.CaseSheet
	jana.do("GET", "/api/jobs/"+v.Id+"/case", nil).into(t, &sheet)
	assert.Equal(t, 5, sheet.Case.Count)
	assert.Contains(t, jana.do("GET", "/api/jobs/"+v.Id+"/case.pdf", nil).text[:5], "%PDF-")
}

func TestAVariationIsShownBeforeItIsAccepted(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2044")
	room := v.View.Job.Rooms[2]
	vary := func(text string, accept bool, key string) answer {
		return c.do("POST", "/api/jobs/"+v.Id+"/variations",
			map[string]any{"room": room.ID, "text": text, "accept": accept, "person": "Bette", "note": ""}, "Idempotency-Key", key)
	}
	assert.Equal(t, 409, vary("2 data", true, "vary-0001").status, "first the scope")
	require.Equal(t, 200, c.do("POST", "/api/jobs/"+v.Id+"/records", map[string]any{"kind": "scope", "person": "Bette"}).status)
	a := vary("2 data", false, "vary-0002")
	require.Equal(t, 200, a.status, a.text)
	assert.Len(t, c.job("PW-2044").View.Job.Rooms[2].Points, len(room.Points))
	require.Equal(t, 200, vary("2 data", true, "vary-0003").status)
	require.Equal(t, 200, vary("2 data", true, "vary-0003").status, "a retry is answered")
	now := c.job("PW-2044").View.Job
	assert.Len(t, now.Rooms[2].Points, len(room.Points)+1, "and done once")
	last := now.Records[len(now.Records)-1]
	assert.Equal(t, [3]any{install.Variation, "Bette", "2 data"}, [3]any{last.Kind, last.Person, last.Place})
	assert.NotEmpty(t, last.Effects)
	require.NotNil(t, last.Cost)
	assert.Positive(t, *last.Cost)
	assert.Equal(t, 422, vary("- 40 light", true, "vary-0004").status)
}

// message sends a letter and returns how it stands.
func (c *client) message(v api.JobView) api.DeskMessage {
	var sheet api.DeskSheet
	c.do("GET", "/api/jobs/"+v.Id+"/desk", nil).into(c.T, &sheet)
	require.Len(c, sheet.Messages, 1)
	return sheet.Messages[0]
}

// A report of damage goes with the photos of it, each as its sum says; what was found is told once.
func TestAReportGoesWithItsPhotos(t *testing.T) {
	w := serve(t)
	w.desk.Settle, w.desk.Pause = 0, time.Millisecond
	dot, tobias := w.as("dot"), w.as("tobias")
	v := tobias.job("PW-2038")
	v = tobias.made(v.Id, put{"kind": "observation", "subject": "intake-damage", "path": "C1", "evidence": "seen", "place": "cut-out", "note": "lid cracked"})
	finding := v.View.Job.Records[len(v.View.Job.Records)-1].ID
	for _, size := range []int{20, 30} {
		a := tobias.do("POST", "/api/jobs/"+v.Id+"/photos?subject="+finding, string(pngOf(size, size)), "Content-Type", "image/png")
		require.Equal(t, 200, a.status, a.text)
	}
	a := dot.do("POST", "/api/jobs/"+v.Id+"/desk", map[string]any{"kind": "damage", "note": ""})
	require.Equal(t, 200, a.status, a.text)
	require.Eventually(t, func() bool { return dot.message(v).Answer != nil }, eventually, tick)
	assert.Len(t, dot.message(v).Letter.Photos, 2)
	require.Eventually(t, func() bool {
		return slices.ContainsFunc(dot.job("PW-2038").View.Job.Records, func(r install.Record) bool {
			return r.Kind == install.Operator && r.Path == "reported" && strings.Contains(r.Note, "Received, photos: 2.")
		})
	}, eventually, tick)
}

// Down, slow, refusing, or asked twice: nothing is lost and nothing sent twice.
func TestTheDeskInEveryMood(t *testing.T) {
	for _, c := range []struct {
		mood string
		ends string
	}{{desk.Down, "booked"}, {desk.Slow, "booked"}, {desk.Normal, "booked"}, {desk.Refusing, "refused"}} {
		t.Run(c.mood, func(t *testing.T) {
			w := serve(t)
			w.desk.Settle, w.desk.Pause = 0, time.Millisecond
			w.desk.SetMode(c.mood)
			dot := w.as("dot")
			v := dot.job("PW-2038")
			send := map[string]any{"kind": "isolator", "note": "beside the meter"}
			require.Equal(t, 200, dot.do("POST", "/api/jobs/"+v.Id+"/desk", send, "Idempotency-Key", "desk-once-1").status)
			require.Equal(t, 200, dot.do("POST", "/api/jobs/"+v.Id+"/desk", send, "Idempotency-Key", "desk-once-1").status, "pressed twice")
			if c.mood == desk.Down || c.mood == desk.Slow {
				require.Eventually(t, func() bool { return dot.message(v).Trouble != "" }, eventually, tick)
				m := dot.message(v)
				assert.Equal(t, "waiting", m.State)
				assert.NotEmpty(t, m.Trouble, "a person is told why it waits")
				w.desk.SetMode(desk.Smooth)
			}
			require.Eventually(t, func() bool { return dot.message(v).State == c.ends }, eventually, tick)
			m := dot.message(v)
			assert.Equal(t, 1, w.desk.Received(), "the desk has it once")
			if c.mood != desk.Normal {
				assert.Positive(t, w.desk.Calls(m.ID))
			}
			operator := []install.Record{}
			for _, r := range dot.job("PW-2038").View.Job.Records {
				if r.Kind == install.Operator && r.Subject == m.ID {
					operator = append(operator, r)
				}
			}
			require.Len(t, operator, 2, "received and decided, each once")
			assert.Equal(t, [3]string{"asked", c.ends, m.Answer.Reference},
				[3]string{operator[0].Path, operator[1].Path, operator[1].Reference})
			assert.NotEmpty(t, operator[1].Person)
			assert.Equal(t, "Dot Farley", operator[1].By)
		})
	}
}

// Several instances look at the same time: each message is taken by one.
func TestTwoInstancesNeverSendTheSame(t *testing.T) {
	w := serve(t)
	var stop []func()
	for range 3 {
		s, err := api.New(w.st, api.Options{DeskURL: w.deskURL, DeskPace: 5 * time.Millisecond})
		require.NoError(t, err)
		stop = append(stop, s.Close)
	}
	defer func() {
		for _, f := range stop {
			f()
		}
	}()
	dot := w.as("dot")
	v := dot.job("PW-2038")
	for i := range 8 {
		require.Equal(t, 200, dot.do("POST", "/api/jobs/"+v.Id+"/desk", map[string]any{"kind": "isolator", "note": fmt.Sprint(i)}).status)
	}
	var sheet api.DeskSheet
	require.Eventually(t, func() bool {
		dot.do("GET", "/api/jobs/"+v.Id+"/desk", nil).into(t, &sheet)
		done := 0
		for _, m := range sheet.Messages {
			if m.State == "booked" {
				done++
			}
		}
		return done == 8
	}, eventually, tick)
	assert.Equal(t, 8, w.desk.Received())
	for _, m := range sheet.Messages {
		assert.Equal(t, 1, w.desk.Calls(m.ID), "sent once")
	}
}

func TestALetterThatLacksAFactIsHeldBack(t *testing.T) {
	w := serve(t)
	c := w.as("dot")
	v := c.job("PW-2044") // no number of the supply
	a := c.do("POST", "/api/jobs/"+v.Id+"/desk", map[string]any{"kind": "isolator", "note": ""})
	assert.Equal(t, 409, a.status)
	assert.Contains(t, a.text, "supply number")
	assert.Equal(t, 422, c.do("POST", "/api/jobs/"+v.Id+"/desk", map[string]any{"kind": "gossip", "note": ""}).status)
	assert.Equal(t, 403, w.as("remy").do("POST", "/api/jobs/"+c.job("PW-2038").Id+"/desk",
		map[string]any{"kind": "isolator", "note": ""}).status)
	assert.Zero(t, w.desk.Received())
	var weather install.Weather
	c.do("GET", "/api/jobs/"+c.job("PW-2038").Id+"/forecast", nil).into(t, &weather)
	require.NotNil(t, weather.TempC)
	assert.Equal(t, "simulated forecast", weather.Source)
	assert.Equal(t, 422, c.do("GET", "/api/jobs/"+v.Id+"/forecast", nil).status, "a day and a place first")
}

// Edits of different rooms at once all land: a room is a part of its own.
func TestTwoSurveyorsInDifferentRooms(t *testing.T) {
	w := serve(t)
	v := w.as("jana").job("PW-2044")
	var wait sync.WaitGroup
	for i, who := range []string{"jana", "tobias", "remy"} {
		c := w.as(who)
		wait.Go(func() {
			r := v.View.Job.Rooms[i]
			r.Note = who
			assert.Equal(t, 200, c.part(v, "rooms/"+r.ID, r).status)
		})
	}
	wait.Wait()
	now := w.as("jana").job("PW-2044").View.Job
	assert.Equal(t, []string{"jana", "tobias", "remy"}, []string{now.Rooms[0].Note, now.Rooms[1].Note, now.Rooms[2].Note})
}

func TestAJobOfTheOtherPractice(t *testing.T) {
	c := serve(t).as("tobias")
	a := c.do("POST", "/api/jobs", map[string]any{"ref": "S-1", "title": "Service", "kind": "supply-upgrade",
		"practice": "split120", "customer": "C", "address": "A", "town": ""})
	require.Equal(t, 201, a.status, a.text)
	var v api.JobView
	a.into(t, &v)
	assert.Equal(t, [3]any{"split120", "2023", 240.0}, [3]any{v.View.Job.Practice, v.View.Job.Edition, v.View.Job.Supply.DeclaredV})
	assert.Equal(t, 422, c.do("POST", "/api/jobs", map[string]any{"ref": "S-2", "title": "x", "kind": "rewire",
		"practice": "roman", "customer": "C", "address": "A", "town": ""}).status)
	file := c.do("GET", "/api/jobs/"+v.Id+"/file", nil).text
	again := c.do("POST", "/api/jobs/import?as=S-3", file)
	assert.Equal(t, 201, again.status, "a job file of the practice comes back")
}

// A job's practice is chosen once: no part holds it, and what belongs to the other is
// refused at its field with what this one accepts.
func TestAPracticeDoesNotChangeUnderAJob(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2054")
	assert.Equal(t, 404, c.part(v, "practice", "iec230").status)
	circuit := v.View.Job.Circuits[1]
	for _, bad := range []struct {
		field  string
		change func(*install.Circuit)
	}{
		{"use", func(k *install.Circuit) { k.Use = "ring" }},
		{"route.cableType", func(k *install.Circuit) { k.Route.CableType = "flat-te-70" }},
		{"route.lineMM2", func(k *install.Circuit) { k.Route.LineMM2 = 2.5 }},
		{"protection.rcdType", func(k *install.Circuit) { k.Protection.RCDType = "A" }},
		{"serves.boxes[0].place", func(k *install.Circuit) { k.Serves.Boxes[0].Place = "parlour" }},
		{"serves.boxes[1].from", func(k *install.Circuit) { k.Serves.Boxes[1].From = "b3" }},
		{"serves.boxes[0].feed", func(k *install.Circuit) { k.Serves.Boxes[0].Feed = "top" }},
	} {
		changed := circuit
		changed.Serves.Boxes = slices.Clone(circuit.Serves.Boxes)
		bad.change(&changed)
		a := c.part(v, "circuits/c2", changed)
		assert.Equal(t, 422, a.status, bad.field)
		assert.Contains(t, a.text, `"circuits/c2.`+bad.field+`"`)
	}
	a := c.part(v, "circuits/c2", circuit)
	assert.Equal(t, 200, a.status, a.text)
	a = c.part(v, "standby", map[string]any{"source": "generator", "automatic": true, "sourceVA": -5, "senseS": 0,
		"crankS": 0, "warmS": 0, "switchS": 0, "returnS": 0, "coolS": 0, "carries": []any{}})
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "standby.sourceVA")
	board := v.View.Job.Board
	board.Ways = slices.Clone(board.Ways)
	board.Ways[0].LoadA = 1e6
	a = c.part(v, "board", board)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "board.ways[0].loadA")
	// a pattern that no tester shows is no reading
	a = c.do("POST", "/api/jobs/"+v.Id+"/records", map[string]any{"kind": "reading", "subject": "tester:b1",
		"circuit": "c2", "answer": "sparks"})
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "open_ground")
}
