package trial

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"gonum.org/v1/gonum/stat/distuv"
)

// Mark is what one good was given in one pair, or block.
type Mark struct {
	Pair, Good string
	Mark       float64
}

// Trial is marks of goods within pairs.
type Trial struct {
	Marks   []Mark
	Control string // that the others are held against; the first good where it is empty
	Lower   bool   // a lower mark is the better one
	Ranked  bool   // the marks are places in an order, 1 for the best
}

// Verdict is what a comparison says.
type Verdict string

// The verdicts. Too few is where not even all pairs to one side could be told from chance.
const (
	Better   Verdict = "better"
	Worse    Verdict = "worse"
	NoneSeen Verdict = "no difference seen"
	TooFew   Verdict = "too few"
)

// Comparison is one good held against another: Difference is the good less that.
type Comparison struct {
	Good, Against string
	Pairs         int // in which both have a mark
	Difference    Estimate
	Differences   []float64 // of each pair, in the order of the pairs
	P, PHolm      float64   // of the signed ranks, exact and two-sided
	PSign         float64
	Verdict       Verdict
	MorePairs     int // that would probably tell; 0 where it is told, or no number would
	Says          string
}

// Answer is what a trial says.
type Answer struct {
	Pairs         []string // in the order they were marked
	Goods         []string
	Comparisons   []Comparison
	Friedman      float64 // of three goods or more, over the pairs in which all have a mark; 0 for two
	FriedmanExact bool
	Whole         int // how many pairs those are
}

// Fault is what of a trial cannot be.
type Fault struct {
	Row    int // of the marks, from 0; −1 for none
	Detail string
}

func (f *Fault) Error() string { return f.Detail }

// Bounds of a trial: more is no trial of a workshop.
const (
	mostPairs = 500
	mostGoods = 12
	level     = 0.05 // by chance alone so seldom: then it counts. The usual convention
)

// Answer answers a trial: each good against the control, with what that is worth. The error is
// a [*Fault].
func (t *Trial) Answer() (*Answer, error) {
	a := &Answer{}
	at := map[[2]string]float64{}
	for i, m := range t.Marks {
		switch {
		case m.Pair == "" || m.Good == "":
			return nil, &Fault{i, "A mark is of a good in a pair: name both."}
		case math.IsNaN(m.Mark) || math.IsInf(m.Mark, 0):
			return nil, &Fault{i, "A mark is a number."}
		}
		key := [2]string{m.Pair, m.Good}
		if _, twice := at[key]; twice {
			return nil, &Fault{i, fmt.Sprintf("%s has a mark in pair %s already.", m.Good, m.Pair)}
		}
		at[key] = m.Mark
		if !slices.Contains(a.Pairs, m.Pair) {
			a.Pairs = append(a.Pairs, m.Pair)
		}
		if !slices.Contains(a.Goods, m.Good) {
			a.Goods = append(a.Goods, m.Good)
		}
		if len(a.Pairs) > mostPairs || len(a.Goods) > mostGoods {
			return nil, &Fault{i, fmt.Sprintf("A trial has %d pairs of %d goods at the most.", mostPairs, mostGoods)}
		}
	}
	control, err := t.control(a.Goods)
	if err != nil {
		return nil, err
	}
	for _, good := range a.Goods {
		if good == control {
			continue
		}
		c := Comparison{Good: good, Against: control}
		for _, pair := range a.Pairs {
			x, has := at[[2]string{pair, good}]
			y, both := at[[2]string{pair, control}]
			if has && both {
				c.Differences = append(c.Differences, settle(x-y))
			}
		}
		c.Pairs = len(c.Differences)
		c.Difference = HodgesLehmann(c.Differences)
		c.P, _ = SignedRank(c.Differences)
		c.PSign = SignTest(c.Differences)
		a.Comparisons = append(a.Comparisons, c)
	}
	t.judge(a)
	t.all(a, at)
	return a, nil
}

func (t *Trial) control(goods []string) (string, error) {
	switch {
	case len(goods) < 2:
		return "", &Fault{-1, "A trial holds at least two goods against each other."}
	case t.Control == "":
		return goods[0], nil
	case !slices.Contains(goods, t.Control):
		return "", &Fault{-1, fmt.Sprintf("%s, which the others are to be held against, has no marks.", t.Control)}
	}
	return t.Control, nil
}

// judge says what each comparison is worth, with what several at once cost.
func (t *Trial) judge(a *Answer) {
	p := make([]float64, len(a.Comparisons))
	for i := range p {
		p[i] = a.Comparisons[i].P
	}
	for i, holm := range Holm(p) {
		c := &a.Comparisons[i]
		c.PHolm = holm
		at := len(p)
		switch {
		case sweep(c.Pairs, 0)*float64(at) >= level:
			c.Verdict, c.MorePairs = TooFew, enough(c.Pairs, at)-c.Pairs
		case c.PHolm < level:
			c.Verdict = Worse
			if c.Difference.Value > 0 != t.Lower {
				c.Verdict = Better
			}
		default:
			c.Verdict, c.MorePairs = NoneSeen, noether(c.Differences, at)
		}
		c.Says = c.words(at, t.Ranked)
	}
}

// sweep is how often chance alone does as clearly as n pairs in which the signed ranks that go
// the other way sum to so little.
func sweep(n, against int) float64 {
	ranks := make([]int, n)
	for i := range ranks {
		ranks[i] = i + 1
	}
	return min(1, 2*atMost(ranks, against))
}

// slips is the sum of ranks that may go the other way when it is said how many pairs are
// enough: the two smallest differences of all. Our own choice: one slip is common practice.
const slips = 3

// enough is how many pairs would tell a difference that is nearly always to one side.
func enough(n, comparisons int) int {
	for n++; sweep(n, slips)*float64(comparisons) >= level; n++ {
	}
	return n
}

// mostMore is how many pairs more are worth naming: beyond, the difference is too small to care.
const mostMore = 200

// noether is how many pairs more would tell a difference such as the one that was seen, four
// times in five (Noether 1987): from how often the sum of two differences is to one side.
func noether(d []float64, comparisons int) int {
	above, all := 0.0, 0.0
	for i := range d {
		for k := i + 1; k < len(d); k++ {
			switch sum := d[i] + d[k]; {
			case sum > grain:
				above++
			case sum > -grain:
				above += 0.5
			}
			all++
		}
	}
	if all == 0 {
		return 0
	}
	off := above/all - 0.5
	if math.Abs(off) < 1e-6 {
		return 0
	}
	z := distuv.UnitNormal.Quantile(1-level/2/float64(comparisons)) + distuv.UnitNormal.Quantile(0.8)
	n := int(math.Ceil(z * z / (3 * off * off)))
	if more := n - len(d); more > 0 && more <= mostMore {
		return more
	} else if more <= 0 {
		return 1 // it was near: chance decides about one pair more
	}
	return 0
}

// all holds three goods or more against each other at once, over the pairs in which every one
// has a mark.
func (t *Trial) all(a *Answer, at map[[2]string]float64) {
	if len(a.Goods) < 3 {
		return
	}
	var blocks [][]float64
	for _, pair := range a.Pairs {
		var row []float64
		for _, good := range a.Goods {
			if m, has := at[[2]string{pair, good}]; has {
				row = append(row, m)
			}
		}
		if len(row) == len(a.Goods) {
			blocks = append(blocks, row)
		}
	}
	a.Whole = len(blocks)
	a.Friedman, a.FriedmanExact = Friedman(blocks)
}

// words are a sentence that can be repeated.
func (c *Comparison) words(comparisons int, ranked bool) string {
	short := func(x float64) string {
		return strings.Replace(strconv.FormatFloat(math.Round(x*100)/100, 'f', -1, 64), "-", "−", 1)
	}
	after := fmt.Sprintf("After %d pairs", c.Pairs)
	if c.Pairs == 1 {
		after = "After one pair"
	}
	between := fmt.Sprintf("between %s and %s", short(c.Difference.Low), short(c.Difference.High))
	chance := "by chance alone so clear a result comes up " + OneIn(c.PHolm)
	if comparisons > 1 {
		chance += fmt.Sprintf(", with %d goods held against %s", comparisons, c.Against)
	}
	switch c.Verdict {
	case TooFew:
		if c.Pairs == 0 {
			return fmt.Sprintf("No pair has a mark of both %s and %s: make at least %d.", c.Good, c.Against, c.MorePairs)
		}
		best := OneIn(min(1, sweep(c.Pairs, 0)*float64(comparisons)))
		return fmt.Sprintf("%s can at best say “%s by chance”: make %d more before anything is said of %s and %s.", afterwards(c.Pairs), best, c.MorePairs, c.Good, c.Against)
	case NoneSeen:
		says := fmt.Sprintf("%s no difference was seen between %s and %s: %s; %s.", after, c.Good, c.Against, between, chance)
		if c.MorePairs > 0 {
			says += fmt.Sprintf(" A difference like this one would take about %d more to tell.", c.MorePairs)
		}
		return says
	}
	if ranked {
		side := "behind"
		if c.Difference.Value < 0 {
			side = "before"
		}
		return fmt.Sprintf("%s %s was placed %s %s, %s, by %s places, %s; %s.", after, c.Good, side, c.Against, plainly(c.Verdict), short(math.Abs(c.Difference.Value)), sized(c.Difference, short), chance)
	}
	side := "higher"
	if c.Difference.Value < 0 {
		side = "lower"
	}
	return fmt.Sprintf("%s %s was marked %s than %s, %s, by %s, %s; %s.", after, c.Good, side, c.Against, plainly(c.Verdict), short(math.Abs(c.Difference.Value)), sized(c.Difference, short), chance)
}

// plainly is a verdict in a sentence.
func plainly(v Verdict) string { return "which is the " + string(v) }

// sized is an interval without its sign, where both ends have the same.
func sized(e Estimate, short func(float64) string) string {
	low, high := e.Low, e.High
	if high < 0 || high == 0 && low < 0 {
		low, high = -high, -low
	}
	return fmt.Sprintf("between %s and %s", short(low), short(high))
}

func afterwards(pairs int) string {
	if pairs == 1 {
		return "One pair"
	}
	return fmt.Sprintf("%d pairs", pairs)
}

// OneIn says how seldom something is: 1 time in 64.
func OneIn(p float64) string {
	switch {
	case p >= 1:
		return "every time"
	case p > 0.4:
		return "about every other time"
	case p < 1e-6:
		return "less than once in a million times"
	}
	return fmt.Sprintf("1 time in %.0f", math.Round(1/p))
}
