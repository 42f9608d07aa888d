package store_test

import (
	"bytes"
	"context"
	"crypto/sha256"
	"database/sql"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"log/slog"
	"net/url"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/google/uuid"
	"github.com/pressly/goose/v3"

	"dusha/internal/dbtest"
	"dusha/internal/store"
)

// freshDSN is a new database on the package's server, with nothing in it.
func freshDSN(t *testing.T, name string) string {
	t.Helper()
	execute(t, dbtest.DSN, "CREATE DATABASE "+name)
	config, err := mysql.ParseDSN(dbtest.DSN)
	if err != nil {
		t.Fatal(err)
	}
	config.DBName = name
	return config.FormatDSN()
}

func execute(t *testing.T, dsn string, statements ...string) {
	t.Helper()
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	for _, statement := range statements {
		if _, err := db.ExecContext(t.Context(), statement); err != nil {
			t.Fatalf("%s: %v", statement, err)
		}
	}
}

func open(ctx context.Context, dsn string) error {
	s, err := store.Open(ctx, dsn, slog.New(slog.DiscardHandler))
	if err == nil {
		err = s.Close()
	}
	return err
}

func migrated(t *testing.T, name string) string {
	t.Helper()
	dsn := freshDSN(t, name)
	if err := store.Migrate(t.Context(), dsn); err != nil {
		t.Fatal(err)
	}
	return dsn
}

// A database that is not set up for this program is refused with the sentence that helps.
func TestWhatADatabaseHasToBe(t *testing.T) {
	dsn := migrated(t, "set_up")
	with := func(setting, value string) string { return dsn + "&" + setting + "=" + url.QueryEscape(value) }
	for name, row := range map[string]struct{ dsn, says string }{
		"as it should be":              {dsn, ""},
		"nothing in it":                {freshDSN(t, "bare"), "run \"dusha migrate\" first"},
		"an older schema":              {older(t), "run \"dusha migrate\" first"},
		"a newer schema":               {newer(t), "newer than this program's"},
		"lenient":                      {with("sql_mode", "''"), "sql_mode has to hold STRICT_ALL_TABLES"},
		"another time zone":            {strings.Replace(dsn, "time_zone=%27%2B00%3A00%27", "time_zone=%27%2B02%3A00%27", 1), "time zone has to be UTC"},
		"times as texts":               {strings.Replace(dsn, "parseTime=true", "parseTime=false", 1), "parseTime=true"},
		"times of elsewhere":           {dsn + "&loc=Local", "loc=UTC"},
		"letters of another kind":      {dsn + "&charset=latin1", "utf8mb4"},
		"no data source name":          {"dusha", "cannot be read"},
		"a server that is not there":   {"root@tcp(127.0.0.1:1)/dusha?parseTime=true&loc=UTC", "open the database"},
		"a database that is not there": {strings.Replace(dsn, "/set_up?", "/nowhere?", 1), "open the database"},
	} {
		err := open(t.Context(), row.dsn)
		if row.says == "" && err != nil || row.says != "" && (err == nil || !strings.Contains(err.Error(), row.says)) {
			t.Errorf("%s: %v, want %q", name, err, row.says)
		}
	}
	for setting, row := range map[string]struct{ bad, good, says string }{
		"innodb_flush_log_at_trx_commit": {"2", "1", "could be lost with the power"},
		"max_allowed_packet":             {"1048576", "67108864", "16M or more"},
	} {
		execute(t, dsn, "SET GLOBAL "+setting+" = "+row.bad)
		err := open(t.Context(), dsn)
		execute(t, dsn, "SET GLOBAL "+setting+" = "+row.good)
		if err == nil || !strings.Contains(err.Error(), row.says) {
			t.Errorf("%s of %s: %v", setting, row.bad, err)
		}
	}
}

func older(t *testing.T) string {
	dsn := migrated(t, "older")
	execute(t, dsn, "DELETE FROM goose_db_version WHERE version_id > 7")
	return dsn
}

func newer(t *testing.T) string {
	dsn := migrated(t, "newer")
	execute(t, dsn, "INSERT INTO goose_db_version (version_id, is_applied) VALUES (900, 1)")
	return dsn
}

func TestFourMigrateAtOnce(t *testing.T) {
	dsn := freshDSN(t, "at_once")
	errs := make(chan error, 4)
	for range 4 {
		go func() { errs <- store.Migrate(t.Context(), dsn) }()
	}
	for range 4 {
		if err := <-errs; err != nil {
			t.Error(err)
		}
	}
	if err := open(t.Context(), dsn); err != nil {
		t.Error(err)
	}
}

// A migration that was broken off between its statement and the note of it is gone on with.
func TestABrokenMigrationIsGoneOnWith(t *testing.T) {
	for _, last := range []int{0, 2, 5, 8, 9} {
		dsn := migrated(t, fmt.Sprintf("broken_%d", last))
		execute(t, dsn, fmt.Sprintf("DELETE FROM goose_db_version WHERE version_id > %d", last))
		if err := store.Migrate(t.Context(), dsn); err != nil {
			t.Errorf("broken off after %d: %v", last, err)
		}
	}
}

// Two devices send the same new id to two jobs at the same moment: one is kept, the other is told
// that the id is taken. Nobody is answered that something went wrong inside.
func TestTheSameIDToTwoJobsAtOnce(t *testing.T) {
	s := dbtest.Open(t)
	for round := range 60 {
		var wait sync.WaitGroup
		results := make([]store.Outcome, 2)
		for i := range results {
			job := uuid.Must(uuid.NewV7())
			text := fmt.Appendf(nil, `{"id":"01900000-0000-7000-8000-%012d","jobId":%q,"kind":"job.renamed","at":"2026-03-04T12:00:00Z","by":%q,"body":{"name":"Name"}}`, round, job, job)
			wait.Go(func() {
				out, err := s.Append(t.Context(), job, [][]byte{text})
				if err != nil {
					t.Errorf("round %d: %v", round, err)
					return
				}
				results[i] = out[0]
			})
		}
		wait.Wait()
		if results[0].New == results[1].New || results[0].Conflict == results[1].Conflict {
			t.Fatalf("round %d: %+v", round, results)
		}
	}
}

func idOf(text []byte) string {
	i := bytes.Index(text, []byte(`"id":"`))
	return string(text[i+6 : i+42])
}

// A job whose first entry was refused is in no list.
func TestARefusedFirstEntryMakesNoJob(t *testing.T) {
	s := dbtest.OpenEmpty(t, "no_job")
	first, made := hostel(t)
	mustAppend(t, s, first, made.Entries...)
	other, _ := hostel(t)
	i := bytes.Index(bytes.Join(made.Entries, []byte("\n")), []byte(made.Areas["shower1"]))
	if i < 0 {
		t.Fatal("no area")
	}
	foreign := fmt.Appendf(nil, `{"id":"01900000-0000-7000-8000-00000000aaaa","jobId":%q,"areaId":%q,"kind":"area.opened","at":"2026-03-04T12:00:00Z","by":%q,"body":{"name":"Stolen"}}`,
		other, made.Areas["shower1"], made.Named["lead"])
	if o := mustAppend(t, s, other, foreign)[0]; len(o.Refused) == 0 {
		t.Fatalf("%+v", o)
	}
	if o := mustAppend(t, s, other, bytes.Replace(made.Entries[0], []byte(made.ID), []byte(other.String()), 1))[0]; !o.Conflict {
		t.Fatalf("%+v", o)
	}
	jobs, err := s.Jobs(t.Context())
	if err != nil || len(jobs) != 1 {
		t.Errorf("%v, %v: want the first job alone", jobs, err)
	}
	if err := s.KeepPhoto(t.Context(), other, uuid.New(), picture(t, "jpeg")); !errors.Is(err, store.ErrNoJob) {
		t.Errorf("a photo of a job that is not there: %v", err)
	}
}

func TestPoisonIsSetAsideBesideTheChain(t *testing.T) {
	s := dbtest.OpenEmpty(t, "poison")
	job, made := hostel(t)
	mustAppend(t, s, job, made.Entries...)
	id := uuid.MustParse(idOf(made.Entries[4]))
	at, err := s.Find(t.Context(), id)
	if err != nil || at.Job != job || at.Seq != 5 {
		t.Fatalf("%+v, %v", at, err)
	}
	for _, place := range []store.Place{at, {Job: job, Seq: 7}} {
		if err := s.SetAside(t.Context(), place, "odd bytes"); err != nil {
			t.Fatal(err)
		}
	}
	kept := all(t, s, job)
	checkChain(t, kept, bookOf)
	for _, k := range kept {
		if aside := k.Seq == 5 || k.Seq == 7; aside != (k.Aside == "odd bytes") {
			t.Errorf("entry %d: %q", k.Seq, k.Aside)
		}
	}
	jobs, err := s.Jobs(t.Context())
	if err != nil || len(jobs[0].Quarantine) != 2 || jobs[0].Quarantine[0].ID != id.String() {
		t.Errorf("%+v, %v", jobs, err)
	}
	if err := s.SetAside(t.Context(), at, "half a letter"); err != nil {
		t.Errorf("another reason: %v", err)
	}
	if err := s.Release(t.Context(), at); err != nil {
		t.Error(err)
	}
	if at, err := s.Find(t.Context(), job); err != nil || at != (store.Place{Job: job}) {
		t.Errorf("a job by its id: %+v, %v", at, err)
	}
	for name, err := range map[string]error{
		"an entry that is not there": s.SetAside(t.Context(), store.Place{Job: job, Seq: 9999}, "x"),
		"a job that is not there":    s.SetAside(t.Context(), store.Place{Job: uuid.New()}, "x"),
		"released twice":             s.Release(t.Context(), at),
		"an id of nothing":           second(s.Find(t.Context(), uuid.New())),
		"no reason":                  s.SetAside(t.Context(), at, ""),
		"a reason without an end":    s.SetAside(t.Context(), at, strings.Repeat("x", 501)),
	} {
		if err == nil {
			t.Errorf("%s: fine", name)
		}
	}
}

func second[T any](_ T, err error) error { return err }

func picture(t *testing.T, kind string) []byte {
	t.Helper()
	var out bytes.Buffer
	img := image.NewGray(image.Rect(0, 0, 40, 30))
	encode := func() error { return jpeg.Encode(&out, img, nil) }
	if kind == "png" {
		encode = func() error { return png.Encode(&out, img) }
	}
	if err := encode(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func TestAFileIsToldByWhatIsInIt(t *testing.T) {
	for name, row := range map[string]struct {
		file []byte
		want string
	}{
		"a JPEG":                     {picture(t, "jpeg"), "image/jpeg"},
		"a PNG":                      {picture(t, "png"), "image/png"},
		"a PDF":                      {[]byte("%PDF-1.7\n"), "application/pdf"},
		"the head of a JPEG alone":   {[]byte{0xff, 0xd8, 0xff, '<', 's', 'c', 'r', 'i', 'p', 't', '>'}, ""},
		"the head of a PNG alone":    {[]byte("\x89PNG\r\n\x1a\n<script>"), ""},
		"a page":                     {[]byte("<script>alert(1)</script>"), ""},
		"a PDF of no version":        {[]byte("%PDF-9.0\n"), ""},
		"a page that says it is PDF": {[]byte("%PDF<script>"), ""},
		"nothing":                    {nil, ""},
	} {
		if got := store.Media(row.file); got != row.want {
			t.Errorf("%s is %q, want %q", name, got, row.want)
		}
	}
}

// A photo of the largest size goes in and comes back; a byte more does not; the job's room ends.
func TestPhotosHaveTheirRoom(t *testing.T) {
	s := dbtest.Open(t)
	job, made := hostel(t)
	mustAppend(t, s, job, made.Entries[0])
	largest := append(picture(t, "jpeg"), make([]byte, store.MostPhoto)...)[:store.MostPhoto]
	id := uuid.New()
	if err := s.KeepPhoto(t.Context(), job, id, largest); err != nil {
		t.Fatal(err)
	}
	if kept, err := s.Photo(t.Context(), job, id); err != nil || !bytes.Equal(kept.Bytes, largest) || kept.Media != "image/jpeg" {
		t.Errorf("it came back otherwise: %v", err)
	}
	if err := s.KeepPhoto(t.Context(), job, uuid.New(), append(largest, 0)); !errors.Is(err, store.ErrPhotoTooLarge) {
		t.Errorf("a byte more: %v", err)
	}
	execute(t, dbtest.DSN, fmt.Sprintf("UPDATE photos SET size = %d WHERE id = '%s'", store.MostPhotos-100, id))
	if err := s.KeepPhoto(t.Context(), job, uuid.New(), largest); !errors.Is(err, store.ErrPhotosFull) {
		t.Errorf("no room left: %v", err)
	}
}

// Many entries of many bytes are read in, in statements a database takes.
func TestLargeEntriesAreReadIn(t *testing.T) {
	s, empty := dbtest.Open(t), dbtest.OpenEmpty(t, "large")
	job, made := hostel(t)
	mustAppend(t, s, job, made.Entries[0])
	long := strings.Repeat(`\"`, 10_000)
	var texts [][]byte
	for n := range 270 {
		texts = append(texts, fmt.Appendf(nil, `{"id":"019cb000-00ff-7000-8000-%012d","jobId":%q,"kind":"pattern.kept","at":"2026-03-04T12:00:00Z","by":%q,"body":{"name":"P","begun":{"form":"room","check":true,"typed":{%s}}}}`,
			n, made.ID, made.Named["lead"], manyTyped(long)))
	}
	for i, o := range mustAppend(t, s, job, texts...) {
		if !o.New {
			t.Fatalf("entry %d: %+v", i, o)
		}
	}
	kept := all(t, s, job)
	if len(kept) != 271 {
		t.Fatalf("%d entries", len(kept))
	}
	if err := readIn(t, empty, job, kept); err != nil {
		t.Fatal(err)
	}
	if there := all(t, empty, job); len(there) != len(kept) || !bytes.Equal(there[270].Hash, kept[270].Hash) {
		t.Errorf("%d came back", len(there))
	}
}

func manyTyped(long string) string {
	var fields []string
	for i := range 10 {
		fields = append(fields, fmt.Sprintf(`"f%d":"%s"`, i, long))
	}
	return strings.Join(fields, ",")
}

// A photo that is no picture comes in by a bundle no more than by the door, and a name that is
// kept here stays.
func TestAnImportIsCheckedLikeADelivery(t *testing.T) {
	s, empty := dbtest.Open(t), dbtest.OpenEmpty(t, "checked")
	job, made := hostel(t)
	mustAppend(t, s, job, made.Entries...)
	kept := all(t, s, job)
	person := uuid.MustParse(made.Named["lead"])
	if err := empty.Name(t.Context(), person, ""); err != nil {
		t.Fatal(err)
	}
	in := func(more func(*store.Import) error) error {
		return empty.Import(t.Context(), job, func(in *store.Import) error {
			for _, k := range kept {
				if err := in.Entry(k); err != nil {
					return err
				}
			}
			return more(in)
		})
	}
	if err := in(func(in *store.Import) error { return in.Photo(uuid.New(), []byte("<script>alert(1)</script>")) }); !errors.Is(err, store.ErrOtherPicture) {
		t.Errorf("a page as a photo: %v", err)
	}
	if jobs, err := empty.Jobs(t.Context()); err != nil || len(jobs) != 0 {
		t.Errorf("%v, %v: something of it was kept", jobs, err)
	}
	bad := kept[5]
	kept[5].Bytes = bytes.Replace(bad.Bytes, []byte(`"id"`), []byte(`"ID"`), 1)
	if err := in(func(*store.Import) error { return nil }); err == nil {
		t.Error("a name in other letters was read in")
	}
	kept[5] = bad
	if err := in(func(in *store.Import) error {
		return in.Names(map[uuid.UUID]string{person: "Robin", uuid.New(): "Kim"})
	}); err != nil {
		t.Fatal(err)
	}
	names, err := empty.Names(t.Context())
	if err != nil || names[person.String()] != "" || len(names) != 2 {
		t.Errorf("%v, %v: a blanked name came back", names, err)
	}
}

// Everything the reader takes the database takes too: what it refused would be sent for ever.
func TestWhatIsTakenCanBeKept(t *testing.T) {
	s := dbtest.Open(t)
	job, made := hostel(t)
	mustAppend(t, s, job, made.Entries[0])
	for i, name := range []string{`\u0000`, `\uffff`, `\ud83d\ude00`, "\U0001f600", `\/`, "\u2028", `\u001f`, "e\u0301", "\u202e", `\\`} {
		text := fmt.Appendf(nil, `{"id":"019cb000-00aa-7000-8000-%012d","jobId":%q,"kind":"job.renamed","at":"2026-03-04T12:00:00.123456789+14:00","by":%q,"clockOffset":-0,"body":{"name":"x%s"}}`, i, made.ID, made.Named["lead"], name)
		if o := mustAppend(t, s, job, text)[0]; !o.New {
			t.Errorf("%q: %+v", name, o)
		}
	}
}

// What an earlier version kept is there after the migration, and is gone on with.
func TestAnEarlierSchemaIsBroughtForward(t *testing.T) {
	dsn := freshDSN(t, "earlier")
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	provider, err := goose.NewProvider(goose.DialectMySQL, db, os.DirFS("migrations"))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := provider.UpTo(t.Context(), 7); err != nil {
		t.Fatal(err)
	}
	job, made := hostel(t)
	first := sha256.Sum256(made.Entries[0])
	statements := []string{
		fmt.Sprintf("INSERT INTO jobs (id, company_id, last_seq, last_hash) VALUES ('%s', '%s', 1, UNHEX('%x'))", job, store.House, first),
		fmt.Sprintf("INSERT INTO photos (id, company_id, job_id, hash, received_at, bytes) VALUES ('%s', '%s', '%s', UNHEX('%x'), NOW(), '%%PDF-1.7')", uuid.New(), store.House, job, first),
		fmt.Sprintf("INSERT INTO photos (id, company_id, job_id, hash, received_at, bytes) VALUES ('%s', '%s', '%s', UNHEX('%x'), NOW(), '<script>')", uuid.New(), store.House, uuid.New(), first),
	}
	execute(t, dsn, statements...)
	if _, err := db.ExecContext(t.Context(), "INSERT INTO entries (id, company_id, job_id, seq, kind, at, by_person, received_at, hash, bytes) VALUES (?, ?, ?, 1, 'job.opened', NOW(), ?, NOW(), ?, ?)",
		idOf(made.Entries[0]), store.House, job, job, first[:], made.Entries[0]); err != nil {
		t.Fatal(err)
	}
	if err := store.Migrate(t.Context(), dsn); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(t.Context(), dsn, slog.New(slog.DiscardHandler))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	mustAppend(t, s, job, made.Entries...)
	kept := all(t, s, job)
	checkChain(t, kept, bookOf)
	if len(kept) != len(made.Entries) || kept[0].Receipt != nil || !bytes.Equal(kept[1].Receipt, store.ReceiptOf(nil, kept[1])) || !bytes.Equal(kept[2].Receipt, store.ReceiptOf(kept[1].Receipt, kept[2])) {
		t.Errorf("%d entries, receipts %x %x", len(kept), kept[0].Receipt, kept[1].Receipt)
	}
	photos := 0
	if err := s.EachPhoto(t.Context(), job, func(string, []byte) error { photos++; return nil }); err != nil || photos != 1 {
		t.Errorf("%d photos, %v", photos, err)
	}
}
