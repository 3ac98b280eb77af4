package api

import (
	"context"
	"runtime"
	"sync"

	"github.com/gin-gonic/gin"
)

// slots are how many at once may do something.
type slots chan struct{}

// heavyBody is from where a body costs more than most, in bytes: the largest part of a whole house has half of it.
const heavyBody = 64 << 10

// newHeavy are the turns of what keeps a processor busy for longer than an answer may take: a picture unfolded, a file imported, a
// body of more than [heavyBody]. One processor is always left for what is quick.
func newHeavy() slots { return make(slots, max(1, runtime.GOMAXPROCS(0)-1)) }

// take waits for one, or until whoever asked has gone; done gives it back.
func (s slots) take(ctx context.Context) (done func(), err error) {
	select {
	case s <- struct{}{}:
		return func() { <-s }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// inTurn answers a request whose body was read, so that whoever sends slowly holds nobody up, in its turn where it is heavy.
func (s *Server) inTurn(c *gin.Context) {
	if c.Request.ContentLength <= heavyBody && c.FullPath() != importPath && c.FullPath() != photosPath {
		return
	}
	done, err := s.heavy.take(c)
	if err != nil {
		fail(c, err)
		return
	}
	over := sync.OnceFunc(done)
	defer over()
	c.Set(turnKey, over)
	c.Next()
}

const turnKey = "turn"

// turnOver gives the turn of a request back, where it has one, before it is answered: what is left to do waits for others, as for a
// job that somebody holds, and keeps no processor busy.
func turnOver(c *gin.Context) {
	if over, ok := c.Get(turnKey); ok {
		over.(func())()
	}
}
