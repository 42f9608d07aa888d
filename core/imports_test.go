package core_test

import (
	"encoding/json"
	"errors"
	"io"
	"os/exec"
	"slices"
	"strings"
	"testing"
)

// mayImport is who may know whom in the core, from the bottom up: a package names those under it.
var mayImport = map[string]string{
	"fault": "", "figure": "", "order": "", "substrate": "",
	"climate": "fault", "film": "fault", "pressure": "fault", "strict": "fault",
	"cure": "climate fault", "schedule": "fault order", "units": "climate fault",
	"ask": "fault units", "mixing": "cure fault",
	"sheet":   "ask climate cure fault figure mixing order substrate units",
	"system":  "fault sheet",
	"rules":   "ask fault figure sheet",
	"wetarea": "ask fault order pressure substrate units",
	"gates":   "fault pressure rules substrate wetarea",
	"cutting": "fault order wetarea", "watertest": "ask fault rules wetarea",
	"takeoff": "ask cutting fault figure order pressure rules sheet system wetarea",
	"choice":  "ask fault figure order pressure rules sheet system takeoff wetarea",
	"logbook": "ask climate cure cutting fault figure film gates mixing order rules sheet strict system takeoff units watertest wetarea",
	"site":    "ask choice fault figure film logbook order rules schedule sheet system takeoff wetarea",
	"ops":     "ask choice cutting fault figure film gates logbook rules schedule sheet site strict system takeoff units watertest wetarea",

	// for tests alone
	"cutting/everyway": "cutting", "schedule/scheduletest": "schedule",
	"ops/opcases": "climate cure cutting fault film mixing ops pressure sheet system takeoff watertest wetarea", "wetarea/wetareatest": "wetarea", "system/systemtest": "rules sheet system",
}

// outside are what the core takes from elsewhere, and nothing under them: what is sent to the page is
// made of it. No interface, no network, no linear algebra.
var outside = []string{
	"github.com/go-json-experiment/json", "gonum.org/v1/gonum/mathext",
}

// heavy are packages of the standard library that bring tables along: the page would carry them.
var heavy = []string{"regexp", "text/template", "net", "net/http", "math/big", "go/token"}

type listed struct {
	ImportPath string
	Standard   bool
	Imports    []string
}

// list gives packages as the go command does.
func list(t *testing.T, args ...string) (all []listed) {
	t.Helper()
	cmd := exec.Command("go", append([]string{"list", "-json=ImportPath,Standard,Imports"}, args...)...)
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	decoder := json.NewDecoder(strings.NewReader(string(out)))
	for {
		var p listed
		if err := decoder.Decode(&p); errors.Is(err, io.EOF) {
			return all
		} else if err != nil {
			t.Fatal(err)
		}
		all = append(all, p)
	}
}

func TestWhoMayImportWhom(t *testing.T) {
	seen := 0
	for _, p := range list(t, "./...") {
		name := strings.TrimPrefix(p.ImportPath, "dusha/core/")
		if p.ImportPath == "dusha/core" {
			continue // this test
		}
		may, known := mayImport[name]
		if !known {
			t.Errorf("core/%s has no place: say whom it may import", name)
			continue
		}
		seen++
		var uses []string
		for _, i := range p.Imports {
			if of, inside := strings.CutPrefix(i, "dusha/core/"); inside {
				uses = append(uses, of)
			} else if strings.HasPrefix(i, "dusha/") {
				t.Errorf("core/%s imports %s", name, i)
			}
		}
		slices.Sort(uses)
		if got := strings.Join(uses, " "); got != may {
			t.Errorf("core/%s imports %q, and may %q", name, got, may)
		}
	}
	if seen != len(mayImport) {
		t.Errorf("%d packages of %d that are named", seen, len(mayImport))
	}
	for _, p := range list(t, "-deps", "./ops") {
		own := p.Standard || strings.HasPrefix(p.ImportPath, "dusha/core/")
		if !own && !slices.ContainsFunc(outside, func(o string) bool { return p.ImportPath == o || strings.HasPrefix(p.ImportPath, o+"/") }) {
			t.Errorf("the core takes in %s", p.ImportPath)
		}
		if slices.Contains(heavy, p.ImportPath) {
			t.Errorf("the page would carry %s", p.ImportPath)
		}
	}
}
