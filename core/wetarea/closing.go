package wetarea

import (
	"math"

	"dusha/core/fault"
)

// Run is a chain of walls as it was measured, going round clockwise as seen from above:
// each wall's length and the angle inside the corner before it. It closes when the last wall
// ends where the first began.
type Run struct {
	Points    []Point `json:"points_mm"` // where each wall begins, and the end of the last
	Gap       float64 `json:"gap_mm"`    // from the end back to the beginning
	Right     float64 `json:"gap_x_mm"`
	Up        float64 `json:"gap_y_mm"`
	Perimeter float64 `json:"perimeter_mm"`
	Closed    bool    `json:"closed"` // to the mm
}

// Ways to share out what a run fails to close by.
const (
	ShareLengths = "lengths" // every length gives a little, the angles stay
	ShareCorners = "corners" // every corner moves a little (the compass rule of Bowditch)
)

const (
	closedMm   = 1.0  // within which a run closes by itself
	mostOpen   = 0.05 // of the perimeter: beyond that it is no closing error
	rightAngle = 90.0
)

// newRun lays walls out one after the other, the first to the right.
func newRun(lengths, corners []float64) Run {
	r := Run{Points: []Point{{0, 0}}}
	for k, way := range headings(len(lengths), corners) {
		r.Points = append(r.Points, r.Points[k].plus(way.times(lengths[k])))
		r.Perimeter += lengths[k]
	}
	gap := r.Points[len(r.Points)-1]
	r.Right, r.Up, r.Gap = gap[0], gap[1], gap.length()
	r.Closed = r.Gap <= closedMm
	return r
}

// headings are the directions of n walls; corners[k] is the angle inside between wall k and
// the next. Right angles are kept exact.
func headings(n int, corners []float64) []Point {
	list, turned := []Point{}, 0.0
	for k := range n {
		if k > 0 {
			turned += corners[k-1] - straight
		}
		list = append(list, direction(turned))
	}
	return list
}

func direction(degrees float64) Point {
	quarter := degrees / rightAngle
	if quarter == math.Trunc(quarter) {
		return []Point{{1, 0}, {0, 1}, {-1, 0}, {0, -1}}[((int(quarter)%4)+4)%4]
	}
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	return Point{cos, sin}
}

// Share closes a run. By lengths, wall k changes by l_k·d_k·λ, d its direction, λ such that
// the gap goes: the least change for its length, all angles kept. By corners, corner k moves
// by the gap in the share of the way walked so far.
func (r Run) Share(lengths, corners []float64, how string) ([]Point, error) {
	n := len(lengths)
	if r.Gap > mostOpen*r.Perimeter {
		return nil, fault.At("closing", "outline.does_not_close", "gap", r.Gap, "most", mostOpen*r.Perimeter)
	}
	gap := Point{r.Right, r.Up}
	if how == ShareCorners {
		points, walked := []Point{}, 0.0
		for k := range n {
			points = append(points, r.Points[k].minus(gap.times(walked/r.Perimeter)))
			walked += lengths[k]
		}
		return points, nil
	}
	ways := headings(n, corners)
	var xx, xy, yy float64
	for k, d := range ways {
		xx, xy, yy = xx+lengths[k]*d[0]*d[0], xy+lengths[k]*d[0]*d[1], yy+lengths[k]*d[1]*d[1]
	}
	det := xx*yy - xy*xy
	if det <= 1e-9*r.Perimeter*r.Perimeter {
		return nil, fault.At("closing", "outline.does_not_close", "gap", r.Gap, "most", closedMm)
	}
	lambda := Point{-(yy*gap[0] - xy*gap[1]) / det, -(xx*gap[1] - xy*gap[0]) / det}
	points := []Point{{0, 0}}
	for k := range n - 1 {
		length := lengths[k] * (1 + dot(ways[k], lambda))
		points = append(points, points[k].plus(ways[k].times(length)))
	}
	return points, nil
}
