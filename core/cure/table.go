// Package cure holds how waits and pot lives move with temperature.
//
// A data sheet prints a time at one or more temperatures. Between two printed
// temperatures ln t is linear in 1/T (kelvin); outside them the time follows Arrhenius
// from the nearest printed entry, t = t_end · exp((E/R)(1/T − 1/T_end)), with E fitted by
// least squares of ln t on 1/T over the whole table (the maturity method of ASTM C1074).
package cure

import (
	"cmp"
	"math"
	"slices"

	"dusha/core/fault"
)

const (
	gasConstant = 8.314462618 // J/(mol·K), CODATA 2018
	zeroCelsius = 273.15
	greatestE   = 120.0 // kJ/mol; a fit above it, or not above 0, is refused

	// DefaultCementitious and DefaultResin are the activation energies used where a
	// sheet prints one entry only, kJ/mol.
	DefaultCementitious = 40.0
	DefaultResin        = 51.0
)

// Entry is one printed time, in whatever unit of time its table has.
type Entry struct {
	Temp float64
	Time float64
}

// Table is a printed time at one or more temperatures.
type Table struct {
	Entries  []Entry
	DefaultE float64 // kJ/mol, used with one entry or when the fit is refused
}

func byTemp(a, b Entry) int { return cmp.Compare(a.Temp, b.Temp) }

// Factor is the time at temp over the time at ref, both °C, for an energy in kJ/mol.
func Factor(energy, temp, ref float64) float64 {
	return math.Exp(energy * 1000 / gasConstant * (1/(temp+zeroCelsius) - 1/(ref+zeroCelsius)))
}

// Fit is the energy by least squares, kJ/mol; found is false with one entry, and refused
// says that the figure cannot be right and the default stands in for it.
func (t Table) Fit() (energy float64, found, refused bool) {
	n := float64(len(t.Entries))
	if n < 2 {
		return 0, false, false
	}
	var meanX, meanY float64
	for _, e := range t.Entries {
		meanX += 1 / (e.Temp + zeroCelsius) / n
		meanY += math.Log(e.Time) / n
	}
	var sxy, sxx float64
	for _, e := range t.Entries {
		dx := 1/(e.Temp+zeroCelsius) - meanX
		sxy += dx * (math.Log(e.Time) - meanY)
		sxx += dx * dx
	}
	energy = sxy / sxx * gasConstant / 1000
	return energy, true, energy <= 0 || energy > greatestE
}

// Used is the energy that counts outside the table: the fit, or the default.
func (t Table) Used() float64 {
	if energy, found, refused := t.Fit(); found && !refused {
		return energy
	}
	return t.DefaultE
}

// At is the time at a temperature in °C; inside tells that it lies within the printed
// temperatures, where the energy plays no part.
func (t Table) At(temp float64) (time float64, inside bool, err error) {
	if err := t.check(); err != nil {
		return 0, false, err
	}
	time, inside = t.curve().at(temp)
	return time, inside, nil
}

// curve is a table that was checked, made ready to be asked often: its entries in order, and the energy
// that counts outside them.
type curve struct {
	entries []Entry
	used    float64
	logs    []float64 // ln of the times
}

func (t Table) curve() curve {
	c := curve{entries: slices.SortedFunc(slices.Values(t.Entries), byTemp), used: t.Used()}
	for _, e := range c.entries {
		c.logs = append(c.logs, math.Log(e.Time))
	}
	return c
}

func (c curve) at(temp float64) (time float64, inside bool) {
	last := len(c.entries) - 1
	for i, e := range c.entries {
		switch {
		case temp == e.Temp:
			return e.Time, true
		case i < last && e.Temp < temp && temp < c.entries[i+1].Temp:
			return c.between(i, temp), true
		}
	}
	nearest := c.entries[0]
	if temp > c.entries[last].Temp {
		nearest = c.entries[last]
	}
	return nearest.Time * Factor(c.used, temp, nearest.Temp), false
}

// Minimum is the time at a temperature where it counts as a least wait: above the warmest
// printed entry that entry stands, and no wait is shorter than the shortest printed one.
func (t Table) Minimum(temp float64) (time float64, err error) {
	if err := t.check(); err != nil {
		return 0, err
	}
	return max(t.curve().counted(temp, Least), t.shortest()), nil
}

func (t Table) check() error {
	if len(t.Entries) == 0 {
		return fault.At("table", "table.empty")
	}
	seen := map[float64]bool{}
	for _, e := range t.Entries {
		if e.Time <= 0 {
			return fault.At("table", "table.time_not_positive", "temp", e.Temp, "value", e.Time)
		}
		if seen[e.Temp] {
			return fault.At("table", "table.temperature_twice", "temp", e.Temp)
		}
		if e.Temp <= -zeroCelsius {
			return fault.At("table", "table.too_cold", "temp", e.Temp)
		}
		seen[e.Temp] = true
	}
	return nil
}

// between interpolates ln t over 1/T behind an entry.
func (c curve) between(i int, temp float64) float64 {
	inverse := func(c float64) float64 { return 1 / (c + zeroCelsius) }
	from, to := inverse(c.entries[i].Temp), inverse(c.entries[i+1].Temp)
	return math.Exp(c.logs[i] + (inverse(temp)-from)/(to-from)*(c.logs[i+1]-c.logs[i]))
}
