package api_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"image"
	"image/color"
	"image/jpeg"
	"strings"
	"testing"
)

func picture(t *testing.T, shade uint8) []byte {
	t.Helper()
	img := image.NewGray(image.Rect(0, 0, 40, 30))
	for i := range img.Pix {
		img.Pix[i] = color.Gray{Y: shade}.Y
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, nil); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func TestAPhotoIsKeptOnceAndLeadsTheDossier(t *testing.T) {
	s, made := server(t), hostel(t, 603)
	job := s.URL + "/api/jobs/" + made.ID
	const id, other = "019cb000-0000-7000-8000-0000000000aa", "019cb000-0000-7000-8000-0000000000ab"
	jpg := picture(t, 120)
	if got := send(t, "PUT", job+"/photos/"+id, bytes.NewReader(jpg)).status; got != 404 {
		t.Errorf("a photo of a job that is not there: %d, want 404", got)
	}
	if got := send(t, "POST", job+"/entries", batch(made.Entries[0])).status; got != 200 {
		t.Fatal(got)
	}
	put := func(id string, body []byte) int {
		return send(t, "PUT", job+"/photos/"+id, bytes.NewReader(body)).status
	}
	for name, c := range map[string]struct {
		id   string
		body []byte
		want int
	}{
		"no JPEG":          {other, []byte("a photo of words"), 422},
		"an id of no kind": {"photo-1", jpg, 422},
	} {
		if got := put(c.id, c.body); got != c.want {
			t.Errorf("%s: %d, want %d", name, got, c.want)
		}
	}
	if first, again, changed := put(id, jpg), put(id, jpg), put(id, picture(t, 10)); first != 204 || again != 204 || changed != 409 {
		t.Errorf("kept %d, the same again %d, another under its id %d", first, again, changed)
	}
	if got := send(t, "GET", job+"/photos/"+id, nil); got.status != 200 || got.kind != "image/jpeg" || got.text != string(jpg) {
		t.Errorf("read back: %d %s", got.status, got.kind)
	}
	if got := send(t, "GET", strings.Replace(job, made.ID, made.Areas["cellar"], 1)+"/photos/"+id, nil); got.status != 404 {
		t.Errorf("asked of another job: %d", got.status)
	}

	sum := sha256.Sum256(jpg)
	history, err := json.Marshal(map[string]any{
		"id": "019cb000-0000-7000-8000-0000000000ac", "jobId": made.ID, "areaId": made.Areas["cellar"], "kind": "history", "at": "2026-03-04T11:00:00Z", "by": made.Named["lead"],
		"body": map[string]any{"answers": map[string]string{"complaint": "damp"}, "photos": []map[string]string{{"id": id, "sha256": hex.EncodeToString(sum[:])}, {"id": other, "sha256": strings.Repeat("0", 64)}}},
	})
	if err != nil {
		t.Fatal(err)
	}
	entries := `{"entries":[` + string(bytes.Join(append(made.Entries, history), []byte(","))) + `]}`
	if a := send(t, "POST", job+"/entries", strings.NewReader(entries)); a.status != 200 {
		t.Fatalf("%d %s", a.status, a.text)
	}
	dossier := send(t, "GET", job+"/areas/"+made.Areas["cellar"]+"/dossier.pdf", nil)
	if dossier.status != 200 || strings.Count(dossier.text, "/Subtype /Image") != 1 {
		t.Errorf("the dossier of %d holds %d pictures, want the one that was sent", dossier.status, strings.Count(dossier.text, "/Subtype /Image"))
	}
}

// A printed sheet is kept beside the photos, as PDF; nothing else is.
func TestAPrintedSheetIsKept(t *testing.T) {
	s, made := server(t), hostel(t, 604)
	job := s.URL + "/api/jobs/" + made.ID
	const id = "019cb000-0000-7000-8000-0000000000ba"
	if got := send(t, "POST", job+"/entries", batch(made.Entries[0])).status; got != 200 {
		t.Fatal(got)
	}
	pdf := []byte("%PDF-1.4\n% a sheet as it was printed")
	if got := send(t, "PUT", job+"/photos/"+id, bytes.NewReader(pdf)).status; got != 204 {
		t.Fatalf("kept %d", got)
	}
	if got := send(t, "GET", job+"/photos/"+id, nil); got.status != 200 || got.kind != "application/pdf" || got.text != string(pdf) {
		t.Errorf("read back: %d %s", got.status, got.kind)
	}
	largest := append([]byte("%PDF-1.4\n"), make([]byte, 10<<20)...)[:10<<20]
	if got := send(t, "PUT", job+"/photos/019cb000-0000-7000-8000-0000000000bd", bytes.NewReader(largest)).status; got != 204 {
		t.Errorf("10 MiB exactly: %d, want 204", got)
	}
	if got := send(t, "PUT", job+"/photos/019cb000-0000-7000-8000-0000000000be", bytes.NewReader(append(largest, 0))).status; got != 413 {
		t.Errorf("a byte more: %d, want 413", got)
	}
	large := append([]byte("%PDF-1.4\n"), make([]byte, 30<<20)...)
	if got := send(t, "PUT", job+"/photos/019cb000-0000-7000-8000-0000000000bb", bytes.NewReader(large)).status; got != 413 {
		t.Errorf("30 MB: %d, want 413", got)
	}
	if got := send(t, "PUT", job+"/photos/019cb000-0000-7000-8000-0000000000bc", strings.NewReader("<svg onload=x>")).status; got != 422 {
		t.Errorf("a picture with script in it: %d, want 422", got)
	}
}
