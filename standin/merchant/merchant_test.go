package merchant

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

// call asks the merchant something, and reads its answer where that is JSON.
func call(t *testing.T, m *Merchant, method, path string, body any) (int, Confirmation, string) {
	t.Helper()
	raw, err := json.Marshal(body)
	require.NoError(t, err)
	w := httptest.NewRecorder()
	m.ServeHTTP(w, httptest.NewRequest(method, path, bytes.NewReader(raw)))
	var c Confirmation
	text := w.Body.String()
	if w.Header().Get("Content-Type") == "application/json" {
		require.NoError(t, json.Unmarshal([]byte(text), &c), text)
	}
	return w.Code, c, text
}

func opened(t *testing.T, mode, file string) (*Merchant, *time.Time) {
	t.Helper()
	m, err := New(mode, file)
	require.NoError(t, err)
	now := time.Date(2026, 6, 5, 9, 0, 0, 0, time.UTC) // a Friday
	m.Now = func() time.Time { return now }
	return m, &now
}

var wanted = Order{Format: orderFormat, ID: "o1", Number: "J/1", On: "2026-06-05", Lines: []Line{
	{Product: "cable:flat-te-70:6", Name: "six", Count: 50, Unit: "m", Lengths: []float64{50}},
	{Product: "device:rcbo:A:B16:30", Name: "combined", Count: 10, Unit: "pcs"}, {Product: "cable:swa3-90:4", Name: "armoured", Count: 20, Unit: "m"},
	{Product: "moonlight", Name: "moonlight", Count: 1, Unit: "pcs"}}}

// An order is looked at, cut, delivered in parts, and each part comes with a note that can be read as a table too.
func TestAnOrderIsDeliveredInParts(t *testing.T) {
	m, now := opened(t, Normal, "")
	status, c, _ := call(t, m, "POST", "/orders", wanted)
	assert.Equal(t, http.StatusAccepted, status)
	assert.True(t, c.Simulated)
	assert.Equal(t, "received", c.State)
	*now = now.Add(m.Settle)
	_, c, _ = call(t, m, "GET", "/orders/o1", nil)
	require.Equal(t, "confirmed", c.State)
	require.Len(t, c.Lines, 4)
	assert.Equal(t, []float64{25, 25}, c.Lines[0].Pieces, "it cuts none longer")
	assert.Equal(t, []Promise{{6, "2026-06-08"}, {4, "2026-06-11"}}, c.Lines[1].Promises, "on working days")
	assert.Equal(t, [2]any{true, []string{"cable:swa3-90:6"}}, [2]any{c.Lines[2].Gone, c.Lines[2].Instead})
	assert.False(t, c.Lines[3].Sold)
	assert.Empty(t, c.Notes)
	*now = now.Add(m.Settle)
	_, c, _ = call(t, m, "GET", "/orders/o1", nil)
	require.Len(t, c.Notes, 1)
	assert.Equal(t, "confirmed", c.State)
	_, _, text := call(t, m, "GET", "/orders/o1/notes/"+c.Notes[0].Number+".csv", nil)
	assert.Contains(t, text, "cable:flat-te-70:6,six,50,m,25 + 25,")
	assert.Contains(t, text, "device:rcbo:A:B16:30,combined,6,pcs,,")
	assert.NotContains(t, text, "armoured")
	*now = now.Add(2 * m.Settle)
	_, c, _ = call(t, m, "GET", "/orders/o1", nil)
	require.Len(t, c.Notes, 2)
	assert.Equal(t, []NoteLine{{Product: "device:rcbo:A:B16:30", Name: "combined", Count: 4, Unit: "pcs", Lengths: []float64{}}}, c.Notes[1].Lines)
	assert.Equal(t, "delivered", c.State)
	// What was sold is not there for the next.
	again := wanted
	again.ID = ""
	_, c, _ = call(t, m, "POST", "/enquiries", again)
	assert.Equal(t, [2]float64{0, 50}, [2]float64{c.Lines[1].Stock, c.Lines[0].Stock})
	assert.Equal(t, 1, m.Received())
}

// The same order is taken in once, however often it comes, and over a restart.
func TestAnOrderIsTakenInOnce(t *testing.T) {
	file := filepath.Join(t.TempDir(), "merchant.json")
	m, _ := opened(t, Smooth, file)
	_, first, _ := call(t, m, "POST", "/orders", wanted)
	next, _ := opened(t, Smooth, file)
	_, again, _ := call(t, next, "POST", "/orders", wanted)
	assert.Equal(t, first.Reference, again.Reference)
	_, c, _ := call(t, next, "GET", "/orders/o1", nil)
	assert.Equal(t, [2]any{"delivered", 4}, [2]any{c.State, len(c.Notes[0].Lines)}, "everything, at once")
	_, c, _ = call(t, next, "GET", "/orders/o1", nil)
	assert.Len(t, c.Notes, 1)
}

func TestTheMerchantsMoods(t *testing.T) {
	said := func(mode string) Confirmation {
		m, now := opened(t, mode, "")
		call(t, m, "POST", "/orders", wanted)
		*now = now.Add(time.Hour)
		_, c, _ := call(t, m, "GET", "/orders/o1", nil)
		return c
	}
	assert.Equal(t, []float64{25, 25}, said(Short).Lines[0].Pieces)
	half := said(Partial)
	assert.Equal(t, []float64{25, 25}, []float64{half.Lines[0].Promises[0].Count, half.Lines[0].Promises[1].Count})
	for _, l := range said(Gone).Lines {
		assert.True(t, l.Gone)
		assert.Empty(t, l.Promises)
	}
	assert.Equal(t, "refused", said(Refusing).State)
	m, _ := opened(t, Down, "")
	status, _, _ := call(t, m, "POST", "/orders", wanted)
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Equal(t, 0, m.Received())
}

func TestWhatIsNoOrderIsRefused(t *testing.T) {
	m, _ := opened(t, Smooth, "")
	none, nameless, nothing := wanted, wanted, wanted
	none.Format, nameless.ID, nothing.Lines = "other/1", "", nil
	for _, body := range []any{1, none, nameless, nothing, Order{Format: orderFormat, ID: "x", Lines: []Line{{Product: "clip", Count: 0}}}} {
		status, _, text := call(t, m, "POST", "/orders", body)
		assert.Equal(t, http.StatusBadRequest, status, text)
	}
	for _, path := range []string{"/orders/x", "/orders/x/notes/1.csv"} {
		status, _, _ := call(t, m, "GET", path, nil)
		assert.Equal(t, http.StatusNotFound, status)
	}
	assert.Equal(t, 0, m.Received())
}

// A foot of what is sold by the metre costs what a foot of it costs.
func TestFeetArePricedAsFeet(t *testing.T) {
	m, _ := opened(t, Normal, "")
	_, c, _ := call(t, m, "POST", "/enquiries", Order{Format: orderFormat, Lines: []Line{{Product: "cable:nm-2:2.08", Count: 1200, Unit: "ft"}}})
	assert.InDelta(t, 1.3*0.3048, c.Lines[0].Price, 1e-3)
	assert.InDelta(t, 984, c.Lines[0].Stock, 0, "300 m")
}
