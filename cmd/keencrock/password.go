package main

import (
	"context"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"keencrock/api"
	"keencrock/internal/station/people"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

func resetPasswordCommand() *cobra.Command {
	var h house
	var dropFactor bool
	cmd := &cobra.Command{
		Use:   "reset-password SIGN-IN-NAME",
		Short: "Give someone who forgot their password a new one",
		Long: `Reset-password gives whoever signs in by a name a new password, prints it, and
ends all their sessions. The server may go on running meanwhile.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return h.withStore(cmd.Context(), func(ctx context.Context, s *store.Store) error {
				password, err := people.New(tenant.New(s, time.Now)).ResetPassword(ctx, args[0], dropFactor)
				if err != nil {
					return err
				}
				fmt.Fprintf(cmd.OutOrStdout(), "New password of %q: %s\nChange it under Settings after signing in.\n", args[0], password)
				return nil
			})
		},
	}
	h.flags(cmd)
	cmd.Flags().BoolVar(&dropFactor, "without-second-factor", false, "drop their second factor too, which was lost")
	return cmd
}

func addWorkshopCommand() *cobra.Command {
	var h house
	cmd := &cobra.Command{
		Use:   "add-workshop NAME SIGN-IN-NAME",
		Short: "Make a workshop with its owner, and print their password",
		Args:  cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			return h.withStore(cmd.Context(), func(ctx context.Context, s *store.Store) error {
				password := people.NewPassword()
				_, err := people.New(tenant.New(s, time.Now)).CreateWorkshop(ctx, api.NewWorkshop{Workshop: args[0], Login: args[1], Name: args[1], Password: password})
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s is there. Its owner signs in as %q with the password %s\nChange it under Settings after signing in.\n", args[0], args[1], password)
				}
				return err
			})
		},
	}
	h.flags(cmd)
	return cmd
}
