package blob

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// folder keeps bytes in files.
type folder struct{ path string }

func openFolder(path string) (Store, error) {
	path, err := filepath.Abs(path)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(path, 0o700); err != nil {
		return nil, fmt.Errorf("the folder of pictures: %w", err)
	}
	return folder{path}, nil
}

func (f folder) fileOf(name string) (string, error) {
	return filepath.Join(f.path, filepath.FromSlash(name)), sound(name)
}

func (f folder) Put(_ context.Context, name string, data []byte) error {
	path, err := f.fileOf(name)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return err
	}
	file, err := os.CreateTemp(filepath.Dir(path), ".new-*")
	if err != nil {
		return err
	}
	defer os.Remove(file.Name()) // where it was not renamed
	_, err = file.Write(data)
	if err == nil {
		err = file.Sync()
	}
	if err = errors.Join(err, file.Close()); err != nil {
		return err
	}
	if err := os.Rename(file.Name(), path); err != nil {
		return err
	}
	into, err := os.Open(filepath.Dir(path)) // the name outlives a loss of power too
	if err != nil {
		return err
	}
	return errors.Join(into.Sync(), into.Close())
}

func (f folder) Get(_ context.Context, name string) ([]byte, error) {
	path, err := f.fileOf(name)
	if err != nil {
		return nil, err
	}
	data, err := os.ReadFile(path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, ErrNone
	}
	return data, err
}

func (f folder) Drop(_ context.Context, name string) error {
	path, err := f.fileOf(name)
	if err != nil {
		return err
	}
	if err := os.Remove(path); !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return nil
}

func (f folder) Each(ctx context.Context, do func(name string, at time.Time) error) error {
	return filepath.WalkDir(f.path, func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() || strings.HasPrefix(entry.Name(), ".") {
			return err
		}
		info, err := entry.Info()
		if errors.Is(err, fs.ErrNotExist) {
			return nil
		}
		if err != nil {
			return err
		}
		name, err := filepath.Rel(f.path, path)
		if err != nil {
			return err
		}
		return errors.Join(ctx.Err(), do(filepath.ToSlash(name), info.ModTime()))
	})
}
