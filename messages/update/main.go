// Command update brings core/words/data/messages.csv up to the code: what is said and has no row gets
// one with = for every other locale, to be written; a row of a message that is gone goes.
//
//	go generate ./messages
package main

import (
	"encoding/csv"
	"fmt"
	"os"
	"slices"

	"arvelt/core/words"
	"arvelt/messages"
)

func main() {
	if err := run(".."); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(root string) error {
	said, err := messages.Said(root)
	if err != nil {
		return err
	}
	rows := [][]string{}
	for key := range said {
		row := []string{key}
		for _, l := range []words.Locale{words.American, words.Canadian} {
			text := words.Same
			if c := words.In(l); c.Has(key) && c.Say(key) != key {
				text = c.Say(key)
			}
			row = append(row, text)
		}
		rows = append(rows, row)
	}
	slices.SortFunc(rows, func(a, b []string) int { return slices.Compare(a, b) })
	f, err := os.Create("../core/words/data/messages.csv")
	if err != nil {
		return err
	}
	defer f.Close()
	fmt.Fprintln(f, "# source: the words of the trade in each practice")
	fmt.Fprintln(f, "# note: one row a message; its British text is its key, a cell of = has that text too; written by go "+
		"generate ./messages")
	w := csv.NewWriter(f)
	if err := w.WriteAll(append([][]string{{"en-GB", "en-US", "en-CA"}}, rows...)); err != nil {
		return err
	}
	fmt.Printf("%d messages\n", len(rows))
	return nil
}
