package api

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"regexp"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/store"
)

// inNameOf is the key of a request's context under which the person stands in whose name a write
// that they had left on a device is made.
type inNameOf struct{}

// signedOut answers that nobody is signed in, and where somebody else ended the session, whose it was.
func (s *Server) signedOut(c *gin.Context) {
	out := problemOf(errSignedOut)
	if e, err := s.ended(c); err == nil {
		out.Ended = &struct {
			At       time.Time `json:"at"`
			By       string    `json:"by"`
			PersonId string    `json:"personId"` //nolint:revive // as generated
		}{e.At.UTC(), e.By, e.PersonID}
	}
	problem(c, out)
}

// ended is the session of the request's cookie where somebody else ended it; [store.ErrNotFound] otherwise.
func (s *Server) ended(c *gin.Context) (store.Ended, error) {
	token, err := c.Cookie(s.sessions.Cookie.Name)
	if err != nil {
		return store.Ended{}, store.ErrNotFound
	}
	return s.store.EndedSession(c, token)
}

// leftPath is what a device may have had to send: the job, what it is, and how it is sent.
var leftPath = regexp.MustCompile(`^/api/jobs/([0-9a-f-]{36})/(records|walk|parts|photos)(\?[^#]*)?$`)

// leftKinds names what is sent to each.
var leftKinds = map[string]LeftWhat{"records": LeftWhatRecord, "walk": LeftWhatWalk, "parts": LeftWhatPart, "photos": LeftWhatPhoto}

// HandIn keeps a write that waited on a device when its session was ended.
func (s *Server) HandIn(c *gin.Context, params HandInParams) {
	e, err := s.ended(c)
	if errors.Is(err, store.ErrNotFound) {
		err = errSignedOut
	}
	at := leftPath.FindStringSubmatch(params.Path)
	if err == nil && at == nil {
		err = install.Errors{{Field: "path", Value: fmt.Sprintf("%.60q", params.Path), Accept: "the path of a record, a line of the walk, " +
			"a part or a photo of a job"}}
	}
	var body []byte
	if err == nil {
		body, err = io.ReadAll(c.Request.Body)
	}
	w := store.Left{Key: params.IdempotencyKey, Path: params.Path, Body: body, Seq: given(params.Seq)}
	if params.DeviceTime != nil {
		w.ClockOff = params.DeviceTime.Sub(s.store.Now())
	}
	if err == nil {
		w.JobID = at[1]
		err = s.store.HandIn(c, e, w)
	}
	if err != nil {
		fail(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}

// shownAs is a write that was left, as it is shown to who decides.
func shownAs(w store.Left) Left {
	at := leftPath.FindStringSubmatch(w.Path)
	out := Left{Id: w.ID, PersonId: w.PersonID, Person: w.Person, JobId: w.JobID, Ref: w.Ref, What: leftKinds[at[2]],
		HandedAt: w.HandedAt.UTC(), OccurredAt: w.HandedAt.UTC()}
	switch out.What {
	case LeftWhatPhoto:
		if q, err := url.ParseQuery(at[3][min(1, len(at[3])):]); err == nil {
			if made, err := time.Parse(time.RFC3339, q.Get("occurredAt")); err == nil {
				out.OccurredAt = made.Add(-w.ClockOff).UTC()
			}
		}
		return out
	case LeftWhatRecord:
		var r struct {
			Sent struct {
				OccurredAt time.Time `json:"occurredAt"`
			} `json:"sent"`
		}
		if json.Unmarshal(w.Body, &r) == nil && !r.Sent.OccurredAt.IsZero() {
			out.OccurredAt = r.Sent.OccurredAt.Add(-w.ClockOff).UTC()
		}
	}
	if json.Valid(w.Body) {
		out.Body = json.RawMessage(w.Body)
	}
	return out
}

// Left lists what waits for decision.
func (s *Server) Left(c *gin.Context) {
	p, scope := s.who(c)
	err := mayDecide(p)
	var all []store.Left
	if err == nil {
		all, err = scope.Lefts(c)
	}
	if err != nil {
		fail(c, err)
		return
	}
	out := make([]Left, len(all))
	for i, w := range all {
		out[i] = shownAs(w)
	}
	reply(c, out)
}

// DecideLeft takes a write over or sets it aside. One that is taken goes the way of every write, in
// the name of who made it and as of when: what holds or refuses it then does so now.
func (s *Server) DecideLeft(c *gin.Context, id Id, _ DecideLeftParams) {
	p, scope := s.who(c)
	var in DecideLeftJSONBody
	err := mayDecide(p)
	if err == nil {
		err = decode(c, &in)
	}
	reason := given(in.Reason)
	if err == nil && !in.Take && reason == "" {
		err = install.Errors{{Field: "reason", Value: "", Accept: "why it is set aside"}}
	}
	var w store.Left
	if err == nil {
		w, err = scope.Left(c, id)
	}
	if err == nil && in.Take {
		var who store.Person
		if who, err = scope.PersonByID(c, w.PersonID); err == nil {
			who.Through = p.Name
			if answer := s.replay(c.Request.Context(), who, w); answer.status >= http.StatusBadRequest {
				c.Data(answer.status, "application/problem+json", answer.body.Bytes())
				return
			}
		}
	}
	if err == nil {
		err = scope.Decide(c, p, id, in.Take, reason)
	}
	if err != nil {
		fail(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}

// replay sends a write that was left, as its device would have.
func (s *Server) replay(ctx context.Context, who store.Person, w store.Left) *replayed {
	out := &replayed{header: http.Header{}, status: http.StatusOK}
	method := http.MethodPost
	if leftKinds[leftPath.FindStringSubmatch(w.Path)[2]] == LeftWhatPart {
		method = http.MethodPut
	}
	r, err := http.NewRequestWithContext(context.WithValue(ctx, inNameOf{}, who), method, w.Path, bytes.NewReader(w.Body))
	if err != nil {
		writeProblem(out, Problem{Status: http.StatusUnprocessableEntity, Title: "It cannot be sent as it was kept."})
		return out
	}
	r.Header.Set("Idempotency-Key", w.Key)
	r.Header.Set("Device-Time", s.store.Now().Add(w.ClockOff).Format(time.RFC3339Nano))
	s.router.ServeHTTP(out, r)
	return out
}

// replayed is the answer to a replay.
type replayed struct {
	header http.Header
	status int
	body   bytes.Buffer
}

func (r *replayed) Header() http.Header         { return r.header }
func (r *replayed) Write(b []byte) (int, error) { return r.body.Write(b) }
func (r *replayed) WriteHeader(status int)      { r.status = status }
