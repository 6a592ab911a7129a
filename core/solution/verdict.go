package solution

import (
	"math"

	"keencrock/core/safety"
)

// Verdict says how a reading stands.
type Verdict string

// A reading is good, worth minding, not to be made so, or neither.
const (
	Plain Verdict = "plain"
	Good  Verdict = "good"
	Watch Verdict = "watch"
	Stop  Verdict = "stop"
)

// Verdicts judges the readings that can be judged, by the limits of package
// safety. What the formula has nothing of is Plain.
type Verdicts struct{ PH, Soap, Hardness, Caking Verdict }

// Verdicts judges r. Where the good stands in a bottle before it is used, pot
// is the result in there, else nil: soap counts where it fares worse. Of soap
// counts what the good turns to fat, and what the water takes as scum.
func (r *Result) Verdicts(pot *Result) Verdicts {
	v := Verdicts{Plain, Plain, Plain, Plain}
	// a dose takes no burn off the bottle
	if r.PHKnown() && safety.IsExtreme(r.ClosedPH) || pot != nil && pot.PHKnown() && safety.IsExtreme(pot.VentedPH) {
		v.PH = Watch
	}
	if r.HasSoap {
		protonated := r.ProtonatedByGood()
		if pot != nil {
			protonated = max(protonated, pot.ProtonatedByGood())
		}
		switch {
		case protonated > safety.ProtonatedStop:
			v.Soap = Stop
		case protonated > safety.ProtonatedWarn:
			v.Soap = Watch
		case r.Hardness.SoapLost() > safety.SoapLostWarn:
			v.Soap = Watch // soap that is scum does no more than soap that is fat
		default:
			v.Soap = Good
		}
	}
	if h := r.Hardness; h.Total > 0 {
		switch {
		case h.SoapLost() > safety.SoapLostWarn:
			v.Hardness = Watch
		case h.SoapLost() <= safety.SoapLostNote && h.Left <= safety.HardnessLeft:
			v.Hardness = Good
		}
	}
	if r.Caking != nil && r.Caking.AboveRH < safety.LumpsRH {
		v.Caking = Watch
	}
	return v
}

// shownPH is the least difference of pH that is worth a second mark: half of
// what a reading to one place can show.
const shownPH = 0.05

// GasShiftsPH reports whether the pH differs once the gas has left.
func (r *Result) GasShiftsPH() bool {
	return math.Abs(r.ClosedPH.Value-r.VentedPH.Value) > shownPH
}

// Safe says between which values a reading is nothing to mind; infinite where
// it has no such end. Alkalinity below zero is acid that is left over.
func (r Reading) Safe() (low, high float64) {
	low, high = math.Inf(-1), math.Inf(1)
	switch r {
	case ClosedPH, VentedPH:
		return safety.AcidBurnsPH, safety.AlkaliBurnsPH
	case ProtonatedShare:
		return low, safety.ProtonatedWarn
	case SoapLost:
		return low, safety.SoapLostWarn
	case HardnessLeft:
		return low, safety.HardnessLeft
	case Alkalinity:
		return 0, high
	}
	return low, high
}
