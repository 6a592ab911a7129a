package device_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"keencrock/internal/device"
)

// Over a year it drifts as a room does: no leaps, within what a room has, warmer and
// drier in the afternoon than at night, and the same on every device.
func TestTheAirDriftsOverADay(t *testing.T) {
	h, other := device.NewHygrometer(3), device.NewHygrometer(3)
	last := h.Read(start)
	noon, night, drier := 0.0, 0.0, 0.0
	for step := range 365 * 48 {
		now := start.Add(time.Duration(step) * 30 * time.Minute)
		air := h.Read(now)
		assert.Equal(t, air, other.Read(now))
		assert.LessOrEqual(t, math.Abs(air.Celsius-last.Celsius), 0.6)
		assert.LessOrEqual(t, math.Abs(air.Humidity-last.Humidity), 3.0)
		assert.True(t, air.Celsius > 10 && air.Celsius < 28 && air.Humidity >= 20 && air.Humidity <= 95, "%+v", air)
		switch now.Hour() {
		case 15:
			noon += air.Celsius
			drier -= air.Humidity
		case 3:
			night += air.Celsius
			drier += air.Humidity
		}
		last = air
	}
	assert.Greater(t, noon, night)
	assert.Positive(t, drier)
	assert.NotEqual(t, h.Read(start), device.NewHygrometer(4).Read(start))
}
