package localpg

import (
	"errors"
	"fmt"
	"os"
	"syscall"
)

// A file that holds room on the disk, and is let go when the server has none to start
// with: it needs some to take up what it was doing, even if nobody writes.
const (
	reserveBytes = 48 << 20 // three files of its log
	startNeeds   = 32 << 20
	connectNeeds = 512 << 10 // a new connection may write what it learns of the tables, and ends where it cannot
	connectsMost = 4 * connectNeeds
)

func (c *Cluster) reserve() string { return c.data + ".reserve" }

// FreeBytes is how much room there is on the disk of the data.
func (c *Cluster) FreeBytes() (int64, error) {
	var s syscall.Statfs_t
	if err := syscall.Statfs(c.data, &s); err != nil {
		return 0, fmt.Errorf("look at the disk of %s: %w", c.data, err)
	}
	return int64(s.Bavail) * s.Bsize, nil
}

// keepReserve makes the reserve, where there is room for it and for much else.
func (c *Cluster) keepReserve() error {
	if info, err := os.Stat(c.reserve()); err == nil && info.Size() == reserveBytes {
		return nil
	}
	if free, err := c.FreeBytes(); err != nil || free < 3*reserveBytes {
		return err
	}
	f, err := os.OpenFile(c.reserve(), os.O_CREATE|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer f.Close()
	err = syscall.Fallocate(int(f.Fd()), 0, 0, reserveBytes)
	if errors.Is(err, syscall.EOPNOTSUPP) { // such a disk is written to
		_, err = f.Write(make([]byte, reserveBytes))
	}
	if err != nil {
		return errors.Join(fmt.Errorf("keep room on the disk: %w", err), os.Remove(c.reserve()))
	}
	return nil
}

// giveWay makes a little room where the last byte is taken, so that people still come in, and no
// more than a little of it in all.
func (c *Cluster) giveWay() error {
	free, err := c.FreeBytes()
	if err != nil || free >= connectNeeds {
		return err
	}
	info, err := os.Stat(c.reserve())
	switch {
	case errors.Is(err, os.ErrNotExist):
		return nil
	case err != nil:
		return err
	case info.Size() <= reserveBytes-connectsMost:
		return nil
	}
	return os.Truncate(c.reserve(), info.Size()-connectNeeds)
}

// letReserveGo makes room for a start, where there is too little.
func (c *Cluster) letReserveGo() error {
	if free, err := c.FreeBytes(); err != nil || free >= startNeeds {
		return err
	}
	if err := os.Remove(c.reserve()); err != nil && !errors.Is(err, os.ErrNotExist) {
		return err
	}
	return nil
}
