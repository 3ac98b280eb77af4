package api_test

import (
	"io"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	corePlan "arvelt/core/plan"
)

// traded puts the work of others on the plan of a job in the place of what stands there.
func (c *client) traded(ref string, trades ...install.Trade) answer {
	c.Helper()
	v := c.job(ref)
	p := v.View.Job.Plan
	for i := range trades {
		if trades[i].Rooms == nil {
			trades[i].Rooms = []string{}
		}
	}
	p.Trades = trades
	return c.part(v, "plan", p)
}

// What others do in the house holds the steps that wait for it, stands on the week with the day that they promised, and opens the way back once it is
// done; what waits for us is told when it is ready, and what is planned too late for it.
func TestOtherTradesHoldAndBringBack(t *testing.T) {
	for practice, like := range map[string]string{"iec230": "PW-2044", "split120": "PW-2054"} {
		t.Run(practice, func(t *testing.T) {
			w := serve(t)
			tobias, jana, dot := w.as("tobias"), w.as("jana"), w.as("dot")
			const ref = "PW-9511"
			kind := map[string]string{"iec230": "double socket", "split120": "duplex"}[practice]
			v := tobias.walked(ref, practice, like, "study: 2 "+kind+"\nden: "+kind)
			study, den := v.View.Job.Rooms[0].ID, v.View.Job.Rooms[1].ID
			today := time.Now().UTC()
			day := func(n int) string { return today.AddDate(0, 0, n).Format(time.DateOnly) }
			plaster := install.Trade{ID: "t1", Kind: install.Plasterer, Who: "Quoin and Daughter", What: "skim the walls", Rooms: []string{study},
				Waits: install.SecondWaits}
			joiner := install.Trade{ID: "t2", Kind: install.Joiner, Who: "Adze", What: "floor down", Rooms: []string{den}, Waits: install.FirstWaits,
				Asked: day(-2), Promised: day(4)}
			floor := install.Trade{ID: "t3", Kind: install.Floors, Who: "Selvage", Rooms: []string{study}, Waits: install.TheyWait, By: day(6)}

			for field, bad := range map[string]install.Trade{
				"rooms":    {ID: "x", Kind: install.Painter, Waits: install.SecondWaits, Rooms: []string{"nowhere"}},
				"known":    {ID: "x", Kind: install.Painter, Waits: install.SecondWaits, Done: day(-1)},
				"done":     {ID: "x", Kind: install.Painter, Waits: install.SecondWaits, Done: day(2), Known: "they said"},
				"promised": {ID: "x", Kind: install.Painter, Waits: install.SecondWaits, Asked: day(3), Promised: day(1)},
				"kind":     {ID: "x", Kind: "magician", Waits: install.SecondWaits},
				"waits":    {ID: "x", Kind: install.Painter, Waits: "for ever"},
			} {
				a := tobias.traded(ref, bad)
				assert.Equal(t, 422, a.status, "%s: %s", field, a.text)
				assert.Contains(t, a.text, "plan.trades[0]."+field, field)
			}
			assert.Equal(t, 422, tobias.traded(ref, plaster, plaster).status, "each id once")
			assert.Equal(t, 403, w.as("remy").traded(ref, plaster).status)
			a := tobias.traded(ref, plaster, joiner, floor)
			require.Equal(t, 200, a.status, a.text)

			// Theirs comes first: the steps of their rooms and of that stage are closed, the others are not.
			v = tobias.job(ref)
			assert.Contains(t, taskOf(t, v, study+"-fit").Closed, "Quoin and Daughter")
			assert.Contains(t, taskOf(t, v, study+"-fit").Closed, "not asked yet")
			assert.NotContains(t, taskOf(t, v, den+"-fit").Closed, "Quoin")
			assert.Contains(t, taskOf(t, v, den+"-locate").Closed, "promised for "+day(4))
			assert.NotContains(t, taskOf(t, v, study+"-locate").Closed, "Adze")
			jana.held(v.Id, ticks(den+"-locate", true), 409, "Waits for others")
			a = tobias.planned(ref, map[string]install.TaskEdit{den + "-locate": {Day: day(2)}})
			assert.Equal(t, 422, a.status)
			assert.Contains(t, a.text, "a day from "+day(4)+" on, for which it is promised")
			require.Equal(t, 200, tobias.planned(ref, map[string]install.TaskEdit{den + "-locate": {Day: day(5)}}).status)
			week := func(n int) []corePlan.Planned {
				var s api.WeekSheet
				dot.do("GET", "/api/week?from="+day(n), nil).into(t, &s)
				for _, j := range s.Jobs {
					if j.Ref == ref {
						return j.Planned
					}
				}
				return nil
			}
			one := func(list []corePlan.Planned, id string) *corePlan.Planned {
				n := slices.IndexFunc(list, func(p corePlan.Planned) bool { return p.Task == id })
				if n < 0 {
					return nil
				}
				return &list[n]
			}
			stands := week(0)
			require.NotNil(t, one(stands, "trade:t2"))
			assert.Equal(t, day(4), one(stands, "trade:t2").On)
			require.NotNil(t, one(stands, "trade:t3"))
			assert.Equal(t, day(6), one(stands, "trade:t3").On)

			// Ours comes first: they are told that it is not ready, planned too late, then ready.
			stand := func(id string) corePlan.TradeStand {
				v := tobias.job(ref)
				return v.View.Trades[slices.IndexFunc(v.View.Trades, func(s corePlan.TradeStand) bool { return s.ID == id })]
			}
			assert.Contains(t, stand("t3").Says, "Not ready")
			require.Equal(t, 200, tobias.planned(ref, map[string]install.TaskEdit{study + "-close": {Day: day(9)}}).status)
			assert.True(t, stand("t3").Late)
			assert.Contains(t, stand("t3").Clash, day(9))
			jana.firstFix(jana.job(ref))
			assert.Equal(t, day(0), stand("t3").Ready)

			// Theirs is done: the steps open, and somebody comes back for them.
			plaster.Asked, plaster.Promised, plaster.Done, plaster.Known = day(-3), day(-1), day(-1), "seen by Jana Okell"
			joiner.Done, joiner.Known = day(0), "called by Adze"
			require.Equal(t, 200, tobias.traded(ref, plaster, joiner, floor).status)
			assert.True(t, stand("t1").Returns)
			assert.NotContains(t, taskOf(t, tobias.job(ref), study+"-fit").Closed, "Quoin")
			back := one(week(0), "trade:t1")
			require.NotNil(t, back)
			assert.Contains(t, back.Title, "Come back")

			// What was left until the plaster is dry comes back with the plasterer, without a day of its own.
			jana.made(v.Id, left(install.LeftCover, put{"place": "by the door", "room": study, "trigger": install.AfterPlaster, "alive": false,
				"attended": true}))
			assert.True(t, slices.ContainsFunc(week(0), func(p corePlan.Planned) bool {
				return strings.Contains(p.Title, "by the door") && strings.Contains(p.Title, "done since "+day(-1))
			}))
		})
	}
}

// A link shows another trade its sheet without signing in: what is theirs, when, and what is in use, and nothing of how to get in. It ends, is withdrawn,
// and its secret is kept nowhere. What is on and off on a day follows from the steps that are planned for it.
func TestAnotherTradeReadsItsSheetByALink(t *testing.T) {
	w := serve(t)
	tobias, dot := w.as("tobias"), w.as("dot")
	const ref = "PW-2052"
	v := tobias.job(ref)
	site := v.View.Job.Site
	require.NotEmpty(t, site.Access)
	today := time.Now().UTC()
	require.Equal(t, 200, tobias.traded(ref, install.Trade{ID: "t1", Kind: install.Tiler, Who: "Grout and Daughters", What: "tile the shower",
		Waits: install.TheyWaitLonger,
		Needs: "the wall dry", By: today.AddDate(0, 0, 12).Format(time.DateOnly)}).status)
	isolates := ""
	for _, x := range tobias.job(ref).View.Tasks {
		if x.Isolation && x.Circuit == "c2" && !x.Done && slices.Contains(x.Dead, "circuit:c2") {
			isolates = x.ID
		}
	}
	if isolates == "" { // its points are fitted room by room
		for _, x := range tobias.job(ref).View.Tasks {
			if x.Isolation && x.Circuit == "c2" && !x.Done {
				isolates = x.ID
			}
		}
	}
	require.NotEmpty(t, isolates)
	off := today.AddDate(0, 0, 3).Format(time.DateOnly)
	a := tobias.planned(ref, map[string]install.TaskEdit{isolates: {Who: "Jana Okell", Crew: 1, Day: off}})
	require.Equal(t, 200, a.status, a.text)
	n := slices.IndexFunc(tobias.job(ref).View.Power, func(d corePlan.PowerDay) bool { return d.Day == off })
	require.GreaterOrEqual(t, n, 0)
	assert.NotEmpty(t, tobias.job(ref).View.Power[n].At)

	assert.Equal(t, 422, dot.do("POST", "/api/jobs/"+v.Id+"/links", put{"kind": "trade", "subject": "t9"}).status)
	assert.Equal(t, 422, dot.do("POST", "/api/jobs/"+v.Id+"/links", put{"kind": "everything"}).status)
	assert.Equal(t, 403, w.as("remy").do("POST", "/api/jobs/"+v.Id+"/links", put{"kind": "trade", "subject": "t1"}).status)
	a = dot.do("POST", "/api/jobs/"+v.Id+"/links", put{"kind": "trade", "subject": "t1"})
	require.Equal(t, 201, a.status, a.text)
	var made api.MadeLink
	a.into(t, &made)
	_, secret, ok := strings.Cut(made.Link, "#")
	require.True(t, ok)
	a = w.stranger().do("POST", "/api/with", put{"link": secret})
	require.Equal(t, 200, a.status, a.text)
	var page api.TradePage
	a.into(t, &page)
	assert.Equal(t, ref, page.Sheet.Ref)
	assert.Contains(t, page.Sheet.Stand.Says, "Not ready")
	assert.Equal(t, "the wall dry", page.Sheet.Trade.Needs)
	assert.NotEmpty(t, page.Sheet.Use)
	assert.NotEmpty(t, page.Sheet.Power)
	for _, secretOfHouse := range []string{site.Access, site.Phone, site.Customer, secret} {
		assert.NotContains(t, a.text, secretOfHouse)
	}
	var list []api.SharedLink
	dot.do("GET", "/api/jobs/"+v.Id+"/links", nil).into(t, &list)
	require.Len(t, list, 1)
	assert.NotNil(t, list[0].ReadAt)
	assert.Equal(t, 401, w.stranger().do("GET", "/api/jobs/"+v.Id, nil).status, "the link opens nothing else")
	assert.Equal(t, 409, w.stranger().do("POST", "/api/with", put{"link": "no-such-link"}).status)

	assert.Equal(t, 404, w.as("remy").do("DELETE", "/api/links/"+list[0].ID, nil).status)
	require.Equal(t, 204, dot.do("DELETE", "/api/links/"+list[0].ID, nil).status)
	a = w.stranger().do("POST", "/api/with", put{"link": secret})
	assert.Equal(t, 409, a.status)
	assert.Contains(t, a.text, "withdrawn")
	dot.do("POST", "/api/jobs/"+v.Id+"/links", put{"kind": "trade", "subject": "t1"}).into(t, &made)
	_, secret, _ = strings.Cut(made.Link, "#")
	w.st.Now = func() time.Time { return time.Now().AddDate(0, 0, 61) }
	defer func() { w.st.Now = time.Now }()
	assert.Equal(t, 409, w.stranger().do("POST", "/api/with", put{"link": secret}).status, "it ends by itself")
}

// A calendar shows the days of a person or a job by a link that is good until it is withdrawn, and the log has no secret.
func TestDaysInACalendar(t *testing.T) {
	w := serve(t)
	tobias, jana := w.as("tobias"), w.as("jana")
	const ref = "PW-2046"
	v := tobias.job(ref)
	open := []string{}
	for _, x := range v.View.Tasks {
		if !x.Done && x.Others == "" && !x.Isolation && len(x.Skills) == 0 {
			open = append(open, x.ID)
		}
	}
	day := time.Now().UTC().AddDate(0, 0, 6)
	on := day.Format(time.DateOnly)
	require.Equal(t, 200, tobias.planned(ref, map[string]install.TaskEdit{open[0]: {Who: "Jana Okell", Crew: 1, Day: on},
		open[1]: {Who: "Tobias Marrick", Crew: 1, Day: on}}).status)
	fetch := func(link string) (int, string) {
		res, err := http.Get(w.url + link)
		require.NoError(t, err)
		defer res.Body.Close()
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		// A long line is folded (RFC 5545, 3.1).
		return res.StatusCode, strings.ReplaceAll(string(body), "\r\n ", "")
	}
	var mine, whole api.MadeLink
	a := jana.do("POST", "/api/links", nil)
	require.Equal(t, 201, a.status, a.text)
	a.into(t, &mine)
	tobias.do("POST", "/api/jobs/"+v.Id+"/links", put{"kind": "job"}).into(t, &whole)
	title := func(id string) string {
		return strings.NewReplacer(",", `\,`, ";", `\;`).Replace(taskOf(t, v, id).Title)
	}
	status, text := fetch(mine.Link)
	require.Equal(t, 200, status)
	assert.Contains(t, text, "BEGIN:VCALENDAR")
	assert.Contains(t, text, "DTSTART;VALUE=DATE:"+day.Format("20060102"))
	assert.Contains(t, text, "UID:"+v.Id+"-"+on)
	assert.Contains(t, text, title(open[0]))
	assert.NotContains(t, text, title(open[1]), "that is not hers")
	assert.NotContains(t, text, v.View.Job.Site.Phone)
	_, text = fetch(whole.Link)
	assert.Contains(t, text, title(open[0]))
	assert.Contains(t, text, title(open[1]))
	assert.NotContains(t, text, "PW-2052", "of this job alone")

	var list []api.SharedLink
	jana.do("GET", "/api/links", nil).into(t, &list)
	require.Len(t, list, 1)
	require.Equal(t, 204, jana.do("DELETE", "/api/links/"+list[0].ID, nil).status, "her own she withdraws herself")
	status, text = fetch(mine.Link)
	assert.Equal(t, 404, status)
	assert.Contains(t, text, "withdrawn")
	status, _ = fetch("/calendar/none.ics")
	assert.Equal(t, 404, status)
	status, _ = fetch("/calendar/" + strings.TrimPrefix(strings.TrimSuffix(whole.Link, ".ics"), "/calendar/"))
	assert.Equal(t, 200, status, "with or without its ending")
}

// What others did dries before ours goes on: the step stays closed, a day before that is refused, and none is proposed. In both practices.
func TestWhatOthersDidDriesFirst(t *testing.T) {
	for practice, like := range map[string]string{"iec230": "PW-2044", "split120": "PW-2054"} {
		t.Run(practice, func(t *testing.T) {
			tobias := serve(t).as("tobias")
			const ref = "PW-9561"
			kind := map[string]string{"iec230": "double socket", "split120": "duplex"}[practice]
			v := tobias.walked(ref, practice, like, "study: 4 "+kind)
			fit := v.View.Job.Rooms[0].ID + "-fit"
			on := func(n int) string { return time.Now().UTC().AddDate(0, 0, n).Format(time.DateOnly) }
			plaster := install.Trade{ID: "t1", Kind: install.Plasterer, Waits: install.SecondWaits, Done: on(0), Known: "seen", DryDays: 200}
			a := tobias.traded(ref, plaster)
			assert.Equal(t, 422, a.status)
			assert.Contains(t, a.text, "dryDays")
			plaster.DryDays = 10
			require.Equal(t, 200, tobias.traded(ref, plaster).status)
			assert.Contains(t, taskOf(t, tobias.job(ref), fit).Closed, "dries for 10 days")
			a = tobias.planned(ref, map[string]install.TaskEdit{fit: {Day: on(4)}})
			assert.Equal(t, 422, a.status)
			assert.Contains(t, a.text, "a day from "+on(10)+" on, when it is dry")
			s := dayOf(tobias.proposed(ref), fit)
			require.NotNil(t, s)
			assert.GreaterOrEqual(t, s.Day, on(10))
			require.Equal(t, 200, tobias.planned(ref, map[string]install.TaskEdit{fit: {Day: on(10)}}).status)
			plaster.DryDays = 0
			require.Equal(t, 200, tobias.traded(ref, plaster).status)
			assert.NotContains(t, taskOf(t, tobias.job(ref), fit).Closed, "dries")
		})
	}
}
