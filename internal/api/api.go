// Package api is the HTTP door: thin handlers that decode, call the store or the core,
// and encode. No rule of the job stands here.
package api

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"net/netip"
	"reflect"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/ops"
	"dusha/core/strict"
	"dusha/internal/access"
	"dusha/internal/exchange"
	"dusha/internal/store"
)

// Store is what the handlers need of the database.
type Store interface {
	exchange.Source
	Ping(ctx context.Context) error
	Jobs(ctx context.Context) ([]store.JobLine, error)
	Since(ctx context.Context, jobID uuid.UUID, after uint64, limit int) (kept []store.Kept, more bool, err error)
	AppendAs(ctx context.Context, jobID uuid.UUID, texts [][]byte, by store.Delivery) ([]store.Outcome, error)
	All(ctx context.Context, jobID uuid.UUID) ([]store.Kept, error)
	Name(ctx context.Context, id uuid.UUID, name string) error
	KeepPhoto(ctx context.Context, job, id uuid.UUID, file []byte) error
	Photo(ctx context.Context, job, id uuid.UUID) (*store.Photo, error)
}

// Config is what a server is made of.
type Config struct {
	Store  Store
	Table  ops.Table
	Page   fs.FS // the built page; nil serves the API alone
	Log    *slog.Logger
	Access *access.Access // devices that are paired; nil: whoever reaches the server may everything
	Trust  *Trust         // what devices are to trust, said on a page of its own; nil: nothing

	Proxies []netip.Addr                              // it stands behind these, and is reached through them alone
	Hosts   []string                                  // names it goes by, beside the machine's own
	May     func(request *http.Request, r Right) bool // who may do what; nil: everyone everything
	Of      func(request *http.Request) Store         // whose database it is asked of; nil: Store

	running chan struct{} // operations of the core
}

const (
	mostBatchBytes = 8 << 20
	mostBatch      = 500
	mostAtOnce     = 2000
	pingWithin     = time.Second
)

// New builds the whole server and the description of its API.
func New(c Config) (*echo.Echo, *huma.OpenAPI, error) {
	useProblems()
	e := echo.New()
	e.HTTPErrorHandler = answerErrors
	table := routesOf()
	c.running = make(chan struct{}, mostComputing)
	e.Use(doors(c, table), middleware.Recover())
	config := huma.DefaultConfig("Dusha", "1")
	config.OpenAPIPath, config.DocsPath, config.SchemasPath = "/api/openapi", "", ""
	config.CreateHooks = nil
	config.Components.Schemas = newRegistry("#/components/schemas/")
	api := huma.NewAPI(config, &echoAdapter{Handler: e, router: e})
	h := handlers{c}
	h.register(api)
	registerCompute(e, api, c)
	if c.Trust != nil {
		c.Trust.serve(e)
	}
	if c.Page != nil {
		servePage(e, c.Page)
	}
	return e, api.OpenAPI(), checkRoutes(e, table)
}

type handlers struct{ Config }

// caller is who asks: whose database, through which installation, with which rights.
type caller struct {
	store        Store
	installation *uuid.UUID
	may          func(Right) bool
	device       *store.Device  // nil where none is paired
	why          string         // why it is not let in
	from, host   string         // where it comes from, and by which name
	kinds        []logbook.Kind // of entries it may add; nil: all
}

type callerKey struct{}

// called tells who asks.
func (c Config) called(request *http.Request, header http.Header) (caller, error) {
	who := caller{store: c.Store, from: c.placeOf(request), host: request.Host, may: func(r Right) bool { return c.May == nil || c.May(request, r) }}
	if c.Of != nil {
		who.store = c.Of(request)
	}
	if id, err := uuid.Parse(request.Header.Get("Dusha-Installation")); err == nil {
		who.installation = &id
	}
	if c.Access == nil {
		return who, nil
	}
	var err error
	if who.device, who.why, err = c.enter(request, header); err != nil {
		return who, err
	}
	who.may = func(r Right) bool {
		return r == Public || who.device != nil && slices.Contains(rightsOf[who.device.Role], r)
	}
	if who.device != nil {
		who.installation = who.device.Installation
		if who.device.Role == access.Inspector {
			who.kinds = signing
		}
	}
	return who, nil
}

func callerOf(ctx context.Context) caller { return ctx.Value(callerKey{}).(caller) }

// of is the database that is asked.
func (h handlers) of(ctx context.Context) Store { return callerOf(ctx).store }

func (h handlers) register(api huma.API) {
	huma.Get(api, "/api/health", h.health)
	huma.Get(api, "/api/jobs", h.jobs)
	huma.Get(api, "/api/jobs/{job}/entries", h.since)
	register(api, huma.Operation{
		OperationID: "append-entries", Method: http.MethodPost, Path: "/api/jobs/{job}/entries", Summary: "Keep entries of one job",
		SkipValidateBody: true, // the reader of entries does, and strictly
	}, h.append)
	// What is read as it is, byte for byte, is described all the same.
	body := api.OpenAPI().Paths["/api/jobs/{job}/entries"].Post.RequestBody
	body.Content = map[string]*huma.MediaType{ofJSON: {Schema: api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[Batch](), true, "")}}
	huma.Get(api, "/api/people", h.people)
	register(api, huma.Operation{OperationID: "put-person", Method: http.MethodPut, Path: "/api/people/{person}", Summary: "Keep or blank a person's name"}, h.name)
	h.registerPapers(api)
	h.registerPurchase(api)
	h.registerPhotos(api)
	h.registerDevices(api)
}

type healthOut struct {
	Body struct {
		Database bool      `json:"database"`
		Now      time.Time `json:"now"`
	}
}

func (h handlers) health(ctx context.Context, _ *struct{}) (*healthOut, error) {
	out := &healthOut{}
	short, done := context.WithTimeout(ctx, pingWithin)
	defer done()
	out.Body.Database = h.of(ctx).Ping(short) == nil
	out.Body.Now = time.Now().UTC()
	return out, nil
}

type jobsIn struct {
	Known string `header:"If-None-Match" doc:"the ETag of the list that is known"`
}

type jobsOut struct {
	Status int
	ETag   string `header:"ETag"`
	Time   string `header:"Dusha-Time"`
	Body   *jobsBody
}

type jobsBody struct {
	Jobs []JobLine `json:"jobs"`
	Now  time.Time `json:"now"`
}

// JobLine is a job the server knows, with the number of its last entry, and what of it was set
// aside for everyone.
type JobLine struct {
	ID         string  `json:"id" format:"uuid"`
	LastSeq    uint64  `json:"lastSeq"`
	Head       string  `json:"head"` // last receipt, hex; another one at the same number is another book
	Quarantine []Aside `json:"quarantine"`
}

// Aside is an entry that was set aside, or, with number 0, the whole job.
type Aside struct {
	Seq uint64    `json:"seq"`
	ID  string    `json:"id" format:"uuid"`
	Why string    `json:"why"`
	At  time.Time `json:"at"`
}

// jobs lists what there is, or says in a word that nothing changed.
func (h handlers) jobs(ctx context.Context, in *jobsIn) (*jobsOut, error) {
	lines, err := h.of(ctx).Jobs(ctx)
	if err != nil {
		return nil, failed(ctx, err)
	}
	body := &jobsBody{Jobs: []JobLine{}, Now: time.Now().UTC()}
	for _, line := range lines {
		job := JobLine{line.ID, line.LastSeq, hex.EncodeToString(line.Head), []Aside{}}
		for _, q := range line.Quarantine {
			job.Quarantine = append(job.Quarantine, Aside(q))
		}
		body.Jobs = append(body.Jobs, job)
	}
	out := &jobsOut{Status: http.StatusOK, ETag: tagOf(body.Jobs), Time: body.Now.Format(time.RFC3339Nano), Body: body}
	if in.Known == out.ETag {
		out.Status, out.Body = http.StatusNotModified, nil
	}
	return out, nil
}

// tagOf names a list of jobs by all it says.
func tagOf(jobs []JobLine) string {
	sum := sha256.New()
	for _, j := range jobs {
		fmt.Fprintln(sum, j.ID, j.LastSeq, j.Head)
		for _, q := range j.Quarantine {
			fmt.Fprintf(sum, "aside %d %s %q %s\n", q.Seq, q.ID, q.Why, q.At.Format(time.RFC3339Nano))
		}
	}
	return fmt.Sprintf(`"%x"`, sum.Sum(nil))
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
	ID         string    `json:"id" format:"uuid"`
	AreaID     string    `json:"areaId,omitempty"`
	Seq        uint64    `json:"seq"`
	ReceivedAt time.Time `json:"receivedAt"`
	Hash       string    `json:"hash"`
	Bytes      string    `json:"bytes"`
}

func kept(k store.Kept) KeptEntry {
	return KeptEntry{k.ID, k.AreaID, k.Seq, k.ReceivedAt, hex.EncodeToString(k.Hash), string(k.Bytes)}
}

func (h handlers) since(ctx context.Context, in *sinceIn) (*sinceOut, error) {
	found, more, err := h.of(ctx).Since(ctx, uuid.MustParse(in.Job), in.After, mostAtOnce)
	if err != nil {
		return nil, failed(ctx, err)
	}
	out := &sinceOut{}
	out.Body.Entries, out.Body.More = []KeptEntry{}, more
	for _, k := range found {
		out.Body.Entries = append(out.Body.Entries, kept(k))
	}
	return out, nil
}

// Batch is some entries of one job, each as its exact text.
type Batch struct {
	Entries []json.RawMessage `json:"entries" minItems:"1" maxItems:"500"`
}

type appendIn struct {
	JobPath
	RawBody []byte `contentType:"application/json"`
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
	var batch Batch
	err := strict.DecodeAround("body", in.RawBody, &batch)
	switch {
	case err != nil:
	case len(batch.Entries) == 0:
		err = fault.At("entries", "list.empty")
	case len(batch.Entries) > mostBatch:
		err = fault.At("entries", "list.too_long", "most", mostBatch)
	}
	if err != nil {
		return nil, problem(ctx, http.StatusUnprocessableEntity, err)
	}
	texts := make([][]byte, len(batch.Entries))
	for i, raw := range batch.Entries {
		texts[i] = raw
	}
	who := callerOf(ctx)
	texts, places, barred := who.mayAdd(texts)
	by := store.Delivery{By: who.installation, Make: who.may(Make), Join: who.may(Join)}
	var outcomes []store.Outcome
	if len(texts) > 0 {
		outcomes, err = who.store.AppendAs(ctx, uuid.MustParse(in.Job), texts, by)
	}
	switch {
	case errors.Is(err, store.ErrMayNotMake):
		return nil, problem(ctx, http.StatusForbidden, fault.At("right", "request.not_allowed", "right", string(Make)))
	case errors.Is(err, store.ErrMayNotJoin):
		return nil, problem(ctx, http.StatusForbidden, fault.At("right", "request.not_allowed", "right", string(Join)))
	case err != nil:
		return nil, failed(ctx, err)
	}
	out := &appendOut{}
	out.Body.Now = time.Now().UTC()
	out.Body.Results = barred
	for i, o := range outcomes {
		out.Body.Results[places[i]] = result(o)
	}
	return out, nil
}

// mayAdd parts entries into those that somebody may add, with their places in the batch, and the answers
// of the batch, filled where one may not.
func (who caller) mayAdd(texts [][]byte) (may [][]byte, places []int, answers []AppendResult) {
	answers = make([]AppendResult, len(texts))
	for i, text := range texts {
		if who.kinds != nil { // else nothing need be read
			if e, err := logbook.Parse(text); err == nil && !slices.Contains(who.kinds, e.Kind) {
				answers[i] = AppendResult{ID: e.ID, Status: http.StatusForbidden, Faults: fault.Faults{fault.At("right", "request.not_allowed", "right", string(Write))}}
				continue
			}
		}
		may, places = append(may, text), append(places, i)
	}
	return may, places, answers
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
	names, err := h.of(ctx).Names(ctx)
	if err != nil {
		return nil, failed(ctx, err)
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
	if err := h.of(ctx).Name(ctx, uuid.MustParse(in.Person), in.Body.Name); err != nil {
		return nil, failed(ctx, err)
	}
	return nil, h.note(ctx, "named", in.Person)
}

// register makes a door with the limits of its row.
func register[In, Out any](api huma.API, op huma.Operation, handler func(context.Context, *In) (*Out, error)) {
	op.MaxBodyBytes, op.BodyReadTimeout = limitsOf(op.Method, op.Path)
	huma.Register(api, op, handler)
}

// failed says what went wrong inside: too much at once where time ran out, else nothing of it.
func failed(ctx context.Context, err error) *Problem {
	if errors.Is(err, context.DeadlineExceeded) || errors.Is(err, context.Canceled) {
		logOf(ctx).Warn("not answered in time", "error", err)
		return problem(ctx, http.StatusServiceUnavailable, fault.At("request", "request.too_busy"))
	}
	return problem(ctx, http.StatusInternalServerError, err)
}
