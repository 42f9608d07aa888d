package api

import (
	"bytes"
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"dusha/core/fault"
	"dusha/internal/store"
)

// mostPhoto is the largest picture or printed sheet that is kept, bytes; the page makes photos
// smaller.
const mostPhoto = 10 << 20

// starts are the first bytes of the kinds of file that are kept.
var starts = []struct {
	bytes []byte
	media string
}{
	{[]byte{0xff, 0xd8, 0xff}, "image/jpeg"},
	{[]byte("\x89PNG"), "image/png"},
	{[]byte("%PDF"), "application/pdf"},
}

// mediaOf tells what a file is by its first bytes, "" where it is none that is kept.
func mediaOf(file []byte) string {
	for _, s := range starts {
		if bytes.HasPrefix(file, s.bytes) {
			return s.media
		}
	}
	return ""
}

func (h handlers) registerPhotos(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "put-photo", Method: http.MethodPut, Path: "/api/jobs/{job}/photos/{photo}", Summary: "Keep a photo or a printed sheet that an entry names",
		MaxBodyBytes: mostPhoto, BodyReadTimeout: batchReadTime, DefaultStatus: http.StatusNoContent,
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
	if mediaOf(in.RawBody) == "" {
		return nil, problem(h.Log, http.StatusUnprocessableEntity, fault.At("photo", "photo.no_jpeg"))
	}
	err := h.Store.KeepPhoto(ctx, uuid.MustParse(in.Job), uuid.MustParse(in.Photo), in.RawBody)
	switch {
	case errors.Is(err, store.ErrOtherPhoto):
		return nil, problem(h.Log, http.StatusConflict, fault.At("photo", "photo.other_under_id"))
	case err != nil:
		return nil, problem(h.Log, http.StatusInternalServerError, err)
	}
	return nil, nil
}

func (h handlers) photo(ctx context.Context, in *PhotoPath) (*paperOut, error) {
	jpeg, err := h.Store.Photo(ctx, uuid.MustParse(in.Job), uuid.MustParse(in.Photo))
	switch {
	case err != nil:
		return nil, problem(h.Log, http.StatusInternalServerError, err)
	case jpeg == nil:
		return nil, problem(h.Log, http.StatusNotFound)
	}
	return &paperOut{ContentType: mediaOf(jpeg), Disposition: "inline", Caching: "private, max-age=31536000, immutable", Body: jpeg}, nil
}
