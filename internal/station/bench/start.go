package bench

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/making"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// StartBatch puts a sized formula on the bench. It is sized and assessed before
// anything is locked.
func (s *Service) StartBatch(ctx context.Context, in api.NewBatch) (*api.Batch, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var p *planned
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		p, err = s.plan(tx, in.Formula, in.Target)
		return err
	})
	if err != nil {
		return nil, err
	}
	row, err := p.making(in.Target)
	if err != nil {
		return nil, err
	}
	row.PersonID, row.StartedAt = a.Person, s.Now()
	var out *api.Batch
	err = s.Store.Tx(ctx, func(tx *store.Tx) (err error) {
		if err := p.set.Begin(tx, row); err != nil {
			return err
		}
		if out, err = s.read(tx, p.set, row.ID); err != nil {
			return err
		}
		return announce(tx, row.ID)
	})
	return out, err
}

// announce says that a batch is not as it was, and what stands neither.
func announce(tx *store.Tx, batch uuid.UUID) error {
	if err := tx.Announce("batches", batch); err != nil {
		return err
	}
	return tx.Announce("rack", batch)
}

// making is the batch that is planned, with the snapshots of what it is made by.
func (p *planned) making(target api.Target) (*store.Making, error) {
	r := p.assessed.Resolved
	by := tenant.MadeBy{File: p.stored.File, Target: target, Containers: p.containers, Lines: make([]tenant.MadeLine, len(p.plan.Lines)), Pieces: p.plan.Pieces}
	of := make([]int, len(p.plan.Lines))
	for i, l := range p.plan.Lines {
		from := &r.Lines[l.Line]
		of[i] = l.Line
		by.Lines[i] = tenant.MadeLine{Item: l.Material, Name: from.Material.Name, Phase: from.Line.Phase, Amount: from.Line.Written, TargetG: stock.Round(l.MassG),
			Optional: from.Line.Optional || l.Open != quantity.NotOpen, Hand: l.Hand.String(), Unstocked: l.Material == stock.Tap, Volatile: from.Material.VolatileShare()}
	}
	assessed := tenant.AssessFile(&p.stored.File, p.set, nil)
	by.DrinksAbove = assessed.DrinksAbove
	by.Steps = tenant.StepsOf(r.Formula.Steps, of)
	row := &store.Making{Name: p.stored.File.Name, Kind: string(r.Formula.Kind), FormulaID: p.stored.Id, FormulaVersion: p.stored.Version,
		StateName: making.Weighing.String(), Loss: r.LostShare(), PlannedG: p.plan.TotalG, EachG: p.eachG, UseG: p.assessed.UseG, Currency: p.set.Workshop.Currency}
	var err error
	if row.MadeBy, err = json.Marshal(by); err != nil {
		return nil, err
	}
	row.Assessed, err = json.Marshal(assessed)
	return row, err
}
