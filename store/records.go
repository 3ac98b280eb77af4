package store

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/whole"
)

// NewRecord is a record to add, and what the device that made it says of when.
type NewRecord struct {
	install.Record
	Sent install.Sent `json:"sent"`
}

// NewRecord completes a record with who and when and adds it to the job, with
// a seal when it is a signature.
func (l *Loaded) NewRecord(r install.Record) error { return l.NewRecordSent(r, install.Sent{}) }

// AddRecord is NewRecordSent of what a person asks for by itself: not what the server works out, and a
// picture only where the job has it.
func (l *Loaded) AddRecord(ctx context.Context, r install.Record, sent install.Sent) error {
	if install.RecordRules[r.Kind].Server {
		if err := proving.MayMake(l.Job.Words, l.Acts(), r.Kind); err != nil {
			return err
		}
		return &NothingError{l.Job.Words.Say("A %s is not recorded by itself: it has a way of its own on its sheet.", r.Kind)}
	}
	if r.Kind == install.Photo && !r.Done {
		var there bool
		if err := l.tx.QueryRow(ctx, `SELECT EXISTS (SELECT FROM photo WHERE job_id = $1 AND company_id = $2 AND hash = $3)`, l.ID,
			l.company, r.Reference).Scan(&there); err != nil {
			return err
		}
		if !there {
			return install.Errors{{Field: "photo.reference", Value: r.Reference, Accept: "the hash of a picture that was sent to this job"}}
		}
	}
	if err := l.NewRecordSent(r, sent); err != nil || r.Kind != install.Trace {
		return err
	}
	return l.traced(&r)
}

// NewRecordSent is NewRecord of what a device made before, as [install.Sent.Stamp] dates it. It
// is judged as of when it happened.
func (l *Loaded) NewRecordSent(r install.Record, sent install.Sent) error {
	r.ID, r.By, r.PersonID, r.Role = uuid.NewString(), l.Who.Name, l.Who.ID, l.Who.Role
	r.ReceivedAt, r.Device, r.Seq, r.ClockOffS = time.Time{}, "", 0, 0
	if err := sent.Stamp(l.Job.Words, &r, l.Now.UTC()); err != nil {
		return err
	}
	if r.Kind.NeedsOthers() {
		if !r.ReceivedAt.IsZero() && r.ReceivedAt.Sub(r.At) > install.AtOnce {
			return &NothingError{l.Job.Words.Say("It waited for a connection: what others must know of is decided with one, now.")}
		}
		r.At, r.ReceivedAt = l.Now.UTC(), time.Time{}
	}
	if r.PairsDead == nil {
		r.PairsDead = []string{}
	}
	switch r.Kind {
	case install.Decision:
		r.Supersedes = ""
		for _, old := range l.Job.Current(install.Decision) {
			if old.Subject == r.Subject && old.Circuit == r.Circuit {
				r.Supersedes = old.ID
			}
		}
	case install.Reading, install.Observation, install.Photo, install.SurveyReading, install.LooseEnd, install.Isolation, install.Worked:
	default:
		r.Supersedes = ""
	}
	switch r.Kind {
	case install.Scope:
		r.Rooms = slices.Clone(l.Job.Rooms)
	case install.Variation:
	case install.Offer, install.QuoteAnswer, install.LooseEnd: // of these the cost is told
		r.Rooms, r.Effects = nil, nil
	default:
		r.Rooms, r.Effects, r.Cost = nil, nil, nil
	}
	if r.Kind != install.Trace {
		r.Traced = nil
	}
	if len(l.Job.Records) >= install.MaxRecords && !r.Kind.NeverFull() {
		return install.Errors{{Field: "records", Value: strconv.Itoa(len(l.Job.Records) + 1), Accept: fmt.Sprintf("at most %d in one job", install.MaxRecords)}}
	}
	who := l.Who.ActsOn(&l.Job, r.At)
	r.Under = l.Who.under(l.Job.Words, &l.Job, r.Kind, r.At)
	marks := install.RecordRules[r.Kind].Marks
	r.Authorised = marks != "" && who.Holds.Has(marks)
	whole.Stamp(&l.Job, &r, l.Prices, r.At.In(l.Now.Location()))
	left, err := whole.Allow(&l.Job, who, r, l.Prices, r.At.In(l.Now.Location()))
	if err != nil {
		return err
	}
	l.Job.Records = append(l.Job.Records, r)
	for _, undone := range left {
		undone.ID, undone.At, undone.PairsDead = uuid.NewString(), r.At, []string{}
		undone.By, undone.PersonID, undone.Role = r.By, r.PersonID, r.Role
		l.Job.Records = append(l.Job.Records, undone)
	}
	if r.Kind == install.Signature {
		seal, err := handover.Seal(&l.Job, l.signer)
		if err != nil {
			return err
		}
		l.Job.Seals = append(l.Job.Seals, seal)
	}
	return nil
}

// Edit is one line of the history.
type Edit struct {
	At   time.Time `json:"at"`
	By   string    `json:"by"`
	Part string    `json:"part"`
	What string    `json:"what"`
	// Title is what the command was that it was a part of; empty for an edit of its own.
	Title string `json:"title"`
}

// History returns the newest edits of a job.
func (s Scope) History(ctx context.Context, id string) ([]Edit, error) {
	if _, err := s.State(ctx, id); err != nil {
		return nil, err
	}
	rows, err := s.db.Query(ctx,
		`SELECT at, by_name, part, what, title FROM edit WHERE job_id = $1 AND company_id = $2 ORDER BY seq DESC LIMIT 
			200`, id, s.CompanyID)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Edit])
}
