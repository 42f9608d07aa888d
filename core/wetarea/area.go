package wetarea

import (
	"math"
	"slices"
)

// Area is a surveyed wet area: every surface, junction, corner and penetration by an id
// that stays the same when a size changes.
type Area struct {
	Shape        string        `json:"shape"`
	Room         Room          `json:"room"` // plan outline with its edges; of a round tank the outline alone
	Takeoff      Takeoff       `json:"takeoff"`
	Surfaces     []Surface     `json:"surfaces"`
	Junctions    []Junction    `json:"junctions"`
	Corners      []Corner      `json:"corners"`
	Penetrations []Penetration `json:"penetrations"`
	Features     []Feature     `json:"features,omitempty"` // joints, cracks and trims
	Patches      []Patch       `json:"patches,omitempty"`
	Gaps         []string      `json:"gaps"` // edges and doorways neither walled, stopped nor trimmed
	WaterStop    float64       `json:"water_stop_mm"`
	Termination  float64       `json:"termination_mm"`       // film edges to mask
	Closing      float64       `json:"closing_mm,omitempty"` // gap of the walk that was shared out
	Water        *Water        `json:"water,omitempty"`
	Falls        *Falls        `json:"falls,omitempty"`
	Fill         *Fill         `json:"fill,omitempty"`
	Heads        []Head        `json:"heads,omitempty"`

	origins     []Origin
	floorAt     func(plan Point) Point      // where a plan point lies on the floor's surface
	panelFrames []Frame                     // of a wall run's panels
	volumeAt    func(below float64) float64 // of a basin or tank, L
}

// Surface is one face to be coated, outlined in its own (along, up) coordinates.
type Surface struct {
	ID       string    `json:"id"`   // "floor", "wall.a", "niche.1"
	Kind     string    `json:"kind"` // "floor", "wall", "soffit", "reveal", "niche", "box" or "riser"
	Edge     int       `json:"edge"` // edge of the plan; -1 for others
	Outlines [][]Point `json:"outlines_mm"`
	Holes    [][]Point `json:"holes_mm,omitempty"`
	Area     float64   `json:"area_m2"`
	Length   float64   `json:"length_mm"` // greatest extent along
	Height   float64   `json:"height_mm"` // greatest extent up
	Laid     Frame     `json:"laid"`      // where it lies in the net
	Moved    *Point    `json:"moved_from_mm,omitempty"`
}

// Frame lays a surface out in the net: a place (along, up) lands at origin + along·right +
// up·up, in mm, x to the right and y up.
type Frame struct {
	Origin Point `json:"origin_mm"`
	Right  Point `json:"right"`
	Up     Point `json:"up"`
}

// Place is where a place of the surface lands.
func (f Frame) Place(p Point) Point {
	return f.Origin.plus(f.Right.times(p[0])).plus(f.Up.times(p[1]))
}

// Junction is a line where surfaces meet.
type Junction struct {
	ID     string  `json:"id"`   // "floor_wall.a.1", "wall_wall.a.b", "threshold.c"
	Kind   string  `json:"kind"` // "floor_wall", "wall_wall", "threshold", "wall_soffit", "niche", "box", "riser", "movement", "control", "crack" or "material"
	Turn   string  `json:"turn"` // "internal", "external" or "flat"
	Length float64 `json:"length_mm"`
	Lines  []Line  `json:"lines"` // where it lies on each surface
}

// Line is a stretch on a surface.
type Line struct {
	Surface string `json:"surface"`
	From    Point  `json:"from_mm"`
	To      Point  `json:"to_mm"`
}

// Length of the stretch, mm.
func (l Line) Length() float64 { return l.To.minus(l.From).length() }

// Beside is how far along the stretch a place of the surface lies, and how far off it, mm.
func (l Line) Beside(p Point) (along, away float64) {
	way, long := l.To.minus(l.From), l.Length()
	if long == 0 {
		return 0, p.minus(l.From).length()
	}
	way = way.times(1 / long)
	off := p.minus(l.From)
	return dot(off, way), math.Abs(cross(way, off))
}

// Corner is a point where two walls and the floor meet, or of a niche.
type Corner struct {
	ID        string  `json:"id"` // "corner.a.b"
	Surface   string  `json:"surface"`
	At        Point   `json:"at_mm"` // on that surface
	Angle     float64 `json:"angle_deg"`
	Turn      string  `json:"turn"`      // "internal", "external" or "saddle"
	Preformed bool    `json:"preformed"` // 90° or 270°: a bought corner fits
}

// Penetration is something that passes through the film.
type Penetration struct {
	ID       string    `json:"id"`   // "drain.1", "pipe.2"
	Kind     string    `json:"kind"` // "point_drain", "channel", "pipe", "fitting", "leg", "outlet" or "fixing"
	Surface  string    `json:"surface"`
	At       Point     `json:"at_mm"`
	Diameter float64   `json:"diameter_mm"`
	Ends     *[2]Point `json:"ends_mm,omitempty"` // of a channel
	Height   float64   `json:"height_mm,omitempty"`
	Collar   float64   `json:"collar_mm,omitempty"`
}

// Drains tells whether water leaves by it.
func (p Penetration) Drains() bool { return p.Kind == "point_drain" || p.Kind == "channel" }

// Feature is a line on a surface: a joint, a crack, a change of material or a trim.
type Feature struct {
	ID       string  `json:"id"`   // "line.1"
	Kind     string  `json:"kind"` // one of LineKinds
	Line     Line    `json:"line"`
	Width    float64 `json:"width_mm"`
	Movement float64 `json:"movement_mm"` // expected
}

// Water is what a basin or tank holds.
type Water struct {
	Line   float64       `json:"line_mm"` // over the lowest floor point
	Volume float64       `json:"volume_L"`
	Levels []LevelVolume `json:"levels"` // from the water line down
}

// LevelVolume is the volume up to a level.
type LevelVolume struct {
	Below  float64 `json:"below_water_line_mm"`
	Volume float64 `json:"volume_L"`
}

// Fill is what lies over a sunken floor.
type Fill struct {
	Depth  float64 `json:"depth_mm"`
	Volume float64 `json:"volume_L"`
	Weight float64 `json:"weight_kg"`
}

// Falls is how a floor falls, or what it takes to make it fall.
type Falls struct {
	Rule    float64     `json:"rule_n"`
	Screed  *Screeded   `json:"screed,omitempty"`
	Weight  float64     `json:"weight_kg,omitempty"`
	Left    *float64    `json:"height_left_mm,omitempty"` // under the height that there is
	Levels  []LevelFall `json:"levels,omitempty"`
	Misses  int         `json:"misses"` // levels that fall less than asked
	LeastAt string      `json:"least_at,omitempty"`
}

// LevelFall is a surveyed level and its fall along the way to the drain.
type LevelFall struct {
	ID     string  `json:"id"`
	At     Point   `json:"at_mm"` // on the floor
	Level  float64 `json:"level_mm"`
	Fall   float64 `json:"fall"`
	Misses bool    `json:"misses"`
}

// Head is the water that presses on a surface, from each side, at its lowest point.
type Head struct {
	Surface     string  `json:"surface"`
	Positive    float64 `json:"positive_mm"`
	Negative    float64 `json:"negative_mm"`
	PositiveBar float64 `json:"positive_bar"`
	NegativeBar float64 `json:"negative_bar"`
}

// Surface finds a surface by id.
func (a Area) Surface(id string) (Surface, bool) {
	i := slices.IndexFunc(a.Surfaces, func(s Surface) bool { return s.ID == id })
	if i < 0 {
		return Surface{}, false
	}
	return a.Surfaces[i], true
}

// Contains tells whether a place lies on the surface, its edges included.
func (s Surface) Contains(p Point) bool {
	for _, hole := range s.Holes {
		if strictlyInside(hole, p) {
			return false
		}
	}
	for _, outline := range s.Outlines {
		if inside(outline, p) {
			return true
		}
	}
	return false
}

func strictlyInside(outline []Point, p Point) bool {
	for i := range outline {
		if a, b := edgeEnds(outline, i); DistanceToSegment(p, a, b) < 1e-6 {
			return false
		}
	}
	return inside(outline, p)
}

// Middle is a place on the surface near the middle of its box, to the whole mm: where the
// middle itself is a doorway or beside an angled edge, the nearest place of a fine grid.
func (s Surface) Middle() (at Point, found bool) {
	const cells = 24
	low, high := extent(s.Outlines...)
	middle, nearest := low.plus(high).times(0.5), math.Inf(1)
	for i := 1; i < cells; i++ {
		for j := 1; j < cells; j++ {
			p := Point{math.Round(low[0] + (high[0]-low[0])*float64(i)/cells), math.Round(low[1] + (high[1]-low[1])*float64(j)/cells)}
			if away := p.minus(middle).length(); away < nearest && s.Contains(p) {
				at, nearest, found = p, away, true
			}
		}
	}
	return at, found
}

// Extent is the box round some points, mm.
func Extent(points []Point) (low, high Point) { return extent(points) }

// extent is the box round some outlines.
func extent(outlines ...[]Point) (low, high Point) {
	low, high = Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, outline := range outlines {
		for _, p := range outline {
			for k, v := range p { // compared by hand: min and max are slow in WebAssembly
				if v < low[k] {
					low[k] = v
				}
				if v > high[k] {
					high[k] = v
				}
			}
		}
	}
	return low, high
}
