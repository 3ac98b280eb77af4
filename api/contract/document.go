package main

import (
	"fmt"
	"os"
	"strings"

	"arvelt/core/install"
)

// documentTarget lists the parts of a job and the kinds of record, for people.
const documentTarget = "../docs/parts.md"

func document() error {
	var out strings.Builder
	out.WriteString("# Parts of a job and kinds of record\n\nWritten by `go generate ./api` from `core/install`.\n\n## Parts\n\n" +
		"Read, edited, saved, locked and undone each by itself.\n\n| part | what it is | edited on | by | makes stale |\n|---|---|---|---|---|\n")
	for _, k := range install.PartKinds {
		name, called := k.Name, string(k.Title)
		if k.List {
			name, called = k.Name+"/ID", fmt.Sprintf("each of at most %d", k.Most)
		}
		stale := []string{}
		for _, read := range k.Stale {
			stale = append(stale, string(read))
		}
		fmt.Fprintf(&out, "| `%s` | %s | %s | %s | %s |\n", name, called, k.Sheet, whose(k.MayEdit), strings.Join(stale, ", "))
	}
	out.WriteString("\n## Records\n\nOnly ever added.\n\n" +
		"| kind | what it is | made by | corrected by | after a signature | members |\n|---|---|---|---|---|---|\n")
	for _, k := range install.Kinds {
		has, _ := install.Members(k)
		after := ""
		if k.AfterSignature() {
			after = "yes"
		}
		fmt.Fprintf(&out, "| `%s` | %s | %s | %s | %s | %s |\n", k, install.KindNames[k], madeBy(k), corrected[install.RecordRules[k].Corrects],
			after, strings.Join(has, ", "))
	}
	return os.WriteFile(documentTarget, []byte(out.String()), 0o644)
}

// corrected says whose records of a kind another may take the place of.
var corrected = map[install.Corrects]string{install.CorrectsNone: "nobody", install.CorrectsOwn: "who made it",
	install.CorrectsAny: "who may add it", install.CorrectsSenior: "who made it; others but the apprentice and the office"}

// madeBy are those who may add a record of a kind.
func madeBy(k install.RecordKind) string {
	rule := install.RecordRules[k]
	said := whose(rule.Role)
	if rule.Needs != "" {
		said = "authorised: " + string(rule.Needs)
	}
	if rule.Server {
		said += " (through the server, which works it out)"
	}
	return said
}

// whose are the roles that may do something.
func whose(may func(role string) bool) string {
	out := []string{}
	for _, role := range install.Roles {
		if may(role) {
			out = append(out, role)
		}
	}
	if len(out) == len(install.Roles) {
		return "everybody"
	}
	return strings.Join(out, ", ")
}
