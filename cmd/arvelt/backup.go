package main

import (
	"bufio"
	"crypto/sha256"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"arvelt/store"
)

// passphrase is that of a backup: of the surroundings, or the first line of standard input.
func passphrase(e *env) (string, error) {
	if p := e.getenv("ARVELT_PASSPHRASE"); p != "" {
		return p, nil
	}
	line, err := bufio.NewReader(io.LimitReader(e.in, 1024)).ReadString('\n')
	if err != nil && err != io.EOF {
		return "", err
	}
	if line = strings.TrimRight(line, "\r\n"); line == "" {
		return "", errors.New("give the passphrase on standard input, or in ARVELT_PASSPHRASE")
	}
	return line, nil
}

// ownerURL is the owner's address, by whom alone the schema is changed and everything is read and put back.
func ownerURL(e *env) (string, error) {
	if url := e.getenv("ARVELT_OWNER_URL"); url != "" {
		return url, nil
	}
	return "", errors.New("ARVELT_OWNER_URL is not set: give the address of the database's owner, or start with ./run")
}

// backup writes a backup beside its place and puts it there when it is whole and on the disk.
func backup(e *env) error {
	force := false
	words, err := e.flags("backup", func(fs *flag.FlagSet) { fs.BoolVar(&force, "force", false, "write over a file that is there") })
	if err != nil {
		return err
	}
	if len(words) != 1 {
		return errors.New("give one file to write")
	}
	path := words[0]
	if _, err := os.Stat(path); err == nil && !force {
		return fmt.Errorf("%s is there already: give another name, or --force", path)
	}
	owner, err := ownerURL(e)
	if err != nil {
		return err
	}
	secret, err := store.Secret(e.getenv)
	if err != nil {
		return err
	}
	phrase, err := passphrase(e)
	if err != nil {
		return err
	}
	sum := sha256.New()
	var made store.Backup
	if err := written(path, func(w io.Writer) error {
		made, err = store.MakeBackup(e.ctx, owner, secret, phrase, io.MultiWriter(w, sum))
		return err
	}); err != nil {
		return err
	}
	fmt.Fprintf(e.out, "%s: %s\nSHA-256 %x\n", path, holds(made), sum.Sum(nil))
	if secret == "" {
		fmt.Fprintln(e.out, "No server secret was given (ARVELT_SECRET or ARVELT_SECRET_FILE): the companies' keys in it open only with the secret that sealed them.")
	}
	return nil
}

// written writes a file that only its owner reads: whole, or not at all.
func written(path string, write func(io.Writer) error) error {
	part := path + ".part"
	f, err := os.OpenFile(part, os.O_WRONLY|os.O_CREATE|os.O_TRUNC, 0o600)
	if err != nil {
		return err
	}
	err = write(f)
	if err == nil {
		err = f.Sync()
	}
	if err = errors.Join(err, f.Close()); err == nil {
		err = os.Rename(part, path)
	}
	if err != nil {
		_ = os.Remove(part)
	}
	return err
}

// holds says what a backup has.
func holds(b store.Backup) string {
	count := func(table string) int64 { return b.Tables[table].Rows }
	return fmt.Sprintf("made %s, schema %d; companies %d, people %d, jobs %d, records %d, pictures %d", b.Made.Format(time.RFC3339), b.Schema,
		count("company"), count("person"), count("job"), count("job_record"), count("photo"))
}

func restore(e *env) error {
	replace, check := false, false
	words, err := e.flags("restore", func(fs *flag.FlagSet) {
		fs.BoolVar(&replace, "replace", false, "put it in the place of what the database holds")
		fs.BoolVar(&check, "check", false, "read it to its end and touch nothing")
	})
	if err != nil {
		return err
	}
	if len(words) != 1 {
		return errors.New("give one backup")
	}
	f, err := os.Open(words[0])
	if err != nil {
		return err
	}
	defer f.Close()
	phrase, err := passphrase(e)
	if err != nil {
		return err
	}
	if check {
		found, err := store.CheckBackup(phrase, bufio.NewReaderSize(f, 1<<20))
		if err == nil {
			fmt.Fprintf(e.out, "%s is whole: %s\n", filepath.Base(words[0]), holds(found))
		}
		return err
	}
	owner, err := ownerURL(e)
	if err != nil {
		return err
	}
	if e.getenv("DATABASE_URL") == "" {
		return errNoDatabase
	}
	secret, err := store.Secret(e.getenv)
	if err != nil {
		return err
	}
	found, err := store.Restore(e.ctx, owner, e.getenv("DATABASE_URL"), secret, phrase, f, replace)
	if err != nil {
		return err
	}
	fmt.Fprintf(e.out, "Restored: %s. Everybody signs in again.\n", holds(found))
	if found.Resealed > 0 {
		fmt.Fprintf(e.out, "Company keys sealed by this server's own secret now: %d.\n", found.Resealed)
	}
	if found.Closed > 0 {
		fmt.Fprintf(e.out, "Company keys that could not be opened: %d. Their companies sign nothing until this server has the secret by which they were "+
			"sealed (ARVELT_SECRET_FILE). What was signed stays verified.\n", found.Closed)
	}
	return nil
}
