package main

import (
	"io"
	"os"

	"github.com/spf13/cobra"

	"keencrock/core/assess"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
)

// assessOptions are the flags of assess.
type assessOptions struct {
	prices, use, hardness string
	celsius               float64
}

func assessCommand() *cobra.Command {
	var o assessOptions
	cmd := &cobra.Command{
		Use:   "assess FILE|-",
		Short: "Assess a formula file and print the assessment as JSON; needs no database",
		Long: `Assess reads a formula file (or standard input for -) and prints what is known of
it as JSON: masses with ranges, shares, uses, cost, keeping, cautions, and what it
does in the water it is used in.

What keeps a line from being worked out stands in it as a question, and the rest is
worked out all the same. A file that is no formula ends with status 2 and a
problem document on standard error.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return assessFile(cmd.InOrStdin(), cmd.OutOrStdout(), args[0], o)
		},
	}
	cmd.Flags().StringVar(&o.prices, "prices", "", "price list as CSV: material,amount,price,currency")
	cmd.Flags().StringVar(&o.use, "use", "", "strength it is used at, such as '10 g/l', '1 tbsp in 20 l' or neat (default: what the formula says or its kind is used at)")
	cmd.Flags().StringVar(&o.hardness, "hardness", "", "hardness of the water, such as '268 mg/l' or '15 °dH' (default none)")
	cmd.Flags().Float64Var(&o.celsius, "celsius", 25, "temperature of the water, 15 to 60")
	return cmd
}

func assessFile(stdin io.Reader, out io.Writer, path string, o assessOptions) error {
	lib := material.Shipped()
	in, err := open(stdin, path)
	if err != nil {
		return err
	}
	defer in.Close()
	file, err := exchange.ReadFormula(in)
	if err != nil {
		return err
	}
	options := assess.Options{Water: &assess.Water{Strength: o.use, Celsius: o.celsius}}
	if o.hardness != "" {
		if options.Water.Hardness, err = quantity.ParseHardness(o.hardness); err != nil {
			p := exchange.FieldProblem("hardness", err)
			return &p
		}
	}
	if o.prices != "" {
		list, err := open(stdin, o.prices)
		if err != nil {
			return err
		}
		defer list.Close()
		if options.Prices, err = exchange.ReadPrices(list, lib); err != nil {
			return err
		}
	}
	a := exchange.Assess(file, lib, options)
	if len(a.Problems) > 0 { // a strength or a water that cannot be, as asked for on the command line
		return problem.UnfitAll("bad-value", a.Problems[0].Detail, a.Problems)
	}
	return printJSON(out, a)
}

func open(stdin io.Reader, path string) (io.ReadCloser, error) {
	if path == "-" {
		return io.NopCloser(stdin), nil
	}
	f, err := os.Open(path)
	if err != nil {
		return nil, problem.Missing("no-such-file", "%v", err)
	}
	return f, nil
}
