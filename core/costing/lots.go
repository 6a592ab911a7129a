package costing

import (
	"cmp"
	"math"
	"slices"
	"time"

	"github.com/shopspring/decimal"
)

// Lot is one delivery of one material, bag or bottle, at its landed price.
type Lot struct {
	ID         string
	Material   string
	OriginalG  float64
	RemainingG float64
	Landed     decimal.Decimal // price of the whole lot, freight and tax as the workshop counts them
	BestBefore time.Time       // zero when none is given
	Received   time.Time
	Unusable   bool // set aside: clumped, spilt, not to be drawn on
}

// Need is grams of a material wanted for one line.
type Need struct {
	Line     int
	Material string
	Grams    float64
}

// Draw takes grams from a lot for a line, at what they cost.
type Draw struct {
	Line  int
	Lot   string
	Grams float64
	Cost  decimal.Decimal
}

// Short is what the lots could not give.
type Short struct {
	Line     int
	Material string
	MissingG float64
	PastG    float64 // grams there, but past their date
}

// crumbShare is the share of a need below which a lot's last remainder is not
// worth opening the bag for while other bags hold enough. It is what a
// weighing may be off by. Common practice.
const crumbShare = 0.02

// MassTolerance is the grams below which a remainder is nothing: stock is
// kept to the milligram.
const MassTolerance = 0.0005

// Allocate draws the needs from the lots first-expired-first-out: the lot
// with the earliest date goes first, undated lots after dated ones, older
// deliveries before newer. Lots past their date on the given day, set aside
// or empty are not drawn on; one with only a crumb left, under 2 % of the
// need, is a last resort. Needs are served in order. The lots are not changed.
func Allocate(needs []Need, lots []Lot, on time.Time) ([]Draw, []Short) {
	queues := map[string][]*Lot{}
	for _, n := range needs {
		queues[n.Material] = nil
	}
	past := map[string]float64{}
	for i := range lots {
		l := &lots[i]
		queue, wanted := queues[l.Material]
		if !wanted || l.Unusable || l.RemainingG <= MassTolerance {
			continue
		}
		if l.PastOn(on) {
			past[l.Material] += l.RemainingG
			continue
		}
		queues[l.Material] = append(queue, l)
	}
	for _, queue := range queues {
		slices.SortFunc(queue, FirstExpiredFirst)
	}
	draws := make([]Draw, 0, len(needs))
	var shorts []Short
	used := map[string]float64{} // grams drawn from the head of each queue
	for _, n := range needs {
		left := n.Grams
		crumbsLast(queues[n.Material], used[n.Material], left)
		for left > MassTolerance && len(queues[n.Material]) > 0 {
			head := *queues[n.Material][0]
			head.RemainingG -= used[head.Material]
			g := min(left, head.RemainingG)
			if g > MassTolerance {
				draws = append(draws, Draw{Line: n.Line, Lot: head.ID, Grams: g, Cost: head.Cost(g)})
				left -= g
			}
			if head.RemainingG-g > MassTolerance {
				used[n.Material] += g
				continue
			}
			queues[n.Material] = queues[n.Material][1:]
			used[n.Material] = 0
		}
		if left > MassTolerance {
			shorts = append(shorts, Short{Line: n.Line, Material: n.Material, MissingG: left, PastG: past[n.Material]})
		}
	}
	return draws, shorts
}

// crumbsLast moves lots that hold only a crumb of a need to the end of the
// queue, if those behind them hold enough. usedG was drawn from the first.
func crumbsLast(queue []*Lot, usedG, needG float64) {
	if len(queue) == 0 || usedG > 0 || queue[0].RemainingG >= crumbShare*needG {
		return
	}
	behind := 0.0
	for _, l := range queue {
		behind += l.RemainingG
	}
	for range queue {
		g := queue[0].RemainingG
		behind -= g
		if g >= crumbShare*needG || behind < needG {
			return
		}
		crumb := queue[0]
		copy(queue, queue[1:])
		queue[len(queue)-1] = crumb
	}
}

// FirstExpiredFirst orders lots by date, then delivery, then id.
func FirstExpiredFirst(a, b *Lot) int {
	if a.BestBefore.IsZero() != b.BestBefore.IsZero() {
		if a.BestBefore.IsZero() {
			return 1
		}
		return -1
	}
	if c := a.BestBefore.Compare(b.BestBefore); c != 0 {
		return c
	}
	return cmp.Or(a.Received.Compare(b.Received), cmp.Compare(a.ID, b.ID))
}

// PastOn reports whether the lot's date is before the given day.
func (l *Lot) PastOn(day time.Time) bool {
	return !l.BestBefore.IsZero() && l.BestBefore.Before(day)
}

// Cost is what drawing g grams next takes of the landed price, in cents. The
// costs of successive draws sum to the landed price when the lot is used up.
func (l *Lot) Cost(g float64) decimal.Decimal {
	drawn := l.OriginalG - l.RemainingG
	return l.runningCost(drawn + g).Sub(l.runningCost(drawn))
}

func (l *Lot) runningCost(drawnG float64) decimal.Decimal {
	if l.OriginalG <= 0 {
		return decimal.Zero
	}
	if drawnG >= l.OriginalG-MassTolerance {
		return l.Landed
	}
	return l.Landed.Mul(milligrams(drawnG)).Div(milligrams(l.OriginalG)).Round(cents)
}

// milligrams makes a decimal of grams at the precision stock is kept in.
func milligrams(g float64) decimal.Decimal {
	return decimal.New(int64(math.Round(g*1000)), -3)
}
