package main

import (
	"context"
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"keencrock/internal/store"
)

func movePicturesCommand() *cobra.Command {
	var h house
	var back bool
	cmd := &cobra.Command{
		Use:   "move-pictures",
		Short: "Move the photos out of the database to where --pictures says, or back",
		Long: `Move-pictures puts the photos that stand in the database where --pictures or
KEEN_CROCK_PICTURES says: in a folder, or in a store that speaks S3, whose keys stand in
KEEN_CROCK_PICTURES_KEY and KEEN_CROCK_PICTURES_SECRET. With --back it puts those that
stand there into the database, and leaves them there too. It may be broken off and
begun again; work goes on meanwhile.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return h.withStore(cmd.Context(), func(ctx context.Context, s *store.Store) error {
				if h.outside == nil {
					return errors.New("say where the photos are to be kept: --pictures FOLDER, or s3://HOST/BUCKET")
				}
				move, said := h.outside.MoveOut, "%d photos were moved out of the database.\n"
				if back {
					move, said = h.outside.MoveBack, "%d photos were put into the database.\n"
				}
				n, err := move(ctx, s)
				fmt.Fprintf(cmd.OutOrStdout(), said, n)
				return err
			})
		},
	}
	h.flags(cmd)
	cmd.Flags().BoolVar(&back, "back", false, "put them into the database")
	return cmd
}
