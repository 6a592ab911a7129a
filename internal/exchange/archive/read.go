package archive

import (
	"archive/zip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"regexp"
	"slices"
)

// Archive is one whose files are all as its manifest says.
type Archive struct {
	Manifest Manifest
	zip      *zip.ReadCloser
	size     int64 // of the file, in bytes
}

// ErrBroken is a file that is no archive, or not whole.
var ErrBroken = errors.New("this is no whole archive of Keen Crock")

func broken(format string, args ...any) error {
	return fmt.Errorf("%w: %s", ErrBroken, fmt.Sprintf(format, args...))
}

var tableName = regexp.MustCompile(`^[a-z][a-z0-9_]{0,62}$`)

// Bounds of what an archive may hold, so that a small file cannot fill a machine. From
// memory: rows of a log that are much alike shrink to a fiftieth, and no answer that is
// kept with a row is a tenth as long.
const (
	maxManifest = 1 << 20  // far more than any manifest has
	maxRatio    = 200      // of what a file grows to
	alwaysFits  = 16 << 20 // whatever the ratio
	maxRecord   = 32 << 20 // bytes of a row
)

// Open reads an archive through once and holds it against its manifest: ErrBroken says
// what is not as it should be.
func Open(path string) (*Archive, error) {
	z, err := zip.OpenReader(path)
	if err != nil {
		if errors.Is(err, zip.ErrFormat) || errors.Is(err, io.ErrUnexpectedEOF) {
			return nil, broken("it is no ZIP file, or cut off")
		}
		return nil, err
	}
	info, err := os.Stat(path)
	if err != nil {
		return nil, errors.Join(err, z.Close())
	}
	a := &Archive{zip: z, size: info.Size()}
	if err := a.check(); err != nil {
		return nil, errors.Join(err, z.Close())
	}
	return a, nil
}

// Close lets go of the file.
func (a *Archive) Close() error { return a.zip.Close() }

// Table reads the rows of a table; ErrBroken at one that is longer than [maxRecord].
func (a *Archive) Table(name string) (io.ReadCloser, error) {
	f, err := a.zip.Open(fileOf(name))
	if err != nil {
		return nil, err
	}
	return &bounded{ReadCloser: f, table: name}, nil
}

// bounded reads CSV, and fails once a row is longer than any that was ever written.
type bounded struct {
	io.ReadCloser
	table    string
	inText   bool
	inRecord int
}

func (b *bounded) Read(p []byte) (n int, err error) {
	n, err = b.ReadCloser.Read(p)
	for _, c := range p[:n] {
		switch {
		case c == '"':
			b.inText = !b.inText
		case c == '\n' && !b.inText:
			b.inRecord = 0
			continue
		}
		if b.inRecord++; b.inRecord > maxRecord {
			return 0, broken("table %s has a row of more than %d MB", b.table, maxRecord>>20)
		}
	}
	return n, err
}

func (a *Archive) check() error {
	f, err := a.zip.Open(manifestName)
	if err != nil {
		return broken("it has no manifest")
	}
	defer f.Close()
	text, err := io.ReadAll(io.LimitReader(f, maxManifest))
	if err != nil {
		return broken("its manifest cannot be read (%v)", err)
	}
	m := &a.Manifest
	if err := json.Unmarshal(text, m); err != nil || m.Format != Format {
		return broken("its manifest is another program's")
	}
	if m.Version != Version {
		return broken("it is of version %d of the format, and this program knows %d", m.Version, Version)
	}
	if m.Kind != Server && m.Kind != Workshop || m.Schema < 1 {
		return broken("its manifest does not say what it is of")
	}
	if err := a.checkSizes(); err != nil {
		return err
	}
	named := map[string]bool{manifestName: true, readmeName: true}
	for _, t := range m.Tables {
		if !tableName.MatchString(t.Name) || named[fileOf(t.Name)] {
			return broken("its manifest names a table %q", t.Name)
		}
		named[fileOf(t.Name)] = true
		if err := a.checkTable(t); err != nil {
			return err
		}
	}
	if i := slices.IndexFunc(a.zip.File, func(f *zip.File) bool { return !named[f.Name] }); i >= 0 {
		return broken("it holds %q, which its manifest does not name", a.zip.File[i].Name)
	}
	return nil
}

// checkSizes refuses what would grow out of all proportion, before any of it does.
func (a *Archive) checkSizes() error {
	var packed, grown uint64
	for _, f := range a.zip.File {
		if f.UncompressedSize64 > alwaysFits && f.UncompressedSize64/maxRatio > f.CompressedSize64 {
			return broken("%s would grow to more than %d times its size", f.Name, maxRatio)
		}
		packed += f.CompressedSize64
		grown += f.UncompressedSize64
	}
	if most := uint64(max(0, a.size)); packed > most || grown > alwaysFits && grown/maxRatio > most {
		return broken("it would grow to more than %d times its size", maxRatio) // files that lie over each other
	}
	return nil
}

func (a *Archive) checkTable(t Table) error {
	f, err := a.Table(t.Name)
	if err != nil {
		return broken("table %s is missing", t.Name)
	}
	defer f.Close()
	hash := sha256.New()
	n, err := io.Copy(hash, io.LimitReader(f, t.Bytes+1))
	if errors.Is(err, ErrBroken) {
		return err
	}
	if err != nil {
		return broken("table %s cannot be read (%v)", t.Name, err)
	}
	if n != t.Bytes || hex.EncodeToString(hash.Sum(nil)) != t.SHA256 {
		return broken("table %s is not as it was written", t.Name)
	}
	return nil
}
