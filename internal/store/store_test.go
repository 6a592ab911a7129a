package store_test

import (
	"context"
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/store"
	"keencrock/internal/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

var now = time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC)

func open(t *testing.T) (*store.Store, string) {
	t.Helper()
	dsn := testdb.New(t)
	s, err := store.Open(context.Background(), dsn)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	require.NoError(t, s.Migrate(context.Background()))
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

func addLot(t *testing.T, s *store.Store, ctx context.Context, by uuid.UUID, code string) *store.Lot {
	t.Helper()
	l := &store.Lot{ID: store.NewID(), Code: code, Material: "borax", OriginalG: 1000, RemainingG: 1000, Landed: decimal.RequireFromString("3.00"), Received: now}
	require.NoError(t, s.Tx(ctx, func(tx *store.Tx) error { return tx.AddLots([]store.Lot{*l}, by, now) }))
	return l
}

func TestMigratingTwiceAtOnceIsSafe(t *testing.T) {
	dsn := testdb.New(t)
	errs := make(chan error, 3)
	for range 3 {
		go func() {
			s, err := store.Open(context.Background(), dsn)
			if err == nil {
				defer s.Close()
				err = s.Migrate(context.Background())
			}
			errs <- err
		}()
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
	changed.Note = "theirs now"
	require.NoError(t, s.Read(theirs).SaveLotMarks(&changed), "changes nothing")
	still, err := s.Read(mine).Lot(lot.ID)
	require.NoError(t, err)
	assert.Empty(t, still.Note)
	err = s.Tx(theirs, func(tx *store.Tx) error {
		return tx.Move(&store.Movement{LotID: lot.ID, Kind: "discarded", Grams: -1, PersonID: by, At: now})
	})
	assert.Error(t, err, "a movement of another workshop's lot breaks a foreign key")

	nowhere := context.Background()
	for what, call := range map[string]func() error{
		"read":  func() error { _, err := s.Read(nowhere).Stock(); return err },
		"raw":   func() error { _, err := s.Read(nowhere).LastPrices(); return err },
		"write": func() error { return s.Read(nowhere).SaveLotMarks(lot) },
		"add":   func() error { return s.Read(nowhere).AddLots([]store.Lot{{ID: store.NewID()}}, by, now) },
		"tell":  func() error { return s.Read(nowhere).Announce("shelf", lot.ID) },
	} {
		assert.ErrorIs(t, call(), store.ErrNoWorkshop, what)
	}
}

func TestWhatHasHappenedCannotBeChanged(t *testing.T) {
	s, dsn := open(t)
	ctx, by := founded(t, s, "marl")
	addLot(t, s, ctx, by, "B1")
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	for _, statement := range []string{"update stock_movements set grams = 1", "delete from stock_movements"} {
		_, err := conn.Exec(ctx, statement)
		assert.ErrorContains(t, err, "append-only", statement)
	}
}

func TestMovingStockBelowNothingIsRefused(t *testing.T) {
	s, _ := open(t)
	ctx, by := founded(t, s, "marl")
	lot := addLot(t, s, ctx, by, "B1")
	err := s.Tx(ctx, func(tx *store.Tx) error {
		return tx.Move(&store.Movement{LotID: lot.ID, Kind: "discarded", Grams: -1000.5, PersonID: by, At: now})
	})
	assert.Error(t, err)
	l, err := s.Read(ctx).Lot(lot.ID)
	require.NoError(t, err)
	assert.Equal(t, 1000.0, l.RemainingG, "the whole transaction was taken back")
	moves, err := s.Read(ctx).Movements(lot.ID)
	require.NoError(t, err)
	assert.Len(t, moves, 1)
}

// Lists that grow use an index for their order: no sort, no full scan.
func TestGrowingListsUseTheirIndex(t *testing.T) {
	s, dsn := open(t)
	ctx, by := founded(t, s, "marl")
	lot := addLot(t, s, ctx, by, "B1")
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	l, err := s.Read(ctx).Lot(lot.ID)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, `insert into lots (id, workshop_id, code, material, original_g, remaining_g, landed, received)
		select gen_random_uuid(), $1, 'L' || n, 'm' || n % 25, 1000, 500, 3, date '2020-01-01' + n % 2000 from generate_series(1, 20000) n`, l.WorkshopID)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, "analyze lots")
	require.NoError(t, err)
	for name, c := range map[string]struct{ sql, index string }{
		"all":             {"select * from lots where workshop_id = $1 and remaining_g > 0 order by received desc, id desc limit 50", "lots_newest"},
		"of one material": {"select * from lots where workshop_id = $1 and material = 'm7' order by received desc, id desc limit 50", "lots_newest_of_material"},
		"a page further":  {"select * from lots where workshop_id = $1 and (received, id) < (date '2024-01-01', gen_random_uuid()) order by received desc, id desc limit 50", "lots_newest"},
	} {
		var plan []byte
		require.NoError(t, conn.QueryRow(ctx, "explain (format json) "+c.sql, l.WorkshopID).Scan(&plan))
		assert.Contains(t, string(plan), fmt.Sprintf("%q", c.index), name)
		assert.NotContains(t, string(plan), "Seq Scan", name)
		assert.True(t, json.Valid(plan))
	}
}

// A table that is added with rows of workshops is taken away with them.
func TestADeletedWorkshopLeavesNoRowAnywhere(t *testing.T) {
	s, dsn := open(t)
	ctx, by := founded(t, s, "marl")
	addLot(t, s, ctx, by, "B1")
	require.NoError(t, s.Tx(ctx, func(tx *store.Tx) error {
		return tx.AddOwnMaterial(&store.OwnMaterial{ID: "own-clay", Said: []byte(`{"name": "Clay"}`), Version: 1})
	}))
	conn, err := pgx.Connect(context.Background(), dsn)
	require.NoError(t, err)
	defer conn.Close(context.Background())
	rows, err := conn.Query(context.Background(), "select table_name from information_schema.columns where column_name = 'workshop_id' and table_schema = 'public'")
	require.NoError(t, err)
	tables, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	assert.ElementsMatch(t, tables, store.OwnedTables)

	var id uuid.UUID
	require.NoError(t, conn.QueryRow(context.Background(), "select id from workshops").Scan(&id))
	require.NoError(t, s.DeleteWorkshop(context.Background(), id))
	empty, err := s.Empty(context.Background())
	require.NoError(t, err)
	assert.True(t, empty)
}
