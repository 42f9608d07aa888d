package takeoff

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/system"
)

// rateOf is a rate that a system names or states, kg/m².
func (m *maker) rateOf(f *system.Figure, of sheet.Sheet) (figure.Figure, error) {
	if f == nil {
		return printedSpread(of)
	}
	if _, name := f.Product(); name == "rate" {
		return printedSpread(of)
	}
	return m.said(f)
}

// said reads a figure that a system names on a printing, or states itself. Of a range the dearer end counts.
func (m *maker) said(f *system.Figure) (figure.Figure, error) {
	if f == nil {
		return figure.Figure{}, fault.At("system", "number.missing")
	}
	if f.Of == "" {
		value := *f.Value
		if f.High != nil {
			value = *f.High
		}
		return figure.Read("plan.item.stated", value, f.Unit, figure.Source{Kind: "system", Ref: m.System.ID, Says: f.Says}), nil
	}
	key, name := f.Product()
	of, there := m.sheets[key]
	if !there {
		p, _ := m.System.ProductOf(key)
		return figure.Figure{}, fault.At("sheet."+p.Role, "plan.no_sheet_for", "role", p.Role)
	}
	return of.Number(name)
}

// spread is what one coat takes on a m².
type spread struct {
	perM2 figure.Figure  // kg
	wet   *figure.Figure // mm, where it lies as a film
}

// spread works out what a coat of a layer takes on a m². Where it shares a total with others, its part.
func (m *maker) spread(l system.Layer, i int) (spread, error) {
	of, t := m.sheets[l.Product], l.Coats[i].Target
	if t != nil && t.Kind != "share_percent" {
		return m.reduce(of, *t)
	}
	all, err := m.reduce(of, *l.Total)
	if err != nil {
		return all, err
	}
	if t != nil {
		share, err := m.said(t.Figure)
		return all.part(share.Value/percent, share), err
	}
	left, sharing := 1.0, 0 // what the coats with targets of their own leave, and who share it
	for k, c := range l.Coats {
		if c.Target == nil {
			sharing++
			continue
		}
		own, err := m.spread(l, k)
		if err != nil {
			return own, err
		}
		left -= own.perM2.Value / all.perM2.Value
	}
	return all.part(max(0, left)/float64(sharing), m.listed(len(l.Coats))), nil
}

// listed is how many coats a system lists.
func (in Inputs) listed(coats int) figure.Figure {
	return figure.Read("plan.item.coats", float64(coats), "count", figure.Source{Kind: "system", Ref: in.System.ID, Says: in.System.Name})
}

const percent = 100.0

// part is a share of it.
func (s spread) part(share float64, from figure.Figure) spread {
	s.perM2 = figure.Worked("plan.item.per_m2", s.perM2.Value*share, "kg/m2", "rate.share", s.perM2, from)
	if s.wet != nil {
		wet := figure.Worked("plan.mass.wet", s.wet.Value*share, "mm", "rate.share", *s.wet, from)
		s.wet = &wet
	}
	return s
}

// reduce turns a target into what is laid on a m².
func (m *maker) reduce(of sheet.Sheet, t system.Target) (s spread, err error) {
	switch t.Kind {
	case "wft_mm", "dft_mm":
		return m.thickness(of, t)
	case "until_it_runs", "covered":
		s.perM2, err = printedSpread(of)
	case "kg_m2":
		if t.Figure != nil && t.Figure.Of == "" {
			s.perM2, err = m.stated(of, *t.Figure)
			break
		}
		s.perM2, err = m.rateOf(t.Figure, of)
	default:
		if t.Figure == nil {
			return s, fault.At("system", "number.missing")
		}
		if _, name := t.Figure.Product(); name == "rate" {
			s.perM2, err = printedSpread(of)
			break
		}
		f := *t.Figure
		if f.Of != "" {
			read, err := m.said(t.Figure)
			if err != nil {
				return s, err
			}
			f = system.Figure{Value: &read.Value, High: read.High, Says: read.Source.Says, Unit: f.Unit}
		}
		if f.Unit == "" {
			f.Unit = map[string]string{"L_m2": "L/m2", "m2_L": "m2/L", "m2_kg": "m2/kg"}[t.Kind]
		}
		s.perM2, err = m.stated(of, f)
	}
	if err != nil {
		return s, err
	}
	if density, err := of.Number("mixed_density"); err == nil && density.Value > 0 {
		wet := figure.Worked("plan.mass.wet", s.perM2.Value/density.Value, "mm", "film.from_rate", s.perM2, density)
		s.wet = &wet
	}
	return s, nil
}

// thickness is a coat of a wet thickness, or of one that dries to it; so many of them at once where they are one build.
func (m *maker) thickness(of sheet.Sheet, t system.Target) (s spread, err error) {
	thick, err := m.said(t.Figure)
	if err != nil {
		return s, err
	}
	density, err := of.Number("mixed_density")
	if err != nil {
		return s, err
	}
	wet := thick
	if t.Kind == "dft_mm" {
		ratio, err := of.Number("dry_to_wet")
		if err != nil {
			return s, err
		}
		total, err := Film{DryTotal: thick.Value, DryToWet: ratio.Value}.Wet()
		if err != nil {
			return s, err
		}
		wet = figure.Worked("plan.mass.wet", total, "mm", "film.from_dry", thick, ratio)
	}
	if t.Times != nil {
		times, err := m.said(t.Times)
		if err != nil {
			return s, err
		}
		inputs, rule, parts := []figure.Figure{wet, times}, "film.one_build", 1.0
		if t.Parts > 0 {
			parts, rule = float64(t.Parts), "film.coats"
			if most, err := of.Number("greatest_wft"); err == nil {
				inputs = append(inputs, most)
			}
		}
		wet = figure.Worked("plan.mass.wet", wet.Value*times.Value/parts, "mm", rule, inputs...)
	}
	s.wet = &wet
	s.perM2 = figure.Worked("plan.item.per_m2", wet.Value*density.Value, "kg/m2", "film.per_m2", wet, density)
	return s, nil
}

// stated is a rate that a system states itself, at its dearer end, kg/m².
func (m *maker) stated(of sheet.Sheet, f system.Figure) (figure.Figure, error) {
	said := figure.Read("plan.item.stated", *f.Value, f.Unit, figure.Source{Kind: "system", Ref: m.System.ID, Says: f.Says})
	rate := of.PrintedRate()
	rate.Unit, rate.Coats, rate.Per, rate.Basis = f.Unit, 1, "coat", "wet"
	if f.Basis == "powder" {
		rate.Basis = "powder"
	}
	high := *f.Value
	if f.High != nil {
		high = *f.High
	}
	return rated(of, rate, *f.Value, high, said)
}

// rated is a rate between two ends as kg/m², at its dearer end; from is what it was read from.
func rated(of sheet.Sheet, rate sheet.Rate, low, high float64, from ...figure.Figure) (figure.Figure, error) {
	if density, err := of.Number("mixed_density"); err == nil {
		from = append(from, density)
	} else if rate.Density = 1; !weighed(rate.Unit) {
		return figure.Figure{}, err
	}
	total, err := dearest(rate, low, high)
	return figure.Worked("plan.item.per_m2", total, "kg/m2", "rate.per_m2", from...), err
}

// weighed tells whether a rate of a unit needs no density to be weighed.
func weighed(unit string) bool {
	return slices.Contains([]string{"kg/m2", "g/m2", "m2/kg", "m2/pack", "ft2/lb", "ft2/kg", "lb/ft2"}, unit)
}

// dearest is the greater of what a rate comes to at both its ends, whichever way round its unit counts, kg/m².
func dearest(rate sheet.Rate, ends ...float64) (total float64, err error) {
	for _, value := range ends {
		rate.Rate = value
		reduced, err := rate.Reduce()
		switch {
		case err != nil:
			return 0, err
		case reduced.PerCoat != nil:
			total = max(total, *reduced.PerCoat)
		case reduced.Ordered != nil:
			total = max(total, *reduced.Ordered/float64(rate.Coats))
		}
	}
	return total, nil
}

// printedSpread is what a product takes on a m² in one coat by its sheet, kg.
func printedSpread(s sheet.Sheet) (figure.Figure, error) {
	said, err := s.Number("rate")
	if err != nil {
		return figure.Figure{}, err
	}
	rate := s.PrintedRate()
	inputs := []figure.Figure{said}
	if rate.Per == "all_coats" {
		if coats, err := s.Number("coats"); err == nil {
			inputs = append(inputs, coats)
		}
	}
	low, high := s.Numbers["rate"].Ends()
	return rated(s, rate, low, high, inputs...)
}
