package web

import (
	"context"

	"keencrock/internal/station/pantry"
	"keencrock/internal/web/contract"
)

func (h *handlers) ListLabels(ctx context.Context, _ contract.ListLabelsRequestObject) (contract.ListLabelsResponseObject, error) {
	k, err := value(h.pantry.LabelKinds(ctx))
	return contract.ListLabels200JSONResponse(k), err
}

func (h *handlers) ViewLabel(ctx context.Context, r contract.ViewLabelRequestObject) (contract.ViewLabelResponseObject, error) {
	v, err := value(h.pantry.ViewLabel(ctx, r.Id, *r.Body))
	return contract.ViewLabel200JSONResponse(v), err
}

func (h *handlers) ListPrints(ctx context.Context, r contract.ListPrintsRequestObject) (contract.ListPrintsResponseObject, error) {
	p, err := h.pantry.Prints(ctx, r.Id)
	return contract.ListPrints200JSONResponse(p), err
}

func (h *handlers) PrintLabels(ctx context.Context, r contract.PrintLabelsRequestObject) (contract.PrintLabelsResponseObject, error) {
	p, err := value(h.pantry.PrintLabels(ctx, r.Id, *r.Body))
	return contract.PrintLabels201JSONResponse(p), err
}

func (h *handlers) GetPrint(ctx context.Context, r contract.GetPrintRequestObject) (contract.GetPrintResponseObject, error) {
	pdf, length, err := h.pantry.PrintFile(ctx, r.Id, r.Params.Sheet, r.Params.Place)
	return contract.GetPrint200ApplicationpdfResponse{Body: pdf, ContentLength: length}, err
}

func (h *handlers) ListFillChecks(ctx context.Context, r contract.ListFillChecksRequestObject) (contract.ListFillChecksResponseObject, error) {
	c, err := h.pantry.FillChecks(ctx, r.Id)
	return contract.ListFillChecks200JSONResponse(c), err
}

func (h *handlers) CheckFill(ctx context.Context, r contract.CheckFillRequestObject) (contract.CheckFillResponseObject, error) {
	c, err := value(h.pantry.CheckFill(ctx, r.Id, *r.Body))
	return contract.CheckFill201JSONResponse(c), err
}

func (h *handlers) GetPictogram(_ context.Context, r contract.GetPictogramRequestObject) (contract.GetPictogramResponseObject, error) {
	svg, length, err := h.pantry.Pictogram(r.Code)
	return contract.GetPictogram200ImagesvgXmlResponse{Body: svg, ContentLength: length}, err
}

func (h *handlers) AskJarWhy(ctx context.Context, r contract.AskJarWhyRequestObject) (contract.AskJarWhyResponseObject, error) {
	f, err := value(h.pantry.AskJarWhy(ctx, r.Token, pantry.JarWhy{Seen: r.Params.Seen, Answers: r.Params.Answers, Hardness: r.Params.Hardness, Dose: r.Params.Dose}))
	return contract.AskJarWhy200JSONResponse(f), err
}

func (h *handlers) ReadJar(ctx context.Context, r contract.ReadJarRequestObject) (contract.ReadJarResponseObject, error) {
	p, err := value(h.pantry.ReadJar(ctx, r.Token, r.Params.Hardness))
	return contract.ReadJar200JSONResponse(p), err
}

func (h *handlers) GetSheet(ctx context.Context, r contract.GetSheetRequestObject) (contract.GetSheetResponseObject, error) {
	p, err := value(h.pantry.Sheet(ctx, r.Id))
	return contract.GetSheet200JSONResponse(p), err
}
