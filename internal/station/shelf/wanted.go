package shelf

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"keencrock/api"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Wanted is what is to be bought: what was put on the list, and what has fallen below its
// reorder point.
func (s *Service) Wanted(ctx context.Context) ([]api.WantedLine, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var list []api.WantedLine
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		list, err = s.wanted(tx)
		return err
	})
	return list, err
}

func (s *Service) wanted(tx *store.Tx) ([]api.WantedLine, error) {
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	rows, err := tx.Wanted()
	if err != nil {
		return nil, err
	}
	lots, err := tx.ShelfStock()
	if err != nil {
		return nil, err
	}
	last, err := tx.LastPrices(set.Workshop.Currency)
	if err != nil {
		return nil, err
	}
	list := []api.WantedLine{}
	line := func(item string) *api.WantedLine {
		at := slices.IndexFunc(list, func(l api.WantedLine) bool { return l.Material == item })
		if at < 0 {
			list = append(list, api.WantedLine{Material: item, Name: set.NameOf(item), For: []string{}})
			at = len(list) - 1
		}
		return &list[at]
	}
	for _, w := range rows {
		l := line(w.Item)
		l.Grams += w.Quantity
		if w.Reason != "" {
			l.For = append(l.For, w.Reason)
		}
	}
	for _, jar := range shelfJars(set, lots, last) {
		low := jar.ReorderG > 0 && jar.UsableG < jar.ReorderG
		if !low && !slices.ContainsFunc(list, func(l api.WantedLine) bool { return l.Material == jar.Material }) {
			continue
		}
		l := line(jar.Material)
		l.ThereG, l.PricePerKg, l.Low = jar.UsableG, jar.PricePerKg, low
		if low && l.Grams == 0 {
			l.Grams = jar.ReorderG - jar.UsableG
		}
	}
	slices.SortStableFunc(list, func(a, b api.WantedLine) int { return cmp.Compare(a.Name, b.Name) })
	return list, nil
}

// Want puts what is short on the list.
func (s *Service) Want(ctx context.Context, in *api.ToWant) ([]api.WantedLine, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var list []api.WantedLine
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		rows := make([]store.Wanted, 0, len(in.Lines))
		for i, l := range in.Lines {
			m, err := set.Materials.Find(l.Material)
			if err != nil {
				return problem.Unfit("unknown-material", "%v.", err).At(fmt.Sprintf("lines[%d].material", i))
			}
			if slices.ContainsFunc(rows, func(w store.Wanted) bool { return w.Item == m.ID }) {
				return problem.Unfit("twice", "%s stands here twice.", m.Name).At(fmt.Sprintf("lines[%d].material", i))
			}
			rows = append(rows, store.Wanted{Item: m.ID, Reason: in.For, Quantity: l.Grams, PersonID: a.Person, NotedAt: s.Now()})
		}
		if err := tx.Want(rows); err != nil {
			return err
		}
		if list, err = s.wanted(tx); err != nil {
			return err
		}
		return tx.Announce("shelf", a.Workshop)
	})
	return list, err
}

// Unwant takes a material off the list.
func (s *Service) Unwant(ctx context.Context, item string) error {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.Unwant(item); err != nil {
			return err
		}
		return tx.Announce("shelf", a.Workshop)
	})
}
