package dosing_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/dosing"
)

// Common practice: what is thinned spoils sooner, what is dissolved is used the same day, and
// neither outlives the jar it came from.
func TestABottleKeepsNoLongerThanWhatItIsOf(t *testing.T) {
	for _, c := range []struct {
		says  string
		share float64
		of    dosing.Keeping
		want  int
	}{
		{"neat, as the good", 1, dosing.Keeping{Good: 365, Thinned: 14, Liquid: true}, 365},
		{"thinned", 0.2, dosing.Keeping{Good: 365, Thinned: 14, Liquid: true}, 14},
		{"thinned, and as good as before", 0.2, dosing.Keeping{Good: 365, Liquid: true}, 365},
		{"a powder, dissolved", 0.2, dosing.Keeping{Good: 730}, dosing.DissolvedDays},
		{"no longer than its jar", 0.2, dosing.Keeping{Good: 365, Thinned: 14, Liquid: true, Dated: true, Left: 5}, 5},
		{"its jar keeps longer", 0.2, dosing.Keeping{Good: 365, Thinned: 14, Liquid: true, Dated: true, Left: 90}, 14},
		{"past its date", 0.2, dosing.Keeping{Good: 365, Thinned: 14, Liquid: true, Dated: true, Left: -3}, 0},
	} {
		assert.Equal(t, c.want, dosing.BottleDays(c.share, c.of), c.says)
	}
}
