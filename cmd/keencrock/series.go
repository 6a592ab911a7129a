package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"time"

	"github.com/spf13/cobra"

	"keencrock/core/curing"
	"keencrock/core/quantity"
	"keencrock/core/vessel"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
)

func dryingCommand() *cobra.Command {
	var endG float64
	cmd := &cobra.Command{
		Use:   "drying FILE|-",
		Short: "Say from weighings when what dries is dry, for direct checks; needs no database",
		Long: `Drying reads CSV of hours,grams (or standard input for -) and prints as JSON what
it will weigh when it is dry, when it is within half a per cent of that, and how
things stand: drying, dry, stuck, gaining or too-few. Ranges hold nineteen
twentieths of what may be; what cannot be said is null.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if endG < 0 || cmd.Flags().Changed("end") && endG == 0 {
				return problem.Unfit("bad-value", "A dry weight is above 0 g.").At("end")
			}
			in, err := open(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			weighings, stepG, err := exchange.ReadWeighings(in)
			if err != nil {
				return err
			}
			d := curing.Drying{EndLowG: endG, EndHighG: endG, StepG: stepG}
			return printJSON(cmd.OutOrStdout(), dryingOf(d.Fit(weighings)))
		},
	}
	cmd.Flags().Float64Var(&endG, "end", 0, "what it weighs dry, in grams, where that is known")
	return cmd
}

// figure is a range as it is printed.
type figure struct {
	Value float64 `json:"value"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
}

type dryingReport struct {
	EndG    *figure `json:"end_g"`
	ReadyH  *figure `json:"ready_after_h"`
	Verdict string  `json:"verdict"`
	Says    string  `json:"says"`
}

func dryingOf(f curing.Forecast) dryingReport {
	out := dryingReport{Verdict: f.State.Verdict(), Says: f.State.Advice()}
	if f.EndG != (quantity.Range{}) {
		out.EndG = &figure{f.EndG.Value, f.EndG.Low, f.EndG.High}
	}
	if !f.Ready.IsZero() && f.State != curing.Stuck {
		out.ReadyH = &figure{exchange.SeriesHours(f.Ready), exchange.SeriesHours(f.ReadyEarly), exchange.SeriesHours(f.ReadyLate)}
	}
	switch f.State {
	case curing.TooFew:
		out.Says = "There are too few weighings to say: three at different times, or two where the dry weight is known."
	case curing.Losing:
		out.Says = fmt.Sprintf("Within half a per cent of its end after about %.0f h (%.0f to %.0f h).", out.ReadyH.Value, out.ReadyH.Low, out.ReadyH.High)
	case curing.Dry:
		out.Says = "It is within half a per cent of its end: dry."
	}
	return out
}

func vesselCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "vessel FILE|-",
		Short: "Say how old what is drawn from a stirred vessel is, for direct checks; needs no database",
		Long: `Vessel reads CSV of day,event,litres (or standard input for -), where an event is
fill, feed, draw, top-up or stir, and prints as JSON the age of each draw and of what
is left at the last event. Shares go from 0 to 1, ages are counted from when a litre
went in. Rows that come late are put where they belong; those of one day stay in the
order given.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			in, err := open(cmd.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			events, rows, err := exchange.ReadVessel(in)
			if err != nil {
				return err
			}
			report, err := vesselOf(events, rows)
			if err != nil {
				return err
			}
			return printJSON(cmd.OutOrStdout(), report)
		},
	}
}

type drawReport struct {
	Day     float64            `json:"day"`
	Litres  float64            `json:"litres"`
	MeanAge float64            `json:"mean_age_days"`
	Younger map[string]float64 `json:"younger_than"`
}

type vesselReport struct {
	Draws   []drawReport `json:"draws"`
	LevelL  float64      `json:"level_l"`
	MeanAge float64      `json:"mean_age_days"`
}

func vesselOf(events []vessel.Event, rows []int) (*vesselReport, error) {
	const day = 24 * time.Hour
	left, draws, err := vessel.Follow(events)
	var short *vessel.Short
	if errors.As(err, &short) {
		p := problem.Unfit("too-much-drawn", "Only %g l are in it then: %g l cannot be drawn.", short.ThereML/1000, short.WantedML/1000).At("litres")
		p.Row = rows[slices.Index(events, short.Event)]
		return nil, p
	}
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(events, func(a, b vessel.Event) int { return a.At.Compare(b.At) })
	last := events[len(events)-1].At
	out := &vesselReport{Draws: []drawReport{}, LevelL: left.ML() / 1000, MeanAge: left.MeanAge(last).Hours() / 24}
	for _, e := range events {
		if e.Kind != vessel.Drawn {
			continue
		}
		of := draws[len(out.Draws)]
		d := drawReport{Day: exchange.SeriesHours(e.At) / 24, Litres: e.ML / 1000, MeanAge: of.MeanAge(e.At).Hours() / 24, Younger: map[string]float64{}}
		for _, days := range []int{30, 60, 90} {
			d.Younger[fmt.Sprint(days)] = of.ShareYounger(time.Duration(days)*day, e.At)
		}
		out.Draws = append(out.Draws, d)
	}
	return out, nil
}

func printJSON(out io.Writer, value any) error {
	e := json.NewEncoder(out)
	e.SetIndent("", "  ")
	e.SetEscapeHTML(false)
	return e.Encode(value)
}
