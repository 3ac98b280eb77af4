package main

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"arvelt/core/handover"
	"arvelt/picture"
	"arvelt/store"
)

// folderName is a reference as the name of a folder: what another system could take for a path is written as %XX.
func folderName(ref string) string {
	var b strings.Builder
	for i, r := range ref {
		plain := r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || strings.ContainsRune("-_ ", r) || r == '.' && i > 0
		if plain {
			b.WriteRune(r)
			continue
		}
		for _, c := range []byte(string(r)) {
			fmt.Fprintf(&b, "%%%02X", c)
		}
	}
	return strings.TrimRight(b.String(), " .")
}

// exportAll writes every job of a company into a folder of its own: the job file, each revision as it was signed, and the
// pictures. What is there already is written anew.
func exportAll(e *env, st *store.Store, company, folder string) error {
	sc, who, err := scope(e, st, company)
	if err != nil {
		return err
	}
	jobs, pictures := 0, 0
	for row, err := range sc.EachJob(e.ctx) {
		if err != nil {
			return err
		}
		n, err := exportJob(e, sc, who, row, filepath.Join(folder, folderName(row.Ref)))
		if err != nil {
			return fmt.Errorf("job %s: %w", row.Ref, err)
		}
		jobs, pictures = jobs+1, pictures+n
	}
	if err := sc.Note(e.ctx, console, store.Exported, fmt.Sprintf("jobs %d, pictures %d", jobs, pictures)); err != nil {
		return err
	}
	fmt.Fprintf(e.out, "%s: jobs %d, pictures %d.\n", folder, jobs, pictures)
	return nil
}

// exportJob writes one job, and says how many pictures.
func exportJob(e *env, sc store.Scope, who store.Person, row store.Row, folder string) (pictures int, err error) {
	l, err := sc.Job(e.ctx, who, row.ID)
	if err != nil {
		return 0, err
	}
	photos := folder
	if len(handover.Pictures(&l.Job)) > 0 {
		photos = filepath.Join(folder, "photos")
	}
	if err := os.MkdirAll(photos, 0o700); err != nil {
		return 0, err
	}
	name := filepath.Join(folder, filepath.Base(folder))
	if err := written(name+".json", func(w io.Writer) error { return handover.Write(w, &l.Job) }); err != nil {
		return 0, err
	}
	for _, revision := range l.Revisions {
		file, err := sc.SignedFile(e.ctx, row.ID, revision)
		if errors.Is(err, store.ErrNotFound) {
			continue // it came signed with a file, of which only the newest is kept
		}
		if err == nil {
			err = written(name+"-"+folderName(revision)+".json", func(w io.Writer) error { _, err := w.Write(file); return err })
		}
		if err != nil {
			return 0, err
		}
	}
	for _, hash := range handover.Pictures(&l.Job) {
		jpeg, err := sc.Photo(e.ctx, row.ID, hash)
		if errors.Is(err, store.ErrNotFound) {
			continue // it did not come with an imported file
		}
		if err == nil {
			err = written(filepath.Join(photos, hash+".jpg"), func(w io.Writer) error { _, err := w.Write(jpeg); return err })
		}
		if err != nil {
			return 0, err
		}
		pictures++
	}
	return pictures, nil
}

// beside are the pictures of a job that lie in a folder, each found to be what its name says, and how many do not.
func beside(folder string, pictures []string) (found []string, missing int, err error) {
	for _, hash := range pictures {
		_, err := pictureIn(folder, hash)
		switch {
		case errors.Is(err, fs.ErrNotExist):
			missing++
		case err != nil:
			return nil, 0, err
		default:
			found = append(found, hash)
		}
	}
	return found, missing, nil
}

func pictureIn(folder, hash string) (picture.Picture, error) {
	path := filepath.Join(folder, filepath.Base(hash)+".jpg")
	raw, err := readMost(path, picture.MaxBytes)
	if err != nil {
		return picture.Picture{}, err
	}
	p, err := picture.Cleaned(raw, hash)
	if err != nil {
		return p, fmt.Errorf("%s: %w", path, err)
	}
	return p, nil
}

// readMost reads a file of at most so many bytes, and one more of a longer one.
func readMost(path string, most int64) ([]byte, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return io.ReadAll(io.LimitReader(f, most+1))
}
