package units

import "strings"

// scanner reads a text from its start; what was read is gone from rest.
type scanner struct{ rest string }

const blank = " \t\n\f\r"

func (s *scanner) blanks() (some bool) {
	before := len(s.rest)
	s.rest = strings.TrimLeft(s.rest, blank)
	return len(s.rest) < before
}

// one reads the first of the texts that stands next; "" where none does.
func (s *scanner) one(texts ...string) string {
	for _, text := range texts {
		if rest, is := strings.CutPrefix(s.rest, text); is {
			s.rest = rest
			return text
		}
	}
	return ""
}

func (s *scanner) digits() string {
	n := 0
	for n < len(s.rest) && s.rest[n] >= '0' && s.rest[n] <= '9' {
		n++
	}
	digits := s.rest[:n]
	s.rest = s.rest[n:]
	return digits
}

func (s *scanner) sign() string { return s.one("+", "-") }

// decimal reads digits with a point or a comma among or before them; "" where none stand next.
func (s *scanner) decimal() string {
	before := s.rest
	whole := s.digits()
	point := *s
	if s.one(".", ",") == "" || s.digits() == "" {
		*s = point
		if whole == "" {
			return ""
		}
	}
	return before[:len(before)-len(s.rest)]
}

// signed reads a decimal with its sign.
func (s *scanner) signed() string {
	start := *s
	sign := s.sign()
	digits := s.decimal()
	if digits == "" {
		*s = start
		return ""
	}
	return sign + digits
}

// digitsFirst reads a decimal that begins with a digit.
func (s *scanner) digitsFirst() string {
	if strings.HasPrefix(s.rest, ".") || strings.HasPrefix(s.rest, ",") {
		return ""
	}
	return s.decimal()
}

// mark reads one of the texts with the blanks around it.
func (s *scanner) mark(texts ...string) bool {
	s.blanks()
	found := s.one(texts...) != ""
	s.blanks()
	return found
}

// inches reads 10, 10.5, 10 1/2 or 3/4, and nothing after it.
func (s *scanner) inches() (inches float64, is bool) {
	part := *s
	if whole := s.digitsFirst(); whole != "" {
		if inches = decimal(whole); s.ended() {
			return inches, true
		}
		if s.blanks() {
			part = *s
		} else {
			inches = 0
		}
	}
	top, bottom, is := part.fraction()
	if !is || decimal(bottom) == 0 || !part.ended() {
		return 0, false
	}
	return inches + decimal(top)/decimal(bottom), true
}

// fraction reads 3/4.
func (s *scanner) fraction() (top, bottom string, is bool) {
	if top = s.digits(); top == "" || s.one("/") == "" {
		return "", "", false
	}
	bottom = s.digits()
	return top, bottom, bottom != ""
}

func (s *scanner) ended() bool { return s.rest == "" }

func isNumber(text string) bool {
	s := scanner{text}
	return s.signed() != "" && s.ended()
}

// isGrouped tells digits in threes with blanks between, plain or of print.
func isGrouped(text string) bool {
	s := scanner{text}
	s.sign()
	if n := len(s.digits()); n < 1 || n > 3 {
		return false
	}
	groups := 0
	for ; s.one(" ", "\u00a0", "\u2009", "\u202f") != ""; groups++ {
		if len(s.digits()) != 3 {
			return false
		}
	}
	if s.one(".", ",") != "" && s.digits() == "" {
		return false
	}
	return groups > 0 && s.ended()
}

// metresAnd reads 2m90.
func metresAnd(text string) (metres, rest string, is bool) {
	s := scanner{text}
	metres = s.digits()
	s.blanks()
	between := s.one("m")
	s.blanks()
	rest = s.digits()
	return metres, rest, metres != "" && between != "" && (len(rest) == 2 || len(rest) == 3) && s.ended()
}

// threeAfter gives the mark of 1,500 or 1.500, which may stand for thousands; "" of any other number.
func threeAfter(text string) string {
	s := scanner{text}
	s.sign()
	whole := s.digits()
	mark := s.one(".", ",")
	if len(whole) < 1 || len(whole) > 3 || whole[0] == '0' || len(s.digits()) != 3 || !s.ended() {
		return ""
	}
	return mark
}

// cutUnit parts a number from the first of the units that ends the text.
func cutUnit(text string, units ...string) (number, unit string) {
	for _, unit := range units {
		if number, is := strings.CutSuffix(text, unit); is {
			return strings.TrimRight(number, blank), unit
		}
	}
	return text, ""
}
