package web

import (
	"context"
	"net/http"
	"time"

	"github.com/gofiber/fiber/v3"

	"keencrock/internal/station/almanac"
	"keencrock/internal/station/bench"
	"keencrock/internal/station/crock"
	"keencrock/internal/station/handbook"
	"keencrock/internal/station/ledger"
	"keencrock/internal/station/pantry"
	"keencrock/internal/station/people"
	"keencrock/internal/station/rack"
	"keencrock/internal/station/settings"
	"keencrock/internal/station/shelf"
	"keencrock/internal/station/strip"
	"keencrock/internal/station/trials"
	"keencrock/internal/tenant"
	"keencrock/internal/web/contract"
)

// handlers answers each operation of the contract by its use case: one thin file
// of them a station.
type handlers struct {
	house    *tenant.House
	people   *people.Service
	settings *settings.Service
	shelf    *shelf.Service
	crock    *crock.Service
	bench    *bench.Service
	pantry   *pantry.Service
	ledger   *ledger.Service
	almanac  *almanac.Service
	trials   *trials.Service
	handbook *handbook.Service
	rack     *rack.Service
	strip    *strip.Service
	scales   *scales
	version  string
}

func newHandlers(h *tenant.House, version string, scales *scales) *handlers {
	return &handlers{house: h, people: people.New(h), settings: settings.New(h), shelf: shelf.New(h), crock: crock.New(h), bench: bench.New(h),
		pantry: pantry.New(h), ledger: ledger.New(h), almanac: almanac.New(h), trials: trials.New(h), handbook: handbook.New(h), rack: rack.New(h), strip: strip.New(h), scales: scales, version: version}
}

var _ contract.StrictServerInterface = (*handlers)(nil)

// value hands on what a use case returned by pointer.
func value[T any](v *T, err error) (T, error) {
	if err != nil || v == nil {
		var none T
		return none, err
	}
	return *v, nil
}

// ready says whether the server can do what it is there for.
func ready(house *tenant.House) fiber.Handler {
	return func(c fiber.Ctx) error {
		ctx, cancel := context.WithTimeout(c.Context(), readyLimit)
		defer cancel()
		if err := house.Ping(ctx); err != nil {
			return c.Status(http.StatusServiceUnavailable).SendString("the database does not answer\n")
		}
		return c.SendString("ready\n")
	}
}

const readyLimit = 2 * time.Second

func (h *handlers) GetHealth(ctx context.Context, _ contract.GetHealthRequestObject) (contract.GetHealthResponseObject, error) {
	err := h.house.Ping(ctx)
	return contract.GetHealth200JSONResponse{Status: "well", Version: h.version}, err
}
