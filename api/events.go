package api

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/store"
)

// hub passes on what PostgreSQL notifies to the browsers of the company it is
// of. One connection listens for the whole instance.
type hub struct {
	store *store.Store
	known *sessionCache
	mu    sync.Mutex
	subs  map[chan []byte]string // to the company
}

func newHub(st *store.Store, known *sessionCache) *hub {
	return &hub{store: st, known: known, subs: map[chan []byte]string{}}
}

// retry is the wait before listening again after the connection was lost.
const retry = time.Second

func (h *hub) run(ctx context.Context) {
	for ctx.Err() == nil {
		err := h.listen(ctx)
		if ctx.Err() != nil {
			return
		}
		slog.Warn("events: the database connection was lost, listening again", "err", err)
		select {
		case <-ctx.Done():
		case <-time.After(retry):
		}
	}
}

func (h *hub) listen(ctx context.Context) error {
	conn, err := h.store.Pool.Acquire(ctx)
	if err != nil {
		return err
	}
	// The connection is taken out of the pool: it listens for good.
	own := conn.Hijack()
	defer own.Close(context.WithoutCancel(ctx))
	if _, err := own.Exec(ctx, "LISTEN "+store.Channel); err != nil {
		return err
	}
	h.known.forget()
	h.send("", store.Event{What: "resync"}) // whatever was missed meanwhile
	for {
		n, err := own.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		var e store.Event
		if err := json.Unmarshal([]byte(n.Payload), &e); err != nil {
			slog.Warn("events: a notification is not ours", "err", err)
			continue
		}
		if e.What == "session" {
			h.known.forget()
			h.look()
			continue
		}
		h.send(e.Company, e)
	}
}

// send passes an event to a company's browsers, to all when company is empty.
// A browser that does not read is skipped: it asks again on the next event.
func (h *hub) send(company string, e store.Event) {
	body, err := json.Marshal(e)
	if err != nil {
		return
	}
	h.mu.Lock()
	defer h.mu.Unlock()
	for ch, of := range h.subs {
		if company == "" || of == company {
			select {
			case ch <- body:
			default:
			}
		}
	}
}

// look has every stream look whether its session still is: nil is no event.
func (h *hub) look() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for ch := range h.subs {
		select {
		case ch <- nil:
		default:
		}
	}
}

func (h *hub) join(company string) chan []byte {
	ch := make(chan []byte, 32)
	h.mu.Lock()
	h.subs[ch] = company
	h.mu.Unlock()
	return ch
}

func (h *hub) leave(ch chan []byte) {
	h.mu.Lock()
	delete(h.subs, ch)
	h.mu.Unlock()
}

// stillIn reports whether the session of a request still is.
func (s *Server) stillIn(c *gin.Context) bool {
	token, err := c.Cookie(s.sessions.Cookie.Name)
	if err != nil {
		return false
	}
	_, there, err := s.known.Find(token)
	return there || err != nil // where the database does not answer nobody is thrown out
}

// keepAlive keeps a quiet stream open through proxies.
const keepAlive = 20 * time.Second

// Events streams the changes in the company.
func (s *Server) Events(c *gin.Context) {
	p, _ := s.who(c)
	ch := s.hub.join(p.CompanyID)
	defer s.hub.leave(ch)
	h := c.Writer.Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("X-Accel-Buffering", "no")
	c.Writer.WriteHeader(http.StatusOK)
	fmt.Fprint(c.Writer, ": here\n\n")
	c.Writer.Flush()
	beat := time.NewTicker(keepAlive)
	defer beat.Stop()
	for {
		select {
		case <-c.Request.Context().Done():
			return
		case <-s.drained:
			return
		case body := <-ch:
			if body == nil {
				if !s.stillIn(c) {
					return
				}
				continue
			}
			fmt.Fprintf(c.Writer, "data: %s\n\n", body)
		case <-beat.C:
			fmt.Fprint(c.Writer, ": still here\n\n")
		}
		c.Writer.Flush()
	}
}
