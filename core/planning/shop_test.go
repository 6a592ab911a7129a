package planning_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/planning"
)

func eur(s string) decimal.Decimal { return decimal.RequireFromString(s) }

// 3 kg of soda: three packs at 2.50 are 7.50, one of 5 kg is 9.00; 2 kg of borax cost 8.00 at
// the mill and 7.00 at the quay. A delivery of 4.90 from the quay is not worth it (by hand).
func TestTheCheapestWholeCountsDelivery(t *testing.T) {
	s := planning.Shopping{
		Needs:    []planning.Need{{"soda", 3000}, {"borax", 2000}, {"salt", 0}, {"moon dust", 5}},
		Offers:   []planning.Offer{{"soda", "mill", 1000, eur("2.50")}, {"soda", "mill", 5000, eur("9.00")}, {"borax", "mill", 1000, eur("4.00")}, {"borax", "quay", 2000, eur("7.00")}},
		Delivery: map[string]decimal.Decimal{"mill": eur("3.00"), "quay": eur("4.90")},
	}
	require.NoError(t, s.Check())
	c := s.Buy()
	assert.Equal(t, "18.5", c.Total.String(), "7.50 + 8.00 + 3.00")
	assert.True(t, c.AtLeast.Equal(c.Total))
	assert.Equal(t, []planning.Buy{{s.Offers[2], 2}, {s.Offers[0], 3}}, c.Buys)
	assert.Equal(t, []planning.Need{{"moon dust", 5}}, c.Missing)
	s.Delivery["quay"] = eur("0.90")
	assert.Equal(t, "18.4", s.Buy().Total.String(), "7.50 + 7.00 + 3.00 + 0.90")
	for field, change := range map[string]func(){
		"needs[0]":        func() { s.Needs[0].Grams = -1 },
		"offers[0]":       func() { s.Offers[0].PackG = 0 },
		"offers[1].price": func() { s.Offers[1].Price = eur("-1") },
		"delivery.mill":   func() { s.Delivery["mill"] = eur("-1") },
	} {
		was := s
		was.Needs, was.Offers = append([]planning.Need{}, s.Needs...), append([]planning.Offer{}, s.Offers...)
		change()
		var f *planning.Fault
		require.ErrorAs(t, s.Check(), &f)
		assert.Equal(t, field, f.Field)
		s.Needs, s.Offers = was.Needs, was.Offers
		s.Delivery["mill"] = eur("3.00")
	}
}

// Held against every number of every pack, in every case.
func TestPacksAreAsCheapAsTryingEverything(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	for n := range 300 {
		s := planning.Shopping{Delivery: map[string]decimal.Decimal{}}
		for m := range 1 + r.IntN(2) {
			s.Needs = append(s.Needs, planning.Need{Material: fmt.Sprint(m), Grams: float64(100 * (1 + r.IntN(40)))})
			for range 1 + r.IntN(3) {
				s.Offers = append(s.Offers, planning.Offer{Material: fmt.Sprint(m), Supplier: string(rune('a' + r.IntN(3))), PackG: float64(250 * (1 + r.IntN(8))), Price: decimal.New(int64(50+r.IntN(900)), -2)})
			}
		}
		for _, name := range []string{"a", "b", "c"} {
			s.Delivery[name] = decimal.New(int64(r.IntN(600)), -2)
		}
		c := s.Buy()
		want := int64(1 << 40)
		packs := make([]int, len(s.Offers))
		var all func(i int)
		all = func(i int) {
			if i == len(packs) {
				have, cents, used := map[string]float64{}, int64(0), map[string]bool{}
				for k, o := range s.Offers {
					have[o.Material] += float64(packs[k]) * o.PackG
					cents += int64(packs[k]) * o.Price.Shift(2).IntPart()
					if packs[k] > 0 && !used[o.Supplier] {
						used[o.Supplier] = true
						cents += s.Delivery[o.Supplier].Shift(2).IntPart()
					}
				}
				for _, need := range s.Needs {
					if have[need.Material] < need.Grams {
						return
					}
				}
				want = min(want, cents)
				return
			}
			most := 0
			for _, need := range s.Needs {
				if need.Material == s.Offers[i].Material {
					most = int(need.Grams/s.Offers[i].PackG) + 1
				}
			}
			for k := 0; k <= most; k++ {
				packs[i] = k
				all(i + 1)
			}
			packs[i] = 0
		}
		if len(s.Offers) > 4 {
			continue // too many to try
		}
		all(0)
		require.Equal(t, want, c.Total.Shift(2).IntPart(), "case %d: %+v", n, s)
	}
}

func manyOffers() *planning.Shopping {
	r := rand.New(rand.NewPCG(9, 9))
	s := &planning.Shopping{Delivery: map[string]decimal.Decimal{}}
	for m := range 40 {
		s.Needs = append(s.Needs, planning.Need{Material: fmt.Sprint(m), Grams: float64(100 + r.IntN(12_000))})
		for _, by := range []string{"a", "b", "c", "d"} {
			each := 2 + r.Float64()
			for _, g := range []float64{250, 500, 1000, 5000, 25000} {
				s.Offers = append(s.Offers, planning.Offer{Material: fmt.Sprint(m), Supplier: by, PackG: g, Price: decimal.NewFromFloat(each * g / 1000 * (1.3 - g/100_000)).Round(2)})
			}
		}
	}
	for _, by := range []string{"a", "b", "c", "d"} {
		s.Delivery[by] = eur("4.90")
	}
	return s
}

func BenchmarkShoppingOf40Materials(b *testing.B) {
	s := manyOffers()
	b.ReportAllocs()
	for b.Loop() {
		s.Buy()
	}
}
