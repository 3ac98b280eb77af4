package e2e

import (
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/standin/desk"
)

// houseWalk is a house of 12 rooms and 90 points, as it is typed on a phone.
var houseWalk = []string{
	"press hall g: 4 double socket @450, 2 two way light, smoke alarm, bell",               // 8
	"type store g: light, 2 single socket",                                                 // 3
	"kitchen g: 8 double socket @1100, 4 downlight, hob 7.2kW, oven 3kW, hood, heat alarm", // 16
	"bindery g: 6 doubel socket @750, 2 intermediate light, 2 data",                        // 10, with a slip
	"wc g: light sensor, fan",                                                              // 2
	"landing f1: 2 two way light, smoke alarm, double socket",                              // 4
	"bed 1: 4 double socket, 2 bedside light, light dimmed, tv, data",                      // 9
	"bed 2: 4 double socket, two way light, tv",                                            // 6
	"study: 5 double socket @750, 2 light, 3 data, = radiator electric",                    // 11
	"bathroom: 4 downlight, fan, shaver, towel rail, mirror light",                         // 8
	"loft: 2 strip light, single socket, - 2 light",                                        // 3, and 2 that go
	"outside out: 4 outdoor socket, 4 outdoor light sensor, gate, charger 32A",             // 10
}

// job reads the job as it is exported.
func (s *server) job(ref string) install.Job {
	raw, err := os.ReadFile(s.exported(ref))
	require.NoError(s.t, err)
	var job install.Job
	require.NoError(s.t, json.Unmarshal(raw, &job))
	return job
}

func (p *person) startRewire(ref string) {
	p.Press("Start a job")
	p.Choose(`select[name="kind"]`, "rewire")
	p.Until("the reference by the company's numbering, which is then typed over", `document.querySelector('input[name="ref"]').value !== ''`)
	for name, text := range map[string]string{"ref": ref, "title": "Rewire of the print shop", "customer": "Edda Vane",
		"address": "1 Type Yard", "town": "Tarrowick"} {
		p.Type(`input[name="`+name+`"]`, text)
	}
	p.Press("Start")
	p.Has(`[data-leaf="walk"]`)
}

// A house is surveyed by shorthand in one pass on a phone. The connection is lost
// on the way; everything is kept, in its order, and nothing twice.
func TestASurveyOfAHouseInOnePass(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.startRewire("E-200")
	p.Size(390, 844)
	for i, line := range houseWalk {
		if i == 5 {
			p.Until("what was typed so far to be sent",
				`document.querySelector('[data-total]').innerText.startsWith('5 rooms') && !document.querySelector('[data-waiting]')`)
			p.Offline(true)
		}
		p.Type("#shorthand", line)
		p.Key(kb.Enter)
		p.Until("the line to be taken", `document.querySelector('#shorthand').value === ''`)
		if i == 7 {
			p.See("3 lines wait here until Arvelt can be reached.")
			p.Offline(false)
			p.Until("what waited to be sent", `!document.querySelector('[data-waiting]')`)
		}
	}
	p.Until("the tally", `document.querySelector('[data-total]').innerText.includes('12 rooms, 90 points, 2 to remove')`)
	assert.LessOrEqual(t, p.Sideways(), 0)

	job := s.job("E-200")
	require.Len(t, job.Rooms, 12)
	points := 0
	for i, r := range job.Rooms {
		name, _, _ := strings.Cut(houseWalk[i], ":")
		assert.True(t, strings.HasPrefix(name, r.Name), "%q is the %d. room of the walk", r.Name, i+1)
		points += r.Total("") - r.Total(install.Removed)
		for _, pt := range r.Points {
			assert.NotEmpty(t, pt.Kind, "%s: %q", r.Name, pt.Typed)
		}
	}
	assert.Equal(t, 90, points)
	assert.Equal(t, "first", job.RoomByID(job.Rooms[6].ID).Floor, "the floor carried on through the lost connection")

	// The same content as a table, and as a line.
	p.Click(`[data-room="bindery"] [aria-expanded]`)
	p.Press("Table", `[data-room="bindery"]`)
	p.fill("points[0].count", "7")
	p.Until("the tally to follow", `document.querySelector('[data-total]').innerText.includes('91 points')`)
	p.Press("Shorthand", `[data-room="bindery"]`)
	p.Until("the line to follow", `document.querySelector('[data-line="bindery"]').value.startsWith('bindery g: 7 double socket @750mm')`)
	p.Type(`[data-line="bindery"]`, "bindery g: 7 double socket @750mm, 2 intermediate light, 3 data, spare")
	p.Press("Write the room so")
	p.Until("the line to be read anew", `document.querySelector('[data-total]').innerText.includes('93 points')`)

	// A question is asked and answered; nothing is added unless it is taken.
	p.Until("a question", `document.querySelector('[data-question]')`)
	var asked int
	p.Eval(`parseInt([...document.querySelectorAll('h2')].find(h => h.innerText === 'Questions from the survey')
			.parentElement.innerText.match(/(\d+) open/)[1])`, &asked)
	p.Eval(`[...document.querySelector('[data-question]').querySelectorAll('button')].find(b => /^No/.test(b.innerText)).click()`, nil)
	p.Until("one question less",
		fmt.Sprintf(`[...document.querySelectorAll('h2')].find(h => h.innerText === 'Questions from the survey')
			.parentElement.innerText.includes('%d open')`, asked-1))
	p.Until("the tally to stand", `document.querySelector('[data-total]').innerText.includes('93 points')`)
}

// What is not understood is kept as it was typed, asked about, and mended.
func TestAMisreadingIsAskedAbout(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.startRewire("E-201")
	p.Type("#shorthand", "vault: two way, 3 frobnicators")
	p.See("not understood")
	p.Press("Read it as “two way light”")
	p.Until("the suggestion to be taken", `document.querySelector('#shorthand').value === 'vault: two way light, 3 frobnicators'`)
	p.Press("Add the line")
	p.See("1 not understood")
	p.says("1 items of shorthand that were not understood")
	assert.Equal(t, "3 frobnicators", s.job("E-201").Rooms[0].Points[1].Typed)
	p.Type("#shorthand", "2 socket")
	p.Press("Add the line")
	p.Until("the line to be added to its room", `document.querySelector('[data-room="vault"]').innerText.includes('2 double socket')`)
	p.Key("z", ctrl)
	p.Until("the undo", `!document.querySelector('[data-room="vault"]').innerText.includes('2 double socket')`)
}

// Big keys on a phone: a room is started and its points are counted by pressing.
func TestTheWalkByKeys(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.startRewire("E-202")
	p.Size(390, 844)
	p.Press("Add room")
	p.Press("first")
	p.Press("study")
	p.Has(`[data-keys] [data-kind="socket-2"]`)
	for range 3 {
		p.Click(`[data-keys] [data-kind="socket-2"]`)
	}
	p.Press("goes")
	p.Click(`[data-keys] [data-kind="shaver"]`)
	p.Click(`[data-keys] [data-kind="shaver"]`)
	p.Press("Take back")
	p.Press("new")
	p.Press("Lights")
	p.Press("two-way")
	p.Click(`[data-keys] [data-kind="light"]`)
	p.Saved()
	p.Until("the tally", `document.querySelector('[data-total]').innerText.includes('1 rooms, 4 points, 1 to remove')`)
	r := s.job("E-202").Rooms[0]
	assert.Equal(t, "first", r.Floor)
	require.Len(t, r.Points, 3)
	assert.Equal(t, 3, r.Points[0].Count)
	assert.Equal(t, "two-way", r.Points[2].Switching)
	assert.LessOrEqual(t, p.Sideways(), 0)
}

// picture writes a picture to send.
func picture(t *testing.T) string {
	path := filepath.Join(t.TempDir(), "wall.png")
	img := image.NewRGBA(image.Rect(0, 0, 2400, 1200))
	for x := range 2400 {
		for y := range 1200 {
			img.Set(x, y, color.RGBA{uint8(x / 10), uint8(y / 5), 90, 255})
		}
	}
	f, err := os.Create(path)
	require.NoError(t, err)
	require.NoError(t, png.Encode(f, img))
	require.NoError(t, f.Close())
	return path
}

// From a finding with its photo to the client's decision, and from the agreed
// scope to a variation with its consequence.
func TestTheCaseAndAVariation(t *testing.T) {
	s := start(t)
	p := s.person("Tobias Marrick")
	id := p.open("PW-2044", "survey?leaf=existing")
	p.Press("Note a finding")
	p.Choose(`select[name="subject"]`, "accessory-broken")
	p.Choose(`select[name="evidence"]`, "seen")
	p.Type(`input[name="note"]`, "Cracked socket <b>behind</b> the organ")
	p.Press("Save the finding")
	p.Has(`[data-finding="accessory-broken"]`)
	p.Upload(`[data-finding="accessory-broken"] input[type="file"]`, picture(t))
	p.Until("the photo", `document.querySelector('[data-finding="accessory-broken"] img')?.naturalWidth > 0`)
	var width int
	p.Eval(`document.querySelector('[data-finding="accessory-broken"] img').naturalWidth`, &width)
	assert.Equal(t, 1600, width, "it was shrunk in the browser")
	bad := filepath.Join(t.TempDir(), "note.txt")
	require.NoError(t, os.WriteFile(bad, []byte("no picture"), 0o600))
	p.Upload(`[data-finding="accessory-broken"] input[type="file"]`, bad)
	p.See("give a photo as JPEG, PNG or WebP")
	p.Press("Cancel")

	p.leaf("case")
	p.Has(`[data-section="soon"] [data-finding="accessory-broken"] img`)
	p.See("Cracked socket <b>behind</b> the organ")
	p.Has(`[data-section="look"] [data-finding="wet-place"]`)
	p.See("Graded C2, shown as to be looked into until it is seen.")
	p.Press("Declines", `[data-finding="accessory-broken"]`)
	p.Type(`[data-finding="accessory-broken"] input[name="why"]`, "We will have the organ room done next year")
	p.Click(`[data-finding="accessory-broken"] input[name="signed"]`)
	p.Press("Save the decision")
	p.See("We will have the organ room done next year")
	p.See("declined · Anselm and Bette Roake")
	var kind string
	p.Eval(`fetch('/api/jobs/`+id+
		`/case.pdf').then(r => r.arrayBuffer()).then(b => new TextDecoder().decode(b.slice(0, 5)) + ' ' + (b.byteLength > 20000))`, &kind)
	assert.Equal(t, "%PDF- true", kind, "the page for the client, with its picture")

	p.leaf("scope")
	p.Press("Agree the scope as surveyed")
	p.See("Agreed by Anselm and Bette Roake")
	job := s.job("PW-2044")
	study := ""
	for _, r := range job.Rooms {
		if r.Name == "study" {
			study = r.ID
		}
	}
	p.Choose(`select[name="variation-room"]`, study)
	p.Type(`input[name="variation"]`, "2 double socket @450, - 1 data, oven 3.68kW")
	p.Press("What does it bring?")
	p.Has("[data-consequence]")
	said := p.Text("[data-consequence]")
	for _, want := range []string{"adds 2 × double socket-outlet", "drops 1 × data point", "Oven", "new", "No way of the board is free",
		"person-hours", "Not priced", "not known; what is known of it comes to"} {
		assert.Contains(t, said, want)
	}
	for _, r := range s.job("PW-2044").Rooms {
		if r.ID == study {
			assert.Equal(t, 8, r.Total(""), "nothing is changed before it is accepted")
		}
	}
	p.Type(`input[name="accepted-by"]`, "Bette Roake")
	p.Press("Accept the variation")
	p.Has("[data-variation]")
	p.See("Accepted by Bette Roake")
	p.Has(`table[aria-label="Differences from the agreed scope"]`)
	for _, r := range s.job("PW-2044").Rooms {
		if r.ID == study {
			assert.Equal(t, 10, r.Total(""))
		}
	}
}

// Inserting a transfer switch before the panel moves the joint, and says which
// jumper goes in and which comes out.
func TestTheChainIsRecomputed(t *testing.T) {
	p := start(t).person("Tobias Marrick")
	p.open("PW-2050", "supply?leaf=chain")
	p.Has(`[data-jumper="take out panel"]`)
	p.Click(`[data-enclosure="outside"]`)
	p.Press("Remove it from the one-line")
	p.Until("the panel to be the first disconnect again",
		`document.querySelector('[data-enclosure="panel"]').dataset.verdict === 'pass' && !document.querySelector('[data-jumper]')`)
	p.Click(`[data-enclosure="panel"]`)
	p.Press("Insert before Panel A")
	p.Press("Transfer switch")
	p.Has(`[data-editing]`)
	p.Until("it to stand before the panel",
		`[...document.querySelectorAll('[data-enclosure]')].some(e => e.textContent.includes('Transfer switch'))`)
	p.Until("its number", `document.querySelector('[data-path$=".disconnect"]')`)
	p.Eval(`document.querySelector('[data-path$=".disconnect"]').setAttribute('data-its', '')`, nil)
	p.Choose(`[data-its]`, "yes")
	p.Has(`[data-jumper="take out panel"]`)
	p.Has(`[data-jumper^="put in e-"]`)
	p.See("Put in the main bonding jumper at Transfer switch.")
}

// What is sent to the operator waits while its desk is down, is received once,
// and its answer is kept with who said it.
func TestTheOperatorsDesk(t *testing.T) {
	s := start(t)
	s.desk.SetMode(desk.Down)
	p := s.person("Dot Farley")
	p.open("PW-2038", "supply?leaf=desk")
	p.Press("Ask for an isolator")
	p.Has(`[data-letter="isolator"]`)
	p.Type(`input[name="desk-note"]`, "Tails are ready")
	p.Press("Send it")
	p.Has(`[data-message="isolator"][data-state="waiting"]`)
	p.See("tried again by itself")
	s.desk.SetMode(desk.Smooth)
	p.Has(`[data-message="isolator"][data-state="booked"]`)
	p.See("(simulated desk)")
	assert.Equal(t, 1, s.desk.Received())
	p.Eval(`[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Record 20')).click()`, nil)
	p.Until("the booking to be taken over", `![...document.querySelectorAll('button')].some(b => b.innerText.startsWith('Record 20'))`)
	p.leaf("isolation")
	p.Until("the day that was booked",
		`document.querySelector('[data-path="bookedOn"]').value ===
			document.querySelector('[data-earliest="operator-isolator"]').innerText`)

	p.leaf("desk")
	p.Press("Report damage at the intake")
	p.See("Still needed: what was seen at the intake")
	p.Until("it to be held back", `[...document.querySelectorAll('button')].find(b => b.innerText === 'Send it').disabled`)
}

// One delivery later moves the earliest day of the outage, and the plan says why.
func TestADelayedDeliveryMovesTheOutage(t *testing.T) {
	p := start(t).person("Dot Farley")
	id := p.open("PW-2038", "supply?leaf=outage")
	before := p.Text(`[data-earliest-day]`)
	p.See("point of no return")
	p.sheet(id, "materials")
	due := `input[data-path="cable:swa3-90:10/due"]`
	p.Has(due)
	p.Eval(`(e => { Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(e, '2031-02-03');
		e.dispatchEvent(new Event('input', {bubbles: true})); e.dispatchEvent(new Event('change',
		{bubbles: true})) })(document.querySelector(`+"`"+due+"`"+`))`, nil)
	p.Saved()
	p.sheet(id, "supply")
	p.leaf("outage")
	p.Has(`[data-earliest-day="2031-02-03"]`)
	after := p.Text(`[data-earliest-day]`)
	assert.NotEqual(t, before, after)
	assert.Contains(t, after, "Not before 2031-02-03")
	assert.Contains(t, after, "10 mm² three-core armoured")
	p.See("before the earliest 2031-02-03")
	p.Press("Ask the simulated forecast")
	p.Until("the simulated forecast", `document.querySelector('[data-path="weather.source"]').value === 'simulated forecast'`)
}
