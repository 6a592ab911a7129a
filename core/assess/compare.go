package assess

import (
	"cmp"
	"math"
	"slices"

	"keencrock/core/safety"
)

// Difference is one reading of two formulas side by side.
type Difference struct {
	Code    string
	Name    string
	Unit    string
	A, B    float64
	Weight  float64 // how much it matters: 1 is worth acting on
	AKnown  bool
	BKnown  bool
	Decimal int // places that are real
}

// comparison is a reading that can be compared, and how large a difference is
// worth acting on. Shares of itself are marked relative. From memory, the
// sizes at which makers commonly choose otherwise.
type comparison struct {
	code, name, unit string
	matters          float64
	relative         bool
	places           int
	read             func(*Assessment) (float64, bool)
}

func ofSolution(f func(*Assessment) float64) func(*Assessment) (float64, bool) {
	return func(a *Assessment) (float64, bool) {
		if a.Solution == nil || len(a.Solution.Unknown) > 0 {
			return 0, false
		}
		return f(a), true
	}
}

var comparisons = []comparison{
	{"stops", "Must not be made so", "cautions", 0.1, false, 0, func(a *Assessment) (float64, bool) { return a.count(safety.Stop), true }},
	{"warnings", "Warnings", "cautions", 0.5, false, 0, func(a *Assessment) (float64, bool) { return a.count(safety.Warn), true }},
	{"curdled", "Soap turned to fat", "%", 10, false, 0, ofSolution(func(a *Assessment) float64 { return 100 * a.Solution.ProtonatedByGood() })},
	{"closed-ph", "pH, gas in it", "", 0.5, false, 1, ofSolution(func(a *Assessment) float64 { return a.Solution.ClosedPH.Value })},
	{"vented-ph", "pH, gas gone", "", 0.5, false, 1, ofSolution(func(a *Assessment) float64 { return a.Solution.VentedPH.Value })},
	{"alkalinity", "Strength left to clean", "g/l Na₂O", 0.3, true, 2, ofSolution(func(a *Assessment) float64 { return a.Solution.FreeAlkalinity.Value })},
	{"gas", "Gas of a kilogram", "l", 0.3, true, 1, ofSolution(func(a *Assessment) float64 { return a.Solution.Gas.MLPerKg().Value / 1000 })},
	{"chelation", "Hardness held", "mmol/l", 0.3, true, 2, ofSolution(func(a *Assessment) float64 { return a.Solution.Hardness.Chelation })},
	{"soap-lost", "Soap lost to scum", "%", 15, false, 0, ofSolution(func(a *Assessment) float64 { return 100 * a.Solution.Hardness.SoapLost() })},
	{"hardness-left", "Hardness left", "mmol/l", 0.3, true, 2, ofSolution(func(a *Assessment) float64 { return a.Solution.Hardness.Left })},
	{"cost-per-use", "A use costs", "", 0.2, true, 4, func(a *Assessment) (float64, bool) {
		if a.Cost == nil || a.Uses == nil {
			return 0, false
		}
		v, _ := a.Cost.PerUse.Value.Float64()
		return v, true
	}},
	{"cost-per-kg", "A kilogram costs", "", 0.2, true, 2, func(a *Assessment) (float64, bool) {
		if a.Cost == nil {
			return 0, false
		}
		v, _ := a.Cost.PerKg.Value.Float64()
		return v, true
	}},
	{"keeps", "Keeps", "days", 0.3, true, 0, func(a *Assessment) (float64, bool) { return float64(a.Keeping.Days), true }},
	{"lumps", "Lumps in air damper than", "%", 5, false, 0, func(a *Assessment) (float64, bool) {
		if a.Solution == nil || a.Solution.Caking == nil {
			return 0, false
		}
		return a.Solution.Caking.AboveRH, true
	}},
}

func (a *Assessment) count(s safety.Severity) (n float64) {
	for _, c := range a.Cautions {
		if c.Severity == s {
			n++
		}
	}
	return n
}

// Compare sets two assessments side by side, the differences that matter most
// first. Readings neither of them has, or both have at nothing, are left out.
func Compare(a, b *Assessment) []Difference {
	var out []Difference
	for _, c := range comparisons {
		d := Difference{Code: c.code, Name: c.name, Unit: c.unit, Decimal: c.places}
		d.A, d.AKnown = c.read(a)
		d.B, d.BKnown = c.read(b)
		if !d.AKnown && !d.BKnown || d.A == 0 && d.B == 0 {
			continue
		}
		if d.AKnown && d.BKnown {
			d.Weight = math.Abs(d.A-d.B) / c.matters
			if c.relative {
				d.Weight /= max(math.Abs(d.A), math.Abs(d.B))
			}
		}
		out = append(out, d)
	}
	slices.SortStableFunc(out, func(x, y Difference) int { return cmp.Compare(y.Weight, x.Weight) })
	return out
}
