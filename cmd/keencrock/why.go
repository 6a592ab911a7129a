package main

import (
	"github.com/spf13/cobra"

	"keencrock/core/why"
	"keencrock/internal/exchange"
)

func whyCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "why FILE|-",
		Short: "Say why something went wrong, for direct checks; needs no database",
		Long: `Why reads a good, what is seen, its water and dose, and what was answered so far (or standard
input for -), and prints as JSON the likely causes with their odds and what speaks for them, and
the test that would part them best for its trouble.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			in, err := open(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			q, err := exchange.ReadWhy(in)
			if err != nil {
				return err
			}
			f, err := why.Shipped().Find(*q)
			if err != nil {
				return err
			}
			return printJSON(cmd.OutOrStdout(), exchange.WhyFound(f))
		},
	}
}
