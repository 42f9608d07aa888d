package main

import (
	"errors"
	"fmt"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"dusha/internal/store"
)

// quarantineCommand sets poison aside for everyone: an entry that harms who reads it, or a whole
// job. Nothing is deleted.
func quarantineCommand() *cobra.Command {
	c := &cobra.Command{
		Use: "quarantine [ENTRY | JOB]", Short: "Set an entry or a whole job aside for everyone, or release it",
		Long: "Sets an entry or a whole job aside for everyone, by its id, or an entry by its number in a job. " +
			"It stays in the book and in every hash; it is read by no fold, list or paper, and bundles, verify and the page say so.",
		Args: cobra.MaximumNArgs(1),
	}
	dsn := databaseFlag(c)
	why := c.Flags().String("why", "", "the reason, as everyone will read it")
	job := c.Flags().String("job", "", "with --seq: the job of an entry that cannot be named by its id")
	seq := c.Flags().Uint64("seq", 0, "with --job: the entry's number in the job")
	release := c.Flags().Bool("release", false, "take it back")
	c.RunE = func(c *cobra.Command, args []string) error {
		switch {
		case (len(args) == 1) == (*job != "" || *seq > 0) || (*job == "") != (*seq == 0):
			return errors.New("name an entry or a job by its id, or an entry by --job and --seq")
		case *why == "" && !*release:
			return errors.New("--why: say the reason, everyone will read it")
		}
		id := *job
		if len(args) == 1 {
			id = args[0]
		}
		named, err := uuid.Parse(id)
		if err != nil {
			return fmt.Errorf("%q is no id: %w", id, err)
		}
		return withStore(c.Context(), *dsn, func(s *store.Store) error {
			at := store.Place{Job: named, Seq: *seq}
			if len(args) == 1 {
				if at, err = s.Find(c.Context(), named); err != nil {
					return fmt.Errorf("%s: %w", named, err)
				}
			}
			said := "set aside"
			if *release {
				said, err = "released", s.Release(c.Context(), at)
			} else {
				err = s.SetAside(c.Context(), at, *why)
			}
			if err != nil {
				return fmt.Errorf("%s: %w", named, err)
			}
			what := fmt.Sprintf("Entry %d of job %s", at.Seq, at.Job)
			if at.Seq == 0 {
				what = fmt.Sprintf("Job %s", at.Job)
			}
			fmt.Fprintf(c.OutOrStdout(), "%s is %s.\n", what, said)
			return nil
		})
	}
	return c
}
