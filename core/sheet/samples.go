package sheet

import (
	"embed"
	"fmt"
	"maps"
	"slices"
	"sync"

	json1 "github.com/go-json-experiment/json/v1"
)

//go:embed samples/*.json
var samples embed.FS

// sampleFile is how sheets that ship are written: their figures as a sheet prints them, read by the
// form that reads everyone's.
type sampleFile struct {
	Sheet
	Typed map[string]string `json:"typed"` // what is left out is not stated
}

// shipped is a sheet that ships, read when it is asked for: a form takes its time, and few are needed.
type shipped struct {
	file sampleFile
	read func() Sheet
}

var allShipped = sync.OnceValue(func() []shipped {
	var list []shipped
	for _, name := range []string{"membranes", "components", "schools"} {
		var files []sampleFile
		readFile(name, &files)
		for _, file := range files {
			list = append(list, shipped{file, sync.OnceValue(func() Sheet { return file.read() })})
		}
	}
	return list
})

// Samples are the sheets that ship, each marked as a sample.
func Samples() []Sheet {
	var list []Sheet
	for _, each := range allShipped() {
		list = append(list, each.read())
	}
	return list
}

// read fills the form of the sheet with what is typed and leaves the rest as not stated.
func (f sampleFile) read() Sheet {
	typed := f.Sheet.Typed()
	maps.Copy(typed, f.Typed)
	typed["name"] = f.Name
	form, s := Ask(f.Sheet, f.ID, typed)
	if s == nil {
		panic(fmt.Errorf("sample sheet %s: %w", f.ID, form.Faults()))
	}
	s.Sample, s.CopiedFrom, s.Product, s.Replaces = true, "", "", ""
	return *s
}

func readFile(name string, into any) {
	text, err := samples.ReadFile("samples/" + name + ".json")
	must(err)
	if err := json1.Unmarshal(text, into); err != nil {
		panic(fmt.Errorf("sample sheets, %s: %w", name, err))
	}
}

// must stops the program where a file that ships with it cannot be read.
func must(err error) {
	if err != nil {
		panic(err)
	}
}

// Invented tells whether a sheet's figures are those of a sample, whatever it says of itself: marked as
// one, under a sample's id, or with a sample's figures typed back. Figures that a person read off a
// pack differ from an invention somewhere.
func (s Sheet) Invented() bool {
	if s.Sample {
		return true
	}
	for _, each := range allShipped() {
		form := each.file.Sheet
		if s.ID == form.ID {
			return true
		}
		if s.CopiedFrom != form.ID && (s.Is() != form.Is() || s.Chemistry != form.Chemistry) {
			continue
		}
		sample := each.read()
		same, both := 0, 0
		for name, said := range s.Numbers {
			if theirs, is := sample.Numbers[name]; is {
				both++
				low, high := said.Ends()
				if otherLow, otherHigh := theirs.Ends(); low == otherLow && high == otherHigh {
					same++
				}
			}
		}
		const few, many, most = 4, 8, 0.8
		if both >= many && float64(same) >= most*float64(both) || both >= few && both < many && same == both && len(s.Numbers) == both {
			return true
		}
	}
	return false
}

// Sample finds a shipped sheet by id.
func Sample(id string) (Sheet, bool) {
	all := allShipped()
	i := slices.IndexFunc(all, func(each shipped) bool { return each.file.ID == id })
	if i < 0 {
		return Sheet{}, false
	}
	return all[i].read(), true
}
