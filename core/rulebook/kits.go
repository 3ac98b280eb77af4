package rulebook

import (
	"math"
	"strings"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// Kitting is a practice that knows what an enclosure of the supply arrangement takes that the job puts in.
type Kitting interface {
	// Kits lists it enclosure by enclosure, from the operator's end on.
	Kits(job *install.Job, chain *ChainReport) []Kit
}

// Kits is of [Kitting]; nothing where the practice does not know.
func (b Book) Kits(job *install.Job, chain *ChainReport) []Kit {
	if p, ok := b.Practice.(Kitting); ok {
		return p.Kits(job, chain)
	}
	return nil
}

// Kit is what an enclosure takes with the conductors that feed it. Lacks says what is not known yet, so that it cannot be counted.
type Kit struct {
	Enclosure string
	Parts     []Part
	Lacks     []string
}

// KitRow is a row of what an enclosure takes.
type KitRow struct {
	Kind  string `col:"kind"`  // of the enclosure; * for every kind
	Way   string `col:"way"`   // in what its feed runs; * for every way
	Metal string `col:"metal"` // of its feed; empty for either
	// Key and Name may hold the rating {A}, the ways {ways}, the size of the live conductors {size} and of the earth {earth}, their metal
	// {metal}, the bore of the conduit {bore}.
	Key  string `col:"key"`
	Name string `col:"name"`
	// Per is what it is counted by, Count how many for each: see [KitRow.quantity].
	Count  float64 `col:"count"`
	Per    KitPer  `col:"per"`
	EveryM float64 `col:"every_m"` // length of a stick, or greatest spacing, m; NaN for neither
	Rule   string  `col:"rule"`
}

// KitPer is what a part of a kit is counted by.
type KitPer string

// What parts are counted by.
const (
	PerEnclosure KitPer = "enclosure"
	PerLive      KitPer = "live"       // for each live conductor, the neutral counted
	PerLiveM     KitPer = "live-m"     // as long as the live conductors together
	PerFeedM     KitPer = "feed-m"     // as long as the feed
	PerEarthM    KitPer = "earth-m"    // as long as the earth that runs with it
	PerStick     KitPer = "stick"      // for each stick of the feed
	PerJoint     KitPer = "joint"      // between sticks and at both ends
	PerSpacing   KitPer = "spacing"    // at the greatest spacing and one more
	PerJointMust KitPer = "joint-must" // where neutral and earth are joined in it
	PerMarking   KitPer = "marking"    // where the practice marks it
)

// KitOf is what is known of an enclosure for its kit.
type KitOf struct {
	E      *install.Enclosure
	Length install.Length
	Ways   int    // of the board that it is; 0 where none was written down
	Live   int    // live conductors of its feed
	Bore   string // of the conduit that holds them; empty where it is not worked out
	Joined bool   // neutral and earth are joined in it when the work is done
	Marked bool
	Size   func(size string) string // a size as it is said
}

// Kit counts the rows that an enclosure takes.
func (k *KitOf) Kit(w *words.Catalogue, rows []KitRow) Kit {
	out := Kit{Enclosure: k.E.ID}
	f := &k.E.Feed
	ways := map[string]bool{}
	for i := range rows {
		ways[rows[i].Way] = true
	}
	lacks := func(missing bool, what string) bool {
		if missing {
			for _, l := range out.Lacks {
				if l == what {
					return true
				}
			}
			out.Lacks = append(out.Lacks, what)
		}
		return missing
	}
	lacks(!ways[f.Way], w.Say("in what its conductors run"))
	for i := range rows {
		r := &rows[i]
		if r.Kind != "*" && r.Kind != k.E.Kind || r.Way != "*" && r.Way != f.Way || r.Metal != "" && r.Metal != string(f.Material) {
			continue
		}
		if r.Per == PerJointMust && !k.Joined || r.Per == PerMarking && !k.Marked || r.Per == PerEarthM && f.EarthMM2 == "" {
			continue
		}
		needs := r.Key + r.Name
		if lacks(strings.Contains(needs, "{A}") && !k.E.RatingA.Known(), w.Say("its rating")) ||
			lacks(strings.Contains(needs, "{ways}") && k.Ways == 0, w.Say("how many ways it has")) ||
			lacks((strings.Contains(needs, "{size}") || strings.Contains(needs, "{bore}")) && (f.Size == "" || f.Material == ""),
				w.Say("material and size of its conductors")) ||
			lacks(strings.Contains(needs, "{bore}") && k.Bore == "", w.Say("a conduit of the table that holds its conductors")) {
			continue
		}
		n, m := r.quantity(k)
		if lacks(m && !f.LengthM.Known(), w.Say("how long its conductors are")) || n == 0 {
			continue
		}
		fill := strings.NewReplacer("{A}", unit.Format(k.E.RatingA.V()), "{ways}", unit.Format(float64(k.Ways)), "{size}", k.Size(f.Size),
			"{earth}", k.Size(f.EarthMM2), "{metal}", w.Say(metalNames[f.Material]), "{bore}", k.Bore)
		id := strings.NewReplacer("{A}", unit.Format(k.E.RatingA.V()), "{ways}", unit.Format(float64(k.Ways)), "{size}", f.Size,
			"{earth}", f.EarthMM2, "{metal}", string(f.Material), "{bore}", k.Bore)
		p := Part{Key: id.Replace(r.Key), Name: fill.Replace(r.Name), Count: n, Rule: r.Rule}
		if r.Per == PerLiveM || r.Per == PerFeedM || r.Per == PerEarthM {
			p.Unit, p.Cut = k.Length.Unit(), true
			p.Count = unit.Significant(n, 9)
			if r.Per == PerLiveM {
				p.Pieces = k.Live
			}
		}
		out.Parts = append(out.Parts, p)
	}
	return out
}

var metalNames = map[install.Metal]string{"cu": string(words.Key("copper")), "al": string(words.Key("aluminium"))}

// quantity is how many of a row an enclosure takes, and whether that follows from the length of its feed.
func (r *KitRow) quantity(k *KitOf) (n float64, byLength bool) {
	m := k.E.Feed.LengthM.V()
	over := func() float64 { return math.Ceil(unit.Significant(m/r.EveryM, 9)) }
	switch r.Per {
	case PerEnclosure, PerJointMust, PerMarking:
		return r.Count, false
	case PerLive:
		return r.Count * float64(k.Live), false
	case PerLiveM:
		return r.Count * float64(k.Live) * k.Length.Of(m), true
	case PerFeedM, PerEarthM:
		return r.Count * k.Length.Of(m), true
	case PerStick:
		return r.Count * over(), true
	case PerJoint:
		return r.Count * (max(over()-1, 0) + 2), true
	case PerSpacing:
		return r.Count * (over() + 1), true
	}
	return 0, false
}
