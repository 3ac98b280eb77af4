package store

import (
	"cmp"
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"arvelt/core/desk"
	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/survey"
	"arvelt/core/whole"
)

// Message is one message to the operator's desk and how it stands.
type Message struct {
	ID      string      `json:"id"`
	Kind    string      `json:"kind"`
	Letter  desk.Letter `json:"letter"`
	State   string      `json:"state"` // waiting, received, agreed, booked, refused, lost
	Tries   int         `json:"tries"`
	Trouble string      `json:"trouble"` // why the last try failed
	Answer  *Reply      `json:"answer"`
	At      time.Time   `json:"at"`
	By      string      `json:"by"`
}

// Reply is what the desk answered.
type Reply struct {
	State     string `json:"state"`
	Reference string `json:"reference"`
	Person    string `json:"person"`
	Message   string `json:"message"`
	Day       string `json:"day"`
	Simulated bool   `json:"simulated"`
}

// Letter writes a letter of a kind from the job as it stands.
func (l *Loaded) Letter(kind, note string) (desk.Letter, error) {
	k, ok := desk.KindOf(kind)
	if !ok {
		ids := []string{}
		for _, k := range desk.Kinds() {
			ids = append(ids, k.ID)
		}
		return desk.Letter{}, install.Errors{{Field: "kind", Value: kind, Accept: fmt.Sprintf("one of %v", ids)}}
	}
	if len(note) > 2000 {
		return desk.Letter{}, install.Errors{{Field: "note", Value: note[:40] + "…", Accept: "at most 2000 characters"}}
	}
	p := whole.Practice(&l.Job)
	report := p.Judge(&l.Job)
	return desk.Write(k, &l.Job, &report, p.SupplyNumber(l.Job.Supply.Number, l.Job.Supply.MeterSerial), l.seen(), note), nil
}

// seen is what the operator is told of.
func (l *Loaded) seen() desk.Seen {
	suspect := l.View().Tests.Suspect
	if suspect != nil {
		suspect.At = suspect.At.In(l.Now.Location())
	}
	return desk.Seen{Damage: survey.AtOperator(&l.Job, whole.Practice(&l.Job).Survey()), Suspect: suspect}
}

// Letters writes a letter of each kind from the job as it stands.
func (l *Loaded) Letters() []desk.Letter {
	p := whole.Practice(&l.Job)
	report, number := p.Judge(&l.Job), p.SupplyNumber(l.Job.Supply.Number, l.Job.Supply.MeterSerial)
	out, seen := []desk.Letter{}, l.seen()
	for _, k := range desk.Kinds() {
		out = append(out, desk.Write(k, &l.Job, &report, number, seen, ""))
	}
	return out
}

// Send puts a letter in the way of the desk. One that lacks a fact is held back.
func (s Scope) Send(ctx context.Context, who Person, id, key, kind, note string) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		letter, err := l.Letter(kind, note)
		if err != nil {
			return err
		}
		if err := proving.MayMake(l.Job.Words, l.Acts(), install.Operator); err != nil {
			return err
		}
		if len(letter.Missing) > 0 {
			return &proving.NotYetError{Why: l.Job.Words.Say("Not sent, as the operator would send it back: %s.", letter.Missing[0])}
		}
		l.note("desk", "sent to the operator: "+letter.Title)
		_, err = l.tx.Exec(ctx,
			`INSERT INTO desk_message (company_id, job_id, person_id, kind, letter, created_at, next_try) VALUES ($1, $2, $3, $4,
				$5, $6, $6)`, s.CompanyID, id, who.ID, kind, letter, s.Now())
		return err
	})
}

const messageColumns = `m.id::text, m.kind, m.letter, m.state, m.tries, m.trouble, m.answer, m.created_at, p.name`

// Messages lists a job's messages to the desk, newest first.
func (s Scope) Messages(ctx context.Context, id string) ([]Message, error) {
	if _, err := uuid.Parse(id); err != nil {
		return nil, ErrNotFound
	}
	rows, err := s.db.Query(ctx,
		`SELECT `+messageColumns+
			` FROM desk_message m JOIN person p ON p.id = m.person_id WHERE m.job_id = $1 AND m.company_id = $2 ORDER BY
				m.created_at DESC LIMIT 200`, id, s.CompanyID)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Message])
}

// Due is a message that the desk is to be sent or asked about.
type Due struct {
	Sending
	Kind   string
	Letter desk.Letter
}

var letters = &outbox{table: "desk_message", company: "company_of_due_message", open: "'waiting', 'received'", event: "desk", columns: "kind, letter"}

// TakeDue takes the next message whose try is due, for this instance alone; nil
// when there is none.
func (s *Store) TakeDue(ctx context.Context) (*Due, error) {
	return takeDue(ctx, s, letters, func(d *Due) *Sending { return &d.Sending })
}

// Answered keeps what the desk said of a message: the message's state and, with
// every step of it, a record on the job in the name of the one who asked.
func (s *Store) Answered(ctx context.Context, d *Due, r Reply, pause time.Duration) error {
	scope := s.For(d.CompanyID)
	if r.State == d.State {
		return s.Later(ctx, &d.Sending, "", pause)
	}
	who, err := s.PersonByID(ctx, d.PersonID)
	if err != nil {
		return err
	}
	_, err = scope.Change(ctx, who, d.JobID, "desk-"+d.ID+"-"+r.State, func(l *Loaded) error {
		if _, err := l.tx.Exec(ctx, `UPDATE desk_message SET state = $2, answer = $3, trouble = '', next_try = $4 WHERE id = $1`, d.ID,
			r.State, r, s.Now().Add(pause)); err != nil {
			return err
		}
		if l.Job.Frozen() {
			return nil // the message tells it; a signed revision takes no record
		}
		kind, _ := desk.KindOf(d.Kind)
		path := r.State
		if r.State == "received" {
			path = kind.Path
		}
		note := kind.Title + ". " + r.Message
		if r.Day != "" {
			note += " Day: " + r.Day + "."
		}
		if r.Simulated {
			note += " (simulated desk)"
		}
		circuits := []string{""}
		if d.Kind == "notify-load" || d.Kind == "apply-load" {
			circuits = circuits[:0]
			for _, k := range l.Job.Standing().Circuits {
				circuits = append(circuits, k.ID)
			}
		}
		for _, c := range circuits {
			if err := l.NewRecord(install.Record{Kind: install.Operator, Subject: d.ID, Circuit: c, Path: path,
				Reference: r.Reference, Person: cmp.Or(r.Person, "the operator's desk"),
				Called: l.Now.Format(install.CalledLayout), Note: note}); err != nil {
				return err
			}
		}
		return nil
	})
	return err
}

// Lost marks a message that the desk says it never had, though it had answered
// before: a person must call.
func (s *Store) Lost(ctx context.Context, d *Due) error {
	return s.moved(ctx, &d.Sending, func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx,
			`UPDATE desk_message SET state = 'lost', trouble =
				'the desk does not know the request any more: call it with the reference' WHERE id = $1`, d.ID)
		return err
	})
}
