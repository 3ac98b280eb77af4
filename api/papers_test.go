package api_test

import (
	"encoding/json"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/desk"
	"arvelt/core/working"
)

// A letter says what is computed, never 0 A.
func TestLettersSayTheComputedLoad(t *testing.T) {
	w := serve(t)
	c := w.as("dot")
	for _, ref := range []string{"PW-2052", "PW-2054"} {
		var sheet api.DeskSheet
		c.do("GET", "/api/jobs/"+c.job(ref).Id+"/desk", nil).into(t, &sheet)
		seen := false
		for _, l := range sheet.Letters {
			for _, f := range l.Facts {
				if f.Name == "New loads" {
					seen = true
					assert.NotContains(t, f.Value, ", 0 A", ref)
					assert.NotContains(t, f.Value, "Sail loft", "its feed holds it")
				}
			}
		}
		assert.True(t, seen, ref)
	}
	id := c.job("PW-2046").Id
	c.held(id, put{"kind": "operator", "circuit": "c1", "path": "agreed", "reference": "T-1", "called": "2026-11-02T09:30"},
		422, "operator.person")
	c.held(id, put{"kind": "operator", "circuit": "c1", "path": "agreed", "reference": "T-1", "person": "Ms Lund"}, 422, "operator.called")
	c.made(id, put{"kind": "operator", "circuit": "c1", "path": "agreed", "reference": "T-1", "person": "Ms Lund",
		"called": "2026-11-02T09:30"})
	var sheet api.SupplySheet
	for number, want := range map[string]working.Verdict{"0044173026555": working.Fail, "9944173026558": working.Fail,
		"4544173026556": working.Pass} {
		v := c.job("PW-2038")
		s := v.View.Job.Supply
		s.Number = number
		require.Equal(t, 200, w.as("tobias").part(v, "supply", s).status)
		c.do("GET", "/api/jobs/"+v.Id+"/supply", nil).into(t, &sheet)
		assert.Equal(t, want, sheet.Number.Verdict, number)
	}
}

// A letter is in the words of its practice: a utility is not asked to pull a fuse that is
// a breaker, and what its desk reads apart reaches it whatever it is called.
func TestLettersAreInTheWordsOfTheirPractice(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2054")
	var sheet api.DeskSheet
	c.do("GET", "/api/jobs/"+v.Id+"/desk", nil).into(t, &sheet)
	said := ""
	for _, k := range sheet.Kinds {
		said += k.Title + "\n"
	}
	for _, l := range sheet.Letters {
		said += l.Title + "\n" + strings.Join(l.Missing, "\n") + "\n"
		for _, f := range l.Facts {
			said += f.Name + "\n"
		}
	}
	for _, false := range []string{"fuse", "intake", "isolator", "Supply number", "operator"} {
		assert.NotContains(t, said, false)
	}
	for _, want := range []string{"Ask for the service to be disconnected and reconnected", "Report damage at the service",
		"Account number"} {
		assert.Contains(t, said, want)
	}
	assert.Equal(t, "4410 882 341", sheet.Letters[0].Facts[0].Value)
	assert.Equal(t, desk.SupplyNumber, sheet.Letters[0].Facts[0].ID)
}

// pdf reads the text of a PDF that the server answers.
func (c *client) pdf(path string) string {
	c.Helper()
	text, _ := c.sheet(path)
	return text
}

// sheet reads the text of a PDF that the server answers, and what is said of the file: the
// size of its pages among it.
func (c *client) sheet(path string) (text, about string) {
	c.Helper()
	a := c.do("GET", path, nil)
	require.Equal(c, 200, a.status, a.text[:min(200, len(a.text))])
	file := filepath.Join(c.TempDir(), "paper.pdf")
	require.NoError(c, os.WriteFile(file, []byte(a.text), 0o600))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(c, err)
	info, err := exec.Command("pdfinfo", file).Output()
	require.NoError(c, err)
	return strings.Join(strings.Fields(string(out)), " "), string(info)
}

// The pack of a whole house, in both practices: what was read is on it, and nothing that
// was read is called not looked at.
func TestThePackOfAWholeHouse(t *testing.T) {
	c := serve(t).as("tobias")
	text := c.pdf("/api/jobs/" + c.job("PW-2057").Id + "/pack")
	for _, want := range []string{"Standby source generator, 14 kVA, transfers by itself", "joined here, read",
		"kept apart, read", "0.625 in thick", "2 ground rods", "200 A at Outdoor disconnect", "arc-fault breaker, 1",
		"Receipt of the client", "Gas line to the generator by the gas fitter"} {
		assert.Contains(t, text, want)
	}
	assert.NotContains(t, text, "not yet looked at")
	text, about := c.sheet("/api/jobs/" + c.job("PW-2056").Id + "/pack")
	pages := regexp.MustCompile(`Pages:\s+(\d+)`).FindStringSubmatch(about)[1]
	assert.Contains(t, strings.ReplaceAll(text, " ", ""), pages+"of"+pages, "each sheet says of how many it is")
	for _, want := range []string{"1 Ring, ground floor 0.33 0.33 0.54 0.22 410 380 395 500 yes 0.44 1.37 24",
		"No surge protection, Board A: declined (Leonie Strand", "Making good of plaster by the mason",
		"The outside wash house", "Cut-out sound, seal in place", "calibrated to"} {
		assert.Contains(t, text, want)
	}
	assert.NotContains(t, text, "vehicle")
}

// The pack of a signed revision can be had after it was opened anew; an emoji that somebody
// typed keeps no pack from printing; what was declined stands in it with the reason.
func TestThePackCanAlwaysBeHad(t *testing.T) {
	w := serve(t)
	c, remy := w.as("tobias"), w.as("remy")
	v := c.job("PW-2029")
	id := v.Id
	c.made(id, put{"kind": "reopen"})
	v = c.job("PW-2029")
	s := v.View.Job.Site
	s.Customer = "Somebody 🚗 Else"
	require.Equal(t, 200, c.part(v, "site", s).status)
	remy.made(id, put{"kind": "loose-end", "note": "back tomorrow 👍"})
	now := c.pdf("/api/jobs/" + id + "/pack")
	assert.Contains(t, now, "Somebody □ Else")
	assert.Contains(t, now, "back tomorrow □")
	assert.Contains(t, now, "Revision B is not signed")
	then := c.pdf("/api/jobs/" + id + "/pack?revision=A")
	assert.Contains(t, then, "signed by Tobias Marrick")
	assert.Contains(t, then, "Marguerite Osk")
	assert.NotContains(t, then, "not signed: work in progress")
	assert.Equal(t, 404, c.do("GET", "/api/jobs/"+id+"/pack?revision=Q", nil).status)

	split := c.pdf("/api/jobs/" + c.job("PW-2054").Id + "/pack")
	for _, says := range []string{"Panel schedule", "A/B", "New: Meter base", "joined here", "Metal water pipe", "Rod 2",
		"Surge device Korv SG-2"} {
		assert.Contains(t, split, says, says)
	}
	house := c.pdf("/api/jobs/" + c.job("PW-2052").Id + "/pack")
	for _, says := range []string{"Schedule of circuits", "Schedule of test readings", "rn Ω",
		"Sail loft board, sail loft, inside the door, fed by Feed to the sail loft", "Annex: checks with their working"} {
		assert.Contains(t, house, says)
	}
	for _, word := range []string{"vehicle", "charge point", "…", "from way 0"} {
		assert.NotContains(t, house, word)
	}
}

// What is worth it goes out compressed, the interface as it was built, and the events as
// they come.
func TestAnswersAreCompressed(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	id := c.job("PW-2052").Id
	size := func(encoding string) (n int, header http.Header) {
		req, err := http.NewRequest("GET", c.url+"/api/jobs/"+id, nil)
		require.NoError(t, err)
		req.Header.Set("Cookie", c.cookie)
		req.Header.Set("Accept-Encoding", encoding)
		res, err := http.DefaultTransport.RoundTrip(req)
		require.NoError(t, err)
		defer res.Body.Close()
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return len(body), res.Header
	}
	plain, header := size("identity")
	assert.Empty(t, header.Get("Content-Encoding"))
	packed, header := size("gzip")
	assert.Equal(t, "gzip", header.Get("Content-Encoding"))
	assert.Less(t, packed*5, plain, "a job is packed to under a fifth")
}

// tooLong is a figure as a machine writes it; a small one has four figures after its zeros.
var tooLong = regexp.MustCompile(`\d\.\d{8,}`)

// The words of tasks, choices and papers, over every job of the demo: what was cut, doubled,
// misnamed or of the other practice, each once a fault.
func TestWordsOfEveryJob(t *testing.T) {
	c := serve(t).as("tobias")
	var jobs api.JobPage
	c.do("GET", "/api/jobs", nil).into(t, &jobs)
	require.Greater(t, len(jobs.Jobs), 8)
	for _, row := range jobs.Jobs {
		v := c.job(row.Ref)
		split := strings.HasPrefix(v.View.Job.Practice, "split")
		said := map[string]bool{}
		energise := 0
		for _, task := range v.View.Tasks {
			assert.Falsef(t, said[task.Title], "%s: two tasks are called %q", row.Ref, task.Title)
			said[task.Title] = true
			if c := v.View.Job.CircuitByID(task.Circuit); c != nil && c.Use != "ev" && c.Use != "cooker" {
				assert.NotContains(t, task.Title, "Mount the appliance", row.Ref)
			}
			if strings.HasPrefix(task.Title, "Energise") || strings.HasPrefix(task.Title, "Energize") {
				energise++
			}
		}
		assert.LessOrEqual(t, energise, max(1, len(v.View.Job.Circuits)), "%s: tasks that energise", row.Ref)
		for _, h := range v.View.State.Holds {
			if len(v.View.Job.Circuits) > 1 {
				assert.NotRegexp(t, "^(Loop impedance|Insulation|Photograph)", h.What, "%s: a hold names its circuit", row.Ref)
			}
		}
		pack, about := c.sheet("/api/jobs/" + v.Id + "/pack")
		for _, wrong := range []string{"…", "1 outlets", "1 circuits", "41.74 kcmil", "Sealed. Sealed", " a outside",
			"is drawn", "c1 ·", "Its light is seen", "not rest on an assumed", "NaN", "%!", "null", "{pages}", " of 00 "} {
			assert.NotContains(t, pack, wrong, row.Ref)
		}
		assert.Empty(t, tooLong.FindString(pack), "%s: a figure is rounded as it is meant to be read", row.Ref)
		if !split {
			assert.NotContains(t, pack, "Leg A", row.Ref)
		}
		size := "A4"
		if split {
			size = "letter"
		}
		assert.Contains(t, about, size, row.Ref)
	}
}

// The words of a list are its own: a type of device is never called a method of wiring.
func TestTypesAndMethodsHaveWordsOfTheirOwn(t *testing.T) {
	c := serve(t).as("tobias")
	text := c.do("GET", "/api/terms?practice=iec230", nil).text
	var terms struct{ RcdTypes, Methods []struct{ ID, Name string } }
	require.NoError(t, json.Unmarshal([]byte(text), &terms))
	methods := map[string]bool{}
	for _, m := range terms.Methods {
		methods[m.Name] = true
	}
	require.True(t, methods["A · in conduit in an insulated wall"], methods)
	for _, r := range terms.RcdTypes {
		assert.False(t, methods[r.Name], r.Name)
	}
}

var jsonKey = regexp.MustCompile(`"\w+":`)

// Each practice speaks its own words in what is composed of a job: its tasks, what it may ask
// for, its pack; and no practice those of another.
func TestEachPracticeSpeaksItsOwnWords(t *testing.T) {
	c := serve(t).as("tobias")
	for ref, words := range map[string]struct{ says, never []string }{
		"PW-2038": {[]string{"Energise step by step", "Isolate by the agreed way", "the operator", "terminate its conductors at the board"},
			[]string{"Energize", " panel", "utility", "supply authority"}},
		"PW-2054": {[]string{"Energize step by step", "lock out and tag out", "the utility", "terminate its conductors at the panel"},
			[]string{"Energise", "at the board", "supply authority", "colour"}},
		"PW-2058": {[]string{"Energize step by step", "lock out and tag out", "the supply authority",
			"terminate its conductors at the panel"},
			[]string{"Energise", "at the board", "color ", "the utility", "equipment grounding conductor",
				"grounding electrode conductor"}},
	} {
		v := c.job(ref)
		said := ""
		for _, task := range v.View.Tasks {
			said += task.Title + "\n" + task.Caution + "\n"
		}
		for _, h := range v.View.State.Holds {
			said += h.What + "\n"
		}
		var desk api.DeskSheet
		c.do("GET", "/api/jobs/"+v.Id+"/desk", nil).into(t, &desk)
		for _, k := range desk.Kinds {
			said += k.Title + "\n"
		}
		pack, _ := c.sheet("/api/jobs/" + v.Id + "/pack")
		said += pack
		for _, sheet := range []string{"", "/circuits", "/supply"} {
			said += jsonKey.ReplaceAllString(c.do("GET", "/api/jobs/"+v.Id+sheet, nil).text, "")
		}
		for _, want := range words.says {
			assert.Contains(t, said, want, ref)
		}
		for _, never := range words.never {
			assert.NotContains(t, said, never, ref)
		}
	}
}
