package rulebook

import (
	"fmt"
	"math"
	"slices"

	"arvelt/core/working"
)

// Worked collects the steps of a calculation.
type Worked struct{ Steps []working.Step }

// Add appends a line of working and returns its value.
func (w *Worked) Add(symbol, formula, with string, value float64, unit, source string) float64 {
	w.Steps = append(w.Steps, working.Step{Symbol: symbol, Formula: formula, With: with, Value: value, Unit: unit, Source: source})
	return value
}

// Positive refuses what is not a finite number above zero, naming the key.
func Positive(key string, v float64, unit string) error {
	if !(v > 0) || math.IsInf(v, 0) {
		return fmt.Errorf("%s: %g is not accepted; give a number above 0%s", key, v, spaced(unit))
	}
	return nil
}

// ZeroOrMore refuses what is not a finite number from zero, naming the key.
func ZeroOrMore(key string, v float64, unit string) error {
	if !(v >= 0) || math.IsInf(v, 0) {
		return fmt.Errorf("%s: %g is not accepted; give a number from 0%s", key, v, spaced(unit))
	}
	return nil
}

// Between refuses a number outside low to high, naming the key.
func Between(key string, v, low, high float64, unit string) error {
	if !(v >= low && v <= high) {
		return fmt.Errorf("%s: %g is not accepted; give %g to %g%s", key, v, low, high, afterSpace(unit))
	}
	return nil
}

func afterSpace(unit string) string {
	if unit == "" {
		return ""
	}
	return " " + unit
}

// OneOf refuses a text that is not among the accepted, naming the key.
func OneOf(key, v string, accepted ...string) error {
	if !slices.Contains(accepted, v) {
		return fmt.Errorf("%s: %q is not accepted; give one of %q", key, v, accepted)
	}
	return nil
}

// FirstError returns the first error that is one.
func FirstError(errs ...error) error {
	for _, e := range errs {
		if e != nil {
			return e
		}
	}
	return nil
}

// At names the key whose value err refuses; nil stays nil.
func At(key string, err error) error {
	if err == nil {
		return nil
	}
	return fmt.Errorf("%s: %w", key, err)
}

// Or is what p points to, or otherwise where it points to nothing.
func Or[T any](p *T, otherwise T) T {
	if p == nil {
		return otherwise
	}
	return *p
}
