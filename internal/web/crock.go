package web

import (
	"context"

	"github.com/gofiber/fiber/v3"

	"keencrock/api"
	"keencrock/internal/station/crock"
	"keencrock/internal/web/contract"
)

func (h *handlers) ListKinds(context.Context, contract.ListKindsRequestObject) (contract.ListKindsResponseObject, error) {
	return contract.ListKinds200JSONResponse(h.crock.Kinds()), nil
}

func (h *handlers) ListStepKinds(context.Context, contract.ListStepKindsRequestObject) (contract.ListStepKindsResponseObject, error) {
	return contract.ListStepKinds200JSONResponse(*h.crock.StepKinds()), nil
}

func (h *handlers) ProposeSteps(ctx context.Context, r contract.ProposeStepsRequestObject) (contract.ProposeStepsResponseObject, error) {
	ways, err := h.crock.ProposeSteps(ctx, r.Body)
	return contract.ProposeSteps200JSONResponse(ways), err
}

func (h *handlers) ListStarters(ctx context.Context, _ contract.ListStartersRequestObject) (contract.ListStartersResponseObject, error) {
	all, err := h.crock.Starters(ctx)
	return contract.ListStarters200JSONResponse(all), err
}

func (h *handlers) TakeStarter(ctx context.Context, r contract.TakeStarterRequestObject) (contract.TakeStarterResponseObject, error) {
	f, err := value(h.crock.TakeStarter(ctx, r.Starter, r.Body.By))
	return contract.TakeStarter201JSONResponse(f), err
}

func (h *handlers) ReadSpoken(ctx context.Context, r contract.ReadSpokenRequestObject) (contract.ReadSpokenResponseObject, error) {
	lines, err := h.crock.ReadText(ctx, r.Body.Text)
	return contract.ReadSpoken200JSONResponse(lines), err
}

func (h *handlers) ReadSaid(ctx context.Context, r contract.ReadSaidRequestObject) (contract.ReadSaidResponseObject, error) {
	said, err := value(h.crock.ReadSaid(ctx, r.Body))
	return contract.ReadSaid200JSONResponse(said), err
}

func (h *handlers) AssessFormula(ctx context.Context, r contract.AssessFormulaRequestObject) (contract.AssessFormulaResponseObject, error) {
	a, err := h.crock.Assess(ctx, r.Body, crock.InWater{Strength: r.Params.Use, Hardness: r.Params.Hardness, Celsius: r.Params.Celsius})
	return assessed{a}, err
}

// assessed is an assessment on its way out: it is several kilobytes, asked for with each
// letter that is typed, and copied nowhere.
type assessed struct{ *api.Assessment }

func (a assessed) VisitAssessFormulaResponse(c fiber.Ctx) error { return c.JSON(a.Assessment) }

func (h *handlers) CompareFormulas(ctx context.Context, r contract.CompareFormulasRequestObject) (contract.CompareFormulasResponseObject, error) {
	c, err := value(h.crock.Compare(ctx, &r.Body.A, &r.Body.B, crock.InWater{Strength: r.Params.Use, Hardness: r.Params.Hardness, Celsius: r.Params.Celsius}))
	return contract.CompareFormulas200JSONResponse(c), err
}

func (h *handlers) MapReading(ctx context.Context, r contract.MapReadingRequestObject) (contract.MapReadingResponseObject, error) {
	m, err := value(h.crock.Map(ctx, *r.Body, crock.InWater{Strength: r.Params.Use, Hardness: r.Params.Hardness, Celsius: r.Params.Celsius}))
	return contract.MapReading200JSONResponse(m), err
}

func (h *handlers) FindSwaps(ctx context.Context, r contract.FindSwapsRequestObject) (contract.FindSwapsResponseObject, error) {
	found, err := h.crock.Swaps(ctx, *r.Body, crock.InWater{Strength: r.Params.Use, Hardness: r.Params.Hardness, Celsius: r.Params.Celsius})
	return contract.FindSwaps200JSONResponse(found), err
}

func (h *handlers) FormulateToGoal(ctx context.Context, r contract.FormulateToGoalRequestObject) (contract.FormulateToGoalResponseObject, error) {
	p, err := value(h.crock.Formulate(ctx, *r.Body, crock.InWater{Strength: r.Params.Use, Celsius: r.Params.Celsius}))
	return contract.FormulateToGoal200JSONResponse(p), err
}

func (h *handlers) ListFormulas(ctx context.Context, r contract.ListFormulasRequestObject) (contract.ListFormulasResponseObject, error) {
	all, err := h.crock.Formulas(ctx, r.Params.PutAway)
	return contract.ListFormulas200JSONResponse(all), err
}

func (h *handlers) AddFormulas(ctx context.Context, r contract.AddFormulasRequestObject) (contract.AddFormulasResponseObject, error) {
	t, err := value(h.crock.BringFormulas(ctx, r.Body))
	return contract.AddFormulas200JSONResponse(t), err
}

func (h *handlers) AddFormula(ctx context.Context, r contract.AddFormulaRequestObject) (contract.AddFormulaResponseObject, error) {
	f, err := value(h.crock.AddFormula(ctx, r.Body))
	return contract.AddFormula201JSONResponse(f), err
}

func (h *handlers) GetFormula(ctx context.Context, r contract.GetFormulaRequestObject) (contract.GetFormulaResponseObject, error) {
	f, err := value(h.crock.Formula(ctx, r.Id, r.Params.Version))
	return contract.GetFormula200JSONResponse(f), err
}

func (h *handlers) PutFormula(ctx context.Context, r contract.PutFormulaRequestObject) (contract.PutFormulaResponseObject, error) {
	f, err := value(h.crock.SaveFormula(ctx, r.Id, r.Body.BaseVersion, &r.Body.File))
	return contract.PutFormula200JSONResponse(f), err
}

func (h *handlers) HideFormula(ctx context.Context, r contract.HideFormulaRequestObject) (contract.HideFormulaResponseObject, error) {
	return contract.HideFormula204Response{}, h.crock.HideFormula(ctx, r.Id)
}

func (h *handlers) BringFormulaBack(ctx context.Context, r contract.BringFormulaBackRequestObject) (contract.BringFormulaBackResponseObject, error) {
	return contract.BringFormulaBack204Response{}, h.crock.BringFormulaBack(ctx, r.Id)
}

func (h *handlers) ListVersions(ctx context.Context, r contract.ListVersionsRequestObject) (contract.ListVersionsResponseObject, error) {
	all, err := h.crock.Versions(ctx, r.Id)
	return contract.ListVersions200JSONResponse(all), err
}

func (h *handlers) ExportFormula(ctx context.Context, r contract.ExportFormulaRequestObject) (contract.ExportFormulaResponseObject, error) {
	f, err := value(h.crock.ExportFormula(ctx, r.Id))
	return contract.ExportFormula200JSONResponse(f), err
}

func (h *handlers) ListSeen(ctx context.Context, _ contract.ListSeenRequestObject) (contract.ListSeenResponseObject, error) {
	s, err := h.crock.Seen(ctx)
	return contract.ListSeen200JSONResponse(s), err
}

func (h *handlers) AskWhy(ctx context.Context, r contract.AskWhyRequestObject) (contract.AskWhyResponseObject, error) {
	f, err := value(h.crock.Why(ctx, r.Body))
	return contract.AskWhy200JSONResponse(f), err
}
