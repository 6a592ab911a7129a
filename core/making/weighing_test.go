package making_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"keencrock/core/making"
)

func TestJudgeSaysWhatToDo(t *testing.T) {
	for _, c := range []struct {
		target, weighed, step float64
		status                making.WeighStatus
		advice                string
	}{
		{500, 0, 1, making.Waiting, ""},
		{500, 300, 1, making.Started, "200 g more baking soda."},
		{500, 492, 1, making.Done, ""},
		{500, 509, 1, making.Done, ""},
		{500, 540, 1, making.Over, "40 g too much baking soda."},
		{3, 2.6, 0.1, making.Started, "0.4 g more baking soda."},
		{3, 3.1, 0.1, making.Done, ""},
		{0.4, 1, 1, making.Done, ""},
	} {
		status, advice := making.Judge("Baking soda", c.target, c.weighed, c.step)
		assert.Equal(t, c.status, status, "%+v", c)
		assert.Contains(t, advice, c.advice, "%+v", c)
		if c.advice == "" {
			assert.Empty(t, advice)
		}
	}
	_, advice := making.Judge("EDTA, tetrasodium", 100, 50, 1)
	assert.Equal(t, "50 g more EDTA, tetrasodium.", advice)
}

func TestBatchCodes(t *testing.T) {
	day := time.Date(2026, 11, 24, 15, 0, 0, 0, time.UTC)
	assert.Equal(t, "TOW-261124-A", making.Code("Towpath", day, 0))
	assert.Equal(t, "HER-261124-Z", making.Code("heron tabs", day, 25))
	assert.Equal(t, "HER-261124-AA", making.Code("Heron tabs", day, 26))
	assert.Equal(t, "KC-261124-B", making.Code("№ 5", day, 1))
}
