package main

import (
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"keencrock/core/chem"
	"keencrock/core/material"
	"keencrock/core/solution"
	"keencrock/internal/problem"
)

func phCommand() *cobra.Command {
	var species string
	var vented bool
	var celsius float64
	cmd := &cobra.Command{
		Use:   "ph --species NAME=MOL,…",
		Short: "Work out the pH of a solution, for direct checks; needs no database",
		Long: `Ph works out the equilibrium of a solution given in mol per kg of water and
prints it as JSON. Names are of compounds, formulas or pure materials:

  keencrock ph --species 'borax=0.01'
  keencrock ph --species 'NaHCO3=0.025,Na2CO3=0.025' --celsius 40
  keencrock ph --species 'baking soda=0.05,citric acid=0.01' --vented`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := parseSpecies(species)
			if err != nil {
				return err
			}
			c := chem.Conditions{Celsius: celsius}
			if vented {
				c.Vented = 1
			}
			e, err := chem.Solve(s, c)
			if err != nil {
				return problem.Unfit("no-equilibrium", "%v", err)
			}
			return printEquilibrium(cmd.OutOrStdout(), e)
		},
	}
	cmd.Flags().StringVar(&species, "species", "", "what is dissolved, in mol per kg of water")
	cmd.Flags().BoolVar(&vented, "vented", false, "after the gas has left for the air")
	cmd.Flags().Float64Var(&celsius, "celsius", 25, "temperature, 15 to 60")
	return cmd
}

func parseSpecies(text string) (*chem.Solution, error) {
	refuse := func(detail string, args ...any) error {
		return problem.Unfit("bad-species", detail, args...).At("species")
	}
	s := &chem.Solution{}
	for _, item := range strings.Split(text, ",") {
		if item = strings.TrimSpace(item); item == "" {
			continue
		}
		name, amount, found := strings.Cut(item, "=")
		if !found {
			return nil, refuse("“%s” is no species: expected a name and its mol per kg, such as borax=0.01.", item)
		}
		mol, err := strconv.ParseFloat(strings.TrimSpace(amount), 64)
		if err != nil || !(mol >= 0 && mol <= 50) {
			return nil, refuse("“%s”: expected mol per kg of water between 0 and 50.", item)
		}
		parts, err := compoundsNamed(strings.TrimSpace(name))
		if err != nil {
			return nil, refuse("%v", err)
		}
		for _, p := range parts {
			s.Add(p, mol)
		}
	}
	return s, nil
}

// compoundsNamed finds a compound by id or formula, or by the name of a
// material that is one.
func compoundsNamed(name string) ([]*chem.Compound, error) {
	if c, ok := chem.FindCompound(name); ok {
		return []*chem.Compound{c}, nil
	}
	m, err := material.Shipped().Find(name)
	if err != nil {
		return nil, fmt.Errorf("no compound is called “%s”. Known are %s, and the names of pure materials", name, strings.Join(chem.CompoundNames(), ", "))
	}
	parts, _, ok := solution.Contents(m)
	if !ok || m.Formula == "" || len(parts) == 0 {
		return nil, fmt.Errorf("%s is no pure compound: give what it is made of", m.Name)
	}
	return []*chem.Compound{parts[0].Compound}, nil
}

func printEquilibrium(out io.Writer, e chem.Equilibrium) error {
	held := []string{}
	for _, a := range e.HeldAt25 {
		held = append(held, a.String())
	}
	return printJSON(out, map[string]any{
		"ph": e.PH, "ph_low": e.Low, "ph_high": e.High, "beyond_model": e.Beyond,
		"ionic_strength": e.IonicStrength, "buffer_mol_per_ph": e.Buffer,
		"co2_gone": e.Gone, "calcite": e.Calcite, "soap_curdled_share": e.Protonated, "held_at_25": held,
	})
}
