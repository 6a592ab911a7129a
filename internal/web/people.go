package web

import (
	"context"
	"time"

	"keencrock/api"
	"keencrock/internal/station/people"
	"keencrock/internal/tenant"
	"keencrock/internal/web/contract"
)

func (h *handlers) GetSetup(ctx context.Context, _ contract.GetSetupRequestObject) (contract.GetSetupResponseObject, error) {
	needed, err := h.people.SetupNeeded(ctx)
	return contract.GetSetup200JSONResponse{Needed: needed}, err
}

func (h *handlers) MakeFirstOwner(ctx context.Context, r contract.MakeFirstOwnerRequestObject) (contract.MakeFirstOwnerResponseObject, error) {
	token, session, err := h.people.MakeFirstOwner(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	return contract.MakeFirstOwner201JSONResponse{SignedInJSONResponse: signedInAnswer(token, session)}, nil
}

func (h *handlers) SignIn(ctx context.Context, r contract.SignInRequestObject) (contract.SignInResponseObject, error) {
	token, session, err := h.people.SignIn(ctx, *r.Body, addressFrom(ctx))
	if err != nil {
		return nil, err
	}
	return contract.SignIn201JSONResponse{SignedInJSONResponse: signedInAnswer(token, session)}, nil
}

func signedInAnswer(token string, session *api.Session) contract.SignedInJSONResponse {
	return contract.SignedInJSONResponse{Body: *session,
		Headers: contract.SignedInResponseHeaders{SetCookie: cookie(token, people.SessionLife(), false)}}
}

func (h *handlers) GetSession(ctx context.Context, _ contract.GetSessionRequestObject) (contract.GetSessionResponseObject, error) {
	session, err := value(h.people.Session(ctx, signedInFrom(ctx).csrf))
	return contract.GetSession200JSONResponse(session), err
}

func (h *handlers) SignOut(ctx context.Context, r contract.SignOutRequestObject) (contract.SignOutResponseObject, error) {
	err := h.people.SignOut(ctx, signedInFrom(ctx).token, r.Params.Everywhere)
	return contract.SignOut204Response{Headers: contract.SignedOutResponseHeaders{SetCookie: cookie("", time.Hour, false)}}, err
}

func (h *handlers) ChangePassword(ctx context.Context, r contract.ChangePasswordRequestObject) (contract.ChangePasswordResponseObject, error) {
	return contract.ChangePassword204Response{}, h.people.ChangePassword(ctx, *r.Body, signedInFrom(ctx).token, addressFrom(ctx))
}

func (h *handlers) ListPeople(ctx context.Context, _ contract.ListPeopleRequestObject) (contract.ListPeopleResponseObject, error) {
	people, err := h.people.People(ctx)
	return contract.ListPeople200JSONResponse(people), err
}

func (h *handlers) AddPerson(ctx context.Context, r contract.AddPersonRequestObject) (contract.AddPersonResponseObject, error) {
	p, err := value(h.people.AddPerson(ctx, *r.Body))
	return contract.AddPerson201JSONResponse(p), err
}

func (h *handlers) ChangeRole(ctx context.Context, r contract.ChangeRoleRequestObject) (contract.ChangeRoleResponseObject, error) {
	p, err := value(h.people.ChangeRole(ctx, r.Id, tenant.Role(r.Body.Role)))
	return contract.ChangeRole200JSONResponse(p), err
}

func (h *handlers) RemovePerson(ctx context.Context, r contract.RemovePersonRequestObject) (contract.RemovePersonResponseObject, error) {
	return contract.RemovePerson204Response{}, h.people.RemovePerson(ctx, r.Id)
}
