package crock

import (
	"context"
	"time"

	"keencrock/api"
	"keencrock/core/dosing"
	"keencrock/core/quantity"
	"keencrock/core/why"
	"keencrock/internal/exchange"
	"keencrock/internal/tenant"
)

// roomBelieved is how long a hygrometer's reading tells of the room.
const roomBelieved = 7 * 24 * time.Hour

// Seen lists what may be seen to go wrong.
func (s *Service) Seen(ctx context.Context) ([]api.WhySeen, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out []api.WhySeen
	for _, one := range why.Shipped().Seen {
		out = append(out, api.WhySeen{Seen: one.ID, Name: one.Name, On: one.On})
	}
	return out, nil
}

// Why says why something went wrong, by what is known of the good, its water and dose, and by
// what was answered. Nothing is kept.
func (s *Service) Why(ctx context.Context, in *api.WhyAsked) (*api.WhyFound, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	water, err := waterOf(set, InWater{Hardness: in.Hardness})
	if err != nil {
		return nil, err
	}
	u := why.Used{Library: set.Materials, Tools: set.Tools(), Water: *water, WaterKnown: in.Hardness != "" || set.Workshop.Hardness != "",
		Doses: exchange.DoseOptions, Machines: dosing.UsualMachines(set.Workshop.LaundryWaterL, set.Workshop.DishesWaterL)}
	if in.Dose != "" {
		if u.Dose, err = quantity.Parse(in.Dose); err != nil {
			p := exchange.FieldProblem("dose", err)
			return nil, &p
		}
	}
	rooms, err := tx.RoomReadings(s.Now().Add(-roomBelieved))
	if err != nil {
		return nil, err
	}
	if len(rooms) > 0 {
		u.RoomHumidity = rooms[len(rooms)-1].Humidity
	}
	var on []string
	if len(in.File.Lines) > 0 {
		u.Formula, _ = exchange.ToFormula(set.InMeasures(&in.File))
		on = why.SeenOn(u.Formula.Kind)
	}
	q, err := exchange.WhyQuestion(in.Seen, in.Answers, on...)
	if err != nil {
		return nil, err
	}
	q.Facts = u.Facts()
	found, err := why.Shipped().Find(*q)
	if err != nil {
		return nil, err
	}
	return exchange.WhyFound(found), nil
}
