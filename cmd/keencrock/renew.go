package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"keencrock/internal/localpg"
	"keencrock/internal/store"
)

func renewDatabaseCommand() *cobra.Command {
	var h house
	cmd := &cobra.Command{
		Use:   "renew-database",
		Short: "Move the private database into one of the newest PostgreSQL installed",
		Long: `Renew-database moves everything into a new private database, of the newest
PostgreSQL installed and with checksums over its pages. The programs of the old
version have to be there too. The old database is kept beside it, and a backup is
written on the way. The server has to be stopped.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if os.Getenv("KEEN_CROCK_DATABASE_URL") != "" {
				return errors.New("KEEN_CROCK_DATABASE_URL names a database that Keen Crock does not keep itself: use “backup” there and “restore” into the new one")
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return h.renew(ctx, cmd)
		},
	}
	h.flags(cmd)
	return cmd
}

func (h *house) renew(ctx context.Context, cmd *cobra.Command) error {
	var from, to, file string
	kept, err := localpg.Renew(ctx, h.folder(), time.Now(), func(old, renewed *localpg.Cluster) (err error) {
		from, to = old.Major(), renewed.Major()
		file, err = h.copy(ctx, old.Owner, renewed.Owner)
		return err
	})
	if err != nil {
		return err
	}
	fmt.Fprintf(cmd.OutOrStdout(), "Everything is in a new database now (PostgreSQL %s, before %s).\nThe old one is kept in %s, a backup of it in %s.\n", to, from, kept, file)
	return nil
}

// copy makes an empty database what another is, by a backup, whose path it returns.
func (h *house) copy(ctx context.Context, from, to string) (file string, err error) {
	s, err := store.OpenAsOwner(ctx, from)
	if err != nil {
		return "", err
	}
	file, err = h.backupFolder().Take(ctx, s, "renewed", time.Now())
	if err = errors.Join(err, s.Close()); err != nil {
		return "", err
	}
	_, err = h.backupFolder().Restore(ctx, to, file, h.migration(), store.Taking{AsItIs: true}, time.Now())
	return file, err
}
