package making_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/material"
)

// nuts are simmered, strained and made up.
func nuts() making.MadeBy {
	return making.MadeBy{ScaleG: 1,
		Lines: []making.Line{{Item: "soap-nut", Name: "Soap nuts", TargetG: 100}, {Item: "water", Name: "Water", TargetG: 1000, Unstocked: true, VolatileShare: 1}},
		Steps: []formula.Step{{Kind: formula.Weigh}, {Kind: formula.Heat, Celsius: 95}, {Kind: formula.Strain, Keep: "freezer"}, {Kind: formula.Fill}}}
}

func simmered(t *testing.T) *bench {
	b := newBench(t, nuts())
	b.weigh(0, 100, 1)
	b.do(making.Event{Kind: making.Weighed, Line: 1, Step: making.NoStep, Grams: 1000}, 2)
	return b
}

// What was weighed on the way says where it went, and mass in is mass out and losses.
func TestLossesAreExplainedByWhatWasWeighed(t *testing.T) {
	b := simmered(t)
	b.do(grams(making.PotWeighed, 1, 3000), 5)
	_, weighed := b.PotLostG(1)
	assert.False(t, weighed, "once says nothing")
	b.do(grams(making.PotWeighed, 1, 2800), 40)
	lost, weighed := b.PotLostG(1)
	assert.True(t, weighed)
	assert.Equal(t, 200.0, lost)
	b.do(on(making.StepDone, 1), 41)
	b.do(grams(making.Yielded, 2, 740), 50)
	kept := grams(making.KeptBack, 2, 130)
	kept.Line = 0
	b.do(kept, 51)
	b.do(on(making.StepDone, 2), 52)
	assert.Equal(t, 740.0, b.LikelyG(0.05), "what was weighed, not what is usual")
	water, ok := b.WaterLostG()
	assert.True(t, ok)
	assert.Equal(t, 200.0, water)
	pack := making.Happening(making.Packed)
	pack.Count, pack.Grams = 2, 360
	b.do(pack, 60)
	assert.Equal(t, 20.0, b.LikelyG(0.05), "is left")
	out := b.Outcome(900)
	assert.Equal(t, []making.Loss{{Name: "boiled off", Step: 1, Grams: 200}, {Name: "stayed in the sieve", Step: 2, Grams: 160}, {Name: "left over or stuck", Step: making.NoStep, Grams: 20}}, out.Losses)
	assert.Equal(t, 2, out.Jars)
}

// Where nothing was weighed on the way, the usual loss is all that is known; and more
// may come out than the scale said, which is told and not hidden.
func TestAnOverfilledBatchFinishesHonestly(t *testing.T) {
	b := simmered(t)
	assert.Equal(t, 1045.0, b.LikelyG(0.05))
	_, ok := b.WaterLostG()
	assert.False(t, ok)
	b.do(on(making.StepPassed, 1), 3)
	b.do(on(making.StepPassed, 2), 4)
	pack := making.Happening(making.Packed)
	pack.Count, pack.Grams = 4, 280
	b.do(pack, 60)
	assert.Equal(t, []making.Loss{{Name: "more came out than was left by the scale", Step: making.NoStep, Grams: -20}}, b.Outcome(1045).Losses)
}

// Baking soda loses 62.025 of 168.013 on its way to soda ash (stoichiometry).
func TestOnlyWhatIsDryAndHotIsBaked(t *testing.T) {
	assert.InDelta(t, 62.025/168.013, material.BakingLoss, 2e-4)
	oven := making.MadeBy{ScaleG: 1, Lines: []making.Line{{Item: "sodium-bicarbonate", Name: "Baking soda", TargetG: 500}},
		Steps: []formula.Step{{Kind: formula.Weigh}, {Kind: formula.Heat, Celsius: 200}, {Kind: formula.Fill}}}
	b := newBench(t, oven)
	b.weigh(0, 500, 1)
	assert.False(t, b.IsBaked(), "not yet")
	id := b.do(on(making.StepDone, 1), 60)
	assert.True(t, b.IsBaked())
	back := making.Happening(making.Undone)
	back.Corrects = id
	b.do(back, 61)
	b.do(on(making.StepPassed, 1), 62)
	assert.False(t, b.IsBaked(), "it was passed over")
	wet := simmered(t)
	wet.do(on(making.StepDone, 1), 40)
	assert.False(t, wet.IsBaked(), "water does not bake")
}

// A line that is added at the bench is weighed next, whatever step is at hand, and
// keeps nothing from being packed when it is not wanted after all.
func TestALineOfTheBenchDoesNotHoldTheBatch(t *testing.T) {
	b := simmered(t)
	added := making.Event{Kind: making.LineAdded, Line: making.NoLine, Step: 1, Item: "citric-acid", Name: "Citric acid", Grams: 5}
	id := b.do(added, 3)
	line, open := b.Next()
	assert.True(t, open)
	assert.Equal(t, 2, line)
	b.do(on(making.StepPassed, 1), 4)
	b.do(on(making.StepPassed, 2), 5)
	assert.NoError(t, b.ReadyToPack())
	assert.Equal(t, []int{2}, b.Optionals())
	back := making.Happening(making.Undone)
	back.Corrects = id
	b.do(back, 6)
	assert.Len(t, b.Lines, 2)
	b.do(added, 7)
	b.do(making.Event{Kind: making.Weighed, Line: 2, Step: making.NoStep, Lot: otherBag, Grams: 5}, 8)
	back.Corrects = b.next - 2
	assert.ErrorContains(t, b.try(back, 9), "what came after it needs it")
}
