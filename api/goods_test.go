package api_test

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/outage"
	"arvelt/core/plan"
	"arvelt/core/whole"
	"arvelt/core/working"
)

// lineOf is the line of a product on a job's order list.
func lineOf(t testing.TB, v api.JobView, product string) materials.Line {
	t.Helper()
	i := slices.IndexFunc(v.View.Take.Lines, func(l materials.Line) bool { return l.Key == product })
	require.GreaterOrEqual(t, i, 0, product)
	return v.View.Take.Lines[i]
}

// The order list covers the supply, the ground and the boards, each product once and traced to what asks for it; while something of the
// arrangement is not known, it says so, and the parts of the outage are not complete.
func TestTheOrderListCoversTheWholeModel(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for ref, products := range map[string][]string{
		"PW-2038": {"isolator:100", "service:cu:25", "service-earth:16", "supply-fixing:plug", "marking:supply", "cable:swa3-90:10", "chart"},
		"PW-2054": {"meter-base:200", "disconnect:200", "panel:30:200", "service-cable:al:4/0", "bond-jumper", "electrode:rod:2.438:15.88", "bond:clamp",
			"device:spd:2", "lead:line:5.261", "conduit:emt:2", "marking:disconnect", "compound"},
		"PW-2050": {"duct:stick:50.8", "duct:bend:50.8", "duct:adapter:50.8", "duct:ring:50.8", "duct:bushing:50.8", "duct:cement", "duct:ballast",
			"duct:string",
			"warning-tape", "electrode:clamp:15.88", "switch:two-way", "point:socket-2"},
		"PW-2052": {"board:6:63", "busbar:63:12", "busbar-cap:63", "device:spd:2:275:1.4", "device:rccb:A:63:30", "device:mcb:B16:6"},
	} {
		t.Run(ref, func(t *testing.T) {
			v := c.job(ref)
			seen, asks := map[string]bool{}, map[string]bool{}
			for _, l := range v.View.Take.Lines {
				assert.False(t, seen[l.Key], "%s stands twice", l.Key)
				seen[l.Key] = true
				need := 0.0
				for _, a := range l.Asks {
					assert.False(t, asks[a.Key], "%s asks twice under one key", a.Key)
					asks[a.Key] = true
					assert.NotEmpty(t, a.Rule, "%s says no rule", a.Key)
					if a.Brought == nil {
						need += a.Need
					}
				}
				assert.InDelta(t, need, l.Need, 1e-6, l.Key)
				assert.GreaterOrEqual(t, l.Order+1e-9, l.Need, l.Key)
				assert.True(t, l.Group != materials.WorkGroup || strings.HasPrefix(l.Key, "work:"), "%s is of no family", l.Key)
			}
			for _, p := range products {
				assert.True(t, seen[p], "%s is not on the list", p)
			}
			steps := map[string]bool{}
			for _, task := range v.View.Tasks {
				steps[task.ID] = true
			}
			for _, l := range v.View.Take.Lines {
				for _, a := range l.Asks {
					for _, step := range a.Steps {
						assert.True(t, steps[step], "%s: no step %s on the plan", a.Key, step)
					}
				}
			}
			for _, g := range v.View.Take.Gaps { // of a house that was walked and not designed
				assert.Contains(t, g.What, "on no circuit yet", "%s: nothing else is missing", ref)
			}
			assert.Equal(t, ref == "PW-2050", len(v.View.Take.Gaps) == 1)
		})
	}
	for ref, enclosure := range map[string]string{"PW-2038": "isolator", "PW-2054": "panel"} {
		v := c.job(ref)
		require.NotNil(t, v.View.Take.Total, "%s: each line has a price", ref)
		chain := v.View.Job.Chain
		e := chain.Enclosure(enclosure)
		e.Feed.LengthM, e.Mounted = install.Fact{}, ""
		require.Equal(t, 200, c.part(v, "chain", chain).status)
		v = c.job(ref)
		said := gapsOf(v)
		assert.Contains(t, said, e.Name+": not known yet: how long its conductors are")
		assert.Contains(t, said, "what it is fixed to")
		assert.Nil(t, v.View.Take.Total)
		held := ""
		for _, h := range v.View.State.Holds {
			held += h.What + "\n"
		}
		assert.Contains(t, held, "Not on the order list: "+e.Name)
		m := v.View.Job.Materials
		m.Lines = map[string]install.Stock{}
		for _, l := range v.View.Take.Lines {
			m.Lines[l.Key] = install.Stock{Ordered: l.Free, Delivered: l.Order, Lengths: map[bool]string{true: fmt.Sprint(l.Order)}[l.ByLength && l.Order > 0]}
		}
		require.Equal(t, 200, c.part(c.job(ref), "materials", m).status)
		plan := c.dayOf(v.Id)
		item := plan.Item(outage.ItemParts)
		require.NotNil(t, item)
		assert.Equal(t, working.Unknown, item.State, item.Summary)
		assert.Contains(t, item.Summary, "not on the order list yet: "+e.Name)
	}
}

func sent(raw []byte) put { return put{"content": base64.StdEncoding.EncodeToString(raw)} }

// A note of all that is on order is read in one go, counted and booked in; what came short closes the steps that wait for it and no others, and
// is claimed. What cannot be read is named by row and column, and nothing of it is taken.
func TestADeliveryIsReadCountedAndBookedIn(t *testing.T) {
	w := serve(t)
	c := w.as("dot")
	for practice, x := range map[string]struct{ ref, product, step, other string }{
		"iec230":   {"PW-2052", "cable:flat-te-70:6", "c6-cable", "c1-cable"},
		"split120": {"PW-2054", "service-cable:al:4/0", "outage-fit:panel", "outage-fit:outside"},
	} {
		t.Run(practice, func(t *testing.T) {
			v := c.job(x.ref)
			note := bytes.NewBufferString("# number: D-1\n# merchant: Quay Electrical\n# date: 2026-11-30\nproduct;count;unit;lengths;remark\n")
			for _, l := range v.View.Take.Lines {
				lengths := ""
				if l.ByLength {
					lengths = strings.ReplaceAll(fmt.Sprint(l.Order), ".", ",")
				}
				fmt.Fprintf(note, "%s;%s;%s;%s;\n", l.Key, strings.ReplaceAll(fmt.Sprint(l.Order), ".", ","), l.Unit, lengths)
			}
			path := "/api/jobs/" + v.Id + "/deliveries"
			a := c.do("POST", path+"/read", sent(append([]byte("\xef\xbb\xbf"), note.Bytes()...)))
			require.Equal(t, 200, a.status, a.text)
			var read materials.Note
			a.into(t, &read)
			require.Len(t, read.Lines, len(v.View.Take.Lines))
			assert.Equal(t, "Quay Electrical", read.Merchant)
			bad := c.do("POST", path+"/read", sent([]byte(note.String()+"ghost;1;pcs;;\nlabels;many;pcs;;\n")))
			assert.Equal(t, http.StatusUnprocessableEntity, bad.status)
			last := len(v.View.Take.Lines) + 5
			assert.Contains(t, bad.text, fmt.Sprintf("row %d, product", last))
			assert.Contains(t, bad.text, fmt.Sprintf("row %d, count", last+1))
			assert.Empty(t, c.job(x.ref).View.Job.Materials.Deliveries)

			d := install.Delivery{ID: "d-1", Number: read.Number, Merchant: read.Merchant, On: read.On, CountedBy: "Dot Farley"}
			for _, l := range read.Lines {
				line := install.DeliveryLine{Product: l.Product, Name: l.Name, Said: l.Said, Counted: l.Said, Lengths: l.Lengths}
				if l.Product == x.product {
					line.Counted, line.Lengths, line.Remark = 5, "5", "cut wrong"
				}
				d.Lines = append(d.Lines, line)
			}
			whole := d
			whole.CountedBy = ""
			assert.Equal(t, 422, c.do("POST", path, whole).status, "somebody counts")
			a = c.do("POST", path, d)
			require.Equal(t, 200, a.status, a.text)
			v = c.job(x.ref)
			l := lineOf(t, v, x.product)
			assert.Contains(t, l.Trouble, "5\u00a0"+l.Unit)
			assert.Contains(t, l.Trouble, "Do not travel for")
			assert.Contains(t, taskOf(t, v, x.step).Closed, "does not suffice for it")
			short, others := 0, 0
			for _, s := range v.View.Take.Stops {
				if s.Step == x.step {
					short++
				}
				if s.Step == x.other {
					others++
				}
			}
			assert.Equal(t, [2]int{1, 0}, [2]int{short, others})
			assert.Equal(t, 422, c.do("POST", path, d).status, "the same note again")

			var sheet api.GoodsSheet
			c.do("GET", "/api/jobs/"+v.Id+"/goods", nil).into(t, &sheet)
			require.Len(t, sheet.Claims, 1)
			assert.Contains(t, sheet.Claims[0].Text, "5\u00a0"+l.Unit+" came. cut wrong")
			shown := c.cuts(v.Id)
			assert.NotEmpty(t, shown[len(shown)-1].Plans)
			require.Equal(t, 200, c.do("POST", "/api/jobs/"+v.Id+"/undo", put{"command": "", "free": false}).status)
			assert.Empty(t, c.job(x.ref).View.Job.Materials.Deliveries, "one command, taken back whole")
		})
	}
}

// cuts are the cut plans of a job as they were shown, those that stay the last.
func (c *client) cuts(id string) (shown []api.CutsSheet) {
	c.T.Helper()
	a := c.do("GET", "/api/jobs/"+id+"/cuts", nil)
	require.Equal(c.T, 200, a.status, a.text)
	for line := range strings.Lines(a.text) {
		var x api.CutsSheet
		require.NoError(c.T, json.Unmarshal([]byte(line), &x))
		shown = append(shown, x)
	}
	require.NotEmpty(c.T, shown)
	assert.True(c.T, shown[len(shown)-1].Done)
	return shown
}

// While cut plans are looked for the best so far is shown; whoever leaves stops the search, and the next who asks has the whole of it.
func TestCutPlansAreShownAsTheyAreFound(t *testing.T) {
	w := serveOn(t, api.Options{CutsShown: 1})
	c, ines := w.as("tobias"), w.as("ines")
	var company api.Company
	ines.do("GET", "/api/company", nil).into(t, &company)
	list := []byte("key,price,packs\ncable:flat-te-70:2.5,1.1,7 | 31 | 305\n") // lengths by which no plan is proved at sight
	a := ines.do("POST", "/api/prices/import", put{"content": base64.StdEncoding.EncodeToString(list), "take": true, "version": company.Version})
	require.Equal(t, 200, a.status, a.text)
	v := c.taken("PW-9990", "iec230", "PW-2052", wholeWalk230)
	shown := c.cuts(v.Id)
	require.Greater(t, len(shown), 1, "it is shown before it is done")
	last := shown[len(shown)-1]
	bought := map[string]float64{}
	for i, x := range shown {
		assert.Equal(t, i == len(shown)-1, x.Done)
		assert.Len(t, x.Plans, len(last.Plans), "all of them, that which is not looked at yet by its first plan")
		if i > 0 {
			assert.GreaterOrEqual(t, x.At, shown[i-1].At)
		}
		for _, p := range x.Plans {
			if was, ok := bought[p.Product]; ok {
				assert.LessOrEqual(t, p.Bought, was, "%s only becomes better", p.Product)
			}
			bought[p.Product] = p.Bought
			assert.LessOrEqual(t, p.Bound, p.Bought)
			cuts := 0
			for _, b := range p.Bars {
				cuts += len(b.Cuts)
			}
			assert.True(t, cuts > 0 || p.Lacks != "", "the best so far is a plan that one can cut by")
		}
	}
	assert.Equal(t, []api.CutsSheet{last}, c.cuts(v.Id), "it is not looked for again")

	goods := v.View.Job.Materials
	goods.WastagePc += 3
	require.Equal(t, 200, c.part(c.read(v.Id), "materials", goods).status)
	ctx, leave := context.WithCancel(t.Context())
	req, err := http.NewRequestWithContext(ctx, "GET", c.url+"/api/jobs/"+v.Id+"/cuts", nil)
	require.NoError(t, err)
	req.Header.Set("Cookie", c.cookie)
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	var first api.CutsSheet
	require.NoError(t, json.NewDecoder(res.Body).Decode(&first))
	assert.False(t, first.Done)
	leave()
	whole := c.cuts(v.Id)
	assert.True(t, whole[len(whole)-1].Done, "what was stopped is not taken for the whole")
	for i, p := range whole[len(whole)-1].Plans {
		assert.LessOrEqual(t, p.Bought, first.Plans[i].Bought)
	}
}

// The step for which a cable came too short is not to be ticked, with the reason and where that is put right.
func TestAShortCableClosesItsStep(t *testing.T) {
	c := serve(t).as("tobias")
	c.stock("PW-2052", "cable:flat-te-70:6", install.Stock{Ordered: 50, Delivered: 10, Lengths: "10"})
	v := c.job("PW-2052")
	task := taskOf(t, v, "c6-cable")
	assert.Contains(t, task.Closed, "What came of 6 mm² flat twin and earth, 70 °C does not suffice for it.")
	require.NotNil(t, task.ClosedAt)
	assert.Equal(t, working.MaterialsSheet, task.ClosedAt.Sheet)
	for _, before := range []string{"c6-mark", "c6-core"} {
		c.made(v.Id, ticks(before, true))
	}
	c.held(v.Id, ticks("c6-cable", true), 409, "does not suffice")
	assert.NotContains(t, taskOf(t, v, "c7-cable").Closed, "does not suffice")
	holds := ""
	for _, h := range v.View.State.Holds {
		holds += h.What + "\n"
	}
	assert.Contains(t, holds, "Do not travel for Cooker")
}

// What the client supplies is not ordered; when it came and does not do, the step that fits it is closed.
func TestWhatTheClientSuppliesIsHeldToWhatItMustDo(t *testing.T) {
	c := serve(t).as("tobias")
	for _, x := range []struct{ ref, product, step string }{{"PW-2054", "charge-point:Ambrel P9", "c1-point"}, {"PW-2038", "appliance:Solvig 6", "c1-point"}} {
		v := c.job(x.ref)
		was := lineOf(t, v, x.product)
		require.InDelta(t, 1, was.Order, 0)
		bring := func(b install.Brought) api.JobView {
			m := c.job(x.ref).View.Job.Materials
			m.Brought = map[string]install.Brought{was.Asks[0].Key: b}
			a := c.part(c.job(x.ref), "materials", m)
			require.Equal(t, 200, a.status, a.text)
			return c.job(x.ref)
		}
		total := *v.View.Take.Total
		v = bring(install.Brought{By: install.ByClient, Expected: "2026-12-09"})
		l := lineOf(t, v, x.product)
		assert.Equal(t, [2]float64{0, 1}, [2]float64{l.Order, l.Short})
		assert.InDelta(t, total-*was.Price, *v.View.Take.Total, 0.001)
		no := false
		v = bring(install.Brought{By: install.ByClient, Arrived: "2026-12-09", Suitable: &no, Note: "has no residual detection"})
		assert.Contains(t, strings.Join(v.View.Take.Troubles, ";"), "not suitable: has no residual detection")
		stops := v.View.Take.Stops
		require.Len(t, stops, 1)
		assert.Equal(t, x.step, stops[0].Step)
		does := true
		v = bring(install.Brought{By: install.ByClient, Arrived: "2026-12-09", Suitable: &does, Warranty: install.ByClient})
		for path, says := range map[string]string{"/pack": "the client answers for it if it fails",
			"/quote.pdf": "the part itself; fitting it is in the price, by the client"} {
			assert.Contains(t, strings.Join(strings.Fields(c.pdf("/api/jobs/"+v.Id+path)), " "), says, path)
		}
		m := v.View.Job.Materials
		m.Brought = map[string]install.Brought{was.Asks[0].Key: {By: "the cat"}}
		a := c.part(v, "materials", m)
		assert.Equal(t, 422, a.status)
		assert.Contains(t, a.text, "us, client, others, stock, there")
	}
}

// The company's list goes out and comes back, as CSV and as a workbook: first what would change, then the change; never half of it.
func TestThePriceListIsBroughtIn(t *testing.T) {
	w := serve(t)
	c := w.as("dot")
	company := func() (k api.Company) {
		c.do("GET", "/api/company", nil).into(t, &k)
		return k
	}
	ask := func(raw []byte, take bool) answer {
		return c.do("POST", "/api/prices/import", put{"content": base64.StdEncoding.EncodeToString(raw), "take": take, "version": company().Version})
	}
	var report materials.Import
	out := c.do("GET", "/api/tables/prices", nil)
	require.Equal(t, 200, out.status)
	a := ask([]byte(out.text), false)
	require.Equal(t, 200, a.status, a.text)
	a.into(t, &report)
	assert.Equal(t, [2]int{0, 0}, [2]int{len(report.Added), len(report.Changed)}, "what went out comes back equal")
	assert.Len(t, company().Prices, report.Same)

	book := c.do("GET", "/api/tables/prices?format=xlsx", nil)
	require.Equal(t, 200, book.status)
	f, err := excelize.OpenReader(strings.NewReader(book.text))
	require.NoError(t, err)
	sheet := f.GetSheetName(0)
	require.NoError(t, f.SetCellValue(sheet, "D2", 1.99))
	var changed bytes.Buffer
	require.NoError(t, f.Write(&changed))
	a = ask(changed.Bytes(), false)
	require.Equal(t, 200, a.status, a.text)
	report = materials.Import{}
	a.into(t, &report)
	require.Len(t, report.Changed, 1)
	assert.Equal(t, "1.99", report.Changed[0].Now)
	was := company()
	require.Equal(t, 200, ask(changed.Bytes(), true).status)
	now := company()
	assert.Greater(t, now.Version, was.Version)
	assert.InDelta(t, 1.99, now.Prices[0].Price, 0)

	half := []byte("key,price,packs\nnew-one,5,50\nnew-two,1 2,0\n")
	a = ask(half, false)
	require.Equal(t, 200, a.status, a.text)
	report = materials.Import{}
	a.into(t, &report)
	assert.Len(t, report.Unread, 2)
	a = ask(half, true)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "row 3, price")
	assert.Len(t, company().Prices, len(now.Prices), "nothing of it was taken")
	assert.Equal(t, 422, ask([]byte("PK\x03\x04 no workbook"), false).status)
	assert.Equal(t, 403, w.as("remy").do("POST", "/api/prices/import", put{"content": "", "take": false, "version": 1}).status)
}

// Each table goes out as a workbook whose texts are no formulas.
func TestTablesAreWorkbooksToo(t *testing.T) {
	w := serve(t)
	c := w.as("dot")
	v := c.job("PW-2052")
	id, k := v.Id, v.View.Job.Circuits[0]
	k.Name = "=cmd()"
	require.Equal(t, 200, w.as("tobias").part(v, "circuits/"+k.ID, k).status)
	for _, table := range []string{"materials", "asks", "cuts"} {
		a := c.do("GET", "/api/jobs/"+id+"/tables/"+table+"?format=xlsx", nil)
		require.Equal(t, 200, a.status)
		f, err := excelize.OpenReader(strings.NewReader(a.text))
		require.NoError(t, err, table)
		rows, err := f.GetRows(f.GetSheetName(0))
		require.NoError(t, err)
		assert.Greater(t, len(rows), 20, table)
		assert.Equal(t, "key", rows[0][0])
		for i := range rows {
			for n := range rows[i] {
				cell, err := excelize.CoordinatesToCellName(n+1, i+1)
				require.NoError(t, err)
				formula, err := f.GetCellFormula(f.GetSheetName(0), cell)
				require.NoError(t, err)
				assert.Empty(t, formula, "%s %s", table, cell)
			}
		}
		if table == "asks" {
			assert.Contains(t, fmt.Sprint(rows), "=cmd()", "it stays the text that it is")
		}
	}
	assert.Equal(t, 422, c.do("GET", "/api/jobs/"+id+"/tables/materials?format=pdf", nil).status)
	var order materials.Order
	c.do("GET", "/api/jobs/"+id+"/order.json", nil).into(t, &order)
	assert.Equal(t, materials.OrderFormat, order.Format)
	assert.NotEmpty(t, order.Lines)
}

// A bond that the job makes is on the list with its clamp and its length, and is a step of the plan; without its length it is a gap.
func TestABondThatTheJobMakesIsBoughtAndDone(t *testing.T) {
	c := serve(t).as("tobias")
	for ref, x := range map[string]struct{ clamp, conductor string }{"PW-2052": {"bond:clamp", "bond:conductor:10"}, "PW-2054": {"bond:clamp", "bond:conductor:21.15"}} {
		v := c.job(ref)
		supply := v.View.Job.Supply
		require.NotEmpty(t, supply.Bonds)
		supply.Bonds[0].New, supply.Bonds[0].LengthM = true, install.Fact{}
		require.Equal(t, 200, c.part(v, "supply", supply).status)
		v = c.job(ref)
		assert.Contains(t, gapsOf(v), "Bond to "+supply.Bonds[0].Service+": its size or its length is not entered yet.")
		m := 6.0
		supply.Bonds[0].LengthM = install.Fact{Value: &m, Basis: install.Measured}
		require.Equal(t, 200, c.part(v, "supply", supply).status)
		v = c.job(ref)
		assert.Empty(t, gapsOf(v))
		assert.Positive(t, lineOf(t, v, x.clamp).Order)
		l := lineOf(t, v, x.conductor)
		assert.Equal(t, []string{"bond-1"}, l.Asks[0].Steps)
		assert.True(t, taskOf(t, v, "bond-1").Photo)
	}
}

// What the merchant does not have is replaced by what the rules let stand in its place, and by nothing else: judged before it is taken, in both
// practices; cement for conduit by no other, and one of the same kind and rating on somebody's word.
func TestASubstituteIsJudgedBeforeItIsTaken(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for _, x := range []struct{ ref, product, small, never string }{
		{"PW-2052", "device:rcbo:A:B32:30:6", "cable:flat-te-70:2.5", ""},
		{"PW-2054", "device:gfci:2:50:10", "cable:nm-2:3.31", "duct:cement"},
	} {
		v := c.job(x.ref)
		of := func(product string) (s whole.Substitutes) {
			a := c.do("GET", "/api/jobs/"+v.Id+"/substitutes?product="+product, nil)
			require.Equal(t, 200, a.status, a.text)
			a.into(t, &s)
			return s
		}
		// Every cable of the list: what does is taken, and fails nothing; what does not is refused, and says why.
		took, refused := false, false
		for _, l := range v.View.Take.Lines {
			family, _, _ := strings.Cut(l.Key, ":")
			if family != "cable" && family != "device" || l.May != materials.MayDesign {
				continue
			}
			s := of(l.Key)
			for _, o := range s.Options {
				assert.NotEqual(t, l.Key, o.Key)
				assert.Equal(t, len(o.Fails) == 0, o.Does)
				if !o.Does && !refused {
					refused = true
					a := c.do("POST", "/api/jobs/"+v.Id+"/substitutes", put{"product": l.Key, "instead": o.Key})
					assert.Equal(t, 409, a.status, a.text)
					assert.Contains(t, a.text, "is not taken in the place of")
				}
			}
			if i := slices.IndexFunc(s.Options, func(o whole.Substitute) bool { return o.Does }); i >= 0 && !took && family == "cable" {
				took = true
				before := failsOf(c, v.Id)
				a := c.do("POST", "/api/jobs/"+v.Id+"/substitutes", put{"product": l.Key, "instead": s.Options[i].Key})
				require.Equal(t, 200, a.status, a.text)
				now := c.read(v.Id)
				lineOf(t, now, s.Options[i].Key)
				assert.False(t, slices.ContainsFunc(now.View.Take.Lines, func(o materials.Line) bool { return o.Key == l.Key }),
					"the product itself is wanted no more")
				for _, f := range failsOf(c, v.Id) {
					assert.Contains(t, before, f, "nothing fails with it that did not before")
				}
				undo := c.do("POST", "/api/jobs/"+v.Id+"/undo", put{"command": "", "free": false})
				require.Equal(t, 200, undo.status, undo.text)
				lineOf(t, c.read(v.Id), l.Key)
			}
		}
		assert.True(t, took, x.ref)
		assert.True(t, refused, x.ref)
		a := c.do("POST", "/api/jobs/"+v.Id+"/substitutes", put{"product": "labels", "instead": "labels"})
		assert.Equal(t, 409, a.status, "it is no matter of the design")
		a = c.do("GET", "/api/jobs/"+v.Id+"/substitutes?product=ghost", nil)
		assert.Equal(t, 422, a.status)
	}

	// The cement of a conduit: nobody's word does.
	v := c.job("PW-2050")
	var s whole.Substitutes
	c.do("GET", "/api/jobs/"+v.Id+"/substitutes?product=duct:cement", nil).into(t, &s)
	assert.Equal(t, materials.MayNever, s.May)
	assert.Contains(t, s.Why, "listed for electrical conduit")
	m := v.View.Job.Materials
	m.Instead = map[string]install.Instead{"duct:cement": {What: "pipe cement from the plumber", Why: "it was in the van"}}
	require.Equal(t, 200, c.part(v, "materials", m).status)
	v = c.read(v.Id)
	assert.Contains(t, lineOf(t, v, "duct:cement").Trouble, "is not taken")
	assert.True(t, slices.ContainsFunc(v.View.State.Holds, func(h plan.Hold) bool {
		return h.Sheet == working.MaterialsSheet && strings.Contains(h.What, "pipe cement from the plumber")
	}), "it holds the order")
	m.Instead = map[string]install.Instead{"labels": {What: "Tarn label roll", Why: "same width, says Dot"}}
	require.Equal(t, 200, c.part(v, "materials", m).status)
	v = c.read(v.Id)
	assert.Empty(t, lineOf(t, v, "duct:cement").Trouble)
	m.Instead = map[string]install.Instead{"labels": {What: "Tarn label roll"}}
	assert.Equal(t, 422, c.part(v, "materials", m).status, "why, and on whose word")
}

func failsOf(c *client, id string) (out []string) {
	c.Helper()
	for _, k := range c.shown(id) {
		if k.Verdict == working.Fail {
			out = append(out, k.ID+"/"+k.Circuit+"/"+k.Object)
		}
	}
	return out
}

// What came shorter than its note is on no way: it is ordered again, in a whole pack, and only as much as the job is short by it.
func TestWhatCameTooShortIsOrderedAgain(t *testing.T) {
	c := serve(t).as("dot")
	v := c.job("PW-2052")
	const product = "cable:flat-te-70:6"
	order := func() (l materials.OrderLine, ok bool) {
		var o materials.Order
		c.do("GET", "/api/jobs/"+v.Id+"/order.json", nil).into(t, &o)
		i := slices.IndexFunc(o.Lines, func(l materials.OrderLine) bool { return l.Product == product })
		if i < 0 {
			return l, false
		}
		return o.Lines[i], true
	}
	first, ok := order()
	require.True(t, ok)
	assert.False(t, first.Again)
	c.stock("PW-2052", product, install.Stock{Ordered: first.Count})
	_, ok = order()
	assert.False(t, ok, "it is on its way")
	deliver := func(number string, counted float64, lengths string) {
		a := c.do("POST", "/api/jobs/"+v.Id+"/deliveries", put{"id": "d" + number, "number": number, "merchant": "Orrin", "on": "2026-11-30",
			"countedBy": "Dot Farley",
			"lines":     []put{{"product": product, "name": "6 mm²", "said": first.Count, "counted": counted, "lengths": lengths, "remark": ""}}})
		require.Equal(t, 200, a.status, a.text)
	}
	deliver("1", 4, "4")
	again, ok := order()
	require.True(t, ok)
	assert.True(t, again.Again)
	assert.Contains(t, []float64{50, 100}, again.Count, "a whole pack")
	deliver("2", 50, "50")
	_, ok = order()
	assert.False(t, ok, "with that it suffices")
}
