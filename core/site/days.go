package site

import (
	"strconv"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/schedule"
)

// Asked is a plan of the days that is asked for: from now on, on these days, and what is supposed.
type Asked struct {
	Now       time.Time        `json:"now"`
	Midnights []time.Time      `json:"midnights" maxItems:"400"` // of the place: each day's beginning, and the last one's end
	Most      int              `json:"most_nodes"`
	From      *schedule.Search `json:"from,omitempty"` // goes on with a search that was stopped
	Plan      *schedule.Plan   `json:"plan,omitempty"` // what a search of the same problem found elsewhere: it is said, not searched

	Foreseen []logbook.Foreseen `json:"foreseen,omitempty" maxItems:"1000"` // outdoors
	Indoors  *float64           `json:"indoors_C,omitempty"`                // of areas whose base nobody read
	Rain     []Stretch          `json:"rain,omitempty" maxItems:"100"`
	Heater   []Heater           `json:"heater,omitempty" maxItems:"200"`
	Crews    int                `json:"more_crews,omitempty" minimum:"0" maximum:"10"`  // each like the largest
	People   int                `json:"more_people,omitempty" minimum:"0" maximum:"10"` // in each crew
	Longer   int                `json:"longer_min,omitempty" minimum:"0" maximum:"480"` // each shift
	Weekends bool               `json:"weekends,omitempty"`                             // the days off are worked like the day before
	Split    []StepOf           `json:"split,omitempty" maxItems:"200"`                 // steps that are laid in two stretches
	Held     []HeldStep         `json:"held,omitempty" maxItems:"500"`                  // steps that begin no earlier
	Slacks   bool               `json:"slacks,omitempty"`                               // how much later each step may begin
}

// Stretch is a stretch of time.
type Stretch struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// Heater makes an area warmer.
type Heater struct {
	Area string  `json:"area"`
	K    float64 `json:"K" minimum:"0" maximum:"40"`
}

// HeldStep is a step that begins no earlier than somebody says.
type HeldStep struct {
	Area  string    `json:"area"`
	Step  string    `json:"step"`
	Part  int       `json:"part,omitempty" minimum:"0" maximum:"4"` // stretch of it; 0: the first
	Start time.Time `json:"start"`
}

// Warmed is an area that is kept warmer than it was read last.
type Warmed struct {
	Area string  `json:"area"`
	Name string  `json:"name"`
	K    float64 `json:"K"`
}

// Days are a plan of the days: when each step of all areas runs, and by whom.
type Days struct {
	Found     bool             `json:"found"`
	Proven    bool             `json:"proven"`
	EndProven bool             `json:"end_proven"`
	Nodes     int              `json:"nodes"`
	From      *schedule.Search `json:"from"`
	End       *time.Time       `json:"end"`
	Bound     *time.Time       `json:"bound"`
	Rows      []Row            `json:"rows"`     // by their beginning
	Promises  []Promise        `json:"promises"` // times to give to others
	Left      []LeftOut        `json:"left"`     // what cannot be laid out, and why
	Supposed  []string         `json:"supposed"` // areas whose climate nobody read
	Warmed    []Warmed         `json:"warmed"`   // areas that somebody keeps warmer than they were read
	Chain     []string         `json:"chain"`    // ids of the rows that hold the end, from the last one back
	Changes   []DayChange      `json:"changes"`  // since the plan that was accepted
	Accepted  *time.Time       `json:"accepted"` // its end
	First     *time.Time       `json:"first"`    // end of the one accepted first
	Problem   schedule.Problem `json:"problem"`  // what was searched: a search of it can go on elsewhere
}

// StepOf is a step of an area.
type StepOf struct {
	Area string `json:"area"`
	Step string `json:"step"`
}

// Row is a step as it is laid out.
type Row struct {
	ID string `json:"id"` // of the stretch
	StepOf
	Part   int        `json:"part"` // stretch of it; 0 where it is laid in one
	Parts  int        `json:"parts"`
	Name   string     `json:"name"` // of the area
	Title  string     `json:"title"`
	Crew   string     `json:"crew"` // id; "" where nobody is bound
	Start  time.Time  `json:"start"`
	End    time.Time  `json:"end"`
	Hands  bool       `json:"hands"`
	Hold   bool       `json:"hold"`
	Stated bool       `json:"stated"`    // somebody said how long it takes; else it is reckoned
	Min    int        `json:"minutes"`   // of work
	Slack  *int       `json:"slack_min"` // it may begin so much later with the end unmoved; null where it was not asked
	Opens  *time.Time `json:"opens"`     // by its waits, as the plan stands
	Shuts  *time.Time `json:"shuts"`
	Held   HeldBy     `json:"held"`
	Lacks  []string   `json:"lacks"`          // materials that do not last for it
	Unread bool       `json:"weather_unread"` // it lies in the open, on a day whose weather nobody read

	outside bool
}

// Called is the title of a row, with which stretch it is where the step is laid in several.
func (r Row) Called() string {
	if r.Part == 0 {
		return r.Title
	}
	return r.Title + " " + strconv.Itoa(r.Part) + "/" + strconv.Itoa(r.Parts)
}

// HeldBy is what holds a start: By is one of "link", "crew", "shift", "weather", "so_that", "now", "window", "age", "delivery", "hand".
type HeldBy struct {
	By    string `json:"by"`
	Name  string `json:"name"` // of the area of the other step
	Title string `json:"title"`
	StepOf
	Until time.Time `json:"until"` // of what is done: when it is over
}

// Promise is a time that is given to others, with its doubt.
type Promise struct {
	Area  string    `json:"area"`
	Name  string    `json:"name"`
	What  string    `json:"what"`  // title of the step; "": all of it is done
	Water bool      `json:"water"` // that it stands from then on
	Early time.Time `json:"early"`
	Late  time.Time `json:"late"`
}

// LeftOut is an area or a step that cannot be laid out.
type LeftOut struct {
	StepOf
	Name  string         `json:"name"`
	Title string         `json:"title"` // of the step; "" of the whole area
	Key   string         `json:"key"`   // wording
	Args  map[string]any `json:"args"`
}

// DayChange is a step that runs at another time, or by others, than in the plan that was accepted.
type DayChange struct {
	ID string `json:"id"` // of the row
	StepOf
	Name   string    `json:"name"`
	Title  string    `json:"title"`
	Before time.Time `json:"before"`
	Now    time.Time `json:"now"`
	Crew   bool      `json:"crew"` // by another crew
	Tell   bool      `json:"tell"` // somebody outside waits for it: a milestone, a hold, an inspector
}

// planner lays out the open steps of a site.
type planner struct {
	*Site
	in      Asked
	out     *Days
	problem schedule.Problem
	early   []schedule.Link // the same links, as early as they could open
	rows    map[string]Row
	not     map[string]HeldBy    // why a step begins no earlier than its time
	opened  map[string]time.Time // when a wait is over that runs already
	areas   map[string]*logbook.Area
}

const mostHorizon = 120 // days

// Days lays out all open steps of the job.
func (s *Site) Days(in Asked) (Days, error) {
	p := planner{
		Site: s, in: in, rows: map[string]Row{}, not: map[string]HeldBy{}, opened: map[string]time.Time{}, areas: map[string]*logbook.Area{},
		out: &Days{Rows: []Row{}, Promises: []Promise{}, Left: []LeftOut{}, Supposed: []string{}, Warmed: []Warmed{}, Chain: []string{}, Changes: []DayChange{}},
	}
	if err := p.check(); err != nil {
		return *p.out, err
	}
	p.crews()
	p.problem.Horizon, p.problem.Travel = p.min(in.Midnights[len(in.Midnights)-1]), s.Job().SiteHours.Travel
	p.problem.Most, p.problem.From = in.Most, in.From
	for _, id := range s.Areas() {
		if !s.Job().AreaAway(id) {
			p.area(id)
		}
	}
	p.fits()
	p.accepted()
	plan, err := p.search()
	if (err != nil || !plan.Found) && p.each() {
		plan, err = p.search()
	}
	p.out.Problem = p.problem
	p.out.Problem.From = nil
	if err == nil {
		p.write(plan)
	}
	return *p.out, err
}

// search looks for a plan, or holds one that was found elsewhere against the problem.
func (p *planner) search() (schedule.Plan, error) {
	if len(p.problem.Steps) == 0 { // nothing is left to do, or nothing can be laid out
		p.problem.Steps, p.problem.Links = []schedule.Step{}, []schedule.Link{}
		return schedule.Plan{Found: true, Proven: true, EndProven: true}, nil
	}
	found := p.in.Plan
	if found == nil || !found.Found {
		return schedule.Solve(p.problem)
	}
	held, is := schedule.Again(p.problem, *found)
	if !is {
		return held, fault.At("plan", "schedule.plan_of_another")
	}
	held.Proven, held.EndProven, held.Nodes, held.Bound, held.From = found.Proven, found.EndProven, found.Nodes, found.Bound, nil
	return held, nil
}

func (p *planner) check() error {
	in := p.in
	if len(in.Midnights) < 2 || len(in.Midnights) > mostHorizon+1 {
		return fault.At("midnights", "schedule.no_days", "most", mostHorizon)
	}
	for i := 1; i < len(in.Midnights); i++ {
		if day := in.Midnights[i].Sub(in.Midnights[i-1]); day < 20*time.Hour || day > 28*time.Hour {
			return fault.At("midnights", "schedule.days_apart", "n", i)
		}
	}
	if len(p.Job().Crews) == 0 {
		return fault.At("crews", "schedule.no_crew")
	}
	return nil
}

// min is a time in minutes from the first midnight, up.
func (p *planner) min(at time.Time) int {
	d := at.Sub(p.in.Midnights[0])
	minutes := int(d / time.Minute)
	if d%time.Minute > 0 {
		minutes++
	}
	return minutes
}

func (p *planner) time(minutes int) time.Time {
	return p.in.Midnights[0].Add(time.Duration(minutes) * time.Minute)
}

// when is the time of minutes that may be none.
func (p *planner) when(minutes *int) *time.Time {
	if minutes == nil {
		return nil
	}
	at := p.time(*minutes)
	return &at
}

// clock is a clock time of a day in minutes from the first midnight; on a day that is longer or shorter the hours after the
// change count back from its end.
func (p *planner) clock(day, minutes int) int {
	const whole, changes = 24 * 60, 3 * 60
	if minutes < changes {
		return p.min(p.in.Midnights[day]) + minutes
	}
	return p.min(p.in.Midnights[day+1]) - (whole - minutes)
}
