package web

import (
	"bufio"
	"log/slog"
	"mime"
	"time"

	"github.com/gofiber/fiber/v3"

	"context"
	"keencrock/internal/station/settings"

	"keencrock/internal/tenant"
	"keencrock/internal/web/contract"
)

func (h *handlers) GetWorkshop(ctx context.Context, _ contract.GetWorkshopRequestObject) (contract.GetWorkshopResponseObject, error) {
	w, err := value(h.settings.Workshop(ctx))
	return contract.GetWorkshop200JSONResponse(w), err
}

func (h *handlers) PutWorkshop(ctx context.Context, r contract.PutWorkshopRequestObject) (contract.PutWorkshopResponseObject, error) {
	w, err := h.settings.SaveWorkshop(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	if a, err := tenant.Require(ctx, tenant.Owner); err == nil {
		h.scales.scale(a.Workshop, w) // open streams read the new one
	}
	return contract.PutWorkshop200JSONResponse(*w), nil
}

func (h *handlers) ListSizes(ctx context.Context, _ contract.ListSizesRequestObject) (contract.ListSizesResponseObject, error) {
	sizes, err := h.settings.Sizes(ctx)
	return contract.ListSizes200JSONResponse(sizes), err
}

func (h *handlers) PutSize(ctx context.Context, r contract.PutSizeRequestObject) (contract.PutSizeResponseObject, error) {
	sizes, err := h.settings.SetSize(ctx, *r.Body)
	return contract.PutSize200JSONResponse(sizes), err
}

func (h *handlers) GetReach(ctx context.Context, _ contract.GetReachRequestObject) (contract.GetReachResponseObject, error) {
	r, err := value(h.settings.Reach(ctx))
	return contract.GetReach200JSONResponse(r), err
}

// exportLimit is how long an archive may be read.
const exportLimit = 10 * time.Minute

// export streams all of a workshop. What breaks off has no end, and is no archive.
func export(s *settings.Service) fiber.Handler {
	return func(c fiber.Ctx) error {
		name, write, err := s.Export(c.Context())
		if err != nil {
			return err
		}
		c.Set("Content-Type", "application/zip")
		c.Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
		c.Set("Cache-Control", "no-store")
		ctx := context.WithoutCancel(c.Context())
		id := requestID(c)
		return c.SendStreamWriter(func(w *bufio.Writer) {
			ctx, cancel := context.WithTimeout(ctx, exportLimit)
			defer cancel()
			if err := write(ctx, w); err != nil {
				slog.Warn("an export broke off", "id", id, "error", err)
				return
			}
			_ = w.Flush() // or who asked is gone
		})
	}
}
