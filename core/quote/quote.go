// Package quote makes the price of a job from what its model takes: the parts of the order list, the hours of the plan, what others charge,
// and the company's rule of mark-up, contingency and tax. Every amount is given to what it is for, so that the price reads by piece of the
// installation and by room, and both come to the same.
package quote

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/outdoor"
	"arvelt/core/plan"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// HourKey is the key of the company's list under which it has what an hour of work is charged at.
const HourKey = plan.HourKey

// Column is what an amount is of.
type Column int

// The columns of a price.
const (
	Parts  Column = iota
	Labour        // on what the row is about
	Board         // its share of the board that it hangs on: parts and work
	Tests         // testing, certifying and handing over, and its share of what is tested as a whole
	Others        // what others charge, plant and allowances
	columns
)

// RowKind is what a row of a price is about.
type RowKind string

// The kinds of row, in the order in which they stand.
const (
	CircuitRow RowKind = "circuit"
	RoomRow    RowKind = "room"
	SupplyRow  RowKind = "supply"
	RunRow     RowKind = "run"
	FindingRow RowKind = "finding"
	ExtraRow   RowKind = "extra"
	HouseRow   RowKind = "house"
)

var rowKinds = []RowKind{CircuitRow, RoomRow, SupplyRow, RunRow, FindingRow, ExtraRow, HouseRow}

// Row is one line of a price, before contingency and tax.
type Row struct {
	install.Priced

	Kind RowKind `json:"kind"`
}

// Sum is what a price comes to.
type Sum struct {
	Net         float64 `json:"net"`
	Contingency float64 `json:"contingency"`
	Tax         float64 `json:"tax"`
	Total       float64 `json:"total"`
	High        float64 `json:"high"` // total at the upper end of what is a range
}

// Price is the price of a job with what it is made of.
type Price struct {
	Rule  install.QuoteRule `json:"rule"` // as it was reckoned by
	RateH *float64          `json:"rateH"`
	Items []Row             `json:"items"`
	Rooms []Row             `json:"rooms"`
	Sum   Sum               `json:"sum"`
	// Lacks is what keeps the price open: with any of it, the sum is what is known of it so far, and nothing is offered.
	Lacks []materials.Gap `json:"lacks"`
	// Includes says what is done for the price, Rest what is not and who does it.
	Includes []string       `json:"includes"`
	Rest     []install.Rest `json:"rest"`
}

// Gross is what an amount adds to the price, with contingency and tax.
func (p *Price) Gross(v float64) float64 {
	c := centsOf(v)
	all := c + c.percent(p.Rule.ContingencyPc)
	switch p.Rule.TaxOn {
	case install.TaxOnParts:
		return (all + c.percent(p.Rule.TaxPc)).float()
	case install.TaxOnNone:
		return all.float()
	}
	return (all + all.percent(p.Rule.TaxPc)).float()
}

// Charge is what the operator charges for making the work dead.
type Charge struct {
	Title string
	Cost  *float64 // nil where nobody knows it
}

// Model is what a price is made from.
type Model struct {
	Job     *install.Job
	Survey  *rulebook.Survey // words for what is walked; nil where nothing was
	Take    *materials.TakeOff
	Tasks   []plan.Task
	Prices  map[string]materials.Item
	Rule    install.QuoteRule // the company's
	Charges []Charge
}

// Of makes the price of a job.
func Of(m Model) Price {
	b := builder{Model: m, w: m.Job.Words, rows: map[rowKey]*row{}, boards: map[string]cents{}}
	b.rule = m.Job.Quote.Under(m.Rule)
	b.price.Lacks = slices.Clone(m.Take.Gaps)
	if rate, ok := m.Prices[HourKey]; ok && rate.Price > 0 {
		b.price.RateH = &rate.Price
	}
	b.agreed()
	b.parts()
	b.labour()
	b.others()
	b.shares()
	return b.result()
}

type rowKey struct {
	kind RowKind
	id   string
}

type row struct {
	key   rowKey
	name  string
	cols  [columns]cents
	over  cents // what the upper end of a range adds
	hours float64
}

type builder struct {
	Model

	w      *words.Catalogue
	rule   install.QuoteRule
	rows   map[rowKey]*row
	order  []*row
	boards map[string]cents // what is shared out among the circuits of a board, by its part
	tests  cents            // of the installation as a whole
	// bought is what of all is parts, whatever column it stands in.
	bought cents
	price  Price
}

func (b *builder) lack(what string, sheet working.Sheet, leaf working.Leaf) {
	b.price.Lacks = append(b.price.Lacks, materials.Gap{What: what, Sheet: sheet, Leaf: leaf})
}

// row is that of a thing, which begins with nothing.
func (b *builder) row(kind RowKind, id, name string) *row {
	key := rowKey{kind, id}
	r := b.rows[key]
	if r == nil {
		r = &row{key: key, name: name}
		b.rows[key] = r
		b.order = append(b.order, r)
	}
	return r
}

func (b *builder) house() *row  { return b.row(HouseRow, "", b.w.Say("The house as a whole")) }
func (b *builder) supply() *row { return b.row(SupplyRow, "", b.w.Say("Supply arrangement")) }

func (b *builder) run(id string) *row {
	for i := range b.Job.Outdoor.Runs {
		if r := &b.Job.Outdoor.Runs[i]; r.ID == id {
			return b.row(RunRow, id, r.Name)
		}
	}
	return b.house()
}

func (b *builder) circuit(id string) *row {
	if k := b.Job.CircuitByID(id); k != nil {
		return b.row(CircuitRow, id, k.Name)
	}
	return b.house()
}

func (b *builder) room(id string) *row {
	if r := b.Job.RoomByID(id); r != nil {
		return b.row(RoomRow, id, r.Name)
	}
	return b.house()
}

// agreed says which findings were accepted whose work the list has no price of.
func (b *builder) agreed() {
	if b.Survey == nil {
		return
	}
	for _, f := range survey.Agreed(b.Job, b.Survey) {
		if _, ok := b.Prices[f.Key]; !ok && f.Key != "" && !f.Shares {
			b.lack(b.w.Say("The price list has none of %s.", f.Title), working.SurveySheet, working.CaseLeaf)
		}
	}
}

// parts gives the price of each product to those who ask for it, by how much they take.
func (b *builder) parts() {
	for i := range b.Take.Lines {
		l := &b.Take.Lines[i]
		switch {
		case l.Order == 0:
			continue
		case l.Price == nil:
			b.lack(b.w.Say("The price list has none of %s.", l.Name), working.MaterialsSheet, "")
			continue
		}
		asks, needs := []*materials.Ask{}, []float64{}
		for n := range l.Asks {
			if a := &l.Asks[n]; a.Brought == nil && a.Need > 0 {
				asks, needs = append(asks, a), append(needs, a.Need)
			}
		}
		markup := 1 + b.rule.MarkupPc/100
		if l.Group == materials.WorkGroup { // priced as it is charged, labour with it
			markup = 1
		}
		cost := centsOf(*l.Price * markup)
		over := cents(0)
		if item := b.Prices[l.Key]; l.Group == materials.WorkGroup && item.High > item.Price {
			over = centsOf((item.High - item.Price) * l.Order)
		}
		overs := split(over, needs)
		for n, part := range split(cost, needs) {
			b.part(l, asks[n], part, overs[n])
		}
		b.bought += cost
	}
}

func (b *builder) part(l *materials.Line, a *materials.Ask, cost, over cents) {
	if a.By.Board != "" && l.Group != materials.WorkGroup {
		b.boards[a.By.Board] += cost
		return
	}
	var r *row
	switch by := a.By; {
	case l.Group == materials.WorkGroup:
		r = b.row(FindingRow, strings.Join(a.Steps, " "), a.For)
	case by.Circuit != "":
		r = b.circuit(by.Circuit)
	case by.Room != "":
		r = b.room(by.Room)
	case by.Enclosure != "":
		r = b.supply()
	case by.Run != "":
		r = b.run(by.Run)
	default:
		r = b.house()
	}
	r.cols[Parts] += cost
	r.over += over
}

// labour gives the hours of each step to what it is of. What others do is in their charge; a piece of work that the list prices whole has
// its hours in that, and what another piece does has none.
func (b *builder) labour() {
	whole := map[string]bool{}
	for i := range b.Take.Lines {
		if l := &b.Take.Lines[i]; l.Group == materials.WorkGroup {
			for n := range l.Asks {
				for _, step := range l.Asks[n].Steps {
					whole[step] = true
				}
			}
		}
	}
	tested, each := false, plan.Norm(b.Prices, "test")
	for i := range b.Job.Circuits {
		if k := &b.Job.Circuits[i]; worked(k) {
			tested = true
			b.work(b.circuit(k.ID), Tests, each)
		}
	}
	for i := range b.Tasks {
		t := &b.Tasks[i]
		if t.Others != "" || t.Shared || whole[t.ID] || tested && t.Tests() { // the tests of a day are those of its circuits
			continue
		}
		b.task(t)
	}
}

// worked reports whether the job does something to a circuit.
func worked(k *install.Circuit) bool { return !k.State.Out() && k.State != install.KeptCircuit }

func (b *builder) task(t *plan.Task) {
	h := t.Hours * float64(t.Crew)
	switch {
	case t.Outdoor == outdoor.ElectrodesObject:
		b.work(b.house(), Labour, h)
	case t.Outdoor != "":
		b.work(b.run(t.Outdoor), Labour, h)
	case t.Finding != "":
		b.work(b.row(FindingRow, t.ID, t.Finding), Labour, h)
	case t.Circuit != "":
		column := Labour
		switch {
		case t.Step == plan.StepCircuit || t.Step == plan.StepLabel:
			column = Board
		case t.Tests() || t.Stage == install.Test || t.Stage == install.Handover:
			column = Tests
		}
		b.work(b.circuit(t.Circuit), column, h)
	case t.Room != "":
		b.work(b.room(t.Room), Labour, h)
	case t.Tests() || t.Stage == install.Test || t.Stage == install.Handover:
		b.tests += b.cost(h)
	case t.Day && b.Job.Trait().Service:
		b.work(b.supply(), Labour, h)
	case t.Day:
		b.boards[b.Job.Board.Part()] += b.cost(h)
	default:
		b.work(b.house(), Labour, h)
	}
}

func (b *builder) cost(h float64) cents {
	if b.price.RateH == nil {
		if h > 0 && !slices.ContainsFunc(b.price.Lacks, func(g materials.Gap) bool { return g.Sheet == working.QuoteSheet }) {
			b.lack(b.w.Say("The price list does not say what an hour of work is charged at (its line %q).", HourKey), working.QuoteSheet, "")
		}
		return 0
	}
	return centsOf(h * *b.price.RateH)
}

func (b *builder) work(r *row, column Column, h float64) {
	r.cols[column] += b.cost(h)
	r.hours += h
}

// others adds what others charge, plant and allowances.
func (b *builder) others() {
	for _, c := range b.Charges {
		if c.Cost == nil {
			b.lack(b.w.Say("What the operator charges is not known: %s.", c.Title), working.SupplySheet, working.OutageLeaf)
			continue
		}
		b.supply().cols[Others] += centsOf(*c.Cost)
	}
	for i, e := range b.Job.Quote.Extras {
		if e.Cost == nil {
			b.lack(b.w.Say("%s: what it costs is not entered.", e.What), working.QuoteSheet, "")
			continue
		}
		b.row(ExtraRow, unit.Text("extra-", i+1), e.What).cols[Others] += centsOf(*e.Cost)
	}
}

// shares gives what is of a board to the circuits that the job makes or alters on it, and what is tested as a whole to all of those.
func (b *builder) shares() {
	all := []*row{}
	for board := range b.Job.EachBoard() {
		on := []*row{}
		for _, k := range b.Job.On(board) {
			if worked(k) {
				on = append(on, b.circuit(k.ID))
			}
		}
		all = append(all, on...)
		b.among(on, Board, b.boards[board.Part()])
		delete(b.boards, board.Part())
	}
	for _, part := range slices.Sorted(maps.Keys(b.boards)) { // of no board that there is now
		b.among(all, Board, b.boards[part])
	}
	b.among(all, Tests, b.tests)
}

// among shares an amount out equally.
func (b *builder) among(rows []*row, column Column, amount cents) {
	if amount == 0 {
		return
	}
	if len(rows) == 0 {
		rows = []*row{b.house()}
	}
	for i, part := range split(amount, ones(len(rows))) {
		rows[i].cols[column] += part
	}
}

func (b *builder) result() Price {
	p := &b.price
	p.Rule = b.rule
	slices.SortStableFunc(b.order, func(x, y *row) int {
		return cmp.Or(cmp.Compare(slices.Index(rowKinds, x.key.kind), slices.Index(rowKinds, y.key.kind)), cmp.Compare(b.place(x), b.place(y)))
	})
	p.Items = shown(b.order)
	p.Rooms = shown(b.byRoom())
	var net, others, over cents
	for _, r := range b.order {
		for column, c := range r.cols {
			net += c
			if Column(column) == Others {
				others += c
			}
		}
		over += r.over
	}
	p.Sum = b.sum(net, net-others, b.bought)
	high := b.sum(net+over, net-others+over, b.bought+over)
	p.Sum.High = high.Total
	p.Includes, p.Rest = b.includes(), b.rest()
	install.Fill(&p.Rule)
	if p.Lacks == nil {
		p.Lacks = []materials.Gap{}
	}
	return *p
}

// place is where a row stands among those of its kind: as its thing in the job.
func (b *builder) place(r *row) int {
	switch r.key.kind {
	case CircuitRow:
		return slices.IndexFunc(b.Job.Circuits, func(k install.Circuit) bool { return k.ID == r.key.id })
	case RoomRow:
		return slices.IndexFunc(b.Job.Rooms, func(k install.Room) bool { return k.ID == r.key.id })
	}
	return 0
}

// sum adds contingency, of what the company does itself, and tax.
func (b *builder) sum(net, own, bought cents) Sum {
	contingency := own.percent(b.rule.ContingencyPc)
	taxed := net + contingency
	switch b.rule.TaxOn {
	case install.TaxOnParts:
		taxed = bought
	case install.TaxOnNone:
		taxed = 0
	}
	tax := taxed.percent(b.rule.TaxPc)
	total := net + contingency + tax
	return Sum{Net: net.float(), Contingency: contingency.float(), Tax: tax.float(), Total: total.float()}
}

// byRoom gives the rows of circuits to the rooms that their points are in, by how many there are.
func (b *builder) byRoom() []*row {
	out := builder{Model: b.Model, w: b.w, rows: map[rowKey]*row{}}
	for _, r := range b.order {
		rooms, points := []string{}, []float64{}
		if r.key.kind == CircuitRow {
			rooms, points = roomsOf(b.Job.CircuitByID(r.key.id))
		}
		switch {
		case len(rooms) > 0:
			over := split(r.over, points)
			for column, amount := range r.cols {
				for i, part := range split(amount, points) {
					to := out.room(rooms[i])
					to.cols[column] += part
				}
			}
			for i := range over {
				to := out.room(rooms[i])
				to.over += over[i]
			}
		case r.key.kind == CircuitRow:
			add(out.house(), r)
		default:
			add(out.row(r.key.kind, r.key.id, r.name), r)
		}
	}
	slices.SortStableFunc(out.order, func(x, y *row) int {
		return cmp.Or(cmp.Compare(slices.Index(rowKinds, x.key.kind), slices.Index(rowKinds, y.key.kind)), cmp.Compare(b.place(x), b.place(y)))
	})
	return out.order
}

func add(to, r *row) {
	for column, c := range r.cols {
		to.cols[column] += c
	}
	to.over += r.over
	to.hours += r.hours
}

// roomsOf are the rooms that the points of a circuit are in, in the order in which it comes to them, with how many there are; a point in no
// room of the walk is of none.
func roomsOf(k *install.Circuit) (rooms []string, points []float64) {
	for i := range k.Serves.Boxes {
		box := &k.Serves.Boxes[i]
		if box.Device == install.NoDevice {
			continue
		}
		n := slices.Index(rooms, box.Room)
		if n < 0 {
			n = len(rooms)
			rooms, points = append(rooms, box.Room), append(points, 0)
		}
		points[n]++
	}
	if len(rooms) == 1 && rooms[0] == "" {
		return nil, nil
	}
	return rooms, points
}

func shown(rows []*row) []Row {
	out := []Row{}
	for _, r := range rows {
		var sum cents
		for _, c := range r.cols {
			sum += c
		}
		if sum == 0 && r.over == 0 {
			continue
		}
		out = append(out, Row{Kind: r.key.kind, Priced: install.Priced{ID: r.key.id, Name: r.name, Parts: r.cols[Parts].float(), Labour: r.cols[Labour].float(),
			Board: r.cols[Board].float(), Tests: r.cols[Tests].float(), Others: r.cols[Others].float(), Sum: sum.float(), High: (sum + r.over).float(),
			Hours: unit.Significant(r.hours, 4)}})
	}
	return out
}

// includes says what is done for the price.
func (b *builder) includes() []string {
	w, out := b.w, []string{}
	for board := range b.Job.EachBoard() {
		names := []string{}
		for _, k := range b.Job.On(board) {
			if worked(k) {
				names = append(names, k.Name)
			}
		}
		if len(names) > 0 {
			out = append(out, w.Say("%s: %s.", board.Called(w), strings.Join(names, ", ")))
		}
		if board.New {
			out = append(out, w.Say("%s is put in, with its devices, blanks and chart.", board.Called(w)))
		}
	}
	for i := range b.Job.Rooms {
		if r := &b.Job.Rooms[i]; b.Survey != nil {
			if says := survey.PointsSay(r, b.Survey); says != "" {
				out = append(out, r.Name+": "+says+".")
			}
		}
	}
	for i := range b.Job.Chain.Enclosures {
		if e := &b.Job.Chain.Enclosures[i]; e.New {
			out = append(out, w.Say("%s is put in.", e.Name))
		}
	}
	for i := range b.Job.Outdoor.Runs {
		out = append(out, w.Say("%s, as drawn.", b.Job.Outdoor.Runs[i].Name))
	}
	for i := range b.Job.Circuits {
		if k := &b.Job.Circuits[i]; k.State.Out() {
			out = append(out, w.Say("%s is taken out of service.", k.Name))
		}
	}
	if len(b.Tasks) > 0 {
		out = append(out, w.Say("Testing, the papers of the job and showing the owner."))
	}
	return out
}

// rest is what is not in the price: what the company usually leaves, what the job does, what others bring and what was not seen.
func (b *builder) rest() []install.Rest {
	w := b.w
	out := append(slices.Clone(b.rule.Rest), b.Job.Quote.Rest...)
	if s := strings.TrimSpace(b.Job.Site.Others); s != "" {
		out = append(out, install.Rest{What: s, Who: install.RestTrade})
	}
	for i := range b.Take.Lines {
		l := &b.Take.Lines[i]
		for n := range l.Asks {
			c := l.Asks[n].Brought
			if c == nil || c.By != install.ByClient && c.By != install.ByOthers {
				continue
			}
			who := install.RestClient
			if c.By == install.ByOthers {
				who = install.RestOperator
			}
			r := install.Rest{What: w.Say("%s: the part itself; fitting it is in the price", l.Name), Who: who}
			if !slices.Contains(out, r) {
				out = append(out, r)
			}
		}
	}
	for i := range b.Job.Rooms {
		if r := &b.Job.Rooms[i]; r.Skipped != "" {
			out = append(out, install.Rest{What: w.Say("%s: not seen on the survey (%s)", r.Name, r.Skipped), Who: install.RestNobody})
		}
	}
	if out == nil {
		out = []install.Rest{}
	}
	return out
}

// Quoted is the price as an offer keeps it.
func (p *Price) Quoted(note string, options []install.Priced) install.Quoted {
	rows := func(list []Row) []install.Priced {
		out := make([]install.Priced, len(list))
		for i := range list {
			out[i] = list[i].Priced
			out[i].ID = string(list[i].Kind) + ":" + list[i].ID
		}
		return out
	}
	return install.Quoted{Items: rows(p.Items), Rooms: rows(p.Rooms), Options: options, Net: p.Sum.Net, Contingency: p.Sum.Contingency, Tax: p.Sum.Tax,
		Total: p.Sum.Total, High: p.Sum.High, Includes: p.Includes, Rest: p.Rest, Rule: p.Rule, Note: note}
}
