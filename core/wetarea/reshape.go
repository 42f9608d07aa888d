package wetarea

import (
	"maps"
	"slices"
	"strconv"
	"strings"
)

// outlined are the forms that ask an outline, in which a rectangle is one.
var outlined = []string{"room", "basin", "box_tank", "deck", "sunken"}

// Reshape gives the answers to one form as answers to another one of the same area, so that nothing is asked
// twice: the rectangle is the quick way into the room, whose form asks the same under its own names; so do the
// others that ask an outline. Between other forms an answer keeps its name, and what the other form does not ask
// is left as it was typed.
func Reshape(from, to string, typed map[string]string) map[string]string {
	now := map[string]string{} // of none typed too
	maps.Copy(now, typed)
	if from != "rectangle" || !slices.Contains(outlined, to) {
		return now
	}
	take := func(was, is string) {
		if text, typed := now[was]; typed {
			now[is] = text
			delete(now, was)
		}
	}
	now["outline"] = "rectangle"
	if _, said := now["height"]; !said && now["walls.a.height"] != "" {
		now["height"] = now["walls.a.height"]
	}
	if door := under(typed, "doorway."); len(door) > 0 {
		item := addItem(now, "openings")
		for _, name := range door {
			take("doorway."+name, "openings."+item+"."+name)
		}
	}
	if drain := under(typed, "drain."); len(drain) > 0 {
		item := "drains." + addItem(now, "drains") + "."
		now[item+"wall"] = "a"
		take("drain.from_d", item+"along")
		take("drain.from_a", item+"out")
		take("drain.diameter", item+"diameter")
	}
	count, _ := strconv.Atoi(now["pipes.count"])
	delete(now, "pipes.count")
	for i := range min(count, mostPipes) {
		was := "pipes." + strconv.Itoa(i+1) + "."
		is := "fittings." + addItem(now, "fittings") + "."
		if now[was+"surface"] == "floor" {
			now[is+"wall"] = "a"
			take(was+"up", is+"out")
		}
		for _, name := range []string{"surface", "along", "up", "diameter"} {
			take(was+name, is+name)
		}
	}
	return now
}

// under gives the names of the answers below a prefix, in order.
func under(typed map[string]string, prefix string) []string {
	var names []string
	for id := range typed {
		if name, is := strings.CutPrefix(id, prefix); is {
			names = append(names, name)
		}
	}
	slices.Sort(names)
	return names
}

// addItem adds an item to a list and gives its number.
func addItem(typed map[string]string, list string) string {
	last := 0
	for _, item := range strings.Fields(typed[list]) {
		if n, err := strconv.Atoi(item); err == nil {
			last = max(last, n)
		}
	}
	item := strconv.Itoa(last + 1)
	typed[list] = strings.TrimSpace(typed[list] + " " + item)
	return item
}
