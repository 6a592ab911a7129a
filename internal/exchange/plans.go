package exchange

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/shopspring/decimal"

	"keencrock/core/planning"
	"keencrock/internal/problem"
)

// dayText is a day as a file has it: a date, or a date and time of which the date counts.
type dayText struct{ time.Time }

func (d *dayText) UnmarshalJSON(b []byte) error {
	var text string
	if err := json.Unmarshal(b, &text); err != nil {
		return fmt.Errorf("%s is no day: a text such as 2026-06-30 is wanted", b)
	}
	for _, form := range []string{time.DateOnly, time.RFC3339, "2006-01-02T15:04:05", "2006-01-02T15:04"} {
		if t, err := time.Parse(form, text); err == nil {
			d.Time = time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
			return nil
		}
	}
	return fmt.Errorf("%q is no day: 2026-06-30 is wanted", text)
}

func (d dayText) MarshalJSON() ([]byte, error) { return json.Marshal(d.Format(time.DateOnly)) }

// moment is a day and time as it is printed.
type moment struct{ time.Time }

func (m moment) MarshalJSON() ([]byte, error) { return json.Marshal(m.Format("2006-01-02T15:04:05")) }

// The shapes of what plan reads and prints.
type planFile struct {
	Today       dayText  `json:"today"`
	Days        int      `json:"days"`
	WorkDays    []int    `json:"work_days"` // 1 Monday to 7 Sunday
	BenchMinDay *float64 `json:"bench_min_a_day"`
	Vessels     []struct {
		ID    string `json:"id"`
		Count int    `json:"count"`
	} `json:"vessels"`
	Goods []struct {
		ID       string  `json:"id"`
		BenchMin float64 `json:"bench_min"`
		Pieces   int     `json:"pieces"`
		Stands   []struct {
			Vessel string  `json:"vessel"`
			Hours  float64 `json:"hours"`
		} `json:"stands"`
		KeepsDays int `json:"keeps_days"`
		Uses      []struct {
			Of     string  `json:"of"` // a material, or another good
			Amount float64 `json:"amount"`
		} `json:"uses"`
		Shares []string `json:"shares"`
	} `json:"goods"`
	Materials []struct {
		ID   string  `json:"id"`
		Here float64 `json:"here"`
		From dayText `json:"from"`
	} `json:"materials"`
	Stock []struct {
		Good       string   `json:"good"`
		Pieces     int      `json:"pieces"`
		BestBefore *dayText `json:"best_before"`
	} `json:"stock"`
	Orders []struct {
		Good   string  `json:"good"`
		Pieces int     `json:"pieces"`
		Day    dayText `json:"day"`
	} `json:"orders"`
}

type planOut struct {
	Makings []makingOut `json:"makings"`
	Orders  []givenOut  `json:"orders"`
	Lift    []liftOut   `json:"lift"`
}

type makingOut struct {
	Good   string     `json:"good"`
	Pieces int        `json:"pieces"`
	Bench  dayText    `json:"bench"`
	Stands []standOut `json:"stands"`
	Ready  dayText    `json:"ready"`
	Draws  []drawOut  `json:"draws,omitempty"`
	With   []int      `json:"with,omitempty"`
}

type drawOut struct {
	Good   string `json:"good"`
	Pieces int    `json:"pieces"`
	Making int    `json:"making"` // −1 for stock
}

type standOut struct {
	Vessel string `json:"vessel"`
	From   moment `json:"from"`
	To     moment `json:"to"`
}

type givenOut struct {
	Day      dayText `json:"day"`
	Given    int     `json:"given"`
	LateDays int     `json:"late_days"`
}

type liftOut struct {
	Limit     string  `json:"limit"`
	By        float64 `json:"by"`
	SavesDays int     `json:"saves_days"`
}

// readJSON reads a file that is one JSON value of a shape, and nothing else.
func readJSON(in io.Reader, into any) error {
	d := json.NewDecoder(io.LimitReader(in, mostFile))
	if err := d.Decode(into); err != nil {
		return problem.Unfit("bad-file", "The file cannot be read: %s.", strings.TrimSuffix(err.Error(), "."))
	}
	if d.More() {
		return problem.Unfit("bad-file", "The file holds more than one value.")
	}
	return nil
}

// mostFile is how long a file may be that is read for a direct check, in bytes.
const mostFile = 16 << 20

// ReadPlan reads what a plan is asked of. What is no such file, or cannot be, is a problem.
func ReadPlan(in io.Reader) (*planning.Task, error) {
	var f planFile
	if err := readJSON(in, &f); err != nil {
		return nil, err
	}
	task, err := f.task()
	if err != nil {
		return nil, err
	}
	return task, unsound(task.Check())
}

// ReadShopping reads what is to be bought, and in which currency.
func ReadShopping(in io.Reader) (s *planning.Shopping, currency string, err error) {
	var f shoppingFile
	if err := readJSON(in, &f); err != nil {
		return nil, "", err
	}
	if f.Needs == nil || f.Offers == nil {
		return nil, "", problem.Unfit("bad-file", "The file does not say needs and offers.")
	}
	s = &planning.Shopping{Delivery: f.Delivery}
	for _, n := range f.Needs {
		s.Needs = append(s.Needs, planning.Need{Material: n.Material, Grams: n.Grams})
	}
	for _, o := range f.Offers {
		s.Offers = append(s.Offers, planning.Offer{Material: o.Material, Supplier: o.Supplier, PackG: o.PackG, Price: o.Price})
	}
	return s, f.Currency, unsound(s.Check())
}

// unsound is what the core holds against a task, as a problem.
func unsound(err error) error {
	var f *planning.Fault
	if errors.As(err, &f) {
		return problem.Unfit("bad-value", "%s", f.Detail).At(f.Field)
	}
	return err
}

func (f *planFile) task() (*planning.Task, error) {
	for _, needed := range []struct {
		name  string
		there bool
	}{{"work_days", f.WorkDays != nil}, {"bench_min_a_day", f.BenchMinDay != nil}, {"goods", f.Goods != nil}, {"orders", f.Orders != nil}} {
		if !needed.there {
			return nil, problem.Unfit("bad-file", "The file does not say %s.", needed.name).At(needed.name)
		}
	}
	t := &planning.Task{Today: f.Today.Time, Days: f.Days, BenchMinDay: *f.BenchMinDay}
	for i, d := range f.WorkDays {
		if d < 1 || d > 7 {
			return nil, problem.Unfit("bad-value", "A work day is 1 (Monday) to 7 (Sunday), not %d.", d).At(fmt.Sprintf("work_days[%d]", i))
		}
		t.WorkDays = append(t.WorkDays, time.Weekday(d%7))
	}
	for _, v := range f.Vessels {
		t.Vessels = append(t.Vessels, planning.Vessel{ID: v.ID, Count: v.Count})
	}
	for _, g := range f.Goods {
		good := planning.Good{ID: g.ID, BenchMin: g.BenchMin, Pieces: g.Pieces, KeepsDays: g.KeepsDays}
		for _, s := range g.Stands {
			good.Stands = append(good.Stands, planning.Stand{Vessel: s.Vessel, Hours: s.Hours})
		}
		for _, u := range g.Uses {
			good.Uses = append(good.Uses, planning.Use{Of: u.Of, Amount: u.Amount})
		}
		good.Shares = g.Shares
		t.Goods = append(t.Goods, good)
	}
	for _, m := range f.Materials {
		t.Materials = append(t.Materials, planning.Material{ID: m.ID, Here: m.Here, From: m.From.Time})
	}
	for _, s := range f.Stock {
		one := planning.Stock{Good: s.Good, Pieces: s.Pieces}
		if s.BestBefore != nil {
			one.BestBefore = s.BestBefore.Time
		}
		t.Stock = append(t.Stock, one)
	}
	for _, o := range f.Orders {
		t.Orders = append(t.Orders, planning.Order{Good: o.Good, Pieces: o.Pieces, Day: o.Day.Time})
	}
	return t, nil
}

// Plan is a plan as a file has it.
func Plan(p *planning.Plan) any {
	out := planOut{Makings: []makingOut{}, Orders: []givenOut{}, Lift: []liftOut{}}
	for _, m := range p.Makings {
		one := makingOut{Good: m.Good, Pieces: m.Pieces, Bench: dayText{m.Bench}, Ready: dayText{m.Ready}, Stands: []standOut{}}
		for _, s := range m.Stands {
			one.Stands = append(one.Stands, standOut{s.Vessel, moment{s.From}, moment{s.To}})
		}
		for _, d := range m.Draws {
			one.Draws = append(one.Draws, drawOut(d))
		}
		one.With = m.With
		out.Makings = append(out.Makings, one)
	}
	for _, o := range p.Orders {
		out.Orders = append(out.Orders, givenOut{dayText{o.Day}, o.Given, o.LateDays})
	}
	for _, l := range p.Lifts {
		out.Lift = append(out.Lift, liftOut(l))
	}
	return out
}

// The shapes of what shopping reads and prints.
type shoppingFile struct {
	Needs []struct {
		Material string  `json:"material"`
		Grams    float64 `json:"grams"`
	} `json:"needs"`
	Offers []struct {
		Material string          `json:"material"`
		Supplier string          `json:"supplier"`
		PackG    float64         `json:"pack_g"`
		Price    decimal.Decimal `json:"price"`
	} `json:"offers"`
	Delivery map[string]decimal.Decimal `json:"delivery"`
	Currency string                     `json:"currency"`
}

type shoppingOut struct {
	Total    json.Number  `json:"total"`
	Currency string       `json:"currency,omitempty"`
	AtLeast  *json.Number `json:"at_least,omitempty"` // where the search was cut short
	Lines    []buyOut     `json:"lines"`
	Missing  []missingOut `json:"missing,omitempty"`
}

type buyOut struct {
	Material string      `json:"material"`
	Supplier string      `json:"supplier"`
	Packs    int         `json:"packs"`
	PackG    float64     `json:"pack_g"`
	Price    json.Number `json:"price"` // of one pack
}

type missingOut struct {
	Material string  `json:"material"`
	Grams    float64 `json:"grams"`
}

// Cart is what is to be bought as a file has it.
func Cart(c *planning.Cart, currency string) any {
	number := func(d decimal.Decimal) json.Number { return json.Number(d.StringFixed(max(2, -d.Exponent()))) }
	out := shoppingOut{Total: number(c.Total), Currency: currency, Lines: []buyOut{}}
	if !c.AtLeast.Equal(c.Total) {
		n := number(c.AtLeast)
		out.AtLeast = &n
	}
	for _, b := range c.Buys {
		out.Lines = append(out.Lines, buyOut{b.Material, b.Supplier, b.Packs, b.PackG, number(b.Price)})
	}
	for _, n := range c.Missing {
		out.Missing = append(out.Missing, missingOut(n))
	}
	return out
}
