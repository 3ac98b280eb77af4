package api

import (
	"crypto/sha256"
	"encoding/base64"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/maypok86/otter/v2"

	"arvelt/delta"
	"arvelt/store"
)

// viewsMost bounds what is kept of jobs as they were answered, in bytes as far as that is known.
const viewsMost = 96 << 20

// views keeps jobs as they were answered, each under the tag of that answer. Who writes says the
// tag of what they have, and is told what differs.
type views struct {
	kept *otter.Cache[string, *keptView]
}

// keptView is a job as it was answered, and the tag of the answer that it took the place of.
type keptView struct {
	*JobView
	before string
}

func newViews() views {
	return views{otter.Must(&otter.Options[string, *keptView]{MaximumWeight: viewsMost,
		Weigher: func(_ string, v *keptView) uint32 {
			return uint32(30_000 + 900*len(v.View.Job.Records) + 700*len(v.View.Tasks) + 900*len(v.View.Tests.Rows) + 4000*len(v.View.Job.Circuits))
		}})}
}

// mostOps is how many differences are told one by one; a job that differs in more is answered whole.
const mostOps = 400

// answered is a job encoded for somebody who has it as it was answered under a tag: what differs,
// or the whole of it. It is kept once it holds.
type answered struct {
	body []byte
	view *JobView
	has  string // the tag of what the browser had
}

func (v views) answer(l *store.Loaded, has string) (out answered, err error) {
	view := jobView(l)
	view.Tag = uuid.NewString()
	out.view, out.has = &view, has
	if had, ok := v.kept.GetIfPresent(has); ok && had.Id == view.Id {
		if ops := delta.Of(*had.JobView, view); len(ops) <= mostOps {
			out.body, err = encode(JobChange{Id: view.Id, From: has, Patch: ops})
			return out, err
		}
	}
	out.body, err = encode(view)
	return out, err
}

// keep keeps an answer in place of the one before the one that the browser had: that one itself
// stays, as another write of the same browser may be on its way.
func (v views) keep(a answered) {
	if had, ok := v.kept.GetIfPresent(a.has); ok && had.Id == a.view.Id {
		v.kept.Invalidate(had.before)
	}
	v.kept.Set(a.view.Tag, &keptView{a.view, a.has})
}

// hasTag is the tag of the job as the browser has it.
func hasTag(c *gin.Context) string { return c.GetHeader("Job-Tag") }

// answerJob answers a job as it is now.
func (s *Server) answerJob(c *gin.Context, status int, l *store.Loaded) {
	a, err := s.views.answer(l, hasTag(c))
	if err != nil {
		fail(c, err)
		return
	}
	s.views.keep(a)
	c.Data(status, jsonType, a.body)
}

// conditional answers a read with a tag of its content, or that what the browser has of it is
// still so.
func conditional(c *gin.Context, body []byte) {
	sum := sha256.Sum256(body)
	tag := `W/"` + base64.RawURLEncoding.EncodeToString(sum[:12]) + `"`
	h := c.Writer.Header()
	h.Set("ETag", tag)
	h.Set("Cache-Control", "private, no-cache")
	h.Add("Vary", "Cookie")
	for known := range strings.SplitSeq(c.GetHeader("If-None-Match"), ",") {
		if strings.TrimSpace(known) == tag {
			c.Status(http.StatusNotModified)
			return
		}
	}
	c.Data(http.StatusOK, jsonType, body)
}
