package api

import (
	"crypto/rand"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/whole"
	"arvelt/store"
)

// mayDecide errs where a person is neither owner nor supervisor.
func mayDecide(p store.Person) error {
	if p.Role == install.RoleOwner || p.Role == install.RoleSupervisor {
		return nil
	}
	return &Forbidden{"The owner or the supervisor decides this."}
}

// owns errs where a person is not an owner.
func owns(p store.Person) error {
	if p.Role == install.RoleOwner {
		return nil
	}
	return &Forbidden{"The owner decides this."}
}

// People lists the company's people.
func (s *Server) People(c *gin.Context) {
	p, scope := s.who(c)
	err := mayDecide(p)
	var people []store.Person
	if err == nil {
		people, err = scope.People(c)
	}
	var sessions map[string]int
	if err == nil {
		sessions, err = scope.SessionCounts(c)
	}
	if err != nil {
		fail(c, err)
		return
	}
	today := s.store.Now().UTC().Format(time.DateOnly)
	out := make([]Colleague, len(people))
	for i, x := range people {
		out[i] = Colleague{Id: x.ID, Name: x.Name, Email: x.Email, Role: x.Role, Sessions: sessions[x.ID], Left: x.Left, Invited: x.Hash == "" && !x.Left,
			Authorisations: []Authorisation{}, MayHold: []string{}}
		for _, a := range x.Authorisations {
			out[i].Authorisations = append(out[i].Authorisations, Authorisation{Id: a.ID, Kind: string(a.Kind), Practice: a.Practice, JobRef: a.JobRef,
				Until: a.Until, Licence: a.Licence, By: a.By, At: a.At.UTC(), Lapsed: a.Until != "" && a.Until < today})
		}
		for _, a := range install.AuthorityList {
			if install.MayHold(x.Role, a) {
				out[i].MayHold = append(out[i].MayHold, string(a))
			}
		}
	}
	reply(c, out)
}

// Invite adds a person.
func (s *Server) Invite(c *gin.Context) {
	p, scope := s.who(c)
	var in NewColleague
	err := owns(p)
	if err == nil {
		err = decode(c, &in)
	}
	var out Invitation
	if err == nil {
		out.Id, out.Link, out.Until, err = scope.Invite(c, p, store.Person{Name: strings.TrimSpace(in.Name), Email: strings.TrimSpace(in.Email), Role: in.Role})
	}
	answerLink(c, out, err)
}

// answerLink answers a link that was made.
func answerLink(c *gin.Context, out Invitation, err error) {
	if err != nil {
		fail(c, err)
		return
	}
	out.Link = linkPath + out.Link
	c.JSON(http.StatusCreated, out)
}

// linkPath is the page on which a link's person sets their password. What stands behind the sign
// is not sent by browsers, and so in no log.
const linkPath = "/welcome#"

// NewLink makes a new link for a person.
func (s *Server) NewLink(c *gin.Context, id Id) {
	p, scope := s.who(c)
	out := Invitation{Id: id}
	err := owns(p)
	if err == nil {
		out.Link, out.Until, err = scope.Link(c, p, id)
	}
	answerLink(c, out, err)
}

// ChangeColleague changes a person's role, or says that they have left or are back.
func (s *Server) ChangeColleague(c *gin.Context, id Id) {
	p, scope := s.who(c)
	var in ChangeColleagueJSONBody
	err := owns(p)
	if err == nil {
		err = decode(c, &in)
	}
	var now store.Person
	if err == nil {
		now, err = scope.Colleague(c, id)
	}
	if err == nil && in.Left && id == p.ID {
		err = &store.NothingError{Why: "You cannot leave yourself: another owner says so."}
	}
	if err == nil && in.Role != now.Role {
		err = scope.SetRole(c, p, id, in.Role)
	}
	if err == nil && in.Left != now.Left {
		err = scope.SetLeft(c, p, id, in.Left)
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.known.forget()
	c.Status(http.StatusNoContent)
}

// Grant authorises a person.
func (s *Server) Grant(c *gin.Context, id Id) {
	p, scope := s.who(c)
	var in NewAuthorisation
	err := decode(c, &in)
	a := store.Authorisation{Kind: install.Authority(in.Kind), Practice: given(in.Practice), JobRef: given(in.JobRef), Until: given(in.Until),
		Licence: strings.TrimSpace(given(in.Licence))}
	if err == nil {
		err = mayGrant(&p, id, a)
	}
	if err == nil {
		err = scope.Grant(c, p, id, a, whole.PracticeIDs)
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.known.forget()
	c.Status(http.StatusNoContent)
}

// mayGrant errs where an authorisation is not a person's to grant: the owner grants, and answers for
// it; a supervisor hands on to others what they hold everywhere, but not the signature.
func mayGrant(p *store.Person, to string, a store.Authorisation) error {
	if owns(*p) == nil {
		return nil
	}
	held := p.ActsOn(&install.Job{Practice: a.Practice, Ref: a.JobRef}, time.Now()).Holds
	if p.Role != install.RoleSupervisor || to == p.ID || a.Kind == install.Signing || !held.Has(a.Kind) {
		return &Forbidden{"The owner grants this. A supervisor authorises others for what they are authorised for themselves, but for signing."}
	}
	return nil
}

// WithdrawAuthorisation ends an authorisation.
func (s *Server) WithdrawAuthorisation(c *gin.Context, id Id) {
	p, scope := s.who(c)
	err := mayDecide(p)
	if err == nil {
		err = scope.Withdraw(c, p, id)
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.known.forget()
	c.Status(http.StatusNoContent)
}

// sessionsOf reads the sessions of a person for whoever may see them.
func (s *Server) sessionsOf(c *gin.Context, id string) (other store.Person, sessions []store.Session, err error) {
	p, scope := s.who(c)
	if other, err = scope.Colleague(c, id); err == nil && id != p.ID {
		err = mayDecide(p)
	}
	if err == nil {
		sessions, err = scope.Sessions(c, id)
	}
	return other, sessions, err
}

// Sessions lists a person's sessions.
func (s *Server) Sessions(c *gin.Context, id Id) {
	_, sessions, err := s.sessionsOf(c, id)
	if err != nil {
		fail(c, err)
		return
	}
	out := make([]SessionInfo, len(sessions))
	for i, x := range sessions {
		out[i] = SessionInfo{At: x.At.UTC(), Agent: x.Agent, Address: x.Address, This: x.Token == s.tokenOf(c)}
	}
	reply(c, out)
}

// EndSessions ends a person's sessions.
func (s *Server) EndSessions(c *gin.Context, id Id) {
	p, scope := s.who(c)
	other, sessions, err := s.sessionsOf(c, id)
	if err == nil && other.Role == install.RoleOwner && p.Role != install.RoleOwner {
		err = &Forbidden{"An owner's sessions are ended by an owner."}
	}
	tokens := []string{}
	for _, x := range sessions {
		if x.Token != s.tokenOf(c) {
			tokens = append(tokens, x.Token)
		}
	}
	if err == nil {
		err = scope.EndSessions(c, p, id, tokens)
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.known.forget()
	c.Status(http.StatusNoContent)
}

// tokenOf is the token of a request's session as it is kept.
func (s *Server) tokenOf(c *gin.Context) string {
	token, err := c.Cookie(s.sessions.Cookie.Name)
	if err != nil {
		return ""
	}
	return store.KeptToken(token)
}

// ownNames are what a person's password is not made of.
func (s *Server) ownNames(c *gin.Context, p store.Person) []string {
	company, err := s.store.For(p.CompanyID).Company(c)
	if err != nil {
		return []string{p.Name, p.Email}
	}
	return []string{p.Name, p.Email, company.Name}
}

// ChangePassword changes one's own password.
func (s *Server) ChangePassword(c *gin.Context) {
	p, _ := s.who(c)
	var in ChangePasswordJSONBody
	err := decode(c, &in)
	if err == nil {
		err = s.isThem(c, p, in.Current)
	}
	if err == nil {
		err = CheckPassword(in.Password, s.ownNames(c, p)...)
	}
	var hash string
	if err == nil {
		hash, err = s.hash(c, in.Password)
	}
	if err == nil {
		err = s.store.SetPassword(c, p.ID, hash, s.tokenOf(c))
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.known.forget()
	c.Status(http.StatusNoContent)
}

// WrongPasswordError says that a password is not that of who is signed in.
type WrongPasswordError struct{}

func (*WrongPasswordError) Error() string {
	return "That is not your password. Nothing was changed; type it again."
}

// isThem errs where a password is not that of who is signed in. It counts as a try to sign in.
func (s *Server) isThem(c *gin.Context, p store.Person, password string) error {
	t := s.tryOf(c, p.Email)
	if err := s.store.Attempt(c, t); err != nil {
		return err
	}
	fits, err := s.fits(c, []byte(p.Hash), password)
	if err != nil {
		return err
	}
	if !fits {
		return &WrongPasswordError{}
	}
	return s.store.CameIn(c, t, p.ID, s.device(c))
}

// Welcome sets the password of whom a link is for.
func (s *Server) Welcome(c *gin.Context) {
	var in WelcomeJSONBody
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	try := s.tryOf(c, "link "+in.Link)
	if err := s.store.Attempt(c, try); err != nil {
		fail(c, err)
		return
	}
	p, err := s.store.Invited(c, in.Link)
	if errors.Is(err, store.ErrNotFound) {
		err = &store.NothingError{Why: "This link is used up or too old: ask the owner for a new one."}
	}
	if err == nil && given(in.Password) == "" {
		if err := s.store.CameIn(c, try, p.ID, s.device(c)); err != nil {
			fail(c, err)
			return
		}
		reply(c, Welcomed{Name: p.Name, Email: p.Email})
		return
	}
	if err == nil {
		err = CheckPassword(given(in.Password), s.ownNames(c, p)...)
	}
	var hash string
	if err == nil {
		hash, err = s.hash(c, given(in.Password))
	}
	if err == nil {
		p, err = s.store.Welcome(c, in.Link, hash)
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.known.forget()
	if err := s.begin(c, p); err != nil {
		fail(c, err)
		return
	}
	reply(c, Welcomed{Name: p.Name, Email: p.Email})
}

// Happenings lists what happened in the company beside the edits of its jobs.
func (s *Server) Happenings(c *gin.Context, params HappeningsParams) {
	p, scope := s.who(c)
	err := owns(p)
	var list []store.Happening
	if err == nil {
		list, err = scope.Happenings(c, int64(given(params.Before)))
	}
	if err != nil {
		fail(c, err)
		return
	}
	out := make([]Happening, len(list))
	for i, h := range list {
		out[i] = Happening{Seq: int(h.Seq), At: h.At.UTC(), By: h.By, What: string(h.What), About: h.About, Address: h.Address}
	}
	reply(c, out)
}

// deviceCookie names the device to the limits of signing in, for a year.
const (
	deviceCookie = "arvelt-device"
	deviceFor    = 365 * 24 * time.Hour
)

// device is the token of the browser's device; a new one, which it is told, where it has none.
func (s *Server) device(c *gin.Context) string {
	if token, err := c.Cookie(deviceCookie); err == nil && len(token) == len(rand.Text()) {
		return token
	}
	token := rand.Text()
	http.SetCookie(c.Writer, &http.Cookie{Name: deviceCookie, Value: token, Path: "/api/", MaxAge: int(deviceFor.Seconds()), HttpOnly: true,
		Secure: s.door.secure, SameSite: http.SameSiteStrictMode})
	return token
}

// tryOf is a try to sign in as an account.
func (s *Server) tryOf(c *gin.Context, email string) store.Try {
	token, _ := c.Cookie(deviceCookie)
	return store.Try{Account: strings.ToLower(strings.TrimSpace(email)), Address: c.ClientIP(), Device: token}
}
