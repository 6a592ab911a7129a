package rack

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/core/vessel"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// fedLot is a lot that a vat is fed from, and how much of it goes in.
type fedLot struct {
	lot   *stock.Lot
	grams float64
}

// feed finds the lots that a vat is fed from, locked, and works out what goes in. Liquid
// beyond them is tap water; sugar and peel beyond them have to be said to be given.
func feed(tx *store.Tx, set *tenant.Settings, in api.VesselAct, e *store.VesselEvent) ([]fedLot, error) {
	if e.Kind != vessel.Fed {
		if len(in.From) > 0 || in.Given {
			return nil, problem.Unfit("bad-value", "Only what is fed comes from lots.").At("from")
		}
		return nil, nil
	}
	var fed []fedLot
	sum := map[api.FedFromAs]float64{}
	for _, from := range in.From {
		lot, err := fedFrom(tx, set, from)
		if err != nil {
			return nil, err
		}
		if slices.ContainsFunc(fed, func(f fedLot) bool { return f.lot.ID == lot.ID }) {
			return nil, problem.Unfit("bad-value", "Lot %s is said twice: say it once, with all that comes from it.", lot.Code).At("from")
		}
		amount := stock.Round(from.Grams)
		fed = append(fed, fedLot{lot, amount})
		e.From = append(e.From, store.FedFrom{Lot: uuid.UUID(lot.ID), Grams: amount, As: string(from.As)})
		if from.As == api.FedFromAsLiquid {
			amount /= densityOf(set, lot.Item)
		}
		sum[from.As] += amount
	}
	e.Given = in.Given
	for _, part := range []struct {
		as    api.FedFromAs
		total *float64
		field string
		tap   bool
	}{{api.FedFromAsLiquid, &e.ML, "ml", true}, {api.FedFromAsSugar, &e.SugarG, "sugar_g", false}, {api.FedFromAsPeel, &e.PeelG, "peel_g", false}} {
		switch of := stock.Round(sum[part.as]); {
		case *part.total == 0:
			*part.total = of
		case of > *part.total+1:
			return nil, problem.Unfit("bad-value", "More comes from the lots than goes in.").At(part.field)
		case of < *part.total-stock.Tolerance && !part.tap && !in.Given:
			return nil, problem.Unfit("lot-missing", "Which lot is the %s from? Give the code on the bag, or say that it was given.", part.as).At(part.field)
		}
	}
	return fed, nil
}

// fedFrom finds one lot that a vat is fed from, locked, and refuses one that does not
// hold so much.
func fedFrom(tx *store.Tx, set *tenant.Settings, from api.FedFrom) (*stock.Lot, error) {
	written := strings.TrimSpace(from.Lot)
	found, err := tenant.LotsNamed(tx, written)
	if err != nil {
		return nil, err
	}
	switch len(found) {
	case 0:
		return nil, problem.Unfit("unknown-lot", "There is no lot %s.", written).At("from")
	case 1:
	default:
		return nil, problem.Unfit("which-lot", "Lot %s is there of several materials: choose it from the list.", written).At("from")
	}
	if err := tx.LockLots([]stock.ID{found[0].ID}); err != nil {
		return nil, err
	}
	lot, err := tx.Lot(found[0].ID) // as it stands now that it is locked
	if err != nil {
		return nil, err
	}
	pieces, err := tx.Pieces(lot.ID)
	switch {
	case err != nil:
		return nil, err
	case stock.IsPackaging(lot.Item), len(pieces[lot.ID]) > 0:
		return nil, problem.Unfit("wrong-lot", "Lot %s stands in jars: what goes into a vat comes from a bag or a canister.", lot.Code).At("from")
	case lot.SetAside:
		return nil, problem.Unfit("lot-set-aside", "Lot %s was set aside.", lot.Code).At("from")
	case from.Grams > lot.Available()+stock.Tolerance:
		return nil, problem.Unfit("short-lot", "Lot %s has only %s left.", lot.Code, quantity.FormatGrams(lot.Available(), 0.1)).At("from")
	}
	if lot.Opened.IsZero() {
		lot.Opened = set.Today
		return lot, tx.SaveLotMarks(lot)
	}
	return lot, nil
}

// densityOf is that of a material in g/ml; that of water where it is not known.
func densityOf(set *tenant.Settings, item string) float64 {
	if m, err := set.Materials.Find(item); err == nil && m.Density.Value > 0 {
		return m.Density.Value
	}
	return 1
}

// outOfLots moves what was fed out of its lots.
func outOfLots(tx *store.Tx, row *store.Vessel, fed []fedLot, event int64, at time.Time, by uuid.UUID) error {
	for _, f := range fed {
		m := stock.Movement{Lot: f.lot.ID, Kind: stock.Fed, Quantity: -f.grams, Cost: f.lot.Cost(f.grams), Vessel: stock.ID(row.ID), Event: event, At: at}
		if err := tx.Move(&m, by); err != nil {
			return err
		}
	}
	if len(fed) == 0 {
		return nil
	}
	return tx.Announce("shelf", row.ID)
}

// backIntoLots takes a feed, or what a draw holds of feeds, back.
func backIntoLots(tx *store.Tx, row *store.Vessel, e *store.VesselEvent, at time.Time, by uuid.UUID) error {
	if e.Batch != nil {
		return tx.ForgetVatShares(*e.Batch)
	}
	if len(e.From) == 0 {
		return nil
	}
	shares, err := tx.VatSharesOf([]int64{e.ID})
	if err != nil {
		return err
	}
	if len(shares) > 0 {
		return problem.Clash("needed", "What was drawn since holds some of it: take that draw back first.").At("event")
	}
	fed, err := tx.FedMovements(e.ID)
	if err != nil {
		return err
	}
	var ids []stock.ID
	for _, m := range fed[e.ID] {
		ids = append(ids, m.Lot)
	}
	if err := tx.LockLots(ids); err != nil {
		return err
	}
	for _, m := range fed[e.ID] {
		back := stock.Movement{Lot: m.Lot, Kind: stock.Fed, Quantity: -m.Quantity, Cost: m.Cost.Neg(), Reason: "taken back", Vessel: stock.ID(row.ID), Event: e.ID, At: at}
		if err := tx.Move(&back, by); err != nil {
			return err
		}
	}
	return tx.Announce("shelf", row.ID)
}

// takeFrom works out what a draw that becomes a batch holds of each lot that was fed, and
// whether all of it is known.
func (d *drawnBatch) takeFrom(tx *store.Tx, events []store.VesselEvent, e store.VesselEvent) error {
	var happened []vessel.Event
	var rows []*store.VesselEvent
	var feeds []int64
	for i := range events {
		if !events[i].Undone {
			happened, rows = append(happened, events[i].Event), append(rows, &events[i])
			if len(events[i].From) > 0 {
				feeds = append(feeds, events[i].ID)
			}
		}
	}
	fed, err := tx.FedMovements(feeds...)
	if err != nil {
		return err
	}
	before, err := tx.VatSharesOf(feeds)
	if err != nil {
		return err
	}
	d.by.FromKnown = true
	for _, share := range vessel.Shares(happened, e.ML, e.At) {
		of := rows[share.Feed]
		if !of.IsKnown() {
			d.by.FromKnown = false
		}
		for lot, whole := range wholeOf(fed[of.ID]) {
			left, leftCost := whole.Quantity, whole.Cost
			for i := range before {
				if b := &before[i]; b.EventID == of.ID && b.LotID == uuid.UUID(lot) {
					left, leftCost = left-b.Quantity, leftCost.Sub(b.Cost)
				}
			}
			took := store.VatShare{EventID: of.ID, LotID: uuid.UUID(lot), Quantity: min(stock.Round(whole.Quantity*share.Share), stock.Round(left)),
				Cost: decimal.Min(whole.Cost.Mul(decimal.NewFromFloat(share.Share)).Round(2), leftCost)}
			if took.Quantity > stock.Tolerance {
				d.shares = append(d.shares, took)
			}
		}
	}
	return nil
}

// wholeOf is what was fed of each lot at one time, what was taken back off.
func wholeOf(moves []stock.Movement) map[stock.ID]stock.Movement {
	of := map[stock.ID]stock.Movement{}
	for _, m := range moves {
		whole := of[m.Lot]
		whole.Quantity, whole.Cost = whole.Quantity-m.Quantity, whole.Cost.Add(m.Cost)
		of[m.Lot] = whole
	}
	return of
}

// nameFed says of the feeds of a vat which lots they were from.
func (s *Service) nameFed(tx *store.Tx, v *api.Vessel, events []store.VesselEvent) error {
	var ids []stock.ID
	for i := range events {
		for _, f := range events[i].From {
			ids = append(ids, stock.ID(f.Lot))
		}
	}
	if len(ids) == 0 {
		return nil
	}
	slices.SortFunc(ids, func(a, b stock.ID) int { return cmp.Compare(a.String(), b.String()) })
	lots, err := tx.LotsByID(slices.Compact(ids))
	if err != nil {
		return err
	}
	set, err := s.Settings(tx)
	if err != nil {
		return err
	}
	for i := range events {
		for _, f := range events[i].From {
			if lot := lots[stock.ID(f.Lot)]; lot != nil {
				named := exchange.Lot(lot, set.NameOf(lot.Item), set.Today)
				v.Events[i].From = append(v.Events[i].From, api.VesselFed{Lot: f.Lot, Code: lot.Code, Name: named.Name, Grams: f.Grams, As: api.VesselFedAs(f.As)})
			}
		}
	}
	return nil
}
