package api

import (
	"crypto/rand"
	"log/slog"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/store"
)

// requestKey is under what the id of a request stands in its context; the answer has it as Request-Id.
const requestKey = "request"

// pathOf is the path of a request as it is logged: of a calendar without the secret that stands in it.
func pathOf(c *gin.Context) string {
	if c.FullPath() == calendarPath {
		return calendarPath
	}
	return cut(c.Request.URL.Path)
}

// logged writes one line for each request once it is answered: who, what, how it went and how long it took. No body, no query, no
// header: what people type is in no log. What is asked again and again and went well is left out.
func logged(c *gin.Context) {
	id := rand.Text()
	c.Set(requestKey, id)
	c.Header("Request-Id", id)
	began := time.Now()
	c.Next()
	status := c.Writer.Status()
	if status < http.StatusBadRequest && (c.FullPath() == "" || c.FullPath() == "/healthz") {
		return
	}
	line := []any{"request", id, "method", c.Request.Method, "path", pathOf(c), "status", status, "ms", time.Since(began).Milliseconds(),
		"address", c.ClientIP()}
	if who, ok := c.Get(personKey); ok {
		p := who.(store.Person)
		line = append(line, "person", p.ID, "company", p.CompanyID)
	}
	slog.Info("answered", line...)
}
