package api

import (
	"context"
	"math"
	"net/http"
	"strconv"
	"sync"
	"time"

	"github.com/google/uuid"
	"golang.org/x/time/rate"

	"dusha/core/fault"
)

// What one device may bring in a minute, and at once.
const (
	bytesAMinute = 256 << 20
	bytesAtOnce  = 64 << 20 // over the largest body there is

	secondsAMinute = 60
)

// gate lets so many in at once, and of one device half as many: one that asks for all papers at once
// leaves room for the others.
type gate struct {
	all  chan struct{}
	of   mostly[chan struct{}]
	half int
}

func newGate(most int) *gate {
	return &gate{all: make(chan struct{}, most), half: (most + 1) / 2}
}

// enter waits for a place; leave gives it back.
func (g *gate) enter(ctx context.Context, device uuid.UUID) (leave func(), err error) {
	own := make(chan struct{}, 1)
	if device != uuid.Nil {
		own = g.of.get(device, func() chan struct{} { return make(chan struct{}, g.half) })
	}
	for i, line := range []chan struct{}{own, g.all} {
		select {
		case line <- struct{}{}:
		case <-ctx.Done():
			if i > 0 {
				<-own
			}
			return nil, ctx.Err()
		}
	}
	return func() { <-g.all; <-own }, nil
}

// mostly is what is kept of each device, for as many as a firm has; when there are more it begins anew.
type mostly[T any] struct {
	mutex sync.Mutex
	kept  map[uuid.UUID]T
}

func (m *mostly[T]) get(device uuid.UUID, made func() T) T {
	const most = 10_000
	m.mutex.Lock()
	defer m.mutex.Unlock()
	found, is := m.kept[device]
	if !is {
		if m.kept == nil || len(m.kept) >= most {
			m.kept = map[uuid.UUID]T{}
		}
		found = made()
		m.kept[device] = found
	}
	return found
}

// share is what each device may ask of a door, or bring to all of them: so much a second, and so much at
// once.
type share struct {
	of       mostly[*rate.Limiter]
	aSecond  rate.Limit
	mostOnce int
}

// aMinute is a share of so many requests a minute, all at once if it likes.
func aMinute(most int) *share {
	return &share{aSecond: rate.Limit(most) / secondsAMinute, mostOnce: most}
}

// allBodies is the share of bytes that bodies bring.
func allBodies() *share {
	return &share{aSecond: bytesAMinute / secondsAMinute, mostOnce: bytesAtOnce}
}

// take takes n of a device's share; where that is spent it takes nothing, and tells how long to wait.
func (s *share) take(device uuid.UUID, n int) time.Duration {
	own, now := s.of.get(device, func() *rate.Limiter { return rate.NewLimiter(s.aSecond, s.mostOnce) }), time.Now()
	reserved := own.ReserveN(now, n)
	if wait := reserved.DelayFrom(now); wait > 0 {
		reserved.CancelAt(now)
		return wait
	}
	return 0
}

// tooMuch tells how long a device has to wait before it asks a door again; nothing where it may.
func (r *route) tooMuch(device uuid.UUID, request *http.Request, bodies *share) time.Duration {
	if device == uuid.Nil {
		return 0
	}
	if r.share != nil {
		if wait := r.share.take(device, 1); wait > 0 {
			return wait
		}
	}
	if !isBody(request.Method) {
		return 0
	}
	size := request.ContentLength
	if size < 0 {
		size = r.most // it does not say
	}
	return bodies.take(device, int(size))
}

// waits says that a device has to wait, and how long.
func waits(ctx context.Context, header http.Header, wait time.Duration) *Problem {
	seconds := int(math.Ceil(wait.Seconds()))
	header.Set("Retry-After", strconv.Itoa(seconds))
	return problem(ctx, http.StatusTooManyRequests, fault.At("device", "request.too_often", "s", seconds))
}
