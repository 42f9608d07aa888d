package draw

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"dusha/core/site"
	"dusha/core/wetarea"
	"dusha/core/wetarea/wetareatest"
	"dusha/demo"
)

// written is where the letters of a drawing's texts stand, as they are set.
func written(d Drawing, wide bool) (texts []rect, says []string) {
	n := &net{Drawing: d, px: d.MmPerPx}
	for _, item := range d.Items {
		if item.Kind != "text" {
			continue
		}
		half := n.halfOf(item.Style, item.Say.letters(wide))
		half[0] -= 2 * n.px
		texts = append(texts, around(wetarea.Point{item.At[0], item.At[1] - n.foot(item.Style)}, half))
		says = append(says, fmt.Sprintf("%s %v", item.Say.Key, item.Say.Args))
	}
	return texts, says
}

// checkTexts holds that no two texts of a drawing lie over each other and none is cut.
func checkTexts(t *testing.T, name string, d Drawing, wide bool) (count int) {
	t.Helper()
	texts, says := written(d, wide)
	slack := 1.5 * d.MmPerPx
	for i, a := range texts {
		seen := a.high[0] > d.Box.X && a.low[0] < d.Box.X+d.Box.Width && a.high[1] > d.Box.Y && a.low[1] < d.Box.Y+d.Box.Height
		whole := a.low[0] > d.Box.X-slack && a.high[0] < d.Box.X+d.Box.Width+slack && a.low[1] > d.Box.Y-slack && a.high[1] < d.Box.Y+d.Box.Height+slack
		if seen && !whole {
			t.Errorf("%s: %s is cut", name, says[i])
		}
		for k, b := range texts[i+1:] {
			shrunk := rect{wetarea.Point{b.low[0] + slack, b.low[1] + slack}, wetarea.Point{b.high[0] - slack, b.high[1] - slack}}
			if a.over(shrunk) {
				t.Errorf("%s: %s lies over %s", name, says[i], says[i+1+k])
			}
		}
	}
	return len(texts)
}

var labelViews = []View{{1000, 640}, {700, 500}, {740, 400}, {360, 300}}

// Names, dimensions, readings and numbers of pieces of all areas of the hostel.
func TestNoTextOfTheHostelLiesOverAnother(t *testing.T) {
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), 5)
	if err != nil {
		t.Fatal(err)
	}
	job, count := site.Read(made.Entries), 0
	for key, id := range made.Areas {
		area := job.Area(id)
		if area.Geometry == nil {
			continue
		}
		look := area.At(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC))
		for _, view := range labelViews {
			for _, zoom := range []float64{0, 2, 5} {
				shown := Shown{View: view, Zoom: zoom}
				draws := []NetInputs{{Area: *area.Geometry, Shown: shown}}
				for _, layers := range [][]string{{"dims", "leaks"}, {"bands", "numbers"}, {"coat", "film"}, {"patches"}} {
					in := NetInputs{Area: *area.Geometry, Shown: shown, Lying: Lying{Pieces: look.Pieces}}
					in.Layers = layers
					draws = append(draws, in)
					for i := range look.Coats {
						in.Coat = &look.Coats[i]
						draws = append(draws, in)
					}
				}
				for _, in := range draws {
					d, err := Net(in)
					if err != nil {
						t.Fatal(key, err)
					}
					count += checkTexts(t, fmt.Sprintf("%s %v ×%v %v", key, view, zoom, in.Layers), d, false)
				}
			}
		}
	}
	if count < 1000 {
		t.Errorf("%d texts: the test looks at too little", count)
	}
}

// The same over surveys of every form with sizes by chance, the questions' dimensions drawn and one asked.
func TestNoTextOfAnySurveyLiesOverAnother(t *testing.T) {
	random := rand.New(rand.NewPCG(17, 29))
	names := slices.Sorted(maps.Keys(wetareatest.Shapes))
	drawn := 0
	for i := range 2000 {
		if drawn == 200 {
			break
		}
		shape := wetareatest.Shapes[names[i%len(names)]]
		typed := maps.Clone(shape.Typed)
		for _, id := range slices.Sorted(maps.Keys(typed)) {
			text := typed[id]
			var mm float64
			if _, err := fmt.Sscan(text, &mm); err != nil || mm < 50 || random.IntN(3) == 0 {
				continue
			}
			typed[id] = fmt.Sprint(int(mm * (.7 + .6*random.Float64())))
		}
		asked, err := wetarea.Ask(shape.Form, typed)
		if err != nil || asked.Sketch == nil {
			continue
		}
		drawn++
		in := SurveyInputs{Form: shape.Form, Typed: typed}
		in.View, in.Layers, in.Wide = labelViews[random.IntN(len(labelViews))], []string{"dims"}, random.IntN(4) == 0
		in.Asking = asked.Form.Questions[random.IntN(len(asked.Form.Questions))].ID
		d, err := Survey(in)
		if err != nil {
			t.Fatal(err)
		}
		checkTexts(t, fmt.Sprintf("%s %v asking %s", names[i%len(names)], in.View, in.Asking), d, in.Wide)
	}
	if drawn < 200 {
		t.Errorf("%d surveys were drawn", drawn)
	}
}
