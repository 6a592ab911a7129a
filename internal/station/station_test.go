// Package station_test holds what the stations do together, on a real database.
package station_test

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/station/bench"
	"keencrock/internal/station/crock"
	"keencrock/internal/station/pantry"
	"keencrock/internal/station/people"
	"keencrock/internal/station/shelf"
	"keencrock/internal/station/strip"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
	"keencrock/internal/testdb"
)

func TestMain(m *testing.M) {
	people.PasswordCost = testdb.CheapPassword
	testdb.Main(m)
}

// migrate makes the tables.
func migrate(dsn string) error {
	return store.Migrate(context.Background(), dsn, bench.Migration(time.Now))
}

// work is a workshop at a clock that tests move.
type work struct {
	t     *testing.T
	ctx   context.Context
	house *tenant.House
	clock *time.Time
}

func open(t *testing.T) *work {
	t.Helper()
	ctx := context.Background()
	s, err := store.Open(ctx, testdb.Prepared(t, "migrated", migrate))
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	now := time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC)
	house := tenant.New(s, func() time.Time { return now })
	actor, err := people.New(house).CreateWorkshop(ctx, api.NewWorkshop{Workshop: "Toll House", Login: "marl", Name: "Marl", Password: "a long password"})
	require.NoError(t, err)
	return &work{t: t, ctx: tenant.WithActor(ctx, actor), house: house, clock: &now}
}

func (b *work) take(line string) *api.Lot {
	b.t.Helper()
	l, err := shelf.New(b.house).TakeDelivery(b.ctx, api.DeliveryLine{Line: line})
	require.NoError(b.t, err)
	return l
}

func (b *work) keep(name, kind string, lines ...api.FormulaLine) *api.StoredFormula {
	b.t.Helper()
	f, err := crock.New(b.house).AddFormula(b.ctx, &api.FormulaFile{Format: api.Keencrockformula, Version: 1, Name: name, Kind: kind, Lines: lines, Uses: api.OneUse{Amount: "10 g"}})
	require.NoError(b.t, err)
	return f
}

func (b *work) begin(f *api.StoredFormula, t api.Target) *api.Batch {
	b.t.Helper()
	batch, err := bench.New(b.house).StartBatch(b.ctx, api.NewBatch{Formula: f.Id, Target: t})
	require.NoError(b.t, err)
	return batch
}

func line(amount, material string) api.FormulaLine {
	return api.FormulaLine{Amount: amount, Material: material}
}

func problem(t *testing.T, err error) *api.Problem {
	t.Helper()
	var p *api.Problem
	require.ErrorAs(t, err, &p)
	return p
}

func (b *work) jar(material string) api.ShelfJar {
	b.t.Helper()
	shelf, err := shelf.New(b.house).Shelf(b.ctx)
	require.NoError(b.t, err)
	for _, j := range shelf {
		if j.Material == material {
			return j
		}
	}
	b.t.Fatalf("no jar of %s", material)
	return api.ShelfJar{}
}

func TestAJarsMarksSayWhatToLookAt(t *testing.T) {
	b := open(t)
	reorder := 2000.0
	_, err := shelf.New(b.house).SetFigures(b.ctx, "citric-acid", api.OwnFigures{ReorderG: &reorder})
	require.NoError(t, err)
	assert.Equal(t, []api.ShelfMark{"out"}, b.jar("citric-acid").Marks, "wanted, and none there")
	lot := b.take("5 kg citric acid 22.00, lot CA, best 2027-06-01")
	jar := b.jar("citric-acid")
	assert.Empty(t, jar.Marks)
	assert.Equal(t, "4.40", jar.PricePerKg)
	assert.Equal(t, "2027-06-01", jar.NextDate.Format(time.DateOnly))
	assert.Greater(t, jar.Level, 0.5, "over the reorder point")

	yes, counted := true, 1500.0
	_, err = shelf.New(b.house).MarkLot(b.ctx, lot.Id, api.LotMark{Clumped: &yes, CountedG: &counted, Reason: "counted"})
	require.NoError(t, err)
	jar = b.jar("citric-acid")
	assert.Subset(t, jar.Marks, []api.ShelfMark{"clumped", "low"})
	assert.Less(t, jar.Level, 0.5)
	detail, err := shelf.New(b.house).Lot(b.ctx, lot.Id)
	require.NoError(t, err)
	last := detail.Movements[len(detail.Movements)-1]
	assert.Equal(t, "corrected", string(last.Kind))
	assert.Equal(t, -3500.0, last.Grams, "a count is a movement, not a change of what was")

	*b.clock = time.Date(2027, 5, 10, 9, 0, 0, 0, time.UTC)
	assert.Contains(t, b.jar("citric-acid").Marks, api.ShelfMark("soon"))
	*b.clock = time.Date(2027, 7, 1, 9, 0, 0, 0, time.UTC)
	jar = b.jar("citric-acid")
	assert.Contains(t, jar.Marks, api.ShelfMark("past"))
	assert.Zero(t, jar.UsableG)
	assert.Equal(t, 1500.0, jar.StockG)
}

func TestDeliveriesAreReadOrExplained(t *testing.T) {
	b := open(t)
	d, err := shelf.New(b.house).ReadDelivery(b.ctx, "3 × 500 g borax 4.50 from Quayside, lot 7, best 2028-06")
	require.NoError(t, err)
	assert.Equal(t, 1500.0, d.MassG)
	assert.Equal(t, "Quayside", d.Supplier)
	assert.Equal(t, "2028-06-30", d.BestBefore.Format(time.DateOnly), "a month is good until its end")
	for said, want := range map[string]string{
		"5 kg boraks 3.00":           "did you mean Borax",
		"borax":                      "",
		"5 blorps borax":             "blorps",
		"5 kg borax best 31-31-2028": "",
	} {
		_, err := shelf.New(b.house).ReadDelivery(b.ctx, said)
		require.Error(t, err, said)
		assert.Contains(t, problem(t, err).Detail, want, said)
	}
	b.take("1 kg borax 3.00, lot 7")
	_, err = shelf.New(b.house).TakeDelivery(b.ctx, api.DeliveryLine{Line: "1 kg borax 3.00, lot 7"})
	assert.Equal(t, http.StatusConflict, problem(t, err).Status, "a code names one lot of a material")
	b.take("1 kg salt 1.00, lot 7") // of another it may
	unnamed := b.take("1 kg borax 3.00")
	assert.NotEmpty(t, unnamed.Code, "a bag without a code gets one")
}

// Many hands at one bag: what is weighed never exceeds what is in it, however
// many weigh at once.
func TestManyHandsCannotWeighMoreThanTheBagHolds(t *testing.T) {
	b := open(t)
	lot := b.take("1 kg borax 3.00, lot B")
	f := b.keep("Plain", "laundry-powder", line("400 g", "borax"))
	const hands = 8
	batches := make([]*api.Batch, hands)
	for i := range batches {
		batches[i] = b.begin(f, api.Target{Factor: 1})
	}
	var all sync.WaitGroup
	var mu sync.Mutex
	weighed, refused := 0, 0
	for _, batch := range batches {
		all.Go(func() {
			_, err := bench.New(b.house).Weigh(b.ctx, batch.Id, api.Weighing{Line: 0, Lot: "B", Grams: 400})
			mu.Lock()
			defer mu.Unlock()
			var p *api.Problem
			switch {
			case err == nil:
				weighed++
			case errors.As(err, &p) && p.Code == "short-lot":
				refused++
			default:
				t.Errorf("weigh: %v", err)
			}
		})
	}
	all.Wait()
	assert.Equal(t, 2, weighed)
	assert.Equal(t, hands-2, refused)
	detail, err := shelf.New(b.house).Lot(b.ctx, lot.Id)
	require.NoError(t, err)
	assert.Equal(t, 200.0, detail.Lot.AvailableG)
}

func TestABatchIsFinishedOnceHoweverOftenItIsAsked(t *testing.T) {
	b := open(t)
	b.take("1 kg borax 3.00, lot B")
	batch := b.begin(b.keep("Plain", "laundry-powder", line("400 g", "borax")), api.Target{Factor: 1})
	_, err := bench.New(b.house).Weigh(b.ctx, batch.Id, api.Weighing{Line: 0, Lot: "B", Grams: 400})
	require.NoError(t, err)
	var all sync.WaitGroup
	var mu sync.Mutex
	finished := 0
	for range 5 {
		all.Go(func() {
			_, err := bench.New(b.house).Finish(b.ctx, batch.Id, api.Finish{Jars: 2})
			mu.Lock()
			defer mu.Unlock()
			if err == nil {
				finished++
			}
		})
	}
	all.Wait()
	assert.Equal(t, 1, finished)
	goods, _, err := pantry.New(b.house).Pantry(b.ctx, pantry.Query{All: true})
	require.NoError(t, err)
	require.Len(t, goods, 1)
	assert.Len(t, goods[0].JarList, 2)
	assert.Equal(t, 600.0, b.jar("borax").StockG, "drawn once")
}

// Over many batches every cent of a delivery is accounted for.
func TestEveryCentOfABagIsAccountedFor(t *testing.T) {
	b := open(t)
	lot := b.take("1 kg borax 10.01, lot B")
	f := b.keep("Plain", "laundry-powder", line("70 g", "borax"))
	total := decimal.Zero
	left := 1000.0
	for left > 0 {
		batch := b.begin(f, api.Target{Factor: 1})
		g := min(left, 70)
		_, err := bench.New(b.house).Weigh(b.ctx, batch.Id, api.Weighing{Line: 0, Lot: "B", Grams: g})
		require.NoError(t, err)
		left -= g
		if g < 70 {
			_, err = bench.New(b.house).Abandon(b.ctx, batch.Id, api.Abandon{Discarded: true, Reason: "the last crumb"})
			require.NoError(t, err)
			continue
		}
		done, err := bench.New(b.house).Finish(b.ctx, batch.Id, api.Finish{Jars: 3})
		require.NoError(t, err)
		total = total.Add(decimal.RequireFromString(done.Cost))
		goods, _, err := pantry.New(b.house).Pantry(b.ctx, pantry.Query{All: true})
		require.NoError(t, err)
		jars := decimal.Zero
		for _, j := range goods[0].JarList {
			jars = jars.Add(decimal.RequireFromString(j.Cost))
		}
		assert.Equal(t, done.Cost, jars.StringFixed(2))
	}
	detail, err := shelf.New(b.house).Lot(b.ctx, lot.Id)
	require.NoError(t, err)
	assert.Zero(t, detail.Lot.RemainingG)
	moved := decimal.Zero
	for _, m := range detail.Movements {
		if m.Kind != "received" {
			moved = moved.Add(decimal.RequireFromString(m.Cost))
		}
	}
	assert.Equal(t, "10.01", moved.StringFixed(2))
	assert.True(t, total.LessThan(moved), "the discarded crumb cost the rest")
}

// Of many who open an empty workshop at once, one becomes its owner.
func TestThereIsOneFirstOwner(t *testing.T) {
	ctx := context.Background()
	dsn := testdb.New(t)
	require.NoError(t, migrate(dsn))
	s, err := store.Open(ctx, dsn)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	house := tenant.New(s, time.Now)
	var all sync.WaitGroup
	var mu sync.Mutex
	owners := 0
	for i := range 4 {
		all.Go(func() {
			_, err := people.New(house).MakeFirstOwner(tenant.WithCaller(ctx, tenant.Caller{Local: true}), api.NewWorkshop{Workshop: "Toll House", Login: fmt.Sprintf("owner-%d", i), Name: "O", Password: "a long password"})
			mu.Lock()
			defer mu.Unlock()
			if err == nil {
				owners++
			}
		})
	}
	all.Wait()
	assert.Equal(t, 1, owners)
}

func TestBatchCodesNameGoodDayAndTurn(t *testing.T) {
	b := open(t)
	b.take("5 kg borax 3.00, lot B")
	f := b.keep("Towpath", "laundry-powder", line("10 g", "borax"))
	assert.Equal(t, "TOW-260601-A", b.begin(f, api.Target{Factor: 1}).Code)
	assert.Equal(t, "TOW-260601-B", b.begin(f, api.Target{Factor: 1}).Code)
	*b.clock = b.clock.AddDate(0, 0, 1)
	assert.Equal(t, "TOW-260602-A", b.begin(f, api.Target{Factor: 1}).Code)
}

func TestPlansThatCannotBe(t *testing.T) {
	b := open(t)
	b.take("1 kg borax 3.00, lot B")
	f := b.keep("Plain", "laundry-powder", line("100 g", "borax"), line("100 g", "salt"))
	for what, target := range map[string]api.Target{
		"nothing said":      {},
		"two things":        {Factor: 1, Uses: 3},
		"no pieces":         {Pieces: 10},
		"no salt":           {Scarcest: true},
		"no mass":           {Amount: "3 parts"},
		"unreadable":        {Amount: "a lot"},
		"a jar of nothing":  {Containers: api.Containers{Count: 3, Each: "jar"}},
		"no such version":   {Version: 9, Factor: 1},
		"less than nothing": {Factor: -1},
	} {
		_, err := bench.New(b.house).Plan(b.ctx, f.Id, target)
		require.Error(t, err, what)
		assert.NotEmpty(t, problem(t, err).Detail, what)
	}
	plan, err := bench.New(b.house).Plan(b.ctx, f.Id, api.Target{Factor: 2})
	require.NoError(t, err)
	assert.True(t, plan.Short)
	assert.Equal(t, 200.0, plan.Lines[1].MissingG)
	_, err = bench.New(b.house).Plan(b.ctx, uuid.New(), api.Target{Factor: 1})
	assert.Equal(t, http.StatusNotFound, problem(t, err).Status)
}

func TestWhatIsWaitingIsSaid(t *testing.T) {
	b := open(t)
	waiting := func() string {
		notes, err := strip.New(b.house).Waiting(b.ctx)
		require.NoError(t, err)
		var said []string
		for _, n := range notes {
			said = append(said, n.Text)
		}
		return strings.Join(said, "; ")
	}
	assert.Empty(t, waiting())
	reorder := 5000.0
	_, err := shelf.New(b.house).SetFigures(b.ctx, "borax", api.OwnFigures{ReorderG: &reorder})
	require.NoError(t, err)
	b.take("1 kg borax 3.00, lot B, best 2026-09-01")
	assert.Contains(t, waiting(), "Borax is low")
	batch := b.begin(b.keep("Towpath", "laundry-powder", line("400 g", "borax")), api.Target{Factor: 1})
	assert.Contains(t, waiting(), "Towpath is on the bench")
	_, err = bench.New(b.house).Weigh(b.ctx, batch.Id, api.Weighing{Line: 0, Lot: "B", Grams: 400})
	require.NoError(t, err)
	done, err := bench.New(b.house).Finish(b.ctx, batch.Id, api.Finish{Jars: 2})
	require.NoError(t, err)
	assert.NotContains(t, waiting(), "on the bench")
	assert.Equal(t, "2026-09-01", done.BestBefore.Format(time.DateOnly), "the oldest lot bites")
	*b.clock = time.Date(2026, 8, 20, 9, 0, 0, 0, time.UTC)
	assert.Contains(t, waiting(), "use up Towpath by 1 Sep")
	*b.clock = time.Date(2026, 9, 20, 9, 0, 0, 0, time.UTC)
	assert.Contains(t, waiting(), "is past its date")
}

func TestAnOpenedBagBitesWhenItIsShorterLived(t *testing.T) {
	b := open(t)
	b.take("5 kg citric acid 22.00, lot CA, best 2030-01-01")
	f := b.keep("Descaler", "other", line("100 g", "citric acid"))
	first := b.begin(f, api.Target{Factor: 1})
	_, err := bench.New(b.house).Weigh(b.ctx, first.Id, api.Weighing{Line: 0, Lot: "CA", Grams: 100})
	require.NoError(t, err)
	done, err := bench.New(b.house).Finish(b.ctx, first.Id, api.Finish{Jars: 1})
	require.NoError(t, err)
	assert.Contains(t, done.BestBeforeReason, "was opened on 1 Jun 2026 and keeps 365 days open")
	assert.Equal(t, "2027-06-01", done.BestBefore.Format(time.DateOnly))
}

func TestJarsGoAndComeBack(t *testing.T) {
	b := open(t)
	b.take("1 kg borax 3.00, lot B")
	batch := b.begin(b.keep("Towpath", "laundry-powder", line("400 g", "borax")), api.Target{Containers: api.Containers{Count: 4, Each: "100 g"}})
	_, err := bench.New(b.house).Weigh(b.ctx, batch.Id, api.Weighing{Line: 0, Lot: "B", Grams: 400})
	require.NoError(t, err)
	_, err = bench.New(b.house).Finish(b.ctx, batch.Id, api.Finish{Jars: 4})
	require.NoError(t, err)
	goods := func(all bool) []api.PantryLot {
		lots, _, err := pantry.New(b.house).Pantry(b.ctx, pantry.Query{All: all})
		require.NoError(t, err)
		return lots
	}
	for _, jar := range goods(false)[0].JarList {
		gone, err := pantry.New(b.house).MoveJar(b.ctx, jar.Id, api.JarMove{Gone: true, GoneTo: "Saturday stall"})
		require.NoError(t, err)
		assert.Equal(t, "Saturday stall", gone.GoneTo)
	}
	assert.Empty(t, goods(false), "nothing is left of it")
	back := goods(true)[0].JarList[2]
	_, err = pantry.New(b.house).MoveJar(b.ctx, back.Id, api.JarMove{Gone: false})
	require.NoError(t, err)
	lot := goods(false)[0]
	assert.Equal(t, 1, lot.Left)
	assert.InDelta(t, 10, lot.UsesLeft, 0.01, "100 g at 10 g a use")
	_, err = pantry.New(b.house).MoveJar(b.ctx, uuid.New(), api.JarMove{Gone: true})
	assert.Equal(t, http.StatusNotFound, problem(t, err).Status)
}

func TestAHiddenFormulaKeepsItsBatches(t *testing.T) {
	b := open(t)
	b.take("1 kg borax 3.00, lot B")
	f := b.keep("Towpath", "laundry-powder", line("400 g", "borax"))
	batch := b.begin(f, api.Target{Factor: 1})
	require.NoError(t, crock.New(b.house).HideFormula(b.ctx, f.Id))
	away, err := crock.New(b.house).Formulas(b.ctx, true)
	require.NoError(t, err)
	require.Len(t, away, 1)
	all, err := crock.New(b.house).Formulas(b.ctx, false)
	require.NoError(t, err)
	assert.Empty(t, all)
	again, err := bench.New(b.house).Batch(b.ctx, batch.Id)
	require.NoError(t, err)
	assert.Equal(t, "Towpath", again.Name)
	_, err = bench.New(b.house).Weigh(b.ctx, batch.Id, api.Weighing{Line: 0, Lot: "B", Grams: 400})
	assert.NoError(t, err)
}

func TestWhoIsNotSignedInDoesNothing(t *testing.T) {
	b := open(t)
	nobody := context.Background()
	for what, call := range map[string]func() error{
		"shelf": func() error { _, err := shelf.New(b.house).Shelf(nobody); return err },
		"plan":  func() error { _, err := bench.New(b.house).Plan(nobody, uuid.New(), api.Target{}); return err },
		"weigh": func() error { _, err := bench.New(b.house).Weigh(nobody, uuid.New(), api.Weighing{}); return err },
		"compare": func() error {
			_, err := crock.New(b.house).Compare(nobody, &api.FormulaFile{}, &api.FormulaFile{}, crock.InWater{})
			return err
		},
		"people": func() error { _, err := people.New(b.house).People(nobody); return err },
	} {
		assert.Equal(t, "not-signed-in", problem(t, call()).Code, what)
	}
}

func TestPagesOfBatchesFollowEachOther(t *testing.T) {
	b := open(t)
	b.take("5 kg borax 3.00, lot B")
	f := b.keep("Towpath", "laundry-powder", line("10 g", "borax"))
	for range 7 {
		b.begin(f, api.Target{Factor: 1})
		*b.clock = b.clock.Add(time.Minute)
	}
	seen := map[string]bool{}
	after := ""
	for {
		page, err := bench.New(b.house).Batches(b.ctx, bench.BatchQuery{After: after, Limit: 3})
		require.NoError(t, err)
		for _, batch := range page.Batches {
			require.False(t, seen[batch.Code], "no batch stands on two pages")
			seen[batch.Code] = true
		}
		if after = page.Next; after == "" {
			break
		}
	}
	assert.Len(t, seen, 7)
	for _, bad := range []string{"nonsense", "2026-06-01", fmt.Sprintf("x~%s", uuid.New())} {
		_, err := bench.New(b.house).Batches(b.ctx, bench.BatchQuery{After: bad, Limit: 3})
		assert.Equal(t, "bad-page", problem(t, err).Code, bad)
	}
}
