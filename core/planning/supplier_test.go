package planning_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"keencrock/core/planning"
)

// Monday 1 June 2026.
var monday = time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)

// Worked by hand on a calendar: common practice of suppliers who take orders on some days.
func TestASupplierWhoTakesOrdersOnSomeDays(t *testing.T) {
	any := planning.Supplier{Days: 3}
	assert.Equal(t, monday.AddDate(0, 0, 3), any.Comes(monday))
	tuesdays := planning.Supplier{Days: 3, Orders: []int{2}}
	assert.Equal(t, monday.AddDate(0, 0, 4), tuesdays.Comes(monday), "ordered on Tuesday, there on Friday")
	assert.Equal(t, monday.AddDate(0, 0, 11), tuesdays.Comes(monday.AddDate(0, 0, 2)), "asked on Wednesday, ordered on Tuesday after")

	by, late := tuesdays.OrderBy(monday.AddDate(0, 0, 14), monday) // Monday a fortnight later
	assert.Equal(t, monday.AddDate(0, 0, 8), by)
	assert.False(t, late)
	by, late = tuesdays.OrderBy(monday.AddDate(0, 0, 3), monday)
	assert.Equal(t, monday.AddDate(0, 0, 1), by)
	assert.True(t, late, "wanted on Thursday, and it comes on Friday")
	by, late = (&planning.Supplier{Days: 2, Orders: []int{7}}).OrderBy(monday.AddDate(0, 0, 1), monday.AddDate(0, 0, -1))
	assert.Equal(t, monday.AddDate(0, 0, -1), by, "a Sunday is the seventh day")
	assert.False(t, late)
}

// An order is given on a day that takes one, never before today, and what is said to be in
// time is.
func TestOrdersAreInTimeWhereTheyAreSaidToBe(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := planning.Supplier{Days: rapid.IntRange(0, 30).Draw(t, "days"), Orders: rapid.SliceOfNDistinct(rapid.IntRange(1, 7), 0, 7, rapid.ID[int]).Draw(t, "orders")}
		today := monday.AddDate(0, 0, rapid.IntRange(0, 30).Draw(t, "today"))
		needed := today.AddDate(0, 0, rapid.IntRange(0, 60).Draw(t, "needed"))
		order, late := s.OrderBy(needed, today)
		assert.False(t, order.Before(today))
		day := int(order.Weekday())
		if day == 0 {
			day = 7
		}
		if len(s.Orders) > 0 {
			assert.Contains(t, s.Orders, day)
		}
		assert.Equal(t, late, s.Comes(today).After(needed), "late only where the first order comes too late")
		assert.Equal(t, late, order.AddDate(0, 0, s.Days).After(needed))
	})
}
