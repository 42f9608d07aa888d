package main_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"math"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dusha/core/ops/opcases"
	"dusha/demo"
	"dusha/draw"
	"dusha/internal/api"
)

var (
	binary string // the program under test
	wasm   string // the same core for the page
)

func TestMain(m *testing.M) { os.Exit(run(m)) }

func run(m *testing.M) int {
	folder, err := os.MkdirTemp("", "dusha-cmd")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer os.RemoveAll(folder)
	binary, wasm = filepath.Join(folder, "dusha"), filepath.Join(folder, "core.wasm")
	for _, build := range []struct {
		env  []string
		args []string
	}{
		{nil, []string{"build", "-o", binary, "."}},
		{[]string{"GOOS=js", "GOARCH=wasm"}, []string{"build", "-o", wasm, "../dusha-wasm"}},
	} {
		cmd := exec.Command("go", build.args...)
		cmd.Env = append(os.Environ(), build.env...)
		if out, err := cmd.CombinedOutput(); err != nil {
			fmt.Fprintf(os.Stderr, "%v\n%s", err, out)
			return 1
		}
	}
	return m.Run()
}

type call struct {
	name, op string
	in       json.RawMessage
}

// calls are all worked cases through the operation that owns them, and the hostel through
// the operations of the page, good input and bad.
func calls(t *testing.T) []call {
	t.Helper()
	files, err := filepath.Glob("../../core/testdata/vectors/*.json")
	if err != nil || len(files) == 0 {
		t.Fatalf("no worked cases: %v", err)
	}
	var list []call
	table := draw.Table()
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var group struct {
			Cases []struct {
				Name string
				In   json.RawMessage
			}
		}
		if err := json.Unmarshal(text, &group); err != nil {
			t.Fatal(err)
		}
		for _, c := range group.Cases {
			for _, op := range table.Names() {
				if strings.Contains(op, ".") && ownsKind(op, file, c.In) {
					list = append(list, call{filepath.Base(file) + "/" + c.Name, op, c.In})
				}
			}
		}
	}
	return append(list, pageCalls(t)...)
}

func ownsKind(op, file string, in json.RawMessage) bool {
	var k struct{ Kind, Shape string }
	if err := json.Unmarshal(in, &k); err != nil {
		return false
	}
	group := strings.TrimSuffix(filepath.Base(file), ".json")
	return op == opcases.Operations[group+"/"+k.Kind+k.Shape]
}

func pageCalls(t *testing.T) []call {
	t.Helper()
	made, err := demo.Make(noon, 5)
	if err != nil {
		t.Fatal(err)
	}
	entries := string(bytes.Join(made.Entries, []byte(",")))
	area := made.Areas["shower1"]
	fold := fmt.Sprintf(`"entries":[%s],"area":%q`, entries, area)
	list := []call{
		{"look", "logbook.look", json.RawMessage(`{` + fold + `,"now":"2026-03-04T12:00:00Z"}`)},
		{"job", "logbook.job", json.RawMessage(`{"entries":[` + entries + `],"now":"2026-03-04T12:00:00Z"}`)},
		{"card", "logbook.card", json.RawMessage(`{` + fold + `,"coat":2,"surfaces":["floor","wall.a"],"temp_C":14.5,"bucket_L":30,"scale_g":20,"crew_m2_per_h":9,"walk_min":2}`)},
		{"plan", "plan.try", json.RawMessage(`{` + fold + `,"sheet":"sample.flexible_cementitious","texture":"rough"}`)},
		{"survey", "survey.ask", json.RawMessage(`{"form":"rectangle","typed":{"length":"2.4 m","width":"1,8 m","walls.a.height":"tall"}}`)},
		{"broken", "survey.ask", json.RawMessage(`{"form":"rectangle","typed":7}`)},
		{"unknown", "survey.dream", json.RawMessage(`{}`)},
	}
	now := `,"now":"2026-03-04T12:00:00Z"`
	for _, name := range slices.Sorted(maps.Keys(made.Areas)) { // what each area's rules come to
		of := fmt.Sprintf(`{"entries":[%s],"area":%q`, entries, made.Areas[name])
		for _, each := range []struct{ op, more string }{
			{"logbook.look", now}, {"logbook.why", now + `,"step":"coat_1"`}, {"cut.layout", ""}, {"plan.try", `,"sheet":"sample.flexible_cementitious","texture":"smooth"`},
			{"choice.rank", `,"typed":{}`}, {"materials.list", now},
		} {
			list = append(list, call{name + " " + each.op, each.op, json.RawMessage(of + each.more + "}")})
		}
	}
	net := `{` + fold + `,"view":{"width":640,"height":560},"layers":["dims","bands"],"asking":"length","coat":"coat_1"}`
	place := `{` + fold + `,"x":500,"y":-400}`
	return append(list, call{"net", "draw.net", json.RawMessage(net)}, call{"place", "draw.place", json.RawMessage(place)})
}

// The three doors serve one table: every worked case gives the same through each.
func TestTheDoorsAgree(t *testing.T) {
	list := calls(t)
	if len(list) < 55 {
		t.Fatalf("only %d cases", len(list))
	}
	refused := 0
	for _, c := range list {
		if _, err := draw.Table().Call(c.op, c.in); err != nil {
			refused++
		}
	}
	if refused > len(list)/5 {
		t.Errorf("%d of %d are refused: little is compared", refused, len(list))
	}
	e, _, err := api.New(api.Config{Table: draw.Table(), Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	server := httptest.NewServer(e)
	defer server.Close()
	inPage := throughWasm(t, list)
	for i, c := range list {
		t.Run(c.name, func(t *testing.T) {
			http := throughHTTP(t, server.URL, c)
			command := throughCommand(t, c)
			agree(t, "HTTP and command line", http, command, "")
			agree(t, "HTTP and WebAssembly", http, inPage[i], "")
		})
	}
}

func decode(t *testing.T, text []byte) map[string]any {
	t.Helper()
	var answer map[string]any
	if err := json.Unmarshal(text, &answer); err != nil {
		t.Fatalf("%v: %.300s", err, text)
	}
	return answer
}

// faultsOf leaves of a refusal only what every door gives.
func faultsOf(answer map[string]any) map[string]any {
	if faults, refused := answer["faults"]; refused {
		return map[string]any{"faults": faults}
	}
	return answer
}

func throughHTTP(t *testing.T, url string, c call) map[string]any {
	t.Helper()
	response, err := http.Post(url+"/api/compute/"+c.op, "application/json", bytes.NewReader(c.in))
	if err != nil {
		t.Fatal(err)
	}
	defer response.Body.Close()
	text, err := io.ReadAll(response.Body)
	if err != nil {
		t.Fatal(err)
	}
	return faultsOf(decode(t, text))
}

func throughCommand(t *testing.T, c call) map[string]any {
	t.Helper()
	cmd := exec.Command(binary, "compute", c.op)
	cmd.Stdin = bytes.NewReader(c.in)
	out, err := cmd.Output()
	if err != nil && len(out) == 0 {
		t.Fatal(err)
	}
	return faultsOf(decode(t, out))
}

func throughWasm(t *testing.T, list []call) []map[string]any {
	t.Helper()
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		t.Fatal(err)
	}
	var input bytes.Buffer
	for _, c := range list {
		line, err := json.Marshal(map[string]string{"op": c.op, "in": string(c.in)})
		if err != nil {
			t.Fatal(err)
		}
		input.Write(append(line, '\n'))
	}
	cmd := exec.Command("node", "../dusha-wasm/door.mjs", filepath.Join(strings.TrimSpace(string(root)), "lib/wasm/wasm_exec.js"), wasm)
	cmd.Stdin, cmd.Stderr = &input, os.Stderr
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	var answers []map[string]any
	for _, line := range bytes.Split(bytes.TrimSpace(out), []byte("\n")) {
		answer := decode(t, line)
		if inner, ok := answer["out"].(map[string]any); ok {
			answer = inner
		}
		answers = append(answers, faultsOf(answer))
	}
	if len(answers) != len(list) {
		t.Fatalf("%d answers to %d calls", len(answers), len(list))
	}
	return answers
}

// agree compares strings exactly and numbers to 1e-9.
func agree(t *testing.T, doors string, a, b any, path string) {
	t.Helper()
	switch x := a.(type) {
	case map[string]any:
		y, ok := b.(map[string]any)
		if !ok || len(x) != len(y) {
			t.Errorf("%s differ at %s: %v, %v", doors, path, a, b)
			return
		}
		for key := range x {
			agree(t, doors, x[key], y[key], path+"."+key)
		}
	case []any:
		y, ok := b.([]any)
		if !ok || len(x) != len(y) {
			t.Errorf("%s differ at %s: %v, %v", doors, path, a, b)
			return
		}
		for i := range x {
			agree(t, doors, x[i], y[i], fmt.Sprintf("%s[%d]", path, i))
		}
	case float64:
		y, ok := b.(float64)
		if !ok || math.Abs(x-y) > 1e-9*max(1, math.Abs(x)) {
			t.Errorf("%s differ at %s: %v, %v", doors, path, a, b)
		}
	default:
		if a != b {
			t.Errorf("%s differ at %s: %v, %v", doors, path, a, b)
		}
	}
}

func TestTheCommandLineNamesWhatIsWrong(t *testing.T) {
	cmd := exec.Command(binary, "compute", "survey.ask")
	cmd.Stdin = strings.NewReader(`{"form":"rect`)
	out, err := cmd.Output()
	if err == nil || !strings.Contains(string(out), `"json.truncated"`) {
		t.Errorf("%v: %s", err, out)
	}
}
