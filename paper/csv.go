// Package paper is what leaves Arvelt on paper or as a file: the handover pack
// as PDF and every table as CSV. It prints what the core computed and computes
// nothing itself.
package paper

import (
	"encoding/csv"
	"fmt"
	"io"
	"iter"
	"regexp"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/quote"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/whole"
	"arvelt/core/words"
)

// Tables names the tables that can be exported.
var Tables = []string{"loads", "supply", "board", "route", "checks", "materials", "tasks", "tests", "readiness", "records",
	"points", "asks", "cuts", "chain", "low-voltage"}

// OrderRows are what of a job is still to be ordered, as a merchant reads it.
func OrderRows(o *materials.Order) [][]any {
	out := [][]any{{"product", "name", "count", "unit", "lengths", "merchant", "lead days"}}
	for _, l := range o.Lines {
		lengths := make([]string, len(l.Lengths))
		for i, v := range l.Lengths {
			lengths[i] = unit.Format(v)
		}
		out = append(out, []any{l.Product, l.Name, l.Count, l.Unit, strings.Join(lengths, " + "), l.Merchant, l.LeadDays})
	}
	return out
}

// TableError says that there is no such table.
type TableError struct {
	Table string
	Known []string
}

func (e *TableError) Error() string {
	return fmt.Sprintf("table: %q is not known; give one of %s", e.Table, strings.Join(e.Known, ", "))
}

// harmless finds what a spreadsheet would run as a formula: a sign that begins one, also full width,
// at the start of a cell or where one begins for those who split at semicolons, tabs or lines, whatever
// blanks stand before it.
var harmless = regexp.MustCompile(`(^|[;\t\r\n])([\s\p{Z}\x{FEFF}\x{200B}]*[=+\-@＝＋－＠])|(^)([\t\r\n])`)

// CSV writes one table of a job as RFC 4180 text with a header row. What a spreadsheet would run as
// a formula has an apostrophe before it.
func CSV(w io.Writer, table string, v *whole.View) error {
	rows, err := Rows(table, v)
	if err != nil {
		return err
	}
	return WriteCSV(w, rows)
}

// WriteCSV writes rows of texts, numbers, truths and times, the head first.
func WriteCSV(w io.Writer, rows [][]any) error {
	return StreamCSV(w, func(yield func([]any, error) bool) {
		for _, row := range rows {
			if !yield(row, nil) {
				return
			}
		}
	})
}

// StreamCSV is [WriteCSV] of rows as they come. It ends with the first error.
func StreamCSV(w io.Writer, rows iter.Seq2[[]any, error]) error {
	out := csv.NewWriter(w)
	out.UseCRLF = true
	for row, err := range rows {
		if err != nil {
			return err
		}
		cells := make([]string, len(row))
		for i, cell := range row {
			cells[i] = plain(cell)
		}
		if err := out.Write(cells); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// pointRows are the points of the walk.
func pointRows(v *whole.View) [][]any {
	words := whole.Practice(v.Job).Survey()
	rows := [][]any{{"floor", "room", "count", "point", "state", "switched", "dimmed", "height mm", "wall", "fed from",
		"box", "power W", "current A", "note", "typed"}}
	for i := range v.Job.Rooms {
		r := &v.Job.Rooms[i]
		for _, p := range r.Points {
			rows = append(rows, []any{r.Floor, r.Name, float64(p.Count), survey.Name(words, p.Kind), p.State, p.Switching,
				p.Dimmed, known(p.HeightMM), p.Wall, p.FedFrom, p.Box, known(p.PowerW), known(p.CurrentA), p.Note, p.Typed})
		}
	}
	return rows
}

// known leaves a figure that is 0 for not known out of a table.
func known(v float64) any {
	if v == 0 {
		return ""
	}
	return v
}

// chainRows are the enclosures of the supply with what is judged of each.
func chainRows(v *whole.View) [][]any {
	rows := [][]any{{"enclosure", "kind", "fed from", "owner", "may be opened by", "sealed", "rating A",
		"neutral and earth joined", "must be", "torque N·m", "by", "conductor", "size", "earth", "length m",
		"loop impedance ohm", "fault current kA", "condition"}}
	for _, n := range v.Chain.Nodes {
		e := v.Job.Chain.Enclosure(n.ID)
		from := ""
		if f := v.Job.Chain.Enclosure(e.From); f != nil {
			from = f.Name
		}
		joined := "not looked at"
		if e.Joined != nil {
			joined = map[bool]string{true: "joined", false: "apart"}[*e.Joined]
		}
		rows = append(rows, []any{e.Name, e.Kind, from, e.Owner, n.MayOpen, e.Sealed, known(e.RatingA.V()), joined, n.Joint,
			known(e.TorqueNm.V()), e.TorqueSheet, e.Feed.Material, e.Feed.Size, e.Feed.EarthMM2, known(e.Feed.LengthM.V()),
			n.ZOhm, n.FaultKA, e.Condition})
	}
	return rows
}

func plain(cell any) string {
	switch x := cell.(type) {
	case float64:
		return unit.Format(x)
	case *float64:
		if x == nil {
			return ""
		}
		return unit.Format(*x)
	case bool:
		if x {
			return "yes"
		}
		return "no"
	case time.Time:
		return x.UTC().Format(time.RFC3339)
	case string:
		return harmless.ReplaceAllString(x, "$1$3'$2$4")
	}
	return fmt.Sprint(cell)
}

// Rows are the rows of one table of a job, its head first.
func Rows(table string, v *whole.View) ([][]any, error) {
	j := v.Job
	var rows [][]any
	add := func(cells ...any) { rows = append(rows, cells) }
	switch table {
	case "loads":
		add("name", "category", "watts", "amps", "count", "basis")
		for _, l := range j.Loads.Items {
			add(l.Name, l.Category, l.Watts, l.Amps, l.Count, string(l.Basis))
		}
	case "supply":
		add("fact", "value", "unit", "basis", "note")
		add("earthing arrangement", j.Supply.Earthing, "", "", "")
		add("declared voltage", j.Supply.DeclaredV, "V", "", "")
		for _, f := range supplyFacts(j) {
			add(f.name(), f.fact.Value, f.unit, string(f.fact.Basis), f.fact.Note)
		}
	case "board":
		return wayRows(j), nil
	case "route":
		add("circuit", "order", "place", "length m", "basis", "method", "ambient °C", "circuits grouped", "insulation mm",
			"cover mm", "soil K·m/W")
		for _, c := range j.Circuits {
			for i, s := range c.Route.Segments {
				add(c.ID, i+1, s.Place, s.LengthM, string(s.Basis), s.Method, s.AmbientC, s.Grouped, s.InsulationMM, s.DepthMM, s.SoilKmW)
			}
		}
	case "checks":
		add("circuit", "check", "verdict", "value", "limit", "unit", "summary", "assumed", "missing", "source")
		for _, c := range v.Report.Checks() {
			refs := []string{}
			for _, s := range c.Sources {
				refs = append(refs, s.Ref)
			}
			add(c.Circuit, c.Title, string(c.Verdict), c.Value, c.Limit, c.Unit, c.Summary, strings.Join(c.Assumed, "; "),
				strings.Join(c.Missing, "; "), strings.Join(refs, "; "))
		}
	case "materials":
		add("key", "name", "group", "need", "order", "unit", "ordered", "ordered over the wire", "delivered", "pieces",
			"out of stock", "into stock", "short", "price", "rule", "note")
		for _, l := range v.Take.Lines {
			add(l.Key, l.Name, string(l.Group), l.Need, l.Order, l.Unit, l.Ordered, l.Placed, l.Delivered, l.Lengths, l.Taken, l.Left, l.Short,
				l.Price, l.Rule, l.Note)
		}
	case "asks":
		return askRows(v), nil
	case "cuts":
		return cutRows(v), nil
	case "tasks":
		add("task", "stage", "title", "crew", "hours", "who", "after", "isolation", "done", "by", "at")
		for _, t := range v.Tasks {
			at := ""
			if t.DoneAt != nil {
				at = t.DoneAt.UTC().Format(time.RFC3339)
			}
			add(t.ID, string(t.Stage), t.Title, t.Crew, t.Hours, t.Who, strings.Join(t.After, " "), t.Isolation, t.Done, t.DoneBy, at)
		}
	case "tests":
		add("test", "circuit", "title", "live", "reading", "unit", "verdict", "summary", "expected", "instrument", "calibrated to",
			"by", "at")
		for _, r := range v.Tests.Rows {
			if r.Reading == nil {
				add(r.ID, r.Circuit, r.Title, r.Live, "", r.Unit, string(r.Verdict), r.Summary, "", "", "", "", "")
				continue
			}
			add(r.ID, r.Circuit, r.Title, r.Live, readingText(r.Reading, ""), r.Unit, string(r.Verdict), r.Summary, r.Expected,
				r.Reading.Instrument, r.Reading.Calibrated, r.Reading.By, r.Reading.At)
		}
	case "readiness":
		add("subject", "ready", "missing", "sheet", "waits for")
		for _, i := range v.Ready.Items {
			add(i.Title, i.Ready, i.Summary, i.Sheet, i.Who)
		}
	case "records":
		add("at", "by", "role", "kind", "subject", "circuit", "note", "supersedes")
		for _, r := range j.Records {
			add(r.At, r.By, r.Role, string(r.Kind), r.Subject, r.Circuit, r.Note, r.Supersedes)
		}
	case "low-voltage":
		return lowVoltageRows(v), nil
	case "points":
		return pointRows(v), nil
	case "chain":
		return chainRows(v), nil
	default:
		return nil, &TableError{table, Tables}
	}
	return rows, nil
}

// namedFact is a fact of the supply under its title; to is what a bond goes to.
type namedFact struct {
	title    words.Key
	to, unit string
	fact     install.Fact
	fuse     bool
}

// args are the arguments of the title.
func (f *namedFact) args() []any {
	if f.to == "" {
		return nil
	}
	return []any{f.to}
}

// name is the title as a table of data has it, in British English under every practice.
func (f *namedFact) name() string {
	said := (*words.Catalogue)(nil).Say(string(f.title), f.args()...)
	return strings.ToLower(said[:1]) + said[1:]
}

// supplyFacts lists the supply's facts in the order in which they are read.
func supplyFacts(j *install.Job) []namedFact {
	s := &j.Supply
	out := []namedFact{
		{title: words.Key("External loop impedance Ze"), unit: "Ω", fact: s.ZeOhm},
		{title: words.Key("Prospective fault current"), unit: "kA", fact: s.PFCkA},
		{title: words.Key("Main fuse"), unit: "A", fact: s.MainFuseA, fuse: true},
		{title: words.Key("Tails"), unit: "mm²", fact: s.TailsMM2},
		{title: words.Key("Length of tails"), unit: "m", fact: s.TailsM},
		{title: words.Key("Main earthing conductor"), unit: "mm²", fact: s.EarthMM2},
		{title: words.Key("Operator's neutral"), unit: "mm²", fact: s.NeutralMM2},
		{title: words.Key("Earth electrode"), unit: "Ω", fact: j.ElectrodeOhm()},
	}
	for _, b := range s.Bonds {
		out = append(out, namedFact{title: words.Key("Main bond to %s"), to: b.Service, unit: "mm²", fact: b.MM2})
	}
	return slices.DeleteFunc(out, func(f namedFact) bool { return !f.fact.Known() && f.fact.Note == "" })
}

// readingText writes a reading as a person gave it.
func readingText(r *install.Record, unitName string) string {
	switch {
	case r.Answer != "":
		return strings.ReplaceAll(r.Answer, "_", " ")
	case r.OverRange:
		return "over range"
	case r.Passed != nil && *r.Passed:
		return "yes"
	case r.Passed != nil:
		return "no"
	case r.Value != nil && unitName != "":
		return unit.With(*r.Value, unitName)
	case r.Value != nil:
		return unit.Format(*r.Value)
	case r.CouldNot != "":
		return "could not test: " + r.CouldNot
	}
	return ""
}

// wayRows are the ways of every board with what stands on them.
func wayRows(j *install.Job) [][]any {
	out := [][]any{{"board", "way", "label", "device", "circuit", "blank fitted"}}
	terms := whole.Practice(j).Terms()
	for b := range j.EachBoard() {
		on := map[int]string{}
		for _, k := range j.On(b) {
			for _, at := range terms.PlacesOf(k) {
				on[at.Way] = join("/", on[at.Way], k.ID)
			}
		}
		for _, w := range b.Ways {
			out = append(out, []any{b.Name, w.No, w.Label, w.Device, or(on[w.No], w.Circuit), w.Blank})
		}
	}
	return out
}

// lowVoltageRows are the points of extra-low voltage with their home runs and how far they are from power.
func lowVoltageRows(v *whole.View) [][]any {
	out := [][]any{{"floor", "room", "count", "point", "cable", "box", "home run m", "assumed", "from power"}}
	for _, r := range v.Walk.LowVoltage.Rooms {
		for _, p := range r.Points {
			out = append(out, []any{r.Floor, r.Name, float64(p.Count), p.Name, p.Cable, p.Box, r.HomeM, r.Assumed, r.Says})
		}
	}
	return out
}

// askRows is who asks for what of the order list.
func askRows(v *whole.View) [][]any {
	rows := [][]any{{"key", "name", "for", "circuit", "room", "board", "enclosure", "run", "need", "unit", "rule", "assumed", "step", "brought by",
		"how that stands"}}
	for _, l := range v.Take.Lines {
		for _, a := range l.Asks {
			by, says := "", ""
			if a.Brought != nil {
				by, says = string(a.Brought.By), a.Brought.Says
			}
			rows = append(rows, []any{l.Key, l.Name, a.For, a.By.Circuit, a.By.Room, a.By.Board, a.By.Enclosure, a.By.Run, a.Need, l.Unit, a.Rule,
				a.Assumed, strings.Join(a.Steps, " "), by, says})
		}
	}
	return rows
}

// cutRows is what is cut from which drum, and what is left of each.
func cutRows(v *whole.View) [][]any {
	rows := [][]any{{"key", "name", "unit", "length", "bought", "for", "from", "to", "cut", "mark at start", "mark at end", "assumed"}}
	for _, p := range materials.CutPlans(&v.Take, v.Job, nil) {
		for _, b := range p.Bars {
			for _, x := range b.Cuts {
				rows = append(rows, []any{p.Product, p.Name, p.Unit, b.Length, b.Bought, x.For, x.From, x.To, x.Length, x.Start, x.End, x.Assumed})
			}
			rows = append(rows, []any{p.Product, p.Name, p.Unit, b.Length, b.Bought, "", "", "", b.Left, b.Length - b.Left, b.Length, false})
		}
	}
	return rows
}

// QuoteRows is the price as a table: each row by piece and by room, then the sums.
func QuoteRows(s *whole.QuoteSheet) [][]any {
	rows := [][]any{{"by", "kind", "for", "parts", "labour", "board", "tests", "others", "sum", "up to", "hours"}}
	for _, part := range []struct {
		by   string
		rows []quote.Row
	}{{"piece", s.Price.Items}, {"room", s.Price.Rooms}} {
		for _, r := range part.rows {
			rows = append(rows, []any{part.by, string(r.Kind), r.Name, r.Parts, r.Labour, r.Board, r.Tests, r.Others, r.Sum, r.High, r.Hours})
		}
	}
	for _, o := range s.Options {
		rows = append(rows, []any{"option", "", o.Name, "", "", "", "", "", o.Cost, o.High, ""})
	}
	sum := &s.Price.Sum
	for _, total := range []struct {
		name string
		v    float64
	}{{"net", sum.Net}, {"contingency", sum.Contingency}, {"tax", sum.Tax}, {"total", sum.Total}} {
		rows = append(rows, []any{"sum", "", total.name, "", "", "", "", "", total.v, "", ""})
	}
	return rows
}
