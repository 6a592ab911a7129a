package testdb

import (
	"context"
	"strconv"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"
)

// Grow makes every workshop of a database as it is after many years: so many
// lots, one in ten with something left, and so many batches of ten jars each, most
// of them gone.
func Grow(t testing.TB, dsn string, lots, batches int) {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	for _, sql := range []string{
		`insert into items (workshop_id, id, kind, unit, name) select w.id, 'm' || n, 'raw', 'g', '' from workshops w, generate_series(0, 24) n`,
		`insert into lots (workshop_id, id, item, code, original, remaining, landed, currency, received)
			select w.id, gen_random_uuid(), 'm' || n % 25, 'L' || n, 1000, case when n % 10 = 0 then 500 else 0 end, 3, 'EUR', date '2020-01-01' + n % 2000 from workshops w, generate_series(1, $lots) n`,
		`insert into formulas (workshop_id, id, name, kind, lines, version, changed_at) select id, gen_random_uuid(), 'Towpath', 'laundry-powder', 1, 1, now() from workshops`,
		`insert into formula_versions (workshop_id, formula_id, version, file, person_id, at) select f.workshop_id, f.id, 1, '{}', p.id, now() from formulas f join people p on p.workshop_id = f.workshop_id`,
		`insert into items (workshop_id, id, kind, unit, name) select workshop_id, 'good-' || id, 'good', 'g', name from formulas`,
		`insert into makings (workshop_id, id, code, name, kind, formula_id, formula_version, state, person_id, made_by, assessed, planned_g, jars, each_g, cost, currency, best_before, started_at, ended_at)
			select f.workshop_id, gen_random_uuid(), 'T' || n, 'Towpath', 'laundry-powder', f.id, 1, 'finished', p.id, '{}', '{}', 1000, 10, 100, 3, 'EUR', date '2021-01-01' + n / 3, timestamptz '2020-01-01' + n * interval '6 hours', timestamptz '2020-01-01' + n * interval '6 hours'
			from formulas f join people p on p.workshop_id = f.workshop_id, generate_series(1, $batches) n`,
		`insert into lots (workshop_id, id, item, code, original, remaining, landed, currency, making_id, received, best_before)
			select workshop_id, gen_random_uuid(), 'good-' || formula_id, code, 1000, case when substr(code, 2)::int % 200 = 0 then 200 else 0 end, 3, 'EUR', id, ended_at, best_before from makings`,
		`insert into pieces (workshop_id, id, lot_id, number, original, remaining, cost, gone_on)
			select l.workshop_id, gen_random_uuid(), l.id, n, 100, 100, 0.3, case when l.remaining = 0 or n > 2 then l.received end from lots l, generate_series(1, 10) n where l.making_id is not null`,
		`insert into movements (workshop_id, lot_id, kind, quantity, currency, making_id, person_id, happened_at, recorded_at)
			select m.workshop_id, l.id, 'drawn', -1, 'EUR', m.id, m.person_id, m.ended_at, m.ended_at from makings m join lots l on l.workshop_id = m.workshop_id and l.code = 'L' || substr(m.code, 2)`,
		`insert into events (workshop_id, making_id, kind, person_id, happened_at, recorded_at) select workshop_id, id, 'finished', person_id, ended_at, ended_at from makings`,
		`analyze`,
	} {
		sql = strings.NewReplacer("$lots", strconv.Itoa(lots), "$batches", strconv.Itoa(batches)).Replace(sql)
		_, err := conn.Exec(ctx, sql)
		require.NoError(t, err, sql)
	}
}

// Again copies the newest batch of every workshop, with its events, so many times.
func Again(t testing.TB, dsn string, times int) {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	for _, sql := range []string{
		`create temp table copies as select m.*, gen_random_uuid() as new_id, n from generate_series(1, $times) n, lateral (select * from makings order by started_at desc limit 1) m`,
		`insert into makings (workshop_id, id, code, name, kind, formula_id, formula_version, state, person_id, made_by, assessed, planned_g, currency, started_at)
			select workshop_id, new_id, code || n, name, kind, formula_id, formula_version, state, person_id, made_by, assessed, planned_g, currency, started_at from copies`,
		`insert into events (workshop_id, making_id, kind, body, person_id, happened_at, recorded_at)
			select e.workshop_id, c.new_id, e.kind, e.body, e.person_id, e.happened_at, e.recorded_at from copies c join events e on e.making_id = c.id order by c.n, e.id`,
		`analyze`,
	} {
		_, err := conn.Exec(ctx, strings.ReplaceAll(sql, "$times", strconv.Itoa(times)))
		require.NoError(t, err, sql)
	}
}
