package main

import (
	"crypto/ed25519"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"
	"time"

	"arvelt/api"
	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/whole"
	"arvelt/core/working"
)

// readJob reads a job file and checks it as an import would.
func readJob(path string) (*install.Job, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	job, err := whole.Read(f)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", path, err)
	}
	if err := whole.Accept(job); err != nil {
		return nil, fmt.Errorf("%s: %w", path, err)
	}
	return job, nil
}

// figure is one check as a script reads it.
type figure struct {
	Circuit string          `json:"circuit"`
	ID      string          `json:"id"`
	Title   string          `json:"title"`
	Verdict working.Verdict `json:"verdict"`
	Value   *float64        `json:"value"`
	Limit   *float64        `json:"limit"`
	Unit    string          `json:"unit"`
	Summary string          `json:"summary"`
	Assumed []string        `json:"assumed"`
	Missing []string        `json:"missing"`
	Sources []string        `json:"sources"`
}

func check(e *env) error {
	asJSON := false
	words, err := e.flags("check", func(fs *flag.FlagSet) { fs.BoolVar(&asJSON, "json", false, "write JSON") })
	if err != nil {
		return err
	}
	if len(words) != 1 {
		return errors.New("give one job file")
	}
	job, err := readJob(words[0])
	if err != nil {
		return err
	}
	report := whole.Practice(job).Judge(job)
	figures, failed := []figure{}, false
	works := outdoor.Of(job, whole.Practice(job), nil, time.Now().Format(time.DateOnly))
	for _, c := range slices.Concat(report.Checks(), whole.Practice(job).Chain(job).Checks, works.Checks()) {
		f := figure{c.Circuit, c.ID, c.Title, c.Verdict, c.Value, c.Limit, c.Unit, c.Summary, c.Assumed, c.Missing, []string{}}
		for _, s := range c.Sources {
			f.Sources = append(f.Sources, s.Ref)
		}
		figures = append(figures, f)
		failed = failed || c.Verdict == working.Fail
	}
	if asJSON {
		enc := json.NewEncoder(e.out)
		enc.SetIndent("", "  ")
		enc.SetEscapeHTML(false)
		if err := enc.Encode(figures); err != nil {
			return err
		}
	} else {
		for _, f := range figures {
			numbers := "–"
			if f.Value != nil && f.Limit != nil {
				numbers = unit.Format(*f.Value) + " of " + unit.With(*f.Limit, f.Unit)
			}
			fmt.Fprintf(e.out, "%-8s %-4s %-44s %-26s %s [%s]\n", f.Verdict, f.Circuit, f.Title, numbers, f.Summary,
				strings.Join(f.Sources, "; "))
		}
		fmt.Fprintf(e.out, "Judged by %s, edition %s. %s\n", whole.Practice(job).Words()[job.Practice], job.Edition, report.Notice)
	}
	if failed {
		return exit(1)
	}
	return nil
}

func find(practice, name string) (rulebook.Calc, bool) {
	p, ok := whole.Practices[practice]
	if !ok {
		return rulebook.Calc{}, false
	}
	calcs := p.Calcs()
	i := slices.IndexFunc(calcs, func(c rulebook.Calc) bool { return c.Name == name })
	if i < 0 {
		return rulebook.Calc{}, false
	}
	return calcs[i], true
}

func calc(e *env) error {
	list, cases := false, ""
	words, err := e.flags("calc", func(fs *flag.FlagSet) {
		fs.BoolVar(&list, "list", false, "list the calculations")
		fs.StringVar(&cases, "cases", "", "run a file of worked cases")
	})
	switch {
	case err != nil:
		return err
	case list:
		return listCalcs(e)
	case cases != "":
		return runCases(e, cases)
	case len(words) != 1:
		return errors.New("give one calculation as PRACTICE/CALC; arvelt calc --list names them")
	}
	practice, name, _ := strings.Cut(words[0], "/")
	c, ok := find(practice, name)
	if !ok {
		return fmt.Errorf("there is no calculation %q; arvelt calc --list names them", words[0])
	}
	input, err := io.ReadAll(io.LimitReader(e.in, 1<<20))
	if err != nil {
		return err
	}
	result, steps, err := c.Run(input)
	if err != nil {
		return err
	}
	if steps == nil {
		steps = []working.Step{}
	}
	enc := json.NewEncoder(e.out)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(map[string]any{"calc": words[0], "result": result, "working": steps})
}

func listCalcs(e *env) error {
	for _, id := range practices() {
		for _, c := range whole.Practices[id].Calcs() {
			fmt.Fprintf(e.out, "%s/%s: %s\n", id, c.Name, c.About)
			for _, f := range c.In {
				words := []string{f.Type}
				if f.Unit != "" {
					words = append(words, "in "+f.Unit)
				}
				if f.Optional {
					words = append(words, "may be absent")
				}
				if f.Doc != "" {
					words = append(words, f.Doc)
				}
				fmt.Fprintf(e.out, "  in   %-30s %s\n", f.Key, strings.Join(words, "; "))
			}
			for _, key := range c.Out {
				fmt.Fprintf(e.out, "  out  %s\n", key)
			}
		}
	}
	return nil
}

func practices() []string {
	var out []string
	for id := range whole.Practices {
		out = append(out, id)
	}
	slices.Sort(out)
	return out
}

func runCases(e *env, path string) error {
	raw, err := os.ReadFile(path)
	if err != nil {
		return err
	}
	var cases []rulebook.Case
	if err := json.Unmarshal(raw, &cases); err != nil {
		return fmt.Errorf("%s: not a file of worked cases: %w", path, err)
	}
	passed, failed := rulebook.RunCases(cases, find, e.out)
	fmt.Fprintf(e.out, "%d passed, %d failed\n", passed, failed)
	if failed > 0 {
		return exit(1)
	}
	return nil
}

func verify(e *env) error {
	keys := []ed25519.PublicKey{}
	words, err := e.flags("verify", func(fs *flag.FlagSet) {
		fs.Func("key", "public key of the company that is to have sealed it, as on its pack; may be given again", func(text string) error {
			key, err := handover.PublicKey(text)
			keys = append(keys, key)
			return err
		})
	})
	if err != nil {
		return err
	}
	if len(words) != 1 {
		return errors.New("give one job file")
	}
	f, err := os.Open(words[0])
	if err != nil {
		return err
	}
	defer f.Close()
	job, err := whole.Read(f)
	if err != nil {
		return fmt.Errorf("%s: %w", words[0], err)
	}
	outcome, why := handover.Verify(job, keys...)
	fmt.Fprintf(e.out, "%s: %s\n", outcome, why)
	switch outcome {
	case handover.Unchanged:
		return nil
	case handover.Unknown:
		return exit(3)
	}
	return exit(1)
}

func schema(e *env) error {
	raw, err := api.JobFileSchema()
	if err != nil {
		return err
	}
	_, err = e.out.Write(raw)
	return err
}
