package materials

import (
	"embed"
	"strings"

	"arvelt/core/table"
)

//go:embed data/*.csv
var dataFiles embed.FS

// familyRow is a row of families.
type familyRow struct {
	Family string  `col:"family"`
	Group  string  `col:"group"`
	Step   string  `col:"step"`
	Pack   float64 `col:"pack"` // NaN for none
}

// mountingRow is a row of mountings.
type mountingRow struct {
	Surface string  `col:"surface"`
	Product string  `col:"product"`
	Name    string  `col:"name"`
	Count   float64 `col:"count"`
	Heavy   float64 `col:"heavy"` // of an enclosure above [heavyA]
	DrillMM float64 `col:"drill_mm"`
	// InchName and InchDrill are for practices that measure in inches.
	InchName  string `col:"inch_name"`
	InchDrill string `col:"inch_drill"`
	Rule      string `col:"rule"`
}

// heavyA is the rating above which an enclosure counts as heavy, A.
const heavyA = 125

var (
	mountings   = table.LoadOf[mountingRow](dataFiles, "mountings")
	familyTable = table.LoadOf[familyRow](dataFiles, "families")
	families    = map[string]*familyRow{}
)

func init() {
	for r := range familyTable.Text {
		families[familyTable.Row(r).Family] = familyTable.Row(r)
	}
}

// Group is what of the order list stands together, as it is stored and carried.
type Group string

// The groups of the list.
const (
	CableGroup       Group = "cable"
	ContainmentGroup Group = "containment"
	BoardsGroup      Group = "boards"
	SupplyGroup      Group = "supply"
	TrenchGroup      Group = "trench"
	EarthingGroup    Group = "earthing"
	BoxesGroup       Group = "boxes"
	AccessoriesGroup Group = "accessories"
	JointsGroup      Group = "joints"
	LabelsGroup      Group = "labels"
	ConsumablesGroup Group = "consumables"
	WorkGroup        Group = "work"
)

// Groups are the groups in the order of the list.
var Groups = []Group{CableGroup, ContainmentGroup, BoardsGroup, SupplyGroup, TrenchGroup, EarthingGroup, BoxesGroup, AccessoriesGroup, JointsGroup,
	LabelsGroup, ConsumablesGroup, WorkGroup}

// family is the row of the family of a product, nil for one that no table names.
func family(product string) *familyRow {
	name, _, _ := strings.Cut(product, ":")
	return families[name]
}

// packOf is in how many a product is sold where the company's list says nothing, 0 for single ones.
func packOf(product string) float64 {
	if f := family(product); f != nil && f.Pack > 0 {
		return f.Pack
	}
	return 0
}
