package main

import (
	"context"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"keencrock/internal/station/people"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

func resetPasswordCommand() *cobra.Command {
	var h house
	cmd := &cobra.Command{
		Use:   "reset-password SIGN-IN-NAME",
		Short: "Give someone who forgot their password a new one",
		Long: `Reset-password gives whoever signs in by a name a new password, prints it, and
ends all their sessions. The server may go on running meanwhile.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return h.withStore(cmd.Context(), func(ctx context.Context, s *store.Store) error {
				password, err := people.New(tenant.New(s, time.Now)).ResetPassword(ctx, args[0])
				if err != nil {
					return err
				}
				fmt.Fprintf(cmd.OutOrStdout(), "New password of %q: %s\nChange it under Settings after signing in.\n", args[0], password)
				return nil
			})
		},
	}
	h.flags(cmd)
	return cmd
}
