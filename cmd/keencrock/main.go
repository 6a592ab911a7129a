// Command keencrock serves the application and answers from the command line.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	_ "time/tzdata" // the zones of workshops, wherever it runs

	"github.com/spf13/cobra"

	"keencrock/api"
)

// version is set when the binary is built for release.
var version = "0.1.0"

func main() {
	root := &cobra.Command{
		Use:           "keencrock",
		Short:         "Keen Crock, for a small-batch maker of natural cleaning goods",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.AddCommand(serveCommand(), assessCommand(), schemaCommand(), phCommand(), resetPasswordCommand(), addWorkshopCommand(), verifyCommand(), backupCommand(), restoreCommand(), exportCommand(), importCommand(), renewDatabaseCommand(), dryingCommand(), vesselCommand(), doseCommand(), labelCommand(), &cobra.Command{
		Use:   "version",
		Short: "Print the version",
		Args:  cobra.NoArgs,
		Run:   func(cmd *cobra.Command, _ []string) { fmt.Fprintln(cmd.OutOrStdout(), version) },
	})
	err := root.Execute()
	var problem *api.Problem
	switch {
	case err == nil:
	case errors.As(err, &problem): // something given was wrong: say it as data
		e := json.NewEncoder(os.Stderr)
		e.SetIndent("", "  ")
		_ = e.Encode(problem)
		os.Exit(2)
	default:
		fmt.Fprintln(os.Stderr, "keencrock:", err)
		os.Exit(1)
	}
}
