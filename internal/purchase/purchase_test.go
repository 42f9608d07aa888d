package purchase_test

import (
	"bytes"
	"encoding/csv"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/xuri/excelize/v2"

	"dusha/core/site"
	"dusha/demo"
	"dusha/internal/purchase"
)

var now = time.Date(2026, 3, 4, 14, 0, 0, 0, time.UTC)

// lists are those of the hostel: the whole job, then the first shower room.
func lists(t *testing.T) purchase.Lists {
	t.Helper()
	made, err := demo.Make(now, 7)
	if err != nil {
		t.Fatal(err)
	}
	job := site.Read(made.Entries)
	whole, room := job.Materials("", now), job.Materials(made.Areas["shower1"], now)
	return purchase.Lists{Job: "Hostel", Parts: []purchase.List{{Purchase: whole}, {For: "=Shower: room/1, a name far longer than a workbook takes", Purchase: room}, {For: "=Shower: room/1, a name far longer than a workbook likes", Purchase: room}}}
}

func TestTheListAsCSV(t *testing.T) {
	var out bytes.Buffer
	if err := purchase.CSV(&out, lists(t)); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(out.String(), "\ufeff"))).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	if rows[0][2] != "Product" || rows[0][7] != "Packs to buy" || len(rows) < 20 {
		t.Fatalf("%d rows under %v", len(rows), rows[0])
	}
	i := slices.IndexFunc(rows, func(r []string) bool { return r[2] == "Two-part flexible cementitious" })
	if i < 0 || rows[i][0] != "Whole job" || rows[i][5] != "kg" || !strings.Contains(rows[i][7], "× 20.4 kg") {
		t.Errorf("the membrane: %v", rows[max(i, 0)])
	}
	for _, r := range rows {
		if strings.HasPrefix(r[0], "=") {
			t.Errorf("an office program would reckon with %q", r[0])
		}
	}
}

func TestTheListAsAWorkbook(t *testing.T) {
	var out bytes.Buffer
	if err := purchase.XLSX(&out, lists(t)); err != nil {
		t.Fatal(err)
	}
	book, err := excelize.OpenReader(&out)
	if err != nil {
		t.Fatal(err)
	}
	defer book.Close()
	names := book.GetSheetList()
	if len(names) != 3 || names[0] != "Whole job" || len([]rune(names[1])) > 31 || names[1] == names[2] || strings.ContainsAny(names[1], `[]:*?/\`) {
		t.Fatalf("sheets %q", names)
	}
	rows, err := book.GetRows(names[0])
	if err != nil || rows[0][0] != "Sample figures: not for work" && !strings.Contains(rows[0][0], "sample figures") {
		t.Fatalf("%v, %v", rows[0], err)
	}
	kind, err := book.GetCellType(names[0], "E3")
	if err != nil || kind == excelize.CellTypeSharedString || kind == excelize.CellTypeInlineString {
		t.Errorf("a need is no number: %v, %v", kind, err)
	}
}
