package wetarea

import (
	"fmt"
	"slices"
	"strings"

	"dusha/core/ask"
	"dusha/core/fault"
)

// rectangle asks the simplest room: length × width, a height on each wall, a doorway with a
// water stop, a drain and pipes; what else there is follows.
func (s *site) rectangle() (*Area, error) {
	f := s.f
	length, width := s.lengthByWidth()
	for _, wall := range s.names {
		height, ok := f.Length("walls."+wall+".height", leastHeight, mostHeight, ofWall, up(wall), "wall", wall)
		if !ok {
			height = sketchHeight
		}
		i, _ := s.room.edgeNamed(wall)
		s.room.Edges[i] = Edge{Name: wall, Kind: "wall", Height: height}
	}
	s.doorway()
	penetrations := []Penetration{s.onlyDrain(length, width)}
	count, _ := f.Count("pipes.count", 0, mostPipes)
	for i := 1; i <= count; i++ {
		penetrations = append(penetrations, s.pipe(i))
	}
	if !s.sized {
		return nil, nil
	}
	s.parts()
	area, err := deriveRoom(s.room)
	if err != nil {
		return nil, err
	}
	area.Shape = "rectangle"
	area.Penetrations = slices.DeleteFunc(penetrations, func(p Penetration) bool {
		on, known := area.Surface(p.Surface)
		return !f.Fine(p.fields()) || !known || !on.Contains(p.At)
	})
	return &area, nil
}

// fields is the prefix of the questions a penetration came from.
func (p Penetration) fields() string {
	switch {
	case p.Kind == "point_drain":
		return "drain."
	default:
		return "pipes." + strings.TrimPrefix(p.ID, "pipe.") + "."
	}
}

// doorway asks the one doorway of a rectangular room.
func (s *site) doorway() {
	f := s.f
	wall, okWall := f.Choice("doorway.wall", s.names, namesWall)
	args := []any{"wall", wall, with(on(wall), "threshold."+wall)}
	from, okFrom := f.Length("doorway.from_left", 0, mostSide, append([]any{fromLeft}, args...)...)
	width, okWidth := f.Length("doorway.width", leastDoor, mostDoor, args...)
	height, _ := f.Length("doorway.height", leastDoor, mostHeight, "wall", wall, ask.Shapes{"wall." + wall})
	stop, _ := f.Length("doorway.water_stop", leastStop, mostStop)
	if !okWall || !okWidth || !s.sized {
		return
	}
	edge, _ := s.room.edgeNamed(wall)
	long := s.room.edgeLength(edge)
	switch {
	case width > long:
		f.Reject(fault.At("doorway.width", "doorway.wider_than_wall", "wall", wall, "value", width, "most", long))
	case okFrom && from+width > long:
		f.Reject(fault.At("doorway.from_left", "doorway.past_wall_end", "wall", wall, "value", from, "most", long-width))
	}
	if f.Fine("doorway.") {
		// The opening runs along the edge, which goes from right to left as one faces the wall.
		s.room.Openings = []Opening{{Edge: edge, From: long - from - width, Width: width, Height: height, Stop: stop}}
	}
}

func (s *site) onlyDrain(length, width float64) Penetration {
	f := s.f
	fromD, okD := f.Length("drain.from_d", 0, mostSide, fromSide, itself("drain.1"))
	fromA, okA := f.Length("drain.from_a", 0, mostSide, itself("drain.1"))
	bore, okBore := f.Length("drain.diameter", leastBore, mostBore, itself("drain.1"))
	if s.sized && okBore {
		if okD {
			rejectOutside(f, "drain.from_d", "drain.off_floor", "floor", fromD, bore/2, length)
		}
		if okA {
			rejectOutside(f, "drain.from_a", "drain.off_floor", "floor", fromA, bore/2, width)
		}
	}
	return Penetration{ID: "drain.1", Kind: "point_drain", Surface: "floor", At: Point{fromD, width - fromA}, Diameter: bore}
}

func (s *site) pipe(i int) Penetration {
	f, room := s.f, s.room
	field := func(name string) string { return fmt.Sprintf("pipes.%d.%s", i, name) }
	options := []string{"wall.a", "wall.b", "wall.c", "wall.d", "floor"}
	on, okOn := f.Choice(field("surface"), options, namesOn, "pipe", i)
	args := []any{"pipe", i, "surface", on, itself(fmt.Sprintf("pipe.%d", i))}
	along, okAlong := f.Length(field("along"), 0, mostSide, append([]any{alongIt}, args...)...)
	up, okUp := f.Length(field("up"), 0, mostSide, args...)
	bore, okBore := f.Length(field("diameter"), leastBore, mostBore, args...)
	pipe := Penetration{ID: fmt.Sprintf("pipe.%d", i), Kind: "pipe", Surface: on, At: Point{along, up}, Diameter: bore}
	if !s.sized || !okOn || !okBore {
		return pipe
	}
	long, high := room.Vertices[2][0], room.Vertices[2][1]
	if on != "floor" {
		wall := strings.TrimPrefix(on, "wall.")
		edge, _ := room.edgeNamed(wall)
		okUp = okUp && f.Fine("walls."+wall+".height")
		long, high = room.edgeLength(edge), room.Edges[edge].Height
		if okAlong && okUp {
			rejectInDoorway(f, field("along"), on, room, edge, along, up, bore/2)
		}
	} else {
		pipe.At[1] = high - up // asked from wall A
	}
	if okAlong {
		rejectOutside(f, field("along"), "pipe.off_surface", on, along, bore/2, long)
	}
	if okUp {
		rejectOutside(f, field("up"), "pipe.off_surface", on, up, bore/2, high)
	}
	return pipe
}

func rejectOutside(f *ask.Form, field, key, surface string, value, radius, size float64) {
	if value < radius || value > size-radius {
		f.Reject(fault.At(field, key, "surface", surface, "value", value, "least", radius, "most", size-radius))
	}
}

func rejectInDoorway(f *ask.Form, field, surface string, room Room, edge int, along, up, radius float64) {
	for _, o := range room.Openings {
		left := room.leftOf(edge, o.From, o.Width)
		if o.Edge == edge && along+radius > left && along-radius < left+o.Width && up-radius < o.Height {
			f.Reject(fault.At(field, "pipe.in_doorway", "surface", surface, "value", along, "from", left, "to", left+o.Width))
		}
	}
}
