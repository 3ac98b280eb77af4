package store

import (
	"context"
	"encoding/hex"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
)

// KeptToken is the token of a session as it is kept: by its hash.
func KeptToken(token string) string { return hex.EncodeToString(TokenHash(token)) }

// session is the database as whoever has a token sees it: the row of that session and nothing else.
func (s *Store) session(token string) scoped {
	return scoped{s.db, namesSession, []any{KeptToken(token)}}
}

const namesSession = `SELECT set_config('arvelt.token', $1, true)`

// FindSession returns the data of a session that has not run out.
func (s *Store) FindSession(ctx context.Context, token string) (data []byte, found bool, err error) {
	err = s.session(token).QueryRow(ctx, `SELECT data FROM sessions WHERE token = $1 AND expiry > now()`, KeptToken(token)).Scan(&data)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// KeepSession keeps the data of a session.
func (s *Store) KeepSession(ctx context.Context, token string, data []byte, expiry time.Time) error {
	_, err := s.session(token).Exec(ctx, `INSERT INTO sessions (token, data, expiry) VALUES ($1, $2, $3)
		ON CONFLICT (token) DO UPDATE SET data = $2, expiry = $3`, KeptToken(token), data, expiry)
	return err
}

// DropSession ends a session.
func (s *Store) DropSession(ctx context.Context, token string) error {
	_, err := s.session(token).Exec(ctx, `DELETE FROM sessions WHERE token = $1`, KeptToken(token))
	return err
}

// ForgetSessions takes off those that have run out, and says how many.
func (s *Store) ForgetSessions(ctx context.Context) (n int64, err error) {
	err = s.db.QueryRow(ctx, `SELECT forget_sessions()`).Scan(&n)
	return n, err
}
