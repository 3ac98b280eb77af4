package outage

// The rows of the tables, as their files under data have them: a field takes the column of its
// tag, in the unit that the column names. They are read once, when the program starts, which
// does not start with a column missing or a number that is none.

// stepRow is a row of steps.
type stepRow struct {
	Step string  `col:"step"`
	Back float64 `col:"back"`
	Drop bool    `col:"drop"`
}

// weatherRow is a row of weather.
type weatherRow struct {
	Limit   string  `col:"limit"`
	Value   float64 `col:"value"`
	Unit    string  `col:"unit"`
	Summary string  `col:"says"`
}
