package trial

import (
	"cmp"
	"math"
	"slices"
)

// grain is the least difference between two marks that counts: what is nearer is a tie, since
// sums of decimals are not exact.
const grain = 1e-9

func settle(x float64) float64 { return math.Round(x/grain) * grain }

// MidRanks are the ranks of values from 1 on; those that are the same share the mean of theirs.
func MidRanks(values []float64) []float64 {
	order := make([]int, len(values))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return cmp.Compare(values[a], values[b]) })
	ranks := make([]float64, len(values))
	for i := 0; i < len(order); {
		k := i
		for k < len(order) && values[order[k]]-values[order[i]] < grain {
			k++
		}
		for _, at := range order[i:k] {
			ranks[at] = float64(i+1+k) / 2
		}
		i = k
	}
	return ranks
}

// withoutZeros are differences that are not none.
func withoutZeros(d []float64) []float64 {
	return slices.DeleteFunc(slices.Clone(d), func(x float64) bool { return math.Abs(x) < grain })
}

// SignedRank is Wilcoxon's signed-rank test (1945) of paired differences, two-sided: how often
// chance alone is at least as far to one side, counted over all signs given the ties that are
// there. Zeros are left out. n is how many are not; p is 1 where none is.
func SignedRank(d []float64) (p float64, n int) {
	d = withoutZeros(d)
	if len(d) == 0 {
		return 1, 0
	}
	sizes := make([]float64, len(d))
	for i, x := range d {
		sizes[i] = math.Abs(x)
	}
	ranks := MidRanks(sizes)
	twice := make([]int, len(d)) // whole numbers
	plus, all := 0, 0
	for i, r := range ranks {
		twice[i] = int(math.Round(2 * r))
		all += twice[i]
		if d[i] > 0 {
			plus += twice[i]
		}
	}
	return min(1, 2*atMost(twice, min(plus, all-plus))), len(d)
}

// atMost is how likely the sum of those of some numbers that a coin picks is at most so much.
func atMost(of []int, sum int) float64 {
	all := 0.0
	for _, l := range picked(of, sum) {
		all += l
	}
	return all
}

// picked is how likely each sum up to one is, of those of some numbers that a coin picks.
func picked(of []int, sum int) []float64 {
	likely := make([]float64, sum+1)
	likely[0] = 1
	for _, x := range of {
		for s := sum; s >= 0; s-- {
			likely[s] /= 2
			if s >= x {
				likely[s] += likely[s-x] / 2
			}
		}
	}
	return likely
}

// SignTest is the sign test, two-sided: how often chance alone has at least as many to one
// side. Zeros are left out.
func SignTest(d []float64) float64 {
	d = withoutZeros(d)
	plus := 0
	for _, x := range d {
		if x > 0 {
			plus++
		}
	}
	if len(d) == 0 {
		return 1
	}
	ones := make([]int, len(d))
	for i := range ones {
		ones[i] = 1
	}
	return min(1, 2*atMost(ones, min(plus, len(d)-plus)))
}

// Estimate is a difference with an interval.
type Estimate struct {
	Value, Low, High float64
	Confidence       float64 // of the interval, as a share
}

// wanted is the confidence that an interval has at the least, where the pairs allow it.
const wanted = 0.95

// HodgesLehmann is the median of the means of all pairs of differences (Walsh averages), each
// with itself too, and the exact interval between two of them: that whose confidence is nearest
// to 95 % and not under it, or the widest there is where so few pairs cannot reach that. Zeros
// count here: they are differences like any other.
func HodgesLehmann(d []float64) Estimate {
	var means []float64
	for i := range d {
		for k := i; k < len(d); k++ {
			means = append(means, settle((d[i]+d[k])/2))
		}
	}
	if len(means) == 0 {
		return Estimate{}
	}
	slices.Sort(means)
	m := len(means)
	e := Estimate{Value: settle((means[(m-1)/2] + means[m/2]) / 2)}
	ranks := make([]int, len(d))
	for i := range ranks {
		ranks[i] = i + 1
	}
	likely := picked(ranks, m/2)
	k, beyond := 1, likely[0] // the k-th from each end, and how likely it is beyond one
	for k+1 <= m/2 && beyond+likely[k] <= (1-wanted)/2 {
		beyond += likely[k]
		k++
	}
	e.Low, e.High, e.Confidence = means[k-1], means[m-k], 1-2*beyond
	return e
}

// Holm are p-values with what several comparisons at once cost them (Holm 1979): the smallest
// times as many as there are, the next times one fewer, and none below one before it.
func Holm(p []float64) []float64 {
	order := make([]int, len(p))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(p[a], p[b]) })
	out := make([]float64, len(p))
	last := 0.0
	for i, at := range order {
		last = max(last, min(1, p[at]*float64(len(p)-i)))
		out[at] = last
	}
	return out
}
