package split120

import (
	"math"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
)

// Parts lists the breaker of a circuit, what stands in its boxes, the joints in them,
// and the conduit of conductors that are drawn.
func (Practice) Parts(job *install.Job, c *install.Circuit) []rulebook.Part {
	d := &c.Protection
	kind, key := "Breaker", "device:breaker"
	switch {
	case d.RCDType != "" && d.ArcFault:
		kind, key = "Dual-function breaker", "device:dual"
	case d.RCDType != "":
		kind, key = "Ground-fault breaker", "device:gfci"
	case d.ArcFault:
		kind, key = "Arc-fault breaker", "device:afci"
	}
	poles, count, rule := max(d.Poles, 1), 1.0, "one for the circuit; listed for the panel"
	tied := d.Shared.Is && d.Shared.SecondWay > 0
	if tied {
		poles, count, rule = 1, 2, "one for each line; listed for the panel"
	}
	if d.Half != install.WholeWay {
		kind, key = "Half-size "+strings.ToLower(kind[:1])+kind[1:], key+":half"
	}
	out := []rulebook.Part{{Key: text(key, ":", poles, ":", d.RatingA, ":", d.IcnKA),
		Name: text(kind, ", ", poles, "-pole ", d.RatingA, " A, ", d.IcnKA, " kA"), Count: count, Rule: rule, Device: true}}
	if tied {
		out = append(out, rulebook.Part{Key: "handle-tie", Name: "Handle tie identified for the breakers", Count: 1,
			Rule: "one for two lines that share a neutral", Device: true})
	}
	out = append(out, boxParts(job, c)...)
	row, size := cables[c.Route.CableType], sizeOf[c.Route.LineMM2]
	if row == nil || row.cores != 0 || size == "" {
		return out
	}
	x := &circuit{k: c, row: row, size: size, rules: rulesOf(c.Use)}
	f, err := x.conduit()
	bore := f.size
	if err != nil {
		return out
	}
	ft := 0.0
	for i := range c.Route.Segments {
		ft += feet(c.Route.Segments[i].LengthM)
	}
	bends := len(c.Route.Segments) - 1
	name := map[string]string{"emt": "EMT", "pvc40": "PVC schedule 40"}[row.conduit]
	sticks := math.Ceil(ft/stickFt - 1e-9)
	if more := coresOf(c) - 1; more > 0 {
		name, of := trade(size)+" "+row.name+", each conductor", "cable:"
		if c.Route.Aluminium {
			name, of = name+", aluminum", "al-cable:"
		}
		out = append(out, rulebook.Part{Key: text(of, row.id, ":", c.Route.LineMM2), Name: name, Count: float64(more) * feet(c.Route.LengthM()),
			Unit: "ft", Cut: true, Like: more, Rule: "one length for each conductor beside the first"})
	}
	out = append(out,
		rulebook.Part{Key: "conduit:" + row.conduit + ":" + bore, Name: name + " " + bore + " in, sticks of 10 ft",
			Count: sticks, Rule: text(ft, " ft of route, by the fill of ", x.conductorName())},
		rulebook.Part{Key: "coupling:" + row.conduit + ":" + bore, Name: "Couplings " + name + " " + bore + " in",
			Count: max(sticks-1, 0) + 2, Rule: "one between two sticks, and two connectors"})
	if bends > 0 {
		out = append(out, rulebook.Part{Key: "conduit-bend:" + row.conduit + ":" + bore, Name: "Elbows " + name + " " + bore + " in", Count: float64(bends),
			Rule: "one at each change between two stretches of the route"})
	}
	if boxes := (bends - 1) / bendsBetweenBoxes; bends > bendsBetweenBoxes {
		out = append(out, rulebook.Part{Key: "conduit-box:" + row.conduit + ":" + bore, Name: "Conduit bodies " + name + " " + bore + " in",
			Count: float64(boxes), Rule: text("at most ", bendsBetweenBoxes, " quarter bends between pull points")})
	}
	return out
}

const stickFt = 10.0

// bendsBetweenBoxes is how many quarter bends lie between two pull points (NEC 358.26, 352.26; CEC 12-942).
const bendsBetweenBoxes = 4

var supplyParts = table.LoadOf[rulebook.KitRow](dataFiles, "supply_parts")

// Kits lists what each enclosure of the supply arrangement takes that the job puts in: two hots and the marked neutral to feed it, their
// conduit by the fill of the insulation that service conductors usually have, the bonding screw where neutral and ground are joined in it.
func (Practice) Kits(job *install.Job, chain *rulebook.ChainReport) []rulebook.Kit {
	out, rows := []rulebook.Kit{}, supplyParts.Rows()
	marked := map[string]bool{}
	for _, m := range marks(job) {
		marked[m.ID] = true
	}
	for _, e := range job.Chain.Order() {
		if !e.New {
			continue
		}
		k := rulebook.KitOf{E: e, Length: terms.Length, Ways: job.WaysIn(e.ID, terms.BoardKinds), Live: serviceHots + 1, Size: tradeOrNone,
			Marked: marked["mark-"+e.ID]}
		if chain != nil {
			for _, n := range chain.Nodes {
				k.Joined = k.Joined || n.ID == e.ID && n.Joint == rulebook.JointMust
			}
		}
		k.Bore = boreOf(e)
		out = append(out, k.Kit(job.Words, rows))
	}
	return out
}

// serviceHots are the hots of a service or a feeder of the house.
const serviceHots = 2

func tradeOrNone(size string) string {
	if size == "" {
		return ""
	}
	return trade(size)
}

// boreOf is the trade size of the conduit that holds the conductors of a feed; empty where they run in none or are not known.
func boreOf(e *install.Enclosure) string {
	f := &e.Feed
	kind := map[string]string{metalConduit: conduitEMT, plasticDuct: "pvc40"}[f.Way]
	if kind == "" || f.Size == "" {
		return ""
	}
	in := conduitIn{Type: kind, Conductors: []wires{{"xhhw", f.Size, serviceHots + 1}}}
	if f.EarthMM2 != "" {
		in.Conductors = append(in.Conductors, wires{"xhhw", f.EarthMM2, 1})
	}
	out, _, err := calcConduit(in)
	if err != nil || out.Size == nil {
		return ""
	}
	return *out.Size
}

// boxParts counts outlets by kind, and the pigtails and connectors of the boxes.
func boxParts(job *install.Job, c *install.Circuit) (out []rulebook.Part) {
	add := func(key, name string, n float64) *rulebook.Part {
		return rulebook.AddPart(&out, rulebook.Part{Key: key, Name: name, Count: n, Rule: "counted from the boxes of the string", Replaced: true})
	}
	var joints []rulebook.Joint
	links := 0
	for i := range c.Serves.Boxes {
		b := &c.Serves.Boxes[i]
		if !touched(c, b) {
			continue
		}
		mark := ""
		id := ""
		if b.Shuttered {
			id, mark = ":shuttered", ", tamper resistant"
		}
		if b.Weather {
			id, mark = id+":weather", mark+", weather resistant with in-use cover"
		}
		outlet := func(kind, name string, n int) {
			if n > 0 {
				add(text("outlet:", kind, ":", b.RatingA, id), text(name, ", ", b.RatingA, " A", mark), float64(n)).Check = "receptacles"
			}
		}
		switch b.Device {
		case install.GroundFault:
			outlet("plain", "Duplex outlet", b.Yokes-1)
			outlet("gfci", "Ground-fault outlet", 1)
		case install.PlainOutlet:
			outlet("plain", "Duplex outlet", max(b.Yokes, 1))
		case install.TwoSlot:
			add("outlet:two-slot", "Two-slot outlet", 1).Check = "receptacles"
		}
		in := joinedIn(job, c, b)
		joints, links = append(joints, in.joints...), links+in.links
	}
	size := sizeOf[c.Route.LineMM2]
	if links > 0 {
		p := add("pigtail:"+size, "Wire for pigtails, "+trade(size), float64(links)*pigtailFt)
		p.Unit, p.Rule = "ft", "6 in for each pigtail"
	}
	for _, p := range rulebook.Connectors(job.Words, connectors.Rows(), connectorOption.In(&job.Schools),
		func(mm2 float64) string { return trade(sizeOf[mm2]) },
		joints) {
		p.Replaced, p.Rule = true, "for each box: hot, neutral and grounds, with a port for each cable and each device or lead"
		out = append(out, p)
	}
	return out
}

// pigtailFt is the length of a pigtail, in feet.
const pigtailFt = 0.5
