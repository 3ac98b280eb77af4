package desk

import (
	"bytes"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func ask(t *testing.T, d *Desk, method, path string, body any) (int, map[string]any) {
	raw, err := json.Marshal(body)
	require.NoError(t, err)
	w := httptest.NewRecorder()
	d.ServeHTTP(w, httptest.NewRequest(method, path, bytes.NewReader(raw)))
	var out map[string]any
	if w.Body.Len() > 0 && w.Header().Get("Content-Type") == "application/json" {
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
	}
	return w.Code, out
}

// The same id again gets the same answer and is counted once.
func TestARequestIsTakenInOnce(t *testing.T) {
	d, err := New(Smooth, "")
	require.NoError(t, err)
	q := Request{ID: "a", Kind: "isolator", Number: "9"}
	status, first := ask(t, d, "POST", "/requests", q)
	assert.Equal(t, http.StatusAccepted, status)
	_, again := ask(t, d, "POST", "/requests", q)
	assert.Equal(t, first["reference"], again["reference"])
	assert.Equal(t, [2]int{1, 2}, [2]int{d.Received(), d.Calls("a")})
	_, told := ask(t, d, "GET", "/requests/a", nil)
	assert.Equal(t, "booked", told["state"])
	assert.Equal(t, true, told["simulated"], "it says what it is")
	status, _ = ask(t, d, "GET", "/requests/b", nil)
	assert.Equal(t, http.StatusNotFound, status)
	q = Request{ID: "c", Kind: "damage", Photos: map[string][]byte{"00": []byte("another picture")}}
	status, _ = ask(t, d, "POST", "/requests", q)
	assert.Equal(t, http.StatusBadRequest, status, "a photo that is not what its sum says")
	status, _ = ask(t, d, "POST", "/requests", map[string]int{"id": 1})
	assert.Equal(t, http.StatusBadRequest, status)
}

func TestTheDeskDecidesAfterAWhile(t *testing.T) {
	d, err := New(Refusing, "")
	require.NoError(t, err)
	now := time.Date(2026, 5, 1, 9, 0, 0, 0, time.UTC) // a Friday
	d.Now = func() time.Time { return now }
	ask(t, d, "POST", "/requests", Request{ID: "r", Kind: "damage", Number: "9"})
	_, told := ask(t, d, "GET", "/requests/r", nil)
	assert.Equal(t, "received", told["state"])
	now = now.Add(time.Minute)
	_, told = ask(t, d, "GET", "/requests/r", nil)
	assert.Equal(t, "refused", told["state"])
	d.SetMode(Smooth)
	ask(t, d, "POST", "/requests", Request{ID: "s", Kind: "damage", Number: "9"})
	_, told = ask(t, d, "GET", "/requests/s", nil)
	assert.Equal(t, [2]any{"booked", "2026-05-04"}, [2]any{told["state"], told["day"]}, "a crew comes on a working day")
	ask(t, d, "POST", "/requests", Request{ID: "n", Kind: "damage"})
	_, told = ask(t, d, "GET", "/requests/n", nil)
	assert.Equal(t, "refused", told["state"], "without a number of a supply")
	d.SetMode(Down)
	status, _ := ask(t, d, "GET", "/requests/s", nil)
	assert.Equal(t, http.StatusServiceUnavailable, status)
}

func TestTheFileKeepsWhatWasReceived(t *testing.T) {
	file := filepath.Join(t.TempDir(), "desk.json")
	d, err := New(Smooth, file)
	require.NoError(t, err)
	_, first := ask(t, d, "POST", "/requests", Request{ID: "a", Kind: "apply-load", Number: "9"})
	next, err := New(Smooth, file)
	require.NoError(t, err)
	_, told := ask(t, next, "GET", "/requests/a", nil)
	assert.Equal(t, [2]any{"agreed", first["reference"]}, [2]any{told["state"], told["reference"]})
}

func TestTheForecastIsTheSameForTheSameDay(t *testing.T) {
	d, err := New(Smooth, "")
	require.NoError(t, err)
	path := "/forecast?latitude=50.00&longitude=5.00&day=2026-01-20"
	status, a := ask(t, d, "GET", path, nil)
	require.Equal(t, http.StatusOK, status)
	_, b := ask(t, d, "GET", path, nil)
	assert.Equal(t, a, b)
	_, summer := ask(t, d, "GET", "/forecast?latitude=50.00&longitude=5.00&day=2026-07-20", nil)
	assert.Greater(t, summer["tempC"].(float64), a["tempC"].(float64))
	status, _ = ask(t, d, "GET", "/forecast?day=soon", nil)
	assert.Equal(t, http.StatusBadRequest, status)
}
