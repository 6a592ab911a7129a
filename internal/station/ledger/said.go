package ledger

import (
	"context"
	"fmt"
	"strings"
	"time"

	"keencrock/api"
	"keencrock/core/listener"
	"keencrock/core/quantity"
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
		talk, err := set.JarTalk(tx)
		if err != nil {
			return err
		}
		heard, err := talk.Read(text)
		if err != nil {
			return err
		}
		out = saidOf(heard, talk, s.Now(), set)
		orders, says, open, err := talk.Orders(tx, heard.Orders)
		out.Orders, out.Heard, out.Problems = orders, append(out.Heard, says...), append(out.Problems, open...)
		return err
	})
	return out, err
}

var saidHow = map[listener.MovedKind]string{listener.MovedSold: "Sold", listener.MovedGiven: "Given", listener.MovedGone: "Sent out", listener.MovedBack: "Taken back"}

// saidOf puts what was heard into the words of the contract.
func saidOf(heard *listener.Jars, talk *tenant.JarTalk, now time.Time, set *tenant.Settings) *api.ActSaid {
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
			wish, part := lineSaid(&l, talk)
			if l.HasPrice {
				if l.Currency != talk.Currency {
					out.Problems = append(out.Problems, *problem.Unfit("other-currency", "%s was said, and prices here are in %s: say what it was in that.", l.Currency, talk.Currency).At("text"))
				} else {
					wish.Price = exchange.Money(l.Price)
					part += map[bool]string{true: " at " + wish.Price + " each", false: " for " + wish.Price}[l.Count > 0]
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
	out.Problems = append(out.Problems, tenant.Doubts(heard.Unsure)...)
	return out
}

// lineSaid is one line of an act, and how it is said again.
func lineSaid(l *listener.MovedLine, talk *tenant.JarTalk) (wish api.ActWish, part string) {
	wish = api.ActWish{Formula: talk.IDs[l.Good], Count: l.Count, Grams: l.Grams(), Ml: l.Millilitres(), Empty: l.Empty}
	switch {
	case wish.Grams > 0:
		part = quantity.FormatFigures(wish.Grams, 4) + " g of "
	case wish.Ml > 0:
		part = quantity.FormatFigures(wish.Ml, 4) + " ml of "
	default:
		part = fmt.Sprintf("%d ", l.Count)
	}
	part += talk.Goods[l.Good]
	if l.Empty {
		part += " (the jar alone)"
	}
	return wish, part
}
