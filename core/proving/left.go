package proving

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Left is something of a kind that was left as it is, and how it stands.
type Left struct {
	Record install.Record `json:"record"`
	Says   string         `json:"says"`   // what it is and where
	Danger bool           `json:"danger"` // people are at risk by it as it stands
	Care   string         `json:"care"`
	Waits  string         `json:"waits"` // what waits for it
	When   string         `json:"when"`  // until when, or for what; empty while nobody said
	Lacks  []string       `json:"lacks"` // what nobody said yet
	Proof  string         `json:"proof"` // what is still needed to put it right; empty where it is there
}

// LeftOf lists what was left of a kind and is not put right: what endangers people first, else in the order in which it was left.
func LeftOf(job *install.Job, tests []rulebook.Test) []Left {
	w, out := job.Words, []Left{}
	for _, r := range LooseEnds(job) {
		if r.Left == "" {
			continue
		}
		t := install.LeftTraits[r.Left]
		out = append(out, Left{Record: r, Says: Says(job, &r), Danger: r.Endangers(), Care: w.Say(string(t.Care)),
			Waits: w.Say(string(leftWaits[waitsFor(&r)])),
			When:  whenOf(w, &r), Lacks: lacks(w, &r), Proof: proofOf(job, tests, &r)})
	}
	slices.SortStableFunc(out, func(a, b Left) int {
		switch {
		case a.Danger == b.Danger:
			return 0
		case a.Danger:
			return -1
		}
		return 1
	})
	return out
}

// leftWaits say what waits, each a message.
var leftWaits = map[install.LeftWait]words.Key{install.WaitsEnergise: words.Key("before its circuit is energised"),
	install.WaitsService: words.Key("before its circuit is put into service"), install.WaitsHandover: words.Key("before the handover"),
	install.WaitsVisit: words.Key("may stay beyond the handover, on the pack")}

// waitsFor is what waits for something that was left: as its kind says, or the handover where that was decided.
func waitsFor(r *install.Record) install.LeftWait {
	waits := install.LeftTraits[r.Left].Waits
	if r.Path == BeforeHandover && waits != install.WaitsVisit {
		return install.WaitsHandover
	}
	return waits
}

// Stays reports whether what was left may stay beyond the handover: its kind may, and it was said who comes back for it and when.
func Stays(r *install.Record) bool {
	return r.Left != "" && waitsFor(r) == install.WaitsVisit && !r.Endangers() && (r.Due != "" || r.Trigger != "") && r.Person != ""
}

// Says is what was left, and where; of what has no kind as it was written down.
func Says(job *install.Job, r *install.Record) string {
	if r.Left == "" {
		return r.Note
	}
	w, at := job.Words, []string{}
	if room := job.RoomByID(r.Room); room != nil {
		at = append(at, room.Name)
	}
	if k := job.CircuitByID(r.Circuit); k != nil {
		if b := k.Serves.BoxByID(r.Box); b != nil {
			at = append(at, b.Called())
		}
		at = append(at, k.Name)
	}
	for _, s := range []string{r.Place, r.Note} {
		if s != "" {
			at = append(at, s)
		}
	}
	return w.Say(string(install.LeftTraits[r.Left].Name)) + ": " + strings.Join(at, ", ")
}

func whenOf(w *words.Catalogue, r *install.Record) string {
	out := []string{}
	if r.Due != "" {
		out = append(out, w.Say("by %s", r.Due))
	}
	if r.Trigger != "" {
		out = append(out, w.Say(string(install.LeftTriggerNames[r.Trigger])))
	}
	return strings.Join(out, ", ")
}

// lacks is what nobody said yet of something that was left.
func lacks(w *words.Catalogue, r *install.Record) (out []string) {
	t := install.LeftTraits[r.Left]
	out = []string{}
	add := func(missing bool, what string) {
		if missing {
			out = append(out, what)
		}
	}
	add(r.Circuit == "" && t.Proof == install.ProofReading, w.Say("its circuit"))
	add(r.Alive == nil && (t.Ends || t.Open), w.Say("whether it is live: nobody proved it dead"))
	add(t.Rated && r.RatingA == nil, w.Say("its rating"))
	add(t.Fed && strings.TrimSpace(r.Protection) == "", w.Say("what protects it"))
	add(t.Fed && strings.TrimSpace(r.Loads) == "", w.Say("what hangs on it"))
	add(r.Person == "", w.Say("who puts it right"))
	add(r.Due == "" && r.Trigger == "", w.Say("until when"))
	return out
}

// proofOf is what is still needed before something that was left may be put right, empty where it is there: a test of its circuit read since
// then that does not fail, or a picture of it. Where its circuit is not known a picture has to do.
func proofOf(job *install.Job, tests []rulebook.Test, r *install.Record) string {
	w := job.Words
	if install.LeftTraits[r.Left].Proof == install.ProofPicture || job.CircuitByID(r.Circuit) == nil {
		if picturedSince(job, r) {
			return ""
		}
		return w.Say("a picture of it as it was put right")
	}
	for i := range job.Records {
		read := &job.Records[i]
		if read.Kind != install.Reading || read.Circuit != r.Circuit || !read.Moment().After(r.Moment()) || read.CouldNot != "" {
			continue
		}
		at := slices.IndexFunc(tests, func(t rulebook.Test) bool { return t.ID == read.Subject && t.Circuit == read.Circuit })
		if at < 0 || install.LeftTraits[r.Left].Open && !tests[at].Live {
			continue // behind a cover the loop is read, or its function
		}
		if v, _ := judge(w, &tests[at], *read); v != working.Fail && v != working.Unknown {
			return ""
		}
	}
	if install.LeftTraits[r.Left].Open {
		return w.Say("a live test of its circuit, read since the cover came off")
	}
	return w.Say("a test of its circuit, read since then")
}

// picturedSince reports whether there is a picture of what was left that is newer than how it stands now.
func picturedSince(job *install.Job, r *install.Record) bool {
	first := job.FirstOf(r.ID)
	return slices.ContainsFunc(job.Current(install.Photo), func(p install.Record) bool {
		return !p.Done && p.Moment().After(r.Moment()) && job.FirstOf(p.Subject) == first
	})
}

// ProvedLeft takes back that conductors are dead where nobody proved it: they were proved dead under the locks of whoever says so, or are of a
// circuit that the job makes and that was not energised yet.
func ProvedLeft(job *install.Job, who install.Person, r *install.Record, facts *Facts, now time.Time) {
	if r.NotDead() {
		return
	}
	if k := job.CircuitByID(r.Circuit); k != nil {
		scope, place := facts.scope(job, who, now), isolate.CircuitPlace(k.ID)
		if scope.Dead(place) == "" || k.State == install.NewCircuit && LiveOf(job, facts.House).At(place) == nil {
			return
		}
	}
	r.Alive = nil
}

// allowLeft: whoever is on site says what was left, and is never refused; that nobody is at risk by it any more is said by who may clear what
// holds the work, with a picture.
func allowLeft(job *install.Job, who install.Person, r install.Record, tests []rulebook.Test) error {
	w := job.Words
	if k := job.CircuitByID(r.Circuit); r.Circuit != "" && k == nil || k != nil && r.Box != "" && k.Serves.BoxByID(r.Box) == nil {
		return install.Errors{{Field: "loose-end.circuit", Value: strings.Trim(r.Circuit+" "+r.Box, " "),
			Accept: w.Say("a circuit of the job and a box of it, or nothing")}}
	}
	if r.Trade != "" && job.Plan.TradeByID(r.Trade) == nil {
		return install.Errors{{Field: "loose-end.trade", Value: r.Trade, Accept: w.Say("a trade of the plan, or nothing while nobody knows who did it")}}
	}
	if r.Room != "" && job.RoomByID(r.Room) == nil {
		return install.Errors{{Field: "loose-end.room", Value: r.Room, Accept: w.Say("a room of the job, or nothing")}}
	}
	if r.Supersedes == "" {
		return nil
	}
	open := LooseEnds(job)
	i := slices.IndexFunc(open, func(l install.Record) bool { return l.ID == r.Supersedes })
	switch {
	case i < 0:
		return &NotYetError{w.Say("This snag is not open.")}
	case open[i].Left != r.Left:
		return install.Errors{{Field: "loose-end.left", Value: string(r.Left), Accept: w.Say("%s: what it is stays", string(open[i].Left))}}
	case !open[i].Endangers() || r.Endangers():
		return nil
	case !who.Holds.Has(install.Releasing):
		return &RoleError{who, r.Kind, w.Say("Whoever is authorised to clear what holds the work says that it is %s.", w.Say("made safe"))}
	case r.NotDead() && !picturedSince(job, &open[i]):
		return &NotYetError{w.Say("There is no picture of it made safe: take one first.")}
	}
	return nil
}

// dangersOf are the findings that say how people are at risk by something that was left and that nobody rectified; now is the one of them that is not
// made safe either, nil for none.
func dangersOf(job *install.Job, first string) (open []install.Record, now *install.Record) {
	steps := map[string]string{}
	for i := range job.Records {
		r := &job.Records[i]
		if r.Kind == install.FindingStep && (r.Path == install.MadeSafe || r.Path == install.Mended) && steps[r.Subject] != install.Mended {
			steps[r.Subject] = r.Path
		}
	}
	for _, o := range job.Current(install.Observation) {
		if o.Answers != install.LeftKey(first) || o.Done || steps[o.ID] == install.Mended {
			continue
		}
		open = append(open, o)
		if steps[o.ID] == "" {
			now = &o
		}
	}
	return open, now
}

// leftLeaves is what follows from something that was left: that people are at risk by it is a finding at once, as often as they come to be, which is
// made safe and rectified with it. class is how the practice calls what is a danger now.
func leftLeaves(job *install.Job, r *install.Record, class string) (out []install.Record) {
	about := r
	if r.Left == "" || r.Done { // it is put right, or open again as it stood
		if about = job.RecordByID(r.Subject); about == nil || about.Left == "" {
			return nil
		}
	}
	first := job.FirstOf(about.ID)
	if about == r && r.Supersedes != "" {
		first = job.FirstOf(r.Supersedes)
	}
	says := Says(job, about)
	open, now := dangersOf(job, first)
	switch {
	case r.Done:
		for _, o := range open {
			out = append(out, install.Record{Kind: install.FindingStep, Subject: o.ID, Circuit: o.Circuit, Path: install.Mended, Note: r.Note})
		}
	case about.Endangers() && now == nil:
		out = append(out, install.Record{Kind: install.Observation, Subject: survey.LiveExposed, Path: class, Evidence: "seen", Note: says, Room: about.Room,
			Place: about.Place, Circuit: about.Circuit, Answers: install.LeftKey(first)})
	case !about.Endangers() && now != nil:
		out = append(out, install.Record{Kind: install.FindingStep, Subject: now.ID, Circuit: now.Circuit, Path: install.MadeSafe, Person: r.By, Note: says})
	}
	return out
}

// allowDayEnd: nobody leaves the house while people are at risk by what was left in it, and whose lock hangs says who takes over.
func allowDayEnd(job *install.Job, who install.Person, r install.Record, facts *Facts) error {
	w, live := job.Words, LiveOf(job, facts.House)
	for i := range facts.Open {
		o := &facts.Open[i]
		if o.Hangs && slices.ContainsFunc(o.Places, func(place string) bool { return live.At(place) != nil }) {
			return &NotYetError{w.Say("%s: luminaires hang open from the ceiling and are live. Isolate them, or push them up isolated, before anybody leaves.", o.Why)}
		}
	}
	for _, l := range LooseEnds(job) {
		if l.Endangers() {
			return &NotYetError{w.Say("People are at risk: %s. Make it safe before anybody leaves.", Says(job, &l))}
		}
	}
	if strings.TrimSpace(r.Note) == "" && slices.ContainsFunc(Locks(job), func(l install.Record) bool { return l.IsBy(who) }) {
		return install.Errors{{Field: "day-end.note", Value: r.Note, Accept: w.Say("why your lock stays overnight, and who knows of it")}}
	}
	return nil
}
