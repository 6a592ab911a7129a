package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"runtime/debug"
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
	reach     reach
	watch     watch
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
		Short: "Serve Keen Crock, on this machine or in the workshop's network",
		Long: `Serve starts Keen Crock on 127.0.0.1, or wherever --host says, with TLS.

Its database is a private PostgreSQL in KEEN_CROCK_HOME (.keencrock in the
current folder by default), or the one KEEN_CROCK_DATABASE_URL names. Every flag
can be said by the environment too: --log-level as KEEN_CROCK_LOG_LEVEL.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := errors.Join(fromEnvironment(cmd), o.watch.begin()); err != nil {
				return err
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return serve(ctx, o, cmd.OutOrStdout())
		},
	}
	o.reach.flags(cmd)
	o.watch.flags(cmd)
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
	listener, err := o.reach.listen(o.house.folder()) // first: a port in use is the commonest trouble
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
	house := tenant.New(s, now)
	if o.house.outside != nil {
		house.Pictures = *o.house.outside
	}
	house.Server = tenant.Server{Version: version, Addresses: listener.addresses, Fingerprint: listener.fingerprint, Nightly: o.nights > 0}
	server, err := web.New(web.Config{House: house, Version: version, Now: now, Reach: listener.web})
	if err != nil {
		return err
	}
	stopMetrics, err := o.watch.serve(server.Metrics())
	if err != nil {
		return err
	}
	defer stopMetrics()
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	welcome(out, listener, hasDemo)
	select {
	case err := <-failed:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
		fmt.Fprintln(out, "Stopping.")
		return server.Shutdown()
	}
}

// welcome says where to open it.
func welcome(out io.Writer, l *served, hasDemo bool) {
	fmt.Fprintf(out, "Keen Crock is ready: %s\n", l.url())
	for _, url := range l.addresses {
		fmt.Fprintf(out, "From other machines: %s\n", url)
	}
	if l.fingerprint != "" {
		fmt.Fprintf(out, "A browser asks once about the certificate. Its SHA-256 fingerprint:\n  %s\n", l.fingerprint)
	}
	if hasDemo {
		fmt.Fprintf(out, "Demo sign-in, on this machine: name %q, password %q\n", demo.Login, demo.Password)
	}
}

// startNights begins to take nightly backups, and returns how to stop that.
func (o *serveOptions) startNights(ctx context.Context, s *store.Store, now func() time.Time) (stop func(), err error) {
	at, err := backup.ParseAt(o.backupAt)
	if err != nil || o.nights <= 0 {
		return func() {}, err
	}
	n := backup.Nightly{Folder: o.house.backupFolder(), Keep: o.nights, At: at, Now: now}
	if o.house.outside != nil {
		n.After = func(ctx context.Context) error {
			_, err := o.house.outside.Sweep(ctx, s, now())
			return err
		}
	}
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

// prepareDemo loads the demo where it is wanted and reports whether it is there to be
// signed in to with its public password.
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
	if _, err := s.DemoOwner(ctx); errors.Is(err, store.ErrNotFound) {
		return false, nil // there is none, or its password was changed
	} else if err != nil {
		return false, err
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
