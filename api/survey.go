package api

import (
	"bytes"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/standby"
	"arvelt/core/survey"
	"arvelt/core/whole"
	"arvelt/paper"
	"arvelt/picture"
	"arvelt/store"
)

// practiceOf finds a practice by its id; an empty one is the first.
func practiceOf(id string) (rulebook.Book, error) {
	if id == "" {
		id = whole.PracticeIDs[0]
	}
	p, ok := whole.Practices[id]
	if !ok {
		return rulebook.Book{}, install.Errors{{Field: "practice", Value: id, Accept: "one of " + strings.Join(whole.PracticeIDs, ", ")}}
	}
	return p, nil
}

func surveyTerms(p rulebook.Book) SurveyTerms {
	w, t := p.Survey(), p.Terms()
	out := SurveyTerms{Rooms: survey.RoomKinds(), Floors: survey.Floors(), Baths: install.Baths,
		Switching: survey.Switchings, Classes: w.Classes, Findings: survey.FindingKinds(p.Survey().Words), Readings: w.Readings,
		Fabric: w.Fabric, Colours: w.Colours, Sizes: t.ConductorSizes, FeedWays: t.FeedWays, Mountings: mountings(), Inches: w.Inches,
		Enclosures: p.Chain(&install.Job{}).Kinds, Kinds: []PointKind{}, Hazards: []HazardKind{}, Finishes: []FinishKind{}, LampCaps: t.LampCaps}
	for _, f := range install.Finishes {
		out.Finishes = append(out.Finishes, FinishKind{Id: string(f), Name: f.Name(w.Words)})
	}
	for _, b := range install.Behinds {
		out.Behinds = append(out.Behinds, Named{Id: string(b), Name: survey.BehindName(w.Words, b)})
	}
	for _, d := range install.Dusts {
		out.Dusts = append(out.Dusts, Named{Id: string(d), Name: survey.DustName(w.Words, d)})
	}
	for _, k := range survey.Kinds {
		out.Kinds = append(out.Kinds, PointKind{Id: k.ID, Name: survey.Name(w, k.ID), Word: k.Word, Family: k.Family,
			Own: k.Own, HeightMM: w.HeightMM[k.ID], Box: w.Box[k.ID],
			Light: k.Loses == survey.LosesLight, Recessed: k.Recessed, BuiltIn: k.BuiltIn, Duct: slices.ContainsFunc(w.Kits[k.ID],
				func(p rulebook.PointPart) bool { return p.Duct })})
	}
	for kind, asks := range install.HazardKinds {
		out.Hazards = append(out.Hazards, HazardKind{Id: kind, Asks: p.Survey().Words.Say(string(asks.Asks))})
	}
	slices.SortFunc(out.Hazards, func(a, b HazardKind) int { return strings.Compare(a.Id, b.Id) })
	return out
}

// maxShorthand is the most text that is read at once, in characters.
const maxShorthand = 8000

func checkShorthand(text string) error {
	if n := utf8.RuneCountInString(text); n > maxShorthand || strings.Count(text, "\n") > 80 || strings.ContainsRune(text, 0) {
		return install.Errors{{Field: "text", Value: text[:min(40, len(text))] + "…", Accept: "at most 8000 characters in 80 lines"}}
	}
	return nil
}

// ReadShorthand reads shorthand without keeping it.
func (s *Server) ReadShorthand(c *gin.Context) {
	var in Shorthand
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	p, err := practiceOf(in.Practice)
	if err == nil {
		err = checkShorthand(in.Text)
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, survey.Read(in.Text, p.Survey(), given(in.Floor)))
}

// Walk takes shorthand into the walk.
func (s *Server) Walk(c *gin.Context, id Id, params WalkParams) {
	who, scope := s.who(c)
	var in WalkText
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	if err := checkShorthand(in.Text); err != nil {
		fail(c, err)
		return
	}
	s.change(c, scope, who, id, params.IdempotencyKey, func(l *store.Loaded) error {
		return l.Walk(in.Text, given(in.Room), given(in.Replace), given(in.Base))
	})
}

// CaseSheet answers the case for the work. It is computed once for each version.
func (s *Server) CaseSheet(c *gin.Context, id Id) {
	s.computed(c, id, "case", func(l *store.Loaded) any { return whole.CaseOf(&l.Job, l.Prices) })
}

// CasePdf answers the case for the work as a client reads it.
func (s *Server) CasePdf(c *gin.Context, id Id) {
	s.surveyPaper(c, id, "case", func(out *bytes.Buffer, l *store.Loaded, view *whole.View, on paper.Context) error {
		sheet := whole.CaseOf(&l.Job, l.Prices)
		return paper.Case(out, view, &sheet.Case, on)
	})
}

// SettingOutPdf answers the plan of rooms and ways with where the points of each room go.
func (s *Server) SettingOutPdf(c *gin.Context, id Id) {
	s.surveyPaper(c, id, "setting-out", func(out *bytes.Buffer, l *store.Loaded, view *whole.View, on paper.Context) error {
		plan := survey.WaysPlanOf(&l.Job)
		return paper.SetOut(out, view, &plan, survey.SetOut(&l.Job, whole.Practice(&l.Job)), on)
	})
}

// VariationsPdf answers the changes of the agreed points as the client signs them.
func (s *Server) VariationsPdf(c *gin.Context, id Id) {
	s.surveyPaper(c, id, "variations", func(out *bytes.Buffer, l *store.Loaded, view *whole.View, on paper.Context) error {
		scope := survey.ScopeOf(&l.Job, whole.Practice(&l.Job).Survey())
		return paper.Variations(out, view, &scope, on)
	})
}

// NoticePdf answers the notice of a dangerous condition.
func (s *Server) NoticePdf(c *gin.Context, id Id, finding string) {
	s.surveyPaper(c, id, "notice", func(out *bytes.Buffer, l *store.Loaded, view *whole.View, on paper.Context) error {
		f, ok := survey.FindingBy(&l.Job, whole.Practice(&l.Job).Survey(), finding)
		switch {
		case !ok:
			return fmt.Errorf("finding %q: %w", finding, store.ErrNotFound)
		case !f.Grave():
			return &proving.NotYetError{Why: l.Job.Words.Say("There is no notice of it: it is not graded as a danger.")}
		}
		return paper.Notice(out, view, &f, on, l.Now.In(on.Location))
	})
}

// InUsePdf answers what is in use in the house now.
func (s *Server) InUsePdf(c *gin.Context, id Id) {
	s.surveyPaper(c, id, "in-use", func(out *bytes.Buffer, l *store.Loaded, view *whole.View, on paper.Context) error {
		return paper.InUse(out, view, on, l.Now.In(on.Location))
	})
}

// DayPdf answers the sheet of a day of a job.
func (s *Server) DayPdf(c *gin.Context, id Id, params DayPdfParams) {
	said := given(params.Day)
	day, err := time.Parse(time.DateOnly, said)
	if said != "" && err != nil {
		fail(c, install.Errors{{Field: "day", Value: said, Accept: "a day, as 2006-01-02"}})
		return
	}
	s.surveyPaper(c, id, "day", func(out *bytes.Buffer, l *store.Loaded, view *whole.View, on paper.Context) error {
		if said == "" {
			day = l.Now.In(on.Location)
		} else {
			day, _ = time.ParseInLocation(time.DateOnly, said, on.Location)
		}
		return paper.Day(out, view, l.Kit, on, day, l.Now)
	})
}

// CardsPdf answers in which order the devices of the house are opened and closed.
func (s *Server) CardsPdf(c *gin.Context, id Id) {
	s.surveyPaper(c, id, "cards", func(out *bytes.Buffer, l *store.Loaded, view *whole.View, on paper.Context) error {
		return paper.Cards(out, view, on, l.Now.In(on.Location))
	})
}

// surveyPaper answers a paper of the survey under the reference of its job and a name.
func (s *Server) surveyPaper(c *gin.Context, id Id, name string, write func(*bytes.Buffer, *store.Loaded, *whole.View, paper.Context) error) {
	l, on := s.printed(c, id)
	if l == nil {
		return
	}
	view := l.View()
	var out bytes.Buffer
	if err := write(&out, l, &view, on); err != nil {
		fail(c, err)
		return
	}
	if s.attach(c, l.Job.Ref+"-"+name+".pdf") {
		c.Data(http.StatusOK, "application/pdf", out.Bytes())
	}
}

// Vary works out a variation and keeps it when it is accepted.
func (s *Server) Vary(c *gin.Context, id Id, params VaryParams) {
	who, scope := s.who(c)
	var in store.Variation
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	if err := checkShorthand(in.Text); err != nil {
		fail(c, err)
		return
	}
	var answer VariationAnswer
	if !in.Accept {
		l := s.load(c, id)
		if l == nil {
			return
		}
		change, err := l.Vary(in)
		if err != nil {
			fail(c, err)
			return
		}
		answer.Change = change
		reply(c, answer)
		return
	}
	l, err := scope.Change(c, who, id, params.IdempotencyKey, func(l *store.Loaded) (err error) {
		answer.Change, err = l.Vary(in)
		return err
	})
	if err != nil {
		fail(c, err)
		return
	}
	view := jobView(l)
	view.Tag = uuid.NewString()
	s.views.keep(answered{view: &view})
	answer.Job = &view
	if answer.Change.Summary == nil { // a retry of what was kept already
		answer.Change = survey.Change{Room: answer.Change.Room, Summary: []string{}, Circuits: []survey.CircuitChange{}, Lines: []survey.LineChange{},
			Effects: []survey.Effect{}, Misread: []survey.Misreading{}}
		kept := install.Job{Rooms: []install.Room{answer.Change.Room}}
		kept.Tidy()
		answer.Change.Room = kept.Rooms[0]
	}
	reply(c, answer)
}

// AddPhoto keeps a picture.
func (s *Server) AddPhoto(c *gin.Context, id Id, params AddPhotoParams) {
	who, scope := s.who(c)
	p, err := picture.Clean(c, c.Request.Body)
	turnOver(c)
	if err != nil {
		fail(c, err)
		return
	}
	l, err := scope.AddPhoto(c, who, id, params.IdempotencyKey, params.Subject, given(params.Note), p,
		install.Sent{OccurredAt: given(params.OccurredAt), DeviceNow: given(params.DeviceTime), Device: given(params.Device),
			Seq: given(params.Seq)})
	if err != nil {
		fail(c, err)
		return
	}
	s.answerJob(c, http.StatusOK, l)
}

// Photo answers a picture; one of a hash never changes.
func (s *Server) Photo(c *gin.Context, id Id, hash string) {
	_, scope := s.who(c)
	jpeg, err := scope.Photo(c, id, hash)
	if err != nil {
		fail(c, err)
		return
	}
	c.Header("Cache-Control", "private, max-age=31536000, immutable")
	c.Data(http.StatusOK, "image/jpeg", jpeg)
}

// SupplySheet answers the supply chain as judged.
func (s *Server) SupplySheet(c *gin.Context, id Id) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	p := whole.Practice(&l.Job)
	charge := func(route string) (float64, bool) {
		item, ok := l.Prices["charge:"+route]
		return item.Price, ok
	}
	routes, view := p.Isolation(&l.Job, charge, l.Now), l.View()
	reply(c, SupplySheet{Chain: view.Chain, Routes: routes,
		Number: p.SupplyNumber(l.Job.Supply.Number, l.Job.Supply.MeterSerial), Outage: whole.OutageOf(&view, routes, l.Now),
		Standby: standby.Of(l.Job.Words, l.Job.Standby)})
}

// OutdoorSheet answers the outdoor works worked out.
func (s *Server) OutdoorSheet(c *gin.Context, id Id) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	view := l.View()
	reply(c, whole.OutdoorOf(&view, l.Now))
}

// mountings are what enclosures may be fixed to.
func mountings() []string {
	out := make([]string, len(install.Mountings))
	for i, m := range install.Mountings {
		out[i] = string(m)
	}
	return out
}
