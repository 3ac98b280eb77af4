package api

import (
	"math"
	"net/url"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/core/outdoor"
	"arvelt/core/plan"
	"arvelt/core/words"
)

// Outlook answers what the company knows of days to come: who is away, and the weather.
func (s *Server) Outlook(c *gin.Context) {
	_, scope := s.who(c)
	o, err := scope.Outlook(c)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, o)
}

// SetOutlook keeps who is away and the weather as somebody says it. It is for whoever plans.
func (s *Server) SetOutlook(c *gin.Context) {
	p, scope, k, ok := s.planner(c)
	if !ok {
		return
	}
	var o plan.Outlook
	if err := decode(c, &o); err != nil {
		fail(c, err)
		return
	}
	was, err := scope.Outlook(c)
	if err != nil {
		fail(c, err)
		return
	}
	for i := range o.Weather { // who typed it answers for it; what stays as it was stays whose it was
		x := &o.Weather[i]
		x.By = p.Name
		if n := slices.IndexFunc(was.Weather, x.Same); n >= 0 {
			x.By = was.Weather[n].By
		}
	}
	if err := scope.SetOutlook(c, words.In(k.Settings.Speaks()), o); err != nil {
		fail(c, err)
		return
	}
	s.Outlook(c)
}

// forecastDays is how many days are asked for.
const forecastDays = 10

// MakeUpWeather puts the simulated forecast of the next days in the place of what is there of them. It says that it is made up.
func (s *Server) MakeUpWeather(c *gin.Context) {
	_, scope, k, ok := s.planner(c)
	if !ok {
		return
	}
	o, err := scope.Outlook(c)
	if err != nil {
		fail(c, err)
		return
	}
	today := scope.Now().In(k.Location())
	o.Weather = []outdoor.Forecast{}
	for n := 1; n <= forecastDays; n++ {
		day := today.AddDate(0, 0, n).Format(time.DateOnly)
		f, err := s.forecast(c, url.Values{"day": {day}})
		if err != nil {
			noForecast(c, err)
			return
		}
		wind := math.Round(f.WindMS * 3.6)
		o.Weather = append(o.Weather, outdoor.Forecast{Day: day, RainMM: &f.RainMM, WindKmH: &wind, LowC: &f.TempC, HighC: &f.TempC})
	}
	if err := scope.SetOutlook(c, words.In(k.Settings.Speaks()), o); err != nil {
		fail(c, err)
		return
	}
	s.Outlook(c)
}

// Looking answers how far the search for days is that the person waits for, 0 to 1.
func (s *Server) Looking(c *gin.Context) {
	p, _ := s.who(c)
	reply(c, Looking{Part: s.orders.part(p.CompanyID)})
}
