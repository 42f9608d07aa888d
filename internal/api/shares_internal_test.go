package api

import (
	"bytes"
	"context"
	"log/slog"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"

	"dusha/internal/access"
	"dusha/internal/dbtest"
)

// One device asks for more papers than anybody reads: it has to wait, the others do not.
func TestADeviceHasItsShare(t *testing.T) {
	f := newFirm(t, dbtest.OpenEmpty(t, "shares"))
	greedy, other := f.pair(access.Crew), f.pair(access.Crew)
	path := "/api/jobs/" + uuid.NewString() + "/materials.csv"
	var last answer
	asked := 0
	for last.status != http.StatusTooManyRequests && asked < 100 {
		last = f.ask(greedy, "GET", path, "")
		asked++
	}
	if asked < 31 || asked > 35 || !strings.Contains(last.body, "request.too_often") {
		t.Errorf("%d papers, then %d %s", asked, last.status, last.body)
	}
	if wait, err := strconv.Atoi(last.header.Get("Retry-After")); err != nil || wait < 1 || wait > 2 {
		t.Errorf("to wait: %q", last.header.Get("Retry-After"))
	}
	if a := f.ask(greedy, "GET", "/api/jobs", ""); a.status != http.StatusOK {
		t.Errorf("the list of jobs: %d", a.status)
	}
	if a := f.ask(other, "GET", path, ""); a.status != http.StatusNotFound {
		t.Errorf("another device: %d", a.status)
	}
}

// Bytes count over all doors; who is not paired (a server on loopback) has no share.
func TestBodiesOfADevice(t *testing.T) {
	post := route{method: http.MethodPut, most: 10 << 20}
	request, err := http.NewRequest(http.MethodPut, "/", nil)
	if err != nil {
		t.Fatal(err)
	}
	request.ContentLength = 10 << 20
	bodies := allBodies()
	device := uuid.New()
	n := 0
	for post.tooMuch(device, request, bodies) == 0 && n < 50 {
		n++
	}
	if n < 6 || n > 8 { // 64 MiB and what comes in while it counts
		t.Errorf("%d bodies of 10 MiB at once", n)
	}
	if wait := post.tooMuch(device, request, bodies); wait <= 0 || wait > 3*time.Second {
		t.Errorf("to wait %s for 10 MiB at 256 MiB a minute", wait)
	}
	request.ContentLength = -1
	if post.tooMuch(device, request, bodies) == 0 {
		t.Error("a body that does not say how large it is was taken for nothing")
	}
	if wait := post.tooMuch(uuid.New(), request, bodies) + post.tooMuch(uuid.Nil, request, bodies); wait != 0 {
		t.Errorf("others wait %s", wait)
	}
}

// Of six places one device takes three, and leaves them to others again.
func TestHalfThePlacesAreForOthers(t *testing.T) {
	g := newGate(6)
	greedy := uuid.New()
	soon := func() context.Context {
		ctx, done := context.WithTimeout(t.Context(), 50*time.Millisecond)
		t.Cleanup(done)
		return ctx
	}
	var leave []func()
	for range 3 {
		out, err := g.enter(soon(), greedy)
		if err != nil {
			t.Fatal(err)
		}
		leave = append(leave, out)
	}
	if _, err := g.enter(soon(), greedy); err == nil {
		t.Error("a fourth place of one device")
	}
	for range 3 {
		if _, err := g.enter(soon(), uuid.New()); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := g.enter(soon(), uuid.Nil); err == nil {
		t.Error("a seventh place")
	}
	if _, err := g.enter(soon(), greedy); err == nil { // it waited in its own line, and left it again
		t.Error("a place that is none")
	}
	leave[0]()
	if _, err := g.enter(soon(), greedy); err != nil {
		t.Error("a place that was given back is lost")
	}
}

// safeBuffer is a log that many write.
type safeBuffer struct {
	mutex sync.Mutex
	text  bytes.Buffer
}

func (b *safeBuffer) Write(text []byte) (int, error) {
	b.mutex.Lock()
	defer b.mutex.Unlock()
	return b.text.Write(text)
}

func (b *safeBuffer) String() string {
	b.mutex.Lock()
	defer b.mutex.Unlock()
	return b.text.String()
}

// Each request has its number in the log; no name, code, digits or secret stands there, also where the
// database fails.
func TestTheLogKnowsNoNames(t *testing.T) {
	var log safeBuffer
	st, gone := dbtest.OpenEmpty(t, "log"), dbtest.OpenEmpty(t, "log_gone")
	if err := gone.Close(); err != nil {
		t.Fatal(err)
	}
	f := newFirm(t, st, func(c *Config) {
		c.Log = slog.New(slog.NewTextHandler(&log, &slog.HandlerOptions{Level: slog.LevelDebug}))
		c.Of = func(r *http.Request) Store {
			if r.Header.Get("Broken") != "" {
				return gone
			}
			return st
		}
	})
	owner := f.pair(access.Owner)
	person, job := uuid.NewString(), uuid.NewString()
	offered := f.ask(owner, "POST", "/api/pairings", `{"role":"crew"}`)
	code := strings.Split(strings.SplitN(offered.body, `"code":"`, 2)[1], `"`)[0]
	for what, c := range map[string]struct {
		a    answer
		want int
		line bool // it stands in a line also where not all is asked for
	}{
		"a name":          {f.ask(owner, "PUT", "/api/people/"+person, `{"name":"Somebody Unsaid"}`), 204, true},
		"a name too long": {f.ask(owner, "PUT", "/api/people/"+person, `{"name":"Somebody `+strings.Repeat("Unsaid", 20)+`"}`), 422, true},
		"digits":          {f.ask(owner, "POST", "/api/people/"+person+"/pin", `{"pin":"4711","first":true}`), 200, true},
		"a wrong code":    {f.ask("", "POST", "/api/pair", `{"code":"2222-3333","name":"Unsaid tablet"}`), 422, true},
		"a wrong secret":  {f.ask("unsaid-secret", "GET", "/api/jobs", ""), 401, true},
		"no entry":        {f.ask(owner, "POST", "/api/jobs/"+job+"/entries", `{"entries":[{"Unsaid":1}]}`), 200, true},
		"no database":     {f.ask(owner, "PUT", "/api/people/"+person, `{"name":"Somebody Unsaid"}`, "Broken", "1"), 500, true},
		"no list":         {f.ask(owner, "GET", "/api/jobs", "", "Broken", "1"), 500, true},
		"a list":          {f.ask(owner, "GET", "/api/jobs", ""), 200, false},
	} {
		number := c.a.header.Get(requestHeader)
		if c.a.status != c.want || len(number) != 36 {
			t.Errorf("%s: %d %s, request %q", what, c.a.status, c.a.body, number)
			continue
		}
		level := "level=INFO"
		if !c.line {
			level = "level=DEBUG"
		}
		found := false
		for line := range strings.Lines(log.String()) {
			found = found || strings.Contains(line, "request="+number) && strings.Contains(line, "status="+strconv.Itoa(c.want)) && strings.Contains(line, "msg=answered") && strings.Contains(line, level)
		}
		if !found {
			t.Errorf("%s: no line of it", what)
		}
		if failed := strings.Contains(log.String(), "level=ERROR msg=\"request failed\" request="+number); failed != (c.want == 500) {
			t.Errorf("%s: what went wrong inside is said: %t", what, failed)
		}
	}
	for _, secret := range []string{"Unsaid", "unsaid", "4711", "2222", code, owner, person, "Tablet of"} {
		if strings.Contains(log.String(), secret) {
			t.Errorf("%q stands in the log", secret)
		}
	}
}
