package main

import (
	"errors"
	"flag"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/whole"
	"arvelt/demo"
	"arvelt/store"
)

// hashed reads a password from standard input, holds it to what a password must be, and hashes it.
func hashed(e *env, own ...string) (string, error) {
	raw, err := io.ReadAll(io.LimitReader(e.in, 1024))
	if err != nil {
		return "", err
	}
	password := strings.TrimRight(string(raw), "\r\n")
	if err := api.CheckPassword(password, own...); err != nil {
		return "", fmt.Errorf("on standard input: %w", err)
	}
	return api.HashPassword(password)
}

// addUser adds a person, and their company when it is new. Nobody real is added to the demo company,
// whose people go in without a password.
func addUser(e *env, st *store.Store) error {
	company := ""
	words, err := e.flags("user", func(fs *flag.FlagSet) {
		fs.StringVar(&company, "company", "", "name of the company; made when there is none of it")
	})
	if err != nil {
		return err
	}
	if len(words) != 3 || !slices.Contains(install.Roles, words[2]) {
		return fmt.Errorf("give EMAIL NAME ROLE, the role one of %s", strings.Join(install.Roles, ", "))
	}
	if strings.TrimSpace(company) == "" {
		return errors.New("say with --company which company the person is of")
	}
	id, err := st.CompanyByName(e.ctx, company)
	fresh := errors.Is(err, store.ErrNotFound)
	if err != nil && !fresh {
		return err
	}
	if !fresh {
		k, err := st.For(id).Company(e.ctx)
		if err != nil {
			return err
		}
		if k.Demo {
			return fmt.Errorf("%q is the demo company, whose people go in without a password: name another", company)
		}
	}
	hash, err := hashed(e, words[0], words[1], company)
	if err != nil {
		return err
	}
	if fresh {
		if id, err = st.NewCompany(e.ctx, store.Company{Name: company, Currency: "", Timezone: or(e.getenv("TZ"), "UTC"),
			Settings: demo.Settings()}); err != nil {
			return err
		}
	}
	_, err = st.NewPerson(e.ctx, store.Person{CompanyID: id, Name: words[1], Email: words[0], Role: words[2], Hash: hash})
	return err
}

// console is in whose name the command line acts on people.
var console = store.Person{Name: "the command line"}

// personOf reads the person whom the first word names, of n words.
func personOf(e *env, st *store.Store, command, takes string, n int, define func(*flag.FlagSet)) (store.Person, []string, error) {
	words, err := e.flags(command, define)
	if err != nil {
		return store.Person{}, nil, err
	}
	if len(words) != n {
		return store.Person{}, nil, errors.New("give " + takes)
	}
	p, err := st.AnyByEmail(e.ctx, words[0])
	if errors.Is(err, store.ErrNotFound) {
		err = fmt.Errorf("email: nobody signs in with %q", words[0])
	}
	return p, words[1:], err
}

func none(*flag.FlagSet) {}

func setPassword(e *env, st *store.Store) error {
	p, _, err := personOf(e, st, "password", "EMAIL", 1, none)
	if err != nil {
		return err
	}
	hash, err := hashed(e, p.Name, p.Email)
	if err != nil {
		return err
	}
	return st.SetPassword(e.ctx, p.ID, hash, "")
}

func setRole(e *env, st *store.Store) error {
	p, words, err := personOf(e, st, "role", "EMAIL ROLE", 2, none)
	if err != nil {
		return err
	}
	return st.For(p.CompanyID).SetRole(e.ctx, console, p.ID, words[0])
}

func leave(e *env, st *store.Store) error {
	back := false
	p, _, err := personOf(e, st, "leave", "EMAIL", 1, func(fs *flag.FlagSet) { fs.BoolVar(&back, "back", false, "the person is back") })
	if err != nil {
		return err
	}
	return st.For(p.CompanyID).SetLeft(e.ctx, console, p.ID, !back)
}

func sessions(e *env, st *store.Store) error {
	end := false
	p, _, err := personOf(e, st, "sessions", "EMAIL", 1, func(fs *flag.FlagSet) { fs.BoolVar(&end, "end", false, "end them") })
	if err != nil {
		return err
	}
	scope := st.For(p.CompanyID)
	all, err := scope.Sessions(e.ctx, p.ID)
	if err != nil {
		return err
	}
	tokens := []string{}
	for _, x := range all {
		fmt.Fprintf(e.out, "since %s from %s: %s\n", x.At.UTC().Format(time.RFC3339), x.Address, x.Agent)
		tokens = append(tokens, x.Token)
	}
	if end {
		return scope.EndSessions(e.ctx, console, p.ID, tokens)
	}
	return nil
}

func authorise(e *env, st *store.Store) error {
	var a store.Authorisation
	p, words, err := personOf(e, st, "authorise", "EMAIL KIND", 2, func(fs *flag.FlagSet) {
		fs.StringVar(&a.Until, "until", "", "its last day, as 2027-05-31")
		fs.StringVar(&a.Practice, "practice", "", "for one practice alone")
		fs.StringVar(&a.JobRef, "job", "", "for one job alone, by its reference")
		fs.StringVar(&a.Licence, "licence", "", "number of the licence that was seen")
	})
	if err != nil {
		return err
	}
	a.Kind = install.Authority(words[0])
	return st.For(p.CompanyID).Grant(e.ctx, console, p.ID, a, whole.PracticeIDs)
}
