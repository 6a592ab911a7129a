package rack

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// hasFormula refuses a vat that makes what is not there.
func hasFormula(tx *store.Tx, row *store.Vessel) error {
	if row.FormulaID == nil {
		return nil
	}
	_, err := tenant.StoredFormula(tx, *row.FormulaID, 0)
	return err
}

// drawnBatch is what is drawn of a vat, as the batch it becomes.
type drawnBatch struct {
	set    *tenant.Settings
	row    *store.Making
	g      float64
	by     tenant.MadeBy
	shares []store.VatShare // of what was fed
}

// readyToRest works out the batch that a draw becomes, before anything is locked.
func (s *Service) readyToRest(ctx context.Context, id uuid.UUID, in api.VesselAct) (*drawnBatch, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	d := &drawnBatch{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		var err error
		if d.set, err = s.Settings(tx); err != nil {
			return err
		}
		row, err := tx.Vessel(id)
		if err != nil {
			return tenant.Explain(err, "vat")
		}
		if row.FormulaID == nil || in.Kind != api.VesselActKindDrawn {
			return problem.Unfit("no-formula", "Say first what %s makes: then what is drawn of it rests and becomes that.", row.Name).At("rests")
		}
		stored, err := tenant.StoredFormula(tx, *row.FormulaID, 0)
		if err != nil {
			return err
		}
		return d.of(row, stored, in.Ml)
	})
	return d, err
}

// of is the batch of a formula that is drawn of a vat: one line, weighed by its
// volume, that rests and is packed.
func (d *drawnBatch) of(v *store.Vessel, stored *api.StoredFormula, ml float64) error {
	assessed := tenant.AssessFile(&stored.File, d.set, nil)
	assessed.MadeOf = tenant.PlannedMakeUp(&stored.File, d.set)
	density := 1.0
	if assessed.Density.Value > 0 {
		density = assessed.Density.Value
	}
	d.g = stock.Round(ml * density)
	rest := time.Duration(v.RestDays * 24 * float64(time.Hour))
	steps := []formula.Step{{Kind: formula.Weigh}}
	if rest > 0 {
		steps = append(steps, formula.Step{Kind: formula.Rest, For: quantity.Wait{Low: rest, High: rest}, Text: "Closed and labelled; open it now and then at first."})
	}
	steps = append(steps, formula.Step{Kind: formula.Fill})
	d.by = tenant.MadeBy{File: stored.File, FromVessel: v.Name, Steps: exchange.StepFiles(steps),
		Lines: []tenant.MadeLine{{Item: "vat-" + v.ID.String(), Name: v.Name + ", drawn", TargetG: d.g, Unstocked: true}}}
	d.row = &store.Making{Name: stored.File.Name, Kind: stored.File.Kind, FormulaID: stored.Id, FormulaVersion: stored.Version,
		StateName: making.Standing.String(), PlannedG: d.g, Currency: d.set.Workshop.Currency}
	var err error
	d.row.Assessed, err = json.Marshal(assessed)
	return err
}

// begin begins the batch of a draw.
func (d *drawnBatch) begin(tx *store.Tx, a tenant.Actor, at time.Time) error {
	d.row.PersonID, d.row.StartedAt = a.Person, at
	var err error
	if d.row.MadeBy, err = json.Marshal(d.by); err != nil {
		return fmt.Errorf("what is drawn of %s: %w", d.by.FromVessel, err)
	}
	if err := d.set.Begin(tx, d.row); err != nil {
		return err
	}
	for i := range d.shares {
		d.shares[i].MakingID = d.row.ID
	}
	if err := tx.AddVatShares(d.shares); err != nil {
		return err
	}
	weighed := making.Happening(making.Weighed)
	weighed.Line, weighed.Grams, weighed.At = 0, d.g, at
	if _, err := tx.AddEvent(d.row.ID, weighed, nil, a.Person, at); err != nil {
		return err
	}
	b, err := tenant.LoadBatch(tx, d.set, d.row)
	if err != nil {
		return err
	}
	d.row.StateName = b.State.String()
	if err := tx.SaveState(d.row); err != nil {
		return err
	}
	return tx.Announce("batches", d.row.ID)
}
