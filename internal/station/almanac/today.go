package almanac

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/making"
	"keencrock/core/planning"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Today says what is to be done today, in the order that fits the day: what is ready first,
// since it makes room; then what is made, since it has to stand; then what is at the bench;
// what only waits for a hand last.
func (s *Service) Today(ctx context.Context) (*api.DayWork, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	d := &dayWork{out: &api.DayWork{Tasks: []api.DayTask{}}, now: s.Now(), planner: newPlanner(nil)}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		if err := d.planner.read(s, tx); err != nil {
			return err
		}
		d.today = d.planner.set.Today
		d.out.Day = date(d.today)
		open, err := s.OpenBatches(tx, d.planner.set)
		if err != nil {
			return err
		}
		for _, b := range open {
			d.batch(b)
		}
		if err := d.vessels(tx); err != nil {
			return err
		}
		samples, err := tenant.Samples(tx)
		if err != nil {
			return err
		}
		for i := range samples {
			if next, more := samples[i].DueOn(); more && d.isToday(next) {
				d.add(api.DayTask{Kind: api.TaskChore, Title: "Look at the sample of " + samples[i].Lot, Detail: samples[i].Says(), Late: next.Before(d.today), To: "/trials/samples"})
			}
		}
		chores, err := tx.Chores(d.today)
		for _, c := range chores {
			d.add(api.DayTask{Kind: api.TaskChore, Title: c.Title, Late: c.NextOn.Before(d.today), To: "/rack/" + c.ID.String()})
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	d.planned(d.planner.work(false, planning.Schedule))
	slices.SortStableFunc(d.out.Tasks, func(a, b api.DayTask) int {
		return cmp.Or(cmp.Compare(taskOrder[a.Kind], taskOrder[b.Kind]), lateFirst(a, b))
	})
	return d.out, nil
}

// taskOrder is the order that fits a day. Common practice.
var taskOrder = map[api.DayTaskKind]int{api.TaskReady: 0, api.TaskMake: 1, api.TaskBench: 2, api.TaskStir: 3, api.TaskPack: 4, api.TaskGive: 5, api.TaskChore: 6}

func lateFirst(a, b api.DayTask) int {
	switch {
	case a.Late == b.Late:
		return a.At.Compare(b.At)
	case a.Late:
		return -1
	}
	return 1
}

// dayWork gathers what is to be done on a day.
type dayWork struct {
	out     *api.DayWork
	planner *planner
	now     time.Time
	today   time.Time
}

func (d *dayWork) add(t api.DayTask) { d.out.Tasks = append(d.out.Tasks, t) }

// isToday reports whether a moment is over before the day is.
func (d *dayWork) isToday(at time.Time) bool {
	return at.Before(tenant.EndOfDay(d.today, d.planner.set.Workshop))
}

// batch adds what is due of a batch.
func (d *dayWork) batch(b *tenant.Batch) {
	id := b.Row.ID.String()
	for _, due := range b.Due(d.now) {
		if !d.isToday(due.At) {
			continue
		}
		one := api.DayTask{Title: b.Row.Name + ": " + due.What, Detail: b.Code, At: due.At, To: "/rack/" + id}
		switch {
		case due.Kind == making.DueReady:
			one.Kind, one.Late = api.TaskReady, due.At.Before(d.now)
		case due.Kind == making.DueStir, due.Kind == making.DueWeighIn:
			one.Kind, one.Late = api.TaskStir, due.Kind == making.DueStir && due.At.Before(d.now)
		case due.Kind == making.DueStep && (b.State == making.Standing || b.State == making.Packing):
			one.Kind, one.At, one.To = api.TaskPack, time.Time{}, "/bench/"+id
		case due.Kind == making.DueStep:
			one.Kind, one.At, one.To = api.TaskBench, time.Time{}, "/bench/"+id
		default: // a timer rings by itself
			continue
		}
		d.add(one)
	}
}

// vessels adds what is due of vats.
func (d *dayWork) vessels(tx *store.Tx) error {
	vats, err := tx.Vessels()
	if err != nil || len(vats) == 0 {
		return err
	}
	ids := make([]uuid.UUID, len(vats))
	for i := range vats {
		ids[i] = vats[i].ID
	}
	events, err := tx.VesselEvents(ids...)
	if err != nil {
		return err
	}
	for i := range vats {
		plan := vats[i].Plan()
		for _, due := range plan.Due(store.Happened(events[vats[i].ID])) {
			if d.isToday(due.At) {
				d.add(api.DayTask{Kind: api.TaskStir, Title: vats[i].Name + ": " + due.What, At: due.At, Late: due.At.Before(d.now), To: "/rack/" + vats[i].ID.String()})
			}
		}
	}
	return nil
}

// planned adds what the plan has for the day, and says what waits for tomorrow.
func (d *dayWork) planned(plan *api.GoodPlan) {
	tomorrow := d.today.AddDate(0, 0, 1)
	for _, m := range plan.Makings {
		switch {
		case m.Bench.Equal(d.today):
			one := api.DayTask{Kind: api.TaskMake, Title: "Make " + m.Name, Detail: howMuch(&m), Minutes: m.Minutes, To: "/crock/" + m.Formula.String() + "?panel=make"}
			for _, st := range m.Stands {
				one.Detail += fmt.Sprintf(", then %s until %s", strings.ToLower(st.Step), st.To.Format("2 January"))
			}
			if m.Together != "" {
				one.Detail += "; " + m.Together
			}
			if d.out.Minutes += m.Minutes; m.Minutes == 0 {
				d.out.Untimed++
			}
			d.add(one)
		case m.Bench.Equal(tomorrow):
			d.out.Tomorrow = append(d.out.Tomorrow, fmt.Sprintf("make %s", m.Name))
		}
	}
	here := map[uuid.UUID]int{}
	for _, k := range d.planner.task.Stock {
		if k.From.IsZero() {
			here[uuid.MustParse(k.Good)] += k.Pieces
		}
	}
	for i := range d.planner.asked {
		o := &d.planner.asked[i]
		if o.usual {
			continue
		}
		name := fmt.Sprintf("%d %s", o.Jars, d.planner.names[o.FormulaID])
		if o.PartyID != nil {
			name += " for " + d.planner.parties[*o.PartyID]
		}
		switch {
		case !o.Day.After(d.today):
			detail := "All of them are here."
			if n := here[o.FormulaID]; n < o.Jars {
				detail = fmt.Sprintf("%d are here.", n)
			}
			here[o.FormulaID] -= min(o.Jars, here[o.FormulaID])
			d.add(api.DayTask{Kind: api.TaskGive, Title: name, Detail: detail, Late: o.Day.Before(d.today), To: "/ledger/sales/new"})
		case o.Day.Equal(tomorrow):
			d.out.Tomorrow = append(d.out.Tomorrow, name)
		}
	}
}
