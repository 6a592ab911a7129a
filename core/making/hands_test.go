package making_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/quantity"
)

// A batch is weighed in 6 minutes, simmered, left over night, and strained in 5: hands are at
// it for the weighing, the simmering (a pause counts for 20 minutes at the most) and the
// straining, and not for the night.
func TestHandsAreCountedFromTheLog(t *testing.T) {
	hour := quantity.Wait{Low: time.Hour, High: 2 * time.Hour}
	steps := []formula.Step{{Kind: formula.Weigh}, {Kind: formula.Heat, For: hour}, {Kind: formula.Stand}, {Kind: formula.Strain}, {Kind: formula.Fill}}
	b := making.Begin("T-1", making.MadeBy{Lines: []making.Line{{Item: "borax", Name: "Borax", TargetG: 100}}, Steps: steps, ScaleG: 1})
	start := time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC)
	id := int64(0)
	happens := func(kind making.EventKind, step int, after time.Duration, f ...func(*making.Event)) {
		e := making.Happening(kind)
		id++
		e.ID, e.Step, e.At = id, step, start.Add(after)
		for _, g := range f {
			g(&e)
		}
		require.NoError(t, b.Apply(e), kind)
	}
	_, known := making.Begin("T-2", making.MadeBy{Lines: []making.Line{{Item: "borax", TargetG: 100}}}).Hands()
	assert.False(t, known, "without steps the log does not tell")
	happens(making.Begun, making.NoStep, 0)
	happens(making.Weighed, making.NoStep, 6*time.Minute, func(e *making.Event) { e.Line, e.Grams = 0, 100 })
	happens(making.StepDone, 1, 96*time.Minute)
	happens(making.StepDone, 2, 15*time.Hour)
	happens(making.Noted, making.NoStep, 15*time.Hour+time.Minute, func(e *making.Event) { e.Text = "clear" })
	happens(making.StepDone, 3, 15*time.Hour+5*time.Minute)
	minutes, known := b.Hands()
	assert.True(t, known)
	assert.InDelta(t, 6+20+5, minutes, 1e-9)
	assert.InDelta(t, 90, b.HeatMinutes(), 1e-9, "as the step says: one to two hours")
	assert.Equal(t, []making.StepTime{{Kind: formula.Weigh, Minutes: 6}, {Kind: formula.Heat, Minutes: 20}, {Kind: formula.Strain, Minutes: 5}}, b.StepTimes(), "each for the step it was done for; what stood is none")
	happens(making.HandsTold, making.NoStep, 16*time.Hour, func(e *making.Event) { e.Seconds = 600 })
	minutes, _ = b.Hands()
	assert.InDelta(t, 10, minutes, 1e-9, "who says so is right")
	assert.True(t, b.HandsAreTold())
	bad := making.Happening(making.HandsTold)
	assert.Error(t, b.Check(bad))
	bad.Seconds = 8 * 24 * 3600
	assert.Error(t, b.Check(bad))
}

// Each kind of step is either done by hands, and then its minutes are usual, or stands by itself.
func TestEachKindOfStepTakesHandsOrStands(t *testing.T) {
	for _, info := range formula.StepKinds {
		usual := making.UsualMinutes(info.Kind)
		assert.Equal(t, info.Stage == formula.OnRack, usual.IsZero(), info.Name)
		if !usual.IsZero() {
			assert.Less(t, usual.Low, usual.Value, info.Name)
			assert.Less(t, usual.Value, usual.High, info.Name)
		}
	}
	steps := []formula.Step{{Kind: formula.Weigh}, {Kind: formula.Grate}, {Kind: formula.Grate}, {Kind: formula.Stand}, {Kind: formula.Fill}}
	assert.Equal(t, quantity.Range{Low: 4 + 5 + 5 + 5, Value: 10 + 12 + 12 + 12, High: 25 + 30 + 30 + 35}, making.HandsBySteps(steps, making.UsualMinutes))
	assert.Equal(t, making.HandsBySteps([]formula.Step{{Kind: formula.Weigh}, {Kind: formula.Fill}}, making.UsualMinutes), making.HandsBySteps(nil, making.UsualMinutes))
}
