package web

import (
	"context"

	"keencrock/internal/station/pantry"
	"keencrock/internal/web/contract"
)

func (h *handlers) GetDoses(ctx context.Context, r contract.GetDosesRequestObject) (contract.GetDosesResponseObject, error) {
	t, err := value(h.pantry.Doses(ctx, r.Id, pantry.DoseQuery{Hardness: r.Params.Hardness, Soil: r.Params.Soil, Load: r.Params.Load}))
	return contract.GetDoses200JSONResponse(t), err
}

func (h *handlers) CountLoads(ctx context.Context, r contract.CountLoadsRequestObject) (contract.CountLoadsResponseObject, error) {
	d, err := value(h.pantry.CountLoads(ctx, r.Id, *r.Body))
	return contract.CountLoads200JSONResponse(d), err
}

func (h *handlers) FillBottle(ctx context.Context, r contract.FillBottleRequestObject) (contract.FillBottleResponseObject, error) {
	b, err := value(h.pantry.FillBottle(ctx, r.Id, *r.Body))
	return contract.FillBottle201JSONResponse(b), err
}

func (h *handlers) TakeBottleBack(ctx context.Context, r contract.TakeBottleBackRequestObject) (contract.TakeBottleBackResponseObject, error) {
	return contract.TakeBottleBack204Response{}, h.pantry.TakeBottleBack(ctx, r.Id)
}

func (h *handlers) Dilute(ctx context.Context, r contract.DiluteRequestObject) (contract.DiluteResponseObject, error) {
	d, err := value(h.pantry.Dilute(ctx, r.Id, *r.Body))
	return contract.Dilute200JSONResponse(d), err
}

func (h *handlers) ListMachines(ctx context.Context, _ contract.ListMachinesRequestObject) (contract.ListMachinesResponseObject, error) {
	m, err := h.pantry.Machines(ctx)
	return contract.ListMachines200JSONResponse(m), err
}

func (h *handlers) PutMachines(ctx context.Context, r contract.PutMachinesRequestObject) (contract.PutMachinesResponseObject, error) {
	m, err := h.pantry.SaveMachines(ctx, *r.Body)
	return contract.PutMachines200JSONResponse(m), err
}

func (h *handlers) ListCards(ctx context.Context, r contract.ListCardsRequestObject) (contract.ListCardsResponseObject, error) {
	c, err := h.pantry.Cards(ctx, pantry.CardQuery{Ask: r.Params.Ask, Batch: r.Params.Batch})
	return contract.ListCards200JSONResponse(c), err
}

func (h *handlers) AddCard(ctx context.Context, r contract.AddCardRequestObject) (contract.AddCardResponseObject, error) {
	c, err := value(h.pantry.AddCard(ctx, *r.Body))
	return contract.AddCard201JSONResponse(c), err
}

func (h *handlers) PutCard(ctx context.Context, r contract.PutCardRequestObject) (contract.PutCardResponseObject, error) {
	c, err := value(h.pantry.SaveCard(ctx, r.Id, *r.Body))
	return contract.PutCard200JSONResponse(c), err
}

func (h *handlers) RemoveCard(ctx context.Context, r contract.RemoveCardRequestObject) (contract.RemoveCardResponseObject, error) {
	return contract.RemoveCard204Response{}, h.pantry.RemoveCard(ctx, r.Id)
}

func (h *handlers) ListChores(ctx context.Context, _ contract.ListChoresRequestObject) (contract.ListChoresResponseObject, error) {
	c, err := h.pantry.Chores(ctx)
	return contract.ListChores200JSONResponse(c), err
}

func (h *handlers) AddChore(ctx context.Context, r contract.AddChoreRequestObject) (contract.AddChoreResponseObject, error) {
	c, err := value(h.pantry.AddChore(ctx, *r.Body))
	return contract.AddChore201JSONResponse(c), err
}

func (h *handlers) DoChore(ctx context.Context, r contract.DoChoreRequestObject) (contract.DoChoreResponseObject, error) {
	c, err := value(h.pantry.DoChore(ctx, r.Id))
	return contract.DoChore200JSONResponse(c), err
}

func (h *handlers) RemoveChore(ctx context.Context, r contract.RemoveChoreRequestObject) (contract.RemoveChoreResponseObject, error) {
	return contract.RemoveChore204Response{}, h.pantry.RemoveChore(ctx, r.Id)
}
