package main

import (
	"encoding/json"
	"io"
	"net/http"
	"os"

	"github.com/spf13/cobra"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/material"
	"keencrock/internal/exchange"
)

func assessCommand() *cobra.Command {
	var prices string
	cmd := &cobra.Command{
		Use:   "assess FILE|-",
		Short: "Assess a formula file and print the assessment as JSON; needs no database",
		Long: `Assess reads a formula file (or standard input for -) and prints what is known of
it as JSON: masses with ranges, shares, uses, cost, keeping, cautions.

A file that cannot be read or worked out ends with status 2 and a problem
document on standard error.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return assessFile(cmd.InOrStdin(), cmd.OutOrStdout(), args[0], prices)
		},
	}
	cmd.Flags().StringVar(&prices, "prices", "", "price list as CSV: material,amount,price,currency")
	return cmd
}

func assessFile(stdin io.Reader, out io.Writer, path, pricesPath string) error {
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
	var options assess.Options
	if pricesPath != "" {
		list, err := open(stdin, pricesPath)
		if err != nil {
			return err
		}
		defer list.Close()
		if options.Prices, err = exchange.ReadPrices(list, lib); err != nil {
			return err
		}
	}
	a := exchange.Assess(file, lib, options)
	if len(a.Problems) > 0 {
		return api.Refused("bad-formula", a.Problems[0].Detail, a.Problems)
	}
	e := json.NewEncoder(out)
	e.SetIndent("", "  ")
	e.SetEscapeHTML(false)
	return e.Encode(a)
}

func open(stdin io.Reader, path string) (io.ReadCloser, error) {
	if path == "-" {
		return io.NopCloser(stdin), nil
	}
	f, err := os.Open(path)
	if err != nil {
		return nil, api.NewProblem(http.StatusNotFound, "no-such-file", "%v", err)
	}
	return f, nil
}
