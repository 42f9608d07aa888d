package draw

import (
	"time"

	"dusha/core/wetarea"
)

// axis is the one time axis of tide and water test: left to right, in px of the view. The
// hours right after now may be drawn wider, since they are the ones that are decided on.
type axis struct {
	from, to    time.Time
	now         time.Time
	zone        *time.Location
	left, right float64
	wide        time.Duration // stretch after now that is drawn wider; 0: none
}

// wider is how many times wider the coming hours are drawn.
const wider = 3.0

// weight is how much axis lies between the beginning and a time, in hours of plain width.
func (a axis) weight(at time.Time) float64 {
	plain := at.Sub(a.from).Hours()
	if a.wide == 0 {
		return plain
	}
	begin, end := a.now, a.now.Add(a.wide)
	extra := min(max(at.Sub(begin).Hours(), 0), end.Sub(begin).Hours())
	return plain + (wider-1)*extra
}

// x is the place of a time.
func (a axis) x(at time.Time) float64 {
	return a.left + (a.right-a.left)*a.weight(at)/a.weight(a.to)
}

// inside keeps a time on the axis.
func (a axis) inside(at time.Time) time.Time {
	if at.Before(a.from) {
		return a.from
	}
	if at.After(a.to) {
		return a.to
	}
	return at
}

func (a axis) shows(at time.Time) bool { return !at.Before(a.from) && !at.After(a.to) }

// Night, by the local clock.
const nightFrom, nightTo = 20, 6

// grid draws nights, hour lines and day names between two heights, with the marks under
// top or, where foot is set, under bottom.
func (d *Drawing) grid(a axis, top, bottom, marks float64) {
	for day := a.from.In(a.zone).AddDate(0, 0, -1); day.Before(a.to); day = day.AddDate(0, 0, 1) {
		y, m, dd := day.Date()
		begin := a.inside(time.Date(y, m, dd, nightFrom, 0, 0, 0, a.zone))
		end := a.inside(time.Date(y, m, dd+1, nightTo, 0, 0, 0, a.zone))
		if end.After(begin) {
			d.path("night", true, box(a.x(begin), top, a.x(end)-a.x(begin), bottom-top)...)
		}
	}
	lastLabel := a.left - labelPx
	for at := a.from.In(a.zone).Truncate(time.Hour); !at.After(a.to); at = at.Add(time.Hour) {
		if !a.shows(at) || at.Hour()%a.every() != 0 && at.Hour() != 0 {
			continue
		}
		style := "hour"
		if at.Hour() == 0 {
			style = "midnight"
		}
		d.path(style, false, wetarea.Point{a.x(at), top}, wetarea.Point{a.x(at), bottom})
		if a.x(at)-lastLabel < labelPx || a.x(at) > a.right-labelPx/2 || a.x(at) < labelPx/2 {
			continue
		}
		lastLabel = a.x(at)
		if at.Hour() == 0 {
			d.text("axis_day", wetarea.Point{a.x(at), marks}, "middle", "axis.day", "at", at.Format(time.RFC3339))
		} else {
			d.text("axis_hour", wetarea.Point{a.x(at), marks}, "middle", "axis.hour", "h", at.Format("15"))
		}
	}
}

// labelPx is the least distance of two marks.
const labelPx = 44

// every is the step of the hour lines that leaves them apart.
func (a axis) every() int {
	perHour := (a.right - a.left) / a.weight(a.to)
	for _, hours := range []int{1, 2, 3, 6, 12} {
		if perHour*float64(hours) >= labelPx {
			return hours
		}
	}
	return 24
}

// flag is the now line with its flag.
func (d *Drawing) flag(a axis, top, bottom float64) {
	const tall, wide, slant = 26, 62, 10
	x := a.x(a.now)
	d.path("now_flag", true, wetarea.Point{x, top - tall}, wetarea.Point{x + wide, top - tall}, wetarea.Point{x + wide - slant, top}, wetarea.Point{x, top})
	d.text("now_text", wetarea.Point{x + wide/2 - slant/2, top - 7}, "middle", "axis.clock", "at", a.now.In(a.zone).Format(time.RFC3339))
	d.path("now", false, wetarea.Point{x, top - tall}, wetarea.Point{x, bottom})
}

// zoneOf is the local time of a page: minutes east of Greenwich.
func zoneOf(minutes int) *time.Location { return time.FixedZone("", minutes*60) }
