package sheet

import (
	"bytes"
	"encoding/csv"
	"errors"
	"maps"
	"slices"
	"strconv"
	"strings"

	"dusha/core/ask"
	"dusha/core/fault"

	json1 "github.com/go-json-experiment/json/v1"
)

// Library is how sheets are exchanged as JSON.
type Library struct {
	Format  string  `json:"format"`  // LibraryFormat
	Version int     `json:"version"` // LibraryVersion
	Sheets  []Sheet `json:"sheets"`
}

// LibraryFormat names the format in its file.
const LibraryFormat = "dusha.sheets"

// LibraryVersion is that of the format: since 2 a sheet says nothing of systems.
const LibraryVersion = 2

const mostLibrary = 5 << 20 // bytes of a file of sheets

// csvHead are the columns of sheets as CSV: a figure a line, as it is printed. "like" is the sheet
// whose parts it takes over.
var csvHead = []string{"id", "like", "name", "revision", "field", "printed"}

// Import reads sheets from JSON or CSV and refuses the whole file by its first fault, which names
// the sheet and the figure. A sheet that the library has word for word is passed over; another
// one under the same id is refused.
func Import(format, text string, known []Sheet) ([]Sheet, error) {
	if len(text) > mostLibrary {
		return nil, fault.At("file", "sheet.file_too_large", "value", len(text)>>20, "most", mostLibrary>>20)
	}
	read := map[string]func(string) ([]Sheet, error){"json": fromJSON, "csv": fromCSV}[format]
	if read == nil {
		return nil, fault.At("format", "choice.unknown", "typed", format)
	}
	sheets, err := read(text)
	if err != nil {
		return nil, err
	}
	return fresh(sheets, known)
}

// fresh checks the sheets of a file beside each other and beside the library.
func fresh(sheets, known []Sheet) ([]Sheet, error) {
	list := []Sheet{}
	seen := map[string]bool{}
	for i, s := range sheets {
		path := "sheets." + strconv.Itoa(i+1)
		if err := s.Check(path); err != nil {
			return nil, err
		}
		if seen[s.ID] {
			return nil, fault.At(path+".id", "sheet.id_twice", "id", s.ID)
		}
		seen[s.ID] = true
		if at := slices.IndexFunc(known, func(k Sheet) bool { return k.ID == s.ID }); at >= 0 {
			if !Same(s, known[at]) {
				return nil, fault.At(path+".id", "sheet.id_in_library", "id", s.ID, "name", known[at].Name)
			}
			continue
		}
		list = append(list, s)
	}
	return list, nil
}

// DecodeFile reads a file of the exchange; what it cannot be read for is named by its line, an unknown field too.
func DecodeFile(text string, into any) error {
	decoder := json1.NewDecoder(strings.NewReader(text))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(into); err != nil {
		line := 1
		if offset := decoder.InputOffset(); offset > 0 && int(offset) <= len(text) {
			line += strings.Count(text[:offset], "\n")
		}
		return fault.At("file", "sheet.file_unreadable", "line", line)
	}
	return nil
}

// Same tells whether two things are written alike.
func Same(one, other any) bool {
	a, errA := json1.Marshal(one)
	b, errB := json1.Marshal(other)
	return errA == nil && errB == nil && bytes.Equal(a, b)
}

func fromJSON(text string) ([]Sheet, error) {
	var library Library
	var head struct {
		Format  string `json:"format"`
		Version int    `json:"version"`
	}
	if err := json1.Unmarshal([]byte(text), &head); err == nil && head.Format == LibraryFormat && head.Version < LibraryVersion {
		return nil, fault.At("file", "sheet.file_older", "version", head.Version)
	}
	if err := DecodeFile(text, &library); err != nil {
		return nil, err
	}
	if err := OfFormat(library.Format, library.Version, LibraryFormat, LibraryVersion); err != nil {
		return nil, err
	}
	return library.Sheets, nil
}

// OfFormat refuses a file of another format, or of another version of it, by name.
func OfFormat(format string, version int, want string, reads int) error {
	switch {
	case format != want:
		return fault.At("file", "sheet.file_other_format", "typed", fault.Short(format))
	case version != reads:
		return fault.At("file", "sheet.file_other_version", "version", version, "reads", reads)
	}
	return nil
}

func fromCSV(text string) ([]Sheet, error) {
	reader := csv.NewReader(strings.NewReader(strings.TrimPrefix(text, "\ufeff")))
	rows, err := reader.ReadAll()
	var bad *csv.ParseError
	switch {
	case errors.As(err, &bad):
		return nil, fault.At("file", "sheet.file_unreadable", "line", bad.Line)
	case err != nil || len(rows) == 0 || !slices.Equal(rows[0], csvHead):
		return nil, fault.At("file", "sheet.file_columns", "want", strings.Join(csvHead, ", "))
	}
	var order []string
	typed, like := map[string]map[string]string{}, map[string]string{}
	for _, row := range rows[1:] {
		id := row[0]
		if typed[id] == nil {
			order = append(order, id)
			typed[id], like[id] = map[string]string{"name": row[2], "revision": row[3]}, row[1]
		}
		typed[id][row[4]] = row[5]
	}
	var sheets []Sheet
	for i, id := range order {
		form, known := Sample(like[id])
		if !known {
			return nil, fault.At("sheets."+strconv.Itoa(i+1)+".like", "sheet.unknown", "typed", like[id])
		}
		all := Sheet{Role: form.Role, Chemistry: form.Chemistry, Parts: form.Parts}.Typed()
		maps.Copy(all, typed[id])
		asked, own := Ask(form, id, all)
		if own == nil {
			f := asked.Faults()[0]
			return nil, &fault.Fault{Field: "sheets." + strconv.Itoa(i+1) + "." + f.Field, Key: f.Key, Args: f.Args}
		}
		if own.Sample = like[id] == id; own.Sample {
			own.CopiedFrom, own.Product = "", ""
		}
		sheets = append(sheets, *own)
	}
	return sheets, nil
}

// Export writes sheets as JSON, or as CSV a figure a line.
func Export(format string, sheets []Sheet) (string, error) {
	var out strings.Builder
	switch format {
	case "json":
		encoder := json1.NewEncoder(&out)
		encoder.SetIndent("", " ")
		encoder.SetEscapeHTML(false)
		err := encoder.Encode(Library{Format: LibraryFormat, Version: LibraryVersion, Sheets: sheets})
		return out.String(), err
	case "csv":
		writer := csv.NewWriter(&out)
		rows := [][]string{csvHead}
		for _, s := range sheets {
			rows = append(rows, s.rows()...)
		}
		err := writer.WriteAll(rows)
		return out.String(), err
	}
	return "", fault.At("format", "choice.unknown", "typed", format)
}

// rows are a sheet as lines of CSV, what is not stated left out.
func (s Sheet) rows() [][]string {
	like := s.CopiedFrom
	if s.Sample {
		like = s.ID
	}
	typed := s.Typed()
	var rows [][]string
	for _, field := range slices.Sorted(maps.Keys(typed)) {
		if text := typed[field]; text != "" && text != ask.NotStated && field != "name" && field != "revision" {
			rows = append(rows, []string{s.ID, like, s.Name, s.Revision, field, text})
		}
	}
	if len(rows) == 0 {
		rows = append(rows, []string{s.ID, like, s.Name, s.Revision, "language", s.Language})
	}
	return rows
}
