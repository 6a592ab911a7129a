package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/demo"
	"keencrock/internal/station/bench"
	"keencrock/internal/station/crock"
	"keencrock/internal/station/pantry"
	"keencrock/internal/station/people"
	"keencrock/internal/station/rack"
	"keencrock/internal/station/shelf"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
	"keencrock/internal/testdb"
)

func TestMain(m *testing.M) {
	people.PasswordCost = testdb.CheapPassword
	testdb.Main(m)
}

// The demo is what it says, whatever day it is loaded on.
func TestTheDemoIsWholeOnAnyDay(t *testing.T) {
	for _, today := range []time.Time{time.Date(2026, 11, 24, 15, 0, 0, 0, time.UTC), time.Date(2028, 3, 1, 0, 5, 0, 0, time.UTC)} {
		ctx := context.Background()
		dsn := testdb.New(t)
		require.NoError(t, store.Migrate(ctx, dsn, bench.Migration(time.Now)))
		s, err := store.Open(ctx, dsn)
		require.NoError(t, err)
		t.Cleanup(func() { s.Close() })
		require.NoError(t, demo.Load(ctx, s, today))
		state, err := demo.Look(ctx, s)
		require.NoError(t, err)
		assert.Equal(t, demo.Loaded, state)

		house := tenant.New(s, func() time.Time { return today })
		entry, err := people.New(house).SignIn(tenant.WithCaller(ctx, tenant.Caller{Local: true}), api.Credentials{Login: demo.Login, Password: demo.Password})
		require.NoError(t, err)
		assert.Equal(t, "Lockside Works", entry.Session.Workshop.Name)
		assert.Equal(t, "268 mg/l", entry.Session.Workshop.Hardness)
		actor, _, err := people.New(house).Authenticate(tenant.WithCaller(ctx, tenant.Caller{Local: true}), entry.Token)
		require.NoError(t, err)
		ctx = tenant.WithActor(ctx, actor)

		jars, err := shelf.New(house).Shelf(ctx)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, len(jars), 25)
		marks := map[api.ShelfMark]bool{}
		for _, jar := range jars {
			for _, m := range jar.Marks {
				marks[m] = true
			}
		}
		for _, m := range []api.ShelfMark{"clumped", "low", "past", "set-aside"} {
			assert.True(t, marks[m], "a jar is %s", m)
		}
		lots, err := shelf.New(house).Lots(ctx, shelf.LotQuery{WithEmpty: true, Limit: 200})
		require.NoError(t, err)
		assert.GreaterOrEqual(t, len(lots.Lots), 60)
		formulas, err := crock.New(house).Formulas(ctx, false)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, len(formulas), 12)
		kinds := map[string]bool{}
		for _, f := range formulas {
			kinds[f.Kind] = true
		}
		assert.GreaterOrEqual(t, len(kinds), 7)
		batches, err := bench.New(house).Batches(ctx, bench.BatchQuery{Limit: 200})
		require.NoError(t, err)
		assert.GreaterOrEqual(t, len(batches.Batches), 40)
		states := map[api.BatchState]int{}
		for _, b := range batches.Batches {
			states[b.State]++
			whole, err := bench.New(house).Batch(ctx, b.Id)
			require.NoError(t, err)
			for _, e := range whole.Events {
				assert.False(t, e.At.After(today), "%s: nothing is from the future", b.Code)
			}
			if b.State == "weighing" {
				assert.Equal(t, today.Format("060102"), b.Code[4:10], "what is on the bench was begun today")
			}
		}
		assert.Positive(t, states["abandoned"], "a tray cracked")
		assert.Positive(t, states["weighing"], "one is on the bench")
		assert.Positive(t, states["in-work"], "one is in the midst of a step")
		assert.GreaterOrEqual(t, states["standing"], 3, "tabs and bombs dry, Willow steeps")
		assert.Positive(t, states["packing"], "one is packed in part")
		standing, err := rack.New(house).Standing(ctx)
		require.NoError(t, err)
		assert.Len(t, standing.Timers, 1)
		late := map[string]bool{}
		for _, thing := range standing.Standing {
			for _, d := range thing.Due {
				if d.Late {
					late[d.What] = true
				}
			}
		}
		assert.True(t, late["stir"], "a stir is late")
		goodsGoOut(t, ctx, house)
		broken, err := s.Verify(ctx)
		require.NoError(t, err)
		assert.Empty(t, broken)

		require.NoError(t, demo.Remove(ctx, s))
		empty, err := s.Empty(ctx)
		require.NoError(t, err)
		assert.True(t, empty, "reset takes all of it away")
	}
}

// goodsGoOut holds that every good has a label that fits, doses and cards; one fails its
// fill, and one does not fit a small lid.
func goodsGoOut(t *testing.T, ctx context.Context, house *tenant.House) {
	t.Helper()
	p := pantry.New(house)
	goods, _, err := p.Pantry(ctx, pantry.Query{Limit: 200})
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(goods), 7)
	failed, printed, tooLong := 0, 0, 0
	for _, g := range goods {
		for _, form := range []string{"pouch", "front", "tag"} {
			view, err := p.ViewLabel(ctx, g.Batch, api.LabelWish{Form: form, Languages: []string{"en", "de"}, Origin: "http://127.0.0.1:8420"})
			require.NoError(t, err, g.Name)
			for _, m := range view.Misfits {
				assert.False(t, m.Grave, "%s, %s: %s", g.Name, form, m.Says)
			}
		}
		lid, err := p.ViewLabel(ctx, g.Batch, api.LabelWish{Form: "lid", WidthMm: 38, HeightMm: 38, Languages: []string{"en"}, Origin: "https://works.example"})
		require.NoError(t, err)
		for _, m := range lid.Misfits {
			if m.Grave {
				tooLong++
				break
			}
		}
		doses, err := p.Doses(ctx, g.Batch, pantry.DoseQuery{})
		require.NoError(t, err, g.Name)
		require.NotEmpty(t, doses.Rows, g.Name)
		assert.NotEmpty(t, doses.Rows[0].Measure, g.Name)
		sheet, err := p.Sheet(ctx, g.Batch)
		require.NoError(t, err)
		if g.Kind != "toilet-bomb" && g.Kind != "dish-gel" {
			assert.NotEmpty(t, sheet.Cards, "%s: %s", g.Name, g.Kind)
		}
		checks, err := p.FillChecks(ctx, g.Batch)
		require.NoError(t, err)
		for _, c := range checks {
			if !c.Passes {
				failed++
			}
		}
		prints, err := p.Prints(ctx, g.Batch)
		require.NoError(t, err)
		printed += len(prints)
	}
	assert.Equal(t, 1, failed, "one fails its fill")
	assert.Equal(t, 4, printed)
	assert.Positive(t, tooLong, "one does not fit a lid of 38 mm")
	chores, err := p.Chores(ctx)
	require.NoError(t, err)
	require.Len(t, chores, 3)
	assert.Equal(t, api.Late, chores[0].State)
}
