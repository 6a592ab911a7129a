package main

import (
	"errors"
	"fmt"
	"os/signal"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"keencrock/internal/station/people"
	"keencrock/internal/tenant"
)

func resetPasswordCommand() *cobra.Command {
	var home string
	cmd := &cobra.Command{
		Use:   "reset-password SIGN-IN-NAME",
		Short: "Give someone who forgot their password a new one",
		Long: `Reset-password gives whoever signs in by a name a new password, prints it, and
ends all their sessions. The server may go on running meanwhile.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) (err error) {
			ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
			defer stop()
			s, leave, err := openStore(ctx, home)
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, leave()) }()
			password, err := people.New(tenant.New(s, time.Now)).ResetPassword(ctx, args[0])
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "New password of %q: %s\nChange it under Settings after signing in.\n", args[0], password)
			return nil
		},
	}
	cmd.Flags().StringVar(&home, "home", "", "folder of the private database (default $KEEN_CROCK_HOME, else .keencrock)")
	return cmd
}
