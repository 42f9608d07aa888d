package site_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/core/wetarea"
	"dusha/demo"
)

// A sheet whose latest time is its least one, as an older program kept it, never opens its window; it hides
// neither its area nor the job.
func TestALeastTimeThatIsTheLatestToo(t *testing.T) {
	made, err := demo.Make(noon, 5)
	if err != nil {
		t.Fatal(err)
	}
	same := 0
	for i, text := range made.Entries {
		var e map[string]any
		if err := json.Unmarshal(text, &e); err != nil {
			t.Fatal(err)
		}
		if e["kind"] != "plan" {
			continue
		}
		film := e["body"].(map[string]any)["used"].([]any)[0].(map[string]any)["sheet"].(map[string]any)
		numbers := film["numbers"].(map[string]any)
		for name, said := range numbers {
			if strings.HasPrefix(name, "recoat_latest") {
				least := numbers[strings.Replace(name, "_latest", "", 1)].(map[string]any)
				said.(map[string]any)["value"], said.(map[string]any)["high"] = least["value"], least["high"]
				same++
			}
		}
		if made.Entries[i], err = json.Marshal(e); err != nil {
			t.Fatal(err)
		}
	}
	if same == 0 {
		t.Fatal("no plan has a latest time")
	}
	s := site.Read(made.Entries)
	for after := -30 * time.Hour; after < 60*time.Hour; after += 6 * time.Hour {
		now := noon.Add(after)
		for name, value := range map[string]any{"the board": s.Board(now, 0), "the look": s.Look(made.Areas["shower2"], now)} {
			if _, err := json.Marshal(value); err != nil {
				t.Errorf("%s after %v: %v", name, after, err)
			}
		}
		if tide := s.Look(made.Areas["shower2"], now).Tide; tide != nil && (tide.State == "open" || tide.State == "closing") {
			t.Errorf("after %v the window is %s from %s to %s", after, tide.State, tide.Opens, tide.Shuts)
		}
	}
}

// A hall of 200 walls among sixty areas is looked at like any other.
func TestManyWallsAndManyAreas(t *testing.T) {
	made, err := demo.Make(noon, 5)
	if err != nil {
		t.Fatal(err)
	}
	texts := made.Entries[:4:4]
	put := func(area string, n int, kind logbook.Kind, body any) {
		text, err := json.Marshal(map[string]any{"id": fmt.Sprintf("019cb000-0000-7000-8000-%012d", n), "jobId": made.ID, "areaId": area, "kind": kind,
			"at": noon.Add(time.Duration(n) * time.Second).Format(time.RFC3339), "by": made.Named["lead"], "body": body})
		if err != nil {
			t.Fatal(err)
		}
		texts = append(texts, text)
	}
	var points []string
	for bay := range 49 { // four walls each, and four round the hall
		x := bay * 600
		points = append(points, fmt.Sprintf("%d 0; %d 0; %d 400; %d 400", x, x+300, x+300, x+600))
	}
	points = append(points, "29400 0; 29900 0; 29900 3000; 0 3000")
	hall, err := wetarea.Ask("room", map[string]string{"outline": "points", "points": strings.Join(points, "; "), "height": "300"})
	if err != nil || hall.Area == nil || len(hall.Area.Surfaces) != 201 {
		t.Fatal(err, hall.Form.Faults())
	}
	const many = 60
	var areas []string
	for i := range many {
		area := fmt.Sprintf("019cb000-0000-7000-8000-%012d", 900000+i)
		areas = append(areas, area)
		put(area, 3*i+1, logbook.KindAreaOpened, map[string]any{"name": fmt.Sprintf("Room %d", i+1)})
		if i < 3 {
			put(area, 3*i+2, logbook.KindSurvey, wetarea.Survey{Form: "room", Answers: hall.Form.Answers()})
			tried, err := site.Read(texts).Try(area, site.Choice{Sheet: sheet.Samples()[0].ID, Texture: "fine", Against: &logbook.Against{Reason: "measured", Person: made.Named["lead"]}})
			if err != nil || tried.Body == nil {
				t.Fatalf("no plan of the hall: %v %v", err, tried.Refusal)
			}
			put(area, 3*i+3, logbook.KindPlan, tried.Body)
		}
	}
	s := site.Read(texts)
	board := s.Board(noon.Add(time.Hour), 0)
	if len(board.Areas) != many || len(board.Board.Now) != many || board.Areas[0].Name != "Room 1" || board.Areas[many-1].Name != "Room 60" {
		t.Errorf("%d areas, %d to be worked at", len(board.Areas), len(board.Board.Now))
	}
	if look := s.Look(areas[1], noon.Add(time.Hour)); look.Plan == nil || len(look.Geometry.Surfaces) != 201 || look.Next.Step == "" {
		t.Errorf("the hall of 200 walls: %+v", look.Next)
	}
	if list := s.Materials("", noon.Add(time.Hour)); len(list.Areas) != 3 || len(list.Unplaced) != many-3 {
		t.Errorf("%d areas to buy for, %d without a plan", len(list.Areas), len(list.Unplaced))
	}
}
