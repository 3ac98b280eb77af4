package store

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"github.com/jackc/pgx/v5"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/picture"
)

// maxPhotos keeps the pictures of a job within reason.
const maxPhotos = 400

// AddPhoto keeps a picture with what it shows: a record, dated as [install.Sent.Stamp] does, and
// the picture by its hash.
func (s Scope) AddPhoto(ctx context.Context, who Person, id, key, subject, note string, p picture.Picture,
	sent install.Sent) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		if n := len(l.Job.Current(install.Photo)); n >= maxPhotos {
			return &NothingError{fmt.Sprintf("The job has %d pictures, the most that are kept.", n)}
		}
		if err := l.NewRecordSent(install.Record{Kind: install.Photo, Subject: subject, Note: note, Reference: p.Hash,
			Width: p.Width, Height: p.Height}, sent); err != nil {
			return err
		}
		_, err := l.tx.Exec(ctx, `INSERT INTO photo (company_id, job_id, hash, jpeg) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING`,
			s.CompanyID, id, p.Hash, p.JPEG)
		return err
	})
}

// Bring keeps a picture that came beside the file of an imported job, where a record of the job shows it and nothing is kept of it
// yet.
func (s Scope) Bring(ctx context.Context, who Person, id string, p picture.Picture) error {
	_, err := s.Change(ctx, who, id, "bring-"+id+"-"+p.Hash, func(l *Loaded) error {
		if !slices.Contains(handover.Pictures(&l.Job), p.Hash) {
			return &NothingError{fmt.Sprintf("No record of the job shows the picture %s.", p.Hash)}
		}
		_, err := l.tx.Exec(ctx, `INSERT INTO photo (company_id, job_id, hash, jpeg) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING`,
			s.CompanyID, id, p.Hash, p.JPEG)
		return err
	})
	return err
}

// Photo returns a picture of a job as JPEG.
func (s Scope) Photo(ctx context.Context, id, hash string) (jpeg []byte, err error) {
	if _, err := s.State(ctx, id); err != nil {
		return nil, err
	}
	err = s.db.QueryRow(ctx, `SELECT jpeg FROM photo WHERE job_id = $1 AND company_id = $2 AND hash = $3`, id, s.CompanyID,
		hash).Scan(&jpeg)
	if errors.Is(err, pgx.ErrNoRows) {
		err = fmt.Errorf("picture %q: %w", hash, ErrNotFound)
	}
	return jpeg, err
}

// PhotosFor are the pictures that go with a message, by hash; one that is not there any more is left out.
func (s *Store) PhotosFor(ctx context.Context, d *Due) (map[string][]byte, error) {
	out := map[string][]byte{}
	for _, hash := range d.Letter.Photos {
		jpeg, err := s.For(d.CompanyID).Photo(ctx, d.JobID, hash)
		if errors.Is(err, ErrNotFound) {
			continue
		}
		if err != nil {
			return nil, err
		}
		out[hash] = jpeg
	}
	return out, nil
}
