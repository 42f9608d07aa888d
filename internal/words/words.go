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
	"time"

	"dusha/web"
)

var catalogue = read[map[string]string](web.Words)

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

// Speaker says things at the local time of a job.
type Speaker struct{ Zone *time.Location }

var slot = regexp.MustCompile(`\{(\w+)(?::(\w+))?\}`)

// Say writes the sentence of a key with its values; args are pairs of name and value. A key
// without a sentence is said in brackets, so that it is seen.
func (s Speaker) Say(key string, args ...any) string {
	return s.SayWith(key, pairs(args))
}

// SayWith is Say with the values by name.
func (s Speaker) SayWith(key string, args map[string]any) string {
	sentence, known := catalogue[key]
	if one, is := catalogue[key+".one"]; is && args["n"] != nil && number(args["n"]) == 1 {
		sentence = one // of one thing
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
			return plain(v)
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

// number reads a value as the page would.
func number(value any) float64 {
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

// fixed writes a number with so many decimals, halves of its shortest decimal writing away
// from zero, as the page's number formatter does.
func fixed(v float64, digits int) string {
	exact, ok := new(big.Rat).SetString(strconv.FormatFloat(v, 'f', -1, 64))
	if !ok { // not a number
		return "–"
	}
	text := exact.FloatString(digits)
	if strings.Trim(text, "-0.") == "" {
		text = strings.TrimPrefix(text, "-")
	}
	return text
}

// plain writes a number with three decimals at most.
func plain(v float64) string {
	text := fixed(v, 3)
	if strings.Contains(text, ".") {
		text = strings.TrimRight(strings.TrimRight(text, "0"), ".")
	}
	return text
}

// write writes a value in one of the catalogue's formats.
func (s Speaker) write(value any, format string) string {
	switch format {
	case "length":
		return fixed(number(value)/1000, 2) + " m"
	case "m":
		return fixed(number(value)/1000, 2)
	case "mm":
		return plain(number(value)) + " mm"
	case "film":
		return fixed(number(value), 1)
	case "film2", "load":
		return fixed(number(value), 2)
	case "kg":
		return fixed(number(value), 2) + " kg"
	case "kg1":
		return fixed(number(value), 1) + " kg"
	case "area":
		return fixed(number(value), 2) + " m²"
	case "number":
		return plain(number(value))
	case "temp":
		return plain(number(value)) + " °C"
	case "whole":
		return fixed(number(value), 0)
	case "rate":
		return fixed(number(value), 3)
	case "hours":
		return Span(time.Duration(number(value) * float64(time.Hour)))
	case "clock":
		return s.Moment(fmt.Sprint(value))
	case "hhmm":
		return s.at(fmt.Sprint(value), "15:04")
	case "weekday":
		return s.at(fmt.Sprint(value), "Mon")
	case "place":
		return s.Place(fmt.Sprint(value))
	case "option":
		return s.Option(fmt.Sprint(value))
	case "cut_state":
		return s.Say("cut_state." + fmt.Sprint(value))
	case "product":
		return s.Say("product." + fmt.Sprint(value))
	case "money":
		return Money(int(number(value)))
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
		return list(value)
	}
	return "[" + format + "]"
}

// Money writes an amount that is kept in cents, thousands parted by commas as the page does.
func Money(cents int) string {
	sign := ""
	if cents < 0 {
		sign, cents = "-", -cents
	}
	whole := strconv.Itoa(cents / 100)
	for i := len(whole) - 3; i > 0; i -= 3 {
		whole = whole[:i] + "," + whole[i:]
	}
	return fmt.Sprintf("%s%s.%02d", sign, whole, cents%100)
}

func list(value any) string {
	switch items := value.(type) {
	case []string:
		return strings.Join(items, ", ")
	case []any:
		texts := make([]string, len(items))
		for i, item := range items {
			texts[i] = fmt.Sprint(item)
		}
		return strings.Join(texts, ", ")
	}
	return fmt.Sprint(value)
}

func (s Speaker) at(stamp, layout string) string {
	at, err := time.Parse(time.RFC3339, stamp)
	if err != nil {
		return stamp
	}
	return at.In(s.Zone).Format(layout)
}

// Moment writes a time with its date: a document is read on another day.
func (s Speaker) Moment(stamp string) string { return s.at(stamp, "2 Jan 2006, 15:04") }

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
	if _, known := catalogue["option."+option]; known {
		return s.Say("option." + option)
	}
	return option
}

// Quantity writes a value with its unit, as finely as the unit is worked to.
func (s Speaker) Quantity(value float64, unit string) string {
	if unit == "h" {
		return Span(time.Duration(value * float64(time.Hour)))
	}
	text := plain(value)
	if n, known := units.Digits[unit]; known {
		text = fixed(value, n)
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
