package main

import (
	"io"

	"github.com/spf13/cobra"

	"keencrock/api"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
)

// readResolved reads a formula file and resolves it with the shipped library.
func readResolved(stdin io.Reader, path string) (*formula.Resolved, error) {
	in, err := open(stdin, path)
	if err != nil {
		return nil, err
	}
	defer in.Close()
	file, err := exchange.ReadFormula(in)
	if err != nil {
		return nil, err
	}
	f, _ := exchange.ToFormula(file)
	r := formula.Resolve(f, material.Shipped(), formula.Workshop{})
	if r.TotalG.Value <= 0 {
		return nil, problem.Unfit("nothing-weighs", "Nothing in %s weighs anything yet.", file.Name).At("lines")
	}
	return r, nil
}

func doseCommand() *cobra.Command {
	var hardness, soil string
	var celsius float64
	cmd := &cobra.Command{
		Use:   "dose FILE|-",
		Short: "Say how much of a good to use in each machine, for direct checks; needs no database",
		Long: `Dose reads a formula file (or standard input for -) and prints as JSON how much to
use in each machine it is for: the smallest measure that meets its purpose in that
water, beside what makers say; where no dose reaches it, what to add.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			r, err := readResolved(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			where := dosing.Where{Celsius: celsius}
			if hardness != "" {
				if where.Hardness, err = quantity.ParseHardness(hardness); err != nil {
					return problem.Unfit("bad-value", "%v", err).At("hardness")
				}
			}
			if where.Soil, err = dosing.ParseSoil(soil); err != nil {
				return problem.Unfit("bad-value", "%v", err).At("soil")
			}
			var rows []dosing.Where
			for _, m := range dosing.MachinesFor(r.Formula.Kind, dosing.Machines()) {
				row := where
				row.Machine = m
				rows = append(rows, row)
			}
			table, err := dosing.Table(r, rows, exchange.DoseOptions(r))
			if err != nil {
				return problem.Unfit("no-dose", "%v", err)
			}
			return printJSON(cmd.OutOrStdout(), struct {
				Rows []api.DoseRow `json:"rows"`
			}{exchange.DoseRows(table, r.Formula.Measures)})
		},
	}
	cmd.Flags().StringVar(&hardness, "hardness", "", "hardness of the water, such as '268 mg/l' or '15 °dH' (default none)")
	cmd.Flags().StringVar(&soil, "soil", "", "how dirty a load is: light, normal or heavy (default normal)")
	cmd.Flags().Float64Var(&celsius, "celsius", 25, "temperature of the water, 15 to 60")
	return cmd
}
