package localpg

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// again is how often a server is looked at that does not answer yet, or is
// looked after.
const again = 100 * time.Millisecond

// Keep looks after the server until the context ends: one that was killed is
// started again at the same address, and room is kept for that. Troubles go to the log.
func (c *Cluster) Keep(ctx context.Context) {
	const interval = 500 * time.Millisecond
	for wait(ctx, interval) {
		if c.running() {
			if err := errors.Join(c.keepReserve(), c.giveWay()); err != nil {
				slog.Debug("no room could be kept for when the disk is full", "error", err)
			}
			continue
		}
		if err := c.startAgain(ctx); err != nil {
			if ctx.Err() == nil {
				slog.Error("the database was stopped from outside and cannot be started yet", "error", err)
			}
			continue
		}
		slog.Warn("the database was stopped from outside and is started again")
	}
}

func wait(ctx context.Context, d time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(d):
		return true
	}
}

// startAgain starts the server where it was, one process at a time.
func (c *Cluster) startAgain(ctx context.Context) error {
	gate, err := lockFile(filepath.Join(filepath.Dir(c.lock.Name()), "starting.lock"), syscall.LOCK_EX)
	if err != nil {
		return err
	}
	defer gate.Close()
	if ctx.Err() != nil {
		return ctx.Err()
	}
	_, err = c.run(ctx)
	return err
}

// running reports whether a server runs on this cluster's data. A process id
// may be anybody's by now, so the process has to stand in the data folder, as
// PostgreSQL's do; where that cannot be seen, pg_ctl's word is taken.
func (c *Cluster) running() bool {
	pid, err := c.pid()
	if err != nil {
		return false
	}
	folder, err := os.Readlink(fmt.Sprintf("/proc/%d/cwd", pid))
	switch {
	case err == nil:
		return c.isData(folder) && !isDead(pid)
	case errors.Is(err, os.ErrNotExist) && hasProc():
		return false
	case errors.Is(err, os.ErrPermission): // another account's process
		return false
	}
	return c.command(context.Background(), "pg_ctl", "-D", c.data, "status").Run() == nil
}

func hasProc() bool {
	_, err := os.Stat("/proc/self/cwd")
	return err == nil
}

// isDead reports whether a process has ended and only waits to be collected.
func isDead(pid int) bool {
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	if err != nil {
		return true
	}
	_, after, _ := strings.Cut(string(text), ") ")
	return strings.HasPrefix(after, "Z")
}

func (c *Cluster) isData(folder string) bool {
	data, err := filepath.EvalSymlinks(c.data)
	return err == nil && folder == data
}

// pidLines are the lines of the server's pid file: the first is its process,
// the fourth its port, the eighth its state.
func (c *Cluster) pidLines() ([]string, error) {
	text, err := os.ReadFile(filepath.Join(c.data, "postmaster.pid"))
	return strings.Split(strings.TrimSpace(string(text)), "\n"), err
}

func (c *Cluster) pid() (int, error) {
	lines, err := c.pidLines()
	if err != nil {
		return 0, err
	}
	return strconv.Atoi(strings.TrimSpace(lines[0]))
}

// clearPIDFile takes away what a killed server left, once its last processes
// are gone: its number may belong to another process by now, which PostgreSQL
// would take for itself. It reports whether a server runs after all: one that a
// start had begun which was killed itself, and that only now says so.
func (c *Cluster) clearPIDFile() (runs bool, err error) {
	for deadline := time.Now().Add(startLimit); ; time.Sleep(again) {
		if c.running() {
			return true, nil
		}
		if !c.inUse() {
			break
		}
		if time.Now().After(deadline) {
			return false, fmt.Errorf("processes of a database that was killed still stand in %s: end them, then start again", c.data)
		}
	}
	if err := os.Remove(filepath.Join(c.data, "postmaster.pid")); !errors.Is(err, os.ErrNotExist) {
		return false, err
	}
	return false, nil
}

// inUse reports whether any process stands in the data folder.
func (c *Cluster) inUse() bool {
	folders, _ := filepath.Glob("/proc/[0-9]*/cwd")
	for _, link := range folders {
		if folder, err := os.Readlink(link); err == nil && c.isData(folder) {
			if pid, err := strconv.Atoi(filepath.Base(filepath.Dir(link))); err == nil && !isDead(pid) {
				return true
			}
		}
	}
	return false
}

// portInUse is the port of the running server. One that was only just started,
// by a process that was broken off, does not say it at once.
func (c *Cluster) portInUse(ctx context.Context) (int, error) {
	for {
		lines, err := c.pidLines()
		if err == nil && len(lines) >= 8 && strings.TrimSpace(lines[7]) == "ready" {
			return strconv.Atoi(strings.TrimSpace(lines[3]))
		}
		if !wait(ctx, again) {
			return 0, errors.New("the running database does not say its port; stop it and start again")
		}
		if !c.running() {
			return 0, errors.New("the database ended while it was starting; start again")
		}
	}
}
