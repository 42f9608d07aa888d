package wetarea

import (
	"math"

	"dusha/core/fault"
)

// RoundTank is a cylinder; the film covers its full inner height, and its soffit if it has one.
type RoundTank struct {
	Diameter float64 `json:"diameter_mm"`
	Height   float64 `json:"height_mm"`
	Soffit   bool    `json:"soffit"`
	Water    float64 `json:"water_depth_mm"`
}

// RoundTakeoff is what a round tank's geometry gives.
type RoundTakeoff struct {
	FloorArea     float64 `json:"floor_area_m2"`
	WallArea      float64 `json:"wall_area_m2"`
	SoffitArea    float64 `json:"soffit_area_m2"`
	TotalMembrane float64 `json:"total_membrane_area_m2"`
	FloorWall     float64 `json:"floor_wall_junction_mm"`
	WallSoffit    float64 `json:"wall_soffit_junction_mm"`
	Volume        float64 `json:"volume_L"`
}

// Measure works out the geometry of a round tank.
func (r RoundTank) Measure() (RoundTakeoff, error) {
	if err := checkTank(r.Height, r.Water, "diameter_mm", r.Diameter); err != nil {
		return RoundTakeoff{}, err
	}
	plan, round := math.Pi*r.Diameter*r.Diameter/4, math.Pi*r.Diameter
	t := RoundTakeoff{FloorArea: plan / mm2PerM2, WallArea: round * r.Height / mm2PerM2, FloorWall: round, Volume: plan * r.Water / mm3PerL}
	if r.Soffit {
		t.SoffitArea, t.WallSoffit = t.FloorArea, round
	}
	t.TotalMembrane = t.FloorArea + t.WallArea + t.SoffitArea
	return t, nil
}

// BoxTank is a tank with upright walls on a plan outline, under a soffit.
type BoxTank struct {
	Vertices []Point `json:"vertices_mm"`
	Height   float64 `json:"height_mm"`
	Water    float64 `json:"water_depth_mm"`
}

// BoxTakeoff is what a box tank's geometry gives.
type BoxTakeoff struct {
	FloorArea        float64   `json:"floor_area_m2"`
	SoffitArea       float64   `json:"soffit_area_m2"`
	WallAreas        []float64 `json:"wall_areas_m2"`
	TotalMembrane    float64   `json:"total_membrane_area_m2"`
	FloorWall        float64   `json:"floor_wall_junction_mm"`
	WallSoffit       float64   `json:"wall_soffit_junction_mm"`
	WallWallInternal float64   `json:"wall_wall_internal_mm"`
	WallWallExternal float64   `json:"wall_wall_external_mm"`
	InternalCorners  int       `json:"internal_corners"` // one at the floor and one at the soffit a vertex
	ExternalCorners  int       `json:"external_corners"`
	Volume           float64   `json:"volume_L"`
}

// Measure works out the geometry of a box tank.
func (b BoxTank) Measure() (BoxTakeoff, error) {
	if err := checkTank(b.Height, b.Water, "", 0); err != nil {
		return BoxTakeoff{}, err
	}
	room := Room{Vertices: b.Vertices, Edges: make([]Edge, len(b.Vertices))}
	for i := range room.Edges {
		room.Edges[i] = Edge{Kind: "wall", Height: b.Height}
	}
	t, err := room.Measure()
	if err != nil {
		return BoxTakeoff{}, err
	}
	return BoxTakeoff{
		FloorArea: t.PlanArea, SoffitArea: t.PlanArea, WallAreas: t.WallAreas, TotalMembrane: t.TotalMembrane + t.PlanArea,
		FloorWall: t.FloorWall, WallSoffit: t.FloorWall, WallWallInternal: t.WallWallInternal, WallWallExternal: t.WallWallExternal,
		InternalCorners: 2 * t.InternalCorners, ExternalCorners: 2 * t.ExternalCorners, Volume: t.PlanArea * b.Water,
	}, nil
}

func checkTank(height, water float64, field string, size float64) error {
	switch {
	case field != "" && size <= 0:
		return fault.At(field, "length.too_small", "value", size, "least", 0)
	case height <= 0:
		return fault.At("height_mm", "length.too_small", "value", height, "least", 0)
	case water < 0 || water > height:
		return fault.At("water_depth_mm", "tank.water_over_height", "value", water, "most", height)
	}
	return nil
}
