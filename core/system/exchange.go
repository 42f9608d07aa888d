package system

import (
	"strconv"

	json1 "github.com/go-json-experiment/json/v1"

	"dusha/core/fault"
	"dusha/core/sheet"
)

// Library is how systems are exchanged as JSON.
type Library struct {
	Format  string   `json:"format"`  // LibraryFormat
	Version int      `json:"version"` // LibraryVersion
	Systems []System `json:"systems"`
}

// LibraryFormat names the format in its file, LibraryVersion its version.
const (
	LibraryFormat  = "dusha.systems"
	LibraryVersion = 1
	mostLibrary    = 5 << 20 // bytes of a file
)

// Export writes systems as JSON.
func Export(systems []System) (string, error) {
	text, err := json1.MarshalIndent(Library{LibraryFormat, LibraryVersion, systems}, "", " ")
	return string(text) + "\n", err
}

// Import reads systems from a file: all of them, or none where one cannot be built. known are those of the library,
// which are not taken over once more; of two with one id and another content none is.
func Import(text string, known []System) ([]System, error) {
	if len(text) > mostLibrary {
		return nil, fault.At("file", "sheet.file_too_large", "most", mostLibrary)
	}
	var library Library
	if err := sheet.DecodeFile(text, &library); err != nil {
		return nil, err
	}
	if err := sheet.OfFormat(library.Format, library.Version, LibraryFormat, LibraryVersion); err != nil {
		return nil, err
	}
	var list []System
	seen := map[string]bool{}
	for i, s := range library.Systems {
		path := "systems." + strconv.Itoa(i+1) + "."
		if err := s.Check(); err != nil {
			f := *fault.Of(err)[0]
			f.Field = path + f.Field
			return nil, &f
		}
		if seen[s.ID] {
			return nil, fault.At(path+"id", "sheet.id_twice", "id", s.ID)
		}
		seen[s.ID] = true
		there := false
		for _, k := range known {
			if k.ID != s.ID {
				continue
			}
			if there = sheet.Same(k, s); !there {
				return nil, fault.At(path+"id", "sheet.id_in_library", "id", s.ID, "name", k.Name)
			}
		}
		if !there {
			list = append(list, s)
		}
	}
	return list, nil
}
