package main

import (
	"github.com/spf13/cobra"

	"keencrock/api"
)

//go:generate sh -c "go run . schema formula > ../../docs/formats/formula.schema.json"
//go:generate sh -c "go run . schema assessment > ../../docs/formats/assessment.schema.json"

func schemaCommand() *cobra.Command {
	return &cobra.Command{
		Use:       "schema formula|assessment",
		Short:     "Print the JSON Schema of an open format",
		Args:      cobra.MatchAll(cobra.ExactArgs(1), cobra.OnlyValidArgs),
		ValidArgs: []string{"formula", "assessment"},
		RunE: func(cmd *cobra.Command, args []string) error {
			text, err := api.FormatSchema(args[0])
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(text)
			return err
		},
	}
}
