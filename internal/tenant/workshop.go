package tenant

import (
	"time"

	"keencrock/api"
	"keencrock/core/label"
	"keencrock/core/quantity"
	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// WorkshopOf is a workshop in the words of the contract.
func WorkshopOf(w *store.Workshop) *api.Workshop {
	out := &api.Workshop{Name: w.Name, Measures: api.Measures(w.Measures), Currency: w.Currency, Hardness: w.Hardness,
		ScaleStepG: w.ScaleStepG, ScaleCapacityG: w.ScaleCapacityG,
		DropsPerMl: w.DropsPerML, ScoopMl: w.ScoopML, LaundryWaterL: w.LaundryWaterL, DishesWaterL: w.DishesWaterL, TimeZone: w.TimeZone, Hygrometer: w.Hygrometer, Scale: w.Scale,
		Address: w.Address, Contact: w.Contact, Phone: w.Phone, Region: api.WorkshopRegion(w.Region), JarOrigin: w.JarOrigin, LabelDose: api.WorkshopLabelDose(w.LabelDose), PrivateJars: !w.PublicJars, ViewersSeePrices: w.ViewersSeePrices, Version: w.Version}
	if region, ok := label.FindRegion(w.Region); ok {
		out.RegionSays = region.Says
	}
	if h, err := quantity.ParseHardness(w.Hardness); err == nil {
		out.HardnessClass = h.Class()
	}
	return out
}

// CheckWorkshop refuses a hardness that is none, and a time zone that is not
// known; none said is one.
func CheckWorkshop(hardness, zone string) error {
	if hardness != "" {
		if _, err := quantity.ParseHardness(hardness); err != nil {
			return problem.Unfit("bad-value", "The hardness: %v.", err).At("hardness")
		}
	}
	if _, err := time.LoadLocation(zone); err != nil || zone == "Local" {
		return problem.Unfit("bad-value", "There is no time zone %q: write one such as Europe/Vienna.", zone).At("time_zone")
	}
	return nil
}
