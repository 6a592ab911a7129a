package main

import (
	"crypto/tls"
	"errors"
	"fmt"
	"net/http"
	"os"
	"time"

	"github.com/spf13/cobra"
)

const askLimit = 4 * time.Second

// askReadyCommand is for a container, which has no other program to ask with.
func askReadyCommand() *cobra.Command {
	var url string
	cmd := &cobra.Command{
		Use:   "ask-ready",
		Short: "Ask the server on this machine whether it is ready; ends with 1 when not",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			client := &http.Client{Timeout: askLimit, Transport: &http.Transport{
				// its own certificate, on its own machine: only whether it answers is asked
				TLSClientConfig: &tls.Config{InsecureSkipVerify: true},
			}}
			var failed error
			urls := []string{url}
			if url == "" {
				port := firstOf(os.Getenv("KEEN_CROCK_PORT"), "8420")
				urls = []string{"https://127.0.0.1:" + port, "http://127.0.0.1:" + port}
			}
			for _, u := range urls {
				res, err := client.Get(u + "/readyz")
				if err != nil {
					failed = errors.Join(failed, err)
					continue
				}
				res.Body.Close()
				if res.StatusCode == http.StatusOK {
					fmt.Fprintln(cmd.OutOrStdout(), "ready")
					return nil
				}
				failed = errors.Join(failed, fmt.Errorf("%s answers %s", u, res.Status))
			}
			return failed
		},
	}
	cmd.Flags().StringVar(&url, "url", "", "address of the server (default that of --port or KEEN_CROCK_PORT on this machine)")
	return cmd
}
