// Command shots takes the pictures of docs/screenshots from a running Arvelt
// with demo data.
//
//	go run ./e2e/shots [-url http://127.0.0.1:8080] [-out docs/screenshots] [-only NAME]
package main

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"arvelt/e2e/browser"
)

type stop struct{}

func (stop) Helper() {}
func (stop) Fatalf(format string, args ...any) {
	fmt.Fprintf(os.Stderr, format+"\n", args...)
	os.Exit(1)
}

// view is one picture: who looks, at which job's sheet, and what is done first.
type view struct {
	name, who, ref, sheet string
	phone                 bool
	theme                 string
	before                func(*browser.Page)
}

var views = []view{
	{name: "jobs", who: "Tobias Marrick"},
	{name: "survey", who: "Tobias Marrick", ref: "PW-2044", sheet: "survey?leaf=walk"},
	{name: "survey-phone", who: "Jana Okell", ref: "PW-2044", sheet: "survey?leaf=walk", phone: true, before: typeShorthand},
	{name: "case", who: "Tobias Marrick", ref: "PW-2044", sheet: "survey?leaf=case", theme: "dark"},
	{name: "supply", who: "Tobias Marrick", ref: "PW-2046", sheet: "supply?leaf=demand"},
	{name: "chain", who: "Tobias Marrick", ref: "PW-2050", sheet: "supply?leaf=chain"},
	{name: "outage", who: "Dot Farley", ref: "PW-2038", sheet: "supply?leaf=outage"},
	{name: "circuits", who: "Tobias Marrick", ref: "PW-2056", sheet: "circuits?c=c1", before: toRun},
	{name: "board", who: "Tobias Marrick", ref: "PW-2054", sheet: "board"},
	{name: "proposal", who: "Tobias Marrick", ref: "PW-2044", sheet: "circuits", before: toProposal},
	{name: "bench-phone", who: "Jana Okell", sheet: "bench?calc=iec230/zs-check", phone: true, before: calculate},
	{name: "materials", who: "Dot Farley", ref: "PW-2054", sheet: "materials"},
	{name: "quote", who: "Dot Farley", ref: "PW-2038", sheet: "quote"},
	{name: "today-phone", who: "Jana Okell", sheet: "today", phone: true},
	{name: "week", who: "Dot Farley", sheet: "week"},
	{name: "plan", who: "Dot Farley", ref: "PW-2052", sheet: "plan"},
	{name: "second-fix-phone", who: "Jana Okell", ref: "PW-2037", sheet: "second-fix", phone: true, theme: "sun"},
	{name: "test-phone", who: "Jana Okell", ref: "PW-2037", sheet: "test", phone: true, before: typeReading},
	{name: "handover", who: "Tobias Marrick", ref: "PW-2029", sheet: "handover"},
}

// typeReading records an isolation of today, so that the next dead test is open,
// and types a reading without recording it.
func typeReading(p *browser.Page) {
	p.Eval(`(async () => {
		const job = location.pathname.replace('/jobs/', '/api/jobs/').replace('/test', '')
		const { devices, places } = (await (await fetch(job)).json()).view.tests
		return (await fetch(job + '/records', {method: 'POST',
			headers: {'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID()},
			body: JSON.stringify({kind: 'isolation', lockTag: 'padlock 4, tag JO-4', tester: 'Tarn V2 two-pole, no. 11', testerKind: 'contact',
			opens: devices.filter(d => d.kind === 'switch').map(d => ({device: d.id, kept: 'lock'})), provedBefore: true, provedAfter: true,
			proofs: places.map(p => ({at: p.id, cables: p.cables, read: p.pairs.map(pair => ({pair, v: 0.3}))})),
			stillLive: 'tails and incoming terminals'})})).status
	})()`, nil)
	p.Click(`[data-entry] button[aria-label="2"]`)
	p.Click(`[data-entry] button[aria-label="8"]`)
	p.Click(`[data-entry] button[aria-label="0"]`)
	p.Eval(`window.scrollTo(0, 0)`, nil)
}

// typeShorthand types a line with a slip in it, and does not take it.
func typeShorthand(p *browser.Page) {
	p.Type("#shorthand", "cellar b: 2 doubel socket @1100, two way strip light, sump pump 0.6kW")
	p.Has(`[data-misread]`)
	p.Eval(`window.scrollTo(0, 0)`, nil)
}

// calculate fills one calculation of the bench and runs it.
func calculate(p *browser.Page) {
	for key, v := range map[string]string{"ze_ohm": "0.35", "line_mm2": "4", "cpc_mm2": "1.5", "length_m": "18",
		"curve": "B", "in_a": "32", "time_s": "0.4"} {
		p.Type(`[data-in="`+key+`"]`, v)
	}
	p.Press("Calculate")
	p.Has(`[data-out="zs_ohm"]`)
}

// toProposal asks for circuits and shows them.
func toProposal(p *browser.Page) {
	p.Click(`[data-propose]`)
	p.Has(`[data-proposed]`)
	p.Eval(`document.querySelector('[data-proposal]').scrollIntoView()`, nil)
	p.Eval(`window.scrollBy(0, -70)`, nil)
}

// toRun opens a point of the run that is shown.
func toRun(p *browser.Page) {
	p.Click(`[data-stop="p5"]`)
	p.See("fault current")
	p.Eval(`document.querySelector('[data-run]').scrollIntoView()`, nil)
}

func main() {
	url := flag.String("url", "http://127.0.0.1:8080", "where Arvelt is")
	out := flag.String("out", "docs/screenshots", "folder of the pictures")
	only := flag.String("only", "", "names to take, with commas; all when empty")
	flag.Parse()
	if err := os.MkdirAll(*out, 0o755); err != nil {
		stop{}.Fatalf("%v", err)
	}
	b, err := browser.Start()
	if err != nil {
		stop{}.Fatalf("%v", err)
	}
	defer b.Close()
	port := (*url)[strings.LastIndex(*url, ":")+1:]
	for _, v := range views {
		if *only == "" || strings.Contains(","+*only+",", ","+v.name+",") {
			v.take(b, port, filepath.Join(*out, v.name+".png"))
			fmt.Println(v.name)
		}
	}
}

func (v view) take(b *browser.Browser, port, path string) {
	p := b.Person(stop{}, v.name, port)
	defer p.Close()
	if v.phone {
		p.Size(390, 844)
	}
	p.Open("/jobs")
	p.See("Demo company")
	if v.theme != "" { // takes effect with the next page
		p.Eval(`localStorage.setItem('arvelt:theme', '`+v.theme+`')`, nil)
	}
	if v.who != "" {
		SignIn(p, v.who)
	}
	switch {
	case v.ref != "":
		OpenJob(p, v.ref, v.sheet)
	case v.sheet != "":
		p.Open("/" + v.sheet)
		p.Has("main h1")
	}
	if v.before != nil {
		v.before(p)
	}
	p.Until("everything to be computed", `!/Computing|Opening|Gathering|Looking/.test(document.body.innerText)`)
	p.Eval(`document.fonts.ready.then(() => 1)`, nil)
	p.Shot(path)
}

// SignIn goes in as one of the demo company's people.
func SignIn(p *browser.Page, name string) {
	p.Eval(`fetch('/api/demo').then(r => r.json()).then(all => fetch('/api/demo', {method: 'POST',
		headers: {'Content-Type': 'application/json'},
		body: JSON.stringify({personId: all.find(x => x.name === '`+name+`').id})})).then(r => r.status)`, nil)
	p.Open("/jobs")
	p.See("Start a job")
}

// OpenJob opens a sheet of the job with a reference.
func OpenJob(p *browser.Page, ref, sheet string) {
	var id string
	p.Eval(`fetch('/api/jobs?q=`+ref+`').then(r => r.json()).then(all => all.jobs[0].id)`, &id)
	p.Open("/jobs/" + id + "/" + sheet)
	p.Has("dl")
}
