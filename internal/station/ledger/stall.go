package ledger

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/ledger"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// lastStallDays is how many days at stalls are listed.
const lastStallDays = 60

// StallDays lists the last days at stalls, the newest first.
func (s *Service) StallDays(ctx context.Context) ([]api.StallDay, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	out := []api.StallDay{}
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		days, err := tx.StallDays(lastStallDays)
		if err != nil {
			return err
		}
		for i := range days {
			day, err := s.stallDay(tx, &days[i], a)
			if err != nil {
				return err
			}
			out = append(out, *day)
		}
		return nil
	})
	return out, err
}

// StallDay is one of them.
func (s *Service) StallDay(ctx context.Context, id uuid.UUID) (*api.StallDay, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.StallDay
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		day, err := tx.StallDay(id, false)
		if err != nil {
			return tenant.Explain(err, "stall day")
		}
		out, err = s.stallDay(tx, day, a)
		return err
	})
	return out, err
}

// BeginStallDay takes jars out to a stall.
func (s *Service) BeginStallDay(ctx context.Context, in *api.NewStallDay) (*api.StallDay, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	fee, feeSaid, err := money(in.Fee, 2, "fee")
	if err != nil {
		return nil, err
	}
	fuel, fuelSaid, err := money(in.Fuel, 2, "fuel")
	if err != nil {
		return nil, err
	}
	for i := range in.Lines {
		if isByWeight(&in.Lines[i]) {
			return nil, problem.Unfit("bad-value", "At a stall jars are counted: what is sold there by weight is noted as a sale to it.").At(fmt.Sprintf("lines[%d]", i))
		}
	}
	var out *api.StallDay
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		p, err := s.plan(tx, &api.NewAct{Kind: api.ActKind(stock.Gone), To: in.To, Lines: in.Lines})
		if err != nil {
			return err
		}
		party, err := tx.PartyID(p.to.Name)
		if err != nil {
			return err
		}
		if !feeSaid {
			fee = p.to.Fee
		}
		if !fuelSaid {
			fuel = p.to.Fuel
		}
		day := &store.StallDay{ID: store.NewID(), PartyID: party, Day: p.day, Fee: fee, Fuel: fuel, Currency: p.currency, PersonID: a.Person, OpenedAt: s.Now(), Party: p.to.Name}
		if err := tx.AddStallDay(day); err != nil {
			if err == store.ErrTaken {
				return problem.Clash("stall-open", "A day at %s is open still: end that one first.", p.to.Name).At("to")
			}
			return err
		}
		if _, err := s.do(tx, a, p, day.ID); err != nil {
			return err
		}
		if out, err = s.stallDay(tx, day, a); err != nil {
			return err
		}
		return tx.Announce("ledger", day.ID)
	})
	return out, err
}

// SellAtStall sells or gives some of what went out, or takes the last sales of it back.
func (s *Service) SellAtStall(ctx context.Context, id uuid.UUID, in *api.StallSale) (*api.StallDay, error) {
	price, said, err := money(in.Price, 2, "price")
	if err != nil {
		return nil, err
	}
	return s.onStall(ctx, id, func(tx *store.Tx, a tenant.Actor, day *store.StallDay) error {
		at := in.At
		if at.IsZero() {
			at = s.Now()
		}
		if at.After(s.Now().Add(time.Minute)) || at.Before(day.OpenedAt.Add(-time.Minute)) {
			return problem.Unfit("bad-value", "That is not within the day at %s.", day.Party).At("at")
		}
		kind := stock.MovementKind(in.Kind)
		count := max(1, in.Count)
		jars, err := tx.OnStall(day.ID)
		if err != nil {
			return err
		}
		wanted := []stock.MovementKind{stock.Gone}
		if kind == stock.Returned {
			wanted = []stock.MovementKind{stock.Sold, stock.Given}
		}
		ids := jarsThere(jars, in.Formula, wanted, count)
		if len(ids) < count {
			if kind == stock.Returned {
				return problem.Clash("more-back", "None of it was sold there: there is nothing to take back.").At("count")
			}
			return problem.Clash("short-jars", "%s left there of that, not %d. Nothing was sold.", strings.ToUpper(isOrAre(len(ids))[:1])+isOrAre(len(ids))[1:], count).At("count")
		}
		locked, err := tenant.LockJars(tx, ids)
		if err != nil {
			return err
		}
		act, err := s.stallAct(tx, a, day, kind, at)
		if err != nil {
			return err
		}
		to := turned{kind: kind, act: act, at: at, day: day, price: price, priced: said}
		if kind == stock.Sold {
			rows, err := tx.Prices()
			if err != nil {
				return err
			}
			if listed, _ := listPrice(rows, in.Formula, day.PartyID, day.Currency); listed != nil {
				to.deposit = listed.Deposit
				if !said {
					to.price, to.priced = *listed.Price, true
				}
			}
		}
		for i := range locked.Pieces {
			if err := s.turn(tx, a, locked, &locked.Pieces[i], to); err != nil {
				return err
			}
		}
		return locked.Announce(tx)
	})
}

// jarsThere are so many jars of a good on a stall whose last movement was one of some
// kinds: of those to take back the last that went.
func jarsThere(jars []store.OnStall, formula uuid.UUID, kinds []stock.MovementKind, count int) (ids []uuid.UUID) {
	item := stock.GoodID(formula.String())
	if !slices.Contains(kinds, stock.Gone) {
		jars = slices.Clone(jars)
		slices.SortFunc(jars, func(a, b store.OnStall) int { return cmp.Compare(b.ID, a.ID) })
	}
	for _, j := range jars {
		if j.Item == item && slices.Contains(kinds, stock.MovementKind(j.Kind)) {
			ids = append(ids, j.Piece)
		}
	}
	return ids[:min(count, len(ids))]
}

// turned is what becomes of a jar on a stall.
type turned struct {
	kind   stock.MovementKind
	act    uuid.UUID
	at     time.Time
	day    *store.StallDay
	price  decimal.Decimal
	priced bool

	deposit decimal.Decimal
}

// turn makes of a jar that is out one that is sold or given, or of a sold one one that is
// out again: it comes back and goes again in one breath.
func (s *Service) turn(tx *store.Tx, a tenant.Actor, jars *tenant.Jars, j *stock.Piece, to turned) error {
	back, err := jars.ComeBack(j)
	if err != nil {
		return err
	}
	j.GoneOn, j.GoneTo = time.Time{}, ""
	kind := to.kind
	if kind == stock.Returned {
		kind = stock.Gone
	}
	again, err := jars.Leave(j, kind, to.day.Party)
	if err != nil {
		return err
	}
	again.Deposit = to.deposit
	if kind == stock.Sold && to.priced {
		again.Price = &stock.Price{Amount: to.price, Currency: to.day.Currency}
	}
	for _, m := range []*stock.Movement{back, again} {
		m.Act, m.At = stock.ID(to.act), to.at
		if err := tx.Move(m, a.Person); err != nil {
			return err
		}
	}
	j.GoneOn, j.GoneTo = to.day.Day, to.day.Party
	return tx.SavePiece(j)
}

// stallAct is the act of a kind of a stall day: all sales of a day are one, so that it has
// one note.
func (s *Service) stallAct(tx *store.Tx, a tenant.Actor, day *store.StallDay, kind stock.MovementKind, at time.Time) (uuid.UUID, error) {
	id, err := tx.ActOfStall(day.ID, string(kind))
	if err != nil || id != uuid.Nil {
		return id, err
	}
	row := &store.Act{Kind: string(kind), PartyID: &day.PartyID, StallDayID: &day.ID, PersonID: a.Person, HappenedAt: at, RecordedAt: s.Now()}
	err = tx.AddAct(row)
	return row.ID, err
}

// EndStallDay brings back what was not sold, and counts the takings.
func (s *Service) EndStallDay(ctx context.Context, id uuid.UUID, in *api.StallEnd) (*api.StallDay, error) {
	takings, counted, err := money(in.Takings, 2, "takings")
	if err != nil {
		return nil, err
	}
	fee, feeSaid, err := money(in.Fee, 2, "fee")
	if err != nil {
		return nil, err
	}
	fuel, fuelSaid, err := money(in.Fuel, 2, "fuel")
	if err != nil {
		return nil, err
	}
	return s.onStall(ctx, id, func(tx *store.Tx, a tenant.Actor, day *store.StallDay) error {
		jars, err := tx.OnStall(day.ID)
		if err != nil {
			return err
		}
		var ids []uuid.UUID
		for i, b := range in.Back {
			found := jarsThere(jars, b.Formula, []stock.MovementKind{stock.Gone}, b.Count)
			if len(found) < b.Count {
				return problem.Clash("more-back", "%d of it came back, though only %d were left there: say first which were not sold after all.", b.Count, len(found)).At(fmt.Sprintf("back[%d].count", i))
			}
			ids = append(ids, found...)
		}
		if len(ids) > 0 {
			if err := s.bringBack(tx, a, day, ids); err != nil {
				return err
			}
		}
		now := s.Now()
		day.ClosedAt, day.Note = &now, strings.TrimSpace(in.Note)
		if counted {
			day.Takings = &takings
		}
		if feeSaid {
			day.Fee = fee
		}
		if fuelSaid {
			day.Fuel = fuel
		}
		return tx.SaveStallDay(day)
	})
}

func (s *Service) bringBack(tx *store.Tx, a tenant.Actor, day *store.StallDay, ids []uuid.UUID) error {
	act, err := s.stallAct(tx, a, day, stock.Returned, s.Now())
	if err != nil {
		return err
	}
	jars, err := tenant.LockJars(tx, ids)
	if err != nil {
		return err
	}
	for i := range jars.Pieces {
		j := &jars.Pieces[i]
		m, err := jars.ComeBack(j)
		if err != nil {
			return err
		}
		m.Act, m.At = stock.ID(act), s.Now()
		if err := tx.Move(m, a.Person); err != nil {
			return err
		}
		j.GoneOn, j.GoneTo = time.Time{}, ""
		if err := tx.SavePiece(j); err != nil {
			return err
		}
	}
	return jars.Announce(tx)
}

// onStall does something to an open stall day.
func (s *Service) onStall(ctx context.Context, id uuid.UUID, f func(*store.Tx, tenant.Actor, *store.StallDay) error) (*api.StallDay, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.StallDay
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		day, err := tx.StallDay(id, true)
		if err != nil {
			return tenant.Explain(err, "stall day")
		}
		if day.ClosedAt != nil {
			return problem.Clash("stall-ended", "The day at %s was ended: nothing more is sold there.", day.Party)
		}
		if err := f(tx, a, day); err != nil {
			return err
		}
		if out, err = s.stallDay(tx, day, a); err != nil {
			return err
		}
		return tx.Announce("ledger", id)
	})
	return out, err
}

// stallDay puts a day into the words of the contract, with what it came to.
func (s *Service) stallDay(tx *store.Tx, day *store.StallDay, a tenant.Actor) (*api.StallDay, error) {
	jars, err := tx.OnStall(day.ID)
	if err != nil {
		return nil, err
	}
	rows, err := tx.Prices()
	if err != nil {
		return nil, err
	}
	out := &api.StallDay{Id: day.ID, Outlet: day.PartyID, OutletName: day.Party, Day: exchange.Date(day.Day), Open: day.ClosedAt == nil, Currency: strings.TrimSpace(day.Currency),
		Goods: []api.StallGood{}, Fee: exchange.Money(day.Fee), Fuel: exchange.Money(day.Fuel), Note: day.Note}
	at := map[string]int{}
	sum := ledger.Stall{Fee: day.Fee, Fuel: day.Fuel, Takings: day.Takings}
	allPrice, allCost, pricedJars := decimal.Zero, decimal.Zero, 0
	for _, j := range jars {
		i, there := at[j.Item]
		if !there {
			i = len(out.Goods)
			at[j.Item] = i
			g := api.StallGood{Formula: formulaOfItem(j.Item), Name: j.Name}
			if listed, _ := listPrice(rows, g.Formula, day.PartyID, out.Currency); listed != nil {
				g.Price = exchange.Money(*listed.Price)
			}
			out.Goods = append(out.Goods, g)
		}
		g := &out.Goods[i]
		g.Out++
		if listed, _ := listPrice(rows, g.Formula, day.PartyID, out.Currency); listed != nil {
			allPrice, allCost, pricedJars = allPrice.Add(*listed.Price), allCost.Add(j.Cost), pricedJars+1
		}
		switch stock.MovementKind(j.Kind) {
		case stock.Sold:
			g.Sold++
			sum.Cost = sum.Cost.Add(j.Cost)
			if j.Price != nil {
				sum.Asked = sum.Asked.Add(*j.Price)
			}
		case stock.Given:
			g.Given++
			sum.Cost = sum.Cost.Add(j.Cost)
		case stock.Returned:
			g.Back++
		}
	}
	for _, g := range out.Goods {
		sum.Out, sum.Sold, sum.Given, sum.Back = sum.Out+g.Out, sum.Sold+g.Sold, sum.Given+g.Given, sum.Back+g.Back
	}
	slices.SortFunc(out.Goods, func(a, b api.StallGood) int { return compareNames(a.Name, b.Name) })
	r := sum.Reckon()
	out.Out, out.Sold, out.Given, out.Back, out.Brought = sum.Out, sum.Sold, sum.Given, sum.Back, exchange.Money(sum.Asked)
	if !out.Open {
		out.Missing = r.Missing
	}
	if day.Takings != nil {
		out.Takings, out.Short = exchange.Money(*day.Takings), exchange.Money(r.Short)
	}
	if a.Role != tenant.Owner {
		return out, nil
	}
	out.Cost, out.Left = exchange.Money(sum.Cost), exchange.Money(r.Left)
	if pricedJars > 0 {
		n := decimal.NewFromInt(int64(pricedJars))
		if pieces, ok := ledger.BreakEven(day.Fee.Add(day.Fuel), allPrice.DivRound(n, 6), allCost.DivRound(n, 6)); ok {
			out.BreakEven = &pieces
		}
	}
	return out, nil
}
