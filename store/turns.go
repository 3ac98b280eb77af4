package store

import (
	"context"
	"sync"
)

// turns lets the writers of one job wait for each other without a connection: they would wait for its row in the
// database one by one anyway, and a job that somebody holds would take the whole pool with it.
type turns struct {
	mu sync.Mutex
	of map[string]*turn
}

type turn struct {
	slots chan struct{}
	n     int // who has one or waits for one
}

// writersMost is how many writers of one job have a connection at once.
const writersMost = 2

// take waits for a turn at a job; done gives it back.
func (t *turns) take(ctx context.Context, job string) (done func(), err error) {
	if t == nil {
		return func() {}, nil
	}
	t.mu.Lock()
	own := t.of[job]
	if own == nil {
		own = &turn{slots: make(chan struct{}, writersMost)}
		t.of[job] = own
	}
	own.n++
	t.mu.Unlock()
	leave := func() {
		t.mu.Lock()
		if own.n--; own.n == 0 {
			delete(t.of, job)
		}
		t.mu.Unlock()
	}
	select {
	case own.slots <- struct{}{}:
		return func() { <-own.slots; leave() }, nil
	case <-ctx.Done():
		leave()
		return nil, ctx.Err()
	}
}
