package ledger

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/ledger"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// reckonedOver is how many of the last batches the cost of a good is reckoned over: enough
// to even out, few enough to be of today. From memory.
const reckonedOver = 5

// failuresDays is how long what came to nothing is borne by what was made well.
const failuresDays = 365

// usualMargin is the margin that a price is named for. From memory: common for what is
// made by hand and sold by its maker.
const usualMargin = 0.4

// aTenth is the rise that is told of each material.
const aTenth = 0.1

// Goods says what each good that was made here costs, and what it brings.
func (s *Service) Goods(ctx context.Context) ([]api.GoodCost, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	out := []api.GoodCost{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		k, err := s.costsOf(tx, uuid.Nil)
		if err != nil {
			return err
		}
		out = k.goods()
		return nil
	})
	return out, err
}

// costs is what is known to reckon what goods cost.
type costs struct {
	set     *tenant.Settings
	rates   *ledger.Rates
	bought  []api.BoughtGood
	makings map[uuid.UUID][]store.GoodMaking // by formula, the newest first
	order   []uuid.UUID
	drawn   map[uuid.UUID][]store.Drawing // by making
	failed  map[uuid.UUID]store.Failed
	prices  map[uuid.UUID]store.Price // everybody's, by formula
	loads   map[uuid.UUID]float64     // grams of a load, as they were counted
}

// costsOf reads what the cost of one good, or of all, is reckoned from.
func (s *Service) costsOf(tx *store.Tx, formula uuid.UUID) (*costs, error) {
	k := &costs{makings: map[uuid.UUID][]store.GoodMaking{}, drawn: map[uuid.UUID][]store.Drawing{}, failed: map[uuid.UUID]store.Failed{}, prices: map[uuid.UUID]store.Price{}}
	var err error
	if k.set, err = s.Settings(tx); err != nil {
		return nil, err
	}
	row, err := tx.Rates()
	if err != nil {
		return nil, err
	}
	k.rates = rates(row)
	out, err := ratesOut(row)
	if err != nil {
		return nil, err
	}
	k.bought = out.Bought
	newest, err := tx.NewestOfGoods(formula, reckonedOver)
	if err != nil {
		return nil, err
	}
	var ids []uuid.UUID
	for _, m := range newest {
		if m.Currency != k.set.Workshop.Currency { // of before the workshop counted in another
			continue
		}
		if k.makings[m.FormulaID] == nil {
			k.order = append(k.order, m.FormulaID)
		}
		k.makings[m.FormulaID] = append(k.makings[m.FormulaID], m)
		ids = append(ids, m.ID)
	}
	drawn, err := tx.Drawings(ids...)
	if err != nil {
		return nil, err
	}
	for _, d := range drawn {
		k.drawn[d.Making] = append(k.drawn[d.Making], d)
	}
	failed, err := tx.FailedSince(s.Now().AddDate(0, 0, -failuresDays))
	if err != nil {
		return nil, err
	}
	for _, f := range failed {
		if f.Currency == k.set.Workshop.Currency {
			k.failed[f.FormulaID] = f
		}
	}
	prices, err := tx.Prices()
	if err != nil {
		return nil, err
	}
	for _, p := range prices {
		if p.PartyID == nil && p.Currency == k.set.Workshop.Currency {
			k.prices[p.FormulaID] = p
		}
	}
	k.loads, err = tx.LoadsCountedOf(k.order...)
	return k, err
}

func (k *costs) goods() []api.GoodCost {
	out := make([]api.GoodCost, 0, len(k.order))
	for _, f := range k.order {
		out = append(out, k.good(f))
	}
	slices.SortStableFunc(out, func(a, b api.GoodCost) int { return cmp.Compare(a.Name, b.Name) })
	return out
}

// layers are the strata of makings, all together, and what they made in grams.
func (k *costs) layers(makings []store.GoodMaking) (strata []ledger.Stratum, grams map[string]float64, madeG float64) {
	at := map[string]int{}
	grams = map[string]float64{}
	hands, handsKnown, heat, whole := 0.0, true, 0.0, decimal.Zero
	for i := range makings {
		m := &makings[i]
		madeG += m.MadeG
		whole = whole.Add(m.Cost)
		if m.HandsMin == nil {
			handsKnown = false
		} else {
			hands += *m.HandsMin
		}
		if m.HeatMin != nil {
			heat += *m.HeatMin
		}
		for _, d := range k.drawn[m.ID] {
			part := ledger.Materials
			if d.Kind == "filled" {
				part = ledger.Packaging
			}
			key := string(part) + d.Item
			if _, there := at[key]; !there {
				at[key] = len(strata)
				strata = append(strata, ledger.Stratum{Part: part, Item: d.Item})
			}
			one := &strata[at[key]]
			one.Cost, one.Unknown = one.Cost.Add(d.Cost), one.Unknown || d.Unpriced
			grams[key] += d.Quantity
		}
	}
	// what the books say and no lot does: from vats of before their feeds had lots
	known, _ := ledger.Total(strata)
	if rest := whole.Sub(known); !rest.IsZero() {
		strata = append(strata, ledger.Stratum{Part: ledger.Materials, Cost: rest})
	}
	slices.SortStableFunc(strata, func(a, b ledger.Stratum) int {
		return cmp.Or(cmp.Compare(slices.Index(ledger.Parts, a.Part), slices.Index(ledger.Parts, b.Part)), b.Cost.Cmp(a.Cost))
	})
	strata = append(strata, k.rates.Work(hands, handsKnown), k.rates.Heat(heat))
	if f, any := k.failed[makings[0].FormulaID]; any {
		strata = append(strata, ledger.FailureShare(f.Cost, madeG, f.MadeG))
	}
	return strata, grams, madeG
}

// good is what a good costs: of a jar, or of a kilogram where it is in none.
func (k *costs) good(formula uuid.UUID) api.GoodCost {
	makings := k.makings[formula]
	newest := &makings[0]
	strata, grams, madeG := k.layers(makings)
	out := api.GoodCost{Formula: formula, Name: newest.Name, Kind: newest.Kind, Currency: newest.Currency, Batches: len(makings), Failed: k.failed[formula].Batches, Of: "kilogram"}
	for i := range makings {
		out.Over = append(out.Over, api.BatchNamed{Batch: makings[i].ID, Code: makings[i].Code})
	}
	ofG := 1000.0
	if newest.EachG > 0 && newest.Jars > 0 {
		out.Of, out.EachG, ofG = "jar", newest.EachG, newest.EachG
	}
	share := ofG / madeG
	each := ledger.Share(strata, share)
	for key := range grams {
		grams[key] *= share
	}
	total, atLeast := ledger.Total(each)
	out.Strata, out.Cost, out.AtLeast = k.show(each, grams, len(makings)), exchange.Money(total), atLeast
	whole, _ := ledger.Total(strata)
	out.CostPerKg = exchange.Money(whole.Mul(decimal.NewFromInt(1000)).DivRound(decimal.NewFromFloat(madeG), 2))
	useG := newest.UseG
	if counted := k.loads[formula]; counted > 0 {
		useG = counted
	}
	if useG > 0 {
		out.UsesEach = ofG / useG
		out.CostPerUse = perUse(total, out.UsesEach)
		for _, b := range k.bought {
			if b.Kind == newest.Kind {
				price, _, _ := money(b.Price, 2, "")
				out.Bought = api.BoughtBeside{Name: b.Name, PerUse: perUse(price, b.Uses)}
				break
			}
		}
	}
	if out.Of != "jar" {
		return out
	}
	if price, err := ledger.PriceFor(total, usualMargin); err == nil && total.IsPositive() {
		out.PriceFor40 = exchange.Money(price)
	}
	if p, has := k.prices[formula]; has {
		out.Price = exchange.Money(*p.Price)
		if m, ok := ledger.Margin(*p.Price, total); ok {
			out.Margin = &m
		}
		if m, ok := ledger.MarkUp(*p.Price, total); ok {
			out.MarkUp = &m
		}
		out.Loses, out.Deposit = p.Price.LessThan(total), known(p.Deposit)
	}
	if refill := ledger.WithoutPackaging(each); refill.LessThan(total) {
		out.RefillCost = exchange.Money(refill)
		if out.Margin != nil && *out.Margin >= 0 {
			if price, err := ledger.PriceFor(refill, *out.Margin); err == nil {
				out.RefillPrice = exchange.Money(price)
			}
		}
	}
	return out
}

// show puts strata into the words of the contract; over is how many batches they are of.
func (k *costs) show(strata []ledger.Stratum, grams map[string]float64, over int) []api.Stratum {
	whole, _ := ledger.Total(strata)
	out := make([]api.Stratum, 0, len(strata))
	for i := range strata {
		one := &strata[i]
		if one.Cost.IsZero() && !one.Unknown && one.Part != ledger.Materials {
			continue
		}
		a := api.Stratum{Part: api.StratumPart(one.Part), Item: one.Item, Name: k.nameOf(one), Grams: grams[string(one.Part)+one.Item], Says: k.says(one, over)}
		if !one.Unknown || one.Cost.IsPositive() {
			a.Cost = exchange.Money(one.Cost)
		}
		if whole.IsPositive() {
			a.Share = one.Cost.DivRound(whole, 6).InexactFloat64()
		}
		if one.Part == ledger.Materials && one.Item != "" {
			a.TenthDearer = exchange.Money(ledger.Dearer(strata, one.Item, aTenth))
		}
		out = append(out, a)
	}
	return out
}

func (k *costs) nameOf(s *ledger.Stratum) string {
	switch s.Part {
	case ledger.Hands:
		return "Hands"
	case ledger.Energy:
		return "Stove"
	case ledger.Failures:
		return "What failed"
	}
	if s.Item == "" {
		return "from before the books had its lots"
	}
	for _, drawn := range k.drawn {
		for _, d := range drawn {
			if d.Item == s.Item && d.Name != "" {
				return d.Name
			}
		}
	}
	return k.set.NameOf(s.Item)
}

// says is how a stratum was reckoned, or what is missing to reckon it.
func (k *costs) says(s *ledger.Stratum, over int) string {
	switch {
	case s.Part == ledger.Hands && s.Unknown && k.rates.Hour.IsZero():
		return "Say what an hour of hands costs, to see it."
	case s.Part == ledger.Hands && s.Unknown:
		return "Of a batch here nobody counted the minutes: its log has no steps to count them by."
	case s.Part == ledger.Hands:
		return fmt.Sprintf("Minutes at the bench by the log, at %s an hour.", exchange.Money(k.rates.Hour))
	case s.Part == ledger.Energy && s.Unknown:
		return "It was heated: say what the stove draws and what a kilowatt hour costs, to see it."
	case s.Part == ledger.Energy:
		return fmt.Sprintf("%.0f W while it heats, at %s a kilowatt hour.", k.rates.StoveW, k.rates.KWh.String())
	case s.Part == ledger.Failures:
		return "Its share, by weight, of what was thrown away or came to nothing in a year."
	case s.Unknown && s.Cost.IsPositive():
		return "Some of it came without a price: it costs at least this."
	case s.Unknown:
		return "It came without a price."
	case over > 1:
		return fmt.Sprintf("By its lots, over the last %d batches.", over)
	}
	return "By its lots."
}
