package exchange

import (
	"net/http"

	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
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
		Keeping:  api.Keeping{Days: a.Keeping.Days, LimitedBy: a.Keeping.LimitedBy, Reason: a.Keeping.Reason, Class: a.Class.Name},
		Cautions: Cautions(a.Cautions), Problems: problemsOf(unread, r),
		Order: make([]api.OrderFinding, len(a.Order)),
	}
	for i := range r.Lines {
		out.Lines[i] = assessedLine(&r.Lines[i], a.Lines[i], lib, f.Measures)
	}
	for i, found := range a.Order {
		out.Order[i] = api.OrderFinding{Code: found.Code, Line: found.Line, Text: found.Text, Advice: found.Advice}
	}
	if a.Bath != nil {
		out.Chemistry = Chemistry(a.Bath, a.Pot)
	}
	for _, n := range a.Neutralise {
		name := string(n.With)
		if m, err := lib.Find(name); err == nil {
			name = m.Name
		}
		out.Neutralise = append(out.Neutralise, api.Neutralise{With: string(n.With), Name: name, BaseG: Range(n.BaseG), GasMl: n.GasML, HeatKj: n.HeatKJ, Order: n.Order})
	}
	if a.BathErr != nil {
		out.Problems = append(out.Problems, FieldProblem("use", a.BathErr))
	}
	if a.Uses != nil {
		out.Uses, out.GramsPerUse = Range(*a.Uses), a.UseG
	}
	if a.Cost != nil {
		out.Cost = api.Cost{Batch: Money(a.Cost.Batch), PerKg: Money(a.Cost.PerKg), Currency: a.Cost.Currency, Unpriced: a.Cost.Unpriced}
		if out.Cost.Unpriced == nil {
			out.Cost.Unpriced = []string{}
		}
		if a.Uses != nil {
			out.Cost.PerUse = a.Cost.PerUse.StringFixed(4)
		}
	}
	return out
}

func assessedLine(l *formula.ResolvedLine, cost assess.LineCost, lib *material.Library, m quantity.Measures) api.AssessedLine {
	out := api.AssessedLine{
		Material: l.Line.Material, Name: l.Line.Material, Amount: l.Line.Written,
		Phase: l.Line.Phase, Optional: l.Line.Optional,
		MassG: Range(l.MassG), Share: l.Share.Value, ShareRange: Range(l.Share),
	}
	if l.Material != nil {
		out.Material, out.Name, out.Function = l.Material.ID, l.Material.Name, l.Material.Functions[0]
		out.DensitySource = lib.Source(l.Material.Density.Source)
		if scoop, relErr, ok := l.ScoopFor(l.MassG.Value, m); ok {
			out.Scoop = api.Scoop{Amount: scoop.String(), Error: relErr}
		}
	}
	if cost.Known {
		out.Cost = Money(cost.Cost)
	}
	return out
}

func problemsOf(unread []api.Problem, r *formula.Resolved) []api.Problem {
	problems := append([]api.Problem{}, unread...)
	said := map[string]bool{}
	for _, p := range unread {
		said[p.Field] = true
	}
	for _, p := range r.Problems {
		field := "lines"
		switch {
		case p.Line < 0 && p.Code == formula.BadLoss:
			field = "loss"
		case p.Line >= 0 && p.Code == formula.UnknownMaterial:
			field = lineField(p.Line, "material")
		case p.Line >= 0:
			field = lineField(p.Line, "amount")
		}
		if said[field] { // an amount that could not be read is no amount either
			continue
		}
		problem := api.NewProblem(http.StatusUnprocessableEntity, p.Code, "%s", Sentence(textError(p.Text))).At(field)
		problem.Nearest = p.Nearest
		problems = append(problems, *problem)
	}
	return problems
}

type textError string

func (e textError) Error() string { return string(e) }

// Cautions puts cautions into the words of the contract.
func Cautions(found []safety.Caution) []api.Caution {
	out := make([]api.Caution, len(found))
	for i, c := range found {
		out[i] = api.Caution{
			Code: c.Code, Severity: api.CautionSeverity(c.Severity.String()), Context: api.CautionContext(c.Context),
			Materials: c.Materials, Text: c.Text, Advice: c.Advice,
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

// Money prints an amount of money to the cent.
func Money(d decimal.Decimal) api.Money { return d.StringFixed(2) }
