//go:build !page

// Package web carries the built page inside the program; without the build tag "page" it
// carries none.
package web

import "io/fs"

// Page is nil: this program was built without its page.
func Page() fs.FS { return nil }
