package api

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"dusha/internal/store"
)

// Right is what somebody has to be allowed, to pass a door.
type Right string

// The rights there are. While everyone who reaches the server sits at its own machine, everyone
// has all of them; who may do what is asked at one place, Config.May.
const (
	Public Right = "public" // whoever can reach the server
	Member Right = "member" // reads what the firm's jobs hold
	Write  Right = "write"  // adds to a job it has added to
	Join   Right = "join"   // adds to a job for the first time
	Make   Right = "make"   // begins a job
	Export Right = "export" // takes a whole job away
	Admin  Right = "admin"  // looks after the server
)

// route is what holds for one door.
type route struct {
	method, path string
	right        Right
	within       time.Duration // for all of it, the reading and the answer with it
	takes        []string      // media types of its body; none: it has no body
	most         int64         // bytes of the body
	few          *gate         // how many at once; nil: as many as come
	share        *share        // how often one device; nil: as often as it likes
	local        bool          // only from the machine itself
	paired       bool          // only where devices are paired
}

const (
	ofJSON   = "application/json"
	quick    = 10 * time.Second
	usual    = 30 * time.Second
	slow     = 2 * time.Minute
	endless  = 15 * time.Minute // a large bundle to a slow reader
	mostName = 4 << 10
)

var pictures = []string{"image/jpeg", "image/png", "application/pdf", "application/octet-stream"}

// routesOf are all doors, with what holds for each: a door without a row does not start. Gates
// belong to one server.
func routesOf() []route {
	const job = "/api/jobs/:job"
	area := job + "/areas/:area"
	papers, bundles, photos, batches, compute, pairings, pins := newGate(3), newGate(3), newGate(6), newGate(12), newGate(2), newGate(2), newGate(2)
	posts, names, pictured, printed, taken := aMinute(600), aMinute(120), aMinute(120), aMinute(30), aMinute(6)
	return []route{
		{method: "GET", path: "/api/health", right: Public, within: quick},
		{method: "GET", path: "/api/openapi.json", right: Public, within: quick},
		{method: "GET", path: "/api/openapi.yaml", right: Public, within: quick},
		{method: "GET", path: "/api/openapi-3.0.json", right: Public, within: quick},
		{method: "GET", path: "/api/openapi-3.0.yaml", right: Public, within: quick},
		{method: "GET", path: "/api/session", right: Public, within: quick},
		{method: "POST", path: "/api/pair", right: Public, within: quick, takes: []string{ofJSON}, most: mostName, few: pairings, paired: true},
		{method: "GET", path: "/api/devices", right: Admin, within: quick},
		{method: "POST", path: "/api/pairings", right: Admin, within: quick, takes: []string{ofJSON}, most: mostName, paired: true},
		{method: "DELETE", path: "/api/devices/:device", right: Admin, within: quick, paired: true},
		{method: "GET", path: "/trust", right: Public, within: quick},
		{method: "GET", path: "/trust/" + trustFile, right: Public, within: quick},
		{method: "GET", path: "/api/jobs", right: Member, within: quick},
		{method: "GET", path: job + "/entries", right: Member, within: usual},
		{method: "POST", path: job + "/entries", right: Write, within: slow, takes: []string{ofJSON}, most: mostBatchBytes, few: batches, share: posts},
		{method: "GET", path: "/api/people", right: Member, within: quick},
		{method: "PUT", path: "/api/people/:person", right: Write, within: quick, takes: []string{ofJSON}, most: mostName, share: names},
		{method: "POST", path: "/api/people/:person/pin", right: Write, within: quick, takes: []string{ofJSON}, most: mostName, few: pins, paired: true},
		{method: "DELETE", path: "/api/people/:person/pin", right: Admin, within: quick, paired: true},
		{method: "GET", path: area + "/dossier.pdf", right: Member, within: slow, few: papers, share: printed},
		{method: "GET", path: area + "/cut-card.pdf", right: Member, within: slow, few: papers, share: printed},
		{method: "GET", path: job + "/days/:crew/days.pdf", right: Member, within: slow, few: papers, share: printed},
		{method: "GET", path: job + "/systems/:system/system.pdf", right: Member, within: slow, few: papers, share: printed},
		{method: "GET", path: job + "/sheets/:sheet/sheet.pdf", right: Member, within: slow, few: papers, share: printed},
		{method: "GET", path: job + "/materials.csv", right: Member, within: slow, few: papers, share: printed},
		{method: "GET", path: job + "/materials.xlsx", right: Member, within: slow, few: papers, share: printed},
		{method: "GET", path: job + "/materials.pdf", right: Member, within: slow, few: papers, share: printed},
		{method: "POST", path: job + "/estimate.pdf", right: Member, within: slow, takes: []string{ofJSON}, most: 1 << 20, few: papers, share: printed},
		{method: "GET", path: job + "/bundle.json", right: Export, within: endless, few: bundles, share: taken},
		{method: "PUT", path: job + "/photos/:photo", right: Write, within: slow, takes: pictures, most: store.MostPhoto, few: photos, share: pictured},
		{method: "GET", path: job + "/photos/:photo", right: Member, within: slow, few: photos},
		{method: "POST", path: computePath + ":operation", right: Member, within: usual, takes: []string{ofJSON}, most: mostCompute, few: compute, local: true},
		{method: "GET", path: "/*", right: Public, within: slow},
	}
}

// limitsOf are the bytes a door reads and how long it may take; one byte more than it takes, so
// that what is exactly as large goes through.
func limitsOf(method, path string) (most int64, within time.Duration) {
	path = strings.NewReplacer("{", ":", "}", "").Replace(path)
	for _, r := range routesOf() {
		if r.method == method && r.path == path {
			return r.most + 1, r.within
		}
	}
	return 1, quick // it does not start: see checkRoutes
}

// checkRoutes holds the doors that were made against the table.
func checkRoutes(e *echo.Echo, table []route) error {
	for _, made := range e.Router().Routes() {
		if !slices.ContainsFunc(table, func(r route) bool { return r.method == made.Method && r.path == made.Path }) {
			return fmt.Errorf("the door %s %s has no row in the table of routes", made.Method, made.Path)
		}
	}
	return nil
}

func isBody(method string) bool {
	return method == http.MethodPost || method == http.MethodPut || method == http.MethodPatch
}
