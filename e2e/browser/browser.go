// Package browser drives the real interface in headless Chromium. It is the
// one place that knows chromedp: a test says what a person does and sees.
package browser

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strconv"
	"strings"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// T is what of testing.T is needed, so that a command can use the package too.
type T interface {
	Helper()
	Fatalf(format string, args ...any)
}

// patience is how long something may take to appear before it is missing.
const patience = 60 * time.Second

// Browser is one Chromium. Starting it is the slow part: a test run starts one
// and gives each person a tab under a host name of their own, so that cookies
// and storage are theirs.
type Browser struct {
	ctx  context.Context
	stop func()
}

// Start starts Chromium, from CHROMIUM or Debian's place.
func Start() (*Browser, error) {
	path := os.Getenv("CHROMIUM")
	if path == "" {
		path = "/usr/bin/chromium"
	}
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox,
		chromedp.DisableGPU, chromedp.WindowSize(1280, 800), chromedp.WSURLReadTimeout(2*patience))
	for _, f := range []string{"disable-quic", "disable-dev-shm-usage", "disable-component-update", "no-first-run",
		"disable-background-networking", "disable-sync"} {
		opts = append(opts, chromedp.Flag(f, true))
	}
	alloc, stop := chromedp.NewExecAllocator(context.Background(), opts...)
	ctx, cancel := chromedp.NewContext(alloc)
	if err := chromedp.Run(ctx); err != nil {
		cancel()
		stop()
		return nil, fmt.Errorf("chromium: %w", err)
	}
	return &Browser{ctx, func() { cancel(); stop() }}, nil
}

// Close ends Chromium.
func (b *Browser) Close() { b.stop() }

// Page is one tab at one address.
type Page struct {
	t    T
	ctx  context.Context
	base string
	stop func()
}

// Person opens a tab for a person who uses the application on a port of this
// machine. Chromium takes every name under localhost for this machine.
func (b *Browser) Person(t T, name, port string) *Page {
	t.Helper()
	ctx, cancel := chromedp.NewContext(b.ctx)
	p := &Page{t, ctx, "http://" + name + ".localhost:" + port, cancel}
	if err := chromedp.Run(ctx); err != nil { // the tab lives as long as the context of its first run
		t.Fatalf("a tab: %v", err)
	}
	p.do("open a tab", chromedp.EmulateViewport(1280, 800))
	return p
}

// Close closes the tab.
func (p *Page) Close() { p.stop() }

func (p *Page) do(what string, actions ...chromedp.Action) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	if err := chromedp.Run(ctx, actions...); err != nil {
		p.t.Fatalf("%s: %v\n%s", what, err, p.look())
	}
}

// look describes the page for a failure's message.
func (p *Page) look() string {
	ctx, cancel := context.WithTimeout(p.ctx, 5*time.Second)
	defer cancel()
	var text string
	if err := chromedp.Run(ctx, chromedp.Evaluate(`location.pathname + "\n" + document.body.innerText.slice(0, 3000)`, &text)); err != nil {
		return "the page does not answer: " + err.Error()
	}
	return text
}

// Size sets the viewport; a narrow one is a phone with touch.
func (p *Page) Size(width, height int64) {
	p.t.Helper()
	if width < 700 {
		p.do("phone", chromedp.EmulateViewport(width, height, chromedp.EmulateScale(2), chromedp.EmulateTouch),
			emulation.SetTouchEmulationEnabled(true))
		return
	}
	p.do("size", chromedp.EmulateViewport(width, height))
}

// Open goes to a path of the application.
func (p *Page) Open(path string) {
	p.t.Helper()
	p.do("open "+path, chromedp.Navigate(p.base+path))
}

// Clock sets the clock of the pages that are opened from now on ahead by so much.
func (p *Page) Clock(ahead time.Duration) {
	p.t.Helper()
	script := fmt.Sprintf(`(() => { const Real = Date, off = %d; window.Date = class extends Real {
		constructor(...given) { super(...(given.length ? given : [Real.now() + off])) } static now() { return Real.now() + off } } })()`,
		ahead.Milliseconds())
	p.do("clock", chromedp.ActionFunc(func(ctx context.Context) error {
		_, err := page.AddScriptToEvaluateOnNewDocument(script).Do(ctx)
		return err
	}))
}

// Leave closes what is open: nothing of the application runs any more.
func (p *Page) Leave() {
	p.t.Helper()
	p.do("leave", chromedp.Navigate("about:blank"))
}

// Path returns where the page is.
func (p *Page) Path() string {
	p.t.Helper()
	var s string
	p.Eval(`location.pathname`, &s)
	return s
}

// Eval evaluates an expression, promises awaited, into out, which may be nil.
func (p *Page) Eval(js string, out any) {
	p.t.Helper()
	var raw json.RawMessage
	wrapped := fmt.Sprintf(`Promise.resolve((() => { return (%s) })()).then(v => JSON.stringify(v === undefined ? null : v))`, js)
	var text string
	p.do("evaluate "+js[:min(len(js), 90)], chromedp.Evaluate(wrapped, &text, chromedp.EvalAsValue, awaitPromise))
	raw = json.RawMessage(text)
	if out != nil {
		if err := json.Unmarshal(raw, out); err != nil {
			p.t.Fatalf("evaluate %s: %v", js, err)
		}
	}
}

// Until waits until an expression is true.
func (p *Page) Until(what, js string) {
	p.t.Helper()
	var ok bool
	p.do("wait for "+what, chromedp.Poll(`(async () => { try { return !!(await (`+js+`)) } catch { return false } })()`,
		&ok, chromedp.WithPollingInterval(25*time.Millisecond), chromedp.WithPollingTimeout(patience)))
}

func quote(s string) string {
	raw, err := json.Marshal(s)
	if err != nil {
		panic(err)
	}
	return string(raw)
}

// See waits for a text anywhere on the page.
func (p *Page) See(text string) {
	p.t.Helper()
	p.Until("“"+text+"”", `document.body.innerText.replace(/\u00a0/g, ' ').includes(`+quote(text)+`)`)
}

// Gone waits until a text is nowhere on the page.
func (p *Page) Gone(text string) {
	p.t.Helper()
	p.Until("“"+text+"” to go", `!document.body.innerText.replace(/\u00a0/g, ' ').includes(`+quote(text)+`)`)
}

// Has waits for an element.
func (p *Page) Has(selector string) {
	p.t.Helper()
	p.Until(selector, `document.querySelector(`+quote(selector)+`)`)
}

// Text returns the text of an element.
func (p *Page) Text(selector string) string {
	p.t.Helper()
	p.Has(selector)
	var s string
	p.Eval(`document.querySelector(`+quote(selector)+`).innerText`, &s)
	return strings.ReplaceAll(s, "\u00a0", " ")
}

// Click clicks the element of a selector once it can be.
func (p *Page) Click(selector string) {
	p.t.Helper()
	p.Until(selector+" to be open", `(e => e && !e.disabled)(document.querySelector(`+quote(selector)+`))`)
	p.hit("click "+selector, `document.querySelector(`+quote(selector)+`)`)
}

// Draw draws strokes on the element of a selector as somebody does with a pen: each runs through its points, which are shares of its width
// and height.
func (p *Page) Draw(selector string, strokes ...[][2]float64) {
	p.t.Helper()
	p.Has(selector)
	var box struct{ X, Y, Width, Height float64 }
	p.Eval(`(e => { e.scrollIntoView({block: 'center'}); return e.getBoundingClientRect() })(document.querySelector(`+quote(selector)+`))`, &box)
	for _, stroke := range strokes {
		for i, at := range stroke {
			x, y, kind := box.X+at[0]*box.Width, box.Y+at[1]*box.Height, input.MouseMoved
			if i == 0 {
				kind = input.MousePressed
			}
			p.do("draw", input.DispatchMouseEvent(kind, x, y).WithButton(input.Left).WithButtons(1).WithClickCount(1))
		}
		end := stroke[len(stroke)-1]
		p.do("lift the pen", input.DispatchMouseEvent(input.MouseReleased, box.X+end[0]*box.Width, box.Y+end[1]*box.Height).WithButton(input.Left).
			WithClickCount(1))
	}
}

// Away presses the button that reads so, which leaves the page, and waits for the one that comes.
func (p *Page) Away(name string) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	p.Eval(`[...document.querySelectorAll('button')].find(b => b.innerText === `+quote(name)+`).setAttribute('data-away', '')`, nil)
	if _, err := chromedp.RunResponse(ctx, chromedp.Click(`[data-away]`, chromedp.ByQuery)); err != nil {
		p.t.Fatalf("press %s: %v\n%s", name, err, p.look())
	}
}

// hit clicks the element that an expression finds. An answer that arrives between
// aiming and clicking moves the page: a person who missed clicks again, and so does
// this, until the element has had its click.
func (p *Page) hit(what, find string) {
	p.t.Helper()
	missed := true
	for tries := 0; missed && tries < 5; tries++ {
		p.Eval(`(e => {
			for (let d = (e.tagName === 'SUMMARY' ? e.parentElement.parentElement : e).closest('details'); d; d = d.parentElement.closest('details')) d.open = true;
			e.scrollIntoView({block: 'center'}); e.setAttribute('data-press', ''); window.missed = true;
			e.addEventListener('click', () => { window.missed = false }, {once: true, capture: true}) })(`+find+`)`, nil)
		p.do(what, chromedp.Click(`[data-press]`, chromedp.ByQuery))
		p.Eval(`document.querySelectorAll('[data-press]').forEach(e => e.removeAttribute('data-press')) || window.missed === true`, &missed)
	}
	if missed {
		p.t.Fatalf("%s: the element was never hit\n%s", what, p.look())
	}
}

// Press clicks the button or link that reads so, inside the element of within
// when that is given.
func (p *Page) Press(name string, within ...string) {
	p.t.Helper()
	root := "document"
	if len(within) > 0 {
		root = `document.querySelector(` + quote(within[0]) + `)`
	}
	find := `[...` + root + `.querySelectorAll('button, a, [role=option]')].find(e => (e.innerText.replace(/\s+/g, ' ').trim() === ` +
		quote(name) + ` || e.getAttribute('aria-label') === ` + quote(name) + `) && e.offsetParent !== null)`
	p.Until("“"+name+"” to press", `(e => e && !e.disabled && e.getAttribute('aria-disabled') !== 'true')(`+find+`)`)
	p.hit("press "+name, find)
}

// Field is the selector of the input bound to a path of a part.
func Field(path string) string { return `[data-path="` + path + `"]` }

// Fill replaces what an input holds by typing, and leaves it with Enter.
func (p *Page) Fill(selector, text string) {
	p.t.Helper()
	p.Type(selector, text)
	p.do("enter in "+selector, chromedp.KeyEvent(kb.Enter))
}

// Type replaces what an input holds by typing.
func (p *Page) Type(selector, text string) {
	p.t.Helper()
	p.Until(selector+" to be open", `(e => e && !e.disabled)(document.querySelector(`+quote(selector)+`))`)
	p.Eval(`(e => { e.scrollIntoView({block: 'center'}); e.focus(); e.select?.() })(document.querySelector(`+quote(selector)+`))`, nil)
	if text == "" {
		p.do("clear "+selector, chromedp.KeyEvent(kb.Delete))
		return
	}
	p.do("type in "+selector, input.InsertText(text))
}

// Key presses a key, such as "w" or kb.Enter.
func (p *Page) Key(key string, modifiers ...input.Modifier) {
	p.t.Helper()
	p.do("key "+key, chromedp.KeyEvent(key, chromedp.KeyModifiers(modifiers...)))
}

// Choose sets a select as a person would, by its option's value.
func (p *Page) Choose(selector, value string) {
	p.t.Helper()
	p.Until(selector+" to offer "+value,
		`(e => e && !e.disabled && [...e.options].some(o => o.value === `+quote(value)+`))(document.querySelector(`+quote(selector)+`))`)
	p.Eval(`(e => { Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(e, `+quote(value)+
		`); e.dispatchEvent(new Event('change', {bubbles: true})) })(document.querySelector(`+quote(selector)+`))`, nil)
}

// Upload gives a file to a file input.
func (p *Page) Upload(selector, path string) {
	p.t.Helper()
	p.Has(selector)
	p.do("upload", chromedp.SetUploadFiles(selector, []string{path}, chromedp.ByQuery))
}

// Saved waits until nothing on the page waits to be saved.
func (p *Page) Saved() {
	p.t.Helper()
	p.Until("everything to be saved",
		`![...document.querySelectorAll('[data-status]')].some(e => e.dataset.status !== 'saved') &&
			!document.querySelector('[role=alert]')`)
}

// Offline cuts the page off from the network, or joins it again.
func (p *Page) Offline(off bool) {
	p.t.Helper()
	if off {
		p.network(&network.Conditions{Offline: true, DownloadThroughput: -1, UploadThroughput: -1})
	} else {
		p.network()
	}
}

// network lets every request pass under the conditions that are given, or freely without any.
func (p *Page) network(rules ...*network.Conditions) {
	p.t.Helper()
	p.do("network", network.Enable(), chromedp.ActionFunc(func(ctx context.Context) error {
		_, err := network.EmulateNetworkConditionsByRule(append([]*network.Conditions{}, rules...)).Do(ctx)
		return err
	}))
}

// Slow delays every answer from now on.
func (p *Page) Slow(by time.Duration) {
	p.t.Helper()
	p.network(&network.Conditions{Latency: float64(by.Milliseconds()), DownloadThroughput: -1, UploadThroughput: -1})
}

// Slowed makes the processor so many times slower for the page; 1 is as it is.
func (p *Page) Slowed(times float64) {
	p.t.Helper()
	p.do("slow the processor", emulation.SetCPUThrottlingRate(times))
}

// Watch notes, on pages that are opened from now on, when something first stands there and how long the longest task took until then: see [Page.Stood].
func (p *Page) Watch(selector string) {
	p.t.Helper()
	script := fmt.Sprintf(`(() => {
		let longest = 0
		new PerformanceObserver(list => { for (const e of list.getEntries()) longest = Math.max(longest, e.duration) }).observe({type: 'longtask', buffered: true})
		new MutationObserver((_, watch) => {
			if (!document.querySelector(%s)) return
			watch.disconnect()
			const at = performance.now()
			setTimeout(() => { window.__stood = {at, longest} }, 100)
		}).observe(document, {subtree: true, childList: true})
	})()`, strconv.Quote(selector))
	p.do("watch for "+selector, chromedp.ActionFunc(func(ctx context.Context) error {
		_, err := page.AddScriptToEvaluateOnNewDocument(script).Do(ctx)
		return err
	}))
}

// Stood is when what is watched for first stood there since the page was asked for, and how long the longest task took until then, ms.
func (p *Page) Stood() (at, longest float64) {
	p.t.Helper()
	p.Until("it to stand there", `!!window.__stood`)
	var out struct{ At, Longest float64 }
	p.Eval(`window.__stood`, &out)
	return out.At, out.Longest
}

// Front brings the tab to the front: what nobody sees is not painted.
func (p *Page) Front() {
	p.t.Helper()
	p.do("bring to the front", page.BringToFront())
}

// Shifts is how far what was seen jumped since the page was opened, as browsers score it:
// the sum of the layout shifts that followed no input, and what jumped.
func (p *Page) Shifts() (score float64, what string) {
	p.t.Helper()
	var out struct {
		Score float64
		What  string
	}
	p.Eval(`new Promise(done => {
		const out = {score: 0, what: ''};
		const watch = new PerformanceObserver(list => {
			for (const e of list.getEntries()) {
				if (e.hadRecentInput) continue;
				out.score += e.value;
				for (const s of e.sources) if (out.what.length < 300) out.what += e.value.toFixed(3) + ' ' +
					(s.node?.nodeName ?? '') + ' ' + (s.node?.textContent ?? '').slice(0, 30) + '; ';
			}
		});
		watch.observe({type: 'layout-shift', buffered: true});
		requestAnimationFrame(() => requestAnimationFrame(() => { watch.disconnect(); done(out) }));
	})`, &out)
	return out.Score, out.What
}

// Shot writes a picture of the viewport.
func (p *Page) Shot(path string) {
	p.t.Helper()
	var png []byte
	p.do("picture", page.BringToFront(), chromedp.ActionFunc(func(ctx context.Context) (err error) {
		png, err = page.CaptureScreenshot().WithFormat(page.CaptureScreenshotFormatPng).Do(ctx)
		return err
	}))
	if err := os.WriteFile(path, png, 0o644); err != nil {
		p.t.Fatalf("%v", err)
	}
}

// Sideways reports by how many pixels the page can be scrolled sideways.
func (p *Page) Sideways() (over int) {
	p.t.Helper()
	p.Eval(`document.documentElement.scrollWidth - document.documentElement.clientWidth`, &over)
	return over
}

// Finding is one thing that the accessibility check found.
type Finding struct {
	ID     string   `json:"id"`
	Impact string   `json:"impact"`
	Help   string   `json:"help"`
	Nodes  []string `json:"nodes"`
}

// Axe runs the axe-core script and returns its serious and critical findings: of the
// rules named, or of all.
func (p *Page) Axe(script string, rules ...string) []Finding {
	p.t.Helper()
	var there bool
	p.Eval(`typeof axe !== 'undefined'`, &there)
	if !there {
		p.do("axe", chromedp.Evaluate(script, nil))
	}
	var found []Finding
	only := "['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']"
	if len(rules) > 0 {
		only = `{type: 'rule', values: ['` + strings.Join(rules, "', '") + `']}`
	}
	p.Eval(`axe.run(document, {runOnly: `+only+
		`}).then(r => r.violations.filter(v => v.impact === 'serious' || v.impact === 'critical').map(v => ({id: v.id,
			impact: v.impact, help: v.help, nodes: v.nodes.map(n => n.html.slice(0, 220) + ' ' + (n.any[0]?.message ?? ''))})))`, &found)
	return found
}
