package trials

import (
	"context"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/why"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// FoundCauses lists what was found to be the cause of what went wrong: of a formula, or of all
// for none.
func (s *Service) FoundCauses(ctx context.Context, formula uuid.UUID) ([]api.FoundCause, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := []api.FoundCause{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		rows, err := tx.FoundCauses(formula, uuid.Nil)
		if err != nil {
			return err
		}
		names, err := tx.FormulaNames()
		if err != nil {
			return err
		}
		people, err := tx.PeopleNames()
		if err != nil {
			return err
		}
		for i := range rows {
			out = append(out, foundOut(&rows[i], names, people))
		}
		return nil
	})
	return out, err
}

func foundOut(row *store.FoundCause, names, people map[uuid.UUID]string) api.FoundCause {
	one := api.FoundCause{Id: row.ID, Seen: row.Seen, Cause: row.Cause, Code: row.Code, Note: row.Note, At: row.FoundAt, By: people[row.PersonID]}
	one.Name, one.Says = why.Shipped().Names(row.Seen, row.Cause)
	if row.FormulaID != nil {
		one.Formula, one.Good = *row.FormulaID, names[*row.FormulaID]
	}
	if row.MakingID != nil {
		one.Batch = *row.MakingID
	}
	return one
}

// KeepFoundCause keeps what was found to be the cause, with the good and the batch it was of.
func (s *Service) KeepFoundCause(ctx context.Context, in *api.NewFoundCause) (*api.FoundCause, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	if !why.Shipped().CanBe(in.Cause, in.Seen) {
		return nil, problem.Unfit("bad-value", "%q is no cause of %q that is known here.", in.Cause, in.Seen).At("cause")
	}
	row := &store.FoundCause{ID: store.NewID(), Seen: in.Seen, Cause: in.Cause, Note: in.Note, PersonID: a.Person, FoundAt: s.Now()}
	var out api.FoundCause
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		names, err := tx.FormulaNames()
		if err != nil {
			return err
		}
		if in.Batch != uuid.Nil {
			making, err := tx.Making(in.Batch)
			if err != nil {
				return tenant.Explain(err, "batch")
			}
			row.MakingID, row.Code = &in.Batch, making.Code
			if making.FormulaID != uuid.Nil {
				row.FormulaID = &making.FormulaID
			}
		}
		if in.Formula != uuid.Nil && row.FormulaID == nil {
			if names[in.Formula] == "" {
				return problem.Missing("not-found", "There is no such formula in this workshop.").At("formula")
			}
			row.FormulaID = &in.Formula
		}
		people, err := tx.PeopleNames()
		if err != nil {
			return err
		}
		if err := tx.AddFoundCause(row); err != nil {
			return err
		}
		out = foundOut(row, names, people)
		return tx.Announce("trials", a.Workshop)
	})
	return &out, err
}

// TakeBackFoundCause lets one count no more.
func (s *Service) TakeBackFoundCause(ctx context.Context, id uuid.UUID) error {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.TakeBackFoundCause(id, s.Now()); err != nil {
			return tenant.Explain(err, "cause that was found")
		}
		return tx.Announce("trials", a.Workshop)
	})
}
