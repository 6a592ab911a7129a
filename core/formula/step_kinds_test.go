package formula_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// What can be set of a step, what goes in at it, and what is done while it stands, follow
// from its kind. Common practice: peel and ferments are stirred, what dries is weighed in.
func TestWhatAStepOfAKindIs(t *testing.T) {
	for _, k := range formula.StepKinds {
		for _, part := range k.Sets {
			assert.Contains(t, []string{"for", "stir", "celsius", "vessel", "mould", "pieces", "by", "to", "keep", "by_weight"}, part, k.Name)
		}
		assert.Equal(t, k.Stirred, assert.ObjectsAreEqual([]string{"for", "stir", "vessel"}, k.Sets), "%s: what is stirred says how often", k.Name)
		if k.Takes {
			assert.NotContains(t, []formula.StepKind{formula.Weigh, formula.Fill, formula.Check, formula.Press, formula.Dry, formula.Rest, formula.Cool, formula.Strain}, k.Kind)
		}
	}
	for _, k := range []formula.StepKind{formula.Infuse, formula.Steep, formula.Ferment} {
		assert.True(t, (&formula.Step{Kind: k}).IsStirred(), k)
	}
	assert.False(t, (&formula.Step{Kind: formula.Stand}).IsStirred())
	assert.True(t, (&formula.Step{Kind: formula.Stand, Stir: quantity.Wait{Low: 1, High: 1}}).IsStirred(), "where it says so")
	assert.True(t, (&formula.Step{Kind: formula.Dry}).IsWeighedIn())
	assert.False(t, (&formula.Step{Kind: formula.Rest}).IsWeighedIn())
	assert.True(t, (&formula.Step{Kind: formula.Rest, ByWeight: true}).IsWeighedIn())
	assert.Equal(t, formula.AtBench, formula.StepKind("unheard").Info().Stage)
}
