package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"os"
	"os/signal"
	"runtime/debug"
	"strconv"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"keencrock/demo"
	"keencrock/internal/backup"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
	"keencrock/internal/web"
)

type serveOptions struct {
	port      int
	empty     bool
	resetDemo bool
	house     house
	nights    int
	backupAt  string
}

func serveCommand() *cobra.Command {
	var o serveOptions
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve Keen Crock on loopback",
		Long: `Serve starts Keen Crock on 127.0.0.1.

Its database is a private PostgreSQL in KEEN_CROCK_HOME (.keencrock in the
current folder by default), or the one KEEN_CROCK_DATABASE_URL names.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return serve(ctx, o, cmd.OutOrStdout())
		},
	}
	cmd.Flags().IntVar(&o.port, "port", 8420, "port on 127.0.0.1; 0 for any free one")
	cmd.Flags().BoolVar(&o.empty, "empty", false, "load no demo into an empty database: the first visit makes the owner's account")
	cmd.Flags().BoolVar(&o.resetDemo, "reset-demo", false, "load the demo workshop anew, as on the first day")
	cmd.Flags().IntVar(&o.nights, "nightly-backups", 7, "how many nightly backups are kept; 0 takes none")
	cmd.Flags().StringVar(&o.backupAt, "backup-at", "03:00", "when the nightly backup is taken, by the clock of the machine")
	o.house.flags(cmd)
	return cmd
}

// gcPercent lets the heap, which is a few megabytes, grow further between
// collections: at Go's default a busy server collects hundreds of times a
// second.
const gcPercent = 400

// memoryLimit is where the collector begins to hurry. Checking a password
// takes 64 MiB for a moment; under many tries what they leave behind must not
// pile up.
const memoryLimit = 256 << 20

func serve(ctx context.Context, o serveOptions, out io.Writer) (err error) {
	debug.SetGCPercent(gcPercent)
	debug.SetMemoryLimit(memoryLimit)
	listener, err := listen(o.port) // first: a port in use is the commonest trouble
	if err != nil {
		return err
	}
	defer listener.Close()
	s, leave, err := o.house.open(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, leave()) }()
	hasDemo, err := prepareDemo(ctx, s, o, out)
	if err != nil {
		return err
	}
	now, err := clock()
	if err != nil {
		return err
	}
	stopNights, err := o.startNights(ctx, s, now)
	if err != nil {
		return err
	}
	defer stopNights()
	server, err := web.New(web.Config{House: tenant.New(s, now), Version: version, Now: now})
	if err != nil {
		return err
	}
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	fmt.Fprintf(out, "Keen Crock is ready: http://%s\n", listener.Addr())
	if hasDemo {
		fmt.Fprintf(out, "Demo sign-in: name %q, password %q\n", demo.Login, demo.Password)
	}
	select {
	case err := <-failed:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
		fmt.Fprintln(out, "Stopping.")
		return server.Shutdown()
	}
}

// startNights begins to take nightly backups, and returns how to stop that.
func (o *serveOptions) startNights(ctx context.Context, s *store.Store, now func() time.Time) (stop func(), err error) {
	at, err := backup.ParseAt(o.backupAt)
	if err != nil || o.nights <= 0 {
		return func() {}, err
	}
	n := backup.Nightly{Folder: o.house.backupFolder(), Keep: o.nights, At: at, Now: now}
	ctx, cancel := context.WithCancel(ctx)
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		n.Run(ctx, s)
	}()
	return func() {
		cancel()
		<-ended
	}, nil
}

func listen(port int) (net.Listener, error) {
	l, err := net.Listen("tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(port)))
	if errors.Is(err, syscall.EADDRINUSE) {
		return nil, fmt.Errorf("port %d is in use: stop what uses it, or give another with --port", port)
	}
	return l, err
}

// prepareDemo loads the demo where it is wanted and reports whether it is
// there.
func prepareDemo(ctx context.Context, s *store.Store, o serveOptions, out io.Writer) (bool, error) {
	state, err := demo.Look(ctx, s)
	if err != nil {
		return false, err
	}
	if o.resetDemo || state == demo.BrokenOff {
		if err := demo.Remove(ctx, s); err != nil {
			return false, err
		}
		state = demo.Absent
	}
	empty, err := s.Empty(ctx)
	if err != nil {
		return false, err
	}
	if o.resetDemo || empty && !o.empty {
		fmt.Fprintln(out, "Loading the demo workshop.")
		if err := demo.Load(ctx, s, time.Now()); err != nil {
			return false, err
		}
		state = demo.Loaded
	}
	return state == demo.Loaded, nil
}

// clock is the time, or ahead of it by what KEEN_CROCK_CLOCK_AHEAD says (48h): for
// tests of what takes days.
func clock() (func() time.Time, error) {
	ahead := os.Getenv("KEEN_CROCK_CLOCK_AHEAD")
	if ahead == "" {
		return time.Now, nil
	}
	by, err := time.ParseDuration(ahead)
	if err != nil {
		return nil, fmt.Errorf("KEEN_CROCK_CLOCK_AHEAD: %w", err)
	}
	return func() time.Time { return time.Now().Add(by) }, nil
}
