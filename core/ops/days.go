package ops

import (
	"encoding/csv"
	"strconv"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/schedule"
	"dusha/core/site"
)

// Days are the operations on when each step may run.
func Days() []Op {
	return []Op{
		Make("schedule.plan", "Lays out the open steps of all areas over crews and days: least end first, as far as the nodes that are given.", schedulePlan),
		Make("schedule.mend", "Tries what could bring the end forward, each by itself, and gives what helps.", scheduleMend),
		Make("schedule.keep", "Gives the entries that make something supposed true.", scheduleKeep),
		Make("schedule.table", "Writes a plan of the days as CSV or iCalendar (RFC 5545).", scheduleTable),
		Make("schedule.solve", "When each step may run, proven best.", schedule.Solve),
	}
}

type scheduleIn struct {
	Book
	site.Asked
}

func schedulePlan(in scheduleIn) (site.Days, error) { return in.site().Days(in.Asked) }

type mendsOut struct {
	Mends []site.Mend `json:"mends"`
}

func scheduleMend(in scheduleIn) (mendsOut, error) {
	list, err := in.site().Mend(in.Asked)
	return mendsOut{list}, err
}

type scheduleKeepIn struct {
	Book
	site.Asked
	Keep site.Keeping `json:"keep"`
}

type keptOut struct {
	Entries []site.Kept `json:"entries"`
}

func scheduleKeep(in scheduleKeepIn) (keptOut, error) {
	list, err := in.site().Keep(in.Asked, in.Keep)
	return keptOut{list}, err
}

type scheduleTableIn struct {
	Format string            `json:"format"` // "csv" or "ics"
	Rows   []site.Row        `json:"rows" maxItems:"2500"`
	Crews  map[string]string `json:"crews"`          // names by id
	Crew   string            `json:"crew,omitempty"` // only of this one
	Heads  []string          `json:"heads,omitempty" maxItems:"7"`
	Zone   int               `json:"offset_min" minimum:"-840" maximum:"840"` // minutes east of Greenwich, for the times of CSV
	Now    time.Time         `json:"now"`
}

// dayColumns of a plan of the days.
var dayColumns = []string{"start", "end", "area", "step", "crew", "minutes", "hold"}

func scheduleTable(in scheduleTableIn) (textOut, error) {
	switch in.Format {
	case "csv":
		text, err := in.csv()
		return textOut{text}, err
	case "ics":
		return textOut{in.ics()}, nil
	}
	return textOut{}, fault.At("format", "choice.unknown", "typed", fault.Short(in.Format))
}

func (in scheduleTableIn) rows() (list []site.Row) {
	for _, r := range in.Rows {
		if in.Crew == "" || r.Crew == in.Crew {
			list = append(list, r)
		}
	}
	return list
}

func (in scheduleTableIn) csv() (string, error) {
	heads := dayColumns
	if len(in.Heads) > 0 {
		if heads = in.Heads; len(heads) != len(dayColumns) {
			return "", fault.At("heads", "list.too_long", "most", len(dayColumns))
		}
	}
	var b strings.Builder
	w := csv.NewWriter(&b)
	_ = w.Write(heads) // a builder takes all
	zone := time.FixedZone("", in.Zone*60)
	for _, r := range in.rows() {
		_ = w.Write([]string{
			r.Start.In(zone).Format("2006-01-02 15:04"), r.End.In(zone).Format("2006-01-02 15:04"), r.Name, r.Called(), in.Crews[r.Crew], strconv.Itoa(r.Min), strconv.FormatBool(r.Hold),
		})
	}
	w.Flush()
	return b.String(), nil
}

// stretch ends the id of a stretch that is not the first.
func stretch(r site.Row) string {
	if r.Part < 2 {
		return ""
	}
	return "-" + strconv.Itoa(r.Part)
}

// ics writes an event for what is done by hands, in universal time.
func (in scheduleTableIn) ics() string {
	var b strings.Builder
	line := func(text string) { b.WriteString(folded(text) + "\r\n") }
	const stamp = "20060102T150405Z"
	line("BEGIN:VCALENDAR")
	line("VERSION:2.0")
	line("PRODID:-//Dusha//Plan of the days//EN")
	for _, r := range in.rows() {
		if !r.Hands {
			continue
		}
		line("BEGIN:VEVENT")
		line("UID:" + r.Area + "-" + escaped(r.Step) + stretch(r) + "@dusha")
		line("DTSTAMP:" + in.Now.UTC().Format(stamp))
		line("DTSTART:" + r.Start.UTC().Format(stamp))
		line("DTEND:" + r.End.UTC().Format(stamp))
		line("SUMMARY:" + escaped(r.Called()+", "+r.Name))
		if crew := in.Crews[r.Crew]; crew != "" {
			line("DESCRIPTION:" + escaped(crew))
		}
		line("END:VEVENT")
	}
	line("END:VCALENDAR")
	return b.String()
}

// escaped is a text as RFC 5545 has it.
func escaped(text string) string {
	return strings.NewReplacer("\\", "\\\\", ";", "\\;", ",", "\\,", "\r", "", "\n", "\\n").Replace(text)
}

// folded breaks a line of more than 75 bytes, never inside a character.
func folded(line string) string {
	const most = 75
	var b strings.Builder
	n := 0
	for _, r := range line {
		size := len(string(r))
		if n+size > most {
			b.WriteString("\r\n ")
			n = 1
		}
		b.WriteRune(r)
		n += size
	}
	return b.String()
}
