package ledger

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/safety"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// AddAct sells, gives, sends out or takes back jars: all of them or none.
func (s *Service) AddAct(ctx context.Context, in *api.NewAct) (*api.Act, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Act
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		p, err := s.plan(tx, in)
		if err != nil {
			return err
		}
		if len(p.against) > 0 && !in.Despite {
			return problem.Clash("kept-from", "%s is to be kept from this. %s Nothing was moved.", p.to.Name, strings.Join(p.against, " ")).At("to")
		}
		if out, err = s.do(tx, a, p, uuid.Nil); err != nil {
			return err
		}
		return tx.Announce("ledger", a.Workshop)
	})
	return forRole(out, a), err
}

// TryAct says what an act would move and what stands against it; nothing is moved.
func (s *Service) TryAct(ctx context.Context, in *api.NewAct) (*api.Act, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Act
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		p, err := s.plan(tx, in)
		if err != nil {
			return err
		}
		out = p.show()
		return nil
	})
	return forRole(out, a), err
}

// forRole leaves out what only owners see.
func forRole(act *api.Act, a tenant.Actor) *api.Act {
	if act != nil && a.Role != tenant.Owner {
		act.Cost = ""
	}
	return act
}

// thrownAway is where jars went that were discarded.
const thrownAway = "thrown away"

// planned is an act as it would be done.
type planned struct {
	kind     stock.MovementKind
	to       store.Party // with no id for nobody, or who is not known yet
	at       time.Time
	note     string
	jars     *tenant.Jars
	weighed  []*weighed                // what goes by weight
	asked    map[stock.ID]*api.ActWish // by jar
	prices   map[stock.ID]*stock.Price
	deposits map[stock.ID]decimal.Decimal
	from     map[stock.ID]api.ActLinePriceFrom
	names    map[uuid.UUID]string
	currency string
	day      time.Time
	against  []string
	despite  bool
}

// plan finds the jars of an act, locked, with what each is to bring.
func (s *Service) plan(tx *store.Tx, in *api.NewAct) (*planned, error) {
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	p := &planned{kind: stock.MovementKind(in.Kind), note: strings.TrimSpace(in.Note), at: in.At, currency: set.Workshop.Currency, despite: in.Despite,
		asked: map[stock.ID]*api.ActWish{}, prices: map[stock.ID]*stock.Price{}, deposits: map[stock.ID]decimal.Decimal{}, from: map[stock.ID]api.ActLinePriceFrom{}}
	if p.at.IsZero() {
		p.at = s.Now()
	}
	if p.at.After(s.Now().Add(time.Minute)) {
		return nil, problem.Unfit("bad-value", "That is still to come: say when it was.").At("at")
	}
	p.day = tenant.DayOf(p.at, set.Workshop)
	if p.names, err = tx.FormulaNames(); err != nil {
		return nil, err
	}
	if name := strings.TrimSpace(in.To); name != "" {
		p.to.Name = name
		if known, err := tx.PartyNamed(name); err != nil {
			return nil, err
		} else if known != nil {
			p.to = *known
		}
	}
	if p.kind == stock.Discarded {
		p.to = store.Party{Name: thrownAway}
	}
	if err := s.choose(tx, set, p, in); err != nil {
		return nil, err
	}
	if err := p.check(set); err != nil {
		return nil, err
	}
	if err := p.price(tx); err != nil {
		return nil, err
	}
	if p.kind.Leaves() && p.kind != stock.Discarded {
		p.against, err = s.against(tx, set, p)
	}
	return p, err
}

// choose finds the jars that are meant, and what goes by weight, and locks them.
func (s *Service) choose(tx *store.Tx, set *tenant.Settings, p *planned, in *api.NewAct) error {
	var ids []uuid.UUID
	var byWeight []*weighWish
	var lots [][]stock.ID
	for i := range in.Lines {
		wish := &in.Lines[i]
		if isByWeight(wish) {
			w, err := s.weighWish(tx, p, wish, i)
			if err != nil {
				return err
			}
			of, err := w.lots(tx)
			if err != nil {
				return err
			}
			byWeight, lots = append(byWeight, w), append(lots, of)
			continue
		}
		found := wish.Jars
		if len(found) == 0 {
			var err error
			if found, err = s.jarsOf(tx, p, wish, ids, i); err != nil {
				return err
			}
		}
		for _, id := range found {
			if p.asked[stock.ID(id)] != nil {
				return problem.Unfit("twice", "One jar stands here twice.").At(fmt.Sprintf("lines[%d].jars", i))
			}
			p.asked[stock.ID(id)] = wish
			ids = append(ids, id)
		}
	}
	var err error
	if p.jars, err = tenant.LockJars(tx, ids, slices.Concat(lots...)...); err != nil {
		return err
	}
	return s.weigh(tx, set, p, byWeight, lots)
}

// wanted is what a line asks for that names no jars: of a good or of a batch, by its name.
func (s *Service) wanted(tx *store.Tx, p *planned, wish *api.ActWish, field string) (q store.JarQuery, name string, err error) {
	if wish.Formula == uuid.Nil && wish.Batch == uuid.Nil {
		return q, "", problem.Unfit("bad-value", "Say of which good, of which batch, or which jars.").At(field)
	}
	name = p.names[wish.Formula]
	if wish.Formula != uuid.Nil && name == "" {
		return q, "", problem.Missing("not-found", "There is no such formula in this workshop.").At(field + ".formula")
	}
	if wish.Batch != uuid.Nil {
		m, err := tx.Making(wish.Batch)
		if err != nil {
			return q, "", tenant.Explain(err, "batch")
		}
		name = m.Code
	}
	q = store.JarQuery{Making: wish.Batch, Leaving: p.kind.Leaves(), Party: p.to.Name, Opened: p.kind == stock.Discarded}
	if wish.Formula != uuid.Nil {
		q.Item = stock.GoodID(wish.Formula.String())
	}
	if wish.Batch == uuid.Nil && q.Leaving && p.kind != stock.Discarded {
		q.GoodOn = p.day
	}
	return q, name, nil
}

// jarsOf are so many jars of a good or of a batch that are not chosen yet: of those here
// the first that are best before the soonest, of those to come back the last that went.
func (s *Service) jarsOf(tx *store.Tx, p *planned, wish *api.ActWish, chosen []uuid.UUID, line int) ([]uuid.UUID, error) {
	field := fmt.Sprintf("lines[%d]", line)
	q, name, err := s.wanted(tx, p, wish, field)
	if err != nil {
		return nil, err
	}
	count := max(1, wish.Count)
	q.Limit = count + len(chosen)
	found, err := tx.FindJars(q)
	if err != nil {
		return nil, err
	}
	found = slices.DeleteFunc(found, func(id uuid.UUID) bool { return slices.Contains(chosen, id) })
	if len(found) >= count {
		return found[:count], nil
	}
	if q.Leaving {
		others := ""
		opened, past := q, q
		opened.Opened, past.GoodOn = true, time.Time{}
		if all, err := tx.FindJars(opened); err == nil && len(all) > len(found)+len(chosen) {
			others += " Another is opened: sell of it by weight, or name the jar."
		}
		if all, err := tx.FindJars(past); err == nil && len(all) > len(found)+len(chosen) {
			others += " Others are past their date: name their batch to take them."
		}
		return nil, problem.Clash("short-jars", "Of %s %s here, not %d.%s Nothing was moved.", name, isOrAre(len(found)), count, others).At(field + ".count")
	}
	whom := p.to.Name
	if whom == "" {
		whom = "anybody"
	}
	return nil, problem.Clash("more-back", "Of %s %s with %s, not %d: more cannot come back than went out. Nothing was moved.", name, isOrAre(len(found)), whom, count).At(field + ".count")
}

func isOrAre(n int) string {
	switch n {
	case 0:
		return "none is"
	case 1:
		return "one is"
	}
	return fmt.Sprintf("%d are", n)
}

// check refuses what cannot have been: a jar that went before it was made, or came back
// before it went.
func (p *planned) check(set *tenant.Settings) error {
	for i := range p.jars.Pieces {
		j := &p.jars.Pieces[i]
		lot := p.jars.Lots[j.Lot]
		if p.day.Before(lot.Received) {
			return problem.Unfit("too-early", "Jar %s was made on %s only: it cannot have gone on %s.", p.jars.Code(j), lot.Received.Format(time.DateOnly), p.day.Format(time.DateOnly)).At("at")
		}
		if left, ever := p.jars.Left(j); ever && !j.IsHere() && p.at.Before(left.At) && p.kind == stock.Returned {
			return problem.Unfit("too-early", "Jar %s went out on %s only: it cannot have come back before.", p.jars.Code(j), tenant.DayOf(left.At, set.Workshop).Format(time.DateOnly)).At("at")
		}
		if p.asked[j.ID].Empty && p.kind != stock.Returned {
			return problem.Unfit("bad-value", "Only what comes back is empty.").At("lines")
		}
	}
	for _, w := range p.weighed {
		if p.day.Before(w.lot.Received) {
			return problem.Unfit("too-early", "Batch %s was made on %s only: nothing of it can have gone on %s.", w.lot.Code, w.lot.Received.Format(time.DateOnly), p.day.Format(time.DateOnly)).At("at")
		}
	}
	return nil
}

// price says what each jar is to bring: what was said, else the price of who takes it, else
// everybody's.
func (p *planned) price(tx *store.Tx) error {
	rows, err := tx.Prices()
	if err != nil {
		return err
	}
	for i := range p.jars.Pieces {
		j := &p.jars.Pieces[i]
		wish := p.asked[j.ID]
		formula := p.formulaOf(j)
		price, said, err := money(wish.Price, 2, "lines.price")
		if err != nil {
			return err
		}
		deposit, depositSaid, err := money(wish.Deposit, 2, "lines.deposit")
		if err != nil {
			return err
		}
		listed, from := listPrice(rows, formula, p.to.ID, p.currency)
		if !depositSaid && listed != nil && p.kind == stock.Sold {
			deposit = listed.Deposit
		}
		if p.kind.Leaves() && p.kind != stock.Discarded {
			p.deposits[j.ID] = deposit
		}
		switch {
		case p.kind != stock.Sold:
		case said:
			p.prices[j.ID], p.from[j.ID] = &stock.Price{Amount: price, Currency: p.currency}, api.PriceSaid
		case listed != nil:
			p.prices[j.ID], p.from[j.ID] = &stock.Price{Amount: *listed.Price, Currency: listed.Currency}, from
		}
	}
	return nil
}

// listPrice is the price of a good for a party, else everybody's; nil where there is none.
func listPrice(rows []store.Price, formula, party uuid.UUID, currency string) (found *store.Price, from api.ActLinePriceFrom) {
	for i := range rows {
		r := &rows[i]
		switch {
		case r.FormulaID != formula || r.Currency != currency:
		case r.PartyID != nil && *r.PartyID == party:
			return r, api.PriceOfOutlet
		case r.PartyID == nil:
			found, from = r, api.PriceOfList
		}
	}
	return found, from
}

func (p *planned) formulaOf(j *stock.Piece) uuid.UUID {
	of, _ := stock.FormulaOf(p.jars.Lots[j.Lot].Item)
	id, _ := uuid.Parse(of)
	return id
}

// against says what of the jars their taker is to be kept from.
func (s *Service) against(tx *store.Tx, set *tenant.Settings, p *planned) ([]string, error) {
	var needs []safety.Need
	for _, k := range p.to.KeepFrom {
		needs = append(needs, safety.Need(k))
	}
	if len(needs) == 0 {
		return nil, nil
	}
	var found []string
	for _, lot := range p.jars.Lots {
		row, err := tx.Making(uuid.UUID(lot.Making))
		if err != nil {
			return nil, err
		}
		m, err := tenant.ReadAsMade(set, row)
		if err != nil {
			return nil, err
		}
		for _, says := range held(m.Assess(set, set.Water())).Against(needs) {
			if says = p.names[formulaOfItem(lot.Item)] + ": " + says; !slices.Contains(found, says) {
				found = append(found, says)
			}
		}
	}
	slices.Sort(found)
	return found, nil
}

func formulaOfItem(item string) uuid.UUID {
	of, _ := stock.FormulaOf(item)
	id, _ := uuid.Parse(of)
	return id
}

// held is a good as it is held against somebody's needs.
func held(a *assess.Assessment) *safety.Held {
	h := &safety.Held{Cautions: a.Cautions}
	total := a.Resolved.TotalG.Value
	for i := range a.Resolved.Lines {
		l := &a.Resolved.Lines[i]
		if l.Material != nil && total > 0 {
			h.Ingredients = append(h.Ingredients, safety.Ingredient{Material: l.Material, Share: l.MassG.Value / total})
		}
	}
	if a.Hazard != nil {
		h.Statements = a.Hazard.Codes()
		for _, m := range a.Hazard.Unknown {
			h.Unknown = append(h.Unknown, m.Name)
		}
	}
	return h
}

// do lets an act happen; of a stall day where it is one.
func (s *Service) do(tx *store.Tx, a tenant.Actor, p *planned, stallDay uuid.UUID) (*api.Act, error) {
	row := &store.Act{Kind: string(p.kind), Note: p.note, PersonID: a.Person, HappenedAt: p.at, RecordedAt: s.Now()}
	if len(p.against) > 0 {
		row.Note = strings.TrimSpace(row.Note + " All the same, though: " + strings.Join(p.against, " "))
		if len(row.Note) > 400 {
			row.Note = strings.ToValidUTF8(row.Note[:400], "")
		}
	}
	if p.to.Name != "" && p.kind != stock.Discarded {
		id, err := tx.PartyID(p.to.Name)
		if err != nil {
			return nil, err
		}
		row.PartyID = &id
	}
	if stallDay != uuid.Nil {
		row.StallDayID = &stallDay
	}
	if err := tx.AddAct(row); err != nil {
		return nil, err
	}
	if err := s.moveAll(tx, a, p, row.ID); err != nil {
		return nil, err
	}
	out := p.show()
	out.Id, out.Number, out.By, out.Note = row.ID, row.Number, a.Name, row.Note
	return out, nil
}

// moveAll moves the jars of an act.
func (s *Service) moveAll(tx *store.Tx, a tenant.Actor, p *planned, act uuid.UUID) error {
	for i := range p.jars.Pieces {
		j := &p.jars.Pieces[i]
		m, err := p.movement(j)
		if err != nil {
			return err
		}
		m.Act, m.At = stock.ID(act), p.at
		if err := tx.Move(m, a.Person); err != nil {
			return err
		}
		if m.Quantity == 0 {
			continue
		}
		if j.GoneOn, j.GoneTo = (time.Time{}), ""; p.kind.Leaves() {
			j.GoneOn, j.GoneTo = p.day, p.to.Name
		}
		if err := tx.SavePiece(j); err != nil {
			return err
		}
	}
	if err := s.moveWeighed(tx, a, p, act); err != nil {
		return err
	}
	return p.jars.Announce(tx)
}

// movement is how one jar of an act moves.
func (p *planned) movement(j *stock.Piece) (*stock.Movement, error) {
	if p.kind.Leaves() {
		m, err := p.jars.Leave(j, p.kind, p.to.Name)
		if err != nil {
			return nil, err
		}
		if p.kind == stock.Discarded {
			m.Party, m.Reason = "", p.note
			return m, nil
		}
		m.Price, m.Deposit = p.prices[j.ID], p.deposits[j.ID]
		return m, nil
	}
	if p.asked[j.ID].Empty {
		left, ever := p.jars.Left(j)
		if !ever || j.IsHere() {
			return nil, p.jars.Clash(j)
		}
		return &stock.Movement{Lot: j.Lot, Piece: j.ID, Kind: stock.Emptied, Party: j.GoneTo, Deposit: left.Deposit.Neg(), Reason: "the jar came back empty"}, nil
	}
	return p.jars.ComeBack(j)
}
