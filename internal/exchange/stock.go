package exchange

import (
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/stock"
)

// Date is a day in the words of the contract; none for zero.
func Date(t time.Time) types.Date { return types.Date{Time: t} }

// Time is a moment in the words of the contract; zero for none.
func Time(t *time.Time) time.Time {
	if t == nil {
		return time.Time{}
	}
	return *t
}

// Lot is a lot in the words of the contract, on a day. Its material is called by
// a name.
func Lot(l *stock.Lot, name string, day time.Time) api.Lot {
	out := api.Lot{Id: uuid.UUID(l.ID), Code: l.Code, Material: l.Item, Name: name, Supplier: l.Supplier,
		Rounds: l.Rounds, OriginalG: l.Original, RemainingG: l.Remaining, AvailableG: l.Available(), Landed: KnownMoney(l.Landed), Unpriced: l.Unpriced, Currency: l.Currency,
		Received: Date(l.Received), BestBefore: Date(l.BestBefore), Opened: Date(l.Opened),
		SetAside: l.SetAside, Clumped: l.Clumped, Past: l.PastOn(day), Note: l.Note, MeasuredPh: Measured(l.PH), MadeBy: l.MakingCode, Free: l.Free, KeptFrom: l.KeptOf}
	if l.Free {
		out.Landed, out.PricePerKg = Money(l.Landed), Money(l.Landed)
	}
	if l.Landed.IsPositive() {
		out.PricePerKg = Money(costing.PerGram(l.Landed, l.Original).Mul(decimal.NewFromInt(1000)))
	}
	return out
}

// Measured is a measured pH in the words of the contract; nothing when none was.
func Measured(m *stock.Measured) api.MeasuredPh {
	if m == nil {
		return api.MeasuredPh{}
	}
	return api.MeasuredPh{Ph: m.PH, With: api.MeasuredPhWith(m.With)}
}

// Movement is a movement in the words of the contract.
func Movement(m *stock.Movement) api.Movement {
	return api.Movement{At: m.At, Kind: api.MovementKind(m.Kind), Grams: m.Quantity, Cost: Money(m.Cost), Batch: m.MakingCode, By: m.By,
		Vat: m.VesselName, Party: m.Party, Reason: m.Reason}
}

// JarCode names a jar of a lot.
func JarCode(lot string, number int) string { return fmt.Sprintf("%s/%d", lot, number) }

// Jar is a piece of a lot in the words of the contract.
func Jar(lot string, p *stock.Piece) api.Jar {
	grams := p.Left
	if !p.IsHere() && p.Left == 0 {
		grams = p.Original
	}
	return api.Jar{Id: uuid.UUID(p.ID), Code: JarCode(lot, p.Number), Number: p.Number, Grams: grams, Cost: Money(p.Cost),
		Gone: !p.IsHere(), GoneOn: Date(p.GoneOn), GoneTo: p.GoneTo}
}

// Jars are the pieces of a lot in the words of the contract.
func Jars(lot string, pieces []stock.Piece) []api.Jar {
	out := make([]api.Jar, len(pieces))
	for i := range pieces {
		out[i] = Jar(lot, &pieces[i])
	}
	return out
}
