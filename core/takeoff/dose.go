package takeoff

import (
	"slices"

	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/system"
)

// strewn is area × rate with the surplus that is swept off.
func (m *maker) strewn(a *amount, l system.Layer, c system.Carries, of sheet.Sheet) error {
	perM2, err := m.rateOf(c.Amount, of)
	if err != nil {
		return err
	}
	surplus, err := of.Number("surplus")
	if err != nil {
		return err
	}
	for _, p := range m.carriedOn(l, c) {
		if p.size.Unit == "m2" {
			a.lay(figure.Worked("plan.item.strewn", withWaste(p.size.Value*perM2.Value, surplus.Value), "kg", "mass.aggregate", p.size, perM2, surplus).With("surface", p.id), p.id)
		}
	}
	return nil
}

// stirred is a dose of the coats it is stirred into.
func (m *maker) stirred(a *amount, l system.Layer, c system.Carries, of sheet.Sheet) error {
	dose, err := of.Number("dose")
	if err != nil {
		return err
	}
	for i, coat := range l.Coats {
		if !slices.Contains(c.InCoat, coat.ID) {
			continue
		}
		spread, err := m.spread(l, i)
		if err != nil {
			return err
		}
		for _, p := range m.on(l) {
			if p.on == "field" {
				coat := figure.Worked("plan.item.spread", p.size.Value*spread.perM2.Value, "kg", "mass.spread", p.size, spread.perM2).With("surface", p.id)
				base := 0.0
				if density, err := m.sheets[l.Product].Number("mixed_density"); err == nil {
					base = density.Value
				}
				added, err := of.DoseTo(coat.Value, base)
				if err != nil {
					return err
				}
				a.lay(figure.Worked("plan.item.beads", added.Kg, "kg", "mass.dose", coat, dose), p.id)
			}
		}
	}
	return nil
}

// doses are what is stirred into a mix, or cleans up after the film, by mass.
func (m *maker) doses() {
	for _, p := range m.System.Products {
		of, there := m.sheets[p.Key]
		if !there || slices.ContainsFunc(m.System.Layers, func(l system.Layer) bool { return l.Lays(p.Key) }) {
			continue
		}
		into, stirred := []amount{}, false
		for _, l := range m.System.Layers {
			if l.Mix != nil && slices.Contains(l.Mix.Additives, p.Key) {
				stirred = true
				into = append(into, m.amountsOf(l.ID, l.Product)...)
			}
		}
		if !stirred && p.Role == "cleaner" {
			film, _ := m.System.Film()
			into = m.amountsOf("", film.Product)
		}
		a := amount{key: p.Key}
		if !stirred {
			a.step = m.stepUsing(p.Role)
		}
		if a.err = m.dose(&a, of, into); len(into) > 0 {
			m.take(a)
		}
	}
}

// stepUsing is the first step that takes a material which is no layer of its own.
func (in Inputs) stepUsing(role string) string {
	for _, s := range in.Order.Steps() {
		if slices.Contains(s.Uses, role) {
			return s.ID
		}
	}
	return ""
}

// amountsOf are what was worked out of a product, in one layer or in all.
func (m *maker) amountsOf(layer, key string) (list []amount) {
	for _, a := range m.amounts {
		if a.key == key && !a.later && (layer == "" || a.layer == layer) {
			list = append(list, a)
		}
	}
	return list
}

// dose is a dose of what it is stirred into, waste included.
func (m *maker) dose(a *amount, of sheet.Sheet, into []amount) error {
	dose, err := of.Number("dose")
	if err != nil {
		return err
	}
	var parts []figure.Figure
	for _, each := range into {
		if each.err != nil {
			return each.err
		}
		parts = append(parts, each.parts...)
		for _, id := range each.places {
			if !slices.Contains(a.places, id) {
				a.places = append(a.places, id)
			}
		}
	}
	net := figure.Sum("plan.mass.net", "mass.sum", parts...)
	total := figure.Worked("plan.mass.total", gram(withWaste(net.Value, m.waste.Value)), "kg", "mass.waste", net, m.waste).Rounded("to_gram")
	inputs := []figure.Figure{total, dose}
	base := figure.Figure{}
	if dose.Unit == "mL/L" && len(into) > 0 {
		if base, err = m.sheets[into[0].key].Number("mixed_density"); err != nil {
			return err
		}
		inputs = append(inputs, base)
	}
	if density, err := of.Number("mixed_density"); err == nil && dose.Unit != "g/kg" {
		inputs = append(inputs, density)
	}
	added, err := of.DoseTo(total.Value, base.Value)
	if err != nil {
		return err
	}
	a.parts = []figure.Figure{figure.Worked("plan.item.dose", added.Kg, "kg", "mass.dose", inputs...)}
	for _, each := range into {
		if a.step == "" && net.Value > 0 {
			a.shares = append(a.shares, Portion{Step: each.step, Amount: each.net() / net.Value})
		}
	}
	return nil
}
