package web

import (
	"context"
	"io"
	"strings"
	"time"

	"keencrock/api"
	"keencrock/internal/web/contract"
	"keencrock/internal/workshop"
)

// handlers answers each operation of the contract by its use case.
type handlers struct {
	service *workshop.Service
	scales  *scales
	version string
}

var _ contract.StrictServerInterface = (*handlers)(nil)

// value hands on what a use case returned by pointer.
func value[T any](v *T, err error) (T, error) {
	if err != nil || v == nil {
		var none T
		return none, err
	}
	return *v, nil
}

func (h *handlers) GetHealth(ctx context.Context, _ contract.GetHealthRequestObject) (contract.GetHealthResponseObject, error) {
	err := h.service.Ping(ctx)
	return contract.GetHealth200JSONResponse{Status: "well", Version: h.version}, err
}

// People and sessions.

func (h *handlers) GetSetup(ctx context.Context, _ contract.GetSetupRequestObject) (contract.GetSetupResponseObject, error) {
	needed, err := h.service.SetupNeeded(ctx)
	return contract.GetSetup200JSONResponse{Needed: needed}, err
}

func (h *handlers) MakeFirstOwner(ctx context.Context, r contract.MakeFirstOwnerRequestObject) (contract.MakeFirstOwnerResponseObject, error) {
	token, session, err := h.service.MakeFirstOwner(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	return contract.MakeFirstOwner201JSONResponse{SignedInJSONResponse: signedInAnswer(token, session)}, nil
}

func (h *handlers) SignIn(ctx context.Context, r contract.SignInRequestObject) (contract.SignInResponseObject, error) {
	token, session, err := h.service.SignIn(ctx, *r.Body, addressFrom(ctx))
	if err != nil {
		return nil, err
	}
	return contract.SignIn201JSONResponse{SignedInJSONResponse: signedInAnswer(token, session)}, nil
}

func signedInAnswer(token string, session *api.Session) contract.SignedInJSONResponse {
	return contract.SignedInJSONResponse{Body: *session,
		Headers: contract.SignedInResponseHeaders{SetCookie: cookie(token, workshop.SessionLife(), false)}}
}

func (h *handlers) GetSession(ctx context.Context, _ contract.GetSessionRequestObject) (contract.GetSessionResponseObject, error) {
	session, err := value(h.service.Session(ctx, signedInFrom(ctx).csrf))
	return contract.GetSession200JSONResponse(session), err
}

func (h *handlers) SignOut(ctx context.Context, r contract.SignOutRequestObject) (contract.SignOutResponseObject, error) {
	err := h.service.SignOut(ctx, signedInFrom(ctx).token, r.Params.Everywhere)
	return contract.SignOut204Response{Headers: contract.SignedOutResponseHeaders{SetCookie: cookie("", time.Hour, false)}}, err
}

func (h *handlers) ChangePassword(ctx context.Context, r contract.ChangePasswordRequestObject) (contract.ChangePasswordResponseObject, error) {
	return contract.ChangePassword204Response{}, h.service.ChangePassword(ctx, *r.Body, signedInFrom(ctx).token, addressFrom(ctx))
}

func (h *handlers) GetWorkshop(ctx context.Context, _ contract.GetWorkshopRequestObject) (contract.GetWorkshopResponseObject, error) {
	w, err := value(h.service.Workshop(ctx))
	return contract.GetWorkshop200JSONResponse(w), err
}

func (h *handlers) PutWorkshop(ctx context.Context, r contract.PutWorkshopRequestObject) (contract.PutWorkshopResponseObject, error) {
	w, err := value(h.service.SaveWorkshop(ctx, *r.Body))
	return contract.PutWorkshop200JSONResponse(w), err
}

func (h *handlers) ListPeople(ctx context.Context, _ contract.ListPeopleRequestObject) (contract.ListPeopleResponseObject, error) {
	people, err := h.service.People(ctx)
	return contract.ListPeople200JSONResponse(people), err
}

func (h *handlers) AddPerson(ctx context.Context, r contract.AddPersonRequestObject) (contract.AddPersonResponseObject, error) {
	p, err := value(h.service.AddPerson(ctx, *r.Body))
	return contract.AddPerson201JSONResponse(p), err
}

func (h *handlers) ChangeRole(ctx context.Context, r contract.ChangeRoleRequestObject) (contract.ChangeRoleResponseObject, error) {
	p, err := value(h.service.ChangeRole(ctx, r.Id, workshop.Role(r.Body.Role)))
	return contract.ChangeRole200JSONResponse(p), err
}

func (h *handlers) RemovePerson(ctx context.Context, r contract.RemovePersonRequestObject) (contract.RemovePersonResponseObject, error) {
	return contract.RemovePerson204Response{}, h.service.RemovePerson(ctx, r.Id)
}

// The shelf.

func (h *handlers) ListKinds(context.Context, contract.ListKindsRequestObject) (contract.ListKindsResponseObject, error) {
	return contract.ListKinds200JSONResponse(h.service.Kinds()), nil
}

func (h *handlers) ListMaterials(ctx context.Context, _ contract.ListMaterialsRequestObject) (contract.ListMaterialsResponseObject, error) {
	all, err := h.service.Materials(ctx)
	return contract.ListMaterials200JSONResponse(all), err
}

func (h *handlers) AddMaterial(ctx context.Context, r contract.AddMaterialRequestObject) (contract.AddMaterialResponseObject, error) {
	m, err := value(h.service.AddMaterial(ctx, *r.Body))
	return contract.AddMaterial201JSONResponse(m), err
}

func (h *handlers) PutMaterial(ctx context.Context, r contract.PutMaterialRequestObject) (contract.PutMaterialResponseObject, error) {
	m, err := value(h.service.EditMaterial(ctx, r.Material, *r.Body))
	return contract.PutMaterial200JSONResponse(m), err
}

func (h *handlers) PutFigures(ctx context.Context, r contract.PutFiguresRequestObject) (contract.PutFiguresResponseObject, error) {
	m, err := value(h.service.SetFigures(ctx, r.Material, *r.Body))
	return contract.PutFigures200JSONResponse(m), err
}

func (h *handlers) ListSizes(ctx context.Context, _ contract.ListSizesRequestObject) (contract.ListSizesResponseObject, error) {
	sizes, err := h.service.Sizes(ctx)
	return contract.ListSizes200JSONResponse(sizes), err
}

func (h *handlers) PutSize(ctx context.Context, r contract.PutSizeRequestObject) (contract.PutSizeResponseObject, error) {
	sizes, err := h.service.SetSize(ctx, *r.Body)
	return contract.PutSize200JSONResponse(sizes), err
}

func (h *handlers) GetShelf(ctx context.Context, _ contract.GetShelfRequestObject) (contract.GetShelfResponseObject, error) {
	jars, err := h.service.Shelf(ctx)
	return contract.GetShelf200JSONResponse(jars), err
}

func (h *handlers) ExportShelf(ctx context.Context, _ contract.ExportShelfRequestObject) (contract.ExportShelfResponseObject, error) {
	body, err := h.service.ExportShelf(ctx)
	return contract.ExportShelf200TextcsvResponse{Body: body}, err
}

func (h *handlers) ImportShelf(ctx context.Context, r contract.ImportShelfRequestObject) (contract.ImportShelfResponseObject, error) {
	body := r.Body
	if body == nil {
		body = io.Reader(strings.NewReader(""))
	}
	result, err := value(h.service.ImportShelf(ctx, body, r.Params.Take == "good"))
	return contract.ImportShelf200JSONResponse(result), err
}

func (h *handlers) ReadDelivery(ctx context.Context, r contract.ReadDeliveryRequestObject) (contract.ReadDeliveryResponseObject, error) {
	d, err := value(h.service.ReadDelivery(ctx, r.Body.Line))
	return contract.ReadDelivery200JSONResponse(d), err
}

func (h *handlers) TakeDelivery(ctx context.Context, r contract.TakeDeliveryRequestObject) (contract.TakeDeliveryResponseObject, error) {
	l, err := value(h.service.TakeDelivery(ctx, *r.Body))
	return contract.TakeDelivery201JSONResponse(l), err
}

func (h *handlers) ListLots(ctx context.Context, r contract.ListLotsRequestObject) (contract.ListLotsResponseObject, error) {
	page, err := value(h.service.Lots(ctx, workshop.LotQuery{Material: r.Params.Material, WithEmpty: r.Params.Empty, After: r.Params.After, Limit: r.Params.Limit}))
	return contract.ListLots200JSONResponse(page), err
}

func (h *handlers) GetLot(ctx context.Context, r contract.GetLotRequestObject) (contract.GetLotResponseObject, error) {
	l, err := value(h.service.Lot(ctx, r.Id))
	return contract.GetLot200JSONResponse(l), err
}

func (h *handlers) MarkLot(ctx context.Context, r contract.MarkLotRequestObject) (contract.MarkLotResponseObject, error) {
	l, err := value(h.service.MarkLot(ctx, r.Id, *r.Body))
	return contract.MarkLot200JSONResponse(l), err
}

func (h *handlers) TraceLot(ctx context.Context, r contract.TraceLotRequestObject) (contract.TraceLotResponseObject, error) {
	t, err := value(h.service.TraceLot(ctx, r.Id))
	return contract.TraceLot200JSONResponse(t), err
}

// Formulas.

func (h *handlers) ReadSpoken(ctx context.Context, r contract.ReadSpokenRequestObject) (contract.ReadSpokenResponseObject, error) {
	lines, err := h.service.ReadSpoken(ctx, r.Body.Text)
	return contract.ReadSpoken200JSONResponse(lines), err
}

func (h *handlers) AssessFormula(ctx context.Context, r contract.AssessFormulaRequestObject) (contract.AssessFormulaResponseObject, error) {
	a, err := value(h.service.Assess(ctx, r.Body, workshop.InWater{Strength: r.Params.Use, Hardness: r.Params.Hardness, Celsius: r.Params.Celsius}))
	return contract.AssessFormula200JSONResponse(a), err
}

func (h *handlers) CompareFormulas(ctx context.Context, r contract.CompareFormulasRequestObject) (contract.CompareFormulasResponseObject, error) {
	c, err := value(h.service.Compare(ctx, &r.Body.A, &r.Body.B, workshop.InWater{Strength: r.Params.Use, Hardness: r.Params.Hardness, Celsius: r.Params.Celsius}))
	return contract.CompareFormulas200JSONResponse(c), err
}

func (h *handlers) MapReading(ctx context.Context, r contract.MapReadingRequestObject) (contract.MapReadingResponseObject, error) {
	m, err := value(h.service.Map(ctx, *r.Body, workshop.InWater{Strength: r.Params.Use, Hardness: r.Params.Hardness, Celsius: r.Params.Celsius}))
	return contract.MapReading200JSONResponse(m), err
}

func (h *handlers) FindSwaps(ctx context.Context, r contract.FindSwapsRequestObject) (contract.FindSwapsResponseObject, error) {
	found, err := h.service.Swaps(ctx, *r.Body, workshop.InWater{Strength: r.Params.Use, Hardness: r.Params.Hardness, Celsius: r.Params.Celsius})
	return contract.FindSwaps200JSONResponse(found), err
}

func (h *handlers) FormulateToGoal(ctx context.Context, r contract.FormulateToGoalRequestObject) (contract.FormulateToGoalResponseObject, error) {
	p, err := value(h.service.Formulate(ctx, *r.Body, workshop.InWater{Strength: r.Params.Use, Celsius: r.Params.Celsius}))
	return contract.FormulateToGoal200JSONResponse(p), err
}

func (h *handlers) ListFormulas(ctx context.Context, r contract.ListFormulasRequestObject) (contract.ListFormulasResponseObject, error) {
	all, err := h.service.Formulas(ctx, r.Params.PutAway)
	return contract.ListFormulas200JSONResponse(all), err
}

func (h *handlers) AddFormula(ctx context.Context, r contract.AddFormulaRequestObject) (contract.AddFormulaResponseObject, error) {
	f, err := value(h.service.AddFormula(ctx, r.Body))
	return contract.AddFormula201JSONResponse(f), err
}

func (h *handlers) GetFormula(ctx context.Context, r contract.GetFormulaRequestObject) (contract.GetFormulaResponseObject, error) {
	f, err := value(h.service.Formula(ctx, r.Id, r.Params.Version))
	return contract.GetFormula200JSONResponse(f), err
}

func (h *handlers) PutFormula(ctx context.Context, r contract.PutFormulaRequestObject) (contract.PutFormulaResponseObject, error) {
	f, err := value(h.service.SaveFormula(ctx, r.Id, r.Body.BaseVersion, &r.Body.File))
	return contract.PutFormula200JSONResponse(f), err
}

func (h *handlers) HideFormula(ctx context.Context, r contract.HideFormulaRequestObject) (contract.HideFormulaResponseObject, error) {
	return contract.HideFormula204Response{}, h.service.HideFormula(ctx, r.Id)
}

func (h *handlers) BringFormulaBack(ctx context.Context, r contract.BringFormulaBackRequestObject) (contract.BringFormulaBackResponseObject, error) {
	return contract.BringFormulaBack204Response{}, h.service.BringFormulaBack(ctx, r.Id)
}

func (h *handlers) ListVersions(ctx context.Context, r contract.ListVersionsRequestObject) (contract.ListVersionsResponseObject, error) {
	all, err := h.service.Versions(ctx, r.Id)
	return contract.ListVersions200JSONResponse(all), err
}

func (h *handlers) ExportFormula(ctx context.Context, r contract.ExportFormulaRequestObject) (contract.ExportFormulaResponseObject, error) {
	f, err := value(h.service.ExportFormula(ctx, r.Id))
	return contract.ExportFormula200JSONResponse(f), err
}

func (h *handlers) PlanBatch(ctx context.Context, r contract.PlanBatchRequestObject) (contract.PlanBatchResponseObject, error) {
	p, err := value(h.service.Plan(ctx, r.Id, *r.Body))
	return contract.PlanBatch200JSONResponse(p), err
}

// The bench.

func (h *handlers) ListBatches(ctx context.Context, r contract.ListBatchesRequestObject) (contract.ListBatchesResponseObject, error) {
	page, err := value(h.service.Batches(ctx, workshop.BatchQuery{State: string(r.Params.State), After: r.Params.After, Limit: r.Params.Limit}))
	return contract.ListBatches200JSONResponse(page), err
}

func (h *handlers) StartBatch(ctx context.Context, r contract.StartBatchRequestObject) (contract.StartBatchResponseObject, error) {
	b, err := value(h.service.StartBatch(ctx, *r.Body))
	return contract.StartBatch201JSONResponse(b), err
}

func (h *handlers) GetBatch(ctx context.Context, r contract.GetBatchRequestObject) (contract.GetBatchResponseObject, error) {
	b, err := value(h.service.Batch(ctx, r.Id))
	return contract.GetBatch200JSONResponse(b), err
}

func (h *handlers) Weigh(ctx context.Context, r contract.WeighRequestObject) (contract.WeighResponseObject, error) {
	b, err := value(h.service.Weigh(ctx, r.Id, *r.Body))
	return contract.Weigh201JSONResponse(b), err
}

func (h *handlers) LeaveOut(ctx context.Context, r contract.LeaveOutRequestObject) (contract.LeaveOutResponseObject, error) {
	b, err := value(h.service.LeaveOut(ctx, r.Id, *r.Body))
	return contract.LeaveOut200JSONResponse(b), err
}

func (h *handlers) NoteBatch(ctx context.Context, r contract.NoteBatchRequestObject) (contract.NoteBatchResponseObject, error) {
	b, err := value(h.service.Note(ctx, r.Id, r.Body.Text))
	return contract.NoteBatch201JSONResponse(b), err
}

func (h *handlers) MeasureBatch(ctx context.Context, r contract.MeasureBatchRequestObject) (contract.MeasureBatchResponseObject, error) {
	b, err := value(h.service.Measure(ctx, r.Id, *r.Body))
	return contract.MeasureBatch201JSONResponse(b), err
}

func (h *handlers) FinishBatch(ctx context.Context, r contract.FinishBatchRequestObject) (contract.FinishBatchResponseObject, error) {
	b, err := value(h.service.Finish(ctx, r.Id, *r.Body))
	return contract.FinishBatch200JSONResponse(b), err
}

func (h *handlers) AbandonBatch(ctx context.Context, r contract.AbandonBatchRequestObject) (contract.AbandonBatchResponseObject, error) {
	b, err := value(h.service.Abandon(ctx, r.Id, *r.Body))
	return contract.AbandonBatch200JSONResponse(b), err
}

func (h *handlers) TouchScale(ctx context.Context, r contract.TouchScaleRequestObject) (contract.TouchScaleResponseObject, error) {
	d, err := h.scales.scale(ctx, h.service)
	if err != nil {
		return nil, err
	}
	return contract.TouchScale200JSONResponse(readingOf(h.scales.touch(d, *r.Body))), nil
}

// The pantry.

func (h *handlers) GetPantry(ctx context.Context, r contract.GetPantryRequestObject) (contract.GetPantryResponseObject, error) {
	lots, err := h.service.Pantry(ctx, r.Params.All)
	return contract.GetPantry200JSONResponse(lots), err
}

func (h *handlers) MoveJars(ctx context.Context, r contract.MoveJarsRequestObject) (contract.MoveJarsResponseObject, error) {
	jars, err := h.service.MoveJars(ctx, *r.Body)
	return contract.MoveJars200JSONResponse(jars), err
}

func (h *handlers) MoveJar(ctx context.Context, r contract.MoveJarRequestObject) (contract.MoveJarResponseObject, error) {
	j, err := value(h.service.MoveJar(ctx, r.Id, *r.Body))
	return contract.MoveJar200JSONResponse(j), err
}

func (h *handlers) TraceBatch(ctx context.Context, r contract.TraceBatchRequestObject) (contract.TraceBatchResponseObject, error) {
	t, err := value(h.service.TraceBatch(ctx, r.Id))
	return contract.TraceBatch200JSONResponse(t), err
}

func (h *handlers) GetWaiting(ctx context.Context, _ contract.GetWaitingRequestObject) (contract.GetWaitingResponseObject, error) {
	notes, err := h.service.Waiting(ctx)
	return contract.GetWaiting200JSONResponse(notes), err
}
