package sheet

// Doing is what a step is there for: which entries finish it, and what is asked before it.
type Doing string

// Doings of a recipe's steps.
const (
	ToSurvey   Doing = "survey"
	ToPlan     Doing = "plan"
	ToCheck    Doing = "check" // a person says that it is done
	ToBed      Doing = "bed"
	ToCoat     Doing = "coat"
	ToAccept   Doing = "accept"
	ToPlanTest Doing = "plan_test"
	ToTest     Doing = "test"
	ToSign     Doing = "sign"
)

// doings says of each what quantities and permissions go by.
var doings = map[Doing]struct {
	lays  bool // something on the base, or on what lies there
	coats bool // a film, in coats
	holds bool // work stops until someone signs
	said  bool // a person says that it is done
}{
	ToSurvey: {}, ToPlan: {}, ToPlanTest: {}, ToTest: {},
	ToCheck:  {said: true},
	ToBed:    {lays: true},
	ToCoat:   {lays: true, coats: true},
	ToAccept: {holds: true},
	ToSign:   {holds: true},
}

// Hold tells whether work stops at the step until someone signs.
func (s Step) Hold() bool { return doings[s.Does].holds }

// Lays tells whether the step lays something on the base or on what lies on it.
func (s Step) Lays() bool { return doings[s.Does].lays }

// Said tells whether a person says of the step that it is done.
func (s Step) Said() bool { return doings[s.Does].said }

// Coats tells whether the step lays a coat of the film.
func (s Step) Coats() bool { return doings[s.Does].coats }
