package web

import (
	"context"

	"keencrock/internal/web/contract"
)

func (h *handlers) GetWaiting(ctx context.Context, _ contract.GetWaitingRequestObject) (contract.GetWaitingResponseObject, error) {
	notes, err := h.strip.Waiting(ctx)
	return contract.GetWaiting200JSONResponse(notes), err
}
