package store_test

import (
	"context"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a table that is spread by its workshop may not have: a key, or a reference, that
// does not hold the workshop it is of. The few that are asked before anyone is known are
// named; they stay together.
func TestEachKeyAndReferenceHoldsItsWorkshop(t *testing.T) {
	_, dsn := open(t)
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	asked := func(sql string) []string {
		rows, err := conn.Query(ctx, sql)
		require.NoError(t, err)
		found, err := pgx.CollectRows(rows, pgx.RowTo[string])
		require.NoError(t, err)
		return found
	}
	const ofWorkshops = `(select attrelid from pg_attribute where attname = 'workshop_id' and not attisdropped)`
	tables := asked(`select relname from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace and oid in ` + ofWorkshops)
	assert.Greater(t, len(tables), 20)
	keys := asked(`select c.relname || ': ' || i.relname from pg_index x join pg_class c on c.oid = x.indrelid join pg_class i on i.oid = x.indexrelid
		where x.indisunique and c.relkind = 'r' and c.relnamespace = 'public'::regnamespace and c.oid in ` + ofWorkshops + `
			and not exists (select 1 from pg_attribute a where a.attrelid = x.indrelid and a.attname = 'workshop_id' and a.attnum = any (x.indkey)) order by 1`)
	assert.Equal(t, []string{"people: people_login", "sessions: sessions_id", "sessions: sessions_pkey"}, keys)
	references := asked(`select c.relname || ' to ' || f.relname from pg_constraint k join pg_class c on c.oid = k.conrelid join pg_class f on f.oid = k.confrelid
		where k.contype = 'f' and c.relnamespace = 'public'::regnamespace
			and not exists (select 1 from pg_attribute a where a.attrelid = k.conrelid and a.attname = 'workshop_id' and a.attnum = any (k.conkey)) order by 1`)
	assert.Empty(t, references)
}
