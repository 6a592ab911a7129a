// Package sheet writes tables for spreadsheets: as XLSX, with numbers as numbers and dates
// as dates, and as CSV.
package sheet

import (
	"encoding/csv"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/shopspring/decimal"
	"github.com/xuri/excelize/v2"
)

// Table is a list with a head. A cell is a string, an int, a float64, a decimal or a
// time (a day); nil is empty.
type Table struct {
	Name string // of the sheet
	Head []string
	Rows [][]any
}

const (
	dayFormat   = "yyyy-mm-dd"
	moneyFormat = "#,##0.00"
)

// XLSX writes tables as a workbook, a sheet each, row by row.
func XLSX(w io.Writer, tables ...Table) error {
	f := excelize.NewFile()
	defer f.Close()
	styles := make([]int, 3)
	for i, s := range []*excelize.Style{{CustomNumFmt: of(dayFormat)}, {CustomNumFmt: of(moneyFormat)}, {Font: &excelize.Font{Bold: true}}} {
		id, err := f.NewStyle(s)
		if err != nil {
			return err
		}
		styles[i] = id
	}
	for i, t := range tables {
		name := sheetName(t.Name, i)
		if i == 0 {
			if err := f.SetSheetName("Sheet1", name); err != nil {
				return err
			}
		} else if _, err := f.NewSheet(name); err != nil {
			return err
		}
		if err := write(f, name, &t, styles); err != nil {
			return fmt.Errorf("sheet %s: %w", name, err)
		}
	}
	return f.Write(w)
}

func of(s string) *string { return &s }

// sheetName is a name that a sheet may have: 31 letters, without some signs.
func sheetName(name string, i int) string {
	name = strings.NewReplacer(":", " ", "\\", " ", "/", " ", "?", " ", "*", " ", "[", "(", "]", ")").Replace(name)
	if letters := []rune(name); len(letters) > 31 {
		name = string(letters[:31])
	}
	if name = strings.Trim(name, "' "); name == "" {
		return "Sheet " + strconv.Itoa(i+1)
	}
	return name
}

func write(f *excelize.File, name string, t *Table, styles []int) error {
	out, err := f.NewStreamWriter(name)
	if err != nil {
		return err
	}
	for i := range t.Head {
		if err := out.SetColWidth(i+1, i+1, wide(t, i)); err != nil {
			return err
		}
	}
	if err := out.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	head := make([]any, len(t.Head))
	for i, h := range t.Head {
		head[i] = excelize.Cell{StyleID: styles[2], Value: h}
	}
	if err := out.SetRow("A1", head); err != nil {
		return err
	}
	row := make([]any, len(t.Head))
	for i, cells := range t.Rows {
		row = row[:0]
		for _, c := range cells {
			row = append(row, cell(c, styles))
		}
		if err := out.SetRow("A"+strconv.Itoa(i+2), row); err != nil {
			return err
		}
	}
	return out.Flush()
}

func cell(c any, styles []int) any {
	switch v := c.(type) {
	case decimal.Decimal:
		return excelize.Cell{StyleID: styles[1], Value: v.InexactFloat64()}
	case time.Time:
		if v.IsZero() {
			return nil
		}
		return excelize.Cell{StyleID: styles[0], Value: v}
	}
	return c
}

// Typed is a text as the number or the day that it writes, in figures with a point and as
// 2027-06-30; the text where it writes neither, nil where it is empty.
func Typed(text string) any {
	if text == "" {
		return nil
	}
	if day, err := time.Parse(time.DateOnly, text); err == nil {
		return day
	}
	d, err := decimal.NewFromString(text)
	switch {
	case err != nil || strings.ContainsAny(text, "eE"):
		return text
	case d.Exponent() == -2: // money
		return d
	}
	return d.InexactFloat64()
}

// Widths of columns, in letters: by what stands in their first rows.
const (
	narrow, broad = 8, 46
	looksAt       = 200
)

func wide(t *Table, column int) float64 {
	n := len([]rune(t.Head[column]))
	for _, row := range t.Rows[:min(len(t.Rows), looksAt)] {
		if column < len(row) {
			n = max(n, len([]rune(text(row[column]))))
		}
	}
	return float64(min(broad, max(narrow, n+2)))
}

// text is a cell as CSV has it.
func text(c any) string {
	switch v := c.(type) {
	case nil:
		return ""
	case string:
		return v
	case int:
		return strconv.Itoa(v)
	case float64:
		return strconv.FormatFloat(v, 'f', -1, 64)
	case decimal.Decimal:
		return v.String()
	case time.Time:
		if v.IsZero() {
			return ""
		}
		return v.Format(time.DateOnly)
	}
	return fmt.Sprint(c)
}

// CSV writes a table as CSV (RFC 4180), with a mark in front by which spreadsheets know
// that it is UTF-8. A text that a spreadsheet would reckon out is kept a text.
func CSV(w io.Writer, t *Table) error {
	if _, err := io.WriteString(w, "\ufeff"); err != nil {
		return err
	}
	out := csv.NewWriter(w)
	out.UseCRLF = true
	if err := out.Write(t.Head); err != nil {
		return err
	}
	row := make([]string, len(t.Head))
	for _, cells := range t.Rows {
		row = row[:0]
		for _, c := range cells {
			s := text(c)
			if said, is := c.(string); is {
				s = Guard(said)
			}
			row = append(row, s)
		}
		if err := out.Write(row); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// runs are the letters at which a spreadsheet takes a cell for a formula.
const runs = "=+-@\t\r"

// Guard keeps a spreadsheet from running text as a formula, and [Unguard] gives
// back what was guarded. What looks guarded already is guarded once more.
func Guard(s string) string {
	if strings.ContainsRune(runs, first(strings.TrimLeft(s, "'"))) {
		return "'" + s
	}
	return s
}

// Unguard gives back what [Guard] guarded.
func Unguard(s string) string {
	if rest, ok := strings.CutPrefix(s, "'"); ok && strings.ContainsRune(runs, first(strings.TrimLeft(rest, "'"))) {
		return rest
	}
	return s
}

// first is the first letter of a text; one that is none of an empty one.
func first(s string) rune {
	for _, r := range s {
		return r
	}
	return utf8.RuneError
}
