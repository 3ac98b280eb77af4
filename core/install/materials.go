package install

import "slices"

// Materials is what was ordered and delivered, and how much is added for waste.
type Materials struct {
	WastagePc float64          `json:"wastagePc" range:"0..50" unit:"%"`
	Lines     map[string]Stock `json:"lines" most:"1000"` // by product, those of older jobs by what asks for it
	// Finish is that of the plates of the house, where a room does not say its own; white where nobody said.
	Finish Finish `json:"finish" seal:"omitempty" of:"finishes?"`
	// Brought is what others bring or what is there already, by what asks for it: the company does not buy it.
	Brought map[string]Brought `json:"brought" seal:"omitempty" most:"1000"`
	// Instead is what is taken in the place of a product on somebody's word, by the key of the product.
	Instead map[string]Instead `json:"instead" seal:"omitempty" most:"200"`
	// Deliveries are what came, note by note, as somebody counted it.
	Deliveries []Delivery `json:"deliveries" seal:"omitempty" most:"200"`
}

// Instead is something that is taken in the place of a product of the same kind and rating.
type Instead struct {
	What string `json:"what" chars:"200" needed:"yes"`
	Why  string `json:"why" chars:"400" needed:"yes"`
}

// Delivery is what came on one note.
type Delivery struct {
	ID        string         `json:"id" shape:"id"`
	Number    string         `json:"number" chars:"60"` // of the merchant's note
	Merchant  string         `json:"merchant" chars:"120"`
	On        string         `json:"on" shape:"date"`
	CountedBy string         `json:"countedBy" chars:"120" needed:"yes"`
	Lines     []DeliveryLine `json:"lines" most:"500"`
}

// DeliveryLine is one product of a delivery: what its note says, and what was counted. Lengths are those of what comes in pieces, as measured
// or read on each drum.
type DeliveryLine struct {
	Product string  `json:"product" chars:"120" needed:"yes"`
	Name    string  `json:"name" chars:"200"`
	Said    float64 `json:"said" range:"0..100000"`
	Counted float64 `json:"counted" range:"0..100000"`
	Lengths string  `json:"lengths" chars:"400"`
	Remark  string  `json:"remark" chars:"400"`
}

// Booked reports whether a note of a merchant is booked in already; one without a number never is.
func (m *Materials) Booked(merchant, number string) bool {
	return number != "" && slices.ContainsFunc(m.Deliveries, func(d Delivery) bool { return d.Number == number && d.Merchant == merchant })
}

// Bringer is who brings a part.
type Bringer string

// Who brings a part.
const (
	ByUs     Bringer = "us"     // the company buys it
	ByClient Bringer = "client" // the client supplies it
	ByOthers Bringer = "others" // the network operator or another trade
	ByStock  Bringer = "stock"  // out of the company's stock or van
	IsThere  Bringer = "there"  // in place already
)

// Bringers lists them.
var Bringers = []Bringer{ByUs, ByClient, ByOthers, ByStock, IsThere}

// Brought is how it stands with a part that the company does not buy. A nil yes or no was not looked at.
type Brought struct {
	By       Bringer `json:"by" of:"bringers"`
	Expected string  `json:"expected" shape:"date"`
	Arrived  string  `json:"arrived" shape:"date"` // empty while it has not
	// Suitable: somebody has looked at what came, and it fits the job and the rules. Missing is what of it did not come.
	Suitable *bool  `json:"suitable"`
	Missing  string `json:"missing" chars:"400"`
	// Warranty is who answers for it if it fails; empty while that is not agreed.
	Warranty Bringer `json:"warranty" of:"warranters?"`
	Note     string  `json:"note" chars:"400"`
}

// Warranters are who answers for a part that the client supplies.
var Warranters = []Bringer{ByUs, ByClient}

// Stock is what became of one take-off line.
type Stock struct {
	Ordered   float64 `json:"ordered" range:"0..10000"`
	Delivered float64 `json:"delivered" range:"0..10000"`
	// Returned went back to the merchant or to the company's stock.
	Returned float64 `json:"returned" seal:"omitempty" range:"0..10000"`
	Lengths  string  `json:"lengths" chars:"400"` // pieces delivered in metres for cable: "30 + 12"
	Due      string  `json:"due" shape:"date"`    // promised for, 2006-01-02
	Note     string  `json:"note" chars:"400"`
}
