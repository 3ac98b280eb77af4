package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"arvelt/api"
	"arvelt/core/handover"
	"arvelt/demo"
	"arvelt/standin/desk"
	"arvelt/standin/merchant"
	"arvelt/store"
	"arvelt/web"
)

// stored makes a command of one that needs the database. Where the owner's address is given too the database is
// brought up to date first.
func stored(command func(*env, *store.Store) error) func(*env) error {
	return func(e *env) error {
		if e.getenv("DATABASE_URL") == "" {
			return errNoDatabase
		}
		if e.getenv("ARVELT_OWNER_URL") != "" {
			if err := migrate(e); err != nil {
				return err
			}
		}
		st, err := store.Open(e.ctx, e.getenv("DATABASE_URL"))
		if err != nil {
			return err
		}
		defer st.Close()
		secret, err := store.Secret(e.getenv)
		if err != nil {
			return err
		}
		st.UseSecret(secret)
		return command(e, st)
	}
}

var errNoDatabase = errors.New("DATABASE_URL is not set: give postgres://user@host:port/name, or start with ./run")

func migrate(e *env) error {
	app := e.getenv("DATABASE_URL")
	if app == "" {
		return errNoDatabase
	}
	owner, err := ownerURL(e)
	if err != nil {
		return err
	}
	return store.Migrate(e.ctx, owner, app)
}

// gcPercent lets the garbage of several reports gather before it is collected: a
// report is half a megabyte of short-lived lines, and collecting after every tenth
// took a quarter of its time. GOGC overrides.
const gcPercent = 400

// memoryMost is from where garbage is collected sooner, in bytes: what one request costs for a moment is given back before the
// machine is short of it. GOMEMLIMIT overrides.
const memoryMost = 320 << 20

func serve(e *env, st *store.Store) error {
	if e.getenv("GOGC") == "" {
		debug.SetGCPercent(gcPercent)
	}
	if e.getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memoryMost)
	}
	host, port := or(e.getenv("HOST"), "127.0.0.1"), or(e.getenv("PORT"), "8080")
	demoIn := e.getenv("ARVELT_DEMO_SIGNIN") == "1"
	addresses := list(e.getenv("ARVELT_URL"))
	if !api.Loopback(host) {
		switch {
		case demoIn:
			return fmt.Errorf("HOST: %q lets others in, and ARVELT_DEMO_SIGNIN=1 lets anybody in without a password: one or the other", host)
		case len(addresses) == 0:
			return fmt.Errorf("HOST: %q lets others in: say with ARVELT_URL under which address they reach it, as https://arvelt.firm.example", host)
		}
	}
	ln, err := net.Listen("tcp", net.JoinHostPort(host, port))
	if err != nil {
		return fmt.Errorf("port %s on %s cannot be listened on (%w): set PORT to a free one", port, host, err)
	}
	s, err := api.New(st, api.Options{DeskURL: strings.TrimSuffix(e.getenv("ARVELT_DESK"), "/"),
		MerchantURL: strings.TrimSuffix(e.getenv("ARVELT_MERCHANT"), "/"), Addresses: addresses,
		Proxies: list(e.getenv("ARVELT_PROXY")), DemoSignIn: demoIn})
	if err != nil {
		return err
	}
	defer s.Close()
	// There is no limit on the time of an answer: the stream of events is one.
	srv := &http.Server{Handler: s.Handler(web.Files()), ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 2 * time.Minute,
		IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
		BaseContext: func(net.Listener) context.Context { return context.WithoutCancel(e.ctx) }}
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		<-e.ctx.Done()
		s.Drain() // the streams of events, which would not end by themselves
		ctx, stop := context.WithTimeout(context.Background(), 10*time.Second)
		defer stop()
		if err := srv.Shutdown(ctx); err != nil {
			slog.Warn("shutdown", "err", err)
		}
	}()
	fmt.Fprintf(e.out, "Arvelt is at http://%s\n", ln.Addr())
	if err := srv.Serve(ln); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	<-ended // what is on its way is answered first
	return nil
}

// list reads what stands with commas or blanks between.
func list(text string) []string {
	return strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ' ' })
}

// operatorsDesk serves the simulated network operator's desk.
func operatorsDesk(e *env) error {
	return standIn(e, "desk", "127.0.0.1:8090", desk.Modes, func(mode, file string) (http.Handler, error) { return desk.New(mode, file) })
}

// merchantsCounter serves the simulated merchant.
func merchantsCounter(e *env) error {
	return standIn(e, "merchant", "127.0.0.1:8091", merchant.Modes, func(mode, file string) (http.Handler, error) { return merchant.New(mode, file) })
}

// standIn serves a simulated outside party in the mode that is asked for, the first of them where none is.
func standIn(e *env, name, addr string, modes []string, open func(mode, file string) (http.Handler, error)) error {
	mode, file := "", ""
	words, err := e.flags(name, func(fs *flag.FlagSet) {
		fs.StringVar(&addr, "addr", addr, "address to listen on")
		fs.StringVar(&mode, "mode", modes[0], "how it behaves: "+strings.Join(modes, ", "))
		fs.StringVar(&file, "file", "", "file that keeps what was received")
	})
	if err != nil {
		return err
	}
	if len(words) > 0 || !slices.Contains(modes, mode) {
		return fmt.Errorf("mode: %q is not accepted; give one of %s", strings.Join(append(words, mode), " "), strings.Join(modes, ", "))
	}
	handler, err := open(mode, file)
	if err != nil {
		return err
	}
	ln, err := net.Listen("tcp", addr)
	if err != nil {
		return err
	}
	srv := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, BaseContext: func(net.Listener) context.Context { return e.ctx }}
	go func() { <-e.ctx.Done(); _ = srv.Close() }()
	fmt.Fprintf(e.out, "The simulated %s is at http://%s\n", name, ln.Addr())
	if err := srv.Serve(ln); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

func or(s, otherwise string) string {
	if s == "" {
		return otherwise
	}
	return s
}

func loadDemo(e *env, st *store.Store) error {
	loaded, err := demo.Load(e.ctx, st)
	if err == nil && loaded {
		fmt.Fprintln(e.out, "The demo company is loaded.")
	}
	return err
}

// scope returns the company that --company names, the only or first one otherwise,
// and its owner in whose name the command line acts.
func scope(e *env, st *store.Store, company string) (store.Scope, store.Person, error) {
	id, err := st.CompanyByName(e.ctx, company)
	if err != nil {
		return store.Scope{}, store.Person{}, err
	}
	sc := st.For(id)
	owner, err := sc.Owner(e.ctx)
	if err != nil {
		return sc, owner, fmt.Errorf("the owner of the company: %w", err)
	}
	return sc, owner, nil
}

func export(e *env, st *store.Store) error {
	company, all := "", ""
	words, err := e.flags("export", func(fs *flag.FlagSet) {
		fs.StringVar(&company, "company", "", "name of the company")
		fs.StringVar(&all, "all", "", "folder for every job of the company, with pictures as open files")
	})
	if err != nil {
		return err
	}
	if all != "" && len(words) == 0 {
		return exportAll(e, st, company, all)
	}
	if len(words) != 1 {
		return errors.New("give the reference of one job")
	}
	sc, who, err := scope(e, st, company)
	if err != nil {
		return err
	}
	id, err := sc.JobID(e.ctx, words[0])
	if err != nil {
		return err
	}
	l, err := sc.Job(e.ctx, who, id)
	if err != nil {
		return err
	}
	return handover.Write(e.out, &l.Job)
}

func importFile(e *env, st *store.Store) error {
	company, as := "", ""
	words, err := e.flags("import", func(fs *flag.FlagSet) {
		fs.StringVar(&company, "company", "", "name of the company")
		fs.StringVar(&as, "as", "", "another reference; seals and signatures are left behind")
	})
	if err != nil {
		return err
	}
	if len(words) != 1 {
		return errors.New("give one job file")
	}
	job, err := readJob(words[0])
	if err != nil {
		return err
	}
	if err := handover.Admit(job, as); err != nil {
		return fmt.Errorf("%s: %w", words[0], err)
	}
	sc, who, err := scope(e, st, company)
	if err != nil {
		return err
	}
	// The pictures are looked at first: nothing is imported that is then half there.
	photos, pictures := filepath.Join(filepath.Dir(words[0]), "photos"), handover.Pictures(job)
	found, missing, err := beside(photos, pictures)
	if err != nil {
		return fmt.Errorf("nothing was imported: %w", err)
	}
	l, err := sc.Import(e.ctx, who, uuid.NewString(), *job)
	if err != nil {
		return err
	}
	for _, hash := range found {
		p, err := pictureIn(photos, hash)
		if err == nil {
			err = sc.Bring(e.ctx, who, l.ID, p)
		}
		if err != nil {
			return err
		}
	}
	fmt.Fprintf(e.out, "Imported as %s.\n", job.Ref)
	if missing > 0 {
		fmt.Fprintf(e.out, "%d of its %d pictures are not in %s: the job says so.\n", missing, len(pictures), photos)
	}
	return nil
}

func init() { slog.SetDefault(slog.New(slog.NewJSONHandler(os.Stderr, nil))) }
