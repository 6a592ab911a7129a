// Command keencrock serves the application and answers from the command line.
package main

import (
	"bytes"
	"cmp"
	"compress/gzip"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"runtime/debug"
	_ "time/tzdata" // the zones of workshops, wherever it runs

	"github.com/spf13/cobra"

	"keencrock/api"
)

// version is that of the last entry of CHANGELOG.md.
const version = "0.18.0"

// notices are the licences of what Keen Crock is made with, as tools/notices lists them.
//
//go:embed notices.txt.gz
var notices []byte

// commit is what was built, as tools/setup.sh tells the linker; empty for a bare “go
// build”, which tells it by itself where it may look at the history.
var commit string

// built says which version this is, of which commit, by which Go.
func built() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return version
	}
	return fmt.Sprintf("%s (commit %s, %s)", version, cmp.Or(commit, commitIn(info.Settings), "unknown"), info.GoVersion)
}

// commitIn is the commit of a build, as Go notes it; empty where it did not.
func commitIn(settings []debug.BuildSetting) (commit string) {
	changed := ""
	for _, s := range settings {
		switch {
		case s.Key == "vcs.revision":
			commit = s.Value[:min(len(s.Value), 12)]
		case s.Key == "vcs.modified" && s.Value == "true":
			changed = ", changed since"
		}
	}
	if commit == "" {
		return ""
	}
	return commit + changed
}

func noticesCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "notices",
		Short: "Print the licences of what Keen Crock is made with",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			z, err := gzip.NewReader(bytes.NewReader(notices))
			if err != nil {
				return err
			}
			_, err = io.Copy(cmd.OutOrStdout(), z)
			return err
		},
	}
}

func main() {
	root := &cobra.Command{
		Use:           "keencrock",
		Short:         "Keen Crock, for a small-batch maker of natural cleaning goods",
		Version:       built(),
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.AddCommand(serveCommand(), assessCommand(), sayCommand(), deliveryCommand(), schemaCommand(), phCommand(), resetPasswordCommand(), addWorkshopCommand(), verifyCommand(), backupCommand(), movePicturesCommand(), restoreCommand(), exportCommand(), importCommand(), renewDatabaseCommand(), dryingCommand(), vesselCommand(), doseCommand(), planCommand(), shoppingCommand(), trialCommand(), colourCommand(), swatchCommand(), whyCommand(), labelCommand(), noticesCommand(), askReadyCommand(), &cobra.Command{
		Use:   "version",
		Short: "Print the version",
		Args:  cobra.NoArgs,
		Run:   func(cmd *cobra.Command, _ []string) { fmt.Fprintln(cmd.OutOrStdout(), built()) },
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
