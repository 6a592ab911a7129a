package web

import (
	"context"

	"keencrock/internal/tenant"
	"keencrock/internal/web/contract"
)

func (h *handlers) GetWorkshop(ctx context.Context, _ contract.GetWorkshopRequestObject) (contract.GetWorkshopResponseObject, error) {
	w, err := value(h.settings.Workshop(ctx))
	return contract.GetWorkshop200JSONResponse(w), err
}

func (h *handlers) PutWorkshop(ctx context.Context, r contract.PutWorkshopRequestObject) (contract.PutWorkshopResponseObject, error) {
	w, err := h.settings.SaveWorkshop(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	if a, err := tenant.Require(ctx, tenant.Owner); err == nil {
		h.scales.scale(a.Workshop, w) // open streams read the new one
	}
	return contract.PutWorkshop200JSONResponse(*w), nil
}

func (h *handlers) ListSizes(ctx context.Context, _ contract.ListSizesRequestObject) (contract.ListSizesResponseObject, error) {
	sizes, err := h.settings.Sizes(ctx)
	return contract.ListSizes200JSONResponse(sizes), err
}

func (h *handlers) PutSize(ctx context.Context, r contract.PutSizeRequestObject) (contract.PutSizeResponseObject, error) {
	sizes, err := h.settings.SetSize(ctx, *r.Body)
	return contract.PutSize200JSONResponse(sizes), err
}
