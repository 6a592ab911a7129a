package archive

import (
	"archive/zip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"os"
	"path/filepath"
)

// Writer writes an archive. Nothing of it stands at its place before [Writer.Close].
type Writer struct {
	out      io.Writer
	zip      *zip.Writer
	manifest Manifest
	file     *os.File // nil when it goes elsewhere than to a file
	path     string
	open     *counted
}

// counted is a table while it is written.
type counted struct {
	io.Writer
	hash  hash.Hash
	bytes int64
	table string
}

func (c *counted) Write(p []byte) (int, error) {
	n, err := c.Writer.Write(p)
	c.hash.Write(p[:n])
	c.bytes += int64(n)
	return n, err
}

// Create begins an archive that will stand at a path, where nothing may stand yet.
// Only who runs the program can read it.
func Create(path string, m Manifest) (*Writer, error) {
	if _, err := os.Lstat(path); err == nil {
		return nil, fmt.Errorf("%s is there already: give another name", path)
	}
	file, err := os.CreateTemp(filepath.Dir(path), "."+filepath.Base(path)+".*")
	if err != nil {
		return nil, err
	}
	w := To(file, m)
	w.file, w.path = file, path
	return w, nil
}

// To begins an archive that goes to a stream: whoever reads that sees from its end
// whether it is whole.
func To(out io.Writer, m Manifest) *Writer {
	m.Format, m.Version = Format, Version
	return &Writer{out: out, zip: zip.NewWriter(out), manifest: m}
}

// Table begins the next table; its rows go to the writer.
func (w *Writer) Table(name string) (io.Writer, error) {
	f, err := w.create(fileOf(name))
	w.open = &counted{Writer: f, hash: sha256.New(), table: name}
	return w.open, err
}

// create begins a file of the time at which the archive was made.
func (w *Writer) create(name string) (io.Writer, error) {
	return w.zip.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: w.manifest.MadeAt})
}

// EndTable says how many rows the table had that was begun last.
func (w *Writer) EndTable(rows int64) {
	w.manifest.Tables = append(w.manifest.Tables, Table{Name: w.open.table, Rows: rows, Bytes: w.open.bytes, SHA256: hex.EncodeToString(w.open.hash.Sum(nil))})
}

// Close ends the archive of tables of a version, and puts it at its place: on disk,
// and whole.
func (w *Writer) Close(schema int64) error {
	w.manifest.Schema = schema
	err := w.finish()
	if w.file == nil {
		return err
	}
	if err == nil {
		err = w.file.Sync()
	}
	if err = errors.Join(err, w.file.Close()); err == nil {
		err = os.Link(w.file.Name(), w.path) // unlike a rename, it never takes another's place
	}
	return errors.Join(err, os.Remove(w.file.Name()), syncFolder(filepath.Dir(w.path)))
}

func (w *Writer) finish() error {
	for _, part := range []struct {
		name string
		text func() ([]byte, error)
	}{
		{readmeName, func() ([]byte, error) { return []byte(readme), nil }},
		{manifestName, func() ([]byte, error) { return json.MarshalIndent(w.manifest, "", "  ") }},
	} {
		f, err := w.create(part.name)
		if err != nil {
			return err
		}
		text, err := part.text()
		if err != nil {
			return err
		}
		if _, err := f.Write(text); err != nil {
			return err
		}
	}
	return w.zip.Close()
}

// Abandon takes back what was written.
func (w *Writer) Abandon() {
	if w.file != nil {
		_ = w.file.Close()
		_ = os.Remove(w.file.Name())
	}
}

// syncFolder makes the names in a folder outlive a loss of power.
func syncFolder(path string) error {
	folder, err := os.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(folder.Sync(), folder.Close())
}
