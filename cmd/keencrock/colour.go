package main

import (
	"io"

	"github.com/spf13/cobra"

	"keencrock/core/colour"
	"keencrock/internal/exchange"
	"keencrock/internal/exchange/picture"
)

func colourCommand() *cobra.Command {
	var texts [3]string
	names := [3]string{"clean", "stained", "washed"}
	cmd := &cobra.Command{
		Use:   "colour --clean L,a,b --stained L,a,b --washed L,a,b",
		Short: "Say how much of a stain is gone, for direct checks; needs no database",
		Long: `Colour holds the washed cloth against the clean one in CIELAB, and prints as JSON how far
apart they are (ΔE*ab of 1976 and ΔE00) and the share of the stain that is gone.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			var of [3]colour.Lab
			for i := range of {
				var err error
				if of[i], err = exchange.ReadLab(texts[i], names[i]); err != nil {
					return err
				}
			}
			return printJSON(cmd.OutOrStdout(), exchange.Washed(of[0], of[1], of[2]))
		},
	}
	for i, name := range names {
		cmd.Flags().StringVar(&texts[i], name, "", "the "+name+" cloth, as L,a,b")
	}
	return cmd
}

// mostPhoto is how large a photo is read: a phone's of 12 megapixels has less.
const mostPhoto = 30 << 20

func swatchCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "swatch PHOTO|-",
		Short: "Find patches and areas on a photo, for direct checks; needs no database",
		Long: `Swatch finds a white and a grey patch on a photo (or on standard input for -), balances its
light by them, and prints as JSON the areas beside them in CIELAB, the largest first; and whether
it is sure.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			in, err := open(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			raw, err := io.ReadAll(io.LimitReader(in, mostPhoto+1))
			if err != nil {
				return err
			}
			photo, err := picture.Upright(raw, mostPhoto)
			if err != nil {
				return err
			}
			size := photo.Bounds()
			return printJSON(cmd.OutOrStdout(), exchange.Swatch(colour.FindSwatch(&colour.Photo{Width: size.Dx(), Height: size.Dy(), Pix: photo.Pix})))
		},
	}
}
