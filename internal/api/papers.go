package api

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"mime"
	"net/http"
	"strings"
	"time"
	"unicode"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/site"
	"dusha/internal/dossier"
	"dusha/internal/exchange"
	"dusha/internal/store"
	"dusha/internal/words"
)

// registerPapers are the documents that leave: dossier and bundle.
func (h handlers) registerPapers(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-dossier", Method: http.MethodGet, Path: "/api/jobs/{job}/areas/{area}/dossier.pdf", Summary: "Dossier of a wet area as PDF",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/pdf": {}}}},
	}, h.dossier)
	huma.Register(api, huma.Operation{
		OperationID: "get-cut-card", Method: http.MethodGet, Path: "/api/jobs/{job}/areas/{area}/cut-card.pdf", Summary: "Cut card of a wet area as PDF, in large type",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/pdf": {}}}},
	}, h.cutCard)
	huma.Register(api, huma.Operation{
		OperationID: "get-system", Method: http.MethodGet, Path: "/api/jobs/{job}/systems/{system}/system.pdf", Summary: "A system to be read, as PDF",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/pdf": {}}}},
	}, h.systemPage)
	huma.Register(api, huma.Operation{
		OperationID: "get-sheet", Method: http.MethodGet, Path: "/api/jobs/{job}/sheets/{sheet}/sheet.pdf", Summary: "A data sheet to be read, as PDF",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/pdf": {}}}},
	}, h.sheetPage)
	huma.Register(api, huma.Operation{
		OperationID: "get-days", Method: http.MethodGet, Path: "/api/jobs/{job}/days/{crew}/days.pdf", Summary: "The accepted plan of the days as PDF, of one crew in large type, or of all",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/pdf": {}}}},
	}, h.daysPage)
	huma.Register(api, huma.Operation{
		OperationID: "get-bundle", Method: http.MethodGet, Path: "/api/jobs/{job}/bundle.json", Summary: "All entries of a job with their chain",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/json": {}}}},
	}, h.bundle)
}

type paperOut struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Caching     string `header:"Cache-Control"`
	Policy      string `header:"Content-Security-Policy"`
	Body        []byte
}

// policyOf is what a file of ours may do where it is opened.
func policyOf(kind string) string {
	if kind == "application/pdf" {
		return paperPolicy
	}
	return dataPolicy
}

func paper(kind, ending, disposition, name string, body []byte) *paperOut {
	return &paperOut{ContentType: kind, Disposition: mime.FormatMediaType(disposition, map[string]string{"filename": fileName(name) + "." + ending}), Caching: "no-store", Policy: policyOf(kind), Body: body}
}

// speaks says things as a job's papers do.
func speaks(job *site.Site) words.Speaker { return words.Of(job.Job().TimeZone, job.Job().Papers) }

// named is the name of a paper's file before it is made one: day, job, area and what it is.
func named(at time.Time, job *site.Site, area, what string) string {
	day := at.In(speaks(job).Zone).Format(time.DateOnly)
	return strings.Join([]string{day, job.Job().Name, area, what}, " ")
}

// fileName makes a name of letters and digits in any alphabet, its words joined by hyphens.
func fileName(name string) string {
	parts := strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.IsMark(r) })
	if len(parts) == 0 {
		return "paper"
	}
	return strings.Join(parts, "-")
}

type dossierIn struct {
	JobPath
	Area string `path:"area" format:"uuid"`
}

func (h handlers) dossier(ctx context.Context, in *dossierIn) (*paperOut, error) {
	kept, names, err := h.book(ctx, in.Job)
	if err != nil {
		return nil, err
	}
	b := dossier.Book{Names: names, At: time.Now().UTC().Truncate(time.Second)}
	var texts [][]byte
	var aside []logbook.Deviation
	for _, k := range kept {
		if k.AreaID == in.Area {
			b.Entries++
			b.Hash, b.Last = hex.EncodeToString(k.Hash), k.ReceivedAt
			if k.Aside != "" {
				aside = append(aside, logbook.Deviation{Entry: k.ID, Key: "deviation.set_aside", At: k.ReceivedAt.Format(time.RFC3339), Args: map[string]any{"seq": k.Seq, "why": k.Aside}})
			}
		}
		if k.Aside == "" {
			texts = append(texts, k.Bytes)
		}
	}
	if b.Entries == 0 {
		return nil, problem(ctx, http.StatusNotFound, fault.At("area", "request.nothing_there"))
	}
	job := site.Read(texts)
	b.Look = job.Area(in.Area).At(b.At)
	b.Look.Deviations = append(b.Look.Deviations, aside...)
	if b.Photos, err = h.photosOf(ctx, in.Job, b.Look.History); err != nil {
		return nil, failed(ctx, err)
	}
	var pdf bytes.Buffer
	if err := dossier.Write(&pdf, b); err != nil {
		return nil, problem(ctx, http.StatusInternalServerError, err)
	}
	return paper("application/pdf", "pdf", "inline", named(b.At, job, b.Look.Name, "dossier"), pdf.Bytes()), nil
}

func (h handlers) cutCard(ctx context.Context, in *dossierIn) (*paperOut, error) {
	return h.page(ctx, in.Job, "cut card", func(w *bytes.Buffer, job *site.Site, at time.Time) (string, error) {
		layout, err := job.Layout(in.Area)
		if err != nil {
			return "", problem(ctx, http.StatusNotFound, err)
		}
		return layout.Name, dossier.WriteCutCard(w, layout, speaks(job), at)
	})
}

type systemIn struct {
	JobPath
	System string `path:"system" maxLength:"200"`
}

func (h handlers) systemPage(ctx context.Context, in *systemIn) (*paperOut, error) {
	return h.page(ctx, in.Job, "system", func(w *bytes.Buffer, job *site.Site, at time.Time) (string, error) {
		page, err := job.SystemPage(in.System)
		if err != nil {
			return "", problem(ctx, http.StatusNotFound, err)
		}
		return page.System.Name, dossier.WriteSystem(w, page, speaks(job), at)
	})
}

type sheetIn struct {
	JobPath
	Sheet string `path:"sheet" maxLength:"200"`
}

func (h handlers) sheetPage(ctx context.Context, in *sheetIn) (*paperOut, error) {
	return h.page(ctx, in.Job, "data sheet", func(w *bytes.Buffer, job *site.Site, at time.Time) (string, error) {
		of, known := job.Job().Sheet(in.Sheet)
		if !known {
			return "", problem(ctx, http.StatusNotFound, fault.At("sheet", "sheet.unknown", "typed", fault.Short(in.Sheet)))
		}
		return of.Name, dossier.WriteSheet(w, of, speaks(job), at)
	})
}

type daysIn struct {
	JobPath
	Crew string `path:"crew" maxLength:"200"` // id, or "all"
}

func (h handlers) daysPage(ctx context.Context, in *daysIn) (*paperOut, error) {
	return h.page(ctx, in.Job, "days", func(w *bytes.Buffer, job *site.Site, at time.Time) (string, error) {
		crew := in.Crew
		if crew == "all" {
			crew = ""
		}
		cards, err := job.DayCards(crew, at)
		if err != nil {
			return "", problem(ctx, http.StatusNotFound, err)
		}
		return cards.Name, dossier.WriteDays(w, cards, speaks(job), at)
	})
}

// page makes a paper of something of a job, which write names.
func (h handlers) page(ctx context.Context, id, what string, write func(w *bytes.Buffer, job *site.Site, at time.Time) (string, error)) (*paperOut, error) {
	kept, _, err := h.book(ctx, id)
	if err != nil {
		return nil, err
	}
	now, job := time.Now().UTC().Truncate(time.Second), siteOf(kept)
	var pdf bytes.Buffer
	name, err := write(&pdf, job, now)
	var said huma.StatusError
	switch {
	case errors.As(err, &said):
		return nil, err
	case err != nil:
		return nil, problem(ctx, http.StatusInternalServerError, err)
	}
	return paper("application/pdf", "pdf", "inline", named(now, job, name, what), pdf.Bytes()), nil
}

// photosOf reads the pictures that a history names and that are kept.
func (h handlers) photosOf(ctx context.Context, job string, history *logbook.History) (map[string][]byte, error) {
	photos := map[string][]byte{}
	if history == nil {
		return photos, nil
	}
	for _, photo := range history.Photos {
		id, err := uuid.Parse(photo.ID)
		if err != nil {
			continue // an id of another shape names no picture
		}
		kept, err := h.of(ctx).Photo(ctx, uuid.MustParse(job), id)
		if err != nil {
			return nil, err
		}
		if kept == nil {
			continue
		}
		if sum := sha256.Sum256(kept.Bytes); hex.EncodeToString(sum[:]) == photo.Hash {
			photos[photo.ID] = kept.Bytes
		}
	}
	return photos, nil
}

// bundle streams a job: what is held of it at a time is an entry or a photo.
func (h handlers) bundle(ctx context.Context, in *JobPath) (*huma.StreamResponse, error) {
	job := uuid.MustParse(in.Job)
	there, _, err := h.of(ctx).Since(ctx, job, 0, 1)
	if err != nil {
		return nil, failed(ctx, err)
	}
	if len(there) == 0 {
		return nil, problem(ctx, http.StatusNotFound)
	}
	if err := h.note(ctx, "exported", in.Job); err != nil {
		return nil, err
	}
	return &huma.StreamResponse{Body: func(c huma.Context) {
		named := paper(ofJSON, "json", "attachment", "bundle-"+in.Job, nil)
		c.SetHeader("Content-Type", named.ContentType)
		c.SetHeader("Content-Disposition", named.Disposition)
		if err := exchange.Write(ctx, c.BodyWriter(), job, h.of(ctx)); err != nil {
			logOf(ctx).Warn("a bundle broke off", "job", in.Job, "error", err)
			panic(http.ErrAbortHandler) // so that who reads it sees that it broke off
		}
	}}, nil
}

// book reads all entries of a job, with the names of people; a job without any is not there, nor
// is one that was set aside.
func (h handlers) book(ctx context.Context, job string) ([]store.Kept, map[string]string, error) {
	id := uuid.MustParse(job)
	aside, err := h.of(ctx).QuarantineOf(ctx, id)
	if err != nil {
		return nil, nil, failed(ctx, err)
	}
	if len(aside) > 0 && aside[0].Seq == 0 {
		return nil, nil, problem(ctx, http.StatusGone, fault.At("job", "job.set_aside", "why", aside[0].Why))
	}
	kept, err := h.of(ctx).All(ctx, id)
	if err != nil {
		return nil, nil, failed(ctx, err)
	}
	if len(kept) == 0 {
		return nil, nil, problem(ctx, http.StatusNotFound)
	}
	names, err := h.of(ctx).Names(ctx)
	if err != nil {
		return nil, nil, failed(ctx, err)
	}
	return kept, names, nil
}
