package install

import (
	"slices"
	"strconv"
	"strings"

	"arvelt/core/words"
)

// Validate checks a record as it arrives, before who and when are added. What
// the order of work allows (energise after dead tests, one isolation a day) is
// decided in package proving. The error is [Errors].
func (r Record) Validate(t Terms) error {
	c := &checker{in: string(r.Kind) + ".", w: words.In(t.Locale)}
	kinds := []string{}
	for _, k := range Kinds {
		kinds = append(kinds, string(k))
	}
	c.oneOf("kind", string(r.Kind), kinds)
	c.bounds(r, &t)
	c.byKind(r, t)
	return c.result()
}

// byKind holds a record to what one of its kind says.
func (c *checker) byKind(r Record, t Terms) {
	switch r.Kind {
	case Reading:
		c.reading(r, t)
	case Remark:
		c.needed("subject", r.Subject, 80)
		c.needed("note", r.Note, 400)
	case Isolation, ProvedDead, TesterProof, Withdrawal, LockOff, LockTold:
		c.isolating(r, t)
	case SwitchedOn, RetestOrder, Guarded, Energise:
		c.energising(r)
	case Release:
		c.needed("subject", r.Subject, 80)
		c.needed("note", r.Note, 400)
	case LooseEnd:
		c.looseEnd(&r)
	case PointWork:
		c.pointWork(&r)
	case Tick:
		c.needed("subject", r.Subject, 80)
	case Trace:
		c.traced(r)
	case LookedAfter:
		c.oneOf("subject", r.Subject, AfterSubjects)
		c.needed("note", r.Note, 400)
		if r.Passed == nil {
			c.say("passed", "nothing", c.w.Say("yes or no: whether it was in order"))
		}
	case Observation:
		c.oneOf("subject", r.Subject, append([]string{"other"}, t.Findings...))
		c.oneOf("path", r.Path, t.Classes)
		c.oneOf("evidence", r.Evidence, EvidenceKinds)
		c.needed("note", r.Note, 400)
		if r.Subject == "other" && !r.Done {
			c.needed("risk", r.Risk, 400)
			c.needed("mend", r.Mend, 400)
		}
	case SurveyReading:
		c.oneOf("subject", r.Subject, t.SurveyReadings)
		if r.Value == nil && !r.OverRange {
			c.say("value", "nothing", c.w.Say("the figure that was read"))
		}
		if r.Value != nil {
			c.between("value", *r.Value, 0, 100000, r.Unit)
		}
		if r.Circuit == "" {
			c.needed("place", r.Place, 400)
		}
		c.needed("instrument", r.Instrument, 400)
		c.date("calibrated", r.Calibrated)
	case Decision, FindingStep:
		c.onFinding(r)
	case Scope:
		c.needed("person", r.Person, 400)
	case Variation:
		if r.Path != "" { // older ones say none
			c.oneOf("path", r.Path, VariationReasons)
		}
		c.needed("person", r.Person, 400)
		c.needed("note", r.Note, 400)
	case Worked:
		c.needed("subject", r.Subject, 80)
		if r.Value == nil || !(*r.Value > 0 && *r.Value <= 200) {
			c.say("value", shown(r.Value), c.w.Say("person-hours above 0 and up to 200"))
		}
	case Timed:
		c.needed("subject", r.Subject, 80)
	case Loaded:
		c.needed("subject", r.Subject, 140)
	case Offer, QuoteAnswer:
		c.quoted(r)
	case Photo:
		c.needed("subject", r.Subject, 80)
		if len(r.Reference) != 64 {
			c.say("reference", r.Reference, c.w.Say("the SHA-256 of a picture that was sent"))
		}
	case Operator:
		c.oneOf("path", r.Path, []string{"notified", "applied", "asked", "reported", "booked", "agreed", "refused"})
		c.needed("reference", r.Reference, 120)
		if r.Called != "" {
			c.called(r.Called)
		}
	}
}

// quoted holds an offer and its answer to what each says.
func (c *checker) quoted(r Record) {
	if r.Kind == Offer {
		c.needed("reference", r.Reference, 80)
		c.needed("valid", r.Valid, 10)
		return
	}
	c.needed("subject", r.Subject, 80)
	c.oneOf("path", r.Path, []string{Accepted, Declined})
	c.needed("person", r.Person, 120)
	if r.Drawn != "" && !drawnOK(r.Drawn) {
		c.say("drawn", r.Drawn, c.w.Say("strokes as the path of an SVG: M and L with whole numbers from 0 to 1000"))
	}
	switch {
	case r.Path == Declined:
		c.needed("note", r.Note, 400)
	case !r.Signed:
		c.say("signed", r.Signed, c.w.Say("yes: an offer is accepted by a signature, on a screen or on paper"))
	}
}

// drawnOK reports whether a text is strokes and nothing else.
func drawnOK(s string) bool {
	n, digits := 0, 0
	for i := range len(s) {
		switch ch := s[i]; {
		case ch >= '0' && ch <= '9':
			if digits++; digits > 4 {
				return false
			}
		case ch == 'M' || ch == 'L':
			n, digits = n+1, 0
		case ch == ' ':
			digits = 0
		default:
			return false
		}
	}
	return n > 1 && s[0] == 'M'
}

// shown is a figure as it was given, in words where there is none.
func shown(v *float64) string {
	if v == nil {
		return "nothing"
	}
	return strconv.FormatFloat(*v, 'g', -1, 64)
}

// onFinding holds what is decided of a finding, and done about it.
func (c *checker) onFinding(r Record) {
	if r.Kind == Decision {
		c.needed("subject", r.Subject, 80)
		c.oneOf("path", r.Path, []string{Accepted, Declined, PutOff})
		c.needed("person", r.Person, 400)
		return
	}
	c.needed("subject", r.Subject, 80)
	c.oneOf("path", r.Path, FindingSteps)
	switch r.Path {
	case Told:
		c.needed("person", r.Person, 400)
		c.needed("note", r.Note, 400)
	case Reported:
		c.needed("person", r.Person, 400)
		c.called(r.Called)
	case Noticed:
		c.needed("person", r.Person, 400)
		c.witnessed(r)
	default:
		c.needed("note", r.Note, 400)
	}
}

// witnessed holds what somebody was handed to their signature, or to who saw it.
func (c *checker) witnessed(r Record) {
	if !r.Signed && strings.TrimSpace(r.Witness) == "" {
		c.say("signed", r.Signed, c.w.Say("yes, signed by the person; or else who saw it, under witness"))
	}
}

// energising holds what is recorded of switching on to what one of its kind says.
func (c *checker) energising(r Record) {
	switch r.Kind {
	case SwitchedOn:
		c.needed("note", r.Note, 400)
	case RetestOrder:
		c.oneOf("path", r.Path, Orders)
		c.needed("subject", r.Subject, 80)
		c.needed("note", r.Note, 400)
	case Guarded:
		c.needed("person", r.Person, 400)
		c.needed("place", r.Place, 400)
		c.needed("instrument", r.Instrument, 400)
		if r.Value == nil {
			c.say("value", "nothing", c.w.Say("the voltage that was read, V"))
		} else {
			c.between("value", *r.Value, 0, 2000, "V")
		}
		if r.Passed == nil {
			c.say("passed", "nothing", c.w.Say("yes or no: whether the pair is the feed"))
		}
	case Energise:
		c.permit(r)
	}
}

// permit holds a permission to one use, and to each device once.
func (c *checker) permit(r Record) {
	seen := map[string]bool{}
	for i, d := range r.Closes {
		if seen[d] || strings.TrimSpace(d) == "" {
			c.say(c.item("closes", i), d, c.w.Say("each device once"))
		}
		seen[d] = true
	}
	if (r.Use == "") != (len(r.Closes) == 0) {
		c.say("closes", strings.Join(r.Closes, ", "), c.w.Say("at least one device that is closed, and for what"))
	}
	if r.Use != ForTest && len(r.Bare) > 0 {
		c.say("bare", strings.Join(r.Bare, ", "), c.w.Say("nothing: every cover is on before it is put into service"))
	}
}

// traced holds a trace to what was tried: points of a room, or boxes where the run was parted at one.
func (c *checker) traced(r Record) {
	c.needed("circuit", r.Circuit, 40)
	if len(r.Traced) == 0 {
		c.say("traced", "nothing", c.w.Say("at least one point or box that was tried"))
	}
	for i, x := range r.Traced {
		if (x.Box != "") == (x.Point != "") || (x.Box != "") != (r.Subject != "") || x.Dead+x.Live == 0 {
			c.say(c.item("traced", i)+"dead", x.Dead, c.w.Say("points of a room that were found dead or live, or a box where the run was parted at one"))
		}
	}
}

// reading holds a reading to one answer, with the instrument that gave it.
func (c *checker) reading(r Record, t Terms) {
	test, _, _ := strings.Cut(r.Subject, ":") // behind it the box or enclosure
	c.oneOf("subject", test, t.Tests)
	answers := 0
	if r.Answer != "" {
		c.oneOf("answer", r.Answer, t.Patterns)
	}
	for _, given := range []bool{r.Value != nil, r.OverRange, r.Passed != nil, r.Answer != "", strings.TrimSpace(r.CouldNot) != ""} {
		if given {
			answers++
		}
	}
	if answers != 1 {
		c.say("value", c.w.Say("%d answers", answers),
			c.w.Say("exactly one of a value, over range, yes or no, a pattern, or why it could not be tested"))
	}
	if r.Value != nil {
		c.between("value", *r.Value, 0, 100000, r.Unit)
	}
	if (r.Value != nil || r.OverRange) && strings.TrimSpace(r.Instrument) == "" {
		c.say("instrument", r.Instrument, c.w.Say("the instrument that gave the reading"))
	}
	c.date("calibrated", r.Calibrated)
	if r.TempC != nil {
		c.between("tempC", *r.TempC, -20, 60, "°C")
	}
	c.between("testV", r.TestV, 0, 5000, "V")
}

// isolating holds what is recorded of dead and live to what one of its kind says.
func (c *checker) isolating(r Record, t Terms) {
	switch r.Kind {
	case Isolation:
		c.isolation(r, t)
	case ProvedDead:
		c.needed("subject", r.Subject, 80)
		if len(r.Proofs) == 0 {
			c.say("proofs", "nothing", c.w.Say("what was read, place by place"))
		}
		c.proofs(r, t)
	case TesterProof:
		c.needed("tester", r.Tester, 200)
		if r.Passed == nil {
			c.say("passed", "nothing", c.w.Say("yes or no: whether it showed the known source"))
		}
	case Withdrawal:
		c.needed("subject", r.Subject, 80)
		c.needed("note", r.Note, 400)
	default:
		c.needed("subject", r.Subject, 80)
	}
}

// isolation holds a record of an isolation to saying what was opened and what was read. Whether that makes anything dead is decided from it;
// what was switched off is recorded whatever it lacks.
func (c *checker) isolation(r Record, t Terms) {
	if len(r.Opens) == 0 {
		c.say("opens", "nothing", c.w.Say("at least one device that was opened"))
	}
	locked, seen := false, map[string]bool{}
	for i, o := range r.Opens {
		if seen[o.Device] {
			c.say(c.item("opens", i)+"device", o.Device, c.w.Say("each device once"))
		}
		seen[o.Device] = true
		locked = locked || o.Kept == ByLock
	}
	if locked {
		c.needed("lockTag", r.LockTag, 200)
	}
	c.proofs(r, t)
}

// proofs holds what was read to places, pairs and figures.
func (c *checker) proofs(r Record, t Terms) {
	pairs := slices.Concat(t.Pairs, t.PairsOneHot)
	places := map[string]bool{}
	for i, p := range r.Proofs {
		in := c.item("proofs", i)
		if places[p.At] {
			c.say(in+"at", p.At, c.w.Say("each place once"))
		}
		places[p.At] = true
		read := map[string]bool{}
		for n, x := range p.Read {
			at := in + c.item("read", n)
			switch {
			case !slices.Contains(pairs, x.Pair), read[x.Pair]:
				c.say(at+"pair", x.Pair, c.w.Say("each of these once: %s", strings.Join(pairs, ", ")))
			case x.V == nil:
				c.say(at+"v", "nothing", c.w.Say("the voltage that was read, V"))
			}
			read[x.Pair] = true
		}
	}
	if len(r.Proofs) > 0 {
		c.needed("tester", r.Tester, 200)
		if r.TesterKind == "" { // another that is none is said by its bounds
			c.oneOf("testerKind", "", typed(TesterKinds).fixed)
		}
	}
}

// looseEnd holds what is undone, and what is said of it later, to saying what.
func (c *checker) looseEnd(r *Record) {
	switch {
	case !r.Done && r.Left != "":
		c.left(r)
	case !r.Done && r.Parted == "":
		c.needed("note", r.Note, 400)
	case !r.Done && r.Path != "":
		c.say("path", r.Path, c.w.Say("nothing: a conductor that was disconnected is reconnected before anything is energised"))
	}
	if r.Trade != "" && !LeftTraits[r.Left].Others {
		c.say("trade", r.Trade, c.w.Say("nothing: only what others moved or covered is of a trade"))
	}
	if !r.Done && r.SpentH != nil {
		c.say("spentH", *r.SpentH, c.w.Say("nothing before it is put right"))
	}
	if r.Cost != nil && (!r.Done || *r.Cost < 0) {
		c.say("cost", *r.Cost, c.w.Say("nothing before it is put right, then 0 or more"))
	}
	c.oneOf("path", r.Path, []string{"", "handover"})
	if r.Done || r.Supersedes != "" && r.Left == "" {
		c.needed("subject", r.Subject, 80)
	}
}

// pointWork holds work on points to a room and to pieces of work that there are.
func (c *checker) pointWork(r *Record) {
	c.needed("room", r.Room, 80)
	if len(r.Steps) == 0 {
		c.say("steps", "none", strings.Join(typed(PointSteps).fixed, ", "))
	}
	for _, s := range r.Steps {
		c.oneOf("steps", string(s), typed(PointSteps).fixed)
	}
}

// left holds what was left to being somewhere: all else may be said later, so that nobody keeps a true report back.
func (c *checker) left(r *Record) {
	if r.Room == "" && r.Circuit == "" {
		c.needed("place", r.Place, 400)
	}
	if r.Parted != "" {
		c.say("parted", r.Parted, c.w.Say("nothing: a conductor that was parted for a test is noted without a kind"))
	}
	t := LeftTraits[r.Left]
	if !t.Rated && r.RatingA != nil {
		c.say("ratingA", *r.RatingA, c.w.Say("nothing: only a temporary supply and a joint have a rating"))
	}
	if !t.Fed && (r.Protection != "" || r.Loads != "") {
		c.say("protection", r.Protection+r.Loads, c.w.Say("nothing: only a temporary supply has a protection and loads of its own"))
	}
}
