package main

import (
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
			if there, _, err := s.Since(c.Context(), job, 0, 1); err != nil || len(there) == 0 {
				return orNothing(err, job)
			}
			return exchange.Write(c.Context(), c.OutOrStdout(), job, s)
		})
	}
	return c
}

func orNothing(err error, job uuid.UUID) error {
	if err != nil {
		return err
	}
	return fmt.Errorf("job %s: nothing is there", job)
}

func importCommand() *cobra.Command {
	c := &cobra.Command{Use: "import [bundle.json]", Short: "Read a bundle into a database that does not have its job", Args: cobra.MaximumNArgs(1)}
	dsn := databaseFlag(c)
	c.RunE = func(c *cobra.Command, args []string) error {
		return withBundle(c, args, func(r *exchange.Reader) error {
			return withStore(c.Context(), *dsn, func(s *store.Store) error {
				var v exchange.Verified
				err := s.Import(c.Context(), r.Job, func(in *store.Import) (err error) {
					v, err = r.Read(nil, in)
					return err
				})
				if err != nil {
					return err
				}
				fmt.Fprintf(c.OutOrStdout(), "%d entries read in.\n", v.Entries)
				sayVerified(c.OutOrStdout(), v)
				return nil
			})
		})
	}
	return c
}

func verifyCommand() *cobra.Command {
	c := &cobra.Command{Use: "verify [bundle.json]", Short: "Recompute a bundle's chain and name the first entry that was changed", Args: cobra.MaximumNArgs(1)}
	last := c.Flags().StringArray("last", nil, "a last hash from elsewhere, such as a dossier's foot; may be given again")
	c.RunE = func(c *cobra.Command, args []string) error {
		return withBundle(c, args, func(r *exchange.Reader) error {
			v, err := r.Read(*last, nil)
			if err != nil {
				return err
			}
			out := c.OutOrStdout()
			if !v.Plain {
				fmt.Fprintln(out, "Its layout is not as it was written; what it says is unchanged.")
			}
			fmt.Fprintf(out, "%d entries, each as it was kept.\n", v.Entries)
			sayVerified(out, v)
			return nil
		})
	}
	return c
}

// sayVerified says what of a bundle is set aside, what cannot be read, and its last hashes.
func sayVerified(w io.Writer, v exchange.Verified) {
	for _, a := range v.Aside {
		what := fmt.Sprintf("entry %d", a.Seq)
		if a.Seq == 0 {
			what = "the whole job"
		}
		fmt.Fprintf(w, "set aside on %s: %s: %s\n", a.At.Format("2006-01-02"), what, a.Why)
	}
	for _, p := range v.Proofs {
		says := "given without a paired device"
		switch {
		case p.Known:
			says = fmt.Sprintf("given on “%s” (%s), and it fits its key", p.Device, p.Role)
		case p.Named:
			says = "given on a device whose key is not in the bundle: not proven"
		}
		fmt.Fprintf(w, "signature of entry %d (id %s): %s\n", p.Seq, p.ID, says)
	}
	for _, unread := range v.Unread {
		fmt.Fprintf(w, "kept, and cannot be read: %s\n", unread)
	}
	for _, book := range slices.Sorted(maps.Keys(v.Heads)) {
		name := "area " + book
		if book == "" {
			name = "the job's own book"
		}
		fmt.Fprintf(w, "last hash of %s: %s\n", name, v.Heads[book])
	}
}

// withBundle begins to read the named file, or standard input.
func withBundle(c *cobra.Command, args []string, work func(*exchange.Reader) error) error {
	name, from := "standard input", c.InOrStdin()
	if len(args) > 0 {
		file, err := os.Open(args[0])
		if err != nil {
			return err
		}
		defer file.Close()
		name, from = args[0], file
	}
	r, err := exchange.Open(from)
	if err == nil {
		err = work(r)
	}
	if err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	return nil
}
