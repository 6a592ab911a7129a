package web

import (
	"context"
	"log/slog"
	"time"

	"keencrock/internal/device"
	"keencrock/internal/station/rack"
)

// readHygrometers reads the simulated hygrometers of all workshops that have one, at
// their rhythm, until the context ends.
func readHygrometers(ctx context.Context, r *rack.Service) {
	again := time.NewTicker(rack.ReadingTime / 3) // so that no reading is missed by much
	defer again.Stop()
	for {
		if err := r.ReadHygrometers(ctx, airOf); err != nil && ctx.Err() == nil {
			slog.Warn("the hygrometers could not be read", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-again.C:
		}
	}
}

// airOf is what the hygrometer of a workshop shows.
func airOf(workshop [16]byte, at time.Time) (celsius, humidity float64) {
	air := device.NewHygrometer(uint64(workshop[15])).Read(at)
	return air.Celsius, air.Humidity
}
