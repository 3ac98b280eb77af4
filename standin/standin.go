// Package standin holds what the simulated outside parties share. Each of them is served by itself, over HTTP as a real one would be, and says
// in every answer that it is simulated.
package standin

import (
	"encoding/json"
	"fmt"
	"hash/fnv"
	"net/http"
	"os"
	"time"
)

// Say answers a value as JSON.
func Say(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(v) // the caller may be gone; there is nobody to tell
}

// Refuse answers why something is not taken.
func Refuse(w http.ResponseWriter, status int, message string) {
	Say(w, status, map[string]string{"message": message})
}

// Wait lets a time pass, or less where the caller has gone.
func Wait(r *http.Request, pause time.Duration) {
	select {
	case <-time.After(pause):
	case <-r.Context().Done():
	}
}

// Hash is a number that is always the same for the same text.
func Hash(s string) uint32 {
	h := fnv.New32a()
	_, _ = h.Write([]byte(s))
	return h.Sum32()
}

// Workday is a day, or the next on which people work, as 2026-01-31.
func Workday(t time.Time) string {
	for t.Weekday() == time.Saturday || t.Weekday() == time.Sunday {
		t = t.AddDate(0, 0, 1)
	}
	return t.Format(time.DateOnly)
}

// Read takes what a file keeps. One that is not there yet keeps nothing, as does one without a name.
func Read(file string, into any) error {
	if file == "" {
		return nil
	}
	raw, err := os.ReadFile(file)
	if os.IsNotExist(err) {
		return nil
	}
	if err != nil {
		return err
	}
	if err := json.Unmarshal(raw, into); err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	return nil
}

// Keep writes what a file is to keep; nothing without a name. That it cannot is said on standard error: a stand-in goes on without.
func Keep(file string, v any) {
	if file == "" {
		return
	}
	raw, err := json.Marshal(v)
	if err == nil {
		err = os.WriteFile(file, raw, 0o600)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "stand-in:", err)
	}
}
