package exchange

import (
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/solution"
)

// Assess assesses a formula file. Problems of single lines stand in the
// assessment; they do not keep the rest from being worked out.
func Assess(file *api.FormulaFile, lib *material.Library, o assess.Options) *api.Assessment {
	f, unread := ToFormula(file)
	return Assessment(file.Name, assess.Formula(f, lib, o), unread, lib)
}

// Assessment puts an assessment into the words of the contract. Problems of
// reading the formula come before those of working it out.
func Assessment(name string, a *assess.Assessment, unread []api.Problem, lib *material.Library) *api.Assessment {
	r, f := a.Resolved, a.Resolved.Formula
	out := &api.Assessment{
		Name: name, Kind: string(f.Kind), Defer: safety.Defer,
		Lines:      make([]api.AssessedLine, len(r.Lines)),
		TotalMassG: Range(r.TotalG), NetMassG: Range(r.NetG()), VolumeMl: Range(r.VolumeML),
		DensityGPerMl: r.Density(), PartNote: r.PartNote, State: api.AssessmentState(a.State),
		Keeping:  keepingOf(a),
		Cautions: Cautions(a.Cautions), Problems: []api.Problem{}, Questions: Questions(unread, r.Questions),
		Bottle: bottleOf(a), Use: useOf(a),
		Order: make([]api.OrderFinding, len(a.Order)),
	}
	shares := a.LineCosts()
	for i := range r.Lines {
		out.Lines[i] = assessedLine(&r.Lines[i], lib, f.Measures)
		if a.Lines[i].Known {
			out.Lines[i].Cost = Money(shares[i])
		}
	}
	for i, found := range a.Order {
		out.Order[i] = api.OrderFinding{Code: found.Code, Line: found.Line, Text: found.Text, Advice: found.Advice}
		if found.Step >= 0 {
			out.Order[i].Step = &found.Step
		}
	}
	if a.Hazard != nil {
		out.Hazard = Hazard(a.Hazard)
	}
	if a.Solution != nil {
		out.Chemistry = Chemistry(a.Solution, a.Pot)
		judge(&out.Chemistry, a.Verdicts())
	}
	for _, n := range a.Neutralise {
		name := string(n.With)
		if m, err := lib.Find(name); err == nil {
			name = m.Name
		}
		out.Neutralise = append(out.Neutralise, api.Neutralise{With: string(n.With), Name: name, BaseG: Range(n.BaseG), GasMl: n.GasML, HeatKj: n.HeatKJ, Order: n.Order})
	}
	if a.SolutionErr != nil {
		out.Problems = append(out.Problems, FieldProblem("use", a.SolutionErr))
	}
	if a.Uses != nil {
		out.Uses, out.GramsPerUse = Range(*a.Uses), a.UseG
	}
	if a.Cost != nil {
		out.Cost = cost(a.Cost)
	}
	return out
}

// cost is what a formula costs; of a use, in hundredths of a cent.
func cost(c *assess.Cost) api.Cost {
	const cents, fine = 2, 4
	out := api.Cost{Batch: Money(c.Batch.Value), PerKg: Money(c.PerKg.Value), Currency: c.Currency, Unpriced: append([]string{}, c.Unpriced...),
		BatchRange: moneyRange(c.Batch, cents), PerKgRange: moneyRange(c.PerKg, cents), PerUseRange: moneyRange(c.PerUse, fine)}
	if !c.PerUse.Value.IsZero() {
		out.PerUse = c.PerUse.Value.StringFixed(fine)
	}
	return out
}

func moneyRange(p costing.Price, places int32) api.MoneyRange {
	low, high := p.Low.StringFixed(places), p.High.StringFixed(places)
	if low == high {
		return api.MoneyRange{}
	}
	return api.MoneyRange{Low: low, High: high}
}

func assessedLine(l *formula.ResolvedLine, lib *material.Library, m quantity.Measures) api.AssessedLine {
	out := api.AssessedLine{
		Material: l.Line.Material, Name: l.Line.Material, Amount: l.Line.Written,
		Phase: l.Line.Phase, Optional: l.Line.Optional, Taken: l.Taken, Note: l.Line.Note, Celsius: l.Line.Celsius, Alternatives: alternatives(&l.Line),
		Open: l.Line.Amount.Open().String(), Also: l.Line.Also.String(),
		MassG: Range(l.MassG), Share: l.Share.Value, ShareRange: Range(l.Share),
	}
	if l.Material != nil {
		out.Material, out.Name, out.Function = l.Material.ID, l.Material.Name, l.Material.Functions[0]
		out.DensitySource = lib.Source(l.Material.Density.Source)
		if scoop, relErr, ok := l.ScoopFor(l.MassG.Value, m); ok {
			out.Scoop = api.Scoop{Amount: scoop.String(), Error: relErr}
		}
	}
	return out
}

// keepingOf says how long it keeps, and the figure that decided.
func keepingOf(a *assess.Assessment) api.Keeping {
	k := api.Keeping{Days: a.Keeping.Days, ReadyDays: a.Keeping.ReadyDays, FadesFirst: a.Keeping.FadesFirst, LimitedBy: a.Keeping.LimitedBy, Reason: a.Keeping.Reason, Class: a.Class.Name}
	if f := a.Class.Figure; f != nil {
		k.DecidedBy = api.DecidingFigure{Name: f.Name, Value: f.Value, Limit: f.Limit, Unit: f.Unit}
	}
	return k
}

// bottleOf is the good as it stands.
func bottleOf(a *assess.Assessment) api.Bottle {
	out := api.Bottle{State: api.BottleState(a.State), Keeping: keepingOf(a), Cautions: cautionsOf(a.Cautions, safety.OfBottle),
		Undissolved: []api.Undissolved{}, Preservatives: []api.PreservativeAtWork{}, Verdict: api.VerdictPlain}
	for _, p := range a.Preservatives {
		at := api.PreservativeAtWork{Material: p.ID, Name: p.Name, Share: p.Share, Works: p.Works, Why: p.Why}
		if p.IsAcid {
			at.Undissociated = p.Undissociated
		}
		out.Preservatives = append(out.Preservatives, at)
	}
	if s := a.Saponified; s != nil {
		out.Saponification = api.Saponification{SoapG: s.SoapG(), LyeLeftG: Range(s.LyeLeftG), FatLeftShare: Range(s.FatLeft), HeatKj: s.HeatKJ,
			CureDaysFrom: s.CureDays[0], CureDaysTo: s.CureDays[1], Sets: s.Sets()}
	}
	b := a.Bottle
	if b == nil {
		return out
	}
	if b.Known() {
		out.Ph, out.PhFresh, out.PhAired = phReading(b.PH, b.PHFrom), phReading(b.Fresh, b.PHFrom), phReading(b.Aired, b.PHFrom)
		out.Verdict = watched(a.Burns())
	}
	out.SoapCurdledShare, out.AlcoholShare = b.Protonated, b.Alcohol
	if b.WaterActivity.Value > 0 {
		out.WaterActivity = Range(b.WaterActivity)
	}
	if b.DensityGPerML.Value > 0 {
		out.DensityGPerMl = Range(b.DensityGPerML)
	}
	pot := a.Pot
	if pot == nil {
		pot = a.Solution // used as it stands
	}
	if pot != nil {
		out.Undissolved = undissolvedOf(pot.Undissolved)
	}
	return out
}

// useOf is the good at work.
func useOf(a *assess.Assessment) api.InUse {
	out := api.InUse{Cautions: cautionsOf(a.Cautions, safety.OfUse), Verdict: api.VerdictPlain, KeepsDays: a.DilutedDays}
	b := a.Solution
	if b == nil {
		return out
	}
	out.Neat, out.SoapCurdledShare = b.Use.Neat, b.Protonated.Value
	if !b.Use.Neat {
		out.GramsPerLitre = Range(b.Use.Dose.Scale(b.Use.GramsPerLitre))
	}
	if b.PHKnown() {
		out.Ph = phReading(b.ClosedPH, b.PHFrom)
		out.Verdict = watched(b.Use.Neat && a.Burns() || safety.IsExtreme(b.ClosedPH))
	}
	return out
}

func phReading(r quantity.Range, from solution.Source) api.PhReading {
	out := api.PhReading{Value: r.Value, Low: r.Low, High: r.High, From: api.PhReadingFrom(from)}
	if !solution.IsPoint(r) {
		out.Value = 0 // left out
	}
	return out
}

func watched(is bool) api.Verdict {
	if is {
		return api.VerdictWatch
	}
	return api.VerdictPlain
}

func cautionsOf(found []safety.Caution, of safety.Of) []api.Caution {
	var some []safety.Caution
	for _, c := range found {
		if c.Of == of {
			some = append(some, c)
		}
	}
	return Cautions(some)
}

func undissolvedOf(found []solution.Undissolved) []api.Undissolved {
	out := make([]api.Undissolved, len(found))
	for i, u := range found {
		out[i] = api.Undissolved{Material: u.Material.ID, Name: u.Material.Name, WantsG: u.WantsGPer100ML, HoldsG: u.HoldsGPer100ML, LeftG: u.LeftG}
	}
	return out
}

type textError string

func (e textError) Error() string { return string(e) }

// Cautions puts cautions into the words of the contract.
func Cautions(found []safety.Caution) []api.Caution {
	out := make([]api.Caution, len(found))
	for i, c := range found {
		out[i] = api.Caution{
			Code: c.Code, Severity: api.CautionSeverity(c.Severity.String()), Context: api.CautionContext(c.Context), Of: api.CautionOf(c.Of),
			Materials: append([]string{}, c.Materials...), Text: c.Text, Advice: c.Advice, Basis: c.Basis,
		}
	}
	return out
}

// Differences puts a comparison into the words of the contract.
func Differences(found []assess.Difference) []api.Difference {
	out := make([]api.Difference, len(found))
	for i, d := range found {
		out[i] = api.Difference{Code: d.Code, Name: d.Name, Unit: d.Unit, Places: d.Decimal, Matters: d.Weight}
		if d.AKnown {
			out[i].A = &d.A
		}
		if d.BKnown {
			out[i].B = &d.B
		}
	}
	return out
}

// Range puts a range into the words of the contract.
func Range(r quantity.Range) api.Range { return api.Range{Value: r.Value, Low: r.Low, High: r.High} }

// KnownMoney is money as [Money] prints it; nothing where it is not known.
func KnownMoney(d decimal.Decimal) api.Money {
	if d.IsZero() {
		return ""
	}
	return Money(d)
}

// Money prints an amount of money to the cent.
func Money(d decimal.Decimal) api.Money { return d.StringFixed(2) }
