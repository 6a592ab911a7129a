package trial_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/trial"
)

// Every pair holds every good once; over all, each is behind each code about as often; the same
// seed draws the same, another another.
func TestCodesAreDrawnByLot(t *testing.T) {
	for goods := 2; goods <= 4; goods++ {
		drawn := trial.Draw(7, 12, goods)
		behind := make([][]int, goods)
		for i := range behind {
			behind[i] = make([]int, goods)
		}
		for _, pair := range drawn {
			seen := map[int]bool{}
			for c, g := range pair {
				assert.False(t, seen[g])
				seen[g] = true
				behind[g][c]++
			}
			assert.Len(t, seen, goods)
		}
		for _, codes := range behind {
			for _, n := range codes {
				assert.Equal(t, 12/goods, n, "it comes out even")
			}
		}
		assert.Equal(t, drawn, trial.Draw(7, 12, goods))
		assert.NotEqual(t, drawn, trial.Draw(8, 12, goods))
	}
	assert.Equal(t, "B", trial.Code(1))
}

// A difference as large as its spread takes about ten pairs by the t-test (tables of sample size,
// power 0.8: 10; the signed ranks need a little more); half of it about 34. From memory.
func TestHowManyPairsAreNeeded(t *testing.T) {
	n, ok := trial.PairsNeeded(1, 1, 1)
	assert.True(t, ok)
	assert.InDelta(t, 11, n, 1.5)
	n, ok = trial.PairsNeeded(0.5, 1, 1)
	assert.True(t, ok)
	assert.InDelta(t, 35, n, 3)
	n, _ = trial.PairsNeeded(5, 1, 1)
	assert.Equal(t, 6, n, "fewer can tell nothing")
	three, _ := trial.PairsNeeded(1, 1, 3)
	assert.Greater(t, three, 11, "more goods cost more pairs")
	_, ok = trial.PairsNeeded(0.1, 1, 1)
	assert.False(t, ok)
	_, ok = trial.PairsNeeded(0, 1, 1)
	assert.False(t, ok)
}
