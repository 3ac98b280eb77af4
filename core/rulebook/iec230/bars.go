package iec230

import (
	"fmt"
	"strings"

	"arvelt/core/cutting"
	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
)

// busbarsRow is a row of busbars.
type busbarsRow struct {
	RatingA float64 `col:"rating_a"`
	Short   float64 `col:"short"`
	Long    float64 `col:"long"`
	LinkMM2 float64 `col:"link_mm2"`
}

var (
	busbars    = tables.LoadOf[busbarsRow](dataFiles, "busbars")
	barsOption = options.Named("bars")
)

// The ways of the option of that name.
const (
	barsCut   = "bar"
	barsLinks = "links"
)

// feederModules is the module of the main switch or the residual-current device from which a row of devices is fed: the bar reaches over it.
const feederModules = 1

// linkM is the length of a loop from one device to the next, m.
const linkM = 0.15

// row is a row of devices of a board behind one switch.
type row struct {
	name    string
	ratingA float64 // of the switch; 0 where nobody knows it
	devices int
	modules int
}

// rowsOf are the rows of a board that take a bar: all of one that the job puts in, else those of which every device is new.
func rowsOf(job *install.Job, b *install.Board) (out []row) {
	main := row{name: job.Words.Say("the main switch"), ratingA: b.MainSwitchA.V()}
	groups := make([]row, len(b.Groups))
	kept := make([]bool, len(b.Groups))
	for i := range b.Groups {
		groups[i] = row{name: b.Groups[i].Name, ratingA: b.Groups[i].RatingA}
	}
	for _, k := range job.On(b) {
		if k.Protection.OwnEnclosure {
			continue
		}
		at := &main
		for i := range b.Groups {
			if b.Groups[i].ID == k.Protection.Group {
				at = &groups[i]
				kept[i] = kept[i] || k.State != install.NewCircuit
			}
		}
		at.devices++
		at.modules += max(1, k.Protection.Poles)
	}
	if b.New {
		out = append(out, main)
	}
	for i := range groups {
		if b.New || !kept[i] {
			out = append(out, groups[i])
		}
	}
	return out
}

// Bars is of [rulebook.Barring].
func (Practice) Bars(job *install.Job, b *install.Board) (out []rulebook.Part) {
	way := barsOption.In(&job.Schools)
	add := func(p rulebook.Part) { rulebook.AddPart(&out, p) }
	cut := map[*busbarsRow][]row{}
	for _, r := range rowsOf(job, b) {
		at := busbars.Find(func(x *busbarsRow) bool { return x.RatingA >= r.ratingA })
		if r.devices < 2 || at < 0 {
			continue
		}
		bar := busbars.Row(at)
		switch way {
		case barsCut:
			cut[bar] = append(cut[bar], r)
		case barsLinks:
			mm2 := text(bar.LinkMM2)
			add(rulebook.Part{Key: "link:" + mm2, Name: "Wire for loops between devices, " + mm2 + " mm²", Unit: "m", Count: linkM * float64(r.devices),
				Rule: text(linkM, " m to each device, for all that its switch feeds")})
			add(rulebook.Part{Key: "ferrule:" + mm2, Name: "Ferrules " + mm2 + " mm²", Count: float64(2 * r.devices), Rule: "one at each end of a loop"})
		}
	}
	for at := range busbars.Rows() {
		bar := busbars.Row(at)
		rows := cut[bar]
		if len(rows) == 0 {
			continue
		}
		p := cutting.Problem{Stocks: []cutting.Stock{{Length: int(bar.Short), Cost: int(bar.Short)}, {Length: int(bar.Long), Cost: int(bar.Long)}}}
		says := make([]string, len(rows))
		for i, r := range rows {
			n := r.modules + feederModules
			says[i] = fmt.Sprintf("%d behind %s", n, r.name)
			for ; n > int(bar.Long); n -= int(bar.Long) {
				p.Cuts = append(p.Cuts, int(bar.Long))
			}
			p.Cuts = append(p.Cuts, n)
		}
		plan, err := cutting.Solve(p, nil)
		if err != nil {
			continue // each fits the long one
		}
		for _, x := range plan.Bars {
			n := p.Stocks[x.Stock].Length
			add(rulebook.Part{Key: text("busbar:", bar.RatingA, ":", n), Name: text("Busbar ", bar.RatingA, " A, ", n, " modules, to be cut"), Count: 1,
				Rule: "modules of each row of devices, one more for what feeds it: " + strings.Join(says, ", ")})
		}
		add(rulebook.Part{Key: text("busbar-cap:", bar.RatingA), Name: text("End covers for a busbar ", bar.RatingA, " A"), Count: float64(2 * len(p.Cuts)),
			Rule: "for both ends of each piece"})
	}
	return out
}
