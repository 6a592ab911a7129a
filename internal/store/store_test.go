package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/stock"
	"keencrock/internal/store"
	"keencrock/internal/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

var now = time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC)

func open(t *testing.T) (*store.Store, string) {
	t.Helper()
	dsn := testdb.New(t)
	require.NoError(t, store.Migrate(context.Background(), dsn, store.Migration{}))
	s, err := store.Open(context.Background(), dsn)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	return s, dsn
}

// founded makes a workshop and returns its context and owner.
func founded(t *testing.T, s *store.Store, login string) (context.Context, uuid.UUID) {
	t.Helper()
	w := &store.Workshop{ID: store.NewID(), Name: login, Measures: "us", Currency: "EUR", ScaleStepG: 1, ScaleCapacityG: 5000, Version: 1, CreatedAt: now}
	p := &store.Person{ID: store.NewID(), Login: login, Name: login, PasswordHash: "x", Role: "owner", CreatedAt: now}
	require.NoError(t, s.CreateWorkshop(context.Background(), w, p))
	return store.WithWorkshop(context.Background(), w.ID), p.ID
}

func addLot(t *testing.T, s *store.Store, ctx context.Context, by uuid.UUID, code string) *stock.Lot {
	t.Helper()
	l := &stock.Lot{ID: stock.ID(store.NewID()), Code: code, Item: "borax", Supplier: "Quay Press", Original: 1000, Remaining: 1000, Landed: decimal.RequireFromString("3.00"), Currency: "EUR", Received: now}
	require.NoError(t, s.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.PutItems(stock.Item{ID: "borax", Kind: stock.Raw, Unit: stock.InGrams}); err != nil {
			return err
		}
		return tx.AddLots([]stock.Lot{*l}, by, now)
	}))
	return l
}

// Of a table that PostgreSQL never looked at its planner takes for granted that it holds next to nothing.
func TestTablesAreSurveyedWhenTheyHoldSomething(t *testing.T) {
	s, dsn := open(t)
	ctx, by := founded(t, s, "otter")
	addLot(t, s, ctx, by, "L1")
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(context.Background())
	known := func() (rows float64) {
		require.NoError(t, conn.QueryRow(ctx, "select reltuples from pg_class where oid = 'lots'::regclass").Scan(&rows))
		return rows
	}
	assert.LessOrEqual(t, known(), 0.0)
	require.NoError(t, store.Migrate(ctx, dsn, store.Migration{}), "as every start does")
	assert.Equal(t, 1.0, known())
	addLot(t, s, ctx, by, "L2")
	require.NoError(t, store.Survey(ctx, dsn))
	assert.Equal(t, 1.0, known(), "what is known is left to PostgreSQL itself")
}

func TestMigratingTwiceAtOnceIsSafe(t *testing.T) {
	dsn := testdb.New(t)
	errs := make(chan error, 3)
	for range 3 {
		go func() { errs <- store.Migrate(context.Background(), dsn, store.Migration{}) }()
	}
	for range 3 {
		assert.NoError(t, <-errs)
	}
}

// Every kind of statement is confined, and refused where no workshop is named.
func TestEveryStatementIsConfinedToAWorkshop(t *testing.T) {
	s, _ := open(t)
	mine, by := founded(t, s, "mine")
	theirs, _ := founded(t, s, "theirs")
	lot := addLot(t, s, mine, by, "B1")

	_, err := s.Read(theirs).Lot(lot.ID)
	assert.ErrorIs(t, err, store.ErrNotFound)
	found, err := s.Read(theirs).LotsByCode("B1")
	require.NoError(t, err)
	assert.Empty(t, found)
	changed := *lot
	changed.Clumped = true
	require.NoError(t, s.Read(theirs).SaveLotMarks(&changed), "changes nothing")
	still, err := s.Read(mine).Lot(lot.ID)
	require.NoError(t, err)
	assert.False(t, still.Clumped)
	err = s.Tx(theirs, func(tx *store.Tx) error {
		return tx.Move(&stock.Movement{Lot: lot.ID, Kind: stock.Discarded, Quantity: -1, At: now}, by)
	})
	require.NoError(t, err)
	still, err = s.Read(mine).Lot(lot.ID)
	require.NoError(t, err)
	assert.Equal(t, 1000.0, still.Remaining, "a lot of another workshop is none to move")

	nowhere := context.Background()
	for what, call := range map[string]func() error{
		"read":  func() error { _, err := s.Read(nowhere).Stock(); return err },
		"raw":   func() error { _, err := s.Read(nowhere).LastPrices("EUR"); return err },
		"write": func() error { return s.Read(nowhere).SaveLotMarks(lot) },
		"add":   func() error { return s.Read(nowhere).AddLots([]stock.Lot{{ID: stock.ID(store.NewID())}}, by, now) },
		"tell":  func() error { return s.Read(nowhere).Announce("shelf", uuid.UUID(lot.ID)) },
	} {
		assert.ErrorIs(t, call(), store.ErrNoWorkshop, what)
	}
}

func TestMovingStockBelowNothingIsRefused(t *testing.T) {
	s, _ := open(t)
	ctx, by := founded(t, s, "marl")
	lot := addLot(t, s, ctx, by, "B1")
	err := s.Tx(ctx, func(tx *store.Tx) error {
		return tx.Move(&stock.Movement{Lot: lot.ID, Kind: stock.Discarded, Quantity: -1000.5, At: now}, by)
	})
	assert.Error(t, err)
	l, err := s.Read(ctx).Lot(lot.ID)
	require.NoError(t, err)
	assert.Equal(t, 1000.0, l.Remaining, "the whole transaction was taken back")
	moves, err := s.Read(ctx).Movements(lot.ID)
	require.NoError(t, err)
	assert.Len(t, moves, 1)
}

// Lists that grow use an index for their order: no sort of all, no full scan. It
// is the statements that the store runs which are explained.
func TestGrowingListsUseTheirIndex(t *testing.T) {
	s, dsn := open(t)
	ctx, by := founded(t, s, "marl")
	lot := addLot(t, s, ctx, by, "B1")
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	testdb.Grow(t, dsn, 8000, 4000)
	_, err = conn.Exec(ctx, "select set_config('keencrock.workshop', (select id::text from workshops), false)")
	require.NoError(t, err)
	_, err = conn.Exec(ctx, "set role "+store.ApplicationRole)
	require.NoError(t, err)
	var batch uuid.UUID
	require.NoError(t, conn.QueryRow(ctx, "select id from makings where state = 'finished' limit 1").Scan(&batch))
	for name, run := range map[string]func(*store.Tx) error{
		"lots":             func(tx *store.Tx) error { _, err := tx.Lots(store.LotQuery{Limit: 50}); return err },
		"lots of one item": func(tx *store.Tx) error { _, err := tx.Lots(store.LotQuery{Item: "m7", Limit: 50}); return err },
		"a page further": func(tx *store.Tx) error {
			_, err := tx.Lots(store.LotQuery{AfterReceived: now, AfterID: store.NewID(), WithEmpty: true, Limit: 50})
			return err
		},
		"stock of two": func(tx *store.Tx) error { _, err := tx.Stock("m7", "m8"); return err },
		"a code":       func(tx *store.Tx) error { _, err := tx.LotsByCode("l77"); return err },
		"movements":    func(tx *store.Tx) error { _, err := tx.Movements(lot.ID); return err },
		"drawn from":   func(tx *store.Tx) error { _, err := tx.DrawnFromLots(lot.ID); return err },
		"drawn by":     func(tx *store.Tx) error { _, err := tx.DrawnByMakings(stock.ID(batch)); return err },
		"batches":      func(tx *store.Tx) error { _, err := tx.Makings(store.MakingQuery{Limit: 50}); return err },
		"open batches": func(tx *store.Tx) error {
			_, err := tx.Makings(store.MakingQuery{State: "weighing", Limit: 50})
			return err
		},
		"pantry":          func(tx *store.Tx) error { _, err := tx.FinishedMakings(store.Page{Limit: 50}); return err },
		"shelf":           func(tx *store.Tx) error { _, err := tx.ShelfStock(); return err },
		"last prices":     func(tx *store.Tx) error { _, err := tx.LastPrices("EUR"); return err },
		"goods left":      func(tx *store.Tx) error { _, err := tx.GoodsLeft(store.Page{Limit: 50}); return err },
		"dated goods":     func(tx *store.Tx) error { _, err := tx.DatedGoods(now, 12); return err },
		"events":          func(tx *store.Tx) error { _, err := tx.Events(batch); return err },
		"pieces":          func(tx *store.Tx) error { _, err := tx.Pieces(lot.ID); return err },
		"lots of makings": func(tx *store.Tx) error { _, err := tx.LotsOfMakings(stock.ID(batch)); return err },
	} {
		statements, err := s.Read(ctx).Statements(run)
		require.NoError(t, err, name)
		require.NotEmpty(t, statements, name)
		for _, statement := range statements {
			var plan []byte
			require.NoError(t, conn.QueryRow(ctx, "explain (format json) "+statement).Scan(&plan), "%s: %s", name, statement)
			for _, grown := range []string{"lots", "makings", "pieces", "movements", "events"} {
				assert.NotRegexp(t, `"Node Type": "Seq Scan",[^}]*"Relation Name": "`+grown+`"`, string(plan), "%s: %s", name, statement)
			}
		}
	}
}

// What does not add up is found, and said in words.
func TestVerifyFindsWhatDoesNotAddUp(t *testing.T) {
	s, dsn := open(t)
	ctx, by := founded(t, s, "marl")
	addLot(t, s, ctx, by, "B1")
	broken, err := s.Verify(ctx)
	require.NoError(t, err)
	assert.Empty(t, broken)
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, "update lots set remaining = 999.999")
	require.NoError(t, err)
	broken, err = s.Verify(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"marl: lot B1 of borax says 999.999 are left, its movements sum to 1000.000"}, broken)
}

// A demo is taken away with all its rows, of tables that are added later too.
func TestARemovedDemoLeavesNoRowAnywhere(t *testing.T) {
	s, dsn := open(t)
	ctx, by := founded(t, s, "marl")
	addLot(t, s, ctx, by, "B1")
	require.NoError(t, s.Tx(ctx, func(tx *store.Tx) error {
		return tx.AddCustomMaterial(&store.OwnMaterial{ID: "own-clay", Said: []byte(`{"name": "Clay"}`), Version: 1})
	}))
	conn, err := pgx.Connect(context.Background(), dsn)
	require.NoError(t, err)
	defer conn.Close(context.Background())
	var id uuid.UUID
	require.NoError(t, conn.QueryRow(context.Background(), "select id from workshops").Scan(&id))
	assert.ErrorContains(t, s.RemoveDemo(context.Background(), id), "only a demo can be removed")
	_, err = conn.Exec(context.Background(), "update workshops set demo = true")
	require.NoError(t, err)
	require.NoError(t, s.RemoveDemo(context.Background(), id))
	empty, err := s.Empty(context.Background())
	require.NoError(t, err)
	assert.True(t, empty)
}

// What an older version told by a note alone is known: gifts, and what was kept back of
// which batch. A price that nobody noted stays unknown.
func TestGiftsAndWhatWasKeptBackAreKnownAgain(t *testing.T) {
	ctx := context.Background()
	s, dsn := open(t)
	founded(t, s, "marl")
	testdb.Grow(t, dsn, 4, 2)
	owner, err := store.OpenAsOwner(ctx, dsn)
	require.NoError(t, err)
	defer owner.Close()
	require.NoError(t, owner.To(ctx, 17))
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, `insert into lots (workshop_id, id, item, code, original, remaining, landed, currency, received, note, rounds)
		select w.id, gen_random_uuid(), 'm1', v.code, 10, 10, v.landed, 'EUR', date '2026-01-01', v.note, v.rounds from workshops w,
		(values ('G', 0, 'a gift', 0), ('U', 0, '', 0), ('P', 2, 'a gift', 0), ('T1-1', 0, 'from batch T1, freezer', 1), ('T2-1', 0, 'from batch T2,', 2), ('X-1', 0, 'from batch T1, bought', 1)) v(code, landed, note, rounds)`)
	require.NoError(t, err)
	require.NoError(t, owner.To(ctx, 18))
	rows, err := conn.Query(ctx, `select l.code || ' ' || l.free || ' ' || coalesce(m.code, '-') from lots l left join makings m on m.workshop_id = l.workshop_id and m.id = l.kept_from
		where l.code in ('G', 'U', 'P', 'T1-1', 'T2-1', 'X-1') order by l.code`)
	require.NoError(t, err)
	found, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	assert.Equal(t, []string{"G true -", "P false -", "T1-1 true T1", "T2-1 true T2", "U false -", "X-1 false -"}, found)
}
