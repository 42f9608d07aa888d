// Package words says the core's keys and values in the page's own words, for documents.
// It reads the same catalogue as the page and writes numbers as the page does.
package words

import (
	"encoding/json"
	"fmt"
	"math"
	"math/big"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"time"

	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/number"

	"dusha/core/logbook"
	"dusha/web"
)

// tongue is a language: its words by key, and how its numbers and plurals are formed (CLDR, by
// golang.org/x/text).
type tongue struct {
	words   map[string]string
	tag     language.Tag
	numbers *message.Printer
}

func tongueOf(catalogue map[string]string) *tongue {
	tag := language.Make(catalogue["language.tag"])
	return &tongue{catalogue, tag, message.NewPrinter(tag)}
}

var english = tongueOf(read[map[string]string](web.Words))

// tongues are the languages that are shipped beside English, by the names of their files.
var tongues = sync.OnceValue(func() map[string]*tongue {
	all := map[string]*tongue{}
	for name := range read[map[string]string](web.Language("index")) {
		if name != "en" {
			all[name] = tongueOf(read[map[string]string](web.Language(name)))
		}
	}
	return all
})

// units are how values are written, by unit.
var units = read[struct {
	Names  map[string]string `json:"names"`
	Digits map[string]int    `json:"digits"` // how finely a unit is worked to
}](web.Units)

func read[T any](text []byte) (v T) {
	if err := json.Unmarshal(text, &v); err != nil {
		panic(err) // it is part of the program
	}
	return v
}

// Speaker says things as a job's papers do: at its local time, in its language and its currency.
type Speaker struct {
	Zone     *time.Location
	Language string // "" is English, like one that is not shipped
	Currency string // ISO 4217; "" writes amounts alone
}

// Of speaks as a job's papers do; a zone that is not known here is UTC.
func Of(zone string, papers logbook.Papers) Speaker {
	here, err := time.LoadLocation(zone)
	if err != nil {
		here = time.UTC
	}
	return Speaker{here, papers.Language, papers.Currency}
}

func (s Speaker) tongue() *tongue {
	if t := tongues()[s.Language]; t != nil {
		return t
	}
	return english
}

// sentence is the wording of a key; what a language does not say is said in English.
func (s Speaker) sentence(key string) (string, bool) {
	if text, known := s.tongue().words[key]; known {
		return text, true
	}
	text, known := english.words[key]
	return text, known
}

var forms = map[plural.Form]string{plural.Zero: "zero", plural.One: "one", plural.Two: "two", plural.Few: "few", plural.Many: "many", plural.Other: "other"}

// form is the plural form of a count; "" of what is none.
func (s Speaker) form(n any) string {
	count := valueOf(n)
	if n == nil || count != math.Trunc(count) || math.Abs(count) > 1e9 {
		return ""
	}
	return forms[plural.Cardinal.MatchPlural(s.tongue().tag, int(math.Abs(count)), 0, 0, 0, 0)]
}

var slot = regexp.MustCompile(`\{(\w+)(?::(\w+))?\}`)

// Say writes the sentence of a key with its values; args are pairs of name and value. A key
// without a sentence is said in brackets, so that it is seen.
func (s Speaker) Say(key string, args ...any) string {
	return s.SayWith(key, pairs(args))
}

// SayWith is Say with the values by name.
func (s Speaker) SayWith(key string, args map[string]any) string {
	sentence, known := s.sentence(key)
	if form, is := s.sentence(key + "." + s.form(args["n"])); is {
		sentence = form
	}
	if !known {
		return "[" + key + "]"
	}
	return slot.ReplaceAllStringFunc(sentence, func(found string) string {
		part := slot.FindStringSubmatch(found)
		value, given := args[part[1]]
		if !given || value == nil {
			return ""
		}
		if part[2] != "" {
			return s.write(value, part[2])
		}
		switch v := value.(type) {
		case string:
			return v
		case float64:
			return s.plain(v)
		case int:
			return strconv.Itoa(v)
		}
		return ""
	})
}

func pairs(args []any) map[string]any {
	m := map[string]any{}
	for i := 0; i+1 < len(args); i += 2 {
		m[args[i].(string)] = args[i+1]
	}
	return m
}

// valueOf reads a value as the page would.
func valueOf(value any) float64 {
	switch v := value.(type) {
	case float64:
		return v
	case *float64:
		if v != nil {
			return *v
		}
	case int:
		return float64(v)
	case string:
		if n, err := strconv.ParseFloat(v, 64); err == nil {
			return n
		}
	}
	return math.NaN()
}

// round gives a number with so many decimals in digits and point, halves of its shortest decimal
// writing away from zero, as the page's number formatter does.
func round(v float64, digits int) string {
	exact, ok := new(big.Rat).SetString(strconv.FormatFloat(v, 'f', -1, 64))
	if !ok { // not a number
		return ""
	}
	text := exact.FloatString(digits)
	if strings.Trim(text, "-0.") == "" {
		text = strings.TrimPrefix(text, "-")
	}
	return text
}

// Fixed writes a number with so many decimals.
func (s Speaker) Fixed(v float64, digits int) string {
	return s.decimal(round(v, digits), number.Scale(digits), number.NoSeparator())
}

// plain writes a number with three decimals at most.
func (s Speaker) plain(v float64) string {
	return s.decimal(round(v, 3), number.MaxFractionDigits(3), number.NoSeparator())
}

// decimal writes a rounded number as the language does.
func (s Speaker) decimal(rounded string, options ...number.Option) string {
	value, err := strconv.ParseFloat(rounded, 64)
	if err != nil {
		return "–"
	}
	return s.tongue().numbers.Sprint(number.Decimal(value, options...))
}

// write writes a value in one of the catalogue's formats.
func (s Speaker) write(value any, format string) string {
	switch format {
	case "length":
		return s.Fixed(valueOf(value)/1000, 2) + " m"
	case "m":
		return s.Fixed(valueOf(value)/1000, 2)
	case "mm":
		return s.plain(valueOf(value)) + " mm"
	case "film":
		return s.Fixed(valueOf(value), 1)
	case "film2", "load":
		return s.Fixed(valueOf(value), 2)
	case "kg":
		return s.Fixed(valueOf(value), 2) + " kg"
	case "kg1":
		return s.Fixed(valueOf(value), 1) + " kg"
	case "area":
		return s.Fixed(valueOf(value), 2) + " m²"
	case "number":
		return s.plain(valueOf(value))
	case "temp":
		return s.plain(valueOf(value)) + " °C"
	case "whole":
		return s.Fixed(valueOf(value), 0)
	case "rate":
		return s.Fixed(valueOf(value), 3)
	case "hours":
		return Span(time.Duration(valueOf(value) * float64(time.Hour)))
	case "clock":
		return s.Moment(fmt.Sprint(value))
	case "hhmm":
		return s.at(fmt.Sprint(value), hhmm)
	case "weekday":
		return s.at(fmt.Sprint(value), func(at time.Time) string { return s.one("calendar.weekdays", int(at.Weekday())) })
	case "day":
		return s.at(fmt.Sprint(value), func(at time.Time) string {
			return s.one("calendar.weekdays", int(at.Weekday())) + " " + strconv.Itoa(at.Day()) + " " + s.one("calendar.months", int(at.Month())-1)
		})
	case "place":
		return s.Place(fmt.Sprint(value))
	case "option":
		return s.Option(fmt.Sprint(value))
	case "cut_state":
		return s.Say("cut_state." + fmt.Sprint(value))
	case "product":
		return s.Say("product." + fmt.Sprint(value))
	case "money":
		return s.Money(int(valueOf(value)))
	case "unit":
		return unitAfter(fmt.Sprint(value))
	case "word":
		if key, is := value.(string); is && key != "" {
			return s.Say(key)
		}
		return ""
	case "field":
		return s.Say("ask." + fmt.Sprint(value))
	case "letter":
		return strings.ToUpper(fmt.Sprint(value))
	case "list":
		return s.list(value)
	}
	return "[" + format + "]"
}

// Money writes an amount that is kept in cents, in the currency of the papers.
func (s Speaker) Money(cents int) string {
	text := s.tongue().numbers.Sprint(number.Decimal(float64(cents)/100, number.Scale(2)))
	return strings.TrimSpace(text + " " + s.Currency)
}

func (s Speaker) list(value any) string {
	switch items := value.(type) {
	case []string:
		return s.List(items)
	case []any:
		texts := make([]string, len(items))
		for i, item := range items {
			texts[i] = fmt.Sprint(item)
		}
		return s.List(texts)
	}
	return fmt.Sprint(value)
}

// List writes texts one after the other.
func (s Speaker) List(texts []string) string { return strings.Join(texts, s.Say("language.comma")) }

// at writes a stamp by its time here; what is no stamp stays as it is.
func (s Speaker) at(stamp string, write func(time.Time) string) string {
	at, err := time.Parse(time.RFC3339, stamp)
	if err != nil {
		return stamp
	}
	return write(at.In(s.Zone))
}

// Moment writes a time with its date: a document is read on another day.
func (s Speaker) Moment(stamp string) string {
	return s.at(stamp, func(at time.Time) string { return s.Say("calendar.moment", "date", s.Date(at), "time", hhmm(at)) })
}

// Date writes a day.
func (s Speaker) Date(at time.Time) string {
	month := s.one("calendar.months", int(at.Month())-1)
	return s.Say("calendar.date", "day", at.Day(), "month", month, "year", strconv.Itoa(at.Year()))
}

func hhmm(at time.Time) string { return at.Format("15:04") }

// one is a word of a row of words.
func (s Speaker) one(key string, i int) string { return strings.Fields(s.Say(key))[i] }

// Time writes a time with its date.
func (s Speaker) Time(at time.Time) string { return s.Moment(at.Format(time.RFC3339)) }

// Span writes a stretch of time as h and min.
func Span(d time.Duration) string {
	minutes := max(0, int(math.Round(d.Minutes())))
	const day, days = 24 * 60, 3 * 24 * 60 // from three days on nobody counts in hours
	switch hours := minutes % day / 60; {
	case minutes >= days && hours > 0:
		return fmt.Sprintf("%d d %d h", minutes/day, hours)
	case minutes >= days:
		return fmt.Sprintf("%d d", minutes/day)
	}
	if minutes >= 60 {
		return fmt.Sprintf("%d h %02d", minutes/60, minutes%60)
	}
	return fmt.Sprintf("%d min", minutes)
}

// places are how ids of the core are named: tokens, and the wording that takes what stands
// at $.
var places = read[[][2]string](web.Places)

// Place names a surface, junction, corner, fitting or piece from its id.
func (s Speaker) Place(id string) string {
	id = strings.TrimPrefix(id, "band.")
	parts := strings.Split(id, ".")
	for _, named := range places {
		tokens := strings.Split(named[0], ".")
		if len(tokens) != len(parts) {
			continue
		}
		args, fits := map[string]any{}, true
		for i, token := range tokens {
			name, slot := strings.CutPrefix(token, "$")
			switch {
			case !slot && token != parts[i]:
				fits = false
			case slot && name == "n":
				args[name] = parts[i]
			case slot:
				args[name] = strings.ToUpper(parts[i])
			}
		}
		if fits {
			return s.SayWith(named[1], args)
		}
	}
	return id
}

// Option names an answer of a choice.
func (s Speaker) Option(option string) string {
	if _, known := s.sentence("option." + option); known {
		return s.Say("option." + option)
	}
	return option
}

// OptionOf names an answer of a choice as its question words it, else in general.
func (s Speaker) OptionOf(question, option string) string {
	own := "option." + question + "." + option
	if _, known := s.sentence(own); known {
		return s.Say(own)
	}
	return s.Option(option)
}

// Quantity writes a value with its unit, as finely as the unit is worked to.
func (s Speaker) Quantity(value float64, unit string) string {
	if unit == "h" {
		return Span(time.Duration(value * float64(time.Hour)))
	}
	text := s.plain(value)
	if n, known := units.Digits[unit]; known {
		text = s.Fixed(value, n)
	}
	return text + unitAfter(unit)
}

// unitAfter is a unit as it follows its number.
func unitAfter(unit string) string {
	name, known := units.Names[unit]
	if !known {
		name = unit
	}
	if name == "" {
		return ""
	}
	return " " + name
}
