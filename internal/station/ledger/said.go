package ledger

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/listener"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// ReadSaid says what a sentence about jars means; nothing is moved.
func (s *Service) ReadSaid(ctx context.Context, text string) (*api.ActSaid, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	var out *api.ActSaid
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		names, err := tx.FormulaNames()
		if err != nil {
			return err
		}
		outlets, err := tx.Outlets()
		if err != nil {
			return err
		}
		o := listener.JarOptions{Today: set.Today, Currency: set.Workshop.Currency}
		ids := make([]uuid.UUID, 0, len(names))
		for id := range names {
			ids = append(ids, id)
		}
		slices.SortFunc(ids, func(a, b uuid.UUID) int { return compareNames(names[a]+a.String(), names[b]+b.String()) })
		for _, id := range ids {
			o.Goods = append(o.Goods, names[id])
		}
		for i := range outlets {
			o.Parties = append(o.Parties, outlets[i].Name)
		}
		heard, err := listener.ReadJars(text, set.Materials, o)
		if err != nil {
			return problem.TooLarge("too-long", "%s", exchange.Sentence(err))
		}
		out = saidOf(heard, ids, o, s.Now(), set)
		return nil
	})
	return out, err
}

var saidHow = map[listener.MovedKind]string{listener.MovedSold: "Sold", listener.MovedGiven: "Given", listener.MovedGone: "Sent out", listener.MovedBack: "Taken back"}

// saidOf puts what was heard into the words of the contract.
func saidOf(heard *listener.Jars, ids []uuid.UUID, o listener.JarOptions, now time.Time, set *tenant.Settings) *api.ActSaid {
	out := &api.ActSaid{Acts: []api.NewAct{}, Words: exchange.SaidWords(heard.Text, heard.Words)}
	for _, m := range heard.Moved {
		act := api.NewAct{Kind: api.ActKind(m.Kind), To: m.To}
		if !m.On.IsZero() && m.On.Before(set.Today) {
			act.At = tenant.EndOfDay(m.On, set.Workshop).Add(-12 * time.Hour) // noon of that day
			if act.At.After(now) {
				act.At = time.Time{}
			}
		}
		var parts []string
		for _, l := range m.Lines {
			if l.Good < 0 {
				continue
			}
			wish := api.ActWish{Formula: ids[l.Good], Count: l.Count, Empty: l.Empty}
			part := fmt.Sprintf("%d %s", l.Count, o.Goods[l.Good])
			if l.Empty {
				part += " (the jar alone)"
			}
			if l.HasPrice {
				if l.Currency != o.Currency {
					out.Problems = append(out.Problems, *problem.Unfit("other-currency", "%s was said, and prices here are in %s: say what it was in that.", l.Currency, o.Currency).At("text"))
				} else {
					wish.Price = exchange.Money(l.Price)
					part += " at " + wish.Price + " each"
				}
			}
			act.Lines = append(act.Lines, wish)
			parts = append(parts, part)
		}
		if len(act.Lines) == 0 {
			continue
		}
		says := saidHow[m.Kind] + ": " + strings.Join(parts, ", ")
		if m.To != "" {
			says += map[bool]string{true: " from ", false: " to "}[m.Kind == listener.MovedBack] + m.To
		}
		if !act.At.IsZero() {
			says += ", on " + m.On.Format("2 January")
		}
		out.Acts, out.Heard = append(out.Acts, act), append(out.Heard, says+".")
	}
	for _, u := range heard.Unsure {
		p := problem.Unfit(u.Code, "%s", u.Text).At("text")
		p.Nearest = u.Answers
		out.Problems = append(out.Problems, *p)
	}
	return out
}
