package store

import (
	"context"
	"slices"

	"github.com/jackc/pgx/v5"

	"arvelt/core/install"
)

// Blocked is a part that is no longer as a command left it.
type Blocked struct {
	Part string `json:"part"`
	Name string `json:"name"`
	By   string `json:"by"` // who changed it since
}

// Command is what a person changed together on a job, as it may be taken back or brought back.
type Command struct {
	ID      string    `json:"id"`
	Title   string    `json:"title"`   // in the words of the job
	Parts   int       `json:"parts"`   // how many it changed
	Blocked []Blocked `json:"blocked"` // those that somebody has changed since
}

// Steps are what a person can take back and bring back on a job now.
type Steps struct {
	Undo   *Command `json:"undo"`   // the last command
	Before *Command `json:"before"` // where that one cannot be taken back whole, the newest one that can
	Redo   *Command `json:"redo"`   // the last command taken back
}

// TakeBack says which command is taken back: the last one where nothing is said. Free takes back
// what nobody has changed since and leaves the rest.
type TakeBack struct {
	Command string `json:"command"`
	Free    bool   `json:"free"`
}

// pastEdit is a change of one part.
type pastEdit struct {
	Seq                  int64
	Command, Part, Title string
	Before               []byte  // nil where the edit made the part
	Undoes               *string // of an undo: the command that it took back
	Undone, Redone       bool
	Since                *string // who changed the part since
}

// mostSteps is how many edits of a person are looked through for what may be taken back.
const mostSteps = 400

// pastCommands are the newest commands of a person on a job, newest first: their edits that left
// how a part was, or made one. Records are never undone.
func (s Scope) pastCommands(ctx context.Context, on querier, id string, who Person) ([][]pastEdit, error) {
	rows, err := on.Query(ctx, `
		SELECT e.seq, coalesce(e.command::text, ''), e.part, CASE WHEN e.title = '' THEN e.what ELSE e.title END, e.before,
			e.undoes::text, coalesce(now.undone, e.undone), coalesce(now.redone, false),
			(SELECT later.by_name FROM edit later LEFT JOIN edit_state s ON s.seq = later.seq WHERE later.job_id = e.job_id AND later.company_id =
				e.company_id AND later.part = e.part AND later.seq > e.seq AND NOT coalesce(s.undone, later.undone)
				AND (later.command IS NULL OR later.command <> e.command) ORDER BY later.seq DESC LIMIT 1)
		FROM edit e LEFT JOIN edit_state now ON now.seq = e.seq WHERE e.job_id = $1 AND e.company_id = $2 AND e.person_id = $3
			AND (e.before IS NOT NULL OR split_part(e.part, '/', 1) = ANY($5))
		ORDER BY e.seq DESC LIMIT $4`, id, s.CompanyID, who.ID, mostSteps, install.ListNames())
	if err != nil {
		return nil, err
	}
	edits, err := pgx.CollectRows(rows, pgx.RowToStructByPos[pastEdit])
	out := [][]pastEdit{}
	for _, e := range edits {
		if n := len(out); n > 0 && e.Command != "" && out[n-1][0].Command == e.Command {
			out[n-1] = append(out[n-1], e)
		} else {
			out = append(out, []pastEdit{e})
		}
	}
	return out, err
}

// taken reports whether a command is of those that were taken back, brought back or began a job.
func taken(c []pastEdit) bool { return c[0].Undone }

// undoOf finds the command that a person takes back: the one that is named, or the newest.
func undoOf(past [][]pastEdit, command string) []pastEdit {
	for _, c := range past {
		if !taken(c) && (command == "" || c[0].Command == command) {
			return c
		}
	}
	return nil
}

// redoOf finds the undo that a person takes back in turn: the newest with nothing changed since.
func redoOf(past [][]pastEdit) []pastEdit {
	for _, c := range past {
		switch {
		case !taken(c):
			return nil
		case c[0].Undoes != nil && !c[0].Redone:
			return c
		}
	}
	return nil
}

func (l *Loaded) step(c []pastEdit) *Command {
	if c == nil {
		return nil
	}
	out := &Command{ID: c[0].Command, Title: c[0].Title, Parts: len(c), Blocked: []Blocked{}}
	for _, e := range c {
		if e.Since != nil {
			out.Blocked = append(out.Blocked, Blocked{Part: e.Part, Name: l.partName(e.Part), By: *e.Since})
		}
	}
	return out
}

// Steps returns what a person can take back and bring back on a job.
func (s Scope) Steps(ctx context.Context, who Person, id string) (out Steps, err error) {
	l, err := s.Job(ctx, who, id)
	if err != nil {
		return out, err
	}
	past, err := s.pastCommands(ctx, s.db, id, who)
	if err != nil {
		return out, err
	}
	undone := redoOf(past)
	out.Undo, out.Redo = l.step(undoOf(past, "")), l.step(undone)
	if out.Undo != nil && len(out.Undo.Blocked) > 0 {
		i := slices.IndexFunc(past, func(c []pastEdit) bool {
			return !taken(c) && !slices.ContainsFunc(c, func(e pastEdit) bool { return e.Since != nil })
		})
		if i >= 0 {
			out.Before = l.step(past[i])
		}
	}
	if out.Redo != nil {
		out.Redo.Title = l.titleOf(past, *undone[0].Undoes, out.Redo.Title)
	}
	return out, nil
}

// titleOf is what a command was called.
func (l *Loaded) titleOf(past [][]pastEdit, command, otherwise string) string {
	for _, c := range past {
		if c[0].Command == command {
			return c[0].Title
		}
	}
	return otherwise
}

// Undo restores the parts of a command of the person, all or none unless only what is free is
// asked for.
func (s Scope) Undo(ctx context.Context, who Person, id, key string, which TakeBack) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		past, err := s.pastCommands(ctx, l.tx, l.ID, who)
		if err != nil {
			return err
		}
		edits := undoOf(past, which.Command)
		if edits == nil {
			return &NothingError{l.Job.Words.Say("There is no edit of yours to undo.")}
		}
		if which.Free {
			edits = slices.DeleteFunc(slices.Clone(edits), func(e pastEdit) bool { return e.Since != nil })
		}
		if len(edits) == 0 {
			return &NothingError{l.Job.Words.Say("Everything that it changed was changed by somebody else since.")}
		}
		l.title = l.Job.Words.Say("Undone: %s", edits[0].Title)
		if edits[0].Command != "" {
			l.undoes = &edits[0].Command
		}
		if err := l.takeBack(edits); err != nil {
			return err
		}
		return s.mark(ctx, l, edits, true, false)
	})
}

// Redo brings back the command that the person took back last, unless something was changed since.
func (s Scope) Redo(ctx context.Context, who Person, id, key string) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		past, err := s.pastCommands(ctx, l.tx, l.ID, who)
		if err != nil {
			return err
		}
		edits := redoOf(past)
		if edits == nil {
			return &NothingError{l.Job.Words.Say("There is nothing of yours to bring back.")}
		}
		l.title = l.Job.Words.Say("Redone: %s", l.titleOf(past, *edits[0].Undoes, edits[0].Title))
		if err := l.takeBack(edits); err != nil {
			return err
		}
		if err := s.mark(ctx, l, edits, true, true); err != nil {
			return err
		}
		parts := []string{}
		for _, e := range edits {
			parts = append(parts, e.Part)
		}
		_, err = l.tx.Exec(ctx, `UPDATE edit_state SET undone = false WHERE seq IN (SELECT seq FROM edit WHERE job_id = $1 AND company_id = $2 AND
			command = $3 AND part = ANY($4))`, l.ID, s.CompanyID, *edits[0].Undoes, parts)
		return err
	})
}

// mark keeps whether edits are taken back or brought back, beside the audit that is only added to.
func (s Scope) mark(ctx context.Context, l *Loaded, edits []pastEdit, undone, redone bool) error {
	seqs := []int64{}
	for _, e := range edits {
		seqs = append(seqs, e.Seq)
	}
	_, err := l.tx.Exec(ctx, `INSERT INTO edit_state (seq, company_id, undone, redone) SELECT seq, $2, $3, $4 FROM unnest($1::bigint[]) AS seq
		ON CONFLICT (seq) DO UPDATE SET undone = $3, redone = $4`, seqs, s.CompanyID, undone, redone)
	return err
}

// takeBack puts parts as they were before edits, unless somebody has changed one since. What an edit made is taken off once nothing
// that another made rests on it: a board goes before the circuit that feeds it.
func (l *Loaded) takeBack(edits []pastEdit) error {
	l.undoing = true
	made := []string{}
	for _, e := range edits {
		switch {
		case e.Since != nil && l.stale[e.Part] == nil:
			return &NothingError{l.Job.Words.Say("It is not undone: somebody has taken it off meanwhile.")}
		case e.Since != nil:
			return l.staleOf(e.Part)
		case e.Before == nil:
			made = append(made, e.Part)
		default:
			if err := l.SetPart(e.Part, l.Versions[e.Part], e.Before); err != nil {
				return err
			}
		}
	}
	for len(made) > 0 {
		i := max(0, slices.IndexFunc(made, func(part string) bool {
			p, ok := install.PartNamed(part)
			return ok && p.Of(&l.Job) != nil && p.Stays(&l.Job) == ""
		}))
		if err := l.Remove(made[i], l.Versions[made[i]]); err != nil {
			return err
		}
		made = slices.Delete(made, i, i+1)
	}
	return nil
}

// partName is what a part is called: a circuit and a room by their own names.
func (l *Loaded) partName(part string) string {
	if name, ok := l.gone[part]; ok {
		return name
	}
	if p, ok := install.PartNamed(part); ok {
		return p.Named(&l.Job)
	}
	return part
}

// drop notes that a part is taken off, with what it was called.
func (l *Loaded) drop(part string) {
	if l.gone == nil {
		l.gone = map[string]string{}
	}
	l.gone[part] = l.partName(part)
	l.removed = append(l.removed, part)
}

// named says what is done to a part by the change in work.
func (l *Loaded) named(part string) string {
	_, made := l.Versions[part]
	switch name := l.partName(part); {
	case slices.Contains(l.removed, part):
		return l.Job.Words.Say("%s taken off", name)
	case !made:
		return l.Job.Words.Say("%s added", name)
	default:
		return l.Job.Words.Say("%s changed", name)
	}
}
