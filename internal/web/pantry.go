package web

import (
	"context"

	"keencrock/internal/station/pantry"
	"keencrock/internal/web/contract"
)

func (h *handlers) GetPantry(ctx context.Context, r contract.GetPantryRequestObject) (contract.GetPantryResponseObject, error) {
	goods, next, err := h.pantry.Pantry(ctx, pantry.Query{All: r.Params.All, After: r.Params.After, Limit: r.Params.Limit})
	return contract.GetPantry200JSONResponse{Body: goods, Headers: contract.GetPantry200ResponseHeaders{NextPage: next}}, err
}

func (h *handlers) GetGood(ctx context.Context, r contract.GetGoodRequestObject) (contract.GetGoodResponseObject, error) {
	g, err := value(h.pantry.Good(ctx, r.Id))
	return contract.GetGood200JSONResponse(g), err
}

func (h *handlers) MoveJars(ctx context.Context, r contract.MoveJarsRequestObject) (contract.MoveJarsResponseObject, error) {
	jars, err := h.pantry.MoveJars(ctx, *r.Body)
	return contract.MoveJars200JSONResponse(jars), err
}

func (h *handlers) MoveJar(ctx context.Context, r contract.MoveJarRequestObject) (contract.MoveJarResponseObject, error) {
	j, err := value(h.pantry.MoveJar(ctx, r.Id, *r.Body))
	return contract.MoveJar200JSONResponse(j), err
}

func (h *handlers) TraceBatch(ctx context.Context, r contract.TraceBatchRequestObject) (contract.TraceBatchResponseObject, error) {
	t, err := value(h.pantry.TraceBatch(ctx, r.Id))
	return contract.TraceBatch200JSONResponse(t), err
}

func (h *handlers) TraceLot(ctx context.Context, r contract.TraceLotRequestObject) (contract.TraceLotResponseObject, error) {
	t, err := value(h.pantry.TraceLot(ctx, r.Id))
	return contract.TraceLot200JSONResponse(t), err
}
