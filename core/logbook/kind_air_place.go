package logbook

const KindAirPlace Kind = "air.place"

// AirPlace says whose air an area has; Outside is the air of the open.
type AirPlace struct {
	Place string `json:"place"`
}

func (b AirPlace) check() error { return name("body.place", b.Place) }

// apply has nothing left to do: readAir takes the air before anything is judged by it.
func (b AirPlace) apply(*Area, settled) {}

func (b AirPlace) share(own *Own, _ settled) { own.place = b.Place }

func (b AirPlace) under(a *Area) (string, bool) { return a.firstStep(), true }

func (AirPlace) still() {}

func (AirPlace) worksBack() {}
