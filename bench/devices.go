package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"runtime"
	"sync"
	"time"

	"dusha/internal/access"
	"dusha/internal/store"
)

const (
	crewDevices  = 50
	crewSites    = 10
	crewFor      = 60 * time.Second
	crewPause    = 250 * time.Millisecond // a device asks four times as often as the page does
	crewPosts    = 40                     // asks to a reading that is posted: each device reads its comb every ten seconds
	crewRounds   = 12                     // the first warms up
	bareFor      = 2 * time.Second
	memoryFrom   = 4 // rounds: 20 s
	mostSlower   = 4.0
	mostMemory   = 1.2
	largestSlice = 0.99
)

// crew measures fifty paired devices that ask for the list of jobs and post readings for a minute, each
// with its cookie, against a bare handler that does one indexed SELECT for as many clients; and whether
// memory grows from the twentieth second to the sixtieth.
func crew(ctx context.Context) error {
	p, err := newPlace(ctx)
	if err != nil {
		return err
	}
	defer p.close()
	paired := access.New(p.store)
	served, err := p.serve(paired)
	if err != nil {
		return err
	}
	defer served.Close()
	db := p.db
	db.SetMaxOpenConns(16) // as the store has them
	db.SetMaxIdleConns(16)
	bare := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		var seq uint64
		if err := db.QueryRowContext(r.Context(), "SELECT last_seq FROM jobs WHERE company_id = ? AND id = ?", store.House.String(), r.URL.Query().Get("job")).Scan(&seq); err != nil {
			w.WriteHeader(http.StatusInternalServerError)
			return
		}
		fmt.Fprint(w, seq)
	}))
	defer bare.Close()

	const each = int(crewFor/crewPause)/crewPosts + 2*crewRounds // readings of a device
	jobs := make([]aJob, crewSites)
	for i := range jobs {
		jobs[i] = newJob(each * crewDevices / crewSites)
	}
	clients := make([]*member, crewDevices)
	for i := range clients {
		code, _, err := paired.Offer(ctx, access.Crew, nil)
		if err != nil {
			return err
		}
		secret, _, err := paired.Pair(ctx, fmt.Sprint("10.0.0.", i), code, fmt.Sprint("Tablet ", i), nil, nil)
		if err != nil {
			return err
		}
		clients[i] = &member{url: served.URL, secret: secret, job: jobs[i%crewSites], posted: i / crewSites * each, client: &http.Client{}}
		if err := clients[i].post(); err != nil {
			return err
		}
	}
	memory := func() float64 {
		runtime.GC()
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		return float64(m.HeapAlloc)
	}
	// Both sides in turn, so that what else the machine does meets both.
	var ratios, own, plain []float64
	var at20, at60 float64
	for round := range crewRounds {
		mine, err := together(clients, crewFor/crewRounds, func(m *member, n int) error {
			if n%crewPosts == 0 {
				return m.post()
			}
			return m.ask(m.url + "/api/jobs")
		})
		if err != nil {
			return err
		}
		switch round + 1 {
		case memoryFrom:
			at20 = memory()
		case crewRounds:
			at60 = memory()
		}
		theirs, err := together(clients, bareFor, func(m *member, _ int) error { return m.ask(bare.URL + "/?job=" + m.job.id.String()) })
		if err != nil {
			return err
		}
		own, plain = append(own, mine...), append(plain, theirs...)
		if round > 0 {
			ratios = append(ratios, quantile(mine, largestSlice)/quantile(theirs, largestSlice))
		}
	}
	fmt.Printf("%d paired devices on %d sites for %.0f s, each asking %.0f times a second and posting a reading every %.0f s (limits: no error, %.0f times a bare SELECT at the 99th of 100, memory %.1f times)\n",
		crewDevices, crewSites, crewFor.Seconds(), 1/crewPause.Seconds(), (crewPosts * crewPause).Seconds(), mostSlower, mostMemory)
	fmt.Printf("  %d answers, none an error; 99th of 100: %.2f times (%.2f to %.2f); memory after 60 s: %.2f times that after 20 s\n",
		len(own), quantile(ratios, 0.5), quantile(ratios, 0.25), quantile(ratios, 0.75), at60/at20)
	fmt.Printf("  for orientation: %.1f ms and %.1f ms at the 99th, %.1f ms and %.1f ms in the middle, %.1f MB\n",
		1000*quantile(own, largestSlice), 1000*quantile(plain, largestSlice), 1000*quantile(own, 0.5), 1000*quantile(plain, 0.5), at60/(1<<20))
	return nil
}

// member is a device of the crew.
type member struct {
	url, secret string
	job         aJob
	posted      int
	known       string // ETag of the list of jobs
	client      *http.Client
}

func (m *member) do(method, url string, body []byte) error {
	request, err := http.NewRequest(method, url, bytes.NewReader(body))
	if err != nil {
		return err
	}
	request.AddCookie(&http.Cookie{Name: "__Host-dusha", Value: m.secret})
	if body != nil {
		request.Header.Set("Content-Type", "application/json")
	} else if m.known != "" {
		request.Header.Set("If-None-Match", m.known)
	}
	answer, err := m.client.Do(request)
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	said, err := io.ReadAll(answer.Body)
	if err != nil {
		return err
	}
	if answer.StatusCode != http.StatusOK && answer.StatusCode != http.StatusNotModified || body != nil && !bytes.Contains(said, []byte(`"status":201`)) {
		return fmt.Errorf("%s %s: %s %.200s", method, url, answer.Status, said)
	}
	if tag := answer.Header.Get("ETag"); tag != "" {
		m.known = tag
	}
	return nil
}

func (m *member) ask(url string) error { return m.do(http.MethodGet, url, nil) }

// post delivers the next reading of the device's own job.
func (m *member) post() error {
	text := m.job.texts[m.posted]
	m.posted++
	return m.do(http.MethodPost, m.url+"/api/jobs/"+m.job.id.String()+"/entries", append(append([]byte(`{"entries":[`), text...), "]}"...))
}

// together lets all work for a while, a pause between; how long each answer took, s.
func together(crew []*member, long time.Duration, work func(*member, int) error) ([]float64, error) {
	var group sync.WaitGroup
	took, failed := make([][]float64, len(crew)), make([]error, len(crew))
	until := time.Now().Add(long)
	for i, m := range crew {
		group.Add(1)
		go func() {
			defer group.Done()
			time.Sleep(time.Duration(i) * crewPause / time.Duration(len(crew))) // not all at once
			for n := i; time.Now().Before(until); n++ {
				begun := time.Now()
				if err := work(m, n); err != nil {
					failed[i] = err
					return
				}
				took[i] = append(took[i], time.Since(begun).Seconds())
				time.Sleep(crewPause)
			}
		}()
	}
	group.Wait()
	var all []float64
	for _, each := range took {
		all = append(all, each...)
	}
	return all, errors.Join(failed...)
}
