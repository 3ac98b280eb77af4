package main

import (
	"fmt"
	"os"

	"arvelt/e2e/browser"
)

type stop struct{}

func (stop) Helper() {}
func (stop) Fatalf(format string, args ...any) {
	fmt.Fprintf(os.Stderr, format+"\n", args...)
	os.Exit(1)
}
func in(p *browser.Page, who string) {
	p.Open("/")
	p.See("Demo company")
	p.Eval(`[...document.querySelectorAll('button')].find(b => b.innerText.includes('`+who+`')).click()`, nil)
	p.See("Start a job")
}
func main() {
	b, err := browser.Start()
	if err != nil {
		stop{}.Fatalf("%v", err)
	}
	defer b.Close()
	t := b.Person(stop{}, "t", "8099")
	t.Size(1280, 800)
	in(t, "Ines")
	t.Open("/company")
	t.Has(`[data-cell="3,1"]`)
	t.Eval(`document.querySelector('[aria-label="Select row 2"]').click()`, nil)
	t.Eval(`document.querySelector('[aria-label="Select row 4"]').dispatchEvent(new MouseEvent('click', {bubbles: true, shiftKey: true}))`, nil)
	t.See("3 rows selected")
	t.Eval(`window.scrollTo(0, 300)`, nil)
	t.Shot("/tmp/s1.png")
	t.Eval(`window.scrollTo(0, 9000)`, nil)
	t.Until("later rows", `[...document.querySelectorAll('[data-cell]')].some(c => +c.dataset.cell.split(',')[0] > 120)`)
	t.Shot("/tmp/s2.png")
	p := b.Person(stop{}, "p", "8099")
	p.Size(390, 844)
	in(p, "Tobias")
	var id string
	p.Eval(`fetch('/api/jobs?q=PW-2052').then(r => r.json()).then(v => v.jobs[0].id)`, &id)
	p.Open("/jobs/" + id + "/circuits?c=c2")
	p.Has(`[data-path="route.segments[0].lengthM"]`)
	p.Eval(`(document.querySelector('[data-path="route.segments[0].place"]').scrollIntoView({block:'start'}), window.scrollBy(0,-150))`, nil)
	p.Shot("/tmp/s3.png")
	p.Open("/jobs/" + id + "/board")
	p.Has(`[data-path="ways[0].label"]`)
	p.Eval(`(document.querySelector('[data-path="ways[0].label"]').scrollIntoView({block:'start'}), window.scrollBy(0,-150))`, nil)
	p.Shot("/tmp/s4.png")
	fmt.Println(p.Sideways())
}
