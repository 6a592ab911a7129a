package workshop

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// pantryLimit is the most finished lots shown at once.
const pantryLimit = 400

// Pantry lists finished lots, newest first.
func (s *Service) Pantry(ctx context.Context, all bool) ([]api.PantryLot, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	var out []api.PantryLot
	err := s.store.Snapshot(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		batches, err := tx.PantryBatches(all, pantryLimit)
		if err != nil {
			return err
		}
		ids := make([]uuid.UUID, len(batches))
		for i := range batches {
			ids[i] = batches[i].ID
		}
		jars, err := tx.Jars(ids...)
		if err != nil {
			return err
		}
		out = make([]api.PantryLot, len(batches))
		for i := range batches {
			out[i] = s.pantryLot(&batches[i], jars[batches[i].ID], w.Currency)
		}
		return nil
	})
	return out, err
}

func (s *Service) pantryLot(b *store.Batch, jars []store.Jar, currency string) api.PantryLot {
	out := api.PantryLot{Batch: b.ID, Code: b.Code, Name: b.Name, Kind: b.Kind, KindName: formula.Kind(b.Kind).Info().Name,
		Made: types.Date{Time: dayOf(*b.FinishedAt)}, BestBefore: dateOf(b.BestBefore), BestBeforeReason: b.BestBeforeReason,
		Jars: b.Jars, EachG: b.ContainerEachG, Cost: exchange.Money(b.Cost), Currency: currency, JarList: jarsOf(b, jars), State: api.PantryLotStateGood}
	left := 0.0
	for _, j := range jars {
		if j.GoneOn == nil {
			out.Left++
			left += j.Grams
		}
	}
	if b.Jars > 0 {
		out.CostPerJar = exchange.Money(b.Cost.DivRound(decimal.NewFromInt(int64(b.Jars)), 4))
	}
	if b.UseG > 0 {
		out.UsesLeft = left / b.UseG
		if made := b.ContainerEachG * float64(b.Jars); made > 0 {
			out.CostPerUse = b.Cost.Mul(decimal.NewFromFloat(b.UseG)).DivRound(decimal.NewFromFloat(made), 4).StringFixed(4)
		}
	}
	if b.BestBefore != nil {
		switch days := durationDays(s.today(), *b.BestBefore); {
		case days < 0:
			out.State = api.PantryLotStatePast
		case days < soonDays:
			out.State = api.PantryLotStateSoon
		}
	}
	return out
}

// MoveJar says where a jar went, or that it came back; again is taken too.
func (s *Service) MoveJar(ctx context.Context, id uuid.UUID, in api.JarMove) (*api.Jar, error) {
	jars, err := s.moveJars(ctx, []uuid.UUID{id}, in, true)
	if err != nil {
		return nil, err
	}
	return &jars[0], nil
}

// MoveJars moves several jars in one act: all of them, or none where one is not
// where it would have to be.
func (s *Service) MoveJars(ctx context.Context, in api.JarsMove) ([]api.Jar, error) {
	return s.moveJars(ctx, in.Jars, api.JarMove{Gone: in.Gone, GoneTo: in.GoneTo}, false)
}

func (s *Service) moveJars(ctx context.Context, ids []uuid.UUID, in api.JarMove, again bool) ([]api.Jar, error) {
	if _, err := may(ctx, Maker); err != nil {
		return nil, err
	}
	out := make([]api.Jar, 0, len(ids))
	err := s.store.Tx(ctx, func(tx *store.Tx) error {
		jars, err := tx.LockJars(ids)
		if err != nil {
			return said(err, "jar")
		}
		batches := map[uuid.UUID]*store.Batch{}
		for i := range jars {
			j := &jars[i]
			b := batches[j.BatchID]
			if b == nil {
				if b, err = tx.Batch(j.BatchID); err != nil {
					return err
				}
				batches[j.BatchID] = b
			}
			if gone := j.GoneOn != nil; gone == in.Gone && !again {
				where := "here already"
				if gone {
					where = "gone already, to " + cmp.Or(j.GoneTo, "nobody said where")
				}
				return api.NewProblem(http.StatusConflict, "moved-already", "Jar %s is %s. Nothing was moved.", jarOf(b.Code, j).Code, where).At("jars")
			}
			j.GoneOn, j.GoneTo = nil, ""
			if in.Gone {
				today := s.today()
				j.GoneOn, j.GoneTo = &today, strings.TrimSpace(in.GoneTo)
			}
			if err := tx.SaveJarPlace(j); err != nil {
				return err
			}
			out = append(out, jarOf(b.Code, j))
		}
		for id := range batches {
			if err := tx.Announce("pantry", id); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

// TraceBatch takes the jars of a batch back to each bag.
func (s *Service) TraceBatch(ctx context.Context, id uuid.UUID) (*api.BatchTrace, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	out := &api.BatchTrace{Bags: []api.TraceBag{}}
	err := s.store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.settings(tx)
		if err != nil {
			return err
		}
		b, err := tx.Batch(id)
		if err != nil {
			return said(err, "batch")
		}
		out.Code, out.Name, out.Made = b.Code, b.Name, types.Date{Time: dayOf(b.StartedAt)}
		drawn, err := tx.DrawnByBatch(id)
		if err != nil {
			return err
		}
		ids := make([]uuid.UUID, len(drawn))
		for i, d := range drawn {
			ids[i] = d.LotID
		}
		lots, err := tx.LotsByID(ids)
		if err != nil {
			return err
		}
		for _, d := range drawn {
			l := lotOf(lots[d.LotID], set, s.today())
			out.Bags = append(out.Bags, api.TraceBag{Lot: l.Id, Code: l.Code, Material: l.Material, Name: l.Name, Supplier: l.Supplier,
				Received: l.Received, BestBefore: l.BestBefore, Grams: d.Grams, Cost: exchange.Money(d.Cost)})
		}
		slices.SortFunc(out.Bags, func(a, b api.TraceBag) int { return strings.Compare(a.Name+a.Code, b.Name+b.Code) })
		jars, err := tx.Jars(id)
		out.Jars = jarsOf(b, jars[id])
		return err
	})
	return out, err
}

// waitingLimit is how many notes the strip has room for.
const waitingLimit = 12

// Waiting says what is waiting now: batches on the bench, goods and lots past
// or near their date, materials running low.
func (s *Service) Waiting(ctx context.Context) ([]api.WaitingNote, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	open, err := s.Batches(ctx, BatchQuery{State: "weighing", Limit: 5})
	if err != nil {
		return nil, err
	}
	pantry, err := s.Pantry(ctx, false)
	if err != nil {
		return nil, err
	}
	shelf, err := s.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	notes := []api.WaitingNote{}
	say := func(tone api.WaitingNoteTone, station, id, text string, args ...any) {
		if len(notes) < waitingLimit {
			notes = append(notes, api.WaitingNote{Tone: tone, Station: station, Id: id, Text: fmt.Sprintf(text, args...)})
		}
	}
	for _, b := range open.Batches {
		say(api.WaitingNoteToneGood, "bench", b.Id.String(), "%s is on the bench", b.Name)
	}
	for _, g := range pantry {
		if g.State == api.PantryLotStatePast {
			say(api.WaitingNoteToneStop, "pantry", g.Batch.String(), "%s %s is past its date", g.Name, g.Code)
		}
	}
	for _, j := range shelf {
		switch {
		case slices.Contains(j.Marks, api.ShelfMarkOut):
			if j.ReorderG > 0 {
				say(api.WaitingNoteToneStop, "shelf", j.Material, "no %s left", material.InSentence(j.Name))
			}
		case slices.Contains(j.Marks, api.ShelfMarkLow):
			say(api.WaitingNoteToneWatch, "shelf", j.Material, "%s is low", j.Name)
		}
	}
	for _, g := range pantry {
		if g.State == api.PantryLotStateSoon {
			say(api.WaitingNoteToneWatch, "pantry", g.Batch.String(), "use up %s by %s", g.Name, g.BestBefore.Format("2 Jan"))
		}
	}
	return notes, nil
}
