package store

import (
	"bytes"
	"image/jpeg"
	"image/png"
	"regexp"
)

// Media tells what a file is by what is in it, not by what it is called: a picture has to have
// a size, a PDF a version. "" is none of what is kept.
func Media(file []byte) string {
	const widest = 20_000 // px; a larger one would take the memory of who opens it
	switch {
	case bytes.HasPrefix(file, []byte{0xff, 0xd8, 0xff}):
		if c, err := jpeg.DecodeConfig(bytes.NewReader(file)); err == nil && c.Width <= widest && c.Height <= widest {
			return "image/jpeg"
		}
	case bytes.HasPrefix(file, []byte("\x89PNG\r\n\x1a\n")):
		if c, err := png.DecodeConfig(bytes.NewReader(file)); err == nil && c.Width <= widest && c.Height <= widest {
			return "image/png"
		}
	case pdfHead.Match(file[:min(len(file), longestHead)]):
		return "application/pdf"
	}
	return ""
}

const longestHead = 16

var pdfHead = regexp.MustCompile(`^%PDF-[12]\.\d`)
