package store

import (
	"slices"

	"arvelt/core/whole"
)

// Substitute puts another product in the place of one, on every circuit that asks for it, where the rules let it. The error says what would
// fail with it.
func (l *Loaded) Substitute(product, instead string) error {
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	judged, err := whole.SubstitutesOf(&l.Job, l.Prices, l.Acts(), l.Now, product)
	if err != nil {
		return err
	}
	l.Job.Circuits = slices.Clone(l.Job.Circuits)
	ids, err := judged.Take(&l.Job, l.Prices, l.Acts(), l.Now, instead)
	if err != nil {
		return err
	}
	terms := whole.Practice(&l.Job).Terms()
	l.title = l.Job.Words.Say("In the place of %s", judged.Name)
	for _, id := range ids {
		part := circuitParts + id
		if err := l.Touch(part, l.Versions[part], "in the place of "+product); err != nil {
			return err
		}
		if err := l.Job.CircuitByID(id).Validate(terms); err != nil {
			return err
		}
	}
	return l.agrees()
}
