package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"arvelt/core/desk"
	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/store"
)

// courier carries messages to the operator's desk and its answers back. A
// message is sent under its own id until the desk has it; a desk that is down
// or slow is tried again after a pause that grows to a quarter of an hour.
type courier struct {
	*wire
	store *store.Store
}

// round takes one message that is due and moves it on.
func (c *courier) round(ctx context.Context) (worked bool, err error) {
	d, err := c.store.TakeDue(ctx)
	if d == nil || err != nil {
		return false, err
	}
	var reply store.Reply
	var status int
	if d.State == "waiting" {
		facts := map[string]string{}
		number, day := "", ""
		for _, f := range d.Letter.Facts {
			facts[f.Name] = f.Value
			switch f.ID {
			case desk.SupplyNumber:
				number = f.Value
			case desk.WantedDay:
				day = f.Value
			}
		}
		photos, err := c.store.PhotosFor(ctx, d)
		if err != nil {
			return true, err
		}
		body, err := json.Marshal(map[string]any{"photos": photos, "id": d.ID, "kind": d.Kind, "facts": facts, "number": number, "day": day,
			"note": d.Letter.Note})
		if err != nil {
			return true, err
		}
		status, err = c.call(ctx, http.MethodPost, "/requests", body, &reply)
		if err != nil {
			return true, c.store.Later(ctx, &d.Sending, err.Error(), c.pause(d.Tries))
		}
	} else if status, err = c.call(ctx, http.MethodGet, "/requests/"+url.PathEscape(d.ID), nil, &reply); err != nil {
		return true, c.store.Later(ctx, &d.Sending, err.Error(), c.pause(d.Tries))
	}
	switch {
	case status == http.StatusNotFound && d.State == "received":
		return true, c.store.Lost(ctx, d)
	case status >= 300:
		return true, c.store.Later(ctx, &d.Sending, fmt.Sprintf("the desk answered %d", status), c.pause(d.Tries))
	case reply.State != "received" && reply.State != "agreed" && reply.State != "booked" && reply.State != "refused":
		return true, c.bad(ctx, d, "it says nothing that is understood")
	}
	if why := wrongIn(&reply); why != "" {
		return true, c.bad(ctx, d, why)
	}
	err = c.store.Answered(ctx, d, reply, c.poll)
	if err != nil && ctx.Err() == nil && problemOf(err).Status < http.StatusInternalServerError {
		return true, c.bad(ctx, d, err.Error())
	}
	return true, err
}

// wrongIn says what of a desk's answer cannot be kept; empty for nothing.
func wrongIn(r *store.Reply) string {
	for name, text := range map[string]string{"reference": r.Reference, "person": r.Person, "message": r.Message, "day": r.Day} {
		if utf8.RuneCountInString(text) > 300 || !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
			return "its " + name + " is no readable text of at most 300 characters"
		}
	}
	if strings.TrimSpace(r.Reference) == "" && r.State != "refused" {
		return "it has no reference"
	}
	return ""
}

func (c *courier) bad(ctx context.Context, d *store.Due, why string) error {
	return c.wire.bad(ctx, c.store, &d.Sending, why, "Call the operator and record it by hand")
}

// Desk answers what may be sent to the operator, and what was.
func (s *Server) Desk(c *gin.Context, id Id) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	_, scope := s.who(c)
	messages, err := scope.Messages(c, id)
	if err != nil {
		fail(c, err)
		return
	}
	out := DeskSheet{Connected: s.courier.url != "", Kinds: desk.KindsIn(l.Job.Words),
		Letters: l.Letters(), Messages: messages}
	reply(c, out)
}

// SendToDesk sends a letter to the operator.
func (s *Server) SendToDesk(c *gin.Context, id Id, params SendToDeskParams) {
	var in DeskLetterRequest
	s.moves(c, &in, func(ctx context.Context, scope store.Scope, who store.Person) (*store.Loaded, error) {
		if s.courier.url == "" {
			return nil, &proving.NotYetError{Why: "No desk is connected: call and record it by hand."}
		}
		return scope.Send(ctx, who, id, params.IdempotencyKey, in.Kind, in.Note)
	})
}

// Forecast asks the simulated forecast for the day and place of the outage.
func (s *Server) Forecast(c *gin.Context, id Id) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	o := l.Job.Outage
	if o.Day == "" || o.Latitude == nil || o.Longitude == nil {
		fail(c, install.Errors{{Field: "outage.day", Value: o.Day, Accept: "a day and a place (latitude and longitude) first"}})
		return
	}
	f, err := s.forecast(c, url.Values{"day": {o.Day}, "latitude": {strconv.FormatFloat(*o.Latitude, 'f', 2, 64)},
		"longitude": {strconv.FormatFloat(*o.Longitude, 'f', 2, 64)}})
	if err != nil {
		noForecast(c, err)
		return
	}
	reply(c, install.Weather{RainMM: &f.RainMM, WindMS: &f.WindMS, TempC: &f.TempC, Source: "simulated forecast"})
}

// forecasted is what the simulated forecast says of a day.
type forecasted struct{ RainMM, WindMS, TempC float64 }

// forecast asks the simulated forecast for a day, and for a place where one is named.
func (s *Server) forecast(ctx context.Context, q url.Values) (f forecasted, err error) {
	if s.courier.url == "" {
		return f, &proving.NotYetError{Why: "No forecast is connected: type the weather."}
	}
	status, err := s.courier.call(ctx, http.MethodGet, "/forecast?"+q.Encode(), nil, &f)
	if err == nil && status >= 300 {
		err = fmt.Errorf("the forecast answered %d", status)
	}
	return f, err
}

// noForecast says why there is no forecast.
func noForecast(c *gin.Context, err error) {
	var none *proving.NotYetError
	if errors.As(err, &none) {
		fail(c, err)
		return
	}
	problem(c, Problem{Status: http.StatusBadGateway, Title: "The simulated forecast does not answer: type the weather."})
}
