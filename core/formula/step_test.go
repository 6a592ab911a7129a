package formula_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
)

func TestStepKindsAreReadAsTheyAreWritten(t *testing.T) {
	for _, info := range formula.StepKinds {
		kind, err := formula.ParseStepKind(string(info.Kind))
		require.NoError(t, err)
		assert.Equal(t, info, kind.Info())
		assert.NotEmpty(t, info.Name)
	}
	_, err := formula.ParseStepKind("bless")
	assert.ErrorContains(t, err, `a step is not "bless": expected one of weigh, dissolve`)
	assert.Equal(t, formula.AtBench, formula.StepKind("bless").Info().Stage, "what is not known is done at the bench")
}

func TestALineGoesInAtTheLastStepThatNamesIt(t *testing.T) {
	f := &formula.Formula{Steps: []formula.Step{{Kind: formula.Weigh, Lines: []int{0, 1, 2}}, {Kind: formula.Mix, Lines: []int{0, 1}}, {Kind: formula.Add, Lines: []int{1}}}}
	for line, want := range map[int]int{0: 1, 1: 2} {
		step, ok := f.StepOf(line)
		assert.True(t, ok)
		assert.Equal(t, want, step)
	}
	_, ok := f.StepOf(2)
	assert.False(t, ok, "weighing it out puts it nowhere")
}
