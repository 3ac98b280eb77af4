package split120

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

const (
	needGFCI    = "ground-fault protection"
	needAFCI    = "arc-fault protection"
	needTamper  = "tamper resistance"
	needWeather = "weather resistance"

	labelProtected = "GFCI Protected"
	labelNoGround  = "No Equipment Ground"

	// AtPanel is the device at the panel among those that protect a box.
	AtPanel = "board"

	in3ML = 16.387064
)

// feedsOf lists the boxes that a box feeds.
func feedsOf(s *install.Serves, id string) (out []*install.Box) {
	for i := range s.Boxes {
		if s.Boxes[i].From == id {
			out = append(out, &s.Boxes[i])
		}
	}
	return out
}

// markingsRead reports whether the marking of every ground-fault device from the panel
// to a box, its own included, was read.
func markingsRead(s *install.Serves, b *install.Box) bool {
	for steps := 0; b != nil && steps <= len(s.Boxes); steps++ {
		if b.Device == install.GroundFault && b.Feed == "" {
			return false
		}
		parent := s.BoxByID(b.From)
		if parent != nil && parent.Device == install.GroundFault && b.Side == "" {
			return false
		}
		b = parent
	}
	return true
}

// column is that of the edition or of Canada in the tables of places, "" for an edition
// that they do not have.
func (s *system) column() string {
	switch {
	case s.code == CEC:
		return cecColumn
	case s.edition == 0:
		return ""
	}
	return text(s.edition)
}

// placeNeeds is what the place that a circuit serves asks for, where it has no boxes.
type placeNeeds struct {
	name string
	arc  Answer
}

// groundFault judges what the outlets of a circuit need by their places and what they get
// as they are wired; without boxes, by the place that the circuit serves.
func (c *circuit) groundFault() {
	k := c.On(c.k.ID)
	k.From(under(gfciPlaces.Table, c.code))
	if c.column() == "" {
		k.AddMissing(text("an edition that is in the tables: ", editions[0], ", ", editions[1], " or ", editions[2]))
		return
	}
	if !c.rules.isString && !slices.ContainsFunc(c.k.Serves.Boxes, func(b install.Box) bool { return b.Device.Outlet() }) ||
		len(c.k.Serves.Boxes) == 0 {
		c.onePlace(k) // nothing on its run plugs in
		return
	}
	c.boxes = c.followed()
	c.coverage(k, c.boxes, needGFCI)
}

// arcFault judges arc-fault protection in the same way.
func (c *circuit) arcFault() {
	if c.boxes == nil {
		c.arcAt(c.needs.name, c.needs.arc)
		return
	}
	k := c.On(c.k.ID)
	k.From(under(afciPlaces.Table, c.code))
	c.coverage(k, c.boxes, needAFCI)
}

// outletsKnown reports whether what the outlets ask for could be told, boxed whether from
// boxes in their order.
func (c *circuit) outletsKnown() bool { return c.boxes != nil || c.needs != nil }
func (c *circuit) boxed() bool        { return c.boxes != nil }

// onePlace judges a circuit without boxes by the place that it serves, and by whether
// what it feeds plugs in or is wired in.
func (c *circuit) onePlace(gfci *working.Check) {
	p, serves := &c.k.Protection, &c.k.Serves
	if serves.Place == "" {
		if c.k.Use == useInfeed {
			gfci.Decide(true)
			gfci.Summary = "An inlet: the source's own receptacles are protected at the source."
			return
		}
		gfci.AddMissing("the place that it serves")
		return
	}
	name := placeNames[serves.Place]
	needs, err := protectionOf(c.column(), outlet{Room: serves.Place, Volts: voltsOf(c.k), RatingA: p.RatingA})
	if err != nil {
		gfci.AddMissing(err.Error())
		return
	}
	fixed, condition := wiredNeed(c.column(), serves.Place, c.rules.id == useLighting, p.RatingA)
	need, remark := needs.GFCI, needs.Condition
	switch known := serves.Plugged; {
	case c.rules.wiring == wiredIn || c.rules.wiring == eitherWay && known != nil && !*known:
		need, remark = fixed, condition
	case c.rules.wiring == eitherWay && known == nil && fixed != need && p.RCDType == "":
		gfci.AddMissing("whether it plugs into a receptacle or is wired in")
		gfci.Summary = "Open: a receptacle at " + name + " needs it where what is wired in may not. Say whether it plugs in."
	}
	if len(gfci.Missing) == 0 {
		gfci.Step("by place", name, text("edition ", c.column()), map[Answer]float64{Yes: 1}[need], "", under(gfciPlaces.Table, c.code).Ref)
		switch has := p.RCDType != ""; {
		case has:
			gfci.Decide(true)
			gfci.Summary = "Its breaker protects all of it."
			if c.k.Use == useEV {
				gfci.Warn()
				gfci.Summary += " The unit has protection of its own: its instructions say whether a ground-fault breaker ahead of " +
					"it is allowed."
			}
		case need == Open:
			gfci.AddMissing("what the table says of " + name)
		case need == OnCondition:
			gfci.Warn()
			gfci.Summary = "Required under conditions at " + name + ": " + remark + "."
		case need == Yes:
			gfci.Decide(false)
			gfci.Summary = "Required at " + name + "."
		default:
			gfci.Decide(true)
			gfci.Summary = "Not required at " + name + "."
		}
	}
	c.needs = &placeNeeds{name, needs.AFCI}
}

// arcAt judges arc-fault protection of a circuit without boxes by its place.
func (c *circuit) arcAt(name string, need Answer) {
	if !plugsAtLegV(c.k) || c.k.Protection.RatingA > shutteredUpToA {
		return
	}
	arc := c.On(c.k.ID)
	arc.From(under(afciPlaces.Table, c.code))
	if c.code == CEC && c.rules.wiring == wiredIn {
		need = No // the rule speaks of circuits with receptacles
	}
	switch has := c.k.Protection.ArcFault; {
	case has:
		arc.Decide(true)
		arc.Summary = "Its breaker has it."
	case need == Open:
		arc.AddMissing("the room that " + name + " lies in")
	default:
		arc.Decide(need != Yes)
		arc.Summary = "Not required at " + name + "."
		if need == Yes {
			arc.Summary = "Required for outlets and devices at " + name + "."
		}
	}
}

// followed follows the string and says of each box what it needs and what it gets.
func (c *circuit) followed() []rulebook.BoxReport {
	s, p := &c.k.Serves, &c.k.Protection
	in := stringIn{Breaker: p.RCDType != ""}
	for i := range s.Boxes {
		b := &s.Boxes[i]
		d := stringDevice{ID: b.ID, Type: "plain", From: "panel", Side: string(b.Side)}
		if b.Device == install.GroundFault {
			d.Type, d.Reversed = "gfci", b.Feed == install.LoadSide
		}
		if b.From != "" {
			d.From = b.From
		}
		in.Devices = append(in.Devices, d)
	}
	out, _, err := calcString(in)
	reports := make([]rulebook.BoxReport, len(s.Boxes))
	dead, darkens, opens := map[string]bool{}, map[string][]string{}, map[string][]string{}
	if err == nil {
		for _, id := range out.Dead {
			dead[id] = true
		}
		for g, ids := range out.Trips {
			darkens[g] = ids
			for _, id := range ids {
				opens[id] = append(opens[id], g)
			}
		}
	}
	for i := range s.Boxes {
		b := &s.Boxes[i]
		r := &reports[i]
		*r = rulebook.BoxReport{ID: b.ID, Live: !dead[b.ID], Read: markingsRead(s, b), Protected: []string{},
			Needs: []string{}, Missing: []string{}, Labels: []string{}, Darkens: append([]string{}, darkens[b.ID]...),
			Verdict: working.Pass}
		r.Protected = append(r.Protected, opens[b.ID]...)
		slices.Sort(r.Protected)
		if in.Breaker {
			r.Protected = append(r.Protected, AtPanel)
		}
		c.judgeBox(b, r)
	}
	return reports
}

// judgeBox says what a box needs by its place, and what is wrong with it.
func (c *circuit) judgeBox(b *install.Box, r *rulebook.BoxReport) {
	lack := func(what string, v working.Verdict) {
		r.Missing, r.Verdict = append(r.Missing, what), working.Worst(r.Verdict, v)
	}
	if b.Device == install.NoDevice {
		r.Summary = "Joined only."
		return
	}
	plugs := b.Device.Outlet()
	if b.Place == "" {
		lack("the kind of place", working.Unknown)
	} else {
		o := outlet{Room: b.Place, Volts: voltsOf(c.k), HeightIn: b.HeightMM / inchMM, RatingA: b.RatingA}
		if b.SinkMM != nil {
			in := *b.SinkMM / inchMM
			o.SinkIn = &in
		}
		needs, err := protectionOf(c.column(), o)
		if err != nil {
			lack(err.Error(), working.Unknown)
		}
		shutters := needs.Tamper
		if b.Device == install.TwoSlot {
			shutters = No
		}
		for _, n := range []struct {
			needed Answer
			has    bool
			what   string
		}{{needs.GFCI, len(r.Protected) > 0 && r.Read, needGFCI}, {needs.AFCI, c.k.Protection.ArcFault, needAFCI},
			{shutters, b.Shuttered, needTamper}, {needs.Weather, b.Weather, needWeather}} {
			switch {
			case n.needed == No || n.needed != Yes && n.has || !plugs && n.what != needAFCI: // the others are of what plugs in
			case n.needed == OnCondition:
				lack("an answer: "+needs.Condition, working.Caution)
			case n.needed == Open:
				lack("the room that "+placeNames[b.Place]+" lies in, for "+n.what, working.Unknown)
			default:
				r.Needs = append(r.Needs, n.what)
				switch {
				case n.has:
				case n.what == needGFCI && !r.Read:
					lack("LINE and LOAD as marked, to know whether it is protected", working.Unknown)
				default:
					lack(n.what, working.Fail)
				}
			}
		}
	}
	if plugs {
		c.judgeGround(b, r, lack)
	}
	others := slices.DeleteFunc(slices.Clone(r.Protected), func(id string) bool { return id == b.ID })
	switch {
	case b.Device == install.GroundFault && b.Feed == install.LoadSide:
		lack("its feed on LINE: it lies on LOAD, so its face is dead and it will not reset", working.Fail)
	case !r.Live:
		lack("a feed: it hangs on a device whose feed lies on LOAD", working.Fail)
	case b.Device == install.GroundFault && len(others) > 0:
		lack("a reason for two in series: either may trip, and the reset has to be looked for at both", working.Caution)
	}
	names := []string{}
	for _, id := range r.Protected {
		switch x := c.k.Serves.BoxByID(id); {
		case id == AtPanel:
			names = append(names, "the breaker")
		case id == b.ID:
			names = append(names, "itself")
		case x != nil:
			names = append(names, x.Name)
		}
	}
	switch {
	case !r.Read:
		r.Summary = "Marking not recorded: read LINE and LOAD on every device up to here, or prove them by test."
	case len(names) == 0:
		r.Summary = "Protected by no device."
	default:
		r.Summary = "Protected by " + strings.Join(names, " and ") + "."
	}
	if b.Device == install.GroundFault && r.Read && r.Live && len(r.Darkens) == 1 && len(feedsOf(&c.k.Serves, b.ID)) > 0 {
		r.Summary += " What follows is on LINE: it protects only itself."
	}
	if len(r.Missing) > 0 {
		r.Summary += " Missing: " + strings.Join(r.Missing, "; ") + "."
	}
}

// judgeGround holds an outlet without an equipment ground to what may replace it
// (406.4(D)), with the labels that follow.
func (c *circuit) judgeGround(b *install.Box, r *rulebook.BoxReport, lack func(string, working.Verdict)) {
	if b.Ground == nil {
		lack("whether an equipment ground is in the box", working.Unknown)
		return
	}
	upstream := slices.ContainsFunc(r.Protected, func(id string) bool { return id != b.ID })
	in := replacementIn{Ground: *b.Ground, Choice: "grounding_plain", Upstream: upstream && r.Read, TamperArea: false, Tamper: true}
	switch {
	case b.Device == install.TwoSlot:
		in.Choice = "nongrounding"
	case b.Device == install.GroundFault:
		in.Choice = "gfci"
	case !*b.Ground:
		in.Choice = "grounding_via_gfci"
	}
	out, _, err := calcReplacement(in)
	if err != nil {
		lack(err.Error(), working.Unknown)
		return
	}
	for _, m := range out.Missing {
		if m == needGFCIWord {
			m = "a ground: without one a three-slot outlet stands only behind ground-fault protection, labeled"
		}
		lack(m, working.Fail)
	}
	if len(out.Missing) == 0 { // what is not protected does not say that it is
		r.Labels = append(r.Labels, out.Labels...)
	}
	if b.Device == install.TwoSlot && !b.Replaces {
		lack("a two-slot outlet only where it replaces one", working.Fail)
	}
}

const needGFCIWord = "GFCI protection"

// touched reports whether the job works at a box: on a circuit that it leaves alone, where it replaces the outlet.
func touched(k *install.Circuit, b *install.Box) bool {
	return k.State != install.KeptCircuit || b.Replaces
}

// coverage makes a check of one protection over a string.
func (c *circuit) coverage(k *working.Check, boxes []rulebook.BoxReport, what string) {
	need, bare, unread := 0.0, []string{}, false
	for i := range boxes {
		if !slices.Contains(boxes[i].Needs, what) || !touched(c.k, &c.k.Serves.Boxes[i]) {
			continue
		}
		need++
		switch {
		case slices.Contains(boxes[i].Missing, what):
			bare = append(bare, c.k.Serves.Boxes[i].Name)
		case what == needGFCI && !boxes[i].Read:
			unread = true
		}
	}
	k.Step("outlets that need it", "by place and edition, or so near a sink or tub", text("edition ", c.column()), need, "",
		k.Sources[0].Ref)
	k.Step("without it", strings.Join(bare, ", "), "", float64(len(bare)), "", "")
	switch {
	case len(bare) > 0:
		k.Decide(false)
		k.Summary = "Without it: " + strings.Join(bare, ", ") + "."
	case unread:
		k.AddMissing("LINE and LOAD as marked on every device of the string")
	default:
		k.Decide(true)
		k.Summary = text(need, " of ", len(boxes), " outlets need it, and have it.")
		if need == 0 {
			k.Summary = "No outlet of this circuit needs it."
		}
	}
}

// wiring judges the string itself: LINE and LOAD, dead outlets, grounds.
func (c *circuit) wiring() {
	boxes := c.boxes
	k := c.On(c.k.ID)
	k.From(under(protectionNotes, c.code), under(receptacleRules, c.code))
	protected := 0.0
	said := []string{}
	for i := range boxes {
		if len(boxes[i].Protected) > 0 {
			protected++
		}
		if !touched(c.k, &c.k.Serves.Boxes[i]) {
			continue
		}
		for _, l := range boxes[i].Missing {
			if l != needGFCI && l != needAFCI && l != needTamper && l != needWeather {
				said = append(said, c.k.Serves.Boxes[i].Name+": "+l)
			}
		}
	}
	k.Step("protected", "what hangs on LOAD of a working device, and the device itself", "", protected, "", clauseProtects.ref(c.code))
	worst := working.Pass
	for i := range boxes {
		if wrong := c.tried(&c.k.Serves.Boxes[i]); wrong != "" {
			said = append(said, c.k.Serves.Boxes[i].Name+": "+wrong)
			boxes[i].Verdict = working.Fail
			boxes[i].Missing = append(boxes[i].Missing, wrong)
		}
	}
	for i := range boxes {
		if !touched(c.k, &c.k.Serves.Boxes[i]) {
			continue
		}
		only := boxes[i].Verdict
		if only == working.Fail && !slices.ContainsFunc(boxes[i].Missing,
			func(l string) bool { return l != needGFCI && l != needAFCI && l != needTamper && l != needWeather }) {
			only = working.Pass // said by the checks of those
		}
		worst = working.Worst(worst, only)
	}
	k.Conclude(worst)
	switch {
	case len(said) > 0:
		k.Summary = strings.Join(said, ". ") + "."
		if worst == working.Unknown {
			k.AddMissing(said...)
		}
	default:
		k.Summary = text(protected, " of ", len(boxes), " outlets open on a ground fault.")
	}
}

// tried says what a test at an outlet showed to be wrong, empty when nothing did: what was
// drawn is no better than what was read.
func (c *circuit) tried(b *install.Box) string {
	if r := c.read.Newest("trip:"+b.ID, c.k.ID); r != nil && r.Passed != nil && !*r.Passed {
		return "its ground-fault device did not open when it was tried"
	}
	grounded := b.Ground == nil || *b.Ground
	if r := c.read.Newest("tester:"+b.ID, c.k.ID); r != nil && r.Answer != "" {
		if verdict, says := pattern(grounded)(*r); verdict == working.Fail {
			return "its tester says: " + strings.TrimSuffix(says, ".")
		}
	}
	return ""
}

// receptacles judges outlets against their circuit (210.21(B)), shutters and weather
// (406.9, 406.12), and two circuits on one yoke (210.7).
func (c *circuit) receptacles() {
	boxes := c.boxes
	k := c.On(c.k.ID)
	k.From(under(receptacleRules, c.code), clausePairRule.in(c.code))
	outlets := 0
	for i := range c.k.Serves.Boxes {
		if b := &c.k.Serves.Boxes[i]; b.Device.Outlet() {
			n := 2 // a duplex is two receptacles
			if b.Single {
				n = 1
			}
			outlets += n * max(b.Yokes, 1)
		}
	}
	wrong := []string{}
	for i := range c.k.Serves.Boxes {
		b := &c.k.Serves.Boxes[i]
		if !b.Device.Outlet() || !touched(c.k, b) {
			continue
		}
		if b.RatingA == 0 {
			k.AddMissing("the rating of the outlet at " + b.Name)
		} else if says := outletFits(b.RatingA, c.k.Protection.RatingA, outlets == 1); says != "" {
			wrong = append(wrong, b.Name+": "+says)
		}
		for _, what := range []string{needTamper, needWeather} {
			if slices.Contains(boxes[i].Missing, what) {
				wrong = append(wrong, b.Name+": "+what+" is required")
			}
		}
		if b.Split && hotsOf(c.k) == 1 {
			k.Assumes("the half with its tab removed at " + b.Name + " stays on this circuit; fed by two, both open together")
		}
	}
	if len(wrong) > 0 {
		k.Missing = []string{}
	}
	k.Decide(len(wrong) == 0)
	k.Summary = strings.Join(wrong, ". ")
	if len(wrong) == 0 && len(k.Missing) == 0 {
		k.Summary = "Every outlet may stand on a circuit of " + text(c.k.Protection.RatingA) + " A."
	}
}

// outletFits says why an outlet of a rating may not stand on a circuit, "" when it
// may: a single one at least the circuit's rating, two and more as Table 210.21(B)(3).
func outletFits(outletA, circuitA float64, single bool) string {
	allowed := map[float64][]float64{15: {15}, 20: {15, 20}, 30: {30}, 40: {40, 50}, 50: {50}}[circuitA]
	if single {
		if outletA < circuitA {
			return text("a single outlet of ", outletA, " A on a circuit of ", circuitA, " A: at least ", circuitA, " A")
		}
		return ""
	}
	if allowed == nil {
		return text("outlets on a circuit of ", circuitA, " A: the table has 15, 20, 30, 40 and 50 A")
	}
	if !slices.Contains(allowed, outletA) {
		list := []string{}
		for _, a := range allowed {
			list = append(list, unit.Format(a))
		}
		return text("an outlet of ", outletA, " A on a circuit of ", circuitA, " A: ", strings.Join(list, " or "), " A")
	}
	return ""
}

// boxFill judges the volume of each box (314.16).
func (c *circuit) boxFill() {
	boxes := c.boxes
	k := c.On(c.k.ID)
	k.From(under(boxVolumes.Table, c.code))
	s := &c.k.Serves
	worst, worstAt := 0.0, -1
	open := []string{}
	for i := range s.Boxes {
		b := &s.Boxes[i]
		if !touched(c.k, b) {
			continue
		}
		in, n, conductors := c.inBox(b)
		out, _, err := calcBox(in)
		if err != nil {
			k.AddMissing(err.Error())
			return
		}
		fill := out.in3()
		boxes[i].FillML = fill * in3ML
		k.Step(b.Name, text(n, " cables, ", conductors, " conductors, grounds, ", max(b.Yokes, 1), " on a yoke, ",
			joinedIn(c.Job, c.k, b).links, " pigtails not counted"), "", fill, "in³", clauseBoxFill.ref(c.code))
		if b.VolumeML == 0 {
			open = append(open, text(b.Name, " (at least ", fill, " in³)"))
			continue
		}
		if share := fill / (b.VolumeML / in3ML); share > worst {
			worst, worstAt = share, i
		}
	}
	if worstAt >= 0 {
		b := &s.Boxes[worstAt]
		k.Max(boxes[worstAt].FillML/in3ML, b.VolumeML/in3ML)
		k.Summary = text(b.Name, " is the fullest: ", boxes[worstAt].FillML/in3ML, " of ", b.VolumeML/in3ML, " in³.")
		if k.Verdict == working.Fail {
			boxes[worstAt].Verdict = working.Fail
			boxes[worstAt].Missing = append(boxes[worstAt].Missing, text("room: a box of ", boxes[worstAt].FillML/in3ML, " in³"))
		}
	}
	if len(open) > 0 && k.Verdict != working.Fail {
		k.Warn()
		k.Summary = strings.TrimSpace(k.Summary + " Read the volume marked in: " + strings.Join(open, ", ") + ".")
	}
}

// inBox is what a box holds, for its fill, with how many cables enter it and how many conductors these bring beside their grounds.
func (c *circuit) inBox(b *install.Box) (in boxIn, cables int, conductors float64) {
	cables = c.k.Serves.CablesAt(b)
	conductors = float64(cables * coresOf(c.k))
	if c.row.cores > 0 {
		conductors = float64(cables * c.row.cores)
	}
	in = boxIn{Edition: c.edition, School: string(c.code), Conductors: []counted{{c.size, conductors}}, Clamps: b.Clamps}
	if b.Ground == nil || *b.Ground {
		ground := c.row.ground[c.size]
		if ground == "" {
			ground = sizeOf[c.k.Route.CPCMM2]
		}
		if ground != "" {
			in.Grounds = []counted{{ground, float64(cables)}}
		}
	}
	if c.code == CEC {
		in.Connectors = float64(len(joinedIn(c.Job, c.k, b).joints))
	}
	if b.Device.Yoke() {
		for range max(b.Yokes, 1) {
			in.Devices = append(in.Devices, boxDevice{Largest: c.size})
		}
	}
	return in, cables, conductors
}

// joints judges the boxes in which conductors are only joined.
func (c *circuit) joints() {
	rulebook.Joints(c.On(c.k.ID), c.k, rulebook.JointTerms{Source: clauseSplices.in(c.code)})
}
