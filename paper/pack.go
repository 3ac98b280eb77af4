package paper

import (
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/whole"
	"arvelt/core/working"
)

// Pack writes the handover pack as one PDF: what was done, for whom and how far, the
// origin, the schedules of circuits and readings, what was inspected, the board's labels,
// the owner's page, and the working as an annex. It is no official certificate and says so
// on every sheet.
func Pack(w io.Writer, v *whole.View, ctx Context) error {
	p := newPack(v, ctx)
	works := whole.OutdoorOf(v, ctx.Now)
	p.record()
	p.origin(&works)
	if p.terms.Columns == 2 {
		p.panelSchedule()
		p.splitReadings()
	} else {
		p.circuitSchedule()
		p.readingSchedule()
	}
	p.inspected()
	p.labels()
	p.owner()
	p.annex(&works)
	return p.Output(w)
}

// record is what the contractor hands to the client: who, where, what and how far.
func (p *pack) record() {
	j, k := p.v.Job, p.ctx.Company
	p.start("Handover record", false)
	p.pair("Contractor", k.Name)
	for _, x := range []struct{ name, text string }{{"Address", k.Address}, {"Telephone", k.Phone}, {"Licence", k.Licence}} {
		if x.text != "" {
			p.pair(x.name, x.text)
		}
	}
	p.pair("Client", join(", ", j.Site.Customer, j.Site.Phone))
	p.pair("Site", join(", ", j.Site.Address, j.Site.Town))
	if name, known := p.ctx.Words["premises:"+j.Site.Premises]; known {
		p.pair("Premises", name)
	}
	p.pair("Job", j.Ref+" · "+j.Title)
	p.pair("Rules", p.word(j.Practice)+" · "+j.Edition)
	p.pair("Extent", or(j.Site.Extent, "the work listed below; nothing else was stated"))
	p.pair("Limitations", or(j.Site.Limits, "none stated"))

	p.heading("What was done")
	done := p.done()
	for _, s := range done {
		p.bullet(s)
	}
	if len(done) == 0 {
		p.line("No circuit, enclosure or device is on this job.")
	}
	p.declined()
	p.heading("Left to others")
	p.line(or(j.Site.Others, "Nothing was stated."))
	for i := range j.Rooms {
		if r := &j.Rooms[i]; r.Skipped != "" {
			p.bullet(join("", r.Name, " was not seen: ", r.Skipped, ".", when(" To be seen on ", r.Revisit)))
		}
	}
	for _, l := range p.v.Loose {
		p.bullet("Still to be done: " + l.Note + " (" + l.By + ", " + p.date(l.At) + ")")
	}

	p.heading("Assumed, to be confirmed")
	if len(p.v.Ready.Assumed) == 0 {
		p.line("No figure of this job is marked as assumed.")
	}
	if list := p.v.Ready.Assumed; len(list) > 0 {
		p.line(upper(strings.Join(list, "; ")) + ".")
	}
	p.signatures()
}

// done says what the work put in, each line from the model.
func (p *pack) done() (out []string) {
	j := p.v.Job
	for i := range j.Chain.Enclosures {
		if e := &j.Chain.Enclosures[i]; e.New {
			rating := ""
			if e.RatingA.Known() {
				rating = ", " + unit.With(e.RatingA.V(), "A")
			}
			out = append(out, "New: "+e.Name+rating+when(", fed by ", p.conductor(&e.Feed)))
		}
	}
	for i := range j.Circuits {
		c := &j.Circuits[i]
		s := p.v.Report.Circuit(c.ID).Summary
		text := c.Name + ": " + or(p.terms.Serves[string(c.Use)], p.word(string(c.Use)))
		if n := max(c.Serves.Outlets, len(c.Serves.Boxes)); n > 1 {
			text += fmt.Sprintf(", %d points", n)
		}
		out = append(out, text+when(", ", c.Point.Place)+when(", ",
			join(" ", s.Conductor, p.cableName(c)))+", "+p.length(c.Route.LengthM())+when(", ", p.placed(c)))
	}
	if own := p.standby(); own != "" {
		out = append(out, "Standby source: "+own)
	}
	for _, d := range j.Surge.Devices {
		out = append(out, "Surge device "+d.Name+", Type "+d.Type+", "+map[string]string{"origin": p.say("at the origin"),
			"board": p.say("at the board"), "load": "near what it protects"}[string(d.Place)])
	}
	if n := len(j.Outdoor.Electrodes.Rods); n > 0 {
		out = append(out, counted(n, p.say("earth rod"), p.say("earth rods"))+": "+strings.Join(places(j.Outdoor.Electrodes.Rods), "; "))
	}
	for i := range j.Outdoor.Runs {
		r := &j.Outdoor.Runs[i]
		out = append(out, upper(r.Kind)+" run "+r.Name+", "+p.length(r.LengthM()))
	}
	for i := range j.Rooms {
		if n := j.Rooms[i].Total(install.New) + j.Rooms[i].Total(install.Moved); n > 0 {
			out = append(out, j.Rooms[i].Name+": "+counted(n, "point new or moved", "points new or moved"))
		}
	}
	return out
}

// declined lists what the client decided against or put off, with the reason in their
// words, and every danger with what was done about it.
func (p *pack) declined() {
	j := p.v.Job
	c := survey.CaseOf(j, whole.Practice(j).Survey(), func(string) (float64, float64, bool) { return 0, 0, false })
	var declined, open []survey.Finding
	for _, s := range c.Sections {
		for _, f := range s.Findings {
			switch {
			case f.Mended != "":
			case f.Decision == "declined", f.Decision == "later":
				declined = append(declined, f)
			case f.Decision != "accepted":
				open = append(open, f)
			}
		}
	}
	p.heading("Declined or put off by the client")
	if len(declined) == 0 {
		p.line("Nothing.")
	}
	for _, f := range declined {
		p.bullet(join("", f.Title, when(", ", f.Where), ": ", f.Decision, " (", f.Decided, ")",
			when(". Reason: ", f.Reason), when(". Made safe: ", f.Safe)))
	}
	if len(open) > 0 {
		p.heading("Found and not yet decided")
		for _, f := range open {
			p.bullet(join("", f.Title, when(", ", f.Where), " (", f.Class, ")", when(". Told: ", f.Told), when(". Made safe: ", f.Safe)))
		}
	}
}

// signatures is who signed what, and the client's receipt, kept on one page.
func (p *pack) signatures() {
	j := p.v.Job
	p.keep(74)
	p.heading("Signatures")
	if len(j.Seals) == 0 {
		p.line("Not signed yet.")
		for _, i := range p.v.Ready.Items {
			if !i.Ready {
				p.line("First: " + i.Says + when(" (waits for the ", i.Who) + ")")
				break
			}
		}
	}
	for _, s := range j.Seals {
		p.pair("Revision "+s.Revision, "signed by "+s.By+" ("+s.Role+") on "+p.at(s.At))
		p.pair("Seal", "SHA-256 "+s.Hash)
	}
	for _, r := range j.Current(install.Signature) {
		if r.Note != "" {
			p.pair("Remark of "+r.By, r.Note)
		}
	}
	if outcome, why := handover.Verify(j); len(j.Seals) > 0 {
		p.pair("Check of the seal", string(outcome)+": "+why)
	}
	p.heading("Receipt of the client")
	p.line("I have received this pack, was shown what to switch off and what to press, and know what was declined and what is left to others.")
	p.Ln(12)
	y := p.GetY()
	for i, s := range []string{"Name", "Date", "Signature"} {
		x := margin + float64(i)*62
		p.Line(x, y, x+56, y)
		p.SetXY(x, y+1)
		p.SetFont("sans", "", 6.5)
		p.CellFormat(56, 3.5, s, "", 0, "L", false, 0, "")
	}
	p.SetXY(margin, y+6)
}

// origin is the supply as it is at the origin, with the chain and the electrodes.
func (p *pack) origin(works *outdoor.Report) {
	j := p.v.Job
	s := &j.Supply
	p.start(p.say("Origin of the installation"), false)
	p.pair(p.say("Earthing arrangement"), or(p.word(string(s.Earthing)), "not yet known")+when(", ", string(s.EarthingBy)))
	p.pair("Declared voltage", unit.With(s.DeclaredV, "V"))
	for _, f := range supplyFacts(s) {
		if f.name == "main fuse" {
			continue // with what it is, below
		}
		name := p.say(upper(f.name))
		if to, bond := strings.CutPrefix(f.name, mainBond); bond {
			name = p.say("Main bond to") + " " + to
		}
		p.pair(name, p.known(f.fact, f.unit))
	}
	if s.NoExtraneous {
		p.pair("Main bonding", "looked for: nothing that needs it")
	}
	p.pair("Main protective device, as found", join(", ", s.MainFuseType, strings.TrimPrefix(p.known(s.MainFuseA, "A"), "not yet known")))
	p.pair(upper(p.say("the operator")), join(", ", s.Operator, when("number of the supply ", s.Number), when("meter ", s.MeterSerial)))
	d := p.v.Report.Demand
	p.pair("Maximum demand", fmt.Sprintf("%s before, %s with the work, on a supply of %s", unit.With(d.BeforeA, "A"),
		unit.With(d.AfterA, "A"), unit.With(d.FuseA, "A")))
	if rating := p.serviceRating(); rating != "" {
		p.pair("Rating with the work", rating)
	}
	if s.Condition != "" {
		p.pair("Condition", s.Condition)
	}
	if own := p.standby(); own != "" {
		p.pair("Standby source", own)
	}
	if s.EarthTo != "" {
		p.pair("Electrode conductor runs to", p.word("bond:"+s.EarthTo))
	}
	e := &j.Outdoor.Electrodes
	for i, r := range e.Rods {
		text := join(", ", r.Place, p.length(r.LengthM), p.thickness(r.DiameterMM)+" thick", string(r.Mode))
		if i > 0 && r.SpacingM > 0 {
			text += ", " + p.length(r.SpacingM) + " from the one before"
		}
		p.pair(fmt.Sprintf("Rod %d", i+1), text)
	}
	if e.Measured.Known() {
		p.pair("Resistance of the electrode", join(", ", p.known(e.Measured, "Ω"), e.Method))
	}
	p.chainTable()
	for _, r := range works.Runs {
		p.heading("Outdoor run " + p.runName(r.ID))
		for _, x := range r.Sections {
			depth := "planned"
			if x.Dug {
				depth = "as dug and measured"
			}
			p.pair(x.Place, fmt.Sprintf("%s to %s; cover %s, %s", p.length(x.FromM), p.length(x.ToM), p.smallLength(x.CoverMM), depth))
		}
		for _, o := range j.Outdoor.Run(r.ID).Found {
			way := "way past it not decided"
			if o.Option != "" {
				way = join(", ", "passed "+o.Option, when("decided by ", o.By))
			}
			p.pair(o.What, "at "+p.length(o.AtM)+"; "+way)
		}
	}
	for _, r := range j.Current(install.Operator) {
		p.pair(upper(p.say("the network operator")),
			join(", ", r.Path, "reference "+r.Reference, r.Person, strings.Replace(r.Called, "T", " ", 1), "recorded by "+r.By))
	}
}

// scheduled are the answers that the schedule of readings has a column for.
var scheduled = map[string]bool{"polarity-dead": true, "rcd-button": true}

// jointRead is what was read between neutral and earth in an enclosure; empty where that
// was not read.
func (p *pack) jointRead(id string) string {
	r := p.testRow("ng:"+id, "")
	if r == nil || r.Reading == nil {
		return ""
	}
	return "read " + readingText(r.Reading, r.Unit) + " on " + p.date(r.Reading.At)
}

// standby is the source of the customer's own; empty without one.
func (p *pack) standby() string {
	b := &p.v.Job.Standby
	if b.Source == "" {
		return ""
	}
	return join(", ", p.word(b.Source), unit.With(b.SourceVA/1000, "kVA"),
		map[bool]string{true: "transfers by itself", false: "transferred by hand"}[b.Automatic])
}

// chainTable lists the enclosures from the operator's end on, with the place of the joint.
func (p *pack) chainTable() {
	if len(p.v.Chain.Nodes) == 0 {
		return
	}
	p.heading(p.say("From the operator's cable to the last board"))
	rows := []row{}
	for _, n := range p.v.Chain.Nodes {
		e := p.v.Job.Chain.Enclosure(n.ID)
		if e == nil {
			continue
		}
		joint := map[string]string{"must": "joined here", "never": "kept apart"}[n.Joint]
		if joint != "" {
			read := p.jointRead(e.ID)
			switch {
			case read != "":
				joint += ", " + read
			case e.Joined == nil:
				joint += ", not yet looked at"
			case *e.Joined != (n.Joint == "must"):
				joint += "; found otherwise"
			}
		}
		rating := ""
		if e.RatingA.Known() {
			rating = unit.With(e.RatingA.V(), "A")
		}
		rows = append(rows, row{cells: []string{e.Name + map[bool]string{true: " (new)"}[e.New], p.say(e.Owner), rating,
			p.conductor(&e.Feed), joint, join(", ", when("seal ", e.SealNo), e.Condition)}})
	}
	p.table([]column{{"Enclosure", 34}, {"Owner", 24}, {"Rating", 14}, {"Fed by", 44},
		{"Neutral and " + p.v.Chain.Earth, 32}, {"Seal, condition", 32}}, rows)
}

// conductor is what feeds an enclosure, in the practice's sizes.
func (p *pack) conductor(c *install.Conductor) string {
	if c.Size == "" {
		return ""
	}
	size := c.Size
	if p.terms.SizeNames == nil {
		size += " mm²"
	} else {
		size += " AWG"
	}
	length := ""
	if c.LengthM.Known() {
		length = p.length(c.LengthM.V())
	}
	return join(", ", join(" ", map[string]string{"cu": "copper", "al": p.say("aluminium")}[string(c.Material)], size),
		when(p.v.Chain.Earth+" ", c.EarthMM2), c.Way, length)
}

// serviceRating is the rating of the first means of disconnection that the work leaves.
func (p *pack) serviceRating() string {
	for _, e := range p.v.Job.Chain.Order() {
		if e.Owner == install.OwnerCustomer && e.Disconnect != nil && *e.Disconnect && e.RatingA.Known() {
			return unit.With(e.RatingA.V(), "A") + " at " + e.Name
		}
	}
	return ""
}

func (p *pack) runName(id string) string {
	for i := range p.v.Job.Outdoor.Runs {
		if r := &p.v.Job.Outdoor.Runs[i]; r.ID == id {
			return r.Name
		}
	}
	return id
}

// smallLength writes millimetres as the practice does.
func (p *pack) smallLength(mm float64) string {
	return unit.Lengths{Inches: p.terms.Length.Unit() == "ft"}.MM(mm)
}

// thickness is a diameter as it is marked: inches to a thousandth, not to what a tape reads.
func (p *pack) thickness(mm float64) string {
	if p.terms.Length.Unit() == "ft" {
		return unit.With(unit.Significant(mm/25.4, 3), "in")
	}
	return unit.With(mm, "mm")
}

// cableName is the cable of a circuit; a trade size names it already.
func (p *pack) cableName(c *install.Circuit) string {
	if p.terms.SizeNames != nil {
		return ""
	}
	return p.word(c.Route.CableType)
}

// placed says where the device of a circuit stands.
func (p *pack) placed(c *install.Circuit) string {
	d := &c.Protection
	board := p.v.Job.Board.Name
	if feed := p.v.Job.CircuitByID(c.From); feed != nil {
		board = "the board behind " + feed.Name
	}
	switch {
	case d.OwnEnclosure:
		return "device in its own enclosure beside " + board
	case d.Way > 0:
		ways := []string{}
		for _, n := range p.terms.WaysOf(d.Way, max(d.Poles, 1)) {
			ways = append(ways, fmt.Sprint(n))
		}
		return p.say("way") + " " + strings.Join(ways, " and ") + " of " + board
	case c.From != "":
		return "at " + board
	}
	return ""
}

// The words for what is found by choice.
var (
	nearWords = map[install.Near]string{install.NearNothing: "free to reach",
		install.NearWater: "water above or beside it", install.NearGas: "gas close to it", install.NearGoods: "things kept against it"}
	coverWords = map[install.Covers]string{install.CoversNone: "no circuit", install.CoversSome: "some circuits",
		install.CoversAll: "all circuits that need it", install.CoversFire: "all, above 30 mA"}
	wiringWords = map[install.Wiring]string{install.WiringSheathed: "sheathed cable", install.WiringConduit: "in conduit",
		install.WiringArmoured: "armoured cable", install.WiringAluminium: "aluminium conductors",
		install.WiringRubber: "rubber insulation", install.WiringFabric: "fabric insulation",
		install.WiringLead: "lead sheath", install.WiringOpen: "open on insulators"}
)

func year(y *int) string {
	if y == nil {
		return ""
	}
	return strconv.Itoa(*y)
}

// inspected is what was looked at, by whom: isolations, answers of yes and no, pictures,
// and the instruments with their calibration.
func (p *pack) inspected() {
	j := p.v.Job
	p.start("What was inspected, isolated and measured with", false)
	b := &j.Found.Board
	p.heading("As found")
	found := 0
	say := func(name, text string) {
		if text != "" {
			found++
			p.pair(name, text)
		}
	}
	say("Board", join(", ", j.Board.Name, j.Board.Location, j.Board.Material))
	say("Made", join(", ", b.Made, when("edition ", b.Edition)))
	say("House", join(", ", when("built in ", year(b.Built)), when("last rewired in ", year(b.Rewired))))
	say("Above and around it", join(", ", nearWords[b.Near], b.Above))
	say(p.say("Residual protection covers"), join(", ", coverWords[b.Covers], b.Residual))
	say("More conductors in a terminal than it is made for", b.DoubleTapped)
	say("Surge device", b.Arrester)
	say("Note", b.Note)
	for _, h := range j.Found.Hazards {
		say("Hazard", join(", ", h.Kind, h.Place, map[bool]string{true: "cleared: " + h.How, false: "not cleared"}[h.Clear]))
	}
	say("Hazards on site", j.Site.Hazards)
	for _, k := range j.Found.Circuits {
		tail := ""
		if k.TailM.Known() {
			tail = p.length(k.TailM.V()) + " to spare at the board"
		}
		say("Circuit found: "+k.Name, join(", ", k.Device, k.State, when("known by ", k.Proved), wiringWords[k.Wiring],
			k.Method, when("core colours ", k.Colours), tail, k.Note))
	}
	if found == 0 {
		p.line("Nothing is on record.")
	}
	p.heading("Looked at and tried")
	rows := []row{}
	for _, r := range p.v.Tests.Rows {
		if !r.YesNo || r.Reading == nil || r.Circuit != "" && (p.terms.SizeNames != nil || scheduled[r.ID]) {
			continue // not read yet, or on the schedule of readings
		}
		rows = append(rows, row{verdict: r.Verdict,
			cells: []string{p.circuitName(r.Circuit), r.Title, readingText(r.Reading, r.Unit), r.Reading.By + ", " + p.at(r.Reading.At)}})
	}
	for _, t := range p.v.Tasks {
		if !t.Photo || !t.Done {
			continue
		}
		says := "with a picture"
		if !slices.ContainsFunc(j.Current(install.Photo), func(r install.Record) bool { return r.Subject == t.ID && !r.Done }) {
			says = "without a picture: " + t.Note
		}
		rows = append(rows, row{verdict: working.Pass, cells: []string{"", t.Title, says, t.DoneBy + ", " + p.at(*t.DoneAt)}})
	}
	if len(rows) == 0 {
		p.line("Nothing is on record.")
	} else {
		p.table([]column{{"Circuit", 32}, {"What", 84}, {"Result", 28}, {"By, when", 36}}, rows)
	}
	p.heading("Isolations and permissions")
	n := 0
	for _, r := range j.Records {
		switch r.Kind {
		case install.Isolation:
			n++
			p.pair("Isolation "+p.at(r.At),
				r.By+": "+r.Source+"; lock and tag "+r.LockTag+"; tester "+r.Tester+" proved before and after; dead: "+strings.Join(r.PairsDead, ", ")+"; stays live: "+or(r.StillLive, "not written down"))
		case install.LockOff:
			n++
			p.pair("Lock off "+p.at(r.At), join("; ", r.By, r.Note))
		case install.Energise:
			n++
			p.pair("Permission to energise", join("; ", r.By+" ("+r.Role+") on "+p.at(r.At), p.asked(r.Confirmed), r.Note))
		}
	}
	if n == 0 {
		p.line("Nothing is on record.")
	}
	p.heading("Instruments")
	seen := map[string]bool{}
	for _, r := range j.Current(install.Reading) {
		if key := r.Instrument + r.Calibrated; r.Instrument != "" && !seen[key] {
			seen[key] = true
			p.pair(r.Instrument, or(when("calibrated to ", r.Calibrated), "no calibration is on record"))
		}
	}
	if len(seen) == 0 {
		p.line("No reading is on record.")
	}
}

// asked says what the person who permitted had seen.
func (p *pack) asked(confirmed []string) string {
	said := []string{}
	for _, a := range p.v.Tests.Asks {
		if slices.Contains(confirmed, a.ID) {
			said = append(said, strings.ToLower(a.Title[:1])+a.Title[1:])
		}
	}
	if len(said) == 0 {
		return ""
	}
	return "seen: " + strings.Join(said, "; ")
}

func (p *pack) circuitName(id string) string {
	if c := p.v.Job.CircuitByID(id); c != nil {
		return c.Name
	}
	return ""
}

// places are where the rods stand.
func places(rods []install.PlacedRod) (out []string) {
	for _, r := range rods {
		out = append(out, r.Place)
	}
	return out
}

// join joins the parts that say something.
func join(by string, parts ...string) string {
	return strings.Join(slices.DeleteFunc(parts, func(s string) bool { return strings.TrimSpace(s) == "" }), by)
}

// when is a text behind its words, nothing where there is none.
func when(words, text string) string {
	if strings.TrimSpace(text) == "" {
		return ""
	}
	return words + text
}

func or(text, otherwise string) string {
	if strings.TrimSpace(text) == "" {
		return otherwise
	}
	return text
}

func counted(n int, one, more string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, more)
}
