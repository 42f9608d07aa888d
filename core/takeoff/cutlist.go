package takeoff

import (
	"fmt"
	"math"
	"slices"

	"dusha/core/cutting"
	"dusha/core/fault"
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

// cutLists lists what a plan cuts, product by product.
func (in Inputs) cutLists(p Plan) []CutList {
	lists := []CutList{}
	byRole := map[string]system.Companion{}
	for _, c := range in.With {
		if _, twice := byRole[c.Role]; !twice {
			byRole[c.Role] = c
		}
	}
	if _, own := byRole["band"]; !own {
		byRole["band"] = system.Companion{Role: "band", Sheet: in.Film} // the membrane's sheet states its band
	}
	for _, role := range cutRoles {
		c, has := byRole[role]
		if !has {
			continue
		}
		l := CutList{Sheet: c.Sheet.ID, Name: c.Sheet.Name, Role: role, Step: stepUsing(in.Order, role), Sample: c.Sheet.Sample, Wants: []Want{}, Clear: true}
		if err := in.cut(&l, c, p, byRole, lists); err != nil {
			l.Fault = fault.Of(err)[0]
		}
		if len(l.Wants) > 0 || l.Fault != nil {
			lists = append(lists, l)
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

// cut lists the wants of one product and asks them as runs; before are the lists of the roles before it.
func (in Inputs) cut(l *CutList, c system.Companion, p Plan, byRole map[string]system.Companion, before []CutList) error {
	goods, err := in.goods(c)
	if err != nil {
		return err
	}
	l.Width = goods.Width
	l.Bands = in.bands(goods)
	switch l.Role {
	case "band":
		l.Wants = in.bandWants(goods, p, byRole)
	case "bond_breaker":
		for _, j := range in.Area.Junctions {
			if moves(j) {
				l.Wants = append(l.Wants, in.runWant("breaker", "breaker."+j.ID, j, goods, 0))
			}
		}
	case "seam_tape":
		i := slices.IndexFunc(before, func(l CutList) bool { return l.Role == "sheet" })
		if i < 0 {
			return nil
		}
		if before[i].Fault != nil {
			return before[i].Fault
		}
		for i, s := range before[i].seams {
			l.Wants = append(l.Wants, Want{ID: fmt.Sprintf("seam.%s.%d", s.Surface, i+1), Kind: "seam", Place: s.Surface, Length: s.Length(), Width: goods.Width, Seam: &s})
		}
	default:
		l.Layers = goods.Layers
		coverings, err := in.coverings(goods)
		if err != nil {
			return err
		}
		for _, covering := range coverings {
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
		l.Wants = append(l.Wants, in.patches(goods, p, byRole, l.Role)...)
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

// goods reads a roll product's width, lap and length from its sheet.
func (in Inputs) goods(c system.Companion) (cutting.Goods, error) {
	width, err := c.Sheet.Number("band_width")
	if err != nil {
		return cutting.Goods{}, err
	}
	roll, err := c.Sheet.Number("band_roll")
	if err != nil {
		return cutting.Goods{}, err
	}
	lap, err := c.Sheet.Lap()
	if err != nil {
		return cutting.Goods{}, err
	}
	g := cutting.Goods{Width: width.Value, Lap: lap.Value, Roll: roll.Value * 1000, Layers: 1}
	if g.Roll <= g.Lap {
		return g, fault.At("sheet.band_roll", "sheet.roll_within_lap", "value", g.Roll, "lap", g.Lap)
	}
	if up, err := c.Sheet.Number("turn_up"); err == nil {
		g.TurnUp = up.Value
	}
	layers, err := in.layers(c)
	if err == nil {
		g.Layers = max(1, int(layers.Value))
	}
	return g, err
}

// bands asks for runs of a product, with the rules for its joins.
func (in Inputs) bands(g cutting.Goods) cutting.Bands {
	lap, clear := int(math.Ceil(g.Lap/cutGrain))*cutGrain, int(in.Rules.Limit("join_clear").Value)
	return cutting.Bands{Roll: int(math.Floor(g.Roll)), Lap: lap, LeastPiece: max(clear, 2*lap), JoinClear: clear}
}

// bandWants are the bands over all junctions, and what is cut from the band where no bought piece
// fits: corners to fold, and patches round pipes that no other roll is wide enough for.
func (in Inputs) bandWants(g cutting.Goods, p Plan, byRole map[string]system.Companion) []Want {
	list := []Want{}
	junctions := map[string]wetarea.Junction{}
	for _, j := range in.Area.Junctions {
		junctions["band."+j.ID] = j
	}
	_, bought := byRole["corner"]
	for _, piece := range p.Pieces {
		switch {
		case piece.Kind == "band":
			j := junctions[piece.ID]
			w := in.runWant("band", piece.ID, j, g, piece.Length)
			w.Number = piece.Number
			list = append(list, w)
		case piece.Kind == "fold", piece.Kind == "corner" && !bought:
			list = append(list, Want{ID: piece.ID, Number: piece.Number, Kind: "fold", Place: piece.ID, Length: g.Width, Width: g.Width})
		}
	}
	return append(list, in.patches(g, p, byRole, "band")...)
}

// patches are squares with a hole for pipes and drains that no collar is bought for, from the
// first of the rolls that is wide enough.
func (in Inputs) patches(g cutting.Goods, p Plan, byRole map[string]system.Companion, role string) []Want {
	var list []Want
	for _, piece := range p.Pieces {
		if piece.Kind != "collar" && piece.Kind != "flange" {
			continue
		}
		if _, bought := byRole[piece.Kind]; bought {
			continue
		}
		i := slices.IndexFunc(in.Area.Penetrations, func(f wetarea.Penetration) bool { return f.ID == piece.ID })
		if i < 0 {
			continue
		}
		side := patchSide(in.Area.Penetrations[i], byRole)
		if in.patchFrom(side, byRole) != role {
			continue
		}
		list = append(list, Want{
			ID: piece.ID, Number: piece.Number, Kind: "patch", Place: piece.ID, Length: side, Width: min(side, g.Width), Disc: in.Area.Penetrations[i].Diameter,
		})
	}
	return list
}

// patchSide is the side of a patch round a fitting: it reaches half a band's width past it.
func patchSide(f wetarea.Penetration, byRole map[string]system.Companion) float64 {
	wide := 0.0
	if width, err := byRole["band"].Sheet.Number("band_width"); err == nil {
		wide = width.Value
	}
	if f.Ends != nil {
		return math.Hypot(f.Ends[1][0]-f.Ends[0][0], f.Ends[1][1]-f.Ends[0][1]) + wide
	}
	return f.Diameter + wide
}

// patchFrom is the roll that a patch is cut from: the first that is wide enough, else the widest.
func (in Inputs) patchFrom(side float64, byRole map[string]system.Companion) string {
	best, widest := "band", 0.0
	for _, role := range []string{"band", "fleece", "mesh", "sheet"} {
		c, has := byRole[role]
		if !has {
			continue
		}
		width, err := c.Sheet.Number("band_width")
		if err != nil {
			continue
		}
		if width.Value >= side {
			return role
		}
		if width.Value > widest {
			best, widest = role, width.Value
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

// coverings are all surfaces laid with a product.
func (in Inputs) coverings(g cutting.Goods) ([]cutting.Covering, error) {
	var list []cutting.Covering
	for _, s := range in.Area.Surfaces {
		covering, err := g.Cover(s, in.Area.Penetrations)
		if err != nil {
			return nil, err
		}
		list = append(list, covering)
	}
	return list, nil
}
