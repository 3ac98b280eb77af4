package materials

import (
	"cmp"

	"arvelt/core/install"
)

// Coming is how it stands with what somebody else brings.
type Coming struct {
	By install.Bringer `json:"by"`
	// Ready: it is there, and nothing is open of it. Says is what is open, or how it was found.
	Ready   bool   `json:"ready"`
	Trouble bool   `json:"trouble"` // what came does not do
	Says    string `json:"says"`
}

// bring puts to what is asked for who brings it, as the job says.
func (c *counter) bring() {
	for i := range c.asks {
		a := &c.asks[i]
		b, ok := c.job.Materials.Brought[a.Key]
		switch {
		case !ok:
		case b.By == install.ByUs:
			a.Brought = nil
		default:
			a.Brought = c.coming(&b)
		}
	}
}

// coming says how it stands with what somebody brings: of what the client supplies it is known that it came whole, that it is suitable and
// who answers for it, before anybody fits it.
func (c *counter) coming(b *install.Brought) *Coming {
	w := c.w
	out := &Coming{By: b.By}
	switch {
	case b.By == install.IsThere:
		out.Ready, out.Says = true, cmp.Or(b.Note, w.Say("in place already"))
	case b.Arrived == "" && b.Expected != "":
		out.Says = w.Say("expected on %s, not there yet", b.Expected)
	case b.Arrived == "":
		out.Says = w.Say("not there yet, and nobody has said when it comes")
	case b.Missing != "":
		out.Trouble, out.Says = true, w.Say("came on %s, missing of it: %s", b.Arrived, b.Missing)
	case b.Suitable != nil && !*b.Suitable:
		out.Trouble, out.Says = true, w.Say("came on %s and is not suitable: %s", b.Arrived, cmp.Or(b.Note, w.Say("nobody wrote down why")))
	case b.By == install.ByClient && b.Suitable == nil:
		out.Says = w.Say("came on %s; nobody has looked whether it is suitable and whole", b.Arrived)
	case b.By == install.ByClient && b.Warranty == "":
		out.Says = w.Say("came on %s; it is not agreed who answers for it", b.Arrived)
	default:
		out.Ready, out.Says = true, w.Say("there since %s", b.Arrived)
	}
	return out
}
