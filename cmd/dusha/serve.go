package main

import (
	"context"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"
	"github.com/spf13/cobra"

	"dusha/core/logbook"
	"dusha/demo"
	"dusha/draw"
	"dusha/internal/access"
	"dusha/internal/api"
	"dusha/internal/mariadb"
	"dusha/internal/store"
	"dusha/web"
)

func serveCommand() *cobra.Command {
	c := &cobra.Command{Use: "serve", Short: "Serve with your own MariaDB: on loopback, or over TLS to paired devices", Args: cobra.NoArgs}
	dsn := databaseFlag(c)
	var o outside
	address := c.Flags().String("listen", "127.0.0.1:8080", "address to listen on; one that other machines reach is served over TLS, to paired devices")
	c.Flags().StringVar(&o.folder, "certificates", "certificates", "folder of the local authority, made once")
	c.Flags().StringVar(&o.certificate, "certificate", "", "the firm's own certificate file (PEM), instead of the local authority")
	c.Flags().StringVar(&o.key, "key", "", "key file of --certificate")
	c.Flags().StringSliceVar(&o.names, "name", nil, "a name or address by which it is reached, beside those of this machine")
	c.Flags().StringSliceVar(&o.proxies, "behind-proxy", nil, "address of a proxy that speaks TLS for it; it is then reached through that alone")
	c.Flags().StringVar(&o.trust, "trust-listen", "", "address without TLS on which nothing is served but how to trust the server")
	verbose := c.Flags().Bool("verbose", false, "log requests that only ask, too")
	c.RunE = func(c *cobra.Command, _ []string) error {
		if *dsn == "" {
			return errNoDatabase
		}
		least := slog.LevelInfo
		if *verbose {
			least = slog.LevelDebug
		}
		return serve(c.Context(), *dsn, *address, loggerAt(least), nil, o)
	}
	return c
}

func demoCommand() *cobra.Command {
	c := &cobra.Command{Use: "demo", Short: "Serve a made-up job with a private MariaDB", Args: cobra.NoArgs}
	folder := c.Flags().String("folder", ".run", "where the private database lies")
	address := c.Flags().String("listen", "127.0.0.1:8080", "loopback address; another port is used when it is taken")
	c.RunE = func(c *cobra.Command, _ []string) error {
		log := logger()
		db, err := mariadb.Start(c.Context(), filepath.Join(*folder, "database"))
		if err != nil {
			return err
		}
		defer db.Stop()
		// For tests that end the database hard: who to end, and where it lies.
		note := fmt.Sprintf("%d\n%s\n", db.PID, db.DSN)
		if err := os.WriteFile(filepath.Join(*folder, "database.pid"), []byte(note), 0o600); err != nil {
			return err
		}
		if err := store.Migrate(c.Context(), db.DSN); err != nil {
			return err
		}
		free, err := freeAddress(*address)
		if err != nil {
			return err
		}
		return serve(c.Context(), db.DSN, free, log, loadDemo, outside{})
	}
	return c
}

// freeAddress gives the address asked for, or the same host with another port when that
// one is taken.
func freeAddress(address string) (string, error) {
	if err := onLoopback(address); err != nil {
		return "", err
	}
	host, _, _ := net.SplitHostPort(address)
	for _, try := range []string{address, net.JoinHostPort(host, "0")} {
		l, err := net.Listen("tcp", try)
		if err == nil {
			defer l.Close()
			return l.Addr().String(), nil
		}
	}
	return "", fmt.Errorf("no free port on %s", host)
}

// onLoopback refuses an address that other machines reach.
func onLoopback(address string) error {
	if reached, err := reachedByOthers(address); err != nil || !reached {
		return err
	}
	return fmt.Errorf("listen on %q: the demo knows no devices, so only a loopback address such as 127.0.0.1:8080 is allowed; dusha serve takes this one", address)
}

func reachedByOthers(address string) (bool, error) {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return false, fmt.Errorf("listen on %q: %w", address, err)
	}
	ip := net.ParseIP(host)
	return host != "localhost" && (ip == nil || !ip.IsLoopback()), nil
}

func serve(ctx context.Context, dsn, address string, log *slog.Logger, prepare func(context.Context, *store.Store) error, o outside) error {
	config, secure, err := o.open(address)
	if err != nil {
		return err
	}
	s, err := store.Open(ctx, dsn, log)
	if err != nil {
		return err
	}
	defer s.Close()
	if prepare != nil {
		if err := prepare(ctx, s); err != nil {
			return err
		}
	}
	page := web.Page()
	if page == nil {
		log.Warn("built without its page: only the API is served")
	}
	config.Store, config.Table, config.Page, config.Log = s, draw.Table(), page, log
	if o.paired {
		config.Access = access.New(s)
	}
	e, _, err := api.New(config)
	if err != nil {
		return err
	}
	if err := o.say(os.Stdout, address, config); err != nil {
		return err
	}
	if config.Trust != nil && o.trust != "" {
		go alone(ctx, o.trust, config.Trust, log)
	}
	start := echo.StartConfig{Address: address, HideBanner: true, HidePort: true, GracefulTimeout: 5 * time.Second, TLSConfig: secure}
	start.BeforeServeFunc = func(server *http.Server) error {
		api.Harden(server, log)
		return nil
	}
	return start.Start(ctx, e)
}

// freshFor is how long the demo's story still reads as of today; later a new one is told.
const freshFor = 12 * time.Hour

// loadDemo tells the demo's story as of now, unless a fresh one is there.
func loadDemo(ctx context.Context, s *store.Store) error {
	jobs, err := s.Jobs(ctx)
	if err != nil {
		return err
	}
	for _, line := range jobs {
		fresh, err := freshDemo(ctx, s, line.ID)
		if err != nil {
			return err
		}
		if fresh {
			return nil
		}
	}
	now := time.Now().UTC()
	made, err := demo.Make(now, uint64(now.UnixNano()))
	if err != nil {
		return err
	}
	outcomes, err := s.Append(ctx, uuid.MustParse(made.ID), made.Entries)
	if err != nil {
		return err
	}
	for _, o := range outcomes {
		if len(o.Refused) > 0 {
			return fmt.Errorf("demo data: %w", o.Refused)
		}
	}
	return nil
}

// freshDemo tells whether a job is a demo loaded not long ago: its first entry says that it
// is one, and when it arrived.
func freshDemo(ctx context.Context, s *store.Store, id string) (bool, error) {
	first, _, err := s.Since(ctx, uuid.MustParse(id), 0, 1)
	if err != nil || len(first) == 0 {
		return false, err
	}
	e, err := logbook.Parse(first[0].Bytes)
	if err != nil {
		return false, nil
	}
	return logbook.FoldJob([]logbook.Entry{e}).Demo && time.Since(first[0].ReceivedAt) < freshFor, nil
}
