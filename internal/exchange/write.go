package exchange

import (
	"bufio"
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"regexp"
	"slices"

	"github.com/google/uuid"

	"dusha/internal/store"
)

// Source is where a job is read from.
type Source interface {
	QuarantineOf(ctx context.Context, job uuid.UUID) ([]store.Quarantined, error)
	Each(ctx context.Context, job uuid.UUID, work func(store.Kept) error) error
	Names(ctx context.Context) (map[string]string, error)
	Signers(ctx context.Context) ([]store.Signer, error)
	EachPhoto(ctx context.Context, job uuid.UUID, work func(id string, file []byte) error) error
}

// anyID finds what may be a person's id in an entry.
var anyID = regexp.MustCompile(`[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}`)

// Write writes the bundle of a job, one entry a line, so that it can be read and compared. It
// holds one entry or photo at a time. Names are those of the people who appear in it.
func Write(ctx context.Context, to io.Writer, job uuid.UUID, from Source) error {
	names, err := from.Names(ctx)
	if err != nil {
		return err
	}
	set, err := from.QuarantineOf(ctx, job)
	if err != nil {
		return err
	}
	aside := make([]Aside, len(set))
	for i, q := range set {
		aside[i] = Aside{q.Seq, q.Why, q.At.UTC()}
	}
	w := newWriter(to, job.String())
	signers, err := from.Signers(ctx)
	if err != nil {
		return err
	}
	seen, signed := map[string]string{}, map[string]bool{}
	w.aside(aside)
	w.list("entries", "[", "]", func() error {
		return from.Each(ctx, job, func(k store.Kept) error {
			for _, id := range anyID.FindAll(k.Bytes, -1) {
				if name := names[string(id)]; name != "" {
					seen[string(id)] = name
				}
				signed[string(id)] = true
			}
			return w.line(lineOf(k))
		})
	})
	w.people(seen)
	var list []Signer
	for _, d := range signers {
		if signed[d.ID.String()] {
			list = append(list, signerOf(d))
		}
	}
	w.signers(list)
	w.photos(func() error { return from.EachPhoto(ctx, job, w.photo) })
	return w.end(w.sum.String())
}

// writer writes a bundle in the layout it has, an item at a time; the first error stays.
type writer struct {
	to    *bufio.Writer
	sum   sum
	count int // items of the list under way
	err   error
}

func newWriter(to io.Writer, job string) *writer {
	w := &writer{to: bufio.NewWriterSize(to, 1<<16), sum: newSum(job)}
	w.say("{\n \"format\": %s,\n \"version\": %d,\n \"job\": %s,\n", quoted(Format), Version, quoted(job))
	return w
}

func (w *writer) say(format string, args ...any) {
	if w.err == nil {
		_, w.err = fmt.Fprintf(w.to, format, args...)
	}
}

func (w *writer) note(err error) {
	if w.err == nil {
		w.err = err
	}
}

func (w *writer) list(name, open, shut string, items func() error) {
	w.count = 0
	w.say(" %q: %s", name, open)
	w.note(items())
	if w.count > 0 {
		w.say("\n ")
	}
	w.say("%s,\n", shut)
}

// aside is left out where there is nothing.
func (w *writer) aside(list []Aside) {
	if len(list) == 0 {
		return
	}
	w.list("quarantine", "[", "]", func() error {
		for _, a := range list {
			w.item(a)
			w.sum.aside(a)
		}
		return nil
	})
}

func (w *writer) line(line Line) error {
	w.item(line)
	w.sum.line(line)
	return w.err
}

func (w *writer) people(names map[string]string) {
	w.list("people", "{", "}", func() error {
		for _, id := range slices.Sorted(maps.Keys(names)) {
			w.comma()
			w.say("\n  %s: %s", quoted(id), quoted(names[id]))
			w.sum.person(id, names[id])
		}
		return nil
	})
}

// signers are left out where there are none.
func (w *writer) signers(list []Signer) {
	if len(list) == 0 {
		return
	}
	w.list("devices", "[", "]", func() error {
		for _, s := range list {
			w.item(s)
			w.sum.signer(s)
		}
		return nil
	})
}

// photos are left out where there are none.
func (w *writer) photos(each func() error) {
	w.count = 0
	w.note(each())
	if w.count > 0 {
		w.say("\n },\n")
	}
}

func (w *writer) photo(id string, file []byte) error {
	if w.count == 0 {
		w.say(" \"photos\": {")
	}
	w.comma()
	w.say("\n  %s: \"", quoted(id))
	encoder := base64.NewEncoder(base64.StdEncoding, w.to)
	_, err := encoder.Write(file)
	w.note(errors.Join(err, encoder.Close()))
	w.say("\"")
	w.sum.photo(id, file)
	return w.err
}

func (w *writer) end(sum string) error {
	w.say(" \"sum\": %s\n}\n", quoted(sum))
	w.note(w.to.Flush())
	return w.err
}

func (w *writer) comma() {
	if w.count > 0 {
		w.say(",")
	}
	w.count++
}

func (w *writer) item(value any) {
	w.comma()
	var text bytes.Buffer
	encoder := json.NewEncoder(&text)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("  ", " ")
	w.note(encoder.Encode(value))
	w.say("\n  %s", bytes.TrimRight(text.Bytes(), "\n"))
}

func quoted(text string) string {
	var b bytes.Buffer
	encoder := json.NewEncoder(&b)
	encoder.SetEscapeHTML(false)
	_ = encoder.Encode(text) // a text always is
	return string(bytes.TrimRight(b.Bytes(), "\n"))
}
