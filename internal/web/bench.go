package web

import (
	"context"

	"keencrock/internal/station/bench"
	"keencrock/internal/tenant"
	"keencrock/internal/web/contract"
)

func (h *handlers) PlanBatch(ctx context.Context, r contract.PlanBatchRequestObject) (contract.PlanBatchResponseObject, error) {
	p, err := value(h.bench.Plan(ctx, r.Id, *r.Body))
	return contract.PlanBatch200JSONResponse(p), err
}

func (h *handlers) ListBatches(ctx context.Context, r contract.ListBatchesRequestObject) (contract.ListBatchesResponseObject, error) {
	page, err := value(h.bench.Batches(ctx, bench.BatchQuery{State: string(r.Params.State), After: r.Params.After, Limit: r.Params.Limit}))
	return contract.ListBatches200JSONResponse(page), err
}

func (h *handlers) StartBatch(ctx context.Context, r contract.StartBatchRequestObject) (contract.StartBatchResponseObject, error) {
	b, err := value(h.bench.StartBatch(ctx, *r.Body))
	return contract.StartBatch201JSONResponse(b), err
}

func (h *handlers) GetBatch(ctx context.Context, r contract.GetBatchRequestObject) (contract.GetBatchResponseObject, error) {
	b, err := value(h.bench.Batch(ctx, r.Id))
	return contract.GetBatch200JSONResponse(b), err
}

func (h *handlers) Weigh(ctx context.Context, r contract.WeighRequestObject) (contract.WeighResponseObject, error) {
	b, err := value(h.bench.Weigh(ctx, r.Id, *r.Body))
	return contract.Weigh201JSONResponse(b), err
}

func (h *handlers) LeaveOut(ctx context.Context, r contract.LeaveOutRequestObject) (contract.LeaveOutResponseObject, error) {
	b, err := value(h.bench.LeaveOut(ctx, r.Id, *r.Body))
	return contract.LeaveOut200JSONResponse(b), err
}

func (h *handlers) NoteBatch(ctx context.Context, r contract.NoteBatchRequestObject) (contract.NoteBatchResponseObject, error) {
	b, err := value(h.bench.Note(ctx, r.Id, *r.Body))
	return contract.NoteBatch201JSONResponse(b), err
}

func (h *handlers) PictureBatch(ctx context.Context, r contract.PictureBatchRequestObject) (contract.PictureBatchResponseObject, error) {
	b, err := value(h.bench.Picture(ctx, r.Id, *r.Body))
	return contract.PictureBatch201JSONResponse(b), err
}

func (h *handlers) GetPicture(ctx context.Context, r contract.GetPictureRequestObject) (contract.GetPictureResponseObject, error) {
	jpeg, length, err := h.bench.PictureFile(ctx, r.Id)
	return contract.GetPicture200ImagejpegResponse{Body: jpeg, ContentLength: length}, err
}

func (h *handlers) CorrectBatch(ctx context.Context, r contract.CorrectBatchRequestObject) (contract.CorrectBatchResponseObject, error) {
	b, err := value(h.bench.Correct(ctx, r.Id, *r.Body))
	return contract.CorrectBatch201JSONResponse(b), err
}

func (h *handlers) ReadBenchSaid(ctx context.Context, r contract.ReadBenchSaidRequestObject) (contract.ReadBenchSaidResponseObject, error) {
	said, err := value(h.bench.ReadSaid(ctx, r.Id, r.Body.Text))
	return contract.ReadBenchSaid200JSONResponse(said), err
}

func (h *handlers) MeasureBatch(ctx context.Context, r contract.MeasureBatchRequestObject) (contract.MeasureBatchResponseObject, error) {
	b, err := value(h.bench.Measure(ctx, r.Id, *r.Body))
	return contract.MeasureBatch201JSONResponse(b), err
}

func (h *handlers) ActOnBatch(ctx context.Context, r contract.ActOnBatchRequestObject) (contract.ActOnBatchResponseObject, error) {
	b, err := value(h.bench.Act(ctx, r.Id, *r.Body))
	return contract.ActOnBatch201JSONResponse(b), err
}

func (h *handlers) AddToBatch(ctx context.Context, r contract.AddToBatchRequestObject) (contract.AddToBatchResponseObject, error) {
	b, err := value(h.bench.Add(ctx, r.Id, *r.Body))
	return contract.AddToBatch201JSONResponse(b), err
}

func (h *handlers) TryAddition(ctx context.Context, r contract.TryAdditionRequestObject) (contract.TryAdditionResponseObject, error) {
	t, err := value(h.bench.Try(ctx, r.Id, *r.Body))
	return contract.TryAddition200JSONResponse(t), err
}

func (h *handlers) KeepBack(ctx context.Context, r contract.KeepBackRequestObject) (contract.KeepBackResponseObject, error) {
	b, err := value(h.bench.KeepBack(ctx, r.Id, *r.Body))
	return contract.KeepBack201JSONResponse(b), err
}

func (h *handlers) PackBatch(ctx context.Context, r contract.PackBatchRequestObject) (contract.PackBatchResponseObject, error) {
	b, err := value(h.bench.Pack(ctx, r.Id, *r.Body))
	return contract.PackBatch201JSONResponse(b), err
}

func (h *handlers) ListContainersForBatch(ctx context.Context, r contract.ListContainersForBatchRequestObject) (contract.ListContainersForBatchResponseObject, error) {
	all, err := h.bench.Containers(ctx, r.Id)
	return contract.ListContainersForBatch200JSONResponse(all), err
}

func (h *handlers) FinishBatch(ctx context.Context, r contract.FinishBatchRequestObject) (contract.FinishBatchResponseObject, error) {
	b, err := value(h.bench.Finish(ctx, r.Id, *r.Body))
	return contract.FinishBatch200JSONResponse(b), err
}

func (h *handlers) AbandonBatch(ctx context.Context, r contract.AbandonBatchRequestObject) (contract.AbandonBatchResponseObject, error) {
	b, err := value(h.bench.Abandon(ctx, r.Id, *r.Body))
	return contract.AbandonBatch200JSONResponse(b), err
}

func (h *handlers) TouchScale(ctx context.Context, r contract.TouchScaleRequestObject) (contract.TouchScaleResponseObject, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	w, err := h.settings.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	d := h.scales.scale(a.Workshop, w)
	return contract.TouchScale200JSONResponse(readingOf(h.scales.touch(d, *r.Body))), nil
}

func (h *handlers) AddJars(ctx context.Context, r contract.AddJarsRequestObject) (contract.AddJarsResponseObject, error) {
	t, err := value(h.bench.BringJars(ctx, r.Body))
	return contract.AddJars200JSONResponse(t), err
}
