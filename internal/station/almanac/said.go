package almanac

import (
	"context"

	"keencrock/api"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// ReadSaid says what a sentence about orders means; nothing is noted.
func (s *Service) ReadSaid(ctx context.Context, text string) (*api.OrdersSaid, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	out := &api.OrdersSaid{Orders: []api.NewOrder{}}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		talk, err := set.JarTalk(tx)
		if err != nil {
			return err
		}
		talk.Wanted = true
		heard, err := talk.Read(text)
		if err != nil {
			return err
		}
		orders, says, open, err := talk.Orders(tx, heard.Orders)
		if err != nil {
			return err
		}
		out.Orders = append(out.Orders, orders...)
		out.Heard, out.Words = says, exchange.SaidWords(heard.Text, heard.Words)
		out.Problems = append(open, tenant.Doubts(heard.Unsure)...)
		return nil
	})
	return out, err
}
