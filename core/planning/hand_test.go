package planning_test

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/planning"
)

// A making set by hand stays on its day and is given first; the others flow round it. One
// that cannot be says which limit is in its way (by hand).
func TestWhatIsSetByHandStays(t *testing.T) {
	task := tabs()
	task.Orders = []planning.Order{{Good: "heron", Pieces: 40, Day: in(11)}}
	task.Pins = []planning.Pin{{Good: "heron", Bench: in(2)}}
	p := planning.Make(task)
	require.Len(t, p.Makings, 2)
	assert.Equal(t, []time.Time{in(2), in(10)}, []time.Time{p.Makings[0].Bench, p.Makings[1].Bench})
	assert.Equal(t, []int{1, 0}, []int{p.Makings[0].Pin, p.Makings[1].Pin})
	assert.Empty(t, p.Unkept)

	task.Pins = []planning.Pin{{Good: "heron", Bench: in(5)}, {Good: "heron", Bench: in(3)}, {Good: "heron", Bench: in(3)}, {Good: "heron", Bench: in(-1)}, {Good: "heron", Bench: in(20)}}
	task.Goods[0].Stands[0].Hours = 40
	p = planning.Make(task)
	assert.Equal(t, []planning.Unkept{{Pin: 3, Limit: planning.SpanLimit}, {Pin: 2, Limit: "tray"}, {Pin: 0, Limit: planning.DayLimit}, {Pin: 4, Limit: planning.DayLimit}}, p.Unkept,
		"before today; the tray is full; a Saturday; a Sunday")
	task.BenchMinDay = 60
	task.Vessels[0].Count = 2
	task.Pins = task.Pins[1:3]
	assert.Equal(t, []planning.Unkept{{Pin: 1, Limit: planning.BenchLimit}}, planning.Make(task).Unkept)

	// one that is ready too late is used where nothing else is sooner, and not else
	task = tabs()
	task.Orders = []planning.Order{{Good: "heron", Pieces: 24, Day: in(2)}}
	task.Pins = []planning.Pin{{Good: "heron", Bench: in(8)}}
	p = planning.Make(task)
	assert.Zero(t, p.Orders[0].LateDays)
	assert.Len(t, p.Makings, 2, "the one set by hand is made for stock")
	task.Off = []planning.Span{{From: in(0), To: in(7)}}
	p = planning.Make(task)
	assert.Equal(t, 7, p.Orders[0].LateDays)
	assert.Len(t, p.Makings, 1)
}

// What stands on the rack holds its vessel until it is done, and is given then.
func TestWhatIsBeingMadeIsCounted(t *testing.T) {
	task := tabs()
	task.Orders = []planning.Order{{Good: "heron", Pieces: 40, Day: in(8)}}
	task.Busy = []planning.Standing{{Vessel: "tray", From: in(-1), To: in(4)}}
	task.Stock = []planning.Stock{{Good: "heron", Pieces: 24, From: in(4), BestBefore: in(300)}}
	p := planning.Make(task)
	require.Len(t, p.Makings, 1)
	assert.False(t, p.Makings[0].Stands[0].From.Before(in(4)), "the tray is full until then")
	assert.Zero(t, p.Orders[0].LateDays)
	task.Orders[0] = planning.Order{Good: "heron", Pieces: 24, Day: in(2)}
	p = planning.Make(task)
	assert.Empty(t, p.Makings, "nothing new is sooner")
	assert.Equal(t, 2, p.Orders[0].LateDays)
	task.Busy = nil
	p = planning.Make(task)
	assert.Zero(t, p.Orders[0].LateDays, "a new one is ready before what is under way")
}

// Materials that come later hold up what cannot be begun with those that are here.
func TestMaterialsAreWaitedFor(t *testing.T) {
	task := tabs()
	task.Orders = []planning.Order{{Good: "heron", Pieces: 48, Day: in(4)}}
	task.Materials = []planning.Material{{ID: "soda", Here: 500, From: in(7)}}
	task.Goods[0].Uses = []planning.Use{{Of: "soda", Amount: 300}}
	p := planning.Make(task)
	require.Len(t, p.Makings, 2)
	assert.Equal(t, in(7), p.Makings[1].Bench)
	assert.Equal(t, 4, p.Orders[0].LateDays, "begun on Monday, dry on Tuesday; asked for Friday")
	task.Pins = []planning.Pin{{Good: "heron", Bench: in(1)}, {Good: "heron", Bench: in(2)}}
	assert.Equal(t, []planning.Unkept{{Pin: 1, Limit: planning.SupplyLimit}}, planning.Make(task).Unkept)
}

// Whatever is off, under way, lacking or set by hand: every limit is kept at every hour, and
// what is not set by hand flows round what is.
func TestHandsChangeNoLimit(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 24))
	kept := 0
	for n := range 400 {
		task := small(r)
		task.Days = 12
		if r.IntN(2) == 0 {
			from := r.IntN(8)
			task.Off = []planning.Span{{From: in(from), To: in(from + r.IntN(3))}}
		}
		if r.IntN(2) == 0 { // two goods may share it
			task.Materials = []planning.Material{{ID: "soda", Here: float64(r.IntN(4)), From: in(r.IntN(6))}}
			for g := range task.Goods {
				task.Goods[g].Uses = []planning.Use{{Of: "soda", Amount: float64(r.IntN(3))}}
			}
		}
		if r.IntN(3) == 0 {
			halfMade(r, task)
		}
		if r.IntN(3) == 0 {
			until := 1 + r.IntN(4)
			task.Busy = []planning.Standing{{Vessel: "b", From: in(-1), To: in(until)}}
			task.Stock = append(task.Stock, planning.Stock{Good: task.Goods[0].ID, Pieces: 10, From: in(until), BestBefore: in(until + r.IntN(20))})
		}
		for range r.IntN(3) {
			task.Pins = append(task.Pins, planning.Pin{Good: task.Goods[r.IntN(len(task.Goods))].ID, Bench: in(r.IntN(10))})
		}
		require.NoError(t, task.Check())
		p := planning.Make(task)
		require.Empty(t, breaches(task, p), "case %d: %+v\n%+v", n, task, p)
		pins := map[int]int{}
		for _, m := range p.Makings {
			if m.Pin > 0 {
				pins[m.Pin-1]++
				kept++
			}
		}
		for _, u := range p.Unkept {
			pins[u.Pin]++
		}
		for i := range task.Pins {
			require.Equal(t, 1, pins[i], "case %d: each is kept, or said why not", n)
		}
	}
	assert.Greater(t, kept, 100)
}

func TestWhatIsSetByHandIsOfWhatThereIs(t *testing.T) {
	for name, change := range map[string]func(*planning.Task){
		"pins[0]":                 func(t *planning.Task) { t.Pins = []planning.Pin{{Good: "moon", Bench: in(1)}} },
		"busy[0].vessel":          func(t *planning.Task) { t.Busy = []planning.Standing{{Vessel: "moon"}} },
		"materials[0]":            func(t *planning.Task) { t.Materials = []planning.Material{{ID: "soda", Here: -1, From: in(1)}} },
		"goods[0].uses[0].of":     func(t *planning.Task) { t.Goods[0].Uses = []planning.Use{{Of: "moon", Amount: 1}} },
		"goods[0].uses[0].amount": func(t *planning.Task) { t.Goods[0].Uses = []planning.Use{{Of: "heron", Amount: math.NaN()}} },
	} {
		task := tabs()
		change(task)
		var f *planning.Fault
		require.ErrorAs(t, task.Check(), &f, name)
		assert.Equal(t, name, f.Field)
	}
}

// Schedule is Make without what would help.
func TestAScheduleIsThePlanWithoutLifts(t *testing.T) {
	task := tabs()
	task.Orders = []planning.Order{{Good: "heron", Pieces: 96, Day: in(3)}}
	with, without := planning.Make(task), planning.Schedule(task)
	assert.NotEmpty(t, with.Lifts)
	assert.Empty(t, without.Lifts)
	assert.Equal(t, with.Makings, without.Makings)
	assert.Equal(t, with.Orders, without.Orders)
}
