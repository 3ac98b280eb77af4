package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"regexp"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/jackc/pgx/v5/pgconn"

	"arvelt/core/goods"
	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/whole"
	"arvelt/paper"
	"arvelt/picture"
	"arvelt/store"
)

// BadRequest says what is wrong with a request and what would be accepted.
type BadRequest struct{ Why string }

func (e *BadRequest) Error() string { return e.Why }

// Forbidden says who may do what somebody else wanted to.
type Forbidden struct{ Why string }

func (e *Forbidden) Error() string { return e.Why }

var errSignedOut = errors.New("nobody is signed in, or the session has expired: sign in again; what you typed is kept")

func problem(c *gin.Context, p Problem) {
	writeProblem(c.Writer, p)
	c.Abort()
}

func writeProblem(w http.ResponseWriter, p Problem) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(p.Status)
	if err := json.NewEncoder(w).Encode(p); err != nil {
		slog.Debug("answer", "err", err)
	}
}

// fail answers with the problem that an error is. What is not known here is a
// fault of ours: it goes to the log and not to the reader.
func fail(c *gin.Context, err error) {
	p := problemOf(err)
	if p.Status >= http.StatusInternalServerError {
		slog.Error("request", "request", c.GetString(requestKey), "err", err)
	}
	problem(c, p)
}

// longWord is what no sentence of ours has: a word of more than repeatMost characters.
var longWord = regexp.MustCompile(`(\S{200})\S+`)

// repeatMost is how much an answer repeats of what was sent, in characters.
const repeatMost = 200

func cut(text string) string {
	if r := []rune(text); len(r) > repeatMost {
		return string(r[:repeatMost]) + "…"
	}
	return text
}

// fieldsOf are the cells of a file that cannot be read as fields.
func fieldsOf(cells goods.Errors) (out install.Errors) {
	for _, e := range cells {
		field := e.Column
		if e.Row > 0 {
			field = fmt.Sprintf("row %d, %s", e.Row, e.Column)
		}
		out = append(out, install.FieldError{Field: field, Value: e.Value, Accept: e.Accept})
	}
	return out
}

func problemOf(err error) Problem {
	var (
		fields   install.Errors
		cells    goods.Errors
		stale    *store.StaleError
		role     *proving.RoleError
		others   *Forbidden
		part     *store.PartRoleError
		notYet   *proving.NotYetError
		frozen   *store.FrozenError
		taken    *store.RefTakenError
		key      *store.KeyError
		nothing  *store.NothingError
		bad      *BadRequest
		tooLarge *http.MaxBytesError
		table    *paper.TableError
		photo    *picture.Error
		connect  *pgconn.ConnectError
		unsure   *store.UnsureError
		practice *whole.UnknownPracticeError
		email    *store.EmailTakenError
		many     *store.TooManyError
		busy     *BusyError
		wrong    *WrongPasswordError
		said     *pgconn.PgError
	)
	// What is no list of fields repeats no more than the end of a long word.
	p := func(status int) Problem {
		return Problem{Status: status, Title: longWord.ReplaceAllString(err.Error(), "$1…")}
	}
	if errors.As(err, &cells) {
		err = fieldsOf(cells)
	}
	switch {
	case errors.As(err, &stale):
		out := p(http.StatusConflict)
		out.Theirs = &struct {
			At      string `json:"at"`
			Body    any    `json:"body"`
			By      string `json:"by"`
			Version int    `json:"version"`
		}{stale.At.UTC().Format(time.RFC3339), stale.Body, stale.By, stale.Version}
		return out
	case errors.As(err, &fields):
		list := make([]FieldError, len(fields))
		for i, f := range fields {
			list[i] = FieldError{Field: cut(f.Field), Value: cut(f.Value), Accept: f.Accept}
		}
		out := Problem{Status: http.StatusUnprocessableEntity, Title: install.Errors(list).Error()}
		out.Fields = &list
		return out
	case errors.As(err, &unsure):
		return Problem{Status: http.StatusServiceUnavailable,
			Title: "It is not known whether this was saved: the database did not answer. Sent again under the same key it is saved once."}
	case errors.Is(err, errSignedOut):
		return p(http.StatusUnauthorized)
	case errors.As(err, &role), errors.As(err, &others), errors.As(err, &part):
		return p(http.StatusForbidden)
	case errors.As(err, &many):
		return p(http.StatusTooManyRequests)
	case errors.As(err, &wrong):
		return p(http.StatusUnprocessableEntity)
	case errors.As(err, &busy):
		return p(http.StatusServiceUnavailable)
	case errors.As(err, &email), errors.As(err, &notYet), errors.As(err, &frozen), errors.As(err, &taken), errors.As(err, &key),
		errors.As(err, &nothing), errors.As(err, &practice):
		return p(http.StatusConflict)
	case errors.Is(err, store.ErrNotFound):
		return Problem{Status: http.StatusNotFound, Title: "There is no such thing in your company."}
	case errors.As(err, &table):
		return p(http.StatusNotFound)
	case errors.As(err, &tooLarge):
		return Problem{Status: http.StatusRequestEntityTooLarge,
			Title: fmt.Sprintf("The body is larger than %d kB, the most that is accepted here.", tooLarge.Limit>>10)}
	case errors.As(err, &photo):
		return p(http.StatusUnsupportedMediaType)
	case errors.As(err, &bad):
		return p(http.StatusBadRequest)
	case errors.As(err, &said) && (said.Code == "55P03" || said.Code == "57014"):
		return Problem{Status: http.StatusServiceUnavailable,
			Title: "Somebody else holds what this is about, and it takes too long. Nothing was saved; try again."}
	case errors.Is(err, context.Canceled):
		return Problem{Status: 499, Title: "The client has gone."}
	case errors.As(err, &connect), errors.Is(err, context.DeadlineExceeded):
		return Problem{Status: http.StatusServiceUnavailable, Title: "The database is not reachable. Nothing was saved; try again."}
	}
	return Problem{Status: http.StatusInternalServerError,
		Title: "Arvelt failed at this. Nothing was saved; the failure is in the server's log."}
}
