// Package goods reads what merchants and spreadsheets send: delivery notes and price lists as rows of text, whatever their encoding, separator
// and decimal sign, as far as they can only mean one thing. What it cannot read it names by row, column, value and what is accepted, and reads
// nothing of it.
package goods

import (
	"encoding/csv"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"arvelt/core/unit"
)

// CellError is a cell that cannot be read.
type CellError struct {
	Row    int    `json:"row"` // as the file counts them, the first line is 1; 0 for the file
	Column string `json:"column"`
	Value  string `json:"value"`
	Accept string `json:"accept"`
}

func (e *CellError) Error() string {
	if e.Row == 0 {
		return fmt.Sprintf("%s: %q: %s", e.Column, e.Value, e.Accept)
	}
	return fmt.Sprintf("row %d, %s: %q: %s", e.Row, e.Column, e.Value, e.Accept)
}

// Errors are the cells of a file that cannot be read.
type Errors []CellError

func (e Errors) Error() string {
	out := make([]string, len(e))
	for i := range e {
		out[i] = e[i].Error()
	}
	return strings.Join(out, "; ")
}

// Text reads the text of a file: UTF-8 with or without its mark, UTF-16 with it, and else Windows-1252, which every byte is of.
func Text(raw []byte) string {
	switch {
	case len(raw) >= 2 && raw[0] == 0xFF && raw[1] == 0xFE:
		return wide(raw[2:], func(a, b byte) uint16 { return uint16(b)<<8 | uint16(a) })
	case len(raw) >= 2 && raw[0] == 0xFE && raw[1] == 0xFF:
		return wide(raw[2:], func(a, b byte) uint16 { return uint16(a)<<8 | uint16(b) })
	}
	if s := strings.TrimPrefix(string(raw), "\ufeff"); utf8.ValidString(s) {
		return s
	}
	out := make([]rune, len(raw))
	for i, b := range raw {
		if out[i] = rune(b); b >= 0x80 && b < 0xA0 {
			out[i] = windows[b-0x80]
		}
	}
	return string(out)
}

// windows are the characters of Windows-1252 that Latin-1 has not (WHATWG Encoding Standard, index windows-1252).
var windows = []rune("€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ")

func wide(raw []byte, of func(a, b byte) uint16) string {
	out := make([]uint16, len(raw)/2)
	for i := range out {
		out[i] = of(raw[2*i], raw[2*i+1])
	}
	return string(utf16.Decode(out))
}

// Table is the rows of a file under the names of its columns.
type Table struct {
	Notes   map[string]string // of the comment lines "# name: value"
	Columns []string
	Rows    []Row
}

// Row is a row with the line on which it stands.
type Row struct {
	Line  int
	Cells []string
}

// mostRows is how many rows a file may have.
const mostRows = 5000

// Read reads a table of text: cells parted by commas, semicolons or tabs, whichever the first line has most of.
func Read(text string) (*Table, error) {
	t := &Table{Notes: map[string]string{}}
	lines := strings.Split(strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n"), "\n")
	first := 0
	for ; first < len(lines); first++ {
		line := strings.TrimSpace(lines[first])
		if note, ok := strings.CutPrefix(line, "#"); ok {
			name, value, _ := strings.Cut(note, ":")
			t.Notes[strings.ToLower(strings.TrimSpace(name))] = strings.TrimSpace(value)
		} else if line != "" {
			break
		}
	}
	if first == len(lines) {
		return nil, Errors{{0, "file", "nothing", "a line with the names of the columns and a row for each part"}}
	}
	r := csv.NewReader(strings.NewReader(strings.Join(lines[first:], "\n")))
	r.FieldsPerRecord, r.LazyQuotes, r.Comma = -1, true, ','
	for _, c := range []rune{';', '\t'} {
		if strings.Count(lines[first], string(c)) > strings.Count(lines[first], string(r.Comma)) {
			r.Comma = c
		}
	}
	for {
		cells, err := r.Read()
		if err != nil {
			var bad *csv.ParseError
			if errors.As(err, &bad) {
				return nil, Errors{{bad.Line + first, "row", bad.Err.Error(), "quotes that are closed"}}
			}
			break
		}
		line, _ := r.FieldPos(0)
		switch {
		case t.Columns == nil:
			for _, c := range cells {
				t.Columns = append(t.Columns, strings.ToLower(strings.TrimSpace(c)))
			}
		case strings.TrimSpace(strings.Join(cells, "")) == "" || strings.HasPrefix(cells[0], "#"):
		default:
			t.Rows = append(t.Rows, Row{line + first, cells})
		}
	}
	return t.fits()
}

// Column is the place of a column that goes by one of some names, -1 where there is none.
func (t *Table) Column(names ...string) int {
	return slices.IndexFunc(t.Columns, func(c string) bool { return slices.Contains(names, c) })
}

// Cell is a cell of a row, empty where the row or the table has none.
func (r *Row) Cell(at int) string {
	if at < 0 || at >= len(r.Cells) {
		return ""
	}
	return strings.TrimSpace(r.Cells[at])
}

// Number reads a figure: 1234.5, 1,234.5, 1.234,5 and 1234,5. A single sign with three digits behind it, as in 1,234, may be either and is
// refused.
func Number(s string) (float64, bool) {
	t := strings.NewReplacer("\u00a0", " ", "\u202f", " ", "'", " ").Replace(strings.TrimSpace(s))
	if whole := t[:len(t)-len(strings.TrimLeft(t, "-0123456789 "))]; strings.Contains(whole, " ") {
		if !grouped(whole, " ") {
			return 0, false
		}
		t = strings.ReplaceAll(whole, " ", "") + t[len(whole):]
	}
	point, comma := strings.LastIndexByte(t, '.'), strings.LastIndexByte(t, ',')
	switch {
	case point >= 0 && comma >= 0:
		sign := "."
		if comma > point {
			sign = ","
		}
		other := map[string]string{".": ",", ",": "."}[sign]
		if strings.Count(t, sign) > 1 || !grouped(t[:max(point, comma)], other) {
			return 0, false
		}
		t = strings.Replace(strings.ReplaceAll(t, other, ""), sign, ".", 1)
	case comma >= 0:
		if strings.Count(t, ",") > 1 || len(t)-comma-1 == 3 && comma <= 3 && t[:comma] != "0" {
			return 0, false
		}
		t = strings.Replace(t, ",", ".", 1)
	}
	v, err := strconv.ParseFloat(t, 64)
	return v, err == nil && v == v && v < 1e12 && v > -1e12
}

// grouped reports whether the digits of a number are grouped in threes by a sign.
func grouped(t, sign string) bool {
	parts := strings.Split(strings.TrimPrefix(t, "-"), sign)
	for i, p := range parts {
		if i > 0 && len(p) != 3 || len(p) == 0 || len(p) > 3 {
			return false
		}
	}
	return true
}

// Lengths reads pieces as people write them, into a unit of length: "30 + 12", "32 ft + 32 ft", "2x25m", "2 × 25", "25,5". A length with a unit
// of its own is turned into the one that is wanted; one without is in that.
func Lengths(s, in string) ([]float64, bool) {
	if strings.TrimSpace(s) == "" {
		return nil, true
	}
	out := []float64{}
	for f := range strings.SplitSeq(strings.ToLower(s), "+") {
		f = strings.NewReplacer("×", "x", "*", "x", "\u00a0", " ").Replace(strings.TrimSpace(f))
		n := 1
		if times, rest, ok := strings.Cut(f, "x"); ok {
			v, err := strconv.Atoi(strings.TrimSpace(times))
			if err != nil || v < 1 || v > 200 {
				return nil, false
			}
			n, f = v, strings.TrimSpace(rest)
		}
		own := in
		for _, u := range []string{"feet", "foot", "ft", "'", "metres", "meters", "metre", "meter", "m"} {
			if rest, ok := strings.CutSuffix(f, u); ok {
				f = strings.TrimSpace(rest)
				if own = "m"; u[0] == 'f' || u == "'" {
					own = "ft"
				}
				break
			}
		}
		v, ok := Number(f)
		if to, from := unit.Metres(in), unit.Metres(own); ok && own != in {
			if to == 0 || from == 0 {
				return nil, false
			}
			v = unit.Significant(v*from/to, 4)
		}
		if !ok || !(v > 0 && v < 10000) {
			return nil, false
		}
		for range n {
			out = append(out, v)
		}
	}
	return out, len(out) > 0
}

// Rows makes a table of rows of cells, as a workbook has them.
func Rows(rows [][]string) (*Table, error) {
	t := &Table{Notes: map[string]string{}}
	for i, cells := range rows {
		switch text := strings.TrimSpace(strings.Join(cells, "")); {
		case text == "":
		case strings.HasPrefix(text, "#"):
			name, value, _ := strings.Cut(strings.TrimPrefix(text, "#"), ":")
			t.Notes[strings.ToLower(strings.TrimSpace(name))] = strings.TrimSpace(value)
		case t.Columns == nil:
			for _, c := range cells {
				t.Columns = append(t.Columns, strings.ToLower(strings.TrimSpace(c)))
			}
		default:
			t.Rows = append(t.Rows, Row{i + 1, cells})
		}
	}
	return t.fits()
}

// fits refuses what is no table, or too long a one.
func (t *Table) fits() (*Table, error) {
	switch {
	case t.Columns == nil:
		return nil, Errors{{0, "file", "nothing", "a line with the names of the columns and a row for each part"}}
	case len(t.Rows) > mostRows:
		return nil, Errors{{0, "file", strconv.Itoa(len(t.Rows)) + " rows", fmt.Sprintf("at most %d rows", mostRows)}}
	}
	return t, nil
}
