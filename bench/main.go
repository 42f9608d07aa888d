package main

import (
	"bufio"
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/httputil"
	"os"
	"os/exec"
	"strconv"
	"strings"
	"time"

	_ "github.com/go-sql-driver/mysql"
	"github.com/google/uuid"

	"dusha/core/site"
	"dusha/demo"
	"dusha/draw"
	"dusha/internal/store"
)

func main() {
	if len(os.Args) > 1 && os.Args[1] == "keeping" {
		calibrate()
		if err := errors.Join(posting(context.Background()), bundling(context.Background())); err != nil {
			fmt.Fprintln(os.Stderr, "bench:", err)
			os.Exit(1)
		}
		return
	}
	if len(os.Args) > 1 && os.Args[1] == "mixed-job" {
		if err := writeMixed(os.Stdout); err != nil {
			fmt.Fprintln(os.Stderr, "bench:", err)
			os.Exit(1)
		}
		return
	}
	if len(os.Args) > 1 && os.Args[1] == "folding" {
		calibrate()
		if err := folding(); err != nil {
			fmt.Fprintln(os.Stderr, "bench:", err)
			os.Exit(1)
		}
		return
	}
	if len(os.Args) > 1 && os.Args[1] == "days" {
		calibrate()
		if err := scheduling(); err != nil {
			fmt.Fprintln(os.Stderr, "bench:", err)
			os.Exit(1)
		}
		return
	}
	if len(os.Args) > 1 && os.Args[1] == "devices" {
		if err := crew(context.Background()); err != nil {
			fmt.Fprintln(os.Stderr, "bench:", err)
			os.Exit(1)
		}
		return
	}
	if len(os.Args) > 1 && os.Args[1] == "calibration" {
		if err := verdicts(); err != nil {
			fmt.Fprintln(os.Stderr, "bench:", err)
			os.Exit(1)
		}
		return
	}
	if len(os.Args) > 1 && os.Args[1] == "cutting-set" {
		if err := writeCuttingSet(); err != nil {
			fmt.Fprintln(os.Stderr, "bench:", err)
			os.Exit(1)
		}
		return
	}
	if err := run(context.Background()); err != nil {
		fmt.Fprintln(os.Stderr, "bench:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context) error {
	calibrate()
	if err := reading(); err != nil {
		return err
	}
	if err := fold(); err != nil {
		return err
	}
	if err := folding(); err != nil {
		return err
	}
	if err := geometry(); err != nil {
		return err
	}
	if err := screeding(); err != nil {
		return err
	}
	if err := errors.Join(layered(), scheduling()); err != nil {
		return err
	}
	if err := quantities(); err != nil {
		return err
	}
	if err := packing(); err != nil {
		return err
	}
	if err := cuttings(); err != nil {
		return err
	}
	if err := throughWebAssembly(); err != nil {
		return err
	}
	if err := posting(ctx); err != nil {
		return err
	}
	if err := bundling(ctx); err != nil {
		return err
	}
	if err := crew(ctx); err != nil {
		return err
	}
	return verdicts()
}

var now = time.Date(2026, 3, 4, 14, 0, 0, 0, time.UTC)

// longArea is the hostel's own book and its finished room, grown to so many entries, by comb readings
// of the second coat.
func longArea(count int) (demo.Job, [][]byte, string, error) {
	made, err := demo.Make(now, 7)
	if err != nil {
		return made, nil, "", err
	}
	area := made.Areas["drying"]
	var texts [][]byte
	var model map[string]any
	for _, text := range made.Entries {
		var e map[string]any
		if err := json.Unmarshal(text, &e); err != nil {
			return made, nil, "", err
		}
		if own := e["areaId"] == nil; own || e["areaId"] == area {
			texts = append(texts, text)
			if e["kind"] == "read" {
				model = e
			}
		}
	}
	for i := 0; len(texts) < count; i++ {
		model["id"] = fmt.Sprintf("019cb000-0000-7000-8000-%012d", i)
		text, err := json.Marshal(model)
		if err != nil {
			return made, nil, "", err
		}
		texts = append(texts, text)
	}
	return made, texts, area, nil
}

func fold() error {
	const count = 2000
	_, texts, area, err := longArea(count)
	if err != nil {
		return err
	}
	decode := timed("decoding the same JSON", func() error {
		for _, text := range texts {
			var v any
			if err := json.Unmarshal(text, &v); err != nil {
				return err
			}
		}
		return nil
	})
	reading := timed("reading and folding an area", func() error {
		look := site.Read(texts).Area(area).At(now)
		if look.Next.State != "finished" {
			return fmt.Errorf("the fold says %q", look.Next.State)
		}
		return nil
	})
	return compare(fmt.Sprintf("Fold of an area of %d entries, its checks and figures included", count), reading, decode)
}

// throughWebAssembly compares one operation in Node's WebAssembly with the same in Go.
func throughWebAssembly() error {
	made, texts, area, err := longArea(300)
	if err != nil {
		return err
	}
	for _, text := range made.Entries {
		if !bytes.Contains(text, []byte(`"areaId"`)) {
			texts = append(texts, text)
		}
	}
	input := fmt.Sprintf(`{"entries":[%s],"area":%q,"now":%q}`, bytes.Join(texts, []byte(",")), area, now.Format(time.RFC3339))
	line, err := json.Marshal(map[string]any{"op": "logbook.look", "in": input, "timed": true})
	if err != nil {
		return err
	}
	node := exec.Command("node", "cmd/dusha-wasm/door.mjs", "web/src/core/wasm_exec.js", "web/src/core/core.wasm")
	node.Stderr = os.Stderr
	in, err := node.StdinPipe()
	if err != nil {
		return err
	}
	out, err := node.StdoutPipe()
	if err != nil {
		return err
	}
	if err := node.Start(); err != nil {
		return err
	}
	defer node.Wait()
	defer in.Close()
	answers := bufio.NewReader(out)
	wasm := side{"through WebAssembly", func() (time.Duration, error) {
		if _, err := fmt.Fprintf(in, "%s\n", line); err != nil {
			return 0, err
		}
		said, err := answers.ReadString('\n')
		if err != nil {
			return 0, err
		}
		ms, err := strconv.ParseFloat(strings.TrimSpace(said), 64)
		return time.Duration(ms * float64(time.Millisecond)), err
	}}
	table := draw.Table()
	native := timed("native", func() error {
		_, err := table.Call("logbook.look", []byte(input))
		return err
	})
	return compare(fmt.Sprintf("The look at an area, %d entries", len(texts)), wasm, native)
}

// posting compares entries posted to the server with plain inserts of the same rows, in the
// same number of transactions on the same database.
func posting(ctx context.Context) error {
	const count, batches = 1000, 2
	p, err := newPlace(ctx)
	if err != nil {
		return err
	}
	defer p.close()
	served, err := p.serve(nil)
	if err != nil {
		return err
	}
	defer served.Close()
	s, db := p.store, p.db

	post := timed("posted to the server", func() error {
		j := newJob(count)
		for i := range batches {
			if err := postBatch(served.URL, j.id, j.texts[i*count/batches:(i+1)*count/batches]); err != nil {
				return err
			}
		}
		return nil
	})
	insert := timed("inserts of the same rows, many at once", func() error {
		j := newJob(count)
		for i := range batches {
			if err := insertBatch(ctx, db, j, i*count/batches, (i+1)*count/batches); err != nil {
				return err
			}
		}
		return nil
	})
	if err := compare(fmt.Sprintf("Keeping %d entries in %d transactions (limit: 1.3 times)", count, batches), post, insert); err != nil {
		return err
	}
	return askedAgain(ctx, s, served.URL)
}

// askedAgain measures what the list of 1,000 jobs takes on the wire when nothing changed.
func askedAgain(ctx context.Context, s *store.Store, url string) error {
	const jobs, most = 1000, 1000
	for {
		lines, err := s.Jobs(ctx)
		if err != nil {
			return err
		}
		if len(lines) >= jobs {
			break
		}
		j := newJob(1)
		if _, err := s.Append(ctx, j.id, j.texts); err != nil {
			return err
		}
	}
	size := 0
	ask := func(tag string) (string, error) {
		request, err := http.NewRequestWithContext(ctx, http.MethodGet, url+"/api/jobs", nil)
		if err != nil {
			return "", err
		}
		request.Header.Set("If-None-Match", tag)
		answer, err := http.DefaultClient.Do(request)
		if err != nil {
			return "", err
		}
		defer answer.Body.Close()
		text, err := httputil.DumpResponse(answer, true)
		size = len(text)
		return answer.Header.Get("ETag"), err
	}
	tag, err := ask("")
	if err != nil {
		return err
	}
	whole := size
	if _, err := ask(tag); err != nil {
		return err
	}
	fmt.Printf("The list of %d jobs (limit: %d bytes when nothing changed)\n  %d bytes, and %d when it is asked again\n", jobs, most, whole, size)
	if size > most {
		return errors.New("the list of jobs is sent though nothing changed")
	}
	return nil
}

// aJob is a new job with so many readings in one area.
type aJob struct {
	id, area, person uuid.UUID
	ids              []uuid.UUID
	texts            [][]byte
}

func newJob(count int) aJob {
	j := aJob{id: uuid.Must(uuid.NewV7()), area: uuid.Must(uuid.NewV7()), person: uuid.Must(uuid.NewV7())}
	for i := range count {
		id := uuid.Must(uuid.NewV7())
		j.ids = append(j.ids, id)
		j.texts = append(j.texts, fmt.Appendf(nil,
			`{"id":"%s","jobId":"%s","areaId":"%s","kind":"read","at":"2026-03-04T14:00:00Z","by":"%s","body":{"step":"coat_1","surface":"floor","along_mm":%d,"up_mm":900,"last_wet_mm":1.2,"next_dry_mm":1.3}}`,
			id, j.id, j.area, j.person, i))
	}
	return j
}

func postBatch(url string, job uuid.UUID, texts [][]byte) error {
	body := append(append([]byte(`{"entries":[`), bytes.Join(texts, []byte(","))...), "]}"...)
	answer, err := http.Post(url+"/api/jobs/"+job.String()+"/entries", "application/json", bytes.NewReader(body))
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	said, err := io.ReadAll(answer.Body)
	if err != nil {
		return err
	}
	if n := bytes.Count(said, []byte(`"status":201`)); answer.StatusCode != http.StatusOK || n != len(texts) {
		return fmt.Errorf("%s: %d of %d kept", answer.Status, n, len(texts))
	}
	return nil
}

// insertBatch writes rows as the store would, without reading, checking or hashing them.
func insertBatch(ctx context.Context, db *sql.DB, j aJob, from, to int) error {
	tx, err := db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback()
	if from == 0 {
		if _, err := tx.ExecContext(ctx, "INSERT INTO jobs (id, company_id, last_seq) VALUES (?, ?, ?)", j.id, store.House, to); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "INSERT INTO areas (id, company_id, job_id) VALUES (?, ?, ?)", j.area, store.House, j.id); err != nil {
			return err
		}
	}
	const atOnce = 200
	hash := make([]byte, 32)
	for begin := from; begin < to; begin += atOnce {
		var places []string
		var values []any
		for i := begin; i < min(begin+atOnce, to); i++ {
			places = append(places, "(?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)")
			values = append(values, j.ids[i], store.House, j.id, j.area, i+1, "read", now, j.person, now, hash, j.texts[i], hash)
		}
		_, err := tx.ExecContext(ctx, "INSERT INTO entries (id, company_id, job_id, area_id, seq, kind, at, by_person, received_at, hash, bytes, receipt) VALUES "+strings.Join(places, ", "), values...)
		if err != nil {
			return err
		}
	}
	return tx.Commit()
}
