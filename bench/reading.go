package main

import (
	"encoding/json"
	"fmt"
	"reflect"

	"dusha/core/logbook"
	"dusha/demo"
)

// reading compares the strict reader with plain decoding of the same entries into the same
// types, nothing checked.
func reading() error {
	const count = 10_000
	made, err := demo.Make(now, 7)
	if err != nil {
		return err
	}
	texts := make([][]byte, count)
	for i := range texts {
		texts[i] = made.Entries[i%len(made.Entries)]
	}
	strictly := timed("read strictly", func() error {
		for _, text := range texts {
			if _, err := logbook.Parse(text); err != nil {
				return err
			}
		}
		return nil
	})
	return compare(fmt.Sprintf("Reading %d entries of every kind (limit: 1.5 times)", count), strictly, decodedPlainly(texts))
}

// decodedPlainly reads texts into the types of their entries, nothing checked.
func decodedPlainly(texts [][]byte) side {
	bodies := logbook.Bodies()
	return timed("decoded plainly", func() error {
		for _, text := range texts {
			var e logbook.Entry
			if err := json.Unmarshal(text, &e); err != nil {
				return err
			}
			if err := json.Unmarshal(e.Body, reflect.New(bodies[e.Kind]).Interface()); err != nil {
				return err
			}
		}
		return nil
	})
}
