package handover

import (
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/words"
)

// Signer seals in the name of a company.
type Signer struct {
	Company string
	Key     ed25519.PrivateKey
}

// Fingerprint is by what people compare a public key: the first half of its SHA-256, in groups of four signs.
func Fingerprint(key ed25519.PublicKey) string {
	sum := sha256.Sum256(key)
	text := hex.EncodeToString(sum[:16])
	groups := []string{}
	for i := 0; i < len(text); i += 4 {
		groups = append(groups, text[i:i+4])
	}
	return strings.Join(groups, " ")
}

// PublicKey reads a public key as a seal writes it. It errs where it is none.
func PublicKey(text string) (ed25519.PublicKey, error) {
	raw, err := base64.StdEncoding.DecodeString(strings.TrimSpace(text))
	if err != nil || len(raw) != ed25519.PublicKeySize {
		return nil, errors.New("a public key is 44 signs of base64, as it stands on the pack")
	}
	return raw, nil
}

// statement is what a company signs of a seal: who signed which revision, when and in which role, the signature record,
// and by the hashes the whole content and every seal before it.
func statement(s *install.Seal, signature string) ([]byte, error) {
	return json.Marshal(struct {
		What, Company, Revision, By, Role, Signature, Prev, Hash string
		At                                                       time.Time
	}{"arvelt-seal", s.Company, s.Revision, s.By, s.Role, signature, s.Prev, s.Hash, s.At.UTC()})
}

// Seal makes the seal of a job whose signature is the newest record; by is nil where no company seals it.
func Seal(job *install.Job, by *Signer) (install.Seal, error) {
	n := len(job.Records)
	if n == 0 || job.Records[n-1].Kind != install.Signature {
		return install.Seal{}, errors.New("a job is sealed right after its signature")
	}
	sig := job.Records[n-1]
	prev := ""
	if len(job.Seals) > 0 {
		prev = job.Seals[len(job.Seals)-1].Hash
	}
	hash, err := chain(job, prev)
	out := install.Seal{Revision: job.Revision(), By: sig.By, Role: sig.Role, At: sig.At, Prev: prev, Hash: hash}
	if err != nil || by == nil {
		return out, err
	}
	out.Company, out.Key = by.Company, base64.StdEncoding.EncodeToString(by.Key.Public().(ed25519.PublicKey))
	text, err := statement(&out, sig.ID)
	out.Signed = base64.StdEncoding.EncodeToString(ed25519.Sign(by.Key, text))
	return out, err
}

// chain hashes a job as it was when it was signed: what was looked after since is not under
// its seal.
func chain(job *install.Job, prev string) (string, error) {
	then := *job
	then.Records, _ = job.Signed()
	c, err := Canonical(&then)
	if err != nil {
		return "", err
	}
	h := sha256.New()
	h.Write([]byte(prev))
	h.Write([]byte("\n"))
	h.Write(c)
	return hex.EncodeToString(h.Sum(nil)), nil
}

// Outcome is what Verify found, each a message.
type Outcome string

// The outcomes.
const (
	Unchanged = Outcome(words.Key("unchanged"))                                    // and sealed by a company that is known by its key
	Unknown   = Outcome(words.Key("unchanged, but sealed by nobody who is known")) // anybody may have made it
	Changed   = Outcome(words.Key("changed"))
	Unsealed  = Outcome(words.Key("not sealed"))
)

// Verify says whether a job is as it was signed, and why. known are the keys that whoever asks knows a company by.
func Verify(job *install.Job, known ...ed25519.PublicKey) (Outcome, string) {
	w := job.Words
	if len(job.Seals) == 0 {
		if job.Frozen() {
			return Changed, w.Say("it holds a signature but its seal is gone")
		}
		return Unsealed, w.Say("revision %s is in work and was never signed", job.Revision())
	}
	covered, after := job.Signed()
	if why := sealsFit(job); why != "" {
		return Changed, why
	}
	if !job.Frozen() {
		return Unsealed, w.Say("revision %s is in work; verify the signed file of an earlier one", job.Revision())
	}
	last := job.Seals[len(job.Seals)-1]
	hash, err := chain(job, last.Prev)
	if err != nil {
		return Changed, err.Error()
	}
	if hash != last.Hash {
		return Changed, w.Say("its content gives %s…, the seal of revision %s says %s…", hash[:12], last.Revision, short(last.Hash))
	}
	if i := slices.IndexFunc(after, func(r install.Record) bool { return !r.Kind.AfterSignature() }); i >= 0 {
		return Changed, w.Say("a %s stands behind the signature, which only a new revision takes", after[i].Kind)
	}
	said := w.Say("revision %s, signed by %s (%s) on %s", last.Revision, last.By, last.Role, last.At.Format("2006-01-02 15:04 MST"))
	if len(after) > 0 {
		said += "; " + w.Say("%d of %d records came after it and are not under its seal", len(after), len(after)+len(covered))
	}
	if last.Key == "" {
		return Unknown, said + "; " + w.Say("no company's key is in the seal, so that anybody may have made it")
	}
	key, err := PublicKey(last.Key)
	if err != nil {
		return Changed, w.Say("the seal of revision %s is not signed by the key that it names", last.Revision)
	}
	if !slices.ContainsFunc(known, func(k ed25519.PublicKey) bool { return k.Equal(key) }) {
		return Unknown, said + "; " + w.Say("it says that %s sealed it, with the key %s: compare that with the company's own word", last.Company,
			Fingerprint(key))
	}
	return Unchanged, said + "; " + w.Say("sealed by %s, key %s", last.Company, Fingerprint(key))
}

// sealsFit says where the seals of a job are not those of its signatures: each is of the signature of its turn, says of it what
// the record says, follows the one before, and where a company's key is in it, is signed by that key. Empty where all fit.
func sealsFit(job *install.Job) string {
	w := job.Words
	signatures := []*install.Record{}
	for i := range job.Records {
		if job.Records[i].Kind == install.Signature {
			signatures = append(signatures, &job.Records[i])
		}
	}
	if len(signatures) != len(job.Seals) {
		return w.Say("it has %d signatures and %d seals", len(signatures), len(job.Seals))
	}
	for i := range job.Seals {
		s, sig := &job.Seals[i], signatures[i]
		switch {
		case i > 0 && s.Prev != job.Seals[i-1].Hash, i == 0 && s.Prev != "":
			return w.Say("the chain of seals is broken before revision %s", s.Revision)
		case s.Revision != install.RevisionName(i):
			return w.Say("the seal of revision %s says that it is of %s", install.RevisionName(i), s.Revision)
		case s.By != sig.By || s.Role != sig.Role || !s.At.Equal(sig.At):
			return w.Say("the seal of revision %s says that %s (%s) signed it on %s, the signature that %s (%s) did on %s", s.Revision, s.By, s.Role,
				s.At.Format(time.RFC3339), sig.By, sig.Role, sig.At.Format(time.RFC3339))
		}
		if s.Key == "" && s.Signed == "" && s.Company == "" {
			continue
		}
		key, err := PublicKey(s.Key)
		signed, err2 := base64.StdEncoding.DecodeString(s.Signed)
		text, err3 := statement(s, sig.ID)
		if errors.Join(err, err2, err3) != nil || !ed25519.Verify(key, text, signed) {
			return w.Say("the seal of revision %s is not signed by the key that it names", s.Revision)
		}
	}
	return ""
}
