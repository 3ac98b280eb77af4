package survey

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/words"
	"arvelt/core/working"
)

var findingTable = table.LoadOf[findingRow](dataFiles, "findings")

// FindingKind is one kind of finding in the catalogue.
type FindingKind struct {
	ID      string `json:"id"`
	Title   string `json:"title"`
	Urgency string `json:"urgency"`
	Needs   string `json:"needs"`
	Risk    string `json:"risk"`
	Until   string `json:"until"`
	Mend    string `json:"mend"`
	Work    string `json:"work"`
}

// FindingKinds lists the catalogue in the words of a practice.
func FindingKinds(w *words.Catalogue) []FindingKind {
	out := make([]FindingKind, len(findingTable.Text))
	for r := range findingTable.Text {
		s := func(col string) string { return findingTable.Str(r, col) }
		out[r] = FindingKind{s("finding"), w.Say(s("title")), s("urgency"), s("needs"), w.Say(s("risk")), w.Say(s("until")),
			w.Say(s("mend")), s("work")}
	}
	return out
}

// FindingIDs lists the kinds of finding.
func FindingIDs() []string {
	out := []string{}
	for r := range findingTable.Text {
		out = append(out, findingTable.Row(r).Finding)
	}
	return out
}

// The urgencies, the gravest first.
var urgencies = []string{"now", "soon", "look", "advised"}

// Price is a range from the company's price list; nil where it has none.
type Price struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// Finding is one observation as a client reads it.
type Finding struct {
	ID       string   `json:"id"` // of the record
	Kind     string   `json:"kind"`
	Title    string   `json:"title"`
	Class    string   `json:"class"`
	Urgency  string   `json:"urgency"` // as shown: no graver than the evidence bears
	Where    string   `json:"where"`
	Seen     string   `json:"seen"`
	Risk     string   `json:"risk"`
	Evidence string   `json:"evidence"`
	Softened string   `json:"softened"` // why it is shown less grave than it was graded
	Mend     string   `json:"mend"`
	Price    *Price   `json:"price"`
	Decision string   `json:"decision"` // accepted, declined, later; empty when not decided
	Decided  string   `json:"decided"`  // by whom and when
	Reason   string   `json:"reason"`   // of the decision, in their words
	Covered  string   `json:"covered"`  // what of the job does the work already, so that it has no price of its own; empty for nothing
	Shares   string   `json:"shares"`   // the finding whose work mends this one too, and whose price it is in
	SharesID string   `json:"-"`        // that finding, by the id of its record
	Danger   bool     `json:"danger"`   // graded as one, whatever its evidence bears: it is followed up until it is closed
	Operator bool     `json:"operator"` // at the equipment of the network operator: it is reported, and never declined
	Circuit  string   `json:"circuit"`
	Told     string   `json:"told"`     // who was told, by whom and when; empty when nobody was
	Reported string   `json:"reported"` // to the network operator: to whom, when and under which reference; empty when it was not
	Notice   string   `json:"notice"`   // who was handed the notice of a dangerous condition; empty when nobody was
	Safe     string   `json:"safe"`     // how it was made safe; empty when it was not
	Mended   string   `json:"mended"`   // how it was mended; empty when it was not
	Photos   []string `json:"photos"`   // hashes
	By       string   `json:"by"`
	At       string   `json:"at"` // 2006-01-02

	at time.Time
}

// Section is the findings of one urgency.
type Section struct {
	Urgency  string    `json:"urgency"`
	Title    string    `json:"title"`
	Summary  string    `json:"summary"`
	Findings []Finding `json:"findings"`
}

// Case is the case for the work: what was found, graded by how soon it wants
// mending.
type Case struct {
	Sections []Section    `json:"sections"`
	Count    int          `json:"count"`
	Price    *Price       `json:"price"`    // of all that has one and was not declined
	Unpriced int          `json:"unpriced"` // findings without a price
	Suggest  []Suggestion `json:"suggest"`
	// Hint is what wiring of the house's years usually is; nil while they are not known.
	Hint *rulebook.Era `json:"hint"`
	// Proofs are the tests that prove the hint or not, with where they are still to be read.
	Proofs []Proof `json:"proofs"`
}

// Proof is a test that tells what wiring there is where its age only hints at it.
type Proof struct {
	Test string   `json:"test"` // by id
	Name string   `json:"name"`
	Read int      `json:"read"` // of the circuits that were there, or of the house
	Open []string `json:"open"` // circuits on which it is still to be read, by name; one empty name for the house
}

// Suggestion is a finding that follows from what is noted elsewhere. It is
// taken up by a person or not at all.
type Suggestion struct {
	Kind  string `json:"kind"`
	Title string `json:"title"`
	Why   string `json:"why"`
	Place string `json:"place"`
	Room  string `json:"room"`
	// Circuit is on which circuit of the job, by id; empty for none that is known.
	Circuit string `json:"circuit"`
}

var sectionWords = map[string][2]words.Key{
	"now":     {words.Key("At once"), words.Key("People are at risk as it stands.")},
	"soon":    {words.Key("Should be rectified soon"), words.Key("Safe until something else goes wrong; then it is not.")},
	"look":    {words.Key("To be looked into"), words.Key("It could not be told from what was seen; finding out comes first.")},
	"advised": {words.Key("Advised"), words.Key("Safe as it is. Rectifying it is an improvement; it can wait.")},
}

// PriceOf looks up a price range by key.
type PriceOf func(key string) (low, high float64, ok bool)

// CaseOf makes the case from the job's observations.
func CaseOf(job *install.Job, p *rulebook.Survey, price PriceOf) Case {
	w := job.Words
	c := Case{Sections: []Section{}, Suggest: Suggest(job, p), Proofs: []Proof{}}
	if e, ok := p.EraOf(job.Found.Board.Built, job.Found.Board.Rewired); ok {
		c.Hint = &e
	}
	by := map[string][]Finding{}
	sum := Price{}
	priced := false
	shared := map[string]*Finding{} // works that mend several findings at once, with the first of them
	for _, r := range job.Current(install.Observation) {
		if r.Done {
			continue // mended or withdrawn
		}
		f, _ := noted(job, p, &r)
		work, isShared := f.work(&r)
		if f.Covered = covered(job, work, &r); f.Covered != "" {
			by[f.Urgency] = append(by[f.Urgency], f)
			c.Count++
			continue
		}
		if low, high, ok := price(work); ok {
			f.Price = &Price{low, max(low, high)}
			if isShared && f.Decision != install.Declined && f.Mended == "" {
				if first := shared[work]; first != nil {
					f.Shares, f.SharesID = first.Title, first.ID
				} else {
					shared[work] = &Finding{Title: f.Title, ID: f.ID}
				}
			}
			if f.Decision != install.Declined && f.Mended == "" && f.Shares == "" {
				sum.Low += f.Price.Low
				sum.High += f.Price.High
				priced = true
			}
		} else {
			c.Unpriced++
		}
		by[f.Urgency] = append(by[f.Urgency], f)
		c.Count++
	}
	if priced {
		c.Price = &sum
	}
	for _, u := range urgencies {
		if len(by[u]) > 0 {
			c.Sections = append(c.Sections, Section{u, w.Say(string(sectionWords[u][0])), w.Say(string(sectionWords[u][1])), by[u]})
		}
	}
	return c
}

// Judged is what is remarked on a survey reading.
type Judged struct {
	ID      string          `json:"id"` // of the record
	Verdict working.Verdict `json:"verdict"`
	Summary string          `json:"summary"`
}

// Readings judges the survey's readings against the limits of the practice.
func Readings(job *install.Job, p *rulebook.Survey) []Judged {
	out := []Judged{}
	for _, r := range job.Current(install.SurveyReading) {
		j := Judged{ID: r.ID, Verdict: working.Unknown}
		if q, ok := p.Reading(r.Subject); ok && r.Value != nil {
			j.Verdict, j.Summary = q.Judge(*r.Value)
		}
		out = append(out, j)
	}
	return out
}

// firstOf returns the ids of a record and of all that it supersedes: photos and
// decisions of an earlier version stay with it.
func firstOf(job *install.Job, id string) map[string]bool {
	out := map[string]bool{id: true}
	for i := len(job.Records) - 1; i >= 0; i-- {
		if r := &job.Records[i]; out[r.ID] && r.Supersedes != "" {
			out[r.Supersedes] = true
		}
	}
	return out
}

// work is the key of the work that mends a finding, and whether one piece of it mends
// every finding that asks for it.
func (f *Finding) work(r *install.Record) (key string, shared bool) {
	key = r.Work
	if row := findingTable.Find(func(row *findingRow) bool { return row.Finding == r.Subject }); row >= 0 && key == "" {
		key = findingTable.Row(row).Work
	}
	row := findingTable.Find(func(row *findingRow) bool { return row.Work == key })
	return key, key != "" && row >= 0 && findingTable.Row(row).Shared
}

// noted is an observation with where it is, what was decided and what was done about it, and the ids of all that it corrects.
func noted(job *install.Job, p *rulebook.Survey, r *install.Record) (Finding, map[string]bool) {
	f, ids := findingOf(r, p), firstOf(job, r.ID)
	for _, d := range job.Current(install.Decision) {
		if ids[d.Subject] {
			f.Decision, f.Decided, f.Reason = d.Path, decided(job, &d), d.Note
		}
	}
	for _, photo := range job.Current(install.Photo) {
		if ids[photo.Subject] && !photo.Done {
			f.Photos = append(f.Photos, photo.Reference)
		}
	}
	f.follow(job, ids)
	if room := job.RoomByID(r.Room); room != nil {
		f.Where = strings.Trim(room.Name+", "+f.Where, ", ")
	}
	return f, ids
}

// decided says by whom and when, and how that is on record.
func decided(job *install.Job, d *install.Record) string {
	w, says := job.Words, d.Person+", "+d.At.Format(time.DateOnly)
	switch {
	case d.Signed:
		return says + ", " + w.Say("signed")
	case d.Witness != "":
		return says + ", " + w.Say("witness: %s", d.Witness)
	}
	return says
}

// follow adds what was done about a finding: the newest of each step. The step of the plan in which it is mended says so too, but of a
// danger: that is for whoever may clear it.
func (f *Finding) follow(job *install.Job, ids map[string]bool) {
	w := job.Words
	by := func(r *install.Record) string { return " (" + r.By + ", " + r.At.Format(time.DateOnly) + ")" }
	for _, r := range job.Current(install.FindingStep) {
		if !ids[r.Subject] {
			continue
		}
		switch r.Path {
		case install.Told:
			f.Told = r.Person + ": " + r.Note + by(&r)
		case install.MadeSafe:
			f.Safe = r.Note + by(&r)
			if r.Person != "" {
				f.Safe = w.Say("%s, agreed by %s", r.Note, r.Person) + by(&r)
			}
		case install.Mended:
			f.Mended = r.Note + by(&r)
		case install.Noticed:
			f.Notice = decided(job, &r)
		case install.Reported:
			f.Reported = strings.TrimSpace(r.Person + ", " + strings.Replace(r.Called, "T", " ", 1))
			if r.Reference != "" {
				f.Reported += ", " + w.Say("reference %s", r.Reference)
			}
			if r.Note != "" {
				f.Reported += ": " + r.Note
			}
		}
	}
	if f.Operator && f.Reported == "" { // sent to its desk
		since := f.at // when it was first noted, whatever was corrected of it since
		for i := range job.Records {
			if r := &job.Records[i]; ids[r.ID] && r.At.Before(since) {
				since = r.At
			}
		}
		for _, r := range job.Current(install.Operator) {
			if r.Path == install.Reported && !r.At.Before(since) {
				f.Reported = strings.TrimSpace(r.Person + ", " + strings.Replace(r.Called, "T", " ", 1) + ", " + w.Say("reference %s", r.Reference))
			}
		}
	}
	if f.Danger || f.Mended != "" {
		return
	}
	ticks := map[string]install.Record{}
	for _, r := range job.Records {
		if r.Kind == install.Tick {
			ticks[r.Subject] = r
		}
	}
	for id := range ids {
		if r := ticks[MendStep(id)]; r.Done {
			f.Mended = strings.TrimSpace(r.Note + by(&r))
		}
	}
}

// MendStep is the step of the plan in which a finding is mended, by the id of its observation.
func MendStep(id string) string { return "mend-" + id }

// Work is a finding that was accepted, and that the contractor mends.
type Work struct {
	Finding
	Step string // of the plan
	Key  string // of the price list; empty for none
	Dead bool   // conductors are handled
	// Shares: another of them, or what the job puts in, does the same piece of work and has its parts.
	Shares bool
	Room   string // id
}

// Agreed lists the findings that were accepted and that the contractor mends, in the order in which they were noted.
func Agreed(job *install.Job, p *rulebook.Survey) []Work {
	out, shared := []Work{}, map[string]bool{}
	if !slices.ContainsFunc(job.Records, func(r install.Record) bool { return r.Kind == install.Decision && r.Path == install.Accepted }) {
		return out
	}
	for _, r := range job.Current(install.Observation) {
		row := findingTable.Find(func(row *findingRow) bool { return row.Finding == r.Subject })
		if r.Done || row >= 0 && !findingTable.Row(row).Ours {
			continue
		}
		f, ids := noted(job, p, &r)
		if f.Decision != install.Accepted {
			continue
		}
		work := Work{Finding: f, Dead: row >= 0 && findingTable.Row(row).Dead, Room: r.Room}
		for i := range job.Records { // the first of what it corrects names the step, so that a correction keeps it
			if ids[job.Records[i].ID] {
				work.Step = MendStep(job.Records[i].ID)
				break
			}
		}
		key, isShared := f.work(&r)
		work.Covered = covered(job, key, &r)
		work.Key, work.Shares = key, isShared && shared[key] || work.Covered != ""
		shared[key] = true
		out = append(out, work)
	}
	return out
}

// LiveExposed is the finding that a live part can be touched.
const LiveExposed = "live-exposed"

// Dangers lists the findings under which people are at risk now and that are not mended.
func Dangers(job *install.Job, p *rulebook.Survey) []Finding {
	var out []Finding
	for _, r := range job.Current(install.Observation) {
		if r.Done || !slices.ContainsFunc(p.Classes, func(c rulebook.Class) bool { return c.ID == r.Path && c.Urgency == "now" }) {
			continue
		}
		if f, _ := noted(job, p, &r); f.Mended == "" {
			out = append(out, f)
		}
	}
	return out
}

// AtOperator lists the findings at the equipment of the network operator that are not mended.
func AtOperator(job *install.Job, p *rulebook.Survey) []Finding {
	var out []Finding
	for _, r := range job.Current(install.Observation) {
		if f := findingOf(&r, p); r.Done || !f.Operator {
			continue
		}
		if f, _ := noted(job, p, &r); f.Mended == "" {
			out = append(out, f)
		}
	}
	return out
}

// FindingBy is the finding of an observation by its id; ok is false where there is none now.
func FindingBy(job *install.Job, p *rulebook.Survey, id string) (f Finding, ok bool) {
	for _, r := range job.Current(install.Observation) {
		if r.ID == id && !r.Done {
			f, _ = noted(job, p, &r)
			return f, true
		}
	}
	return Finding{}, false
}

// Grave reports whether a finding is followed up until it is closed: people are at risk now, or it is the operator's to be told.
func (f *Finding) Grave() bool { return f.Danger || f.Operator }

// Refused reports whether a danger is left as it is by whoever decides it, to whom the notice of it was handed.
func (f *Finding) Refused() bool {
	return f.Decision == install.Declined && f.Notice != "" && f.Safe == ""
}

// findingOf words one observation. The risk is stated in full only on the
// evidence that the finding needs; on less it is said that it must be looked
// into, and nothing that was only told or suspected is shown as urgent.
func findingOf(r *install.Record, p *rulebook.Survey) Finding {
	w := p.Words
	f := Finding{ID: r.ID, Kind: r.Subject, Title: r.Note, Class: r.Path, Where: r.Place, Seen: r.Note, Risk: r.Risk,
		Mend: r.Mend, Photos: []string{}, By: r.By, At: r.At.Format(time.DateOnly), Circuit: r.Circuit, at: r.At}
	f.Evidence = map[string]string{"measured": "measured", "seen": w.Say("seen on the survey"), "told": w.Say("told, not yet seen"),
		"suspected": w.Say("suspected, not yet confirmed")}[r.Evidence]
	for _, c := range p.Classes {
		if c.ID == r.Path {
			f.Urgency, f.Danger = c.Urgency, c.Urgency == "now"
		}
	}
	needs := "seen"
	if row := findingTable.Find(func(row *findingRow) bool { return row.Finding == r.Subject }); row >= 0 {
		f.Title = w.Say(findingTable.Row(row).Title)
		f.Operator = findingTable.Row(row).Operator
		needs = findingTable.Row(row).Needs
		if f.Risk == "" {
			f.Risk = w.Say(findingTable.Row(row).Risk)
		}
		if f.Mend == "" {
			f.Mend = w.Say(findingTable.Row(row).Mend)
		}
		if !bears(r.Evidence, needs) {
			f.Risk = w.Say(findingTable.Row(row).Until)
		}
	}
	if !bears(r.Evidence, needs) {
		if f.Urgency == "now" || f.Urgency == "soon" {
			f.Softened = w.Say("Graded %s, shown as to be looked into until it is %s.", r.Path, needs)
			f.Urgency = "look"
		}
		if f.Kind == "other" {
			f.Risk = w.Say("Not yet confirmed: it is looked into before anything is said of the risk.")
		}
	}
	return f
}

// bears reports whether evidence is at least as sure as what is needed.
func bears(evidence, needs string) bool {
	return slices.Index(install.EvidenceKinds, evidence) <= slices.Index(install.EvidenceKinds, needs) && evidence != ""
}

// Suggest lists findings that follow from what is noted elsewhere on the survey
// and nobody has observed yet.
func Suggest(job *install.Job, p *rulebook.Survey) []Suggestion {
	s := suggesting{w: job.Words, out: []Suggestion{}, had: map[string]bool{}}
	for _, r := range job.Current(install.Observation) {
		s.had[r.Subject+"/"+r.Place] = true
		if r.Circuit != "" {
			s.had[r.Subject+"//"+r.Circuit] = true
		}
		s.had[r.Subject] = true
	}
	s.board(job)
	s.circuits(job)
	s.places(job)
	s.readings(job, p)
	return s.out
}

// suggesting gathers suggestions beside what is noted already.
type suggesting struct {
	w   *words.Catalogue
	out []Suggestion
	had map[string]bool
}

// each is of one thing among several: noted of another it is suggested of this one too.
func (s *suggesting) each(kind, place, room, why string) {
	if !s.had[kind+"/"+place] {
		row := findingTable.Find(func(row *findingRow) bool { return row.Finding == kind })
		s.out = append(s.out, Suggestion{Kind: kind, Title: s.w.Say(findingTable.Row(row).Title), Why: why, Place: place, Room: room})
	}
}

func (s *suggesting) put(kind, place, room, why string) {
	if !s.had[kind] {
		s.each(kind, place, room, why)
	}
}

// board suggests what is noted of the board that was found.
func (s *suggesting) board(job *install.Job) {
	w := s.w
	yes := func(b *bool) bool { return b != nil && *b }
	b := job.Found.Board
	if yes(b.Combustible) {
		s.put("combustible-board", job.Board.Location, "", w.Say("the board enclosure is noted as combustible"))
	}
	if yes(b.EscapeRoute) && !(b.Combustible != nil && !*b.Combustible) {
		s.put("escape-board", job.Board.Location, "", w.Say("the board is noted to stand on the escape route"))
	}
	if b.OpenWays != nil && *b.OpenWays > 0 {
		s.put("open-way", job.Board.Location, "", w.Say("%d missing blanks are noted", *b.OpenWays))
	}
	switch b.Near {
	case install.NearWater:
		s.put("wet-place", job.Board.Location, "", w.Say("water is noted above or beside the board"))
	case install.NearGas:
		s.put("board-access", job.Board.Location, "", w.Say("a gas meter or gas pipe is noted close to the board"))
	case install.NearGoods:
		s.put("board-access", job.Board.Location, "", w.Say("things are kept in front of the board or against it"))
	}
	switch b.Covers {
	case install.CoversNone:
		s.put("no-residual", job.Board.Location, "", w.Say("no residual-current device was found"))
	case install.CoversSome:
		s.put("no-residual", job.Board.Location, "", w.Say("only some circuits have residual-current protection"))
	case install.CoversFire:
		s.put("no-residual", job.Board.Location, "",
			w.Say("the residual-current device that was found does not protect people: it is above 30 mA"))
	}
	if b.Arrester == "hidden" {
		s.put("surge-hidden", job.Board.Location, "", w.Say("the surge device is noted as out of sight"))
	}
	if b.Arrester == "none" {
		s.put("no-surge", job.Board.Location, "", w.Say("no surge device was found"))
	}
	if len(job.Board.Ways) > 0 && !slices.ContainsFunc(job.Board.Ways, func(w install.Way) bool { return w.Free() }) {
		s.put("no-free-way", job.Board.Location, "", w.Say("every way of the board is taken"))
	}
}

// insulationFindings is what is found where the insulation of a circuit looks like that, and in which words.
var insulationFindings = map[install.Insulation]struct {
	kind string
	why  words.Key
}{
	install.InsulationBrittle: {"old-cable", words.Key("its insulation is noted as brittle")},
	install.InsulationDamaged: {"cable-damaged", words.Key("its insulation is noted as damaged")},
	install.InsulationGnawed:  {"vermin", words.Key("its insulation is noted as gnawed")},
}

// on is of one circuit that was found, and of the circuit of the job that it is.
func (s *suggesting) on(k *install.FoundCircuit, kind, why string) {
	if k.Circuit != "" && s.had[kind+"//"+k.Circuit] {
		return
	}
	n := len(s.out)
	if s.each(kind, k.Name, "", why); len(s.out) > n {
		s.out[n].Circuit = k.Circuit
	}
}

// circuits suggests what is noted of the circuits that were found.
func (s *suggesting) circuits(job *install.Job) {
	w := s.w
	mixed := 0
	for i := range job.Found.Circuits {
		k := &job.Found.Circuits[i]
		if f, ok := insulationFindings[k.Insulation]; ok {
			s.on(k, f.kind, w.Say(string(f.why)))
			if k.Insulation == install.InsulationGnawed {
				s.on(k, "no-arc", w.Say("animals gnaw cables there: an arc in a damaged one would not be noticed"))
			}
		}
		if k.Terminal == install.TooMany {
			s.on(k, "double-tapped", w.Say("more conductors in its terminal than that is made for are noted"))
		}
		if k.TailM.Known() && k.TailM.V() < install.LeastTailM && !k.Joint {
			s.on(k, "tail-short", w.Say("its tail is noted with less to spare than it takes to reach its way on another board"))
		}
		if k.State == install.CutAtOneEnd || k.State == install.Unidentified {
			s.on(k, "cable-abandoned", w.Say("a circuit is noted as %s", k.State))
		}
		if k.Wiring.Aged() && k.Insulation != install.InsulationBrittle {
			s.on(k, "old-cable", w.Say("its wiring is of a kind whose insulation has grown old wherever it is found"))
		}
		if k.Wiring == install.WiringAluminium {
			s.on(k, "aluminium", w.Say("its conductors are noted as aluminium"))
		}
		if k.Colours == "mixed" {
			mixed++
		}
	}
	if mixed > 0 {
		s.put("colours-mixed", "", "", w.Say("%d circuits have cores of both ages", mixed))
	}
}

// places suggests what hazards and the enclosures of the supply say.
func (s *suggesting) places(job *install.Job) {
	w := s.w
	for _, h := range job.Found.Hazards {
		switch {
		case h.Clear:
		case h.Kind == install.SuspectedAsbestos:
			s.put("asbestos", h.Place, h.Room, w.Say("it is on the list of hazards"))
		case h.Kind == install.AbandonedCable:
			s.put("cable-abandoned", h.Place, h.Room, w.Say("it is on the list of hazards"))
		case h.Kind == install.Vermin:
			s.put("vermin", h.Place, h.Room, w.Say("it is on the list of hazards"))
			s.put("no-arc", h.Place, h.Room, w.Say("animals gnaw cables there: an arc in a damaged one would not be noticed"))
		}
	}
	for _, e := range job.Chain.Enclosures {
		if e.Sealed == install.SealBroken || strings.Contains(strings.ToLower(e.Condition), "burn") ||
			strings.Contains(strings.ToLower(e.Condition), "crack") {
			s.put("intake-damage", e.Name, "", w.Say("its condition or seal is noted so on the supply arrangement"))
		}
	}
}

// readings suggests what a reading of the survey shows.
func (s *suggesting) readings(job *install.Job, p *rulebook.Survey) {
	w := s.w
	for _, r := range job.Current(install.SurveyReading) {
		q, ok := p.Reading(r.Subject)
		if !ok || r.Value == nil {
			continue
		}
		if _, says := q.Judge(*r.Value); says != "" {
			s.put(q.Finding, r.Place, r.Room, w.Say("%s read %g %s: %s", q.Name, *r.Value, q.Unit, says))
		}
	}
}
