// Package words holds the message catalogue: every sentence and label that is composed
// outside the rulebooks, by its text in British English, with what it is in the other
// practices. A sentence with arguments is one message, so that a practice may order it its
// own way: %[2]s stands for the second argument, as in package fmt.
//
// The British text is the key, as in gettext and golang.org/x/text/message: code reads as
// what it says, and a message that nobody has written down yet shows in English rather than
// as a code. A test over the syntax tree holds that each message that code says has its row
// in data/messages.csv, and that no row is of a message that is gone.
package words

import (
	"embed"
	"encoding/csv"
	"fmt"
	"io"

	"arvelt/core/unit"
)

// Locale names a form of a language, as BCP 47 has it.
type Locale string

// The locales that have a catalogue. That of British English is its keys.
const (
	British  Locale = "en-GB"
	American Locale = "en-US"
	Canadian Locale = "en-CA"
)

// Key is a message that stands in a constant or a table until it is said.
type Key string

// Catalogue says messages in one locale. The nil catalogue says them in British English.
type Catalogue struct {
	locale Locale
	texts  map[string]string
}

//go:embed data/messages.csv
var files embed.FS

// Same stands in a cell whose text is that of the British.
const Same = "="

var all = load()

func load() map[Locale]*Catalogue {
	f, err := files.Open("data/messages.csv")
	if err != nil {
		panic(err)
	}
	r := csv.NewReader(f)
	r.Comment = '#'
	head, err := r.Read()
	if err != nil {
		panic(fmt.Sprintf("words: %v", err))
	}
	out := map[Locale]*Catalogue{}
	for _, locale := range head {
		out[Locale(locale)] = &Catalogue{Locale(locale), map[string]string{}}
	}
	for {
		row, err := r.Read()
		if err == io.EOF {
			return out
		}
		if err != nil {
			panic(fmt.Sprintf("words: %v", err))
		}
		for i, text := range row {
			if text != Same {
				out[Locale(head[i])].texts[row[0]] = text
			} else {
				out[Locale(head[i])].texts[row[0]] = row[0]
			}
		}
	}
}

// In is the catalogue of a locale, nil and so British English for one that has none.
func In(locale Locale) *Catalogue { return all[locale] }

// Locale is the locale of the catalogue.
func (c *Catalogue) Locale() Locale {
	if c == nil {
		return British
	}
	return c.locale
}

// Has reports whether the catalogue has a message.
func (c *Catalogue) Has(key string) bool {
	_, ok := c.texts[key]
	return ok
}

// Say says a message. Its arguments are set where its text has their verbs, as by
// [fmt.Sprintf]; a float64 where the verb is %v or %s is written as [unit.Format] does.
func (c *Catalogue) Say(key string, args ...any) string {
	text := key
	if c != nil {
		if t, ok := c.texts[key]; ok {
			text = t
		}
	}
	if len(args) == 0 {
		return text
	}
	for i, a := range args {
		if f, ok := a.(float64); ok {
			args[i] = figure(f)
		}
	}
	return fmt.Sprintf(text, args...)
}

// figure is a number that writes itself as the product does, and still takes %.1f.
type figure float64

// Format implements [fmt.Formatter].
func (f figure) Format(s fmt.State, verb rune) {
	if verb == 'v' || verb == 's' {
		_, _ = io.WriteString(s, unit.Format(float64(f)))
		return
	}
	fmt.Fprintf(s, fmt.FormatString(s, verb), float64(f))
}

// Keys lists the messages of the catalogue, in no order.
func (c *Catalogue) Keys() []string {
	out := make([]string, 0, len(c.texts))
	for key := range c.texts {
		out = append(out, key)
	}
	return out
}
