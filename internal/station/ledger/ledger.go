// Package ledger is the ledger station: what goods cost and bring, who has them, and what
// became of a year. It keeps no books of its own: all of it is read off the one stock and
// the one log.
package ledger

import (
	"context"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/ledger"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service is what can be done in the ledger.
type Service struct{ *tenant.House }

// New returns the ledger of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// mostMoney is more than any price here.
var mostMoney = decimal.NewFromInt(10_000_000)

// money reads an amount of money that is not below zero; said is false for none.
func money(written api.Money, places int32, field string) (amount decimal.Decimal, said bool, err error) {
	text := strings.TrimSpace(strings.ReplaceAll(written, ",", "."))
	if text == "" {
		return amount, false, nil
	}
	amount, err = decimal.NewFromString(text)
	switch {
	case err != nil:
		return amount, false, problem.Unfit("bad-money", "%q is no amount of money: a number such as 4.50 is wanted.", written).At(field)
	case amount.IsNegative():
		return amount, false, problem.Unfit("bad-money", "%s is below zero: a price is never. Take back what was sold instead.", written).At(field)
	case amount.GreaterThan(mostMoney):
		return amount, false, problem.Unfit("bad-money", "%s is more than can be meant.", written).At(field)
	case !amount.Equal(amount.Round(places)):
		return amount, false, problem.Unfit("bad-money", "%s has more digits than there are coins.", written).At(field)
	}
	return amount, true, nil
}

// known is money as the contract has it; empty for nothing said.
func known(d decimal.Decimal) api.Money { return exchange.KnownMoney(d) }

// Rates are what an hour of hands and a kilowatt hour cost here.
func (s *Service) Rates(ctx context.Context) (*api.Rates, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	var out *api.Rates
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		row, err := tx.Rates()
		if err != nil {
			return err
		}
		out, err = ratesOut(row)
		return err
	})
	return out, err
}

// SaveRates keeps them.
func (s *Service) SaveRates(ctx context.Context, in *api.Rates) (*api.Rates, error) {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return nil, err
	}
	row, err := ratesIn(in)
	if err != nil {
		return nil, err
	}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.SaveRates(row); err != nil {
			return tenant.Explain(err, "rates")
		}
		return tx.Announce("ledger", a.Workshop)
	})
	if err != nil {
		return nil, err
	}
	return ratesOut(row)
}

// rates are the rates in the words of the core.
func rates(row *store.Rates) *ledger.Rates {
	return &ledger.Rates{Hour: row.Hour, KWh: row.KWh, StoveW: row.StoveW}
}
