package api

import (
	"context"
	"errors"
	"net/http"
	"runtime"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/maypok86/otter/v2"
	"golang.org/x/crypto/bcrypt"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/words"
	"arvelt/store"
)

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
	try := s.tryOf(c, in.Email)
	if err := s.store.Attempt(c, try); err != nil {
		fail(c, err)
		return
	}
	p, err := s.store.PersonByEmail(c, try.Account)
	hash := []byte(p.Hash)
	if errors.Is(err, store.ErrNotFound) || err == nil && p.Hash == "" {
		hash, err = nobody(), nil
	}
	fits := false
	if err == nil {
		fits, err = s.fits(c, hash, in.Password)
	}
	if err != nil {
		fail(c, err)
		return
	}
	if !fits || p.ID == "" {
		if p.ID != "" {
			if err := s.store.For(p.CompanyID).Note(c, p, store.Failed, ""); err != nil {
				fail(c, err)
				return
			}
		}
		problem(c, Problem{Status: http.StatusUnauthorized, Title: "Email and password do not belong together."})
		return
	}
	if err := s.store.CameIn(c, try, p.ID, s.device(c)); err != nil {
		fail(c, err)
		return
	}
	s.enter(c, p)
}

// BusyError says that more is asked at once than is answered at once.
type BusyError struct{}

func (*BusyError) Error() string { return "Too much at once. Try again in a moment." }

// hashers bounds how many passwords are hashed at once, so that guessing does not take the machine
// from those who work, and how many wait for it.
type hashers struct{ slots, queue slots }

const hashesWait = 32

func newHashers() *hashers {
	return &hashers{slots: make(slots, max(1, runtime.GOMAXPROCS(0)/2)), queue: make(slots, hashesWait)}
}

// hashing takes the right to hash a password; done gives it back.
func (s *Server) hashing(ctx context.Context) (done func(), err error) {
	h := s.hashers
	select {
	case h.queue <- struct{}{}:
	default:
		return nil, &BusyError{}
	}
	defer func() { <-h.queue }()
	return h.slots.take(ctx)
}

// fits reports whether a password is the one of a hash, and hash makes one, each when it is its turn.
func (s *Server) fits(ctx context.Context, hash []byte, password string) (bool, error) {
	done, err := s.hashing(ctx)
	if err != nil {
		return false, err
	}
	defer done()
	return bcrypt.CompareHashAndPassword(hash, []byte(password)) == nil, nil
}

func (s *Server) hash(ctx context.Context, password string) (string, error) {
	done, err := s.hashing(ctx)
	if err != nil {
		return "", err
	}
	defer done()
	return HashPassword(password)
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

// enter starts a session and answers who is signed in.
func (s *Server) enter(c *gin.Context, p store.Person) {
	if err := s.begin(c, p); err != nil {
		fail(c, err)
		return
	}
	s.answerMe(c, p)
}

// begin starts a session under a new token. Only here is a session written: reads leave its row alone.
func (s *Server) begin(c *gin.Context, p store.Person) error {
	ctx := c.Request.Context()
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	s.sessions.Put(ctx, personKey, p.ID)
	token, expiry, err := s.sessions.Commit(ctx)
	if err != nil {
		return err
	}
	agent := strings.ToValidUTF8(c.GetHeader("User-Agent"), "?")
	if err := s.store.For(p.CompanyID).Began(ctx, p.ID, store.Session{Token: store.KeptToken(token), Agent: agent[:min(len(agent), 200)],
		Address: c.ClientIP()}); err != nil {
		return err
	}
	s.sessions.WriteSessionCookie(ctx, c.Writer, token, expiry)
	return s.store.For(p.CompanyID).Note(c, p, store.CameIn, "")
}

func (s *Server) answerMe(c *gin.Context, p store.Person) {
	company, err := s.store.For(p.CompanyID).Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, Me{Id: p.ID, Name: p.Name, Email: p.Email, Role: p.Role, Company: company.Name, CompanyId: company.ID,
		Locale: string(company.Settings.Speaks()), Timezone: company.Timezone,
		Demo: company.Demo, Currency: company.Currency, Open: company.Demo && s.door.demo, Starts: p.Role != install.RoleApprentice,
		Manages: proving.Manages(p.Role), Decides: mayDecide(p) == nil, Owns: owns(p) == nil, Authorities: authorities(company)})
}

// authorities are what somebody can be authorised to do, in the words of the company.
func authorities(k store.Company) []Named {
	w := words.In(k.Settings.Speaks())
	out := []Named{}
	for _, a := range install.AuthorityList {
		out = append(out, Named{Id: string(a), Name: w.Say(string(install.AuthorityNames[a]))})
	}
	return out
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
	if p, err := s.person(c); err == nil {
		if err := s.store.For(p.CompanyID).Note(c, p, store.WentOut, ""); err != nil {
			fail(c, err)
			return
		}
	}
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
	store *store.Store
	found *otter.Cache[string, []byte]
	known *otter.Cache[string, store.Person]
}

func newSessionCache(st *store.Store) *sessionCache {
	return &sessionCache{store: st, found: shortly[[]byte](), known: shortly[store.Person]()}
}

// sessionsMost bounds the sessions and people that are kept for a moment.
const sessionsMost = 10_000

// shortly keeps things for as long as an instance trusts what it read.
func shortly[T any]() *otter.Cache[string, T] {
	return otter.Must(&otter.Options[string, T]{MaximumSize: sessionsMost, ExpiryCalculator: otter.ExpiryWriting[string, T](remember)})
}

// forget drops everything kept.
func (s *sessionCache) forget() {
	s.found.InvalidateAll()
	s.known.InvalidateAll()
}

// FindCtx returns a session's data (scs.CtxStore).
func (s *sessionCache) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	if data, ok := s.found.GetIfPresent(token); ok {
		return data, true, nil
	}
	data, there, err := s.store.FindSession(ctx, token)
	if err == nil && there {
		s.found.Set(token, data)
	}
	return data, there, err
}

// DeleteCtx ends a session (scs.CtxStore).
func (s *sessionCache) DeleteCtx(ctx context.Context, token string) error {
	s.found.Invalidate(token)
	return s.store.DropSession(ctx, token)
}

// CommitCtx saves a session (scs.CtxStore).
func (s *sessionCache) CommitCtx(ctx context.Context, token string, b []byte, expiry time.Time) error {
	s.found.Invalidate(token)
	return s.store.KeepSession(ctx, token, b, expiry)
}

// Find is FindCtx without a context (scs.Store).
func (s *sessionCache) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Delete is DeleteCtx without a context (scs.Store).
func (s *sessionCache) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }

// Commit is CommitCtx without a context (scs.Store).
func (s *sessionCache) Commit(token string, b []byte, expiry time.Time) error {
	return s.CommitCtx(context.Background(), token, b, expiry)
}

// person reads a person of a session.
func (s *sessionCache) person(ctx context.Context, id string) (store.Person, error) {
	if p, ok := s.known.GetIfPresent(id); ok {
		return p, nil
	}
	p, err := s.store.PersonByID(ctx, id)
	if err == nil && p.Left {
		err = store.ErrNotFound
	}
	if err == nil {
		s.known.Set(id, p)
	}
	return p, err
}
