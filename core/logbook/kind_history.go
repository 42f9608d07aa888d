package logbook

import (
	"slices"

	"dusha/core/fault"
)

const KindHistory Kind = "history"

// History is why the work is done here. It leads the dossier.
type History struct {
	Answers map[string]string `json:"answers"`        // one line for each of HistoryLines that is known
	Path    []Spot            `json:"path,omitempty"` // from where water enters to where it shows
	Photos  []Photo           `json:"photos,omitempty"`
}

// Photo names a picture that is kept beside the book.
type Photo struct {
	ID   string `json:"id"`
	Hash string `json:"sha256"` // of its bytes, hex
}

// Spot is a place on a surface.
type Spot struct {
	Surface string  `json:"surface"`
	Along   float64 `json:"along_mm"`
	Up      float64 `json:"up_mm"`
}

// HistoryLines are what is asked about an area's past, in order.
var HistoryLines = []string{"complaint", "history", "behind", "above", "below", "enters", "shows", "failed", "blocked", "removable"}

func (b History) check() error {
	for key, text := range b.Answers {
		if !slices.Contains(HistoryLines, key) {
			return fault.At("body.answers", "choice.unknown", "typed", fault.Short(key))
		}
		if err := line("body.answers."+key, text, false); err != nil {
			return err
		}
	}
	if len(b.Path) > mostList {
		return fault.At("body.path", "list.too_long", "most", mostList)
	}
	for _, spot := range b.Path {
		if err := place("body.path", spot.Surface, spot.Along, spot.Up); err != nil {
			return err
		}
	}
	return photos("body.photos", b.Photos)
}

// photos refuses a list of photos that name none.
func photos(field string, list []Photo) error {
	if len(list) > mostList {
		return fault.At(field, "list.too_long", "most", mostList)
	}
	for _, photo := range list {
		if err := id(field, photo.ID); err != nil {
			return err
		}
		if !isDigest(photo.Hash) {
			return fault.At(field, "photo.no_hash")
		}
	}
	return nil
}

// isDigest tells SHA-256 in hex, in small letters.
func isDigest(text string) bool {
	return len(text) == 64 && only(text, "0123456789abcdef")
}

func (b History) apply(a *Area, _ settled) { a.History = &b }

func (b History) under(a *Area) (string, bool) { return a.firstStep(), true }

func (History) still() {}
