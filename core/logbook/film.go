package logbook

import (
	"iter"
	"math"
	"time"

	"dusha/core/film"
	"dusha/core/system"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// coatFacts are what is asked of a coat by plan and survey alone.
type coatFacts struct {
	wanted map[string]int     // readings, by surface
	radius map[string]float64 // within which readings are of one place, by surface
	asked  film.Asked         // what its film is judged against, but for the readings
	reach  float64            // of a reading, mm
}

// factsOf works out what is asked of a coat, once. How many readings each surface needs: by the local
// rule a m², and at least five on the floor and five on the walls together. A target built of layers
// multiplies the limits of its film.
func (a *Area) factsOf(coat takeoff.Coat) *coatFacts {
	if known := a.memo.facts[coat.Number]; known != nil {
		return known
	}
	perM2 := a.Plan.Rules.Limit("readings_per_m2").Value
	least := coat.Least.Value
	f := &coatFacts{
		wanted: map[string]int{}, radius: map[string]float64{}, reach: film.Reach(perM2),
		asked: film.Asked{Target: coat.Wet.Value, Minimum: least, SheetLeast: &least},
	}
	if greatest, err := a.Plan.sheets[coat.Product].Number("greatest_wft"); err == nil {
		most := greatest.Value * a.layersOf(coat)
		f.asked.Greatest = &most
	}
	groups := map[string][]takeoff.Share{}
	for _, share := range coat.Surface {
		surface, _ := a.Geometry.Surface(share.Surface)
		group := filmGroups[surface.Kind]
		groups[group] = append(groups[group], share)
	}
	for _, group := range groups {
		var areas []float64
		area, asked := 0.0, 0
		for _, share := range group {
			areas, area = append(areas, share.Area), area+share.Area
		}
		for i, n := range film.Share(areas, perM2) {
			f.wanted[group[i].Surface] = n
			asked += n
		}
		for _, share := range group {
			f.radius[share.Surface] = film.SamePlace(area, asked)
		}
	}
	a.memo.facts[coat.Number] = f
	return f
}

// layersOf is how many layers of the sheet's film a coat is built of.
func (a *Area) layersOf(coat takeoff.Coat) float64 {
	one := a.Plan.sheets[coat.Product].Film().Wet
	if one == nil || one.Value <= 0 {
		return 1
	}
	return max(1, math.Round(coat.Wet.Value/one.Value))
}

// judge judges the film of a surface in a coat, by its places: so many readings being wanted.
func (a *Area) judge(step system.Step, surface string, wanted int) film.Verdict {
	key := filmKey{step.ID, surface}
	known := a.memo.films[key]
	if v, is := known.judged(wanted); is {
		return v
	}
	v := a.judgeAnew(step, surface, wanted)
	a.memo.films[key] = known.with(wanted, v)
	return v
}

func (a *Area) judgeAnew(step system.Step, surface string, wanted int) film.Verdict {
	facts := a.factsOf(a.Takeoff.Coats[step.Coat-1])
	var layers [][]film.Touch
	for r := range a.counted(filmKey{step.ID, surface}) {
		for len(layers) <= r.Layer {
			layers = append(layers, nil)
		}
		layers[r.Layer] = append(layers[r.Layer], film.Touch{Along: r.Along, Up: r.Up, Bracket: r.Bracket})
	}
	var places [][]film.Bracket
	for _, touches := range layers {
		joined, _ := film.Places(touches, facts.radius[surface])
		places = append(places, joined)
	}
	asked := facts.asked
	asked.Readings = wanted
	v := film.JudgeLayers(places, asked)
	if newest := a.layer[step.ID+surface]; newest > 0 && newest >= len(layers) { // laid and not read yet
		v.Says, v.Accepted, v.Count = film.TooFew, false, 0
	}
	return v
}

// counted are the readings of a surface in a coat that count.
func (a *Area) counted(of filmKey) iter.Seq[*Reading] {
	return func(yield func(*Reading) bool) {
		for _, i := range a.read[of] {
			if r := &a.Readings[of.step][i]; !r.Superseded && !yield(r) {
				return
			}
		}
	}
}

// Unread is what of a surface lies beyond the reach of its readings.
type Unread struct {
	Area     float64        `json:"m2"`
	Share    float64        `json:"share"`
	At       *wetarea.Point `json:"at_mm,omitempty"` // where to read next: by a fitting that no reading reaches, else farthest from all
	Fittings []string       `json:"fittings"`        // that no reading reaches
}

// counts tells whether so much is not read that the film is not known to be enough.
func (u Unread) counts() bool { return u.Share > film.MostUnread || len(u.Fittings) > 0 }

// beyondReach looks which places of a surface no reading of the coat's newest layer reaches, and where
// to read next.
func (a *Area) beyondReach(step system.Step, surface string) Unread {
	key := filmKey{step.ID, surface}
	known := a.memo.films[key]
	if known.unread == nil {
		u := a.beyondReachAnew(step, surface)
		known.unread = &u
		a.memo.films[key] = known
	}
	return *known.unread
}

func (a *Area) beyondReachAnew(step system.Step, surface string) Unread {
	u := Unread{Fittings: []string{}}
	s, known := a.Geometry.Surface(surface)
	if !known {
		return u
	}
	read := []wetarea.Point{}
	for r := range a.counted(filmKey{step.ID, surface}) {
		if r.Layer == a.layer[step.ID+surface] {
			read = append(read, wetarea.Point{r.Along, r.Up})
		}
	}
	if len(read) == 0 {
		if middle, is := s.Middle(); is {
			u.At = &middle
		}
		return u
	}
	reach, cells := a.factsOf(a.Takeoff.Coats[step.Coat-1]).reach, a.cells(s)
	beyond := 0
	away := make([]float64, len(cells))
	for i, p := range cells {
		away[i] = nearest(p, read)
		beyond += one(away[i] > reach)
	}
	if len(cells) > 0 {
		u.Share = float64(beyond) / float64(len(cells))
		u.Area = u.Share * s.Area
	}
	low, high := wetarea.Extent(slicesOf(s.Outlines))
	const inward, quarter = 200, 0.25
	inset := min(inward, quarter*(high[0]-low[0]), quarter*(high[1]-low[1])) // an edge is no good place for a comb
	u.At = bestOf(cells, func(i int, p wetarea.Point) float64 {
		edge := min(p[0]-low[0], high[0]-p[0], p[1]-low[1], high[1]-p[1])
		return away[i] * min(1, edge/inset)
	})
	for _, p := range a.Geometry.Penetrations {
		if p.Surface == surface && nearest(p.At, read) > reach {
			u.Fittings = append(u.Fittings, p.ID)
			u.At = bestOf(cells, func(_ int, c wetarea.Point) float64 { return -nearest(c, []wetarea.Point{p.At}) })
		}
	}
	return u
}

// nearest is how far the nearest of some points lies, mm.
func nearest(p wetarea.Point, points []wetarea.Point) float64 {
	least := math.Inf(1)
	for _, q := range points {
		x, y := q[0]-p[0], q[1]-p[1]
		least = min(least, x*x+y*y)
	}
	return math.Sqrt(least)
}

// bestOf is the point of the greatest worth, to the whole mm; nil of none.
func bestOf(points []wetarea.Point, worth func(int, wetarea.Point) float64) *wetarea.Point {
	best, most := (*wetarea.Point)(nil), math.Inf(-1)
	for i, p := range points {
		if w := worth(i, p); w > most {
			best, most = &wetarea.Point{math.Round(p[0]), math.Round(p[1])}, w
		}
	}
	return best
}

// cells are places spread evenly over a surface.
func (a *Area) cells(s wetarea.Surface) []wetarea.Point {
	if known, is := a.memo.grid[s.ID]; is {
		return known
	}
	const about = 300
	low, high := wetarea.Extent(slicesOf(s.Outlines))
	side := math.Sqrt((high[0] - low[0]) * (high[1] - low[1]) / about)
	cells := []wetarea.Point{}
	if side > 0 {
		for x := low[0] + side/2; x < high[0]; x += side {
			for y := low[1] + side/2; y < high[1]; y += side {
				if p := (wetarea.Point{x, y}); s.Contains(p) {
					cells = append(cells, p)
				}
			}
		}
	}
	a.memo.grid[s.ID] = cells
	return cells
}

func slicesOf(outlines [][]wetarea.Point) (points []wetarea.Point) {
	for _, o := range outlines {
		points = append(points, o...)
	}
	return points
}

// massLow is what the mass says where it makes a coat more than 15 % thinner than the teeth, and nobody
// said why since: the film it would make, mm.
func (a *Area) massLow(step system.Step) (wet float64, low bool) {
	known, is := a.memo.mass[step.ID]
	if !is {
		known.wet, known.low = a.massLowAnew(step)
		a.memo.mass[step.ID] = known
	}
	return known.wet, known.low
}

func (a *Area) massLowAnew(step system.Step) (wet float64, low bool) {
	l := CoatLook{}
	for _, lay := range a.Laid[step.ID] {
		l.Used += lay.Kg
	}
	covered := a.covered(step.ID)
	for _, share := range a.Takeoff.Coats[step.Coat-1].Surface {
		l.Surfaces = append(l.Surfaces, SurfaceLook{Share: share, Laid: covered[share.Surface], Film: a.judge(step, share.Surface, 0)})
	}
	c := a.consumption(step, l)
	if c == nil || !c.AsksWhy || c.Difference > 0 {
		return 0, false
	}
	if said, is := a.filmExplained[step.ID]; is && !a.laidOrRead(step.ID).After(said.when) {
		return c.FromMass, false
	}
	return c.FromMass, true
}

// laidOrRead is when a coat was laid or read last.
func (a *Area) laidOrRead(step string) (last time.Time) {
	for _, lay := range a.Laid[step] {
		if lay.When.After(last) {
			last = lay.When
		}
	}
	for _, r := range a.Readings[step] {
		if r.when.After(last) {
			last = r.when
		}
	}
	return last
}

// verdict is the judgement of a surface in a coat, with what was not read and what the mass says.
func (a *Area) verdict(step system.Step, surface string, wanted int) (v film.Verdict, u Unread) {
	if a.acceptedBy(step) != byComb {
		return a.byOther(step, surface, wanted), Unread{Fittings: []string{}}
	}
	v, u = a.judge(step, surface, wanted), a.beyondReach(step, surface)
	if v.Count == 0 {
		return v, u
	}
	if (v.Says == film.Enough || v.Says == film.Thick) && u.counts() {
		v.Says = film.TooFew
	}
	defer func() {
		if v.Says != film.Enough && v.Says != film.Thick {
			v.Strength, v.More = "", nil // what is not enough is not said to be, however strongly
		}
	}()
	if v.Says != film.Enough && v.Says != film.Thick {
		return v, u
	}
	if !a.covered(step.ID)[surface] {
		v.Says = film.NotKnown // read, and nobody said that it was laid
	} else if wet, low := a.massLow(step); low {
		v.Says = film.NotKnown
		if least := a.Takeoff.Coats[step.Coat-1].Least.Value; math.Round(wet*1000) < math.Round(least*1000) {
			v.Says = film.Thin
		}
	}
	return v, u
}
