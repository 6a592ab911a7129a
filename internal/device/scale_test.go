package device_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"keencrock/internal/device"
)

var start = time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC)

func settle(s *device.Scale, from time.Time) (device.Reading, time.Time) {
	now := from
	for range 200 {
		now = now.Add(50 * time.Millisecond)
		if r := s.Read(now); r.Stable || r.Overload {
			return r, now
		}
	}
	return s.Read(now), now
}

func TestTheReadingSettlesOnTheLoad(t *testing.T) {
	s := device.NewScale(1, 5000, 7)
	s.Put(227.4, start)
	first := s.Read(start.Add(60 * time.Millisecond))
	assert.False(t, first.Stable)
	assert.Less(t, first.Grams, 200.0, "the display runs after the load")
	r, took := settle(s, start)
	assert.True(t, r.Stable)
	assert.Equal(t, 227.0, r.Grams)
	assert.Less(t, took.Sub(start), 4*time.Second)
}

func TestTareTakesTheBowlOff(t *testing.T) {
	s := device.NewScale(0.5, 5000, 7)
	s.Put(412, start)
	_, now := settle(s, start)
	s.Tare(now)
	assert.Equal(t, 0.0, s.Read(now).Grams)
	s.Put(100.2, now)
	r, now := settle(s, now)
	assert.Equal(t, 100.0, r.Grams)
	s.Clear(now)
	r, _ = settle(s, now)
	assert.Equal(t, 0.0, r.Grams)
}

func TestOverloadIsSaidAndTakingOffHelps(t *testing.T) {
	s := device.NewScale(1, 2000, 7)
	s.Put(2500, start)
	r := s.Read(start.Add(time.Second))
	assert.True(t, r.Overload)
	assert.False(t, r.Stable)
	s.Put(-1000, start.Add(2*time.Second))
	r, _ = settle(s, start.Add(2*time.Second))
	assert.False(t, r.Overload)
	assert.Equal(t, 1500.0, r.Grams)
	s.Put(-9999, start.Add(9*time.Second))
	r, _ = settle(s, start.Add(9*time.Second))
	assert.Equal(t, 0.0, r.Grams)
}
