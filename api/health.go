package api

import (
	"context"
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
)

// heartbeat is whether the database takes a write, looked at no more than once a second whoever asks.
type heartbeat struct {
	mu  sync.Mutex
	at  time.Time
	err error
}

// How long the look may take, and how long what it found is good.
const (
	beatMost = 800 * time.Millisecond
	beatGood = time.Second
)

// look writes to the database by a connection of its own: neither a full pool nor a lock of a job holds it up, and a disk that
// refuses is found.
func (h *heartbeat) look(s *Server) error {
	h.mu.Lock()
	defer h.mu.Unlock()
	if time.Since(h.at) < beatGood {
		return h.err
	}
	// Not the context of who asks: what is found is told to others too.
	ctx, stop := context.WithTimeout(context.Background(), beatMost)
	defer stop()
	h.err = s.store.Beat(ctx)
	h.at = time.Now()
	return h.err
}

// Health answers within a second that the server lives, and whether it is ready: that its database takes a write.
func (s *Server) Health(c *gin.Context) {
	if err := s.beat.look(s); err != nil {
		problem(c, Problem{Status: http.StatusServiceUnavailable, Title: "Arvelt lives and is not ready: its database takes no writes."})
		return
	}
	reply(c, Health{Status: "ready", Version: Version})
}
