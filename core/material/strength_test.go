package material_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/material"
)

// A label says alcohol by volume and vinegar by mass; 40 % by volume is 33.3 % by mass
// (alcoholometric tables).
func TestAStrengthSaidFindsWhatHasIt(t *testing.T) {
	lib := material.Shipped()
	for said, id := range map[string]string{
		"96 % alcohol":       "ethanol",
		"95% ethanol":        "ethanol",
		"96 percent alcohol": "ethanol",
		"alcohol 40 %":       "vodka",
		"ethanol 50 %":       "vodka-strong",
		"80 proof alcohol":   "vodka",
		"ethanol 70 %":       "ethanol-70",
		"vinegar 10 %":       "cleaning-vinegar",
	} {
		n, err := lib.Read(said)
		require.NoError(t, err, said)
		assert.Equal(t, id, n.Material.ID, said)
	}
	for _, said := range []string{"20 % alcohol", "60 % alcohol"} {
		_, err := lib.Read(said)
		var none *material.StrengthError
		assert.ErrorAs(t, err, &none, said)
	}
}
