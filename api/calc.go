package api

import (
	"io"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"arvelt/core/materials"
	"arvelt/core/whole"
	"arvelt/core/working"
	"arvelt/store"
)

// Calcs answers the named calculations of every practice.
func (s *Server) Calcs(c *gin.Context) {
	out := []Calculation{}
	for _, id := range whole.PracticeIDs {
		family := whole.Practices[id].Words()[id]
		for _, k := range whole.Practices[id].Calcs() {
			out = append(out, Calculation{Practice: id, Family: family, Name: k.Name, Title: k.Title, About: k.About, In: k.In, Out: k.Out})
		}
	}
	reply(c, out)
}

// Calculate runs one calculation. What it refuses is said as the calculation
// says it: key, value and what is accepted.
func (s *Server) Calculate(c *gin.Context, practice string, name string) {
	input, err := io.ReadAll(c.Request.Body)
	if err != nil {
		fail(c, err)
		return
	}
	p, known := whole.Practices[practice]
	if !known {
		fail(c, store.ErrNotFound)
		return
	}
	for _, k := range p.Calcs() {
		if k.Name != name {
			continue
		}
		values, steps, err := k.Run(input)
		if err != nil {
			problem(c, Problem{Status: http.StatusUnprocessableEntity, Title: err.Error()})
			return
		}
		if steps == nil {
			steps = []working.Step{}
		}
		reply(c, Calculated{Values: values, Steps: steps, Keys: k.KeysOf(values)})
		return
	}
	fail(c, store.ErrNotFound)
}

// WhatIf computes the job with one part changed and keeps nothing.
func (s *Server) WhatIf(c *gin.Context, id Id, params WhatIfParams) {
	p, scope := s.who(c)
	body, err := io.ReadAll(c.Request.Body)
	if err != nil {
		fail(c, err)
		return
	}
	l, err := scope.Job(c, p, id)
	if err != nil {
		fail(c, err)
		return
	}
	practice := whole.Practice(&l.Job)
	before := practice.Judge(&l.Job)
	old := l.Job
	old.Circuits = slices.Clone(l.Job.Circuits)
	if err := l.SetPart(params.Part, l.Versions[params.Part], body); err != nil {
		fail(c, err)
		return
	}
	out := WhatIf{Report: practice.Report(&l.Job, materials.Price(practice, l.Prices))}
	out.Differences = whole.Compare(&before, &out.Report)
	if extra, ok := materials.Extra(practice, l.Prices, &old, &l.Job); ok {
		out.Extra = &extra
	}
	reply(c, out)
}
