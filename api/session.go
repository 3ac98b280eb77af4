package api

import (
	"context"
	"errors"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/gin-gonic/gin"
	"github.com/maypok86/otter/v2"
	"golang.org/x/crypto/bcrypt"

	"arvelt/store"
)

// HashPassword hashes a password for a person's row.
func HashPassword(password string) (string, error) {
	h, err := bcrypt.GenerateFromPassword([]byte(password), bcrypt.DefaultCost)
	return string(h), err
}

// nobody is compared with when the email is unknown, so that an unknown email
// takes as long as a wrong password.
var nobody = sync.OnceValue(func() []byte { h, _ := HashPassword("nobody"); return []byte(h) })

// SignIn starts a session of the person with this email and password.
func (s *Server) SignIn(c *gin.Context) {
	var in Credentials
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	if !s.tries.allow(in.Email) {
		problem(c, Problem{Status: http.StatusTooManyRequests, Title: "Too many tries with this email. Wait five minutes."})
		return
	}
	p, err := s.store.PersonByEmail(c, in.Email)
	hash := []byte(p.Hash)
	if errors.Is(err, store.ErrNotFound) {
		hash, err = nobody(), nil
	}
	if err != nil {
		fail(c, err)
		return
	}
	if bcrypt.CompareHashAndPassword(hash, []byte(in.Password)) != nil || p.ID == "" {
		s.tries.failed(in.Email)
		problem(c, Problem{Status: http.StatusUnauthorized, Title: "Email and password do not belong together."})
		return
	}
	s.enter(c, p)
}

// DemoSignIn signs in as one of the demo company's people, and only theirs.
func (s *Server) DemoSignIn(c *gin.Context) {
	var in DemoSignInJSONBody
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	people, err := s.demoPeople(c)
	if err != nil {
		fail(c, err)
		return
	}
	for _, p := range people {
		if p.ID == in.PersonId {
			s.enter(c, p)
			return
		}
	}
	fail(c, store.ErrNotFound)
}

// loadSession puts the session of the request's cookie into its context.
func (s *Server) loadSession(c *gin.Context) error {
	token, _ := c.Cookie(s.sessions.Cookie.Name)
	ctx, err := s.sessions.Load(c.Request.Context(), token)
	if err == nil {
		c.Request = c.Request.WithContext(ctx)
	}
	return err
}

// enter starts a session under a new token. Only here is a session written:
// reads leave its row alone.
func (s *Server) enter(c *gin.Context, p store.Person) {
	ctx := c.Request.Context()
	if err := s.sessions.RenewToken(ctx); err != nil {
		fail(c, err)
		return
	}
	s.sessions.Put(ctx, personKey, p.ID)
	token, expiry, err := s.sessions.Commit(ctx)
	if err != nil {
		fail(c, err)
		return
	}
	s.sessions.WriteSessionCookie(ctx, c.Writer, token, expiry)
	s.answerMe(c, p)
}

func (s *Server) answerMe(c *gin.Context, p store.Person) {
	company, err := s.store.For(p.CompanyID).Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, Me{Id: p.ID, Name: p.Name, Email: p.Email, Role: p.Role, Company: company.Name, CompanyId: company.ID,
		Locale: string(company.Settings.Speaks()), Timezone: company.Timezone,
		Demo: company.Demo, Currency: company.Currency})
}

// WhoAmI answers who is signed in.
func (s *Server) WhoAmI(c *gin.Context) {
	p, err := s.person(c)
	if errors.Is(err, errSignedOut) {
		s.signedOut(c)
		return
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.answerMe(c, p)
}

// SignOut ends the session on every instance.
func (s *Server) SignOut(c *gin.Context) {
	if err := s.sessions.Destroy(c.Request.Context()); err != nil {
		fail(c, err)
		return
	}
	if err := s.store.SessionEnded(c); err != nil {
		fail(c, err)
		return
	}
	s.sessions.WriteSessionCookie(c.Request.Context(), c.Writer, "", time.Time{})
	c.Status(http.StatusNoContent)
}

// demoPeople are whom the demo sign-in lets in: nobody but where the server was started with it, and
// only for a browser on this machine.
func (s *Server) demoPeople(c *gin.Context) ([]store.Person, error) {
	if !s.door.demo || !Loopback(c.Request.Host) {
		return nil, nil
	}
	return s.store.DemoPeople(c)
}

// DemoPeople lists whom the demo sign-in offers.
func (s *Server) DemoPeople(c *gin.Context) {
	people, err := s.demoPeople(c)
	if err != nil {
		fail(c, err)
		return
	}
	out := make([]Person, len(people))
	for i, p := range people {
		out[i] = Person{Id: p.ID, Name: p.Name, Email: p.Email, Role: p.Role}
	}
	reply(c, out)
}

// remember is how long a session or a person that was read is trusted without
// reading it again. A sign-out clears it at once, here and, by the event, on
// the other instances.
const remember = 5 * time.Second

// sessionCache is the sessions table with what was just read kept for a
// moment, so that one look at a sheet does not ask who is looking three times.
type sessionCache struct {
	table *pgxstore.PostgresStore
	store *store.Store
	found *otter.Cache[string, []byte]
	known *otter.Cache[string, store.Person]
}

func newSessionCache(st *store.Store) *sessionCache {
	return &sessionCache{table: pgxstore.New(st.Pool), store: st, found: shortly[[]byte](), known: shortly[store.Person]()}
}

// sessionsMost bounds the sessions and people that are kept for a moment.
const sessionsMost = 10_000

// shortly keeps things for as long as an instance trusts what it read.
func shortly[T any]() *otter.Cache[string, T] {
	return otter.Must(&otter.Options[string, T]{MaximumSize: sessionsMost, ExpiryCalculator: otter.ExpiryWriting[string, T](remember)})
}

func (s *sessionCache) close() { s.table.StopCleanup() }

// forget drops everything kept.
func (s *sessionCache) forget() {
	s.found.InvalidateAll()
	s.known.InvalidateAll()
}

// Find returns a session's data (scs.Store).
func (s *sessionCache) Find(token string) ([]byte, bool, error) {
	if data, ok := s.found.GetIfPresent(token); ok {
		return data, true, nil
	}
	data, there, err := s.table.Find(token)
	if err == nil && there {
		s.found.Set(token, data)
	}
	return data, there, err
}

// Delete ends a session (scs.Store).
func (s *sessionCache) Delete(token string) error {
	s.found.Invalidate(token)
	return s.table.Delete(token)
}

// Commit saves a session (scs.Store).
func (s *sessionCache) Commit(token string, b []byte, expiry time.Time) error {
	s.found.Invalidate(token)
	return s.table.Commit(token, b, expiry)
}

// person reads a person of a session.
func (s *sessionCache) person(ctx context.Context, id string) (store.Person, error) {
	if p, ok := s.known.GetIfPresent(id); ok {
		return p, nil
	}
	p, err := s.store.PersonByID(ctx, id)
	if err == nil {
		s.known.Set(id, p)
	}
	return p, err
}

// tries slows down guessing: ten failures with one email close it for five minutes.
type tries struct {
	mu   sync.Mutex
	seen *otter.Cache[string, []time.Time]
}

const (
	triesMost   = 10
	triesWindow = 5 * time.Minute
	emailsMost  = 10_000 // a bound on what guessing can make us keep
)

func newTries() *tries {
	return &tries{seen: otter.Must(&otter.Options[string, []time.Time]{MaximumSize: emailsMost,
		ExpiryCalculator: otter.ExpiryWriting[string, []time.Time](triesWindow)})}
}

// recent are the failures with an email that still count.
func (t *tries) recent(email string) []time.Time {
	all, _ := t.seen.GetIfPresent(email)
	return slices.DeleteFunc(slices.Clone(all), func(at time.Time) bool { return time.Since(at) >= triesWindow })
}

func (t *tries) allow(email string) bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	return len(t.recent(email)) < triesMost
}

func (t *tries) failed(email string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.seen.Set(email, append(t.recent(email), time.Now()))
}
