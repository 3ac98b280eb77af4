package install

// Purchases are what a job has ordered over the wire, with what the merchant answered, and what it took from the company's stock and left to it.
// Nobody edits them: an order is sent, and is then with the merchant; what is taken is no longer there for others.
type Purchases struct {
	Orders []Purchase `json:"orders" seal:"omitempty" most:"100"`
	Taken  []Transfer `json:"taken" seal:"omitempty" most:"400"`
	Left   []Transfer `json:"left" seal:"omitempty" most:"400"`
}

// Transfer is something that a job took from the company's stock, or left to it.
type Transfer struct {
	Product string  `json:"product" chars:"120" needed:"yes"`
	Name    string  `json:"name" chars:"200"`
	Count   float64 `json:"count" range:"0..100000"`
	Unit    string  `json:"unit" chars:"20"`
	Lengths string  `json:"lengths" chars:"400"`
	// Place is the van or shelf, With the job that it is from where it was taken; empty where nobody knows.
	Place string `json:"place" chars:"120"`
	With  string `json:"with" chars:"120"`
	On    string `json:"on" shape:"date"`
	By    string `json:"by" chars:"120"`
}

// PurchasesPart is the part of a job that holds its [Purchases].
const PurchasesPart = "purchases"

// Purchase is one order.
type Purchase struct {
	ID     string     `json:"id" shape:"id"`
	Number string     `json:"number" chars:"60"` // ours: the job's reference and which order of it
	On     string     `json:"on" shape:"date"`
	By     string     `json:"by" chars:"120"`
	State  OrderState `json:"state" of:"orderStates"`
	// Merchant and Reference are what the merchant calls itself and the order, Message what it says of it.
	Merchant  string         `json:"merchant" chars:"120"`
	Reference string         `json:"reference" chars:"120"`
	Message   string         `json:"message" chars:"400"`
	Simulated bool           `json:"simulated"`
	Lines     []PurchaseLine `json:"lines" most:"500"`
}

// OrderState is how an order stands.
type OrderState string

// How an order stands.
const (
	OrderWaiting   OrderState = "waiting"   // the merchant does not have it yet
	OrderReceived  OrderState = "received"  // and has not looked at it
	OrderConfirmed OrderState = "confirmed" // line by line
	OrderDelivered OrderState = "delivered" // all that comes has left the merchant
	OrderRefused   OrderState = "refused"
	OrderLost      OrderState = "lost"      // the merchant knows nothing of it any more
	OrderWithdrawn OrderState = "withdrawn" // by us, by telephone
)

// OrderStates lists them.
var OrderStates = []OrderState{OrderWaiting, OrderReceived, OrderConfirmed, OrderDelivered, OrderRefused, OrderLost, OrderWithdrawn}

// Answered reports whether a merchant has said line by line what comes.
func (s OrderState) Answered() bool { return s == OrderConfirmed || s == OrderDelivered }

// Off reports whether nothing comes of an order.
func (s OrderState) Off() bool { return s == OrderRefused || s == OrderLost || s == OrderWithdrawn }

// PurchaseLine is a product of an order with what the merchant answered.
type PurchaseLine struct {
	Product string  `json:"product" chars:"120" needed:"yes"`
	Name    string  `json:"name" chars:"200"`
	Count   float64 `json:"count" range:"0..100000"`
	Unit    string  `json:"unit" chars:"20"`
	Lengths string  `json:"lengths" chars:"400"`
	// Sold: the merchant deals in it. Gone: it is not made any more, and Instead is what the merchant would send.
	Sold    bool     `json:"sold"`
	Gone    bool     `json:"gone"`
	Instead []string `json:"instead" most:"10" chars:"120"`
	// Price is the merchant's of one unit, net; nil while it has said none.
	Price    *float64  `json:"price" range:"0..1000000"`
	Promises []Promise `json:"promises" most:"20"`
	// Pieces are the lengths in which it comes, as the merchant confirmed them.
	Pieces string `json:"pieces" chars:"400"`
}

// Promise is how much a merchant sends on which day.
type Promise struct {
	Count float64 `json:"count" range:"0..100000"`
	On    string  `json:"on" shape:"date"`
}

// Comes is how much of a line is to come as far as is known: what was ordered, until the merchant says what it sends.
func (p *Purchase) Comes(l *PurchaseLine) (n float64) {
	switch {
	case p.State.Off():
		return 0
	case !p.State.Answered():
		return l.Count
	}
	for _, x := range l.Promises {
		n += x.Count
	}
	return n
}

// Order is an order of a job by its id, nil for one that there is none of.
func (o *Purchases) Order(id string) *Purchase {
	for i := range o.Orders {
		if o.Orders[i].ID == id {
			return &o.Orders[i]
		}
	}
	return nil
}

// Validate checks what was ordered. The error is [Errors].
func (o Purchases) Validate() error {
	c := &checker{in: "purchases."}
	c.bounds(o, &Terms{})
	seen := map[string]bool{}
	for i := range o.Orders {
		p := &o.Orders[i]
		if seen[p.ID] {
			c.say(c.item("orders", i)+"id", p.ID, c.w.Say("each order's id once"))
		}
		seen[p.ID] = true
		for n := range p.Lines {
			p.check(c, c.item("orders", i)+c.item("lines", n), &p.Lines[n])
		}
	}
	return c.result()
}

// check checks what a merchant promised of a line.
func (p *Purchase) check(c *checker, at string, l *PurchaseLine) {
	for i, x := range l.Promises {
		if x.On == "" {
			c.say(at+c.item("promises", i)+"on", x.On, c.w.Say("a day as 2026-12-04"))
		}
	}
	if sum := p.Comes(l); sum > l.Count+1e-6 {
		c.say(at+"promises", sum, c.w.Say("no more than was ordered: %v", l.Count))
	}
}
