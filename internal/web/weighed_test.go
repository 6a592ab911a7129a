package web_test

import (
	"math/rand/v2"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// byWeight is an act of so many grams of the shop's good.
func (s *shop) byWeight(kind api.ActKind, to string, grams float64, price api.Money) *answer {
	s.client.t.Helper()
	return s.post("/api/acts", api.NewAct{Kind: kind, To: to, Lines: []api.ActWish{{Formula: s.formula.Id, Grams: grams, Price: price}}})
}

// 6.00 of borax in four jars of 250 g is 0.60 a hundred grams: 300 g out of two jars cost
// 1.80, brought 2.70, and open one jar that is no full one any more (arithmetic).
func TestSomeOfAGoodIsSoldByWeight(t *testing.T) {
	s := opened(t, 4)
	s.price("4.00")
	var act api.Act
	s.byWeight("sold", "guest house", 300, "2.70").gives(http.StatusCreated, &act)
	assert.Equal(t, []any{0, 300.0, api.Money("2.70"), api.Money("1.80")}, []any{act.Jars, act.Lines[0].Grams, act.Brought, act.Cost})
	s.sound()
	s.act("sold", "guest house", 3).refuses(http.StatusConflict, "short-jars")
	s.act("sold", "guest house", 2).gives(http.StatusCreated, nil)
	s.byWeight("sold", "guest house", 201, "").refuses(http.StatusConflict, "short-lot")
	s.byWeight("given", "guest house", 50, "").gives(http.StatusCreated, nil)

	y := s.year()
	assert.Equal(t, []any{2, 300.0, api.Money("10.70"), api.Money("4.80")}, []any{y.Goods[0].Sold, y.Goods[0].SoldByWeightG, y.Goods[0].Brought, y.Goods[0].SoldCost})
	assert.Equal(t, api.Money("0.30"), y.Goods[0].GivenCost)
	var who []api.Holder
	s.get(at(s.batch, "holders")).gives(http.StatusOK, &who)
	require.Len(t, who, 2)
	assert.Equal(t, []any{0, 50.0, 2, 300.0}, []any{who[0].Jars, who[0].Grams, who[1].Jars, who[1].Grams}, "a recall reaches who has some by weight")
	var acts []api.Act
	s.get("/api/acts").gives(http.StatusOK, &acts)
	assert.Equal(t, []any{0, 300.0, api.Money("2.70"), api.Money("2.70")}, []any{acts[2].Lines[0].Jars, acts[2].Lines[0].Grams, acts[2].Lines[0].Price, acts[2].Lines[0].Together})
	assert.Equal(t, []any{2, api.Money("4.00"), api.Money("8.00")}, []any{acts[1].Lines[0].Jars, acts[1].Lines[0].Price, acts[1].Lines[0].Together})
	assert.Equal(t, http.StatusOK, s.get("/api/acts/"+acts[2].Id.String()+"/note").status)
	var outlets []api.Outlet
	s.get("/api/outlets").gives(http.StatusOK, &outlets)
	require.Len(t, outlets, 1)
	s.sound()
}

// What went by weight comes back in parts, with its price and what it cost; never more of it
// than went, nor before it did.
func TestWhatWentByWeightComesBack(t *testing.T) {
	s := opened(t, 2)
	s.byWeight("sold", "guest house", 600, "5.00").gives(http.StatusCreated, nil)
	s.byWeight("returned", "guest house", 601, "").refuses(http.StatusConflict, "more-back")
	s.byWeight("returned", "corner shop", 1, "").refuses(http.StatusConflict, "more-back")
	s.byWeight("returned", "guest house", 200, "").gives(http.StatusCreated, nil)
	assert.Equal(t, api.Money("3.33"), s.year().Goods[0].Brought)
	s.byWeight("returned", "guest house", 400, "").gives(http.StatusCreated, nil)
	assert.Equal(t, []any{api.Money("0.00"), api.Money("0.00"), 0.0}, []any{s.year().Goods[0].Brought, s.year().Goods[0].SoldCost, s.year().Goods[0].SoldByWeightG})
	s.byWeight("returned", "", 1, "").refuses(http.StatusConflict, "more-back")
	s.sound()
	s.act("sold", "guest house", 2).gives(http.StatusCreated, nil)
}

// What is asked for by weight and is not that is said so, and moves nothing.
func TestWhatCannotGoByWeightIsSaidSo(t *testing.T) {
	s := opened(t, 2)
	with := func(f func(*api.ActWish)) *answer {
		in := api.NewAct{Kind: "sold", To: "guest house", Lines: []api.ActWish{{Formula: s.formula.Id, Grams: 10}}}
		f(&in.Lines[0])
		return s.post("/api/acts", in)
	}
	with(func(w *api.ActWish) { w.Count = 1 }).refuses(http.StatusUnprocessableEntity, "bad-value")
	with(func(w *api.ActWish) { w.Deposit = "1.00" }).refuses(http.StatusUnprocessableEntity, "bad-value")
	with(func(w *api.ActWish) { w.Ml = 10 }).refuses(http.StatusUnprocessableEntity, "bad-value")
	with(func(w *api.ActWish) { w.Grams = 0; w.Ml = 10 }).refuses(http.StatusUnprocessableEntity, "no-density") // a powder
	with(func(w *api.ActWish) { w.Price = "-1" }).refuses(http.StatusUnprocessableEntity, "bad-money")
	with(func(w *api.ActWish) { w.Grams = -1 }).refuses(http.StatusUnprocessableEntity, "bad-fields")
	s.post("/api/stall-days", api.NewStallDay{To: "Saturday stall", Lines: []api.ActWish{{Formula: s.formula.Id, Grams: 10}}}).refuses(http.StatusUnprocessableEntity, "bad-value")
	var acts []api.Act
	s.get("/api/acts").gives(http.StatusOK, &acts)
	assert.Empty(t, acts)
	var act api.Act
	s.post("/api/acts", api.NewAct{Kind: "sold", Lines: []api.ActWish{{Formula: s.formula.Id, Count: 1}, {Batch: s.batch.Id, Grams: 500}}}).gives(http.StatusCreated, &act)
	assert.Equal(t, []any{1, 500.0}, []any{act.Jars, act.Lines[1].Grams}, "a jar of the act is not opened by it")
	s.sound()
}

// A litre of what is poured is as many grams as it weighs: ethanol and water, half and half by
// weight, between the two.
func TestALitreIsSoldOfWhatIsPoured(t *testing.T) {
	h := open(t)
	s := &shop{house: h, client: h.founded("marl")}
	s.take("2 kg white vinegar 4.00 from Quayside, lot V1")
	s.formula = s.keep("Sluice", "1000 g of white vinegar")
	b := s.weigh(s.begin(s.formula, api.Target{Factor: 1}), 0, "V1", 1000)
	s.post(at(b, "finish"), api.Finish{Jars: 1}).gives(http.StatusOK, &b)
	var act api.Act
	s.post("/api/acts", api.NewAct{Kind: "sold", Lines: []api.ActWish{{Formula: s.formula.Id, Ml: 500, Price: "3.00"}}}).gives(http.StatusCreated, &act)
	assert.InDelta(t, 503, act.Lines[0].Grams, 5, "vinegar of 5 %% weighs 1.005 g/ml (handbook)")
	s.sound()
}

// Whatever goes and comes back by weight and in jars, in whatever order: stock is the sum of
// its movements, and all that came back is as if it never went.
func TestWeightsAddUp(t *testing.T) {
	s := opened(t, 4)
	kept := s.house.store()
	sound := func() {
		broken, err := kept.Verify(t.Context())
		require.NoError(t, err)
		require.Empty(t, broken)
	}
	some := rand.New(rand.NewPCG(3, 2))
	for range 12 {
		out := 0.0
		for range 1 + some.IntN(4) {
			grams := float64(1+some.IntN(700_000)) / 1000
			if s.byWeight("sold", "guest house", grams, "1.99").status == http.StatusCreated {
				out += grams
			}
		}
		sound()
		for left := out; left > 0.0005; {
			back := min(left, float64(1+some.IntN(700_000))/1000)
			s.byWeight("returned", "guest house", back, "").gives(http.StatusCreated, nil)
			left -= back
		}
		sound()
		goods := s.year().Goods[0]
		require.Equal(t, []any{api.Money("0.00"), api.Money("0.00"), 0.0}, []any{goods.Brought, goods.SoldCost, goods.SoldByWeightG})
	}
}
