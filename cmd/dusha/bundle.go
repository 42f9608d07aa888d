package main

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"maps"
	"os"
	"slices"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"dusha/internal/exchange"
	"dusha/internal/store"
)

// withStore opens the database of a command and closes it after the work.
func withStore(ctx context.Context, dsn string, work func(*store.Store) error) error {
	if dsn == "" {
		return errNoDatabase
	}
	s, err := store.Open(ctx, dsn, logger())
	if err != nil {
		return err
	}
	defer s.Close()
	return work(s)
}

func exportCommand() *cobra.Command {
	c := &cobra.Command{Use: "export JOB > bundle.json", Short: "Write a job with all its entries as a bundle", Args: cobra.ExactArgs(1)}
	dsn := databaseFlag(c)
	c.RunE = func(c *cobra.Command, args []string) error {
		job, err := uuid.Parse(args[0])
		if err != nil {
			return fmt.Errorf("job: %w", err)
		}
		return withStore(c.Context(), *dsn, func(s *store.Store) error {
			kept, err := s.All(c.Context(), job)
			if err != nil {
				return err
			}
			if len(kept) == 0 {
				return fmt.Errorf("job %s: nothing is there", job)
			}
			names, err := s.Names(c.Context())
			if err != nil {
				return err
			}
			photos, err := s.Photos(c.Context(), job)
			if err != nil {
				return err
			}
			return exchange.Pack(job.String(), kept, names, photos).Write(c.OutOrStdout())
		})
	}
	return c
}

func importCommand() *cobra.Command {
	c := &cobra.Command{Use: "import [bundle.json]", Short: "Read a bundle into a database that does not have its job", Args: cobra.MaximumNArgs(1)}
	dsn := databaseFlag(c)
	c.RunE = func(c *cobra.Command, args []string) error {
		b, _, err := readBundle(c, args)
		if err != nil {
			return err
		}
		heads, err := b.Verify(nil)
		if err != nil {
			return err
		}
		kept, err := b.Kept()
		if err != nil {
			return err
		}
		job, err := uuid.Parse(b.Job)
		if err != nil {
			return fmt.Errorf("job: %w", err)
		}
		return withStore(c.Context(), *dsn, func(s *store.Store) error {
			if err := s.Import(c.Context(), job, kept, b.Photos); err != nil {
				return err
			}
			for id, name := range b.People {
				person, err := uuid.Parse(id)
				if err != nil {
					continue
				}
				if err := s.Name(c.Context(), person, name); err != nil {
					return err
				}
			}
			fmt.Fprintf(c.OutOrStdout(), "%d entries read in.\n", len(kept))
			sayHeads(c.OutOrStdout(), heads)
			return nil
		})
	}
	return c
}

func verifyCommand() *cobra.Command {
	c := &cobra.Command{Use: "verify [bundle.json]", Short: "Recompute a bundle's chain and name the first entry that was changed", Args: cobra.MaximumNArgs(1)}
	last := c.Flags().StringArray("last", nil, "a last hash from elsewhere, such as a dossier's foot; may be given again")
	c.RunE = func(c *cobra.Command, args []string) error {
		b, plain, err := readBundle(c, args)
		if err != nil {
			return err
		}
		heads, err := b.Verify(*last)
		if err != nil {
			return err
		}
		if !plain {
			fmt.Fprintln(c.OutOrStdout(), "Its layout is not as it was written; what it says is unchanged.")
		}
		fmt.Fprintf(c.OutOrStdout(), "%d entries, each as it was kept.\n", len(b.Entries))
		sayHeads(c.OutOrStdout(), heads)
		return nil
	}
	return c
}

func sayHeads(w io.Writer, heads exchange.Heads) {
	for _, book := range slices.Sorted(maps.Keys(heads)) {
		name := "area " + book
		if book == "" {
			name = "the job's own book"
		}
		fmt.Fprintf(w, "last hash of %s: %s\n", name, heads[book])
	}
}

// readBundle reads the named file, or standard input; plain tells whether it is laid out as
// it was written.
func readBundle(c *cobra.Command, args []string) (b exchange.Bundle, plain bool, err error) {
	name, text := "standard input", []byte(nil)
	if len(args) == 0 {
		text, err = io.ReadAll(c.InOrStdin())
	} else {
		name = args[0]
		text, err = os.ReadFile(name)
	}
	if err != nil {
		return b, false, err
	}
	b, err = exchange.Read(bytes.NewReader(text))
	if err != nil {
		return b, false, fmt.Errorf("%s: %w", name, err)
	}
	return b, b.Plain(text), nil
}
