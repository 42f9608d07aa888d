// Command bench measures what is said about speed and memory: make bench.
//
// Both sides of a pair run in turn in one process, the first place changing from pair to
// pair; the answer is the median of the ratios with its quartiles. Seconds are for
// orientation only, beside a loop that tells how fast the machine is.
package main

import (
	"crypto/sha256"
	"fmt"
	"runtime"
	"slices"
	"time"
)

const (
	warmUps = 2
	pairs   = 11
)

// side is one way to do the work: it gives how long it took, where it measures itself, or 0.
type side struct {
	name string
	run  func() (time.Duration, error)
}

// timed is a side that is measured from outside.
func timed(name string, work func() error) side {
	return side{name, func() (time.Duration, error) { return 0, work() }}
}

func (s side) measure() (seconds, megabytes float64, err error) {
	var before, after runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&before)
	begin := time.Now()
	own, err := s.run()
	took := time.Since(begin)
	runtime.ReadMemStats(&after)
	if own > 0 {
		took = own
	}
	return took.Seconds(), float64(after.TotalAlloc-before.TotalAlloc) / (1 << 20), err
}

// compare runs two sides in turn and says how many times longer the first takes.
func compare(title string, a, b side) error {
	for range warmUps {
		for _, s := range []side{a, b} {
			if _, _, err := s.measure(); err != nil {
				return fmt.Errorf("%s, %s: %w", title, s.name, err)
			}
		}
	}
	var ratios, secondsA, secondsB, memoryA, memoryB []float64
	for i := range pairs {
		order := []side{a, b}
		if i%2 == 1 {
			order = []side{b, a}
		}
		took := map[string]float64{}
		for _, s := range order {
			seconds, megabytes, err := s.measure()
			if err != nil {
				return fmt.Errorf("%s, %s: %w", title, s.name, err)
			}
			took[s.name] = seconds
			if s.name == a.name {
				secondsA, memoryA = append(secondsA, seconds), append(memoryA, megabytes)
			} else {
				secondsB, memoryB = append(secondsB, seconds), append(memoryB, megabytes)
			}
		}
		ratios = append(ratios, took[a.name]/took[b.name])
	}
	fmt.Printf("%s\n  %s against %s: %.2f times (quartiles %.2f to %.2f, %d pairs)\n", title, a.name, b.name,
		quantile(ratios, 0.5), quantile(ratios, 0.25), quantile(ratios, 0.75), pairs)
	fmt.Printf("  for orientation: %.4f s and %.4f s; %.1f MB and %.1f MB allocated in this process\n", quantile(secondsA, 0.5), quantile(secondsB, 0.5), quantile(memoryA, 0.5), quantile(memoryB, 0.5))
	return nil
}

// quantile of some values, linear between them.
func quantile(values []float64, share float64) float64 {
	sorted := slices.Sorted(slices.Values(values))
	at := share * float64(len(sorted)-1)
	i := int(at)
	if i+1 == len(sorted) {
		return sorted[i]
	}
	return sorted[i] + (at-float64(i))*(sorted[i+1]-sorted[i])
}

// calibration is how long this machine takes to hash 256 MiB, s. A limit in seconds holds where
// that takes dayCalibration.
var calibration float64

const dayCalibration = 1.28

// reference is what it took on the day that later limits were set, s.
const reference = 0.78

// scaled is a limit in seconds as it holds on this machine now.
func scaled(limit float64) float64 { return scaledTo(limit, dayCalibration) }

// scaledTo is the same of a limit that was set where calibrating took so long.
func scaledTo(limit, day float64) float64 { return limit * max(1, calibration/day) }

// calibrate measures how fast this machine is.
func calibrate() {
	block := make([]byte, 1<<20)
	begin := time.Now()
	h := sha256.New()
	for range 256 {
		h.Write(block)
	}
	calibration = time.Since(begin).Seconds()
	fmt.Printf("This machine hashes 256 MiB (SHA-256) in %.3f s, on %d processors.\n\n", calibration, runtime.NumCPU())
}
