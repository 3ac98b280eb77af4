package api

import (
	"fmt"
	"mime"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
)

// door lets requests in that are for this server and come from its own pages: a page of somebody
// else that a browser was led to can neither read nor write here, whatever name it gives us.
type door struct {
	origins []string // under which people reach it, as https://arvelt.firm.example
	hosts   []string // their hosts
	secure  bool     // all of them by TLS
	demo    bool     // the demo's people go in without a password
}

// newDoor reads the addresses under which people reach a server.
func newDoor(addresses []string, demo bool) (*door, error) {
	d := &door{demo: demo, secure: len(addresses) > 0}
	for _, a := range addresses {
		u, err := url.Parse(a)
		if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" || strings.Trim(u.Path, "/") != "" {
			return nil, fmt.Errorf("ARVELT_URL: %.200q is not accepted; give addresses with commas as https://arvelt.firm.example", a)
		}
		d.origins = append(d.origins, strings.ToLower(u.Scheme+"://"+u.Host))
		d.hosts = append(d.hosts, strings.ToLower(u.Host))
		d.secure = d.secure && u.Scheme == "https"
	}
	return d, nil
}

// Loopback reports whether a host, with or without a port, is this machine by the names that only it has.
func Loopback(host string) bool {
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	host = strings.Trim(host, "[]")
	ip := net.ParseIP(host)
	name := strings.ToLower(host)
	return name == "localhost" || strings.HasSuffix(name, ".localhost") || // RFC 6761 6.3: no resolver leads them elsewhere
		ip != nil && ip.IsLoopback()
}

// host errs where a request is for another than this server: a name that somebody made point here.
func (d *door) host(r *http.Request) *Problem {
	if Loopback(r.Host) || slices.Contains(d.hosts, strings.ToLower(r.Host)) {
		return nil
	}
	return &Problem{Status: http.StatusMisdirectedRequest,
		Title: fmt.Sprintf("Arvelt is not reached as %.100q. Its addresses are set with ARVELT_URL.", r.Host)}
}

// types are the kinds of body that a route takes; every other takes JSON.
var types = map[string][]string{"/api/jobs/:id/photos": {"image/jpeg", "image/png", "application/octet-stream"},
	handInPath: {"application/json", "image/jpeg", "image/png", "application/octet-stream"}}

// write errs where a write comes from a page of another site, or as no page of ours sends it.
func (d *door) write(c *gin.Context) *Problem {
	r := c.Request
	elsewhere := &Problem{Status: http.StatusForbidden, Title: "This write comes from another site: it is refused."}
	if from := r.Header.Get("Sec-Fetch-Site"); from != "" && from != "same-origin" && from != "none" {
		return elsewhere
	}
	if origin := strings.ToLower(r.Header.Get("Origin")); origin != "" && !slices.Contains(d.origins, origin) {
		u, err := url.Parse(origin)
		if err != nil || !strings.EqualFold(u.Host, r.Host) || !Loopback(r.Host) {
			return elsewhere
		}
	}
	if r.ContentLength == 0 {
		return nil
	}
	takes := types[c.FullPath()]
	if takes == nil {
		takes = []string{"application/json"}
	}
	kind, _, err := mime.ParseMediaType(r.Header.Get("Content-Type"))
	if err != nil || !slices.Contains(takes, kind) {
		return &Problem{Status: http.StatusUnsupportedMediaType,
			Title: fmt.Sprintf("Content-Type: %.100q is not accepted; give %s.", r.Header.Get("Content-Type"), strings.Join(takes, ", "))}
	}
	return nil
}

// headers are those of every answer.
func (d *door) headers(h http.Header) {
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("X-Frame-Options", "DENY")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	h.Set("Permissions-Policy", "camera=(), geolocation=(), microphone=(), payment=(), usb=(), serial=(), bluetooth=()")
	h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src "+
		"'self'; connect-src 'self'; frame-ancestors 'none'; base-uri 'none'; form-action 'self'")
	if d.secure {
		h.Set("Strict-Transport-Security", "max-age=31536000")
	}
}
