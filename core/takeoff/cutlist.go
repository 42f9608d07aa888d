package takeoff

import (
	"fmt"
	"math"
	"slices"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/order"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/wetarea"
)

// CutList is all that is cut from one product that comes on rolls.
type CutList struct {
	Sheet  string        `json:"sheet"` // id
	Name   string        `json:"name"`
	Role   string        `json:"role"`
	Step   string        `json:"step"` // of the recipe, that takes it; "" where none says so
	Sample bool          `json:"sample"`
	Width  float64       `json:"width_mm"`
	Wants  []Want        `json:"wants"`
	Bands  cutting.Bands `json:"bands"`      // the wants as runs, in the same order
	Clear  bool          `json:"laps_clear"` // of several layers: no lap lies over a lap
	Layers int           `json:"layers"`     // of a fleece, mesh or sheet; 0: none
	Fault  *fault.Fault  `json:"fault"`      // why nothing can be cut

	seams []cutting.Seam // between butt-jointed strips
}

// Want is one thing to cut, numbered before anything wet is opened.
type Want struct {
	ID     string         `json:"id"`     // piece of the plan, or "<role>.<surface>.<layer>.<row>.<part>"
	Number int            `json:"number"` // as on the net, in the order of bedding
	Kind   string         `json:"kind"`   // "band", "fold", "patch", "strip", "seam" or "breaker"
	Place  string         `json:"place"`  // junction, corner, fitting or surface
	Length float64        `json:"length_mm"`
	Width  float64        `json:"width_mm"` // less than the roll's: trimmed
	Disc   float64        `json:"disc_mm"`  // diameter of the hole in a patch; 0: none
	Strip  *cutting.Strip `json:"strip"`
	Seam   *cutting.Seam  `json:"seam"`
	Clear  []float64      `json:"clear_at_mm"` // where no join may lie
	Notes  []Note         `json:"notes"`       // what else there is to do to it
}

// Note is a line of words about a piece.
type Note struct {
	Key  string         `json:"key"` // wording
	Args map[string]any `json:"args,omitempty"`
}

// cutRoles are the products that come on rolls and are cut, those that most is cut of first.
var cutRoles = []string{"band", "fleece", "mesh", "sheet", "seam_tape", "bond_breaker"}

// use is one layer that a product on rolls is cut for.
type use struct {
	layer  string
	kind   string // of what is cut: "band", "strip", "seam" or "breaker"
	step   string
	steps  []string // of strips: the step of each layer of them
	places []place
}

// strips are all that is cut from the rolls of one product.
type strips struct {
	key   string
	sheet sheet.Sheet
	role  string
	uses  []use
	list  CutList
	steps []string // of each want
}

// rolled are the strips of a product.
func (m *maker) rolled(key string) *strips {
	i := slices.IndexFunc(m.unwoven, func(s *strips) bool { return s.key == key })
	if i < 0 {
		p, _ := m.System.ProductOf(key)
		i, m.unwoven = len(m.unwoven), append(m.unwoven, &strips{key: key, sheet: m.bandSheet(key), role: p.Role})
	}
	return m.unwoven[i]
}

// lay notes a layer that a product on rolls is cut for: strips over surfaces; over joints bands, or what keeps a joint
// from bonding where it is no piece of its own; seams between strips.
func (m *maker) lay(key string, l system.Layer, in []string, band bool, places []place) {
	s := m.rolled(key)
	u := use{layer: l.ID, step: m.stepLaying(l.ID, in[0])}
	for _, coat := range in {
		u.steps = append(u.steps, m.stepLaying(l.ID, coat))
	}
	for _, kind := range []string{"strip", "band"} {
		own := u
		own.kind = kind
		for _, p := range places {
			if p.on == "field" && kind == "strip" || p.on == "joints" && kind == "band" {
				own.places = append(own.places, p)
			}
		}
		if kind == "band" && !band {
			own.kind = "breaker"
		}
		if len(own.places) > 0 {
			s.uses = append(s.uses, own)
		}
	}
}

// bands are the strips that bands over joints, and corners to fold, are cut from: the first such product.
func (m *maker) bands() *strips {
	i := slices.IndexFunc(m.unwoven, func(s *strips) bool { return s.has("band") })
	if i < 0 {
		return nil
	}
	return m.unwoven[i]
}

func (s *strips) has(kind string) bool {
	return slices.ContainsFunc(s.uses, func(u use) bool { return u.kind == kind })
}

// cutOrder is what is cut first: what most is cut of.
var cutOrder = []string{"band", "strip", "seam", "breaker"}

// cutLists lists what a plan cuts, product by product.
func (m *maker) cutLists() []CutList {
	order.By(m.unwoven, func(a, b *strips) int {
		return slices.Index(cutOrder, a.uses[0].kind) - slices.Index(cutOrder, b.uses[0].kind)
	})
	lists := []CutList{}
	for _, s := range m.unwoven {
		s.list = CutList{Sheet: s.sheet.ID, Name: s.sheet.Name, Role: s.role, Step: s.uses[0].step, Sample: s.sheet.Sample, Wants: []Want{}, Clear: true}
		if err := m.cut(s); err != nil {
			s.list.Fault = fault.Of(err)[0]
		}
		if len(s.list.Wants) > 0 || s.list.Fault != nil {
			lists = append(lists, s.list)
		}
	}
	return lists
}

// Start takes a plan of the list's rolls to work, its pieces marked as the wants are.
func (l CutList) Start(plan []cutting.Roll) cutting.Work {
	var marks []cutting.Mark
	for _, want := range l.Wants {
		marks = append(marks, cutting.Mark{ID: want.ID, Number: want.Number})
	}
	return cutting.Start(plan, marks, l.Bands.Roll)
}

// Reorder gives a plan whose pieces name the runs of other wants, by their ids, as one of this list.
// What the list does not want is refused.
func (l CutList) Reorder(plan []cutting.Roll, wants []string) ([]cutting.Roll, error) {
	at := map[string]int{}
	for i, want := range l.Wants {
		at[want.ID] = i
	}
	var out []cutting.Roll
	for _, roll := range plan {
		roll.Pieces = slices.Clone(roll.Pieces)
		for i := range roll.Pieces {
			run := &roll.Pieces[i].Run
			if *run < 0 || *run >= len(wants) {
				return nil, fault.At("plan", "cutting.wrong.no_such_run", "run", *run+1)
			}
			own, wanted := at[wants[*run]]
			if !wanted {
				return nil, fault.At("plan", "cutting.wrong.no_such_run", "run", *run+1)
			}
			*run = own
		}
		out = append(out, roll)
	}
	return out, nil
}

// cut lists the wants of one product and asks them as runs.
func (m *maker) cut(s *strips) error {
	l := &s.list
	goods, err := m.goods(s)
	if err != nil {
		return err
	}
	l.Width = goods.Width
	l.Bands = m.runsOf(goods)
	for _, u := range s.uses {
		before := len(l.Wants)
		switch u.kind {
		case "band":
			l.Wants = append(l.Wants, m.bandWants(goods, s, u)...)
		case "breaker":
			for _, p := range u.places {
				l.Wants = append(l.Wants, m.runWant("breaker", "breaker."+p.id, m.junction(p.id), goods, 0))
			}
		case "seam":
			if err := m.seamWants(l, goods); err != nil {
				return err
			}
		default:
			l.Layers = goods.Layers
			if err := m.stripWants(l, goods, u); err != nil {
				return err
			}
		}
		for _, w := range l.Wants[before:] {
			step := u.step
			if w.Strip != nil && w.Strip.Layer <= len(u.steps) {
				step = u.steps[w.Strip.Layer-1]
			}
			s.steps = append(s.steps, step)
		}
	}
	if s == m.bands() {
		l.Wants = append(l.Wants, m.foldWants(goods)...)
	}
	l.Wants = append(l.Wants, m.patches(goods, s)...)
	for len(s.steps) < len(l.Wants) {
		s.steps = append(s.steps, l.Step)
	}
	taken := map[int]bool{}
	for _, w := range l.Wants {
		taken[w.Number] = true
	}
	number := 0 // of what is no piece of its own on the net: numbers that no patch has
	for i := range l.Wants {
		w := &l.Wants[i]
		for ; taken[number]; number++ {
		}
		if w.Number == 0 {
			w.Number = number
			taken[number] = true
		}
		run := w.run()
		w.Length = float64(run.Length)
		w.Notes = l.notes(*w)
		l.Bands.Runs = append(l.Bands.Runs, run)
	}
	return nil
}

// seamWants are the seams between butt-jointed strips of whatever was cut before it.
func (m *maker) seamWants(l *CutList, goods cutting.Goods) error {
	i := slices.IndexFunc(m.unwoven, func(s *strips) bool { return s.has("strip") })
	if i < 0 {
		return nil
	}
	laid := m.unwoven[i].list
	if laid.Fault != nil {
		return laid.Fault
	}
	for i, s := range laid.seams {
		l.Wants = append(l.Wants, Want{ID: fmt.Sprintf("seam.%s.%d", s.Surface, i+1), Kind: "seam", Place: s.Surface, Length: s.Length(), Width: goods.Width, Seam: &s})
	}
	return nil
}

// stripWants are the strips over the surfaces of a layer.
func (m *maker) stripWants(l *CutList, goods cutting.Goods, u use) error {
	for _, p := range u.places {
		i := slices.IndexFunc(m.Area.Surfaces, func(s wetarea.Surface) bool { return s.ID == p.id })
		covering, err := goods.Cover(m.Area.Surfaces[i], m.Area.Penetrations)
		if err != nil {
			return err
		}
		l.Clear = l.Clear && covering.Clear
		l.seams = append(l.seams, covering.Seams...)
		last := [2]int{}
		part := 0
		for _, s := range covering.Strips {
			if at := [2]int{s.Layer, s.Row}; at != last {
				last, part = at, 0
			}
			part++
			l.Wants = append(l.Wants, Want{
				ID:   fmt.Sprintf("%s.%s.%d.%d.%d", l.Role, s.Surface, s.Layer, s.Row, part),
				Kind: "strip", Place: s.Surface, Length: s.Length, Width: s.Width, Strip: &s,
			})
		}
	}
	return nil
}

// notes say what else a want needs: its width where it is trimmed, its openings, its layer.
func (l *CutList) notes(w Want) []Note {
	list := []Note{}
	if w.Width < l.Width {
		list = append(list, Note{"cut.trim", map[string]any{"width": w.Width}})
	}
	if w.Kind == "fold" {
		list = append(list, Note{Key: "cut.fold"})
	}
	if w.Disc > 0 {
		list = append(list, Note{"cut.disc", map[string]any{"diameter": w.Disc}})
	}
	if s := w.Strip; s != nil {
		if l.Layers > 1 {
			list = append(list, Note{"cut.layer", map[string]any{"n": s.Layer, "of": l.Layers, "row": s.Row}})
		}
		for _, h := range s.Holes {
			list = append(list, Note{"cut.hole", map[string]any{"fitting": h.Fitting, "along": h.Along, "across": h.Across, "diameter": h.Diameter}})
		}
	}
	return list
}

// cutGrain is how finely lengths are cut, mm: what is over is rounded up.
const cutGrain = 10

// run asks a want as a run.
func (w Want) run() cutting.Run {
	r := cutting.Run{Length: int(math.Ceil(w.Length/cutGrain-1e-6)) * cutGrain, Whole: w.Kind != "band" && w.Kind != "seam" && w.Kind != "breaker"}
	for _, at := range w.Clear {
		r.KeepClear = append(r.KeepClear, int(math.Round(at/cutGrain))*cutGrain)
	}
	return r
}

// goods reads a roll product's width, lap and length from its sheet, and how many layers of it lie over each other.
func (m *maker) goods(s *strips) (cutting.Goods, error) {
	width, err := s.sheet.Number("band_width")
	if err != nil {
		return cutting.Goods{}, err
	}
	roll, err := s.sheet.Number("band_roll")
	if err != nil {
		return cutting.Goods{}, err
	}
	lap, err := s.sheet.Lap()
	if err != nil {
		return cutting.Goods{}, err
	}
	g := cutting.Goods{Width: width.Value, Lap: lap.Value, Roll: roll.Value * 1000}
	if g.Roll <= g.Lap {
		return g, fault.At("sheet.band_roll", "sheet.roll_within_lap", "value", g.Roll, "lap", g.Lap)
	}
	if up, err := s.sheet.Number("turn_up"); err == nil {
		g.TurnUp = up.Value
	}
	g.Layers = max(1, int(m.layersOf(*s).Value))
	return g, nil
}

// layersOf is how many layers of a product lie over each other: one in each coat that carries it, or as many in one coat
// as the sheet of the film says.
func (m *maker) layersOf(s strips) figure.Figure {
	for _, u := range s.uses {
		if u.kind == "strip" && len(u.steps) > 1 {
			return m.listed(len(u.steps))
		}
	}
	if own, err := m.Film.Number("layers"); err == nil {
		return own
	}
	return figure.Read("sheet.layers", 1, "count", figure.Source{Kind: "sheet", Ref: s.sheet.ID, Says: "-"})
}

// runsOf asks for runs of a product, with the rules for its joins.
func (in Inputs) runsOf(g cutting.Goods) cutting.Bands {
	lap, clear := int(math.Ceil(g.Lap/cutGrain))*cutGrain, int(in.Rules.Limit("join_clear").Value)
	return cutting.Bands{Roll: int(math.Floor(g.Roll)), Lap: lap, LeastPiece: max(clear, 2*lap), JoinClear: clear}
}

func (m *maker) junction(id string) wetarea.Junction {
	in := m.Inputs
	i := slices.IndexFunc(in.Area.Junctions, func(j wetarea.Junction) bool { return j.ID == id })
	return in.Area.Junctions[i]
}

// bandWants are the bands over the junctions of a layer, in the order of bedding.
func (m *maker) bandWants(g cutting.Goods, s *strips, u use) (list []Want) {
	for _, piece := range m.plan.Pieces {
		if piece.Kind != "band" || piece.key != s.key || piece.Layer != u.layer {
			continue
		}
		w := m.runWant("band", piece.ID, m.junction(piece.place), g, piece.Length)
		w.Number = piece.Number
		list = append(list, w)
	}
	return list
}

// foldWants are corners that no bought piece fits, folded from the band.
func (m *maker) foldWants(g cutting.Goods) (list []Want) {
	for _, piece := range m.plan.Pieces {
		if piece.Kind == "fold" || piece.Kind == "corner" && piece.key == "" {
			list = append(list, Want{ID: piece.ID, Number: piece.Number, Kind: "fold", Place: piece.ID, Length: g.Width, Width: g.Width})
		}
	}
	return list
}

// patches are squares with a hole for pipes and drains that no collar is bought for, from the
// first of the rolls that is wide enough.
func (m *maker) patches(g cutting.Goods, s *strips) []Want {
	var list []Want
	for _, piece := range m.plan.Pieces {
		if piece.Kind != "collar" && piece.Kind != "flange" || piece.key != "" {
			continue
		}
		i := slices.IndexFunc(m.Area.Penetrations, func(f wetarea.Penetration) bool { return f.ID == piece.ID })
		side := m.patchSide(m.Area.Penetrations[i])
		if m.patchFrom(side) != s {
			continue
		}
		list = append(list, Want{
			ID: piece.ID, Number: piece.Number, Kind: "patch", Place: piece.ID, Length: side, Width: min(side, g.Width), Disc: m.Area.Penetrations[i].Diameter,
		})
	}
	return list
}

// patchSide is the side of a patch round a fitting: it reaches half a band's width past it.
func (m *maker) patchSide(f wetarea.Penetration) float64 {
	wide := 0.0
	if band := m.bands(); band != nil {
		if width, err := band.sheet.Number("band_width"); err == nil {
			wide = width.Value
		}
	}
	if f.Ends != nil {
		return math.Hypot(f.Ends[1][0]-f.Ends[0][0], f.Ends[1][1]-f.Ends[0][1]) + wide
	}
	return f.Diameter + wide
}

// patchFrom is the roll that a patch is cut from: the first that is wide enough, else the widest.
func (m *maker) patchFrom(side float64) (best *strips) {
	widest := 0.0
	for _, s := range m.unwoven {
		if !s.has("band") && !s.has("strip") {
			continue
		}
		width, err := s.sheet.Number("band_width")
		if err != nil {
			continue
		}
		if width.Value >= side {
			return s
		}
		if width.Value > widest {
			best, widest = s, width.Value
		}
	}
	return best
}

// runWant is a length over a junction with where no join may lie: beside what passes through the
// band, and at the corners that the run itself goes round.
func (in Inputs) runWant(kind, id string, j wetarea.Junction, g cutting.Goods, length float64) Want {
	if length == 0 {
		length = j.Length + 2*g.Lap
	}
	w := Want{ID: id, Kind: kind, Place: j.ID, Length: length, Width: g.Width}
	before := (length - j.Length) / 2
	along := map[string]float64{}
	for _, line := range j.Lines {
		from := along[line.Surface]
		if from > 0 && in.Area.Shape != "round_tank" { // the corners of a drawn circle are none
			w.Clear = append(w.Clear, before+from)
		}
		for _, f := range in.Area.Penetrations {
			if f.Surface != line.Surface {
				continue
			}
			at, away := line.Beside(f.At)
			if away < g.Width/2+f.Diameter/2 && at > -f.Diameter && at < line.Length()+f.Diameter {
				w.Clear = append(w.Clear, before+from+at)
			}
		}
		along[line.Surface] = from + line.Length()
	}
	slices.Sort(w.Clear)
	w.Clear = slices.Compact(w.Clear)
	return w
}
