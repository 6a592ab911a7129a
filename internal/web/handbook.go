package web

import (
	"context"

	"keencrock/internal/web/contract"
)

func (h *handlers) ListPages(ctx context.Context, r contract.ListPagesRequestObject) (contract.ListPagesResponseObject, error) {
	p, err := h.handbook.Pages(ctx, r.Params.Find)
	return contract.ListPages200JSONResponse(p), err
}

func (h *handlers) GetPage(ctx context.Context, r contract.GetPageRequestObject) (contract.GetPageResponseObject, error) {
	p, err := value(h.handbook.Page(ctx, r.Page))
	return contract.GetPage200JSONResponse(p), err
}
