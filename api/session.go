package api

import (
	"context"
	"errors"
	"net/http"
	"sync"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/gin-gonic/gin"
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
	people, err := s.store.DemoPeople(c)
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

// DemoPeople lists whom the demo sign-in offers.
func (s *Server) DemoPeople(c *gin.Context) {
	people, err := s.store.DemoPeople(c)
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
	mu    sync.Mutex
	found map[string]foundSession
	known map[string]knownPerson
}

type foundSession struct {
	data  []byte
	until time.Time
}

type knownPerson struct {
	store.Person
	until time.Time
}

func newSessionCache(st *store.Store) *sessionCache {
	return &sessionCache{table: pgxstore.New(st.Pool), store: st, found: map[string]foundSession{}, known: map[string]knownPerson{}}
}

func (s *sessionCache) close() { s.table.StopCleanup() }

// forget drops everything kept.
func (s *sessionCache) forget() {
	s.mu.Lock()
	defer s.mu.Unlock()
	clear(s.found)
	clear(s.known)
}

// Find returns a session's data (scs.Store).
func (s *sessionCache) Find(token string) ([]byte, bool, error) {
	s.mu.Lock()
	kept, ok := s.found[token]
	s.mu.Unlock()
	if ok && time.Now().Before(kept.until) {
		return kept.data, true, nil
	}
	data, there, err := s.table.Find(token)
	if err == nil && there {
		s.mu.Lock()
		if len(s.found) > 10000 { // a bound, not a tuning: an entry lives five seconds
			clear(s.found)
		}
		s.found[token] = foundSession{data, time.Now().Add(remember)}
		s.mu.Unlock()
	}
	return data, there, err
}

// Delete ends a session (scs.Store).
func (s *sessionCache) Delete(token string) error {
	s.drop(token)
	return s.table.Delete(token)
}

// Commit saves a session (scs.Store).
func (s *sessionCache) Commit(token string, b []byte, expiry time.Time) error {
	s.drop(token)
	return s.table.Commit(token, b, expiry)
}

func (s *sessionCache) drop(token string) {
	s.mu.Lock()
	delete(s.found, token)
	s.mu.Unlock()
}

// person reads a person of a session.
func (s *sessionCache) person(ctx context.Context, id string) (store.Person, error) {
	s.mu.Lock()
	kept, ok := s.known[id]
	s.mu.Unlock()
	if ok && time.Now().Before(kept.until) {
		return kept.Person, nil
	}
	p, err := s.store.PersonByID(ctx, id)
	if err == nil {
		s.mu.Lock()
		s.known[id] = knownPerson{p, time.Now().Add(remember)}
		s.mu.Unlock()
	}
	return p, err
}

// tries slows down guessing: ten failures with one email close it for five minutes.
type tries struct {
	mu   sync.Mutex
	seen map[string][]time.Time
}

const (
	triesMost   = 10
	triesWindow = 5 * time.Minute
)

func newTries() *tries { return &tries{seen: map[string][]time.Time{}} }

func (t *tries) allow(email string) bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	recent := t.seen[email][:0]
	for _, at := range t.seen[email] {
		if time.Since(at) < triesWindow {
			recent = append(recent, at)
		}
	}
	if len(recent) == 0 {
		delete(t.seen, email)
	} else {
		t.seen[email] = recent
	}
	return len(recent) < triesMost
}

func (t *tries) failed(email string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if len(t.seen) > 10000 { // a bound on what guessing can make us keep
		clear(t.seen)
	}
	t.seen[email] = append(t.seen[email], time.Now())
}
