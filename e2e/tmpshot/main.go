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
	{name: "iso-wide", who: "Jana Okell", ref: "PW-2037", sheet: "second-fix", before: openForm},
	{name: "iso-phone", who: "Jana Okell", ref: "PW-2037", sheet: "second-fix", phone: true, theme: "sun", before: fillForm},
	{name: "room", who: "Tobias Marrick", ref: "PW-2056", sheet: "second-fix", before: openForm},
	{name: "jobs", who: "Tobias Marrick"},
	{name: "split", who: "Tobias Marrick", ref: "PW-2054", sheet: "second-fix", before: openForm},
	{name: "rewire", who: "Tobias Marrick", ref: "PW-2044", sheet: "first-fix", before: openForm},
}

func openForm(p *browser.Page) {
	p.Click("[data-isolate]")
	p.Until("the plan", `document.body.innerText.includes('open: ')`)
	p.Eval(`document.querySelector('[data-new-isolation]').scrollIntoView()`, nil)
	p.Eval(`window.scrollBy(0, -70)`, nil)
}

func fillForm(p *browser.Page) {
	openForm(p)
	p.Choose(`select[name="where"]`, "circuit:c1")
	p.Click(`[data-device="circuit:c1"]`)
	p.Type(`input[name="lockTag"]`, "padlock 4")
	p.Type(`input[name="tester"]`, "Tarn V2 no. 11")
	p.Choose(`select[name="testerKind"]`, "contact")
	p.Click(`input[name="provedBefore"]`)
	p.Type(`input[name="L-N"]`, "0.4")
	p.Type(`input[name="L-PE"]`, "0.2")
	p.Eval(`document.querySelector('[data-expected]').scrollIntoView()`, nil)
	p.Eval(`window.scrollBy(0, -70)`, nil)
}

func record(p *browser.Page) {
	fillForm(p)
	p.Type(`input[name="N-PE"]`, "0.1")
	p.Click(`input[name="provedAfter"]`)
	p.Press("Record")
	p.Has("[data-proved]")
	p.Eval(`window.scrollTo(0, 0)`, nil)
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
	p.Open("/")
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
	p.Until("everything to be computed", `!/Computing|Opening|Gathering/.test(document.body.innerText)`)
	p.Eval(`document.fonts.ready.then(() => 1)`, nil)
	p.Shot(path)
}

// SignIn goes in as one of the demo company's people.
func SignIn(p *browser.Page, name string) {
	p.Eval(`fetch('/api/demo').then(r => r.json()).then(all => fetch('/api/demo', {method: 'POST',
		headers: {'Content-Type': 'application/json'},
		body: JSON.stringify({personId: all.find(x => x.name === '`+name+`').id})})).then(r => r.status)`, nil)
	p.Open("/")
	p.See("Start a job")
}

// OpenJob opens a sheet of the job with a reference.
func OpenJob(p *browser.Page, ref, sheet string) {
	var id string
	p.Eval(`fetch('/api/jobs?q=`+ref+`').then(r => r.json()).then(all => all.jobs[0].id)`, &id)
	p.Open("/jobs/" + id + "/" + sheet)
	p.Has("dl")
}
