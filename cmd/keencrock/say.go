package main

import (
	"io"

	"github.com/spf13/cobra"

	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
)

func sayCommand() *cobra.Command {
	var measures string
	cmd := &cobra.Command{
		Use:   "say FILE|-",
		Short: "Read a good the way a maker says it, and print it as a formula; needs no database",
		Long: `Say reads what a maker says of a good, or of several one after the other, and prints
the formula, what became of each word, what is asked, and what it does not hold, as
JSON. Questions are no mistake: the status is 0 with them.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return sayFile(cmd.InOrStdin(), cmd.OutOrStdout(), args[0], measures)
		},
	}
	cmd.Flags().StringVar(&measures, "measures", "", "how it is measured: us, metric, imperial or australian (default as the formula format has it)")
	return cmd
}

func sayFile(stdin io.Reader, out io.Writer, path, measures string) error {
	set, err := quantity.ParseMeasures(measures)
	if err != nil {
		p := exchange.FieldProblem("measures", err)
		return &p
	}
	text, err := readText(stdin, path)
	if err != nil {
		return err
	}
	lib := material.Shipped()
	talk, err := listener.Read(text, lib)
	if err != nil {
		return problem.TooLarge("too-long", "%s", exchange.Sentence(err))
	}
	return printJSON(out, exchange.Said(talk, lib, set, formula.Workshop{}))
}

// mostSaid is how much of a file is read at all, in bytes.
const mostSaid = 1 << 20

func readText(stdin io.Reader, path string) (string, error) {
	in, err := open(stdin, path)
	if err != nil {
		return "", err
	}
	defer in.Close()
	data, err := io.ReadAll(io.LimitReader(in, mostSaid))
	if err != nil {
		return "", problem.Malformed("unreadable", "The text could not be read: %v", err)
	}
	return string(data), nil
}
