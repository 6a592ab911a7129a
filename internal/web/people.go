package web

import (
	"cmp"
	"context"
	"time"

	"github.com/gofiber/fiber/v3"

	"keencrock/internal/station/people"
	"keencrock/internal/tenant"
	"keencrock/internal/web/contract"
)

func (h *handlers) GetSetup(ctx context.Context, _ contract.GetSetupRequestObject) (contract.GetSetupResponseObject, error) {
	setup, err := value(h.people.Setup(ctx))
	return contract.GetSetup200JSONResponse(setup), err
}

func (h *handlers) MakeFirstOwner(ctx context.Context, r contract.MakeFirstOwnerRequestObject) (contract.MakeFirstOwnerResponseObject, error) {
	e, err := h.people.MakeFirstOwner(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	return entered{contract.MakeFirstOwner201JSONResponse{SignedInJSONResponse: signedInAnswer(ctx, e)}, e}, nil
}

func (h *handlers) SignIn(ctx context.Context, r contract.SignInRequestObject) (contract.SignInResponseObject, error) {
	e, err := h.people.SignIn(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	return entered{contract.SignIn201JSONResponse{SignedInJSONResponse: signedInAnswer(ctx, e)}, e}, nil
}

func signedInAnswer(ctx context.Context, e *people.Entry) contract.SignedInJSONResponse {
	return contract.SignedInJSONResponse{Body: *e.Session,
		Headers: contract.SignedInResponseHeaders{SetCookie: cookie(e.Token, people.SessionLife(), tenant.CallerOf(ctx).Secure)}}
}

// entered is an answer to who came in, with what lets the browser be known again.
type entered struct {
	answer any
	entry  *people.Entry
}

func (e entered) leave(c fiber.Ctx) {
	c.Response().Header.Add("Set-Cookie", kept(beforeCookie, e.entry.Before, "/api/session", beforeFor, tenant.CallerOf(c.Context()).Secure))
}

func (e entered) VisitSignInResponse(c fiber.Ctx) error {
	defer e.leave(c)
	return e.answer.(contract.SignInResponseObject).VisitSignInResponse(c)
}

func (e entered) VisitMakeFirstOwnerResponse(c fiber.Ctx) error {
	defer e.leave(c)
	return e.answer.(contract.MakeFirstOwnerResponseObject).VisitMakeFirstOwnerResponse(c)
}

func (e entered) VisitChangePasswordResponse(c fiber.Ctx) error {
	defer e.leave(c)
	return e.answer.(contract.ChangePasswordResponseObject).VisitChangePasswordResponse(c)
}

func (h *handlers) GetSession(ctx context.Context, _ contract.GetSessionRequestObject) (contract.GetSessionResponseObject, error) {
	session, err := value(h.people.Session(ctx, signedInFrom(ctx).csrf))
	return contract.GetSession200JSONResponse(session), err
}

func (h *handlers) SignOut(ctx context.Context, r contract.SignOutRequestObject) (contract.SignOutResponseObject, error) {
	err := h.people.SignOut(ctx, signedInFrom(ctx).token, r.Params.Everywhere)
	return contract.SignOut204Response{Headers: contract.SignedOutResponseHeaders{SetCookie: cookie("", time.Hour, tenant.CallerOf(ctx).Secure)}}, err
}

func (h *handlers) ChangePassword(ctx context.Context, r contract.ChangePasswordRequestObject) (contract.ChangePasswordResponseObject, error) {
	e, err := h.people.ChangePassword(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	return entered{contract.ChangePassword200JSONResponse{SignedInJSONResponse: signedInAnswer(ctx, e)}, e}, nil
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

func (h *handlers) BeginFactor(ctx context.Context, r contract.BeginFactorRequestObject) (contract.BeginFactorResponseObject, error) {
	f, err := value(h.people.BeginFactor(ctx, *r.Body))
	return contract.BeginFactor200JSONResponse(f), err
}

func (h *handlers) ConfirmFactor(ctx context.Context, r contract.ConfirmFactorRequestObject) (contract.ConfirmFactorResponseObject, error) {
	codes, err := value(h.people.ConfirmFactor(ctx, *r.Body))
	return contract.ConfirmFactor200JSONResponse(codes), err
}

func (h *handlers) EndFactor(ctx context.Context, r contract.EndFactorRequestObject) (contract.EndFactorResponseObject, error) {
	return contract.EndFactor204Response{}, h.people.EndFactor(ctx, *r.Body)
}

func (h *handlers) ListSessions(ctx context.Context, _ contract.ListSessionsRequestObject) (contract.ListSessionsResponseObject, error) {
	places, err := h.people.Sessions(ctx, signedInFrom(ctx).token)
	return contract.ListSessions200JSONResponse(places), err
}

func (h *handlers) EndSession(ctx context.Context, r contract.EndSessionRequestObject) (contract.EndSessionResponseObject, error) {
	return contract.EndSession204Response{}, h.people.EndSession(ctx, r.Id)
}

func (h *handlers) ListAudit(ctx context.Context, r contract.ListAuditRequestObject) (contract.ListAuditResponseObject, error) {
	audit, err := h.people.Audit(ctx, r.Params.Before, cmp.Or(r.Params.Limit, 50))
	return contract.ListAudit200JSONResponse(audit), err
}

func (h *handlers) RemoveDemo(ctx context.Context, _ contract.RemoveDemoRequestObject) (contract.RemoveDemoResponseObject, error) {
	return contract.RemoveDemo204Response{}, h.people.RemoveDemo(ctx)
}
