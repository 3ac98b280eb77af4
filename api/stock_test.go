package api_test

import (
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/materials"
)

// shelf is what of the stock a job is offered.
func (c *client) shelf(id string) (out api.JobStock) {
	c.Helper()
	c.do("GET", "/api/jobs/"+id+"/stock", nil).into(c.T, &out)
	return out
}

// stocked is all that lies in the company's stock.
func (c *client) stocked() []materials.Kept {
	c.Helper()
	var out api.Stocked
	c.do("GET", "/api/stock", nil).into(c.T, &out)
	return out.Items
}

// What one job has left is counted into the stock, each length by itself, and offered to the next that is short of it: with the runs that it is long
// enough for and what is bought less. What is taken is gone for others, is not ordered, and no undo brings it back.
func TestWhatIsLeftOverServesTheNextJob(t *testing.T) {
	w := serve(t)
	c, jana := w.as("tobias"), w.as("jana")
	for practice, x := range map[string]struct{ from, to, product string }{"iec230": {"PW-2046", "PW-2052", "cable:swa3-90:10"},
		"split120": {"PW-2054", "PW-2058", "cable:nm-2:3.31"}} {
		t.Run(practice, func(t *testing.T) {
			to := c.job(x.to)
			short := lineOf(t, to, x.product)
			require.Positive(t, short.Short)
			from := c.job(x.from)
			i := 0 // something of the first job that comes in lengths
			for i < len(from.View.Take.Lines) && !from.View.Take.Lines[i].ByLength {
				i++
			}
			own := from.View.Take.Lines[i]
			long := own.Need + 40
			own = c.stock(x.from, own.Key, install.Stock{Delivered: long, Lengths: strconv.FormatFloat(long, 'f', -1, 64)})
			from = c.read(from.Id)
			var surplus materials.Surplus
			for _, s := range c.shelf(from.Id).Surplus {
				if s.Product == own.Key {
					surplus = s
				}
			}
			assert.InDelta(t, 40, surplus.Count, 0.3)
			assert.NotEmpty(t, surplus.Lengths, "of its pieces")
			path := "/api/jobs/" + from.Id + "/stock/leave"
			for field, body := range map[string]put{"count": {"product": own.Key, "count": 0, "lengths": "1000", "place": "Van 2"},
				"lengths": {"product": own.Key, "count": 4, "lengths": "", "place": "Van 2"}, "place": {"product": own.Key, "count": 0,
					"lengths": "4", "place": " "},
				"product": {"product": "ghost", "count": 1, "lengths": "", "place": "Van 2"}} {
				a := c.do("POST", path, body)
				assert.Equal(t, http.StatusUnprocessableEntity, a.status, a.text)
				assert.Contains(t, a.text, `"field":"`+field+`"`)
			}
			before := len(c.stocked())
			a := c.do("POST", path, put{"product": own.Key, "count": 0, "lengths": "30 + 8.5", "place": "Van 2"})
			require.Equal(t, 200, a.status, a.text)
			assert.Len(t, c.stocked(), before+2, "each length by itself")
			left := lineOf(t, c.read(from.Id), own.Key)
			assert.InDelta(t, 38.5, left.Left, 1e-6)
			assert.Empty(t, left.Trouble, "what is needed is still there")
			var used struct {
				Used struct {
					Parts []struct {
						Key  string
						Left float64
					}
				}
			}
			jana.do("GET", "/api/jobs/"+from.Id+"/quote", nil).into(t, &used)
			for _, p := range used.Used.Parts {
				if p.Key == own.Key {
					assert.InDelta(t, 38.5, p.Left, 1e-6, "the job did not use it")
				}
			}

			// The next job is short of another product: that one lies there too, as somebody put it there.
			for _, length := range []float64{short.Need + 2, 0.5} {
				a = c.do("POST", "/api/stock", put{"product": x.product, "name": short.Name, "unit": short.Unit, "byLength": true, "count": length,
					"place": "Yard"})
				require.Equal(t, 200, a.status, a.text)
			}
			offers := slices.DeleteFunc(c.shelf(to.Id).Offers, func(o materials.OfStock) bool {
				return o.Kept.Product != x.product || o.Kept.Place != "Yard"
			})
			require.Len(t, offers, 2)
			assert.True(t, offers[0].Does, offers[0].Says)
			named := false
			for _, a := range short.Asks {
				named = named || a.For != "" && strings.Contains(offers[0].Says, a.For)
			}
			assert.True(t, named, offers[0].Says)
			assert.False(t, offers[1].Does, offers[1].Says)
			assert.Contains(t, offers[1].Says, "too short")
			take := "/api/jobs/" + to.Id + "/stock/take"
			assert.Equal(t, http.StatusNotFound, c.do("POST", take, put{"item": "none", "count": 1}).status)
			a = c.do("POST", take, put{"item": offers[0].Kept.ID, "count": 0}, "Idempotency-Key", "take-once-"+practice)
			require.Equal(t, 200, a.status, a.text)
			a = c.do("POST", take, put{"item": offers[0].Kept.ID, "count": 0}, "Idempotency-Key", "take-once-"+practice)
			require.Equal(t, 200, a.status, "pressed twice")
			assert.Equal(t, http.StatusNotFound, jana.do("POST", take, put{"item": offers[0].Kept.ID, "count": 0}).status, "it is there once")
			to = c.read(to.Id)
			got := lineOf(t, to, x.product)
			assert.InDelta(t, short.Need+2, got.Taken, 1e-6)
			assert.Zero(t, got.Short)
			assert.Empty(t, got.Trouble)
			for _, l := range c.shop(to.Id).Open.Lines {
				assert.NotEqual(t, x.product, l.Product, "it is not bought as well")
			}
			assert.NotEqual(t, 200, c.do("POST", "/api/jobs/"+to.Id+"/undo", put{}).status)
			assert.InDelta(t, short.Need+2, lineOf(t, c.read(to.Id), x.product).Taken, 1e-6)
		})
	}
}

// The stock is put right by whoever may, keeps what it cannot be, and goes out as a table.
func TestTheStockIsPutRight(t *testing.T) {
	w := serve(t)
	dot, remy := w.as("dot"), w.as("remy")
	add := func(c *client, body put) answer { return c.do("POST", "/api/stock", body) }
	good := put{"product": "clip:flat:8", "name": "Clips", "unit": "pcs", "byLength": false, "count": 120, "place": "Van 1"}
	assert.Equal(t, http.StatusForbidden, add(remy, good).status)
	for field, v := range map[string]any{"count": -1, "place": "", "name": ""} {
		bad := with(maps.Clone(good), field, v)
		a := add(dot, bad)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, a.text)
		assert.Contains(t, a.text, field)
	}
	require.Equal(t, 200, add(dot, good).status)
	mine := func(k materials.Kept) bool { return k.Product == "clip:flat:8" }
	all := slices.DeleteFunc(dot.stocked(), func(k materials.Kept) bool { return !mine(k) })
	require.Len(t, all, 1)
	v := dot.job("PW-2052")
	offers := slices.DeleteFunc(dot.shelf(v.Id).Offers, func(o materials.OfStock) bool { return !mine(o.Kept) })
	require.Len(t, offers, 1)
	assert.InDelta(t, min(120, lineOf(t, v, "clip:flat:8").Short), offers[0].Take, 0)
	open := func() float64 {
		for _, l := range dot.shop(v.Id).Open.Lines {
			if l.Product == "clip:flat:8" {
				return l.Count
			}
		}
		return 0
	}
	bought := open()
	a := dot.do("POST", "/api/jobs/"+v.Id+"/stock/take", put{"item": all[0].ID, "count": 121})
	assert.Equal(t, http.StatusUnprocessableEntity, a.status, a.text)
	a = dot.do("POST", "/api/jobs/"+v.Id+"/stock/take", put{"item": all[0].ID, "count": 10})
	require.Equal(t, 200, a.status, a.text)
	assert.InDelta(t, bought-10, open(), 1e-6, "what is taken is not bought")
	assert.InDelta(t, 110, dot.stocked()[slices.IndexFunc(dot.stocked(), mine)].Count, 0)
	require.Equal(t, 200, dot.do("POST", "/api/stock/"+all[0].ID, put{"count": 90, "place": "Van 3"}).status)
	csv := dot.do("GET", "/api/tables/stock", nil)
	assert.Contains(t, csv.text, "clip:flat:8,Clips,90,pcs,Van 3,,Dot Farley,")
	assert.Equal(t, "PK", dot.do("GET", "/api/tables/stock?format=xlsx", nil).text[:2])
	require.Equal(t, 200, dot.do("POST", "/api/stock/"+all[0].ID, put{"count": 0, "place": "Van 3"}).status)
	assert.False(t, slices.ContainsFunc(dot.stocked(), mine))
	assert.Equal(t, http.StatusNotFound, dot.do("POST", "/api/stock/"+all[0].ID, put{"count": 5, "place": "Van 3"}).status)
}

// The office keeps the lists of the company, and changes nothing of what every new job begins with.
func TestTheOfficeKeepsTheLists(t *testing.T) {
	w := serve(t)
	dot := w.as("dot")
	var k map[string]any
	dot.do("GET", "/api/company", nil).into(t, &k)
	k["prices"].([]any)[0].(map[string]any)["packs"] = []any{20, 40}
	a := dot.do("PUT", "/api/company", k)
	require.Equal(t, 200, a.status, a.text)
	a.into(t, &k)
	assert.Equal(t, []any{20.0, 40.0}, k["prices"].([]any)[0].(map[string]any)["packs"])
	k["schools"].(map[string]any)["options"] = map[string]any{"anything": "else"}
	assert.Equal(t, http.StatusForbidden, dot.do("PUT", "/api/company", k).status)
	k["schools"].(map[string]any)["options"], k["prices"].([]any)[0].(map[string]any)["packs"] = map[string]any{}, []any{0}
	a = dot.do("PUT", "/api/company", k)
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, a.text, "packs")
}
