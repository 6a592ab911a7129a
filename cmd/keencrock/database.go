package main

import (
	"context"
	"errors"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"keencrock/internal/backup"
	"keencrock/internal/blob"
	"keencrock/internal/localpg"
	"keencrock/internal/station/bench"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// house is where a database and its backups are.
type house struct {
	home     string // of the private database
	backups  string // folder of the backups
	pictures string // where pictures stand; the database for none

	outside *tenant.PicturesOutside // once it is open
}

// flags lets a command be told where.
func (h *house) flags(cmd *cobra.Command) {
	cmd.Flags().StringVar(&h.home, "home", "", "folder of the private database (default $KEEN_CROCK_HOME, else .keencrock)")
	cmd.Flags().StringVar(&h.backups, "backups", "", "folder of the backups (default $KEEN_CROCK_BACKUPS, else backups in the home)")
	cmd.Flags().StringVar(&h.pictures, "pictures", "", "where photos are kept: a folder, or s3://HOST/BUCKET (default $KEEN_CROCK_PICTURES, else the database)")
}

// picturesAt is where pictures stand; empty for the database.
func (h *house) picturesAt() string { return firstOf(h.pictures, os.Getenv("KEEN_CROCK_PICTURES")) }

// openPictures opens where pictures stand outside the database, once; nothing is opened where
// that is not asked for.
func (h *house) openPictures(ctx context.Context) error {
	if h.picturesAt() == "" || h.outside != nil {
		return nil
	}
	blobs, err := blob.Open(ctx, h.picturesAt(), blob.Keys{ID: os.Getenv("KEEN_CROCK_PICTURES_KEY"), Secret: os.Getenv("KEEN_CROCK_PICTURES_SECRET")})
	if err == nil {
		h.outside = &tenant.PicturesOutside{Blobs: blobs}
	}
	return err
}

func (h *house) folder() string {
	return firstOf(h.home, os.Getenv("KEEN_CROCK_HOME"), ".keencrock")
}

func (h *house) backupFolder() backup.Folder {
	f := backup.Folder{Path: firstOf(h.backups, os.Getenv("KEEN_CROCK_BACKUPS"), filepath.Join(h.folder(), "backups")), Version: version}
	if h.picturesAt() != "" {
		f.Outside = func(ctx context.Context, workshop, picture uuid.UUID) ([]byte, error) {
			if err := h.openPictures(ctx); err != nil {
				return nil, err
			}
			return h.outside.Of(ctx, workshop, picture)
		}
	}
	return f
}

func firstOf(values ...string) string {
	for _, v := range values {
		if v != "" {
			return v
		}
	}
	return ""
}

// addresses are those of a database: for daily work, and for who owns its tables; and how
// much room there is on its disk, where that is known.
type addresses struct {
	work, owner string
	free        func() (bytes int64, err error)
}

// database returns the addresses of the database and how to leave it.
func (h *house) database(ctx context.Context) (at addresses, leave func() error, err error) {
	if url := os.Getenv("KEEN_CROCK_DATABASE_URL"); url != "" {
		return addresses{work: url, owner: firstOf(os.Getenv("KEEN_CROCK_OWNER_URL"), url)}, func() error { return nil }, nil
	}
	cluster, err := localpg.Start(ctx, h.folder())
	if err != nil {
		return at, nil, err
	}
	ctx, cancel := context.WithCancel(context.WithoutCancel(ctx))
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		cluster.Keep(ctx)
	}()
	return addresses{cluster.URL, cluster.Owner, cluster.FreeBytes}, func() error {
		cancel()
		<-ended
		return cluster.Stop()
	}, nil
}

// migration brings the tables up to date, and the data; before, it keeps them as they
// were.
func (h *house) migration() store.Migration {
	m := bench.Migration(time.Now)
	m.Before = h.backupFolder().Before(time.Now)
	return m
}

// open opens the database with its tables up to date, and returns how to leave it.
func (h *house) open(ctx context.Context) (s *store.Store, leave func() error, err error) {
	at, stop, err := h.database(ctx)
	if err != nil {
		return nil, nil, err
	}
	err = store.Migrate(ctx, at.owner, h.migration())
	if err == nil {
		s, err = store.Open(ctx, at.work)
	}
	if err != nil {
		return nil, nil, errors.Join(err, stop())
	}
	s.WatchSpace(at.free)
	if err := h.openPictures(ctx); err != nil {
		return nil, nil, errors.Join(err, s.Close(), stop())
	}
	if h.outside != nil {
		s.OutsidePicture = h.outside.Of
	}
	return s, func() error { return errors.Join(s.Close(), stop()) }, nil
}

// withStore runs f with the database, until it is done or a signal ends it.
func (h *house) withStore(ctx context.Context, f func(context.Context, *store.Store) error) error {
	return with(ctx, h.open, f)
}

// withDatabase is withStore for who needs the addresses of the database alone.
func (h *house) withDatabase(ctx context.Context, f func(context.Context, addresses) error) error {
	return with(ctx, h.database, f)
}

// with runs f with what open gives, until f is done or a signal ends it, and leaves it.
func with[T any](ctx context.Context, open func(context.Context) (T, func() error, error), f func(context.Context, T) error) (err error) {
	ctx, stop := signal.NotifyContext(ctx, os.Interrupt, syscall.SIGTERM)
	defer stop()
	opened, leave, err := open(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, leave()) }()
	return f(ctx, opened)
}
