// Package merchant is a simulated merchant, over HTTP like a real one: it has some goods and waits for others, cuts some shorter than was wanted,
// no longer sells a few, and is sometimes slow or down. It ships with Arvelt so that the whole way of an order can be tried without a merchant; it
// says in every answer that it is simulated, and its vans take seconds where its notes speak of days.
//
// An order carries an id of the sender's. The same id again gets the same answer, however often it is sent.
package merchant

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"arvelt/standin"
)

// Modes of the merchant: how it behaves towards every order.
const (
	Normal   = "normal"   // as its goods are: see data/goods.csv
	Smooth   = "smooth"   // has everything, at once
	Partial  = "partial"  // has half of everything, the rest after a week
	Short    = "short"    // cuts every length in two
	Gone     = "gone"     // sells nothing any more
	Refusing = "refusing" // refuses orders: the account is on hold
	Slow     = "slow"     // answers after the caller has given up
	Down     = "down"     // 503 to everything
)

// Modes lists them.
var Modes = []string{Normal, Smooth, Partial, Short, Gone, Refusing, Slow, Down}

// Name is what it calls itself.
const Name = "Hollin Trade Counter"

// Formats of what comes in and goes out; docs/goods.md describes them.
const (
	orderFormat        = "arvelt-order/1"
	confirmationFormat = "arvelt-confirmation/1"
	deliveryFormat     = "arvelt-delivery/1"
)

// Order is what the merchant is sent. An enquiry is an order without an id.
type Order struct {
	Format string `json:"format"`
	ID     string `json:"id"`
	Number string `json:"number"`
	On     string `json:"on"`
	Lines  []Line `json:"lines"`
}

// Line is a product of an order.
type Line struct {
	Product string    `json:"product"`
	Name    string    `json:"name"`
	Count   float64   `json:"count"`
	Unit    string    `json:"unit"`
	Lengths []float64 `json:"lengths"`
}

// Confirmation is what it says of an order or an enquiry. Its lines are there once it has looked.
type Confirmation struct {
	Format    string      `json:"format"`
	ID        string      `json:"id"`
	Reference string      `json:"reference"`
	Merchant  string      `json:"merchant"`
	Simulated bool        `json:"simulated"`
	State     string      `json:"state"` // received, confirmed, delivered, refused
	Message   string      `json:"message"`
	Lines     []Confirmed `json:"lines"`
	Notes     []Note      `json:"notes"`
}

// Confirmed is what it says of one product.
type Confirmed struct {
	Product string `json:"product"`
	Sold    bool   `json:"sold"` // it deals in it
	// Gone: it is not made any more. Instead are what it would send.
	Gone    bool     `json:"gone"`
	Instead []string `json:"instead"`
	// Price is of one unit of the order, 0 where it sells none. Stock is how much is there, at most what is wanted.
	Price float64 `json:"price"`
	Stock float64 `json:"stock"`
	// Promises are what comes when; together less than was ordered where the rest does not come.
	Promises []Promise `json:"promises"`
	// Pieces are the lengths in which it comes; none where it is not cut.
	Pieces []float64 `json:"pieces"`
}

// Promise is how much comes on which day.
type Promise struct {
	Count float64 `json:"count"`
	On    string  `json:"on"`
}

// Note is a delivery note.
type Note struct {
	Format   string     `json:"format"`
	Number   string     `json:"number"`
	Merchant string     `json:"merchant"`
	On       string     `json:"on"`
	Lines    []NoteLine `json:"lines"`
}

// NoteLine is a product of a delivery note.
type NoteLine struct {
	Product string    `json:"product"`
	Name    string    `json:"name"`
	Count   float64   `json:"count"`
	Unit    string    `json:"unit"`
	Lengths []float64 `json:"lengths"`
	Remark  string    `json:"remark"`
}

// Merchant is the stand-in.
type Merchant struct {
	// Settle is how long it takes to look at an order, and then to deliver the first part; the rest takes twice as long.
	Settle time.Duration
	// File keeps what was ordered, when it is not empty.
	File string
	// Now is the clock.
	Now func() time.Time

	mu    sync.Mutex
	mode  string
	state saved
}

type saved struct {
	Got  map[string]kept    `json:"got"`
	Sold map[string]float64 `json:"sold"` // of what is there of each of its goods, in their units
}

type kept struct {
	Order Order        `json:"order"`
	Said  Confirmation `json:"said"`
	At    time.Time    `json:"at"`
	Mode  string       `json:"mode"`
}

// New makes a merchant in a mode. A file that is there is read.
func New(mode, file string) (*Merchant, error) {
	m := &Merchant{Settle: 8 * time.Second, File: file, Now: time.Now, mode: mode,
		state: saved{Got: map[string]kept{}, Sold: map[string]float64{}}}
	return m, standin.Read(file, &m.state)
}

// SetMode changes how it behaves towards orders that come from now on.
func (m *Merchant) SetMode(mode string) {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.mode = mode
}

// Received is how many different orders it has taken in.
func (m *Merchant) Received() int {
	m.mu.Lock()
	defer m.mu.Unlock()
	return len(m.state.Got)
}

// ServeHTTP answers POST /enquiries, POST /orders, GET /orders/{id} and the notes of an order as tables.
func (m *Merchant) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	mux := http.NewServeMux()
	mux.HandleFunc("POST /enquiries", m.enquire)
	mux.HandleFunc("POST /orders", m.take)
	mux.HandleFunc("GET /orders/{id}", m.tell)
	mux.HandleFunc("GET /orders/{id}/notes/{number}", m.note)
	mux.HandleFunc("GET /{$}", func(w http.ResponseWriter, _ *http.Request) {
		fmt.Fprintln(w, "Simulated merchant. It ships with Arvelt and sells nothing.")
	})
	m.mu.Lock()
	mode := m.mode
	m.mu.Unlock()
	if mode == Down {
		standin.Refuse(w, http.StatusServiceUnavailable, "the merchant is not answering")
		return
	}
	mux.ServeHTTP(w, r)
}

// mostBytes is the longest order that it takes.
const mostBytes = 1 << 20

// read reads an order, and answers what is wrong with it.
func read(w http.ResponseWriter, r *http.Request) (o Order, ok bool) {
	err := json.NewDecoder(http.MaxBytesReader(w, r.Body, mostBytes)).Decode(&o)
	switch {
	case err != nil:
		standin.Refuse(w, http.StatusBadRequest, "the order is not understood: "+err.Error())
	case o.Format != orderFormat:
		standin.Refuse(w, http.StatusBadRequest, "an order is in the format "+orderFormat)
	case len(o.Lines) == 0:
		standin.Refuse(w, http.StatusBadRequest, "an order has lines")
	default:
		for _, l := range o.Lines {
			if l.Product == "" || l.Count <= 0 {
				standin.Refuse(w, http.StatusBadRequest, fmt.Sprintf("line %q: a product and how many, more than 0", l.Product))
				return o, false
			}
		}
		return o, true
	}
	return o, false
}

func (m *Merchant) enquire(w http.ResponseWriter, r *http.Request) {
	o, ok := read(w, r)
	if !ok {
		return
	}
	m.mu.Lock()
	c := Confirmation{Format: confirmationFormat, Merchant: Name, Simulated: true, State: "confirmed", Lines: m.look(&o, m.mode, m.Now(), false),
		Notes: []Note{}}
	m.mu.Unlock()
	standin.Say(w, http.StatusOK, c)
}

func (m *Merchant) take(w http.ResponseWriter, r *http.Request) {
	o, ok := read(w, r)
	if !ok {
		return
	}
	if o.ID == "" {
		standin.Refuse(w, http.StatusBadRequest, "an order has an id, so that it is taken in once")
		return
	}
	m.mu.Lock()
	mode := m.mode
	k, there := m.state.Got[o.ID]
	if !there {
		k = kept{Order: o, At: m.Now(), Mode: mode, Said: Confirmation{Format: confirmationFormat, ID: o.ID, Merchant: Name, Simulated: true,
			Reference: fmt.Sprintf("SIM-%06d", standin.Hash(o.ID)%1000000), State: "received", Message: "Received.", Lines: []Confirmed{}, Notes: []Note{}}}
		m.state.Got[o.ID] = k
		standin.Keep(m.File, m.state)
	}
	m.mu.Unlock()
	if mode == Slow {
		standin.Wait(r, time.Hour) // received, but the caller hears nothing
		return
	}
	standin.Say(w, http.StatusAccepted, k.Said)
}

// tell says how an order stands: it is looked at some time after it came in, and then delivered in parts.
func (m *Merchant) tell(w http.ResponseWriter, r *http.Request) {
	m.mu.Lock()
	defer m.mu.Unlock()
	k, ok := m.state.Got[r.PathValue("id")]
	if !ok {
		standin.Refuse(w, http.StatusNotFound, "no order of this id was received")
		return
	}
	m.move(&k)
	standin.Say(w, http.StatusOK, k.Said)
}

// move carries an order as far as its time has come.
func (m *Merchant) move(k *kept) {
	past := m.Now().Sub(k.At)
	if k.Mode == Smooth {
		past += 4 * m.Settle
	}
	if k.Said.State == "received" && past >= m.Settle {
		if k.Mode == Refusing {
			k.Said.State, k.Said.Message = "refused", "Refused: the account is on hold. Call us."
		} else {
			k.Said.State, k.Said.Message, k.Said.Lines = "confirmed", "Confirmed.", m.look(&k.Order, k.Mode, k.At, true)
		}
	}
	for part := range 2 {
		if k.Said.State == "confirmed" && len(k.Said.Notes) == part && past >= time.Duration(2+2*part)*m.Settle {
			if n := k.deliver(part, m.Now()); len(n.Lines) > 0 {
				k.Said.Notes = append(k.Said.Notes, n)
			}
			if part == 1 || !k.rest() {
				k.Said.State, k.Said.Message = "delivered", "All that comes has come."
			}
		}
	}
	m.state.Got[k.Order.ID] = *k
	standin.Keep(m.File, m.state)
}

// rest reports whether a second part of an order is still to come.
func (k *kept) rest() bool {
	for _, c := range k.Said.Lines {
		if len(c.Promises) > 1 {
			return true
		}
	}
	return false
}

// deliver writes the note of a part of an order.
func (k *kept) deliver(part int, now time.Time) Note {
	n := Note{Format: deliveryFormat, Number: fmt.Sprintf("%s-%d", k.Said.Reference, part+1), Merchant: Name, On: now.Format(time.DateOnly),
		Lines: []NoteLine{}}
	for i, c := range k.Said.Lines {
		l := k.Order.Lines[i]
		if len(c.Promises) <= part {
			continue
		}
		out := NoteLine{Product: l.Product, Name: l.Name, Count: c.Promises[part].Count, Unit: l.Unit, Lengths: []float64{}}
		if len(c.Promises) == 1 {
			out.Lengths = c.Pieces
		} else if metresIn(l.Unit) > 0 {
			out.Lengths = []float64{out.Count}
		}
		n.Lines = append(n.Lines, out)
	}
	return n
}

// look says of each line of an order what it has of it; what is taken is no longer there for the next.
func (m *Merchant) look(o *Order, mode string, now time.Time, taken bool) []Confirmed {
	out := []Confirmed{}
	for _, l := range o.Lines {
		g, key, ok := goodOf(l.Product)
		c := Confirmed{Product: l.Product, Sold: ok, Instead: []string{}, Promises: []Promise{}, Pieces: []float64{}}
		rate := g.in(l.Unit)
		switch mode {
		case Smooth:
			g, ok = good{price: g.price, unit: g.unit, stock: -1}, true
		case Partial:
			g, ok = good{price: g.price, unit: g.unit, stock: m.state.Sold[key] + math.Floor(l.Count/2)*rate, lead: 7}, true
		case Short:
			g, ok = good{price: g.price, unit: g.unit, stock: -1, piece: longest(&l) / 2 * rate}, true
		case Gone:
			g.gone, ok = true, true
		}
		c.Sold, c.Gone = ok, ok && g.gone
		c.Instead = append(c.Instead, g.instead...)
		if !ok || g.gone {
			out = append(out, c)
			continue
		}
		c.Price, c.Stock = math.Round(g.price*rate*1000)/1000, l.Count
		if g.stock >= 0 {
			c.Stock = min(l.Count, math.Floor(max(0, g.stock-m.state.Sold[key])/rate))
		}
		if c.Stock > 0 {
			c.Promises = append(c.Promises, Promise{c.Stock, standin.Workday(now.AddDate(0, 0, 1))})
		}
		if rest := l.Count - c.Stock; rest > 0 {
			c.Promises = append(c.Promises, Promise{rest, standin.Workday(now.AddDate(0, 0, 1+g.lead))})
		}
		if metresIn(l.Unit) > 0 {
			c.Pieces = pieces(&l, g.piece/rate)
		}
		if taken {
			m.state.Sold[key] += c.Stock * rate
		}
		out = append(out, c)
	}
	return out
}

// longest is the longest length that a line asks for.
func longest(l *Line) float64 {
	if len(l.Lengths) == 0 {
		return l.Count
	}
	return slices.Max(l.Lengths)
}

// pieces are the lengths in which a line comes: as they were wanted, those cut in parts that are longer than it cuts, in the unit of the line.
func pieces(l *Line, most float64) []float64 {
	wanted := l.Lengths
	if len(wanted) == 0 {
		wanted = []float64{l.Count}
	}
	out := []float64{}
	for _, v := range wanted {
		for cut := math.Floor(most*10) / 10; cut > 0 && v > cut; v -= cut {
			out = append(out, cut)
		}
		out = append(out, math.Round(v*10)/10)
	}
	return out
}

// note answers a delivery note as a table.
func (m *Merchant) note(w http.ResponseWriter, r *http.Request) {
	m.mu.Lock()
	defer m.mu.Unlock()
	k, ok := m.state.Got[r.PathValue("id")]
	name, csvWanted := strings.CutSuffix(r.PathValue("number"), ".csv")
	if ok && csvWanted {
		m.move(&k)
		for _, n := range k.Said.Notes {
			if n.Number == name {
				w.Header().Set("Content-Type", "text/csv; charset=utf-8")
				n.write(csv.NewWriter(w), w)
				return
			}
		}
	}
	standin.Refuse(w, http.StatusNotFound, "no note of this number was written")
}

func (n *Note) write(out *csv.Writer, w http.ResponseWriter) {
	fmt.Fprintf(w, "# simulated\n# number: %s\n# merchant: %s\n# date: %s\n", n.Number, n.Merchant, n.On)
	_ = out.Write([]string{"product", "name", "count", "unit", "lengths", "remark"}) // the caller may be gone
	for _, l := range n.Lines {
		lengths := make([]string, len(l.Lengths))
		for i, v := range l.Lengths {
			lengths[i] = strconv.FormatFloat(v, 'f', -1, 64)
		}
		_ = out.Write([]string{l.Product, l.Name, strconv.FormatFloat(l.Count, 'f', -1, 64), l.Unit, strings.Join(lengths, " + "), l.Remark})
	}
	out.Flush()
}
