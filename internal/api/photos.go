package api

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"dusha/core/fault"
	"dusha/internal/store"
)

func (h handlers) registerPhotos(api huma.API) {
	register(api, huma.Operation{
		OperationID: "put-photo", Method: http.MethodPut, Path: "/api/jobs/{job}/photos/{photo}", Summary: "Keep a photo or a printed sheet that an entry names",
		DefaultStatus: http.StatusNoContent,
	}, h.keepPhoto)
	huma.Register(api, huma.Operation{
		OperationID: "get-photo", Method: http.MethodGet, Path: "/api/jobs/{job}/photos/{photo}", Summary: "A photo or a printed sheet",
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"image/jpeg": {}, "image/png": {}, "application/pdf": {}}}},
	}, h.photo)
}

// PhotoPath names a photo of a job.
type PhotoPath struct {
	JobPath
	Photo string `path:"photo" format:"uuid"`
}

type keepPhotoIn struct {
	PhotoPath
	RawBody []byte `contentType:"application/octet-stream"`
}

func (h handlers) keepPhoto(ctx context.Context, in *keepPhotoIn) (*struct{}, error) {
	err := h.of(ctx).KeepPhoto(ctx, uuid.MustParse(in.Job), uuid.MustParse(in.Photo), in.RawBody)
	for _, each := range []struct {
		is     error
		status int
		key    string
	}{
		{store.ErrOtherPhoto, http.StatusConflict, "photo.other_under_id"},
		{store.ErrOtherPicture, http.StatusUnprocessableEntity, "photo.no_jpeg"},
		{store.ErrPhotoTooLarge, http.StatusRequestEntityTooLarge, "request.body_too_large"},
		{store.ErrPhotosFull, http.StatusInsufficientStorage, "photo.no_room"},
		{store.ErrNoJob, http.StatusNotFound, "photo.no_job"},
	} {
		if errors.Is(err, each.is) {
			return nil, problem(ctx, each.status, fault.At("photo", each.key))
		}
	}
	if err != nil {
		return nil, failed(ctx, err)
	}
	return nil, nil
}

func (h handlers) photo(ctx context.Context, in *PhotoPath) (*paperOut, error) {
	kept, err := h.of(ctx).Photo(ctx, uuid.MustParse(in.Job), uuid.MustParse(in.Photo))
	switch {
	case err != nil:
		return nil, failed(ctx, err)
	case kept == nil:
		return nil, problem(ctx, http.StatusNotFound)
	}
	out := &paperOut{ContentType: kept.Media, Disposition: "inline", Caching: "private, max-age=31536000, immutable", Policy: policyOf(kept.Media), Body: kept.Bytes}
	if !strings.HasPrefix(kept.Media, "image/") && kept.Media != "application/pdf" {
		out.Disposition = "attachment" // kept by an older program, and nothing that is known
	}
	return out, nil
}
