package main

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"log/slog"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/google/uuid"

	"dusha/internal/mariadb"
	"dusha/internal/store"
)

// bundling measures the memory that the program takes at its most while it writes a large job as a
// bundle, and while it reads it into another database.
func bundling(ctx context.Context) error {
	const entries, photos, mostMB = 20_000, 200, 150
	folder, err := os.MkdirTemp("", "dusha-bench")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	server, err := mariadb.Start(ctx, filepath.Join(folder, "database"))
	if err != nil {
		return err
	}
	defer server.Stop()
	elsewhere, err := another(ctx, server.DSN)
	if err != nil {
		return err
	}
	job, err := largeJob(ctx, server.DSN, entries, photos)
	if err != nil {
		return err
	}
	megabytes, wrote, read, err := carried(folder, job, server.DSN, elsewhere)
	if err != nil {
		return err
	}
	fmt.Printf("A bundle of %d entries and %d photos, %d MB (limit: %d MB of memory)\n", entries, photos, megabytes, mostMB)
	fmt.Printf("  written with %d MB at most in %.1f s, read in with %d MB at most in %.1f s\n", wrote.mb, wrote.seconds, read.mb, read.seconds)
	if wrote.mb > mostMB || read.mb > mostMB {
		return errors.New("a bundle takes more memory than it may")
	}
	return crowded(ctx, folder, server.DSN, elsewhere)
}

// carried writes a job as a bundle from one database and reads it into another.
func carried(folder string, job uuid.UUID, from, to string) (megabytes int64, wrote, read taken, err error) {
	file := filepath.Join(folder, "bundle.json")
	out, err := os.Create(file)
	if err != nil {
		return 0, wrote, read, err
	}
	defer out.Close()
	if wrote, err = peak(out, "export", job.String(), "--database", from); err != nil {
		return 0, wrote, read, err
	}
	if read, err = peak(io.Discard, "import", file, "--database", to); err != nil {
		return 0, wrote, read, err
	}
	info, err := out.Stat()
	if err != nil {
		return 0, wrote, read, err
	}
	return info.Size() >> 20, wrote, read, nil
}

// crowded measures how long a bundle takes to come in that names many people.
func crowded(ctx context.Context, folder, from, to string) error {
	const people, most = 5000, 2.0 // s
	s, err := store.Open(ctx, from, slog.New(slog.DiscardHandler))
	if err != nil {
		return err
	}
	defer s.Close()
	job := uuid.Must(uuid.NewV7())
	var texts [][]byte
	for i := range people {
		id, person := uuid.Must(uuid.NewV7()), uuid.Must(uuid.NewV7())
		texts = append(texts, fmt.Appendf(nil, `{"id":"%s","jobId":"%s","kind":"person.joined","at":"2026-03-04T14:00:00Z","by":"%s","body":{"person":"%s","role":"applicator"}}`, id, job, person, person))
		if err := s.Name(ctx, person, fmt.Sprintf("Robin %d", i)); err != nil {
			return err
		}
	}
	if _, err := s.Append(ctx, job, texts); err != nil {
		return err
	}
	_, _, read, err := carried(folder, job, from, to)
	if err != nil {
		return err
	}
	fmt.Printf("A bundle that names %d people (limit: %.1f s)\n  read in in %.2f s\n", people, scaled(most), read.seconds)
	if read.seconds > scaled(most) {
		return errors.New("a bundle of many people takes longer than it may")
	}
	return nil
}

// another makes a second database beside the first, with the schema.
func another(ctx context.Context, dsn string) (string, error) {
	if err := store.Migrate(ctx, dsn); err != nil {
		return "", err
	}
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return "", err
	}
	defer db.Close()
	if _, err := db.ExecContext(ctx, "CREATE DATABASE elsewhere"); err != nil {
		return "", err
	}
	elsewhere := strings.Replace(dsn, "/dusha?", "/elsewhere?", 1)
	return elsewhere, store.Migrate(ctx, elsewhere)
}

func largeJob(ctx context.Context, dsn string, entries, photos int) (uuid.UUID, error) {
	s, err := store.Open(ctx, dsn, slog.New(slog.DiscardHandler))
	if err != nil {
		return uuid.Nil, err
	}
	defer s.Close()
	j := newJob(entries)
	const atOnce = 2000
	for i := 0; i < entries; i += atOnce {
		outcomes, err := s.Append(ctx, j.id, j.texts[i:min(i+atOnce, entries)])
		if err != nil {
			return uuid.Nil, err
		}
		if !outcomes[0].New {
			return uuid.Nil, fmt.Errorf("an entry was not kept: %+v", outcomes[0])
		}
	}
	for range photos {
		img := image.NewRGBA(image.Rect(0, 0, 640, 480))
		for i := range img.Pix {
			img.Pix[i] = byte(rand.Uint32())
		}
		var file bytes.Buffer
		if err := jpeg.Encode(&file, img, nil); err != nil {
			return uuid.Nil, err
		}
		if err := s.KeepPhoto(ctx, j.id, uuid.Must(uuid.NewV7()), file.Bytes()); err != nil {
			return uuid.Nil, err
		}
	}
	return j.id, nil
}

type taken struct {
	mb      int64
	seconds float64
}

// peak runs the program and says how much memory it had at its most.
func peak(out io.Writer, args ...string) (taken, error) {
	cmd := exec.Command(".build/dusha", args...)
	cmd.Stdout, cmd.Stderr = out, os.Stderr
	begin := time.Now()
	if err := cmd.Run(); err != nil {
		return taken{}, err
	}
	usage := cmd.ProcessState.SysUsage().(*syscall.Rusage)
	return taken{usage.Maxrss >> 10, time.Since(begin).Seconds()}, nil
}
