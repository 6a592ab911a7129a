package ledger

import (
	"context"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/safety"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Outlets lists who jars go to.
func (s *Service) Outlets(ctx context.Context) ([]api.Outlet, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	out := []api.Outlet{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		all, err := tx.Outlets()
		if err != nil {
			return err
		}
		with, err := tx.JarsWith()
		if err != nil {
			return err
		}
		for i := range all {
			out = append(out, outlet(&all[i], with[all[i].ID]))
		}
		return nil
	})
	return out, err
}

func outlet(p *store.Party, with store.JarsWith) api.Outlet {
	return api.Outlet{Id: p.ID, Name: p.Name, Kind: p.Kind, Reach: p.Reach, Note: p.Note, KeepFrom: append([]string{}, p.KeepFrom...),
		Fee: known(p.Fee), Fuel: known(p.Fuel), Version: p.Version, Out: with.Out, Deposits: known(with.Deposits), LastOn: exchange.Date(with.LastOn)}
}

// partyIn reads who jars go to.
func partyIn(in *api.OutletPlan) (*store.Party, error) {
	p := &store.Party{Name: strings.TrimSpace(in.Name), Kind: string(in.Kind), Reach: strings.TrimSpace(in.Reach), Note: strings.TrimSpace(in.Note), Version: in.Version}
	if p.Name == "" {
		return nil, problem.Unfit("bad-value", "Say who it is.").At("name")
	}
	if strings.EqualFold(p.Name, stock.UsedUpHere) || strings.EqualFold(p.Name, stock.KeptAsSample) {
		return nil, problem.Unfit("bad-value", "That name is taken by what is used up or kept here.").At("name")
	}
	var err error
	if p.Fee, _, err = money(in.Fee, 2, "fee"); err != nil {
		return nil, err
	}
	if p.Fuel, _, err = money(in.Fuel, 2, "fuel"); err != nil {
		return nil, err
	}
	for i, k := range in.KeepFrom {
		need, err := safety.ParseNeed(k)
		if err != nil {
			return nil, problem.Unfit("bad-value", "%s.", exchange.Sentence(err)).At(fmt.Sprintf("keep_from[%d]", i))
		}
		p.KeepFrom = append(p.KeepFrom, string(need))
	}
	return p, nil
}

// AddOutlet adds somebody whom jars go to; who was a mere name becomes one.
func (s *Service) AddOutlet(ctx context.Context, in *api.OutletPlan) (*api.Outlet, error) {
	return s.keepOutlet(ctx, in, func(tx *store.Tx, p *store.Party) error {
		p.ID = store.NewID()
		return tx.AddParty(p)
	})
}

// SaveOutlet changes one that was read at a version.
func (s *Service) SaveOutlet(ctx context.Context, id uuid.UUID, in *api.OutletPlan) (*api.Outlet, error) {
	return s.keepOutlet(ctx, in, func(tx *store.Tx, p *store.Party) error {
		if _, err := tx.Party(id); err != nil {
			return err
		}
		p.ID = id
		return tx.SaveParty(p)
	})
}

func (s *Service) keepOutlet(ctx context.Context, in *api.OutletPlan, keep func(*store.Tx, *store.Party) error) (*api.Outlet, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	p, err := partyIn(in)
	if err != nil {
		return nil, err
	}
	var out api.Outlet
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := keep(tx, p); err != nil {
			return tenant.Explain(err, "outlet")
		}
		with, err := tx.JarsWith()
		if err != nil {
			return err
		}
		out = outlet(p, with[p.ID])
		return tx.Announce("ledger", a.Workshop)
	})
	return &out, err
}

// RemoveOutlet takes somebody off the list; forgotten, they are out of everything that
// named them: what went to them stays told, to nobody by name. Who has jars of ours that
// nobody paid for cannot go.
func (s *Service) RemoveOutlet(ctx context.Context, id uuid.UUID, forget bool) error {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		p, err := tx.Party(id)
		if err != nil {
			return tenant.Explain(err, "outlet")
		}
		with, err := tx.JarsWith()
		if err != nil {
			return err
		}
		if n := with[id].Out; n > 0 && !forget {
			return problem.Clash("jars-out", "%s has %d jars of yours that are neither paid for nor back: say first what became of them. Forgetting takes their name and details out all the same.", p.Name, n)
		}
		name := ""
		if forget {
			name = store.Forgotten + id.String()[:8]
		}
		if err := tx.RemoveParty(p, name, s.Now()); err != nil {
			return err
		}
		return tx.Announce("ledger", a.Workshop)
	})
}

// Holders lists who has jars of a batch, and how to reach them.
func (s *Service) Holders(ctx context.Context, batch uuid.UUID) ([]api.Holder, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	out := []api.Holder{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		if _, err := tx.Making(batch); err != nil {
			return tenant.Explain(err, "batch")
		}
		rows, err := tx.WhoHas(batch)
		for _, r := range rows {
			out = append(out, api.Holder{Name: r.Party, Reach: r.Reach, Kind: api.ActKind(r.Kind), Jars: r.Pieces, Numbers: r.Numbers, Grams: r.Grams, LastOn: exchange.Date(r.LastOn)})
		}
		return err
	})
	return out, err
}
