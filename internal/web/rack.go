package web

import (
	"context"

	"keencrock/internal/web/contract"
)

func (h *handlers) GetRack(ctx context.Context, _ contract.GetRackRequestObject) (contract.GetRackResponseObject, error) {
	r, err := value(h.rack.Standing(ctx))
	return contract.GetRack200JSONResponse(r), err
}

func (h *handlers) GetRoom(ctx context.Context, _ contract.GetRoomRequestObject) (contract.GetRoomResponseObject, error) {
	r, err := value(h.rack.Room(ctx))
	return contract.GetRoom200JSONResponse(r), err
}

func (h *handlers) NoteRoom(ctx context.Context, r contract.NoteRoomRequestObject) (contract.NoteRoomResponseObject, error) {
	room, err := value(h.rack.NoteRoom(ctx, *r.Body))
	return contract.NoteRoom201JSONResponse(room), err
}

func (h *handlers) ListVessels(ctx context.Context, _ contract.ListVesselsRequestObject) (contract.ListVesselsResponseObject, error) {
	all, err := h.rack.Vessels(ctx)
	return contract.ListVessels200JSONResponse(all), err
}

func (h *handlers) AddVessel(ctx context.Context, r contract.AddVesselRequestObject) (contract.AddVesselResponseObject, error) {
	v, err := value(h.rack.Add(ctx, *r.Body))
	return contract.AddVessel201JSONResponse(v), err
}

func (h *handlers) GetVessel(ctx context.Context, r contract.GetVesselRequestObject) (contract.GetVesselResponseObject, error) {
	v, err := value(h.rack.Vessel(ctx, r.Id))
	return contract.GetVessel200JSONResponse(v), err
}

func (h *handlers) PutVessel(ctx context.Context, r contract.PutVesselRequestObject) (contract.PutVesselResponseObject, error) {
	v, err := value(h.rack.Keep(ctx, r.Id, *r.Body))
	return contract.PutVessel200JSONResponse(v), err
}

func (h *handlers) DoToVessel(ctx context.Context, r contract.DoToVesselRequestObject) (contract.DoToVesselResponseObject, error) {
	v, err := value(h.rack.Do(ctx, r.Id, *r.Body))
	return contract.DoToVessel201JSONResponse(v), err
}

func (h *handlers) UndoToVessel(ctx context.Context, r contract.UndoToVesselRequestObject) (contract.UndoToVesselResponseObject, error) {
	v, err := value(h.rack.Undo(ctx, r.Id, r.Body.Event))
	return contract.UndoToVessel201JSONResponse(v), err
}
