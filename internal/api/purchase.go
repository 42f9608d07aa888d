package api

import (
	"bytes"
	"context"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dusha/core/site"
	"dusha/internal/dossier"
	"dusha/internal/purchase"
	"dusha/internal/store"
)

// kinds of a purchase list, by the ending of its file.
var purchaseKinds = map[string]struct {
	media       string
	disposition string
	write       func(*bytes.Buffer, purchase.Lists, time.Time) error
}{
	"csv":  {"text/csv", "attachment", func(w *bytes.Buffer, l purchase.Lists, _ time.Time) error { return purchase.CSV(w, l) }},
	"xlsx": {"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "attachment", func(w *bytes.Buffer, l purchase.Lists, _ time.Time) error { return purchase.XLSX(w, l) }},
	"pdf":  {"application/pdf", "inline", func(w *bytes.Buffer, l purchase.Lists, at time.Time) error { return dossier.WritePurchase(w, l, at) }},
}

// registerPurchase are the lists to buy by and the estimate.
func (h handlers) registerPurchase(api huma.API) {
	for _, ending := range []string{"csv", "xlsx", "pdf"} {
		huma.Register(api, huma.Operation{
			OperationID: "get-materials-" + ending, Method: http.MethodGet, Path: "/api/jobs/{job}/materials." + ending,
			Summary:   "Purchase list of a job or an area as " + strings.ToUpper(ending),
			Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{purchaseKinds[ending].media: {}}}},
		}, func(ctx context.Context, in *purchaseIn) (*paperOut, error) { return h.purchase(ctx, in, ending) })
	}
	register(api, huma.Operation{
		OperationID: "make-estimate", Method: http.MethodPost, Path: "/api/jobs/{job}/estimate.pdf", Summary: "Estimate for the client as PDF",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/pdf": {}}}},
	}, h.estimate)
}

type purchaseIn struct {
	JobPath
	Area string `query:"area" doc:"one area; empty: the whole job"`
}

// siteOf is a job of which what was set aside is left out.
func siteOf(kept []store.Kept) *site.Site {
	var texts [][]byte
	for _, k := range kept {
		if k.Aside == "" {
			texts = append(texts, k.Bytes)
		}
	}
	return site.Read(texts)
}

func (h handlers) purchase(ctx context.Context, in *purchaseIn, ending string) (*paperOut, error) {
	kept, _, err := h.book(ctx, in.Job)
	if err != nil {
		return nil, err
	}
	now, job := time.Now().UTC().Truncate(time.Second), siteOf(kept)
	lists := purchase.Lists{Job: job.Job().Name, Say: speaks(job)}
	for i, list := range job.Purchases(in.Area, now) {
		one := purchase.List{Purchase: list}
		if whole := in.Area == "" && i == 0; !whole && len(list.Areas) > 0 {
			one.For = list.Areas[0].Name
		}
		lists.Parts = append(lists.Parts, one)
	}
	area := ""
	if in.Area != "" && len(lists.Parts) > 0 {
		area = lists.Parts[0].For
	}
	kind := purchaseKinds[ending]
	var out bytes.Buffer
	if err := kind.write(&out, lists, now); err != nil {
		return nil, problem(ctx, http.StatusInternalServerError, err)
	}
	return paper(kind.media, ending, kind.disposition, named(now, job, area, "materials"), out.Bytes()), nil
}

type estimateIn struct {
	JobPath
	Body struct {
		Area       string            `json:"area,omitempty"`
		Typed      map[string]string `json:"typed"`
		Letterhead []string          `json:"letterhead" maxItems:"10"`
		Client     string            `json:"client,omitempty" maxLength:"200"`
	}
}

func (h handlers) estimate(ctx context.Context, in *estimateIn) (*paperOut, error) {
	kept, _, err := h.book(ctx, in.Job)
	if err != nil {
		return nil, err
	}
	now, job := time.Now().UTC().Truncate(time.Second), siteOf(kept)
	form, made := job.Estimate(in.Body.Area, now, in.Body.Typed)
	for _, q := range form.Questions {
		if q.Fault != nil {
			return nil, problem(ctx, http.StatusUnprocessableEntity, q.Fault)
		}
	}
	offer := dossier.Offer{Estimate: made, Job: job.Job().Name, Client: in.Body.Client, At: now, Sample: job.Materials(in.Body.Area, now).Sample, Say: speaks(job)}
	offer.Letterhead = slices.DeleteFunc(in.Body.Letterhead, func(line string) bool { return strings.TrimSpace(line) == "" })
	var pdf bytes.Buffer
	if err := dossier.WriteEstimate(&pdf, offer); err != nil {
		return nil, problem(ctx, http.StatusInternalServerError, err)
	}
	return paper("application/pdf", "pdf", "attachment", named(now, job, "", "estimate"), pdf.Bytes()), nil
}
