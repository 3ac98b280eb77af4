package api

import (
	"context"
	"net/http"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/store"
)

// JobStock answers what of the company's stock could serve a job, and what the job will have left.
func (s *Server) JobStock(c *gin.Context, id Id) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	_, scope := s.who(c)
	stock, err := scope.Stock(c)
	if err != nil {
		fail(c, err)
		return
	}
	view := l.View()
	reply(c, JobStock{Offers: materials.FromStock(&view.Take, view.Job, stock), Surplus: materials.SurplusOf(&view.Take, view.Job)})
}

// TakeStock takes something out of the stock for a job.
func (s *Server) TakeStock(c *gin.Context, id Id, params TakeStockParams) {
	var in StockTaken
	s.moves(c, &in, func(ctx context.Context, scope store.Scope, who store.Person) (*store.Loaded, error) {
		return scope.TakeStock(ctx, who, id, params.IdempotencyKey, in.Item, in.Count)
	})
}

// LeaveStock puts what somebody counted of a job's parts into the stock.
func (s *Server) LeaveStock(c *gin.Context, id Id, params LeaveStockParams) {
	var in materials.Leave
	s.moves(c, &in, func(ctx context.Context, scope store.Scope, who store.Person) (*store.Loaded, error) {
		return scope.LeaveStock(ctx, who, id, params.IdempotencyKey, in)
	})
}

// moves reads what is asked for, does it, and answers the job.
func (s *Server) moves(c *gin.Context, in any, do func(context.Context, store.Scope, store.Person) (*store.Loaded, error)) {
	who, scope := s.who(c)
	if err := decode(c, in); err != nil {
		fail(c, err)
		return
	}
	l, err := do(c, scope, who)
	if err != nil {
		fail(c, err)
		return
	}
	s.answerJob(c, http.StatusOK, l)
}

// Stock answers what lies in the vans and on the shelves of the company.
func (s *Server) Stock(c *gin.Context) {
	_, scope := s.who(c)
	items, err := scope.Stock(c)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, Stocked{Items: items})
}

// AddStock puts something into the stock that is of no job.
func (s *Server) AddStock(c *gin.Context, params AddStockParams) {
	var in StockAdded
	s.stocks(c, &in, func(ctx context.Context, scope store.Scope, who store.Person) error {
		return scope.AddStock(ctx, who, params.IdempotencyKey, materials.Kept{Product: in.Product, Name: in.Name, Unit: in.Unit, ByLength: in.ByLength,
			Count: in.Count, Place: in.Place})
	})
}

// SetStock puts right how much lies there of something and where.
func (s *Server) SetStock(c *gin.Context, item string, params SetStockParams) {
	var in StockSet
	s.stocks(c, &in, func(ctx context.Context, scope store.Scope, who store.Person) error {
		return scope.SetStock(ctx, who, params.IdempotencyKey, item, in.Count, in.Place)
	})
}

// stocks reads what is asked for, does it for whoever may, and answers the stock.
func (s *Server) stocks(c *gin.Context, in any, do func(context.Context, store.Scope, store.Person) error) {
	who, scope := s.who(c)
	if err := decode(c, in); err != nil {
		fail(c, err)
		return
	}
	if who.Role == install.RoleApprentice {
		fail(c, &Forbidden{"The stock is put right by anybody but an apprentice."})
		return
	}
	if err := do(c, scope, who); err != nil {
		fail(c, err)
		return
	}
	s.Stock(c)
}
