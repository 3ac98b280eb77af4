package api

import (
	"slices"

	"github.com/gin-gonic/gin"

	"arvelt/core/plan"
	"arvelt/core/words"
	"arvelt/standin/weather"
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
	p, scope := s.who(c)
	if err := plans(p); err != nil {
		fail(c, err)
		return
	}
	var o plan.Outlook
	if err := decode(c, &o); err != nil {
		fail(c, err)
		return
	}
	k, err := scope.Company(c)
	if err != nil {
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

// forecastDays is how many days the stand-in makes up.
const forecastDays = 10

// MakeUpWeather puts the weather that the stand-in makes up for the next days in the place of what is there of them. It says that it is made up.
func (s *Server) MakeUpWeather(c *gin.Context) {
	p, scope := s.who(c)
	if err := plans(p); err != nil {
		fail(c, err)
		return
	}
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	o, err := scope.Outlook(c)
	if err != nil {
		fail(c, err)
		return
	}
	o.Weather = weather.Of(scope.Now().In(k.Location()), forecastDays)
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
