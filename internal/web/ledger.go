package web

import (
	"context"
	"strings"

	"keencrock/internal/web/contract"
)

func (h *handlers) ListGoodCosts(ctx context.Context, _ contract.ListGoodCostsRequestObject) (contract.ListGoodCostsResponseObject, error) {
	g, err := h.ledger.Goods(ctx)
	return contract.ListGoodCosts200JSONResponse(g), err
}

func (h *handlers) GetBatchCost(ctx context.Context, r contract.GetBatchCostRequestObject) (contract.GetBatchCostResponseObject, error) {
	b, err := value(h.ledger.Batch(ctx, r.Id))
	return contract.GetBatchCost200JSONResponse(b), err
}

func (h *handlers) TellHands(ctx context.Context, r contract.TellHandsRequestObject) (contract.TellHandsResponseObject, error) {
	b, err := value(h.ledger.TellHands(ctx, r.Id, r.Body.Minutes))
	return contract.TellHands200JSONResponse(b), err
}

func (h *handlers) GetRates(ctx context.Context, _ contract.GetRatesRequestObject) (contract.GetRatesResponseObject, error) {
	v, err := value(h.ledger.Rates(ctx))
	return contract.GetRates200JSONResponse(v), err
}

func (h *handlers) PutRates(ctx context.Context, r contract.PutRatesRequestObject) (contract.PutRatesResponseObject, error) {
	v, err := value(h.ledger.SaveRates(ctx, r.Body))
	return contract.PutRates200JSONResponse(v), err
}

func (h *handlers) ListPriceLines(ctx context.Context, _ contract.ListPriceLinesRequestObject) (contract.ListPriceLinesResponseObject, error) {
	l, err := h.ledger.PriceLines(ctx)
	return contract.ListPriceLines200JSONResponse(l), err
}

func (h *handlers) ListPrices(ctx context.Context, _ contract.ListPricesRequestObject) (contract.ListPricesResponseObject, error) {
	p, err := h.ledger.Prices(ctx)
	return contract.ListPrices200JSONResponse(p), err
}

func (h *handlers) PutPrices(ctx context.Context, r contract.PutPricesRequestObject) (contract.PutPricesResponseObject, error) {
	p, err := h.ledger.SetPrices(ctx, r.Body)
	return contract.PutPrices200JSONResponse(p), err
}

func (h *handlers) GetPriceList(ctx context.Context, r contract.GetPriceListRequestObject) (contract.GetPriceListResponseObject, error) {
	body, length, err := h.ledger.PriceList(ctx, string(r.Params.As), r.Params.Outlet)
	switch r.Params.As {
	case "csv":
		return contract.GetPriceList200TextcsvResponse{Body: body, ContentLength: length}, err
	case "xlsx":
		return contract.GetPriceList200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: body, ContentLength: length}, err
	}
	return contract.GetPriceList200ApplicationpdfResponse{Body: body, ContentLength: length}, err
}

func (h *handlers) GetYear(ctx context.Context, r contract.GetYearRequestObject) (contract.GetYearResponseObject, error) {
	y, err := value(h.ledger.Year(ctx, r.Params.Year))
	return contract.GetYear200JSONResponse(y), err
}

func (h *handlers) GetYearFile(ctx context.Context, r contract.GetYearFileRequestObject) (contract.GetYearFileResponseObject, error) {
	body, length, err := h.ledger.YearFile(ctx, r.Params.Year, string(r.Params.As))
	if r.Params.As == "csv" {
		return contract.GetYearFile200TextcsvResponse{Body: body, ContentLength: length}, err
	}
	return contract.GetYearFile200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: body, ContentLength: length}, err
}

func (h *handlers) GetStockValue(ctx context.Context, r contract.GetStockValueRequestObject) (contract.GetStockValueResponseObject, error) {
	v, err := value(h.ledger.StockValue(ctx, r.Params.Day.Time))
	return contract.GetStockValue200JSONResponse(v), err
}

func (h *handlers) ListOutlets(ctx context.Context, _ contract.ListOutletsRequestObject) (contract.ListOutletsResponseObject, error) {
	o, err := h.ledger.Outlets(ctx)
	return contract.ListOutlets200JSONResponse(o), err
}

func (h *handlers) AddOutlet(ctx context.Context, r contract.AddOutletRequestObject) (contract.AddOutletResponseObject, error) {
	o, err := value(h.ledger.AddOutlet(ctx, r.Body))
	return contract.AddOutlet201JSONResponse(o), err
}

func (h *handlers) PutOutlet(ctx context.Context, r contract.PutOutletRequestObject) (contract.PutOutletResponseObject, error) {
	o, err := value(h.ledger.SaveOutlet(ctx, r.Id, r.Body))
	return contract.PutOutlet200JSONResponse(o), err
}

func (h *handlers) RemoveOutlet(ctx context.Context, r contract.RemoveOutletRequestObject) (contract.RemoveOutletResponseObject, error) {
	return contract.RemoveOutlet204Response{}, h.ledger.RemoveOutlet(ctx, r.Id, r.Params.Forget)
}

func (h *handlers) ListActs(ctx context.Context, r contract.ListActsRequestObject) (contract.ListActsResponseObject, error) {
	acts, next, err := h.ledger.Acts(ctx, r.Params.Outlet, r.Params.After, r.Params.Limit)
	return contract.ListActs200JSONResponse{Body: acts, Headers: contract.ListActs200ResponseHeaders{NextPage: next}}, err
}

func (h *handlers) AddAct(ctx context.Context, r contract.AddActRequestObject) (contract.AddActResponseObject, error) {
	a, err := value(h.ledger.AddAct(ctx, r.Body))
	return contract.AddAct201JSONResponse(a), err
}

func (h *handlers) TryAct(ctx context.Context, r contract.TryActRequestObject) (contract.TryActResponseObject, error) {
	a, err := value(h.ledger.TryAct(ctx, r.Body))
	return contract.TryAct200JSONResponse(a), err
}

func (h *handlers) ReadAct(ctx context.Context, r contract.ReadActRequestObject) (contract.ReadActResponseObject, error) {
	a, err := value(h.ledger.ReadSaid(ctx, r.Body.Text))
	return contract.ReadAct200JSONResponse(a), err
}

func (h *handlers) GetDeliveryNote(ctx context.Context, r contract.GetDeliveryNoteRequestObject) (contract.GetDeliveryNoteResponseObject, error) {
	pdf, length, err := h.ledger.DeliveryNote(ctx, r.Id)
	return contract.GetDeliveryNote200ApplicationpdfResponse{Body: pdf, ContentLength: length}, err
}

func (h *handlers) ListHolders(ctx context.Context, r contract.ListHoldersRequestObject) (contract.ListHoldersResponseObject, error) {
	o, err := h.ledger.Holders(ctx, r.Id)
	return contract.ListHolders200JSONResponse(o), err
}

func (h *handlers) GetBatchRecord(ctx context.Context, r contract.GetBatchRecordRequestObject) (contract.GetBatchRecordResponseObject, error) {
	pdf, length, err := h.ledger.BatchRecord(ctx, r.Id)
	return contract.GetBatchRecord200ApplicationpdfResponse{Body: pdf, ContentLength: length}, err
}

func (h *handlers) ListStallDays(ctx context.Context, _ contract.ListStallDaysRequestObject) (contract.ListStallDaysResponseObject, error) {
	d, err := h.ledger.StallDays(ctx)
	return contract.ListStallDays200JSONResponse(d), err
}

func (h *handlers) BeginStallDay(ctx context.Context, r contract.BeginStallDayRequestObject) (contract.BeginStallDayResponseObject, error) {
	d, err := value(h.ledger.BeginStallDay(ctx, r.Body))
	return contract.BeginStallDay201JSONResponse(d), err
}

func (h *handlers) GetStallDay(ctx context.Context, r contract.GetStallDayRequestObject) (contract.GetStallDayResponseObject, error) {
	d, err := value(h.ledger.StallDay(ctx, r.Id))
	return contract.GetStallDay200JSONResponse(d), err
}

func (h *handlers) SellAtStall(ctx context.Context, r contract.SellAtStallRequestObject) (contract.SellAtStallResponseObject, error) {
	d, err := value(h.ledger.SellAtStall(ctx, r.Id, r.Body))
	return contract.SellAtStall201JSONResponse(d), err
}

func (h *handlers) EndStallDay(ctx context.Context, r contract.EndStallDayRequestObject) (contract.EndStallDayResponseObject, error) {
	d, err := value(h.ledger.EndStallDay(ctx, r.Id, r.Body))
	return contract.EndStallDay200JSONResponse(d), err
}

func (h *handlers) ReadSheet(ctx context.Context, r contract.ReadSheetRequestObject) (contract.ReadSheetResponseObject, error) {
	body := r.Body
	if body == nil {
		body = strings.NewReader("")
	}
	t, err := value(h.ledger.ReadSheet(ctx, body))
	return contract.ReadSheet200JSONResponse(t), err
}

func (h *handlers) MakeWorkbook(ctx context.Context, r contract.MakeWorkbookRequestObject) (contract.MakeWorkbookResponseObject, error) {
	body, length, err := h.ledger.Workbook(ctx, r.Body)
	return contract.MakeWorkbook200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: body, ContentLength: length}, err
}

func (h *handlers) AddOutlets(ctx context.Context, r contract.AddOutletsRequestObject) (contract.AddOutletsResponseObject, error) {
	t, err := value(h.ledger.BringOutlets(ctx, r.Body))
	return contract.AddOutlets200JSONResponse(t), err
}

func (h *handlers) AddActs(ctx context.Context, r contract.AddActsRequestObject) (contract.AddActsResponseObject, error) {
	t, err := value(h.ledger.BringActs(ctx, r.Body))
	return contract.AddActs200JSONResponse(t), err
}
