package ops_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/core/ops/opcases"
)

// vectorGroup is one file of worked cases, computed independently of this code.
type vectorGroup struct {
	Cases []vectorCase `json:"cases"`
}

type vectorCase struct {
	Name string          `json:"name"`
	In   json.RawMessage `json:"in"`
	Out  map[string]any  `json:"out"`
	Tol  tolerance       `json:"tol"`
}

type tolerance struct {
	Rel    float64              `json:"rel"`
	Abs    float64              `json:"abs"`
	Fields map[string]tolerance `json:"fields"`
}

// builtGroups are the groups with rules; a folder that lacks one of them is no test.
func builtGroups() []string {
	groups := map[string]bool{}
	for kind := range opcases.Operations {
		group, _, _ := strings.Cut(kind, "/")
		groups[group] = true
	}
	var names []string
	for name := range groups {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

func vectorFolder() string {
	if folder := os.Getenv("DUSHA_VECTORS"); folder != "" {
		return folder
	}
	return filepath.Join("..", "testdata", "vectors")
}

func readGroups(t *testing.T) map[string]vectorGroup {
	t.Helper()
	files, err := filepath.Glob(filepath.Join(vectorFolder(), "*.json"))
	if err != nil || len(files) == 0 {
		t.Fatalf("no worked cases in %s: %v", vectorFolder(), err)
	}
	groups := map[string]vectorGroup{}
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var g vectorGroup
		if err := json.Unmarshal(text, &g); err != nil {
			t.Fatalf("%s: %v", file, err)
		}
		if len(g.Cases) == 0 {
			t.Fatalf("%s holds no case", file)
		}
		groups[strings.TrimSuffix(filepath.Base(file), ".json")] = g
	}
	for _, built := range builtGroups() {
		if _, is := groups[built]; !is {
			t.Fatalf("%s lacks the group %s", vectorFolder(), built)
		}
	}
	return groups
}

func kindOf(in json.RawMessage) string {
	var k struct{ Kind, Shape, Model string }
	if err := json.Unmarshal(in, &k); err != nil {
		return ""
	}
	return k.Kind + k.Shape + k.Model
}

func TestVectors(t *testing.T) {
	table := opcases.Table()
	for group, g := range readGroups(t) {
		t.Run(group, func(t *testing.T) {
			for _, c := range g.Cases {
				t.Run(c.Name, func(t *testing.T) {
					op, built := opcases.Operations[group+"/"+kindOf(c.In)]
					if !built {
						t.Skipf("no rules for %s/%s yet", group, kindOf(c.In))
					}
					compareCase(t, table, op, c)
				})
			}
		})
	}
}

func compareCase(t *testing.T, table ops.Table, op string, c vectorCase) {
	answer, err := table.Call(op, c.In)
	if key, refused := c.Out["error"].(string); refused {
		compareRefusal(t, err, key, c.Out)
		return
	}
	if err != nil {
		t.Fatalf("%s: %v", op, err)
	}
	var got map[string]any
	if err := json.Unmarshal(answer, &got); err != nil {
		t.Fatal(err)
	}
	for key, want := range c.Out {
		if key == "longest_offcut_mm" && want == nil {
			continue // not asked, or not proven by those who worked it out
		}
		compare(t, key, got[key], want, c.Tol.of(key), c.Tol)
	}
}

// compareRefusal asks for the right kind of fault and, of the edges or pairs listed, any one.
func compareRefusal(t *testing.T, err error, key string, out map[string]any) {
	t.Helper()
	var many fault.Faults
	if !errors.As(err, &many) || !strings.HasSuffix(many[0].Key, key) {
		t.Fatalf("got %v, want a fault %s", err, key)
	}
	var allowed []string
	if pairs, is := out["edge_pairs"].([]any); is {
		for _, pair := range pairs {
			allowed = append(allowed, fmt.Sprint(pair))
		}
	}
	if edges, is := out["edges"].([]any); is {
		for _, edge := range edges {
			allowed = append(allowed, fmt.Sprintf("[%v]", edge))
		}
	}
	if named := fmt.Sprint(many[0].Args["edges"]); len(allowed) > 0 && !slices.Contains(allowed, named) {
		t.Errorf("names edges %s, want one of %v", named, allowed)
	}
}

func (tol tolerance) of(field string) tolerance {
	if own, is := tol.Fields[field]; is {
		return own
	}
	return tolerance{Rel: tol.Rel, Abs: tol.Abs}
}

func compare(t *testing.T, path string, got, want any, tol, all tolerance) {
	t.Helper()
	switch want := want.(type) {
	case float64:
		number, is := got.(float64)
		if !is || math.Abs(number-want) > tol.Abs+tol.Rel*math.Abs(want) {
			t.Errorf("%s: got %v, want %v", path, got, want)
		}
	case []any:
		list, is := got.([]any)
		if !is || len(list) != len(want) {
			t.Errorf("%s: got %v, want %v", path, got, want)
			return
		}
		for i := range want {
			compare(t, fmt.Sprintf("%s[%d]", path, i), list[i], want[i], tol, all)
		}
	case map[string]any:
		object, is := got.(map[string]any)
		if !is {
			t.Errorf("%s: got %v, want %v", path, got, want)
			return
		}
		for key := range want {
			inner := tol
			if own, named := all.Fields[key]; named {
				inner = own
			}
			compare(t, path+"."+key, object[key], want[key], inner, all)
		}
	default:
		if got != want {
			t.Errorf("%s: got %v, want %v", path, got, want)
		}
	}
}
