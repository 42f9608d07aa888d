// Package wetarea turns what was measured into surfaces, junctions, corners and
// penetrations.
//
// All lengths are mm, areas mm² inside and m² where a name says so. In plan x runs to
// the right and y up, outlines run counter-clockwise and edge i goes from vertex i to
// vertex i+1. Areas follow the shoelace formula; a corner is internal below 180°.
//
// A place on a surface is (along, up) in mm: on a wall along is counted from the left
// end as one faces the wall from inside the room and up from the floor; on the floor
// they are x and y of the plan.
package wetarea

import (
	"fmt"
	"math"
	"slices"

	"dusha/core/fault"
)

// Room is a floor outline with a membrane height on each edge.
type Room struct {
	Vertices []Point   `json:"vertices_mm"`
	Edges    []Edge    `json:"edges"`
	Openings []Opening `json:"openings,omitempty"`
	Niches   []Niche   `json:"niches,omitempty"`
	Boxes    []Box     `json:"boxes,omitempty"`
	Slope    float64   `json:"floor_slope_1_in_n,omitempty" minimum:"0"` // the whole floor falls 1 : n; 0: level
	Soffit   bool      `json:"soffit,omitempty"`                         // the film covers it too

	panels []float64 // lengths of the edges of a wall run, which has no plan
}

// Edge is what stands on one side of the floor.
type Edge struct {
	Name      string  `json:"name,omitempty"` // "a", "b" … going round clockwise as seen from above
	Kind      string  `json:"kind"`           // "wall", "threshold" or "open"
	Height    float64 `json:"height_mm,omitempty" minimum:"0"`
	Parts     []Part  `json:"parts,omitempty"` // where the height differs along the wall
	WaterStop float64 `json:"water_stop_mm,omitempty" minimum:"0"`
	Trim      bool    `json:"trim,omitempty"` // an open edge finished with a drip trim
}

// Part is a stretch of a wall with its own membrane height.
type Part struct {
	From   float64 `json:"from_mm" minimum:"0"`
	To     float64 `json:"to_mm" minimum:"0"`
	Height float64 `json:"height_mm" minimum:"0"`
}

// Opening is a door or window in a wall; From runs along the edge from its first vertex.
type Opening struct {
	ID     string  `json:"id,omitempty"`
	Edge   int     `json:"edge"`
	From   float64 `json:"from_mm" minimum:"0"`
	Sill   float64 `json:"sill_mm" minimum:"0"`
	Width  float64 `json:"width_mm" minimum:"0"`
	Height float64 `json:"height_mm" minimum:"0"`
	Reveal float64 `json:"reveal_mm" minimum:"0"`
	Stop   float64 `json:"water_stop_mm,omitempty" minimum:"0"` // of a doorway
}

// Niche is a recess in a wall; its back counts with its wall, its reveals apart.
type Niche struct {
	ID     string  `json:"id,omitempty"`
	Edge   int     `json:"edge"`
	From   float64 `json:"from_mm" minimum:"0"`
	Sill   float64 `json:"sill_mm" minimum:"0"`
	Width  float64 `json:"width_mm" minimum:"0"`
	Height float64 `json:"height_mm" minimum:"0"`
	Depth  float64 `json:"depth_mm" minimum:"0"`
}

// Box is a bench, step or hob: a rectangle along the axes of the plan with a height. It
// replaces the floor it stands on and the wall it stands against.
type Box struct {
	ID      string  `json:"id,omitempty"`
	Kind    string  `json:"kind,omitempty"` // "bench", "step", "hob" or "column"
	CornerA Point   `json:"corner_a_mm"`
	CornerB Point   `json:"corner_b_mm"`
	Height  float64 `json:"height_mm" minimum:"0"`
}

// through tells whether it goes on above the film: it has no top to cover.
func (b Box) through() bool { return b.Kind == "column" }

// Takeoff is what a room's geometry gives; edges and vertices keep their input numbers.
type Takeoff struct {
	TurnedRound       bool      `json:"turned_round,omitempty"`
	VertexAngles      []float64 `json:"vertex_angles_deg"`
	UpstandCorners    int       `json:"upstand_corners"`
	Gaps              []int     `json:"gaps"` // edges neither walled, stopped nor trimmed
	FloorArea         float64   `json:"floor_area_m2"`
	WallAreas         []float64 `json:"wall_areas_m2"`
	OpeningReveals    float64   `json:"opening_reveals_m2"`
	TotalMembrane     float64   `json:"total_membrane_area_m2"`
	FloorWall         float64   `json:"floor_wall_mm"`
	Threshold         float64   `json:"threshold_mm"`
	OpenEdge          float64   `json:"open_edge_mm"`
	WallWallInternal  float64   `json:"wall_wall_internal_mm"`
	WallWallExternal  float64   `json:"wall_wall_external_mm"`
	InternalCorners   int       `json:"internal_corners"`
	ExternalCorners   int       `json:"external_corners"`
	PreformedInternal int       `json:"preformed_internal"`
	PreformedExternal int       `json:"preformed_external"`
	SaddlePoints      int       `json:"saddle_points"` // front corners of niches: no bought corner fits
	NicheReveals      float64   `json:"niche_reveals_m2"`
	NicheInternal     float64   `json:"niche_internal_mm"`
	NicheExternal     float64   `json:"niche_external_mm"`
	BoxArea           float64   `json:"box_area_m2"`
	BoxFoot           float64   `json:"box_foot_mm"`
	BoxToWall         float64   `json:"box_to_wall_mm"`
	BoxEdge           float64   `json:"box_edge_mm"`
	PlanArea          float64   `json:"plan_area_m2"`
	FoldedByHand      int       `json:"folded_by_hand"`
	SoffitArea        float64   `json:"soffit_area_m2"`
}

const (
	mm2PerM2      = 1e6
	straight      = 180.0
	angleSlack    = 1e-6 // degrees within which an angle counts as straight or square
	squareInside  = 90.0
	squareOutside = 270.0
)

// Measure works out the geometry of a room. It refuses what CheckOutline refuses.
func (r Room) Measure() (Takeoff, error) {
	if err := CheckOutline(r.Vertices); err != nil {
		return Takeoff{}, err
	}
	if err := r.checkEdges(); err != nil {
		return Takeoff{}, err
	}
	t := Takeoff{Gaps: []int{}, WallAreas: make([]float64, len(r.Edges))}
	outline := r.Vertices
	if SignedArea(outline) < 0 {
		t.TurnedRound = true
		outline = slices.Clone(outline)
		slices.Reverse(outline)
	}
	t.PlanArea = SignedArea(outline) / mm2PerM2
	t.FloorArea = t.PlanArea
	if r.Slope > 0 {
		t.FloorArea = t.PlanArea * math.Sqrt(1+1/(r.Slope*r.Slope))
	}
	for i := range r.Edges {
		r.measureEdge(i, &t)
	}
	for _, o := range r.Openings {
		r.measureOpening(o, &t)
	}
	for _, niche := range r.Niches {
		measureNiche(niche, &t)
	}
	for _, box := range r.Boxes {
		r.measureBox(box, &t)
	}
	n := len(r.Vertices)
	for i := range r.Vertices {
		at := i
		if t.TurnedRound {
			at = n - 1 - i
		}
		angle := interiorAngle(outline, at)
		t.VertexAngles = append(t.VertexAngles, angle)
		r.measureVertex(i, angle, &t)
	}
	if r.Soffit {
		t.SoffitArea = t.PlanArea
	}
	t.TotalMembrane = t.FloorArea + t.SoffitArea + t.OpeningReveals + t.NicheReveals + t.BoxArea
	for _, area := range t.WallAreas {
		t.TotalMembrane += area
	}
	return t, nil
}

// checkEdges refuses a room that has not one edge for each corner, or something in an edge that
// is not there.
func (r Room) checkEdges() error {
	if len(r.Edges) != len(r.Vertices) && len(r.panels) == 0 {
		return fault.At("edges", "outline.edges_of_other_number", "edges", len(r.Edges), "corners", len(r.Vertices))
	}
	stands := func(field string, i, edge int) error {
		if edge < 0 || edge >= len(r.Edges) {
			return fault.At(fmt.Sprintf("%s.%d.edge", field, i+1), "outline.no_such_edge", "edge", edge, "edges", len(r.Edges))
		}
		return nil
	}
	for i, o := range r.Openings {
		if err := stands("openings", i, o.Edge); err != nil {
			return err
		}
	}
	for i, n := range r.Niches {
		if err := stands("niches", i, n.Edge); err != nil {
			return err
		}
	}
	return nil
}

func (r Room) edgeLength(i int) float64 {
	if len(r.panels) > 0 {
		return r.panels[i]
	}
	a, b := edgeEnds(r.Vertices, i)
	return b.minus(a).length()
}

func (r Room) measureEdge(i int, t *Takeoff) {
	edge, length := r.Edges[i], r.edgeLength(i)
	switch edge.Kind {
	case "wall":
		t.FloorWall += length
		for _, part := range r.parts(i) {
			t.WallAreas[i] += (part.To - part.From) * part.Height / mm2PerM2
		}
	case "threshold":
		t.Threshold += length
		if edge.WaterStop <= 0 {
			t.Gaps = append(t.Gaps, i)
		}
	case "open":
		t.OpenEdge += length
		if !edge.Trim {
			t.Gaps = append(t.Gaps, i)
		}
	}
}

// parts gives the stretches of a wall; a wall of one height is one stretch.
func (r Room) parts(i int) []Part {
	if parts := r.Edges[i].Parts; len(parts) > 0 {
		return parts
	}
	return []Part{{From: 0, To: r.edgeLength(i), Height: r.Edges[i].Height}}
}

// heightAt is the membrane height of a wall at its start (end false) or end.
func (r Room) heightAt(i int, end bool) float64 {
	parts := r.parts(i)
	if end {
		return parts[len(parts)-1].Height
	}
	return parts[0].Height
}

// measureOpening takes an opening's area below the membrane height off its wall and adds
// jambs, a raised sill and a head that lies below that height. An opening from the floor
// turns its width of floor–wall junction into threshold.
func (r Room) measureOpening(o Opening, t *Takeoff) {
	for _, part := range r.parts(o.Edge) {
		width := min(o.From+o.Width, part.To) - max(o.From, part.From)
		if width <= 0 {
			continue
		}
		t.WallAreas[o.Edge] -= width * clippedHeight(o, part.Height) / mm2PerM2
		if o.Sill > 0 && o.Sill < part.Height {
			t.OpeningReveals += width * o.Reveal / mm2PerM2
		}
		if o.Sill+o.Height < part.Height {
			t.OpeningReveals += width * o.Reveal / mm2PerM2
		}
		if o.From >= part.From {
			t.OpeningReveals += clippedHeight(o, part.Height) * o.Reveal / mm2PerM2
		}
		if o.From+o.Width <= part.To {
			t.OpeningReveals += clippedHeight(o, part.Height) * o.Reveal / mm2PerM2
		}
	}
	if o.Sill == 0 && len(r.panels) == 0 {
		t.FloorWall -= o.Width
		t.Threshold += o.Width
	}
}

// clippedHeight is how much of an opening lies below the membrane height.
func clippedHeight(o Opening, membrane float64) float64 {
	return max(0, min(o.Sill+o.Height, membrane)-o.Sill)
}

// heightAtLeft is the membrane height at the left end of a wall as one faces it, or at its right.
func (r Room) heightAtLeft(i int, right bool) float64 { return r.heightAt(i, !right) }

func (r Room) measureVertex(i int, angle float64, t *Takeoff) {
	n := len(r.Edges)
	before, after := (i+n-1)%n, i
	kinds := [2]string{r.Edges[before].Kind, r.Edges[after].Kind}
	stop := r.Edges[before].WaterStop > 0 && kinds == [2]string{"threshold", "wall"} ||
		r.Edges[after].WaterStop > 0 && kinds == [2]string{"wall", "threshold"}
	if stop {
		t.UpstandCorners++
	}
	if kinds != [2]string{"wall", "wall"} || math.Abs(angle-straight) < angleSlack {
		return
	}
	height := max(r.heightAt(before, true), r.heightAt(after, false))
	preformed := math.Abs(angle-squareInside) < angleSlack || math.Abs(angle-squareOutside) < angleSlack
	switch {
	case angle < straight:
		t.WallWallInternal += height
		t.InternalCorners++
		if preformed {
			t.PreformedInternal++
		}
	default:
		t.WallWallExternal += height
		t.ExternalCorners++
		if preformed {
			t.PreformedExternal++
		}
	}
	if !preformed {
		t.FoldedByHand++
	}
}

// measureNiche adds reveals 2(w+h)d, the junctions behind, in front and along the depth,
// four internal corners behind and four saddle points in front.
func measureNiche(n Niche, t *Takeoff) {
	around := 2 * (n.Width + n.Height)
	t.NicheReveals += around * n.Depth / mm2PerM2
	t.NicheInternal += around + 4*n.Depth
	t.NicheExternal += around
	t.InternalCorners += 4
	t.PreformedInternal += 4
	t.SaddlePoints += 4
}

// measureBox takes the box's footprint off the floor and its contact off the walls, adds
// top and free sides, and counts the junctions at foot, wall and free edges.
func (r Room) measureBox(b Box, t *Takeoff) {
	corners := b.corners()
	top := SignedArea(corners) / mm2PerM2
	t.FloorArea -= top
	if !b.through() {
		t.BoxArea += top
	}
	touched := [4]bool{}
	for k := range corners {
		a, c := edgeEnds(corners, k)
		free := c.minus(a).length()
		for i := range r.Edges {
			contact := r.contact(i, a, c)
			if contact == 0 {
				continue
			}
			touched[k] = true
			free -= contact
			t.WallAreas[i] -= contact * b.Height / mm2PerM2
			t.FloorWall -= contact
			if !b.through() {
				t.BoxToWall += contact
			}
		}
		t.BoxArea += free * b.Height / mm2PerM2
		t.BoxFoot += free
		if !b.through() {
			t.BoxEdge += free
		}
	}
	for k := range corners {
		switch before := touched[(k+3)%4]; {
		case before && touched[k]:
			t.WallWallInternal -= b.Height
		case before || touched[k]:
			t.BoxToWall += b.Height
		default:
			t.BoxEdge += b.Height
		}
	}
}

// contact is the length over which the segment ac lies along wall i.
func (r Room) contact(i int, a, c Point) float64 {
	from, to, _ := r.contactSpan(i, a, c)
	return to - from
}

// contactSpan is where the segment ac lies along wall i, counted along the edge from its
// first vertex.
func (r Room) contactSpan(i int, a, c Point) (from, to float64, touches bool) {
	p, q := edgeEnds(r.Vertices, i)
	long := r.edgeLength(i)
	const hair = 1e-6 // mm
	if r.Edges[i].Kind != "wall" || math.Abs(side(p, q, a)) > hair*long || math.Abs(side(p, q, c)) > hair*long {
		return 0, 0, false
	}
	along := q.minus(p).times(1 / long)
	s, e := dot(a.minus(p), along), dot(c.minus(p), along)
	from, to = max(min(s, e), 0), min(max(s, e), long)
	if to-from <= hair {
		return 0, 0, false
	}
	return from, to, true
}
