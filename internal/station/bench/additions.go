package bench

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// addition is a material that is added at the bench, in grams.
type addition struct {
	of    *material.Material
	grams float64
}

// readAddition understands what is to be added.
func readAddition(set *tenant.Settings, measures quantity.Measures, in api.Addition) (*addition, error) {
	m, err := set.Materials.Find(strings.TrimSpace(in.Material))
	if err != nil {
		p := exchange.FieldProblem("material", err)
		return nil, &p
	}
	a, err := quantity.Parse(in.Amount)
	if err != nil {
		p := exchange.FieldProblem("amount", err)
		return nil, &p
	}
	h := m.Handling(measures)
	tools := set.Tools()
	h.DropML, h.ScoopML, h.Own = tools.DropML, tools.ScoopML, tools.Own
	g, err := a.Grams(h)
	if err != nil {
		return nil, problem.Unfit("bad-amount", "%s", exchange.Sentence(err)).At("amount")
	}
	if !(g.Value > 0) {
		return nil, problem.Unfit("bad-amount", "Say how much: 1/2 tsp, or 10 g.").At("amount")
	}
	return &addition{m, stock.Round(g.Value)}, nil
}

// Add adds a material that the formula does not have to a batch.
func (s *Service) Add(ctx context.Context, id uuid.UUID, in api.Addition) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		f, _ := exchange.ToFormula(&b.By.File)
		add, err := readAddition(b.Set, f.Measures, in)
		if err != nil {
			return err
		}
		if tenant.IsMade(add.of.ID) && add.of.ID == stock.GoodID(b.Row.FormulaID.String()) {
			return problem.Unfit("bad-value", "A good cannot go into itself.").At("material")
		}
		e := making.Happening(making.LineAdded)
		e.Item, e.Name, e.Volatile, e.Grams, e.Text = add.of.ID, add.of.Name, add.of.VolatileShare(), add.grams, in.Amount
		if step, at := b.Step(); in.Step != nil {
			e.Step = *in.Step
		} else if at {
			e.Step = step
		}
		if err := s.record(tx, b, a, e, uuid.Nil); err != nil {
			return err
		}
		if in.Why == "" {
			return nil
		}
		note := making.Happening(making.Noted)
		note.Text = in.Why
		return s.record(tx, b, a, note, uuid.Nil)
	})
}

// Try says what would become of a batch if something were added, before it is
// poured; nothing is kept.
func (s *Service) Try(ctx context.Context, id uuid.UUID, in api.Addition) (*api.AdditionTried, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var b *tenant.Batch
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		row, err := tx.Making(id)
		if err != nil {
			return tenant.Explain(err, "batch")
		}
		b, err = tenant.LoadBatch(tx, set, row)
		return err
	})
	if err != nil {
		return nil, err
	}
	f, _ := exchange.ToFormula(&b.By.File)
	add, err := readAddition(b.Set, f.Measures, in)
	if err != nil {
		return nil, err
	}
	return tried(b, add), nil
}

// tried compares a batch as it is in the bowl with what it would be.
func tried(b *tenant.Batch, add *addition) *api.AdditionTried {
	before, after := inBowl(b, nil), inBowl(b, add)
	out := &api.AdditionTried{Material: add.of.ID, Name: add.of.Name, Grams: add.grams, Says: []string{}, Cautions: []api.Caution{}}
	var worse []safety.Caution
	for _, c := range after.Cautions {
		was := slices.ContainsFunc(before.Cautions, func(o safety.Caution) bool { return o.Code == c.Code && o.Severity >= c.Severity })
		if !was && c.Severity != safety.Note {
			worse = append(worse, c)
		}
	}
	out.Cautions, out.Spoils = exchange.Cautions(worse), len(worse) > 0
	if x, y := before.Solution, after.Solution; x != nil && y != nil {
		out.PhBefore, out.PhAfter = exchange.Range(x.VentedPH), exchange.Range(y.VentedPH)
	}
	for _, d := range assess.Compare(before, after) {
		if d.AKnown && d.BKnown && d.Weight >= 0.2 && math.Abs(d.A-d.B) > 0 && d.Code != "stops" && d.Code != "warnings" {
			out.Says = append(out.Says, fmt.Sprintf("%s: %.*f to %.*f %s", d.Name, d.Decimal, d.A, d.Decimal, d.B, d.Unit))
		}
	}
	if before.State != after.State {
		out.Says = append(out.Says, fmt.Sprintf("It would be %s, no longer %s.", after.State, before.State))
	}
	for i := range out.Says {
		out.Says[i] = strings.TrimSpace(out.Says[i])
	}
	return out
}

// inBowl assesses what is in the bowl of a batch by now, with something added. What
// is not weighed yet counts as it is planned.
func inBowl(b *tenant.Batch, add *addition) *assess.Assessment {
	f, _ := exchange.ToFormula(&b.By.File)
	f.MeasuredPH, f.Lines, f.Steps = nil, nil, nil
	put := func(name string, g float64) {
		if g > 0 {
			f.Lines = append(f.Lines, formula.LineOf(name, fmt.Sprintf("%.3f g", g)))
		}
	}
	for i := range b.Lines {
		g := b.WeighedOf(i)
		if status, _ := b.Status(i); status == making.Waiting && !b.Lines[i].Added {
			g = b.Lines[i].TargetG
		}
		put(b.Lines[i].Item, g)
	}
	if add != nil {
		put(add.of.ID, add.grams)
	}
	water := b.Set.Water()
	water.Hardness = 0
	return assess.Formula(f, b.Set.Materials, assess.Options{Workshop: b.Set.Tools(), Water: water})
}

// KeepBack puts what was strained out of a batch back on the shelf, as a lot that
// knows how many rounds it served.
func (s *Service) KeepBack(ctx context.Context, id uuid.UUID, in api.KeptBack) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		if in.Line >= len(b.Lines) {
			return problem.Unfit("no-such-line", "Batch %s has %d lines; there is no line %d.", b.Code, len(b.Lines), in.Line+1).At("line")
		}
		line := &b.Lines[in.Line]
		e := making.Happening(making.KeptBack)
		e.Line, e.Grams, e.Text = in.Line, stock.Round(in.Grams), strings.TrimSpace(in.Where)
		if in.Step != nil {
			e.Step = *in.Step
		}
		if err := b.Check(e); err != nil {
			return err
		}
		if line.Unstocked {
			return problem.Unfit("bad-value", "Water from the tap is not kept back.").At("line")
		}
		from, err := firstLot(tx, b, in.Line)
		if err != nil {
			return err
		}
		rounds := max(in.Rounds, from.Rounds+1)
		lot := stock.Lot{ID: stock.ID(store.NewID()), Item: line.Item, Code: fmt.Sprintf("%s-%d", b.Code, in.Line+1), Original: e.Grams, Remaining: e.Grams, Landed: decimal.Zero, Free: true, KeptFrom: stock.ID(id), KeptOf: b.Code,
			Currency: b.Row.Currency, Received: b.Set.Today, BestBefore: from.BestBefore, Rounds: rounds,
			Note: strings.TrimSpace(fmt.Sprintf("from batch %s, %s", b.Code, e.Text))}
		for n := 2; ; n++ { // some may be kept more than once
			taken, err := tx.LotsByCode(lot.Code)
			if err != nil {
				return err
			}
			if !slices.ContainsFunc(taken, func(l stock.Lot) bool { return l.Item == lot.Item }) {
				break
			}
			lot.Code = fmt.Sprintf("%s-%d%c", b.Code, in.Line+1, 'a'+n-2)
		}
		if err := tx.AddLots([]stock.Lot{lot}, a.Person, s.Now()); err != nil {
			return err
		}
		if err := s.record(tx, b, a, e, uuid.Nil); err != nil {
			return err
		}
		return tx.Announce("shelf", id)
	})
}

// firstLot is the lot that a line was weighed from first, or nothing known of one.
func firstLot(tx *store.Tx, b *tenant.Batch, line int) (*stock.Lot, error) {
	for _, share := range b.InBowl() {
		if share.Line == line && !share.Lot.IsZero() {
			return tx.Lot(share.Lot)
		}
	}
	return nil, problem.Unfit("not-weighed", "Nothing was weighed of %s: there is nothing to keep.", material.InSentence(b.Lines[line].Name)).At("line")
}
