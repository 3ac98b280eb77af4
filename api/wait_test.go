package api_test

import "time"

// eventually bounds waiting for what another goroutine does; nothing is
// measured with it.
const (
	eventually = 60 * time.Second
	tick       = 20 * time.Millisecond
)
