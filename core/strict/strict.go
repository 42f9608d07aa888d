// Package strict reads JSON so that every reader of it reads the same.
//
// What is accepted into an append-only book stays for ever, and is read by other programs:
// the page's, the database's, whoever opens a bundle. They differ on everything that RFC 8259
// leaves open. So the reader takes only what none of them can take otherwise (I-JSON, RFC
// 7493): valid UTF-8, no half of a surrogate pair, each member once, and its name letter by
// letter. An unknown member, a value of another type or text behind the value is a fault
// that names the field.
package strict

import (
	"bytes"
	"errors"
	"io"
	"math"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"dusha/core/fault"
)

// exactIntegers is where numbers end that every reader keeps as they are, 2^53.
const exactIntegers = 1 << 53

// Decode reads one JSON value. The fault's field is under the given path; "" names the value
// itself "entry".
func Decode(path string, text []byte, into any) error {
	return decode(path, text, into, json.RejectUnknownMembers(true))
}

// DecodeAround reads a value that carries texts of others (json.RawMessage), each of which is
// read by itself later: doubled members and broken characters inside them are not its
// business; it also reads a part of a text that Decode has read as a whole.
func DecodeAround(path string, text []byte, into any) error {
	return decode(path, text, into, json.RejectUnknownMembers(true), jsontext.AllowDuplicateNames(true), jsontext.AllowInvalidUTF8(true))
}

// DecodeKept reads what was kept by a newer or an older program as far as it can be read:
// unknown members are passed over, names may differ in their letters' case, the last of
// doubled ones counts.
func DecodeKept(path string, text []byte, into any) error {
	return decode(path, text, into, json.MatchCaseInsensitiveNames(true), jsontext.AllowDuplicateNames(true), jsontext.AllowInvalidUTF8(true))
}

func decode(path string, text []byte, into any, options ...json.Options) error {
	if err := json.Unmarshal(text, into, options...); err != nil {
		return explain(path, len(text), err)
	}
	return nil
}

// explain turns an error of the JSON library into a fault that names the field.
func explain(path string, length int, err error) error {
	var syntax *jsontext.SyntacticError
	var meaning *json.SemanticError
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		return fault.At(field(path, ""), "json.truncated", "offset", length)
	case errors.As(err, &syntax) && errors.Is(err, jsontext.ErrDuplicateName):
		return fault.At(field(path, named(syntax.JSONPointer)), "json.doubled_field")
	case errors.As(err, &syntax) && strings.Contains(syntax.Err.Error(), "after top-level value"):
		return fault.At(field(path, ""), "json.trailing_text")
	case errors.As(err, &syntax):
		key := "json.broken"
		if said := syntax.Err.Error(); strings.Contains(said, "UTF-8") || strings.Contains(said, "surrogate") {
			key = "json.broken_text"
		}
		return fault.At(field(path, named(syntax.JSONPointer)), key, "offset", syntax.ByteOffset)
	case errors.As(err, &meaning) && errors.Is(err, json.ErrUnknownName):
		return fault.At(field(path, named(meaning.JSONPointer)), "json.unknown_field")
	case errors.As(err, &meaning):
		wanted := ""
		if meaning.GoType != nil {
			wanted = meaning.GoType.Kind().String()
		}
		return fault.At(field(path, named(meaning.JSONPointer)), "json.wrong_type", "found", meaning.JSONKind.String(), "wanted", wanted)
	}
	return fault.Of(err)
}

// named writes a JSON pointer as a field is named on the page: parts by dots, places in lists
// from 1.
func named(pointer jsontext.Pointer) string {
	var parts []string
	for token := range pointer.Tokens() {
		if place, err := strconv.Atoi(token); err == nil && place >= 0 {
			token = strconv.Itoa(place + 1)
		}
		parts = append(parts, fault.Short(token))
	}
	return strings.Join(parts, ".")
}

func field(path, name string) string {
	switch {
	case path == "" && name == "":
		return "entry"
	case path == "":
		return name
	case name == "":
		return path
	}
	return path + "." + name
}

// Numbers refuses numbers of 2^53 and more, which a page would change silently. The text was
// read as JSON before, so only strings have to be told from numbers.
func Numbers(text []byte) error {
	for i := 0; i < len(text); i++ {
		switch c := text[i]; {
		case c == '"':
			for i++; i < len(text) && text[i] != '"'; i++ {
				if text[i] == '\\' {
					i++
				}
			}
		case c == '-' || c >= '0' && c <= '9':
			begin := i
			for i+1 < len(text) && ofNumbers[text[i+1]] {
				i++
			}
			number := text[begin : i+1]
			if len(number) <= surelyExact && !bytes.ContainsAny(number, "eE") {
				continue
			}
			if value, err := strconv.ParseFloat(string(number), 64); err != nil || math.Abs(value) >= exactIntegers {
				return fault.At("entry", "entry.number_too_large", "typed", fault.Short(string(number)))
			}
		}
	}
	return nil
}

// surelyExact is how many characters a number without an exponent may have and be below 2^53.
const surelyExact = 15

var ofNumbers = func() (of [256]bool) {
	for _, c := range []byte("0123456789+-.eE") {
		of[c] = true
	}
	return of
}()
