package outdoor

// The rows of the tables, as their files under data have them: a field takes the column of its
// tag, in the unit that the column names. They are read once, when the program starts, which
// does not start with a column missing or a number that is none.

// stepRow is a row of steps.
type stepRow struct {
	Step    string  `col:"step"`
	Kind    string  `col:"kind"`
	Title   string  `col:"title"`
	Who     string  `col:"who"`
	Hours   float64 `col:"hours"`
	PerM    float64 `col:"per_m"`
	Finds   string  `col:"finds"`
	Stage   string  `col:"stage"`
	Act     string  `col:"act"` // that it is, of those that verdicts hold
	Service bool    `col:"service"`
	Ours    bool    `col:"ours"` // the electrical crew does it
	High    bool    `col:"high"` // it is work at height
	Weather string  `col:"weather"`
}
