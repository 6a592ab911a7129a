// Package backup keeps what a database holds: archives of it at one moment, taken
// while work goes on, and the way back from them.
package backup

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"time"

	"github.com/google/uuid"

	"keencrock/internal/exchange/archive"
	"keencrock/internal/store"
)

// Folder is where backups lie, and who writes them.
type Folder struct {
	Path    string
	Version string // of Keen Crock

	// Outside returns pictures that stand outside the database, for stores that were not told; nil
	// where there are none.
	Outside func(ctx context.Context, workshop, picture uuid.UUID) ([]byte, error)
}

// stamp names files by their time, in the order of their names.
const stamp = "20060102T150405Z"

// Take writes all that the database holds to a file in the folder, named by a word and
// the time, and returns its path.
func (f Folder) Take(ctx context.Context, s *store.Store, word string, now time.Time) (string, error) {
	if err := os.MkdirAll(f.Path, 0o700); err != nil {
		return "", err
	}
	path := filepath.Join(f.Path, word+"-"+now.UTC().Format(stamp)+".zip")
	return path, f.TakeTo(ctx, s, path, now)
}

// TakeTo is Take with a path.
func (f Folder) TakeTo(ctx context.Context, s *store.Store, path string, now time.Time) error {
	w, err := archive.Create(path, archive.Manifest{Kind: archive.Server, MadeAt: now.UTC(), MadeBy: f.Version})
	if err != nil {
		return err
	}
	if s.OutsidePicture == nil {
		s.OutsidePicture = f.Outside
	}
	schema, err := s.Dump(ctx, w)
	if err != nil {
		w.Abandon()
		return fmt.Errorf("write the backup: %w", err)
	}
	return w.Close(schema)
}

// Before is what a migration does first: everything is kept as it was.
func (f Folder) Before(now func() time.Time) func(ctx context.Context, s *store.Store, from, to int64) error {
	return func(ctx context.Context, s *store.Store, from, to int64) error {
		if _, err := f.Take(ctx, s, fmt.Sprintf("before-%d", to), now()); err != nil {
			return err
		}
		return f.keep("before-*", 5)
	}
}

// keep removes all but the newest files of a pattern.
func (f Folder) keep(pattern string, newest int) error {
	files, err := filepath.Glob(filepath.Join(f.Path, pattern+".zip"))
	if err != nil {
		return err
	}
	slices.SortFunc(files, func(a, b string) int { return modified(b).Compare(modified(a)) })
	for _, path := range files[min(newest, len(files)):] {
		err = errors.Join(err, os.Remove(path))
	}
	return err
}

func modified(path string) time.Time {
	info, err := os.Stat(path)
	if err != nil {
		return time.Time{}
	}
	return info.ModTime()
}

// Export writes all of the workshop of a context to a stream, without its people's
// passwords.
func Export(ctx context.Context, s *store.Store, to io.Writer, version string, now time.Time) error {
	w, err := s.Read(ctx).Workshop()
	if err != nil {
		return err
	}
	return export(ctx, s, archive.To(to, exported(w, version, now)))
}

// ExportTo is Export to a file; it returns the name of the workshop.
func ExportTo(ctx context.Context, s *store.Store, path, version string, now time.Time) (name string, err error) {
	w, err := s.Read(ctx).Workshop()
	if err != nil {
		return "", err
	}
	out, err := archive.Create(path, exported(w, version, now))
	if err != nil {
		return "", err
	}
	return w.Name, export(ctx, s, out)
}

func exported(w *store.Workshop, version string, now time.Time) archive.Manifest {
	return archive.Manifest{Kind: archive.Workshop, Workshop: w.Name, MadeAt: now.UTC(), MadeBy: version}
}

func export(ctx context.Context, s *store.Store, to *archive.Writer) error {
	schema, err := s.DumpWorkshop(ctx, to)
	if err != nil {
		to.Abandon()
		return fmt.Errorf("write the archive: %w", err)
	}
	return to.Close(schema)
}

// source gives an archive to the store.
type source struct{ *archive.Archive }

func (s source) Schema() int64 { return s.Manifest.Schema }

func (s source) Tables() []string {
	names := make([]string, len(s.Manifest.Tables))
	for i, t := range s.Manifest.Tables {
		names[i] = t.Name
	}
	return names
}

func (s source) Rows(table string) int64 {
	i := slices.IndexFunc(s.Manifest.Tables, func(t archive.Table) bool { return t.Name == table })
	return s.Manifest.Tables[i].Rows
}

// open opens an archive that is of a kind.
func open(path string, kind archive.Kind) (*archive.Archive, error) {
	a, err := archive.Open(path)
	if err != nil {
		return nil, err
	}
	if a.Manifest.Kind == kind {
		return a, nil
	}
	what, how := "one workshop", "import"
	if a.Manifest.Kind == archive.Server {
		what, how = "a whole server", "restore"
	}
	return nil, errors.Join(fmt.Errorf("this archive is of %s: use “keencrock %s”", what, how), a.Close())
}

// Restore makes a database what it was when a backup was taken. Where it holds
// workshops it has to be said that they are to be replaced; they are kept in the
// folder first.
func (f Folder) Restore(ctx context.Context, url, path string, m store.Migration, how store.Taking, now time.Time) (kept string, err error) {
	a, err := open(path, archive.Server)
	if err != nil {
		return "", err
	}
	defer func() { err = errors.Join(err, a.Close()) }()
	if how.Replace {
		if kept, err = f.keepReplaced(ctx, url, now); err != nil {
			return "", err
		}
	}
	return kept, store.Restore(ctx, url, source{a}, m, how)
}

// keepReplaced takes a backup of what is about to be replaced, where there is
// something.
func (f Folder) keepReplaced(ctx context.Context, url string, now time.Time) (path string, err error) {
	s, err := store.OpenAsOwner(ctx, url)
	if err != nil {
		return "", err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	holds, err := s.HoldsWorkshops(ctx)
	if err != nil || !holds {
		return "", err
	}
	return f.Take(ctx, s, "replaced", now)
}

// Import adds the workshop of an archive to a database, and returns its id and name.
func Import(ctx context.Context, url, path string, m store.Migration, how store.Taking) (id uuid.UUID, name string, err error) {
	a, err := open(path, archive.Workshop)
	if err != nil {
		return uuid.Nil, "", err
	}
	defer func() { err = errors.Join(err, a.Close()) }()
	id, err = store.Import(ctx, url, source{a}, m, how)
	return id, a.Manifest.Workshop, err
}
