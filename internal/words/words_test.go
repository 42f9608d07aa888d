package words

import (
	"os"
	"regexp"
	"testing"
	"time"

	"dusha/core/strict"
)

func TestSaysAsThePageDoes(t *testing.T) {
	east := Speaker{Zone: time.FixedZone("", 3600)}
	for _, c := range []struct {
		format string
		value  any
		want   string
	}{
		{"length", 2345.0, "2.35 m"},
		{"m", 900.0, "0.90"},
		{"mm", 12.3456, "12.346 mm"},
		{"mm", 12, "12 mm"},
		{"film", 0.95, "1.0"},
		{"film2", 0.975, "0.98"},
		{"kg", 1.005, "1.01 kg"},
		{"kg1", 7.06, "7.1 kg"},
		{"area", 11.084, "11.08 m²"},
		{"number", -0.0001, "0"},
		{"temp", 20.0, "20 °C"},
		{"whole", 4.5, "5"},
		{"rate", 0.0125, "0.013"},
		{"hours", 4.5, "4 h 30"},
		{"hours", 0.25, "15 min"},
		{"clock", "2026-03-04T23:30:00Z", "5 Mar 2026, 00:30"},
		{"hhmm", "2026-03-04T23:30:00Z", "00:30"},
		{"weekday", "2026-03-04T23:30:00Z", "Thu"},
		{"day", "2026-03-04T23:30:00Z", "Thu 5 Mar"},
		{"unit", "percent", " %"},
		{"unit", "kg/L", " kg/L"},
		{"unit", "ratio", ""},
		{"letter", "a", "A"},
		{"list", []any{"a", "b"}, "a, b"},
		{"place", "wall.a", "Wall A"},
		{"place", "floor", "Floor"},
	} {
		if got := east.write(c.value, c.format); got != c.want {
			t.Errorf("%v as %s is said %q, want %q", c.value, c.format, got, c.want)
		}
	}
}

// Every format that the catalogue or the page knows is written here too.
func TestEveryFormatOfThePageIsKnown(t *testing.T) {
	script, err := os.ReadFile("../../web/src/words/words.ts")
	if err != nil {
		t.Fatal(err)
	}
	body := regexp.MustCompile(`(?s)const formats.*?\n}`).Find(script)
	named := regexp.MustCompile(`(?m)^  (\w+): \(v\)`).FindAllSubmatch(body, -1)
	if len(named) < 15 {
		t.Fatalf("%d formats found in the page, want all of them", len(named))
	}
	for _, each := range named {
		if got := (Speaker{Zone: time.UTC}).write("1", string(each[1])); got == "["+string(each[1])+"]" {
			t.Errorf("format %s of the page is not known here", each[1])
		}
	}
	for key, sentence := range english.words {
		for _, part := range slot.FindAllStringSubmatch(sentence, -1) {
			if part[2] != "" && (Speaker{Zone: time.UTC}).write("1", part[2]) == "["+part[2]+"]" {
				t.Errorf("%s asks for the unknown format %s", key, part[2])
			}
		}
	}
}

func TestOneThingIsSaidAsOne(t *testing.T) {
	s := Speaker{Zone: time.UTC}
	for n, want := range map[any]string{1: "1 thing left to bed", 1.0: "1 thing left to bed", 2: "2 things left to bed", 0: "0 things left to bed"} {
		if got := s.Say("bed.left", "n", n); got != want {
			t.Errorf("%v: %q, want %q", n, got, want)
		}
	}
	if got := s.Say("bed.left"); got == "1 thing left to bed" {
		t.Error("no number is said as one")
	}
}

func TestAnUnknownKeyIsSeen(t *testing.T) {
	if got := (Speaker{Zone: time.UTC}).Say("no.such"); got != "[no.such]" {
		t.Errorf("an unknown key is said %q", got)
	}
}

func TestQuantitiesAreWrittenAsFinelyAsTheirUnitIsWorkedTo(t *testing.T) {
	s := Speaker{Zone: time.UTC}
	for _, c := range []struct {
		value float64
		unit  string
		want  string
	}{
		{11.084, "m2", "11.08 m²"},
		{7.5, "kg", "7.50 kg"},
		{1.98, "kg/m2", "1.98 kg/m²"},
		{17, "count", "17"},
		{441.2, "L", "441 L"},
		{0.981, "kPa", "0.98 kPa"},
		{44.4, "min", "44 min"},
		{24, "h", "24 h 00"},
		{72, "h", "3 d"},
		{78.5, "h", "3 d 6 h"},
		{0.0123, "mm/h", "0.012 mm/h"},
		{1.2, "mm", "1.2 mm"},
		{19.5, "C", "19.5 °C"},
		{5, "percent", "5 %"},
		{1.5, "1/m2", "1.5 a m²"},
		{18, "m2/h", "18 m²/h"},
		{0.83, "ratio", "0.83"},
	} {
		if got := s.Quantity(c.value, c.unit); got != c.want {
			t.Errorf("%v %s is written %q, want %q", c.value, c.unit, got, c.want)
		}
	}
}

func TestPlacesAreNamed(t *testing.T) {
	s := Speaker{Zone: time.UTC}
	named := map[string]string{}
	for _, id := range []string{"floor", "wall.a", "soffit", "niche.1", "niche.2.depth.4", "box.1.foot.2", "riser.1", "edge.b", "corner.niche.1.2", "corner.box.1.foot.2", "corner.box.2.top.4", "line.3", "floor.a", "floor_wall.a.1", "floor_wall.a.2", "wall_wall.a.b", "threshold.c", "corner.a.b", "pipe.2", "drain.1"} {
		name := s.Place(id)
		if name == id || name == "" || regexp.MustCompile(`[\[\]]`).MatchString(name) {
			t.Errorf("%s is named %q", id, name)
		}
		if other, twice := named[name]; twice {
			t.Errorf("%s and %s are both named %q", id, other, name)
		}
		named[name] = id
		if band := s.Place("band." + id); band != name {
			t.Errorf("the band of %s lies at %q, want %q", id, band, name)
		}
	}
	if got := s.Place("something.else"); got != "something.else" {
		t.Errorf("an unknown place is named %q", got)
	}
}

func TestAValueThatIsMissingLeavesItsPlaceEmpty(t *testing.T) {
	s := Speaker{Zone: time.UTC}
	for key := range english.words {
		if said := s.Say(key); slot.MatchString(said) {
			t.Errorf("%s without its values is said %q", key, said)
		}
	}
}

// A key that stands twice has two wordings, of which one is never read.
func TestEveryKeyStandsOnce(t *testing.T) {
	text, err := os.ReadFile("../../web/src/words/en.json")
	if err != nil {
		t.Fatal(err)
	}
	var all map[string]string
	if err := strict.Decode("words", text, &all); err != nil {
		t.Error(err)
	}
}

// A language is one file: its plurals, numbers and dates follow from what it says.
func TestAnotherLanguage(t *testing.T) {
	shipped := tongues
	defer func() { tongues = shipped }()
	tongues = func() map[string]*tongue {
		return map[string]*tongue{"xx": tongueOf(map[string]string{
			"language.tag": "pl", "language.comma": "; ", "jobs.areas": "{n} other", "jobs.areas.one": "one", "jobs.areas.few": "{n} few",
			"calendar.months": "I II III IV V VI VII VIII IX X XI XII", "calendar.date": "{year} {month} {day}",
		})}
	}
	s := Speaker{Zone: time.UTC, Language: "xx", Currency: "XTS"}
	for want, got := range map[string]string{
		"1":                                s.Say("drawing.number", "number", 1),
		"one":                              s.Say("jobs.areas", "n", 1),
		"3 few":                            s.Say("jobs.areas", "n", 3),
		"5 other":                          s.Say("jobs.areas", "n", 5),
		"2,35 m":                           s.write(2345.0, "length"),
		"0,012 mm/h":                       s.Quantity(0.0123, "mm/h"),
		"12\u00a0345,60 XTS":               s.Money(1234560),
		"a; b":                             s.List([]string{"a", "b"}),
		"2026 III 5":                       s.Date(time.Date(2026, 3, 5, 0, 0, 0, 0, time.UTC)),
		"2026 III 5, 00:30":                s.Moment("2026-03-05T00:30:00Z"), // in words of English where it has none
		(Speaker{}).Say("option.concrete"): s.Say("option.concrete"),
	} {
		if got != want {
			t.Errorf("said %q, want %q", got, want)
		}
	}
	if got := (Speaker{Language: "zz"}).Say("jobs.areas", "n", 1); got != "1 wet area" {
		t.Errorf("a language that is not shipped says %q", got)
	}
}

func TestMoney(t *testing.T) {
	for cents, want := range map[int]string{0: "0.00", 5: "0.05", -1234: "-12.34", 123456789: "1,234,567.89"} {
		if got := (Speaker{}).Money(cents); got != want {
			t.Errorf("%d cents are %q, want %q", cents, got, want)
		}
	}
}
