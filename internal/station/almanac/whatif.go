package almanac

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/planning"
	"keencrock/internal/problem"
	"keencrock/internal/tenant"
)

// If says what would change if something were otherwise. Nothing is kept.
func (s *Service) If(ctx context.Context, in *api.PlanIf) (*api.PlanWhatIf, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	for i, off := range in.Off {
		if err := checkSpan(off, fmt.Sprintf("off[%d]", i)); err != nil {
			return nil, err
		}
	}
	for i, pin := range in.Pins {
		if pin.Bench.IsZero() {
			return nil, problem.Unfit("bad-value", "Say which day it is.").At(fmt.Sprintf("pins[%d].bench", i))
		}
	}
	prices := a.Role == tenant.Owner
	was, err := s.plan(ctx, nil, prices, planning.Schedule)
	if err != nil {
		return nil, err
	}
	by := planning.Make
	if len(in.Pins) > 0 { // a mark that is dragged asks again with each day it passes
		by = planning.Schedule
	}
	then, err := s.plan(ctx, in, prices, by)
	if err != nil {
		return nil, err
	}
	return &api.PlanWhatIf{Plan: *then, Changes: changes(was, then)}, nil
}

// KeepIf takes what was asked into the limits that are kept: how many vessels there are, days off,
// and so many days more that a supplier takes. An order is changed where it stands, a price by a
// delivery.
func (s *Service) KeepIf(ctx context.Context, in *api.PlanIf) (*api.PlanLimits, error) {
	if in.OrdersTimes != 0 || len(in.Dearer) > 0 || len(in.Pins) > 0 || len(in.Vessels)+len(in.Off)+len(in.Late) == 0 {
		return nil, problem.Unfit("bad-value", "Only vessels, days off and suppliers that are late can be kept: they are limits.")
	}
	limits, err := s.Limits(ctx)
	if err != nil {
		return nil, err
	}
	for _, v := range in.Vessels {
		at := slices.IndexFunc(limits.Vessels, func(known api.VesselCount) bool { return strings.EqualFold(known.Name, strings.TrimSpace(v.Name)) })
		if at < 0 {
			limits.Vessels = append(limits.Vessels, v)
			continue
		}
		limits.Vessels[at].Count = v.Count
	}
	limits.DaysOff = append(limits.DaysOff, in.Off...)
	for _, late := range in.Late {
		at := slices.IndexFunc(limits.Suppliers, func(known api.SupplierDays) bool { return strings.EqualFold(known.Name, strings.TrimSpace(late.Name)) })
		if at < 0 {
			limits.Suppliers = append(limits.Suppliers, api.SupplierDays{Name: late.Name})
			at = len(limits.Suppliers) - 1
		}
		limits.Suppliers[at].Days += late.Days
		limits.Suppliers[at].Known = true
	}
	return s.SaveLimits(ctx, limits)
}

// mostOff is how long a time off may be.
const mostOff = 366 * 24 * time.Hour

func checkSpan(off api.DaysOff, field string) error {
	if off.From.IsZero() || off.To.Before(off.From.Time) || off.To.Sub(off.From.Time) > mostOff {
		return problem.Unfit("bad-value", "Days off are from a day to that day or a later one, a year at the most.").At(field)
	}
	return nil
}

// changes say what is otherwise in a plan, what matters first: orders, what was set by hand,
// makings, work, money.
func changes(was, then *api.GoodPlan) []string {
	out := []string{}
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	type key struct {
		order uuid.UUID
		good  uuid.UUID
		day   string
	}
	before := map[key]*api.PlannedOrder{}
	for i := range was.Orders {
		o := &was.Orders[i]
		before[key{o.Order, o.Formula, o.Day.String()}] = o
	}
	for i := range then.Orders {
		o := &then.Orders[i]
		b := before[key{o.Order, o.Formula, o.Day.String()}]
		if b != nil && b.LateDays == o.LateDays && b.Jars-b.Given == o.Jars-o.Given {
			continue
		}
		stood := "it was not asked for"
		if b != nil {
			stood = standsHow(b) + " now"
		}
		say("%s: %s; %s.", orderName(o), standsHow(o), stood)
	}
	kept := map[uuid.UUID]bool{}
	for _, u := range was.Unkept {
		kept[u.Id] = true
	}
	for _, u := range then.Unkept {
		if u.Id == uuid.Nil || !kept[u.Id] {
			say("%s on %s cannot be: %s", u.Name, u.Bench.Format("Monday 2 January"), u.Says)
		}
	}
	makings(was, then, say)
	if a, b := minutes(was), minutes(then); math.Abs(a-b) >= 1 {
		say("%+.0f minutes at the bench.", b-a)
	}
	if a, b := ends(was), ends(then); !a.Equal(b) && !a.IsZero() && !b.IsZero() {
		say("The last making is ready on %s; %s now.", b.Format("2 January"), a.Format("2 January"))
	}
	a, errA := decimal.NewFromString(orZero(was.ShoppingTotal))
	b, errB := decimal.NewFromString(orZero(then.ShoppingTotal))
	if errA == nil && errB == nil && !a.Equal(b) {
		more := "more"
		if b.LessThan(a) {
			more = "less"
		}
		say("%s %s %s to buy for it.", b.Sub(a).Abs().StringFixed(2), then.Currency, more)
	}
	return out
}

// makings says of which goods there are more or fewer makings, or on other days.
func makings(was, then *api.GoodPlan, say func(string, ...any)) {
	days := func(p *api.GoodPlan) (of map[string][]string, order []string) {
		of = map[string][]string{}
		for _, m := range p.Makings {
			if of[m.Name] == nil {
				order = append(order, m.Name)
			}
			of[m.Name] = append(of[m.Name], m.Bench.Format("2 Jan"))
		}
		return of, order
	}
	before, first := days(was)
	after, order := days(then)
	for _, name := range order {
		a, b := before[name], after[name]
		switch {
		case len(a) != len(b):
			say("%s is made %s; %d now.", name, times(len(b)), len(a))
		case strings.Join(a, " ") != strings.Join(b, " "):
			say("%s is made on %s; on %s now.", name, someDays(b), someDays(a))
		}
	}
	for _, name := range first {
		if after[name] == nil {
			say("%s is not made; %s now.", name, times(len(before[name])))
		}
	}
}

// someDays names days, the first few of many.
func someDays(days []string) string {
	const few = 4
	if len(days) > few {
		return strings.Join(days[:few], ", ") + fmt.Sprintf(" and %d more", len(days)-few)
	}
	return strings.Join(days, ", ")
}

func times(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return fmt.Sprintf("%d times", n)
}

func orZero(m api.Money) string {
	if m == "" {
		return "0"
	}
	return m
}

func orderName(o *api.PlannedOrder) string {
	name := fmt.Sprintf("%d %s", o.Jars, o.Name)
	switch {
	case o.Usual:
		name += ", which usually go"
	case o.To != "":
		name += " for " + o.To
	}
	return name + ", " + o.Day.Format("2 January")
}

func standsHow(o *api.PlannedOrder) string {
	switch {
	case o.Given < o.Jars:
		return fmt.Sprintf("only %d of them within the plan", o.Given)
	case o.LateDays == 1:
		return "a day late"
	case o.LateDays > 0:
		return fmt.Sprintf("%d days late", o.LateDays)
	}
	return "in time"
}

func minutes(p *api.GoodPlan) (sum float64) {
	for _, m := range p.Makings {
		sum += m.Minutes
	}
	return sum
}

func ends(p *api.GoodPlan) (last time.Time) {
	for _, m := range p.Makings {
		if m.Ready.After(last) {
			last = m.Ready.Time
		}
	}
	return last
}
