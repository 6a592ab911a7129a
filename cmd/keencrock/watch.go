package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"
)

// watch is how a server lets itself be watched.
type watch struct {
	metrics string
	format  string
	level   string
}

func (w *watch) flags(cmd *cobra.Command) {
	f := cmd.Flags()
	f.StringVar(&w.metrics, "metrics", "", "address on this machine for what is counted, such as 127.0.0.1:9420")
	f.StringVar(&w.format, "log", "text", "how the log is written: text or json")
	f.StringVar(&w.level, "log-level", "warn", "from what on it is written: debug (everything), info (changes and refusals too), warn, error")
}

// begin sets the log up.
func (w *watch) begin() error {
	var level slog.Level
	if err := level.UnmarshalText([]byte(w.level)); err != nil {
		return fmt.Errorf("--log-level takes debug, info, warn or error, not %q", w.level)
	}
	options := &slog.HandlerOptions{Level: level}
	switch w.format {
	case "text":
		slog.SetDefault(slog.New(slog.NewTextHandler(os.Stderr, options)))
	case "json":
		slog.SetDefault(slog.New(slog.NewJSONHandler(os.Stderr, options)))
	default:
		return fmt.Errorf("--log takes text or json, not %q", w.format)
	}
	return nil
}

// serve answers with what is counted, on this machine alone, and returns how to stop.
func (w *watch) serve(counted http.Handler) (stop func(), err error) {
	if w.metrics == "" {
		return func() {}, nil
	}
	host, _, err := net.SplitHostPort(w.metrics)
	if err != nil || !isLoopback(host) {
		return nil, fmt.Errorf("--metrics takes an address on this machine, such as 127.0.0.1:9420, not %q", w.metrics)
	}
	l, err := net.Listen("tcp", w.metrics)
	if err != nil {
		return nil, err
	}
	mux := http.NewServeMux()
	mux.Handle("GET /metrics", counted)
	server := &http.Server{Handler: mux, ReadHeaderTimeout: 5 * time.Second}
	go func() {
		if err := server.Serve(l); !errors.Is(err, http.ErrServerClosed) {
			slog.Error("what is counted is not told any more", "error", err)
		}
	}()
	return func() { _ = server.Shutdown(context.Background()) }, nil
}

// fromEnvironment takes what was not said by a flag from KEEN_CROCK_ and its name, as
// services and containers are told things.
func fromEnvironment(cmd *cobra.Command) (err error) {
	cmd.Flags().VisitAll(func(f *pflag.Flag) {
		name := "KEEN_CROCK_" + strings.ToUpper(strings.ReplaceAll(f.Name, "-", "_"))
		if said, ok := os.LookupEnv(name); ok && !f.Changed && said != "" {
			if e := cmd.Flags().Set(f.Name, said); e != nil {
				err = errors.Join(err, fmt.Errorf("%s: %w", name, e))
			}
		}
	})
	return err
}
