package logbook

import "slices"

const KindPersonJoined Kind = "person.joined"

// PersonJoined puts a person on the job; the name stands in the people table alone.
type PersonJoined struct {
	Person string `json:"person"`
	Role   string `json:"role"`
}

func (b PersonJoined) check() error {
	return first(id("body.person", b.Person), name("body.role", b.Role))
}

// keep puts a person on the job; who joins again has another role.
func (b PersonJoined) keep(j *Job, _ settled) {
	if i := slices.IndexFunc(j.People, func(p Person) bool { return p.ID == b.Person }); i >= 0 {
		j.People[i].Role = b.Role
		return
	}
	j.People = append(j.People, Person{ID: b.Person, Role: b.Role})
}
