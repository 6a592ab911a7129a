package trial

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// mostCounted bounds how many sums of ranks are counted in a block; beyond, the answer is the
// usual approximation.
const mostCounted = 2_000_000

// Friedman is Friedman's test (1937) of blocks in each of which every good has a mark, one row a
// block: how often chance alone parts the sums of ranks at least so far. It is counted over all
// orders within the blocks, given the ties there; of so many blocks that this takes too long it
// is approximated by chi-square, and exact is false. p is 1 where there is nothing to compare.
func Friedman(blocks [][]float64) (p float64, exact bool) {
	if len(blocks) == 0 || len(blocks[0]) < 2 {
		return 1, true
	}
	k := len(blocks[0])
	ranked := make([][]int, len(blocks)) // twice the ranks: whole numbers
	sums := make([]int, k)
	for b, marks := range blocks {
		for i, r := range MidRanks(marks) {
			ranked[b] = append(ranked[b], int(math.Round(2*r)))
			sums[i] += ranked[b][i]
		}
	}
	apart := spread(sums)
	if p, ok := counted(ranked, apart); ok {
		return p, true
	}
	return approximately(ranked, sums), false
}

// spread is how far sums are apart: as the squares of what each is off their mean, times how
// many there are, so that it stays whole.
func spread(sums []int) int {
	all, squares := 0, 0
	for _, s := range sums {
		all += s
		squares += s * s
	}
	return len(sums)*squares - all*all
}

// counted counts how likely it is that sums of ranks are at least so far apart; ok is false
// where there are too many of them.
func counted(ranked [][]int, apart int) (p float64, ok bool) {
	k := len(ranked[0])
	if k > len(sumsOf{}) {
		return 0, false
	}
	likely := map[sumsOf]float64{{}: 1}
	for _, ranks := range ranked {
		orders := orders(ranks)
		if len(likely)*len(orders) > mostCounted {
			return 0, false
		}
		next := make(map[sumsOf]float64, len(likely))
		for at, l := range likely {
			for _, o := range orders {
				to := at
				for i, r := range o {
					to[i] += r
				}
				slices.Sort(to[:k]) // which good has which sum does not matter to how far they are apart
				next[to] += l / float64(len(orders))
			}
		}
		likely = next
	}
	for at, l := range likely {
		if spread(at[:k]) >= apart {
			p += l
		}
	}
	return min(1, p), true
}

// sumsOf are sums of ranks of so many goods at the most.
type sumsOf [6]int

// orders are all orders of ranks, as often as each comes up.
func orders(ranks []int) (out [][]int) {
	var take func(at int)
	of := slices.Clone(ranks)
	take = func(at int) {
		if at == len(of) {
			out = append(out, slices.Clone(of))
			return
		}
		for i := at; i < len(of); i++ {
			of[at], of[i] = of[i], of[at]
			take(at + 1)
			of[at], of[i] = of[i], of[at]
		}
	}
	take(0)
	return out
}

// approximately is Friedman's statistic with the usual correction for ties, held against
// chi-square.
func approximately(ranked [][]int, sums []int) float64 {
	n, k := float64(len(ranked)), float64(len(sums))
	numerator, squares := 0.0, 0.0
	for _, s := range sums {
		off := float64(s)/2 - n*(k+1)/2
		numerator += off * off
	}
	for _, ranks := range ranked {
		for _, r := range ranks {
			squares += float64(r*r) / 4
		}
	}
	denominator := squares - n*k*(k+1)*(k+1)/4
	if denominator <= 0 {
		return 1
	}
	return distuv.ChiSquared{K: k - 1}.Survival((k - 1) * numerator / denominator)
}
