package wetarea_test

import (
	"maps"
	"math"
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/wetarea"
	"dusha/core/wetarea/wetareatest"
)

const polylineFile = "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n6\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\nfloor\n90\n4\n70\n1\n10\n0\n20\n0\n10\n2.4\n20\n0\n10\n2.4\n20\n1.8\n10\n0\n20\n1.8\n0\nENDSEC\n0\nEOF\n"

func TestOutlinesFromFiles(t *testing.T) {
	for _, c := range []struct{ name, format, text, points, key string }{
		{"corners in mm", "csv", "0,0\n2400,0\n2400,1800\n0,1800\n", "0 0; 2400 0; 2400 1800; 0 1800", ""},
		{"corners in m with names and semicolons", "csv", "x_m;y_m\n0;0\n2,4;0\n2,4;1,8\n0;1,8\n", "0 0; 2400 0; 2400 1800; 0 1800", ""},
		{"closed by its first corner", "csv", "0,0\n2400,0\n2400,1800\n0,0\n", "0 0; 2400 0; 2400 1800", ""},
		{"a closed polyline in m", "dxf", polylineFile, "0 0; 2400 0; 2400 1800; 0 1800", ""},
		{"the older polyline", "dxf", "0\nPOLYLINE\n70\n1\n0\nVERTEX\n10\n0\n20\n0\n0\nVERTEX\n10\n900\n20\n0\n0\nVERTEX\n10\n900\n20\n900\n0\nSEQEND\n", "0 0; 900 0; 900 900", ""},
		{"a row of one number", "csv", "0,0\n2400\n", "", "file.two_numbers_wanted"},
		{"no number", "csv", "0,0\n2400,wide\n", "", "file.two_numbers_wanted"},
		{"nothing", "csv", "x,y\n", "", "file.empty"},
		{"an arc", "dxf", strings.Replace(polylineFile, "10\n2.4\n20\n1.8\n", "10\n2.4\n20\n1.8\n42\n0.5\n", 1), "", "file.arc"},
		{"an open polyline", "dxf", strings.Replace(polylineFile, "70\n1\n10", "70\n0\n10", 1), "", "file.open_polyline"},
		{"no polyline", "dxf", "0\nSECTION\n0\nEOF\n", "", "file.one_polyline_wanted"},
		{"two polylines", "dxf", strings.Replace(polylineFile, "0\nLWPOLYLINE", "0\nLWPOLYLINE\n70\n1\n10\n0\n20\n0\n0\nLWPOLYLINE", 1), "", "file.one_polyline_wanted"},
		{"no drawing at all", "dxf", "hello\nthere\n", "", "file.no_dxf"},
		{"a unit of miles", "dxf", strings.Replace(polylineFile, "70\n6\n", "70\n3\n", 1), "", "file.unknown_unit"},
		{"walls that cross", "csv", "0,0\n2000,1500\n2000,0\n0,1500\n", "", "outline.self_crossing.walls"},
		{"5,000 corners", "csv", strings.Repeat("1,1\n2,2\n", 2500), "", "outline.too_many_corners"},
		{"another format", "pdf", "", "", "file.unknown_format"},
	} {
		t.Run(c.name, func(t *testing.T) {
			typed, err := wetarea.ReadOutline(c.format, c.text)
			switch {
			case c.key != "":
				if err == nil || fault.Of(err)[0].Key != c.key {
					t.Errorf("got %v, want %s", err, c.key)
				}
			case err != nil:
				t.Error(err)
			case typed["points"] != c.points:
				t.Errorf("points are %q, want %q", typed["points"], c.points)
			}
		})
	}
	if _, err := wetarea.ReadOutline("dxf", strings.Replace(polylineFile, "10\n2.4\n20\n1.8\n", "10\n2.4\n20\n1.8\n42\n0.5\n", 1)); fault.Of(err)[0].Args["vertex"] != 3 {
		t.Errorf("the arc after vertex 3 is not named: %v", err)
	}
}

func TestManyRoomsFromOneList(t *testing.T) {
	list, err := wetarea.ReadRooms("name,length,width,height\nShower 1,2400,1800,2100\nShower 2,2.6 m,1.8 m,2100\n\"Bath, east\",3000,2000,200\n")
	if err != nil || len(list) != 3 || list[2].Name != "Bath, east" || list[1].Typed["length"] != "2.6 m" {
		t.Fatalf("%+v, %v", list, err)
	}
	for _, c := range []struct{ name, text, key string }{
		{"three fields", "Shower,2400,1800\n", "file.four_fields_wanted"},
		{"a width that is no length", "Shower 1,2400,1800,2100\nShower 2,2400,wide,2100\n", "file.room_unreadable"},
		{"no name", "Shower 1,2400,1800,2100\n,2400,1800,2100\n", "file.room_without_name"},
		{"only names", "name,length,width,height\n", "file.empty"},
	} {
		if _, err := wetarea.ReadRooms(c.text); err == nil || fault.Of(err)[0].Key != c.key {
			t.Errorf("%s: got %v, want %s", c.name, err, c.key)
		}
	}
}

func TestAMirroredAreaMeasuresTheSame(t *testing.T) {
	rooms := map[string]wetareatest.Shape{"rectangle": {Form: "rectangle", Typed: shower(nil)}, "from points": {Form: "room", Typed: map[string]string{"outline": "points", "points": "0 0; 3000 0; 3200 1800; 900 2400; 0 1500", "height": "2000", "zones": "1", "zones.1.wall": "b", "zones.1.from_left": "100", "zones.1.width": "300", "zones.1.height": "2200"}}}
	maps.Copy(rooms, shapes)
	for name, shape := range rooms {
		t.Run(name, func(t *testing.T) {
			typed, err := wetarea.Mirror(shape.Form, shape.Typed)
			if err != nil {
				t.Fatal(err)
			}
			was, is := complete(t, shape.Form, shape.Typed), complete(t, shape.Form, typed)
			if !near(was.Takeoff.TotalMembrane, is.Takeoff.TotalMembrane, 1e-6) || !near(was.Termination, is.Termination, 1e-3) {
				t.Errorf("measured %v m², %v mm of edge; mirrored %v, %v", was.Takeoff.TotalMembrane, was.Termination, is.Takeoff.TotalMembrane, is.Termination)
			}
			if !slices.Equal(places(was, 1), places(is, -1)) {
				t.Errorf("penetrations lie at %v, mirrored at %v", places(was, 1), places(is, -1))
			}
			back, err := wetarea.Mirror(shape.Form, typed)
			if err != nil {
				t.Fatal(err)
			}
			again := complete(t, shape.Form, back)
			if !slices.Equal(places(was, 1), places(again, 1)) {
				t.Errorf("mirrored twice: %v, was %v", places(again, 1), places(was, 1))
			}
		})
	}
}

// places are the penetrations' heights and distances from the middle of the area in the net.
func places(a *wetarea.Area, way float64) []float64 {
	low, high := math.Inf(1), math.Inf(-1)
	for _, v := range a.Room.Vertices {
		low, high = min(low, v[0]), max(high, v[0])
	}
	var list []float64
	for _, p := range a.Penetrations {
		if s, _ := a.Surface(p.Surface); s.Kind == "floor" && len(a.Room.Vertices) > 0 {
			at := s.Laid.Place(p.At)
			list = append(list, math.Round(way*(at[0]-(low+high)/2)), math.Round(at[1]))
		}
	}
	return list
}

func TestOnlyACompleteAreaIsMirrored(t *testing.T) {
	if _, err := wetarea.Mirror("room", map[string]string{"outline": "walls"}); err == nil || fault.Of(err)[0].Key != "copy.not_complete" {
		t.Errorf("got %v", err)
	}
}

func TestNamesAreCountedUp(t *testing.T) {
	for _, c := range []struct {
		name  string
		taken []string
		want  []string
	}{
		{"Shower room 2", []string{"Shower room 3"}, []string{"Shower room 4", "Shower room 5"}},
		{"Laundry", nil, []string{"Laundry 2", "Laundry 3"}},
	} {
		if got := wetarea.CountUp(c.name, 2, c.taken); !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
	}
}

func TestTheTableHoldsEverySurfaceAndJunction(t *testing.T) {
	shape := shapes["L-shaped room with niche, window and bench"]
	area := complete(t, shape.Form, shape.Typed)
	lines := strings.Split(strings.TrimSpace(area.Table()), "\n")
	if want := 1 + len(area.Surfaces) + len(area.Junctions) + len(area.Corners) + len(area.Penetrations) + len(area.Features); len(lines) != want {
		t.Errorf("%d rows, want %d", len(lines), want)
	}
}

func FuzzReadOutline(f *testing.F) {
	f.Add("dxf", polylineFile)
	f.Add("csv", "0,0\n2400,0\n2400,1800\n")
	f.Add("rooms", "name,length,width,height\nShower 1,2400,1800,2100\n")
	f.Fuzz(func(t *testing.T, format, text string) {
		if format == "rooms" {
			if list, err := wetarea.ReadRooms(text); err == nil && len(list) == 0 {
				t.Fatalf("%q is neither read nor refused", text)
			}
			return
		}
		typed, err := wetarea.ReadOutline(format, text)
		if err != nil {
			return
		}
		if _, err := wetarea.ParsePoints(typed["points"]); err != nil {
			t.Fatalf("%q gives %q: %v", text, typed["points"], err)
		}
	})
}
