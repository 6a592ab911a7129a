package ledger

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

func compareNames(a, b string) int { return cmp.Compare(strings.ToLower(a), strings.ToLower(b)) }

// Prices lists what a jar of each good is sold for.
func (s *Service) Prices(ctx context.Context) ([]api.JarPrice, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	var out []api.JarPrice
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		out, err = prices(tx)
		return err
	})
	return out, err
}

// mostEarlier is how many prices of before are told of each.
const mostEarlier = 5

func prices(tx *store.Tx) ([]api.JarPrice, error) {
	rows, err := tx.Prices()
	if err != nil {
		return nil, err
	}
	before, err := tx.EarlierPrices(mostEarlier)
	if err != nil {
		return nil, err
	}
	names, err := tx.FormulaNames()
	if err != nil {
		return nil, err
	}
	outlets, err := tx.Outlets()
	if err != nil {
		return nil, err
	}
	out := make([]api.JarPrice, 0, len(rows))
	for i := range rows {
		r := &rows[i]
		p := api.JarPrice{Formula: r.FormulaID, Name: names[r.FormulaID], Price: exchange.Money(*r.Price), Deposit: known(r.Deposit), Currency: r.Currency, Since: exchange.Date(r.At)}
		if r.PartyID != nil {
			at := slices.IndexFunc(outlets, func(o store.Party) bool { return o.ID == *r.PartyID })
			if at < 0 { // taken off the list
				continue
			}
			p.Outlet, p.OutletName = *r.PartyID, outlets[at].Name
		}
		until := r.At
		for _, b := range before {
			if b.FormulaID != r.FormulaID || (b.PartyID == nil) != (r.PartyID == nil) || b.PartyID != nil && *b.PartyID != *r.PartyID {
				continue
			}
			one := api.EarlierPrice{Currency: b.Currency, Since: exchange.Date(b.At), Until: exchange.Date(until)}
			if b.Price != nil {
				one.Price = exchange.Money(*b.Price)
			}
			p.Earlier, until = append(p.Earlier, one), b.At
		}
		out = append(out, p)
	}
	slices.SortStableFunc(out, func(a, b api.JarPrice) int {
		return cmp.Or(compareNames(a.Name, b.Name), compareNames(a.OutletName, b.OutletName))
	})
	return out, nil
}

// SetPrices keeps what a jar is sold for from now on; what is not named stays as it is.
func (s *Service) SetPrices(ctx context.Context, in *api.JarPrices) ([]api.JarPrice, error) {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return nil, err
	}
	rows := make([]store.Price, len(in.Prices))
	for i, p := range in.Prices {
		row := store.Price{FormulaID: p.Formula, PersonID: a.Person, At: s.Now()}
		if p.Outlet != uuid.Nil {
			row.PartyID = &p.Outlet
		}
		price, said, err := money(p.Price, 2, fmt.Sprintf("prices[%d].price", i))
		if err != nil {
			return nil, err
		}
		if said {
			row.Price = &price
		}
		if row.Deposit, _, err = money(p.Deposit, 2, fmt.Sprintf("prices[%d].deposit", i)); err != nil {
			return nil, err
		}
		rows[i] = row
	}
	var out []api.JarPrice
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		names, err := tx.FormulaNames()
		if err != nil {
			return err
		}
		for i := range rows {
			if _, there := names[rows[i].FormulaID]; !there {
				return problem.Missing("not-found", "There is no such formula in this workshop.").At(fmt.Sprintf("prices[%d].formula", i))
			}
			if rows[i].PartyID != nil {
				if _, err := tx.Party(*rows[i].PartyID); err != nil {
					return tenant.Explain(err, "outlet")
				}
			}
			rows[i].Currency = w.Currency
		}
		if err := tx.AddPrices(rows); err != nil {
			return err
		}
		if err := tx.Announce("ledger", a.Workshop); err != nil {
			return err
		}
		out, err = prices(tx)
		return err
	})
	return out, err
}
