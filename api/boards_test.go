package api_test

import (
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/dark"
	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/working"
)

// together saves parts of a job as one step.
func (c *client) together(ref, title string, parts put) answer {
	c.T.Helper()
	v := c.job(ref)
	list := []put{}
	for part, body := range parts {
		list = append(list, put{"part": part, "base": v.Versions[part], "body": body})
	}
	return c.do("POST", "/api/jobs/"+v.Id+"/parts", put{"title": title, "parts": list})
}

// template is a circuit of a practice as it starts.
func (c *client) template(practice string, use install.Use) install.Circuit {
	c.T.Helper()
	var terms struct{ Defaults []install.Circuit }
	c.do("GET", "/api/terms?practice="+practice, nil).into(c.T, &terms)
	for _, k := range terms.Defaults {
		if k.Use == use {
			return k
		}
	}
	require.Fail(c.T, "no template of "+string(use))
	return install.Circuit{}
}

func (c *client) checkOf(id string, rule working.RuleID, of string) working.Check {
	c.T.Helper()
	s := c.circuitsOf(id)
	for _, k := range s.Report.Checks() {
		if k.Rule == rule && (k.Object == of || k.Circuit == of) {
			return k
		}
	}
	require.Fail(c.T, "no check", "%s of %s", rule, of)
	return working.Check{}
}

func ways(n int) (out []install.Way) {
	for no := 1; no <= n; no++ {
		out = append(out, install.Way{No: no})
	}
	return out
}

// A second board with the distribution circuit that feeds it is added in one step and taken back in one; a circuit moves to it, and its
// checks, what goes dark, the order, the tests, the holds and the papers follow, in both practices.
func TestAFurtherBoardReachesEverySheet(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct {
		ref, like, walk string
		use             install.Use
		tests           []string
		paper           []string
	}{
		"iec230": {"PW-9300", "PW-2052", twoFloors, "lighting", []string{"pfc:b1", "polarity-board:b1", "functional:b1"},
			[]string{"Kiln board, fed by Feed of the kiln board", "way 1 of Kiln board"}},
		"split120": {"PW-9301", "PW-2054", "den: 4 duplex\nbedroom: 2 duplex, ceiling light", "lighting",
			[]string{"ng:b1", "volts-ll:b1", "volts-an:b1", "volts-bn:b1"}, []string{"Kiln board, fed by Feed of the kiln board"}},
	} {
		v := c.walked(x.ref, practice, x.like, x.walk)
		id := v.Id
		lights := c.template(practice, x.use)
		lights.ID, lights.Name = "c1", "Lights"
		require.Equal(t, 200, c.part(v, "circuits/c1", lights).status)
		main := v.View.Job.Board
		main.Ways = ways(6)
		require.Equal(t, 200, c.part(c.job(x.ref), "board", main).status)
		feed := c.template(practice, "distribution")
		feed.ID, feed.Name, feed.Protection.Way = "c2", "Feed of the kiln board", 1
		board := install.Board{ID: "b1", Name: "Kiln board", Feed: "c2", New: true, Ways: ways(4), Groups: []install.Group{}}
		a := c.together(x.ref, "add Kiln board", put{"circuits/c2": feed, "boards/b1": board})
		require.Equal(t, 200, a.status, a.text)
		require.Len(t, c.read(id).View.Job.Boards, 1)
		a = c.do("POST", "/api/jobs/"+id+"/undo", put{"command": "", "free": false})
		require.Equal(t, 200, a.status, a.text)
		require.Empty(t, c.read(id).View.Job.Boards, "one undo takes board and circuit back")
		require.Nil(t, c.read(id).View.Job.CircuitByID("c2"))
		a = c.together(x.ref, "add Kiln board", put{"circuits/c2": feed, "boards/b1": board})
		require.Equal(t, 200, a.status, a.text)
		require.Len(t, c.read(id).View.Job.Boards, 1)

		// The circuit moves to it, on the same way that another has on the main board.
		k := *c.read(id).View.Job.CircuitByID("c1")
		k.From, k.Protection.Way = "c2", 1
		require.Equal(t, 200, c.part(c.job(x.ref), "circuits/c1", k).status)
		assert.Equal(t, working.Pass, c.checkOf(id, "way", "c1").Verdict)
		assert.Equal(t, working.Unknown, c.checkOf(id, "board-feed", "b1").Verdict, "its rating is asked for")
		assert.Equal(t, working.Unknown, c.checkOf(id, "board-joint", "b1").Verdict)
		yes := true
		board.Joined = &yes
		require.Equal(t, 200, c.part(c.job(x.ref), "boards/b1", board).status)
		assert.Equal(t, working.Fail, c.checkOf(id, "board-joint", "b1").Verdict)
		v = c.read(id)
		held := false
		for _, h := range v.View.State.Holds {
			held = held || strings.Contains(h.What, "Kiln board")
		}
		assert.True(t, held, "%+v", v.View.State.Holds)
		devices := map[string]dark.Device{}
		for _, d := range c.darkOf(id).Devices {
			devices[d.ID] = d
		}
		assert.Equal(t, "Kiln board", devices["circuit:c1"].Board)
		assert.NotEmpty(t, devices["main:b1"].Name)
		keys := []string{}
		for _, l := range v.View.Take.Lines {
			keys = append(keys, l.Key)
		}
		assert.Contains(t, keys, "board:4")
		tests := []string{}
		for _, r := range v.View.Tests.Rows {
			tests = append(tests, r.ID)
		}
		for _, want := range x.tests {
			assert.Contains(t, tests, want)
		}
		titles := []string{}
		for _, task := range v.View.Tasks {
			titles = append(titles, task.Title)
		}
		assert.Contains(t, strings.Join(titles, "\n"), "at Kiln board")
		pack := c.pdf("/api/jobs/" + id + "/pack")
		for _, says := range x.paper {
			assert.Contains(t, pack, says)
		}

		// What does not go together is refused by name, and loses nothing.
		for says, a := range map[string]answer{
			"stays: it feeds Kiln board":  c.do("DELETE", "/api/jobs/"+id+"/parts?part=circuits/c2&base="+number(c.job(x.ref), "circuits/c2"), nil),
			"what no other":               c.part(c.job(x.ref), "boards/b2", install.Board{ID: "b2", Name: "Other", Feed: "c2", Ways: ways(2)}),
			"the enclosure of the":        c.part(c.job(x.ref), "boards/b2", install.Board{ID: "b2", Name: "Other", Ways: ways(2)}),
			"it feeds Kiln":               c.part(c.job(x.ref), "circuits/c2", func() install.Circuit { k := feed; k.Use = x.use; return k }()),
			"another circuit, or empty":   c.part(c.job(x.ref), "circuits/c2", func() install.Circuit { k := feed; k.From = "c2"; return k }()),
			"the manufacturer gives none": c.part(c.job(x.ref), "boards/b1", func() install.Board { b := board; b.MakerRDF = 3; return b }()),
		} {
			assert.GreaterOrEqual(t, a.status, 400, says)
			assert.Less(t, a.status, 500, says)
			assert.Contains(t, a.text, says)
		}
		assert.Equal(t, "Feed of the kiln board", c.read(id).View.Job.CircuitByID("c2").Name)
	}
}

func number(v api.JobView, part string) string { return strconv.Itoa(v.Versions[part]) }

// A circuit whose two lines share a neutral: what is wrong with it holds the job, its tests and parts follow, it is refused where it cannot
// be, and one hot conductor is never isolated alone.
func TestASharedNeutralReachesEverySheet(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.walked("PW-9302", "split120", "PW-2054", "den: 4 duplex", "Receptacles of 20 A")
	id := v.Id
	main := v.View.Job.Board
	main.Ways = ways(8)
	require.Equal(t, 200, c.part(c.job("PW-9302"), "board", main).status)
	c.placeAll(id, func(string) string { return "c1" })
	k := *c.read(id).View.Job.CircuitByID("c1")
	require.Len(t, k.Serves.Boxes, 4)
	k.Protection.Way, k.Protection.Poles, k.Route.CableType = 1, 2, "nm-3"
	k.Protection.Shared = install.SharedNeutral{Is: true, Opens: install.OpensApart}
	yes, no := true, false
	k.Serves.Boxes = slices.Clone(k.Serves.Boxes)
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		b.Line, b.Through = install.FirstLine, &no
		if i%2 == 1 {
			b.Line, b.Through = install.SecondLine, &yes
		}
	}
	require.Equal(t, 200, c.part(c.job("PW-9302"), "circuits/c1", k).status)
	check := c.checkOf(id, "shared-neutral", "c1")
	assert.Equal(t, working.Fail, check.Verdict)
	assert.Contains(t, check.Summary, "handle tie")
	assert.Contains(t, check.Summary, "pigtail")
	devices := []string{}
	for _, d := range c.darkOf(id).Devices {
		devices = append(devices, d.ID)
	}
	assert.Contains(t, devices, "circuit:c1/second", "each line goes dark by itself")

	// What mends it is offered and cures it.
	for i := range k.Serves.Boxes {
		k.Serves.Boxes[i].Through = &no
	}
	require.Equal(t, 200, c.part(c.job("PW-9302"), "circuits/c1", k).status)
	var s api.CircuitsSheet
	c.do("GET", "/api/jobs/"+id+"/circuits", nil).into(t, &s)
	titles := []string{}
	for _, x := range s.Report.Circuit("c1").Checks {
		if x.Rule == "shared-neutral" {
			for _, r := range x.Remedies {
				titles = append(titles, r.Title)
			}
		}
	}
	assert.Contains(t, titles, "One breaker of two poles")
	k.Protection.Shared.Opens = install.OpensTogether
	require.Equal(t, 200, c.part(c.job("PW-9302"), "circuits/c1", k).status)
	assert.Equal(t, working.Pass, c.checkOf(id, "shared-neutral", "c1").Verdict)
	v = c.read(id)
	tests := []string{}
	for _, r := range v.View.Tests.Rows {
		tests = append(tests, r.ID)
	}
	assert.Subset(t, tests, []string{"shared-neutral", "shared-ll", "shared-an", "shared-bn", "shared-off"})
	keys := []string{}
	for _, l := range v.View.Take.Lines {
		keys = append(keys, l.Key)
	}
	assert.Contains(t, keys, "device:breaker:2:20:10")
	pack := c.pdf("/api/jobs/" + id + "/pack")
	assert.Contains(t, pack, "Receptacles of 20 A 20 A shared neutral: open both", "in the panel's directory")
	assert.Contains(t, pack, "2-pole 20 A 10 shared neutral: open", "in the panel schedule")
	k.Protection.Shared.Opens = install.OpensTied
	require.Equal(t, 200, c.part(c.job("PW-9302"), "circuits/c1", k).status)
	v = c.made(id, opens(c.read(id), func(d isolate.Device) bool { return d.ID == "circuit:c1" }))
	assert.Contains(t, rowOf(t, v, "c1", "shared-neutral").Closed, "To open: Main breaker")
	assert.Contains(t, v.View.Tests.Isolations[0].Flaws[0], "still live from the supply")
	v = c.made(id, opens(c.read(id), func(d isolate.Device) bool { return d.Kind == isolate.CircuitKind }))
	assert.Empty(t, rowOf(t, v, "c1", "shared-neutral").Closed)

	for says, change := range map[string]func(*install.Circuit){
		"as its two lines share one neutral": func(k *install.Circuit) { k.Protection.Poles = 1 },
		"one of nothing, a, b, both":         func(k *install.Circuit) { k.Serves.Boxes = slices.Clone(k.Serves.Boxes); k.Serves.Boxes[0].Line = "c" },
		"another space than that of":         func(k *install.Circuit) { k.Protection.Shared.SecondWay = 1 },
		"one of nothing, common, tie, apart": func(k *install.Circuit) { k.Protection.Shared.Opens = "often" },
	} {
		bad := k
		change(&bad)
		a := c.part(c.job("PW-9302"), "circuits/c1", bad)
		assert.Equal(t, 422, a.status, says)
		assert.Contains(t, a.text, says)
	}
	ring := c.job("PW-2052").View.Job.Circuits[0]
	ring.Protection.Shared.Is = true
	a := c.part(c.job("PW-2052"), "circuits/"+ring.ID, ring)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "two legs of a split-phase supply")
}

// Light and sockets of a floor on one shared device are said on the Board sheet, with a spread that crosses the floors; taken, it is so.
func TestNoFloorLosesLightAndSocketsTogether(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.walked("PW-9303", "iec230", "PW-2052", "hall g: 2 double socket, 2 light\nstudy f1: 2 double socket, light", "Lighting", "Lighting",
		"Radial socket circuit of 20 A", "Radial socket circuit of 20 A")
	id := v.Id
	floors := map[string]string{}
	for _, r := range v.View.Job.Rooms {
		floors[r.ID] = r.Name
	}
	for _, u := range c.circuitsOf(id).Unplaced {
		at := map[string]string{"lighting point hall": "c1", "lighting point study": "c2", "double socket-outlet hall": "c3",
			"double socket-outlet study": "c4"}[u.Name+" "+floors[u.Room]]
		k := c.read(id).View.Job.CircuitByID(at)
		require.NotNil(t, k, u.Name)
		ch := install.RunChange{Do: install.PlacePoint, Circuit: at, Room: u.Room, Point: u.Point}
		ch.After, ch.Before = k.Serves.End()
		c.runs(id, ch)
	}
	board := c.read(id).View.Job.Board
	for _, g := range []string{"a", "b"} {
		board.Groups = append(board.Groups, install.Group{ID: g, Name: strings.ToUpper(g), RCDType: "A", IdnMA: 30, RatingA: 63})
	}
	require.Equal(t, 200, c.part(c.job("PW-9303"), "board", board).status)
	for circuit, g := range map[string]string{"c1": "a", "c2": "a", "c3": "b", "c4": "a"} {
		k := *c.read(id).View.Job.CircuitByID(circuit)
		k.Protection.Group, k.Protection.RCDType, k.Protection.IdnMA = g, "", 0
		a := c.part(c.job("PW-9303"), "circuits/"+circuit, k)
		require.Equal(t, 200, a.status, a.text)
	}
	check := c.checkOf(id, "grouping", "")
	assert.Equal(t, working.Caution, check.Verdict)
	assert.Contains(t, check.Summary, "Light and sockets go together on floor")
	require.Len(t, check.Remedies, 1)
	for _, set := range check.Remedies[0].Sets {
		part, _ := strings.CutPrefix(set.Part, "circuits/")
		k := *c.read(id).View.Job.CircuitByID(part)
		k.Protection.Group = set.Value.(string)
		require.Equal(t, 200, c.part(c.job("PW-9303"), set.Part, k).status)
	}
	assert.Equal(t, working.Pass, c.checkOf(id, "grouping", "").Verdict)
	for _, d := range c.darkOf(id).Devices {
		assert.True(t, d.ID == "main" || len(d.Both) == 0, "%s: %v", d.Name, d.Both)
	}
}
