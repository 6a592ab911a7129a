package settings

import (
	"context"
	"errors"
	"io"
	"strings"
	"time"

	"keencrock/api"
	"keencrock/internal/backup"
	"keencrock/internal/exchange/paper"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Reach says under which addresses other machines reach Keen Crock, and to owners how
// its backups fare.
func (s *Service) Reach(ctx context.Context) (*api.Reach, error) {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return nil, err
	}
	out := &api.Reach{Addresses: []api.ReachAddress{}, Fingerprint: s.Server.Fingerprint, Nightly: s.Server.Nightly}
	for _, url := range s.Server.Addresses {
		out.Addresses = append(out.Addresses, api.ReachAddress{Url: url, Picture: string(paper.CodeSVG("Code of "+url, url))})
	}
	if a.Role != tenant.Owner {
		return out, nil
	}
	last, err := s.Store.Upkeep(ctx, backup.NightlyTask)
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	if out.BackupFailed = last.Failed; last.Failed == "" {
		out.LastBackup = last.DoneAt
	}
	return out, nil
}

// Export returns the name of an archive of all of the workshop, and how to write it.
func (s *Service) Export(ctx context.Context) (name string, write func(context.Context, io.Writer) error, err error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return "", nil, err
	}
	now := s.Now()
	var w *store.Workshop
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if w, err = tx.Workshop(); err != nil {
			return err
		}
		return tenant.Note(ctx, tx, "exported", "", now)
	})
	if err != nil {
		return "", nil, err
	}
	return fileName(w.Name, now), func(ctx context.Context, to io.Writer) error {
		return backup.Export(ctx, s.Store, to, s.Server.Version, now)
	}, nil
}

// fileName is a name that every file system takes.
func fileName(workshop string, day time.Time) string {
	plain := strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		}
		return '-'
	}, workshop)
	return strings.Trim(plain, "-") + day.Format("-2006-01-02") + ".zip"
}
