package outdoor

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/unit"
)

// takes is the step of a run that takes a part of it.
func takes(kind, part string) string {
	of, rest, _ := strings.Cut(part, ":")
	what, _, _ := strings.Cut(rest, ":")
	switch {
	case kind == install.Overhead && what == "strap":
		return "riser"
	case kind == install.Overhead:
		return "bracket"
	case of == "warning-tape":
		return "ribbon"
	case of == "bedding":
		return "bed"
	case what == "string", what == "cap":
		return stringStep
	case what == "ballast":
		return "ballast"
	}
	return "lay"
}

// key is that of a product of some sizes.
func key(of string, sizes ...float64) string {
	for _, v := range sizes {
		of += ":" + unit.Format(v)
	}
	return of
}
