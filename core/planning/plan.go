package planning

import (
	"cmp"
	"fmt"
	"slices"
	"time"
)

// Vessel is a sort of mould, tray or vat, and how many there are: each is busy with one
// making at a time.
type Vessel struct {
	ID    string
	Count int
}

// Stand is how long a making stands in a vessel.
type Stand struct {
	Vessel string
	Hours  float64
}

// Good is what is made: one making takes so many minutes at the bench and gives so many
// pieces once it has stood, in one vessel after the other.
type Good struct {
	ID        string
	BenchMin  float64
	Pieces    int
	Stands    []Stand
	KeepsDays int // once it is ready; 0 for as long as is asked here
	Uses      []Use
	Shares    []string // what is opened or set up for it, and once for all that are made on a day
}

// Stock is what is there of a good, or is being made and will be there from a day on.
type Stock struct {
	Good       string
	Pieces     int
	From       time.Time // zero for what is there
	BestBefore time.Time // zero for none
}

// Order is so many pieces of a good for a day.
type Order struct {
	Good   string
	Pieces int
	Day    time.Time
}

// Task is what a plan is made of: from a day on, over so many days.
type Task struct {
	Today       time.Time // a day, at midnight UTC
	Days        int
	WorkDays    []time.Weekday
	Off         []Span // in which nobody works
	BenchMinDay float64
	Vessels     []Vessel
	Materials   []Material // those that are not here for any number of makings
	Goods       []Good
	Stock       []Stock
	Orders      []Order
	Busy        []Standing // what stands in vessels already
	Pins        []Pin
}

// Span is days, both ends with them.
type Span struct{ From, To time.Time }

// Pin is a making whose day at the bench is set by hand: the others flow round it.
type Pin struct {
	Good  string
	Bench time.Time
}

// Making is one batch of a plan.
type Making struct {
	Good   string
	Pieces int
	Bench  time.Time // the day
	Stands []Standing
	Ready  time.Time // the day
	Pin    int       // which of the pins it is, from 1; 0 for none
	Draws  []Draw    // what it takes of half-made goods
	With   []int     // others of the plan of the same day that share something with it
}

// Standing is a making in a vessel.
type Standing struct {
	Vessel   string
	From, To time.Time
}

// Given is what becomes of an order.
type Given struct {
	Day   time.Time
	Given int
	// LateDays are the days after its day until all that is asked is given; of one that is
	// never given whole those until the plan ends.
	LateDays int
}

// Lift is a limit that keeps an order from being given on its day: by how much it would
// have to be lifted, and how many days that saves over all orders.
type Lift struct {
	Limit     string
	By        float64
	SavesDays int
}

// Plan is what to make when.
type Plan struct {
	Makings []Making // by their bench day
	Orders  []Given  // in the order they were asked
	Lifts   []Lift   // what saves most first; none where nothing is late
	Unkept  []Unkept // pins that cannot be
}

// Unkept is a pin that cannot be: which, and the limit that is in its way.
type Unkept struct {
	Pin   int // from 0
	Limit string
}

// Limits that lifts, and pins that cannot be, name beside vessels.
const (
	BenchLimit  = "bench_min_a_day"
	DayLimit    = "work_days"
	SupplyLimit = "materials" // they are not here by then
	SpanLimit   = "days"      // it is before today, or not done within the plan
)

// most keeps slips of the pen out.
const (
	mostDays   = 730
	mostOrders = 1000
	mostPieces = 1_000_000
)

// Fault says what of a task cannot be, and in which of its fields.
type Fault struct{ Field, Detail string }

func (f *Fault) Error() string { return f.Detail }

func fault(field, detail string, args ...any) error {
	return &Fault{field, fmt.Sprintf(detail, args...)}
}

// Check refuses a task that cannot be: the error is a [*Fault]. What can be and cannot be
// met (no day to work, a vessel of none, a good that keeps shorter than it takes) is no
// fault: its orders are told as never given.
func (t *Task) Check() error {
	switch {
	case t.Today.IsZero():
		return fault("today", "Say which day it is.")
	case t.Days < 1 || t.Days > mostDays:
		return fault("days", "A plan is for 1 to %d days, not %d.", mostDays, t.Days)
	case t.BenchMinDay < 0:
		return fault("bench_min_a_day", "There are no fewer than 0 minutes in a day.")
	case len(t.Orders) > mostOrders:
		return fault("orders", "There are more than %d orders: plan them in parts.", mostOrders)
	}
	vessels, goods, uses := map[string]bool{}, map[string]bool{}, map[string]bool{}
	for i, v := range t.Vessels {
		if v.ID == "" || vessels[v.ID] || v.Count < 0 {
			return fault(fmt.Sprintf("vessels[%d]", i), "A vessel has an id of its own, and a number that is not below zero.")
		}
		vessels[v.ID] = true
	}
	for i, m := range t.Materials {
		if m.ID == "" || uses[m.ID] || !(m.Here >= 0) || m.From.IsZero() {
			return fault(fmt.Sprintf("materials[%d]", i), "A material has an id of its own, an amount that is not below zero, and a day from which there is enough.")
		}
		uses[m.ID] = true
	}
	for i, g := range t.Goods {
		if err := checkGood(&g, i, goods, vessels); err != nil {
			return err
		}
		if uses[g.ID] {
			return fault(fmt.Sprintf("goods[%d].id", i), "There is a material by the name %q.", g.ID)
		}
		goods[g.ID] = true
	}
	for i, g := range t.Goods {
		for k, u := range g.Uses {
			if !uses[u.Of] && !goods[u.Of] {
				return fault(fmt.Sprintf("goods[%d].uses[%d].of", i, k), "There is no material or good %q.", u.Of)
			}
			if !(u.Amount >= 0) || u.Amount > mostPieces {
				return fault(fmt.Sprintf("goods[%d].uses[%d].amount", i, k), "One making takes 0 to %d of it, not %g.", mostPieces, u.Amount)
			}
		}
	}
	for i, s := range t.Stock {
		if !goods[s.Good] || s.Pieces < 0 || s.Pieces > mostPieces {
			return fault(fmt.Sprintf("stock[%d]", i), "Stock is of a good that is named, and not below zero.")
		}
	}
	for i, s := range t.Busy {
		if !vessels[s.Vessel] {
			return fault(fmt.Sprintf("busy[%d].vessel", i), "There is no vessel %q.", s.Vessel)
		}
	}
	for i, p := range t.Pins {
		if !goods[p.Good] || p.Bench.IsZero() || i >= mostOrders {
			return fault(fmt.Sprintf("pins[%d]", i), "What is set is the day of a good that is named; %d at the most.", mostOrders)
		}
	}
	for i, o := range t.Orders {
		switch {
		case !goods[o.Good]:
			return fault(fmt.Sprintf("orders[%d].good", i), "There is no good %q.", o.Good)
		case o.Pieces < 1 || o.Pieces > mostPieces:
			return fault(fmt.Sprintf("orders[%d].pieces", i), "An order is for 1 to %d pieces, not %d.", mostPieces, o.Pieces)
		case o.Day.IsZero():
			return fault(fmt.Sprintf("orders[%d].day", i), "Say for which day it is.")
		}
	}
	return nil
}

func checkGood(g *Good, i int, goods, vessels map[string]bool) error {
	field := fmt.Sprintf("goods[%d]", i)
	switch {
	case g.ID == "" || goods[g.ID]:
		return fault(field+".id", "A good has an id of its own.")
	case g.BenchMin < 0:
		return fault(field+".bench_min", "Minutes at the bench are not below zero.")
	case g.Pieces < 1 || g.Pieces > mostPieces:
		return fault(field+".pieces", "One making gives 1 to %d pieces, not %d.", mostPieces, g.Pieces)
	case g.KeepsDays < 0:
		return fault(field+".keeps_days", "It keeps no fewer than 0 days.")
	}
	for k, s := range g.Stands {
		if !vessels[s.Vessel] {
			return fault(fmt.Sprintf("%s.stands[%d].vessel", field, k), "There is no vessel %q.", s.Vessel)
		}
		if s.Hours < 0 || s.Hours > 24*mostDays {
			return fault(fmt.Sprintf("%s.stands[%d].hours", field, k), "It stands 0 to %d hours, not %g.", 24*mostDays, s.Hours)
		}
	}
	return nil
}

// Make works a plan out. The task must be sound; see [Task.Check].
func Make(t *Task) *Plan {
	plan, best := schedule(t)
	if best.late > 0 || best.missing > 0 {
		plan.Lifts = lifts(t, best)
	}
	return plan
}

// Schedule is Make without what would help: half of the work.
func Schedule(t *Task) *Plan {
	plan, _ := schedule(t)
	return plan
}

func schedule(t *Task) (*Plan, outcome) {
	s := newSearch(t)
	best := s.best()
	return s.plan(best), best
}

// fewSteps is the least that a limit is tried with.
const fewSteps = 8

// lifts tries what each limit would save: one vessel more of each, an hour more a day, a
// day more a week.
func lifts(t *Task, was outcome) (out []Lift) {
	try := func(limit string, by float64, change func(*Task)) {
		with := *t
		with.Vessels, with.WorkDays = slices.Clone(t.Vessels), slices.Clone(t.WorkDays)
		change(&with)
		s := newSearch(&with)
		s.steps = max(fewSteps, s.steps/16) // a look at each, and no more
		if saves := was.late - s.best().late; saves > 0 {
			out = append(out, Lift{limit, by, saves})
		}
	}
	for i, v := range t.Vessels {
		try(v.ID, 1, func(t *Task) { t.Vessels[i].Count++ })
	}
	for _, more := range []float64{60, 240, 1440} {
		n := len(out)
		try(BenchLimit, more, func(t *Task) { t.BenchMinDay += more })
		if len(out) > n {
			break
		}
	}
	if len(t.WorkDays) < 7 {
		saved := 0
		for day := time.Sunday; day <= time.Saturday; day++ {
			if slices.Contains(t.WorkDays, day) {
				continue
			}
			n := len(out)
			try(DayLimit, 1, func(t *Task) { t.WorkDays = append(t.WorkDays, day) })
			if len(out) > n { // the day that saves most stands for all
				one := out[n]
				out = out[:n]
				saved = max(saved, one.SavesDays)
			}
		}
		if saved > 0 {
			out = append(out, Lift{DayLimit, 1, saved})
		}
	}
	slices.SortStableFunc(out, func(a, b Lift) int { return cmp.Compare(b.SavesDays, a.SavesDays) })
	return out
}
