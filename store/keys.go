package store

import (
	"context"
	"crypto/aes"
	"crypto/cipher"
	"crypto/ed25519"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"fmt"
	"os"
	"strings"

	"github.com/jackc/pgx/v5"

	"arvelt/core/handover"
	"arvelt/core/install"
)

// secretLeast is how long a server secret is at least.
const secretLeast = 32

// Secret reads the server's secret out of ARVELT_SECRET, or of the file that ARVELT_SECRET_FILE names, which nobody but its
// owner may read. Empty where neither is set; the secret is in no error.
func Secret(getenv func(string) string) (string, error) {
	text, path := getenv("ARVELT_SECRET"), getenv("ARVELT_SECRET_FILE")
	if text == "" && path == "" {
		return "", nil
	}
	if text == "" {
		info, err := os.Stat(path)
		if err != nil {
			return "", fmt.Errorf("ARVELT_SECRET_FILE: %w", err)
		}
		if mode := info.Mode().Perm(); mode&0o077 != 0 {
			return "", fmt.Errorf("ARVELT_SECRET_FILE: %s may be read by others (mode %o): give it mode 600", path, mode)
		}
		raw, err := os.ReadFile(path)
		if err != nil {
			return "", fmt.Errorf("ARVELT_SECRET_FILE: %w", err)
		}
		text = string(raw)
	}
	if text = strings.TrimSpace(text); len(text) < secretLeast {
		return "", fmt.Errorf("ARVELT_SECRET: give at least %d signs that nobody guesses", secretLeast)
	}
	return text, nil
}

// UseSecret gives the store the secret that seals the companies' keys.
func (s *Store) UseSecret(secret string) { s.secret = secret }

// HasSecret reports whether it has one.
func (s *Store) HasSecret() bool { return s.secret != "" }

// WrongSecretError says that a company's key was sealed by another secret.
type WrongSecretError struct{}

func (*WrongSecretError) Error() string {
	return "The company's key was sealed by another server secret: give this server the one that it had, or restore the key with the backup."
}

// box seals with a server's secret (AES-256-GCM, NIST SP 800-38D).
func box(secret string) (cipher.AEAD, error) {
	key := sha256.Sum256([]byte("arvelt company key\n" + secret))
	block, err := aes.NewCipher(key[:])
	if err != nil {
		return nil, err
	}
	return cipher.NewGCM(block)
}

// sealKey seals the seed of a company's key.
func sealKey(secret, company string, seed []byte) ([]byte, error) {
	b, err := box(secret)
	if err != nil {
		return nil, err
	}
	nonce := make([]byte, b.NonceSize())
	if _, err := rand.Read(nonce); err != nil {
		return nil, err
	}
	return b.Seal(nonce, nonce, seed, []byte(company)), nil
}

// openKey is the seed that was sealed; a [*WrongSecretError] where it was by another secret.
func openKey(secret, company string, sealed []byte) ([]byte, error) {
	b, err := box(secret)
	if err != nil {
		return nil, err
	}
	n := b.NonceSize()
	if len(sealed) < n {
		return nil, &WrongSecretError{}
	}
	seed, err := b.Open(nil, sealed[:n], sealed[n:], []byte(company))
	if err != nil {
		return nil, &WrongSecretError{}
	}
	return seed, nil
}

// PublicKey is the key by which the company's seals are known, [ErrNotFound] where it has none yet.
func (s Scope) PublicKey(ctx context.Context) (ed25519.PublicKey, error) {
	var key []byte
	err := s.db.QueryRow(ctx, `SELECT public FROM company_key WHERE company_id::text = $1`, s.CompanyID).Scan(&key)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return key, err
}

// Signer is who seals for the company; its key is made with its first seal. Nil where the server has no secret.
func (s Scope) Signer(ctx context.Context) (*handover.Signer, error) {
	if s.secret == "" {
		return nil, nil
	}
	company, err := s.Company(ctx)
	if err != nil {
		return nil, err
	}
	public, private, err := ed25519.GenerateKey(nil)
	if err != nil {
		return nil, err
	}
	sealed, err := sealKey(s.secret, s.CompanyID, private.Seed())
	if err != nil {
		return nil, err
	}
	// Of two servers that make it at once one keeps its own.
	if _, err := s.db.Exec(ctx, `INSERT INTO company_key (company_id, public, sealed, made_at) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING`,
		s.CompanyID, []byte(public), sealed, s.Now()); err != nil {
		return nil, err
	}
	if err := s.db.QueryRow(ctx, `SELECT sealed FROM company_key WHERE company_id = $1`, s.CompanyID).Scan(&sealed); err != nil {
		return nil, err
	}
	seed, err := openKey(s.secret, s.CompanyID, sealed)
	if err != nil {
		return nil, err
	}
	return &handover.Signer{Company: company.Name, Key: ed25519.NewKeyFromSeed(seed)}, nil
}

// Sign signs the revision in work and seals it in the name of the company.
func (l *Loaded) Sign(note string, signer *handover.Signer) error {
	if l.signer = signer; signer != nil {
		l.Job.SealedBy = signer.Key.Public().(ed25519.PublicKey)
	}
	return l.NewRecord(install.Record{Kind: install.Signature, Note: note})
}
