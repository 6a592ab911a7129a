package almanac

import (
	"bytes"
	"cmp"
	"context"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/planning"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/exchange/sheet"
	"keencrock/internal/tenant"
)

// shop says what the plan uses beyond what is on the shelf, in packs at the last price of
// each supplier; prices are for owners.
func (p *planner) shop(plan *planning.Plan, prices bool) {
	needs := map[string]float64{}
	for _, m := range plan.Makings {
		for _, l := range p.wants[uuid.MustParse(m.Good)] {
			if _, made := p.madeOf(l.Item); !made && !l.Unstocked && !l.Optional {
				needs[l.Item] += l.TargetG
			}
		}
	}
	for item, g := range p.have() {
		if _, wanted := needs[item]; wanted {
			needs[item] -= g
		}
	}
	s := planning.Shopping{}
	for item, g := range needs {
		if g > stock.Tolerance {
			s.Needs = append(s.Needs, planning.Need{Material: item, Grams: g})
		}
	}
	slices.SortFunc(s.Needs, func(a, b planning.Need) int { return cmp.Compare(a.Material, b.Material) })
	s.Offers = p.offers()
	s.Delivery = map[string]decimal.Decimal{}
	for _, one := range p.limits.Suppliers {
		if cost, err := decimal.NewFromString(one.Delivery); err == nil {
			s.Delivery[one.Name] = cost
		}
	}
	cart := s.Buy()
	lacks := map[string]float64{}
	for _, n := range s.Needs {
		lacks[n.Material] = n.Grams
	}
	by := p.wantedBy(plan)
	for _, b := range cart.Buys {
		one := api.ToBuy{Material: b.Material, Name: p.set.NameOf(b.Material), Grams: lacks[b.Material], Supplier: b.Supplier, Packs: b.Packs, PackG: b.PackG}
		if prices {
			one.Price = exchange.Money(b.Price)
		}
		p.wait(&one, by[b.Material])
		p.out.Shopping = append(p.out.Shopping, one)
	}
	for _, n := range cart.Missing {
		one := api.ToBuy{Material: n.Material, Name: p.set.NameOf(n.Material), Grams: n.Grams}
		p.wait(&one, by[n.Material])
		p.out.Shopping = append(p.out.Shopping, one)
	}
	if costs := p.delivery(cart); prices && costs.IsPositive() {
		p.out.Delivery = exchange.Money(costs)
	}
	if prices && len(cart.Buys) > 0 {
		p.out.ShoppingTotal = exchange.Money(cart.Total)
	}
}

// waiting is what waits for a material that is lacking: from which day at the bench on, and
// which goods.
type waiting struct {
	from  time.Time
	goods []string
}

// wantedBy says of each material from which day at the bench on there is too little of it,
// when the makings of a plan take it one after the other.
func (p *planner) wantedBy(plan *planning.Plan) map[string]*waiting {
	have := p.have()
	out := map[string]*waiting{}
	for _, m := range plan.Makings {
		id := uuid.MustParse(m.Good)
		for _, l := range p.wants[id] {
			if _, made := p.madeOf(l.Item); made || l.Unstocked || l.Optional {
				continue
			}
			have[l.Item] -= l.TargetG
			if have[l.Item] >= -stock.Tolerance {
				continue
			}
			w := out[l.Item]
			if w == nil {
				w = &waiting{from: m.Bench}
				out[l.Item] = w
			}
			if name := p.names[id]; !slices.Contains(w.goods, name) {
				w.goods = append(w.goods, name)
			}
		}
	}
	return out
}

// wait says what waits for a line of the list, and when to order it.
func (p *planner) wait(line *api.ToBuy, w *waiting) {
	if w == nil {
		return
	}
	line.By, line.Waits = date(w.from), w.goods
	if line.Supplier == "" {
		return
	}
	from, known := p.supplier(line.Supplier)
	if !known {
		p.say("How many days %s takes from order to door is not said: what comes from there is planned as if it were here.", line.Supplier)
		return
	}
	order, _ := from.OrderBy(w.from, p.set.Today)
	line.OrderBy = date(order)
}

// delivery is what the deliveries of a cart cost.
func (p *planner) delivery(cart *planning.Cart) (sum decimal.Decimal) {
	var from []string
	for _, b := range cart.Buys {
		if !slices.Contains(from, b.Supplier) {
			from = append(from, b.Supplier)
		}
	}
	for _, one := range p.limits.Suppliers {
		if cost, err := decimal.NewFromString(one.Delivery); err == nil && slices.Contains(from, one.Name) {
			sum = sum.Add(cost)
		}
	}
	return sum
}

// ShoppingCSV is what to buy for the plan, as a table; prices are for owners.
func (s *Service) ShoppingCSV(ctx context.Context) (io.Reader, int64, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, 0, err
	}
	plan, err := s.plan(ctx, nil, a.Role == tenant.Owner, planning.Schedule)
	if err != nil {
		return nil, 0, err
	}
	table := sheet.Table{Name: "Shopping", Head: []string{"material", "lacking g", "supplier", "packs", "pack g", "price of a pack", "currency", "at the bench on", "order by", "for"}}
	for _, b := range plan.Shopping {
		row := []any{b.Name, b.Grams, b.Supplier, nil, nil, nil, nil, nil, nil, strings.Join(b.Waits, ", ")}
		if b.Packs > 0 {
			row[3], row[4] = b.Packs, b.PackG
		}
		if price, err := decimal.NewFromString(b.Price); err == nil {
			row[5], row[6] = price, string(plan.Currency)
		}
		if !b.By.IsZero() {
			row[7] = b.By.Time
		}
		if !b.OrderBy.IsZero() {
			row[8] = b.OrderBy.Time
		}
		table.Rows = append(table.Rows, row)
	}
	var out bytes.Buffer
	err = sheet.CSV(&out, &table)
	return &out, int64(out.Len()), err
}

// offers are the packs that suppliers sold, each at its last price.
func (p *planner) offers() (out []planning.Offer) {
	type key struct {
		item, supplier string
		pack           float64
	}
	at := map[key]int{}
	for _, b := range p.bought { // the last stand at the end
		if b.Currency != p.set.Workshop.Currency || b.Original <= 0 {
			continue
		}
		k := key{b.Item, b.Supplier, b.Original}
		o := planning.Offer{Material: b.Item, Supplier: cmp.Or(b.Supplier, "nobody said"), PackG: b.Original, Price: p.dearer(b.Item, b.Landed)}
		if i, seen := at[k]; seen {
			out[i] = o
			continue
		}
		at[k] = len(out)
		out = append(out, o)
	}
	return out
}

// dearer is a price with what it would go up by, to the cent.
func (p *planner) dearer(item string, price decimal.Decimal) decimal.Decimal {
	for _, d := range p.would.Dearer {
		if d.Material == item {
			price = price.Mul(decimal.NewFromFloat(1 + d.Percent/100)).Round(2)
		}
	}
	return price
}
