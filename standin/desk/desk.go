// Package desk is a simulated network operator's desk, over HTTP like a real
// one: slow, sometimes down, sometimes refusing. It ships with Arvelt so that
// the whole way of a request can be tried without an operator; it says in every
// answer that it is simulated. It also answers a simulated forecast.
//
// A request carries an id of the sender's. The same id again gets the same
// answer and is counted once, however often it is sent.
package desk

import (
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"sync"
	"time"

	"arvelt/standin"
)

// Modes of the desk: how it behaves towards every request.
const (
	Normal   = "normal"   // takes a moment; stumbles over some requests the first time
	Slow     = "slow"     // answers after the caller has given up
	Down     = "down"     // 503 to everything
	Refusing = "refusing" // takes requests in and refuses them
	Smooth   = "smooth"   // answers at once and agrees
)

// Modes lists them.
var Modes = []string{Normal, Smooth, Slow, Down, Refusing}

// Request is what the desk is sent.
type Request struct {
	ID     string            `json:"id"`
	Kind   string            `json:"kind"`
	Facts  map[string]string `json:"facts"`
	Number string            `json:"number"`
	Day    string            `json:"day"`
	Note   string            `json:"note"`
	From   string            `json:"from"`
	Photos map[string][]byte `json:"photos,omitempty"` // JPEG by its SHA-256
}

// Answer is what the desk says of a request.
type Answer struct {
	ID        string `json:"id"`
	State     string `json:"state"` // received, agreed, refused, booked
	Reference string `json:"reference"`
	Person    string `json:"person"`
	Message   string `json:"message"`
	Day       string `json:"day"` // of an appointment, 2006-01-02
	Simulated bool   `json:"simulated"`
}

// Desk is the stand-in.
type Desk struct {
	// Settle is how long the desk takes to decide after it has received.
	Settle time.Duration
	// Pause is how long a call takes in normal mode.
	Pause time.Duration
	// File keeps what was received, when it is not empty.
	File string
	// Now is the clock.
	Now func() time.Time

	mu    sync.Mutex
	mode  string
	state saved
}

type saved struct {
	Got   map[string]kept `json:"got"`
	Calls map[string]int  `json:"calls"` // by id, every call counted
}

type kept struct {
	Request Request   `json:"request"`
	Answer  Answer    `json:"answer"`
	At      time.Time `json:"at"`
	Refuse  bool      `json:"refuse"`
}

// New makes a desk in a mode. A file that is there is read.
func New(mode, file string) (*Desk, error) {
	d := &Desk{Settle: 4 * time.Second, Pause: 700 * time.Millisecond, File: file, Now: time.Now, mode: mode,
		state: saved{Got: map[string]kept{}, Calls: map[string]int{}}}
	return d, standin.Read(file, &d.state)
}

// SetMode changes how the desk behaves.
func (d *Desk) SetMode(mode string) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.mode = mode
}

// Received is how many different requests the desk has taken in, and Calls how
// often each was sent.
func (d *Desk) Received() int {
	d.mu.Lock()
	defer d.mu.Unlock()
	return len(d.state.Got)
}

// Calls returns how often a request of an id was sent.
func (d *Desk) Calls(id string) int {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.state.Calls[id]
}

// ServeHTTP answers POST /requests, GET /requests/{id} and GET /forecast.
func (d *Desk) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	mux := http.NewServeMux()
	mux.HandleFunc("POST /requests", d.take)
	mux.HandleFunc("GET /requests/{id}", d.tell)
	mux.HandleFunc("GET /forecast", d.forecast)
	mux.HandleFunc("GET /{$}", func(w http.ResponseWriter, _ *http.Request) {
		fmt.Fprintln(w, "Simulated network operator's desk. It ships with Arvelt and is no real operator.")
	})
	mux.ServeHTTP(w, r)
}

// mostBytes is the longest request that the desk takes: a few photos of a phone.
const mostBytes = 16 << 20

func (d *Desk) take(w http.ResponseWriter, r *http.Request) {
	var q Request
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, mostBytes)).Decode(&q); err != nil || q.ID == "" || q.Kind == "" {
		standin.Refuse(w, http.StatusBadRequest, "a request has an id and a kind")
		return
	}
	for sum, jpeg := range q.Photos {
		if fmt.Sprintf("%x", sha256.Sum256(jpeg)) != sum {
			standin.Refuse(w, http.StatusBadRequest, "a photo is not what its sum says")
			return
		}
	}
	d.mu.Lock()
	d.state.Calls[q.ID]++
	mode, calls := d.mode, d.state.Calls[q.ID]
	d.mu.Unlock()
	switch {
	case mode == Down, mode == Normal && standin.Hash(q.ID)%3 == 0 && calls == 1:
		standin.Refuse(w, http.StatusServiceUnavailable, "the desk is not answering")
		return
	case mode == Normal:
		standin.Wait(r, d.Pause)
	}
	a := d.keep(q, mode)
	if mode == Slow {
		standin.Wait(r, time.Hour) // received, but the caller hears nothing
		return
	}
	standin.Say(w, http.StatusAccepted, a)
}

var clerks = []string{"R. Vantry", "O. Kessel", "M. Idun"}

// keep takes a request in once.
func (d *Desk) keep(q Request, mode string) Answer {
	d.mu.Lock()
	defer d.mu.Unlock()
	if k, ok := d.state.Got[q.ID]; ok {
		return k.Answer
	}
	a := Answer{ID: q.ID, State: "received", Reference: fmt.Sprintf("SIM-%06d", standin.Hash(q.ID)%1000000),
		Person: clerks[standin.Hash(q.ID)%3], Message: "Received.", Simulated: true}
	if n := len(q.Photos); n > 0 {
		a.Message = fmt.Sprintf("Received, photos: %d.", n)
	}
	q.Photos = nil // it keeps no pictures of customers
	d.state.Got[q.ID] = kept{Request: q, Answer: a, At: d.Now(), Refuse: mode == Refusing || q.Number == ""}
	standin.Keep(d.File, d.state)
	return a
}

// tell says how a request stands; it is decided some time after it came in.
func (d *Desk) tell(w http.ResponseWriter, r *http.Request) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.mode == Down {
		standin.Refuse(w, http.StatusServiceUnavailable, "the desk is not answering")
		return
	}
	k, ok := d.state.Got[r.PathValue("id")]
	if !ok {
		standin.Refuse(w, http.StatusNotFound, "no request of this id was received")
		return
	}
	if k.Answer.State == "received" && (d.mode == Smooth || d.Now().Sub(k.At) >= d.Settle) {
		k.Answer = decide(k, d.Now())
		d.state.Got[k.Request.ID] = k
		standin.Keep(d.File, d.state)
	}
	standin.Say(w, http.StatusOK, k.Answer)
}

func decide(k kept, now time.Time) Answer {
	a := k.Answer
	if k.Refuse {
		a.State, a.Message = "refused", "Refused: the request does not match our records. Check the number of the supply and apply again."
		if k.Request.Number == "" {
			a.Message = "Refused: no number of a supply was given."
		}
		return a
	}
	switch k.Request.Kind {
	case "notify-load", "apply-load":
		a.State, a.Message = "agreed", "The load may be connected."
	case "damage":
		a.State, a.Message, a.Day = "booked", "A crew comes to look.", standin.Workday(now.AddDate(0, 0, 1))
	default:
		day := k.Request.Day
		if soonest := standin.Workday(now.AddDate(0, 0, 14)); day < soonest {
			day = soonest
		}
		a.State, a.Message, a.Day = "booked", "A crew is booked.", day
	}
	return a
}

// Forecast is a simulated forecast: the same place and day always get the same.
type Forecast struct {
	RainMM    float64 `json:"rainMM"`
	WindMS    float64 `json:"windMS"`
	TempC     float64 `json:"tempC"`
	Simulated bool    `json:"simulated"`
}

func (d *Desk) forecast(w http.ResponseWriter, r *http.Request) {
	q := r.URL.Query()
	day, err := time.Parse(time.DateOnly, q.Get("day"))
	if err != nil {
		standin.Refuse(w, http.StatusBadRequest, "give day as 2026-11-24")
		return
	}
	h := standin.Hash(q.Get("latitude") + "/" + q.Get("longitude") + "/" + q.Get("day"))
	// Colder in the northern winter, warmer in its summer; the rest is drawn.
	season := float64(day.YearDay()-15) / 365
	warm := 10 - 9*math.Cos(2*math.Pi*season)
	standin.Say(w, http.StatusOK, Forecast{RainMM: float64(h%7) * 0.8, WindMS: 1 + float64(h/7%12),
		TempC: math.Round((warm+float64(h/97%9)-4)*10) / 10, Simulated: true})
}
