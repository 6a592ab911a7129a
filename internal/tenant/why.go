package tenant

import (
	"time"

	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/core/why"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// roomBelieved is how long a hygrometer's reading tells of the room.
const roomBelieved = 7 * 24 * time.Hour

// AskedWhy is what is said beside the good when it is asked why something went wrong.
type AskedWhy struct {
	Formula  *formula.Formula // nil where it is not known which good it is
	Hardness string           // of the water; empty for the workshop's
	Dose     string           // that is taken; empty for what is usual
}

// WhyUsed is a good as it is used, for [why.Used.Facts]. Its refusals stand in the fields
// hardness and dose.
func (h *House) WhyUsed(tx *store.Tx, set *Settings, in AskedWhy) (*why.Used, error) {
	u := &why.Used{Formula: in.Formula, Library: set.Materials, Tools: set.Tools(), Water: *set.Water(), WaterKnown: in.Hardness != "" || set.Workshop.Hardness != "",
		Doses: exchange.DoseOptions, Machines: dosing.UsualMachines(set.Workshop.LaundryWaterL, set.Workshop.DishesWaterL)}
	var err error
	if in.Hardness != "" {
		if u.Water.Hardness, err = quantity.ParseHardness(in.Hardness); err != nil {
			p := exchange.FieldProblem("hardness", err)
			return nil, &p
		}
	}
	if in.Dose != "" {
		if u.Dose, err = quantity.Parse(in.Dose); err != nil {
			p := exchange.FieldProblem("dose", err)
			return nil, &p
		}
	}
	rooms, err := tx.RoomReadings(h.Now().Add(-roomBelieved))
	if err != nil {
		return nil, err
	}
	if len(rooms) > 0 {
		u.RoomHumidity = rooms[len(rooms)-1].Humidity
	}
	return u, nil
}
