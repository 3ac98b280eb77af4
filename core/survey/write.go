package survey

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Write writes points as shorthand that reads back to the same points.
func Write(points []install.RoomPoint, p *rulebook.Survey) string {
	out := []string{}
	for i := range points {
		out = append(out, writePoint(&points[i], p))
	}
	return strings.Join(out, ", ")
}

// WriteRoom writes a room as one line.
func WriteRoom(r *install.Room, p *rulebook.Survey) string {
	head := r.Name
	if r.Floor != "" {
		mark := "[" + r.Floor + "]"
		for _, f := range floorMarks {
			if f.value == r.Floor {
				mark = f.words[0]
				break
			}
		}
		head += " " + mark
	}
	head = strings.ReplaceAll(head, ":", " ")
	return head + ": " + Write(r.Points, p)
}

func writePoint(q *install.RoomPoint, p *rulebook.Survey) string {
	if q.Kind == "" {
		return q.Typed
	}
	var b strings.Builder
	b.WriteString(map[string]string{install.Kept: "= ", install.Moved: "> ", install.Removed: "- "}[q.State])
	if q.Count > 1 {
		fmt.Fprintf(&b, "%d ", q.Count)
	}
	if q.Switching != "" {
		if r := switchingTable.Find(func(row *switchingRow) bool { return row.Switching == q.Switching }); r >= 0 {
			first, _, _ := strings.Cut(switchingTable.Row(r).Words, "|")
			b.WriteString(first + " ")
		}
	}
	b.WriteString(kindByID[q.Kind].Word)
	if q.Dimmed {
		b.WriteString(" dimmed")
	}
	if q.PowerW >= 1000 {
		b.WriteString(" " + strconv.FormatFloat(q.PowerW/1000, 'f', -1, 64) + "kW")
	} else if q.PowerW > 0 {
		b.WriteString(" " + strconv.FormatFloat(q.PowerW, 'f', -1, 64) + "W")
	}
	if q.CurrentA > 0 {
		b.WriteString(" " + strconv.FormatFloat(q.CurrentA, 'f', -1, 64) + "A")
	}
	if q.HeightMM > 0 {
		if p.Inches {
			b.WriteString(" @" + strconv.FormatFloat(math.Round(q.HeightMM/25.4*1e4)/1e4, 'f', -1, 64) + "in")
		} else {
			b.WriteString(" @" + strconv.FormatFloat(q.HeightMM, 'f', -1, 64) + "mm")
		}
	}
	for _, m := range []struct{ mark, text string }{{"/", q.Wall}, {"<", q.FedFrom}, {"#", q.Box}} {
		if m.text == "" {
			continue
		}
		text := strings.ReplaceAll(m.text, `"`, "'")
		if strings.ContainsFunc(text, func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune(`(),;:@<#/`, r) }) {
			text = `"` + text + `"`
		}
		b.WriteString(" " + m.mark + text)
	}
	if n := note(q.Note); n != "" {
		b.WriteString(" (" + n + ")")
	}
	return b.String()
}
