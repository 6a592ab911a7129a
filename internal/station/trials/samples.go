package trials

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/keeping"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Signs are what may be seen of a jar that was kept.
func (s *Service) Signs(ctx context.Context) ([]api.SampleSign, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := make([]api.SampleSign, len(keeping.Signs))
	for i, sign := range keeping.Signs {
		out[i] = api.SampleSign{Code: sign.Code, Name: sign.Name, Gone: sign.Gone, Caution: sign.Caution}
	}
	return out, nil
}

// Samples lists the jars that are kept to be looked at: those to be looked at first in front.
func (s *Service) Samples(ctx context.Context) ([]api.Sample, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out []api.Sample
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		out, err = s.samples(tx)
		return err
	})
	return out, err
}

func (s *Service) samples(tx *store.Tx) ([]api.Sample, error) {
	w, err := tx.Workshop()
	if err != nil {
		return nil, err
	}
	all, err := tenant.Samples(tx)
	if err != nil {
		return nil, err
	}
	people, err := tx.PeopleNames()
	if err != nil {
		return nil, err
	}
	today := s.Day(w)
	out := make([]api.Sample, 0, len(all))
	for i := range all {
		one, err := sampleOut(tx, &all[i], people, today)
		if err != nil {
			return nil, err
		}
		out = append(out, one)
	}
	slices.SortStableFunc(out, func(a, b api.Sample) int { return rankOf(&a) - rankOf(&b) })
	return out, nil
}

// rankOf puts what has to be looked at in front, then what is watched, then what is over.
func rankOf(s *api.Sample) int {
	switch {
	case s.Ended:
		return 3
	case s.Due:
		return 0
	case s.Outcome == api.SampleGoneEarly:
		return 1
	}
	return 2
}

func sampleOut(tx *store.Tx, k *tenant.Sample, people map[uuid.UUID]string, today time.Time) (api.Sample, error) {
	out := api.Sample{Id: k.ID, Batch: k.MakingID, Formula: k.FormulaID, Code: k.Lot, Jar: exchange.JarCode(k.Lot, k.Number), Name: k.Name, Stands: k.Stands, Made: exchange.Date(k.Watch.Made), BestBefore: exchange.Date(k.Watch.BestBefore),
		Kept: exchange.Date(k.KeptOn), Ended: !k.Open(), Outcome: api.SampleOutcome(k.Outcome()), Says: k.Says(), Looks: []api.SampleLook{}, Brothers: []api.SampleBrother{}, Cautions: []string{}}
	if next, more := k.DueOn(); more {
		out.NextLook, out.Due = exchange.Date(next), !next.After(today)
	}
	for i := range k.Seen {
		l := &k.Seen[i]
		one := api.SampleLook{Id: l.ID, On: exchange.Date(l.LookedOn), Good: l.Good, Note: l.Note, By: people[l.PersonID], Counts: l.TakenBackAt == nil, Signs: []string{}}
		var codes []string
		if err := json.Unmarshal(l.Signs, &codes); err != nil {
			return out, fmt.Errorf("what was seen of sample %s: %w", k.ID, err)
		}
		if l.PH != nil {
			one.Ph = *l.PH
		}
		for _, code := range codes {
			sign := keeping.SignOf(code)
			if sign == nil {
				continue
			}
			one.Signs = append(one.Signs, sign.Name)
			if sign.Caution != "" && one.Counts && !slices.Contains(out.Cautions, sign.Caution) {
				out.Cautions = append(out.Cautions, sign.Caution)
			}
		}
		out.Looks = append(out.Looks, one)
	}
	if days, early := k.SeenDays(); early {
		brothers, err := tx.Brothers(k.FormulaID)
		if err != nil {
			return out, err
		}
		for _, b := range brothers {
			if b.Here+b.Out > 0 && b.BestBefore.After(b.Made.AddDate(0, 0, days)) {
				out.Brothers = append(out.Brothers, api.SampleBrother{Batch: b.MakingID, Code: b.Code, Made: exchange.Date(b.Made), BestBefore: exchange.Date(b.BestBefore), Here: b.Here, Out: b.Out,
					Older: today.After(b.Made.AddDate(0, 0, days))})
			}
		}
	}
	return out, nil
}

// KeepSamples keeps jars to be looked at: they leave the stock that is sold.
func (s *Service) KeepSamples(ctx context.Context, in *api.NewSamples) ([]api.Sample, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out []api.Sample
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		ids, err := tenant.JarsWanted(tx, in.Jars, in.Batch, in.Count)
		if err != nil {
			return err
		}
		jars, err := tenant.LockJars(tx, ids)
		if err != nil {
			return err
		}
		var kept []uuid.UUID
		for i := range jars.Pieces {
			p := &jars.Pieces[i]
			m, err := jars.Leave(p, stock.Sampled, "")
			if err != nil {
				return err
			}
			m.At = s.Now()
			if err := tx.Move(m, a.Person); err != nil {
				return err
			}
			p.GoneOn, p.GoneTo = s.Day(w), stock.KeptAsSample
			if err := tx.SavePiece(p); err != nil {
				return err
			}
			row := &store.Sample{ID: store.NewID(), PieceID: uuid.UUID(p.ID), MakingID: uuid.UUID(jars.Lots[p.Lot].Making), Stands: strings.TrimSpace(in.Stands), PersonID: a.Person, KeptOn: s.Day(w)}
			if err := tx.AddSample(row); err != nil {
				return tenant.Explain(err, "sample")
			}
			kept = append(kept, row.ID)
		}
		all, err := s.samples(tx)
		if err != nil {
			return err
		}
		for _, one := range all {
			if slices.Contains(kept, one.Id) {
				out = append(out, one)
			}
		}
		if err := tx.Announce("trials", a.Workshop); err != nil {
			return err
		}
		return jars.Announce(tx)
	})
	return out, err
}

// Look keeps what was seen of a sample. What shows that it is gone makes it gone, whatever is
// said beside it.
func (s *Service) Look(ctx context.Context, id uuid.UUID, in *api.NewLook) (*api.Sample, error) {
	return s.changeSample(ctx, id, func(tx *store.Tx, a tenant.Actor, of *tenant.Sample) error {
		if !of.Open() {
			return problem.Clash("ended", "This jar is looked at no more.")
		}
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		on := s.Day(w)
		if !in.On.IsZero() {
			on = in.On.Time
		}
		switch {
		case on.After(s.Day(w)):
			return problem.Unfit("bad-value", "%s is still to come.", on.Format("2 January 2006")).At("on")
		case on.Before(of.Watch.Made):
			return problem.Unfit("bad-value", "It was made on %s.", of.Watch.Made.Format("2 January 2006")).At("on")
		}
		good, signs := in.Good, slices.Compact(slices.Sorted(slices.Values(in.Signs)))
		for _, code := range signs {
			sign := keeping.SignOf(code)
			if sign == nil {
				return problem.Unfit("bad-value", "“%s” is nothing that is looked for.", code).At("signs")
			}
			good = good && !sign.Gone
		}
		content, err := json.Marshal(append([]string{}, signs...))
		if err != nil {
			return err
		}
		return tx.AddSampleLook(&store.SampleLook{ID: store.NewID(), SampleID: id, LookedOn: on, Signs: content, Good: good, PH: in.Ph, Note: strings.TrimSpace(in.Note), PersonID: a.Person, NotedAt: s.Now()})
	})
}

// CountLook takes a look back, or counts it again.
func (s *Service) CountLook(ctx context.Context, id uuid.UUID, counts bool) (*api.Sample, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	look, err := s.Store.Read(ctx).SampleLook(id)
	if err != nil {
		return nil, tenant.Explain(err, "look")
	}
	return s.changeSample(ctx, look.SampleID, func(tx *store.Tx, _ tenant.Actor, _ *tenant.Sample) error {
		at := s.Now()
		takenBack := &at
		if counts {
			takenBack = nil
		}
		return tx.CountSampleLook(id, takenBack)
	})
}

// EndSample looks at a jar no more: it is thrown away, or goes back among those that are sold.
func (s *Service) EndSample(ctx context.Context, id uuid.UUID, back bool) (*api.Sample, error) {
	return s.changeSample(ctx, id, func(tx *store.Tx, a tenant.Actor, of *tenant.Sample) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		if err := tx.EndSample(id, s.Day(w)); errors.Is(err, store.ErrNotFound) {
			return problem.Clash("ended", "This jar is looked at no more.")
		} else if err != nil || !back {
			return err
		}
		if o := of.Outcome(); o == keeping.GoneEarly || o == keeping.GoneLate {
			return problem.Unfit("gone", "What is gone does not go back among the goods.").At("back")
		}
		jars, err := tenant.LockJars(tx, []uuid.UUID{of.PieceID})
		if err != nil {
			return err
		}
		p := &jars.Pieces[0]
		m, err := jars.EndSample(p)
		if err != nil {
			return err
		}
		m.At, m.Party = s.Now(), ""
		if err := tx.Move(m, a.Person); err != nil {
			return err
		}
		p.GoneOn, p.GoneTo = time.Time{}, ""
		return tx.SavePiece(p)
	})
}

// changeSample changes something of a sample and answers how it stands then.
func (s *Service) changeSample(ctx context.Context, id uuid.UUID, change func(*store.Tx, tenant.Actor, *tenant.Sample) error) (*api.Sample, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Sample
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		all, err := tenant.Samples(tx)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(all, func(k tenant.Sample) bool { return k.ID == id })
		if at < 0 {
			return tenant.Explain(store.ErrNotFound, "sample")
		}
		if err := change(tx, a, &all[at]); err != nil {
			return err
		}
		now, err := s.samples(tx)
		if err != nil {
			return err
		}
		if i := slices.IndexFunc(now, func(k api.Sample) bool { return k.Id == id }); i >= 0 {
			out = &now[i]
		}
		if err := tx.Announce("trials", a.Workshop); err != nil {
			return err
		}
		return tx.Announce("pantry", all[at].MakingID)
	})
	return out, err
}
