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
	"keencrock/internal/station/people"
	"keencrock/internal/station/rack"
	"keencrock/internal/station/shelf"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
	"keencrock/internal/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

// The demo is what it says, whatever day it is loaded on.
func TestTheDemoIsWholeOnAnyDay(t *testing.T) {
	for _, today := range []time.Time{time.Date(2026, 11, 24, 15, 0, 0, 0, time.UTC), time.Date(2028, 3, 1, 0, 5, 0, 0, time.UTC)} {
		ctx := context.Background()
		s, err := store.Open(ctx, testdb.New(t))
		require.NoError(t, err)
		t.Cleanup(func() { s.Close() })
		require.NoError(t, s.Migrate(ctx, bench.Upgrades(tenant.New(s, time.Now))...))
		require.NoError(t, demo.Load(ctx, s, today))
		state, err := demo.Look(ctx, s)
		require.NoError(t, err)
		assert.Equal(t, demo.Loaded, state)

		house := tenant.New(s, func() time.Time { return today })
		token, session, err := people.New(house).SignIn(ctx, api.Credentials{Login: demo.Login, Password: demo.Password}, "")
		require.NoError(t, err)
		assert.Equal(t, "Lockside Works", session.Workshop.Name)
		assert.Equal(t, "268 mg/l", session.Workshop.Hardness)
		actor, _, err := people.New(house).Authenticate(ctx, token)
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
		broken, err := s.Verify(ctx)
		require.NoError(t, err)
		assert.Empty(t, broken)

		require.NoError(t, demo.Remove(ctx, s))
		empty, err := s.Empty(ctx)
		require.NoError(t, err)
		assert.True(t, empty, "reset takes all of it away")
	}
}
