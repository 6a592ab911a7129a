package ledger

import (
	"github.com/shopspring/decimal"
)

// Used is what one item was planned to be used of and was, in its unit (g, pieces).
type Used struct {
	Item    string
	Planned float64
	Used    float64
	PerUnit decimal.Decimal // what one was planned to cost
	Paid    decimal.Decimal // what was used did cost
}

// Variance is what a making cost beyond its plan for what came of it, told apart. Positive
// is dearer. Price + Amount + Yield is the whole difference in materials; Time stands
// beside it.
//
// As cost accounting has it (Horngren, Datar and Rajan, Cost Accounting: direct materials
// price variance (AP − BP) × AQ, and the efficiency variance (AQ − BQ) × BP parted into
// usage and yield; from memory of the text).
type Variance struct {
	Price  decimal.Decimal // (paid a unit − planned a unit) × used
	Amount decimal.Decimal // (used − planned) × planned a unit
	Yield  decimal.Decimal // planned cost × (1 − came out / was to come out)
	Time   decimal.Decimal // (minutes − usual minutes) × rate
	// Planned is what it was to cost for what came out, Paid what it did.
	Planned, Paid decimal.Decimal
	TimeKnown     bool
}

// Compare tells apart why a making cost other than planned: expectedG was to come out,
// madeG did. The parts add up to Paid − Planned, to the cent.
func Compare(used []Used, expectedG, madeG float64) Variance {
	paid, atPlan, planned := decimal.Zero, decimal.Zero, decimal.Zero
	for i := range used {
		u := &used[i]
		paid = paid.Add(u.Paid)
		atPlan = atPlan.Add(u.PerUnit.Mul(decimal.NewFromFloat(u.Used)))
		planned = planned.Add(u.PerUnit.Mul(decimal.NewFromFloat(u.Planned)))
	}
	allowed := planned
	if expectedG > 0 {
		allowed = planned.Mul(decimal.NewFromFloat(madeG)).DivRound(decimal.NewFromFloat(expectedG), 8)
	}
	v := Variance{Planned: allowed.Round(cents), Paid: paid.Round(cents),
		Price: paid.Sub(atPlan).Round(cents), Amount: atPlan.Sub(planned).Round(cents)}
	v.Yield = v.Paid.Sub(v.Planned).Sub(v.Price).Sub(v.Amount) // so that they add up
	return v
}

// Took adds what the hands took beyond what they usually do, at what an hour costs.
func (v *Variance) Took(minutes, usual float64, hour decimal.Decimal) {
	v.TimeKnown = true
	v.Time = hour.Mul(decimal.NewFromFloat(minutes-usual)).DivRound(decimal.NewFromInt(60), cents)
}
