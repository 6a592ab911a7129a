package almanac

import (
	"bytes"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"strings"

	"keencrock/api"
	"keencrock/core/planning"
	"keencrock/internal/exchange/calendar"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// CalendarFile is the plan as a calendar file.
func (s *Service) CalendarFile(ctx context.Context) (io.Reader, int64, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, 0, err
	}
	return s.calendar(ctx)
}

// Calendar says whether there is an address of the plan.
func (s *Service) Calendar(ctx context.Context) (*api.CalendarAddress, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	c, err := s.Store.Read(ctx).OpenCalendar()
	if err != nil || c == nil {
		return &api.CalendarAddress{}, err
	}
	return &api.CalendarAddress{There: true, MadeAt: c.MadeAt}, nil
}

// calendarPath is where a calendar is read; what is secret of it follows.
const calendarPath = "/api/calendars/"

// MakeCalendar makes a secret address, which is told this once; one of before holds no more.
func (s *Service) MakeCalendar(ctx context.Context) (*api.CalendarAddress, error) {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return nil, err
	}
	token := strings.ToLower(rand.Text())
	row := &store.Calendar{ID: store.NewID(), TokenHash: tenant.TokenHash(token), PersonID: a.Person, MadeAt: s.Now()}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.MakeCalendar(row); err != nil {
			return err
		}
		return tx.Announce("almanac", a.Workshop)
	})
	return &api.CalendarAddress{There: true, MadeAt: row.MadeAt, Path: calendarPath + token + ".ics"}, err
}

// WithdrawCalendar lets no address hold.
func (s *Service) WithdrawCalendar(ctx context.Context) error {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.WithdrawCalendar(s.Now()); err != nil {
			return err
		}
		return tx.Announce("almanac", a.Workshop)
	})
}

// ReadCalendar is the plan for whoever has its address.
func (s *Service) ReadCalendar(ctx context.Context, token string) (io.Reader, int64, error) {
	token = strings.TrimSuffix(token, ".ics")
	c, err := s.Store.CalendarByToken(ctx, tenant.TokenHash(token))
	if errors.Is(err, store.ErrNotFound) {
		return nil, 0, problem.Missing("not-found", "There is no calendar at this address, or it was withdrawn.")
	} else if err != nil {
		return nil, 0, err
	}
	return s.calendar(store.WithWorkshop(ctx, c.WorkshopID))
}

// calendar writes the plan of the workshop of a context: who makes what when, when it is
// ready, for which day it is wanted, and what comes round.
func (s *Service) calendar(ctx context.Context) (io.Reader, int64, error) {
	p := newPlanner(nil)
	var round []calendar.Event
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		if err := p.read(s, tx); err != nil {
			return err
		}
		chores, err := tx.Chores(p.set.Today.AddDate(0, 0, horizonDays))
		for _, c := range chores {
			from := c.NextOn
			if from.Before(p.set.Today) {
				from = p.set.Today
			}
			round = append(round, calendar.Event{ID: "chore-" + c.ID.String(), Title: c.Title, From: from, EveryDays: c.EveryDays})
		}
		if err != nil {
			return err
		}
		samples, err := tenant.Samples(tx)
		if err != nil {
			return err
		}
		for i := range samples {
			if next, more := samples[i].DueOn(); more {
				round = append(round, calendar.Event{ID: "sample-" + samples[i].ID.String(), Title: "Look at the sample of " + samples[i].Lot, From: next})
			}
		}
		vats, err := tx.Vessels()
		for i := range vats {
			if every := int(vats[i].StirEveryDays); every > 0 && vats[i].PutAwayAt == nil {
				round = append(round, calendar.Event{ID: "stir-" + vats[i].ID.String(), Title: vats[i].Name + ": stir", From: p.set.Today, EveryDays: every})
			}
		}
		return err
	})
	if err != nil {
		return nil, 0, err
	}
	events := append(planned(p.work(false, planning.Schedule)), round...)
	var out bytes.Buffer
	err = calendar.Write(&out, p.set.Workshop.Name, s.Now(), events)
	return &out, int64(out.Len()), err
}

// planned are the days of a plan.
func planned(plan *api.GoodPlan) (out []calendar.Event) {
	seen := map[string]int{}
	id := func(what string) string { // the same for the same thing, however often it is written
		seen[what]++
		return fmt.Sprintf("%s-%d", what, seen[what])
	}
	for _, m := range plan.Makings {
		key := m.Formula.String() + "-" + m.Bench.String()
		one := calendar.Event{ID: id("make-" + key), Title: "Make " + m.Name, Detail: howMuch(&m), From: m.Bench.Time}
		if m.Minutes > 0 {
			one.Title += fmt.Sprintf(", %.0f min", m.Minutes)
		}
		out = append(out, one)
		if m.Ready.After(m.Bench.Time) {
			out = append(out, calendar.Event{ID: id("ready-" + key), Title: m.Name + " is ready", Detail: howMuch(&m) + " to pack", From: m.Ready.Time})
		}
	}
	for _, u := range plan.UnderWay {
		if !u.Ready.IsZero() {
			out = append(out, calendar.Event{ID: id("batch-" + u.Batch.String()), Title: u.Name + " " + u.Code + " is ready", From: u.Ready.Time})
		}
	}
	for i := range plan.Orders {
		o := &plan.Orders[i]
		if o.Usual {
			continue
		}
		one := calendar.Event{ID: id("order-" + o.Order.String() + "-" + o.Day.String()), Title: fmt.Sprintf("%d %s", o.Jars, o.Name), From: o.Day.Time}
		if o.To != "" {
			one.Title += " for " + o.To
		}
		if how := standsHow(o); how != "in time" {
			one.Detail = "As planned: " + how + "."
		}
		out = append(out, one)
	}
	return out
}
