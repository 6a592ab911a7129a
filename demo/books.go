package demo

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"

	"keencrock/api"
)

// books are what goods bring: who takes them, at which prices, what hands cost, days at the
// stall.
type books struct {
	Rates   api.Rates        `json:"rates"`
	Outlets []api.OutletPlan `json:"outlets"`
	Prices  []struct {
		Good   string `json:"good"`
		Outlet string `json:"outlet"`
		api.NewPrice
	} `json:"prices"`
	StallDays []stallEntry `json:"stall_days"`
}

type stallEntry struct {
	DaysAgo int    `json:"days_ago"`
	At      string `json:"at"`
	Lines   []struct {
		Good  string `json:"good"`
		Out   int    `json:"out"`
		Sold  int    `json:"sold"`
		Given int    `json:"given"`
		Back  int    `json:"back"`
	} `json:"lines"`
	Takings string `json:"takings"`
	Note    string `json:"note"`
	Open    bool   `json:"open"` // not ended yet
}

// askPrices says who takes goods, and what a jar is sold for.
func (p *player) askPrices(ctx context.Context) error {
	ids := map[string]uuid.UUID{}
	for _, o := range p.sc.Ledger.Outlets {
		kept, err := p.ledger.AddOutlet(ctx, &o)
		if err != nil {
			return fmt.Errorf("outlet %s: %w", o.Name, err)
		}
		ids[o.Name] = kept.Id
	}
	in := api.JarPrices{}
	for _, price := range p.sc.Ledger.Prices {
		one := price.NewPrice
		one.Formula, one.Outlet = p.formulas[price.Good], ids[price.Outlet]
		in.Prices = append(in.Prices, one)
	}
	_, err := p.ledger.SetPrices(ctx, &in)
	return err
}

// rates says what hands and the stove cost, and what bought goods do.
func (p *player) rates(ctx context.Context) error {
	_, err := p.ledger.SaveRates(ctx, &p.sc.Ledger.Rates)
	return err
}

// sell lets jars of a batch go to who took them, as many as there are.
func (p *player) sell(ctx context.Context, batch uuid.UUID, g goneEntry) error {
	p.at(g.DaysAgo, 15, 0)
	trace, err := p.pantry.TraceBatch(ctx, batch)
	if err != nil {
		return err
	}
	here := slices.DeleteFunc(trace.Jars, func(j api.Jar) bool { return j.Gone })
	wish := api.ActWish{}
	for _, j := range here[:min(g.Count, len(here))] {
		wish.Jars = append(wish.Jars, j.Id)
	}
	if len(wish.Jars) == 0 {
		return nil
	}
	if _, err := p.ledger.AddAct(ctx, &api.NewAct{Kind: "sold", To: g.To, Lines: []api.ActWish{wish}}); err != nil {
		return fmt.Errorf("%d of %s to %s: %w", g.Count, trace.Code, g.To, err)
	}
	return nil
}

// stallDay plays a day at a stall: out in the morning, sold one by one, home in the
// afternoon.
func (p *player) stallDay(ctx context.Context, e stallEntry) error {
	p.at(e.DaysAgo, 7, 30)
	out := api.NewStallDay{To: e.At}
	for _, l := range e.Lines {
		out.Lines = append(out.Lines, api.ActWish{Formula: p.formulas[l.Good], Count: l.Out})
	}
	day, err := p.ledger.BeginStallDay(ctx, &out)
	if err != nil {
		return fmt.Errorf("a day at %s %d days ago: %w", e.At, e.DaysAgo, err)
	}
	end := api.StallEnd{Takings: e.Takings, Note: e.Note, Back: []api.StallBack{}}
	for i, l := range e.Lines {
		p.at(e.DaysAgo, 9+i, 20)
		for kind, n := range map[api.StallSaleKind]int{"sold": l.Sold, "given": l.Given} {
			if n == 0 {
				continue
			}
			if _, err := p.ledger.SellAtStall(ctx, day.Id, &api.StallSale{Formula: p.formulas[l.Good], Kind: kind, Count: n}); err != nil {
				return fmt.Errorf("%s at %s: %w", l.Good, e.At, err)
			}
		}
		if l.Back > 0 {
			end.Back = append(end.Back, api.StallBack{Formula: p.formulas[l.Good], Count: l.Back})
		}
	}
	if e.Open {
		return nil
	}
	p.at(e.DaysAgo, 15, 0)
	_, err = p.ledger.EndStallDay(ctx, day.Id, &end)
	return err
}

// asked is what is ordered, and within which limits it is made.
type asked struct {
	Limits    api.PlanLimits `json:"limits"`
	OffInDays struct {
		From int `json:"from"`
		To   int `json:"to"`
	} `json:"off_in_days"`
	Follow []string `json:"follow"` // goods that are made for what usually goes
	Orders []struct {
		Good       string `json:"good"`
		Jars       int    `json:"jars"`
		InDays     int    `json:"in_days"`
		To         string `json:"to"`
		EveryWeeks int    `json:"every_weeks"`
		Note       string `json:"note"`
	} `json:"orders"`
}

// order notes what is ordered, and the limits.
func (p *player) order(ctx context.Context) error {
	limits, off := p.sc.Almanac.Limits, p.sc.Almanac.OffInDays
	limits.DaysOff = []api.DaysOff{{From: types.Date{Time: p.today.AddDate(0, 0, off.From)}, To: types.Date{Time: p.today.AddDate(0, 0, off.To)}}}
	if _, err := p.almanac.SaveLimits(ctx, &limits); err != nil {
		return err
	}
	for _, good := range p.sc.Almanac.Follow {
		if err := p.almanac.SaveNeed(ctx, p.formulas[good], &api.NeedSaid{Follow: true}); err != nil {
			return fmt.Errorf("what usually goes of %s: %w", good, err)
		}
	}
	for _, o := range p.sc.Almanac.Orders {
		in := api.NewOrder{Formula: p.formulas[o.Good], Jars: o.Jars, To: o.To, EveryWeeks: o.EveryWeeks, Note: o.Note}
		in.Day = types.Date{Time: p.today.AddDate(0, 0, o.InDays)}
		if _, err := p.almanac.Add(ctx, &in); err != nil {
			return fmt.Errorf("an order of %s: %w", o.Good, err)
		}
	}
	return nil
}
