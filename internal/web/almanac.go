package web

import (
	"context"

	"keencrock/internal/web/contract"
)

func (h *handlers) ListOrders(ctx context.Context, _ contract.ListOrdersRequestObject) (contract.ListOrdersResponseObject, error) {
	o, err := h.almanac.Orders(ctx)
	return contract.ListOrders200JSONResponse(o), err
}

func (h *handlers) AddOrder(ctx context.Context, r contract.AddOrderRequestObject) (contract.AddOrderResponseObject, error) {
	o, err := value(h.almanac.Add(ctx, r.Body))
	return contract.AddOrder201JSONResponse(o), err
}

func (h *handlers) EndOrder(ctx context.Context, r contract.EndOrderRequestObject) (contract.EndOrderResponseObject, error) {
	return contract.EndOrder204Response{}, h.almanac.End(ctx, r.Id)
}

func (h *handlers) GetPlan(ctx context.Context, _ contract.GetPlanRequestObject) (contract.GetPlanResponseObject, error) {
	p, err := value(h.almanac.Plan(ctx))
	return contract.GetPlan200JSONResponse(p), err
}

func (h *handlers) GetPlanLimits(ctx context.Context, _ contract.GetPlanLimitsRequestObject) (contract.GetPlanLimitsResponseObject, error) {
	l, err := value(h.almanac.Limits(ctx))
	return contract.GetPlanLimits200JSONResponse(l), err
}

func (h *handlers) PutPlanLimits(ctx context.Context, r contract.PutPlanLimitsRequestObject) (contract.PutPlanLimitsResponseObject, error) {
	l, err := value(h.almanac.SaveLimits(ctx, r.Body))
	return contract.PutPlanLimits200JSONResponse(l), err
}
