package web_test

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"os"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"keencrock/api"
)

// years is a workshop of 10,000 batches in the year of the tests, each of ten jars, nine of
// them sold: 110,000 movements beside the drawings.
func years(t testing.TB) *shop {
	s := opened(t, 4)
	s.price("4.00")
	conn, err := pgx.Connect(t.Context(), s.house.dsn)
	require.NoError(t, err)
	defer conn.Close(context.Background())
	for _, sql := range []string{
		`insert into parties (workshop_id, id, name, kind) select id, gen_random_uuid(), 'outlet ' || n, 'outlet' from workshops, generate_series(1, 20) n`,
		`insert into formulas (workshop_id, id, name, kind, school, lines, version, changed_at)
			select f.workshop_id, gen_random_uuid(), 'Good ' || n, f.kind, '', 1, 1, f.changed_at from formulas f, generate_series(1, 30) n`,
		`insert into formula_versions (workshop_id, formula_id, version, file, person_id, at)
			select f.workshop_id, f.id, 1, v.file, v.person_id, v.at from formulas f, formula_versions v where f.name like 'Good %'`,
		`insert into items (workshop_id, id, kind, unit, name) select workshop_id, 'good-' || id, 'good', 'g', name from formulas where name like 'Good %'`,
		`insert into makings (workshop_id, id, code, name, kind, formula_id, formula_version, state, person_id, made_by, assessed, planned_g, jars, each_g, cost, currency, started_at, ended_at, hands_min, heat_min)
			select m.workshop_id, gen_random_uuid(), 'L-' || n, f.name, m.kind, f.id, 1, 'finished', m.person_id, m.made_by, m.assessed, 1000, 10, 100, 6, m.currency,
				timestamptz '2026-01-01' + n * interval '20 minutes', timestamptz '2026-01-01 01:00' + n * interval '20 minutes', 30, 0
			from makings m, generate_series(1, 10000) n join lateral (select f.* from formulas f where f.name = 'Good ' || (1 + n % 30)) f on true where m.code not like 'L-%'`,
		`insert into lots (workshop_id, id, item, code, original, remaining, landed, currency, making_id, received)
			select workshop_id, gen_random_uuid(), 'good-' || formula_id, code, 1000, 100, 6, currency, id, ended_at::date from makings where code like 'L-%'`,
		`insert into movements (workshop_id, lot_id, kind, quantity, cost, currency, making_id, person_id, happened_at, recorded_at)
			select l.workshop_id, l.id, 'made', 1000, 6, l.currency, l.making_id, m.person_id, m.ended_at, m.ended_at from lots l join makings m on m.id = l.making_id and m.code like 'L-%'`,
		`insert into pieces (workshop_id, id, lot_id, number, original, remaining, cost, gone_on, gone_to)
			select l.workshop_id, gen_random_uuid(), l.id, n, 100, 100, 0.60, case when n < 10 then l.received end, case when n < 10 then 'outlet ' || (1 + n % 20) else '' end from lots l, generate_series(1, 10) n where l.code like 'L-%'`,
		`insert into movements (workshop_id, lot_id, piece_id, kind, quantity, cost, currency, party_id, price, price_currency, person_id, happened_at, recorded_at)
			select p.workshop_id, p.lot_id, p.id, 'sold', -100, 0.60, l.currency, x.id, 4, l.currency, m.person_id, m.ended_at, m.ended_at
			from pieces p join lots l on l.id = p.lot_id join makings m on m.id = l.making_id join parties x on x.name = p.gone_to where l.code like 'L-%' and p.gone_on is not null`,
		`insert into movements (workshop_id, lot_id, kind, quantity, cost, currency, making_id, line, person_id, happened_at, recorded_at)
			select v.workshop_id, v.lot_id, 'drawn', -0.001, 0, v.currency, m.id, 0, m.person_id, m.started_at, m.started_at from makings m, (select * from movements where kind = 'received' limit 1) v where m.code like 'L-%'`,
		`analyze`,
	} {
		_, err := conn.Exec(t.Context(), sql)
		require.NoError(t, err, sql)
	}
	return s
}

// BenchmarkALargeYear tells how long the ledger of a large workshop takes over HTTP.
func BenchmarkALargeYear(b *testing.B) {
	if os.Getenv("KEEN_CROCK_LARGE") == "" {
		b.Skip("set KEEN_CROCK_LARGE to measure a workshop of 10,000 batches")
	}
	s := years(b)
	for name, path := range map[string]string{"year": "/api/ledger/year", "goods": "/api/ledger/goods", "stock": "/api/ledger/stock", "acts": "/api/acts", "outlets": "/api/outlets", "batch": "/api/ledger/batches/" + s.batch.Id.String()} {
		b.Run(name, func(b *testing.B) {
			took := time.Duration(0)
			for b.Loop() {
				took += s.get(path).gives(http.StatusOK, nil).took // without what the test itself does
			}
			b.ReportMetric(float64(took.Milliseconds())/float64(b.N), "ms-asked")
		})
	}
	b.Run("xlsx", func(b *testing.B) {
		for b.Loop() {
			a := s.get("/api/ledger/year/file").gives(http.StatusOK, nil)
			f, err := excelize.OpenReader(bytes.NewReader(a.body))
			require.NoError(b, err)
			require.NoError(b, f.Close())
		}
	})
}

// BenchmarkSalesOfASheet brings in 250 sales, as many as the page sends at once, of 500 jars in
// each of four batches.
func BenchmarkSalesOfASheet(b *testing.B) {
	s := opened(b, 500)
	s.price("4.00")
	for range 3 {
		s.packed(500)
	}
	rows := api.ActRows{Take: "try"}
	for i := range 250 {
		rows.Rows = append(rows.Rows, api.ActRow{Row: i + 2, Good: "Towpath", Jars: "1", To: fmt.Sprintf("guest %d", i%50)})
	}
	for b.Loop() {
		var taken api.RowsTaken
		s.post("/api/acts/many", rows).gives(http.StatusOK, &taken)
		require.Equal(b, len(rows.Rows), taken.Taken)
	}
}
