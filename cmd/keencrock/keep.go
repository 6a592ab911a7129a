package main

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"keencrock/internal/backup"
	"keencrock/internal/store"
)

func backupCommand() *cobra.Command {
	var h house
	cmd := &cobra.Command{
		Use:   "backup [FILE]",
		Short: "Write all that the database holds to an archive",
		Long: `Backup writes everything as it is at one moment to one file, while work goes on:
a ZIP of CSV files with their checksums, written whole or not at all. Without a
name it goes to the folder of the backups.`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return h.withStore(cmd.Context(), func(ctx context.Context, s *store.Store) (err error) {
				folder, now := h.backupFolder(), time.Now()
				var path string
				if len(args) == 1 {
					path, err = args[0], folder.TakeTo(ctx, s, args[0], now)
				} else {
					path, err = folder.Take(ctx, s, "keencrock", now)
				}
				if err == nil {
					fmt.Fprintln(cmd.OutOrStdout(), "Backed up to", path)
				}
				return err
			})
		},
	}
	h.flags(cmd)
	return cmd
}

func restoreCommand() *cobra.Command {
	var h house
	var how store.Taking
	cmd := &cobra.Command{
		Use:   "restore FILE",
		Short: "Make the database what it was when a backup was taken",
		Long: `Restore takes in a backup, of this version or an older one. It is made ready out of
sight and takes its place as the last step: whatever breaks off, nothing has
changed. The server has to be stopped. A database that holds workshops is only
replaced with --replace, after it was backed up itself. What does not add up, as
“keencrock verify” would say, is not taken in, unless --as-it-is says so. Everybody
has to sign in anew.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return h.withDatabase(cmd.Context(), func(ctx context.Context, at addresses) error {
				how.Told = toldOn(cmd)
				kept, err := h.backupFolder().Restore(ctx, at.owner, args[0], h.migration(), how, time.Now())
				if errors.Is(err, store.ErrHolds) {
					err = fmt.Errorf("%w: with --replace they are backed up and then replaced", err)
				}
				if err != nil {
					return hinted(err)
				}
				if kept != "" {
					fmt.Fprintln(cmd.OutOrStdout(), "What was there is kept in", kept)
				}
				fmt.Fprintln(cmd.OutOrStdout(), "Restored from", args[0])
				return nil
			})
		},
	}
	h.flags(cmd)
	cmd.Flags().BoolVar(&how.Replace, "replace", false, "replace the workshops that are there, after backing them up")
	asItIs(cmd, &how)
	return cmd
}

func asItIs(cmd *cobra.Command, how *store.Taking) {
	cmd.Flags().BoolVar(&how.AsItIs, "as-it-is", false, "take in also what does not add up")
}

// toldOn says on a command's second output how far it came.
func toldOn(cmd *cobra.Command) func(table string, rows int64) {
	return func(table string, rows int64) {
		if rows > 0 {
			fmt.Fprintf(cmd.ErrOrStderr(), "%s: %d rows\n", table, rows)
		}
	}
}

// hinted says what can be done about an archive that does not add up.
func hinted(err error) error {
	if errors.Is(err, store.ErrUnsound) {
		return fmt.Errorf("%w\nNothing has changed. With --as-it-is it is taken in all the same", err)
	}
	return err
}

func exportCommand() *cobra.Command {
	var h house
	cmd := &cobra.Command{
		Use:   "export SIGN-IN-NAME FILE",
		Short: "Write one workshop, that of who signs in by a name, to an archive",
		Args:  cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			return h.withStore(cmd.Context(), func(ctx context.Context, s *store.Store) error {
				p, err := s.PersonByLogin(ctx, args[0])
				if err != nil {
					return fmt.Errorf("nobody signs in by the name %q", args[0])
				}
				name, err := backup.ExportTo(store.WithWorkshop(ctx, p.WorkshopID), s, args[1], version, time.Now())
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s is written to %s, without its people's passwords.\n", name, args[1])
				}
				return err
			})
		},
	}
	h.flags(cmd)
	return cmd
}

func importCommand() *cobra.Command {
	var h house
	var how store.Taking
	cmd := &cobra.Command{
		Use:   "import FILE",
		Short: "Add the workshop of an archive to the database",
		Long: `Import adds a workshop that was exported, here or elsewhere, by this version or an
older one: all of it or nothing. Its people have no passwords yet: give them new
ones with reset-password.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return h.withDatabase(cmd.Context(), func(ctx context.Context, at addresses) error {
				m := h.migration()
				if err := store.Migrate(ctx, at.owner, m); err != nil {
					return err
				}
				how.Told = toldOn(cmd)
				_, name, err := backup.Import(ctx, at.owner, args[0], m, how)
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s is here. Give its people new passwords: keencrock reset-password SIGN-IN-NAME\n", name)
				}
				return hinted(err)
			})
		},
	}
	h.flags(cmd)
	asItIs(cmd, &how)
	return cmd
}
