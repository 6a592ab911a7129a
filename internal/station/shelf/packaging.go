package shelf

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Packaging lists jars, bottles and pouches to fill.
func (s *Service) Packaging(ctx context.Context) ([]api.Packaging, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	return tenant.Packaging(s.Store.Read(ctx), 0, 0)
}

// TakePackaging takes in jars, bottles or pouches. One of a name that is not there
// is a new sort; what is said of one that is there holds from now on.
func (s *Service) TakePackaging(ctx context.Context, in api.PackagingDelivery) (*api.Packaging, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Packaging
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		out, err = s.putPackaging(tx, a, in, set)
		return err
	})
	return out, err
}

// putPackaging takes in one sort of packaging.
func (s *Service) putPackaging(tx *store.Tx, a tenant.Actor, in api.PackagingDelivery, set *tenant.Settings) (*api.Packaging, error) {
	name := strings.TrimSpace(in.Name)
	price := decimal.Zero
	if in.Price != "" {
		var err error
		if price, err = decimal.NewFromString(strings.Replace(string(in.Price), ",", ".", 1)); err != nil || price.IsNegative() {
			return nil, problem.Unfit("bad-value", "“%s” is no price: write it such as 24.00.", in.Price).At("price")
		}
	}
	if name == "" {
		return nil, problem.Unfit("bad-value", "Say what it is: jar 0.7 l with lid.").At("name")
	}
	containers, err := tx.Containers()
	if err != nil {
		return nil, err
	}
	c := stock.Container{Item: stock.PackagingID(store.NewID().String()), Name: name}
	if i := slices.IndexFunc(containers, func(c stock.Container) bool { return strings.EqualFold(c.Name, name) }); i >= 0 {
		c = containers[i]
	}
	if in.HoldsMl > 0 {
		c.HoldsML = in.HoldsMl
	}
	if in.TareG > 0 {
		c.TareG = in.TareG
	}
	if err := tx.PutContainer(&c); err != nil {
		return nil, err
	}
	lot := stock.Lot{ID: stock.ID(store.NewID()), Item: c.Item, Code: strings.TrimSpace(in.Lot), Original: float64(in.Pieces), Remaining: float64(in.Pieces), Landed: price.Round(2),
		Currency: set.Workshop.Currency, Supplier: strings.TrimSpace(in.Supplier), Received: set.Today}
	if lot.Code == "" {
		lot.Code = fmt.Sprintf("P-%s-%x", set.Today.Format("060102"), lot.ID[13:])
	}
	if err := tx.AddLots([]stock.Lot{lot}, a.Person, s.Now()); err != nil {
		return nil, tenant.Explain(err, "lot")
	}
	all, err := tenant.Packaging(tx, 0, 0)
	if err != nil {
		return nil, err
	}
	out := all[slices.IndexFunc(all, func(p api.Packaging) bool { return p.Id == c.Item })]
	return &out, tx.Announce("shelf", nil)
}
