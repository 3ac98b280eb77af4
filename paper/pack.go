package paper

import (
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/proving"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/whole"
	"arvelt/core/words"
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
	if v.Job.Trait().Origin {
		p.origin(&works)
	}
	if p.terms.Columns == 2 {
		p.panelSchedule()
		p.splitReadings()
	} else {
		p.circuitSchedule()
		p.readingSchedule()
	}
	p.inspected()
	if !v.Job.Trait().Report { // a report leaves the board as it is, and nothing was done
		p.labels()
		p.owner()
	}
	p.annex(&works)
	return p.Output(w)
}

// record is what the contractor hands to the client: who, where, what and how far.
func (p *pack) record() {
	j, k := p.v.Job, p.ctx.Company
	title := p.words.Say("Handover record")
	if j.Trait().Report {
		title = p.words.Say("Inspection report")
	}
	p.start(title, false)
	p.pair(p.words.Say("Contractor"), k.Name)
	for _, x := range []struct{ name, text string }{{"Address", k.Address}, {"Telephone", k.Phone}, {"Licence", k.Licence}} {
		if x.text != "" {
			p.pair(x.name, x.text)
		}
	}
	p.pair(p.words.Say("Client"), join(", ", j.Site.Customer, j.Site.Phone))
	p.pair(p.words.Say("Site"), join(", ", j.Site.Address, j.Site.Town))
	if name, known := p.ctx.Words["premises:"+j.Site.Premises]; known {
		p.pair(p.words.Say("Premises"), name)
	}
	p.pair(p.words.Say("Job"), j.Ref+" · "+j.Title)
	p.pair(p.words.Say("Rules"), p.word(j.Practice)+" · "+j.Edition)
	p.pair(p.words.Say("Extent"), or(j.Site.Extent, p.words.Say("the work listed below; nothing else was stated")))
	p.pair(p.words.Say("Limitations"), or(j.Site.Limits, p.words.Say("none stated")))

	if p.v.Outcome != nil {
		p.report(p.v.Outcome)
	} else {
		p.heading(p.words.Say("What was done"))
		done := p.done()
		for _, s := range done {
			p.bullet(s)
		}
		if len(done) == 0 {
			p.line(p.words.Say("No circuit, enclosure or device is on this job."))
		}
		p.quoted()
		p.varied()
		p.declined()
		p.supplied()
		p.heading(p.words.Say("Left to others"))
		p.line(or(j.Site.Others, p.words.Say("Nothing was stated.")))
		p.later()
	}
	for i := range j.Rooms {
		if r := &j.Rooms[i]; r.Skipped != "" {
			p.bullet(join("", r.Name, p.words.Say(" was not seen: "), r.Skipped, ".", when(p.words.Say(" To be seen on "), r.Revisit)))
		}
	}
	for _, l := range p.v.Loose {
		if l.Left == "" {
			p.bullet(p.words.Say("Still to be done: %s (%s, %s)", l.Note, l.By, p.date(l.At)))
		}
	}
	for _, l := range p.v.Left {
		p.bullet(join("; ", p.words.Say("Left as it is: %s (%s, %s)", l.Says, l.Record.By, p.date(l.Record.At)), l.Care, l.When,
			when(p.words.Say("to be put right by "), l.Record.Person)))
	}

	p.heading(p.words.Say("Assumed, to be confirmed"))
	if len(p.v.Ready.Assumed) == 0 {
		p.line(p.words.Say("No figure of this job is marked as assumed."))
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
			out = append(out, p.words.Say("New: %s%s%s", e.Name, rating, when(p.words.Say(", fed by "), p.conductor(&e.Feed))))
		}
	}
	for i := range j.Circuits {
		c := &j.Circuits[i]
		s := p.v.Report.Circuit(c.ID).Summary
		text := c.Name + ": " + or(p.terms.Serves[string(c.Use)], p.word(string(c.Use)))
		if c.State != install.NewCircuit {
			what := p.words.Say("another device, its cable left as it was")
			if c.State == install.KeptCircuit {
				what = p.words.Say("repaired or replaced, the circuit left as it was")
			}
			out = append(out, text+when(", ", c.Point.Place)+": "+what+when(", ", p.placed(c)))
			continue
		}
		if n := c.Serves.Points(); n > 1 {
			text += p.words.Say(", %d points", n)
		}
		out = append(out, text+when(", ", c.Point.Place)+when(", ",
			join(" ", s.Conductor, p.cableName(c)))+", "+p.length(c.Route.LengthM())+when(", ", p.placed(c)))
	}
	out = append(out, p.left()...)
	if own := p.standby(); own != "" {
		out = append(out, p.words.Say("Standby source: %s", own))
	}
	for _, d := range j.Surge.Devices {
		if d.Kept {
			continue
		}
		out = append(out, p.words.Say("Surge device %s, Type %s, %s", d.Name, d.Type,
			map[string]string{"origin": p.words.Say("at the origin"),
				"board": p.words.Say("at the board"), "load": p.words.Say("near what it protects")}[string(d.Place)]))
	}
	if n := len(j.Outdoor.Electrodes.Rods); n > 0 {
		out = append(out, counted(n, p.words.Say("earth rod"), p.words.Say("earth rods"))+": "+
			strings.Join(places(j.Outdoor.Electrodes.Rods), "; "))
	}
	for i := range j.Outdoor.Runs {
		r := &j.Outdoor.Runs[i]
		out = append(out, p.words.Say("%s run %s, %s", upper(r.Kind), r.Name, p.length(r.LengthM())))
	}
	for i := range j.Rooms {
		if n := j.Rooms[i].Total(install.New) + j.Rooms[i].Total(install.Moved); n > 0 {
			out = append(out, j.Rooms[i].Name+": "+counted(n, p.words.Say("point new or moved"), p.words.Say("points new or moved")))
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
	p.heading(p.words.Say("Declined or put off by the client"))
	if len(declined) == 0 {
		p.line(p.words.Say("Nothing."))
	}
	for _, f := range declined {
		p.bullet(join("", f.Title, when(", ", f.Where), ": ", f.Decision, " (", f.Decided, ")",
			when(p.words.Say(". Reason: "), f.Reason), when(p.words.Say(". Notice of a dangerous condition: "), f.Notice),
			when(p.words.Say(". Made safe: "), f.Safe)))
	}
	if len(open) > 0 {
		p.heading(p.words.Say("Found and not yet decided"))
		for _, f := range open {
			p.bullet(join("", f.Title, when(", ", f.Where), " (", f.Class, ")", when(p.words.Say(". Reported to the operator: "), f.Reported),
				when(p.words.Say(". Told: "), f.Told), when(p.words.Say(". Notice of a dangerous condition: "), f.Notice),
				when(p.words.Say(". Made safe: "), f.Safe)))
		}
	}
	if released := j.Current(install.Release); len(released) > 0 {
		p.heading(p.words.Say("Let go by the supervisor"))
		for _, r := range released {
			p.bullet(join("", strings.Join(r.Effects, "; "), " (", r.By, ", ", p.at(r.At), "): ", r.Note))
		}
	}
}

// signatures is who signed what, and the client's receipt, kept on one page.
func (p *pack) signatures() {
	j := p.v.Job
	p.keep(74)
	p.heading(p.words.Say("Signatures"))
	if len(j.Seals) == 0 {
		p.line(p.words.Say("Not signed yet."))
		for _, i := range p.v.Ready.Items {
			if !i.Ready {
				p.line(p.words.Say("First: %s%s)", i.Summary, when(p.words.Say(" (open: the "), i.Who)))
				break
			}
		}
	}
	for _, s := range j.Seals {
		p.pair(p.words.Say("Revision %s", s.Revision), p.words.Say("signed by %s (%s) on %s", s.By, s.Role, p.at(s.At)))
		p.pair(p.words.Say("Seal"), p.words.Say("SHA-256 %s", s.Hash))
	}
	for _, r := range j.Current(install.Signature) {
		if r.Note != "" {
			p.pair(p.words.Say("Remark of %s", r.By), r.Note)
		}
	}
	if s := p.v.Sealed; s != nil {
		p.pair(p.words.Say("Check of the seal"), p.words.Say(string(s.Outcome))+": "+s.Says)
		if s.Key != "" {
			p.pair(p.words.Say("Key of the company"), s.Key)
			p.pair(p.words.Say("Its fingerprint"), s.Print)
		}
	}
	if i := p.v.Imported; i != nil {
		p.pair(p.words.Say("Imported"), p.words.Say("by %s on %s. The names, times and records up to then are what the file said: nobody here vouches for them.",
			i.By, p.at(i.At)))
	}
	p.heading(p.words.Say("Receipt of the client"))
	p.line(p.words.Say("I have received this pack, was shown what to switch off and what to press, and know what was declined " +
		"and what is left to others."))
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
	p.start(p.words.Say("Origin of the installation"), false)
	p.pair(p.words.Say("Earthing arrangement"),
		or(p.word(string(s.Earthing)), p.words.Say("not recorded"))+when(", ", string(s.EarthingBy)))
	p.pair(p.words.Say("Declared voltage"), unit.With(s.DeclaredV, "V"))
	for _, f := range supplyFacts(j) {
		if f.fuse {
			continue // with what it is, below
		}
		p.pair(p.words.Say(string(f.title), f.args()...), p.known(f.fact, f.unit))
	}
	if s.NoExtraneous {
		p.pair(p.words.Say("Main bonding"), p.words.Say("looked for: nothing that needs it"))
	}
	p.pair(p.words.Say("Main protective device, as found"),
		join(", ", s.MainFuseType, strings.TrimPrefix(p.known(s.MainFuseA, "A"), p.words.Say("not recorded"))))
	p.pair(upper(p.words.Say("the operator")),
		join(", ", s.Operator, when(p.words.Say("supply number "), s.Number), when(p.words.Say("meter "), s.MeterSerial)))
	if m := s.Meter; m.Noted() {
		p.pair(p.words.Say("Meter, as set"), join(", ", m.On, when(p.words.Say("meter "), m.Serial), when(p.words.Say("taken out at "), m.Out),
			when(p.words.Say("reading "), m.Reading), when(p.words.Say("seal "), m.Seal)))
	}
	d := p.v.Report.Demand
	p.pair(p.words.Say("Maximum demand"), p.words.Say("%s before, %s with the work, on a "+
		"supply of %s", unit.With(d.BeforeA, "A"), unit.With(d.AfterA, "A"), unit.With(d.FuseA, "A")))
	if rating := p.serviceRating(); rating != "" {
		p.pair(p.words.Say("Rating with the work"), rating)
	}
	if s.Condition != "" {
		p.pair(p.words.Say("Condition"), s.Condition)
	}
	if own := p.standby(); own != "" {
		p.pair(p.words.Say("Standby source"), own)
	}
	if s.EarthTo != "" {
		p.pair(p.words.Say("Electrode conductor runs to"), p.word("bond:"+s.EarthTo))
	}
	e := &j.Outdoor.Electrodes
	for i, r := range e.Rods {
		text := join(", ", r.Place, p.length(r.LengthM), p.words.Say("%s thick", p.thickness(r.DiameterMM)), string(r.Mode))
		if i > 0 && r.SpacingM > 0 {
			text += p.words.Say(", %s from the one before", p.length(r.SpacingM))
		}
		p.pair(p.words.Say("Rod %d", i+1), text)
	}
	if e.Measured.Known() {
		p.pair(p.words.Say("Resistance of the electrode"), join(", ", p.known(e.Measured, "Ω"), e.Method))
	}
	p.chainTable()
	for _, r := range works.Runs {
		p.heading(p.words.Say("Outdoor run %s", p.runName(r.ID)))
		for _, x := range r.Sections {
			depth := "planned"
			if x.Dug {
				depth = p.words.Say("as dug and measured")
			}
			p.pair(x.Place, p.words.Say("%s to %s; cover %s, %s", p.length(x.FromM), p.length(x.ToM), p.smallLength(x.CoverMM), depth))
		}
		for _, o := range j.Outdoor.Run(r.ID).Found {
			way := p.words.Say("way past it not decided")
			if o.Option != "" {
				way = join(", ", p.words.Say("passed %s", o.Option), when(p.words.Say("decided by "), o.By))
			}
			p.pair(o.What, p.words.Say("at %s; %s", p.length(o.AtM), way))
		}
	}
	for _, r := range j.Current(install.Operator) {
		p.pair(upper(p.words.Say("the network operator")),
			join(", ", r.Path, p.words.Say("reference %s", r.Reference), r.Person, strings.Replace(r.Called, "T", " ", 1),
				p.words.Say("recorded by %s", r.By)))
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
	return p.words.Say("read %s on %s", readingText(r.Reading, r.Unit), p.date(r.Reading.At))
}

// standby is the source of the customer's own; empty without one.
func (p *pack) standby() string {
	b := &p.v.Job.Standby
	if b.Source == "" {
		return ""
	}
	return join(", ", p.word(b.Source), unit.With(b.SourceVA/1000, "kVA"),
		map[bool]string{true: p.words.Say("transfers by itself"), false: p.words.Say("transferred by hand")}[b.Automatic])
}

// chainTable lists the enclosures from the operator's end on, with the place of the joint.
func (p *pack) chainTable() {
	if len(p.v.Chain.Nodes) == 0 {
		return
	}
	p.heading(p.words.Say("From the operator's cable to the last board"))
	rows := []row{}
	for _, n := range p.v.Chain.Nodes {
		e := p.v.Job.Chain.Enclosure(n.ID)
		if e == nil {
			continue
		}
		joint := map[string]string{"must": p.words.Say("joined here"), "never": p.words.Say("kept apart")}[n.Joint]
		if joint != "" {
			read := p.jointRead(e.ID)
			switch {
			case read != "":
				joint += ", " + read
			case e.Joined == nil:
				joint += p.words.Say(", not yet looked at")
			case *e.Joined != (n.Joint == "must"):
				joint += p.words.Say("; found otherwise")
			}
		}
		rating := ""
		if e.RatingA.Known() {
			rating = unit.With(e.RatingA.V(), "A")
		}
		rows = append(rows, row{cells: []string{e.Name + map[bool]string{true: p.words.Say(" (new)")}[e.New], p.words.Say(e.Owner), rating,
			p.conductor(&e.Feed), joint, join(", ", when(p.words.Say("seal "), e.SealNo), e.Condition)}})
	}
	p.table([]column{{p.words.Say("Enclosure"), 34}, {p.words.Say("Owner"), 24}, {p.words.Say("Rating"), 14}, {p.words.Say("Fed by"), 44},
		{p.words.Say("Neutral and %s", p.v.Chain.Earth), 32}, {p.words.Say("Seal, condition"), 32}}, rows)
}

// conductor is what feeds an enclosure, in the practice's sizes.
func (p *pack) conductor(c *install.Conductor) string {
	if c.Size == "" {
		return ""
	}
	size := c.Size
	if p.terms.SizeNames == nil {
		size += p.words.Say(" mm²")
	} else {
		size += p.words.Say(" AWG")
	}
	length := ""
	if c.LengthM.Known() {
		length = p.length(c.LengthM.V())
	}
	return join(", ", join(" ", map[string]string{"cu": "copper", "al": p.words.Say("aluminium")}[string(c.Material)], size),
		when(p.v.Chain.Earth+" ", c.EarthMM2), c.Way, length)
}

// serviceRating is the rating of the first means of disconnection that the work leaves.
func (p *pack) serviceRating() string {
	for _, e := range p.v.Job.Chain.Order() {
		if e.Owner == install.OwnerCustomer && e.Disconnect != nil && *e.Disconnect && e.RatingA.Known() {
			return p.words.Say("%s at %s", unit.With(e.RatingA.V(), "A"), e.Name)
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
	board := ""
	if b := p.v.Job.BoardOf(c); b != nil {
		board = b.Name
	} else if feed := p.v.Job.FeederOf(c); feed != nil {
		board = p.words.Say("the board behind %s", feed.Name)
	}
	switch {
	case d.OwnEnclosure:
		return p.words.Say("device in its own enclosure beside %s", board)
	case d.Way > 0:
		ways := []string{}
		for _, at := range p.terms.PlacesOf(c) {
			ways = append(ways, fmt.Sprint(at.Way)+string(at.Half))
		}
		return p.words.Say("%s %s of %s", p.words.Say("way"), strings.Join(ways, p.words.Say(" and ")), board)
	case c.From != "":
		return p.words.Say("at %s", board)
	}
	return ""
}

// The words for what is found by choice.
var (
	nearWords = map[install.Near]words.Key{install.NearNothing: words.Key("free to reach"),
		install.NearWater: words.Key("water above or beside it"), install.NearGas: words.Key("gas close to it"),
		install.NearGoods: words.Key("things kept against it")}
	coverWords = map[install.Covers]words.Key{install.CoversNone: words.Key("no circuit"), install.CoversSome: words.Key("some circuits"),
		install.CoversAll: words.Key("all circuits that need it"), install.CoversFire: words.Key("all, above 30 mA")}
	wiringWords = map[install.Wiring]words.Key{install.WiringSheathed: words.Key("sheathed cable"),
		install.WiringConduit:  words.Key("in conduit"),
		install.WiringArmoured: words.Key("armoured cable"), install.WiringAluminium: words.Key("aluminium conductors"),
		install.WiringRubber: words.Key("rubber insulation"), install.WiringFabric: words.Key("fabric insulation"),
		install.WiringLead: words.Key("lead sheath"), install.WiringOpen: words.Key("open on insulators")}
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
	p.start(p.words.Say("What was inspected, isolated and measured with"), false)
	p.found()
	p.tried()
	p.isolations()
	p.aftercare()
	p.instruments()
}

// found is what stood there before.
func (p *pack) found() {
	j := p.v.Job
	b := &j.Found.Board
	p.heading(p.words.Say("As found"))
	found := 0
	say := func(name, text string) {
		if text != "" {
			found++
			p.pair(name, text)
		}
	}
	say(p.words.Say("Board"), join(", ", j.Board.Name, j.Board.Location, j.Board.Material))
	say(p.words.Say("Made"), join(", ", b.Made, when(p.words.Say("edition "), b.Edition)))
	say(p.words.Say("House"), join(", ", when(p.words.Say("built in "), year(b.Built)),
		when(p.words.Say("last rewired in "), year(b.Rewired))))
	say(p.words.Say("Above and around it"), join(", ", p.words.Say(string(nearWords[b.Near])), b.Above))
	say(p.words.Say("Residual protection covers"), join(", ", p.words.Say(string(coverWords[b.Covers])), b.Residual))
	say(p.words.Say("More conductors in a terminal than it is made for"), b.DoubleTapped)
	say(p.words.Say("Surge device"), b.Arrester)
	say(p.words.Say("Note"), b.Note)
	for _, h := range j.Found.Hazards {
		say(p.words.Say("Hazard"),
			join(", ", h.Kind, h.Place,
				map[bool]string{true: p.words.Say("cleared: %s", h.How), false: p.words.Say("not cleared")}[h.Clear]))
	}
	say(p.words.Say("Hazards on site"), j.Site.Hazards)
	for _, k := range j.Found.Circuits {
		tail := ""
		if k.TailM.Known() {
			tail = p.words.Say("%s to spare at the board", p.length(k.TailM.V()))
		}
		say(p.words.Say("Circuit found: %s", k.Name),
			join(", ", k.Device, k.State, when(p.words.Say("known by "), k.Proved), p.words.Say(string(wiringWords[k.Wiring])),
				k.Method, when(p.words.Say("core colours "), k.Colours), tail, k.Note))
	}
	if found == 0 {
		p.line(p.words.Say("Nothing is on record."))
	}
}

// tried is what was looked at, tried or photographed, beside the readings of the schedule.
func (p *pack) tried() {
	j := p.v.Job
	p.heading(p.words.Say("Looked at and tried"))
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
		says := p.words.Say("with a picture")
		if !slices.ContainsFunc(j.Current(install.Photo), func(r install.Record) bool { return r.Subject == t.ID && !r.Done }) {
			says = p.words.Say("without a picture: %s", t.Note)
		}
		rows = append(rows, row{verdict: working.Pass, cells: []string{"", t.Title, says, t.DoneBy + ", " + p.at(*t.DoneAt)}})
	}
	if len(rows) == 0 {
		p.line(p.words.Say("Nothing is on record."))
	} else {
		p.table([]column{{p.words.Say("Circuit"), 32}, {p.words.Say("What"), 84}, {p.words.Say("Result"), 28},
			{p.words.Say("By, when"), 36}}, rows)
	}
}

// aftercare is what was looked after since the job was first signed.
func (p *pack) aftercare() {
	list := p.v.Job.Current(install.LookedAfter)
	if len(list) == 0 {
		return
	}
	p.heading(p.words.Say("Looked after since the handover"))
	for i := range list {
		r := &list[i]
		result := p.words.Say("in order")
		if r.Passed != nil && !*r.Passed {
			result = p.words.Say("not in order")
		}
		what := r.Subject
		if i := slices.Index(install.AfterSubjects, r.Subject); i >= 0 {
			what = p.words.Say(string(install.AfterNames[i]))
		}
		p.pair(what+" "+p.date(r.At), join(": ", r.By+", "+result, r.Note))
	}
}

// instruments are those that gave the readings.
func (p *pack) instruments() {
	j := p.v.Job
	p.heading(p.words.Say("Instruments"))
	seen := map[string]bool{}
	for _, r := range j.Current(install.Reading) {
		if key := r.Instrument + r.Calibrated; r.Instrument != "" && !seen[key] {
			seen[key] = true
			p.pair(r.Instrument, or(when(p.words.Say("calibrated to "), r.Calibrated), p.words.Say("no calibration is on record")))
		}
	}
	if len(seen) == 0 {
		p.line(p.words.Say("No reading is on record."))
	}
}

// asked says what the person who permitted had seen.
func (p *pack) asked(r *install.Record) string {
	said := []string{}
	for _, a := range proving.AsksOf(p.words, r.Use) {
		if slices.Contains(r.Confirmed, a.ID) {
			said = append(said, strings.ToLower(a.Title[:1])+a.Title[1:])
		}
	}
	for _, id := range r.Confirmed {
		if place, cover := proving.CoverAsked(id); cover {
			said = append(said, p.words.Say("the cover of %s is back on", p.placeName(place)))
		}
	}
	if len(said) == 0 {
		return ""
	}
	return p.words.Say("seen: %s", strings.Join(said, "; "))
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
	return strconv.Itoa(n) + " " + more
}
