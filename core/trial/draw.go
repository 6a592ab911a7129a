package trial

import "math"

// lots draws numbers from a seed, the same ones from the same: SplitMix64 (Steele, Lea and Flood,
// 2014).
type lots uint64

func (l *lots) next() uint64 {
	*l += 0x9E3779B97F4A7C15
	z := uint64(*l)
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return z ^ z>>31
}

// below draws a number under n.
func (l *lots) below(n int) int { return int(l.next() % uint64(n)) }

// normal draws from the normal distribution (Box and Muller, 1958).
func (l *lots) normal() float64 {
	u := (float64(l.next()>>11) + 1) / (1 << 53)
	v := float64(l.next()>>11) / (1 << 53)
	return math.Sqrt(-2*math.Log(u)) * math.Cos(2*math.Pi*v)
}

// Draw draws by lot which good goes by which code in each pair: Draw(…)[p][c] is the good behind
// code c of pair p, from 0. Each good comes as often behind each code as that comes out even, so
// that what is always judged first has no advantage.
func Draw(seed uint64, pairs, goods int) [][]int {
	l := lots(seed)
	out := make([][]int, pairs)
	for p := range out {
		turn := p % goods // by turns, so that it comes out even over every so many pairs
		out[p] = make([]int, goods)
		for c := range out[p] {
			out[p][c] = (c + turn) % goods
		}
	}
	for from := 0; from < pairs; from += goods { // and the order of the turns by lot
		to := min(from+goods, pairs)
		for i := to - 1; i > from; i-- {
			k := from + l.below(i-from+1)
			out[i], out[k] = out[k], out[i]
		}
		names := make([]int, goods) // which good is which in these turns
		for i := range names {
			names[i] = i
		}
		for i := goods - 1; i > 0; i-- {
			k := l.below(i + 1)
			names[i], names[k] = names[k], names[i]
		}
		for i := from; i < to; i++ {
			for c, g := range out[i] {
				out[i][c] = names[g]
			}
		}
	}
	return out
}

// Code is what a good goes by in a pair, from 0: A, B and so on.
func Code(c int) string { return string(rune('A' + c)) }

// Bounds of a plan: fewer pairs can tell nothing, more are too many for a workshop.
const (
	leastPairs = 6
	mostPlan   = 60
	drawn      = 1500 // trials in each number of pairs
)

// PairsNeeded is how many pairs tell a difference in four trials of five, where single differences
// spread about it by so much (a standard deviation) and so many goods are held against the control:
// trials are drawn from a seed that is kept in the code, and answered as they would be. ok is false
// where even sixty would not do.
func PairsNeeded(difference, spread float64, comparisons int) (pairs int, ok bool) {
	if difference <= 0 || spread < 0 || comparisons < 1 {
		return 0, false
	}
	for n := leastPairs; n <= mostPlan; n++ {
		if sweep(n, 0)*float64(comparisons) >= level {
			continue
		}
		counts := 0 // the sum of ranks against it that still counts
		for sweep(n, counts+1)*float64(comparisons) < level {
			counts++
		}
		l, told := lots(20_051_945), 0
		sizes := make([]float64, n)
		for range drawn {
			against := 0.0
			signs := make([]bool, n)
			for i := range sizes {
				d := difference + spread*l.normal()
				sizes[i], signs[i] = math.Abs(d), d < 0
			}
			for i, r := range MidRanks(sizes) {
				if signs[i] {
					against += r
				}
			}
			if against <= float64(counts) {
				told++
			}
		}
		if float64(told) >= 0.8*drawn {
			return n, true
		}
	}
	return 0, false
}
