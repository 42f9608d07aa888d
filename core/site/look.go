package site

import (
	"slices"
	"time"

	"dusha/core/figure"
	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// Look is an area as it stands at a moment, with the teeth of the comb gauge.
type Look struct {
	logbook.Look
	Comb []float64 `json:"comb"` // mm
}

// Look shows an area at a moment.
func (s *Site) Look(area string, now time.Time) Look {
	return Look{Look: s.Area(area).At(now), Comb: film.Comb()}
}

// LeanLook is the same without what is long and asked by itself: the plan, deviations, and where the figures
// of films come from.
func (s *Site) LeanLook(area string, now time.Time) Look {
	look := s.Look(area, now)
	look.Plan, look.Deviations = nil, []logbook.Deviation{}
	for _, coat := range look.Coats {
		for i := range coat.Surfaces {
			coat.Surfaces[i].Figures = []figure.Figure{}
		}
	}
	return look
}

// Plan is an area's plan as it was accepted, null where there is none.
func (s *Site) Plan(area string) *takeoff.Plan { return s.Area(area).Takeoff }

// Deviations are those of an area, as they were entered.
func (s *Site) Deviations(area string) []logbook.Deviation {
	return append([]logbook.Deviation{}, s.Area(area).Deviations...)
}

// FilmFigures are the figures of the film of a surface in the coat that a step lays.
func (s *Site) FilmFigures(area, step, surface string) []figure.Figure {
	coat, _ := s.Area(area).CoatLook(step, time.Time{})
	for _, each := range coat.Surfaces {
		if each.Surface == surface {
			return each.Figures
		}
	}
	return []figure.Figure{}
}

// Board is a job with its areas, by what can be done now.
type Board struct {
	logbook.Job
	Rules rules.Profile `json:"rules"` // local rules in use
	Areas []Line        `json:"areas"`
	Board logbook.Board `json:"board"`
}

// Line is an area as it is looked at beside others.
type Line struct {
	ID       string              `json:"id"`
	Name     string              `json:"name"`
	Away     bool                `json:"away"` // put away: on no board and no list of what to buy
	Sample   bool                `json:"sample"`
	Surveyed bool                `json:"surveyed"`
	Coated   string              `json:"coated"` // step of the last coat with something laid, "" while there is none
	Geometry *wetarea.Area       `json:"geometry"`
	Stage    *logbook.StageLook  `json:"stage"` // the one under way, nil when finished
	Next     logbook.Next        `json:"next"`
	Coat     *logbook.CoatLook   `json:"coat"` // the last coat with something laid
	Pieces   []logbook.PieceLook `json:"pieces"`
	Turn     *logbook.Turn       `json:"turn"`
	Tide     *logbook.Tide       `json:"tide"`
	Flood    float64             `json:"flood_mm"` // water standing in it for a test; 0: none
	Planned  *logbook.Planned    `json:"planned"`  // its next step in the plan of the days that was accepted
}

// Board lists the areas at a moment, as if they were some K warmer from then on.
func (s *Site) Board(now time.Time, warmer float64) Board {
	return s.board(now, warmer, func(area *logbook.Area, line *Line) {
		line.Geometry, line.Pieces = area.Geometry, area.PieceLooks()
		if coat, is := area.CoatLook(line.Coated, now); is {
			line.Coat = &coat
		}
	})
}

// LeanBoard is the same without what is drawn by asking for it: what was surveyed, and what lies there.
func (s *Site) LeanBoard(now time.Time, warmer float64) Board {
	return s.board(now, warmer, func(*logbook.Area, *Line) {})
}

func (s *Site) board(now time.Time, warmer float64, more func(*logbook.Area, *Line)) Board {
	out := Board{Job: *s.Job(), Rules: s.Job().Rules(), Areas: []Line{}}
	ids := s.Areas()
	var at []string // those that are worked on
	turns := map[string]*logbook.Turn{}
	for _, id := range ids {
		area := s.Area(id)
		if warmer != 0 {
			area = area.Warmer(now, warmer)
		}
		g := area.Glance(now)
		line := Line{
			ID: id, Name: area.Name, Away: s.Job().AreaAway(id), Sample: area.Plan != nil && area.Plan.Sheet.Sample, Surveyed: area.Geometry != nil, Coated: g.Coated,
			Pieces: []logbook.PieceLook{}, Stage: g.Stage, Next: g.Next, Turn: &g.Turn, Tide: g.Tide, Flood: g.Flood,
		}
		line.Planned = s.Job().PlannedFor(id, g.Next.Step)
		more(area, &line)
		if !line.Away {
			turns[id], at = line.Turn, append(at, id)
		}
		out.Areas = append(out.Areas, line)
	}
	out.Board = logbook.BoardOf(at, turns, now)
	return out
}

// Sight is the digest of an area's book, and what a device signs of it.
type Sight struct {
	Seen    string `json:"seen"`
	Entries int    `json:"entries"`
	Signs   string `json:"signs"` // the text that a device's key signs
}

// Seen gives the digest of an area's entries, for a person's signature of a step.
func (s *Site) Seen(area, step, person string) Sight {
	book := s.books[area]
	digest := logbook.Seen(area, book)
	return Sight{digest, len(book), logbook.SignedText(area, logbook.SignedBody{Step: step, Person: person, Seen: digest})}
}

// Entries counts the entries of an area's book.
func (s *Site) Entries(area string) int { return len(s.books[area]) }

// unique adds to a list what is not in it yet.
func unique(list []string, more ...string) []string {
	for _, each := range more {
		if !slices.Contains(list, each) {
			list = append(list, each)
		}
	}
	return list
}
