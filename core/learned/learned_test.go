package learned_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"keencrock/core/learned"
	"keencrock/core/quantity"
)

// The normal–normal rule by hand (Gelman et al., Bayesian Data Analysis, 3rd edition, (2.11)
// and (2.12): the mean by precision). A density of 0.9 to 1.2 g/ml has, on the scale of
// logarithms, a standard deviation of ln(1.2/0.9)/3.92 = 0.07339, a variance of 0.005386; less
// 0.04² for one cup from the next, that leaves 0.003786 between workshops. One cup of 1.10 counts for
// 0.003786 ÷ (0.003786 + 0.0016) = 0.7029.
func TestOneWeighingPullsMostOfTheWay(t *testing.T) {
	usual := quantity.Range{Value: 1.04, Low: 0.9, High: 1.2}
	f := learned.Learn(usual, []float64{1.10}, learned.OfACup)
	assert.InDelta(t, 0.7029, f.Share, 0.0005)
	assert.InDelta(t, 1.04*math.Pow(1.10/1.04, 0.7029), f.Value, 1e-4)
	// half a band: 1.96·√(0.003786·0.2971 + 0.0016) = 0.1023
	assert.InDelta(t, math.Exp(0.1023), f.High/f.Value, 5e-4)
	assert.InDelta(t, math.Exp(0.1023), f.Value/f.Low, 5e-4)
	assert.False(t, f.Apart)

	five := learned.Learn(usual, []float64{1.10, 1.10, 1.10, 1.10, 1.10}, learned.OfACup)
	assert.Greater(t, five.Share, 0.9)
	assert.Less(t, five.High-five.Low, f.High-f.Low)
}

// What decides how far a measurement is believed has a witness each: these are the shares
// that one measurement has of a figure that is usually good to a quarter either way.
func TestHowFarOneMeasurementIsBelieved(t *testing.T) {
	usual := quantity.Range{Value: 1, Low: 0.8, High: 1.25}
	for repeat, share := range map[learned.Repeat]float64{
		learned.OfAVessel: 0.969, learned.OfACup: 0.877, learned.OfAPiece: 0.722, learned.OfADrop: 0.506,
		learned.OfAHandful: 0.310, learned.OfDrying: 0.224,
	} {
		f := learned.Learn(usual, []float64{1.1}, repeat)
		assert.InDelta(t, share, f.Share, 0.002, "%g", float64(repeat))
	}
	told := learned.Learn(quantity.Exactly(1), []float64{1.1}, learned.OfACup)
	assert.InDelta(t, 0.439, told.Share, 0.002, "a figure without a band is good to a tenth")
}

// A day that is said is a day give or take half of one; three trays that took 31, 30 and 33
// hours decide most of it.
func TestWhatIsSaidOfDryingGivesWay(t *testing.T) {
	usual := learned.SaidHours(24, 24)
	assert.Equal(t, quantity.Range{Value: 24, Low: 12, High: 36}, usual)
	assert.Equal(t, quantity.Range{Value: 36, Low: 12, High: 60}, learned.SaidHours(12, 60), "what is said wider stays")
	assert.Zero(t, learned.SaidHours(0, 0))
	f := learned.Learn(usual, []float64{31, 30, 33}, learned.OfDrying)
	assert.InDelta(t, 30.6, f.Value, 0.05, "by hand: 24·(31.3/24)^0.914")
	assert.Less(t, f.High, 45.0)
	assert.Greater(t, f.Low, 20.0)
}

func TestWhatIsFarFromUsualIsAsked(t *testing.T) {
	usual := quantity.Range{Value: 1, Low: 0.9, High: 1.1}
	assert.False(t, learned.Learn(usual, []float64{1.15}, learned.OfACup).Apart)
	assert.True(t, learned.Learn(usual, []float64{1.3}, learned.OfACup).Apart, "another material, or a heaped cup")
}

func TestCupsThatDifferAreNotCalledSure(t *testing.T) {
	usual := quantity.Range{Value: 1, Low: 0.97, High: 1.03}
	f := learned.Learn(usual, []float64{0.8, 1.2, 0.9, 1.15}, learned.OfACup)
	assert.Greater(t, f.High-f.Low, usual.High-usual.Low, "what scatters is wider than what is usual")
}

func TestWithoutAnythingUsualTheMeasurementsStandAlone(t *testing.T) {
	one := learned.Learn(quantity.Range{}, []float64{320}, learned.OfAVessel)
	assert.InDelta(t, 320, one.Value, 1e-9)
	assert.Greater(t, one.High, 320.0)
	assert.InDelta(t, 1, one.Share, 0)
	none := learned.Learn(quantity.Range{}, []float64{0, -1, math.Inf(1), math.NaN()}, learned.OfAVessel)
	assert.Zero(t, none.Value)
	assert.Zero(t, none.Count)
}

func TestWhatIsLearnedLiesBetween(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		low := rapid.Float64Range(0.1, 10).Draw(t, "low")
		high := low * rapid.Float64Range(1.01, 4).Draw(t, "wide")
		usual := quantity.Range{Value: math.Sqrt(low * high), Low: low, High: high}
		repeat := rapid.SampledFrom([]learned.Repeat{learned.OfACup, learned.OfAPiece, learned.OfADrop, learned.OfAVessel, learned.OfAHandful, learned.OfDrying}).Draw(t, "repeat")
		at := rapid.Float64Range(low, high).Draw(t, "measured")
		n := rapid.IntRange(1, 12).Draw(t, "n")
		same := slices.Repeat([]float64{at}, n)
		f := learned.Learn(usual, same, repeat)
		lo, hi := min(at, usual.Value), max(at, usual.Value)
		if f.Value < lo*(1-1e-9) || f.Value > hi*(1+1e-9) {
			t.Fatalf("%v lies outside %g and %g", f, lo, hi)
		}
		if f.Low > f.Value || f.Value > f.High || f.Low <= 0 {
			t.Fatalf("no band: %v", f)
		}
		more := learned.Learn(usual, append(same, at), repeat)
		if more.Share < f.Share || more.High/more.Low > f.High/f.Low*(1+1e-9) {
			t.Fatalf("one more that agrees makes it less sure: %v then %v", f, more)
		}
		if f.High/f.Low > usual.High/usual.Low*(1+1e-9) {
			t.Fatalf("measurements that agree widened it: %v", f)
		}
		mixed := rapid.SliceOfN(rapid.Float64Range(low/3, high*3), 2, 8).Draw(t, "mixed")
		turned := slices.Clone(mixed)
		slices.Reverse(turned)
		a, b := learned.Learn(usual, mixed, repeat), learned.Learn(usual, turned, repeat)
		if math.Abs(a.Value-b.Value) > 1e-9*a.Value || math.Abs(a.High-b.High) > 1e-9*a.High {
			t.Fatalf("their order counts: %v, %v", a, b)
		}
	})
}
