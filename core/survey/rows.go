package survey

// The rows of the tables, as their files under data have them: a field takes the column of its
// tag, in the unit that the column names. They are read once, when the program starts, which
// does not start with a column missing or a number that is none.

// findingRow is a row of findings.
type findingRow struct {
	Finding string `col:"finding"`
	Title   string `col:"title"`
	Needs   string `col:"needs"`
	Risk    string `col:"risk"`
	Until   string `col:"until"`
	Mend    string `col:"mend"`
	Work    string `col:"work"`
	Shared  bool   `col:"shared"`
	// Dead: conductors are handled as it is mended. Ours: the contractor mends it. Operator: it is at the equipment of the network operator.
	Dead     bool `col:"dead"`
	Ours     bool `col:"ours"`
	Operator bool `col:"operator"`
}

// floorRow is a row of floors.
type floorRow struct {
	Floor string `col:"floor"`
	Marks string `col:"marks"`
	Words string `col:"words"`
}

// heightRow is a row of heights.
type heightRow struct {
	Word string  `col:"word"`
	MM   float64 `col:"mm"`
}

// kindRow is a row of kinds.
type kindRow struct {
	Kind       string `col:"kind"`
	Family     string `col:"family"`
	Words      string `col:"words"`
	OwnCircuit bool   `col:"own_circuit"`
	ExtraLow   bool   `col:"extra_low"`
	Switched   bool   `col:"switched"`
	Box        string `col:"box"`
	Loses      string `col:"loses"`
	Plate      string `col:"plate"`
	Recessed   bool   `col:"recessed"`
	BuiltIn    bool   `col:"built_in"`
}

// roomRow is a row of rooms.
type roomRow struct {
	Kind      string `col:"kind"`
	Name      string `col:"name"`
	Words     string `col:"words"`
	Forgotten bool   `col:"forgotten"`
}

// switchingRow is a row of switching.
type switchingRow struct {
	Switching string `col:"switching"`
	Positions string `col:"positions"`
	Words     string `col:"words"`
}

// typicalRow is a row of typical.
type typicalRow struct {
	Room  string  `col:"room"`
	Kinds string  `col:"kinds"`
	Count float64 `col:"count"`
	Asks  string  `col:"asks"`
}
