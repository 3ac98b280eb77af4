package api

import (
	"encoding/base64"
	"net/http"

	"github.com/gin-gonic/gin"

	"arvelt/core/handover"
	"arvelt/store"
)

// Sign signs the revision in work: who signs says their password again, so that nobody signs on a phone that was left lying.
func (s *Server) Sign(c *gin.Context, id Id, params SignParams) {
	p, scope := s.who(c)
	var in SignJSONBody
	err := decode(c, &in)
	if err == nil && !s.store.HasSecret() {
		err = &store.NothingError{Why: "This server has no secret to seal with: whoever runs it sets ARVELT_SECRET_FILE."}
	}
	if err == nil {
		err = s.isThem(c, p, in.Password)
	}
	var signer *handover.Signer
	if err == nil {
		signer, err = scope.Signer(c)
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.change(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error { return l.Sign(given(in.Note), signer) })
}

// keyPage tells anybody by which key the seals of a company are known, to compare with a pack.
func (s *Server) keyPage(c *gin.Context) {
	scope := s.store.For(c.Param("company"))
	key, err := scope.PublicKey(c)
	var company store.Company
	if err == nil {
		company, err = scope.Company(c)
	}
	if err != nil {
		fail(c, err)
		return
	}
	text := base64.StdEncoding.EncodeToString(key)
	c.String(http.StatusOK, "%s seals what it signs with this key (Ed25519):\n\n%s\n\nFingerprint: %s\n\nA job file is checked with\n\n"+
		"    arvelt verify FILE --key %s\n", company.Name, text, handover.Fingerprint(key), text)
}
