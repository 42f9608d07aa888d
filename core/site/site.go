// Package site is a job with all its areas, folded from their entries.
//
// What several areas share (stock, offcuts, people, local rules, the air of a place) is known
// to each of them here, and each is folded once for all that is asked. A site grows by the
// entries that come; what they do not touch stays folded. The same entries make the same
// site in whatever order and parts they came.
package site

import (
	"cmp"
	"slices"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/order"
)

// Site is a job as its entries say.
type Site struct {
	books map[string][]logbook.Entry // by area; "" is the job's own
	owns  map[string]*logbook.Own    // of areas, read once
	areas map[string]*logbook.Area   // folded once
	job   *logbook.Job
}

// Read makes a site of entries' texts as they were kept.
func Read(texts [][]byte) *Site { return Of(logbook.ReadAll(texts)) }

// Of makes a site of entries.
func Of(entries []logbook.Entry) *Site {
	s := &Site{books: map[string][]logbook.Entry{}, owns: map[string]*logbook.Own{}, areas: map[string]*logbook.Area{}}
	sizes := map[string]int{}
	for _, e := range entries {
		sizes[e.AreaID]++
	}
	for _, e := range entries {
		if s.books[e.AreaID] == nil {
			s.books[e.AreaID] = make([]logbook.Entry, 0, sizes[e.AreaID])
		}
		s.books[e.AreaID] = append(s.books[e.AreaID], e)
	}
	return s
}

// Add takes more entries up.
func (s *Site) Add(texts [][]byte) {
	touched := map[string]bool{}
	for _, e := range logbook.ReadAll(texts) {
		id := e.AreaID
		s.books[id] = append(s.books[id], e)
		if touched[id] || !s.append(id, e) {
			touched[id] = true
		}
	}
	s.forget(touched)
}

// append takes one more entry of an area up where it is the last of its book; false where that has to be
// read anew.
func (s *Site) append(id string, e logbook.Entry) bool {
	own := s.owns[id]
	if own == nil {
		return false
	}
	place, _ := own.Air()
	if !own.Append(e, s.books[id]) {
		return false
	}
	if area := s.areas[id]; area != nil && !area.Append() {
		s.areas[id] = logbook.FoldArea(own, s, area)
	}
	if logbook.SharesAir(e) {
		after, _ := own.Air()
		s.forgetAir(map[string]bool{place: true, after: true}, id)
	}
	return true
}

// Remove leaves entries out again, by id: what was taken back before it left its device, or set aside.
func (s *Site) Remove(ids []string) {
	touched := map[string]bool{}
	for area, book := range s.books {
		left := slices.DeleteFunc(slices.Clone(book), func(e logbook.Entry) bool { return slices.Contains(ids, e.ID) })
		if len(left) < len(book) {
			s.books[area], touched[area] = left, true
		}
	}
	s.forget(touched)
}

// forget lets go of what is folded of books that were touched, and of what rests on them: the job's own
// concerns every area, and air is shared by the areas of a place.
func (s *Site) forget(touched map[string]bool) {
	if touched[""] {
		s.job = nil
		clear(s.areas)
	}
	places := map[string]bool{}
	for id := range touched {
		if id == "" {
			continue
		}
		if own := s.owns[id]; own != nil {
			before, _ := own.Air()
			places[before] = true
		}
		delete(s.owns, id)
		delete(s.areas, id)
		after, _ := s.own(id).Air()
		places[after] = true
	}
	s.forgetAir(places, "")
}

// forgetAir lets go of the areas of some places of air, but for one.
func (s *Site) forgetAir(places map[string]bool, but string) {
	for id, area := range s.areas {
		if area.Place != "" && places[area.Place] && id != but {
			delete(s.areas, id)
		}
	}
}

// Areas lists the areas in the order of their first entries.
func (s *Site) Areas() []string {
	first := []logbook.Entry{}
	for id, book := range s.books {
		if id != "" && len(book) > 0 {
			first = append(first, logbook.Order(book)[0])
		}
	}
	ids := []string{}
	for _, e := range logbook.Order(first) {
		ids = append(ids, e.AreaID)
	}
	return ids
}

// Job is what the job's own book says.
func (s *Site) Job() *logbook.Job {
	if s.job == nil {
		s.job = logbook.FoldJob(s.books[""])
	}
	return s.job
}

func (s *Site) own(id string) *logbook.Own {
	if s.owns[id] == nil {
		s.owns[id] = logbook.ReadOwn(id, s.books[id])
	}
	return s.owns[id]
}

// Area is an area as its book says; one that nobody opened has no name.
func (s *Site) Area(id string) *logbook.Area {
	if s.areas[id] == nil {
		s.areas[id] = logbook.FoldArea(s.own(id), s, nil)
	}
	return s.areas[id]
}

// Breaths are what was read of a place of air elsewhere than in an area.
func (s *Site) Breaths(place, but string) []logbook.Breath {
	list := slices.Clone(s.Job().Breaths(place))
	for id := range s.books {
		if id == "" || id == but {
			continue
		}
		if of, read := s.own(id).Air(); of == place {
			list = append(list, read...)
		}
	}
	return list
}

// Users are the other areas that took of the stock since it was counted.
func (s *Site) Users(but string) []*logbook.Area {
	since, counted := s.Job().FirstCount()
	if !counted {
		return nil
	}
	users := []*logbook.Area{}
	for id := range s.books {
		if id != "" && id != but && s.own(id).Took(since) {
			users = append(users, s.Area(id))
		}
	}
	order.By(users, func(a, b *logbook.Area) int { return cmp.Compare(a.ID, b.ID) })
	return users
}

// opened is an area that was opened; another is a fault.
func (s *Site) opened(id string) (*logbook.Area, error) {
	area := s.Area(id)
	if area.Name == "" {
		return nil, fault.At("area", "area.unknown")
	}
	return area, nil
}
