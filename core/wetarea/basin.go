package wetarea

import (
	"math"
	"slices"

	"dusha/core/fault"
)

// Basin is a pool, trough or planter: a plan outline whose depth runs along an axis as
// stations joined by straight floor. Depths are measured down from the water line, mm; two
// stations at one place are a riser. The film runs Freeboard above the water line.
type Basin struct {
	Vertices  []Point   `json:"vertices_mm"`
	Axis      Axis      `json:"axis"`
	Stations  []Station `json:"stations"`
	Freeboard float64   `json:"freeboard_mm" minimum:"0"`
	Boxes     []Box     `json:"boxes,omitempty"` // steps and benches, their tops along the floor
	Lower     float64   `json:"lower_level_mm_below_water_line,omitempty" minimum:"0"`
}

// Axis is the line along which a basin's stations lie; its length does not matter.
type Axis struct {
	From Point `json:"from_mm"`
	To   Point `json:"to_mm"`
}

// Station is a depth at a place of the axis.
type Station struct {
	At    float64 `json:"at_mm"`
	Depth float64 `json:"depth_mm"`
}

// BasinTakeoff is what a basin's geometry gives.
type BasinTakeoff struct {
	TurnedRound      bool      `json:"turned_round,omitempty"`
	PlanArea         float64   `json:"plan_area_m2"`
	FloorArea        float64   `json:"floor_area_m2"`
	RiserArea        float64   `json:"riser_area_m2"`
	WallAreas        []float64 `json:"wall_areas_m2"`
	BoxArea          float64   `json:"box_area_m2"`
	TotalMembrane    float64   `json:"total_membrane_area_m2"`
	Volume           float64   `json:"volume_at_water_line_L"`
	LowerVolume      float64   `json:"volume_at_lower_level_L"`
	FloorWall        float64   `json:"floor_wall_junction_mm"`
	WallWallInternal float64   `json:"wall_wall_internal_mm"`
	WallWallExternal float64   `json:"wall_wall_external_mm"`
}

const mm3PerL = 1e6

// floorPiece is the straight floor between two stations.
type floorPiece struct {
	from, to    float64 // along the axis, mm
	depth, fall float64 // at from, mm; more a mm
}

func (p floorPiece) at(s float64) float64 { return p.depth + p.fall*(s-p.from) }
func (p floorPiece) stretch() float64     { return math.Sqrt(1 + p.fall*p.fall) }

// check refuses stations that are out of order, too shallow or do not cover the plan.
func (b Basin) check() error {
	if err := CheckOutline(b.Vertices); err != nil {
		return err
	}
	if b.Axis.From == b.Axis.To {
		return fault.At("axis", "basin.no_axis")
	}
	if len(b.Stations) < 2 {
		return fault.At("stations", "basin.too_few_stations", "count", len(b.Stations))
	}
	for i, s := range b.Stations {
		if s.Depth <= 0 {
			return fault.At("stations", "basin.station_without_depth", "station", i+1, "value", s.Depth)
		}
		if i > 0 && s.At < b.Stations[i-1].At {
			return fault.At("stations", "basin.stations_out_of_order", "station", i+1, "value", s.At, "least", b.Stations[i-1].At)
		}
	}
	low, high := b.reach()
	const slack = 1e-6
	if first, last := b.Stations[0].At, b.Stations[len(b.Stations)-1].At; first > low+slack || last < high-slack {
		return fault.At("stations", "basin.stations_do_not_cover", "from", low, "to", high, "first", first, "last", last)
	}
	return nil
}

// along is the place of a plan point on the axis, mm.
func (b Basin) along(p Point) float64 { return dot(p.minus(b.Axis.From), b.direction()) }

func (b Basin) direction() Point {
	way := b.Axis.To.minus(b.Axis.From)
	return way.times(1 / way.length())
}

// reach is the stretch of the axis that the plan covers.
func (b Basin) reach() (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, v := range b.Vertices {
		low, high = min(low, b.along(v)), max(high, b.along(v))
	}
	return low, high
}

// pieces are the floors between stations; risers lie between two of them.
func (b Basin) pieces() []floorPiece {
	var list []floorPiece
	for i := 1; i < len(b.Stations); i++ {
		a, c := b.Stations[i-1], b.Stations[i]
		if c.At > a.At {
			list = append(list, floorPiece{a.At, c.At, a.Depth, (c.Depth - a.Depth) / (c.At - a.At)})
		}
	}
	return list
}

// strip is the part of a plan between two places of the axis.
func (b Basin) strip(plan []Point, from, to float64) []Point {
	return clip(clip(plan, func(p Point) float64 { return b.along(p) - from }), func(p Point) float64 { return to - b.along(p) })
}

// Measure works out the geometry of a basin. It refuses bad outlines and stations.
func (b Basin) Measure() (BasinTakeoff, error) {
	if err := b.check(); err != nil {
		return BasinTakeoff{}, err
	}
	t := BasinTakeoff{WallAreas: make([]float64, len(b.Vertices))}
	outline := b.Vertices
	if SignedArea(outline) < 0 {
		t.TurnedRound = true
		outline = slices.Clone(outline)
		slices.Reverse(outline)
	}
	t.PlanArea = SignedArea(outline) / mm2PerM2
	for _, piece := range b.pieces() {
		t.FloorArea += SignedArea(b.strip(outline, piece.from, piece.to)) * piece.stretch() / mm2PerM2
	}
	for _, r := range b.risers() {
		t.RiserArea += b.width(outline, r.at) * math.Abs(r.to-r.from) / mm2PerM2
	}
	for i := range b.Vertices {
		from, to := edgeEnds(b.Vertices, i)
		t.WallAreas[i] = b.wallArea(from, to) / mm2PerM2
		t.FloorWall += b.footLength(from, to)
	}
	b.measureCorners(outline, &t)
	t.Volume, t.LowerVolume = b.volume(outline, 0), b.volume(outline, b.Lower)
	for _, box := range b.Boxes {
		b.measureBox(box, &t)
	}
	t.TotalMembrane = t.FloorArea + t.RiserArea + t.BoxArea
	for _, area := range t.WallAreas {
		t.TotalMembrane += area
	}
	return t, nil
}

type riser struct{ at, from, to float64 }

func (b Basin) risers() []riser {
	var list []riser
	for i := 1; i < len(b.Stations); i++ {
		if a, c := b.Stations[i-1], b.Stations[i]; a.At == c.At && a.Depth != c.Depth {
			list = append(list, riser{a.At, a.Depth, c.Depth})
		}
	}
	return list
}

// width of the plan across the axis, mm.
func (b Basin) width(outline []Point, at float64) float64 {
	across := Point{-b.direction()[1], b.direction()[0]}
	cuts := b.crossings(outline, at, across)
	wide := 0.0
	for i := 0; i+1 < len(cuts); i += 2 {
		wide += cuts[i+1] - cuts[i]
	}
	return wide
}

// crossings are where the line across the axis cuts the outline, in order.
func (b Basin) crossings(outline []Point, at float64, across Point) []float64 {
	var cuts []float64
	for i := range outline {
		p, q := edgeEnds(outline, i)
		s, e := b.along(p)-at, b.along(q)-at
		if s < 0 != (e < 0) {
			cuts = append(cuts, dot(p.plus(q.minus(p).times(s/(s-e))), across))
		}
	}
	slices.Sort(cuts)
	return cuts
}

// stretches cuts an edge where the floor below it bends and gives each part with the depths
// at its ends; share runs from 0 to 1 along the edge.
func (b Basin) stretches(from, to Point, visit func(share, depth [2]float64)) {
	s, e := b.along(from), b.along(to)
	if math.Abs(e-s) < 1e-9 {
		piece := b.under(s)
		visit([2]float64{0, 1}, [2]float64{piece.at(s), piece.at(s)})
		return
	}
	for _, piece := range b.pieces() {
		a, c := (piece.from-s)/(e-s), (piece.to-s)/(e-s)
		if a > c {
			a, c = c, a
		}
		if a, c = max(a, 0), min(c, 1); c > a {
			visit([2]float64{a, c}, [2]float64{piece.at(s + a*(e-s)), piece.at(s + c*(e-s))})
		}
	}
}

// under is the floor at a place of the axis; at a riser the one that lies on the plan's side.
func (b Basin) under(s float64) floorPiece {
	pieces := b.pieces()
	low, _ := b.reach()
	best := pieces[0]
	for _, piece := range pieces {
		if piece.from <= s+1e-9 && piece.to >= s-1e-9 {
			best = piece
			if s > low+1e-9 {
				break // the far side of a riser begins only beyond it
			}
		}
	}
	return best
}

// wallArea is the film's area on the wall above an edge, mm².
func (b Basin) wallArea(from, to Point) float64 {
	length, area := to.minus(from).length(), 0.0
	b.stretches(from, to, func(share, depth [2]float64) {
		area += length * (share[1] - share[0]) * ((depth[0]+depth[1])/2 + b.Freeboard)
	})
	return area
}

// footLength is the true length of the floor–wall junction below an edge, risers apart, mm.
func (b Basin) footLength(from, to Point) float64 {
	length, sum := to.minus(from).length(), 0.0
	b.stretches(from, to, func(share, depth [2]float64) {
		sum += math.Hypot(length*(share[1]-share[0]), depth[1]-depth[0])
	})
	return sum
}

// measureCorners adds the wall–wall junctions, each as deep as its place.
func (b Basin) measureCorners(outline []Point, t *BasinTakeoff) {
	for i := range outline {
		angle := interiorAngle(outline, i)
		height := b.DepthAt(outline[i]) + b.Freeboard
		switch {
		case math.Abs(angle-straight) < angleSlack:
		case angle < straight:
			t.WallWallInternal += height
		default:
			t.WallWallExternal += height
		}
	}
}

// volume of water at a level below the water line, L, boxes not displaced.
func (b Basin) volume(outline []Point, below float64) float64 {
	sum := 0.0
	for _, piece := range b.pieces() {
		wet := func(p Point) float64 { return piece.at(b.along(p)) - below }
		part := clip(b.strip(outline, piece.from, piece.to), wet)
		if len(part) >= 3 {
			sum += plane(part, wet)
		}
	}
	return sum / mm3PerL
}

// measureBox replaces the floor and walls that a box stands on and against, adds its top and
// free sides and takes the water that it displaces off. Its top lies along the floor.
func (b Basin) measureBox(box Box, t *BasinTakeoff) {
	corners := box.corners()
	for _, piece := range b.pieces() {
		foot := b.strip(corners, piece.from, piece.to)
		if len(foot) < 3 {
			continue
		}
		area := SignedArea(foot) * piece.stretch() / mm2PerM2
		t.FloorArea -= area
		if !box.through() {
			t.BoxArea += area
		}
	}
	room := Room{Vertices: b.Vertices, Edges: make([]Edge, len(b.Vertices))}
	for i := range room.Edges {
		room.Edges[i].Kind = "wall"
	}
	for k := range corners {
		a, c := edgeEnds(corners, k)
		free := c.minus(a).length()
		for i := range room.Edges {
			contact := room.contact(i, a, c)
			free -= contact
			t.WallAreas[i] -= contact * box.Height / mm2PerM2
			t.FloorWall -= contact
		}
		t.BoxArea += free * box.Height / mm2PerM2
	}
	t.Volume -= b.displaced(corners, box.Height, 0)
	t.LowerVolume -= b.displaced(corners, box.Height, b.Lower)
}

// displaced is the part of a box that stands in the water, L.
func (b Basin) displaced(corners []Point, height, below float64) float64 {
	whole := b.volume(corners, below)
	lifted := b
	lifted.Stations = slices.Clone(b.Stations)
	for i := range lifted.Stations {
		lifted.Stations[i].Depth -= height
	}
	return whole - lifted.volume(corners, below)
}

// DepthAt is the depth of the floor below the water line at a plan point, mm.
func (b Basin) DepthAt(p Point) float64 { return b.under(b.along(p)).at(b.along(p)) }

// Deepest is the greatest depth of the floor within the plan, mm.
func (b Basin) Deepest() float64 {
	low, high := b.reach()
	deepest := 0.0
	for _, piece := range b.pieces() {
		for _, s := range []float64{piece.from, piece.to} {
			if s >= low-1e-9 && s <= high+1e-9 {
				deepest = max(deepest, piece.at(s))
			}
		}
	}
	return max(deepest, b.under(low).at(low), b.under(high).at(high))
}

// corners of a box's foot, counter-clockwise from the low one.
func (b Box) corners() []Point {
	low := Point{min(b.CornerA[0], b.CornerB[0]), min(b.CornerA[1], b.CornerB[1])}
	high := Point{max(b.CornerA[0], b.CornerB[0]), max(b.CornerA[1], b.CornerB[1])}
	return []Point{low, {high[0], low[1]}, high, {low[0], high[1]}}
}
