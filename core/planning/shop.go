package planning

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"github.com/shopspring/decimal"
)

// Need is what is to be bought of a material.
type Need struct {
	Material string
	Grams    float64
}

// Offer is a pack of a material that a supplier sells.
type Offer struct {
	Material, Supplier string
	PackG              float64
	Price              decimal.Decimal // of one pack
}

// Shopping is what is to be bought, and where: delivery is paid once to each supplier that
// something is bought of.
type Shopping struct {
	Needs    []Need
	Offers   []Offer
	Delivery map[string]decimal.Decimal
}

// Buy is a number of packs.
type Buy struct {
	Offer
	Packs int
}

// Cart is the cheapest whole.
type Cart struct {
	Total decimal.Decimal // with delivery
	Buys  []Buy           // by supplier and material
	// Missing are needs that nobody offers.
	Missing []Need
	// AtLeast is what no cart can be cheaper than: the total itself, unless the search was
	// cut short.
	AtLeast decimal.Decimal
}

// Check refuses what cannot be: the error is a [*Fault].
func (s *Shopping) Check() error {
	for i, n := range s.Needs {
		if n.Material == "" || !(n.Grams >= 0) || n.Grams > mostGrams {
			return fault(fmt.Sprintf("needs[%d]", i), "A need has a material, and grams that are not below zero.")
		}
	}
	for i, o := range s.Offers {
		if o.Material == "" || o.Supplier == "" || !(o.PackG > 0) || o.PackG > mostGrams {
			return fault(fmt.Sprintf("offers[%d]", i), "An offer has a material, a supplier and a pack of more than 0 g.")
		}
		if o.Price.IsNegative() {
			return fault(fmt.Sprintf("offers[%d].price", i), "A price is not below zero.")
		}
	}
	for name, price := range s.Delivery {
		if price.IsNegative() {
			return fault("delivery."+name, "A delivery costs nothing or more.")
		}
	}
	return nil
}

const mostGrams = 1e9

// mostSets is how many sets of suppliers are looked at, at the most.
const mostSets = 1 << 14

// Buy finds the cheapest whole: which suppliers, and of each which packs. The shopping must
// be sound; see [Shopping.Check].
func (s *Shopping) Buy() *Cart {
	b := newBuyer(s)
	b.branch(0, nil)
	cart := &Cart{Missing: b.missing, Total: b.best, AtLeast: b.best}
	if b.cut {
		cart.AtLeast = b.floor
	}
	cart.Buys = b.buys
	slices.SortStableFunc(cart.Buys, func(x, y Buy) int {
		return cmp.Or(cmp.Compare(x.Supplier, y.Supplier), cmp.Compare(x.Material, y.Material), cmp.Compare(y.PackG, x.PackG))
	})
	return cart
}

// buyer searches the sets of suppliers: with the better bound first, and no further where
// even the cheapest of what is left cannot be better.
type buyer struct {
	s         *Shopping
	suppliers []string
	needs     []Need
	missing   []Need
	offers    [][]Offer // of each need, the cheapest a gram first
	best      decimal.Decimal
	found     bool
	buys      []Buy
	sets      int
	cut       bool
	floor     decimal.Decimal
	known     map[string]cover // the cheapest packs of a need from some suppliers
}

// cover is the cheapest way to have enough of one material.
type cover struct {
	cost  decimal.Decimal
	buys  []Buy
	exact bool
}

func newBuyer(s *Shopping) *buyer {
	b := &buyer{s: s, known: map[string]cover{}}
	grams := map[string]float64{}
	var names []string
	for _, n := range s.Needs {
		if _, seen := grams[n.Material]; !seen {
			names = append(names, n.Material)
		}
		grams[n.Material] += n.Grams
	}
	slices.Sort(names)
	seen := map[string]bool{}
	for _, name := range names {
		if grams[name] <= 0 {
			continue
		}
		var of []Offer
		for _, o := range s.Offers {
			if o.Material == name {
				of = append(of, o)
			}
		}
		if len(of) == 0 {
			b.missing = append(b.missing, Need{name, grams[name]})
			continue
		}
		slices.SortStableFunc(of, func(x, y Offer) int {
			return cmp.Or(perGram(x).Cmp(perGram(y)), cmp.Compare(x.PackG, y.PackG), cmp.Compare(x.Supplier, y.Supplier))
		})
		for _, o := range of {
			if !seen[o.Supplier] {
				seen[o.Supplier] = true
				b.suppliers = append(b.suppliers, o.Supplier)
			}
		}
		b.needs, b.offers = append(b.needs, Need{name, grams[name]}), append(b.offers, of)
	}
	slices.SortFunc(b.suppliers, func(x, y string) int { // the dearest delivery is decided first
		return cmp.Or(s.Delivery[y].Cmp(s.Delivery[x]), cmp.Compare(x, y))
	})
	return b
}

func perGram(o Offer) decimal.Decimal { return o.Price.DivRound(decimal.NewFromFloat(o.PackG), 12) }

// branch decides on the suppliers from at on; without are those that are out.
func (b *buyer) branch(at int, without []string) {
	b.sets++
	cost, buys, ok := b.from(without)
	if !ok {
		return
	}
	paid := decimal.Zero
	used := map[string]bool{}
	for _, x := range buys {
		used[x.Supplier] = true
	}
	bound := cost
	for i, name := range b.suppliers {
		if slices.Contains(without, name) {
			continue
		}
		if used[name] {
			paid = paid.Add(b.s.Delivery[name])
		}
		if i < at {
			bound = bound.Add(b.s.Delivery[name]) // it was decided to be in
		}
	}
	if total := cost.Add(paid); !b.found || total.LessThan(b.best) {
		b.best, b.buys, b.found = total, buys, true
	}
	if at == 0 {
		b.floor = cost
	}
	if at == len(b.suppliers) || b.found && bound.GreaterThanOrEqual(b.best) {
		return
	}
	if b.sets > mostSets {
		b.cut = true
		return
	}
	b.branch(at+1, append(slices.Clone(without), b.suppliers[at]))
	b.branch(at+1, without)
}

// from is the cheapest of all needs from all suppliers but some, without delivery; ok is
// false where one of them has nobody else.
func (b *buyer) from(without []string) (cost decimal.Decimal, buys []Buy, ok bool) {
	for i := range b.needs {
		c, ok := b.cover(i, without)
		if !ok {
			return cost, nil, false
		}
		cost, buys = cost.Add(c.cost), append(buys, c.buys...)
	}
	return cost, buys, true
}

func (b *buyer) cover(i int, without []string) (cover, bool) {
	var of []Offer
	key := fmt.Sprint(i)
	for k, o := range b.offers[i] {
		if !slices.Contains(without, o.Supplier) {
			of = append(of, o)
			key += fmt.Sprint(",", k)
		}
	}
	if len(of) == 0 {
		return cover{}, false
	}
	if c, seen := b.known[key]; seen {
		return c, true
	}
	c := cheapest(of, b.needs[i].Grams)
	if !c.exact {
		b.cut = true
	}
	b.known[key] = c
	return c, true
}

// cheapest is the cheapest number of each pack that holds so many grams: by dynamic
// programming over what all packs are multiples of. Where that would be too fine, packs that
// are cheapest a gram are taken as a whole, which is told as not exact.
func cheapest(of []Offer, grams float64) cover {
	unit := int64(0)
	for _, o := range of {
		unit = gcd(unit, milligrams(o.PackG))
	}
	need := (milligrams(grams) + unit - 1) / unit
	if need > mostUnits {
		packs := int(math.Ceil(grams / of[0].PackG))
		return cover{cost: of[0].Price.Mul(decimal.NewFromInt(int64(packs))), buys: []Buy{{of[0], packs}}}
	}
	places := int32(2)
	for _, o := range of {
		places = max(places, -o.Price.Exponent())
	}
	price, holds := make([]int64, len(of)), make([]int64, len(of))
	for i, o := range of {
		price[i], holds[i] = o.Price.Shift(places).IntPart(), milligrams(o.PackG)/unit
	}
	// the least that so many units and more cost, what is bought for it, and the pack that
	// was bought last
	cost, bought, last := make([]int64, need+1), make([]int64, need+1), make([]int, need+1)
	for u := int64(1); u <= need; u++ {
		last[u] = -1
		for i := range of {
			rest := max(0, u-holds[i])
			c, g := cost[rest]+price[i], bought[rest]+holds[i]
			if last[u] < 0 || c < cost[u] || c == cost[u] && g < bought[u] {
				cost[u], bought[u], last[u] = c, g, i
			}
		}
	}
	out := cover{cost: decimal.New(cost[need], -places), exact: true}
	packs := make([]int, len(of))
	for u := need; u > 0; u = max(0, u-holds[last[u]]) {
		packs[last[u]]++
	}
	for i, n := range packs {
		if n > 0 {
			out.buys = append(out.buys, Buy{of[i], n})
		}
	}
	return out
}

// mostUnits is how many units a need is parted into at the most.
const mostUnits = 400_000

func milligrams(g float64) int64 { return max(1, int64(math.Round(1000*g))) }

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}
