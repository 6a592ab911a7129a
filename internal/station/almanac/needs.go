package almanac

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/planning"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// How many weeks are looked back on, and how many a band is told of.
const (
	weeksBack  = 52
	bandWeeks  = 4
	mostFollow = 60 // goods that are made for what usually goes
)

// need is how much of a good usually goes.
type need struct {
	formula uuid.UUID
	follow  bool
	said    *float64 // a week
	rate    planning.Rate
	known   bool // of the rate
	went    int  // jars in all of the weeks
}

// perWeek is what is planned for, so many weeks from now.
func (n *need) perWeek(week int) float64 {
	switch {
	case n.said != nil:
		return *n.said
	case n.known:
		return max(0, n.rate.PerWeek+float64(week)*n.rate.Trend)
	}
	return 0
}

// needs are the goods of which anything went or something was said, by name. What goes by a
// standing order is planned by that order, and is left out.
func (s *Service) needs(tx *store.Tx, set *tenant.Settings, orders []store.Order) ([]need, error) {
	type standing struct{ formula, party uuid.UUID }
	ordered := map[standing]bool{}
	for _, o := range orders {
		if o.EveryWeeks > 0 && o.PartyID != nil {
			ordered[standing{o.FormulaID, *o.PartyID}] = true
		}
	}
	went, err := tx.WentWeekly(set.Today, weeksBack, tenant.ZoneOf(set.Workshop))
	if err != nil {
		return nil, err
	}
	weekly := map[uuid.UUID][]float64{}
	for _, w := range went {
		of, ok := stock.FormulaOf(w.Item)
		id, err := uuid.Parse(of)
		if !ok || err != nil || w.Week < 0 || w.Week >= weeksBack || w.PartyID != nil && ordered[standing{id, *w.PartyID}] {
			continue
		}
		if weekly[id] == nil {
			weekly[id] = make([]float64, weeksBack)
		}
		weekly[id][weeksBack-1-w.Week] += w.Jars
	}
	said, err := tx.PlanNeeds()
	if err != nil {
		return nil, err
	}
	names, err := tx.FormulaNames()
	if err != nil {
		return nil, err
	}
	of := map[uuid.UUID]*need{}
	at := func(id uuid.UUID) *need {
		if of[id] == nil {
			of[id] = &need{formula: id}
		}
		return of[id]
	}
	for id, weeks := range weekly {
		n := at(id)
		for i, jars := range weeks {
			weeks[i] = max(0, jars) // more came back than went: the week before was too high
			n.went += int(weeks[i])
		}
		n.rate, n.known = planning.Reckon(weeks)
	}
	for _, row := range said {
		n := at(row.FormulaID)
		n.follow, n.said = row.Follow, row.PerWeek
	}
	out := make([]need, 0, len(of))
	for _, n := range of {
		out = append(out, *n)
	}
	slices.SortFunc(out, func(a, b need) int {
		return cmp.Or(cmp.Compare(names[a.formula], names[b.formula]), cmp.Compare(a.formula.String(), b.formula.String()))
	})
	return out, nil
}

// askUsual puts what usually goes in each week of the plan into the task, wanted at its
// beginning: whole jars, so that over the weeks the sum is right.
func (p *planner) askUsual(n need) {
	if !n.follow || p.goods[n.formula] == nil {
		return
	}
	sum, given := 0.0, 0
	for week := range horizonDays / 7 {
		sum += n.perWeek(week)
		jars := int(math.Round(sum)) - given
		if jars <= 0 {
			continue
		}
		given += jars
		one := asked{Order: store.Order{FormulaID: n.formula, Jars: jars, Day: p.set.Today.AddDate(0, 0, 7*week)}, usual: true}
		p.asked = append(p.asked, one)
		p.task.Orders = append(p.task.Orders, planning.Order{Good: n.formula.String(), Pieces: jars, Day: one.Day})
	}
}

// Needs lists how much of each good usually goes.
func (s *Service) Needs(ctx context.Context) ([]api.GoodNeed, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	out := []api.GoodNeed{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		orders, err := tx.OpenOrders()
		if err != nil {
			return err
		}
		needs, err := s.needs(tx, set, orders)
		if err != nil {
			return err
		}
		names, err := tx.FormulaNames()
		if err != nil {
			return err
		}
		for i := range needs {
			out = append(out, needOut(&needs[i], names))
		}
		return nil
	})
	return out, err
}

func needOut(n *need, names map[uuid.UUID]string) api.GoodNeed {
	out := api.GoodNeed{Formula: n.formula, Name: names[n.formula], Follow: n.follow, Said: n.said != nil, PerWeek: n.perWeek(0)}
	if !n.known {
		out.Says = fmt.Sprintf("%d went in a year: too few weeks to say how many go.", n.went)
		return out
	}
	_, low, high := n.rate.Over(bandWeeks)
	out.Reckoned, out.Low, out.High, out.Weeks, out.Method = n.rate.PerWeek, math.Floor(low), math.Ceil(high), n.rate.Weeks, api.GoodNeedMethod(n.rate.Method)
	out.Says = fmt.Sprintf("%s a week; %g to %g in the next four, eight times in ten", few(n.rate.PerWeek), out.Low, out.High)
	switch n.rate.Method {
	case planning.Drift:
		more := "more"
		if n.rate.Trend < 0 {
			more = "fewer"
		}
		out.Says += fmt.Sprintf("; %s %s each month", few(math.Abs(n.rate.Trend)*4.35), more)
	case planning.Seldom:
		out.Says += "; it goes seldom"
	}
	return out
}

// few is a rate in the words of a maker.
func few(x float64) string {
	if x >= 10 {
		return fmt.Sprintf("%.0f", x)
	}
	return fmt.Sprintf("%.1f", x)
}

// SaveNeed keeps whether a good is made for what usually goes, and how much that is.
func (s *Service) SaveNeed(ctx context.Context, formula uuid.UUID, in *api.NeedSaid) error {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := hasFormula(tx, formula); err != nil {
			return err
		}
		rows, err := tx.PlanNeeds()
		if err != nil {
			return err
		}
		row := store.PlanNeed{FormulaID: formula}
		follow := 0
		for _, r := range rows {
			if r.FormulaID == formula {
				row.PerWeek = r.PerWeek
			} else if r.Follow {
				follow++
			}
		}
		if row.Follow = in.Follow; row.Follow && follow >= mostFollow {
			return problem.Clash("too-many", "%d goods are made for what usually goes: leave some out first.", follow)
		}
		switch {
		case in.Reckoned:
			row.PerWeek = nil
		case in.PerWeek > 0:
			row.PerWeek = &in.PerWeek
		}
		if err := tx.SavePlanNeed(&row); err != nil {
			return err
		}
		return tx.Announce("almanac", a.Workshop)
	})
}
