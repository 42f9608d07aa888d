package draw_test

import (
	"math"
	"strings"
	"testing"

	"dusha/core/cutting"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
	"dusha/draw"
)

func cutRolls() (cutting.Work, []takeoff.Want) {
	wants := []takeoff.Want{{ID: "band.a", Kind: "band", Number: 1, Place: "floor_wall.a.1"}, {ID: "band.b", Kind: "band", Number: 2, Place: "floor_wall.b.1"}, {ID: "corner.c.d", Kind: "fold", Number: 3, Place: "corner.c.d"}}
	w := cutting.Start([]cutting.Roll{
		{Offcut: 0, Length: 1300, Pieces: []cutting.Piece{{Run: 1, From: 0, To: 1200}}, Rest: 100},
		{Offcut: -1, Length: 10000, Pieces: []cutting.Piece{{Run: 0, From: 0, To: 6000}, {Run: 2, From: 0, To: 120}}, Rest: 3880},
	}, nil, 10000)
	return w, wants
}

// Pieces are drawn as long as they are, in cutting order, each said and each to be touched.
func TestRollsAreToScale(t *testing.T) {
	w, wants := cutRolls()
	w.Tick("2/1")
	for _, wide := range []float64{1300, 360} {
		d, err := draw.Rolls(draw.RollsInputs{Work: w, Wants: wants, Lit: "band.a", Next: "1/1", View: draw.View{Width: wide, Height: 50}})
		if err != nil {
			t.Fatal(err)
		}
		along := func(i draw.Item) float64 { return i.Points[2][0] - i.Points[3][0] }
		cut, next, open := items(d, "roll_cut"), items(d, "roll_next"), items(d, "roll_to_cut")
		if len(cut) != 1 || len(next) != 1 || len(open) != 1 || len(items(d, "roll_lit")) != 1 || len(items(d, "roll_rest")) != 2 {
			t.Fatalf("%v px: %d cut, %d next, %d open", wide, len(cut), len(next), len(open))
		}
		if got := along(cut[0]) / along(open[0]); math.Abs(got-10) > 1e-6 {
			t.Errorf("%v px: 1.20 m is %v times 0.12 m", wide, got)
		}
		if broken := len(items(d, "roll_break")) > 0; broken != (wide < 800) {
			t.Errorf("%v px: the long piece is broken: %v", wide, broken)
		}
		for _, item := range d.Items {
			for _, p := range item.Points {
				if p[0] < -1e-9 || p[0] > wide || p[1] > d.Box.Height {
					t.Fatalf("%v px: %s at %v, the sheet ends at %v", wide, item.Style, p, d.Box.Height)
				}
			}
		}
		if len(d.Taps) != 3 || len(d.Twin) != 5 {
			t.Errorf("%d taps, %d lines in words", len(d.Taps), len(d.Twin))
		}
		// A cut leans; a roll's own end does not.
		if first := open[0].Points; first[0][0] == first[3][0] {
			t.Error("a cut stands upright")
		}
		if first := cut[0].Points; first[0][0] != first[3][0] {
			t.Error("the roll's own end leans")
		}
	}
}

// What was spoilt is seen and can no longer be touched.
func TestSpoiltPieces(t *testing.T) {
	w, wants := cutRolls()
	w.Spoil("2/1")
	d, err := draw.Rolls(draw.RollsInputs{Work: w, Wants: wants, View: draw.View{Width: 800, Height: 50}})
	if err != nil {
		t.Fatal(err)
	}
	if len(items(d, "roll_spoilt")) != 1 || len(d.Taps) != 3 {
		t.Errorf("%d spoilt, %d to touch", len(items(d, "roll_spoilt")), len(d.Taps))
	}
	d, err = draw.Rolls(draw.RollsInputs{Work: w, View: draw.View{Width: 800, Height: 50}, Bare: true})
	if err != nil || len(items(d, "roll_head")) != 0 {
		t.Errorf("bare rolls with heads: %v", err)
	}
}

// An opening lies on the piece where it will lie on the wall.
func TestWhatIsCutOutOfAPiece(t *testing.T) {
	strip := cutting.Strip{Holes: []cutting.Hole{{Fitting: "pipe.1", Along: 1500, Across: 250, Diameter: 50}}}
	wants := []takeoff.Want{
		{ID: "a", Kind: "strip", Length: 2000, Width: 1000, Strip: &strip},
		{ID: "b", Kind: "patch", Length: 400, Width: 400, Disc: 100},
		{ID: "c", Kind: "fold", Length: 120, Width: 120},
	}
	w := cutting.Start([]cutting.Roll{{Offcut: -1, Length: 5000, Pieces: []cutting.Piece{{Run: 0, From: 0, To: 2000}, {Run: 1, From: 0, To: 400}, {Run: 2, From: 0, To: 120}}, Rest: 2480}}, nil, 5000)
	d, err := draw.Rolls(draw.RollsInputs{Work: w, Wants: wants, View: draw.View{Width: 900, Height: 50}})
	if err != nil {
		t.Fatal(err)
	}
	holes, piece := items(d, "roll_hole"), items(d, "roll_to_cut")[0].Points
	if len(holes) != 2 || len(items(d, "roll_slit")) != 1 {
		t.Fatalf("%d holes, %d slits", len(holes), len(items(d, "roll_slit")))
	}
	wide := piece[2][0] - piece[3][0]
	along, across := (holes[0].At[0]-piece[3][0])/wide, (piece[3][1]-holes[0].At[1])/(piece[3][1]-piece[0][1])
	if math.Abs(along-0.75) > 0.02 || math.Abs(across-0.25) > 1e-9 {
		t.Errorf("the pipe lies at %.3f of the length and %.3f of the width", along, across)
	}
}

func TestStripsOnTheNet(t *testing.T) {
	area := shower(t)
	strip := cutting.Strip{Surface: "floor", Layer: 1, Row: 1, Along: "x", From: wetarea.Point{0, 0}, To: wetarea.Point{2400, 900}, Length: 2400, Width: 900, Holes: []cutting.Hole{{Fitting: "drain.1", Along: 1200, Across: 400, Diameter: 110}}}
	seam := cutting.Seam{Surface: "wall.a", From: wetarea.Point{1000, 0}, To: wetarea.Point{1000, 2100}}
	sewn := []draw.Sewn{
		{Want: takeoff.Want{ID: "mesh.floor.1.1.1", Kind: "strip", Number: 1, Place: "floor", Strip: &strip}, State: "next"},
		{Want: takeoff.Want{ID: "seam.wall.a.1", Kind: "seam", Number: 2, Place: "wall.a", Seam: &seam}, State: "to_cut"},
		{Want: takeoff.Want{ID: "x", Kind: "strip", Strip: &cutting.Strip{Surface: "nowhere"}}, State: "to_cut"},
	}
	d, err := draw.Net(draw.NetInputs{Area: area, Shown: draw.Shown{View: draw.View{Width: 600, Height: 500}}, Lying: draw.Lying{Sewn: sewn}})
	if err != nil {
		t.Fatal(err)
	}
	if len(items(d, "strip_next")) != 1 || len(items(d, "seam_to_cut")) != 1 || len(items(d, "strip_hole")) != 1 {
		t.Fatal("strip, seam and opening are not all there")
	}
	corners := items(d, "strip_next")[0].Points
	wide, tall := math.Abs(corners[2][0]-corners[0][0]), math.Abs(corners[2][1]-corners[0][1])
	if math.Abs(wide-2400) > 0.1 || math.Abs(tall-900) > 0.1 {
		t.Errorf("the strip is %v × %v on the net", wide, tall)
	}
	taps := 0
	for _, tap := range d.Taps {
		if tap.Kind == "piece" && (strings.HasPrefix(tap.ID, "mesh.") || strings.HasPrefix(tap.ID, "seam.")) {
			taps++
		}
	}
	if taps != 2 {
		t.Errorf("%d pieces can be touched", taps)
	}
	// No name stands under a number.
	for _, name := range items(d, "name") {
		for _, number := range append(items(d, "number_next"), items(d, "number_open")...) {
			if away := math.Hypot(name.At[0]-number.At[0], name.At[1]-number.At[1]) / d.MmPerPx; away < 30 {
				t.Errorf("a name %v px from a number", away)
			}
		}
	}
}

// A number stands in its piece where it has room, else over it, apart from the next.
func TestNumbersOfShortPieces(t *testing.T) {
	w := cutting.Start([]cutting.Roll{{Offcut: -1, Length: 10000, Rest: 9640, Pieces: []cutting.Piece{{Run: 0, To: 120}, {Run: 1, To: 120}, {Run: 2, To: 120}}}}, []cutting.Mark{{Number: 7}, {Number: 12}, {Number: 14}}, 10000)
	d, err := draw.Rolls(draw.RollsInputs{Work: w, Wants: make([]takeoff.Want, 3), View: draw.View{Width: 600, Height: 50}})
	if err != nil {
		t.Fatal(err)
	}
	over := items(d, "roll_small")
	if len(over) != 2 || len(items(d, "roll_word")) != 2 { // the rest's words too
		t.Fatalf("%d numbers over their pieces, %d in them", len(over), len(items(d, "roll_word")))
	}
	if apart := over[1].At[0] - over[0].At[0]; apart < 23.9 {
		t.Errorf("two numbers of two figures %v px apart", apart)
	}
}
