// Package api is the HTTP door: thin handlers that decode, call the store or the core,
// and encode. No rule of the job stands here.
package api

import (
	"context"
	"encoding/hex"
	"encoding/json"
	"io/fs"
	"log/slog"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/internal/store"
)

// Store is what the handlers need of the database.
type Store interface {
	Ping(ctx context.Context) error
	Jobs(ctx context.Context) ([]store.JobLine, error)
	Since(ctx context.Context, jobID uuid.UUID, after uint64, limit int) ([]store.Kept, error)
	Append(ctx context.Context, jobID uuid.UUID, texts [][]byte) ([]store.Outcome, error)
	All(ctx context.Context, jobID uuid.UUID) ([]store.Kept, error)
	Name(ctx context.Context, id uuid.UUID, name string) error
	Names(ctx context.Context) (map[string]string, error)
	KeepPhoto(ctx context.Context, job, id uuid.UUID, jpeg []byte) error
	Photo(ctx context.Context, job, id uuid.UUID) ([]byte, error)
	Photos(ctx context.Context, job uuid.UUID) (map[string][]byte, error)
}

// Config is what a server is made of.
type Config struct {
	Store Store
	Table ops.Table
	Page  fs.FS // the built page; nil serves the API alone
	Log   *slog.Logger
}

const (
	mostBatchBytes = 8 << 20
	mostBatch      = 500
	mostAtOnce     = 2000
	batchReadTime  = 60 * time.Second
)

// New builds the whole server and the description of its API.
func New(c Config) (*echo.Echo, *huma.OpenAPI) {
	useProblems(c.Log)
	e := echo.New()
	e.HTTPErrorHandler = answerErrors(c.Log)
	e.Use(middleware.Recover())
	config := huma.DefaultConfig("Dusha", "1")
	config.OpenAPIPath, config.DocsPath, config.SchemasPath = "/api/openapi", "", ""
	config.CreateHooks = nil
	config.Components.Schemas = newRegistry("#/components/schemas/")
	api := huma.NewAPI(config, &echoAdapter{Handler: e, router: e})
	h := handlers{c}
	h.register(api)
	registerCompute(e, api, c)
	if c.Page != nil {
		servePage(e, c.Page)
	}
	return e, api.OpenAPI()
}

type handlers struct{ Config }

func (h handlers) register(api huma.API) {
	huma.Get(api, "/api/health", h.health)
	huma.Get(api, "/api/jobs", h.jobs)
	huma.Get(api, "/api/jobs/{job}/entries", h.since)
	huma.Register(api, huma.Operation{
		OperationID: "append-entries", Method: http.MethodPost, Path: "/api/jobs/{job}/entries",
		Summary: "Keep entries of one job", MaxBodyBytes: mostBatchBytes, BodyReadTimeout: batchReadTime,
	}, h.append)
	huma.Get(api, "/api/people", h.people)
	huma.Put(api, "/api/people/{person}", h.name)
	h.registerPapers(api)
	h.registerPurchase(api)
	h.registerPhotos(api)
}

type healthOut struct {
	Body struct {
		Database bool      `json:"database"`
		Now      time.Time `json:"now"`
	}
}

func (h handlers) health(ctx context.Context, _ *struct{}) (*healthOut, error) {
	out := &healthOut{}
	out.Body.Database = h.Store.Ping(ctx) == nil
	out.Body.Now = time.Now().UTC()
	return out, nil
}

type jobsOut struct {
	Body struct {
		Jobs []JobLine `json:"jobs"`
		Now  time.Time `json:"now"`
	}
}

// JobLine is a job the server knows, with the number of its last entry.
type JobLine struct {
	ID      string `json:"id" format:"uuid"`
	LastSeq uint64 `json:"lastSeq"`
}

func (h handlers) jobs(ctx context.Context, _ *struct{}) (*jobsOut, error) {
	lines, err := h.Store.Jobs(ctx)
	if err != nil {
		return nil, problem(h.Log, http.StatusInternalServerError, err)
	}
	out := &jobsOut{}
	out.Body.Jobs, out.Body.Now = []JobLine{}, time.Now().UTC()
	for _, line := range lines {
		out.Body.Jobs = append(out.Body.Jobs, JobLine(line))
	}
	return out, nil
}

// JobPath is the id in the address; uuid.UUID would be decoded with an unclear message.
type JobPath struct {
	Job string `path:"job" format:"uuid"`
}

type sinceIn struct {
	JobPath
	After uint64 `query:"after"`
}

type sinceOut struct {
	Body struct {
		Entries []KeptEntry `json:"entries"`
		More    bool        `json:"more"`
	}
}

// KeptEntry is an entry with what the server added; bytes is its exact text as received.
type KeptEntry struct {
	Seq        uint64    `json:"seq"`
	ReceivedAt time.Time `json:"receivedAt"`
	Hash       string    `json:"hash"`
	Bytes      string    `json:"bytes"`
}

func kept(k store.Kept) KeptEntry {
	return KeptEntry{k.Seq, k.ReceivedAt, hex.EncodeToString(k.Hash), string(k.Bytes)}
}

func (h handlers) since(ctx context.Context, in *sinceIn) (*sinceOut, error) {
	found, err := h.Store.Since(ctx, uuid.MustParse(in.Job), in.After, mostAtOnce+1)
	if err != nil {
		return nil, problem(h.Log, http.StatusInternalServerError, err)
	}
	out := &sinceOut{}
	out.Body.Entries, out.Body.More = []KeptEntry{}, len(found) > mostAtOnce
	for _, k := range found[:min(len(found), mostAtOnce)] {
		out.Body.Entries = append(out.Body.Entries, kept(k))
	}
	return out, nil
}

type appendIn struct {
	JobPath
	RawBody []byte
	Body    struct {
		Entries []json.RawMessage `json:"entries" minItems:"1"`
	}
}

type appendOut struct {
	Body struct {
		Results []AppendResult `json:"results"`
		Now     time.Time      `json:"now"`
	}
}

// AppendResult is what became of one entry, in the order they were sent. Status is 201 kept,
// 200 already kept, 409 the id is there with another body, 422 refused.
type AppendResult struct {
	ID     string       `json:"id"`
	Status int          `json:"status"`
	Seq    uint64       `json:"seq,omitempty"`
	Hash   string       `json:"hash,omitempty"`
	Faults fault.Faults `json:"faults"`
}

func (h handlers) append(ctx context.Context, in *appendIn) (*appendOut, error) {
	if len(in.Body.Entries) > mostBatch {
		return nil, problem(h.Log, http.StatusUnprocessableEntity, fault.At("entries", "list.too_long", "most", mostBatch))
	}
	texts := make([][]byte, len(in.Body.Entries))
	for i, raw := range in.Body.Entries {
		texts[i] = raw
	}
	outcomes, err := h.Store.Append(ctx, uuid.MustParse(in.Job), texts)
	if err != nil {
		return nil, problem(h.Log, http.StatusInternalServerError, err)
	}
	out := &appendOut{}
	out.Body.Results, out.Body.Now = []AppendResult{}, time.Now().UTC()
	for _, o := range outcomes {
		out.Body.Results = append(out.Body.Results, result(o))
	}
	return out, nil
}

func result(o store.Outcome) AppendResult {
	r := AppendResult{ID: o.ID, Status: http.StatusOK, Faults: fault.Faults{}}
	switch {
	case len(o.Refused) > 0:
		r.Status, r.Faults = http.StatusUnprocessableEntity, o.Refused
	case o.Conflict:
		r.Status, r.Faults = http.StatusConflict, fault.Faults{fault.At("id", "entry.same_id_other_body")}
	case o.New:
		r.Status = http.StatusCreated
	}
	if o.Kept != nil {
		r.Seq, r.Hash = o.Kept.Seq, hex.EncodeToString(o.Kept.Hash)
	}
	return r
}

type peopleOut struct {
	Body struct {
		Names map[string]string `json:"names"`
	}
}

func (h handlers) people(ctx context.Context, _ *struct{}) (*peopleOut, error) {
	names, err := h.Store.Names(ctx)
	if err != nil {
		return nil, problem(h.Log, http.StatusInternalServerError, err)
	}
	out := &peopleOut{}
	out.Body.Names = names
	return out, nil
}

type nameIn struct {
	Person string `path:"person" format:"uuid"`
	Body   struct {
		Name string `json:"name" maxLength:"80"`
	}
}

func (h handlers) name(ctx context.Context, in *nameIn) (*struct{}, error) {
	if err := h.Store.Name(ctx, uuid.MustParse(in.Person), in.Body.Name); err != nil {
		return nil, problem(h.Log, http.StatusInternalServerError, err)
	}
	return nil, nil
}
