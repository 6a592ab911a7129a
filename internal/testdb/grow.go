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
		`create temp table grown as select w.id as workshop_id, gen_random_uuid() as id, (select p.id from people p where p.workshop_id = w.id order by created_at, id limit 1) as person_id from workshops w`,
		`insert into formulas (workshop_id, id, name, kind, lines, version, changed_at) select workshop_id, id, 'Towpath', 'laundry-powder', 1, 1, now() from grown`,
		`insert into formula_versions (workshop_id, formula_id, version, file, person_id, at) select workshop_id, id, 1, '{"format": "keencrock/formula", "version": 3, "name": "Towpath", "kind": "laundry-powder", "lines": []}', person_id, now() from grown`,
		`insert into items (workshop_id, id, kind, unit, name) select workshop_id, 'good-' || id, 'good', 'g', 'Towpath' from grown`,
		`insert into makings (workshop_id, id, code, name, kind, formula_id, formula_version, state, person_id, made_by, assessed, planned_g, jars, each_g, cost, currency, best_before, started_at, ended_at)
			select f.workshop_id, gen_random_uuid(), 'T' || n, 'Towpath', 'laundry-powder', f.id, 1, 'finished', f.person_id, '{}', '{}', 1000, 10, 100, 3, 'EUR', date '2021-01-01' + n / 3, timestamptz '2020-01-01' + n * interval '6 hours', timestamptz '2020-01-01' + n * interval '6 hours'
			from grown f, generate_series(1, $batches) n`,
		`insert into lots (workshop_id, id, item, code, original, remaining, landed, currency, making_id, received, best_before)
			select m.workshop_id, gen_random_uuid(), 'good-' || formula_id, code, 1000, case when substr(code, 2)::int % 200 = 0 then 200 else 0 end, 3, 'EUR', m.id, ended_at, best_before from makings m join grown g on g.workshop_id = m.workshop_id and g.id = m.formula_id`,
		`insert into pieces (workshop_id, id, lot_id, number, original, remaining, cost, gone_on)
			select l.workshop_id, gen_random_uuid(), l.id, n, 100, 100, 0.3, case when l.remaining = 0 or n > 2 then l.received end from lots l join grown g on l.item = 'good-' || g.id, generate_series(1, 10) n where l.making_id is not null`,
		`insert into movements (workshop_id, lot_id, kind, quantity, currency, making_id, person_id, happened_at, recorded_at)
			select m.workshop_id, l.id, 'drawn', -1, 'EUR', m.id, m.person_id, m.ended_at, m.ended_at from makings m join grown g on g.id = m.formula_id join lots l on l.workshop_id = m.workshop_id and l.code = 'L' || substr(m.code, 2)`,
		`insert into movements (workshop_id, lot_id, kind, quantity, currency, person_id, happened_at, recorded_at)
			select l.workshop_id, l.id, case when l.making_id is null then 'received' else 'made' end, l.original, 'EUR', g.person_id, l.received, l.received from lots l join grown g on g.workshop_id = l.workshop_id where l.code ~ '^[LT][0-9]+$'`,
		`insert into movements (workshop_id, lot_id, kind, quantity, currency, person_id, happened_at, recorded_at)
			select l.workshop_id, l.id, case when l.making_id is null then 'corrected' else 'gone' end, l.remaining - sum(m.quantity), 'EUR', g.person_id, l.received, l.received
			from lots l join grown g on g.workshop_id = l.workshop_id join movements m on m.workshop_id = l.workshop_id and m.lot_id = l.id where l.code ~ '^[LT][0-9]+$'
			group by l.workshop_id, l.id, g.person_id having l.remaining <> sum(m.quantity)`,
		`insert into events (workshop_id, making_id, kind, person_id, happened_at, recorded_at) select m.workshop_id, m.id, 'finished', m.person_id, ended_at, ended_at from makings m join grown g on g.id = m.formula_id`,
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
