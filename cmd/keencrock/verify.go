package main

import (
	"context"
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"keencrock/internal/exchange/archive"
	"keencrock/internal/store"
)

// errBroken is the end of a verification that found something; what it found is
// printed.
var errBroken = errors.New("the database does not add up")

func verifyCommand() *cobra.Command {
	var h house
	cmd := &cobra.Command{
		Use:   "verify [ARCHIVE]",
		Short: "Check that the stock of every workshop adds up, or that an archive is whole",
		Long: `Verify holds that what is left of every lot is the sum of its movements, to the
last milligram, that jars add up to their lots, and that batches are what their
events say. It changes nothing but bringing the tables up to date, and the server
may go on running meanwhile. It ends with 1 when something does not hold.

Given an archive, it reads that through and holds it against its manifest.`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if len(args) == 1 {
				return verifyArchive(cmd, args[0])
			}
			return h.withStore(cmd.Context(), func(ctx context.Context, s *store.Store) error {
				broken, err := s.Verify(ctx)
				if err != nil {
					return err
				}
				out := cmd.OutOrStdout()
				for _, b := range broken {
					fmt.Fprintln(out, b)
				}
				if len(broken) > 0 {
					return errBroken
				}
				n, err := s.Workshops(ctx)
				fmt.Fprintf(out, "All adds up, in %s.\n", counted(int64(n), "workshop"))
				return err
			})
		},
	}
	h.flags(cmd)
	return cmd
}

func verifyArchive(cmd *cobra.Command, path string) error {
	a, err := archive.Open(path)
	if err != nil {
		return err
	}
	defer a.Close()
	var rows int64
	for _, t := range a.Manifest.Tables {
		rows += t.Rows
	}
	what := "a whole server"
	if a.Manifest.Kind == archive.Workshop {
		what = "the workshop " + a.Manifest.Workshop
	}
	fmt.Fprintf(cmd.OutOrStdout(), "The archive is whole: %s, taken %s by version %s, %s in %s.\n", what,
		a.Manifest.MadeAt.Local().Format("2 January 2006 15:04"), a.Manifest.MadeBy, counted(rows, "row"), counted(int64(len(a.Manifest.Tables)), "table"))
	return nil
}

// counted is a number with the word for what it counts.
func counted(n int64, what string) string {
	if n != 1 {
		what += "s"
	}
	return fmt.Sprintf("%d %s", n, what)
}
