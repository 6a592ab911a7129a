package main

import (
	"errors"

	"github.com/spf13/cobra"

	"keencrock/core/trial"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
)

func trialCommand() *cobra.Command {
	var t trial.Trial
	better := "higher"
	cmd := &cobra.Command{
		Use:   "trial FILE|-",
		Short: "Answer a trial from its marks, for direct checks; needs no database",
		Long: `Trial reads marks as CSV (or standard input for -), a line a mark: pair,good,mark; and prints
as JSON each good against the control: the difference with its interval, how likely it is by
chance alone, and what that is worth. The control is the good that comes first, unless another is
named; a higher mark is the better one, unless it is said otherwise.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if better != "higher" && better != "lower" {
				return problem.Unfit("bad-value", "Better is higher or lower, not %q.", better).At("better")
			}
			t.Lower = better == "lower"
			in, err := open(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			if t.Marks, err = exchange.ReadMarks(in); err != nil {
				return err
			}
			a, err := t.Answer()
			var fault *trial.Fault
			if errors.As(err, &fault) {
				return problem.Unfit("bad-trial", "%s", fault.Detail)
			} else if err != nil {
				return err
			}
			return printJSON(cmd.OutOrStdout(), exchange.Answer(a))
		},
	}
	cmd.Flags().StringVar(&t.Control, "control", "", "the good that the others are held against")
	cmd.Flags().StringVar(&better, "better", better, "whether a higher or a lower mark is the better one")
	return cmd
}
