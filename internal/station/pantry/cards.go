package pantry

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/label"
	"keencrock/core/material"
	"keencrock/core/stock"
	"keencrock/core/usage"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// CardQuery says which cards are wanted.
type CardQuery struct {
	Ask   string
	Batch uuid.UUID // only of what it made; none for all
}

// goodHere is a good in the pantry and what works in it.
type goodHere struct {
	api.CardGood
	formula uuid.UUID
	natures []usage.Nature
}

// mostGoods is how many goods of the pantry cards are matched to.
const mostGoods = 200

// Cards lists use cards, the best for what is asked first.
func (s *Service) Cards(ctx context.Context, q CardQuery) ([]api.UseCard, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out []api.UseCard
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		goods, err := s.goodsHere(tx, q.Batch)
		if err != nil {
			return err
		}
		out, err = cardsFor(tx, goods, q.Ask, q.Batch != uuid.Nil)
		return err
	})
	return out, err
}

// cardsFor are the cards that answer what is asked, with the goods they go with; only
// those that go with one where that is asked.
func cardsFor(tx *store.Tx, goods []goodHere, ask string, only bool) ([]api.UseCard, error) {
	own, versions, err := ownCards(tx)
	if err != nil {
		return nil, err
	}
	out := []api.UseCard{}
	for _, match := range usage.Find(append(own, usage.Shipped()...), ask) {
		card := cardOf(match.Card)
		card.Warned = append([]string{}, match.Warned...)
		card.Version = versions[match.ID]
		for _, g := range goods {
			if match.Good == g.formula.String() || match.Good == "" && slices.Contains(g.natures, match.Nature) {
				card.Goods = append(card.Goods, g.CardGood)
			}
		}
		if only && len(card.Goods) == 0 {
			continue
		}
		out = append(out, card)
	}
	if ask == "" { // the workshop's own first, then what there is something for
		slices.SortStableFunc(out, func(a, b api.UseCard) int { return rank(b) - rank(a) })
	}
	return out, nil
}

func rank(c api.UseCard) int {
	n := min(1, len(c.Goods))
	if c.Own {
		n += 2
	}
	return n
}

func cardOf(c *usage.Card) api.UseCard {
	out := api.UseCard{Id: c.ID, Nature: string(c.Nature), Task: c.Task, Surfaces: append([]string{}, c.Surfaces...), Strength: c.Strength, How: c.How, LeaveMinutes: c.LeaveMinutes,
		Leave: c.LeaveWords(), Tool: c.Tool, Water: c.Water, Rinse: c.Rinse, Order: c.Order, EveryDays: c.EveryDays, NotOn: append([]string{}, c.NotOn...), Shake: c.Shake, Seen: c.Seen,
		Own: c.Good != "", Goods: []api.CardGood{}, Warned: []string{}}
	if id, err := uuid.Parse(c.Good); err == nil {
		out.Formula = id
	}
	if out.Own {
		for _, claim := range label.Claims(c.Task + ". " + c.How) {
			out.Claims = append(out.Claims, api.LabelClaim{Field: api.LabelClaimFieldUse, Word: claim.Word, At: claim.At, Why: claim.Why, Instead: claim.Instead})
		}
	}
	return out
}

// findCard returns a card by its id: one of the workshop's own, or a shipped one.
func findCard(tx *store.Tx, id string) (*usage.Card, error) {
	own, _, err := ownCards(tx)
	if err != nil {
		return nil, err
	}
	for _, c := range append(own, usage.Shipped()...) {
		if c.ID == id {
			return &c, nil
		}
	}
	return nil, problem.Unfit("no-such-card", "There is no use card %q.", id).At("card")
}

func ownCards(tx *store.Tx) (cards []usage.Card, versions map[string]int, err error) {
	rows, err := tx.UseCards(uuid.Nil)
	versions = map[string]int{}
	for i := range rows {
		c, err := readCard(&rows[i])
		if err != nil {
			return nil, nil, err
		}
		cards = append(cards, *c)
		versions[c.ID] = rows[i].Version
	}
	return cards, versions, err
}

func readCard(row *store.UseCard) (*usage.Card, error) {
	var in api.OwnCard
	if err := json.Unmarshal(row.Card, &in); err != nil {
		return nil, fmt.Errorf("a use card: %w", err)
	}
	return &usage.Card{ID: row.ID.String(), Good: row.FormulaID.String(), Task: in.Task, Surfaces: in.Surfaces, Strength: in.Strength, How: in.How, LeaveMinutes: in.LeaveMinutes,
		Tool: in.Tool, Water: in.Water, Rinse: in.Rinse, Order: in.Order, EveryDays: in.EveryDays, NotOn: in.NotOn, Shake: in.Shake, Seen: in.Seen}, nil
}

// goodsHere are the goods that something is left of, or the one of a batch.
func (s *Service) goodsHere(tx *store.Tx, batch uuid.UUID) ([]goodHere, error) {
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	var makings []*store.Making
	lots := map[stock.ID]*stock.Lot{}
	if batch != uuid.Nil {
		m, err := s.made(tx, batch)
		if err != nil {
			return nil, err
		}
		makings, lots[stock.ID(batch)] = []*store.Making{m.row}, m.lot
	} else if makings, lots, err = left(tx, store.Page{Limit: mostGoods}); err != nil {
		return nil, err
	}
	ids := make([]stock.ID, len(makings))
	for i, row := range makings {
		ids[i] = stock.ID(row.ID)
	}
	snapshots, err := tx.AssessedMakings(ids...)
	if err != nil {
		return nil, err
	}
	var out []goodHere
	for _, row := range makings {
		snapshot, err := tenant.ReadSnapshot(snapshots[row.ID])
		if err != nil {
			return nil, err
		}
		lot := lots[stock.ID(row.ID)]
		g := goodHere{formula: row.FormulaID, natures: usage.NaturesOf(formula.Kind(row.Kind), partsOf(set.Materials, snapshot.MadeOf))}
		g.CardGood = api.CardGood{Batch: row.ID, Name: row.Name, Code: row.Code, Left: fmt.Sprintf("%.0f g", lot.Remaining), Past: lot.PastOn(set.Today)}
		out = append(out, g)
	}
	return out, nil
}

func partsOf(lib *material.Library, parts []tenant.Part) []usage.Part {
	var out []usage.Part
	for _, p := range parts {
		if m, err := lib.Find(p.Of); err == nil {
			out = append(out, usage.Part{Material: m, Share: p.Share})
		}
	}
	return out
}

// AddCard keeps a card of the workshop's own.
func (s *Service) AddCard(ctx context.Context, in api.OwnCard) (*api.UseCard, error) {
	return s.writeCard(ctx, in, func(tx *store.Tx, row *store.UseCard) error {
		row.ID, row.FormulaID, row.Version = store.NewID(), in.Formula, 1
		return tx.AddUseCard(row)
	})
}

// SaveCard changes a card of the workshop's own.
func (s *Service) SaveCard(ctx context.Context, id uuid.UUID, in api.OwnCard) (*api.UseCard, error) {
	return s.writeCard(ctx, in, func(tx *store.Tx, row *store.UseCard) error {
		was, err := tx.UseCard(id)
		if err != nil {
			return err
		}
		row.ID, row.WorkshopID, row.FormulaID, row.Version = was.ID, was.WorkshopID, was.FormulaID, in.Version
		return tx.SaveUseCard(row)
	})
}

func (s *Service) writeCard(ctx context.Context, in api.OwnCard, write func(*store.Tx, *store.UseCard) error) (*api.UseCard, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	in.Task, in.How = strings.TrimSpace(in.Task), strings.TrimSpace(in.How)
	var out api.UseCard
	err := s.Store.Tx(ctx, func(tx *store.Tx) error {
		row := &store.UseCard{}
		var err error
		if row.Card, err = json.Marshal(in); err != nil {
			return err
		}
		card, err := readCard(row)
		if err != nil {
			return err
		}
		if err := card.Check(); err != nil {
			return problem.Unfit("bad-value", "%v.", err).At("task")
		}
		if _, err := tx.Formula(in.Formula); err != nil {
			return tenant.Explain(err, "formula")
		}
		if err := write(tx, row); err != nil {
			return tenant.Explain(err, "card")
		}
		card.ID, card.Good = row.ID.String(), row.FormulaID.String()
		out = cardOf(card)
		out.Version = row.Version
		return tx.Announce("cards", nil)
	})
	return &out, err
}

// RemoveCard puts a card of the workshop's own away.
func (s *Service) RemoveCard(ctx context.Context, id uuid.UUID) error {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		row, err := tx.UseCard(id)
		if err != nil {
			return tenant.Explain(err, "card")
		}
		now := s.Now()
		row.RemovedAt = &now
		if err := tx.SaveUseCard(row); err != nil {
			return tenant.Explain(err, "card")
		}
		return tx.Announce("cards", nil)
	})
}

// Chores lists what comes round.
func (s *Service) Chores(ctx context.Context) ([]api.Chore, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := []api.Chore{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		chores, err := tx.Chores(zeroDay)
		for i := range chores {
			out = append(out, s.choreOf(w, &chores[i]))
		}
		return err
	})
	return out, err
}

func (s *Service) choreOf(w *store.Workshop, c *store.Chore) api.Chore {
	out := api.Chore{Id: c.ID, Title: c.Title, EveryDays: c.EveryDays, Card: c.Card, Bottle: len(c.Bottle) > 0, Next: exchange.Date(c.NextOn), State: api.Later}
	switch today := s.Day(w); {
	case c.NextOn.Before(today):
		out.State = api.Late
	case c.NextOn.Equal(today):
		out.State = api.Today
	}
	return out
}

// AddChore puts what comes round into what is due.
func (s *Service) AddChore(ctx context.Context, in api.NewChore) (*api.Chore, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	title := strings.TrimSpace(in.Title)
	if title == "" {
		return nil, problem.Unfit("bad-value", "Say what comes round.").At("title")
	}
	var out api.Chore
	err := s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		row := &store.Chore{ID: store.NewID(), Title: title, Card: in.Card, EveryDays: in.EveryDays, NextOn: s.Day(w)}
		if !in.First.IsZero() {
			row.NextOn = in.First.Time
		}
		if err := tx.AddChore(row); err != nil {
			return err
		}
		out = s.choreOf(w, row)
		return tx.Announce("rack", nil)
	})
	return &out, err
}

// DoChore says that one is done today: it comes round again so many days from now.
func (s *Service) DoChore(ctx context.Context, id uuid.UUID) (*api.Chore, error) {
	var out *api.Chore
	err := s.onChore(ctx, id, func(w *store.Workshop, c *store.Chore) {
		if c.EveryDays == 0 { // it came round once
			now := s.Now()
			c.RemovedAt = &now
		}
		c.NextOn = s.Day(w).AddDate(0, 0, c.EveryDays)
		done := s.choreOf(w, c)
		out = &done
	})
	return out, err
}

// RemoveChore says that one comes round no more.
func (s *Service) RemoveChore(ctx context.Context, id uuid.UUID) error {
	return s.onChore(ctx, id, func(_ *store.Workshop, c *store.Chore) {
		now := s.Now()
		c.RemovedAt = &now
	})
}

func (s *Service) onChore(ctx context.Context, id uuid.UUID, change func(*store.Workshop, *store.Chore)) error {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		c, err := tx.Chore(id)
		if err != nil {
			return tenant.Explain(err, "chore")
		}
		change(w, c)
		if err := tx.SaveChore(c); err != nil {
			return err
		}
		return tx.Announce("rack", nil)
	})
}
