package vessel_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/vessel"
)

var begun = time.Date(2026, 1, 1, 8, 0, 0, 0, time.UTC)

func day(n float64) time.Time { return begun.Add(time.Duration(n * 24 * float64(time.Hour))) }

// After each draw of a share f, topped up and stirred, the share that is younger
// than n draws is 1 − (1 − f)^n (a stirred tank, Danckwerts 1953).
func TestASharesWashOutAsInAStirredTank(t *testing.T) {
	const f, whole = 0.25, 10_000.0
	events := []vessel.Event{{Kind: vessel.Fed, At: day(0), ML: whole}}
	for n := 1; n <= 8; n++ {
		at := day(float64(10 * n))
		events = append(events, vessel.Event{Kind: vessel.Drawn, At: at.Add(-time.Hour), ML: f * whole}, vessel.Event{Kind: vessel.Fed, At: at, ML: f * whole})
	}
	left, draws, err := vessel.Follow(events)
	require.NoError(t, err)
	require.Len(t, draws, 8)
	assert.InDelta(t, whole, left.ML(), 1e-9)
	for n := 1; n <= 8; n++ {
		age := time.Duration(10*n)*24*time.Hour - time.Minute
		assert.InDelta(t, 1-math.Pow(1-f, float64(n)), left.ShareYounger(age, day(80)), 1e-12, "%d draws", n)
	}
}

// Fed and drawn little by little for long, its ages are e^(−t/τ), τ being what is
// in it over what runs through: the mean age is τ, and 63.2 % are younger (first
// order washout, textbook).
func TestSmallStepsCometoTheResidenceTimeOfATank(t *testing.T) {
	const whole, perDay, steps = 20_000.0, 500.0, 20
	events := []vessel.Event{{Kind: vessel.Fed, At: day(0), ML: whole}}
	for i := 1; i <= 400*steps; i++ {
		at := day(float64(i) / steps)
		events = append(events, vessel.Event{Kind: vessel.Fed, At: at, ML: perDay / steps}, vessel.Event{Kind: vessel.Drawn, At: at, ML: perDay / steps})
	}
	left, _, err := vessel.Follow(events)
	require.NoError(t, err)
	tau := 40 * 24 * time.Hour
	assert.InEpsilon(t, tau.Hours(), left.MeanAge(day(400)).Hours(), 0.005)
	assert.InEpsilon(t, 1-math.Exp(-1), left.ShareYounger(tau, day(400)), 0.005)
	assert.InEpsilon(t, -math.Log(0.9)*tau.Hours(), left.Youngest(0.1, day(400)).Hours(), 0.03)
}

func TestMoreThanThereIsCannotBeDrawn(t *testing.T) {
	_, _, err := vessel.Follow([]vessel.Event{{Kind: vessel.Fed, At: day(0), ML: 1000}, {Kind: vessel.Drawn, At: day(3), ML: 1001}})
	var short *vessel.Short
	require.ErrorAs(t, err, &short)
	assert.Equal(t, "only 1000 ml were in it on 4 Jan 2026: 1001 ml cannot be drawn", short.Error())
	left, draws, err := vessel.Follow([]vessel.Event{{Kind: vessel.Fed, At: day(0), ML: 1000}, {Kind: vessel.Drawn, At: day(3), ML: 1000}})
	require.NoError(t, err)
	assert.Empty(t, left)
	assert.Equal(t, 3*24*time.Hour, draws[0].MeanAge(day(3)))
	assert.Zero(t, left.MeanAge(day(3)))
	assert.Empty(t, left.Advice(day(3)))
	for _, b := range left.Bands(day(3)) {
		assert.Zero(t, b.Share, "nothing is of no age")
	}
}

// Whatever is done, nothing is lost and nothing comes from nowhere; ages sum to
// one; and it is the same in whatever order it is written down.
func TestVolumeIsKeptInAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var events []vessel.Event
		fed, drawn := 0.0, 0.0
		for i := range rapid.IntRange(1, 40).Draw(t, "events") {
			e := vessel.Event{At: day(float64(i)), ML: rapid.Float64Range(1, 5000).Draw(t, "ml")}
			if i > 0 && rapid.Bool().Draw(t, "draw") && fed-drawn > 1 {
				e.Kind = vessel.Drawn
				e.ML = min(e.ML, fed-drawn)
				drawn += e.ML
			} else {
				fed += e.ML
			}
			events = append(events, e)
		}
		left, draws, err := vessel.Follow(events)
		require.NoError(t, err)
		out := left.ML()
		for _, d := range draws {
			out += d.ML()
		}
		require.InEpsilon(t, fed, out, 1e-9)
		now := day(100)
		if left.ML() > 1 {
			require.InDelta(t, 1, left.ShareYounger(1000*24*time.Hour, now), 1e-12)
			require.Zero(t, left.ShareYounger(0, now))
			require.LessOrEqual(t, left.Youngest(0.1, now), left.Youngest(0.9, now))
		}
		late := rapid.Permutation(events).Draw(t, "late")
		again, _, err := vessel.Follow(late)
		require.NoError(t, err)
		require.Equal(t, left, again)
	})
}

func TestBandsPartAContentByAge(t *testing.T) {
	c := vessel.Content{{Since: day(0), ML: 500}, {Since: day(70), ML: 300}, {Since: day(98), ML: 200}}
	shares := map[string]float64{}
	sum := 0.0
	for _, b := range c.Bands(day(100)) {
		shares[b.Name] = b.Share
		sum += b.Share
	}
	assert.InDelta(t, 1, sum, 1e-12)
	assert.InDelta(t, 0.2, shares["under a week"], 1e-12)
	assert.InDelta(t, 0.3, shares["up to two months"], 1e-12)
	assert.InDelta(t, 0.5, shares["up to four months"], 1e-12)
	assert.Empty(t, c.Advice(day(100)))
	c[2].ML = 400
	assert.Contains(t, c.Advice(day(100)), "33 % is younger than a month")
}

// 0.514 g of carbon dioxide from a gram of sucrose (stoichiometry).
func TestSugarGivesSoMuchGas(t *testing.T) {
	assert.InDelta(t, 0.514, vessel.CO2PerSugar, 0.0005)
	assert.InDelta(t, 100*0.514*0.556, vessel.GasAtMostL([]vessel.Event{{SugarG: 60}, {SugarG: 40}}), 0.05)
}

func TestAPlanSaysWhatIsDue(t *testing.T) {
	p := vessel.Plan{CapacityML: 12_000, StirEvery: 72 * time.Hour, FirstDraw: 60 * 24 * time.Hour}
	assert.Empty(t, p.Due(nil))
	events := []vessel.Event{{Kind: vessel.Fed, At: day(0), ML: 10_000}, {Kind: vessel.Stirred, At: day(2)}}
	assert.Equal(t, []vessel.Due{{What: "stir", At: day(5)}, {What: "first draw", At: day(60)}}, p.Due(events))
	events = append(events, vessel.Event{Kind: vessel.Drawn, At: day(61), ML: 1000})
	assert.Equal(t, []vessel.Due{{What: "stir", At: day(5)}}, p.Due(events), "a draw is no stirring")
	assert.NoError(t, p.Check(events))
	var over *vessel.Overflow
	assert.NoError(t, p.Check([]vessel.Event{events[1], events[2], events[0]}), "in whatever order they are written down")
	require.ErrorAs(t, p.Check(append(events, vessel.Event{Kind: vessel.Fed, At: day(62), ML: 3001})), &over)
	assert.Equal(t, "it holds 12000 ml, and would have 12001 ml in it: draw first, or take a larger one", over.Error())
	_, err := vessel.ParseKind("shaken")
	assert.Error(t, err)
}

// Two years of daily feeds and weekly draws.
func BenchmarkFollow(b *testing.B) {
	events := []vessel.Event{{Kind: vessel.Fed, At: day(0), ML: 20_000}}
	for d := range 730 {
		events = append(events, vessel.Event{Kind: vessel.Fed, At: day(float64(d) + 0.5), ML: 100})
		if d%7 == 6 {
			events = append(events, vessel.Event{Kind: vessel.Drawn, At: day(float64(d) + 0.6), ML: 700})
		}
	}
	for b.Loop() {
		if _, _, err := vessel.Follow(events); err != nil {
			b.Fatal(err)
		}
	}
}

// What is drawn holds the same share of all that was fed before, and what draws take of a
// feed and what is left of it are all of it: mass is kept (a stirred tank, Danckwerts 1953).
func TestDrawsShareOutWhatWasFed(t *testing.T) {
	// 10 l fed, 3 l drawn, 3 l of water put back, 5 l drawn: 0.3, then half of the 0.7
	events := []vessel.Event{{Kind: vessel.Fed, At: day(0), ML: 10_000, SugarG: 1000}, {Kind: vessel.Fed, At: day(1), PeelG: 500},
		{Kind: vessel.Drawn, At: day(70), ML: 3000}, {Kind: vessel.Fed, At: day(71), ML: 3000}}
	assert.Equal(t, []vessel.Share{{Feed: 0, Share: 0.35}, {Feed: 1, Share: 0.35}, {Feed: 3, Share: 0.5}}, vessel.Shares(events, 5000, day(80)))
	assert.Equal(t, []vessel.Share{{Feed: 0, Share: 0.3}, {Feed: 1, Share: 0.3}}, vessel.Shares(events[:2], 3000, day(70)))
	assert.Empty(t, vessel.Shares(nil, 3000, day(70)), "nothing was fed")
	rapid.Check(t, func(t *rapid.T) {
		var events []vessel.Event
		level := 0.0
		got := map[int]float64{}
		for i := range rapid.IntRange(1, 30).Draw(t, "acts") {
			at := day(float64(i))
			if ml := rapid.Float64Range(0.01, 1).Draw(t, "share") * level; level > 1 && rapid.Bool().Draw(t, "draw") {
				for _, s := range vessel.Shares(events, ml, at) {
					got[s.Feed] += s.Share
				}
				events, level = append(events, vessel.Event{Kind: vessel.Drawn, At: at, ML: ml}), level-ml
				continue
			}
			ml := rapid.Float64Range(0, 5000).Draw(t, "ml")
			events, level = append(events, vessel.Event{Kind: vessel.Fed, At: at, ML: ml, SugarG: 1}), level+ml
		}
		for _, s := range vessel.Shares(events, level+1, day(99)) {
			got[s.Feed] += s.Share
		}
		for i, e := range events {
			if e.Kind == vessel.Fed && level > 1 {
				assert.InDelta(t, 1, got[i], 1e-6, "all of feed %d", i)
			}
		}
	})
}
