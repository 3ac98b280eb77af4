package store

import (
	"cmp"
	"slices"

	"arvelt/core/install"
	"arvelt/core/whole"
)

// Quote is the price of the job with what was offered of it.
func (l *Loaded) Quote() whole.QuoteSheet {
	return whole.QuoteOf(&l.Job, l.Prices, l.Rule, l.Acts(), l.Now)
}

// OfferNow is an offer that somebody makes of the price that they saw, by its tag.
type OfferNow struct {
	Tag  string `json:"tag"`
	Note string `json:"note"`
}

// Offer offers the price as it is. One of another tag than was seen is refused. The error says what keeps it from being offered.
func (l *Loaded) Offer(in OfferNow) error {
	sheet := l.Quote()
	if in.Tag != sheet.Tag {
		return install.Errors{{Field: "offer.tag", Value: in.Tag, Accept: l.Job.Words.Say("the price as it is now: something has changed, look at it again")}}
	}
	r, err := sheet.OfferNow(&l.Job, in.Note)
	if err != nil {
		return err
	}
	l.title = l.Job.Words.Say("Quote %s offered", r.Reference)
	return l.NewRecord(r)
}

// AnswerQuote keeps what the client made of an offer and carries it into the job: what was found and taken becomes work, what was declined
// stands with its consequence, circuits that were declined leave the plan, and the points are agreed.
func (l *Loaded) AnswerQuote(a whole.Answer) error {
	sheet := l.Quote()
	r, declined, err := sheet.AnswerNow(&l.Job, a)
	if err != nil {
		return err
	}
	l.title = l.Job.Words.Say("Quote %s answered", r.Reference)
	if err := l.NewRecord(r); err != nil || r.Path != install.Accepted {
		return err
	}
	for _, line := range r.Priced {
		for _, finding := range sheet.Decides(line.ID) {
			if err := l.decide(&r, finding, *line.Taken, a.Note); err != nil {
				return err
			}
		}
	}
	for _, finding := range sheet.Decides("") {
		if err := l.decide(&r, finding, true, ""); err != nil {
			return err
		}
	}
	if err := l.decline(declined); err != nil {
		return err
	}
	if len(l.Job.Rooms) == 0 {
		return nil
	}
	return l.NewRecord(install.Record{Kind: install.Scope, Person: r.Person, Note: l.Job.Words.Say("with the quote %s", r.Reference)})
}

// decide notes what was decided of a finding with an offer.
func (l *Loaded) decide(answer *install.Record, finding string, taken bool, note string) error {
	d := install.Record{Kind: install.Decision, Subject: finding, Path: install.Accepted, Person: answer.Person, Signed: answer.Signed,
		Note: l.Job.Words.Say("with the quote %s", answer.Reference)}
	if !taken {
		d.Path, d.Note = install.Declined, cmp.Or(note, l.Job.Words.Say("declined with the quote %s", answer.Reference))
	}
	return l.NewRecord(d)
}

// decline takes the circuits that were declined off the job, with the points that are on them alone. What was optional is decided then.
// Whoever may take the answer may have the job follow it.
func (l *Loaded) decline(lines []install.Priced) error {
	was, now := l.Job.Rooms, &l.Job
	for _, line := range lines {
		if l.Job.CircuitByID(line.ID) != nil {
			now = whole.Without(now, line.ID)
			l.removed = append(l.removed, circuitParts+line.ID)
		}
	}
	if len(l.removed) > 0 {
		l.Job.Circuits, l.Job.Board, l.Job.Boards = now.Circuits, now.Board, now.Boards
		l.touched["board"] = "declined with the quote"
		for i := range now.Boards {
			l.touched[now.Boards[i].Part()] = "declined with the quote"
		}
		for i := range now.Rooms {
			if room := &now.Rooms[i]; !slices.Equal(counts(room), counts(&was[i])) {
				l.touched[roomParts+room.ID] = "declined with the quote"
			}
		}
		l.Job.Rooms = now.Rooms
	}
	if len(l.Job.Quote.Optional) > 0 {
		l.Job.Quote.Optional = nil
		l.touched["quote"] = "options decided"
	}
	l.Job.Tidy()
	return l.Job.Fits()
}

func counts(r *install.Room) []int {
	out := make([]int, len(r.Points))
	for i := range r.Points {
		out[i] = r.Points[i].Count
	}
	return out
}
