// Command dusha serves the wet-area logbook and computes its rules on the command line.
package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	_ "time/tzdata" // zones also where the machine has none

	"github.com/spf13/cobra"

	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/draw"
	"dusha/internal/api"
	"dusha/internal/store"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	context.AfterFunc(ctx, stop) // told a second time, a command that does not listen ends at once
	root := &cobra.Command{Use: "dusha", Short: "The wet-area logbook", SilenceUsage: true, SilenceErrors: true}
	root.AddCommand(serveCommand(), pairCommand(), devicesCommand(), demoCommand(), migrateCommand(), computeCommand(), exportCommand(), importCommand(), verifyCommand(), quarantineCommand(), backupCommand(), restoreCommand(), openapiCommand(), schemasCommand())
	if err := root.ExecuteContext(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "dusha:", err)
		os.Exit(1)
	}
}

func logger() *slog.Logger { return loggerAt(slog.LevelInfo) }

func loggerAt(least slog.Level) *slog.Logger {
	return slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: least}))
}

// databaseFlag is where a command's database is; the environment keeps it out of the
// list of processes.
func databaseFlag(c *cobra.Command) *string {
	return c.Flags().String("database", os.Getenv("DUSHA_DATABASE"), "MariaDB data source name (or DUSHA_DATABASE)")
}

var errNoDatabase = errors.New("no database: set DUSHA_DATABASE or --database")

func migrateCommand() *cobra.Command {
	c := &cobra.Command{Use: "migrate", Short: "Bring the database to this program's schema", Args: cobra.NoArgs}
	dsn := databaseFlag(c)
	c.RunE = func(c *cobra.Command, _ []string) error {
		if *dsn == "" {
			return errNoDatabase
		}
		return store.Migrate(c.Context(), *dsn)
	}
	return c
}

func computeCommand() *cobra.Command {
	return &cobra.Command{
		Use: "compute OPERATION < in.json", Short: "Run one operation of the table on JSON from standard input", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			out, err := computed(c.Context(), args[0], c.InOrStdin())
			if errors.Is(err, context.Canceled) {
				return errors.New("interrupted")
			}
			if err != nil {
				text, _ := json.Marshal(map[string]any{"faults": fault.Of(err)})
				fmt.Fprintln(c.OutOrStdout(), string(text))
				return errors.New("the input was refused")
			}
			_, err = fmt.Fprintln(c.OutOrStdout(), string(out))
			return err
		},
	}
}

// computed runs an operation on what is read, until it is interrupted.
func computed(ctx context.Context, op string, from io.Reader) ([]byte, error) {
	return api.Await(ctx, func() ([]byte, error) {
		input, err := io.ReadAll(io.LimitReader(from, ops.MostInput+1))
		if err != nil {
			return nil, err
		}
		return draw.Table().Call(op, input)
	})
}

func schemasCommand() *cobra.Command {
	return &cobra.Command{
		Use: "schemas FOLDER", Short: "Write the JSON Schemas of entries and bundles", Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			for name, schema := range api.Schemas() {
				text, err := json.MarshalIndent(schema, "", " ")
				if err != nil {
					return err
				}
				if err := os.WriteFile(filepath.Join(args[0], name+".schema.json"), append(text, '\n'), 0o644); err != nil {
					return err
				}
			}
			return nil
		},
	}
}

func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use: "openapi", Short: "Print the description of the HTTP door", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			_, description, err := api.New(api.Config{Table: draw.Table(), Log: logger()})
			if err != nil {
				return err
			}
			text, err := json.MarshalIndent(description, "", " ")
			if err != nil {
				return err
			}
			_, err = fmt.Fprintln(c.OutOrStdout(), string(text))
			return err
		},
	}
}
