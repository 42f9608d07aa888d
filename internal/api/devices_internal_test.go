package api

import (
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"dusha/demo"
	"dusha/draw"
	"dusha/internal/access"
	"dusha/internal/dbtest"
	"dusha/internal/store"
)

// firm is a server that devices are paired with, at a time that can be moved.
type firm struct {
	t      *testing.T
	store  *store.Store
	access *access.Access
	url    string
	now    time.Time
}

func newFirm(t *testing.T, st *store.Store, change ...func(*Config)) *firm {
	t.Helper()
	f := &firm{t: t, store: st, access: access.New(st), now: time.Now().UTC()}
	f.access.Now = func() time.Time { return f.now }
	config := Config{Store: st, Table: draw.Table(), Log: slog.New(slog.DiscardHandler), Access: f.access, Trust: &Trust{Authority: []byte("PEM"), Fingerprint: "AA:BB", Address: "https://tower.local:8443"}}
	for _, c := range change {
		c(&config)
	}
	e, _, err := New(config)
	if err != nil {
		t.Fatal(err)
	}
	server := httptest.NewServer(e)
	t.Cleanup(server.Close)
	f.url = server.URL
	return f
}

// answer is what a request came to.
type answer struct {
	status int
	body   string
	header http.Header
}

// secret is what a device shows from then on, "" where it is given none.
func (a answer) secret() string {
	for _, c := range (&http.Response{Header: a.header}).Cookies() {
		if c.Name == sessionCookie {
			return c.Value
		}
	}
	return ""
}

func (f *firm) ask(secret, method, path, body string, header ...string) answer {
	f.t.Helper()
	request, err := http.NewRequestWithContext(f.t.Context(), method, f.url+path, strings.NewReader(body))
	if err != nil {
		f.t.Fatal(err)
	}
	if body != "" {
		request.Header.Set("Content-Type", ofJSON)
	}
	if secret != "" {
		request.AddCookie(&http.Cookie{Name: sessionCookie, Value: secret})
	}
	for i := 0; i+1 < len(header); i += 2 {
		request.Header.Set(header[i], header[i+1])
	}
	response, err := http.DefaultClient.Do(request)
	if err != nil {
		f.t.Fatal(err)
	}
	defer response.Body.Close()
	text, err := io.ReadAll(response.Body)
	if err != nil {
		f.t.Fatal(err)
	}
	return answer{response.StatusCode, string(text), response.Header}
}

func (f *firm) pair(role string) string {
	f.t.Helper()
	code, _, err := f.access.Offer(f.t.Context(), role, nil)
	if err != nil {
		f.t.Fatal(err)
	}
	a := f.ask("", "POST", "/api/pair", `{"code":"`+code+`","name":"Tablet of the `+role+`"}`, "Dusha-Installation", uuid.NewString())
	if a.status != 200 || a.secret() == "" {
		f.t.Fatalf("%d %s", a.status, a.body)
	}
	return a.secret()
}

func (f *firm) devices(secret string) (list []DeviceLine) {
	f.t.Helper()
	var body struct{ Devices []DeviceLine }
	a := f.ask(secret, "GET", "/api/devices", "")
	if err := json.Unmarshal([]byte(a.body), &body); err != nil {
		f.t.Fatalf("%d %s: %v", a.status, a.body, err)
	}
	return body.Devices
}

// Every door, by who asks: nobody, each role, and a device that was shut out.
func TestEveryDoorByEveryRole(t *testing.T) {
	f := newFirm(t, dbtest.OpenEmpty(t, "roles"))
	secrets := map[string]string{"nobody": "", "guess": strings.Repeat("A", 43)}
	for _, role := range access.Roles {
		secrets[role] = f.pair(role)
	}
	secrets["shut out"] = f.pair(access.Owner)
	id := f.devices(secrets["shut out"])
	i := slices.IndexFunc(id, func(d DeviceLine) bool { return d.This })
	if a := f.ask(secrets[access.Owner], "DELETE", "/api/devices/"+id[i].ID, ""); a.status != 204 {
		t.Fatalf("%d %s", a.status, a.body)
	}
	allowed := map[string][]Right{
		access.Owner: {Public, Member, Write, Join, Make, Export, Admin}, access.Crew: {Public, Member, Write, Join, Make}, access.Inspector: {Public, Member, Write, Join},
		"nobody": {Public}, "guess": {Public}, "shut out": {Public},
	}
	some := uuid.NewString()
	asked := 0
	for _, r := range routesOf() {
		path := strings.NewReplacer(":job", some, ":area", some, ":photo", some, ":person", some, ":device", some, ":operation", "cure.factor", "*", "").Replace(r.path)
		for who, secret := range secrets {
			body := ""
			if isBody(r.method) {
				body = "{}"
			}
			a := f.ask(secret, r.method, path, body)
			asked++
			switch paired := slices.Contains(access.Roles, who); {
			case slices.Contains(allowed[who], r.right):
				if a.status == 401 || a.status == 403 {
					t.Errorf("%s %s shuts out %s: %d %s", r.method, r.path, who, a.status, a.body)
				}
			case paired && a.status != 403, !paired && a.status != 401:
				t.Errorf("%s %s answers %s with %d %s", r.method, r.path, who, a.status, a.body)
			}
		}
	}
	if asked < 120 {
		t.Errorf("only %d were asked", asked)
	}
	if a := f.ask(secrets["shut out"], "GET", "/api/session", ""); !strings.Contains(a.body, `"why":"request.revoked"`) {
		t.Errorf("it is not told why: %s", a.body)
	}
}

// A code is good once, for ten minutes; five wrong ones a minute are looked at.
func TestACodeIsGoodOnce(t *testing.T) {
	f := newFirm(t, dbtest.OpenEmpty(t, "codes"))
	offer := func() string {
		code, until, err := f.access.Offer(t.Context(), access.Crew, nil)
		if err != nil || until.Sub(f.now) != 10*time.Minute {
			t.Fatalf("%v, until %v", err, until)
		}
		return code
	}
	try := func(code string) answer { return f.ask("", "POST", "/api/pair", `{"code":"`+code+`","name":"Phone"}`) }
	code := offer()
	if a := try(strings.ToLower(strings.ReplaceAll(code, "-", " "))); a.status != 200 {
		t.Fatalf("typed small and without its line: %d %s", a.status, a.body)
	} else if c := a.header.Get("Set-Cookie"); !strings.HasPrefix(c, "__Host-dusha=") || !strings.Contains(c, "HttpOnly") || !strings.Contains(c, "Secure") || !strings.Contains(c, "SameSite=Strict") || !strings.Contains(c, "Path=/") || strings.Contains(c, "Domain") {
		t.Errorf("the cookie is %s", c)
	}
	if a := try(code); a.status != 422 || !strings.Contains(a.body, "pairing.code_unknown") {
		t.Errorf("used: %d %s", a.status, a.body)
	}
	old := offer()
	if _, err := f.store.Audit(t.Context(), 1); err != nil {
		t.Fatal(err)
	}
	f.now = f.now.Add(2 * time.Minute)
	for i := range 6 {
		want := 422
		if i == 5 {
			want = 429
		}
		if a := try("2222-2222"); a.status != want {
			t.Errorf("guess %d: %d %s", i+1, a.status, a.body)
		}
	}
	if a := try(old); a.status != 429 {
		t.Errorf("after five guesses a right one: %d", a.status)
	}
	f.now = f.now.Add(time.Minute)
	if a := try(old); a.status != 200 {
		t.Errorf("a minute later: %d %s", a.status, a.body)
	}
	for name, body := range map[string]string{"no name": `{"code":"x","name":" "}`, "a long name": `{"code":"x","name":"` + strings.Repeat("n", 100) + `"}`} {
		if a := f.ask("", "POST", "/api/pair", body); a.status != 422 || !strings.Contains(a.body, `"field":"name"`) {
			t.Errorf("%s: %d %s", name, a.status, a.body)
		}
	}
	if _, _, err := f.access.Offer(t.Context(), "king", nil); err == nil {
		t.Error("a code for a role that there is not")
	}
}

// A device gets another secret each day. The old one is good until the new one was seen, so that a lost
// answer shuts nobody out; idle for 60 days, or after 400, it is paired anew.
func TestASecretTurns(t *testing.T) {
	f := newFirm(t, dbtest.OpenEmpty(t, "turns"))
	first := f.pair(access.Crew)
	jobs := func(secret string) answer { return f.ask(secret, "GET", "/api/jobs", "") }
	if a := jobs(first); a.status != 200 || a.secret() != "" {
		t.Fatalf("%d, turned at once: %q", a.status, a.secret())
	}
	f.now = f.now.Add(25 * time.Hour)
	second := jobs(first).secret()
	if second == "" || second == first {
		t.Fatal("after a day it has the same secret")
	}
	if a := jobs(first); a.status != 200 || a.secret() != "" { // under way beside the one that turned it
		t.Errorf("%d, %q", a.status, a.secret())
	}
	f.now = f.now.Add(time.Hour) // the answer with the second was lost
	third := jobs(first).secret()
	if third == "" {
		t.Fatal("the old one was shown again and got no new one")
	}
	if a := jobs(second); a.status != 401 {
		t.Errorf("one that nobody has: %d", a.status)
	}
	f.now = f.now.Add(time.Hour)
	if a := jobs(third); a.status != 200 {
		t.Errorf("the new one: %d", a.status)
	}
	if a := jobs(first); a.status != 401 {
		t.Errorf("the old one after the new one was seen: %d", a.status)
	}
	often := f.pair(access.Crew)
	for range 14 {
		f.now = f.now.Add(28 * 24 * time.Hour)
		a := jobs(often)
		if a.status != 200 {
			t.Fatalf("asking each month it was shut out after %s", f.now)
		}
		often = a.secret()
		f.now = f.now.Add(time.Hour)
		jobs(often)
	}
	f.now = f.now.Add(10 * 24 * time.Hour)
	if a := jobs(often); a.status != 401 || !strings.Contains(a.body, "request.paired_long_ago") {
		t.Errorf("after 402 days: %d %s", a.status, a.body)
	}
	third = f.pair(access.Crew)
	f.now = f.now.Add(61 * 24 * time.Hour)
	if a := jobs(third); a.status != 401 || !strings.Contains(a.body, "request.paired_long_ago") {
		t.Errorf("idle for 61 days: %d %s", a.status, a.body)
	}
}

// An inspector reads and signs; other entries of a batch are answered each by itself.
func TestAnInspectorSigns(t *testing.T) {
	f := newFirm(t, dbtest.OpenEmpty(t, "inspector"))
	made, err := demo.Make(time.Now().UTC(), 9100)
	if err != nil {
		t.Fatal(err)
	}
	crew, inspector := f.pair(access.Crew), f.pair(access.Inspector)
	post := func(secret string, texts ...[]byte) answer {
		list := make([]string, len(texts))
		for i, text := range texts {
			list[i] = string(text)
		}
		return f.ask(secret, "POST", "/api/jobs/"+made.ID+"/entries", `{"entries":[`+strings.Join(list, ",")+`]}`)
	}
	of := func(kind string) []byte {
		i := slices.IndexFunc(made.Entries, func(text []byte) bool { return strings.Contains(string(text), `"kind":"`+kind+`"`) })
		return made.Entries[i]
	}
	if a := post(inspector, made.Entries[0]); !strings.Contains(a.body, `"status":403`) {
		t.Errorf("an inspector begins a job: %d %s", a.status, a.body)
	}
	if a := post(crew, made.Entries[0], of("area.opened")); strings.Count(a.body, `"status":201`) != 2 {
		t.Fatalf("%d %s", a.status, a.body)
	}
	a := post(inspector, of("signed"), of("laid"))
	var out struct{ Results []AppendResult }
	if err := json.Unmarshal([]byte(a.body), &out); err != nil || len(out.Results) != 2 || out.Results[0].Status != 201 || out.Results[1].Status != 403 || out.Results[1].ID == "" {
		t.Errorf("%s: %v", a.body, err)
	}
	kept, err := f.store.All(t.Context(), uuid.MustParse(made.ID))
	if err != nil || len(kept) != 3 || kept[2].DeliveredBy == nil || *kept[2].DeliveredBy == *kept[1].DeliveredBy {
		t.Errorf("%d kept, %v", len(kept), err)
	}
}

// What a device says it has not delivered is seen; what was done stands in the audit.
func TestDevicesAndWhatWasDone(t *testing.T) {
	st := dbtest.OpenEmpty(t, "audit")
	f, other := newFirm(t, st), newFirm(t, st) // two servers on one database share their devices
	owner, crew := f.pair(access.Owner), f.pair(access.Crew)
	if a := other.ask(crew, "GET", "/api/jobs", "", "Dusha-Waiting", "7"); a.status != 200 {
		t.Fatalf("%d %s", a.status, a.body)
	}
	list := f.devices(owner)
	i := slices.IndexFunc(list, func(d DeviceLine) bool { return d.Role == access.Crew })
	if len(list) != 2 || list[i].Waiting != 7 || list[i].This || list[i].Name != "Tablet of the crew" {
		t.Errorf("%+v", list)
	}
	a := f.ask(owner, "POST", "/api/pairings", `{"role":"inspector"}`)
	var offered struct {
		Code, Link, Picture string
		Modules             int
	}
	if err := json.Unmarshal([]byte(a.body), &offered); err != nil || !strings.HasSuffix(offered.Link, "/pair#"+offered.Code) || offered.Modules < 25 || !strings.HasPrefix(offered.Picture, "M4 4h7v1h-7z") {
		t.Errorf("%d %s: %v", a.status, a.body, err)
	}
	if a := newFirm(t, dbtest.OpenEmpty(t, "another_firm")).ask(owner, "GET", "/api/jobs", ""); a.status != 401 || !strings.Contains(a.body, "request.not_paired") {
		t.Errorf("at another firm's server: %d %s", a.status, a.body)
	}
	if a := f.ask(owner, "PUT", "/api/people/"+uuid.NewString(), `{"name":"Somebody"}`); a.status != 204 {
		t.Errorf("%d %s", a.status, a.body)
	}
	f.ask(owner, "DELETE", "/api/devices/"+list[i].ID, "")
	if a := f.ask(owner, "DELETE", "/api/devices/"+list[i].ID, ""); a.status != 404 {
		t.Errorf("shut out twice: %d", a.status)
	}
	var done []string
	lines, err := st.Audit(t.Context(), 20)
	for _, l := range slices.Backward(lines) {
		done = append(done, l.What)
	}
	if got := strings.Join(done, " "); err != nil || got != "pairing_offered paired pairing_offered paired pairing_offered named revoked" {
		t.Errorf("%s, %v", got, err)
	}
}

// Four digits are set at first, then asked; after five wrong ones in a row a minute passes, and the right
// ones do not help before.
func TestFourDigits(t *testing.T) {
	f := newFirm(t, dbtest.OpenEmpty(t, "pins"))
	crew, owner := f.pair(access.Crew), f.pair(access.Owner)
	person := uuid.NewString()
	try := func(pin string) answer {
		return f.ask(crew, "POST", "/api/people/"+person+"/pin", `{"pin":"`+pin+`"}`)
	}
	first := func(pin string) answer {
		return f.ask(crew, "POST", "/api/people/"+person+"/pin", `{"pin":"`+pin+`","first":true}`)
	}
	for _, bad := range []string{"", "123", "12345", "12a4", "١٢٣٤"} {
		if a := try(bad); a.status != 422 || !strings.Contains(a.body, "pin.four_digits") {
			t.Errorf("%q: %d %s", bad, a.status, a.body)
		}
	}
	if a := try("4711"); a.status != 422 || !strings.Contains(a.body, "pin.not_set") {
		t.Errorf("none are set: %d %s", a.status, a.body)
	}
	if a := first("4711"); a.status != 200 || !strings.Contains(a.body, `"set":true`) {
		t.Fatalf("%d %s", a.status, a.body)
	}
	if a := first("4712"); a.status != 422 || !strings.Contains(a.body, "pin.wrong") {
		t.Errorf("first ones, where some are set: %d %s", a.status, a.body)
	}
	if a := try("4711"); a.status != 200 || !strings.Contains(a.body, `"set":false`) {
		t.Errorf("the same again: %d %s", a.status, a.body)
	}
	looked := 0
	for range 50 {
		a := try("0000")
		switch a.status {
		case 422:
			looked++
		case 429:
		default:
			t.Fatalf("%d %s", a.status, a.body)
		}
	}
	if looked != 5 {
		t.Errorf("of 50 tries %d were looked at", looked)
	}
	if a := try("4711"); a.status != 429 || !strings.Contains(a.body, "pin.rests") {
		t.Errorf("the right ones, too soon: %d %s", a.status, a.body)
	}
	f.now = f.now.Add(61 * time.Second)
	if a := try("0000"); a.status != 422 {
		t.Errorf("after a minute: %d", a.status)
	}
	f.now = f.now.Add(61 * time.Second)
	if a := try("4711"); a.status != 429 {
		t.Errorf("the next rest is longer: %d", a.status)
	}
	f.now = f.now.Add(61 * time.Second)
	if a := try("4711"); a.status != 200 {
		t.Errorf("after two: %d %s", a.status, a.body)
	}
	if a := f.ask(owner, "GET", "/api/devices", ""); !strings.Contains(a.body, `"pins":["`+person+`"]`) {
		t.Errorf("who has digits: %s", a.body)
	}
	if a := f.ask(owner, "DELETE", "/api/people/"+person+"/pin", ""); a.status != 204 {
		t.Errorf("%d %s", a.status, a.body)
	}
	if a := f.ask(owner, "DELETE", "/api/people/"+person+"/pin", ""); a.status != 404 {
		t.Errorf("%d %s", a.status, a.body)
	}
	if list, err := f.store.Pins(t.Context()); err != nil || len(list) > 0 {
		t.Errorf("%v have digits: %v", list, err)
	}
	if a := first("1234"); a.status != 200 || !strings.Contains(a.body, `"set":true`) {
		t.Errorf("others, after the old ones were taken away: %d %s", a.status, a.body)
	}
	var kept struct{ Hash, Salt []byte }
	if err := f.store.WithPin(t.Context(), uuid.MustParse(person), func(p *store.Pin) (*store.Pin, error) {
		kept.Hash, kept.Salt = p.Hash, p.Salt
		return nil, nil
	}); err != nil || len(kept.Hash) != 32 || len(kept.Salt) != 16 || strings.Contains(string(kept.Hash), "1234") {
		t.Errorf("kept %x, %x, %v", kept.Hash, kept.Salt, err)
	}
}

// Behind a declared proxy nobody else is let in, and no door is local.
func TestBehindAProxy(t *testing.T) {
	behind := func(at string) *firm {
		return newFirm(t, dbtest.Open(t), func(c *Config) {
			c.Proxies = []netip.Addr{netip.MustParseAddr(at)}
			c.Hosts = []string{"dusha.example"}
		})
	}
	if a := behind("192.0.2.1").ask("", "GET", "/api/session", ""); a.status != 403 || !strings.Contains(a.body, "request.only_by_proxy") {
		t.Errorf("past the proxy: %d %s", a.status, a.body)
	}
	f := behind("127.0.0.1")
	if a := f.ask("", "GET", "/api/session", ""); a.status != 200 {
		t.Errorf("through it: %d %s", a.status, a.body)
	}
	if a := f.ask(f.pair(access.Owner), "POST", "/api/compute/cure.factor", `{}`); a.status != 403 {
		t.Errorf("a local door through it: %d %s", a.status, a.body)
	}
	for i := range 7 { // each place behind it has its own tries
		want := 422
		if i == 5 {
			want = 429
		}
		from := "203.0.113.5"
		if i == 6 {
			from = "203.0.113.6"
		}
		if a := f.ask("", "POST", "/api/pair", `{"code":"nothing","name":"Phone"}`, "X-Forwarded-For", "198.51.100.1, "+from); a.status != want {
			t.Errorf("try %d: %d %s", i+1, a.status, a.body)
		}
	}
}

func TestThePageOnTrust(t *testing.T) {
	f := newFirm(t, dbtest.Open(t))
	if a := f.ask("", "GET", "/trust", ""); a.status != 200 || !strings.Contains(a.body, "AA:BB") || !strings.Contains(a.body, "https://tower.local:8443") {
		t.Errorf("%d %s", a.status, a.body)
	}
	if a := f.ask("", "GET", "/trust/"+trustFile, ""); a.body != "PEM" || a.header.Get("Content-Type") != "application/x-x509-ca-cert" {
		t.Errorf("%s %s", a.header.Get("Content-Type"), a.body)
	}
	alone := httptest.NewServer((&Trust{Fingerprint: "AA:BB"}).Alone())
	defer alone.Close()
	for path, want := range map[string]int{"/trust": 200, "/": 200, "/api/jobs": 404, "/index.html": 404} {
		response, err := http.Get(alone.URL + path) //nolint // a test
		if err != nil || response.StatusCode != want {
			t.Errorf("%s: %v, %v", path, response, err)
		}
		response.Body.Close()
	}
}
