// Package api serves the contract of openapi.yaml over HTTP with Gin.
//
// Every edit takes the same short path: a handler decodes, the store loads the
// job and holds it to the signed-in person's company, the core computes, the
// store saves in one transaction with an audit row, the handler encodes. No
// rule of the trade lives here.
package api

//go:generate go run ./contract
//go:generate go tool oapi-codegen -config oapi.yaml openapi.yaml

import (
	"bytes"
	"cmp"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"mime"
	"net/http"
	"path/filepath"
	"runtime/debug"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/picture"
	"arvelt/store"
)

// Version is what /healthz reports.
const Version = "1"

// Server answers the contract.
type Server struct {
	orders   orders
	store    *store.Store
	sessions *scs.SessionManager
	known    *sessionCache
	heavy    slots
	hub      *hub
	answers  answerCache
	views    views
	hashers  *hashers
	door     *door
	roll     *roll
	proxies  []string
	draining sync.Once
	drained  chan struct{}
	// cutsShown is of Options.
	cutsShown time.Duration
	beat      heartbeat
	stop      context.CancelFunc
	done      sync.WaitGroup
	courier   *courier
	buyer     *buyer
	router    http.Handler // once it is made; what was left on a device goes the way of every write
}

var _ ServerInterface = (*Server)(nil)

// Options are what a server is connected to beside its database.
type Options struct {
	DeskURL     string // of the network operator's desk; empty when none is
	MerchantURL string // of the merchant who takes orders over the wire; empty when none does
	// DeskPace is the pause between looks for something to send; 0 for a second.
	// A call may take ten times as long.
	DeskPace time.Duration
	// CutsShown is how often cut plans that are looked for are shown as they are; 0 for four times a second.
	CutsShown time.Duration
	// Addresses are those under which people reach the server beside this machine's own names, as
	// https://arvelt.firm.example. Where all are https the session's cookie goes by TLS only.
	Addresses []string
	// Proxies are the addresses or networks of proxies whose X-Forwarded-For is believed; none when empty.
	Proxies []string
	// DemoSignIn lets the demo company's people in without a password, on this machine's own names.
	DemoSignIn bool
}

// New makes a server on a store. Close ends its background work. It errs where an address is not
// understood.
func New(st *store.Store, o Options) (*Server, error) {
	entry, err := newDoor(o.Addresses, o.DemoSignIn)
	if err != nil {
		return nil, err
	}
	gin.SetMode(gin.ReleaseMode)
	if err := gin.New().SetTrustedProxies(o.Proxies); err != nil {
		return nil, fmt.Errorf("ARVELT_PROXY: %.200v is not accepted; give addresses or networks with commas, as 10.0.0.7 or 10.0.0.0/24", o.Proxies)
	}
	ctx, stop := context.WithCancel(context.Background())
	s := &Server{store: st, answers: newAnswerCache(), views: newViews(), heavy: newHeavy(), hashers: newHashers(),
		stop: stop, door: entry, proxies: o.Proxies, cutsShown: cmp.Or(o.CutsShown, time.Second/4), drained: make(chan struct{})}
	s.known = newSessionCache(st)
	s.sessions = scs.New()
	s.sessions.Store = s.known
	s.sessions.Lifetime = 14 * 24 * time.Hour
	s.sessions.Cookie.Name = "arvelt"
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.Secure = entry.secure
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode
	s.hub, s.roll = newHub(st, s.known), newRoll()
	s.done.Add(1)
	go func() { defer s.done.Done(); s.hub.run(ctx) }()
	s.courier = &courier{newWire(o.DeskURL, "the desk", o.DeskPace), st}
	s.buyer = &buyer{newWire(o.MerchantURL, "the merchant", o.DeskPace), st}
	s.done.Add(2)
	go func() { defer s.done.Done(); s.courier.run(ctx, s.courier.round) }()
	go func() { defer s.done.Done(); s.buyer.run(ctx, s.buyer.round) }()
	s.done.Add(1)
	go func() { defer s.done.Done(); forget(ctx, st) }()
	return s, nil
}

// forget takes off what nobody can still be waiting with: sessions that ran out, now and then, and keys of writes, once a day.
func forget(ctx context.Context, st *store.Store) {
	day := time.Time{}
	for {
		_, err := st.ForgetSessions(ctx)
		if err == nil && time.Since(day) > 24*time.Hour {
			day = time.Now()
			_, err = st.ForgetKeys(ctx)
		}
		if err != nil && ctx.Err() == nil {
			slog.Error("forgetting old sessions and keys", "err", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(forgetEvery):
		}
	}
}

// forgetEvery is how often sessions that ran out are taken off.
const forgetEvery = 5 * time.Minute

// Drain ends the streams of events, so that the server can end: browsers come back to the next one.
func (s *Server) Drain() { s.draining.Do(func() { close(s.drained) }) }

// Close stops listening for events.
func (s *Server) Close() {
	s.stop()
	s.done.Wait()
}

// maxBody is the largest request body in bytes; an imported job file may be
// larger than an edit.
const maxBody = 1 << 20

// Router returns the engine with the contract's routes.
func (s *Server) Router() *gin.Engine {
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.ContextWithFallback = true // work stops when the client has gone
	if err := r.SetTrustedProxies(s.proxies); err != nil {
		panic(err) // New held them to it
	}
	r.Use(logged, s.recover, s.guard)
	RegisterHandlersWithOptions(r, s, GinServerOptions{ErrorHandler: func(c *gin.Context, err error, status int) {
		fail(c, badParameter(err))
	}})
	r.GET(keyPath, s.keyPage)
	r.GET(calendarPath, s.calendar)
	r.NoMethod(func(c *gin.Context) {
		problem(c, Problem{Status: http.StatusMethodNotAllowed, Title: fmt.Sprintf("%.20s is not offered at %.200s.", c.Request.Method, c.Request.URL.Path)})
	})
	s.router = r
	return r
}

// badParameter says which parameter of a path or query was wrong, and how.
func badParameter(err error) error {
	said, _, named := strings.Cut(err.Error(), ":")
	name, wrong := strings.CutPrefix(said, "Invalid format for parameter ") // as the generated code says it
	if !named || !wrong {
		return &BadRequest{err.Error()}
	}
	var number *strconv.NumError
	if errors.As(err, &number) {
		return &BadRequest{fmt.Sprintf("%s: %.200q is not accepted; give a whole number", name, number.Num)}
	}
	return &BadRequest{name + ": what was sent cannot be read; send it as plain text"}
}

// Handler is the router with the interface beside it; files may be nil.
func (s *Server) Handler(files fs.FS) http.Handler {
	r := s.Router()
	if files != nil {
		r.NoRoute(serveFiles(files))
	}
	return compressing(r)
}

// compressing packs answers that are worth it on their way; the events of a job stream
// through as they are, as does what is packed already.
func compressing(next http.Handler) http.Handler {
	wrap, err := gzhttp.NewWrapper(gzhttp.MinSize(2048), gzhttp.CompressionLevel(gzip.BestSpeed),
		gzhttp.ContentTypes([]string{"application/json", "application/problem+json", "text/csv"}))
	if err != nil {
		panic(err) // the options are fixed above
	}
	packing := wrap(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/api/events" {
			next.ServeHTTP(w, r)
			return
		}
		packing.ServeHTTP(w, r)
	})
}

// webManifest is what makes the interface installable (W3C Web Application Manifest).
const webManifest = "application/manifest+json"

// serveFiles serves the built interface: hashed assets for ever, and the page
// itself for every other path, as the interface routes by path.
func serveFiles(files fs.FS) gin.HandlerFunc {
	server := http.FileServerFS(files)
	if err := mime.AddExtensionType(".webmanifest", webManifest); err != nil {
		panic(err) // both are fixed above
	}
	return func(c *gin.Context) {
		path := strings.TrimPrefix(c.Request.URL.Path, "/")
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead || path == "api" || strings.HasPrefix(path, "api/") ||
			strings.HasPrefix(path, ".") || strings.Contains(path, "/.") {
			problem(c, Problem{Status: http.StatusNotFound, Title: fmt.Sprintf("There is nothing at %.200s.", c.Request.URL.Path)})
			return
		}
		c.Status(http.StatusOK)
		if info, err := fs.Stat(files, path); path != "" && err == nil && !info.IsDir() {
			if strings.HasPrefix(path, "assets/") {
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			if !packed(c, files, path) {
				server.ServeHTTP(c.Writer, c.Request)
			}
			return
		}
		page, err := fs.ReadFile(files, "index.html")
		if err != nil {
			if page, err = fs.ReadFile(files, "placeholder.html"); err != nil {
				problem(c, Problem{Status: http.StatusNotFound, Title: "The interface is not built."})
				return
			}
		}
		c.Header("Cache-Control", "no-cache")
		if path = "index.html"; packed(c, files, path) {
			return
		}
		c.Data(http.StatusOK, "text/html; charset=utf-8", page)
	}
}

// packed serves a file in the compressed form that was made when the interface was built,
// where there is one that the browser reads.
func packed(c *gin.Context, files fs.FS, path string) bool {
	c.Header("Vary", "Accept-Encoding")
	accepts := c.GetHeader("Accept-Encoding")
	for _, form := range []struct{ name, ending string }{{"br", ".br"}, {"gzip", ".gz"}} {
		if !strings.Contains(accepts, form.name) {
			continue
		}
		body, err := fs.ReadFile(files, path+form.ending)
		if err != nil {
			continue
		}
		c.Header("Content-Encoding", form.name)
		c.Data(http.StatusOK, mime.TypeByExtension(filepath.Ext(path)), body)
		return true
	}
	return false
}

// fingerprint takes the idempotency key of a write: it must be of the contract's length, and
// is good for this path and body alone. It answers where it is not.
func fingerprint(c *gin.Context) {
	key := c.GetHeader("Idempotency-Key")
	if key == "" {
		return // where the contract asks for one it says so itself
	}
	if len(key) < 8 || len(key) > 100 || strings.ContainsFunc(key, func(r rune) bool { return r <= ' ' || r > '~' }) {
		fail(c, install.Errors{{Field: "Idempotency-Key", Value: fmt.Sprintf("%.40q", key),
			Accept: "8 to 100 letters, digits and signs of ASCII"}})
		return
	}
	body, err := io.ReadAll(c.Request.Body)
	if err != nil {
		fail(c, err)
		return
	}
	c.Request.Body, c.Request.ContentLength = io.NopCloser(bytes.NewReader(body)), int64(len(body))
	if c.FullPath() == signPath {
		body = nil // it has a password, of which nothing is kept
	}
	sum := sha256.Sum256(append([]byte(c.Request.Method+" "+c.Request.URL.RequestURI()+"\n"), body...))
	c.Set(store.WriteKey, hex.EncodeToString(sum[:16]))
}

func (s *Server) recover(c *gin.Context) {
	defer func() {
		if r := recover(); r != nil {
			if r == http.ErrAbortHandler {
				panic(r)
			}
			slog.Error("panic", "request", c.GetString(requestKey), "path", c.FullPath(), "what", fmt.Sprint(r), "stack", string(debug.Stack()))
			problem(c, Problem{Status: http.StatusInternalServerError,
				Title: "Arvelt failed at this. Nothing was saved; the failure is in the server's log."})
			c.Abort()
		}
	}()
	c.Next()
}

// open are the routes that need nobody signed in.
var open = map[string]bool{"/api/session": true, "/api/demo": true, "/api/welcome": true, "/api/with": true}

// keyPath is the public page of a company's key.
const keyPath = "/key/:company"

// importPath takes a job file, photosPath a picture.
const (
	importPath = "/api/jobs/import"
	photosPath = "/api/jobs/:id/photos"
)

// signPath takes a signature.
const signPath = "/api/jobs/:id/sign"

// handInPath takes what an ended session left.
const handInPath = "/api/left"

const personKey = "person"

// guard sets the headers of every answer, bounds the body, refuses writes from
// other sites and anything of a company's without a session.
func (s *Server) guard(c *gin.Context) {
	h := c.Writer.Header()
	s.door.headers(h)
	_, own := c.Request.Context().Value(inNameOf{}).(store.Person) // what was left on a device, sent by ourselves
	if p := s.door.host(c.Request); p != nil && !own {
		problem(c, *p)
		return
	}
	if strings.HasPrefix(c.Request.URL.Path, "/api/") {
		h.Set("Cache-Control", "no-store")
	}
	if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
		if p := s.door.write(c); p != nil && !own {
			problem(c, *p)
			return
		}
		most := int64(maxBody)
		switch {
		case c.FullPath() == importPath:
			most = handover.MaxFile
		case c.FullPath() == photosPath, c.FullPath() == handInPath:
			most = picture.MaxBytes
		case open[c.FullPath()]:
			most = heavyBody // whoever sends it is not known yet
		}
		if c.Request.ContentLength > most {
			fail(c, &http.MaxBytesError{Limit: most})
			return
		}
		c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, most)
	}
	if c.FullPath() == "" || c.FullPath() == "/healthz" || c.FullPath() == keyPath || c.FullPath() == calendarPath {
		return
	}
	if who, ok := c.Request.Context().Value(inNameOf{}).(store.Person); ok {
		c.Set(personKey, who)
		fingerprint(c)
		return
	}
	c.Request = c.Request.WithContext(store.From(c.Request.Context(), c.ClientIP()))
	if err := s.loadSession(c); err != nil {
		fail(c, err)
		return
	}
	if open[c.FullPath()] || c.FullPath() == handInPath && c.Request.Method == http.MethodPost {
		return
	}
	who, err := s.person(c)
	if errors.Is(err, errSignedOut) {
		s.signedOut(c)
		return
	}
	if err != nil {
		fail(c, err)
		return
	}
	c.Set(personKey, who)
	fingerprint(c)
	if !c.IsAborted() {
		s.inTurn(c)
	}
}

// person returns who is signed in.
func (s *Server) person(c *gin.Context) (store.Person, error) {
	id := s.sessions.GetString(c.Request.Context(), personKey)
	if id == "" {
		return store.Person{}, errSignedOut
	}
	who, err := s.known.person(c.Request.Context(), id)
	if errors.Is(err, store.ErrNotFound) {
		return who, errSignedOut
	}
	return who, err
}

// who returns the person that guard let in, and their company's scope.
func (s *Server) who(c *gin.Context) (store.Person, store.Scope) {
	p := c.MustGet(personKey).(store.Person)
	return p, s.store.For(p.CompanyID)
}
