// Package physics holds the laws that no rulebook decides: resistance with
// temperature, voltage drop, fault loops, the adiabatic limit, earth rods.
//
// Every function is pure, takes and returns plain numbers in the units its
// docstring gives, and knows neither a table nor a practice. Which resistance,
// limit or multiplier applies is the rulebook's to say.
package physics

import "math"

// TempCoefficient is the simplified coefficient of resistance of copper and
// aluminium per kelvin at 20 °C (0.00393 exactly for copper in IEC 60228; the
// on-site tables use 0.004).
const TempCoefficient = 0.004

// AtTemperature converts a conductor resistance at 20 °C to one at c °C.
func AtTemperature(r20, c float64) float64 { return r20 * (1 + TempCoefficient*(c-20)) }

// Current returns amperes drawn by watts at volts line to neutral (phases 1) or
// line to line (phases 3) and power factor pf.
func Current(watts, volts, pf float64, phases int) float64 {
	if phases == 3 {
		return watts / (math.Sqrt(3) * volts * pf)
	}
	return watts / (volts * pf)
}

// Drop returns volts lost over metres carrying amperes, with r and x in mV/A/m
// (r already at its working temperature) and power factor pf. With x zero the
// power factor does not enter, as the tables up to 16 mm² have it.
func Drop(r, x, pf, amperes, metres float64) float64 {
	return DropPerAmpereMetre(r, x, pf) * amperes * metres / 1000
}

// DropPerAmpereMetre returns mV/A/m from its resistive and reactive parts.
func DropPerAmpereMetre(r, x, pf float64) float64 {
	if x == 0 {
		return r
	}
	return r*pf + x*math.Sqrt(1-pf*pf)
}

// LoopResistance returns ohms of line plus protective conductor over metres,
// with r1 and r2 in mΩ/m at 20 °C and a multiplier for the temperature.
func LoopResistance(r1, r2, metres, multiplier float64) float64 {
	return (r1 + r2) * metres * multiplier / 1000
}

// FaultCurrent returns amperes through ohms at volts.
func FaultCurrent(volts, ohms float64) float64 { return volts / ohms }

// Adiabatic returns the smallest section in mm² that withstands i2t (A²s) with
// the material factor k (A√s/mm²), IEC 60364-5-54 543.1.2; valid up to 5 s.
func Adiabatic(i2t, k float64) float64 { return math.Sqrt(i2t) / k }

// Rod returns the resistance in ohms of one vertical rod of length and
// diameter in metres in soil of rho Ωm: ρ/(2πL)·(ln(8L/d) − 1), BS 7430 9.5.
func Rod(rho, length, diameter float64) float64 {
	return rho / (2 * math.Pi * length) * (math.Log(8*length/diameter) - 1)
}

// RodIS returns the same by ρ/(2πL)·ln(4L/d), IS 3043 clause 9, which is higher.
func RodIS(rho, length, diameter float64) float64 {
	return rho / (2 * math.Pi * length) * math.Log(4*length/diameter)
}

// Rods returns the resistance of n rods in line, each of single ohms, spaced
// metres apart in soil of rho Ωm, with the group factor lambda, and the ratio
// a = ρ/(2πRs) that it uses (BS 7430).
func Rods(single, rho, spacing, lambda float64, n int) (ohms, a float64) {
	a = rho / (2 * math.Pi * single * spacing)
	return single / float64(n) * (1 + lambda*a), a
}

// Parallel returns the resistance of resistances in parallel; 0 for none.
func Parallel(rs ...float64) float64 {
	if len(rs) == 0 {
		return 0
	}
	var g float64
	for _, r := range rs {
		g += 1 / r
	}
	return 1 / g
}
