package main

import (
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"dusha/internal/store"
)

func backupCommand() *cobra.Command {
	c := &cobra.Command{Use: "backup FILE", Short: "Write all that the database holds to a file, while the server goes on", Args: cobra.ExactArgs(1)}
	dsn := databaseFlag(c)
	c.RunE = func(c *cobra.Command, args []string) error {
		if *dsn == "" {
			return errNoDatabase
		}
		file, err := os.OpenFile(args[0], os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
		if err != nil {
			return err
		}
		rows, err := store.Backup(c.Context(), *dsn, file)
		if err == nil {
			err = file.Sync()
		}
		if closed := file.Close(); err == nil {
			err = closed
		}
		if err != nil {
			os.Remove(args[0]) // half a backup is none
			return err
		}
		fmt.Fprintf(c.OutOrStdout(), "%d rows written to %s.\n", rows, args[0])
		return nil
	}
	return c
}

func restoreCommand() *cobra.Command {
	c := &cobra.Command{Use: "restore FILE", Short: "Fill an empty database from a backup, all of it or nothing, each chain worked out anew", Args: cobra.ExactArgs(1)}
	dsn := databaseFlag(c)
	c.RunE = func(c *cobra.Command, args []string) error {
		if *dsn == "" {
			return errNoDatabase
		}
		file, err := os.Open(args[0])
		if err != nil {
			return err
		}
		defer file.Close()
		restored, err := store.Restore(c.Context(), *dsn, io.Reader(file))
		if err != nil {
			return fmt.Errorf("%s: %w", args[0], err)
		}
		fmt.Fprintf(c.OutOrStdout(), "%d rows as of %s, each chain as it was kept.\n", restored.Rows, restored.At.Format("2006-01-02 15:04 MST"))
		return nil
	}
	return c
}
