package iec230

import (
	"math"
	"strconv"

	"arvelt/core/install"
	"arvelt/core/working"
)

// tailsMostM is how long tails may be that only the fuse at the origin protects.
const tailsMostM = 3.0

var tailsSource = working.Source{Ref: "BS 7671 434.2.1, 433.2; the network operator may set less", Confidence: "high"}

// boardFeeds judges what feeds each further board, and the main one where the job puts it in: its main switch against what may flow
// through it, and the tails and their block where the supply arrangement feeds it.
func (s *system) boardFeeds() {
	for b := range s.Job.EachBoard() {
		feeder := s.Circuit(b.Feed)
		made := b.New || feeder != nil && feeder.State == install.NewCircuit
		if !b.Main() && (made || b.MainSwitchA.Known()) || b.Main() && b.New {
			s.mainSwitch(b, feeder)
		}
		if e := s.Job.Chain.Enclosure(b.Enclosure); e != nil && !b.Main() {
			s.splitTails(b, e)
		}
	}
}

// mainSwitch judges that of a board by what the device ahead lets through, or by what all devices behind it let through where that is less
// (IEC 60364-5-53 536.4.3.2).
func (s *system) mainSwitch(b *install.Board, feeder *install.Circuit) {
	k := s.Of(b.ID)
	k.Title = "Main switch of " + b.Called(nil)
	k.From(working.Source{Ref: "536.4.3.2", Confidence: "medium"})
	in := use(k, "rating of the main switch of "+b.Called(nil), b.MainSwitchA)
	ahead := 0.0
	if feeder != nil {
		ahead = k.Step("ahead", "device of "+feeder.Name, "", feeder.Protection.RatingA, "A", "")
	} else {
		ahead = use(k, "main fuse rating", s.Job.Supply.MainFuseA)
	}
	if len(k.Missing) > 0 {
		return
	}
	behind := 0.0
	for _, c := range s.Job.On(b) {
		behind += c.Protection.RatingA
	}
	most := math.Min(ahead, orBig(behind))
	k.Step("may flow", "the lesser of the device ahead and of all devices behind it", s.Text("min(", ahead, ", ", behind, ")"), most, "A", "536.4.3.2")
	k.Max(most, in)
	k.Summary = s.Text("The main switch of ", in, " A carries what may flow, ", most, " A.")
	if k.Verdict == working.Fail {
		k.Warn()
		k.Summary = s.Text("A main switch of ", in, " A where ", most, " A may flow: not protected against overload; schools differ on relying on diversity.")
	}
	if b.RatingA.Known() && !working.AtMost(most, b.RatingA.V()) {
		k.Decide(false)
		k.Summary = s.Text("The board is rated ", b.RatingA.V(), " A by its manufacturer, and ", most, " A may flow.")
	}
}

// splitTails judges the tails to a board of the supply arrangement and the block by which they are split.
func (s *system) splitTails(b *install.Board, e *install.Enclosure) {
	k := s.Of(b.ID)
	k.Title = "Tails to " + b.Called(nil)
	k.From(tailsSource, cccTails.Source)
	fuse := use(k, "main fuse rating", s.Job.Supply.MainFuseA)
	if e.Feed.DeviceA.Known() {
		fuse = k.Step("device", "that protects the tails", "", e.Feed.DeviceA.V(), "A", "")
	}
	length := use(k, "length of the tails to "+b.Called(nil)+" (Supply sheet)", e.Feed.LengthM)
	mm2, err := strconv.ParseFloat(e.Feed.Size, 64)
	row := cccTails.Find(func(it *cccTailsRow) bool { return same(it.SizeMM2, mm2) })
	if err != nil || row < 0 {
		k.AddMissing("a tabulated size of the tails to " + b.Called(nil) + " (16, 25 or 35 mm²)")
	}
	block := s.Job.Chain.Enclosure(e.From)
	split := block != nil && block.Kind == kindBlock
	blockA := 0.0
	if split {
		blockA = use(k, "rating of "+block.Name, block.RatingA)
		if !block.TorqueNm.Known() {
			k.AddMissing("the torque of the terminals of " + block.Name + ", from its manufacturer")
		}
	}
	if len(k.Missing) > 0 {
		return
	}
	iz := k.Step("Iz", "tabulated, clipped direct", s.Text(mm2, " mm²"), cccTails.Row(row).CccA, "A", cccTails.Source.Ref)
	k.Max(fuse, iz)
	k.Summary = s.Text("Tails of ", mm2, " mm² carry ", iz, " A behind ", fuse, " A.")
	if split && !working.AtMost(fuse, blockA) {
		k.Decide(false)
		k.Summary = s.Text(block.Name, " is rated ", blockA, " A and stands behind ", fuse, " A.")
	}
	if !e.Feed.DeviceA.Known() && !working.AtMost(length, tailsMostM) {
		k.Decide(false)
		k.Summary = s.Text("Tails of ", length, " m: the main fuse protects at most ", tailsMostM, " m. A device at their origin, and a distribution circuit from ",
			"there.")
	}
}

// boardJoints judges whether neutral and earth are joined in a board: in none, as the network operator joins them (or the source), but
// where the supply's combined conductor is split in the main board.
func (s *system) boardJoints() {
	split, _ := penSplit(s.Job)
	for b := range s.Job.EachBoard() {
		if b.Enclosure != "" || b.Joined == nil && (b.Main() || !b.New) {
			continue // of an enclosure of the supply arrangement it is said there
		}
		k := s.Of(b.ID)
		k.Title = "Neutral and earth in " + b.Called(nil)
		k.From(working.Source{Ref: "BS 7671 411.4, 543.4.1; 312.2", Confidence: "high"})
		if b.Joined == nil {
			k.AddMissing("whether neutral and earth are joined in " + b.Called(nil))
			continue
		}
		k.Decide(!*b.Joined || b.Main() && split != nil)
		k.Summary = "Neutral and earth are apart in it."
		if *b.Joined {
			k.Summary = "Neutral and earth are joined in it: the current of the neutral takes the protective conductors too. " +
				"The link is the network operator's."
		}
	}
}
