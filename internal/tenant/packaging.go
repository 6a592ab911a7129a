package tenant

import (
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// Packaging lists what can be filled, with how many there are and, of so many grams of
// something of a density, how much each holds and how many are filled; 0 for none asked
// for.
func Packaging(tx *store.Tx, grams, gPerML float64) ([]api.Packaging, error) {
	containers, err := tx.Containers()
	out := make([]api.Packaging, len(containers))
	if err != nil || len(containers) == 0 {
		return out, err
	}
	items, at := make([]string, len(containers)), map[string]int{}
	for i, c := range containers {
		items[i], at[c.Item] = c.Item, i
		out[i] = api.Packaging{Id: c.Item, Name: c.Name, HoldsMl: c.HoldsML, TareG: c.TareG, HoldsG: c.HoldsG(gPerML), MostG: c.MostG(gPerML)}
		out[i].Full, out[i].OverG = c.Fill(grams, gPerML)
	}
	lots, err := tx.Stock(items...)
	if err != nil {
		return nil, err
	}
	for _, l := range lots {
		p := &out[at[l.Item]]
		p.Left += int(l.Available())
		if l.Original > 0 {
			p.Each = exchange.Money(l.Landed.DivRound(decimal.NewFromFloat(l.Original), 2))
		}
	}
	return out, nil
}

// ContainerOf finds a container; nil for one that is not there.
func ContainerOf(tx *store.Tx, item string) (*stock.Container, error) {
	containers, err := tx.Containers()
	if err != nil {
		return nil, err
	}
	for i := range containers {
		if containers[i].Item == item {
			return &containers[i], nil
		}
	}
	return nil, nil
}
