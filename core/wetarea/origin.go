package wetarea

import (
	"slices"
	"strings"
)

// rectangleOrigin names the answers that a surface, junction, corner or penetration came from.
func (s Survey) rectangleOrigin(id string) []string {
	part := strings.Split(id, ".")
	side := func(wall string) string {
		if wall == "a" || wall == "c" {
			return "length"
		}
		return "width"
	}
	doorway := func(wall string, names ...string) []string {
		if s.Answers["doorway.wall"].Typed != wall {
			return nil
		}
		return names
	}
	switch part[0] {
	case "floor":
		return []string{"length", "width"}
	case "wall":
		return append([]string{side(part[1]), "walls." + part[1] + ".height"}, doorway(part[1], "doorway.width", "doorway.height")...)
	case "floor_wall":
		return append([]string{side(part[1])}, doorway(part[1], "doorway.from_left", "doorway.width")...)
	case "threshold":
		return []string{"doorway.width"}
	case "wall_wall":
		return []string{"walls." + part[1] + ".height", "walls." + part[2] + ".height"}
	case "corner":
		return []string{side(part[1]), side(part[2])}
	case "drain":
		return []string{"drain.from_d", "drain.from_a", "drain.diameter"}
	case "pipe":
		prefix := "pipes." + part[1] + "."
		return []string{prefix + "along", prefix + "up", prefix + "diameter"}
	}
	return nil
}

// Origin names the answers that a surface, junction, corner or penetration came from.
func (s Survey) Origin(id string) []string {
	if s.Form == "rectangle" {
		if own := s.rectangleOrigin(id); own != nil {
			return own
		}
	}
	part := strings.Split(id, ".")
	var from []string
	under := func(prefix string) {
		before := len(from)
		for answer, said := range s.Answers {
			if strings.HasPrefix(answer, prefix) && said.Value != 0 {
				from = append(from, answer)
			}
		}
		slices.Sort(from[before:])
	}
	item := map[string]string{"niche": "niches.", "reveal": "openings.", "box": "boxes.", "line": "lines.", "drain": "drains.", "fitting": "fittings."}
	switch {
	case (part[0] == "corner" || part[0] == "saddle") && part[1] == "niche":
		under("niches." + part[2] + ".")
	case item[part[0]] != "":
		under(item[part[0]] + part[1] + ".")
	case part[0] == "threshold" && len(part) == 3:
		under("openings." + part[2] + ".")
	case part[0] == "riser" || part[0] == "floor":
		under("stations.")
	default:
		for _, wall := range part[1:] {
			under("walls." + wall + ".")
		}
	}
	if len(from) > 0 && part[0] != "wall" && part[0] != "wall_wall" && part[0] != "floor" {
		return from
	}
	for _, whole := range []string{"length", "width", "diameter", "height", "tray_depth", "upstand", "basin_depth", "freeboard", "tank_height", "strip"} {
		if _, is := s.Answers[whole]; is {
			from = append(from, whole)
		}
	}
	if part[0] == "floor" {
		under("walls.")
	}
	if len(from) == 0 {
		under("walls.")
		under("points")
	}
	if _, is := s.Answers["points"]; is && len(from) < 2 {
		from = append(from, "points")
	}
	return from
}
