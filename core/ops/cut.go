package ops

import (
	"encoding/csv"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/site"
	"dusha/core/takeoff"
)

// Cuts are the operations of cutting beside the rule itself.
func Cuts() []Op {
	return []Op{
		Make("cutting.bands", "Runs of band out of rolls: fewest rolls, then joins, then the longest rest.", cutBands),
		Make("cut.layout", "What an area's plan cuts from each product, and what became of it.", cutLayout),
		Make("cut.start", "Takes a plan of rolls to work: pieces with their labels, in cutting order.", cutStart),
		Make("cut.table", "Writes what is cut as CSV.", cutTable),
	}
}

func cutLayout(in AreaBook) (site.Layout, error) { return in.site().Layout(in.Area) }

type cutStartIn struct {
	Plan  []cutting.Roll `json:"plan"`
	Marks []cutting.Mark `json:"marks"` // of the runs
	Roll  int            `json:"roll_mm"`
}

func cutStart(in cutStartIn) (cutting.Work, error) {
	for i, roll := range in.Plan {
		for k, piece := range roll.Pieces {
			if piece.Run < 0 {
				return cutting.Work{}, fault.At(fmt.Sprintf("plan.%d.pieces.%d.run", i+1, k+1), "cutting.wrong.no_such_run", "run", piece.Run+1)
			}
		}
	}
	return cutting.Start(in.Plan, in.Marks, in.Roll), nil
}

type cutTableIn struct {
	Wants []takeoff.Want `json:"wants"`
	Width float64        `json:"width_mm"` // of the roll
	Work  cutting.Work   `json:"work"`

	// How it is said: the names of the columns, and of what stands in them by its id; what has none stands as it is.
	Heads []string          `json:"heads,omitempty"`
	Words map[string]string `json:"words,omitempty"`
}

// columns of the table of what is cut.
var columns = []string{"roll", "from_offcut", "roll_length_mm", "piece", "state", "start_mm", "length_mm", "width_mm", "place", "kind", "layer", "row", "holes_along_across_diameter_mm"}

func (in cutTableIn) word(id string) string {
	if said := in.Words[id]; said != "" {
		return said
	}
	return id
}

type cutTableOut struct {
	CSV string `json:"csv"`
}

// cutTable writes one line a piece, in cutting order, and one for the rest of each roll.
func cutTable(in cutTableIn) (cutTableOut, error) {
	var b strings.Builder
	w := csv.NewWriter(&b)
	write := func(cells ...string) { _ = w.Write(cells) } // a builder takes all
	heads := columns
	if len(in.Heads) > 0 {
		if len(in.Heads) != len(columns) {
			return cutTableOut{}, fault.At("heads", "list.too_long", "most", len(columns))
		}
		heads = in.Heads
	}
	write(heads...)
	for i, roll := range in.Work.Rolls {
		head := []string{strconv.Itoa(i + 1), in.word(strconv.FormatBool(roll.Offcut >= 0)), strconv.Itoa(roll.Length)}
		for _, p := range roll.Pieces {
			if p.Run < 0 || p.Run >= len(in.Wants) {
				return cutTableOut{}, fault.At("work", "cutting.wrong.no_such_run", "run", p.Run+1)
			}
			want := in.Wants[p.Run]
			layer, row, holes := "", "", []string{}
			if s := want.Strip; s != nil {
				layer, row = strconv.Itoa(s.Layer), strconv.Itoa(s.Row)
				for _, h := range s.Holes {
					holes = append(holes, mm(h.Along)+"/"+mm(h.Across)+"/"+mm(h.Diameter))
				}
			}
			write(append(slices.Clone(head), p.Label, in.word(p.State), strconv.Itoa(p.Start), strconv.Itoa(p.Length), mm(want.Width), in.word(want.Place), in.word(want.Kind), layer, row, strings.Join(holes, " "))...)
		}
		write(append(slices.Clone(head), "", in.word("rest"), strconv.Itoa(roll.Length-roll.Rest), strconv.Itoa(roll.Rest), mm(in.Width), "", "", "", "", "")...)
	}
	w.Flush()
	return cutTableOut{b.String()}, nil
}

// mm writes a length in whole mm.
func mm(v float64) string { return strconv.FormatFloat(v, 'f', 0, 64) }

type bandsIn struct {
	cutting.Bands
	Steps *int          `json:"steps,omitempty"` // to take at most; not given: enough for an area
	From  *cutting.From `json:"from,omitempty"`  // where an earlier search stopped
}

// cutSteps are taken where none are asked for.
const cutSteps = 2_000_000

func cutBands(in bandsIn) (cutting.Cut, error) {
	steps := cutSteps
	if in.Steps != nil {
		steps = *in.Steps
	}
	return in.Bands.Solve(steps, in.From)
}
