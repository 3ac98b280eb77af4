package store

import (
	"cmp"
	"context"
	"encoding/base64"
	"fmt"
	"iter"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"arvelt/core/install"
	"arvelt/core/plan"
)

// Row is a job in the list.
type Row struct {
	ID        string    `json:"id"`
	Ref       string    `json:"ref"`
	Title     string    `json:"title"`
	Kind      string    `json:"kind"`
	Customer  string    `json:"customer"`
	Address   string    `json:"address"`
	Town      string    `json:"town"`
	Stage     string    `json:"stage"`
	Hold      string    `json:"hold"`
	Sheet     string    `json:"sheet"`
	Who       string    `json:"who"`
	Holds     int       `json:"holds"`
	Trouble   string    `json:"trouble"`
	Locks     string    `json:"locks"` // that hang there, whose and which; empty for none
	UpdatedAt time.Time `json:"updatedAt"`
	// Waits is what holds it, sheet by sheet; none of a job that nobody has changed since that was kept.
	Waits []plan.Waiting `json:"waits"`
	// Danger is what people are at risk by on it now; empty for nothing.
	Danger string `json:"danger"`
}

const rowColumns = `SELECT id::text, ref, title, kind, customer, address, town, stage, hold, hold_sheet, hold_who, holds, trouble,
	locks, updated_at, waits, danger FROM job WHERE company_id = $1 `

const newestFirst = ` ORDER BY updated_at DESC, id DESC`

// Find is which jobs of a list are asked for: those in which every word of Q stands, from the
// one after After on, at most Limit of them. Zero values ask for the first page of all.
type Find struct {
	Q     string
	After string // [Page.Next] of the page before
	Limit int    // 1 to [PageMost]; 0 for [PageUsual]
}

// How many jobs stand on a page, and how many that match are counted.
const (
	PageUsual = 50
	PageMost  = 200
	countMost = 1000
)

// Page is one page of the list of jobs, newest change first.
type Page struct {
	Jobs  []Row  `json:"jobs"`
	Total int    `json:"total"` // of all that match; at least so many where Exact is false
	Exact bool   `json:"exact"`
	Next  string `json:"next"` // where the next page begins; empty on the last one
}

// words is the condition of a search, with a part for each of its words, and their arguments from
// $n on; $1 is the company.
func (f *Find) words(n int) (sql string, args []any) {
	patterns := []string{}
	for word := range strings.FieldsSeq(strings.ToLower(f.Q)) {
		patterns = append(patterns, "%"+strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(word)+"%")
	}
	if len(patterns) == 0 {
		return "", nil
	}
	return fmt.Sprintf(` AND id IN (SELECT jobs_with($%d))`, n), []any{patterns}
}

// cursor says where a page begins: after the job that was changed then.
func cursor(r *Row) string {
	return base64.RawURLEncoding.EncodeToString([]byte(r.UpdatedAt.UTC().Format(time.RFC3339Nano) + " " + r.ID))
}

// begins reads a cursor. The error is [install.Errors].
func begins(after string) (at time.Time, id uuid.UUID, err error) {
	text, err := base64.RawURLEncoding.DecodeString(after)
	day, job, _ := strings.Cut(string(text), " ")
	if err == nil {
		at, err = time.Parse(time.RFC3339Nano, day)
	}
	if err == nil {
		id, err = uuid.Parse(job)
	}
	if err != nil {
		err = install.Errors{{Field: "after", Value: strings.ToValidUTF8(after, "?"), Accept: "what the page before gave as next"}}
	}
	return at, id, err
}

// Jobs answers one page of the company's jobs. The error of a wrong page is [install.Errors].
func (s Scope) Jobs(ctx context.Context, f Find) (Page, error) {
	limit := cmp.Or(f.Limit, PageUsual)
	if limit < 1 || limit > PageMost {
		return Page{}, install.Errors{{Field: "limit", Value: fmt.Sprint(f.Limit), Accept: fmt.Sprintf("1 to %d", PageMost)}}
	}
	where, args := f.words(3)
	args = append([]any{s.CompanyID, limit + 1}, args...)
	if f.After != "" {
		at, id, err := begins(f.After)
		if err != nil {
			return Page{}, err
		}
		where += fmt.Sprintf(" AND (updated_at, id) < ($%d, $%d)", len(args)+1, len(args)+2)
		args = append(args, at, id)
	}
	rows, err := s.db.Query(ctx, rowColumns+where+newestFirst+` LIMIT $2`, args...)
	if err != nil {
		return Page{}, err
	}
	out := Page{Jobs: make([]Row, 0, limit+1), Exact: true}
	for r, err := range scanned(rows) {
		if err != nil {
			return Page{}, err
		}
		out.Jobs = append(out.Jobs, r)
	}
	if len(out.Jobs) > limit {
		out.Jobs = out.Jobs[:limit]
		out.Next = cursor(&out.Jobs[limit-1])
	}
	return out, s.count(ctx, f, &out)
}

// count says how many jobs match: all of a company are counted as they come, matches up to a bound.
func (s Scope) count(ctx context.Context, f Find, p *Page) error {
	where, args := f.words(2)
	switch {
	case f.After == "" && p.Next == "":
		p.Total = len(p.Jobs)
		return nil
	case where == "":
		return s.db.QueryRow(ctx, `SELECT jobs FROM company WHERE id = $1`, s.CompanyID).Scan(&p.Total)
	}
	err := s.db.QueryRow(ctx, `SELECT count(*) FROM (SELECT FROM job WHERE company_id = $1`+where+fmt.Sprintf(` LIMIT %d) AS matching`,
		countMost+1), append([]any{s.CompanyID}, args...)...).Scan(&p.Total)
	if p.Total > countMost {
		p.Total, p.Exact = countMost, false
	}
	return err
}

// scanned reads rows of jobs one after the other: by hand, as this is the page opened most.
func scanned(rows pgx.Rows) iter.Seq2[Row, error] {
	return func(yield func(Row, error) bool) {
		defer rows.Close()
		for rows.Next() {
			var r Row
			err := rows.Scan(&r.ID, &r.Ref, &r.Title, &r.Kind, &r.Customer, &r.Address, &r.Town, &r.Stage, &r.Hold, &r.Sheet, &r.Who,
				&r.Holds, &r.Trouble, &r.Locks, &r.UpdatedAt, &r.Waits, &r.Danger)
			if !yield(r, err) || err != nil {
				return
			}
		}
		if err := rows.Err(); err != nil {
			yield(Row{}, err)
		}
	}
}

// EachJob goes through all of the company's jobs, newest change first, as the database sends them.
func (s Scope) EachJob(ctx context.Context) iter.Seq2[Row, error] {
	return func(yield func(Row, error) bool) {
		rows, err := s.db.Query(ctx, rowColumns+newestFirst, s.CompanyID)
		if err != nil {
			yield(Row{}, err)
			return
		}
		for r, err := range scanned(rows) {
			if !yield(r, err) {
				return
			}
		}
	}
}

// collected are all rows of jobs.
func collected(rows pgx.Rows) ([]Row, error) {
	out := []Row{}
	for r, err := range scanned(rows) {
		if err != nil {
			return nil, err
		}
		out = append(out, r)
	}
	return out, nil
}

// How far back and ahead the start of a job lies that somebody takes along.
const (
	soonBack  = 30
	soonAhead = 7
	soonMost  = 12
)

// Soon lists the jobs that a person takes along: begun or about to begin, not signed, with them
// on the plan or nobody.
func (s Scope) Soon(ctx context.Context, who Person) ([]Row, error) {
	rows, err := s.db.Query(ctx, rowColumns+`AND starts BETWEEN $2::date - $3::int AND $2::date + $4::int AND stage <> $5
		AND (names = '{}' OR $6 = ANY(names)) ORDER BY starts, id LIMIT $7`, s.CompanyID, s.Now(), soonBack, soonAhead, install.Aftercare,
		who.Name, soonMost)
	if err != nil {
		return nil, err
	}
	return collected(rows)
}

// todayMost is how many jobs of a day somebody is told of.
const todayMost = 12

// Today lists the jobs of a person on a day: those where a step is planned for them then, or was before and is not done; those begun with them on the
// plan; and those where a lock of theirs hangs. Jobs with a step of the day come first.
func (s Scope) Today(ctx context.Context, who Person, day time.Time) ([]Row, error) {
	const mine = `EXISTS (SELECT FROM jsonb_array_elements(planned) AS step WHERE (step->>'on' = $2::text
		OR step->>'on' <> '' AND step->>'on' < $2::text AND step->>'done' = 'false') AND step->'who' ? $3)`
	rows, err := s.db.Query(ctx, rowColumns+`AND stage <> $4 AND (`+mine+` OR $3 = ANY(names) AND starts <= $2::text::date OR strpos(locks, $3) > 0)
		ORDER BY NOT `+mine+`, starts NULLS LAST, ref LIMIT $5`, s.CompanyID, day.Format(time.DateOnly), who.Name, install.Aftercare, todayMost)
	if err != nil {
		return nil, err
	}
	return collected(rows)
}

// PlannedJob is a job with what is planned on it.
type PlannedJob struct {
	ID      string         `json:"id"`
	Ref     string         `json:"ref"`
	Title   string         `json:"title"`
	Stage   string         `json:"stage"`
	Address string         `json:"address"`
	Town    string         `json:"town"`
	Danger  string         `json:"danger"`
	Waits   []plan.Waiting `json:"waits"`
	Planned []plan.Planned `json:"planned"`
	// Pace is how its work goes; nil of a job that nobody has changed since that was kept.
	Pace *plan.Pace `json:"pace"`
}

// Crew are the people of the company who work on site, by name.
func (s Scope) Crew(ctx context.Context) ([]plan.WeekPerson, error) {
	rows, err := s.db.Query(ctx,
		`SELECT id::text, name, role, coalesce((SELECT jsonb_agg(jsonb_build_object('kind', kind, 'until', until::text, 'over', until < $3)
			ORDER BY until, kind)
		FROM (SELECT kind, max(until) AS until FROM authorisation a WHERE a.person_id = person.id AND a.withdrawn_at IS NULL GROUP BY kind
			HAVING bool_and(until IS NOT NULL) AND max(until) < $4) AS ending), '[]')
		FROM person WHERE company_id = $1 AND left_at IS NULL AND role <> $2 ORDER BY name`, s.CompanyID, install.RoleOffice, s.Now(), s.Now().Add(plan.Notice))
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (p plan.WeekPerson, err error) {
		err = row.Scan(&p.ID, &p.Name, &p.Role, &p.Lapses)
		return p, err
	})
}

// Endangered is a job on which people are at risk now, and by what.
type Endangered struct {
	ID     string `json:"id"`
	Ref    string `json:"ref"`
	Title  string `json:"title"`
	Danger string `json:"danger"`
}

// Endangered lists the jobs on which people are at risk now, the newest first.
func (s Scope) Endangered(ctx context.Context) ([]Endangered, error) {
	rows, err := s.db.Query(ctx, `SELECT id::text, ref, title, danger FROM job WHERE company_id = $1 AND danger <> ''`+newestFirst+` LIMIT $2`, s.CompanyID,
		PageUsual)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Endangered])
}

// plannedMost is how many jobs of a week are told.
const plannedMost = 200

// Planned lists the jobs that are not signed and on which something is planned, in the order in which they start.
func (s Scope) Planned(ctx context.Context) ([]PlannedJob, error) {
	rows, err := s.db.Query(ctx,
		`SELECT id::text, ref, title, stage, address, town, danger, waits, planned, pace FROM job WHERE company_id = $1 AND planned <> '[]'
		AND (stage <> $2 OR planned @> '[{"done": false}]') ORDER BY starts NULLS LAST, ref LIMIT $3`, s.CompanyID, install.Aftercare, plannedMost)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[PlannedJob])
}

// NextDay is the first day after another for which a step is planned for a person, within a week; empty where none is.
func (s Scope) NextDay(ctx context.Context, who Person, after time.Time) (day string, err error) {
	err = s.db.QueryRow(ctx, `SELECT coalesce(min(step->>'on'), '') FROM job, jsonb_array_elements(planned) AS step WHERE company_id = $1 AND planned <> '[]'
		AND step->>'on' > $2::text AND step->>'on' <= $3::text AND step->>'done' = 'false' AND step->'who' ? $4`, s.CompanyID, after.Format(time.DateOnly),
		after.AddDate(0, 0, 7).Format(time.DateOnly), who.Name).Scan(&day)
	return day, err
}

// On lists the jobs on which steps are planned for a person on a day.
func (s Scope) On(ctx context.Context, who Person, day string) ([]Row, error) {
	rows, err := s.db.Query(ctx,
		rowColumns+`AND EXISTS (SELECT FROM jsonb_array_elements(planned) AS step WHERE step->>'on' = $2::text AND step->>'done' = 'false'
		AND step->'who' ? $3) ORDER BY starts NULLS LAST, ref LIMIT $4`, s.CompanyID, day, who.Name, todayMost)
	if err != nil {
		return nil, err
	}
	return collected(rows)
}

// Logged is what steps that are done took on the company's jobs, job by job.
func (s Scope) Logged(ctx context.Context) ([][]plan.Logged, error) {
	rows, err := s.db.Query(ctx, `SELECT logged FROM job WHERE company_id = $1 AND logged <> '[]' ORDER BY updated_at DESC LIMIT $2`, s.CompanyID, plannedMost)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[[]plan.Logged])
}

// ListMark tells one state of the first page of the list from another: how many jobs there are
// and the stamps of those on it.
func (s Scope) ListMark(ctx context.Context) (mark string, err error) {
	err = s.db.QueryRow(ctx, `SELECT c.jobs::text || ' ' || coalesce((SELECT md5(string_agg(stamp::text, '' ORDER BY updated_at DESC,
		id DESC)) FROM (SELECT stamp, updated_at, id FROM job WHERE company_id = $1`+newestFirst+` LIMIT $2) AS page), '')
		FROM company c WHERE c.id = $1`, s.CompanyID, PageUsual).Scan(&mark)
	return mark, err
}

// NextRef is the reference of the next job of the company; empty where it numbers none.
func (s Scope) NextRef(ctx context.Context) (string, error) {
	k, err := s.Company(ctx)
	if err != nil || k.Settings.Refs == "" {
		return "", err
	}
	rows, err := s.db.Query(ctx, `SELECT ref FROM job WHERE company_id = $1`, s.CompanyID)
	if err != nil {
		return "", err
	}
	taken, err := pgx.CollectRows(rows, pgx.RowTo[string])
	return k.Settings.Refs.Next(s.Now().In(k.Location()).Year(), taken), err
}

// KeysKept is how long the key of a write is kept: longer than anything waits in a browser.
const KeysKept = install.LongestWait + 10*24*time.Hour

// ForgetKeys takes off the keys of writes that are older than [KeysKept], and says how many.
func (s *Store) ForgetKeys(ctx context.Context) (n int64, err error) {
	err = s.db.QueryRow(ctx, `SELECT forget_keys($1)`, s.Now().Add(-KeysKept)).Scan(&n)
	return n, err
}
