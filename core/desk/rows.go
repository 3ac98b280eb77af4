package desk

// The rows of the tables, as their files under data have them: a field takes the column of its
// tag, in the unit that the column names. They are read once, when the program starts, which
// does not start with a column missing or a number that is none.

// kindRow is a row of kinds.
type kindRow struct {
	Kind  string `col:"kind"`
	Title string `col:"title"`
	Path  string `col:"path"`
	Needs string `col:"needs"`
}
