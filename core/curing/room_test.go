package curing_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/curing"
)

func TestDampAirHindersWhatDrinksWater(t *testing.T) {
	air := curing.Air{Celsius: 18, Humidity: 68}
	assert.Contains(t, air.Hinders(59), "Too damp to dry: the air is at 68 %, and above 59 % it drinks water.")
	assert.Empty(t, air.Hinders(75), "drier than that")
	assert.Empty(t, air.Hinders(0), "nothing is known of what is in it")
	assert.Empty(t, curing.Air{}.Hinders(59), "nothing is known of the air")
}
