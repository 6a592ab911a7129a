package making_test

import (
	"errors"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/curing"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/quantity"
	"keencrock/core/stock"
)

var morning = time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)

func at(minutes float64) time.Time {
	return morning.Add(time.Duration(minutes * float64(time.Minute)))
}

// tabs are wetted, pressed and dried by weight.
func tabs() making.MadeBy {
	hours := func(low, high int) quantity.Wait {
		return quantity.Wait{Low: time.Duration(low) * time.Hour, High: time.Duration(high) * time.Hour}
	}
	return making.MadeBy{ScaleG: 1,
		Lines: []making.Line{
			{Item: "washing-soda", Name: "Washing soda", TargetG: 600},
			{Item: "citric-acid", Name: "Citric acid", TargetG: 300},
			{Item: "water", Name: "Water", TargetG: 30, Unstocked: true, VolatileShare: 1},
		},
		Steps: []formula.Step{
			{Kind: formula.Weigh},
			{Kind: formula.Mix, Lines: []int{0, 1}, For: quantity.Wait{Low: 5 * time.Minute, High: 10 * time.Minute}},
			{Kind: formula.Add, Lines: []int{2}, By: formula.ByDrop},
			{Kind: formula.Check, Check: "handful"},
			{Kind: formula.Press, Mould: "tray"},
			{Kind: formula.Dry, For: hours(24, 48), ByWeight: true},
			{Kind: formula.Fill},
		}}
}

// bench lets things happen one after the other, each with a number and a time.
type bench struct {
	*making.Batch
	t    require.TestingT
	next int64
}

func newBench(t require.TestingT, by making.MadeBy) *bench {
	b := &bench{making.Begin("HER-A", by), t, 1}
	b.do(making.Happening(making.Begun), 0)
	return b
}

func (b *bench) try(e making.Event, minutes float64) error {
	e.ID, e.At, e.By = b.next, at(minutes), "Ada"
	b.next++
	return b.Apply(e)
}

func (b *bench) do(e making.Event, minutes float64) int64 {
	require.NoError(b.t, b.try(e, minutes))
	return b.next - 1
}

func (b *bench) weigh(line int, g, minutes float64) {
	e := making.Event{Kind: making.Weighed, Line: line, Step: making.NoStep, Grams: g}
	if line < 2 {
		e.Lot = sodaBag
	}
	b.do(e, minutes)
}

func on(kind making.EventKind, step int) making.Event {
	return making.Event{Kind: kind, Line: making.NoLine, Step: step}
}

func grams(kind making.EventKind, step int, g float64) making.Event {
	e := on(kind, step)
	e.Grams = g
	return e
}

func answer(step int, a string) making.Event {
	e := on(making.Checked, step)
	e.Answer = a
	return e
}

func TestATabGoesThroughItsSteps(t *testing.T) {
	b := newBench(t, tabs())
	assert.Equal(t, making.Weighing, b.State)
	b.weigh(0, 600, 1)
	b.weigh(1, 300, 2)
	assert.Equal(t, making.InWork, b.State, "the water is added at its step, and not waited for")
	step, _ := b.Step()
	assert.Equal(t, 1, step)
	assert.Equal(t, at(2), b.Since(1))
	timer := on(making.TimerSet, 1)
	timer.Seconds = 300
	id := b.do(timer, 3)
	assert.Equal(t, []making.Timer{{ID: id, Step: 1, Set: at(3), Ends: at(8)}}, b.Timers())
	assert.Equal(t, []making.Due{{Kind: making.DueStep, What: "mix", Step: 1, At: at(4)}, {Kind: making.DueTimer, What: "mix", Step: 1, At: at(8)}}, b.Due(at(4)))
	ended := making.Happening(making.TimerEnded)
	ended.Corrects = id
	b.do(ended, 9)
	assert.Empty(t, b.Timers())
	b.do(on(making.StepDone, 1), 10)

	line, open := b.Next()
	assert.True(t, open)
	assert.Equal(t, 2, line, "the binder")
	b.weigh(2, 25, 11)
	assert.InDelta(t, 25.0/900, b.BudgetOf(2).ShareOfDry, 1e-9)
	b.do(on(making.StepDone, 2), 12)
	b.do(answer(3, "crumbles"), 13)
	step, _ = b.Step()
	assert.Equal(t, 3, step, "it is looked at again")
	more := making.Event{Kind: making.LineAdded, Line: making.NoLine, Step: 3, Item: "glycerine", Name: "Glycerine", Grams: 3}
	b.do(more, 14)
	line, _ = b.Next()
	assert.Equal(t, 3, line, "what was added at the bench is weighed next")
	b.do(making.Event{Kind: making.Weighed, Line: 3, Step: making.NoStep, Lot: otherBag, Grams: 3}, 15)
	b.do(answer(3, "holds"), 16)
	pressed := on(making.Counted, 4)
	pressed.Count, pressed.Grams = 24, 900
	b.do(pressed, 20)
	b.do(on(making.StepDone, 4), 21)

	assert.Equal(t, making.Standing, b.State)
	assert.Equal(t, []making.Due{{Kind: making.DueWeighIn, What: "weigh it", Step: 5, At: at(21)}, {Kind: making.DueReady, What: "dry", Step: 5, At: at(21 + 24*60)}}, b.Due(at(30)))
	mass := func(h float64) float64 { return math.Round(880 + 20*math.Exp(-0.2*h)) }
	for _, h := range []float64{0, 2, 4, 6} {
		b.do(grams(making.WeighedIn, 5, mass(h)), 21+60*h)
	}
	weighings, f := b.DryingAt(5)
	assert.Len(t, weighings, 4)
	assert.Equal(t, curing.Losing, f.State)
	from, to := b.ReadyAt(5)
	assert.True(t, from.After(at(21)) && to.After(from))
	broke := on(making.Broke, 5)
	broke.Count, broke.Text = 2, "the tray cracked"
	b.do(broke, 21+60*20)
	assert.Equal(t, 22, b.Pieces())
	assert.Error(t, b.ReadyToPack())
	b.do(on(making.StepDone, 5), 21+60*44)

	assert.Equal(t, making.Packing, b.State)
	require.NoError(t, b.ReadyToPack())
	pack := making.Happening(making.Packed)
	pack.Count, pack.Grams = 1, 400
	b.do(pack, 60*50)
	assert.Equal(t, making.Packing, b.State, "in parts")
	assert.Error(t, b.try(making.Event{Kind: making.Weighed, Line: 0, Step: making.NoStep, Lot: sodaBag, Grams: 1}, 60*51), "jars are filled of it")
	b.do(pack, 60*52)
	out := b.Outcome(900)
	assert.Equal(t, 800.0, out.PackedG)
	assert.Equal(t, 22, out.Pieces)
	sum := out.PackedG
	var names []string
	for _, l := range out.Losses {
		sum += l.Grams
		names = append(names, l.Name)
	}
	assert.InDelta(t, out.WeighedG, sum, 0.01, "mass in is mass out and losses")
	assert.Equal(t, []string{"stuck to bowl and mould", "dried off", "broke", "left over or stuck"}, names)
	b.do(making.Happening(making.Completed), 60*53)
	assert.Equal(t, making.Finished, b.State)
}

func TestWhatCannotBeOfStepsIsRefused(t *testing.T) {
	b := newBench(t, tabs())
	refused := func(code string, e making.Event) {
		t.Helper()
		var r *making.Refusal
		require.True(t, errors.As(b.try(e, 30), &r), "%+v", e)
		assert.Equal(t, code, r.Code)
	}
	refused("not-weighed", on(making.StepDone, 0))
	refused("no-such-step", on(making.StepDone, 7))
	refused("not-packed", on(making.StepDone, 6))
	refused("not-answered", on(making.StepDone, 3))
	refused("bad-value", answer(3, "sings"))
	refused("no-check", answer(1, "holds"))
	refused("bad-value", on(making.TimerSet, 1))
	refused("step-open", on(making.StepOpened, 1))
	refused("bad-value", grams(making.WeighedIn, 5, -1))
	refused("bad-value", on(making.Counted, 4))
	refused("bad-value", making.Happening(making.HandedOver))
	refused("bad-value", making.Event{Kind: making.LineAdded, Line: making.NoLine, Step: making.NoStep, Item: "water", Name: "Water"})
	b.weigh(0, 600, 1)
	b.weigh(1, 300, 2)
	id := b.do(on(making.StepDone, 1), 5)
	var r *making.Refusal
	require.True(t, errors.As(b.try(on(making.StepDone, 1), 6), &r))
	assert.Equal(t, "Step 2, mix, was done already, by Ada at 09:05: nothing was changed.", r.Detail, "from another device")
	back := making.Happening(making.Undone)
	back.Corrects = id
	b.do(back, 7)
	step, _ := b.Step()
	assert.Equal(t, 1, step)
	refused("undone", back)
	b.do(on(making.StepDone, 1), 8)
	for _, passed := range []int{2, 3, 4} {
		b.do(on(making.StepPassed, passed), 9)
	}
	b.do(grams(making.WeighedIn, 5, 900), 10)
	refused("grown", grams(making.WeighedIn, 5, 1200))
	b.do(grams(making.WeighedIn, 5, 912), 200)
	_, f := b.DryingAt(5)
	assert.Equal(t, curing.Gaining, f.State, "a weighing of a thing that grew is taken, and said")
	b.do(on(making.StepDone, 5), 300)
	pack := making.Happening(making.Packed)
	pack.Count, pack.Grams = 3, 400
	refused("too-much-packed", pack)
}

func TestStirringIsDueUntilItIsReady(t *testing.T) {
	days := func(n int) quantity.Wait {
		return quantity.Wait{Low: time.Duration(n) * 24 * time.Hour, High: time.Duration(n) * 24 * time.Hour}
	}
	by := making.MadeBy{ScaleG: 1, Lines: []making.Line{{Item: "water", Name: "Water", TargetG: 1000, Unstocked: true}},
		Steps: []formula.Step{{Kind: formula.Weigh}, {Kind: formula.Infuse, For: days(14), Stir: days(3)}, {Kind: formula.Fill}}}
	b := newBench(t, by)
	b.do(making.Event{Kind: making.Weighed, Line: 0, Step: making.NoStep, Grams: 1000}, 1)
	const day = 24 * 60
	assert.Equal(t, []making.Due{{Kind: making.DueStir, What: "stir", Step: 1, At: at(3*day + 1)}, {Kind: making.DueReady, What: "strain it", Step: 1, At: at(14*day + 1)}}, b.Due(at(2)))
	id := b.do(on(making.Stirred, 1), 4*day)
	assert.Equal(t, at(7*day), b.Due(at(5 * day))[0].At)
	back := making.Happening(making.Undone)
	back.Corrects = id
	b.do(back, 4*day+1)
	assert.Equal(t, at(3*day+1), b.Due(at(5 * day))[0].At)
	b.do(on(making.Stirred, 1), 12*day)
	assert.Len(t, b.Due(at(12*day)), 1, "no stirring beyond its end")
}

// In whatever order weigh-ins and stirs are written down late, the batch is the
// same.
func TestLateEntriesComeToTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		masses := map[float64]float64{}
		var hours []float64
		for i := range rapid.IntRange(2, 7).Draw(t, "weighings") {
			h := float64(4 * i)
			hours = append(hours, h)
			masses[h] = math.Round(880 + 40*math.Exp(-0.1*h))
		}
		run := func(order []float64) (curing.Forecast, []making.Due) {
			b := newBench(t, tabs())
			b.weigh(0, 600, 0)
			b.weigh(1, 300, 0)
			b.weigh(2, 20, 0)
			for step := 1; step < 5; step++ {
				b.do(on(making.StepPassed, step), 1)
			}
			for _, h := range order {
				b.do(grams(making.WeighedIn, 5, masses[h]), 10+60*h)
			}
			_, f := b.DryingAt(5)
			return f, b.Due(at(10))
		}
		f, due := run(hours)
		again, dueAgain := run(rapid.Permutation(hours).Draw(t, "late"))
		require.Equal(t, f, again)
		require.Equal(t, due, dueAgain)
	})
}

// Whatever happens at the bench, the log replayed gives the batch it happened to,
// and what went in is what came out and what was lost.
func TestReplayOfStepsEqualsTheBatch(t *testing.T) {
	kinds := []making.EventKind{making.Weighed, making.StepDone, making.StepPassed, making.StepOpened, making.Checked, making.TimerSet, making.TimerEnded,
		making.Counted, making.Broke, making.WeighedIn, making.Stirred, making.PotWeighed, making.Yielded, making.LineAdded, making.Undone, making.Packed, making.Noted, making.HandedOver}
	rapid.Check(t, func(t *rapid.T) {
		b := newBench(t, tabs())
		b.weigh(0, 600, 0)
		b.weigh(1, 300, 0)
		for i := range rapid.IntRange(1, 60).Draw(t, "events") {
			e := making.Event{Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), Line: rapid.IntRange(0, 3).Draw(t, "line"), Step: rapid.IntRange(0, 6).Draw(t, "step"),
				Grams: float64(rapid.IntRange(1, 1000).Draw(t, "g")), Count: float64(rapid.IntRange(1, 30).Draw(t, "count")), Seconds: 60, Text: "x",
				Item: "water", Name: "Water", Answer: rapid.SampledFrom([]string{"holds", "crumbles"}).Draw(t, "answer"), Corrects: int64(rapid.IntRange(1, 40).Draw(t, "corrects"))}
			if e.Kind == making.Weighed && e.Line != 2 {
				e.Lot = stock.ID{7}
			}
			_ = b.try(e, float64(i)) // refused, or not
		}
		again, err := making.Replay("HER-A", tabs(), b.Events())
		require.NoError(t, err)
		require.Equal(t, b.Batch, again)
		out := b.Outcome(0)
		if out.PackedG > 0 {
			sum := out.PackedG
			for _, l := range out.Losses {
				sum += l.Grams
			}
			require.InDelta(t, out.WeighedG, sum, 0.1*float64(len(out.Losses)+1))
		}
	})
}

// A log of 500 events: a long batch of a busy week.
func BenchmarkReplay(b *testing.B) {
	bb := newBench(b, tabs())
	bb.weigh(0, 600, 0)
	bb.weigh(1, 300, 0)
	for i := range 100 {
		bb.weigh(2, 0.5, float64(i))
		timer := on(making.TimerSet, 1)
		timer.Seconds = 60
		bb.do(timer, float64(i))
		bb.do(grams(making.WeighedIn, 5, 900-float64(i)/10), float64(60*i))
		bb.do(on(making.Stirred, 5), float64(60*i))
		bb.do(making.Happening(making.Noted), float64(60*i))
	}
	log := bb.Events()
	by := tabs()
	b.ResetTimer()
	for b.Loop() {
		if _, err := making.Replay("HER-A", by, log); err != nil {
			b.Fatal(err)
		}
	}
}
