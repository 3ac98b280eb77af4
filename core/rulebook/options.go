package rulebook

import (
	"fmt"
	"io/fs"
	"math"
	"time"

	"arvelt/core/install"
	"arvelt/core/table"
)

// Options are what a practice leaves to the company, in the order in which it is asked.
type Options []install.Option

// OptionsOf reads options.csv, a row each, and option_choices.csv, a row for each way of
// doing with its reason. Where these have a column "code", only rows of that code are taken
// and those that name none.
func OptionsOf(files fs.FS, code string) Options {
	list, ways := table.Load(files, "options"), table.Load(files, "option_choices")
	of := func(t *table.Table, row int) bool {
		return !t.Has("code") || t.Str(row, "code") == "" || t.Str(row, "code") == code
	}
	out := Options{}
	for r := range list.Text {
		if !of(list, r) {
			continue
		}
		o := install.Option{ID: install.OptionID(list.Str(r, "option")), Title: list.Str(r, "title"), Help: list.Str(r, "help"),
			Choices: []install.OptionChoice{}, Where: install.OptionID(list.Str(r, "where")), Chosen: list.Str(r, "chosen")}
		number := func(col string) float64 {
			if v := list.Num(r, col); !math.IsNaN(v) {
				return v
			}
			return 0
		}
		o.Chars = int(number("chars"))
		for w := range ways.Text {
			if ways.Str(w, "option") == string(o.ID) && of(ways, w) {
				o.Choices = append(o.Choices,
					install.OptionChoice{ID: ways.Str(w, "choice"), Name: ways.Str(w, "name"), Why: ways.Str(w, "why"),
						Asks: optional(ways, w, "asks")})
			}
		}
		o.Default = install.Chose(list.Str(r, "usual"))
		if len(o.Choices) == 0 && o.Chars == 0 {
			o.Unit, o.Low, o.High, o.Default = list.Str(r, "unit"), number("low"), number("high"), install.Figure(number("usual"))
		}
		out = append(out, o)
	}
	return append(out, WorkDay, WorkWeek, WorkHeight, Reach, Hanging, Boarding)
}

// The options that a company has whatever the practice: by them it is reckoned when work ends.
var (
	WorkDay = install.Option{ID: "workHours", Title: "Hours of a working day", Help: "By it the day is reckoned on which the work ends.",
		Unit: "h", Low: 1, High: 16, Default: install.Figure(8), Choices: []install.OptionChoice{}}
	WorkWeek = install.Option{ID: "workWeek", Title: "Working days", Help: "By them the day is reckoned on which the work ends.",
		Default: install.Chose("mon-fri"), Choices: []install.OptionChoice{
			{ID: "mon-fri", Name: "Monday to Friday", Why: "The usual week."},
			{ID: "mon-thu", Name: "Monday to Thursday", Why: "Four long days: set the hours of a day to match."},
			{ID: "mon-sat", Name: "Monday to Saturday", Why: "Where Saturdays are worked."},
			{ID: "all", Name: "every day", Why: "A crew that works through."}}}
)

// WorkHeight is from where on work on a point is work at height.
var WorkHeight = install.Option{ID: "workHeight", Title: "Work at height", Help: "From where on a step takes two people, one of whom stands by on the ground.",
	Default: install.Chose("platform"), Choices: []install.OptionChoice{
		{ID: "ladder", Name: "whatever takes a ladder or a platform", Why: "A fall from a low ladder hurts as badly; and nobody works up there unseen."},
		{ID: "platform", Name: "above the reach of a low platform", Why: "A step platform with a rail is stood on alone; above it somebody stands by."},
		{ID: "marked", Name: "as marked on the plan, and overhead", Why: "Whoever plans has seen the place and decides."}}}

// heightsMM are the heights of a point by way of [WorkHeight], above which feet leave the ground so far, mm: a standing person works up to about
// 2.2 m, from a low platform with a rail up to about 3 m. The law of the country on falls comes before it.
var heightsMM = map[string]float64{"ladder": 2200, "platform": 3000}

// AtHeight reports whether work on a point at a height in mm above the floor is work at height for a company.
func AtHeight(s *install.Schools, mm float64) bool {
	from, ok := heightsMM[WorkHeight.In(s)]
	return ok && mm > from
}

// Hanging is whether recessed luminaires are lit before they are pushed up.
var Hanging = install.Option{ID: "hanging", Title: "Recessed luminaires", Help: "Whether they are lit while they hang, or only once they are closed.",
	Default: install.Chose("closed"), Choices: []install.OptionChoice{
		{ID: "closed", Name: "pushed up before the power comes", Why: "Nothing live hangs from the ceiling; what does not light is taken down again, dead."},
		{ID: HangingLit, Name: "lit while they hang",
			Why: "What does not light is found before the ceiling is closed. Somebody stands by meanwhile, and it is " +
				"isolated and proved dead again before it is pushed up."}}}

// Boarding is whether insulation is read again once walls are closed over cables.
var Boarding = install.Option{ID: "boarding", Title: "Insulation after walls are closed",
	Help:    "Whether what was read before counts once others have boarded over it.",
	Default: install.Chose("once"), Choices: []install.OptionChoice{
		{ID: "once", Name: "read once, before it is energised", Why: "The dead tests come behind second fix in any case, with the walls closed."},
		{ID: BoardingAgain, Name: "read again after they are closed",
			Why: "A nail or a screw through a cable is found while the wall can still be opened, and while it is known " +
				"who drove it: what was read before does not count."}}}

// BoardingAgain is the way of [Boarding] by which it is read again.
const BoardingAgain = "again"

// HangingLit is the way of [Hanging] by which they are lit first.
const HangingLit = "lit"

// Reach is whether the heights of accessories are held to what everybody reaches.
var Reach = install.Option{ID: "reach", Title: "Heights that everybody reaches", Help: "The heights of sockets, switches and controls on the survey.",
	Default: install.Chose(ReachFree), Choices: []install.OptionChoice{
		{ID: ReachFree, Name: "as the client wants them", Why: "A dwelling that is there may keep its heights; the client decides."},
		{ID: ReachAsked, Name: "within reach", Why: "A new dwelling, an adaptation, or a client who will need it; other heights are remarked on."}}}

// The ways of [Reach].
const (
	ReachFree  = "free"
	ReachAsked = "asked"
)

// lastDay is the last working day of each week, counted from Monday as 1.
var lastDay = map[string]int{"mon-thu": 4, "mon-fri": 5, "mon-sat": 6, "all": 7}

// Works reports whether a day is a working day of the company.
func Works(s *install.Schools, day time.Weekday) bool {
	return (int(day)+6)%7+1 <= lastDay[WorkWeek.In(s)]
}

// optional is a cell of a column that a table need not have.
func optional(t *table.Table, row int, column string) string {
	if !t.Has(column) {
		return ""
	}
	return t.Str(row, column)
}

// Named is the option of an id. It panics where the practice declares none of it.
func (o Options) Named(id install.OptionID) *install.Option {
	for i := range o {
		if o[i].ID == id {
			return &o[i]
		}
	}
	panic(fmt.Sprintf("rulebook: no option %q", id))
}

// Schools are the options as they stand where nobody chose.
func (o Options) Schools() install.Schools {
	s := install.Schools{Options: map[install.OptionID]install.OptionValue{}, Local: []install.LocalRule{}}
	for i := range o {
		s.Options[o[i].ID] = o[i].Default
	}
	return s
}
