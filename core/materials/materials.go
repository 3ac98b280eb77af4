// Package materials is the order list of a job: what the whole model asks for, product by product, with the rule of each
// quantity and whoever asks for it, and what became of it.
package materials

import (
	"cmp"
	"fmt"
	"iter"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Item is one line of a company's price and hours list. Net price and hours
// are each for one Unit; High is the upper end of a price that is a range, 0
// when it is none.
type Item struct {
	Key   string  `json:"key"`
	Name  string  `json:"name"`
	Unit  string  `json:"unit"`
	Price float64 `json:"price"`
	Hours float64 `json:"hours"`
	High  float64 `json:"high"`
	// Packs are the lengths or numbers in which it is sold, in its unit; none where it is sold by the unit.
	Packs []float64 `json:"packs"`
	// LeadDays is how long the merchant takes, Merchant the usual one, Instead the keys of what may be taken in its place.
	LeadDays int      `json:"leadDays"`
	Merchant string   `json:"merchant"`
	Instead  []string `json:"instead"`
}

// Line is one product of the order list.
type Line struct {
	Key     string   `json:"key"` // of the product
	Name    string   `json:"name"`
	Group   Group    `json:"group"`
	Need    float64  `json:"need"`  // what the job takes, without what others bring
	Order   float64  `json:"order"` // with waste, in whole units and packs
	Unit    string   `json:"unit"`
	Rule    string   `json:"rule"` // where all of it is counted by one; empty where each that asks has its own
	Asks    []Ask    `json:"asks"`
	Assumed bool     `json:"assumed"`
	Price   *float64 `json:"price"` // of the ordered quantity

	Ordered   float64 `json:"ordered"`
	Delivered float64 `json:"delivered"`
	Returned  float64 `json:"returned"`
	Lengths   string  `json:"lengths"`
	Due       string  `json:"due"`
	Note      string  `json:"note"`
	Short     float64 `json:"short"` // still missing on site
	Trouble   string  `json:"trouble"`
	Remark    string  `json:"remark"` // worth knowing, holds nothing
	// Instead is what is taken in its place on somebody's word; empty for nothing.
	Instead string `json:"instead"`
	// May is who decides whether something may be taken in its place.
	May May `json:"may"`
	// Placed is what of it was ordered over the wire, beside what was ordered otherwise, and Promised what of that is still to come on which day.
	Placed   float64           `json:"placed"`
	Promised []install.Promise `json:"promised"`
	// Paid is what merchants confirmed for one unit of what they send, net; nil while none has said.
	Paid *float64 `json:"paid"`
	// Taken came out of the company's stock, beside what was delivered; Left went into it.
	Taken float64 `json:"taken"`
	Left  float64 `json:"left"`
	// Gone is what the merchant no longer sends of it; nil for nothing.
	Gone *Gone `json:"gone"`
	// ByLength: it comes in pieces, whose lengths are noted as they are delivered.
	ByLength bool `json:"byLength"`
	// Held is what of the design keeps some of it from being ordered as it is, nil for nothing; Free is what may be ordered all the same.
	Held *Held   `json:"held"`
	Free float64 `json:"free"`

	pack  float64   // in which it is sold, 0 for single ones
	packs []float64 // lengths in which it is sold, none where by the unit
	// pieces are the lengths in which the merchant confirmed it, taken those that came out of the stock.
	pieces, taken string
}

// Ask is what one thing of the model asks for of a product.
type Ask struct {
	// Key is that of who asks and of the product.
	Key string `json:"key"`
	By  Asker  `json:"by"`
	// For is who asks in words; empty where that is the job.
	For     string  `json:"for"`
	Need    float64 `json:"need"`
	Rule    string  `json:"rule"`
	Assumed bool    `json:"assumed"`
	// Steps are the steps of the plan that take it, by id: several where a circuit is fitted room by room, none where the plan has none of
	// its own for it.
	Steps []string `json:"steps"`
	// Brought is who else brings it and how that stands; nil where the company buys it.
	Brought *Coming `json:"brought"`
	// Lacks: it is missing of what came.
	Lacks bool `json:"lacks"`

	product, name, unit string
	// slot is what it is told by among what the same asks for, where the product may become another size or finish of it; empty for the product.
	slot     string
	cut      bool    // lengths that are cut: waste is added
	byLength bool    // and whose pieces are measured as they come
	pieces   []Piece // lengths that each come in one piece, of what is not cut as it goes
	legs     int     // in how many legs the rest is cut, which one they are nobody knows
	check    string  // of its circuit that must not fail for it to be bought
	held     bool    // a check of its circuit keeps it from being ordered
}

// Piece is a length that is cut as one: from where to where, by what its ends are tagged.
type Piece struct {
	Length   float64
	From, To string
	Assumed  bool
}

// Asker is who asks, by id: one of them, or nothing for the job as a whole.
type Asker struct {
	Circuit   string `json:"circuit"`
	Room      string `json:"room"`
	Board     string `json:"board"` // as a part of the job is named, since the main board has no id
	Enclosure string `json:"enclosure"`
	Run       string `json:"run"`
}

// Held is a check that keeps a line from being ordered, and where that is put right.
type Held struct {
	Why     string        `json:"why"`
	Sheet   working.Sheet `json:"sheet"`
	Leaf    working.Leaf  `json:"leaf"`
	Circuit string        `json:"circuit"`
}

// Gap is something that the job takes and that cannot be counted yet, with where that is said.
type Gap struct {
	What    string        `json:"what"`
	Sheet   working.Sheet `json:"sheet"`
	Leaf    working.Leaf  `json:"leaf"`
	Circuit string        `json:"circuit"`
}

// Stop is a step of the plan that what came does not suffice for.
type Stop struct {
	Step string `json:"step"`
	Why  string `json:"why"`
}

// TakeOff is the whole list with its sums.
type TakeOff struct {
	Lines    []Line   `json:"lines"`
	Total    *float64 `json:"total"` // nil when a line has no price, or something is not counted yet
	Unpriced int      `json:"unpriced"`
	Troubles []string `json:"troubles"`
	Gaps     []Gap    `json:"gaps"`
	Stops    []Stop   `json:"stops"`

	asks []Ask
}

// Model is what the list is counted from.
type Model struct {
	Job    *install.Job
	Book   rulebook.Book
	Report *rulebook.Report // nil where nothing was judged
	// Chain is the supply arrangement as it is judged; nil where it was not.
	Chain *rulebook.ChainReport
	// Outdoor is how the works outdoors stand; nil where they were not judged.
	Outdoor *outdoor.Report
	// Prices may be nil.
	Prices map[string]Item
}

// Of counts the order list of a job.
func Of(m Model) TakeOff {
	t := TakeOff{Lines: []Line{}, Troubles: []string{}, Gaps: []Gap{}, Stops: []Stop{}}
	if m.Job.Trait().Report {
		return t
	}
	c := counter{TakeOff: &t, job: m.Job, w: m.Job.Words, book: m.Book, terms: m.Book.Terms()}
	for i := range m.Job.Circuits {
		c.circuit(&m.Job.Circuits[i])
	}
	c.groups()
	c.surge()
	c.boards()
	c.points()
	c.consumables()
	c.findings(m.Prices)
	c.supply(m.Chain)
	c.outdoors(m.Outdoor)
	c.bring()
	t.sum(m.Prices)
	t.refuse(m.Job.Words, m.Report)
	t.bought(m.Job)
	t.stock(m.Job)
	t.instead(m.Job)
	t.price(m.Prices)
	return t
}

// counter goes through the model and notes what is asked for.
type counter struct {
	*TakeOff

	job   *install.Job
	w     *words.Catalogue
	book  rulebook.Book
	terms install.Terms
	// unplaced is how many new points of the walk are on no run, by what they would be there; nil until somebody asks.
	unplaced map[install.BoxDevice]int
	// fits are the steps in which the points of fitted are.
	fitted *install.Circuit
	fits   []string
}

// ask notes what is asked for of a product. The key of who asks is put before that of the product; what the same asks for again is told from
// the first by its number.
func (c *counter) ask(who string, a Ask) *Ask {
	own, again := who+":", 1
	a.slot = cmp.Or(a.slot, a.product)
	a.Key = own + a.slot
	for i := len(c.asks) - 1; i >= 0 && strings.HasPrefix(c.asks[i].Key, own); i-- {
		if c.asks[i].slot == a.slot {
			again++
		}
	}
	if again > 1 {
		a.Key += "#" + strconv.Itoa(again)
	}
	if a.unit == "" {
		a.unit = "pcs"
	}
	if a.Steps == nil {
		a.Steps = []string{}
	}
	c.asks = append(c.asks, a)
	return &c.asks[len(c.asks)-1]
}

// gap notes what cannot be counted yet.
func (c *counter) gap(g Gap) { c.Gaps = append(c.Gaps, g) }

// sum puts together what is asked for, product by product in the order of the groups.
func (t *TakeOff) sum(prices map[string]Item) {
	at := make(map[string]int, len(t.asks))
	for i := range t.asks {
		a := &t.asks[i]
		n, ok := at[a.product]
		if !ok {
			n = len(t.Lines)
			at[a.product] = n
			l := Line{Key: a.product, Name: a.name, Unit: a.unit, Group: WorkGroup, Asks: []Ask{}, Promised: []install.Promise{}, pack: packOf(a.product)}
			if f := family(a.product); f != nil {
				l.Group = Group(f.Group)
			}
			t.Lines = append(t.Lines, l)
		}
		l := &t.Lines[n]
		l.Asks = append(l.Asks, *a)
		l.Assumed, l.ByLength = l.Assumed || a.Assumed, l.ByLength || a.byLength
	}
	for i := range t.Lines {
		l := &t.Lines[i]
		item, _ := itemOf(prices, l.Key)
		switch {
		case len(item.Packs) == 0:
		case l.ByLength:
			l.packs = packsIn(&item, l.Unit)
		default:
			l.pack = slices.Min(item.Packs)
		}
	}
	slices.SortStableFunc(t.Lines, func(a, b Line) int { return slices.Index(Groups, a.Group) - slices.Index(Groups, b.Group) })
}

// count works out what of a line is needed and ordered; waste is in percent.
func (l *Line) count(waste float64) {
	l.Need, l.Order = l.of(waste, bought)
	l.Free = l.Order
	l.Rule = l.Asks[0].Rule
	for i := range l.Asks {
		if l.Asks[i].Rule != l.Rule {
			l.Rule = ""
		}
	}
}

// bought reports whether the company buys what is asked for.
func bought(a *Ask) bool { return a.Brought == nil }

// of is what those that are wanted of a line's askers need, and what is ordered for it.
func (l *Line) of(waste float64, wanted func(*Ask) bool) (need, order float64) {
	for i := range l.Asks {
		a := &l.Asks[i]
		if !wanted(a) {
			continue
		}
		need += a.Need
		if a.cut {
			order += a.Need * (1 + waste/100)
		} else {
			order += a.Need
		}
	}
	order = math.Ceil(unit.Significant(order, 9))
	if bought, ok := l.inPacks(waste, wanted); ok {
		return unit.Significant(need, 9), bought
	}
	if l.pack > 0 {
		order = math.Ceil(order/l.pack) * l.pack
	}
	return unit.Significant(need, 9), order
}

// refuse marks what a check of the circuit that asks for it fails: it is not bought as it is.
func (t *TakeOff) refuse(w *words.Catalogue, report *rulebook.Report) {
	if report == nil {
		return
	}
	for i := range t.Lines {
		l := &t.Lines[i]
		for n := range l.Asks {
			a := &l.Asks[n]
			if a.check == "" {
				continue
			}
			for _, c := range report.Circuit(a.By.Circuit).Checks {
				if c.ID == a.check && c.Verdict == working.Fail {
					l.Trouble = w.Say("%s: not ordered while it is refused. %s", l.Name, c.Summary)
				}
			}
		}
	}
}

// itemOf is what a company's list says of a product: of itself, or of what it is one of. The list may keep one price for all
// breakers, or one for each rating.
func itemOf(prices map[string]Item, product string) (Item, bool) {
	for key := range upwards(product) {
		if item, ok := prices[key]; ok {
			return item, true
		}
	}
	return Item{}, false
}

// upwards is a key and then what it is one of, part by part.
func upwards(key string) iter.Seq[string] {
	return func(yield func(string) bool) {
		for cut := len(key); cut >= 0; cut = strings.LastIndexByte(key[:cut], ':') {
			if !yield(key[:cut]) {
				return
			}
		}
	}
}

// each is the price of one unit of a product in the unit in which the list counts it.
func each(prices map[string]Item, product, in string) (float64, bool) {
	item, ok := itemOf(prices, product)
	if !ok {
		return 0, false
	}
	if to, from := unit.Metres(in), unit.Metres(item.Unit); to > 0 && from > 0 {
		return item.Price * to / from, true
	}
	return item.Price, true
}

// price prices every line.
func (t *TakeOff) price(prices map[string]Item) {
	total := 0.0
	for i := range t.Lines {
		l := &t.Lines[i]
		if one, ok := each(prices, l.Key, l.Unit); ok {
			cost := one * l.Order
			l.Price = &cost
			total += cost
		} else if l.Order > 0 {
			t.Unpriced++
		}
	}
	if t.Unpriced == 0 && len(t.Gaps) == 0 {
		t.Total = &total
	}
}

// Price returns what prices the materials of one circuit of a job, to compare designs of it.
func Price(p rulebook.Book, prices map[string]Item) rulebook.Price {
	return func(job *install.Job, i int) (sum float64, unpriced map[string]float64) {
		c := counter{TakeOff: &TakeOff{}, job: job, w: job.Words, book: p, terms: p.Terms()}
		c.circuit(&job.Circuits[i])
		for n := range c.asks {
			a := &c.asks[n]
			l := Line{Asks: c.asks[n : n+1], pack: packOf(a.product)}
			_, order := l.of(job.Materials.WastagePc, func(*Ask) bool { return true })
			if one, ok := each(prices, a.product, a.unit); ok {
				sum += one * order
				continue
			}
			if unpriced == nil {
				unpriced = map[string]float64{}
			}
			unpriced[a.product] += order
		}
		return sum, unpriced
	}
}

// Extra is what the materials of a job's circuits cost beside those of another design of it;
// not ok where the two differ in lines that the list lacks, as the difference of their
// prices is then not known.
func Extra(p rulebook.Book, prices map[string]Item, before, after *install.Job) (extra float64, ok bool) {
	price := Price(p, prices)
	of := func(job *install.Job) (sum float64, lacks map[string]float64) {
		lacks = map[string]float64{}
		for i := range job.Circuits {
			one, unpriced := price(job, i)
			sum += one
			for key, n := range unpriced {
				lacks[key] += n
			}
		}
		return sum, lacks
	}
	was, lacked := of(before)
	now, lacks := of(after)
	return now - was, maps.Equal(lacked, lacks)
}

// called is a circuit in words, by its id where it has no name.
func called(c *install.Circuit) string { return cmp.Or(c.Name, c.ID) }

// key joins what a product is told by.
func key(parts ...any) string {
	s := make([]string, len(parts))
	for i, p := range parts {
		if v, ok := p.(float64); ok {
			s[i] = unit.Format(v)
		} else {
			s[i] = fmt.Sprint(p)
		}
	}
	return strings.Join(s, ":")
}
