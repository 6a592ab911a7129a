package web

import (
	"context"

	"keencrock/internal/web/contract"
)

func (h *handlers) ListTrials(ctx context.Context, r contract.ListTrialsRequestObject) (contract.ListTrialsResponseObject, error) {
	t, err := h.trials.List(ctx, r.Params.Formula)
	return contract.ListTrials200JSONResponse(t), err
}

func (h *handlers) BeginTrial(ctx context.Context, r contract.BeginTrialRequestObject) (contract.BeginTrialResponseObject, error) {
	t, err := value(h.trials.Begin(ctx, r.Body))
	return contract.BeginTrial201JSONResponse(t), err
}

func (h *handlers) GetTrial(ctx context.Context, r contract.GetTrialRequestObject) (contract.GetTrialResponseObject, error) {
	t, err := value(h.trials.Trial(ctx, r.Id, r.Params.Key))
	return contract.GetTrial200JSONResponse(t), err
}

func (h *handlers) MarkTrial(ctx context.Context, r contract.MarkTrialRequestObject) (contract.MarkTrialResponseObject, error) {
	t, err := value(h.trials.Mark(ctx, r.Id, r.Body))
	return contract.MarkTrial200JSONResponse(t), err
}

func (h *handlers) RankTrial(ctx context.Context, r contract.RankTrialRequestObject) (contract.RankTrialResponseObject, error) {
	t, err := value(h.trials.Rank(ctx, r.Id, r.Body))
	return contract.RankTrial200JSONResponse(t), err
}

func (h *handlers) EndTrial(ctx context.Context, r contract.EndTrialRequestObject) (contract.EndTrialResponseObject, error) {
	t, err := value(h.trials.End(ctx, r.Id))
	return contract.EndTrial200JSONResponse(t), err
}

func (h *handlers) PairsNeeded(ctx context.Context, r contract.PairsNeededRequestObject) (contract.PairsNeededResponseObject, error) {
	p, err := value(h.trials.Needed(ctx, r.Params.Difference, r.Params.Spread, r.Params.Goods))
	return contract.PairsNeeded200JSONResponse(p), err
}

func (h *handlers) FindSwatch(ctx context.Context, r contract.FindSwatchRequestObject) (contract.FindSwatchResponseObject, error) {
	s, err := value(h.trials.Swatch(ctx, r.Body.Jpeg))
	return contract.FindSwatch200JSONResponse(s), err
}

func (h *handlers) MeasureStain(ctx context.Context, r contract.MeasureStainRequestObject) (contract.MeasureStainResponseObject, error) {
	s, err := value(h.trials.Stain(ctx, r.Body))
	return contract.MeasureStain200JSONResponse(s), err
}

func (h *handlers) ListOwnFigures(ctx context.Context, _ contract.ListOwnFiguresRequestObject) (contract.ListOwnFiguresResponseObject, error) {
	f, err := h.trials.Figures(ctx)
	return contract.ListOwnFigures200JSONResponse(f), err
}

func (h *handlers) MeasureFigure(ctx context.Context, r contract.MeasureFigureRequestObject) (contract.MeasureFigureResponseObject, error) {
	f, err := value(h.trials.Measure(ctx, r.Body.Said))
	return contract.MeasureFigure201JSONResponse(f), err
}

func (h *handlers) UseFigure(ctx context.Context, r contract.UseFigureRequestObject) (contract.UseFigureResponseObject, error) {
	f, err := value(h.trials.UseFigure(ctx, r.Body))
	return contract.UseFigure200JSONResponse(f), err
}

func (h *handlers) ListFigureChanges(ctx context.Context, r contract.ListFigureChangesRequestObject) (contract.ListFigureChangesResponseObject, error) {
	c, err := h.trials.FigureChanges(ctx, r.Params.Kind, r.Params.Of)
	return contract.ListFigureChanges200JSONResponse(c), err
}

func (h *handlers) CountMeasuring(ctx context.Context, r contract.CountMeasuringRequestObject) (contract.CountMeasuringResponseObject, error) {
	f, err := value(h.trials.CountMeasuring(ctx, r.Id, r.Body.Counts))
	return contract.CountMeasuring200JSONResponse(f), err
}

func (h *handlers) ListSampleSigns(ctx context.Context, _ contract.ListSampleSignsRequestObject) (contract.ListSampleSignsResponseObject, error) {
	s, err := h.trials.Signs(ctx)
	return contract.ListSampleSigns200JSONResponse(s), err
}

func (h *handlers) ListSamples(ctx context.Context, _ contract.ListSamplesRequestObject) (contract.ListSamplesResponseObject, error) {
	s, err := h.trials.Samples(ctx)
	return contract.ListSamples200JSONResponse(s), err
}

func (h *handlers) KeepSamples(ctx context.Context, r contract.KeepSamplesRequestObject) (contract.KeepSamplesResponseObject, error) {
	s, err := h.trials.KeepSamples(ctx, r.Body)
	return contract.KeepSamples201JSONResponse(s), err
}

func (h *handlers) LookAtSample(ctx context.Context, r contract.LookAtSampleRequestObject) (contract.LookAtSampleResponseObject, error) {
	s, err := value(h.trials.Look(ctx, r.Id, r.Body))
	return contract.LookAtSample201JSONResponse(s), err
}

func (h *handlers) EndSample(ctx context.Context, r contract.EndSampleRequestObject) (contract.EndSampleResponseObject, error) {
	s, err := value(h.trials.EndSample(ctx, r.Id, r.Body.Back))
	return contract.EndSample200JSONResponse(s), err
}

func (h *handlers) CountLook(ctx context.Context, r contract.CountLookRequestObject) (contract.CountLookResponseObject, error) {
	s, err := value(h.trials.CountLook(ctx, r.Id, r.Body.Counts))
	return contract.CountLook200JSONResponse(s), err
}

func (h *handlers) KeepSwatch(ctx context.Context, r contract.KeepSwatchRequestObject) (contract.KeepSwatchResponseObject, error) {
	t, err := value(h.trials.KeepSwatch(ctx, r.Id, r.Body))
	return contract.KeepSwatch201JSONResponse(t), err
}

func (h *handlers) GetSwatch(ctx context.Context, r contract.GetSwatchRequestObject) (contract.GetSwatchResponseObject, error) {
	jpeg, length, err := h.trials.SwatchFile(ctx, r.Id)
	return contract.GetSwatch200ImagejpegResponse{Body: jpeg, ContentLength: length}, err
}

func (h *handlers) ChooseAreas(ctx context.Context, r contract.ChooseAreasRequestObject) (contract.ChooseAreasResponseObject, error) {
	t, err := value(h.trials.ChooseAreas(ctx, r.Id, *r.Body))
	return contract.ChooseAreas200JSONResponse(t), err
}

func (h *handlers) ListFoundCauses(ctx context.Context, r contract.ListFoundCausesRequestObject) (contract.ListFoundCausesResponseObject, error) {
	c, err := h.trials.FoundCauses(ctx, r.Params.Formula)
	return contract.ListFoundCauses200JSONResponse(c), err
}

func (h *handlers) KeepFoundCause(ctx context.Context, r contract.KeepFoundCauseRequestObject) (contract.KeepFoundCauseResponseObject, error) {
	c, err := value(h.trials.KeepFoundCause(ctx, r.Body))
	return contract.KeepFoundCause201JSONResponse(c), err
}

func (h *handlers) TakeBackFoundCause(ctx context.Context, r contract.TakeBackFoundCauseRequestObject) (contract.TakeBackFoundCauseResponseObject, error) {
	return contract.TakeBackFoundCause204Response{}, h.trials.TakeBackFoundCause(ctx, r.Id)
}
