package trial_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/trial"
)

// Darwin's maize, as Fisher gives it (The Design of Experiments, 1935, section 17): how much
// taller the crossed plant of each of fifteen pairs was, in eighths of an inch. The sum of the
// ranks against it is 24; two-sided p 0.0413 (from memory; counted here).
var maize = []float64{49, -67, 8, 16, 6, 23, 28, 41, 14, 29, 56, 24, 75, 60, -48}

func TestSignedRanksAgainstPublishedExamples(t *testing.T) {
	p, n := trial.SignedRank(maize)
	assert.Equal(t, 15, n)
	assert.InDelta(t, 0.0413, p, 0.0001)
	// Hollander and Wolfe, Nonparametric Statistical Methods, example 3.1: the depression factor
	// of nine patients before and after; T+ = 40, one-sided P 0.0195 (from memory)
	x := []float64{1.83, 0.50, 1.62, 2.48, 1.68, 1.88, 1.55, 3.06, 1.30}
	y := []float64{0.878, 0.647, 0.598, 2.05, 1.06, 1.29, 1.06, 3.14, 1.29}
	var d []float64
	for i := range x {
		d = append(d, x[i]-y[i])
	}
	p, _ = trial.SignedRank(d)
	assert.InDelta(t, 2*0.01953, p, 0.0001)
	e := trial.HodgesLehmann(d)
	assert.InDelta(t, 0.46, e.Value, 0.001, "the same, example 3.3")
	assert.InDelta(t, 0.961, e.Confidence, 0.001)
	assert.InDelta(t, 0.01, e.Low, 0.001)
	assert.InDelta(t, 0.786, e.High, 0.001)
}

// Critical values of the signed ranks, two-sided at 0.05 (Wilcoxon 1945; the table of
// handbooks, from memory): the largest sum of the rarer sign that still counts.
func TestSignedRanksAgainstTheTable(t *testing.T) {
	for n, critical := range map[int]int{6: 0, 7: 2, 8: 3, 9: 5, 10: 8, 11: 10, 12: 13, 13: 17, 14: 21, 15: 25, 16: 29, 17: 34, 18: 40, 19: 46, 20: 52, 21: 58, 22: 65, 23: 73, 24: 81, 25: 89} {
		assert.LessOrEqual(t, pOfSum(n, critical), 0.05, "n %d", n)
		assert.Greater(t, pOfSum(n, critical+1), 0.05, "n %d", n)
	}
}

// pOfSum is the p of n pairs without ties whose negative ranks sum to so much.
func pOfSum(n, sum int) float64 {
	d := make([]float64, n)
	for i := range d {
		d[i] = float64(i + 1)
	}
	for i := n - 1; i >= 0 && sum > 0; i-- {
		if i+1 <= sum {
			d[i] = -d[i]
			sum -= i + 1
		}
	}
	p, _ := trial.SignedRank(d)
	return p
}

// Counted by turning every sign: with ties, zeros, small and large.
func TestSignedRanksAreCounted(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 9))
	for range 200 {
		n := 1 + r.IntN(11)
		d := make([]float64, n)
		for i := range d {
			d[i] = float64(r.IntN(9)-4) / 2
		}
		p, left := trial.SignedRank(d)
		var kept []float64
		for _, x := range d {
			if x != 0 {
				kept = append(kept, x)
			}
		}
		require.Equal(t, len(kept), left)
		require.InDelta(t, turned(kept), p, 1e-9, "%v", d)
		require.LessOrEqual(t, p, 1.0)
	}
}

func turned(d []float64) float64 {
	sizes := make([]float64, len(d))
	for i, x := range d {
		sizes[i] = math.Abs(x)
	}
	ranks := trial.MidRanks(sizes)
	sum := func(sign func(int) bool) (plus, minus float64) {
		for i, r := range ranks {
			if sign(i) {
				plus += r
			} else {
				minus += r
			}
		}
		return plus, minus
	}
	plus, minus := sum(func(i int) bool { return d[i] > 0 })
	seen, n := 0, 1<<len(d)
	for signs := range n {
		a, b := sum(func(i int) bool { return signs>>i&1 == 1 })
		if min(a, b) <= min(plus, minus)+1e-9 {
			seen++
		}
	}
	return float64(seen) / float64(n)
}

// Friedman's test by counting all orders, and against published ones: Hollander and Wolfe,
// example 7.1, rounding first base (22 players, three ways; S = 11.14, from memory; by the
// approximation 0.004).
func TestFriedman(t *testing.T) {
	base := [][]float64{{5.40, 5.50, 5.55}, {5.85, 5.70, 5.75}, {5.20, 5.60, 5.50}, {5.55, 5.50, 5.40}, {5.90, 5.85, 5.70}, {5.45, 5.55, 5.60}, {5.40, 5.40, 5.35}, {5.45, 5.50, 5.35}, {5.25, 5.15, 5.00}, {5.85, 5.80, 5.70}, {5.25, 5.20, 5.10},
		{5.65, 5.55, 5.45}, {5.60, 5.35, 5.45}, {5.05, 5.00, 4.95}, {5.50, 5.50, 5.40}, {5.45, 5.55, 5.50}, {5.55, 5.55, 5.35}, {5.45, 5.50, 5.55}, {5.50, 5.45, 5.25}, {5.65, 5.60, 5.40}, {5.70, 5.65, 5.55}, {6.30, 6.30, 6.25}}
	p, exact := trial.Friedman(base)
	assert.True(t, exact)
	assert.InDelta(t, 0.003, p, 0.0015)
	// Friedman's own tables (1937), from memory: three goods in three blocks all alike, 6.0: 0.028;
	// in four, 8.0: 0.0046; four goods in two blocks, 6.0: 0.042
	alike := func(n, k int) (blocks [][]float64) {
		for range n {
			row := make([]float64, k)
			for i := range row {
				row[i] = float64(i)
			}
			blocks = append(blocks, row)
		}
		return blocks
	}
	for _, c := range []struct {
		n, k int
		p    float64
	}{{3, 3, 0.0278}, {4, 3, 0.0046}, {2, 4, 0.0417}} {
		p, exact := trial.Friedman(alike(c.n, c.k))
		assert.True(t, exact)
		assert.InDelta(t, c.p, p, 0.0001)
	}
	many, exact := trial.Friedman(alike(60, 6))
	assert.Less(t, many, 1e-6)
	assert.False(t, exact, "it says that it is approximated")
	none, _ := trial.Friedman([][]float64{{1, 1, 1}, {2, 2, 2}})
	assert.InDelta(t, 1, none, 1e-9)
}

func TestHolm(t *testing.T) { // by hand
	assert.InDeltaSlice(t, []float64{0.03, 0.06, 0.06, 0.02}, trial.Holm([]float64{0.01, 0.04, 0.03, 0.005}), 1e-12)
}

// marks of two goods: the second is held against the first.
func marks(control, good []float64) (out []trial.Mark) {
	for i := range control {
		out = append(out, trial.Mark{Pair: fmt.Sprint(i + 1), Good: "Towpath", Mark: control[i]}, trial.Mark{Pair: fmt.Sprint(i + 1), Good: "Plain", Mark: good[i]})
	}
	return out
}

func answer(t *testing.T, tr trial.Trial) *trial.Answer {
	t.Helper()
	a, err := tr.Answer()
	require.NoError(t, err)
	return a
}

// Seven pairs all to one side come up by chance 1 time in 64; five can at best say 1 in 16, and
// are never more than too few, however clear they look.
func TestAnAnswerSaysNoMoreThanTheMarksAllow(t *testing.T) {
	tea := []float64{2, 3, 2, 4, 3, 2, 3}
	film := []float64{3.5, 4, 4.5, 5.5, 3.5, 4.5, 4}
	c := answer(t, trial.Trial{Marks: marks(tea, film), Lower: true}).Comparisons[0]
	assert.Equal(t, trial.Worse, c.Verdict, "more film")
	assert.InDelta(t, 1.0/64, c.P, 1e-12)
	assert.Contains(t, c.Says, "After 7 pairs Plain was marked higher than Towpath")
	assert.Contains(t, c.Says, "1 time in 64")
	assert.GreaterOrEqual(t, c.Difference.Confidence, 0.95)
	c = answer(t, trial.Trial{Marks: marks(tea, film)}).Comparisons[0]
	assert.Equal(t, trial.Better, c.Verdict, "where higher is better")

	c = answer(t, trial.Trial{Marks: marks(tea[:5], film[:5]), Lower: true}).Comparisons[0]
	assert.Equal(t, trial.TooFew, c.Verdict)
	assert.Equal(t, 3, c.MorePairs)
	assert.Contains(t, c.Says, "1 time in 16")
	assert.NotContains(t, c.Says, "worse")
	assert.InDelta(t, 0.9375, c.Difference.Confidence, 1e-9, "the widest there is, and it says so")

	same := []float64{3, 3, 2, 4, 3, 2, 3, 5, 4, 4}
	c = answer(t, trial.Trial{Marks: marks(same, same)}).Comparisons[0]
	assert.Equal(t, trial.NoneSeen, c.Verdict, "all ties")
	assert.Equal(t, 1.0, c.P)
	assert.Zero(t, c.MorePairs, "no number of such pairs would tell")
	c = answer(t, trial.Trial{Marks: marks(tea[:1], film[:1])}).Comparisons[0]
	assert.Equal(t, trial.TooFew, c.Verdict, "one pair")
}

func TestThreeGoodsPayForBeingThree(t *testing.T) {
	var all []trial.Mark
	for i := range 8 {
		pair := fmt.Sprint(i)
		all = append(all, trial.Mark{pair, "water", 2}, trial.Mark{pair, "A", 5 + float64(i%3)}, trial.Mark{pair, "B", 2 + float64(i%2)})
	}
	a := answer(t, trial.Trial{Marks: all, Control: "water"})
	require.Len(t, a.Comparisons, 2)
	assert.Equal(t, trial.Better, a.Comparisons[0].Verdict)
	assert.InDelta(t, 2*a.Comparisons[0].P, a.Comparisons[0].PHolm, 1e-12)
	assert.Equal(t, trial.NoneSeen, a.Comparisons[1].Verdict)
	assert.True(t, a.FriedmanExact)
	assert.Less(t, a.Friedman, 0.01)
	assert.Equal(t, 8, a.Whole)
	// six pairs would do for two goods, and do not for three
	a = answer(t, trial.Trial{Marks: all[:18], Control: "water"})
	assert.Equal(t, trial.TooFew, a.Comparisons[0].Verdict)
}

func TestATrialThatCannotBe(t *testing.T) {
	for name, tr := range map[string]trial.Trial{
		"at least two goods": {Marks: []trial.Mark{{"1", "A", 1}}},
		"has a mark in pair": {Marks: []trial.Mark{{"1", "A", 1}, {"1", "A", 2}}},
		"has no marks":       {Marks: marks([]float64{1}, []float64{2}), Control: "moon"},
		"is a number":        {Marks: []trial.Mark{{"1", "A", math.NaN()}}},
		"name both":          {Marks: []trial.Mark{{"", "A", 1}}},
	} {
		_, err := tr.Answer()
		var f *trial.Fault
		require.ErrorAs(t, err, &f, name)
		assert.Contains(t, f.Detail, name)
	}
	// a judge who marked half: the pairs that are whole count
	half := marks([]float64{1, 2, 3, 4, 5, 6, 7}, []float64{2, 3, 4, 5, 6, 7, 8})
	a := answer(t, trial.Trial{Marks: half[:13]})
	assert.Equal(t, 6, a.Comparisons[0].Pairs)
}

// Turning all signs turns the answer round; the order of what is marked changes nothing; what is
// told is told with a p under 0.05, and an interval on one side of nothing.
func TestAnswersAreEven(t *testing.T) {
	r := rand.New(rand.NewPCG(25, 1))
	told := 0
	for range 200 {
		n := 1 + r.IntN(20)
		x, y := make([]float64, n), make([]float64, n)
		shift := r.Float64() * 3
		for i := range x {
			x[i], y[i] = float64(r.IntN(11)), min(10, math.Round(float64(r.IntN(11))+shift))
		}
		one := answer(t, trial.Trial{Marks: marks(x, y)}).Comparisons[0]
		turned := answer(t, trial.Trial{Marks: marks(y, x)}).Comparisons[0]
		assert.InDelta(t, one.P, turned.P, 1e-12)
		assert.InDelta(t, one.Difference.Value, -turned.Difference.Value, 1e-9)
		assert.InDelta(t, one.Difference.Low, -turned.Difference.High, 1e-9)
		assert.LessOrEqual(t, one.Difference.Low, one.Difference.Value)
		assert.LessOrEqual(t, one.Difference.Value, one.Difference.High)
		if one.Verdict == trial.Better || one.Verdict == trial.Worse {
			told++
			assert.Less(t, one.PHolm, 0.05)
			assert.Zero(t, one.MorePairs)
		}
		if n <= 5 {
			assert.Equal(t, trial.TooFew, one.Verdict)
			assert.Positive(t, one.MorePairs)
		}
	}
	assert.Positive(t, told)
}

func BenchmarkSignedRankOf60Pairs(b *testing.B) {
	r := rand.New(rand.NewPCG(1, 1))
	d := make([]float64, 60)
	for i := range d {
		d[i] = float64(r.IntN(21)-8) / 2
	}
	for b.Loop() {
		trial.SignedRank(d)
		trial.HodgesLehmann(d)
	}
}

// Places stand for marks: ranks with midranks for what is alike, by hand. Two goods in order tell
// no more than their signs do, so that the signed ranks and the sign test agree.
func TestAnOrderIsMarkedByItsPlaces(t *testing.T) {
	ranks, err := trial.Ranks([]string{"B", "AC", "D"}, []string{"A", "B", "C", "D"})
	require.NoError(t, err)
	assert.Equal(t, map[string]float64{"B": 1, "A": 2.5, "C": 2.5, "D": 4}, ranks)
	for _, bad := range [][]string{{"A"}, {"A", "A"}, {"A", "E"}, {"AB", ""}, {"A", "BA"}, nil} {
		_, err := trial.Ranks(bad, []string{"A", "B"})
		assert.Error(t, err, bad)
	}
	ordered := trial.Trial{Control: "plain", Lower: true, Ranked: true}
	for i := range 9 {
		first, second := 1.0, 2.0
		if i == 4 {
			first, second = second, first
		}
		ordered.Marks = append(ordered.Marks, trial.Mark{Pair: fmt.Sprint(i), Good: "new", Mark: first}, trial.Mark{Pair: fmt.Sprint(i), Good: "plain", Mark: second})
	}
	a, err := ordered.Answer()
	require.NoError(t, err)
	c := a.Comparisons[0]
	assert.Equal(t, trial.Better, c.Verdict)
	assert.InDelta(t, 20.0/512, c.P, 1e-12, "one of nine to the other side, two-sided: 2 (1 + 9) in 512")
	assert.InDelta(t, c.PSign, c.P, 1e-12)
	assert.Contains(t, c.Says, "new was placed before plain, which is the better")
}
