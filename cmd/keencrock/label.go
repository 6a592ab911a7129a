package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/label"
	"keencrock/core/material"
	"keencrock/core/wording"
	"keencrock/internal/exchange/paper"
	"keencrock/internal/problem"
)

func labelCommand() *cobra.Command {
	var size, out, formID, languages, lot, maker string
	cmd := &cobra.Command{
		Use:   "label FILE|- --size 60x90 --out label.pdf",
		Short: "Draw the label of a formula as PDF or SVG; needs no database",
		Long: `Label reads a formula file (or standard input for -) and draws what would stand on a
jar of all of it: name, net quantity, the hazard screen, ingredients, how it is kept.
What leaves no room for what must stand on it ends with status 2 and says so; what
was left to a leaflet is said on standard error. A draft: a screen, not a
classification.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			r, err := readResolved(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			form, err := label.FindForm(formID)
			if err != nil {
				return problem.Unfit("bad-value", "%v", err).At("form")
			}
			if size != "" {
				if form.WidthMM, form.HeightMM, err = label.ParseSize(size); err != nil {
					return problem.Unfit("bad-value", "%v", err).At("size")
				}
			}
			var spoken []*wording.Language
			for _, code := range strings.Split(languages, ",") {
				l, err := wording.Find(strings.TrimSpace(code))
				if err != nil {
					return problem.Unfit("bad-value", "%v", err).At("lang")
				}
				spoken = append(spoken, l)
			}
			if len(spoken) > 2 {
				return problem.Unfit("bad-value", "A label has one language or two.").At("lang")
			}
			a := assess.Formula(r.Formula, material.Shipped(), assess.Options{})
			c := label.Of(a)
			c.Lot, c.Maker = lot, maker
			if a.State == formula.WetState {
				c.NetML = r.NetML().Value
			} else {
				c.NetG = r.NetG().Value
			}
			drawing, misfits := label.Lay(c, form, spoken, paper.Shipped())
			for _, m := range misfits {
				if m.Grave {
					return problem.Unfit("does-not-fit", "%s %s", m.Says, m.Advice).At("size")
				}
				fmt.Fprintln(cmd.ErrOrStderr(), m.Says, m.Advice)
			}
			var drawn []byte
			switch ext := strings.ToLower(filepath.Ext(out)); ext {
			case ".svg":
				drawn = paper.SVG(c.Name, drawing)
			case ".pdf":
				if drawn, err = paper.PDF(c.Name, form.WidthMM, form.HeightMM, []paper.Placed{{Drawing: drawing}}); err != nil {
					return err
				}
			default:
				return problem.Unfit("bad-value", "A label is drawn as .pdf or .svg, not as %q.", ext).At("out")
			}
			return os.WriteFile(out, drawn, 0o644)
		},
	}
	cmd.Flags().StringVar(&size, "size", "", "width and height in mm, such as 60x90 (default that of its form)")
	cmd.Flags().StringVar(&out, "out", "label.pdf", "where to: a .pdf or a .svg")
	cmd.Flags().StringVar(&formID, "form", "whole", "which label: front, back, whole, pouch, lid or tag")
	cmd.Flags().StringVar(&languages, "lang", wording.English, "one language or two, such as en,de")
	cmd.Flags().StringVar(&lot, "lot", "", "lot code")
	cmd.Flags().StringVar(&maker, "maker", "", "name and address of the maker")
	return cmd
}
