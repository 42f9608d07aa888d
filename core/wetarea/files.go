package wetarea

import (
	"encoding/csv"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"dusha/core/fault"
)

// What can be read from and written to files. Open formats: CSV (RFC 4180, comma or
// semicolon) and ASCII DXF (one closed polyline of straight segments).

// mostFile is the largest file that is read, bytes.
const mostFile = 2 << 20

// mostRows is how many rows of one are read.
const mostRows = 10_000

// ReadOutline reads a floor outline, "csv" or "dxf", and gives the answers that make it.
func ReadOutline(format, text string) (map[string]string, error) {
	if len(text) > mostFile {
		return nil, fault.At("file", "file.too_large", "value", len(text), "most", mostFile)
	}
	var points []Point
	var err error
	switch format {
	case "csv":
		points, err = cornersOf(text)
	case "dxf":
		points, err = polylineOf(text)
	default:
		return nil, fault.At("file", "file.unknown_format", "typed", format)
	}
	if err != nil {
		return nil, err
	}
	if len(points) > mostCorners {
		return nil, fault.At("file", "outline.too_many_corners", "count", len(points), "most", mostCorners)
	}
	if n := len(points); n > 1 && points[0] == points[n-1] { // closed by repeating the first corner
		points = points[:n-1]
	}
	if err := CheckOutline(points); err != nil {
		return nil, inLetters(err, "file")
	}
	list := make([]string, len(points))
	for i, p := range points {
		list[i] = millimetres(p[0]) + " " + millimetres(p[1])
	}
	return map[string]string{"outline": "points", "points": strings.Join(list, "; ")}, nil
}

// rows reads a CSV whose fields are parted by commas or semicolons, without empty rows.
func rows(text string) ([][]string, error) {
	text = strings.TrimPrefix(text, "\ufeff")
	r := csv.NewReader(strings.NewReader(text))
	r.FieldsPerRecord, r.TrimLeadingSpace = -1, true
	first, _, _ := strings.Cut(text, "\n")
	if strings.Contains(first, ";") {
		r.Comma = ';'
	}
	var list [][]string
	for {
		row, err := r.Read()
		if err == io.EOF {
			return list, nil
		}
		if err != nil {
			return nil, fault.At("file", "file.unreadable_row", "row", len(list)+1)
		}
		if len(list) == mostRows {
			return nil, fault.At("file", "file.too_many_rows", "most", mostRows)
		}
		for i := range row {
			row[i] = strings.TrimSpace(row[i])
		}
		list = append(list, row)
	}
}

// inNumber reads a number of a file; a decimal comma is understood.
func inNumber(text string) (float64, bool) {
	v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	return v, err == nil && !math.IsNaN(v) && math.Abs(v) <= 1e7
}

// cornersOf reads corner points x, y in mm, one a row; a first row of names may name m.
func cornersOf(text string) ([]Point, error) {
	table, err := rows(text)
	if err != nil {
		return nil, err
	}
	var points []Point
	scale := 1.0
	for i, row := range table {
		if len(row) < 2 {
			return nil, fault.At("file", "file.two_numbers_wanted", "row", i+1)
		}
		x, okX := inNumber(row[0])
		y, okY := inNumber(row[1])
		if i == 0 && !okX && !okY {
			if strings.HasSuffix(strings.ToLower(row[0]), "_m") {
				scale = 1000
			}
			continue
		}
		if !okX || !okY {
			return nil, fault.At("file", "file.two_numbers_wanted", "row", i+1, "typed", fault.Short(strings.Join(row, ", ")))
		}
		points = append(points, Point{x * scale, y * scale})
	}
	if len(points) == 0 {
		return nil, fault.At("file", "file.empty")
	}
	return points, nil
}

// group is one pair of an ASCII DXF.
type group struct {
	code  int
	value string
}

func groupsOf(text string) ([]group, error) {
	lines := strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n")
	var list []group
	for i := 0; i+1 < len(lines); i += 2 {
		code, err := strconv.Atoi(strings.TrimSpace(lines[i]))
		if err != nil {
			return nil, fault.At("file", "file.no_dxf", "row", i+1)
		}
		list = append(list, group{code, strings.TrimSpace(lines[i+1])})
	}
	return list, nil
}

// unitScale turns a drawing's unit ($INSUNITS) to mm; 0, unitless, is taken as mm.
var unitScale = map[string]float64{"0": 1, "1": mmPerInch, "2": 12 * mmPerInch, "4": 1, "5": 10, "6": 1000}

const mmPerInch = 25.4

// polyline is one found in a DXF.
type polyline struct {
	points []Point
	closed bool
	bulge  int // vertex with an arc after it, from 1; 0: none
}

// polylineOf reads the one closed polyline of a DXF. Arcs are refused, with their vertex.
func polylineOf(text string) ([]Point, error) {
	groups, err := groupsOf(text)
	if err != nil {
		return nil, err
	}
	scale, found := 1.0, []polyline{}
	var now *polyline
	kind := ""
	for i, g := range groups {
		switch {
		case g.code == 9 && g.value == "$INSUNITS" && i+1 < len(groups):
			known, is := unitScale[groups[i+1].value]
			if !is {
				return nil, fault.At("file", "file.unknown_unit", "typed", fault.Short(groups[i+1].value))
			}
			scale = known
		case g.code == 0:
			kind = g.value
			if kind == "LWPOLYLINE" || kind == "POLYLINE" {
				found = append(found, polyline{})
				now = &found[len(found)-1]
			} else if kind != "VERTEX" {
				now = nil
			}
		case now == nil:
		default:
			if err := now.take(kind, g); err != nil {
				return nil, err
			}
		}
	}
	var closed []polyline
	for _, p := range found {
		if p.closed {
			closed = append(closed, p)
		}
	}
	switch {
	case len(closed) == 0 && len(found) > 0:
		return nil, fault.At("file", "file.open_polyline")
	case len(closed) != 1:
		return nil, fault.At("file", "file.one_polyline_wanted", "count", len(closed))
	case closed[0].bulge > 0:
		return nil, fault.At("file", "file.arc", "vertex", closed[0].bulge)
	}
	for i, p := range closed[0].points {
		closed[0].points[i] = p.times(scale)
	}
	return closed[0].points, nil
}

// take reads one pair of a polyline or of one of its vertices.
func (p *polyline) take(kind string, g group) error {
	inVertex := kind == "VERTEX" || kind == "LWPOLYLINE"
	number := func() (float64, error) {
		v, ok := inNumber(g.value)
		if !ok {
			return 0, fault.At("file", "file.no_number", "typed", fault.Short(g.value), "vertex", len(p.points))
		}
		return v, nil
	}
	switch {
	case g.code == 70 && kind != "VERTEX":
		flags, _ := strconv.Atoi(g.value)
		p.closed = flags&1 == 1
	case g.code == 10 && inVertex:
		x, err := number()
		if err != nil {
			return err
		}
		p.points = append(p.points, Point{x, 0})
	case g.code == 20 && inVertex && len(p.points) > 0:
		y, err := number()
		if err != nil {
			return err
		}
		p.points[len(p.points)-1][1] = y
	case g.code == 42 && inVertex:
		if bulge, err := number(); err != nil {
			return err
		} else if bulge != 0 && p.bulge == 0 {
			p.bulge = len(p.points)
		}
	}
	return nil
}

// RoomRow is one rectangular room of a list, with the form to begin it from.
type RoomRow struct {
	Name  string            `json:"name"`
	Form  string            `json:"form"`
	Typed map[string]string `json:"typed"`
}

// ReadRooms reads rectangular rooms, one a row: name, length, width, height, as they would be
// typed. A first row of names may come first.
func ReadRooms(text string) ([]RoomRow, error) {
	const mostRooms = 200
	if len(text) > mostFile {
		return nil, fault.At("file", "file.too_large", "value", len(text), "most", mostFile)
	}
	table, err := rows(text)
	if err != nil {
		return nil, err
	}
	if len(table) > 2*mostRooms { // rows without a size are passed over
		return nil, fault.At("file", "file.too_many_rooms", "most", mostRooms)
	}
	var list []RoomRow
	for i, row := range table {
		if len(row) < 4 {
			return nil, fault.At("file", "file.four_fields_wanted", "row", i+1)
		}
		typed := map[string]string{"outline": "rectangle", "length": row[1], "width": row[2], "height": row[3]}
		asked, err := Ask("room", typed)
		if err != nil {
			return nil, err
		}
		for _, f := range asked.Form.Faults() {
			if _, ours := typed[f.Field]; !ours {
				continue
			}
			if _, isNumber := inNumber(row[1]); i == 0 && !isNumber && !strings.ContainsAny(row[1], "0123456789") {
				break // names of the columns
			}
			f.Args = fault.At("", "", "row", i+1, "column", f.Field, "typed", fault.Short(typed[f.Field])).Args
			return nil, fault.At("file", "file.room_unreadable", "row", i+1, "column", f.Field, "typed", fault.Short(typed[f.Field]))
		}
		if asked.Sketch == nil {
			continue
		}
		if row[0] == "" {
			return nil, fault.At("file", "file.room_without_name", "row", i+1)
		}
		list = append(list, RoomRow{Name: row[0], Form: "room", Typed: typed})
		if len(list) > mostRooms {
			return nil, fault.At("file", "file.too_many_rooms", "most", mostRooms)
		}
	}
	if len(list) == 0 {
		return nil, fault.At("file", "file.empty")
	}
	return list, nil
}

// Table writes an area as CSV: every surface, junction, corner, penetration and feature, with
// its sizes in mm and m².
func (a Area) Table() string {
	var b strings.Builder
	w := csv.NewWriter(&b)
	num := func(v float64) string { return millimetres(v) }
	write := func(cells ...string) { _ = w.Write(cells) } // a builder takes all
	write("what", "id", "kind", "turn", "length_mm", "height_mm", "area_m2", "surface", "along_mm", "up_mm", "size_mm")
	for _, s := range a.Surfaces {
		write("surface", s.ID, s.Kind, "", num(s.Length), num(s.Height), fmt.Sprintf("%.6f", s.Area), "", "", "", "")
	}
	for _, j := range a.Junctions {
		write("junction", j.ID, j.Kind, j.Turn, num(j.Length), "", "", j.Lines[0].Surface, "", "", "")
	}
	for _, c := range a.Corners {
		write("corner", c.ID, "", c.Turn, "", "", "", c.Surface, num(c.At[0]), num(c.At[1]), "")
	}
	for _, p := range a.Penetrations {
		write("penetration", p.ID, p.Kind, "", "", num(p.Height), "", p.Surface, num(p.At[0]), num(p.At[1]), num(p.Diameter))
	}
	for _, f := range a.Features {
		write("feature", f.ID, f.Kind, "", num(f.Line.Length()), "", "", f.Line.Surface, num(f.Line.From[0]), num(f.Line.From[1]), num(f.Width))
	}
	w.Flush()
	return b.String()
}
