// Package table reads the data files of the rulebooks and of the survey: one
// CSV a table, embedded beside the code that uses it.
//
// A file starts with comment lines: "# source:" names the clause, formula or
// paper, "# note: confidence=high" how far it is trusted. Then comes the header.
package table

import (
	"encoding/csv"
	"fmt"
	"io/fs"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"arvelt/core/working"
)

// Table is one CSV in memory. Numbers are parsed once; a cell that holds none
// is NaN.
type Table struct {
	Name    string
	Source  working.Source
	under   map[string]working.Source // where the same figures stand in another code
	Text    [][]string
	columns map[string]int
	numbers [][]float64
	read    []bool // rows of which a cell was asked for; nil unless watched
}

// loaded are the tables that the program has read. They are read while it starts, by
// one goroutine.
var loaded []*Table

// All lists every table that was loaded.
func All() []*Table { return loaded }

// Watch begins to note which rows are asked for a cell. A search by [Table.Where]
// does not count: what is found counts once it is used. For tests only: a watched
// table may be read by one goroutine.
func (t *Table) Watch() { t.read = make([]bool, len(t.Text)) }

// Unread lists the rows that nobody asked for since [Table.Watch].
func (t *Table) Unread() (rows []int) {
	for r, seen := range t.read {
		if !seen {
			rows = append(rows, r)
		}
	}
	return rows
}

func (t *Table) note(row int) {
	if t.read != nil {
		t.read[row] = true
	}
}

// Load reads data/name.csv. It panics when the file is missing or broken: the
// files are embedded, so the program was built wrong.
func Load(files fs.FS, name string) *Table {
	raw, err := fs.ReadFile(files, "data/"+name+".csv")
	if err != nil {
		panic(err)
	}
	t := &Table{Name: name, columns: map[string]int{}, under: map[string]working.Source{}}
	var body []string
	for line := range strings.SplitSeq(string(raw), "\n") {
		if rest, ok := strings.CutPrefix(line, "# source: "); ok {
			t.Source.Ref = rest
		} else if rest, ok := strings.CutPrefix(line, "# note: confidence="); ok {
			t.Source.Confidence, _, _ = strings.Cut(rest, ";")
		} else if rest, ok := strings.CutPrefix(line, "# source "); ok {
			code, ref, _ := strings.Cut(rest, ": ")
			t.under[code] = working.Source{Ref: ref, Confidence: "medium"}
		} else if !strings.HasPrefix(line, "#") {
			body = append(body, line)
		}
	}
	rows, err := csv.NewReader(strings.NewReader(strings.Join(body, "\n"))).ReadAll()
	if err != nil {
		panic(fmt.Errorf("table %s: %w", name, err))
	}
	for i, c := range rows[0] {
		t.columns[c] = i
	}
	t.Text = rows[1:]
	for _, row := range t.Text {
		ns := make([]float64, len(row))
		for i, cell := range row {
			v, err := strconv.ParseFloat(cell, 64)
			if err != nil {
				v = math.NaN()
			}
			ns[i] = v
		}
		t.numbers = append(t.numbers, ns)
	}
	if t.Source.Confidence == "" {
		t.Source.Confidence = t.weakest()
	}
	if !slices.Contains(confidences, t.Source.Confidence) {
		panic(fmt.Errorf("table %s states no confidence: high, medium or low, on top or in a column of its rows", name))
	}
	loaded = append(loaded, t)
	return t
}

// confidences are how far a figure may be trusted, the least first.
var confidences = []string{"low", "medium", "high"}

// weakest is the least confidence of the rows, for a table whose head names none: a check
// that rests on it is no surer than its least sure row. It is empty where a row has none.
func (t *Table) weakest() string {
	column, there := t.columns["confidence"]
	if !there {
		return ""
	}
	least := len(confidences) - 1
	for r := range t.Text {
		i := slices.Index(confidences, t.Text[r][column])
		if i < 0 {
			return ""
		}
		least = min(least, i)
	}
	return confidences[least]
}

// Under is where the figures stand in another code that is named on top of the file,
// with medium confidence; ok is false where they are not that code's.
func (t *Table) Under(code string) (source working.Source, ok bool) {
	source, ok = t.under[code]
	return source, ok
}

func (t *Table) column(name string) int {
	i, ok := t.columns[name]
	if !ok {
		panic("table " + t.Name + " has no column " + name)
	}
	return i
}

// Str returns a cell as text.
func (t *Table) Str(row int, col string) string {
	t.note(row)
	return t.Text[row][t.column(col)]
}

// Num returns a cell as a number, NaN when it holds none.
func (t *Table) Num(row int, col string) float64 {
	t.note(row)
	return t.numbers[row][t.column(col)]
}

// Where returns the first row in which every named column holds its value
// (text, or a number within 1e-9); -1 when there is none.
func (t *Table) Where(pairs ...any) int {
	var columns [8]int // looked up once, not once a row
	for i := 0; i < len(pairs); i += 2 {
		columns[i/2] = t.column(pairs[i].(string))
	}
next:
	for r := range t.Text {
		for i := 0; i < len(pairs); i += 2 {
			switch want := pairs[i+1].(type) {
			case string:
				if t.Text[r][columns[i/2]] != want {
					continue next
				}
			case float64:
				if !(math.Abs(t.numbers[r][columns[i/2]]-want) < 1e-9) {
					continue next
				}
			default: // an id of a type of its own
				v := reflect.ValueOf(want)
				if v.Kind() != reflect.String {
					panic("table: a row is found by a text or a number")
				}
				if t.Text[r][columns[i/2]] != v.String() {
					continue next
				}
			}
		}
		return r
	}
	return -1
}

// Of is a table whose rows are values of R, read once: each field takes the column that its
// "col" tag names. It stays a [Table] for the few readers that choose a column as they go.
type Of[R any] struct {
	*Table
	rows []R
}

// LoadOf reads data/name.csv into rows. It panics as [Load] does, and where a column is
// missing or a cell of a number holds something else; an empty one is NaN. A field is a
// float64, a string, or a bool that is true where the cell says 1.
func LoadOf[R any](files fs.FS, name string) *Of[R] {
	t := &Of[R]{Table: Load(files, name)}
	t.rows = make([]R, len(t.Text))
	for r := range t.rows {
		row := reflect.ValueOf(&t.rows[r]).Elem()
		for i := range row.NumField() {
			field := row.Type().Field(i)
			col := t.column(field.Tag.Get("col"))
			switch text, v := t.Text[r][col], t.numbers[r][col]; field.Type.Kind() {
			case reflect.String:
				row.Field(i).SetString(text)
			case reflect.Bool:
				row.Field(i).SetBool(v == 1)
			case reflect.Float64:
				if math.IsNaN(v) && text != "" {
					panic(fmt.Errorf("table %s, row %d, %s: %q is no number", name, r+1, field.Tag.Get("col"), text))
				}
				row.Field(i).SetFloat(v)
			default:
				panic(fmt.Errorf("table %s: field %s is no text, number or yes and no", name, field.Name))
			}
		}
	}
	return t
}

// Row is a row of the table.
func (t *Of[R]) Row(i int) *R {
	t.note(i)
	return &t.rows[i]
}

// Rows are all rows of the table.
func (t *Of[R]) Rows() []R {
	for i := range t.rows {
		t.note(i)
	}
	return slices.Clone(t.rows)
}

// Find returns the first row that is the one; -1 when there is none.
func (t *Of[R]) Find(is func(*R) bool) int {
	for i := range t.rows {
		if is(&t.rows[i]) {
			return i
		}
	}
	return -1
}

// One returns the row that is the one. It panics where there is none: it is asked for rows that
// the table must have.
func (t *Of[R]) One(is func(*R) bool) *R {
	i := t.Find(is)
	if i < 0 {
		panic("table " + t.Name + " has no such row")
	}
	return t.Row(i)
}

// Columns lists the columns, in order.
func (t *Table) Columns() []string {
	out := make([]string, len(t.columns))
	for c, i := range t.columns {
		out[i] = c
	}
	return out
}

// Has reports whether there is a column of a name.
func (t *Table) Has(col string) bool {
	_, ok := t.columns[col]
	return ok
}

// Column returns all numbers of a column.
func (t *Table) Column(col string) []float64 {
	c := t.column(col)
	out := make([]float64, len(t.numbers))
	for i, r := range t.numbers {
		out[i] = r[c]
	}
	return out
}

// Setting is one figure of a two-column table of settings.
type Setting struct {
	t   *Table
	row int
}

// Setting finds a figure by its key. It panics where there is none, so it is looked up while
// the program starts.
func (t *Table) Setting(key string) Setting {
	for r := range t.Text {
		if t.Text[r][0] == key {
			return Setting{t, r}
		}
	}
	panic("table " + t.Name + " has no " + key)
}

// V is the figure, in the unit that the table states.
func (s Setting) V() float64 {
	s.t.note(s.row)
	return s.t.numbers[s.row][1]
}

// Fixed is the figure of a key that is data itself, as an environment is.
func (t *Table) Fixed(key string) float64 { return t.Setting(key).V() }

// Range reads a cell that says "0.25 to 0.40". It panics when it says anything
// else: the files are embedded.
func Range(cell string) (from, to float64) {
	if n, err := fmt.Sscanf(cell, "%g to %g", &from, &to); n != 2 || err != nil {
		panic(fmt.Sprintf("%q is not a range", cell))
	}
	return from, to
}
