package api

import (
	"bytes"

	"github.com/gin-gonic/gin"

	"arvelt/core/whole"
	"arvelt/paper"
	"arvelt/store"
)

// Quote answers the price of a job, what of it may be declined, what was offered and what was agreed.
func (s *Server) Quote(c *gin.Context, id Id) {
	s.computed(c, id, "quote", func(l *store.Loaded) any { return l.Quote() })
}

// QuotePdf answers the quote as the client reads and signs it.
func (s *Server) QuotePdf(c *gin.Context, id Id, params QuotePdfParams) {
	s.surveyPaper(c, id, "quote", func(out *bytes.Buffer, l *store.Loaded, view *whole.View, on paper.Context) error {
		sheet := l.Quote()
		return paper.Quote(out, view, &sheet, given(params.Rooms), on)
	})
}

// Offer offers the price of a job as it is.
func (s *Server) Offer(c *gin.Context, id Id, params OfferParams) {
	var in store.OfferNow
	s.changes(c, id, params.IdempotencyKey, &in, func(l *store.Loaded) error { return l.Offer(in) })
}

// AnswerQuote keeps what the client made of an offer.
func (s *Server) AnswerQuote(c *gin.Context, id Id, params AnswerQuoteParams) {
	var in whole.Answer
	s.changes(c, id, params.IdempotencyKey, &in, func(l *store.Loaded) error { return l.AnswerQuote(in) })
}

// changes takes a change of a job by what was sent.
func (s *Server) changes(c *gin.Context, id Id, key string, in any, apply func(*store.Loaded) error) {
	who, scope := s.who(c)
	if err := decode(c, in); err != nil {
		fail(c, err)
		return
	}
	l, err := scope.Change(c, who, id, key, apply)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, jobView(l))
}
