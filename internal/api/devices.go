package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"rsc.io/qr"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/internal/access"
	"dusha/internal/exchange"
	"dusha/internal/store"
)

// sessionCookie holds what a paired device shows; a browser gives it to this very host alone.
const sessionCookie = "__Host-dusha"

// rightsOf a role, beside what everybody may.
var rightsOf = map[string][]Right{
	access.Owner:     {Member, Write, Join, Make, Export, Admin},
	access.Crew:      {Member, Write, Join, Make},
	access.Inspector: {Member, Write, Join},
}

// signing are the kinds of entries that an inspector adds: a signature, a hold, and who it is.
var signing = []logbook.Kind{logbook.KindSigned, logbook.KindAccepted, logbook.KindPersonJoined}

func cookie(secret string) http.Cookie {
	return http.Cookie{Name: sessionCookie, Value: secret, Path: "/", MaxAge: int(access.GoodFor.Seconds()), Secure: true, HttpOnly: true, SameSite: http.SameSiteStrictMode}
}

// enter finds the device that asks, and gives it another secret where its own is old.
func (c Config) enter(request *http.Request, header http.Header) (d *store.Device, why string, err error) {
	shown := ""
	if found, err := request.Cookie(sessionCookie); err == nil {
		shown = found.Value
	}
	waiting := -1
	if n, err := strconv.Atoi(request.Header.Get("Dusha-Waiting")); err == nil && n >= 0 {
		waiting = n
	}
	d, fresh, why, err := c.Access.Who(request.Context(), shown, waiting)
	if fresh != "" {
		next := cookie(fresh)
		header.Add("Set-Cookie", next.String())
	}
	return d, why, err
}

func (h handlers) registerDevices(api huma.API) {
	huma.Get(api, "/api/session", h.session)
	register(api, huma.Operation{OperationID: "pair", Method: http.MethodPost, Path: "/api/pair", Summary: "Pair a device by a one-time code"}, h.pair)
	huma.Get(api, "/api/devices", h.devices)
	register(api, huma.Operation{OperationID: "offer-pairing", Method: http.MethodPost, Path: "/api/pairings", Summary: "Make a one-time code"}, h.offer)
	register(api, huma.Operation{OperationID: "check-pin", Method: http.MethodPost, Path: "/api/people/{person}/pin", Summary: "Hold four digits against a person's, or set them"}, h.pin)
	register(api, huma.Operation{OperationID: "drop-pin", Method: http.MethodDelete, Path: "/api/people/{person}/pin", Summary: "Let a person set other digits", DefaultStatus: http.StatusNoContent}, h.noPin)
	register(api, huma.Operation{OperationID: "revoke-device", Method: http.MethodDelete, Path: "/api/devices/{device}", Summary: "Shut a device out", DefaultStatus: http.StatusNoContent}, h.revoke)
}

type pinIn struct {
	Person string `path:"person" format:"uuid"`
	Body   struct {
		Pin   string `json:"pin" maxLength:"20"`
		First bool   `json:"first,omitempty" doc:"they are set where none are"`
	}
}

type pinOut struct {
	Body struct {
		Set bool `json:"set"` // there was none, and now it is this one
	}
}

func (h handlers) pin(ctx context.Context, in *pinIn) (*pinOut, error) {
	set, err := h.Access.CheckPin(ctx, uuid.MustParse(in.Person), in.Body.Pin, in.Body.First)
	var said *fault.Fault
	switch {
	case errors.As(err, &said) && said.Key == "pin.rests":
		return nil, problem(ctx, http.StatusTooManyRequests, said)
	case errors.As(err, &said):
		return nil, problem(ctx, http.StatusUnprocessableEntity, said)
	case err != nil:
		return nil, failed(ctx, err)
	}
	out := &pinOut{}
	out.Body.Set = set
	return out, nil
}

type noPinIn struct {
	Person string `path:"person" format:"uuid"`
}

// noPin lets a person set others, where the old ones were forgotten.
func (h handlers) noPin(ctx context.Context, in *noPinIn) (*struct{}, error) {
	done, err := h.Access.DropPin(ctx, uuid.MustParse(in.Person))
	if err != nil {
		return nil, failed(ctx, err)
	}
	if !done {
		return nil, problem(ctx, http.StatusNotFound, fault.At("pin", "pin.none"))
	}
	return nil, h.note(ctx, "pin_dropped", in.Person)
}

// SessionBody is what a page is told of itself.
type SessionBody struct {
	Shut   bool   `json:"shut"` // devices are paired here
	Paired bool   `json:"paired"`
	Why    string `json:"why"` // key of why it is not let in, "" where it is
	Device string `json:"device"`
	Name   string `json:"name"`
	Role   string `json:"role"`
}

type sessionOut struct{ Body SessionBody }

func (h handlers) session(ctx context.Context, _ *struct{}) (*sessionOut, error) {
	who := callerOf(ctx)
	out := &sessionOut{SessionBody{Shut: h.Access != nil, Paired: who.device != nil, Why: who.why}}
	if who.device != nil {
		out.Body.Device, out.Body.Name, out.Body.Role = who.device.ID.String(), who.device.Name, who.device.Role
	} else if h.Access == nil {
		out.Body.Role = access.Owner
	}
	return out, nil
}

type pairIn struct {
	Body struct {
		Code string `json:"code" maxLength:"40"`
		Name string `json:"name" maxLength:"200"`
		Key  []byte `json:"key,omitempty" maxLength:"200" doc:"public key of its signatures, P-256: an uncompressed point"`
	}
}

type pairOut struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
	Body      SessionBody
}

func (h handlers) pair(ctx context.Context, in *pairIn) (*pairOut, error) {
	who := callerOf(ctx)
	if len(in.Body.Key) > 0 {
		if _, err := exchange.Key(in.Body.Key); err != nil {
			return nil, problem(ctx, http.StatusUnprocessableEntity, err)
		}
	}
	secret, d, err := h.Access.Pair(ctx, who.from, in.Body.Code, in.Body.Name, in.Body.Key, who.installation)
	var said *fault.Fault
	switch {
	case errors.Is(err, access.ErrTooMany):
		return nil, problem(ctx, http.StatusTooManyRequests, fault.At("code", "pairing.too_many"))
	case errors.As(err, &said):
		return nil, problem(ctx, http.StatusUnprocessableEntity, err)
	case err != nil:
		return nil, failed(ctx, err)
	}
	return &pairOut{cookie(secret), SessionBody{Shut: true, Paired: true, Device: d.ID.String(), Name: d.Name, Role: d.Role}}, nil
}

// DeviceLine is a device that was paired.
type DeviceLine struct {
	ID       string     `json:"id" format:"uuid"`
	Name     string     `json:"name"`
	Role     string     `json:"role"`
	PairedAt time.Time  `json:"pairedAt"`
	SeenAt   time.Time  `json:"seenAt"`
	Waiting  int        `json:"waiting"` // entries it has not delivered, as it said last
	Revoked  *time.Time `json:"revokedAt,omitempty"`
	This     bool       `json:"this"` // it is the one that asks
}

// AuditLine is something that was done with devices, names and whole jobs.
type AuditLine struct {
	At      time.Time `json:"at"`
	What    string    `json:"what"`
	Device  string    `json:"device"` // id of the one it was done with, "" at the server itself
	Subject string    `json:"subject"`
}

type devicesOut struct {
	Body struct {
		Devices []DeviceLine `json:"devices"`
		Audit   []AuditLine  `json:"audit"`
		Pins    []string     `json:"pins"` // people who set four digits
	}
}

func (h handlers) devices(ctx context.Context, _ *struct{}) (*devicesOut, error) {
	out := &devicesOut{}
	out.Body.Devices, out.Body.Audit, out.Body.Pins = []DeviceLine{}, []AuditLine{}, []string{}
	if h.Access == nil {
		return out, nil
	}
	list, err := h.Access.Devices(ctx)
	if err != nil {
		return nil, failed(ctx, err)
	}
	who := callerOf(ctx).device
	for _, d := range list {
		out.Body.Devices = append(out.Body.Devices, DeviceLine{d.ID.String(), d.Name, d.Role, d.PairedAt, d.SeenAt, d.Waiting, d.RevokedAt, who != nil && who.ID == d.ID})
	}
	const most = 200
	lines, err := h.Access.Audit(ctx, most)
	if err != nil {
		return nil, failed(ctx, err)
	}
	for _, l := range lines {
		line := AuditLine{At: l.At, What: l.What, Subject: l.Subject}
		if l.DeviceID != nil {
			line.Device = l.DeviceID.String()
		}
		out.Body.Audit = append(out.Body.Audit, line)
	}
	people, err := h.Access.Pins(ctx)
	if err != nil {
		return nil, failed(ctx, err)
	}
	for _, person := range people {
		out.Body.Pins = append(out.Body.Pins, person.String())
	}
	return out, nil
}

type offerIn struct {
	Host string `header:"Host"`
	Body struct {
		Role string `json:"role" enum:"owner,crew,inspector"`
	}
}

type offerOut struct {
	Body struct {
		Code    string    `json:"code"`
		Until   time.Time `json:"until"`
		Link    string    `json:"link"`
		Picture string    `json:"picture"` // the link as a QR code: a path of an SVG, one unit a module
		Modules int       `json:"modules"` // a side, with its quiet border
	}
}

func (h handlers) offer(ctx context.Context, in *offerIn) (*offerOut, error) {
	who := callerOf(ctx)
	code, until, err := h.Access.Offer(ctx, in.Body.Role, &who.device.ID)
	if err != nil {
		return nil, failed(ctx, err)
	}
	out := &offerOut{}
	out.Body.Code, out.Body.Until, out.Body.Link = code, until, PairLink("https://"+who.host, code)
	if out.Body.Picture, out.Body.Modules, err = QR(out.Body.Link); err != nil {
		return nil, failed(ctx, err)
	}
	return out, nil
}

// PairLink leads a device to its pairing; the code stands behind the #, which no browser sends.
func PairLink(address, code string) string { return address + "/pair#" + code }

// quiet is the border of a QR code, in modules (ISO/IEC 18004).
const quiet = 4

// QR draws a text as a QR code: rows of squares as a path.
func QR(text string) (path string, modules int, err error) {
	code, err := qr.Encode(text, qr.M)
	if err != nil {
		return "", 0, err
	}
	var b strings.Builder
	for y := range code.Size {
		for x := 0; x < code.Size; x++ {
			if !code.Black(x, y) {
				continue
			}
			from := x
			for x < code.Size && code.Black(x, y) {
				x++
			}
			fmt.Fprintf(&b, "M%d %dh%dv1h-%dz", from+quiet, y+quiet, x-from, x-from)
		}
	}
	return b.String(), code.Size + 2*quiet, nil
}

type revokeIn struct {
	Device string `path:"device" format:"uuid"`
}

func (h handlers) revoke(ctx context.Context, in *revokeIn) (*struct{}, error) {
	done, err := h.Access.Revoke(ctx, uuid.MustParse(in.Device))
	if err != nil {
		return nil, failed(ctx, err)
	}
	if !done {
		return nil, problem(ctx, http.StatusNotFound, fault.At("device", "pairing.no_device"))
	}
	return nil, h.note(ctx, "revoked", in.Device)
}

// note keeps a line of the audit, where devices are paired.
func (h handlers) note(ctx context.Context, what, subject string) error {
	who := callerOf(ctx)
	if h.Access == nil || who.device == nil {
		return nil
	}
	if err := h.Access.Note(ctx, what, &who.device.ID, subject); err != nil {
		return failed(ctx, err)
	}
	return nil
}
