package web

import _ "embed"

// Words are the page's words, by key, as JSON: documents say things as the page does.
//
//go:embed src/words/en.json
var Words []byte
