package web

import (
	"context"

	"keencrock/internal/web/contract"
)

func (h *handlers) ListOrders(ctx context.Context, _ contract.ListOrdersRequestObject) (contract.ListOrdersResponseObject, error) {
	o, err := h.almanac.Orders(ctx)
	return contract.ListOrders200JSONResponse(o), err
}

func (h *handlers) AddOrders(ctx context.Context, r contract.AddOrdersRequestObject) (contract.AddOrdersResponseObject, error) {
	t, err := value(h.almanac.BringOrders(ctx, r.Body))
	return contract.AddOrders200JSONResponse(t), err
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

func (h *handlers) ReadOrder(ctx context.Context, r contract.ReadOrderRequestObject) (contract.ReadOrderResponseObject, error) {
	o, err := value(h.almanac.ReadSaid(ctx, r.Body.Text))
	return contract.ReadOrder200JSONResponse(o), err
}

func (h *handlers) PlanIf(ctx context.Context, r contract.PlanIfRequestObject) (contract.PlanIfResponseObject, error) {
	p, err := value(h.almanac.If(ctx, r.Body))
	return contract.PlanIf200JSONResponse(p), err
}

func (h *handlers) KeepPlanIf(ctx context.Context, r contract.KeepPlanIfRequestObject) (contract.KeepPlanIfResponseObject, error) {
	l, err := value(h.almanac.KeepIf(ctx, r.Body))
	return contract.KeepPlanIf200JSONResponse(l), err
}

func (h *handlers) SetPin(ctx context.Context, r contract.SetPinRequestObject) (contract.SetPinResponseObject, error) {
	p, err := value(h.almanac.SetPin(ctx, r.Body))
	return contract.SetPin201JSONResponse(p), err
}

func (h *handlers) RemovePin(ctx context.Context, r contract.RemovePinRequestObject) (contract.RemovePinResponseObject, error) {
	return contract.RemovePin204Response{}, h.almanac.RemovePin(ctx, r.Id)
}

func (h *handlers) ListNeeds(ctx context.Context, _ contract.ListNeedsRequestObject) (contract.ListNeedsResponseObject, error) {
	n, err := h.almanac.Needs(ctx)
	return contract.ListNeeds200JSONResponse(n), err
}

func (h *handlers) PutNeed(ctx context.Context, r contract.PutNeedRequestObject) (contract.PutNeedResponseObject, error) {
	return contract.PutNeed204Response{}, h.almanac.SaveNeed(ctx, r.Id, r.Body)
}

func (h *handlers) GetShoppingList(ctx context.Context, _ contract.GetShoppingListRequestObject) (contract.GetShoppingListResponseObject, error) {
	body, length, err := h.almanac.ShoppingCSV(ctx)
	return contract.GetShoppingList200TextcsvResponse{Body: body, ContentLength: length}, err
}

func (h *handlers) GetCalendarFile(ctx context.Context, _ contract.GetCalendarFileRequestObject) (contract.GetCalendarFileResponseObject, error) {
	body, length, err := h.almanac.CalendarFile(ctx)
	return contract.GetCalendarFile200TextcalendarResponse{Body: body, ContentLength: length}, err
}

func (h *handlers) GetCalendar(ctx context.Context, _ contract.GetCalendarRequestObject) (contract.GetCalendarResponseObject, error) {
	c, err := value(h.almanac.Calendar(ctx))
	return contract.GetCalendar200JSONResponse(c), err
}

func (h *handlers) MakeCalendar(ctx context.Context, _ contract.MakeCalendarRequestObject) (contract.MakeCalendarResponseObject, error) {
	c, err := value(h.almanac.MakeCalendar(ctx))
	return contract.MakeCalendar201JSONResponse(c), err
}

func (h *handlers) WithdrawCalendar(ctx context.Context, _ contract.WithdrawCalendarRequestObject) (contract.WithdrawCalendarResponseObject, error) {
	return contract.WithdrawCalendar204Response{}, h.almanac.WithdrawCalendar(ctx)
}

func (h *handlers) ReadCalendar(ctx context.Context, r contract.ReadCalendarRequestObject) (contract.ReadCalendarResponseObject, error) {
	body, length, err := h.almanac.ReadCalendar(ctx, r.Token)
	return contract.ReadCalendar200TextcalendarResponse{Body: body, ContentLength: length}, err
}

func (h *handlers) GetToday(ctx context.Context, _ contract.GetTodayRequestObject) (contract.GetTodayResponseObject, error) {
	d, err := value(h.almanac.Today(ctx))
	return contract.GetToday200JSONResponse(d), err
}
