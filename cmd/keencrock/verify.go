package main

import (
	"errors"
	"fmt"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"
)

// errBroken is the end of a verification that found something; what it found is
// printed.
var errBroken = errors.New("the database does not add up")

func verifyCommand() *cobra.Command {
	var home string
	cmd := &cobra.Command{
		Use:   "verify",
		Short: "Check that the stock of every workshop adds up",
		Long: `Verify holds that what is left of every lot is the sum of its movements, to the
last milligram, that jars add up to their lots, and that batches are what their
events say. It changes nothing but bringing the tables up to date, and the server
may go on running meanwhile. It ends with 1 when something does not hold.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) (err error) {
			ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
			defer stop()
			s, leave, err := openStore(ctx, home)
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, leave()) }()
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
			fmt.Fprintf(out, "All adds up, in %d %s.\n", n, map[bool]string{true: "workshop", false: "workshops"}[n == 1])
			return err
		},
	}
	cmd.Flags().StringVar(&home, "home", "", "folder of the private database (default $KEEN_CROCK_HOME, else .keencrock)")
	return cmd
}
