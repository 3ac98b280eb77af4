package api

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"log/slog"
	"net/http"
	"time"

	"arvelt/store"
)

// wire is how somebody outside is reached over HTTP.
type wire struct {
	url    string // empty when nobody is connected
	who    string // in what is said of it
	client *http.Client
	// idle is the pause between looks, poll between questions after an answer, first after the first try that failed.
	idle, poll, first time.Duration
}

// newWire is the wire to somebody, at a pace; that of a second where it is 0.
func newWire(url, who string, pace time.Duration) *wire {
	if pace == 0 {
		pace = time.Second
	}
	return &wire{url: url, who: who, client: &http.Client{Timeout: 10 * pace, CheckRedirect: stay}, idle: pace, poll: 3 * pace, first: 2 * pace}
}

// stay follows no redirect: what is sent holds the customer's facts and goes where it was set to go.
func stay(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }

// run works off what is due, round by round, until it is stopped.
func (w *wire) run(ctx context.Context, round func(context.Context) (worked bool, err error)) {
	if w.url == "" {
		return
	}
	for {
		worked, err := round(ctx)
		if err != nil && ctx.Err() == nil {
			slog.Warn(w.who, "err", err)
		}
		if worked && err == nil {
			continue
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(w.idle):
		}
	}
}

// badMost is how many answers that cannot be kept are taken for a passing fault.
const badMost = 3

// bad keeps why an answer cannot be kept, and after the third asks for a call.
func (w *wire) bad(ctx context.Context, st *store.Store, d *store.Sending, why, call string) error {
	trouble := w.who + "'s answer cannot be kept: " + why
	if d.Tries >= badMost {
		trouble += ". " + call
	}
	return st.Later(ctx, d, trouble, w.pause(d.Tries))
}

// pauseMost is the longest that anything waits for its next try.
const pauseMost = 15 * time.Minute

// pause grows from a few seconds to a quarter of an hour.
func (w *wire) pause(tries int) time.Duration {
	return min(w.first<<min(max(tries-1, 0), 12), pauseMost)
}

// mostAnswer is the longest answer that is read, in bytes.
const mostAnswer = 1 << 20

// call asks, and reads the answer where it is a good one.
func (w *wire) call(ctx context.Context, method, path string, body []byte, into any) (status int, err error) {
	r, err := http.NewRequestWithContext(ctx, method, w.url+path, bytes.NewReader(body))
	if err != nil {
		return 0, errors.New(w.who + "'s address is not understood")
	}
	r.Header.Set("Content-Type", "application/json")
	answer, err := w.client.Do(r)
	if err != nil {
		return 0, errors.New(w.who + " does not answer")
	}
	defer func() { _ = answer.Body.Close() }()
	raw, err := io.ReadAll(io.LimitReader(answer.Body, mostAnswer))
	if err != nil {
		return 0, errors.New(w.who + "'s answer broke off")
	}
	if answer.StatusCode < http.StatusMultipleChoices {
		if err := json.Unmarshal(raw, into); err != nil {
			return 0, errors.New(w.who + "'s answer is not understood")
		}
	}
	return answer.StatusCode, nil
}
