package store

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/whole"
	"arvelt/core/words"
)

// Authorisation is what somebody granted a person to do.
type Authorisation struct {
	ID       string            `json:"id"`
	Kind     install.Authority `json:"kind"`
	Practice string            `json:"practice"` // empty for every practice
	JobRef   string            `json:"jobRef"`   // empty for every job
	Until    string            `json:"until"`    // the last day, 2006-01-02; empty where it has none
	Licence  string            `json:"licence"`  // number of the licence or certificate that was seen; empty for none
	By       string            `json:"by"`
	At       time.Time         `json:"at"`
}

// authorisationsColumn reads a person's authorisations with the person.
const authorisationsColumn = `coalesce((SELECT jsonb_agg(jsonb_build_object('id', a.id, 'kind', a.kind, 'practice', a.practice, 'jobRef',
	a.job_ref, 'until', coalesce(a.until::text, ''), 'licence', a.licence, 'by', a.granted_by, 'at', a.granted_at) ORDER BY a.granted_at,
	a.kind) FROM authorisation a WHERE a.person_id = person.id AND a.withdrawn_at IS NULL), '[]')`

// holds reports whether the authorisation holds on a job at a time.
func (a *Authorisation) holds(j *install.Job, at time.Time) bool {
	return (a.Practice == "" || a.Practice == j.Practice) && (a.JobRef == "" || a.JobRef == j.Ref) && !at.Before(a.At) &&
		(a.Until == "" || at.Format(time.DateOnly) <= a.Until)
}

// ActsOn is the person as a job knows whoever acts on it at a time.
func (p *Person) ActsOn(j *install.Job, at time.Time) install.Person {
	held := []install.Authority{}
	for i := range p.Authorisations {
		if a := &p.Authorisations[i]; a.holds(j, at) && install.MayHold(p.Role, a.Kind) {
			held = append(held, a.Kind)
		}
	}
	return install.Person{ID: p.ID, Name: p.Name, Role: p.Role, Holds: install.AuthoritiesOf(held...)}
}

// under says what authorises a person for a kind of record, for the record; empty where nothing has to.
func (p *Person) under(w *words.Catalogue, j *install.Job, kind install.RecordKind, at time.Time) string {
	rule := install.RecordRules[kind]
	needs := cmp.Or(rule.Needs, rule.Marks)
	i := slices.IndexFunc(p.Authorisations, func(a Authorisation) bool { return a.Kind == needs && a.holds(j, at) })
	if needs == "" || i < 0 {
		return ""
	}
	a := &p.Authorisations[i]
	said := []string{w.Say("authorised by %s on %s", a.By, a.At.Format(time.DateOnly))}
	if a.Until != "" {
		said = append(said, w.Say("until %s", a.Until))
	}
	if a.Licence != "" {
		said = append(said, w.Say("licence %s", a.Licence))
	}
	return strings.Join(said, ", ")
}

// mostAuthorisations is how many one person may hold at once.
const mostAuthorisations = 60

// Grant authorises a person of the company. The error is [install.Errors] where it says something that cannot be.
func (s Scope) Grant(ctx context.Context, who Person, person string, a Authorisation, practices []string) error {
	other, err := s.Colleague(ctx, person)
	if err != nil {
		return err
	}
	var wrong install.Errors
	say := func(field, value, accept string) {
		wrong = append(wrong, install.FieldError{Field: field, Value: value, Accept: accept})
	}
	kinds := []string{}
	for _, k := range install.AuthorityList {
		if install.MayHold(other.Role, k) {
			kinds = append(kinds, string(k))
		}
	}
	if !install.MayHold(other.Role, a.Kind) {
		say("kind", string(a.Kind), "for the role "+other.Role+" one of "+strings.Join(kinds, ", "))
	}
	if a.Practice != "" && !slices.Contains(practices, a.Practice) {
		say("practice", a.Practice, "nothing, or one of "+strings.Join(practices, ", "))
	}
	if a.JobRef != "" {
		if _, err := s.JobID(ctx, a.JobRef); err != nil {
			say("jobRef", a.JobRef, "nothing, or the reference of a job of the company")
		}
	}
	if until, err := time.Parse(time.DateOnly, a.Until); a.Until != "" && (err != nil || until.Before(s.Now().AddDate(0, 0, -1))) {
		say("until", a.Until, "nothing, or a day to come as 2027-05-31")
	}
	if len(a.Licence) > 80 || strings.ContainsFunc(a.Licence, func(r rune) bool { return r < ' ' }) {
		say("licence", a.Licence, "at most 80 characters")
	}
	if len(other.Authorisations) >= mostAuthorisations {
		say("kind", string(a.Kind), "no more: the person has 60 already, withdraw some")
	}
	if len(wrong) > 0 {
		return wrong
	}
	at := cmp.Or(a.At, s.Now())
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, `INSERT INTO authorisation (company_id, person_id, kind, practice, job_ref, until, licence, granted_by,
				granted_by_id, granted_at) VALUES ($1, $2, $3, $4, $5, nullif($6, '')::date, $7, $8, nullif($9, '')::uuid, $10)`,
			s.CompanyID, person, a.Kind, a.Practice, a.JobRef, a.Until, a.Licence, cmp.Or(a.By, who.Name), who.ID, at); err != nil {
			return err
		}
		about := other.Name + ": " + string(a.Kind)
		for _, x := range []string{a.Practice, a.JobRef, a.Until} {
			if x != "" {
				about += ", " + x
			}
		}
		if err := s.happened(ctx, tx, who, Granted, about); err != nil {
			return err
		}
		return s.peopleChanged(ctx, tx)
	})
}

// Withdraw ends an authorisation; [ErrNotFound] where it is not there any more.
func (s Scope) Withdraw(ctx context.Context, who Person, id string) error {
	if _, err := uuid.Parse(id); err != nil {
		return ErrNotFound
	}
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		var about string
		err := tx.QueryRow(ctx, `UPDATE authorisation SET withdrawn_at = $3, withdrawn_by = $4 FROM person p
			WHERE authorisation.id = $2 AND authorisation.company_id = $1 AND withdrawn_at IS NULL AND p.id = authorisation.person_id
			RETURNING p.name || ': ' || kind`, s.CompanyID, id, s.Now(), who.Name).Scan(&about)
		if errors.Is(err, pgx.ErrNoRows) {
			err = ErrNotFound
		}
		if err == nil {
			err = s.happened(ctx, tx, who, Withdrawn, about)
		}
		if err != nil {
			return err
		}
		return s.peopleChanged(ctx, tx)
	})
}

// peopleChanged tells every instance to read people and sessions anew.
func (s Scope) peopleChanged(ctx context.Context, tx pgx.Tx) error {
	return s.For("").notify(ctx, tx, "session", "", 0)
}

// Colleague is a person of the company; [ErrNotFound] where they are of none or of another.
func (s Scope) Colleague(ctx context.Context, id string) (Person, error) {
	return one[Person](ctx, s.db, `SELECT `+personColumns+` FROM person WHERE id::text = $1 AND company_id = $2`, id, s.CompanyID)
}

// assigned holds the plan, where it was edited, to the people of the company as they stand authorised on the job. What is undone is not asked.
func (s Scope) assigned(ctx context.Context, tx pgx.Tx, l *Loaded) error {
	if l.planWas == nil || l.undoing {
		return nil
	}
	people, err := s.present(ctx, tx)
	if err != nil {
		return err
	}
	outlook, err := s.outlook(ctx, tx)
	if err != nil {
		return err
	}
	terms := whole.Practice(&l.Job).Terms()
	return plan.Assigned(&l.Job, &terms, l.View().Tasks, l.planWas, teamOf(people, outlook, &l.Job), l.Now)
}

// present are the people of the company who have not left, by name.
func (s Scope) present(ctx context.Context, db querier) ([]Person, error) {
	rows, err := db.Query(ctx, `SELECT `+personColumns+` FROM person WHERE company_id = $1 AND left_at IS NULL ORDER BY name`, s.CompanyID)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Person])
}

// teamOf are people as they may act on a job.
func teamOf(people []Person, outlook plan.Outlook, j *install.Job) plan.Team {
	kept := []install.Authority{}
	for i := range people {
		for _, a := range people[i].Authorisations {
			kept = append(kept, a.Kind)
		}
	}
	return plan.Team{Outlook: outlook, Kept: install.AuthoritiesOf(kept...), On: func(at time.Time) []install.Person {
		out := make([]install.Person, len(people))
		for i := range people {
			out[i] = people[i].ActsOn(j, at)
		}
		return out
	}}
}

// Teams answers the people of the company as they may act on each job.
func (s Scope) Teams(ctx context.Context) (func(*install.Job) plan.Team, error) {
	people, err := s.present(ctx, s.db)
	if err != nil {
		return nil, err
	}
	outlook, err := s.Outlook(ctx)
	return func(j *install.Job) plan.Team { return teamOf(people, outlook, j) }, err
}

// openMost is of how many jobs days are proposed at once.
const openMost = 40

// Open lists the jobs on which there is something to plan.
func (s Scope) Open(ctx context.Context) ([]Row, error) {
	rows, err := s.db.Query(ctx, rowColumns+`AND stage <> ALL($2) ORDER BY starts NULLS LAST, ref LIMIT $3`, s.CompanyID,
		[]install.Stage{install.Handover, install.Aftercare}, openMost)
	if err != nil {
		return nil, err
	}
	return collected(rows)
}
