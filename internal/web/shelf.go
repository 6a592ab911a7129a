package web

import (
	"context"
	"io"
	"strings"

	"keencrock/internal/station/shelf"
	"keencrock/internal/web/contract"
)

func (h *handlers) ListWanted(ctx context.Context, _ contract.ListWantedRequestObject) (contract.ListWantedResponseObject, error) {
	list, err := h.shelf.Wanted(ctx)
	return contract.ListWanted200JSONResponse(list), err
}

func (h *handlers) Want(ctx context.Context, r contract.WantRequestObject) (contract.WantResponseObject, error) {
	list, err := h.shelf.Want(ctx, r.Body)
	return contract.Want201JSONResponse(list), err
}

func (h *handlers) Unwant(ctx context.Context, r contract.UnwantRequestObject) (contract.UnwantResponseObject, error) {
	return contract.Unwant204Response{}, h.shelf.Unwant(ctx, r.Material)
}

func (h *handlers) ListPackaging(ctx context.Context, _ contract.ListPackagingRequestObject) (contract.ListPackagingResponseObject, error) {
	all, err := h.shelf.Packaging(ctx)
	return contract.ListPackaging200JSONResponse(all), err
}

func (h *handlers) TakePackaging(ctx context.Context, r contract.TakePackagingRequestObject) (contract.TakePackagingResponseObject, error) {
	p, err := value(h.shelf.TakePackaging(ctx, *r.Body))
	return contract.TakePackaging201JSONResponse(p), err
}

func (h *handlers) ListMaterials(ctx context.Context, _ contract.ListMaterialsRequestObject) (contract.ListMaterialsResponseObject, error) {
	all, err := h.shelf.Materials(ctx)
	return contract.ListMaterials200JSONResponse(all), err
}

func (h *handlers) AddMaterials(ctx context.Context, r contract.AddMaterialsRequestObject) (contract.AddMaterialsResponseObject, error) {
	t, err := value(h.shelf.BringMaterials(ctx, r.Body))
	return contract.AddMaterials200JSONResponse(t), err
}

func (h *handlers) AddLots(ctx context.Context, r contract.AddLotsRequestObject) (contract.AddLotsResponseObject, error) {
	t, err := value(h.shelf.BringLots(ctx, r.Body))
	return contract.AddLots200JSONResponse(t), err
}

func (h *handlers) AddMaterial(ctx context.Context, r contract.AddMaterialRequestObject) (contract.AddMaterialResponseObject, error) {
	m, err := value(h.shelf.AddMaterial(ctx, *r.Body))
	return contract.AddMaterial201JSONResponse(m), err
}

func (h *handlers) PutMaterial(ctx context.Context, r contract.PutMaterialRequestObject) (contract.PutMaterialResponseObject, error) {
	m, err := value(h.shelf.EditMaterial(ctx, r.Material, *r.Body))
	return contract.PutMaterial200JSONResponse(m), err
}

func (h *handlers) PutFigures(ctx context.Context, r contract.PutFiguresRequestObject) (contract.PutFiguresResponseObject, error) {
	m, err := value(h.shelf.SetFigures(ctx, r.Material, *r.Body))
	return contract.PutFigures200JSONResponse(m), err
}

func (h *handlers) GetShelf(ctx context.Context, _ contract.GetShelfRequestObject) (contract.GetShelfResponseObject, error) {
	jars, err := h.shelf.Shelf(ctx)
	return contract.GetShelf200JSONResponse(jars), err
}

func (h *handlers) ExportShelf(ctx context.Context, _ contract.ExportShelfRequestObject) (contract.ExportShelfResponseObject, error) {
	body, err := h.shelf.ExportShelf(ctx)
	return contract.ExportShelf200TextcsvResponse{Body: body}, err
}

func (h *handlers) ImportShelf(ctx context.Context, r contract.ImportShelfRequestObject) (contract.ImportShelfResponseObject, error) {
	body := r.Body
	if body == nil {
		body = io.Reader(strings.NewReader(""))
	}
	result, err := value(h.shelf.ImportShelf(ctx, body, r.Params.Take == "good"))
	return contract.ImportShelf200JSONResponse(result), err
}

func (h *handlers) ReadDeliveries(ctx context.Context, r contract.ReadDeliveriesRequestObject) (contract.ReadDeliveriesResponseObject, error) {
	d, err := value(h.shelf.ReadDeliveries(ctx, r.Body.Text))
	return contract.ReadDeliveries200JSONResponse(d), err
}

func (h *handlers) TakeDeliveries(ctx context.Context, r contract.TakeDeliveriesRequestObject) (contract.TakeDeliveriesResponseObject, error) {
	d, err := value(h.shelf.TakeDeliveries(ctx, *r.Body))
	return contract.TakeDeliveries201JSONResponse(d), err
}

func (h *handlers) ReadDelivery(ctx context.Context, r contract.ReadDeliveryRequestObject) (contract.ReadDeliveryResponseObject, error) {
	d, err := value(h.shelf.ReadDelivery(ctx, r.Body.Line))
	return contract.ReadDelivery200JSONResponse(d), err
}

func (h *handlers) TakeDelivery(ctx context.Context, r contract.TakeDeliveryRequestObject) (contract.TakeDeliveryResponseObject, error) {
	l, err := value(h.shelf.TakeDelivery(ctx, *r.Body))
	return contract.TakeDelivery201JSONResponse(l), err
}

func (h *handlers) ListLots(ctx context.Context, r contract.ListLotsRequestObject) (contract.ListLotsResponseObject, error) {
	page, err := value(h.shelf.Lots(ctx, shelf.LotQuery{Material: r.Params.Material, Code: r.Params.Code, WithEmpty: r.Params.Empty, After: r.Params.After, Limit: r.Params.Limit}))
	return contract.ListLots200JSONResponse(page), err
}

func (h *handlers) GetLot(ctx context.Context, r contract.GetLotRequestObject) (contract.GetLotResponseObject, error) {
	l, err := value(h.shelf.Lot(ctx, r.Id))
	return contract.GetLot200JSONResponse(l), err
}

func (h *handlers) MarkLot(ctx context.Context, r contract.MarkLotRequestObject) (contract.MarkLotResponseObject, error) {
	l, err := value(h.shelf.MarkLot(ctx, r.Id, *r.Body))
	return contract.MarkLot200JSONResponse(l), err
}
