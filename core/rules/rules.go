// Package rules holds local-rules profiles: the limits that belong to a place and not to
// a product. Each number has a source line; the shipped profile is generic and says so.
package rules

import (
	_ "embed"
	"encoding/json"
	"fmt"

	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/sheet"
)

// Profile is a named set of limits. A plan embeds the profile it used.
type Profile struct {
	ID      string                `json:"id"`
	Name    string                `json:"name"`
	Note    string                `json:"note"`
	Numbers map[string]sheet.Said `json:"numbers"`
}

// Textures are the surface profiles a base may have, smooth to open; the profile's number
// "texture_<name>" is the mean texture depth R in mm.
var Textures = []string{"smooth", "fine", "rough", "open"}

// Number gives a figure of the profile.
func (p Profile) Number(name string) (figure.Figure, error) {
	said, ok := p.Numbers[name]
	if !ok {
		return figure.Figure{}, fault.At("rules."+name, "rules.not_stated", "number", name, "profile", p.Name)
	}
	return figure.Read("rules."+name, said.Value, said.Unit, figure.Source{Kind: "rules", Ref: p.ID, Says: said.Says}), nil
}

// Limit gives a figure of the profile, or the generic one where an older profile has none.
func (p Profile) Limit(name string) figure.Figure {
	if own, err := p.Number(name); err == nil {
		return own
	}
	own, err := Generic().Number(name)
	if err != nil {
		panic(err) // a name that the program asks for and does not ship
	}
	return own
}

//go:embed profiles/generic.json
var generic []byte

// Generic is the profile that ships.
func Generic() Profile {
	var p Profile
	if err := json.Unmarshal(generic, &p); err != nil {
		panic(fmt.Errorf("generic profile: %w", err)) // the file is part of the program
	}
	return p
}
