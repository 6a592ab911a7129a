package backup_test

import (
	"archive/zip"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/csv"
	"encoding/hex"
	"encoding/json"
	"io"
	"math/rand/v2"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/stock"
	"keencrock/internal/backup"
	"keencrock/internal/exchange/archive"
	"keencrock/internal/store"
	"keencrock/internal/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

var (
	ctx = context.Background()
	now = time.Date(2026, 11, 20, 9, 0, 0, 0, time.UTC)
)

// open is a migrated database and its address.
func open(t *testing.T) (*store.Store, string) {
	t.Helper()
	dsn := testdb.Prepared(t, "migrated", func(dsn string) error { return store.Migrate(ctx, dsn, store.Migration{}) })
	return reopen(t, dsn), dsn
}

func reopen(t *testing.T, dsn string) *store.Store {
	t.Helper()
	s, err := store.Open(ctx, dsn)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	return s
}

// founded makes a workshop and returns its context and owner.
func founded(t *testing.T, s *store.Store, login string) (context.Context, uuid.UUID) {
	t.Helper()
	w := &store.Workshop{ID: store.NewID(), Name: login + "'s, \"the\" Works\nof Ölmühle", Measures: "us", Currency: "EUR", ScaleStepG: 1, ScaleCapacityG: 5000, Version: 1, CreatedAt: now}
	p := &store.Person{ID: store.NewID(), Login: login, Name: login, PasswordHash: "secret of " + login, Role: "owner", CreatedAt: now}
	require.NoError(t, s.CreateWorkshop(ctx, w, p))
	return store.WithWorkshop(ctx, w.ID), p.ID
}

// full is a database of two workshops with rows in most tables.
func full(t *testing.T) (*store.Store, string) {
	t.Helper()
	s, dsn := open(t)
	mine, by := founded(t, s, "marl")
	founded(t, s, "quay")
	testdb.Grow(t, dsn, 60, 40)
	lot := stock.Lot{ID: stock.ID(store.NewID()), Code: "M-1", Item: "m1", Original: 10, Remaining: 10, Currency: "EUR", Received: now}
	require.NoError(t, s.Tx(mine, func(tx *store.Tx) error {
		if err := tx.AddLots([]stock.Lot{lot}, by, now); err != nil {
			return err
		}
		// a lot and its measurement name each other
		return tx.MeasureLot(lot.ID, &stock.Measured{PH: 8.4, With: "meter"}, by, now)
	}))
	return s, dsn
}

func folder(t *testing.T) backup.Folder { return backup.Folder{Path: t.TempDir(), Version: "test"} }

func taken(t *testing.T, s *store.Store) string {
	t.Helper()
	path, err := folder(t).Take(ctx, s, "keencrock", now)
	require.NoError(t, err)
	return path
}

// tables are the tables of an archive with their rows and checksums.
func tables(t *testing.T, path string) map[string]archive.Table {
	t.Helper()
	a, err := archive.Open(path)
	require.NoError(t, err)
	defer a.Close()
	of := map[string]archive.Table{}
	for _, table := range a.Manifest.Tables {
		of[table.Name] = table
	}
	return of
}

func TestWhatIsRestoredIsWhatWasBackedUpInEveryTable(t *testing.T) {
	s, _ := full(t)
	path := taken(t, s)
	before := tables(t, path)
	assert.Greater(t, before["events"].Rows, int64(10))
	assert.NotContains(t, before, "sessions")

	elsewhere := testdb.New(t) // with no tables at all
	_, err := folder(t).Restore(ctx, elsewhere, path, store.Migration{}, store.Taking{}, now)
	require.NoError(t, err)
	restored := reopen(t, elsewhere)
	assert.Equal(t, before, tables(t, taken(t, restored)))

	// work goes on in it, and its numbered rows after those that are there
	p, err := restored.PersonByLogin(ctx, "marl")
	require.NoError(t, err)
	mine := store.WithWorkshop(ctx, p.WorkshopID)
	require.NoError(t, restored.Tx(mine, func(tx *store.Tx) error {
		return tx.AddLots([]stock.Lot{{ID: stock.ID(store.NewID()), Code: "N-1", Item: "m1", Original: 5, Remaining: 5, Currency: "EUR", Received: now}}, p.ID, now)
	}))
	broken, err := restored.Verify(ctx)
	require.NoError(t, err)
	assert.NotContains(t, strings.Join(broken, "\n"), "N-1")
}

func TestADatabaseIsReplacedOnlyWhenThatIsSaidAndIsKeptFirst(t *testing.T) {
	s, _ := full(t)
	path := taken(t, s)
	other, otherAt := open(t)
	founded(t, other, "weir")
	was := tables(t, taken(t, other))
	_, err := folder(t).Restore(ctx, otherAt, path, store.Migration{}, store.Taking{}, now)
	assert.ErrorIs(t, err, store.ErrHolds)
	assert.Equal(t, was, tables(t, taken(t, other)))

	kept, err := folder(t).Restore(ctx, otherAt, path, store.Migration{}, store.Taking{Replace: true}, now)
	require.NoError(t, err)
	assert.Equal(t, was, tables(t, kept))
	assert.Equal(t, tables(t, path), tables(t, taken(t, reopen(t, otherAt))))
}

// A backup of before still has the name of whoever was forgotten since: what is restored over what
// is there forgets them again, in every row that named them.
func TestWhoWasForgottenStaysForgotten(t *testing.T) {
	s, dsn := full(t)
	p, err := s.PersonByLogin(ctx, "marl")
	require.NoError(t, err)
	mine := store.WithWorkshop(ctx, p.WorkshopID)
	party := &store.Party{ID: store.NewID(), Name: "Ines Alder", Kind: "customer", Reach: "ines at the lock", Note: "likes lavender"}
	require.NoError(t, s.Tx(mine, func(tx *store.Tx) error { return tx.AddParty(party) }))
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	named, err := conn.Exec(ctx, `update pieces set gone_on = '2026-11-01', gone_to = 'Ines Alder' where (workshop_id, id) in (select workshop_id, id from pieces where workshop_id = $1 limit 2)`, p.WorkshopID)
	require.NoError(t, err)
	require.Equal(t, int64(2), named.RowsAffected())
	path := taken(t, s)

	require.NoError(t, s.Tx(mine, func(tx *store.Tx) error { return tx.RemoveParty(party, store.Forgotten+party.ID.String()[:8], now) }))
	require.NoError(t, s.Close())
	require.NoError(t, conn.Close(ctx))
	_, err = folder(t).Restore(ctx, dsn, path, store.Migration{}, store.Taking{Replace: true}, now)
	require.NoError(t, err)
	again, err := archive.Open(taken(t, reopen(t, dsn)))
	require.NoError(t, err)
	defer again.Close()
	for _, table := range again.Manifest.Tables {
		rows, err := again.Table(table.Name)
		require.NoError(t, err)
		content, err := io.ReadAll(rows)
		require.NoError(t, err)
		assert.NotContains(t, string(content), "Ines", table.Name)
		assert.NotContains(t, string(content), "lavender", table.Name)
		if table.Name == "pieces" {
			assert.Equal(t, 2, strings.Count(string(content), store.Forgotten+party.ID.String()[:8]), "what went to them stays told")
		}
	}
}

func TestADatabaseThatIsServedIsNotReplaced(t *testing.T) {
	s, dsn := full(t)
	path := taken(t, s)
	serving, stop := context.WithCancel(ctx)
	ready, ended := make(chan struct{}), make(chan error, 1)
	go func() { ended <- s.Listen(serving, func() { close(ready) }, func(store.Change) {}) }()
	<-ready
	_, err := folder(t).Restore(ctx, dsn, path, store.Migration{}, store.Taking{Replace: true}, now)
	assert.ErrorIs(t, err, store.ErrInUse)
	stop()
	<-ended
}

// A backup is of one moment, though stock moves all the while.
func TestABackupTakenWhileWorkGoesOnAddsUp(t *testing.T) {
	s, _ := open(t)
	mine, by := founded(t, s, "marl")
	lot := stock.Lot{ID: stock.ID(store.NewID()), Code: "M-1", Item: "borax", Original: 100000, Remaining: 100000, Currency: "EUR", Received: now}
	require.NoError(t, s.Tx(mine, func(tx *store.Tx) error {
		if err := tx.PutItems(stock.Item{ID: "borax", Kind: stock.Raw, Unit: stock.InGrams}); err != nil {
			return err
		}
		return tx.AddLots([]stock.Lot{lot}, by, now)
	}))
	working, stop := context.WithCancel(mine)
	ended := make(chan int, 2)
	for range 2 {
		go func() {
			moved := 0
			for working.Err() == nil {
				if s.Tx(working, func(tx *store.Tx) error {
					return tx.Move(&stock.Movement{Lot: lot.ID, Kind: stock.Discarded, Quantity: -1, At: now}, by)
				}) == nil {
					moved++
				}
			}
			ended <- moved
		}()
	}
	var paths []string
	for range 5 {
		paths = append(paths, taken(t, s))
	}
	stop()
	assert.Positive(t, <-ended+<-ended)
	for _, path := range paths {
		elsewhere := testdb.New(t)
		_, err := folder(t).Restore(ctx, elsewhere, path, store.Migration{}, store.Taking{}, now)
		require.NoError(t, err)
		broken, err := reopen(t, elsewhere).Verify(ctx)
		require.NoError(t, err)
		assert.Empty(t, broken)
	}
}

// rewritten is a copy of an archive in which files are changed: nil leaves one out. The
// checksums are made to fit when sealed.
func rewritten(t *testing.T, path string, change func(name string, text []byte) []byte, sealed bool) string {
	t.Helper()
	in, err := zip.OpenReader(path)
	require.NoError(t, err)
	defer in.Close()
	texts := map[string][]byte{}
	for _, f := range in.File {
		r, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		if text = change(f.Name, text); text != nil {
			texts[f.Name] = text
		}
	}
	if sealed {
		var m archive.Manifest
		require.NoError(t, json.Unmarshal(texts["manifest.json"], &m))
		for i, table := range m.Tables {
			text := texts["tables/"+table.Name+".csv"]
			sum := sha256.Sum256(text)
			m.Tables[i].Bytes, m.Tables[i].SHA256 = int64(len(text)), hex.EncodeToString(sum[:])
			if rows := records(t, table.Name, text); rows >= 0 {
				m.Tables[i].Rows = rows
			}
		}
		texts["manifest.json"], err = json.Marshal(m)
		require.NoError(t, err)
	}
	out, err := os.Create(filepath.Join(t.TempDir(), "changed.zip"))
	require.NoError(t, err)
	defer out.Close()
	z := zip.NewWriter(out)
	for name, text := range texts {
		f, err := z.Create(name)
		require.NoError(t, err)
		_, err = f.Write(text)
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return out.Name()
}

// records is how many rows a table of an archive has; -1 where that is more than is worth
// counting.
func records(t *testing.T, name string, text []byte) int64 {
	t.Helper()
	if len(text) > 8<<20 {
		return -1
	}
	all, err := csv.NewReader(bytes.NewReader(text)).ReadAll()
	require.NoError(t, err, name)
	return int64(len(all) - 1)
}

// A broken or foreign archive is refused with what is wrong, before anything changes.
func TestABrokenOrForeignArchiveChangesNothing(t *testing.T) {
	s, _ := full(t)
	path := taken(t, s)
	whole, err := os.ReadFile(path)
	require.NoError(t, err)
	file := func(text []byte) string {
		name := filepath.Join(t.TempDir(), "broken.zip")
		require.NoError(t, os.WriteFile(name, text, 0o600))
		return name
	}
	in := func(file, from, to string) func(string, []byte) []byte {
		return func(name string, text []byte) []byte {
			if name != file {
				return text
			}
			changed := strings.Replace(string(text), from, to, 1)
			require.NotEqual(t, string(text), changed)
			return []byte(changed)
		}
	}
	without := func(file string) func(string, []byte) []byte {
		return func(name string, text []byte) []byte {
			if name == file {
				return nil
			}
			return text
		}
	}
	flipped := append([]byte{}, whole...)
	flipped[len(flipped)/3] ^= 4
	for what, c := range map[string]struct{ path, says string }{
		"empty":              {file(nil), "no ZIP file"},
		"text":               {file([]byte("not at all an archive")), "no ZIP file"},
		"cut off":            {file(whole[:len(whole)/2]), "cut off"},
		"a bit flipped":      {file(flipped), "cannot be read"},
		"no manifest":        {rewritten(t, path, without("manifest.json"), false), "no manifest"},
		"another's":          {rewritten(t, path, in("manifest.json", archive.Format, "other/archive"), false), "another program's"},
		"a later format":     {rewritten(t, path, in("manifest.json", `"version": 1`, `"version": 2`), false), "version 2 of the format"},
		"a row changed":      {rewritten(t, path, in("tables/lots.csv", "M-1", "M-2"), false), "table lots is not as it was written"},
		"a table missing":    {rewritten(t, path, without("tables/lots.csv"), false), "table lots is missing"},
		"a way out":          {rewritten(t, path, in("manifest.json", `"lots"`, `"../lots"`), false), "names a table"},
		"of a later version": {rewritten(t, path, in("manifest.json", `"schema": `, `"schema": 9`), true), "newer version"},
		"an unknown column":  {rewritten(t, path, in("tables/lots.csv", "code", "kode"), true), "no column kode"},
		"a file too many":    {rewritten(t, path, in("manifest.json", `"lots"`, `"lotz"`), false), "lotz is missing"},
		"a lot without its own": {rewritten(t, path, func(name string, text []byte) []byte {
			if name == "tables/items.csv" { // the heading alone
				return text[:strings.IndexByte(string(text), '\n')+1]
			}
			return text
		}, true), "do not belong together"},
		"a movement less": {rewritten(t, path, func(name string, text []byte) []byte {
			if name != "tables/movements.csv" {
				return text
			}
			lines := bytes.SplitAfter(text, []byte("\n"))
			return bytes.Join(append(lines[:3:3], lines[4:]...), nil)
		}, true), "its movements sum to"},
		"a row less than it says": {rewritten(t, path, func(name string, text []byte) []byte {
			if name == "manifest.json" {
				return regexp.MustCompile(`("name": "lots",\s*"rows": )`).ReplaceAll(text, []byte("${1}9"))
			}
			return text
		}, false), "its manifest says 9"},
		"a cell of 200 MB in little": {rewritten(t, path, longer("aaaaaaaaaa", 20<<20), true), "would grow to more than 200 times"},
		"a cell of 36 MB":            {rewritten(t, path, longer(scrambled(36<<10), 1<<10), true), "row of more than 32 MB"},
		"a number that is none":      {rewritten(t, path, in("tables/lots.csv", ",10.000,", ",ten,"), true), "table lots"},
	} {
		other, otherAt := open(t)
		founded(t, other, "weir")
		was := tables(t, taken(t, other))
		_, err := folder(t).Restore(ctx, otherAt, c.path, store.Migration{}, store.Taking{Replace: true}, now)
		assert.ErrorContains(t, err, c.says, what)
		assert.Equal(t, was, tables(t, taken(t, other)), what)
		assertNothingStaged(t, otherAt, what)
	}
}

// longer puts a text so many times into the first cell of the workshops.
func longer(text string, times int) func(string, []byte) []byte {
	return func(name string, was []byte) []byte {
		if name != "tables/workshops.csv" {
			return was
		}
		end := bytes.IndexByte(was, '\n') + 1
		return slices.Concat(was[:end], bytes.Repeat([]byte(text), times), was[end:])
	}
}

// scrambled is a text that does not shrink to nothing when it is packed.
func scrambled(length int) string {
	r := rand.New(rand.NewPCG(1, 2))
	out := make([]byte, length)
	for i := range out {
		out[i] = "0123456789abcdef"[r.IntN(16)]
	}
	return string(out)
}

// What does not add up is taken in where that is said, and only there; each table that is
// in is told, and each file of an archive says when it was made.
func TestAnArchiveThatDoesNotAddUpIsTakenInOnlyAsItIs(t *testing.T) {
	s, _ := full(t)
	path := taken(t, s)
	unsound := rewritten(t, path, func(name string, text []byte) []byte {
		if name != "tables/movements.csv" {
			return text
		}
		return text[:bytes.IndexByte(text, '\n')+1]
	}, true)
	elsewhere := testdb.New(t)
	_, err := folder(t).Restore(ctx, elsewhere, unsound, store.Migration{}, store.Taking{}, now)
	require.ErrorIs(t, err, store.ErrUnsound)
	assert.Regexp(t, `and \d+ more`, err.Error(), "not a page of it")
	_, err = store.Open(ctx, elsewhere)
	require.ErrorIs(t, err, store.ErrNotMigrated, "nothing came of it")
	told := map[string]int64{}
	_, err = folder(t).Restore(ctx, elsewhere, unsound, store.Migration{}, store.Taking{AsItIs: true, Told: func(table string, rows int64) { told[table] = rows }}, now)
	require.NoError(t, err)
	broken, err := reopen(t, elsewhere).Verify(ctx)
	require.NoError(t, err)
	assert.NotEmpty(t, broken)
	assert.Equal(t, int64(2), told["workshops"])

	z, err := zip.OpenReader(path)
	require.NoError(t, err)
	defer z.Close()
	for _, f := range z.File {
		assert.WithinDuration(t, now, f.Modified, 2*time.Second, f.Name)
	}
}

func assertNothingStaged(t *testing.T, dsn, what string) {
	t.Helper()
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	var left int
	require.NoError(t, conn.QueryRow(ctx, "select count(*) from pg_namespace where nspname like 'keencrock%'").Scan(&left))
	assert.Zero(t, left, what)
}

func TestOneWorkshopMovesToAnotherServerAndNothingElseWithIt(t *testing.T) {
	s, dsn := full(t)
	p, err := s.PersonByLogin(ctx, "marl")
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "marl.zip")
	name, err := backup.ExportTo(store.WithWorkshop(ctx, p.WorkshopID), s, path, "test", now)
	require.NoError(t, err)
	assert.Contains(t, name, "marl's")
	was := tables(t, path)
	assert.Equal(t, int64(1), was["workshops"].Rows)
	assert.Equal(t, int64(1), was["people"].Rows)
	text := allOf(t, path)
	assert.NotContains(t, text, "secret of")
	assert.NotContains(t, text, "quay")

	// where it came from it is still
	_, _, err = backup.Import(ctx, dsn, path, store.Migration{}, store.Taking{})
	assert.ErrorIs(t, err, store.ErrTaken)

	other, otherAt := open(t)
	founded(t, other, "weir")
	testdb.Grow(t, otherAt, 20, 5)
	id, name, err := backup.Import(ctx, otherAt, path, store.Migration{}, store.Taking{})
	require.NoError(t, err)
	assert.Equal(t, p.WorkshopID, id)
	assert.Contains(t, name, "marl's")
	again := filepath.Join(t.TempDir(), "again.zip")
	_, err = backup.ExportTo(store.WithWorkshop(ctx, id), other, again, "test", now)
	require.NoError(t, err)
	assert.Equal(t, was, tables(t, again))
	assertNothingStaged(t, otherAt, "imported")

	// a sign-in name that is in use is said, and nothing comes
	third, thirdAt := open(t)
	founded(t, third, "marl")
	here := tables(t, taken(t, third))
	_, _, err = backup.Import(ctx, thirdAt, path, store.Migration{}, store.Taking{})
	assert.ErrorContains(t, err, "sign-in name marl")
	assert.Equal(t, here, tables(t, taken(t, third)))

	// each kind of archive is taken in by its own command
	_, err = folder(t).Restore(ctx, thirdAt, path, store.Migration{}, store.Taking{Replace: true}, now)
	assert.ErrorContains(t, err, "keencrock import")
	_, _, err = backup.Import(ctx, thirdAt, taken(t, s), store.Migration{}, store.Taking{})
	assert.ErrorContains(t, err, "keencrock restore")
}

func allOf(t *testing.T, path string) string {
	t.Helper()
	z, err := zip.OpenReader(path)
	require.NoError(t, err)
	defer z.Close()
	var all strings.Builder
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		_, err = io.Copy(&all, r)
		require.NoError(t, err)
	}
	return all.String()
}

// Whatever breaks off while a backup is written, no half of one stands there.
func TestABackupIsWrittenWholeOrNotAtAll(t *testing.T) {
	s, _ := full(t)
	f := folder(t)
	ended, cancel := context.WithCancel(ctx)
	cancel()
	_, err := f.Take(ended, s, "keencrock", now)
	assert.Error(t, err)
	left, err := os.ReadDir(f.Path)
	require.NoError(t, err)
	assert.Empty(t, left)

	path, err := f.Take(ctx, s, "keencrock", now)
	require.NoError(t, err)
	info, err := os.Stat(path)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "nobody else reads it")
	assert.ErrorContains(t, f.TakeTo(ctx, s, path, now), "is there already")

	// a disk that is full at any moment
	w := archive.To(&short{left: 700}, archive.Manifest{Kind: archive.Server})
	_, err = s.Dump(ctx, w)
	if err == nil {
		err = w.Close(1)
	}
	assert.ErrorIs(t, err, io.ErrShortWrite)
}

// short is a disk with so much space left.
type short struct{ left int }

func (s *short) Write(p []byte) (int, error) {
	if s.left -= len(p); s.left < 0 {
		return 0, io.ErrShortWrite
	}
	return len(p), nil
}

func TestNightlyBackupsAreTakenOnceKeptAndCaughtUpWith(t *testing.T) {
	s, dsn := full(t)
	clock := time.Date(2026, 11, 20, 2, 0, 0, 0, time.Local)
	at, err := backup.ParseAt("03:00")
	require.NoError(t, err)
	_, err = backup.ParseAt("3 in the morning")
	assert.ErrorContains(t, err, "03:00")
	n := backup.Nightly{Folder: folder(t), Keep: 3, At: at, Now: func() time.Time { return clock }}
	second := n
	other := reopen(t, dsn)
	count := func() int {
		files, err := filepath.Glob(filepath.Join(n.Folder.Path, "night-*.zip"))
		require.NoError(t, err)
		return len(files)
	}
	look := func() {
		require.NoError(t, n.Once(ctx, s))
		require.NoError(t, second.Once(ctx, other))
	}
	look()
	assert.Equal(t, 1, count(), "last night's was missed, and two processes take one")
	look()
	assert.Equal(t, 1, count())
	clock = clock.Add(59 * time.Minute)
	look()
	assert.Equal(t, 1, count(), "not yet")
	for day := range 5 {
		clock = time.Date(2026, 11, 20+day, 3, 1, 0, 0, time.Local)
		look()
		assert.Equal(t, min(2+day, 3), count())
	}

	// one that fails is noted, tried again, and keeps the others
	clock = clock.AddDate(0, 0, 1)
	whole := n.Folder.Path
	n.Folder.Path = filepath.Join(whole, "taken", "by a file")
	require.NoError(t, os.WriteFile(filepath.Join(whole, "taken"), nil, 0o600))
	assert.Error(t, n.Once(ctx, s))
	kept, err := s.Upkeep(ctx, "backup")
	require.NoError(t, err)
	assert.NotEmpty(t, kept.Failed)
	n.Folder.Path = whole
	require.NoError(t, n.Once(ctx, s))
	kept, err = s.Upkeep(ctx, "backup")
	require.NoError(t, err)
	assert.Empty(t, kept.Failed)
	assert.Equal(t, 3, count())
}
