package web

import "embed"

// Words are the page's words, by key, Units its names of units and how finely each is
// written, and Places how ids are named, all as JSON: documents say things as the page does.
var (
	//go:embed src/words/en.json
	Words []byte
	//go:embed src/words/units.json
	Units []byte
	//go:embed src/words/places.json
	Places []byte

	//go:embed public/languages
	languages embed.FS
)

// Language is a language's file by its name, "index" what is shipped; nil of one that is not.
func Language(name string) []byte {
	text, _ := languages.ReadFile("public/languages/" + name + ".json")
	return text
}
