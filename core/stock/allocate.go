package stock

import (
	"slices"
	"time"

	"github.com/shopspring/decimal"
)

// Need is a quantity of an item wanted for one line.
type Need struct {
	Line     int
	Item     string
	Quantity float64
}

// Draw takes a quantity from a lot for a line, at what it costs.
type Draw struct {
	Line     int
	Lot      ID
	Quantity float64
	Cost     decimal.Decimal
}

// Short is what the lots could not give.
type Short struct {
	Line    int
	Item    string
	Missing float64
	Past    float64 // there, but past its date
}

// crumbShare is the share of a need below which a lot's last remainder is not
// worth opening the bag for while other bags hold enough. It is what a
// weighing may be off by. Common practice.
const crumbShare = 0.02

// Allocate draws the needs from the lots first-expired-first-out: the lot
// with the earliest date goes first, undated lots after dated ones, older
// deliveries before newer. Lots past their date on the given day, set aside
// or empty are not drawn on, nor is what open makings hold; one with only a crumb
// left, under 2 % of the need, is a last resort. Needs are served in order. The
// lots are not changed.
func Allocate(needs []Need, lots []Lot, on time.Time) ([]Draw, []Short) {
	queues := map[string][]*Lot{}
	for _, n := range needs {
		queues[n.Item] = nil
	}
	past := map[string]float64{}
	for i := range lots {
		l := &lots[i]
		queue, wanted := queues[l.Item]
		if !wanted || l.SetAside || l.Available() <= Tolerance {
			continue
		}
		if l.PastOn(on) {
			past[l.Item] += l.Available()
			continue
		}
		queues[l.Item] = append(queue, l)
	}
	for _, queue := range queues {
		slices.SortFunc(queue, FirstExpiredFirst)
	}
	draws := make([]Draw, 0, len(needs))
	var shorts []Short
	used := map[string]float64{} // drawn from the head of each queue
	for _, n := range needs {
		left := n.Quantity
		crumbsLast(queues[n.Item], used[n.Item], left)
		for left > Tolerance && len(queues[n.Item]) > 0 {
			head := *queues[n.Item][0]
			head.Remaining, head.Held = head.Available()-used[head.Item], 0
			g := min(left, head.Remaining)
			if g > Tolerance {
				draws = append(draws, Draw{Line: n.Line, Lot: head.ID, Quantity: g, Cost: head.Cost(g)})
				left -= g
			}
			if head.Remaining-g > Tolerance {
				used[n.Item] += g
				continue
			}
			queues[n.Item] = queues[n.Item][1:]
			used[n.Item] = 0
		}
		if left > Tolerance {
			shorts = append(shorts, Short{Line: n.Line, Item: n.Item, Missing: left, Past: past[n.Item]})
		}
	}
	return draws, shorts
}

// crumbsLast moves lots that hold only a crumb of a need to the end of the
// queue, if those behind them hold enough. usedOfFirst was drawn from the first.
func crumbsLast(queue []*Lot, usedOfFirst, need float64) {
	if len(queue) == 0 || usedOfFirst > 0 || queue[0].Available() >= crumbShare*need {
		return
	}
	behind := 0.0
	for _, l := range queue {
		behind += l.Available()
	}
	for range queue {
		g := queue[0].Available()
		behind -= g
		if g >= crumbShare*need || behind < need {
			return
		}
		crumb := queue[0]
		copy(queue, queue[1:])
		queue[len(queue)-1] = crumb
	}
}
