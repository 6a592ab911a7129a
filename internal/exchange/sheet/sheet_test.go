package sheet_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"keencrock/internal/exchange/sheet"
)

var day = time.Date(2026, 5, 4, 0, 0, 0, 0, time.UTC)

// What is written is read again: numbers as numbers, days as days.
func TestAWorkbookIsReadBack(t *testing.T) {
	var b bytes.Buffer
	table := sheet.Table{Name: "Sales: all/any", Head: []string{"day", "good", "jars", "price"}, Rows: [][]any{{day, "Towpath", 3, decimal.RequireFromString("4.50")}, {time.Time{}, "=1+1", 0, nil}}}
	require.NoError(t, sheet.XLSX(&b, table))
	g, err := sheet.Read(b.Bytes())
	require.NoError(t, err)
	assert.Equal(t, "Sales  all any", g.Sheet)
	assert.Equal(t, []string{"day", "good", "jars", "price"}, g.Head)
	assert.Equal(t, []string{"46146", "Towpath", "3", "4.5"}, g.Rows[0])
	got, err := sheet.Day(g.Rows[0][0], g.Days1904)
	require.NoError(t, err)
	assert.Equal(t, day, got)
	assert.Equal(t, "=1+1", g.Rows[1][1], "a text, and no formula")
	b.Reset()
	require.NoError(t, sheet.CSV(&b, &table))
	g, err = sheet.Read(b.Bytes())
	require.NoError(t, err)
	assert.Equal(t, []string{"2026-05-04", "Towpath", "3", "4.5"}, g.Rows[0])
	assert.Equal(t, "=1+1", g.Rows[1][1])
}

// A sheet that cannot be read says why.
func TestWhatCannotBeReadIsSaid(t *testing.T) {
	book := func(f func(*excelize.File)) []byte {
		x := excelize.NewFile()
		defer x.Close()
		require.NoError(t, x.SetSheetRow("Sheet1", "A1", &[]any{"name", "jars"}))
		require.NoError(t, x.SetSheetRow("Sheet1", "A2", &[]any{"Towpath", 2}))
		f(x)
		var b bytes.Buffer
		require.NoError(t, x.Write(&b))
		return b.Bytes()
	}
	bomb := func() []byte {
		var b bytes.Buffer
		z := zip.NewWriter(&b)
		w, err := z.Create("xl/worksheets/sheet1.xml")
		require.NoError(t, err)
		zeros := make([]byte, 1<<20)
		for range 130 {
			_, err = w.Write(zeros)
			require.NoError(t, err)
		}
		require.NoError(t, z.Close())
		return b.Bytes()
	}
	locked := func() []byte {
		x := excelize.NewFile()
		defer x.Close()
		var b bytes.Buffer
		require.NoError(t, x.Write(&b, excelize.Options{Password: "a password"}))
		return b.Bytes()
	}
	many := "name\n" + strings.Repeat("x\n", sheet.MostRows+1)
	for code, data := range map[string][]byte{
		"empty":    []byte(" \n"),
		"broken":   []byte("PK\x03\x04 and nothing more"),
		"merged":   book(func(x *excelize.File) { require.NoError(t, x.MergeCell("Sheet1", "A2", "A3")) }),
		"formula":  book(func(x *excelize.File) { require.NoError(t, x.SetCellFormula("Sheet1", "B3", "=B2*2")) }),
		"bomb":     bomb(),
		"locked":   locked(),
		"too-many": []byte(many),
	} {
		_, err := sheet.Read(data)
		var u *sheet.Unreadable
		require.ErrorAs(t, err, &u, code)
		assert.Equal(t, code, u.Code)
		assert.NotEmpty(t, u.Detail)
	}
	g, err := sheet.Read([]byte("name;jars\nTow;1\n"))
	require.NoError(t, err)
	assert.Equal(t, []string{"name", "jars"}, g.Head)
	g, err = sheet.Read([]byte("name\nCaf\xe9\n"))
	require.NoError(t, err)
	assert.Equal(t, "Café", g.Rows[0][0], "Windows-1252")
	assert.Equal(t, 2, g.First)
	assert.Equal(t, "B7", sheet.Cell(1, 7))
}

func TestDays(t *testing.T) {
	for text, want := range map[string]string{"2026-05-04": "2026-05-04", "4.5.2026": "2026-05-04", "46146": "2026-05-04", "46146.75": "2026-05-04", "4 May 2026": "2026-05-04", "5/31/2026": "2026-05-31", "31/5/2026": "2026-05-31", "4/4/2026": "2026-04-04"} {
		got, err := sheet.Day(text, false)
		require.NoError(t, err, text)
		assert.Equal(t, want, got.Format(time.DateOnly), text)
	}
	for _, bad := range []string{"4/5/2026", "soon", "", "12", "2026-13-01"} {
		_, err := sheet.Day(bad, false)
		assert.Error(t, err, bad)
	}
}

func BenchmarkXLSXOf20000(b *testing.B) {
	t := sheet.Table{Name: "many", Head: []string{"day", "good", "outlet", "jars", "price", "cost"}}
	for i := range 20_000 {
		t.Rows = append(t.Rows, []any{day, fmt.Sprintf("Good %d", i%30), "stall", i % 9, decimal.New(int64(i), -2), decimal.New(int64(i), -2)})
	}
	b.ReportAllocs()
	for b.Loop() {
		var out bytes.Buffer
		if err := sheet.XLSX(&out, t); err != nil {
			b.Fatal(err)
		}
	}
}

func TestWhatACellIs(t *testing.T) {
	for text, want := range map[string]any{
		"": nil, "12.50": decimal.RequireFromString("12.50"), "-2.5": -2.5, "3": 3.0, "2027-06-30": time.Date(2027, 6, 30, 0, 0, 0, 0, time.UTC),
		"D260601": "D260601", "1e5": "1e5", "2027-13-40": "2027-13-40", "=1+1": "=1+1",
	} {
		assert.Equal(t, want, sheet.Typed(text), text)
	}
}
