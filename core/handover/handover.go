// Package handover decides whether a job is ready to be signed, and seals what
// was signed so that a change of it shows.
package handover

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strings"

	"arvelt/core/exact"
	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Item is one line of the readiness list.
type Item struct {
	Title   string        `json:"title"`
	Ready   bool          `json:"ready"`
	Sheet   working.Sheet `json:"sheet"` // where it is mended
	Who     string        `json:"who"`
	Summary string        `json:"summary"`
}

// Readiness is the list computed from facts.
type Readiness struct {
	Items   []Item   `json:"items"`
	Missing int      `json:"missing"`
	Assumed []string `json:"assumed"` // inputs that stay marked on the paper
	Ready   bool     `json:"ready"`
}

var subjects = []struct {
	stage install.Stage
	title words.Key
	sheet working.Sheet
	work  bool // of what is bought and done, which a report has none of
}{
	{install.Survey, words.Key("Survey and supply complete"), working.SurveySheet, false},
	{install.Design, words.Key("Every check of the design decided"), working.CircuitsSheet, false},
	{install.Order, words.Key("Operator asked where needed, material complete"), working.MaterialsSheet, true},
	{install.FirstFix, words.Key("First fix done"), working.FirstFixSheet, true},
	{install.SecondFix, words.Key("Second fix done"), working.SecondFixSheet, true},
	{install.Test, words.Key("Every test passed"), working.TestSheet, false},
	{install.Handover, words.Key("No snags open"), working.HandoverSheet, false},
}

// Ready lists what is ready and each thing that is not.
func Ready(state plan.State, job *install.Job, checks []working.Check) Readiness {
	w := job.Words
	r := Readiness{Items: []Item{}, Assumed: []string{}}
	for _, s := range subjects {
		clear := true
		for _, h := range state.Holds {
			if h.Stage == s.stage && !h.Sign {
				clear = false
				r.Items = append(r.Items, Item{Title: w.Say(string(s.title)), Sheet: h.Sheet, Who: h.Who, Summary: h.What})
				r.Missing++
			}
		}
		if clear && (!s.work || !job.Trait().Report) {
			r.Items = append(r.Items, Item{Title: w.Say(string(s.title)), Ready: true, Sheet: s.sheet})
		}
	}
	seen := map[string]bool{}
	add := func(a string) {
		if !seen[a] {
			seen[a] = true
			r.Assumed = append(r.Assumed, a)
		}
	}
	for _, c := range checks {
		if c.Outside {
			continue
		}
		for _, a := range c.Assumed {
			add(a)
		}
	}
	for _, e := range job.Chain.Enclosures {
		if l := e.Feed.LengthM; l.Known() && !l.Confirmed() {
			add(w.Say("length of the conductor to %s", e.Name))
		}
	}
	r.Ready = r.Missing == 0
	return r
}

// bareOf takes out of a decoded value what the model did not have when earlier
// revisions were signed, where it is empty: fields tagged seal:"omitempty". So a
// revision that was signed before a field came still has its hash.
func bareOf(v reflect.Value, tree any) {
	for v.Kind() == reflect.Pointer || v.Kind() == reflect.Interface {
		if v.IsNil() {
			return
		}
		v = v.Elem()
	}
	switch v.Kind() {
	case reflect.Struct:
		keys, ok := tree.(map[string]any)
		if !ok {
			return // a value that writes itself, such as a time
		}
		for i := range v.NumField() {
			f := v.Type().Field(i)
			key, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			if f.Anonymous && key == "" { // what it has stands among the fields of the struct
				bareOf(v.Field(i), tree)
				continue
			}
			if f.Tag.Get("seal") == "omitempty" && (v.Field(i).IsZero() || (f.Type.Kind() == reflect.Slice || f.Type.Kind() == reflect.Map) &&
				v.Field(i).Len() == 0) {
				delete(keys, key)
			} else if below, there := keys[key]; there {
				bareOf(v.Field(i), below)
				if left, ok := below.(map[string]any); ok && len(left) == 0 && f.Tag.Get("seal") == "omitempty" {
					delete(keys, key) // nothing was said in it
				}
			}
		}
	case reflect.Slice:
		list, ok := tree.([]any)
		for i := 0; ok && i < v.Len(); i++ {
			bareOf(v.Index(i), list[i])
		}
	}
}

// sealedBefore writes what has moved since revisions were first signed in its old place: the
// choices stood beside the local rules, and a practice had another name.
func sealedBefore(job *install.Job, tree map[string]any) {
	tree["schools"] = job.Schools.SealedAs()
	if job.SealedPractice != "" {
		tree["practice"] = job.SealedPractice
	}
}

// Canonical returns the job without its seals as canonical JSON: keys sorted,
// no space, so that equal jobs give equal bytes.
func Canonical(job *install.Job) ([]byte, error) {
	bare := *job
	bare.Seals = nil
	raw, err := json.Marshal(bare)
	if err != nil {
		return nil, err
	}
	var tree map[string]any
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber()
	if err := dec.Decode(&tree); err != nil {
		return nil, err
	}
	delete(tree, "seals")
	bareOf(reflect.ValueOf(bare), tree)
	sealedBefore(&bare, tree)
	var out bytes.Buffer
	enc := json.NewEncoder(&out)
	enc.SetEscapeHTML(false)
	if err := enc.Encode(tree); err != nil { // maps are encoded with sorted keys
		return nil, err
	}
	return bytes.TrimRight(out.Bytes(), "\n"), nil
}

func short(s string) string { return s[:min(12, len(s))] }

// MaxFile is the largest job file read, in bytes.
const MaxFile = 8 << 20

// Read reads a job file. It refuses fields that it does not know, so that
// nothing is lost in silence, and anything after the job.
func Read(r io.Reader) (*install.Job, error) {
	raw, err := io.ReadAll(io.LimitReader(r, MaxFile+1))
	if err != nil {
		return nil, err
	}
	if len(raw) > MaxFile {
		return nil, fmt.Errorf("the file is larger than %d MB; a job file is far smaller", MaxFile>>20)
	}
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.DisallowUnknownFields()
	var read file
	if err := exact.Check(raw, &read); err != nil {
		return nil, fmt.Errorf("not a job file that everybody reads alike: %w", err)
	}
	if err := dec.Decode(&read); err != nil {
		var te *json.UnmarshalTypeError
		switch {
		case errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
			return nil, fmt.Errorf("the file ends early, after %d bytes: it is truncated or not a job file", len(raw))
		case errors.As(err, &te):
			return nil, fmt.Errorf("%s: a %s is not accepted here", te.Field, te.Value)
		}
		return nil, fmt.Errorf("not a job file: %w", err)
	}
	if _, err := dec.Token(); err != io.EOF {
		return nil, errors.New("something follows the job in the file")
	}
	if read.Format != install.Format {
		return nil, fmt.Errorf("format: %q is not accepted; give %q", read.Format, install.Format)
	}
	return &read.Job, nil
}

// Copy turns a job that was read into a fresh one under another reference:
// signatures and seals belong to the original and stay behind.
func Copy(job *install.Job, ref string) {
	job.Ref, job.Seals = ref, []install.Seal{}
	job.Records = slices.DeleteFunc(job.Records, func(r install.Record) bool {
		return r.Kind == install.Signature || r.Kind == install.Reopen
	})
}

// Admit prepares a job that was read for an import: one that was changed after it
// was signed is refused, and one that comes under another reference becomes a
// [Copy]. An empty reference keeps the job's own.
func Admit(job *install.Job, as string) error {
	if outcome, why := Verify(job); outcome == Changed {
		return fmt.Errorf("the file was changed after it was signed: %s; nothing was imported", why)
	}
	if as != "" && as != job.Ref {
		Copy(job, as)
	}
	return nil
}

// file is a job as a job file has it: whole but for its pictures, which it names.
type file struct {
	install.Job
	// PicturesLeftOut are the SHA-256 of the pictures that its records show. An export of everything lays each beside the file,
	// as photos/SHA-256.jpg; the records, which are sealed, say the same.
	PicturesLeftOut []string `json:"picturesLeftOut,omitempty"`
}

// Pictures are the SHA-256 of the pictures that a job's records show, each once, in their order.
func Pictures(job *install.Job) []string {
	out := []string{}
	for i := range job.Records {
		if r := &job.Records[i]; r.Kind == install.Photo && r.Reference != "" && !slices.Contains(out, r.Reference) {
			out = append(out, r.Reference)
		}
	}
	return out
}

// Write writes a job as an indented job file.
func Write(w io.Writer, job *install.Job) error {
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(file{*job, Pictures(job)})
}
