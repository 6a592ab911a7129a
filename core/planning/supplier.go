package planning

import (
	"slices"
	"time"
)

// Supplier is how something comes that is ordered: so many days from order to door, and the
// days of the week it can be ordered on, 1 for Monday to 7 for Sunday; any day where none is
// named.
type Supplier struct {
	Days   int
	Orders []int
}

// takesOn reports whether an order can be given on a day.
func (s *Supplier) takesOn(day time.Time) bool {
	if len(s.Orders) == 0 {
		return true
	}
	n := int(day.Weekday())
	if n == 0 {
		n = 7
	}
	return slices.Contains(s.Orders, n)
}

// next is the first day from a day on that an order can be given.
func (s *Supplier) next(day time.Time) time.Time {
	for n := 0; n < 7 && !s.takesOn(day); n++ {
		day = day.AddDate(0, 0, 1)
	}
	return day
}

// Comes is the day on which it is there at the earliest, ordered from a day on.
func (s *Supplier) Comes(from time.Time) time.Time { return s.next(from).AddDate(0, 0, s.Days) }

// OrderBy is the last day to order on for what has to be there on another, and not before
// today; late where it then comes after that.
func (s *Supplier) OrderBy(needed, today time.Time) (order time.Time, late bool) {
	order = needed.AddDate(0, 0, -s.Days)
	for n := 0; n < 7 && !s.takesOn(order); n++ {
		order = order.AddDate(0, 0, -1)
	}
	if order.Before(today) {
		order = s.next(today)
	}
	return order, order.AddDate(0, 0, s.Days).After(needed)
}
