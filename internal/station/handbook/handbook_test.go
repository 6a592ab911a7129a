package handbook

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/api"
	"keencrock/core/quantity"
)

// Ranges are read as people write them; days in months where they are many.
func TestNumbersAsTheyAreRead(t *testing.T) {
	assert.Equal(t, "236.59", spread(quantity.Exactly(236.588), 2))
	assert.Equal(t, "250", spread(quantity.Exactly(250), 2))
	assert.Equal(t, "240 (200 to 300)", spread(quantity.Range{Value: 240, Low: 200, High: 300}, 0))
	for n, want := range map[int]string{1: "a day", 14: "14 days", 90: "about 3 months", 365: "12 months", 730: "24 months"} {
		assert.Equal(t, want, days(n))
	}
}

func TestARowIsFoundByAllOfItsWords(t *testing.T) {
	rows := []api.HandbookRow{row("memory", "Borax", "0.8"), row("practice", "Soda", "1.1")}
	assert.Len(t, found(rows, []string{"borax", "memory"}, "Weights"), 1)
	assert.Len(t, found(rows, []string{"weights"}, "Weights"), 2, "the title counts")
	assert.Empty(t, found(rows, []string{"borax", "practice"}, "Weights"))
}
