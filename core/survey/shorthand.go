package survey

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
)

// Span is a run of a typed line and what it was read as. The spans of a line
// joined are the line: nothing is left out.
type Span struct {
	Text string `json:"text"`
	// Class is one of: space, room, floor, count, state, kind, switching, dimmed, figure, height, wall, fed, box, note,
	// remark, filler, mark, guess, unread.
	Class   string `json:"class"`
	Summary string `json:"summary"`
}

// Misreading is a run of text that was not understood, or only by a guess.
type Misreading struct {
	Text    string `json:"text"`
	Summary string `json:"summary"`
	Suggest string `json:"suggest"` // the text as it would be understood; empty when nothing is near
	Kept    bool   `json:"kept"`    // read by a guess or kept as a note: nothing is held up
	Taken   bool   `json:"taken"`   // the suggestion is what it was read as
}

// Line is one line of shorthand as it was read.
type Line struct {
	Text    string              `json:"text"`
	Spans   []Span              `json:"spans"`
	Room    string              `json:"room"` // empty: the room of the line before
	Kind    string              `json:"kind"`
	Floor   string              `json:"floor"`
	Points  []install.RoomPoint `json:"points"`
	Remark  string              `json:"remark"`
	Misread []Misreading        `json:"misread"`
}

// lexicon is the vocabulary as one practice speaks it.
type lexicon struct {
	p      *rulebook.Survey
	starts map[string][]phrase // by first word, longest first
	known  map[string]bool
	list   []string
}

func lexiconOf(p *rulebook.Survey) *lexicon {
	x := &lexicon{p: p, starts: map[string][]phrase{}, known: map[string]bool{}}
	all := []phrase{}
	for _, own := range p.Phrases {
		all = append(all, phrases("switching", own.Switching, own.Words)...)
	}
	for kind, name := range p.Names {
		all = append(all, phrases("kind", kind, name)...)
	}
	slices.SortFunc(all, func(a, b phrase) int { return strings.Compare(strings.Join(a.words, " "), strings.Join(b.words, " ")) })
	all = append(all, common...)
	longestFirst(all)
	for _, ph := range all {
		x.starts[ph.words[0]] = append(x.starts[ph.words[0]], ph)
		for _, w := range ph.words {
			if !x.known[w] {
				x.known[w] = true
				x.list = append(x.list, w)
			}
		}
	}
	slices.Sort(x.list)
	return x
}

// Read reads shorthand: one line a room. It never fails; what it does not
// understand it keeps and says so. room and floor are those that the first line
// continues, as on a walk that goes on.
func Read(text string, p *rulebook.Survey, floor string) []Line {
	x := lexiconOf(p)
	out := []Line{}
	for line := range strings.SplitSeq(strings.ReplaceAll(text, "\r", "\n"), "\n") {
		l := x.line(strings.ToValidUTF8(line, "\uFFFD"), floor)
		if l.Floor != "" {
			floor = l.Floor
		}
		out = append(out, l)
	}
	return out
}

func (x *lexicon) line(text, floor string) Line {
	w := x.p.Words
	l := Line{Text: text, Spans: []Span{}, Points: []install.RoomPoint{}, Misread: []Misreading{}}
	body := strings.TrimSpace(text)
	if body == "" {
		l.Spans = append(l.Spans, Span{text, "space", ""})
		return l
	}
	if rest, ok := strings.CutPrefix(body, "##"); ok {
		l.Remark = strings.TrimSpace(rest)
		l.Spans = append(l.Spans, Span{text, "remark", w.Say("a remark, kept with the room")})
		return l
	}
	if i := outside(text, "#"); i > 0 && strings.HasPrefix(text[i:], "##") {
		l = x.line(text[:i], floor)
		l.Text, l.Remark = text, strings.TrimSpace(text[i+2:])
		l.Spans = append(l.Spans, Span{text[i:], "remark", w.Say("a remark, kept with the room")})
		return l
	}
	rest := text
	if i := outside(text, ":"); i >= 0 {
		x.head(&l, text[:i], floor)
		l.Spans = append(l.Spans, Span{":", "mark", ""})
		rest = text[i+1:]
	} else if n := x.leadingRoom(text); n > 0 {
		x.head(&l, text[:n], floor)
		rest = text[n:]
	} else if f := floorAlone(fold(text)); f != nil {
		l.Floor = f.value
		l.Spans = append(l.Spans, Span{text, "floor", w.Say("the rooms that follow are on this floor")})
		return l
	}
	for rest != "" {
		i := outside(rest, ",;")
		item := rest
		if i >= 0 {
			item = rest[:i]
		}
		x.item(&l, item)
		if i < 0 {
			break
		}
		l.Spans = append(l.Spans, Span{rest[i : i+1], "mark", ""})
		rest = rest[i+1:]
	}
	return l
}

// floorAlone reads words that are a floor and nothing else: its name or mark.
func floorAlone(ws []string) *phrase {
	if f := match(floorWords, ws); f != nil && len(f.words) == len(ws) {
		return f
	}
	if len(ws) == 1 {
		return match(floorMarks, ws)
	}
	return nil
}

func match(list []phrase, ws []string) *phrase {
	for i := range list {
		if ph := &list[i]; len(ph.words) <= len(ws) && slices.Equal(ph.words, ws[:len(ph.words)]) {
			return ph
		}
	}
	return nil
}

// leadingRoom finds a room at the start of a line without a colon and returns
// how many bytes are its head; 0 when there is none.
func (x *lexicon) leadingRoom(text string) int {
	fields := strings.Fields(text)
	ws := []string{}
	for _, f := range fields {
		ws = append(ws, singular(strings.ToLower(f)))
	}
	ph := match(roomPhrases, ws)
	if ph == nil || x.phraseAt(ws) != nil && len(x.phraseAt(ws).words) > len(ph.words) {
		return 0
	}
	n := len(ph.words)
	if n < len(fields) && match(floorMarks, []string{strings.ToLower(fields[n])}) != nil {
		n++
	}
	if n == len(fields) {
		return len(text)
	}
	at := 0
	for range n {
		at += strings.IndexFunc(text[at:], notSpace)
		at += strings.IndexFunc(text[at:], unicode.IsSpace)
	}
	return at
}

func notSpace(r rune) bool { return !unicode.IsSpace(r) }

// head reads a room's name and floor.
func (x *lexicon) head(l *Line, text, floor string) {
	w := x.p.Words
	l.Floor = floor
	trimmed := strings.TrimSpace(text)
	if i := strings.LastIndexByte(trimmed, '['); i >= 0 && strings.HasSuffix(trimmed, "]") {
		name := strings.TrimSpace(trimmed[:i])
		if own := strings.TrimSpace(trimmed[i+1 : len(trimmed)-1]); own != "" && name != "" {
			l.Floor, l.Room, l.Kind = own, name, x.roomKind(l, name)
			at := strings.LastIndexByte(text, '[')
			l.Spans = append(l.Spans, Span{text[:at], "room", l.Kind}, Span{text[at:], "floor", own})
			return
		}
	}
	fields := strings.Fields(trimmed)
	if f := floorAlone(fold(trimmed)); f != nil && match(roomPhrases, fold(trimmed)) == nil {
		l.Floor = f.value
		l.Spans = append(l.Spans, Span{text, "floor", w.Say("the rooms that follow are on this floor")})
		return
	}
	if n := len(fields); n > 1 {
		if f := match(floorMarks, []string{strings.ToLower(fields[n-1])}); f != nil {
			at := strings.LastIndex(text, fields[n-1])
			l.Floor, l.Room = f.value, strings.TrimSpace(text[:at])
			l.Kind = x.roomKind(l, l.Room)
			l.Spans = append(l.Spans, Span{text[:at], "room", l.Kind}, Span{text[at:], "floor", f.value})
			return
		}
	}
	l.Room = trimmed
	if trimmed == "" {
		l.Spans = append(l.Spans, Span{text, "space", ""})
		return
	}
	l.Kind = x.roomKind(l, trimmed)
	l.Spans = append(l.Spans, Span{text, "room", l.Kind})
}

// roomKind finds what kind of room a name says: the last phrase in it that is
// one, as in "bathroom of the main bedroom".
func (x *lexicon) roomKind(l *Line, name string) string {
	w := x.p.Words
	ws := fold(name)
	for i := range ws {
		if ph := match(roomPhrases, ws[i:]); ph != nil {
			// What stands before another room says where that room is: a front lobby.
			if tells := match(common, ws[i:]); len(ph.words) == 1 && tells != nil && tells.class == "place" && anyRoom(ws[i+1:]) {
				continue
			}
			return ph.value
		}
	}
	for _, typed := range ws {
		if near := nearest(typed, roomWords()); near != "" {
			if ph := match(roomPhrases, []string{near}); ph != nil {
				l.Misread = append(l.Misread, Misreading{Text: name, Summary: w.Say("taken for a %s", ph.value), Suggest: near, Kept: true})
				return ph.value
			}
		}
	}
	return ""
}

// anyRoom reports whether some of the words name a room.
func anyRoom(ws []string) bool {
	for i := range ws {
		if match(roomPhrases, ws[i:]) != nil {
			return true
		}
	}
	return false
}

func roomWords() []string {
	var out []string
	for _, ph := range roomPhrases {
		if len(ph.words) == 1 {
			out = append(out, ph.words[0])
		}
	}
	return out
}

var numberWords = map[string]int{"a": 1, "an": 1, "one": 1, "two": 2, "pair": 2, "couple": 2, "three": 3, "four": 4,
	"five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11, "twelve": 12}

func countOf(w string) int {
	if n, ok := numberWords[w]; ok {
		return n
	}
	w = strings.TrimSuffix(strings.TrimPrefix(w, "x"), "x")
	w = strings.TrimSuffix(strings.TrimPrefix(w, "×"), "×")
	if n, err := strconv.Atoi(w); err == nil && n >= 1 && n <= 200 {
		return n
	}
	return 0
}

// figureOf reads a power or current; unit may stand apart.
func figureOf(w, next string) (watts, amps float64, used int) {
	digits := len(w) - len(strings.TrimLeft(w, "0123456789.,"))
	if digits == 0 {
		return 0, 0, 0
	}
	unitText, used := w[digits:], 1
	if unitText == "" {
		unitText, used = next, 2
	}
	v, err := strconv.ParseFloat(strings.ReplaceAll(w[:digits], ",", "."), 64)
	if err != nil || !(v > 0) {
		return 0, 0, 0
	}
	switch unitText {
	case "kw", "kva":
		watts = math.Round(v*1e6) / 1000
	case "w", "va", "watt":
		watts = v
	case "hp":
		watts = math.Round(v * 746)
	case "a", "amp":
		amps = v
	default:
		return 0, 0, 0
	}
	if watts > 50000 || amps > 200 {
		return 0, 0, 0
	}
	return watts, amps, used
}

// mmOf reads a height in mm; ok is false when it is no height.
func (x *lexicon) mmOf(text string) (mm float64, says string, ok bool) {
	w := x.p.Words
	text = strings.ToLower(strings.TrimSpace(text))
	if r := heightTable.Find(func(row *heightRow) bool { return row.Word == singular(text) }); r >= 0 {
		return heightTable.Row(r).MM, "", true
	}
	bare := "mm"
	if x.p.Inches {
		bare = "in"
	}
	v, err := unit.ParseLengthMM(text, bare)
	if err != nil || !(v > 0) || v > 12000 {
		return 0, "", false
	}
	if _, err := strconv.ParseFloat(text, 64); err == nil {
		if v < 100 && !x.p.Inches {
			return 0, "", false // 11 or 45: centimetres are meant, or inches
		}
		says = w.Say("without a unit: %s mm", unit.Format(v))
	}
	return v, says, true
}

func unquote(s string) string { return strings.TrimSpace(strings.Trim(s, `"`)) }

// note keeps what stands between the brackets. Brackets that do not pair become
// square ones and double quotes single ones, so that it can be written back.
func note(text string) string {
	text = strings.TrimSpace(strings.ReplaceAll(text, `"`, "'"))
	depth, broken := 0, false
	for _, r := range text {
		switch r {
		case '(':
			depth++
		case ')':
			depth--
			broken = broken || depth < 0
		}
	}
	if broken || depth != 0 {
		text = strings.NewReplacer("(", "[", ")", "]").Replace(text)
	}
	return text
}

func (x *lexicon) phraseAt(ws []string) *phrase {
	if len(ws) == 0 {
		return nil
	}
	return match(x.starts[ws[0]], ws)
}

// item reads one item of a line into points.
func (x *lexicon) item(l *Line, text string) {
	if strings.TrimSpace(text) == "" {
		if text != "" {
			l.Spans = append(l.Spans, Span{text, "space", ""})
		}
		return
	}
	r := itemReader{lexicon: x, line: l, spans: lex(text), cur: newPoint, pending: newPoint}
	r.words()
	for i := 0; i < len(r.ws); {
		i += r.next(i)
	}
	if r.cur.Kind != "" {
		r.points = append(r.points, r.cur)
	}
	if len(r.points) == 0 {
		r.nothing(strings.TrimSpace(text))
		return
	}
	r.marks()
	if len(r.unread) > 0 {
		l.Misread = append(l.Misread,
			Misreading{Text: strings.Join(r.unread, " "), Summary: x.p.Words.Say("not understood: kept as a note"),
				Suggest: x.suggest(r.guessed), Kept: true})
	}
	r.points[len(r.points)-1].Note = strings.Join(r.notes, "; ")
	if r.state != "" {
		for i := range r.points {
			r.points[i].State = r.state
		}
	}
	l.Points = append(l.Points, r.points...)
	l.Spans = append(l.Spans, r.spans...)
}

// newPoint is a point of which nothing is said yet.
var newPoint = install.RoomPoint{Count: 1, State: install.New}

// itemReader reads one item of a line, word by word.
type itemReader struct {
	*lexicon
	line  *Line
	spans []Span
	// ws are the words, at the spans that hold them.
	ws []string
	at []int

	points []install.RoomPoint
	// cur is the point in work; pending is said before a kind and belongs to the next.
	cur, pending install.RoomPoint
	counted      bool
	state        string

	unread, guessed, notes []string
}

// words takes the words out of the spans; one that nobody knows is read as its neighbour.
func (r *itemReader) words() {
	w := r.p.Words
	for i := range r.spans {
		s := &r.spans[i]
		if s.Class != "word" {
			continue
		}
		word := singular(strings.ToLower(s.Text))
		if !r.known[word] && countOf(word) == 0 && !strings.ContainsAny(word, "0123456789") {
			if near := nearest(word, r.list); near != "" {
				s.Class, s.Summary = "guess", w.Say("read as “%s”", near)
				r.line.Misread = append(r.line.Misread,
					Misreading{Text: s.Text, Summary: s.Summary, Suggest: near, Kept: true, Taken: true})
				word = near
			}
		}
		r.ws, r.at = append(r.ws, word), append(r.at, i)
	}
}

// class marks n words from i on as what they were read as.
func (r *itemReader) class(i, n int, name string) {
	for k := i; k < i+n; k++ {
		if r.spans[r.at[k]].Class != "guess" || name == "unread" {
			r.spans[r.at[k]].Class = name
		}
	}
}

// next reads what begins at a word and returns how many words it is.
func (r *itemReader) next(i int) int {
	if ph := r.phraseAt(r.ws[i:]); ph != nil && !(ph.class == "filler" && countOf(r.ws[i]) > 0) {
		if ph.class == "place" {
			return r.place(i)
		}
		r.phrase(ph)
		r.class(i, len(ph.words), ph.class)
		return len(ph.words)
	}
	following := ""
	if i+1 < len(r.ws) {
		following = r.ws[i+1]
	}
	if watts, amps, n := figureOf(r.ws[i], following); n > 0 {
		into := &r.cur
		if r.cur.Kind == "" {
			into = &r.pending
		}
		into.PowerW, into.CurrentA = max(into.PowerW, watts), max(into.CurrentA, amps)
		r.class(i, n, "figure")
		return n
	}
	last := r.phraseAt(r.ws[i+1:]) == nil // nothing that it could count comes behind it
	if n := countOf(r.ws[i]); n > 0 && !(r.counted && r.cur.Kind != "" && last) {
		if r.cur.Kind != "" && r.cur.Count == 1 && last {
			r.cur.Count = n
		} else {
			r.pending.Count = n
		}
		r.counted = true
		r.class(i, 1, "count")
		return 1
	}
	r.unread, r.guessed = append(r.unread, r.spans[r.at[i]].Text), append(r.guessed, r.ws[i])
	r.class(i, 1, "unread")
	return 1
}

// place keeps words that tell a place as a note, up to the next word that says what.
func (r *itemReader) place(i int) int {
	n := 1
	for ; i+n < len(r.ws); n++ {
		if next := r.phraseAt(r.ws[i+n:]); next != nil && next.class != "place" && next.class != "filler" {
			break
		}
	}
	var said strings.Builder
	for k := r.at[i]; k <= r.at[i+n-1]; k++ {
		said.WriteString(r.spans[k].Text)
		r.spans[k].Class = "place"
	}
	r.notes = append(r.notes, note(said.String()))
	return n
}

// phrase takes up what a phrase of the vocabulary says.
func (r *itemReader) phrase(ph *phrase) {
	switch ph.class {
	case "kind":
		if r.cur.Kind != "" {
			r.points = append(r.points, r.cur)
			r.pending.Count, r.counted = 1, false
			r.cur = newPoint
		}
		r.cur.Kind = ph.value
		if r.pending.Count > 1 {
			r.cur.Count, r.pending.Count = r.pending.Count, 1
		}
		if r.pending.Switching != "" {
			r.cur.Switching, r.pending.Switching = r.pending.Switching, ""
		}
		r.cur.Dimmed, r.pending.Dimmed = r.pending.Dimmed, false
		if r.pending.PowerW+r.pending.CurrentA > 0 {
			r.cur.PowerW, r.cur.CurrentA, r.pending.PowerW, r.pending.CurrentA = r.pending.PowerW, r.pending.CurrentA, 0, 0
		}
	case "switching":
		if r.cur.Kind != "" {
			r.cur.Switching = ph.value
		} else {
			r.pending.Switching = ph.value
		}
	case "dimmed":
		r.cur.Dimmed, r.pending.Dimmed = r.cur.Kind != "", r.cur.Kind == ""
	case "state":
		r.state = ph.value
	}
}

// nothing keeps an item in which no point was found as it was typed, and asks.
func (r *itemReader) nothing(typed string) {
	for i := range r.spans {
		if r.spans[i].Class != "space" {
			r.spans[i].Class = "unread"
		}
	}
	suggest := r.suggest(append(slices.Clone(r.ws), r.guessed...))
	if r.pending.Switching != "" || r.pending.Dimmed { // said how, but not what
		suggest = typed + " light"
	}
	l := r.line
	l.Misread = append(l.Misread, Misreading{Text: typed, Summary: r.p.Words.Say("not understood: kept as it was typed"), Suggest: suggest})
	l.Points = append(l.Points, install.RoomPoint{Count: 1, State: install.New, Typed: typed})
	l.Spans = append(l.Spans, r.spans...)
}

// stateMarks are the signs for what becomes of a point.
var stateMarks = map[string]string{"+": install.New, "=": install.Kept, ">": install.Moved, "-": install.Removed,
	"−": install.Removed}

// marks gives the last point its height, wall, feed, box and notes.
func (r *itemReader) marks() {
	last := &r.points[len(r.points)-1]
	for i := range r.spans {
		s := &r.spans[i]
		body := ""
		if len(s.Text) > 0 {
			body = s.Text[len(string(firstRune(s.Text))):]
		}
		switch s.Class {
		case "state":
			if mark := stateMarks[s.Text]; mark != "" {
				r.state = mark
			}
		case "note":
			inner := strings.TrimSuffix(body, ")")
			if strings.HasPrefix(s.Text, `"`) {
				inner = strings.TrimSuffix(body, `"`)
			} else if !closes(s.Text) {
				inner = body
			}
			if n := note(inner); n != "" {
				r.notes = append(r.notes, n)
			}
		case "height":
			r.height(s, body)
		case "wall":
			last.Wall = cmp.Or(unquote(body), last.Wall)
		case "fed":
			last.FedFrom = cmp.Or(unquote(body), last.FedFrom)
		case "box":
			last.Box = cmp.Or(unquote(body), last.Box)
		case "unread":
			r.notes = append(r.notes, note(s.Text))
		}
	}
}

// height reads the height of the last point, or keeps what was typed as a note.
func (r *itemReader) height(s *Span, body string) {
	w := r.p.Words
	mm, says, ok := r.mmOf(body)
	if ok {
		r.points[len(r.points)-1].HeightMM, s.Summary = mm, says
		return
	}
	r.notes = append(r.notes, note(s.Text))
	r.line.Misread = append(r.line.Misread, Misreading{Text: s.Text, Summary: w.Say("no height: kept as a note"),
		Suggest: map[bool]string{true: `@42in or @3'6"`, false: "@1100 or @1.1m"}[r.p.Inches], Kept: true})
	s.Class, s.Summary = "unread", w.Say("no height: kept as a note")
}

// suggest finds a phrase of the vocabulary that holds one of the words, or the
// one that is nearest to the first.
func (x *lexicon) suggest(ws []string) string {
	for _, w := range ws {
		if len(w) < 3 {
			continue
		}
		for _, k := range Kinds {
			if slices.Contains(fold(k.Word), w) {
				return k.Word
			}
		}
	}
	for _, w := range ws {
		best, at := "", 3
		for _, known := range x.list {
			if d := distance(w, known); d < at && len(known) > 3 && len(w) > 3 {
				best, at = known, d
			}
		}
		if best != "" {
			return best
		}
	}
	return ""
}
