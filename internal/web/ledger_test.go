package web_test

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"keencrock/api"
)

// shop is a workshop with jars of a good to sell.
type shop struct {
	*house
	*client
	formula api.StoredFormula
	batch   api.Batch
}

// opened makes a kilogram of borax into so many jars; the borax cost 6.00 a kilogram.
func opened(t testing.TB, jars int) *shop {
	h := open(t)
	s := &shop{house: h, client: h.founded("marl")}
	s.take("5 kg borax 30.00 from Quayside, lot B1")
	s.formula = s.keep("Towpath", "1000 g of borax")
	s.batch = s.packed(jars)
	return s
}

func (s *shop) packed(jars int) api.Batch {
	s.client.t.Helper()
	b := s.weigh(s.begin(s.formula, api.Target{Factor: 1}), 0, "B1", 1000)
	s.post(at(b, "finish"), api.Finish{Jars: jars}).gives(http.StatusOK, &b)
	return b
}

func (s *shop) price(amount string) {
	s.client.t.Helper()
	s.put("/api/ledger/prices", api.JarPrices{Prices: []api.NewPrice{{Formula: s.formula.Id, Price: amount, Deposit: "0.50"}}}).gives(http.StatusOK, nil)
}

func (s *shop) act(kind api.ActKind, to string, count int, more ...func(*api.NewAct)) *answer {
	s.client.t.Helper()
	in := api.NewAct{Kind: kind, To: to, Lines: []api.ActWish{{Formula: s.formula.Id, Count: count}}}
	for _, f := range more {
		f(&in)
	}
	return s.post("/api/acts", in)
}

func (s *shop) good() api.GoodCost {
	s.client.t.Helper()
	var goods []api.GoodCost
	s.get("/api/ledger/goods").gives(http.StatusOK, &goods)
	require.Len(s.client.t, goods, 1)
	return goods[0]
}

func (s *shop) year() api.YearSums {
	s.client.t.Helper()
	var y api.YearSums
	s.get("/api/ledger/year").gives(http.StatusOK, &y)
	return y
}

// 6.00 of borax in four jars is 1.50 a jar; sold at 4.00 that leaves 2.50, which is 62.5 % of
// the price and 166.7 % of the cost (arithmetic).
func TestAJarIsSoldAndTheMarginTold(t *testing.T) {
	s := opened(t, 4)
	s.price("4.00")
	g := s.good()
	assert.Equal(t, api.Money("1.50"), g.Cost)
	assert.True(t, g.AtLeast, "nobody said what an hour costs")
	require.Len(t, g.Over, 1, "the batch that it is reckoned from")
	var of api.BatchCost
	s.get("/api/ledger/batches/"+g.Over[0].Batch.String()).gives(http.StatusOK, &of)
	require.Len(t, of.Strata[0].Lots, 1, "which opens to its movements")
	assert.Equal(t, "B1", of.Strata[0].Lots[0].Code)
	require.NotNil(t, g.Margin)
	assert.InDelta(t, 0.625, *g.Margin, 1e-6)
	assert.InDelta(t, 1.666667, *g.MarkUp, 1e-6)
	assert.Equal(t, api.Money("2.50"), g.PriceFor40, "1.50 / 0.6")

	var act api.Act
	s.act("sold", "guest house", 3).gives(http.StatusCreated, &act)
	assert.Equal(t, 1, act.Number)
	assert.Equal(t, api.Money("12.00"), act.Brought)
	assert.Equal(t, api.Money("1.50"), act.Deposits)
	assert.Equal(t, api.Money("4.50"), act.Cost)
	y := s.year()
	require.Len(t, y.Goods, 1)
	assert.Equal(t, 4, y.Goods[0].Made)
	assert.Equal(t, 3, y.Goods[0].Sold)
	assert.Equal(t, api.Money("12.00"), y.Goods[0].Brought)
	assert.Equal(t, api.Money("7.50"), y.Goods[0].Left)

	p := s.act("sold", "guest house", 2).refuses(http.StatusConflict, "short-jars")
	assert.Contains(t, p.Detail, "one is here, not 2")
	s.act("returned", "guest house", 4).refuses(http.StatusConflict, "more-back")
	s.act("returned", "the neighbour", 1).refuses(http.StatusConflict, "more-back")
	s.act("returned", "Guest House", 3).gives(http.StatusCreated, &act)
	assert.Equal(t, 3, act.Jars)
	y = s.year()
	assert.Equal(t, 0, y.Goods[0].Sold, "a sale and its return are nothing")
	assert.Equal(t, api.Money("0.00"), y.Goods[0].Brought)
	assert.Equal(t, api.Money("0.00"), y.Goods[0].Left)
	var outlets []api.Outlet
	s.get("/api/outlets").gives(http.StatusOK, &outlets)
	require.Len(t, outlets, 1)
	assert.Empty(t, outlets[0].Deposits)
	s.sound()
}

// sound holds the books to what must hold in every database.
func (s *shop) sound() {
	s.client.t.Helper()
	broken, err := s.house.store().Verify(s.client.t.Context())
	require.NoError(s.client.t, err)
	require.Empty(s.client.t, broken)
}

// What the pantry brings back of a sale is no sale any more either.
func TestAJarThatComesBackIsPaidBack(t *testing.T) {
	s := opened(t, 2)
	s.price("4.00")
	s.act("sold", "guest house", 1).gives(http.StatusCreated, nil)
	var pantry []api.PantryLot
	s.get("/api/pantry").gives(http.StatusOK, &pantry)
	require.True(t, pantry[0].JarList[0].Gone)
	s.patch("/api/jars/"+pantry[0].JarList[0].Id.String(), api.JarMove{}).gives(http.StatusOK, nil)
	assert.Equal(t, api.Money("0.00"), s.year().Goods[0].Brought)
	s.sound()
}

// What is best before the soonest goes first, in order of the jars; what went last comes back
// first, and only from whom it went to (common practice).
func TestWhichJarsGoAndComeBack(t *testing.T) {
	s := opened(t, 2)
	s.house.now = day.AddDate(0, 0, 5)
	later := s.packed(3)
	out := func(b api.Batch) (numbers []int) {
		var good api.PantryLot
		s.get("/api/pantry/"+b.Id.String()).gives(http.StatusOK, &good)
		for _, j := range good.JarList {
			if j.Gone {
				numbers = append(numbers, j.Number)
			}
		}
		return numbers
	}
	s.act("gone", "corner shop", 1).gives(http.StatusCreated, nil)
	assert.Equal(t, [][]int{{1}, nil}, [][]int{out(s.batch), out(later)})
	s.act("gone", "corner shop", 2).gives(http.StatusCreated, nil)
	assert.Equal(t, [][]int{{1, 2}, {1}}, [][]int{out(s.batch), out(later)})
	s.house.now = day.AddDate(0, 0, 6)
	s.act("gone", "guest house", 1).gives(http.StatusCreated, nil)
	s.act("returned", "Corner Shop", 1).gives(http.StatusCreated, nil)
	assert.Equal(t, [][]int{{1, 2}, {2}}, [][]int{out(s.batch), out(later)})
	s.act("returned", "corner shop", 1).gives(http.StatusCreated, nil)
	assert.Equal(t, [][]int{{1}, {2}}, [][]int{out(s.batch), out(later)})
	s.act("returned", "corner shop", 2).refuses(http.StatusConflict, "more-back")
	s.act("returned", "", 1).gives(http.StatusCreated, nil)
	assert.Equal(t, [][]int{{1}, nil}, [][]int{out(s.batch), out(later)}, "the last that went, whoever has it")
	s.sound()
}

// Of each jar that is sold from two phones at once one sale holds.
func TestAJarIsSoldOnce(t *testing.T) {
	s := opened(t, 1)
	s.price("4.00")
	done := make(chan int)
	phones := []*client{s.client, s.signIn("marl")}
	for _, c := range phones {
		go func() {
			done <- c.post("/api/acts", api.NewAct{Kind: "sold", To: "guest house", Lines: []api.ActWish{{Formula: s.formula.Id}}}).status
		}()
	}
	assert.ElementsMatch(t, []int{http.StatusCreated, http.StatusConflict}, []int{<-done, <-done})
	assert.Equal(t, 1, s.year().Goods[0].Sold)
	s.sound()
}

// A bad act is refused in words and moves nothing.
func TestWhatCannotBeSoldIsSaidSo(t *testing.T) {
	s := opened(t, 2)
	with := func(f func(*api.NewAct)) *answer { return s.act("sold", "guest house", 1, f) }
	with(func(a *api.NewAct) { a.Lines[0].Price = "-4.00" }).refuses(http.StatusUnprocessableEntity, "bad-money")
	with(func(a *api.NewAct) { a.Lines[0].Price = "four" }).refuses(http.StatusUnprocessableEntity, "bad-money")
	with(func(a *api.NewAct) { a.Lines[0].Price = "4.005" }).refuses(http.StatusUnprocessableEntity, "bad-money")
	with(func(a *api.NewAct) { a.At = day.Add(-48 * time.Hour) }).refuses(http.StatusUnprocessableEntity, "too-early")
	with(func(a *api.NewAct) { a.At = day.Add(time.Hour) }).refuses(http.StatusUnprocessableEntity, "bad-value")
	with(func(a *api.NewAct) { a.Lines[0].Formula = uuid.New() }).refuses(http.StatusNotFound, "not-found")
	with(func(a *api.NewAct) { a.Lines = []api.ActWish{{}} }).refuses(http.StatusUnprocessableEntity, "bad-value")
	with(func(a *api.NewAct) { a.Lines = append(a.Lines, api.ActWish{Formula: s.formula.Id, Count: 2}) }).refuses(http.StatusConflict, "short-jars")
	assert.Empty(t, s.year().Outlets)
	var act api.Act
	with(func(*api.NewAct) {}).gives(http.StatusCreated, &act)
	assert.Empty(t, act.Brought, "nobody said for how much: it is not nothing")
	y := s.year()
	assert.Equal(t, 1, y.Goods[0].Unpriced)
	s.sound()
}

// Who must be kept from something is not handed it unless the maker decides so, and that
// is kept.
func TestWhoMayNotHaveItIsToldBefore(t *testing.T) {
	s := opened(t, 2)
	s.post("/api/outlets", api.OutletPlan{Name: "Maud", Kind: "customer", KeepFrom: []string{"pregnancy"}}).gives(http.StatusCreated, nil)
	s.post("/api/outlets", api.OutletPlan{Name: "Ned", Kind: "customer", KeepFrom: []string{"moonlight"}}).refuses(http.StatusUnprocessableEntity, "bad-value")
	p := s.act("given", "maud", 1).refuses(http.StatusConflict, "kept-from")
	assert.Contains(t, p.Detail, "Borax is classed as a danger to unborn children")
	var tried, act api.Act
	s.post("/api/acts/tried", api.NewAct{Kind: "given", To: "Maud", Lines: []api.ActWish{{Formula: s.formula.Id}}}).gives(http.StatusOK, &tried)
	assert.Len(t, tried.Against, 1)
	assert.Equal(t, uuid.Nil, tried.Id)
	s.act("given", "Maud", 1, func(a *api.NewAct) { a.Despite = true }).gives(http.StatusCreated, &act)
	assert.Contains(t, act.Note, "All the same")
	assert.Contains(t, act.Note, "unborn")
}

// A day at a stall: six out, three sold at 4.00, one given, one taken back, two brought home,
// one missing; takings of 7.00 against 8.00 (arithmetic).
func TestADayAtAStall(t *testing.T) {
	s := opened(t, 6)
	s.price("4.00")
	s.post("/api/outlets", api.OutletPlan{Name: "Saturday stall", Kind: "stall", Fee: "5.00", Fuel: "1.00"}).gives(http.StatusCreated, nil)
	var d api.StallDay
	out := api.NewStallDay{To: "Saturday stall", Lines: []api.ActWish{{Formula: s.formula.Id, Count: 6}}}
	s.post("/api/stall-days", out).gives(http.StatusCreated, &d)
	require.NotNil(t, d.BreakEven)
	assert.Equal(t, 2, *d.BreakEven, "6.00 / (4.00 − 1.00) a jar")
	out.Lines[0].Count = 1
	s.post("/api/stall-days", out).refuses(http.StatusConflict, "short-jars")
	where := "/api/stall-days/" + d.Id.String()
	sell := func(kind api.StallSaleKind, count int) *answer {
		return s.post(where+"/sales", api.StallSale{Formula: s.formula.Id, Kind: kind, Count: count})
	}
	sell("sold", 3).gives(http.StatusCreated, nil)
	sell("given", 1).gives(http.StatusCreated, nil)
	sell("returned", 1).gives(http.StatusCreated, &d)
	assert.Equal(t, 3, d.Sold, "the gift was taken back: it went last")
	assert.Equal(t, 0, d.Given)
	sell("returned", 1).gives(http.StatusCreated, &d)
	assert.Equal(t, 2, d.Sold)
	assert.Equal(t, api.Money("8.00"), d.Brought)
	sell("given", 1).gives(http.StatusCreated, nil)
	sell("sold", 4).refuses(http.StatusConflict, "short-jars")
	end := api.StallEnd{Takings: "7.00", Back: []api.StallBack{{Formula: s.formula.Id, Count: 4}}}
	s.post(where+"/end", end).refuses(http.StatusConflict, "more-back")
	end.Back[0].Count = 2
	s.post(where+"/end", end).gives(http.StatusOK, &d)
	assert.False(t, d.Open)
	assert.Equal(t, 1, d.Missing)
	assert.Equal(t, api.Money("1.00"), d.Short)
	assert.Equal(t, api.Money("-2.00"), d.Left, "7.00 − 5.00 − 1.00 − 3 × 1.00")
	sell("sold", 1).refuses(http.StatusConflict, "stall-ended")
	y := s.year()
	assert.Equal(t, 2, y.Goods[0].Sold)
	assert.Equal(t, 1, y.Goods[0].Given)
	assert.Equal(t, 1, y.Goods[0].Out, "missing")
	s.sound()
}

// Hands, stove and failures are strata; they add up to the cent, and what is not known is
// said so. 30 minutes at 18.00 an hour are 9.00; a failed batch of 6.00 falls on what was made
// well.
func TestTheStrataAddUp(t *testing.T) {
	s := opened(t, 4)
	s.put("/api/ledger/rates", api.Rates{Hour: "18.00", Kwh: "0.30", StoveW: 2000, Bought: []api.BoughtGood{{Name: "a bought powder", Kind: "laundry-powder", Price: "6.00", Uses: 20}}}).gives(http.StatusOK, nil)
	var cost api.BatchCost
	s.get("/api/ledger/batches/"+s.batch.Id.String()).gives(http.StatusOK, &cost)
	assert.Nil(t, cost.HandsMin, "a batch without steps asks")
	s.post("/api/ledger/batches/"+s.batch.Id.String()+"/hands", api.HandsTold{Minutes: 30}).gives(http.StatusOK, &cost)
	assert.Equal(t, api.Money("15.00"), cost.Cost)
	assert.False(t, cost.AtLeast)
	failed := s.weigh(s.begin(s.formula, api.Target{Factor: 1}), 0, "B1", 1000)
	s.post(at(failed, "abandon"), api.Abandon{Discarded: true, Reason: "it set"}).gives(http.StatusOK, nil)
	g := s.good()
	assert.Equal(t, 1, g.Failed)
	assert.Equal(t, api.Money("5.25"), g.Cost, "(6.00 + 9.00 + 6.00) / 4")
	sum := decimal.Zero
	for _, l := range g.Strata {
		sum = sum.Add(decimal.RequireFromString(l.Cost))
	}
	assert.Equal(t, "5.25", sum.StringFixed(2))
	assert.Equal(t, api.Money("0.15"), g.Strata[0].TenthDearer, "a tenth of 1.50 of borax")
	assert.Equal(t, "a bought powder", g.Bought.Name)
	assert.Equal(t, api.Money("0.3000"), g.Bought.PerUse)
	s.price("5.00")
	assert.True(t, s.good().Loses)
	s.put("/api/ledger/rates", api.Rates{Hour: "18.00", Bought: []api.BoughtGood{}}).refuses(http.StatusConflict, "stale")
}

// A batch that used 1100 g where 1000 were planned, of a lot at 9.00 a kilogram where the one
// before cost 6.00: price 3.30 dearer, amount 0.60 (arithmetic, after the textbook's formulas).
func TestPlannedAgainstReal(t *testing.T) {
	s := opened(t, 4)
	s.take("5 kg borax 45.00 from Marrow Stores, lot B2")
	b := s.weigh(s.begin(s.formula, api.Target{Factor: 1}), 0, "B2", 1100)
	s.post(at(b, "finish"), api.Finish{Jars: 4, EachG: 275}).gives(http.StatusOK, nil)
	var cost api.BatchCost
	s.get("/api/ledger/batches/"+b.Id.String()).gives(http.StatusOK, &cost)
	assert.Equal(t, api.Money("9.90"), cost.Paid)
	assert.Equal(t, api.Money("3.30"), cost.Price)
	assert.Equal(t, api.Money("0.60"), cost.Amount)
	assert.Equal(t, api.Money("6.60"), cost.Planned, "for the 1100 g that came out")
	sum := decimal.Zero
	for _, v := range []api.Money{cost.Planned, cost.Price, cost.Amount, cost.Yield} {
		sum = sum.Add(decimal.RequireFromString(v))
	}
	assert.Equal(t, cost.Paid, sum.StringFixed(2), "the parts add up")
	require.NotEmpty(t, cost.Strata[0].Lots)
	assert.Equal(t, "B2", cost.Strata[0].Lots[0].Code)
}

// Stock at cost is what was bought less what was used, on every day: 30.00 of borax, then 24.00
// of it and 6.00 of goods, then 4.50 of goods when one of four jars is sold.
func TestStockIsWorthWhatItCost(t *testing.T) {
	s := opened(t, 4)
	value := func(day string) (out string) {
		var v api.StockValue
		s.get("/api/ledger/stock?day="+day).gives(http.StatusOK, &v)
		for _, k := range v.Values {
			out += fmt.Sprintf("%s %s; ", k.Kind, k.Value)
		}
		return out
	}
	assert.Equal(t, "good 6.00; raw 24.00; ", value("2026-06-01"))
	assert.Empty(t, value("2026-05-31"))
	s.house.now = day.AddDate(0, 0, 2)
	s.act("sold", "guest house", 1).gives(http.StatusCreated, nil)
	assert.Equal(t, "good 4.50; raw 24.00; ", value("2026-06-03"))
	assert.Equal(t, "good 6.00; raw 24.00; ", value("2026-06-02"), "what was then is still so")
	s.get("/api/ledger/stock?day=2026-06-04").refuses(http.StatusUnprocessableEntity, "bad-value")
}

func TestPricesOverTime(t *testing.T) {
	s := opened(t, 1)
	for i, price := range []string{"20.00", "21.00", "22.00", "33.00"} {
		s.house.now = day.AddDate(0, 0, 60*i)
		s.client = s.signIn("marl") // a session does not last so long
		s.take(fmt.Sprintf("10 kg soda crystals %s from Quayside, lot C%d", price, i))
	}
	var lines []api.PriceLine
	s.get("/api/ledger/materials").gives(http.StatusOK, &lines)
	require.Len(t, lines, 2)
	soda := lines[1]
	assert.Equal(t, "Soda crystals", soda.Name)
	assert.InDelta(t, 0.3704, soda.ActiveShare, 1e-4, "105.99 / 286.14, by IUPAC masses")
	assert.Equal(t, api.Money("2.00"), soda.Points[0].PerKg)
	assert.Equal(t, api.Money("5.40"), soda.Points[0].PerKgActive, "2.00 / 0.3704")
	assert.InDelta(t, 0.5, soda.Points[3].Jump, 1e-9)
	assert.Zero(t, soda.Points[1].Jump, "a twentieth is no jump")
	require.NotNil(t, soda.DriftAYear)
	assert.Positive(t, *soda.DriftAYear)
}

// A workbook is read back by the library's own reader, numbers as numbers; a text that begins
// like a formula stays a text.
func TestTheYearAndThePricesAreTakenAlong(t *testing.T) {
	s := opened(t, 4)
	s.price("4.00")
	s.act("sold", "=1+1", 2).gives(http.StatusCreated, nil)
	a := s.get("/api/ledger/year/file?as=xlsx").gives(http.StatusOK, nil)
	f, err := excelize.OpenReader(bytes.NewReader(a.body))
	require.NoError(t, err)
	rows, err := f.GetRows("By month, good and outlet", excelize.Options{RawCellValue: true})
	require.NoError(t, err)
	require.Len(t, rows, 3, "made, and sold to one")
	assert.Equal(t, "=1+1", rows[2][2])
	kind, err := f.GetCellType("By month, good and outlet", "I3")
	require.NoError(t, err)
	assert.Contains(t, []excelize.CellType{excelize.CellTypeNumber, excelize.CellTypeUnset}, kind)
	assert.Equal(t, "8", rows[2][8])
	formula, err := f.GetCellFormula("By month, good and outlet", "C3")
	require.NoError(t, err)
	assert.Empty(t, formula)
	text := string(s.get("/api/ledger/year/file?as=csv").gives(http.StatusOK, nil).body)
	assert.Contains(t, text, "'=1+1")
	assert.Contains(t, string(s.get("/api/ledger/price-list?as=csv").gives(http.StatusOK, nil).body), "Towpath,4,0.5,EUR,2026-06-01")
	assert.True(t, strings.HasPrefix(string(s.get("/api/ledger/price-list").gives(http.StatusOK, nil).body), "%PDF"))
}

// The same workbook as an office program reads it, where one is installed (Debian's gnumeric): a
// number is a number, a text that begins like a formula is not worked out.
func TestTheYearIsReadBackByAnOfficeProgram(t *testing.T) {
	office, err := exec.LookPath("ssconvert")
	if err != nil {
		t.Skip("no office program is installed here: gnumeric reads it back")
	}
	s := opened(t, 4)
	s.price("4.00")
	s.act("sold", "=1+1", 2).gives(http.StatusCreated, nil)
	folder := t.TempDir()
	book := filepath.Join(folder, "year.xlsx")
	require.NoError(t, os.WriteFile(book, s.get("/api/ledger/year/file?as=xlsx").gives(http.StatusOK, nil).body, 0o600))
	said, err := exec.Command(office, "-S", book, filepath.Join(folder, "sheet-%n.csv")).CombinedOutput()
	require.NoError(t, err, string(said))
	found := false
	sheets, err := filepath.Glob(filepath.Join(folder, "sheet-*.csv"))
	require.NoError(t, err)
	for _, name := range sheets {
		f, err := os.Open(name)
		require.NoError(t, err)
		r := csv.NewReader(f)
		r.FieldsPerRecord = -1
		rows, err := r.ReadAll()
		require.NoError(t, f.Close())
		require.NoError(t, err, name)
		for _, row := range rows {
			if len(row) > 8 && row[2] == "=1+1" {
				found = true
				assert.Equal(t, "8", row[8], "two at 4.00")
			}
		}
	}
	assert.True(t, found, "the one they went to, as they are called: %v", sheets)
}

// Who has jars of a batch can be reached; who is forgotten cannot, and what went to them
// stays told.
func TestWhoHasJarsOfABatch(t *testing.T) {
	s := opened(t, 3)
	var maud api.Outlet
	s.post("/api/outlets", api.OutletPlan{Name: "Maud Reed", Kind: "customer", Reach: "the blue boat"}).gives(http.StatusCreated, &maud)
	s.act("sold", "Maud Reed", 2).gives(http.StatusCreated, nil)
	s.act("gone", "Maud Reed", 1).gives(http.StatusCreated, nil)
	var who []api.Holder
	s.get(at(s.batch, "holders")).gives(http.StatusOK, &who)
	require.Len(t, who, 2)
	assert.Equal(t, "the blue boat", who[1].Reach)
	assert.Equal(t, "1, 2", who[1].Numbers)
	var good api.PantryLot
	s.get("/api/pantry/"+s.batch.Id.String()).gives(http.StatusOK, &good)
	first := "/api/jars/" + good.JarList[0].Id.String()
	require.Equal(t, "Maud Reed", good.JarList[0].GoneTo)
	s.patch(first, api.JarMove{Gone: true, GoneTo: "her sister"}).gives(http.StatusOK, nil)
	s.patch(first, api.JarMove{Gone: true, GoneTo: "Maud Reed"}).gives(http.StatusOK, nil)
	lot := "/api/lots/" + good.Lot.String()
	assert.Contains(t, string(s.get(lot).gives(http.StatusOK, nil).body), "Maud Reed")
	where := "/api/outlets/" + maud.Id.String()
	s.call("DELETE", where, nil).refuses(http.StatusConflict, "jars-out")
	s.call("DELETE", where+"?forget=true", nil).gives(http.StatusNoContent, nil)
	for _, path := range []string{at(s.batch, "holders"), lot, "/api/pantry/" + s.batch.Id.String(), "/api/acts", "/api/pantry", "/api/outlets", "/api/ledger/year"} {
		a := s.get(path).gives(http.StatusOK, nil)
		assert.NotContains(t, string(a.body), "Maud", path)
		assert.NotContains(t, string(a.body), "blue boat", path)
	}
	s.get(at(s.batch, "holders")).gives(http.StatusOK, &who)
	assert.Equal(t, 2, who[1].Jars+0)
	s.sound()
}

// Owners see money, makers what they sell, viewers neither prices nor people.
func TestWhoSeesMoney(t *testing.T) {
	s := opened(t, 2)
	s.price("4.00")
	maker, viewer := s.with(s.client, "maker", api.Maker), s.with(s.client, "viewer", api.Viewer)
	for _, path := range []string{"/api/ledger/goods", "/api/ledger/rates", "/api/ledger/materials", "/api/ledger/year", "/api/ledger/year/file", "/api/ledger/stock", "/api/ledger/batches/" + s.batch.Id.String()} {
		maker.get(path).refuses(http.StatusForbidden, "not-allowed")
		viewer.get(path).refuses(http.StatusForbidden, "not-allowed")
	}
	for _, path := range []string{"/api/outlets", "/api/acts", "/api/stall-days", "/api/ledger/prices", "/api/ledger/price-list", at(s.batch, "holders"), at(s.batch, "record")} {
		maker.get(path).gives(http.StatusOK, nil)
		viewer.get(path).refuses(http.StatusForbidden, "not-allowed")
	}
	var act api.Act
	maker.post("/api/acts", api.NewAct{Kind: "sold", To: "guest house", Lines: []api.ActWish{{Formula: s.formula.Id}}}).gives(http.StatusCreated, &act)
	assert.Equal(t, api.Money("4.00"), act.Brought)
	assert.Empty(t, act.Cost)
}

// A sentence is heard and tried before anything moves.
func TestASaleIsSaid(t *testing.T) {
	s := opened(t, 6)
	s.post("/api/outlets", api.OutletPlan{Name: "Saturday stall", Kind: "stall"}).gives(http.StatusCreated, nil)
	var said api.ActSaid
	s.post("/api/acts/said", api.SaidNote{Text: "four Towpath at the stall, 4 each, two back"}).gives(http.StatusOK, &said)
	require.Len(t, said.Acts, 2)
	assert.Equal(t, []string{"Sold: 4 Towpath at 4.00 each to Saturday stall.", "Taken back: 2 Towpath from Saturday stall."}, said.Heard)
	for _, act := range said.Acts {
		s.post("/api/acts", act).gives(http.StatusCreated, nil)
	}
	assert.Equal(t, 2, s.year().Goods[0].Sold)
	assert.Equal(t, api.Money("8.00"), s.year().Goods[0].Brought)
	s.sound()
}

// A sheet is read, tried and brought in: a bad row is named with its field, nothing is kept of a
// whole that is not good, and the good rows where they are asked for.
func TestSalesAreBroughtIn(t *testing.T) {
	s := opened(t, 6)
	s.price("4.00")
	s.house.now = day.AddDate(0, 0, 5)
	f := excelize.NewFile()
	for i, row := range [][]any{{"date", "what", "number", "customer"}, {day.AddDate(0, 0, 1), "towpath", 2, "guest house"}, {"4/5/2026", "Towpath", 1, "guest house"}, {"2026-06-03", "Heron", 1, ""}, {"2026-05-30", "Towpath", 1, ""}, {"2026-06-04", s.batch.Code, 1, "Maud"}, {"", "Towpath", 9, ""}} {
		require.NoError(t, f.SetSheetRow("Sheet1", fmt.Sprintf("A%d", i+1), &row))
	}
	var b bytes.Buffer
	require.NoError(t, f.Write(&b))
	var read api.SheetRead
	s.post("/api/sheets", b.Bytes()).gives(http.StatusOK, &read)
	require.Equal(t, []string{"date", "what", "number", "customer"}, read.Head)
	require.Equal(t, 2, read.First)
	rows := api.ActRows{Take: "try"}
	for i, r := range read.Rows {
		rows.Rows = append(rows.Rows, api.ActRow{Row: read.First + i, Day: r[0], Good: r[1], Jars: r[2], To: r[3]})
	}
	var taken api.RowsTaken
	s.post("/api/acts/many", rows).gives(http.StatusOK, &taken)
	assert.Equal(t, 2, taken.Taken)
	var said []string
	for _, p := range taken.Refused {
		said = append(said, fmt.Sprintf("%d %s %s", p.Row, p.Code, p.Field))
	}
	assert.Equal(t, []string{"3 bad-value day", "4 unknown-good good", "5 too-early at", "7 short-jars lines[0].count"}, said)
	assert.Zero(t, s.year().Goods[0].Sold, "only tried")
	rows.Take = "all"
	s.post("/api/acts/many", rows).refuses(http.StatusUnprocessableEntity, "bad-rows")
	assert.Zero(t, s.year().Goods[0].Sold)
	rows.Take = "good"
	s.post("/api/acts/many", rows).gives(http.StatusOK, &taken)
	assert.Equal(t, 3, s.year().Goods[0].Sold)
	assert.Equal(t, api.Money("12.00"), s.year().Goods[0].Brought)
	s.sound()

	s.post("/api/outlets/many", api.OutletRows{Take: "all", Rows: []api.OutletRow{{Row: 2, Name: "Maud", Kind: "customer", Reach: "the blue boat", KeepFrom: "asthma, linalool"}, {Row: 3, Name: "corner shop", Kind: "Shop"}}}).gives(http.StatusOK, &taken)
	assert.Equal(t, 2, taken.Taken)
	var outlets []api.Outlet
	s.get("/api/outlets").gives(http.StatusOK, &outlets)
	assert.Equal(t, []string{"asthma", "allergen:linalool"}, outlets[0].KeepFrom)
	s.post("/api/outlets/many", api.OutletRows{Take: "all", Rows: []api.OutletRow{{Row: 2, Name: "Maud"}, {Row: 3, Name: "Ned", Kind: "ferry"}}}).refuses(http.StatusUnprocessableEntity, "bad-rows")
	s.post("/api/sheets", []byte("PK\x03\x04")).refuses(http.StatusUnprocessableEntity, "sheet-broken")
}

// What somebody paid before stands beside what they pay now, with when that was; so does that they
// paid what everybody does in between.
func TestEarlierPricesAreTold(t *testing.T) {
	s := opened(t, 4)
	var café api.Outlet
	s.post("/api/outlets", api.OutletPlan{Name: "café", Kind: "outlet"}).gives(http.StatusCreated, &café)
	set := func(amount api.Money, outlet uuid.UUID, after int) {
		s.house.now = day.AddDate(0, 0, after)
		s.put("/api/ledger/prices", api.JarPrices{Prices: []api.NewPrice{{Formula: s.formula.Id, Outlet: outlet, Price: amount}}}).gives(http.StatusOK, nil)
	}
	set("5.00", uuid.Nil, 0)
	set("4.00", café.Id, 0)
	set("", café.Id, 2)
	set("4.20", café.Id, 3)
	set("5.20", uuid.Nil, 4)
	var all []api.JarPrice
	s.get("/api/ledger/prices").gives(http.StatusOK, &all)
	require.Len(t, all, 2)
	of := map[uuid.UUID]api.JarPrice{all[0].Outlet: all[0], all[1].Outlet: all[1]}
	assert.Equal(t, api.Money("5.20"), of[uuid.Nil].Price)
	require.Len(t, of[uuid.Nil].Earlier, 1)
	assert.Equal(t, api.Money("5.00"), of[uuid.Nil].Earlier[0].Price)
	theirs := of[café.Id]
	assert.Equal(t, api.Money("4.20"), theirs.Price)
	require.Len(t, theirs.Earlier, 2)
	assert.Empty(t, theirs.Earlier[0].Price, "as everybody in between")
	assert.Equal(t, api.Money("4.00"), theirs.Earlier[1].Price)
	assert.Equal(t, day.Format("2006-01-02"), theirs.Earlier[1].Since.String())
	assert.Equal(t, day.AddDate(0, 0, 2).Format("2006-01-02"), theirs.Earlier[1].Until.String())
}
