package main

import (
	"github.com/spf13/cobra"

	"keencrock/core/planning"
	"keencrock/internal/exchange"
)

func planCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "plan FILE|-",
		Short: "Work out what to make when, for direct checks; needs no database",
		Long: `Plan reads a task (or standard input for -): the day, the days, work days, minutes at
the bench a day, vessels, goods, stock and orders; and prints as JSON what is made on which
day, in which vessel it stands from when to when, what becomes of each order, and which
limit would have to be lifted where one is late.

A good may say what one making uses, of materials that come later or of goods that are
half-made: "uses": [{"of", "amount"}], beside "materials": [{"id", "here", "from"}]; the
amount of a good is in its pieces. And what is opened once for all that are made on a day:
"shares": ["soda"]. Makings then say what they draw on, and with which others they share.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			in, err := open(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			task, err := exchange.ReadPlan(in)
			if err != nil {
				return err
			}
			return printJSON(cmd.OutOrStdout(), exchange.Plan(planning.Make(task)))
		},
	}
}

func shoppingCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "shopping FILE|-",
		Short: "Find the cheapest whole of packs and suppliers, for direct checks; needs no database",
		Long: `Shopping reads needs, offers and what deliveries cost (or standard input for -), and
prints as JSON the cheapest whole: how many packs of which supplier, with delivery once a
supplier. What nobody offers is named.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			in, err := open(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			s, currency, err := exchange.ReadShopping(in)
			if err != nil {
				return err
			}
			return printJSON(cmd.OutOrStdout(), exchange.Cart(s.Buy(), currency))
		},
	}
}
