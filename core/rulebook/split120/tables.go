// Package split120 is the rulebook of the 120/240 V split-phase practice (North
// American family).
//
// Two hots and a neutral; ground-fault devices at the point of use and at
// breakers; sizes in AWG and kcmil; the service equipment up to the utility's
// splice is the contractor's. A job has the survey and the supply chain: terms,
// where neutral and ground are joined, who may open what, and how the supply is
// lawfully cut; its circuits (uses.go, check_circuit.go), the strings of its outlets
// (check_string.go) and its service (check_service.go) are judged by the same
// named calculations that the bench has (calc_*).
//
// The figures lie in data/, one CSV a table with its source and confidence on
// top, restated from the standards they name: verify against the edition that
// the local authority has adopted.
package split120

import (
	"embed"
	"math"

	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/words"
	"arvelt/core/working"
)

//go:embed data/*.csv
var dataFiles embed.FS

var (
	conductors    = table.LoadOf[conductorsRow](dataFiles, "conductors")
	jumperSizes   = table.LoadOf[jumperSizesRow](dataFiles, "bonding_jumper")
	isolationWays = table.LoadOf[isolationWaysRow](dataFiles, "isolation_routes")
	enclosures    = rulebook.EnclosuresOf(table.Load(dataFiles, "enclosures"))
	surveyWords   = survey()
)

func survey() *rulebook.Survey {
	s := rulebook.SurveyOf(dataFiles)
	s.Places = map[string]string{}
	for r := range roomPlaces.Text {
		s.Places[roomPlaces.Row(r).Room] = roomPlaces.Row(r).Place
	}
	s.InsulationTests = []string{"insulation-hn", "insulation-hg"}
	s.SwitchFeed = options.Named("switchFeed")
	s.ApartMM, s.ApartSource = 2*inchMM, "NEC 800.133(A)(2), 725.136; CEC 60-308"
	s.Inches, s.Sockets, s.Words = true, "receptacles", words.In(words.American)
	// A three-way switch is one of two places here; elsewhere of three.
	s.Phrases = []rulebook.Phrase{{Words: "three way|3 way|3way", Switching: "two-way"},
		{Words: "four way|4 way|4way", Switching: "intermediate"}, {Words: "single pole", Switching: "one-way"}}
	return s
}

const kft = 304.8 // metres in 1000 ft

// ResistancePerM returns Ω/m of a conductor at 20 °C from its resistance at
// 75 °C (NEC Chapter 9 Table 8 and its note 2: R2 = R1 × (1 + α × (T2 − 75)),
// α 0.00323 for copper, 0.00330 for aluminium). ok is false for a size that the
// table does not have.
func ResistancePerM(material, size string) (ohm float64, ok bool) {
	r := conductors.Find(func(it *conductorsRow) bool { return it.Size == size })
	if r < 0 {
		return 0, false
	}
	column, alpha := "r_dc_cu_ohm_kft", 0.00323
	if material == aluminum {
		column, alpha = "r_dc_al_ohm_kft", 0.00330
	}
	v := conductors.Num(r, column) / kft * (1 + alpha*(20-75))
	return v, v > 0 && (material == copper || material == aluminum)
}

// BondingJumper returns the main or supply-side bonding jumper in copper for a
// service conductor: NEC table 250.102(C)(1). It is empty above the table,
// where 12.5 % of the area counts.
func BondingJumper(material, size string) string {
	own := conductors.Find(func(it *conductorsRow) bool { return it.Size == size })
	if own < 0 {
		return ""
	}
	column := "cu_max_kcmil"
	if material == aluminum {
		column = "al_max_kcmil"
	}
	for r := range jumperSizes.Text {
		if working.AtMost(conductors.Row(own).Cmil/1000, jumperSizes.Num(r, column)) {
			return jumperSizes.Row(r).JumperCu
		}
	}
	return ""
}

// same reports whether a figure is that of a table, whose cells are decimal numbers.
func same(cell, v float64) bool { return math.Abs(cell-v) < 1e-9 }
