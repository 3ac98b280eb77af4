// Command arvelt is the one binary: it serves the application and gives the
// same computation to scripts.
//
// calc, check, schema and verify need no database; the others take it from
// DATABASE_URL.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"os/signal"
	"syscall"
)

const usage = `arvelt carries a job from survey to signed handover.

  arvelt serve                     serve the application (PORT, HOST, DATABASE_URL, ARVELT_DESK, ARVELT_MERCHANT)
  arvelt desk                      the simulated network operator's desk (-addr, -mode, -file)
  arvelt merchant                  the simulated merchant (-addr, -mode, -file)
  arvelt migrate                   bring the database up to date as its owner (ARVELT_OWNER_URL), and make the role of DATABASE_URL, by
                                   which the application comes in
  arvelt demo                      load the demo company, once
  arvelt user EMAIL NAME ROLE --company NAME   add a person to a company, and the company when it is new;
                                   the password is read from standard input
  arvelt password EMAIL            set a person's password, read from standard input; their sessions end
  arvelt role EMAIL ROLE           change a person's role
  arvelt leave EMAIL [--back]      a person has left: their sessions end and they come in no more; or is back
  arvelt sessions EMAIL [--end]    list a person's sessions, or end them
  arvelt authorise EMAIL KIND      authorise a person (--until DAY, --practice ID, --job REF, --licence NUMBER)
  arvelt check [--json] JOB.json   every check of an exported job; exit 1 if any fails
  arvelt calc PRACTICE/CALC        compute from a JSON object on standard input
  arvelt calc --list               the calculations with their inputs and outputs
  arvelt calc --cases FILE         run a file of worked cases
  arvelt export REF                write a job as an open job file
  arvelt export --all FOLDER       write every job of a company with its pictures as open files
  arvelt import FILE [--as REF]    import a job file, with the pictures that lie beside it in photos/
  arvelt backup FILE               write all companies, pictures and sealed keys into one encrypted file, as the owner (ARVELT_OWNER_URL);
                                   the passphrase is ARVELT_PASSPHRASE, or read from standard input
  arvelt restore FILE [--replace]  put a backup into an empty database, or in the place of what is there; --check reads it to its end and
                                   touches nothing
  arvelt verify FILE [--key KEY]   tell a changed job file (exit 1) from an unchanged one, and one that the company with
                                   the public key sealed (exit 0) from one that anybody may have made (exit 3)
  arvelt schema                    the JSON Schema of the job file
`

// exit is an error that was already said; it carries the status to exit with.
type exit int

func (e exit) Error() string { return fmt.Sprintf("exit %d", int(e)) }

// env is what a command is given: its words, its streams and its surroundings.
type env struct {
	ctx    context.Context
	args   []string
	in     io.Reader
	out    io.Writer
	errs   io.Writer
	getenv func(string) string
}

var commands = map[string]func(*env) error{
	"serve": stored(serve), "migrate": migrate, "demo": stored(loadDemo), "user": stored(addUser),
	"password": stored(setPassword), "role": stored(setRole), "leave": stored(leave), "sessions": stored(sessions),
	"authorise": stored(authorise),
	"export":    stored(export), "import": stored(importFile),
	"backup": backup, "restore": restore,
	"check": check, "calc": calc, "verify": verify, "schema": schema, "desk": operatorsDesk, "merchant": merchantsCounter,
}

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	os.Exit(run(&env{ctx: ctx, args: os.Args[1:], in: os.Stdin, out: os.Stdout, errs: os.Stderr, getenv: os.Getenv}))
}

func run(e *env) int {
	if len(e.args) == 0 {
		fmt.Fprint(e.errs, usage)
		return 2
	}
	name := e.args[0]
	command, ok := commands[name]
	if !ok {
		if name == "help" || name == "--help" || name == "-h" {
			fmt.Fprint(e.out, usage)
			return 0
		}
		fmt.Fprintf(e.errs, "arvelt: there is no command %q\n\n%s", name, usage)
		return 2
	}
	e.args = e.args[1:]
	err := command(e)
	var status exit
	switch {
	case err == nil, errors.Is(err, flag.ErrHelp):
		return 0
	case errors.As(err, &status):
		return int(status)
	}
	fmt.Fprintf(e.errs, "arvelt %s: %v\n", name, err)
	return 2
}

// flags parses flags that may stand before or after the words, and returns the words.
func (e *env) flags(name string, define func(*flag.FlagSet)) ([]string, error) {
	fs := flag.NewFlagSet("arvelt "+name, flag.ContinueOnError)
	fs.SetOutput(e.errs)
	define(fs)
	var words []string
	rest := e.args
	for {
		if err := fs.Parse(rest); err != nil {
			return nil, err
		}
		if rest = fs.Args(); len(rest) == 0 {
			return words, nil
		}
		words, rest = append(words, rest[0]), rest[1:]
	}
}
