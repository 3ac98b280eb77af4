package store

import (
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/van"
	"arvelt/core/whole"
	"arvelt/core/words"
)

// Validate checks a company's own lists: prices and hours within what a trade
// can charge, keys and instruments once. The error is [install.Errors].
func (s Settings) Validate() error {
	var errs install.Errors
	say := func(field string, value any, accept string) {
		errs = append(errs, install.FieldError{Field: field, Value: fmt.Sprint(value), Accept: accept})
	}
	text := func(field, v string, needed bool) {
		if len(v) > 200 || needed && strings.TrimSpace(v) == "" || strings.ContainsRune(v, 0) {
			say(field, v, "a text of at most 200 characters")
		}
	}
	if len(s.Prices) > 1000 || len(s.Instruments) > 200 {
		say("prices", len(s.Prices), "at most 1000 prices and 200 instruments")
	}
	text("address", s.Address, false)
	text("phone", s.Phone, false)
	text("licence", s.Licence, false)
	if !s.Refs.Valid() {
		say("refs", s.Refs, install.RefPatternAccepts)
	}
	if s.Practice != "" && !slices.Contains(whole.PracticeIDs, s.Practice) {
		say("practice", s.Practice, "one of "+strings.Join(whole.PracticeIDs, ", ")+", or nothing")
	}
	if s.Kind != "" && !slices.Contains(install.JobKinds, s.Kind) {
		say("kind", s.Kind, "a kind of job, or nothing")
	}
	keys := map[string]bool{}
	for i, p := range s.Prices {
		f := fmt.Sprintf("prices[%d].", i)
		text(f+"key", p.Key, true)
		text(f+"name", p.Name, true)
		text(f+"unit", p.Unit, false)
		if keys[p.Key] {
			say(f+"key", p.Key, "a key that no other line has")
		}
		keys[p.Key] = true
		if !(p.Price >= 0 && p.Price <= 1e6) {
			say(f+"price", p.Price, "a price from 0 to 1000000")
		}
		if p.High != 0 && !(p.High >= p.Price && p.High <= 1e6) {
			say(f+"high", p.High, "0 for no range, or at least the price")
		}
		if !(p.Hours >= 0 && p.Hours <= 1000) {
			say(f+"hours", p.Hours, "hours from 0 to 1000")
		}
		text(f+"merchant", p.Merchant, false)
		if len(p.Packs) > 12 {
			say(f+"packs", len(p.Packs), "at most 12 packs")
		}
		for _, pack := range p.Packs {
			if !(pack > 0 && pack <= 10000) {
				say(f+"packs", pack, "packs above 0 and up to 10000, each in the unit of the line")
			}
		}
		if p.LeadDays < 0 || p.LeadDays > 365 {
			say(f+"leadDays", p.LeadDays, "days from 0 to 365")
		}
		if len(p.Instead) > 12 {
			say(f+"instead", len(p.Instead), "at most 12 keys of what may be taken instead")
		}
		for _, key := range p.Instead {
			text(f+"instead", key, true)
		}
	}
	errs = append(errs, s.holdings()...)
	if err, ok := s.Quote.Validate().(install.Errors); ok {
		errs = append(errs, err...)
	}
	if words.In(s.Speaks()) == nil {
		say("locale", s.Locale, "en-GB, en-US or en-CA")
	}
	terms := []install.Terms{}
	for _, id := range whole.PracticeIDs {
		terms = append(terms, whole.Practices[id].Terms())
	}
	if err, ok := s.Schools.Validate(terms...).(install.Errors); ok {
		errs = append(errs, err...)
	}
	if len(errs) > 0 {
		return errs
	}
	return nil
}

// holdings holds what a company has of tools and instruments to kinds that there are.
func (s Settings) holdings() (errs install.Errors) {
	say := func(field string, value any, accept string) {
		errs = append(errs, install.FieldError{Field: field, Value: fmt.Sprint(value), Accept: accept})
	}
	kinds := van.KitIDs()
	one := func(at string, kit van.Kit, name, dated, until string) {
		if !slices.Contains(kinds, string(kit)) {
			say(at+"kit", kit, "one of "+strings.Join(kinds, ", "))
		}
		if strings.TrimSpace(name) == "" || len(name) > 200 {
			say(at+"name", name, "a text of at most 200 characters")
		}
		if !install.IsDate(until) {
			say(at+dated, until, "a date as 2026-11-24, or nothing")
		}
	}
	if len(s.Kit) > 400 {
		say("kit", len(s.Kit), "at most 400 entries")
	}
	for i, h := range s.Kit {
		at := fmt.Sprintf("kit[%d].", i)
		one(at, h.Kit, h.Name, "until", h.Until)
		if len(h.Van) > 200 {
			say(at+"van", h.Van, "a text of at most 200 characters")
		}
	}
	for i, in := range s.Instruments {
		at, kit := fmt.Sprintf("instruments[%d].", i), in.Kit
		if kit == "" {
			kit = van.Kit(kinds[0]) // nobody has said what it is
		}
		one(at, kit, in.Name, "calibrated", in.Calibrated)
		if len(in.Serial) > 200 {
			say(at+"serial", in.Serial, "a text of at most 200 characters")
		}
	}
	return errs
}
