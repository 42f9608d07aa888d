package dossier

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/core/site"
	"dusha/core/system"
	"dusha/demo"
	"dusha/draw"
	"dusha/internal/words"
)

var now = time.Date(2026, 3, 4, 14, 0, 0, 0, time.UTC)

// hostel folds an area of the demo job, with more entries of its own at the end.
func hostel(t *testing.T, area string, more ...string) Book {
	t.Helper()
	made, err := demo.Make(now, 7)
	if err != nil {
		t.Fatal(err)
	}
	texts := made.Entries
	for _, text := range more {
		for key, id := range made.Named {
			text = strings.ReplaceAll(text, "$"+key, id)
		}
		text = strings.NewReplacer("$job", made.ID, "$area", made.Areas[area]).Replace(text)
		texts = append(texts, []byte(text))
	}
	entries := logbook.ReadAll(texts)
	for _, e := range entries {
		if err := e.Unread(); err != nil {
			t.Fatal(err)
		}
	}
	names := map[string]string{}
	for id, role := range made.People {
		names[id] = "The " + role
	}
	return Book{
		Look: site.Of(entries).Area(made.Areas[area]).At(now), Names: names,
		Hash: strings.Repeat("ab12", 16), Entries: len(entries), Last: now, At: now,
	}
}

func pdf(t *testing.T, b Book) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := Write(&out, b); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// said is the text of a document, as a reader would copy it out.
func said(t *testing.T, document []byte) string { t.Helper(); return read(t, document, "-layout") }

func read(t *testing.T, document []byte, as string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "dossier.pdf")
	if err := os.WriteFile(file, document, 0o600); err != nil {
		t.Fatal(err)
	}
	text, err := exec.Command("pdftotext", as, file, "-").Output()
	if err != nil {
		t.Fatalf("pdftotext of the package poppler-utils is needed: %v", err)
	}
	return string(text)
}

func mustSay(t *testing.T, text string, wanted ...string) {
	t.Helper()
	flat := strings.Join(strings.Fields(text), " ")
	for _, want := range wanted {
		if !strings.Contains(flat, want) {
			t.Errorf("the dossier does not say %q", want)
		}
	}
}

func TestTheDossierOfAFinishedRoomSaysAllOfIt(t *testing.T) {
	b := hostel(t, "drying")
	text := said(t, pdf(t, b))
	mustSay(t, text,
		"Drying room", "Water test: Holds", "Sample figures: not for work", "No deviations", "Every step of the recipe is done.",
		"Scope", "Plan", "Work", "Coats and film", "Waits", "Water test", "Deviations and corrections", "Signatures",
		b.Hash, "8.71 m²", "The Inspector", "on the finding: Holds", b.Look.Signatures[0].Seen[:20], "kept", "touch test ready",
	)
	for _, l := range b.Look.Test.Runs[0].Levels {
		mustSay(t, text, words.Speaker{Zone: time.UTC}.Time(l.At))
	}
	if strings.Contains(text, "[") {
		t.Errorf("something has no words: %s", regexp.MustCompile(`\[[^\]]*\]`).FindString(text))
	}
}

func TestTheDossierOfAnOpenRoomSaysWhatIsMissing(t *testing.T) {
	override := `{"id":"01900000-0000-7000-8000-0000000000bb","jobId":"$job","areaId":"$area","kind":"overridden","at":"2026-03-04T13:59:00Z","by":"$lead",` +
		`"body":{"step":"coat_1_accepted","reason":"the tiler is waiting","person":"$lead"}}`
	b := hostel(t, "shower1", override)
	text := said(t, pdf(t, b))
	mustSay(t, text, "Not finished. Next:", "Deviations: ", ": gone on without it, by name. the tiler is waiting", "Thin", "No water test was planned yet.", "Nothing was signed yet.", "Not laid yet.")
}

// What of the order somebody answered for stands on page one.
func TestWhatWasLeftOutStandsOnPageOne(t *testing.T) {
	b := hostel(t, "drying")
	b.Look.System.Answered = []system.Answered{
		{Does: "drop", Title: "Accept the details", Reason: "the inspector comes later", Person: "nobody"}, {Does: "no_proof", Reason: "no water on site"},
	}
	first, _, _ := strings.Cut(said(t, pdf(t, b)), "\f")
	mustSay(t, first, "“Accept the details” was left out of the work: the inspector comes later", "Nothing proves that it is tight: no water on site")
}

func TestTheSameBookMakesTheSameBytes(t *testing.T) {
	b := hostel(t, "drying")
	first, second := pdf(t, b), pdf(t, b)
	if !bytes.Equal(first, second) {
		t.Error("two documents of the same book differ")
	}
	b.Hash = strings.Repeat("cd34", 16)
	if bytes.Equal(first, pdf(t, b)) {
		t.Error("another hash makes the same document")
	}
}

func TestAnEmptyAreaHasADossierToo(t *testing.T) {
	text := said(t, pdf(t, Book{Look: logbook.Look{Name: "Nothing yet", Job: logbook.JobLook{TimeZone: "no such zone"}}, At: now, Last: now}))
	mustSay(t, text, "Nothing yet", "Not surveyed yet.", "No plan was accepted yet.")
}

// Every style that the drawings of a dossier use has its looks on paper.
func TestEveryStyleHasItsLooksOnPaper(t *testing.T) {
	view := draw.View{Width: 760, Height: 470}
	for _, area := range []string{"drying", "shower1"} {
		l := hostel(t, area).Look
		var drawings []draw.Drawing
		for i := range l.Coats {
			d, err := draw.Net(draw.NetInputs{Area: *l.Geometry, Shown: draw.Shown{View: view, Layers: []string{"dims", "bands", "coat", "film"}}, Lying: draw.Lying{Coat: &l.Coats[i], Pieces: l.Pieces}})
			if err != nil {
				t.Fatal(err)
			}
			drawings = append(drawings, d)
		}
		if l.Test != nil {
			chart, err := draw.Levels(draw.LevelsInputs{Test: *l.Test, Now: now, View: view, Paper: true})
			if err != nil {
				t.Fatal(err)
			}
			scale, err := draw.Scale(draw.ScaleInputs{Judged: *l.Test.Judged, Limit: l.Test.Chosen.Tolerance, Finding: l.Test.Finding, View: view})
			if err != nil {
				t.Fatal(err)
			}
			drawings = append(drawings, chart, scale)
		}
		for _, d := range drawings {
			for _, item := range d.Items {
				if _, known := looks[item.Style]; !known {
					t.Errorf("style %s has no looks on paper", item.Style)
				}
			}
		}
	}
}

// A heading at the end of a page heads nothing.
func TestNoHeadingStandsAlone(t *testing.T) {
	s := words.Speaker{Zone: time.UTC}
	headings := map[string]bool{}
	for _, key := range []string{"scope", "plan", "work", "waits", "climate", "deviations.title", "coats", "tests", "signatures", "stands", "details", "printings", "test_plan"} {
		headings[s.Say("paper."+key)] = true
	}
	number := regexp.MustCompile(`^\d+\s+`)
	pages := 0
	for area := range hostelAreas(t) {
		text := said(t, pdf(t, hostel(t, area)))
		for n, page := range strings.Split(strings.TrimRight(text, "\f\n "), "\f") {
			pages++
			var lines []string
			for line := range strings.SplitSeq(page, "\n") {
				if line = strings.TrimSpace(line); line != "" {
					lines = append(lines, line)
				}
			}
			if len(lines) < 4 {
				t.Errorf("%s: page %d holds %q", area, n+1, lines)
				continue
			}
			last := lines[len(lines)-2] // above the foot
			if headings[number.ReplaceAllString(last, "")] {
				t.Errorf("%s: page %d ends with %q", area, n+1, last)
			}
		}
	}
	if pages < 20 {
		t.Errorf("%d pages were looked at", pages)
	}
}

// A page that others follow is not left half empty: a drawing that has no room is put there smaller.
func TestNoPageIsLeftHalfEmpty(t *testing.T) {
	word := regexp.MustCompile(`yMin="([0-9.]+)"`)
	for area := range hostelAreas(t) {
		pages := strings.Split(read(t, pdf(t, hostel(t, area)), "-bbox"), "<page ")[1:]
		for n, page := range pages[:len(pages)-1] {
			const foot, most = 780, 500 // pt from the top of an A4 page
			lowest := 0.0
			for _, found := range word.FindAllStringSubmatch(page, -1) {
				if y, _ := strconv.ParseFloat(found[1], 64); y < foot {
					lowest = max(lowest, y)
				}
			}
			if lowest < most {
				t.Errorf("%s: page %d of %d ends at %.0f pt", area, n+1, len(pages), lowest)
			}
		}
	}
}

func hostelAreas(t *testing.T) map[string]string {
	t.Helper()
	made, err := demo.Make(now, 5)
	if err != nil {
		t.Fatal(err)
	}
	return made.Areas
}
