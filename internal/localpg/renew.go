package localpg

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"
)

// Renew moves a private cluster into a new one of the newest version installed, made
// as clusters are made today. Move copies what is in the one to the other. The old one
// stays beside it, under the name that is returned, and nothing has changed when there
// is an error.
func Renew(ctx context.Context, home string, now time.Time, move func(old, renewed *Cluster) error) (kept string, err error) {
	old, err := Start(ctx, home)
	if err != nil {
		return "", err
	}
	stopOld := once(old.Stop)
	defer func() { err = errors.Join(err, stopOld()) }()
	if !old.alone() {
		return "", errors.New("the database is in use by a running Keen Crock: stop it first")
	}
	fresh := filepath.Clean(home) + ".renewed"
	if err := os.RemoveAll(fresh); err != nil {
		return "", err
	}
	defer os.RemoveAll(fresh)
	renewed, err := Start(ctx, fresh)
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(renewed.data)
	stopRenewed := once(renewed.Stop)
	defer func() { err = errors.Join(err, stopRenewed()) }()
	if err := move(old, renewed); err != nil {
		return "", err
	}
	if err := errors.Join(stopRenewed(), stopOld()); err != nil {
		return "", err
	}
	kept = fmt.Sprintf("%s.before-%s", old.data, now.UTC().Format("20060102T150405Z"))
	return kept, exchange(home, fresh, old.data, renewed.data, kept)
}

// once is a function that is run once, however often it is called.
func once(f func() error) func() error {
	done := false
	return func() error {
		if done {
			return nil
		}
		done = true
		return f()
	}
}

// alone reports whether no other process uses the cluster.
func (c *Cluster) alone() bool {
	if syscall.Flock(int(c.lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) != nil {
		return false
	}
	return syscall.Flock(int(c.lock.Fd()), syscall.LOCK_SH) == nil
}

// exchange puts a renewed cluster and its passwords where the old ones were, and those
// aside. What is half done is taken back.
func exchange(home, fresh, old, renewed, kept string) error {
	moves := [][2]string{{old, kept}, {renewed, old}}
	for _, secret := range []string{"database-password", "application-password"} {
		place := filepath.Join(home, secret)
		moves = append(moves, [2]string{place, kept + "." + secret}, [2]string{filepath.Join(fresh, secret), place})
	}
	for i, m := range moves {
		if err := os.Rename(m[0], m[1]); err != nil {
			for _, back := range slices.Backward(moves[:i]) {
				err = errors.Join(err, os.Rename(back[1], back[0]))
			}
			return err
		}
	}
	return nil
}

// Major is the major version of PostgreSQL of the cluster.
func (c *Cluster) Major() string {
	text, err := os.ReadFile(filepath.Join(c.data, "PG_VERSION"))
	if err != nil {
		return "?"
	}
	return strings.TrimSpace(string(text))
}
