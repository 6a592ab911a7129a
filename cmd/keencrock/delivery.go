package main

import (
	"io"
	"time"

	"github.com/spf13/cobra"

	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
)

func deliveryCommand() *cobra.Command {
	var currency, today, measures string
	cmd := &cobra.Command{
		Use:   "delivery FILE|-",
		Short: "Read a note on what came, one lot or many, and print the lots; needs no database",
		Long: `Delivery reads a note on what came the way a maker writes or says it, and prints the
lots, what became of each word, and what is asked, as JSON. A price is of the whole
line. Questions are no mistake: the status is 0 with them.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			day := time.Now()
			if today != "" {
				var err error
				if day, err = time.Parse(time.DateOnly, today); err != nil {
					return problem.Unfit("bad-value", "The day “%s” cannot be read: expected 2026-06-30.", today).At("today")
				}
			}
			set, err := quantity.ParseMeasures(measures)
			if err != nil {
				p := exchange.FieldProblem("measures", err)
				return &p
			}
			return deliveryFile(cmd.InOrStdin(), cmd.OutOrStdout(), args[0], listener.DeliveryOptions{Measures: set, Today: day, Currency: currency})
		},
	}
	cmd.Flags().StringVar(&currency, "currency", "EUR", "the workshop's currency, for prices that name none")
	cmd.Flags().StringVar(&today, "today", "", "the day it is noted on, such as 2026-06-30 (default today)")
	cmd.Flags().StringVar(&measures, "measures", "", "how it is measured: us, metric, imperial or australian")
	return cmd
}

func deliveryFile(stdin io.Reader, out io.Writer, path string, o listener.DeliveryOptions) error {
	text, err := readText(stdin, path)
	if err != nil {
		return err
	}
	d, err := listener.ReadDelivery(text, material.Shipped(), o)
	if err != nil {
		return problem.TooLarge("too-long", "%s", exchange.Sentence(err))
	}
	return printJSON(out, exchange.Deliveries(d))
}
